package material_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/material"
)

// An oil is said by its plant in several ways: common practice.
func TestAnOilBySeveralNames(t *testing.T) {
	lib := material.Shipped()
	for name, id := range map[string]string{
		"oil of cloves": "clove-oil", "essential oil of lemon": "lemon-oil", "essential oil lemon": "lemon-oil",
		"EO of lavender": "lavender-oil", "bergamot EO": "bergamot-oil", "oil of olive": "olive-oil",
	} {
		n, err := lib.Read(name)
		require.NoError(t, err, name)
		assert.Equal(t, id, n.Material.ID, name)
	}
}

// What stands for many says which of them was named; a scent that nothing is known of is no
// other one, whose dangers and label are its own.
func TestWhatStandsForManyKeepsWhichItWas(t *testing.T) {
	lib := material.Shipped()
	for name, want := range map[string][2]string{
		"oregano oil": {"essential-oil", "oregano"}, "oil of wintergreen": {"essential-oil", "wintergreen"}, "clary sage": {"essential-oil", "clary sage"},
		"jasmine essential oil": {"essential-oil", "jasmine"}, "rose petals": {"fresh-herbs", "rose"}, "dried rose petals": {"dried-flowers", "rose"},
		"fresh rosemary": {"fresh-herbs", "rosemary"}, "nutmeg": {"spices", "nutmeg"},
	} {
		n, err := lib.Read(name)
		require.NoError(t, err, name)
		assert.Equal(t, want[0], n.Material.ID, name)
		assert.Equal(t, []string{want[1]}, n.Notes, name)
	}
	n, err := lib.Read("scent oil")
	require.NoError(t, err)
	assert.Empty(t, n.Notes)
	// fresh leaves bring water to what they are put into, dried ones none
	fresh, err := lib.Find("fresh-herbs")
	require.NoError(t, err)
	assert.Greater(t, fresh.ShareOf("water"), 0.6)
	assert.True(t, fresh.Is(material.Perishable))
}

// Common practice: a fragrance that smells of a plant is not that plant's oil, and what is in it is its
// maker's secret.
func TestAFragranceIsNoPlantsOil(t *testing.T) {
	lib := material.Shipped()
	for said, smell := range map[string]string{"lavender fragrance oil": "lavender", "lemon fragrance": "lemon", "vanilla fragrance oil": "vanilla", "rose perfume oil": "rose"} {
		n, err := lib.Read(said)
		require.NoError(t, err, said)
		assert.Equal(t, "essential-oil", n.Material.ID, said)
		assert.Equal(t, []string{smell}, n.Notes, said)
	}
	oil, err := lib.Read("lavender oil")
	require.NoError(t, err)
	assert.Equal(t, "lavender-oil", oil.Material.ID)
	own := *oil.Material
	own.ID, own.Name, own.Also = "our-rose", "Rose fragrance", nil
	with, err := lib.With(own)
	require.NoError(t, err, "a workshop may have its own")
	n, err := with.Read("rose fragrance")
	require.NoError(t, err)
	assert.Equal(t, "our-rose", n.Material.ID)
	n, err = with.Read("lily fragrance oil")
	require.NoError(t, err)
	assert.Equal(t, "essential-oil", n.Material.ID)
}

// A salt is called by its formula too, with the water it is sold with or without it (names of IUPAC and
// handbooks, from memory).
func TestASaltIsCalledByItsFormula(t *testing.T) {
	lib := material.Shipped()
	for formula, id := range map[string]string{"MgSO4": "epsom-salt", "MgSO4·7H2O": "epsom-salt", "NaHCO3": "sodium-bicarbonate", "K2CO3": "potassium-carbonate",
		"Na2CO3": "sodium-carbonate", "Na2CO3·10H2O": "soda-crystals", "CaCO3": "chalk", "Na3C6H5O7": "trisodium-citrate", "NaOH": "sodium-hydroxide", "KCl": "potassium-chloride"} {
		n, err := lib.Read(formula)
		if assert.NoError(t, err, formula) {
			assert.Equal(t, id, n.Material.ID, formula)
		}
	}
	_, err := lib.Read("C")
	assert.Error(t, err, "a letter is no name")
}
