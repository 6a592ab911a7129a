package store

import (
	"context"
	"errors"
	"time"

	"gorm.io/gorm"
)

// Upkeep is a task that one process does for all, and when it was last begun.
type Upkeep struct {
	Task   string `gorm:"primaryKey"`
	DoneAt time.Time
	Failed string // why it could not be done; empty when it was
}

// TableName is read by GORM.
func (Upkeep) TableName() string { return "upkeep" }

// ClaimUpkeep reports whether a task that was due at a time is to be done now, by who
// asks: of many processes one is told so.
func (s *Store) ClaimUpkeep(ctx context.Context, task string, due, now time.Time) (bool, error) {
	result := s.at(acrossWorkshops(ctx)).Exec(`insert into upkeep (task, done_at) values (?, ?)
		on conflict (task) do update set done_at = excluded.done_at, failed = '' where upkeep.done_at < ?`, task, now, due)
	return result.RowsAffected > 0, result.Error
}

// FailUpkeep says why a task that was claimed could not be done: it counts as done at
// an earlier time again.
func (s *Store) FailUpkeep(ctx context.Context, task, why string, doneAt time.Time) error {
	return s.at(acrossWorkshops(ctx)).Exec("update upkeep set failed = ?, done_at = ? where task = ?", why, doneAt, task).Error
}

// Upkeep is when a task was last done; ErrNotFound when never.
func (s *Store) Upkeep(ctx context.Context, task string) (*Upkeep, error) {
	var u Upkeep
	err := s.at(acrossWorkshops(ctx)).Where("task = ?", task).Take(&u).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return nil, ErrNotFound
	}
	return &u, err
}
