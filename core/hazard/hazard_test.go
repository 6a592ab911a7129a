package hazard_test

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"keencrock/core/hazard"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/core/wording"
)

// classed is a made-up material that is classed as a whole.
func classed(id string, h material.Hazards) *material.Material {
	h.Source = "clp"
	return &material.Material{ID: id, Name: id, Hazards: h, Tags: material.Dry}
}

func of(parts ...any) *hazard.Mixture {
	m := &hazard.Mixture{}
	for i := 0; i < len(parts); i += 2 {
		in, ok := parts[i].(*material.Material)
		if !ok {
			found, err := material.Shipped().Find(parts[i].(string))
			if err != nil {
				panic(err)
			}
			in = found
		}
		m.Ingredients = append(m.Ingredients, hazard.Ingredient{Material: in, Share: parts[i+1].(float64) / 100})
	}
	return m
}

func screen(m *hazard.Mixture) *hazard.Result { return hazard.Screen(m, material.Shipped()) }

var (
	burns     = classed("burns", material.Hazards{Statements: []string{"H314"}})
	irritates = classed("irritates", material.Hazards{Statements: []string{"H315", "H319"}})
	damages   = classed("damages", material.Hazards{Statements: []string{"H318"}})
	nothing   = classed("nothing", material.Hazards{})
)

// Regulation (EC) 1272/2008, Annex I, tables 3.2.3 (skin) and 3.3.3 (eyes), at and
// below each limit.
func TestSkinAndEyeSumsAtTheirLimits(t *testing.T) {
	for _, c := range []struct {
		what string
		m    *hazard.Mixture
		want []string
	}{
		{"corrosive 5 %", of(burns, 5.0, nothing, 95.0), []string{"H314"}},
		{"corrosive 4.9 %: damages eyes from 3 %, irritates skin from 1 %", of(burns, 4.9, nothing, 95.1), []string{"H318", "H315"}},
		{"corrosive 2 %: irritates both", of(burns, 2.0, nothing, 98.0), []string{"H315", "H319"}},
		{"corrosive 0.9 %: nothing", of(burns, 0.9, nothing, 99.1), nil},
		{"irritant 10 %", of(irritates, 10.0, nothing, 90.0), []string{"H315", "H319"}},
		{"irritant 9.9 %", of(irritates, 9.9, nothing, 90.1), nil},
		{"ten times a corrosive of 1 % and an irritant of none", of(burns, 1.0, nothing, 99.0), []string{"H315", "H319"}},
		{"eye damage 3 %", of(damages, 3.0, nothing, 97.0), []string{"H318"}},
		{"eye damage 2.9 %", of(damages, 2.9, nothing, 97.1), []string{"H319"}},
		{"corrosive 1.5 % and eye damage 1.5 % add up for the eyes", of(burns, 1.5, damages, 1.5, nothing, 97.0), []string{"H318", "H315"}},
		{"10 × 1 % of what damages eyes stays under 10 % with 0 % irritant only below", of(damages, 1.0, irritates, 4.0, nothing, 95.0), []string{"H319"}},
	} {
		t.Run(c.what, func(t *testing.T) { assert.Equal(t, c.want, nilIfEmpty(screen(c.m).Codes())) })
	}
}

func nilIfEmpty(s []string) []string {
	if len(s) == 0 {
		return nil
	}
	return s
}

