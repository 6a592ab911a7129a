package planning

import (
	"slices"
)

// benchBegins is when a day at the bench begins, in hours after midnight. From memory.
const benchBegins = 8

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
	pin    int // from 1; 0 for none; underWay
	best   int // the last day that what is under way may be given on
}

// underWay stands for the pin of what is being made already: its vessel is busy, its
// minutes are over.
const underWay = -1

// days is what is taken of the limits so far.
type days struct {
	bench  []float64    // minutes of each day
	vessel [][]interval // what each vessel holds
	early  []int        // makings of each good before there is enough for any number
}

type interval struct{ from, to float64 }

// untaken are the limits of which nothing is taken but by what stands already.
func (s *search) untaken() *days {
	d := &days{bench: make([]float64, s.t.Days), vessel: make([][]interval, len(s.t.Vessels)), early: make([]int, len(s.t.Goods))}
	for v, held := range s.busy {
		d.vessel[v] = slices.Clone(held)
	}
	return d
}

// pin places what is set by hand, the first day first. What cannot be is kept with why.
func (s *search) pin() {
	taken := s.untaken()
	at := make([]int, len(s.t.Pins))
	for i := range at {
		at[i] = i
	}
	slices.SortStableFunc(at, func(a, b int) int { return s.t.Pins[a].Bench.Compare(s.t.Pins[b].Bench) })
	for _, i := range at {
		p := s.t.Pins[i]
		day := s.dayOf(p.Bench)
		if day < 0 || day >= s.t.Days {
			s.unkept = append(s.unkept, Unkept{i, SpanLimit})
			continue
		}
		m, limit := s.fit(taken, s.good[p.Good], day)
		if m == nil {
			s.unkept = append(s.unkept, Unkept{i, limit})
			continue
		}
		m.pin, m.of = i+1, -1
		s.take(taken, m, 1)
		s.pinned = append(s.pinned, m)
	}
}

// comes reports whether a stock is being made and not there today.
func (s *search) comes(i int) bool {
	from := s.t.Stock[i].From
	return !from.IsZero() && s.dayOf(from) > 0
}

// begin is what the search begins with: what is under way, and what is set by hand.
func (s *search) begin() (taken *days, makings []*placed) {
	taken = s.untaken()
	for _, m := range s.pinned {
		one := *m
		s.take(taken, &one, 1)
		makings = append(makings, &one)
	}
	for i, k := range s.t.Stock {
		if s.comes(i) {
			makings = append(makings, &placed{good: s.good[k.Good], of: -1, ready: s.dayOf(k.From), left: k.Pieces, latest: never, pin: underWay, best: s.bestDay(i)})
		}
	}
	return taken, makings
}

// place finds the earliest days for a making of a good that is not past its date on a day,
// and takes them; nil where there are none.
func (s *search) place(taken *days, g, day int) *placed {
	from := 0
	if keeps := s.t.Goods[g].KeepsDays; keeps > 0 { // ready a little before it is given at most
		from = max(0, day-keeps-s.leadDays(g))
	}
	for d := from; d < s.t.Days; d++ {
		if m, _ := s.fit(taken, g, d); m != nil && s.keepsUntil(m, day) {
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

// fit is a making that begins at the bench on a day; nil where that does not fit, with the
// limit that is in its way.
func (s *search) fit(taken *days, g, day int) (m *placed, limit string) {
	good := &s.t.Goods[g]
	switch {
	case !s.workDay[day]:
		return nil, DayLimit
	case taken.bench[day]+good.BenchMin > s.t.BenchMinDay:
		return nil, BenchLimit
	case day < s.supply[g] && taken.early[g] >= good.Supply.Here:
		return nil, SupplyLimit
	}
	m = &placed{good: g, bench: day, left: good.Pieces, latest: never}
	t := 24*float64(day) + min(benchBegins, max(0, 24-good.BenchMin/60)) + good.BenchMin/60
	for i, st := range good.Stands {
		v := s.vessel[st.Vessel]
		from, ok := free(taken.vessel[v], s.t.Vessels[v].Count, t, st.Hours)
		if !ok || i == 0 && from >= 24*float64(day+1) { // what is mixed goes in the day it is mixed
			return nil, st.Vessel
		}
		m.from, m.to = append(m.from, from), append(m.to, from+st.Hours)
		t = from + st.Hours
	}
	m.ready = max(day, int(t/24))
	if m.ready > s.t.Days {
		return nil, SpanLimit
	}
	return m, ""
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
	if m.bench < s.supply[m.good] {
		taken.early[m.good] += int(sign)
	}
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
