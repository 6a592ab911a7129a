package listener

import (
	"slices"
	"strings"

	"keencrock/core/quantity"
)

// corrects reports whether a weak word, “no” or “well”, takes back what was said: an
// amount follows it, or nothing at all.
func (r *reader) corrects(a *atom, k, core int) bool {
	m := &r.out[k]
	word := r.toks[m.from].word
	if m.to-m.from > 1 {
		return false
	}
	if word == "no" && k > a.lo && r.out[k-1].kind == aDash && k+1 < a.hi && r.out[k+1].kind == aDash && core < a.hi && r.last != nil { // “vinegar – no – just water”
		return true
	}
	if k+1 == a.hi { // “no, …”
		return (k == a.lo || a.made != nil) && (r.last != nil || r.alone != nil || a.amount != nil || len(r.waiting) > 0)
	}
	if core >= a.hi || r.out[core].kind != anAmount || !r.nothingBetween(k+1, core) {
		return false
	}
	switch {
	case a.amount != nil:
		return true
	case word == "no":
		return r.last != nil && r.out[core].amount.Amount.Open() == quantity.NotOpen
	}
	return r.last != nil && !r.nameNext(a, core) && k == a.lo
}

// correctionFollows reports whether what follows a word of correction can correct.
func (r *reader) correctionFollows(a *atom, k int) bool {
	if k >= a.hi {
		return true
	}
	for ; k < a.hi; k++ {
		switch m := &r.out[k]; {
		case m.kind == anAmount, m.kind == aName, m.is(correct), m.is(correctWell), m.is(scrap), m.is(doubled | halved | same | factored):
			return true
		case r.isMere(k, a.hi):
		case m.kind == aWord:
			if _, ok := quantity.UnitNamed(r.toks[m.from].word); ok {
				return true
			}
			return false
		case !m.is(small | pieces | choice | none):
			return false
		}
	}
	return false
}

// correction reads what takes the place of what was said before, from mark k on; ok is
// false where it is none.
func (r *reader) correction(a *atom, k int, weak bool) (ok bool) {
	for k < a.hi && (r.out[k].is(small|correct|correctWell) && !r.out[k].is(scrap) || r.out[k].kind == aBullet || r.out[k].kind == aDash || r.isMere(k, a.hi)) && !(r.out[k].is(none) && r.nextIsName(a, k+1)) {
		r.becomesWhereUnread(r.out[k].from, r.out[k].to, AsSmallTalk, nil)
		k++
	}
	if k == a.hi {
		r.correctNext = correct
		return true
	}
	m := &r.out[k]
	switch {
	case r.otherWayRound(m.from, r.out[a.hi-1].to):
		return true
	case r.last != nil && m.from > 1 && r.toks[m.from-1].word == "the" && r.lexIs(m.from, kind) && r.toks[m.from-2].word != "of" && r.nothingAfter(a, k) && (m.is(kind) || m.kind == aName) && !r.isLine(k): // “hang on, that's the shampoo”
		l := r.last
		r.becomes(m.from, r.out[a.hi-1].to, AsStruck, l)
		r.strike(l, func(Became) bool { return true })
		r.takeAway(l)
		return true
	case m.is(none) && r.nextIsName(a, k+1): // “no wait, no salt”
		core := r.nextCore(a, k+1)
		if l := r.correctNameOf(a); (weak || r.usesAfter(a.hi)) && core+1 == a.hi && l != nil && r.isLine(core) && r.lineOf(r.read(r.said(r.out[core].from, r.out[core].to)), "") == l && r.nameComes(a.hi) { // “vinegar, no, not vinegar, bicarb”
			r.becomes(m.from, r.out[core].to, AsStruck, l)
			r.correctNext = correct
			return true
		}
		if r.isLine(core) {
			r.scrap(a, k, core)
			return true
		}
		return false
	case m.is(scrap):
		if core := r.nextCore(a, k+1); core < a.hi && r.out[core].kind == aName && r.isLine(core) {
			r.scrap(a, k, core)
			return true
		}
		return false
	case m.kind == anAmount:
		return r.correctFrom(a, k, weak)
	case m.kind == aName && r.nextCore(a, k+1) < a.hi && r.out[r.nextCore(a, k+1)].kind == anAmount && r.lineOf(r.read(r.said(m.from, m.to)), r.said(m.from, m.to)) != nil: // “no wait, the salt is only one cup”
		l, at := r.lineOf(r.read(r.said(m.from, m.to)), r.said(m.from, m.to)), r.nextCore(a, k+1)
		r.becomes(m.from, r.out[at].from, AsSmallTalk, l)
		r.correctAmount(l, r.amountSaid(&r.out[at]))
		a.made = l
		r.endAtomAt(a, at+1)
		return true
	case m.kind == aName && k > 0 && r.out[k-1].to == m.from && r.toks[m.from-1].word == "no" && r.isLine(k) && r.nothingAfter(a, k): // “actually no percarb this time”
		r.scrap(a, k, k)
		r.becomesWhereUnread(m.to, r.out[a.hi-1].to, AsStruck, nil)
		return true
	case m.kind == aName && weak && r.hasAny(k+1, a.hi, whim): // “surgical spirit – well, vodka if that's all you have”
		a.alt = true
		return false
	case m.kind == aName && r.correctNameOf(a) != nil && !weakName(weak, r, k):
		return r.correctName(a, k)
	case m.kind == aWord && r.last != nil:
		return r.correctUnit(a, m)
	case m.is(factored|same) && r.last != nil && r.last.Amount.Open() == quantity.NotOpen:
		return false
	}
	return false
}

