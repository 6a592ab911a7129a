package localpg_test

import (
	"context"
	"fmt"
	"net/url"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/internal/localpg"
)

func TestAClusterStartsIsSharedKeepsItsDataAndStops(t *testing.T) {
	ctx := context.Background()
	home := openHome(t)

	first, err := localpg.Start(ctx, home)
	require.NoError(t, err)
	t.Cleanup(func() { first.Stop() })
	conn, err := pgx.Connect(ctx, first.Owner)
	require.NoError(t, err)
	_, err = conn.Exec(ctx, "create table kept (n int); insert into kept values (42)")
	require.NoError(t, err)
	require.NoError(t, conn.Close(ctx))

	second, err := localpg.Start(ctx, home)
	require.NoError(t, err)
	assert.Equal(t, first.Owner, second.Owner, "a second process uses the same cluster")
	require.NoError(t, first.Stop())
	assert.Equal(t, 42, readKept(t, second.Owner), "the cluster runs on while someone uses it")
	require.NoError(t, second.Stop())
	_, err = pgx.Connect(ctx, second.Owner)
	assert.Error(t, err, "the last one to leave stops it")

	third, err := localpg.Start(ctx, home)
	require.NoError(t, err)
	assert.Equal(t, 42, readKept(t, third.Owner))
	require.NoError(t, third.Stop())
}

// Nobody else on the machine has anything in a home to read, or to hold so that Keen Crock
// waits for it: also not in one that an earlier version left open.
func TestAHomeIsClosedToOthers(t *testing.T) {
	home := openHome(t)
	for _, name := range []string{"starting.lock", "users.lock"} {
		require.NoError(t, os.WriteFile(filepath.Join(home, name), nil, 0o644))
	}
	c, err := localpg.Start(context.Background(), home)
	require.NoError(t, err)
	t.Cleanup(func() { c.Stop() })
	mode := func(name string) os.FileMode {
		info, err := os.Stat(filepath.Join(home, name))
		require.NoError(t, err)
		return info.Mode().Perm()
	}
	may := os.FileMode(0o700)
	if os.Geteuid() == 0 { // the server's account passes through
		may = 0o711
	}
	assert.Equal(t, may, mode("."))
	entries, err := os.ReadDir(home)
	require.NoError(t, err)
	for _, e := range entries {
		assert.Zero(t, mode(e.Name())&0o077, e.Name())
	}
}

// openHome is a folder that the server's account can reach.
func openHome(t *testing.T) string {
	t.Helper()
	home, err := os.MkdirTemp("", "keencrock-localpg-")
	require.NoError(t, err)
	require.NoError(t, os.Chmod(home, 0o755))
	t.Cleanup(func() { os.RemoveAll(home) })
	return home
}

func readKept(t *testing.T, url string) (n int) {
	t.Helper()
	ctx := context.Background()
	conn, err := pgx.Connect(ctx, url)
	require.NoError(t, err)
	defer conn.Close(ctx)
	require.NoError(t, conn.QueryRow(ctx, "select n from kept").Scan(&n))
	return n
}

func TestItAsksForThePassword(t *testing.T) {
	ctx := context.Background()
	home := openHome(t)
	c, err := localpg.Start(ctx, home)
	require.NoError(t, err)
	t.Cleanup(func() { c.Stop() })
	config, err := pgx.ParseConfig(c.Owner)
	require.NoError(t, err)
	config.Password = "wrong"
	_, err = pgx.ConnectConfig(ctx, config)
	assert.ErrorContains(t, err, "password authentication failed")
}

