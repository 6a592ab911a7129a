package label_test

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"keencrock/core/label"
	"keencrock/core/material"
)

// Directive 76/211/EEC, Annex I, 2.4, the table of tolerable negative errors.
func TestTolerableErrors(t *testing.T) {
	for nominal, want := range map[float64]float64{
		5: 0.5, 50: 4.5, 75: 4.5, 100: 4.5, 150: 6.8, 200: 9, 250: 9, 300: 9, 400: 12, 500: 15, 700: 15, 1000: 15, 2000: 30, 10000: 150,
	} {
		t1, ok := label.TolerableError(nominal)
		require.True(t, ok)
		assert.InDelta(t, want, t1, 1e-9, "%g", nominal)
	}
	for _, nominal := range []float64{0, 4.9, 10001} {
		_, ok := label.TolerableError(nominal)
		assert.False(t, ok, "%g", nominal)
	}
}

func TestFillChecks(t *testing.T) {
	good, err := label.CheckFill(700, "g", []float64{702, 701, 704, 700, 703, 702, 701, 703}, 1)
	require.NoError(t, err)
	assert.True(t, good.Passes)
	assert.InDelta(t, 702, good.Mean, 1e-9)
	assert.InDelta(t, 1.309, good.Spread, 1e-3) // Σ(x − 702)² = 12; √(12/7)

	short, err := label.CheckFill(700, "g", []float64{698, 697, 700, 699, 698}, 1)
	require.NoError(t, err)
	assert.False(t, short.Passes)
	assert.InDelta(t, 1.6, short.Short, 1e-9)
	assert.Contains(t, short.Why, "1.6 g less than the 700 g")
	assert.Greater(t, short.FillTo, 700.0)

	faulty, err := label.CheckFill(700, "g", []float64{720, 684, 715, 710}, 1)
	require.NoError(t, err)
	assert.Equal(t, 1, faulty.UnderT1)
	assert.Contains(t, faulty.Why, "less than 685 g")

	hollow, err := label.CheckFill(700, "g", []float64{720, 669, 740, 710}, 1)
	require.NoError(t, err)
	assert.Equal(t, 1, hollow.UnderT2)
	assert.Contains(t, hollow.Why, "must not be sold")

	for _, bad := range [][]float64{{700, 700}, {700, 0, 700}, {700, 9000, 700}} {
		_, err := label.CheckFill(700, "g", bad, 1)
		require.Error(t, err)
	}
	_, err = label.CheckFill(2, "g", []float64{2, 2, 2}, 0.1)
	require.Error(t, err)
}

// Regulation (EC) 648/2004, Annex VII A: what is over 0.2 % is listed, allergens of perfumes
// from 0.01 % on; Regulation (EC) 1272/2008, Annex I, 1.2.1.2: a symbol is a fifteenth of the
// label's least surface, 52 × 74 mm, and never less than a square centimetre; Directive
// 76/211/EEC, Annex II: one pack in forty may be faulty.
func TestTheBoundsOfTheLaw(t *testing.T) {
	soap := material.Material{ID: "soap", Label: "Soap"}
	soap.Declares.Class = "soap"
	listed := func(share float64) int {
		return len(label.Declare([]label.Ingredient{{Material: &soap, Share: share}}).Classes)
	}
	assert.Zero(t, listed(0.002))
	assert.Equal(t, 1, listed(0.0021))
	lavender, err := material.Shipped().Find("lavender-oil")
	require.NoError(t, err)
	from := 0.0001 / lavender.Allergens["linalool"].Value
	assert.Empty(t, label.Declare([]label.Ingredient{{Material: lavender, Share: from * 0.99}}).Allergens)
	assert.Equal(t, []string{"linalool"}, label.Declare([]label.Ingredient{{Material: lavender, Share: from * 1.01}}).Allergens)

	assert.InDelta(t, 16.02, label.SymbolMM(label.Form{WidthMM: 90, HeightMM: 120}), 0.01)
	assert.InDelta(t, math.Sqrt(40*60/15.0), label.SymbolMM(label.Form{WidthMM: 40, HeightMM: 60}), 1e-9)
	assert.Equal(t, 10.0, label.SymbolMM(label.Form{WidthMM: 30, HeightMM: 30}))

	with := func(faulty int) bool { // of forty packs of 700 g, T1 15 g
		contents := slices.Repeat([]float64{703}, 40)
		for i := range faulty {
			contents[i] = 684
		}
		c, err := label.CheckFill(700, "g", contents, 1)
		require.NoError(t, err)
		return c.Passes
	}
	assert.True(t, with(1))
	assert.False(t, with(2))
}

