package web

import (
	"bufio"
	"sync"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/internal/device"
	"keencrock/internal/station/people"
	"keencrock/internal/station/settings"
	"keencrock/internal/tenant"
)

// scales are the simulated bench scales of this process, one a workshop.
type scales struct {
	mu      sync.Mutex
	of      map[uuid.UUID]*device.Scale
	now     func() time.Time
	streams *streams
	done    chan struct{}
	once    sync.Once
}

func newScales(now func() time.Time, s *streams) *scales {
	return &scales{of: map[uuid.UUID]*device.Scale{}, now: now, streams: s, done: make(chan struct{})}
}

func (s *scales) close() { s.once.Do(func() { close(s.done) }) }

// scale returns the scale of a workshop, with the step and capacity it has set.
// One that was set otherwise is another scale from then on.
func (s *scales) scale(id uuid.UUID, w *api.Workshop) *device.Scale {
	s.mu.Lock()
	defer s.mu.Unlock()
	d, ok := s.of[id]
	if !ok || d.StepG() != w.ScaleStepG || d.CapacityG() != w.ScaleCapacityG {
		d = device.NewScale(w.ScaleStepG, w.ScaleCapacityG, uint64(id[15]))
		s.of[id] = d
	}
	return d
}

// current returns the scale that a workshop has by now.
func (s *scales) current(id uuid.UUID) *device.Scale {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.of[id]
}

func (s *scales) touch(d *device.Scale, t api.ScaleTouch) device.Reading {
	now := s.now()
	if t.Clear {
		d.Clear(now)
	}
	if t.Tare {
		d.Tare(now)
	}
	if t.PutG != 0 {
		d.Put(t.PutG, now)
	}
	return d.Read(now)
}

func readingOf(r device.Reading) api.ScaleReading {
	return api.ScaleReading{Grams: r.Grams, Stable: r.Stable, Overload: r.Overload, StepG: r.StepG}
}

const readingEvery = 100 * time.Millisecond

// stream sends readings as server-sent events, whenever they change.
func (s *scales) stream(door *people.Service, settings *settings.Service) fiber.Handler {
	return func(c fiber.Ctx) error {
		ctx := c.Context()
		a, err := tenant.Require(ctx, tenant.Viewer)
		if err != nil {
			return err
		}
		w, err := settings.Workshop(ctx)
		if err != nil {
			return err
		}
		s.scale(a.Workshop, w)
		st, err := s.streams.open(ctx, door)
		if err != nil {
			return err
		}
		return st.send(c, func(w *bufio.Writer) {
			tick, beat := time.NewTicker(readingEvery), time.NewTicker(heartbeat)
			defer tick.Stop()
			defer beat.Stop()
			var last device.Reading
			for first := true; ; first = false {
				if r := s.current(a.Workshop).Read(s.now()); first || r != last {
					last = r
					if !writeEvent(w, "reading", readingOf(r)) {
						return
					}
				}
				select {
				case <-s.done:
					return
				case <-st.ask:
					if !st.lives() {
						return
					}
				case <-beat.C:
					if !st.lives() || !writeComment(w) {
						return
					}
				case <-tick.C:
				}
			}
		})
	}
}
