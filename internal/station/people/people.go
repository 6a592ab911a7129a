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
	gate      *gate
}

// New returns the door of a house.
func New(h *tenant.House) *Service { return &Service{h, newPasswords(), newGate()} }

// Setup says whether a workshop of one's own has still to be begun, and whether it can
// be from where is asked; and how to look around in the demo.
func (s *Service) Setup(ctx context.Context) (*api.Setup, error) {
	own, err := s.Store.HasOwn(ctx)
	if err != nil {
		return nil, err
	}
	local := tenant.CallerOf(ctx).Local
	setup := &api.Setup{CanBegin: !own && local}
	owner, err := s.Store.DemoOwner(ctx)
	if errors.Is(err, store.ErrNotFound) {
		setup.Needed, err = s.Store.Empty(ctx)
		return setup, err
	}
	if err == nil && local {
		setup.Demo = api.DemoSignIn{Login: owner.Login, Password: DemoPassword}
	}
	return setup, err
}

// MakeFirstOwner makes the first workshop that is no demo, with its owner, and signs
// them in: on the machine Keen Crock runs on, so that nobody else on the network comes
// first.
func (s *Service) MakeFirstOwner(ctx context.Context, n api.NewWorkshop) (*Entry, error) {
	if !tenant.CallerOf(ctx).Local {
		return nil, problem.Denied("not-local", "The first workshop is begun on the machine Keen Crock runs on: open it there, or run “keencrock add-workshop”.")
	}
	w, owner, err := s.newWorkshop(ctx, n)
	if err != nil {
		return nil, err
	}
	err = s.Store.CreateFirstWorkshop(ctx, w, owner)
	if errors.Is(err, store.ErrTaken) {
		return nil, s.whyTaken(ctx)
	}
	if err != nil {
		return nil, err
	}
	return s.enter(ctx, owner, false, "signed-in")
}

// whyTaken says why a first workshop could not be made.
func (s *Service) whyTaken(ctx context.Context) error {
	own, err := s.Store.HasOwn(ctx)
	if err != nil || own {
		return errors.Join(problem.Clash("already-set-up", "There is a workshop already: sign in."), err)
	}
	return problem.Clash("taken", "That sign-in name is in use in the demo: take another.").At("login")
}

// RemoveDemo removes the demo of who asks, once there is another workshop.
func (s *Service) RemoveDemo(ctx context.Context) error {
	a, err := tenant.Require(ctx, tenant.Owner)
	if err != nil {
		return err
	}
	w, err := s.Store.Read(ctx).Workshop()
	if err != nil {
		return err
	}
	if !w.Demo {
		return problem.Clash("no-demo", "This workshop is no demo: it is never removed.")
	}
	own, err := s.Store.HasOwn(ctx)
	if err != nil {
		return err
	}
	if !own {
		return problem.Clash("only-workshop", "There is no other workshop yet: begin your own first.")
	}
	return s.Store.RemoveDemo(ctx, a.Workshop)
}

// CreateWorkshop makes a workshop with its owner and returns the owner.
func (s *Service) CreateWorkshop(ctx context.Context, n api.NewWorkshop) (tenant.Actor, error) {
	w, owner, err := s.newWorkshop(ctx, n)
	if err != nil {
		return tenant.Actor{}, err
	}
	return s.create(ctx, w, owner)
}

// CreateDemo is CreateWorkshop for one that is there to look around in, and is being
// loaded still.
func (s *Service) CreateDemo(ctx context.Context, n api.NewWorkshop) (tenant.Actor, error) {
	w, owner, err := s.newWorkshop(withDemo(ctx), n)
	if err != nil {
		return tenant.Actor{}, err
	}
	w.Demo, w.Loading = true, true
	return s.create(ctx, w, owner)
}

type demoKey struct{}

