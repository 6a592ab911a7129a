package web

import (
	"context"
	"crypto/sha256"
	"log/slog"
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
// sent: the same request is answered as it was the first time.
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
		in := tenant.Asked{Key: key, Request: fingerprint(c)}
		before, err := house.Before(c.Context(), in)
		if err != nil {
			return err
		}
		if before != nil {
			c.Set(replayedHeader, "true")
			c.Set("Content-Type", before.Media)
			return c.Status(before.Status).Send(before.Body)
		}
		ctx := c.Context()
		c.SetContext(house.Once(ctx, in))
		if err := c.Next(); err != nil {
			return err
		}
		r := c.Response()
		if r.StatusCode() >= http.StatusBadRequest {
			return nil
		}
		answer := tenant.Answered{Status: r.StatusCode(), Media: string(r.Header.ContentType()), Body: slices.Clone(r.Body())}
		if err := house.KeepAnswer(context.WithoutCancel(ctx), in, answer); err != nil {
			slog.Warn("an answer could not be kept for who asks again", "error", err) // what was asked is done
		}
		return nil
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
