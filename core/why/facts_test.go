package why_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/assess"
	"keencrock/core/dosing"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/core/why"
)

// made is a formula of a kind, from amounts and materials.
func made(kind formula.Kind, use string, lines ...[2]string) *formula.Formula {
	f := &formula.Formula{Name: "Tried", Kind: kind, Use: quantity.MustParse(use)}
	for _, l := range lines {
		f.Lines = append(f.Lines, formula.LineOf(l[1], l[0]))
	}
	return f
}

func factsOf(t *testing.T, f *formula.Formula, hardness, dose string) why.Facts {
	t.Helper()
	u := why.Used{Formula: f, Library: material.Shipped(), Machines: dosing.Machines(), Doses: func(*formula.Resolved) dosing.Options { return dosing.Options{Said: f.Use} }}
	if hardness != "" {
		h, err := quantity.ParseHardness(hardness)
		require.NoError(t, err)
		u.Water, u.WaterKnown = assess.Water{Hardness: h}, true
	}
	if dose != "" {
		u.Dose = quantity.MustParse(dose)
	}
	return u.Facts()
}

func holds(f why.Facts, names ...string) (missing []string) {
	for _, n := range names {
		if f[n].Level <= 0 {
			missing = append(missing, n)
		}
	}
	return missing
}

// What a good is made of, and what its water does, are facts with a figure; what is not known is
// none.
func TestFactsAreReadFromAGood(t *testing.T) {
	powder := made("laundry-powder", "30 g", [2]string{"100 g", "soap-flakes"}, [2]string{"100 g", "washing-soda"})
	f := factsOf(t, powder, "320 mg/l", "5 g")
	assert.Empty(t, holds(f, "has-soap", "hard-water", "soap-scum", "alkaline", "no-bleach", "no-acid", "much-soda"))
	assert.NotContains(t, f, "soft-water")
	assert.Contains(t, f["soap-scum"].Says, "% of its soap is lost to scum")
	f = factsOf(t, powder, "10 mg/l", "60 g")
	assert.Empty(t, holds(f, "soft-water", "overdosed"))
	assert.NotContains(t, f, "soap-scum", "in soft water no soap is lost")
	f = factsOf(t, powder, "", "")
	assert.NotContains(t, f, "hard-water", "nobody said which water")
	assert.NotContains(t, f, "hardness-unmet")
	assert.NotContains(t, f, "overdosed", "nor how much was taken")

	bomb := made("toilet-bomb", "1 piece", [2]string{"300 g", "baking-soda"}, [2]string{"20 g", "citric-acid"}, [2]string{"30 g", "water"})
	f = factsOf(t, bomb, "", "")
	assert.Empty(t, holds(f, "fizz-pair", "lopsided", "wet-line", "no-binder"))
	assert.Contains(t, f["lopsided"].Says, "7 g of acid to 100 g of baking soda", "20 of 300 (by hand)")

	liquid := made("spray", "1 ml", [2]string{"500 ml", "water"}, [2]string{"20 g", "liquid-soap"}, [2]string{"100 ml", "white-vinegar"})
	f = factsOf(t, liquid, "", "")
	assert.Empty(t, holds(f, "has-soap", "has-acid", "has-vinegar", "watery", "no-preservative", "soap-fat"))
	for name, fact := range f {
		assert.Contains(t, why.Known, name)
		assert.NotEmpty(t, fact.Says, name)
		assert.LessOrEqual(t, fact.Level, 1.0, name)
	}
	assert.Empty(t, why.FactsOf(nil, why.Around{}), "nothing is known of nothing")
	room := why.FactsOf(nil, why.Around{RoomHumidity: 80})
	assert.Contains(t, room["humid"].Says, "80 %")
}
