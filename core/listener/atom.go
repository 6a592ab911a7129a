package listener

import (
	"slices"
	"strings"
	"unicode"

	"keencrock/core/material"
	"keencrock/core/quantity"
)

// atom is what stands between two commas, or an “and”: an amount and a name in either
// order, or a part of them.
type atom struct {
	lo, hi int // marks
	amount *amountSaid
	names  []*naming // with no amount yet
	made   *Line     // the last line made of it
	loose  int       // where words that are nothing certain begin; −1 without any

	nameFirst bool // “borax 1 kg washing soda 2 kg”
	none      bool // names are not in it
	alt       bool // what comes may take the place of what was
	optional  bool

	perLoad, doses, yields, fills bool
	machine                       string
	remarks                       []span
	prose, using                  bool
	perWater                      bool // the amount is of the water a dose goes into
	clause                        bool // “if”, “when” and their kin begin a clause of their own
}

// span is a stretch of tokens.
type span struct{ from, to int }

// atom reads the marks from lo to hi.
func (r *reader) atom(lo, hi int) {
	for lo < hi && (r.out[lo].kind == aBullet || r.out[lo].kind == aDash) {
		lo++
	}
	for hi > lo && r.out[hi-1].kind == aBullet {
		hi--
	}
	if lo >= hi {
		return
	}
	a := &atom{lo: lo, hi: hi, loose: -1, none: r.noneNext, alt: r.altNext, optional: r.optional}
	r.altNext, r.optional = false, false
	a.nameFirst = r.namesFirst(lo, hi)
	if r.correctNext != 0 {
		weak := r.correctNext == correctWell
		r.correctNext = 0
		if r.correction(a, lo, weak) {
			r.joined = false
			return
		}
	}
	for k := lo; k < hi; {
		k = r.walk(a, k)
	}
	r.endAtom(a)
	r.joined, r.proseBefore = false, a.prose
}

// namesFirst reports whether the names of an atom stand before their amounts.
func (r *reader) namesFirst(lo, hi int) bool {
	amounts, names := 0, 0
	var first, last markKind
	for k := lo; k < hi; k++ {
		m := &r.out[k]
		if m.kind == anOpening {
			k = r.closing(k, hi)
			continue
		}
		if m.kind != anAmount && m.kind != aName || m.article {
			continue
		}
		if first == 0 {
			first = m.kind
		}
		last = m.kind
		if m.kind == anAmount {
			amounts++
		} else {
			names++
		}
	}
	return first == aName && last == anAmount && amounts == names
}

// walk reads the mark k and returns the next.
func (r *reader) walk(a *atom, k int) int {
	m := &r.out[k]
	switch m.kind {
	case anAmount:
		return r.walkAmount(a, k)
	case aName:
		return r.walkName(a, k)
	case aRatio:
		r.looseEnds(a, k)
		r.ratio(a, m)
	case aWait, aWarmth:
		r.looseEnds(a, k)
		r.now.doing = r.now.doing || !r.now.using
		r.becomes(m.from, m.to, AsStep, a.made)
	case anOpening:
		return r.brackets(a, k)
	case aSlash:
		if a.made != nil || len(a.names) > 0 {
			a.alt = true
		}
		r.becomes(m.from, m.to, AsSmallTalk, nil)
	case aPhrase:
		return r.walkPhrase(a, k)
	case aWord:
		if a.loose < 0 {
			a.loose = k
		}
	default:
		r.becomesWhereUnread(m.from, m.to, AsSmallTalk, nil)
	}
	return k + 1
}

