package localpg_test

import (
	"context"
	"os"
	"testing"

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
	conn, err := pgx.Connect(ctx, first.URL)
	require.NoError(t, err)
	_, err = conn.Exec(ctx, "create table kept (n int); insert into kept values (42)")
	require.NoError(t, err)
	require.NoError(t, conn.Close(ctx))

	second, err := localpg.Start(ctx, home)
	require.NoError(t, err)
	assert.Equal(t, first.URL, second.URL, "a second process uses the same cluster")
	require.NoError(t, first.Stop())
	assert.Equal(t, 42, readKept(t, second.URL), "the cluster runs on while someone uses it")
	require.NoError(t, second.Stop())
	_, err = pgx.Connect(ctx, second.URL)
	assert.Error(t, err, "the last one to leave stops it")

	third, err := localpg.Start(ctx, home)
	require.NoError(t, err)
	assert.Equal(t, 42, readKept(t, third.URL))
	require.NoError(t, third.Stop())
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
	config, err := pgx.ParseConfig(c.URL)
	require.NoError(t, err)
	config.Password = "wrong"
	_, err = pgx.ConnectConfig(ctx, config)
	assert.ErrorContains(t, err, "password authentication failed")
}
