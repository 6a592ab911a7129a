package web_test

import (
	"context"
	"fmt"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
)

// packed is a good of three jars of 300 g: washing soda, soap and percarbonate.
func packed(t *testing.T, c *client, name string) api.PantryLot {
	t.Helper()
	for _, line := range []string{"2 kg washing soda 4.00", "1 kg soap flakes 9.00", "1 kg sodium percarbonate 6.00"} {
		c.take(line)
	}
	b := c.begin(c.keep(name, "450 g of washing soda", "180 g of soap flakes", "270 g of sodium percarbonate"), api.Target{Factor: 1})
	for i := range b.Lines {
		b = c.weigh(b, i, b.Lines[i].Lots[0].Code, b.Lines[i].TargetG)
	}
	c.post("/api/batches/"+b.Id.String()+"/finish", api.Finish{Jars: 3}).gives(http.StatusOK, nil)
	var good api.PantryLot
	c.get("/api/pantry/"+b.Id.String()).gives(http.StatusOK, &good)
	return good
}

func TestALabelIsLaidOutPrintedAndKept(t *testing.T) {
	h := open(t)
	c := h.founded("keeper")
	good := packed(t, c, "Towpath")
	where := "/api/batches/" + good.Batch.String()
	wish := api.LabelWish{Form: "whole", Languages: []string{"en", "de"}, Use: "Kills all germs in the drum.", Origin: "https://works.example"}

	var view api.LabelView
	c.post(where+"/label", wish).gives(http.StatusOK, &view)
	assert.Contains(t, view.Svg, "Danger", "30 %% percarbonate damages eyes")
	assert.Contains(t, view.Svg, "Augenschäden")
	assert.InDelta(t, 300, view.Net, 0.01)
	require.Len(t, view.Claims, 1)
	assert.Equal(t, "Kills", view.Claims[0].Word)
	for _, m := range view.Misfits {
		assert.False(t, m.Grave, m.Says)
	}

	carded := wish
	carded.Use, carded.Card, carded.Form = "", "burnt-pan", "pouch"
	c.post(where+"/label", carded).gives(http.StatusOK, &view)
	assert.Contains(t, view.Svg, "Burnt pan")
	assert.Contains(t, view.Svg, "Seide", "not on silk, in both languages")
	carded.Card = "no-such"
	c.post(where+"/label", carded).refuses(http.StatusUnprocessableEntity, "no-such-card")

	wish.Use = "Into the drum."
	var printed api.LabelPrint
	c.post(where+"/prints", api.LabelOrder{Label: wish, Sheet: "a4", Start: 1}).gives(http.StatusCreated, &printed)
	assert.Equal(t, 3, printed.Labels)
	assert.Equal(t, []int{1, 2, 3}, printed.Jars)
	assert.Equal(t, 0, printed.NextStart, "four places a page: one used up, three printed")

	// what was printed is printed again as it was, whatever has changed since
	var w api.Workshop
	c.get("/api/workshop").gives(http.StatusOK, &w)
	w.Name, w.Address = "Moved", "Elsewhere"
	c.put("/api/workshop", w).gives(http.StatusOK, nil)
	file := c.get("/api/prints/"+printed.Id.String()+"/file").gives(http.StatusOK, nil)
	assert.Equal(t, "application/pdf", file.header.Get("Content-Type"))
	words := pdfWords(t, file.body)
	assert.Equal(t, 3, strings.Count(words, "Towpath"))
	assert.NotContains(t, words, "Moved")
	again := c.get("/api/prints/"+printed.Id.String()+"/file?sheet=single").gives(http.StatusOK, nil)
	assert.Equal(t, 3, strings.Count(pdfWords(t, again.body), "Towpath"))
	c.get("/api/prints/"+printed.Id.String()+"/file?place=99").refuses(http.StatusUnprocessableEntity, "bad-value")
	var all []api.LabelPrint
	c.get(where+"/prints").gives(http.StatusOK, &all)
	assert.Len(t, all, 1)
}

