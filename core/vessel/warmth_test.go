package vessel_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"keencrock/core/vessel"
)

// Ten degrees double the pace (Q10 = 2, common practice), and however fast, the sugar
// gives no more gas in all than its stoichiometry.
func TestWarmthSetsThePace(t *testing.T) {
	assert.InDelta(t, 1, vessel.Pace(20), 1e-12)
	assert.InDelta(t, 2, vessel.Pace(30), 1e-12)
	assert.InDelta(t, 0.5, vessel.Pace(10), 1e-12)
	assert.Empty(t, vessel.PaceAdvice(21))
	assert.Contains(t, vessel.PaceAdvice(10), "2.0 times as long")
	assert.Contains(t, vessel.PaceAdvice(30), "look to its lid")
	events := []vessel.Event{{Kind: vessel.Fed, At: day(0), SugarG: 1000}}
	for _, celsius := range []float64{12, 20, 28} {
		sum := 0.0
		for d := range 800 {
			sum += vessel.GasPerDayL(events, day(float64(d)), celsius)
		}
		assert.InEpsilon(t, vessel.GasAtMostL(events), sum, 1e-3, "%v °C", celsius)
	}
	assert.Greater(t, vessel.GasPerDayL(events, day(1), 28), vessel.GasPerDayL(events, day(1), 12))
	assert.Zero(t, vessel.GasPerDayL(events, day(-1), 20), "not fed yet")
}
