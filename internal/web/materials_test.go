package web_test

import (
	"fmt"
	"math"
	"net/http"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
)

// A vinegar of another strength, taken in, weighed out and judged like any
// other: 100 g at 10 % hold 100 / 60.05 × 0.1 = 0.1665 mol of acetic acid, twice
// what the usual 5 % hold (molar mass of the CRC Handbook).
func TestAMaterialOfOnesOwn(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	var m api.Material
	c.post("/api/materials", api.OwnMaterial{Name: "Pickling vinegar", Like: "vinegar", Strength: 0.1, Also: []string{"sharp vinegar"}, Density: 1.012}).gives(http.StatusCreated, &m)
	assert.Equal(t, "own-pickling-vinegar", m.Id)
	assert.Equal(t, 1, m.Own.Version)
	assert.True(t, m.Density.Own)
	var shelf []api.ShelfJar
	c.get("/api/shelf").gives(http.StatusOK, &shelf)
	require.Len(t, shelf, 1, "it has its jar before there is any of it")
	assert.Contains(t, shelf[0].Marks, api.ShelfMarkOut)

	c.take("1 kg pickling vinegar 1.20, lot CV-1")
	f := c.keep("Strong rinse", "100 g of sharp vinegar", "900 g of water")
	b := c.begin(f, api.Target{Factor: 1})
	assert.Equal(t, "own-pickling-vinegar", b.Lines[0].Material)
	var strong, usual api.Assessment
	c.post("/api/assess?use=neat", formulaFile("Strong", "100 g of pickling vinegar", "900 g of water")).gives(http.StatusOK, &strong)
	c.post("/api/assess?use=neat", formulaFile("Usual", "100 g of white vinegar", "900 g of water")).gives(http.StatusOK, &usual)
	assert.InDelta(t, 2, strong.Chemistry.FreeAlkalinityGPerLNa2o/usual.Chemistry.FreeAlkalinityGPerLNa2o, 0.05)
	assert.Less(t, strong.Chemistry.Ph.Closed, usual.Chemistry.Ph.Closed)
	assert.InDelta(t, -0.1665/0.99*30.99, strong.Chemistry.FreeAlkalinityGPerLNa2o, 0.1)
	codes := map[string]bool{}
	for _, caution := range strong.Cautions {
		codes[caution.Code] = true
	}
	assert.True(t, codes["acid-after-bleach"], "it has the dangers of vinegar")
	assert.True(t, codes["dangers-not-known"], "and, twice as strong, perhaps more")

	// changed under another name, what was written with the old one still holds
	edit := m.Own
	edit.Name, edit.Strength = "Descaling vinegar", 0.12
	c.put("/api/materials/"+m.Id, edit).gives(http.StatusOK, &m)
	assert.Equal(t, "own-pickling-vinegar", m.Id)
	assert.Contains(t, m.Also, "Pickling vinegar")
	assert.Equal(t, 2, m.Own.Version)
	c.put("/api/materials/"+m.Id, edit).refuses(http.StatusConflict, "stale")
	c.post("/api/assess?use=neat", formulaFile("Strong", "100 g of pickling vinegar", "900 g of water")).gives(http.StatusOK, &strong)
	assert.Equal(t, "Descaling vinegar", strong.Lines[0].Name)

	// a cup of it weighed stands beside what was said of it
	c.put("/api/materials/"+m.Id+"/figures", api.OwnFigures{Weighed: api.WeighedMeasure{Measure: "1 cup", MassG: 240}}).gives(http.StatusOK, &m)
	assert.InDelta(t, (240/236.588+1.012)/2, m.Density.Value, 0.001, "a figure without a band is good to a tenth: one cup goes half of the way")
}

