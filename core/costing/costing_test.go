package costing_test

import (
	"fmt"
	"testing"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"keencrock/core/costing"
	"keencrock/core/quantity"
	"keencrock/core/stock"
)

func TestSplitLosesNoCent(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		total := decimal.New(int64(rapid.IntRange(0, 1_000_000).Draw(t, "cents")), -2)
		weights := rapid.SliceOfN(rapid.Float64Range(0.1, 1000), 1, 40).Draw(t, "weights")
		parts, err := costing.Split(total, weights)
		require.NoError(t, err)
		sum := decimal.Zero
		for _, p := range parts {
			require.False(t, p.IsNegative())
			sum = sum.Add(p)
		}
		require.True(t, total.Equal(sum), "%s split to %s", total, sum)
	})
}

func TestSplitIsFair(t *testing.T) {
	parts, err := costing.Split(decimal.RequireFromString("10.00"), []float64{1, 1, 1})
	require.NoError(t, err)
	assert.Equal(t, "[3.34 3.33 3.33]", fmt.Sprint(parts))
	_, err = costing.Split(decimal.NewFromInt(1), []float64{0, 0})
	assert.Error(t, err)
	_, err = costing.Split(decimal.NewFromInt(1), []float64{1, -1})
	assert.Error(t, err)
}

// 5 kg of washing soda at 11.40 is 2.28 a kilogram (arithmetic).
func TestPackPricePerGram(t *testing.T) {
	prices := costing.Prices{Currency: "EUR", PerGram: map[string]costing.Price{"washing-soda": costing.OnePrice(costing.PerGram(decimal.RequireFromString("11.40"), 5000))}}
	cost, known := prices.For("washing-soda", quantity.Range{Value: 1000, Low: 500, High: 2000})
	assert.True(t, known)
	assert.Equal(t, "2.28", cost.Value.Round(2).String())
	assert.Equal(t, "1.14", cost.Low.Round(2).String())
	assert.Equal(t, "4.56", cost.High.Round(2).String())
	_, known = prices.For("gold", quantity.Exactly(1))
	assert.False(t, known)
}

func TestStockIsPricedAtWhatIsLeftOfEachLot(t *testing.T) {
	cheap, dear := bag("2.00"), bag("6.00")
	cheap.Remaining = 500
	francs := bag("9.00") // from before the workshop counted in euros
	francs.Currency = "CHF"
	perGram, ok := costing.StockPrice([]stock.Lot{cheap, dear, francs}, "EUR")
	require.True(t, ok)
	assert.Equal(t, "0.0047", perGram.Value.Round(4).String()) // 1.00 + 6.00 over 1500 g
	assert.Equal(t, "0.002", perGram.Low.String())
	assert.Equal(t, "0.006", perGram.High.String())
	_, ok = costing.StockPrice(nil, "EUR")
	assert.False(t, ok)
}

// bag is a kilogram at a price.
func bag(price string) stock.Lot {
	return stock.Lot{Original: 1000, Remaining: 1000, Landed: decimal.RequireFromString(price), Currency: "EUR"}
}
