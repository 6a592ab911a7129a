package making_test

import (
	"errors"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"keencrock/core/making"
	"keencrock/core/stock"
)

var (
	sodaBag  = stock.ID{1}
	otherBag = stock.ID{2}
)

func by() making.MadeBy {
	return making.MadeBy{ScaleG: 1, Lines: []making.Line{
		{Item: "washing-soda", Name: "Washing soda", TargetG: 500},
		{Item: "water", Name: "Water", TargetG: 1000, Unstocked: true},
		{Item: "lavender-oil", Name: "Lavender oil", TargetG: 3, Optional: true},
	}}
}

func weighing(id int64, line int, lot stock.ID, g float64) making.Event {
	kind := making.Weighed
	if g < 0 {
		kind = making.TookOut
	}
	return making.Event{ID: id, Kind: kind, Line: line, Step: making.NoStep, Lot: lot, LotCode: "S1", Grams: g}
}

func TestABatchFollowsFromItsEvents(t *testing.T) {
	b, err := making.Replay("TOW-A", by(), []making.Event{
		{ID: 1, Kind: making.Begun, Line: making.NoLine, Step: making.NoStep},
		weighing(2, 0, sodaBag, 300), weighing(3, 0, otherBag, 230), weighing(4, 0, otherBag, -30),
		weighing(5, 1, stock.ID{}, 1000),
		{ID: 6, Kind: making.Measured, Line: making.NoLine, PH: &stock.Measured{PH: 11.2, With: "meter"}},
	})
	require.NoError(t, err)
	assert.Equal(t, []making.Share{{Line: 0, Lot: sodaBag, Grams: 300}, {Line: 0, Lot: otherBag, Grams: 200}, {Line: 1, Grams: 1000}}, b.InBowl())
	assert.Equal(t, []stock.ID{sodaBag, otherBag}, b.Lots())
	assert.Equal(t, 1500.0, b.WeighedG())
	assert.Equal(t, 11.2, b.PH.PH)
	line, open := b.Next()
	assert.True(t, open)
	assert.Equal(t, 2, line)
	assert.Equal(t, "weigh lavender oil", b.Due(time.Time{})[0].What)
	assert.ErrorContains(t, b.ReadyToPack(), "Lavender oil is not weighed out yet: 0 g of 3 g.")
	assert.Equal(t, []int{2}, b.Optionals())
	require.NoError(t, b.Apply(making.Event{ID: 7, Kind: making.Skipped, Line: 2}))
	require.NoError(t, b.ReadyToPack())
	assert.Equal(t, "pack it", b.Due(time.Time{})[0].What)
	require.NoError(t, b.Apply(making.Event{ID: 8, Kind: making.Completed, Line: making.NoLine}))
	assert.Equal(t, making.Finished, b.State)
	assert.Empty(t, b.Due(time.Time{}))
}

func TestWhatCannotBeIsRefused(t *testing.T) {
	b := making.Begin("TOW-A", by())
	require.NoError(t, b.Apply(weighing(1, 0, sodaBag, 100)))
	for _, c := range []struct {
		event making.Event
		code  string
	}{
		{weighing(2, 3, sodaBag, 1), "no-such-line"},
		{weighing(2, 0, sodaBag, 0), "bad-value"},
		{weighing(2, 0, sodaBag, -100.1), "too-much-out"},
		{weighing(2, 0, otherBag, -1), "too-much-out"},
		{making.Event{ID: 2, Kind: making.Skipped, Line: 0}, "not-optional"},
		{making.Event{ID: 2, Kind: making.Amended, Corrects: 9}, "no-such-event"},
		{making.Event{ID: 2, Kind: making.Amended, Corrects: 1, Grams: 100}, "bad-value"},
		{making.Event{ID: 2, Kind: "blessed"}, "bad-value"},
	} {
		var r *making.Refusal
		require.True(t, errors.As(b.Apply(c.event), &r), "%+v", c.event)
		assert.Equal(t, c.code, r.Code)
	}
	assert.Len(t, b.Events(), 1, "nothing of it happened")
	require.NoError(t, b.Apply(making.Event{ID: 2, Kind: making.GivenUp}))
	assert.ErrorContains(t, b.Apply(weighing(3, 0, sodaBag, 1)), "Batch TOW-A is abandoned")
	assert.NoError(t, b.Apply(making.Event{ID: 3, Kind: making.Noted, Text: "it was the cat"}), "but notes are taken")
}

