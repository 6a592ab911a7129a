package listener

import "keencrock/core/quantity"

// phrase is a phrase of the lexicon where it stands: at a mark of an atom, with the mark after
// it and the next amount or name, which is the end of the atom without one.
type phrase struct {
	r             *reader
	a             *atom
	m             *mark
	k, next, core int
}

// firstOf tries readings one after the other, and returns what the first of them reads.
func firstOf(readings ...func() (after int, read bool)) (after int, read bool) {
	for _, reads := range readings {
		if after, read := reads(); read {
			return after, true
		}
	}
	return 0, false
}

// talk lets the phrase be small talk.
func (p *phrase) talk() { p.r.becomesWhereUnread(p.m.from, p.m.to, AsSmallTalk, p.a.made) }

// walkPhrase reads a phrase of the lexicon by what stands around it, and returns the next
// mark. What takes back goes before what adds, and what says more before what says less.
func (r *reader) walkPhrase(a *atom, k int) int {
	p := &phrase{r: r, a: a, m: &r.out[k], k: k, next: k + 1, core: r.nextCore(a, k+1)}
	if after, read := firstOf(p.corrects, p.denies, p.chooses, p.relates, p.fills, p.uses); read {
		return after
	}
	after, _ := p.tells()
	return after
}

// chooses reads a phrase that says what may be taken instead, or left out; read is false for any other.
func (p *phrase) chooses() (after int, read bool) {
	r, a, m, k, next, core := p.r, p.a, p.m, p.k, p.next, p.core
	switch {
	case m.is(choice) && !m.is(whim):
		r.looseEnds(a, k)
		if r.orModifier(a, k, core) {
			return next, true
		}
		r.becomesWhereUnread(m.from, m.to, AsSmallTalk, a.made)
		a.alt = a.made != nil || len(a.names) > 0 || r.last != nil || len(r.waiting) > 0
	case m.is(whim) && len(a.names) > 0 && a.made == nil && r.last != nil && r.last.from >= r.now.from && len(r.waiting) == 0: // “…, sea salt is fine”
		r.looseEnds(a, k)
		for _, n := range a.names {
			r.addOther(r.last, &other{naming: *n})
		}
		a.names = nil
		r.becomes(m.from, m.to, AsRemark, r.last)
	case m.is(whim):
		r.looseEnds(a, k)
		r.remarkOn(a, m)
	case m.is(optional) && r.now.doing && a.amount == nil && core == a.hi && a.prose && a.made == nil: // “stir now and then”
		r.looseEnds(a, k)
		r.becomes(m.from, m.to, AsStep, nil)
	case m.is(optional) && m.from > 0 && byHow[r.toks[m.from-1].word] && a.made != nil: // “ten drops, or more if you like it strong”
		r.looseEnds(a, k)
		a.made.remark(r.asSaid(m.from-1, r.out[a.hi-1].to))
		r.becomes(m.from-1, r.out[a.hi-1].to, AsRemark, a.made)
		return a.hi, true
	case m.is(optional):
		r.looseEnds(a, k)
		r.becomes(m.from, m.to, AsRemark, nil)
		r.leaveOutable(a, m, core)
	default:
		return 0, false
	}
	return next, true
}

// waitsSo are words for waiting.
var waitsSo = wordSet("waitsSo")

// byHow say that there may be more of something, or less.
var byHow = wordSet("byHow")

