package assess_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"keencrock/core/assess"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/core/solution"
)

func cautionsByCode(a *assess.Assessment) map[string]string {
	by := map[string]string{}
	for _, c := range a.Cautions {
		by[c.Code] = c.Severity.String()
	}
	return by
}

// Whatever is mixed at whatever strength in whatever water: the sign beside a
// reading and the caution under it are as grave as each other.
func TestVerdictsAndCautionsAgree(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		kind, text := formula.Kind("laundry-powder"), "100 g soap flakes"
		if rapid.Bool().Draw(rt, "wet") {
			kind, text = "dish-gel", "1 l water, 200 g liquid soap"
		}
		for _, name := range []string{"citric acid", "vinegar", "washing soda", "baking soda"} {
			if g := rapid.Float64Range(0, 300).Draw(rt, name); g > 1 {
				text += fmt.Sprintf(", %.0f g %s", g, name)
			}
		}
		agree(t, rt, kind, text, quantity.Hardness(rapid.Float64Range(0, 5).Draw(rt, "hardness")),
			fmt.Sprintf("%.2f g/l", rapid.Float64Range(0.2, 50).Draw(rt, "strength")))
	})
	// a thin dose of what burns in its bottle
	agree(t, t, "dish-gel", "1 l water, 200 g liquid soap, 33 g vinegar, 195 g washing soda", 3.245, "0.92 g/l")
}

func agree(t *testing.T, into require.TestingT, kind formula.Kind, text string, hardness quantity.Hardness, strength string) {
	a := assess.Formula(spoken(t, kind, text), material.Shipped(), assess.Options{Water: &assess.Water{Hardness: hardness, Strength: strength}})
	require.NotNil(into, a.Solution)
	v, by := a.Verdicts(), cautionsByCode(a)
	soap := solution.Good
	for _, code := range []string{"acid-and-soap", "soap-curdles", "soap-and-hard-water"} {
		switch {
		case by[code] == "stop":
			soap = solution.Stop
		case by[code] == "warn" && soap == solution.Good:
			soap = solution.Watch
		}
	}
	if a.Solution.HasSoap {
		assert.Equal(into, soap, v.Soap, text)
	}
	assert.Equal(into, by["soap-and-hard-water"] == "warn", v.Hardness == solution.Watch, text)
	burns := by["burning-alkali"] != "" || by["burning-acid"] != "" || by["burns-skin"] != ""
	assert.Equal(into, burns || by["extreme-ph"] != "", v.PH == solution.Watch, text)
	assert.Equal(into, burns, a.Hazard.Has("H314"), "what burns has its statement, and the other way round: %s", text)
}

// A strong acid is warned of like a strong alkali: 250 g of citric acid in a
// litre have a pH under 2 (by its pKa of 3.13, CRC Handbook: ½ (3.13 − lg 1.3)
// = 1.5).
func TestTheAcidEndIsWarnedOfToo(t *testing.T) {
	a := assess.Formula(spoken(t, "other", "250 g citric acid, 1 l water"), material.Shipped(), assess.Options{Water: &assess.Water{Strength: "neat"}})
	require.NoError(t, a.SolutionErr)
	assert.InDelta(t, 1.5, a.Solution.ClosedPH.Value, 0.2)
	assert.Equal(t, "warn", cautionsByCode(a)["extreme-ph"])
}