func TestAWeighingAndANoteArePutRight(t *testing.T) {
	b := making.Begin("TOW-A", by())
	require.NoError(t, b.Apply(weighing(1, 0, sodaBag, 250)))
	require.NoError(t, b.Apply(weighing(2, 0, sodaBag, -50)))
	require.NoError(t, b.Apply(making.Event{ID: 3, Kind: making.Noted, Text: "damp"}))
	assert.Error(t, b.Apply(making.Event{ID: 4, Kind: making.Amended, Corrects: 1, Grams: 40}), "50 g were taken out of it")
	require.NoError(t, b.Apply(making.Event{ID: 4, Kind: making.Amended, Corrects: 1, Grams: 205}))
	assert.Equal(t, 155.0, b.OfLot(0, sodaBag))
	assert.ErrorContains(t, b.Apply(making.Event{ID: 5, Kind: making.Amended, Corrects: 1, Grams: -5}), "did not come out")
	require.NoError(t, b.Apply(making.Event{ID: 5, Kind: making.Amended, Corrects: 1, Grams: 210}), "once more")
	assert.Equal(t, 160.0, b.OfLot(0, sodaBag))
	require.NoError(t, b.Apply(making.Event{ID: 6, Kind: making.Amended, Corrects: 3, Text: "dry"}))
	assert.Equal(t, "dry", b.Event(3).Text)
	assert.Equal(t, 210.0, b.Event(1).Grams)
	require.NoError(t, b.Apply(making.Event{ID: 7, Kind: making.GivenUp}))
	assert.ErrorContains(t, b.Apply(making.Event{ID: 8, Kind: making.Amended, Corrects: 1, Grams: 1}), "drawn down")
	assert.NoError(t, b.Apply(making.Event{ID: 8, Kind: making.Amended, Corrects: 3, Text: "damp after all"}))
}

// Whatever happens, the log replayed gives the batch that it happened to, and
// the bowl holds the sum of what went in.
func TestReplayOfTheLogEqualsTheBatch(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b := making.Begin("X", by())
		lots := []stock.ID{sodaBag, otherBag}
		for i := range rapid.IntRange(1, 40).Draw(t, "events") {
			e := making.Event{ID: int64(i + 1), Line: rapid.IntRange(0, 2).Draw(t, "line"), Lot: rapid.SampledFrom(lots).Draw(t, "lot"),
				Kind:     rapid.SampledFrom([]making.EventKind{making.Weighed, making.TookOut, making.Skipped, making.TakenIn, making.Noted, making.Amended}).Draw(t, "kind"),
				Grams:    float64(rapid.IntRange(-300_000, 300_000).Draw(t, "mg")) / 1000,
				Corrects: int64(rapid.IntRange(1, 40).Draw(t, "corrects"))}
			_ = b.Apply(e) // refused, or not
		}
		again, err := making.Replay("X", by(), b.Events())
		require.NoError(t, err)
		require.Equal(t, b, again)
		sum := 0.0
		for _, e := range b.Events() {
			if e.Kind == making.Weighed || e.Kind == making.TookOut {
				sum += b.Event(e.ID).Grams
			}
		}
		require.InDelta(t, sum, b.WeighedG(), 0.001)
		for _, s := range b.InBowl() {
			require.GreaterOrEqual(t, s.Grams, -stock.Tolerance)
		}
	})
}

func TestSuggestionsComeFromTheLotsThatExpireFirst(t *testing.T) {
	lots := []stock.Lot{{ID: sodaBag, Item: "washing-soda", Original: 400, Remaining: 400, Held: 100}, {ID: otherBag, Item: "washing-soda", Original: 100, Remaining: 100, Received: time.Unix(1, 0)}}
	from, missing := making.Suggest("washing-soda", 450, lots, time.Time{})
	assert.Equal(t, map[stock.ID]float64{sodaBag: 300, otherBag: 100}, from)
	assert.Equal(t, 50.0, missing)
	assert.Equal(t, 237.5, making.Fill(1000, 0.05, 4))
}
