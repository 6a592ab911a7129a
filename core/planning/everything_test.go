package planning_test

import (
	"slices"

	"keencrock/core/planning"
)

// everything solves a small task by trying each order of serving with each choice of days
// for every making that it needs, in whole days.
func everything(task *planning.Task) (missing, late int) {
	missing = 1 << 30
	orders := make([]int, len(task.Orders))
	for i := range orders {
		orders[i] = i
	}
	permute(orders, 0, func(order []int) {
		x := exhaustive{task: task, order: slices.Clone(order), bench: make([]float64, task.Days), busy: map[string][]int{}, early: map[string]float64{}}
		for _, v := range task.Vessels {
			x.busy[v.ID] = make([]int, 4*task.Days+40)
		}
		for _, s := range task.Stock {
			x.pools = append(x.pools, pool{s.Good, s.Pieces, 0, 0, int(s.BestBefore.Sub(today).Hours() / 24)})
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
	good                        string
	left, ready, usable, bestBy int
}

type exhaustive struct {
	task          *planning.Task
	order         []int
	bench         []float64
	busy          map[string][]int
	early         map[string]float64 // of each material
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
	g := x.good(o.Good)
	x.make(g, func(_, ready int) {
		best := 1 << 20
		if g.KeepsDays > 0 {
			best = ready + g.KeepsDays
		}
		if best < day {
			return
		}
		n := min(want, g.Pieces)
		x.pools = append(x.pools, pool{g.ID, g.Pieces - n, ready, usable(g, ready), best})
		x.step(k, want-n, max(whole, ready), missing, late)
		x.pools = x.pools[:len(x.pools)-1]
	})
}

// usable is the day from which a good can be used for another: what stands is done when the
// bench has begun.
func usable(g *planning.Good, ready int) int {
	if len(g.Stands) > 0 {
		return ready + 1
	}
	return ready
}

// make tries every day for a making, with all that it may be made of.
func (x *exhaustive) make(g *planning.Good, then func(day, ready int)) {
	for d := range x.task.Days {
		if !slices.Contains(x.task.WorkDays, today.AddDate(0, 0, d).Weekday()) || x.bench[d]+g.BenchMin > x.task.BenchMinDay || x.lacks(g, d) {
			continue
		}
		for wait := range 3 { // between two vessels
			x.try(g, d, wait, func(ready int) {
				x.need(g, 0, 0, d, func() { then(d, ready) })
			})
			if len(g.Stands) < 2 {
				break
			}
		}
	}
}

func (x *exhaustive) lacks(g *planning.Good, d int) bool {
	for _, u := range g.Uses {
		for _, m := range x.task.Materials {
			if m.ID == u.Of && in(d).Before(m.From) && x.early[u.Of]+u.Amount > m.Here {
				return true
			}
		}
	}
	return false
}

// need takes what a making uses of half-made goods, from the use at k on, of which it has so
// much.
func (x *exhaustive) need(g *planning.Good, k, got, d int, then func()) {
	if k == len(g.Uses) {
		then()
		return
	}
	u := g.Uses[k]
	of := x.good(u.Of)
	want := int(u.Amount) - got
	if of == nil || want <= 0 {
		x.need(g, k+1, 0, d, then)
		return
	}
	for i := range x.pools {
		p := &x.pools[i]
		if p.good != u.Of || p.left == 0 || p.usable > d || p.bestBy < d {
			continue
		}
		n := min(want, p.left)
		p.left -= n
		x.need(g, k, got+n, d, then)
		x.pools[i].left += n
	}
	x.make(of, func(_, ready int) {
		best := 1 << 20
		if of.KeepsDays > 0 {
			best = ready + of.KeepsDays
		}
		if usable(of, ready) > d || best < d {
			return
		}
		n := min(want, of.Pieces)
		x.pools = append(x.pools, pool{of.ID, of.Pieces - n, ready, usable(of, ready), best})
		x.need(g, k, got+n, d, then)
		x.pools = x.pools[:len(x.pools)-1]
	})
}

func (x *exhaustive) good(id string) *planning.Good {
	for i := range x.task.Goods {
		if x.task.Goods[i].ID == id {
			return &x.task.Goods[i]
		}
	}
	return nil
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
	for _, u := range g.Uses {
		x.early[u.Of] += x.before(u, d)
	}
	if ok && at <= x.task.Days {
		then(at)
	}
	x.bench[d] -= g.BenchMin
	for _, u := range g.Uses {
		x.early[u.Of] -= x.before(u, d)
	}
	for _, h := range held {
		x.busy[h.v][h.d]--
	}
}

// before is what a use on a day takes of what is here before more comes.
func (x *exhaustive) before(u planning.Use, d int) float64 {
	for _, m := range x.task.Materials {
		if m.ID == u.Of && in(d).Before(m.From) {
			return u.Amount
		}
	}
	return 0
}
