package web_test

import (
	"context"
	"net/http"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
	"keencrock/internal/station/rack"
)

// A vat is fed, stirred and drawn over months: it says how full it is, how old
// what came out was, and what is late; and what was written down wrongly is taken
// back.
func TestAVatIsKept(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	var v api.Vessel
	c.post("/api/vessels", api.VesselPlan{Name: "Peel bin", CapacityMl: 20_000, StirEveryDays: 3, FirstDrawDays: 60}).gives(http.StatusCreated, &v)
	at := "/api/vessels/" + v.Id.String()
	do := func(a api.VesselAct) *answer { return c.post(at+"/events", a) }
	do(api.VesselAct{Kind: "fed", Ml: 10_000, SugarG: 1000, PeelG: 3000, Given: true}).gives(http.StatusCreated, &v)
	assert.InDelta(t, 286, v.GasAtMostL, 1, "1000 g × 0.514 × 0.556 l")
	require.Len(t, v.Due, 2)
	assert.Equal(t, h.now.AddDate(0, 0, 3), v.Due[0].At.UTC())

	// drawn by half after 70 days and filled up again: half of it is new
	h.now = h.now.AddDate(0, 0, 70)
	c = h.signIn("marl")
	var waits []api.WaitingNote
	c.get("/api/waiting").gives(http.StatusOK, &waits)
	require.Len(t, waits, 2)
	assert.Equal(t, "Peel bin: stir", waits[0].Text)
	assert.Equal(t, "rack", waits[0].Station)
	do(api.VesselAct{Kind: "drawn", Ml: 5000}).gives(http.StatusCreated, &v)
	last := v.Events[len(v.Events)-1]
	assert.InDelta(t, 70, last.MeanAgeDays, 1e-9)
	assert.Zero(t, last.YoungShare)
	do(api.VesselAct{Kind: "fed", Ml: 5000}).gives(http.StatusCreated, &v)
	h.now = h.now.AddDate(0, 0, 10)
	c = h.signIn("marl")
	c.get(at).gives(http.StatusOK, &v)
	assert.InDelta(t, 45, v.MeanAgeDays, 1e-9, "half of 80 and half of 10 days")
	assert.InDelta(t, 0.5, v.YoungShare, 1e-9)
	assert.Contains(t, v.Advice, "50 % is younger than a month")
	assert.InDelta(t, 1, v.Ages[0].Share+v.Ages[1].Share+v.Ages[2].Share+v.Ages[3].Share+v.Ages[4].Share, 1e-12)

	// what cannot be is refused, in its field
	assert.Equal(t, "ml", do(api.VesselAct{Kind: "drawn", Ml: 10_001}).refuses(http.StatusUnprocessableEntity, "bad-value").Field)
	assert.Contains(t, do(api.VesselAct{Kind: "fed", Ml: 10_001}).refuses(http.StatusUnprocessableEntity, "bad-value").Detail, "It holds 20000 ml")
	do(api.VesselAct{Kind: "drawn"}).refuses(http.StatusUnprocessableEntity, "bad-value")
	do(api.VesselAct{Kind: "stirred", At: h.now.Add(time.Hour)}).refuses(http.StatusUnprocessableEntity, "bad-value")
	do(api.VesselAct{Kind: "shaken"}).gives(http.StatusUnprocessableEntity, nil)

	// written down late, it is put where it belongs: before the draw
	do(api.VesselAct{Kind: "fed", Ml: 1000, At: h.now.AddDate(0, 0, -11)}).gives(http.StatusCreated, &v)
	assert.InDelta(t, 11_000, v.LevelMl, 1e-6)
	assert.Less(t, v.Events[1].MeanAgeDays, 70.0, "a part of what was drawn was fed the day before")

	// taken back, it stays in the log; what others rest on cannot be
	c.post(at+"/undo", api.VesselUndo{Event: v.Events[len(v.Events)-1].Id}).gives(http.StatusCreated, &v)
	assert.InDelta(t, 10_000, v.LevelMl, 1e-6)
	assert.True(t, v.Events[len(v.Events)-1].Undone)
	c.post(at+"/undo", api.VesselUndo{Event: v.Events[0].Id}).refuses(http.StatusUnprocessableEntity, "bad-value")
	c.post(at+"/undo", api.VesselUndo{Event: 1 << 40}).refuses(http.StatusNotFound, "not-found")

	// put away, it is in no list and nothing is done to it
	c.put(at, api.VesselPlan{Name: "Peel bin", CapacityMl: 20_000, PutAway: true}).gives(http.StatusOK, &v)
	do(api.VesselAct{Kind: "stirred"}).refuses(http.StatusConflict, "put-away")
	var all []api.Vessel
	c.get("/api/vessels").gives(http.StatusOK, &all)
	assert.Empty(t, all)
	c.put(at, api.VesselPlan{Name: "Peel bin", CapacityMl: 9000}).refuses(http.StatusUnprocessableEntity, "bad-value")
	c.put(at, api.VesselPlan{Name: "Peel bin", CapacityMl: 30_000}).gives(http.StatusOK, &v)
	assert.False(t, v.PutAway)
}