// Daily work is done by a role that rules nothing; pages carry checksums.
func TestDailyWorkIsDoneByARoleThatRulesNothing(t *testing.T) {
	t.Parallel()
	ctx := context.Background()
	home := openHome(t)
	c, err := localpg.Start(ctx, home)
	require.NoError(t, err)
	t.Cleanup(func() { c.Stop() })
	conn, err := pgx.Connect(ctx, c.URL)
	require.NoError(t, err)
	defer conn.Close(ctx)
	var who, checksums string
	var rules bool
	require.NoError(t, conn.QueryRow(ctx, `select current_user, rolsuper or rolcreatedb or rolcreaterole or rolreplication or rolbypassrls, current_setting('data_checksums')
		from pg_roles where rolname = current_user`).Scan(&who, &rules, &checksums))
	assert.Equal(t, "keencrock_app", who)
	assert.False(t, rules)
	assert.Equal(t, "on", checksums)
	for _, sql := range []string{"create table mine (n int)", "create role other", "set role keencrock", "alter system set fsync = off"} {
		_, err := conn.Exec(ctx, sql)
		assert.ErrorContains(t, err, "permission denied", sql)
	}
	for _, secret := range []string{"database-password", "application-password"} {
		info, err := os.Stat(filepath.Join(home, secret))
		require.NoError(t, err)
		assert.Equal(t, os.FileMode(0o600), info.Mode().Perm())
	}
}

// A cluster of a version whose programs are not there is left alone, and what to do is
// said.
func TestAClusterOfAnotherMajorVersionIsNotTouched(t *testing.T) {
	t.Parallel()
	ctx := context.Background()
	home := openHome(t)
	c, err := localpg.Start(ctx, home)
	require.NoError(t, err)
	require.NoError(t, c.Stop())
	file := filepath.Join(home, "postgres", "PG_VERSION")
	was, err := os.ReadFile(file)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(file, []byte("9\n"), 0o600))
	_, err = localpg.Start(ctx, home)
	assert.ErrorContains(t, err, "was made by PostgreSQL 9, which is not installed")
	assert.ErrorContains(t, err, "renew-database")
	require.NoError(t, os.WriteFile(file, was, 0o600))
}

func TestARenewedClusterHoldsWhatTheOldOneDid(t *testing.T) {
	t.Parallel()
	ctx := context.Background()
	home := openHome(t)
	c, err := localpg.Start(ctx, home)
	require.NoError(t, err)
	old := c.Owner
	run(t, c.Owner, "create table kept (n int)", "insert into kept values (42)")

	_, err = localpg.Renew(ctx, home, time.Now(), func(_, _ *localpg.Cluster) error { return nil })
	assert.ErrorContains(t, err, "stop it first", "while another process uses it")
	require.NoError(t, c.Stop())

	_, err = localpg.Renew(ctx, home, time.Now(), func(_, _ *localpg.Cluster) error { return assert.AnError })
	assert.ErrorIs(t, err, assert.AnError)
	c, err = localpg.Start(ctx, home)
	require.NoError(t, err)
	assert.Equal(t, 42, readKept(t, c.Owner), "nothing has changed")
	require.NoError(t, c.Stop())

	kept, err := localpg.Renew(ctx, home, time.Now(), func(from, to *localpg.Cluster) error {
		assert.Equal(t, from.Major(), to.Major(), "one version is installed here")
		run(t, to.Owner, "create table kept (n int)", fmt.Sprintf("insert into kept values (%d)", readKept(t, from.Owner)+1))
		return nil
	})
	require.NoError(t, err)
	assert.DirExists(t, kept)
	c, err = localpg.Start(ctx, home)
	require.NoError(t, err)
	assert.Equal(t, 43, readKept(t, c.Owner))
	assert.NotEqual(t, password(t, old), password(t, c.Owner))
	require.NoError(t, c.Stop())
	assert.NoDirExists(t, home+".renewed")
}

func run(t *testing.T, address string, statements ...string) {
	t.Helper()
	ctx := context.Background()
	conn, err := pgx.Connect(ctx, address)
	require.NoError(t, err)
	defer conn.Close(ctx)
	for _, sql := range statements {
		_, err := conn.Exec(ctx, sql)
		require.NoError(t, err, sql)
	}
}

func password(t *testing.T, address string) string {
	t.Helper()
	u, err := url.Parse(address)
	require.NoError(t, err)
	secret, _ := u.User.Password()
	return secret
}