// Packs that are filled to what is advised, with the spread they have, meet the rules.
func TestFilledAsAdvisedTheyPass(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		nominal := rapid.Float64Range(20, 5000).Draw(t, "nominal")
		t1, _ := label.TolerableError(nominal)
		spread := rapid.Float64Range(0, 0.5).Draw(t, "spread") * t1
		contents := make([]float64, rapid.IntRange(3, 30).Draw(t, "packs"))
		for i := range contents {
			contents[i] = nominal + spread*rapid.Float64Range(-1, 1).Draw(t, "off")
		}
		c, err := label.CheckFill(nominal, "g", contents, 0.1)
		require.NoError(t, err)
		require.GreaterOrEqual(t, c.FillTo, nominal)
		for i := range contents {
			contents[i] += c.FillTo - c.Mean
		}
		again, err := label.CheckFill(nominal, "g", contents, 0.1)
		require.NoError(t, err)
		require.True(t, again.Passes, again.Why)
		require.InDelta(t, c.FillTo, again.FillTo, 0.11, "the advice does not move with the mean")
	})
}

// Regulation (EC) 648/2004, Annex VII A: bands, what is always named, allergens from
// 0.01 % on.
func TestIngredientsAreDeclared(t *testing.T) {
	for share, want := range map[float64]string{0.049: "under-5", 0.05: "5-15", 0.149: "5-15", 0.15: "15-30", 0.3: "30-up", 1: "30-up"} {
		assert.Equal(t, want, label.Band(share), "%g", share)
	}
	in := func(id string, share float64) label.Ingredient {
		m, err := material.Shipped().Find(id)
		require.NoError(t, err)
		return label.Ingredient{Material: m, Share: share}
	}
	d := label.Declare([]label.Ingredient{in("washing-soda", 0.5), in("grated-soap", 0.2), in("sodium-percarbonate", 0.2), in("sodium-lauryl-sulfate", 0.001),
		in("lavender-oil", 0.001), in("potassium-sorbate", 0.002), in("enzyme-blend", 0.001)})
	assert.Equal(t, []label.Declared{{Class: "oxygen-based-bleach", Band: "15-30", Share: 0.2}, {Class: "soap", Band: "15-30", Share: 0.2 * 0.82}}, d.Classes, "what is under 0.2 % is not listed")
	assert.Equal(t, []string{"enzymes", "perfumes", "preservation-agents"}, d.Named)
	assert.Equal(t, []string{"linalool"}, d.Allergens, "a third of the oil, 0.033 %; the rest is under 0.01 %")
	assert.Equal(t, []string{"Potassium sorbate"}, d.Preservatives)
}

func TestClaimsThatPromiseTooMuch(t *testing.T) {
	words := func(text string) (out []string) {
		for _, c := range label.Claims(text) {
			assert.NotEmpty(t, c.Why)
			assert.NotEmpty(t, c.Instead)
			out = append(out, c.Word)
		}
		return out
	}
	assert.Equal(t, []string{"Disinfects", "kills", "chemical-free"}, words("Disinfects the sink, kills 99 % of germs and is chemical-free."))
	assert.Equal(t, []string{"Non-toxic", "safe for children"}, words("Non-toxic and safe for children"))
	assert.Equal(t, []string{"antibacterial"}, words("Lavender is antibacterial"))
	assert.Equal(t, []string{"repels"}, words("It repels moths with cedar")[:1])
	assert.Empty(t, words("This does not disinfect."))
	assert.Empty(t, words("Keep out of reach of children. Cleans cups and skillets; dissolves lime."))
	assert.Empty(t, words(""))
	at := label.Claims("Für Küche: kills")[0]
	assert.Equal(t, 11, at.At)
}

// A label never states more than the pack holds, nor much less.
func TestTheFigureOnALabelIsNoMoreThanItHolds(t *testing.T) {
	for holds, want := range map[float64]float64{691: 690, 700: 700, 499: 495, 300: 300, 42.7: 42, 7.58: 7.5} {
		assert.InDelta(t, want, label.Nominal(holds), 1e-9, "%g", holds)
	}
}
