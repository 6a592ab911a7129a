package making

import (
	"slices"
	"time"

	"keencrock/core/formula"
)

// longestPause is how long hands may be between two things they do at the bench: what is
// longer was a break, of which so much counts. From memory.
const longestPause = 20 * time.Minute

// byHand are the events between which hands are at work.
var byHand = []EventKind{Begun, Weighed, TookOut, LineAdded, StepDone, StepPassed, Checked, PotWeighed, Yielded, Counted, Broke, KeptBack, Packed, Completed}

// HandsAreTold reports whether somebody said how long the hands took.
func (b *Batch) HandsAreTold() bool {
	_, said := b.told()
	return said
}

// told is how long the hands took, as somebody said last.
func (b *Batch) told() (minutes float64, ok bool) {
	said := b.happened(HandsTold, NoStep)
	if len(said) == 0 {
		return 0, false
	}
	return said[len(said)-1].Seconds / 60, true
}

// Hands are the minutes that hands were at the bench: as somebody said, or counted from the
// log, from one thing that was done to the next. What stands on the rack takes none, and
// pauses count for no more than [longestPause]. known is false for a batch whose steps
// nobody wrote down, where the log does not tell.
func (b *Batch) Hands() (minutes float64, known bool) {
	if minutes, ok := b.told(); ok {
		return minutes, true
	}
	if len(b.by.Steps) == 0 || b.plainSteps() {
		return 0, false
	}
	var last *Event
	sum := time.Duration(0)
	for i := range b.events {
		e := &b.events[i]
		if b.undone[e.ID] || !slices.Contains(byHand, e.Kind) {
			continue
		}
		if last != nil && !b.isOnRack(e) && e.At.After(last.At) {
			sum += min(longestPause, e.At.Sub(last.At))
		}
		last = e
	}
	return sum.Minutes(), true
}

// plainSteps reports whether there are no steps but weighing out and filling.
func (b *Batch) plainSteps() bool {
	return !slices.ContainsFunc(b.Steps, func(s formula.Step) bool { return s.Kind != formula.Weigh && s.Kind != formula.Fill })
}

// isOnRack reports whether an event is about a step on the rack: the time before it was
// spent standing.
func (b *Batch) isOnRack(e *Event) bool {
	return e.Step != NoStep && e.Step < len(b.Steps) && b.Steps[e.Step].Kind.Info().Stage == formula.OnRack
}

// HeatMinutes are the minutes that something was on the stove: as its steps say, else as
// long as they took.
func (b *Batch) HeatMinutes() float64 {
	sum := 0.0
	for i := range b.Steps {
		closed, done := b.closed[i]
		if b.Steps[i].Kind != formula.Heat || !done || closed.Kind == StepPassed {
			continue
		}
		if said := b.Steps[i].For; !said.IsZero() {
			sum += (said.Low + said.High).Minutes() / 2
			continue
		}
		if since := b.since[i]; !since.IsZero() && closed.At.After(since) {
			sum += closed.At.Sub(since).Minutes()
		}
	}
	return sum
}
