package web_test

import (
	"net/http"
	"testing"
	"time"

	"github.com/google/uuid"
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
	do(api.VesselAct{Kind: "fed", Ml: 10_000, SugarG: 1000, PeelG: 3000}).gives(http.StatusCreated, &v)
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
	c.post(at+"/events", api.VesselAct{Kind: "fed", Ml: 10_000, SugarG: 1000, PeelG: 3000}).gives(http.StatusCreated, &v)
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
	c.post("/api/vessels/"+v.Id.String()+"/events", api.VesselAct{Kind: "fed", Ml: 10_000, SugarG: 1000}).gives(http.StatusCreated, &v)
	assert.Contains(t, v.Warmth, "1.7 times as long")
	assert.Positive(t, v.GasPerDayL)
	c.post("/api/room", api.RoomNote{Celsius: 12, Humidity: 92, At: h.now.Add(time.Hour)}).refuses(http.StatusUnprocessableEntity, "bad-value")
	h.now = h.now.Add(4 * time.Hour)
	c.get("/api/room").gives(http.StatusOK, &room)
	assert.Zero(t, room.Now.At, "an old reading says nothing of now")
}
