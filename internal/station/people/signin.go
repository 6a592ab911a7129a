package people

import (
	"context"
	"crypto/rand"
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

// DemoPassword signs in to the demo. It is no secret, and so works only on the machine
// Keen Crock runs on, and for nothing but the demo.
const DemoPassword = "lockside-demo"

// SignIn checks a password, and a second factor where there is one, and starts a
// session, of whose token only the hash is kept. A try is counted
// before it is judged, so that many at once are no way round the count.
func (s *Service) SignIn(ctx context.Context, c api.Credentials) (*Entry, error) {
	from := tenant.CallerOf(ctx)
	leave, err := s.gate.enter(asker{address: from.Address, known: from.Before != ""})
	if err != nil {
		return nil, err
	}
	defer leave()
	p, err := s.try(ctx, c, true)
	switch {
	case errors.Is(err, errWrong):
		return nil, errors.Join(problem.SignedOut("wrong-sign-in", "That name and password do not go together."), s.noteRefused(ctx, c.Login))
	case errors.Is(err, errWrongCode):
		return nil, errors.Join(problem.SignedOut("wrong-code", "That code is not right, or was used before: wait for the next one.").At("code"), s.noteRefused(ctx, c.Login))
	case errors.Is(err, errNoCode):
		return nil, problem.SignedOut("second-factor", "Type the code of your second factor too, or one of your recovery codes.").At("code")
	case err != nil:
		return nil, err
	}
	known := c.Password == DemoPassword
	if known && !tenant.CallerOf(ctx).Local {
		return nil, problem.Denied("public-password", "The password of the demo is public, and works only on the machine Keen Crock runs on. Sign in there and change it under Settings.")
	}
	return s.enter(ctx, p, known, "signed-in")
}

// Entry is a session that was begun, with what is for the browser alone to keep.
type Entry struct {
	Session *api.Session
	Token   string
	Before  string // for the next time it signs in
}

// enter begins a session of a person whose password was right, together with what comes
// before it.
func (s *Service) enter(ctx context.Context, p *store.Person, known bool, noted string, first ...func(*store.Tx) error) (*Entry, error) {
	now, from := s.Now(), tenant.CallerOf(ctx)
	token := rand.Text() + rand.Text()
	row := &store.Session{TokenHash: tenant.TokenHash(token), WorkshopID: p.WorkshopID, PersonID: p.ID, CSRFToken: rand.Text(),
		CreatedAt: now, LastSeenAt: now, ExpiresAt: now.Add(sessionLife), Address: from.Address, Agent: shortened(from.Agent), KnownPassword: known}
	in := tenant.WithActor(store.Always(ctx), tenant.Actor{Workshop: p.WorkshopID, Person: p.ID})
	err := s.Store.Tx(in, func(tx *store.Tx) error {
		for _, f := range first {
			if err := f(tx); err != nil {
				return err
			}
		}
		if err := tx.CreateSession(row); err != nil {
			return err
		}
		return tenant.Note(in, tx, noted, "", now)
	})
	if err != nil {
		return nil, err
	}
	actor, csrf, err := s.Authenticate(ctx, token)
	if err != nil {
		return nil, err
	}
	session, err := s.Session(tenant.WithActor(ctx, actor), csrf)
	return &Entry{Session: session, Token: token, Before: before(p.PasswordHash)}, err
}

// shortened is as much of what a browser calls itself as is worth keeping.
func shortened(agent string) string {
	const enough = 200
	if r := []rune(agent); len(r) > enough {
		agent = string(r[:enough])
	}
	return agent
}

// noteRefused keeps for the owner that someone could not sign in by a name.
func (s *Service) noteRefused(ctx context.Context, login string) error {
	p, err := s.Store.PersonByLogin(ctx, foldLogin(login))
	if errors.Is(err, store.ErrNotFound) {
		return nil // nobody's
	}
	if err != nil {
		return err
	}
	return s.Store.Tx(store.Always(store.WithWorkshop(ctx, p.WorkshopID)), func(tx *store.Tx) error {
		return tenant.Note(ctx, tx, "sign-in-refused", p.Name, s.Now())
	})
}

// try judges a name and password, and a code where the person has a second factor and
// it is asked for, and counts the try where they are wrong.
func (s *Service) try(ctx context.Context, c api.Credentials, withCode bool) (*store.Person, error) {
	try := &store.SignInTry{Login: foldLogin(c.Login), Address: tenant.CallerOf(ctx).Address, At: s.Now()}
	wait, err := s.Store.BeginTry(ctx, try, tryLimits)
	if err != nil {
		return nil, err
	}
	if wait > 0 {
		return nil, problem.TooMany(wait, "too-many-tries", "Too many wrong tries one after the other. Wait a few seconds, then try again.")
	}
	p, err := s.judge(ctx, try.Login, c.Password)
	if err == nil && withCode && p.TOTPOn {
		err = s.tryCode(ctx, p, c.Code)
	}
	if !errors.Is(err, errWrong) && !errors.Is(err, errWrongCode) { // right, or never judged
		err = errors.Join(err, s.Store.ForgetTry(context.WithoutCancel(ctx), try))
	}
	return p, err
}

// What is wrong with a try.
var (
	errWrong     = errors.New("wrong name or password")
	errWrongCode = errors.New("wrong code")
	errNoCode    = errors.New("a code is needed")
)

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
