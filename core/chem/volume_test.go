package chem_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/chem"
)

// Densities of solutions at 20 °C by mass per cent (CRC Handbook of Chemistry
// and Physics, concentrative properties of aqueous solutions; the first two as
// the design gives them, the others from memory).
func TestDensitiesOfSolutions(t *testing.T) {
	for _, c := range []struct {
		compound string
		percent  float64
		density  float64
	}{
		{"sodium-chloride", 20, 1.148}, {"sodium-carbonate", 10, 1.103}, {"citric-acid", 20, 1.083}, {"potassium-carbonate", 20, 1.190},
		{"magnesium-sulfate", 10, 1.103}, {"sodium-sulfate", 10, 1.091}, {"sodium-hydroxide", 10, 1.109}, {"acetic-acid", 5, 1.0055},
	} {
		compound, ok := chem.FindCompound(c.compound)
		require.True(t, ok)
		ml, known := compound.MLPerG()
		require.True(t, known, c.compound)
		density := 100 / ((100-c.percent)*chem.MLPerGWater + c.percent*ml)
		assert.InDelta(t, c.density, density, 0.004, "%s %g %%", c.compound, c.percent)
	}
}

// Where polyborates form, strong borax is no longer the pH of 0.01 mol/kg:
// boric acid at 0.8 mol/kg, saturated, stands near 3.8 (handbooks print 3.6 to
// 4.0, from memory), not at 4.7 as a single acid would.
func TestPolyborates(t *testing.T) {
	e := solve(t, mix(t, map[string]float64{"boric-acid": 0.8}), chem.Closed)
	assert.InDelta(t, 3.8, e.PH, 0.25)
	weak := solve(t, mix(t, map[string]float64{"boric-acid": 0.004}), chem.Closed)
	assert.InDelta(t, 5.8, weak.PH, 0.05, "√(Ka c), where none join")
}

// Chalk in pure water ends at pH 9.9: calcite with nothing else (textbook value,
// Stumm & Morgan, Aquatic Chemistry, 9.9 in a closed vessel).
func TestChalkInPureWater(t *testing.T) {
	e := solve(t, mix(t, map[string]float64{"calcium-carbonate": 0.1}), chem.Closed)
	assert.InDelta(t, 9.9, e.PH, 0.05)
}
