package dosing_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"keencrock/core/dosing"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/core/solution"
)

func resolve(t testing.TB, kind formula.Kind, use string, lines ...string) *formula.Resolved {
	t.Helper()
	f := &formula.Formula{Name: "test", Kind: kind, Measures: quantity.US}
	if use != "" {
		f.Use = quantity.MustParse(use)
	}
	for i := 0; i < len(lines); i += 2 {
		f.Lines = append(f.Lines, formula.Line{Material: lines[i], Written: lines[i+1], Amount: quantity.MustParse(lines[i+1])})
	}
	r := formula.Resolve(f, material.Shipped(), formula.Workshop{})
	require.Empty(t, r.Questions)
	return r
}

func machine(t testing.TB, id string) dosing.Machine {
	t.Helper()
	for _, m := range dosing.Machines() {
		if m.ID == id {
			return m
		}
	}
	t.Fatal("no machine", id)
	return dosing.Machine{}
}

func dose(t testing.TB, r *formula.Resolved, id string, h quantity.Hardness, soil dosing.Soil) dosing.Row {
	t.Helper()
	rows, err := dosing.Table(r, []dosing.Where{{Machine: machine(t, id), Hardness: h, Soil: soil}}, dosing.Options{})
	require.NoError(t, err)
	return rows[0]
}

func mgPerL(v float64) quantity.Hardness { return quantity.Hardness(v / 100.09) }

func laundry(t testing.TB) *formula.Resolved {
	return resolve(t, "laundry-powder", "1 tbsp", "washing soda", "500 g", "baking soda", "250 g", "grated soap", "250 g")
}

// Harder water, more water and more dirt need more; common practice.
func TestDosesFollowWaterAndDirt(t *testing.T) {
	r := laundry(t)
	last := 0.0
	for _, h := range []float64{0, 60, 120, 180} {
		row := dose(t, r, "front-loader", mgPerL(h), dosing.Normal)
		require.True(t, row.Computed)
		if !row.Reaches {
			assert.Positive(t, row.SodaFirstG)
			break
		}
		assert.GreaterOrEqual(t, row.Grams, last, "%g mg/l", h)
		last = row.Grams
	}
	assert.Greater(t, last, 5.0)
	soft := mgPerL(30)
	assert.Less(t, dose(t, r, "front-loader", soft, dosing.Light).Grams, dose(t, r, "front-loader", soft, dosing.Heavy).Grams)
	assert.Less(t, dose(t, r, "front-loader", soft, dosing.Normal).Grams, dose(t, r, "top-loader", soft, dosing.Normal).Grams)
}

// What a dose is said to give is what the chemistry gives at that strength.
func TestADoseGivesWhatItSays(t *testing.T) {
	r := laundry(t)
	row := dose(t, r, "front-loader", mgPerL(60), dosing.Normal)
	require.True(t, row.Reaches)
	full, err := solution.Run(r, solution.Use{GramsPerLitre: row.Grams / row.Machine.WaterL, Basis: solution.Given, Dose: quantity.Exactly(1), Hardness: mgPerL(60), Celsius: 25})
	require.NoError(t, err)
	assert.InDelta(t, full.ClosedPH.Value, row.Dosed.PH, 0.02)
	// what falls out as chalk takes as much alkali with it: 62 g of Na2O a mol
	assert.InDelta(t, full.FreeAlkalinity.Value-0.062*full.Hardness.Precipitation, row.Dosed.AlkalinityGPerL, 0.01)
	assert.InDelta(t, full.Hardness.Left, row.Dosed.HardnessLeft, 0.01)
	want := dosing.WantedOf(r, dosing.Normal)
	assert.GreaterOrEqual(t, row.Dosed.AlkalinityGPerL, want.AlkalinityGPerL)
	assert.GreaterOrEqual(t, row.Dosed.SoapLeftGPerL, want.SoapLeftGPerL)
}

// 60 l of 300 mg/l take about 110 g of soap (2 mol of soap to a mol): soap alone does
// not reach it in a front loader's water within what anybody would pour.
func TestSoapAloneInHardWaterIsSoftenedFirst(t *testing.T) {
	r := resolve(t, "laundry-powder", "1 tbsp", "soap flakes", "100 g", "table salt", "900 g")
	row := dose(t, r, "top-loader", mgPerL(300), dosing.Normal)
	require.False(t, row.Reaches)
	// 300 mg/l in 60 l are 180 mmol; soda 0.106 g a mmol, a tenth over
	assert.InDelta(t, 180*0.106*1.1, row.SodaFirstG, 0.2)
	assert.Contains(t, row.Says, "First put 21 g of soda ash")
}

