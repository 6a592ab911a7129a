package listener

// Sentences that are kept as they were said, or read in another way than by their commas: how a good is stored, dosed and
// used, what it costs, how long it keeps.

import (
	"slices"
	"strings"

	"keencrock/core/quantity"
)

// keptWhole reads a sentence that is kept as it was said, or read in another way than by its commas: how the good is
// stored, dosed and used, what it costs.
func (r *reader) keptWhole(lo, hi int) bool {
	if r.headsStorage(lo, hi) {
		return true
	}
	if at := r.doseBehindStore(lo, hi); at > 0 { // “Keep it airtight, tablespoon a wash.”
		r.becomes(r.out[at].from, r.out[at].to, AsSmallTalk, nil)
		r.sentence(lo, at)
		r.sentence(at+1, hi)
		return true
	}
	switch {
	case r.dosesByWater(lo, hi), r.usedWith(lo, hi), r.fillsSome(lo, hi):
	case r.treats(lo, hi), r.forAWash(lo, hi), r.forThings(lo, hi), r.thinsItself(lo, hi): // “Soak the wool 6 hours, spin.”, “Whites: add one more of percarbonate”, behind the dose
		r.keepAs(AsUse, lo, hi)
	case r.tellsCost(lo, hi), r.advises(lo, hi), r.tellsLife(lo, hi): // “Cost about 80p.”, “Fridge, two weeks.”
		r.keepAs(AsRemark, lo, hi)
	case r.stores(lo, hi) && slices.ContainsFunc(r.toks[r.out[lo].from+2:r.out[hi-1].to], func(t token) bool { return t.word == "dry" }): // “Keep bone dry.” dries nothing
		r.keepAs(AsRemark, lo, hi)
	case r.stores(lo, hi): // “Store in an airtight jar with a sachet of silica gel”
		r.becomes(r.out[lo].from, r.out[hi-1].to, AsStep, nil)
		r.now.doing = true
		r.endSentence()
	default:
		return false
	}
	return true
}

// keepAs keeps what stands between two marks with the good, as it was said.
func (r *reader) keepAs(as Became, lo, hi int) {
	r.becomes(r.out[lo].from, r.out[hi-1].to, as, nil)
	r.note(r.out[lo].from, r.out[hi-1].to)
}

// doseBehindStore is the comma between how a good is kept and how much of it a wash takes; 0 where not both are said.
func (r *reader) doseBehindStore(lo, hi int) int {
	if w := r.toks[r.out[lo].from].word; w != "keep" && w != "store" && w != "keeps" || len(r.good.lines) == 0 {
		return 0
	}
	for k := lo + 1; k+1 < hi; k++ {
		if r.out[k].kind == aComma && r.out[k+1].kind == anAmount && !r.out[k+1].article && r.hasAny(k+2, hi, per) && !r.hasName(lo, hi) {
			return k
		}
	}
	return 0
}

// headsStorage reads the line “Storage”, and the one below it, which is kept as it was said.
func (r *reader) headsStorage(lo, hi int) bool {
	head := r.storage
	r.storage = false
	switch word := r.toks[r.out[lo].from].word; {
	case len(r.good.lines) == 0:
		return false
	case hi == lo+1 && r.out[lo].to == r.out[lo].from+1 && (word == "storage" || word == "storing" || word == "keeping") && r.wholeLine(lo, hi):
		r.storage = true
		r.becomes(r.out[lo].from, r.out[hi-1].to, AsSmallTalk, nil)
		return true
	case head && !r.hasName(lo, hi):
		r.keepAs(AsRemark, lo, hi)
		return true
	}
	return false
}

