package listener

import (
	"strings"

	"keencrock/core/quantity"
)

// sentence is what stands between two stops.
type sentence struct {
	from, to int // tokens
	// doing is set where it says that something is done, and using where it says what is
	// done with the good.
	doing, using bool
	used         bool // it began with what is done with the good, and goes on so
	noted        bool // kept with the good as it was said
	begins       bool // with a word for what is done that says little by itself: add, stir in
	text         string
}

// sentences reads one after the other.
func (r *reader) sentences() {
	for lo := 0; lo < len(r.out); {
		hi := lo
		for depth := 0; hi < len(r.out); hi++ {
			switch m := &r.out[hi]; m.kind {
			case anOpening:
				depth++
				continue
			case aClosing:
				depth = max(0, depth-1)
				continue
			case aStop:
				if depth > 0 && r.toks[m.from].kind != isBreak && hi-lo < 60 {
					continue
				}
			default:
				continue
			}
			break
		}
		r.sentence(lo, hi)
		if hi < len(r.out) {
			r.becomesWhereUnread(r.out[hi].from, r.out[hi].to, AsSmallTalk, nil)
			if r.toks[r.out[hi].from].blank {
				r.paragraph = true
			}
		}
		lo = hi + 1
	}
}

// sentence reads the marks from lo to hi.
func (r *reader) sentence(lo, hi int) {
	if lo = r.openSentence(lo, hi); lo == hi {
		return
	}
	r.paragraph = false
	r.now = &sentence{from: r.out[lo].from, to: r.out[hi-1].to}
	r.now.begins = r.beginsDoing()
	if r.keptWhole(lo, hi) {
		return
	}
	if mixesDry[r.toks[r.now.from].word] && len(r.good.lines) > 1 && !r.hasName(lo, hi) && r.measuresNothing(lo, hi) && !r.endsUsing(hi) { // “Mix to a spreadable paste.”
		r.now.doing = true
	}
	r.noneNext, r.altNext = false, r.altFor != nil
	if r.altNext {
		r.last, r.altFor = r.altFor, nil
	}
	r.atoms(r.toMake(lo, hi), hi)
	r.endSentence()
}

// openSentence reads what heads a sentence, bullets and numbers, a title, how much comes of it, and returns the mark that
// the rest begins with: hi where nothing is left.
func (r *reader) openSentence(lo, hi int) int {
	for lo < hi && (r.out[lo].kind == aBullet || r.out[lo].kind == aDash && r.heads[lo+1].after > lo) {
		lo++
	}
	if lo+2 < hi && r.out[lo].kind == anAmount && r.out[lo].amount.Amount.Unit() == quantity.Bare && r.out[lo].to == r.out[lo].from+1 && r.out[lo+1].kind == aClosing { // “2) Window spray: …”
		r.becomes(r.out[lo].from, r.out[lo+1].to, AsSmallTalk, nil)
		lo += 2
	}
	if lo == hi || r.listNumber(lo, hi) {
		return hi
	}
	if hi-lo > 2 && r.hasKind(lo, hi, aComma) && r.isHeading(lo, hi) { // “Ingredient,Amount,Unit”
		r.becomes(r.out[lo].from, r.out[hi-1].to, AsSmallTalk, nil)
		return hi
	}
	if h := r.heads[lo]; h.title {
		r.headAt(lo)
		return hi
	}
	for lo+2 < hi && r.out[lo].is(small) && !r.out[lo].is(kind|step|none|correct) && r.out[lo+1].kind == aComma && r.good.empty() { // “Right, so my powder's a bag of …”
		r.becomes(r.out[lo].from, r.out[lo+1].to, AsSmallTalk, nil)
		lo += 2
	}
	if lo = r.sizesAtHead(lo, hi); lo == hi || r.partSize(lo, hi) == lo {
		return hi
	}
	if _, isHead := r.heads[lo]; !isHead {
		if lo = r.partNamed(lo, hi); lo == hi {
			return hi
		}
	}
	if after := r.forSoMuch(lo, hi); after > lo {
		lo = after
	} else if after := r.title(lo, hi); after > lo && after < hi {
		lo = r.phaseAfter(after, hi)
	} else {
		lo = after
	}
	return r.variant(lo, hi)
}

// atoms reads what stands between commas, and between what joins two things.
func (r *reader) atoms(lo, hi int) {
	start := lo
	for k := lo; k < hi; k++ {
		if k == start && k > lo && !r.now.doing && !r.now.using && !r.now.used && !r.now.noted && r.restIsUse(k, hi) { // “…, smear it on the copper and leave an hour”
			r.keepAs(AsUse, k, hi)
			return
		}
		if m := &r.out[k]; m.kind == anOpening {
			k = r.closing(k, hi)
			continue
		} else if m.kind == aSlash && (!r.toks[m.from].tight || r.slashesPart(lo, hi)) && r.hasAmount(start, k) && (r.hasName(start, k) || len(r.waiting) > 0) || m.kind == aComma || m.kind == aColon && k+1 < hi && r.hasAmount(start, k) && (!r.hasName(start, k) && r.hasName(k, hi) || r.hasName(start, k) && r.counts(k+1, hi)) {
			r.atom(start, k)
			r.noneNext = r.noneNext && k+1 < hi && (r.out[k+1].kind == aName || r.out[k+1].is(choice|joiner))
			start = k + 1
		} else if m.is(joiner) && k > start && r.parts(k, hi) {
			r.atom(start, k)
			r.becomesWhereUnread(m.from, m.to, AsSmallTalk, nil)
			if r.toks[m.from].word == "then" || r.toks[m.to-1].word == "then" {
				r.shared = sharing{} // what comes then has an amount of its own
			}
			start = k + 1
			r.joined = true
		}
	}
	r.atom(start, hi)
}

