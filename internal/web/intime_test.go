package web_test

import (
	"math"
	"net/http"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
)

// tabFormula keeps a formula of pressed tabs with the first of its usual ways.
func (c *client) tabFormula() api.StoredFormula {
	file := formulaFile("Heron", "600 g of washing soda", "300 g of citric acid", "25 g of water", "2 g of lemon oil")
	file.Kind, file.Yield.Amount = "dish-tab", "24 tabs"
	var ways []api.WayOfMaking
	c.post("/api/steps", file).gives(http.StatusOK, &ways)
	file.Version, file.Steps = 3, ways[0].Steps
	var f api.StoredFormula
	c.post("/api/formulas", file).gives(http.StatusCreated, &f)
	return f
}

// at is the place of a call on a batch.
func at(b api.Batch, call string) string { return "/api/batches/" + b.Id.String() + "/" + call }

func (c *client) act(b *api.Batch, a api.BatchAct) {
	c.t.Helper()
	var after api.Batch
	c.post(at(*b, "acts"), a).gives(http.StatusCreated, &after)
	*b = after
}

func step(n int) *int { return &n }

func kindsOf(b api.Batch) (kinds []string) {
	for _, s := range b.Steps {
		kinds = append(kinds, s.Kind)
	}
	return kinds
}

// The whole life of a batch of tabs: weighed, mixed by a timer, wetted by drops,
// checked with a remedy, pressed, dried by weight over two days with a cracked tray,
// and packed in two parts.
func TestABatchOfTabsInTime(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	soda, acid := c.take("2 kg washing soda 8.00"), c.take("1 kg citric acid 6.00")
	oil := c.take("50 g lemon oil 5.00")
	f := c.tabFormula()
	b := c.begin(f, api.Target{Factor: 1})
	assert.Equal(t, []string{"weigh", "mix", "add", "check", "add", "press", "dry", "check", "fill"}, kindsOf(b))
	assert.Equal(t, 24, b.Steps[5].Pieces)
	assert.Equal(t, api.BatchStateWeighing, b.State)

	// someone changes the formula meanwhile: the batch keeps its own steps
	changed := f.File
	changed.Steps = changed.Steps[:2]
	c.put("/api/formulas/"+f.Id.String(), api.FormulaEdit{BaseVersion: f.Version, File: changed}).gives(http.StatusOK, nil)
	c.get(at(b, "")[:len(at(b, ""))-1]).gives(http.StatusOK, &b)
	assert.Len(t, b.Steps, 9)

	b = c.weigh(b, 0, soda.Code, 600)
	b = c.weigh(b, 1, acid.Code, 300)
	assert.Equal(t, api.BatchStateInWork, b.State, "what is added by drops is not waited for on the scale")
	require.NotNil(t, b.Step)
	assert.Equal(t, 1, *b.Step)

	// a timer survives whatever looks at it, and another device sees it on the rack
	c.act(&b, api.BatchAct{Kind: "timer-set", Step: step(1), Seconds: 300})
	require.Len(t, b.Timers, 1)
	mate := h.with(c, "teasel", api.Maker)
	var rack api.Rack
	mate.get("/api/rack").gives(http.StatusOK, &rack)
	require.Len(t, rack.Timers, 1)
	assert.Equal(t, h.now.Add(5*time.Minute), rack.Timers[0].Ends.UTC())
	h.now = h.now.Add(6 * time.Minute)
	mate.act(&b, api.BatchAct{Kind: "timer-ended", Event: rack.Timers[0].Event})
	assert.Empty(t, b.Timers)

	// a step that is done on two devices is done once, and the second is told
	mate.act(&b, api.BatchAct{Kind: "step-done", Step: step(1)})
	p := c.post(at(b, "acts"), api.BatchAct{Kind: "step-done", Step: step(1)}).refuses(http.StatusConflict, "step-done")
	assert.Contains(t, p.Detail, "was done already, by teasel")

	// the binder by drops, with what is spent of its budget
	require.NotNil(t, b.NextLine)
	assert.Equal(t, 2, *b.NextLine)
	b = c.weigh(b, 2, "", 10)
	budget := b.Steps[2].Budgets[0]
	assert.Equal(t, "drop", budget.Each)
	assert.InDelta(t, 0.05, budget.EachG, 0.01, "twenty drops to the millilitre")
	assert.InDelta(t, 10.0/902, budget.ShareOfDry, 0.001)
	c.act(&b, api.BatchAct{Kind: "step-done", Step: step(2)})

	// the handful crumbles: what more water would do is said before it is poured
	assert.Equal(t, "water", b.Steps[3].Check.Answers[1].Remedy.Material)
	c.act(&b, api.BatchAct{Kind: "checked", Step: step(3), Answer: "crumbles"})
	assert.Equal(t, 3, *b.Step, "it is looked at again")
	var tried api.AdditionTried
	c.post(at(b, "try"), api.Addition{Material: "water", Amount: "1/2 tsp"}).gives(http.StatusOK, &tried)
	assert.False(t, tried.Spoils, "%v", tried.Cautions)
	c.post(at(b, "try"), api.Addition{Material: "chlorine bleach", Amount: "50 ml"}).gives(http.StatusOK, &tried)
	assert.True(t, tried.Spoils)
	assert.NotEmpty(t, tried.Cautions)
	c.post(at(b, "try"), api.Addition{Material: "moonlight", Amount: "1 tsp"}).refuses(http.StatusUnprocessableEntity, "unknown-material")
	c.post(at(b, "lines"), api.Addition{Material: "water", Amount: "15 g", Why: "it crumbled"}).gives(http.StatusCreated, &b)
	require.Len(t, b.Lines, 5)
	assert.True(t, b.Lines[4].Added)
	assert.Equal(t, 4, *b.NextLine)
	b = c.weigh(b, 4, "", 15)
	c.act(&b, api.BatchAct{Kind: "checked", Step: step(3), Answer: "holds"})
	b = c.weigh(b, 3, oil.Code, 2)
	c.act(&b, api.BatchAct{Kind: "step-done", Step: step(4)})
	c.act(&b, api.BatchAct{Kind: "handed-over", Text: "Teasel"})
	assert.Equal(t, "Teasel", b.With)
	c.act(&b, api.BatchAct{Kind: "pieces-counted", Step: step(5), Count: 24, Grams: 915})
	c.act(&b, api.BatchAct{Kind: "step-done", Step: step(5)})

	// it stands on the rack, is weighed in, and says when it is dry
	assert.Equal(t, api.BatchStateStanding, b.State)
	c.post(at(b, "finish"), api.Finish{Jars: 1}).refuses(http.StatusUnprocessableEntity, "not-made")
	began := h.now
	mass := func(hours float64) float64 { return math.Round(10*(896+19*math.Exp(-0.08*hours))) / 10 }
	for _, hours := range []float64{0, 5, 11} {
		h.now = began.Add(time.Duration(hours * float64(time.Hour)))
		c = h.signIn("marl")
		c.act(&b, api.BatchAct{Kind: "weighed-in", Step: step(6), Grams: mass(hours)})
	}
	c.post(at(b, "acts"), api.BatchAct{Kind: "weighed-in", Step: step(6), Grams: 1500}).refuses(http.StatusUnprocessableEntity, "grown")
	c.post(at(b, "acts"), api.BatchAct{Kind: "weighed-in", Step: step(6), Grams: 900, At: h.now.Add(time.Hour)}).refuses(http.StatusUnprocessableEntity, "bad-value")
	d := b.Steps[6].Drying
	assert.Equal(t, api.DryingVerdict("drying"), d.Verdict)
	ready := began.Add(time.Duration(math.Log(19/(0.005*896)) / 0.08 * float64(time.Hour)))
	assert.True(t, d.ReadyEarly.Before(ready) && ready.Before(d.ReadyLate), "%s to %s, truly %s", d.ReadyEarly, d.ReadyLate, ready)
	assert.NotEmpty(t, d.Curve)
	c.get("/api/rack").gives(http.StatusOK, &rack)
	require.Len(t, rack.Standing, 1)
	assert.Equal(t, api.StandingShapeTray, rack.Standing[0].Shape)
	assert.Equal(t, "Dry", rack.Standing[0].StepName)
	assert.False(t, rack.Standing[0].Due[0].Late)

	c.act(&b, api.BatchAct{Kind: "pieces-broke", Step: step(6), Count: 2, Text: "the tray cracked"})
	assert.Equal(t, 22, b.Pieces)
	h.now = began.Add(48 * time.Hour)
	c = h.signIn("marl")
	c.get("/api/rack").gives(http.StatusOK, &rack)
	assert.True(t, rack.Standing[0].Due[0].Late)
	c.act(&b, api.BatchAct{Kind: "weighed-in", Step: step(6), Grams: math.Round(10*mass(48)*22/24) / 10})
	assert.Equal(t, api.DryingVerdict("dry"), b.Steps[6].Drying.Verdict)
	c.act(&b, api.BatchAct{Kind: "step-done", Step: step(6)})
	done := b.Events[len(b.Events)-1]
	c.act(&b, api.BatchAct{Kind: "undone", Event: done.Seq})
	assert.Equal(t, api.BatchStateStanding, b.State)
	assert.True(t, b.Events[done.Seq-1].Undone)
	c.act(&b, api.BatchAct{Kind: "step-done", Step: step(6)})
	c.act(&b, api.BatchAct{Kind: "checked", Step: step(7), Answer: "hard"})

	// packed in two parts: the lots are drawn down once, and the cost is shared to the cent
	assert.Equal(t, api.BatchStatePacking, b.State)
	c.post(at(b, "packs"), api.Pack{Jars: 1, EachG: 400}).gives(http.StatusCreated, &b)
	var lots api.LotPage
	c.get("/api/lots?material=washing-soda").gives(http.StatusOK, &lots)
	assert.InDelta(t, 1400, lots.Lots[0].RemainingG, 0.001)
	c.post(at(b, "packs"), api.Pack{Jars: 2, EachG: 400}).refuses(http.StatusUnprocessableEntity, "too-much-packed")
	var page []api.PantryLot
	c.get("/api/pantry").gives(http.StatusOK, &page)
	require.Len(t, page, 1, "a part stands in the pantry while the rest waits")
	c.post(at(b, "finish"), api.Finish{Jars: 1, EachG: 420}).gives(http.StatusOK, &b)
	assert.Equal(t, api.BatchStateFinished, b.State)
	assert.Equal(t, 2, b.Jars)
	// 600 g at 4.00 a kg, 300 g at 6.00, 2 g at 100.00
	assert.Equal(t, api.Money("4.40"), b.Cost)
	var good api.PantryLot
	c.get("/api/pantry/"+b.Id.String()).gives(http.StatusOK, &good)
	sum := decimal.Zero
	for i, j := range good.JarList {
		assert.Equal(t, i+1, j.Number)
		sum = sum.Add(decimal.RequireFromString(string(j.Cost)))
	}
	assert.Equal(t, "4.40", sum.StringFixed(2))
	assert.InDelta(t, 927, b.Outcome.WeighedG, 0.01)
	lost := 0.0
	for _, l := range b.Outcome.Losses {
		lost += l.Grams
	}
	assert.InDelta(t, b.Outcome.WeighedG, b.Outcome.PackedG+lost, 0.1, "mass in is mass out and what was lost")
	assert.Contains(t, b.Outcome.Says, "dried off")
	broken, err := h.store().Verify(t.Context())
	require.NoError(t, err)
	assert.Empty(t, broken)
}

