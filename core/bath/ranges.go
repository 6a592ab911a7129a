package bath

import (
	"math"
	"slices"

	"keencrock/core/chem"
	"keencrock/core/quantity"
)

// ends are the masses at which something is least and most.
type ends struct {
	least, most float64
	low, high   []float64 // nil before anything was seen
}

// see keeps masses where a value is beyond what was seen.
func (e *ends) see(value float64, masses []float64) {
	if e.low == nil || value < e.least {
		e.least, e.low = value, append(e.low[:0], masses...)
	}
	if e.high == nil || value > e.most {
		e.most, e.high = value, append(e.high[:0], masses...)
	}
}

// ranges moves the lines to their ends. Which ends give the lowest and the
// highest pH, and the most and the least met of the hardness, is looked for in
// soft water, which is quicker; what they give is worked out in the water there
// is.
func (b *runner) ranges(out *Result) error {
	open := b.open()
	if len(open) == 0 {
		return nil
	}
	water := b.hardWater()
	mixed := func(masses []float64) chem.Solution {
		return plus(b.solution(func(i int, _ *line) float64 { return masses[i] }), water)
	}
	of := func(vented float64) measured {
		return func(masses []float64) (ph, meets float64, err error) {
			s := mixed(masses)
			e, err := b.roughly(soft(s), vented)
			return e.PH, likelyMeets(&s, e.PH), err
		}
	}
	gas := false
	widen := func(into *quantity.Range, vented float64, at ends) error {
		for _, masses := range [][]float64{at.low, at.high} {
			e, err := b.roughly(mixed(masses), vented)
			if err != nil {
				return err
			}
			gas = gas || e.Gone > 0
			*into = into.Including(e.Low).Including(e.High)
			if vented == 0 && out.HasSoap {
				out.Curdled = out.Curdled.Including(e.Curdled)
			}
		}
		return nil
	}
	closed, meets, err := b.bothEnds(open, of(0))
	if err != nil {
		return err
	}
	if err := widen(&out.ClosedPH, 0, closed); err != nil {
		return err
	}
	// where no gas leaves at the ends, the vented pH has the same ones
	if err := widen(&out.VentedPH, 1, closed); err != nil {
		return err
	}
	if gas {
		vented, err := b.phEnds(open, of(1))
		if err != nil {
			return err
		}
		if err := widen(&out.VentedPH, 1, vented); err != nil {
			return err
		}
	}
	if out.Hardness.Total == 0 {
		return nil
	}
	return b.hardnessRanges(&out.Hardness, meets)
}

// likelyMeets is more the more hardness a solution meets: minus what is left of
// calcium and magnesium, in mol per kg, roughly. Carbonate and citrate count as
// far as they are that at the pH; half of them are at 10.1 and 5.7, and the
// constants of chalk and of the citrates 1.6e-8 and 5000, at the ionic strength
// of a wash (0.05 mol/kg, by the constants of package chem).
func likelyMeets(s *chem.Solution, ph float64) float64 {
	const chalk, held = 1.6e-8, 5000
	carbonate := s.Acids[chem.Carbonic] / (1 + math.Pow(10, 10.1-ph))
	chelant := s.Acids[chem.Citric]/(1+math.Pow(10, 5.7-ph)) + s.Acids[chem.EDTA]
	if chelant > 0 {
		chelant *= chelant / (chelant + s.Calcium + s.Magnesium) // less what is bound
	}
	calcium, magnesium := s.Calcium/(1+held*chelant), s.Magnesium/(1+held*chelant)
	if carbonate > 0 {
		calcium *= chalk / (chalk + calcium*carbonate)
	}
	return -calcium - magnesium
}

// open lists the lines that are scooped.
func (b *runner) open() (open []int) {
	for i := range b.lines {
		if !b.lines[i].massG.IsExact() {
			open = append(open, i)
		}
	}
	return open
}

// allCorners is how many scooped lines are moved to all their ends at once.
const allCorners = 5

// measured is the pH of masses, and what likely meets the hardness there.
type measured func(masses []float64) (ph, meets float64, err error)

// phEnds finds the masses of the lowest and the highest pH over the ends of the
// open lines. Of few lines every corner is looked at.
func (b *runner) phEnds(open []int, of measured) (ends, error) {
	if len(open) <= allCorners {
		ph, _, err := b.everyCorner(open, of)
		return ph, err
	}
	return b.oneByOne(open, func(masses []float64) (float64, error) {
		ph, _, err := of(masses)
		return ph, err
	})
}

// bothEnds finds those of what likely meets the hardness too.
func (b *runner) bothEnds(open []int, of measured) (ph, meets ends, err error) {
	if len(open) <= allCorners {
		return b.everyCorner(open, of)
	}
	if ph, err = b.phEnds(open, of); err != nil {
		return ends{}, ends{}, err
	}
	meets, err = b.oneByOne(open, func(masses []float64) (float64, error) {
		_, meets, err := of(masses)
		return meets, err
	})
	return ph, meets, err
}

func (b *runner) likelyMasses() []float64 {
	masses := make([]float64, len(b.lines))
	for i := range b.lines {
		masses[i] = b.lines[i].massG.Value
	}
	return masses
}

func (b *runner) everyCorner(open []int, of measured) (ph, meets ends, err error) {
	masses := b.likelyMasses()
	for corner := range 1 << len(open) {
		for k, i := range open {
			if masses[i] = b.lines[i].massG.Low; corner>>k&1 == 1 {
				masses[i] = b.lines[i].massG.High
			}
		}
		p, m, err := of(masses)
		if err != nil {
			return ends{}, ends{}, err
		}
		ph.see(p, masses)
		meets.see(m, masses)
	}
	return ph, meets, nil
}

// oneByOne looks for the ends of something: first each line alone says which of
// its ends lowers it, then all ends are set so, then each is tried the other
// way once more, since what one line does depends on the others.
func (b *runner) oneByOne(open []int, of func([]float64) (float64, error)) (ends, error) {
	masses := b.likelyMasses()
	middle, err := of(masses)
	if err != nil {
		return ends{}, err
	}
	found := ends{low: slices.Clone(masses), high: slices.Clone(masses)}
	for _, i := range open {
		g := b.lines[i].massG
		masses[i] = g.High
		more, err := of(masses)
		if err != nil {
			return ends{}, err
		}
		masses[i] = g.Value
		if found.low[i], found.high[i] = g.Low, g.High; more < middle {
			found.low[i], found.high[i] = g.High, g.Low
		}
	}
	if err := b.tryTheOther(open, found.low, -1, of); err != nil {
		return ends{}, err
	}
	return found, b.tryTheOther(open, found.high, 1, of)
}

// tryTheOther turns each open line to its other end once, and keeps what moves
// it further the way of the sign.
func (b *runner) tryTheOther(open []int, masses []float64, sign float64, of func([]float64) (float64, error)) error {
	best, err := of(masses)
	if err != nil {
		return err
	}
	for _, i := range open {
		kept := masses[i]
		masses[i] = b.lines[i].massG.Low + b.lines[i].massG.High - kept // the other end
		at, err := of(masses)
		if err != nil {
			return err
		}
		if sign*at > sign*best {
			best = at
		} else {
			masses[i] = kept
		}
	}
	return nil
}
