package store

import (
	"bufio"
	"context"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"
)

// Source gives the tables of a dump back.
type Source interface {
	Schema() int64 // the version they are of
	Tables() []string
	Rows(table string) int64 // how many it has
	Table(name string) (io.ReadCloser, error)
}

// Taking says how a dump is taken in.
type Taking struct {
	Replace bool                           // workshops that are there
	AsItIs  bool                           // also where it does not add up
	Told    func(table string, rows int64) // of each table that is in; nil for nobody
}

// What stands against taking a dump in.
var (
	ErrHolds   = errors.New("the database holds workshops already")
	ErrForeign = errors.New("the archive does not fit the tables of Keen Crock")
	ErrUnsound = errors.New("what the archive holds does not add up")
)

// staging is the schema in which a dump is made ready, out of sight, before it takes
// its place as a whole.
const staging = "keencrock_staging"

// Restore makes a database what a dump was, brought up to date. It takes the place of
// what is there as the last step, in one transaction: before that nothing has
// changed. ErrHolds when there are workshops and they are not to be replaced, ErrInUse
// while the database is served, ErrNewer for a dump of a newer version.
//
// ErrUnsound is one whose stock, jars and batches do not add up.
func Restore(ctx context.Context, url string, from Source, m Migration, how Taking) (err error) {
	s, err := OpenAsOwner(ctx, url)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, s.Close()) }()
	conn, err := s.pool.Acquire(ctx)
	if err != nil {
		return err
	}
	defer conn.Release()
	var alone bool
	if err := conn.QueryRow(ctx, "select pg_try_advisory_lock("+inUse+")").Scan(&alone); err != nil {
		return err
	}
	if !alone {
		return ErrInUse
	}
	defer conn.Exec(context.WithoutCancel(ctx), "select pg_advisory_unlock("+inUse+")")
	holds, err := s.HoldsWorkshops(ctx)
	if err != nil {
		return err
	}
	if holds && !how.Replace {
		return ErrHolds
	}
	if err := stage(ctx, url, from, m, how); err != nil {
		return errors.Join(err, unstage(ctx, conn.Conn()))
	}
	return pgx.BeginFunc(ctx, conn, func(tx pgx.Tx) error {
		if holds {
			if err := forgetAgain(ctx, tx); err != nil {
				return err
			}
		}
		return takePlace(ctx, tx)
	})
}

// forgetAgain forgets in what is staged whoever is forgotten in what it takes the place of: a backup
// of before still has their name.
func forgetAgain(ctx context.Context, tx pgx.Tx) error {
	var there bool
	err := tx.QueryRow(ctx, `select exists (select from information_schema.columns where table_schema = current_schema() and table_name = 'parties' and column_name = 'removed_at')`).Scan(&there)
	if err != nil || !there {
		return err
	}
	const forgotten = `from parties f where f.workshop_id = s.workshop_id and f.removed_at is not null and f.name like '` + Forgotten + `%'`
	for _, sql := range []string{
		`update ` + staging + `.pieces s set gone_to = f.name ` + forgotten + ` and exists (select from ` + staging + `.parties p where p.workshop_id = f.workshop_id and p.id = f.id and p.name = s.gone_to and p.name <> f.name)`,
		`update ` + staging + `.parties s set name = f.name, reach = '', note = '', keep_from = '[]', removed_at = coalesce(s.removed_at, f.removed_at) ` + forgotten + ` and f.id = s.id and s.name <> f.name`,
	} {
		if _, err := tx.Exec(ctx, sql); err != nil {
			return err
		}
	}
	return nil
}

// HoldsWorkshops reports whether there are tables with workshops in them.
func (s *Store) HoldsWorkshops(ctx context.Context) (holds bool, err error) {
	var there bool
	if err := s.pool.QueryRow(ctx, "select to_regclass('workshops') is not null").Scan(&there); err != nil || !there {
		return false, err
	}
	return holds, s.all.pool.QueryRow(ctx, "select exists (select 1 from workshops)").Scan(&holds)
}

// stage makes a dump ready in the staging schema: its tables as they were, its rows,
// then everything up to date, and sound.
func stage(ctx context.Context, url string, from Source, m Migration, how Taking) (err error) {
	config, err := pgxpool.ParseConfig(url)
	if err != nil {
		return err
	}
	config.ConnConfig.RuntimeParams["search_path"] = staging
	s, err := connect(ctx, config)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, s.Close()) }()
	for _, sql := range []string{"drop schema if exists " + staging + " cascade", "create schema " + staging} {
		if _, err := s.pool.Exec(ctx, sql); err != nil {
			return err
		}
	}
	provider, err := s.provider()
	if err != nil {
		return err
	}
	_, newest, err := provider.GetVersions(ctx)
	if err != nil {
		return err
	}
	if from.Schema() > newest {
		return fmt.Errorf("%w (the archive's tables are of version %d, this one knows %d)", ErrNewer, from.Schema(), newest)
	}
	if _, err := provider.UpTo(ctx, from.Schema()); err != nil {
		return err
	}
	err = pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		return deferred(ctx, tx, staging, func() error { return load(ctx, tx, from, how) })
	})
	if err != nil {
		return err
	}
	if err := s.upToDate(ctx, provider, m); err != nil || how.AsItIs {
		return err
	}
	return s.sound(ctx)
}

