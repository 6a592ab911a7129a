package store

import (
	"context"
	"log/slog"
	"time"

	"github.com/jackc/pgx/v5"
)

// slowFrom is from when on a statement is told of in the log. From memory: ten times
// what the slowest list takes with 100,000 batches.
const slowFrom = 300 * time.Millisecond

// slowStatements tells of statements that take long, with their words and without their
// values, which are people's.
type slowStatements struct{}

type beganKey struct{}

type began struct {
	sql string
	at  time.Time
}

// TraceQueryStart is called by pgx.
func (slowStatements) TraceQueryStart(ctx context.Context, _ *pgx.Conn, d pgx.TraceQueryStartData) context.Context {
	return context.WithValue(ctx, beganKey{}, began{d.SQL, time.Now()})
}

// TraceQueryEnd is called by pgx.
func (slowStatements) TraceQueryEnd(ctx context.Context, _ *pgx.Conn, d pgx.TraceQueryEndData) {
	b, _ := ctx.Value(beganKey{}).(began)
	took := time.Since(b.at)
	if b.sql == "" || took < slowFrom {
		return
	}
	workshop, _ := workshopOf(ctx)
	slog.Warn("slow statement", "ms", took.Milliseconds(), "rows", d.CommandTag.RowsAffected(), "workshop", workshop, "sql", b.sql)
}
