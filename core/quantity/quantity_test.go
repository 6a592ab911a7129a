package quantity_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"keencrock/core/quantity"
	"keencrock/internal/gnuunits"
)

func TestEveryUnitAgreesWithGNUUnits(t *testing.T) {
	water := quantity.Handling{DensityGPerML: quantity.Exactly(1)}
	for _, c := range []struct {
		measures  quantity.Measures
		ours, gnu string
	}{
		{quantity.US, "mg", "mg"}, {quantity.US, "g", "g"}, {quantity.US, "kg", "kg"},
		{quantity.US, "grain", "grain"}, {quantity.US, "oz", "oz"}, {quantity.US, "lb", "lb"},
		{quantity.US, "ml", "ml"}, {quantity.US, "cl", "cl"}, {quantity.US, "dl", "dl"}, {quantity.US, "l", "litre"},
		{quantity.US, "tsp", "usteaspoon"}, {quantity.US, "tbsp", "ustablespoon"}, {quantity.US, "cup", "uscup"},
		{quantity.US, "fl oz", "usfloz"}, {quantity.US, "pint", "uspint"}, {quantity.US, "quart", "usquart"}, {quantity.US, "gallon", "usgallon"},
		{quantity.Imperial, "tsp", "brteaspoon"}, {quantity.Imperial, "tbsp", "brtablespoon"}, {quantity.Imperial, "cup", "brcup"},
		{quantity.Imperial, "fl oz", "brfloz"}, {quantity.Imperial, "pint", "brpint"}, {quantity.Imperial, "quart", "brquart"}, {quantity.Imperial, "gallon", "brgallon"},
		{quantity.Metric, "cup", "metriccup"}, {quantity.Australian, "cup", "metriccup"},
		{quantity.Australian, "tbsp", "australiatablespoon"}, {quantity.Australian, "tsp", "australiateaspoon"},
	} {
		h := water
		h.Measures = c.measures
		a := quantity.MustParse("1 " + c.ours)
		got, err := a.Grams(h)
		require.NoError(t, err)
		base := "g"
		if a.Kind() == quantity.Volume {
			base = "ml"
		}
		assert.InEpsilon(t, gnuunits.Convert(t, c.gnu, base), got.Value, 1e-9, "%s %s", c.measures, c.ours)
		assert.True(t, got.IsExact())
	}
}

func TestHardnessDegreesAgreeWithGNUUnits(t *testing.T) {
	// 1 °Clark is one grain of CaCO3 per Imperial gallon; gpg per US gallon.
	h, err := quantity.ParseHardness("1 °Clark")
	require.NoError(t, err)
	mg, _ := h.In("mg/l")
	assert.InEpsilon(t, gnuunits.Convert(t, "grain/brgallon", "mg/litre"), mg, 1e-6)
	h, err = quantity.ParseHardness("1 gpg")
	require.NoError(t, err)
	mg, _ = h.In("mg/l")
	assert.InEpsilon(t, gnuunits.Convert(t, "grain/usgallon", "mg/litre"), mg, 1e-6)
}

// The customary table: 1 mmol/l = 100.09 mg/l = 5.608 °dH = 10.009 °fH =
// 7.02 °Clark = 5.847 gpg (common practice, computed from definitions).
func TestHardnessTable(t *testing.T) {
	for unit, want := range map[string]float64{"mg/l": 100.09, "°dH": 5.608, "°fH": 10.009, "°Clark": 7.02, "gpg": 5.847} {
		got, err := quantity.Hardness(1).In(unit)
		require.NoError(t, err)
		assert.InEpsilon(t, want, got, 5e-4, unit)
	}
	_, err := quantity.ParseHardness("12 stones")
	assert.ErrorContains(t, err, "expected mmol/l")
	_, err = quantity.ParseHardness("26800000 mg/l")
	assert.ErrorContains(t, err, "beyond sea water")
}

// Limits of the US Geological Survey: 60, 120, 180 mg/l as CaCO3.
func TestHardnessClasses(t *testing.T) {
	for written, class := range map[string]string{"59 mg/l": "soft", "61 ppm": "moderately hard", "121 mg/l": "hard", "268 mg/l": "very hard"} {
		h, err := quantity.ParseHardness(written)
		require.NoError(t, err)
		assert.Equal(t, class, h.Class(), written)
	}
}

// USDA FoodData Central: baking soda 4.6 g a teaspoon, salt 6 g a teaspoon,
// cornstarch 128 g a cup, vinegar 238 g a cup; NIST Handbook 44 volumes.
func TestUSDAHouseholdWeights(t *testing.T) {
	for _, c := range []struct {
		amount  string
		density float64
		grams   float64
	}{
		{"1 tsp", 0.933, 4.6}, {"1 tsp", 1.217, 6.0}, {"1 cup", 0.541, 128}, {"1 cup", 1.006, 238},
	} {
		got, err := quantity.MustParse(c.amount).Grams(quantity.Handling{Measures: quantity.US, DensityGPerML: quantity.Exactly(c.density)})
		require.NoError(t, err)
		assert.InEpsilon(t, c.grams, got.Value, 2e-3)
	}
}

