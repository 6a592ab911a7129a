package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"runtime"
	"strconv"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/jackc/pgx/v5/stdlib"
	"gorm.io/driver/postgres"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"
)

// Store is an open database.
type Store struct {
	pools
	all   pools // for the few questions asked across workshops
	space space
	kept  kept

	// OutsidePicture returns what a picture is made of where that does not stand in the database;
	// nil where it always does. ErrNotFound is one that is nowhere.
	OutsidePicture func(ctx context.Context, workshop, picture uuid.UUID) ([]byte, error)
}

// pools are connections that see the rows of one workshop at a time, or of all.
type pools struct {
	db   *gorm.DB
	pool *pgxpool.Pool
}

// ApplicationRole is the role whose rights daily work is done with: it owns
// nothing, and adds to what has happened without being able to change it.
const ApplicationRole = "keencrock_app"

// Limits of a statement. From memory: longer than any of ours takes, and short
// enough that a stuck one does not hold the others up for good.
const (
	statementLimit = 30 * time.Second
	lockLimit      = 10 * time.Second
	idleLimit      = time.Minute // in a transaction, doing nothing
	idleKept       = 5 * time.Minute
)

// ErrNotMigrated is a database whose tables are not there yet.
var ErrNotMigrated = errors.New("the database has no tables of Keen Crock yet: bring it up to date first")

// Open connects to a PostgreSQL URL for daily work, with the rights of
// [ApplicationRole]: as that role, or as one that may take it on. The tables have
// to be there.
func Open(ctx context.Context, url string) (*Store, error) {
	config, err := pgxpool.ParseConfig(url)
	if err != nil {
		return nil, fmt.Errorf("open the database: %w", err)
	}
	takesOn, err := takesOnRole(ctx, config.ConnConfig)
	if err != nil {
		return nil, err
	}
	if takesOn {
		config.ConnConfig.RuntimeParams["role"] = ApplicationRole
	}
	for name, limit := range map[string]time.Duration{"statement_timeout": statementLimit, "lock_timeout": lockLimit, "idle_in_transaction_session_timeout": idleLimit} {
		if _, given := config.ConnConfig.RuntimeParams[name]; !given {
			config.ConnConfig.RuntimeParams[name] = strconv.FormatInt(limit.Milliseconds(), 10)
		}
	}
	return connect(ctx, config)
}

// OpenAsOwner connects as the owner of the tables, whom no wall holds: for archives,
// and bringing tables up to date. There need be no tables.
func OpenAsOwner(ctx context.Context, url string) (*Store, error) {
	config, err := pgxpool.ParseConfig(url)
	if err != nil {
		return nil, fmt.Errorf("open the database: %w", err)
	}
	return connect(ctx, config)
}

// takesOnRole reports whether who connects has to take the application's role on.
func takesOnRole(ctx context.Context, config *pgx.ConnConfig) (bool, error) {
	conn, err := pgx.ConnectConfig(ctx, config.Copy())
	if err != nil {
		return false, fmt.Errorf("reach the database: %w", err)
	}
	defer conn.Close(context.WithoutCancel(ctx))
	var ready, may bool
	err = conn.QueryRow(ctx, `select to_regclass('workshops') is not null and r.oid is not null,
			r.oid is not null and current_user <> $1 and pg_has_role(current_user, r.oid, 'member')
		from (select to_regrole($1)::oid as oid) r`, ApplicationRole).Scan(&ready, &may)
	if err == nil && !ready {
		err = ErrNotMigrated
	}
	return may, err
}

// connect opens both kinds of connections.
func connect(ctx context.Context, config *pgxpool.Config) (*Store, error) {
	config.ConnConfig.Tracer = slowStatements{}
	all := config.Copy()
	all.ConnConfig.RuntimeParams["keencrock.workshop"] = "*"
	if !strings.Contains(config.ConnString(), "pool_max_conns") { // the address may say another budget
		config.MaxConns = int32(connections())
	}
	all.MaxConns = max(2, config.MaxConns/2)
	config.PrepareConn = nameWorkshop
	one, err := openPools(ctx, config)
	if err != nil {
		return nil, err
	}
	every, err := openPools(ctx, all)
	if err != nil {
		return nil, errors.Join(err, one.close())
	}
	return &Store{pools: one, all: every}, nil
}

func openPools(ctx context.Context, config *pgxpool.Config) (p pools, err error) {
	config.MaxConnIdleTime = idleKept
	if p.pool, err = pgxpool.NewWithConfig(ctx, config); err != nil {
		return p, fmt.Errorf("open the database: %w", err)
	}
	if err := p.pool.Ping(ctx); err != nil {
		p.pool.Close()
		return p, fmt.Errorf("reach the database: %w", err)
	}
	p.db, err = gorm.Open(postgres.New(postgres.Config{Conn: stdlib.OpenDBFromPool(p.pool)}), configuration())
	if err == nil {
		err = p.db.Use(tenancy{})
	}
	if err != nil {
		p.pool.Close()
		return p, fmt.Errorf("open the database: %w", err)
	}
	return p, nil
}

func (p *pools) close() error {
	db, err := p.db.DB()
	if err == nil {
		err = db.Close()
	}
	p.pool.Close()
	return err
}

