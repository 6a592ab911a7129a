package web_test

import (
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/emersion/go-ical"
	"github.com/oapi-codegen/runtime/types"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
)

func onDay(days int) types.Date {
	return types.Date{Time: day.Truncate(24*time.Hour).AddDate(0, 0, days)}
}

// A making set by hand stays; one that cannot be is told with what is in its way; it is left
// to the plan again by one call.
func TestAMakingIsSetByHand(t *testing.T) {
	s := opened(t, 4)
	s.orders(8, 11).gives(http.StatusCreated, nil)
	before := s.plan()
	require.Len(t, before.Makings, 1)
	var pin api.PlanPin
	s.post("/api/plan/pins", api.PlanPin{Formula: s.formula.Id, Bench: onDay(2)}).gives(http.StatusCreated, &pin)
	p := s.plan()
	require.Len(t, p.Makings, 1)
	assert.Equal(t, onDay(2), p.Makings[0].Bench)
	assert.Equal(t, pin.Id, p.Makings[0].Pin)
	pin.Bench = onDay(3)
	s.post("/api/plan/pins", pin).gives(http.StatusCreated, nil)
	p = s.plan()
	require.Len(t, p.Makings, 1, "moved, not doubled")
	assert.Equal(t, onDay(3), p.Makings[0].Bench)

	limits := api.PlanLimits{WorkDays: []int{1, 2, 3, 4, 5, 6, 7}, BenchMinADay: 60, Vessels: []api.VesselCount{}, DaysOff: []api.DaysOff{{From: onDay(3), To: onDay(4)}}}
	s.put("/api/plan/limits", limits).gives(http.StatusOK, nil)
	p = s.plan()
	require.Len(t, p.Unkept, 1)
	assert.Contains(t, p.Unkept[0].Says, "is no day of work")
	require.Len(t, p.Makings, 1)
	assert.Zero(t, p.Orders[0].LateDays, "the plan goes on without it")
	s.call("DELETE", "/api/plan/pins/"+pin.Id.String(), nil).gives(http.StatusNoContent, nil)
	assert.Empty(t, s.plan().Unkept)
	s.call("DELETE", "/api/plan/pins/"+pin.Id.String(), nil).refuses(http.StatusNotFound, "not-found")
	s.post("/api/plan/pins", api.PlanPin{Formula: s.formula.Id, Bench: onDay(-1)}).refuses(http.StatusUnprocessableEntity, "bad-value")
	s.post("/api/plan/pins", api.PlanPin{Formula: pin.Id, Bench: onDay(1)}).refuses(http.StatusNotFound, "not-found")
	limits.Version, limits.DaysOff = 1, []api.DaysOff{{From: onDay(3), To: onDay(1)}}
	s.put("/api/plan/limits", limits).refuses(http.StatusUnprocessableEntity, "bad-value")
}

// A supplier who takes orders on one day of the week is ordered from on that day, the last
// before it would be late (by hand: today is Monday 1 June 2026).
func TestASupplierTakesOrdersOnSomeDays(t *testing.T) {
	s := opened(t, 4)
	s.orders(30, 11).gives(http.StatusCreated, nil)
	limits := api.PlanLimits{WorkDays: []int{1, 2, 3, 4, 5}, BenchMinADay: 240, Vessels: []api.VesselCount{}, Suppliers: []api.SupplierDays{{Name: "Quayside", Days: 2, Known: true, OrderDays: []int{3}}}}
	s.put("/api/plan/limits", limits).gives(http.StatusOK, nil)
	plan := s.plan()
	require.Len(t, plan.Shopping, 1)
	order := plan.Shopping[0].OrderBy
	assert.Equal(t, time.Wednesday, order.Weekday())
	assert.False(t, order.AddDate(0, 0, 2).After(plan.Shopping[0].By.Time), "it is there when it is wanted")
	for _, m := range plan.Makings[4:] { // four of them are here
		assert.False(t, m.Bench.Before(day.AddDate(0, 0, 4)), "ordered on Wednesday, it comes on Friday")
	}
	var kept api.PlanLimits
	s.get("/api/plan/limits").gives(http.StatusOK, &kept)
	assert.Equal(t, []int{3}, kept.Suppliers[0].OrderDays)
	limits.Version, limits.Suppliers[0].OrderDays = 1, []int{8}
	s.put("/api/plan/limits", limits).refuses(http.StatusUnprocessableEntity, "bad-field")
}

