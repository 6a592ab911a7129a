package listener

import (
	"slices"

	"keencrock/core/quantity"
)

// brackets reads what stands in brackets: another way of saying it, what may take its
// place, a remark, or something by itself.
func (r *reader) brackets(a *atom, k int) int {
	end := r.closing(k, a.hi)
	lo, hi := k+1, end
	if end < a.hi && r.out[end].kind != aClosing {
		hi = end + 1
	}
	r.becomesWhereUnread(r.out[k].from, r.out[k].to, AsSmallTalk, nil)
	if hi > lo {
		from, to := r.out[lo].from, r.out[hi-1].to
		inner := r.said(from, to)
		whole := !r.conditional(lo, hi) && (r.namesFirst(lo, hi) || r.hasAmount(lo, hi) && r.hasName(lo, hi) && !r.out[lo].is(choice))
		r.looseEnds(a, k)
		switch {
		case lo+1 == hi && r.out[lo].kind == anAmount && isVolume(r.out[lo].amount.Amount) && r.vesselBefore(r.out[k].from): // “in a bucket (about 8 litres)”
			if said := r.amountSaid(&r.out[lo]); end+1 < a.hi && r.toks[r.out[end].to].word == "of" && r.nameNext(a, end) { // “in a bucket (10 l) of water”
				r.becomes(said.from, said.to, AsAmount, nil)
				a.amount = said
			} else {
				r.yields(said)
			}
		case r.out[lo].is(step) && !r.hasName(lo, hi) && slices.ContainsFunc(r.out[lo:hi], func(m mark) bool { return m.kind == aWait || m.kind == aWarmth }): // “(boil 15 min)”
			r.becomes(from, to, AsStep, a.made)
			r.now.doing = true
		case r.sizeIn(from, to): // “(my scoop is 30 ml)”
			r.becomesWhereUnread(from, to, AsAmount, nil)
		case a.made != nil && a.amount == nil && r.fruitsOf(a.made, lo, hi): // “citrus peels (about 6 oranges)”
			a.made.remark(inner)
			r.becomes(from, to, AsRemark, a.made)
		case whole, a.made != nil && a.amount == nil && r.lackedIn(a.made, lo, hi), r.hasAny(lo, hi, none|per|machine|dosing|correct), r.out[lo].is(yield) && hi-lo > 1 && r.out[hi-1].kind == anAmount && r.out[hi-1].amount.Amount.Open() == quantity.NotOpen && r.saysYield(&atom{lo: lo, hi: hi}, lo+1):
			made := a.made
			r.keepWaiting(a)
			r.atom(lo, hi)
			a.made = made
		case len(a.names) > 0 && lo+1 == hi && r.out[lo].kind == anAmount && r.out[lo].amount.Amount.Unit() != quantity.Percent && a.amount == nil: // “borax (1 cup)”
			n := a.names[len(a.names)-1]
			a.names = a.names[:len(a.names)-1]
			r.keepWaiting(a)
			r.lineMade(a, r.amountSaid(&r.out[lo]), n)
		case len(a.names) > 0 && a.amount == nil && r.measuredState(lo, hi): // “lavender (about 50 g dried)”
			n := a.names[len(a.names)-1]
			a.names = a.names[:len(a.names)-1]
			r.keepWaiting(a)
			if with := r.said(r.out[lo].to, to) + " " + n.text; r.read(with) != nil {
				n.text = with
			}
			r.becomes(r.out[lo].to, to, AsMaterial, nil)
			r.lineMade(a, r.amountSaid(&r.out[lo]), n)
		case k == a.lo && a.made == nil && len(a.names) == 0 && lo+1 == hi && r.out[lo].is(optional): // “(optional) 10 drops of oil”
			a.optional = true
			r.becomes(from, to, AsRemark, nil)
		case a.amount != nil && a.made == nil && len(a.names) == 0 && lo+1 == hi && r.out[lo].kind == aName && k > a.lo && r.out[k-1].kind == aWord && a.amount.to <= r.out[k-1].from: // “20 ml surfactant (decyl glucoside)”
			said := a.amount
			a.amount = nil
			r.lineMade(a, said, &naming{from: from, to: to, text: inner, in: r.now})
		case len(a.names) > 0:
			n := a.names[len(a.names)-1]
			n.text += " (" + inner + ")"
			n.to = to
		case a.made != nil && a.amount == nil:
			r.bracketOf(a.made, from, to, inner)
		case r.doseIn == r.now && a.amount == nil && r.last != nil && r.last.from < r.now.from: // “1 tab in the drum (2 for heavy soil)”
			r.good.Notes = append(r.good.Notes, sentenceCase(r.asSaid(from, to))+".")
			r.becomes(from, to, AsUse, nil)
		case r.last != nil && a.amount == nil:
			r.bracketOf(r.last, from, to, inner)
		default:
			r.becomesWhereUnread(from, to, AsRemark, nil)
			a.remarks = append(a.remarks, span{from, to})
		}
	}
	if end < a.hi && r.out[end].kind == aClosing {
		r.becomesWhereUnread(r.out[end].from, r.out[end].to, AsSmallTalk, nil)
	}
	return end + 1
}

