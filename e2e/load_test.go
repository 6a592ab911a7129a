package e2e

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"os"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/valyala/fasthttp"

	"keencrock/api"
	"keencrock/demo"
	"keencrock/internal/testdb"
)

// TestLoad measures the server in its own process from this one, over
// loopback: 20 connections for ten seconds, then lists of a shelf of 20,000
// lots and 10,000 batches. It runs where KEEN_CROCK_LOAD is set, since its
// limits are for an idle machine of two cores:
//
//	KEEN_CROCK_LOAD=1 go test ./e2e -run Load -count=1 -v
func TestLoad(t *testing.T) {
	if os.Getenv("KEEN_CROCK_LOAD") == "" {
		t.Skip("set KEEN_CROCK_LOAD=1 to measure")
	}
	dsn, err := demoDatabase()
	require.NoError(t, err)
	dsn = testdb.Copy(t, dsn)
	a := start(t, dsn)
	client := signedIn(t, a.url)

	formula := []byte(`{"format": "keencrock/formula", "version": 1, "name": "Load", "kind": "laundry-powder", "lines": [
		{"material": "soap-flakes", "amount": "2 cups"}, {"material": "washing-soda", "amount": "1 cup"}, {"material": "borax", "amount": "1 cup"},
		{"material": "sodium-bicarbonate", "amount": "1 cup"}, {"material": "lavender-oil", "amount": "10–15 drops"}], "uses": {"amount": "1 tbsp"}}`)
	took := hammer(20, 10*time.Second, func() error { return client.call("POST", a.url+"/api/assess", formula) })
	require.NoError(t, took.err)
	perSecond, p99 := float64(len(took.times))/took.lasted.Seconds(), took.quantile(0.99)
	t.Logf("assess at 20 connections: %.0f a second, median %v, 99 %% under %v", perSecond, took.quantile(0.5), p99)
	assert.Greater(t, perSecond, 1000.0)
	assert.Less(t, p99, 40*time.Millisecond)

	grow(t, dsn)
	for _, path := range []string{"/api/lots?limit=50", "/api/lots?limit=50&empty=true", "/api/lots?limit=50&material=borax", "/api/batches?limit=50", "/api/shelf", "/api/waiting", "/api/pantry"} {
		one := hammer(1, time.Second, func() error { return client.call("GET", a.url+path, nil) })
		require.NoError(t, one.err)
		t.Logf("%s with 20,000 lots and 10,000 batches: median %v, 99 %% under %v", path, one.quantile(0.5), one.quantile(0.99))
		if path == "/api/lots?limit=50" || path == "/api/batches?limit=50" {
			assert.Less(t, one.quantile(0.99), 60*time.Millisecond, path)
		}
	}
}

// caller is a client that costs the measured machine little.
type caller struct {
	http   fasthttp.Client
	cookie string
	token  string
}

func signedIn(t *testing.T, url string) *caller {
	t.Helper()
	res, err := http.Post(url+"/api/session", "application/json", bytes.NewReader(fmt.Appendf(nil, `{"login": %q, "password": %q}`, demo.Login, demo.Password)))
	require.NoError(t, err)
	defer res.Body.Close()
	var session api.Session
	require.NoError(t, json.NewDecoder(res.Body).Decode(&session))
	cookie, _, _ := strings.Cut(res.Header.Get("Set-Cookie"), ";")
	return &caller{cookie: cookie, token: session.CsrfToken}
}

func (c *caller) call(method, url string, body []byte) error {
	r, res := fasthttp.AcquireRequest(), fasthttp.AcquireResponse()
	defer fasthttp.ReleaseRequest(r)
	defer fasthttp.ReleaseResponse(res)
	r.Header.SetMethod(method)
	r.SetRequestURI(url)
	r.Header.SetContentType("application/json")
	r.Header.Set("X-CSRF-Token", c.token)
	r.Header.Set("Cookie", c.cookie)
	r.SetBody(body)
	if err := c.http.DoTimeout(r, res, 30*time.Second); err != nil {
		return err
	}
	if res.StatusCode() != http.StatusOK {
		return fmt.Errorf("%s answers %d: %s", url, res.StatusCode(), res.Body())
	}
	return nil
}

// measured is how long each call took, shortest first.
type measured struct {
	times  []time.Duration
	lasted time.Duration
	err    error
}

func (m measured) quantile(q float64) time.Duration {
	return m.times[min(len(m.times)-1, int(q*float64(len(m.times))))]
}

// hammer calls f from so many goroutines for so long.
func hammer(connections int, length time.Duration, f func() error) measured {
	var m measured
	var mu sync.Mutex
	var all sync.WaitGroup
	begun := time.Now()
	for range connections {
		all.Go(func() {
			var own []time.Duration
			for time.Since(begun) < length {
				at := time.Now()
				if err := f(); err != nil {
					mu.Lock()
					m.err = err
					mu.Unlock()
					return
				}
				own = append(own, time.Since(at))
			}
			mu.Lock()
			m.times = append(m.times, own...)
			mu.Unlock()
		})
	}
	all.Wait()
	m.lasted = time.Since(begun)
	slices.Sort(m.times)
	return m
}

// grow fills the demo with lots and batches.
func grow(t *testing.T, dsn string) {
	t.Helper()
	ctx := context.Background()
	conn, err := pgx.Connect(ctx, dsn)
	require.NoError(t, err)
	defer conn.Close(ctx)
	for _, statement := range []string{
		`insert into lots (id, workshop_id, code, material, original_g, remaining_g, landed, received, best_before)
			select gen_random_uuid(), w.id, 'L' || n, (array['borax','washing-soda','citric-acid','soap-flakes','table-salt'])[1 + n % 5],
				1000, case when n % 10 = 0 then 500 else 0 end, 3, date '2020-01-01' + n % 2000, date '2030-01-01'
			from generate_series(1, 20000) n, workshops w`,
		`insert into batches (id, workshop_id, code, name, kind, formula_id, formula_version, state, person_id, planned_g, jars, started_at, finished_at)
			select gen_random_uuid(), b.workshop_id, 'G' || n, b.name, b.kind, b.formula_id, b.formula_version, 'finished', b.person_id, 1000, 0, b.started_at - n * interval '1 hour', b.started_at
			from generate_series(1, 10000) n, (select * from batches limit 1) b`,
		"analyze",
	} {
		_, err := conn.Exec(ctx, statement)
		require.NoError(t, err)
	}
}
