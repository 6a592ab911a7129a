package material_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/material"
	"keencrock/core/quantity"
)

func find(t testing.TB, name string) *material.Material {
	t.Helper()
	m, err := material.Shipped().Find(name)
	require.NoError(t, err)
	return m
}

func TestShippedLibraryIsWholeAndSourced(t *testing.T) {
	lib := material.Shipped() // loading validates every figure and its source
	all := lib.All()
	assert.GreaterOrEqual(t, len(all), 45)
	for _, m := range all {
		assert.True(t, m.Density.Known(), "%s has no density", m.ID)
		assert.NotEmpty(t, lib.Source(m.Density.Source), m.ID)
		assert.NotZero(t, m.Tags, m.ID)
	}
}

// The materials the work cannot do without, by the names people use.
func TestMaterialsAreFoundByAnyName(t *testing.T) {
	for name, id := range map[string]string{
		"borax": "borax", "Bicarb": "sodium-bicarbonate", "baking  soda": "sodium-bicarbonate",
		"LABSA": "sulfonic-acid", "soap nuts": "soap-nut", "washing soda": "washing-soda",
		"soda ash": "sodium-carbonate", "sal soda": "soda-crystals", "vinegar": "white-vinegar",
		"corn starch": "cornstarch", "lemons": "lemon", "Essential oil of nowhere": "",
		"citric-acid": "citric-acid", "Citric Acids": "citric-acid", "salt": "table-salt",
	} {
		m, err := material.Shipped().Find(name)
		if id == "" {
			assert.Error(t, err)
			continue
		}
		if assert.NoError(t, err, name) {
			assert.Equal(t, id, m.ID, name)
		}
	}
}

func TestAnUnknownNameBringsTheNearest(t *testing.T) {
	for typo, want := range map[string]string{
		"boraks": "Borax", "citrc acid": "Citric acid", "washing sody": "Washing soda", "lavander oil": "Lavender oil",
	} {
		_, err := material.Shipped().Find(typo)
		var unknown *material.UnknownError
		if assert.ErrorAs(t, err, &unknown, typo) {
			assert.Contains(t, unknown.Nearest(), want, typo)
		}
	}
	_, err := material.Shipped().Find("")
	assert.Error(t, err)
}

// USDA FoodData Central household weights and NIST Handbook 44 volumes: a US
// teaspoon of baking soda weighs 4.6 g and of salt 6 g; a US cup of
// cornstarch 128 g and of vinegar 238 g.
func TestHouseholdWeightsComeOut(t *testing.T) {
	for _, c := range []struct {
		name, amount string
		grams        float64
	}{
		{"baking soda", "1 tsp", 4.6}, {"table salt", "1 tsp", 6}, {"cornstarch", "1 cup", 128}, {"vinegar", "1 cup", 238},
	} {
		g, err := quantity.MustParse(c.amount).Grams(find(t, c.name).Handling(quantity.US))
		require.NoError(t, err)
		assert.InEpsilon(t, c.grams, g.Value, 0.005, c.name)
	}
}

// Greenspan 1977 gives 75.3 % RH over saturated sodium chloride at 25 °C.
func TestSaltDrinksWaterAt75(t *testing.T) {
	assert.InDelta(t, 75.3, find(t, "salt").DrinksAt.Value, 0.2)
}

func TestAWorkshopsOwnFigureReplacesTheShippedOne(t *testing.T) {
	lib := material.Shipped()
	own := *find(t, "soap flakes")
	own.Density = material.Figure{Range: quantity.Exactly(0.21), Source: material.CustomSource}
	mine, err := lib.With(own)
	require.NoError(t, err)
	m, err := mine.Find("soap flakes")
	require.NoError(t, err)
	assert.Equal(t, 0.21, m.Density.Value)
	assert.Equal(t, "measured in your workshop", mine.Source(m.Density.Source))
	assert.Equal(t, 0.24, find(t, "soap flakes").Density.Value, "the shipped library is untouched")
	assert.Len(t, mine.All(), len(lib.All()))
}

// Zero is a pH like another, and what a strip of ±0.5 says of a strong acid begins there.
func TestAStrongAcidIsAMaterial(t *testing.T) {
	for _, ph := range []quantity.Range{{Value: 0.3, Low: 0, High: 0.8}, {Value: 0, Low: 0, High: 0.5}, {Value: -0.4, Low: -0.6, High: -0.1}} {
		made := material.Made{ID: "good-x", Name: "Descaler", PH: ph, Days: 30}
		all, err := material.Shipped().With(made.Material())
		require.NoError(t, err)
		m, err := all.Find("good-x")
		require.NoError(t, err)
		assert.Equal(t, ph, m.PH.Range)
	}
}

func TestUnsoundMaterialsAreRefused(t *testing.T) {
	sound := *find(t, "borax")
	for what, spoil := range map[string]func(*material.Material){
		"already means": func(m *material.Material) { m.ID = "borax-two" },
		"no source":     func(m *material.Material) { m.Density.Source = "hearsay" },
		"does not hold": func(m *material.Material) { m.Density.Low = 2 },
		"heavier than":  func(m *material.Material) { m.Density.High = 19 },
		"known element": func(m *material.Material) { m.Formula = "Zz" },
		"is not known":  func(m *material.Material) { m.Functions = []string{"magic"} },
		"a life sealed": func(m *material.Material) { m.Keeps.OpenDays = 0 },
		"needs an id":   func(m *material.Material) { m.Name = "" },
		"than the whole": func(m *material.Material) {
			m.MakeUp = []material.Component{{Of: "x", Share: material.Figure{Range: quantity.Exactly(1.2), Source: "memory"}}}
		},
	} {
		m := sound
		spoil(&m)
		_, err := material.Shipped().With(m)
		assert.ErrorContains(t, err, what)
	}
}
