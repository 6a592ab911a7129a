package web_test

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"net/netip"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/pquerna/otp/totp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
	"keencrock/internal/station/people"
	"keencrock/internal/web"
)

// from sends a sign-in through the house with headers of a proxy, or another name.
func (h *house) signInThrough(header map[string]string, in api.Credentials) *answer {
	h.t.Helper()
	body, err := json.Marshal(in)
	require.NoError(h.t, err)
	header["Content-Type"] = "application/json"
	return h.visitor().send("POST", "/api/session", bytes.NewReader(body), header)
}

// reachedAs is one more server on the same database, reached otherwise.
func (h *house) reachedAs(r web.Reach) *house {
	other := *h
	other.url = h.serveAs(r)
	return &other
}

func demoHouse(t *testing.T) (h *house, keeper api.Credentials) {
	h = open(t)
	keeper = api.Credentials{Login: "keeper", Password: people.DemoPassword}
	_, err := people.New(h.tenant).CreateDemo(context.Background(), api.NewWorkshop{Workshop: "Lockside Works", Login: keeper.Login, Name: "Keeper", Password: keeper.Password})
	require.NoError(t, err)
	return h, keeper
}

// A name that is none of ours is refused, whatever is asked: a page of another site
// that points its name here reads nothing (DNS rebinding).
func TestOnlyOwnNamesAreAnsweredTo(t *testing.T) {
	h := open(t)
	for _, path := range []string{"/", "/api/setup", "/api/shelf", "/j/x", "/assets/none.js"} {
		h.visitor().send("GET", path, nil, map[string]string{"Host": "evil.example"}).refuses(http.StatusMisdirectedRequest, "wrong-host")
	}
	for _, name := range []string{"localhost", "LOCALHOST:8420", "127.0.0.1", "[::1]:1"} {
		h.visitor().send("GET", "/api/setup", nil, map[string]string{"Host": name}).gives(http.StatusOK, nil)
	}
	lan := h.reachedAs(web.Reach{Hosts: []string{"crock.local", "192.168.7.20"}})
	lan.visitor().send("GET", "/api/setup", nil, map[string]string{"Host": "Crock.local.:8420"}).gives(http.StatusOK, nil)
	lan.visitor().send("GET", "/api/setup", nil, map[string]string{"Host": "192.168.7.21"}).refuses(http.StatusMisdirectedRequest, "wrong-host")
	for _, path := range []string{"/healthz", "/readyz"} { // asked by addresses, tells nothing
		assert.Equal(t, http.StatusOK, h.visitor().send("GET", path, nil, map[string]string{"Host": "10.0.0.7"}).status)
	}
}

// What a header says of who asks is believed of a trusted proxy alone, and of it the
// last address that is no proxy.
func TestAddressesAreTakenFromTrustedProxiesAlone(t *testing.T) {
	h := open(t)
	owner := h.founded("marl")
	address := func(h *house, forwarded string) string {
		a := h.signInThrough(map[string]string{"X-Forwarded-For": forwarded}, api.Credentials{Login: "marl", Password: password}).gives(http.StatusCreated, nil)
		_ = a
		var audit []api.Audit
		owner.get("/api/audit?limit=1").gives(http.StatusOK, &audit)
		require.Len(t, audit, 1)
		assert.Equal(t, "signed-in", audit[0].Kind)
		return audit[0].Address
	}
	assert.Equal(t, "127.0.0.1", address(h, "203.0.113.9"))
	behind := h.reachedAs(web.Reach{Hosts: []string{"crock.example"}, Proxies: []netip.Prefix{netip.MustParsePrefix("127.0.0.1/32"), netip.MustParsePrefix("10.0.0.0/8")}})
	assert.Equal(t, "203.0.113.9", address(behind, "203.0.113.9"))
	assert.Equal(t, "203.0.113.9", address(behind, "198.51.100.1, 203.0.113.9, 10.1.2.3"), "what stands before may be made up")
	assert.Equal(t, "127.0.0.1", address(behind, "203.0.113.9, not an address"))
}

