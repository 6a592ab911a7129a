package solution

import (
	"keencrock/core/chem"
	"keencrock/core/formula"
	"keencrock/core/quantity"
)

// Where reserves are titrated to, and how thin what is dry is made for it: 10 % in
// water (Young, How, Walker & Worth, Toxicology in Vitro 2, 1988).
const (
	alkaliReservePH = 10.0
	acidReservePH   = 4.0
	dryGramsPerL    = 100.0
)

// Reserve is how strongly a good stands at its pH.
type Reserve struct {
	PH    float64 // of what is poured as it is, of a powder 10 % in water
	Known bool
	// GPer100G is the alkali down to pH 10 in g of sodium hydroxide to 100 g of good;
	// below zero it is the alkali that its acid takes up to pH 4. Zero between.
	GPer100G float64
}

// ReserveOf works out the acid or alkali reserve of a good. The error is of [Run].
func ReserveOf(r *formula.Resolved) (Reserve, error) {
	use := Use{Neat: true, Basis: AsItIs, Celsius: 25, Dose: quantity.Exactly(1)}
	if r.State() != formula.WetState {
		use = Use{GramsPerLitre: dryGramsPerL, Basis: Assumed, Celsius: 25, Dose: quantity.Exactly(1)}
	}
	b, out, err := newRunner(r, use)
	if err != nil {
		return Reserve{}, err
	}
	s := b.solution(likely)
	closed, err := b.roughly(s, forLooking, 0)
	if err != nil {
		return Reserve{}, err
	}
	out.ClosedPH, out.VentedPH = phOf(closed), phOf(closed)
	b.unknownPH(out)
	reserve := Reserve{PH: out.ClosedPH.Value, Known: out.PHFrom != NotKnown}
	to := alkaliReservePH
	if closed.PH < acidReservePH {
		to = acidReservePH
	} else if closed.PH <= alkaliReservePH {
		return reserve, nil
	}
	acid, err := chem.Neutralise(&s, use.Celsius, to)
	if err != nil {
		return Reserve{}, err
	}
	reserve.GPer100G = acid * chem.GramsNaOH * b.waterKg() / (r.TotalG.Value / 100)
	return reserve, nil
}

// waterKg is the water that all of a good is dissolved in at its use, in kg.
func (b *runner) waterKg() float64 {
	total, water := 0.0, 0.0
	for i := range b.lines {
		total += b.lines[i].massG.Value
		water += b.lines[i].massG.Value * b.lines[i].water
	}
	if b.use.Neat {
		return water / 1000
	}
	return total/b.use.GramsPerLitre + water/1000
}
