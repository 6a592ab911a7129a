// Package problem makes what a person is told when something cannot be done: one
// constructor for each kind of refusal, so that no use case has to know how it is
// sent. Each takes a stable code and a sentence that says what was wrong and what
// would be right.
package problem

import (
	"errors"
	"fmt"
	"net/http"
	"time"

	"keencrock/api"
)

// Malformed is for what cannot be read at all.
func Malformed(code, detail string, args ...any) *api.Problem {
	return api.NewProblem(http.StatusBadRequest, code, detail, args...)
}

// SignedOut is for who has to sign in first.
func SignedOut(code, detail string, args ...any) *api.Problem {
	return api.NewProblem(http.StatusUnauthorized, code, detail, args...)
}

// Denied is for who may not do it.
func Denied(code, detail string, args ...any) *api.Problem {
	return api.NewProblem(http.StatusForbidden, code, detail, args...)
}

// Missing is for what is not there.
func Missing(code, detail string, args ...any) *api.Problem {
	return api.NewProblem(http.StatusNotFound, code, detail, args...)
}

// Clash is for what does not go with how things stand by now.
func Clash(code, detail string, args ...any) *api.Problem {
	return api.NewProblem(http.StatusConflict, code, detail, args...)
}

// Unfit is for what was said and cannot be.
func Unfit(code, detail string, args ...any) *api.Problem {
	return api.NewProblem(http.StatusUnprocessableEntity, code, detail, args...)
}

// TooLarge is for what is more than can be taken at once.
func TooLarge(code, detail string, args ...any) *api.Problem {
	return api.NewProblem(http.StatusRequestEntityTooLarge, code, detail, args...)
}

// UnfitAll is one problem that carries many.
func UnfitAll(code, detail string, problems []api.Problem) *api.Problem {
	p := Unfit(code, "%s", detail)
	p.Problems = problems
	return p
}

// TooMany is for who has to wait.
func TooMany(after time.Duration, code, detail string, args ...any) *api.Problem {
	return retried(http.StatusTooManyRequests, after, code, fmt.Sprintf(detail, args...))
}

// Away is for what does not answer at the moment.
func Away(after time.Duration, code, detail string, args ...any) *api.Problem {
	return retried(http.StatusServiceUnavailable, after, code, fmt.Sprintf(detail, args...))
}

// Is reports whether an error is a problem of a code.
func Is(err error, code string) bool {
	var p *api.Problem
	return errors.As(err, &p) && p.Code == code
}

func retried(status int, after time.Duration, code, detail string) *api.Problem {
	p := api.NewProblem(status, code, "%s", detail)
	p.RetryAfterS = max(1, int((after+time.Second-1)/time.Second))
	return p
}
