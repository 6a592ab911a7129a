package web_test

import (
	"compress/gzip"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math"
	"net/http"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
	"keencrock/internal/backup"
	"keencrock/internal/station/bench"
	"keencrock/internal/store"
	"keencrock/internal/testdb"
)

// unpacked is a file of testdata.
func unpacked(t *testing.T, name string) []byte {
	f, err := os.Open("testdata/" + name)
	require.NoError(t, err)
	defer f.Close()
	z, err := gzip.NewReader(f)
	require.NoError(t, err)
	text, err := io.ReadAll(z)
	require.NoError(t, err)
	return text
}

// openOld is a house on a database that an older version made, with what its answers
// were, by their address.
func openOld(t *testing.T, name string, now time.Time) (h *house, seen map[string]any) {
	t.Helper()
	h = openOn(t, loadOld(t, name))
	h.now = now
	return h, answersOf(t, name)
}

// answersOf are the answers that a version gave, by their address.
func answersOf(t *testing.T, name string) (seen map[string]any) {
	t.Helper()
	require.NoError(t, json.Unmarshal(unpacked(t, name+".json.gz"), &seen))
	if name < "schema-16" {
		seen["/api/shelf.csv"] = unpriced(seen["/api/shelf.csv"].(string))
	}
	return seen
}

// unpriced is a table of lots of before a price that nobody noted was told from none: that
// stood there as nothing. What was kept back cost nothing then as now.
func unpriced(table string) string {
	lines := strings.SplitAfter(table, "\n")
	for i := range lines {
		if !strings.Contains(lines[i], `"from batch `) {
			lines[i] = strings.ReplaceAll(lines[i], ",0.00,", ",,")
		}
	}
	return strings.Join(lines, "")
}

// loadOld is a database as an older version left it.
func loadOld(t *testing.T, name string) (dsn string) {
	t.Helper()
	dsn = testdb.New(t)
	conn, err := pgx.Connect(context.Background(), dsn)
	require.NoError(t, err)
	_, err = conn.Exec(context.Background(), `do $$ begin create role keencrock_app nologin; exception when duplicate_object or unique_violation then null; end $$`)
	require.NoError(t, err)
	_, err = conn.Exec(context.Background(), string(unpacked(t, name+".sql.gz")))
	require.NoError(t, err)
	require.NoError(t, conn.Close(context.Background()))
	return dsn
}

// withoutCautions leaves cautions of some codes out of an answer.
func withoutCautions(answer any, codes []string) any {
	switch a := answer.(type) {
	case map[string]any:
		for key, v := range a {
			a[key] = withoutCautions(v, codes)
		}
	case []any:
		return slices.DeleteFunc(a, func(v any) bool {
			v = withoutCautions(v, codes)
			caution, is := v.(map[string]any)
			return is && caution["severity"] != nil && slices.Contains(codes, fmt.Sprint(caution["code"]))
		})
	}
	return answer
}

// holdsAll holds that every figure of the answers is still there; more may have come.
// Cautions of the codes given are looked away from.
func holdsAll(t *testing.T, h *house, c *client, seen map[string]any, but ...string) {
	t.Helper()
	for path, before := range seen {
		if text, isFile := before.(string); isFile {
			assert.Equal(t, text, string(c.get(path).gives(http.StatusOK, nil).body), path)
			continue
		}
		var now any
		c.get(path).gives(http.StatusOK, &now)
		assertHolds(t, path, withoutCautions(before, but), withoutCautions(now, but))
	}
	broken, err := h.store().Verify(context.Background())
	require.NoError(t, err)
	assert.Empty(t, broken, "stock adds up after the move")
}

// batchOf finds a batch among answers by the beginning of its code.
func batchOf(t *testing.T, c *client, seen map[string]any, code string) api.Batch {
	t.Helper()
	var found api.Batch
	for _, b := range seen["/api/batches?limit=200"].(map[string]any)["batches"].([]any) {
		if b := b.(map[string]any); strings.HasPrefix(b["code"].(string), code) {
			c.get("/api/batches/"+b["id"].(string)).gives(http.StatusOK, &found)
		}
	}
	require.NotEmpty(t, found.Code, code)
	return found
}

