package solution

import (
	"math"
	"slices"

	"keencrock/core/chem"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

// ends are the amounts at which something is least and most.
type ends struct {
	least, most float64
	low, high   []amount // nil before anything was seen
}

// see keeps amounts where a value is beyond what was seen.
func (e *ends) see(value float64, amounts []amount) {
	if e.low == nil || value < e.least {
		e.least, e.low = value, append(e.low[:0], amounts...)
	}
	if e.high == nil || value > e.most {
		e.most, e.high = value, append(e.high[:0], amounts...)
	}
}

// ranges moves the lines to their ends, in mass and in strength together. Which
// ends give the lowest and the highest pH, and the most and the least met of the
// hardness, is looked for in soft water, which is quicker; what they give is
// worked out in the water there is, at the likely dose and at its ends, and with
// the soap of lowest and of highest pKa.
func (b *runner) ranges(out *Result) error {
	open := b.open()
	if len(open) == 0 && b.use.Dose.IsExact() && !out.HasSoap {
		return nil
	}
	water := b.hardWater()
	mixed := func(amounts []amount, dose float64) chem.Solution {
		return plus(b.dosed(pick(amounts), dose), water)
	}
	of := func(vented float64) measured {
		return func(amounts []amount) ([2]float64, error) {
			s := mixed(amounts, 1)
			e, err := b.roughly(soft(s), forLooking, vented)
			return [2]float64{ofPH: e.PH, ofMeets: likelyMeets(&s, e.PH)}, err
		}
	}
	gas := false
	widen := func(into *quantity.Range, vented float64, at ends) error {
		for _, amounts := range [][]amount{at.low, at.high} {
			for _, dose := range b.doses() {
				s := mixed(amounts, dose)
				e, err := chem.Solve(&s, b.rough(forRanges, vented))
				if err != nil {
					return err
				}
				gas = gas || e.Gone > 0
				*into = into.Including(e.Low).Including(e.High)
				if vented != 0 || !out.HasSoap {
					continue
				}
				out.Protonated = out.Protonated.Including(e.Protonated)
				if err := b.protonatedRange(out, s); err != nil {
					return err
				}
			}
		}
		return nil
	}
	looked := ofMeets + 1
	if out.Hardness.Total == 0 {
		looked = ofPH + 1
	}
	closed, err := b.endsOf(open, looked, of(0))
	if err != nil {
		return err
	}
	if err := widen(&out.ClosedPH, 0, closed[ofPH]); err != nil {
		return err
	}
	// where no gas leaves at the ends, the vented pH has the same ones
	if err := widen(&out.VentedPH, 1, closed[ofPH]); err != nil {
		return err
	}
	if gas {
		vented, err := b.endsOf(open, ofPH+1, of(1))
		if err != nil {
			return err
		}
		if err := widen(&out.VentedPH, 1, vented[ofPH]); err != nil {
			return err
		}
	}
	if out.Hardness.Total == 0 {
		return nil
	}
	return b.hardnessRanges(&out.Hardness, closed[ofMeets])
}

// protonatedRange widens the share of curdled soap to what it is with the soap of
// lowest and of highest pKa. The pH moves too, as that soap gives it.
func (b *runner) protonatedRange(out *Result, s chem.Solution) error {
	for _, pKa := range [...]float64{chem.SoapPKaLow, chem.SoapPKaHigh} {
		c := b.rough(forRanges, 0)
		c.NoRange, c.SoapPKa = true, pKa
		e, err := chem.Solve(&s, c)
		if err != nil {
			return err
		}
		out.Protonated = out.Protonated.Including(e.Protonated)
		out.ClosedPH = out.ClosedPH.Including(e.PH)
	}
	return nil
}

// doses are the likely dose and its ends, as a share of it.
func (b *runner) doses() []float64 {
	if b.use.Neat || b.use.Dose.IsExact() {
		return []float64{1}
	}
	return []float64{1, b.use.Dose.Low, b.use.Dose.High}
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

// open lists the lines that are scooped, or whose strength is not exact.
func (b *runner) open() (open []int) {
	for i := range b.lines {
		l := &b.lines[i]
		if !l.massG.IsExact() || len(l.parts) > 0 && !l.strength.IsExact() {
			open = append(open, i)
		}
	}
	return open
}

// allCorners is how many open lines are moved to all their ends at once.
const allCorners = 5

// measured is the pH of amounts, and what likely meets the hardness there.
type measured func(amounts []amount) (m [2]float64, err error)

// The places of what is measured.
const (
	ofPH = iota
	ofMeets
)

// endsOf finds the amounts at which the first n things measured are least and
// most. Of few lines every corner is looked at, and what is between, where a line
// does one thing up to an amount and another beyond; of many, one by one.
func (b *runner) endsOf(open []int, n int, of measured) ([]ends, error) {
	if len(open) > allCorners {
		return b.oneByOne(open, n, of)
	}
	found, err := b.everyCorner(open, n, of)
	if err != nil {
		return nil, err
	}
	for k := range found {
		if err := b.between(open, found[k].low, -1, k, of); err != nil {
			return nil, err
		}
		if err := b.between(open, found[k].high, 1, k, of); err != nil {
			return nil, err
		}
	}
	return found, nil
}

// between moves each open line off its end, towards the other, where that moves
// what is measured at k further the way of the sign, and as far as it does.
func (b *runner) between(open []int, amounts []amount, sign float64, k int, of measured) error {
	best, err := of(amounts)
	if err != nil {
		return err
	}
	for _, i := range open {
		l := &b.lines[i]
		from, to := amounts[i], l.low()
		if from == to {
			to = l.high()
		}
		at := func(share float64) (float64, error) {
			amounts[i] = amount{from.g + share*(to.g-from.g), from.strength + share*(to.strength-from.strength)}
			m, err := of(amounts)
			return sign * m[k], err
		}
		const little, turns = 0.05, 8
		first, err := at(little)
		if err != nil {
			return err
		}
		if first <= sign*best[k]+forLooking {
			amounts[i] = from
			continue
		}
		low, high, reached := 0.0, 1.0, little
		for range turns { // by thirds
			third := (high - low) / 3
			a, err := at(low + third)
			if err != nil {
				return err
			}
			z, err := at(high - third)
			if err != nil {
				return err
			}
			if a > z {
				high -= third
			} else {
				low += third
			}
			if top := max(a, z); top > first {
				first = top
				if reached = low + third; z > a {
					reached = high - third
				}
			}
		}
		if best[k], err = at(reached); err != nil {
			return err
		}
		best[k] *= sign
	}
	return nil
}

func (b *runner) likelyAmounts() []amount {
	amounts := make([]amount, len(b.lines))
	for i := range b.lines {
		amounts[i] = likely(i, &b.lines[i])
	}
	return amounts
}

func (b *runner) everyCorner(open []int, n int, of measured) ([]ends, error) {
	found := make([]ends, n)
	amounts := b.likelyAmounts()
	for corner := range 1 << len(open) {
		for k, i := range open {
			if amounts[i] = b.lines[i].low(); corner>>k&1 == 1 {
				amounts[i] = b.lines[i].high()
			}
		}
		m, err := of(amounts)
		if err != nil {
			return nil, err
		}
		for k := range found {
			found[k].see(m[k], amounts)
		}
	}
	return found, nil
}

// oneByOne looks for the ends: first each line alone says which of its ends
// lowers what is measured, then all ends are set so, then each is tried the other
// way once more, since what one line does depends on the others.
func (b *runner) oneByOne(open []int, n int, of measured) ([]ends, error) {
	amounts := b.likelyAmounts()
	middle, err := of(amounts)
	if err != nil {
		return nil, err
	}
	found := make([]ends, n)
	for k := range found {
		found[k] = ends{low: slices.Clone(amounts), high: slices.Clone(amounts)}
	}
	for _, i := range open {
		l := &b.lines[i]
		kept := amounts[i]
		amounts[i] = l.high()
		more, err := of(amounts)
		if err != nil {
			return nil, err
		}
		amounts[i] = kept
		for k := range found {
			if found[k].low[i], found[k].high[i] = l.low(), l.high(); more[k] < middle[k] {
				found[k].low[i], found[k].high[i] = l.high(), l.low()
			}
		}
	}
	for k := range found {
		if err := b.tryTheOther(open, found[k].low, -1, k, of); err != nil {
			return nil, err
		}
		if err := b.tryTheOther(open, found[k].high, 1, k, of); err != nil {
			return nil, err
		}
	}
	return found, nil
}

// tryTheOther turns each open line to its other end once, and keeps what moves
// what is measured at k further the way of the sign.
func (b *runner) tryTheOther(open []int, amounts []amount, sign float64, k int, of measured) error {
	best, err := of(amounts)
	if err != nil {
		return err
	}
	for _, i := range open {
		l := &b.lines[i]
		kept := amounts[i]
		if amounts[i] = l.low(); kept == amounts[i] {
			amounts[i] = l.high()
		}
		at, err := of(amounts)
		if err != nil {
			return err
		}
		if sign*at[k] > sign*best[k] {
			best = at
		} else {
			amounts[i] = kept
		}
	}
	return nil
}

// hardnessRanges looks at the ends that matter: those of what likely meets the
// hardness, each with most and with least of the soap, and most and least soap
// in the place of all the rest, at the likely dose and its ends.
func (b *runner) hardnessRanges(h *Hardness, meets ends) error {
	water := b.hardWater()
	at := func(most bool, l *line) amount {
		if most {
			return l.high()
		}
		return l.low()
	}
	look := func(muchSoap bool, dose float64, rest end) error {
		product := b.dosed(func(i int, l *line) amount {
			if l.material.Is(material.Soap) {
				return at(muchSoap, l)
			}
			return rest(i, l)
		}, dose)
		s := plus(product, water)
		end, err := b.hardness(&s, &product)
		if err == nil {
			h.MetRange, h.SoapLostRange = h.MetRange.Including(end.Met()), h.SoapLostRange.Including(end.SoapLost())
		}
		return err
	}
	soap := []bool{false, true}
	if h.SoapGPerL == 0 {
		soap = soap[:1]
	}
	for _, dose := range b.doses() {
		for _, muchSoap := range soap {
			if err := look(muchSoap, dose, func(_ int, l *line) amount { return at(!muchSoap, l) }); err != nil {
				return err
			}
			for _, amounts := range [][]amount{meets.low, meets.high} {
				if err := look(muchSoap, dose, pick(amounts)); err != nil {
					return err
				}
			}
		}
	}
	return nil
}

// ratio is one of what the lines add at the ends of their mass, with the ends of
// their strength.
func (b *runner) ratio(of func(l *line, a amount) quantity.Pair) quantity.Ratio {
	out := make(quantity.Ratio, len(b.lines))
	for i := range b.lines {
		l := &b.lines[i]
		m, s := l.massG, l.strength
		out[i] = []quantity.Pair{of(l, amount{m.Low, s.Low}), of(l, amount{m.Low, s.High}), of(l, amount{m.High, s.Low}), of(l, amount{m.High, s.High})}
	}
	return out
}
