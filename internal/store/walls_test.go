package store_test

import (
	"bytes"
	"context"
	"fmt"
	"log/slog"
	"testing"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/internal/store"
	"keencrock/internal/testdb"
)

// asApplication connects as the role of daily work, naming a workshop.
func asApplication(t *testing.T, dsn, workshop string) *pgx.Conn {
	t.Helper()
	ctx := context.Background()
	conn, err := pgx.Connect(ctx, dsn)
	require.NoError(t, err)
	t.Cleanup(func() { conn.Close(ctx) })
	_, err = conn.Exec(ctx, "select set_config('role', $1, false), set_config('keencrock.workshop', $2, false)", store.ApplicationRole, workshop)
	require.NoError(t, err)
	return conn
}

func rowsOf[T any](t *testing.T, conn *pgx.Conn, sql string, args ...any) []T {
	t.Helper()
	rows, err := conn.Query(context.Background(), sql, args...)
	require.NoError(t, err, sql)
	all, err := pgx.CollectRows(rows, pgx.RowTo[T])
	require.NoError(t, err, sql)
	return all
}

// What has happened can be added to and not changed: held by the rights of the role
// that daily work is done with.
func TestWhatHasHappenedCannotBeChanged(t *testing.T) {
	s, dsn := open(t)
	ctx, by := founded(t, s, "marl")
	addLot(t, s, ctx, by, "B1")
	conn := asApplication(t, dsn, "*")
	for _, table := range []string{"formula_versions", "events", "movements", "measurements", "label_prints", "fill_checks", "counted_loads"} {
		for _, sql := range []string{"update %s set workshop_id = workshop_id", "delete from %s", "truncate %s"} {
			_, err := conn.Exec(ctx, fmt.Sprintf(sql, table))
			assert.ErrorContains(t, err, "permission denied", fmt.Sprintf(sql, table))
		}
	}
	for _, sql := range []string{"delete from workshops", "delete from people", "update workshops set demo = true", "drop table events", "create table mine (id int)",
		"alter table events disable row level security", "update goose_db_version set is_applied = false"} {
		_, err := conn.Exec(ctx, sql)
		assert.Error(t, err, sql)
	}
}

// The second wall: even a statement without any condition sees and makes rows of the
// named workshop alone, in every table that has rows of workshops.
func TestPostgreSQLShowsRowsOfTheNamedWorkshopAlone(t *testing.T) {
	s, dsn := open(t)
	mine, by := founded(t, s, "mine")
	theirs, _ := founded(t, s, "theirs")
	addLot(t, s, mine, by, "B1")
	workshops := map[string]uuid.UUID{}
	for _, ctx := range []context.Context{mine, theirs} {
		w, err := s.Read(ctx).Workshop()
		require.NoError(t, err)
		workshops[w.Name] = w.ID
	}

	owner, err := pgx.Connect(mine, dsn)
	require.NoError(t, err)
	defer owner.Close(mine)
	open := rowsOf[string](t, owner, `select c.relname from pg_class c join pg_attribute a on a.attrelid = c.oid and a.attname = 'workshop_id'
		where c.relkind = 'r' and c.relnamespace = 'public'::regnamespace
		and not (c.relrowsecurity and exists (select 1 from pg_policy p where p.polrelid = c.oid and p.polname = 'of_workshop'))`)
	assert.Empty(t, open, "tables without the wall")

	for name, seen := range map[string][]string{"mine": {"B1"}, "theirs": {}} {
		conn := asApplication(t, dsn, workshops[name].String())
		assert.Equal(t, seen, rowsOf[string](t, conn, "select code from lots"), name)
		assert.Equal(t, []string{name}, rowsOf[string](t, conn, "select name from workshops"))
		_, err := conn.Exec(mine, "update lots set note = 'seen'")
		assert.NoError(t, err)
	}
	assert.Equal(t, []string{"seen"}, rowsOf[string](t, owner, "select note from lots"))

	stranger := asApplication(t, dsn, workshops["theirs"].String())
	_, err = stranger.Exec(mine, "insert into parties (workshop_id, id, name) values ($1, $2, 'Quay')", workshops["mine"], store.NewID())
	assert.ErrorContains(t, err, "row-level security")
	nobody := asApplication(t, dsn, "")
	assert.Empty(t, rowsOf[string](t, nobody, "select code from lots"))
	assert.Empty(t, rowsOf[string](t, nobody, "select name from workshops"))
}

// Connections are handed from one workshop's request to another's: each sees its own.
func TestAConnectionIsToldEachTimeWhoseRowsItSees(t *testing.T) {
	s, _ := open(t)
	mine, _ := founded(t, s, "mine")
	theirs, _ := founded(t, s, "theirs")
	ended := make(chan error, 8)
	for i := range 8 {
		ctx, name := mine, "mine"
		if i%2 == 1 {
			ctx, name = theirs, "theirs"
		}
		go func() {
			for range 50 {
				w, err := s.Read(ctx).Workshop()
				if err == nil && w.Name != name {
					err = fmt.Errorf("%s saw %s", name, w.Name)
				}
				if err == nil { // a transaction that is taken back leaves the connection as it was
					_ = s.Tx(ctx, func(*store.Tx) error { return assert.AnError })
				}
				if err != nil {
					ended <- err
					return
				}
			}
			ended <- nil
		}()
	}
	for range 8 {
		assert.NoError(t, <-ended)
	}
}

// A statement that takes long is told of in the log, without what was asked.
func TestASlowStatementIsToldOfWithoutItsValues(t *testing.T) {
	s, _ := open(t)
	ctx, _ := founded(t, s, "marl")
	var text bytes.Buffer
	before := slog.Default()
	slog.SetDefault(slog.New(slog.NewTextHandler(&text, nil)))
	defer slog.SetDefault(before)
	require.NoError(t, s.Read(ctx).Sleep("SECRETWORD", 0.35))
	assert.Contains(t, text.String(), "slow statement")
	assert.Contains(t, text.String(), "pg_sleep")
	assert.NotContains(t, text.String(), "SECRETWORD")
}

// A database of a newer version is refused with a sentence, and left as it was.
func TestTablesOfANewerVersionAreRefused(t *testing.T) {
	dsn := testdb.New(t)
	ctx := context.Background()
	require.NoError(t, store.Migrate(ctx, dsn, store.Migration{}))
	conn, err := pgx.Connect(ctx, dsn)
	require.NoError(t, err)
	defer conn.Close(ctx)
	_, err = conn.Exec(ctx, "insert into goose_db_version (version_id, is_applied) values (9999, true)")
	require.NoError(t, err)
	err = store.Migrate(ctx, dsn, store.Migration{})
	assert.ErrorIs(t, err, store.ErrNewer)
	assert.ErrorContains(t, err, "start that version")
}

// Daily work waits for no statement and no lock for good, and has no rights before
// there are tables.
func TestDailyWorkIsBoundedAndNeedsTables(t *testing.T) {
	dsn := testdb.New(t)
	ctx := context.Background()
	_, err := store.Open(ctx, dsn)
	assert.ErrorIs(t, err, store.ErrNotMigrated)
	require.NoError(t, store.Migrate(ctx, dsn, store.Migration{}))
	s, err := store.Open(ctx, dsn)
	require.NoError(t, err)
	defer s.Close()
	for setting, want := range map[string]string{"statement_timeout": "30s", "lock_timeout": "10s", "idle_in_transaction_session_timeout": "1min", "role": store.ApplicationRole} {
		got, err := s.Setting(ctx, setting)
		require.NoError(t, err)
		assert.Equal(t, want, got, setting)
	}
}
