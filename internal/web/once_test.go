package web_test

import (
	"fmt"
	"net/http"
	"strings"
	"sync"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"

	"keencrock/api"
)

// keyed sends a request with a key of the test's own.
func (c *client) keyed(key, method, path, body string) *answer {
	media := "application/json"
	if strings.HasSuffix(path, ".csv") {
		media = "text/csv"
	}
	return c.send(method, path, strings.NewReader(body), map[string]string{"Content-Type": media, "X-CSRF-Token": c.csrf, "Idempotency-Key": key})
}

// What makes something is done once for a key: sent again it is answered as the
// first time, another request with it is refused, and what was refused can be
// sent again with the same key.
func TestAKeyIsDoneOnce(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	lots := func() int {
		var page api.LotPage
		c.get("/api/lots").gives(http.StatusOK, &page)
		return len(page.Lots)
	}
	const line = `{"line": "5 kg borax 15.00 from Quayside"}`
	key := uuid.NewString()
	first := c.keyed(key, "POST", "/api/deliveries", line).gives(http.StatusCreated, nil)
	again := c.keyed(key, "POST", "/api/deliveries", line).gives(http.StatusCreated, nil)
	assert.Equal(t, string(first.body), string(again.body))
	assert.Equal(t, "true", again.header.Get("Idempotency-Replayed"))
	assert.Equal(t, 1, lots())
	c.keyed(uuid.NewString(), "POST", "/api/deliveries", line).gives(http.StatusCreated, nil)
	assert.Equal(t, 2, lots(), "the same line came twice, with two keys")

	c.keyed(key, "POST", "/api/deliveries", `{"line": "1 kg borax"}`).refuses(http.StatusUnprocessableEntity, "key-of-another")
	c.keyed(key, "POST", "/api/shelf.csv", "material,amount\nborax,1 kg\n").refuses(http.StatusUnprocessableEntity, "key-of-another")
	c.keyed("no uuid", "POST", "/api/deliveries", line).refuses(http.StatusUnprocessableEntity, "no-key")

	key = uuid.NewString()
	c.keyed(key, "POST", "/api/shelf.csv", "material,amount\nboraks,1 kg\n").refuses(http.StatusUnprocessableEntity, "bad-rows")
	c.keyed(key, "POST", "/api/shelf.csv", "material,amount\nborax,1 kg\n").gives(http.StatusOK, nil)
	assert.Equal(t, 3, lots())

	c.keyed("", "POST", "/api/deliveries", line).refuses(http.StatusUnprocessableEntity, "no-key")
	assert.Equal(t, 3, lots())

	// what holds a password leaves no hash of it behind
	key = uuid.NewString()
	mate := `{"login": "sedge", "name": "Sedge", "password": "a long password", "role": "maker"}`
	c.keyed(key, "POST", "/api/people", mate).gives(http.StatusCreated, nil)
	c.keyed(key, "POST", "/api/people", mate).refuses(http.StatusConflict, "taken")

	other := h.founded("teasel")
	other.keyed(key, "POST", "/api/deliveries", line).gives(http.StatusCreated, nil)
}

// Of many that send the same at once one does it; the others hear the same answer.
func TestAKeySentAtOnceIsDoneOnce(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	c.take("5 kg borax 15.00 from Quayside, lot B1")
	f := c.keep("Plain", "100 g of borax")
	key, body := uuid.NewString(), fmt.Sprintf(`{"formula": %q, "target": {"factor": 1}}`, f.Id)
	var all sync.WaitGroup
	answers := make([]string, 8)
	for i := range answers {
		all.Go(func() {
			a := c.keyed(key, "POST", "/api/batches", body)
			assert.Equal(t, http.StatusCreated, a.status, string(a.body))
			answers[i] = string(a.body)
		})
	}
	all.Wait()
	for _, a := range answers {
		assert.Equal(t, answers[0], a)
	}
	var page api.BatchPage
	c.get("/api/batches").gives(http.StatusOK, &page)
	assert.Len(t, page.Batches, 1)
}
