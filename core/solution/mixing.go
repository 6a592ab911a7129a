package solution

import (
	"keencrock/core/material"
	"keencrock/core/quantity"
)

// Mixing works out the pH of the same materials in changing amounts, for
// searches: quicker than [Run], and the same pH. It is for one goroutine.
type Mixing struct{ b *runner }

// NewMixing takes materials, in the order their masses are given later, at a
// use. What is not known of a material's make-up is left out.
func NewMixing(materials []*material.Material, use Use) *Mixing {
	b := &runner{use: use, lines: make([]line, len(materials)), keepsChalk: true}
	for i, m := range materials {
		b.lines[i], _ = newLine(m, quantity.Range{})
	}
	return &Mixing{b}
}

// ClosedPH is the pH with the gas still in it, of so many grams of each. The
// error is ErrNothing, or of chem.Solve.
func (m *Mixing) ClosedPH(massG []float64) (float64, error) {
	total := 0.0
	for _, g := range massG {
		total += g
	}
	if total <= 0 {
		return 0, ErrNothing
	}
	s := plus(m.b.solution(weighing(massG)), m.b.hardWater())
	e, err := m.b.solve(s, 0)
	if err == nil {
		m.b.near = e.PH
	}
	return e.PH, err
}
