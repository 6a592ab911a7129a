// Package testdb gives tests a real PostgreSQL: one private cluster for each
// test binary, one fresh database for each test.
package testdb

import (
	"context"
	"fmt"
	"net/url"
	"os"
	"strings"
	"sync"
	"sync/atomic"
	"syscall"
	"testing"

	"github.com/alexedwards/argon2id"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"keencrock/internal/localpg"
)

// CheapPassword is the cost of passwords in tests that are not about them: at the real
// one, signing in would be most of what they do.
var CheapPassword = &argon2id.Params{Memory: 64, Iterations: 1, Parallelism: 1, SaltLength: 16, KeyLength: 32}

var cluster *localpg.Cluster

// Main runs the tests of a package with a cluster of their own. Use it as
// `func TestMain(m *testing.M) { testdb.Main(m) }`.
func Main(m *testing.M) { os.Exit(Run(m)) }

// Run is Main for who has more to tidy up: it returns the exit status.
func Run(m *testing.M) int {
	home, err := os.MkdirTemp(inMemory(), "keencrock-test-")
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		return 1
	}
	defer os.RemoveAll(home)
	if err := os.Chmod(home, 0o755); err != nil { // the server's account has to reach it
		fmt.Fprintln(os.Stderr, err)
		return 1
	}
	if cluster, err = localpg.Start(context.Background(), home); err != nil {
		fmt.Fprintln(os.Stderr, err)
		return 1
	}
	defer cluster.Stop()
	if err := forgetful(context.Background()); err != nil {
		fmt.Fprintln(os.Stderr, err)
		return 1
	}
	return m.Run()
}

// inMemory is a folder in memory where there is much room, since a database for each test is
// several hundred files; empty for the usual one.
func inMemory() string {
	const folder, wanted = "/dev/shm", 2 << 30
	var free syscall.Statfs_t
	if err := syscall.Statfs(folder, &free); err != nil || free.Bavail*uint64(free.Bsize) < wanted {
		return ""
	}
	return folder
}

// forgetful spares the cluster its waits for the disk: it need not outlive a
// loss of power, and a database for each test makes many of them.
func forgetful(ctx context.Context) error {
	admin, err := pgx.Connect(ctx, cluster.Owner)
	if err != nil {
		return err
	}
	defer admin.Close(ctx)
	for _, sql := range []string{"alter system set fsync = off", "alter system set full_page_writes = off", "alter system set autovacuum = off", "select pg_reload_conf()"} {
		if _, err := admin.Exec(ctx, sql); err != nil {
			return fmt.Errorf("%s: %w", sql, err)
		}
	}
	return nil
}

var databases atomic.Int64

// New makes an empty database and returns its URL. It is dropped after the
// test.
func New(t testing.TB) string {
	t.Helper()
	return create(t, "")
}

// Copy makes a database like another, which nobody may be connected to. It is
// dropped after the test.
func Copy(t testing.TB, from string) string {
	t.Helper()
	u, err := url.Parse(from)
	require.NoError(t, err)
	return create(t, " template "+pgx.Identifier{strings.TrimPrefix(u.Path, "/")}.Sanitize())
}

// prepared are the databases that were made ready once, by name.
var prepared sync.Map

// Prepared makes a database like one that is made ready once in the tests of the
// package. It is dropped after the test.
func Prepared(t testing.TB, name string, prepare func(dsn string) error) string {
	t.Helper()
	once, _ := prepared.LoadOrStore(name, sync.OnceValues(func() (string, error) {
		dsn, err := Keep(name)
		if err != nil {
			return "", err
		}
		return dsn, prepare(dsn)
	}))
	dsn, err := once.(func() (string, error))()
	require.NoError(t, err)
	return Copy(t, dsn)
}

// Keep makes an empty database of a name that stays until the tests of the
// package end.
func Keep(name string) (string, error) {
	ctx := context.Background()
	admin, err := pgx.Connect(ctx, cluster.Owner)
	if err != nil {
		return "", err
	}
	defer admin.Close(ctx)
	if _, err := admin.Exec(ctx, "create database "+pgx.Identifier{name}.Sanitize()); err != nil {
		return "", err
	}
	return urlOf(name)
}

func create(t testing.TB, options string) string {
	t.Helper()
	ctx := context.Background()
	name := fmt.Sprintf("test_%d", databases.Add(1))
	admin, err := pgx.Connect(ctx, cluster.Owner)
	require.NoError(t, err)
	defer admin.Close(ctx)
	_, err = admin.Exec(ctx, "create database "+name+options)
	require.NoError(t, err)
	t.Cleanup(func() {
		admin, err := pgx.Connect(ctx, cluster.Owner)
		require.NoError(t, err)
		defer admin.Close(ctx)
		_, err = admin.Exec(ctx, "drop database "+name+" with (force)")
		require.NoError(t, err)
	})
	dsn, err := urlOf(name)
	require.NoError(t, err)
	return dsn
}

func urlOf(name string) (string, error) {
	u, err := url.Parse(cluster.Owner)
	if err != nil {
		return "", err
	}
	u.Path = name
	return u.String(), nil
}
