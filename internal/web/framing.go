package web

import (
	"bytes"
	"errors"
	"net"
	"net/http"

	"github.com/gofiber/fiber/v3"
	"github.com/valyala/fasthttp"

	"keencrock/api"
)

// framed refuses requests that a server before this one may have read otherwise, so that
// what one took for the body of a request the other takes for the next one (RFC 9112 5.1,
// 5.2, 6.1; RFC 9110 7.2). The connection ends with it.
func framed(c fiber.Ctx) error {
	if fiber.Locals[bool](c, unreadKey{}) { // it is being answered already
		return c.Next()
	}
	h := &c.Request().Header
	why := misframed(h.RawHeaders())
	switch p := string(h.Protocol()); {
	case p == "HTTP/1.1" && len(h.Host()) == 0:
		why = "It names no host."
	case p != "HTTP/1.1" && p != "HTTP/1.0":
		why = "Its first line names another protocol than HTTP/1.1."
	}
	if why == "" {
		return c.Next()
	}
	c.Response().SetConnectionClose()
	return api.NewProblem(http.StatusBadRequest, "bad-request", "The request can be read in two ways. %s", why)
}

// misframed says what is wrong with the headers of a request, as they came; nothing where
// they can be read in one way alone.
func misframed(raw []byte) (why string) {
	hosts, lengths, codings := 0, 0, 0
	for line := range bytes.SplitSeq(raw, []byte("\n")) {
		name, _, found := bytes.Cut(line, []byte(":"))
		switch {
		case len(bytes.TrimRight(line, "\r")) == 0:
			continue
		case line[0] == ' ' || line[0] == '\t':
			return "One of its headers goes on in a second line."
		case !found || len(bytes.TrimRight(name, " \t")) != len(name):
			return "A space stands before the colon of a header."
		case bytes.EqualFold(name, []byte("Host")):
			hosts++
		case bytes.EqualFold(name, []byte("Content-Length")):
			lengths++
		case bytes.EqualFold(name, []byte("Transfer-Encoding")):
			codings++
		}
	}
	switch {
	case hosts > 1:
		return "It names two hosts."
	case lengths > 0 && codings > 0 || lengths > 1 || codings > 1:
		return "It says twice where it ends."
	}
	return ""
}

// errMalformed stands for what was no request; what it was is not told again, since it may
// hold what is secret.
var errMalformed = errors.New("the request is not written as HTTP/1.1 is")

type unreadKey struct{}

// unread lets a server answer what it could not read in words of ours.
func unread(s *fasthttp.Server) {
	answer := s.ErrorHandler
	s.ErrorHandler = func(c *fasthttp.RequestCtx, err error) {
		var small *fasthttp.ErrSmallBuffer
		var network net.Error
		if !errors.As(err, &small) && !errors.As(err, &network) && !errors.Is(err, fasthttp.ErrBodyTooLarge) {
			err = errMalformed
		}
		c.Request.Reset() // no handler looks at what came of it
		c.SetUserValue(unreadKey{}, true)
		answer(c, err)
	}
}
