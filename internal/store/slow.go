package store

import (
	"context"
	"log/slog"
	"time"

	"gorm.io/gorm/logger"
)

// slowFrom is from when on a statement is told of in the log. From memory: ten times
// what the slowest list takes with 100,000 batches.
const slowFrom = 300 * time.Millisecond

// slowLog tells of statements that take long, with their words and without their values.
// What went wrong with one is told by who asked for it.
type slowLog struct{ logger.Interface }

func newSlowLog() logger.Interface { return slowLog{logger.Discard} }

func (l slowLog) LogMode(logger.LogLevel) logger.Interface { return l }

// ParamsFilter leaves the values out: they are people's.
func (slowLog) ParamsFilter(_ context.Context, sql string, _ ...any) (string, []any) {
	return sql, nil
}

func (slowLog) Trace(ctx context.Context, begin time.Time, statement func() (string, int64), _ error) {
	took := time.Since(begin)
	if took < slowFrom {
		return
	}
	sql, rows := statement()
	workshop, _ := workshopOf(ctx)
	slog.Warn("slow statement", "ms", took.Milliseconds(), "rows", rows, "workshop", workshop, "sql", sql)
}
