package stock

import (
	"cmp"
	"math"
	"slices"
	"time"

	"github.com/shopspring/decimal"
)

// Tolerance is the quantity below which a remainder is nothing: stock is kept
// to the thousandth of a gram or millilitre.
const Tolerance = 0.0005

// Round rounds a quantity to what stock is kept in.
func Round(quantity float64) float64 { return math.Round(quantity*1000) / 1000 }

// Lot is what came at one time of one item: a delivery, or what a making made.
// Quantities are in the unit of its item.
type Lot struct {
	ID        ID
	Item      string
	Code      string
	Original  float64
	Remaining float64 // the sum of its movements
	Held      float64 // weighed out by open makings, and not drawn yet
	// Landed is the price of the whole lot, freight and tax as the workshop counts
	// them, or what went into making it.
	Landed decimal.Decimal
	Free   bool // known to have cost nothing: a gift, or kept back of what had its price
	// Unpriced are the items without a known price that went into what was made here:
	// Landed is the least it cost then.
	Unpriced   []string
	Currency   string
	Supplier   string // empty when it is not known, or made here
	Making     ID     // what made it; zero for what was bought
	MakingCode string
	KeptFrom   ID // the making it was taken back out of; zero for any other
	KeptOf     string
	Received   time.Time
	BestBefore time.Time // zero when none is given
	Opened     time.Time // zero while sealed
	SetAside   bool      // not to be drawn on
	Clumped    bool
	Note       string
	Rounds     int       // that it has served: nuts go round three or four times
	PH         *Measured // nil when it was not measured
}

// Measured is a pH that was measured, and with what: "strip" or "meter".
type Measured struct {
	PH   float64
	With string
}

// PriceKnown reports whether all of what it cost is known. A bought lot without a
// price has one that nobody noted; it was not for nothing, unless that is known.
func (l *Lot) PriceKnown() bool {
	return len(l.Unpriced) == 0 && (!l.Making.IsZero() || l.Landed.IsPositive() || l.Free)
}

// Unpriced are the items without a known price in lots, each once and in order: of a
// bought lot itself, of what was made here what went into it.
func Unpriced(lots []Lot) []string {
	var items []string
	for i := range lots {
		switch l := &lots[i]; {
		case l.PriceKnown() || l.Item == Tap:
		case l.Making.IsZero():
			items = append(items, l.Item)
		default:
			items = append(items, l.Unpriced...)
		}
	}
	slices.Sort(items)
	return slices.Compact(items)
}

// Available is what can still be drawn.
func (l *Lot) Available() float64 { return max(0, l.Remaining-l.Held) }

// PastOn reports whether the lot's date is before the given day.
func (l *Lot) PastOn(day time.Time) bool {
	return !l.BestBefore.IsZero() && l.BestBefore.Before(day)
}

// UsableOn reports whether the lot may be drawn on, on a day.
func (l *Lot) UsableOn(day time.Time) bool { return !l.SetAside && !l.PastOn(day) }

// Cost is what drawing a quantity next takes of the landed price, in cents,
// after what has left the lot already. The costs of successive draws sum to the
// landed price when the lot is used up.
func (l *Lot) Cost(quantity float64) decimal.Decimal {
	drawn := l.Original - l.Remaining
	return l.runningCost(drawn + quantity).Sub(l.runningCost(drawn))
}

// cents is the number of decimal places money is rounded to.
const cents = 2

func (l *Lot) runningCost(drawn float64) decimal.Decimal {
	if l.Original <= 0 {
		return decimal.Zero
	}
	if drawn >= l.Original-Tolerance {
		return l.Landed
	}
	return l.Landed.Mul(thousandths(drawn)).Div(thousandths(l.Original)).Round(cents)
}

// thousandths makes a decimal of a quantity at the precision stock is kept in.
func thousandths(quantity float64) decimal.Decimal {
	return decimal.New(int64(math.Round(quantity*1000)), -3)
}

// FirstExpiredFirst orders lots by date, undated ones last, then by delivery,
// then by id.
func FirstExpiredFirst(a, b *Lot) int {
	if a.BestBefore.IsZero() != b.BestBefore.IsZero() {
		if a.BestBefore.IsZero() {
			return 1
		}
		return -1
	}
	if c := a.BestBefore.Compare(b.BestBefore); c != 0 {
		return c
	}
	return cmp.Or(a.Received.Compare(b.Received), cmp.Compare(string(a.ID[:]), string(b.ID[:])))
}

// BestFirst orders lots as they are offered on a day: first expired first, those
// past their date last.
func BestFirst(day time.Time) func(a, b *Lot) int {
	return func(a, b *Lot) int {
		if pastA, pastB := a.PastOn(day), b.PastOn(day); pastA != pastB {
			if pastA {
				return 1
			}
			return -1
		}
		return FirstExpiredFirst(a, b)
	}
}

// Worth is what is left of a lot at cost: what it cost less what was drawn.
func (l *Lot) Worth() decimal.Decimal { return l.Landed.Sub(l.runningCost(l.Original - l.Remaining)) }