// slashesPart reports whether slashes stand for commas: “200g bicarb/100g citric/1 tbsp cornflour”, each with an amount.
func (r *reader) slashesPart(lo, hi int) bool {
	n := 0
	for k := lo; k < hi; k++ {
		if r.out[k].kind != aSlash {
			continue
		}
		if k+1 >= hi || r.out[k+1].kind != anAmount || r.out[k+1].article || !r.nameNext(&atom{hi: hi}, k+1) {
			return false
		}
		n++
	}
	return n > 1
}

// beginsDoing reports whether a sentence begins with a word for what is done, after words
// for when: “next morning add …”.
func (r *reader) beginsDoing() bool {
	i := r.now.from
	for i < r.now.to-1 && i < r.now.from+4 && whens[r.toks[i].word] {
		i++
	}
	return doings[r.toks[i].word]
}

// partNamed passes over what a line of a list is for, “Oil: 1 litre sunflower”, “Alkali: 90 g lye”, where how much
// of what follows. The first of all may be the name of the good: it is a part where another one follows it. It is
// the mark that the rest begins with.
func (r *reader) partNamed(lo, hi int) int {
	if !r.headsPart(lo, hi) || r.good.empty() && len(r.waiting) == 0 && r.good.Name == "" && !r.headsPart(hi+1, len(r.out)) {
		return lo
	}
	r.becomes(r.out[lo].from, r.out[lo+1].to, AsRemark, nil)
	return lo + 2
}

// headsPart reports whether a word for a part of a good heads an amount with a name.
func (r *reader) headsPart(lo, hi int) bool {
	k := lo + 2
	if k >= hi || r.out[lo+1].kind != aColon || r.out[lo].is(optional) || r.out[lo].to-r.out[lo].from > 2 || !partsOfGood[r.toks[r.out[lo].to-1].word] && !partsOfList[r.toks[r.out[lo].to-1].word] {
		return false
	}
	if m := &r.out[k]; m.kind != anAmount || m.article || m.amount.Amount.Open() != quantity.NotOpen || !r.nameNext(&atom{lo: k, hi: hi}, k) {
		return false
	}
	name := &r.out[r.nameIndex(&atom{lo: k, hi: hi}, k)]
	return !strings.EqualFold(r.said(name.from, name.to), r.said(r.out[lo].from, r.out[lo].to))
}

// partsOfList are what a line is headed with that says what is in it: “Potash: 205 g KOH”.
var partsOfList = wordSet("partsOfList")

// mixesDry are words for bringing together what was listed.
var mixesDry = wordSet("mixesDry")

// whens are the words that say when something is done.
var whens = wordSet("whens")

// washes are what is washed by itself, and adds the words for what is put in with it.
var (
	washes = wordSet("washes")
	adds   = wordSet("adds")
)

// counts reports whether a number of loads or pieces stands at a mark.
func (r *reader) counts(k, hi int) bool {
	return k+1 < hi && r.out[k].kind == anAmount && r.out[k].amount.Amount.Unit() == quantity.Bare && r.out[k+1].is(uses|pieces)
}

// doings are the words for what is done that begin a step where steps were said before.
var doings = wordSet("doings")

// parts reports whether a joiner parts two things that go in: “with” does only before an
// amount.
func (r *reader) parts(k, hi int) bool {
	word := r.toks[r.out[k].from].word
	if word != "with" && word != "along" && word != "together" && word != "followed" {
		return true
	}
	if at := r.out[k].from; at > 1 && isPronoun(r.toks[at-1].word) && r.toks[at-2].word == "of" { // “a cup of it with a cup of water”
		return false
	}
	return k+1 < hi && r.out[k+1].kind == anAmount
}

// listNumber reports whether a sentence is no more than the number of a line of a list.
func (r *reader) listNumber(lo, hi int) bool {
	m := &r.out[lo]
	if m.kind != anAmount || m.amount.Amount.Unit() != quantity.Bare || m.to != m.from+1 || hi-lo > 1 || r.toks[m.from].kind != isNumber {
		return false
	}
	r.becomes(m.from, m.to, AsSmallTalk, nil)
	return true
}

// closing is where the bracket that opens at a mark closes; the last mark where it does
// not.
func (r *reader) closing(open, hi int) int {
	depth := 0
	for k := open; k < hi; k++ {
		switch r.out[k].kind {
		case anOpening:
			depth++
		case aClosing:
			if depth--; depth == 0 {
				return k
			}
		}
	}
	return hi - 1
}

func (r *reader) startsWith(k int, role roles) bool { return k < len(r.out) && r.out[k].is(role) }

func (r *reader) hasAny(lo, hi int, role roles) bool {
	for k := lo; k < hi; k++ {
		if r.out[k].is(role) {
			return true
		}
	}
	return false
}

func (r *reader) hasName(lo, hi int) bool { return r.hasKind(lo, hi, aName) }

func (r *reader) hasKind(lo, hi int, kind markKind) bool {
	for k := lo; k < hi; k++ {
		if r.out[k].kind == kind {
			return true
		}
	}
	return false
}
