package listener

// A good that is another one with something changed.

import (
	"slices"
	"strings"
)

// mostBefore is how many goods of one text may stand before one that is like another: each takes all
// lines of that, and a text must not grow without end.
const mostBefore = 40

// variantOf is the good that words at the head of a list refer to, “same as above but …”, “like B
// plus …”, and the token after them; 0 where nothing of that stands there.
func (r *reader) variantOf(lo, hi int) (of *Good, to int) {
	if lo >= hi {
		return nil, 0
	}
	i, end := r.out[lo].from, r.out[hi-1].to
	word := func(at int) string {
		if at >= end {
			return ""
		}
		return r.toks[at].word
	}
	for variantLeads[word(i)] {
		i++
	}
	goods := r.goods
	if r.good.empty() {
		goods = goods[:len(goods)-1]
	}
	if len(goods) == 0 || len(goods) > mostBefore || goods[len(goods)-1].empty() {
		return nil, 0
	}
	of = goods[len(goods)-1]
	points := false
	switch word(i) {
	case "same":
		points = true
	case "as", "like":
	default:
		return nil, 0
	}
	for i++; i < end; i++ {
		w := word(i)
		if w == "as" || w == "a" && i > 0 && r.toks[i-1].word != "as" && r.toks[i-1].word != "like" {
			continue
		}
		if g, n := r.goodNamedAt(goods, i); n > 0 {
			of, i, points = g, i+n-1, true
			continue
		}
		if w == "above" || w == "before" {
			points = true
		} else if w == "first" {
			of, points = goods[0], true
		} else if !variantWords[w] {
			break
		}
	}
	if !points || i < end && !variantEnds[word(i)] && r.toks[i].kind != isSign {
		return nil, 0
	}
	return of, i
}

// goodNamedAt is the good whose name stands at a token, and how many tokens that is.
func (r *reader) goodNamedAt(goods []*Good, i int) (*Good, int) {
	for _, g := range slices.Backward(goods) {
		name := strings.Fields(strings.ToLower(g.Name))
		n := len(name)
		if n > 0 && i+n <= len(r.toks) && strings.EqualFold(r.said(i, i+n), g.Name) {
			return g, n
		}
		if n > 1 && (len(name[n-1]) == 1 || i > 0 && r.toks[i-1].word == "the") && r.toks[i].word == name[n-1] { // “Powder A”, as A
			return g, 1
		}
	}
	return nil, 0
}

var (
	variantLeads = wordSet("variantLeads")
	variantWords = wordSet("variantWords")
	variantEnds  = wordSet("variantEnds")
	differLeads  = wordSet("differLeads")
	insteadOf    = wordSet("insteadOf")
)

// variant gives a good that has no lines yet those of the one it refers to, and returns where what
// differs begins.
func (r *reader) variant(lo, hi int) int {
	if !r.good.empty() || len(r.goods) < 2 || len(r.waiting) > 0 {
		return lo
	}
	of, to := r.variantOf(lo, hi)
	if to == 0 {
		return lo
	}
	of.sameGrams()
	r.good.variant = true
	for _, l := range of.lines {
		same := *l
		same.from, same.Alternatives = -1, nil
		r.last = &same
		r.good.lines = append(r.good.lines, r.last)
	}
	if last := strings.ToLower(lastWord(r.good.Name)); r.good.Kind == "other" && (!goodWords[last] || last == strings.ToLower(lastWord(of.Name))) {
		r.good.Kind = of.Kind
	}
	r.becomes(r.out[lo].from, to, AsSmallTalk, nil)
	for lo < hi && (r.out[lo].to <= to || r.out[lo].kind == aComma) {
		lo++
	}
	for next := r.differs(lo, hi); next > lo; next = r.differs(lo, hi) {
		lo = next
	}
	return lo
}

// differs reads “without borax”, “double soda” of a good that is like another, and returns the mark
// after it.
func (r *reader) differs(lo, hi int) int {
	if lo >= hi {
		return lo
	}
	i, end := r.out[lo].from, r.out[hi-1].to
	for i < end && differLeads[r.toks[i].word] {
		i++
	}
	if i >= end {
		return lo
	}
	k := lo
	for k < hi && r.out[k].to <= i {
		k++
	}
	if next := r.swaps(k, hi); next > k {
		r.becomesWhereUnread(r.out[lo].from, r.out[k].from, AsSmallTalk, nil)
		return next
	}
	word := r.toks[i].word
	factor, less := factorOf(word), lessWords[word]
	if factor == 0 && !less {
		return lo
	}
	name := k
	for name < hi && r.out[name].kind != aName && r.out[name].from-r.out[k].from < 4 && r.out[name].kind != aComma {
		if r.out[name].kind == anAmount && name > k {
			return lo
		}
		name++
	}
	if name >= hi || r.out[name].kind != aName {
		return lo
	}
	said := r.said(r.out[name].from, r.out[name].to)
	m := r.read(said)
	l := r.lineOf(m, said)
	if l == nil || l.from >= 0 {
		return lo
	}
	if less {
		r.takeAway(l)
		if m != nil {
			r.good.Not = append(r.good.Not, m)
		}
		r.becomes(r.out[lo].from, r.out[name].to, AsNot, nil)
		return name + 1
	}
	times, fits := l.Amount.Times(factor, 2)
	if !fits {
		return lo
	}
	l.Amount, l.Written = times, times.String()
	r.becomes(r.out[lo].from, r.out[name].to, AsAmount, l)
	return name + 1
}

// factorOf is by how much a word multiplies, in halves; 0 for any other.
func factorOf(word string) int64 {
	switch word {
	case "half":
		return 1
	case "double", "twice":
		return 4
	case "triple", "treble":
		return 6
	}
	return 0
}

// lessWords say that what follows is not in it.
var lessWords = wordSet("lessWords")

// takeInstead puts what the rest of a sentence takes “instead of” a line of the other good in its
// place.
func (g *Good) takeInstead() {
	for _, l := range g.lines {
		if g.variant && l.from < 0 && len(l.Alternatives) == 1 {
			l.Material, l.Amount, l.Written, l.Err, l.Alternatives = l.Alternatives[0].Material, l.Alternatives[0].Amount, l.Alternatives[0].Written, nil, nil
		}
	}
}

// swaps reads “orange oil instead of lemon” of a line of the other good, and returns the mark after
// it.
func (r *reader) swaps(k, hi int) int {
	if k+1 >= hi || r.out[k].kind != aName {
		return k
	}
	for old := k + 1; old < min(hi, k+4); old++ {
		if r.out[old].kind != aName {
			continue
		}
		if !insteadOf[strings.ToLower(r.said(r.out[k].to, r.out[old].from))] {
			return k
		}
		said, name := r.said(r.out[old].from, r.out[old].to), r.said(r.out[k].from, r.out[k].to)
		l, m := r.lineOf(r.read(said), said), r.read(name)
		for _, other := range r.good.lines {
			if l == nil && strings.HasPrefix(strings.ToLower(other.name), strings.ToLower(said)+" ") { // “lemon”, of lemon oil
				l = other
			}
		}
		if l == nil || m == nil || l.from >= 0 {
			return k
		}
		l.Material, l.name, l.Err = m.ID, name, nil
		r.becomes(r.out[k].from, r.out[old].to, AsMaterial, l)
		return old + 1
	}
	return k
}
