package web_test

import (
	"bytes"
	"fmt"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"keencrock/api"
)

// refusals are those of rows, each in a line.
func refusals(taken *api.RowsTaken) (out []string) {
	for _, p := range taken.Refused {
		out = append(out, fmt.Sprintf("%d %s %s", p.Row, p.Code, p.Field))
	}
	return out
}

// Formulas of somebody's sheet, a line of one in each row: tried, refused as a whole with each
// bad row named, and taken with all lines of a formula or none.
func TestFormulasOfASheet(t *testing.T) {
	c := open(t).founded("marl")
	rows := api.FormulaRows{Take: "try", Rows: []api.FormulaRow{
		{Row: 2, Formula: "Sheet powder", Kind: "Laundry powder", Material: "washing soda", Amount: "2 cups"},
		{Row: 3, Material: "borax", Amount: "500 g", Note: "sieved"},
		{Row: 4, Formula: "Broken", Material: "salt", Amount: "2 moons"},
		{Row: 5, Formula: "broken", Material: "borax", Amount: "1 cup"},
		{Row: 6, Formula: "Odd", Kind: "submarine", Material: "borax"},
		{Row: 7, Formula: "sheet powder", Material: "borax", Amount: "1 cup"},
		{Row: 8, Formula: "Asks", Material: "moon dust", Amount: "1 cup"},
	}}
	var taken api.RowsTaken
	c.post("/api/formulas/many", rows).gives(http.StatusOK, &taken)
	assert.Equal(t, 2, taken.Taken)
	assert.Equal(t, []string{"4 bad-amount amount", "6 bad-value kind", "7 taken formula"}, refusals(&taken))
	find := func() map[string]api.FormulaSummary {
		var all []api.FormulaSummary
		c.get("/api/formulas").gives(http.StatusOK, &all)
		byName := map[string]api.FormulaSummary{}
		for _, f := range all {
			byName[f.Name] = f
		}
		return byName
	}
	assert.NotContains(t, find(), "Sheet powder", "only tried")

	rows.Take = "all"
	c.post("/api/formulas/many", rows).refuses(http.StatusUnprocessableEntity, "bad-rows")
	assert.NotContains(t, find(), "Sheet powder")

	rows.Take = "good"
	c.post("/api/formulas/many", rows).gives(http.StatusOK, &taken)
	require.Contains(t, find(), "Sheet powder")
	assert.Equal(t, 2, find()["Sheet powder"].Lines)
	assert.Equal(t, "laundry-powder", find()["Sheet powder"].Kind)
	assert.Equal(t, 1, find()["Asks"].Questions, "what is not known is kept as it is written, and asked")
	assert.NotContains(t, find(), "Broken")
	var kept api.StoredFormula
	c.get("/api/formulas/"+find()["Sheet powder"].Id.String()).gives(http.StatusOK, &kept)
	assert.Equal(t, "borax", kept.File.Lines[1].Material)
	assert.Equal(t, "sieved", kept.File.Lines[1].Note)

	// the same again is refused, whoever looks only is not let
	c.post("/api/formulas/many", rows).gives(http.StatusOK, &taken)
	assert.Zero(t, taken.Taken)
	c.post("/api/formulas/many", api.FormulaRows{Take: "good", Rows: []api.FormulaRow{{Row: 2, Material: "borax"}}}).gives(http.StatusOK, &taken)
	assert.Equal(t, []string{"2 bad-value formula"}, refusals(&taken))
}