// What is drawn of a vat that makes a good rests, is packed as that good, and goes
// into others.
func TestWhatIsDrawnBecomesAGood(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	file := formulaFile("Bittern", "8 l of water", "800 g of jaggery", "2400 g of citrus peel")
	file.Kind = "ferment"
	var f api.StoredFormula
	c.post("/api/formulas", file).gives(http.StatusCreated, &f)
	var v api.Vessel
	c.post("/api/vessels", api.VesselPlan{Name: "Bin", CapacityMl: 20_000, Formula: f.Id, RestDays: 30}).gives(http.StatusCreated, &v)
	at := "/api/vessels/" + v.Id.String()
	c.post(at+"/events", api.VesselAct{Kind: "fed", Ml: 10_000, SugarG: 1000, PeelG: 3000, Given: true}).gives(http.StatusCreated, &v)
	h.now = h.now.AddDate(0, 0, 70)
	c = h.signIn("marl")
	c.post(at+"/events", api.VesselAct{Kind: "drawn", Ml: 3000, Rests: true}).gives(http.StatusCreated, &v)
	drawn := v.Events[1]
	require.NotEqual(t, uuid.Nil, drawn.Batch)
	c.post(at+"/undo", api.VesselUndo{Event: drawn.Id}).refuses(http.StatusConflict, "needed")
	var b api.Batch
	c.get("/api/batches/"+drawn.Batch.String()).gives(http.StatusOK, &b)
	assert.Equal(t, api.BatchStateStanding, b.State)
	assert.Equal(t, []string{"weigh", "rest", "fill"}, kindsOf(b))
	assert.Equal(t, h.now.AddDate(0, 0, 30), b.Steps[1].ReadyFrom.UTC())
	assert.InDelta(t, 3000, b.WeighedG, 300)
	h.now = h.now.AddDate(0, 0, 31)
	c = h.signIn("marl")
	c.act(&b, api.BatchAct{Kind: "step-done", Step: step(1)})
	c.post("/api/batches/"+b.Id.String()+"/finish", api.Finish{Jars: 4}).gives(http.StatusOK, &b)
	assert.Equal(t, 4, b.Jars)
	spray := c.keep("Spray", "100 g of Bittern", "400 g of water")
	s := c.begin(spray, api.Target{Factor: 1})
	s = c.weigh(s, 0, b.Code, 100)
	c.weigh(s, 1, "", 400)
	c.post(at+"/events", api.VesselAct{Kind: "fed", Ml: 3000, Rests: true}).refuses(http.StatusUnprocessableEntity, "no-formula")
	c.put(at, api.VesselPlan{Name: "Bin", CapacityMl: 20_000, Formula: s.Id}).refuses(http.StatusNotFound, "not-found")
	broken, err := h.store().Verify(t.Context())
	require.NoError(t, err)
	assert.Empty(t, broken)
}

