package safety_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/core/safety"
)

func mixture(t testing.TB, wet bool, names ...string) *safety.Mixture {
	t.Helper()
	m := &safety.Mixture{Wet: wet, UsedOn: "surfaces", Keeps: true}
	for _, name := range names {
		found, err := material.Shipped().Find(name)
		require.NoError(t, err)
		m.Ingredients = append(m.Ingredients, safety.Ingredient{Material: found, Share: 1 / float64(len(names))})
	}
	return m
}

func severities(cautions []safety.Caution) map[string]string {
	out := map[string]string{}
	for _, c := range cautions {
		out[c.Code] = c.Severity.String()
	}
	return out
}

// What must not meet, each a commonly known hazard (common practice).
func TestWhatMustNotMeet(t *testing.T) {
	for _, c := range []struct {
		wet            bool
		names          []string
		code, severity string
	}{
		{true, []string{"chlorine bleach", "vinegar"}, "bleach-and-acid", "stop"},
		{false, []string{"chlorine bleach", "citric acid"}, "bleach-and-acid", "stop"},
		{true, []string{"chlorine bleach", "ammonia"}, "bleach-and-ammonia", "stop"},
		{true, []string{"chlorine bleach", "ethanol"}, "bleach-and-alcohol", "stop"},
		{true, []string{"hydrogen peroxide", "vinegar"}, "peroxide-and-vinegar", "stop"},
		{false, []string{"oxygen bleach", "lavender oil"}, "oxidiser-and-oil", "warn"},
		{false, []string{"oxygen bleach", "soap flakes"}, "oxidiser-and-organic", "note"},
		{true, []string{"liquid soap", "vinegar"}, "acid-and-soap", "warn"},
		{false, []string{"soap flakes", "citric acid"}, "acid-and-soap", "note"},
		{true, []string{"vinegar", "baking soda"}, "gas-in-closed-vessel", "stop"},
		{false, []string{"citric acid", "baking soda"}, "acid-and-soda-wet", "note"},
		{false, []string{"washing soda"}, "alkali-and-aluminium", "note"},
		{true, []string{"vinegar", "water"}, "acid-and-stone", "note"},
		{false, []string{"citric acid"}, "acid-dust", "note"},
		{false, []string{"washing soda"}, "soda-dust", "note"},
		{true, []string{"sulfonic acid", "water"}, "burns-skin", "stop"},
		{false, []string{"lye"}, "burns-skin", "stop"},
		{false, []string{"borax"}, "borax-and-children", "warn"},
		{false, []string{"epsom salt", "soap flakes"}, "magnesium-and-soap", "warn"},
		{true, []string{"isopropanol", "water"}, "flammable", "warn"},
		{false, []string{"baking soda", "lavender oil"}, "scent-and-small-ones", "note"},
	} {
		assert.Equal(t, c.severity, severities(safety.Evaluate(mixture(t, c.wet, c.names...)))[c.code], "%v: %s", c.names, c.code)
	}
}

func TestHarmlessMixturesGetNoStop(t *testing.T) {
	for _, names := range [][]string{{"soap flakes", "washing soda", "borax", "baking soda"}, {"cornstarch", "baking soda"}, {"table salt", "lavender oil"}} {
		for _, c := range safety.Evaluate(mixture(t, false, names...)) {
			assert.NotEqual(t, safety.Stop, c.Severity, "%v: %s", names, c.Code)
		}
	}
	assert.Empty(t, safety.Evaluate(mixture(t, false, "table salt")))
}

func TestTheGravestComesFirst(t *testing.T) {
	found := safety.Evaluate(mixture(t, true, "vinegar", "chlorine bleach", "liquid soap", "lemon oil", "baking soda"))
	require.NotEmpty(t, found)
	for i := 1; i < len(found); i++ {
		assert.GreaterOrEqual(t, found[i-1].Severity, found[i].Severity)
	}
	assert.Equal(t, safety.Stop, found[0].Severity)
	assert.Equal(t, "Chlorine bleach with white vinegar gives off chlorine, a poisonous gas, at once.", found[0].Text)
}

func TestConditionsNarrowARule(t *testing.T) {
	m := mixture(t, false, "washing soda")
	assert.NotContains(t, severities(safety.Evaluate(m)), "alkali-on-wool")
	m.UsedOn = "laundry"
	assert.Contains(t, severities(safety.Evaluate(m)), "alkali-on-wool")
	m = mixture(t, true, "water", "liquid soap")
	assert.NotContains(t, severities(safety.Evaluate(m)), "nothing-keeps-it")
	m.Keeps = false
	assert.Contains(t, severities(safety.Evaluate(m)), "nothing-keeps-it")
	m = mixture(t, true, "water", "jaggery", "citrus peel")
	m.Ferments = true
	assert.Equal(t, "stop", severities(safety.Evaluate(m))["ferment-gas"])
}

