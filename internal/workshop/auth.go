package workshop

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"errors"
	"net/http"
	"strings"
	"sync"
	"time"

	"github.com/alexedwards/argon2id"
	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/quantity"
	"keencrock/internal/store"
)

// How long a session lives, and how many failed tries are borne.
const (
	sessionLife      = 30 * 24 * time.Hour
	tryWindow        = 15 * time.Minute
	triesByLogin     = 8
	triesByAddress   = 40
	passwordAtLeast  = 10
	passwordProblems = "A password has at least 10 letters."
)

// argonParams follow the first recommendation of RFC 9106 as far as a small
// machine bears it: 64 MiB, three passes.
var argonParams = &argon2id.Params{Memory: 64 * 1024, Iterations: 3, Parallelism: 2, SaltLength: 16, KeyLength: 32}

// SetupNeeded reports whether the first owner has still to be made.
func (s *Service) SetupNeeded(ctx context.Context) (bool, error) { return s.store.Empty(ctx) }

// MakeFirstOwner makes the first workshop with its owner and signs them in.
func (s *Service) MakeFirstOwner(ctx context.Context, n api.NewWorkshop) (token string, session *api.Session, err error) {
	w, owner, err := s.newWorkshop(n)
	if err != nil {
		return "", nil, err
	}
	err = s.store.CreateFirstWorkshop(ctx, w, owner)
	if errors.Is(err, store.ErrTaken) {
		return "", nil, api.NewProblem(http.StatusConflict, "already-set-up", "There is a workshop already: sign in.")
	}
	if err != nil {
		return "", nil, err
	}
	return s.SignIn(ctx, api.Credentials{Login: n.Login, Password: n.Password}, "")
}

// CreateWorkshop makes a workshop with its owner and returns the owner.
func (s *Service) CreateWorkshop(ctx context.Context, n api.NewWorkshop) (Actor, error) {
	w, owner, err := s.newWorkshop(n)
	if err != nil {
		return Actor{}, err
	}
	if err := s.store.CreateWorkshop(ctx, w, owner); err != nil {
		return Actor{}, said(err, "person")
	}
	return Actor{Workshop: w.ID, Person: owner.ID, Login: owner.Login, Name: owner.Name, Role: Owner}, nil
}

func (s *Service) newWorkshop(n api.NewWorkshop) (*store.Workshop, *store.Person, error) {
	now := s.now()
	currency := n.Currency
	if currency == "" {
		currency = "EUR"
	}
	owner, err := s.person(api.NewPerson{Login: n.Login, Name: n.Name, Password: n.Password, Role: api.Owner}, now)
	return &store.Workshop{ID: store.NewID(), Name: n.Workshop, Measures: quantity.US.String(), Currency: currency,
		ScaleStepG: 1, ScaleCapacityG: 5000, Version: 1, CreatedAt: now}, owner, err
}

func (s *Service) person(n api.NewPerson, now time.Time) (*store.Person, error) {
	if len([]rune(n.Password)) < passwordAtLeast {
		return nil, api.NewProblem(http.StatusUnprocessableEntity, "bad-value", passwordProblems).At("password")
	}
	if rank[Role(n.Role)] == 0 {
		return nil, api.NewProblem(http.StatusUnprocessableEntity, "bad-value", "A role is owner, maker or viewer.").At("role")
	}
	hash, err := argon2id.CreateHash(n.Password, argonParams)
	if err != nil {
		return nil, err
	}
	return &store.Person{ID: store.NewID(), Login: foldLogin(n.Login), Name: strings.TrimSpace(n.Name),
		PasswordHash: hash, Role: string(n.Role), CreatedAt: now}, nil
}

func foldLogin(s string) string { return strings.ToLower(strings.TrimSpace(s)) }

// decoy is compared with when no such person exists, so that the answer takes
// as long.
var decoy = sync.OnceValue(func() string {
	hash, err := argon2id.CreateHash(rand.Text(), argonParams)
	if err != nil {
		panic(err)
	}
	return hash
})

