package safety

import "fmt"

// Screened is a hazard statement that the whole carries by the screen of package
// hazard, and the material that counts most for it.
type Screened struct{ Code, MaterialID, Material string }

// hazard is a class of hazard statements, and what a maker is told of it.
type hazard struct {
	code       string
	statements []string
	severity   Severity
	text       string
	advice     string
}

var hazards = []hazard{
	{"eye-damage", []string{"H318", "H314"}, Warn, "%s can harm the eyes for good at the share it has here.", "Glasses while it is made; say on the label to rinse the eyes for minutes: local codes decide how."},
	{"skin-sensitising", []string{"H317"}, Note, "%s can make the skin allergic at the share it has here.", "Less of it, and name it on the label."},
	{"eye-irritation", []string{"H319", "H315"}, Note, "%s irritates skin and eyes at the share it has here.", "Gloves for long work; rinse at once."},
}

// hazardCautions are the gravest statement of the whole. What burns is said by the
// rules.
func hazardCautions(m *Mixture, said map[string]bool) []Caution {
	if said["burns-skin"] || said["burning-alkali"] || said["burning-acid"] {
		return nil
	}
	context := SameJarDry
	if m.Wet {
		context = SamePotWet
	}
	for _, h := range hazards {
		for _, statement := range h.statements {
			for _, is := range m.Screened {
				if is.Code == statement {
					return []Caution{{Code: h.code, Severity: h.severity, Context: context, Of: OfBottle, Materials: []string{is.MaterialID},
						Text: fmt.Sprintf(h.text, is.Material), Advice: h.advice}}
				}
			}
		}
	}
	return nil
}
