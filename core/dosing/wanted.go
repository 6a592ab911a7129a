package dosing

import (
	"fmt"

	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/core/solution"
)

// Soil is how dirty a load is.
type Soil string

// How dirty a load may be, and what that does to what is wanted of the wash. From
// memory: the label scales of detergents go from three quarters to one and a half.
const (
	Light  Soil = "light"
	Normal Soil = "normal"
	Heavy  Soil = "heavy"
)

var soils = map[Soil]float64{Light: 0.75, Normal: 1, Heavy: 1.5}

// ParseSoil reads a soil; empty is normal.
func ParseSoil(s string) (Soil, error) {
	if s == "" {
		return Normal, nil
	}
	if _, ok := soils[Soil(s)]; !ok {
		return "", fmt.Errorf("soil is light, normal or heavy, not “%s”", s)
	}
	return Soil(s), nil
}

// Wanted is what a good is to bring about in its water. Zero values want nothing.
type Wanted struct {
	AlkalinityGPerL float64 // at least, free, as Na2O
	HardnessLeft    float64 // at most, mmol/l; none wanted where it is negative
	SoapLeftGPerL   float64 // at least, of soap that is still soap
	SourBelow       float64 // a pH at most
	PHBelow         float64 // a pH that must not be passed
}

// What is wanted of each use at normal soil. From memory, as the mains of household
// products give it: a wash liquor of 0.25 g/l Na2O at pH 9 to 11.3; soap from 0.2 g/l
// on makes suds that stay; a dishwasher's water at 0.5 g/l Na2O and hardness under
// 0.4 mmol/l, above which film stays; a last rinse below pH 7; a bowl below pH 5 where
// limescale is to go.
var wants = map[string]Wanted{
	"laundry":  {AlkalinityGPerL: 0.25, SoapLeftGPerL: 0.2, HardnessLeft: 0.4, PHBelow: 11.3},
	"dishes":   {AlkalinityGPerL: 0.5, HardnessLeft: 0.4, PHBelow: 12},
	"surfaces": {AlkalinityGPerL: 0.5, SoapLeftGPerL: 0.5, HardnessLeft: -1, PHBelow: 11.5},
	"toilet":   {HardnessLeft: -1, SourBelow: 5},
}

// sourBelow is what a sour good is for, by what it is used on: a last rinse that leaves no
// lime, a surface and a bowl that lime comes off. From memory: chalk dissolves within
// minutes below about pH 4, slowly up to 5.
var sourBelow = map[string]float64{"laundry": 7, "dishes": 7, "surfaces": 4, "toilet": 5}

// WantedOf is what can be asked of a good: nothing of what it has none of. Shares are of
// what is in it beside water, so that a liquid is asked for what a powder is.
func WantedOf(r *formula.Resolved, soil Soil) Wanted {
	info := r.Formula.Kind.Info()
	w := wants[info.UsedOn]
	c := contentsOf(r)
	if info.Kind == "rinse-aid" || c.acidEq > c.alkaliEq && c.acid >= 0.02 && c.soap < 0.03 {
		return Wanted{HardnessLeft: -1, SourBelow: sourBelow[info.UsedOn]} // sour is dosed by what sour does
	}
	if c.soap < 0.03 {
		w.SoapLeftGPerL = 0
	}
	if c.alkali < 0.1 {
		w.AlkalinityGPerL = 0
	}
	if c.alkali < 0.1 && c.chelant < 0.02 || w.SoapLeftGPerL > 0 { // soap that is left tells it already
		w.HardnessLeft = -1
	}
	if c.acid < 0.02 {
		w.SourBelow = 0
	}
	factor := soils[soil]
	w.AlkalinityGPerL *= factor
	w.SoapLeftGPerL *= factor
	return w
}

// nothing reports whether anything is wanted at all.
func (w Wanted) nothing() bool {
	return w.AlkalinityGPerL == 0 && w.SoapLeftGPerL == 0 && w.HardnessLeft < 0 && w.SourBelow == 0
}

// contents are shares of a good by mass, of what is in it beside water; and what it brings
// of acid and alkali, in equivalents.
type contents struct{ soap, alkali, acid, chelant, acidEq, alkaliEq float64 }

func contentsOf(r *formula.Resolved) (c contents) {
	water := 0.0
	for i := range r.Lines {
		l := &r.Lines[i]
		if l.Material == nil {
			continue
		}
		for m, share := range l.Material.Bases() {
			share *= l.Share.Value
			parts, of, _ := solution.Contents(m)
			water += share * of
			dry := share * (1 - of)
			c.soap += share * (m.ShareOf("soap") + m.ShareOf("potassium-soap"))
			if m.Is(material.Alkali) {
				c.alkali += dry
			}
			if m.Is(material.Acid) {
				c.acid += dry
			}
			if m.Is(material.Chelant) || m.Is(material.Citrate) {
				c.chelant += dry
			}
			for _, p := range parts {
				c.acidEq += share * p.MolPerG.Value * p.Compound.AcidEq
				c.alkaliEq += share * p.MolPerG.Value * p.Compound.AlkaliEq
			}
		}
	}
	if rest := 1 - water; rest > 1e-6 {
		c.soap, c.alkali, c.acid, c.chelant = c.soap/rest, c.alkali/rest, c.acid/rest, c.chelant/rest
	}
	return c
}

// misses says what a strength falls short of; empty when it meets all.
func (w Wanted) misses(d solution.Dosed) string {
	switch {
	case w.AlkalinityGPerL > 0 && d.AlkalinityGPerL < w.AlkalinityGPerL:
		return fmt.Sprintf("free alkali %.2f of %.2f g/l", max(0, d.AlkalinityGPerL), w.AlkalinityGPerL)
	case w.HardnessLeft >= 0 && d.HardnessLeft > w.HardnessLeft:
		return fmt.Sprintf("%.0f mg/l of hardness left, %.0f at most", quantity.Hardness(d.HardnessLeft).MGPerL(), quantity.Hardness(w.HardnessLeft).MGPerL())
	case w.SoapLeftGPerL > 0 && d.SoapLeftGPerL < w.SoapLeftGPerL:
		return fmt.Sprintf("soap left %.2f of %.2f g/l", d.SoapLeftGPerL, w.SoapLeftGPerL)
	case w.SourBelow > 0 && d.PH > w.SourBelow:
		return fmt.Sprintf("pH %.1f where %.1f is wanted", d.PH, w.SourBelow)
	}
	return ""
}
