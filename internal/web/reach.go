package web

import (
	"net"
	"net/http"
	"net/netip"
	"net/url"
	"slices"
	"strings"

	"github.com/gofiber/fiber/v3"

	"keencrock/api"
	"keencrock/internal/tenant"
)

// Reach says by which names, and through whom, a server may be reached.
type Reach struct {
	Hosts   []string       // names and addresses in a request's Host, without port; those of loopback always may
	Proxies []netip.Prefix // whose word on who asks is taken
	TLS     bool           // connections are TLS already here
	Strict  bool           // browsers may be told to come by TLS alone from now on
}

// loopbackNames are how a machine calls itself.
var loopbackNames = []string{"localhost", "127.0.0.1", "::1"}

// trusts reports whether an address is that of a proxy whose word is taken.
func (r *Reach) trusts(a netip.Addr) bool {
	return slices.ContainsFunc(r.Proxies, func(p netip.Prefix) bool { return p.Contains(a) })
}

// forwarding are the headers by which a proxy says for whom it asks.
var forwarding = []string{"X-Forwarded-For", "Forwarded", "X-Real-Ip", "X-Forwarded-Host", "X-Forwarded-Proto"}

// seen is what is known of where a request comes from.
type seen struct {
	host   string // with port, as the browser names it
	caller tenant.Caller
}

// scheme is how the browser came.
func (s seen) scheme() string {
	if s.caller.Secure {
		return "https"
	}
	return "http"
}

// look finds out where a request comes from. What a header says is believed only of a
// trusted proxy, and of many addresses the last one that is none is taken: those before
// it may be made up.
func (r *Reach) look(c fiber.Ctx) seen {
	peer, _ := netip.AddrFromSlice(c.RequestCtx().RemoteIP())
	peer = peer.Unmap()
	s := seen{host: string(c.Request().Host()), caller: tenant.Caller{Address: peer.String(), Agent: strings.Clone(c.Get(fiber.HeaderUserAgent)), Before: strings.Clone(c.Cookies(beforeCookie)), Secure: r.TLS}}
	forwarded := slices.ContainsFunc(forwarding, func(name string) bool { return c.Get(name) != "" })
	if r.trusts(peer) {
		if from, ok := r.forwardedFor(c.Get("X-Forwarded-For")); ok {
			s.caller.Address = from.String()
		}
		if host := c.Get("X-Forwarded-Host"); host != "" {
			s.host = host
		}
		s.caller.Secure = s.caller.Secure || strings.EqualFold(c.Get("X-Forwarded-Proto"), "https")
	}
	s.host = strings.Clone(s.host)
	s.caller.Local = peer.IsLoopback() && !forwarded && slices.Contains(loopbackNames, hostname(s.host))
	return s
}

func (r *Reach) forwardedFor(header string) (from netip.Addr, ok bool) {
	for _, part := range slices.Backward(strings.Split(header, ",")) {
		a, err := netip.ParseAddr(strings.TrimSpace(part))
		if err != nil {
			return from, false
		}
		if a = a.Unmap(); !r.trusts(a) {
			return a, true
		}
		from = a
	}
	return from, from.IsValid()
}

// hostname is a host without its port, in small letters.
func hostname(host string) string {
	if name, _, err := net.SplitHostPort(host); err == nil {
		host = name
	}
	return strings.TrimSuffix(strings.ToLower(strings.Trim(host, "[]")), ".")
}

type seenKey struct{}

// reached refuses requests by a name that is none of ours: another site's name that
// points here would let its page read what we answer.
func (r *Reach) reached(c fiber.Ctx) error {
	s := r.look(c)
	ok := slices.Contains(loopbackNames, hostname(s.host)) || slices.ContainsFunc(r.Hosts, func(h string) bool { return hostname(h) == hostname(s.host) })
	if !ok {
		return api.NewProblem(http.StatusMisdirectedRequest, "wrong-host", "Keen Crock does not go by that name here: open it by the address it printed when it started, or add the name with --name.")
	}
	s.caller.Request = requestID(c)
	fiber.Locals(c, seenKey{}, s)
	c.SetContext(tenant.WithCaller(c.Context(), s.caller))
	if r.Strict && s.caller.Secure {
		c.Set("Strict-Transport-Security", "max-age=31536000")
	}
	return c.Next()
}

// foreign is why a change is refused whose page is of an origin; nil where that is the
// page we serve where it was asked for.
func foreign(c fiber.Ctx, origin string) error {
	u, err := url.Parse(origin)
	here := fiber.Locals[seen](c, seenKey{})
	switch {
	case err != nil || !strings.EqualFold(u.Host, here.host):
		return foreignPage()
	case u.Scheme == "https" && here.scheme() == "http":
		return api.NewProblem(http.StatusForbidden, "foreign-origin", "The page came by https and asks by http. Where a proxy stands between, start Keen Crock with --proxy and its address, and let it say X-Forwarded-Proto.")
	case u.Scheme != here.scheme():
		return foreignPage()
	}
	return nil
}

func foreignPage() error {
	return api.NewProblem(http.StatusForbidden, "foreign-origin", "This was asked for from another site's page and is refused.")
}
