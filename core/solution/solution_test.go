package solution_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"keencrock/core/formula"
	"keencrock/core/listener"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/core/safety"
	"keencrock/core/solution"
)

// resolved makes a formula of lines such as "2 cups baking soda".
func resolved(t require.TestingT, kind formula.Kind, spoken string) *formula.Resolved {
	f := &formula.Formula{Kind: kind, Measures: quantity.US}
	for _, s := range listener.Lines(spoken, material.Shipped()) {
		require.NoError(t, s.Err, spoken)
		f.Lines = append(f.Lines, s.Line)
	}
	r := formula.Resolve(f, material.Shipped(), formula.Workshop{})
	require.Empty(t, r.Questions)
	return r
}

func run(t require.TestingT, kind formula.Kind, spoken string, use solution.Use) *solution.Result {
	if use.Celsius == 0 {
		use.Celsius = 25
	}
	out, err := solution.Run(resolved(t, kind, spoken), use)
	require.NoError(t, err)
	return out
}

// hard is the demo's water: 268 mg/l as CaCO3.
const hard = quantity.Hardness(268 / 100.086)

// Stoichiometry: 1.312 g of bicarbonate to a gram of citric acid, 0.687 g of
// carbon dioxide, 382 ml at 25 °C (molar masses by IUPAC, ideal gas).
func TestGasOfABombIsStoichiometric(t *testing.T) {
	even := run(t, "toilet-bomb", "1312 g baking soda, 1000 g citric acid", solution.Use{GramsPerLitre: 5})
	kg := 2.312
	assert.InDelta(t, 687, even.Gas.MGPerKg().Value*kg/1000, 1)
	assert.InDelta(t, 382e3, even.Gas.MLPerKg().Value*kg, 500)

	acidLeft := run(t, "toilet-bomb", "100 g baking soda, 100 g citric acid, 100 g cornstarch", solution.Use{GramsPerLitre: 5})
	assert.Equal(t, solution.SodaRunsOut, acidLeft.Gas.LimitedBy)
	assert.Equal(t, "citric-acid", acidLeft.Gas.LeftMaterial.ID)
	assert.InDelta(t, (100-100/1.312)/0.3, acidLeft.Gas.LeftGPerKg, 1)
	sodaLeft := run(t, "toilet-bomb", "4 kg baking soda, 1 kg citric acid", solution.Use{GramsPerLitre: 5})
	assert.Equal(t, solution.AcidRunsOut, sodaLeft.Gas.LimitedBy)
	assert.InDelta(t, (4000-1312)/5.0, sodaLeft.Gas.LeftGPerKg, 1)
}

// Two cups of baking soda against half a cup of vinegar: about 2 % of the soda
// is spent (common practice says the fizz in a wet tab is small).
func TestAVinegarBinderSpendsLittle(t *testing.T) {
	out := run(t, "dish-tab", "2 cups baking soda, 1/2 cup vinegar", solution.Use{GramsPerLitre: 5})
	assert.InDelta(t, 0.02, out.Gas.SpentInBowl, 0.003)
}

