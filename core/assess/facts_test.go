package assess_test

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"keencrock/core/assess"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

// judged is a good in one line of a table: how long it keeps and by which class, which
// statements it carries, which cautions must be there and which must not.
type judged struct {
	kind     formula.Kind
	said     string
	days     int
	class    string
	codes    []string // all statements; nil for those that are not looked at
	found    []string
	notFound []string
	why      string // the source
}

var none = []string{}

// Goods judged by the facts of their bottle. Regulations are named; TS is common practice,
// from memory.
var judgedGoods = []judged{
	// alkali keeps where it lasts: pH 10 by ISO 29621, and enough behind it
	{"hand-soap", "15 g liquid soap, 500 g water", 14, "wet-mild", none, []string{"nothing-keeps-it"}, []string{"extreme-ph"}, "TS: thin soap water keeps days to weeks"},
	{"hand-soap", "5 g liquid soap, 500 g water", 14, "wet-mild", none, nil, nil, "TS"},
	{"hand-soap", "15 g liquid soap, 500 g water, 1 g potassium sorbate", 14, "wet-mild", none, []string{"preservative-idle"}, nil, "sorbic acid, pKa 4.76 (CRC)"},
	{"hand-soap", "100 g liquid soap, 300 g water", 14, "wet-mild", none, nil, nil, "TS: one to three is thin"},
	{"hand-soap", "150 g liquid soap, 850 g water, 5 g lavender oil", 14, "wet-mild", nil, nil, nil, "TS: scent keeps nothing"},
	{"hand-soap", "500 g liquid soap", 365, "wet-soap", []string{"H319"}, nil, []string{"nothing-keeps-it"}, "TS"},
	{"spray", "30 g grated soap, 1 l water", 14, "wet-mild", nil, nil, nil, "TS"},
	{"laundry-liquid", "1 gallon water, 1/2 cup washing soda, 1 cup liquid soap", 365, "wet-strong", none, []string{"extreme-ph"}, []string{"burning-alkali", "nothing-keeps-it"}, "ISO 29621: pH above 10"},
	{"laundry-liquid", "1 gallon water, 1/2 cup washing soda, 1/2 cup borax, 100 g grated soap", 180, "wet-alkaline", nil, []string{"borax-and-children"}, []string{"nothing-keeps-it"}, "TS"},
	{"other", "1 l water, 100 g washing soda", 365, "wet-strong", none, nil, []string{"burning-alkali"}, "ISO 29621"},
	{"other", "1 l water, 0.2 g washing soda", 14, "wet-mild", none, nil, nil, "pH 10.6 with a millimole behind it"},
	{"spray", "1 l water, 30 g baking soda", 14, "wet-mild", none, nil, nil, "closed, bicarbonate stands at pH 8.3"},
	{"spray", "1 l water, 5 g baking soda", 14, "wet-mild", none, nil, nil, "the same, thinner"},
	{"other", "1 l water, 40 g borax", 14, "wet-mild", nil, []string{"borax-and-children"}, nil, "pH 9.2 (NIST)"},
	{"other", "900 g water, 100 g ammonia water", 365, "wet-strong", nil, nil, nil, "pH above 11, a tenth of a mole of it"},
	// peroxide and bleach
	{"spray", "1 l water, 50 g sodium percarbonate", 1, "peroxide-spent", nil, []string{"peroxide-closed"}, nil, "TS: mixed when it is used"},
	{"spray", "500 g hydrogen peroxide 3 %, 500 g water", 30, "with-peroxide", none, nil, nil, "TS"},
	{"spray", "500 g hydrogen peroxide 3 %, 50 g baking soda", 1, "peroxide-spent", nil, nil, nil, "TS: alkaline peroxide takes itself apart"},
	{"spray", "900 g water, 100 g chlorine bleach", 1, "bleach-thinned", nil, []string{"bleach-alone"}, nil, "TS: thinned bleach is made each day"},
	{"spray", "500 g chlorine bleach", 90, "with-bleach", []string{"H314", "H400", "H411", "EUH206"}, []string{"burning-alkali"}, nil, "TS; CLP Annex VI"},
	// slow goods
	{"ferment", "100 g jaggery, 300 g citrus peel, 1 l water", 365, "ferment", none, []string{"ferment-gas"}, nil, "TS: ripe and sour about a year"},
	{"ferment", "1 kg fruit scraps, 3 l water, 300 g brown sugar", 365, "ferment", nil, []string{"ferment-gas"}, nil, "TS"},
	{"laundry-liquid", "200 g soap nuts, 500 g water, 500 g peel ferment", 365, "ferment", nil, nil, nil, "TS: soap nut in a sour ferment keeps as it does"},
	{"soap-nut-extract", "200 g soap nuts, 1 l water", 10, "soap-nut", nil, nil, nil, "TS"},
	{"infused-vinegar", "300 g citrus peel, 1 l white vinegar", 365, "infused-vinegar", nil, nil, nil, "TS; 21 CFR 114"},
	{"dish-gel", "400 g lemon, 100 g table salt, 100 g vinegar", 7, "wet-perishable", nil, nil, nil, "TS: raw fruit"},
	{"spray", "500 g white vinegar, 500 g water", 365, "wet-strong", none, []string{"acid-after-bleach"}, []string{"burning-acid"}, "pH 2.5"},
	{"spray", "700 g ethanol, 300 g water", 730, "with-alcohol", nil, []string{"flammable"}, nil, "ISO 29621: 20 % of ethanol"},
	{"other", "300 g table salt, 700 g water", 365, "wet-strong", none, nil, nil, "water activity under 0.85, 21 CFR 110"},
	// dry
	{"laundry-powder", "500 g washing soda, 300 g grated soap", 730, "dry", nil, nil, []string{"extreme-ph"}, "TS"},
	{"toilet-bomb", "200 g baking soda, 100 g citric acid", 270, "effervescent", nil, nil, []string{"extreme-ph"}, "TS"},
	// soap of oil and lye: 189 mg KOH to a gram of olive oil (handbook, from memory)
	{"other", "1 kg olive oil, 128 g lye, 300 g water", 730, "bar-soap", nil, []string{"burns-while-made", "lye-heats-water", "lye-and-hot-oil"}, []string{"burns-skin"}, "TS: 5 % superfat"},
	{"other", "1 kg olive oil, 250 g lye, 300 g water", 730, "bar-soap", []string{"H314"}, []string{"burns-skin"}, nil, "nearly twice the lye that the oil takes"},
	// only what another has taken is taken off
	{"other", "10 g lye, 90 g water", 365, "wet-strong", []string{"H314"}, []string{"burns-skin", "lye-heats-water"}, []string{"burns-while-made"}, "CLP Annex VI: from 5 %"},
	{"other", "150 g trisodium phosphate, 850 g water", 365, "wet-strong", []string{"H315", "H319"}, []string{"extreme-ph"}, []string{"burning-alkali"}, "15 % of it, pH 12.6"},
	{"other", "100 g sulfamic acid, 900 g water", 365, "wet-strong", []string{"H315", "H319"}, []string{"extreme-ph"}, nil, "a tenth of it, CLP table 3.2.3"},
	{"other", "35 g oxalic acid, 965 g water", 365, "wet-strong", []string{"H318"}, []string{"eye-damage", "poisonous"}, nil, "3.5 % of it, CLP table 3.3.3"},
	{"other", "250 g citric acid, 1 l water", 365, "wet-strong", []string{"H319", "H335"}, []string{"extreme-ph"}, []string{"burning-acid"}, "a fifth of it, of a limit of 10 %"},
	{"other", "200 g citric acid, 300 g baking soda, 2 l water", 14, "wet-mild", none, nil, []string{"extreme-ph"}, "soda has taken the acid"},
	{"other", "100 g sulfamic acid, 100 g baking soda, 900 g water", 14, "wet-mild", none, nil, []string{"extreme-ph"}, "1.03 mol of acid, 1.19 of soda"},
	{"other", "35 g oxalic acid, 90 g baking soda, 900 g water", 14, "wet-mild", none, nil, nil, "0.78 mol of acid, 1.07 of soda"},
	{"other", "5 g soda ash, 1 l water", 365, "wet-strong", none, nil, []string{"burning-alkali"}, "pH 11.3"},
}

