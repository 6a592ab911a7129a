package store

import (
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"slices"
	"strings"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

// Sink takes tables one after the other: their rows as CSV, then how many they were.
type Sink interface {
	Table(name string) (io.Writer, error)
	EndTable(rows int64)
}

// What a dump leaves out: who is signed in, and who tried to be. Of one workshop what
// was asked with keys too, which is nothing to take along.
var (
	notDumped         = []string{"sessions", "sign_in_tries"}
	notOfOneWorkshop  = []string{"done_requests", "recovery_codes"}
	secretOfWorkshops = map[string]string{"password_hash": "''", "totp_secret": "''", "totp_on": "false"} // by column, what stands in its place
)

// Dump writes all tables as they are at one moment, and returns the version they are
// of. Work goes on meanwhile.
func (s *Store) Dump(ctx context.Context, to Sink) (schema int64, err error) {
	return s.dump(acrossWorkshops(ctx), uuid.Nil, to)
}

// DumpWorkshop is Dump of what belongs to the workshop of the context: without its
// people's passwords.
func (s *Store) DumpWorkshop(ctx context.Context, to Sink) (schema int64, err error) {
	id, ok := workshopOf(ctx)
	if !ok {
		return 0, ErrNoWorkshop
	}
	return s.dump(ctx, id, to)
}

func (s *Store) dump(ctx context.Context, workshop uuid.UUID, to Sink) (schema int64, err error) {
	pool := s.pool
	if workshop == uuid.Nil {
		pool = s.all.pool
	}
	conn, err := pool.Acquire(ctx)
	if err != nil {
		return 0, err
	}
	defer conn.Release()
	tx, err := conn.BeginTx(ctx, pgx.TxOptions{IsoLevel: pgx.RepeatableRead, AccessMode: pgx.ReadOnly})
	if err != nil {
		return 0, err
	}
	defer tx.Rollback(context.WithoutCancel(ctx))
	if _, err := tx.Exec(ctx, "set local statement_timeout = 0; set local timezone = 'UTC'; set local datestyle = 'ISO'; set local intervalstyle = 'iso_8601'; set local bytea_output = 'hex'"); err != nil {
		return 0, err
	}
	if schema, err = schemaVersion(ctx, tx); err != nil {
		return 0, err
	}
	tables, err := tablesIn(ctx, tx, "")
	if err != nil {
		return 0, err
	}
	for _, t := range tables {
		if slices.Contains(notDumped, t.name) || workshop != uuid.Nil && slices.Contains(notOfOneWorkshop, t.name) {
			continue
		}
		w, err := to.Table(t.name)
		if err != nil {
			return 0, err
		}
		done, err := tx.Conn().PgConn().CopyTo(ctx, w, t.copyTo(workshop))
		if err != nil {
			return 0, fmt.Errorf("table %s: %w", t.name, err)
		}
		rows := done.RowsAffected()
		if t.name == pictureFiles && s.OutsidePicture != nil {
			outside, err := s.dumpOutside(ctx, tx, workshop, t.columns, w)
			if err != nil {
				return 0, fmt.Errorf("pictures outside: %w", err)
			}
			rows += outside
		}
		to.EndTable(rows)
	}
	return schema, nil
}

// pictureFiles is the table of what pictures are made of.
const pictureFiles = "picture_files"

// dumpOutside writes what the pictures are made of that stand outside the database, as rows of
// the table that they would stand in: an archive holds all of it, wherever it stood.
func (s *Store) dumpOutside(ctx context.Context, tx pgx.Tx, workshop uuid.UUID, columns []string, w io.Writer) (n int64, err error) {
	rows, err := tx.Query(ctx, `select p.workshop_id, p.id from pictures p left join picture_files f on f.workshop_id = p.workshop_id and f.picture_id = p.id
		where f.picture_id is null and ($1 = '00000000-0000-0000-0000-000000000000'::uuid or p.workshop_id = $1) order by 1, 2`, workshop)
	if err != nil {
		return 0, err
	}
	all, err := pgx.CollectRows(rows, pgx.RowToStructByPos[PictureAt])
	if err != nil {
		return 0, err
	}
	for _, p := range all {
		jpeg, err := s.OutsidePicture(ctx, p.Workshop, p.Picture)
		if errors.Is(err, ErrNotFound) { // it is lost: all else is kept
			slog.Warn("a picture is nowhere", "workshop", p.Workshop, "picture", p.Picture)
			continue
		}
		if err != nil {
			return n, err
		}
		values := map[string]string{"workshop_id": p.Workshop.String(), "picture_id": p.Picture.String(), "jpeg": fmt.Sprintf(`\x%x`, jpeg)}
		row := make([]string, len(columns))
		for i, c := range columns {
			row[i] = values[c]
		}
		if _, err := io.WriteString(w, strings.Join(row, ",")+"\n"); err != nil {
			return n, err
		}
		n++
	}
	return n, nil
}

// schemaVersion is the version of the tables.
func schemaVersion(ctx context.Context, tx pgx.Tx) (v int64, err error) {
	return v, tx.QueryRow(ctx, "select coalesce(max(version_id), 0) from goose_db_version where is_applied").Scan(&v)
}

// table is one that holds rows of workshops.
type table struct {
	name     string
	columns  []string // but those that are worked out from others
	key      []string // in which order rows are dumped
	identity []string // columns that are numbered
}

// tablesIn lists the tables of a schema that hold rows of workshops, by name; the
// connection's own for none.
func tablesIn(ctx context.Context, tx pgx.Tx, schema string) ([]table, error) {
	rows, err := tx.Query(ctx, `
		select c.relname::text,
			array(select a.attname::text from pg_attribute a where a.attrelid = c.oid and a.attnum > 0 and not a.attisdropped and a.attgenerated = '' order by a.attnum),
			array(select a.attname::text from pg_index i, unnest(i.indkey::int[]) with ordinality k (num, at) join pg_attribute a on a.attrelid = c.oid and a.attnum = k.num
				where i.indrelid = c.oid and i.indisprimary order by k.at),
			array(select a.attname::text from pg_attribute a where a.attrelid = c.oid and a.attnum > 0 and a.attidentity <> '')
		from pg_class c
		where c.relkind = 'r' and c.relnamespace = coalesce(nullif($1, ''), current_schema())::regnamespace
			and (c.relname = 'workshops' or exists (select 1 from pg_attribute a where a.attrelid = c.oid and a.attname = 'workshop_id'))
		order by c.relname`, schema)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, func(row pgx.CollectableRow) (t table, err error) {
		return t, row.Scan(&t.name, &t.columns, &t.key, &t.identity)
	})
}

