package web

import (
	"context"
	"fmt"
	"net"
	"testing"

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
