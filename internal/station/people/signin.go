package people

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"errors"
	"time"

	"keencrock/api"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
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

// SignIn checks a password and starts a session. The token is for the
// browser alone; only its hash is kept. A try is counted before it is judged,
// so that many at once are no way round the count.
func (s *Service) SignIn(ctx context.Context, c api.Credentials, address string) (token string, session *api.Session, err error) {
	now := s.Now()
	p, err := s.try(ctx, c, address)
	if errors.Is(err, errWrong) {
		return "", nil, problem.SignedOut("wrong-sign-in", "That name and password do not go together.")
	}
	if err != nil {
		return "", nil, err
	}
	token = rand.Text() + rand.Text()
	row := &store.Session{TokenHash: tokenHash(token), WorkshopID: p.WorkshopID, PersonID: p.ID,
		CSRFToken: rand.Text(), CreatedAt: now, ExpiresAt: now.Add(sessionLife)}
	if err := s.Store.CreateSession(ctx, row); err != nil {
		return "", nil, err
	}
	actor, csrf, err := s.Authenticate(ctx, token)
	if err != nil {
		return "", nil, err
	}
	session, err = s.Session(tenant.WithActor(ctx, actor), csrf)
	return token, session, err
}

// try judges a name and password, and counts the try where they are wrong.
func (s *Service) try(ctx context.Context, c api.Credentials, address string) (*store.Person, error) {
	try := &store.SignInTry{Login: foldLogin(c.Login), Address: address, At: s.Now()}
	wait, err := s.Store.BeginTry(ctx, try, tryLimits)
	if err != nil {
		return nil, err
	}
	if wait > 0 {
		return nil, problem.TooMany(wait, "too-many-tries", "Too many wrong tries one after the other. Wait a few seconds, then try again.")
	}
	p, err := s.judge(ctx, try.Login, c.Password)
	if !errors.Is(err, errWrong) { // right, or never judged
		err = errors.Join(err, s.Store.ForgetTry(context.WithoutCancel(ctx), try))
	}
	return p, err
}

// errWrong is a name and a password that do not go together.
var errWrong = errors.New("wrong name or password")

// judge returns the person of a name and password, or errWrong.
func (s *Service) judge(ctx context.Context, login, password string) (*store.Person, error) {
	p, err := s.Store.PersonByLogin(ctx, login)
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
func (s *Service) Authenticate(ctx context.Context, token string) (tenant.Actor, string, error) {
	in, err := s.Store.SessionByToken(ctx, tokenHash(token), s.Now())
	if errors.Is(err, store.ErrNotFound) {
		return tenant.Actor{}, "", problem.SignedOut("not-signed-in", "Your session has ended: sign in again.")
	}
	if err != nil {
		return tenant.Actor{}, "", err
	}
	return tenant.Actor{Workshop: in.WorkshopID, Person: in.PersonID, Login: in.Login, Name: in.Name, Role: tenant.Role(in.Role)}, in.CSRFToken, nil
}

// SessionLife is how long a browser may keep its cookie.
func SessionLife() time.Duration { return sessionLife }

// Session says who is signed in.
func (s *Service) Session(ctx context.Context, csrf string) (*api.Session, error) {
	a, err := tenant.Require(ctx, tenant.Viewer)
	if err != nil {
		return nil, err
	}
	w, err := s.Store.Read(ctx).Workshop()
	if err != nil {
		return nil, err
	}
	return &api.Session{CsrfToken: csrf, Workshop: *tenant.WorkshopOf(w),
		Person: api.Person{Id: a.Person, Login: a.Login, Name: a.Name, Role: api.Role(a.Role)}}, nil
}

// SignOut ends this session, or all of the person's.
func (s *Service) SignOut(ctx context.Context, token string, everywhere bool) error {
	a, err := tenant.Require(ctx, tenant.Viewer)
	if err != nil {
		return err
	}
	if everywhere {
		return s.Store.Read(ctx).EndSessions(a.Person)
	}
	return s.Store.EndSession(ctx, tokenHash(token))
}