func quote(names ...string) string {
	quoted := make([]string, len(names))
	for i, name := range names {
		quoted[i] = pgx.Identifier{name}.Sanitize()
	}
	return strings.Join(quoted, ", ")
}

// copyTo is the statement that dumps the table, of one workshop where it is given.
func (t *table) copyTo(workshop uuid.UUID) string {
	columns, of := quote(t.columns...), ""
	if workshop != uuid.Nil {
		named := make([]string, len(t.columns))
		for i, c := range t.columns {
			if named[i] = quote(c); secretOfWorkshops[c] != "" {
				named[i] = secretOfWorkshops[c] + " as " + quote(c)
			}
		}
		columns, of = strings.Join(named, ", "), fmt.Sprintf(" where workshop_id = '%s'", workshop)
		if t.name == "workshops" {
			of = fmt.Sprintf(" where id = '%s'", workshop)
		}
	}
	return fmt.Sprintf("copy (select %s from %s%s order by %s) to stdout (format csv, header)", columns, quote(t.name), of, quote(t.key...))
}

// inUse is the lock that every process holds that serves the database.
const inUse = "hashtextextended('keencrock in use', 0)"

// ErrInUse is a database that processes are serving.
var ErrInUse = errors.New("the database is in use by a running Keen Crock: stop it first")
