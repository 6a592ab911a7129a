package dosing

import (
	"slices"

	"keencrock/core/formula"
	"keencrock/core/quantity"
)

// measure is an amount a hand can take, and what it weighs.
type measure struct {
	amount quantity.Amount
	pieces int
	grams  float64
}

// scoops are the measures a dose may be, in teaspoons, tablespoons and cups.
var (
	teas   = amounts("1/4 tsp", "1/2 tsp", "1 tsp", "2 tsp")
	spoons = amounts("1 tbsp", "1 1/2 tbsp", "2 tbsp", "3 tbsp")
	cups   = amounts("1/4 cup", "1/3 cup", "1/2 cup", "2/3 cup", "3/4 cup", "1 cup", "1 1/4 cup", "1 1/2 cup", "2 cup", "2 1/2 cup", "3 cup")
	own    = amounts("1/2 scoop", "1 scoop", "1 1/2 scoop", "2 scoop", "3 scoop", "4 scoop", "6 scoop", "8 scoop")
)

func amounts(said ...string) (out []quantity.Amount) {
	for _, s := range said {
		out = append(out, quantity.MustParse(s))
	}
	return out
}

// measuresOf are the measures a dose may be of, the smallest first: pieces of what is
// pressed, the workshop's scoop, else spoons and cups; up to so many grams.
func measuresOf(r *formula.Resolved, o Options, mostG float64) (out []measure) {
	if o.PieceG > 0 {
		for n := 1; float64(n)*o.PieceG <= mostG && n <= 12; n++ {
			out = append(out, measure{pieces: n, grams: float64(n) * o.PieceG})
		}
		if len(out) == 0 {
			out = append(out, measure{pieces: 1, grams: o.PieceG})
		}
		return out
	}
	amounts := slices.Concat(teas, spoons, cups)
	if o.ScoopML > 0 {
		amounts = slices.Concat(teas, own)
	}
	h := handling(r)
	if o.ScoopML > 0 {
		h.ScoopML = quantity.Exactly(o.ScoopML)
	}
	for _, a := range amounts {
		ml, ok := a.Millilitres(h)
		if g := ml.Value * r.Density(); ok && g > 0 && g <= mostG {
			out = append(out, measure{amount: a, grams: g})
		}
	}
	slices.SortStableFunc(out, func(a, b measure) int {
		switch {
		case a.grams < b.grams:
			return -1
		case a.grams > b.grams:
			return 1
		}
		return 0
	})
	return out
}
