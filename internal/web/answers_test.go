package web_test

import (
	"bytes"
	"compress/gzip"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
)

// What is read again is told to be the same, and is compressed where that is
// worth it; a change is never kept by a browser.
func TestAnswersThatAreReadAgainAreTagged(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	first := c.get("/api/materials").gives(http.StatusOK, nil)
	tag := first.header.Get("ETag")
	require.NotEmpty(t, tag)
	assert.Equal(t, "private, no-cache", first.header.Get("Cache-Control"))
	again := c.send("GET", "/api/materials", nil, map[string]string{"If-None-Match": tag})
	assert.Equal(t, http.StatusNotModified, again.status)
	assert.Empty(t, again.body)
	c.take("1 kg borax 3.00, lot B1")
	g := 5000.0
	c.put("/api/materials/borax/figures", api.OwnFigures{ReorderG: &g}).gives(http.StatusOK, nil)
	changed := c.send("GET", "/api/materials", nil, map[string]string{"If-None-Match": tag})
	assert.Equal(t, http.StatusOK, changed.status, "it is not the same any more")
	assert.Empty(t, c.post("/api/assess", formulaFile("Towpath", "1 cup of borax")).header.Get("ETag"))

	r, err := http.NewRequest("GET", c.url+"/api/materials", nil)
	require.NoError(t, err)
	r.Header.Set("Accept-Encoding", "gzip")
	res, err := c.http.Do(r)
	require.NoError(t, err)
	require.NoError(t, res.Body.Close())
	assert.Empty(t, res.Header.Get("Content-Encoding"), "within one machine")
	r.Header.Set("X-Forwarded-For", "203.0.113.9")
	res, err = c.http.Do(r)
	require.NoError(t, err)
	defer res.Body.Close()
	require.Equal(t, "gzip", res.Header.Get("Content-Encoding"))
	z, err := gzip.NewReader(res.Body)
	require.NoError(t, err)
	text, err := io.ReadAll(z)
	require.NoError(t, err)
	assert.Equal(t, string(changed.body), string(text))
}

func TestTheContractIsServed(t *testing.T) {
	a := open(t).visitor().get("/api/openapi.yaml").gives(http.StatusOK, nil)
	assert.Equal(t, "application/yaml", a.header.Get("Content-Type"))
	spec, err := openapi3.NewLoader().LoadFromData(a.body)
	require.NoError(t, err)
	assert.Equal(t, "Keen Crock", spec.Info.Title)
}

// Whatever the contract says takes a key is refused without one, and nothing has
// happened then.
func TestWhatMakesSomethingNeedsAKey(t *testing.T) {
	h := open(t)
	owner := h.founded("marl")
	w := h.furnish(owner, "OWN")
	before := h.everything(owner)
	keyed := 0
	for path, item := range contractSpec.Paths.Map() {
		for method, op := range item.Operations() {
			if op.Parameters.GetByInAndName("header", "Idempotency-Key") == nil {
				continue
			}
			keyed++
			var content io.Reader
			media := "application/json"
			switch body := bodies(w)[op.OperationID].(type) {
			case nil:
			case string:
				content, media = strings.NewReader(body), "text/csv"
			case []byte:
				content, media = bytes.NewReader(body), "application/octet-stream"
			default:
				text, err := json.Marshal(body)
				require.NoError(t, err)
				content = bytes.NewReader(text)
			}
			at := fillIn(path, w.open.Id.String())
			owner.send(method, at, content, map[string]string{"Content-Type": media, "X-CSRF-Token": owner.csrf}).refuses(http.StatusUnprocessableEntity, "no-key")
		}
	}
	assert.GreaterOrEqual(t, keyed, 14)
	assert.Equal(t, before, h.everything(owner))
}

