package people

import (
	"context"
	"crypto/rand"
	"errors"
	"strings"
	"time"

	"github.com/pquerna/otp"
	"github.com/pquerna/otp/hotp"
	"github.com/pquerna/otp/totp"

	"keencrock/api"
	"keencrock/internal/exchange/paper"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// A second factor as every program for it knows: RFC 6238 with SHA-1, six digits, a
// new code each 30 s. A code of the step before or after is taken too, since clocks
// differ; one that served is not taken again.
const (
	factorStep   = 30 * time.Second
	factorDrift  = 1
	recoveryMany = 10
)

// codeLimits slow the guessing of codes down for who knows a password already, wherever
// they come from: after eight wrong ones in a day, one a minute. Each has three chances in a
// million, so that a day of them finds a right one once in two hundred. Recovery codes
// cannot be guessed, and are judged at once.
var codeLimits = store.TryLimits{Window: 24 * time.Hour, Free: 8, Pace: time.Minute}

// anywhere stands for the address where tries are counted wherever they come from.
const anywhere = "second factor"

var factorOptions = hotp.ValidateOpts{Digits: otp.DigitsSix, Algorithm: otp.AlgorithmSHA1}

// proven returns the person who asks, once they have shown that they know their
// password.
func (s *Service) proven(ctx context.Context, password string) (*store.Person, error) {
	a, err := tenant.Require(ctx, tenant.Viewer)
	if err != nil {
		return nil, err
	}
	p, err := s.try(ctx, api.Credentials{Login: a.Login, Password: password}, false)
	if errors.Is(err, errWrong) {
		return nil, problem.Unfit("wrong-password", "That is not your password: type the one you signed in with.")
	}
	return p, err
}

// BeginFactor makes the secret of a second factor. It counts for nothing before a code
// of it was right.
func (s *Service) BeginFactor(ctx context.Context, in api.PasswordProof) (*api.Factor, error) {
	p, err := s.proven(ctx, in.Password)
	if err != nil {
		return nil, at(err, "password")
	}
	if p.TOTPOn {
		return nil, problem.Clash("has-factor", "You have a second factor already: end that one first.")
	}
	key, err := totp.Generate(totp.GenerateOpts{Issuer: "Keen Crock", AccountName: p.Login})
	if err != nil {
		return nil, err
	}
	p.TOTPSecret, p.TOTPOn, p.TOTPStep = key.Secret(), false, 0
	if err := s.Store.Tx(ctx, func(tx *store.Tx) error { return tx.SaveFactor(p) }); err != nil {
		return nil, err
	}
	return &api.Factor{Secret: key.Secret(), Address: key.URL(), Picture: string(paper.CodeSVG("Code for a second factor", key.URL()))}, nil
}

// at says which field a problem is about.
func at(err error, field string) error {
	var p *api.Problem
	if errors.As(err, &p) && p.Code == "wrong-password" {
		return p.At(field)
	}
	return err
}

// ConfirmFactor switches a second factor on by a first code of it, and returns codes
// for who loses it.
func (s *Service) ConfirmFactor(ctx context.Context, in api.FactorCode) (*api.RecoveryCodes, error) {
	a, err := tenant.Require(ctx, tenant.Viewer)
	if err != nil {
		return nil, err
	}
	codes := make([]string, recoveryMany)
	hashes := make([][]byte, recoveryMany)
	for i := range codes {
		codes[i] = newRecoveryCode()
		hashes[i] = tenant.TokenHash(foldCode(codes[i]))
	}
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		p, err := tx.Person(a.Person)
		if err != nil {
			return err
		}
		if p.TOTPSecret == "" || p.TOTPOn {
			return problem.Clash("no-factor-begun", "Begin with a new secret first.")
		}
		step, ok := s.stepOf(in.Code, p.TOTPSecret)
		if !ok {
			return problem.Unfit("wrong-code", "That code is not right: look whether the clock of the phone is.").At("code")
		}
		p.TOTPOn, p.TOTPStep = true, step
		return errors.Join(tx.SaveFactor(p), tx.SaveRecoveryCodes(p.ID, hashes), tenant.Note(ctx, tx, "second-factor-on", "", s.Now()))
	})
	if err != nil {
		return nil, err
	}
	return &api.RecoveryCodes{Codes: codes}, nil
}

