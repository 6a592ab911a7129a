package web_test

import (
	"context"
	"fmt"
	"maps"
	"net/http"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/oapi-codegen/runtime/types"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
	"keencrock/internal/station/people"
)

func TestAnEmptyDatabaseIsSetUpOnce(t *testing.T) {
	c := open(t).visitor()
	var setup api.Setup
	c.get("/api/setup").gives(http.StatusOK, &setup)
	assert.True(t, setup.Needed)
	first := api.NewWorkshop{Workshop: "Toll House", Login: "Marl", Name: "Marl", Password: password, Currency: "EUR"}
	var session api.Session
	c.post("/api/setup", first).gives(http.StatusCreated, &session)
	assert.Equal(t, "marl", session.Person.Login)
	assert.Equal(t, api.Owner, session.Person.Role)
	c.get("/api/shelf").gives(http.StatusOK, nil)
	c.post("/api/setup", first).refuses(http.StatusConflict, "already-set-up")
}

func TestTheSessionCookieIsOutOfReachOfScriptsAndOtherSites(t *testing.T) {
	h := open(t)
	h.founded("marl")
	a := h.visitor().post("/api/session", api.Credentials{Login: "marl", Password: password}).gives(http.StatusCreated, nil)
	cookie := a.header.Get("Set-Cookie")
	assert.Contains(t, cookie, "HttpOnly")
	assert.Contains(t, cookie, "SameSite=Strict")
	all := a.header.Values("Set-Cookie")
	require.Len(t, all, 2)
	assert.Contains(t, all[1], "keencrock_before=", "that the browser was here, for when many wait")
	for _, attribute := range []string{"HttpOnly", "SameSite=Strict", "Path=/api/session"} {
		assert.Contains(t, all[1], attribute)
	}
	policy := a.header.Get("Content-Security-Policy")
	assert.Contains(t, policy, "script-src 'self';", "no inline script")
	assert.Equal(t, "nosniff", a.header.Get("X-Content-Type-Options"))
	assert.Equal(t, "no-store", a.header.Get("Cache-Control"))
}

func TestChangesNeedTheSessionsOwnTokenAndOurPage(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	body := func() *strings.Reader { return strings.NewReader(`{"line": "1 kg borax 3.00"}`) }
	json := "application/json"
	c.send("POST", "/api/deliveries", body(), map[string]string{"Content-Type": json}).refuses(http.StatusForbidden, "csrf")
	c.send("POST", "/api/deliveries", body(), map[string]string{"Content-Type": json, "X-CSRF-Token": "guess"}).refuses(http.StatusForbidden, "csrf")
	c.send("POST", "/api/deliveries", body(), map[string]string{"Content-Type": json, "X-CSRF-Token": c.csrf, "Origin": "http://elsewhere.example"}).
		refuses(http.StatusForbidden, "foreign-origin")
	c.send("POST", "/api/deliveries", body(), map[string]string{"Content-Type": json, "X-CSRF-Token": c.csrf, "Origin": strings.Replace(c.url, "http://", "https://", 1)}).
		refuses(http.StatusForbidden, "foreign-origin") // a page that came otherwise is another one
	c.send("POST", "/api/deliveries", body(), map[string]string{"Content-Type": json, "X-CSRF-Token": c.csrf, "Origin": c.url, "Idempotency-Key": uuid.NewString()}).gives(http.StatusCreated, nil)
}

func TestSigningOutEverywhereEndsEverySession(t *testing.T) {
	h := open(t)
	here := h.founded("marl")
	there := h.signIn("marl")
	other := h.signIn("marl")
	other.call("DELETE", "/api/session", nil).gives(http.StatusNoContent, nil)
	other.get("/api/session").refuses(http.StatusUnauthorized, "not-signed-in")
	there.get("/api/session").gives(http.StatusOK, nil)
	here.call("DELETE", "/api/session?everywhere=true", nil).gives(http.StatusNoContent, nil)
	there.get("/api/session").refuses(http.StatusUnauthorized, "not-signed-in")
}

func TestAPersonTakenAwayIsOutAtOnce(t *testing.T) {
	h := open(t)
	owner := h.founded("marl")
	mate := h.with(owner, "teasel", api.Maker)
	var who api.Session
	mate.get("/api/session").gives(http.StatusOK, &who)
	owner.call("DELETE", "/api/people/"+who.Person.Id.String(), nil).gives(http.StatusNoContent, nil)
	mate.get("/api/shelf").refuses(http.StatusUnauthorized, "not-signed-in")
	h.visitor().post("/api/session", api.Credentials{Login: "teasel", Password: password}).refuses(http.StatusUnauthorized, "wrong-sign-in")
}

