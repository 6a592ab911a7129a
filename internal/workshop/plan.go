package workshop

import (
	"context"
	"encoding/json"
	"errors"
	"net/http"
	"time"

	"github.com/google/uuid"
	"github.com/oapi-codegen/runtime/types"
	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/assess"
	"keencrock/core/costing"
	"keencrock/core/formula"
	"keencrock/core/keeping"
	"keencrock/core/quantity"
	"keencrock/internal/exchange"
	"keencrock/internal/store"
)

// unstocked is the material that comes from the tap.
const unstocked = "water"

// planned is a batch sized and allotted, with all that went into it.
type planned struct {
	set        *settings
	stored     *api.StoredFormula
	assessed   *assess.Assessment
	plan       *formula.Plan
	said       []string
	draws      []costing.Draw
	shorts     []costing.Short
	lots       map[string]*store.Lot // by id
	containers api.Containers
	eachG      float64 // what one container holds, 0 without containers
}

// Plan sizes a batch and says which lots it would take; nothing is stored.
func (s *Service) Plan(ctx context.Context, id uuid.UUID, target api.Target) (*api.Plan, error) {
	if _, err := may(ctx, Viewer); err != nil {
		return nil, err
	}
	var out *api.Plan
	err := s.store.Snapshot(ctx, func(tx *store.Tx) error {
		p, err := s.plan(tx, id, target)
		if err == nil {
			out = s.planOf(p)
		}
		return err
	})
	return out, err
}

func (s *Service) plan(tx *store.Tx, id uuid.UUID, target api.Target) (*planned, error) {
	p := &planned{lots: map[string]*store.Lot{}}
	var err error
	if p.set, err = s.settings(tx); err != nil {
		return nil, err
	}
	if p.stored, err = storedFormula(tx, id, target.Version); err != nil {
		return nil, err
	}
	f, unread := exchange.ToFormula(&p.stored.File)
	if len(unread) > 0 {
		return nil, api.Refused("bad-formula", unread[0].Detail, unread)
	}
	f.MeasuredPH = nil // of what was made before
	p.assessed = assess.Formula(f, p.set.lib, assess.Options{Workshop: p.set.tools()})
	stock, err := tx.Stock(materialsOf(&p.stored.File, p.set.lib)...)
	if err != nil {
		return nil, err
	}
	lots := make([]costing.Lot, len(stock))
	for i := range stock {
		lots[i] = costingLot(&stock[i])
		p.lots[lots[i].ID] = &stock[i]
	}
	if err := p.size(target, lots, s.today()); err != nil {
		return nil, err
	}
	p.said = p.plan.RoundTo(p.set.workshop.ScaleStepG, p.assessed.Resolved)
	if p.containers.Count > 0 {
		p.eachG = p.plan.NetG / float64(p.containers.Count)
	}
	var needs []costing.Need
	for i, l := range p.plan.Lines {
		if l.Material != unstocked {
			needs = append(needs, costing.Need{Line: i, Material: l.Material, Grams: l.MassG})
		}
	}
	p.draws, p.shorts = costing.Allocate(needs, lots, s.today())
	return p, nil
}

func (p *planned) size(target api.Target, lots []costing.Lot, today time.Time) error {
	bad := func(field string, err error) error {
		problem := exchange.FieldProblem(field, err)
		problem.Code = "bad-target"
		return &problem
	}
	t := formula.Target{Factor: target.Factor, Pieces: target.Pieces, Uses: target.Uses}
	tools := p.set.tools()
	measures := quantity.Handling{Measures: p.assessed.Resolved.Formula.Measures, Liquid: p.assessed.State == formula.WetState, Own: tools.Own}
	amount := func(field, written string) (g, ml float64, err error) {
		a, err := quantity.Parse(written)
		if err != nil {
			return 0, 0, bad(field, err)
		}
		if mass, ok := a.MassOnly(); ok && !(measures.Liquid && a.Unit() == quantity.Ounce) {
			return mass.Value, 0, nil
		}
		if volume, ok := a.Millilitres(measures); ok {
			return 0, volume.Value, nil
		}
		return 0, 0, bad(field, errors.New("expected a mass or a volume, such as 700 g or 500 ml"))
	}
	var err error
	if target.Amount != "" {
		if t.MassG, t.VolumeML, err = amount("amount", target.Amount); err != nil {
			return err
		}
	}
	if c := target.Containers; c.Count != 0 || c.Each != "" {
		if c.Fill == 0 {
			c.Fill = 1
		}
		t.Containers = formula.Containers{Count: c.Count, FillShare: c.Fill}
		if t.Containers.EachG, t.Containers.EachML, err = amount("containers.each", c.Each); err != nil {
			return err
		}
		p.containers = c
	}
	if target.Scarcest {
		t.Scarcest = map[string]float64{}
		for i := range lots {
			if !lots[i].Unusable && !lots[i].PastOn(today) {
				t.Scarcest[lots[i].Material] += lots[i].RemainingG
			}
		}
	}
	if p.plan, err = p.assessed.Resolved.Scale(t); err != nil {
		return bad("target", err)
	}
	return nil
}

