package workshop

import (
	"context"
	"errors"
	"fmt"
	"math"
	"net/http"
	"strings"

	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/assess"
	"keencrock/core/bath"
	"keencrock/core/costing"
	"keencrock/core/formula"
	"keencrock/core/goal"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/core/swap"
	"keencrock/internal/exchange"
	"keencrock/internal/store"
)

// InWater is the water a formula is asked about, in place of the workshop's.
type InWater struct {
	Strength string
	Hardness string
	Celsius  float64
}

// asked is the workshop's water with what was asked for in its place.
func (s *settings) asked(in InWater) (*assess.Water, error) {
	w := s.water()
	w.Strength, w.Celsius = in.Strength, in.Celsius
	if in.Hardness == "" {
		return w, nil
	}
	var err error
	if w.Hardness, err = quantity.ParseHardness(in.Hardness); err != nil {
		p := exchange.FieldProblem("hardness", err)
		return nil, &p
	}
	return w, nil
}

// wetted is a formula worked out in its water, with the prices of some
// materials.
type wetted struct {
	set      *settings
	tx       *store.Tx
	assessed *assess.Assessment
}

// wet works a whole formula out; one with problems is refused.
func (s *Service) wet(ctx context.Context, file *api.FormulaFile, in InWater) (*wetted, error) {
	if _, err := may(ctx, Viewer); err != nil {
		return nil, err
	}
	w := &wetted{tx: s.store.Read(ctx)}
	var err error
	if w.set, err = s.settings(w.tx); err != nil {
		return nil, err
	}
	water, err := w.set.asked(in)
	if err != nil {
		return nil, err
	}
	f, unread := exchange.ToFormula(s.inMeasures(file, w.set))
	if len(unread) > 0 {
		return nil, api.Refused("bad-formula", unread[0].Detail, unread)
	}
	w.assessed = assess.Formula(f, w.set.lib, assess.Options{Workshop: w.set.tools(), Water: water})
	r := w.assessed.Resolved
	for i := range r.Questions {
		if q := &r.Questions[i]; q.Holds() {
			return nil, api.NewProblem(http.StatusUnprocessableEntity, "bad-formula", "The formula asks something first: %s.", strings.TrimSuffix(q.Text, "."))
		}
	}
	if w.assessed.BathErr != nil {
		p := exchange.FieldProblem("use", w.assessed.BathErr)
		return nil, &p
	}
	if w.assessed.Bath == nil {
		return nil, api.NewProblem(http.StatusUnprocessableEntity, "no-lines", "There is nothing in the formula yet.")
	}
	return w, nil
}

// Compare sets two formulas side by side in the same water.
func (s *Service) Compare(ctx context.Context, a, b *api.FormulaFile, in InWater) (*api.Comparison, error) {
	if _, err := may(ctx, Viewer); err != nil {
		return nil, err
	}
	tx := s.store.Read(ctx)
	set, err := s.settings(tx)
	if err != nil {
		return nil, err
	}
	water, err := set.asked(in)
	if err != nil {
		return nil, err
	}
	prices, err := s.prices(tx, set, append(materialsOf(a, set.lib), materialsOf(b, set.lib)...))
	if err != nil {
		return nil, err
	}
	out := &api.Comparison{Currency: set.workshop.Currency}
	var assessed [2]*assess.Assessment
	for i, side := range []struct {
		file *api.FormulaFile
		into *api.Assessment
	}{{a, &out.A}, {b, &out.B}} {
		f, unread := exchange.ToFormula(s.inMeasures(side.file, set))
		assessed[i] = assess.Formula(f, set.lib, assess.Options{Workshop: set.tools(), Prices: prices, Water: water})
		*side.into = *exchange.Assessment(side.file.Name, assessed[i], unread, set.lib)
	}
	out.Differences = exchange.Differences(assess.Compare(assessed[0], assessed[1]))
	return out, nil
}

// Map works a reading out over two amounts.
func (s *Service) Map(ctx context.Context, q api.WhatIf, in InWater) (*api.ReadingMap, error) {
	w, err := s.wet(ctx, &q.File, in)
	if err != nil {
		return nil, err
	}
	r := w.assessed.Resolved
	axis := func(a api.SweptAmount) bath.Axis {
		return bath.Axis{Line: a.Line, FromG: a.FromG, ToG: a.ToG, Steps: a.Steps}
	}
	values, err := bath.Sweep(ctx, r, w.assessed.Bath.Use, bath.Reading(q.Reading), axis(q.X), axis(q.Y))
	switch {
	case ctx.Err() != nil || errors.Is(err, bath.ErrFailed):
		return nil, err
	case err != nil:
		return nil, api.NewProblem(http.StatusUnprocessableEntity, "bad-value", "%s", exchange.Sentence(err))
	}
	out := exchange.MapOf(bath.Reading(q.Reading), values)
	out.Here = api.MapPoint{Name: q.File.Name, XG: r.Lines[q.X.Line].MassG.Value, YG: r.Lines[q.Y.Line].MassG.Value}
	out.Schools, err = s.schools(w, q)
	return out, err
}

