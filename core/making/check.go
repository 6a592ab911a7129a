package making

import (
	"math"
	"slices"

	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/method"
	"keencrock/core/stock"
)

// Check refuses an event that cannot be, without letting it happen. The error is a
// [*Refusal].
func (b *Batch) Check(e Event) error {
	switch e.Kind {
	case Begun, Noted:
		return nil
	case Measured:
		if e.PH == nil {
			return refuse("bad-value", "ph", "Say what was measured.")
		}
		return nil
	case HandsTold:
		if e.Seconds <= 0 || e.Seconds > mostHandsS {
			return refuse("bad-value", "seconds", "Say how many minutes hands were at it: more than none, and no more than a week of them.")
		}
		return nil
	case Pictured:
		return b.checkPicture()
	case Amended:
		return b.checkAmended(&e)
	case Undone:
		if was := b.Event(e.Corrects); was != nil && was.Kind == Pictured && !b.undone[was.ID] {
			return nil // who is in it may want it away, whenever that is
		}
	}
	if !b.State.IsOpen() {
		return b.isClosed()
	}
	switch e.Kind {
	case Weighed, TookOut:
		return b.checkWeighing(&e)
	case Skipped:
		return b.checkSkip(e.Line)
	case TakenIn:
		return b.checkLine(e.Line)
	case LineAdded:
		return b.checkAdded(&e)
	case StepDone, StepPassed, StepOpened:
		return b.checkStep(&e)
	case Checked:
		return b.checkAnswer(&e)
	case TimerSet:
		return b.checkTimer(&e)
	case TimerEnded, Undone:
		return b.checkTakenBack(&e)
	case PotWeighed, Yielded, Counted, WeighedIn, KeptBack, Broke, Stirred:
		return b.checkMeasure(&e)
	case HandedOver:
		if e.Text == "" {
			return refuse("bad-value", "text", "Say to whom.")
		}
		return nil
	case Packed:
		return b.checkPacked(&e)
	case Completed, GivenUp:
		return nil
	}
	return refuse("bad-value", "kind", "Nothing of the kind %q happens to a batch.", e.Kind)
}

// mostHandsS is the longest that hands are at one batch: a week of days and nights.
const mostHandsS = 7 * 24 * 3600

func (b *Batch) isClosed() error {
	return refuse("batch-closed", "", "Batch %s is %s: nothing can be changed in it. Log a new batch instead.", b.Code, b.State)
}

// checkIsStep refuses a step that the batch does not have.
func (b *Batch) checkIsStep(step int) error {
	if step < 0 || step >= len(b.Steps) {
		return refuse("no-such-step", "step", "Batch %s has %d steps; there is no step %d.", b.Code, len(b.Steps), step+1)
	}
	return nil
}

func (b *Batch) checkStep(e *Event) error {
	if err := b.checkIsStep(e.Step); err != nil {
		return err
	}
	closed, isClosed := b.closed[e.Step]
	step := &b.Steps[e.Step]
	switch {
	case e.Kind == StepOpened && !isClosed:
		return refuse("step-open", "step", "Step %d is not done yet.", e.Step+1)
	case e.Kind == StepOpened && b.jars > 0:
		return refuse("packed", "step", "Jars are filled of batch %s: there is no going back.", b.Code)
	case e.Kind == StepOpened:
		return nil
	case isClosed:
		return refuse("step-done", "step", "Step %d, %s, was done already, by %s at %s: nothing was changed.", e.Step+1, lowered(step.Kind.Info().Name), closed.By, closed.At.Format("15:04"))
	case step.Kind == formula.Weigh:
		return refuse("not-weighed", "step", "Weighing out is done when its lines are weighed.")
	case step.Kind.Info().Stage == formula.AtFilling && e.Kind == StepDone:
		return refuse("not-packed", "step", "Filling is done when the batch is finished.")
	case step.Kind == formula.Check && e.Kind == StepDone && step.Check != "":
		return refuse("not-answered", "step", "Say what you see.")
	}
	return nil
}

// isGood reports whether an answer says that it is as it should be.
func (b *Batch) isGood(e Event) bool {
	c, known := method.FindCheck(b.Steps[e.Step].Check)
	if !known {
		return e.Answer == "good"
	}
	a, known := c.Find(e.Answer)
	return known && a.Good
}