// pdfWords reads the words of a PDF with poppler.
func pdfWords(t *testing.T, doc []byte) string {
	t.Helper()
	if _, err := exec.LookPath("pdftotext"); err != nil {
		if os.Getenv("KEEN_CROCK_REQUIRE_ALL") != "" {
			t.Fatal("pdftotext is missing: install poppler-utils")
		}
		t.Skip("pdftotext is not installed")
	}
	path := filepath.Join(t.TempDir(), "labels.pdf")
	require.NoError(t, os.WriteFile(path, doc, 0o600))
	out, err := exec.Command("pdftotext", path, "-").Output()
	require.NoError(t, err)
	return string(out)
}

func TestWhatCannotBeLabelledIsSaid(t *testing.T) {
	h := open(t)
	c := h.founded("keeper")
	good := packed(t, c, "Towpath")
	where := "/api/batches/" + good.Batch.String()
	wish := api.LabelWish{Form: "whole", Languages: []string{"en"}}

	small := wish
	small.WidthMm, small.HeightMm = 40, 40
	var view api.LabelView
	c.post(where+"/label", small).gives(http.StatusOK, &view)
	grave := false
	for _, m := range view.Misfits {
		grave = grave || m.Grave
	}
	assert.True(t, grave)
	c.post(where+"/prints", api.LabelOrder{Label: small, Sheet: "a4"}).refuses(http.StatusUnprocessableEntity, "does-not-fit")

	odd := wish
	odd.Languages = []string{"xx"}
	c.post(where+"/label", odd).refuses(http.StatusUnprocessableEntity, "no-such-language")
	odd = wish
	odd.Form = "banner"
	c.post(where+"/label", odd).refuses(http.StatusUnprocessableEntity, "bad-value")
	for _, origin := range []string{"javascript:alert(1)", "works.example", "https://a.example/path", "https://u:p@a.example"} {
		odd = wish
		odd.Origin = origin
		c.post(where+"/label", odd).refuses(http.StatusUnprocessableEntity, "bad-value")
	}
	// a jar of another workshop is not one of this batch
	other := packed(t, h.founded("other"), "Theirs")
	odd = wish
	odd.Origin, odd.Jar = "https://works.example", other.JarList[0].Id
	c.post(where+"/label", odd).refuses(http.StatusUnprocessableEntity, "other-jar")
	c.post(where+"/prints", api.LabelOrder{Label: wish, Sheet: "a4", Jars: []uuid.UUID{other.JarList[0].Id}}).refuses(http.StatusUnprocessableEntity, "other-jar")

	// a batch that made nothing
	b := c.begin(c.keep("Never", "100 g of washing soda"), api.Target{Factor: 1})
	c.post("/api/batches/"+b.Id.String()+"/label", wish).refuses(http.StatusConflict, "not-finished")
	c.post("/api/batches/"+b.Id.String()+"/abandon", api.Abandon{Reason: "spilt"}).gives(http.StatusOK, nil)
	c.post("/api/batches/"+b.Id.String()+"/label", wish).refuses(http.StatusConflict, "abandoned")
}