// What is fed to a vat leaves its lots; what is drawn of it holds and costs its share of
// each feed, as a stirred tank gives it, and is traced both ways.
func TestAVatStandsInTheBooks(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	file := formulaFile("Bittern", "8 l of water", "800 g of jaggery", "2400 g of citrus peel")
	file.Kind = "ferment"
	var f api.StoredFormula
	c.post("/api/formulas", file).gives(http.StatusCreated, &f)
	sugar, peel := c.take("2 kg jaggery 8.00"), c.take("1.7 kg citrus peel 3.40")
	assert.NotEqual(t, sugar.Code, peel.Code, "lots of one day")
	var v api.Vessel
	c.post("/api/vessels", api.VesselPlan{Name: "Bin", CapacityMl: 20_000, Formula: f.Id, RestDays: 30}).gives(http.StatusCreated, &v)
	at := "/api/vessels/" + v.Id.String()
	do := func(a api.VesselAct) *answer { return c.post(at+"/events", a) }
	from := func(lot api.Lot, grams float64, as api.FedFromAs) api.FedFrom {
		return api.FedFrom{Lot: lot.Id.String(), Grams: grams, As: as}
	}

	// which lot, as the bench asks; and no more than it holds
	assert.Equal(t, "sugar_g", do(api.VesselAct{Kind: "fed", Ml: 10_000, SugarG: 1000}).refuses(http.StatusUnprocessableEntity, "lot-missing").Field)
	do(api.VesselAct{Kind: "fed", From: []api.FedFrom{from(peel, 3000, "peel")}}).refuses(http.StatusUnprocessableEntity, "short-lot")
	do(api.VesselAct{Kind: "fed", From: []api.FedFrom{{Lot: "nowhere", Grams: 1, As: "peel"}}}).refuses(http.StatusUnprocessableEntity, "unknown-lot")
	do(api.VesselAct{Kind: "fed", SugarG: 500, From: []api.FedFrom{from(sugar, 600, "sugar")}}).refuses(http.StatusUnprocessableEntity, "bad-value")
	do(api.VesselAct{Kind: "fed", Ml: 10_000, From: []api.FedFrom{from(sugar, 1000, "sugar"), from(peel, 1500, "peel")}}).gives(http.StatusCreated, &v)
	assert.Equal(t, 1000.0, v.Events[0].SugarG)
	assert.Equal(t, "Jaggery", v.Events[0].From[0].Name)
	left := func(lot api.Lot) api.LotDetail {
		var l api.LotDetail
		c.get("/api/lots/"+lot.Id.String()).gives(http.StatusOK, &l)
		return l
	}
	assert.Equal(t, 1000.0, left(sugar).Lot.RemainingG)
	fed := left(peel)
	assert.Equal(t, 200.0, fed.Lot.RemainingG)
	last := fed.Movements[len(fed.Movements)-1]
	assert.Equal(t, api.MovementKind("fed"), last.Kind)
	assert.Equal(t, "Bin", last.Vat)
	assert.Equal(t, "3.00", string(last.Cost))

	// a feed that was noted wrongly goes back into its lot
	do(api.VesselAct{Kind: "fed", From: []api.FedFrom{from(peel, 150, "peel")}}).gives(http.StatusCreated, &v)
	c.post(at+"/undo", api.VesselUndo{Event: v.Events[1].Id}).gives(http.StatusCreated, &v)
	assert.Equal(t, 200.0, left(peel).Lot.RemainingG)

	// 3 of 10 l hold three tenths of what was fed: 0.3 × (4.00 + 3.00)
	h.now = h.now.AddDate(0, 0, 70)
	c = h.signIn("marl")
	do(api.VesselAct{Kind: "drawn", Ml: 3000, Rests: true}).gives(http.StatusCreated, &v)
	drawn := v.Events[len(v.Events)-1]
	c.post(at+"/undo", api.VesselUndo{Event: v.Events[0].Id}).refuses(http.StatusConflict, "needed")
	h.now = h.now.AddDate(0, 0, 31)
	c = h.signIn("marl")
	var b api.Batch
	c.get("/api/batches/"+drawn.Batch.String()).gives(http.StatusOK, &b)
	c.act(&b, api.BatchAct{Kind: "step-done", Step: step(1)})
	c.post("/api/batches/"+b.Id.String()+"/finish", api.Finish{Jars: 3}).gives(http.StatusOK, &b)
	assert.Equal(t, "2.10", string(b.Cost))
	var trace api.BatchTrace
	c.get("/api/batches/"+b.Id.String()+"/trace").gives(http.StatusOK, &trace)
	of := map[string]float64{}
	for _, bag := range trace.Bags {
		of[bag.Name] = bag.Grams
		assert.Empty(t, bag.Unpriced)
	}
	assert.Equal(t, map[string]float64{"Jaggery": 300, "Citrus peel": 450}, of)
	var into api.LotTrace
	c.get("/api/lots/"+sugar.Id.String()+"/trace").gives(http.StatusOK, &into)
	require.Len(t, into.Batches, 1)
	assert.Equal(t, b.Code, into.Batches[0].Code)

	// all that is left takes all that is left of the cost, to the cent
	do(api.VesselAct{Kind: "drawn", Ml: 7000, Rests: true}).gives(http.StatusCreated, &v)
	second := v.Events[len(v.Events)-1].Batch
	c.get("/api/batches/"+second.String()+"/trace").gives(http.StatusOK, &trace)
	sum := 0.0
	for _, bag := range trace.Bags {
		cost, err := strconv.ParseFloat(string(bag.Cost), 64)
		require.NoError(t, err)
		sum += cost
	}
	assert.InDelta(t, 7.00-2.10, sum, 1e-9)
	broken, err := h.store().Verify(t.Context())
	require.NoError(t, err)
	assert.Empty(t, broken)

	// a movement that is gone, a batch that holds more than was fed, a vat drawn below nothing
	conn, err := pgx.Connect(t.Context(), h.dsn)
	require.NoError(t, err)
	defer conn.Close(context.Background())
	for _, damage := range []struct{ do, says string }{
		{`update movements set quantity = -1400 where kind = 'fed' and quantity = -1500`, "says 1500 g of a lot, its movements say 1400"},
		{`update vat_shares set quantity = 1200 where quantity = 300`, "batches hold 1900.000 g of what 1000.000 g were fed"},
		{`update events set body = '{"ml": 900}' where kind = 'fed' and body->>'ml' = '10000'`, "vat Bin says that 9100 ml more were drawn than fed"},
	} {
		_, err := conn.Exec(t.Context(), damage.do)
		require.NoError(t, err)
		broken, err := h.store().Verify(t.Context())
		require.NoError(t, err)
		assert.Contains(t, strings.Join(broken, "\n"), damage.says)
	}
}

