package keeping_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/keeping"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

func at(ph float64) quantity.Range { return quantity.Exactly(ph) }

// The class follows from what the bottle is. Held against 21 CFR 114 (pH 4.6 for
// acidified foods) and 21 CFR 110/117 (water activity 0.85); the rest is common
// practice.
func TestTheClassFollowsFromTheBottle(t *testing.T) {
	for name, c := range map[string]struct {
		bottle keeping.Bottle
		want   keeping.Class
	}{
		"laundry powder":             {keeping.Bottle{}, keeping.Dry},
		"powder with percarbonate":   {keeping.Bottle{Peroxide: true}, keeping.DryBleach},
		"toilet bomb":                {keeping.Bottle{AcidAndSoda: true}, keeping.Effervescent},
		"vinegar spray":              {keeping.Bottle{Wet: true, PH: at(2.6), PHKnown: true}, keeping.WetStrong},
		"vinegar, neutralised":       {keeping.Bottle{Wet: true, PH: at(7.5), PHKnown: true}, keeping.WetMild},
		"a trace of vinegar":         {keeping.Bottle{Wet: true, PH: at(4.5), PHKnown: true}, keeping.WetMild},
		"sour only at its best":      {keeping.Bottle{Wet: true, PH: quantity.Range{Value: 4, Low: 3.8, High: 4.4}, PHKnown: true}, keeping.WetMild},
		"soda lye water":             {keeping.Bottle{Wet: true, PH: at(11), PHKnown: true}, keeping.WetStrong},
		"diluted soap":               {keeping.Bottle{Wet: true, PH: at(9.4), PHKnown: true, Soap: 0.02}, keeping.WetMild},
		"strong soap":                {keeping.Bottle{Wet: true, PH: at(9.8), PHKnown: true, Soap: 0.3}, keeping.WetSoap},
		"strong soap, curdled":       {keeping.Bottle{Wet: true, PH: at(5.5), PHKnown: true, Soap: 0.01}, keeping.WetMild},
		"glass spray":                {keeping.Bottle{Wet: true, PH: at(6), PHKnown: true, Alcohol: 0.3}, keeping.WithAlcohol},
		"brine, water activity 0.80": {keeping.Bottle{Wet: true, PH: at(7), PHKnown: true, WaterActivity: 0.80}, keeping.WetStrong},
		"brine, water activity 0.88": {keeping.Bottle{Wet: true, PH: at(7), PHKnown: true, WaterActivity: 0.88}, keeping.WetMild},
		"peroxide spray":             {keeping.Bottle{Wet: true, PH: at(5), PHKnown: true, Peroxide: true}, keeping.WithPeroxide},
		"bleach spray":               {keeping.Bottle{Wet: true, PH: at(11), PHKnown: true, Chlorine: 1}, keeping.WithBleach},
		"peel ferment, not measured": {keeping.Bottle{Wet: true, Ferments: true}, keeping.Ferment},
		"peel ferment gone mild":     {keeping.Bottle{Wet: true, Ferments: true, PH: at(5.5), PHKnown: true, PHMeasured: true, Perishable: true}, keeping.WetPerishable},
		"soap nuts in a ferment":     {keeping.Bottle{Wet: true, Ferment: 0.5, SoapNut: true, PH: at(3.6), PHKnown: true}, keeping.Ferment},
		"soap-nut water":             {keeping.Bottle{Wet: true, SoapNut: true, PH: at(4.6), PHKnown: true}, keeping.SoapNutLiquid},
		"lemon juice spray":          {keeping.Bottle{Wet: true, PH: at(2.9), PHKnown: true, Perishable: true}, keeping.WetPerishable},
		"half bought shower gel":     {keeping.Bottle{Wet: true, PH: at(6), PHKnown: true, PreservedBase: 0.6}, keeping.WetPreserved},
		"wax in oil":                 {keeping.Bottle{Wet: true, PH: at(7), PHKnown: true, Waterless: true}, keeping.Oily},
		"ash water, not measured":    {keeping.Bottle{Wet: true}, keeping.WetMild},
	} {
		assert.Equal(t, c.want.Code, keeping.Classify(&c.bottle).Code, name)
	}
	sour := keeping.Classify(&keeping.Bottle{Wet: true, PH: at(2.6), PHKnown: true})
	require.NotNil(t, sour.Figure, "what decided is shown")
	assert.Equal(t, 2.6, sour.Figure.Value)
	assert.Contains(t, sour.Why, "pH 2.6")
}

// Only undissociated acid preserves: by Henderson and Hasselbalch half of it at
// the pKa (4.76 of sorbic, 4.20 of benzoic acid, CRC Handbook), a hundredth two
// units above.
func TestAPreservativeWorksWhereItIsUndissociated(t *testing.T) {
	find := func(name string) *material.Material {
		m, err := material.Shipped().Find(name)
		require.NoError(t, err)
		return m
	}
	for _, c := range []struct {
		name      string
		share, ph float64
		works     bool
	}{
		{"potassium sorbate", 0.002, 4.76, true}, {"potassium sorbate", 0.002, 6.76, false}, {"potassium sorbate", 0.0002, 4, false},
		{"sodium benzoate", 0.003, 4.2, true}, {"sodium benzoate", 0.003, 6.5, false},
		{"methylparaben", 0.002, 7, true}, {"methylparaben", 0.002, 9, false}, {"phenoxyethanol", 0.008, 9, true},
	} {
		p, ok := keeping.Preserves(find(c.name), c.share, at(c.ph), true)
		require.True(t, ok)
		assert.Equal(t, c.works, p.Works, "%s at pH %g: %s", c.name, c.ph, p.Why)
	}
	p, _ := keeping.Preserves(find("potassium sorbate"), 0.002, at(4.76), true)
	assert.InDelta(t, 0.5*112.13/150.22, p.Undissociated, 0.005, "half of the acid a gram of the salt gives")
	_, ok := keeping.Preserves(find("borax"), 0.1, at(7), true)
	assert.False(t, ok)
	p, _ = keeping.Preserves(find("parabens in glycol"), 0.01, quantity.Range{}, false)
	assert.False(t, p.Works, "what is not known is not counted on")
}