// Materials of the workshop's own and lots of them, from sheets: strengths, days and packs as
// they are written there.
func TestMaterialsAndLotsOfASheet(t *testing.T) {
	c := open(t).founded("marl")
	var taken api.RowsTaken
	c.post("/api/materials/many", api.MaterialRows{Take: "good", Rows: []api.MaterialRow{
		{Row: 2, Name: "Strong vinegar of the mill", Like: "cleaning vinegar", Strength: "12 %", Also: "mill vinegar; miller's", SealedDays: "700"},
		{Row: 3, Name: "Borax", Like: "borax"},
		{Row: 4, Name: "Mystery", Like: "moon rock"},
		{Row: 5, Name: "Half", Like: "white vinegar", Strength: "plenty"},
		{Row: 6, Name: "Gel base", Form: "liquid", Function: "surfactant", Hazards: "H318, H315"},
		{Row: 7, Name: "Days", Like: "borax", SealedDays: "1.5"},
		{Row: 8, Name: "Odd", Like: "white vinegar", Strength: "NaN"},
	}}).gives(http.StatusOK, &taken)
	assert.Equal(t, 2, taken.Taken)
	assert.Equal(t, []string{"3 bad-value name", "4 bad-value like", "5 bad-value strength", "7 bad-value sealed_days", "8 bad-value strength"}, refusals(&taken))

	// the same again is there already, and holds nothing up that comes after it
	c.post("/api/materials/many", api.MaterialRows{Take: "good", Rows: []api.MaterialRow{{Row: 2, Name: "Gel base", Like: "borax"}, {Row: 3, Name: "gel  BASE", Like: "borax"}, {Row: 4, Name: "Late", Like: "borax"}, {Row: 5, Name: "Late", Like: "borax"}}}).gives(http.StatusOK, &taken)
	assert.Equal(t, 1, taken.Taken)
	assert.Equal(t, []string{"2 taken name", "3 taken name", "5 taken name"}, refusals(&taken))

	lots := api.LotRows{Take: "good", Rows: []api.LotRow{
		{Row: 2, Material: "mill vinegar", Amount: "5 l", Price: "12.50", Supplier: "The mill", Lot: "MV1", Received: "2026-05-02", BestBefore: "2027-05-01"},
		{Row: 3, Material: "borax", Amount: "1 kg", Packs: "4", Price: "11,00"},
		{Row: 4, Material: "moon dust", Amount: "1 kg"},
		{Row: 5, Material: "borax", Amount: "a lot"},
		{Row: 6, Material: "borax", Amount: "1 kg", Packs: "1.5"},
		{Row: 7, Material: "borax", Amount: "1 kg", Received: "someday"},
		{Row: 8, Material: "borax", Amount: "1 kg", Price: "3.00", Currency: "XTS"},
		{Row: 9, Material: "mill vinegar", Amount: "1 l", Lot: "MV1"},
		{Row: 10, Material: "borax", Amount: "1 kg", Received: "2199-01-01"},
	}}
	c.post("/api/lots/many", lots).gives(http.StatusOK, &taken)
	assert.Equal(t, 2, taken.Taken)
	assert.Equal(t, []string{"4 unknown-material material", "5 bad-value amount", "6 bad-value packs", "7 bad-value received", "8 bad-value currency", "9 taken lot", "10 bad-value received"}, refusals(&taken))
	var page api.LotPage
	c.get("/api/lots?code=MV1").gives(http.StatusOK, &page)
	require.Len(t, page.Lots, 1)
	assert.InDelta(t, 5000, page.Lots[0].RemainingG, 100, "five litres of vinegar weigh about five kilograms")
	assert.Equal(t, "2027-05-01", page.Lots[0].BestBefore.String())
	c.get("/api/lots?material=borax").gives(http.StatusOK, &page)
	assert.Equal(t, api.Money("11.00"), page.Lots[0].Landed)
	assert.InDelta(t, 4000, page.Lots[0].OriginalG, 0.1, "four packs of a kilogram")
}

// A list as it stands on the page is a workbook whose numbers are numbers and whose days are
// days; a code of figures stays text.
func TestAListAsAWorkbook(t *testing.T) {
	c := open(t).founded("marl")
	asked := api.WorkbookAsked{Name: "lots", Head: []string{"lot", "price", "received", "grams"}, Typed: []int{1, 2, 3},
		Rows: [][]string{{"0042", "12.50", "2026-05-02", "5000"}, {"=1+1", "", "", "0.5"}}}
	f, err := excelize.OpenReader(bytes.NewReader(c.post("/api/workbooks", asked).gives(http.StatusOK, nil).body))
	require.NoError(t, err)
	rows, err := f.GetRows("lots", excelize.Options{RawCellValue: true})
	require.NoError(t, err)
	assert.Equal(t, []string{"0042", "12.5", "46144", "5000"}, rows[1], "a day is the number of days since 1899-12-30")
	assert.Equal(t, []string{"=1+1", "", "", "0.5"}, rows[2])
	for cell, want := range map[string]excelize.CellType{"A2": excelize.CellTypeInlineString, "B2": excelize.CellTypeUnset, "C2": excelize.CellTypeUnset, "A3": excelize.CellTypeInlineString} {
		kind, err := f.GetCellType("lots", cell)
		require.NoError(t, err)
		assert.Equal(t, want, kind, cell)
	}
	asked.Typed = []int{4}
	c.post("/api/workbooks", asked).refuses(http.StatusUnprocessableEntity, "bad-value")
	asked.Typed, asked.Rows = nil, [][]string{{"a", "b", "c", "d", "e"}}
	c.post("/api/workbooks", asked).refuses(http.StatusUnprocessableEntity, "bad-value")
}

// Orders of a sheet, once and standing: what is past, unknown or no number is named.
func TestOrdersOfASheet(t *testing.T) {
	s := opened(t, 2)
	var taken api.RowsTaken
	s.post("/api/orders/many", api.OrderRows{Take: "good", Rows: []api.OrderRow{
		{Row: 2, Good: "towpath", Jars: "12", Day: "2026-06-20", To: "guest house"},
		{Row: 3, Good: "Towpath", Jars: "3", Day: "2026-06-06", EveryWeeks: "2", Until: "2026-09-01", To: "Saturday stall"},
		{Row: 4, Good: "Heron", Day: "2026-06-20"},
		{Row: 5, Good: "Towpath", Jars: "1.5", Day: "2026-06-20"},
		{Row: 6, Good: "Towpath", Day: "2026-05-01"},
		{Row: 7, Good: "Towpath"},
		{Row: 8, Good: "Towpath", Day: "someday"},
	}}).gives(http.StatusOK, &taken)
	assert.Equal(t, 2, taken.Taken)
	assert.Equal(t, []string{"4 unknown-good good", "5 bad-value jars", "6 bad-value day", "7 bad-value day", "8 bad-value day"}, refusals(&taken))
	var orders []api.GoodOrder
	s.get("/api/orders").gives(http.StatusOK, &orders)
	require.Len(t, orders, 2)
	assert.Equal(t, 2, orders[0].EveryWeeks)
	assert.Equal(t, "guest house", orders[1].To)
}

