package store

import (
	"context"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/logger"
)

// recorder keeps the statements that are run, with their values.
type recorder struct {
	logger.Interface
	statements []string
}

func (r *recorder) LogMode(logger.LogLevel) logger.Interface { return r }

func (r *recorder) Trace(_ context.Context, _ time.Time, f func() (string, int64), _ error) {
	sql, _ := f()
	r.statements = append(r.statements, sql)
}

// Statements are the statements that f runs.
func (t *Tx) Statements(f func(*Tx) error) ([]string, error) {
	r := &recorder{Interface: logger.Discard}
	err := f(&Tx{db: t.db.Session(&gorm.Session{Logger: r})})
	return r.statements, err
}

// Setting is a setting of a connection.
func (s *Store) Setting(ctx context.Context, name string) (value string, err error) {
	return value, s.pool.QueryRow(ctx, "select current_setting($1)", name).Scan(&value)
}

// Sleep is a statement that takes so many seconds.
func (t *Tx) Sleep(word string, seconds float64) error {
	var done string
	return t.sql("select @word || cast(pg_sleep(@seconds) as text) || cast(@workshop as text)", map[string]any{"word": word, "seconds": seconds}).Scan(&done).Error
}

// To takes the tables of an owner's database to a version, up or down.
func (s *Store) To(ctx context.Context, version int64) error {
	p, err := s.provider()
	if err != nil {
		return err
	}
	now, err := p.GetDBVersion(ctx)
	if err == nil && now > version {
		_, err = p.DownTo(ctx, version)
	} else if err == nil {
		_, err = p.UpTo(ctx, version)
	}
	return err
}

// MostWorkshops is how many a process keeps something of.
const MostWorkshops = mostWorkshops

// Remembered is of how many workshops something is kept.
func (s *Store) Remembered() int {
	s.kept.mu.Lock()
	defer s.kept.mu.Unlock()
	return len(s.kept.of)
}

// Exec runs a statement as whoever the store is.
func (s *Store) Exec(ctx context.Context, sql string) error {
	_, err := s.pool.Exec(ctx, sql)
	return err
}