// Nuts are simmered, strained and kept for the next round; what comes out goes onto
// the shelf as a half-made good that another formula takes.
func TestNutsGoRoundAndWhatComesOutIsUsed(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	nuts := c.take("1 kg soap nuts 9.00")
	file := formulaFile("Nut water", "100 g of soap nuts", "1000 g of water")
	file.Kind = "soap-nut-extract"
	var ways []api.WayOfMaking
	c.post("/api/steps", file).gives(http.StatusOK, &ways)
	file.Version, file.Steps = 3, ways[0].Steps
	var f api.StoredFormula
	c.post("/api/formulas", file).gives(http.StatusCreated, &f)
	b := c.begin(f, api.Target{Factor: 1})
	b = c.weigh(b, 0, nuts.Code, 100)
	b = c.weigh(b, 1, "", 1000)
	assert.Equal(t, []string{"weigh", "stand", "heat", "cool", "strain", "fill"}, kindsOf(b))
	c.act(&b, api.BatchAct{Kind: "step-done", Step: step(1)})
	c.act(&b, api.BatchAct{Kind: "pot-weighed", Step: step(2), Grams: 3100})
	c.act(&b, api.BatchAct{Kind: "pot-weighed", Step: step(2), Grams: 2850})
	c.act(&b, api.BatchAct{Kind: "step-done", Step: step(2)})
	c.act(&b, api.BatchAct{Kind: "step-passed", Step: step(3)})
	c.post(at(b, "kept"), api.KeptBack{Line: 0, Grams: 140, Where: "freezer", Step: step(4)}).gives(http.StatusCreated, &b)
	c.act(&b, api.BatchAct{Kind: "yield-weighed", Step: step(4), Grams: 700})
	c.act(&b, api.BatchAct{Kind: "step-done", Step: step(4)})
	assert.InDelta(t, 700, b.LikelyG, 0.01)
	c.post(at(b, "finish"), api.Finish{Bulk: true}).gives(http.StatusOK, &b)
	assert.Equal(t, api.Money("0.90"), b.Cost)

	var lots api.LotPage
	c.get("/api/lots?material=soap-nut").gives(http.StatusOK, &lots)
	require.Len(t, lots.Lots, 2)
	kept := lots.Lots[0]
	if kept.Id == nuts.Id {
		kept = lots.Lots[1]
	}
	assert.Equal(t, 1, kept.Rounds)
	assert.InDelta(t, 140, kept.RemainingG, 0.001)
	assert.True(t, kept.Free, "the liquid bore their cost")
	assert.Equal(t, api.Money("0.00"), kept.Landed)
	assert.Equal(t, b.Code, kept.KeptFrom)
	var whole api.LotDetail
	c.get("/api/lots/"+kept.Id.String()).gives(http.StatusOK, &whole)
	require.Len(t, whole.Movements, 1)
	assert.Equal(t, api.MovementKindKept, whole.Movements[0].Kind)
	assert.Equal(t, b.Code, whole.Movements[0].Batch)

	// they go round again: their second water costs nothing for them, knows nothing as
	// unpriced, and is traced to the bag, both ways
	again := c.begin(f, api.Target{Factor: 1})
	again = c.weigh(again, 0, kept.Code, 100)
	again = c.weigh(again, 1, "", 1000)
	for _, i := range []int{1, 2} {
		c.act(&again, api.BatchAct{Kind: "step-done", Step: step(i)})
	}
	c.act(&again, api.BatchAct{Kind: "step-passed", Step: step(3)})
	c.act(&again, api.BatchAct{Kind: "yield-weighed", Step: step(4), Grams: 600})
	c.act(&again, api.BatchAct{Kind: "step-done", Step: step(4)})
	c.post(at(again, "finish"), api.Finish{Bulk: true}).gives(http.StatusOK, &again)
	assert.Equal(t, api.Money("0.00"), again.Cost)
	assert.Empty(t, again.Unpriced)
	var back api.BatchTrace
	c.get("/api/batches/"+again.Id.String()+"/trace").gives(http.StatusOK, &back)
	bag := back.Bags[slices.IndexFunc(back.Bags, func(b api.TraceBag) bool { return b.Lot == kept.Id })]
	assert.Equal(t, b.Code, bag.KeptFrom)
	require.Len(t, bag.Bags, 1)
	assert.Equal(t, nuts.Id, bag.Bags[0].Lot)
	var forth api.LotTrace
	c.get("/api/lots/"+nuts.Id.String()+"/trace").gives(http.StatusOK, &forth)
	require.Len(t, forth.Batches, 1)
	require.Len(t, forth.Batches[0].Into, 1)
	assert.Equal(t, again.Id, forth.Batches[0].Into[0].Batch)

	spray := c.keep("Wash", "200 g of Nut water", "5 g of salt")
	var a api.Assessment
	c.post("/api/assess", spray.File).gives(http.StatusOK, &a)
	assert.Empty(t, a.Questions)
	salt := c.take("100 g salt 0.50")
	w := c.begin(spray, api.Target{Factor: 1})
	w = c.weigh(w, 0, b.Code, 200)
	w = c.weigh(w, 1, salt.Code, 5)
	c.post(at(w, "finish"), api.Finish{Jars: 1}).gives(http.StatusOK, &w)
	assert.Equal(t, api.Money("0.29"), w.Cost, "200 of 700 g at 0.90, and 5 g of salt")
	broken, err := h.store().Verify(t.Context())
	require.NoError(t, err)
	assert.Empty(t, broken)
}

