package material_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"keencrock/core/material"
)

// saponification values of what is turned into soap, in mg of potassium hydroxide to a gram: the least, what is
// usual, the most. Least and most are those of the Codex Alimentarius standards for named vegetable oils (210-1999),
// olive oils (33-1981) and named animal fats (211-1999), and of pharmacopoeias for waxes, as far as they name it;
// shea and neem are common practice. All from memory. The least decides: more lye than it stays in the soap.
var saponifies = map[string][3]float64{
	"olive-oil": {184, 189, 196}, "coconut-oil": {248, 257, 265}, "sunflower-oil": {182, 190, 194}, "rapeseed-oil": {182, 188, 193},
	"soybean-oil": {189, 191, 195}, "corn-oil": {187, 191, 195}, "rice-bran-oil": {180, 187, 199}, "grapeseed-oil": {188, 190, 194},
	"vegetable-oil": {180, 190, 196}, "palm-oil": {190, 200, 209}, "palm-kernel-oil": {230, 243, 254}, "cocoa-butter": {188, 194, 200},
	"shea-butter": {160, 180, 195}, "castor-oil": {176, 181, 187}, "jojoba-oil": {90, 92, 97}, "linseed-oil": {188, 190, 196},
	"almond-oil": {186, 192, 200}, "neem-oil": {175, 190, 205}, "beeswax": {87, 94, 104}, "soy-wax": {185, 191, 197},
	"carnauba-wax": {78, 85, 95}, "tallow": {190, 198, 202}, "lard": {192, 198, 203},
}

func TestEachFatNeedsTheLyeOfItsStandard(t *testing.T) {
	for _, m := range material.Shipped().All() {
		want, ok := saponifies[m.ID]
		if v := m.Saponifies; assert.Equal(t, ok, v.Known(), "%s: a fat without its value here, or a value without its fat", m.ID) && ok {
			assert.Equal(t, want, [3]float64{v.Low, v.Value, v.High}, m.ID)
		}
	}
}

// An oil that is not named cannot need more lye than the least of those it may be. What is sold without a name is
// one of these. Common practice.
func TestAnUnnamedOilIsAllThatItMayBe(t *testing.T) {
	lib := material.Shipped()
	unnamed, err := lib.Find("vegetable oil")
	assert.NoError(t, err)
	for _, id := range []string{"sunflower-oil", "rapeseed-oil", "soybean-oil", "corn-oil", "rice-bran-oil"} {
		m, err := lib.Find(id)
		assert.NoError(t, err)
		assert.LessOrEqual(t, unnamed.Saponifies.Low, m.Saponifies.Low, id)
	}
}
