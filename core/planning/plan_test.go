package planning_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/planning"
)

var today = time.Date(2026, 6, 1, 0, 0, 0, 0, time.UTC) // a Monday

func in(days int) time.Time { return today.AddDate(0, 0, days) }

var everyDay = []time.Weekday{0, 1, 2, 3, 4, 5, 6}

// tabs are pressed into one tray, a day each.
func tabs() *planning.Task {
	return &planning.Task{Today: today, Days: 21, WorkDays: []time.Weekday{1, 2, 3, 4, 5}, BenchMinDay: 240,
		Vessels: []planning.Vessel{{ID: "tray", Count: 1}},
		Goods:   []planning.Good{{ID: "heron", BenchMin: 60, Pieces: 24, Stands: []planning.Stand{{Vessel: "tray", Hours: 24}}, KeepsDays: 300}}}
}

// 40 tabs for Friday week are two makings of 24 in one tray: begun a day apart, as late as
// that day allows (by hand).
func TestAnOrderIsWorkedBackFromItsDay(t *testing.T) {
	task := tabs()
	task.Orders = []planning.Order{{Good: "heron", Pieces: 40, Day: in(11)}}
	p := planning.Make(task)
	require.Len(t, p.Makings, 2)
	assert.Equal(t, []time.Time{in(9), in(10)}, []time.Time{p.Makings[0].Bench, p.Makings[1].Bench}, "Wednesday and Thursday")
	assert.Equal(t, planning.Given{Day: in(11), Given: 40}, p.Orders[0])
	assert.Empty(t, p.Lifts)
	task.Stock = []planning.Stock{{Good: "heron", Pieces: 30, BestBefore: in(60)}, {Good: "heron", Pieces: 99, BestBefore: in(2)}}
	p = planning.Make(task)
	require.Len(t, p.Makings, 1, "30 are there; what is past its date by then is not counted")
}

// What does not fit says which limit to lift: four makings for Thursday in one tray that is
// busy a day each are done on Friday; with a second tray on Wednesday (by hand).
func TestWhatDoesNotFitSaysWhatToLift(t *testing.T) {
	task := tabs()
	task.Orders = []planning.Order{{Good: "heron", Pieces: 96, Day: in(3)}}
	p := planning.Make(task)
	assert.Equal(t, 1, p.Orders[0].LateDays)
	assert.Equal(t, []planning.Lift{{Limit: "tray", By: 1, SavesDays: 1}}, p.Lifts)
	task.Vessels[0].Count = 2
	assert.Zero(t, planning.Make(task).Orders[0].LateDays)
	task.Vessels[0].Count = 0
	p = planning.Make(task)
	assert.Equal(t, 0, p.Orders[0].Given, "a vessel of none")
	require.NotEmpty(t, p.Lifts)
	assert.Equal(t, "tray", p.Lifts[0].Limit)
	task = tabs()
	task.WorkDays = nil
	task.Orders = []planning.Order{{Good: "heron", Pieces: 24, Day: in(3)}, {Good: "heron", Pieces: 1, Day: in(-2)}}
	task.Stock = []planning.Stock{{Good: "heron", Pieces: 1}}
	p = planning.Make(task)
	assert.Equal(t, 0, p.Orders[0].Given, "no day to work")
	assert.Equal(t, planning.Given{Day: in(-2), Given: 1, LateDays: 2}, p.Orders[1], "an order for the day before yesterday")
	assert.Equal(t, planning.DayLimit, p.Lifts[0].Limit)
}

// A good that keeps shorter than it takes to wait for its day is made just before it.
func TestNothingIsGivenPastItsDate(t *testing.T) {
	task := tabs()
	task.Goods[0].KeepsDays = 3
	task.Orders = []planning.Order{{Good: "heron", Pieces: 24, Day: in(10)}}
	p := planning.Make(task)
	require.Len(t, p.Makings, 1)
	assert.False(t, p.Makings[0].Ready.AddDate(0, 0, 3).Before(in(10)))
	assert.Zero(t, p.Orders[0].LateDays)
}

func TestATaskThatCannotBeIsRefused(t *testing.T) {
	for name, change := range map[string]func(*planning.Task){
		"days":                      func(t *planning.Task) { t.Days = 0 },
		"today":                     func(t *planning.Task) { t.Today = time.Time{} },
		"vessels[1]":                func(t *planning.Task) { t.Vessels = append(t.Vessels, planning.Vessel{ID: "tray"}) },
		"goods[0].pieces":           func(t *planning.Task) { t.Goods[0].Pieces = 0 },
		"goods[0].stands[0].vessel": func(t *planning.Task) { t.Goods[0].Stands[0].Vessel = "moon" },
		"orders[0].good":            func(t *planning.Task) { t.Orders = []planning.Order{{Good: "moon", Pieces: 1, Day: in(1)}} },
		"orders[0].pieces":          func(t *planning.Task) { t.Orders = []planning.Order{{Good: "heron", Day: in(1)}} },
		"stock[0]":                  func(t *planning.Task) { t.Stock = []planning.Stock{{Good: "heron", Pieces: -1}} },
	} {
		task := tabs()
		change(task)
		var f *planning.Fault
		require.ErrorAs(t, task.Check(), &f, name)
		assert.Equal(t, name, f.Field)
	}
	require.NoError(t, tabs().Check())
}