// withDemo lets a person have the password that is public.
func withDemo(ctx context.Context) context.Context { return context.WithValue(ctx, demoKey{}, true) }

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
	owner, err := s.person(ctx, api.NewPerson{Login: n.Login, Name: n.Name, Password: n.Password, Role: api.Owner}, n.Workshop, now)
	return &store.Workshop{ID: store.NewID(), Name: n.Workshop, Hardness: n.Hardness,
		Measures: cmp.Or(string(n.Measures), quantity.US.String()), Currency: cmp.Or(n.Currency, "EUR"), TimeZone: n.TimeZone,
		ScaleStepG: 1, ScaleCapacityG: 5000, Version: 1, CreatedAt: now}, owner, err
}

// person is a new one of a workshop that goes by a name.
func (s *Service) person(ctx context.Context, n api.NewPerson, workshop string, now time.Time) (*store.Person, error) {
	if !tenant.Role(n.Role).Known() {
		return nil, problem.Unfit("bad-value", "A role is owner, maker or viewer.").At("role")
	}
	if err := checkLogin(n.Login); err != nil {
		return nil, err
	}
	known := n.Password == DemoPassword && ctx.Value(demoKey{}) != nil
	var hash string
	var err error
	if known {
		hash, err = s.passwords.hash(ctx, n.Password)
	} else {
		hash, err = s.newHash(ctx, n.Password, n.Login, n.Name, workshop)
	}
	if err != nil {
		return nil, err
	}
	return &store.Person{ID: store.NewID(), Login: foldLogin(n.Login), Name: strings.TrimSpace(n.Name),
		PasswordHash: hash, KnownPassword: known, Role: string(n.Role), CreatedAt: now}, nil
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
		people[i] = api.Person{Id: p.ID, Login: plainly(p.Login), Name: plainly(p.Name), Role: api.Role(p.Role)}
	}
	return people, err
}

// AddPerson lets another person in.
func (s *Service) AddPerson(ctx context.Context, n api.NewPerson) (*api.Person, error) {
	if _, err := tenant.Require(ctx, tenant.Owner); err != nil {
		return nil, err
	}
	w, err := s.Store.Read(ctx).Workshop()
	if err != nil {
		return nil, err
	}
	may := ctx
	if w.Demo {
		may = withDemo(ctx)
	}
	p, err := s.person(may, n, w.Name, s.Now())
	if err != nil {
		return nil, err
	}
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		if err := tx.AddPerson(p); err != nil {
			return tenant.Explain(err, "person")
		}
		return errors.Join(tx.Announce("people", p.ID), tenant.Note(ctx, tx, "person-added", p.Name+", "+p.Role, s.Now()))
	})
	return &api.Person{Id: p.ID, Login: plainly(p.Login), Name: plainly(p.Name), Role: n.Role}, err
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
		out = api.Person{Id: p.ID, Login: plainly(p.Login), Name: plainly(p.Name), Role: api.Role(p.Role)}
		return errors.Join(tx.Announce("people", id), tenant.Note(ctx, tx, "role-changed", p.Name+", "+p.Role, s.Now()))
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
		p, err := tx.Person(id)
		if err == nil {
			err = tx.RemovePerson(id, s.Now())
		}
		if err != nil {
			return tenant.Explain(err, "person")
		}
		return errors.Join(tx.Announce("people", id), tenant.Note(ctx, tx, "person-removed", p.Name, s.Now()))
	})
}

// Audit lists what was done that an owner should know, the newest in front.
func (s *Service) Audit(ctx context.Context, before int64, limit int) ([]api.Audit, error) {
	if _, err := tenant.Require(ctx, tenant.Owner); err != nil {
		return nil, err
	}
	rows, err := s.Store.Read(ctx).Audits(before, limit)
	out := make([]api.Audit, len(rows))
	for i, r := range rows {
		out[i] = api.Audit{Id: r.ID, Kind: r.Kind, Person: plainly(r.Person), About: plainly(r.About), Address: r.Address, At: r.At}
	}
	return out, err
}
