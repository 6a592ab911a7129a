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
	pieces, early := map[string]int{}, map[string]int{}
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
		if m.Bench.Before(g.Supply.From) {
			if early[m.Good]++; early[m.Good] > g.Supply.Here {
				out = append(out, fmt.Sprintf("%d of %s begun before its materials are here", early[m.Good], m.Good))
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

// everything solves a small task by trying each order of serving with each choice of days
// for every making that it needs, in whole days.
func everything(task *planning.Task) (missing, late int) {
	missing = 1 << 30
	orders := make([]int, len(task.Orders))
	for i := range orders {
		orders[i] = i
	}
	permute(orders, 0, func(order []int) {
		x := exhaustive{task: task, order: slices.Clone(order), bench: make([]float64, task.Days), busy: map[string][]int{}}
		for _, v := range task.Vessels {
			x.busy[v.ID] = make([]int, 4*task.Days+40)
		}
		for _, s := range task.Stock {
			x.pools = append(x.pools, pool{s.Good, s.Pieces, 0, int(s.BestBefore.Sub(today).Hours() / 24)})
		}
		x.step(0, task.Orders[order[0]].Pieces, 0, 0, 0)
		if x.found && (x.missing < missing || x.missing == missing && x.late < late) {
			missing, late = x.missing, x.late
		}
	})
	return missing, late
}

func permute(of []int, at int, f func([]int)) {
	if at == len(of) {
		f(of)
		return
	}
	for i := at; i < len(of); i++ {
		of[at], of[i] = of[i], of[at]
		permute(of, at+1, f)
		of[at], of[i] = of[i], of[at]
	}
}

type pool struct {
	good                string
	left, ready, bestBy int
}

type exhaustive struct {
	task          *planning.Task
	order         []int
	bench         []float64
	busy          map[string][]int
	pools         []pool
	missing, late int
	found         bool
}

// step serves the order at k that still wants so much and was whole on a day so far.
func (x *exhaustive) step(k, want, whole, missing, late int) {
	if x.found && (missing > x.missing || missing == x.missing && late >= x.late) {
		return
	}
	o := x.task.Orders[x.order[k]]
	day := int(o.Day.Sub(today).Hours() / 24)
	next := func(missing, late int) {
		if k+1 == len(x.order) {
			if !x.found || missing < x.missing || missing == x.missing && late < x.late {
				x.found, x.missing, x.late = true, missing, late
			}
			return
		}
		x.step(k+1, x.task.Orders[x.order[k+1]].Pieces, 0, missing, late)
	}
	if want == 0 {
		next(missing, late+max(0, whole-day))
		return
	}
	next(missing+want, late+max(0, x.task.Days-day))
	for i := range x.pools {
		p := &x.pools[i]
		if p.good != o.Good || p.left == 0 || p.bestBy < max(day, p.ready) {
			continue
		}
		n := min(want, p.left)
		p.left -= n
		x.step(k, want-n, max(whole, p.ready), missing, late)
		x.pools[i].left += n
	}
	var g *planning.Good
	for i := range x.task.Goods {
		if x.task.Goods[i].ID == o.Good {
			g = &x.task.Goods[i]
		}
	}
	for d := range x.task.Days {
		if !slices.Contains(x.task.WorkDays, today.AddDate(0, 0, d).Weekday()) || x.bench[d]+g.BenchMin > x.task.BenchMinDay {
			continue
		}
		for wait := range 3 { // between two vessels
			x.try(g, d, wait, func(ready int) {
				best := 1 << 20
				if g.KeepsDays > 0 {
					best = ready + g.KeepsDays
				}
				if best < day {
					return
				}
				n := min(want, g.Pieces)
				x.pools = append(x.pools, pool{g.ID, g.Pieces - n, ready, best})
				x.step(k, want-n, max(whole, ready), missing, late)
				x.pools = x.pools[:len(x.pools)-1]
			})
			if len(g.Stands) < 2 {
				break
			}
		}
	}
}

// try lets a making stand from a day on, and takes it back.
func (x *exhaustive) try(g *planning.Good, d, wait int, then func(ready int)) {
	type cell struct {
		v string
		d int
	}
	var held []cell
	at, ok := d, true
	for i, s := range g.Stands {
		if i == 1 {
			at += wait
		}
		for range int(s.Hours / 24) {
			count := 0
			for _, v := range x.task.Vessels {
				if v.ID == s.Vessel {
					count = v.Count
				}
			}
			if x.busy[s.Vessel][at] >= count {
				ok = false
			}
			x.busy[s.Vessel][at]++
			held = append(held, cell{s.Vessel, at})
			at++
		}
	}
	x.bench[d] += g.BenchMin
	if ok && at <= x.task.Days {
		then(at)
	}
	x.bench[d] -= g.BenchMin
	for _, h := range held {
		x.busy[h.v][h.d]--
	}
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
