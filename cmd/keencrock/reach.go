package main

import (
	"crypto/tls"
	"errors"
	"fmt"
	"net"
	"net/netip"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"syscall"
	"time"

	"github.com/spf13/cobra"

	"keencrock/internal/certificate"
	"keencrock/internal/web"
)

// reach is where a server listens, and how it may be reached there.
type reach struct {
	host    string
	port    int
	cert    string
	key     string
	ownTLS  bool
	names   []string
	proxies []string
}

func (r *reach) flags(cmd *cobra.Command) {
	f := cmd.Flags()
	f.StringVar(&r.host, "host", "127.0.0.1", "address to listen on; 0.0.0.0 for every network, which needs TLS or a proxy that has it")
	f.IntVar(&r.port, "port", 8420, "port; 0 for any free one")
	f.BoolVar(&r.ownTLS, "own-tls", false, "TLS with a certificate made here: browsers ask once, its fingerprint is printed")
	f.StringVar(&r.cert, "tls-cert", "", "file of a certificate, read again when it is renewed")
	f.StringVar(&r.key, "tls-key", "", "file of its key")
	f.StringSliceVar(&r.names, "name", nil, "further names it may be called by, such as crock.example")
	f.StringSliceVar(&r.proxies, "trusted-proxy", nil, "addresses of proxies with TLS whose word on who asks is taken, such as 127.0.0.1 or 10.0.0.0/8")
}

// served is a listener and what is known of how it is reached.
type served struct {
	net.Listener
	web         web.Reach
	scheme      string
	addresses   []string // under which other machines reach it
	fingerprint string
	local       bool // it is reached from its own machine alone
}

// listen opens the listener: safe, or not at all.
func (r *reach) listen(home string) (*served, error) {
	s := &served{scheme: "http", local: isLoopback(r.host) && len(r.proxies) == 0}
	for _, p := range r.proxies {
		prefix, err := parsePrefix(p)
		if err != nil {
			return nil, err
		}
		s.web.Proxies = append(s.web.Proxies, prefix)
	}
	hasTLS := r.ownTLS || r.cert != "" || r.key != ""
	switch {
	case r.ownTLS && r.cert != "", (r.cert == "") != (r.key == ""):
		return nil, errors.New("TLS takes --own-tls, or --tls-cert and --tls-key together")
	case !isLoopback(r.host) && !hasTLS && len(r.proxies) == 0:
		return nil, fmt.Errorf("on %s passwords would cross the network for anyone to read: add --own-tls, or --tls-cert and --tls-key, or --trusted-proxy with the address of a proxy that has TLS", r.host)
	case len(r.proxies) > 0 && len(r.names) == 0:
		return nil, errors.New("say with --name by which name the proxy is called, such as crock.example")
	}
	l, err := net.Listen("tcp", net.JoinHostPort(r.host, strconv.Itoa(r.port)))
	if errors.Is(err, syscall.EADDRINUSE) {
		return nil, fmt.Errorf("port %d is in use: stop what uses it, or give another with --port", r.port)
	}
	if err != nil {
		return nil, err
	}
	s.Listener = web.CutStalled(l, web.StalledAfter)
	own := r.ownNames()
	s.web.Hosts = append(own, r.names...)
	if hasTLS {
		if err := r.secure(s, home); err != nil {
			return nil, errors.Join(err, l.Close())
		}
	}
	s.web.Strict = !r.ownTLS
	s.addresses = r.addressesOf(s, own)
	return s, nil
}

// secure puts TLS over the listener.
func (r *reach) secure(s *served, home string) (err error) {
	s.scheme, s.web.TLS = "https", true
	var of func() (*tls.Certificate, error)
	if r.ownTLS {
		var c *tls.Certificate
		if c, s.fingerprint, err = certificate.Own(filepath.Join(home, "tls"), append([]string{"localhost", "127.0.0.1", "::1"}, s.web.Hosts...), time.Now()); err != nil {
			return err
		}
		of = func() (*tls.Certificate, error) { return c, nil }
	} else if of, err = certificate.Files(r.cert, r.key); err != nil {
		return err
	}
	s.Listener = tls.NewListener(s.Listener, certificate.Config(of))
	return nil
}

// ownNames are the names and addresses that other machines know this one by, as far as
// it listens there.
func (r *reach) ownNames() []string {
	ip := net.ParseIP(r.host)
	switch {
	case isLoopback(r.host):
		return nil
	case ip == nil || !ip.IsUnspecified():
		return []string{r.host}
	}
	var names []string
	addresses, _ := net.InterfaceAddrs()
	for _, a := range addresses {
		if n, ok := a.(*net.IPNet); ok && !n.IP.IsLoopback() && !n.IP.IsLinkLocalUnicast() {
			names = append(names, n.IP.String())
		}
	}
	if name, err := os.Hostname(); err == nil && name != "" {
		names = append(names, name, strings.TrimSuffix(name, ".local")+".local")
	}
	slices.Sort(names)
	return slices.Compact(names)
}

// addressesOf are what a phone is to open.
func (r *reach) addressesOf(s *served, own []string) (urls []string) {
	for _, name := range r.names { // those that were given are the best
		if len(r.proxies) > 0 {
			urls = append(urls, "https://"+name)
		} else if !s.local {
			urls = append(urls, s.scheme+"://"+net.JoinHostPort(name, portOf(s.Addr())))
		}
	}
	if len(r.proxies) > 0 {
		return urls
	}
	for _, name := range own {
		urls = append(urls, s.scheme+"://"+net.JoinHostPort(name, portOf(s.Addr())))
	}
	return urls
}

// url is the address on this machine.
func (s *served) url() string {
	host, port, err := net.SplitHostPort(s.Addr().String())
	if ip := net.ParseIP(host); err == nil && ip.IsUnspecified() {
		host = "127.0.0.1"
	}
	return s.scheme + "://" + net.JoinHostPort(host, port)
}

func portOf(a net.Addr) string {
	_, port, _ := net.SplitHostPort(a.String())
	return port
}

func isLoopback(host string) bool {
	ip := net.ParseIP(host)
	return host == "localhost" || ip != nil && ip.IsLoopback()
}

// parsePrefix reads an address, or a network of them.
func parsePrefix(written string) (netip.Prefix, error) {
	if a, err := netip.ParseAddr(written); err == nil {
		return netip.PrefixFrom(a, a.BitLen()), nil
	}
	p, err := netip.ParsePrefix(written)
	if err != nil {
		return p, fmt.Errorf("--trusted-proxy takes an address or a network, such as 10.0.0.0/8, not %q", written)
	}
	return p, nil
}