// sound is ErrUnsound, with the first few of what does not hold, where that is so.
func (s *Store) sound(ctx context.Context) error {
	broken, err := s.Verify(ctx)
	if err != nil || len(broken) == 0 {
		return err
	}
	const told = 5
	more := ""
	if len(broken) > told {
		more = fmt.Sprintf("\nand %d more", len(broken)-told)
	}
	return fmt.Errorf("%w:\n%s%s", ErrUnsound, strings.Join(broken[:min(told, len(broken))], "\n"), more)
}

func unstage(ctx context.Context, conn *pgx.Conn) error {
	_, err := conn.Exec(context.WithoutCancel(ctx), "drop schema if exists "+staging+" cascade")
	return err
}

// deferred runs f with the foreign keys of a schema looked at when it is done.
func deferred(ctx context.Context, tx pgx.Tx, schema string, f func() error) error {
	rows, err := tx.Query(ctx, `select format('alter table %s alter constraint %I', conrelid::regclass, conname) from pg_constraint
		where contype = 'f' and connamespace = $1::regnamespace`, schema)
	if err != nil {
		return err
	}
	keys, err := pgx.CollectRows(rows, pgx.RowTo[string])
	if err != nil {
		return err
	}
	for _, key := range keys {
		if _, err := tx.Exec(ctx, key+" deferrable initially deferred"); err != nil {
			return err
		}
	}
	if err := f(); err != nil {
		return err
	}
	if _, err := tx.Exec(ctx, "set constraints all immediate"); err != nil {
		return foreign("its rows do not belong together (%v)", err)
	}
	for _, key := range keys {
		if _, err := tx.Exec(ctx, key+" not deferrable"); err != nil {
			return err
		}
	}
	return nil
}

func foreign(format string, args ...any) error {
	return fmt.Errorf("%w: %s", ErrForeign, fmt.Sprintf(format, args...))
}

// load copies the rows of a dump into empty tables.
func load(ctx context.Context, tx pgx.Tx, from Source, how Taking) error {
	tables, err := tablesIn(ctx, tx, "")
	if err != nil {
		return err
	}
	for _, name := range from.Tables() {
		i := slices.IndexFunc(tables, func(t table) bool { return t.name == name })
		if i < 0 {
			return foreign("there is no table %s in version %d", name, from.Schema())
		}
		rows, err := loadTable(ctx, tx, &tables[i], from)
		if err != nil {
			return err
		}
		if said := from.Rows(name); rows != said {
			return foreign("table %s has %d rows, its manifest says %d", name, rows, said)
		}
		if how.Told != nil {
			how.Told(name, rows)
		}
	}
	return nil
}

func loadTable(ctx context.Context, tx pgx.Tx, t *table, from Source) (rows int64, err error) {
	f, err := from.Table(t.name)
	if err != nil {
		return 0, err
	}
	defer f.Close()
	text := bufio.NewReader(f)
	first, err := text.ReadString('\n')
	if err != nil {
		return 0, foreign("table %s does not name its columns", t.name)
	}
	columns, err := csv.NewReader(strings.NewReader(first)).Read()
	if err != nil {
		return 0, foreign("table %s does not name its columns", t.name)
	}
	for _, c := range columns {
		if !slices.Contains(t.columns, c) {
			return 0, foreign("table %s has no column %s in version %d", t.name, c, from.Schema())
		}
	}
	done, err := tx.Conn().PgConn().CopyFrom(ctx, text, fmt.Sprintf("copy %s (%s) from stdin (format csv)", quote(t.name), quote(columns...)))
	if err != nil {
		return 0, foreign("table %s: %v", t.name, err)
	}
	return done.RowsAffected(), countOn(ctx, tx, t)
}

// countOn lets numbered columns go on after the numbers that are there.
func countOn(ctx context.Context, tx pgx.Tx, t *table) error {
	for _, c := range t.identity {
		// a sequence that is ahead stays there
		sql := fmt.Sprintf(`select setval(s, greatest((select coalesce(max(%[1]s), 0) from %[2]s) + 1, nextval(s)), false) from (select pg_get_serial_sequence(%[3]s, %[4]s)::regclass as s) q`,
			quote(c), quote(t.name), literal(quote(t.name)), literal(c))
		if _, err := tx.Exec(ctx, sql); err != nil {
			return fmt.Errorf("number the rows of %s: %w", t.name, err)
		}
	}
	return nil
}

func literal(text string) string { return "'" + strings.ReplaceAll(text, "'", "''") + "'" }

