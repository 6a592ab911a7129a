package tenant

import (
	"bytes"
	"context"
	"crypto/sha256"
	"errors"

	"github.com/google/uuid"

	"keencrock/api"
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

// doneAlready is for who asks while the first answer is still on its way.
func doneAlready() *api.Problem {
	return problem.Clash("done-already", "This was done already. Load the page again to see it.")
}

// Before returns what was answered to a request when it was done, nil when it
// was not. The key of another request is refused.
func (h *House) Before(ctx context.Context, in Asked) (*Answered, error) {
	if _, err := Require(ctx, Viewer); err != nil {
		return nil, err
	}
	r, err := h.Store.Read(ctx).DoneRequest(in.Key)
	if errors.Is(err, store.ErrNotFound) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	if !bytes.Equal(r.Request, in.Request[:]) {
		return nil, problem.Unfit("key-of-another", "The key was used for something else: make a new one.").At("Idempotency-Key")
	}
	if r.Status == 0 {
		return nil, doneAlready()
	}
	return &Answered{r.Status, r.Media, r.Answer}, nil
}

// Once returns a context in which a request is done once.
func (h *House) Once(ctx context.Context, in Asked) context.Context {
	return store.WithKey(ctx, store.DoneRequest{Key: in.Key, Request: in.Request[:], At: h.Now()})
}

// KeepAnswer keeps what was answered to a request.
func (h *House) KeepAnswer(ctx context.Context, in Asked, a Answered) error {
	return h.Store.Read(ctx).KeepAnswer(&store.DoneRequest{Key: in.Key, Status: a.Status, Media: a.Media, Answer: a.Body})
}
