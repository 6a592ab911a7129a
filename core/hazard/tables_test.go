package hazard_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"

	"keencrock/core/hazard"
	"keencrock/core/material"
)

// bound is from which share, in per cent, a substance of one statement brings a statement to
// a mixture.
type bound struct {
	of, brings string
	percent    float64
	m          material.Multipliers
}

// Regulation (EC) 1272/2008, Annex I, tables 3.2.3 (skin), 3.3.3 (eyes), 3.4.5 (sensitisers),
// 3.7.2 (reproduction), 3.8.3 and 3.8.3.4.5 (one exposure), 3.9.4 (many), 3.10.3.3 (lungs),
// 4.1.1 and 4.1.2 (water), Annex II, 2.8. A tenth, or a hundredth, where the graver counts
// tenfold or a hundredfold.
var bounds = []bound{
	{of: "H314", brings: "H314", percent: 5}, {of: "H314", brings: "H315", percent: 1}, {of: "H315", brings: "H315", percent: 10},
	{of: "H314", brings: "H318", percent: 3}, {of: "H318", brings: "H318", percent: 3},
	{of: "H314", brings: "H319", percent: 1}, {of: "H318", brings: "H319", percent: 1}, {of: "H319", brings: "H319", percent: 10},
	{of: "H335", brings: "H335", percent: 20}, {of: "H336", brings: "H336", percent: 20},
	{of: "H360", brings: "H360FD", percent: 0.3}, {of: "H360FD", brings: "H360FD", percent: 0.3}, {of: "H361", brings: "H361", percent: 3},
	{of: "H371", brings: "H371", percent: 10}, {of: "H372", brings: "H372", percent: 10}, {of: "H372", brings: "H373", percent: 1}, {of: "H373", brings: "H373", percent: 10},
	{of: "H334", brings: "H334", percent: 1}, {of: "H317", brings: "H317", percent: 1}, {of: "H317", brings: "EUH208", percent: 0.1},
	{of: "H400", brings: "H400", percent: 25}, {of: "H400", brings: "H400", percent: 2.5, m: material.Multipliers{Acute: 10}},
	{of: "H410", brings: "H410", percent: 25}, {of: "H410", brings: "H410", percent: 2.5, m: material.Multipliers{Chronic: 10}},
	{of: "H410", brings: "H411", percent: 2.5}, {of: "H411", brings: "H411", percent: 25},
	{of: "H410", brings: "H412", percent: 0.25}, {of: "H411", brings: "H412", percent: 2.5}, {of: "H412", brings: "H412", percent: 25},
}

func TestEverySumTurnsAtItsLimit(t *testing.T) {
	for _, b := range bounds {
		t.Run(fmt.Sprintf("%s from %g %% of %s", b.brings, b.percent, b.of), func(t *testing.T) {
			x := classed("x", material.Hazards{Statements: []string{b.of}, M: b.m})
			at := func(percent float64) []string { return screen(of(x, percent, nothing, 100-percent)).Codes() }
			assert.Contains(t, at(b.percent*1.001), b.brings)
			assert.NotContains(t, at(b.percent*0.999), b.brings)
		})
	}
}

// Annex I, table 1.1 and the notes of each chapter: from 1 % a substance counts towards a sum
// for skin, eyes and lungs, from 0.1 % (by its M-factor) towards one for water.
func TestASubstanceCountsTowardsASumFromItsCutOff(t *testing.T) {
	for brings, c := range map[string]struct {
		of            string
		cutOff, limit float64 // per cent
	}{
		"H314": {"H314", 1, 5}, "H315": {"H315", 1, 10}, "H318": {"H318", 1, 3}, "H319": {"H319", 1, 10}, "H335": {"H335", 1, 20}, "H336": {"H336", 1, 20},
		"H400": {"H400", 0.1, 25}, "H410": {"H410", 0.1, 25}, "H411": {"H411", 0.1, 25}, "H412": {"H412", 0.1, 25},
	} {
		t.Run(brings, func(t *testing.T) {
			x, y := classed("x", material.Hazards{Statements: []string{c.of}}), classed("y", material.Hazards{Statements: []string{c.of}})
			with := func(little float64) []string {
				most := c.limit - 0.9*little // with the little one over its limit, alone under it
				return screen(of(x, most, y, little, nothing, 100-most-little)).Codes()
			}
			assert.Contains(t, with(c.cutOff*1.001), brings)
			assert.NotContains(t, with(c.cutOff*0.999), brings)
		})
	}
}