// The trade's own mixtures, with what is commonly seen (common practice).
func TestWhatTheTradeSees(t *testing.T) {
	neat := solution.Use{Neat: true}
	for what, c := range map[string]struct {
		kind   formula.Kind
		spoken string
		use    solution.Use
		seen   func(*solution.Result) bool
	}{
		"soap curdles in vinegar":                  {"dish-gel", "1/2 cup liquid soap, 1 cup vinegar", neat, func(r *solution.Result) bool { return r.Protonated.Value > 0.9 }},
		"a splash of vinegar spoils less":          {"dish-gel", "1 l liquid soap, 1 tsp vinegar", neat, func(r *solution.Result) bool { return r.Protonated.Value < 0.1 }},
		"a laundry powder keeps its soap":          {"laundry-powder", "2 cups soap flakes, 1 cup washing soda, 1 cup borax, 1 cup baking soda", solution.Use{GramsPerLitre: 1}, func(r *solution.Result) bool { return r.Protonated.Value < 0.05 && r.ClosedPH.Value > 9.3 }},
		"a 4:1 bomb ends mildly alkaline":          {"toilet-bomb", "4 cups baking soda, 1 cup citric acid", solution.Use{GramsPerLitre: 30}, func(r *solution.Result) bool { return r.VentedPH.Value > 8 && r.VentedPH.Value < 10.5 }},
		"equal parts with starch end mildly acid":  {"toilet-bomb", "1 cup baking soda, 1 cup citric acid, 1 cup cornstarch", solution.Use{GramsPerLitre: 30}, func(r *solution.Result) bool { return r.VentedPH.Value > 4 && r.VentedPH.Value < 6.9 }},
		"washing soda is strong, baking soda mild": {"laundry-powder", "100 g washing soda", solution.Use{GramsPerLitre: 10}, func(r *solution.Result) bool { return r.ClosedPH.Value > 10.9 && r.ClosedPH.Value < 11.6 }},
		"baking soda is mild":                      {"laundry-powder", "100 g baking soda", solution.Use{GramsPerLitre: 10}, func(r *solution.Result) bool { return r.ClosedPH.Value > 8 && r.ClosedPH.Value < 8.5 }},
		"borax holds its pH near 9.2":              {"laundry-powder", "100 g borax", solution.Use{GramsPerLitre: 4}, func(r *solution.Result) bool { return math.Abs(r.ClosedPH.Value-9.2) < 0.1 }},
		"vinegar in water is sour":                 {"rinse-aid", "1 cup vinegar, 1 cup water", neat, func(r *solution.Result) bool { return r.ClosedPH.Value > 2.3 && r.ClosedPH.Value < 3 }},
		"Epsom salt brings hardness":               {"dish-powder", "100 g epsom salt", solution.Use{GramsPerLitre: 5}, func(r *solution.Result) bool { return r.Hardness.Total > 15 }},
		"citric acid in the dish powder costs alkali": {"dish-powder", "100 g washing soda, 50 g citric acid", solution.Use{GramsPerLitre: 5}, func(r *solution.Result) bool {
			return r.FreeAlkalinity.Value < 0.6*run(t, "dish-powder", "150 g washing soda", solution.Use{GramsPerLitre: 5}).FreeAlkalinity.Value
		}},
	} {
		assert.True(t, c.seen(run(t, c.kind, c.spoken, c.use)), what)
	}
}

// Soap in plain hard water meets calcium, not acid: however thin, the good is
// not to blame. Vinegar is, the more the less there is in the water to take it.
func TestWhatTheWaterTurnsIsNotTheGoods(t *testing.T) {
	for _, strength := range []float64{0.1, 0.3, 1, 3, 10} {
		for _, hardness := range []quantity.Hardness{0, 1, 2.68, 5} {
			use := solution.Use{GramsPerLitre: strength, Hardness: hardness}
			alone := run(t, "hand-soap", "1 cup liquid soap", use)
			assert.InDelta(t, alone.ProtonatedByWater, alone.Protonated.Value, 1e-9)
			assert.InDelta(t, 0, alone.ProtonatedByGood(), 1e-9, "%g g/l, %g mmol/l", strength, float64(hardness))
			want := solution.Good
			if alone.Hardness.SoapLost() > safety.SoapLostWarn {
				want = solution.Watch // scum washes no better than fat
			}
			assert.Equal(t, want, alone.Verdicts(nil).Soap)
		}
		before := 1.0
		for _, hardness := range []quantity.Hardness{0, 1, 2.68, 5} {
			spoilt := run(t, "hand-soap", "1/2 cup liquid soap, 1 cup vinegar", solution.Use{GramsPerLitre: strength, Hardness: hardness}).ProtonatedByGood()
			assert.Greater(t, spoilt, 0.05, "%g g/l, %g mmol/l", strength, float64(hardness))
			assert.LessOrEqual(t, spoilt, before, "%g g/l, %g mmol/l", strength, float64(hardness))
			if hardness == 0 {
				assert.Greater(t, spoilt, 0.95, "%g g/l", strength)
			}
			before = spoilt
		}
	}
	thin := run(t, "hand-soap", "1 cup liquid soap", solution.Use{GramsPerLitre: 0.3, Hardness: 2.68})
	assert.Greater(t, thin.ProtonatedByWater, 0.5, "which is why it has to be told apart")
}

// 60 l of water at 300 mg/l take about 110 g of soap (common practice).
func TestHardWaterEatsSoap(t *testing.T) {
	out := run(t, "laundry-powder", "300 g soap flakes", solution.Use{GramsPerLitre: 5, Hardness: 300 / 100.086})
	assert.InDelta(t, 110, 60*out.Hardness.SoapLostGPerL, 10)
	assert.InDelta(t, 0, out.Hardness.Left, 1e-9)
	soda := run(t, "laundry-powder", "300 g soap flakes, 300 g washing soda", solution.Use{GramsPerLitre: 5, Hardness: 300 / 100.086})
	assert.Greater(t, soda.Hardness.Precipitation, 1.5, "soda takes the calcium first")
	assert.Less(t, soda.Hardness.SoapLostGPerL, out.Hardness.SoapLostGPerL/2)
	citrate := run(t, "laundry-powder", "300 g soap flakes, 500 g sodium citrate", solution.Use{GramsPerLitre: 5, Hardness: 300 / 100.086})
	assert.Greater(t, citrate.Hardness.Chelation, 2.0, "citrate holds it dissolved")
	for _, r := range []*solution.Result{out, soda, citrate} {
		h := r.Hardness
		assert.InDelta(t, h.Total, h.Precipitation+h.Chelation+h.Soap+h.Left, 1e-9)
	}
}