// A password is changed for the one there is, and ends every other session; a
// wrong one counts as a try. A role changes from the next step on, but not one's
// own.
func TestPasswordsAndRolesChange(t *testing.T) {
	h := open(t)
	owner := h.founded("marl")
	elsewhere := h.signIn("marl")
	const next = "another long password"
	owner.put("/api/session/password", api.PasswordChange{Current: "not this one", Password: next}).refuses(http.StatusUnprocessableEntity, "wrong-password")
	owner.put("/api/session/password", api.PasswordChange{Current: password, Password: "short"}).refuses(http.StatusUnprocessableEntity, "bad-field")
	var renewed api.Session
	owner.put("/api/session/password", api.PasswordChange{Current: password, Password: next}).gives(http.StatusOK, &renewed)
	owner.csrf = renewed.CsrfToken
	owner.get("/api/shelf").gives(http.StatusOK, nil)
	elsewhere.get("/api/shelf").refuses(http.StatusUnauthorized, "not-signed-in")
	h.visitor().post("/api/session", api.Credentials{Login: "marl", Password: password}).refuses(http.StatusUnauthorized, "wrong-sign-in")
	h.signInWith("marl", next)

	mate := h.with(owner, "teasel", api.Viewer)
	var who api.Session
	mate.get("/api/session").gives(http.StatusOK, &who)
	mate.post("/api/deliveries", api.DeliveryLine{Line: "1 kg borax"}).refuses(http.StatusForbidden, "not-allowed")
	mate.patch("/api/people/"+who.Person.Id.String(), api.RoleChange{Role: api.Owner}).refuses(http.StatusForbidden, "not-allowed")
	owner.patch("/api/people/"+who.Person.Id.String(), api.RoleChange{Role: api.Maker}).gives(http.StatusOK, nil)
	mate.post("/api/deliveries", api.DeliveryLine{Line: "1 kg borax"}).gives(http.StatusCreated, nil)
	owner.get("/api/session").gives(http.StatusOK, &who)
	owner.patch("/api/people/"+who.Person.Id.String(), api.RoleChange{Role: api.Viewer}).refuses(http.StatusConflict, "not-yourself")

	reset, err := people.New(h.tenant).ResetPassword(context.Background(), " MARL ", false)
	require.NoError(t, err)
	require.Eventually(t, func() bool { return owner.get("/api/shelf").status == http.StatusUnauthorized }, time.Minute, time.Millisecond, "by a command, another process")
	h.signInWith("marl", reset)
	_, err = people.New(h.tenant).ResetPassword(context.Background(), "nobody", false)
	assert.ErrorContains(t, err, "no such person")
}

func TestNothingButSignInWorksWithoutASession(t *testing.T) {
	h := open(t)
	c := h.visitor()
	public := map[string]bool{"getHealth": true, "getContract": true, "getSetup": true, "makeFirstOwner": true, "signIn": true, "readJar": true, "askJarWhy": true, "readCalendar": true, "getPictogram": true}
	tried := 0
	for path, item := range contractSpec.Paths.Map() {
		for method, op := range item.Operations() {
			if public[op.OperationID] {
				continue
			}
			tried++
			c.call(method, fillIn(path, uuid.NewString()), nil).refuses(http.StatusUnauthorized, "not-signed-in")
		}
	}
	assert.Greater(t, tried, 30)
}

func fillIn(path, id string) string {
	return strings.NewReplacer("{id}", id, "{material}", "borax", "{starter}", "wash-powder-soap", "{page}", "words").Replace(path)
}

var labelWish = api.LabelWish{Form: "whole", Languages: []string{"en"}}

func ownCard(w world) api.OwnCard {
	return api.OwnCard{Formula: w.formula.Id, Task: "Theirs", How: "Wipe.", Version: 1}
}

