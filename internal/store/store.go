package store

import (
	"context"
	"database/sql"
	"embed"
	"fmt"
	"io/fs"
	"runtime"
	"time"

	"github.com/google/uuid"
	"github.com/pressly/goose/v3"
	"github.com/pressly/goose/v3/lock"
	"gorm.io/driver/postgres"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Store is an open database.
type Store struct {
	db  *gorm.DB
	url string
}

// Open connects to a PostgreSQL URL. It does not migrate.
func Open(ctx context.Context, url string) (*Store, error) {
	db, err := gorm.Open(postgres.Open(url), configuration())
	if err != nil {
		return nil, fmt.Errorf("open the database: %w", err)
	}
	if err := db.Use(tenancy{}); err != nil {
		return nil, err
	}
	pool, err := db.DB()
	if err != nil {
		return nil, err
	}
	pool.SetMaxOpenConns(connections())
	pool.SetMaxIdleConns(connections())
	pool.SetConnMaxIdleTime(5 * time.Minute)
	if err := pool.PingContext(ctx); err != nil {
		return nil, fmt.Errorf("reach the database: %w", err)
	}
	return &Store{db: db, url: url}, nil
}

func configuration() *gorm.Config {
	return &gorm.Config{
		Logger:                 logger.Default.LogMode(logger.Silent),
		PrepareStmt:            false, // pgx caches prepared statements itself
		SkipDefaultTransaction: true,
		TranslateError:         true,
	}
}

// connections is how many queries run at once: two for each core. More of
// them wait for each other; measured, sixteen on two cores halved what four
// got done.
func connections() int { return max(4, 2*runtime.NumCPU()) }

// Close gives the connections back.
func (s *Store) Close() error {
	pool, err := s.db.DB()
	if err != nil {
		return err
	}
	return pool.Close()
}

// Upgrade brings data of an older version up to date by the rules of the job. It is
// run once the tables are, of each workshop that has some, in one transaction: it
// may use the store as it is.
type Upgrade struct {
	Where    string // of the rows of makings that are not up to date
	Workshop func(t *Tx) error
}

// Migrate brings the tables up to date, and the data in them. An advisory lock lets
// any number of processes try at once.
func (s *Store) Migrate(ctx context.Context, upgrades ...Upgrade) error {
	pool, err := s.db.DB()
	if err != nil {
		return err
	}
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	locker, err := lock.NewPostgresSessionLocker()
	if err != nil {
		return err
	}
	provider, err := goose.NewProvider(goose.DialectPostgres, pool, files, goose.WithSessionLocker(locker))
	if err != nil {
		return err
	}
	if _, err := provider.Up(ctx); err != nil {
		return fmt.Errorf("bring the tables up to date: %w", err)
	}
	for _, u := range upgrades {
		if err := s.upgrade(ctx, u); err != nil {
			return fmt.Errorf("bring the data up to date: %w", err)
		}
	}
	return nil
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
	err = s.db.WithContext(acrossWorkshops(ctx)).Model(&Making{}).Where(u.Where).Distinct().Pluck("workshop_id", &workshops).Error
	return workshops, err
}

// Ping reports whether the database answers.
func (s *Store) Ping(ctx context.Context) error {
	pool, err := s.db.DB()
	if err != nil {
		return err
	}
	return pool.PingContext(ctx)
}

// Empty reports whether no workshop was ever made.
func (s *Store) Empty(ctx context.Context) (bool, error) {
	var n int64
	err := s.db.WithContext(acrossWorkshops(ctx)).Model(&Workshop{}).Limit(1).Count(&n).Error
	return n == 0, err
}

// Tx runs f in one transaction, which is rolled back when f returns an error. It
// is ErrDone, and f is not run, when the context's key was done before.
func (s *Store) Tx(ctx context.Context, f func(*Tx) error) error {
	return s.db.WithContext(ctx).Transaction(func(db *gorm.DB) error {
		t := &Tx{db}
		if err := t.begin(ctx); err != nil {
			return err
		}
		return f(t)
	})
}

// Read returns a handle for reading outside a transaction.
func (s *Store) Read(ctx context.Context) *Tx { return &Tx{s.db.WithContext(ctx)} }

// Snapshot runs f in a read-only transaction in which all reads see the same
// moment.
func (s *Store) Snapshot(ctx context.Context, f func(*Tx) error) error {
	return s.db.WithContext(ctx).Transaction(func(db *gorm.DB) error { return f(&Tx{db}) },
		&sql.TxOptions{Isolation: sql.LevelRepeatableRead, ReadOnly: true})
}

// Tx reads and writes rows of the workshop in its context.
type Tx struct{ db *gorm.DB }

// lock waits for the lock of a name in the workshop, and holds it until the
// transaction ends.
func (t *Tx) lock(name string) error {
	workshop, _ := workshopOf(t.db.Statement.Context)
	return t.db.Exec("select pg_advisory_xact_lock(hashtextextended(@name, 0)), cast(@workshop as uuid)",
		map[string]any{"name": workshop.String() + " " + name, "workshop": workshop}).Error
}

// NewID returns a new id that sorts by time.
func NewID() uuid.UUID { return uuid.Must(uuid.NewV7()) }