func TestGoodsAreJudgedByTheFactsOfTheirBottle(t *testing.T) {
	for _, c := range judgedGoods {
		t.Run(c.said, func(t *testing.T) {
			a := assess.Formula(spoken(t, c.kind, c.said), material.Shipped(), assess.Options{})
			assert.Equal(t, c.days, a.Class.Days, "%s: %s (%s)", a.Class.Code, a.Class.Why, c.why)
			assert.Equal(t, c.class, a.Class.Code, c.why)
			if c.codes != nil {
				assert.Equal(t, c.codes, append([]string{}, a.Hazard.Codes()...), c.why)
			}
			by := cautionsByCode(a)
			for _, code := range c.found {
				assert.Contains(t, by, code, c.why)
			}
			for _, code := range c.notFound {
				assert.NotContains(t, by, code, c.why)
			}
		})
	}
}

// Cooked with salt and acid a fruit keeps longer than raw; said by a step, a word of the
// method, or of the line.
func TestCookingIsSeenWhereverItIsSaid(t *testing.T) {
	for what, cook := range map[string]func(*formula.Formula){
		"a step":     func(f *formula.Formula) { f.Steps = []formula.Step{{Kind: formula.Heat}} },
		"the method": func(f *formula.Formula) { f.Method = "Blend it all and simmer for five minutes." },
		"the line":   func(f *formula.Formula) { f.Lines[0].Note = "cooked until soft" },
	} {
		f := spoken(t, "dish-gel", "400 g lemon, 100 g table salt, 100 g vinegar")
		cook(f)
		a := assess.Formula(f, material.Shipped(), assess.Options{})
		assert.Equal(t, "sour-salted", a.Class.Code, what)
		f.Lines[1].Amount = quantity.MustParse("10 g")
		assert.Equal(t, "wet-perishable", assess.Formula(f, material.Shipped(), assess.Options{}).Class.Code, "with less than a twentieth of salt, %s", what)
	}
}