// A database of before there was one stock opens in this version: with the demo, jars
// that went and came back, a batch on the bench, one given up, lots put right and
// measured, and materials of one's own. It kept no assessment of its batches: they are
// assessed anew, and what the materials’ own hazards say goes by a screen of the whole
// since then.
func TestDataOfBeforeOneStockOpens(t *testing.T) {
	h, seen := openOld(t, "schema-08", time.Date(2026, 11, 25, 18, 0, 0, 0, time.UTC))
	c := h.signInWith("keeper", "lockside-demo")
	holdsAll(t, h, c, seen, "eye-irritation", "eye-damage", "skin-sensitising", "skin-irritation", "burning-acid", "burning-alkali", "extreme-ph", "nothing-keeps-it", "preservative-idle", "acid-and-soda-wet", "measured-otherwise")

	// what was begun goes on, and what was made can go into something else
	begun := batchOf(t, c, seen, "HAZ-261125-A")
	require.Len(t, begun.Lines, 3)
	begun = c.weigh(begun, 0, "", 850)
	begun = c.weigh(begun, 1, "QP-1", 3)
	c.post("/api/batches/"+begun.Id.String()+"/finish", api.Finish{Jars: 2}).gives(http.StatusOK, &begun)
	assert.Equal(t, api.BatchStateFinished, begun.State)
	f := c.keep("Twice hazel", "100 g of Hazel Mist", "100 g of water")
	second := c.begin(f, api.Target{Factor: 1})
	require.NotEmpty(t, second.Lines[0].Lots)
	c.weigh(second, 0, second.Lines[0].Lots[0].Code, 100)
}

// A database of before batches had steps opens in this version: with the demo, a vat, a
// weighing that was put right, a batch on the bench whose pH was measured.
func TestDataOfBeforeStepsOpens(t *testing.T) {
	h, seen := openOld(t, "schema-11", time.Date(2026, 11, 25, 20, 0, 0, 0, time.UTC))
	c := h.signInWith("keeper", "lockside-demo")
	holdsAll(t, h, c, seen)

	// a batch that was begun before there were steps is weighed out and packed
	begun := batchOf(t, c, seen, "HAZ-261125-A")
	assert.Equal(t, []string{"weigh", "fill"}, kindsOf(begun))
	for i := range begun.Lines {
		if l := begun.Lines[i]; l.WeighedG == 0 {
			begun = c.weigh(begun, i, l.Lots[0].Code, l.TargetG)
		}
	}
	assert.Equal(t, api.BatchStatePacking, begun.State)
	c.post("/api/batches/"+begun.Id.String()+"/finish", api.Finish{Jars: 2}).gives(http.StatusOK, &begun)
	var rack api.Rack
	c.get("/api/rack").gives(http.StatusOK, &rack)
	assert.Empty(t, rack.Standing, "nothing of then stands")
}

// A database of before labels opens in this version, with the demo. What it made can be
// labelled, and every jar has a code.
func TestDataOfBeforeLabelsOpens(t *testing.T) {
	h, seen := openOld(t, "schema-12", time.Date(2026, 11, 26, 0, 12, 22, 0, time.UTC))
	c := h.signInWith("keeper", "lockside-demo")
	holdsAll(t, h, c, seen)

	made := batchOf(t, c, seen, "LOC-")
	var view api.LabelView
	c.post("/api/batches/"+made.Id.String()+"/label", api.LabelWish{Form: "whole", Languages: []string{"en"}, Origin: "http://127.0.0.1:8420"}).gives(http.StatusOK, &view)
	assert.Contains(t, view.Svg, "Lockgate")
	var w api.Workshop
	c.get("/api/workshop").gives(http.StatusOK, &w)
	assert.False(t, w.PrivateJars)
}

// A database of before rows had walls opens in this version, with the demo.
func TestDataOfBeforeWallsOpens(t *testing.T) {
	h, seen := openOld(t, "schema-13", time.Date(2026, 11, 26, 2, 19, 56, 0, time.UTC))
	holdsAll(t, h, h.signInWith("keeper", "lockside-demo"), seen)
}

// keptSince is the first version of which the demo was kept as it stood when it was made.
const keptSince = "schema-21"