// bodies are sound bodies for every call that takes one.
func bodies(w world) map[string]any {
	return map[string]any{
		"takeStarter":    api.TakeStarter{By: api.TakeStarterByWeight},
		"want":           api.ToWant{For: "Theirs", Lines: []api.ShortLine{{Material: "borax", Grams: 100}}},
		"putWorkshop":    api.Workshop{Name: "Taken over", Measures: api.MeasuresUs, Currency: "EUR", Hardness: "1 mmol/l", ScaleStepG: 1, ScaleCapacityG: 100, Version: 1},
		"addPerson":      api.NewPerson{Login: "newcomer", Name: "N", Password: password, Role: api.Viewer},
		"changePassword": api.PasswordChange{Current: "not this one", Password: password},
		"changeRole":     api.RoleChange{Role: api.Viewer},
		"beginFactor":    api.PasswordProof{Password: "not this one"},
		"confirmFactor":  api.FactorCode{Code: "000000"},
		"endFactor":      api.PasswordProof{Password: "not this one"},
		"addMaterial":    api.OwnMaterial{Name: "Theirs", Like: "borax"},
		"putMaterial":    api.OwnMaterial{Name: "Theirs", Like: "borax", Version: 1},
		"putFigures":     api.OwnFigures{Weighed: api.WeighedMeasure{Measure: "1 cup", MassG: 200}},
		"importShelf":    "material,amount\nborax,1 kg\n",
		"readDelivery":   api.DeliveryLine{Line: "1 kg borax"}, "readDeliveries": api.SaidNote{Text: "1 kg borax"}, "takeDeliveries": api.SaidNote{Text: "1 kg borax, 2 kg salt"}, "takeDelivery": api.DeliveryLine{Line: "1 kg borax"},
		"viewLabel": labelWish, "printLabels": api.LabelOrder{Label: labelWish, Sheet: "a4"},
		"checkFill": api.FillWeighings{GrossG: []float64{1, 1, 1}}, "countLoads": api.LoadsCount{Loads: 3},
		"dilute": api.DilutionWish{Said: "1:5", Bottle: "500 ml"}, "fillBottle": api.DilutionWish{Said: "1:5", Bottle: "500 ml"}, "putMachines": []api.Machine{{Id: "tub", Name: "Tub", UsedOn: "laundry", WaterL: 12}},
		"addCard": ownCard(w), "putCard": ownCard(w), "addChore": api.NewChore{Title: "Theirs", EveryDays: 30},
		"markLot":    api.LotMark{Reason: "theirs"},
		"readSpoken": api.SpokenText{Text: "1 cup borax"}, "readSaid": api.SpokenText{Text: "1 cup borax"}, "assessFormula": formulaFile("Assessed", "1 cup of borax"),
		"mapReading": api.WhatIf{File: formulaFile("Mapped", "1 cup of borax", "1 cup of salt"), Reading: "closed-ph",
			X: api.SweptAmount{Line: 0, ToG: 100, Steps: 3}, Y: api.SweptAmount{Line: 1, ToG: 100, Steps: 3}},
		"compareFormulas": api.TwoFormulas{A: formulaFile("One", "1 cup of borax"), B: formulaFile("Two", "1 cup of salt")},
		"findSwaps":       api.SwapQuestion{File: formulaFile("Swapped", "100 g of borax")},
		"formulateToGoal": api.GoalQuestion{File: formulaFile("Aimed", "100 g of borax")},
		"addFormula":      formulaFile("Added", "1 cup of borax"),
		"putFormula":      api.FormulaEdit{BaseVersion: 1, File: formulaFile("Edited", "1 cup of borax")},
		"planBatch":       api.Target{Factor: 1},
		"startBatch":      api.NewBatch{Formula: w.formula.Id, Target: api.Target{Factor: 1}},
		"putSize":         api.OwnSize{Unit: "mug", Amount: "320 ml"},
		"leaveOut":        api.LeaveOut{Line: 0, Out: true},
		"weigh":           api.Weighing{Line: 0, Lot: w.lot.Id.String(), Grams: 1},
		"noteBatch":       api.BatchNote{Text: "theirs"},
		"pictureBatch":    api.BatchPicture{Jpeg: photo(8, 6), Text: "theirs"},
		"addVessel":       api.VesselPlan{Name: "theirs", CapacityMl: 1000},
		"putVessel":       api.VesselPlan{Name: "theirs", CapacityMl: 1000},
		"doToVessel":      api.VesselAct{Kind: "stirred"},
		"undoToVessel":    api.VesselUndo{Event: 1},
		"actOnBatch":      api.BatchAct{Kind: "timer-set", Step: new(int), Seconds: 60},
		"addToBatch":      api.Addition{Material: "borax", Amount: "10 g"},
		"tryAddition":     api.Addition{Material: "borax", Amount: "10 g"},
		"keepBack":        api.KeptBack{Line: 0, Grams: 1},
		"packBatch":       api.Pack{Jars: 1, EachG: 1},
		"takePackaging":   api.PackagingDelivery{Name: "theirs", Pieces: 1},
		"noteRoom":        api.RoomNote{Celsius: 20, Humidity: 50},
		"proposeSteps":    formulaFile("Made", "1 cup of borax"),
		"correctBatch":    api.BatchCorrection{Event: 1, Text: "theirs"},
		"readBenchSaid":   api.BenchTalk{Text: "stirred it"},
		"measureBatch":    api.MeasuredPh{Ph: 9, With: api.Strip},
		"finishBatch":     api.Finish{Jars: 1}, "abandonBatch": api.Abandon{Reason: "theirs"},
		"tellHands": api.HandsTold{Minutes: 30}, "putRates": api.Rates{Hour: "18.00", Kwh: "0.31", StoveW: 1800, Bought: []api.BoughtGood{}},
		"putPrices": api.JarPrices{Prices: []api.NewPrice{{Formula: w.formula.Id, Outlet: w.outlet.Id, Price: "4.50"}}},
		"addOutlet": api.OutletPlan{Name: "Theirs too", Kind: "outlet"}, "putOutlet": api.OutletPlan{Name: "Theirs three", Kind: "outlet", Version: 1},
		"addAct": api.NewAct{Kind: "sold", To: "Theirs", Lines: []api.ActWish{{Formula: w.formula.Id, Batch: w.finished.Id}}},
		"tryAct": api.NewAct{Kind: "sold", Lines: []api.ActWish{{Jars: []uuid.UUID{w.jar.Id}}}}, "readAct": api.SaidNote{Text: "sold one"},
		"readSheet": []byte("name,jars\nTheirs,1\n"), "addOutlets": api.OutletRows{Take: "good", Rows: []api.OutletRow{{Row: 2, Name: "Theirs four"}}},
		"makeWorkbook": api.WorkbookAsked{Name: "list", Head: []string{"a", "b"}, Rows: [][]string{{"x", "1.50"}}, Typed: []int{1}},
		"addJars":      api.JarRows{Take: "good", Rows: []api.JarRow{{Row: 2, Good: "OWN powder", Jars: "2", Amount: "100 g", Made: "2026-03-20"}}},
		"addOrders":    api.OrderRows{Take: "good", Rows: []api.OrderRow{{Row: 2, Good: "OWN powder", Jars: "2", Day: "2026-06-20", To: "Theirs"}}},
		"addFormulas":  api.FormulaRows{Take: "good", Rows: []api.FormulaRow{{Row: 2, Formula: "Theirs of a sheet", Material: "borax", Amount: "1 cup"}}},
		"addMaterials": api.MaterialRows{Take: "good", Rows: []api.MaterialRow{{Row: 2, Name: "Theirs of a sheet", Like: "borax"}}},
		"addLots":      api.LotRows{Take: "good", Rows: []api.LotRow{{Row: 2, Material: "borax", Amount: "1 kg"}}},
		"addActs":      api.ActRows{Take: "try", Rows: []api.ActRow{{Row: 2, Good: "OWN powder", To: "Theirs"}}},
		"keepSwatch":   api.NewSwatch{Pair: 1, Code: "A", Side: api.SwatchAfter, Jpeg: photo(64, 48)}, "chooseAreas": api.SwatchAreas{Cloth: -1, Stain: -1},
		"keepFoundCause": api.NewFoundCause{Seen: "film", Cause: "other", Formula: w.formula.Id, Note: "theirs"}, "keepSamples": api.NewSamples{Jars: []uuid.UUID{w.jar.Id}}, "lookAtSample": api.NewLook{Signs: []string{"lumps"}, Good: true}, "endSample": api.SampleEnd{}, "countLook": api.MeasuringCounts{},
		"measureFigure": api.SaidMeasuring{Said: "100 drops make 4.6 ml"}, "useFigure": api.FigureUse{Kind: api.FigureDensity, Of: w.figure.Of, AsUsual: true}, "countMeasuring": api.MeasuringCounts{},
		"beginTrial": api.NewTrial{Question: "Theirs", Goods: []api.TrialGood{{Name: "a"}, {Name: "b"}}, Pairs: 6}, "findSwatch": api.SwatchPhoto{Jpeg: photo(64, 48)}, "measureStain": api.StainAsked{Clean: api.LabColour{L: 90}, Stained: api.LabColour{L: 60}, Washed: api.LabColour{L: 80}}, "markTrial": api.NewMark{Pair: 1, Code: "A", Mark: 3}, "rankTrial": api.NewRanks{Pair: 1, Order: []string{"A", "B"}}, "askWhy": api.WhyAsked{Seen: "film"}, "readOrder": api.SaidNote{Text: "40 OWN powder by Friday"}, "planIf": api.PlanIf{OrdersTimes: 2}, "keepPlanIf": api.PlanIf{Vessels: []api.VesselCount{{Name: "tray", Count: 2}}}, "setPin": api.PlanPin{Formula: w.formula.Id, Bench: types.Date{Time: day.AddDate(0, 0, 3)}}, "putNeed": api.NeedSaid{Follow: true},
		"addOrder": api.NewOrder{Formula: w.formula.Id, Jars: 2, Day: types.Date{Time: day.AddDate(0, 0, 9)}, To: "Theirs"}, "putPlanLimits": api.PlanLimits{WorkDays: []int{1, 2}, BenchMinADay: 60, Vessels: []api.VesselCount{{Name: "tray", Count: 1}}},
		"beginStallDay": api.NewStallDay{To: "Theirs", Lines: []api.ActWish{{Jars: []uuid.UUID{w.jar.Id}}}},
		"sellAtStall":   api.StallSale{Formula: w.formula.Id, Kind: "sold"}, "endStallDay": api.StallEnd{Back: []api.StallBack{{Formula: w.formula.Id, Count: 1}}},
		"moveJars": api.JarsMove{Jars: []uuid.UUID{w.jar.Id}, Gone: true},
		"moveJar":  api.JarMove{Gone: true}, "touchScale": api.ScaleTouch{PutG: 1},
	}
}