// What a phone that read a jar's code is shown says nothing of cost or stock, and nothing
// at all where the owner wishes so.
func TestTheCodeOfAJarOpensItsPage(t *testing.T) {
	h := open(t)
	c := h.founded("keeper")
	good := packed(t, c, "Towpath")
	token := tokenOf(t, h, good)
	phone := h.visitor()

	var page api.JarPage
	answer := phone.get("/api/jar-pages/"+token+"?hardness=300%20mg/l").gives(http.StatusOK, &page)
	assert.Equal(t, "Towpath", page.Name)
	assert.Equal(t, api.JarPageSignalWordDanger, page.SignalWord)
	assert.NotEmpty(t, page.Statements)
	assert.Equal(t, "very hard", page.HardnessClass)
	require.NotEmpty(t, page.Cards)
	for _, word := range []string{"cost", "landed", "currency", "remaining", "supplier", good.CostPerJar, `"left"`, `"batch"`} {
		assert.NotContains(t, string(answer.body), word)
	}
	phone.get("/api/jar-pages/"+token+"?hardness=wet").refuses(http.StatusUnprocessableEntity, "bad-value")
	for _, guess := range []string{"x", strings.Repeat("0", 32), token[:31], strings.ToUpper(token), good.JarList[0].Id.String()} {
		phone.get("/api/jar-pages/"+guess).refuses(http.StatusNotFound, "not-found")
	}
	phone.get("/api/pantry").refuses(http.StatusUnauthorized, "not-signed-in")

	var w api.Workshop
	c.get("/api/workshop").gives(http.StatusOK, &w)
	w.PrivateJars = true
	c.put("/api/workshop", w).gives(http.StatusOK, nil)
	phone.get("/api/jar-pages/"+token).refuses(http.StatusNotFound, "not-found")
}

// tokenOf is what stands behind the code of the first jar of a good.
func tokenOf(t *testing.T, h *house, good api.PantryLot) (token string) {
	t.Helper()
	conn, err := pgx.Connect(context.Background(), h.dsn)
	require.NoError(t, err)
	defer conn.Close(context.Background())
	require.NoError(t, conn.QueryRow(context.Background(), "select token from pieces where id = $1", good.JarList[0].Id).Scan(&token))
	return token
}

func TestAFillIsChecked(t *testing.T) {
	h := open(t)
	c := h.founded("keeper")
	good := packed(t, c, "Towpath")
	where := "/api/batches/" + good.Batch.String() + "/fill-checks"
	var check api.FillCheck
	c.post(where, api.FillWeighings{TareG: 200, GrossG: []float64{501, 500, 502}}).gives(http.StatusCreated, &check)
	assert.True(t, check.Passes)
	assert.InDelta(t, 300, check.Nominal, 0.01)
	c.post(where, api.FillWeighings{TareG: 200, GrossG: []float64{495, 496, 497}}).gives(http.StatusCreated, &check)
	assert.False(t, check.Passes)
	assert.Greater(t, check.FillTo, 300.0)
	for _, bad := range []api.FillWeighings{{TareG: 600, GrossG: []float64{500, 500, 500}}, {GrossG: []float64{500, 500}}, {GrossG: []float64{5, 5, 5}, Nominal: 2}} {
		c.post(where, bad).refuses(http.StatusUnprocessableEntity, "bad-value")
	}
	c.post(where, api.FillWeighings{Unit: "ml", GrossG: []float64{500, 500, 500}}).refuses(http.StatusUnprocessableEntity, "bad-value")
	var all []api.FillCheck
	c.get(where).gives(http.StatusOK, &all)
	assert.Len(t, all, 2)
}

