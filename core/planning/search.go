package planning

import (
	"cmp"
	"slices"
	"time"
)

// never is a day that is not reached.
const never = 1 << 30

// search finds in which order orders are best served: each order of serving is worked into
// days by taking for every making the earliest that fits.
type search struct {
	t            *Task
	steps        int // orders of serving that may be tried
	good         map[string]int
	vessel       map[string]int
	workDay      []bool // of the days of the plan
	orderDay     []int  // days after today; below zero for one that is past
	orderOf      []int  // the good of each order
	busy         [][]interval
	materialFrom []int       // the day from which there is enough of each material
	raw          [][]rawUse  // what one making of each good takes of materials
	made         [][]madeUse // and of half-made goods
	level        []int       // how many goods stand behind each good, one made of the other
	isMadeOfMade bool        // some good is
	first        []int       // in which order stock goes
	pinned       []placed
	unkept       []Unkept
}

// newSearch makes a task ready to be searched.
func newSearch(t *Task) *search {
	s := &search{t: t, good: map[string]int{}, vessel: map[string]int{}, workDay: make([]bool, t.Days)}
	for i, g := range t.Goods {
		s.good[g.ID] = i
	}
	for i, v := range t.Vessels {
		s.vessel[v.ID] = i
	}
	for d := range s.workDay {
		day := t.Today.AddDate(0, 0, d)
		off := slices.ContainsFunc(t.Off, func(o Span) bool { return !day.Before(o.From) && !day.After(o.To) })
		s.workDay[d] = !off && slices.Contains(t.WorkDays, day.Weekday())
	}
	s.busy = make([][]interval, len(t.Vessels))
	for _, b := range t.Busy {
		v := s.vessel[b.Vessel]
		s.busy[v] = append(s.busy[v], interval{b.From.Sub(t.Today).Hours(), b.To.Sub(t.Today).Hours()})
	}
	s.readUses()
	s.first = s.firstOut()
	makings := 1
	for _, o := range t.Orders {
		s.orderDay = append(s.orderDay, s.dayOf(o.Day))
		s.orderOf = append(s.orderOf, s.good[o.Good])
		makings += (o.Pieces + t.Goods[s.good[o.Good]].Pieces - 1) / t.Goods[s.good[o.Good]].Pieces
	}
	s.steps = max(40, min(mostTried, makingsTried/makings))
	s.pin()
	return s
}

// How many orders of serving are tried at the most, and makings placed in all of them.
const (
	mostTried    = 5040 // every order of seven
	makingsTried = 12_000
)

func (s *search) dayOf(t time.Time) int {
	return int(t.Sub(s.t.Today).Hours()/24+1e6) - 1e6 // towards the earlier
}

// outcome is what an order of serving comes to.
type outcome struct {
	served  []int // orders
	makings []*placed
	given   []int // pieces of each order
	done    []int // day on which each is whole; never
	missing int   // pieces that are never given
	late    int   // days over all orders
}

func (o *outcome) better(than *outcome) bool {
	return cmp.Or(cmp.Compare(o.missing, than.missing), cmp.Compare(o.late, than.late), cmp.Compare(len(o.makings), len(than.makings))) < 0
}

// best finds the best order of serving: every one where they are few, else the earliest day
// first, improved by exchanging and moving.
func (s *search) best() outcome {
	first := make([]int, len(s.t.Orders))
	for i := range first {
		first[i] = i
	}
	slices.SortStableFunc(first, func(a, b int) int {
		return cmp.Or(cmp.Compare(s.orderDay[a], s.orderDay[b]), cmp.Compare(s.t.Orders[a].Good, s.t.Orders[b].Good), cmp.Compare(s.t.Orders[a].Pieces, s.t.Orders[b].Pieces))
	})
	best := s.serve(first)
	if best.missing == 0 && best.late == 0 {
		return best
	}
	left := s.steps
	try := func(order []int) bool {
		left--
		if o := s.serve(order); o.better(&best) {
			best = o
			return true
		}
		return false
	}
	if factorial(len(first)) <= left {
		permute(slices.Clone(first), 0, func(order []int) { try(order) })
		return s.reorder(best)
	}
	smallest := slices.Clone(first) // what needs least first
	slices.SortStableFunc(smallest, func(a, b int) int { return cmp.Compare(s.t.Orders[a].Pieces, s.t.Orders[b].Pieces) })
	try(smallest)
	for improved := true; improved && left > 0; {
		improved = false
		now := slices.Clone(best.served)
		for i := 0; i < len(now) && left > 0; i++ {
			if o := best.done[now[i]]; o != never && o <= s.orderDay[now[i]] && i > 0 && s.onTimeBefore(&best, now, i) {
				continue // nothing before it is late: moving it forward saves nothing
			}
			for k := i - 1; k >= max(0, i-moveReach) && left > 0; k-- {
				moved := slices.Clone(best.served)
				one := slices.Index(moved, now[i])
				to := slices.Index(moved, now[k])
				if one <= to {
					continue
				}
				moved = slices.Insert(slices.Delete(moved, one, one+1), to, now[i])
				if try(moved) {
					improved = true
				}
			}
		}
	}
	return s.reorder(best)
}

