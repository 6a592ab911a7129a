package web_test

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
)

// follow opens the stream of changes and returns the events as they come,
// once the server says that it listens.
func (c *client) follow(ctx context.Context) <-chan string { return c.followAt(ctx, "/api/events") }

// followAt opens a stream and returns what its events carry as they come.
func (c *client) followAt(ctx context.Context, path string) <-chan string {
	c.t.Helper()
	r, err := http.NewRequestWithContext(ctx, "GET", c.url+path, nil)
	require.NoError(c.t, err)
	res, err := (&http.Client{Jar: c.http.Jar}).Do(r)
	require.NoError(c.t, err)
	require.Equal(c.t, http.StatusOK, res.StatusCode)
	events := make(chan string, 64)
	go func() {
		defer res.Body.Close()
		defer close(events)
		lines := bufio.NewScanner(res.Body)
		for lines.Scan() {
			if data, found := strings.CutPrefix(lines.Text(), "data: "); found {
				events <- data
			}
		}
	}()
	return events
}

// changesUntilHeard takes in lots until one of them is heard of: a process may still be connecting to the
// database when the first browser looks on, and says so by refreshing all.
func (c *client) changesUntilHeard(events <-chan string) (lot api.Lot) {
	c.t.Helper()
	require.Eventually(c.t, func() bool {
		lot = c.take("1 kg borax 3.00")
		select {
		case data := <-events:
			return strings.Contains(data, `"shelf"`)
		case <-time.After(200 * time.Millisecond):
			return false
		}
	}, time.Minute, time.Millisecond)
	return lot
}

func heard(t *testing.T, events <-chan string, topic string) api.Change {
	t.Helper()
	limit := time.After(10 * time.Second)
	for {
		select {
		case data, open := <-events:
			require.True(t, open, "the stream ended")
			var c api.Change
			require.NoError(t, json.Unmarshal([]byte(data), &c))
			if string(c.Topic) == topic && c.Id != "" {
				return c
			}
		case <-limit:
			t.Fatalf("no change of %s was heard", topic)
		}
	}
}

// Two processes serve one database: what one changes, a browser at the other
// hears, and a browser of another workshop does not.
func TestChangesCrossProcessesButNotWorkshops(t *testing.T) {
	h := open(t)
	here := h.founded("marl")
	stranger := h.founded("stranger")
	there := h.signIn("marl")
	there.url = h.serve()
	ctx, cancel := context.WithCancel(context.Background())
	defer cancel()
	events := there.follow(ctx)
	foreign := stranger.follow(ctx)
	<-events // ready
	<-foreign

	stranger.changesUntilHeard(foreign)
	lot := here.changesUntilHeard(events)
	f := here.keep("Towpath", "100 g of borax")
	assert.Equal(t, f.Id.String(), heard(t, events, "formulas").Id)

	own := stranger.keep("Theirs", "1 cup of borax")
	for {
		c := heard(t, foreign, "formulas")
		assert.NotEqual(t, f.Id.String(), c.Id, "another workshop's change")
		if c.Id == own.Id.String() {
			break
		}
	}
	assert.NotEmpty(t, lot.Code)
}

// Signed out in one process, a browser is out in every other as soon as that is told, and
// in the one it asked at once; so is who was taken away, and who has another role has it.
func TestASessionThatIsKeptEndsInEveryProcess(t *testing.T) {
	h := open(t)
	owner := h.founded("marl")
	mate := h.with(owner, "teasel", api.Maker)
	elsewhere := *mate
	elsewhere.url = h.serve()
	soon := func(c *client, want int) {
		t.Helper()
		require.Eventually(t, func() bool { return c.get("/api/shelf").status == want }, time.Minute, time.Millisecond)
	}
	for range 3 { // it is kept in both
		mate.get("/api/shelf").gives(http.StatusOK, nil)
		elsewhere.get("/api/shelf").gives(http.StatusOK, nil)
	}
	var who api.Session
	mate.get("/api/session").gives(http.StatusOK, &who)
	owner.call("PATCH", "/api/people/"+who.Person.Id.String(), api.RoleChange{Role: api.Viewer}).gives(http.StatusOK, nil)
	mate.post("/api/deliveries", api.DeliveryLine{Line: "1 kg borax"}).refuses(http.StatusForbidden, "not-allowed")
	require.Eventually(t, func() bool {
		return elsewhere.post("/api/deliveries", api.DeliveryLine{Line: "1 kg borax"}).status == http.StatusForbidden
	}, time.Minute, time.Millisecond)
	mate.call("DELETE", "/api/session", nil).gives(http.StatusNoContent, nil)
	mate.get("/api/shelf").refuses(http.StatusUnauthorized, "not-signed-in")
	soon(&elsewhere, http.StatusUnauthorized)
}

// A list of many rows says how far it is, before any of it is there.
func TestAnImportSaysHowFarItIs(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	ctx, stop := context.WithCancel(context.Background())
	defer stop()
	events := c.follow(ctx)
	<-events // ready
	c.changesUntilHeard(events)
	var list strings.Builder
	list.WriteString("material,amount,lot\n")
	for i := range 2500 {
		fmt.Fprintf(&list, "borax,1 kg,L%d\n", i)
	}
	c.keyed(uuid.NewString(), "POST", "/api/shelf.csv", list.String()).gives(http.StatusOK, nil)
	for _, far := range []string{"shelf 1000/2500", "shelf 2000/2500"} {
		assert.Equal(t, far, heard(t, events, "progress").Id)
	}
}