// An act that is sent again with its key happens once.
func TestAnActIsDoneOnce(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	soda := c.take("2 kg washing soda 8.00")
	b := c.begin(c.tabFormula(), api.Target{Factor: 1})
	b = c.weigh(b, 0, soda.Code, 600)
	n := len(b.Events)
	header := map[string]string{"Idempotency-Key": uuid.NewString(), "Content-Type": "application/json", "X-CSRF-Token": c.csrf}
	for range 2 {
		c.send("POST", at(b, "acts"), strings.NewReader(`{"kind": "timer-set", "step": 1, "seconds": 60}`), header).gives(http.StatusCreated, &b)
	}
	assert.Len(t, b.Events, n+1)
	c.post(at(b, "acts"), api.BatchAct{Kind: "step-done", Step: step(40)}).refuses(http.StatusUnprocessableEntity, "no-such-step")
	c.post(at(b, "acts"), api.BatchAct{Kind: "undone", Event: 9000}).refuses(http.StatusUnprocessableEntity, "no-such-event")
	c.post(at(b, "acts"), api.BatchAct{Kind: "pieces-broke", Step: step(6), Count: 2}).refuses(http.StatusUnprocessableEntity, "bad-value")
}

// Jars come from the shelf at what they cost; what does not go into one is said before
// it is poured.
func TestJarsComeFromTheShelf(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	var jar api.Packaging
	c.post("/api/packaging", api.PackagingDelivery{Name: "bottle 15 oz", HoldsMl: 444, Pieces: 12, Price: "6.00", Supplier: "Quayside"}).gives(http.StatusCreated, &jar)
	assert.Equal(t, 12, jar.Left)
	assert.Equal(t, api.Money("0.50"), jar.Each)
	c.post("/api/packaging", api.PackagingDelivery{Name: "Bottle 15 oz", Pieces: 4, Price: "2.40"}).gives(http.StatusCreated, &jar)
	assert.Equal(t, 16, jar.Left, "of the same name is the same")
	c.post("/api/packaging", api.PackagingDelivery{Name: "jug", Pieces: 1, Price: "dear"}).refuses(http.StatusUnprocessableEntity, "bad-value")

	salt := c.take("1 kg salt 1.00")
	b := c.begin(c.keep("Brine", "900 g of water", "50 g of salt"), api.Target{Factor: 1})
	b = c.weigh(b, 0, "", 900)
	b = c.weigh(b, 1, salt.Code, 50)
	var fits []api.Packaging
	c.get(at(b, "packaging")).gives(http.StatusOK, &fits)
	require.Len(t, fits, 1)
	assert.InDelta(t, 444*1.036, fits[0].HoldsG, 4, "5 % brine weighs 1.036 g/ml (CRC Handbook)")
	p := c.post(at(b, "packs"), api.Pack{Jars: 1, EachG: 500, Container: jar.Id}).refuses(http.StatusUnprocessableEntity, "overfull")
	assert.Contains(t, p.Detail, "bottle 15 oz holds about")
	c.post(at(b, "packs"), api.Pack{Jars: 1, EachG: 450, Container: "pack-none"}).refuses(http.StatusUnprocessableEntity, "unknown-container")
	c.post(at(b, "finish"), api.Finish{Jars: 2, EachG: 450, Container: jar.Id}).gives(http.StatusOK, &b)
	assert.Equal(t, api.Money("1.05"), b.Cost, "two bottles at 0.50, and 50 g of salt")
	c.get("/api/packaging").gives(http.StatusOK, &fits)
	assert.Equal(t, 14, fits[0].Left)
	var lots api.LotPage
	c.get("/api/lots").gives(http.StatusOK, &lots)
	assert.Len(t, lots.Lots, 1, "bottles are no material")
	var trace api.BatchTrace
	c.get("/api/batches/"+b.Id.String()+"/trace").gives(http.StatusOK, &trace)
	broken, err := h.store().Verify(t.Context())
	require.NoError(t, err)
	assert.Empty(t, broken)
}

