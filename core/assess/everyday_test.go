package assess_test

import (
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/assess"
	"keencrock/core/formula"
	"keencrock/core/listener"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/core/safety"
)

// everyday reads the goods that are said in package formula's file.
func everyday(t *testing.T) map[string]*formula.Formula {
	t.Helper()
	file, err := os.ReadFile("../listener/testdata/goods.txt")
	require.NoError(t, err)
	goods := map[string]*formula.Formula{}
	_, all, _ := strings.Cut(string(file), "== ")
	for _, good := range strings.Split(all, "\n== ") {
		name, body, _ := strings.Cut(good, "\n")
		said, _, _ := strings.Cut("\n"+body, "\n> ")
		f := &formula.Formula{Name: name, Kind: "other", Measures: quantity.US}
		for _, s := range listener.Lines(said, material.Shipped()) {
			f.Lines = append(f.Lines, s.Line)
		}
		goods[name] = f
	}
	return goods
}

// What no list of cautions may miss in an everyday good, with the least weight
// it may have; common practice.
var mustBeFound = map[string]map[string]safety.Severity{
	"Laundry powder":               {"borax-and-children": safety.Warn},
	"Laundry powder with oxygen":   {"oxygen-in-closed-jar": safety.Warn},
	"Stain spray":                  {"peroxide-closed": safety.Warn},
	"Dishwasher tabs with vinegar": {"acid-and-soda-wet": safety.Warn},
	"Dish soap":                    {"acid-and-soap": safety.Warn},
	"Dish block":                   {"fine-dust": safety.Warn},
	"Soft scrub":                   {"acid-and-soap": safety.Warn, "gas-in-closed-vessel": safety.Stop},
	"Toilet bombs, grams":          {"scent-and-small-ones": safety.Note},
	"Rinse aid, strong":            {"flammable": safety.Warn},
	"Mirror spray":                 {"flammable": safety.Warn},
	"Yoga mat spray":               {"flammable": safety.Warn},
	"Window spray":                 {"flammable": safety.Warn},
	"Limescale paste":              {"extreme-ph": safety.Warn},
	"Bar soap":                     {"burns-while-made": safety.Warn, "lye-heats-water": safety.Warn, "lye-and-hot-oil": safety.Note},
	"Liquid soap":                  {"burns-while-made": safety.Warn, "lye-heats-water": safety.Warn},
	"Ash lye":                      {"extreme-ph": safety.Warn},
	"Enzyme ferment":               {"ferment-gas": safety.Stop},
	"Enzyme cleaner with yeast":    {"yeast-gas": safety.Stop},
	"Drain with vinegar":           {"gas-in-closed-vessel": safety.Stop, "fizz-in-pipes": safety.Warn},
}

// Cautions are found where they belong, and few enough are raised elsewhere that
// they are read: less than one warning to a good, and none in what only wets or
// scours.
func TestEverydayGoodsAreWarnedOfWithMeasure(t *testing.T) {
	goods := everyday(t)
	warnings := 0
	for name, f := range goods {
		found := map[string]safety.Severity{}
		heeded := 0
		for _, c := range assess.Formula(f, material.Shipped(), assess.Options{}).Cautions {
			found[c.Code] = max(found[c.Code], c.Severity)
			if c.Severity > safety.Note {
				heeded++
			}
		}
		warnings += heeded
		for code, least := range mustBeFound[name] {
			assert.GreaterOrEqual(t, found[code], least, "%s: %s", name, code)
		}
		assert.LessOrEqual(t, heeded, 3, "%s: %v", name, found)
	}
	for name := range mustBeFound {
		assert.Contains(t, goods, name)
	}
	for _, mild := range []string{"Soap nut liquid", "Shower head soak", "Scrub", "Floor cleaner", "Wood polish with lemon", "Carpet powder", "Foaming hand soap", "Toilet bombs", "Fridge wipe", "Herb vinegar"} {
		for _, c := range assess.Formula(goods[mild], material.Shipped(), assess.Options{}).Cautions {
			assert.Equal(t, safety.Note, c.Severity, "%s: %s", mild, c.Text)
		}
	}
	assert.Less(t, float64(warnings)/float64(len(goods)), 1.0)
}
