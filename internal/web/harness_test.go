package web_test

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"net/http/cookiejar"
	"reflect"
	"strings"
	"testing"
	"time"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"keencrock/api"
	"keencrock/internal/station/bench"
	"keencrock/internal/station/people"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
	"keencrock/internal/testdb"
	"keencrock/internal/web"
)

func TestMain(m *testing.M) {
	slog.SetDefault(slog.New(slog.DiscardHandler)) // what a test is about it reads itself
	people.PasswordCost = testdb.CheapPassword
	testdb.Main(m)
}

// day is when the tests take place.
var day = time.Date(2026, 6, 1, 10, 0, 0, 0, time.UTC)

// house is a server on a database of its own.
type house struct {
	t      testing.TB
	dsn    string
	url    string
	tenant *tenant.House
	server *web.Server // the last that was started
	now    time.Time

	outside *tenant.PicturesOutside // of the servers that are started from then on
}

func open(t testing.TB) *house { return openOn(t, testdb.Prepared(t, "migrated", migrate)) }

// migrate makes the tables.
func migrate(dsn string) error {
	return store.Migrate(context.Background(), dsn, bench.Migration(time.Now))
}

// openOn is open on a database that may hold something already.
func openOn(t testing.TB, dsn string) *house {
	h := &house{t: t, dsn: dsn, now: day}
	require.NoError(t, migrate(dsn))
	h.tenant = tenant.New(h.store(), func() time.Time { return h.now })
	h.url = h.serve()
	return h
}

func (h *house) store() *store.Store {
	h.t.Helper()
	s, err := store.Open(context.Background(), h.dsn)
	require.NoError(h.t, err)
	h.t.Cleanup(func() { s.Close() })
	return s
}

// serve starts one more server process, as it were, on the same database.
func (h *house) serve() string { return h.serveAs(web.Reach{}) }

// serveAs is serve for a server that is reached otherwise.
func (h *house) serveAs(r web.Reach) string {
	h.t.Helper()
	return h.serveOn(web.CutStalled(listen(h.t), web.StalledAfter), web.Config{Reach: r})
}

// serveOn is serveAs on a listener, with what else a server is made of.
func (h *house) serveOn(l net.Listener, cfg web.Config) string {
	h.t.Helper()
	cfg.Now = func() time.Time { return h.now }
	s := h.store()
	cfg.House, cfg.Version = tenant.New(s, cfg.Now), "test"
	if h.outside != nil {
		cfg.House.Pictures, s.OutsidePicture = *h.outside, h.outside.Of
	}
	server, err := web.New(cfg)
	require.NoError(h.t, err)
	h.server = server
	ended := make(chan error, 1)
	go func() { ended <- server.Serve(l) }()
	h.t.Cleanup(func() {
		require.NoError(h.t, server.Shutdown())
		<-ended
	})
	return "http://" + l.Addr().String()
}

func listen(t testing.TB) net.Listener {
	t.Helper()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	return l
}

const password = "a long password"

// founded makes a workshop whose owner has a name, and signs them in.
func (h *house) founded(login string) *client {
	h.t.Helper()
	_, err := people.New(h.tenant).CreateWorkshop(context.Background(), api.NewWorkshop{Workshop: login + "'s works", Login: login, Name: login, Password: password})
	require.NoError(h.t, err)
	return h.signIn(login)
}

// client is one browser. It checks every answer against the contract.
type client struct {
	t    testing.TB
	url  string
	http *http.Client
	csrf string
}

func (h *house) visitor() *client {
	jar, err := cookiejar.New(nil)
	require.NoError(h.t, err)
	return &client{t: h.t, url: h.url, http: &http.Client{Jar: jar, Timeout: 20 * time.Second}}
}

func (h *house) signIn(login string) *client { return h.signInWith(login, password) }

func (h *house) signInWith(login, password string) *client {
	h.t.Helper()
	c := h.visitor()
	var session api.Session
	c.post("/api/session", api.Credentials{Login: login, Password: password}).gives(http.StatusCreated, &session)
	c.csrf = session.CsrfToken
	return c
}

// with adds a person of a role to the owner's workshop and signs them in.
func (h *house) with(owner *client, login string, role api.Role) *client {
	h.t.Helper()
	owner.post("/api/people", api.NewPerson{Login: login, Name: login, Password: password, Role: role}).gives(http.StatusCreated, nil)
	return h.signIn(login)
}

type answer struct {
	t      testing.TB
	status int
	header http.Header
	body   []byte
	what   string
	took   time.Duration // from asking to the last of the answer
}

func (c *client) get(path string) *answer             { return c.call("GET", path, nil) }
func (c *client) post(path string, body any) *answer  { return c.call("POST", path, body) }
func (c *client) put(path string, body any) *answer   { return c.call("PUT", path, body) }
func (c *client) patch(path string, body any) *answer { return c.call("PATCH", path, body) }

func (c *client) call(method, path string, body any) *answer {
	c.t.Helper()
	media := "application/json"
	var content io.Reader
	switch b := body.(type) {
	case nil:
	case string: // a file
		content, media = strings.NewReader(b), "text/csv"
	case []byte:
		content, media = bytes.NewReader(b), "application/octet-stream"
	case json.RawMessage:
		content = bytes.NewReader(b)
	default:
		text, err := json.Marshal(b)
		require.NoError(c.t, err)
		content = bytes.NewReader(text)
	}
	return c.send(method, path, content, map[string]string{"Content-Type": media, "X-CSRF-Token": c.csrf, "Idempotency-Key": uuid.NewString()})
}

