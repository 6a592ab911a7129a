package stock

import (
	"time"

	"github.com/shopspring/decimal"
)

// MovementKind is why stock came or went.
type MovementKind string

// Why stock comes and goes. A count says what is really there; a correction
// puts right what was noted wrongly, and moves nothing or what was noted wrong.
const (
	Received  MovementKind = "received"
	Made      MovementKind = "made"
	Drawn     MovementKind = "drawn"  // into a making
	Fed       MovementKind = "fed"    // to a vat
	Filled    MovementKind = "filled" // a container, with what a making became
	Gone      MovementKind = "gone"   // out of the house, without a word of what it brought
	Sold      MovementKind = "sold"
	Given     MovementKind = "given"    // for nothing
	Returned  MovementKind = "returned" // of what was gone, sold or given
	Discarded MovementKind = "discarded"
	Sampled   MovementKind = "sampled" // kept here, to be looked at while it ages
	Emptied   MovementKind = "emptied" // a jar alone came back, for its deposit
	Kept      MovementKind = "kept"    // back out of a making
	Diluted   MovementKind = "diluted" // into a bottle, with water
	Corrected MovementKind = "corrected"
)

// Repriced is the kind of event that says that a lot's price was put right.
const Repriced = "repriced"

// Movement is stock coming or going, in the unit of its item: what comes is
// positive. It is never changed; what was wrong is put right by another.
type Movement struct {
	Lot        ID
	Piece      ID // of a lot in jars; zero for the lot itself
	Kind       MovementKind
	Quantity   float64
	Cost       decimal.Decimal
	Making     ID // what it went into, or came of
	MakingCode string
	Line       *int // of the making
	Vessel     ID   // that it was fed to, or taken back from
	VesselName string
	Event      int64  // by which it was fed
	Party      string // where it came from or went to
	Reason     string
	By         string
	At         time.Time // when it happened

	ID      int64           // 0 for one that is not recorded yet
	Act     ID              // that it was part of: a sale, a gift, jars out to a stall; zero for none
	Undoes  int64           // the movement that it takes back; 0 for none
	Price   *Price          // what it brought, nil where nobody said; below zero what was given back
	Deposit decimal.Decimal // taken for the jar; below zero what was given back
}

// Price is what something was sold for.
type Price struct {
	Amount   decimal.Decimal
	Currency string
}

// Leaves reports whether jars leave the house by a movement of this kind.
func (k MovementKind) Leaves() bool {
	return k == Gone || k == Sold || k == Given || k == Discarded || k == Sampled
}