func TestDosesAndDilutionsOfWhatWasMade(t *testing.T) {
	h := open(t)
	c := h.founded("keeper")
	good := packed(t, c, "Towpath")
	where := "/api/pantry/" + good.Batch.String()
	at := func(hardness string) float64 {
		var table api.DoseTable
		c.get(where+"/doses?hardness="+strings.ReplaceAll(hardness, " ", "%20")).gives(http.StatusOK, &table)
		require.NotEmpty(t, table.Rows)
		return table.Rows[0].Grams
	}
	assert.Less(t, at("20 mg/l"), at("200 mg/l"))
	c.get(where+"/doses?soil=filthy").refuses(http.StatusUnprocessableEntity, "bad-value")
	c.get(where+"/doses?hardness=much").refuses(http.StatusUnprocessableEntity, "bad-value")

	// a machine of one's own takes the place of the usual ones
	c.put("/api/machines", []api.Machine{{Name: "Copper", UsedOn: "laundry", WaterL: 25}}).gives(http.StatusOK, nil)
	var table api.DoseTable
	c.get(where+"/doses").gives(http.StatusOK, &table)
	assert.True(t, table.OwnMachines)
	assert.Equal(t, "Copper", table.Rows[0].Name)
	c.put("/api/machines", []api.Machine{{Name: "Dry", UsedOn: "laundry", WaterL: 0}}).refuses(http.StatusUnprocessableEntity, "bad-value")

	var dose api.TrueDose
	c.post(where+"/loads", api.LoadsCount{Loads: 15, Grams: 300}).gives(http.StatusOK, &dose)
	assert.InDelta(t, 20, dose.GramsPerLoad, 1e-9)
	c.post(where+"/loads", api.LoadsCount{Loads: 5, Grams: 5000}).refuses(http.StatusUnprocessableEntity, "bad-value")

	var d api.Dilution
	c.post(where+"/dilution", api.DilutionWish{Said: "1 in 5", Bottle: "500 ml"}).gives(http.StatusOK, &d)
	assert.InDelta(t, 100, d.GoodMl, 1e-9)
	assert.InDelta(t, 400, d.WaterMl, 1e-9)
	assert.Greater(t, d.Ph, 9.0)
	for _, bad := range []api.DilutionWish{{Said: "strong", Bottle: "500 ml"}, {Said: "1:5", Bottle: "a lot"}, {Said: "1:5", Bottle: "500 ml", Inside: "600 ml"}, {Said: "1:5", Bottle: "500 g"}} {
		c.post(where+"/dilution", bad).refuses(http.StatusUnprocessableEntity, "bad-value")
	}
}

// A bottle that is filled takes what goes into it out of the jars, costs its share, comes
// round to be emptied, and can be taken back: to the last gram and cent.
func TestABottleTakesWhatGoesIntoIt(t *testing.T) {
	h := open(t)
	c := h.founded("keeper")
	good := packed(t, c, "Towpath")
	where := "/api/pantry/" + good.Batch.String()
	see := func() (g api.PantryLot) {
		c.get(where).gives(http.StatusOK, &g)
		return g
	}
	left := func(g api.PantryLot) (grams float64) {
		for _, j := range g.JarList {
			if !j.Gone {
				grams += j.Grams
			}
		}
		return grams
	}
	sound := func() {
		broken, err := h.store().Verify(t.Context())
		require.NoError(t, err)
		assert.Empty(t, broken)
	}
	before := see()
	wish := api.DilutionWish{Said: "1 in 5", Bottle: "500 ml"}
	var one api.FilledBottle
	c.post(where+"/bottles", wish).gives(http.StatusCreated, &one)
	assert.InDelta(t, one.Dilution.GoodG, one.TakenG, 0.001)
	assert.Equal(t, []string{before.JarList[0].Code}, one.Jars)
	after := see()
	assert.InDelta(t, left(before)-one.TakenG, left(after), 0.001)
	assert.InDelta(t, before.JarList[0].Grams-one.TakenG, after.JarList[0].Grams, 0.001)
	each, err := decimal.NewFromString(before.JarList[0].Cost)
	require.NoError(t, err)
	assert.Equal(t, each.Mul(decimal.NewFromFloat(one.TakenG/before.JarList[0].Grams)).StringFixed(2), one.Cost, "its share of the jar")
	sound()
	var chores []api.Chore
	c.get("/api/chores").gives(http.StatusOK, &chores)
	require.Len(t, chores, 1)
	assert.True(t, chores[0].Bottle)
	assert.Zero(t, chores[0].EveryDays)
	assert.Equal(t, one.EmptyBy, chores[0].Next)
	assert.Contains(t, chores[0].Title, "Towpath")

	// through the end of one jar into the next; then more than there is
	last := 0.0
	var two api.FilledBottle
	for len(two.Jars) < 2 {
		last = left(see())
		c.post(where+"/bottles", wish).gives(http.StatusCreated, &two)
	}
	sound()
	assert.InDelta(t, last-two.TakenG, left(see()), 0.001)
	c.post(where+"/bottles", api.DilutionWish{Said: "neat", Bottle: "90 l"}).refuses(http.StatusUnprocessableEntity, "short-lot")
	sound()

	c.call("DELETE", "/api/bottles/"+two.Id.String(), nil).gives(http.StatusNoContent, nil)
	assert.InDelta(t, last, left(see()), 0.001)
	assert.False(t, see().JarList[0].Gone, "the jar it emptied is here again")
	c.call("DELETE", "/api/bottles/"+two.Id.String(), nil).refuses(http.StatusNotFound, "not-found")
	c.call("DELETE", "/api/bottles/"+good.Batch.String(), nil).refuses(http.StatusNotFound, "not-found")
	sound()

	// emptied, it comes round no more
	c.post("/api/chores/"+one.Id.String(), nil).gives(http.StatusOK, nil)
	c.get("/api/chores").gives(http.StatusOK, &chores)
	assert.NotContains(t, fmt.Sprint(chores), one.Id.String())
}

