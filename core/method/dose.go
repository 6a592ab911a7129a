package method

import (
	"keencrock/core/formula"
	"keencrock/core/material"
)

// Sizes of what a line is added by, in ml, where the workshop has not its own. A drop
// is a twentieth of a millilitre; a puff is of a trigger spray. Common practice; the
// puff is from memory.
const (
	usualDropML = 1.0 / 20
	teaspoonML  = 5
	puffML      = 0.8
)

// Dose is a drop, a teaspoon or a puff of a material: its name, and what it weighs in
// grams. dropML is the workshop's own drop, 0 for the usual one.
func Dose(by formula.By, m *material.Material, dropML float64) (name string, grams float64) {
	density := 1.0
	if m != nil && m.Density.Value > 0 {
		density = m.Density.Value
	}
	switch by {
	case formula.ByDrop:
		if dropML <= 0 {
			dropML = usualDropML
		}
		return "drop", dropML * density
	case formula.ByMist:
		return "puff", puffML * density
	}
	return "teaspoon", teaspoonML * density
}

// Of is which of the materials in a bowl, by how much of each there is to be, a remedy
// takes more of: the binder or the powder there is most of; −1 for none of them. An
// unknown material is nil.
func (r *Remedy) Of(in []*material.Material, massG []float64) int {
	best := -1
	for i, m := range in {
		if m == nil || !r.Binder && !r.Most || r.Binder != m.Liquid() {
			continue
		}
		if best < 0 || massG[i] > massG[best] {
			best = i
		}
	}
	return best
}
