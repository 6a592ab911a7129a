package pantry

import (
	"context"
	"encoding/json"
	"fmt"
	"math"
	"strings"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/assess"
	"keencrock/core/dosing"
	"keencrock/core/formula"
	"keencrock/core/quantity"
	"keencrock/core/safety"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// machinesOf are the machines of a workshop: its own, else the usual ones, whose water
// it may have measured.
func machinesOf(w *store.Workshop) (machines []dosing.Machine, own bool, err error) {
	var kept []api.Machine
	if len(w.Machines) > 0 {
		if err := json.Unmarshal(w.Machines, &kept); err != nil {
			return nil, false, fmt.Errorf("the machines of a workshop: %w", err)
		}
	}
	for _, k := range kept {
		machines = append(machines, dosing.Machine{ID: k.Id, Name: k.Name, UsedOn: string(k.UsedOn), WaterL: k.WaterL})
	}
	if len(machines) > 0 {
		return machines, true, nil
	}
	return dosing.UsualMachines(w.LaundryWaterL, w.DishesWaterL), false, nil
}

// Machines lists what goods are used in.
func (s *Service) Machines(ctx context.Context) ([]api.Machine, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	w, err := s.Store.Read(ctx).Workshop()
	if err != nil {
		return nil, err
	}
	return machineList(w)
}

func machineList(w *store.Workshop) ([]api.Machine, error) {
	machines, _, err := machinesOf(w)
	out := make([]api.Machine, len(machines))
	for i, m := range machines {
		out[i] = api.Machine{Id: m.ID, Name: m.Name, UsedOn: api.MachineUsedOn(m.UsedOn), WaterL: m.WaterL}
	}
	return out, err
}

// SaveMachines keeps what goods are used in here; none goes back to the usual ones.
func (s *Service) SaveMachines(ctx context.Context, in []api.Machine) ([]api.Machine, error) {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return nil, err
	}
	seen := map[string]bool{}
	for i := range in {
		m := dosing.Machine{ID: in[i].Id, Name: strings.TrimSpace(in[i].Name), UsedOn: string(in[i].UsedOn), WaterL: in[i].WaterL}
		if err := m.Check(); err != nil {
			return nil, problem.Unfit("bad-value", "%v.", err).At(fmt.Sprintf("%d.water_l", i))
		}
		if in[i].Id == "" {
			in[i].Id = dosing.MachineID(m.Name)
		}
		if seen[in[i].Id] {
			return nil, problem.Unfit("bad-value", "There are two machines called %s.", m.Name).At(fmt.Sprintf("%d.name", i))
		}
		seen[in[i].Id] = true
	}
	var out []api.Machine
	err := s.Store.Tx(ctx, func(tx *store.Tx) error {
		w, err := tx.Workshop()
		if err != nil {
			return err
		}
		if w.Machines, err = json.Marshal(append([]api.Machine{}, in...)); err != nil {
			return err
		}
		if err := tx.SaveWorkshop(w); err != nil {
			return tenant.Explain(err, "workshop")
		}
		if out, err = machineList(w); err != nil {
			return err
		}
		return tx.Announce("workshop", nil)
	})
	return out, err
}

// doses is the table of a good as it was made, for one water; nil for that of the
// workshop.
func (m *made) doses(hardness *quantity.Hardness, soil dosing.Soil, load float64) ([]api.DoseRow, error) {
	h := m.set.Water().Hardness
	if hardness != nil {
		h = *hardness
	}
	return m.dosesIn([]quantity.Hardness{h}, soil, load)
}

func (m *made) dosesIn(hardnesses []quantity.Hardness, soil dosing.Soil, load float64) ([]api.DoseRow, error) {
	machines, _, err := machinesOf(m.set.Workshop)
	if err != nil {
		return nil, err
	}
	r := formula.Resolve(m.Formula, m.Library, m.set.Tools())
	o := exchange.DoseOptions(m.Written)
	o.TotalG, o.ScoopML, o.Wants = m.eachG(), m.set.Tools().ScoopML.Value, dosing.Voice(m.set.Workshop.LabelDose)
	if m.loads > 0 {
		o.CountedG, o.CountedLoads = m.loadsG/m.loads, m.loads
	}
	var where []dosing.Where
	for _, machine := range dosing.MachinesFor(m.Formula.Kind, machines) {
		for _, h := range hardnesses {
			where = append(where, dosing.Where{Machine: machine, Hardness: h, Soil: soil, Load: load})
		}
	}
	rows, err := dosing.Table(r, where, o)
	if err != nil {
		return nil, problem.Unfit("no-dose", "%v.", err)
	}
	out := exchange.DoseRows(rows, m.Formula.Measures)
	if m.lot.Original > 0 {
		perG := m.lot.Landed.Div(decimal.NewFromFloat(m.lot.Original))
		for i := range out {
			if out[i].Grams > 0 {
				out[i].CostPerUse = perG.Mul(decimal.NewFromFloat(out[i].Grams)).StringFixed(4)
			}
		}
	}
	return out, nil
}

