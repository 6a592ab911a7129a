package assess

import (
	"fmt"

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
	var unread []formula.Line
	for i := range r.Lines {
		l := &r.Lines[i]
		if l.Material == nil {
			unread = append(unread, l.Line)
			continue
		}
		if l.MassG.Value <= 0 {
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
	addUnread(m, unread, r.TotalG.Value)
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
	a.muchScent(m)
}

// mostScent is the share of scent that goods hold at most, by what they are used on.
// From memory, rounded from what sellers of scents advise: less for what stays on skin.
var mostScent = map[string]float64{"skin": 0.01, "dishes": 0.01, "laundry": 0.02, "surfaces": 0.02, "toilet": 0.05}

// muchScent says where there is more scent than is usual at most for what it is used on.
func (a *Assessment) muchScent(m *hazard.Mixture) {
	scent := 0.0
	for _, in := range m.Ingredients {
		if in.Material.Is(material.ScentOil) {
			scent += in.Share
		}
	}
	on := a.Resolved.Formula.Kind.Info().UsedOn
	if most, told := mostScent[on]; told && scent > most {
		a.Hazard.Notes = append(a.Hazard.Notes, fmt.Sprintf("%.1f %% of it is scent, and %g %% is usual at most for %s: less of it, and ask who sells the oil.", 100*scent, 100*most, scentedWord[on]))
	}
}

var scentedWord = map[string]string{"skin": "hands", "dishes": "dishes", "laundry": "laundry", "surfaces": "surfaces", "toilet": "the toilet"}

// addUnread adds what is in a good by a name nobody knows: by its share where it is
// weighed, else by its name alone.
func addUnread(m *hazard.Mixture, lines []formula.Line, knownG float64) {
	unknownG := make([]float64, len(lines))
	total := knownG
	for i, l := range lines {
		if g, weighed := l.Amount.MassOnly(); weighed && !l.Optional {
			unknownG[i] = g.Value
			total += g.Value
		}
	}
	if total > knownG {
		for i := range m.Ingredients {
			m.Ingredients[i].Share *= knownG / total
			m.Ingredients[i].High *= knownG / total
		}
	}
	for i, l := range lines {
		switch {
		case l.Material == "" || l.Optional:
		case unknownG[i] > 0:
			m.Ingredients = append(m.Ingredients, hazard.Ingredient{Material: material.Unknown(l.Material), Share: unknownG[i] / total, High: unknownG[i] / total})
		default:
			m.Unread = append(m.Unread, l.Material)
		}
	}
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
