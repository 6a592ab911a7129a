package web

import (
	"context"
	"crypto/sha256"
	"net/http"
	"slices"

	"github.com/gofiber/fiber/v3"
	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/internal/tenant"
)

// Headers of what is done once.
const (
	onceHeader     = "Idempotency-Key"
	replayedHeader = "Idempotency-Replayed"
)

// once does what makes something one time for each key, however often it is
// sent: the same request is answered as it was the first time, whatever was killed
// between.
func once(v *validator, house *tenant.House) fiber.Handler {
	return func(c fiber.Ctx) error {
		written := c.Get(onceHeader)
		if op, _ := v.find(c.Method(), c.Path()); op == nil || !op.once {
			return c.Next()
		}
		key, err := uuid.Parse(written)
		if err != nil {
			return api.NewProblem(http.StatusUnprocessableEntity, "no-key", "Send a key in %s: a new UUID for each thing that is asked for.", onceHeader).At(onceHeader)
		}
		before, err := house.Once(c.Context(), tenant.Asked{Key: key, Request: fingerprint(c)}, func(ctx context.Context) (tenant.Answered, error) {
			c.SetContext(ctx)
			err := c.Next()
			r := c.Response()
			return tenant.Answered{Status: r.StatusCode(), Media: string(r.Header.ContentType()), Body: slices.Clone(r.Body())}, err
		})
		if err != nil || before == nil {
			return err
		}
		c.Set(replayedHeader, "true")
		c.Set("Content-Type", before.Media)
		return c.Status(before.Status).Send(before.Body)
	}
}

// fingerprint is a hash of all that is asked.
func fingerprint(c fiber.Ctx) (sum [sha256.Size]byte) {
	h := sha256.New()
	for _, part := range [][]byte{[]byte(c.Method()), c.Request().URI().RequestURI(), c.Body()} {
		h.Write(part)
		h.Write([]byte{0})
	}
	h.Sum(sum[:0])
	return sum
}