func (c *client) send(method, path string, content io.Reader, header map[string]string) *answer {
	c.t.Helper()
	r, err := http.NewRequest(method, c.url+path, content)
	require.NoError(c.t, err)
	for name, value := range header {
		switch {
		case name == "Host":
			r.Host = value
		case value != "":
			r.Header.Set(name, value)
		}
	}
	began := time.Now()
	res, err := c.http.Do(r)
	require.NoError(c.t, err)
	defer res.Body.Close()
	text, err := io.ReadAll(res.Body)
	require.NoError(c.t, err)
	a := &answer{t: c.t, status: res.StatusCode, header: res.Header, body: text, what: method + " " + path, took: time.Since(began)}
	a.fitsContract(method, path)
	return a
}

// gives checks the status and reads the body.
func (a *answer) gives(status int, into any) *answer {
	a.t.Helper()
	require.Equal(a.t, status, a.status, "%s: %s", a.what, a.body)
	if into != nil {
		reflect.ValueOf(into).Elem().SetZero() // nothing of an earlier answer stays
		require.NoError(a.t, json.Unmarshal(a.body, into), "%s: %s", a.what, a.body)
	}
	return a
}

// refuses checks that the answer is a problem with a code, and returns it.
func (a *answer) refuses(status int, code string) *api.Problem {
	a.t.Helper()
	var p api.Problem
	a.gives(status, &p)
	require.Equal(a.t, code, p.Code, "%s: %s", a.what, a.body)
	require.NotEmpty(a.t, p.Detail, a.what)
	return &p
}

var contractSpec = func() *openapi3.T {
	loader := openapi3.NewLoader()
	spec, err := loader.LoadFromData(api.Spec)
	if err != nil {
		panic(err)
	}
	return spec
}()

// operation finds what the contract says of a call.
func operation(method, path string) *openapi3.Operation {
	path, _, _ = strings.Cut(path, "?")
	segments := strings.Split(path, "/")
	for pattern, item := range contractSpec.Paths.Map() {
		want := strings.Split(pattern, "/")
		if len(want) != len(segments) {
			continue
		}
		fits := true
		for i := range want {
			fits = fits && (want[i] == segments[i] || strings.HasPrefix(want[i], "{") && segments[i] != "read")
		}
		if op := item.GetOperation(method); fits && op != nil {
			return op
		}
	}
	return nil
}

// fitsContract holds an answer against the schema the contract gives for it.
func (a *answer) fitsContract(method, path string) {
	a.t.Helper()
	op := operation(method, path)
	if op == nil || a.status == http.StatusNotModified { // it is what it was
		return
	}
	res := op.Responses.Status(a.status)
	if res == nil {
		res = op.Responses.Default()
	}
	media, _, _ := strings.Cut(a.header.Get("Content-Type"), ";")
	if len(a.body) == 0 {
		require.Empty(a.t, res.Value.Content, "%s answers %d with nothing", a.what, a.status)
		return
	}
	content := res.Value.Content.Get(media)
	require.NotNil(a.t, content, "%s answers %d as %s, which is not in the contract: %s", a.what, a.status, media, a.body)
	if !strings.HasSuffix(media, "json") {
		return
	}
	var value any
	require.NoError(a.t, json.Unmarshal(a.body, &value))
	require.NoError(a.t, content.Schema.Value.VisitJSON(value, openapi3.MultiErrors()), "%s does not fit the contract", a.what)
}

// take takes in a delivery and returns the lot.
func (c *client) take(line string) api.Lot {
	c.t.Helper()
	var l api.Lot
	c.post("/api/deliveries", api.DeliveryLine{Line: line}).gives(http.StatusCreated, &l)
	return l
}

// keep keeps a formula of lines "amount material".
func (c *client) keep(name string, lines ...string) api.StoredFormula {
	c.t.Helper()
	var f api.StoredFormula
	c.post("/api/formulas", formulaFile(name, lines...)).gives(http.StatusCreated, &f)
	return f
}

func formulaFile(name string, lines ...string) api.FormulaFile {
	f := api.FormulaFile{Format: api.Keencrockformula, Version: 1, Name: name, Kind: "laundry-powder", Uses: api.OneUse{Amount: "10 g"}}
	for _, l := range lines {
		amount, material, _ := strings.Cut(l, " of ")
		f.Lines = append(f.Lines, api.FormulaLine{Material: material, Amount: amount})
	}
	return f
}

// begin puts a batch on the bench.
func (c *client) begin(f api.StoredFormula, target api.Target) api.Batch {
	c.t.Helper()
	var b api.Batch
	c.post("/api/batches", api.NewBatch{Formula: f.Id, Target: target}).gives(http.StatusCreated, &b)
	return b
}

// weigh weighs and returns the batch as it then stands.
func (c *client) weigh(b api.Batch, line int, lot string, grams float64) api.Batch {
	c.t.Helper()
	var after api.Batch
	c.post(fmt.Sprintf("/api/batches/%s/weighings", b.Id), api.Weighing{Line: line, Lot: lot, Grams: grams}).gives(http.StatusCreated, &after)
	return after
}