// Specific concentration limits of Annex VI, table 3: sodium hydroxide burns from 2 %
// and irritates from 0.5 %; acetic acid burns from 25 % and irritates from 10 %;
// hydrogen peroxide damages eyes from 8 %, irritates them from 5 %; percarbonate
// damages eyes from 25 % and irritates from 7.5 % (registration, from memory).
func TestSpecificLimits(t *testing.T) {
	for _, c := range []struct {
		what string
		m    *hazard.Mixture
		want []string
	}{
		{"lye 2 %", of("sodium-hydroxide", 2.0, "water", 98.0), []string{"H314"}},
		{"lye 1 %", of("sodium-hydroxide", 1.0, "water", 99.0), []string{"H315", "H319"}},
		{"lye 0.4 %", of("sodium-hydroxide", 0.4, "water", 99.6), nil},
		{"vinegar of 5 % is not classed", of("white-vinegar", 100.0), nil},
		{"vinegar essence of 25 %", of("vinegar-essence", 100.0), []string{"H314"}},
		{"and half of it irritates", of("vinegar-essence", 50.0, "water", 50.0), []string{"H315", "H319"}},
		{"peroxide 12 %", of("hydrogen-peroxide-12", 100.0), []string{"H318"}},
		{"peroxide 6 %", of("hydrogen-peroxide-6", 100.0), []string{"H319"}},
		{"peroxide 3 %", of("hydrogen-peroxide-3", 100.0), nil},
		{"percarbonate 25 %", of("sodium-percarbonate", 25.0, "table-salt", 75.0), []string{"H318"}},
		{"percarbonate 24 %", of("sodium-percarbonate", 24.0, "table-salt", 76.0), []string{"H319"}},
		{"percarbonate 7 %", of("sodium-percarbonate", 7.0, "table-salt", 93.0), nil},
		{"borax 0.3 %", of("borax", 0.3, "table-salt", 99.7), []string{"H360FD"}},
		{"boron compounds add up", of("borax", 0.2, "boric-acid", 0.15, "table-salt", 99.65), []string{"H360FD"}},
		{"borax 0.25 %", of("borax", 0.25, "table-salt", 99.75), nil},
	} {
		t.Run(c.what, func(t *testing.T) {
			for i := range c.m.Ingredients {
				c.m.Wet = c.m.Wet || c.m.Ingredients[i].Material.Is(material.Wet)
			}
			assert.Equal(t, c.want, nilIfEmpty(screen(c.m).Codes()))
		})
	}
}

// Annex I, 3.1.3.6.1: 100 / ATEmix = Σ ci / ATEi, worked by hand.
func TestAcuteToxicityAddsUp(t *testing.T) {
	a := classed("a", material.Hazards{Statements: []string{"H302"}, ATE: map[string]float64{"oral": 500}})
	b := classed("b", material.Hazards{Statements: []string{"H301"}, ATE: map[string]float64{"oral": 250}})
	r := screen(of(a, 20.0, b, 10.0, nothing, 70.0)) // 100 / (20/500 + 10/250) = 1250
	require.Equal(t, []string{"H302"}, r.Codes())
	assert.InDelta(t, 1250, r.Statements[0].Sum, 1e-9)
	assert.Equal(t, []string{"H301"}, screen(of(b, 100.0)).Codes(), "250 is category 3")
	assert.Empty(t, screen(of(a, 20.0, nothing, 80.0)).Codes(), "100 / (20/500) = 2500 is more than 2000")

	// table 3.1.2: of a category without a figure its point counts, 500 of category 4
	assert.InDelta(t, 1000, screen(of(classed("c", material.Hazards{Statements: []string{"H302"}}), 50.0, nothing, 50.0)).Statements[0].Sum, 1e-9)

	// 3.1.3.6.2.3: of unknown more than a tenth, 100 less the unknown counts
	unknown := classed("unknown", material.Hazards{Unknown: true})
	r = screen(of(a, 20.0, unknown, 30.0, nothing, 50.0)) // 70 / (20/500) = 1750
	require.Equal(t, []string{"H302"}, r.Codes())
	assert.InDelta(t, 1750, r.Statements[0].Sum, 1e-9)
	assert.InDelta(t, 0.3, r.UnknownShare, 1e-12)
}

// Annex I, tables 4.1.1 and 4.1.2, with M-factors.
func TestWaterLifeBySummation(t *testing.T) {
	m10 := classed("m10", material.Hazards{Statements: []string{"H400", "H410"}, M: material.Multipliers{Acute: 10, Chronic: 1}})
	chronic2 := classed("chronic2", material.Hazards{Statements: []string{"H411"}})
	for _, c := range []struct {
		m    *hazard.Mixture
		want []string
	}{
		{of(m10, 2.5, nothing, 97.5), []string{"H400", "H411"}}, // 25 % × M; 10 × 2.5 %
		{of(m10, 2.4, nothing, 97.6), []string{"H412"}},         // 24 %; 24 %; 100 × 2.4 %
		{of(m10, 25.0, nothing, 75.0), []string{"H410"}},
		{of(chronic2, 25.0, nothing, 75.0), []string{"H411"}},
		{of(chronic2, 2.5, nothing, 97.5), []string{"H412"}},
		{of(chronic2, 2.4, nothing, 97.6), nil},
	} {
		assert.Equal(t, c.want, nilIfEmpty(screen(c.m).Codes()))
	}
}

