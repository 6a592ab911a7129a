package ledger_test

import (
	"math"
	"testing"
	"time"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"keencrock/core/ledger"
	"keencrock/core/stock"
)

func eur(s string) decimal.Decimal { return decimal.RequireFromString(s) }

// money draws an amount of up to 9,999.99.
func money(t *rapid.T, name string) decimal.Decimal {
	return decimal.New(int64(rapid.IntRange(0, 999_999).Draw(t, name)), -2)
}

// Margin and mark-up are two views of one difference: margin × price = mark-up × cost (textbook identity).
func TestMarginAndMarkUpAreNeverMixed(t *testing.T) {
	m, ok := ledger.Margin(eur("5.00"), eur("3.00"))
	assert.True(t, ok)
	assert.InDelta(t, 0.4, m, 1e-9)
	u, ok := ledger.MarkUp(eur("5.00"), eur("3.00"))
	assert.True(t, ok)
	assert.InDelta(t, 2.0/3, u, 1e-6)
	_, ok = ledger.Margin(decimal.Zero, eur("1"))
	assert.False(t, ok, "nothing is paid for a gift")
	rapid.Check(t, func(t *rapid.T) {
		price, cost := money(t, "price").Add(eur("0.01")), money(t, "cost").Add(eur("0.01"))
		m, _ := ledger.Margin(price, cost)
		u, _ := ledger.MarkUp(price, cost)
		require.InDelta(t, price.Sub(cost).InexactFloat64(), m*price.InexactFloat64(), 0.01)
		require.InDelta(t, price.Sub(cost).InexactFloat64(), u*cost.InexactFloat64(), 0.01)
	})
}

func TestAPriceLeavesItsMargin(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		cost, margin := money(t, "cost").Add(eur("0.01")), rapid.Float64Range(0, 0.9).Draw(t, "margin")
		price, err := ledger.PriceFor(cost, margin)
		require.NoError(t, err)
		got, _ := ledger.Margin(price, cost)
		require.GreaterOrEqual(t, got, margin-1e-6)
	})
	least, err := ledger.PriceFor(eur("0.05"), 7.6e-6) // what little is left must not be rounded away first
	require.NoError(t, err)
	assert.Equal(t, "0.10", least.StringFixed(2))
	for _, bad := range []float64{-0.1, 1, 2, math.NaN()} {
		_, err := ledger.PriceFor(eur("1"), bad)
		assert.Error(t, err, bad)
	}
}

// Common practice: small change is a nuisance, the more so the dearer a thing is.
func TestPricesAreRoundedAsPricesAre(t *testing.T) {
	for price, want := range map[string]string{"1.01": "1.05", "1.99": "2.00", "2.01": "2.10", "9.99": "10.00", "10.01": "10.50", "49.60": "50.00", "50.01": "51.00", "3.50": "3.50", "0": "0.00"} {
		assert.Equal(t, want, ledger.RoundUp(eur(price)).StringFixed(2), price)
	}
}

// 6.00 of fee and fuel at 4.00 − 1.00 a jar are two jars (arithmetic).
func TestBreakEven(t *testing.T) {
	n, ok := ledger.BreakEven(eur("6.00"), eur("4.00"), eur("1.00"))
	assert.True(t, ok)
	assert.Equal(t, 2, n)
	n, _ = ledger.BreakEven(eur("6.01"), eur("4.00"), eur("1.00"))
	assert.Equal(t, 3, n)
	_, ok = ledger.BreakEven(eur("6.00"), eur("1.00"), eur("1.00"))
	assert.False(t, ok, "no number of them would do")
	n, ok = ledger.BreakEven(decimal.Zero, eur("4"), eur("1"))
	assert.True(t, ok)
	assert.Zero(t, n)
}

// Whatever strata come to, a share of them adds up to that share of the whole, to the cent.
func TestASharedWholeLosesNoCent(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		strata := make([]ledger.Stratum, rapid.IntRange(1, 12).Draw(t, "n"))
		for i := range strata {
			strata[i].Cost = money(t, "cost")
		}
		share := rapid.Float64Range(0.001, 1).Draw(t, "share")
		whole, _ := ledger.Total(strata)
		got, _ := ledger.Total(ledger.Share(strata, share))
		require.Equal(t, whole.Mul(decimal.NewFromFloat(share)).Round(2).String(), got.String())
	})
}