// Where soap is eaten by the water, a little soda first saves much of the good; common
// practice.
func TestSofteningFirstIsOffered(t *testing.T) {
	row := dose(t, laundry(t), "front-loader", mgPerL(268), dosing.Normal)
	require.True(t, row.Reaches)
	assert.Contains(t, row.Says, "of soda ash into the water first")
	assert.NotContains(t, dose(t, laundry(t), "front-loader", mgPerL(60), dosing.Normal).Says, "soda ash")
}

func TestWhatIsNotKnownIsAsMakersSay(t *testing.T) {
	r := resolve(t, "soap-nut-extract", "", "soap nut", "20 pieces", "water", "1 l")
	row := dose(t, r, "front-loader", mgPerL(268), dosing.Normal)
	assert.False(t, row.Computed)
	assert.Equal(t, "3 tbsp", row.Measure.String(), "hard water, common practice")
	assert.Contains(t, row.Says, "as makers say")
}

// A sour good is dosed by what sour does: a last rinse below pH 7, a bowl below 5; and is
// never asked for alkali it was not made for.
func TestASourGoodIsDosedByWhatSourDoes(t *testing.T) {
	for _, c := range []struct {
		kind  formula.Kind
		in    string
		lines []string
	}{
		{"fabric-softener", "front-loader", []string{"citric acid", "100 g", "water", "900 g"}},
		{"toilet-bomb", "toilet", []string{"citric acid", "300 g", "baking soda", "100 g"}},
		{"dish-powder", "dishwasher", []string{"citric acid", "500 g", "table salt", "500 g"}},
	} {
		row := dose(t, resolve(t, c.kind, "", c.lines...), c.in, mgPerL(120), dosing.Normal)
		require.True(t, row.Computed, c.kind)
		assert.True(t, row.Reaches, "%s: %s", c.kind, row.Says)
		assert.NotContains(t, row.Says, "alkali")
		assert.Less(t, row.Dosed.PH, 7.0)
	}
}

// A liquid with soap and soda is asked for what a powder is.
func TestALiquidIsAskedForWhatAPowderIs(t *testing.T) {
	r := resolve(t, "laundry-liquid", "", "water", "3 l", "washing soda", "150 g", "grated soap", "100 g")
	want := dosing.WantedOf(r, dosing.Normal)
	assert.Positive(t, want.AlkalinityGPerL)
	assert.Positive(t, want.SoapLeftGPerL)
	assert.True(t, dose(t, r, "front-loader", mgPerL(30), dosing.Normal).Computed)
}

// The three voices are kept apart: who says a tablespoon is shown no other as what makers
// say, and the label carries what the workshop wants.
func TestTheVoicesAreKeptApart(t *testing.T) {
	row := func(use string, o dosing.Options) dosing.Row {
		r := resolve(t, "laundry-powder", use, "washing soda", "500 g", "baking soda", "250 g", "grated soap", "250 g")
		o.Said = r.Formula.Use
		rows, err := dosing.Table(r, []dosing.Where{{Machine: machine(t, "top-loader"), Hardness: mgPerL(60)}}, o)
		require.NoError(t, err)
		return rows[0]
	}
	says := row("1 tbsp", dosing.Options{})
	assert.Equal(t, dosing.ByFormula, says.SaidBy)
	assert.Equal(t, "1 tbsp", says.Said.String())
	assert.Equal(t, dosing.ByFormula, says.Chosen)
	assert.Equal(t, "1 tbsp", says.ChosenAs)
	assert.Contains(t, says.Differs, "in this water", "a tablespoon in sixty litres")
	silent := row("", dosing.Options{})
	assert.Equal(t, dosing.ByMakers, silent.SaidBy)
	counted := row("1 tbsp", dosing.Options{CountedG: 20, CountedLoads: 34})
	assert.Equal(t, dosing.ByCount, counted.Chosen)
	assert.Equal(t, 20.0, counted.ChosenG)
	assert.Contains(t, counted.Differs, "34 loads took 20 g each")
	enough := row("1 tbsp", dosing.Options{CountedG: says.Grams * 0.51, CountedLoads: 3})
	assert.Empty(t, enough.Differs, "half of it is no contradiction")
	assert.NotEmpty(t, row("1 tbsp", dosing.Options{CountedG: says.Grams * 0.49, CountedLoads: 3}).Differs)
	reckoned := row("1 tbsp", dosing.Options{CountedG: 20, CountedLoads: 34, Wants: dosing.ByReckon})
	assert.Equal(t, dosing.ByReckon, reckoned.Chosen)
	assert.Equal(t, reckoned.Grams, reckoned.ChosenG)
	assert.Empty(t, reckoned.Differs)
	assert.Equal(t, dosing.ByFormula, row("1 tbsp", dosing.Options{CountedG: 20, CountedLoads: 34, Wants: dosing.ByFormula}).Chosen)
}

