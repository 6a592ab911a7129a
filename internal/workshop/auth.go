package workshop

import (
	"cmp"
	"context"
	"crypto/rand"
	"crypto/sha256"
	"errors"
	"net/http"
	"strings"
	"time"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/quantity"
	"keencrock/internal/store"
)

// tryLimits slow guessing down without locking anyone out: after eight wrong
// tries of a name from one address, one in two seconds is judged, right or
// wrong. Other names, and the same name from elsewhere, are not slowed by it.
var tryLimits = store.TryLimits{Window: 15 * time.Minute, Free: 8, Pace: 2 * time.Second}

// How long a session lives, and what a password has to be.
const (
	sessionLife      = 30 * 24 * time.Hour
	passwordAtLeast  = 10
	passwordProblems = "A password has at least 10 letters."
)

// SetupNeeded reports whether the first owner has still to be made.
func (s *Service) SetupNeeded(ctx context.Context) (bool, error) { return s.store.Empty(ctx) }

// MakeFirstOwner makes the first workshop with its owner and signs them in.
func (s *Service) MakeFirstOwner(ctx context.Context, n api.NewWorkshop) (token string, session *api.Session, err error) {
	w, owner, err := s.newWorkshop(ctx, n)
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
	w, owner, err := s.newWorkshop(ctx, n)
	if err != nil {
		return Actor{}, err
	}
	if err := s.store.CreateWorkshop(ctx, w, owner); err != nil {
		return Actor{}, said(err, "person")
	}
	return Actor{Workshop: w.ID, Person: owner.ID, Login: owner.Login, Name: owner.Name, Role: Owner}, nil
}

func (s *Service) newWorkshop(ctx context.Context, n api.NewWorkshop) (*store.Workshop, *store.Person, error) {
	now := s.now()
	if err := checkHardness(n.Hardness); err != nil {
		return nil, nil, err
	}
	owner, err := s.person(ctx, api.NewPerson{Login: n.Login, Name: n.Name, Password: n.Password, Role: api.Owner}, now)
	return &store.Workshop{ID: store.NewID(), Name: n.Workshop, Hardness: n.Hardness,
		Measures: cmp.Or(string(n.Measures), quantity.US.String()), Currency: cmp.Or(n.Currency, "EUR"),
		ScaleStepG: 1, ScaleCapacityG: 5000, Version: 1, CreatedAt: now}, owner, err
}

func (s *Service) person(ctx context.Context, n api.NewPerson, now time.Time) (*store.Person, error) {
	if rank[Role(n.Role)] == 0 {
		return nil, api.NewProblem(http.StatusUnprocessableEntity, "bad-value", "A role is owner, maker or viewer.").At("role")
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
		return "", api.NewProblem(http.StatusUnprocessableEntity, "bad-value", passwordProblems).At("password")
	}
	return s.passwords.hash(ctx, foldLogin(login), password)
}

func foldLogin(s string) string { return strings.ToLower(strings.TrimSpace(s)) }

// SignIn checks a password and starts a session. The token is for the
// browser alone; only its hash is kept. A try is counted before it is judged,
// so that many at once are no way round the count.
func (s *Service) SignIn(ctx context.Context, c api.Credentials, address string) (token string, session *api.Session, err error) {
	now := s.now()
	p, err := s.try(ctx, c, address)
	if errors.Is(err, errWrong) {
		return "", nil, api.NewProblem(http.StatusUnauthorized, "wrong-sign-in", "That name and password do not go together.")
	}
	if err != nil {
		return "", nil, err
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

// try judges a name and password, and counts the try where they are wrong.
func (s *Service) try(ctx context.Context, c api.Credentials, address string) (*store.Person, error) {
	try := &store.SignInTry{Login: foldLogin(c.Login), Address: address, At: s.now()}
	wait, err := s.store.BeginTry(ctx, try, tryLimits)
	if err != nil {
		return nil, err
	}
	if wait > 0 {
		return nil, tryAgain(wait, "Too many wrong tries one after the other. Wait a few seconds, then try again.")
	}
	p, err := s.judge(ctx, try.Login, c.Password)
	if !errors.Is(err, errWrong) { // right, or never judged
		err = errors.Join(err, s.store.ForgetTry(context.WithoutCancel(ctx), try))
	}
	return p, err
}

// errWrong is a name and a password that do not go together.
var errWrong = errors.New("wrong name or password")

// judge returns the person of a name and password, or errWrong.
func (s *Service) judge(ctx context.Context, login, password string) (*store.Person, error) {
	p, err := s.store.PersonByLogin(ctx, login)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return nil, err
	}
	hash := ""
	if err == nil {
		hash = p.PasswordHash
	}
	match, err := s.passwords.match(ctx, login, password, hash)
	if err != nil {
		return nil, err
	}
	if !match {
		return nil, errWrong
	}
	return p, nil
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
	p, err := s.person(ctx, n, s.now())
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

// ChangePassword gives a person another password, for the one they have, and ends
// every session of theirs but the one of the token.
func (s *Service) ChangePassword(ctx context.Context, in api.PasswordChange, token, address string) error {
	a, err := may(ctx, Viewer)
	if err != nil {
		return err
	}
	p, err := s.try(ctx, api.Credentials{Login: a.Login, Password: in.Current}, address)
	if errors.Is(err, errWrong) {
		return api.NewProblem(http.StatusUnprocessableEntity, "wrong-password", "That is not your password: type the one you signed in with.").At("current")
	}
	if err != nil {
		return err
	}
	if p.PasswordHash, err = s.newHash(ctx, a.Login, in.Password); err != nil {
		return err
	}
	return s.store.Tx(ctx, func(tx *store.Tx) error { return tx.SavePassword(p, tokenHash(token)) })
}

// ResetPassword gives whoever signs in by a name a password nobody has seen, and
// ends all their sessions: for who runs the server, when it was forgotten.
func (s *Service) ResetPassword(ctx context.Context, login string) (password string, err error) {
	p, err := s.store.PersonByLogin(ctx, foldLogin(login))
	if err != nil {
		return "", said(err, "person")
	}
	password = strings.ToLower(rand.Text()[:16])
	if p.PasswordHash, err = s.newHash(ctx, p.Login, password); err != nil {
		return "", err
	}
	return password, s.store.Tx(store.WithWorkshop(ctx, p.WorkshopID), func(tx *store.Tx) error { return tx.SavePassword(p, nil) })
}

// ChangeRole gives a person another role, from their next step on. Owners keep
// their own, so that there is always one.
func (s *Service) ChangeRole(ctx context.Context, id uuid.UUID, role Role) (*api.Person, error) {
	a, err := may(ctx, Owner)
	if err != nil {
		return nil, err
	}
	if id == a.Person {
		return nil, api.NewProblem(http.StatusConflict, "not-yourself", "You cannot change your own role: another owner has to.")
	}
	var out api.Person
	err = s.store.Tx(ctx, func(tx *store.Tx) error {
		p, err := tx.Person(id)
		if err != nil {
			return said(err, "person")
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