// A gram of soda ash is 0.585 g of Na2O (molar masses); washing soda is 1/1.17
// and soda crystals 1/2.7 of it.
func TestFreeAlkalinityAsNa2O(t *testing.T) {
	for name, share := range map[string]float64{"soda ash": 0.5848, "washing soda": 0.5848 / 1.170, "soda crystals": 0.5848 / 2.700} {
		out := run(t, "laundry-powder", "100 g "+name, solution.Use{GramsPerLitre: 10})
		assert.InEpsilon(t, 10*share, out.FreeAlkalinity.Value, 1e-3, name)
	}
	soda := run(t, "laundry-powder", "100 g soda ash", solution.Use{GramsPerLitre: 10.599})
	assert.InDelta(t, 100, soda.Titration83, 2, "0.1 mol/l of soda takes one equivalent to 8.3")
	assert.InDelta(t, 199, soda.Titration45, 4, "and two to 4.5")
	acid := run(t, "rinse-aid", "100 g citric acid", solution.Use{GramsPerLitre: 5})
	assert.Negative(t, acid.FreeAlkalinity.Value)
	assert.Zero(t, acid.Titration45)
}

// Neutralised: half the sulfonic acid's mmol of soda, 0.170 g to a gram at an
// acid value of 180 (common practice; 180/56.106/2 × 105.99).
func TestSulfonicAcidIsNeutralisedBySoda(t *testing.T) {
	short := run(t, "laundry-liquid", "100 g sulfonic acid, 16 g soda ash, 1 l water", solution.Use{Neat: true})
	enough := run(t, "laundry-liquid", "100 g sulfonic acid, 17.5 g soda ash, 1 l water", solution.Use{Neat: true})
	assert.Less(t, short.VentedPH.Value, 3.0)
	assert.Greater(t, enough.VentedPH.Value, 6.0)
}

// Salt with citric acid drinks from about 59 % RH (Ross 1975 from 75.3 and 78).
func TestAMixtureDrinksSoonerThanItsParts(t *testing.T) {
	out := run(t, "dish-powder", "100 g salt, 100 g citric acid", solution.Use{GramsPerLitre: 5})
	assert.InDelta(t, 59, out.Caking.AboveRH, 1.5)
	assert.Equal(t, "table-salt", out.Caking.Culprit.ID)
	for _, w := range out.Caking.Without {
		assert.Greater(t, w.AboveRH, out.Caking.AboveRH)
	}
	twice := run(t, "dish-powder", "100 g salt, 100 g coarse salt", solution.Use{GramsPerLitre: 5})
	assert.InDelta(t, 75.3, twice.Caking.AboveRH, 0.5, "salt and salt is salt")
	assert.Nil(t, run(t, "spray", "1 l water, 10 g salt", solution.Use{Neat: true}).Caking)
}

func TestWhatTheWaterCannotHoldIsNamed(t *testing.T) {
	out := run(t, "spray", "1 l water, 60 g borax, 20 g washing soda", solution.Use{Neat: true})
	require.Len(t, out.Undissolved, 1)
	assert.Equal(t, "borax", out.Undissolved[0].Material.ID)
}

// The same compound of two bags is one compound: 100 g of water hold 21.5 g of
// sodium carbonate at 20 °C (CRC Handbook, from memory).
func TestOneCompoundOfTwoBags(t *testing.T) {
	neat := solution.Use{Neat: true}
	held := run(t, "laundry-liquid", "1 kg water, 150 g soda ash", neat)
	assert.Empty(t, held.Undissolved)
	both := run(t, "laundry-liquid", "1 kg water, 90 g washing soda, 150 g soda ash", neat)
	require.Len(t, both.Undissolved, 1)
	assert.Equal(t, "sodium-carbonate", both.Undissolved[0].Material.ID, "the one that brings the most")
	// 150 + 90 × 105.99/124.00, in 1000 g and the crystal water of the second
	assert.InDelta(t, (150+76.9)/(1000+13.1)*100, both.Undissolved[0].WantsGPer100ML, 0.1)
	assert.InDelta(t, 21.5, both.Undissolved[0].HoldsGPer100ML, 1e-9)
}

