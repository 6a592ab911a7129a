// Package workshop holds the use cases: what a person in a workshop can do.
//
// Each is one exported method of [Service] and one transaction. They speak in
// the words of the contract (package api) and return an [*api.Problem] for
// whatever a person can put right. Rules of the job are asked of the core.
package workshop

import (
	"context"
	"errors"
	"net/http"
	"time"

	"github.com/google/uuid"
	"github.com/oapi-codegen/runtime/types"

	"keencrock/api"
	"keencrock/core/assess"
	"keencrock/core/bath"
	"keencrock/core/costing"
	"keencrock/core/formula"
	"keencrock/core/quantity"
	"keencrock/internal/store"
)

// Service is the workshop's door. It is safe for use by many goroutines.
type Service struct {
	store     *store.Store
	now       func() time.Time
	libraries libraries
	passwords *passwords
}

// New returns a service over a store. Time is asked of now.
func New(s *store.Store, now func() time.Time) *Service {
	return &Service{store: s, now: now, passwords: newPasswords()}
}

// Ping reports whether the database answers.
func (s *Service) Ping(ctx context.Context) error { return s.store.Ping(ctx) }

// Change says that something in a workshop is not as it was.
type Change struct {
	Workshop uuid.UUID
	api.Change
}

// Listen calls f for every change made in any workshop by any process, until
// the context ends or the database is lost. It says when it is ready to hear.
func (s *Service) Listen(ctx context.Context, ready func(), f func(Change)) error {
	return s.store.Listen(ctx, ready, func(c store.Change) {
		f(Change{Workshop: c.Workshop, Change: api.Change{Topic: api.ChangeTopic(c.Topic), Id: c.ID}})
	})
}

// Role is what a person may do.
type Role string

// A viewer looks, a maker works, an owner decides.
const (
	Owner  Role = "owner"
	Maker  Role = "maker"
	Viewer Role = "viewer"
)

var rank = map[Role]int{Viewer: 1, Maker: 2, Owner: 3}

// Actor is who asks, and in which workshop.
type Actor struct {
	Workshop uuid.UUID
	Person   uuid.UUID
	Login    string
	Name     string
	Role     Role
}

type actorKey struct{}

// WithActor returns a context for what the actor does; the store will see the
// actor's workshop and no other.
func WithActor(ctx context.Context, a Actor) context.Context {
	return store.WithWorkshop(context.WithValue(ctx, actorKey{}, a), a.Workshop)
}

// may returns the actor if their role is enough.
func may(ctx context.Context, least Role) (Actor, error) {
	a, ok := ctx.Value(actorKey{}).(Actor)
	if !ok {
		return a, api.NewProblem(http.StatusUnauthorized, "not-signed-in", "Sign in first.")
	}
	if rank[a.Role] < rank[least] {
		return a, api.NewProblem(http.StatusForbidden, "not-allowed", "This needs the role of %s; you are a %s here.", least, a.Role)
	}
	return a, nil
}

// said turns what the store reports into a problem about the named thing.
func said(err error, thing string) error {
	switch {
	case errors.Is(err, store.ErrNotFound):
		return api.NewProblem(http.StatusNotFound, "not-found", "There is no such %s in this workshop.", thing)
	case errors.Is(err, store.ErrTaken):
		return api.NewProblem(http.StatusConflict, "taken", "There is a %s of that name already.", thing)
	case errors.Is(err, store.ErrStale):
		return api.NewProblem(http.StatusConflict, "stale", "Someone else changed the %s meanwhile. Look at theirs, then save again.", thing)
	}
	return err
}

// Trouble is the problem that a failure of the database is to a person: that it
// does not answer, cannot keep a value, or has done what is asked before. It is nil for any other error.
func Trouble(err error) *api.Problem {
	switch {
	case errors.Is(err, store.ErrDone):
		return errDone()
	case store.IsAway(err):
		p := api.NewProblem(http.StatusServiceUnavailable, "database-away", "The database does not answer at the moment. What you typed is kept here; try again in a few seconds.")
		p.RetryAfterS = 2
		return p
	case store.IsOutOfRange(err):
		return api.NewProblem(http.StatusUnprocessableEntity, "out-of-range", "A number is larger than can be kept, or a text holds what cannot be kept. Nothing was changed.")
	}
	return nil
}

// settings is what every working-out needs to know of a workshop.
type settings struct {
	workshop *store.Workshop
	measures quantity.Measures
	ph       map[string]quantity.Range // measured of lots, by material
	*ownLibrary
}

func (s *settings) tools() formula.Workshop {
	w := formula.Workshop{Own: s.sizes, PH: s.ph}
	if s.workshop.DropsPerML > 0 {
		w.DropML = quantity.Exactly(1 / s.workshop.DropsPerML)
	}
	if s.workshop.ScoopML > 0 {
		w.ScoopML = quantity.Exactly(s.workshop.ScoopML)
	}
	return w
}

// water is what goods are used in here.
func (s *settings) water() *assess.Water {
	w := &assess.Water{Waters: bath.Waters{LaundryL: s.workshop.LaundryWaterL, DishesL: s.workshop.DishesWaterL}}
	w.Hardness, _ = quantity.ParseHardness(s.workshop.Hardness) // none said counts as none
	return w
}

func (s *Service) settings(tx *store.Tx) (*settings, error) {
	w, err := tx.Workshop()
	if err != nil {
		return nil, err
	}
	out := &settings{workshop: w}
	if out.measures, err = quantity.ParseMeasures(w.Measures); err != nil {
		return nil, err
	}
	if out.ownLibrary, err = s.libraries.of(tx, w); err != nil {
		return nil, err
	}
	out.ph, err = measuredMaterials(tx)
	return out, err
}

// today is the day it is, as dates are kept: midnight UTC.
func (s *Service) today() time.Time { return dayOf(s.now()) }

func dayOf(t time.Time) time.Time {
	return time.Date(t.Year(), t.Month(), t.Day(), 0, 0, 0, 0, time.UTC)
}

func dateOf(t *time.Time) types.Date {
	if t == nil {
		return types.Date{}
	}
	return types.Date{Time: *t}
}

func timeOf(t *time.Time) time.Time {
	if t == nil {
		return time.Time{}
	}
	return *t
}

// costingLot puts a lot into the words of the core; what open batches hold of
// it is not to be had.
func costingLot(l *store.Lot) costing.Lot {
	return costing.Lot{
		ID: l.ID.String(), Material: l.Material, OriginalG: l.OriginalG, RemainingG: l.AvailableG(),
		Landed: l.Landed, BestBefore: timeOf(l.BestBefore), Received: l.Received, Unusable: l.SetAside,
	}
}
