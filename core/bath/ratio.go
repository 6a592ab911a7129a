package bath

import "math"

// share is what a line adds to the two sides of a ratio, at some amount of it.
type share struct{ of, to float64 }

// corners are the shares of each line at the ends of its mass with the ends of
// its strength.
type corners [][4]share

func (b *runner) cornersOf(of func(l *line, a amount) share) corners {
	out := make(corners, len(b.lines))
	for i := range b.lines {
		l := &b.lines[i]
		m, s := l.massG, l.strength
		for k, a := range [...]amount{{m.Low, s.Low}, {m.Low, s.High}, {m.High, s.Low}, {m.High, s.High}} {
			out[i][k] = of(l, a)
		}
	}
	return out
}

// least and most are the ends of the ratio of the sums, each line being anywhere
// between its ends: exact, by Dinkelbach (Management Science 13, 1967). What the
// ratio is to is never below zero.
func (c corners) least() float64 { return c.extreme(-1) }
func (c corners) most() float64  { return c.extreme(1) }

// extreme takes, in each round and of each line, the corner that moves the ratio
// furthest the way of the sign from where it is.
func (c corners) extreme(sign float64) float64 {
	ratio := 0.0
	for round := range 40 {
		var sum share
		for i := range c {
			best := &c[i][0]
			for k := 1; k < len(c[i]); k++ {
				if s := &c[i][k]; sign*(s.of-ratio*s.to) > sign*(best.of-ratio*best.to) {
					best = s
				}
			}
			sum.of += best.of
			sum.to += best.to
		}
		if sum.to == 0 { // nothing of anything
			return 0
		}
		next := sum.of / sum.to
		if round > 0 && sign*(next-ratio) <= 1e-12*max(1, math.Abs(next)) {
			return next
		}
		ratio = next
	}
	return ratio
}

// leastMean is, of all means of two ratios to the same, the least of what each
// mean is at most: the most that both are at once (minimax; by thirds, since it
// bends one way only).
func leastMean(a, b corners) float64 {
	mean := make(corners, len(a))
	most := func(ofA float64) float64 {
		for i := range mean {
			for k := range mean[i] {
				mean[i][k] = share{ofA*a[i][k].of + (1-ofA)*b[i][k].of, a[i][k].to}
			}
		}
		return mean.most()
	}
	low, high := 0.0, 1.0
	for range 40 {
		third := (high - low) / 3
		if most(low+third) < most(high-third) {
			high -= third
		} else {
			low += third
		}
	}
	return most((low + high) / 2)
}