// fruitsOf reports whether brackets behind a line of peel say how many fruits it is of.
func (r *reader) fruitsOf(l *Line, lo, hi int) bool {
	if !r.peelOf(l.name) || hi-lo > 3 {
		return false
	}
	for k := lo; k < hi; k++ {
		switch m := &r.out[k]; {
		case m.kind == anAmount && (m.amount.Amount.Unit() == quantity.Bare || thingOf(m.amount.Amount.Unit()) != ""):
		case m.kind == aName && k > lo:
		default:
			return false
		}
	}
	return true
}

// lackedIn reports whether brackets behind a line say what to take where it is missing: “(if
// you can't get it use citrate)”.
func (r *reader) lackedIn(l *Line, lo, hi int) bool {
	r.last = l
	object, of := r.lacked(lo, hi)
	return object >= 0 && of == l
}

// measuredState reports whether an amount and words about the state of what it is of are all
// that stands between two marks: “about 50 g dried”.
func (r *reader) measuredState(lo, hi int) bool {
	m := &r.out[lo]
	if hi-lo < 2 || m.kind != anAmount || m.article || m.amount.Amount.Open() != quantity.NotOpen || m.amount.Amount.Unit() == quantity.Percent {
		return false
	}
	for k := lo + 1; k < hi; k++ {
		if r.out[k].kind != aWord && !r.out[k].is(step) || !isState(r.toks[r.out[k].from].word, nil) {
			return false
		}
	}
	return true
}

// conditional reports whether words hang on something: “3 if hard water”.
func (r *reader) conditional(lo, hi int) bool {
	for k := lo; k < hi; k++ {
		if conditions[r.toks[r.out[k].from].word] {
			return true
		}
	}
	return false
}

func (r *reader) hasAmount(lo, hi int) bool { return r.hasKind(lo, hi, anAmount) }

