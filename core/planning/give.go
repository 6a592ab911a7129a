package planning

import (
	"cmp"
	"slices"
	"time"
)

// share gives orders what stock and makings hold, one after the other. Makings of which
// nothing is asked are left out.
func (s *search) share(made []*placed, served []int) outcome {
	o := outcome{served: slices.Clone(served), given: make([]int, len(served)), done: make([]int, len(served))}
	stock, first := s.stock()
	all := make([]*placed, len(made))
	for i, m := range made {
		one := *m
		if one.latest = never; m.pin != underWay {
			one.left = s.t.Goods[m.good].Pieces
		}
		all[i] = &one
	}
	o.makings = all
	for _, i := range served {
		s.giveWhatIsThere(&o, stock, first, i, never)
	}
	o.makings = slices.DeleteFunc(all, func(m *placed) bool { return m.latest == never && m.pin == 0 })
	s.sum(&o)
	return o
}

// stock is what is there, and in which order it goes: what is past its date first, first.
func (s *search) stock() (pieces, first []int) {
	pieces, first = make([]int, len(s.t.Stock)), make([]int, len(s.t.Stock))
	for i, k := range s.t.Stock {
		if first[i] = i; !s.comes(i) {
			pieces[i] = k.Pieces
		}
	}
	slices.SortStableFunc(first, func(a, b int) int { return cmp.Compare(s.bestDay(a), s.bestDay(b)) })
	return pieces, first
}

// serve gives orders what they ask for, one after the other, and makes what is not there.
func (s *search) serve(order []int) outcome {
	o := outcome{served: slices.Clone(order), given: make([]int, len(order)), done: make([]int, len(order))}
	taken, makings := s.begin()
	o.makings = makings
	stock, first := s.stock()
	for _, i := range order {
		want := s.giveWhatIsThere(&o, stock, first, i, max(0, s.orderDay[i]))
		for want > 0 {
			m := s.place(taken, s.orderOf[i], s.orderDay[i])
			if set := s.sooner(&o, i, m); set != nil { // late as it is, nothing is sooner
				if m != nil {
					s.take(taken, m, -1)
				}
				want = s.give(&o, set, i, want)
				continue
			}
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

// sooner is a making that is under way or set by hand, is ready no later than another, and
// has pieces left for an order; nil where there is none.
func (s *search) sooner(o *outcome, i int, than *placed) *placed {
	for _, m := range o.makings {
		if m.pin != 0 && m.good == s.orderOf[i] && m.left > 0 && s.keepsUntil(m, s.orderDay[i]) && (than == nil || m.ready <= than.ready) {
			return m
		}
	}
	return nil
}

// giveWhatIsThere gives an order of the stock and of what is made already, and says how
// much it still wants. What is under way or set by hand and is
// ready after a day is left.
func (s *search) giveWhatIsThere(o *outcome, stock, first []int, i, until int) (want int) {
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
	slices.SortStableFunc(o.makings, func(a, b *placed) int { return cmp.Compare(b.ready, a.ready) })
	for i, m := range o.makings {
		if m.pin != 0 {
			continue
		}
		s.take(taken, m, -1)
		for d := min(s.t.Days-1, m.latest); d > m.bench; d-- {
			if later, _ := s.fit(taken, m.good, d); later != nil && later.ready <= m.latest {
				later.of, later.left, later.latest = m.of, m.left, m.latest
				o.makings[i] = later
				break
			}
		}
		s.take(taken, o.makings[i], 1)
	}
	o.makings = slices.DeleteFunc(o.makings, func(m *placed) bool { return m.pin == underWay })
	p := &Plan{Orders: make([]Given, len(s.t.Orders)), Unkept: s.unkept}
	slices.SortStableFunc(o.makings, func(a, b *placed) int {
		return cmp.Or(cmp.Compare(a.bench, b.bench), cmp.Compare(a.ready, b.ready), cmp.Compare(s.t.Goods[a.good].ID, s.t.Goods[b.good].ID))
	})
	for _, m := range o.makings {
		good := &s.t.Goods[m.good]
		out := Making{Good: good.ID, Pieces: good.Pieces, Bench: s.t.Today.AddDate(0, 0, m.bench), Ready: s.t.Today.AddDate(0, 0, m.ready), Pin: m.pin}
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
