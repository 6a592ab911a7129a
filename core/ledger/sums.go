package ledger

import (
	"cmp"
	"slices"
	"time"

	"github.com/shopspring/decimal"

	"keencrock/core/stock"
)

// Moved is what went the same way: of one good, to or from one party, in one month, for one
// reason, in one currency.
type Moved struct {
	Month time.Time // its first day
	Item  string
	Party string
	Kind  stock.MovementKind
	// Undoes is the kind of what came back: sold, given or gone; empty for what did not.
	Undoes   stock.MovementKind
	Pieces   int             // that moved, whichever way
	Quantity float64         // as movements have it: what left is below zero
	Weighed  float64         // of it what moved by weight, in no jar
	Cost     decimal.Decimal // of what left or was made; below zero of what came back
	Price    decimal.Decimal // what it brought; below zero what was given back
	Unpriced int             // pieces that were sold without a word for how much
	Currency string
}

// Flow is what moved of a good one way.
type Flow struct {
	Pieces  int
	Grams   float64
	Weighed float64 // of the grams those that were in no jar
	Cost    decimal.Decimal
}

// add counts what was made, or what left; what came back is taken off.
func (f *Flow) add(m *Moved, sign float64) {
	pieces := m.Pieces
	if m.Kind == stock.Returned {
		pieces = -pieces
	}
	f.Pieces += pieces
	f.Grams = stock.Round(f.Grams + sign*m.Quantity)
	f.Weighed = stock.Round(f.Weighed + sign*m.Weighed)
	f.Cost = f.Cost.Add(m.Cost)
}

// Sums is what became of goods in a time, in one currency. A sale that came back is no
// sale: it is taken off what was sold.
type Sums struct {
	Currency               string
	Made, Sold, Given, Out Flow // Out left without a word of what it brought
	Spoiled                Flow
	Sampled                Flow // kept here, to be looked at while it ages
	Brought                decimal.Decimal
	Unpriced               int // pieces that were sold, of which nobody said for how much
}

// Left is what was brought less what that cost.
func (s *Sums) Left() decimal.Decimal { return s.Brought.Sub(s.Sold.Cost) }

// Add counts what moved in.
func (s *Sums) Add(m *Moved) {
	kind := m.Kind
	if kind == stock.Returned {
		kind = m.Undoes
	}
	switch kind {
	case stock.Made, stock.Corrected: // what it cost after all
		s.Made.add(m, 1)
	case stock.Sold:
		s.Sold.add(m, -1)
		s.Brought = s.Brought.Add(m.Price)
		s.Unpriced += m.Unpriced
	case stock.Given:
		s.Given.add(m, -1)
	case stock.Discarded:
		s.Spoiled.add(m, -1)
	case stock.Sampled:
		s.Sampled.add(m, -1)
	default:
		s.Out.add(m, -1)
	}
}

// Key is by what sums are told apart; empty parts are not looked at.
type Key struct {
	Month    time.Time
	Item     string
	Party    string
	Currency string
}

// By sums movements up by what of says of each, in the order of their keys. Currencies are
// never added: each has sums of its own.
func By(all []Moved, of func(*Moved) Key) (keys []Key, sums map[Key]*Sums) {
	sums = map[Key]*Sums{}
	for i := range all {
		k := of(&all[i])
		k.Currency = all[i].Currency
		s, there := sums[k]
		if !there {
			s = &Sums{Currency: k.Currency}
			sums[k] = s
			keys = append(keys, k)
		}
		s.Add(&all[i])
	}
	slices.SortFunc(keys, func(a, b Key) int {
		return cmp.Or(a.Month.Compare(b.Month), cmp.Compare(a.Item, b.Item), cmp.Compare(a.Party, b.Party), cmp.Compare(a.Currency, b.Currency))
	})
	return keys, sums
}