func TestTabsAreCounted(t *testing.T) {
	r := resolve(t, "dish-tab", "1 tab", "washing soda", "300 g", "baking soda", "300 g", "citric acid", "60 g")
	rows, err := dosing.Table(r, []dosing.Where{{Machine: machine(t, "dishwasher"), Hardness: mgPerL(30)}}, dosing.Options{PieceG: 20})
	require.NoError(t, err)
	require.True(t, rows[0].Reaches, rows[0].Says)
	assert.Positive(t, rows[0].Pieces)
	assert.InDelta(t, 660/rows[0].Grams, rows[0].Uses, 1e-9)
}

func TestMachinesThatCannotBe(t *testing.T) {
	for _, m := range []dosing.Machine{{Name: "dry", UsedOn: "laundry"}, {Name: "pool", WaterL: 1e6}, {WaterL: 20}, {Name: "x", WaterL: math.NaN()}} {
		_, err := dosing.Table(laundry(t), []dosing.Where{{Machine: m}}, dosing.Options{})
		require.Error(t, err)
	}
	_, err := dosing.ParseSoil("filthy")
	require.ErrorContains(t, err, "light, normal or heavy")
}

// Any way of saying it. US measures by NIST Handbook 44: a quart is 4 cups, a gallon
// 256 tablespoons.
func TestDilutionsAsPeopleSayThem(t *testing.T) {
	h := quantity.Handling{Measures: quantity.US}
	for text, want := range map[string]float64{
		"1:5": 1.0 / 6, "1 in 6": 1.0 / 6, "one part to four": 0.2, "1 part to 4 parts water": 0.2, "5 %": 0.05, "5%": 0.05, "2,5 per cent": 0.025,
		"1/4 cup to a quart": 0.25 / 4.25, "¼ cup to a quart": 0.25 / 4.25, "1 tbsp to 2 gallons": 1.0 / 513, "half and half": 0.5, "neat": 1,
		"20 drops in 500 ml": 1.0 / 501, "20 ml/l": 20.0 / 1020, "10:1": 1.0 / 11, "1:1": 0.5, "2 tbsp per litre of water": 29.574 / 1029.574,
		"1 cup to 1 gallon of hot water": 1.0 / 17,
	} {
		d, err := dosing.ParseDilution(text, h)
		require.NoError(t, err, text)
		assert.InDelta(t, want, d.Share, 1e-4, text)
	}
	for _, text := range []string{"", "strong", "1:", "0:0", "0:5", "120 %", "6 in 1", "1 kettle of fish to 2", "-1:5", "1 tbsp to", "NaN:1"} {
		_, err := dosing.ParseDilution(text, h)
		require.Error(t, err, text)
	}
	d, err := dosing.ParseDilution("10:1", h)
	require.NoError(t, err)
	assert.True(t, d.Turned)
}

// C1 V1 = C2 V2, as handbooks have it: 500 ml at 1:4 take 100 ml.
func TestFillingABottle(t *testing.T) {
	h := quantity.Handling{Measures: quantity.US}
	f, err := dosing.Dilution{Share: 0.2}.Fill(500, 0, 0, h)
	require.NoError(t, err)
	assert.InDelta(t, 100, f.GoodML, 1e-9)
	assert.InDelta(t, 400, f.WaterML, 1e-9)

	// half full at a tenth: 200 − 0.1 × 250 = 75 ml are missing
	f, err = dosing.Dilution{Share: 0.2}.Fill(500, 250, 0.1, h)
	require.NoError(t, err)
	assert.InDelta(t, 75, f.GoodML, 1e-9)
	assert.InDelta(t, 0.2, f.Share, 1e-12)

	f, err = dosing.Dilution{Share: 0.002}.Fill(500, 0, 0, h)
	require.NoError(t, err)
	assert.InDelta(t, 20, f.Drops, 0.5, "1 ml, at 20 drops a ml")

	_, err = dosing.Dilution{Share: 0.2}.Fill(500, 600, 0, h)
	require.Error(t, err)
}

