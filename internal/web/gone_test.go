package web

import (
	"context"
	"fmt"
	"net"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What takes long ends when its asker hangs up, and not before.
func TestAWorkingOutEndsWithItsAsker(t *testing.T) {
	app := fiber.New()
	began, ended := make(chan struct{}), make(chan error, 1)
	app.Use(timeLimit, untilGone)
	app.Get("/long", func(c fiber.Ctx) error {
		close(began)
		<-c.Context().Done()
		ended <- context.Cause(c.Context())
		return nil
	})
	app.Get("/short", func(c fiber.Ctx) error { return c.Context().Err() })
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	l = CutStalled(l, StalledAfter) // as it is served
	served := make(chan error, 1)
	go func() { served <- app.Listener(l, fiber.ListenConfig{DisableStartupMessage: true}) }()

	asker, err := net.Dial("tcp", l.Addr().String())
	require.NoError(t, err)
	defer asker.Close()
	for range 2 { // the connection serves again
		_, err = fmt.Fprint(asker, "GET /short HTTP/1.1\r\nHost: here\r\n\r\n")
		require.NoError(t, err)
		answer := make([]byte, 1024)
		n, err := asker.Read(answer)
		require.NoError(t, err)
		assert.Contains(t, string(answer[:n]), "200 OK")
	}
	_, err = fmt.Fprint(asker, "GET /long HTTP/1.1\r\nHost: here\r\n\r\n")
	require.NoError(t, err)
	<-began
	require.NoError(t, asker.Close())
	assert.ErrorIs(t, <-ended, context.Canceled) // rather than the time limit's
	require.NoError(t, app.Shutdown())
	<-served
}

// A file of many rows may take longer than anything else.
func TestAFileOfManyRowsHasLonger(t *testing.T) {
	app := fiber.New()
	left := map[string]time.Duration{}
	app.Use(timeLimit, func(c fiber.Ctx) error {
		end, ok := c.Context().Deadline()
		assert.True(t, ok)
		left[c.Method()+" "+c.Path()] = time.Until(end)
		return nil
	})
	for _, call := range []string{"POST /api/shelf.csv", "GET /api/shelf.csv", "POST /api/deliveries"} {
		method, path, _ := strings.Cut(call, " ")
		r, err := http.NewRequest(method, path, nil)
		require.NoError(t, err)
		_, err = app.Test(r)
		require.NoError(t, err)
	}
	assert.Greater(t, left["POST /api/shelf.csv"], 5*time.Minute)
	assert.LessOrEqual(t, left["GET /api/shelf.csv"], requestTimeout)
	assert.LessOrEqual(t, left["POST /api/deliveries"], requestTimeout)
}
