package listener

import (
	"slices"
	"strings"

	"keencrock/core/quantity"
)

// Phrases that give an amount by another, or by what is still missing.

// relates reads a phrase that gives an amount by another: each, both, double, half of that, the same; read is false for any other.
func (p *phrase) relates() (after int, read bool) {
	r, a, m, k, next, core := p.r, p.a, p.m, p.k, p.next, p.core
	switch {
	case m.is(each):
		if a.amount == nil && a.made == nil && len(r.waiting) == 0 {
			if a.loose < 0 {
				a.loose = k
			}
			return next, true
		}
		r.looseEnds(a, k)
		p.talk()
		r.eachOf(a, core)
	case m.is(both):
		p.talk()
		if a.amount != nil {
			r.shared = sharing{said: a.amount, all: true}
		} else {
			r.forAll = true
		}
	case m.is(factored) && multiplies[r.toks[m.from].word] && core == a.hi && a.amount == nil && len(a.names) == 0 && len(r.waiting) == 0 && r.last != nil && r.last.Amount.Open() == quantity.NotOpen && !r.out[min(next, a.hi-1)].is(joiner): // “…, double that”
		r.looseEnds(a, k)
		r.multiply(a, m, m.meaning.num, m.meaning.den)
	case m.is(factored) && core == a.hi && a.amount == nil && len(a.names) == 0 && len(r.waiting) == 0 && r.last != nil && next < a.hi && r.toks[r.out[next].from].word == "for": // “and half that for the windows”
		r.looseEnds(a, k)
		r.last.remark(r.asSaid(m.from, r.out[a.hi-1].to))
		r.becomesWhereUnread(m.from, r.out[a.hi-1].to, AsRemark, r.last)
		return a.hi, true
	case m.is(same) && r.toks[m.to-1].word == "another" && next < a.hi && r.out[next].kind == anAmount: // “another litre of hot water”
		r.looseEnds(a, k)
		p.talk()
	case m.is(same) && r.toks[m.to-1].word == "another" && next < a.hi && r.anotherVessel(m): // “in another bowl …”
		r.looseEnds(a, k)
		r.becomes(m.from, r.out[next].to, AsPlace, nil)
		return next + 1, true
	case m.is(factored) && a.machine != "" && r.doseIn == r.now && r.dosedSo(a, m): // “one scoop a wash, front loaders half that”
	case m.is(same | factored):
		return r.relativeAmount(a, k), true
	case m.is(doubled|halved) && r.last != nil && a.loose >= 0 && (conditions[r.toks[r.out[a.lo].from].word] || r.forWhat(a.lo) || r.toks[r.out[a.lo].from].word == "in"): // “in the winter double it”
		a.loose = -1
		r.becomesWhereUnread(r.out[a.lo].from, r.out[a.hi-1].to, AsRemark, nil)
		r.now.noted = true
		return a.hi, true
	case m.is(doubled|halved) && r.last != nil:
		r.looseEnds(a, k)
		num, den := int64(2), int64(1)
		if m.is(halved) {
			num, den = 1, 2
		}
		r.multiply(a, m, num, den)
	default:
		return 0, false
	}
	return next, true
}

// dosedSo keeps as the dose of a machine so many times the one that was said before.
func (r *reader) dosedSo(a *atom, m *mark) bool {
	of, ok := r.dose.Times(m.meaning.num, m.meaning.den)
	return ok && r.dosed(a, &amountSaid{Reading: quantity.Reading{Amount: of}, written: of.String(), from: m.from, to: m.to}, a.hi)
}

// anotherVessel reports whether “another” is said of what something is done in.
func (r *reader) anotherVessel(m *mark) bool {
	if m.from == 0 || m.to >= len(r.toks) {
		return false
	}
	switch r.toks[m.from-1].word {
	case "in", "into", "with", "using", "take", "get":
	default:
		return false
	}
	u, unit := quantity.UnitNamed(r.toks[m.to].word)
	return unit && isVessel(u) || r.lexIs(m.to, thing)
}

