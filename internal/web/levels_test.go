package web_test

import (
	"fmt"
	"net/http"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
)

// makeAll weighs what a batch asks for from the lots it is offered, and finishes
// it.
func (c *client) makeAll(f api.StoredFormula, target api.Target, jars int) api.Batch {
	c.t.Helper()
	b := c.begin(f, target)
	for _, l := range b.Lines {
		lot := ""
		if !l.Unstocked {
			require.NotEmpty(c.t, l.Lots, l.Name)
			lot = l.Lots[0].Code
		}
		b = c.weigh(b, l.Line, lot, l.TargetG)
	}
	c.post("/api/batches/"+b.Id.String()+"/finish", api.Finish{Jars: jars}).gives(http.StatusOK, &b)
	return b
}

// A good goes into a good that goes into a good: what it costs, how long it
// keeps, what it must not meet and where it came from follow it.
func TestAGoodGoesIntoAGoodThroughTwoLevels(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	bag := c.take("1 kg citric acid 10.00 from Old Wharf, lot C1, best 2026-09-15")
	c.take("1 kg washing soda 3.00, lot S1")

	// 250 g of acid in 1 kg: 2.50, so 0.25 for each 100 g (arithmetic)
	sour := c.keep("Sour base", "250 g of citric acid", "750 g of water")
	first := c.makeAll(sour, api.Target{Factor: 1}, 4)
	assert.Equal(t, "2.50", first.Cost)
	rinse := c.keep("Sour rinse", "500 g of Sour base", "500 g of water")
	second := c.makeAll(rinse, api.Target{Factor: 1}, 2)
	assert.Equal(t, "1.25", second.Cost)
	assert.Equal(t, "2026-09-15", second.BestBefore.Format("2006-01-02"), "the acid's date, through the base")
	spray := c.keep("Towpath mist", "400 g of Sour rinse", "600 g of water")
	third := c.makeAll(spray, api.Target{Factor: 1}, 5)
	assert.Equal(t, "0.50", third.Cost)
	assert.Equal(t, "2026-09-15", third.BestBefore.Format("2006-01-02"))

	// its chemistry is that of what is in it: 50 g of acid in 1 kg
	var direct, through api.Assessment
	c.post("/api/assess", formulaFile("as bought", "50 g of citric acid", "950 g of water")).gives(http.StatusOK, &direct)
	c.post("/api/assess", formulaFile("of goods", "400 g of Sour rinse", "600 g of water")).gives(http.StatusOK, &through)
	assert.InDelta(t, direct.Bottle.Ph.Value, through.Bottle.Ph.Value, 0.001)
	assert.Equal(t, direct.Keeping.Class, through.Keeping.Class)
	assert.Equal(t, "0.50", through.Cost.PerKg)
	var bleach api.Assessment
	c.post("/api/assess", formulaFile("never", "400 g of Towpath mist", "100 g of chlorine bleach")).gives(http.StatusOK, &bleach)
	require.NotEmpty(t, bleach.Cautions)
	assert.Equal(t, api.CautionSeverityStop, bleach.Cautions[0].Severity, "acid meets bleach, whatever it came in")

	// back to the bag, and from the bag to every jar
	var back api.BatchTrace
	c.get(fmt.Sprintf("/api/batches/%s/trace", third.Id)).gives(http.StatusOK, &back)
	require.Len(t, back.Bags, 1)
	assert.Equal(t, second.Code, back.Bags[0].MadeBy)
	require.Len(t, back.Bags[0].Bags, 1)
	assert.Equal(t, first.Code, back.Bags[0].Bags[0].MadeBy)
	require.Len(t, back.Bags[0].Bags[0].Bags, 1)
	assert.Equal(t, "Old Wharf", back.Bags[0].Bags[0].Bags[0].Supplier)
	var forth api.LotTrace
	c.get(fmt.Sprintf("/api/lots/%s/trace", bag.Id)).gives(http.StatusOK, &forth)
	require.Len(t, forth.Batches, 1)
	require.Len(t, forth.Batches[0].Into, 1)
	require.Len(t, forth.Batches[0].Into[0].Into, 1)
	assert.Equal(t, third.Code, forth.Batches[0].Into[0].Into[0].Code)
	assert.Len(t, forth.Batches[0].Into[0].Into[0].Jars, 5)

	// what went into others is out of its jars: 500 g of 4 × 250 g
	var goods []api.PantryLot
	c.get("/api/pantry").gives(http.StatusOK, &goods)
	for _, g := range goods {
		if g.Batch == first.Id {
			assert.Equal(t, 2, g.Left)
			assert.Equal(t, "used here", g.JarList[0].GoneTo)
			c.patch("/api/jars/"+g.JarList[0].Id.String(), api.JarMove{}).refuses(http.StatusConflict, "used-up")
		}
	}
	broken, err := h.store().Verify(t.Context())
	require.NoError(t, err)
	assert.Empty(t, broken)

	// a ring is refused, and named
	var changed api.StoredFormula
	c.get("/api/formulas/"+sour.Id.String()).gives(http.StatusOK, &changed)
	changed.File.Lines = append(changed.File.Lines, api.FormulaLine{Amount: "10 g", Material: "Towpath mist"})
	p := c.put("/api/formulas/"+sour.Id.String(), api.FormulaEdit{BaseVersion: 1, File: changed.File}).refuses(http.StatusUnprocessableEntity, "ring")
	assert.Equal(t, "Sour base would go into itself: it is made of Towpath mist, which is made of Sour rinse.", p.Detail)
	// nor is what is made here a delivery
	c.post("/api/deliveries", api.DeliveryLine{Line: "1 kg Towpath mist 4.00"}).refuses(http.StatusUnprocessableEntity, "made-here")
}