// world is a workshop with one of everything in it.
type world struct {
	lot      api.Lot
	formula  api.StoredFormula
	finished api.Batch
	open     api.Batch
	jar      api.Jar
	person   api.Person
	picture  uuid.UUID
	outlet   api.Outlet
	act      api.Act
	stall    api.StallDay
	order    api.GoodOrder
	trial    api.Trial
	figure   api.OwnFigure
	sample   api.Sample
	found    api.FoundCause
	swatch   uuid.UUID
}

func (h *house) furnish(c *client, mark string) world {
	h.t.Helper()
	c.post("/api/materials", api.OwnMaterial{Name: mark + " clay", Form: "powder", Function: "abrasive"}).gives(http.StatusCreated, nil)
	w := world{lot: c.take("5 kg borax 15.00 from " + mark + ", lot " + mark)}
	w.formula = c.keep(mark+" powder", "100 g of borax")
	w.finished = c.weigh(c.begin(w.formula, api.Target{Factor: 1}), 0, mark, 100)
	c.post(fmt.Sprintf("/api/batches/%s/finish", w.finished.Id), api.Finish{Jars: 1}).gives(http.StatusOK, nil)
	w.open = c.begin(w.formula, api.Target{Factor: 1})
	c.post(at(w.open, "pictures"), api.BatchPicture{Jpeg: photo(40, 30), Text: mark}).gives(http.StatusCreated, &w.open)
	w.picture = w.open.Events[len(w.open.Events)-1].Picture.Id
	var pantry []api.PantryLot
	c.get("/api/pantry").gives(http.StatusOK, &pantry)
	require.Len(h.t, pantry, 1)
	w.jar = pantry[0].JarList[0]
	c.post("/api/found-causes", api.NewFoundCause{Seen: "film", Cause: "other", Formula: w.formula.Id, Note: mark}).gives(http.StatusCreated, &w.found)
	c.post("/api/outlets", api.OutletPlan{Name: mark + " café", Kind: "outlet", Reach: mark}).gives(http.StatusCreated, &w.outlet)
	out := c.weigh(c.begin(w.formula, api.Target{Factor: 1}), 0, mark, 100)
	c.post(at(out, "finish"), api.Finish{Jars: 2}).gives(http.StatusOK, nil)
	c.post("/api/acts", api.NewAct{Kind: "sold", To: mark + " café", Lines: []api.ActWish{{Batch: out.Id, Price: "4.00"}}}).gives(http.StatusCreated, &w.act)
	c.post("/api/stall-days", api.NewStallDay{To: mark + " stall", Lines: []api.ActWish{{Batch: out.Id}}}).gives(http.StatusCreated, &w.stall)
	c.post("/api/orders", api.NewOrder{Formula: w.formula.Id, Jars: 3, Day: types.Date{Time: day.AddDate(0, 0, 20)}, To: mark + " café"}).gives(http.StatusCreated, &w.order)
	c.post("/api/trials", api.NewTrial{Question: mark, Goods: []api.TrialGood{{Name: mark, Formula: w.formula.Id}, {Name: "water"}}, Pairs: 6}).gives(http.StatusCreated, &w.trial)
	var photographed api.Trial
	c.post("/api/trials/"+w.trial.Id.String()+"/swatches", api.NewSwatch{Pair: 1, Code: "A", Side: api.SwatchBefore, Jpeg: photo(64, 48), Note: mark}).gives(http.StatusCreated, &photographed)
	w.swatch = photographed.Sheet[0].Codes[0].Swatch.Before.Id
	c.post("/api/own-figures", api.SaidMeasuring{Said: "a cup of " + mark + " clay weighs 150 g"}).gives(http.StatusCreated, &w.figure)
	aged := c.weigh(c.begin(w.formula, api.Target{Factor: 1}), 0, mark, 100)
	c.post(at(aged, "finish"), api.Finish{Jars: 1}).gives(http.StatusOK, &aged)
	var good api.PantryLot
	c.get("/api/pantry/"+aged.Id.String()).gives(http.StatusOK, &good)
	var kept []api.Sample
	c.post("/api/samples", api.NewSamples{Jars: []uuid.UUID{good.JarList[0].Id}, Stands: mark}).gives(http.StatusCreated, &kept)
	c.post("/api/samples/"+kept[0].Id.String()+"/looks", api.NewLook{Signs: []string{}, Good: true, Note: mark}).gives(http.StatusCreated, &w.sample)
	c.post("/api/people", api.NewPerson{Login: mark + "-mate", Name: mark, Password: password, Role: api.Maker}).gives(http.StatusCreated, &w.person)
	return w
}

