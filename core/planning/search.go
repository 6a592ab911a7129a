package planning

import (
	"cmp"
	"slices"
	"time"
)

// benchBegins is when a day at the bench begins, in hours after midnight. From memory.
const benchBegins = 8

// never is a day that is not reached.
const never = 1 << 30

// search finds in which order orders are best served: each order of serving is worked into
// days by taking for every making the earliest that fits.
type search struct {
	t        *Task
	steps    int // orders of serving that may be tried
	good     map[string]int
	vessel   map[string]int
	workDay  []bool // of the days of the plan
	orderDay []int  // days after today; below zero for one that is past
	orderOf  []int  // the good of each order
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
		s.workDay[d] = slices.Contains(t.WorkDays, t.Today.AddDate(0, 0, d).Weekday())
	}
	makings := 1
	for _, o := range t.Orders {
		s.orderDay = append(s.orderDay, s.dayOf(o.Day))
		s.orderOf = append(s.orderOf, s.good[o.Good])
		makings += (o.Pieces + t.Goods[s.good[o.Good]].Pieces - 1) / t.Goods[s.good[o.Good]].Pieces
	}
	s.steps = max(40, min(mostTried, makingsTried/makings))
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

// placed is a making in its days, in hours after midnight of today.
type placed struct {
	good   int
	of     int // the order it is made for
	bench  int // day
	from   []float64
	to     []float64
	ready  int // day
	left   int // pieces nobody has yet
	latest int // the day by which it has to be ready for those it serves
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
		units = append(units, unit{m.good, m.of})
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
		makings := s.placeAll(of)
		improved := false
		for _, served := range priorities {
			if o := s.share(makings, served); o.better(&best) {
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
func (s *search) placeAll(of []unit) (makings []*placed) {
	taken := s.untaken()
	for _, u := range of {
		if m := s.place(taken, u.good, s.orderDay[u.of]); m != nil {
			m.of = u.of
			makings = append(makings, m)
		}
	}
	slices.SortStableFunc(makings, func(a, b *placed) int { return cmp.Compare(a.ready, b.ready) })
	return makings
}

// share gives orders what stock and makings hold, one after the other. Makings of which
// nothing is asked are left out.
func (s *search) share(made []*placed, served []int) outcome {
	o := outcome{served: slices.Clone(served), given: make([]int, len(served)), done: make([]int, len(served))}
	stock, first := s.stock()
	all := make([]*placed, len(made))
	for i, m := range made {
		one := *m
		one.left, one.latest = s.t.Goods[m.good].Pieces, never
		all[i] = &one
	}
	o.makings = all
	for _, i := range served {
		s.giveWhatIsThere(&o, stock, first, i)
	}
	o.makings = slices.DeleteFunc(all, func(m *placed) bool { return m.latest == never })
	s.sum(&o)
	return o
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

// days is what is taken of the limits so far.
type days struct {
	bench  []float64    // minutes of each day
	vessel [][]interval // what each vessel holds
}

type interval struct{ from, to float64 }

// untaken are the limits of which nothing is taken.
func (s *search) untaken() *days {
	return &days{bench: make([]float64, s.t.Days), vessel: make([][]interval, len(s.t.Vessels))}
}

// stock is what is there, and in which order it goes: what is past its date first, first.
func (s *search) stock() (pieces, first []int) {
	pieces, first = make([]int, len(s.t.Stock)), make([]int, len(s.t.Stock))
	for i, k := range s.t.Stock {
		pieces[i], first[i] = k.Pieces, i
	}
	slices.SortStableFunc(first, func(a, b int) int { return cmp.Compare(s.bestDay(a), s.bestDay(b)) })
	return pieces, first
}

// serve gives orders what they ask for, one after the other, and makes what is not there.
func (s *search) serve(order []int) outcome {
	o := outcome{served: slices.Clone(order), given: make([]int, len(order)), done: make([]int, len(order))}
	taken := s.untaken()
	stock, first := s.stock()
	for _, i := range order {
		want := s.giveWhatIsThere(&o, stock, first, i)
		for want > 0 {
			m := s.place(taken, s.orderOf[i], s.orderDay[i])
			if m == nil {
				break
			}
			m.of = i
			o.makings = append(o.makings, m)
			want = s.give(&o, m, i, want)
		}
	}
	s.sum(&o)
	return o
}

// sum counts what is missing and late.
func (s *search) sum(o *outcome) {
	for i, asked := range s.t.Orders {
		end := o.done[i]
		if lacks := asked.Pieces - o.given[i]; lacks > 0 {
			o.missing, o.done[i], end = o.missing+lacks, never, s.t.Days
		}
		o.late += max(0, end-s.orderDay[i])
	}
}

// bestDay is the last day that a stock may be given on.
func (s *search) bestDay(i int) int {
	if s.t.Stock[i].BestBefore.IsZero() {
		return never
	}
	return s.dayOf(s.t.Stock[i].BestBefore)
}

// giveWhatIsThere gives an order of the stock and of what is made already, and says how
// much it still wants.
func (s *search) giveWhatIsThere(o *outcome, stock, first []int, i int) (want int) {
	want = s.t.Orders[i].Pieces
	g, day := s.orderOf[i], s.orderDay[i]
	o.done[i] = max(0, day)
	for _, k := range first {
		if s.good[s.t.Stock[k].Good] != g || s.bestDay(k) < max(0, day) {
			continue
		}
		n := min(want, stock[k])
		stock[k], want = stock[k]-n, want-n
		o.given[i] += n
	}
	for _, m := range o.makings {
		if m.good == g && want > 0 && m.left > 0 && s.keepsUntil(m, day) {
			want = s.give(o, m, i, want)
		}
	}
	return want
}

// give gives an order of a making.
func (s *search) give(o *outcome, m *placed, i, want int) int {
	n := min(want, m.left)
	m.left -= n
	m.latest = min(m.latest, max(s.orderDay[i], m.ready))
	o.done[i] = max(o.done[i], m.ready)
	o.given[i] += n
	return want - n
}

// keepsUntil reports whether a making is not past its date when it is given for a day.
func (s *search) keepsUntil(m *placed, day int) bool {
	keeps := s.t.Goods[m.good].KeepsDays
	return keeps == 0 || m.ready+keeps >= day
}

// place finds the earliest days for a making of a good that is not past its date on a day,
// and takes them; nil where there are none.
func (s *search) place(taken *days, g, day int) *placed {
	from := 0
	if keeps := s.t.Goods[g].KeepsDays; keeps > 0 { // ready a little before it is given at most
		from = max(0, day-keeps-s.leadDays(g))
	}
	for d := from; d < s.t.Days; d++ {
		if m := s.fit(taken, g, d); m != nil && s.keepsUntil(m, day) {
			s.take(taken, m, 1)
			return m
		}
	}
	return nil
}

// leadDays is how many days a good stands at the least.
func (s *search) leadDays(g int) int {
	hours := 0.0
	for _, st := range s.t.Goods[g].Stands {
		hours += st.Hours
	}
	return int(hours/24) + 1
}

// fit is a making that begins at the bench on a day; nil where that does not fit.
func (s *search) fit(taken *days, g, day int) *placed {
	good := &s.t.Goods[g]
	if !s.workDay[day] || taken.bench[day]+good.BenchMin > s.t.BenchMinDay {
		return nil
	}
	m := &placed{good: g, bench: day, left: good.Pieces, latest: never}
	t := 24*float64(day) + min(benchBegins, max(0, 24-good.BenchMin/60)) + good.BenchMin/60
	for i, st := range good.Stands {
		v := s.vessel[st.Vessel]
		from, ok := free(taken.vessel[v], s.t.Vessels[v].Count, t, st.Hours)
		if !ok || i == 0 && from >= 24*float64(day+1) { // what is mixed goes in the day it is mixed
			return nil
		}
		m.from, m.to = append(m.from, from), append(m.to, from+st.Hours)
		t = from + st.Hours
	}
	m.ready = max(day, int(t/24))
	if m.ready > s.t.Days {
		return nil
	}
	return m
}

// free is the earliest time from t on at which one of so many vessels is free for so many
// hours; ok is false where there is none. What a making itself held of them is behind it.
func free(busy []interval, count int, t, hours float64) (from float64, ok bool) {
	if count < 1 {
		return 0, false
	}
	for hours > 0 {
		next := full(busy, count, t) // where it begins, and where others begin meanwhile
		for i := range busy {
			if b := busy[i].from; b > t && b < t+hours {
				next = max(next, full(busy, count, b))
			}
		}
		if next == 0 {
			break
		}
		t = next
	}
	return t, true
}

// full is when the first of those that are held at a time is free again, where all are
// held; 0 where one is free.
func full(busy []interval, count int, at float64) (until float64) {
	n := 0
	for i := range busy {
		if busy[i].from <= at && at < busy[i].to {
			if n++; n == 1 || busy[i].to < until {
				until = busy[i].to
			}
		}
	}
	if n < count {
		return 0
	}
	return until
}

// take takes what a making holds of the limits, or with −1 gives it back.
func (s *search) take(taken *days, m *placed, sign float64) {
	good := &s.t.Goods[m.good]
	taken.bench[m.bench] += sign * good.BenchMin
	for i, st := range good.Stands {
		v := s.vessel[st.Vessel]
		one := interval{m.from[i], m.to[i]}
		if sign > 0 {
			taken.vessel[v] = append(taken.vessel[v], one)
			continue
		}
		at := slices.Index(taken.vessel[v], one)
		taken.vessel[v] = slices.Delete(taken.vessel[v], at, at+1)
	}
}

// plan is an outcome as it is handed out: each making as late as those it serves allow, so
// that nothing stands about before it is asked for.
func (s *search) plan(o outcome) *Plan {
	taken := s.untaken()
	for _, m := range o.makings {
		s.take(taken, m, 1)
	}
	slices.SortStableFunc(o.makings, func(a, b *placed) int { return cmp.Compare(b.ready, a.ready) })
	for i, m := range o.makings {
		s.take(taken, m, -1)
		for d := min(s.t.Days-1, m.latest); d > m.bench; d-- {
			if later := s.fit(taken, m.good, d); later != nil && later.ready <= m.latest {
				later.of, later.left, later.latest = m.of, m.left, m.latest
				o.makings[i] = later
				break
			}
		}
		s.take(taken, o.makings[i], 1)
	}
	p := &Plan{Orders: make([]Given, len(s.t.Orders))}
	slices.SortStableFunc(o.makings, func(a, b *placed) int {
		return cmp.Or(cmp.Compare(a.bench, b.bench), cmp.Compare(a.ready, b.ready), cmp.Compare(s.t.Goods[a.good].ID, s.t.Goods[b.good].ID))
	})
	for _, m := range o.makings {
		good := &s.t.Goods[m.good]
		out := Making{Good: good.ID, Pieces: good.Pieces, Bench: s.t.Today.AddDate(0, 0, m.bench), Ready: s.t.Today.AddDate(0, 0, m.ready)}
		for i, st := range good.Stands {
			out.Stands = append(out.Stands, Standing{st.Vessel, s.at(m.from[i]), s.at(m.to[i])})
		}
		p.Makings = append(p.Makings, out)
	}
	for i := range s.t.Orders {
		end := o.done[i]
		if end == never {
			end = s.t.Days
		}
		p.Orders[i] = Given{Day: s.t.Orders[i].Day, Given: o.given[i], LateDays: max(0, end-s.orderDay[i])}
	}
	return p
}

func (s *search) at(hours float64) time.Time {
	return s.t.Today.Add(time.Duration(hours * float64(time.Hour))).Round(time.Second)
}
