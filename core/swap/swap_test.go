package swap_test

import (
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/formula"
	"keencrock/core/listener"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/core/solution"
	"keencrock/core/swap"
)

func resolved(t *testing.T, spoken string) *formula.Resolved {
	t.Helper()
	f := &formula.Formula{Kind: "laundry-powder", Measures: quantity.US}
	for _, s := range listener.Lines(spoken, material.Shipped()) {
		require.NoError(t, s.Err, spoken)
		f.Lines = append(f.Lines, s.Line)
	}
	r := formula.Resolve(f, material.Shipped(), formula.Workshop{})
	require.Empty(t, r.Questions)
	return r
}

func candidates(t *testing.T, spoken string, grams float64, stock map[string]float64) map[string]swap.Candidate {
	t.Helper()
	list, err := swap.Candidates(resolved(t, spoken), 0, grams, swap.Options{Library: material.Shipped(), StockG: stock, Use: solution.Use{GramsPerLitre: 5, Celsius: 25}})
	require.NoError(t, err)
	by := map[string]swap.Candidate{}
	for _, c := range list {
		id := c.Material.ID
		if c.Bake != nil {
			id = "baked"
		}
		by[id] = c
		assert.NotEmpty(t, c.Why)
	}
	return by
}

// By what does the work, never by cup (molar masses): soda ash : monohydrate :
// decahydrate 1 : 1.170 : 2.700, citric acid 1 : 1.094, borax 1 : 0.764.
func TestSwapsByWhatDoesTheWork(t *testing.T) {
	soda := candidates(t, "100 g soda ash, 50 g soap flakes", 100, nil)
	assert.InDelta(t, 117.0, soda["washing-soda"].Grams, 0.1)
	assert.InDelta(t, 270.0, soda["soda-crystals"].Grams, 0.1)
	assert.Equal(t, swap.SameCompound, soda["washing-soda"].By)
	assert.InDelta(t, 109.4, candidates(t, "100 g citric acid, 50 g salt", 100, nil)["citric-acid-monohydrate"].Grams, 0.1)
	assert.InDelta(t, 76.4, candidates(t, "100 g borax, 50 g salt", 100, nil)["borax-pentahydrate"].Grams, 0.1)

	borax := candidates(t, "100 g borax, 50 g soap flakes", 100, nil)
	assert.InDelta(t, 100*2/381.37*124.00/2, borax["washing-soda"].Grams, 0.2)
	assert.Contains(t, strings.Join(borax["washing-soda"].Changes, " "), "holds the pH at 9.2")
	assert.Greater(t, borax["washing-soda"].PHAfter, borax["washing-soda"].PHBefore)

	salt := candidates(t, "100 g salt, 50 g citric acid", 100, nil)
	assert.Contains(t, strings.Join(salt["epsom-salt"].Changes, " "), "brings hardness")
	soap := candidates(t, "100 g grated soap, 100 g washing soda", 100, nil)
	// as many fatty acids: a sodium soap has 290 g to a mole, a potassium one 16 more
	assert.InDelta(t, 100*0.82/290*306.1/0.33, soap["liquid-soap"].Grams, 0.5, "on dry soap")
}

// A litre of 5 % vinegar is 53.3 g of citric acid in acid strength (molar
// masses: 50 g of acetic acid are 0.833 mol).
func TestVinegarForCitricAcid(t *testing.T) {
	c := candidates(t, "1 l vinegar, 10 g salt", 1006, nil)["citric-acid"]
	assert.InDelta(t, 53.3, c.Grams, 0.3)
}

// Baking soda loses 36.9 % of its weight in the oven (molar masses).
func TestBakingSodaIsBakedIntoWashingSoda(t *testing.T) {
	c := candidates(t, "100 g soda ash, 50 g soap flakes", 100, nil)["baked"]
	require.NotNil(t, c.Bake)
	assert.InDelta(t, 158.5, c.Bake.BakingSodaG, 0.2)
	assert.InDelta(t, 100, c.Bake.StopAtG, 0.1)
	assert.InDelta(t, 0.369, 1-c.Bake.StopAtG/c.Bake.BakingSodaG, 0.0005)
	assert.InDelta(t, c.PHBefore, c.PHAfter, 0.01, "it is soda ash then")
}

func TestWhatIsOnTheShelfComesFirst(t *testing.T) {
	list, err := swap.Candidates(resolved(t, "200 g washing soda, 100 g soap flakes"), 0, 200, swap.Options{Library: material.Shipped(),
		StockG: map[string]float64{"borax": 5000, "soda-crystals": 10}, Use: solution.Use{GramsPerLitre: 5, Celsius: 25}})
	require.NoError(t, err)
	assert.Equal(t, "borax", list[0].Material.ID)
	for _, c := range list[1:] {
		assert.False(t, c.Enough)
		assert.Contains(t, strings.Join(c.Changes, " "), "The shelf holds")
	}
}

func TestNothingDangerousIsOffered(t *testing.T) {
	for id := range candidates(t, "100 g washing soda, 50 g soap flakes", 100, nil) {
		assert.NotContains(t, []string{"sodium-hydroxide", "sodium-metasilicate", "ammonia-water", "chlorine-bleach"}, id)
	}
	for id := range candidates(t, "100 g citric acid, 50 g salt", 100, nil) {
		assert.NotEqual(t, "sulfonic-acid", id)
	}
}

func TestSwapsThatCannotBe(t *testing.T) {
	r := resolved(t, "100 g borax")
	o := swap.Options{Library: material.Shipped(), Use: solution.Use{GramsPerLitre: 5, Celsius: 25}}
	for _, c := range []struct {
		line  int
		grams float64
	}{{-1, 10}, {5, 10}, {0, 0}, {0, 200}, {0, math.NaN()}} {
		_, err := swap.Candidates(r, c.line, c.grams, o)
		assert.Error(t, err, "%+v", c)
	}
}

// Half the acid's mmol of soda: 0.170 g to a gram at an acid value of 180, and
// a gas that has to go somewhere.
func TestNeutralisingSulfonicAcid(t *testing.T) {
	soda, err := swap.Neutralise(100, swap.WithSodaAsh)
	require.NoError(t, err)
	assert.InDelta(t, 17.0, soda.BaseG.Value, 0.05)
	assert.InDelta(t, 0.3208/2*24465, soda.GasML, 5)
	lye, err := swap.Neutralise(100, swap.WithLye)
	require.NoError(t, err)
	assert.InDelta(t, 12.83, lye.BaseG.Value, 0.05)
	assert.InDelta(t, 0.3208*55.8, lye.HeatKJ, 0.1)
	assert.Less(t, soda.HeatKJ, lye.HeatKJ/10)
	_, err = swap.Neutralise(100, "vinegar")
	assert.ErrorContains(t, err, "no base")
	_, err = swap.Neutralise(-1, swap.WithLye)
	assert.Error(t, err)
}