// Annex I, table 3.4.5 and Annex II, 2.8: from 1 % a class, from a tenth a name.
func TestSensitisersAreNamedFromATenth(t *testing.T) {
	for share, want := range map[float64][]string{1: {"H317"}, 0.9: {"EUH208"}, 0.1: {"EUH208"}, 0.09: nil} {
		r := screen(of("lavender-oil", share, "table-salt", 100-share))
		assert.Equal(t, want, nilIfEmpty(r.Codes()), "%g %%", share)
		if want != nil {
			assert.Equal(t, []string{"Lavandula oil"}, r.Sensitisers)
		}
		if share < 1 {
			assert.Equal(t, hazard.NoSignal, r.Signal)
			assert.Empty(t, r.Precautions)
		}
	}
}

// Flash points of ethanol in water by volume, handbook tables from memory: 96 % 17,
// 40 % 26, 10 % 49 °C.
func TestFlashPoints(t *testing.T) {
	byMass := func(v float64) float64 { return v * 0.789 / (v*0.789 + (1-v)*0.998) }
	for v, want := range map[float64]float64{0.96: 17, 0.7: 21, 0.4: 26, 0.2: 36, 0.1: 49} {
		assert.InDelta(t, want, hazard.FlashPoint(byMass(v), false), 0.5)
	}
	assert.True(t, math.IsInf(hazard.FlashPoint(0.02, false), 1))
	assert.InDelta(t, 12, hazard.FlashPoint(1, true), 0.5)

	for alcohol, want := range map[float64][]string{0.7: {"H225"}, 0.33: {"H226"}, 0.05: {"H226"}, 0.02: nil} {
		m := of("water", 100.0)
		m.Wet, m.Alcohol = true, alcohol
		assert.Equal(t, want, nilIfEmpty(screen(m).Codes()), "%g", alcohol)
	}
}

// Annex I, 3.2.3.1.2 with the reserve of Young and others (1988): pH + reserve/12 of
// 14.5 burns. A 5 % lye (pH 14.1, reserve 5) does: 14.1 + 5/12 = 14.5; where it is
// known to burn from its own limits too. A soda solution of pH 11.7 does not.
func TestExtremePHAndWhatStandsBehindIt(t *testing.T) {
	m := of(nothing, 100.0)
	m.Wet, m.PHKnown = true, true
	for _, c := range []struct {
		ph, reserve float64
		burns       bool
	}{{14.1, 5, true}, {13.5, 3, false}, {11.7, 17, false}, {13, 20, true}, {0.5, -13, true}, {1.8, -5, false}} {
		m.PH, m.Reserve = quantity.Exactly(c.ph), c.reserve
		r := screen(m)
		assert.Equal(t, c.burns, r.Has("H314"), "pH %g", c.ph)
		if !c.burns {
			require.Len(t, r.Cleared, 1, "pH %g", c.ph)
			assert.Contains(t, r.Cleared[0].Because, "asks for a test")
		}
	}
	m.PH, m.Reserve = quantity.Exactly(11.4), 30
	assert.Empty(t, screen(m).Cleared, "not extreme")
}

// What is neutralised is counted no more: sulfonic acid becomes its salt, soda in a
// sour mixture is gone, and a pH of 7 leaves no lye.
func TestWhatIsThereCounts(t *testing.T) {
	m := of("sulfonic-acid", 10.0, "sodium-hydroxide", 1.25, "water", 88.75)
	m.Wet, m.PH, m.PHKnown = true, quantity.Exactly(7), true
	r := screen(m)
	assert.Equal(t, []string{"H318"}, r.Codes(), "the salt damages eyes, the acid would burn")
	assert.Equal(t, "sodium alkylbenzenesulfonate", r.Statements[0].From[0].Name)
	m.PHKnown = false
	assert.True(t, screen(m).Has("H314"), "of a pH that is not known nothing is held to be neutralised")

	soda := of("soda-ash", 15.0, "water", 85.0)
	soda.Wet, soda.PHKnown = true, true
	soda.PH = quantity.Exactly(11.4)
	assert.Equal(t, []string{"H319"}, screen(soda).Codes())
	soda.PH = quantity.Exactly(8)
	assert.Empty(t, screen(soda).Codes(), "bicarbonate is not classed")
}

