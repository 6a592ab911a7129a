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

// What is asked of a good of soda and soap, of soda alone, and of a sour one, on each use; from
// memory, as the mains of household products give it.
func TestWhatIsWantedOfEachUse(t *testing.T) {
	soapy := []string{"washing soda", "600 g", "grated soap", "400 g"}
	soda := []string{"washing soda", "900 g", "table salt", "100 g"}
	sour := []string{"citric acid", "500 g", "water", "500 g"}
	for _, c := range []struct {
		kind  formula.Kind
		lines []string
		want  dosing.Wanted
	}{
		{"laundry-powder", soapy, dosing.Wanted{AlkalinityGPerL: 0.25, SoapLeftGPerL: 0.2, HardnessLeft: -1, PHBelow: 11.3}},
		{"laundry-powder", soda, dosing.Wanted{AlkalinityGPerL: 0.25, HardnessLeft: 0.4, PHBelow: 11.3}},
		{"dish-powder", soda, dosing.Wanted{AlkalinityGPerL: 0.5, HardnessLeft: 0.4, PHBelow: 12}},
		{"spray", soapy, dosing.Wanted{AlkalinityGPerL: 0.5, SoapLeftGPerL: 0.5, HardnessLeft: -1, PHBelow: 11.5}},
		{"fabric-softener", sour, dosing.Wanted{HardnessLeft: -1, SourBelow: 7}},
		{"rinse-aid", sour, dosing.Wanted{HardnessLeft: -1, SourBelow: 7}},
		{"spray", sour, dosing.Wanted{HardnessLeft: -1, SourBelow: 4}},
		{"toilet-bomb", sour, dosing.Wanted{HardnessLeft: -1, SourBelow: 5}},
	} {
		r := resolve(t, c.kind, "", c.lines...)
		assert.Equal(t, c.want, dosing.WantedOf(r, dosing.Normal), "%s of %s", c.kind, c.lines[0])
		for soil, times := range map[dosing.Soil]float64{dosing.Light: 0.75, dosing.Heavy: 1.5} {
			got := dosing.WantedOf(r, soil)
			assert.InDelta(t, times*c.want.AlkalinityGPerL, got.AlkalinityGPerL, 1e-12)
			assert.InDelta(t, times*c.want.SoapLeftGPerL, got.SoapLeftGPerL, 1e-12)
			assert.Equal(t, c.want.SourBelow, got.SourBelow)
		}
	}
	// a bowl of soda and acid that spend each other is asked for sourness where acid is left
	fizz := resolve(t, "toilet-bomb", "1 piece", "baking soda", "500 g", "citric acid", "250 g")
	assert.Equal(t, 5.0, dosing.WantedOf(fizz, dosing.Normal).SourBelow)
}

// The bounds: no more than 20 g to a litre is ever proposed (the strongest soaks, from
// memory), a household's machine takes up to 500 l, what is used as it is meets a litre, a
// compartment of 120 ml and five runs a week (from memory), a solution is used the day it is
// made (common practice).
func TestTheBoundsOfADose(t *testing.T) {
	weak := resolve(t, "other", "", "citric acid", "30 g", "table salt", "970 g")
	row := dose(t, weak, "bucket", mgPerL(400), dosing.Normal)
	require.False(t, row.Reaches, row.Says)
	assert.Regexp(t, `even at (1[5-9]|20) g/l`, row.Says)

	assert.NoError(t, dosing.Machine{Name: "vat", WaterL: 500}.Check())
	assert.Error(t, dosing.Machine{Name: "vat", WaterL: 501}.Check())
	assert.Equal(t, 1.0, dosing.AsItIs.WaterL)
	days, ok := dosing.RefillDays("rinse-aid", 6, 1.2)
	assert.True(t, ok)
	assert.InDelta(t, 33.6, days, 1e-9, "120 ml by 5 ml, five times a week")
	_, ok = dosing.RefillDays("laundry-powder", 6, 1.2)
	assert.False(t, ok, "it goes into no compartment")
	assert.Equal(t, 1, dosing.DissolvedDays)
}

// A machine whose water was measured takes that; one of one's own is known by its name.
func TestMachinesOfAWorkshop(t *testing.T) {
	waterOf := func(machines []dosing.Machine, id string) float64 {
		for _, m := range machines {
			if m.ID == id {
				return m.WaterL
			}
		}
		t.Fatalf("no %s", id)
		return 0
	}
	usual := waterOf(dosing.Machines(), "front-loader")
	measured := dosing.UsualMachines(47, 0)
	assert.Equal(t, 47.0, waterOf(measured, "front-loader"))
	assert.Equal(t, waterOf(dosing.Machines(), "dishwasher"), waterOf(measured, "dishwasher"))
	assert.Equal(t, usual, waterOf(dosing.Machines(), "front-loader"), "the usual ones stay")
	assert.Equal(t, "old-copper", dosing.MachineID(" Old  Copper "))
}

// A tenth of a good of 1.2 g/ml is 120 g in 900 ml: 133 g to a litre of water. What is not
// thinned has no such strength.
func TestADilutionInGramsToALitre(t *testing.T) {
	for share, want := range map[float64]float64{0.1: 133.333, 0.5: 1200, 1: 0} {
		d := dosing.Dilution{Share: share}
		assert.InDelta(t, want, d.GramsPerLitre(1.2), 0.001)
	}
	assert.Positive(t, (&dosing.Dilution{}).GramsPerLitre(1.2), "never none: that would be neat")
}