// Baking soda in the oven becomes soda ash: the weight says how far it is, and what
// comes of it is that, to everything it goes into. It loses 36.9 % (stoichiometry).
func TestBakedSodaIsSodaAsh(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	soda := c.take("2 kg baking soda 4.00")
	file := formulaFile("Own ash", "1000 g of baking soda")
	file.Version, file.Steps = 3, []api.FormulaStep{{Kind: "weigh"}, {Kind: "heat", Celsius: 200, For: "1 h", Lines: []int{0}}, {Kind: "fill"}}
	var f api.StoredFormula
	c.post("/api/formulas", file).gives(http.StatusCreated, &f)
	b := c.begin(f, api.Target{Factor: 1})
	b = c.weigh(b, 0, soda.Code, 1000)
	c.act(&b, api.BatchAct{Kind: "pot-weighed", Grams: 1500})
	c.act(&b, api.BatchAct{Kind: "pot-weighed", Grams: 1315})
	assert.InDelta(t, 0.5, b.Steps[1].BakedShare, 0.01)
	c.act(&b, api.BatchAct{Kind: "pot-weighed", Grams: 1131})
	assert.InDelta(t, 1, b.Steps[1].BakedShare, 0.001)
	c.act(&b, api.BatchAct{Kind: "step-done"})
	c.post(at(b, "finish"), api.Finish{Bulk: true}).gives(http.StatusOK, &b)
	assert.InDelta(t, 631, b.Outcome.WeighedG-b.Outcome.Losses[0].Grams, 1)
	read := func(line string) float64 {
		var a api.Assessment
		c.post("/api/assess?use=5+g/l", formulaFile("P", line)).gives(http.StatusOK, &a)
		return a.Chemistry.Ph.Closed
	}
	assert.InDelta(t, read("100 g of soda ash"), read("100 g of Own ash"), 0.01)
}
