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
// and how likely each is beforehand; what is left over beside a curve tells. From memory.
var doubts = []struct{ times, weight float64 }{{0.1, 0.02}, {0.2, 0.06}, {0.4, 0.17}, {0.8, 0.27}, {1.6, 0.23}, {3.2, 0.15}, {6.4, 0.1}}

// faintest is the likelihood below which a rate is passed over, as a share of the
// best.
const faintest = 1e-5

// fit weighs every rate, every end between two bounds and every doubt of the scale by
// how well they give the weighings, the first of which is how it began. off is how far
// a weighing should be off at the most. From enough weighings on the other laws are weighed
// beside the first.
func fit(seen []Weighing, lowG, highG, off float64) Forecast {
	d := data{seen: seen, low: lowG, high: highG}
	curves := d.singles(off)
	oneLaw := true
	if len(seen) >= enoughForOthers {
		first := evidence(curves)
		for i := range otherLaws {
			more := d.family(&otherLaws[i], off)
			if evidence(more)-first > otherSpeaks {
				oneLaw = false
				curves = append(curves, more...)
			}
		}
	}
	f := d.forecast(curves)
	f.oneLaw = oneLaw
	return f
}

const (
	// enoughForOthers is from how many weighings on another law than the first can be told
	// from it: each has a figure or two more.
	enoughForOthers = 4
	// otherSpeaks is from which evidence on another law is weighed beside the first.
	otherSpeaks = 1.5
	// refinements is how often the likeliest cells of a law are looked at more closely, and
	// refined how many of them.
	refinements, refined = 5, 11
	// fewRates are so few of those looked at that the next may fit better than any of them;
	// narrowings is how often they are looked at more closely then.
	fewRates, narrowings = 8, 6
	// surest is the least that a time may be off, as a share of it; from memory: the air of a
	// room is not that even.
	surest = 0.01
)

// evidence is the logarithm of how likely a law makes the weighings, over all its curves.
func evidence(curves []curve) float64 {
	top := likeliest(curves)
	if math.IsInf(top, -1) {
		return top
	}
	sum := 0.0
	for _, c := range curves {
		sum += math.Exp(c.log - top)
	}
	return top + math.Log(sum)
}

// family weighs the shapes of a law: coarsely over all of them, then closely where they are
// likely.
func (d *data) family(l *law, off float64) (curves []curve) {
	hours := d.seen[len(d.seen)-1].At.Sub(d.seen[0].At).Hours()
	whole := cell{to: [3]float64{1, 1, 1}}
	cells := d.weigh(whole.split(l.figures, l.coarse), l, hours, off)
	for range refinements {
		slices.SortFunc(cells, func(a, b cell) int { return cmp.Compare(b.log, a.log) })
		n := min(refined, len(cells))
		var closer []cell
		for i := range cells[:n] {
			closer = append(closer, cells[i].split(l.figures, [3]int{2, 2, 2})...)
		}
		cells = append(cells[n:], d.weigh(closer, l, hours, off)...)
	}
	for i := range cells {
		curves = append(curves, cells[i].curves...)
	}
	return curves
}

// weigh works out how likely cells are.
func (d *data) weigh(cells []cell, l *law, hours, off float64) []cell {
	for i := range cells {
		c := &cells[i]
		s, volume := d.sums(l.shape(c.middle(), hours)), math.Log(c.volume(l.figures))
		c.curves = make([]curve, 0, len(doubts))
		for _, doubt := range doubts {
			d.off = off * doubt.times
			k := d.curveOf(s)
			k.log += math.Log(doubt.weight) - float64(len(d.seen)-d.linear())*math.Log(d.off) + volume
			c.curves = append(c.curves, k)
		}
		c.log = evidence(c.curves)
	}
	return cells
}