// otherWayRound gives the last two lines of a sentence each other's amounts: “a litre of water, half a litre of
// vinegar – no, other way round”.
func (r *reader) otherWayRound(from, to int) bool {
	n := len(r.good.lines)
	if n < 2 || !swapsBoth[strings.ToLower(r.said(from, to))] {
		return false
	}
	x, y := r.good.lines[n-2], r.good.lines[n-1]
	if x.from < r.now.from || x.Amount.IsZero() || y.Amount.IsZero() {
		return false
	}
	x.Amount, y.Amount, x.Also, y.Also, x.Written, y.Written, x.said, y.said = y.Amount, x.Amount, y.Also, x.Also, y.Written, x.Written, y.said, x.said
	r.becomes(from, to, AsAmount, y)
	return true
}

// swapsBoth says that two things were said the wrong way round.
var swapsBoth = wordSet("swapsBoth")

// isMere reports whether a word says that so much is little: “now it's only one”.
func (r *reader) isMere(k, hi int) bool {
	return r.toks[r.out[k].from].word == "only" && k+1 < hi && r.out[k+1].kind == anAmount
}

func weakName(weak bool, r *reader, k int) bool { return weak && r.isLine(k) }

func (r *reader) nextIsName(a *atom, k int) bool {
	core := r.nextCore(a, k)
	return core < a.hi && r.out[core].kind == aName && r.nothingBetween(k, core)
}

// usesAfter reports whether “use” or its kin follow a comma: “don't use vinegar, use
// alcohol”.
func (r *reader) usesAfter(k int) bool {
	if k+1 >= len(r.out) || r.out[k].kind != aComma {
		return false
	}
	return usesWords[r.toks[r.out[k+1].from].word]
}

// nameComes reports whether a name by itself comes next, words of correction before it.
func (r *reader) nameComes(k int) bool {
	for k < len(r.out) && (r.out[k].kind == aComma || r.out[k].is(correct|correctWell|small|using) && !r.out[k].is(none)) {
		k++
	}
	if k >= len(r.out) || r.out[k].kind != aName {
		return false
	}
	k++
	return k == len(r.out) || r.out[k].kind == aStop || r.out[k].is(joiner) || r.out[k].kind == aComma && !(k+2 < len(r.out) && r.out[k+1].kind == anAmount && r.out[k+2].kind != aName)
}