// Cookies go over TLS alone where there is TLS: here, or as a trusted proxy says.
func TestCookiesAreSecureWhereThereIsTLS(t *testing.T) {
	h := open(t)
	h.founded("marl")
	in := api.Credentials{Login: "marl", Password: password}
	https := map[string]string{"X-Forwarded-Proto": "https", "X-Forwarded-For": "203.0.113.9"}
	set := func(h *house, header map[string]string) string {
		return h.signInThrough(header, in).gives(http.StatusCreated, nil).header.Get("Set-Cookie")
	}
	assert.NotContains(t, set(h, https), "Secure", "nobody's word is taken")
	behind := h.reachedAs(web.Reach{Proxies: []netip.Prefix{netip.MustParsePrefix("127.0.0.0/8")}, Strict: true})
	assert.Contains(t, set(behind, https), "Secure")
	a := behind.signInThrough(https, in)
	assert.Equal(t, "max-age=31536000", a.header.Get("Strict-Transport-Security"))
	assert.Contains(t, set(h.reachedAs(web.Reach{TLS: true}), map[string]string{}), "Secure")
}

// The demo's password is public: it opens the demo on the machine itself, nothing else,
// and the demo is no longer one once it has a name of its own.
func TestThePublicPasswordOpensTheDemoHereAlone(t *testing.T) {
	h, keeper := demoHouse(t)
	var setup api.Setup
	h.visitor().get("/api/setup").gives(http.StatusOK, &setup)
	assert.Equal(t, api.Setup{CanBegin: true, Demo: api.DemoSignIn{Login: "keeper", Password: people.DemoPassword}}, setup)

	proxied := map[string]string{"X-Forwarded-For": "192.168.7.33"}
	h.signInThrough(proxied, keeper).refuses(http.StatusForbidden, "public-password")
	lan := h.reachedAs(web.Reach{Hosts: []string{"192.168.7.20"}})
	lan.signInThrough(map[string]string{"Host": "192.168.7.20"}, keeper).refuses(http.StatusForbidden, "public-password")
	lan.visitor().send("GET", "/api/setup", nil, map[string]string{"Host": "192.168.7.20"}).gives(http.StatusOK, &setup)
	assert.False(t, setup.CanBegin)
	assert.Empty(t, setup.Demo.Password)

	c := h.signInWith(keeper.Login, keeper.Password)
	var session api.Session
	c.get("/api/session").gives(http.StatusOK, &session)
	assert.True(t, session.Demo)
	// the session is worth nothing elsewhere
	c.send("GET", "/api/session", nil, proxied).refuses(http.StatusUnauthorized, "not-signed-in")

	w := session.Workshop
	w.Name = "My Works"
	c.put("/api/workshop", w).refuses(http.StatusConflict, "public-password")
	second := api.NewPerson{Login: "second", Name: "Second", Password: people.DemoPassword, Role: api.Maker}
	c.post("/api/people", second).gives(http.StatusCreated, nil)
	mate := h.signInWith("second", people.DemoPassword)
	c.put("/api/session/password", api.PasswordChange{Current: keeper.Password, Password: password}).gives(http.StatusOK, &session)
	c.csrf = session.CsrfToken
	c.put("/api/workshop", w).gives(http.StatusOK, nil)
	c.get("/api/session").gives(http.StatusOK, &session)
	assert.False(t, session.Demo)

	// who still has the public one does nothing before they have changed it
	mate.get("/api/shelf").refuses(http.StatusForbidden, "change-password")
	mate.get("/api/session").gives(http.StatusOK, &session)
	assert.True(t, session.MustChangePassword)
	mate.put("/api/session/password", api.PasswordChange{Current: people.DemoPassword, Password: people.DemoPassword}).refuses(http.StatusUnprocessableEntity, "common-password")
	mate.put("/api/session/password", api.PasswordChange{Current: people.DemoPassword, Password: password}).gives(http.StatusOK, nil)
	mate.get("/api/shelf").gives(http.StatusOK, nil)
	c.post("/api/people", api.NewPerson{Login: "third", Name: "Third", Password: people.DemoPassword, Role: api.Maker}).refuses(http.StatusUnprocessableEntity, "common-password")
}

