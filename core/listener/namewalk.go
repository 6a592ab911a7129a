package listener

// The readings of a name, in their order: what is told of it, and what it is given to.

import (
	"strings"

	"keencrock/core/quantity"
)

// walkedName is a name at a mark of an atom, as its readings see it: each returns the mark that is read next, 0 where the
// name is something else.
type walkedName struct {
	r *reader
	a *atom
	m *mark
	k int
}

// walkName reads a material.
func (r *reader) walkName(a *atom, k int) int {
	w := &walkedName{r, a, &r.out[k], k}
	for _, reads := range []func() int{w.aside, w.ofItsWater, w.ofLine, w.ofDose} {
		if next := reads(); next > 0 {
			return next
		}
	}
	return w.named()
}

// aside reads a name that is no material here: it is what another looks like, or is told of one that is there.
func (w *walkedName) aside() int {
	r, a, m, k := w.r, w.a, w.m, w.k
	if a.clause && a.alt && a.amount != nil && a.made == nil {
		r.becomes(m.from, m.to, AsRemark, r.last)
		return k + 1
	}
	if at := m.to; at+1 < len(r.toks) && a.amount != nil && r.toks[at-1].word == "cloves" && r.toks[at].word == "of" && r.toks[at+1].word == "garlic" { // no spice
		said := a.amount
		a.amount = nil
		r.lineMade(a, said, &naming{from: m.from, to: at + 2, text: "garlic", in: r.now})
		for k < a.hi && r.out[k].from < at+2 {
			k++
		}
		return k
	}
	if next := k + 1; r.toks[m.from].word == "peel" && m.to == m.from+1 && next < a.hi && a.amount == nil && r.peeled(r.toks[r.out[next].from].word) { // “4 oranges, peel them”
		r.becomes(m.from, r.out[next].to, AsStep, r.last)
		r.now.doing = true
		return next + 1
	}
	if (a.amount == nil || a.amount.Amount.Open() != quantity.NotOpen) && k > a.lo && r.isLike(k) { // “like damp sand”, “until it clumps like damp sand”
		if a.amount != nil {
			r.becomes(a.amount.from, a.amount.to, AsRemark, a.made)
			a.amount = nil
		}
		r.becomes(m.from, m.to, AsRemark, a.made)
		return k + 1
	}
	if said := a.amount; said != nil && m.from > 1 && r.toks[m.from-1].word == "the" && r.toks[m.from-2].word == "of" && r.now.doing && r.lineOf(r.read(r.said(m.from, m.to)), r.said(m.from, m.to)) != nil { // “melt the soap in 1 litre of the water”
		l := r.lineOf(r.read(r.said(m.from, m.to)), r.said(m.from, m.to))
		a.amount = nil
		r.becomes(said.from, m.to, AsStep, l)
		r.touched = append(r.touched, l)
		return k + 1
	}
	return 0
}

// ofItsWater reads what is told of the water there is: where it is hard, more goes in or is used.
func (w *walkedName) ofItsWater() int {
	r, a, m, k := w.r, w.a, w.m, w.k
	if from := r.whereWaterIs(a, m); from >= 0 { // “but if you have soft water only half”
		end := r.out[a.hi-1].to
		a.loose = -1
		r.last.remark(r.asSaid(from, end))
		for i := from; i < end; i++ {
			r.fates[r.origin[i]] = fate{AsRemark, nil, r.last}
		}
		return a.hi
	}
	if a.amount == nil && r.haveHard(m) { // “…, that's because we have hard water”
		a.loose = -1
		r.noteEnd(a, r.out[a.lo].from)
		return a.hi
	}
	if from := r.forHardness(m); from >= 0 && a.amount == nil && len(r.good.Doses) > 0 && k+1 < a.hi && r.nextCore(a, k+1) < a.hi && !r.nameNext(a, r.nextCore(a, k+1)) && r.out[r.nextCore(a, k+1)].kind == anAmount { // “…; with soft water use 30 ml”
		a.loose = -1
		r.noteEnd(a, from)
		return a.hi
	}
	if from := r.forHardness(m); from >= 0 && r.toks[from].word == "for" && a.amount == nil && r.nextCore(a, k+1) < a.hi { // “for hard water I add …”
		a.loose = -1
		r.becomes(from, m.to, AsRemark, nil)
		a.remarks = append(a.remarks, span{from, m.to})
		return k + 1
	}
	return 0
}