// momentOf is when a database of testdata was made: the latest moment in it, since its demo
// ends in its present.
func momentOf(t *testing.T, name string) time.Time {
	t.Helper()
	latest := ""
	for _, at := range regexp.MustCompile(`20\d\d-\d\d-\d\d \d\d:\d\d:\d\d\+00`).FindAllString(string(unpacked(t, name+".sql.gz")), -1) {
		latest = max(latest, at)
	}
	now, err := time.Parse("2006-01-02 15:04:05-07", latest)
	require.NoError(t, err)
	return now.UTC()
}

// A database that each earlier version made opens in this one, with the demo; so does a
// backup of the last one, in which every list is as it was. They and their answers are kept
// when a version is released: see TestKeepThisVersion.
func TestDataOfEarlierVersionsOpens(t *testing.T) {
	files, err := filepath.Glob("testdata/schema-*.sql.gz")
	require.NoError(t, err)
	slices.Sort(files)
	last := ""
	for _, file := range files {
		name := strings.TrimSuffix(filepath.Base(file), ".sql.gz")
		if name < keptSince {
			continue
		}
		last = name
		t.Run(name, func(t *testing.T) {
			h, seen := openOld(t, name, momentOf(t, name))
			holdsAll(t, h, h.signInWith("keeper", "lockside-demo"), seen)
		})
	}
	now := momentOf(t, last)
	h, seen := openOld(t, last, now)
	kept := backup.Folder{Path: t.TempDir(), Version: "test"}
	path, err := kept.Take(context.Background(), h.store(), "keencrock", now)
	require.NoError(t, err)
	elsewhere := testdb.New(t)
	_, err = kept.Restore(context.Background(), elsewhere, path, bench.Migration(func() time.Time { return now }), store.Taking{}, now)
	require.NoError(t, err)
	restored := openOn(t, elsewhere)
	restored.now = now
	holdsAll(t, restored, restored.signInWith("keeper", "lockside-demo"), seen)
}

// A backup that an older version took before its tables were brought up to date is
// taken in, and brought up to date.
func TestABackupOfAnOlderVersionIsRestored(t *testing.T) {
	now := time.Date(2026, 11, 26, 0, 12, 22, 0, time.UTC)
	old := loadOld(t, "schema-12")
	kept := backup.Folder{Path: t.TempDir(), Version: "test"}
	s, err := store.OpenAsOwner(context.Background(), old)
	require.NoError(t, err)
	path, err := kept.Take(context.Background(), s, "before-14", now)
	require.NoError(t, errors.Join(err, s.Close()))

	elsewhere := testdb.New(t)
	_, err = kept.Restore(context.Background(), elsewhere, path, bench.Migration(func() time.Time { return now }), store.Taking{}, now)
	require.NoError(t, err)
	h := openOn(t, elsewhere)
	h.now = now
	holdsAll(t, h, h.signInWith("keeper", "lockside-demo"), answersOf(t, "schema-12"))
}

// reckonedAnew are figures that are never kept, but reckoned each time they are asked for, and
// by better rules than before: when what dries is dry, and what a use costs once its loads
// were counted.
var reckonedAnew = map[string]bool{"ready": true, "ready_early": true, "ready_late": true, "ready_from": true, "ready_to": true, "end_g": true, "curve": true, "says": true, "verdict": true, "cost_per_use": true, "uses_left": true}

// assertHolds holds that everything that was in an answer still is; more may
// have come.
func assertHolds(t *testing.T, where string, before, now any) {
	t.Helper()
	switch before := before.(type) {
	case map[string]any:
		now, _ := now.(map[string]any)
		for key, was := range before {
			if reckonedAnew[key] && (key != "says" && key != "verdict" || strings.HasSuffix(where, ".drying")) {
				continue
			}
			assertHolds(t, where+"."+key, was, now[key])
		}
	case []any:
		now, _ := now.([]any)
		if assert.Len(t, now, len(before), where) {
			for i := range before {
				assertHolds(t, where, before[i], now[i])
			}
		}
	case float64: // the last bit may fall otherwise in a sum
		now, is := now.(float64)
		assert.True(t, is && math.Abs(now-before) <= 1e-12*math.Abs(before), "%s was %v, is %v", where, before, now)
	default:
		if before == "0.00" && (now == "" || now == nil) {
			return // a price that nobody noted was told as nothing
		}
		assert.Equal(t, before, now, where)
	}
}
