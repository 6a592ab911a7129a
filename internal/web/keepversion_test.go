package web_test

import (
	"bytes"
	"compress/gzip"
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"os"
	"os/exec"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"keencrock/demo"
)

// TestKeepThisVersion writes what this version made into testdata, for the versions to come:
// the demo as it stands in the database, and what is answered of it. It is run before a
// version is released: KEEN_CROCK_KEEP_VERSION=1 go test ./internal/web -run KeepThisVersion
func TestKeepThisVersion(t *testing.T) {
	if os.Getenv("KEEN_CROCK_KEEP_VERSION") == "" {
		t.Skip("set KEEN_CROCK_KEEP_VERSION=1 to write testdata of this version")
	}
	h := open(t)
	h.now = time.Now().UTC().Truncate(time.Second)
	require.NoError(t, demo.Load(context.Background(), h.store(), h.now))
	c := h.signInWith("keeper", "lockside-demo")

	seen := map[string]any{}
	look := func(path string) any {
		var answer any
		c.get(path).gives(http.StatusOK, &answer)
		seen[path] = answer
		return answer
	}
	ids := func(answer any, key string) (all []string) {
		if m, is := answer.(map[string]any); is {
			for _, list := range []string{"batches", "lots"} {
				if m[list] != nil {
					answer = m[list]
				}
			}
		}
		for _, one := range answer.([]any) {
			all = append(all, one.(map[string]any)[key].(string))
		}
		return all
	}
	for _, path := range []string{"/api/cards", "/api/chores", "/api/machines", "/api/packaging", "/api/pantry", "/api/pantry?all=true", "/api/people",
		"/api/shelf", "/api/sizes", "/api/workshop", "/api/formulas?put_away=true", "/api/wanted"} {
		look(path)
	}
	for _, id := range ids(look("/api/batches?limit=200"), "id") {
		for _, part := range []string{"", "/fill-checks", "/prints", "/trace"} {
			look("/api/batches/" + id + part)
		}
	}
	for _, id := range ids(look("/api/formulas"), "id") {
		look("/api/formulas/" + id)
		look("/api/formulas/" + id + "/versions")
	}
	for _, id := range ids(look("/api/lots?limit=200&empty=true"), "id") {
		look("/api/lots/" + id)
		look("/api/lots/" + id + "/trace")
	}
	seen["/api/shelf.csv"] = string(c.get("/api/shelf.csv").gives(http.StatusOK, nil).body)

	dump := exec.Command("pg_dump", "--inserts", "--no-owner", "--no-comments", "--exclude-table-data=public.sessions", h.dsn)
	dump.Stderr = os.Stderr
	sql, err := dump.Output()
	require.NoError(t, err)
	// what every PostgreSQL understands, and no more: no remarks, nothing a psql reads
	sql = regexp.MustCompile(`(?m)^(--.*|\\.*|SET (transaction_timeout|default_table_access_method).*)\n`).ReplaceAll(sql, nil)
	var schema int
	for _, m := range regexp.MustCompile(`INSERT INTO public\.goose_db_version VALUES \(\d+, (\d+), true`).FindAllSubmatch(sql, -1) {
		var v int
		_, err := fmt.Sscan(string(m[1]), &v)
		require.NoError(t, err)
		schema = max(schema, v)
	}
	require.Positive(t, schema)
	text, err := json.Marshal(seen)
	require.NoError(t, err)
	keep := func(name string, content []byte) {
		var out bytes.Buffer
		z, err := gzip.NewWriterLevel(&out, gzip.BestCompression)
		require.NoError(t, err)
		_, err = z.Write(content)
		require.NoError(t, err)
		require.NoError(t, z.Close())
		require.NoError(t, os.WriteFile("testdata/"+name, out.Bytes(), 0o644))
	}
	keep(fmt.Sprintf("schema-%02d.sql.gz", schema), sql)
	keep(fmt.Sprintf("schema-%02d.json.gz", schema), text)
	t.Logf("schema %d, %d answers, %d inserts, now %s", schema, len(seen), strings.Count(string(sql), "INSERT INTO"), h.now.Format(time.RFC3339))
}
