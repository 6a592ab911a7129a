package solution_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/chem"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/core/solution"
	"keencrock/internal/gnuunits"
)

// A mol of gas at 25 °C and one atmosphere: GNU units, from the gas constant.
func TestTheMolarVolumeAgreesWithGNUUnits(t *testing.T) {
	want := gnuunits.Convert(t, "R * 298.15 K / atm", "ml/mol")
	g := solution.Gas{MolPerKg: quantity.Exactly(1)}
	assert.InEpsilon(t, want, g.MLPerKg().Value, 1e-4)
}

// Masses of compounds by the atomic masses GNU units ships.
func TestMolarMassesAgreeWithGNUUnits(t *testing.T) {
	for id, elements := range map[string]string{
		"sodium-carbonate": "2 sodium + carbon + 3 oxygen", "sodium-bicarbonate": "sodium + hydrogen + carbon + 3 oxygen",
		"citric-acid": "6 carbon + 8 hydrogen + 7 oxygen", "borax": "2 sodium + 4 boron + 7 oxygen", "calcium-carbonate": "calcium + carbon + 3 oxygen",
		"acetic-acid": "2 carbon + 4 hydrogen + 2 oxygen", "magnesium-sulfate": "magnesium + sulfur + 4 oxygen", "sodium-chloride": "sodium + chlorine",
		"carbon-dioxide": "carbon + 2 oxygen", "trisodium-citrate": "3 sodium + 6 carbon + 5 hydrogen + 7 oxygen",
	} {
		c, ok := chem.FindCompound(id)
		require.True(t, ok, id)
		assert.InEpsilon(t, gnuunits.Convert(t, elements, "1"), c.MolarMass(), 1e-4, id)
	}
}

// Every shipped material is either understood or said not to be, and what is
// understood adds up to no more than the whole.
func TestEveryMaterialIsUnderstoodOrNamed(t *testing.T) {
	var unknown []string
	for _, m := range material.Shipped().All() {
		parts, water, ok := solution.Contents(m)
		if !ok {
			unknown = append(unknown, m.ID)
		}
		sum := water
		for _, p := range parts {
			assert.Positive(t, p.MolPerG.Low, m.ID)
			assert.LessOrEqual(t, p.MolPerG.Low, p.MolPerG.High, m.ID)
			if p.Compound.ID != "sulfonic-acid" {
				sum += p.MolPerG.Value * p.Compound.MolarMass()
			}
		}
		assert.LessOrEqual(t, sum, 1.01, "%s is no more than the whole of it", m.ID)
	}
	// what no figure can be vouched for is named, and nothing else
	assert.ElementsMatch(t, []string{"wood-ash", "ash-water", "ascorbic-acid", "mgda", "glda", "phytic-acid", "iminodisuccinate", "sodium-perborate",
		"laundry-detergent", "peel-ferment", "soap-nut", "soap-nut-liquid", "soap-nut-powder", "alum", "decyl-glucoside"}, unknown)
}

// What dissolved matter does must not depend on the form it came in: soda as
// ash, as monohydrate and as crystals, citric acid with and without water.
func TestFormsOfACompoundAreTheSameInWater(t *testing.T) {
	for _, same := range [][]string{
		{"100 g soda ash", "117.00 g washing soda", "269.98 g soda crystals"},
		{"100 g citric acid", "109.38 g citric acid monohydrate"},
		{"100 g borax pentahydrate", "130.93 g borax"},
	} {
		var first *solution.Result
		for _, spoken := range same {
			r := resolved(t, "laundry-powder", spoken)
			// as much compound to a litre, whatever the crystal water
			out, err := solution.Run(r, solution.Use{GramsPerLitre: r.TotalG.Value / 20, Celsius: 25})
			require.NoError(t, err)
			if first == nil {
				first = out
				continue
			}
			assert.InDelta(t, first.ClosedPH.Value, out.ClosedPH.Value, 0.005, "%s: but for the little water the crystals bring", spoken)
			assert.InEpsilon(t, first.FreeAlkalinity.Value, out.FreeAlkalinity.Value, 1e-3, spoken)
		}
	}
}

