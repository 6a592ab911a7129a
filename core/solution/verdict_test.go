package solution_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"keencrock/core/quantity"
	"keencrock/core/solution"
)

// What is good, to be minded and not to be made: extreme pH by Regulation (EC)
// 1272/2008, Annex I (at most 2, at least 11.5); a tenth and a half of the
// soap by common practice.
func TestVerdicts(t *testing.T) {
	with := func(change func(*solution.Result)) *solution.Result {
		r := &solution.Result{ClosedPH: quantity.Exactly(9), HasSoap: true, Hardness: solution.Hardness{Total: 2, SoapGPerL: 1}, Caking: &solution.Caking{AboveRH: 80}}
		change(r)
		return r
	}
	ph := func(v float64) func(*solution.Result) {
		return func(r *solution.Result) { r.ClosedPH = quantity.Exactly(v) }
	}
	soap := func(share float64) func(*solution.Result) {
		return func(r *solution.Result) { r.Protonated = quantity.Exactly(share) }
	}
	good := solution.Verdicts{PH: solution.Plain, Soap: solution.Good, Hardness: solution.Good, Caking: solution.Plain}
	for name, c := range map[string]struct {
		change func(*solution.Result)
		want   func(*solution.Verdicts)
	}{
		"nothing to mind":               {func(*solution.Result) {}, func(*solution.Verdicts) {}},
		"soda crystals in a cup":        {ph(11.7), func(v *solution.Verdicts) { v.PH = solution.Watch }},
		"just not burning":              {ph(11.4), func(*solution.Verdicts) {}},
		"citric acid, strong":           {ph(1.8), func(v *solution.Verdicts) { v.PH = solution.Watch }},
		"vinegar":                       {ph(2.4), func(*solution.Verdicts) {}},
		"a little of the soap":          {soap(0.09), func(*solution.Verdicts) {}},
		"a third of the soap":           {soap(0.33), func(v *solution.Verdicts) { v.Soap = solution.Watch }},
		"most of the soap":              {soap(0.6), func(v *solution.Verdicts) { v.Soap = solution.Stop }},
		"no soap in it":                 {func(r *solution.Result) { r.HasSoap = false }, func(v *solution.Verdicts) { v.Soap = solution.Plain }},
		"scum that hardly shows":        {func(r *solution.Result) { r.Hardness.SoapLostGPerL = 0.2 }, func(v *solution.Verdicts) { v.Hardness = solution.Plain }},
		"scum that greys":               {func(r *solution.Result) { r.Hardness.SoapLostGPerL = 0.4 }, func(v *solution.Verdicts) { v.Soap, v.Hardness = solution.Watch, solution.Watch }},
		"hardness left":                 {func(r *solution.Result) { r.Hardness.Left = 0.5 }, func(v *solution.Verdicts) { v.Hardness = solution.Plain }},
		"soft water":                    {func(r *solution.Result) { r.Hardness = solution.Hardness{} }, func(v *solution.Verdicts) { v.Hardness = solution.Plain }},
		"lumps in summer":               {func(r *solution.Result) { r.Caking.AboveRH = 59 }, func(v *solution.Verdicts) { v.Caking = solution.Watch }},
		"a liquid, which does not cake": {func(r *solution.Result) { r.Caking = nil }, func(*solution.Verdicts) {}},
	} {
		want := good
		c.want(&want)
		assert.Equal(t, want, with(c.change).Verdicts(nil), name)
	}

	bottle := with(soap(0.96))
	assert.Equal(t, solution.Stop, with(soap(0.02)).Verdicts(bottle).Soap, "it stood curdled in the bottle before it came to its water")
	assert.Equal(t, solution.Stop, with(soap(0.96)).Verdicts(with(soap(0.02))).Soap)
}

func TestAGasThatDoesNotShowHasNoSecondMark(t *testing.T) {
	r := &solution.Result{ClosedPH: quantity.Exactly(9.20), VentedPH: quantity.Exactly(9.24)}
	assert.False(t, r.GasShiftsPH())
	r.VentedPH = quantity.Exactly(9.26)
	assert.True(t, r.GasShiftsPH(), "9.2 and 9.3 as they are shown")
	r.VentedPH = quantity.Exactly(8.9)
	assert.True(t, r.GasShiftsPH())
}

// The safe part of a map and the verdict on its reading are of one mind.
func TestTheSafePartOfAMap(t *testing.T) {
	for _, reading := range solution.Readings {
		low, high := reading.Safe()
		assert.Less(t, low, high, reading)
	}
	low, high := solution.ClosedPH.Safe()
	assert.Equal(t, []float64{2, 11.5}, []float64{low, high})
	low, _ = solution.Alkalinity.Safe()
	assert.Zero(t, low, "below it acid is left over")
	low, high = solution.GasMLPerKg.Safe()
	assert.True(t, math.IsInf(low, -1) && math.IsInf(high, 1), "gas is wanted in a bomb")
	for share := 0.01; share < 1; share += 0.02 {
		_, most := solution.ProtonatedShare.Safe()
		r := &solution.Result{HasSoap: true, Protonated: quantity.Exactly(share), ClosedPH: quantity.Exactly(9)}
		assert.Equal(t, share <= most, r.Verdicts(nil).Soap == solution.Good, "%.2f", share)
	}
}
