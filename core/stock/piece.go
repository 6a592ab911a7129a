package stock

import (
	"fmt"
	"slices"
	"time"

	"github.com/shopspring/decimal"
)

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

// IsOpened reports whether something was taken out of the piece: it is no full jar any more.
func (p *Piece) IsOpened() bool { return p.Left < p.Original-Tolerance }

// IsUsedUp reports whether the piece was emptied here.
func (p *Piece) IsUsedUp() bool { return p.GoneTo == UsedUpHere && p.Left == 0 }

// TakeFromPieces says how much of a quantity comes out of which piece of a lot: what is
// opened first, else the lowest numbers; what is gone is left alone. The pieces are changed.
// The error says that they do not hold so much.
func TakeFromPieces(pieces []Piece, quantity float64, on time.Time) (taken map[ID]float64, err error) {
	taken = map[ID]float64{}
	left := quantity
	for _, i := range openedFirst(pieces) {
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

// openedFirst are the places of pieces, those that are opened before the rest.
func openedFirst(pieces []Piece) []int {
	order := make([]int, len(pieces))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int {
		switch {
		case pieces[a].IsOpened() == pieces[b].IsOpened():
			return 0
		case pieces[a].IsOpened():
			return -1
		}
		return 1
	})
	return order
}

// PutBackIntoPieces says how much of a quantity goes back into which piece of a lot: into
// those that are opened and here or were emptied here, the lowest numbers first. The pieces
// are changed. The error says that there is no room for so much.
func PutBackIntoPieces(pieces []Piece, quantity float64) (put map[ID]float64, err error) {
	put = map[ID]float64{}
	left := quantity
	for i := range pieces {
		p := &pieces[i]
		if !p.IsHere() && !p.IsUsedUp() || !p.IsOpened() || left <= Tolerance {
			continue
		}
		part := min(left, p.Original-p.Left)
		put[p.ID] = Round(part)
		p.Left, p.GoneOn, p.GoneTo = Round(p.Left+part), time.Time{}, ""
		left -= part
	}
	if left > Tolerance {
		return nil, fmt.Errorf("the jars that are opened here have room for %g less", Round(left))
	}
	return put, nil
}
