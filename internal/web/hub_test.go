package web

import (
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"

	"keencrock/api"
	"keencrock/internal/tenant"
)

// A browser that does not keep up loses no change without being told: once it is
// behind, it is told to look at everything again, and that once.
func TestWhoIsFarBehindIsToldToLookAgain(t *testing.T) {
	h := newHub(newStreams(newMetrics(nil)))
	mine, theirs := uuid.New(), uuid.New()
	l := &listener{mine, make(chan api.Change, 2), make(chan struct{}, 1)}
	h.listeners[l] = true
	for range 5 {
		h.spread(tenant.Change{Workshop: theirs, Change: api.Change{Topic: "shelf"}})
	}
	assert.Empty(t, l.changes, "of another workshop")
	for range 2 {
		h.spread(tenant.Change{Workshop: mine, Change: api.Change{Topic: "shelf"}})
	}
	assert.Len(t, l.changes, 2)
	assert.Empty(t, l.resync)
	for range 3 {
		h.spread(tenant.Change{Workshop: mine, Change: api.Change{Topic: "pantry"}})
	}
	assert.Len(t, l.resync, 1)
	h.refreshAll()
	assert.Len(t, l.resync, 1)
}
