package main

import (
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
)

// A thin layer dries as end + (began − end)·e^(−kt) (Lewis 1921): of such weighings
// the end, and the time until half a per cent is left, are known.
func TestDryingOfACurveThatIsKnown(t *testing.T) {
	const began, end, perHour = 640.0, 604.0, 0.085
	var file strings.Builder
	file.WriteString("hours,grams\n")
	for _, h := range []float64{0, 3, 7, 12, 18} {
		fmt.Fprintf(&file, "%g,%.1f\n", h, end+(began-end)*math.Exp(-perHour*h))
	}
	out, errs, code := keencrock(t, file.String(), "drying", "-")
	require.Equal(t, 0, code, "%s", errs)
	var r dryingReport
	require.NoError(t, json.Unmarshal(out, &r))
	assert.Equal(t, "drying", r.Verdict)
	assert.InDelta(t, end, r.EndG.Value, 1)
	ready := math.Log((began-end)/(0.005*end)) / perHour
	assert.InDelta(t, ready, r.ReadyH.Value, 1.5)
	assert.True(t, r.ReadyH.Low < ready && ready < r.ReadyH.High)

	out, _, code = keencrock(t, "hours,grams\n0,640\n6,620\n", "drying", "--end", "604", "-")
	require.Equal(t, 0, code)
	require.NoError(t, json.Unmarshal(out, &r))
	perHourToo := math.Log(36.0/16) / 6
	assert.InDelta(t, math.Log(36/(0.005*604))/perHourToo, r.ReadyH.Value, 0.3)
}

func TestWhatCannotBeSaidOfDryingIsNull(t *testing.T) {
	for file, want := range map[string]string{
		"hours,grams\n0,640\n6,620\n":         "too-few",
		"hours,grams\n0,640\n6,641\n12,644\n": "gaining",
		"hours,grams\n0,640\n6,640\n12,640\n": "stuck",
	} {
		out, _, code := keencrock(t, file, "drying", "-")
		require.Equal(t, 0, code)
		var r dryingReport
		require.NoError(t, json.Unmarshal(out, &r))
		assert.Equal(t, want, r.Verdict)
		assert.Nil(t, r.ReadyH)
		assert.NotEmpty(t, r.Says)
	}
}

// After each draw of a share f, topped up and stirred, the share younger than n
// draws is 1 − (1 − f)^n (a stirred tank, Danckwerts 1953).
func TestVesselOfEqualDraws(t *testing.T) {
	var file strings.Builder
	file.WriteString("day,event,litres\n0,fill,20\n")
	for n := 1; n <= 6; n++ {
		fmt.Fprintf(&file, "%d,draw,5\n%d,top-up,5\n", 25*n, 25*n)
	}
	out, errs, code := keencrock(t, file.String(), "vessel", "-")
	require.Equal(t, 0, code, "%s", errs)
	var r vesselReport
	require.NoError(t, json.Unmarshal(out, &r))
	require.Len(t, r.Draws, 6)
	assert.InDelta(t, 20, r.LevelL, 1e-9)
	last := r.Draws[5] // on day 150: topped up on 125 (25 days), 100 (50) and 75 (75)
	assert.InDelta(t, 0.25, last.Younger["30"], 1e-12)
	assert.InDelta(t, 1-math.Pow(0.75, 2), last.Younger["60"], 1e-12)
	assert.InDelta(t, 1-math.Pow(0.75, 3), last.Younger["90"], 1e-12)
}

func TestABadSeriesEndsWithStatusTwo(t *testing.T) {
	for _, c := range []struct {
		command, file, field string
		row                  int
	}{
		{"drying", "", "", 0},
		{"drying", "hours,grams\n", "", 0},
		{"drying", "hours\n1\n", "grams", 1},
		{"drying", "hours,grams\n0,much\n", "grams", 2},
		{"drying", "hours,grams\n0,0\n", "grams", 2},
		{"drying", "hours,grams\n0,10\nNaN,9\n", "hours", 3},
		{"vessel", "day,event,litres\n0,fill,10\n5,draw,11\n", "litres", 3},
		{"vessel", "day,event,litres\n0,shake,10\n", "event", 2},
		{"vessel", "day,event,litres\n0,fill,-1\n", "litres", 2},
		{"vessel", "day,event,litres\n0,fill,\n", "litres", 2},
	} {
		out, errs, code := keencrock(t, c.file, c.command, "-")
		assert.Equal(t, 2, code, "%q", c.file)
		assert.Empty(t, out)
		var p api.Problem
		require.NoError(t, json.Unmarshal(errs, &p), "%s", errs)
		assert.Equal(t, c.field, p.Field, "%q", c.file)
		assert.Equal(t, c.row, p.Row, "%q", c.file)
	}
	_, _, code := keencrock(t, "hours,grams\n0,10\n", "drying", "--end", "-3", "-")
	assert.Equal(t, 2, code)
}
