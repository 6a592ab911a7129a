package swap

import (
	"fmt"

	"keencrock/core/chem"
	"keencrock/core/quantity"
)

// Neutralised is what it takes to turn sulfonic acid into its salt.
type Neutralised struct {
	With   Base
	BaseG  quantity.Range
	GasML  float64 // at 25 °C
	HeatKJ float64
	Order  string
}

// Base is what neutralises.
type Base string

// The bases: soda ash with gas, lye with heat.
const (
	WithSodaAsh Base = "sodium-carbonate"
	WithLye     Base = "sodium-hydroxide"
)

// acidValue is that of the usual sulfonic acid, in mg KOH/g: common practice,
// 180, from 175 to 185.
var acidValue = quantity.Range{Value: 180, Low: 175, High: 185}

// Heat in kJ to a mol of acid: H⁺ + OH⁻ gives 55.8 (CRC Handbook, from
// memory); with soda nearly all of it goes off with the gas, from the
// enthalpies of carbonic acid and of carbon dioxide leaving water (20 kJ/mol).
const (
	heatLye  = 55.8
	heatSoda = (9.15 + 14.70 - 20.0) / 2
)

// Neutralise works out the base for grams of sulfonic acid. The error names
// the bases known.
func Neutralise(acidG float64, with Base) (Neutralised, error) {
	if !(acidG > 0 && acidG <= 1e6) {
		return Neutralised{}, fmt.Errorf("neutralise more than nothing and at most a ton, not %g g", acidG)
	}
	mol := acidValue.Scale(acidG / chem.GramsKOH / 1000)
	switch with {
	case WithSodaAsh:
		return Neutralised{With: with, BaseG: mol.Scale(chem.GramsNa2CO3 / 2), GasML: mol.Value / 2 * chem.GasMLPerMol, HeatKJ: mol.Value * heatSoda,
			Order: "Stir the soda into the water first, then add the acid slowly, in a vessel three times as tall as its contents: it foams. Never the water to the acid."}, nil
	case WithLye:
		return Neutralised{With: with, BaseG: mol.Scale(chem.GramsNaOH), HeatKJ: mol.Value * heatLye,
			Order: "Dissolve the lye in cold water and let it cool, then add the acid slowly while stirring: it gets hot. Gloves and glasses; never the water to the lye or to the acid."}, nil
	}
	return Neutralised{}, fmt.Errorf("%q is no base for this: expected %s or %s", with, WithSodaAsh, WithLye)
}
