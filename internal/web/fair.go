package web

import (
	"sync"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/google/uuid"

	"keencrock/internal/problem"
	"keencrock/internal/tenant"
)

// What one person may have under way at once. From memory: a page asks for a dozen
// things when it opens, and two people at a bench share a sign-in.
const (
	requestsEach = 256
	bytesEach    = 16 << 20
	fairRetry    = time.Second
)

// fair keeps one person from taking the whole server: so many requests, with so much
// in them, at a time.
type fair struct {
	mu sync.Mutex
	of map[uuid.UUID]*share
}

type share struct{ requests, bytes int }

func newFair() *fair { return &fair{of: map[uuid.UUID]*share{}} }

func (f *fair) bound(c fiber.Ctx) error {
	a, known := tenant.ActorOf(c.Context())
	if !known || isStream(c.Path()) {
		return c.Next()
	}
	size := len(c.Request().Body())
	if !f.take(a.Person, size) {
		return problem.TooMany(fairRetry, "too-much-at-once", "That is more at once than one person can ask for. Wait a moment, then try again.")
	}
	defer f.give(a.Person, size)
	return c.Next()
}

func (f *fair) take(person uuid.UUID, size int) bool {
	f.mu.Lock()
	defer f.mu.Unlock()
	s := f.of[person]
	if s == nil {
		s = &share{}
		f.of[person] = s
	}
	if s.requests >= requestsEach || s.requests > 0 && s.bytes+size > bytesEach {
		return false
	}
	s.requests++
	s.bytes += size
	return true
}

func (f *fair) give(person uuid.UUID, size int) {
	f.mu.Lock()
	defer f.mu.Unlock()
	s := f.of[person]
	s.requests--
	s.bytes -= size
	if s.requests == 0 {
		delete(f.of, person)
	}
}
