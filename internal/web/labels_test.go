package web_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"keencrock/api"
)

// What the law asks for where a good is sold is said as long as it is missing, and stands on
// the label once it is written: Regulation (EC) 1272/2008, Articles 17 and 18(3)(b),
// Annex VIII.
func TestWhatALabelMustCarry(t *testing.T) {
	h := open(t)
	c := h.founded("keeper")
	good := packed(t, c, "Towpath") // 30 % of percarbonate
	at := "/api/batches/" + good.Batch.String() + "/label"
	see := func(wish api.LabelWish) (api.LabelView, string) {
		wish.Form, wish.Languages = "pouch", []string{"en"}
		var view api.LabelView
		c.post(at, wish).gives(http.StatusOK, &view)
		said := ""
		for _, m := range view.Misfits {
			said += m.Block + " "
		}
		return view, said
	}
	view, missing := see(api.LabelWish{Origin: "https://works.example"})
	assert.Contains(t, missing, "phone")
	assert.Contains(t, missing, "formula-code")
	assert.Contains(t, view.Svg, "Contains Sodium percarbonate", "Article 18(3)(b): what damages eyes")
	assert.Contains(t, strings.ReplaceAll(view.Svg, " ", ""), "works.example/j/", "to be typed, beside the code")

	var w api.Workshop
	c.get("/api/workshop").gives(http.StatusOK, &w)
	w.Address, w.Phone, w.JarOrigin = "Marrow Canal", "+00 555 0100", "https://jars.example/"
	c.put("/api/workshop", w).gives(http.StatusOK, &w)
	assert.Equal(t, "https://jars.example", w.JarOrigin)
	assert.Contains(t, w.RegionSays, "Article 17")
	c.post(at, api.LabelWish{Form: "pouch", Languages: []string{"en"}, FormulaCode: "nothing"}).refuses(http.StatusUnprocessableEntity, "bad-value")
	view, missing = see(api.LabelWish{Origin: "http://127.0.0.1:8420", FormulaCode: "a1b2-c3d4-e5f6-g7h8"})
	assert.Empty(t, missing, "the workshop's own address is taken, not that of the page")
	assert.Contains(t, view.Svg, "+00 555 0100")
	assert.Contains(t, view.Svg, "A1B2-C3D4-E5F6-G7H8")
	assert.Contains(t, strings.ReplaceAll(view.Svg, " ", ""), "jars.example/j/")

	w.JarOrigin, w.Region, w.Phone = "", "elsewhere", ""
	c.put("/api/workshop", w).gives(http.StatusOK, &w)
	_, missing = see(api.LabelWish{Origin: "https://works.example"})
	assert.Empty(t, missing)
	for _, own := range []string{"http://127.0.0.1:8420", "http://localhost:8420", "http://[::1]:8420"} {
		view, missing = see(api.LabelWish{Origin: own})
		assert.Contains(t, missing, "qr", own)
		assert.NotContains(t, view.Svg, "127.0.0.1")
	}
	w.JarOrigin = "somewhere"
	c.put("/api/workshop", w).refuses(http.StatusUnprocessableEntity, "bad-value")
}

// One dose, the one the workshop chose: on the label, in the pantry and at the jar.
func TestOneDoseEverywhere(t *testing.T) {
	h := open(t)
	c := h.founded("keeper")
	good := packed(t, c, "Towpath") // a use is 10 g by its formula
	at := "/api/pantry/" + good.Batch.String()
	assert.InDelta(t, 90, good.UsesLeft, 0.1)
	var table api.DoseTable
	c.get(at+"/doses").gives(http.StatusOK, &table)
	assert.Equal(t, api.DoseRowSaidByFormula, table.Rows[0].SaidBy)
	assert.Equal(t, "10 g", table.Rows[0].ChosenAs)
	var dose api.TrueDose
	c.post(at+"/loads", api.LoadsCount{Loads: 15, Grams: 300}).gives(http.StatusOK, &dose)
	c.get(at+"/doses").gives(http.StatusOK, &table)
	assert.Equal(t, api.DoseRowChosenCounted, table.Rows[0].Chosen)
	assert.Equal(t, 20.0, table.Rows[0].ChosenG)
	c.get("/api/pantry/"+good.Batch.String()).gives(http.StatusOK, &good)
	assert.InDelta(t, 45, good.UsesLeft, 0.1, "twice as much to a load")
	var w api.Workshop
	c.get("/api/workshop").gives(http.StatusOK, &w)
	w.LabelDose = "formula"
	c.put("/api/workshop", w).gives(http.StatusOK, &w)
	c.get("/api/pantry/"+good.Batch.String()).gives(http.StatusOK, &good)
	assert.InDelta(t, 90, good.UsesLeft, 0.1)
	c.get(at+"/doses").gives(http.StatusOK, &table)
	assert.Equal(t, "10 g", table.Rows[0].ChosenAs)
}
