package assess_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/assess"
	"keencrock/core/costing"
	"keencrock/core/formula"
	"keencrock/core/listener"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

func spoken(t testing.TB, kind formula.Kind, text string) *formula.Formula {
	t.Helper()
	f := &formula.Formula{Name: "test", Kind: kind, Measures: quantity.US}
	for _, s := range listener.Lines(text, material.Shipped()) {
		require.NoError(t, s.Err, text)
		f.Lines = append(f.Lines, s.Line)
	}
	return f
}

// The commonest laundry powder there is: two cups of soap, one each of
// washing soda, borax and baking soda.
func TestALaundryPowderIsAssessedWhole(t *testing.T) {
	f := spoken(t, "laundry-powder", "2 cups soap flakes, 1 cup washing soda, 1 cup borax, 1 cup baking soda")
	f.Use = quantity.MustParse("1 tbsp")
	price := func(perKg string) costing.Price {
		return costing.OnePrice(costing.PerGram(decimal.RequireFromString(perKg), 1000))
	}
	a := assess.Formula(f, material.Shipped(), assess.Options{Prices: costing.Prices{Currency: "EUR", PerGram: map[string]costing.Price{
		"soap-flakes": price("9"), "washing-soda": price("2.28"), "borax": price("4"), "sodium-bicarbonate": price("3")}}})

	assert.Empty(t, a.Resolved.Questions)
	assert.Equal(t, formula.DryState, a.State)
	require.NotNil(t, a.Uses)
	// common practice: 5 cups of powder at a tablespoon is 80 loads
	assert.InDelta(t, 80, a.Uses.Value, 1e-6)
	require.NotNil(t, a.Cost)
	byHand := (113.562*9 + 248.418*2.28 + 201.1*4 + 220.737*3) / 1000
	assert.InDelta(t, byHand, a.Cost.Batch.Value.InexactFloat64(), 0.01)
	assert.InDelta(t, byHand/80, a.Cost.PerUse.Value.InexactFloat64(), 0.001)
	assert.Empty(t, a.Cost.Unpriced)
	for what, c := range map[string]costing.Price{"batch": a.Cost.Batch, "a kilogram": a.Cost.PerKg, "a use": a.Cost.PerUse} {
		assert.True(t, c.Low.LessThan(c.Value) && c.Value.LessThan(c.High), "%s: scooped, it costs %s to %s", what, c.Low, c.High)
	}
	// a kilogram costs no less than the cheapest in it and no more than the dearest
	assert.True(t, a.Cost.PerKg.Low.GreaterThan(decimal.RequireFromString("2.28")) && a.Cost.PerKg.High.LessThan(decimal.RequireFromString("9")))
	assert.Equal(t, "dry", a.Keeping.LimitedBy)
	codes := map[string]bool{}
	for _, c := range a.Cautions {
		codes[c.Code] = true
	}
	assert.True(t, codes["borax-and-children"] && codes["alkali-on-wool"] && codes["soda-dust"])
}

// The same materials mean different things dry in a jar and wet in a pot.
func TestWetAndDryDiffer(t *testing.T) {
	dry := assess.Formula(spoken(t, "toilet-bomb", "2 cups baking soda, 1/2 cup citric acid, 1 tsp water"), material.Shipped(), assess.Options{})
	wet := assess.Formula(spoken(t, "other", "2 cups baking soda, 1/2 cup citric acid, 1 l water"), material.Shipped(), assess.Options{})
	assert.Equal(t, formula.DampState, dry.State)
	assert.Equal(t, formula.WetState, wet.State)
	assert.Equal(t, "effervescent", dry.Keeping.LimitedBy)
	severity := func(a *assess.Assessment, code string) string {
		for _, c := range a.Cautions {
			if c.Code == code {
				return c.Severity.String()
			}
		}
		return ""
	}
	assert.Equal(t, "note", severity(dry, "acid-and-soda-wet"))
	assert.Equal(t, "warn", severity(wet, "acid-and-soda-wet"))
	assert.Equal(t, "stop", severity(wet, "gas-in-closed-vessel"))
}

func TestUnpricedMaterialsAreNamedAndWaterIsFree(t *testing.T) {
	f := spoken(t, "spray", "1 l water, 1 cup vinegar, 5 drops lemon oil")
	a := assess.Formula(f, material.Shipped(), assess.Options{Prices: costing.Prices{Currency: "EUR", PerGram: map[string]costing.Price{"white-vinegar": costing.OnePrice(decimal.RequireFromString("0.002"))}}})
	require.NotNil(t, a.Cost)
	assert.Equal(t, []string{"lemon-oil"}, a.Cost.Unpriced)
	assert.InDelta(t, 0.476, a.Cost.Batch.Value.InexactFloat64(), 0.001)
	none := assess.Formula(f, material.Shipped(), assess.Options{})
	assert.Nil(t, none.Cost)
}

