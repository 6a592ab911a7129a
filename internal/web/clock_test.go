package web_test

import (
	"fmt"
	"net/http"
	"strconv"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
)

// A clock that jumps, back to before things happened too, spoils nothing: every call is
// answered with sense, a batch goes on to its end, who guessed is slowed for no longer than
// ever, and all adds up.
func TestAClockThatJumpsSpoilsNothing(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	w := h.furnish(c, "OWN")
	all := calls(t, bodies(w))
	const day = 24 * time.Hour
	for n, jump := range []time.Duration{-2 * time.Hour, 3 * day, -3*day - time.Hour, 400 * day, -400 * day, -800 * day} {
		b := c.begin(w.formula, api.Target{Factor: 1})
		b = c.weigh(b, 0, "OWN", 60)
		h.now = h.now.Add(jump)
		for range 9 {
			h.visitor().post("/api/session", api.Credentials{Login: "marl", Password: "not this one"})
		}
		a := h.visitor().post("/api/session", api.Credentials{Login: "marl", Password: password})
		a.refuses(http.StatusTooManyRequests, "too-many-tries")
		seconds, err := strconv.Atoi(a.header.Get("Retry-After"))
		require.NoError(t, err)
		require.LessOrEqual(t, seconds, 2, "after %v", jump)
		h.now = h.now.Add(2 * time.Second)
		c = h.signIn("marl")
		b = c.weigh(b, 0, "OWN", 40)
		var done api.Batch
		c.post(fmt.Sprintf("/api/batches/%s/finish", b.Id), api.Finish{Jars: 1}).gives(http.StatusOK, &done)
		assert.Equal(t, "finished", string(done.State), "after %v", jump)
		for _, k := range all {
			a := c.call(k.method, fillIn(k.path, w.idFor(k.path)), k.body)
			require.Less(t, a.status, 500, "%d, after %v: %s: %s", n, jump, a.what, a.body)
			if a.status == http.StatusUnauthorized {
				c = h.signIn("marl")
			}
		}
		w.open = c.begin(w.formula, api.Target{Factor: 1})
	}
	broken, err := h.store().Verify(t.Context())
	require.NoError(t, err)
	assert.Empty(t, broken)
}
