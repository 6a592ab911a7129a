package store

import (
	"context"
	"errors"
	"sync/atomic"
)

// ErrNearlyFull is a disk on which nothing more is kept, before it is full: a database
// whose disk is full stops, and then nothing can be read either.
var ErrNearlyFull = errors.New("the disk of the database is nearly full")

// Bytes left on the disk of the database. From memory: PostgreSQL takes its log in files
// of 16 MiB, of which the next is made while the last is written; and a night's backup of
// a busy workshop takes a few.
const (
	fullBelow   = 32 << 20  // only reading goes on
	roomAgainAt = 48 << 20  // writing goes on again
	littleBelow = 256 << 20 // it is said
)

// Space is how much room there is.
type Space struct {
	FreeBytes int64
	Known     bool // it is another machine's disk otherwise
	Little    bool
	Full      bool // nothing more is kept until there is room again
}

// space watches over the disk of the database.
type space struct {
	free func() (bytes int64, err error)
	full atomic.Bool
}

// WatchSpace lets the store ask how many bytes are left on the disk of its database, and
// keep nothing more while they are too few. It is called before anything else.
func (s *Store) WatchSpace(free func() (bytes int64, err error)) { s.space.free = free }

// Space says how much room there is.
func (s *Store) Space() Space {
	if s.space.free == nil {
		return Space{}
	}
	free, err := s.space.free()
	if err != nil {
		return Space{}
	}
	if free < fullBelow {
		s.space.full.Store(true)
	} else if free >= roomAgainAt {
		s.space.full.Store(false)
	}
	return Space{FreeBytes: free, Known: true, Little: free < littleBelow, Full: s.space.full.Load()}
}

type alwaysKey struct{}

// Always returns a context for the little that is kept even on a nearly full disk, since
// without it nobody could read: that somebody came in, or tried to.
func Always(ctx context.Context) context.Context { return context.WithValue(ctx, alwaysKey{}, true) }

// mayKeep is ErrNearlyFull where nothing more is kept.
func (s *Store) mayKeep(ctx context.Context) error {
	if ctx.Value(alwaysKey{}) == nil && s.Space().Full {
		return ErrNearlyFull
	}
	return nil
}