func TestAMistakeInOneLineSpoilsNoOther(t *testing.T) {
	f := spoken(t, "laundry-powder", "2 cups soap flakes, 1 cup borax")
	f.Lines[1].Material = "boraks"
	a := assess.Formula(f, material.Shipped(), assess.Options{})
	require.Len(t, a.Resolved.Questions, 1)
	assert.Equal(t, 1, a.Resolved.Questions[0].Line)
	assert.Contains(t, a.Resolved.Questions[0].Nearest, "Borax")
	assert.InDelta(t, 113.56, a.Resolved.TotalG.Value, 0.1)
}

func BenchmarkAssess12Lines(b *testing.B) {
	f := spoken(b, "laundry-powder", "2 cups soap flakes, 1 cup washing soda, 1 cup borax, 1 cup baking soda, 1/2 cup citric acid, 1/4 cup salt, 2 tbsp oxygen bleach, 1 cup epsom salt, 1 tbsp cornstarch, 10 drops lavender oil, 1 tsp sodium citrate, 1 tbsp edta")
	prices := costing.Prices{Currency: "EUR", PerGram: map[string]costing.Price{}}
	for _, m := range material.Shipped().All() {
		prices.PerGram[m.ID] = costing.OnePrice(decimal.RequireFromString("0.00423"))
	}
	b.ReportAllocs()
	for b.Loop() {
		if a := assess.Formula(f, material.Shipped(), assess.Options{Prices: prices}); len(a.Resolved.Questions) > 0 {
			b.Fatal(a.Resolved.Questions)
		}
	}
}

// A wet good of twelve lines, as it stands and as it is used in hard water, with
// every range.
func BenchmarkBottleAndUse12Lines(b *testing.B) {
	f := spoken(b, "spray", "2 cups water, 1/2 cup soap flakes, 1/4 cup washing soda, 2 tbsp borax, 2 tbsp baking soda, 1/4 cup citric acid, 1/4 cup sodium citrate, "+
		"2 tbsp salt, 1/2 cup vinegar, 1/4 cup vodka, 2 tbsp glycerine, 10 drops lavender oil")
	water := &assess.Water{Hardness: 2.68, Celsius: 40, Strength: "50 g/l"}
	b.ReportAllocs()
	for b.Loop() {
		if a := assess.Formula(f, material.Shipped(), assess.Options{Water: water}); a.Solution == nil || a.Bottle == nil {
			b.Fatal(a.SolutionErr)
		}
	}
}

// What nobody knows the name of is named on the screen, and by its share where it is
// weighed.
func TestTheScreenNamesWhatItCannotRead(t *testing.T) {
	f := &formula.Formula{Name: "Scour", Kind: "scouring-paste", Measures: quantity.US, Lines: []formula.Line{
		{Material: "baking soda", Amount: quantity.MustParse("300 g")},
		{Material: "mystery salt", Amount: quantity.MustParse("100 g")},
		{Material: "mystery water", Amount: quantity.MustParse("1 cup")},
	}}
	h := assess.Formula(f, material.Shipped(), assess.Options{}).Hazard
	require.Len(t, h.Unknown, 2)
	assert.Equal(t, "mystery salt", h.Unknown[0].Name)
	assert.InDelta(t, 0.25, h.UnknownShare, 1e-9)
}

func TestMuchScentIsSaid(t *testing.T) {
	h := assess.Formula(spoken(t, "hand-soap", "980 g liquid soap, 20 g lavender oil"), material.Shipped(), assess.Options{}).Hazard
	require.Len(t, h.Notes, 1)
	assert.Contains(t, h.Notes[0], "2.0 % of it is scent, and 1 % is usual at most for hands")
	h = assess.Formula(spoken(t, "hand-soap", "995 g liquid soap, 5 g lavender oil"), material.Shipped(), assess.Options{}).Hazard
	assert.Empty(t, h.Notes)
	// by what it is used on; from memory, of what sellers of scents advise
	for kind, c := range map[formula.Kind]struct{ most, per float64 }{"hand-soap": {0.01, 1000}, "dish-powder": {0.01, 1000}, "laundry-powder": {0.02, 1000}, "scouring-paste": {0.02, 1000}, "toilet-bomb": {0.05, 1000}} {
		notes := func(share float64) []string {
			text := fmt.Sprintf("%.4f g table salt, %.4f g lavender oil", c.per*(1-share), c.per*share)
			return slices.DeleteFunc(assess.Formula(spoken(t, kind, text), material.Shipped(), assess.Options{}).Hazard.Notes, func(n string) bool { return !strings.Contains(n, "is scent") })
		}
		assert.Empty(t, notes(c.most*0.99), "%s", kind)
		assert.Len(t, notes(c.most*1.05), 1, "%s", kind)
	}
}