// Real work begins in a workshop of one's own, beside the demo, which can go then.
func TestAnOwnWorkshopBeginsBesideTheDemoWhichCanGo(t *testing.T) {
	h, keeper := demoHouse(t)
	demo := h.signInWith(keeper.Login, keeper.Password)
	demo.take("1 kg borax 3.00 from Quay, lot D-1")
	demo.call("DELETE", "/api/demo", nil).refuses(http.StatusConflict, "only-workshop")

	first := api.NewWorkshop{Workshop: "Toll House", Login: "keeper", Name: "Marl", Password: password}
	c := h.visitor()
	c.post("/api/setup", first).refuses(http.StatusConflict, "taken")
	first.Login = "marl"
	raw, err := json.Marshal(first)
	require.NoError(t, err)
	c.send("POST", "/api/setup", bytes.NewReader(raw), map[string]string{"Content-Type": "application/json", "X-Forwarded-For": "192.168.7.33"}).refuses(http.StatusForbidden, "not-local")
	var session api.Session
	c.post("/api/setup", first).gives(http.StatusCreated, &session)
	c.csrf = session.CsrfToken
	assert.False(t, session.Demo)
	c.post("/api/setup", first).refuses(http.StatusConflict, "already-set-up")
	c.call("DELETE", "/api/demo", nil).refuses(http.StatusConflict, "no-demo")

	demo.call("DELETE", "/api/demo", nil).gives(http.StatusNoContent, nil)
	demo.get("/api/session").refuses(http.StatusUnauthorized, "not-signed-in")
	var setup api.Setup
	h.visitor().get("/api/setup").gives(http.StatusOK, &setup)
	assert.Equal(t, api.Setup{}, setup)
	c.get("/api/shelf").gives(http.StatusOK, nil)
}

func TestPasswordsThatAreTriedFirstAreRefused(t *testing.T) {
	h := open(t)
	owner := h.founded("bulrush")
	for _, weak := range []string{"password12", "1234567890", "qwertyuiop", "iloveyou12", "aaaaaaaaaaaa", "bulrushbulrush", "Football123"} {
		owner.put("/api/session/password", api.PasswordChange{Current: password, Password: weak}).refuses(http.StatusUnprocessableEntity, "common-password")
	}
	for _, made := range []string{"bulrush's works", "Bulrush-Works-2026!", "works.bulrush.99", "lockside-demo", "Lockside Demo 1", "keen-crock-keen-crock"} { // of names that anybody may know
		owner.put("/api/session/password", api.PasswordChange{Current: password, Password: made}).refuses(http.StatusUnprocessableEntity, "common-password")
		owner.post("/api/people", api.NewPerson{Login: "sedge", Name: "Sedge", Role: api.Maker, Password: made}).refuses(http.StatusUnprocessableEntity, "common-password")
	}
	owner.post("/api/people", api.NewPerson{Login: "sedge", Name: "Sedge", Role: api.Maker, Password: "works behind seven hedges"}).gives(http.StatusCreated, nil)
	owner.put("/api/session/password", api.PasswordChange{Current: password, Password: strings.Repeat("längs Ufer ", 18)[:190]}).gives(http.StatusOK, nil)
}

// A name that cannot be told from another one by eye is nobody's new sign-in name, and what
// is not seen in a name is shown (Unicode Technical Standard 39, RFC 8265).
func TestNamesThatLookLikeOthersAreNoSignInNames(t *testing.T) {
	h := open(t)
	owner := h.founded("bulrush")
	add := func(login, name string) *answer {
		return owner.post("/api/people", api.NewPerson{Login: login, Name: name, Role: api.Maker, Password: password})
	}
	for what, login := range map[string]string{
		"a Cyrillic letter among Latin ones": "b\u0443lrush", "Greek among Latin": "bul\u03c1ush", "all Cyrillic, read as Latin": "\u0440\u043e\u0441\u0430",
		"a space of no width": "bul\u200brush", "a turned line": "\u202ehsurlub", "a soft hyphen": "bul\u00adrush", "wide letters": "ｂｕｌｒｕｓｈ",
		"a letter of two signs": "bu\u0301lrush", "a joiner": "bulrush\u200d", "a blank letter": "bul\u3164rush",
	} {
		t.Run(what, func(t *testing.T) { add(login, "Other").refuses(http.StatusUnprocessableEntity, "unclear-name") })
	}
	for _, login := range []string{"Bulrush 2", "käthe", "мария", "ελένη", "o.sedge@works", "李小龙"} {
		add(login, login).gives(http.StatusCreated, nil)
	}
	add("sedge", "Bul\u200brush\u202e").gives(http.StatusCreated, nil)
	var all []api.Person
	owner.get("/api/people").gives(http.StatusOK, &all)
	assert.Contains(t, names(all), "Bul⟨U+200B⟩rush⟨U+202E⟩")
	var audit []api.Audit
	owner.get("/api/audit?limit=1").gives(http.StatusOK, &audit)
	assert.Equal(t, "Bul⟨U+200B⟩rush⟨U+202E⟩, maker", audit[0].About)
}