// ofLine reads a name that speaks of a line that is there, or says what one is for.
func (w *walkedName) ofLine() int {
	r, a, m, k := w.r, w.a, w.m, w.k
	if a.amount == nil && (r.now.doing || a.clause || a.loose >= 0 && clauseWords[r.toks[r.out[a.loose].from].word]) && len(r.good.lines) > 0 && !(k+1 < len(r.out) && r.out[k+1].kind == anAmount) && r.speaksOfLine(m) { // “dissolve the soap in 2 litres of it”
		text := r.said(m.from, m.to)
		l := r.lineOf(nil, text)
		r.becomes(m.from, m.to, AsStep, l)
		r.touched = append(r.touched, l)
		return k + 1
	}
	if a.loose >= 0 && a.made != nil && a.amount == nil && r.forWhat(a.loose) { // “ten drops of lavender for scent”
		return k + 1
	}
	if a.loose >= 0 && a.made == nil && a.amount == nil && r.forWhat(a.loose) && k+1 < a.hi && r.out[k+1].kind == anAmount && r.nameNext(a, k+1) { // “for scent ten drops of lavender”
		return k + 1
	}
	return 0
}

// ofDose reads the water, or its like, that a dose goes into.
func (w *walkedName) ofDose() int {
	r, a, m, k := w.r, w.a, w.m, w.k
	if said := a.amount; said != nil && len(r.good.lines) > 0 && !r.now.doing && said.from == r.now.from && isSpooned(said.Amount) && r.isWaterFor(m, said) && r.nothingAfter(a, k) { // “One spoon in warm water, don't rinse”
		a.amount, a.loose = nil, -1
		r.now.using = true
		if r.dosed(a, said, a.hi) {
			r.becomes(said.to, m.to, AsUse, nil)
			return k + 1
		}
		a.amount = said
	}
	if said := a.amount; said != nil && len(r.good.lines) > 1 && isSpooned(said.Amount) && r.isWaterFor(m, said) && r.usesPerLoad(a, said, k) { // “Dissolve 2 tbsp in hot water per wash”
		a.amount, a.loose = nil, -1
		r.now.using, r.now.doing = true, false
		if r.dosed(a, said, a.hi) {
			r.becomes(said.to, m.to, AsUse, nil)
			return k + 1
		}
		a.amount = said
	}
	if said := a.amount; a.perWater && said != nil { // “one capful in a bucket of water”
		if n := len(r.good.Doses); n > 0 {
			r.good.Doses[n-1].Water = said.Amount.Plain()
			r.becomes(said.from, said.to, AsUse, nil)
			a.amount = nil
		} else {
			r.amountLeft(a)
		}
		r.becomes(said.to, m.to, AsUse, nil)
		return k + 1
	}
	if r.doseIn == r.now && len(r.good.Doses) > 0 && a.amount == nil && r.hardness(m) { // “25 g a load for soft water, 40 g for hard”
		r.becomesWhereUnread(r.out[a.lo].from, m.to, AsUse, nil)
		r.now.noted = true
		return k + 1
	}
	return 0
}

