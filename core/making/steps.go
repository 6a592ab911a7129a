package making

import (
	"slices"
	"strings"
	"time"

	"keencrock/core/formula"
	"keencrock/core/method"
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

// packedPieces are how many are in jars by now, as far as they were counted.
func (b *Batch) packedPieces() (n int) {
	for _, e := range b.happened(Packed, NoStep) {
		n += int(e.Count) * e.Pieces
	}
	return n
}

// PiecesEach is how many pieces are in each of so many jars that are filled of grams
// each, where all that was counted goes into them evenly; 0 where that is not so, or
// nothing was counted.
func (b *Batch) PiecesEach(jars int, eachG float64) int {
	left := b.Pieces() - b.packedPieces()
	all := float64(jars)*eachG >= evenly*b.LikelyG(0)
	if left <= 0 || jars <= 0 || left%jars != 0 || !all {
		return 0
	}
	return left / jars
}

// evenly is how much of what there is has to be in the jars for all pieces to be in them:
// a scale and crumbs take no more than the rest. From memory.
const evenly = 0.98

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

// Labels are what checks found that has to stand on the label.
func (b *Batch) Labels() []string {
	var out []string
	for _, e := range b.happened(Checked, NoStep) {
		if c, known := method.FindCheck(b.Steps[e.Step].Check); known {
			if a, known := c.Find(e.Answer); known && a.Label != "" && !slices.Contains(out, a.Label) {
				out = append(out, a.Label)
			}
		}
	}
	return out
}

// With is whom the batch was handed over to last; empty for who began it.
func (b *Batch) With() string {
	handed := b.happened(HandedOver, NoStep)
	if len(handed) == 0 {
		return ""
	}
	return handed[len(handed)-1].Text
}
