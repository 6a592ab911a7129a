package material_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/material"
)

// How readily what is classed gives off and takes up protons decides what of it is left beside
// something else. CRC Handbook of Chemistry and Physics, dissociation constants at 25 °C, from
// memory: each row is within a tenth of it, and none is without.
func TestIonisationConstantsAreTheHandbooks(t *testing.T) {
	acids := map[string][]float64{
		"acetic-acid": {4.76}, "lactic-acid": {3.86}, "phosphoric-acid": {2.16, 7.21, 12.32}, "citric-acid": {3.13, 4.76, 6.40},
		"citric-acid-monohydrate": {3.13, 4.76, 6.40}, "tartaric-acid": {2.98, 4.34}, "malic-acid": {3.40, 5.11}, "oxalic-acid": {1.25, 4.27},
		"sulfamic-acid": {1.05}, "sodium-bisulfate": {1.99},
	}
	// of carbonic acid the second, of phosphoric the third, of silicic the first, of calcium
	// hydroxide what its saturated water stands at
	bases := map[string]float64{
		"ammonia": 9.25, "washing-soda": 10.33, "sodium-carbonate": 10.33, "soda-ash-dense": 10.33, "soda-crystals": 10.33, "potassium-carbonate": 10.33, "sodium-metasilicate": 9.9, "trisodium-phosphate": 12.32, "slaked-lime": 12.7,
	}
	lib := material.Shipped()
	check := func(id string, h *material.Hazards) {
		if want, is := acids[id]; is || len(h.Acid) > 0 {
			require.Len(t, h.Acid, len(want), id)
			assert.InDeltaSlice(t, want, h.Acid, 0.1, id)
		}
		if want, is := bases[id]; is || h.Base > 0 {
			assert.InDelta(t, want, h.Base, 0.1, id)
		}
	}
	met := map[string]bool{}
	for _, m := range lib.All() {
		for _, p := range lib.HazardParts(m) {
			check(p.ID, &p.Hazards)
			met[p.ID] = true
		}
	}
	for id := range acids {
		assert.True(t, met[id], id)
	}
	for id := range bases {
		assert.True(t, met[id], id)
	}
}
