package web

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
	"sync"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/google/uuid"

	"keencrock/internal/problem"
	"keencrock/internal/station/people"
	"keencrock/internal/tenant"
)

const (
	heartbeat     = 15 * time.Second
	streamsEach   = 256 // that one person may have open: two for each page, and a stall shares one sign-in
	streamsRetry  = 5 * time.Second
	sessionsTopic = "sessions" // as the store announces that some have ended
)

// streams are the connections that stay open, by who has them.
type streams struct {
	mu sync.Mutex
	of map[uuid.UUID]map[*stream]bool // by person
	m  *metrics
}

// stream is one of them. It lives as long as its session.
type stream struct {
	door   *people.Service
	token  string
	caller tenant.Caller
	actor  tenant.Actor
	ask    chan struct{} // holds one when it is to be asked whether the session still lives
	all    *streams
}

func newStreams(m *metrics) *streams {
	return &streams{of: map[uuid.UUID]map[*stream]bool{}, m: m}
}

// open counts a stream in; its end has to be told to close.
func (s *streams) open(ctx context.Context, door *people.Service) (*stream, error) {
	actor, err := tenant.Require(ctx, tenant.Viewer)
	if err != nil {
		return nil, err
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	if len(s.of[actor.Person]) >= streamsEach {
		return nil, problem.TooMany(streamsRetry, "too-many-streams", "You have Keen Crock open in too many places: close some of them.")
	}
	st := &stream{door: door, token: signedInFrom(ctx).token, caller: tenant.CallerOf(ctx), actor: actor, ask: make(chan struct{}, 1), all: s}
	if s.of[actor.Person] == nil {
		s.of[actor.Person] = map[*stream]bool{}
	}
	s.of[actor.Person][st] = true
	s.m.streams.Inc()
	return st, nil
}

func (st *stream) close() {
	s := st.all
	s.mu.Lock()
	defer s.mu.Unlock()
	delete(s.of[st.actor.Person], st)
	if len(s.of[st.actor.Person]) == 0 {
		delete(s.of, st.actor.Person)
	}
	s.m.streams.Dec()
}

// askAll lets every stream of a workshop look whether its session still lives.
func (s *streams) askAll(workshop uuid.UUID) {
	s.mu.Lock()
	defer s.mu.Unlock()
	for _, of := range s.of {
		for st := range of {
			if st.actor.Workshop != workshop {
				continue
			}
			select {
			case st.ask <- struct{}{}:
			default: // it is to look already
			}
		}
	}
}

// lives reports whether the session of a stream still does.
func (st *stream) lives() bool {
	ctx, cancel := context.WithTimeout(tenant.WithCaller(context.Background(), st.caller), requestTimeout)
	defer cancel()
	_, _, err := st.door.Authenticate(ctx, st.token)
	return err == nil
}

// send answers with events until f returns, then counts the stream out.
func (st *stream) send(c fiber.Ctx, f func(*bufio.Writer)) error {
	c.Set("Content-Type", "text/event-stream")
	c.Set("Cache-Control", "no-store")
	c.Set("X-Accel-Buffering", "no")
	return c.SendStreamWriter(func(w *bufio.Writer) {
		defer st.close()
		f(w)
	})
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
