package goal_test

import (
	"errors"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"keencrock/core/goal"
	"keencrock/core/hazard"
	"keencrock/core/material"
	"keencrock/core/solution"
)

func in(t require.TestingT, name string, nowG, costPerKg float64) goal.Ingredient {
	m, err := material.Shipped().Find(name)
	require.NoError(t, err)
	return goal.Ingredient{Material: m, NowG: nowG, CostPerKg: costPerKg}
}

func powder(t require.TestingT) []goal.Ingredient {
	return []goal.Ingredient{in(t, "soap flakes", 120, 7), in(t, "washing soda", 250, 1.7), in(t, "borax", 200, 3.1), in(t, "baking soda", 220, 1.6),
		in(t, "citric acid", 0, 4.5), in(t, "sodium citrate", 0, 4.2)}
}

var use = solution.Use{GramsPerLitre: 5, Celsius: 25}

func shares(p *goal.Proposal) map[string]float64 {
	sum := 0.0
	for _, l := range p.Lines {
		sum += l.Grams
	}
	of := map[string]float64{}
	for _, l := range p.Lines {
		of[l.Material.ID] = l.Grams / sum
	}
	return of
}

func TestWithoutWishesNothingChanges(t *testing.T) {
	p, err := goal.Propose(powder(t), goal.Wishes{TotalG: 790}, use)
	require.NoError(t, err)
	of := shares(p)
	assert.InDelta(t, 250.0/790, of["washing-soda"], 1e-6)
	assert.InDelta(t, 120.0/790, of["soap-flakes"], 1e-6)
	assert.Empty(t, p.Binding)
}

func TestEachWishIsFulfilled(t *testing.T) {
	w := goal.Wishes{TotalG: 1000, PHLow: 10.3, PHHigh: 10.6, AlkalinityGPerL: 1.2, BoraxFree: true, CostPerKg: 3,
		Bounds: []goal.Bound{{Material: "soap-flakes", MinG: 150, MaxG: 250}}}
	p, err := goal.Propose(powder(t), w, use)
	require.NoError(t, err)
	assert.GreaterOrEqual(t, p.Result.ClosedPH.Value, 10.3)
	assert.LessOrEqual(t, p.Result.ClosedPH.Value, 10.6)
	assert.GreaterOrEqual(t, p.Result.FreeAlkalinity.Value, 1.2-1e-6)
	assert.LessOrEqual(t, p.CostPerKg, 3+1e-6)
	of := shares(p)
	assert.NotContains(t, of, "borax")
	assert.GreaterOrEqual(t, of["soap-flakes"], 0.15-1e-6)
	assert.LessOrEqual(t, of["soap-flakes"], 0.25+1e-6)
}

func TestWhatBindsIsNamed(t *testing.T) {
	p, err := goal.Propose(powder(t), goal.Wishes{TotalG: 1000, ChelatesMMolPerL: 2.68}, use)
	require.NoError(t, err)
	assert.Equal(t, []string{"a chelant for 2.68 mmol/l of hardness"}, p.Binding)
	// 2.68 mmol/l at 5 g/l is 0.536 mol a kg: 158 g of the dihydrate, or 103 g of the acid
	of := shares(p)
	assert.InDelta(t, 0.536, of["sodium-citrate"]/0.2941+of["trisodium-citrate"]/0.2941+of["citric-acid"]/0.19212, 0.01)
}

// Soap is what a soap powder is for: half of it stays, whatever pH is wished
// for, unless it is bound otherwise.
func TestAGoalDoesNotCostTheSoap(t *testing.T) {
	w := goal.Wishes{TotalG: 790, PHLow: 10.6, PHHigh: 10.7}
	p, err := goal.Propose(powder(t), w, use)
	require.NoError(t, err)
	assert.GreaterOrEqual(t, shares(p)["soap-flakes"], 0.5*120/790-1e-6)
	w.Bounds = []goal.Bound{{Material: "soap-flakes", MaxG: 1}}
	p, err = goal.Propose(powder(t), w, use)
	require.NoError(t, err)
	assert.LessOrEqual(t, shares(p)["soap-flakes"], 1.0/790+1e-6)
}

