package formula_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"keencrock/core/formula"
	"keencrock/core/listener"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

func spoken(t testing.TB, text string) *formula.Formula {
	t.Helper()
	f := &formula.Formula{Measures: quantity.US}
	for _, s := range listener.Lines(text, material.Shipped()) {
		require.NoError(t, s.Err, text)
		f.Lines = append(f.Lines, s.Line)
	}
	return f
}

func resolve(t testing.TB, f *formula.Formula) *formula.Resolved {
	t.Helper()
	r := formula.Resolve(f, material.Shipped(), formula.Workshop{})
	require.Empty(t, r.Questions)
	return r
}

const laundry = "2 cups soap flakes, 1 cup washing soda, 1 cup borax, 1 cup baking soda"

func TestSpokenFormula(t *testing.T) {
	lines := listener.Lines("2 cups of soap flakes; 1,5 kg borax\nwater to 10 l, washing soda: 1 cup, 20 soap nuts, 3 lemons, 1 bar of soap, 10–15 drops lavender (optional), 2 cusp salt, 1 cup boraks", material.Shipped())
	require.Len(t, lines, 10)
	for i, want := range [][2]string{{"soap-flakes", "2 cups"}, {"borax", "1.5 kg"}, {"water", "to 10 l"}, {"washing-soda", "1 cup"},
		{"soap-nut", "20"}, {"lemon", "3 lemons"}, {"soap-bar", "1 bar"}, {"lavender-oil", "10–15 drops"}} {
		require.NoError(t, lines[i].Err)
		assert.Equal(t, want, [2]string{lines[i].Material, lines[i].Amount.String()})
	}
	assert.True(t, lines[7].Optional)
	assert.Error(t, lines[8].Err)
	var unknown *material.UnknownError
	require.ErrorAs(t, lines[9].Err, &unknown)
	assert.Contains(t, unknown.Nearest(), "Borax")
}

func TestSharesSumToTheWhole(t *testing.T) {
	ids := []string{}
	for _, m := range material.Shipped().All() {
		ids = append(ids, m.ID)
	}
	rapid.Check(t, func(t *rapid.T) {
		f := &formula.Formula{Measures: quantity.US}
		for range rapid.IntRange(1, 12).Draw(t, "lines") {
			f.Lines = append(f.Lines, formula.Line{
				Material: rapid.SampledFrom(ids).Draw(t, "material"),
				Amount:   quantity.Of(int64(rapid.IntRange(1, 40).Draw(t, "quarters")), 4, rapid.SampledFrom([]quantity.Unit{quantity.Cup, quantity.Tablespoon, quantity.Gram, quantity.Part}).Draw(t, "unit")),
			})
		}
		r := formula.Resolve(f, material.Shipped(), formula.Workshop{})
		require.Empty(t, r.Questions)
		sum := 0.0
		for _, l := range r.Lines {
			sum += l.Share.Value
			require.LessOrEqual(t, l.Share.Low, l.Share.Value+1e-12)
			require.LessOrEqual(t, l.Share.Value, l.Share.High+1e-12)
		}
		require.InDelta(t, 1, sum, 1e-9)

		factor := rapid.Float64Range(0.1, 100).Draw(t, "factor")
		p, err := r.Scale(formula.Target{Factor: factor})
		require.NoError(t, err)
		require.InEpsilon(t, r.TotalG.Value*factor, p.TotalG, 1e-9)
		back, err := r.Scale(formula.Target{MassG: p.NetG})
		require.NoError(t, err)
		require.InEpsilon(t, factor, back.Factor, 1e-9)
	})
}

func TestParts(t *testing.T) {
	f := spoken(t, "2 parts soap flakes, 2 parts washing soda, 1 part borax, 1 part baking soda")
	r := resolve(t, f)
	assert.InDelta(t, 600, r.TotalG.Value, 1e-9)
	assert.InDelta(t, 1.0/3, r.Lines[0].Share.Value, 1e-9)
	assert.Contains(t, r.PartNote, "100 g")

	f.Yield = quantity.MustParse("3 kg")
	f.LossShare = 0.02
	assert.InDelta(t, 3000, resolve(t, f).NetG().Value, 1e-6)

	f.Yield, f.LossShare = quantity.Amount{}, 0
	f.Parts = formula.ByVolume
	byVolume := resolve(t, f)
	assert.Less(t, byVolume.Lines[0].Share.Value, 0.2, "flakes are light: a third by volume is less by mass")
	f.Yield = quantity.MustParse("2 l")
	assert.InDelta(t, 2000, resolve(t, f).VolumeML.Value, 1e-6)
}

