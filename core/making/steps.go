package making

import (
	"slices"
	"strings"
	"sync"
	"time"

	"keencrock/core/curing"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/stock"
)

// Step is the step at hand: the first that is not done; ok is false when all are.
func (b *Batch) Step() (step int, ok bool) {
	for i := range b.Steps {
		if !b.IsStepClosed(i) {
			return i, true
		}
	}
	return 0, false
}

// IsStepClosed reports whether a step is done or was passed over. Weighing out is
// when its lines are.
func (b *Batch) IsStepClosed(step int) bool {
	if _, closed := b.closed[step]; closed {
		return true
	}
	if b.Steps[step].Kind != formula.Weigh {
		return false
	}
	for i := range b.Lines {
		if status := b.statusOf(i); status.IsOpen() && b.isWeighedAt(i, step) {
			return false
		}
	}
	return true
}

// Closed is what closed a step: that it was done, passed over or checked. ok is
// false for one that is open, and for one that the scale closed.
func (b *Batch) Closed(step int) (e Event, ok bool) {
	e, ok = b.closed[step]
	return e, ok
}

// Since is when a step came to hand; zero for one that has not.
func (b *Batch) Since(step int) time.Time { return b.since[step] }

// addsSlowly reports whether a line goes in little by little at a step, where it
// takes what it takes.
func (b *Batch) addsSlowly(line int) bool {
	return slices.ContainsFunc(b.Steps, func(s formula.Step) bool { return s.Kind == formula.Add && slices.Contains(s.Lines, line) })
}

// isWeighedAt reports whether a line is weighed at a step: at the one that adds it
// slowly, or where it is weighed out.
func (b *Batch) isWeighedAt(line, step int) bool {
	s := &b.Steps[step]
	switch {
	case b.Lines[line].Added:
		return false
	case s.Kind == formula.Add:
		return slices.Contains(s.Lines, line)
	case s.Kind != formula.Weigh || b.addsSlowly(line):
		return false
	}
	return len(s.Lines) == 0 || slices.Contains(s.Lines, line)
}

// SlowlyAt are the lines that a step adds little by little.
func (b *Batch) SlowlyAt(step int) []int {
	if b.Steps[step].Kind != formula.Add {
		return nil
	}
	return b.Steps[step].Lines
}

func lowered(name string) string { return strings.ToLower(name[:1]) + name[1:] }

// happened are the events of a kind that were not taken back, of a step unless that
// is NoStep, in the order recorded.
func (b *Batch) happened(kind EventKind, step int) []Event {
	var out []Event
	for _, e := range b.events {
		if e.Kind == kind && !b.undone[e.ID] && (step == NoStep || e.Step == step) {
			out = append(out, e)
		}
	}
	return out
}

// IsUndone reports whether an event was taken back.
func (b *Batch) IsUndone(id int64) bool { return b.undone[id] }

// Timer runs at the bench.
type Timer struct {
	ID   int64 // of the event that set it
	Step int
	Set  time.Time
	Ends time.Time
}

// Timers are those that run or ring, the first to end in front.
func (b *Batch) Timers() []Timer {
	var timers []Timer
	if !b.State.IsOpen() {
		return nil
	}
	for _, e := range b.happened(TimerSet, NoStep) {
		timers = append(timers, Timer{e.ID, e.Step, e.At, e.At.Add(time.Duration(e.Seconds * float64(time.Second)))})
	}
	slices.SortStableFunc(timers, func(x, y Timer) int { return x.Ends.Compare(y.Ends) })
	return timers
}

// Pieces are how many whole pieces there are, as they were counted last; 0 when they
// were not.
func (b *Batch) Pieces() int {
	counted := b.happened(Counted, NoStep)
	if len(counted) == 0 {
		return 0
	}
	last := counted[len(counted)-1]
	n := int(last.Count)
	for _, e := range b.happened(Broke, NoStep) {
		if e.ID > last.ID {
			n -= int(e.Count)
		}
	}
	return max(0, n)
}

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

// DueKind is what sort of thing is due.
type DueKind string

// What is due: something to do at the bench, a timer, stirring, a weighing of what
// dries, or that what stands is ready.
const (
	DueStep    DueKind = "step"
	DueTimer   DueKind = "timer"
	DueStir    DueKind = "stir"
	DueWeighIn DueKind = "weigh-in"
	DueReady   DueKind = "ready"
)

// IsPressing reports whether something can be late. Work at the bench is done when it
// is done, and a weighing only tells more.
func (k DueKind) IsPressing() bool { return k != DueStep && k != DueWeighIn }

// Due is something that waits to be done to a batch.
type Due struct {
	Kind DueKind
	What string
	Step int
	At   time.Time // since when, or by when
}

// soonestWeighIn and latestWeighIn bound how long after a weighing of what dries the
// next is asked for. From memory.
const (
	soonestWeighIn = time.Hour
	latestWeighIn  = 12 * time.Hour
)

