package main

import (
	"encoding/json"
	"errors"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
)

// Two makings of 24 tabs in one tray, for Thursday: begun Tuesday and Wednesday (by hand).
func TestPlanPrintsWhatToMakeWhen(t *testing.T) {
	out, err := run(planCommand(), `{"today": "2026-06-01", "days": 14, "work_days": [1, 2, 3, 4, 5], "bench_min_a_day": 120,
		"vessels": [{"id": "tray", "count": 1}],
		"goods": [{"id": "heron", "bench_min": 60, "pieces": 24, "stands": [{"vessel": "tray", "hours": 24}], "keeps_days": 300}],
		"stock": [{"good": "heron", "pieces": 2, "best_before": "2026-12-01"}],
		"orders": [{"good": "heron", "pieces": 50, "day": "2026-06-04"}, {"good": "heron", "pieces": 24, "day": "2026-06-04"}]}`)
	require.NoError(t, err)
	var p struct {
		Makings []struct {
			Good, Bench, Ready string
			Pieces             int
			Stands             []struct{ Vessel, From, To string }
		}
		Orders []struct {
			Day      string
			Given    int
			LateDays int `json:"late_days"`
		}
		Lift []struct {
			Limit     string
			By        float64
			SavesDays int `json:"saves_days"`
		}
	}
	require.NoError(t, json.Unmarshal(out, &p))
	require.Len(t, p.Makings, 3)
	assert.Equal(t, "2026-06-01", p.Makings[0].Bench)
	assert.Equal(t, "2026-06-01T09:00:00", p.Makings[0].Stands[0].From)
	assert.Equal(t, "2026-06-02T09:00:00", p.Makings[0].Stands[0].To)
	assert.Equal(t, "2026-06-02", p.Makings[0].Ready)
	assert.Equal(t, 50, p.Orders[0].Given)
	assert.Equal(t, 0, p.Orders[0].LateDays+p.Orders[1].LateDays)
	assert.Empty(t, p.Lift)
}

// A spray is made of an infusion that stands before it, and on the day of the soap that opens
// the same bag (by hand).
func TestPlanMakesWhatIsHalfMadeBefore(t *testing.T) {
	out, err := run(planCommand(), `{"today": "2026-06-01", "days": 30, "work_days": [1, 2, 3, 4, 5, 6, 7], "bench_min_a_day": 120, "vessels": [{"id": "crock", "count": 1}],
		"materials": [{"id": "soda", "here": 100, "from": "2026-06-09"}],
		"goods": [{"id": "spray", "bench_min": 30, "pieces": 6, "uses": [{"of": "infusion", "amount": 1500}, {"of": "soda", "amount": 60}], "shares": ["soda"]},
			{"id": "infusion", "bench_min": 20, "pieces": 2000, "stands": [{"vessel": "crock", "hours": 72}]},
			{"id": "soap", "bench_min": 30, "pieces": 4, "shares": ["soda", "oil"]}],
		"orders": [{"good": "spray", "pieces": 6, "day": "2026-06-08"}, {"good": "soap", "pieces": 4, "day": "2026-06-10"}]}`)
	require.NoError(t, err)
	var p struct {
		Makings []struct {
			Good, Bench string
			Draws       []struct {
				Good           string
				Pieces, Making int
			}
			With []int
		}
	}
	require.NoError(t, json.Unmarshal(out, &p))
	require.Len(t, p.Makings, 3)
	assert.Equal(t, []string{"infusion", "soap", "spray"}, []string{p.Makings[0].Good, p.Makings[1].Good, p.Makings[2].Good})
	assert.Equal(t, "2026-06-04", p.Makings[0].Bench)
	assert.Equal(t, []string{"2026-06-08", "2026-06-08"}, []string{p.Makings[1].Bench, p.Makings[2].Bench}, "the soap has time until Wednesday: it goes with the spray")
	assert.Equal(t, 1500, p.Makings[2].Draws[0].Pieces)
	assert.Equal(t, 0, p.Makings[2].Draws[0].Making)
	assert.Equal(t, []int{2}, p.Makings[1].With)
}

func TestShoppingPrintsTheCheapestWhole(t *testing.T) {
	out, err := run(shoppingCommand(), `{"needs": [{"material": "soda", "grams": 2600}], "currency": "EUR", "delivery": {"mill": 3, "quay": "0.50"},
		"offers": [{"material": "soda", "supplier": "mill", "pack_g": 1000, "price": 2.5}, {"material": "soda", "supplier": "quay", "pack_g": 3000, "price": "9.95"}]}`)
	require.NoError(t, err)
	assert.JSONEq(t, `{"total": 10.45, "currency": "EUR", "lines": [{"material": "soda", "supplier": "quay", "packs": 1, "pack_g": 3000, "price": 9.95}]}`, string(out))
}

func TestWhatIsNoSuchFileIsAProblem(t *testing.T) {
	for _, text := range []string{``, `[]`, `{}`, `{"today": "soon"}`, `{"today": "2026-06-01", "days": 7, "work_days": [9], "bench_min_a_day": 60, "goods": [], "orders": []}`,
		`{"today": "2026-06-01", "days": 7, "work_days": [1], "bench_min_a_day": 60, "goods": [], "orders": [{"good": "x", "pieces": 1, "day": "2026-06-02"}]}`} {
		_, err := run(planCommand(), text)
		var p *api.Problem
		require.True(t, errors.As(err, &p), "%s: %v", text, err)
		assert.NotEmpty(t, p.Detail)
	}
	for _, text := range []string{`{}`, `{"needs": [{"material": "soda", "grams": -1}], "offers": []}`, `{"needs": [], "offers": [{"material": "a", "supplier": "b", "pack_g": 0, "price": 1}]}`} {
		_, err := run(shoppingCommand(), text)
		var p *api.Problem
		require.True(t, errors.As(err, &p), "%s: %v", text, err)
	}
}
