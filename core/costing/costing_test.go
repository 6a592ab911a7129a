package costing_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"keencrock/core/costing"
	"keencrock/core/quantity"
)

func day(s string) time.Time {
	t, err := time.Parse(time.DateOnly, s)
	if err != nil {
		panic(err)
	}
	return t
}

func lot(id string, grams float64, price, bestBefore string) costing.Lot {
	l := costing.Lot{ID: id, Material: "borax", OriginalG: grams, RemainingG: grams, Landed: decimal.RequireFromString(price), Received: day("2026-01-01")}
	if bestBefore != "" {
		l.BestBefore = day(bestBefore)
	}
	return l
}

var today = day("2026-06-01")

func TestTheLotThatExpiresFirstGoesFirst(t *testing.T) {
	draws, shorts := costing.Allocate(
		[]costing.Need{{Line: 0, Material: "borax", Grams: 1200}},
		[]costing.Lot{lot("undated", 1000, "4.00", ""), lot("late", 1000, "5.00", "2028-01-01"), lot("early", 500, "3.00", "2026-09-01"), lot("past", 900, "1.00", "2026-05-31")},
		today)
	assert.Empty(t, shorts)
	require.Len(t, draws, 2)
	assert.Equal(t, "early", draws[0].Lot)
	assert.Equal(t, 500.0, draws[0].Grams)
	assert.Equal(t, "3", draws[0].Cost.String())
	assert.Equal(t, "late", draws[1].Lot)
	assert.Equal(t, "3.5", draws[1].Cost.String())
}

func TestACrumbInABagIsALastResort(t *testing.T) {
	lots := []costing.Lot{lot("crumb", 15, "0.10", "2026-07-01"), lot("early", 600, "3.00", "2026-09-01"), lot("late", 600, "3.00", "2027-09-01")}
	names := func(grams ...float64) (names []string) {
		needs := make([]costing.Need, len(grams))
		for i, g := range grams {
			needs[i] = costing.Need{Line: i, Material: "borax", Grams: g}
		}
		draws, shorts := costing.Allocate(needs, lots, today)
		assert.Empty(t, shorts)
		for _, d := range draws {
			names = append(names, d.Lot)
		}
		return names
	}
	assert.Equal(t, []string{"early", "late"}, names(1000), "15 g of 1000 g are not worth a bag")
	assert.Equal(t, []string{"crumb", "early"}, names(500), "3 % are")
	assert.Equal(t, []string{"crumb", "early", "late"}, names(1210), "unless they are needed")
	assert.Equal(t, []string{"early", "late", "late", "crumb"}, names(1000, 215), "by a later line too")
}

func TestShortSaysWhatIsMissingAndWhatIsPast(t *testing.T) {
	_, shorts := costing.Allocate(
		[]costing.Need{{Line: 3, Material: "borax", Grams: 800}, {Line: 4, Material: "salt", Grams: 1}},
		[]costing.Lot{lot("a", 500, "3.00", ""), lot("past", 900, "1.00", "2026-05-31")}, today)
	assert.Equal(t, []costing.Short{{Line: 3, Material: "borax", MissingG: 300, PastG: 900}, {Line: 4, Material: "salt", MissingG: 1}}, shorts)
}

func TestSetAsideLotsAreNotDrawnOn(t *testing.T) {
	clumped := lot("clumped", 500, "3.00", "2026-07-01")
	clumped.Unusable = true
	draws, _ := costing.Allocate([]costing.Need{{Material: "borax", Grams: 100}}, []costing.Lot{clumped, lot("good", 500, "3.00", "")}, today)
	require.Len(t, draws, 1)
	assert.Equal(t, "good", draws[0].Lot)
}

// Whatever is drawn in whatever steps, a used-up lot has cost what it cost.
func TestDrawsOfAUsedUpLotSumToItsPrice(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		l := lot("x", 0, "0", "")
		steps := rapid.SliceOfN(rapid.IntRange(1, 400_000), 1, 30).Draw(t, "milligrams")
		for _, mg := range steps {
			l.OriginalG += float64(mg) / 1000
		}
		l.RemainingG = l.OriginalG
		l.Landed = decimal.New(int64(rapid.IntRange(1, 99_999).Draw(t, "cents")), -2)
		total := decimal.Zero
		for _, mg := range steps {
			g := float64(mg) / 1000
			cost := l.Cost(g)
			require.False(t, cost.IsNegative())
			total = total.Add(cost)
			l.RemainingG -= g
		}
		require.Equal(t, l.Landed.String(), total.String())
	})
}

func TestAllocationNeverDrawsMoreThanThereIs(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var lots []costing.Lot
		have := 0.0
		for i := range rapid.IntRange(0, 12).Draw(t, "lots") {
			g := rapid.Float64Range(1, 5000).Draw(t, "grams")
			lots = append(lots, lot(fmt.Sprint(i), g, "9.99", ""))
			have += g
		}
		want := rapid.Float64Range(1, 20000).Draw(t, "need")
		draws, shorts := costing.Allocate([]costing.Need{{Material: "borax", Grams: want}}, lots, today)
		got, missing := 0.0, 0.0
		for _, d := range draws {
			got += d.Grams
		}
		for _, s := range shorts {
			missing += s.MissingG
		}
		require.LessOrEqual(t, got, have+1e-6)
		require.InDelta(t, want, got+missing, 0.001)
	})
}

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

func BenchmarkAllocate40LinesOver2000Lots(b *testing.B) {
	var lots []costing.Lot
	var needs []costing.Need
	for i := range 2000 {
		l := lot(fmt.Sprintf("lot-%04d", i), 1000, "4.56", "")
		l.Material = fmt.Sprintf("m%d", i%40)
		l.BestBefore = today.AddDate(0, 0, 1+i*7919%1000)
		lots = append(lots, l)
	}
	for i := range 40 {
		needs = append(needs, costing.Need{Line: i, Material: fmt.Sprintf("m%d", i), Grams: 2500})
	}
	b.ReportAllocs()
	for b.Loop() {
		if _, shorts := costing.Allocate(needs, lots, today); len(shorts) > 0 {
			b.Fatal(shorts)
		}
	}
}

func TestStockIsPricedAtWhatIsLeftOfEachLot(t *testing.T) {
	cheap, dear := lot("cheap", 1000, "2.00", ""), lot("dear", 1000, "6.00", "")
	cheap.RemainingG = 500
	perGram, ok := costing.StockPrice([]costing.Lot{cheap, dear})
	require.True(t, ok)
	assert.Equal(t, "0.0047", perGram.Value.Round(4).String()) // 1.00 + 6.00 over 1500 g
	assert.Equal(t, "0.002", perGram.Low.String())
	assert.Equal(t, "0.006", perGram.High.String())
	_, ok = costing.StockPrice(nil)
	assert.False(t, ok)
}