func TestCardsAreFoundWrittenAndComeRound(t *testing.T) {
	h := open(t)
	c := h.founded("keeper")
	good := packed(t, c, "Towpath")
	var cards []api.UseCard
	c.get("/api/cards?ask=burnt%20pan%20aluminium").gives(http.StatusOK, &cards)
	var burnt api.UseCard
	for _, card := range cards {
		if card.Id == "burnt-pan" {
			burnt = card
		}
	}
	assert.Equal(t, []string{"aluminium"}, burnt.Warned)
	require.Len(t, burnt.Goods, 1)
	assert.Equal(t, "Towpath", burnt.Goods[0].Name)

	var formulas []api.FormulaSummary
	c.get("/api/formulas").gives(http.StatusOK, &formulas)
	own := api.OwnCard{Formula: formulas[0].Id, Task: "Boat covers", How: "Disinfects in no time.", NotOn: []string{"wax"}}
	var card api.UseCard
	c.post("/api/cards", own).gives(http.StatusCreated, &card)
	require.Len(t, card.Claims, 1)
	own.How, own.Version = "Brush, rinse.", card.Version
	c.put("/api/cards/"+card.Id, own).gives(http.StatusOK, &card)
	c.put("/api/cards/"+card.Id, own).refuses(http.StatusConflict, "stale")
	c.get("/api/cards?batch="+good.Batch.String()).gives(http.StatusOK, &cards)
	assert.Equal(t, "Boat covers", cards[0].Task, "one's own stand first")
	c.call("DELETE", "/api/cards/"+card.Id, nil).gives(http.StatusNoContent, nil)
	c.call("DELETE", "/api/cards/"+card.Id, nil).refuses(http.StatusNotFound, "not-found")

	var chore api.Chore
	c.post("/api/chores", api.NewChore{Title: "Rinse the machine", EveryDays: 30, Card: "washing-machine"}).gives(http.StatusCreated, &chore)
	assert.Equal(t, api.Today, chore.State)
	var notes []api.WaitingNote
	c.get("/api/waiting").gives(http.StatusOK, &notes)
	said := false
	for _, n := range notes {
		said = said || n.Text == "Rinse the machine"
	}
	assert.True(t, said, "it stands in what is waiting")
	c.post("/api/chores/"+chore.Id.String(), nil).gives(http.StatusOK, &chore)
	assert.Equal(t, api.Later, chore.State)
	assert.Equal(t, h.now.AddDate(0, 0, 30).Format("2006-01-02"), chore.Next.Format("2006-01-02"))
	c.call("DELETE", "/api/chores/"+chore.Id.String(), nil).gives(http.StatusNoContent, nil)
}

