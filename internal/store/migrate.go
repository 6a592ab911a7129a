package store

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"strings"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/pressly/goose/v3"
	"github.com/pressly/goose/v3/lock"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Upgrade brings data of an older version up to date by the rules of the job. It is
// run once the tables are, of each workshop that has some, in one transaction: it
// may use the store as it is.
type Upgrade struct {
	Where    string // of the rows of makings that are not up to date
	Workshop func(t *Tx) error
}

// Migration is how a database is brought up to date.
type Migration struct {
	Upgrades func(*Store) []Upgrade                                    // of the data, once the tables are
	Before   func(ctx context.Context, s *Store, from, to int64) error // is called before tables that hold something change
}

// ErrNewer is a database that a newer version of Keen Crock has changed.
var ErrNewer = errors.New("the database was brought up to date by a newer version of Keen Crock: start that version, or restore a backup of before it")

// Migrate brings the tables of a PostgreSQL URL up to date, and the data in them, as
// their owner. An advisory lock lets any number of processes try at once. It is
// [ErrNewer], and nothing is changed, when the tables are those of a newer version.
func Migrate(ctx context.Context, url string, m Migration) (err error) {
	s, err := OpenAsOwner(ctx, url)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, s.Close()) }()
	provider, err := s.provider()
	if err != nil {
		return err
	}
	from, to, err := provider.GetVersions(ctx)
	switch {
	case err != nil:
		return err
	case from > to:
		return fmt.Errorf("%w (its tables are of version %d, this one knows %d)", ErrNewer, from, to)
	case from > 0 && from < to && m.Before != nil:
		if err := m.Before(ctx, s, from, to); err != nil {
			return fmt.Errorf("before the tables are brought up to date: %w", err)
		}
	}
	if err := s.upToDate(ctx, provider, m); err != nil {
		return err
	}
	if err := s.survey(ctx); err != nil { // no room for it, say: what the planner does not know costs time alone
		slog.WarnContext(ctx, "the tables were not looked at", "error", err)
	}
	return ctx.Err()
}

// Survey lets the planner of a PostgreSQL URL know the tables that were filled and never looked at, as their owner.
func Survey(ctx context.Context, url string) (err error) {
	s, err := OpenAsOwner(ctx, url)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, s.Close()) }()
	return s.survey(ctx)
}

// survey is Survey by a store of the owner's. PostgreSQL looks at a table by itself once fifty rows of it changed; of
// a small workshop it knows nothing for long, takes each table for a single row, and walks all batches for each lot.
func (s *Store) survey(ctx context.Context) error {
	rows, err := s.pool.Query(ctx, `select quote_ident(relname) from pg_class
		where relkind = 'r' and relnamespace = 'public'::regnamespace and reltuples <= 0 and pg_relation_size(oid) > 0`)
	if err != nil {
		return err
	}
	tables, err := pgx.CollectRows(rows, pgx.RowTo[string])
	if err != nil || len(tables) == 0 {
		return err
	}
	_, err = s.pool.Exec(ctx, "analyze "+strings.Join(tables, ", "))
	return err
}

// upToDate brings the tables up to date, then the data.
func (s *Store) upToDate(ctx context.Context, provider *goose.Provider, m Migration) error {
	if _, err := provider.Up(ctx); err != nil {
		return fmt.Errorf("bring the tables up to date: %w", err)
	}
	if m.Upgrades == nil {
		return nil
	}
	for _, u := range m.Upgrades(s) {
		if err := s.upgrade(ctx, u); err != nil {
			return fmt.Errorf("bring the data up to date: %w", err)
		}
	}
	return nil
}

// provider runs the migrations.
func (s *Store) provider() (*goose.Provider, error) {
	db, err := s.db.DB()
	if err != nil {
		return nil, err
	}
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return nil, err
	}
	locker, err := lock.NewPostgresSessionLocker()
	if err != nil {
		return nil, err
	}
	return goose.NewProvider(goose.DialectPostgres, db, files, goose.WithSessionLocker(locker))
}

// upgrade runs an upgrade for each workshop that has something to bring up to date.
// Another process that does so is waited for.
func (s *Store) upgrade(ctx context.Context, u Upgrade) error {
	workshops, err := s.outOfDate(ctx, u)
	if err != nil {
		return err
	}
	for _, id := range workshops {
		err := s.Tx(WithWorkshop(ctx, id), func(t *Tx) error {
			if err := t.lock("upgrade"); err != nil {
				return err
			}
			return u.Workshop(t)
		})
		if err != nil {
			return fmt.Errorf("workshop %s: %w", id, err)
		}
	}
	return nil
}

func (s *Store) outOfDate(ctx context.Context, u Upgrade) (workshops []uuid.UUID, err error) {
	err = s.at(acrossWorkshops(ctx)).Model(&Making{}).Where(u.Where).Distinct().Pluck("workshop_id", &workshops).Error
	return workshops, err
}
