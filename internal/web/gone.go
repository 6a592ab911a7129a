package web

import (
	"context"
	"errors"
	"syscall"
	"time"

	"github.com/gofiber/fiber/v3"
)

// goneEvery is how often it is looked whether the asker is still there.
const goneEvery = 50 * time.Millisecond

// untilGone ends the context of a request when its asker closes the connection:
// for what is worked out at length and stored nowhere. Where the connection
// cannot be looked at, the time limit ends it.
func untilGone(c fiber.Ctx) error {
	conn, ok := c.RequestCtx().Conn().(syscall.Conn)
	if !ok {
		return c.Next()
	}
	raw, err := conn.SyscallConn()
	if err != nil {
		return c.Next()
	}
	ctx, cancel := context.WithCancel(c.Context())
	defer cancel()
	c.SetContext(ctx)
	looked := make(chan struct{})
	go func() {
		defer close(looked)
		tick := time.NewTicker(goneEvery)
		defer tick.Stop()
		for {
			select {
			case <-ctx.Done():
				return
			case <-tick.C:
				if closedByPeer(raw) {
					cancel()
				}
			}
		}
	}()
	err = c.Next()
	cancel()
	<-looked // the connection is not looked at once it is another request's
	return err
}

// closedByPeer looks at what comes next on a connection and takes nothing.
func closedByPeer(raw syscall.RawConn) (closed bool) {
	err := raw.Control(func(fd uintptr) {
		n, _, err := syscall.Recvfrom(int(fd), make([]byte, 1), syscall.MSG_PEEK|syscall.MSG_DONTWAIT)
		closed = n == 0 && err == nil || errors.Is(err, syscall.ECONNRESET)
	})
	return closed || err != nil
}
