package web

import (
	"context"
	"errors"
	"log/slog"
	"net/http"
	"strconv"

	"github.com/gofiber/fiber/v3"

	"keencrock/api"
	"keencrock/internal/tenant"
)

// answerProblem turns every error into a problem document. What a person
// cannot put right is logged and not told.
func answerProblem(c fiber.Ctx, err error) error {
	var p *api.Problem
	var f *fiber.Error
	switch {
	case errors.As(err, &p):
	case errors.As(err, &f):
		p = fiberProblem(f)
	case errors.Is(err, context.DeadlineExceeded), errors.Is(err, context.Canceled):
		p = api.NewProblem(http.StatusGatewayTimeout, "too-slow", "That took too long. Try again.")
	case tenant.Trouble(err) != nil:
		p = tenant.Trouble(err)
	default:
		slog.Error("request failed", "id", requestID(c), "method", c.Method(), "path", pathTold(c), "error", err)
		p = api.NewProblem(http.StatusInternalServerError, "internal", "Something went wrong here. Nothing was changed; try again. In the log it is %s.", requestID(c))
	}
	fiber.Locals(c, problemKey{}, p.Code)
	if p.RetryAfterS > 0 {
		c.Set("Retry-After", strconv.Itoa(p.RetryAfterS))
	}
	return c.Status(p.Status).JSON(p, "application/problem+json")
}

func fiberProblem(f *fiber.Error) *api.Problem {
	switch f.Code {
	case http.StatusNotFound, http.StatusMethodNotAllowed:
		return api.NewProblem(f.Code, "no-such-call", "There is nothing at this address.")
	case http.StatusRequestEntityTooLarge:
		return api.NewProblem(f.Code, "too-large", "That is more than 4 MB: send it in parts.")
	case http.StatusBadRequest, http.StatusUnprocessableEntity:
		return api.NewProblem(f.Code, "bad-request", "%s", f.Message)
	}
	code := "refused"
	if f.Code >= 500 {
		code = "internal"
	}
	return api.NewProblem(f.Code, code, "%s", f.Message)
}
