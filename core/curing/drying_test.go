package curing_test

import (
	"math"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/curing"
)

var began = time.Date(2026, 11, 20, 18, 0, 0, 0, time.UTC)

func hour(h float64) time.Time { return began.Add(time.Duration(h * float64(time.Hour))) }

// truth is a batch whose end and rate are known: e^−1 of what is to go is left
// after 1/k hours (Lewis 1921).
func truth(beganG, endG, perHour, h float64) float64 {
	return endG + (beganG-endG)*math.Exp(-perHour*h)
}

func weighed(step float64, hours []float64, mass func(h float64) float64) []curing.Weighing {
	out := make([]curing.Weighing, len(hours))
	for i, h := range hours {
		out[i] = curing.Weighing{At: hour(h), MassG: math.Round(mass(h)/step) * step}
	}
	return out
}

func TestWeighingsGiveTheCurveTheyAreFrom(t *testing.T) {
	d := curing.Drying{BeganG: 1000, Began: began, VolatileG: 60, StepG: 0.1}
	mass := func(h float64) float64 { return truth(1000, 955, 0.1, h) }
	assert.InDelta(t, 955+45/math.E, mass(10), 1e-9)
	f := d.Fit(weighed(0.1, []float64{3, 7, 11, 16}, mass))
	assert.Equal(t, curing.Losing, f.State)
	assert.InDelta(t, 955, f.EndG.Value, 2)
	assert.InDelta(t, 0.1, f.PerHour.Value, 0.01)
	ready := math.Log(45/(0.005*955)) / 0.1 // 22.4 h
	assert.InDelta(t, ready, f.Ready.Sub(began).Hours(), 2)
	assert.True(t, f.ReadyEarly.Before(f.Ready) && f.Ready.Before(f.ReadyLate))
	assert.InDelta(t, mass(15), d.Curve(f, hour(15)), 1)
	f = d.Fit(weighed(0.1, []float64{4, 10, 20, 30, 60, 80}, mass))
	assert.Equal(t, curing.Dry, f.State)
}

func TestMoreWeighingsNarrowTheAnswer(t *testing.T) {
	d := curing.Drying{BeganG: 1000, Began: began, VolatileG: 60, StepG: 1}
	mass := func(h float64) float64 { return truth(1000, 955, 0.08, h) }
	width := math.Inf(1)
	for n := 1; n <= 5; n++ {
		f := d.Fit(weighed(1, []float64{3, 8, 16, 24, 40}[:n], mass))
		next := f.ReadyLate.Sub(f.ReadyEarly).Hours()
		assert.Less(t, next, width*1.02, "%d weighings", n)
		width = next
	}
	assert.Less(t, width, 15.0)
}

func TestWhatDoesNotFallIsNotCarriedOn(t *testing.T) {
	d := curing.Drying{BeganG: 1000, Began: began, VolatileG: 60, StepG: 1}
	at := func(masses ...float64) (out []curing.Weighing) {
		for i, m := range masses {
			out = append(out, curing.Weighing{At: hour(float64(10 * (i + 1))), MassG: m})
		}
		return out
	}
	for _, c := range []struct {
		weighings []curing.Weighing
		state     curing.State
	}{
		{nil, curing.TooFew},
		{[]curing.Weighing{{At: began.Add(-time.Hour), MassG: 900}}, curing.TooFew},
		{at(1000), curing.NotDrying},
		{at(1012), curing.Gaining},
		{at(960, 980), curing.Gaining},
		{at(990, 988, 988, 988, 988), curing.Stuck},
		{at(970, 945, 943, 943, 943), curing.Dry},
	} {
		f := d.Fit(c.weighings)
		assert.Equal(t, c.state, f.State, "%v", c.weighings)
		if c.state == curing.NotDrying || c.state == curing.Gaining || c.state == curing.TooFew {
			assert.True(t, f.Ready.IsZero())
		}
	}
	assert.Equal(t, curing.TooFew, (&curing.Drying{BeganG: 1000, Began: began, StepG: 1}).Fit(at(990)).State, "nothing in it can dry")
}

// The band says four fifths: of 200 batches with ends and rates as they come, the
// true time falls into it in most.
func TestTheBandHoldsWhatItSays(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 11))
	inside, all := 0, 0
	for range 200 {
		d := curing.Drying{BeganG: 300 + 2000*r.Float64(), Began: began, StepG: 1}
		d.VolatileG = d.BeganG * (0.03 + 0.07*r.Float64())
		end := d.BeganG - d.VolatileG*(0.3+0.65*r.Float64())
		rate := math.Exp(math.Log(0.02) + (math.Log(0.5)-math.Log(0.02))*r.Float64())
		f := d.Fit(weighed(1, []float64{2, 6, 12, 20}, func(h float64) float64 { return truth(d.BeganG, end, rate, h) }))
		if f.State != curing.Losing && f.State != curing.Dry {
			continue
		}
		all++
		ready := hour(math.Log((d.BeganG-end)/(0.005*end)) / rate)
		if !ready.Before(f.ReadyEarly) && !ready.After(f.ReadyLate) {
			inside++
		}
	}
	require.Greater(t, all, 150)
	assert.Greater(t, float64(inside)/float64(all), 0.7)
}

func BenchmarkFit(b *testing.B) {
	d := curing.Drying{BeganG: 1000, Began: began, VolatileG: 60, StepG: 1}
	w := weighed(1, []float64{4, 10, 20, 30, 40}, func(h float64) float64 { return truth(1000, 955, 0.1, h) })
	for b.Loop() {
		d.Fit(w)
	}
}