// correctNameOf is the line whose name a correction changes: the last one.
func (r *reader) correctNameOf(a *atom) *Line {
	if a.made != nil {
		return a.made
	}
	return r.last
}

// correctFrom reads an amount that takes the place of another: “no, two”, “make that
// three cups”, “no, three cups of borax”.
func (r *reader) correctFrom(a *atom, k int, weak bool) bool {
	m := &r.out[k]
	said := r.amountSaid(m)
	if n := len(r.good.Notes); k+1 < a.hi && r.out[k+1].is(uses) && said.Amount.Unit() == quantity.Bare && n > 0 { // “that's one load, no, two loads”
		r.good.Notes[n-1] = sentenceCase(r.asSaid(m.from, r.out[k+1].to)) + "."
		r.becomes(m.from, r.out[k+1].to, AsYield, nil)
		r.endAtomAt(a, k+2)
		return true
	}
	var name *mark
	if r.nameNext(a, k) {
		name = &r.out[r.nameIndex(a, k)]
	} else if _, unit := quantity.UnitNamed(r.said(m.from, m.to)); unit {
		return r.correctUnit(a, m)
	}
	if a.amount != nil { // “two cups, no, three cups of borax”
		r.becomes(a.amount.from, a.amount.to, AsStruck, nil)
		a.amount = nil
		if name == nil && len(a.names) == 0 {
			a.amount = said
			r.endAtomAt(a, k+1)
			return true
		}
		return false
	}
	if r.alone != nil { // the same, in an atom of its own
		with, ok := said.Amount.InUnitOf(r.alone.Amount)
		if _, unit := quantity.UnitNamed(said.written); unit { // “two teaspoons, no, tablespoons of borax”
			with, ok = r.alone.Amount.InUnitOf(said.Amount)
		} else {
			ok = ok && said.Amount.Unit() == quantity.Bare
		}
		if ok {
			said.Amount, said.written = with, with.String()
			m.amount.Amount, m.written = with, said.written
		}
		r.becomes(r.alone.from, r.alone.to, AsStruck, nil)
		r.alone = nil
		if name == nil {
			r.alone = said
			return true
		}
		return false
	}
	if len(r.waiting) > 0 || r.last == nil {
		return false
	}
	l := r.last
	if weak && l.from < r.now.from {
		l = r.inThatUnit(said)
	}
	if name != nil {
		text := r.said(name.from, name.to)
		there := r.lineOf(r.read(text), text)
		if there == nil && weak {
			return false // “well, two cups of salt” is another line
		}
		if there != nil {
			l = there
			r.becomes(name.from, name.to, AsMaterial, l)
		} else {
			r.strike(l, func(b Became) bool { return b == AsMaterial })
			r.becomes(name.from, name.to, AsMaterial, l)
			r.correctAmount(l, said)
			r.rename(l, text)
			a.made = l
			r.endAtomAt(a, r.nameIndex(a, k)+1)
			return true
		}
	}
	r.correctAmount(l, said)
	a.made = l
	rest := k + 1
	if name != nil {
		rest = r.nameIndex(a, k) + 1
	}
	r.endAtomAt(a, rest)
	return true
}

// inThatUnit is the line that an afterthought in a sentence of its own corrects: the last
// one, unless another was said in its unit and the last one was not: “1 tbsp of soap in a
// litre of water; well, a scant tablespoon”.
func (r *reader) inThatUnit(said *amountSaid) *Line {
	l := r.last
	if u := said.Amount.Unit(); u != quantity.Bare && l.Amount.Unit() != u {
		for i := len(r.good.lines) - 1; i >= max(0, len(r.good.lines)-3); i-- {
			if other := r.good.lines[i]; other.Amount.Unit() == u {
				return other
			}
		}
	}
	return l
}

// nameIndex is the mark of the name that an amount is of.
func (r *reader) nameIndex(a *atom, k int) int {
	for k++; k < a.hi; k++ {
		if r.out[k].kind == aName {
			return k
		}
	}
	return a.hi - 1
}

