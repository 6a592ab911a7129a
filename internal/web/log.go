package web

import (
	"crypto/rand"
	"log/slog"
	"net/http"
	"runtime/debug"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"

	"keencrock/internal/tenant"
)

const requestHeader = "X-Request-Id"

// requestID is the id of a request in the log, made when first asked for.
func requestID(c fiber.Ctx) string {
	id := c.GetRespHeader(requestHeader)
	if id == "" {
		id = rand.Text()[:16]
		c.Set(requestHeader, id)
	}
	return id
}

// logged writes what was asked to the log when it is done: who, from where, how it
// went and how long it took; never what was sent, nor an address's query. Looking is
// for who debugs, changes and what went wrong are for everybody.
func (m *metrics) logged(c fiber.Ctx) error {
	began := time.Now()
	id := requestID(c)
	defer m.begin()()
	err := c.Next()
	if err != nil {
		if failed := c.App().Config().ErrorHandler(c, err); failed != nil {
			return failed
		}
	}
	status := c.Response().StatusCode()
	took := time.Since(began)
	m.count(routeOf(c), status, took)
	level := slog.LevelDebug
	switch {
	case status == http.StatusServiceUnavailable: // it says so itself, once
		level = slog.LevelInfo
	case status >= http.StatusInternalServerError:
		level = slog.LevelError
	case status >= http.StatusBadRequest, isAPI(c.Path()) && !safeMethod(c.Method()):
		level = slog.LevelInfo
	}
	if !slog.Default().Enabled(c.Context(), level) {
		return nil
	}
	attributes := []any{"id", id, "method", c.Method(), "path", pathTold(c), "status", status, "ms", took.Milliseconds(), "address", tenant.CallerOf(c.Context()).Address}
	if a, known := tenant.ActorOf(c.Context()); known {
		attributes = append(attributes, "person", a.Person, "workshop", a.Workshop)
	}
	if code := problemOf(c); code != "" {
		attributes = append(attributes, "problem", code)
	}
	slog.Log(c.Context(), level, "request", attributes...)
	return nil
}

// pathTold is the path of a request as it may be told: where what stands in it is a key to
// something, that is left out.
func pathTold(c fiber.Ctx) string {
	for _, below := range secretBelow {
		if strings.HasPrefix(c.Path(), below) {
			return below + "…"
		}
	}
	return c.Path()
}

// secretBelow are beginnings of paths whose rest opens something to whoever knows it.
var secretBelow = []string{"/api/jar-pages/", "/api/calendars/"}

type problemKey struct{}

// problemOf is the code of the problem a request was answered with.
func problemOf(c fiber.Ctx) string { return fiber.Locals[string](c, problemKey{}) }

// routeOf is the pattern a request was answered by, for counting: addresses have ids
// in them, and what is no call of ours is one.
func routeOf(c fiber.Ctx) string {
	if !isAPI(c.Path()) {
		return "page"
	}
	if op := fiber.Locals[string](c, operationKey{}); op != "" {
		return op
	}
	return "unknown"
}

type operationKey struct{}

// panicked writes a panic to the log with where it happened.
func panicked(c fiber.Ctx, e any) {
	slog.Error("panic", "id", requestID(c), "method", c.Method(), "path", pathTold(c), "panic", e, "stack", string(debug.Stack()))
}
