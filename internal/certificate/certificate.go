// Package certificate is the TLS of a server in a workshop's own network: by files of
// the owner's, read again when they are renewed, or by a certificate Keen Crock makes
// itself, which browsers ask about once and whose fingerprint is there to compare.
package certificate

import (
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/sha256"
	"crypto/tls"
	"crypto/x509"
	"crypto/x509/pkix"
	"encoding/hex"
	"encoding/pem"
	"errors"
	"fmt"
	"math/big"
	"net"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"time"
)

// A certificate of our own lives as long as browsers put up with (398 days), and is
// made anew a month before its end.
const (
	ownLife  = 397 * 24 * time.Hour
	ownRenew = 30 * 24 * time.Hour
)

// Config is the TLS configuration of a server: TLS 1.2 at least.
func Config(of func() (*tls.Certificate, error)) *tls.Config {
	return &tls.Config{MinVersion: tls.VersionTLS12, NextProtos: []string{"http/1.1"},
		GetCertificate: func(*tls.ClientHelloInfo) (*tls.Certificate, error) { return of() }}
}

// Own returns a certificate for names and addresses that Keen Crock made itself, kept
// in a folder: the one that is there, where it still serves, else a new one. Its
// fingerprint is the SHA-256 of it, in pairs of digits.
func Own(folder string, names []string, now time.Time) (c *tls.Certificate, fingerprint string, err error) {
	path := filepath.Join(folder, "own-certificate.pem")
	if c, err = load(path, path); err == nil && serves(c.Leaf, names, now) {
		return c, Fingerprint(c.Leaf.Raw), nil
	}
	if err != nil && !errors.Is(err, os.ErrNotExist) {
		return nil, "", fmt.Errorf("read %s: %w: remove it, and another is made", path, err)
	}
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return nil, "", err
	}
	if err := write(path, names, now); err != nil {
		return nil, "", fmt.Errorf("make a certificate: %w", err)
	}
	if c, err = load(path, path); err != nil {
		return nil, "", err
	}
	return c, Fingerprint(c.Leaf.Raw), nil
}

// Fingerprint is the SHA-256 of a certificate as browsers show it.
func Fingerprint(raw []byte) string {
	sum := sha256.Sum256(raw)
	pairs := make([]string, len(sum))
	for i, b := range sum {
		pairs[i] = strings.ToUpper(hex.EncodeToString([]byte{b}))
	}
	return strings.Join(pairs, ":")
}

func serves(leaf *x509.Certificate, names []string, now time.Time) bool {
	if now.Before(leaf.NotBefore) || now.Add(ownRenew).After(leaf.NotAfter) {
		return false
	}
	for _, name := range names {
		if leaf.VerifyHostname(name) != nil {
			return false
		}
	}
	return true
}

func write(path string, names []string, now time.Time) error {
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return err
	}
	number, err := rand.Int(rand.Reader, new(big.Int).Lsh(big.NewInt(1), 127))
	if err != nil {
		return err
	}
	t := &x509.Certificate{SerialNumber: number, Subject: pkix.Name{CommonName: "Keen Crock of this workshop"},
		NotBefore: now.Add(-time.Hour), NotAfter: now.Add(ownLife), KeyUsage: x509.KeyUsageDigitalSignature,
		ExtKeyUsage: []x509.ExtKeyUsage{x509.ExtKeyUsageServerAuth}, BasicConstraintsValid: true}
	for _, name := range names {
		if ip := net.ParseIP(name); ip != nil {
			t.IPAddresses = append(t.IPAddresses, ip)
		} else {
			t.DNSNames = append(t.DNSNames, name)
		}
	}
	der, err := x509.CreateCertificate(rand.Reader, t, t, &key.PublicKey, key)
	if err != nil {
		return err
	}
	private, err := x509.MarshalPKCS8PrivateKey(key)
	if err != nil {
		return err
	}
	text := append(pem.EncodeToMemory(&pem.Block{Type: "CERTIFICATE", Bytes: der}), pem.EncodeToMemory(&pem.Block{Type: "PRIVATE KEY", Bytes: private})...)
	if err := os.WriteFile(path+".new", text, 0o600); err != nil {
		return err
	}
	return os.Rename(path+".new", path)
}

func load(certificate, key string) (*tls.Certificate, error) {
	c, err := tls.LoadX509KeyPair(certificate, key)
	if err != nil {
		return nil, err
	}
	if c.Leaf == nil {
		c.Leaf, err = x509.ParseCertificate(c.Certificate[0])
	}
	return &c, err
}

// Files returns the certificate in two files, read again when one of them changed: one
// that cannot be read meanwhile leaves that of before.
func Files(certificate, key string) (of func() (*tls.Certificate, error), err error) {
	f := &files{certificate: certificate, key: key}
	if _, err := f.get(); err != nil {
		return nil, err
	}
	return f.get, nil
}

type files struct {
	certificate, key string

	mu   sync.Mutex
	last *tls.Certificate
	read time.Time // the newest of the files, when it was read
}

func (f *files) get() (*tls.Certificate, error) {
	f.mu.Lock()
	defer f.mu.Unlock()
	changed, err := newest(f.certificate, f.key)
	if err == nil && !changed.Equal(f.read) {
		var c *tls.Certificate
		if c, err = load(f.certificate, f.key); err == nil {
			f.last, f.read = c, changed
		}
	}
	if f.last == nil {
		return nil, fmt.Errorf("read the certificate: %w", err)
	}
	return f.last, nil
}

func newest(paths ...string) (last time.Time, err error) {
	for _, path := range paths {
		info, err := os.Stat(path)
		if err != nil {
			return last, err
		}
		if info.ModTime().After(last) {
			last = info.ModTime()
		}
	}
	return last, nil
}
