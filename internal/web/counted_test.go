package web_test

import (
	"encoding/csv"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
)

// What has no price costs at least what the rest does: on the plan, of the batch and its
// jars, in the trace and in the file; and of what is made of it.
func TestAnUnknownPriceIsNotNothing(t *testing.T) {
	h := open(t)
	c := h.founded("keeper")
	soda, soap := c.take("2 kg washing soda 4.00"), c.take("1 kg soap flakes")
	assert.Empty(t, soap.Landed)
	formula := c.keep("Towpath", "400 g of washing soda", "200 g of soap flakes")
	var plan api.Plan
	c.post("/api/formulas/"+formula.Id.String()+"/plan", api.Target{Factor: 1}).gives(http.StatusOK, &plan)
	assert.Equal(t, api.Money("0.80"), plan.Cost)
	assert.Equal(t, []string{"Soap flakes"}, plan.Unpriced)
	assert.Empty(t, plan.Lines[1].Draws[0].Cost)

	b := c.begin(formula, api.Target{Factor: 1})
	b = c.weigh(b, 0, soda.Code, 400)
	b = c.weigh(b, 1, soap.Code, 200)
	c.post(at(b, "finish"), api.Finish{Jars: 2}).gives(http.StatusOK, &b)
	assert.Equal(t, api.Money("0.80"), b.Cost)
	assert.Equal(t, []string{"Soap flakes"}, b.Unpriced)
	var good api.PantryLot
	c.get("/api/pantry/"+b.Id.String()).gives(http.StatusOK, &good)
	assert.Equal(t, []string{"Soap flakes"}, good.Unpriced)
	var page api.BatchPage
	c.get("/api/batches").gives(http.StatusOK, &page)
	assert.Equal(t, []string{"Soap flakes"}, page.Batches[0].Unpriced)
	var trace api.BatchTrace
	c.get("/api/batches/"+b.Id.String()+"/trace").gives(http.StatusOK, &trace)
	for _, bag := range trace.Bags {
		if bag.Material == "soap-flakes" {
			assert.Empty(t, bag.Cost)
			assert.Equal(t, []string{"Soap flakes"}, bag.Unpriced)
		} else {
			assert.Equal(t, api.Money("0.80"), bag.Cost)
		}
	}
	rows, err := csv.NewReader(strings.NewReader(string(c.get("/api/shelf.csv").gives(http.StatusOK, nil).body))).ReadAll()
	require.NoError(t, err)
	for _, row := range rows[1:] {
		assert.Equal(t, row[1] == "soap-flakes", row[7] == "", "an empty cell for a price nobody noted: %v", row)
	}

	// a good of it is no cheaper for being one
	var assessed api.Assessment
	c.post("/api/assess", api.FormulaFile{Format: "keencrock/formula", Version: 3, Name: "Boosted", Kind: "laundry-powder",
		Lines: []api.FormulaLine{{Material: "Towpath", Amount: "100 g"}}}).gives(http.StatusOK, &assessed)
	assert.Len(t, assessed.Cost.Unpriced, 1)
}

// Lines of an assessment add up to the whole, to the last cent.
func TestLinesOfACostAddUp(t *testing.T) {
	h := open(t)
	c := h.founded("keeper")
	for _, line := range []string{"1 kg washing soda 1.55", "1 kg borax 1.55", "1 kg table salt 1.55"} {
		c.take(line)
	}
	var a api.Assessment
	c.post("/api/assess", api.FormulaFile{Format: "keencrock/formula", Version: 3, Name: "W", Kind: "laundry-powder",
		Lines: []api.FormulaLine{{Material: "washing soda", Amount: "10 g"}, {Material: "borax", Amount: "10 g"}, {Material: "table salt", Amount: "10 g"}}}).gives(http.StatusOK, &a)
	assert.Equal(t, api.Money("0.05"), a.Cost.Batch, "three times 1.55 cents")
	cents := 0
	for _, l := range a.Lines {
		require.Len(t, l.Cost, 4)
		cents += int(l.Cost[3] - '0')
	}
	assert.Equal(t, 5, cents)
}

