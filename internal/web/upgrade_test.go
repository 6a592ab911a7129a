package web_test

import (
	"compress/gzip"
	"context"
	"encoding/json"
	"io"
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
// dump of it, with the demo, a batch on the bench and materials of one's own two
// of which have shipped names by now, and last-version.json the figures that its
// answers had, but for the names of what the library holds. Both are made anew when a version is released.
func TestDataOfTheLastVersionOpens(t *testing.T) {
	dsn := testdb.New(t)
	conn, err := pgx.Connect(context.Background(), dsn)
	require.NoError(t, err)
	_, err = conn.Exec(context.Background(), string(unpacked(t, "last-version.sql.gz")))
	require.NoError(t, err)
	require.NoError(t, conn.Close(context.Background()))
	h := openOn(t, dsn)
	h.now = time.Date(2026, 11, 25, 15, 0, 0, 0, time.UTC)
	c := h.signInWith("keeper", "lockside-demo")

	var seen map[string]any
	require.NoError(t, json.Unmarshal(unpacked(t, "last-version.json.gz"), &seen))
	answers := func(path string) (all any) {
		c.get(path).gives(http.StatusOK, &all)
		return all
	}
	same := func(what string, before, now any) { assertHolds(t, what, before, now) }
	same("workshop", seen["workshop"], answers("/api/workshop"))
	same("people", byKey(seen["people"], "login"), byKey(answers("/api/people"), "login"))
	same("formulas", byKey(seen["formulas"], "id"), byKey(answers("/api/formulas"), "id"))
	same("lots", byKey(seen["lots"], "id"), byKey(answers("/api/lots?limit=200").(map[string]any)["lots"], "id"))
	same("pantry", byKey(seen["pantry"], "code"), byKey(answers("/api/pantry"), "code"))
	files := seen["files"].(map[string]any)
	for _, f := range seen["formulas"].([]any) {
		f := f.(map[string]any)
		file := files[f["name"].(string)].(map[string]any)
		delete(file, "version") // is read as what it was
		same(f["name"].(string), file, answers("/api/formulas/" + f["id"].(string)).(map[string]any)["file"])
		c.post("/api/assess", answers("/api/formulas/" + f["id"].(string)).(map[string]any)["file"]).gives(http.StatusOK, nil)
	}
	for _, b := range seen["batches"].([]any) {
		b := b.(map[string]any)
		same(b["code"].(string), b, answers("/api/batches/"+b["id"].(string)))
	}

	// what was begun goes on
	bench := api.Batch{}
	for _, b := range seen["batches"].([]any) {
		if b := b.(map[string]any); b["code"] == "HAZ-261125-A" {
			c.get("/api/batches/"+b["id"].(string)).gives(http.StatusOK, &bench)
		}
	}
	require.Len(t, bench.Lines, 3)
	assert.Equal(t, "own-witch-hazel", bench.Lines[1].Material)
	bench = c.weigh(bench, 0, "", 850)
	bench = c.weigh(bench, 2, bench.Lines[2].Lots[0].Code, 119)
	c.post("/api/batches/"+bench.Id.String()+"/finish", api.Finish{Jars: 2}).gives(http.StatusOK, &bench)
	assert.Equal(t, api.BatchStateFinished, bench.State)
}

// byKey is a list of objects by one of their fields.
func byKey(list any, key string) map[string]any {
	out := map[string]any{}
	for _, item := range list.([]any) {
		out[item.(map[string]any)[key].(string)] = item
	}
	return out
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
	default:
		assert.Equal(t, before, now, where)
	}
}
