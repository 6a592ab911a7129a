// Package bench is the bench station: sizing a batch, weighing it out of its lots,
// and what it becomes.
package bench

import (
	"context"
	"errors"
	"slices"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/assess"
	"keencrock/core/formula"
	"keencrock/core/keeping"
	"keencrock/core/quantity"
	"keencrock/core/stock"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// planned is a batch sized and allotted, with all that went into it.
type planned struct {
	set        *tenant.Settings
	stored     *api.StoredFormula
	assessed   *assess.Assessment
	plan       *formula.Plan
	said       []string
	draws      []stock.Draw
	shorts     []stock.Short
	lots       map[stock.ID]*stock.Lot
	containers api.Containers
	eachG      float64 // what one container holds, 0 without containers
}

// Service is what can be done at the bench.
type Service struct{ *tenant.House }

// New returns the bench of a house.
func New(h *tenant.House) *Service { return &Service{h} }

// Plan sizes a batch and says which lots it would take; nothing is stored.
func (s *Service) Plan(ctx context.Context, id uuid.UUID, target api.Target) (*api.Plan, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	var out *api.Plan
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		p, err := s.plan(tx, id, target)
		if err == nil {
			out = planOf(p)
		}
		return err
	})
	return out, err
}

func (s *Service) plan(tx *store.Tx, id uuid.UUID, target api.Target) (*planned, error) {
	p := &planned{lots: map[stock.ID]*stock.Lot{}}
	var err error
	if p.set, err = s.Settings(tx); err != nil {
		return nil, err
	}
	if p.stored, err = tenant.StoredFormula(tx, id, target.Version); err != nil {
		return nil, err
	}
	f, unread := exchange.ToFormula(&p.stored.File)
	if len(unread) > 0 {
		return nil, problem.UnfitAll("bad-formula", unread[0].Detail, unread)
	}
	f.MeasuredPH = nil // of what was made before
	p.assessed = assess.Formula(f, p.set.Materials, assess.Options{Workshop: p.set.Tools()})
	lots, err := tx.Stock(p.set.ItemsOf(&p.stored.File)...)
	if err != nil {
		return nil, err
	}
	for i := range lots {
		p.lots[lots[i].ID] = &lots[i]
	}
	if err := p.size(target, lots); err != nil {
		return nil, err
	}
	p.said = p.plan.RoundTo(p.set.Workshop.ScaleStepG, p.assessed.Resolved)
	if p.containers.Count > 0 {
		p.eachG = p.plan.NetG / float64(p.containers.Count)
	}
	var needs []stock.Need
	for i, l := range p.plan.Lines {
		if l.Material != stock.Tap {
			needs = append(needs, stock.Need{Line: i, Item: l.Material, Quantity: l.MassG})
		}
	}
	p.draws, p.shorts = stock.Allocate(needs, lots, p.set.Today)
	return p, nil
}

func (p *planned) size(target api.Target, lots []stock.Lot) error {
	bad := func(field string, err error) error {
		p := exchange.FieldProblem(field, err)
		p.Code = "bad-target"
		return &p
	}
	t := formula.Target{Factor: target.Factor, Pieces: target.Pieces, Uses: target.Uses}
	tools := p.set.Tools()
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
		t.Scarcest = stock.UsableByItem(lots, p.set.Today)
	}
	if p.plan, err = p.assessed.Resolved.Scale(t); err != nil {
		return bad("target", err)
	}
	return nil
}

func planOf(p *planned) *api.Plan {
	r := p.assessed.Resolved
	out := &api.Plan{Formula: p.stored.Id, Version: p.stored.Version, Factor: p.plan.Factor, LimitedBy: p.plan.LimitedBy,
		TotalG: p.plan.TotalG, NetG: p.plan.NetG, Uses: p.plan.Uses, Pieces: p.plan.Pieces, Containers: p.containers,
		Currency: p.set.Workshop.Currency, Said: append([]string{}, p.said...), Short: len(p.shorts) > 0,
		Lines: make([]api.PlanLine, len(p.plan.Lines))}
	for i, l := range p.plan.Lines {
		m := r.Lines[l.Line].Material
		line := api.PlanLine{Line: i, Material: m.ID, Name: m.Name, MassG: l.MassG, Draws: []api.PlanDraw{}, Unstocked: m.ID == stock.Tap,
			Hand: l.Hand.String(), Open: l.Open.String()}
		if scoop, relErr, ok := r.Lines[l.Line].ScoopFor(l.MassG, r.Formula.Measures); ok {
			line.Scoop = api.Scoop{Amount: scoop.String(), Error: relErr}
		}
		out.Lines[i] = line
	}
	total := decimal.Zero
	lots := make([]stock.Lot, 0, len(p.draws))
	for _, d := range p.draws {
		lot := p.lots[d.Lot]
		lots = append(lots, *lot)
		total = total.Add(d.Cost)
		cost := exchange.Money(d.Cost)
		if !lot.PriceKnown() && d.Cost.IsZero() {
			cost = "" // not known: not nothing
		}
		out.Lines[d.Line].Draws = append(out.Lines[d.Line].Draws, api.PlanDraw{Lot: uuid.UUID(lot.ID), Code: lot.Code, Grams: d.Quantity,
			Cost: cost, BestBefore: exchange.Date(lot.BestBefore), Supplier: lot.Supplier})
	}
	for _, short := range p.shorts {
		out.Lines[short.Line].MissingG, out.Lines[short.Line].PastG = short.Missing, short.Past
	}
	out.Cost, out.Unpriced = exchange.Money(total), p.set.NamesOf(stock.Unpriced(lots))
	limit := p.bestBefore()
	out.BestBefore, out.BestBeforeReason = exchange.Date(limit.Date), limit.Reason
	return out
}

func (p *planned) bestBefore() keeping.Limit {
	went := make([]wentIn, len(p.draws))
	for i, d := range p.draws {
		went[i] = wentIn{p.lots[d.Lot], d.Quantity}
	}
	return bestBefore(p.set, p.assessed.Class, tenant.SnapshotOf(p.assessed, nil), went, p.plan.TotalG)
}

// wentIn is how much went in of a lot, in grams.
type wentIn struct {
	lot *stock.Lot
	g   float64
}

// bestBefore is the earliest limit for a good of a class made of these lots today, of so
// many grams in all. What is strained out again sets no limit.
func bestBefore(set *tenant.Settings, class keeping.Class, s *tenant.Snapshot, went []wentIn, totalG float64) keeping.Limit {
	grams := map[string]float64{}
	for _, w := range went {
		grams[w.lot.Item] += w.g
	}
	var ingredients []keeping.Ingredient
	for _, w := range went {
		if slices.Contains(s.StrainsOut, w.lot.Item) {
			continue
		}
		in := ingredientOf(w.lot, set)
		if totalG > 0 {
			in.Share = grams[w.lot.Item] / totalG
		}
		ingredients = append(ingredients, in)
	}
	limit, _ := keeping.BestBefore(set.Today, class, ingredients)
	return limit
}

// ingredientOf is a lot in the words of keeping.
func ingredientOf(l *stock.Lot, set *tenant.Settings) keeping.Ingredient {
	in := keeping.Ingredient{Name: set.NameOf(l.Item), MadeHere: !l.Making.IsZero(), Lot: l.Code, BestBefore: l.BestBefore, Opened: l.Opened}
	if m, err := set.Materials.Find(l.Item); err == nil && len(m.MadeOf) == 0 {
		in.OpenDays, in.OnlySmells = m.Keeps.OpenDays, m.OnlySmells()
	}
	return in
}