// fills reads a phrase that says what there is of by what is still missing; read is false for any other.
func (p *phrase) fills() (after int, read bool) {
	if p.m.is(cover|top|rest|wet) && p.r.strengthOfNext(p.a, p.core) {
		of := *p
		of.core++
		p = &of
	}
	return firstOf(p.theRest, p.dosesOfIt, p.covers, p.makesUpTo, p.fillsIt)
}

// theRest reads a phrase for what is left of something; read is false for any other.
func (p *phrase) theRest() (after int, read bool) {
	r, a, m, k, next, core := p.r, p.a, p.m, p.k, p.next, p.core
	switch {
	case m.is(rest) && r.restOf(a, next) > 0: // “the rest of the cup salt”
		at := r.restOf(a, next)
		with := r.out[at].amount.Amount.Total()
		r.becomes(r.out[next].from, r.out[at].to, AsAmount, nil)
		return r.fillUp(a, k, at+1, with) + at - k, true
	case m.is(rest) && r.now.doing && len(r.good.lines) > 1 && r.restOfSeveral(a, k): // “add the rest of the oils”
		r.verb(a, m, k)
		r.becomesWhereUnread(m.from, r.out[a.hi-1].to, AsStep, nil)
		return a.hi, true
	case m.is(rest) && core < a.hi && (r.now.doing || r.now.begins) && r.restOfLine(core): // “Add the rest of the water.”
		r.verb(a, m, k)
		text := r.said(r.out[core].from, r.out[core].to)
		l := r.lineOf(r.read(text), text)
		r.looseEnds(a, core)
		r.becomes(r.out[core].from, r.out[core].to, AsStep, l)
		r.touched, r.now.doing = append(r.touched, l), true
		return core + 1, true
	case m.is(rest) && core == a.hi && r.now.doing && m.from > 0 && restWith[r.toks[m.from-1].word]: // “blend with the rest”
		r.verb(a, m, k)
	case m.is(rest) && !(m.is(step) && (core == a.hi || r.out[core].kind != aName || !r.nothingBetween(next, core))): // “then rest” is done
		return r.fillUp(a, k, core, r.theRest()), true
	default:
		return 0, false
	}
	return next, true
}

// vesselWith is the mark of what somebody's vessel is filled with, a few words after “fill”; 0 where nothing of that stands
// there.
func (r *reader) vesselWith(a *atom, k int) int {
	for at := k + 1; at+1 < a.hi && at < k+6; at++ {
		m := &r.out[at]
		if m.kind == anAmount && !m.article || m.kind == aName {
			return 0
		}
		if r.toks[m.from].word == "with" && m.to == m.from+1 {
			u, unit := quantity.UnitNamed(r.toks[m.from-1].word)
			if unit && isVessel(u) && r.out[at+1].kind == aName && !r.isLine(at+1) {
				return at + 1
			}
			return 0
		}
	}
	return 0
}

// restOfLine reports whether what is left of a line is spoken of, which was measured whole before: “the rest of the water”.
func (r *reader) restOfLine(core int) bool {
	if r.out[core].kind != aName || r.toks[r.out[core].from-1].word == "with" {
		return false
	}
	text := r.said(r.out[core].from, r.out[core].to)
	l := r.lineOf(r.read(text), text)
	return l != nil && l.from >= 0 && l.from < r.now.from && inMeasures(l.Amount) && l.Amount.Open() == quantity.NotOpen
}

// dosesOfIt reads a dose that is topped up; read is false for any other.
func (p *phrase) dosesOfIt() (after int, read bool) {
	r, a, m := p.r, p.a, p.m
	switch {
	case m.is(top) && a.amount != nil && isPronoun(r.toks[a.amount.to-1].word) && r.isDose(a.amount): // “about a cup of it topped up with water”
		said := a.amount
		r.dosed(a, said, a.hi)
		r.noteEnd(a, said.from)
		return a.hi, true
	case m.is(top) && a.amount == nil && r.doseIn == r.now && isPronoun(r.toks[m.from-1].word): // the same, after “use”
		r.noteEnd(a, m.from)
		return a.hi, true
	}
	return 0, false
}

