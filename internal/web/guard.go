package web

import (
	"context"
	"crypto/subtle"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"

	"keencrock/api"
	"keencrock/internal/station/people"
	"keencrock/internal/tenant"
)

const (
	sessionCookie = "keencrock_session"
	beforeCookie  = "keencrock_before" // that a browser was signed in: it opens nothing
	csrfHeader    = "X-CSRF-Token"
)

// contentPolicy lets the page load nothing but its own files. Styles may stand
// inline, because the component library writes them; scripts may not.
const contentPolicy = "default-src 'none'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; font-src 'self'; " +
	"connect-src 'self'; manifest-src 'self'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"

func securityHeaders(c fiber.Ctx) error {
	c.Set("Content-Security-Policy", contentPolicy)
	c.Set("X-Content-Type-Options", "nosniff")
	c.Set("Referrer-Policy", "no-referrer")
	c.Set("X-Frame-Options", "DENY")
	c.Set("Cross-Origin-Opener-Policy", "same-origin")
	c.Set("Cross-Origin-Resource-Policy", "same-origin")
	c.Set("Permissions-Policy", "camera=(self), microphone=(), geolocation=()")
	return c.Next()
}

// apiOnly lets handlers act on calls of the contract alone. Any spelling of
// “/api” counts as one, so that none gets round them.
func apiOnly(handlers ...fiber.Handler) []any {
	out := make([]any, len(handlers))
	for i, h := range handlers {
		out[i] = fiber.Handler(func(c fiber.Ctx) error {
			if !isAPI(c.Path()) {
				return c.Next()
			}
			return h(c)
		})
	}
	return out
}

func isAPI(path string) bool {
	first, _, _ := strings.Cut(strings.TrimLeft(path, "/"), "/")
	return strings.EqualFold(first, "api")
}

// private keeps answers out of everything but the browser that asked, which asks
// again each time whether they are still the same.
func private(c fiber.Ctx) error {
	c.Set("Cache-Control", "private, no-cache")
	c.Set("Vary", "Cookie")
	if !safeMethod(c.Method()) {
		c.Set("Cache-Control", "no-store")
	}
	return c.Next()
}

// notReadAgain reports whether an answer is none that is read again: a stream,
// which has no end, or a change.
func notReadAgain(c fiber.Ctx) bool { return isStream(c.Path()) || !safeMethod(c.Method()) }

// timeLimit bounds how long a request may take: a file of many rows longer, since a slow
// machine is at it for a while, and says how far it is. Streams have no end.
func timeLimit(c fiber.Ctx) error {
	if isStream(c.Path()) {
		return c.Next()
	}
	limit := requestTimeout
	if !safeMethod(c.Method()) && (strings.HasSuffix(c.Path(), ".csv") || strings.HasSuffix(c.Path(), "/many")) {
		limit = importTimeout
	}
	ctx, cancel := context.WithTimeout(c.Context(), limit)
	defer cancel()
	c.SetContext(ctx)
	return c.Next()
}

func isStream(path string) bool {
	return path == "/api/events" || path == "/api/scale/stream" || path == "/api/export"
}

// guardOrigin refuses changes that another site's page asks for.
func guardOrigin(c fiber.Ctx) error {
	if safeMethod(c.Method()) {
		return c.Next()
	}
	if c.Get("Sec-Fetch-Site") == "cross-site" {
		return foreignPage()
	}
	if origin := c.Get("Origin"); origin != "" {
		if err := foreign(c, origin); err != nil {
			return err
		}
	}
	return c.Next()
}

func safeMethod(m string) bool {
	return m == http.MethodGet || m == http.MethodHead || m == http.MethodOptions
}

// public are the calls that need no session.
var public = map[string]bool{
	"GET /api/health": true, "GET /api/openapi.yaml": true, "GET /api/setup": true, "POST /api/setup": true, "POST /api/session": true,
}

// publicBelow are beginnings of paths that are read without a session: what a phone
// shows of a jar whose code it read.
var publicBelow = []string{"/api/jar-pages/", "/api/pictograms/", "/api/calendars/"}

func isPublic(method, path string) bool {
	return public[method+" "+path] || method == http.MethodGet && slices.ContainsFunc(publicBelow, func(p string) bool { return strings.HasPrefix(path, p) })
}

// whileChanging are the calls that are answered before a public password was changed.
var whileChanging = map[string]bool{"GET /api/session": true, "DELETE /api/session": true, "PUT /api/session/password": true}

type signedInKey struct{}

// signedIn is what a request's session is known by.
type signedIn struct{ token, csrf string }

func signedInFrom(ctx context.Context) signedIn {
	in, _ := ctx.Value(signedInKey{}).(signedIn)
	return in
}

// authenticate finds who asks, and refuses changes without the session's own
// token in a header, which no other site's page can send.
func authenticate(door *people.Service) fiber.Handler {
	return func(c fiber.Ctx) error {
		ctx := c.Context()
		method := c.Method()
		if method == http.MethodHead {
			method = http.MethodGet
		}
		if isPublic(method, c.Path()) {
			return c.Next()
		}
		token := c.Cookies(sessionCookie)
		if token == "" {
			return api.NewProblem(http.StatusUnauthorized, "not-signed-in", "Sign in first.")
		}
		token = strings.Clone(token)
		actor, csrf, err := door.Authenticate(ctx, token)
		if err != nil {
			return err
		}
		if !safeMethod(c.Method()) && subtle.ConstantTimeCompare([]byte(c.Get(csrfHeader)), []byte(csrf)) != 1 {
			return api.NewProblem(http.StatusForbidden, "csrf", "The page is out of date: load it again, then repeat.")
		}
		if actor.MustChange && !whileChanging[method+" "+c.Path()] {
			return api.NewProblem(http.StatusForbidden, "change-password", "This workshop is no demo any more, and your password is public: change it first.")
		}
		ctx = context.WithValue(ctx, signedInKey{}, signedIn{token, csrf})
		c.SetContext(tenant.WithActor(ctx, actor))
		return c.Next()
	}
}

// cookie keeps the session token in the browser: not readable by scripts, not
// sent along from other sites, and only over TLS where there is TLS.
func cookie(token string, life time.Duration, secure bool) string {
	return kept(sessionCookie, token, "/", life, secure)
}

// beforeFor is how long a browser is known again.
const beforeFor = 365 * 24 * time.Hour

func kept(name, value, path string, life time.Duration, secure bool) string {
	k := http.Cookie{Name: name, Value: value, Path: path, HttpOnly: true, SameSite: http.SameSiteStrictMode,
		MaxAge: int(life.Seconds()), Secure: secure}
	if value == "" {
		k.MaxAge = -1
	}
	return k.String()
}
