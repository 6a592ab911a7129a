package e2e

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"net/http/httputil"
	"net/url"
	"os/exec"
	"strings"
	"sync/atomic"
	"syscall"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
	"keencrock/internal/testdb"
)

// proxy hands requests on to processes in turn, as one with TLS would, and past one that
// does not answer.
type proxy struct {
	*httptest.Server
	turn atomic.Int64
}

func newProxy(t *testing.T, backends ...string) *proxy {
	t.Helper()
	p := &proxy{}
	var hand [](*httputil.ReverseProxy)
	for i, address := range backends {
		u, err := url.Parse(address)
		require.NoError(t, err)
		hand = append(hand, &httputil.ReverseProxy{FlushInterval: -1,
			Rewrite: func(r *httputil.ProxyRequest) {
				r.SetURL(u)
				r.Out.Host = "crock.example"
				r.Out.Header.Set("X-Forwarded-For", "203.0.113.7")
				r.Out.Header.Set("X-Forwarded-Proto", "https")
			},
			ErrorHandler: func(w http.ResponseWriter, r *http.Request, err error) {
				if n := len(backends); r.Body == nil || r.ContentLength == 0 { // what was not read can be asked of another
					hand[(i+1)%n].ServeHTTP(w, r)
					return
				}
				w.WriteHeader(http.StatusBadGateway)
			}})
	}
	p.Server = httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		hand[int(p.turn.Add(1))%len(hand)].ServeHTTP(w, r)
	}))
	t.Cleanup(func() {
		p.CloseClientConnections()
		p.Close()
	})
	return p
}

// Two processes serve one database behind a proxy: who signs in by one is known to the
// other, what is done by one is seen live by the other, and one that is killed is not
// missed.
func TestTwoProcessesServeOneDatabase(t *testing.T) {
	t.Parallel()
	dsn := testdb.New(t)
	args := []string{"--empty", "--trusted-proxy", "127.0.0.1", "--name", "crock.example"}
	first := start(t, dsn, args...)
	second := start(t, dsn, args...)
	add := exec.Command(binary, "add-workshop", "Toll House", "marl")
	add.Env = first.env
	out, err := add.CombinedOutput()
	require.NoError(t, err, "%s", out)
	_, after, _ := strings.Cut(string(out), "the password ")
	password := strings.Fields(after)[0]

	p := newProxy(t, first.url, second.url)
	ask := func(at, method, path, cookie, csrf string, body any) (*http.Response, error) {
		var content io.Reader
		if body != nil {
			text, err := json.Marshal(body)
			require.NoError(t, err)
			content = bytes.NewReader(text)
		}
		r, err := http.NewRequest(method, at+path, content)
		require.NoError(t, err)
		for name, value := range map[string]string{"Content-Type": "application/json", "Cookie": cookie, "X-CSRF-Token": csrf, "Idempotency-Key": uuid.NewString(), "Origin": "https://crock.example"} {
			r.Header.Set(name, value)
		}
		return http.DefaultClient.Do(r)
	}
	in, err := ask(p.URL, "POST", "/api/session", "", "", api.Credentials{Login: "marl", Password: password})
	require.NoError(t, err)
	require.Equal(t, http.StatusCreated, in.StatusCode)
	assert.Contains(t, in.Header.Get("Set-Cookie"), "Secure")
	cookie, _, _ := strings.Cut(in.Header.Get("Set-Cookie"), ";")
	var session api.Session
	require.NoError(t, json.NewDecoder(in.Body).Decode(&session))

	// each process sees what is done by either
	seen := make(chan string, 16)
	ctx, cancel := context.WithCancel(context.Background())
	defer cancel()
	for range 2 {
		r, err := http.NewRequestWithContext(ctx, "GET", p.URL+"/api/events", nil)
		require.NoError(t, err)
		r.Header.Set("Cookie", cookie)
		res, err := http.DefaultClient.Do(r)
		require.NoError(t, err)
		lines := bufio.NewScanner(res.Body)
		for lines.Scan() && lines.Text() != "event: ready" {
		}
		go func() {
			defer res.Body.Close()
			for lines.Scan() {
				if _, data, is := strings.Cut(lines.Text(), "data: "); is && strings.Contains(data, "topic") {
					seen <- data
				}
			}
		}()
	}
	done, err := ask(p.URL, "POST", "/api/deliveries", cookie, session.CsrfToken, api.DeliveryLine{Line: "1 kg borax 3.00 from Quay, lot B-1"})
	require.NoError(t, err)
	require.Equal(t, http.StatusCreated, done.StatusCode)
	for range 2 {
		select {
		case change := <-seen:
			assert.Contains(t, change, "shelf")
		case <-time.After(patience):
			t.Fatal("a process was not told of a change")
		}
	}
	for range 4 {
		res, err := ask(p.URL, "GET", "/api/session", cookie, "", nil)
		require.NoError(t, err)
		assert.Equal(t, http.StatusOK, res.StatusCode)
	}

	first.stop(syscall.SIGKILL)
	for i := range 6 {
		res, err := ask(p.URL, "GET", "/api/lots", cookie, "", nil)
		require.NoError(t, err)
		require.Equal(t, http.StatusOK, res.StatusCode, "request %d after the kill", i)
	}
	res, err := ask(second.url, "POST", "/api/deliveries", cookie, session.CsrfToken, api.DeliveryLine{Line: "1 kg borax 3.00 from Quay, lot B-2"})
	require.NoError(t, err)
	// not by the proxy: by a name that is none of its own here it is no page of ours
	assert.Equal(t, http.StatusForbidden, res.StatusCode, fmt.Sprint(res.Status))
}