// Nothing unknown is given a number: what is not known is said, and the whole is at least
// the rest. Half an hour at 18.00 is 9.00; 2 kW for 90 min at 0.30 is 0.90 (arithmetic).
func TestWhatIsNotKnownIsNoNumber(t *testing.T) {
	r := ledger.Rates{Hour: eur("18.00"), KWh: eur("0.30"), StoveW: 2000}
	assert.Equal(t, "9", r.Work(30, true).Cost.String())
	assert.True(t, r.Work(0, false).Unknown)
	assert.Equal(t, "0.9", r.Heat(90).Cost.String())
	none := ledger.Rates{}
	assert.True(t, none.Work(30, true).Unknown)
	assert.True(t, none.Heat(90).Unknown)
	assert.False(t, none.Heat(0).Unknown, "nothing was heated")
	total, atLeast := ledger.Total([]ledger.Stratum{{Cost: eur("1.50")}, none.Work(30, true)})
	assert.Equal(t, "1.5", total.String())
	assert.True(t, atLeast)
	assert.Equal(t, "2", ledger.FailureShare(eur("6.00"), 1000, 3000).Cost.String())
	assert.True(t, ledger.FailureShare(eur("6.00"), 1000, 0).Cost.IsZero())
	assert.Equal(t, "0.3", ledger.Dearer([]ledger.Stratum{{Item: "borax", Cost: eur("3.00")}, {Item: "salt", Cost: eur("9.00")}}, "borax", 0.1).String())
}

// A worked example after Horngren, Datar and Rajan, Cost Accounting (from memory of the
// method; the figures are ours): planned 100 kg at 2.00, used 110 kg at 2.10, 95 % came out.
// Price (2.10 − 2.00) × 110 = 11.00; amount (110 − 100) × 2.00 = 20.00; yield 200.00 × (1 −
// 0.95) = 10.00; together 231.00 − 190.00 = 41.00.
func TestVariancesAreToldApart(t *testing.T) {
	v := ledger.Compare([]ledger.Used{{Planned: 100, Used: 110, PerUnit: eur("2.00"), Paid: eur("231.00")}}, 100, 95)
	assert.Equal(t, "11", v.Price.String())
	assert.Equal(t, "20", v.Amount.String())
	assert.Equal(t, "10", v.Yield.String())
	assert.Equal(t, "190", v.Planned.String())
	v.Took(75, 60, eur("18.00"))
	assert.Equal(t, "4.5", v.Time.String(), "a quarter of an hour more")
	rapid.Check(t, func(t *rapid.T) {
		used := make([]ledger.Used, rapid.IntRange(1, 8).Draw(t, "n"))
		for i := range used {
			used[i] = ledger.Used{Planned: rapid.Float64Range(0, 5000).Draw(t, "planned"), Used: rapid.Float64Range(0, 5000).Draw(t, "used"), PerUnit: decimal.NewFromFloat(rapid.Float64Range(0, 2).Draw(t, "each")), Paid: money(t, "paid")}
		}
		v := ledger.Compare(used, rapid.Float64Range(0, 5000).Draw(t, "expected"), rapid.Float64Range(0, 5000).Draw(t, "made"))
		require.True(t, v.Price.Add(v.Amount).Add(v.Yield).Equal(v.Paid.Sub(v.Planned)), "%+v", v)
	})
}

