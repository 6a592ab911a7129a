package ledger

import (
	"github.com/shopspring/decimal"
)

// Stall is a day at a market: what went out in the morning, what of it was sold and at
// what, what came back.
type Stall struct {
	Out, Sold, Given, Back int
	Asked                  decimal.Decimal // what was sold came to, by its prices
	Cost                   decimal.Decimal // of what was sold and given
	Fee, Fuel              decimal.Decimal
	Takings                *decimal.Decimal // as they were counted; nil while they are not
}

// Reckoning is what a stall day came to.
type Reckoning struct {
	Missing int             // went out, and was not sold, given or brought back
	Brought decimal.Decimal // takings, or what was asked while nothing is counted
	Short   decimal.Decimal // what the takings are below what was asked; below zero for more
	Left    decimal.Decimal // after fee, fuel and what it all cost
}

// Reckon works a stall day out.
func (s *Stall) Reckon() Reckoning {
	r := Reckoning{Missing: s.Out - s.Sold - s.Given - s.Back, Brought: s.Asked}
	if s.Takings != nil {
		r.Brought = *s.Takings
		r.Short = s.Asked.Sub(*s.Takings)
	}
	r.Left = r.Brought.Sub(s.Fee).Sub(s.Fuel).Sub(s.Cost)
	return r
}
