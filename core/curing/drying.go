// Package curing says when what dries is dry.
package curing

import (
	"maps"
	"math"
	"slices"
	"time"

	"keencrock/core/quantity"
)

// Drying is a batch that dries: m(t) = end + (began − end)·e^(−kt), the thin-layer
// law (Lewis, Ind. Eng. Chem. 13, 1921).
type Drying struct {
	BeganG float64
	Began  time.Time
	// VolatileG is the water and spirits that went in: it cannot lose more. Some of
	// the water may stay for good, as crystal water.
	VolatileG float64
	StepG     float64 // of the scale it is weighed on
}

// Weighing is what it weighed at a time.
type Weighing struct {
	At    time.Time
	MassG float64
}

// State is what the weighings say.
type State int

// What can be said of what dries.
const (
	TooFew State = iota // nothing was weighed since it began
	Losing
	Dry       // within half a per cent of its end
	NotDrying // it has not lost more than the scale can show
	Gaining   // it takes up water
	Stuck     // it has stopped, with more left in it than usually stays
)

// Forecast is what follows from the weighings. Ranges hold the middle four fifths
// of what may be.
type Forecast struct {
	State   State
	EndG    quantity.Range
	PerHour quantity.Range // k
	// Ready is when it is within half a per cent of its end; zero where that cannot
	// be said.
	Ready, ReadyEarly, ReadyLate time.Time
}

// nearEnd is how near to its end it counts as dry, as a share of the end. Common
// practice.
const nearEnd = 0.005

// The rates that are looked at, an hour: from a week and a half to a quarter of an
// hour for what is left to halve. From memory: an hour dries what is small, a day
// most, two days a tab.
const (
	slowest = math.Ln2 / 250
	fastest = math.Ln2 / 0.25
	grid    = 120
)

// usualStay is the share of the water that usually may stay in what is dry, bound
// to soda as crystals. From memory.
const usualStay = 0.6

// scaleSpread is how far a weighing may be off beside the step of the scale, as a
// share of the mass. From memory: a draught, a warm pan.
const scaleSpread = 0.0003

// Fit says what weighings mean, by how likely each end and rate makes them (a grid
// over both, every rate as likely as another by its logarithm). It does not go on
// beyond what falls: a curve that does not has no ready time.
func (d *Drying) Fit(weighings []Weighing) Forecast {
	seen := slices.DeleteFunc(slices.Clone(weighings), func(w Weighing) bool { return !w.At.After(d.Began) })
	slices.SortStableFunc(seen, func(a, b Weighing) int { return a.At.Compare(b.At) })
	if len(seen) == 0 || d.VolatileG <= 0 {
		return Forecast{State: TooFew}
	}
	off := math.Hypot(max(d.StepG, 0.01)/math.Sqrt(12), scaleSpread*d.BeganG)
	last := seen[len(seen)-1]
	switch lost := d.BeganG - last.MassG; {
	case lost < -3*off:
		return Forecast{State: Gaining}
	case lost < 3*off:
		return Forecast{State: NotDrying}
	}
	if len(seen) > 1 && last.MassG > seen[len(seen)-2].MassG+4*off {
		return Forecast{State: Gaining}
	}
	f := d.likely(seen, off)
	if last.MassG-f.EndG.Value <= nearEnd*f.EndG.Value && f.EndG.High-f.EndG.Low < 2*nearEnd*f.EndG.Value {
		f.State = Dry
		if f.EndG.Low-(d.BeganG-d.VolatileG) > usualStay*d.VolatileG {
			f.State = Stuck
		}
	}
	return f
}

// likely weighs every end and rate by how well it gives the weighings.
func (d *Drying) likely(seen []Weighing, off float64) Forecast {
	var ends, rates, misfits [grid * grid]float64
	least := math.Inf(1)
	for i := range grid {
		end := d.BeganG - d.VolatileG*(float64(i)+0.5)/grid
		for j := range grid {
			rate := slowest * math.Pow(fastest/slowest, (float64(j)+0.5)/grid)
			misfit := 0.0
			for _, w := range seen {
				e := (w.MassG - d.at(end, rate, w.At)) / off
				misfit += e * e / 2
			}
			at := i*grid + j
			ends[at], rates[at], misfits[at] = end, rate, misfit
			least = min(least, misfit)
		}
	}
	var end, rate, ready spread
	for i, misfit := range misfits {
		weight := math.Exp(least - misfit)
		end.add(ends[i], weight)
		rate.add(rates[i], weight)
		ready.add(1+d.hoursUntilReady(ends[i], rates[i]), weight)
	}
	f := Forecast{State: Losing, EndG: end.middle(), PerHour: rate.middle()}
	hours := ready.middle()
	at := func(hours float64) time.Time { return d.Began.Add(time.Duration((hours - 1) * float64(time.Hour))) }
	f.Ready, f.ReadyEarly, f.ReadyLate = at(hours.Value), at(hours.Low), at(hours.High)
	return f
}

// spread sums how likely the values of something above zero are, in steps of a
// thousandth of their logarithm.
type spread struct {
	weights map[int]float64
	whole   float64
}

const perStep = 1e-3

func (s *spread) add(value, weight float64) {
	if s.weights == nil {
		s.weights = map[int]float64{}
	}
	if weight < 1e-12 {
		return
	}
	s.weights[int(math.Round(math.Log(value)/perStep))] += weight
	s.whole += weight
}

// middle is the range of the middle four fifths.
func (s *spread) middle() (r quantity.Range) {
	sum := 0.0
	for _, step := range slices.Sorted(maps.Keys(s.weights)) {
		before := sum
		sum += s.weights[step]
		value := math.Exp(float64(step) * perStep)
		for _, q := range []struct {
			share float64
			into  *float64
		}{{0.1, &r.Low}, {0.5, &r.Value}, {0.9, &r.High}} {
			if before < q.share*s.whole && sum >= q.share*s.whole {
				*q.into = value
			}
		}
	}
	return r
}

// at is the mass at a time.
func (d *Drying) at(end, rate float64, t time.Time) float64 {
	return end + (d.BeganG-end)*math.Exp(-rate*t.Sub(d.Began).Hours())
}

// hoursUntilReady is when it is within half a per cent of its end, in hours from
// its beginning.
func (d *Drying) hoursUntilReady(end, rate float64) float64 {
	return max(0, math.Log((d.BeganG-end)/(nearEnd*end))/rate)
}

// Curve is the likely mass at a time, for a forecast that has an end.
func (d *Drying) Curve(f Forecast, t time.Time) float64 {
	return d.at(f.EndG.Value, f.PerHour.Value, t)
}