// Jars that were there before the books were begun: a batch of their good on the day they were
// made. They are sold from that day on, what they cost is known where it was said, and nothing
// of stock was drawn for them.
func TestJarsThatWereThereBefore(t *testing.T) {
	s := opened(t, 2)
	rows := []api.JarRow{
		{Row: 2, Good: "towpath", Jars: "6", Amount: "250 g", Made: "2026-03-14", BestBefore: "2027-03-14", Cost: "1.20"},
		{Row: 3, Good: "Towpath", Jars: "3", Amount: "250 g", Made: "2026-04-20", Note: "from the old shed"},
		{Row: 4, Good: "Heron", Jars: "3", Amount: "250 g", Made: "2026-04-20"},
		{Row: 5, Good: "Towpath", Jars: "1.5", Amount: "250 g", Made: "2026-04-20"},
		{Row: 6, Good: "Towpath", Jars: "2", Amount: "two bits", Made: "2026-04-20"},
		{Row: 7, Good: "Towpath", Jars: "2", Amount: "250 g", Made: "2031-04-20"},
		{Row: 8, Good: "Towpath", Jars: "2", Amount: "250 g", Made: "some day"},
		{Row: 9, Good: "Towpath", Jars: "2", Amount: "250 g", Made: "2026-04-20", BestBefore: "2026-04-19"},
		{Row: 10, Good: "Towpath", Jars: "2", Amount: "250 g", Made: "2026-04-20", Cost: "-1"},
	}
	wrong := []string{"4 unknown-good good", "5 bad-value jars", "6 bad-value amount", "7 bad-value made", "8 bad-value made", "9 bad-value best_before", "10 bad-value cost"}
	var before, after []api.PantryLot
	s.get("/api/pantry").gives(http.StatusOK, &before)
	var taken api.RowsTaken
	s.post("/api/jars/many", api.JarRows{Take: "try", Rows: rows}).gives(http.StatusOK, &taken)
	assert.Equal(t, 2, taken.Taken)
	assert.Equal(t, wrong, refusals(&taken))
	s.post("/api/jars/many", api.JarRows{Take: "all", Rows: rows}).refuses(http.StatusUnprocessableEntity, "bad-rows")
	s.get("/api/pantry").gives(http.StatusOK, &after)
	assert.Equal(t, before, after, "nothing is kept of what was tried, or refused as a whole")

	s.post("/api/jars/many", api.JarRows{Take: "good", Rows: rows}).gives(http.StatusOK, &taken)
	assert.Equal(t, 2, taken.Taken)
	s.get("/api/pantry").gives(http.StatusOK, &after)
	require.Len(t, after, 3)
	byJars := map[int]api.PantryLot{}
	for _, g := range after {
		byJars[g.Jars] = g
	}
	known, unknown := byJars[6], byJars[3]
	assert.Equal(t, "2027-03-14", known.BestBefore.Format("2006-01-02"))
	assert.Equal(t, api.Money("7.20"), known.Cost, "6 × 1.20")
	assert.Empty(t, known.Unpriced)
	assert.Equal(t, []string{"what it was made of before the books were begun"}, unknown.Unpriced)
	assert.InDelta(t, 250, unknown.EachG, 1e-9)

	var b api.Batch
	s.get("/api/batches/"+unknown.Batch.String()).gives(http.StatusOK, &b)
	assert.Equal(t, api.BatchState("finished"), b.State)
	assert.Equal(t, "2026-04-20", b.Started.Format("2006-01-02"))
	var bags api.LotPage
	s.get("/api/lots?material=borax").gives(http.StatusOK, &bags)
	require.Len(t, bags.Lots, 1)
	assert.InDelta(t, 4000, bags.Lots[0].RemainingG, 1e-6, "5 kg came, 1 kg went into the batch of the bench")

	for _, path := range []string{"/api/pantry/%s", "/api/batches/%s/trace", "/api/ledger/batches/%s", "/api/batches/%s/record"} {
		assert.Equal(t, http.StatusOK, s.get(fmt.Sprintf(path, unknown.Batch)).status, path)
	}
	g := s.good()
	assert.Equal(t, 1, g.Batches, "what a good costs is told by batches whose lots are known")
	assert.Equal(t, api.Money("3.00"), g.Cost, "6.00 of borax in two jars")
	var act api.Act
	s.price("4.00")
	s.act("sold", "guest house", 11).gives(http.StatusCreated, &act)
	s.act("sold", "guest house", 1).refuses(http.StatusConflict, "short-jars")
	broken, err := s.store().Verify(t.Context())
	require.NoError(t, err)
	assert.Empty(t, broken)
}