// A vat that was fed before feeding said from where goes on: what is drawn of it costs at
// least what is known, and says what is not.
func TestAVatFedFromUnknownSaysSo(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	file := formulaFile("Bittern", "8 l of water", "800 g of jaggery", "2400 g of citrus peel")
	file.Kind = "ferment"
	var f api.StoredFormula
	c.post("/api/formulas", file).gives(http.StatusCreated, &f)
	var v api.Vessel
	c.post("/api/vessels", api.VesselPlan{Name: "Bin", CapacityMl: 20_000, Formula: f.Id}).gives(http.StatusCreated, &v)
	at := "/api/vessels/" + v.Id.String()
	c.post(at+"/events", api.VesselAct{Kind: "fed", Ml: 10_000, SugarG: 1000, Given: true}).gives(http.StatusCreated, &v)
	conn, err := pgx.Connect(t.Context(), h.dsn)
	require.NoError(t, err)
	defer conn.Close(context.Background())
	_, err = conn.Exec(t.Context(), `update events set body = body - 'given' where kind = 'fed'`) // as it was kept before
	require.NoError(t, err)
	c.get(at).gives(http.StatusOK, &v)
	assert.True(t, v.Events[0].Unknown)
	c.post(at+"/events", api.VesselAct{Kind: "drawn", Ml: 3000, Rests: true}).gives(http.StatusCreated, &v)
	var b api.Batch
	c.get("/api/batches/"+v.Events[1].Batch.String()).gives(http.StatusOK, &b)
	c.post("/api/batches/"+b.Id.String()+"/finish", api.Finish{Jars: 3}).gives(http.StatusOK, &b)
	var g api.PantryLot
	c.get("/api/pantry/"+b.Id.String()).gives(http.StatusOK, &g)
	assert.Equal(t, []string{"what was fed to the vat"}, g.Unpriced)
}

