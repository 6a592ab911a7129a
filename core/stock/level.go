package stock

import "time"

// SoonDays is how near a date is worth a mark. Common practice.
const SoonDays = 45

// Nearness is how near its date something is.
type Nearness int

// Far off, soon, or past.
const (
	Far Nearness = iota
	Soon
	Past
)

// NearnessOn says how near a date is on a day; no date is far off.
func NearnessOn(date, day time.Time) Nearness {
	switch {
	case date.IsZero():
		return Far
	case date.Before(day):
		return Past
	case date.Before(day.AddDate(0, 0, SoonDays)):
		return Soon
	}
	return Far
}

// Mark is what is worth knowing of the lots of an item before one reaches for
// them.
type Mark string

// The marks, in the order they are shown.
const (
	MarkOut      Mark = "out"
	MarkPast     Mark = "past"
	MarkClumped  Mark = "clumped"
	MarkSetAside Mark = "set-aside"
	MarkLow      Mark = "low"
	MarkSoon     Mark = "soon"
	MarkOpened   Mark = "opened"
)

// Level is how an item stands on the shelf.
type Level struct {
	Lots   int
	Stock  float64 // all that is there
	Usable float64 // neither past its date nor set aside
	// Full is how full its jar is drawn, 0 to 1: half full is the reorder point,
	// full is twice it.
	Full     float64
	NextDate time.Time // the nearest of what is usable; zero without any
	Marks    []Mark
}

// usualReorder is the reorder point that a jar is drawn by where none is set.
const usualReorder = 2500

// LevelOn says how the lots of one item stand on a day, beside its reorder
// point; 0 for none.
func LevelOn(lots []Lot, reorder float64, day time.Time) Level {
	out := Level{Lots: len(lots)}
	var past, clumped, setAside, opened bool
	for i := range lots {
		l := &lots[i]
		out.Stock += l.Remaining
		if l.UsableOn(day) {
			out.Usable += l.Remaining
			if !l.BestBefore.IsZero() && (out.NextDate.IsZero() || l.BestBefore.Before(out.NextDate)) {
				out.NextDate = l.BestBefore
			}
		}
		past = past || l.PastOn(day)
		clumped = clumped || l.Clumped
		setAside = setAside || l.SetAside
		opened = opened || !l.Opened.IsZero()
	}
	point := reorder
	if point <= 0 {
		point = usualReorder
	}
	out.Full = min(1, out.Usable/(2*point))
	for _, m := range []struct {
		mark Mark
		is   bool
	}{
		{MarkOut, out.Usable <= 0}, {MarkPast, past}, {MarkClumped, clumped}, {MarkSetAside, setAside},
		{MarkLow, out.Usable > 0 && out.Usable < reorder}, {MarkSoon, NearnessOn(out.NextDate, day) == Soon}, {MarkOpened, opened},
	} {
		if m.is {
			out.Marks = append(out.Marks, m.mark)
		}
	}
	return out
}

// UsableByItem sums what may be drawn of each item on a day: what open makings
// hold is not to be had.
func UsableByItem(lots []Lot, day time.Time) map[string]float64 {
	out := map[string]float64{}
	for i := range lots {
		if l := &lots[i]; l.UsableOn(day) {
			out[l.Item] += l.Available()
		}
	}
	return out
}
