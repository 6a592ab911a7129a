package curing

import "math"

// shape is how a mass goes from its beginning, 1, to its end, 0, by one of the laws of
// drying. Every mass is linear in the two: end + (began − end) · shape.
type shape interface {
	at(hours float64) float64
	// until is when it has come down to a share, in hours.
	until(share float64) float64
	// rate is how fast it goes at its end, an hour.
	rate() float64
}

// single is the thin-layer law, e^(−kt) (Lewis, Ind. Eng. Chem. 13, 1921).
type single struct{ k float64 }

func (s single) at(t float64) float64        { return math.Exp(-s.k * t) }
func (s single) until(share float64) float64 { return -math.Log(share) / s.k }
func (s single) rate() float64               { return s.k }

// double is two of them side by side, a share f of the faster: what dries from the crust
// and what from within (Henderson's two-term law, 1974).
type double struct{ f, fast, slow float64 }

func (s double) at(t float64) float64 {
	return s.f*math.Exp(-s.fast*t) + (1-s.f)*math.Exp(-s.slow*t)
}
func (s double) until(share float64) float64 {
	low, high := 0.0, -math.Log(share)/s.slow
	for range 40 {
		if mid := (low + high) / 2; s.at(mid) > share {
			low = mid
		} else {
			high = mid
		}
	}
	return high
}
func (s double) rate() float64 { return s.slow }

// wet dries at a constant rate for some hours, as an open water does, and then by the
// thin-layer law, with no break in its rate (the two periods of drying, Sherwood 1929).
type wet struct{ hours, k float64 }

func (s wet) whole() float64 { return s.hours + 1/s.k }

func (s wet) at(t float64) float64 {
	if t < s.hours {
		return (s.whole() - t) / s.whole()
	}
	return math.Exp(-s.k*(t-s.hours)) / (s.k * s.whole())
}
func (s wet) until(share float64) float64 {
	if at := s.whole() * (1 - share); at < s.hours {
		return at
	}
	return s.hours - math.Log(share*s.k*s.whole())/s.k
}
func (s wet) rate() float64 { return s.k }

// law is a family of shapes over a cube of figures from 0 to 1, each as likely beforehand.
type law struct {
	figures int
	shape   func(u [3]float64, hours float64) shape
	coarse  [3]int // cells the cube is looked at by first
}

func between(low, high, u float64) float64 { return low + (high-low)*u }

// otherLaws are those that are looked at beside the first, for weighings over some hours.
// That the slower of two terms is half to a fiftieth of the faster, and that a constant rate
// lasts up to twice as long as was weighed, is from memory.
var otherLaws = []law{
	{3, func(u [3]float64, _ float64) shape {
		fast := math.Exp(between(math.Log(slowest), math.Log(fastest), u[0]))
		return double{f: between(0.05, 0.95, u[2]), fast: fast, slow: fast / math.Exp(between(math.Log(2), math.Log(50), u[1]))}
	}, [3]int{12, 4, 5}},
	{2, func(u [3]float64, hours float64) shape {
		return wet{between(0, 2*hours, u[0]), math.Exp(between(math.Log(slowest), math.Log(fastest), u[1]))}
	}, [3]int{12, 14, 1}},
}

// cell is a part of a law's cube.
type cell struct {
	from, to [3]float64
	curves   []curve // of the shape in its middle, one for each doubt
	log      float64 // how likely it is, its volume counted
}

func (c *cell) middle() (u [3]float64) {
	for i := range u {
		u[i] = (c.from[i] + c.to[i]) / 2
	}
	return u
}

func (c *cell) volume(figures int) float64 {
	v := 1.0
	for i := range figures {
		v *= c.to[i] - c.from[i]
	}
	return v
}

// split parts a cell into so many along each of its figures.
func (c *cell) split(figures int, into [3]int) (parts []cell) {
	for i := figures; i < len(into); i++ {
		into[i] = 1
	}
	for a := range into[0] {
		for b := range into[1] {
			for d := range into[2] {
				p := cell{}
				for i, n := range [3]int{a, b, d} {
					wide := (c.to[i] - c.from[i]) / float64(into[i])
					p.from[i], p.to[i] = c.from[i]+wide*float64(n), c.from[i]+wide*float64(n+1)
				}
				parts = append(parts, p)
			}
		}
	}
	return parts
}