// DoseQuery says which doses are wanted.
type DoseQuery struct {
	Hardness, Soil string
	Load           float64
}

// Doses says how much of a good to use.
func (s *Service) Doses(ctx context.Context, batch uuid.UUID, q DoseQuery) (*api.DoseTable, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	soil, err := dosing.ParseSoil(q.Soil)
	if err != nil {
		return nil, problem.Unfit("bad-value", "%v.", err).At("soil")
	}
	var out *api.DoseTable
	err = s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		m, err := s.made(tx, batch)
		if err != nil {
			return err
		}
		hardnesses := []quantity.Hardness{m.set.Water().Hardness}
		if q.Hardness != "" {
			h, err := quantity.ParseHardness(q.Hardness)
			if err != nil {
				return problem.Unfit("bad-value", "%v.", err).At("hardness")
			}
			hardnesses[0] = h
		} else {
			for _, mg := range dosing.TableWaters {
				hardnesses = append(hardnesses, quantity.HardnessOfMGPerL(mg))
			}
		}
		rows, err := m.dosesIn(hardnesses, soil, q.Load)
		if err != nil {
			return err
		}
		_, own, err := machinesOf(m.set.Workshop)
		if err != nil {
			return err
		}
		out = &api.DoseTable{Rows: rows, Soil: api.DoseTableSoil(soil), OwnMachines: own, Currency: m.row.Currency}
		if out.Counted, err = counted(tx, m); err != nil {
			return err
		}
		if len(rows) > 0 {
			out.RefillDays, _ = dosing.RefillDays(m.Formula.Kind, rows[0].Grams, m.DensityGPerML())
		}
		return nil
	})
	return out, err
}

// counted is what loads that were counted say of a good.
func counted(tx *store.Tx, m *made) (out api.TrueDose, err error) {
	loads, grams, err := tx.LoadsCounted(m.row.FormulaID)
	if err != nil || loads == 0 {
		return out, err
	}
	out = api.TrueDose{Loads: loads, Grams: grams, GramsPerLoad: grams / loads}
	r := formula.Resolve(m.Formula, m.Library, m.set.Tools())
	if d := r.Density(); d > 0 {
		scoop, _ := quantity.NearestScoop(out.GramsPerLoad/d, m.Formula.Measures)
		out.Measure = scoop.String()
	}
	return out, nil
}

// CountLoads keeps how many loads so much of a good gave.
func (s *Service) CountLoads(ctx context.Context, batch uuid.UUID, in api.LoadsCount) (*api.TrueDose, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	if !(in.Loads > 0) || math.IsInf(in.Loads, 0) {
		return nil, problem.Unfit("bad-value", "Count at least one load.").At("loads")
	}
	var out api.TrueDose
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		m, err := s.made(tx, batch)
		if err != nil {
			return err
		}
		grams := in.Grams
		if grams == 0 {
			grams = m.eachG()
		}
		if grams > m.lot.Original+0.5 {
			return problem.Unfit("bad-value", "All of %s was %.0f g: so many loads cannot have taken %.0f g.", m.row.Code, m.lot.Original, grams).At("grams")
		}
		row := &store.CountedLoads{ID: store.NewID(), MakingID: m.row.ID, FormulaID: m.row.FormulaID, Loads: in.Loads, Grams: grams, PersonID: a.Person, At: s.Now()}
		if err := tx.AddCountedLoads(row); err != nil {
			return err
		}
		if out, err = counted(tx, m); err != nil {
			return err
		}
		return tx.Announce("pantry", m.row.ID)
	})
	return &out, err
}

