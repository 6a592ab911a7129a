package solution

import (
	"math"

	"keencrock/core/chem"
	"keencrock/core/formula"
	"keencrock/core/quantity"
)

// brought is how much of one compound the lines bring, in mol.
type brought struct {
	compound *chem.Compound
	mol      float64
}

// saturated dissolves the lines in so many kg of water, each compound only as
// far as the water holds it. What acid takes of a base, or base of an acid,
// makes room for as much again.
func (b *runner) saturated(of end, kg float64) chem.Solution {
	var s chem.Solution
	var store [16]brought
	list := store[:0]
	acid, alkali := 0.0, 0.0
	for i := range b.lines {
		a := of(i, &b.lines[i])
		for _, p := range b.lines[i].parts {
			n := a.g * a.strength * p.MolPerG.Value
			acid += n * p.Compound.AcidEq
			alkali += n * p.Compound.AlkaliEq
			at := -1
			for k := range list {
				if list[k].compound == p.Compound {
					at = k
				}
			}
			if at < 0 {
				list = append(list, brought{compound: p.Compound})
				at = len(list) - 1
			}
			list[at].mol += n
		}
	}
	for _, c := range list {
		s.Add(c.compound, min(c.mol, dissolves(c.compound, b.use.Celsius, kg, acid, alkali))/kg)
	}
	return s
}

// dissolves is how much of a compound so much water takes up, in mol, beside so
// much acid and alkali, in equivalents.
func dissolves(c *chem.Compound, celsius, kg, acid, alkali float64) float64 {
	gPer100G, known := c.Solubility(celsius)
	if !known || c.ID == "calcium-carbonate" { // which its equilibrium holds down
		return 1e300
	}
	mol := gPer100G * 10 * kg / c.MolarMass()
	if c.AlkaliEq > 0 {
		mol += acid / c.AlkaliEq
	}
	if c.AcidEq > 0 {
		mol += alkali / c.AcidEq
	}
	return mol
}

// unknownPH gives the pH its source. A measured one stands in the place of what
// is worked out. Where something is in it whose make-up is not known, the pH is
// what is usual for that, as far as it is; else it is not known.
func (b *runner) unknownPH(out *Result) {
	if m := b.r.Formula.MeasuredPH; m != nil && b.measuredHere() {
		out.PHFrom = Measured
		out.ClosedPH, out.VentedPH = m.Range(), m.Range()
		if out.HasSoap {
			out.Protonated = protonatedAt(m.Range())
		}
		return
	}
	if kind := b.r.Formula.Kind.Info(); kind.Is(formula.Ferments) && b.use.Neat && b.onlyUnknown() {
		out.PHFrom, out.ClosedPH, out.VentedPH = FromMaterial, ripeFerment, ripeFerment // sugar and peel make no pH: what works on them does
		return
	}
	if len(out.Unknown) == 0 {
		return
	}
	var usual quantity.Range
	allMeasured := true
	for i, u := range out.Unknown {
		ph, measured, known := b.r.UsualPH(u.Material)
		if !known {
			out.PHFrom = NotKnown
			return
		}
		allMeasured = allMeasured && measured
		if i == 0 {
			usual = ph
			continue
		}
		usual = usual.Including(ph.Low).Including(ph.High)
	}
	out.PHFrom = FromMaterial
	if b.onlyUnknown() {
		out.ClosedPH, out.VentedPH = usual, usual
		if allMeasured && b.use.Neat && len(b.lines) == 1 {
			out.PHFrom = Measured // nothing else is in it
		}
		return
	}
	// with more in it that counts: anything from the one to the other
	for _, into := range []*quantity.Range{&out.ClosedPH, &out.VentedPH} {
		known := *into
		*into = usual.Including(known.Low).Including(known.High)
		into.Value = (into.Low + into.High) / 2
	}
}

// ripeFerment is the pH of a ferment once it is ripe; common practice.
var ripeFerment = quantity.Range{Value: 3.5, Low: 3, High: 4}

// measuredHere reports whether the measured pH is of this mixture: of a wet good
// as it stands, of a dry one as it is used.
func (b *runner) measuredHere() bool {
	return (b.r.State() == formula.WetState) == b.use.Neat
}

// onlyUnknown reports whether nothing known in it moves the pH.
func (b *runner) onlyUnknown() bool {
	for i := range b.lines {
		for _, p := range b.lines[i].parts {
			if p.Compound.AcidEq != 0 || p.Compound.AlkaliEq != 0 || p.Compound.IsAcidic() {
				return false
			}
		}
	}
	return true
}

// protonatedAt is the share of soap that is fatty acid at a pH, over both ends of
// the pH and of the pKa of soap.
func protonatedAt(ph quantity.Range) quantity.Range {
	share := func(ph, pKa float64) float64 { return 1 / (1 + math.Pow(10, ph-pKa)) }
	return quantity.Range{Value: share(ph.Value, chem.SoapPKaUsual), Low: share(ph.High, chem.SoapPKaLow), High: share(ph.Low, chem.SoapPKaHigh)}
}
