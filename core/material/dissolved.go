package material

import (
	"keencrock/core/chem"
	"keencrock/core/quantity"
)

// Room that a gram takes up in water, in ml, where it is not known which
// compound it is. From memory: most salts here take 0.3 to 0.6, most solids a
// third to two thirds of a millilitre.
var usualMLPerG = quantity.Range{Value: 0.45, Low: 0.3, High: 0.65}

// MLPerGInWater is the room a gram of the material takes up in a liquid good:
// of a liquid by its density, of what dissolves by what its compounds take up in
// solution (package chem), of what stays solid by its true volume and not by its
// heap.
func (m *Material) MLPerGInWater() quantity.Range {
	if m.Liquid() && m.Density.Known() {
		return quantity.Exactly(1).Div(m.Density.Range)
	}
	if m.Formula != "" {
		if c, ok := chem.FindCompound(m.Formula); ok {
			if ml, known := c.MLPerG(); known {
				dry := c.MolarMass() / m.MolarMass
				return quantity.Exactly(dry*ml + max(0, 1-dry)*chem.MLPerGWater).Widen(0.05)
			}
		}
		return usualMLPerG
	}
	var sum quantity.Range
	known := 0.0
	for _, c := range m.MakeUp {
		ml := chem.MLPerGWater
		if c.Of != "water" {
			compound, ok := chem.FindCompound(c.Of)
			if !ok {
				continue
			}
			if ml, ok = compound.MLPerG(); !ok {
				continue
			}
		}
		known += c.Share.Value
		sum = sum.Add(quantity.Exactly(c.Share.Value * ml))
	}
	if known == 0 {
		if m.Is(Botanical) || m.Is(Organic) {
			return quantity.Range{Value: 0.75, Low: 0.6, High: 1} // from memory: plant matter, gums, starch
		}
		return usualMLPerG
	}
	return sum.Add(usualMLPerG.Scale(max(0, 1-known)))
}
