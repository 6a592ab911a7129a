package solution_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/formula"
	"keencrock/core/quantity"
	"keencrock/core/solution"
)

// A reading is a point where its range spans no more than a unit.
func TestAReadingIsAPointWithinAUnit(t *testing.T) {
	assert.True(t, solution.IsPoint(quantity.Range{Low: 7, Value: 7.5, High: 8}))
	assert.False(t, solution.IsPoint(quantity.Range{Low: 7, Value: 7.5, High: 8.01}))
}

// The reserve is titrated to pH 10 and to pH 4, of what is dry 10 % in water (Young and
// others, 1988). Strong lye holds nothing else: all of it but the 10⁻⁴ mol/kg left at pH 10
// counts. An acid of one proton that is all given off below pH 4 likewise.
func TestReservesAreTitratedToTheirEnds(t *testing.T) {
	lye, err := solution.ReserveOf(resolved(t, "other", "960 g water, 40 g lye"))
	require.NoError(t, err)
	assert.InDelta(t, 4*0.98, lye.GPer100G, 0.1)

	// of carbonate at pH 10 a share is bicarbonate, by its second pK: 10.33 in thin water, 9.5 in
	// a mole of salt to a kg (handbooks, from memory), a tenth of soda stands between
	soda, err := solution.ReserveOf(resolved(t, "other", "1 kg soda ash"))
	require.NoError(t, err)
	assert.Greater(t, soda.GPer100G, 37.7*0.24, "37.7 g, were all of it taken")
	assert.Less(t, soda.GPer100G, 37.7*0.68)
	at10, err := solution.Run(resolved(t, "other", "1 kg soda ash"), solution.Use{GramsPerLitre: 100, Celsius: 25})
	require.NoError(t, err)
	assert.InDelta(t, at10.ClosedPH.Value, soda.PH, 1e-3)

	// citric acid from about pH 1.6 to 4: pK 3.13 is most of the way through, a mole gives 1.1
	acid, err := solution.ReserveOf(resolved(t, "other", "900 g water, 100 g citric acid"))
	require.NoError(t, err)
	assert.InDelta(t, -1.1*0.1/192.1*40*1000/10, acid.GPer100G, 0.4)
}

// Common practice, from memory: a dishwasher takes 4 l, a toilet bowl 2, and where nothing is
// known a powder goes into a bucket at 10 g to a litre. No more than its own weight goes into
// any water.
func TestTheWaterOfAUse(t *testing.T) {
	strength := func(kind formula.Kind, use string) float64 {
		r := resolved(t, kind, "500 g soda ash")
		f := *r.Formula
		if use != "" {
			f.Use = quantity.MustParse(use)
		}
		r.Formula = &f
		return solution.UseOf(r, solution.Waters{}).GramsPerLitre
	}
	assert.InDelta(t, 5, strength("dish-powder", "20 g"), 1e-9)
	assert.InDelta(t, 10, strength("toilet-bomb", "20 g"), 1e-9)
	assert.InDelta(t, 10, strength("stain-remover", ""), 1e-9)

	_, _, err := solution.ParseStrength("1 kg/l", 1, quantity.US)
	require.NoError(t, err)
	_, _, err = solution.ParseStrength("1001 g/l", 1, quantity.US)
	require.Error(t, err)
}

// One level spoon of a powder is within 15 % of the next, of a liquid within 5 %; from memory.
func TestASpoonIsNoScale(t *testing.T) {
	spread := func(text string) (low, high float64) {
		r := resolved(t, "other", text)
		f := *r.Formula
		f.Use = quantity.MustParse("1 tbsp")
		r.Formula = &f
		d := solution.DoseRange(r)
		return d.Low, d.High
	}
	low, high := spread("500 g soda ash")
	assert.InDelta(t, 0.85, low, 0.01)
	assert.InDelta(t, 1.15, high, 0.02)
	low, high = spread("1 l water, 10 g soda ash")
	assert.InDelta(t, 0.95, low, 0.005)
	assert.InDelta(t, 1.05, high, 0.005)
}

// Dissolving potash lye gives off 57.6 kJ to a mole (CRC Handbook, from memory), turning fat
// into soap 50; a potash soap is mild in one to two weeks, and less than three tenths of fat
// make no bar (common practice).
func TestSoapOfPotashAndOfLittleFat(t *testing.T) {
	s := solution.Saponify(resolved(t, "other", "1 kg olive oil, 100 g potash lye, 1 kg water"))
	require.NotNil(t, s)
	assert.InDelta(t, 100*0.88/56.106*57.6, s.HeatKJ-s.SoapMol*50, 1)
	assert.Equal(t, [2]int{7, 14}, s.CureDays)
	for water, sets := range map[string]bool{"200": true, "240": false} { // 100 of 313 g, 100 of 353
		s := solution.Saponify(resolved(t, "other", "100 g olive oil, 13 g lye, "+water+" g water"))
		require.NotNil(t, s)
		assert.Equal(t, sets, s.Sets(), "%s g of water", water)
	}
}