// In hard water a proposal has the pH there that was wished for, which is lower
// than the same powder's in soft water; where no balance reaches it, how far
// they reach is said.
func TestAPHIsWishedForInTheWaterThereIs(t *testing.T) {
	hard := solution.Use{GramsPerLitre: 0.65, Celsius: 25, Hardness: 2.68}
	w := goal.Wishes{TotalG: 790, PHLow: 9.2, PHHigh: 9.3}
	p, err := goal.Propose(powder(t), w, hard)
	require.NoError(t, err)
	assert.GreaterOrEqual(t, p.Result.ClosedPH.Value, w.PHLow-0.005)
	assert.LessOrEqual(t, p.Result.ClosedPH.Value, w.PHHigh+0.005)
	soft, err := goal.Propose(powder(t), w, solution.Use{GramsPerLitre: 0.65, Celsius: 25})
	require.NoError(t, err)
	assert.Greater(t, shares(p)["washing-soda"], shares(soft)["washing-soda"], "hard water asks for more soda")

	w.PHLow, w.PHHigh = 10.8, 10.9
	_, err = goal.Propose(powder(t), w, hard)
	assert.ErrorContains(t, err, "which reach a pH of")
	assert.ErrorContains(t, err, "in this water")
}

func TestABombForItsGasAndItsPH(t *testing.T) {
	bomb := []goal.Ingredient{in(t, "baking soda", 800, 1.6), in(t, "citric acid", 200, 4.5), in(t, "cornstarch", 0, 2.8)}
	p, err := goal.Propose(bomb, goal.Wishes{TotalG: 1000, PHLow: 5, PHHigh: 6, GasMLPerKg: 80_000}, solution.Use{GramsPerLitre: 30, Celsius: 25})
	require.NoError(t, err)
	assert.GreaterOrEqual(t, p.Result.Gas.MLPerKg().Value, 80_000-1.0)
	assert.InDelta(t, 5.5, p.Result.ClosedPH.Value, 0.5)
}

func TestContradictionsNameTheWishes(t *testing.T) {
	_, err := goal.Propose(powder(t), goal.Wishes{TotalG: 1000, CostPerKg: 2, Bounds: []goal.Bound{{Material: "soap-flakes", MinG: 600}}}, use)
	var c *goal.Contradiction
	require.ErrorAs(t, err, &c)
	assert.ElementsMatch(t, []string{"a cost of at most 2 a kg", "at least 600 g of soap flakes"}, c.Wishes)

	_, err = goal.Propose(powder(t), goal.Wishes{TotalG: 1000, PHLow: 4, PHHigh: 5, AlkalinityGPerL: 1}, use)
	require.ErrorAs(t, err, &c)
	assert.ElementsMatch(t, []string{"a pH of 4 to 5", "alkalinity of at least 1 g/l"}, c.Wishes)

	_, err = goal.Propose(powder(t), goal.Wishes{TotalG: 1000, BoraxFree: true, Bounds: []goal.Bound{{Material: "borax", MinG: 10}}}, use)
	require.ErrorAs(t, err, &c)
	assert.Contains(t, c.Wishes, "no borax")

	_, err = goal.Propose([]goal.Ingredient{in(t, "salt", 1, 1)}, goal.Wishes{TotalG: 1000, PHLow: 10, PHHigh: 11}, use)
	require.ErrorAs(t, err, &c)
	assert.Contains(t, c.Error(), "these materials alone")
}

func TestOnlyWhatIsOnTheShelf(t *testing.T) {
	w := goal.Wishes{TotalG: 1000, StockG: map[string]float64{"soap-flakes": 100, "washing-soda": 2000, "sodium-bicarbonate": 200}}
	p, err := goal.Propose(powder(t), w, use)
	require.NoError(t, err)
	of := shares(p)
	assert.NotContains(t, of, "borax")
	assert.LessOrEqual(t, of["soap-flakes"], 0.1+1e-6)
	assert.LessOrEqual(t, of["sodium-bicarbonate"], 0.2+1e-6)
}

func TestWishesThatCannotBe(t *testing.T) {
	for _, w := range []goal.Wishes{{}, {TotalG: -1}, {TotalG: 1, PHLow: 9, PHHigh: 8}, {TotalG: 1, PHHigh: 20}, {TotalG: math.NaN()}, {TotalG: 1, Bounds: []goal.Bound{{Material: "borax", MinG: 5, MaxG: 2}}}} {
		_, err := goal.Propose(powder(t), w, use)
		assert.ErrorIs(t, err, goal.ErrWishes, "%+v", w)
	}
	_, err := goal.Propose(nil, goal.Wishes{TotalG: 1}, use)
	assert.ErrorIs(t, err, goal.ErrWishes)
	_, err = goal.Propose([]goal.Ingredient{in(t, "wood ash", 1, 1)}, goal.Wishes{TotalG: 1}, use)
	assert.ErrorContains(t, err, "not known")
}

