package making_test

import (
	"encoding/json"
	"os"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/making"
	"keencrock/core/stock"
)

// The page works out what to take of which lot by itself while the line is down. Both are
// held against the same cases, worked by hand: testdata/suggest.json is read by
// ui/src/api/foresee.test.ts too.
func TestWhatToTakeOfWhichLot(t *testing.T) {
	file, err := os.ReadFile("testdata/suggest.json")
	require.NoError(t, err)
	var cases []struct {
		What string
		Left float64
		Lots []struct {
			Available float64
			Past      bool
		}
		Take []float64
	}
	require.NoError(t, json.Unmarshal(file, &cases))
	today := time.Date(2026, 6, 1, 0, 0, 0, 0, time.UTC)
	for _, c := range cases {
		lots := make([]stock.Lot, len(c.Lots))
		for i, l := range c.Lots {
			lots[i] = stock.Lot{ID: stock.ID{byte(i + 1)}, Item: "borax", Original: 5000, Remaining: l.Available, BestBefore: today.AddDate(0, i+1, 0)}
			if l.Past {
				lots[i].BestBefore = today.AddDate(0, -1, 0)
			}
		}
		from, _ := making.Suggest("borax", c.Left, lots, today)
		for i := range lots {
			assert.InDelta(t, c.Take[i], from[lots[i].ID], 0.001, "%s, lot %d", c.What, i)
		}
	}
}