// What was measured goes before what is usual of a ferment; what it cannot be is said, and
// lifts nothing.
func TestAMeasurementSpeaksForWhatItCanBe(t *testing.T) {
	measured := func(kind formula.Kind, said string, ph float64) *assess.Assessment {
		f := spoken(t, kind, said)
		f.MeasuredPH = &formula.MeasuredPH{PH: ph, With: formula.WithMeter}
		return assess.Formula(f, material.Shipped(), assess.Options{})
	}
	const peel = "100 g jaggery, 300 g citrus peel, 1 l water"
	assert.Equal(t, "ferment", measured("ferment", peel, 3.6).Class.Code)
	assert.Zero(t, measured("ferment", peel, 3.6).Keeping.ReadyDays, "it is ripe")
	assert.NotEqual(t, "ferment", measured("ferment", peel, 5.2).Class.Code, "21 CFR 114: pH 4.6")

	lye := measured("other", "10 g lye, 90 g water", 9)
	by := cautionsByCode(lye)
	assert.Equal(t, "warn", by["measured-otherwise"])
	assert.Equal(t, "stop", by["burns-skin"], "a slip of the strip lifts no stop")
	assert.True(t, lye.Hazard.Has("H314"))
	assert.NotContains(t, cautionsByCode(measured("other", "10 g lye, 90 g water", 13.8)), "measured-otherwise")
	assert.NotContains(t, cautionsByCode(measured("other", "1 l water, 100 g washing soda", 11.2)), "measured-otherwise")
	reckoned := assess.Formula(spoken(t, "other", "900 g water, 100 g citric acid"), material.Shipped(), assess.Options{}).Bottle.PH
	for over, otherwise := range map[float64]bool{1.4: false, 1.7: true} {
		_, says := cautionsByCode(measured("other", "900 g water, 100 g citric acid", math.Round(100*(reckoned.High+over))/100))["measured-otherwise"]
		assert.Equal(t, otherwise, says, "%g over what is worked out: a strip read badly is off by a unit (from memory)", over)
	}

	atTheLine := measured("other", "6 g lye, 94 g water", 11.5)
	assert.True(t, atTheLine.Hazard.Has("H314"))
	assert.Contains(t, cautionsByCode(atTheLine), "burns-skin", "the line is the same on the label and here")
}

// A trace that only smells dates nothing; more of it, or what does more, does.
func TestATraceOfScentDatesNothing(t *testing.T) {
	keeps := func(said string) *assess.Assessment {
		return assess.Formula(spoken(t, "dish-powder", said), material.Shipped(), assess.Options{})
	}
	trace := keeps("8 kg soda ash, 7 g lemon oil")
	assert.Equal(t, 730, trace.Keeping.Days)
	assert.Equal(t, []string{"Lemon oil"}, trace.Keeping.FadesFirst)
	assert.Empty(t, keeps("1 kg soda ash, 10 g lemon oil").Keeping.FadesFirst, "one per cent is no trace")
}

