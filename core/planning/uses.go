package planning

import (
	"math"
	"slices"
	"time"
)

// Use is how much of a material, or of a good that is half-made, one making takes.
type Use struct {
	Of     string  // a [Material], or a [Good]
	Amount float64 // of a material in its unit, of a good in pieces, which are whole
}

// Material is how much is here of something that is bought, and the day from which there is
// enough for any making. What is named by no material is here.
type Material struct {
	ID   string
	Here float64
	From time.Time
}

// Draw is what a making takes of a half-made good: of another making of the plan, or of
// stock.
type Draw struct {
	Good   string
	Pieces int
	Making int // of the plan's; −1 for stock and what is under way
}

// rawUse and madeUse are uses by number.
type (
	rawUse struct {
		material int
		amount   float64
	}
	madeUse struct{ good, pieces int }
)

// readUses tells what is bought from what is made, and finds what is made of itself.
func (s *search) readUses() {
	material := map[string]int{}
	for i, m := range s.t.Materials {
		material[m.ID] = i
		s.materialFrom = append(s.materialFrom, s.dayOf(m.From))
	}
	s.raw, s.made = make([][]rawUse, len(s.t.Goods)), make([][]madeUse, len(s.t.Goods))
	for g := range s.t.Goods {
		for _, u := range s.t.Goods[g].Uses {
			if of, ok := s.good[u.Of]; ok {
				s.made[g] = append(s.made[g], madeUse{of, int(math.Ceil(u.Amount - tolerance))})
				continue
			}
			s.raw[g] = append(s.raw[g], rawUse{material[u.Of], u.Amount})
		}
	}
	s.level = make([]int, len(s.t.Goods))
	for range s.t.Goods { // a chain is no longer than the goods are many
		for g := range s.made {
			for _, u := range s.made[g] {
				s.isMadeOfMade = true
				s.level[g] = max(s.level[g], s.level[u.good]+1)
			}
		}
	}
}

// tolerance is what amounts may be off by.
const tolerance = 1e-6

// inRing reports whether a good is made of itself, be it through others: it can never be
// begun.
func (s *search) inRing(g int) bool { return s.level[g] >= len(s.t.Goods) }

// Rings are the goods that are made of themselves, be it through others, and those that are
// made of such: none of them can be planned.
func Rings(t *Task) (ids []string) {
	s := &search{t: t, good: map[string]int{}}
	for i, g := range t.Goods {
		s.good[g.ID] = i
	}
	s.readUses()
	for g := range t.Goods {
		if s.inRing(g) {
			ids = append(ids, t.Goods[g].ID)
		}
	}
	return ids
}

// drawn is what a making takes of a stock, or of another making.
type drawn struct {
	stock  int     // where of is nil
	of     *placed // nil for stock
	pieces int
}

// lacks reports whether the materials of a making are not here on a day.
func (s *search) lacks(taken *days, g, day int) bool {
	for _, u := range s.raw[g] {
		if day < s.materialFrom[u.material] && taken.early[u.material]+u.amount > s.t.Materials[u.material].Here+tolerance {
			return true
		}
	}
	return false
}

// usable is the day from which a making can be used for another: what stands until the bench
// has begun is used the day after.
func (s *search) usable(m *placed) int {
	switch {
	case m.pin == underWay:
		return m.ready + 1
	case len(m.to) == 0:
		return m.ready
	}
	return int(math.Ceil((m.to[len(m.to)-1] - benchBegins) / 24))
}

// draw takes what a making is made of here: of stock, the first past its date first, of what
// is made before it, and of new makings. Where that is not there by its day nothing is taken,
// and retry is the first day on which it may be.
func (s *search) draw(taken *days, m *placed) (ok bool, retry int) {
	for _, u := range s.made[m.good] {
		want := u.pieces
		for _, k := range s.first {
			if n := min(want, taken.stock[k]); n > 0 && s.good[s.t.Stock[k].Good] == u.good && s.bestDay(k) >= m.bench {
				taken.stock[k], want = taken.stock[k]-n, want-n
				m.draws = append(m.draws, drawn{stock: k, pieces: n})
			}
		}
		for _, h := range taken.made {
			if h.good == u.good && want > 0 && h.left > 0 && s.isInTimeFor(h, m.bench) {
				want = m.drawFrom(h, want)
			}
		}
		for want > 0 {
			h := s.place(taken, u.good, m.bench)
			if h == nil {
				s.giveBack(taken, m)
				return false, s.t.Days
			}
			m.parts = append(m.parts, h)
			if retry = s.usable(h); retry > m.bench {
				s.giveBack(taken, m)
				return false, retry
			}
			h.isPart = true
			want = m.drawFrom(h, want)
		}
	}
	return true, 0
}