func TestWhatCannotBeAMaterialIsRefusedInItsField(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	for field, in := range map[string]api.OwnMaterial{
		"name":     {Name: "Borax", Like: "salt"},
		"like":     {Name: "Rottenstone", Like: "moonstone"},
		"function": {Name: "Rottenstone"},
		"form":     {Name: "Rottenstone", Function: "abrasive"},
		"strength": {Name: "Rottenstone", Like: "borax", Strength: 0.5},
	} {
		p := c.post("/api/materials", in).refuses(http.StatusUnprocessableEntity, "bad-value")
		assert.Equal(t, field, p.Field)
	}
	clay := api.OwnMaterial{Name: "Rottenstone", Form: "powder", Function: "abrasive"}
	c.post("/api/materials", clay).gives(http.StatusCreated, nil)
	p := c.post("/api/materials", clay).refuses(http.StatusConflict, "taken")
	assert.Contains(t, p.Detail, "of that name already")
	p = c.post("/api/materials", api.OwnMaterial{Name: "Fine rottenstone", Also: []string{"rottenstone"}, Like: "salt"}).refuses(http.StatusUnprocessableEntity, "bad-value")
	assert.Contains(t, p.Detail, "means rottenstone already")
	c.put("/api/materials/borax", api.OwnMaterial{Name: "Other borax", Like: "borax", Version: 1}).refuses(http.StatusNotFound, "not-found")
	// by a cup, nobody knows what it weighs until a cup is weighed
	var a api.Assessment
	c.post("/api/assess", formulaFile("Scour", "1 cup of rottenstone")).gives(http.StatusOK, &a)
	require.NotEmpty(t, a.Questions)
	c.put("/api/materials/own-rottenstone/figures", api.OwnFigures{Weighed: api.WeighedMeasure{Measure: "1 cup", MassG: 160}}).gives(http.StatusOK, nil)
	c.post("/api/assess", formulaFile("Scour", "1 cup of rottenstone")).gives(http.StatusOK, &a)
	assert.InDelta(t, 160, a.TotalMassG.Value, 0.01)
}

// A name is a name in any script, and as long as one may be.
func TestNamesOfManyKinds(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	for _, name := range []string{"Цеолит", "Crème d’argile", strings.Repeat("ab ", 26) + "x", "100 % kaolin"} {
		var m api.Material
		c.post("/api/materials", api.OwnMaterial{Name: name, Form: "powder", Function: "abrasive"}).gives(http.StatusCreated, &m)
		edit := m.Own
		edit.Note = "changed"
		c.put("/api/materials/"+url.PathEscape(m.Id), edit).gives(http.StatusOK, &m)
		assert.Equal(t, "changed", m.Note)
		c.put("/api/materials/"+url.PathEscape(m.Id)+"/figures", api.OwnFigures{Weighed: api.WeighedMeasure{Measure: "1 cup", MassG: 200}}).gives(http.StatusOK, nil)
		c.take("1 kg " + name + " 3.00")
	}
}

// What one process worked out of a library holds no longer than the library: a change that
// it made itself counts at once, one made by another as soon as that is told, and no
// workshop sees another's.
func TestALibraryIsNoOlderThanItsWorkshop(t *testing.T) {
	h := open(t)
	here := h.founded("marl")
	there := h.signIn("marl")
	there.url = h.serve()
	stranger := h.founded("stranger")
	weighs := func(c *client) float64 {
		var a api.Assessment
		c.post("/api/assess", formulaFile("Plain", "1 cup of borax")).gives(http.StatusOK, &a)
		return a.TotalMassG.Value
	}
	usual := weighs(there)
	assert.Equal(t, usual, weighs(here))
	soon := func(want float64) {
		t.Helper()
		require.Eventually(t, func() bool { return math.Abs(weighs(there)-want) < 0.01 }, time.Minute, time.Millisecond)
	}
	for _, g := range []float64{230, 180} {
		here.put("/api/materials/borax/figures", api.OwnFigures{Weighed: api.WeighedMeasure{Measure: "1 cup", MassG: g}}).gives(http.StatusOK, nil)
		now := weighs(here)
		assert.NotEqual(t, usual, now)
		soon(now)
		assert.Equal(t, usual, weighs(stranger))
	}
	here.put("/api/materials/borax/figures", api.OwnFigures{ForgetDensity: true}).gives(http.StatusOK, nil)
	soon(usual)
	// what was refused leaves nothing behind
	there.post("/api/materials", api.OwnMaterial{Name: "Borax", Like: "salt"}).refuses(http.StatusUnprocessableEntity, "bad-value")
	assert.Equal(t, usual, weighs(there))
}