// Whatever is in the bottle, it ends full and at the strength asked for, and nothing
// is poured that is not there; said again it is the same dilution.
func TestABottleEndsAtItsStrength(t *testing.T) {
	h := quantity.Handling{Measures: quantity.Metric}
	rapid.Check(t, func(t *rapid.T) {
		d := dosing.Dilution{Share: rapid.Float64Range(0.001, 1).Draw(t, "share")}
		bottle := rapid.Float64Range(10, 5000).Draw(t, "bottle")
		inside := rapid.Float64Range(0, 1).Draw(t, "full") * bottle
		strength := rapid.Float64Range(0, 1).Draw(t, "strength")
		f, err := d.Fill(bottle, inside, strength, h)
		require.NoError(t, err)
		require.InDelta(t, d.Share, f.Share, 1e-9)
		require.InDelta(t, bottle, inside-f.PourOutML+f.GoodML+f.WaterML, 1e-6*bottle)
		require.GreaterOrEqual(t, f.PourOutML, 0.0)
		require.LessOrEqual(t, f.PourOutML, inside+1e-9)

		parts, inAll, percent, _ := d.Words()
		for _, words := range []string{parts, inAll, percent} {
			again, err := dosing.ParseDilution(words, h)
			require.NoError(t, err, words)
			require.InEpsilon(t, d.Share, again.Share, 0.2, words)
		}
	})
}

func BenchmarkTableOf24(b *testing.B) {
	r := laundry(b)
	var rows []dosing.Where
	for _, m := range dosing.Machines()[:4] {
		for _, h := range []float64{30, 90, 268} {
			for _, soil := range []dosing.Soil{dosing.Normal, dosing.Heavy} {
				rows = append(rows, dosing.Where{Machine: m, Hardness: mgPerL(h), Soil: soil})
			}
		}
	}
	for b.Loop() {
		if _, err := dosing.Table(r, rows, dosing.Options{}); err != nil {
			b.Fatal(err)
		}
	}
}

// Harder water and more dirt never ask for less, where a dose reaches at all; and a dose
// that is told to reach does.
func TestDosesGrowWithWhatTheyMeet(t *testing.T) {
	r := laundry(t)
	rapid.Check(t, func(t *rapid.T) {
		w := dosing.Where{Machine: dosing.Machines()[rapid.IntRange(0, 4).Draw(t, "machine")], Soil: dosing.Normal}
		h := rapid.Float64Range(0, 3).Draw(t, "mmol/l")
		harder := h + rapid.Float64Range(0, 2).Draw(t, "more")
		soft, hard, dirty := w, w, w
		soft.Hardness, hard.Hardness, dirty.Hardness, dirty.Soil = quantity.Hardness(h), quantity.Hardness(harder), quantity.Hardness(h), dosing.Heavy
		rows, err := dosing.Table(r, []dosing.Where{soft, hard, dirty}, dosing.Options{})
		require.NoError(t, err)
		if !rows[0].Reaches {
			require.False(t, rows[1].Reaches)
			return
		}
		for _, row := range rows[1:] {
			if row.Reaches {
				require.GreaterOrEqual(t, row.Grams, rows[0].Grams)
			}
		}
	})
}

// Every shipped dose is an amount, of a kind and a machine that there are.
func TestUsualDosesAreSound(t *testing.T) {
	for _, info := range formula.Kinds {
		for _, m := range dosing.MachinesFor(info.Kind, dosing.Machines()) {
			require.NoError(t, m.Check())
			rows, err := dosing.Table(resolve(t, info.Kind, "1 tbsp", "baking soda", "500 g"), []dosing.Where{{Machine: m}}, dosing.Options{PieceG: 20})
			require.NoError(t, err)
			assert.NotEmpty(t, rows[0].Says)
		}
	}
}

// What a formula says of one machine is said of that one, and of no other.
func TestADoseIsSaidByMachine(t *testing.T) {
	o := dosing.Options{Said: quantity.MustParse("1 tbsp"), SaidFor: map[string]quantity.Amount{"top-loader": quantity.MustParse("2 tbsp")}}
	rows, err := dosing.Table(laundry(t), []dosing.Where{{Machine: machine(t, "top-loader"), Hardness: mgPerL(60)}, {Machine: machine(t, "front-loader"), Hardness: mgPerL(60)}}, o)
	require.NoError(t, err)
	assert.Equal(t, "2 tbsp", rows[0].Said.String())
	assert.Equal(t, "1 tbsp", rows[1].Said.String())
	assert.InEpsilon(t, 2*rows[1].SaidG, rows[0].SaidG, 1e-9)
}
