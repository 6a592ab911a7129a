package exchange_test

import (
	"context"
	"strings"
	"testing"
	"time"

	"github.com/oapi-codegen/runtime/types"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/internal/exchange"
)

func read(t *testing.T, text string) ([]exchange.ShelfRow, []api.Problem) {
	t.Helper()
	good, bad, err := exchange.ReadShelf(context.Background(), []byte(text), material.Shipped(), quantity.US, "EUR")
	require.NoError(t, err)
	return good, bad
}

func TestAShelfWrittenIsReadBackTheSame(t *testing.T) {
	day := types.Date{Time: time.Date(2027, 6, 30, 0, 0, 0, 0, time.UTC)}
	lots := []api.Lot{
		{Code: "22B", Material: "washing-soda", Supplier: `Quay, "side"`, OriginalG: 5000, RemainingG: 1234.5, Landed: "11.40", Currency: "EUR", Received: day, BestBefore: day, Note: "two\nlines"},
		{Code: "E", Material: "borax", OriginalG: 1000, Landed: "0.00", Currency: "EUR", Received: day},
	}
	var b strings.Builder
	require.NoError(t, exchange.WriteShelf(&b, lots))
	good, bad := read(t, b.String())
	require.Empty(t, bad)
	require.Len(t, good, 2)
	assert.Equal(t, lots[0].Supplier, good[0].Supplier)
	assert.Equal(t, lots[0].Note, good[0].Note)
	assert.Equal(t, 5000.0, good[0].OriginalG)
	assert.Equal(t, 1234.5, good[0].RemainingG)
	assert.Equal(t, "11.4", good[0].Price.String())
	assert.Equal(t, day.Time, good[0].BestBefore)
	assert.Zero(t, good[1].RemainingG, "a lot used up stays used up")
}

// RFC 4180 allows quoted fields with line breaks; a spreadsheet may write
// semicolons, a byte order mark and a decimal comma.
func TestCSVAsSpreadsheetsWriteIt(t *testing.T) {
	good, bad := read(t, "\xef\xbb\xbfMaterial;Amount;Price;Best before\r\n\"baking soda\";\"1,5 kg\";\"2,50\";2027-06-30\r\n\r\nsalt;2 cups;0,99;\r\n")
	require.Empty(t, bad)
	require.Len(t, good, 2)
	assert.Equal(t, 1500.0, good[0].OriginalG)
	assert.Equal(t, "2.5", good[0].Price.String())
	assert.Equal(t, 4, good[1].Row)
}

// A sheet of somebody's own: its heads as people write them, numbers whose unit the head says,
// days as a spreadsheet keeps them (46203 is 30 June 2026, by the count of days that begins with
// 1 January 1900 as 1).
func TestASheetOfOnesOwnIsRead(t *testing.T) {
	good, bad := read(t, "Item,Weight (kg),Paid,Shop,Date,Use by,Left (kg)\nborax,2.5,7.50,Quay,46203,30.6.2028,1\nsalt,1,0.99,Quay,25/12/2026,,\nsalt,1,0.99,Quay,3/4/2026,,\n")
	require.Len(t, good, 2)
	assert.Equal(t, 2500.0, good[0].OriginalG)
	assert.Equal(t, 1000.0, good[0].RemainingG)
	assert.Equal(t, "2026-06-30", good[0].Received.Format(time.DateOnly))
	assert.Equal(t, "2028-06-30", good[0].BestBefore.Format(time.DateOnly))
	assert.Equal(t, "2026-12-25", good[1].Received.Format(time.DateOnly))
	require.Len(t, bad, 1)
	assert.Contains(t, bad[0].Detail, "can be read two ways")
	good, bad = read(t, "material,amount,weight,grams\nborax,1 kg,7,9\n")
	require.Empty(t, bad)
	assert.Equal(t, 1000.0, good[0].OriginalG, "the column of that very name goes before another")
}

