package quantity

import "math"

// Pair is what one thing adds to the two sides of a ratio.
type Pair struct{ Of, To float64 }

// Ratio is a ratio of two sums. Each thing adds one of its pairs, or any mean of
// them, to both: those at the ends of its amount, say. What the ratio is to is
// never below zero.
type Ratio [][]Pair

// Least and Most are the ends of the ratio over all that each thing may add: 0
// of nothing. They are exact, by Dinkelbach (Management Science 13, 1967).
func (r Ratio) Least() float64 { return r.extreme(-1) }

// Most is the other end of [Ratio.Least].
func (r Ratio) Most() float64 { return r.extreme(1) }

// extreme takes, in each round and of each thing, the pair that moves the ratio
// furthest the way of the sign from where it is.
func (r Ratio) extreme(sign float64) float64 {
	ratio := 0.0
	for round := range 40 {
		var sum Pair
		for _, pairs := range r {
			best := &pairs[0]
			for k := 1; k < len(pairs); k++ {
				if s := &pairs[k]; sign*(s.Of-ratio*s.To) > sign*(best.Of-ratio*best.To) {
					best = s
				}
			}
			sum.Of += best.Of
			sum.To += best.To
		}
		if sum.To == 0 {
			return 0
		}
		next := sum.Of / sum.To
		if round > 0 && sign*(next-ratio) <= 1e-12*max(1, math.Abs(next)) {
			return next
		}
		ratio = next
	}
	return ratio
}