// The hygrometer is read at a rhythm, once however many processes read it, where it is
// switched on; and written by hand just as well. Damp air is said of what dries in it.
func TestTheRoomIsKnown(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	var w api.Workshop
	c.get("/api/workshop").gives(http.StatusOK, &w)
	service := rack.New(h.tenant)
	read := func([16]byte, time.Time) (float64, float64) { return 21, 55 }
	require.NoError(t, service.ReadHygrometers(t.Context(), read))
	var room api.Room
	c.get("/api/room").gives(http.StatusOK, &room)
	assert.Empty(t, room.Readings, "none is on the wall")
	w.Hygrometer = true
	c.put("/api/workshop", w).gives(http.StatusOK, &w)
	for range 3 {
		require.NoError(t, service.ReadHygrometers(t.Context(), read))
	}
	h.now = h.now.Add(rack.ReadingTime)
	require.NoError(t, service.ReadHygrometers(t.Context(), read))
	c.get("/api/room").gives(http.StatusOK, &room)
	require.Len(t, room.Readings, 2)
	assert.Equal(t, 21.0, room.Now.Celsius)

	soda, acid := c.take("1 kg washing soda 4.00"), c.take("1 kg citric acid 6.00")
	b := c.begin(c.tabFormula(), api.Target{Factor: 1})
	b = c.weigh(b, 0, soda.Code, 600)
	b = c.weigh(b, 1, acid.Code, 300)
	for b.State != api.BatchStateStanding {
		c.act(&b, api.BatchAct{Kind: "step-passed"})
	}
	h.now = h.now.Add(time.Minute)
	c.post("/api/room", api.RoomNote{Celsius: 12, Humidity: 92}).gives(http.StatusCreated, &room)
	assert.True(t, room.Now.ByHand)
	var all api.Rack
	c.get("/api/rack").gives(http.StatusOK, &all)
	assert.Contains(t, all.Standing[0].Says, "Too damp to dry: the air is at 92 %")
	var v api.Vessel
	c.post("/api/vessels", api.VesselPlan{Name: "Bin", CapacityMl: 20_000}).gives(http.StatusCreated, &v)
	c.post("/api/vessels/"+v.Id.String()+"/events", api.VesselAct{Kind: "fed", Ml: 10_000, SugarG: 1000, Given: true}).gives(http.StatusCreated, &v)
	assert.Contains(t, v.Warmth, "1.7 times as long")
	assert.Positive(t, v.GasPerDayL)
	c.post("/api/room", api.RoomNote{Celsius: 12, Humidity: 92, At: h.now.Add(time.Hour)}).refuses(http.StatusUnprocessableEntity, "bad-value")
	h.now = h.now.Add(4 * time.Hour)
	c.get("/api/room").gives(http.StatusOK, &room)
	assert.Zero(t, room.Now.At, "an old reading says nothing of now")
}