// bracketOf reads what stands in brackets behind a line.
func (r *reader) bracketOf(l *Line, from, to int, inner string) {
	if to-from <= 3 && r.inUnits(from, to) { // “bicarb 200, citric 100 (grams)”
		return
	}
	if r.sizeIn(from, to) { // “(my scoop is 30 ml)”
		r.becomesWhereUnread(from, to, AsAmount, nil)
		return
	}
	if said, ok := quantity.ReadSaid(inner); ok && said.At == len(inner) && l.Amount.Open() == quantity.Some && said.Amount.Open() == quantity.NotOpen && said.Amount.Unit() != quantity.Bare && said.Amount.Unit() != quantity.Percent { // “a bit of castile (3 tbsp)”
		l.Amount, l.Written = said.Amount, inner
		r.becomes(from, to, AsAmount, l)
		return
	}
	if k := r.weighedIn(from, to); k >= 0 && l == r.last { // “one bar (mine weighs 120 g)”
		if r.saysAgain(&atom{lo: k, hi: k + 1}, r.amountSaid(&r.out[k])) {
			r.becomesWhereUnread(from, to, AsAmount, l)
			return
		}
	}
	if k := r.eachIn(from, to); k >= 0 { // “two bars (100 g each)”
		if r.saysAgain(&atom{lo: k, hi: k + 1}, r.amountSaid(&r.out[k])) {
			r.becomesWhereUnread(from, to, AsAmount, l)
			return
		}
	}
	if said, ok := quantity.ReadSaid(inner); ok && said.At == len(inner) && l.Err == nil && l.Also.IsZero() && said.Amount.Open() == quantity.NotOpen && said.Amount.Kind() != l.Amount.Kind() && (said.Amount.Kind() == quantity.Mass || isVolume(said.Amount)) { // “one bar of soap grated (about 140 g)”
		l.Also = said.Amount
		r.becomes(from, to, AsAmount, l)
		return
	}
	if l.Err != nil && r.clearsUpName(l, inner) { // “soda (washing)”
		r.becomes(from, to, AsMaterial, l)
		return
	}
	if name := r.insteadIn(from, to); name != nil { // “(you can use cream of tartar instead)”
		r.addOther(l, &other{naming: naming{from: name.from, to: name.to, text: r.said(name.from, name.to)}})
		r.becomesWhereUnread(from, to, AsRemark, l)
		return
	}
	also, note, optional, others := l.Also, l.Note, l.Optional, len(l.Alternatives)
	r.rename(l, l.name+" ("+inner+")")
	as := AsRemark
	switch {
	case l.Also != also:
		as = AsAmount
	case len(l.Alternatives) > others:
		as = AsChoice
	case l.Note == note && l.Optional == optional:
		as = AsMaterial
	}
	r.becomes(from, to, as, l)
}

// vesselBefore reports whether a vessel that something is in stands before a token.
func (r *reader) vesselBefore(tok int) bool {
	if tok < 3 {
		return false
	}
	u, ok := quantity.UnitNamed(r.toks[tok-1].word)
	return ok && isVessel(u) && (r.toks[tok-3].word == "in" || r.toks[tok-3].word == "into" || r.toks[tok-2].word == "in")
}

// weighedIn is the mark of the amount that ends what stands between two tokens, and is said to
// be what something weighs; −1 without one.
func (r *reader) weighedIn(from, to int) int {
	for k := range r.out {
		m := &r.out[k]
		if m.kind != anAmount || m.to != to || m.from <= from || m.amount.Amount.Kind() != quantity.Mass {
			continue
		}
		if weighsWords[r.toks[m.from-1].word] {
			return k
		}
	}
	return -1
}

// eachIn is the mark of the amount between two tokens that “each” follows and nothing else;
// −1 without one.
func (r *reader) eachIn(from, to int) int {
	for k := range r.out {
		if m := &r.out[k]; m.from == from && m.kind == anAmount && r.eachAfter(m.to) && m.to+1 == to {
			return k
		}
	}
	return -1
}

// insteadIn is the one name between two tokens that is said to do instead; nil without.
func (r *reader) insteadIn(from, to int) (name *mark) {
	instead := false
	for k := range r.out {
		m := &r.out[k]
		if m.from < from || m.to > to {
			continue
		}
		if m.kind == aName {
			if name != nil {
				return nil
			}
			name = m
		}
		if m.kind == anAmount && !m.article {
			return nil
		}
		for i := m.from; i < m.to; i++ {
			switch r.toks[i].word {
			case "instead", "substitute", "replacement", "alternatively", "too", "also":
				instead = true
			}
		}
	}
	if !instead {
		return nil
	}
	return name
}

// weighsWords stand before what something weighs.
var weighsWords = wordSet("weighsWords")