func TestGramsSaysWhatIsMissing(t *testing.T) {
	for written, want := range map[string]error{
		"1 cup":   quantity.ErrNeedsDensity,
		"1 bar":   quantity.ErrNeedsPieceG,
		"2 parts": quantity.ErrNeedsPartSize,
		"to 10 l": quantity.ErrMakeUp,
	} {
		_, err := quantity.MustParse(written).Grams(quantity.Handling{})
		assert.ErrorIs(t, err, want, written)
	}
}

func TestAWeighedCupReplacesTheRange(t *testing.T) {
	cups := quantity.MustParse("2 cups")
	loose, err := cups.Grams(quantity.Handling{DensityGPerML: quantity.Between(0.15, 0.35)})
	require.NoError(t, err)
	weighed, err := cups.Grams(quantity.Handling{DensityGPerML: quantity.Exactly(0.22)})
	require.NoError(t, err)
	assert.False(t, loose.IsExact())
	assert.True(t, weighed.IsExact())
	assert.Greater(t, loose.Spread(), 0.3)
}

func TestDropsAndScoopsAreCalibrated(t *testing.T) {
	oil := quantity.Handling{DensityGPerML: quantity.Exactly(0.9)}
	usual, _ := quantity.MustParse("20 drops").Grams(oil)
	assert.InDelta(t, 0.9, usual.Value, 1e-9) // common practice: 20 drops a millilitre
	assert.InDelta(t, 0.25, usual.Spread(), 1e-9)
	oil.DropML = quantity.Exactly(0.04)
	own, _ := quantity.MustParse("20 drops").Grams(oil)
	assert.InDelta(t, 0.72, own.Value, 1e-9)
	oil.ScoopML = quantity.Exactly(50)
	scoop, _ := quantity.MustParse("1 scoop").Grams(oil)
	assert.InDelta(t, 45, scoop.Value, 1e-9)
}

func TestRangesKeepTheirOrder(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		a := quantity.MustParse(drawAmount(t))
		h := quantity.Handling{
			Measures:      rapid.SampledFrom([]quantity.Measures{quantity.US, quantity.Metric, quantity.Imperial, quantity.Australian}).Draw(t, "measures"),
			DensityGPerML: quantity.Between(rapid.Float64Range(0.1, 1).Draw(t, "loose"), rapid.Float64Range(1, 3).Draw(t, "tapped")),
		}
		g, err := a.Grams(h)
		if a.UpTo() {
			require.ErrorIs(t, err, quantity.ErrMakeUp)
			return
		}
		require.NoError(t, err)
		require.LessOrEqual(t, g.Low, g.Value)
		require.LessOrEqual(t, g.Value, g.High)
		require.Positive(t, g.Low)

		// scaling is linear: k times the amount is k times the grams
		k := rapid.Float64Range(0.1, 50).Draw(t, "factor")
		h.DensityGPerML = h.DensityGPerML.Scale(k)
		scaled, err := a.Grams(h)
		require.NoError(t, err)
		if _, allVolume := a.Millilitres(h); allVolume {
			require.InEpsilon(t, g.Value*k, scaled.Value, 1e-9)
			require.InEpsilon(t, g.High*k, scaled.High, 1e-9)
		}
	})
}

func TestNearestScoopIsScoopableAndNear(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := rapid.SampledFrom([]quantity.Measures{quantity.US, quantity.Metric, quantity.Imperial, quantity.Australian}).Draw(t, "measures")
		ml := rapid.Float64Range(5, 5000).Draw(t, "ml")
		a, relErr := quantity.NearestScoop(ml, m)
		got, ok := a.Millilitres(quantity.Handling{Measures: m})
		require.True(t, ok)
		require.LessOrEqual(t, len(a.Terms()), 2)
		require.InDelta(t, relErr, got.Value/ml-1, 1e-9)
		// a set of cups and spoons is coarser for small volumes
		allowed := 0.06
		switch {
		case ml < 15:
			allowed = 0.12
		case ml < quantity.Cup.SizeML(m):
			allowed = 0.08
		}
		require.InDelta(t, 0, relErr, allowed, "%g ml as %s", ml, a)
	})
}

func ExampleNearestScoop() {
	a, relErr := quantity.NearestScoop(210, quantity.US)
	fmt.Printf("%s, %+.1f %%\n", a, relErr*100)
	// Output: 3/4 cup + 2 tbsp, -1.4 %
}
