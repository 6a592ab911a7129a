package safety

import (
	"fmt"
	"slices"

	"keencrock/core/material"
)

// Screened is a hazard statement that the whole carries by the screen of package
// hazard, the material that counts most for it, empty where it is the pH of the whole,
// and why.
type Screened struct{ Code, MaterialID, Material, Because string }

// hazard is a class of hazard statements, and what a maker is told of it.
type hazard struct {
	code       string
	statements []string
	severity   Severity
	text       string
	advice     string
}

// hazards are the statements that are told as cautions, the gravest first: each has its
// statement on the label, and none stands here without it.
var hazards = []hazard{
	{"eye-damage", []string{"H318"}, Warn, "%s can harm the eyes for good at the share it has here.", "Glasses while it is made; say on the label to rinse the eyes for minutes: local codes decide how."},
	{"skin-sensitising", []string{"H317"}, Note, "%s can make the skin allergic at the share it has here.", "Less of it, and name it on the label."},
	{"skin-irritation", []string{"H315"}, Note, "%s can irritate skin and eyes at the share it has here.", "Gloves for long work; rinse at once."},
	{"eye-irritation", []string{"H319"}, Note, "%s can irritate the eyes at the share it has here.", "Glasses for long work; rinse at once."},
}

const (
	burnsText   = "As it stands it burns skin and eyes: %s."
	burnsAdvice = "Gloves and glasses; rinse at once. The label has to say so: local codes decide how."
	stingsText  = "As it stands, at pH %s, it stings skin and eyes. So little is behind that pH that the label need not say it burns; the rule asks for a test that confirms it."
	inUseText   = "At pH %s, at the strength it is used, it stings skin and eyes."
	handsAdvice = "Gloves and glasses; rinse at once, and keep it from children."
	byTheWhole  = "The good as a whole, screened by Regulation (EC) 1272/2008 (CLP), Annex I, part 3: the shares of its materials, and its pH."
	byThePH     = "The extreme pH of Regulation (EC) 1272/2008 (CLP), Annex I, part 3: at most 2, or at least 11.5."
)

// hazardCautions are what the screen of the whole says to a maker: that it burns, or that
// it stands at a pH that would but for how little is behind it; and the gravest of the
// other statements. What burns by what it holds is said by its rule.
func hazardCautions(m *Mixture, said map[string]bool) (out []Caution) {
	context := SameJarDry
	if m.Wet {
		context = SamePotWet
	}
	burns := said["burns-skin"]
	if i := slices.IndexFunc(m.Screened, func(s Screened) bool { return s.Code == "H314" }); i >= 0 && !burns {
		is := m.Screened[i]
		c := Caution{Code: m.burningCode(is), Severity: Warn, Context: context, Of: OfBottle, Text: fmt.Sprintf(burnsText, is.Because), Advice: burnsAdvice, Basis: byTheWhole}
		if is.MaterialID != "" {
			c.Materials = []string{is.MaterialID}
		}
		out, burns = append(out, c), true
	}
	if m.Stands.IsExtreme() && !burns && m.Screened != nil {
		out = append(out, Caution{Code: "extreme-ph", Severity: Warn, Context: context, Of: OfBottle, Text: fmt.Sprintf(stingsText, m.Stands), Advice: handsAdvice, Basis: byThePH, Materials: m.ofPH(m.Stands)})
	}
	if m.InUse.IsExtreme() && !m.Neat {
		out = append(out, Caution{Code: "extreme-ph", Severity: Warn, Context: OneAfterOther, Of: OfUse, Text: fmt.Sprintf(inUseText, m.InUse), Advice: handsAdvice, Basis: byThePH, Materials: m.ofPH(m.InUse)})
	}
	if burns {
		return out
	}
	for _, h := range hazards {
		for _, is := range m.Screened {
			if slices.Contains(h.statements, is.Code) && is.MaterialID != "" {
				return append(out, Caution{Code: h.code, Severity: h.severity, Context: context, Of: OfBottle, Materials: []string{is.MaterialID},
					Text: fmt.Sprintf(h.text, is.Material), Advice: h.advice, Basis: byTheWhole})
			}
		}
	}
	return out
}

// ofPH is the material that does most for an extreme pH; none where none is known to.
func (m *Mixture) ofPH(ph PH) []string {
	tags := material.Alkali | material.StrongAlkali | material.Carbonate
	if acid, _ := Extreme(ph.Range); acid {
		tags = material.Acid
	}
	var best *Ingredient
	for i := range m.Ingredients {
		if in := &m.Ingredients[i]; in.Material.Tags&tags != 0 && (best == nil || in.Share > best.Share) {
			best = in
		}
	}
	if best == nil {
		return nil
	}
	return []string{best.Material.ID}
}

// burningCode says whether it is acid or alkali that burns, by the material that counts
// most, else by the pH.
func (m *Mixture) burningCode(is Screened) string {
	for _, in := range m.Ingredients {
		if in.Material.ID == is.MaterialID && in.Material.Is(material.Acid) {
			return "burning-acid"
		}
	}
	if acid, _ := Extreme(m.Stands.Range); m.Stands.Known && acid {
		return "burning-acid"
	}
	return "burning-alkali"
}
