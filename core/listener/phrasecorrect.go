package listener

import "regexp"

// Phrases that take back what was said, or say what is not in it.

// corrects reads a phrase that puts right or takes away what was said before; read is false for any other.
func (p *phrase) corrects() (after int, read bool) {
	return firstOf(p.putsRight, p.takesAway, p.setsAnew)
}

// putsRight reads a phrase that puts an amount right; read is false for any other.
func (p *phrase) putsRight() (after int, read bool) {
	r, a, m, k, next, core := p.r, p.a, p.m, p.k, p.next, p.core
	switch {
	case m.is(correct|set) && len(a.names) > 0 && core < a.hi && r.out[core].kind == anAmount && r.nothingBetween(next, core) && !r.nameNext(a, core) && r.lineOf(r.read(a.names[len(a.names)-1].text), "") != nil: // “for the soda ash make it three”
		n := a.names[len(a.names)-1]
		l := r.lineOf(r.read(n.text), "")
		a.names = a.names[:len(a.names)-1]
		r.looseEnds(a, k)
		r.becomes(n.from, n.to, AsSmallTalk, l)
		p.talk()
		r.correctAmount(l, r.amountSaid(&r.out[core]))
		a.made = l
		return core + 1, true
	case m.is(none) && r.notThatBut(a, k, core): // “salt, no not salt, borax”
		r.looseEnds(a, k)
		r.becomes(m.from, r.out[core].to, AsStruck, r.last)
		r.correctNext = correct
		return a.hi, true
	case m.is(correct) && r.forAnother(a, k): // “for the tiles I'd make it two cups”
		at := a.lo
		for r.toks[r.out[at].from].word != "for" {
			at++
		}
		a.loose = -1
		r.last.remark(r.asSaid(r.out[at].from, r.out[a.hi-1].to))
		r.becomes(r.out[at].from, r.out[a.hi-1].to, AsRemark, r.last)
		return a.hi, true
	case m.is(correct), m.is(correctWell) && r.corrects(a, k, core):
		if m.is(correctWell|none) && !m.is(correct) || r.correctionFollows(a, next) {
			r.looseEnds(a, k)
			p.talk()
			if next == a.hi {
				r.correctNext = correct
				if !m.is(correct) {
					r.correctNext = correctWell
				}
				return next, true
			}
			alt := a.alt
			a.alt = false // “or make that 15” offers nothing
			if r.correction(a, next, !m.is(correct)) {
				return a.hi, true
			}
			a.alt = alt
			return next, true
		}
		p.talk()
	default:
		return 0, false
	}
	return next, true
}

// takesAway reads a phrase that leaves something out, or says what all of it comes to; read is false for any other.
func (p *phrase) takesAway() (after int, read bool) {
	r, a, m, k, next, core := p.r, p.a, p.m, p.k, p.next, p.core
	switch {
	case core < a.hi && r.out[core].kind == aName && r.isLine(core) && core+1 < a.hi && r.out[core+1].is(out) && leavesOut[r.toks[m.from].word]: // “leave the salt out”
		r.looseEnds(a, k)
		if at := core + 2; at < a.hi && conditions[r.toks[r.out[at].from].word] { // “leave the salt out if it's humid”
			l := r.lineOf(r.read(r.said(r.out[core].from, r.out[core].to)), r.said(r.out[core].from, r.out[core].to))
			l.Optional = true
			l.remark(r.asSaid(m.from, r.out[a.hi-1].to))
			r.becomes(m.from, r.out[a.hi-1].to, AsRemark, l)
			return a.hi, true
		}
		return r.scrap(a, k, core), true
	case core < a.hi && r.out[core].kind == aName && core+1 < a.hi && r.out[core+1].is(out) && leavesOut[r.toks[m.from].word] && a.amount == nil: // the same, of what was never in it
		r.looseEnds(a, k)
		r.becomes(m.from, r.out[core+1].to, AsNot, nil)
		r.noneOf(&naming{from: r.out[core].from, to: r.out[core].to, text: r.said(r.out[core].from, r.out[core].to), in: r.now})
		return core + 2, true
	case m.is(total) && a.amount == nil && len(r.waiting) > 0 && k == a.lo && next < a.hi && r.out[next].kind == anAmount && !r.nameNext(a, next): // “water twice the lye, total oils 900 g”
		r.settle()
		p.talk()
	case m.is(total) && a.amount != nil && core == a.hi: // “so a litre in all”
		said := a.amount
		a.amount = nil
		r.yields(said)
		r.becomes(m.from, m.to, AsYield, nil)
	case m.is(scrap) && core < a.hi && r.out[core].kind == aName && r.isLine(core):
		r.looseEnds(a, k)
		return r.scrap(a, k, core), true
	default:
		return 0, false
	}
	return next, true
}

