package tenant

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
	"keencrock/core/material"
)

// A library that has grown or shrunk since a material was described never keeps
// a workshop from opening.
func TestAWorkshopOpensWhateverTheLibraryBecame(t *testing.T) {
	lib, err := LibraryOf(map[string]api.OwnMaterial{
		"own-borax":  {Name: "Borax", Like: "salt"},                                        // now a shipped name
		"own-clay":   {Name: "Pot clay", Also: []string{"salt", "potter's"}, Like: "salt"}, // one of its names is
		"own-gone":   {Name: "Gone", Like: "what is not shipped any more"},
		"own-strong": {Name: "Strong", Like: "borax", Strength: 0.5}, // no longer a mixture
	})
	require.NoError(t, err)
	find := func(name string) *material.Material {
		m, err := lib.Find(name)
		require.NoError(t, err, name)
		return m
	}
	assert.Equal(t, "borax", find("borax").ID, "the shipped one keeps its name")
	assert.Equal(t, "Borax, our own", find("own-borax").Name)
	assert.Equal(t, "table-salt", find("salt").ID)
	assert.Equal(t, "own-clay", find("potter's").ID)
	for _, id := range []string{"own-gone", "own-strong"} {
		m := find(id)
		assert.True(t, m.Is(material.Stranger), id)
		assert.Contains(t, m.Note, "say it anew")
	}
}