// SignIn checks a password and starts a session. The token is for the
// browser alone; only its hash is kept. The address counts failed tries.
func (s *Service) SignIn(ctx context.Context, c api.Credentials, address string) (token string, session *api.Session, err error) {
	now := s.now()
	login := foldLogin(c.Login)
	byLogin, byAddress, err := s.store.FailedTries(ctx, login, address, now.Add(-tryWindow))
	if err != nil {
		return "", nil, err
	}
	if byLogin >= triesByLogin || byAddress >= triesByAddress {
		return "", nil, api.NewProblem(http.StatusTooManyRequests, "too-many-tries", "Too many wrong tries. Wait a quarter of an hour, then try again.")
	}
	p, err := s.store.PersonByLogin(ctx, login)
	known := err == nil
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return "", nil, err
	}
	hash := decoy()
	if known {
		hash = p.PasswordHash
	}
	match, err := argon2id.ComparePasswordAndHash(c.Password, hash)
	if err != nil {
		return "", nil, err
	}
	if !match || !known {
		err := s.store.RecordFailedTry(ctx, &store.SignInTry{Login: login, Address: address, At: now}, now.Add(-24*time.Hour))
		if err != nil {
			return "", nil, err
		}
		return "", nil, api.NewProblem(http.StatusUnauthorized, "wrong-sign-in", "That name and password do not go together.")
	}
	token = rand.Text() + rand.Text()
	row := &store.Session{TokenHash: tokenHash(token), WorkshopID: p.WorkshopID, PersonID: p.ID,
		CSRFToken: rand.Text(), CreatedAt: now, ExpiresAt: now.Add(sessionLife)}
	if err := s.store.CreateSession(ctx, row); err != nil {
		return "", nil, err
	}
	actor, csrf, err := s.Authenticate(ctx, token)
	if err != nil {
		return "", nil, err
	}
	session, err = s.Session(WithActor(ctx, actor), csrf)
	return token, session, err
}

func tokenHash(token string) []byte {
	sum := sha256.Sum256([]byte(token))
	return sum[:]
}

// Authenticate returns who a session token stands for and the token that
// guards their changes.
func (s *Service) Authenticate(ctx context.Context, token string) (Actor, string, error) {
	in, err := s.store.SessionByToken(ctx, tokenHash(token), s.now())
	if errors.Is(err, store.ErrNotFound) {
		return Actor{}, "", api.NewProblem(http.StatusUnauthorized, "not-signed-in", "Your session has ended: sign in again.")
	}
	if err != nil {
		return Actor{}, "", err
	}
	return Actor{Workshop: in.WorkshopID, Person: in.PersonID, Login: in.Login, Name: in.Name, Role: Role(in.Role)}, in.CSRFToken, nil
}

// SessionLife is how long a browser may keep its cookie.
func SessionLife() time.Duration { return sessionLife }

// Session says who is signed in.
func (s *Service) Session(ctx context.Context, csrf string) (*api.Session, error) {
	a, err := may(ctx, Viewer)
	if err != nil {
		return nil, err
	}
	w, err := s.Workshop(ctx)
	if err != nil {
		return nil, err
	}
	return &api.Session{CsrfToken: csrf, Workshop: *w,
		Person: api.Person{Id: a.Person, Login: a.Login, Name: a.Name, Role: api.Role(a.Role)}}, nil
}

// SignOut ends this session, or all of the person's.
func (s *Service) SignOut(ctx context.Context, token string, everywhere bool) error {
	a, err := may(ctx, Viewer)
	if err != nil {
		return err
	}
	if everywhere {
		return s.store.Read(ctx).EndSessions(a.Person)
	}
	return s.store.EndSession(ctx, tokenHash(token))
}

// People lists who may sign in.
func (s *Service) People(ctx context.Context) ([]api.Person, error) {
	if _, err := may(ctx, Viewer); err != nil {
		return nil, err
	}
	rows, err := s.store.Read(ctx).People()
	people := make([]api.Person, len(rows))
	for i, p := range rows {
		people[i] = api.Person{Id: p.ID, Login: p.Login, Name: p.Name, Role: api.Role(p.Role)}
	}
	return people, err
}

// AddPerson lets another person in.
func (s *Service) AddPerson(ctx context.Context, n api.NewPerson) (*api.Person, error) {
	if _, err := may(ctx, Owner); err != nil {
		return nil, err
	}
	p, err := s.person(n, s.now())
	if err != nil {
		return nil, err
	}
	err = s.store.Tx(ctx, func(tx *store.Tx) error {
		if err := tx.AddPerson(p); err != nil {
			return said(err, "person")
		}
		return tx.Announce("people", p.ID)
	})
	return &api.Person{Id: p.ID, Login: p.Login, Name: p.Name, Role: n.Role}, err
}

// RemovePerson takes a person's access away. Owners cannot remove themselves.
func (s *Service) RemovePerson(ctx context.Context, id uuid.UUID) error {
	a, err := may(ctx, Owner)
	if err != nil {
		return err
	}
	if id == a.Person {
		return api.NewProblem(http.StatusConflict, "not-yourself", "You cannot take your own access away.")
	}
	return s.store.Tx(ctx, func(tx *store.Tx) error {
		if err := tx.RemovePerson(id, s.now()); err != nil {
			return said(err, "person")
		}
		return tx.Announce("people", id)
	})
}
