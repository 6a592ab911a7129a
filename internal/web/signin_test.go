package web_test

import (
	"net/http"
	"strconv"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
)

// Guessing is slowed down, but nobody is locked out by it: a moment later the
// right password is let in, and other names are never held up.
func TestWrongTriesAreSlowedDown(t *testing.T) {
	h := open(t)
	owner := h.founded("marl")
	h.with(owner, "teasel", api.Maker)
	c := h.visitor()
	wrong := api.Credentials{Login: "marl", Password: "not this one"}
	right := api.Credentials{Login: "marl", Password: password}
	for range 8 {
		c.post("/api/session", wrong).refuses(http.StatusUnauthorized, "wrong-sign-in")
	}
	a := c.post("/api/session", right)
	a.refuses(http.StatusTooManyRequests, "too-many-tries")
	seconds, err := strconv.Atoi(a.header.Get("Retry-After"))
	require.NoError(t, err)
	h.signIn("teasel") // another name behind the same address

	h.now = h.now.Add(time.Duration(seconds) * time.Second)
	c.post("/api/session", wrong).refuses(http.StatusUnauthorized, "wrong-sign-in")
	c.post("/api/session", wrong).refuses(http.StatusTooManyRequests, "too-many-tries")
	h.now = h.now.Add(time.Duration(seconds) * time.Second)
	c.post("/api/session", right).gives(http.StatusCreated, nil)
}

// Under sixty tries at once a few are judged and the rest sent away at once;
// who is signed in works on, and the owner gets in.
func TestSignInUnderFire(t *testing.T) {
	h := open(t)
	owner := h.founded("marl")
	const tries = 60
	statuses := make(chan int, tries)
	var all sync.WaitGroup
	for i := range tries {
		all.Go(func() {
			login := "marl"
			if i%2 == 1 {
				login = "nobody" + strconv.Itoa(i)
			}
			a := h.visitor().post("/api/session", api.Credentials{Login: login, Password: "not this one"})
			if a.status == http.StatusTooManyRequests {
				assert.NotEmpty(t, a.header.Get("Retry-After"))
			}
			statuses <- a.status
		})
	}
	owner.get("/api/shelf").gives(http.StatusOK, nil)
	all.Wait()
	close(statuses)
	count := map[int]int{}
	for s := range statuses {
		count[s]++
	}
	assert.Equal(t, tries, count[http.StatusUnauthorized]+count[http.StatusTooManyRequests], "%v", count)
	assert.Positive(t, count[http.StatusUnauthorized])
	assert.Positive(t, count[http.StatusTooManyRequests], "not all are judged at once")
	h.now = h.now.Add(3 * time.Second)
	h.signIn("marl")
}