// walkAmount reads how much.
func (r *reader) walkAmount(a *atom, k int) int {
	m := &r.out[k]
	said := r.amountSaid(m)
	if m.article && !r.nameNext(a, k) { // “a”, of nothing that is counted
		if a.loose < 0 {
			a.loose = k
		}
		return k + 1
	}
	r.looseEnds(a, k)
	if a.perLoad || a.doses || a.machine != "" {
		if r.dosed(a, said, k) {
			return k + 1
		}
	}
	switch {
	case said.Amount.Unit() == quantity.Percent && a.made != nil && len(a.names) == 0 && !r.nameNext(a, k): // “2 cups of vinegar 5 %”
		r.rename(a.made, a.made.name+" "+said.written)
		r.becomes(m.from, m.to, AsMaterial, a.made)
		return k + 1
	case said.Amount.Unit() == quantity.Percent && a.amount != nil: // “1 cup of 5 % vinegar”
		return r.walkName(a, k)
	case a.made != nil && said.total && r.nameNext(a, k), len(a.names) > 0 && said.total && r.nameNext(a, k):
		said.Amount, said.total = said.Amount.Plain(), false
		said.written = said.Amount.String()
	}
	if a.amount != nil {
		r.amountBefore(a, said)
		a.amount = nil
	}
	a.none = false
	if thing := thingOf(said.Amount.Unit()); thing != "" && !r.nameNext(a, k) {
		if n := len(a.names); n > 0 && m.from > 0 && r.toks[m.from-1].word == "of" && a.names[n-1].to == m.from-1 { // “the zest of two lemons”: how much that is, is asked
			a.names[n-1].remarks = append(a.names[n-1].remarks, "of "+said.written)
			r.becomes(m.from-1, m.to, AsRemark, nil)
			return k + 1
		}
		n := &naming{from: m.from, to: m.from, text: thing, in: r.now}
		if a.alt {
			a.alt, a.amount = false, said
			r.alternative(a, n)
			return k + 1
		}
		r.lineMade(a, said, n)
		return k + 1
	}
	if len(a.names) > 0 && !a.clause && (a.nameFirst || !r.nameNext(a, k)) {
		n := a.names[len(a.names)-1]
		a.names = a.names[:len(a.names)-1]
		r.keepWaiting(a)
		r.lineMade(a, said, n)
		return k + 1
	}
	a.amount = said
	return k + 1
}

// amountBefore is for an amount that another one follows.
func (r *reader) amountBefore(a *atom, next *amountSaid) {
	before := a.amount
	switch {
	case before.Amount.UpTo():
		r.yields(before)
	case len(r.waiting) == 0 && a.made == nil && isVolume(next.Amount) && r.isPer(before.to, next.from) && r.isDose(before): // “a capful per litre”
		a.amount = nil
		r.dosed(a, before, a.hi)
		a.perWater = true
	case len(r.waiting) > 0 && a.made == nil && len(a.names) == 0 && before.to < next.from && !before.article: // “washing soda, 50 grams in 5 litres of water”
		r.giveWaiting(a, before, false)
	case before.article, before.Amount.Open() != quantity.NotOpen: // “when it has cooled a bit 10 drops of …”
		r.becomes(before.from, before.to, AsSmallTalk, nil)
	case before.Amount.Unit() == quantity.Bare && before.Amount.Open() == quantity.NotOpen && next.unitOnly(): // “four of those big spoons”
		if with, ok := before.Amount.InUnitOf(next.Amount); ok {
			next.Amount, next.written = with, with.String()
		}
		r.becomes(before.from, before.to, AsAmount, nil)
		next.from = before.from
	case isVessel(before.Amount.Unit()): // “into a spray bottle put one part …”
		r.becomes(before.from, before.to, AsPlace, nil)
	case before.to == next.from && next.Also.IsZero() && before.Amount.Open() == quantity.NotOpen && before.Amount.Unit() != quantity.Bare:
		next.Also = before.Amount
		r.becomes(before.from, before.to, AsAmount, nil)
	case before.Amount.Unit() == quantity.Bare:
		r.becomes(before.from, before.to, Unread, nil)
	default: // “pour half a litre over two cups of …”
		r.askAlone()
		r.alone = before
		r.becomes(before.from, before.to, AsQuestion, nil)
		r.askAlone()
	}
}

// amountSaid is the amount of a mark.
func (r *reader) amountSaid(m *mark) *amountSaid {
	written := m.written
	if written == "" {
		written = r.said(m.from, m.end)
	}
	return &amountSaid{Reading: m.amount, written: written, from: m.from, to: m.to, article: m.article, total: m.total}
}

// nameNext reports whether the name that an amount is of follows it: nothing stands
// between but what is said of it.
func (r *reader) nameNext(a *atom, k int) bool {
	for i := k + 1; i < a.hi && i < k+5; i++ {
		m := &r.out[i]
		switch {
		case m.kind == aName:
			return true
		case m.kind == anAmount && m.amount.Amount.Unit() == quantity.Percent:
		case m.kind == anOpening:
			i = r.closing(i, a.hi)
		case m.kind == aWord, m.is(each | both | manner | optional), m.is(small) && !m.is(joiner), m.is(kind | pieces | thing):
		default:
			return false
		}
	}
	return false
}

