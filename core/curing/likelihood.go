package curing

import (
	"cmp"
	"math"
	"slices"
	"time"

	"keencrock/core/quantity"
)

// rateSteps is how many rates are looked at, first over all of them and then, as
// closeSteps, over those that fit; endSteps is how many ends of each.
const (
	rateSteps  = 120
	closeSteps = 48
	endSteps   = 9
)

// doubts are how much more or less a weighing may be off than the scale should be,
// and how likely each is beforehand. From memory.
var doubts = []struct{ times, weight float64 }{{0.4, 0.2}, {0.8, 0.35}, {1.6, 0.25}, {3.2, 0.12}, {6.4, 0.08}}

// faintest is the likelihood below which a rate is passed over, as a share of the
// best.
const faintest = 1e-5

// fit weighs every rate, every end between two bounds and every doubt of the scale by
// how well they give the weighings, the first of which is how it began. off is how far
// a weighing should be off at the most.
func fit(seen []Weighing, lowG, highG, off float64) Forecast {
	d := data{seen: seen, low: lowG, high: highG}
	from, to := math.Log(slowest), math.Log(fastest)
	step := (to - from) / rateSteps
	var curves []curve
	for _, doubt := range doubts {
		d.off = off * doubt.times
		least, most := span(d.scan(from, to, rateSteps))
		width := min(to, most+step) - max(from, least-step)
		// likelier the wider the rates that are looked at closely, and the less it is off
		prior := math.Log(doubt.weight) + math.Log(width) - float64(len(seen)-d.linear())*math.Log(d.off)
		for _, c := range d.scan(max(from, least-step), min(to, most+step), closeSteps) {
			c.log += prior
			curves = append(curves, c)
		}
	}
	var ends, rates, hours spread
	top := likeliest(curves)
	for _, c := range curves {
		weight := math.Exp(c.log - top)
		if weight < faintest {
			continue
		}
		rates.add(c.rate, weight)
		for j := range endSteps {
			end, began := c.at((float64(j) + 0.5) / endSteps)
			ends.add(end, weight/endSteps)
			hours.add(hoursUntilReady(began, end, c.rate), weight/endSteps)
		}
	}
	f := Forecast{BeganG: seen[0].MassG, Began: seen[0].At, EndG: ends.middle(), PerHour: rates.middle()}
	ready := hours.middle()
	at := func(hours float64) time.Time { return f.Began.Add(time.Duration(hours * float64(time.Hour))) }
	f.Ready, f.ReadyEarly, f.ReadyLate = at(ready.Value), at(ready.Low), at(ready.High)
	return f
}

// data are weighings and what is known of them.
type data struct {
	seen      []Weighing
	low, high float64
	off       float64
}

func (d *data) endKnown() bool { return d.low == d.high }

// linear is how many figures are worked out for a rate: the beginning, and the end
// where it is not known.
func (d *data) linear() int {
	if d.endKnown() {
		return 1
	}
	return 2
}

// scan looks at so many rates between two logarithms.
func (d *data) scan(from, to float64, steps int) []curve {
	curves := make([]curve, steps)
	for i := range curves {
		curves[i] = d.curve(math.Exp(from + (to-from)*(float64(i)+0.5)/float64(steps)))
	}
	return curves
}

// curve is all ends that a rate may have: given the rate, a mass is linear in the
// end and the beginning, so that both are normal about their least squares.
type curve struct {
	rate        float64
	log         float64 // how likely the rate is
	end, spread float64 // of the end, normal
	below, upto float64 // the shares of it that the bounds cut off and leave
	// the beginning that goes with an end: fixed + slope · end
	fixed, slope float64
}

