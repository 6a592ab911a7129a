package planning

import (
	"slices"
)

// benchBegins is when a day at the bench begins, in hours after midnight. From memory.
const benchBegins = 8

// placed is a making in its days, in hours after midnight of today.
type placed struct {
	good     int
	of       int // the order it is made for
	bench    int // day
	from     []float64
	to       []float64
	ready    int // day
	left     int // pieces nobody has yet
	latest   int // the day by which it has to be ready for those it serves
	pin      int // from 1; 0 for none; underWay
	best     int // the last day that what is under way may be given on
	earliest int // the day at the bench that it was placed on first
	used     int // pieces that went into other makings
	draws    []drawn
	parts    []*placed // makings that were placed for it
	isPart   bool      // placed for another making, not for an order
}

// underWay stands for the pin of what is being made already: its vessel is busy, its
// minutes are over.
const underWay = -1

// days is what is taken of the limits so far.
type days struct {
	bench  []float64    // minutes of each day
	vessel [][]interval // what each vessel holds
	early  []float64    // of each material before there is enough for any making
	stock  []int        // pieces left of each stock that is there
	made   []*placed
}

type interval struct{ from, to float64 }

// untaken are the limits of which nothing is taken but by what stands already.
func (s *search) untaken() *days {
	d := &days{bench: make([]float64, s.t.Days), vessel: make([][]interval, len(s.t.Vessels)), early: make([]float64, len(s.t.Materials)), stock: make([]int, len(s.t.Stock))}
	for v, held := range s.busy {
		d.vessel[v] = slices.Clone(held)
	}
	for i, k := range s.t.Stock {
		if !s.comes(i) {
			d.stock[i] = k.Pieces
			continue
		}
		d.made = append(d.made, &placed{good: s.good[k.Good], of: -1, ready: s.dayOf(k.From), left: k.Pieces, latest: never, pin: underWay, best: s.bestDay(i)})
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
		m, limit, _ := s.fit(taken, s.good[p.Good], day)
		if m == nil {
			s.unkept = append(s.unkept, Unkept{i, limit})
			continue
		}
		m.pin, m.of = i+1, -1
		if ok, _ := s.put(taken, m, never); !ok {
			s.unkept = append(s.unkept, Unkept{i, SupplyLimit})
			continue
		}
		s.pinned = append(s.pinned, *m)
	}
}

// comes reports whether a stock is being made and not there today.
func (s *search) comes(i int) bool {
	from := s.t.Stock[i].From
	return !from.IsZero() && s.dayOf(from) > 0
}

// begin is what the search begins with: what is under way, and what is set by hand.
func (s *search) begin() *days {
	taken := s.untaken()
	for _, m := range s.pinned {
		m.left, m.used, m.draws, m.parts = s.t.Goods[m.good].Pieces, 0, nil, nil
		s.put(taken, &m, never) // as it could when it was set
	}
	return taken
}

// put takes what a making that fits holds, with what it is made of. Where that is not here
// by its day, or leaves no room for it, nothing is taken, and retry is the first day on which
// there may be.
func (s *search) put(taken *days, m *placed, day int) (ok bool, retry int) {
	if ok, retry = s.draw(taken, m); !ok {
		return false, retry
	}
	if len(m.parts) > 0 { // which may hold what it was to stand in
		again, _, _ := s.fit(taken, m.good, m.bench)
		if again == nil || day != never && !s.keepsUntil(again, day) {
			s.giveBack(taken, m)
			return false, m.bench + 1
		}
		m.from, m.to, m.ready = again.from, again.to, again.ready
	}
	s.take(taken, m, 1)
	taken.made = append(taken.made, m)
	return true, 0
}

// place finds the earliest days for a making of a good that is not past its date on a day,
// and takes them; nil where there are none.
func (s *search) place(taken *days, g, day int) *placed {
	if s.inRing(g) {
		return nil
	}
	from := 0
	if keeps := s.t.Goods[g].KeepsDays; keeps > 0 { // ready a little before it is given at most
		from = max(0, day-keeps-s.leadDays(g))
	}
	for d := from; d < s.t.Days; {
		m, _, retry := s.fit(taken, g, d)
		if m != nil && s.keepsUntil(m, day) {
			var ok bool
			if ok, retry = s.put(taken, m, day); ok {
				return m
			}
		}
		retry = max(retry, d+1)
		d = retry
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
// limit that is in its way, and the first day on which it may not be.
func (s *search) fit(taken *days, g, day int) (m *placed, limit string, retry int) {
	good := &s.t.Goods[g]
	switch {
	case !s.workDay[day]:
		return nil, DayLimit, day + 1
	case taken.bench[day]+good.BenchMin > s.t.BenchMinDay:
		return nil, BenchLimit, day + 1
	case s.inRing(g) || s.lacks(taken, g, day):
		return nil, SupplyLimit, day + 1
	}
	var from, to [fewStands]float64 // most days do not fit: nothing is allocated for them
	starts, ends := from[:0], to[:0]
	t := 24*float64(day) + min(benchBegins, max(0, 24-good.BenchMin/60)) + good.BenchMin/60
	for i, st := range good.Stands {
		v := s.vessel[st.Vessel]
		at, ok := free(taken.vessel[v], s.t.Vessels[v].Count, t, st.Hours)
		switch {
		case !ok:
			return nil, st.Vessel, s.t.Days
		case i == 0 && at >= 24*float64(day+1): // what is mixed goes in the day it is mixed
			return nil, st.Vessel, int(at / 24)
		}
		t = at + st.Hours
		starts, ends = append(starts, at), append(ends, t)
	}
	ready := max(day, int(t/24))
	if ready > s.t.Days {
		return nil, SpanLimit, s.t.Days
	}
	return &placed{good: g, bench: day, left: good.Pieces, latest: never, earliest: day, from: slices.Clone(starts), to: slices.Clone(ends), ready: ready}, "", day
}

// fewStands is how many stands a good has at the most as a rule.
const fewStands = 4

// free is the earliest time from t on at which one of so many vessels is free for so many
// hours; ok is false where there is none. What a making itself held of them is behind it.
func free(busy []interval, count int, t, hours float64) (from float64, ok bool) {
	if count < 1 {
		return 0, false
	}
	if count > len(busy) {
		return t, true
	}
	for hours > 0 {
		next := full(busy, count, t) // where it begins, and where others begin meanwhile
		for i := range busy {
			if b := busy[i].from; b > t && b < t+hours {
				if count == 1 {
					next = max(next, busy[i].to)
					continue
				}
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
	for _, u := range s.raw[m.good] {
		if m.bench < s.materialFrom[u.material] {
			taken.early[u.material] += sign * u.amount
		}
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