// What would change is told before anything is changed: nothing is kept. Supplies that come
// later hold up what they are for (by hand: 4 kg are here, which is four makings of seven).
func TestWhatWouldBeIsToldAndNotKept(t *testing.T) {
	s := opened(t, 4)
	s.orders(30, 11).gives(http.StatusCreated, nil)
	limits := api.PlanLimits{WorkDays: []int{1, 2, 3, 4, 5}, BenchMinADay: 240, Vessels: []api.VesselCount{}, Suppliers: []api.SupplierDays{{Name: "Quayside", Days: 4, Known: true, Delivery: "6.50"}}}
	s.put("/api/plan/limits", limits).gives(http.StatusOK, nil)
	was := s.plan()
	assert.Zero(t, was.Orders[0].LateDays)
	require.Len(t, was.Shopping, 1)
	assert.Equal(t, api.Money("6.50"), was.Delivery)
	assert.Equal(t, api.Money("36.50"), was.ShoppingTotal)
	assert.Equal(t, []string{"Towpath"}, was.Shopping[0].Waits)
	assert.False(t, was.Shopping[0].By.IsZero())
	assert.Equal(t, was.Shopping[0].By.AddDate(0, 0, -4), was.Shopping[0].OrderBy.Time)

	if_ := func(in api.PlanIf) api.PlanWhatIf {
		t.Helper()
		var out api.PlanWhatIf
		s.post("/api/plan/if", in).gives(http.StatusOK, &out)
		return out
	}
	assert.Empty(t, if_(api.PlanIf{}).Changes, "nothing is otherwise")
	late := if_(api.PlanIf{Late: []api.SupplierDays{{Name: "Quayside", Days: 14}}})
	require.Len(t, late.Plan.Orders, 1)
	assert.Positive(t, late.Plan.Orders[0].LateDays)
	assert.Contains(t, late.Changes[0], "30 Towpath for guest house")
	assert.Contains(t, late.Changes[0], "in time now")
	dearer := if_(api.PlanIf{Dearer: []api.Dearer{{Material: "borax", Percent: 20}}})
	assert.Equal(t, []string{"6.00 EUR more to buy for it."}, dearer.Changes, "a bag of 30.00")
	double := if_(api.PlanIf{OrdersTimes: 2})
	assert.Equal(t, 60, double.Plan.Orders[0].Jars)
	assert.Contains(t, strings.Join(double.Changes, "\n"), "Towpath is made 14 times; 7 now.")
	away := if_(api.PlanIf{Off: []api.DaysOff{{From: onDay(0), To: onDay(12)}}})
	assert.Positive(t, away.Plan.Orders[0].LateDays)
	s.post("/api/plan/if", api.PlanIf{Off: []api.DaysOff{{From: onDay(3), To: onDay(1)}}}).refuses(http.StatusUnprocessableEntity, "bad-value")
	assert.Equal(t, was, s.plan(), "nothing was kept")

	maker := s.with(s.client, "maker", api.Maker)
	var seen api.PlanLimits
	maker.get("/api/plan/limits").gives(http.StatusOK, &seen)
	assert.Equal(t, 4, seen.Suppliers[0].Days)
	assert.Empty(t, seen.Suppliers[0].Delivery, "money is for owners")
	csv := string(s.get("/api/plan/shopping.csv").gives(http.StatusOK, nil).body)
	assert.Contains(t, csv, "Borax,3000,Quayside,1,5000,30,EUR")
	assert.NotContains(t, string(maker.get("/api/plan/shopping.csv").gives(http.StatusOK, nil).body), ",30,")
}