// walkName reads a material.
func (r *reader) walkName(a *atom, k int) int {
	m := &r.out[k]
	if a.clause && a.alt && a.amount != nil && a.made == nil {
		r.becomes(m.from, m.to, AsRemark, r.last)
		return k + 1
	}
	if a.amount == nil && k > a.lo && r.isLike(k-1) { // “like damp sand”
		r.becomes(m.from, m.to, AsRemark, a.made)
		return k + 1
	}
	if a.loose >= 0 && a.made != nil && a.amount == nil && r.forWhat(a.loose) { // “ten drops of lavender for scent”
		return k + 1
	}
	if a.loose >= 0 && a.made == nil && a.amount == nil && r.forWhat(a.loose) && k+1 < a.hi && r.out[k+1].kind == anAmount && r.nameNext(a, k+1) { // “for scent ten drops of lavender”
		return k + 1
	}
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
	for next < a.hi && r.isTail(a, next, n) {
		n.to = r.out[next].to
		next++
	}
	n.text = r.said(n.from, n.to)
	r.joined = false
	if r.clearsUp(a, n) || r.clearsUpLine(a, n) {
		return next
	}
	switch {
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
	case r.shared.open():
		r.lineMade(a, r.shared.take(), n)
	default:
		a.names = append(a.names, n)
	}
	return next
}

// isLike reports whether a mark ends in “like”, perhaps before a word about its state.
func (r *reader) isLike(k int) bool {
	m := &r.out[k]
	return r.toks[m.to-1].word == "like"
}

// forWhat reports whether words begin to say what a line is for.
func (r *reader) forWhat(k int) bool {
	w := r.toks[r.out[k].from].word
	return w == "for" || w == "as"
}

// clearsUp takes a name for what an unclear one before it meant: “soda: washing soda”.
func (r *reader) clearsUp(a *atom, n *naming) bool {
	var before *naming
	if k := len(a.names); k > 0 {
		before = a.names[k-1]
	} else if k := len(r.waiting); k > 0 && a.amount == nil && !a.alt {
		before = r.waiting[k-1]
	}
	if before == nil {
		return false
	}
	m := r.read(n.text)
	if m == nil || !slices.Contains(r.lib.Meant(before.text), m.ID) {
		return false
	}
	r.becomes(before.from, before.to, AsSmallTalk, nil)
	before.from, before.to, before.text = n.from, n.to, n.text
	return true
}

// clearsUpLine takes a name for what the unclear name of the last line meant: “a cup of
// soda, washing soda that is”, “5 ml of scent, lavender”.
func (r *reader) clearsUpLine(a *atom, n *naming) bool {
	l := a.made
	if l == nil {
		l = r.last
	}
	if l == nil || a.amount != nil || a.alt || a.none || r.joined || l.from < r.now.from || len(a.names) > 0 {
		return false
	}
	m := r.read(n.text)
	switch {
	case m == nil:
		return false
	case slices.Contains(r.lib.Meant(l.name), m.ID):
	case l.Material == "essential-oil" && l.Err == nil && r.scentOf(n.text) != "":
		n.text = r.scentOf(n.text)
	default:
		return false
	}
	r.rename(l, n.text)
	r.becomes(n.from, n.to, AsMaterial, l)
	a.made = l
	return true
}

// scentOf is a name as that of a scent: “lemon” is lemon oil; empty where there is none.
func (r *reader) scentOf(name string) string {
	for _, try := range [...]string{name, name + " oil"} {
		if m := r.read(try); m != nil && m.Is(material.ScentOil) && m.ID != "essential-oil" {
			return try
		}
	}
	return ""
}

// clearsUpLast takes a word for what the unclear name of the last line meant: “100 g of
// soap, that's flakes”.
func (r *reader) clearsUpLast(word string) bool {
	l := r.last
	return l != nil && l.from >= r.now.from && r.clearsUpName(l, word)
}

// clearsUpName takes a word for what the unclear name of a line meant.
func (r *reader) clearsUpName(l *Line, word string) bool {
	if l.Err == nil || len(r.lib.Meant(l.name)) == 0 {
		return false
	}
	for _, name := range [...]string{l.name + " " + word, word + " " + l.name} {
		if r.read(name) != nil {
			r.rename(l, name)
			return true
		}
	}
	return false
}

