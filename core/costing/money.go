package costing

import (
	"errors"
	"math"
	"slices"

	"github.com/shopspring/decimal"

	"keencrock/core/quantity"
	"keencrock/core/stock"
)

// cents is the number of decimal places money is rounded to.
const cents = 2

// Prices holds what a gram of each material costs, by material id.
type Prices struct {
	Currency string
	PerGram  map[string]Price
}

// Price is money with its range: what lots of one material cost differs.
type Price struct {
	Value, Low, High decimal.Decimal
	// AtLeast says that something in it has no known price, so that it is no less.
	AtLeast bool
}

// OnePrice is a price without a range.
func OnePrice(d decimal.Decimal) Price { return Price{Value: d, Low: d, High: d} }

// PerGram returns the price of one gram of a pack, unrounded to ten places.
// The mass must be positive.
func PerGram(price decimal.Decimal, massG float64) decimal.Decimal {
	return price.DivRound(decimal.NewFromFloat(massG), 10)
}

// For returns what a mass in grams costs, unrounded: at the least the least
// mass at the lowest price, at the most the most at the highest.
func (p Prices) For(material string, massG quantity.Range) (cost Price, known bool) {
	perGram, known := p.PerGram[material]
	if !known {
		return Price{}, false
	}
	return Price{perGram.Value.Mul(milligrams(massG.Value)), perGram.Low.Mul(milligrams(massG.Low)), perGram.High.Mul(milligrams(massG.High)), perGram.AtLeast}, true
}

// Split shares an amount of money, rounded to cents, by weight so that the
// parts sum to the whole to the last cent: every part is rounded down and the
// cents left over go to the largest remainders. Weights must not be negative
// and not all be zero.
func Split(total decimal.Decimal, weights []float64) ([]decimal.Decimal, error) {
	sum := decimal.Zero
	exact := make([]decimal.Decimal, len(weights))
	for i, w := range weights {
		if w < 0 {
			return nil, errors.New("a share of money cannot be negative")
		}
		exact[i] = decimal.NewFromFloat(w)
		sum = sum.Add(exact[i])
	}
	if !sum.IsPositive() {
		return nil, errors.New("there is nothing to share money by")
	}
	total = total.Round(cents)
	cent := decimal.New(1, -cents)
	left := total
	parts := make([]decimal.Decimal, len(weights))
	order := make([]int, len(weights))
	for i := range exact {
		exact[i] = total.Mul(exact[i]).Div(sum)
		parts[i] = exact[i].RoundFloor(cents)
		left = left.Sub(parts[i])
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int {
		return exact[b].Sub(parts[b]).Cmp(exact[a].Sub(parts[a]))
	})
	for _, i := range order {
		if !left.IsPositive() {
			break
		}
		parts[i] = parts[i].Add(cent)
		left = left.Sub(cent)
	}
	return parts, nil
}

// StockPrice returns the price of one gram of what is left in the lots, each
// counted at what it cost, and of a gram of the cheapest and of the dearest; ok
// is false when nothing priced in that currency is left.
func StockPrice(lots []stock.Lot, currency string) (perGram Price, ok bool) {
	cost, mass := decimal.Zero, 0.0
	for i := range lots {
		l := &lots[i]
		if l.Available() <= stock.Tolerance || l.Original <= 0 || l.Landed.IsZero() || l.Currency != currency {
			continue
		}
		one := PerGram(l.Landed, l.Original)
		if mass == 0 {
			perGram = OnePrice(one)
		}
		perGram.Low, perGram.High = decimal.Min(perGram.Low, one), decimal.Max(perGram.High, one)
		perGram.AtLeast = perGram.AtLeast || !l.PriceKnown()
		cost = cost.Add(l.Landed.Mul(milligrams(l.Available())).DivRound(milligrams(l.Original), 8))
		mass += l.Available()
	}
	if mass == 0 {
		return Price{}, false
	}
	perGram.Value = cost.DivRound(milligrams(mass), 10)
	return perGram, true
}

// milligrams makes a decimal of grams at the precision stock is kept in.
func milligrams(g float64) decimal.Decimal { return decimal.New(int64(math.Round(g*1000)), -3) }
