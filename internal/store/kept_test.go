package store_test

import (
	"context"
	"errors"
	"fmt"
	"sync/atomic"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/internal/store"
)

// heard lets a store hear what others write, as long as the test goes on.
func heard(t *testing.T, s *store.Store) {
	t.Helper()
	ctx, stop := context.WithCancel(context.Background())
	ready, ended := make(chan struct{}), make(chan error, 1)
	var told atomic.Bool
	go func() {
		ended <- s.Listen(ctx, func() {
			if told.CompareAndSwap(false, true) {
				close(ready)
			}
		}, func(store.Change) {})
	}()
	<-ready
	t.Cleanup(func() {
		stop()
		<-ended
	})
}

// nameRead reads a workshop's name through what is kept, and counts how often it had to be
// read anew.
type nameRead struct {
	s    *store.Store
	ctx  context.Context
	read int
}

func (n *nameRead) name(t *testing.T) string {
	t.Helper()
	name, err := n.of(n.s.Read(n.ctx))
	require.NoError(t, err)
	return name
}

func (n *nameRead) of(tx *store.Tx) (string, error) {
	return store.Remember(tx, "name", func() (string, error) {
		n.read++
		w, err := tx.Workshop()
		return w.Name, err
	})
}

func rename(t *testing.T, s *store.Store, ctx context.Context, name string) {
	t.Helper()
	require.NoError(t, s.Tx(ctx, func(tx *store.Tx) error {
		w, err := tx.Workshop()
		if err != nil {
			return err
		}
		w.Name = name
		return tx.SaveWorkshop(w)
	}))
}

// What was read is kept until the workshop changes: at once where the process itself
// changed it, and soon where another did, also by SQL of its own.
func TestWhatIsReadIsKeptUntilItChanges(t *testing.T) {
	here, dsn := open(t)
	there, err := store.Open(context.Background(), dsn)
	require.NoError(t, err)
	defer there.Close()
	ctx, _ := founded(t, here, "marl")
	other, _ := founded(t, here, "teasel")
	n := &nameRead{s: here, ctx: ctx}
	n.name(t)
	n.name(t)
	assert.Equal(t, 2, n.read, "while nobody listens nothing is kept")

	heard(t, here)
	n.read = 0
	for range 5 {
		assert.Equal(t, "marl", n.name(t))
	}
	assert.Equal(t, 1, n.read)
	assert.Equal(t, "teasel", (&nameRead{s: here, ctx: other}).name(t), "each workshop has its own")

	rename(t, here, ctx, "by oneself")
	assert.Equal(t, "by oneself", n.name(t), "at once")
	soon := func(want string) {
		t.Helper()
		require.Eventually(t, func() bool { return n.name(t) == want }, time.Minute, time.Millisecond, want)
	}
	rename(t, there, ctx, "by another process")
	soon("by another process")
	owner, err := store.OpenAsOwner(context.Background(), dsn)
	require.NoError(t, err)
	defer owner.Close()
	require.NoError(t, owner.Exec(context.Background(), "update workshops set name = 'by SQL' where name = 'by another process'"))
	soon("by SQL")

	// a transaction that writes sees what it wrote, and keeps nothing of it
	undone := errors.New("undone")
	require.ErrorIs(t, here.Tx(ctx, func(tx *store.Tx) error {
		w, err := tx.Workshop()
		require.NoError(t, err)
		w.Name = "never"
		require.NoError(t, tx.SaveWorkshop(w))
		name, err := n.of(tx)
		require.NoError(t, err)
		assert.Equal(t, "never", name)
		return undone
	}), undone)
	assert.Equal(t, "by SQL", n.name(t))
}

// What began to be read before a change is not kept after it.
func TestWhatWasReadBeforeAChangeIsNotKeptAfterIt(t *testing.T) {
	s, _ := open(t)
	ctx, _ := founded(t, s, "marl")
	heard(t, s)
	n := &nameRead{s: s, ctx: ctx}
	require.NoError(t, s.Snapshot(ctx, func(tx *store.Tx) error {
		_, err := tx.Workshop() // the moment it sees
		require.NoError(t, err)
		rename(t, s, ctx, "later")
		name, err := n.of(tx)
		assert.Equal(t, "marl", name, "one moment")
		return err
	}))
	assert.Equal(t, "later", n.name(t))
	late := s.Read(ctx)
	rename(t, s, ctx, "latest")
	_, err := n.of(late)
	require.NoError(t, err)
	assert.Equal(t, "latest", n.name(t))
}

// However many readers and writers of two processes there are: what is read at last is
// what was written last.
func TestWhatIsKeptIsRightAtLast(t *testing.T) {
	here, dsn := open(t)
	there, err := store.Open(context.Background(), dsn)
	require.NoError(t, err)
	defer there.Close()
	ctx, _ := founded(t, here, "marl")
	heard(t, here)
	heard(t, there)
	done := make(chan struct{})
	for range 4 {
		go func() {
			defer func() { done <- struct{}{} }()
			for range 200 {
				_, _ = (&nameRead{s: here, ctx: ctx}).of(here.Read(ctx))
				_, _ = (&nameRead{s: there, ctx: ctx}).of(there.Read(ctx))
			}
		}()
	}
	last := ""
	for i := range 40 {
		last = fmt.Sprint("name ", i)
		rename(t, []*store.Store{here, there}[i%2], ctx, last)
	}
	for range 4 {
		<-done
	}
	for _, s := range []*store.Store{here, there} {
		n := &nameRead{s: s, ctx: ctx}
		require.Eventually(t, func() bool { return n.name(t) == last }, time.Minute, time.Millisecond)
	}
}

// So many workshops are kept and no more; an error is kept by nobody.
func TestWhatIsKeptIsBounded(t *testing.T) {
	s, _ := open(t)
	heard(t, s)
	read := 0
	ask := func(id uuid.UUID) {
		_, err := store.Remember(s.Read(store.WithWorkshop(context.Background(), id)), 1, func() (int, error) {
			read++
			return read, nil
		})
		require.NoError(t, err)
	}
	ids := make([]uuid.UUID, 3*store.MostWorkshops)
	for i := range ids {
		ids[i] = store.NewID()
		ask(ids[i])
	}
	assert.LessOrEqual(t, s.Remembered(), store.MostWorkshops)
	read = 0
	for _, id := range ids {
		ask(id)
	}
	assert.GreaterOrEqual(t, read, len(ids)-store.MostWorkshops)
	failed := errors.New("no")
	tx := s.Read(store.WithWorkshop(context.Background(), ids[0]))
	_, err := store.Remember(tx, "fails", func() (int, error) { return 0, failed })
	require.ErrorIs(t, err, failed)
	v, err := store.Remember(tx, "fails", func() (int, error) { return 7, nil })
	require.NoError(t, err)
	assert.Equal(t, 7, v)
}
