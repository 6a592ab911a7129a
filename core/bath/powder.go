package bath

import (
	"keencrock/core/chem"
	"keencrock/core/material"
)

// Undissolved is a powder of which the water of a good cannot hold all.
type Undissolved struct {
	Material       *material.Material
	WantsGPer100ML float64 // of the dry compound, to 100 g of water
	HoldsGPer100ML float64
}

// roomCelsius is how warm a bottle stands.
const roomCelsius = 20

// undissolved looks at each compound by itself, of all the powders that bring
// it; others beside it only leave less room. The material named is the one that
// brings the most.
func (b *runner) undissolved() []Undissolved {
	water := 0.0
	for i := range b.lines {
		water += b.lines[i].massG.Value * b.lines[i].water
	}
	if water == 0 {
		return nil
	}
	type brought struct {
		material     *material.Material
		most, wantsG float64
	}
	var order []*chem.Compound // as they come in the formula
	by := map[*chem.Compound]*brought{}
	for i := range b.lines {
		l := &b.lines[i]
		if l.material.Formula == "" {
			continue
		}
		for _, p := range l.parts {
			c := by[p.Compound]
			if c == nil {
				c = &brought{}
				by[p.Compound] = c
				order = append(order, p.Compound)
			}
			g := l.massG.Value * p.MolPerG.Value * p.Compound.MolarMass()
			c.wantsG += g
			if g > c.most {
				c.material, c.most = l.material, g
			}
		}
	}
	var found []Undissolved
	for _, compound := range order {
		c := by[compound]
		holds, known := compound.Solubility(roomCelsius)
		if wants := 100 * c.wantsG / water; known && wants > holds {
			found = append(found, Undissolved{c.material, wants, holds})
		}
	}
	return found
}

// Caking says from which humidity on a powder drinks water from the air and
// lumps, in % RH.
type Caking struct {
	AboveRH float64
	Culprit *material.Material // what pulls it down the most
	Without []CakingWithout
}

// CakingWithout is the humidity with one material left out.
type CakingWithout struct {
	Material *material.Material
	AboveRH  float64
}

// drinkShare is how much of a material has to be there to set the humidity.
// From memory: a trace dissolves in its own film and is gone.
const drinkShare = 0.005

// caking multiplies the humidities of the single materials: a mixture begins
// to drink where its parts, saturated side by side, would (K. D. Ross, Journal
// of Food Technology 10, 1975).
func (b *runner) caking() *Caking {
	type drinker struct {
		m        *material.Material
		fraction float64
		compound *chem.Compound
	}
	var drinkers []drinker
	for i := range b.lines {
		l := &b.lines[i]
		if !l.material.DrinksAt.Known() || l.massG.Value < drinkShare*b.r.TotalG.Value {
			continue
		}
		d := drinker{m: l.material, fraction: l.material.DrinksAt.Value / 100}
		if len(l.parts) > 0 {
			d.compound = l.parts[0].Compound
		}
		same := false // two salts of one kind are one
		for _, o := range drinkers {
			same = same || d.compound != nil && o.compound == d.compound
		}
		if !same {
			drinkers = append(drinkers, d)
		}
	}
	if len(drinkers) == 0 {
		return nil
	}
	c := &Caking{AboveRH: 100}
	least := 1.0
	for _, d := range drinkers {
		c.AboveRH *= d.fraction
		if d.fraction < least {
			least, c.Culprit = d.fraction, d.m
		}
	}
	for _, d := range drinkers {
		c.Without = append(c.Without, CakingWithout{d.m, c.AboveRH / d.fraction})
	}
	return c
}