func TestMakeUpTo(t *testing.T) {
	r := resolve(t, spoken(t, "500 g washing soda, 250 ml liquid soap, water to 10 l"))
	// 10 l less 250 ml of soap less about 94 ml that the dissolved soda takes up:
	// 73 g of crystal water and little more (10 % sodium carbonate has 1.103 g/ml,
	// CRC Handbook)
	assert.InDelta(t, 9637, r.Lines[2].MassG.Value, 5)
	assert.Less(t, r.Lines[2].MassG.Low, r.Lines[2].MassG.High)

	over := formula.Resolve(spoken(t, "6 kg borax, 8 l vinegar, water to 10 l"), material.Shipped(), formula.Workshop{})
	require.Len(t, over.Questions, 1)
	assert.Equal(t, formula.NothingLeft, over.Questions[0].Code)
	two := formula.Resolve(spoken(t, "water to 10 l, vinegar to 5 l"), material.Shipped(), formula.Workshop{})
	assert.Equal(t, formula.TwoTotals, two.Questions[0].Code)
	byMass := resolve(t, spoken(t, "300 g citric acid, water to 1 kg"))
	assert.InDelta(t, 700, byMass.Lines[1].MassG.Value, 1e-9)
}

func TestScaleToTwelveJars(t *testing.T) {
	f := spoken(t, laundry)
	f.LossShare = 0.01
	r := resolve(t, f)
	p, err := r.Scale(formula.Target{Containers: formula.Containers{Count: 12, EachG: 700}})
	require.NoError(t, err)
	assert.InDelta(t, 8400, p.NetG, 1e-6)
	assert.InDelta(t, 8400/0.99, p.TotalG, 1e-6)

	// jars of 1 l filled to 90 % hold their volume of powder
	p, err = r.Scale(formula.Target{Containers: formula.Containers{Count: 4, EachML: 1000, FillShare: 0.9}})
	require.NoError(t, err)
	assert.InDelta(t, 3600*r.Density(), p.NetG, 1e-6)
}

func TestScaleByEveryTarget(t *testing.T) {
	f := spoken(t, laundry)
	f.Use = quantity.MustParse("1 tbsp")
	f.Yield = quantity.MustParse("40 tabs")
	r := resolve(t, f)
	for _, target := range []formula.Target{{Factor: 2}, {MassG: 2 * r.TotalG.Value}, {VolumeML: 2 * r.VolumeML.Value}, {Pieces: 80}, {Uses: 160}} {
		p, err := r.Scale(target)
		require.NoError(t, err)
		assert.InDelta(t, 2, p.Factor, 1e-9, "%+v", target)
	}
	p, err := r.Scale(formula.Target{Scarcest: map[string]float64{"soap-flakes": 1000, "washing-soda": 5000, "borax": 402.2, "sodium-bicarbonate": 9000}})
	require.NoError(t, err)
	assert.Equal(t, "borax", p.LimitedBy)
	assert.InDelta(t, 2, p.Factor, 0.001)

	for _, bad := range []formula.Target{{}, {Factor: 1, Uses: 2}, {Factor: -1}, {Factor: 1e9}, {Containers: formula.Containers{Count: 3}},
		{Containers: formula.Containers{Count: 3, EachML: 100, FillShare: 2}}, {Scarcest: map[string]float64{"borax": 1}}} {
		_, err := r.Scale(bad)
		assert.ErrorIs(t, err, formula.ErrTarget, "%+v", bad)
	}
	_, err = resolve(t, spoken(t, laundry)).Scale(formula.Target{Uses: 10})
	assert.ErrorContains(t, err, "write it, such as 1 tbsp")
}

