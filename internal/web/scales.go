package web

import (
	"bufio"
	"context"
	"sync"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/internal/device"
	"keencrock/internal/workshop"
)

// scales are the simulated bench scales of this process, one a workshop.
type scales struct {
	mu   sync.Mutex
	of   map[uuid.UUID]*device.Scale
	now  func() time.Time
	done chan struct{}
	once sync.Once
}

func newScales(now func() time.Time) *scales {
	return &scales{of: map[uuid.UUID]*device.Scale{}, now: now, done: make(chan struct{})}
}

func (s *scales) close() { s.once.Do(func() { close(s.done) }) }

// scale returns the scale of whoever asks, with the step and capacity the
// workshop set when it was first used.
func (s *scales) scale(ctx context.Context, service *workshop.Service) (*device.Scale, error) {
	actor, _, err := service.Authenticate(ctx, signedInFrom(ctx).token)
	if err != nil {
		return nil, err
	}
	w, err := service.Workshop(ctx)
	if err != nil {
		return nil, err
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	d, ok := s.of[actor.Workshop]
	if !ok || d.StepG() != w.ScaleStepG || d.CapacityG() != w.ScaleCapacityG {
		d = device.NewScale(w.ScaleStepG, w.ScaleCapacityG, uint64(actor.Workshop[15]))
		s.of[actor.Workshop] = d
	}
	return d, nil
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
func (s *scales) stream(service *workshop.Service) fiber.Handler {
	return func(c fiber.Ctx) error {
		ctx := c.Context()
		d, err := s.scale(ctx, service)
		if err != nil {
			return err
		}
		token := signedInFrom(ctx).token
		return sendEvents(c, func(w *bufio.Writer) {
			tick, beat := time.NewTicker(readingEvery), time.NewTicker(heartbeat)
			defer tick.Stop()
			defer beat.Stop()
			var last device.Reading
			for first := true; ; first = false {
				if r := d.Read(s.now()); first || r != last {
					last = r
					if !writeEvent(w, "reading", readingOf(r)) {
						return
					}
				}
				select {
				case <-s.done:
					return
				case <-beat.C:
					if !stillSignedIn(service, token) || !writeComment(w) {
						return
					}
				case <-tick.C:
				}
			}
		})
	}
}
