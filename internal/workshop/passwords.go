package workshop

import (
	"context"
	"crypto/rand"
	"net/http"
	"runtime"
	"sync"
	"time"

	"github.com/alexedwards/argon2id"

	"keencrock/api"
)

// argonParams follow the first recommendation of RFC 9106 as far as a small
// machine bears it: 64 MiB, three passes.
var argonParams = &argon2id.Params{Memory: 64 * 1024, Iterations: 3, Parallelism: 2, SaltLength: 16, KeyLength: 32}

// passwords checks and hashes passwords, a few at a time: each takes 64 MiB and
// all of two cores for a moment. Who comes when many wait already is sent away
// to try again, rather than taking the memory of the whole machine.
type passwords struct {
	working chan struct{}

	mu      sync.Mutex
	waiting map[string]int // by login
	all     int
}

// How many may wait for their turn, in all and by one name. From memory: at
// about a tenth of a second each, nobody waits much longer than a second.
const (
	mayWait        = 12
	mayWaitByLogin = 4
	busyRetryS     = 2
)

func newPasswords() *passwords {
	return &passwords{working: make(chan struct{}, max(1, runtime.NumCPU()/2)), waiting: map[string]int{}}
}

// turn waits for a turn; the error is a problem to try again, or the context's.
func (p *passwords) turn(ctx context.Context, login string) (done func(), err error) {
	p.mu.Lock()
	if p.all >= mayWait || p.waiting[login] >= mayWaitByLogin {
		p.mu.Unlock()
		return nil, tryAgain(busyRetryS*time.Second, "Many sign in at this moment. Wait a few seconds, then try again.")
	}
	p.all++
	p.waiting[login]++
	p.mu.Unlock()
	defer func() {
		p.mu.Lock()
		defer p.mu.Unlock()
		p.all--
		if p.waiting[login]--; p.waiting[login] == 0 {
			delete(p.waiting, login)
		}
	}()
	select {
	case p.working <- struct{}{}:
		return func() { <-p.working }, nil
	case <-ctx.Done():
		return nil, ctx.Err()
	}
}

// tryAgain is the problem of who has to wait.
func tryAgain(after time.Duration, detail string) *api.Problem {
	p := api.NewProblem(http.StatusTooManyRequests, "too-many-tries", "%s", detail)
	p.RetryAfterS = max(1, int((after+time.Second-1)/time.Second))
	return p
}

// hash makes the hash of a new password.
func (p *passwords) hash(ctx context.Context, login, password string) (string, error) {
	done, err := p.turn(ctx, login)
	if err != nil {
		return "", err
	}
	defer done()
	return argon2id.CreateHash(password, argonParams)
}

// match compares a password with a hash; an empty hash, where there is no such
// person, takes as long and matches nothing.
func (p *passwords) match(ctx context.Context, login, password, hash string) (bool, error) {
	done, err := p.turn(ctx, login)
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

var decoy = sync.OnceValue(func() string {
	hash, err := argon2id.CreateHash(rand.Text(), argonParams)
	if err != nil {
		panic(err)
	}
	return hash
})
