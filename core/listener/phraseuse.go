package listener

import "keencrock/core/quantity"

// Phrases that say how the good is used, kept or put, and what it gives.

// uses reads a phrase that says how the good is used, kept or put, and what it gives; read is false for any other.
func (p *phrase) uses() (after int, read bool) {
	return firstOf(p.inWhichWay, p.perWhat, p.whoseDose, p.leftUnsaid, p.comesOf)
}

// inWhichWay reads a phrase that denies what was said, or says in which way it is so; read is false for any other.
func (p *phrase) inWhichWay() (after int, read bool) {
	r, a, m, k, next, core := p.r, p.a, p.m, p.k, p.next, p.core
	switch {
	case m.is(denied) && r.last != nil && r.last.from >= r.now.from: // “some put in a drop of soap, but I don't”
		r.looseEnds(a, k)
		r.deny(a, m)
	case m.is(manner) && r.now.doing && a.hi-k > 1 && r.out[next].kind == aWord:
		r.verb(a, m, k)
	case m.is(manner) && r.doseIn == r.now && a.made == nil && len(a.names) == 0 && core == a.hi: // “a cup in the drum at the start of the wash”
		r.looseEnds(a, k)
		r.becomesWhereUnread(m.from, r.out[a.hi-1].to, AsUse, nil)
		return a.hi, true
	case m.is(manner):
		r.looseEnds(a, k)
		r.becomes(m.from, m.to, AsRemark, nil)
		a.remarks = append(a.remarks, span{m.from, m.to})
	default:
		return 0, false
	}
	return next, true
}

// perWhat reads a phrase that says of what an amount is: a wash, a load, a litre; read is false for any other.
func (p *phrase) perWhat() (after int, read bool) {
	r, a, m, k, next := p.r, p.a, p.m, p.k, p.next
	switch {
	case m.is(per) && len(a.names) > 0 && a.made == nil && a.amount == nil && (r.doseIn == r.now || m.is(place) && r.out[a.lo].from == r.now.from && m.to == r.now.to) && len(r.good.Doses) > 0: // “…, and vinegar in the rinse aid compartment”
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
			p.talk()
			return next, true
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
	default:
		return 0, false
	}
	return next, true
}

// whoseDose reads a phrase that begins a dose or says how the good keeps; read is false for any other.
func (p *phrase) whoseDose() (after int, read bool) {
	r, a, m, k, next := p.r, p.a, p.m, p.k, p.next
	switch {
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
		return a.hi, true
	default:
		return 0, false
	}
	return next, true
}

// leftUnsaid reads a phrase that takes a line back, or lets it stay; read is false for any other.
func (p *phrase) leftUnsaid() (after int, read bool) {
	r, a, m, k, next := p.r, p.a, p.m, p.k, p.next
	switch {
	case m.is(unsaid) && next < a.hi && r.last != nil && a.amount == nil && mayStay[r.toks[m.to].word]: // “…, leave that out if you have kids”
		r.looseEnds(a, k)
		r.last.Optional = true
		r.last.remark(r.asSaid(m.from, r.out[a.hi-1].to))
		r.becomes(m.from, r.out[a.hi-1].to, AsRemark, r.last)
		return a.hi, true
	case m.is(unsaid) && next < a.hi && handled[r.toks[m.from].word]: // “take that out of the mould” takes nothing back
		r.looseEnds(a, k)
		r.verb(a, m, k)
	case m.is(unsaid) && r.last != nil && a.amount == nil && len(a.names) == 0: // “a tin of coconut milk, no, I'm joking”
		r.looseEnds(a, k)
		r.becomes(m.from, m.to, AsStruck, r.last)
		r.strike(r.last, func(Became) bool { return true })
		r.takeAway(r.last)
		a.made = nil
	default:
		return 0, false
	}
	return next, true
}

// comesOf reads a phrase that says how often, where, or what comes of it; read is false for any other.
func (p *phrase) comesOf() (after int, read bool) {
	r, a, m, k, next, core := p.r, p.a, p.m, p.k, p.next, p.core
	switch {
	case m.is(often) && len(r.good.lines) > 0 && !r.now.doing && a.amount == nil && core == a.hi:
		from := m.from
		if len(a.names) == 0 && a.made == nil { // “burp it daily”
			from = r.out[a.lo].from
			a.loose = -1
		}
		r.looseEnds(a, k)
		r.noteEnd(a, from)
		return a.hi, true
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
		return a.hi, true
	case m.is(yield) && r.saysYield(a, next):
		r.looseEnds(a, k)
		r.becomes(m.from, m.to, AsYield, nil)
		return r.yieldAt(a, next), true
	case m.is(place):
		r.looseEnds(a, k)
		if word := r.toks[m.to-1].word; r.good.Kind == "other" && r.toks[m.from].word == "down" && (word == "drain" || word == "sink" || word == "plughole" || word == "pipe") {
			r.good.Kind = "drain-cleaner"
		}
		r.becomes(m.from, m.to, AsPlace, a.made)
		a.remarks = append(a.remarks, span{m.from, m.to})
	default:
		return 0, false
	}
	return next, true
}

// deniesVerb reports whether “don't” or its kin stand right before a token.
func (r *reader) deniesVerb(tok int) bool {
	if tok == 0 {
		return false
	}
	return deniedBy[r.toks[tok-1].word]
}

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
	if r.now.used || len(r.good.lines) > 0 && !r.now.doing && (opensUse[r.toks[m.from].word] || r.toks[m.from].word == "spray" && m.from == r.now.from && !r.nameBefore(r.now.to, k)) && r.usedLater(k) { // “shake well, spray on”
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

// nameBefore reports whether a name stands between a mark and a token.
func (r *reader) nameBefore(tok, k int) bool {
	for ; k < len(r.out) && r.out[k].from < tok; k++ {
		if r.out[k].kind == aName {
			return true
		}
	}
	return false
}

// opensUse are words for what is done before a good does its work, where the same sentence goes
// on with that.
var opensUse = wordSet("opensUse")

// deniedBy say that something is not done.
var deniedBy = wordSet("deniedBy")

// mayStay begin when something that goes in may be left out, and handled are words for what is done with the hands, which also take back what was
// said: “leave that out”.
var mayStay, handled = wordSet("mayStay"), wordSet("handled")