// treats reports whether a sentence begins with what is done to what is washed, “soak the wool”, or with how
// soon the good is used up.
func (r *reader) treats(lo, hi int) bool {
	at := r.out[lo].from
	if len(r.good.lines) == 0 || at+2 >= r.out[hi-1].to || r.hasName(lo, hi) && !r.out[lo].is(step|using) && !appliesFirst[r.toks[at].word] {
		return false
	}
	if r.toks[at].word == "use" && usedUp[r.toks[at+1].word] && !r.hasName(lo, hi) && !r.hasAmount(lo, hi) {
		return true
	}
	if w := r.toks[at].word; (w == "squirt" || w == "apply" || w == "dab" || w == "smear") && !r.hasName(lo, hi) && !r.hasAmount(lo, hi) { // “Squirt under the rim, leave half an hour, brush.”
		return true
	}
	if r.out[lo].is(using) && !r.out[lo].is(step) && !thins[r.toks[at].word] && len(r.good.lines) > 1 && (r.hasName(lo, hi) || r.hasAmount(lo, hi)) && !r.measuresNew(lo, hi) && r.withWord(lo, hi) { // “Rub on with half a lemon.”
		return true
	}
	if r.restIsUse(lo, hi) { // “Sprinkle, leave 20 min, hoover up.”
		return true
	}
	if !r.out[lo].is(step|using) && !wetsFirst[r.toks[at].word] {
		return false
	}
	next := at + 1
	for next < at+4 && next < len(r.toks) && (articles[r.toks[next].word] || r.toks[next].word == "your" || r.toks[next].word == "my" || r.toks[next].word == "in" || r.toks[next].word == "dirty" || r.toks[next].word == "wet") {
		next++
	}
	return next > at+1 && next < len(r.toks) && treated[r.toks[next].word] && !r.hasAmount(lo, hi)
}

// restIsUse reports whether what follows behind a list says how the good is used by hand: it begins with how it is put
// on, or left there, and goes on to what is done afterwards.
func (r *reader) restIsUse(lo, hi int) bool {
	first := r.toks[r.out[lo].from].word
	switch {
	case len(r.good.lines) == 0 || !r.measuresNothing(lo, hi) || r.makesMore(lo, hi):
	case appliesFirst[first]:
		return len(r.good.lines) > 1 && !r.measuresNew(lo, hi) && r.usesIn(lo+1, hi)
	case r.out[lo].is(step|using) && r.treatsNext(lo): // “spray the taps, wait ten minutes, wipe”
		return len(r.good.lines) > 0 && !r.hasName(lo, hi) && r.endsUsing(hi)
	case r.out[lo].is(step|kind) && sprays[first] && lo+1 < hi && r.out[lo+1].kind == aComma && !r.hasName(lo, hi) && r.endsUsing(hi): // “spray, leave an hour, rinse”
		return len(r.good.lines) > 1
	case first == "leave" || first == "wait":
		return !r.hasName(lo, hi) && !r.hasAmount(lo, hi) && r.hasKind(lo, hi, aWait) && r.endsUsing(hi)
	}
	return false
}

// makesMore reports whether a word between two marks says how the good is made: “mist it with vodka, press into moulds”.
func (r *reader) makesMore(lo, hi int) bool {
	return slices.ContainsFunc(r.toks[r.out[lo].from:r.out[hi-1].to], func(t token) bool { return makesIt[t.word] })
}

// makesIt are words for giving a good its shape.
var makesIt = wordSet("makesIt")

// treatsNext reports whether what is cleaned stands right behind a mark: “spray the taps”.
func (r *reader) treatsNext(k int) bool {
	at := r.out[k].to
	for at < len(r.toks) && (articles[r.toks[at].word] || r.toks[at].word == "your") {
		at++
	}
	return at > r.out[k].to && at < len(r.toks) && treated[r.toks[at].word]
}

// usesIn reports whether a word between two marks says what is done with a good, and makes none.
func (r *reader) usesIn(lo, hi int) bool {
	for k := lo; k < hi; k++ {
		if m := &r.out[k]; m.is(using) && !m.is(step) || r.toks[m.from].word == "wash" || r.toks[m.from].word == "launder" || r.toks[m.from].word == "leave" {
			return true
		}
	}
	return false
}

// wetsFirst are what is done to what is cleaned before the good.
var wetsFirst = wordSet("wetsFirst")

