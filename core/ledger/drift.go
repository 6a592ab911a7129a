package ledger

import (
	"math"
	"time"
)

// Paid is what a kilogram cost on a day.
type Paid struct {
	Day   time.Time
	PerKg float64
}

// jumpFrom is the change from one purchase to the next that is worth a mark: a fifth. From
// memory.
const jumpFrom = 0.2

// Jump is the change of a price as a share, and whether it is worth a mark.
func Jump(before, after float64) (rise float64, marked bool) {
	if before <= 0 {
		return 0, false
	}
	rise = after/before - 1
	return rise, math.Abs(rise) > jumpFrom
}

// driftFrom is how long prices have to be known before a drift a year is told: a quarter.
// From memory.
const driftFrom = 90 * 24 * time.Hour

// DriftAYear is how a price moves in a year, as a share: the slope of the straight line
// through the logarithms of what was paid, by least squares. ok is false under three
// purchases or a quarter of a year.
func DriftAYear(paid []Paid) (drift float64, ok bool) {
	if len(paid) < 3 || paid[len(paid)-1].Day.Sub(paid[0].Day) < driftFrom {
		return 0, false
	}
	const yearH = 365.25 * 24
	n, sx, sy, sxx, sxy := float64(len(paid)), 0.0, 0.0, 0.0, 0.0
	for _, p := range paid {
		if p.PerKg <= 0 {
			return 0, false
		}
		x, y := p.Day.Sub(paid[0].Day).Hours()/yearH, math.Log(p.PerKg)
		sx, sy, sxx, sxy = sx+x, sy+y, sxx+x*x, sxy+x*y
	}
	d := n*sxx - sx*sx
	if d <= 0 {
		return 0, false
	}
	return math.Expm1((n*sxy - sx*sy) / d), true
}
