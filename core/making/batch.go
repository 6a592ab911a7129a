package making

import (
	"fmt"
	"math"
	"slices"
	"time"

	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/core/stock"
)

// State is how far a batch is.
type State int

// A batch is on the bench, has become a good, or was given up.
const (
	OnBench State = iota
	Finished
	Abandoned
)

var stateNames = []string{"weighing", "finished", "abandoned"}

// String returns weighing, finished or abandoned.
func (s State) String() string { return stateNames[s] }

// ParseState reads what [State.String] gives.
func ParseState(name string) (State, error) {
	if i := slices.Index(stateNames, name); i >= 0 {
		return State(i), nil
	}
	return 0, fmt.Errorf("a batch is not %q: expected weighing, finished or abandoned", name)
}

// IsOpen reports whether something can still be done to the batch.
func (s State) IsOpen() bool { return s == OnBench }

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
}

// Batch is where a batch stands: what follows from its events.
type Batch struct {
	Code  string // for what is said of it
	Lines []Line
	State State
	PH    *stock.Measured // as it was measured last; nil when it was not

	events  []Event
	amended map[int64]int // the last event that puts an event right, by its id
	inBowl  []Share       // in the order first weighed
	skipped map[int]bool
}

// Share is what a line of a batch holds of a lot.
type Share struct {
	Line  int
	Lot   stock.ID // zero for what is not stocked
	Grams float64
}

// Begin is a batch of which nothing has happened.
func Begin(code string, lines []Line) *Batch {
	return &Batch{Code: code, Lines: lines, amended: map[int64]int{}, skipped: map[int]bool{}}
}

// Replay is where a batch stands after its events. The error is a [*Refusal] of
// the first that cannot be.
func Replay(code string, lines []Line, events []Event) (*Batch, error) {
	b := Begin(code, lines)
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
	if err := b.check(&e); err != nil {
		return err
	}
	switch e.Kind {
	case Weighed, TookOut:
		b.add(e.Line, e.Lot, e.Grams)
		delete(b.skipped, e.Line)
	case Skipped:
		b.skipped[e.Line] = true
	case TakenIn:
		delete(b.skipped, e.Line)
	case Measured:
		b.PH = e.PH
	case Amended:
		if was := b.Event(e.Corrects); was.isWeighing() {
			b.add(was.Line, was.Lot, e.Grams-was.Grams)
		}
		b.amended[e.Corrects] = len(b.events)
	case Completed:
		b.State = Finished
	case GivenUp:
		b.State = Abandoned
	}
	b.events = append(b.events, e)
	return nil
}

func (e *Event) isWeighing() bool { return e.Kind == Weighed || e.Kind == TookOut }

// Check refuses an event that cannot be, without letting it happen. The error is
// a [*Refusal].
func (b *Batch) Check(e Event) error { return b.check(&e) }

func (b *Batch) check(e *Event) error {
	if e.Kind != Noted && e.Kind != Measured && e.Kind != Amended && !b.State.IsOpen() {
		return b.closed()
	}
	switch e.Kind {
	case Weighed, TookOut:
		return b.checkWeighing(e)
	case Skipped:
		return b.checkSkip(e.Line)
	case TakenIn:
		return b.checkLine(e.Line)
	case Amended:
		return b.checkAmended(e)
	case Begun, Noted, Completed, GivenUp:
		return nil
	case Measured:
		if e.PH == nil {
			return refuse("bad-value", "ph", "Say what was measured.")
		}
		return nil
	}
	return refuse("bad-value", "kind", "Nothing of the kind %q happens to a batch.", e.Kind)
}

func (b *Batch) closed() error {
	return refuse("batch-closed", "", "Batch %s is %s: nothing can be changed in it. Log a new batch instead.", b.Code, b.State)
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
	case was == nil:
		return refuse("no-such-event", "event", "Batch %s has no such event.", b.Code)
	case was.isWeighing() && !b.State.IsOpen():
		return refuse("batch-closed", "event", "Batch %s is %s, and its bags are drawn down: note what was wrong, and count the bag on the shelf.", b.Code, b.State)
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

// Status says how a line stands on a scale of steps of stepG, and what is to be
// done.
func (b *Batch) Status(line int, stepG float64) (status WeighStatus, advice string) {
	l := &b.Lines[line]
	status, advice = Judge(l.Name, l.TargetG, b.WeighedOf(line), stepG)
	if status == Waiting && b.skipped[line] {
		return LeftOut, advice
	}
	return status, advice
}

// Next is the first line that is not weighed out yet; ok is false when there is
// none.
func (b *Batch) Next(stepG float64) (line int, ok bool) {
	for i := range b.Lines {
		if status, _ := b.Status(i, stepG); status.IsOpen() {
			return i, true
		}
	}
	return 0, false
}

// Due is something that waits to be done to a batch.
type Due struct {
	What string
	At   time.Time // since when, or by when
}

// Due says what waits to be done at a time, the first in front: of a batch on the
// bench its next line, or that it can be finished.
func (b *Batch) Due(now time.Time, stepG float64) []Due {
	if !b.State.IsOpen() {
		return nil
	}
	if line, open := b.Next(stepG); open {
		return []Due{{"weigh " + material.InSentence(b.Lines[line].Name), now}}
	}
	return []Due{{"finish it", now}}
}

// Optionals are the optional lines that are still waited for: finishing leaves
// them out.
func (b *Batch) Optionals(stepG float64) []int {
	var lines []int
	for i := range b.Lines {
		if status, _ := b.Status(i, stepG); b.Lines[i].Optional && status == Waiting {
			lines = append(lines, i)
		}
	}
	return lines
}

// ReadyToFinish refuses a batch of which something is still to be weighed, or
// nothing was.
func (b *Batch) ReadyToFinish(stepG float64) error {
	if !b.State.IsOpen() {
		return b.closed()
	}
	if line, open := b.Next(stepG); open {
		l := &b.Lines[line]
		return refuse("not-weighed", "", "%s is not weighed out yet: %s of %s.",
			l.Name, quantity.FormatGrams(b.WeighedOf(line), 1), quantity.FormatGrams(l.TargetG, 1))
	}
	if b.WeighedG() <= stock.Tolerance {
		return refuse("not-weighed", "", "Nothing is weighed out yet: weigh something, or abandon the batch.")
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
