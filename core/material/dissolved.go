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

// unknownVolatile is the share of a watery liquid of unknown make-up that dries off.
// From memory.
const unknownVolatile = 0.8

// VolatileShare is the share of the material, 0 to 1, that dries off in a room: its
// liquid water and spirits. Water that is bound in crystals stays.
func (m *Material) VolatileShare() float64 {
	if !m.Liquid() && !m.Is(Wet) {
		return 0
	}
	share := 0.0
	for _, of := range []string{"water", "ethanol", "isopropanol"} {
		share += m.ShareOf(of)
	}
	if share == 0 && len(m.MakeUp) == 0 && len(m.MadeOf) == 0 && m.Is(Wet) {
		return unknownVolatile
	}
	return min(1, share)
}
