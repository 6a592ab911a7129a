package planning

import (
	"cmp"
	"slices"
	"time"
)

// share gives orders what stock and makings hold, one after the other. Makings of which
// nothing is asked are left out.
func (s *search) share(taken *days, served []int) outcome {
	o := outcome{served: slices.Clone(served), given: make([]int, len(served)), done: make([]int, len(served))}
	shared := &days{stock: slices.Clone(taken.stock), made: s.copyMade(taken.made)}
	for _, i := range served {
		s.giveWhatIsThere(&o, shared, i, never)
	}
	o.makings = s.dropUnasked(shared.made)
	s.sum(&o)
	return o
}

// firstOut is in which order stock goes: what is past its date first, first.
func (s *search) firstOut() []int {
	first := make([]int, len(s.t.Stock))
	for i := range first {
		first[i] = i
	}
	slices.SortStableFunc(first, func(a, b int) int { return cmp.Compare(s.bestDay(a), s.bestDay(b)) })
	return first
}

// serve gives orders what they ask for, one after the other, and makes what is not there.
func (s *search) serve(order []int) outcome {
	o := outcome{served: slices.Clone(order), given: make([]int, len(order)), done: make([]int, len(order))}
	taken := s.begin()
	for _, i := range order {
		want := s.giveWhatIsThere(&o, taken, i, max(0, s.orderDay[i]))
		for want > 0 {
			m := s.place(taken, s.orderOf[i], s.orderDay[i])
			if set := s.sooner(taken, i, m); set != nil { // late as it is, nothing is sooner
				if m != nil {
					s.undo(taken, m)
				}
				want = s.give(&o, set, i, want)
				continue
			}
			if m == nil {
				break
			}
			m.of = i
			want = s.give(&o, m, i, want)
		}
	}
	o.makings = taken.made
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

// sooner is a making that is under way or set by hand, is ready no later than another, and
// has pieces left for an order; nil where there is none.
func (s *search) sooner(taken *days, i int, than *placed) *placed {
	for _, m := range taken.made {
		if m.pin != 0 && m.good == s.orderOf[i] && m.left > 0 && s.keepsUntil(m, s.orderDay[i]) && (than == nil || m.ready <= than.ready) {
			return m
		}
	}
	return nil
}

// giveWhatIsThere gives an order of the stock and of what is made already, and says how
// much it still wants. What is under way or set by hand and is ready after a day is left.
func (s *search) giveWhatIsThere(o *outcome, taken *days, i, until int) (want int) {
	want = s.t.Orders[i].Pieces
	g, day := s.orderOf[i], s.orderDay[i]
	o.done[i] = max(0, day)
	for _, k := range s.first {
		if s.good[s.t.Stock[k].Good] != g || s.bestDay(k) < max(0, day) {
			continue
		}
		n := min(want, taken.stock[k])
		taken.stock[k], want = taken.stock[k]-n, want-n
		o.given[i] += n
	}
	for _, m := range taken.made {
		if m.good == g && want > 0 && m.left > 0 && s.keepsUntil(m, day) && (m.pin == 0 || m.ready <= until) {
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
	if m.pin == underWay {
		return m.best >= max(m.ready, day)
	}
	keeps := s.t.Goods[m.good].KeepsDays
	return keeps == 0 || m.ready+keeps >= day
}

// plan is an outcome as it is handed out: each making as late as those it serves allow, so
// that nothing stands about before it is asked for.
func (s *search) plan(o outcome) *Plan {
	taken := s.untaken()
	for _, m := range o.makings {
		if m.pin != underWay {
			s.take(taken, m, 1)
		}
	}
	// the last first, so that what waits for it can follow
	slices.SortStableFunc(o.makings, func(a, b *placed) int {
		return cmp.Or(cmp.Compare(b.ready, a.ready), cmp.Compare(s.level[b.good], s.level[a.good]))
	})
	for i, m := range o.makings {
		if m.pin != 0 {
			continue
		}
		s.take(taken, m, -1)
		for d := min(s.t.Days-1, m.latest); d > m.bench; d-- {
			if later, _, _ := s.fit(taken, m.good, d); later != nil && later.ready <= m.latest && s.canBeOn(later, m, o.makings) {
				putInPlace(o.makings, i, later)
				break
			}
		}
		s.take(taken, o.makings[i], 1)
	}
	s.gather(taken, o.makings)
	o.makings = slices.DeleteFunc(o.makings, func(m *placed) bool { return m.pin == underWay })
	p := &Plan{Orders: make([]Given, len(s.t.Orders)), Unkept: s.unkept}
	slices.SortStableFunc(o.makings, func(a, b *placed) int {
		return cmp.Or(cmp.Compare(a.bench, b.bench), cmp.Compare(a.ready, b.ready), cmp.Compare(s.t.Goods[a.good].ID, s.t.Goods[b.good].ID))
	})
	number := map[*placed]int{}
	for i, m := range o.makings {
		number[m] = i
	}
	for _, m := range o.makings {
		good := &s.t.Goods[m.good]
		out := Making{Good: good.ID, Pieces: good.Pieces, Bench: s.t.Today.AddDate(0, 0, m.bench), Ready: s.t.Today.AddDate(0, 0, m.ready), Pin: m.pin}
		for i, st := range good.Stands {
			out.Stands = append(out.Stands, Standing{st.Vessel, s.at(m.from[i]), s.at(m.to[i])})
		}
		for _, d := range m.draws {
			one := Draw{Pieces: d.pieces, Making: -1}
			if d.of == nil {
				one.Good = s.t.Stock[d.stock].Good
			} else if one.Good = s.t.Goods[d.of.good].ID; d.of.pin != underWay {
				one.Making = number[d.of]
			}
			out.Draws = append(out.Draws, one)
		}
		for k, other := range o.makings {
			if other != m && other.bench == m.bench && s.shares(m.good, other.good) {
				out.With = append(out.With, k)
			}
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

// gather makes those that share something together: what is made up to a few days after one
// that it shares something with goes on that one's day, where it can be.
func (s *search) gather(taken *days, made []*placed) {
	slices.SortStableFunc(made, func(a, b *placed) int { return cmp.Compare(a.bench, b.bench) })
	for i, m := range made {
		if m.pin != 0 || len(s.t.Goods[m.good].Shares) == 0 || s.sharesOn(m, m.bench, made) {
			continue
		}
		s.take(taken, m, -1)
		for d := m.bench - 1; d >= max(m.earliest, m.bench-togetherDays); d-- {
			if !s.sharesOn(m, d, made[:i]) {
				continue
			}
			if with, _, _ := s.fit(taken, m.good, d); with != nil && with.ready <= m.latest && s.canBeOn(with, m, made) {
				putInPlace(made, i, with)
				break
			}
		}
		s.take(taken, made[i], 1)
	}
}

// togetherDays is how much earlier than it has to be something is made for the sake of what
// it shares: what is made fresh is worth a few days, not a week. From memory.
const togetherDays = 3

// sharesOn reports whether a making shares something with another that is made on a day.
func (s *search) sharesOn(m *placed, day int, made []*placed) bool {
	return slices.ContainsFunc(made, func(o *placed) bool {
		return o != m && o.bench == day && o.pin != underWay && s.shares(m.good, o.good)
	})
}

func (s *search) shares(g, with int) bool {
	return slices.ContainsFunc(s.t.Goods[g].Shares, func(one string) bool { return slices.Contains(s.t.Goods[with].Shares, one) })
}

func (s *search) at(hours float64) time.Time {
	return s.t.Today.Add(time.Duration(hours * float64(time.Hour))).Round(time.Second)
}
