package tenant

import (
	"bytes"
	"context"
	"crypto/sha256"

	"github.com/google/uuid"

	"keencrock/internal/problem"
	"keencrock/internal/store"
)

// Asked is a request that is done once, by the key it came with.
type Asked struct {
	Key     uuid.UUID
	Request [sha256.Size]byte // a hash of all that is asked
}

// Answered is what was answered to it.
type Answered struct {
	Status int
	Media  string
	Body   []byte
}

// Once does a request that is done once, in the transaction of the context it hands on.
// Where it was done before, it is not done again, and what was answered comes back. The
// key of another request is refused.
func (h *House) Once(ctx context.Context, in Asked, do func(context.Context) (Answered, error)) (before *Answered, err error) {
	if _, err := Require(ctx, Viewer); err != nil {
		return nil, err
	}
	r, err := h.Store.Once(ctx, store.DoneRequest{Key: in.Key, Request: in.Request[:], At: h.Now()}, func(ctx context.Context) (*store.DoneRequest, error) {
		a, err := do(ctx)
		return &store.DoneRequest{Status: a.Status, Media: a.Media, Answer: a.Body}, err
	})
	switch {
	case err != nil || r == nil:
		return nil, err
	case !bytes.Equal(r.Request, in.Request[:]):
		return nil, problem.Unfit("key-of-another", "The key was used for something else: make a new one.").At("Idempotency-Key")
	case r.Status == 0: // as an earlier version left it
		return nil, problem.Clash("done-already", "This was done already. Load the page again to see it.")
	}
	return &Answered{r.Status, r.Media, r.Answer}, nil
}
