package web_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"maps"
	"math/rand/v2"
	"net/http"
	"net/url"
	"os"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// How long and from which seed the fuzzing goes on, where it is told: KEEN_CROCK_FUZZ=1h.
const (
	fuzzFor  = "KEEN_CROCK_FUZZ"
	fuzzSeed = "KEEN_CROCK_SEED"
)

// seeded is a source of chance whose seed is told, so that what it found is found again.
func seeded(t *testing.T) *rand.Rand {
	t.Helper()
	seed := uint64(7) // the same each time, unless more than a look is asked for
	if os.Getenv(fuzzFor) != "" {
		seed = rand.Uint64()
	}
	if told := os.Getenv(fuzzSeed); told != "" {
		var err error
		seed, err = strconv.ParseUint(told, 10, 64)
		require.NoError(t, err)
	}
	t.Logf("%s=%d", fuzzSeed, seed)
	return rand.New(rand.NewPCG(seed, 0))
}

// call is one operation of the contract with a sound body, if it takes one.
type call struct {
	method, path string
	op           *openapi3.Operation
	body         any
}

// calls are all operations that a signed-in person may make, but those that end the
// session they are made by.
func calls(t *testing.T, sound map[string]any) (all []call) {
	t.Helper()
	ends := map[string]bool{"signOut": true, "removeDemo": true, "streamEvents": true, "streamScale": true, "endSession": true}
	for path, item := range contractSpec.Paths.Map() {
		for method, op := range item.Operations() {
			if !ends[op.OperationID] {
				all = append(all, call{method, path, op, sound[op.OperationID]})
			}
		}
	}
	slices.SortFunc(all, func(a, b call) int { return strings.Compare(a.op.OperationID, b.op.OperationID) })
	return all
}

// junk are values that a body, an id or a parameter may be sent as, and should not.
var junk = []any{nil, true, -1, 0, 1e308, -1e-308, 1 << 62, 2147483648, 0.1 + 0.2, "", " ", "\x00", "a\x00b", "\u202egnp.cup", "𝔘𝔫𝔦𝔠𝔬𝔡𝔢 🫧 ﷽", "é\u0301\u0301\u0301",
	"1 cup", "half", "NaN", "-Infinity", "0x10", "1e999", "../../etc/passwd", "'; drop table lots; --", "<script>alert(1)</script>", "%s%n", "{{7*7}}", "9999-99-99", "0000-01-01", "2026-02-30",
	"00000000-0000-0000-0000-000000000000", "not-a-uuid", strings.Repeat("a", 100_000), strings.Repeat("9", 400), strings.Repeat("1 cup ", 2000), strings.Repeat("(", 5000), "\ufeff", "\ud7ff",
	[]any{}, map[string]any{}, []any{nil}, map[string]any{"": ""}}

func deep(n int) any {
	var v any = "bottom"
	for range n {
		v = []any{v}
	}
	return v
}

// mutate changes something of a value, somewhere in it.
func mutate(r *rand.Rand, v any) any {
	switch v := v.(type) {
	case map[string]any:
		if len(v) > 0 && r.IntN(4) > 0 {
			keys := make([]string, 0, len(v))
			for k := range v {
				keys = append(keys, k)
			}
			slices.Sort(keys)
			k := keys[r.IntN(len(keys))]
			switch r.IntN(8) {
			case 0:
				delete(v, k)
			case 1:
				v["unknown"] = v[k]
			default:
				v[k] = mutate(r, v[k])
			}
			return v
		}
	case []any:
		if len(v) > 0 && r.IntN(4) > 0 {
			i := r.IntN(len(v))
			if r.IntN(6) == 0 { // far too many of it
				for range 70 {
					v = append(v, v[i])
				}
				return v
			}
			v[i] = mutate(r, v[i])
			return v
		}
	case float64:
		if r.IntN(2) == 0 {
			return v * []float64{-1, 0, 1e-9, 1e9, 1e300}[r.IntN(5)]
		}
	case string:
		if r.IntN(3) == 0 {
			return v + fmt.Sprint(junk[r.IntN(len(junk))])
		}
	}
	if r.IntN(20) == 0 {
		return deep(10 + r.IntN(5000))
	}
	switch v := junk[r.IntN(len(junk))].(type) {
	case []any: // one of its own: what is changed in it later stays out of the others
		return slices.Clone(v)
	case map[string]any:
		return maps.Clone(v)
	default:
		return v
	}
}

