// Package tenant knows who asks: the person, their role, their workshop with its
// settings, and its library.
package tenant

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/internal/problem"
	"keencrock/internal/store"
)

// Role is what a person may do.
type Role string

// A viewer looks, a maker works, an owner decides.
const (
	Owner  Role = "owner"
	Maker  Role = "maker"
	Viewer Role = "viewer"
)

var rank = map[Role]int{Viewer: 1, Maker: 2, Owner: 3}

// Known reports whether there is such a role.
func (r Role) Known() bool { return rank[r] > 0 }

// Actor is who asks, and in which workshop.
type Actor struct {
	Workshop uuid.UUID
	Person   uuid.UUID
	Login    string
	Name     string
	Role     Role

	KnownPassword bool // signed in with the demo's, which is public
	MustChange    bool // and has to change that before anything else
}

type actorKey struct{}

// WithActor returns a context for what the actor does; the store will see the
// actor's workshop and no other.
func WithActor(ctx context.Context, a Actor) context.Context {
	return store.WithWorkshop(context.WithValue(ctx, actorKey{}, a), a.Workshop)
}

// Require returns the actor if their role is enough.
func Require(ctx context.Context, least Role) (Actor, error) {
	a, ok := ctx.Value(actorKey{}).(Actor)
	if !ok {
		return a, problem.SignedOut("not-signed-in", "Sign in first.")
	}
	if rank[a.Role] < rank[least] {
		return a, problem.Denied("not-allowed", "This needs the role of %s; you are a %s here.", least, a.Role)
	}
	return a, nil
}

// Explain turns what the store reports into a problem about the named thing.
func Explain(err error, thing string) error {
	switch {
	case errors.Is(err, store.ErrNotFound):
		return problem.Missing("not-found", "There is no such %s in this workshop.", thing)
	case errors.Is(err, store.ErrTaken):
		return problem.Clash("taken", "There is a %s of that name already.", thing)
	case errors.Is(err, store.ErrStale):
		return problem.Clash("stale", "Someone else changed the %s meanwhile. Look at theirs, then save again.", thing)
	}
	return err
}

// How soon it is worth asking a database again that did not answer, or had no room.
const (
	awayRetry = 2 * time.Second
	fullRetry = time.Minute
)

// Trouble is the problem that a failure of the database is to a person: that it
// does not answer, or cannot keep a value. It is
// nil for any other error.
func Trouble(err error) *api.Problem {
	switch {
	case store.IsAway(err):
		return problem.Away(awayRetry, "database-away", "The database does not answer at the moment. What you typed is kept here; try again in a few seconds.")
	case store.IsFull(err):
		return problem.Away(fullRetry, "disk-full", "The disk that the database is on is full, or so nearly that nothing more is kept; what is there can be read. Nothing was changed; what you typed is kept here. Make room on it, then try again.")
	case store.IsBusy(err):
		return problem.Away(awayRetry, "database-busy", "Too much is asked of the database at once. Nothing was changed; try again in a few seconds.")
	case store.IsOutOfRange(err):
		return problem.Unfit("out-of-range", "A number is larger than can be kept, or a text holds what cannot be kept. Nothing was changed.")
	}
	return nil
}
