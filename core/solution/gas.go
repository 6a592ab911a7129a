package solution

import (
	"slices"

	"keencrock/core/chem"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

// Gas is the carbon dioxide a good gives when it meets water, and what of it
// is spent before.
type Gas struct {
	MolPerKg  quantity.Range // of good
	LimitedBy Limit
	// LeftMaterial is what is left over when the gas is made, LeftGPerKg how
	// much of it, in grams to a kg of good.
	LeftMaterial *material.Material
	LeftGPerKg   float64
	// SodaSpent is the share of all soda that the acid spends in the end.
	SodaSpent float64
	// SpentInBowl is the share of the soda that an acid liquid, such as a
	// vinegar binder, spends while the good is mixed.
	SpentInBowl float64
}

// Limit says which side of the fizz runs out first.
type Limit string

// Neither side, the acid, or the soda.
const (
	NoGas       Limit = "none"
	AcidRunsOut Limit = "acid"
	SodaRunsOut Limit = "soda"
)

// MLPerKg is the gas of a kg of good at 25 °C, in ml.
func (g Gas) MLPerKg() quantity.Range { return g.MolPerKg.Scale(chem.GasMLPerMol) }

// MGPerKg is the gas of a kg of good, in mg.
func (g Gas) MGPerKg() quantity.Range { return g.MolPerKg.Scale(chem.GramsCO2 * 1000) }

// sides are the two sides of the fizz, in mol.
type sides struct {
	acid  float64 // equivalents
	first float64 // equivalents of alkali that take acid before any gas is made
	gas   float64 // carbonate that can leave
}

// made is the gas in mol: acid first spends stronger alkali and turns
// carbonate to bicarbonate, then drives it out.
func (s sides) made() float64 { return max(0, min(s.acid-s.first, s.gas)) }

// sidesAt adds them up at some masses.
func (b *runner) sidesAt(mass end) (s sides) {
	for i := range b.lines {
		l := &b.lines[i]
		o := l.sides(mass(i, l))
		s = sides{s.acid + o.acid, s.first + o.first, s.gas + o.gas}
	}
	return s
}

// sides are what an amount of a line brings to both.
func (l *line) sides(a amount) (s sides) {
	for _, p := range l.parts {
		c, n := p.Compound, a.g*a.strength*p.MolPerG.Value
		s.acid += n * c.AcidEq
		s.gas += n * (c.CarbonateMol + c.BicarbonateMol)
		s.first += n * (c.AlkaliEq - c.CarbonateMol - c.BicarbonateMol)
	}
	return s
}

func (b *runner) gas() Gas {
	middle := b.sidesAt(likely)
	kg := b.r.TotalG.Value / 1000
	made := middle.made()
	g := Gas{LimitedBy: NoGas, MolPerKg: b.gasRange(made / kg)}
	g.SpentInBowl = b.spentInBowl(middle)
	if soda := middle.first + middle.gas; soda > 0 {
		g.SodaSpent = min(1, middle.acid/soda)
	}
	if made <= 0 {
		return g
	}
	left := middle.gas - made // mol of soda that stays
	if g.LimitedBy = AcidRunsOut; left <= 1e-9*middle.gas {
		g.LimitedBy = SodaRunsOut
		left = middle.acid - middle.first - made
	}
	g.LeftMaterial, g.LeftGPerKg = b.inGrams(left, g.LimitedBy == SodaRunsOut)
	g.LeftGPerKg /= kg
	return g
}

// gasRange is what a kg of good may give, each line being anywhere between its
// ends. The least is where either side is least. The most is where the sides
// meet: soda raises it up to there and lowers it beyond, when some of it is
// alkali that takes acid first.
func (b *runner) gasRange(value float64) quantity.Range {
	byGas := b.ratio(func(l *line, a amount) quantity.Pair { return quantity.Pair{Of: l.sides(a).gas, To: a.g / 1000} })
	byAcid := b.ratio(func(l *line, a amount) quantity.Pair {
		s := l.sides(a)
		return quantity.Pair{Of: s.acid - s.first, To: a.g / 1000}
	})
	if byGas.Most() <= 0 || byAcid.Most() <= 0 {
		return quantity.Exactly(value)
	}
	low, high := min(byGas.Least(), byAcid.Least()), leastMean(byAcid, byGas)
	return quantity.Range{Value: value, Low: max(0, low), High: max(0, high)}.Including(value)
}

// leastMean is, of all means of two ratios to the same, the least of what each
// mean is at most: the most that both are at once (minimax; by thirds, since it
// bends one way only).
func leastMean(a, b quantity.Ratio) float64 {
	mean := make(quantity.Ratio, len(a))
	for i := range mean {
		mean[i] = slices.Clone(a[i])
	}
	most := func(ofA float64) float64 {
		for i := range mean {
			for k := range mean[i] {
				mean[i][k].Of = ofA*a[i][k].Of + (1-ofA)*b[i][k].Of
			}
		}
		return mean.Most()
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

// inGrams says equivalents left over as grams of the material that brings the
// most of that side.
func (b *runner) inGrams(left float64, acid bool) (*material.Material, float64) {
	var best *material.Material
	most, perG := 0.0, 0.0
	for i := range b.lines {
		l := &b.lines[i]
		side := 0.0
		for _, p := range l.parts {
			if acid {
				side += p.MolPerG.Value * p.Compound.AcidEq
			} else {
				side += p.MolPerG.Value * (p.Compound.CarbonateMol + p.Compound.BicarbonateMol)
			}
		}
		if n := side * l.massG.Value; n > most {
			best, most, perG = l.material, n, side
		}
	}
	if best == nil {
		return nil, 0
	}
	return best, left / perG
}

// spentInBowl is the share of the soda that acids already dissolved spend.
func (b *runner) spentInBowl(all sides) float64 {
	dissolved := 0.0
	for i := range b.lines {
		l := &b.lines[i]
		if !l.material.Is(material.Wet) {
			continue
		}
		for _, p := range l.parts {
			dissolved += l.massG.Value * p.MolPerG.Value * p.Compound.AcidEq
		}
	}
	if alkali := all.first + all.gas; alkali > 0 {
		return min(1, dissolved/alkali)
	}
	return 0
}