// What fat and lye make of each other: 1 kg of olive oil takes 134.8 g of lye (189 mg KOH to
// a gram, handbooks; 0.189 × 39.997 / 56.106), so that 128 g leave a twentieth of it.
func TestSoapIsMadeOfFatAndLye(t *testing.T) {
	soap := func(said string) *assess.Assessment {
		return assess.Formula(spoken(t, "other", said), material.Shipped(), assess.Options{Water: &assess.Water{}})
	}
	a := soap("1 kg olive oil, 128 g lye, 300 g water")
	s := a.Saponified
	require.NotNil(t, s)
	assert.InDelta(t, 0.05, s.FatLeft.Value, 0.003)
	assert.Zero(t, s.LyeLeftG.Value)
	assert.Equal(t, [2]int{28, 42}, s.CureDays)
	assert.Equal(t, 28, a.Keeping.ReadyDays)
	assert.InDelta(t, 128/39.997*44.5, s.HeatKJ-s.SoapMol*50, 1, "44.5 kJ to a mole dissolved (CRC)")
	assert.InDelta(t, 40, soap("1 kg olive oil, 175 g lye, 300 g water").Saponified.LyeLeftG.Value, 1)
	liquid := soap("1 kg olive oil, 180 g potash lye, 3 kg water")
	require.NotNil(t, liquid.Saponified)
	assert.False(t, liquid.Saponified.Sets(), "potash makes no bar")
	assert.Nil(t, soap("1 kg olive oil, 100 g washing soda").Saponified)
	assert.Nil(t, soap("100 g lye, 1 kg mineral oil").Saponified, "mineral oil is no fat")
}

// Before a remedy is told it was tried: what it says takes the statement off, in grams of
// the formula as it is written.
func TestEveryRemedyWorks(t *testing.T) {
	tried := 0
	tb := t
	try := func(t require.TestingT, kind formula.Kind, said string) {
		f := spoken(tb, kind, said)
		a := assess.Formula(f, material.Shipped(), assess.Options{})
		if a.Hazard == nil {
			return
		}
		for _, s := range a.Hazard.Statements {
			if s.Less == nil {
				continue
			}
			changed := *f
			changed.Lines = slices.Clone(f.Lines)
			poured := 0.0
			for i, l := range a.Resolved.Lines {
				if l.Material == s.Less.Material {
					poured += a.Resolved.Lines[i].MassG.Value
				}
			}
			for i, l := range a.Resolved.Lines {
				if l.Material != s.Less.Material {
					continue
				}
				if share := s.Less.UnderG / poured; share > 0 {
					changed.Lines[i].Amount = quantity.MustParse(fmt.Sprintf("%.6f g", l.MassG.Value*share))
				} else {
					changed.Lines[i].Amount = quantity.Amount{}
				}
			}
			tried++
			assert.False(t, assess.Formula(&changed, material.Shipped(), assess.Options{}).Hazard.Has(s.Code), "%s: %s under %g g leaves %s", said, s.Less.Material.Name, s.Less.UnderG, s.Code)
		}
	}
	try(t, "laundry-powder", "200 g borax, 600 g washing soda, 100 g soap flakes")
	names := []string{"borax", "boric acid", "washing soda", "citric acid", "sodium metasilicate", "sodium percarbonate", "lavender oil", "oxalic acid", "table salt", "baking soda", "isothiazolinone"}
	rapid.Check(t, func(rt *rapid.T) {
		var lines []string
		if rapid.Bool().Draw(rt, "wet") {
			lines = append(lines, "800 g water")
		}
		for _, name := range names {
			if g := rapid.IntRange(-200, 200).Draw(rt, name); g > 0 {
				lines = append(lines, fmt.Sprintf("%d g %s", g, name))
			}
		}
		if len(lines) > 1 {
			try(rt, "other", strings.Join(lines, ", "))
		}
	})
	assert.Positive(t, tried)
}

// More soap never keeps less long, more reserve never shorter, and more water never longer
// where nothing preserves it.
func TestKeepingMovesOneWay(t *testing.T) {
	tb := t
	days := func(said string) int {
		return assess.Formula(spoken(tb, "hand-soap", said), material.Shipped(), assess.Options{}).Class.Days
	}
	rapid.Check(t, func(rt *rapid.T) {
		soap := rapid.IntRange(1, 900).Draw(rt, "soap")
		more := rapid.IntRange(1, 400).Draw(rt, "more")
		soda := rapid.IntRange(0, 60).Draw(rt, "soda")
		beside := fmt.Sprintf("1 l water, %d g liquid soap", soap)
		if soda > 0 {
			beside += fmt.Sprintf(", %d g soda ash", soda)
		}
		now := days(beside)
		assert.GreaterOrEqual(rt, days(strings.Replace(beside, fmt.Sprintf("%d g liquid", soap), fmt.Sprintf("%d g liquid", soap+more), 1)), now, "more soap: %s", beside)
		assert.GreaterOrEqual(rt, days(beside+fmt.Sprintf(", %d g soda ash", more)), now, "more soda: %s", beside)
		assert.LessOrEqual(rt, days(beside+fmt.Sprintf(", %d g water", 10*more)), now, "more water: %s", beside)
	})
}
