package listener

import (
	"slices"
	"strings"

	"keencrock/core/quantity"
)

// walkPhrase reads a phrase of the lexicon by what stands around it, and returns the next
// mark.
func (r *reader) walkPhrase(a *atom, k int) int {
	m := &r.out[k]
	next := k + 1
	core := r.nextCore(a, next) // the next amount or name, a.hi without one
	talk := func() { r.becomesWhereUnread(m.from, m.to, AsSmallTalk, a.made) }
	switch {
	case m.is(correct|set) && len(a.names) > 0 && core < a.hi && r.out[core].kind == anAmount && r.nothingBetween(next, core) && !r.nameNext(a, core) && r.lineOf(r.read(a.names[len(a.names)-1].text), "") != nil: // “for the soda ash make it three”
		n := a.names[len(a.names)-1]
		l := r.lineOf(r.read(n.text), "")
		a.names = a.names[:len(a.names)-1]
		r.looseEnds(a, k)
		r.becomes(n.from, n.to, AsSmallTalk, l)
		talk()
		r.correctAmount(l, r.amountSaid(&r.out[core]))
		a.made = l
		return core + 1
	case m.is(correct) && r.forAnother(a, k): // “for the tiles I'd make it two cups”
		at := a.lo
		for r.toks[r.out[at].from].word != "for" {
			at++
		}
		a.loose = -1
		r.last.remark(r.asSaid(r.out[at].from, r.out[a.hi-1].to))
		r.becomes(r.out[at].from, r.out[a.hi-1].to, AsRemark, r.last)
		return a.hi
	case m.is(correct), m.is(correctWell) && r.corrects(a, k, core):
		if m.is(correctWell|none) && !m.is(correct) || r.correctionFollows(a, next) {
			r.looseEnds(a, k)
			talk()
			if next == a.hi {
				r.correctNext = correct
				if !m.is(correct) {
					r.correctNext = correctWell
				}
				return next
			}
			if r.correction(a, next, !m.is(correct)) {
				return a.hi
			}
			return next
		}
		talk()
	case core < a.hi && r.out[core].kind == aName && r.isLine(core) && core+1 < a.hi && r.out[core+1].is(out) && leavesOut[r.toks[m.from].word]: // “leave the salt out”
		r.looseEnds(a, k)
		if at := core + 2; at < a.hi && conditions[r.toks[r.out[at].from].word] { // “leave the salt out if it's humid”
			l := r.lineOf(r.read(r.said(r.out[core].from, r.out[core].to)), r.said(r.out[core].from, r.out[core].to))
			l.Optional = true
			l.remark(r.asSaid(m.from, r.out[a.hi-1].to))
			r.becomes(m.from, r.out[a.hi-1].to, AsRemark, l)
			return a.hi
		}
		return r.scrap(a, k, core)
	case core < a.hi && r.out[core].kind == aName && core+1 < a.hi && r.out[core+1].is(out) && leavesOut[r.toks[m.from].word] && a.amount == nil: // the same, of what was never in it
		r.looseEnds(a, k)
		r.becomes(m.from, r.out[core+1].to, AsNot, nil)
		r.noneOf(&naming{from: r.out[core].from, to: r.out[core].to, text: r.said(r.out[core].from, r.out[core].to)})
		return core + 2
	case m.is(total) && a.amount != nil && core == a.hi: // “so a litre in all”
		said := a.amount
		a.amount = nil
		r.yields(said)
		r.becomes(m.from, m.to, AsYield, nil)
	case m.is(scrap) && core < a.hi && r.out[core].kind == aName && r.isLine(core):
		r.looseEnds(a, k)
		return r.scrap(a, k, core)
	case m.is(set) && core < a.hi && r.out[core].kind == aName && r.isLine(core) && r.nextCore(a, core+1) < a.hi && r.out[r.nextCore(a, core+1)].kind == anAmount: // “make the borax a whole cup”
		n := &r.out[core]
		l := r.lineOf(r.read(r.said(n.from, n.to)), r.said(n.from, n.to))
		at := r.nextCore(a, core+1)
		r.looseEnds(a, k)
		r.becomes(m.from, r.out[at].from, AsSmallTalk, l)
		r.correctAmount(l, r.amountSaid(&r.out[at]))
		a.made = l
		return at + 1
	case m.is(set) && len(a.names) > 0 && core < a.hi && r.out[core].kind == anAmount:
		if l := r.lineOf(r.read(a.names[len(a.names)-1].text), a.names[len(a.names)-1].text); l != nil {
			n := a.names[len(a.names)-1]
			a.names = a.names[:len(a.names)-1]
			r.becomes(n.from, n.to, AsSmallTalk, l)
			talk()
			r.correctAmount(l, r.amountSaid(&r.out[core]))
			a.made = l
			return core + 1
		}
		talk()
	case m.is(instead) && core < a.hi && r.out[core].kind == aName && len(a.names) == 1 && a.amount == nil && a.made == nil && r.isLine(core): // “use citrate instead of the borax”
		r.looseEnds(a, k)
		text := r.said(r.out[core].from, r.out[core].to)
		r.addOther(r.lineOf(r.read(text), text), &other{naming: *a.names[0]})
		a.names = nil
		r.becomesWhereUnread(m.from, r.out[core].to, AsChoice, nil)
		return core + 1
	case m.is(instead) && core < a.hi && r.out[core].kind == aName:
		r.looseEnds(a, k)
		talk()
		a.none = true
	case m.is(none) && k == a.lo && r.trailsOff(m.from) && r.last != nil && core == next && core < a.hi && r.out[core].kind == aName: // “honey… no, sugar”, as it is spoken
		talk()
		if r.correctName(a, core) {
			return a.hi
		}
		return core + 1
	case m.is(none) && core+1 == a.hi && r.out[core].kind == aName && r.isLine(core) && r.usesAfter(a.hi) && r.nameComes(a.hi) && r.last != nil && r.lineOf(r.read(r.said(r.out[core].from, r.out[core].to)), "") == r.last: // “don't use vinegar, use alcohol”
		r.looseEnds(a, k)
		r.becomes(m.from, r.out[core].to, AsStruck, r.last)
		r.correctNext = correct
		return a.hi
	case m.is(none) && core < a.hi && r.out[core].kind == aName && a.made != nil && a.amount == nil && r.lineOf(r.read(r.said(r.out[core].from, r.out[core].to)), "") == a.made && r.isLine(core): // “a tsp of vinegar no not vinegar”
		r.looseEnds(a, k)
		at := r.scrap(a, k, core)
		a.made = nil
		return at
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
		return core + 1
	case m.is(choice) && !m.is(whim):
		r.looseEnds(a, k)
		if r.orModifier(a, k, core) {
			return next
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
	case m.is(optional):
		r.looseEnds(a, k)
		r.becomes(m.from, m.to, AsRemark, nil)
		r.leaveOutable(a, m, core)
	case m.is(each):
		if a.amount == nil && a.made == nil && len(r.waiting) == 0 {
			if a.loose < 0 {
				a.loose = k
			}
			return next
		}
		r.looseEnds(a, k)
		talk()
		r.eachOf(a, core)
	case m.is(both):
		talk()
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
		return a.hi
	case m.is(same) && r.toks[m.to-1].word == "another" && next < a.hi && r.out[next].kind == anAmount: // “another litre of hot water”
		r.looseEnds(a, k)
		talk()
	case m.is(same | factored):
		return r.relativeAmount(a, k)
	case m.is(doubled|halved) && r.last != nil && a.loose >= 0 && (conditions[r.toks[r.out[a.lo].from].word] || r.forWhat(a.lo) || r.toks[r.out[a.lo].from].word == "in"): // “in the winter double it”
		a.loose = -1
		r.becomesWhereUnread(r.out[a.lo].from, r.out[a.hi-1].to, AsRemark, nil)
		r.now.noted = true
		return a.hi
	case m.is(doubled|halved) && r.last != nil:
		r.looseEnds(a, k)
		num, den := int64(2), int64(1)
		if m.is(halved) {
			num, den = 1, 2
		}
		r.multiply(a, m, num, den)
	case m.is(rest) && r.restOf(a, next) > 0: // “the rest of the cup salt”
		at := r.restOf(a, next)
		with := r.out[at].amount.Amount.Total()
		r.becomes(r.out[next].from, r.out[at].to, AsAmount, nil)
		return r.fillUp(a, k, at+1, with) + at - k
	case m.is(rest) && !(m.is(step) && (core == a.hi || r.out[core].kind != aName || !r.nothingBetween(next, core))): // “then rest” is done
		return r.fillUp(a, k, core, r.theRest())
	case m.is(cover) && core < a.hi && r.out[core].kind == aName:
		return r.fillUp(a, k, core, quantity.OpenAmount(quantity.ToCover))
	case m.is(wet) && core < a.hi && r.out[core].kind == aName && r.nothingBetween(next, core):
		r.now.doing = true
		return r.fillUp(a, k, core, quantity.OpenAmount(quantity.AsNeeded))
	case m.is(yield|fill|top) && r.makesUp(a, k, core):
		return core + 1
	case m.is(top|fill) && core < a.hi && r.out[core].kind == anAmount && len(r.good.lines) > 0 && r.heldWith(a, core): // “fill up the half litre bottle with water”
		r.looseEnds(a, k)
		r.yields(r.amountSaid(&r.out[core]))
		with := r.nextCore(a, core+1)
		r.becomesWhereUnread(m.from, r.out[with].from, AsSmallTalk, nil)
		return r.fillUp(a, k, with, r.topUp()) + with - k - 1
	case m.is(top) && core < a.hi && r.out[core].kind == anAmount && !r.out[core].amount.Amount.UpTo() && r.nameNext(a, core): // “top up with 400 ml water”
		r.looseEnds(a, k)
		talk()
	case m.is(top) && core == a.hi && next < a.hi && strings.HasPrefix(r.toks[m.from].word, "ma") && r.isDeterminer(next): // “I make up the stain bar like this”
		r.looseEnds(a, k)
		talk()
	case m.is(top):
		if to := r.totalAfter(a, next); !to.IsZero() {
			r.good.total = to
			core = r.nextCore(a, next)
		}
		return r.fillUp(a, k, core, r.topUp())
	case m.is(fill) && r.halfFull(a, k) > 0: // “fill my spray bottle about half way with vinegar”
		return r.halfFull(a, k)
	case m.is(fill) && core < a.hi && r.out[core].kind == anAmount && r.nameAfter(a, core):
		r.looseEnds(a, k)
		talk()
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
	case m.is(denied) && r.last != nil && r.last.from >= r.now.from: // “some put in a drop of soap, but I don't”
		r.looseEnds(a, k)
		r.deny(a, m)
	case m.is(manner) && r.now.doing && a.hi-k > 1 && r.out[next].kind == aWord:
		r.verb(a, m, k)
	case m.is(manner) && r.doseIn == r.now && a.made == nil && len(a.names) == 0 && core == a.hi: // “a cup in the drum at the start of the wash”
		r.looseEnds(a, k)
		r.becomesWhereUnread(m.from, r.out[a.hi-1].to, AsUse, nil)
		return a.hi
	case m.is(manner):
		r.looseEnds(a, k)
		r.becomes(m.from, m.to, AsRemark, nil)
		a.remarks = append(a.remarks, span{m.from, m.to})
	case m.is(per) && len(a.names) > 0 && a.made == nil && a.amount == nil && r.doseIn == r.now && len(r.good.Doses) > 0: // “…, and vinegar in the rinse aid compartment”
		r.looseEnds(a, k)
		for _, n := range a.names {
			r.becomes(n.from, n.to, AsUse, nil)
		}
		r.good.Notes = append(r.good.Notes, sentenceCase(r.asSaid(a.names[0].from, m.to))+".")
		a.names = nil
		r.becomes(m.from, m.to, AsUse, nil)
	case m.is(per) && m.is(place) && (a.amount == nil || a.made != nil):
		r.looseEnds(a, k)
		r.becomes(m.from, m.to, AsPlace, a.made)
		a.remarks = append(a.remarks, span{m.from, m.to})
	case m.is(per) && len(r.good.lines) == 0 && a.amount != nil && isWhole(a.amount.Amount) && atATime[r.said(m.from, m.to)]: // “we do twelve kilos at a time”
		r.looseEnds(a, k)
		said := a.amount
		a.amount = nil
		r.yields(said)
		r.amount = said.Amount
		r.becomes(m.from, m.to, AsYield, nil)
	case m.is(per) && len(a.names) > 0 && a.amount == nil && a.made == nil && r.onlyVessel(a, m): // “ashes a bucketful”
		r.looseEnds(a, k)
		amount, err := quantity.Parse(r.said(m.from, m.to))
		if err != nil {
			talk()
			return next
		}
		n := a.names[len(a.names)-1]
		a.names = a.names[:len(a.names)-1]
		r.keepWaiting(a)
		r.lineMade(a, &amountSaid{Reading: quantity.Reading{Amount: amount}, written: r.said(m.from, m.to), from: m.from, to: m.to}, n)
	case m.is(per):
		r.looseEnds(a, k)
		r.becomes(m.from, m.to, AsUse, nil)
		a.perLoad = true
		r.doseOfLine(a)
		r.waterOf(m)
	case m.is(machine) && r.saysDose(a, k):
		r.looseEnds(a, k)
		r.becomes(m.from, m.to, AsUse, nil)
		r.machineSaid(a, m)
	case m.is(dosing):
		r.looseEnds(a, k)
		r.becomes(m.from, m.to, AsUse, nil)
		a.doses = true
		r.now.using = true
	case m.is(keeping) && r.saysKeeping(a, k):
		r.looseEnds(a, k)
		r.noteEnd(a, m.from)
		return a.hi
	case m.is(unsaid) && r.last != nil && a.amount == nil && len(a.names) == 0: // “a tin of coconut milk, no, I'm joking”
		r.looseEnds(a, k)
		r.becomes(m.from, m.to, AsStruck, r.last)
		r.strike(r.last, func(Became) bool { return true })
		r.takeAway(r.last)
		a.made = nil
	case m.is(often) && len(r.good.lines) > 0 && !r.now.doing && a.amount == nil && core == a.hi:
		from := m.from
		if len(a.names) == 0 && a.made == nil { // “burp it daily”
			from = r.out[a.lo].from
			a.loose = -1
		}
		r.looseEnds(a, k)
		r.noteEnd(a, from)
		return a.hi
	case m.is(yield) && core == a.hi && next < a.hi && r.toks[m.from].word == "to" && len(a.names) > 0 && a.amount == nil && !r.now.doing && r.lineOf(r.read(a.names[len(a.names)-1].text), a.names[len(a.names)-1].text) == nil: // “water to make it spreadable”
		n := a.names[len(a.names)-1]
		a.names = a.names[:len(a.names)-1]
		r.keepWaiting(a)
		open := quantity.OpenAmount(quantity.AsNeeded)
		if m.to > m.from+1 && r.toks[m.from+1].word == "fill" { // “warm water to fill the bucket”
			open = quantity.OpenAmount(quantity.ToFill)
		}
		r.lineMade(a, &amountSaid{Reading: quantity.Reading{Amount: open}, written: open.String(), from: m.from, to: m.from}, n)
		a.made.remark(r.asSaid(m.from, r.out[a.hi-1].to))
		r.becomesWhereUnread(m.from, r.out[a.hi-1].to, AsAmount, a.made)
		return a.hi
	case m.is(yield) && r.saysYield(a, next):
		r.looseEnds(a, k)
		r.becomes(m.from, m.to, AsYield, nil)
		return r.yieldAt(a, next)
	case m.is(place):
		r.looseEnds(a, k)
		if word := r.toks[m.to-1].word; r.good.Kind == "other" && r.toks[m.from].word == "down" && (word == "drain" || word == "sink" || word == "plughole" || word == "pipe") {
			r.good.Kind = "drain-cleaner"
		}
		r.becomes(m.from, m.to, AsPlace, a.made)
		a.remarks = append(a.remarks, span{m.from, m.to})
	case m.is(kind) && r.read(r.said(m.from, m.to)) != nil && (a.amount != nil || r.shared.open() || core == next && core < a.hi && r.out[core].kind == anAmount && !(k > a.lo && r.isDeterminer(k-1)) || r.amountAfter(a, k)):
		m.kind = aName
		m.spot = spot{from: m.from, to: m.to, name: m.from}
		return r.walkName(a, k)
	case m.is(kind) && m.is(step) && next == a.hi && k > a.lo && (r.out[k-1].kind == aWord || r.out[k-1].is(thing|place)) && r.kindNamed(k, next, true): // “…: glass spray”
	case m.is(step|kind) && !m.is(joiner) && m.to == m.from+1 && k > a.lo && (r.isDeterminer(k-1) || k > a.lo+1 && (r.out[k-1].kind == aWord || r.out[k-1].is(thing|place)) && r.isDeterminer(k-2)): // “for the spray”, “the dry one”
		if a.loose < 0 {
			a.loose = k
		}
	case m.is(caution) && !m.is(thing), m.is(step), m.is(using), m.is(benchDone) && a.amount == nil:
		r.verb(a, m, k)
	case m.is(one):
		r.looseEnds(a, k)
		if a.none || r.noneNext {
			r.becomes(m.from, m.to, AsNot, nil)
		} else {
			talk()
		}
	case conditions[r.toks[m.from].word] && m.to == m.from+1 && a.made != nil && a.amount == nil && !r.hasAny(next, a.hi, choice|correct|none) && !r.hasAmount(next, a.hi): // “… citric acid if your water's hard”
		r.looseEnds(a, k)
		a.made.remark(r.asSaid(m.from, r.out[a.hi-1].to))
		r.becomesWhereUnread(m.from, r.out[a.hi-1].to, AsRemark, a.made)
		return a.hi
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
		talk()
	}
	return next
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
	switch r.toks[r.out[k].to-1].word {
	case "the", "my", "our", "this", "a", "an", "your", "for":
		return true
	}
	return false
}

// multiplies are the words that make more or less of what was said.
var multiplies = wordSet("multiplies")

// atATime are the words for how much is made at once.
var atATime = wordSet("atATime")

// onlyVessel reports whether “a bucketful” is how much there is of what stands before it,
// and of no use: nothing is measured yet that could be used.
func (r *reader) onlyVessel(a *atom, m *mark) bool {
	u, ok := quantity.UnitNamed(r.toks[m.to-1].word)
	if !ok || !isVessel(u) || r.toks[m.from].word == "per" {
		return false
	}
	name := a.names[len(a.names)-1]
	return name.to == m.from && r.lineOf(r.read(name.text), name.text) == nil
}

// deniesVerb reports whether “don't” or its kin stand right before a token.
func (r *reader) deniesVerb(tok int) bool {
	if tok == 0 {
		return false
	}
	switch r.toks[tok-1].word {
	case "don't", "dont", "never", "not":
		return true
	}
	return false
}

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

// trailsOff reports whether what stands before a token ends in “…” or “...”.
func (r *reader) trailsOff(tok int) bool {
	return tok > 1 && (r.toks[tok-1].word == "…" || r.toks[tok-1].word == "." && r.toks[tok-2].word == ".")
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

// eachOf gives an amount to all that wait, or opens one for all that follow.
func (r *reader) eachOf(a *atom, core int) {
	switch {
	case a.amount != nil && core == a.hi && len(a.names) == 0 && r.saysAgain(a, a.amount): // “two bars at 5 ounces each”
		a.amount = nil
	case a.amount != nil && core == a.hi && len(r.waiting) == 0 && len(a.names) == 0 && r.overShares(a.amount): // “equal weights of soda and bicarb, 250 g each”
		a.amount = nil
	case a.amount != nil && core < a.hi && r.out[core].kind == aName, a.amount != nil && len(r.waiting) == 0 && len(a.names) == 0:
		r.settle()
		r.shared = sharing{said: a.amount, all: true}
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

// overShares gives an amount to the lines of this sentence that have equal shares; false
// without any.
func (r *reader) overShares(said *amountSaid) bool {
	given := false
	for _, l := range r.good.lines {
		if l.from >= r.now.from && l.Amount.Unit() == quantity.Part {
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

// opensUse are words for what is done before a good does its work, where the same sentence goes
// on with that.
var opensUse = wordSet("opensUse")

// usedLater reports whether the sentence goes on, after mark k, with what is done with the good.
func (r *reader) usedLater(k int) bool {
	for k++; k < len(r.out) && r.out[k].from < r.now.to; k++ {
		if m := &r.out[k]; m.is(using) && !m.is(step) {
			return true
		}
	}
	return false
}

// verb reads what is done.
func (r *reader) verb(a *atom, m *mark, k int) {
	as := AsStep
	if next := k + 1; m.is(using) && !m.is(step) && len(r.good.lines) == 0 && next < a.hi && r.out[next].kind == anAmount && !r.nameNext(a, next) && r.isDose(r.amountSaid(&r.out[next])) { // “wash with one scoop: …”
		r.looseEnds(a, k)
		r.becomes(m.from, m.to, AsUse, nil)
		a.doses, r.now.using = true, true
		return
	}
	if r.now.using && !r.now.doing && (r.doseIn == r.now || len(r.good.lines) > 0) && waits[r.toks[m.from].word] { // “one in the bowl, leave ten minutes”
		r.looseEnds(a, k)
		r.becomes(m.from, m.to, AsUse, nil)
		a.prose, a.using = true, true
		return
	}
	if r.now.used || len(r.good.lines) > 0 && !r.now.doing && opensUse[r.toks[m.from].word] && r.usedLater(k) { // “shake well, spray on”
		r.looseEnds(a, k)
		r.becomes(m.from, m.to, AsUse, nil)
		r.now.using, r.now.used, a.prose, a.using = true, true, true, true
		return
	}
	if len(r.good.lines) > 0 && r.deniesVerb(m.from) { // “don't bottle it”
		r.looseEnds(a, k)
		from := m.from - 1
		if from > 0 && r.toks[from].word == "not" && r.toks[from-1].word == "do" {
			from--
		}
		r.noteEnd(a, from)
		for i := k + 1; i < a.hi; i++ {
			r.out[i].kind = aBullet // it has been read
		}
		return
	}
	if m.is(using) && !m.is(step) && (len(r.good.lines) > 0 || r.now.using || r.toks[m.to-1].word == "it") {
		r.now.using = true
		as = AsUse
	} else {
		r.now.doing = true
	}
	r.looseEnds(a, k)
	a.prose, a.using = true, m.is(using) && !m.is(step) && len(r.good.lines) > 0
	r.becomes(m.from, m.to, as, nil)
	if r.now.doing {
		r.now.using = false
	}
}
