package vessel

import (
	"slices"
	"time"
)

// nothing is a share of a feed so small that it is rounding, not liquid. What is left
// out of one draw is in no other, so that it is far below what all draws together may
// miss.
const nothing = 1e-12

// Share is what a draw took of what was fed at one time, 0 to 1.
type Share struct {
	Feed  int // in the events given
	Share float64
}

// Shares says what a draw at a time takes of each feed before it: since a vat is
// stirred, the same share of all that was fed and is still in it, of sugar and peel as
// of liquid. What earlier draws took is gone. Feeds of which nothing is left are not
// told. A draw of more than there is takes all.
func Shares(events []Event, ml float64, at time.Time) []Share {
	order := make([]int, len(events))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return events[a].At.Compare(events[b].At) })
	level := 0.0
	left := map[int]float64{}
	take := func(ml float64) float64 {
		if level <= tolerance {
			return 0
		}
		share := min(1, ml/level)
		level -= share * level
		return share
	}
	for _, i := range order {
		e := &events[i]
		if e.At.After(at) {
			break
		}
		switch e.Kind {
		case Fed:
			level += e.ML
			left[i] = 1
		case Drawn:
			share := take(e.ML)
			for f := range left {
				left[f] *= 1 - share
			}
		}
	}
	share := take(ml)
	var out []Share
	for _, i := range order {
		if of := left[i] * share; of > nothing {
			out = append(out, Share{i, of})
		}
	}
	return out
}