// correctAmount gives a line another amount; a bare number takes the unit it had.
func (r *reader) correctAmount(l *Line, said *amountSaid) {
	if said.Amount.Unit() == quantity.Bare {
		if with, ok := said.Amount.InUnitOf(l.Amount); ok {
			said.Amount = with
			said.written = with.String()
		}
	}
	r.strike(l, func(b Became) bool { return b == AsAmount })
	l.Amount, l.Written, l.Also = said.Amount, written(said), said.Also
	r.becomes(said.from, said.to, AsAmount, l)
	r.amount, l.corrected = l.Amount, true
	for i := range l.Alternatives {
		l.Alternatives[i].Amount, l.Alternatives[i].Written = l.Amount, l.Written
	}
	others, note, optional := l.Alternatives, l.Note, l.Optional
	r.rename(l, l.name)
	l.Alternatives, l.Note, l.Optional = others, note, optional
}

// correctUnit gives the last line another unit: “sorry, teaspoons”.
func (r *reader) correctUnit(a *atom, m *mark) bool {
	l := r.last
	if l == nil {
		return false
	}
	other, err := quantity.Parse("1 " + r.said(m.from, m.to))
	if err != nil {
		return false
	}
	with, ok := l.Amount.InUnitOf(other)
	if !ok {
		return false
	}
	r.correctAmount(l, &amountSaid{Reading: quantity.Reading{Amount: with}, written: with.String(), from: m.from, to: m.to})
	a.made = l
	return true
}

// correctName gives the last line another name: “I meant washing soda”.
func (r *reader) correctName(a *atom, k int) bool {
	l := r.correctNameOf(a)
	m := &r.out[k]
	text := r.said(m.from, m.to)
	if len(r.waiting) > 0 { // a name that has no amount yet
		n := r.waiting[len(r.waiting)-1]
		r.becomes(n.from, n.to, AsStruck, nil)
		n.from, n.to, n.text = m.from, m.to, text
		r.endAtomAt(a, k+1)
		return true
	}
	r.strike(l, func(b Became) bool { return b == AsMaterial })
	note := l.Note
	r.rename(l, text)
	if l.Note == "" {
		l.Note = note
	}
	r.becomes(m.from, m.to, AsMaterial, l)
	a.made, r.renamed = l, l
	next := k + 1
	if next < a.hi && r.out[next].is(none|instead) { // “washing soda, not borax”
		r.becomes(r.out[next].from, r.out[a.hi-1].to, AsStruck, l)
		next = a.hi
	}
	r.endAtomAt(a, next)
	return true
}

// endAtomAt reads what an atom still has after a correction.
func (r *reader) endAtomAt(a *atom, k int) {
	for k < a.hi {
		k = r.walk(a, k)
	}
	r.endAtom(a)
}

// scrap takes a line back: “scrap the salt”.
func (r *reader) scrap(a *atom, k, core int) int {
	m := &r.out[core]
	said := r.said(m.from, m.to)
	l := r.lineOf(r.read(said), said)
	r.becomes(r.out[k].from, m.to, AsStruck, l)
	r.strike(l, func(Became) bool { return true })
	r.takeAway(l)
	r.waiting = slices.DeleteFunc(r.waiting, func(n *naming) bool { return strings.EqualFold(n.text, said) })
	next := core + 1
	for next < a.hi && r.out[next].is(out|one|small) {
		r.becomes(r.out[next].from, r.out[next].to, AsStruck, l)
		next++
	}
	return next
}

// takeAway takes a line out of the good.
func (r *reader) takeAway(l *Line) {
	r.good.lines = slices.DeleteFunc(r.good.lines, func(other *Line) bool { return other == l })
	if r.last == l {
		r.last = nil
		if n := len(r.good.lines); n > 0 {
			r.last = r.good.lines[n-1]
		}
	}
}

// usesWords say that something is used.
var usesWords = wordSet("usesWords")