func names(all []api.Person) (out []string) {
	for _, p := range all {
		out = append(out, p.Name)
	}
	return out
}

// Sessions end when they go unused, at their end, and one by one; a changed password
// begins a new one; what is open by them closes.
func TestSessionsEndAndTakeTheirStreamsWithThem(t *testing.T) {
	h := open(t)
	here := h.founded("marl")
	there := h.signIn("marl")
	ctx, cancel := context.WithTimeout(context.Background(), time.Minute)
	defer cancel()
	changes, scale := there.follow(ctx), there.followAt(ctx, "/api/scale/stream")
	<-changes
	<-scale
	var places []api.SignedInPlace
	here.get("/api/sessions").gives(http.StatusOK, &places)
	require.Len(t, places, 2)
	for _, p := range places {
		assert.Equal(t, "127.0.0.1", p.Address)
		if !p.This {
			here.call("DELETE", "/api/sessions/"+p.Id.String(), nil).gives(http.StatusNoContent, nil)
		}
	}
	there.get("/api/session").refuses(http.StatusUnauthorized, "not-signed-in")
	for range changes { // until it closes
	}
	for range scale {
	}

	idle := h.signIn("marl")
	h.now = h.now.AddDate(0, 0, 6)
	idle.get("/api/session").gives(http.StatusOK, nil)
	h.now = h.now.AddDate(0, 0, 6)
	idle.get("/api/session").gives(http.StatusOK, nil)
	here.get("/api/session").refuses(http.StatusUnauthorized, "not-signed-in")
	for range 5 {
		h.now = h.now.AddDate(0, 0, 6)
		idle.get("/api/session")
	}
	idle.get("/api/session").refuses(http.StatusUnauthorized, "not-signed-in")

	c := h.signIn("marl")
	before := c.cookieValue()
	c.put("/api/session/password", api.PasswordChange{Current: password, Password: "another long password"}).gives(http.StatusOK, nil)
	assert.NotEqual(t, before, c.cookieValue())
	c.get("/api/session").gives(http.StatusOK, nil)
	h.visitor().send("GET", "/api/session", nil, map[string]string{"Cookie": before}).refuses(http.StatusUnauthorized, "not-signed-in")
}

func (c *client) cookieValue() string {
	r, err := http.NewRequest("GET", c.url, nil)
	require.NoError(c.t, err)
	for _, k := range c.http.Jar.Cookies(r.URL) {
		return k.Name + "=" + k.Value
	}
	return ""
}

// A second factor as RFC 6238 has it, with codes by another implementation; a code
// serves once, so does a recovery code, and wrong ones are slowed down.
func TestASecondFactorIsAskedForAndServesOnce(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	in := api.Credentials{Login: "marl", Password: password}
	c.post("/api/session/second-factor", api.PasswordProof{Password: "not this one"}).refuses(http.StatusUnprocessableEntity, "wrong-password")
	var f api.Factor
	c.post("/api/session/second-factor", api.PasswordProof{Password: password}).gives(http.StatusOK, &f)
	assert.Contains(t, f.Address, "otpauth://totp/")
	assert.Contains(t, f.Picture, "<svg")
	h.visitor().post("/api/session", in).gives(http.StatusCreated, nil) // not before a first code was right
	c.put("/api/session/second-factor", api.FactorCode{Code: "000000"}).refuses(http.StatusUnprocessableEntity, "wrong-code")
	code := func() string {
		now, err := totp.GenerateCode(f.Secret, h.now)
		require.NoError(t, err)
		return now
	}
	var recovery api.RecoveryCodes
	c.put("/api/session/second-factor", api.FactorCode{Code: code()}).gives(http.StatusOK, &recovery)
	require.Len(t, recovery.Codes, 10)

	h.visitor().post("/api/session", in).refuses(http.StatusUnauthorized, "second-factor")
	in.Code = code()
	h.visitor().post("/api/session", in).refuses(http.StatusUnauthorized, "wrong-code") // it served to switch it on
	h.now = h.now.Add(30 * time.Second)
	in.Code = code()
	h.visitor().post("/api/session", in).gives(http.StatusCreated, nil)
	h.visitor().post("/api/session", in).refuses(http.StatusUnauthorized, "wrong-code")
	in.Code = strings.ToUpper(recovery.Codes[3])
	h.visitor().post("/api/session", in).gives(http.StatusCreated, nil)
	h.visitor().post("/api/session", in).refuses(http.StatusUnauthorized, "wrong-code")
	for range 6 {
		in.Code = "123456"
		h.visitor().post("/api/session", in)
	}
	h.visitor().post("/api/session", in).refuses(http.StatusTooManyRequests, "too-many-tries")

	// who knows the password guesses no faster from elsewhere; a recovery code is let in
	behind := h.reachedAs(web.Reach{Proxies: []netip.Prefix{netip.MustParsePrefix("127.0.0.1/32")}})
	from := func(address, code string) *answer {
		return behind.signInThrough(map[string]string{"X-Forwarded-For": address}, api.Credentials{Login: "marl", Password: password, Code: code})
	}
	for n := range 2 { // six were judged above
		from(fmt.Sprintf("203.0.113.%d", 10+n), "123456").refuses(http.StatusUnauthorized, "wrong-code")
	}
	a := from("203.0.113.1", code())
	a.refuses(http.StatusTooManyRequests, "too-many-codes")
	assert.Equal(t, "60", a.header.Get("Retry-After"))
	from("203.0.113.2", recovery.Codes[4]).gives(http.StatusCreated, nil)
	h.now = h.now.Add(time.Minute)
	from("203.0.113.3", "123456").refuses(http.StatusUnauthorized, "wrong-code")
	from("203.0.113.4", code()).refuses(http.StatusTooManyRequests, "too-many-codes")
	h.now = h.now.Add(time.Minute)
	from("203.0.113.5", code()).gives(http.StatusCreated, nil)

	c.post("/api/session/second-factor/end", api.PasswordProof{Password: password}).gives(http.StatusNoContent, nil)
	h.visitor().post("/api/session", api.Credentials{Login: "marl", Password: password}).gives(http.StatusCreated, nil)
}

