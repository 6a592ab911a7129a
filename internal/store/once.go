package store

import (
	"context"
	"sync/atomic"
	"time"

	"github.com/google/uuid"
)

// DoneRequest is something that was asked with a key, and what was answered.
type DoneRequest struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	Key        uuid.UUID `gorm:"primaryKey"`
	Request    []byte    // a hash of all that was asked
	Status     int       // 0 until it is answered
	Media      string
	Answer     []byte
	At         time.Time
}

// keptFor is how long a key is known.
const keptFor = 7 * 24 * time.Hour

type onceKey struct{}

// once is a request that is done with the first transaction of its context.
type once struct {
	request DoneRequest
	begun   atomic.Bool
}

// WithKey returns a context whose first transaction keeps the key with what it
// does: both, or neither. It is [ErrDone] when the key was kept before.
func WithKey(ctx context.Context, r DoneRequest) context.Context {
	return context.WithValue(ctx, onceKey{}, &once{request: r})
}

// begin keeps the key of a context, where it has one.
func (t *Tx) begin(ctx context.Context) error {
	o, _ := ctx.Value(onceKey{}).(*once)
	if o == nil || !o.begun.CompareAndSwap(false, true) {
		return nil
	}
	if err := t.db.Where("at < ?", o.request.At.Add(-keptFor)).Delete(&DoneRequest{}).Error; err != nil {
		return err
	}
	row := o.request
	if err := orTaken(t.db.Create(&row).Error); err != nil {
		if err == ErrTaken {
			return ErrDone
		}
		return err
	}
	return nil
}

// DoneRequest returns what was asked with a key; ErrNotFound when nothing was.
func (t *Tx) DoneRequest(key uuid.UUID) (*DoneRequest, error) {
	var r DoneRequest
	return &r, orNotFound(t.db.Where("key = ?", key).Take(&r).Error)
}

// KeepAnswer keeps what was answered to a request that was done.
func (t *Tx) KeepAnswer(r *DoneRequest) error {
	return t.db.Model(&DoneRequest{}).Where("key = ?", r.Key).
		Updates(map[string]any{"status": r.Status, "media": r.Media, "answer": r.Answer}).Error
}
