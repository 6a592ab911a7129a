package rack

import (
	"context"
	"time"

	"keencrock/api"
	"keencrock/core/curing"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// How far back the readings of the room are shown, for how long one is believed, and
// how often the hygrometer is read.
const (
	shownBack   = 48 * time.Hour
	believed    = 3 * time.Hour
	ReadingTime = 30 * time.Minute
)

// Room tells how warm and damp the room is.
func (s *Service) Room(ctx context.Context) (*api.Room, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	return s.room(s.Store.Read(ctx))
}

func (s *Service) room(tx *store.Tx) (*api.Room, error) {
	readings, err := tx.RoomReadings(s.Now().Add(-shownBack))
	if err != nil {
		return nil, err
	}
	out := &api.Room{Readings: make([]api.RoomReading, len(readings))}
	for i, r := range readings {
		out.Readings[i] = api.RoomReading{At: r.At, Celsius: r.Celsius, Humidity: r.Humidity, ByHand: r.ByHand}
	}
	if n := len(readings); n > 0 && s.Now().Sub(readings[n-1].At) < believed {
		out.Now = out.Readings[n-1]
	}
	return out, nil
}

// air is the air of the room by now, nothing where it is not known.
func (s *Service) air(tx *store.Tx) (curing.Air, error) {
	readings, err := tx.RoomReadings(s.Now().Add(-believed))
	if err != nil || len(readings) == 0 {
		return curing.Air{}, err
	}
	last := readings[len(readings)-1]
	return curing.Air{Celsius: last.Celsius, Humidity: last.Humidity}, nil
}

// NoteRoom keeps what a hygrometer shows, read by a person.
func (s *Service) NoteRoom(ctx context.Context, in api.RoomNote) (*api.Room, error) {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return nil, err
	}
	at := s.Now()
	if !in.At.IsZero() {
		at = in.At
	}
	if at.After(s.Now().Add(time.Minute)) {
		return nil, problem.Unfit("bad-value", "That is still to come: say when it was read.").At("at")
	}
	var out *api.Room
	err := s.Store.Tx(ctx, func(tx *store.Tx) (err error) {
		if err := tx.AddRoomReading(&store.RoomReading{At: at, Celsius: in.Celsius, Humidity: in.Humidity, ByHand: true}); err != nil {
			return err
		}
		if out, err = s.room(tx); err != nil {
			return err
		}
		return tx.Announce("rack", nil)
	})
	return out, err
}

// ReadHygrometers keeps what the hygrometer of every workshop that has one shows, at
// the rhythm of all processes: of one moment one reading is kept.
func (s *Service) ReadHygrometers(ctx context.Context, read func(workshop [16]byte, at time.Time) (celsius, humidity float64)) error {
	ids, err := s.Store.WorkshopsWithHygrometer(ctx)
	if err != nil {
		return err
	}
	at := s.Now().Truncate(ReadingTime)
	for _, id := range ids {
		celsius, humidity := read(id, at)
		err := s.Store.Tx(store.WithWorkshop(ctx, id), func(tx *store.Tx) error {
			return tx.AddRoomReading(&store.RoomReading{At: at, Celsius: celsius, Humidity: humidity})
		})
		if err != nil {
			return err
		}
	}
	return nil
}