func TestBadRowsNameLineAndColumn(t *testing.T) {
	good, bad := read(t, strings.Join([]string{"material,amount,remaining,price,currency,received",
		"borax,1 kg,,3.00,EUR,2026-01-02",
		"boraks,1 kg,,,,", "borax,1 kilogramme too much,,,,", "borax,1 kg,2 kg,,,", "borax,1 kg,,three,,",
		`borax,1 kg,,"1,000",,`, "borax,1 kg,,3.00,USD,", "borax,1 kg,,,,5/12/2026", "soap-nut,3 cups,\"x"}, "\n"))
	assert.Len(t, good, 1)
	type at struct {
		row    int
		column string
	}
	var where []at
	for _, p := range bad {
		where = append(where, at{p.Row, p.Field})
		assert.NotEmpty(t, p.Detail)
	}
	assert.Equal(t, []at{{3, "material"}, {4, "amount"}, {5, "remaining"}, {6, "price"}, {7, "price"}, {8, "currency"}, {9, "received"}}, where[:7])
	assert.Contains(t, bad[4].Detail, "read two ways")
	assert.Equal(t, "bad-csv", bad[7].Code, "a quote that is never closed")
}

func TestAFileWithoutItsColumnsIsRefused(t *testing.T) {
	for text, want := range map[string]string{"": "no header", "material\nborax": "amount is missing", "material,amount,amount\n": "stands twice"} {
		_, _, err := exchange.ReadShelf(context.Background(), []byte(text), material.Shipped(), quantity.US, "EUR")
		assert.ErrorContains(t, err, want)
	}
}

func TestPriceLists(t *testing.T) {
	p, err := exchange.ReadPrices(strings.NewReader("material,amount,price,currency\nborax,1 kg,3.00,EUR\nvinegar,5 l,4.50,EUR\n"), material.Shipped())
	require.NoError(t, err)
	cost, known := p.For("borax", quantity.Exactly(250))
	assert.True(t, known)
	assert.Equal(t, "0.75", cost.Value.String())
	for text, want := range map[string]string{
		"material,amount,price,currency\nborax,1 kg,3.00,EUR\nsalt,1 kg,3.00,USD\n": "mixes EUR and USD",
		"material,amount,price,currency\nborax,1 kg,3.00,euro\n":                    "three capitals",
		"material,amount,price,currency\nborax,1 handfull,3.00,EUR\n":               "Line 2",
		"material,amount,price\nborax,1 kg,3.00\n":                                  "currency is missing",
	} {
		_, err := exchange.ReadPrices(strings.NewReader(text), material.Shipped())
		assert.ErrorContains(t, err, want)
	}
}

func FuzzReadShelf(f *testing.F) {
	f.Add("material;amount\n\"baking so") // a quote that is never closed, at once
	f.Add("Material;Amount;Price;Best before\r\n\"baking soda\";\"1,5 kg\";\"2,50\";2027-06-30\r\n")
	f.Add("material,amount,remaining,price,currency,received\nborax,1 kg,0 g,3.00,EUR,2026-01-02\n4 lemons,3 lemons,,,,\n")
	f.Fuzz(func(t *testing.T, text string) {
		good, bad, err := exchange.ReadShelf(context.Background(), []byte(text), material.Shipped(), quantity.US, "EUR")
		if err != nil {
			assert.ErrorAs(t, err, new(*api.Problem))
			return
		}
		for _, row := range good {
			assert.True(t, row.OriginalG > 0 && row.RemainingG >= 0 && row.RemainingG <= row.OriginalG, "%+v", row)
			assert.False(t, row.Price.IsNegative())
			assert.Positive(t, row.Row)
		}
		for _, p := range bad {
			assert.NotEmpty(t, p.Detail)
			assert.Positive(t, p.Row)
		}
	})
}

func FuzzReadPrices(f *testing.F) {
	f.Add("material,amount,price,currency\nborax,1 kg,3.00,EUR\nwhite vinegar,5 l,4.50,EUR\n")
	f.Add("price;currency;amount;material\n\"0,99\";EUR;a box of 500 g;salt\n")
	f.Fuzz(func(t *testing.T, text string) {
		prices, err := exchange.ReadPrices(strings.NewReader(text), material.Shipped())
		if err != nil {
			assert.ErrorAs(t, err, new(*api.Problem))
			return
		}
		for id := range prices.PerGram {
			cost, known := prices.For(id, quantity.Exactly(1000))
			assert.True(t, known && !cost.Value.IsNegative(), id)
		}
	})
}
