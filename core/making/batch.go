package making

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"keencrock/core/formula"
	"keencrock/core/quantity"
	"keencrock/core/stock"
)

// State is how far a batch is.
type State int

// A batch is on the scale, in work at the bench, stands and waits, is packed, has
// become a good, or was given up.
const (
	Weighing State = iota
	InWork
	Standing
	Packing
	Finished
	Abandoned
)

var stateNames = []string{"weighing", "in-work", "standing", "packing", "finished", "abandoned"}

// String returns weighing, in-work, standing, packing, finished or abandoned.
func (s State) String() string { return stateNames[s] }

// ParseState reads what [State.String] gives.
func ParseState(name string) (State, error) {
	if i := slices.Index(stateNames, name); i >= 0 {
		return State(i), nil
	}
	return 0, fmt.Errorf("a batch is not %q: expected one of %s", name, strings.Join(stateNames, ", "))
}

// IsOpen reports whether something can still be done to the batch.
func (s State) IsOpen() bool { return s < Finished }

// stateAt is the state of a batch whose step at hand is of a stage.
var stateAt = map[formula.Stage]State{formula.AtScale: Weighing, formula.AtBench: InWork, formula.OnRack: Standing, formula.AtFilling: Packing}

// Line is what has to be weighed for one line of a batch.
type Line struct {
	Item      string
	Name      string
	Phase     string
	Amount    string // as it is written
	Hand      string // in drops or spoons, where the scale is too coarse
	TargetG   float64
	Optional  bool
	Unstocked bool // from the tap: no lot is asked for
	Added     bool // at the bench: the formula does not have it
	// VolatileShare is the share of it that can dry off, 0 to 1.
	VolatileShare float64
}

// MadeBy is what a batch is made by.
type MadeBy struct {
	Lines  []Line
	Steps  []formula.Step // their lines are those of the batch; none for weighing and filling
	ScaleG float64        // the step that the scale shows
}

// Batch is where a batch stands: what follows from its events.
type Batch struct {
	Code  string // for what is said of it
	Lines []Line // those that were added at the end
	Steps []formula.Step
	State State
	PH    *stock.Measured // as it was measured last; nil when it was not

	by      MadeBy
	events  []Event
	amended map[int64]int  // the last event that puts an event right, by its id
	undone  map[int64]bool // events that were taken back
	inBowl  []Share        // in the order first weighed
	skipped map[int]bool
	closed  map[int]Event     // steps that are done or passed, by what closed them
	since   map[int]time.Time // when a step came to hand
	firstIn map[int]Event     // the earliest weighing of what dries, by its step
	packedG float64
	jars    int
	dried   *dryings
}

// Share is what a line of a batch holds of a lot.
type Share struct {
	Line  int
	Lot   stock.ID // zero for what is not stocked
	Grams float64
}

// Begin is a batch of which nothing has happened.
func Begin(code string, by MadeBy) *Batch {
	if len(by.Steps) == 0 {
		by.Steps = []formula.Step{{Kind: formula.Weigh}, {Kind: formula.Fill}}
	}
	b := &Batch{Code: code, Lines: slices.Clone(by.Lines), Steps: by.Steps, by: by,
		amended: map[int64]int{}, undone: map[int64]bool{}, skipped: map[int]bool{}, closed: map[int]Event{}, since: map[int]time.Time{}, firstIn: map[int]Event{}, dried: &dryings{}}
	b.come(time.Time{})
	return b
}

// Replay is where a batch stands after its events. The error is a [*Refusal] of
// the first that cannot be.
func Replay(code string, by MadeBy, events []Event) (*Batch, error) {
	b := Begin(code, by)
	for i := range events {
		if err := b.Apply(events[i]); err != nil {
			return nil, fmt.Errorf("event %d of batch %s: %w", events[i].ID, code, err)
		}
	}
	return b, nil
}

// Apply lets an event happen. The error is a [*Refusal]; nothing has happened
// then. An event that was applied already is one that was sent twice: who keeps
// events has to know them by their keys.
func (b *Batch) Apply(e Event) error {
	if err := b.Check(e); err != nil {
		return err
	}
	if e.Kind == Undone {
		return b.undo(e)
	}
	b.apply(e)
	b.events = append(b.events, e)
	b.come(e.At)
	return nil
}

