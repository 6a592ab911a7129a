// Package web serves the contract, live changes and the built page over HTTP.
//
// Handlers hold no rules of the job: they hand requests to the use cases and
// their answers back. Every error leaves as a problem document.
package web

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"net"
	"net/http"
	"sync"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/middleware/compress"
	"github.com/gofiber/fiber/v3/middleware/etag"
	"github.com/gofiber/fiber/v3/middleware/recover"

	"keencrock/api"
	"keencrock/internal/tenant"
	"keencrock/internal/web/contract"
)

// Config is what a server is made of.
type Config struct {
	House   *tenant.House
	Version string
	Now     func() time.Time
	Reach   Reach
	// Arrives is how long a request may take to arrive whole; 15 s where it is zero.
	Arrives time.Duration
}

// Limits of every request.
const (
	maxBody        = 4 << 20
	maxHeaders     = 16 << 10
	arrives        = 15 * time.Second
	requestTimeout = 30 * time.Second
	importTimeout  = 10 * time.Minute
)

// Server answers on a listener until it is shut down.
type Server struct {
	app    *fiber.App
	hub    *hub
	scales *scales
	watch  *metrics
	stop   context.CancelFunc
	ended  chan struct{}
}

// New returns a server ready to serve.
func New(cfg Config) (*Server, error) {
	validator, err := newValidator()
	if err != nil {
		return nil, err
	}
	app := fiber.New(fiber.Config{
		AppName:      "Keen Crock",
		ServerHeader: "",
		BodyLimit:    maxBody,
		// of a request's line and headers; a browser sends the cookies of every server on its machine
		ReadBufferSize: maxHeaders,
		ReadTimeout:    cmp.Or(cfg.Arrives, arrives),
		IdleTimeout:    2 * time.Minute,
		// one address for one thing: no way round the checks by another spelling
		StrictRouting: true,
		CaseSensitive: true,
		ErrorHandler:  answerProblem,
	})
	ctx, stop := context.WithCancel(context.Background())
	watch := newMetrics(cfg.House)
	open := newStreams(watch)
	s := &Server{app: app, hub: newHub(open), scales: newScales(cfg.Now, open), watch: watch, stop: stop, ended: make(chan struct{})}
	h := newHandlers(cfg.House, cfg.Version, s.scales)

	unread(app.Server())
	app.Use(framed)
	app.Get("/healthz", func(c fiber.Ctx) error { return c.SendString("well\n") })
	app.Get("/readyz", ready(cfg.House))
	app.Use(watch.logged, recover.New(recover.Config{EnableStackTrace: true, StackTraceHandler: panicked}), securityHeaders, cfg.Reach.reached)
	app.Use(apiOnly(private, compressed, tagged, validator.route, guardOrigin, authenticate(h.people), validator.unpriced(cfg.House), newFair().bound, timeLimit, validator.validate, once(validator, cfg.House))...)
	app.Get("/api/openapi.yaml", func(c fiber.Ctx) error {
		c.Set("Content-Type", "application/yaml")
		return c.Send(api.Spec)
	})
	app.Get("/api/events", s.hub.stream(h.people))
	app.Get("/api/scale/stream", s.scales.stream(h.people, h.settings))
	app.Get("/api/export", export(h.settings))
	app.Post("/api/whatif", untilGone)
	contract.RegisterHandlers(app, contract.NewStrictHandler(h, nil))
	servePage(app)

	var running sync.WaitGroup
	running.Go(func() { s.hub.listen(ctx, cfg.House) })
	running.Go(func() { readHygrometers(ctx, h.rack) })
	go func() {
		running.Wait()
		close(s.ended)
	}()
	return s, nil
}

// Answers are compressed where that is worth it, which it is not within one machine, and
// carry a tag by which a browser finds out that one is still the same.
var (
	compressed = compress.New(compress.Config{Level: compress.LevelBestSpeed, Next: func(c fiber.Ctx) bool {
		return isStream(c.Path()) || fiber.Locals[seen](c, seenKey{}).caller.Local
	}})
	tagged = etag.New(etag.Config{Next: notReadAgain, Weak: true})
)

// Metrics answers with what was counted, for who watches over the server.
func (s *Server) Metrics() http.Handler { return s.watch.handler() }

// Serve answers on a listener until Shutdown.
func (s *Server) Serve(l net.Listener) error {
	return s.app.Listener(l, fiber.ListenConfig{DisableStartupMessage: true})
}

// Shutdown ends live streams, lets running requests finish, and stops.
func (s *Server) Shutdown() error {
	s.stop()
	s.hub.close()
	s.scales.close()
	err := s.app.ShutdownWithTimeout(5 * time.Second)
	<-s.ended
	if err != nil && !errors.Is(err, context.DeadlineExceeded) { // a connection that a browser only keeps ready is cut
		return fmt.Errorf("stop the server: %w", err)
	}
	return nil
}
