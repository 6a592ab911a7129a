package dosing_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/dosing"
	"keencrock/core/formula"
	"keencrock/core/quantity"
)

// What each machine's water takes of soda ash for a quarter gram of Na2O to a litre: 0.25 ×
// 105.99 / 61.98 = 0.4275 g to a litre (stoichiometry). The waters are from memory.
func TestEveryMachineBearsItsWitness(t *testing.T) {
	grams := map[string]float64{"front-loader": 8.55, "high-efficiency": 12.83, "twin-tub": 17.1, "top-loader": 25.65, "by-hand": 4.28,
		"dishwasher": 1.71, "sink": 3.42, "bucket": 2.14, "toilet": 0.86}
	on := map[string]string{"dishwasher": "dishes", "sink": "dishes", "bucket": "surfaces", "toilet": "toilet"}
	require.Len(t, dosing.Machines(), len(grams))
	for _, m := range dosing.Machines() {
		assert.InDelta(t, grams[m.ID], 0.4275*m.WaterL, 0.01, m.ID)
		want := on[m.ID]
		if want == "" {
			want = "laundry"
		}
		assert.Equal(t, want, m.UsedOn, m.ID)
	}
}

// What makers usually take of each kind, in millilitres in soft and in hard water, and pieces;
// common practice.
func TestEveryUsualDoseBearsItsWitness(t *testing.T) {
	const tbsp, cup, tsp = 14.787, 236.588, 4.929
	for kind, in := range map[formula.Kind]map[string][2]float64{
		"laundry-powder":   {"front-loader": {tbsp, 2 * tbsp}, "high-efficiency": {tbsp, 2 * tbsp}, "twin-tub": {2 * tbsp, cup / 4}, "top-loader": {2 * tbsp, cup / 4}, "by-hand": {tbsp, tbsp}},
		"laundry-liquid":   {"front-loader": {2 * tbsp, 3 * tbsp}, "high-efficiency": {2 * tbsp, 3 * tbsp}, "twin-tub": {cup / 4, cup / 3}, "top-loader": {cup / 4, cup / 3}, "by-hand": {tbsp, 2 * tbsp}},
		"soap-nut-extract": {"front-loader": {2 * tbsp, 3 * tbsp}, "top-loader": {cup / 4, cup / 3}},
		"scent-booster":    {"front-loader": {tbsp, tbsp}, "top-loader": {cup / 4, cup / 4}},
		"fabric-softener":  {"front-loader": {cup / 4, cup / 3}, "top-loader": {cup / 2, cup / 2}},
		"dish-powder":      {"dishwasher": {tbsp, 2 * tbsp}},
		"dish-gel":         {"dishwasher": {tbsp, 2 * tbsp}},
		"rinse-aid":        {"dishwasher": {tsp, tsp}},
		"dish-tab":         {"dishwasher": {-1, -1}},
		"toilet-bomb":      {"toilet": {-2, -3}}, // pieces
	} {
		for machine, want := range in {
			for i, hardness := range []float64{120, 121} { // the class "hard" of the US Geological Survey
				a, ok := formula.UsualUse(kind, machine, quantity.HardnessOfMGPerL(hardness))
				require.True(t, ok, "%s in %s", kind, machine)
				if n, counted := a.Pieces(); counted {
					assert.Equal(t, -want[i], n.Value, "%s in %s", kind, machine)
					continue
				}
				ml, _ := a.Millilitres(quantity.Handling{Measures: quantity.US})
				assert.InDelta(t, want[i], ml.Value, 0.01, "%s in %s at %g mg/l", kind, machine, hardness)
			}
		}
	}
}