// Due says what waits to be done to a batch, the first in front.
func (b *Batch) Due(now time.Time) []Due {
	if !b.State.IsOpen() {
		return nil
	}
	var due []Due
	for _, t := range b.Timers() {
		due = append(due, Due{DueTimer, lowered(b.Steps[t.Step].Kind.Info().Name), t.Step, t.Ends})
	}
	step, ok := b.Step()
	switch {
	case !ok || b.Steps[step].Kind.Info().Stage == formula.AtFilling:
		due = append(due, Due{DueStep, "pack it", max(0, min(step, len(b.Steps)-1)), now})
	case b.Steps[step].Kind.Info().Stage == formula.OnRack:
		due = append(due, b.standing(step)...)
	default:
		what := lowered(b.Steps[step].Kind.Info().Name)
		if line, open := b.Next(); open && b.Steps[step].Kind == formula.Weigh {
			what = "weigh " + material.InSentence(b.Lines[line].Name)
		}
		due = append(due, Due{DueStep, what, step, now})
	}
	slices.SortStableFunc(due, func(x, y Due) int { return x.At.Compare(y.At) })
	return due
}

// standing says what is due of a step that stands.
func (b *Batch) standing(step int) []Due {
	s := &b.Steps[step]
	since := b.since[step]
	from, _ := b.ReadyAt(step)
	var due []Due
	if !from.IsZero() {
		due = append(due, Due{DueReady, readyWord(s.Kind), step, from})
	}
	if s.Stir.Low > 0 {
		last := since
		for _, e := range b.happened(Stirred, step) {
			if e.At.After(last) {
				last = e.At
			}
		}
		if next := last.Add(s.Stir.Low); from.IsZero() || next.Before(from) {
			due = append(due, Due{DueStir, "stir", step, next})
		}
	}
	if s.ByWeight {
		if at, wanted := b.nextWeighIn(step); wanted {
			due = append(due, Due{DueWeighIn, "weigh it", step, at})
		}
	}
	return due
}

var readyWords = map[formula.StepKind]string{formula.Dry: "dry", formula.Cool: "cool", formula.Infuse: "strain it", formula.Steep: "strain it", formula.Ferment: "first draw", formula.Rest: "rested"}

func readyWord(kind formula.StepKind) string {
	if w, ok := readyWords[kind]; ok {
		return w
	}
	return "done"
}

// ReadyAt is from when to when what stands at a step is ready: by its weight where it
// dries and was weighed, else by how long it is to stand. Zero where nothing is said.
func (b *Batch) ReadyAt(step int) (from, to time.Time) {
	s := &b.Steps[step]
	since := b.since[step]
	if s.ByWeight {
		if _, f := b.DryingAt(step); !f.Ready.IsZero() && (f.State == curing.Losing || f.State == curing.Dry) {
			return f.Ready, f.ReadyLate
		}
	}
	if s.For.IsZero() || since.IsZero() {
		return time.Time{}, time.Time{}
	}
	return since.Add(s.For.Low), since.Add(s.For.High)
}

// nextWeighIn is when what dries is to be weighed next.
func (b *Batch) nextWeighIn(step int) (at time.Time, wanted bool) {
	in, f := b.DryingAt(step)
	if len(in) == 0 {
		return b.since[step], true
	}
	last := in[len(in)-1].At
	usual := b.Steps[step].For.Low
	if usual == 0 {
		usual = 24 * time.Hour
	}
	switch f.State {
	case curing.Dry:
		return time.Time{}, false
	case curing.Losing:
		if next := f.Ready; next.After(last.Add(soonestWeighIn)) && len(in) > 2 {
			return next, true
		}
	}
	return last.Add(min(max(usual/4, soonestWeighIn), latestWeighIn)), true
}

// Budget is how far a line that is added slowly has come.
type Budget struct {
	Line    int
	UsedG   float64
	TargetG float64
	// ShareOfDry is what is in by now, as a share of what is not liquid.
	ShareOfDry float64
}

// BudgetOf says how far a line that is added slowly has come.
func (b *Batch) BudgetOf(line int) Budget {
	used, dry := b.WeighedOf(line), 0.0
	for _, s := range b.inBowl {
		if !b.addsSlowly(s.Line) {
			dry += s.Grams * (1 - b.Lines[s.Line].VolatileShare)
		}
	}
	out := Budget{Line: line, UsedG: used, TargetG: b.Lines[line].TargetG}
	if dry > stock.Tolerance {
		out.ShareOfDry = used / dry
	}
	return out
}

// looks is what what stands looks like when it is right. Common practice.
var looks = map[formula.StepKind]string{
	formula.Dry:     "Pale all through, rings when two are knocked together, no longer cold to the touch.",
	formula.Infuse:  "The liquid has taken the colour; everything is under it.",
	formula.Steep:   "Amber and foaming when it is shaken; everything is under it.",
	formula.Ferment: "Smells sour and of fruit, not foul; no fur; bubbles rise when it is stirred.",
	formula.Cool:    "The side of the pot is no warmer than the hand.",
	formula.Rest:    "Clear on top, what is fine has gone to the bottom.",
}

// Looks says what something that stands looks like when it is right; empty for what
// does not stand.
func Looks(kind formula.StepKind) string { return looks[kind] }
