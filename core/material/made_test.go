package material_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"keencrock/core/material"
)

// Water and vinegar half and half, then half of that with water: a quarter of
// vinegar (arithmetic).
func TestAGoodOfAGoodIsMadeOfWhatWasBought(t *testing.T) {
	lib := material.Shipped()
	find := func(id string) *material.Material {
		m, err := lib.Find(id)
		require.NoError(t, err)
		return m
	}
	water, vinegar, peel := find("water"), find("white-vinegar"), find("citrus-peel")
	first := material.Made{ID: "good-1", Name: "Peel vinegar", Poured: true, Days: 300,
		Of: material.MakeUp([]material.Input{{Material: water, MassG: 500}, {Material: vinegar, MassG: 500}, {Material: peel, MassG: 300, StrainedOut: true}}, 0)}
	lib, err := lib.With(first.Material())
	require.NoError(t, err)
	peelVinegar, err := lib.Find("peel vinegar")
	require.NoError(t, err)
	assert.Equal(t, []material.Base{{Material: water, Share: 0.5}, {Material: vinegar, Share: 0.5}}, peelVinegar.MadeOf)
	assert.InDelta(t, 0.5+0.5*vinegar.ShareOf("water"), peelVinegar.ShareOf("water"), 1e-12)
	assert.True(t, peelVinegar.Is(material.Wet))

	second := material.MakeUp([]material.Input{{Material: peelVinegar, MassG: 500}, {Material: water, MassG: 500}}, 0)
	require.Len(t, second, 2)
	assert.Equal(t, water, second[0].Material)
	assert.InDelta(t, 0.75, second[0].Share, 1e-12)
	assert.InDelta(t, 0.25, second[1].Share, 1e-12)

	dried := material.MakeUp([]material.Input{{Material: water, MassG: 500}, {Material: vinegar, MassG: 500}}, 250)
	assert.InDelta(t, 1.0/3, dried[1].Share, 1e-12, "half of the water dried off")
}

func TestTheSharesOfAGoodSumToOne(t *testing.T) {
	all := material.Shipped().All()
	rapid.Check(t, func(t *rapid.T) {
		var in []material.Input
		for range rapid.IntRange(1, 8).Draw(t, "lines") {
			in = append(in, material.Input{Material: rapid.SampledFrom(all).Draw(t, "material"), MassG: rapid.Float64Range(0.1, 5000).Draw(t, "g")})
		}
		sum := 0.0
		for _, b := range material.MakeUp(in, rapid.Float64Range(0, 100).Draw(t, "dried")) {
			require.Positive(t, b.Share)
			sum += b.Share
		}
		if sum != 0 { // all of it was water that dried off
			require.InDelta(t, 1, sum, 1e-9)
		}
	})
}
