package planning_test

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/planning"
)

// Hyndman and Athanasopoulos, Forecasting: Principles and Practice, 2nd edition, section
// 7.1: oil made in Saudi Arabia, 1996 to 2013, α = 0.8339, level 446.6; the forecast of the
// next year is 542.68. Figures from memory.
func TestSmoothingAgainstAPublishedExample(t *testing.T) {
	oil := []float64{445.36, 453.20, 454.41, 422.38, 456.04, 440.39, 425.19, 486.21, 500.43, 521.28, 508.95, 488.89, 509.87, 456.72, 473.82, 525.95, 549.83, 542.34}
	rate, _ := planning.Smooth(oil, 446.5868, 0, 0.8339, 0)
	assert.InDelta(t, 542.68, rate.PerWeek, 0.02)
	rate, _ = planning.Smooth(oil[:4], 446.5868, 0, 0.8339, 0)
	assert.InDelta(t, 427.63, rate.PerWeek, 0.02)
}

// The same, section 7.2: passengers of Australian airlines from 1990 on, by Holt's method
// with α = 0.8321, β = 0.0001, level 15.57, trend 2.102. Figures from memory.
func TestATrendAgainstAPublishedExample(t *testing.T) {
	air := []float64{17.55, 21.86, 23.89, 26.93}
	for n, forecast := range []float64{17.67, 19.68, 23.59, 25.94} {
		rate, _ := planning.Smooth(air[:n], 15.57, 2.102, 0.8321, 0.0001)
		assert.InDelta(t, forecast, rate.PerWeek, 0.02, "of the year %d", 1990+n)
		assert.InDelta(t, 2.102, rate.Trend, 0.001)
	}
}

// The same, section 12.2: a lubricant that goes seldom, α = 0.1: an amount of 2.750 each
// 2.793 periods, 0.985 a period. Figures from memory.
func TestWhatGoesSeldomAgainstAPublishedExample(t *testing.T) {
	lubricant := []float64{0, 2, 0, 1, 0, 11, 0, 0, 0, 0, 2, 0, 6, 3, 0, 0, 0, 0, 0, 7, 0, 0, 0, 0, 0, 0, 0, 3, 1, 0, 0, 1, 0, 1, 0, 0}
	amount, interval := planning.Croston(lubricant, 0.1)
	assert.InDelta(t, 2.750, amount, 0.001)
	assert.InDelta(t, 2.793, interval, 0.001)
	rate, ok := planning.Reckon(lubricant)
	require.True(t, ok)
	assert.Equal(t, planning.Seldom, rate.Method)
	assert.Equal(t, 35, rate.Weeks, "the weeks before the first are left out")
	// there the first interval is one week, since nothing is known of what was before
	amount, interval = planning.Croston(lubricant[1:], 0.1)
	assert.InDelta(t, 0.95*amount/interval, rate.PerWeek, 1e-9, "less a twentieth: Syntetos and Boylan 2005")
}

func TestARateNeedsEightWeeks(t *testing.T) {
	_, ok := planning.Reckon([]float64{0, 0, 0, 1, 2, 3, 1, 2, 3, 1})
	assert.False(t, ok)
	_, ok = planning.Reckon(make([]float64, 40))
	assert.False(t, ok, "none ever went")
	rate, ok := planning.Reckon([]float64{5, 5, 5, 5, 5, 5, 5, 5})
	require.True(t, ok)
	assert.Equal(t, planning.Steady, rate.Method)
	mean, low, high := rate.Over(4)
	assert.InDeltaSlice(t, []float64{20, 20, 20}, []float64{mean, low, high}, 0.01, "always five: no doubt")
}

// What rises is seen to rise, what does not is not; the band holds what comes about eight
// times in ten (drawn at random, seed kept).
func TestABandHoldsWhatComes(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 8))
	held, drifts, cases := 0, 0, 400
	for range cases {
		var weekly []float64
		for range 30 {
			weekly = append(weekly, max(0, 20+4*r.NormFloat64()))
		}
		rate, ok := planning.Reckon(weekly[:26])
		require.True(t, ok)
		if rate.Method == planning.Drift {
			drifts++
		}
		_, low, high := rate.Over(4)
		if sum := weekly[26] + weekly[27] + weekly[28] + weekly[29]; low <= sum && sum <= high {
			held++
		}
	}
	t.Logf("held %d of %d, a trend seen in %d", held, cases, drifts)
	assert.InDelta(t, 0.8, float64(held)/float64(cases), 0.12)
	assert.Less(t, drifts, cases/8, "there is none")
	var rising []float64
	for k := range 26 {
		rising = append(rising, 10+float64(k)+r.NormFloat64())
	}
	rate, _ := planning.Reckon(rising)
	assert.Equal(t, planning.Drift, rate.Method)
	assert.InDelta(t, 1, rate.Trend, 0.2)
	assert.InDelta(t, 36, rate.PerWeek, 2)
}
