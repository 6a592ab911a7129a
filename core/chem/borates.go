package chem

import "math"

// Polyborates. In strong borax several borons join:
//
//	3 B(OH)₃ = B₃O₃(OH)₄⁻ + H⁺ + 2 H₂O    log K = −7.528
//	4 B(OH)₃ = B₄O₅(OH)₄²⁻ + 2 H⁺ + 3 H₂O  log K = −16.134
//
// Felmy & Weare, Geochim. Cosmochim. Acta 50 (1986) 2771, from memory; at 25 °C,
// which stands at other temperatures.
var (
	triborate   = math.Pow(10, -7.528)
	tetraborate = math.Pow(10, -16.134)
)

// boronAlone is the boron, in mol to a kg of water, below which no two meet
// often enough to be counted: they would move the pH by less than 0.001.
const boronAlone = 0.02

// borates adds the forms of boron where several join. What is free is found by
// Newton's method: all that it gives grows with it and bends upward, so that from
// above the root is never passed.
func (v *solver) borates(sp *species, total, a float64) {
	one := v.m.steps[Boric][0] / a                  // B(OH)₄⁻ for each B(OH)₃
	three, four := v.m.poly[0]/a, v.m.poly[1]/(a*a) // for its cube and its fourth power
	x := total / (1 + one)
	const most = 60
	for range most {
		x3 := x * x * x
		f := x*(1+one) + 3*three*x3 + 4*four*x3*x - total
		step := f / (1 + one + 9*three*x*x + 16*four*x3)
		x -= step
		if math.Abs(step) <= 1e-13*total {
			break
		}
	}
	b1, b3, b4 := x*one, three*x*x*x, four*x*x*x*x
	sp.charge -= b1 + b3 + 2*b4
	sp.ionic += b1 + b3 + 4*b4
	// −d charge / d ln a at a constant total: Σ z² c − (Σ n z c)² / Σ n² c
	sum := b1 + 3*b3 + 8*b4
	sp.slope += b1 + b3 + 4*b4 - sum*sum/(x+b1+9*b3+16*b4)
}
