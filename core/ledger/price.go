package ledger

import (
	"errors"
	"math"

	"github.com/shopspring/decimal"
)

// cents is the number of decimal places money is rounded to.
const cents = 2

var (
	one     = decimal.NewFromInt(1)
	hundred = decimal.NewFromInt(100)
)

// Margin is what of a price is left over its cost, as a share of the price: 2.00 of 5.00
// is 0.4. Below zero what costs more than it brings; ok is false where nothing is paid.
func Margin(price, cost decimal.Decimal) (share float64, ok bool) {
	if !price.IsPositive() {
		return 0, false
	}
	return price.Sub(cost).DivRound(price, 6).InexactFloat64(), true
}

// MarkUp is what is put on a cost, as a share of the cost: 2.00 on 3.00 is 0.667. ok is
// false where it costs nothing.
func MarkUp(price, cost decimal.Decimal) (share float64, ok bool) {
	if !cost.IsPositive() {
		return 0, false
	}
	return price.Sub(cost).DivRound(cost, 6).InexactFloat64(), true
}

// PriceFor is the least price, as prices are rounded, that leaves a margin: cost / (1 −
// margin). The margin is a share from 0 to below 1.
func PriceFor(cost decimal.Decimal, margin float64) (decimal.Decimal, error) {
	if math.IsNaN(margin) || margin < 0 || margin >= 1 {
		return decimal.Zero, errors.New("a margin is a share of the price: from nothing up to, and not with, all of it")
	}
	return RoundUp(cost.DivRound(one.Sub(decimal.NewFromFloat(margin)), 16)), nil
}

// roundings are the steps prices are rounded to: below so much, to so many cents. Common
// practice of a stall: small change is a nuisance, and more so the dearer a thing is.
var roundings = []struct{ below, step int64 }{{200, 5}, {1000, 10}, {5000, 50}, {math.MaxInt64 / 1000, 100}}

// RoundUp rounds a price up to one that is asked at a stall: to 5 cents below 2, to 10
// below 10, to 50 below 50, to a whole one beyond.
func RoundUp(price decimal.Decimal) decimal.Decimal {
	inCents := price.Mul(hundred)
	for _, r := range roundings {
		if inCents.LessThan(decimal.NewFromInt(r.below)) {
			step := decimal.NewFromInt(r.step)
			return inCents.Div(step).Ceil().Mul(step).Div(hundred)
		}
	}
	return price.Ceil()
}

// BreakEven is how many pieces have to be sold before what a day costs in any case (fee,
// fuel) has come in; ok is false where no piece brings more than it costs.
func BreakEven(fixed, price, cost decimal.Decimal) (pieces int, ok bool) {
	each := price.Sub(cost)
	if !each.IsPositive() {
		return 0, false
	}
	if !fixed.IsPositive() {
		return 0, true
	}
	return int(fixed.Div(each).Ceil().IntPart()), true
}