// isVessel reports whether a unit is of what things are kept in.
func isVessel(u quantity.Unit) bool {
	switch u {
	case quantity.Jar, quantity.Bottle, quantity.Bucket, quantity.Bowl, quantity.Pot, quantity.Jug, quantity.Box, quantity.Basin, quantity.Sink, quantity.Kettle:
		return true
	}
	return false
}

// isTail reports whether a word after a name belongs to it and is on no list: “salt
// shaker” is no salt that is known. A remark begins with another sort of word.
func (r *reader) isTail(a *atom, k int, n *naming) bool {
	if r.now.doing || r.now.using {
		return false
	}
	m := &r.out[k]
	if m.kind == aWord && r.toks[m.from].kind == isWord {
		word := r.toks[m.from].word
		if isState(word, nil) {
			return true
		}
		if strings.HasSuffix(word, "ed") || strings.HasSuffix(word, "ing") { // what was done to it
			return false
		}
		run := 0
		for i := k; i < a.hi && r.out[i].kind == aWord; i++ {
			run++
		}
		return run <= mostTail
	}
	return false
}

// mostTail is how many strange words after a name are taken for a part of it; more are
// an aside.
const mostTail = 2

// modifiers is where the strange words begin that stand right before a name and change
// what it is: “black soap” is no soap that is known; −1 without any.
func (r *reader) modifiers(a *atom, k int) int {
	if a.loose < 0 {
		return -1
	}
	from := k
	for i := k - 1; i >= a.loose && r.out[i].kind == aWord && r.toks[r.out[i].from].kind == isWord; i-- {
		from = i
	}
	if from == k || k-from > mostTail || r.now.doing && a.amount == nil {
		return -1
	}
	if a.amount == nil && from > a.loose { // told before it, with other words between
		return -1
	}
	r.looseUntil(a, from)
	a.loose = -1
	return r.out[from].from
}

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
		whole := r.namesFirst(lo, hi) || r.hasAmount(lo, hi) && r.hasName(lo, hi) && !r.out[lo].is(choice)
		switch {
		case whole, r.hasAny(lo, hi, none|per|machine|dosing|correct):
			r.looseEnds(a, k)
			made := a.made
			r.keepWaiting(a)
			r.atom(lo, hi)
			a.made = made
		case a.made != nil && a.amount == nil:
			r.looseEnds(a, k)
			r.bracketOf(a.made, from, to, inner)
		case len(a.names) > 0 && lo+1 == hi && r.out[lo].kind == anAmount && r.out[lo].amount.Amount.Unit() != quantity.Percent && a.amount == nil: // “borax (1 cup)”
			r.looseEnds(a, k)
			n := a.names[len(a.names)-1]
			a.names = a.names[:len(a.names)-1]
			r.keepWaiting(a)
			r.lineMade(a, r.amountSaid(&r.out[lo]), n)
		case len(a.names) > 0:
			r.looseEnds(a, k)
			n := a.names[len(a.names)-1]
			n.text += " (" + inner + ")"
			n.to = to
		case r.last != nil && a.amount == nil:
			r.looseEnds(a, k)
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

func (r *reader) hasAmount(lo, hi int) bool {
	for k := lo; k < hi; k++ {
		if r.out[k].kind == anAmount {
			return true
		}
	}
	return false
}

// bracketOf reads what stands in brackets behind a line.
func (r *reader) bracketOf(l *Line, from, to int, inner string) {
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

// endAtom finds a place for what is left over.
func (r *reader) endAtom(a *atom) {
	r.looseEnds(a, a.hi)
	if a.amount != nil && !(r.shared.open() && r.shared.said == a.amount) {
		r.amountLeft(a)
	}
	r.keepWaiting(a)
	l := a.made
	if l == nil && len(a.names) == 0 && len(r.waiting) == 0 {
		l = r.last
	}
	for _, s := range a.remarks {
		if l != nil {
			l.remark(r.asSaid(s.from, s.to))
			r.becomesOwned(s, l)
		} else if n := len(r.waiting); n > 0 {
			r.waiting[n-1].remarks = append(r.waiting[n-1].remarks, r.asSaid(s.from, s.to))
		}
	}
	if a.optional && a.made == nil && len(a.names) == 0 {
		r.optional = true
	}
	if a.alt {
		r.altNext = true
	}
}

func (r *reader) becomesOwned(s span, l *Line) {
	for i := s.from; i < s.to; i++ {
		r.fates[r.origin[i]].line = l
	}
}

// keepWaiting keeps the names that got no amount for one that follows.
func (r *reader) keepWaiting(a *atom) {
	for _, n := range a.names {
		n.prose, n.use = n.prose || a.prose, n.use || a.using
	}
	r.waiting = append(r.waiting, a.names...)
	a.names = nil
}

// amountLeft gives an amount without a name to the names that wait for one, or to what it
// says: a dose, a yield; or keeps it for the next name.
func (r *reader) amountLeft(a *atom) {
	said := a.amount
	a.amount = nil
	r.keepWaiting(a)
	n := len(r.waiting)
	switch {
	case a.perWater && len(r.good.Doses) > 0:
		r.good.Doses[len(r.good.Doses)-1].Water = said.Amount
		r.becomes(said.from, said.to, AsUse, nil)
	case a.made != nil && n == 0 && isVolume(said.Amount) && said.from > 0 && r.isPer(said.from-1, said.from): // “a teaspoon of bicarb per litre”
		r.lineMade(a, said, &naming{from: said.to, to: said.to, text: "water", in: r.now})
		r.good.Unsure = append(r.good.Unsure, Unsure{Line: len(r.good.lines) - 1, Code: "per-what", Text: "Per " + strings.TrimPrefix(said.Amount.String(), "1 ") + " of what? Water is taken.", Answers: []string{"Water"}})
	case a.alt && r.last != nil && len(r.waiting) == 0: // “or two if you have soft water”
		a.alt = false
		r.last.remark("or " + r.asSaid(said.from, r.out[a.hi-1].to))
		r.becomesWhereUnread(said.from, r.out[a.hi-1].to, AsRemark, r.last)
	case a.clause && said.Amount.Unit() == quantity.Bare && !r.dose.IsZero(): // “if your water is hard use two”
		r.becomes(said.from, said.to, AsUse, nil)
		for _, w := range r.waiting {
			if w.in == r.now {
				r.becomes(w.from, w.to, AsUse, nil)
			}
		}
		r.waiting = slices.DeleteFunc(r.waiting, func(w *naming) bool { return w.in == r.now })
	case a.perLoad, a.doses, a.machine != "":
		r.dosed(a, said, a.hi)
	case a.yields, said.Amount.UpTo() && n == 0:
		r.yields(said)
	case n > 0:
		r.giveWaiting(a, said, r.forAll || r.joinedAll(said))
	case a.hi < len(r.out) && r.out[a.hi].kind == aColon && n == 0 && isWhole(said.Amount): // “I need 10 litres: …”
		r.yields(said)
	case said.Amount.Open() != quantity.NotOpen && r.last != nil && r.last.from >= r.now.from: // “… to make a paste”
		if r.last.Amount.IsZero() || r.last.Amount.Open() != quantity.NotOpen {
			r.last.Amount, r.last.Written = said.Amount, said.written
		} else {
			r.last.remark(said.written)
		}
		r.becomes(said.from, said.to, AsAmount, r.last)
	case said.Amount.Unit() == quantity.Bare && !r.dose.IsZero() && r.doseIn == r.now && r.isDose(said): // “one scoop a wash, two if …”
		r.becomes(said.from, said.to, AsUse, nil)
	case r.now.using && r.isDose(said):
		r.dosed(a, said, a.hi)
	case r.percentLine(said):
	case a.fills:
		r.yields(said)
	case isVessel(said.Amount.Unit()):
		r.becomes(said.from, said.to, AsPlace, nil)
	case holds(said.Amount) && r.isInside(said):
		r.yields(said)
	case r.refines(said):
	case r.now.doing, said.article:
		r.becomes(said.from, said.to, AsStep, nil)
		r.now.doing = r.now.doing || !said.article
	default:
		r.askAlone()
		r.alone = said
		r.becomes(said.from, said.to, AsQuestion, nil)
	}
}

// askAlone asks what an amount is of that no name took.
func (r *reader) askAlone() {
	said := r.alone
	r.alone = nil
	switch {
	case said == nil:
	case said.Amount.Unit() == quantity.Bare && said.Amount.Open() == quantity.NotOpen: // “this one”, “one, two, three”
		r.becomes(said.from, said.to, AsLeftOut, nil)
	default:
		r.good.Unsure = append(r.good.Unsure, Unsure{Line: -1, Code: "amount-of-what", Text: "“" + r.said(said.from, said.to) + "” of what?"})
	}
}

// isInside reports whether an amount is said to hold what is made: “in a 16 oz bottle”.
func (r *reader) isInside(said *amountSaid) bool {
	if said.from == 0 {
		return false
	}
	switch r.toks[said.from-1].word {
	case "in", "into", "inside", "fill", "fills", "for":
		return true
	}
	return false
}

// refines takes an amount for what a vague one before it meant: “a splash of vinegar,
// maybe 10 ml”.
func (r *reader) refines(said *amountSaid) bool {
	l := r.last
	if l == nil || l.from < r.now.from || said.Amount.Open() != quantity.NotOpen {
		return false
	}
	if said.Amount.Unit() == quantity.Bare && isRange(l.Amount) { // “a few drops of eucalyptus, say ten”
		if with, ok := said.Amount.InUnitOf(l.Amount); ok {
			l.Amount, l.Written = with, with.String()
			r.becomes(said.from, said.to, AsAmount, l)
			r.amount = with
			return true
		}
	}
	if !isVague(l.Amount) {
		return false
	}
	l.Also = quantity.Amount{}
	if l.Amount.Open() == quantity.NotOpen {
		l.Also = l.Amount
	}
	l.Amount, l.Written = said.Amount, said.written
	r.becomes(said.from, said.to, AsAmount, l)
	r.amount = said.Amount
	return true
}

// isWhole reports whether an amount is one that a whole good has: litres, kilograms, jars,
// pieces, and no spoons.
func isWhole(a quantity.Amount) bool {
	switch u := a.Unit(); u {
	case quantity.Litre, quantity.Millilitre, quantity.Kilogram, quantity.Gram, quantity.Gallon, quantity.Quart, quantity.Pint, quantity.Pound, quantity.Tab, quantity.Piece:
		return true
	default:
		return isVessel(u)
	}
}

// isPer reports whether “per”, “each” or their kin stand between two tokens.
func (r *reader) isPer(from, to int) bool {
	for i := from; i < to; i++ {
		switch r.toks[i].word {
		case "per", "each", "every":
			return true
		}
	}
	return false
}

// isRange reports whether an amount is said from so many to so many.
func isRange(a quantity.Amount) bool {
	terms := a.Terms()
	return len(terms) == 1 && terms[0].Low != terms[0].High
}

// isVague reports whether an amount is one that hands guess.
func isVague(a quantity.Amount) bool {
	switch a.Unit() {
	case quantity.Splash, quantity.Glug, quantity.Handful, quantity.Pinch, quantity.Dash, quantity.Squeeze, quantity.Dollop, quantity.Shake, quantity.Sprinkle, quantity.Spritz:
		return true
	}
	return a.Open() != quantity.NotOpen
}

// unitOnly reports whether an amount was said without a number: “big spoons”.
func (s *amountSaid) unitOnly() bool {
	word := lastWord(s.written)
	_, unit := quantity.UnitNamed(word)
	first, _, _ := strings.Cut(s.written, " ")
	_, alone := quantity.UnitNamed(s.written)
	return unit && (alone || quantity.IsFill(first))
}

// joinedAll reports whether an amount after names that “and” joins is of all of them:
// drops of oils are, “lemon and tea tree, ten drops”.
func (r *reader) joinedAll(said *amountSaid) bool {
	if said.Amount.Unit() != quantity.Drop || len(r.waiting) < 2 {
		return false
	}
	for _, n := range r.waiting[1:] {
		if !n.joined {
			return false
		}
	}
	return true
}

// percentLine takes a strength for what it is where the amount comes after: “70 %
// alcohol, 1 cup”.
func (r *reader) percentLine(said *amountSaid) bool {
	l := r.last
	if l == nil || l.Amount.Unit() != quantity.Percent || said.Amount.Unit() == quantity.Percent || l.shared {
		return false
	}
	name := l.Written + " " + l.name
	l.Amount, l.Written, l.Also = said.Amount, said.written, said.Also
	r.rename(l, name)
	r.becomes(said.from, said.to, AsAmount, l)
	r.amount = said.Amount
	return true
}

// giveWaiting gives an amount to the last name that waits for one, or to all of them.
func (r *reader) giveWaiting(a *atom, said *amountSaid, all bool) {
	r.forAll = false
	waiting := r.waiting
	if !all {
		r.waiting = waiting[:len(waiting)-1]
		r.settle()
		waiting = waiting[len(waiting)-1:]
	}
	r.waiting = nil
	for _, n := range waiting {
		r.lineMade(a, said, n)
		a.made.shared = len(waiting) > 1
	}
}

// looseEnds finds a place for the words before a mark that are nothing certain.
func (r *reader) looseEnds(a *atom, k int) { r.looseUntil(a, k) }

func (r *reader) looseUntil(a *atom, k int) {
	if a.loose < 0 || a.loose >= k {
		a.loose = -1
		return
	}
	from, to := r.out[a.loose].from, r.out[k-1].to
	first := a.loose
	a.loose = -1
	a.clause = a.clause || clauseWords[r.toks[from].word]
	l := a.made
	near := l
	if near == nil && r.last != nil && len(r.waiting) == 0 && len(a.names) == 0 {
		near = r.last
	}
	switch {
	case r.inUnits(from, to):
	case strings.IndexFunc(r.said(from, to), func(c rune) bool { return unicode.IsLetter(c) || unicode.IsDigit(c) }) < 0:
		r.becomesWhereUnread(from, to, AsSmallTalk, l)
	case r.onlyFunction(first, k):
		r.becomesWhereUnread(from, to, AsSmallTalk, l)
		a.prose = a.prose || l == nil && a.amount == nil
	case r.clearsUpLast(r.said(from, to)):
		r.becomes(from, to, AsMaterial, r.last)
	case near != nil && a.amount == nil && r.onlyState(first, k): // “1 bar of soap, grated”
		r.becomesWhereUnread(from, to, AsRemark, near)
		near.remark(r.asSaid(from, to))
	case r.now.doing:
		r.becomesWhereUnread(from, to, AsStep, l)
		a.prose = true
	case r.now.using:
		r.becomesWhereUnread(from, to, AsUse, nil)
		a.prose = true
	case l != nil:
		r.becomesWhereUnread(from, to, AsRemark, l)
		if r.asMuchAs(l, first, k) {
			r.becomes(from, to, AsAmount, l)
			return
		}
		l.say(r.toks[r.out[first].from].word, r.asSaid(from, to))
	case a.amount != nil && (a.amount.Amount.Open() == quantity.NotOpen || k == a.hi && r.listed(a)) && !r.hasName(k, a.hi) && !a.perLoad && !a.doses && !a.yields && a.machine == "" && !a.clause && r.strange(first, k):
		n := &naming{from: from, to: to, text: r.said(from, to), in: r.now}
		said := a.amount
		a.amount = nil
		r.lineMade(a, said, n)
	case a.amount != nil:
		r.becomesWhereUnread(from, to, AsRemark, nil)
	case r.bareName(a, first, k):
		a.names = append(a.names, &naming{from: from, to: to, text: r.said(from, to), in: r.now, joined: r.joined})
	default:
		a.prose = true
		if r.kindNamed(first, k) {
			return
		}
		r.becomesWhereUnread(from, to, AsLeftOut, nil)
	}
}

// inUnits reads “all in cups”: the unit of the lines that have a mere number.
func (r *reader) inUnits(from, to int) bool {
	if to-from > 4 || r.toks[to-1].kind != isWord || to < 2 || r.toks[to-2].word != "in" {
		return false
	}
	one, err := quantity.Parse("1 " + r.toks[to-1].word)
	if err != nil {
		return false
	}
	given := false
	for _, l := range r.good.lines {
		if m := r.read(l.Material); l.Amount.Unit() != quantity.Bare || l.Amount.Open() != quantity.NotOpen || m != nil && m.Piece.Known() {
			continue
		}
		if with, ok := l.Amount.InUnitOf(one); ok {
			l.Amount, l.Written, given = with, with.String(), true
			r.amount = with
		}
	}
	if given {
		r.becomes(from, to, AsAmount, nil)
	}
	return given
}

// asMuchAs reads the end of “as much vodka as vinegar”: the amount is that of the other.
func (r *reader) asMuchAs(l *Line, from, to int) bool {
	if to-from != 2 || r.toks[r.out[from].from].word != "as" || r.out[from+1].kind != aName {
		return false
	}
	text := r.said(r.out[from+1].from, r.out[from+1].to)
	other := r.lineOf(r.read(text), text)
	if other == nil || other == l {
		return false
	}
	l.Amount, l.Written = other.Amount, other.Written
	return true
}

// kindNamed takes “for my dishwasher tabs I use …” for the name of the good.
func (r *reader) kindNamed(lo, hi int) bool {
	k, name, ok := r.kindIn(lo, hi)
	if !ok || len(r.good.lines) > 0 || r.good.Name != "" {
		return false
	}
	r.good.Kind, r.good.Name = k, sentenceCase(strings.TrimPrefix(strings.TrimPrefix(name, "for "), "the "))
	r.becomesWhereUnread(r.out[lo].from, r.out[hi-1].to, AsName, nil)
	return true
}

// onlyFunction reports whether words hold others together and say nothing themselves.
func (r *reader) onlyFunction(from, to int) bool {
	for k := from; k < to; k++ {
		if m := &r.out[k]; !m.is(function|small) && !(m.kind == anAmount && m.article) {
			return false
		}
	}
	return to-from <= 2
}

// onlyState reports whether words say no more than the state of something.
func (r *reader) onlyState(from, to int) bool {
	states := 0
	for k := from; k < to; k++ {
		m := &r.out[k]
		switch {
		case m.kind == aWord && (isState(r.toks[m.from].word, nil) || strings.HasSuffix(r.toks[m.from].word, "ed")), m.is(step) && m.to == m.from+1 && isState(r.toks[m.from].word, nil):
			states++
		case m.is(joiner | small):
		default:
			return false
		}
	}
	return states > 0
}

// clauseWords begin a clause of their own.
var clauseWords = map[string]bool{"if": true, "when": true, "because": true, "so": true, "that": true, "which": true, "who": true, "while": true, "until": true, "till": true,
	"since": true, "as": true, "though": true, "although": true, "unless": true, "i": true, "we": true, "you": true, "it": true, "they": true, "she": true, "he": true}

// strange reports whether words may be the name of a material that is not known: they
// begin as no remark does.
func (r *reader) strange(from, to int) bool {
	return to-from <= 4 && r.out[from].kind == aWord && r.toks[r.out[from].from].kind == isWord
}

// bareName reports whether strange words by themselves stand in a list of what goes in:
// “vinegar, moon dust, 2 cups of water”.
func (r *reader) bareName(a *atom, from, to int) bool {
	if from != a.lo && !r.hasAny(a.lo, from, small|optional|joiner) || to != a.hi && r.out[to].kind != aColon && r.out[to].kind != aDash && r.out[to].kind != anAmount || to-from > 3 {
		return false
	}
	for k := from; k < to; k++ {
		if r.out[k].kind != aWord || r.toks[r.out[k].from].kind != isWord {
			return false
		}
	}
	if to < a.hi { // “moon dust: 1 cup”, “moon dust 1 cup”
		return r.out[to].kind != anAmount || !r.nameNext(a, to)
	}
	return (len(r.good.lines) > 0 || len(r.waiting) > 0 || r.hasAmount(a.hi, min(a.hi+4, len(r.out)))) && r.listed(a)
}

// listed reports whether an atom stands in a list: another comma, or an end of a line, on
// both sides of it.
func (r *reader) listed(a *atom) bool {
	before := a.lo == 0 || r.out[a.lo-1].kind == aComma || r.out[a.lo-1].kind == aStop || r.out[a.lo-1].kind == aBullet || r.out[a.lo-1].is(joiner)
	after := a.hi == len(r.out) || r.out[a.hi].kind == aComma || r.out[a.hi].kind == aStop || r.out[a.hi].is(joiner)
	return before && after && !r.now.doing && !r.now.using
}

// thingOf is what a unit is of by itself: a lemon, the juice of one.
func thingOf(u quantity.Unit) string {
	switch {
	case u.JuiceOf():
		return u.Fruit() + " juice"
	case u.PeelOf():
		return u.Fruit() + " peel"
	case u == quantity.Lemon:
		return "lemon"
	}
	return ""
}

// holds reports whether an amount is of a vessel, or what one holds: “a 16 oz bottle”.
func holds(a quantity.Amount) bool {
	k := a.Kind()
	return k == quantity.Volume || k == quantity.Mass
}

func lastWord(s string) string {
	words := strings.Fields(strings.ToLower(s))
	if len(words) == 0 {
		return ""
	}
	return words[len(words)-1]
}
