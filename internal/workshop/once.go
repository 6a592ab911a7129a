package workshop

import (
	"bytes"
	"context"
	"crypto/sha256"
	"errors"
	"net/http"

	"github.com/google/uuid"

	"keencrock/api"
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

// errDone is for who asks while the first answer is still on its way.
func errDone() *api.Problem {
	return api.NewProblem(http.StatusConflict, "done-already", "This was done already. Load the page again to see it.")
}

// Before returns what was answered to a request when it was done, nil when it
// was not. The key of another request is refused.
func (s *Service) Before(ctx context.Context, in Asked) (*Answered, error) {
	if _, err := may(ctx, Viewer); err != nil {
		return nil, err
	}
	r, err := s.store.Read(ctx).DoneRequest(in.Key)
	if errors.Is(err, store.ErrNotFound) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	if !bytes.Equal(r.Request, in.Request[:]) {
		return nil, api.NewProblem(http.StatusUnprocessableEntity, "key-of-another", "The key was used for something else: make a new one.").At("Idempotency-Key")
	}
	if r.Status == 0 {
		return nil, errDone()
	}
	return &Answered{r.Status, r.Media, r.Answer}, nil
}

// Once returns a context in which a request is done once.
func (s *Service) Once(ctx context.Context, in Asked) context.Context {
	return store.WithKey(ctx, store.DoneRequest{Key: in.Key, Request: in.Request[:], At: s.now()})
}

// KeepAnswer keeps what was answered to a request.
func (s *Service) KeepAnswer(ctx context.Context, in Asked, a Answered) error {
	return s.store.Read(ctx).KeepAnswer(&store.DoneRequest{Key: in.Key, Status: a.Status, Media: a.Media, Answer: a.Body})
}
