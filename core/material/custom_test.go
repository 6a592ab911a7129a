package material_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"keencrock/core/material"
	"keencrock/core/quantity"
)

func own(t testing.TB, o material.Own) *material.Material {
	t.Helper()
	o.ID = material.CustomID(o.Name)
	m, err := o.Material(material.Shipped())
	require.NoError(t, err)
	return m
}

// A vinegar of another strength: as much more acid, as much less water, and
// everything else a vinegar is.
func TestAnotherStrength(t *testing.T) {
	vinegar := find(t, "white vinegar")
	m := own(t, material.Own{Name: "Pickling vinegar", Like: "vinegar", Strength: 0.07})
	assert.Equal(t, "own-pickling-vinegar", m.ID)
	assert.Equal(t, 0.07, m.ShareOf("acetic-acid"))
	assert.InDelta(t, 0.93, m.ShareOf("water"), 1e-9)
	assert.Equal(t, vinegar.Tags, m.Tags)
	assert.Equal(t, vinegar.Density, m.Density)
	assert.Equal(t, vinegar.Label, m.Label, "a label names what it is, not what it is called")
	assert.True(t, m.Own)
	assert.InDelta(t, 0.05, vinegar.ShareOf("acetic-acid"), 0.001, "the shipped one is untouched")
	assert.True(t, own(t, material.Own{Name: "Vinegar essence", Like: "vinegar", Strength: 0.25}).Is(material.Stranger), "five times as strong, it can do what vinegar cannot")
	assert.True(t, own(t, material.Own{Name: "Strong peroxide", Like: "hydrogen peroxide", Strength: 0.12}).Is(material.Stranger|material.Peroxide))
}

func TestWhatIsLikeNothingHereIsAStranger(t *testing.T) {
	m := own(t, material.Own{Name: "Rottenstone", Form: "powder", Function: "abrasive", Density: quantity.Range{Value: 0.9, Low: 0.8, High: 1}})
	assert.True(t, m.Is(material.Stranger|material.Dry|material.FineDust))
	assert.Equal(t, "Rottenstone", m.Label)
	assert.Positive(t, m.Keeps.SealedDays)
	for _, f := range material.CustomFunctions() {
		lib, err := material.Shipped().With(*own(t, material.Own{Name: "Stranger for " + f, Form: "liquid", Function: f}))
		require.NoError(t, err, "a material with only a function is sound")
		found, err := lib.Find("stranger for " + f)
		require.NoError(t, err)
		assert.True(t, found.Does(f) && found.Is(material.Stranger|material.Wet), f)
	}
}

// What frees chlorine is told by its name, whatever its maker says it is for.
func TestWhatSoundsOfChlorineIsKeptFromAcid(t *testing.T) {
	shipped := material.Shipped()
	for name, chlorine := range map[string]bool{
		"Pool chlorine": true, "Calcium hypochlorite": true, "Thick bleach": true, "Sodium dichloroisocyanurate": true,
		"Oxygen bleach of mine": false, "Chlorine-free bleach": false, "Sodium chloride, coarse": false, "Grey filler": false,
	} {
		o := material.Own{ID: material.CustomID(name), Name: name, Form: "powder", Function: "deodoriser"}
		m, err := o.Material(shipped)
		require.NoError(t, err, name)
		assert.Equal(t, chlorine, m.Is(material.Chlorine), name)
	}
}

func TestWhatAnOwnMaterialCannotBe(t *testing.T) {
	for field, o := range map[string]material.Own{
		"name":      {Name: " – ", Like: "borax"},
		"like":      {Name: "A", Like: "boraks"},
		"function":  {Name: "A"},
		"form":      {Name: "A", Function: "salt", Form: "cloud"},
		"strength":  {Name: "A", Like: "borax", Strength: 0.5},
		"open_days": {Name: "A", Like: "borax", SealedDays: 10, OpenDays: 20},
	} {
		o.ID = material.CustomID(o.Name)
		_, err := o.Material(material.Shipped())
		var wrong *material.CustomError
		require.ErrorAs(t, err, &wrong, field)
		assert.Equal(t, field, wrong.Field)
		assert.NotEmpty(t, wrong.Detail)
	}
	_, err := (&material.Own{ID: "own-a", Name: "A", Function: "bleach", Form: "liquid"}).Material(material.Shipped())
	assert.ErrorContains(t, err, "which bleach it is like")
	_, err = material.Shipped().With(*own(t, material.Own{Name: "Sour salt", Like: "salt"}))
	var taken *material.TakenError
	require.ErrorAs(t, err, &taken)
	assert.Equal(t, "Citric acid", taken.Other)
}

// Whatever it is like and however strong: its parts never are more than the
// whole, and the library takes it or it is refused in words.
func TestAnOwnMaterialIsSoundOrRefused(t *testing.T) {
	all := material.Shipped().All()
	rapid.Check(t, func(t *rapid.T) {
		o := material.Own{ID: "own-x", Name: "Own x", Like: rapid.SampledFrom(all).Draw(t, "like").ID,
			Strength: rapid.Float64Range(0, 1).Draw(t, "strength"), SealedDays: rapid.IntRange(0, 3000).Draw(t, "sealed")}
		m, err := o.Material(material.Shipped())
		if err != nil {
			return
		}
		sum := 0.0
		for _, c := range m.MakeUp {
			sum += c.Share.Value
		}
		assert.LessOrEqual(t, sum, 1+1e-9)
		_, err = material.Shipped().With(*m)
		assert.NoError(t, err)
	})
}

// What a safety data sheet says goes before what a material is like, and before that
// nothing is known of it.
func TestHazardsOfAnOwnMaterial(t *testing.T) {
	parts := func(o material.Own) *material.Substance {
		o.ID, o.Name, o.Form, o.Function = "own-x", "X", "powder", "filler"
		m, err := o.Material(material.Shipped())
		require.NoError(t, err)
		return material.Shipped().HazardParts(m)[0].Substance
	}
	assert.True(t, parts(material.Own{}).Unknown)
	told := parts(material.Own{Statements: []string{"h318", "EUH208"}})
	assert.False(t, told.Unknown)
	assert.Equal(t, []string{"H318", "EUH208"}, told.Statements)
	assert.False(t, parts(material.Own{NoHazards: true}).Unknown)
	assert.Empty(t, parts(material.Own{NoHazards: true, Like: "borax"}).Statements)
	for _, bad := range []material.Own{{Statements: []string{"eyes"}}, {Statements: []string{"H318"}, NoHazards: true}, {Statements: []string{"P102"}}} {
		bad.ID, bad.Name, bad.Form, bad.Function = "own-x", "X", "powder", "filler"
		_, err := bad.Material(material.Shipped())
		require.Error(t, err)
	}
}
