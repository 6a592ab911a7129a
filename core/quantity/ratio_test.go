package quantity_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"keencrock/core/quantity"
)

// A pound of soap at 4 a pound with one to two pounds of soda at 1: by hand, 5/2
// to 6/3 for a pound.
func TestTheEndsOfARatioByHand(t *testing.T) {
	r := quantity.Ratio{{{Of: 4, To: 1}}, {{Of: 1, To: 1}, {Of: 2, To: 2}}}
	assert.InDelta(t, 2.0, r.Least(), 1e-12)
	assert.InDelta(t, 2.5, r.Most(), 1e-12)
	assert.Zero(t, quantity.Ratio{}.Most())
	assert.Zero(t, quantity.Ratio{{{}}}.Least())
}

// The ends are those of every way to choose, and no mean of choices lies beyond.
func TestTheEndsOfARatioAreThoseOfEveryChoice(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := make(quantity.Ratio, rapid.IntRange(1, 5).Draw(t, "things"))
		for i := range r {
			for range rapid.IntRange(1, 3).Draw(t, "pairs") {
				r[i] = append(r[i], quantity.Pair{Of: rapid.Float64Range(-5, 5).Draw(t, "of"), To: rapid.Float64Range(0.1, 4).Draw(t, "to")})
			}
		}
		least, most := math.Inf(1), math.Inf(-1)
		var choose func(i int, of, to float64)
		choose = func(i int, of, to float64) {
			if i == len(r) {
				least, most = min(least, of/to), max(most, of/to)
				return
			}
			for _, p := range r[i] {
				choose(i+1, of+p.Of, to+p.To)
			}
		}
		choose(0, 0, 0)
		require.InDelta(t, least, r.Least(), 1e-9)
		require.InDelta(t, most, r.Most(), 1e-9)
		of, to := 0.0, 0.0
		for _, pairs := range r {
			share := rapid.Float64Range(0, 1).Draw(t, "share")
			a, z := pairs[0], pairs[len(pairs)-1]
			of += share*a.Of + (1-share)*z.Of
			to += share*a.To + (1-share)*z.To
		}
		require.LessOrEqual(t, least-1e-9, of/to)
		require.GreaterOrEqual(t, most+1e-9, of/to)
	})
}
