package web_test

import (
	"bufio"
	"io"
	"net"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/internal/web"
)

// connect opens a bare connection to a house.
func (h *house) connect() net.Conn {
	h.t.Helper()
	c, err := net.Dial("tcp", strings.TrimPrefix(h.url, "http://"))
	require.NoError(h.t, err)
	h.t.Cleanup(func() { c.Close() })
	return c
}

// Requests that never come to their end hold up nobody, and are sent away.
func TestRequestsThatNeverArriveAreSentAway(t *testing.T) {
	h := open(t)
	owner := h.founded("marl")
	h.url = h.serveOn(listen(t), web.Config{Arrives: 2 * time.Second})
	owner.url = h.url
	unfinished := []string{
		"GET /api/setup HTTP/1.1\r\nHost: localhost\r\nX-Slow: ",
		"POST /api/session HTTP/1.1\r\nHost: localhost\r\nContent-Type: application/json\r\nContent-Length: 100\r\n\r\n{",
		"POST /api/session HTTP/1.1\r\nHost: localhost\r\nContent-Type: application/json\r\nTransfer-Encoding: chunked\r\n\r\n5\r\n{\"lo",
	}
	var waiting []net.Conn
	for n := range 90 {
		c := h.connect()
		_, err := io.WriteString(c, unfinished[n%len(unfinished)])
		require.NoError(t, err)
		waiting = append(waiting, c)
	}
	owner.get("/api/shelf").gives(http.StatusOK, nil)
	for n, c := range waiting {
		untilCut(t, c) // a little more now and then is no way round it
		answer, err := io.ReadAll(c)
		if err != nil { // cut while something was under way
			assert.ErrorContains(t, err, "reset", "request %d", n)
		}
		assert.NotContains(t, string(answer), "HTTP/1.1 2", "request %d", n)
	}
	owner.get("/api/shelf").gives(http.StatusOK, nil)
}

// untilCut writes to a connection until the other side is gone.
func untilCut(t *testing.T, c net.Conn) {
	t.Helper()
	deadline := time.Now().Add(time.Minute)
	for {
		if _, err := io.WriteString(c, " "); err != nil {
			return
		}
		require.True(t, time.Now().Before(deadline), "it is not cut")
		<-time.After(20 * time.Millisecond)
	}
}

// Who takes nothing of what they asked for is cut; who takes it slowly gets all of it.
func TestAnswersThatNobodyTakesAreCut(t *testing.T) {
	const many = 60
	h := open(t)
	owner := h.founded("marl")
	h.url = h.serveOn(web.CutStalled(listen(t), 3*time.Second), web.Config{})
	owner.url = h.url
	ask := func() net.Conn {
		c := h.connect()
		go func() { // the answers are more than lies ready on the way
			_, _ = io.WriteString(c, strings.Repeat("GET /api/openapi.yaml HTTP/1.1\r\nHost: localhost\r\n\r\n", many))
		}()
		return c
	}
	deaf, slow := ask(), bufio.NewReaderSize(ask(), 64<<10)
	size := 0
	for n := range many {
		res, err := http.ReadResponse(slow, nil)
		require.NoError(t, err, "answer %d", n)
		require.Equal(t, http.StatusOK, res.StatusCode)
		wrote, err := io.Copy(io.Discard, res.Body)
		require.NoError(t, err, "answer %d", n)
		size = int(wrote)
		<-time.After(20 * time.Millisecond) // a reader that takes its time is what is tried
	}
	untilCut(t, deaf)
	got, _ := io.ReadAll(deaf)
	assert.Less(t, len(got), many*size, "of %d answers of %d bytes", many, size)
	owner.get("/api/shelf").gives(http.StatusOK, nil)
}
