package web

import (
	"bufio"
	"context"
	"encoding/json"
	"errors"
	"fmt"
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
	done      chan struct{}
	once      sync.Once
}

// listener is one browser of a workshop.
type listener struct {
	workshop uuid.UUID
	changes  chan api.Change
	resync   chan struct{} // holds one when changes were missed
}

func newHub() *hub {
	return &hub{listeners: map[*listener]bool{}, done: make(chan struct{})}
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

const (
	behind    = 64 // changes a browser may be behind
	heartbeat = 15 * time.Second
)

// stream sends changes as server-sent events.
func (h *hub) stream(door *people.Service) fiber.Handler {
	return func(c fiber.Ctx) error {
		token := signedInFrom(c.Context()).token
		actor, _, err := door.Authenticate(c.Context(), token)
		if err != nil {
			return err
		}
		l := &listener{actor.Workshop, make(chan api.Change, behind), make(chan struct{}, 1)}
		h.mu.Lock()
		h.listeners[l] = true
		h.mu.Unlock()
		return sendEvents(c, func(w *bufio.Writer) {
			defer func() {
				h.mu.Lock()
				delete(h.listeners, l)
				h.mu.Unlock()
			}()
			beat := time.NewTicker(heartbeat)
			defer beat.Stop()
			if !writeEvent(w, "ready", struct{}{}) {
				return
			}
			for {
				select {
				case <-h.done:
					return
				case change := <-l.changes:
					if !writeEvent(w, "change", change) {
						return
					}
				case <-l.resync:
					if !writeEvent(w, "resync", struct{}{}) {
						return
					}
				case <-beat.C:
					if !stillSignedIn(door, token) || !writeComment(w) {
						return
					}
				}
			}
		})
	}
}

func stillSignedIn(door *people.Service, token string) bool {
	ctx, cancel := context.WithTimeout(context.Background(), requestTimeout)
	defer cancel()
	_, _, err := door.Authenticate(ctx, token)
	return err == nil
}

func sendEvents(c fiber.Ctx, f func(*bufio.Writer)) error {
	c.Set("Content-Type", "text/event-stream")
	c.Set("Cache-Control", "no-store")
	c.Set("X-Accel-Buffering", "no")
	return c.SendStreamWriter(f)
}

// writeEvent sends one event and reports whether anyone still listens.
func writeEvent(w *bufio.Writer, name string, data any) bool {
	body, err := json.Marshal(data)
	if err != nil {
		return false
	}
	if _, err := fmt.Fprintf(w, "event: %s\ndata: %s\n\n", name, body); err != nil {
		return false
	}
	return w.Flush() == nil
}

func writeComment(w *bufio.Writer) bool {
	if _, err := w.WriteString(": still here\n\n"); err != nil {
		return false
	}
	return w.Flush() == nil
}