// plainOf is a body as JSON knows it.
func plainOf(t testing.TB, body any) any {
	t.Helper()
	text, err := json.Marshal(body)
	require.NoError(t, err)
	var v any
	require.NoError(t, json.Unmarshal(text, &v))
	return v
}

// fuzzed sends one request that is wrong in some way.
func (c *client) fuzzed(r *rand.Rand, k call, ids []uuid.UUID) *answer {
	c.t.Helper()
	path := k.path
	for strings.Contains(path, "{") {
		before, rest, _ := strings.Cut(path, "{")
		_, after, _ := strings.Cut(rest, "}")
		id := ids[r.IntN(len(ids))].String()
		if r.IntN(3) == 0 {
			id = fmt.Sprint(junk[r.IntN(len(junk))])
			id = url.PathEscape(id[:min(len(id), 600)])
		}
		path = before + id + after
	}
	query := url.Values{}
	for _, p := range k.op.Parameters {
		if p.Value.In == "query" && r.IntN(2) == 0 {
			value := fmt.Sprint(junk[r.IntN(len(junk))])
			query.Add(p.Value.Name, value[:min(len(value), 1000)]) // longer lines are cut off before they are read
		}
	}
	if r.IntN(10) == 0 {
		query.Add("unknown", "1")
	}
	if len(query) > 0 {
		path += "?" + query.Encode()
	}
	header := map[string]string{"Content-Type": "application/json", "X-CSRF-Token": c.csrf, "Idempotency-Key": uuid.NewString()}
	var content []byte
	if text, isText := k.body.(string); isText {
		header["Content-Type"], content = "text/csv", []byte(text+fmt.Sprint(junk[r.IntN(len(junk))]))
	} else if k.body != nil {
		v := plainOf(c.t, k.body)
		for range 1 + r.IntN(3) {
			v = mutate(r, v)
		}
		content, _ = json.Marshal(v)
	}
	switch r.IntN(25) {
	case 0:
		content = content[:len(content)/2]
	case 1:
		content = append(content, content...)
	case 2:
		header["Content-Type"] = "application/xml"
	case 3:
		content = bytes.Repeat([]byte{0xff}, 1+r.IntN(100))
	}
	const most = 4 << 20 // the connection is cut before more than this is read
	return c.send(k.method, path, bytes.NewReader(content[:min(len(content), most-1)]), header)
}

// Whatever is sent, it is answered with a problem that says what is wrong, and what is
// in the workshop adds up after it.
func TestWhateverIsSentIsAnsweredWithSense(t *testing.T) {
	r := seeded(t)
	h := open(t)
	c := h.founded("marl")
	w := h.furnish(c, "OWN")
	ids := []uuid.UUID{w.lot.Id, w.formula.Id, w.finished.Id, w.open.Id, w.jar.Id, w.person.Id, uuid.New()}
	sound := bodies(w)
	all := calls(t, sound)
	forTime, _ := time.ParseDuration(os.Getenv(fuzzFor))
	until := time.Now().Add(forTime)
	wrong, slowest := 0, time.Duration(0)
	for i := 0; i < 500 || time.Now().Before(until); i++ {
		k := all[r.IntN(len(all))]
		if i < len(all) { // each at least once
			k = all[i]
		}
		a := c.fuzzed(r, k, ids)
		slowest = max(slowest, a.took)
		if !assert.Less(t, a.status, 500, "%s: %s", a.what, a.body) {
			return
		}
		if a.status >= 400 {
			wrong++
			require.Equal(t, "application/problem+json", strings.TrimSpace(strings.SplitN(a.header.Get("Content-Type"), ";", 2)[0]), a.what)
		}
		if forTime > 0 { // by the switch alone: a machine under load may take its time
			require.Less(t, a.took, 2*time.Second, a.what)
		}
		if a.status == http.StatusUnauthorized {
			c = h.signInLater("marl")
		}
	}
	t.Logf("%d of the requests were refused; the slowest took %v", wrong, slowest)
	assert.Greater(t, wrong, 200)
	broken, err := h.store().Verify(t.Context())
	require.NoError(t, err)
	assert.Empty(t, broken)
	h.signInLater("marl").get("/api/shelf").gives(http.StatusOK, nil)
}

// signInLater signs in when who tried wrong passwords before need wait no longer.
func (h *house) signInLater(login string) *client {
	h.t.Helper()
	h.now = h.now.Add(2 * time.Second)
	return h.signIn(login)
}