func TestALineOfTheLogIsPutRight(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	c.take("1 kg washing soda 3.00, lot S1")
	b := c.begin(c.keep("Towpath", "500 g of washing soda", "300 g of water"), api.Target{Factor: 1})
	b = c.weigh(b, 0, "S1", 250)
	correct := func(in api.BatchCorrection) *answer { return c.post("/api/batches/"+b.Id.String()+"/corrections", in) }
	correct(api.BatchCorrection{Event: 2, Grams: 205}).gives(http.StatusCreated, &b)
	assert.Equal(t, 205.0, b.WeighedG)
	last := b.Events[len(b.Events)-1]
	assert.Equal(t, 2, last.Corrects)
	assert.Equal(t, 250.0, last.WasGrams)
	assert.Equal(t, 205.0, last.Grams)
	assert.Equal(t, 250.0, b.Events[1].Grams, "what was logged stays as it was")
	var lots api.LotPage
	c.get("/api/lots").gives(http.StatusOK, &lots)
	assert.Equal(t, 795.0, lots.Lots[0].AvailableG)

	assert.Contains(t, correct(api.BatchCorrection{Event: 2, Grams: 2000}).refuses(http.StatusUnprocessableEntity, "short-lot").Detail, "S1")
	correct(api.BatchCorrection{Event: 1, Grams: 1}).refuses(http.StatusUnprocessableEntity, "bad-value")
	correct(api.BatchCorrection{Event: 9}).refuses(http.StatusUnprocessableEntity, "no-such-event")
	c.post("/api/batches/"+b.Id.String()+"/notes", api.BatchNote{Text: "it was damp"}).gives(http.StatusCreated, &b)
	correct(api.BatchCorrection{Event: len(b.Events), Text: "it was dry"}).gives(http.StatusCreated, &b)
	assert.Equal(t, "it was damp", b.Events[len(b.Events)-1].WasText)
	c.post("/api/batches/"+b.Id.String()+"/abandon", api.Abandon{Reason: "enough"}).gives(http.StatusOK, &b)
	correct(api.BatchCorrection{Event: 2, Grams: 300}).refuses(http.StatusConflict, "batch-closed")
}

// What a batch was made by stays what it was, whatever is changed afterwards.
func TestAFinishedBatchIsASnapshot(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	c.take("1 kg washing soda 3.00, lot S1")
	f := c.keep("Towpath", "500 g of washing soda")
	b := c.makeAll(f, api.Target{Factor: 1}, 2)
	w := c.get("/api/workshop")
	var settings api.Workshop
	w.gives(http.StatusOK, &settings)
	settings.Currency = "CHF"
	c.put("/api/workshop", settings).gives(http.StatusOK, nil)
	f.File.Name = "Towpath anew"
	c.put("/api/formulas/"+f.Id.String(), api.FormulaEdit{BaseVersion: 1, File: f.File}).gives(http.StatusOK, nil)
	var after api.Batch
	c.get("/api/batches/"+b.Id.String()).gives(http.StatusOK, &after)
	assert.Equal(t, b, after)
	var lots api.LotPage
	c.get("/api/lots").gives(http.StatusOK, &lots)
	assert.Equal(t, "EUR", lots.Lots[0].Currency, "what was paid was paid in euros")
	h.now = h.now.Add(time.Minute)
	c.patch("/api/lots/"+lots.Lots[0].Id.String(), map[string]any{"correct": map[string]any{"landed": "4.00"}, "reason": "the bill"}).gives(http.StatusOK, nil)
	c.get("/api/batches/"+b.Id.String()).gives(http.StatusOK, &after)
	assert.Equal(t, b.Cost, after.Cost)
	assert.Equal(t, []string{"lot S1: EUR was 3.00, is 4.00"}, after.CostCorrected)
	var a api.Assessment
	c.post("/api/assess", formulaFile("Towpath", "500 g of washing soda")).gives(http.StatusOK, &a)
	assert.Empty(t, a.Cost.Batch, "no price in francs is known")
}

// A jar remembers every place it was, and who took it is put right by another
// movement.
func TestAJarRemembersWhereItWas(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	c.take("1 kg washing soda 3.00, lot S1")
	c.makeAll(c.keep("Towpath", "500 g of washing soda"), api.Target{Factor: 1}, 2)
	var goods []api.PantryLot
	c.get("/api/pantry").gives(http.StatusOK, &goods)
	jar := "/api/jars/" + goods[0].JarList[0].Id.String()
	c.patch(jar, api.JarMove{Gone: true, GoneTo: "Saturday stall"}).gives(http.StatusOK, nil)
	c.patch(jar, api.JarMove{Gone: true, GoneTo: "the baker"}).gives(http.StatusOK, nil)
	c.patch(jar, api.JarMove{}).gives(http.StatusOK, nil)
	var lot api.LotDetail
	c.get("/api/lots/"+goods[0].Lot.String()).gives(http.StatusOK, &lot)
	said := ""
	for _, m := range lot.Movements {
		said += fmt.Sprintf("%s %g %s; ", m.Kind, m.Grams, m.Party)
	}
	assert.Equal(t, "made 500 ; gone -250 Saturday stall; corrected 0 the baker; returned 250 the baker; ", said)
	assert.Equal(t, 500.0, lot.Lot.RemainingG)
	c.patch("/api/jars/"+uuid.NewString(), api.JarMove{Gone: true}).refuses(http.StatusNotFound, "not-found")
}