func TestOwnersSeeWhoCameInWhoMayAndWhatWasTakenOut(t *testing.T) {
	h := open(t)
	owner := h.founded("marl")
	mate := h.with(owner, "teasel", api.Maker)
	h.visitor().post("/api/session", api.Credentials{Login: "teasel", Password: "not this one"}).refuses(http.StatusUnauthorized, "wrong-sign-in")
	var who api.Session
	mate.get("/api/session").gives(http.StatusOK, &who)
	owner.patch("/api/people/"+who.Person.Id.String(), api.RoleChange{Role: api.Viewer}).gives(http.StatusOK, nil)
	owner.get("/api/export")
	owner.call("DELETE", "/api/people/"+who.Person.Id.String(), nil).gives(http.StatusNoContent, nil)
	mate.get("/api/audit").refuses(http.StatusUnauthorized, "not-signed-in")
	var audit []api.Audit
	owner.get("/api/audit").gives(http.StatusOK, &audit)
	var kinds []string
	for _, a := range audit {
		kinds = append(kinds, a.Kind+" "+a.Person+" "+a.About)
		assert.Equal(t, "127.0.0.1", a.Address)
	}
	assert.Equal(t, []string{"person-removed marl teasel", "exported marl ", "role-changed marl teasel, viewer", "sign-in-refused  teasel", "signed-in teasel ", "person-added marl teasel, maker", "signed-in marl "}, kinds)
	owner.get(fmt.Sprintf("/api/audit?limit=2&before=%d", audit[1].Id)).gives(http.StatusOK, &audit)
	assert.Len(t, audit, 2)
	other := h.founded("quay")
	other.get("/api/audit").gives(http.StatusOK, &audit)
	assert.Len(t, audit, 1)
}

// An owner takes their workshop along as one archive, and nobody else's with it.
func TestAnExportHoldsTheWorkshopAndNothingElse(t *testing.T) {
	h := open(t)
	theirs := h.founded("theirs")
	h.furnish(theirs, "SECRETMARK")
	mine := h.founded("mine")
	h.furnish(mine, "OWN")
	a := mine.get("/api/export").gives(http.StatusOK, nil)
	assert.Equal(t, "application/zip", a.header.Get("Content-Type"))
	assert.Contains(t, a.header.Get("Content-Disposition"), "mine-s-works-2026-06-01.zip")
	z, err := zip.NewReader(bytes.NewReader(a.body), int64(len(a.body)))
	require.NoError(t, err)
	all := ""
	for _, f := range z.File {
		r, err := f.Open()
		require.NoError(t, err)
		text, err := io.ReadAll(r)
		require.NoError(t, err)
		all += string(text)
	}
	assert.Contains(t, all, "OWN")
	assert.NotContains(t, all, "SECRETMARK")
	assert.NotContains(t, all, "argon2id")
	h.with(mine, "mate", api.Maker).get("/api/export").refuses(http.StatusForbidden, "not-allowed")
}