func configuration() *gorm.Config {
	return &gorm.Config{
		Logger:                 logger.Discard,
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
func (s *Store) Close() error { return errors.Join(s.close(), s.all.close()) }

// at is the database as a context sees it: one workshop, in the transaction of its
// request where it has one, or across them.
func (s *Store) at(ctx context.Context) *gorm.DB {
	if ctx.Value(acrossKey) != nil {
		return s.all.db.WithContext(ctx)
	}
	if db := requestOf(ctx); db != nil {
		return db.WithContext(ctx)
	}
	return s.db.WithContext(ctx)
}

// requestOf is the transaction of a request that is done once; nil for any other.
func requestOf(ctx context.Context) *gorm.DB {
	db, _ := ctx.Value(requestKey{}).(*gorm.DB)
	return db
}

// Ping reports whether the database answers.
func (s *Store) Ping(ctx context.Context) error {
	return s.pool.Ping(ctx)
}

// Connections are how many are at work, ready, and allowed.
func (s *Store) Connections() (busy, idle, most int) {
	for _, p := range []*pgxpool.Pool{s.pool, s.all.pool} {
		state := p.Stat()
		busy += int(state.AcquiredConns())
		idle += int(state.IdleConns())
		most += int(state.MaxConns())
	}
	return busy, idle, most
}

// Empty reports whether no workshop was ever made.
func (s *Store) Empty(ctx context.Context) (bool, error) {
	var n int64
	err := s.at(acrossWorkshops(ctx)).Model(&Workshop{}).Limit(1).Count(&n).Error
	return n == 0, err
}

// Tx runs f in one transaction, which is rolled back when f returns an error; in that
// of a request that is done once it is a part, which is rolled back alone.
// ErrNearlyFull where there is no room to keep anything.
func (s *Store) Tx(ctx context.Context, f func(*Tx) error) error {
	if err := s.mayKeep(ctx); err != nil {
		return err
	}
	err := s.at(ctx).Transaction(func(db *gorm.DB) error { return f(&Tx{db: db}) })
	s.changed(ctx)
	return err
}

// changed lets go of what is kept of the workshop of a context, once it was written; of
// the parts of a request that is done once when all of it was.
func (s *Store) changed(ctx context.Context) {
	if ctx.Value(acrossKey) == nil && requestOf(ctx) != nil || ctx.Value(quietKey{}) != nil {
		return
	}
	workshop := uuid.Nil
	if ctx.Value(acrossKey) == nil {
		workshop, _ = workshopOf(ctx)
	}
	s.kept.letGo(workshop)
}

type quietKey struct{}

// quietly is for what is written and kept in no process.
func quietly(ctx context.Context) context.Context { return context.WithValue(ctx, quietKey{}, true) }

// Read returns a handle for reading outside a transaction.
func (s *Store) Read(ctx context.Context) *Tx {
	if ctx.Value(acrossKey) != nil || requestOf(ctx) != nil {
		return &Tx{db: s.at(ctx)}
	}
	return &Tx{s.at(ctx), &s.kept, s.kept.drops.Load()}
}

// Snapshot runs f in a read-only transaction in which all reads see the same
// moment. In a request that is done once f sees what that did so far.
func (s *Store) Snapshot(ctx context.Context, f func(*Tx) error) error {
	if ctx.Value(acrossKey) == nil && requestOf(ctx) != nil {
		return f(s.Read(ctx))
	}
	seen := &s.kept
	if ctx.Value(acrossKey) != nil {
		seen = nil
	}
	asOf := s.kept.drops.Load()
	return s.at(ctx).Transaction(func(db *gorm.DB) error { return f(&Tx{db, seen, asOf}) },
		&sql.TxOptions{Isolation: sql.LevelRepeatableRead, ReadOnly: true})
}

// Tx reads and writes rows of the workshop in its context.
type Tx struct {
	db   *gorm.DB
	kept *kept  // nil in a transaction that writes
	asOf uint64 // how often something had been let go when it began
}

// Trial runs f and takes back all that it wrote, whatever comes of it.
func (t *Tx) Trial(f func() error) error {
	conn, ctx := t.db.Statement.ConnPool, t.Context()
	if _, err := conn.ExecContext(ctx, "savepoint trial"); err != nil {
		return err
	}
	err := f()
	if _, back := conn.ExecContext(ctx, "rollback to savepoint trial"); back != nil {
		return errors.Join(err, back)
	}
	return err
}

// Apart does something that may fail by itself: what it did is taken back then, and the
// transaction goes on as if it had not been tried.
func (t *Tx) Apart(f func() error) error {
	conn, ctx := t.db.Statement.ConnPool, t.Context()
	if _, err := conn.ExecContext(ctx, "savepoint apart"); err != nil {
		return err
	}
	err := f()
	if err != nil {
		if _, back := conn.ExecContext(ctx, "rollback to savepoint apart"); back != nil {
			return errors.Join(err, back)
		}
	}
	if _, released := conn.ExecContext(ctx, "release savepoint apart"); released != nil {
		return errors.Join(err, released)
	}
	return err
}

// Context is that of the transaction.
func (t *Tx) Context() context.Context { return t.db.Statement.Context }

// lock waits for the lock of a name in the workshop, and holds it until the
// transaction ends.
func (t *Tx) lock(name string) error {
	workshop, _ := workshopOf(t.db.Statement.Context)
	return t.db.Exec("select pg_advisory_xact_lock(hashtextextended(@name, 0)), cast(@workshop as uuid)",
		map[string]any{"name": workshop.String() + " " + name, "workshop": workshop}).Error
}

// NewID returns a new id that sorts by time.
func NewID() uuid.UUID { return uuid.Must(uuid.NewV7()) }
