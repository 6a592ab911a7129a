package chem_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/chem"
)

// Molar masses as printed in the CRC Handbook of Chemistry and Physics,
// "Physical Constants of Inorganic Compounds" (values from memory of the
// table, g/mol).
func TestMolarMassesOfKnownCompounds(t *testing.T) {
	for formula, want := range map[string]float64{
		"H2O": 18.015, "NaCl": 58.443, "Na2CO3": 105.988, "Na2CO3·H2O": 124.004,
		"Na2CO3·10H2O": 286.142, "NaHCO3": 84.007, "Na2B4O7·10H2O": 381.372,
		"C6H8O7": 192.124, "C6H8O7·H2O": 210.139, "Na3C6H5O7·2H2O": 294.100,
		"MgSO4·7H2O": 246.474, "CaCO3": 100.087, "Ca(OH)2": 74.093, "H2O2": 34.015,
		"Na2CO3·1.5H2O2": 157.011, "CuSO4.5H2O": 249.685, "Ca3(PO4)2": 310.177,
		"NaOH": 39.997, "CO2": 44.010, "K2[HgI4]": 0,
	} {
		got, err := chem.MolarMass(formula)
		if want == 0 {
			assert.ErrorContains(t, err, "a known element", formula)
			continue
		}
		require.NoError(t, err, formula)
		assert.InDelta(t, want, got, 0.01, formula)
	}
}

// Ratios a maker swaps by: 1 : 1.170 : 2.700 for carbonate and its hydrates,
// 1 : 1.094 for citric acid, 1 : 0.764 for borax deca- to pentahydrate, and
// the 36.9 % baking soda loses when baked into washing soda.
func TestHydrateRatios(t *testing.T) {
	mass := func(f string) float64 {
		m, err := chem.MolarMass(f)
		require.NoError(t, err)
		return m
	}
	assert.InDelta(t, 1.170, mass("Na2CO3·H2O")/mass("Na2CO3"), 5e-4)
	assert.InDelta(t, 2.700, mass("Na2CO3·10H2O")/mass("Na2CO3"), 5e-4)
	assert.InDelta(t, 1.094, mass("C6H8O7·H2O")/mass("C6H8O7"), 5e-4)
	assert.InDelta(t, 0.764, mass("Na2B4O7·5H2O")/mass("Na2B4O7·10H2O"), 5e-4)
	assert.InDelta(t, 0.369, 1-mass("Na2CO3")/(2*mass("NaHCO3")), 5e-4)
}

func TestMolarMassSaysWhatIsWrong(t *testing.T) {
	for formula, want := range map[string]string{
		"":          "at character 1: expected an element",
		"Na2(CO3":   "at character 8: expected a closing bracket",
		"Xx2":       "at character 1: expected a known element",
		"Na2CO3·":   "at character 8: expected an element",
		"NaCl soda": "at character 5: expected an element, a bracket or a dot",
	} {
		_, err := chem.MolarMass(formula)
		assert.ErrorContains(t, err, want, formula)
	}
}

// The masses written out for the rules are those of the formulas, and a mole
// of gas is R T / p (R of CODATA 2018, one atmosphere, 25 °C).
func TestWrittenMassesAreTheFormulas(t *testing.T) {
	for formula, written := range map[string]float64{
		"CO2": chem.GramsCO2, "Na2O": chem.GramsNa2O, "NaOH": chem.GramsNaOH, "KOH": chem.GramsKOH,
		"NaHCO3": chem.GramsNaHCO3, "Na2CO3": chem.GramsNa2CO3,
	} {
		worked, err := chem.MolarMass(formula)
		require.NoError(t, err)
		assert.InDelta(t, worked, written, 0.001, formula)
	}
	assert.InDelta(t, 8.314462618*298.15/101325*1e6, chem.GasMLPerMol, 1)
}
