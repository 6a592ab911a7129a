package solution

import (
	"keencrock/core/chem"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

// Part is a compound in a material, in mol per gram of it.
type Part struct {
	Compound *chem.Compound
	MolPerG  quantity.Range
}

// Contents returns the compounds of a material that matter in water, and how
// much of it is water, by mass. ok is false when it does something in water,
// but what it is made of is not known.
func Contents(m *material.Material) (parts []Part, waterShare float64, ok bool) {
	if m.ID == "water" {
		return nil, 1, true
	}
	if len(m.MadeOf) > 0 {
		return contentsOfMade(m)
	}
	if m.Formula != "" {
		if c, known := chem.FindCompound(m.Formula); known {
			return []Part{{c, quantity.Exactly(1 / m.MolarMass)}}, crystalWater(m, c), true
		}
	}
	for _, c := range m.MakeUp {
		if compound, known := chem.FindCompound(c.Of); known {
			parts = append(parts, Part{compound, c.Share.Scale(1 / compound.MolarMass())})
		}
	}
	ok = len(m.MakeUp) > 0 || m.Tags&active == 0
	if m.PH.Known() && len(parts) == 0 && (m.Tags&(active|material.Botanical|material.Fermented|material.Salt) != 0 || m.Does("surfactant") && m.Is(material.Perishable)) {
		ok = false // it moves the pH, by what is not known
	}
	return parts, m.ShareOf("water"), ok
}

// contentsOfMade sums the compounds of what was made here.
func contentsOfMade(m *material.Material) (parts []Part, waterShare float64, ok bool) {
	ok = true
	for base, share := range m.Bases() {
		has, water, known := Contents(base)
		for _, p := range has {
			parts = append(parts, Part{p.Compound, p.MolPerG.Scale(share)})
		}
		waterShare += share * water
		ok = ok && known
	}
	return parts, waterShare, ok
}

// active are the tags of materials that change the pH, the hardness or soap.
const active = material.Acid | material.WeakAcid | material.Alkali | material.Carbonate | material.Soap | material.Chelant |
	material.Magnesium | material.Calcium | material.Ammonia | material.Borate

// crystalWater is the share of a hydrate that is water.
func crystalWater(m *material.Material, c *chem.Compound) float64 {
	return max(0, 1-c.MolarMass()/m.MolarMass)
}
