package assess_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/assess"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

func inWater(t *testing.T, kind formula.Kind, text string) *assess.Assessment {
	t.Helper()
	return assess.Formula(spoken(t, kind, text), material.Shipped(), assess.Options{Water: &assess.Water{Hardness: 2.68, Strength: "5 g/l"}})
}

// Two schools of bombs: much soda ends mildly alkaline, equal parts mildly
// acid (common practice).
func TestSchoolsSideBySide(t *testing.T) {
	much, even := inWater(t, "toilet-bomb", "4 cups baking soda, 1 cup citric acid"), inWater(t, "toilet-bomb", "1 cup baking soda, 1 cup citric acid, 1 cup cornstarch")
	found := assess.Compare(much, even)
	by := map[string]assess.Difference{}
	for i, d := range found {
		by[d.Code] = d
		if i > 0 {
			assert.GreaterOrEqual(t, found[i-1].Weight, d.Weight, "what matters most comes first")
		}
	}
	assert.Greater(t, by["vented-ph"].A, 7.5)
	assert.Less(t, by["vented-ph"].B, 7.0)
	assert.Greater(t, by["vented-ph"].Weight, 1.0)
	assert.NotContains(t, by, "curdled", "there is no soap in either")
	for _, d := range assess.Compare(much, much) {
		assert.Zero(t, d.Weight)
	}
}

func TestACautionOutweighsAPenny(t *testing.T) {
	found := assess.Compare(inWater(t, "dish-gel", "100 ml liquid soap, 300 ml vinegar"), inWater(t, "dish-gel", "100 ml liquid soap, 300 ml water"))
	assert.Equal(t, "stops", found[0].Code)
}

func TestChemistryIsOnlyForTheAsking(t *testing.T) {
	f := &formula.Formula{Lines: []formula.Line{{Material: "borax", Amount: quantity.MustParse("1 cup")}}}
	assert.Nil(t, assess.Formula(f, material.Shipped(), assess.Options{}).Solution)
	a := assess.Formula(f, material.Shipped(), assess.Options{Water: &assess.Water{Strength: "a lot"}})
	assert.Nil(t, a.Solution)
	assert.ErrorContains(t, a.SolutionErr, "no strength")
	assert.NoError(t, assess.Formula(&formula.Formula{}, material.Shipped(), assess.Options{Water: &assess.Water{}}).SolutionErr, "nothing in it is no error")
}

func TestSulfonicAcidBringsWhatNeutralisesIt(t *testing.T) {
	a := inWater(t, "laundry-liquid", "100 g sulfonic acid, 1 l water")
	require.Len(t, a.Neutralise, 2)
	assert.InDelta(t, 17, a.Neutralise[0].BaseG.Value, 0.1, "soda ash, common practice: 0.170 g to a gram")
	assert.Empty(t, inWater(t, "laundry-powder", "100 g borax").Neutralise)
}