// Dilute fills a bottle with a dilution of a good.
func (s *Service) Dilute(ctx context.Context, batch uuid.UUID, in api.DilutionWish) (*api.Dilution, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	var out *api.Dilution
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		m, err := s.made(tx, batch)
		if err != nil {
			return err
		}
		out, err = m.dilute(&in)
		return err
	})
	return out, err
}

func (m *made) dilute(in *api.DilutionWish) (*api.Dilution, error) {
	r := formula.Resolve(m.Formula, m.Library, m.set.Tools())
	density := r.Density()
	h := quantity.Handling{Measures: m.set.Measures, DensityGPerML: quantity.Exactly(density), DropML: m.set.Tools().DropML, ScoopML: m.set.Tools().ScoopML, Own: m.set.Sizes}
	d, err := dosing.ParseDilution(in.Said, h)
	if err != nil {
		return nil, problem.Unfit("bad-value", "%v.", err).At("said")
	}
	volume := func(field, text string) (float64, error) {
		a, err := quantity.Parse(text)
		if err != nil {
			return 0, problem.Unfit("bad-value", "%v.", err).At(field)
		}
		ml, ok := a.Millilitres(h)
		if !ok || ml.Value <= 0 {
			return 0, problem.Unfit("bad-value", "“%s” is no volume: write such as 500 ml.", text).At(field)
		}
		return ml.Value, nil
	}
	bottle, err := volume("bottle", in.Bottle)
	if err != nil {
		return nil, err
	}
	inside, strength := 0.0, 0.0
	if in.Inside != "" {
		if inside, err = volume("inside", in.Inside); err != nil {
			return nil, err
		}
		if in.InsideSaid != "" {
			was, err := dosing.ParseDilution(in.InsideSaid, h)
			if err != nil {
				return nil, problem.Unfit("bad-value", "%v.", err).At("inside_said")
			}
			strength = was.Share
		}
	}
	f, err := d.Fill(bottle, inside, strength, h)
	if err != nil {
		return nil, problem.Unfit("bad-value", "%v.", err).At("bottle")
	}
	out := &api.Dilution{Share: d.Share, BottleMl: bottle, GoodMl: f.GoodML, GoodG: f.GoodML * density, WaterMl: f.WaterML, Measure: f.Measure.String(), Drops: f.Drops, PourOutMl: f.PourOutML,
		Turned: d.Turned, Cautions: []api.Caution{}}
	out.Parts, out.InAll, out.Percent, out.PerLitre = d.Words()
	out.Says = sayFilling(f, out)
	water := &assess.Water{Hardness: m.set.Water().Hardness, GramsPerLitre: d.GramsPerLitre(density)}
	if water.GramsPerLitre == 0 {
		water.Strength = "neat"
	}
	a := m.Assess(m.set, water)
	if ph := a.UsePH(); ph.Known {
		out.Ph = ph.Value
	}
	out.KeepsDays = dosing.BottleDays(d.Share, dosing.Keeping{Good: a.Keeping.Days, Thinned: a.DilutedDays, Liquid: a.State == formula.WetState,
		Dated: !m.lot.BestBefore.IsZero(), Left: int(m.lot.BestBefore.Sub(m.set.Today).Hours() / 24)})
	for _, c := range exchange.Cautions(a.Cautions) {
		if string(c.Of) == string(safety.OfUse) || d.Share > 0.5 {
			out.Cautions = append(out.Cautions, c)
		}
	}
	return out, nil
}

// sayFilling says how to fill a bottle.
func sayFilling(f dosing.Filling, out *api.Dilution) string {
	var parts []string
	if f.PourOutML >= 0.5 {
		parts = append(parts, fmt.Sprintf("Pour out %.0f ml first.", f.PourOutML))
	}
	switch {
	case f.GoodML == 0:
		parts = append(parts, fmt.Sprintf("Fill up with %.0f ml of water.", f.WaterML))
	case f.Drops > 0:
		parts = append(parts, fmt.Sprintf("%.0f drops (%.1f ml), then %.0f ml of water.", f.Drops, f.GoodML, f.WaterML))
	default:
		parts = append(parts, fmt.Sprintf("%.0f ml (%s), then %.0f ml of water.", f.GoodML, out.Measure, f.WaterML))
	}
	if out.Turned {
		parts = append(parts, "Read as the larger part being water.")
	}
	return strings.Join(parts, " ")
}
