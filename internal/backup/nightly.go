package backup

import (
	"context"
	"fmt"
	"log/slog"
	"time"

	"keencrock/internal/store"
)

// Nightly takes a backup once a day.
type Nightly struct {
	Folder Folder
	Keep   int           // how many nights are kept
	At     time.Duration // after midnight, by the clock of the machine
	Now    func() time.Time
	After  func(context.Context) error // what is tidied once a backup was taken; nil for nothing
}

// NightlyTask is the name under which is kept when the last one was taken.
const NightlyTask = "backup"

const (
	lookEvery  = time.Minute
	tryAgainIn = 30 * time.Minute
)

// ParseAt reads a time of the day, as 03:00.
func ParseAt(written string) (time.Duration, error) {
	t, err := time.Parse("15:04", written)
	if err != nil {
		return 0, fmt.Errorf("a time of the day looks like 03:00, not %q", written)
	}
	return time.Duration(t.Hour())*time.Hour + time.Duration(t.Minute())*time.Minute, nil
}

// due is when the newest backup should have been taken.
func (n Nightly) due(now time.Time) time.Time {
	midnight := time.Date(now.Year(), now.Month(), now.Day(), 0, 0, 0, 0, now.Location())
	due := midnight.Add(n.At)
	if due.After(now) {
		due = midnight.AddDate(0, 0, -1).Add(n.At)
	}
	return due
}

// Run looks again and again whether a backup is due, until the context ends. One that
// was missed, since the machine was off, is taken as soon as it can be. Of many
// processes on one database one takes it.
func (n Nightly) Run(ctx context.Context, s *store.Store) {
	for {
		wait := lookEvery
		if err := n.Once(ctx, s); err != nil && ctx.Err() == nil {
			slog.Error("no backup could be taken", "error", err)
			wait = tryAgainIn
		}
		select {
		case <-ctx.Done():
			return
		case <-time.After(wait):
		}
	}
}

// Once takes a backup if one is due.
func (n Nightly) Once(ctx context.Context, s *store.Store) error {
	now := n.Now()
	due := n.due(now)
	mine, err := s.ClaimUpkeep(ctx, NightlyTask, due, now)
	if err != nil || !mine {
		return err
	}
	path, err := n.Folder.Take(ctx, s, "night", now)
	if err == nil {
		slog.Info("a backup was taken", "file", path)
		if n.After != nil {
			if err := n.After(ctx); err != nil {
				slog.Warn("what was left behind could not be tidied", "error", err)
			}
		}
		return n.Folder.keep("night-*", n.Keep)
	}
	if failed := s.FailUpkeep(context.WithoutCancel(ctx), NightlyTask, err.Error(), due.Add(-time.Second)); failed != nil {
		slog.Error("that a backup failed could not be noted", "error", failed)
	}
	return err
}