// What stands there filled is believed: it teaches how the good lies, and the note says so.
func TestAFullJarIsBelievedBeforeAGuess(t *testing.T) {
	h := open(t)
	c := h.founded("keeper")
	var jar api.Packaging
	c.post("/api/packaging", api.PackagingDelivery{Name: "jar 1 l", HoldsMl: 1000, Pieces: 12, Price: "12.00"}).gives(http.StatusCreated, &jar)
	flakes := c.take("4 kg soap flakes 9.00")
	b := c.begin(c.keep("Flakes", "3606 g of soap flakes"), api.Target{Factor: 1})
	b = c.weigh(b, 0, flakes.Code, 3606)
	var fits []api.Packaging
	c.get(at(b, "packaging")).gives(http.StatusOK, &fits)
	assert.Less(t, fits[0].MostG, 601.0, "by the density of flakes as they usually lie")
	c.post(at(b, "packs"), api.Pack{Jars: 1, EachG: 2700, Container: jar.Id}).refuses(http.StatusUnprocessableEntity, "overfull")
	c.post(at(b, "packs"), api.Pack{Jars: 2, EachG: 601, Container: jar.Id}).gives(http.StatusCreated, &b)
	c.get(at(b, "packaging")).gives(http.StatusOK, &fits)
	assert.InDelta(t, 601, fits[0].HoldsG, 0.5, "taught by the fill")
	assert.Equal(t, 10, fits[0].Left)
	c.post(at(b, "finish"), api.Finish{Jars: 4, EachG: 601, Container: jar.Id}).gives(http.StatusOK, &b)
	assert.Equal(t, api.Money("14.11"), b.Cost, "six jars at 1.00, and 3606 g of 4 kg for 9.00")
	noted := ""
	for _, e := range b.Events {
		if e.Kind == "packed" {
			noted += e.Text
		}
	}
	assert.Contains(t, noted, "0.60 g/ml")
}

// What a label says of pieces is what was counted, and nothing where nobody did.
func TestPiecesOnALabelAreThoseThatWereCounted(t *testing.T) {
	h := open(t)
	c := h.founded("keeper")
	soda := c.take("4 kg washing soda 4.00")
	label := func(b api.Batch) string {
		var view api.LabelView
		c.post(at(b, "label"), api.LabelWish{Form: "whole", Languages: []string{"en"}}).gives(http.StatusOK, &view)
		return view.Svg
	}
	begun := func(name string) api.Batch {
		var formula api.StoredFormula
		c.post("/api/formulas", api.FormulaFile{Format: "keencrock/formula", Version: 3, Name: name, Kind: "dish-tab", Yield: api.WrittenAmount{Amount: "24 tabs"},
			Lines: []api.FormulaLine{{Material: "washing soda", Amount: "440 g"}}, Steps: []api.FormulaStep{{Kind: "weigh", Lines: []int{0}}, {Kind: "press", Pieces: 24}, {Kind: "fill"}}}).gives(http.StatusCreated, &formula)
		b := c.begin(formula, api.Target{Factor: 1})
		return c.weigh(b, 0, soda.Code, 440)
	}
	b := begun("Heron")
	c.act(&b, api.BatchAct{Kind: "pieces-counted", Step: step(1), Count: 24})
	c.act(&b, api.BatchAct{Kind: "step-done", Step: step(1)})
	c.post(at(b, "packs"), api.Pack{Jars: 2, EachG: 210, Pieces: 13}).refuses(http.StatusUnprocessableEntity, "bad-value")
	c.post(at(b, "finish"), api.Finish{Jars: 2, EachG: 217}).gives(http.StatusOK, &b)
	assert.Contains(t, label(b), "12 pieces", "a scale that lost six grams has lost no tab")

	b = begun("Grebe")
	c.act(&b, api.BatchAct{Kind: "step-done", Step: step(1)})
	c.post(at(b, "finish"), api.Finish{Jars: 2, EachG: 217}).gives(http.StatusOK, &b)
	assert.NotContains(t, label(b), "pieces")
}

// A formula that is half typed is answered, whatever is missing in it.
func TestAFormulaHalfTypedIsAnswered(t *testing.T) {
	h := open(t)
	c := h.founded("keeper")
	for _, kind := range []string{"infused-vinegar", "ferment", "soap-nut-extract"} {
		for _, lines := range [][]api.FormulaLine{{{Material: "citrus-peel", Amount: "3 cups"}}, {{Material: "soap-nut", Amount: "20"}}, {{Material: "vinegar", Amount: "0 ml"}}, {}} {
			file := api.FormulaFile{Format: "keencrock/formula", Version: 3, Name: "W", Kind: kind, Lines: lines, Uses: api.OneUse{Amount: "1/4 cup"}}
			var a api.Assessment
			c.post("/api/assess", file).gives(http.StatusOK, &a)
			c.post("/api/compare", api.TwoFormulas{A: file, B: file}).gives(http.StatusOK, nil)
		}
	}
}
