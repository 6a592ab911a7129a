// Package people is who may come in: the first owner, sign-in and its sessions,
// people with their roles and passwords.
package people

import (
	"cmp"
	"context"
	"errors"
	"strings"
	"time"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/quantity"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// Service lets people in.
type Service struct {
	*tenant.House
	passwords *passwords
}

// New returns the door of a house.
func New(h *tenant.House) *Service { return &Service{h, newPasswords()} }

// SetupNeeded reports whether the first owner has still to be made.
func (s *Service) SetupNeeded(ctx context.Context) (bool, error) { return s.Store.Empty(ctx) }

// MakeFirstOwner makes the first workshop with its owner and signs them in.
func (s *Service) MakeFirstOwner(ctx context.Context, n api.NewWorkshop) (token string, session *api.Session, err error) {
	w, owner, err := s.newWorkshop(ctx, n)
	if err != nil {
		return "", nil, err
	}
	err = s.Store.CreateFirstWorkshop(ctx, w, owner)
	if errors.Is(err, store.ErrTaken) {
		return "", nil, problem.Clash("already-set-up", "There is a workshop already: sign in.")
	}
	if err != nil {
		return "", nil, err
	}
	return s.SignIn(ctx, api.Credentials{Login: n.Login, Password: n.Password}, "")
}

// CreateWorkshop makes a workshop with its owner and returns the owner.
func (s *Service) CreateWorkshop(ctx context.Context, n api.NewWorkshop) (tenant.Actor, error) {
	w, owner, err := s.newWorkshop(ctx, n)
	if err != nil {
		return tenant.Actor{}, err
	}
	return s.create(ctx, w, owner)
}

// CreateDemo is CreateWorkshop for one that is there to look around in.
func (s *Service) CreateDemo(ctx context.Context, n api.NewWorkshop) (tenant.Actor, error) {
	w, owner, err := s.newWorkshop(ctx, n)
	if err != nil {
		return tenant.Actor{}, err
	}
	w.Demo = true
	return s.create(ctx, w, owner)
}

func (s *Service) create(ctx context.Context, w *store.Workshop, owner *store.Person) (tenant.Actor, error) {
	if err := s.Store.CreateWorkshop(ctx, w, owner); err != nil {
		return tenant.Actor{}, tenant.Explain(err, "person")
	}
	return tenant.Actor{Workshop: w.ID, Person: owner.ID, Login: owner.Login, Name: owner.Name, Role: tenant.Owner}, nil
}

func (s *Service) newWorkshop(ctx context.Context, n api.NewWorkshop) (*store.Workshop, *store.Person, error) {
	now := s.Now()
	if err := tenant.CheckWorkshop(n.Hardness, n.TimeZone); err != nil {
		return nil, nil, err
	}
	owner, err := s.person(ctx, api.NewPerson{Login: n.Login, Name: n.Name, Password: n.Password, Role: api.Owner}, now)
	return &store.Workshop{ID: store.NewID(), Name: n.Workshop, Hardness: n.Hardness,
		Measures: cmp.Or(string(n.Measures), quantity.US.String()), Currency: cmp.Or(n.Currency, "EUR"), TimeZone: n.TimeZone,
		ScaleStepG: 1, ScaleCapacityG: 5000, Version: 1, CreatedAt: now}, owner, err
}

func (s *Service) person(ctx context.Context, n api.NewPerson, now time.Time) (*store.Person, error) {
	if !tenant.Role(n.Role).Known() {
		return nil, problem.Unfit("bad-value", "A role is owner, maker or viewer.").At("role")
	}
	hash, err := s.newHash(ctx, n.Login, n.Password)
	if err != nil {
		return nil, err
	}
	return &store.Person{ID: store.NewID(), Login: foldLogin(n.Login), Name: strings.TrimSpace(n.Name),
		PasswordHash: hash, Role: string(n.Role), CreatedAt: now}, nil
}

// newHash is the hash of a password that may be one.
func (s *Service) newHash(ctx context.Context, login, password string) (string, error) {
	if len([]rune(password)) < passwordAtLeast {
		return "", problem.Unfit("bad-value", passwordProblems).At("password")
	}
	return s.passwords.hash(ctx, foldLogin(login), password)
}

func foldLogin(s string) string { return strings.ToLower(strings.TrimSpace(s)) }

// People lists who may sign in.
func (s *Service) People(ctx context.Context) ([]api.Person, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	rows, err := s.Store.Read(ctx).People()
	people := make([]api.Person, len(rows))
	for i, p := range rows {
		people[i] = api.Person{Id: p.ID, Login: p.Login, Name: p.Name, Role: api.Role(p.Role)}
	}
	return people, err
}

// AddPerson lets another person in.
func (s *Service) AddPerson(ctx context.Context, n api.NewPerson) (*api.Person, error) {
	if _, err := tenant.Require(ctx, tenant.Owner); err != nil {
		return nil, err
	}
	p, err := s.person(ctx, n, s.Now())
	if err != nil {
		return nil, err
	}
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		if err := tx.AddPerson(p); err != nil {
			return tenant.Explain(err, "person")
		}
		return tx.Announce("people", p.ID)
	})
	return &api.Person{Id: p.ID, Login: p.Login, Name: p.Name, Role: n.Role}, err
}

// ChangeRole gives a person another role, from their next step on. Owners keep
// their own, so that there is always one.
func (s *Service) ChangeRole(ctx context.Context, id uuid.UUID, role tenant.Role) (*api.Person, error) {
	a, err := tenant.Require(ctx, tenant.Owner)
	if err != nil {
		return nil, err
	}
	if id == a.Person {
		return nil, problem.Clash("not-yourself", "You cannot change your own role: another owner has to.")
	}
	var out api.Person
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		p, err := tx.Person(id)
		if err != nil {
			return tenant.Explain(err, "person")
		}
		p.Role = string(role)
		if err := tx.SaveRole(p); err != nil {
			return err
		}
		out = api.Person{Id: p.ID, Login: p.Login, Name: p.Name, Role: api.Role(p.Role)}
		return tx.Announce("people", id)
	})
	return &out, err
}

// RemovePerson takes a person's access away. Owners cannot remove themselves.
func (s *Service) RemovePerson(ctx context.Context, id uuid.UUID) error {
	a, err := tenant.Require(ctx, tenant.Owner)
	if err != nil {
		return err
	}
	if id == a.Person {
		return problem.Clash("not-yourself", "You cannot take your own access away.")
	}
	return s.Store.Tx(ctx, func(tx *store.Tx) error {
		if err := tx.RemovePerson(id, s.Now()); err != nil {
			return tenant.Explain(err, "person")
		}
		return tx.Announce("people", id)
	})
}
