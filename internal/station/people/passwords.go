package people

import (
	"context"
	"crypto/hmac"
	"crypto/rand"
	"crypto/sha256"
	"encoding/base64"
	"errors"
	"runtime"
	"slices"
	"strings"
	"sync"
	"unicode"

	"github.com/alexedwards/argon2id"
	"github.com/trustelem/zxcvbn"

	"keencrock/api"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// PasswordCost is how much work a new password takes, and each check of it from then on:
// what checks one reads it from its hash. It follows the first recommendation of RFC 9106
// as far as a small machine bears it: 64 MiB, three passes.
var PasswordCost = &argon2id.Params{Memory: 64 * 1024, Iterations: 3, Parallelism: 2, SaltLength: 16, KeyLength: 32}

// passwords checks and hashes passwords, a few at a time: each takes 64 MiB and
// all of two cores for a moment. Who comes when many wait already is sent away
// to try again, rather than taking the memory of the whole machine.
type passwords struct{ *queue }

func newPasswords() *passwords { return &passwords{newQueue(max(1, runtime.NumCPU()/2))} }

// hash makes the hash of a new password.
func (p *passwords) hash(ctx context.Context, password string) (string, error) {
	// new ones are made by who is in already, or begins
	done, err := p.wait(ctx, asker{address: tenant.CallerOf(ctx).Address, known: true})
	if err != nil {
		return "", err
	}
	defer done()
	return argon2id.CreateHash(password, PasswordCost)
}

// match compares a password with a hash; an empty hash, where there is no such
// person, takes as long and matches nothing.
func (p *passwords) match(ctx context.Context, login, password, hash string) (bool, error) {
	from := tenant.CallerOf(ctx)
	done, err := p.wait(ctx, asker{from.Address, login, wasHere(from.Before, hash)})
	if err != nil {
		return false, err
	}
	defer done()
	known := hash != ""
	if !known {
		hash = decoy()
	}
	match, err := argon2id.ComparePasswordAndHash(password, hash)
	return match && known, err
}

// before is what a browser keeps of having been signed in with a password: it opens
// nothing, and goes first where many wait. It tells nothing of the hash it is made of,
// which is long and secret, and is another with another password.
func before(hash string) string {
	m := hmac.New(sha256.New, []byte(hash))
	m.Write([]byte("this browser was here"))
	return base64.RawURLEncoding.EncodeToString(m.Sum(nil))
}

func wasHere(kept, hash string) bool {
	return hash != "" && kept != "" && hmac.Equal([]byte(kept), []byte(before(hash)))
}

var decoy = sync.OnceValue(func() string {
	hash, err := argon2id.CreateHash(rand.Text(), PasswordCost)
	if err != nil {
		panic(err)
	}
	return hash
})

// ChangePassword gives a person another password, for the one they have. Every session
// of theirs ends; a new one begins.
func (s *Service) ChangePassword(ctx context.Context, in api.PasswordChange) (*Entry, error) {
	p, err := s.proven(ctx, in.Current)
	if err != nil {
		return nil, at(err, "current")
	}
	w, err := s.Store.Read(ctx).Workshop()
	if err != nil {
		return nil, err
	}
	if p.PasswordHash, err = s.newHash(ctx, in.Password, p.Login, p.Name, w.Name); err != nil {
		return nil, err
	}
	return s.enter(ctx, p, false, "password-changed", func(tx *store.Tx) error { return tx.SavePassword(p) })
}

// ResetPassword gives whoever signs in by a name a password nobody has seen, and
// ends all their sessions: for who runs the server, when it was forgotten. A second
// factor that was lost is dropped when that is said.
func (s *Service) ResetPassword(ctx context.Context, login string, dropFactor bool) (password string, err error) {
	p, err := s.Store.PersonByLogin(ctx, foldLogin(login))
	if err != nil {
		return "", tenant.Explain(err, "person")
	}
	password = NewPassword()
	if p.PasswordHash, err = s.newHash(ctx, password); err != nil {
		return "", err
	}
	ctx = store.WithWorkshop(ctx, p.WorkshopID)
	return password, s.Store.Tx(ctx, func(tx *store.Tx) error {
		if dropFactor {
			if err := s.dropFactor(ctx, tx, p); err != nil {
				return err
			}
		}
		return errors.Join(tx.SavePassword(p), tenant.Note(ctx, tx, "password-reset", p.Name, s.Now()))
	})
}

// NewPassword is a password nobody has seen, of 80 random bits.
func NewPassword() string { return strings.ToLower(rand.Text()[:16]) }

// What a password has to be: so long, and not among the first ten million that are
// tried of whoever knows the names of the person (NIST SP 800-63B 5.1.1.2).
const (
	passwordAtLeast = 10
	leastScore      = 2
)

// newHash is the hash of a password that may be one of who goes by some names.
func (s *Service) newHash(ctx context.Context, password string, names ...string) (string, error) {
	if len([]rune(password)) < passwordAtLeast {
		return "", problem.Unfit("bad-value", "A password has at least %d letters.", passwordAtLeast).At("password")
	}
	if isOfNames(password, append(names, DemoPassword, "Keen Crock")) || zxcvbn.PasswordStrength(firstOf(password), names).Score < leastScore {
		return "", problem.Unfit("common-password", "That password is among the first that are tried. Take three or four words that do not belong together.").At("password")
	}
	return s.passwords.hash(ctx, password)
}

// leastOwn is how many letters a password has beside those of names anybody may know.
const leastOwn = 5

// isOfNames reports whether a password is made of the words of some names, with little
// beside them but figures and signs, which are tried with each of them.
func isOfNames(password string, names []string) bool {
	left := lettersOf(password)
	var words []string
	for _, name := range names {
		words = append(words, lettersOf(name))
		for _, word := range strings.FieldsFunc(name, func(r rune) bool { return !unicode.IsLetter(r) }) {
			if len([]rune(word)) > 2 {
				words = append(words, lettersOf(word))
			}
		}
	}
	slices.SortFunc(words, func(a, b string) int { return len(b) - len(a) })
	found := false
	for _, word := range words {
		if word != "" && strings.Contains(left, word) {
			left, found = strings.ReplaceAll(left, word, ""), true
		}
	}
	return found && len([]rune(left)) < leastOwn
}

// lettersOf are the letters of a text, small.
func lettersOf(s string) string {
	return strings.ToLower(strings.Map(func(r rune) rune {
		if unicode.IsLetter(r) {
			return r
		}
		return -1
	}, s))
}

// firstOf is as much of a password as its strength is judged by.
func firstOf(password string) string { return password[:min(len(password), 72)] }