// small is a random task that can be solved by trying everything; hours are whole days.
func small(r *rand.Rand) *planning.Task {
	task := &planning.Task{Today: today, Days: 7, WorkDays: everyDay, BenchMinDay: float64(60 * (1 + r.IntN(2))), Vessels: []planning.Vessel{{ID: "a", Count: 1 + r.IntN(2)}, {ID: "b", Count: 1}}}
	if r.IntN(3) == 0 {
		task.WorkDays = []time.Weekday{1, 2, 4, 5}
	}
	for g := range 1 + r.IntN(2) {
		good := planning.Good{ID: fmt.Sprint("g", g), BenchMin: 60, Pieces: 10}
		if r.IntN(3) == 0 {
			good.KeepsDays = 2 + r.IntN(3)
		}
		for _, v := range []string{"a", "b"}[:1+r.IntN(2)] {
			good.Stands = append(good.Stands, planning.Stand{Vessel: v, Hours: float64(24 * (1 + r.IntN(2)))})
		}
		task.Goods = append(task.Goods, good)
	}
	for range 1 + r.IntN(3) {
		task.Orders = append(task.Orders, planning.Order{Good: task.Goods[r.IntN(len(task.Goods))].ID, Pieces: 1 + r.IntN(20), Day: in(r.IntN(6))})
	}
	if r.IntN(2) == 0 {
		task.Stock = append(task.Stock, planning.Stock{Good: task.Goods[0].ID, Pieces: r.IntN(12), BestBefore: in(r.IntN(6))})
	}
	return task
}

// Schedules are held against trying everything: feasible always, as good in nine of ten and
// never worse by more than a twentieth.
func TestPlansAreAsGoodAsTryingEverything(t *testing.T) {
	r := rand.New(rand.NewPCG(24, 7))
	equal, cases := 0, 400
	for n := range cases {
		task := small(r)
		require.NoError(t, task.Check())
		p := planning.Make(task)
		require.Empty(t, breaches(task, p), "case %d: %+v", n, task)
		missing, late := measure(task, p)
		bestMissing, bestLate := everything(task)
		if missing == bestMissing && late <= bestLate {
			equal++
			continue
		}
		require.LessOrEqual(t, missing, bestMissing, "case %d gives less: %+v", n, task)
		require.LessOrEqual(t, float64(late), 1.05*float64(bestLate), "case %d: %+v\n%+v", n, task, p)
	}
	t.Logf("as good as trying everything in %d of %d", equal, cases)
	assert.GreaterOrEqual(t, float64(equal), 0.9*float64(cases))
}

func measure(task *planning.Task, p *planning.Plan) (missing, late int) {
	for i, o := range p.Orders {
		missing += task.Orders[i].Pieces - o.Given
		late += o.LateDays
	}
	return missing, late
}

