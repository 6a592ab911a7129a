package safety

import (
	"fmt"

	"keencrock/core/material"
)

// hazard is a class of hazard statements and the share of the whole from which a
// mixture carries it, where a material says no limit of its own: the general
// limits of Regulation (EC) 1272/2008 (CLP), Annex I, parts 3.3, 3.4 and 3.7.
type hazard struct {
	code       string
	statements []string
	limit      float64
	severity   Severity
	text       string
	advice     string
}

var hazards = []hazard{
	{"eye-damage", []string{"H318", "H314"}, 0.03, Warn, "%s can harm the eyes for good at the share it has here.", "Glasses while it is made; say on the label to rinse the eyes for minutes: local codes decide how."},
	{"skin-sensitising", []string{"H317"}, 0.01, Note, "%s can make the skin allergic at the share it has here.", "Less of it, and name it on the label."},
	{"eye-irritation", []string{"H319", "H315"}, 0.10, Note, "%s irritates skin and eyes at the share it has here.", "Gloves for long work; rinse at once."},
}

// hazardCautions are the statements of materials at the share they have. What
// burned and is neutralised is left out, and what burns is said by the rules.
func hazardCautions(m *Mixture, said map[string]bool) []Caution {
	if said["burns-skin"] || said["burning-alkali"] || said["burning-acid"] {
		return nil
	}
	for _, h := range hazards {
		sum, most := 0.0, 0.0
		var biggest *material.Material
		for i := range m.Ingredients {
			in := &m.Ingredients[i]
			if in.Material.Is(material.Caustic) && m.causticSpent() {
				continue
			}
			part := h.part(in)
			sum += part
			if part > most {
				biggest, most = in.Material, part
			}
		}
		if sum < 1 {
			continue
		}
		context := SameJarDry
		if m.Wet {
			context = SamePotWet
		}
		return []Caution{{Code: h.code, Severity: h.severity, Context: context, Of: OfBottle, Materials: []string{biggest.ID},
			Text: fmt.Sprintf(h.text, biggest.Name), Advice: h.advice}}
	}
	return nil
}

// part is how much of the limit a material takes up.
func (h *hazard) part(in *Ingredient) float64 {
	for _, statement := range h.statements {
		for _, has := range in.Material.Hazards {
			if has != statement {
				continue
			}
			limit := h.limit
			if own, ok := in.Material.HazardLimits[statement]; ok {
				limit = own
			}
			return in.Share / limit
		}
	}
	return 0
}
