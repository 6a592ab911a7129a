package web_test

import (
	"net/http"
	"testing"

	"github.com/oapi-codegen/runtime/types"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
)

// orders so many jars of the shop's good for a day so many days off.
func (s *shop) orders(jars, inDays int, more ...func(*api.NewOrder)) *answer {
	s.client.t.Helper()
	in := api.NewOrder{Formula: s.formula.Id, Jars: jars, Day: types.Date{Time: day.AddDate(0, 0, inDays)}, To: "guest house"}
	for _, f := range more {
		f(&in)
	}
	return s.post("/api/orders", in)
}

func (s *shop) plan() api.GoodPlan {
	s.client.t.Helper()
	var p api.GoodPlan
	s.get("/api/plan").gives(http.StatusOK, &p)
	return p
}

// A making gives four jars, four are here: an order of ten takes two makings of 1000 g more,
// 4 kg of borax are there. One of thirty takes seven: 3 kg are lacking, which is one bag of 5 kg
// (by hand).
func TestAnOrderBecomesAPlanAndAShoppingList(t *testing.T) {
	s := opened(t, 4)
	assert.Empty(t, s.plan().Makings)
	var order api.GoodOrder
	s.orders(10, 11).gives(http.StatusCreated, &order)
	p := s.plan()
	require.Len(t, p.Makings, 2)
	assert.Equal(t, 4, p.Makings[0].Jars)
	assert.Equal(t, 10, p.Orders[0].Given)
	assert.Equal(t, "guest house", p.Orders[0].To)
	assert.Empty(t, p.Shopping, "4 kg are on the shelf")
	assert.Contains(t, p.Unknown, "Nobody counted the minutes of hands of Towpath: by its steps a making takes about 22, between 9 and 60.")
	s.post("/api/ledger/batches/"+s.batch.Id.String()+"/hands", api.HandsTold{Minutes: 60}).gives(http.StatusOK, nil)
	s.call("DELETE", "/api/orders/"+order.Id.String(), nil).gives(http.StatusNoContent, nil)
	s.call("DELETE", "/api/orders/"+order.Id.String(), nil).refuses(http.StatusNotFound, "not-found")
	s.orders(30, 11).gives(http.StatusCreated, nil)
	p = s.plan()
	require.Len(t, p.Makings, 7)
	assert.Equal(t, 60.0, p.Makings[0].Minutes)
	require.Len(t, p.Shopping, 1)
	assert.InDelta(t, 3000, p.Shopping[0].Grams, 1e-6)
	assert.Equal(t, 1, p.Shopping[0].Packs)
	assert.Equal(t, "Quayside", p.Shopping[0].Supplier)
	assert.Equal(t, api.Money("30.00"), p.ShoppingTotal)

	// an hour a day for one making: seven do not fit before Friday week with two days of work
	limits := api.PlanLimits{WorkDays: []int{1, 2}, BenchMinADay: 60, Vessels: []api.VesselCount{{Name: "tray", Count: 1}}}
	s.put("/api/plan/limits", limits).gives(http.StatusOK, nil)
	p = s.plan()
	assert.Positive(t, p.Orders[0].LateDays)
	assert.NotEmpty(t, p.Lifts)
	s.put("/api/plan/limits", limits).refuses(http.StatusConflict, "stale")
	limits.Version, limits.Vessels = 1, append(limits.Vessels, api.VesselCount{Name: "Tray", Count: 2})
	s.put("/api/plan/limits", limits).refuses(http.StatusUnprocessableEntity, "twice")
}

func TestOrdersThatCannotBe(t *testing.T) {
	s := opened(t, 4)
	s.orders(1, -1).refuses(http.StatusUnprocessableEntity, "bad-value")
	s.orders(1, 4000).refuses(http.StatusUnprocessableEntity, "bad-value")
	s.orders(1, 5, func(o *api.NewOrder) { o.Until = types.Date{Time: day} }).refuses(http.StatusUnprocessableEntity, "bad-value")
	s.orders(2, 5, func(o *api.NewOrder) { o.EveryWeeks = 2 }).gives(http.StatusCreated, nil)
	assert.Len(t, s.plan().Orders, 6, "every two weeks in twelve")
	other := s.keep("Heron", "100 g of borax")
	s.orders(2, 5, func(o *api.NewOrder) { o.Formula = other.Id }).gives(http.StatusCreated, nil)
	p := s.plan()
	assert.Len(t, p.Orders, 6)
	assert.Contains(t, p.Unknown, "Heron was never packed into jars here: make a first batch, then it is known how many jars one gives. It is not planned.")
	viewer := s.with(s.client, "viewer", api.Viewer)
	viewer.get("/api/orders").refuses(http.StatusForbidden, "not-allowed")
	viewer.get("/api/plan").refuses(http.StatusForbidden, "not-allowed")
}

