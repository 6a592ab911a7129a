// Package curing says when what dries is dry.
package curing

import (
	"cmp"
	"math"
	"slices"
	"time"

	"keencrock/core/quantity"
)

// Drying is what is known of something that dries before it is weighed. It follows
// m(t) = end + (began − end)·e^(−kt), the thin-layer law (Lewis, Ind. Eng. Chem. 13,
// 1921), or where that leaves something over one of two others: two such terms, or a
// constant rate before it falls. Where none of them tells, that is said.
type Drying struct {
	// What its end can be, in grams; the same twice where the dry weight is known,
	// and zero where nothing is.
	EndLowG, EndHighG float64
	StepG             float64 // of the scale it is weighed on
}

// OfWater is what is known of something of which so much water and spirits can
// leave: it cannot lose more, and some of the water may stay for good, as crystals.
func OfWater(beganG, volatileG, stepG float64) Drying {
	return Drying{EndLowG: beganG - volatileG, EndHighG: beganG, StepG: stepG}
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
	TooFew State = iota // to say anything
	Losing
	Dry       // within half a per cent of its end
	NotDrying // it has not lost more than the scale can show
	Gaining   // it takes up water
	Stuck     // it has stopped, with more left in it than usually stays
	Unsure    // it loses, and nothing can be told of its end yet
)

// Forecast is what follows from the weighings. Ranges hold nineteen twentieths of
// what may be.
type Forecast struct {
	State   State
	BeganG  float64
	Began   time.Time
	EndG    quantity.Range // zero where it cannot be said
	PerHour quantity.Range // k
	// Ready is when it is within half a per cent of its end; zero where that cannot
	// be said.
	Ready, ReadyEarly, ReadyLate time.Time

	oneLaw bool  // the first law alone tells it
	law    shape // that is likeliest
}

// NearEnd is how near to its end it counts as dry, as a share of the end. Common
// practice.
const NearEnd = 0.005

// The rates that are looked at, an hour: from three weeks to six minutes for what
// is left to halve. From memory: an hour dries what is small, a day most, two days
// a tab.
const (
	slowest = math.Ln2 / 500
	fastest = math.Ln2 / 0.1
)

// usualStay is the share of the water that usually may stay in what is dry, bound
// to soda as crystals. From memory.
const usualStay = 0.6

// scaleSpread is how far a weighing may be off beside the step of the scale, as a
// share of the mass. From memory: a draught, a warm pan.
const scaleSpread = 0.0003

// regained is the share of all that was lost that it may seem to have gained by shaky
// weighings, and regainedMuch by a single one. From memory.
const (
	regained     = 0.08
	regainedMuch = 0.25
)

// EndIsKnown reports whether its dry weight is known.
func (d *Drying) EndIsKnown() bool { return d.EndHighG > 0 && d.EndLowG == d.EndHighG }

// needed is how many weighings at different times say something.
func (d *Drying) needed() int {
	if d.EndHighG > 0 {
		return 2
	}
	return 3
}

// Fit says what weighings mean, the first of them being how it began. Each rate is
// as likely as another by its logarithm, each end as another; what they give is
// weighed by how well it fits. It does not go on beyond what falls: a curve that
// does not has no ready time.
func (d *Drying) Fit(weighings []Weighing) Forecast {
	seen := slices.Clone(weighings)
	slices.SortStableFunc(seen, func(a, b Weighing) int { return a.At.Compare(b.At) })
	times := 0
	for i := range seen {
		if i == 0 || seen[i].At.After(seen[i-1].At) {
			times++
		}
	}
	if times == 0 {
		return Forecast{}
	}
	first, last := seen[0], seen[len(seen)-1]
	known := Forecast{BeganG: first.MassG, Began: first.At}
	if d.EndIsKnown() {
		known.EndG = quantity.Exactly(d.EndHighG)
	}
	if times < 2 || first.MassG <= 0 {
		return known
	}
	off := math.Hypot(max(d.StepG, 0.001)/math.Sqrt(12), scaleSpread*first.MassG)
	least := slices.MinFunc(seen, func(a, b Weighing) int { return cmp.Compare(a.MassG, b.MassG) })
	lost := first.MassG - least.MassG
	switch {
	case last.MassG > first.MassG+3*off || rises(seen, least.MassG, lost, off):
		known.State = Gaining
		return known
	case times < d.needed():
		return known
	case d.EndIsKnown() && last.MassG <= d.EndHighG*(1+NearEnd):
		return d.dryAt(seen, off, known)
	case lost < 3*off:
		known.State = NotDrying
		return known
	}
	f := fit(seen, d.EndLowG, d.highest(first.MassG), off)
	f.State = Losing
	switch {
	case d.EndIsKnown():
		if stopped, at := hasStopped(seen, off); stopped && at.Low > d.EndHighG*(1+NearEnd) {
			known.State = Stuck
			return known
		}
		if f.tellsTime() {
			return f
		}
		known.State = Unsure
		return known
	case f.isNear(last), f.hasSettled(seen, off):
		f.State = Dry
		f.notAfter(last.At)
		if d.EndHighG > 0 && f.EndG.Low-d.EndLowG > usualStay*(d.EndHighG-d.EndLowG) {
			f.State = Stuck
		}
	case !d.tells(&f):
		known.State = Unsure
		return known
	}
	return f
}

