package assess_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"keencrock/core/assess"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

// A good of a good says what the same materials say when they are poured together
// at once: pH, class, cautions. Nothing is lost by having been made before.
func TestAGoodOfAGoodIsJudgedByWhatIsInIt(t *testing.T) {
	shipped := material.Shipped()
	wet := []string{"water", "white-vinegar", "citric-acid", "washing-soda", "table-salt", "borax", "liquid-soap", "trisodium-citrate", "glycerine", "hydrogen-peroxide-3"}
	rapid.Check(t, func(t *rapid.T) {
		grams := map[string]float64{"water": 500}
		var first, second []material.Input
		find := func(id string) *material.Material {
			m, err := shipped.Find(id)
			require.NoError(t, err)
			return m
		}
		first = append(first, material.Input{Material: find("water"), MassG: 500})
		for range rapid.IntRange(1, 3).Draw(t, "in the first") {
			id := rapid.SampledFrom(wet).Draw(t, "material")
			g := float64(rapid.IntRange(1, 80).Draw(t, "g"))
			first = append(first, material.Input{Material: find(id), MassG: g})
			grams[id] += g
		}
		total := 0.0
		for _, in := range first {
			total += in.MassG
		}
		base := (&material.Made{ID: "good-1", Name: "Base of the test", Poured: true, Days: 1000, Of: material.MakeUp(first, 0)}).Material()
		second = append(second, material.Input{Material: &base, MassG: total})
		id := rapid.SampledFrom(wet).Draw(t, "beside it")
		grams[id] += 50
		second = append(second, material.Input{Material: find(id), MassG: 50})
		good := (&material.Made{ID: "good-2", Name: "Good of the test", Poured: true, Days: 1000, Of: material.MakeUp(second, 0)}).Material()
		lib, err := shipped.With(base, good)
		require.NoError(t, err)

		judge := func(lines ...formula.Line) *assess.Assessment {
			return assess.Formula(&formula.Formula{Name: "x", Kind: "spray", Lines: lines}, lib, assess.Options{Water: &assess.Water{}})
		}
		line := func(id string, g float64) formula.Line {
			return formula.Line{Material: id, Amount: quantity.Of(int64(g*1000+0.5), 1000, quantity.Gram)}
		}
		var direct []formula.Line
		for id, g := range grams {
			direct = append(direct, line(id, g))
		}
		a, b := judge(direct...), judge(line("good-2", total+50))
		require.Equal(t, a.Bottle.Known(), b.Bottle.Known())
		if a.Bottle.Known() {
			require.InDelta(t, a.Bottle.PH.Value, b.Bottle.PH.Value, 0.01)
		}
		require.Equal(t, a.Class.Code, b.Class.Code)
		codes := func(a *assess.Assessment) map[string]bool {
			out := map[string]bool{}
			for _, c := range a.Cautions {
				out[c.Code] = true
			}
			return out
		}
		require.Equal(t, codes(a), codes(b))
	})
}

// What went into a good and is no longer in the library is a danger that is not
// known, and the caution says so.
func TestWhatIsNoLongerKnownIsStillMinded(t *testing.T) {
	shipped := material.Shipped()
	water, err := shipped.Find("water")
	require.NoError(t, err)
	good := (&material.Made{ID: "good-1", Name: "Old mixture", Poured: true, Days: 100,
		Of: []material.Base{{Material: water, Share: 0.9}, {Material: material.Unknown("own-gone"), Share: 0.1}}}).Material()
	lib, err := shipped.With(good)
	require.NoError(t, err)
	a := assess.Formula(&formula.Formula{Name: "x", Kind: "spray", Lines: []formula.Line{{Material: "good-1", Amount: quantity.MustParse("500 g")}}}, lib, assess.Options{})
	var codes []string
	for _, c := range a.Cautions {
		codes = append(codes, c.Code)
	}
	require.Contains(t, codes, "dangers-not-known")
}
