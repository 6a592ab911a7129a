package stock_test

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"keencrock/core/quantity"
	"keencrock/core/stock"
)

func day(s string) time.Time {
	t, err := time.Parse(time.DateOnly, s)
	if err != nil {
		panic(err)
	}
	return t
}

// named is an id that says a name.
func named(name string) (id stock.ID) {
	copy(id[:], name)
	return id
}

func lot(id string, grams float64, price, bestBefore string) stock.Lot {
	l := stock.Lot{ID: named(id), Item: "borax", Original: grams, Remaining: grams, Landed: decimal.RequireFromString(price), Received: day("2026-01-01")}
	if bestBefore != "" {
		l.BestBefore = day(bestBefore)
	}
	return l
}

var today = day("2026-06-01")

func TestTheLotThatExpiresFirstGoesFirst(t *testing.T) {
	draws, shorts := stock.Allocate(
		[]stock.Need{{Line: 0, Item: "borax", Quantity: 1200}},
		[]stock.Lot{lot("undated", 1000, "4.00", ""), lot("late", 1000, "5.00", "2028-01-01"), lot("early", 500, "3.00", "2026-09-01"), lot("past", 900, "1.00", "2026-05-31")},
		today)
	assert.Empty(t, shorts)
	require.Len(t, draws, 2)
	assert.Equal(t, named("early"), draws[0].Lot)
	assert.Equal(t, 500.0, draws[0].Quantity)
	assert.Equal(t, "3", draws[0].Cost.String())
	assert.Equal(t, named("late"), draws[1].Lot)
	assert.Equal(t, "3.5", draws[1].Cost.String())
}

func TestACrumbInABagIsALastResort(t *testing.T) {
	lots := []stock.Lot{lot("crumb", 15, "0.10", "2026-07-01"), lot("early", 600, "3.00", "2026-09-01"), lot("late", 600, "3.00", "2027-09-01")}
	names := func(grams ...float64) (names []string) {
		needs := make([]stock.Need, len(grams))
		for i, g := range grams {
			needs[i] = stock.Need{Line: i, Item: "borax", Quantity: g}
		}
		draws, shorts := stock.Allocate(needs, lots, today)
		assert.Empty(t, shorts)
		for _, d := range draws {
			names = append(names, strings.TrimRight(string(d.Lot[:]), "\x00"))
		}
		return names
	}
	assert.Equal(t, []string{"early", "late"}, names(1000), "15 g of 1000 g are not worth a bag")
	assert.Equal(t, []string{"crumb", "early"}, names(500), "3 % are")
	assert.Equal(t, []string{"crumb", "early", "late"}, names(1210), "unless they are needed")
	assert.Equal(t, []string{"early", "late", "late", "crumb"}, names(1000, 215), "by a later line too")
}

func TestShortSaysWhatIsMissingAndWhatIsPast(t *testing.T) {
	_, shorts := stock.Allocate(
		[]stock.Need{{Line: 3, Item: "borax", Quantity: 800}, {Line: 4, Item: "salt", Quantity: 1}},
		[]stock.Lot{lot("a", 500, "3.00", ""), lot("past", 900, "1.00", "2026-05-31")}, today)
	assert.Equal(t, []stock.Short{{Line: 3, Item: "borax", Missing: 300, Past: 900}, {Line: 4, Item: "salt", Missing: 1}}, shorts)
}

func TestSetAsideLotsAreNotDrawnOn(t *testing.T) {
	clumped := lot("clumped", 500, "3.00", "2026-07-01")
	clumped.SetAside = true
	draws, _ := stock.Allocate([]stock.Need{{Item: "borax", Quantity: 100}}, []stock.Lot{clumped, lot("good", 500, "3.00", "")}, today)
	require.Len(t, draws, 1)
	assert.Equal(t, named("good"), draws[0].Lot)
}

// Whatever is drawn in whatever steps, a used-up lot has cost what it cost.
func TestDrawsOfAUsedUpLotSumToItsPrice(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		l := lot("x", 0, "0", "")
		steps := rapid.SliceOfN(rapid.IntRange(1, 400_000), 1, 30).Draw(t, "milligrams")
		for _, mg := range steps {
			l.Original += float64(mg) / 1000
		}
		l.Remaining = l.Original
		l.Landed = decimal.New(int64(rapid.IntRange(1, 99_999).Draw(t, "cents")), -2)
		total := decimal.Zero
		for _, mg := range steps {
			g := float64(mg) / 1000
			cost := l.Cost(g)
			require.False(t, cost.IsNegative())
			total = total.Add(cost)
			l.Remaining -= g
		}
		require.Equal(t, l.Landed.String(), total.String())
	})
}

func TestAllocationNeverDrawsMoreThanThereIs(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var lots []stock.Lot
		have := 0.0
		for i := range rapid.IntRange(0, 12).Draw(t, "lots") {
			g := rapid.Float64Range(1, 5000).Draw(t, "grams")
			lots = append(lots, lot(fmt.Sprint(i), g, "9.99", ""))
			have += g
		}
		want := rapid.Float64Range(1, 20000).Draw(t, "need")
		draws, shorts := stock.Allocate([]stock.Need{{Item: "borax", Quantity: want}}, lots, today)
		got, missing := 0.0, 0.0
		for _, d := range draws {
			got += d.Quantity
		}
		for _, s := range shorts {
			missing += s.Missing
		}
		require.LessOrEqual(t, got, have+1e-6)
		require.InDelta(t, want, got+missing, 0.001)
	})
}