// covers reads a phrase for what is poured or sprayed over what is there; read is false for any other.
func (p *phrase) covers() (after int, read bool) {
	r, a, m, k, next, core := p.r, p.a, p.m, p.k, p.next, p.core
	switch {
	case m.is(cover) && r.now.doing && core < a.hi && r.out[core].kind == aName && r.toks[r.out[core].from-1].word == "the" && r.nothingBetween(next, core) && r.isLine(core): // “grate the wax, pour over the oil”
		said := r.said(r.out[core].from, r.out[core].to)
		l := r.lineOf(r.read(said), said)
		r.looseEnds(a, k)
		r.becomesWhereUnread(m.from, r.out[core].to, AsStep, l)
		r.touched = append(r.touched, l)
		return core + 1, true
	case m.is(cover) && core < a.hi && r.out[core].kind == aName:
		return r.fillUp(a, k, core, quantity.OpenAmount(quantity.ToCover)), true
	case m.is(wet) && r.now.using && !r.now.doing && len(r.good.lines) > 1 && core < a.hi && r.out[core].kind == aName && r.nothingBetween(next, core) && r.last.from >= r.now.from: // “…, spread it, leave it overnight, then spray with vinegar” uses it
		r.looseEnds(a, k)
		r.noteEnd(a, m.from)
		return a.hi, true
	case m.is(wet) && core < a.hi && r.out[core].kind == aName && r.nothingBetween(next, core) && r.toks[r.out[core].from-1].word == "the" && r.isLine(core): // “Spray with the water a little at a time”
		r.verb(a, m, k)
		said := r.said(r.out[core].from, r.out[core].to)
		l := r.lineOf(r.read(said), said)
		r.looseEnds(a, core)
		r.becomesWhereUnread(m.to, r.out[core].from, AsStep, l)
		r.becomes(r.out[core].from, r.out[core].to, AsStep, l)
		r.touched, r.now.doing = append(r.touched, l), true
		return core + 1, true
	case m.is(wet) && core < a.hi && r.out[core].kind == aName && r.nothingBetween(next, core):
		r.now.doing = true
		return r.fillUp(a, k, core, quantity.OpenAmount(quantity.AsNeeded)), true
	case sprays[r.toks[m.to-1].word] && m.to == m.from+1 && r.sprayed(a, core) >= 0: // “…, spritz alcohol, …”
		at := r.sprayed(a, core)
		r.becomesWhereUnread(m.to, r.out[at].from, AsMaterial, nil)
		r.now.doing = true
		return r.fillUp(a, k, at, quantity.OpenAmount(quantity.AsNeeded)), true
	}
	return 0, false
}

