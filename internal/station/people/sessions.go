package people

import (
	"context"
	"crypto/subtle"
	"errors"
	"time"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// How long a session lives at most, and how long it may go unused. From memory: a
// workshop signs in at the bench once a month, and a phone left in a drawer is out
// after a week.
const (
	sessionLife = 30 * 24 * time.Hour
	sessionIdle = 7 * 24 * time.Hour
)

// SessionLife is how long a browser may keep its cookie.
func SessionLife() time.Duration { return sessionLife }

// Authenticate returns who a session token stands for and the token that
// guards their changes.
func (s *Service) Authenticate(ctx context.Context, token string) (tenant.Actor, string, error) {
	in, err := s.Store.SessionByToken(ctx, tenant.TokenHash(token), s.Now(), sessionIdle)
	if errors.Is(err, store.ErrNotFound) || err == nil && in.KnownPassword && !tenant.CallerOf(ctx).Local {
		return tenant.Actor{}, "", problem.SignedOut("not-signed-in", "Your session has ended: sign in again.")
	}
	if err != nil {
		return tenant.Actor{}, "", err
	}
	return tenant.Actor{Workshop: in.WorkshopID, Person: in.PersonID, Login: in.Login, Name: plainly(in.Name), Role: tenant.Role(in.Role),
		KnownPassword: in.KnownPassword, MustChange: in.KnownPassword && !in.Demo}, in.CSRFToken, nil
}

// Session says who is signed in.
func (s *Service) Session(ctx context.Context, csrf string) (*api.Session, error) {
	a, err := tenant.Require(ctx, tenant.Viewer)
	if err != nil {
		return nil, err
	}
	tx := s.Store.Read(ctx)
	w, err := tx.Workshop()
	if errors.Is(err, store.ErrNotFound) { // another process removed it a moment ago
		return nil, problem.SignedOut("not-signed-in", "Your session has ended: sign in again.")
	}
	if err != nil {
		return nil, err
	}
	p, err := tx.Person(a.Person)
	if err != nil {
		return nil, err
	}
	return &api.Session{CsrfToken: csrf, Workshop: *tenant.WorkshopOf(w), Demo: w.Demo, MustChangePassword: a.MustChange, SecondFactor: p.TOTPOn,
		Person: api.Person{Id: a.Person, Login: a.Login, Name: a.Name, Role: api.Role(a.Role)}}, nil
}

// SignOut ends this session, or all of the person's.
func (s *Service) SignOut(ctx context.Context, token string, everywhere bool) error {
	a, err := tenant.Require(ctx, tenant.Viewer)
	if err != nil {
		return err
	}
	return s.Store.Tx(store.Always(ctx), func(tx *store.Tx) error {
		about := "here"
		if everywhere {
			about, err = "everywhere", tx.EndSessions(a.Person)
		} else {
			err = tx.EndSession(tenant.TokenHash(token))
		}
		return errors.Join(err, tenant.Note(ctx, tx, "signed-out", about, s.Now()))
	})
}

// Sessions lists where one is signed in oneself.
func (s *Service) Sessions(ctx context.Context, token string) ([]api.SignedInPlace, error) {
	a, err := tenant.Require(ctx, tenant.Viewer)
	if err != nil {
		return nil, err
	}
	rows, err := s.Store.Read(ctx).Sessions(a.Person, s.Now(), sessionIdle)
	places := make([]api.SignedInPlace, len(rows))
	for i, r := range rows {
		places[i] = api.SignedInPlace{Id: r.ID, CreatedAt: r.CreatedAt, LastSeenAt: r.LastSeenAt, ExpiresAt: r.ExpiresAt, Address: r.Address, Agent: r.Agent,
			This: subtle.ConstantTimeCompare(r.TokenHash, tenant.TokenHash(token)) == 1}
	}
	return places, err
}

// EndSession ends one of one's own sessions.
func (s *Service) EndSession(ctx context.Context, id uuid.UUID) error {
	a, err := tenant.Require(ctx, tenant.Viewer)
	if err != nil {
		return err
	}
	return s.Store.Tx(store.Always(ctx), func(tx *store.Tx) error {
		if err := tx.EndSessionOf(a.Person, id); err != nil {
			return tenant.Explain(err, "session")
		}
		return tenant.Note(ctx, tx, "session-ended", "", s.Now())
	})
}