// tells reads a phrase that says what is done, or that belongs to what stands beside it, or nothing.
func (p *phrase) tells() (after int, read bool) {
	r, a, m, k, next, core := p.r, p.a, p.m, p.k, p.next, p.core
	switch {
	case m.is(kind) && r.read(r.said(m.from, m.to)) != nil && (a.amount != nil || r.shared.open() || core == next && core < a.hi && r.out[core].kind == anAmount && !(k > a.lo && r.isDeterminer(k-1)) || r.amountAfter(a, k)):
		m.kind = aName
		m.spot = spot{from: m.from, to: m.to, name: m.from}
		return r.walkName(a, k), true
	case m.is(kind) && m.is(step) && next == a.hi && k > a.lo && (r.out[k-1].kind == aWord || r.out[k-1].is(thing|place)) && r.kindNamed(k, next, true): // “…: glass spray”
	case m.is(step|kind) && !m.is(joiner) && m.to == m.from+1 && k > a.lo && (r.isDeterminer(k-1) || k > a.lo+1 && (r.out[k-1].kind == aWord || r.out[k-1].is(thing|place)) && r.isDeterminer(k-2)): // “for the spray”, “the dry one”
		if a.loose < 0 {
			a.loose = k
		}
	case m.is(caution) && k == a.lo && len(r.good.lines) > 0 && a.amount == nil && !r.hasAmount(next, a.hi) && r.hasName(next, a.hi) && !r.now.doing: // “don't ever follow with bleach”
		if m.from == r.now.from && r.out[a.hi-1].to == r.now.to {
			r.becomes(m.from, r.now.to, AsRemark, nil)
			r.now.noted = true
		} else {
			r.noteEnd(a, m.from)
		}
		return a.hi, true
	case m.is(step) && r.doseIn == r.now && r.now.using && !r.now.doing && waitsSo[r.toks[m.from].word]: // “drop one in & leave 20 min”
		r.looseEnds(a, k)
		r.noteEnd(a, m.from)
		return a.hi, true
	case m.is(caution) && !m.is(thing), m.is(step), m.is(using), m.is(benchDone) && a.amount == nil:
		r.verb(a, m, k)
	case m.is(one):
		r.looseEnds(a, k)
		if a.none || r.noneNext {
			r.becomes(m.from, m.to, AsNot, nil)
		} else {
			p.talk()
		}
	case conditions[r.toks[m.from].word] && m.to == m.from+1 && a.made != nil && a.amount == nil && !r.hasAny(next, a.hi, choice|correct|none) && !r.hasAmount(next, a.hi): // “… citric acid if your water's hard”
		r.looseEnds(a, k)
		a.made.remark(r.asSaid(m.from, r.out[a.hi-1].to))
		r.becomesWhereUnread(m.from, r.out[a.hi-1].to, AsRemark, a.made)
		return a.hi, true
	case m.is(function) && a.made != nil, m.is(function) && a.loose >= 0, m.is(function) && a.amount != nil && !m.is(small):
		if a.loose < 0 {
			a.loose = k
		}
	case m.is(thing), m.is(pieces), m.is(uses) && !m.is(small), m.is(kind), m.is(machine):
		if a.loose < 0 {
			a.loose = k
		}
	case m.is(function) && !m.is(small|joiner):
		a.prose = true
		if a.loose < 0 {
			a.loose = k
		}
	default:
		if a.none && endsNone[r.toks[m.from].word] { // “I'm out of borax so it's …”
			a.none, r.noneNext = false, false
		}
		a.clause = a.clause || clauseWords[r.toks[m.from].word]
		if a.loose < 0 || !m.is(function) {
			r.looseEnds(a, k)
		}
		p.talk()
	}
	return next, true
}

// amountAfter reports whether a mark is all of an atom, and an amount the next: “dish
// soap, a squirt”.
func (r *reader) amountAfter(a *atom, k int) bool {
	at := a.hi
	return k == a.lo && k+1 == a.hi && at+1 < len(r.out) && (r.out[at].kind == aComma || r.out[at].kind == aColon) && r.out[at+1].kind == anAmount && !r.nameNextAt(at+1)
}

func (r *reader) nameNextAt(k int) bool { return r.nameNext(&atom{hi: len(r.out)}, k) }

// isDeterminer reports whether a mark ends in “the”, “my” or their kin: what follows is
// a thing, and nothing that is done.
func (r *reader) isDeterminer(k int) bool {
	return determiners[r.toks[r.out[k].to-1].word]
}

// multiplies are the words that make more or less of what was said.
var multiplies = wordSet("multiplies")

// atATime are the words for how much is made at once.
var atATime = wordSet("atATime")

// endsNone are the words after which what is named is in it again.
var endsNone = wordSet("endsNone")

