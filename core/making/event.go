package making

import (
	"fmt"
	"time"

	"keencrock/core/stock"
)

// EventKind is what happened to a batch.
type EventKind string

// What happens to a batch. An Amended event puts right what an earlier one said.
const (
	Begun     EventKind = "started"
	Weighed   EventKind = "weighed"
	TookOut   EventKind = "took-out"
	Skipped   EventKind = "left-out" // an optional line
	TakenIn   EventKind = "taken-in" // again
	Noted     EventKind = "noted"
	Measured  EventKind = "measured"
	Amended   EventKind = "corrected"
	Completed EventKind = "finished"
	GivenUp   EventKind = "abandoned"
)

// NoLine is the line of an event that is about none.
const NoLine = -1

// Event is something that happened to a batch. It is never changed.
type Event struct {
	ID       int64 // in the order they were recorded; 0 for one that is not yet
	Kind     EventKind
	Line     int      // NoLine for none
	Lot      stock.ID // what was weighed from; zero for what is not stocked
	LotCode  string
	Grams    float64 // below zero for what was taken out; of an amended weighing what it really was
	Text     string
	PH       *stock.Measured
	Corrects int64 // the event it puts right; 0 for none
	By       string
	At       time.Time // when it happened
}

// Refusal says why an event cannot be, and in which of its fields.
type Refusal struct{ Code, Field, Detail string }

func (r *Refusal) Error() string { return r.Detail }

func refuse(code, field, detail string, args ...any) error {
	return &Refusal{code, field, fmt.Sprintf(detail, args...)}
}
