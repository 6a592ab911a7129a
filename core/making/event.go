package making

import (
	"fmt"
	"time"

	"keencrock/core/stock"
)

// EventKind is what happened to a batch.
type EventKind string

// What happens to a batch. An Amended event puts right what an earlier one said; an
// Undone one takes an earlier one back.
const (
	Begun      EventKind = "started"
	Weighed    EventKind = "weighed"
	TookOut    EventKind = "took-out"
	Skipped    EventKind = "left-out" // an optional line
	TakenIn    EventKind = "taken-in" // again
	LineAdded  EventKind = "line-added"
	StepDone   EventKind = "step-done"
	StepPassed EventKind = "step-passed" // it was not done
	StepOpened EventKind = "step-opened" // again
	TimerSet   EventKind = "timer-set"
	TimerEnded EventKind = "timer-ended" // it was heard, or is not wanted any more
	Checked    EventKind = "checked"
	PotWeighed EventKind = "pot-weighed" // with all that is in it, before and after
	Yielded    EventKind = "yield-weighed"
	Counted    EventKind = "pieces-counted"
	Broke      EventKind = "pieces-broke"
	WeighedIn  EventKind = "weighed-in" // what dries
	Stirred    EventKind = "stirred"
	KeptBack   EventKind = "kept-back" // of what was strained out
	HandedOver EventKind = "handed-over"
	Noted      EventKind = "noted"
	Pictured   EventKind = "pictured" // a photo was put into the log; what it shows is its text
	Measured   EventKind = "measured"
	HandsTold  EventKind = "hands-told" // how long they were at the bench, as somebody said
	Amended    EventKind = "corrected"
	Undone     EventKind = "undone"
	Packed     EventKind = "packed"
	Completed  EventKind = "finished"
	GivenUp    EventKind = "abandoned"
)

// NoLine is the line of an event that is about none, and NoStep its step.
const (
	NoLine = -1
	NoStep = -1
)

// Event is something that happened to a batch. It is never changed.
type Event struct {
	ID       int64 // in the order they were recorded; 0 for one that is not yet
	Kind     EventKind
	Line     int      // NoLine for none
	Step     int      // NoStep for none
	Lot      stock.ID // what was weighed from; zero for what is not stocked
	LotCode  string
	Item     string  // of a line that was added
	Name     string  // of it
	Volatile float64 // the share of it that can dry off
	Grams    float64 // below zero for what was taken out; of an amended weighing what it really was
	Count    float64 // of pieces, jars, drops or spoons
	Pieces   int     // in each jar that was packed; 0 where they were not counted
	Seconds  float64 // a timer runs
	Text     string
	Answer   string // to a check
	PH       *stock.Measured
	Corrects int64 // the event it puts right, takes back or ends; 0 for none
	By       string
	At       time.Time // when it happened
}

// Happening is an event of a kind that is about no line and no step.
func Happening(kind EventKind) Event { return Event{Kind: kind, Line: NoLine, Step: NoStep} }

// Refusal says why an event cannot be, and in which of its fields.
type Refusal struct{ Code, Field, Detail string }

func (r *Refusal) Error() string { return r.Detail }

func refuse(code, field, detail string, args ...any) error {
	return &Refusal{code, field, fmt.Sprintf(detail, args...)}
}