// Each caution says why it is said, and one that goes by an amount from which on.
func TestACautionSaysWhyItIsSaid(t *testing.T) {
	m := mixture(t, true, "citric acid", "liquid soap", "baking soda")
	m.Amounts = &safety.Amounts{Protonated: 0.6, SodaSpent: 0.2, GasMLPerKg: 9000}
	by := map[string]string{}
	for _, c := range safety.Evaluate(m) {
		by[c.Code] = c.Basis
	}
	assert.Equal(t, "Soap's apparent pKa of 8, from memory. It is said from 50 % on.", by["acid-and-soap"])
	assert.Equal(t, "382 ml of gas to a gram (stoichiometry). It is said from 50 ml a kilogram on.", by["gas-in-closed-vessel"])
	for code, says := range by {
		assert.Regexp(t, `^[\p{Lu}0-9].*\.$`, says, code)
	}
}

// What must hold of every rule, whatever it says.
func TestEveryRuleCanBeMetAndNamesItsMaterials(t *testing.T) {
	all := material.Shipped().All()
	stranger, err := (&material.Own{ID: "own-rottenstone", Name: "Rottenstone", Form: "powder", Function: "abrasive"}).Material(material.Shipped())
	require.NoError(t, err)
	all = append(all, stranger)
	met := map[string]bool{}
	for _, wet := range []bool{true, false} {
		for _, used := range []string{"laundry", "dishes", "surfaces", "toilet", "skin"} {
			damp := used != "toilet"
			for _, ferments := range []bool{false, true} {
				for _, ph := range []safety.PH{{}, {Range: quantity.Exactly(13), Known: true}, {Range: quantity.Exactly(1), Known: true}, {Range: quantity.Exactly(8), Known: true}} {
					for _, amounts := range []*safety.Amounts{nil, {Protonated: 0.9, SodaSpent: 0.9, GasMLPerKg: 9000, SoapLost: 0.9, SpentInBowl: 0.2}, {Wetting: 0.02}} {
						m := &safety.Mixture{Wet: wet, UsedOn: used, Sprayed: !ferments, Ferments: ferments, Amounts: amounts, Bottle: ph, InUse: ph, Damp: damp, Boiling: true, Drain: true, LyeHeatsK: 60}
						for _, x := range all {
							if used == "skin" && x.Is(material.Acid) || used == "dishes" && x.Is(material.Peroxide) {
								continue
							}
							m.Ingredients = append(m.Ingredients, safety.Ingredient{Material: x, Share: 1})
						}
						for _, c := range safety.Evaluate(m) {
							met[c.Code] = true
							assert.NotContains(t, c.Text, "{", c.Code)
							if c.Code != "extreme-ph" { // where no acid or alkali is known to make it
								assert.NotEmpty(t, c.Materials, c.Code)
							}
							assert.NotEmpty(t, c.Of, c.Code)
						}
					}
				}
			}
		}
	}
	for _, r := range safety.Rules() {
		assert.True(t, met[r.Code], "nothing meets %s", r.Code)
	}
}

// Where amounts are known a caution says how much, and weighs it: over 10 % of
// the soap turned back is a warning, over 50 % a stop.
func TestAmountsDecideHowGraveItIs(t *testing.T) {
	for protonated, want := range map[float64]string{0.96: "stop", 0.3: "warn", 0.04: "note"} {
		for _, wet := range []bool{true, false} {
			m := mixture(t, wet, "soap flakes", "citric acid")
			m.Amounts = &safety.Amounts{Protonated: protonated}
			found := safety.Evaluate(m)
			assert.Equal(t, want, severities(found)["acid-and-soap"])
			for _, c := range found {
				if c.Code == "acid-and-soap" {
					assert.Contains(t, c.Text, fmt.Sprintf("%.0f %%", 100*protonated))
					assert.Equal(t, !wet, strings.HasPrefix(c.Text, "Harmless dry"), "the same is said otherwise of a jar and of a pot")
				}
			}
		}
	}
	m := mixture(t, true, "soap flakes", "citric acid")
	m.Amounts = &safety.Amounts{}
	assert.NotContains(t, severities(safety.Evaluate(m)), "acid-and-soap", "none of it is turned")
}