// A wash is made of nut water that is made here and kept in no jars: one making gives 600 g,
// 500 g go into one making of four jars. Twelve jars take three makings and 1500 g of it, so
// three of nut water (by hand). What is bought for it is nuts, never nut water.
func TestWhatGoesIntoAGoodIsPlannedBeforeIt(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	nuts := c.take("150 g soap nuts 3.00 from Quayside")
	salt := c.take("1 kg salt 1.50 from Quayside")
	base := c.keep("Nut water", "100 g of soap nuts", "500 g of water")
	b := c.begin(base, api.Target{Factor: 1})
	b = c.weigh(b, 0, nuts.Code, 100)
	b = c.weigh(b, 1, "", 500)
	c.post(at(b, "finish"), api.Finish{Bulk: true}).gives(http.StatusOK, &b)
	wash := c.keep("Wash", "500 g of Nut water", "50 g of salt")
	w := c.begin(wash, api.Target{Factor: 1})
	w = c.weigh(w, 0, b.Code, 500)
	w = c.weigh(w, 1, salt.Code, 50)
	c.post(at(w, "finish"), api.Finish{Jars: 4}).gives(http.StatusOK, &w)

	c.post("/api/orders", api.NewOrder{Formula: wash.Id, Jars: 12, Day: types.Date{Time: day.AddDate(0, 0, 20)}}).gives(http.StatusCreated, nil)
	c.put("/api/plan/limits", api.PlanLimits{WorkDays: []int{1, 2, 3, 4, 5, 6, 7}, BenchMinADay: 240, Vessels: []api.VesselCount{}, Suppliers: []api.SupplierDays{{Name: "Quayside", Days: 5, Known: true}}}).gives(http.StatusOK, nil)
	var p api.GoodPlan
	c.get("/api/plan").gives(http.StatusOK, &p)
	of := map[string][]api.PlannedMaking{}
	for _, m := range p.Makings {
		of[m.Name] = append(of[m.Name], m)
	}
	require.Len(t, of["Wash"], 3, "what is here is past its date by then")
	require.Len(t, of["Nut water"], 3, "600 g each, and what is here is past its date: %+v", p.Makings)
	for _, m := range of["Nut water"] {
		assert.InDelta(t, 600, m.Grams, 1e-6)
		assert.Zero(t, m.Jars)
		assert.Equal(t, []string{"Wash"}, m.Into)
		assert.False(t, m.Bench.Before(day.AddDate(0, 0, 5)), "the nuts come in five days")
		assert.False(t, m.Ready.After(of["Wash"][2].Bench.Time))
	}
	assert.Equal(t, 12, p.Orders[0].Given)
	var bought []string
	for _, b := range p.Shopping {
		bought = append(bought, b.Name)
	}
	assert.Equal(t, []string{"Soap nuts"}, bought)
	assert.InDelta(t, 250, p.Shopping[0].Grams, 1e-6, "300 g, 50 g are here")
}

// What was asked is kept as a limit: so many vessels, days off, and so many days more that a supplier
// takes; an order or a price is none.
func TestWhatIfIsKeptAsALimit(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	from := types.Date{Time: day.AddDate(0, 0, 3)}
	c.put("/api/plan/limits", api.PlanLimits{WorkDays: []int{1, 2, 3}, BenchMinADay: 60, Vessels: []api.VesselCount{{Name: "Tray", Count: 1}}, Suppliers: []api.SupplierDays{{Name: "Quayside", Days: 5, Known: true}}}).gives(http.StatusOK, nil)
	var kept api.PlanLimits
	c.post("/api/plan/if/keep", api.PlanIf{Vessels: []api.VesselCount{{Name: "tray", Count: 3}, {Name: "jar", Count: 2}}, Off: []api.DaysOff{{From: from, To: from}}}).gives(http.StatusOK, &kept)
	assert.Equal(t, []api.VesselCount{{Name: "Tray", Count: 3}, {Name: "jar", Count: 2}}, kept.Vessels)
	require.Len(t, kept.DaysOff, 1)
	c.post("/api/plan/if/keep", api.PlanIf{Late: []api.SupplierDays{{Name: "quayside", Days: 7}, {Name: "Hollin Mill", Days: 4}}}).gives(http.StatusOK, &kept)
	require.Len(t, kept.Suppliers, 2)
	assert.Equal(t, 12, kept.Suppliers[0].Days, "seven more than usual")
	assert.Equal(t, 4, kept.Suppliers[1].Days)
	assert.True(t, kept.Suppliers[1].Known)
	assert.Len(t, kept.DaysOff, 1, "what was kept before stays")
	for _, bad := range []api.PlanIf{{}, {OrdersTimes: 2}, {Dearer: []api.Dearer{{Material: "borax", Percent: 10}}}} {
		c.post("/api/plan/if/keep", bad).refuses(http.StatusUnprocessableEntity, "bad-value")
	}
	h.with(c, "maker", api.Maker).post("/api/plan/if/keep", api.PlanIf{Vessels: []api.VesselCount{{Name: "tray", Count: 9}}}).refuses(http.StatusForbidden, "not-allowed")
}
