package solution

import (
	"context"
	"sync/atomic"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestAPanicInAWorkerIsAnError(t *testing.T) {
	err := sideBySide(t.Context(), 50, func(context.Context) func(int) {
		return func(i int) {
			if i == 7 {
				panic("no such compound")
			}
		}
	})
	assert.ErrorIs(t, err, ErrFailed)
	assert.ErrorContains(t, err, "no such compound")
}

func TestWorkEndsWithItsContext(t *testing.T) {
	ctx, gone := context.WithCancel(t.Context())
	var done atomic.Int64
	err := sideBySide(ctx, 1_000_000, func(context.Context) func(int) {
		return func(int) {
			if done.Add(1) == 100 {
				gone()
			}
		}
	})
	assert.ErrorIs(t, err, context.Canceled)
	assert.Less(t, done.Load(), int64(1_000_000))
	assert.NoError(t, sideBySide(t.Context(), 3, func(context.Context) func(int) { return func(int) {} }))
}
