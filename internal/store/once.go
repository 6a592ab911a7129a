package store

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// DoneRequest is something that was asked with a key, and what was answered.
type DoneRequest struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	Key        uuid.UUID `gorm:"primaryKey"`
	Request    []byte    // a hash of all that was asked
	Status     int       // 0 while it is done, and where an earlier version kept no answer
	Media      string
	Answer     []byte
	At         time.Time
}

// keptFor is how long a key is known.
const keptFor = 7 * 24 * time.Hour

type requestKey struct{}

// errRefused takes back the transaction of a request that was refused.
var errRefused = errors.New("the request was refused")

// Once does a request in one transaction, which is that of all that is read and changed
// with the context it hands on, and keeps its key and its answer with what it does: all of
// it, or nothing. Where the key was kept before, nothing is done, and what was answered
// comes back; one that is being done at this moment is waited for. An answer of 400 and
// above keeps nothing.
func (s *Store) Once(ctx context.Context, r DoneRequest, do func(context.Context) (*DoneRequest, error)) (before *DoneRequest, err error) {
	if err := s.mayKeep(ctx); err != nil {
		return nil, err
	}
	err = s.db.WithContext(ctx).Transaction(func(db *gorm.DB) error {
		t := &Tx{db: db}
		if before, err = t.keepKey(r); err != nil || before != nil {
			return err
		}
		answer, err := do(context.WithValue(ctx, requestKey{}, db))
		if err != nil {
			return err
		}
		if answer.Status >= 400 {
			return errRefused
		}
		return t.db.Model(&DoneRequest{}).Where("key = ?", r.Key).
			Updates(map[string]any{"status": answer.Status, "media": answer.Media, "answer": answer.Answer}).Error
	})
	s.changed(ctx)
	if errors.Is(err, errRefused) {
		err = nil
	}
	return before, err
}

// keepKey keeps a key, or returns what was kept with it before.
func (t *Tx) keepKey(r DoneRequest) (before *DoneRequest, err error) {
	if err := t.db.Where("at < ?", r.At.Add(-keptFor)).Delete(&DoneRequest{}).Error; err != nil {
		return nil, err
	}
	kept := t.db.Clauses(clause.OnConflict{DoNothing: true}).Create(&r)
	if kept.Error != nil || kept.RowsAffected == 1 {
		return nil, kept.Error
	}
	before = &DoneRequest{}
	return before, t.db.Where("key = ?", r.Key).Take(before).Error
}
