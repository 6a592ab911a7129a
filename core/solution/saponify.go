package solution

import (
	"keencrock/core/chem"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

// Saponification is what becomes of fat and lye: soap, and what is left of either.
type Saponification struct {
	SoapMol float64 // of soap, over the batch
	// LyeLeftG is lye that no fat takes, over the batch, in g of sodium hydroxide.
	LyeLeftG quantity.Range
	// FatLeft is the share of the fat that no lye takes, 0 to 1.
	FatLeft quantity.Range
	// Sodium is the share of the lye that is sodium hydroxide: it makes a bar, potassium
	// hydroxide a soft or liquid soap.
	Sodium float64
	// HeatKJ is what the lye gives off as it dissolves and turns the fat into soap.
	HeatKJ float64
	// CureDays is how long it takes until it is mild and hard, from and to.
	CureDays          [2]int
	fatShare, lyeLeft float64
}

// Heat in kJ to a mol: of dissolving lye (sodium hydroxide 44.5, potassium hydroxide 57.6:
// CRC Handbook, from memory), and of turning fat into soap, from memory.
const (
	heatSodaLye   = 44.5
	heatPotashLye = 57.6
	heatSoap      = 50.0
)

// Cure in days, common practice: a bar four to six weeks, a potash soap one to two.
var (
	curesBar  = [2]int{28, 42}
	curesSoft = [2]int{7, 14}
)

// barFat is the share of fat from which lye makes a bar of it. Common practice: below it is
// a cleaner with a little oil in it.
const barFat = 0.3

// SoapG is the soap that is made over the batch, in grams.
func (s *Saponification) SoapG() float64 { return s.SoapMol * chem.SoapMolarMass }

// Left is the share of a material that is not turned into soap: of lye that finds fat, of
// fat that finds lye; 1 of anything else.
func (s *Saponification) Left(m *material.Material) float64 {
	if s == nil {
		return 1
	}
	if m.Saponifies.Known() {
		return s.FatLeft.Value
	}
	if eq, _ := lyeOf(m, quantity.Exactly(1)); eq.Value > 0 {
		return s.lyeLeft
	}
	return 1
}

// Sets reports whether it becomes a bar.
func (s *Saponification) Sets() bool { return s.Sodium >= 0.5 && s.fatShare >= barFat }

// Saponify works out what fat and lye make of each other; nil where one of them is missing.
// Saponification values are of the material, the formula's scoops are carried.
func Saponify(r *formula.Resolved) *Saponification {
	var fat, lye quantity.Range // equivalents
	var sodium, fatG, heat float64
	for i := range r.Lines {
		l := &r.Lines[i]
		if l.Material == nil || l.MassG.Value <= 0 {
			continue
		}
		for m, share := range l.Material.Bases() {
			g := l.MassG.Scale(share)
			if v := m.Saponifies; v.Known() {
				fat = fat.Add(g.Mul(v.Range).Scale(1 / (1000 * chem.GramsKOH)))
				fatG += g.Value
			}
			switch eq, soda := lyeOf(m, g); {
			case eq.Value == 0:
			case soda:
				lye, sodium, heat = lye.Add(eq), sodium+eq.Value, heat+eq.Value*heatSodaLye
			default:
				lye, heat = lye.Add(eq), heat+eq.Value*heatPotashLye
			}
		}
	}
	if fat.Value == 0 || lye.Value == 0 {
		return nil
	}
	s := &Saponification{SoapMol: min(fat.Value, lye.Value), Sodium: sodium / lye.Value, fatShare: fatG / r.TotalG.Value, CureDays: curesSoft,
		LyeLeftG: quantity.Range{Value: max(0, lye.Value-fat.Value), Low: max(0, lye.Low-fat.High), High: max(0, lye.High-fat.Low)}.Scale(chem.GramsNaOH)}
	left := func(fat, lye float64) float64 { return max(0, fat-lye) / fat }
	s.FatLeft = quantity.Range{Value: left(fat.Value, lye.Value), Low: left(fat.Low, lye.High), High: left(fat.High, lye.Low)}
	s.lyeLeft = left(lye.Value, fat.Value)
	s.HeatKJ = heat + s.SoapMol*heatSoap
	if s.Sets() {
		s.CureDays = curesBar
	}
	return s
}

// lyeOf is the lye in grams of a material, in equivalents, and whether it is of sodium.
func lyeOf(m *material.Material, g quantity.Range) (eq quantity.Range, sodium bool) {
	parts, _, _ := Contents(m)
	for _, p := range parts {
		if p.Compound.ID == "sodium-hydroxide" || p.Compound.ID == "potassium-hydroxide" {
			return g.Mul(p.MolPerG), p.Compound.ID == "sodium-hydroxide"
		}
	}
	return eq, false
}

// saponify turns lye into soap as far as fat takes it: what is worked out is the good once
// it is cured.
func (b *runner) saponify() {
	s := Saponify(b.r)
	if s == nil {
		return
	}
	spent := 1 - s.lyeLeft
	for i := range b.lines {
		l := &b.lines[i]
		var parts []Part
		for _, p := range l.parts {
			var soap string
			switch p.Compound.ID {
			case "sodium-hydroxide":
				soap = "soap"
			case "potassium-hydroxide":
				soap = "potassium-soap"
			default:
				parts = append(parts, p)
				continue
			}
			made, _ := chem.FindCompound(soap)
			parts = append(parts, Part{made, p.MolPerG.Scale(spent)})
			if spent < 1 {
				parts = append(parts, Part{p.Compound, p.MolPerG.Scale(1 - spent)})
			}
		}
		l.parts = parts
	}
}

// LyeHeats is by how much lye warms the water it is dissolved in, in K, where both go in by
// themselves; 0 without either. The heat stays in a solution of about 3.8 J/(g K), from
// memory.
func LyeHeats(r *formula.Resolved) float64 {
	const joulePerGK = 3.8
	heat, grams := 0.0, 0.0
	for i := range r.Lines {
		l := &r.Lines[i]
		if l.Material == nil || l.MassG.Value <= 0 {
			continue
		}
		for m, share := range l.Material.Bases() {
			g := l.MassG.Value * share
			if m.ID == "water" {
				grams += g
				continue
			}
			if m.Liquid() || m.Is(material.Wet) {
				continue // it is dissolved already
			}
			eq, sodium := lyeOf(m, quantity.Exactly(g))
			if eq.Value == 0 {
				continue
			}
			grams += g
			if heat += eq.Value * heatPotashLye; sodium {
				heat += eq.Value * (heatSodaLye - heatPotashLye)
			}
		}
	}
	if heat == 0 || grams == 0 {
		return 0
	}
	return 1000 * heat / (grams * joulePerGK)
}
