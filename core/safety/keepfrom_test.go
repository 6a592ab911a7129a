package safety_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/material"
	"keencrock/core/safety"
)

// Each need has a witness: what stands against it, and what does not. Sources: CLP, Annex
// VI, for what is classed; common practice else.
func TestWhoIsKeptFromWhat(t *testing.T) {
	in := func(ids ...string) (out []safety.Ingredient) {
		for _, id := range ids {
			m, err := material.Shipped().Find(id)
			require.NoError(t, err, id)
			out = append(out, safety.Ingredient{Material: m, Share: 0.1})
		}
		return out
	}
	classed := func(id string) []string { // as it is neat
		m, err := material.Shipped().Find(id)
		require.NoError(t, err)
		return m.Hazards.Statements
	}
	all, names := safety.Needs()
	witness := map[safety.Need]struct{ found, not []string }{
		safety.Infants:   {[]string{"lavender-oil", "borax", "oxalic-acid", "sodium-hydroxide"}, []string{"sodium-bicarbonate", "table-salt"}},
		safety.Pets:      {[]string{"tea-tree-oil", "oxalic-acid", "chlorine-bleach"}, []string{"sodium-bicarbonate", "citric-acid"}},
		safety.Asthma:    {[]string{"lavender-oil", "citric-acid", "chlorine-bleach", "ammonia"}, []string{"table-salt", "white-vinegar"}},
		safety.Pregnancy: {[]string{"borax", "boric-acid", "sodium-perborate"}, []string{"washing-soda", "lavender-oil"}},
		safety.Septic:    {[]string{"chlorine-bleach"}, []string{"sodium-percarbonate", "washing-soda"}},
	}
	said := map[safety.Need]string{safety.Silk: "alkali-on-wool", safety.Aluminium: "alkali-and-aluminium", safety.Stone: "acid-and-stone"}
	for _, need := range all {
		assert.NotEmpty(t, names[need])
		w, by := witness[need], said[need]
		assert.True(t, len(w.found) > 0 || by != "", "%s has no witness: give it one", need)
		for _, id := range w.found {
			assert.NotEmpty(t, (&safety.Held{Ingredients: in(id), Statements: classed(id)}).Against([]safety.Need{need}), "%s and %s", need, id)
		}
		for _, id := range w.not {
			assert.Empty(t, (&safety.Held{Ingredients: in(id), Statements: classed(id)}).Against([]safety.Need{need}), "%s and %s", need, id)
		}
		if by != "" {
			assert.Equal(t, []string{"It does."}, (&safety.Held{Cautions: []safety.Caution{{Code: by, Text: "It does."}}}).Against([]safety.Need{need}))
			assert.Empty(t, (&safety.Held{Ingredients: in("washing-soda"), Cautions: []safety.Caution{{Code: "flammable", Text: "It burns."}}}).Against([]safety.Need{need}))
		}
		parsed, err := safety.ParseNeed(string(need))
		require.NoError(t, err)
		assert.Equal(t, need, parsed)
	}
	burns := []safety.Caution{{Code: "burns-skin", Text: "It burns."}}
	for _, need := range []safety.Need{safety.Infants, safety.Pets, safety.Silk} {
		assert.NotEmpty(t, (&safety.Held{Cautions: burns}).Against([]safety.Need{need}), need)
	}
	assert.NotEmpty(t, (&safety.Held{Ingredients: in("lavender-oil")}).Against([]safety.Need{safety.Allergen("linalool")}))
	assert.Empty(t, (&safety.Held{Ingredients: in("table-salt")}).Against([]safety.Need{safety.Allergen("linalool")}))
	unknown := &safety.Held{Unknown: []string{"moon dust"}}
	assert.Contains(t, unknown.Against([]safety.Need{safety.Pregnancy})[0], "nobody can say")
	assert.Empty(t, unknown.Against([]safety.Need{safety.Stone}))
	_, err := safety.ParseNeed("moonlight")
	assert.ErrorContains(t, err, "infants")
}