// waits are what is done while a dose works.
var waits = wordSet("waits")

// conditions begin what a line hangs on.
var conditions = wordSet("conditions")

// leavesOut are the words that “out” goes with.
var leavesOut = wordSet("leavesOut")

// nextCore is the next amount or name from k on; a.hi without one.
func (r *reader) nextCore(a *atom, k int) int {
	for ; k < a.hi; k++ {
		if m := &r.out[k]; m.kind == aName || m.kind == anAmount && !m.article || m.kind == aRatio {
			return k
		}
	}
	return a.hi
}

// nothingBetween reports whether no more than small talk stands between two marks.
func (r *reader) nothingBetween(from, to int) bool {
	for k := from; k < to; k++ {
		if m := &r.out[k]; !(m.is(small) || m.kind == anAmount && m.article || m.kind == anAmount && m.amount.Amount.Open() != quantity.NotOpen) {
			return false
		}
	}
	return true
}

func (r *reader) isLine(k int) bool {
	said := r.said(r.out[k].from, r.out[k].to)
	return r.lineOf(r.read(said), said) != nil
}

func (r *reader) nameAfter(a *atom, k int) bool {
	for k++; k < a.hi; k++ {
		if r.out[k].kind == aName {
			return true
		}
	}
	return false
}

// orModifier reads “white or apple cider vinegar”: the strange word before “or” is a name
// with the end of the one that follows.
func (r *reader) orModifier(a *atom, k, core int) bool {
	if a.amount == nil || a.made != nil || core >= a.hi || r.out[core].kind != aName || core != k+1 || k == a.lo || r.out[k-1].kind != aWord {
		return false
	}
	m := &r.out[core]
	word := &r.out[k-1]
	text := r.said(word.from, word.to) + " " + lastWord(r.said(m.from, m.to))
	if r.read(text) == nil {
		return false
	}
	said := a.amount
	a.amount = nil
	r.lineMade(a, said, &naming{from: word.from, to: word.to, text: text, in: r.now})
	r.becomesWhereUnread(r.out[k].from, r.out[k].to, AsSmallTalk, a.made)
	a.alt = true
	return true
}

// remarkOn keeps a phrase beside the line before it.
func (r *reader) remarkOn(a *atom, m *mark) {
	l := a.made
	if l == nil && len(a.names) == 0 {
		l = r.last
	}
	r.becomes(m.from, m.to, AsRemark, l)
	if l != nil && !m.is(choice) {
		l.remark(r.asSaid(m.from, m.to))
	}
}

// leaveOutable marks the line that may be left out: the one that follows, or the one
// before.
func (r *reader) leaveOutable(a *atom, m *mark, core int) {
	switch {
	case core < a.hi && a.made == nil, core < a.hi && r.out[core].kind == anAmount:
		a.optional = true
		if len(a.names) > 0 {
			a.names[len(a.names)-1].optional = true
		}
	case a.made != nil:
		a.made.Optional = true
		r.becomes(m.from, m.to, AsRemark, a.made)
	case len(a.names) > 0:
		a.names[len(a.names)-1].optional = true
	case len(r.waiting) > 0:
		r.waiting[len(r.waiting)-1].optional = true
	case r.last != nil && (a.lo+1 == a.hi || a.hi-a.lo <= 3) && r.lastIsNear(a):
		r.last.Optional = true
		r.becomes(m.from, m.to, AsRemark, r.last)
	default:
		a.optional = true
	}
}

// lastIsNear reports whether the last line stands in the sentence of an atom, and nothing
// follows it there that the word could belong to.
func (r *reader) lastIsNear(a *atom) bool {
	if a.hi < len(r.out) && r.out[a.hi].kind == aComma && r.hasAmount(a.hi, min(a.hi+3, len(r.out))) {
		return false
	}
	return r.last != nil && r.last.from >= r.now.from || r.last != nil && a.lo > 0 && r.out[a.lo].from == r.now.from
}

// determiners stand before a thing.
var determiners = wordSet("determiners")