// Annex I, table 3.1.2: the point that stands for a category without a figure, and table
// 3.1.1, the bounds that the mixture's estimate is held against: the graver needs more of it.
func TestEveryCategoryOfAcuteToxicityTurnsAtItsBound(t *testing.T) {
	for _, c := range []struct {
		of, brings   string
		route        string
		point, bound float64
	}{
		{"H300", "H300", "", 5, 50}, {"H300", "H301", "", 5, 300}, {"H301", "H301", "", 100, 300}, {"H301", "H302", "", 100, 2000}, {"H302", "H302", "", 500, 2000},
		{"H310", "H310", "", 50, 200}, {"H310", "H311", "", 50, 1000}, {"H311", "H311", "", 300, 1000}, {"H311", "H312", "", 300, 2000}, {"H312", "H312", "", 1100, 2000},
		{"H330", "H330", "", 0.05, 0.5}, {"H330", "H331", "", 0.05, 1}, {"H331", "H331", "", 0.5, 1}, {"H331", "H332", "", 0.5, 5}, {"H332", "H332", "", 1.5, 5},
		{"H330", "H330", "vapour", 0.5, 2}, {"H331", "H331", "vapour", 3, 10}, {"H332", "H332", "vapour", 11, 20},
	} {
		t.Run(fmt.Sprintf("%s of %s %s", c.brings, c.of, c.route), func(t *testing.T) {
			h := material.Hazards{Statements: []string{c.of}}
			if c.route != "" {
				h.ATE = map[string]float64{c.route: c.point}
			}
			x := classed("x", h)
			percent := 100 * c.point / c.bound
			at := func(percent float64) []string { return screen(of(x, percent, nothing, 100-percent)).Codes() }
			graver := []string{"H300", "H310", "H330"}
			assert.Contains(t, at(percent*1.001), c.brings)
			if percent > 1 && !slices.Contains(graver, c.of) || c.of == c.brings {
				assert.NotContains(t, at(percent*0.999), c.brings)
			}
		})
	}
	// 3.1.3.3 (a): what is less than a hundredth of it counts nothing
	x := classed("x", material.Hazards{Statements: []string{"H300"}, ATE: map[string]float64{"oral": 1}})
	assert.Empty(t, screen(of(x, 0.99, nothing, 99.01)).Codes())
	assert.Contains(t, screen(of(x, 1.01, nothing, 98.99)).Codes(), "H301")
}

// Flash points of spirits by share of the volume; handbook tables, from memory.
func TestEveryFlashPointOfTheTables(t *testing.T) {
	for isopropanol, table := range map[bool]map[float64]float64{
		false: {0.05: 62, 0.1: 49, 0.2: 36, 0.3: 29, 0.4: 26, 0.5: 24, 0.6: 22, 0.7: 21, 0.8: 20, 0.96: 17, 1: 13},
		true:  {0.03: 62, 0.05: 57, 0.1: 43, 0.2: 34, 0.3: 28, 0.4: 25, 0.5: 23.5, 0.6: 22, 0.7: 20, 0.8: 18, 0.91: 17, 1: 12},
	} {
		density := map[bool]float64{false: 0.789, true: 0.785}[isopropanol]
		for v, want := range table {
			byMass := v * density / (v*density + (1-v)*0.998)
			assert.InDelta(t, want, hazard.FlashPoint(byMass+1e-12, isopropanol), 0.01, "%g by volume", v)
		}
	}
}