func TestAnUnknownMakeUpIsNamedNotGuessed(t *testing.T) {
	out := run(t, "scouring-paste", "100 g wood ash, 100 g baking soda", solution.Use{GramsPerLitre: 10})
	require.Len(t, out.Unknown, 1)
	assert.Equal(t, "wood-ash", out.Unknown[0].Material.ID)
	assert.NotEmpty(t, out.Unknown[0].Needs)
}

func TestUsesThatCannotBeAreRefused(t *testing.T) {
	r := resolved(t, "laundry-powder", "100 g borax")
	for _, u := range []solution.Use{
		{Celsius: 25}, {GramsPerLitre: -1, Celsius: 25}, {GramsPerLitre: 1e6, Celsius: 25}, {GramsPerLitre: math.NaN(), Celsius: 25},
		{GramsPerLitre: 1, Celsius: 99}, {GramsPerLitre: 1, Celsius: 25, Hardness: -1}, {GramsPerLitre: 1, Celsius: 25, Hardness: 1000},
	} {
		_, err := solution.Run(r, u)
		assert.Error(t, err, "%+v", u)
	}
	_, err := solution.Run(&formula.Resolved{Formula: &formula.Formula{}}, solution.Use{GramsPerLitre: 1, Celsius: 25})
	assert.ErrorIs(t, err, solution.ErrNothing)
}

func TestStrengthsAsPeopleWriteThem(t *testing.T) {
	for written, want := range map[string]float64{"10 g/l": 10, "10 g / l": 10, "10 g/5 l": 2, "1 tbsp in 20 l": 14.787 * 0.9 / 20, "50 g in 1 gallon": 50 / 3.785} {
		g, neat, err := solution.ParseStrength(written, 0.9, quantity.US)
		require.NoError(t, err, written)
		assert.False(t, neat)
		assert.InEpsilon(t, want, g, 1e-3, written)
	}
	_, neat, err := solution.ParseStrength("neat", 0, quantity.US)
	require.NoError(t, err)
	assert.True(t, neat)
	for written, want := range map[string]string{"": "no strength", "10 g": "such as 10 g/l", "-3 g/l": "above zero", "10 g/kg": "a volume", "5 kg/l": "more good than water", "1 tbsp in 20 blorps": "a unit"} {
		_, _, err := solution.ParseStrength(written, 0.9, quantity.US)
		assert.ErrorContains(t, err, want, written)
	}
}

// Dilution never raises total alkalinity.
func TestDilutionNeverRaisesAlkalinity(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		spoken := rapid.SampledFrom([]string{"1 cup washing soda, 1 cup citric acid", "1 cup borax, 1 cup baking soda", "2 cups soap flakes, 1 cup soda ash"}).Draw(t, "formula")
		strong := rapid.Float64Range(1, 50).Draw(t, "strong")
		thin := strong * rapid.Float64Range(0.05, 0.99).Draw(t, "dilution")
		a, b := run(t, "laundry-powder", spoken, solution.Use{GramsPerLitre: strong}), run(t, "laundry-powder", spoken, solution.Use{GramsPerLitre: thin})
		require.LessOrEqual(t, b.Titration45, a.Titration45+1e-6)
		require.LessOrEqual(t, math.Abs(b.FreeAlkalinity.Value), math.Abs(a.FreeAlkalinity.Value))
	})
}

func TestHotterWater(t *testing.T) {
	cold, warm := run(t, "laundry-powder", "1 cup borax", solution.Use{GramsPerLitre: 4}), run(t, "laundry-powder", "1 cup borax", solution.Use{GramsPerLitre: 4, Celsius: 60})
	assert.InDelta(t, 0.2, cold.ClosedPH.Value-warm.ClosedPH.Value, 0.08, "borax: 9.18 at 25 °C, 8.96 at 60 °C (NIST)")
}

const twelve = "2 cups soap flakes, 1 cup washing soda, 1 cup borax, 1 cup baking soda, 1/2 cup citric acid, 1/4 cup sodium citrate, " +
	"1/2 cup oxygen bleach, 2 tbsp salt, 1 tbsp epsom salt, 1/4 cup soda ash, 2 tbsp cornstarch, 10 drops lavender oil"

func BenchmarkTwelveLinesWithRanges(b *testing.B) {
	r := resolved(b, "laundry-powder", twelve)
	b.ReportAllocs()
	for b.Loop() {
		if _, err := solution.Run(r, solution.Use{GramsPerLitre: 5, Hardness: hard, Celsius: 25}); err != nil {
			b.Fatal(err)
		}
	}
}