// Labels: what a word, a symbol and a statement leave out (Articles 26 and 28, Annex
// II, 3.1 and 3.2).
func TestElementsOfTheLabel(t *testing.T) {
	r := screen(of(damages, 5.0, irritates, 20.0, nothing, 75.0))
	assert.Equal(t, []string{"H318", "H315"}, r.Codes())
	assert.Equal(t, hazard.Danger, r.Signal)
	assert.Equal(t, []string{"GHS05"}, r.Pictograms, "no exclamation mark for skin and eyes beside the corrosion")
	assert.False(t, r.ChildProof)

	r = screen(of(burns, 10.0, nothing, 90.0))
	assert.True(t, r.ChildProof && r.TactileWarning)
	assert.LessOrEqual(t, len(r.Precautions), 6)
	assert.Contains(t, r.Precautions, "P305+P351+P338")

	// how to dispose of it stands wherever a class's table has P501, and for the public never
	// gives way to another (Article 28(2)); who brings it is named (Article 18(3)(b))
	for _, c := range []struct {
		m        *hazard.Mixture
		disposal bool
		named    []string
	}{
		{of(burns, 10.0, nothing, 90.0), true, []string{"burns"}},
		{of(damages, 5.0, nothing, 95.0), false, []string{"damages"}},
		{of(irritates, 20.0, nothing, 80.0), false, nil},
		{of("borax", 5.0, nothing, 95.0), true, []string{"Borax"}},
		{of("lavender-oil", 2.0, nothing, 98.0), true, []string{"Lavender oil"}},
		{of(classed("a", material.Hazards{Statements: []string{"H302"}}), 90.0, nothing, 10.0), true, []string{"a"}},
	} {
		r := screen(c.m)
		assert.Equal(t, c.disposal, slices.Contains(r.Precautions, "P501"), "%v", r.Codes())
		assert.Equal(t, c.named, r.Named, "%v", r.Codes())
		assert.LessOrEqual(t, len(r.Precautions), 6)
	}

	r = screen(of("borax", 5.0, "washing-soda", 60.0, "table-salt", 35.0))
	assert.Equal(t, []string{"H360FD", "H319"}, r.Codes())
	assert.Equal(t, []string{"GHS07", "GHS08"}, r.Pictograms)

	bleach := of("chlorine-bleach", 100.0)
	bleach.Wet = true
	assert.Contains(t, screen(bleach).Codes(), "EUH206", "Annex II, 2.7: more than 1 % active chlorine")

	assert.Equal(t, hazard.NoSignal, screen(of("sodium-bicarbonate", 50.0, "table-salt", 50.0)).Signal)
}

func TestWhatIsNotKnownIsNamed(t *testing.T) {
	own := &material.Material{ID: "own-x", Name: "Something", Tags: material.Stranger | material.Dry}
	r := screen(of(own, 12.0, nothing, 88.0))
	require.Len(t, r.Unknown, 1)
	assert.Equal(t, "Something", r.Unknown[0].Name)
	assert.InDelta(t, 0.12, r.UnknownShare, 1e-12)
	assert.Empty(t, r.Codes(), "nothing is claimed of it")

	r = screen(of(classed("suspect", material.Hazards{Statements: []string{"H351"}}), 2.0, nothing, 98.0))
	require.Len(t, r.Notes, 1)
	assert.Contains(t, r.Notes[0], "H351")
}

func TestScoopsAtTheirFullest(t *testing.T) {
	m := of(damages, 2.0, nothing, 98.0)
	m.Ingredients[0].High = 0.035
	r := screen(m)
	assert.Equal(t, []string{"H319"}, r.Codes())
	require.Len(t, r.Possible, 1)
	assert.Equal(t, "H318", r.Possible[0].Code)
}

// What would bring a class under its limit does.
func TestLessBringsItUnder(t *testing.T) {
	all := material.Shipped().All()
	rapid.Check(t, func(t *rapid.T) {
		m := &hazard.Mixture{}
		total := 0.0
		for i := range rapid.IntRange(1, 8).Draw(t, "materials") {
			in := rapid.SampledFrom(all).Draw(t, "material")
			if i > 0 && in.ID == m.Ingredients[0].Material.ID {
				continue
			}
			g := rapid.Float64Range(0.1, 100).Draw(t, "g")
			m.Ingredients = append(m.Ingredients, hazard.Ingredient{Material: in, Share: g})
			total += g
		}
		for i := range m.Ingredients {
			m.Ingredients[i].Share /= total
		}
		r := screen(m)
		assert.LessOrEqual(t, r.UnknownShare, 1+1e-9)
		english, err := wording.Find(wording.English)
		require.NoError(t, err)
		for _, f := range r.Statements {
			require.NotEmpty(t, english.Statement(f.Code), f.Code)
			require.NotEmpty(t, f.Because)
			if f.Less == nil || f.Code == "H272" {
				continue
			}
			less := &hazard.Mixture{}
			left := f.Less.Share
			for _, in := range m.Ingredients {
				if in.Material == f.Less.Material {
					take := min(in.Share, left)
					in.Share -= take
					left -= take
				}
				in.Share /= 1 - f.Less.Share
				less.Ingredients = append(less.Ingredients, in)
			}
			require.Less(t, left, 1e-9, "no more is taken than there is")
			require.False(t, screen(less).Has(f.Code), "%s: %s with %.3g less of %s", f.Code, f.Because, f.Less.Share, f.Less.Material.Name)
		}
		for _, p := range r.Precautions {
			require.NotEmpty(t, english.Statement(p), p)
		}
	})
}

