package assess

import (
	"fmt"
	"math"

	"keencrock/core/formula"
	"keencrock/core/hazard"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/core/safety"
	"keencrock/core/solution"
)

// screen screens the good as it stands in its jar or bottle.
func (a *Assessment) screen(lib *material.Library) {
	m := a.hazards(lib)
	if m == nil {
		return
	}
	if m.Wet { // a powder stands at no pH
		a.standsPH = safety.PH{Range: m.PH, Known: !m.PH.IsZero()}
	}
	a.Hazard = hazard.Screen(m, lib)
	a.tryRemedies(lib)
	a.muchScent(m)
}

// hazards is the good as a screen reads it; nil where there is nothing in it.
func (a *Assessment) hazards(lib *material.Library) *hazard.Mixture {
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
			share *= a.Saponified.Left(base)
			m.Ingredients = append(m.Ingredients, hazard.Ingredient{Material: base, Share: share * l.Share.Value, High: share * l.Share.High})
			isopropanol += share * l.Share.Value * base.ShareOf("isopropanol")
			ethanol += share * l.Share.Value * base.ShareOf("ethanol")
		}
	}
	if s := a.Saponified; s != nil {
		if soap, err := lib.Find("grated-soap"); err == nil {
			share := s.SoapG() / r.TotalG.Value
			m.Ingredients = append(m.Ingredients, hazard.Ingredient{Material: soap, Share: share, High: share})
		}
	}
	addUnread(m, unread, r.TotalG.Value)
	if len(m.Ingredients) == 0 {
		return nil
	}
	if strained > 0 && strained < 1 {
		for i := range m.Ingredients {
			m.Ingredients[i].Share /= 1 - strained
			m.Ingredients[i].High /= 1 - strained
		}
	}
	if reserve, err := solution.ReserveOf(r); err == nil && reserve.Known {
		m.PH, m.PHKnown, m.Reserve = quantity.Exactly(reserve.PH), true, reserve.GPer100G
	}
	if b := a.Bottle; b != nil {
		if m.Wet && b.Known() {
			m.PH, m.PHKnown = a.warier(), b.IsPoint() && a.otherwise() == nil
		}
		m.AcidPoured, m.AlkaliPoured = b.AcidPoured, b.AlkaliPoured
		m.Alcohol = b.Alcohol
		if isopropanol > 0 {
			m.Isopropanol = b.Alcohol * isopropanol / (isopropanol + ethanol)
		}
	}
	return m
}

// tryRemedies makes what would take a statement off into grams of this formula, and tries
// it on the formula so changed before it is told. What does not help, or is no line of the
// formula that could be changed, is not told.
func (a *Assessment) tryRemedies(lib *material.Library) {
	for i := range a.Hazard.Statements {
		f := &a.Hazard.Statements[i]
		if f.Less == nil {
			continue
		}
		if !a.tryRemedy(f, lib) {
			f.Less = nil
		}
	}
}

// remedyTries is how often a remedy is made stronger before it is given up for leaving the
// material out.
const remedyTries = 3

func (a *Assessment) tryRemedy(f *hazard.Finding, lib *material.Library) (helps bool) {
	r := a.Resolved
	poured, of := 0.0, f.Less.Material
	for i := range r.Lines {
		if m := r.Lines[i].Material; m != nil && m.ID == of.ID {
			poured += r.Lines[i].MassG.Value
		}
	}
	if poured == 0 {
		return false // it came with another
	}
	under := asWeighed(poured - f.Less.Share*r.TotalG.Value)
	for try := 0; ; try++ {
		if under <= 0 || try == remedyTries {
			under = 0
		}
		if !a.with(of, under/poured, lib).Has(f.Code) {
			f.Less.UnderG, f.Less.TotalG, f.Less.Share = under, r.TotalG.Value, (poured-under)/r.TotalG.Value
			return true
		}
		if under == 0 {
			return false
		}
		under = asWeighed(0.8 * under)
	}
}

// with is the screen of the formula with a share of what it has of a material.
func (a *Assessment) with(of *material.Material, share float64, lib *material.Library) *hazard.Result {
	changed := &Assessment{Resolved: a.Resolved.With(of, share)}
	changed.State = changed.Resolved.State()
	if a.Saponified != nil {
		changed.Saponified = solution.Saponify(changed.Resolved)
	}
	changed.stand(false)
	m := changed.hazards(lib)
	if m == nil {
		return &hazard.Result{}
	}
	return hazard.Screen(m, lib)
}

// asWeighed rounds grams down to two figures, as a limit is said.
func asWeighed(g float64) float64 {
	if g <= 0 {
		return 0
	}
	step := math.Pow(10, math.Floor(math.Log10(g))-1)
	return math.Floor(g/step*(1+1e-12)) * step
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
func (a *Assessment) screened() []safety.Screened {
	if a.Hazard == nil {
		return nil
	}
	out := []safety.Screened{}
	for _, f := range a.Hazard.Statements {
		s := safety.Screened{Code: f.Code, Because: f.Because}
		if len(f.From) > 0 {
			s.MaterialID, s.Material = f.From[0].Material.ID, f.From[0].Material.Name
		}
		out = append(out, s)
	}
	return out
}

// warier is the pH of the bottle that the screen goes by: with what is worked out, where a
// measured one cannot be of what went in.
func (a *Assessment) warier() quantity.Range {
	ph := a.Bottle.PH
	if o := a.otherwise(); o != nil {
		ph = ph.Including(o.WorkedOut.Low).Including(o.WorkedOut.High)
	}
	return ph
}

// otherwisePH is how far a measured pH may lie from what is worked out. From memory: a strip
// read badly is off by a unit, and so is the model in strong brine.
const otherwisePH = 1.5

// otherwise is a measured pH that what went in cannot have; nil where there is none.
func (a *Assessment) otherwise() *safety.Otherwise {
	b := a.Bottle
	if b == nil || b.PHFrom != solution.Measured || b.WorkedOut.IsZero() {
		return nil
	}
	if b.PH.Low <= b.WorkedOut.High+otherwisePH && b.PH.High >= b.WorkedOut.Low-otherwisePH {
		return nil
	}
	return &safety.Otherwise{Measured: b.PH, WorkedOut: b.WorkedOut}
}