func (b *Batch) checkAnswer(e *Event) error {
	if err := b.checkIsStep(e.Step); err != nil {
		return err
	}
	if closed, done := b.closed[e.Step]; done {
		return refuse("step-done", "step", "Step %d was checked already, by %s at %s: nothing was changed.", e.Step+1, closed.By, closed.At.Format("15:04"))
	}
	c, known := method.FindCheck(b.Steps[e.Step].Check)
	if b.Steps[e.Step].Kind != formula.Check {
		return refuse("no-check", "step", "Step %d asks nothing.", e.Step+1)
	}
	if known {
		if _, ok := c.Find(e.Answer); !ok {
			return refuse("bad-value", "answer", "That is none of the answers to “%s”", c.Question)
		}
	} else if e.Answer != "good" && e.Answer != "not" {
		return refuse("bad-value", "answer", "Say whether it is good, or not.")
	}
	return nil
}

// longestTimer is the longest a timer runs: a hundred days, in seconds.
const longestTimer = 100 * 24 * 3600

func (b *Batch) checkTimer(e *Event) error {
	if err := b.checkIsStep(e.Step); err != nil {
		return err
	}
	if !(e.Seconds >= 1 && e.Seconds <= longestTimer) {
		return refuse("bad-value", "seconds", "A timer runs for between a second and a hundred days.")
	}
	return nil
}

// MostPictures is how many photos the log of a batch takes: more than anyone looks at.
const MostPictures = 40

func (b *Batch) checkPicture() error {
	n := 0
	for _, e := range b.events {
		if e.Kind == Pictured && !b.undone[e.ID] {
			n++
		}
	}
	if n >= MostPictures {
		return refuse("too-many-pictures", "jpeg", "Batch %s has %d photos: take one back first.", b.Code, n)
	}
	return nil
}

// takenBack are the kinds that can be undone. What moved stock cannot.
var takenBack = []EventKind{StepDone, StepPassed, StepOpened, Checked, TimerSet, LineAdded, PotWeighed, Yielded, Counted, Broke, WeighedIn, Stirred, HandedOver}

func (b *Batch) checkTakenBack(e *Event) error {
	was := b.Event(e.Corrects)
	switch {
	case was == nil:
		return refuse("no-such-event", "event", "Batch %s has no such event.", b.Code)
	case b.undone[e.Corrects]:
		return refuse("undone", "event", "That was taken back already: nothing was changed.")
	case e.Kind == TimerEnded && was.Kind != TimerSet:
		return refuse("bad-value", "event", "That is no timer.")
	case e.Kind == TimerEnded:
		return nil
	case !slices.Contains(takenBack, was.Kind):
		return refuse("bad-value", "event", "That cannot be taken back. Put it right, or note what was wrong.")
	case b.jars > 0:
		return refuse("packed", "event", "Jars are filled of batch %s: there is no going back.", b.Code)
	}
	return nil
}

// grown is how much more than at first what dries may weigh before it is not the
// same thing on the pan. From memory.
const grown = 1.25

func (b *Batch) checkMeasure(e *Event) error {
	if e.Step != NoStep || e.Kind == WeighedIn || e.Kind == Stirred {
		if err := b.checkIsStep(e.Step); err != nil {
			return err
		}
	}
	bad := func(v float64) bool { return !(v > 0 && v <= mostG) }
	switch e.Kind {
	case Stirred:
		return nil
	case Counted, Broke:
		if bad(e.Count) || e.Count != math.Trunc(e.Count) {
			return refuse("bad-value", "count", "Count whole pieces.")
		}
		if e.Grams < 0 || e.Grams > mostG || math.IsNaN(e.Grams) {
			return refuse("bad-value", "grams", "What they weigh is a mass in grams.")
		}
		if have := b.Pieces(); e.Kind == Broke && have > 0 && int(e.Count) > have {
			return refuse("bad-value", "count", "There are only %d pieces.", have)
		}
		return nil
	}
	if bad(e.Grams) {
		return refuse("bad-value", "grams", "A weight is above 0 g.")
	}
	if first, has := b.firstIn[e.Step]; e.Kind == WeighedIn && has && e.At.After(first.At) && e.Grams > grown*first.Grams {
		return refuse("grown", "grams", "It weighed %g g at first and would have grown to %g g: look what stands on the pan with it, or weigh it without its tray.", first.Grams, e.Grams)
	}
	return nil
}

// beyond is how much more than what went in may come out before it is not
// believed: a scale and a tare are no better than that. From memory.
const beyond = 1.1

// mostPieces is the most that a jar can hold.
const mostPieces = 10_000

func (b *Batch) checkPacked(e *Event) error {
	if err := b.ReadyToPack(); err != nil {
		return err
	}
	switch {
	case !(e.Count >= 1 && e.Count <= 10_000) || e.Count != math.Trunc(e.Count):
		return refuse("bad-value", "jars", "So many jars cannot be filled.")
	case !(e.Grams > 0 && e.Grams <= mostG):
		return refuse("bad-value", "each_g", "Say what each holds.")
	case e.Pieces < 0 || e.Pieces > mostPieces:
		return refuse("bad-value", "pieces", "So many pieces go into no jar.")
	}
	if have := b.Pieces(); have > 0 && b.packedPieces()+int(e.Count)*e.Pieces > have {
		return refuse("bad-value", "pieces", "There are %d pieces, and %d are in jars: %d jars of %d are more than that. Count them again, or say how many are in each.",
			have, b.packedPieces(), int(e.Count), e.Pieces)
	}
	return b.CheckYield(b.packedG+e.Count*e.Grams, "each_g")
}