// breaches says which limits a plan does not keep, at any hour.
func breaches(task *planning.Task, p *planning.Plan) (out []string) {
	minutes := map[time.Time]float64{}
	var stands []planning.Standing
	good := map[string]*planning.Good{}
	for i := range task.Goods {
		good[task.Goods[i].ID] = &task.Goods[i]
	}
	pieces, early := map[string]int{}, map[string]float64{}
	stands = append(stands, task.Busy...)
	for _, m := range p.Makings {
		g := good[m.Good]
		minutes[m.Bench] += g.BenchMin
		pieces[m.Good] += m.Pieces
		for _, o := range task.Off {
			if !m.Bench.Before(o.From) && !m.Bench.After(o.To) {
				out = append(out, "made on a day off, "+m.Bench.String())
			}
		}
		for _, u := range g.Uses {
			for _, of := range task.Materials {
				if early[of.ID] += u.Amount; of.ID != u.Of || !m.Bench.Before(of.From) {
					early[of.ID] -= u.Amount
				}
			}
		}
		if m.Pin > 0 && (task.Pins[m.Pin-1].Good != m.Good || !task.Pins[m.Pin-1].Bench.Equal(m.Bench)) {
			out = append(out, fmt.Sprintf("pin %d is moved to %s", m.Pin, m.Bench))
		}
		if !slices.Contains(task.WorkDays, m.Bench.Weekday()) || m.Bench.Before(task.Today) || !m.Bench.Before(task.Today.AddDate(0, 0, task.Days)) {
			out = append(out, "made on "+m.Bench.String())
		}
		last := m.Bench
		for i, s := range m.Stands {
			if s.Vessel != g.Stands[i].Vessel || s.From.Before(last) || s.To.Sub(s.From).Hours() < g.Stands[i].Hours-0.01 {
				out = append(out, fmt.Sprintf("stands wrongly: %+v", s))
			}
			last = s.To
		}
		if m.Ready.AddDate(0, 0, 1).Before(last) {
			out = append(out, "ready before it has stood")
		}
		stands = append(stands, m.Stands...)
	}
	for _, of := range task.Materials {
		if early[of.ID] > of.Here+1e-9 {
			out = append(out, fmt.Sprintf("%g of %s used before more of it is here than %g", early[of.ID], of.ID, of.Here))
		}
	}
	out = append(out, breachesOfDraws(task, p, good)...)
	for day, m := range minutes {
		if m > task.BenchMinDay {
			out = append(out, fmt.Sprintf("%g minutes on %s", m, day))
		}
	}
	for _, v := range task.Vessels {
		for _, at := range stands {
			n := 0
			for _, s := range stands {
				if s.Vessel == v.ID && at.Vessel == v.ID && !s.From.After(at.From) && at.From.Before(s.To) {
					n++
				}
			}
			if n > v.Count {
				out = append(out, fmt.Sprintf("%d in %d of %s", n, v.Count, v.ID))
			}
		}
	}
	for i, o := range p.Orders {
		pieces[task.Orders[i].Good] -= o.Given
	}
	for _, m := range p.Makings {
		for _, d := range m.Draws {
			pieces[d.Good] -= d.Pieces
		}
	}
	for _, s := range task.Stock {
		pieces[s.Good] += s.Pieces
	}
	for g, left := range pieces {
		if left < 0 {
			out = append(out, fmt.Sprintf("%d more of %s given than there were", -left, g))
		}
	}
	return out
}

// Whatever the order of what is said, the plan gives the same; and a tray more makes it no
// later.
func TestThePlanIsTheSameHoweverItIsSaid(t *testing.T) {
	r := rand.New(rand.NewPCG(11, 3))
	for n := range 60 {
		task := small(r)
		p := planning.Make(task)
		missing, late := measure(task, p)
		turned := *task
		turned.Orders = slices.Clone(task.Orders)
		slices.Reverse(turned.Orders)
		turned.Goods = slices.Clone(task.Goods)
		slices.Reverse(turned.Goods)
		m2, l2 := measure(&turned, planning.Make(&turned))
		assert.Equal(t, []int{missing, late}, []int{m2, l2}, "case %d", n)
		assert.Equal(t, p, planning.Make(task), "twice the same")
		more := *task
		more.Vessels = slices.Clone(task.Vessels)
		more.Vessels[0].Count++
		m3, l3 := measure(&more, planning.Make(&more))
		assert.True(t, m3 < missing || m3 == missing && l3 <= late, "case %d: %d %d, with one more %d %d", n, missing, late, m3, l3)
	}
}

func large(r *rand.Rand) *planning.Task {
	task := &planning.Task{Today: today, Days: 84, WorkDays: []time.Weekday{1, 2, 3, 4, 5}, BenchMinDay: 240}
	for v := range 10 {
		task.Vessels = append(task.Vessels, planning.Vessel{ID: fmt.Sprint("v", v), Count: 1 + r.IntN(2)})
	}
	for g := range 30 {
		task.Goods = append(task.Goods, planning.Good{ID: fmt.Sprint("g", g), BenchMin: float64(30 + 15*r.IntN(6)), Pieces: 12, KeepsDays: 60 + r.IntN(300),
			Stands: []planning.Stand{{Vessel: fmt.Sprint("v", r.IntN(10)), Hours: float64(12 + 12*r.IntN(20))}, {Vessel: fmt.Sprint("v", r.IntN(10)), Hours: 24}}})
	}
	for range 60 {
		task.Orders = append(task.Orders, planning.Order{Good: fmt.Sprint("g", r.IntN(30)), Pieces: 12, Day: in(7 + r.IntN(70))})
	}
	return task
}

func TestALargePlanKeepsEveryLimit(t *testing.T) {
	task := large(rand.New(rand.NewPCG(1, 2)))
	p := planning.Make(task)
	assert.Empty(t, breaches(task, p))
	assert.Len(t, p.Makings, 60)
}

func BenchmarkPlanOf60Makings(b *testing.B) {
	task := large(rand.New(rand.NewPCG(1, 2)))
	b.ReportAllocs()
	for b.Loop() {
		planning.Make(task)
	}
}
