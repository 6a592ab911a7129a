package planning

import (
	"math"
	"slices"
)

// Method is how a rate was reckoned.
type Method string

// The methods.
const (
	Steady Method = "steady" // simple exponential smoothing
	Drift  Method = "drift"  // with a trend: Holt 1957
	Seldom Method = "seldom" // Croston 1972 with the correction of Syntetos and Boylan 2005
)

// Rate is how much of a good goes a week, from what went before.
type Rate struct {
	Method  Method
	PerWeek float64 // in the week to come
	Trend   float64 // more each week after it
	Weeks   int     // it is reckoned from
	spread  float64 // standard deviation of what a week misses the rate by
	alpha   float64
}

// Bounds of what a rate is reckoned from. From memory: handbooks ask for eight to ten
// values before anything is smoothed, and call a good seldom when less than one period in
// 1.32 sees any (Syntetos, Boylan and Croston 2005).
const (
	leastWeeks     = 8
	seldomInterval = 1.32
	crostonAlpha   = 0.1
)

// inBand is how many standard deviations to each side hold eight weeks in ten, where what
// is missed is normal.
const inBand = 1.2816

// Reckon reckons a rate from what went in each week, the earliest first; weeks before the
// first in which any went are left out. It reports false where that is fewer than eight.
func Reckon(weekly []float64) (Rate, bool) {
	first := slices.IndexFunc(weekly, func(x float64) bool { return x > 0 })
	if first < 0 || len(weekly)-first < leastWeeks {
		return Rate{}, false
	}
	weekly = weekly[first:]
	with := 0
	for _, x := range weekly {
		if x > 0 {
			with++
		}
	}
	if float64(len(weekly))/float64(with) > seldomInterval {
		return seldom(weekly), true
	}
	flat, missed := smoothest(weekly, []float64{0})
	drift, missedWithTrend := smoothest(weekly, []float64{0.05, 0.1, 0.2, 0.3})
	n := float64(len(weekly))
	// a trend has to earn its two parameters (corrected information criterion of Akaike)
	if drift.Method = Drift; criterion(missedWithTrend, n, 4) < criterion(missed, n, 2) {
		return drift, true
	}
	flat.Method = Steady
	return flat, true
}

// criterion is Akaike's, corrected for few values: n values missed by so much in squares
// together, with k parameters and the spread.
func criterion(squares, n, k float64) float64 {
	k++
	return n*math.Log(squares/n+1e-12) + 2*k + 2*k*(k+1)/max(1, n-k-1)
}

// smoothest finds the weight of what is new that misses least, from 0.05 to 0.95.
func smoothest(weekly, betas []float64) (best Rate, squares float64) {
	squares = math.Inf(1)
	level, trend := begins(weekly, betas[0] > 0)
	for alpha := 0.05; alpha < 0.96; alpha += 0.05 {
		for _, beta := range betas {
			rate, missed := Smooth(weekly, level, trend, alpha, beta)
			if missed < squares {
				best, squares = rate, missed
			}
		}
	}
	return best, squares
}

// begins is where smoothing begins: at the mean of the first weeks, or at the line of least
// squares through them all.
func begins(weekly []float64, trend bool) (level, slope float64) {
	if !trend {
		for _, x := range weekly[:leastWeeks] {
			level += x / leastWeeks
		}
		return level, 0
	}
	n := float64(len(weekly))
	var sx, sy, sxx, sxy float64
	for i, y := range weekly {
		x := float64(i + 1)
		sx, sy, sxx, sxy = sx+x, sy+y, sxx+x*x, sxy+x*y
	}
	slope = (n*sxy - sx*sy) / (n*sxx - sx*sx)
	return (sy - slope*sx) / n, slope
}

// Smooth smooths values from a level and a trend, with the weights alpha of a new level and
// beta of a new trend (0 for none): Holt's linear method, which is simple exponential
// smoothing where there is no trend. It returns the rate and the sum of squares of what
// each value was missed by a step before.
func Smooth(values []float64, level, trend, alpha, beta float64) (rate Rate, squares float64) {
	for _, x := range values {
		miss := x - (level + trend)
		squares += miss * miss
		was := level
		level = alpha*x + (1-alpha)*(level+trend)
		if beta > 0 {
			trend = beta*(level-was) + (1-beta)*trend
		}
	}
	return Rate{PerWeek: max(0, level+trend), Trend: trend, Weeks: len(values), alpha: alpha,
		spread: math.Sqrt(squares / max(1, float64(len(values)-1)))}, squares
}

// Croston smooths how much goes when any goes, and how many periods lie between, with one
// weight; values with nothing in them only lengthen the interval. It is begun with the first
// amount and the first interval.
func Croston(values []float64, alpha float64) (amount, interval float64) {
	since := 0.0
	for _, x := range values {
		since++
		switch {
		case x <= 0:
			continue
		case amount == 0:
			amount, interval = x, since
		default:
			amount, interval = amount+alpha*(x-amount), interval+alpha*(since-interval)
		}
		since = 0
	}
	return amount, interval
}

// seldom is the rate of what goes seldom. Croston's own is too high by a share that
// Syntetos and Boylan give as half the weight.
func seldom(weekly []float64) Rate {
	amount, interval := Croston(weekly, crostonAlpha)
	n := float64(len(weekly))
	mean, squares := 0.0, 0.0
	for _, x := range weekly {
		mean += x / n
	}
	for _, x := range weekly {
		squares += (x - mean) * (x - mean)
	}
	return Rate{Method: Seldom, PerWeek: (1 - crostonAlpha/2) * amount / interval, Weeks: len(weekly), spread: math.Sqrt(squares / (n - 1))}
}

// Over is what goes in so many weeks to come, with the band that holds it eight times in
// ten: what each week misses adds up, and of a smoothed rate so does what the level is
// wrong by (Hyndman and Athanasopoulos; the trend itself is taken as it is). Nothing goes
// below zero.
func (r Rate) Over(weeks int) (mean, low, high float64) {
	variance := 0.0
	for k := range weeks {
		mean += max(0, r.PerWeek+float64(k)*r.Trend)
		carried := 1.0
		if r.Method != Seldom {
			carried += float64(weeks-1-k) * r.alpha
		}
		variance += r.spread * r.spread * carried * carried
	}
	band := inBand * math.Sqrt(variance)
	return mean, max(0, mean-band), mean + band
}
