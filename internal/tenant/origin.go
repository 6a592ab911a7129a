package tenant

import (
	"fmt"
	"net/netip"
	"net/url"
	"strings"
)

// OriginOf reads where phones reach a server; none for an empty text.
func OriginOf(s string) (string, error) {
	if s = strings.TrimSpace(s); s == "" {
		return "", nil
	}
	u, err := url.Parse(s)
	if err != nil || u.Scheme != "http" && u.Scheme != "https" || u.Host == "" || u.RawQuery != "" || u.Fragment != "" || u.User != nil || strings.Trim(u.Path, "/") != "" {
		return "", fmt.Errorf("“%s” is no place a phone could go: expected such as https://works.example", s)
	}
	return u.Scheme + "://" + u.Host, nil
}

// IsLoopback reports whether nobody but this machine can go to an origin.
func IsLoopback(origin string) bool {
	u, err := url.Parse(origin)
	if err != nil {
		return false
	}
	host := u.Hostname()
	ip, err := netip.ParseAddr(host)
	return host == "localhost" || strings.HasSuffix(host, ".localhost") || err == nil && ip.IsLoopback()
}