// Whatever is wished for, the answer fulfils it or says that it cannot.
func TestProposalsKeepTheirWord(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		low := rapid.Float64Range(3, 11).Draw(t, "low")
		w := goal.Wishes{TotalG: 1000, PHLow: low, PHHigh: low + rapid.Float64Range(0.1, 1).Draw(t, "band"),
			AlkalinityGPerL: rapid.SampledFrom([]float64{0, 0.5, 1.5}).Draw(t, "alkalinity"), CostPerKg: rapid.SampledFrom([]float64{0, 2.5, 4}).Draw(t, "cost")}
		p, err := goal.Propose(powder(t), w, use)
		var c *goal.Contradiction
		if errors.As(err, &c) {
			require.NotEmpty(t, c.Wishes)
			return
		}
		require.NoError(t, err)
		require.GreaterOrEqual(t, p.Result.ClosedPH.Value, w.PHLow-1e-6)
		require.LessOrEqual(t, p.Result.ClosedPH.Value, w.PHHigh+1e-6)
		if w.AlkalinityGPerL > 0 {
			require.GreaterOrEqual(t, p.Result.FreeAlkalinity.Value, w.AlkalinityGPerL-1e-6)
		}
		if w.CostPerKg > 0 {
			require.LessOrEqual(t, p.CostPerKg, w.CostPerKg+1e-6)
		}
	})
}

func BenchmarkTenMaterials(b *testing.B) {
	ten := append(powder(b), in(b, "soda ash", 0, 3), in(b, "salt", 0, 0.7), in(b, "sodium sulfate", 0, 1), in(b, "oxygen bleach", 0, 4.8))
	w := goal.Wishes{TotalG: 1000, PHLow: 9.8, PHHigh: 9.9, AlkalinityGPerL: 0.8, ChelatesMMolPerL: 1, CostPerKg: 4}
	for b.Loop() {
		if _, err := goal.Propose(ten, w, use); err != nil {
			b.Fatal(err)
		}
	}
}

// What is wished of the label holds by the screen of package hazard, and what that costs
// is told.
func TestWishesOfTheLabel(t *testing.T) {
	find := func(id string) *material.Material {
		m, err := material.Shipped().Find(id)
		require.NoError(t, err)
		return m
	}
	in := []goal.Ingredient{{Material: find("sodium-percarbonate"), NowG: 350, CostPerKg: 3}, {Material: find("washing-soda"), NowG: 400, CostPerKg: 1}, {Material: find("sodium-bicarbonate"), NowG: 150, CostPerKg: 4}, {Material: find("trisodium-citrate"), CostPerKg: 6}}
	use := solution.Use{GramsPerLitre: 5, Basis: solution.Given, Celsius: 25}
	screen := func(p *goal.Proposal) *hazard.Result {
		m := &hazard.Mixture{}
		for _, l := range p.Lines {
			m.Ingredients = append(m.Ingredients, hazard.Ingredient{Material: l.Material, Share: l.Grams / 1000})
		}
		return hazard.Screen(m, material.Shipped())
	}
	p, err := goal.Propose(in, goal.Wishes{TotalG: 1000}, use)
	require.NoError(t, err)
	require.True(t, screen(p).Has("H318"), "35 %% percarbonate damages eyes")

	p, err = goal.Propose(in, goal.Wishes{TotalG: 1000, NoEyeDamage: true}, use)
	require.NoError(t, err)
	assert.False(t, screen(p).Has("H318"))
	assert.Contains(t, p.Binding, "no eye damage")

	p, err = goal.Propose(in, goal.Wishes{TotalG: 1000, NoSignalWord: true, Bounds: []goal.Bound{{Material: "sodium-percarbonate", MaxG: 1000}}}, use)
	require.NoError(t, err)
	assert.Equal(t, hazard.NoSignal, screen(p).Signal, screen(p).Codes())
	require.NotEmpty(t, p.Costs)
	assert.Equal(t, "no signal word", p.Costs[0].Wish)
	assert.Positive(t, p.Costs[0].PerKg)

	// oxygen bleach fades in half a year, and there is none left for a year's wish
	p, err = goal.Propose(in, goal.Wishes{TotalG: 1000, KeepsDays: 365}, use)
	require.NoError(t, err)
	for _, l := range p.Lines {
		assert.NotEqual(t, "sodium-percarbonate", l.Material.ID)
	}
	var c *goal.Contradiction
	_, err = goal.Propose(in, goal.Wishes{TotalG: 1000, KeepsDays: 3000}, use)
	require.ErrorAs(t, err, &c)
	_, err = goal.Propose(in, goal.Wishes{TotalG: 1000, NoSignalWord: true, AlkalinityGPerL: 2}, use)
	require.ErrorAs(t, err, &c)
	assert.Contains(t, c.Wishes, "no signal word")
}
