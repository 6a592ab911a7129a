package making

import (
	"slices"
	"sync"

	"keencrock/core/curing"
	"keencrock/core/formula"
)

// weighIns are the weighings of what dries at a step, the first in time in front.
func (b *Batch) weighIns(step int) []Event {
	in := b.happened(WeighedIn, step)
	slices.SortStableFunc(in, func(x, y Event) int { return x.At.Compare(y.At) })
	return in
}

// dryings are the forecasts that were worked out of a batch, by step. They may be
// asked for by many at once.
type dryings struct {
	mu sync.Mutex
	of map[int]drying
}

type drying struct {
	events    int // as many as there were then
	weighings []curing.Weighing
	forecast  curing.Forecast
}

// DryingAt says how what dries at a step goes on: what it was weighed at, and what
// follows. Pieces that broke in between are counted as if they were still there. It
// is worked out once, until something more happens.
func (b *Batch) DryingAt(step int) ([]curing.Weighing, curing.Forecast) {
	if _, weighed := b.firstIn[step]; !weighed {
		return nil, curing.Forecast{}
	}
	b.dried.mu.Lock()
	defer b.dried.mu.Unlock()
	if d, known := b.dried.of[step]; known && d.events == len(b.events) {
		return d.weighings, d.forecast
	}
	weighings := b.asIfWhole(b.weighIns(step))
	d := drying{len(b.events), weighings, b.forecast(weighings)}
	if b.dried.of == nil {
		b.dried.of = map[int]drying{}
	}
	b.dried.of[step] = d
	return d.weighings, d.forecast
}

// DriedHours are the hours that it took to dry in the air, as its weighings say; known is
// false where they do not say that it is dry.
func (b *Batch) DriedHours() (hours float64, known bool) {
	for i := range b.Steps {
		if b.Steps[i].Kind != formula.Dry {
			continue
		}
		if _, f := b.DryingAt(i); f.State == curing.Dry && f.Ready.After(f.Began) {
			return f.Ready.Sub(f.Began).Hours(), true
		}
	}
	return 0, false
}

// asIfWhole are weighings of what dries, with what broke in between added.
func (b *Batch) asIfWhole(in []Event) []curing.Weighing {
	broke := b.happened(Broke, NoStep)
	weighings := make([]curing.Weighing, len(in))
	for i, e := range in {
		lost := 0.0
		for _, gone := range broke {
			if !happenedBefore(in[0], gone) || !happenedBefore(gone, e) {
				continue
			}
			lost += gone.Grams
			if left := float64(b.Pieces()); gone.Grams == 0 && left > 0 {
				lost += e.Grams * gone.Count / left
			}
		}
		weighings[i] = curing.Weighing{At: e.At, MassG: e.Grams + lost}
	}
	return weighings
}

// forecast is what follows from weighings and the water that is known to be in it.
func (b *Batch) forecast(weighings []curing.Weighing) curing.Forecast {
	d := curing.Drying{StepG: b.by.ScaleG}
	beganG, leastG := weighings[0].MassG, weighings[0].MassG
	for _, w := range weighings {
		leastG = min(leastG, w.MassG)
	}
	// what has lost more than was known to be in it had more in it
	if volatileG := b.VolatileShare() * beganG; volatileG > beganG-leastG {
		d = curing.OfWater(beganG, volatileG, b.by.ScaleG)
	}
	return d.Fit(weighings)
}

// happenedBefore reports whether an event happened before another; of one moment the
// one recorded first did.
func happenedBefore(a, b Event) bool {
	return a.At.Before(b.At) || a.At.Equal(b.At) && a.ID < b.ID
}

// VolatileShare is the share of what was weighed in that can dry off.
func (b *Batch) VolatileShare() float64 {
	volatileG, whole := 0.0, 0.0
	for _, s := range b.inBowl {
		volatileG += s.Grams * b.Lines[s.Line].VolatileShare
		whole += s.Grams
	}
	if whole <= 0 {
		return 0
	}
	return volatileG / whole
}
