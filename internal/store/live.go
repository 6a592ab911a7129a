package store

import (
	"context"
	"encoding/json"
	"fmt"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

// channel is the name processes notify each other under.
const channel = "keencrock"

// Change says that something in a workshop is not as it was.
type Change struct {
	Workshop uuid.UUID
	Topic    string // shelf, formulas, batches, pantry, workshop, people
	ID       string
}

// Announce tells every process about a change once the transaction commits.
func (t *Tx) Announce(topic string, id fmt.Stringer) error {
	workshop, ok := workshopOf(t.db.Statement.Context)
	if !ok {
		return ErrNoWorkshop
	}
	c := Change{Workshop: workshop, Topic: topic}
	if id != nil {
		c.ID = id.String()
	}
	payload, err := json.Marshal(c)
	if err != nil {
		return err
	}
	return t.db.Exec("select pg_notify(@channel, @payload), cast(@workshop as uuid)",
		map[string]any{"channel": channel, "payload": string(payload), "workshop": workshop}).Error
}

// Tell tells every process about a change at once, whatever is being written: how far
// something is, for one.
func (s *Store) Tell(ctx context.Context, topic, id string) error {
	workshop, ok := workshopOf(ctx)
	if !ok {
		return ErrNoWorkshop
	}
	payload, err := json.Marshal(Change{Workshop: workshop, Topic: topic, ID: id})
	if err != nil {
		return err
	}
	_, err = s.all.pool.Exec(ctx, "select pg_notify($1, $2)", channel, string(payload))
	return err
}

// Listen calls f for every change announced by any process, until the context
// ends or the connection breaks. It says when it is ready to hear.
func (s *Store) Listen(ctx context.Context, ready func(), f func(Change)) error {
	conn, err := pgx.ConnectConfig(ctx, s.pool.Config().ConnConfig)
	if err != nil {
		return fmt.Errorf("listen for changes: %w", err)
	}
	defer conn.Close(context.WithoutCancel(ctx))
	for _, sql := range []string{"select pg_advisory_lock_shared(" + inUse + ")", "listen " + channel, "listen " + keptChannel} {
		if _, err := conn.Exec(ctx, sql); err != nil {
			return fmt.Errorf("listen for changes: %w", err)
		}
	}
	s.kept.hear()
	defer s.kept.deaf()
	ready()
	for {
		n, err := next(ctx, conn)
		if err != nil {
			return err
		}
		if n.Channel == keptChannel {
			s.kept.hearKept(n.Payload)
			continue
		}
		var c Change
		if json.Unmarshal([]byte(n.Payload), &c) == nil {
			f(c)
		}
	}
}
