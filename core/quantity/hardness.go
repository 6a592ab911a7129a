package quantity

import (
	"fmt"
	"strings"
)

// Hardness is the calcium and magnesium in water, in mmol/l. Soft rain is
// near zero; hard tap water is above 1.8.
type Hardness float64

// What one mmol/l is in each customary unit. The molar mass of CaCO3 from
// IUPAC standard atomic weights gives mg/l; the degrees follow from their
// definitions: °dH 10 mg CaO/l, °fH 10 mg CaCO3/l, °Clark one grain per
// Imperial gallon, gpg one grain per US gallon.
const (
	mgCaCO3PerMMol = 100.086
	mgCaOPerMMol   = 56.077
	mgPerGrain     = 64.79891
)

// MGPerL is the hardness as mg of calcium carbonate to a litre, as most tables give it.
func (h Hardness) MGPerL() float64 { return float64(h) * mgCaCO3PerMMol }

// HardnessOfMGPerL is a hardness of so many mg of calcium carbonate to a litre.
func HardnessOfMGPerL(mg float64) Hardness { return Hardness(mg / mgCaCO3PerMMol) }

type hardnessUnit struct {
	name    string
	perMMol float64
	also    []string
}

var hardnessUnits = []hardnessUnit{
	{"mmol/l", 1, nil},
	{"mg/l", mgCaCO3PerMMol, []string{"ppm", "mg/l caco3"}},
	{"°dH", mgCaOPerMMol / 10, []string{"dh", "dgh", "°dgh"}},
	{"°fH", mgCaCO3PerMMol / 10, []string{"fh", "°f", "°fr"}},
	{"°Clark", mgCaCO3PerMMol * imperialGallonML / 1000 / mgPerGrain, []string{"clark", "°e", "°eh"}},
	{"gpg", mgCaCO3PerMMol * usGallonML / 1000 / mgPerGrain, []string{"grains per gallon"}},
}

// In returns the hardness in a unit: mmol/l, mg/l (as CaCO3), °dH, °fH,
// °Clark or gpg.
func (h Hardness) In(unit string) (float64, error) {
	for _, u := range hardnessUnits {
		if u.matches(unit) {
			return float64(h) * u.perMMol, nil
		}
	}
	return 0, unknownHardnessUnit(unit)
}

func (u hardnessUnit) matches(s string) bool {
	s = strings.ToLower(strings.TrimSpace(s))
	if s == strings.ToLower(u.name) {
		return true
	}
	for _, a := range u.also {
		if s == a {
			return true
		}
	}
	return false
}

func unknownHardnessUnit(s string) error {
	return fmt.Errorf("hardness unit %q is not known: expected mmol/l, mg/l, °dH, °fH, °Clark or gpg", s)
}

// maxHardness refuses slips of the pen; sea water is near 65 mmol/l.
const maxHardness Hardness = 100

// ParseHardness reads a hardness such as "268 mg/l", "15 °dH" or "2,7 mmol/l".
func ParseHardness(s string) (Hardness, error) {
	p := parser{in: s}
	n, found, err := p.number()
	if err != nil {
		return 0, err
	}
	if !found {
		return 0, p.fail(expectNumber)
	}
	unit := p.in[p.pos:]
	for _, u := range hardnessUnits {
		if u.matches(unit) {
			h := Hardness(n.low.Float() / u.perMMol)
			if h > maxHardness {
				return 0, fmt.Errorf("a hardness of %s is beyond sea water: check the unit", strings.TrimSpace(s))
			}
			return h, nil
		}
	}
	return 0, unknownHardnessUnit(strings.TrimSpace(unit))
}

// Class names the hardness by the limits of the US Geological Survey: 60, 120
// and 180 mg/l as CaCO3.
func (h Hardness) Class() string {
	mg := float64(h) * mgCaCO3PerMMol
	switch {
	case mg <= 60:
		return "soft"
	case mg <= 120:
		return "moderately hard"
	case mg <= 180:
		return "hard"
	}
	return "very hard"
}
