package label

import (
	_ "embed"
	"regexp"
	"slices"
	"strings"

	"keencrock/core/hazard"
)

// Region is where a good is sold: what its label must carry follows from that.
type Region struct {
	ID, Name string
	// Says is what must stand on a label there, with the rule it is from.
	Says string
	// Phone and Code say that a telephone, and a code of the formula, must stand on one with
	// hazards.
	Phone, Code bool
}

//go:embed regions.json
var regionsFile []byte

// Regions are the ones a workshop can choose of; the first is meant where none is chosen.
var Regions = func() []Region { return mustRead[Region](regionsFile) }

// FindRegion returns a region by its id, the first for an empty one; ok is false where
// there is none.
func FindRegion(id string) (r Region, ok bool) {
	all := Regions()
	if id == "" {
		return all[0], true
	}
	if i := slices.IndexFunc(all, func(r Region) bool { return r.ID == id }); i >= 0 {
		return all[i], true
	}
	return r, false
}

// needsCode are the classes for which a code of the formula is asked: those of health and
// of fire (CLP, Annex VIII).
func needsCode(statements []Statement) bool {
	return slices.ContainsFunc(statements, func(s Statement) bool {
		return strings.HasPrefix(s.Code, "H2") || strings.HasPrefix(s.Code, "H3")
	})
}

// Missing says what a label must carry in a region and does not, and what to do.
func (c *Content) Missing(r Region) (out []Misfit) {
	if len(c.Statements) == 0 {
		return nil
	}
	if r.Phone && c.Phone == "" {
		out = append(out, Misfit{Block: "phone", Says: "A label with hazards carries a telephone number of who makes it. " + r.Says, Advice: "Write yours in settings."})
	}
	if strings.TrimSpace(c.Maker) == "" || !strings.Contains(c.Maker, ",") {
		out = append(out, Misfit{Block: "maker", Says: "A label with hazards carries the name and address of who makes it.", Advice: "Write yours in settings."})
	}
	if r.Code && c.UFI == "" && needsCode(c.Statements) {
		out = append(out, Misfit{Block: "formula-code", Says: "A mixture with hazards to health or of fire carries a code of its formula, UFI, made with the agency’s own tool once it is notified.", Advice: "Type it here once you have it; the authority where you live decides."})
	}
	return out
}

var ufiForm = regexp.MustCompile(`^[0-9A-Z]{4}(-[0-9A-Z]{4}){3}$`)

// IsUFI reports whether a text has the form of a code of a formula: four times four letters
// and figures (CLP, Annex VIII, part A, 5).
func IsUFI(s string) bool { return ufiForm.MatchString(s) }

// Notice stands over every label.
const Notice = hazard.Notice