// singles weighs the curves of the thin-layer law: over all rates first, then closely over
// those that fit.
func (d *data) singles(off float64) (curves []curve) {
	from, to := math.Log(slowest), math.Log(fastest)
	step := (to - from) / rateSteps
	for _, doubt := range doubts {
		d.off = off * doubt.times
		least, most := span(d.scan(from, to, rateSteps))
		low, high := max(from, least-step), min(to, most+step)
		for range narrowings { // until the rates that fit are more than a few of those looked at
			wide := (high - low) / closeSteps
			least, most = span(d.scan(low, high, closeSteps))
			if most-least > fewRates*wide {
				break
			}
			low, high = max(from, least-wide), min(to, most+wide)
		}
		// its share of all rates; likelier the less it is off
		prior := math.Log(doubt.weight) + math.Log((high-low)/(to-from)/closeSteps) - float64(len(d.seen)-d.linear())*math.Log(d.off)
		for _, c := range d.scan(low, high, closeSteps) {
			c.log += prior
			curves = append(curves, c)
		}
	}
	return curves
}

// forecast is what curves say together, each by how likely it is.
func (d *data) forecast(curves []curve) Forecast {
	var ends, rates, hours spread
	var best shape
	top := likeliest(curves)
	for _, c := range curves {
		if c.log == top {
			best = c.shape
		}
		weight := math.Exp(c.log - top)
		if weight < faintest {
			continue
		}
		rates.add(c.shape.rate(), weight)
		for j := range endSteps {
			end, began := c.at((float64(j) + 0.5) / endSteps)
			ends.add(end, weight/endSteps)
			hours.add(hoursUntilReady(began, end, c.shape), weight/endSteps)
		}
	}
	f := Forecast{BeganG: d.seen[0].MassG, Began: d.seen[0].At, EndG: ends.middle(), PerHour: rates.middle(), law: best}
	ready := hours.middle()
	at := func(hours float64) time.Time { return f.Began.Add(time.Duration(hours * float64(time.Hour))) }
	f.Ready, f.ReadyEarly, f.ReadyLate = at(ready.Value), at(min(ready.Low, ready.Value*(1-surest))), at(max(ready.High, ready.Value*(1+surest)))
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
		curves[i] = d.curve(single{math.Exp(from + (to-from)*(float64(i)+0.5)/float64(steps))})
	}
	return curves
}

// curve is all ends that a shape may have: given the shape, a mass is linear in the
// end and the beginning, so that both are normal about their least squares.
type curve struct {
	shape       shape
	log         float64 // how likely the rate is
	end, spread float64 // of the end, normal
	below, upto float64 // the shares of it that the bounds cut off and leave
	// the beginning that goes with an end: fixed + slope · end
	fixed, slope float64
}

func (d *data) curve(s shape) curve { return d.curveOf(d.sums(s)) }

// sums are what the weighings come to beside a shape.
type sums struct {
	shape                  shape
	ee, eu, uu, em, um, mm float64
}

func (d *data) sums(s shape) sums {
	// m = end·(1−e) + began·e, e by the law
	var ee, eu, uu, em, um, mm float64
	for _, w := range d.seen {
		e := s.at(w.At.Sub(d.seen[0].At).Hours())
		u, m := 1-e, w.MassG-d.seen[0].MassG // about the beginning, for the sake of digits
		ee, eu, uu = ee+e*e, eu+e*u, uu+u*u
		em, um, mm = em+e*m, um+u*m, mm+m*m
	}
	return sums{s, ee, eu, uu, em, um, mm}
}

// curveOf is the curve of a shape at the present doubt.
func (d *data) curveOf(s sums) curve {
	ee, eu, uu, em, um, mm := s.ee, s.eu, s.uu, s.em, s.um, s.mm
	c := curve{shape: s.shape, fixed: em / ee, slope: -eu / ee}
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
			rate := math.Log(c.shape.rate())
			least, most = min(least, rate), max(most, rate)
		}
	}
	return least, most
}

// hoursUntilReady is when it is within half a per cent of its end, in hours from
// its beginning.
func hoursUntilReady(began, end float64, s shape) float64 {
	switch {
	case end <= 0:
		return mostHours
	case began <= end*(1+NearEnd):
		return 0
	}
	return min(s.until(NearEnd*end/(began-end)), mostHours)
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
