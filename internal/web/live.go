package web

import (
	"bufio"
	"context"
	"errors"
	"log/slog"
	"sync"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/internal/station/people"
	"keencrock/internal/tenant"
)

// hub hands changes announced in the database to the browsers of the
// workshop they belong to.
type hub struct {
	mu        sync.Mutex
	listeners map[*listener]bool
	streams   *streams
	done      chan struct{}
	once      sync.Once
}

// listener is one browser of a workshop.
type listener struct {
	workshop uuid.UUID
	changes  chan api.Change
	resync   chan struct{} // holds one when changes were missed
}

func newHub(s *streams) *hub {
	return &hub{listeners: map[*listener]bool{}, streams: s, done: make(chan struct{})}
}

func (h *hub) close() { h.once.Do(func() { close(h.done) }) }

// listen follows the database until the context ends, coming back after a
// broken connection.
func (h *hub) listen(ctx context.Context, house *tenant.House) {
	const again = time.Second
	for ctx.Err() == nil {
		err := house.Listen(ctx, h.refreshAll, h.spread)
		if ctx.Err() != nil || errors.Is(err, context.Canceled) {
			return
		}
		slog.Warn("live changes are interrupted", "error", err)
		select {
		case <-ctx.Done():
		case <-time.After(again):
		}
	}
}

// refreshAll tells every browser to look again: changes may have been missed.
func (h *hub) refreshAll() {
	h.mu.Lock()
	defer h.mu.Unlock()
	for l := range h.listeners {
		l.missed()
	}
}

func (h *hub) spread(c tenant.Change) {
	if c.Topic == sessionsTopic { // no news for a browser
		h.streams.askAll(c.Workshop)
		return
	}
	h.mu.Lock()
	defer h.mu.Unlock()
	for l := range h.listeners {
		if l.workshop == c.Workshop {
			l.hear(c.Change)
		}
	}
}

// hear takes a change; a browser that is too far behind is told to look at
// everything again.
func (l *listener) hear(c api.Change) {
	select {
	case l.changes <- c:
	default:
		l.missed()
	}
}

// missed says that changes were missed.
func (l *listener) missed() {
	select {
	case l.resync <- struct{}{}:
	default: // it is to be told already
	}
}

const behind = 64 // changes a browser may be behind

// stream sends changes as server-sent events, as long as the session lives.
func (h *hub) stream(door *people.Service) fiber.Handler {
	return func(c fiber.Ctx) error {
		st, err := h.streams.open(c.Context(), door)
		if err != nil {
			return err
		}
		l := &listener{st.actor.Workshop, make(chan api.Change, behind), make(chan struct{}, 1)}
		h.mu.Lock()
		h.listeners[l] = true
		h.mu.Unlock()
		return st.send(c, func(w *bufio.Writer) {
			defer func() {
				h.mu.Lock()
				delete(h.listeners, l)
				h.mu.Unlock()
			}()
			h.tell(w, l, st)
		})
	}
}

// tell sends a browser what it hears, until it is gone or its session has ended.
func (h *hub) tell(w *bufio.Writer, l *listener, st *stream) {
	beat := time.NewTicker(heartbeat)
	defer beat.Stop()
	if !writeEvent(w, "ready", struct{}{}) {
		return
	}
	for {
		sent := true
		select {
		case <-h.done:
			return
		case change := <-l.changes:
			sent = writeEvent(w, "change", change)
		case <-l.resync:
			sent = writeEvent(w, "resync", struct{}{})
		case <-st.ask:
			sent = st.lives()
		case <-beat.C:
			sent = st.lives() && writeComment(w)
		}
		if !sent {
			return
		}
	}
}