// Another workshop's rows cannot be read or changed through any call: every
// call that takes an id is tried with ids of each kind, every other must not
// show the other workshop's mark.
func TestAnotherWorkshopsRowsAreOutOfReach(t *testing.T) {
	h := open(t)
	theirs := h.founded("theirs")
	w := h.furnish(theirs, "SECRETMARK")
	mine := h.founded("mine")
	own := h.furnish(mine, "OWN")
	ids := []uuid.UUID{w.lot.Id, w.formula.Id, w.finished.Id, w.open.Id, w.jar.Id, w.person.Id, w.picture, w.outlet.Id, w.act.Id, w.stall.Id, w.order.Id, w.trial.Id, w.figure.Measured[0].Id, w.sample.Id, w.sample.Looks[0].Id, w.swatch, w.found.Id}
	streams := map[string]bool{"streamEvents": true, "streamScale": true, "signOut": true, "removeDemo": true}
	body := bodies(own)
	before := h.everything(theirs)

	withID := 0
	for path, item := range contractSpec.Paths.Map() {
		for method, op := range item.Operations() {
			name := op.OperationID
			if streams[name] || name == "makeFirstOwner" || name == "signIn" {
				continue
			}
			if op.RequestBody != nil {
				require.Contains(t, body, name, "give a body for the new call, so that it is tried")
			}
			if !strings.Contains(path, "{id}") {
				a := mine.call(method, fillIn(path, ""), body[name])
				assert.Less(t, a.status, 500, a.what)
				assert.NotContains(t, string(a.body), "SECRETMARK", a.what)
				continue
			}
			for _, id := range ids {
				withID++
				a := mine.call(method, fillIn(path, id.String()), body[name])
				assert.Equal(t, http.StatusNotFound, a.status, "%s: %s", a.what, a.body)
				assert.NotContains(t, string(a.body), "SECRETMARK", a.what)
			}
		}
	}
	assert.Greater(t, withID, 60)
	// ids inside bodies, wherever they stand, reach no further
	inside := 0
	for path, item := range contractSpec.Paths.Map() {
		for method, op := range item.Operations() {
			if op.RequestBody == nil || streams[op.OperationID] || op.OperationID == "makeFirstOwner" || op.OperationID == "signIn" {
				continue
			}
			if _, isText := body[op.OperationID].(string); isText {
				continue
			}
			for _, id := range ids {
				for _, changed := range withIDs(plainOf(t, body[op.OperationID]), id.String()) {
					inside++
					a := mine.call(method, fillIn(path, own.idFor(path)), changed)
					assert.Less(t, a.status, 500, a.what)
					assert.NotContains(t, string(a.body), "SECRETMARK", a.what)
				}
			}
		}
	}
	assert.Greater(t, inside, 20)
	mine.post("/api/batches", api.NewBatch{Formula: w.formula.Id, Target: api.Target{Factor: 1}}).refuses(http.StatusNotFound, "not-found")
	mine.post("/api/jars/moves", api.JarsMove{Jars: []uuid.UUID{own.jar.Id, w.jar.Id}, Gone: true}).refuses(http.StatusNotFound, "not-found")
	mine.put("/api/materials/own-secretmark-clay", body["putMaterial"]).refuses(http.StatusNotFound, "not-found")
	for _, lot := range []string{w.lot.Id.String(), "SECRETMARK"} {
		mine.post(fmt.Sprintf("/api/batches/%s/weighings", own.open.Id), api.Weighing{Line: 0, Lot: lot, Grams: 1}).refuses(http.StatusUnprocessableEntity, "unknown-lot")
	}
	assert.Equal(t, before, h.everything(theirs), "nothing of theirs has changed")
}