// measuresNothing reports whether no amount stands between two marks but how warm a wash is, “wash at 40”.
func (r *reader) measuresNothing(lo, hi int) bool {
	for k := lo; k < hi; k++ {
		if m := &r.out[k]; m.kind == anAmount && !m.article && m.amount.Amount.Open() == quantity.NotOpen && r.toks[max(0, m.from-1)].word != "at" {
			return false
		}
	}
	return true
}

// appliesFirst are what is done with a good that is used by hand.
var appliesFirst = wordSet("appliesFirst")

// measuresNew reports whether so much is measured, between two marks, of a material that is no line: that is
// read, or asked about, and never kept as mere words.
func (r *reader) measuresNew(lo, hi int) bool {
	for k := lo; k < hi; k++ {
		if m := &r.out[k]; m.kind == anAmount && inMeasures(m.amount.Amount) && r.nameNext(&atom{hi: hi}, k) {
			if at := r.nameIndex(&atom{hi: hi}, k); !r.isLine(at) {
				return true
			}
		}
	}
	return false
}

// withWord reports whether “with” stands between two marks.
func (r *reader) withWord(lo, hi int) bool {
	for i := r.out[lo].from; i < r.out[hi-1].to; i++ {
		if r.toks[i].word == "with" {
			return true
		}
	}
	return false
}

// endsUsing reports whether what stands before a mark ends in what is done with a good, and makes none.
func (r *reader) endsUsing(hi int) bool {
	for k := hi - 1; k >= max(0, hi-3); k-- {
		if m := &r.out[k]; m.is(using) && !m.is(step) || r.toks[m.from].word == "wash" || r.toks[m.from].word == "launder" {
			return true
		}
	}
	return false
}

// advises reports whether a sentence behind what goes in says what to change where it turns out badly: “If it's
// too thick, add a little more water.”
func (r *reader) advises(lo, hi int) bool {
	if len(r.good.lines) < 2 || r.toks[r.out[lo].from].word != "if" || r.measuresNew(lo, hi) {
		return false
	}
	for i := r.out[lo].from + 1; i < r.out[hi-1].to; i++ {
		if byDegrees[r.toks[i].word] {
			return true
		}
	}
	return false
}

// byDegrees are words for a little more or less of what is there.
var byDegrees = wordSet("byDegrees")

// tellsCost reports whether a short sentence behind what goes in says what it costs, or that it is kept cold.
func (r *reader) tellsCost(lo, hi int) bool {
	if len(r.good.lines) == 0 || r.out[hi-1].to-r.out[lo].from > longestTitle || r.hasName(lo, hi) {
		return false
	}
	first := r.toks[r.out[lo].from].word
	if first == "keeps" && slices.ContainsFunc(r.toks[r.out[lo].from:r.out[hi-1].to], func(t token) bool { return keepTimes[t.word] }) { // “Keeps a year dry.”
		return true
	}
	if first == "ph" { // “pH about 2.”, and not “pH test before you bottle”
		return !r.hasAny(lo, hi, step) && slices.ContainsFunc(r.toks[r.out[lo].from:r.out[hi-1].to], func(t token) bool { return t.kind == isNumber })
	}
	return costs[first] && r.hasAmount(lo, hi) || (first == "fridge" || first == "freezer" || first == "refrigerate" || first == "refrigerated") && r.hasKind(lo, hi, aWait)
}

// tellsLife reports whether a sentence behind what goes in says how long the good keeps: “Shelf life: 12 months, keep dry”.
func (r *reader) tellsLife(lo, hi int) bool {
	at := r.out[lo].from
	return len(r.good.lines) > 0 && at+1 < len(r.toks) && (r.toks[at].word == "shelf" && r.toks[at+1].word != "of" || r.toks[at].word == "best" && r.toks[at+1].word == "before") && !r.hasName(lo, hi)
}

// forAWash reports whether a sentence behind the dose says what one sort of wash wants beside it.
func (r *reader) forAWash(lo, hi int) bool {
	if len(r.good.Doses) == 0 || len(r.good.lines) == 0 {
		return false
	}
	at := r.out[lo].from
	if r.toks[at].word == "for" {
		at++
	}
	if at+1 >= r.out[hi-1].to || !washes[r.toks[at].word] {
		return false
	}
	for i := at + 1; i < min(at+4, r.out[hi-1].to); i++ {
		if adds[r.toks[i].word] {
			return true
		}
	}
	return false
}