func BenchmarkScreenOfFifteen(b *testing.B) {
	m := of("soda-ash", 30.0, "borax", 5.0, "sodium-percarbonate", 20.0, "citric-acid", 5.0, "table-salt", 10.0, "soap-flakes", 5.0, "sodium-sulfate", 5.0,
		"trisodium-citrate", 5.0, "sodium-metasilicate", 2.0, "lavender-oil", 0.5, "lemon-oil", 0.5, "sodium-lauryl-sulfate", 4.0, "enzyme-blend", 1.0, "cornstarch", 4.0, "zeolite", 3.0)
	for b.Loop() {
		screen(m)
	}
}

func TestLinesOfOneMaterialCountTogether(t *testing.T) {
	assert.Equal(t, []string{"H317"}, screen(of("lavender-oil", 0.6, "table-salt", 98.8, "lavender-oil", 0.6)).Codes())
}

// What is thinned with what is not classed meets no class it did not meet before, and no
// larger share of any limit.
func TestThinningAddsNoHazard(t *testing.T) {
	all := material.Shipped().All()
	grave := map[string]int{"": 0, "warning": 1, "danger": 2}
	rapid.Check(t, func(t *rapid.T) {
		m := &hazard.Mixture{}
		total := 0.0
		for range rapid.IntRange(1, 6).Draw(t, "materials") {
			in := hazard.Ingredient{Material: rapid.SampledFrom(all).Draw(t, "material"), Share: rapid.Float64Range(0.1, 10).Draw(t, "g")}
			total += in.Share
			m.Ingredients = append(m.Ingredients, in)
		}
		thin := &hazard.Mixture{}
		by := rapid.Float64Range(0.05, 1).Draw(t, "thinned to")
		for i := range m.Ingredients {
			m.Ingredients[i].Share /= total
			in := m.Ingredients[i]
			in.Share *= by
			thin.Ingredients = append(thin.Ingredients, in)
		}
		thin.Ingredients = append(thin.Ingredients, hazard.Ingredient{Material: nothing, Share: 1 - by})
		before, after := screen(m), screen(thin)
		require.LessOrEqual(t, grave[after.Signal.String()], grave[before.Signal.String()])
		require.LessOrEqual(t, after.UnknownShare, before.UnknownShare+1e-12)
		for _, p := range before.Precautions {
			require.NotEmpty(t, p)
		}
		if len(before.Statements) == 0 {
			require.Empty(t, after.Statements)
		}
	})
}

// Limits as searches use them are those of the screen: a mixture they pass is passed.
func TestLimitsForSearchesHoldOnTheScreen(t *testing.T) {
	lib := material.Shipped()
	all := lib.All()
	rapid.Check(t, func(t *rapid.T) {
		m := &hazard.Mixture{}
		left := 1.0
		for range rapid.IntRange(1, 8).Draw(t, "materials") {
			share := rapid.Float64Range(0, 0.3).Draw(t, "share") * left
			left -= share
			m.Ingredients = append(m.Ingredients, hazard.Ingredient{Material: rapid.SampledFrom(all).Draw(t, "material"), Share: share})
		}
		m.Ingredients = append(m.Ingredients, hazard.Ingredient{Material: nothing, Share: left})
		r := screen(m)
		for _, l := range hazard.LimitsOf("H314", "H318", "H319", "H315", "H335", "H302", "H360FD", "H272") {
			sum := 0.0
			for _, in := range m.Ingredients {
				sum += in.Share * l.Weight(in.Material, lib)
			}
			if sum < 1 && r.UnknownShare == 0 {
				require.False(t, r.Has(l.Code), "%s at %g of its limit", l.Code, sum)
			}
		}
	})
}