// Figures that were kept and do not hold cost a workshop those figures, not its shelf: a
// good stands there as one of which nothing is known, a material as it is shipped.
func TestFiguresThatDoNotHoldCloseNoWorkshop(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	w := h.furnish(c, "OWN")
	c.put("/api/materials/borax/figures", api.OwnFigures{Weighed: api.WeighedMeasure{Measure: "1 cup", MassG: 230}}).gives(http.StatusOK, nil)
	conn, err := pgx.Connect(t.Context(), h.dsn)
	require.NoError(t, err)
	defer conn.Close(t.Context())
	for _, sql := range []string{"update makings set assessed = jsonb_set(assessed, '{density}', '{\"value\": 19, \"low\": 19, \"high\": 19}')",
		"update material_settings set density_value = 40", "update measurings set value = 40 where kind = 'density'"} {
		_, err := conn.Exec(t.Context(), sql)
		require.NoError(t, err, sql)
	}
	c.url = h.serve() // which has no library yet
	for _, path := range []string{"/api/shelf", "/api/lots", "/api/formulas", "/api/pantry", "/api/batches", "/api/workshop"} {
		c.get(path).gives(http.StatusOK, nil)
	}
	var a api.Assessment
	c.post("/api/assess", formulaFile("Plain", "1 cup of borax", "100 g of "+w.finished.Name)).gives(http.StatusOK, &a)
	assert.Len(t, a.Lines, 2)
	assert.Contains(t, fmt.Sprint(a.Cautions), w.finished.Name)
}

// What was noted wrongly when a lot came is put right, and what it was before
// stays with it; what is finished keeps the cost it had.
func TestALotIsCorrected(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	lot := c.take("1 kg borax 30.00 from Quayside, lot B1, best 2027-01-31")
	c.take("1 kg borax 3.00 from Quayside, lot B2")
	f := c.keep("Plain", "500 g of borax")
	b := c.weigh(c.begin(f, api.Target{Factor: 1}), 0, "B1", 500)
	c.post("/api/batches/"+b.Id.String()+"/finish", api.Finish{Jars: 1}).gives(http.StatusOK, &b)
	assert.Equal(t, "15.00", b.Cost)

	mark := func(correction api.LotCorrection) *answer {
		return c.patch("/api/lots/"+lot.Id.String(), api.LotMark{Correct: correction, Reason: "a slip"})
	}
	mark(api.LotCorrection{Code: "b2"}).refuses(http.StatusConflict, "taken")
	mark(api.LotCorrection{Landed: "a lot"}).refuses(http.StatusUnprocessableEntity, "bad-value")
	nobody := ""
	var right api.Lot
	mark(api.LotCorrection{Landed: "3.00", Code: "B1A", Supplier: &nobody}).gives(http.StatusOK, &right)
	assert.Equal(t, []string{"3.00", "3.00", "B1A", ""}, []string{right.Landed, right.PricePerKg, right.Code, right.Supplier})
	var detail api.LotDetail
	c.get("/api/lots/"+lot.Id.String()).gives(http.StatusOK, &detail)
	last := detail.Movements[len(detail.Movements)-1]
	assert.Equal(t, "code was B1, is B1A; price was 30.00, is 3.00; supplier was Quayside, is none; a slip", last.Reason)
	assert.Zero(t, last.Grams)
	mark(api.LotCorrection{Code: "B1A"}).gives(http.StatusOK, nil)
	detail = api.LotDetail{}
	c.get("/api/lots/"+lot.Id.String()).gives(http.StatusOK, &detail)
	assert.Equal(t, last, detail.Movements[len(detail.Movements)-1], "nothing was changed, so nothing is said")
	c.get("/api/batches/"+b.Id.String()).gives(http.StatusOK, &b)
	assert.Equal(t, "15.00", b.Cost, "it cost what it was thought to")
}

// A lot is found by its code, in any case of letters, also when it is used up.
func TestALotIsFoundByItsCode(t *testing.T) {
	c := open(t).founded("marl")
	lot := c.take("2 kg borax 6.00, lot 22-B")
	c.take("2 kg borax 6.00, lot 22-BX")
	var page api.LotPage
	c.get("/api/lots?code=22-b&empty=true").gives(http.StatusOK, &page)
	require.Len(t, page.Lots, 1)
	assert.Equal(t, lot.Id, page.Lots[0].Id)
	c.get("/api/lots?code=none").gives(http.StatusOK, &page)
	assert.Empty(t, page.Lots)
}
