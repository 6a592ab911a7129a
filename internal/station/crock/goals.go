package crock

import (
	"context"
	"errors"
	"fmt"
	"math"

	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/costing"
	"keencrock/core/goal"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
)

// Formulate proposes a formula for wanted readings.
func (s *Service) Formulate(ctx context.Context, q api.GoalQuestion, in InWater) (*api.Proposal, error) {
	w, err := s.work(ctx, &q.File, in)
	if err != nil {
		return nil, err
	}
	wishes, err := wishes(w, q)
	if err != nil {
		return nil, err
	}
	ingredients, prices, err := ingredients(w, q)
	if err != nil {
		return nil, err
	}
	p, err := goal.Propose(ingredients, *wishes, w.assessed.Solution.Use)
	var c *goal.Contradiction
	switch {
	case errors.As(err, &c):
		wishes := make([]api.Problem, len(c.Wishes))
		for i, wish := range c.Wishes {
			wishes[i] = *problem.Unfit("wish", "%s", wish)
		}
		return nil, problem.UnfitAll("contradiction", exchange.Sentence(c), wishes)
	case errors.Is(err, goal.ErrUnsettled):
		return nil, problem.Unfit("unsettled", "%s", exchange.Sentence(goal.ErrUnsettled))
	case errors.Is(err, goal.ErrWishes):
		return nil, problem.Unfit("bad-value", "%s", exchange.Sentence(err))
	case err != nil:
		return nil, err
	}
	out := &api.Proposal{Lines: []api.ProposedLine{}, Chemistry: exchange.Chemistry(p.Result, nil), Binding: append([]string{}, p.Binding...), Currency: prices.Currency}
	if p.CostPerKg > 0 {
		out.CostPerKg = exchange.Money(decimal.NewFromFloat(p.CostPerKg))
	}
	for _, c := range p.Costs {
		out.Costs = append(out.Costs, api.WishCost{Wish: c.Wish, PerKg: exchange.Money(decimal.NewFromFloat(c.PerKg))})
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

func wishes(w *worked, q api.GoalQuestion) (*goal.Wishes, error) {
	out := &goal.Wishes{PHLow: q.PhLow, PHHigh: q.PhHigh, AlkalinityGPerL: q.AlkalinityGPerL, GasMLPerKg: q.GasMlPerKg,
		BoraxFree: q.BoraxFree, NoEyeDamage: q.NoEyeDamage, NoSignalWord: q.NoSignalWord, KeepsDays: q.KeepsDays, Library: w.set.Materials, TotalG: q.TotalG}
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
		if out.StockG, err = stockG(w); err != nil {
			return nil, err
		}
	}
	for _, b := range q.Bounds {
		m, err := w.set.Materials.Find(b.Material)
		if err != nil {
			p := exchange.FieldProblem("bounds", err)
			return nil, &p
		}
		out.Bounds = append(out.Bounds, goal.Bound{Material: m.ID, MinG: b.MinG, MaxG: b.MaxG})
	}
	return out, nil
}

// ingredients are the formula's own materials and the others that may be used.
func ingredients(w *worked, q api.GoalQuestion) ([]goal.Ingredient, costing.Prices, error) {
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
		m, err := w.set.Materials.Find(name)
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
	prices, err := prices(w.tx, w.set, ids)
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