// Today is the workshop's day: in Auckland it is the second of June when it is
// half past two in the afternoon of the first in UTC (UTC+12; the IANA database).
func TestTodayIsTheWorkshopsDay(t *testing.T) {
	h := open(t)
	h.now = time.Date(2026, 6, 1, 14, 30, 0, 0, time.UTC)
	c := h.founded("marl")
	received := func() string { return c.take("1 kg borax 3.00").Received.Format(time.DateOnly) }
	assert.Equal(t, "2026-06-01", received())
	var w api.Workshop
	c.get("/api/workshop").gives(http.StatusOK, &w)
	w.TimeZone = "Pacific/Auckland"
	c.put("/api/workshop", w).gives(http.StatusOK, &w)
	assert.Equal(t, "2026-06-02", received())
	b := c.begin(c.keep("Towpath", "100 g of borax"), api.Target{Factor: 1})
	assert.True(t, strings.HasPrefix(b.Code, "TOW-260602-"), b.Code)
	for _, zone := range []string{"Mars/Olympus", "Local", "../etc/passwd"} {
		w.TimeZone = zone
		assert.Equal(t, "time_zone", c.put("/api/workshop", w).refuses(http.StatusUnprocessableEntity, "bad-value").Field, zone)
	}
}

// Every list pages to its end, each row once.
func TestThePantryPagesToItsEnd(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	c.take("5 kg borax 3.00, lot B1")
	f := c.keep("Towpath", "10 g of borax")
	made := map[string]bool{}
	for i := range 7 {
		h.now = h.now.Add(time.Duration(i) * time.Hour)
		b := c.makeAll(f, api.Target{Factor: 1}, 2)
		made[b.Code] = true
	}
	for _, all := range []bool{true, false} {
		seen, after := map[string]bool{}, ""
		for page := 0; ; page++ {
			require.Less(t, page, 9)
			a := c.get(fmt.Sprintf("/api/pantry?all=%v&limit=3&after=%s", all, after))
			var goods []api.PantryLot
			a.gives(http.StatusOK, &goods)
			for _, g := range goods {
				assert.False(t, seen[g.Code], "%s twice", g.Code)
				seen[g.Code] = true
			}
			if after = a.header.Get("Next-Page"); after == "" {
				break
			}
		}
		assert.Equal(t, made, seen, "all: %v", all)
	}
	c.get("/api/pantry?after=yesterday").refuses(http.StatusBadRequest, "bad-page")
	var good api.PantryLot
	var page api.BatchPage
	c.get("/api/batches").gives(http.StatusOK, &page)
	c.get("/api/pantry/"+page.Batches[0].Id.String()).gives(http.StatusOK, &good)
	assert.Equal(t, page.Batches[0].Code, good.Code)
	open := c.begin(f, api.Target{Factor: 1})
	c.get("/api/pantry/"+open.Id.String()).refuses(http.StatusNotFound, "not-finished")
	c.get("/api/pantry/"+uuid.NewString()).refuses(http.StatusNotFound, "not-found")
}

// A viewer sees the scale and cannot touch it; a scale that is set otherwise is
// read anew by whoever reads it already.
func TestTheScaleIsForThoseWhoWork(t *testing.T) {
	h := open(t)
	owner := h.founded("marl")
	viewer := h.with(owner, "viewer", api.Viewer)
	viewer.post("/api/scale", api.ScaleTouch{PutG: 10}).refuses(http.StatusForbidden, "not-allowed")
	var r api.ScaleReading
	owner.post("/api/scale", api.ScaleTouch{PutG: 10}).gives(http.StatusOK, &r)
	assert.Equal(t, 1.0, r.StepG)
	var w api.Workshop
	owner.get("/api/workshop").gives(http.StatusOK, &w)
	w.ScaleStepG = 0.1
	ctx, cancel := context.WithTimeout(t.Context(), 20*time.Second)
	defer cancel()
	readings := viewer.followAt(ctx, "/api/scale/stream")
	assert.Contains(t, <-readings, `"step_g":1`)
	owner.put("/api/workshop", w).gives(http.StatusOK, nil)
	anew := false
	for r := range readings { // those on their way first
		if anew = strings.Contains(r, `"step_g":0.1`); anew {
			break
		}
	}
	assert.True(t, anew, "who reads the scale already reads the new one")
	owner.post("/api/scale", api.ScaleTouch{}).gives(http.StatusOK, &r)
	assert.Equal(t, 0.1, r.StepG)
}
