package web_test

import (
	"compress/gzip"
	"context"
	"encoding/json"
	"io"
	"math"
	"net/http"
	"os"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
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

// A database that the last version made opens in this one: last-version.sql is a
// dump of it, with the demo, jars that went and came back, a batch on the bench,
// one given up, lots put right and measured, and materials of one's own; and
// last-version.json what its answers were, by their address. Every figure of them
// is still there; more may have come. Both are made anew when a version is
// released.
func TestDataOfTheLastVersionOpens(t *testing.T) {
	dsn := testdb.New(t)
	conn, err := pgx.Connect(context.Background(), dsn)
	require.NoError(t, err)
	_, err = conn.Exec(context.Background(), string(unpacked(t, "last-version.sql.gz")))
	require.NoError(t, err)
	require.NoError(t, conn.Close(context.Background()))
	h := openOn(t, dsn)
	h.now = time.Date(2026, 11, 25, 18, 0, 0, 0, time.UTC)
	c := h.signInWith("keeper", "lockside-demo")

	var seen map[string]any
	require.NoError(t, json.Unmarshal(unpacked(t, "last-version.json.gz"), &seen))
	for path, before := range seen {
		if text, isFile := before.(string); isFile {
			assert.Equal(t, text, string(c.get(path).gives(http.StatusOK, nil).body), path)
			continue
		}
		var now any
		c.get(path).gives(http.StatusOK, &now)
		assertHolds(t, path, before, now)
	}
	broken, err := h.store().Verify(context.Background())
	require.NoError(t, err)
	assert.Empty(t, broken, "stock adds up after the move")

	// what was begun goes on, and what was made can go into something else
	begun := api.Batch{}
	for _, b := range seen["/api/batches?limit=200"].(map[string]any)["batches"].([]any) {
		if b := b.(map[string]any); b["code"] == "HAZ-261125-A" {
			c.get("/api/batches/"+b["id"].(string)).gives(http.StatusOK, &begun)
		}
	}
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

// assertHolds holds that everything that was in an answer still is; more may
// have come.
func assertHolds(t *testing.T, where string, before, now any) {
	t.Helper()
	switch before := before.(type) {
	case map[string]any:
		now, _ := now.(map[string]any)
		for key, was := range before {
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
		assert.Equal(t, before, now, where)
	}
}