// makesUpTo reads a phrase for what is made up to so much; read is false for any other.
func (p *phrase) makesUpTo() (after int, read bool) {
	r, a, m, k, next, core := p.r, p.a, p.m, p.k, p.next, p.core
	switch {
	case m.is(yield|fill|top) && r.makesUp(a, k, core):
		return core + 1, true
	case m.is(top|fill) && core < a.hi && r.out[core].kind == anAmount && len(r.good.lines) > 0 && r.heldWith(a, core): // “fill up the half litre bottle with water”
		r.looseEnds(a, k)
		r.yields(r.amountSaid(&r.out[core]))
		with := r.nextCore(a, core+1)
		r.becomesWhereUnread(m.from, r.out[with].from, AsSmallTalk, nil)
		return r.fillUp(a, k, with, r.topUp()) + with - k - 1, true
	case m.is(top) && core < a.hi && r.out[core].kind == anAmount && !r.out[core].amount.Amount.UpTo() && r.nameNext(a, core): // “top up with 400 ml water”
		r.looseEnds(a, k)
		p.talk()
	case m.is(top) && next < a.hi && r.toks[m.to-1].word == "up" && strings.HasPrefix(r.toks[m.from].word, "ma") && r.toks[r.out[next].from].word == "for" && core < a.hi && r.out[core].kind == anAmount && !r.nameNext(a, core): // “I make it up for a hundred washes”
		r.looseEnds(a, k)
		r.noteEnd(a, m.from)
		return a.hi, true
	case m.is(top) && core == a.hi && next < a.hi && strings.HasPrefix(r.toks[m.from].word, "ma") && r.isDeterminer(next): // “I make up the stain bar like this”
		r.looseEnds(a, k)
		p.talk()
	case m.is(top) && len(r.good.lines) > 0 && m.to+1 < r.out[a.hi-1].to && r.toks[m.to].word == "the" && restWords[r.toks[m.to+1].word] && r.toks[m.to+1].word != "other" && m.to+2 >= r.out[a.hi-1].to: // “top up with the rest”, of what is there
		r.verb(a, m, k)
		r.becomesWhereUnread(m.to, r.out[a.hi-1].to, AsStep, nil)
		return a.hi, true
	case m.is(top):
		if to := r.totalAfter(a, next); !to.IsZero() {
			r.good.total = to
			core = r.nextCore(a, next)
		}
		return r.fillUp(a, k, core, r.topUp()), true
	default:
		return 0, false
	}
	return next, true
}

// fillsIt reads a phrase for what something is filled with; read is false for any other.
func (p *phrase) fillsIt() (after int, read bool) {
	r, a, m, k, next, core := p.r, p.a, p.m, p.k, p.next, p.core
	switch {
	case m.is(fill) && r.halfFull(a, k) > 0: // “fill my spray bottle about half way with vinegar”
		return r.halfFull(a, k), true
	case (m.is(fill) || m.is(step) && r.toks[m.from].word == "fill") && a.amount == nil && r.vesselWith(a, k) > 0: // “fill my old ketchup bottle with water”
		with := r.vesselWith(a, k)
		vessel := r.toks[r.out[with-1].from-1]
		u, _ := quantity.UnitNamed(vessel.word)
		r.looseEnds(a, k)
		a.amount = &amountSaid{Reading: quantity.Reading{Amount: quantity.Of(1, 1, u)}, written: "1 " + vessel.word, from: m.from, to: r.out[with].from}
		return with, true
	case m.is(fill) && core < a.hi && r.out[core].kind == anAmount && r.nameAfter(a, core):
		r.looseEnds(a, k)
		p.talk()
		if r.toks[m.from].word == "half" {
			of := &r.out[core]
			if full := of.amount.Amount; holds(full) && isSizeOf(r.amountSaid(of)) && r.good.Yield.IsZero() {
				r.good.Yield, r.good.total = full.Plain(), full.Plain()
			}
			if half, ok := of.amount.Amount.Times(1, 2); ok {
				of.amount.Amount, of.written = half, half.String()
			}
		}
	case m.is(fill) && core < a.hi && r.out[core].kind == anAmount && len(r.good.lines) > 0 && isVessel(r.out[core].amount.Amount.Unit()):
		r.looseEnds(a, k)
		r.becomes(m.from, m.to, AsYield, nil)
		a.fills = true
	default:
		return 0, false
	}
	return next, true
}

// sprayed is the mark of the liquid that is sprayed on, right behind the word for that or behind its
// strength, with nothing said of how much; −1 where it is said otherwise.
func (r *reader) sprayed(a *atom, core int) int {
	if a.amount != nil || len(r.good.lines) == 0 || r.now.using || r.now.used || r.last.from < r.now.from { // “…, wipe off, then spray vinegar” uses it
		return -1
	}
	if core+1 < a.hi && r.out[core].kind == anAmount && r.out[core].amount.Amount.Unit() == quantity.Percent {
		core++
	}
	if core >= a.hi || r.out[core].kind != aName || core+1 != a.hi {
		return -1
	}
	m := r.read(r.said(r.out[core].from, r.out[core].to))
	if m == nil || !m.Liquid() || r.lineOf(m, m.Name) != nil {
		return -1
	}
	return core
}

