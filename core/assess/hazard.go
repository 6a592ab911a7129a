package assess

import (
	"keencrock/core/formula"
	"keencrock/core/hazard"
	"keencrock/core/material"
	"keencrock/core/safety"
	"keencrock/core/solution"
)

// screen screens the good as it stands in its jar or bottle.
func (a *Assessment) screen(lib *material.Library) {
	r := a.Resolved
	m := &hazard.Mixture{Wet: a.State == formula.WetState, Ingredients: make([]hazard.Ingredient, 0, len(r.Lines))}
	strained, isopropanol, ethanol := 0.0, 0.0, 0.0
	for i := range r.Lines {
		l := &r.Lines[i]
		if l.Material == nil || l.MassG.Value <= 0 {
			continue
		}
		if r.StrainsOut(l.Material) {
			strained += l.Share.Value
			continue
		}
		m.Thick = m.Thick || l.Material.Is(material.Thickener)
		for base, share := range l.Material.Bases() {
			m.Ingredients = append(m.Ingredients, hazard.Ingredient{Material: base, Share: share * l.Share.Value, High: share * l.Share.High})
			isopropanol += share * l.Share.Value * base.ShareOf("isopropanol")
			ethanol += share * l.Share.Value * base.ShareOf("ethanol")
		}
	}
	if len(m.Ingredients) == 0 {
		return
	}
	if strained > 0 && strained < 1 {
		for i := range m.Ingredients {
			m.Ingredients[i].Share /= 1 - strained
			m.Ingredients[i].High /= 1 - strained
		}
	}
	if reserve, err := solution.ReserveOf(r); err == nil {
		m.PH, m.PHKnown, m.Reserve = reserve.PH, reserve.Known, reserve.GPer100G
	}
	if b := a.Bottle; b != nil {
		if m.Wet {
			m.PHKnown = b.Known()
			if m.PHKnown {
				m.PH = b.PH.Value
			}
		}
		m.AcidLeft, m.AlkaliLeft = b.AcidLeft, b.AlkaliLeft
		m.Alcohol = b.Alcohol
		if isopropanol > 0 {
			m.Isopropanol = b.Alcohol * isopropanol / (isopropanol + ethanol)
		}
	}
	a.Hazard = hazard.Screen(m, lib)
}

// screened are the statements of the screen, for the cautions.
func (a *Assessment) screened() (out []safety.Screened) {
	if a.Hazard == nil {
		return nil
	}
	for _, f := range a.Hazard.Statements {
		if len(f.From) > 0 {
			out = append(out, safety.Screened{Code: f.Code, MaterialID: f.From[0].Material.ID, Material: f.From[0].Material.Name})
		}
	}
	return out
}