// What is inert changes nothing but the strength.
func TestInertMaterialsOnlyDilute(t *testing.T) {
	plain := run(t, "laundry-powder", "100 g washing soda", solution.Use{GramsPerLitre: 5})
	for _, inert := range []string{"cornstarch", "kaolin clay", "xanthan gum", "white sugar", "diatomaceous earth"} {
		out := run(t, "laundry-powder", "100 g washing soda, 100 g "+inert, solution.Use{GramsPerLitre: 10})
		assert.InDelta(t, plain.ClosedPH.Value, out.ClosedPH.Value, 1e-6, inert)
		assert.Empty(t, out.Unknown, inert)
	}
}

// The strength of use follows from one use and its water, else from the kind,
// else it is assumed; what is wet is used as it is.
func TestTheStrengthOfUseSaysWhereItIsFrom(t *testing.T) {
	withUse := func(kind formula.Kind, spoken, use, water string) solution.Use {
		r := resolved(t, kind, spoken)
		f := *r.Formula
		if use != "" {
			f.Use = quantity.MustParse(use)
		}
		if water != "" {
			f.UseWater = quantity.MustParse(water)
		}
		r.Formula = &f
		return solution.UseOf(r, solution.Waters{})
	}
	said := withUse("laundry-powder", "500 g washing soda", "30 g", "15 l")
	assert.Equal(t, solution.OfUse, said.Basis)
	assert.InDelta(t, 2, said.GramsPerLitre, 1e-9)
	usual := withUse("laundry-powder", "500 g washing soda", "30 g", "")
	assert.InDelta(t, 1.5, usual.GramsPerLitre, 1e-9, "20 l, common practice")
	assert.InDelta(t, 0.75, solution.UseOf(func() *formula.Resolved {
		r := resolved(t, "laundry-powder", "500 g washing soda")
		f := *r.Formula
		f.Use = quantity.MustParse("30 g")
		r.Formula = &f
		return r
	}(), solution.Waters{LaundryL: 40}).GramsPerLitre, 1e-9, "the workshop's own machine")
	makers := withUse("laundry-powder", "500 g washing soda", "", "")
	assert.Equal(t, solution.Usual, makers.Basis, "nothing said: a tablespoon in a front loader, common practice")
	assert.InDelta(t, 14.787*1.05/20, makers.GramsPerLitre, 0.1)
	hard := resolved(t, "laundry-powder", "500 g washing soda")
	assert.InDelta(t, 2*makers.GramsPerLitre, solution.UseOf(hard, solution.Waters{Hardness: 3}).GramsPerLitre, 1e-9, "and two in hard water")
	assert.Equal(t, solution.Usual, withUse("laundry-liquid", "1 l water, 50 g liquid soap", "", "").Basis, "what is wet is not neat in a wash")
	assert.Equal(t, solution.Assumed, withUse("stain-remover", "500 g washing soda", "", "").Basis)
	assert.True(t, withUse("spray", "1 l water, 10 g citric acid", "", "").Neat)
	assert.Equal(t, solution.OfUse, withUse("dish-gel", "1 l water, 100 g washing soda", "1 tbsp", "").Basis)
}

// More of an acid never raises the pH, more of an alkali never lowers it.
func TestAcidLowersAndAlkaliRaises(t *testing.T) {
	for _, c := range []struct {
		material string
		sign     float64
	}{{"citric acid", -1}, {"vinegar", -1}, {"cream of tartar", -1}, {"soda ash", 1}, {"sodium hydroxide", 1}} {
		last := 0.0
		for i, spoonfuls := range []string{"1 g", "5 g", "25 g", "100 g"} {
			out := run(t, "laundry-powder", "100 g baking soda, 20 g borax, "+spoonfuls+" "+c.material, solution.Use{GramsPerLitre: 5})
			if i > 0 {
				assert.Positive(t, c.sign*(out.ClosedPH.Value-last), "%s %s", spoonfuls, c.material)
			}
			last = out.ClosedPH.Value
		}
	}
}

// The pH of juices: the ranges of the table of the pH of foods of the US Food
// and Drug Administration (2007), from memory. Their potassium holds them above
// the acid alone.
func TestJuicesHaveThePHOfTheirFruit(t *testing.T) {
	for juice, want := range map[string][2]float64{"lemon juice": {2.0, 2.6}, "lime juice": {2.0, 2.8}, "orange juice": {3.3, 4.2}} {
		s, err := solution.Stand(resolved(t, "other", "100 g "+juice))
		require.NoError(t, err)
		assert.Greater(t, s.PH.Value, want[0], juice)
		assert.Less(t, s.PH.Value, want[1], juice)
		assert.LessOrEqual(t, s.WaterActivity.High, 1.0, juice)
	}
}
