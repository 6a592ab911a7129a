package web_test

import (
	"net/http"
	"net/url"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
)

func TestChemistryComesWithTheAssessment(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	ask := func(query string, lines ...string) (a api.Assessment) {
		c.post("/api/assess"+query, formulaFile("Asked", lines...)).gives(http.StatusOK, &a)
		return a
	}
	// NIST: 0.01 mol/kg of borax has a pH of 9.180; 3.814 g are 0.01 mol.
	a := ask("?use="+url.QueryEscape("3.814 g/l"), "100 g of borax")
	assert.InDelta(t, 9.18, a.Chemistry.Ph.Closed, 0.02)
	assert.Equal(t, api.ChemistryUseBasis("given"), a.Chemistry.Use.Basis)
	assert.Zero(t, a.Chemistry.Use.HardnessMmolPerL, "none was said")
	a = ask("?hardness="+url.QueryEscape("15 °dH"), "100 g of soap flakes")
	assert.InDelta(t, 15/5.608, a.Chemistry.Use.HardnessMmolPerL, 0.01)
	assert.Positive(t, a.Chemistry.Hardness.TakenBySoap)

	// set once for the workshop
	var w api.Workshop
	c.get("/api/workshop").gives(http.StatusOK, &w)
	w.Hardness, w.LaundryWaterL = "268 mg/l", 40
	c.put("/api/workshop", w).gives(http.StatusOK, nil)
	a = ask("", "100 g of soap flakes")
	assert.InDelta(t, 2.678, a.Chemistry.Use.HardnessMmolPerL, 0.01)
	assert.InDelta(t, 10.0/40, a.Chemistry.Use.GramsPerLitre, 1e-9, "10 g a use in 40 l")

	// the finding says how much
	a = ask("?use=neat", "100 ml of liquid soap", "250 ml of vinegar")
	require.NotEmpty(t, a.Cautions)
	found := ""
	for _, caution := range a.Cautions {
		if caution.Code == "acid-and-soap" {
			found = caution.Text
			assert.Equal(t, api.CautionSeverity("stop"), caution.Severity)
		}
	}
	assert.Regexp(t, `turns (\d+ %|nearly all) of liquid soap back into fat`, found)

	a = ask("?use="+url.QueryEscape("-3 g/l"), "100 g of borax")
	require.NotEmpty(t, a.Problems)
	assert.Equal(t, "use", a.Problems[0].Field)
	c.post("/api/assess?hardness=soft", formulaFile("Asked", "1 g of borax")).refuses(422, "bad-amount")
	a = ask("", "100 g of wood ash")
	require.Len(t, a.Chemistry.Unknown, 1)
}

// A strip is good to half a unit, a meter to 0.05 (common practice). What was
// measured of a lot stands in place of what is usual for what has no make-up, and
// what was measured of a batch in place of what is worked out of that batch alone.
func TestAMeasuredPHOfALotAndOfABatch(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	ask := func(lines ...string) (a api.Assessment) {
		c.post("/api/assess", formulaFile("Asked", lines...)).gives(http.StatusOK, &a)
		return a
	}
	lye := "100 g of wood ash"
	usual := ask("1 l of water", lye).Bottle.Ph
	assert.Equal(t, api.PhReadingFromMaterial, usual.From)
	lot := c.take("1 kg wood ash 2.00 from Quayside, lot A1")
	c.patch("/api/lots/"+lot.Id.String(), api.LotMark{MeasuredPh: api.MeasuredPh{Ph: 15, With: api.Strip}}).refuses(422, "bad-field")
	c.patch("/api/lots/"+lot.Id.String(), api.LotMark{MeasuredPh: api.MeasuredPh{Ph: 10.4, With: api.Meter}}).gives(http.StatusOK, &lot)
	assert.Equal(t, 10.4, lot.MeasuredPh.Ph)
	measured := ask("1 l of water", lye)
	assert.InDelta(t, 10.35, measured.Bottle.Ph.Low, 1e-9)
	assert.InDelta(t, 10.45, measured.Bottle.Ph.High, 1e-9)
	assert.Contains(t, measured.Chemistry.Unknown[0].Needs, "was measured")
	c.patch("/api/lots/"+lot.Id.String(), api.LotMark{ForgetPh: true}).gives(http.StatusOK, &lot)
	assert.Equal(t, usual, ask("1 l of water", lye).Bottle.Ph)

	burns := func(b api.Batch) bool {
		return slices.ContainsFunc(b.Cautions, func(c api.Caution) bool { return c.Code == "extreme-ph" && c.Of == api.CautionOfBottle })
	}
	c.take("5 kg borax 16.00 from Quayside, lot B2")
	f := c.keep("Mild", "1 l of water", "20 g of borax")
	b := c.begin(f, api.Target{Factor: 1})
	assert.False(t, burns(b))
	c.post("/api/batches/"+b.Id.String()+"/measurements", api.MeasuredPh{Ph: 12.8, With: api.Strip}).gives(http.StatusCreated, &b)
	assert.Equal(t, api.MeasuredPh{Ph: 12.8, With: api.Strip}, b.MeasuredPh)
	assert.Equal(t, api.MeasuredPh{Ph: 12.8, With: api.Strip}, b.Events[len(b.Events)-1].MeasuredPh)
	assert.True(t, burns(b), "%v", b.Cautions)
	assert.True(t, slices.ContainsFunc(b.Cautions, func(c api.Caution) bool { return c.Code == "measured-otherwise" }), "borax makes no 12.8")
	assert.False(t, burns(c.begin(f, api.Target{Factor: 1})), "the next batch is not that one")
	c.post("/api/batches/"+b.Id.String()+"/measurements", api.MeasuredPh{Ph: 9.2, With: api.Meter}).gives(http.StatusCreated, &b)
	assert.False(t, burns(b), "the newest counts")
}