// A sale and its return are nothing; two currencies are never added.
func TestSums(t *testing.T) {
	june := time.Date(2026, 6, 1, 0, 0, 0, 0, time.UTC)
	moved := []ledger.Moved{
		{Month: june, Item: "good-a", Kind: stock.Made, Pieces: 4, Quantity: 1000, Cost: eur("6.00"), Currency: "EUR"},
		{Month: june, Item: "good-a", Party: "stall", Kind: stock.Sold, Pieces: 3, Quantity: -750, Cost: eur("4.50"), Price: eur("12.00"), Unpriced: 1, Currency: "EUR"},
		{Month: june, Item: "good-a", Party: "stall", Kind: stock.Returned, Undoes: stock.Sold, Pieces: 1, Quantity: 250, Cost: eur("-1.50"), Price: eur("-4.00"), Currency: "EUR"},
		{Month: june, Item: "good-a", Party: "stall", Kind: stock.Gone, Pieces: 2, Quantity: -500, Cost: eur("3.00"), Currency: "EUR"},
		{Month: june, Item: "good-a", Party: "stall", Kind: stock.Returned, Pieces: 2, Quantity: 500, Cost: eur("-3.00"), Currency: "EUR"},
		{Month: june, Item: "good-a", Kind: stock.Discarded, Pieces: 1, Quantity: -250, Cost: eur("1.50"), Currency: "EUR"},
		{Month: june, Item: "good-a", Party: "fair", Kind: stock.Sold, Pieces: 1, Quantity: -250, Cost: eur("1.50"), Price: eur("5.00"), Currency: "GBP"},
	}
	keys, sums := ledger.By(moved, func(m *ledger.Moved) ledger.Key { return ledger.Key{Item: m.Item} })
	require.Len(t, keys, 2)
	s := sums[keys[0]]
	assert.Equal(t, ledger.Flow{Pieces: 4, Grams: 1000, Cost: eur("6.00")}, s.Made)
	assert.Equal(t, 2, s.Sold.Pieces)
	assert.Equal(t, "8", s.Brought.String())
	assert.Equal(t, "5", s.Left().String(), "8.00 − 3.00")
	assert.Zero(t, s.Out.Pieces, "it came back")
	assert.Equal(t, 1, s.Spoiled.Pieces)
	assert.Equal(t, 1, s.Unpriced)
	assert.Equal(t, "5", sums[keys[1]].Brought.String())
	rapid.Check(t, func(t *rapid.T) {
		n, cost, price := rapid.IntRange(1, 40).Draw(t, "jars"), money(t, "cost"), money(t, "price")
		g := 100 * float64(n)
		var s ledger.Sums
		s.Add(&ledger.Moved{Kind: stock.Sold, Pieces: n, Quantity: -g, Cost: cost, Price: price})
		s.Add(&ledger.Moved{Kind: stock.Returned, Undoes: stock.Sold, Pieces: n, Quantity: g, Cost: cost.Neg(), Price: price.Neg()})
		require.True(t, s.Sold.Pieces == 0 && s.Sold.Grams == 0 && s.Sold.Cost.IsZero() && s.Brought.IsZero())
	})
}

// Ten out, six sold at 4.00, one given, two back: one is missing. 22.00 taken of 24.00; 8.00
// of fee and fuel, 7.00 of cost: 7.00 left (arithmetic).
func TestAStallDay(t *testing.T) {
	takings := eur("22.00")
	s := ledger.Stall{Out: 10, Sold: 6, Given: 1, Back: 2, Asked: eur("24.00"), Cost: eur("7.00"), Fee: eur("6.00"), Fuel: eur("2.00"), Takings: &takings}
	r := s.Reckon()
	assert.Equal(t, 1, r.Missing)
	assert.Equal(t, "2", r.Short.String())
	assert.Equal(t, "7", r.Left.String())
}

// A price that grows by exactly a tenth a year drifts by a tenth.
func TestDriftAndJumps(t *testing.T) {
	var paid []ledger.Paid
	from := time.Date(2026, 1, 1, 0, 0, 0, 0, time.UTC)
	for d := 0; d <= 360; d += 60 {
		paid = append(paid, ledger.Paid{Day: from.AddDate(0, 0, d), PerKg: 2 * math.Pow(1.1, float64(d)/365.25)})
	}
	drift, ok := ledger.DriftAYear(paid)
	assert.True(t, ok)
	assert.InDelta(t, 0.1, drift, 1e-9)
	_, ok = ledger.DriftAYear(paid[:2])
	assert.False(t, ok, "two purchases are no drift")
	_, marked := ledger.Jump(2, 2.39)
	assert.False(t, marked)
	rise, marked := ledger.Jump(2, 2.6)
	assert.True(t, marked)
	assert.InDelta(t, 0.3, rise, 1e-9)
}
