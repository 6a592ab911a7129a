package making

import (
	"slices"
	"time"

	"keencrock/core/curing"
	"keencrock/core/formula"
	"keencrock/core/material"
)

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
