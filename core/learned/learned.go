// Package learned makes a workshop's own figures of what it measured: what a cup of its
// soda weighs, how big its drops are, how long its tabs dry.
//
// A figure of the library is what is usual, with a band; a few measurements do not throw it
// away, they pull it. On the scale of logarithms, on which a figure and its half are as far
// apart as a figure and its double, what is usual is a normal of which the band holds
// nineteen twentieths, and each measurement is a normal round what is true here. The likely
// value is their mean by how sure each is (the normal–normal rule, Gelman et al., Bayesian
// Data Analysis, chapter 2): one weighing pulls most of the way, five decide it. Where
// nothing is usual, the measurements stand alone. What is measured is never given more than
// it can carry: the band holds what the next cup may be, and not only the mean of many.
package learned

import (
	"math"

	"gonum.org/v1/gonum/stat"

	"keencrock/core/quantity"
)

// Repeat is how far one measurement of a kind usually falls from the next, as a share: the
// standard deviation of its logarithm. All are from memory.
type Repeat float64

// The kinds of what is measured.
const (
	OfACup     Repeat = 0.04 // the mass of a level cup, by one pair of hands
	OfAPiece   Repeat = 0.06 // of a bar, a nut, a lemon
	OfADrop    Repeat = 0.08 // counted out of one bottle, held the same way
	OfAVessel  Repeat = 0.02 // what a mug or a scoop holds
	OfAHandful Repeat = 0.12
	OfDrying   Repeat = 0.15 // from one day's air to the next
	OfAStep    Repeat = 0.35 // minutes of hands, from one batch to the next
)

// asUsual is how many measurements the usual repeat counts for beside the scatter that was
// seen: with two that agree by chance nothing is known to the gram. From memory.
const asUsual = 4

// toldExactly is the spread of a usual figure that stands without a band. From memory: a
// figure on a packet is good to a tenth.
const toldExactly = 0.05

// in95 is how many standard deviations hold nineteen twentieths on one side.
const in95 = 1.959964

// apart is how many standard deviations a mean may lie from what is usual before it is asked
// whether it is the same thing. From memory.
const apart = 3

// Figure is what a workshop's measurements make of a figure.
type Figure struct {
	quantity.Range
	Usual quantity.Range // what it was before; zero where nothing is usual
	Count int            // of measurements
	// Share is how much of it the measurements decide, 0 to 1.
	Share float64
	// Apart says that they lie so far from what is usual that it may not be the same thing.
	Apart bool
}

// Learn is the figure that measurements make of what is usual, which is zero where nothing
// is. Without measurements it is what is usual, unchanged. All must be positive; others are
// left out. Their order does not count.
func Learn(usual quantity.Range, measured []float64, repeat Repeat) Figure {
	logs := make([]float64, 0, len(measured))
	for _, m := range measured {
		if m > 0 && !math.IsInf(m, 0) {
			logs = append(logs, math.Log(m))
		}
	}
	out := Figure{Range: usual, Usual: usual, Count: len(logs)}
	if out.Count == 0 {
		return out
	}
	n := float64(out.Count)
	mean, within := stat.Mean(logs, nil), squared(float64(repeat))
	if out.Count > 1 {
		seen := stat.Variance(logs, nil)
		within = (asUsual*within + (n-1)*seen) / (asUsual + n - 1)
	}
	if usual.Value <= 0 {
		out.Share = 1
		out.Range = around(mean, within/n+within)
		return out
	}
	prior, spread := math.Log(usual.Value), logSpread(usual)
	// what is usual holds both how workshops differ and how one cup differs from the next
	between := squared(spread) - min(squared(float64(repeat)), squared(spread)/2)
	out.Share = between / (between + within/n)
	left := between * (1 - out.Share)
	out.Range = around(prior+out.Share*(mean-prior), left+min(within, max(squared(spread)/2, seenOnly(within, repeat))))
	out.Apart = math.Abs(mean-prior) > apart*math.Sqrt(squared(spread)+within/n)
	return out
}

// seenOnly is the scatter that was seen beyond the usual: then the next one may be as far
// off, whatever is usual.
func seenOnly(within float64, repeat Repeat) float64 {
	if within > squared(float64(repeat)) {
		return within
	}
	return 0
}

// logSpread is the standard deviation of the logarithm of a band of nineteen twentieths.
func logSpread(usual quantity.Range) float64 {
	if usual.Low <= 0 || usual.High <= usual.Low*(1+1e-6) {
		return toldExactly
	}
	return math.Log(usual.High/usual.Low) / (2 * in95)
}

// around is the band of nineteen twentieths round a logarithm.
func around(log, variance float64) quantity.Range {
	half := in95 * math.Sqrt(variance)
	return quantity.Range{Value: math.Exp(log), Low: math.Exp(log - half), High: math.Exp(log + half)}
}

// saidOfDrying is how far what is said of drying, as “a day”, is usually off, as a share
// either way. From memory.
const saidOfDrying = 0.5

// SaidHours is what is usual where a step says how long it takes: its likely hours, with a
// band of half of them either way at the least.
func SaidHours(low, high float64) quantity.Range {
	if high <= 0 {
		return quantity.Range{}
	}
	r := quantity.Between(low, high)
	return quantity.Range{Value: r.Value, Low: min(r.Low, r.Value*(1-saidOfDrying)), High: max(r.High, r.Value*(1+saidOfDrying))}
}

func squared(x float64) float64 { return x * x }