func TestWhatIfSwapsAndGoals(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	c.take("5 kg borax 15.00")
	c.take("5 kg washing soda 8.00")
	c.take("100 g soda crystals 0.50")
	c.take("2 kg soap flakes 14.00")
	f := formulaFile("Plain", "200 g of washing soda", "100 g of soap flakes")
	c.keep("Other school", "100 g of washing soda", "100 g of soap flakes", "200 g of borax")

	var m api.ReadingMap
	c.post("/api/whatif", api.WhatIf{File: f, Reading: "closed-ph", X: api.SweptAmount{Line: 0, ToG: 400, Steps: 9}, Y: api.SweptAmount{Line: 1, ToG: 200, Steps: 5}}).gives(http.StatusOK, &m)
	require.Len(t, m.Values, 5)
	require.Len(t, m.Values[0], 9)
	assert.Equal(t, 200.0, m.Here.XG)
	require.Len(t, m.Schools, 1)
	assert.InDelta(t, 75, m.Schools[0].XG, 1e-9, "100 of 400 g, sized to 300 g")
	assert.Equal(t, 11.5, *m.SafeHigh)
	c.post("/api/whatif", api.WhatIf{File: f, Reading: "closed-ph", X: api.SweptAmount{Line: 0, ToG: 400, Steps: 9}, Y: api.SweptAmount{Line: 0, ToG: 200, Steps: 5}}).refuses(422, "bad-value")
	c.post("/api/whatif", api.WhatIf{File: formulaFile("Bad", "1 cup of boraks", "1 g of salt"), Reading: "closed-ph", X: api.SweptAmount{Line: 0, ToG: 400, Steps: 9}, Y: api.SweptAmount{Line: 1, ToG: 200, Steps: 5}}).refuses(422, "bad-formula")

	var swaps []api.SwapCandidate
	c.post("/api/swaps", api.SwapQuestion{File: f, Line: 0, Grams: 200}).gives(http.StatusOK, &swaps)
	require.Len(t, swaps, 2, "only what is on the shelf")
	assert.Equal(t, "borax", swaps[0].Material)
	assert.True(t, swaps[0].Enough)
	assert.Equal(t, "soda-crystals", swaps[1].Material)
	assert.False(t, swaps[1].Enough, "100 g of the 461 g it takes")
	c.post("/api/swaps", api.SwapQuestion{File: f, Line: 0, WholeLibrary: true}).gives(http.StatusOK, &swaps)
	assert.Equal(t, api.SwapCandidateBy("same-compound"), swaps[0].By)
	c.post("/api/swaps", api.SwapQuestion{File: f, Line: 0, Grams: 900}).refuses(422, "bad-value")
	c.post("/api/swaps", api.SwapQuestion{File: f, Line: 7}).refuses(422, "no-such-line")

	var p api.Proposal
	c.post("/api/goals?use="+url.QueryEscape("5 g/l"), api.GoalQuestion{File: f, Materials: []string{"baking soda"}, PhLow: 10, PhHigh: 10.2, Bounds: []api.GoalBound{{Material: "soap flakes", MinG: 90}}}).gives(http.StatusOK, &p)
	assert.InDelta(t, 10.1, p.Chemistry.Ph.Closed, 0.11)
	problem := c.post("/api/goals?use="+url.QueryEscape("5 g/l"), api.GoalQuestion{File: f, PhLow: 3, PhHigh: 4}).refuses(422, "contradiction")
	assert.Contains(t, problem.Detail, "a pH of 3 to 4")
	c.post("/api/goals?use="+url.QueryEscape("5 g/l"), api.GoalQuestion{File: f, PhLow: 9, PhHigh: 8}).refuses(422, "bad-value")
}
