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