// takePlace puts the staged tables and functions where the others stood.
func takePlace(ctx context.Context, tx pgx.Tx) error {
	const swap = `
		do $$ declare
			home name := current_schema();
			what text;
		begin
			for what in select c.relname from pg_class c where c.relkind = 'r' and c.relnamespace = '` + staging + `'::regnamespace
				union select c.relname from pg_class c join pg_attribute a on a.attrelid = c.oid and a.attname = 'workshop_id' where c.relkind = 'r' and c.relnamespace = home::regnamespace
			loop
				execute format('drop table if exists %I.%I cascade', home, what);
			end loop;
			for what in select p.proname from pg_proc p where p.pronamespace = '` + staging + `'::regnamespace union select 'refuse_change' loop
				execute format('drop routine if exists %I.%I', home, what);
			end loop;
			for what in select format('table %s', c.oid::regclass) from pg_class c where c.relkind = 'r' and c.relnamespace = '` + staging + `'::regnamespace
				union all select format('routine %s', p.oid::regprocedure) from pg_proc p where p.pronamespace = '` + staging + `'::regnamespace
			loop
				execute format('alter %s set schema %I', what, home);
			end loop;
			execute format('grant usage on schema %I to ` + ApplicationRole + `', home);
			execute 'drop schema ` + staging + `';
		end $$`
	_, err := tx.Exec(ctx, swap)
	return err
}

// Import adds the one workshop of a dump to a database that is up to date, and returns
// its id. ErrTaken, with what is, when it is there already or one of its people's
// sign-in names is in use.
func Import(ctx context.Context, url string, from Source, m Migration, how Taking) (id uuid.UUID, err error) {
	s, err := OpenAsOwner(ctx, url)
	if err != nil {
		return uuid.Nil, err
	}
	defer func() { err = errors.Join(err, s.Close()) }()
	conn, err := s.pool.Acquire(ctx)
	if err != nil {
		return uuid.Nil, err
	}
	defer conn.Release()
	var first bool // one at a time: they share the staging
	if err := conn.QueryRow(ctx, "select pg_try_advisory_lock(hashtextextended('keencrock import', 0))").Scan(&first); err != nil {
		return uuid.Nil, err
	}
	if !first {
		return uuid.Nil, errors.New("another import is going on: wait for its end")
	}
	defer conn.Exec(context.WithoutCancel(ctx), "select pg_advisory_unlock(hashtextextended('keencrock import', 0))")
	defer func() { err = errors.Join(err, unstage(ctx, conn.Conn())) }()
	if err := stage(ctx, url, from, m, how); err != nil {
		return uuid.Nil, err
	}
	return id, pgx.BeginFunc(ctx, conn, func(tx pgx.Tx) (err error) {
		if id, err = mayImport(ctx, tx); err != nil {
			return err
		}
		var home string
		if err := tx.QueryRow(ctx, "select current_schema()").Scan(&home); err != nil {
			return err
		}
		return deferred(ctx, tx, home, func() error { return moveIn(ctx, tx) })
	})
}

// mayImport is the id of the staged workshop, if nothing stands against it.
func mayImport(ctx context.Context, tx pgx.Tx) (id uuid.UUID, err error) {
	var n int
	if err := tx.QueryRow(ctx, "select count(*), coalesce(min(id::text), '"+uuid.Nil.String()+"')::uuid from "+staging+".workshops").Scan(&n, &id); err != nil {
		return id, err
	}
	if n != 1 {
		return id, foreign("it holds %d workshops, not one", n)
	}
	var here bool
	if err := tx.QueryRow(ctx, "select exists (select 1 from workshops where id = $1)", id).Scan(&here); err != nil {
		return id, err
	}
	if here {
		return id, fmt.Errorf("%w: this workshop is here already", ErrTaken)
	}
	rows, err := tx.Query(ctx, "select login from "+staging+".people join people here using (login) where "+staging+".people.removed_at is null and here.removed_at is null")
	if err != nil {
		return id, err
	}
	taken, err := pgx.CollectRows(rows, pgx.RowTo[string])
	if err == nil && len(taken) > 0 {
		err = fmt.Errorf("%w: the sign-in name %s is in use here", ErrTaken, strings.Join(taken, ", "))
	}
	return id, err
}

// moveIn copies every staged row to its table.
func moveIn(ctx context.Context, tx pgx.Tx) error {
	tables, err := tablesIn(ctx, tx, "")
	if err != nil {
		return err
	}
	for _, t := range tables {
		sql := fmt.Sprintf("insert into %[1]s (%[2]s) overriding system value select %[2]s from %[3]s.%[1]s", quote(t.name), quote(t.columns...), staging)
		if _, err := tx.Exec(ctx, sql); err != nil {
			return fmt.Errorf("table %s: %w", t.name, err)
		}
		if err := countOn(ctx, tx, &t); err != nil {
			return err
		}
	}
	return nil
}
