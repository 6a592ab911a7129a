package store

import (
	"context"
	"errors"
	"sync"
	"sync/atomic"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
)

// keptChannel is under which every process hears that what it may have kept of a workshop
// is not so any more; the triggers of migration 19 tell it.
const keptChannel = "keencrock_kept"

// Bounds of what is kept: workshops in a process, values of a workshop, sessions. From
// memory: a library with its names is a few hundred kilobytes, a list of prices or a
// session less than one.
const (
	mostWorkshops = 128
	mostValues    = 500
	mostSessions  = 20_000
)

// kept is what was read of workshops and is kept in the process. It is let go by what the
// process itself writes, when that is written, and by what any other tells; while nobody
// listens to those nothing is kept.
type kept struct {
	mu       sync.Mutex
	of       map[uuid.UUID]*memory // nil while nobody listens
	sessions map[string]session
	drops    atomic.Uint64 // how often something was let go
}

// memory is what is kept of one workshop until something of it changes.
type memory struct {
	born   uint64 // after so many drops
	dead   atomic.Bool
	mu     sync.Mutex
	values map[any]any
}

type session struct {
	of *memory
	in SignedIn
}

// hear begins to keep things.
func (k *kept) hear() {
	k.mu.Lock()
	defer k.mu.Unlock()
	k.letAllGo()
	k.of, k.sessions = map[uuid.UUID]*memory{}, map[string]session{}
}

// deaf ends it.
func (k *kept) deaf() {
	k.mu.Lock()
	defer k.mu.Unlock()
	k.letAllGo()
	k.of, k.sessions = nil, nil
}

// letAllGo lets all go that is kept; the lock is held.
func (k *kept) letAllGo() {
	k.drops.Add(1)
	for id, m := range k.of {
		m.dead.Store(true)
		delete(k.of, id)
	}
	clear(k.sessions)
}

// letGo lets go of what is kept of a workshop; of all for none.
func (k *kept) letGo(workshop uuid.UUID) {
	k.mu.Lock()
	defer k.mu.Unlock()
	if workshop == uuid.Nil {
		k.letAllGo()
		return
	}
	k.drops.Add(1)
	if m := k.of[workshop]; m != nil {
		m.dead.Store(true)
		delete(k.of, workshop)
	}
}

// memoryOf is what is kept of a workshop; nil while nothing is.
func (k *kept) memoryOf(workshop uuid.UUID) *memory {
	k.mu.Lock()
	defer k.mu.Unlock()
	if k.of == nil || workshop == uuid.Nil {
		return nil
	}
	m := k.of[workshop]
	if m == nil {
		for id, other := range k.of { // any of them makes room
			if len(k.of) < mostWorkshops {
				break
			}
			other.dead.Store(true)
			delete(k.of, id)
		}
		m = &memory{born: k.drops.Load(), values: map[any]any{}}
		k.of[workshop] = m
	}
	return m
}

// takes reports whether a memory may take what was read since so many drops: it is still
// there, and was before the reading began. So nothing that was read before a change stays
// after it.
func (m *memory) takes(asOf uint64) bool { return !m.dead.Load() && m.born <= asOf }

// Remember is what read gives: what it gave the last time, as long as nothing of the
// workshop has changed since. A transaction that writes reads by itself. What comes back
// is shared, and never changed.
func Remember[T any](t *Tx, key any, read func() (T, error)) (T, error) {
	workshop, _ := workshopOf(t.db.Statement.Context)
	if t.kept == nil {
		return read()
	}
	m := t.kept.memoryOf(workshop)
	if m == nil {
		return read()
	}
	m.mu.Lock()
	found, ok := m.values[key]
	m.mu.Unlock()
	if ok && !m.dead.Load() {
		return found.(T), nil
	}
	v, err := read()
	if err != nil || !m.takes(t.asOf) {
		return v, err
	}
	m.mu.Lock()
	defer m.mu.Unlock()
	if len(m.values) >= mostValues {
		clear(m.values)
	}
	m.values[key] = v
	return v, nil
}

// session is who a token stands for, as it was read and is still.
func (k *kept) session(hash string) (in SignedIn, ok bool) {
	k.mu.Lock()
	defer k.mu.Unlock()
	s, ok := k.sessions[hash]
	return s.in, ok && !s.of.dead.Load()
}

// keepSession keeps who a token stands for, read since so many drops.
func (k *kept) keepSession(hash string, in SignedIn, asOf uint64) {
	m := k.memoryOf(in.WorkshopID)
	if m == nil || !m.takes(asOf) {
		return
	}
	k.mu.Lock()
	defer k.mu.Unlock()
	if len(k.sessions) >= mostSessions {
		clear(k.sessions)
	}
	k.sessions[hash] = session{m, in}
}

// hearKept takes what a process tells of a workshop.
func (k *kept) hearKept(payload string) {
	id, err := uuid.Parse(payload)
	if err != nil {
		id = uuid.Nil // whatever it was: nothing is kept that may not be so
	}
	k.letGo(id)
}

// looksEvery is how often it is looked whether the connection that is listened on still
// lives: as long what is kept may be older than what another process wrote, at most, when
// that breaks without a word.
const looksEvery = 5 * time.Second

// next waits for what is told next, and looks after the connection meanwhile.
func next(ctx context.Context, conn *pgx.Conn) (*pgconn.Notification, error) {
	for {
		waiting, done := context.WithTimeout(ctx, looksEvery)
		n, err := conn.WaitForNotification(waiting)
		done()
		if err == nil || ctx.Err() != nil || !errors.Is(err, context.DeadlineExceeded) && !pgconn.Timeout(err) {
			return n, err
		}
		waiting, done = context.WithTimeout(ctx, looksEvery)
		err = conn.Ping(waiting)
		done()
		if err != nil {
			return nil, err
		}
	}
}
