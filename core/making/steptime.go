package making

import (
	"slices"
	"time"

	"keencrock/core/formula"
	"keencrock/core/quantity"
)

// StepTime is how long hands were at a step.
type StepTime struct {
	Kind    formula.StepKind
	Minutes float64
}

// leastAtStep is the shortest time at a step that counts: what is ticked off faster was done
// before it was ticked. From memory.
const leastAtStep = 20 * time.Second

// StepTimes are how long hands were at the steps that were done at the bench: from one thing
// that was done to the next, each given to the step it was done for, pauses for no more than
// [longestPause]. Steps that were passed over, that stood on the rack, or that were ticked off
// at once with others are none.
func (b *Batch) StepTimes() []StepTime {
	if len(b.by.Steps) == 0 || b.plainSteps() {
		return nil
	}
	at := make([]time.Duration, len(b.Steps))
	weigh := slices.IndexFunc(b.Steps, func(s formula.Step) bool { return s.Kind == formula.Weigh })
	fill := slices.IndexFunc(b.Steps, func(s formula.Step) bool { return s.Kind == formula.Fill })
	worked := map[int]bool{} // steps whose work is seen without being ticked off
	var last *Event
	waiting := time.Duration(0) // of what was done for no step
	for i := range b.events {
		e := &b.events[i]
		if b.undone[e.ID] || !slices.Contains(byHand, e.Kind) {
			continue
		}
		if last != nil && !b.isOnRack(e) && e.At.After(last.At) {
			step := e.Step
			switch e.Kind {
			case Weighed, TookOut, LineAdded:
				step = weigh
			case Yielded, Counted, Packed:
				step = fill
			}
			if step != e.Step && step >= 0 {
				worked[step] = true
			}
			waiting += min(longestPause, e.At.Sub(last.At))
			if step >= 0 && step < len(at) {
				at[step] += waiting
				waiting = 0
			}
		}
		if b.isOnRack(e) {
			waiting = 0
		}
		last = e
	}
	var out []StepTime
	for i, took := range at {
		closed, done := b.closed[i]
		if !done && !worked[i] || closed.Kind == StepPassed || took < leastAtStep {
			continue
		}
		out = append(out, StepTime{b.Steps[i].Kind, took.Minutes()})
	}
	return out
}

// UsualMinutes is how long hands are usually at a step of a kind, for a batch of a small
// workshop; zero for what stands by itself. All are from memory, ours, and wide.
func UsualMinutes(kind formula.StepKind) quantity.Range {
	return usualMinutes[kind]
}

var usualMinutes = map[formula.StepKind]quantity.Range{
	formula.Weigh:    {Low: 4, Value: 10, High: 25},
	formula.Dissolve: {Low: 2, Value: 6, High: 15},
	formula.Mix:      {Low: 2, Value: 6, High: 15},
	formula.Whip:     {Low: 2, Value: 5, High: 12},
	formula.Blend:    {Low: 2, Value: 6, High: 15},
	formula.Rub:      {Low: 4, Value: 10, High: 25},
	formula.Grate:    {Low: 5, Value: 12, High: 30},
	formula.Add:      {Low: 2, Value: 6, High: 18},
	formula.Heat:     {Low: 4, Value: 10, High: 30},
	formula.Strain:   {Low: 3, Value: 8, High: 20},
	formula.MakeUp:   {Low: 1, Value: 3, High: 8},
	formula.Check:    {Low: 1, Value: 2, High: 6},
	formula.Press:    {Low: 8, Value: 20, High: 50},
	formula.Fill:     {Low: 5, Value: 12, High: 35},
}

// HandsBySteps are the minutes of hands that steps come to, each of its kind as usual gives it;
// a formula without steps is weighed out and filled.
func HandsBySteps(steps []formula.Step, usual func(formula.StepKind) quantity.Range) quantity.Range {
	sum := quantity.Range{}
	add := func(kind formula.StepKind) {
		one := usual(kind)
		sum = quantity.Range{Low: sum.Low + one.Low, Value: sum.Value + one.Value, High: sum.High + one.High}
	}
	for i := range steps {
		add(steps[i].Kind)
	}
	if len(steps) == 0 {
		add(formula.Weigh)
		add(formula.Fill)
	}
	return sum
}
