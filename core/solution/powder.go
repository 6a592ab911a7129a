package solution

import (
	"keencrock/core/chem"
	"keencrock/core/material"
)

// Undissolved is a powder of which the water of a good cannot hold all.
type Undissolved struct {
	Material       *material.Material
	WantsGPer100ML float64 // of the dry compound, to 100 g of water
	HoldsGPer100ML float64 // beside what acid and alkali take of each other
	LeftG          float64 // that stays solid, of the dry compound, in the good as written
}

// roomCelsius is how warm a bottle stands.
const roomCelsius = 20

// undissolved looks at each compound by itself, of all the powders that bring
// it; others beside it only leave less room. The material named is the one that
// brings the most.
func (b *runner) undissolved() []Undissolved {
	type powder struct {
		material  *material.Material
		most, mol float64
	}
	var order []*chem.Compound // as they come in the formula
	by := map[*chem.Compound]*powder{}
	water, acid, alkali := 0.0, 0.0, 0.0
	for i := range b.lines {
		l := &b.lines[i]
		water += l.massG.Value * l.water
		for _, p := range l.parts {
			n := l.massG.Value * p.MolPerG.Value
			acid += n * p.Compound.AcidEq
			alkali += n * p.Compound.AlkaliEq
			if l.material.Liquid() {
				continue
			}
			c := by[p.Compound]
			if c == nil {
				c = &powder{}
				by[p.Compound] = c
				order = append(order, p.Compound)
			}
			c.mol += n
			if n > c.most {
				c.material, c.most = l.material, n
			}
		}
	}
	if water == 0 {
		return nil
	}
	var found []Undissolved
	for _, compound := range order {
		c := by[compound]
		holds, known := compound.Solubility(roomCelsius)
		if !known {
			continue
		}
		if compound.ID != "calcium-carbonate" {
			kg := water / 1000
			holds = dissolves(compound, roomCelsius, kg, acid, alkali) * compound.MolarMass() / (10 * kg)
		} else if alkali > 0 { // acid takes it up
			holds += acid / compound.AlkaliEq * compound.MolarMass() * 100 / water
		}
		if wants := 100 * c.mol * compound.MolarMass() / water; wants > holds*(1+1e-9) {
			found = append(found, Undissolved{c.material, wants, holds, (wants - holds) * water / 100})
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