// named makes a name of the mark and the words around it that belong to it, and gives it to what waits for one.
func (w *walkedName) named() int {
	r, a, m, k := w.r, w.a, w.m, w.k
	n := &naming{from: m.from, to: m.to, optional: a.optional, in: r.now, joined: r.joined}
	if before := r.modifiers(a, k); before >= 0 {
		n.from = before
	} else {
		r.looseEnds(a, k)
	}
	next := k + 1
	if m.kind == anAmount { // “5 % vinegar”
		if next < a.hi && r.out[next].kind == aName {
			n.to = r.out[next].to
			next++
		}
	}
	if !a.prose && a.loose < 0 {
		a.prose = r.now.doing || r.joined && r.proseBefore
	}
	if next < a.hi && a.amount == nil && r.toks[r.out[next].from].word == "none" && r.nothingAfter(a, next) { // “vinegar none”
		r.becomes(r.out[next].from, r.out[next].to, AsNot, nil)
		n.text = r.said(n.from, n.to)
		r.noneOf(n)
		return next + 1
	}
	for next < a.hi && r.isTail(a, next, n) {
		n.to = r.out[next].to
		next++
	}
	if next < a.hi && a.amount != nil && r.compound(a, next, n) {
		next++
	}
	n.text = r.said(n.from, n.to)
	if of := r.shared.of; of != "" && !strings.HasSuffix(n.text, of) && r.read(n.text+" "+of) != nil { // “of each oil: lavender, lemon”
		n.text += " " + of
	}
	if ends := r.endShared(a, k, next); ends != "" { // “orange and lemon peel”
		n.text += " " + ends
	}
	if len(n.remarks) > 0 { // “lemon vinegar” is vinegar
		n.text = strings.TrimSpace(strings.TrimPrefix(n.text, n.remarks[0]))
	}
	if m.kind == anAmount && r.toks[m.from].kind == isWord { // “seventy percent alcohol”
		n.text = strings.TrimSpace(m.amount.Amount.String() + " " + r.said(m.to, n.to))
	}
	if l := a.made; l != nil && a.amount == nil && l.Amount.Unit() == quantity.Percent && n.from > 0 && r.toks[n.from-1].word == "in" && len(r.good.lines) == 1 && r.read(n.text) != nil && r.read(n.text).ID == "water" { // “citric acid 15 percent in water”
		if share, ok := l.Amount.Parts(); ok {
			if rest, fits := quantity.Remainder(share.Value); fits {
				r.lineMade(a, &amountSaid{Reading: quantity.Reading{Amount: rest}, written: rest.String(), from: n.from, to: n.from}, n)
				return next
			}
		}
	}
	w.give(n, next)
	return next
}

// give gives a name to the amount before it, or to what else waits for one, or lets it wait itself.
func (w *walkedName) give(n *naming, next int) {
	r, a, k := w.r, w.a, w.k
	r.joined = false
	if r.shareOf(a, n) {
		return
	}
	if r.clearsUp(a, n) || r.clearsUpLine(a, n) {
		return
	}
	switch {
	case a.none && r.noneLeft(a, n):
	case a.none && r.notAnyMore(a, k, n):
	case a.none:
		r.noneOf(n)
		r.noneNext = true
	case a.alt:
		a.alt = false
		r.alternative(a, n)
	case a.amount != nil:
		said := a.amount
		a.amount = nil
		r.lineMade(a, said, n)
	case r.shared.open() && a.optional && r.lineOf(r.read(n.text), n.text) != nil && r.lineOf(r.read(n.text), n.text).from >= r.now.from: // “equal parts soda and water, maybe a bit less water”
		l := r.lineOf(r.read(n.text), n.text)
		l.remark(r.asSaid(r.out[a.lo].from, n.to))
		r.becomesWhereUnread(r.out[a.lo].from, n.to, AsRemark, l)
		r.becomes(n.from, n.to, AsRemark, l)
		a.optional = false
	case r.shared.open() && !r.amountNext(a, next) && !r.hasAny(next, a.hi, factored|same) && !r.waitedFor(n.to, a.hi):
		r.lineMade(a, r.shared.take(), n)
	default:
		a.names = append(a.names, n)
	}
}