func TestRoundingSaysWhenItShiftsTheBalance(t *testing.T) {
	r := resolve(t, spoken(t, "100 g baking soda, 24 g citric acid"))
	p, err := r.Scale(formula.Target{MassG: 95})
	require.NoError(t, err)
	said := p.RoundTo(5, r)
	require.Len(t, said, 1)
	assert.Contains(t, said[0], "acid against base by +11.1 %") // 18 g of 77 became 20 of 75
	// what a scale cannot show is not rounded up to its step, but told by hand
	drops := resolve(t, spoken(t, "500 g baking soda, 7 drops lavender oil, 2 g xanthan gum"))
	small, err := drops.Scale(formula.Target{Factor: 2})
	require.NoError(t, err)
	small.RoundTo(2, drops)
	assert.Equal(t, "14 drops", small.Lines[1].Hand.String())
	assert.InDelta(t, 14*0.05*0.9, small.Lines[1].MassG, 1e-9)
	assert.Equal(t, "1 1/4 tsp", small.Lines[2].Hand.String()) // 4 g at 0.65 g/ml are 6.2 ml
	large, err := r.Scale(formula.Target{MassG: 12400})
	require.NoError(t, err)
	assert.Empty(t, large.RoundTo(1, r))
	for _, l := range p.Lines {
		assert.Positive(t, l.MassG)
	}
}

// Order of addition, common practice of the trade.
func TestOrderOfAddition(t *testing.T) {
	codes := func(text string) (found []string) {
		for _, f := range formula.OrderFindings(resolve(t, spoken(t, text))) {
			found = append(found, f.Code)
		}
		return found
	}
	assert.Equal(t, []string{"soap-after-water"}, codes("100 ml liquid soap, 1 l water"))
	assert.Equal(t, []string{"powder-before-soap"}, codes("1 l water, 100 ml liquid soap, 50 g washing soda"))
	assert.Equal(t, []string{"thickener-before-acid"}, codes("1 l water, 20 g citric acid, 5 g xanthan gum"))
	assert.Equal(t, []string{"scent-last"}, codes("1 l water, 10 drops lemon oil, 50 g citric acid"))
	assert.Equal(t, []string{"binder-last"}, codes("200 g baking soda, 5 g water, 50 g citric acid"))
	assert.Empty(t, codes("1 l water, 50 g washing soda, 100 ml liquid soap, 10 drops lavender oil"))
	assert.Empty(t, codes(laundry))
}

func TestProblemsAreAllReported(t *testing.T) {
	f := &formula.Formula{Measures: quantity.US, LossShare: 0.9, Lines: []formula.Line{
		{Material: "moon dust", Amount: quantity.MustParse("1 cup")},
		{Material: "borax", Amount: quantity.MustParse("1 bar")},
		{Material: "borax"},
	}}
	r := formula.Resolve(f, material.Shipped(), formula.Workshop{})
	var codes []string
	for _, p := range r.Questions {
		codes = append(codes, p.Code)
	}
	assert.ElementsMatch(t, []string{formula.BadLoss, formula.UnknownMaterial, formula.UnknownFigure, formula.NoAmount}, codes)
	f.Lines = make([]formula.Line, formula.MaxLines+1)
	assert.Equal(t, formula.TooManyLines, formula.Resolve(f, material.Shipped(), formula.Workshop{}).Questions[0].Code)
}

// What steeps in as much as covers it has something to steep in, however much that is; what
// steeps in nothing has not.
func TestWhatSteepsInAnOpenAmountIsNotAskedWhatItSteepsIn(t *testing.T) {
	asked := func(f *formula.Formula) (codes []string) {
		for _, q := range formula.Resolve(f, material.Shipped(), formula.Workshop{}).Questions {
			codes = append(codes, q.Code)
		}
		return codes
	}
	steeped := &formula.Formula{Name: "Peel", Kind: "infused-vinegar", Lines: []formula.Line{formula.LineOf("citrus peel", "300 g"), formula.LineOf("white vinegar", "enough to cover")}}
	assert.NotContains(t, asked(steeped), formula.NothingLeft)
	steeped.Lines = steeped.Lines[:1]
	assert.Contains(t, asked(steeped), formula.NothingLeft)
}
