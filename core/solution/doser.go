package solution

import (
	"keencrock/core/chem"
	"keencrock/core/formula"
)

// Dosed is what one strength of use gives.
type Dosed struct {
	PH float64 // closed, as it is used
	// AlkalinityGPerL is free and still there once chalk has fallen out, as Na2O; below
	// zero it is acid that is left over.
	AlkalinityGPerL float64
	HardnessLeft    float64 // in mmol to a litre
	SoapLeftGPerL   float64 // not lost to scum, and not turned back to fat
}

// Doser works out one formula at many strengths, for searches: quicker than [Run],
// without ranges, and to the same numbers. It is for one goroutine.
type Doser struct{ b *runner }

// NewDoser takes a formula in a water; the strength of use is given later. known is
// false where a material cannot be vouched for.
func NewDoser(r *formula.Resolved, use Use) (d *Doser, known bool, err error) {
	use.Neat, use.GramsPerLitre = false, max(use.GramsPerLitre, 1)
	b, out, err := newRunner(r, use)
	if err != nil {
		return nil, false, err
	}
	return &Doser{b}, len(out.Unknown) == 0, nil
}

// At is what so many grams of good to a litre of water give. The error is of
// chem.Solve.
func (d *Doser) At(gramsPerLitre float64) (out Dosed, err error) {
	d.b.use.GramsPerLitre = gramsPerLitre
	product := d.b.solution(likely)
	s := plus(product, d.b.hardWater())
	e, err := d.b.roughly(s, forRanges, 0)
	if err != nil {
		return out, err
	}
	d.b.near = e.PH
	h, err := d.b.hardness(&s, &product)
	if err != nil {
		return out, err
	}
	out = Dosed{PH: e.PH, AlkalinityGPerL: d.b.alkalinityAt(likely) - chem.GramsNa2O*h.Precipitation/1000, HardnessLeft: h.Left}
	if soap := s.Acids[chem.Soap]; soap > 0 {
		out.SoapLeftGPerL = (h.SoapGPerL - h.SoapLostGPerL) * (1 - d.b.byGood(e.Protonated, soap))
	}
	return out, nil
}