// withIDs are copies of a body in each of which another id stands in the place of one.
func withIDs(v any, id string) (all []any) {
	switch v := v.(type) {
	case string:
		if _, err := uuid.Parse(v); err == nil {
			return []any{id}
		}
	case []any:
		for i := range v {
			for _, changed := range withIDs(v[i], id) {
				copied := slices.Clone(v)
				copied[i] = changed
				all = append(all, copied)
			}
		}
	case map[string]any:
		for k := range v {
			for _, changed := range withIDs(v[k], id) {
				copied := maps.Clone(v)
				copied[k] = changed
				all = append(all, copied)
			}
		}
	}
	return all
}

// idFor is an id of one's own for a path.
func (w world) idFor(path string) string {
	return map[string]uuid.UUID{"formulas": w.formula.Id, "batches": w.open.Id, "lots": w.lot.Id, "jars": w.jar.Id, "people": w.person.Id, "pantry": w.finished.Id, "ledger": w.finished.Id, "outlets": w.outlet.Id, "acts": w.act.Id, "stall-days": w.stall.Id, "orders": w.order.Id, "trials": w.trial.Id, "measurings": w.figure.Measured[0].Id, "samples": w.sample.Id, "looks": w.sample.Looks[0].Id, "swatches": w.swatch, "found-causes": w.found.Id}[strings.Split(path, "/")[2]].String()
}