// logged collects what is logged while f runs.
func logged(t *testing.T, f func()) []map[string]any {
	t.Helper()
	var mu sync.Mutex
	var text bytes.Buffer
	before := slog.Default()
	slog.SetDefault(slog.New(slog.NewJSONHandler(locked{&mu, &text}, &slog.HandlerOptions{Level: slog.LevelDebug})))
	defer slog.SetDefault(before)
	f()
	mu.Lock()
	defer mu.Unlock()
	var lines []map[string]any
	for d := json.NewDecoder(&text); d.More(); {
		var line map[string]any
		require.NoError(t, d.Decode(&line))
		lines = append(lines, line)
	}
	return lines
}

type locked struct {
	mu *sync.Mutex
	w  io.Writer
}

func (l locked) Write(p []byte) (int, error) {
	l.mu.Lock()
	defer l.mu.Unlock()
	return l.w.Write(p)
}

// The log says who asked for what and how it went, under the id that was answered, and
// holds nothing that was sent.
func TestTheLogSaysWhoAskedForWhatAndKeepsSecrets(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	var refused *answer
	lines := logged(t, func() {
		c.get("/api/lots?limit=7").gives(http.StatusOK, nil)
		refused = c.post("/api/deliveries", api.DeliveryLine{Line: "a SECRETWORD of nonsense"})
		h.visitor().post("/api/session", api.Credentials{Login: "marl", Password: "SECRETWORD and more"}).refuses(http.StatusUnauthorized, "wrong-sign-in")
		h.visitor().get("/api/calendars/SECRETWORD.ics").refuses(http.StatusNotFound, "not-found")
		h.visitor().get("/api/jar-pages/SECRETWORD").refuses(http.StatusNotFound, "not-found")
	})
	all, err := json.Marshal(lines)
	require.NoError(t, err)
	assert.NotContains(t, string(all), "SECRETWORD")
	assert.NotContains(t, string(all), strings.SplitN(c.cookieValue(), "=", 2)[1])
	var seen []string
	for _, l := range lines {
		if l["msg"] != "request" {
			continue
		}
		seen = append(seen, fmt.Sprint(l["level"], " ", l["method"], " ", l["path"], " ", l["status"]))
		if l["path"] == "/api/deliveries" {
			assert.Equal(t, refused.header.Get("X-Request-Id"), l["id"])
			assert.NotEmpty(t, l["person"])
			assert.NotEmpty(t, l["workshop"])
			assert.NotEmpty(t, l["problem"])
		}
	}
	assert.Equal(t, []string{"DEBUG GET /api/lots 200", "INFO POST /api/deliveries 422", "INFO POST /api/session 401", "INFO GET /api/calendars/… 404", "INFO GET /api/jar-pages/… 404"}, seen)
}

// One person cannot take all streams there are.
func TestOnePersonHasSoManyStreamsAndNoMore(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	ctx, cancel := context.WithCancel(context.Background())
	defer cancel()
	for range 256 {
		<-c.follow(ctx)
	}
	c.get("/api/events").refuses(http.StatusTooManyRequests, "too-many-streams")
	<-h.founded("quay").follow(ctx)
}

func TestWhatIsCountedIsToldInTheOpenFormat(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	c.get("/api/shelf").gives(http.StatusOK, nil)
	c.get("/api/nothing").refuses(http.StatusNotFound, "no-such-call")
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	server := &http.Server{Handler: h.server.Metrics()}
	go server.Serve(l)
	t.Cleanup(func() { server.Close() })
	answer, err := http.Get("http://" + l.Addr().String())
	require.NoError(t, err)
	defer answer.Body.Close()
	text, err := io.ReadAll(answer.Body)
	require.NoError(t, err)
	for _, line := range []string{`keencrock_requests_total{operation="getShelf",status="2xx"} 1`, `keencrock_requests_total{operation="unknown",status="4xx"} 1`,
		`keencrock_streams 0`, `keencrock_database_connections{state="most"}`, "go_goroutines"} {
		assert.Contains(t, string(text), line)
	}
	assert.NotContains(t, string(text), "marl")
}
