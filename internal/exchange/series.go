package exchange

import (
	"io"
	"math"
	"strconv"
	"strings"
	"time"

	"keencrock/core/curing"
	"keencrock/core/vessel"
	"keencrock/internal/problem"
)

// epoch is when a series of hours or days begins; only differences count.
var epoch = time.Date(2001, 1, 1, 0, 0, 0, 0, time.UTC)

// SeriesTime is the time of a series so many hours after its zero.
func SeriesTime(hours float64) time.Time {
	return epoch.Add(time.Duration(math.Round(hours * float64(time.Hour))))
}

// SeriesHours is the hours of a time of a series.
func SeriesHours(t time.Time) float64 { return t.Sub(epoch).Hours() }

// mostSeriesHours is as far from its zero as a series goes: a hundred years.
const mostSeriesHours = 100 * 365 * 24

// ReadWeighings reads CSV of hours,grams, and the step that the masses are written
// in. The error is an [*api.Problem] of the first bad row.
func ReadWeighings(in io.Reader) (weighings []curing.Weighing, stepG float64, err error) {
	stepG = 1
	err = eachRow(in, []string{"hours", "grams"}, func(row int, get func(string) string) error {
		hours, err := cell(row, "hours", get("hours"), -mostSeriesHours, mostSeriesHours)
		if err != nil {
			return err
		}
		g, err := cell(row, "grams", get("grams"), 0, 1e9)
		if err != nil {
			return err
		}
		if g == 0 {
			return rowProblem(row, "grams", "bad-value", "Nothing weighs 0 g: leave out what was not weighed.")
		}
		if _, decimals, found := strings.Cut(get("grams"), "."); found {
			stepG = min(stepG, math.Pow(10, -float64(len(decimals))))
		}
		weighings = append(weighings, curing.Weighing{At: SeriesTime(hours), MassG: g})
		return nil
	})
	return weighings, stepG, err
}

// vesselKinds are the events of a vessel as a series names them.
var vesselKinds = map[string]vessel.Kind{"fill": vessel.Fed, "feed": vessel.Fed, "top-up": vessel.Fed, "draw": vessel.Drawn, "stir": vessel.Stirred}

// ReadVessel reads CSV of day,event,litres, and the row of each event. The error is
// an [*api.Problem] of the first bad row.
func ReadVessel(in io.Reader) (events []vessel.Event, rows []int, err error) {
	err = eachRow(in, []string{"day", "event", "litres"}, func(row int, get func(string) string) error {
		day, err := cell(row, "day", get("day"), -mostSeriesHours/24, mostSeriesHours/24)
		if err != nil {
			return err
		}
		kind, known := vesselKinds[strings.ReplaceAll(strings.ToLower(get("event")), " ", "-")]
		if !known {
			return rowProblem(row, "event", "bad-value", "“%s” is nothing that is done to a vessel: expected fill, feed, draw, top-up or stir.", get("event"))
		}
		e := vessel.Event{Kind: kind, At: SeriesTime(24 * day)}
		if written := get("litres"); written != "" || kind != vessel.Stirred {
			litres, err := cell(row, "litres", written, 0, 1e9)
			if err != nil {
				return err
			}
			e.ML = 1000 * litres
		}
		events, rows = append(events, e), append(rows, row)
		return nil
	})
	return events, rows, err
}

// cell reads a number of a cell.
func cell(row int, column, written string, least, most float64) (float64, error) {
	v, err := strconv.ParseFloat(written, 64)
	if err != nil || !(v >= least && v <= most) {
		return 0, rowProblem(row, column, "bad-value", "“%s”: expected a number from %g to %g.", written, least, most)
	}
	return v, nil
}

// eachRow reads CSV that has all of the columns, and refuses one without rows.
func eachRow(in io.Reader, columns []string, do func(row int, get func(string) string) error) error {
	data, err := io.ReadAll(io.LimitReader(in, maxSeriesBytes+1))
	if err != nil {
		return problem.Malformed("unreadable", "The file could not be read: %v", err)
	}
	if len(data) > maxSeriesBytes {
		return problem.TooLarge("too-large", "A series is at most 4 MB.")
	}
	t, err := openTable(data, columns, columns)
	if err != nil {
		return err
	}
	for n := 0; ; n++ {
		row, get, err := t.next()
		switch {
		case err == io.EOF && n == 0:
			return problem.Unfit("empty", "The file has a header and no rows.")
		case err == io.EOF:
			return nil
		case err != nil:
			return err
		case n >= maxRows:
			return problem.Unfit("too-many-rows", "A file has at most %d rows.", maxRows)
		}
		if err := do(row, get); err != nil {
			return err
		}
	}
}

// maxSeriesBytes is the largest series read.
const maxSeriesBytes = 4 << 20