// everything is what a workshop can see of itself.
func (h *house) everything(c *client) string {
	h.t.Helper()
	all := ""
	for _, path := range []string{"/api/workshop", "/api/people", "/api/materials", "/api/shelf", "/api/lots", "/api/formulas", "/api/batches", "/api/pantry?all=true", "/api/outlets", "/api/acts", "/api/stall-days", "/api/ledger/prices", "/api/ledger/rates", "/api/orders", "/api/plan"} {
		all += string(c.get(path).gives(http.StatusOK, nil).body)
	}
	return all
}

func TestTheStoreCannotBeCalledWithoutAWorkshop(t *testing.T) {
	h := open(t)
	_, err := h.store().Read(context.Background()).Formulas(false)
	assert.ErrorContains(t, err, "without a workshop")
}

func TestAViewerLooksAMakerWorksAnOwnerDecides(t *testing.T) {
	h := open(t)
	owner := h.founded("marl")
	w := h.furnish(owner, "OWN")
	viewer, maker := h.with(owner, "viewer", api.Viewer), h.with(owner, "maker", api.Maker)
	looks := map[string]bool{"readDelivery": true, "makeWorkbook": true, "readSpoken": true, "readSaid": true, "readDeliveries": true, "readBenchSaid": true, "askWhy": true, "measureStain": true, "assessFormula": true, "mapReading": true, "compareFormulas": true, "findSwaps": true, "formulateToGoal": true, "planBatch": true, "tryAddition": true, "viewLabel": true, "dilute": true, "proposeSteps": true, "signIn": true, "signOut": true, "makeFirstOwner": true, "changePassword": true,
		"beginFactor": true, "confirmFactor": true, "endFactor": true, "endSession": true}
	decides := map[string]bool{"removeDemo": true, "putWorkshop": true, "addPerson": true, "removePerson": true, "changeRole": true, "putRates": true, "putPrices": true, "tellHands": true, "removeOutlet": true, "putPlanLimits": true, "makeCalendar": true, "withdrawCalendar": true}
	ids := map[string]uuid.UUID{"formulas": w.formula.Id, "batches": w.open.Id, "lots": w.lot.Id, "jars": w.jar.Id, "people": w.person.Id, "ledger": w.finished.Id, "outlets": w.outlet.Id, "acts": w.act.Id, "stall-days": w.stall.Id, "orders": w.order.Id, "plan": w.formula.Id, "trials": w.trial.Id, "measurings": w.figure.Measured[0].Id}
	tried := 0
	for path, item := range contractSpec.Paths.Map() {
		for method, op := range item.Operations() {
			if method == "GET" || looks[op.OperationID] {
				continue
			}
			tried++
			id := ids[strings.Split(path, "/")[2]]
			where := fillIn(path, id.String())
			viewer.call(method, where, bodies(w)[op.OperationID]).refuses(http.StatusForbidden, "not-allowed")
			if decides[op.OperationID] {
				maker.call(method, where, bodies(w)[op.OperationID]).refuses(http.StatusForbidden, "not-allowed")
			}
		}
	}
	assert.Greater(t, tried, 14)

	// where goods went is read by nobody who only looks, whatever is asked for
	const guests = "Secret Guests"
	made := owner.weigh(owner.begin(w.formula, api.Target{Factor: 1}), 0, "OWN", 100)
	owner.post(at(made, "finish"), api.Finish{Jars: 1}).gives(http.StatusOK, nil)
	owner.post("/api/acts", api.NewAct{Kind: "sold", To: guests, Lines: []api.ActWish{{Batch: made.Id, Price: "3.00"}}}).gives(http.StatusCreated, &w.act)
	pantry, trace, lot := "/api/pantry/"+made.Id.String(), "/api/lots/"+w.lot.Id.String()+"/trace", ""
	var good api.PantryLot
	owner.get(pantry).gives(http.StatusOK, &good)
	lot = "/api/lots/" + good.Lot.String()
	gone := slices.IndexFunc(good.JarList, func(j api.Jar) bool { return j.GoneTo == guests })
	require.GreaterOrEqual(t, gone, 0)
	owner.patch("/api/jars/"+good.JarList[gone].Id.String(), api.JarMove{Gone: true, GoneTo: guests + " again"}).gives(http.StatusOK, nil)
	for _, path := range []string{pantry, trace, lot, "/api/pantry?all=true"} {
		assert.Contains(t, string(maker.get(path).gives(http.StatusOK, nil).body), guests, path)
		assert.NotContains(t, string(viewer.get(path).gives(http.StatusOK, nil).body), guests, path)
	}
	// nor what anything costs, unless an owner says so
	amounts := regexp.MustCompile(`€ ?\d|\d ?(€|EUR)\b|"(price|cost|landed|per_use|per_kg|price_per_kg|cost_per_jar|cost_per_use)": ?"[0-9.]+"`)
	assert.Regexp(t, amounts, string(maker.get("/api/lots?limit=200").gives(http.StatusOK, nil).body))
	assert.NotRegexp(t, `,\d+\.\d\d,`, string(viewer.get("/api/shelf.csv").gives(http.StatusOK, nil).body))
	all := []uuid.UUID{w.lot.Id, good.Lot, good.Batch, w.formula.Id, w.finished.Id, w.open.Id, w.person.Id, w.outlet.Id, w.act.Id, w.stall.Id, w.order.Id}
	for path, item := range contractSpec.Paths.Map() {
		if item.Get == nil || strings.HasPrefix(item.Get.OperationID, "stream") {
			continue
		}
		for _, id := range all {
			a := viewer.get(fillIn(path, id.String()))
			assert.Less(t, a.status, 500, a.what)
			assert.NotContains(t, string(a.body), guests, a.what)
			assert.NotRegexp(t, amounts, string(a.body), a.what)
			if !strings.Contains(path, "{id}") {
				break
			}
		}
	}
	var workshop api.Workshop
	owner.get("/api/workshop").gives(http.StatusOK, &workshop)
	workshop.ViewersSeePrices = true
	owner.put("/api/workshop", workshop).gives(http.StatusOK, nil)
	assert.Regexp(t, amounts, string(viewer.get("/api/lots?limit=200").gives(http.StatusOK, nil).body))
}
