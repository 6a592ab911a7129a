package why_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/dosing"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/core/starter"
	"keencrock/core/why"
)

// goodOf is a good of lines, in US measures, taken at a dose in hard water.
func goodOf(kind formula.Kind, dose string, lines ...[2]string) *why.Used {
	f := &formula.Formula{Name: "A good", Kind: kind, Measures: quantity.US}
	for _, l := range lines {
		f.Lines = append(f.Lines, formula.LineOf(l[1], l[0]))
	}
	u := &why.Used{Formula: f, Library: material.Shipped(), WaterKnown: true, Machines: dosing.UsualMachines(0, 0), Doses: func(r *formula.Resolved) dosing.Options { return dosing.Options{Said: r.Formula.Use} }}
	u.Water.Hardness = quantity.HardnessOfMGPerL(320)
	if dose != "" {
		f.Use = quantity.MustParse(dose)
	}
	return u
}

// changeOf is the change against a cause, of what is seen.
func changeOf(t *testing.T, u *why.Used, seen, cause string) *why.Change {
	t.Helper()
	found, err := why.Shipped().Find(why.Question{Seen: seen, Facts: u.Facts()})
	require.NoError(t, err)
	for _, c := range found.Causes {
		if c.ID == cause {
			r := formula.Resolve(u.Formula, u.Library, u.Tools)
			var around why.Around
			u.InUse(r, &around)
			return c.Change(r, around.DoseG, around.WantedG, u.Library)
		}
	}
	require.Fail(t, "no such cause", cause)
	return nil
}

func TestAChangeIsTheOneThatIsMeant(t *testing.T) {
	powder := goodOf("laundry-powder", "20 g", [2]string{"2 cups", "washing soda"}, [2]string{"1 cup", "soap flakes"}, [2]string{"10 drops", "lavender oil"})
	for _, c := range []struct {
		u                 *why.Used
		seen, cause, says string
	}{
		{powder, "soap-marks", "scum", "2 1/2 cups of washing soda in place of 2 cups."}, // it holds no chelant: more soda comes before less soap
		{powder, "itch", "scent-irritates", "no lavender oil."},
		{powder, "tea-stays", "no-bleach", "of sodium percarbonate beside the rest."},
		{goodOf("dish-powder", "15 g", [2]string{"300 g", "washing soda"}, [2]string{"50 g", "soap flakes"}), "foam-dishes", "soap-in-dishes", "no soap flakes."},
		{goodOf("toilet-bomb", "", [2]string{"300 g", "baking soda"}, [2]string{"100 g", "citric acid"}, [2]string{"8 g", "water"}), "fizzed", "too-wet", "6 g of water in place of 8 g."},
		{goodOf("toilet-bomb", "", [2]string{"300 g", "baking soda"}, [2]string{"100 g", "citric acid"}), "crumbles", "too-dry", "4 g of water beside the rest."},
		{goodOf("toilet-bomb", "", [2]string{"400 g", "baking soda"}, [2]string{"100 g", "citric acid"}), "no-fizz", "lopsided", "125 g of citric acid in place of 100 g."},
	} {
		change := changeOf(t, c.u, c.seen, c.cause)
		require.NotNil(t, change, c.cause)
		assert.Contains(t, change.Says, c.says, c.cause)
	}
	// a dose that is far from what is reckoned is put right
	little := goodOf("laundry-powder", "5 g", [2]string{"300 g", "washing soda"}, [2]string{"100 g", "sodium citrate"})
	change := changeOf(t, little, "grey-cloth", "too-little")
	require.NotNil(t, change)
	assert.Contains(t, change.Says, "in place of 5 g")
	grams, _ := change.Apply(little.Formula).Use.MassOnly()
	assert.Greater(t, grams.Value, 10.0)
	// what is dosed by the piece is not dosed by grams
	tabs := goodOf("dish-tab", "1 tab", [2]string{"300 g", "washing soda"}, [2]string{"100 g", "citric acid"})
	assert.Nil(t, changeOf(t, tabs, "grease", "too-little"))
	// nothing is left out of what is nothing else
	alone := goodOf("laundry-liquid", "", [2]string{"300 g", "soap flakes"})
	assert.Nil(t, changeOf(t, alone, "foam-dishes", "soap-in-dishes"))
}

// besideOther is how likely a cause is beside what nobody knows of, which stays as it is.
func besideOther(of *why.Finding, cause string) float64 {
	odds := map[string]float64{}
	for _, c := range of.Causes {
		odds[c.ID] = c.Odds
	}
	return odds[cause] / odds[why.Other]
}

// A change against a cause never makes that cause likelier, on any starter: weighed anew on
// what it makes of the formula, no more speaks for it.
func TestAChangeNeverMakesItsCauseLikelier(t *testing.T) {
	lib := material.Shipped()
	tried := 0
	for i := range starter.All() {
		s := &starter.All()[i]
		u := &why.Used{Formula: s.Formula(quantity.US, starter.Weight, lib, formula.Workshop{}), Library: lib, WaterKnown: true, Machines: dosing.UsualMachines(0, 0), Doses: func(r *formula.Resolved) dosing.Options { return dosing.Options{Said: r.Formula.Use} }}
		u.Water.Hardness = quantity.HardnessOfMGPerL(320)
		r := formula.Resolve(u.Formula, lib, u.Tools)
		var around why.Around
		u.InUse(r, &around)
		for _, seen := range why.Shipped().Seen {
			before, err := why.Shipped().Find(why.Question{Seen: seen.ID, Facts: u.Facts()})
			require.NoError(t, err)
			for _, c := range before.Causes {
				change := c.Change(r, around.DoseG, around.WantedG, lib)
				if change == nil {
					continue
				}
				changed := *u
				changed.Formula = change.Apply(u.Formula)
				for step := range changed.Formula.Steps {
					for _, l := range changed.Formula.Steps[step].Lines {
						require.Less(t, l, len(changed.Formula.Lines), "%s: a step keeps to its lines", s.ID)
					}
				}
				after, err := why.Shipped().Find(why.Question{Seen: seen.ID, Facts: changed.Facts()})
				require.NoError(t, err)
				tried++
				assert.LessOrEqual(t, besideOther(after, c.ID), besideOther(before, c.ID)*1.001, "%s: %s against %s: %s", s.ID, c.ID, seen.ID, change.Says)
			}
		}
	}
	t.Logf("%d changes tried", tried)
	assert.Greater(t, tried, 300)
}
