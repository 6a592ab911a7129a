package listener

import (
	"slices"
	"strings"

	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

// walkAmount reads how much: what it is an amount of, the surest reading first.
func (r *reader) walkAmount(a *atom, k int) int {
	m := &r.out[k]
	if part := quantity.Of(1, 1, quantity.Part); m.amount.Amount.Unit() == quantity.Bare && m.to < len(r.toks) && r.toks[m.to].word == "measure" { // “one measure soap”
		if with, ok := m.amount.Amount.InUnitOf(part); ok {
			m.amount.Amount, m.written = with, with.String()
		}
	}
	said := r.amountSaid(m)
	if said.total && m.from > 0 && pouresTo[r.toks[m.from-1].word] && r.nameNext(a, k) { // “then add to 2 litres of lukewarm water”
		said.Amount, said.total = said.Amount.Plain(), false
		said.written = said.Amount.String()
	}
	if said.Amount.UpTo() && r.toks[m.from].word == "up" && r.nameNext(a, k) && (isSpooned(said.Amount) || said.Amount.Kind() == quantity.Count || !r.isWater(a, k)) { // “up to a cup of lemon juice” is the most of it
		said.Amount, said.total = said.Amount.Plain(), false
		said.written = said.Amount.String()
	}
	if (r.now.doing || r.wets(a, said) || r.hasAny(a.lo, k, step)) && isVolume(said.Amount) && !isVessel(said.Amount.Unit()) && said.to+1 < len(r.toks) && r.toks[said.to].word == "with" && r.toks[said.to+1].word == "the" && r.partOfPoured(said) { // “heat two litres with the grated soap”
		r.becomes(m.from, m.to, AsStep, nil)
		return k + 1
	}
	if len(r.good.lines) > 0 && said.Amount.Unit() == quantity.Bare && said.to < len(r.toks) && r.toks[said.to].word == "times" && k+1 < a.hi && r.out[k+1].from == said.to && r.out[k+1].kind == aName { // “use 4 times”
		r.becomes(r.out[a.lo].from, r.out[k+1].to, AsUse, nil)
		r.note(r.out[a.lo].from, r.out[k+1].to)
		return k + 2
	}
	w := &walkedAmount{r: r, a: a, m: m, said: said, k: k}
	next := w.ofPart()
	if next == 0 {
		next = w.ofWhole()
	}
	if next == 0 {
		next = w.perSomething()
	}
	if next == 0 {
		next = w.ofUse()
	}
	if next == 0 {
		next = w.withOthers()
	}
	if next == 0 {
		next = w.ofName()
	}
	if next == 0 {
		a.amount = said
		next = k + 1
	}
	return next
}

// walkedAmount is an amount at a mark, as its readings see it: each returns the mark that is read next, 0 where
// it says something else.
type walkedAmount struct {
	r    *reader
	a    *atom
	m    *mark
	said *amountSaid
	k    int
}

// partOfPoured reports whether an amount may be a part of what was poured before: a line of a liquid is larger.
func (r *reader) partOfPoured(said *amountSaid) bool {
	return slices.ContainsFunc(r.good.lines, func(l *Line) bool {
		return r.poured(l.name) && isVolume(l.Amount) && l.from < said.from && millilitres(l.Amount) > millilitres(said.Amount)
	})
}

// nothingMeasured reports whether no amount stands between two marks.
func (r *reader) nothingMeasured(lo, hi int) bool {
	for k := lo; k < hi; k++ {
		if r.out[k].kind == anAmount && !r.out[k].article || r.out[k].kind == aRatio {
			return false
		}
	}
	return true
}

// bathAt is the mark of the water that something is stood in or over while it is made, “in a pan of simmering
// water”; 0 for any other amount.
func (r *reader) bathAt(a *atom, k int) int {
	m, at := &r.out[k], k+1
	if at+1 < a.hi && r.out[at].kind != aName && r.out[at].to == r.out[at].from+1 {
		at++
	}
	if !r.now.doing || a.amount != nil && !isVessel(a.amount.Amount.Unit()) || len(r.good.lines) == 0 || !isVessel(m.amount.Amount.Unit()) || m.from == 0 || r.toks[m.from-1].word != "in" && r.toks[m.from-1].word != "over" && r.toks[m.from-1].word != "into" || at >= a.hi || r.out[at].kind != aName {
		return 0
	}
	name := &r.out[at]
	if r.toks[name.to-1].word != "water" || name.to-m.to < 2 || len(a.names) > 0 {
		return 0
	}
	for tok := r.out[a.lo].from; tok < m.from; tok++ {
		if stoodIn[r.toks[tok].word] {
			return at
		}
	}
	return 0
}

// stoodIn are words for putting a vessel into warm water.
var stoodIn = wordSet("stoodIn")

// namedBefore takes a name that waits for an amount away where what was counted is of it:
// “soap nuts - 15 shells”.
func (r *reader) namedBefore(a *atom, thing string) {
	m := r.read(thing)
	if k := len(a.names); m != nil && k > 0 && r.read(a.names[k-1].text) == m {
		n := a.names[k-1]
		r.becomes(n.from, n.to, AsMaterial, nil)
		a.names = a.names[:k-1]
	}
}

// wetsAhead reports whether what comes right after an atom is boiled or soaked.
func (r *reader) wetsAhead(a *atom) bool {
	for k := a.hi; k < len(r.out) && k < a.hi+3; k++ {
		if wets[r.toks[r.out[k].from].word] {
			return true
		}
	}
	return false
}

// strangeMeasure is the mark after a measure that is on no list, between a number and the “of”
// of what is measured: “two lumps of soap”; 0 where none stands there.
func (r *reader) strangeMeasure(a *atom, k int) int {
	m := &r.out[k]
	if a.amount != nil || m.amount.Amount.Unit() != quantity.Bare || m.amount.Amount.Open() != quantity.NotOpen || m.to != m.from+1 {
		return 0
	}
	for i := k + 1; i+2 < len(r.out) && i <= k+mostTail && r.out[i].kind == aWord && r.toks[r.out[i].from].kind == isWord; i++ {
		word := r.toks[r.out[i].from].word
		if noMeasures[word] || i+2 >= a.hi {
			return 0
		}
		if of := &r.out[i+1]; r.toks[of.from].word == "of" && of.to == of.from+1 && r.out[i+2].kind == aName {
			return i + 2
		}
	}
	return 0
}

// pouresTo stand before “to 2 litres of water” where something is poured into those.
var pouresTo = wordSet("pouresTo")

// cooledSo stand before “a bit” that is no amount.
var cooledSo = wordSet("cooledSo")

// noMeasures are nouns before an “of” that measure nothing: “a mixture of …”.
var noMeasures = wordSet("noMeasures")

// wets reports whether one of them stands before an amount.
func (r *reader) wets(a *atom, said *amountSaid) bool {
	for i := r.out[a.lo].from; i < said.from; i++ {
		if wets[r.toks[i].word] {
			return true
		}
	}
	return false
}

// amountBefore is for an amount that another one follows.
func (r *reader) amountBefore(a *atom, next *amountSaid) {
	before := a.amount
	if n := len(r.waiting); n > 0 && r.waiting[n-1].in != r.now && isSpooned(before.Amount) && isVessel(next.Amount.Unit()) && len(r.good.lines) > 1 { // “…; 2 capfuls to a bucket” is of nothing that was named before
		r.settle()
	}
	switch {
	case before.Amount.UpTo():
		r.yields(before)
	case len(r.good.lines) > 1 && len(r.waiting) == 0 && a.made == nil && before.from == r.now.from+1 && r.toks[r.now.from].word == "use" && r.isDose(before) && isVessel(next.Amount.Unit()) && r.toks[next.from-1].word == "in": // “Use 2 in a full kettle.”
		a.amount = nil
		r.now.using, r.now.used = true, true
		r.dosed(a, before, a.hi)
		a.perWater = true
	case len(r.waiting) == 0 && a.made == nil && r.doseIn == r.now && isSpooned(before.Amount) && isVolume(next.Amount) && before.to+1 == next.from && r.toks[before.to].word == "in": // “top loader 3 tsp, bucket wash 1 tsp in 10 litres”
		a.amount = nil
		r.good.Doses = append(r.good.Doses, formula.Dose{Amount: before.Amount})
		r.becomes(before.from, before.to, AsUse, nil)
		a.perWater = true
	case len(r.waiting) == 0 && a.made == nil && isVolume(next.Amount) && r.ofGoodItself(before) && r.isDose(before): // “a tablespoon of the concentrate in a litre of water”
		a.amount = nil
		r.dosed(a, before, a.hi)
		a.perWater = true
	case before.Amount.Unit() == quantity.Spritz && before.from > 0 && r.toks[before.from-1].word == "for" && len(r.good.lines) == 0: // “for a spray I put …”
		r.becomes(before.from, before.to, AsName, nil)
	case len(r.waiting) == 0 && a.made == nil && r.isPer(before.to, next.from) && r.perScoop(before, next): // “some starch, say a tablespoon to every cup”
		a.amount = nil
	case len(r.waiting) == 0 && a.made == nil && isVolume(next.Amount) && r.isPer(before.to, next.from) && r.isDose(before), // “a capful per litre”
		len(r.waiting) == 0 && a.made == nil && r.isDose(before) && before.Amount.Unit() != quantity.Bare && r.intoWater(before, next): // “one capful in a bucket of water”
		a.amount = nil
		r.now.using = r.now.using || before.from == r.now.from
		if before.from-1 == r.now.from && dissolved[r.toks[r.now.from].word] && r.allDry() { // “Dissolve 30 g in a cup of water and add to the drum”, of a powder
			r.now.using, r.now.doing = true, false
		}
		r.dosed(a, before, a.hi)
		a.perWater = true
	case len(r.waiting) > 0 && a.made == nil && len(a.names) == 0 && (before.to < next.from || r.toks[next.from].word == "to" && isVolume(next.Amount)) && !before.article: // “washing soda, 50 grams in 5 litres of water”
		r.giveWaiting(a, before, false)
	case len(r.good.lines) > 0 && len(r.waiting) == 0 && a.made == nil && next.Amount.UpTo() && isVolume(next.Amount) && r.isDose(before) && before.Amount.Unit() != quantity.Bare && !(isVolume(before.Amount) && millilitres(before.Amount) > millilitres(next.Amount)): // “one tablespoon to a bucket”
		a.amount = nil
		r.dosed(a, before, a.hi)
		a.perWater = true
	case before.Amount.Unit() == quantity.Bare && r.doseIn == r.now && !r.dose.IsZero(): // “…, two for a big one”
		r.becomes(before.from, before.to, AsUse, nil)
		r.good.Notes = append(r.good.Notes, sentenceCase(r.asSaid(before.from, r.out[a.hi-1].to))+".")
	case before.article, before.Amount.Open() != quantity.NotOpen: // “when it has cooled a bit 10 drops of …”
		r.becomes(before.from, before.to, AsSmallTalk, nil)
	case before.Amount.Unit() == quantity.Bare && before.Amount.Open() == quantity.NotOpen && next.unitOnly(): // “four of those big spoons”
		if with, ok := before.Amount.InUnitOf(next.Amount); ok {
			next.Amount, next.written = with, with.String()
		}
		r.becomes(before.from, before.to, AsAmount, nil)
		next.from = before.from
	case (r.isInside(before) || isSizeOf(before)) && holds(before.Amount) && !isVessel(before.Amount.Unit()): // “in a 16 oz bottle put …”
		r.yields(before)
	case isVessel(before.Amount.Unit()): // “into a spray bottle put one part …”
		r.becomes(before.from, before.to, AsPlace, nil)
	case before.to == next.from && next.Also.IsZero() && before.Amount.Open() == quantity.NotOpen && before.Amount.Unit() != quantity.Bare:
		next.Also = before.Amount
		r.becomes(before.from, before.to, AsAmount, nil)
	case before.Amount.Unit() == quantity.Bare:
		r.becomes(before.from, before.to, Unread, nil)
	case isVolume(before.Amount) && before.Amount.Open() == quantity.NotOpen && r.fromKettle(before.from): // “put the kettle on, pour a litre over …”
		r.lineMade(a, before, &naming{from: before.to, to: before.to, text: "boiling water", in: r.now})
		a.made = nil
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

// pouredPlain reports whether an amount is of a liquid of which only its warmth is said: “2 l cold”.
func (r *reader) pouredPlain(said *amountSaid) bool {
	if said.to >= len(r.toks) || !isVolume(said.Amount) || isVessel(said.Amount.Unit()) || said.Amount.Open() != quantity.NotOpen || said.from > 0 && (r.toks[said.from-1].word == "other" || r.toks[said.from-1].word == "remaining" || r.toks[said.from-1].word == "the") {
		return false
	}
	switch r.toks[said.to].word {
	case "cold", "hot", "boiling", "warm", "cool", "lukewarm":
	default:
		return false
	}
	at := said.to + 1
	return at >= len(r.toks) || r.toks[at].kind != isWord || r.lexIs(at, joiner)
}

// frontOrTop is the machine that one word behind a dose says; empty without one.
func (r *reader) frontOrTop(a *atom, m *mark) string {
	if m.to >= len(r.toks) || !a.doses && r.doseIn != r.now || m.to+1 < len(r.toks) && r.toks[m.to+1].kind == isWord && !r.lexIs(m.to+1, joiner) {
		return ""
	}
	switch r.toks[m.to].word {
	case "front", "fl":
		return "front-loader"
	case "top", "tl":
		return "top-loader"
	}
	return ""
}

// forMore reports whether what a dose is for stands at a token: “two for towels”.
func (r *reader) forMore(at int) bool {
	if at+1 >= len(r.toks) {
		return false
	}
	switch r.toks[at].word {
	case "for", "when", "if", "with":
		return true
	case "in": // “25 in soft”
		return waterSorts[r.toks[at+1].word]
	}
	return false
}

// actually reports whether a word of correction ends an atom right behind an amount.
func (r *reader) actually(a *atom, said *amountSaid) bool {
	if said.Amount.Open() != quantity.NotOpen || said.to >= len(r.toks) || r.out[a.hi-1].from != said.to {
		return false
	}
	return meantSo[strings.ToLower(r.said(said.to, r.out[a.hi-1].to))]
}

// otherwise reads “leave the borax out if you've kids, otherwise one cup”: so much of what was
// left out a moment ago, which may be left out.
func (r *reader) otherwise(a *atom, said *amountSaid) bool {
	out := r.leftOut
	if out == nil || out.in != r.now || said.from == 0 || said.Amount.Open() != quantity.NotOpen {
		return false
	}
	but := said.from - 1
	for but > out.to && (hasIt[r.toks[but].word] || r.toks[but].word == "it's" || r.toks[but].word == "it" || r.toks[but].word == "use" || r.toks[but].word == "i") {
		but--
	}
	if w := r.toks[but].word; w != "otherwise" && w != "else" {
		return false
	}
	m := r.read(out.text)
	if m == nil {
		return false
	}
	r.leftOut = nil
	r.good.Not = slices.DeleteFunc(r.good.Not, func(not *material.Material) bool { return not == m })
	from := out.from
	for from > r.now.from && r.toks[from-1].word != "," && r.toks[from-1].word != ";" {
		from--
	}
	why := strings.TrimSuffix(r.asSaid(from, but), " but")
	r.lineMade(a, said, &naming{from: out.from, to: out.to, text: out.text, in: r.now})
	a.made.Optional = true
	a.made.remark(strings.Trim(why, " ,"))
	r.becomes(from, said.from, AsRemark, a.made)
	r.becomes(out.from, out.to, AsMaterial, a.made)
	return true
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
		r.good.Unsure = append(r.good.Unsure, Unsure{Line: -1, Code: "amount-of-what", Text: "“" + strings.TrimSuffix(r.said(said.from, said.to), " of") + "” of what?"})
	}
}

// giveWaiting gives an amount to the last name that waits for one, or to all of them.
func (r *reader) giveWaiting(a *atom, said *amountSaid, all bool) {
	r.forAll = false
	waiting := r.waiting
	if n := len(waiting); !all && n > 1 && n == 1+r.amountsAhead(a) { // “soda, borax, salt: a cup, a cup, half a cup”
		r.waiting = nil
		r.lineMade(a, said, waiting[0])
		r.waiting = waiting[1:]
		return
	}
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

// amountsAhead is how many atoms follow, one after the other, that are an amount and nothing
// else.
func (r *reader) amountsAhead(a *atom) (n int) {
	for k := a.hi; k+1 < len(r.out) && (r.out[k].kind == aComma || r.out[k].is(joiner)) && r.out[k+1].kind == anAmount; k += 2 {
		if k+2 < len(r.out) && r.out[k+2].kind != aComma && r.out[k+2].kind != aStop && !r.out[k+2].is(joiner) {
			break
		}
		n++
	}
	return n
}

// lineAt is the line that an atom speaks of: the one it made, or the last.
func (r *reader) lineAt(a *atom) *Line {
	if a.made != nil {
		return a.made
	}
	return r.last
}

// ofHardness reports whether a water is said behind a dose: “2 in soft water”.
func (r *reader) ofHardness(at int) bool {
	for ; at+1 < len(r.toks); at++ {
		switch r.toks[at].word {
		case "in", "for", "with", "very", "really", "your", "our":
			continue
		case "soft", "softer", "hard", "harder":
			return r.toks[at+1].word == "water" || r.toks[at+1].word == "areas"
		}
		return false
	}
	return false
}

// meantSo say that an amount is the right one.
var meantSo = wordSet("meantSo")