// What usually goes is reckoned from what went: three a week at the stall, for ten weeks. What
// goes by a standing order is planned by that, not twice.
func TestWhatUsuallyGoesIsPlanned(t *testing.T) {
	s := opened(t, 40)
	for range 10 {
		s.act("sold", "stall", 3).gives(http.StatusCreated, nil)
		s.now = s.now.AddDate(0, 0, 7)
		s.client = s.signIn("marl") // a session ends after a week
	}
	needs := func() []api.GoodNeed {
		t.Helper()
		var out []api.GoodNeed
		s.get("/api/plan/needs").gives(http.StatusOK, &out)
		return out
	}
	n := needs()
	require.Len(t, n, 1)
	assert.InDelta(t, 3, n[0].Reckoned, 0.01)
	assert.Equal(t, 10, n[0].Weeks)
	assert.Contains(t, n[0].Says, "3.0 a week; 12 to 12 in the next four")
	assert.Empty(t, s.plan().Makings, "nothing is made for it before that is said")
	need := "/api/plan/needs/" + s.formula.Id.String()
	s.put(need, api.NeedSaid{Follow: true}).gives(http.StatusNoContent, nil)
	p := s.plan()
	require.Len(t, p.Orders, 12, "twelve weeks")
	assert.True(t, p.Orders[0].Usual)
	asked := 0
	for _, o := range p.Orders {
		asked += o.Jars
	}
	assert.Equal(t, 36, asked)
	s.put(need, api.NeedSaid{Follow: true, PerWeek: 1.5}).gives(http.StatusNoContent, nil)
	asked = 0
	for _, o := range s.plan().Orders {
		asked += o.Jars
	}
	assert.Equal(t, 18, asked, "a jar and a half a week, said by somebody")
	assert.True(t, needs()[0].Said)
	s.put(need, api.NeedSaid{Follow: true, Reckoned: true}).gives(http.StatusNoContent, nil)
	assert.InDelta(t, 3, needs()[0].PerWeek, 0.01)
	s.orders(3, 80, func(o *api.NewOrder) { o.To, o.EveryWeeks = "stall", 1 }).gives(http.StatusCreated, nil)
	assert.Zero(t, needs()[0].Reckoned, "the stall has a standing order")
	s.put("/api/plan/needs/"+s.batch.Id.String(), api.NeedSaid{Follow: true}).refuses(http.StatusNotFound, "not-found")
}

// Orders are said in a line, in the field for orders and among sales; what nobody named is
// what they had before.
func TestOrdersAreSaidInALine(t *testing.T) {
	s := opened(t, 6)
	said := func(text string) api.OrdersSaid {
		t.Helper()
		var out api.OrdersSaid
		s.post("/api/orders/said", api.SaidNote{Text: text}).gives(http.StatusOK, &out)
		return out
	}
	heard := said("guest house wants 40 more by Friday week")
	require.Len(t, heard.Problems, 1)
	assert.Equal(t, "which-good", heard.Problems[0].Code, "they had nothing yet")
	s.act("sold", "guest house", 2).gives(http.StatusCreated, nil)
	heard = said("guest house wants 40 more by Friday week")
	assert.Empty(t, heard.Problems)
	require.Len(t, heard.Orders, 1)
	assert.Equal(t, 40, heard.Orders[0].Jars)
	assert.Equal(t, s.formula.Id, heard.Orders[0].Formula)
	assert.Equal(t, time.Friday, heard.Orders[0].Day.Weekday())
	assert.Contains(t, heard.Heard[0], "40 Towpath (what they had before) for guest house")
	s.post("/api/orders", heard.Orders[0]).gives(http.StatusCreated, nil)
	assert.Len(t, s.plan().Orders, 1)
	heard = said("12 Towpath for the fair every second Saturday until Christmas")
	require.Len(t, heard.Orders, 1)
	assert.Equal(t, 2, heard.Orders[0].EveryWeeks)
	s.post("/api/orders", heard.Orders[0]).gives(http.StatusCreated, nil)

	var both api.ActSaid
	s.post("/api/acts/said", api.SaidNote{Text: "sold 2 Towpath to the guest house at 4 each. They want 6 Towpath by the 20th"}).gives(http.StatusOK, &both)
	assert.Len(t, both.Acts, 1)
	require.Len(t, both.Orders, 1)
	assert.Equal(t, 20, both.Orders[0].Day.Day())
	assert.Len(t, both.Heard, 2)
}