// isInTimeFor reports whether a making is there, and not past its date, on a day.
func (s *search) isInTimeFor(m *placed, day int) bool {
	return s.usable(m) <= day && s.keepsUntil(m, day)
}

func (m *placed) drawFrom(h *placed, want int) int {
	n := min(want, h.left)
	h.left, h.used = h.left-n, h.used+n
	m.draws = append(m.draws, drawn{of: h, pieces: n})
	return want - n
}

// giveBack gives back what a making drew, and takes out what was made for it; the last first,
// since that may be made of what came before.
func (s *search) giveBack(taken *days, m *placed) {
	for _, d := range m.draws {
		if d.of == nil {
			taken.stock[d.stock] += d.pieces
			continue
		}
		d.of.left, d.of.used = d.of.left+d.pieces, d.of.used-d.pieces
	}
	m.draws = nil
	for _, h := range slices.Backward(m.parts) {
		s.undo(taken, h)
	}
	m.parts = nil
}

// undo takes a making out, with all that was made for it.
func (s *search) undo(taken *days, m *placed) {
	s.giveBack(taken, m)
	s.take(taken, m, -1)
	at := slices.Index(taken.made, m)
	taken.made = slices.Delete(taken.made, at, at+1)
}

// copyMade are copies of makings that draw on each other as they did, with what is left for
// orders.
func (s *search) copyMade(made []*placed) []*placed {
	out := make([]*placed, len(made))
	var of map[*placed]*placed
	for i, m := range made {
		one := *m
		if one.latest = never; m.pin != underWay {
			one.left = s.t.Goods[m.good].Pieces - m.used
		}
		out[i] = &one
		if m.used > 0 {
			if of == nil {
				of = map[*placed]*placed{}
			}
			of[m] = out[i]
		}
	}
	for _, m := range out {
		if len(m.draws) > 0 {
			m.draws = slices.Clone(m.draws)
			for i, d := range m.draws {
				if d.of != nil {
					m.draws[i].of = of[d.of]
				}
			}
		}
	}
	return out
}

// dropUnasked leaves out makings of which nothing is asked, be it through others.
func (s *search) dropUnasked(made []*placed) []*placed {
	if !s.isMadeOfMade {
		return slices.DeleteFunc(made, func(m *placed) bool { return m.latest == never && m.pin == 0 })
	}
	asked := map[*placed]bool{}
	var ask func(m *placed)
	ask = func(m *placed) {
		if asked[m] {
			return
		}
		asked[m] = true
		for _, d := range m.draws {
			if d.of != nil {
				ask(d.of)
			}
		}
	}
	for _, m := range made {
		if m.latest != never || m.pin != 0 {
			ask(m)
		}
	}
	return slices.DeleteFunc(made, func(m *placed) bool { return !asked[m] })
}

// canBeOn reports whether a making can stand where another stood: all that it draws on is
// there on its day, and those that draw on it find it there.
func (s *search) canBeOn(other, was *placed, all []*placed) bool {
	for _, d := range was.draws {
		if d.of == nil && s.bestDay(d.stock) < other.bench || d.of != nil && !s.isInTimeFor(d.of, other.bench) {
			return false
		}
	}
	if was.used == 0 {
		return true
	}
	for _, user := range all {
		for _, d := range user.draws {
			if d.of == was && !s.isInTimeFor(other, user.bench) {
				return false
			}
		}
	}
	return true
}

// putInPlace puts a making where another stood, for all that draw on that.
func putInPlace(all []*placed, i int, other *placed) {
	was := all[i]
	other.of, other.left, other.used, other.latest, other.earliest, other.draws, other.isPart = was.of, was.left, was.used, was.latest, was.earliest, was.draws, was.isPart
	all[i] = other
	for _, user := range all {
		for k := range user.draws {
			if user.draws[k].of == was {
				user.draws[k].of = other
			}
		}
	}
}