// schools places the workshop's other formulas of the same kind on a map, sized
// to the same whole.
func (s *Service) schools(w *wetted, q api.WhatIf) ([]api.MapPoint, error) {
	points := []api.MapPoint{}
	rows, err := w.tx.Formulas(false)
	if err != nil {
		return nil, err
	}
	r := w.assessed.Resolved
	x, y := r.Lines[q.X.Line].Material.ID, r.Lines[q.Y.Line].Material.ID
	for _, row := range rows {
		if row.Kind != string(r.Formula.Kind) || row.Name == q.File.Name {
			continue
		}
		stored, err := storedFormula(w.tx, row.ID, 0)
		if err != nil {
			return nil, err
		}
		f, unread := exchange.ToFormula(&stored.File)
		other := formula.Resolve(f, w.set.lib, w.set.tools())
		if len(unread) > 0 || other.Held() != nil || other.TotalG.Value == 0 {
			continue
		}
		p := api.MapPoint{Name: row.Name}
		for _, l := range other.Lines {
			if l.Material == nil {
				continue
			}
			g := l.MassG.Value * r.TotalG.Value / other.TotalG.Value
			switch l.Material.ID {
			case x:
				p.XG += g
			case y:
				p.YG += g
			}
		}
		if p.XG+p.YG > 0 {
			points = append(points, p)
		}
	}
	return points, nil
}

// Swaps finds what replaces some grams of a line.
func (s *Service) Swaps(ctx context.Context, q api.SwapQuestion, in InWater) ([]api.SwapCandidate, error) {
	w, err := s.wet(ctx, &q.File, in)
	if err != nil {
		return nil, err
	}
	r := w.assessed.Resolved
	if q.Line >= len(r.Lines) {
		return nil, api.NewProblem(http.StatusUnprocessableEntity, "no-such-line", "The formula has no line %d.", q.Line+1).At("line")
	}
	if q.Grams == 0 {
		q.Grams = r.Lines[q.Line].MassG.Value
	}
	o := swap.Options{Library: w.set.lib, Use: w.assessed.Bath.Use}
	if !q.WholeLibrary {
		if o.StockG, err = s.stockG(w.tx); err != nil {
			return nil, err
		}
	}
	ids := make([]string, 0, len(w.set.lib.All()))
	for _, m := range w.set.lib.All() {
		ids = append(ids, m.ID)
	}
	if o.Prices, err = s.prices(w.tx, w.set, ids); err != nil {
		return nil, err
	}
	found, err := swap.Candidates(r, q.Line, q.Grams, o)
	if err != nil {
		return nil, api.NewProblem(http.StatusUnprocessableEntity, "bad-value", "%s", exchange.Sentence(err)).At("grams")
	}
	out := make([]api.SwapCandidate, 0, len(found))
	for _, c := range found {
		if o.StockG != nil && c.InStockG <= 0 {
			continue
		}
		a := api.SwapCandidate{Material: c.Material.ID, Name: c.Material.Name, Grams: c.Grams, By: api.SwapCandidateBy(c.By), Why: c.Why,
			Changes: append([]string{}, c.Changes...), Enough: c.Enough, PhBefore: c.PHBefore, PhAfter: c.PHAfter}
		if !math.IsInf(c.InStockG, 0) {
			a.InStockG = c.InStockG
		}
		if c.Bake != nil {
			a.Bake = api.Bake{BakingSodaG: c.Bake.BakingSodaG, StopAtG: c.Bake.StopAtG}
		}
		if c.PriceKnown {
			a.Cost = exchange.Money(c.Cost)
		}
		out = append(out, a)
	}
	return out, nil
}

// stockG is what can be drawn on, in grams by material.
func (s *Service) stockG(tx *store.Tx) (map[string]float64, error) {
	lots, err := tx.Stock()
	if err != nil {
		return nil, err
	}
	stock := map[string]float64{}
	for i := range lots {
		if c := costingLot(&lots[i]); !c.Unusable && !c.PastOn(s.today()) {
			stock[c.Material] += c.RemainingG
		}
	}
	return stock, nil
}