// apply lets an event happen that can be.
func (b *Batch) apply(e Event) {
	switch e.Kind {
	case Weighed, TookOut:
		b.add(e.Line, e.Lot, e.Grams)
		delete(b.skipped, e.Line)
	case Skipped:
		b.skipped[e.Line] = true
	case TakenIn:
		delete(b.skipped, e.Line)
	case LineAdded:
		b.Lines = append(b.Lines, Line{Item: e.Item, Name: e.Name, TargetG: e.Grams, Optional: true, Added: true, Unstocked: e.Item == stock.Tap, Amount: e.Text, VolatileShare: e.Volatile})
	case StepDone, StepPassed:
		b.closed[e.Step] = e
	case StepOpened:
		delete(b.closed, e.Step)
		b.since[e.Step] = e.At
	case Checked:
		if b.isGood(e) {
			b.closed[e.Step] = e
		}
	case Measured:
		b.PH = e.PH
	case WeighedIn:
		if first, has := b.firstIn[e.Step]; !has || e.At.Before(first.At) {
			b.firstIn[e.Step] = e
		}
	case Amended:
		if was := b.Event(e.Corrects); was.isWeighing() {
			b.add(was.Line, was.Lot, e.Grams-was.Grams)
		}
		b.amended[e.Corrects] = len(b.events)
	case TimerEnded:
		b.undone[e.Corrects] = true
	case Packed:
		b.packedG = stock.Round(b.packedG + e.Count*e.Grams)
		b.jars += int(e.Count)
	case Completed:
		b.State = Finished
	case GivenUp:
		b.State = Abandoned
	}
}

// come says which step is at hand since a time, and what state follows from it.
func (b *Batch) come(at time.Time) {
	if !b.State.IsOpen() {
		return
	}
	step, ok := b.Step()
	if !ok {
		b.State = Packing
		return
	}
	if b.since[step].IsZero() {
		b.since[step] = at
	}
	b.State = stateAt[b.Steps[step].Kind.Info().Stage]
}

// undo takes an event back: the batch is what its other events make of it.
func (b *Batch) undo(e Event) error {
	again := Begin(b.Code, b.by)
	for _, other := range b.events {
		if other.Kind == Undone {
			again.undone[other.Corrects] = true
		}
	}
	again.undone[e.Corrects] = true
	for _, other := range b.events {
		if !again.undone[other.ID] && other.Kind != Undone {
			if err := again.Check(other); err != nil {
				return refuse("needed", "event", "That cannot be taken back: what came after it needs it.")
			}
			again.apply(other)
		}
		again.events = append(again.events, other)
		again.come(other.At)
	}
	again.events = append(again.events, e)
	*b = *again
	return nil
}

func (e *Event) isWeighing() bool { return e.Kind == Weighed || e.Kind == TookOut }

// Event returns an event as it stands by now, put right where it was; nil when
// there is none of that id.
func (b *Batch) Event(id int64) *Event {
	for i := range b.events {
		if b.events[i].ID != id || id == 0 {
			continue
		}
		e := b.events[i]
		if by, amended := b.amended[id]; amended {
			e.Grams, e.Text = b.events[by].Grams, b.events[by].Text
		}
		return &e
	}
	return nil
}

// Events are what happened, in the order recorded.
func (b *Batch) Events() []Event { return b.events }

func (b *Batch) add(line int, lot stock.ID, grams float64) {
	for i := range b.inBowl {
		if s := &b.inBowl[i]; s.Line == line && s.Lot == lot {
			s.Grams = stock.Round(s.Grams + grams)
			return
		}
	}
	b.inBowl = append(b.inBowl, Share{line, lot, stock.Round(grams)})
}

// InBowl is what is weighed out, by line and lot, in the order first weighed.
func (b *Batch) InBowl() []Share { return b.inBowl }

// OfLot is what a line holds of a lot, in grams.
func (b *Batch) OfLot(line int, lot stock.ID) float64 {
	for _, s := range b.inBowl {
		if s.Line == line && s.Lot == lot {
			return s.Grams
		}
	}
	return 0
}