// CheckYield refuses more grams to come out than can be believed of what went in; field
// is what said so.
func (b *Batch) CheckYield(grams float64, field string) error {
	if grams > beyond*b.WeighedG() {
		return refuse("too-much-packed", field, "%g g would come out of %g g that went in: weigh it again, without its jar or vessel.", grams, b.WeighedG())
	}
	return nil
}

func (b *Batch) checkAdded(e *Event) error {
	switch {
	case e.Item == "" || e.Name == "":
		return refuse("bad-value", "material", "Say what is added.")
	case !(e.Grams > 0 && e.Grams <= mostG):
		return refuse("bad-value", "grams", "Say how much of it, in grams.")
	case len(b.Lines) >= formula.MaxLines:
		return refuse("too-many-lines", "", "A batch has at most %d lines.", formula.MaxLines)
	case b.jars > 0:
		return refuse("packed", "", "Jars are filled of batch %s: nothing more goes into it.", b.Code)
	}
	return nil
}

func (b *Batch) checkLine(line int) error {
	if line < 0 || line >= len(b.Lines) {
		return refuse("no-such-line", "line", "Batch %s has %d lines; there is no line %d.", b.Code, len(b.Lines), line+1)
	}
	return nil
}

// mostG is the most that one weighing can be.
const mostG = 1e7

func (b *Batch) checkWeighing(e *Event) error {
	if err := b.checkLine(e.Line); err != nil {
		return err
	}
	if e.Grams == 0 || math.Abs(e.Grams) > mostG || math.IsNaN(e.Grams) {
		return refuse("bad-value", "grams", "A weighing is a mass in grams other than nothing.")
	}
	if b.jars > 0 {
		return refuse("packed", "", "Jars are filled of batch %s: nothing more goes into it or out of it.", b.Code)
	}
	return b.checkLeft(e.Line, e.Lot, e.LotCode, e.Grams)
}

// checkLeft refuses to take more out of a line than is in it.
func (b *Batch) checkLeft(line int, lot stock.ID, code string, grams float64) error {
	have := b.OfLot(line, lot)
	switch {
	case grams >= 0 || have+grams >= -stock.Tolerance:
		return nil
	case lot.IsZero():
		return refuse("too-much-out", "grams", "Only %g g were weighed in: no more can be taken out.", have)
	}
	return refuse("too-much-out", "grams", "Only %g g of lot %s are in the bowl: no more can be taken out.", have, code)
}

func (b *Batch) checkSkip(line int) error {
	if err := b.checkLine(line); err != nil {
		return err
	}
	switch l := &b.Lines[line]; {
	case !l.Optional:
		return refuse("not-optional", "line", "%s is no optional line: weigh it, or abandon the batch.", l.Name)
	case b.WeighedOf(line) > stock.Tolerance:
		return refuse("weighed-already", "line", "%g g of %s are in the bowl: take them out first.", b.WeighedOf(line), material.InSentence(l.Name))
	}
	return nil
}

func (b *Batch) checkAmended(e *Event) error {
	was := b.Event(e.Corrects)
	switch {
	case was == nil || b.undone[e.Corrects]:
		return refuse("no-such-event", "event", "Batch %s has no such event.", b.Code)
	case was.isWeighing() && (!b.State.IsOpen() || b.jars > 0):
		return refuse("batch-closed", "event", "The bags of batch %s are drawn down: note what was wrong, and count the bag on the shelf.", b.Code)
	case was.isWeighing():
		if e.Grams == was.Grams {
			return refuse("bad-value", "grams", "%g g is what was noted.", e.Grams)
		}
		if math.Abs(e.Grams) > mostG || math.IsNaN(e.Grams) {
			return refuse("bad-value", "grams", "A weighing is a mass in grams.")
		}
		if e.Grams*was.Grams < 0 {
			return refuse("bad-value", "grams", "What went in did not come out: put it right to 0, and weigh anew.")
		}
		return b.checkLeft(was.Line, was.Lot, was.LotCode, e.Grams-was.Grams)
	case was.Kind == Noted:
		if e.Text == was.Text {
			return refuse("bad-value", "text", "That is what was noted.")
		}
		return nil
	}
	return refuse("bad-value", "event", "Only a weighing or a note can be put right.")
}