// setsAnew reads a phrase that sets an amount anew, or puts one thing in the place of another; read is false for any other.
func (p *phrase) setsAnew() (after int, read bool) {
	r, a, m, k, next, core := p.r, p.a, p.m, p.k, p.next, p.core
	switch {
	case m.is(set) && core < a.hi && r.out[core].kind == aName && r.isLine(core) && r.nextCore(a, core+1) < a.hi && r.out[r.nextCore(a, core+1)].kind == anAmount: // “make the borax a whole cup”
		n := &r.out[core]
		l := r.lineOf(r.read(r.said(n.from, n.to)), r.said(n.from, n.to))
		at := r.nextCore(a, core+1)
		r.looseEnds(a, k)
		r.becomes(m.from, r.out[at].from, AsSmallTalk, l)
		r.correctAmount(l, r.amountSaid(&r.out[at]))
		a.made = l
		return at + 1, true
	case m.is(set) && len(a.names) > 0 && core < a.hi && r.out[core].kind == anAmount:
		if l := r.lineOf(r.read(a.names[len(a.names)-1].text), a.names[len(a.names)-1].text); l != nil {
			n := a.names[len(a.names)-1]
			a.names = a.names[:len(a.names)-1]
			r.becomes(n.from, n.to, AsSmallTalk, l)
			p.talk()
			r.correctAmount(l, r.amountSaid(&r.out[core]))
			a.made = l
			return core + 1, true
		}
		p.talk()
	case m.is(instead) && core < a.hi && r.out[core].kind == aName && len(a.names) == 1 && a.amount == nil && a.made == nil && r.isLine(core): // “use citrate instead of the borax”
		r.looseEnds(a, k)
		text := r.said(r.out[core].from, r.out[core].to)
		r.addOther(r.lineOf(r.read(text), text), &other{naming: *a.names[0]})
		a.names = nil
		r.becomesWhereUnread(m.from, r.out[core].to, AsChoice, nil)
		return core + 1, true
	case m.is(instead) && core < a.hi && r.out[core].kind == aName:
		r.looseEnds(a, k)
		p.talk()
		a.none = true
	default:
		return 0, false
	}
	return next, true
}

// notThatBut reports whether an atom takes back the material that was named last, “no not salt”, and no more than another
// one's name follows it.
func (r *reader) notThatBut(a *atom, k, core int) bool {
	if core+1 != a.hi || r.out[core].kind != aName || r.last == nil || r.last.from < r.now.from || r.last.Amount.IsZero() || r.toks[r.out[core].from-1].word != "not" || a.hi+2 > len(r.out) || r.out[a.hi].kind != aComma || r.out[a.hi+1].kind != aName {
		return false
	}
	if after := a.hi + 2; after < len(r.out) && r.out[after].kind != aComma && r.out[after].kind != aStop && !r.out[after].is(joiner) {
		return false
	}
	for i := a.lo; i < k; i++ {
		if !r.out[i].is(small | joiner | correct | correctWell) {
			return false
		}
	}
	text := r.said(r.out[core].from, r.out[core].to)
	return r.lineOf(r.read(text), text) == r.last
}

