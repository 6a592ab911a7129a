package web_test

import (
	"bufio"
	"bytes"
	"encoding/json"
	"io"
	"net"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
)

// Requests that two servers in a row could read in two ways are refused in a sentence of
// ours, and the connection ends (RFC 9112 2.2, 3.2, 5.1, 5.2, 6.1, 6.3): what follows
// would be taken for another request. Nothing of the request comes back.
func TestWhatCouldBeReadInTwoWaysIsRefusedAndTheConnectionEnds(t *testing.T) {
	h := open(t)
	const (
		secret = "Cookie: keencrock_session=very-secret\r\n"
		host   = "Host: localhost\r\n"
		post   = "POST /api/session HTTP/1.1\r\n"
		get    = "GET /api/setup HTTP/1.1\r\n"
		sound  = "Content-Type: application/json\r\n"
	)
	for name, request := range map[string]string{
		"a length and chunks":         post + host + secret + sound + "Content-Length: 4\r\nTransfer-Encoding: chunked\r\n\r\n0\r\n\r\n",
		"chunks and a length":         post + host + secret + sound + "Transfer-Encoding: chunked\r\nContent-Length: 4\r\n\r\n0\r\n\r\n",
		"two lengths":                 post + host + secret + sound + "Content-Length: 2\r\nContent-Length: 3\r\n\r\n{} ",
		"a length with a sign":        post + host + secret + sound + "Content-Length: +2\r\n\r\n{}",
		"a length that is no number":  post + host + secret + sound + "Content-Length: two\r\n\r\n{}",
		"a coding nobody knows":       post + host + secret + sound + "Transfer-Encoding: gzip, chunked\r\n\r\n0\r\n\r\n",
		"chunks of HTTP/1.0":          "POST /api/session HTTP/1.0\r\n" + host + secret + sound + "Transfer-Encoding: chunked\r\n\r\n0\r\n\r\n",
		"a space before the colon":    get + host + "Cookie : keencrock_session=very-secret\r\n\r\n",
		"a space before the coding's": post + host + secret + sound + "Transfer-Encoding : chunked\r\n\r\n0\r\n\r\n",
		"two hosts":                   get + host + secret + "Host: evil.example\r\n\r\n",
		"no host":                     get + secret + "\r\n",
		"a folded line":               get + host + secret + "X-Note: one\r\n two\r\n\r\n",
		"a folded first line":         get + " folded: x\r\n" + host + secret + "\r\n",
		"a header without a colon":    get + host + secret + "no colon here\r\n\r\n",
		"a header without a name":     get + host + secret + ": nothing\r\n\r\n",
		"a bare return inside":        get + host + secret + "X-Note: a\rb\r\n\r\n",
		"a zero byte":                 get + host + secret + "X-Note: a\x00b\r\n\r\n",
		"a request line of one word":  "NONSENSE\r\n" + host + secret + "\r\n",
		"another protocol":            "GET /api/setup HTTP/9.9\r\n" + host + secret + "\r\n",
		"more headers than are read":  get + host + secret + "X-Note: " + strings.Repeat("a", 20<<10) + "\r\n\r\n",
	} {
		t.Run(name, func(t *testing.T) {
			answers, whole := h.raw(t, request+get+host+"\r\n")
			require.Len(t, answers, 1, "what follows is no request: %s", whole)
			a := answers[0]
			assert.GreaterOrEqual(t, a.StatusCode, 400, whole)
			assert.Less(t, a.StatusCode, 500, whole)
			assert.True(t, a.Close, "the connection ends: %s", whole)
			assert.NotContains(t, whole, "very-secret")
			var p api.Problem
			assert.Equal(t, "application/problem+json", a.Header.Get("Content-Type"), whole)
			require.NoError(t, json.NewDecoder(a.Body).Decode(&p), whole)
			assert.NotEmpty(t, p.Detail)
			assert.NotContains(t, p.Detail, "buffer", "a sentence of ours")
		})
	}
	// and what is sound goes on over one connection
	answers, whole := h.raw(t, get+host+"\r\n"+get+host+"Connection: close\r\n\r\n")
	require.Len(t, answers, 2, whole)
	assert.Equal(t, http.StatusOK, answers[1].StatusCode)
}

// raw sends bytes over one connection and returns what was answered, each and as a whole.
func (h *house) raw(t *testing.T, request string) (answers []*http.Response, whole string) {
	t.Helper()
	conn, err := net.Dial("tcp", strings.TrimPrefix(h.url, "http://"))
	require.NoError(t, err)
	defer conn.Close()
	require.NoError(t, conn.SetDeadline(time.Now().Add(30*time.Second)))
	_, err = io.WriteString(conn, request)
	require.NoError(t, err)
	got, err := io.ReadAll(conn)
	require.NoError(t, err, "the connection is closed, and what was answered arrives")
	r := bufio.NewReader(bytes.NewReader(got))
	for {
		a, err := http.ReadResponse(r, nil)
		if err != nil {
			return answers, string(got)
		}
		body, err := io.ReadAll(a.Body)
		require.NoError(t, err)
		a.Body = io.NopCloser(bytes.NewReader(body))
		answers = append(answers, a)
	}
}

// What is too large is answered, also to who is still sending.
func TestWhatIsTooLargeIsAnsweredBeforeItIsCut(t *testing.T) {
	h := open(t)
	for name, head := range map[string]string{
		"told":      "Content-Length: 6291456\r\n",
		"in chunks": "Transfer-Encoding: chunked\r\n",
	} {
		t.Run(name, func(t *testing.T) {
			body := strings.Repeat("x", 6<<20)
			if name == "in chunks" {
				body = "600000\r\n" + body + "\r\n0\r\n\r\n"
			}
			answers, whole := h.raw(t, "POST /api/session HTTP/1.1\r\nHost: localhost\r\nContent-Type: application/json\r\n"+head+"\r\n"+body)
			require.Len(t, answers, 1, whole[:min(len(whole), 400)])
			assert.Equal(t, http.StatusRequestEntityTooLarge, answers[0].StatusCode)
			var p api.Problem
			require.NoError(t, json.NewDecoder(answers[0].Body).Decode(&p))
			assert.Equal(t, "too-large", p.Code)
		})
	}
}
