package bath_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"keencrock/core/bath"
	"keencrock/core/quantity"
)

// What is good, to be minded and not to be made: extreme pH by Regulation (EC)
// 1272/2008, Annex I (at most 2, at least 11.5); a tenth and a half of the
// soap by common practice.
func TestVerdicts(t *testing.T) {
	with := func(change func(*bath.Result)) *bath.Result {
		r := &bath.Result{ClosedPH: quantity.Exactly(9), HasSoap: true, Hardness: bath.Hardness{Total: 2, SoapGPerL: 1}, Caking: &bath.Caking{AboveRH: 80}}
		change(r)
		return r
	}
	ph := func(v float64) func(*bath.Result) {
		return func(r *bath.Result) { r.ClosedPH = quantity.Exactly(v) }
	}
	soap := func(share float64) func(*bath.Result) {
		return func(r *bath.Result) { r.Curdled = quantity.Exactly(share) }
	}
	good := bath.Verdicts{PH: bath.Plain, Soap: bath.Good, Hardness: bath.Good, Caking: bath.Plain}
	for name, c := range map[string]struct {
		change func(*bath.Result)
		want   func(*bath.Verdicts)
	}{
		"nothing to mind":               {func(*bath.Result) {}, func(*bath.Verdicts) {}},
		"soda crystals in a cup":        {ph(11.7), func(v *bath.Verdicts) { v.PH = bath.Watch }},
		"just not burning":              {ph(11.4), func(*bath.Verdicts) {}},
		"citric acid, strong":           {ph(1.8), func(v *bath.Verdicts) { v.PH = bath.Watch }},
		"vinegar":                       {ph(2.4), func(*bath.Verdicts) {}},
		"a little of the soap":          {soap(0.09), func(*bath.Verdicts) {}},
		"a third of the soap":           {soap(0.33), func(v *bath.Verdicts) { v.Soap = bath.Watch }},
		"most of the soap":              {soap(0.6), func(v *bath.Verdicts) { v.Soap = bath.Stop }},
		"no soap in it":                 {func(r *bath.Result) { r.HasSoap = false }, func(v *bath.Verdicts) { v.Soap = bath.Plain }},
		"scum that hardly shows":        {func(r *bath.Result) { r.Hardness.SoapLostGPerL = 0.2 }, func(v *bath.Verdicts) { v.Hardness = bath.Plain }},
		"scum that greys":               {func(r *bath.Result) { r.Hardness.SoapLostGPerL = 0.4 }, func(v *bath.Verdicts) { v.Hardness = bath.Watch }},
		"hardness left":                 {func(r *bath.Result) { r.Hardness.Left = 0.5 }, func(v *bath.Verdicts) { v.Hardness = bath.Plain }},
		"soft water":                    {func(r *bath.Result) { r.Hardness = bath.Hardness{} }, func(v *bath.Verdicts) { v.Hardness = bath.Plain }},
		"lumps in summer":               {func(r *bath.Result) { r.Caking.AboveRH = 59 }, func(v *bath.Verdicts) { v.Caking = bath.Watch }},
		"a liquid, which does not cake": {func(r *bath.Result) { r.Caking = nil }, func(*bath.Verdicts) {}},
	} {
		want := good
		c.want(&want)
		assert.Equal(t, want, with(c.change).Verdicts(nil), name)
	}

	bottle := with(soap(0.96))
	assert.Equal(t, bath.Stop, with(soap(0.02)).Verdicts(bottle).Soap, "it stood curdled in the bottle before it came to its water")
	assert.Equal(t, bath.Stop, with(soap(0.96)).Verdicts(with(soap(0.02))).Soap)
}

func TestAGasThatDoesNotShowHasNoSecondMark(t *testing.T) {
	r := &bath.Result{ClosedPH: quantity.Exactly(9.20), VentedPH: quantity.Exactly(9.24)}
	assert.False(t, r.GasShiftsPH())
	r.VentedPH = quantity.Exactly(8.9)
	assert.True(t, r.GasShiftsPH())
}

// The safe part of a map and the verdict on its reading are of one mind.
func TestTheSafePartOfAMap(t *testing.T) {
	for _, reading := range bath.Readings {
		low, high := reading.Safe()
		assert.Less(t, low, high, reading)
	}
	low, high := bath.ClosedPH.Safe()
	assert.Equal(t, []float64{2, 11.5}, []float64{low, high})
	low, _ = bath.Alkalinity.Safe()
	assert.Zero(t, low, "below it acid is left over")
	low, high = bath.GasMLPerKg.Safe()
	assert.True(t, math.IsInf(low, -1) && math.IsInf(high, 1), "gas is wanted in a bomb")
	for share := 0.01; share < 1; share += 0.02 {
		_, most := bath.CurdledShare.Safe()
		r := &bath.Result{HasSoap: true, Curdled: quantity.Exactly(share), ClosedPH: quantity.Exactly(9)}
		assert.Equal(t, share <= most, r.Verdicts(nil).Soap == bath.Good, "%.2f", share)
	}
}