// widest is how many times the earliest time the latest may be for there to be an answer,
// and widestOfOne where the first law alone tells it: then what is likely is near the early
// end. From memory: a day or a week is no answer.
const (
	widest      = 6.0
	widestOfOne = 11.0
)

// tellsTime reports whether its band of time is one that can be told.
func (f *Forecast) tellsTime() bool {
	early, late := f.ReadyEarly.Sub(f.Began).Hours(), f.ReadyLate.Sub(f.Began).Hours()
	if f.oneLaw {
		return late <= widestOfOne*max(early, 1)
	}
	return late <= widest*max(early, 1)
}

// tells reports whether a forecast can be told. Where the water that can leave is known,
// and it dries by the first law, it can from the second weighing on; else only a band that
// is narrow enough says anything.
func (d *Drying) tells(f *Forecast) bool {
	return d.EndHighG > 0 && f.oneLaw || f.tellsTime()
}

// rises reports whether what had fallen to its least rises again: by much, or by
// something twice in a row.
func rises(seen []Weighing, leastG, lostG, off float64) bool {
	last, before := seen[len(seen)-1].MassG-leastG, seen[len(seen)-2].MassG-leastG
	some := max(4*off, regained*lostG)
	return last > max(4*off, regainedMuch*lostG) || last > some && before > some/2 && last >= before
}

// dryAt is the forecast of what has come to its known end.
func (d *Drying) dryAt(seen []Weighing, off float64, known Forecast) Forecast {
	f := known
	if known.BeganG > d.EndHighG*(1+NearEnd) {
		f = fit(seen, d.EndLowG, d.EndHighG, off)
	} else { // it was dry when it was weighed first
		f.Ready, f.ReadyEarly, f.ReadyLate = known.Began, known.Began, known.Began
	}
	f.State = Dry
	f.notAfter(seen[len(seen)-1].At)
	return f
}

// notAfter says that it was ready by a time.
func (f *Forecast) notAfter(t time.Time) {
	for _, at := range []*time.Time{&f.ReadyEarly, &f.Ready, &f.ReadyLate} {
		if at.After(t) {
			*at = t
		}
	}
}

// hasSettled reports whether, by the last two weighings alone, what is still to go
// is less than half a per cent: at a rate k it is the last loss over e^(kt) − 1.
func (f *Forecast) hasSettled(seen []Weighing, off float64) bool {
	if len(seen) < 3 {
		return false
	}
	before, last := seen[len(seen)-2], seen[len(seen)-1]
	grown := math.Expm1(f.PerHour.Low * last.At.Sub(before.At).Hours())
	return max(0, before.MassG-last.MassG)+2*off <= grown*NearEnd*last.MassG
}

// hasStopped reports whether what was weighed has come to some end, whatever is
// known of it.
func hasStopped(seen []Weighing, off float64) (bool, quantity.Range) {
	if len(seen) < 3 {
		return false, quantity.Range{}
	}
	before, last := seen[len(seen)-2], seen[len(seen)-1]
	if before.MassG-last.MassG > 2*off {
		return false, quantity.Range{} // it only dries slowly
	}
	f := fit(seen, 0, seen[0].MassG, off)
	return f.isNear(last), f.EndG
}

// isNear reports whether a weighing is at the end of a forecast, and that end
// narrow enough to say so.
func (f *Forecast) isNear(w Weighing) bool {
	return w.MassG-f.EndG.Value <= NearEnd*f.EndG.Value && f.EndG.High-f.EndG.Low < 2*NearEnd*f.EndG.Value
}

// highest is the most that its end can be.
func (d *Drying) highest(beganG float64) float64 {
	if d.EndHighG > 0 {
		return d.EndHighG
	}
	return beganG
}

// Curve is the likely mass at a time, for a forecast that has an end.
func (f *Forecast) Curve(t time.Time) float64 {
	hours := t.Sub(f.Began).Hours()
	if f.oneLaw || f.law == nil {
		return f.EndG.Value + (f.BeganG-f.EndG.Value)*single{f.PerHour.Value}.at(hours)
	}
	return f.EndG.Value + (f.BeganG-f.EndG.Value)*f.law.at(hours)
}

// Verdict is a state in one word: drying, dry, stuck, gaining or too-few.
func (s State) Verdict() string {
	return [...]string{"too-few", "drying", "dry", "stuck", "gaining", "stuck", "drying"}[s]
}

// Advice says what to do about a state, with the usual causes; empty where there is
// nothing to do but wait.
func (s State) Advice() string {
	switch s {
	case NotDrying:
		return "It has not lost anything yet: air above the humidity at which it lumps keeps it wet. Move it where it is drier and air gets round it."
	case Gaining:
		return "It gains weight: it takes water out of the air. Move it where it is drier, or pack it if it was dry."
	case Unsure:
		return "It dries, and by which law cannot be told yet: weigh it again tomorrow."
	case Stuck:
		return "It has stopped above its end: the air is too damp, or the binder was too much. Move it where it is drier, turn it, and weigh it again."
	}
	return ""
}