func (s *Service) planOf(p *planned) *api.Plan {
	r := p.assessed.Resolved
	out := &api.Plan{Formula: p.stored.Id, Version: p.stored.Version, Factor: p.plan.Factor, LimitedBy: p.plan.LimitedBy,
		TotalG: p.plan.TotalG, NetG: p.plan.NetG, Uses: p.plan.Uses, Pieces: p.plan.Pieces, Containers: p.containers,
		Currency: p.set.workshop.Currency, Said: append([]string{}, p.said...), Short: len(p.shorts) > 0,
		Lines: make([]api.PlanLine, len(p.plan.Lines))}
	for i, l := range p.plan.Lines {
		m := r.Lines[l.Line].Material
		line := api.PlanLine{Line: i, Material: m.ID, Name: m.Name, MassG: l.MassG, Draws: []api.PlanDraw{}, Unstocked: m.ID == unstocked,
			Hand: l.Hand.String(), Open: l.Open.String()}
		if scoop, relErr, ok := r.Lines[l.Line].ScoopFor(l.MassG, r.Formula.Measures); ok {
			line.Scoop = api.Scoop{Amount: scoop.String(), Error: relErr}
		}
		out.Lines[i] = line
	}
	total := decimal.Zero
	for _, d := range p.draws {
		lot := p.lots[d.Lot]
		total = total.Add(d.Cost)
		out.Lines[d.Line].Draws = append(out.Lines[d.Line].Draws, api.PlanDraw{Lot: lot.ID, Code: lot.Code, Grams: d.Grams,
			Cost: exchange.Money(d.Cost), BestBefore: dateOf(lot.BestBefore), Supplier: lot.Supplier})
	}
	for _, short := range p.shorts {
		out.Lines[short.Line].MissingG, out.Lines[short.Line].PastG = short.MissingG, short.PastG
	}
	out.Cost = exchange.Money(total)
	limit := s.bestBefore(p)
	out.BestBefore, out.BestBeforeReason = types.Date{Time: limit.Date}, limit.Reason
	return out
}

func (s *Service) bestBefore(p *planned) keeping.Limit {
	lots := make([]*store.Lot, len(p.draws))
	for i, d := range p.draws {
		lots[i] = p.lots[d.Lot]
	}
	return bestBefore(s.today(), p.assessed, lots, p.set)
}

// bestBefore is the earliest limit for a good made of these lots. What is
// strained out again sets no limit.
func bestBefore(made time.Time, a *assess.Assessment, lots []*store.Lot, set *settings) keeping.Limit {
	var ingredients []keeping.Ingredient
	for _, l := range lots {
		if m, err := set.lib.Find(l.Material); err == nil && a.Resolved.StrainsOut(m) {
			continue
		}
		ingredients = append(ingredients, ingredientOf(l, set))
	}
	limit, _ := keeping.BestBefore(made, a.Class, ingredients)
	return limit
}

// ingredientOf is a lot in the words of keeping.
func ingredientOf(l *store.Lot, set *settings) keeping.Ingredient {
	in := keeping.Ingredient{Name: l.Material, Lot: l.Code, BestBefore: timeOf(l.BestBefore), Opened: timeOf(l.Opened)}
	if m, err := set.lib.Find(l.Material); err == nil {
		in.Name, in.OpenDays = m.Name, m.Keeps.OpenDays
	}
	return in
}

// StartBatch puts a sized formula on the bench.
func (s *Service) StartBatch(ctx context.Context, in api.NewBatch) (*api.Batch, error) {
	a, err := may(ctx, Maker)
	if err != nil {
		return nil, err
	}
	var out *api.Batch
	err = s.store.Tx(ctx, func(tx *store.Tx) error {
		p, err := s.plan(tx, in.Formula, in.Target)
		if err != nil {
			return err
		}
		now := s.now()
		name := p.stored.File.Name
		n, err := tx.BatchesStartedOn(formula.BatchCodePrefix(name, now))
		if err != nil {
			return err
		}
		b := &store.Batch{ID: store.NewID(), Code: formula.BatchCode(name, now, n), Name: name, Kind: string(p.assessed.Resolved.Formula.Kind),
			FormulaID: p.stored.Id, FormulaVersion: p.stored.Version, State: "weighing", PersonID: a.Person, Loss: p.assessed.Resolved.LostShare(),
			PlannedG: p.plan.TotalG, ContainerCount: p.containers.Count, ContainerEach: p.containers.Each, ContainerFill: max(p.containers.Fill, 0),
			ContainerEachG: p.eachG, UseG: p.assessed.UseG, StartedAt: now}
		var lines []store.BatchLine
		for i, l := range p.plan.Lines {
			r := p.assessed.Resolved.Lines[l.Line]
			lines = append(lines, store.BatchLine{BatchID: b.ID, Line: i, Material: l.Material, Name: r.Material.Name,
				Phase: r.Line.Phase, Amount: r.Line.Written, TargetG: l.MassG, Optional: r.Line.Optional || l.Open != quantity.NotOpen, Hand: l.Hand.String()})
		}
		if err := tx.AddBatch(b, lines); err != nil {
			return said(err, "batch")
		}
		target, err := json.Marshal(in.Target)
		if err != nil {
			return err
		}
		if err := tx.AddBatchEvent(&store.BatchEvent{BatchID: b.ID, Kind: "started", Text: string(target), PersonID: a.Person, At: now}); err != nil {
			return err
		}
		if out, err = s.batchOf(tx, b.ID); err != nil {
			return err
		}
		return tx.Announce("batches", b.ID)
	})
	return out, err
}

// closed is what a batch that is no longer on the bench answers.
func closed(b *store.Batch) error {
	return api.NewProblem(http.StatusConflict, "batch-closed", "Batch %s is %s: nothing can be changed in it. Log a new batch instead.", b.Code, b.State)
}