// unit is a making that is to be placed, for an order.
type unit struct{ good, of int }

// reorder goes on from the best order of serving: there the makings of an order follow each
// other, which is not always best where days are off or vessels shared. Of few makings every
// order is tried, of many their neighbours are exchanged.
func (s *search) reorder(best outcome) outcome {
	if best.missing == 0 && best.late == 0 {
		return best
	}
	var units []unit
	for _, m := range best.makings {
		if m.pin == 0 {
			units = append(units, unit{m.good, m.of})
		}
	}
	for i, o := range s.t.Orders {
		pieces := s.t.Goods[s.orderOf[i]].Pieces
		for lacks := o.Pieces - best.given[i]; lacks > 0 && len(units) < mostReordered; lacks -= pieces {
			units = append(units, unit{s.orderOf[i], i})
		}
	}
	priorities := s.priorities(best.served)
	left := s.steps
	try := func(of []unit) bool {
		left--
		taken := s.placeAll(of)
		improved := false
		for _, served := range priorities {
			if o := s.share(taken, served); o.better(&best) {
				best, improved = o, true
			}
		}
		return improved
	}
	if factorial(len(units)) <= left {
		permuteUnits(slices.Clone(units), 0, func(of []unit) { try(of) })
		return best
	}
	for improved := true; improved && left > 0; {
		improved = false
		for i := 0; i < len(units) && left > 0; i++ {
			for k := i + 1; k < min(len(units), i+moveReach) && left > 0; k++ {
				if units[i] == units[k] {
					continue
				}
				units[i], units[k] = units[k], units[i]
				if try(units) {
					improved = true
				} else {
					units[i], units[k] = units[k], units[i]
				}
			}
		}
	}
	return best
}

// mostReordered is how many makings are put into another order at the most.
const mostReordered = 400

// priorities are the orders in which what was made is shared out: all of few, else the
// given one, the earliest day first, and what asks for least first.
func (s *search) priorities(served []int) (out [][]int) {
	if factorial(len(served)) <= fewPriorities {
		permute(slices.Clone(served), 0, func(of []int) { out = append(out, of) })
		return out
	}
	by := func(less func(a, b int) int) {
		of := slices.Clone(served)
		slices.SortStableFunc(of, less)
		out = append(out, of)
	}
	by(func(int, int) int { return 0 })
	by(func(a, b int) int { return cmp.Compare(s.orderDay[a], s.orderDay[b]) })
	by(func(a, b int) int { return cmp.Compare(s.t.Orders[a].Pieces, s.t.Orders[b].Pieces) })
	return out
}

const fewPriorities = 24

// permuteUnits calls f with every order of what stands from at on; of alike ones once.
func permuteUnits(of []unit, at int, f func([]unit)) {
	if at >= len(of)-1 {
		f(of)
		return
	}
	for i := at; i < len(of); i++ {
		if slices.Contains(of[at:i], of[i]) {
			continue
		}
		of[at], of[i] = of[i], of[at]
		permuteUnits(of, at+1, f)
		of[at], of[i] = of[i], of[at]
	}
}

// placeAll places makings one after the other, each at its earliest; those that do not fit
// are left out.
func (s *search) placeAll(of []unit) *days {
	taken := s.begin()
	for _, u := range of {
		if m := s.place(taken, u.good, s.orderDay[u.of]); m != nil {
			m.of = u.of
		}
	}
	slices.SortStableFunc(taken.made, func(a, b *placed) int { return cmp.Compare(a.ready, b.ready) })
	return taken
}

// moveReach is how far an order of serving is moved forward in one step.
const moveReach = 12

func (s *search) onTimeBefore(o *outcome, served []int, i int) bool {
	for _, k := range served[:i] {
		if o.done[k] > s.orderDay[k] {
			return false
		}
	}
	return true
}

func factorial(n int) int {
	f := 1
	for i := 2; i <= n && f <= mostTried; i++ {
		f *= i
	}
	return f
}

// permute calls f with every order of what stands from at on.
func permute(of []int, at int, f func([]int)) {
	if at >= len(of)-1 {
		f(slices.Clone(of))
		return
	}
	for i := at; i < len(of); i++ {
		of[at], of[i] = of[i], of[at]
		permute(of, at+1, f)
		of[at], of[i] = of[i], of[at]
	}
}