// restWith stand before what is left of what is there: “blend with the rest”.
var restWith = wordSet("restWith")

// restWords are what is left of something that is there.
var restWords = wordSet("restWords")

// sprays are words for putting on a little of a liquid.
var sprays = wordSet("sprays")

// restOfSeveral reports whether an atom ends in “the rest of the oils”: of what is there already.
func (r *reader) restOfSeveral(a *atom, k int) bool {
	end := r.out[a.hi-1].to
	return end-r.out[k].to <= 3 && ofSeveral[r.toks[end-1].word]
}

// restOf is the mark of what is filled up, “the cup” of “the rest of the cup salt”; 0
// without one.
func (r *reader) restOf(a *atom, k int) int {
	if k+1 >= a.hi || r.toks[r.out[k].from].word != "of" && r.toks[r.out[k].to-1].word != "the" {
		return 0
	}
	for at := k; at+1 < a.hi && at < k+3; at++ {
		m := &r.out[at]
		if m.kind == anAmount && r.toks[m.from-1].word == "the" && (isVolume(m.amount.Amount) || isVessel(m.amount.Amount.Unit())) && r.out[at+1].kind == aName {
			return at
		}
		if !m.is(small|joiner) && m.kind != aWord && !m.article {
			return 0
		}
	}
	return 0
}

// eachOf gives an amount to all that wait, or opens one for all that follow.
func (r *reader) eachOf(a *atom, core int) {
	switch {
	case a.amount != nil && core == a.hi && len(a.names) == 0 && r.saysAgain(a, a.amount): // “two bars at 5 ounces each”
		a.amount = nil
	case a.amount != nil && core == a.hi && len(r.waiting) == 0 && len(a.names) == 0 && r.overShares(a.amount): // “equal weights of soda and bicarb, 250 g each”
		a.amount = nil
	case a.amount != nil && core < a.hi && r.out[core].kind == aName, a.amount != nil && len(r.waiting) == 0 && len(a.names) == 0:
		r.settle()
		r.shared = sharing{said: a.amount, all: true, of: r.ofWhichEach(core, a.hi)}
	case a.amount != nil:
		r.keepWaiting(a)
		said := a.amount
		a.amount = nil
		r.giveWaiting(a, said, true)
	case a.made != nil && len(r.waiting) > 0 || a.made != nil && len(a.names) > 0:
	case a.made != nil: // “washing soda and borax 1 cup each”: the others wait no more, they were settled
		r.shareBack(a.made)
	}
}

// ofWhichEach is the word for what all of those are that are listed behind it: “of each oil: lavender, lemon, …”.
func (r *reader) ofWhichEach(k, hi int) string {
	if k+1 >= len(r.out) || k >= hi && k+1 >= hi || r.out[k].to != r.out[k].from+1 || r.out[k+1].kind != aColon {
		return ""
	}
	if w := strings.TrimSuffix(r.toks[r.out[k].from].word, "s"); w == "oil" {
		return w
	}
	return ""
}

// overShares gives an amount to the lines of this sentence that have equal shares; false
// without any.
func (r *reader) overShares(said *amountSaid) bool {
	given := false
	for _, l := range r.good.lines {
		if l.from >= r.now.from && (l.Amount.Unit() == quantity.Part || l.Amount.IsZero() && l.Err != nil) {
			l.Amount, l.Written, given = said.Amount, written(said), true
		}
	}
	if given {
		r.becomes(said.from, said.to, AsAmount, r.last)
		r.amount = said.Amount
	}
	return given
}

// shareBack gives the amount of a line to those before it, in the same sentence, that
// have none.
func (r *reader) shareBack(of *Line) {
	for _, l := range r.good.lines {
		if l != of && l.Amount.IsZero() && (l.from >= r.now.from || slices.Contains(r.touched, l)) {
			l.Amount, l.Written, l.Also = of.Amount, of.Written, of.Also
			r.rename(l, l.name)
		}
	}
}
