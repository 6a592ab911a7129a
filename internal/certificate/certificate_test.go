package certificate_test

import (
	"crypto/tls"
	"crypto/x509"
	"net"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/internal/certificate"
)

var now = time.Now()

// shaken is the certificate a client is shown, who trusts it by its fingerprint alone.
func shaken(t *testing.T, config *tls.Config, name string) (*x509.Certificate, error) {
	t.Helper()
	l, err := tls.Listen("tcp", "127.0.0.1:0", config)
	require.NoError(t, err)
	defer l.Close()
	go func() {
		if c, err := l.Accept(); err == nil {
			_ = c.(*tls.Conn).Handshake()
			c.Close()
		}
	}()
	var shown *x509.Certificate
	c, err := tls.Dial("tcp", l.Addr().String(), &tls.Config{ServerName: name, InsecureSkipVerify: true, VerifyConnection: func(s tls.ConnectionState) error {
		shown = s.PeerCertificates[0]
		pool := x509.NewCertPool()
		pool.AddCert(shown)
		_, err := shown.Verify(x509.VerifyOptions{Roots: pool, DNSName: name, CurrentTime: now})
		return err
	}})
	if err == nil {
		c.Close()
	}
	return shown, err
}

func TestAnOwnCertificateServesItsNamesAndIsKept(t *testing.T) {
	folder := filepath.Join(t.TempDir(), "tls")
	names := []string{"crock.local", "192.168.7.20"}
	c, fingerprint, err := certificate.Own(folder, names, now)
	require.NoError(t, err)
	config := certificate.Config(func() (*tls.Certificate, error) { return c, nil })
	for _, name := range names {
		shown, err := shaken(t, config, name)
		require.NoError(t, err, name)
		assert.Equal(t, fingerprint, certificate.Fingerprint(shown.Raw))
	}
	_, err = shaken(t, config, "elsewhere.example")
	assert.Error(t, err)
	info, err := os.Stat(filepath.Join(folder, "own-certificate.pem"))
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o600), info.Mode().Perm(), "its key is nobody else's to read")

	_, again, err := certificate.Own(folder, names, now.AddDate(0, 6, 0))
	require.NoError(t, err)
	assert.Equal(t, fingerprint, again)
	_, other, err := certificate.Own(folder, append(names, "10.0.0.5"), now)
	require.NoError(t, err)
	assert.NotEqual(t, fingerprint, other, "a new address needs another")
	_, late, err := certificate.Own(folder, names, now.AddDate(1, 0, 5))
	require.NoError(t, err)
	assert.NotEqual(t, other, late, "one that ends soon is made anew")
}

// OpenSSL reads the same fingerprint.
func TestTheFingerprintIsThatOfOtherPrograms(t *testing.T) {
	openssl, err := exec.LookPath("openssl")
	if err != nil {
		t.Skip("openssl is not installed")
	}
	folder := t.TempDir()
	_, fingerprint, err := certificate.Own(folder, []string{"crock.local"}, now)
	require.NoError(t, err)
	said, err := exec.Command(openssl, "x509", "-in", filepath.Join(folder, "own-certificate.pem"), "-noout", "-fingerprint", "-sha256").Output()
	require.NoError(t, err)
	_, theirs, _ := strings.Cut(strings.TrimSpace(string(said)), "=")
	assert.Equal(t, theirs, fingerprint)
}

func TestOldVersionsOfTLSAreRefused(t *testing.T) {
	c, _, err := certificate.Own(t.TempDir(), []string{"crock.local"}, now)
	require.NoError(t, err)
	l, err := tls.Listen("tcp", "127.0.0.1:0", certificate.Config(func() (*tls.Certificate, error) { return c, nil }))
	require.NoError(t, err)
	defer l.Close()
	go func() {
		var conn net.Conn
		if conn, err := l.Accept(); err == nil {
			_ = conn.(*tls.Conn).Handshake()
		}
		_ = conn
	}()
	_, err = tls.Dial("tcp", l.Addr().String(), &tls.Config{InsecureSkipVerify: true, MaxVersion: tls.VersionTLS11, MinVersion: tls.VersionTLS10})
	assert.Error(t, err)
}

// Files that are renewed are read again; while they are half written, the one of
// before serves.
func TestRenewedFilesAreReadAgain(t *testing.T) {
	folder, next := t.TempDir(), t.TempDir()
	_, first, err := certificate.Own(folder, []string{"crock.example"}, now)
	require.NoError(t, err)
	_, second, err := certificate.Own(next, []string{"crock.example"}, now)
	require.NoError(t, err)
	path := filepath.Join(folder, "own-certificate.pem")
	of, err := certificate.Files(path, path)
	require.NoError(t, err)
	fingerprint := func() string {
		c, err := of()
		require.NoError(t, err)
		return certificate.Fingerprint(c.Leaf.Raw)
	}
	assert.Equal(t, first, fingerprint())
	require.NoError(t, os.WriteFile(path, []byte("half"), 0o600))
	require.NoError(t, os.Chtimes(path, now, now.Add(time.Minute)))
	assert.Equal(t, first, fingerprint())
	text, err := os.ReadFile(filepath.Join(next, "own-certificate.pem"))
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(path, text, 0o600))
	require.NoError(t, os.Chtimes(path, now, now.Add(2*time.Minute)))
	assert.Equal(t, second, fingerprint())
	_, err = certificate.Files(filepath.Join(folder, "none"), path)
	assert.Error(t, err)
}