// EndFactor goes without a second factor again.
func (s *Service) EndFactor(ctx context.Context, in api.PasswordProof) error {
	p, err := s.proven(ctx, in.Password)
	if err != nil {
		return at(err, "password")
	}
	return s.Store.Tx(ctx, func(tx *store.Tx) error { return s.dropFactor(ctx, tx, p) })
}

func (s *Service) dropFactor(ctx context.Context, tx *store.Tx, p *store.Person) error {
	p.TOTPSecret, p.TOTPOn, p.TOTPStep = "", false, 0
	return errors.Join(tx.SaveFactor(p), tx.SaveRecoveryCodes(p.ID, nil), tenant.Note(ctx, tx, "second-factor-off", p.Name, s.Now()))
}

// stepOf is the time step a code is of.
func (s *Service) stepOf(code, secret string) (step int64, ok bool) {
	now := s.Now().Unix() / int64(factorStep.Seconds())
	for step := now - factorDrift; step <= now+factorDrift; step++ {
		if ok, err := hotp.ValidateCustom(strings.TrimSpace(code), uint64(step), secret, factorOptions); err == nil && ok {
			return step, true
		}
	}
	return 0, false
}

// tryCode judges a code, and counts it where it is a guess.
func (s *Service) tryCode(ctx context.Context, p *store.Person, code string) error {
	if !looksLikeCode(code) {
		return s.judgeCode(ctx, p, code)
	}
	try := &store.SignInTry{Login: foldLogin(p.Login), Address: anywhere, At: s.Now()}
	wait, err := s.Store.BeginTry(ctx, try, codeLimits)
	if err != nil {
		return err
	}
	if wait > 0 {
		return problem.TooMany(wait, "too-many-codes", "Too many wrong codes one after the other. Wait a minute, or use one of your recovery codes; and change your password, since someone may know it.")
	}
	err = s.judgeCode(ctx, p, code)
	if !errors.Is(err, errWrongCode) {
		err = errors.Join(err, s.Store.ForgetTry(context.WithoutCancel(ctx), try))
	}
	return err
}

// looksLikeCode reports whether a code is one of a second factor, right or wrong, and no
// recovery code.
func looksLikeCode(code string) bool {
	code = strings.ReplaceAll(strings.TrimSpace(code), " ", "")
	return len(code) == int(factorOptions.Digits) && strings.Trim(code, "0123456789") == ""
}

// judgeCode uses up a code of a person's second factor, or one of their recovery
// codes; errWrongCode when it is neither.
func (s *Service) judgeCode(ctx context.Context, p *store.Person, code string) error {
	if strings.TrimSpace(code) == "" {
		return errNoCode
	}
	return s.Store.Tx(store.Always(store.WithWorkshop(ctx, p.WorkshopID)), func(tx *store.Tx) error {
		used := false
		var err error
		if step, ok := s.stepOf(strings.ReplaceAll(code, " ", ""), p.TOTPSecret); ok {
			used, err = tx.UseStep(p.ID, step)
		} else {
			used, err = tx.UseRecoveryCode(p.ID, tenant.TokenHash(foldCode(code)))
		}
		if err == nil && !used {
			err = errWrongCode
		}
		return err
	})
}

// newRecoveryCode is 80 random bits in four groups.
func newRecoveryCode() string {
	t := strings.ToLower(rand.Text())
	return t[:4] + "-" + t[4:8] + "-" + t[8:12] + "-" + t[12:16]
}

func foldCode(code string) string {
	return strings.ToLower(strings.NewReplacer("-", "", " ", "").Replace(code))
}