func BenchmarkAllocate40LinesOver2000Lots(b *testing.B) {
	var lots []stock.Lot
	var needs []stock.Need
	for i := range 2000 {
		l := lot(fmt.Sprintf("lot-%04d", i), 1000, "4.56", "")
		l.Item = fmt.Sprintf("m%d", i%40)
		l.BestBefore = today.AddDate(0, 0, 1+i*7919%1000)
		lots = append(lots, l)
	}
	for i := range 40 {
		needs = append(needs, stock.Need{Line: i, Item: fmt.Sprintf("m%d", i), Quantity: 2500})
	}
	b.ReportAllocs()
	for b.Loop() {
		if _, shorts := stock.Allocate(needs, lots, today); len(shorts) > 0 {
			b.Fatal(shorts)
		}
	}
}

func TestALevelMarksWhatIsWorthKnowing(t *testing.T) {
	a, b := lot("a", 1000, "1", "2026-06-20"), lot("b", 500, "1", "2026-05-01")
	b.Clumped, b.Opened = true, day("2026-04-01")
	l := stock.LevelOn([]stock.Lot{a, b}, 1200, today)
	assert.Equal(t, stock.Level{Lots: 2, Stock: 1500, Usable: 1000, Full: 1000.0 / 2400, NextDate: day("2026-06-20"),
		Marks: []stock.Mark{stock.MarkPast, stock.MarkClumped, stock.MarkLow, stock.MarkSoon, stock.MarkOpened}}, l)
	assert.Equal(t, []stock.Mark{stock.MarkOut}, stock.LevelOn(nil, 0, today).Marks)
	assert.Equal(t, stock.Far, stock.NearnessOn(today.AddDate(0, 0, stock.SoonDays), today))
	assert.Equal(t, stock.Soon, stock.NearnessOn(today, today), "good on its day")
	assert.Equal(t, stock.Past, stock.NearnessOn(today.AddDate(0, 0, -1), today))
}

// Whatever is taken out of jars, they hold as much less.
func TestWhatIsTakenOutOfJarsIsMissingInThem(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		pieces := make([]stock.Piece, rapid.IntRange(1, 6).Draw(t, "jars"))
		before := 0.0
		for i := range pieces {
			mg := rapid.IntRange(1, 500_000).Draw(t, "mg")
			pieces[i] = stock.Piece{ID: named(fmt.Sprint(i)), Number: i + 1, Original: float64(mg) / 1000, Left: float64(mg) / 1000}
			if rapid.Bool().Draw(t, "gone") {
				pieces[i].GoneOn = today
				continue
			}
			before += pieces[i].Left
		}
		want := stock.Round(rapid.Float64Range(0, 2*before).Draw(t, "grams"))
		taken, err := stock.TakeFromPieces(pieces, want, today)
		if want > before+stock.Tolerance {
			require.Error(t, err)
			return
		}
		require.NoError(t, err)
		sum, left := 0.0, 0.0
		for _, g := range taken {
			sum += g
		}
		for _, p := range pieces {
			if p.IsHere() {
				left += p.Left
				require.Positive(t, p.Left, "an empty jar is gone")
			}
		}
		require.InDelta(t, want, sum, 0.001)
		require.InDelta(t, before-want, left, 0.001)
		opened := 0
		for _, p := range pieces {
			if p.IsHere() && p.IsOpened() {
				opened++
			}
		}
		require.LessOrEqual(t, opened, 1, "a second jar is opened only when the first is empty")

		_, err = stock.PutBackIntoPieces(pieces, want)
		require.NoError(t, err, "what was taken out has room")
		for _, p := range pieces {
			require.True(t, !p.IsHere() || !p.IsOpened(), "what was taken out and put back is as it was")
		}
		_, err = stock.PutBackIntoPieces(pieces, 1)
		require.Error(t, err, "full jars have no room")
	})
}

func TestAContainerSaysWhatGoesIn(t *testing.T) {
	c := stock.Container{Name: "bottle 15 oz", HoldsML: 444}
	assert.Equal(t, 444.0, c.HoldsG(1))
	brine, powder := quantity.Exactly(1), quantity.Range{Value: 0.53, Low: 0.4, High: 0.7}
	assert.Equal(t, stock.AsReckoned, c.Filled(460, brine, true), "to the brim")
	assert.Equal(t, stock.CannotBe, c.Filled(480, brine, true), "what is poured weighs what it weighs")
	assert.Equal(t, stock.Denser, c.Filled(480, quantity.Range{Value: 1, Low: 0.9, High: 1.2}, true), "but where it may be denser")
	// common practice: a jar of a litre with 601 g of powder that stands there, filled
	jar := stock.Container{Name: "jar 1 l", HoldsML: 1000}
	assert.Equal(t, stock.AsReckoned, jar.Filled(540, powder, false))
	assert.Equal(t, stock.Denser, jar.Filled(601, powder, false))
	assert.Equal(t, stock.CannotBe, jar.Filled(2700, powder, false), "soda without air weighs 2.54 g/ml (CRC Handbook)")
	full, over := c.Fill(1000, 1)
	assert.Equal(t, 2, full)
	assert.Equal(t, 112.0, over)
	unknown := stock.Container{Name: "jug"}
	assert.Equal(t, stock.AsReckoned, unknown.Filled(1e6, brine, true))
	full, _ = unknown.Fill(1000, 1)
	assert.Zero(t, full)
}