// thinsItself reports whether a sentence says in what shares the good is used: “Spray = 1 part infusion, 1 part water.”
func (r *reader) thinsItself(lo, hi int) bool {
	if len(r.good.lines) == 0 || r.good.Name == "" {
		return false
	}
	own := strings.ToLower(lastWord(r.good.Name))
	itself := false
	for k := lo; k < hi; k++ {
		m := &r.out[k]
		if m.kind != anAmount || m.article {
			continue
		}
		if m.amount.Amount.Unit() != quantity.Part {
			return false
		}
		itself = itself || m.to < len(r.toks) && r.toks[m.to].word == own
	}
	return itself
}

// fillsSome reads “Fill 5 lip balm tubes.” behind what goes in: so many come out.
func (r *reader) fillsSome(lo, hi int) bool {
	if len(r.good.lines) < 2 || r.toks[r.out[lo].from].word != "fill" || hi-lo < 3 || r.out[lo].to != r.out[lo].from+1 {
		return false
	}
	m := &r.out[lo+1]
	if n, bare := m.amount.Amount.Pieces(); m.kind != anAmount || m.article || !bare || m.amount.Amount.Unit() != quantity.Bare || n.Value < 2 {
		return false
	}
	for k := lo + 2; k < hi; k++ {
		if o := &r.out[k]; o.kind != aWord && (o.kind != aName || r.read(r.said(o.from, o.to)) != nil) {
			return false
		}
	}
	r.yields(r.amountSaid(m))
	r.becomesWhereUnread(r.out[lo].from, r.out[hi-1].to, AsYield, nil)
	return true
}

// forThings reports whether a sentence says no more than what the good is for: “For wool and old lace.”
func (r *reader) forThings(lo, hi int) bool {
	if len(r.good.lines) == 0 || r.toks[r.out[lo].from].word != "for" || hi-lo < 2 || r.paragraph {
		return false
	}
	for k := lo; k < hi; k++ {
		m := &r.out[k]
		if m.kind == anAmount && !m.article || m.kind == aColon || m.kind == aRatio || m.kind == aWait || m.kind == aName && (r.read(r.said(m.from, m.to)) != nil || len(r.lib.Meant(r.said(m.from, m.to))) > 0) || m.is(step|none|correct|dosing|per|machine|uses) {
			return false
		}
	}
	return hi < len(r.out) || r.out[hi-1].to == len(r.toks)
}

// stores reports whether a sentence says no more than how the good is stored: nothing of it goes in.
func (r *reader) stores(lo, hi int) bool {
	if len(r.good.lines) == 0 || hi-lo < 2 {
		return false
	}
	first := r.out[lo].from
	switch r.toks[first].word {
	case "store", "stored", "storage":
	case "keep", "kept":
		if first++; r.toks[first].word == "it" || r.toks[first].word == "them" {
			first++
		}
		if first+2 < r.out[hi-1].to && r.toks[first].word == "in" && r.toks[first+2].word != "fridge" { // “Keep in a closed jar with a little rice.”
			first += 2
		}
		return first < r.out[hi-1].to && keptSo[r.toks[first].word] // “Keep it dry with a sachet of rice in the jar.”
	default:
		return false
	}
	for k := lo; k < hi; k++ {
		if m := &r.out[k]; m.is(per|dosing|yield) || m.kind == anAmount && !m.article && m.amount.Amount.Open() != quantity.Some && !isVessel(m.amount.Amount.Unit()) && m.amount.Amount.Unit() != quantity.Bare {
			return false
		}
	}
	return true
}

// treated are what is washed and cleaned, and usedUp words for how soon a good is used.
var (
	treated = wordSet("treated")
	usedUp  = wordSet("usedUp")
)

// keepTimes are how long something keeps.
var keepTimes = wordSet("keepTimes")