// WeighedOf is what is weighed out of a line, in grams.
func (b *Batch) WeighedOf(line int) float64 {
	sum := 0.0
	for _, s := range b.inBowl {
		if s.Line == line {
			sum += s.Grams
		}
	}
	return stock.Round(sum)
}

// WeighedG is all that is weighed out.
func (b *Batch) WeighedG() float64 {
	sum := 0.0
	for _, s := range b.inBowl {
		sum += s.Grams
	}
	return stock.Round(sum)
}

// Lots are the lots that something was weighed from, in the order first weighed.
func (b *Batch) Lots() []stock.ID {
	var lots []stock.ID
	for _, s := range b.inBowl {
		if !s.Lot.IsZero() && !slices.Contains(lots, s.Lot) {
			lots = append(lots, s.Lot)
		}
	}
	return lots
}

// Status says how a line stands on the scale, and what is to be done.
func (b *Batch) Status(line int) (status WeighStatus, advice string) {
	l := &b.Lines[line]
	_, advice = Judge(l.Name, l.TargetG, b.WeighedOf(line), b.by.ScaleG)
	return b.statusOf(line), advice
}

// statusOf says how a line stands on the scale.
func (b *Batch) statusOf(line int) WeighStatus {
	status := statusOf(b.Lines[line].TargetG, b.WeighedOf(line), b.by.ScaleG)
	if status == Waiting && b.skipped[line] {
		return LeftOut
	}
	return status
}

// Next is the line to weigh next, of the step at hand or added at the bench; ok is
// false when there is none.
func (b *Batch) Next() (line int, ok bool) {
	step, ok := b.Step()
	if !ok {
		step = NoStep
	}
	for i := range b.Lines {
		if status := b.statusOf(i); status.IsOpen() && (b.Lines[i].Added && status == Waiting && !b.skipped[i] || step != NoStep && b.isWeighedAt(i, step)) {
			return i, true
		}
	}
	return 0, false
}

// Optionals are the optional lines that are still waited for: finishing leaves
// them out.
func (b *Batch) Optionals() []int {
	var lines []int
	for i := range b.Lines {
		if status := b.statusOf(i); b.Lines[i].Optional && status == Waiting {
			lines = append(lines, i)
		}
	}
	return lines
}

// ReadyToPack refuses a batch of which something is still to be weighed or done, or
// nothing was.
func (b *Batch) ReadyToPack() error {
	if !b.State.IsOpen() {
		return b.isClosed()
	}
	step, at := b.Step()
	if line, open := b.Next(); open && at && b.Steps[step].Kind == formula.Weigh {
		l := &b.Lines[line]
		return refuse("not-weighed", "", "%s is not weighed out yet: %s of %s.",
			l.Name, quantity.FormatGrams(b.WeighedOf(line), 1), quantity.FormatGrams(l.TargetG, 1))
	}
	if b.WeighedG() <= stock.Tolerance {
		return refuse("not-weighed", "", "Nothing is weighed out yet: weigh something, or abandon the batch.")
	}
	if at && b.Steps[step].Kind.Info().Stage != formula.AtFilling {
		return refuse("not-made", "", "Step %d, %s, is not done yet: do it, or pass it over.", step+1, lowered(b.Steps[step].Kind.Info().Name))
	}
	return nil
}

// Fill is what each of so many jars holds of what was weighed out, a share of
// it lost, in grams.
func Fill(weighedG, lossShare float64, jars int) (eachG float64) {
	return stock.Round(weighedG * (1 - lossShare) / float64(jars))
}

// Suggest says how much of what is left to weigh of a line should come from
// which lot, and what the lots cannot give.
func Suggest(item string, leftG float64, lots []stock.Lot, day time.Time) (from map[stock.ID]float64, missingG float64) {
	draws, shorts := stock.Allocate([]stock.Need{{Item: item, Quantity: leftG}}, lots, day)
	from = map[stock.ID]float64{}
	for _, d := range draws {
		from[d.Lot] = d.Quantity
	}
	for _, short := range shorts {
		missingG += short.Missing
	}
	return from, missingG
}