// Today has what is wanted, what is to be made and what comes round, in the order of a day.
func TestToday(t *testing.T) {
	s := opened(t, 4)
	s.orders(6, 1).gives(http.StatusCreated, nil)
	s.orders(6, 2).gives(http.StatusCreated, nil)
	s.post("/api/plan/pins", api.PlanPin{Formula: s.formula.Id, Bench: onDay(1)}).gives(http.StatusCreated, nil)
	s.post("/api/chores", api.NewChore{Title: "Clean the scale", EveryDays: 1}).gives(http.StatusCreated, nil)
	s.post("/api/ledger/batches/"+s.batch.Id.String()+"/hands", api.HandsTold{Minutes: 60}).gives(http.StatusOK, nil)
	s.now = s.now.AddDate(0, 0, 1)
	began := s.begin(s.formula, api.Target{Factor: 1})
	s.now = s.now.Add(time.Hour)
	look := func() (kinds []string, day api.DayWork) {
		t.Helper()
		s.get("/api/today").gives(http.StatusOK, &day)
		for _, k := range day.Tasks {
			kinds = append(kinds, string(k.Kind)+": "+k.Title)
		}
		return kinds, day
	}
	kinds, day := look()
	assert.Equal(t, []string{"bench: Towpath: weigh borax", "give: 6 Towpath for guest house", "chore: Clean the scale"}, kinds, "what was set for today is on the bench")
	assert.Equal(t, "4 are here.", day.Tasks[1].Detail)
	assert.Equal(t, "/bench/"+began.Id.String(), day.Tasks[0].To)
	assert.True(t, day.Tasks[2].Late, "it came round yesterday")
	assert.Contains(t, day.Tomorrow, "6 Towpath for guest house")
	s.post(at(began, "abandon"), api.Abandon{Reason: "not today"}).gives(http.StatusOK, nil)
	kinds, day = look()
	require.NotEmpty(t, kinds)
	assert.Equal(t, "make: Make Towpath", kinds[0])
	assert.Equal(t, 60.0*float64(len(kinds)-2), day.Minutes)
	viewer := s.with(s.client, "viewer", api.Viewer)
	viewer.get("/api/today").refuses(http.StatusForbidden, "not-allowed")
}

// The plan in somebody's own calendar: by an address that only who has it knows, that another
// workshop cannot guess, and that holds no more once it is withdrawn.
func TestACalendarIsReadByItsAddressUntilItIsWithdrawn(t *testing.T) {
	s := opened(t, 4)
	s.orders(8, 11).gives(http.StatusCreated, nil)
	var address, again api.CalendarAddress
	s.get("/api/calendar").gives(http.StatusOK, &address)
	assert.False(t, address.There)
	s.post("/api/calendar", nil).gives(http.StatusCreated, &address)
	require.NotEmpty(t, address.Path)
	s.get("/api/calendar").gives(http.StatusOK, &again)
	assert.True(t, again.There)
	assert.Empty(t, again.Path, "it is told once")
	stranger := s.visitor()
	body := stranger.get(address.Path).gives(http.StatusOK, nil).body
	c, err := ical.NewDecoder(strings.NewReader(string(body))).Decode()
	require.NoError(t, err)
	var titles []string
	for _, e := range c.Events() {
		title, _ := e.Props.Text(ical.PropSummary)
		titles = append(titles, title)
	}
	assert.Contains(t, titles, "Make Towpath, 22 min", "by its steps: nobody counted")
	assert.Contains(t, titles, "8 Towpath for guest house")
	assert.NotContains(t, string(body), "4.00", "no money")
	assert.Equal(t, string(body), string(s.get("/api/plan.ics").gives(http.StatusOK, nil).body), "the same as the file")
	s.post("/api/calendar", nil).gives(http.StatusCreated, &again)
	stranger.get(address.Path).refuses(http.StatusNotFound, "not-found")
	stranger.get(again.Path).gives(http.StatusOK, nil)
	s.call("DELETE", "/api/calendar", nil).gives(http.StatusNoContent, nil)
	stranger.get(again.Path).refuses(http.StatusNotFound, "not-found")
	stranger.get("/api/calendars/x.ics").refuses(http.StatusNotFound, "not-found")
	maker := s.with(s.client, "maker", api.Maker)
	maker.post("/api/calendar", nil).refuses(http.StatusForbidden, "not-allowed")
}