// Formulate proposes a formula for wanted readings.
func (s *Service) Formulate(ctx context.Context, q api.GoalQuestion, in InWater) (*api.Proposal, error) {
	w, err := s.wet(ctx, &q.File, in)
	if err != nil {
		return nil, err
	}
	wishes, err := s.wishes(w, q)
	if err != nil {
		return nil, err
	}
	ingredients, prices, err := s.ingredients(w, q)
	if err != nil {
		return nil, err
	}
	p, err := goal.Propose(ingredients, *wishes, w.assessed.Bath.Use)
	var c *goal.Contradiction
	switch {
	case errors.As(err, &c):
		problem := api.NewProblem(http.StatusUnprocessableEntity, "contradiction", "%s", exchange.Sentence(c))
		for _, wish := range c.Wishes {
			problem.Problems = append(problem.Problems, *api.NewProblem(http.StatusUnprocessableEntity, "wish", "%s", wish))
		}
		return nil, problem
	case errors.Is(err, goal.ErrUnsettled):
		return nil, api.NewProblem(http.StatusUnprocessableEntity, "unsettled", "%s", exchange.Sentence(goal.ErrUnsettled))
	case errors.Is(err, goal.ErrWishes):
		return nil, api.NewProblem(http.StatusUnprocessableEntity, "bad-value", "%s", exchange.Sentence(err))
	case err != nil:
		return nil, err
	}
	out := &api.Proposal{Lines: []api.ProposedLine{}, Chemistry: exchange.Chemistry(p.Result, nil), Binding: append([]string{}, p.Binding...), Currency: prices.Currency}
	if p.CostPerKg > 0 {
		out.CostPerKg = exchange.Money(decimal.NewFromFloat(p.CostPerKg))
	}
	for _, l := range p.Lines {
		out.Lines = append(out.Lines, api.ProposedLine{Material: l.Material.ID, Name: l.Material.Name, Grams: l.Grams, Amount: written(l.Grams)})
	}
	return out, nil
}

// written is a mass to three figures, as an amount.
func written(g float64) string {
	places := max(0, 2-int(math.Floor(math.Log10(g))))
	return fmt.Sprintf("%.*f g", min(places, 2), g)
}

func (s *Service) wishes(w *wetted, q api.GoalQuestion) (*goal.Wishes, error) {
	out := &goal.Wishes{PHLow: q.PhLow, PHHigh: q.PhHigh, AlkalinityGPerL: q.AlkalinityGPerL, GasMLPerKg: q.GasMlPerKg,
		BoraxFree: q.BoraxFree, TotalG: q.TotalG}
	if out.TotalG == 0 {
		out.TotalG = w.assessed.Resolved.TotalG.Value
	}
	if q.ChelatesHardness != "" {
		h, err := quantity.ParseHardness(q.ChelatesHardness)
		if err != nil {
			p := exchange.FieldProblem("chelates_hardness", err)
			return nil, &p
		}
		out.ChelatesMMolPerL = h
	}
	if q.CostPerKg != "" {
		cost, err := exchange.ParseMoney(q.CostPerKg)
		if err != nil {
			p := exchange.FieldProblem("cost_per_kg", err)
			return nil, &p
		}
		out.CostPerKg, _ = cost.Float64()
	}
	if q.OnlyShelf {
		var err error
		if out.StockG, err = s.stockG(w.tx); err != nil {
			return nil, err
		}
	}
	for _, b := range q.Bounds {
		m, err := w.set.lib.Find(b.Material)
		if err != nil {
			p := exchange.FieldProblem("bounds", err)
			return nil, &p
		}
		out.Bounds = append(out.Bounds, goal.Bound{Material: m.ID, MinG: b.MinG, MaxG: b.MaxG})
	}
	return out, nil
}

// ingredients are the formula's own materials and the others that may be used.
func (s *Service) ingredients(w *wetted, q api.GoalQuestion) ([]goal.Ingredient, costing.Prices, error) {
	now := map[string]float64{}
	var materials []*material.Material
	add := func(m *material.Material, g float64) {
		if _, seen := now[m.ID]; !seen {
			materials = append(materials, m)
		}
		now[m.ID] += g
	}
	for _, l := range w.assessed.Resolved.Lines {
		add(l.Material, l.MassG.Value)
	}
	for _, name := range q.Materials {
		m, err := w.set.lib.Find(name)
		if err != nil {
			p := exchange.FieldProblem("materials", err)
			return nil, costing.Prices{}, &p
		}
		add(m, 0)
	}
	ids := make([]string, len(materials))
	for i, m := range materials {
		ids[i] = m.ID
	}
	prices, err := s.prices(w.tx, w.set, ids)
	if err != nil {
		return nil, prices, err
	}
	out := make([]goal.Ingredient, len(materials))
	for i, m := range materials {
		out[i] = goal.Ingredient{Material: m, NowG: now[m.ID]}
		if perGram, known := prices.PerGram[m.ID]; known {
			out[i].CostPerKg, _ = perGram.Value.Mul(decimal.NewFromInt(1000)).Float64()
		}
	}
	return out, prices, nil
}
