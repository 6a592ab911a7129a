package material

import (
	"strings"

	"keencrock/core/chem"
)

// almostAll is the share from which a material is counted as nothing but what does the
// work in it.
const almostAll = 0.98

// AtWork is what does the work in a material that is sold with water in it, and its share
// by mass: the soda in soda crystals (37 %), the acid in vinegar. ok is false for what is
// all of it, and for what is not known.
func (l *Library) AtWork(m *Material) (name string, share float64, ok bool) {
	if dry, water, is := strings.Cut(m.Formula, "·"); is && strings.HasSuffix(water, "H2O") {
		return l.dried(m, dry)
	}
	for _, c := range m.MakeUp {
		s := l.Substance(c.Of)
		if c.Of == "water" || c.Share.Value <= share {
			continue
		}
		name, share = strings.ReplaceAll(c.Of, "-", " "), c.Share.Value
		if s != nil && s.Name != "" {
			name = s.Name
		}
	}
	return name, share, share > 0 && share < almostAll
}

// dried is a hydrate without its water.
func (l *Library) dried(m *Material, formula string) (name string, share float64, ok bool) {
	dry, err := chem.MolarMass(formula)
	if err != nil || m.MolarMass <= 0 {
		return "", 0, false
	}
	name = "dry " + strings.ToLower(m.Name)
	for _, other := range l.materials {
		if other.Formula == formula {
			name = other.Name
			break
		}
	}
	share = dry / m.MolarMass
	return name, share, share < almostAll
}