// denies reads a phrase that says what is not in it; read is false for any other.
func (p *phrase) denies() (after int, read bool) {
	r, a, m, k, next, core := p.r, p.a, p.m, p.k, p.next, p.core
	switch {
	case m.is(none) && k == a.lo && r.trailsOff(m.from) && r.last != nil && core == next && core < a.hi && r.out[core].kind == aName: // “honey… no, sugar”, as it is spoken
		p.talk()
		if r.correctName(a, core) {
			return a.hi, true
		}
		return core + 1, true
	case m.is(none) && core+1 == a.hi && r.out[core].kind == aName && r.isLine(core) && r.usesAfter(a.hi) && r.nameComes(a.hi) && r.last != nil && r.lineOf(r.read(r.said(r.out[core].from, r.out[core].to)), "") == r.last: // “don't use vinegar, use alcohol”
		r.looseEnds(a, k)
		r.becomes(m.from, r.out[core].to, AsStruck, r.last)
		r.correctNext = correct
		return a.hi, true
	case m.is(none) && core < a.hi && r.out[core].kind == aName && a.made != nil && a.amount == nil && r.lineOf(r.read(r.said(r.out[core].from, r.out[core].to)), "") == a.made && r.isLine(core): // “a tsp of vinegar no not vinegar”
		r.looseEnds(a, k)
		at := r.scrap(a, k, core)
		a.made = nil
		return at, true
	case m.is(none) && core < a.hi && r.out[core].kind == aName && (r.nothingBetween(next, core) || core == next+1 && r.out[next].kind == aWord && r.toks[m.from].word != "not"):
		r.looseEnds(a, k)
		r.becomes(m.from, m.to, AsNot, nil)
		a.none = true
	case m.is(none) && core == next && core < a.hi && r.out[core].kind == anAmount && !r.nameNext(a, core) && r.last != nil: // “three, not two”
		r.looseEnds(a, k)
		r.becomes(m.from, r.out[core].to, AsStruck, r.last)
		if core+1 == a.hi { // “not three, two”
			r.correctNext = correct
		}
		return core + 1, true
	default:
		return 0, false
	}
	return next, true
}

// otherGoods is what says that the line before belongs to another good.
var otherGoods = regexp.MustCompile(`^(?:(?:no|oh|wait|sorry|hang on|hold on|oops|ah)[ ,]+)*(?:(?:that's|thats|that is|that was) (?:the other (?:one|recipe)|another (?:one|recipe)|a different (?:one|recipe)|for the other(?: one)?|in the other one|the wrong (?:one|recipe))|(?:the )?wrong (?:one|recipe))$`)

// ofOther takes the line before away where an atom says that it is another good's: “1 cup of shea
// butter… no, that's the other one”.
func (r *reader) ofOther(lo, hi int) bool {
	l := r.last
	if l == nil || l.from < 0 || r.out[lo].from-l.from > longestTitle || !otherGoods.MatchString(r.said(r.out[lo].from, r.out[hi-1].to)) {
		return false
	}
	r.becomes(r.out[lo].from, r.out[hi-1].to, AsStruck, l)
	r.strike(l, func(Became) bool { return true })
	r.takeAway(l)
	r.correctNext = 0
	return true
}

// deny takes the last line away as something that is not in it.
func (r *reader) deny(a *atom, m *mark) {
	l := r.last
	r.becomes(m.from, m.to, AsNot, nil)
	for i := range r.fates {
		if f := &r.fates[i]; f.line == l {
			f.became, f.line = AsNot, nil
		}
	}
	if found := r.read(l.name); found != nil {
		r.good.Not = append(r.good.Not, found)
	}
	r.takeAway(l)
	a.made = nil
}

// trailsOff reports whether what stands before a token ends in “…” or “...”.
func (r *reader) trailsOff(tok int) bool {
	return tok > 1 && (r.toks[tok-1].word == "…" || r.toks[tok-1].word == "." && r.toks[tok-2].word == ".")
}

// forAnother reports whether words of correction follow “for the …”: what is said then is
// of another use, and takes nothing back.
func (r *reader) forAnother(a *atom, k int) bool {
	if r.last == nil || a.amount != nil || a.made != nil {
		return false
	}
	for i := a.lo; i+1 < k; i++ {
		if r.toks[r.out[i].from].word == "for" && r.isDeterminer(i) && k-i > 1 {
			return !r.hasName(i, k)
		}
	}
	return false
}