func (d *data) curve(rate float64) curve {
	// m = end·(1−e) + began·e
	var ee, eu, uu, em, um, mm float64
	for _, w := range d.seen {
		e := math.Exp(-rate * w.At.Sub(d.seen[0].At).Hours())
		u, m := 1-e, w.MassG-d.seen[0].MassG // about the beginning, for the sake of digits
		ee, eu, uu = ee+e*e, eu+e*u, uu+u*u
		em, um, mm = em+e*m, um+u*m, mm+m*m
	}
	c := curve{rate: rate, fixed: em / ee, slope: -eu / ee}
	zero := d.seen[0].MassG
	square := d.off * d.off
	if d.endKnown() {
		c.end = d.low - zero
		began := c.fixed + c.slope*c.end
		misfit := max(0, mm-2*(c.end*um+began*em)+c.end*c.end*uu+2*c.end*began*eu+began*began*ee) / square
		c.log, c.upto = -misfit/2-math.Log(ee)/2, 1
	} else {
		free := uu - eu*eu/ee // of what is left of the end when the beginning follows it
		if free <= 1e-12 {
			c.log = math.Inf(-1)
			return c
		}
		c.end = (um - eu*em/ee) / free
		c.spread = d.off / math.Sqrt(free)
		c.below, c.upto = normal((d.low-zero-c.end)/c.spread), normal((d.high-zero-c.end)/c.spread)
		inside := c.upto - c.below
		if inside <= 1e-300 {
			c.log = math.Inf(-1)
			return c
		}
		c.log = -max(0, mm-em*em/ee-c.end*c.end*free)/square/2 + math.Log(inside) - math.Log(ee*free)/2
	}
	c.fixed += zero - c.slope*zero // from about the beginning to grams
	c.end += zero
	return c
}

// at is the end below which a share of the ends of a curve lies, and its beginning.
func (c *curve) at(share float64) (end, began float64) {
	end = c.end
	if c.spread > 0 {
		p := c.below + share*(c.upto-c.below)
		end += c.spread * math.Sqrt2 * math.Erfinv(min(max(2*p-1, -1+1e-15), 1-1e-15))
	}
	return end, c.fixed + c.slope*end
}

func normal(z float64) float64 { return math.Erfc(-z/math.Sqrt2) / 2 }

func likeliest(curves []curve) float64 {
	top := math.Inf(-1)
	for _, c := range curves {
		top = max(top, c.log)
	}
	return top
}

// span are the logarithms of the least and the greatest rate that is not passed
// over.
func span(curves []curve) (least, most float64) {
	top := likeliest(curves)
	least, most = math.Inf(1), math.Inf(-1)
	for _, c := range curves {
		if c.log-top > math.Log(faintest) {
			least, most = min(least, math.Log(c.rate)), max(most, math.Log(c.rate))
		}
	}
	return least, most
}

// hoursUntilReady is when it is within half a per cent of its end, in hours from
// its beginning.
func hoursUntilReady(began, end, rate float64) float64 {
	switch {
	case end <= 0:
		return mostHours
	case began <= end*(1+NearEnd):
		return 0
	}
	return min(math.Log((began-end)/(NearEnd*end))/rate, mostHours)
}

// mostHours is the longest that is told: a hundred years, so that a time stays a
// time.
const mostHours = 100 * 365 * 24

// spread is how likely the values of something are.
type spread struct {
	values []weighted
	whole  float64
}

type weighted struct{ value, weight float64 }

func (s *spread) add(value, weight float64) {
	s.values = append(s.values, weighted{value, weight})
	s.whole += weight
}

// middle is the range of the middle nineteen twentieths about what is as likely to
// be more as less.
func (s *spread) middle() quantity.Range {
	slices.SortFunc(s.values, func(a, b weighted) int { return cmp.Compare(a.value, b.value) })
	return quantity.Range{Low: s.quantile(0.025), Value: s.quantile(0.5), High: s.quantile(0.975)}
}

func (s *spread) quantile(share float64) float64 {
	sum := 0.0
	for _, v := range s.values {
		if sum += v.weight; sum >= share*s.whole {
			return v.value
		}
	}
	return 0
}