// Who has a jar asks why something went wrong with it: weighed by what is in it, and told
// without a word of that; what would change the formula is its maker's.
func TestWhyIsAskedByWhoeverHasAJar(t *testing.T) {
	h := open(t)
	c := h.founded("keeper")
	good := packed(t, c, "Towpath")
	where := "/api/jar-pages/" + tokenOf(t, h, good) + "/why"
	phone := h.visitor()
	var found api.WhyFound
	answer := phone.get(where+"?seen=white+marks+of+soap+on+the+cloth&hardness=320%20mg/l&dose=20%20g").gives(http.StatusOK, &found)
	require.NotEmpty(t, found.Causes)
	sum := 0.0
	for _, cause := range found.Causes {
		sum += cause.Odds
		assert.Empty(t, cause.Change.Says, "no change of a formula")
		if cause.Kind == api.WhyFormula {
			assert.Contains(t, cause.Remedy, "it is a matter of how it is made")
		}
		for _, because := range append(cause.Because, cause.But...) {
			assert.NotRegexp(t, `% of it|is in it|holds no|to 100 g`, because, "nothing of the recipe")
		}
	}
	assert.InDelta(t, 1, sum, 1e-3)
	assert.NotContains(t, string(answer.body), "lines")
	assert.NotRegexp(t, `% of its|is in it`, found.Says)
	require.NotEmpty(t, found.Ask.Test)
	before := found.Causes[0].Odds
	phone.get(where+"?seen=white+marks+of+soap+on+the+cloth&answers="+found.Ask.Test+":yes").gives(http.StatusOK, &found)
	assert.NotEqual(t, before, found.Causes[0].Odds)
	phone.get(where+"?seen=the+moon+is+blue").refuses(http.StatusUnprocessableEntity, "not-seen")
	phone.get(where+"?seen=film&answers=moon:yes").refuses(http.StatusUnprocessableEntity, "no-such-test")
	phone.get(where+"?seen=film&hardness=wet").refuses(http.StatusUnprocessableEntity, "bad-amount")
	phone.get("/api/jar-pages/"+strings.Repeat("0", 32)+"/why?seen=film").refuses(http.StatusNotFound, "not-found")
}

// A change against a cause is told with what it does, and taken into the formula it is a
// version like any other.
func TestAChangeAgainstACauseGoesIntoTheFormula(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	c.take("5 kg washing soda 20.00")
	file := formulaFile("Towpath", "500 g of washing soda", "400 g of soap flakes")
	file.Kind, file.Version, file.Uses.Amount, file.Steps = "laundry-powder", 3, "20 g", []api.FormulaStep{{Kind: "weigh", Lines: []int{0, 1}}, {Kind: "grate", Lines: []int{1}}, {Kind: "mix", Lines: []int{0, 1}}, {Kind: "fill"}}
	var f api.StoredFormula
	c.post("/api/formulas", file).gives(http.StatusCreated, &f)
	var found api.WhyFound
	c.post("/api/why", api.WhyAsked{Seen: "white marks of soap on the cloth", File: f.File, Hardness: "320 mg/l"}).gives(http.StatusOK, &found)
	var change api.WhyChange
	for _, cause := range found.Causes {
		if cause.Cause == "scum" {
			change = cause.Change
		}
	}
	require.NotEmpty(t, change.Says)
	assert.Contains(t, change.Says, "625 g of washing soda in place of 500 g")
	require.NotEmpty(t, change.Differences)
	var changed api.StoredFormula
	c.put("/api/formulas/"+f.Id.String(), api.FormulaEdit{BaseVersion: 1, File: change.File}).gives(http.StatusOK, &changed)
	assert.Equal(t, 2, changed.Version)
	assert.Equal(t, "625 g", changed.File.Lines[0].Amount)
	assert.Contains(t, changed.File.Notes, "Against “")
	assert.Equal(t, f.File.Steps, changed.File.Steps)
}
