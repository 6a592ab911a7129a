package stock

import (
	"fmt"
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

// Piece is a numbered part of a lot: a jar of a good.
type Piece struct {
	ID       ID
	Lot      ID
	Number   int
	Original float64 // as it was filled
	Left     float64
	Cost     decimal.Decimal
	GoneOn   time.Time // zero while it is here
	GoneTo   string
}

// CostLeft is what that of it costs which is left.
func (p *Piece) CostLeft() decimal.Decimal { return p.costOf(p.Left) }

func (p *Piece) costOf(quantity float64) decimal.Decimal {
	if p.Original <= 0 || quantity >= p.Original {
		return p.Cost
	}
	return p.Cost.Mul(decimal.NewFromFloat(quantity)).DivRound(decimal.NewFromFloat(p.Original), 2)
}

// CostTaken is what goes with what is taken of it now: with the last of it all that is
// left of its cost.
func (p *Piece) CostTaken(quantity float64) decimal.Decimal {
	return p.CostLeft().Sub(p.costOf(p.Left - quantity))
}

// IsHere reports whether the piece is in the house.
func (p *Piece) IsHere() bool { return p.GoneOn.IsZero() }

// KeptAsSample is where a jar is that is kept to be looked at while it ages.
const KeptAsSample = "kept here as a sample"

// IsSample reports whether the piece is kept here to be looked at: nobody has it, and it is
// not for sale.
func (p *Piece) IsSample() bool { return !p.IsHere() && p.GoneTo == KeptAsSample }

// UsedUpHere is where a jar went that was used to make something.
const UsedUpHere = "used here"

// TakeFromPieces says how much of a quantity comes out of which piece of a lot,
// the lowest numbers first; what is gone is left alone. The pieces are changed.
// The error says that they do not hold so much.
func TakeFromPieces(pieces []Piece, quantity float64, on time.Time) (taken map[ID]float64, err error) {
	taken = map[ID]float64{}
	left := quantity
	for i := range pieces {
		p := &pieces[i]
		if !p.IsHere() || left <= Tolerance {
			continue
		}
		part := min(left, p.Left)
		taken[p.ID] = Round(part)
		p.Left = Round(p.Left - part)
		left -= part
		if p.Left <= Tolerance {
			p.Left, p.GoneOn, p.GoneTo = 0, on, UsedUpHere
		}
	}
	if left > Tolerance {
		return nil, fmt.Errorf("the jars that are here hold %g too little", Round(left))
	}
	return taken, nil
}
