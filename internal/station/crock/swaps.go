package crock

import (
	"context"
	"math"

	"keencrock/api"
	"keencrock/core/swap"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
)

// Swaps finds what replaces some grams of a line.
func (s *Service) Swaps(ctx context.Context, q api.SwapQuestion, in InWater) ([]api.SwapCandidate, error) {
	w, err := s.work(ctx, &q.File, in)
	if err != nil {
		return nil, err
	}
	r := w.assessed.Resolved
	if q.Line >= len(r.Lines) {
		return nil, problem.Unfit("no-such-line", "The formula has no line %d.", q.Line+1).At("line")
	}
	if q.Grams == 0 {
		q.Grams = r.Lines[q.Line].MassG.Value
	}
	o := swap.Options{Library: w.set.Materials, Use: w.assessed.Solution.Use}
	if !q.WholeLibrary {
		if o.StockG, err = stockG(w); err != nil {
			return nil, err
		}
	}
	ids := make([]string, 0, len(w.set.Materials.All()))
	for _, m := range w.set.Materials.All() {
		ids = append(ids, m.ID)
	}
	if o.Prices, err = prices(w.tx, w.set, ids); err != nil {
		return nil, err
	}
	found, err := swap.Candidates(r, q.Line, q.Grams, o)
	if err != nil {
		return nil, problem.Unfit("bad-value", "%s", exchange.Sentence(err)).At("grams")
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
