package listener

// What one sort of wash takes: a dirty one, a big one.

import (
	"slices"
	"strings"

	"keencrock/core/formula"
	"keencrock/core/quantity"
)

// doseForSort keeps how much one sort of wash takes, beside the dose for any: “…, for heavy soiling use 3
// tablespoons”, “2 tbsp for a large load”. Said before the dose for any, “…, otherwise 2”, it gives that its unit.
func (r *reader) doseForSort(a *atom) bool {
	if len(r.good.lines) == 0 || len(r.waiting) > 0 || r.hasName(a.lo, a.hi) || r.hasAny(a.lo, a.hi, machine|none|correct|step) {
		return false
	}
	forOther := len(r.good.Doses) > 0 && r.doseIn == r.now && r.toks[r.out[a.lo].from].word == "for" // “for floors 30 ml per litre, for drains 100 ml neat”
	if !forOther && !r.isOfSort(a) {
		return false
	}
	var dose *amountSaid
	for k := a.lo; k < a.hi; k++ {
		if m := &r.out[k]; m.kind == anAmount && !m.article && r.toks[m.to-1].word != "ones" && !(m.to == m.from+1 && loadSizes[r.toks[m.from].word] && r.toks[m.from].word != "half") && !(m.to < len(r.toks) && loadSizes[r.toks[m.to-1].word] && loadWords[r.toks[m.to].word]) { // not “half a load”
			if dose != nil || !r.isDose(r.amountSaid(m)) {
				return false
			}
			dose = r.amountSaid(m)
		}
	}
	if dose == nil || !forOther && !isSpooned(dose.Amount) && dose.Amount.Kind() != quantity.Count && (r.dose.IsZero() || dose.Amount.Kind() != r.dose.Kind()) {
		return false
	}
	if other := a.hi + 1; len(r.good.Doses) == 0 {
		if other+1 >= len(r.out) || r.out[a.hi].kind != aComma || !r.out[other].is(choice) || r.out[other+1].kind != anAmount || r.nameNext(&atom{lo: other, hi: min(other+3, len(r.out))}, other+1) {
			return false
		}
		r.dose, r.now.using = dose.Amount, true
		r.becomes(r.out[other].from, r.out[other].to, AsSmallTalk, nil)
		if rest := (&atom{lo: other, hi: other + 2}); !r.dosed(rest, r.amountSaid(&r.out[other+1]), rest.hi) {
			return false
		}
		r.out[other].kind, r.out[other+1].kind = aComma, aComma // they have been read
	}
	from := a.lo
	for from < a.hi-1 && r.out[from].is(joiner) {
		from++
	}
	r.noteEnd(a, r.out[from].from)
	r.becomesWhereUnread(r.out[a.lo].from, r.out[a.hi-1].to, AsUse, nil)
	return true
}

// isOfSort reports whether an atom speaks of how soiled a wash is, or of how big.
func (r *reader) isOfSort(a *atom) bool {
	for i := r.out[a.lo].from; i < r.out[a.hi-1].to; i++ {
		if w := r.toks[i].word; soiled[w] || loadSizes[w] && i+1 < len(r.toks) && (loadWords[r.toks[i+1].word] || soiled[r.toks[i+1].word]) {
			return true
		}
	}
	return false
}

// soiled says that a wash is dirty, and loadSizes, before one of loadWords, how big it is.
var soiled, loadSizes, loadWords = wordSet("soiled"), wordSet("loadSizes"), wordSet("loadWords")

// dosesByWater keeps what soft and hard water take, “Dose: soft water 25 g, hard water 40 g.”: the first is the dose, and
// all of it is kept as it was said.
func (r *reader) dosesByWater(lo, hi int) bool {
	if len(r.good.lines) < 2 || len(r.good.Doses) > 0 {
		return false
	}
	at := lo
	for at < min(hi, lo+3) && !waterSorts[r.toks[r.out[at].from].word] {
		at++
	}
	if both := r.out[lo].kind == anAmount && r.speaksOf(lo, hi, "hard") && r.speaksOf(lo, hi, "soft"); both { // “40 g per wash in hard water, 25 in soft”
		at = lo
	} else if at == min(hi, lo+3) || at > lo && !r.hasAny(lo, at, dosing|using) {
		return false
	}
	var dose *amountSaid
	for k := at; k < hi; k++ {
		switch m := &r.out[k]; {
		case m.kind == anAmount && !m.article && dose == nil:
			dose = r.amountSaid(m)
		case m.kind == aName && r.toks[m.to-1].word != "water":
			return false
		}
	}
	if dose == nil || !r.isDose(dose) || dose.Amount.Unit() == quantity.Bare {
		return false
	}
	r.good.Doses = append(r.good.Doses, formula.Dose{Amount: dose.Amount})
	r.becomes(r.out[lo].from, r.out[hi-1].to, AsUse, nil)
	r.note(r.out[at].from, r.out[hi-1].to)
	return true
}

// usedWith keeps how much of the good is used beside something else, “Use two tbsp with vinegar in the rinse.”: the dose, and
// all of it as it was said. Nothing of it goes into the good.
func (r *reader) usedWith(lo, hi int) bool {
	if len(r.good.lines) < 2 || lo+2 >= hi || r.toks[r.out[lo].from].word != "use" || r.out[lo].to != r.out[lo].from+1 || r.out[lo+1].kind != anAmount {
		return false
	}
	dose := r.amountSaid(&r.out[lo+1])
	if r.toks[dose.to].word != "with" || !r.isDose(dose) || dose.Amount.Unit() == quantity.Bare || r.hasAmount(lo+2, hi) {
		return false
	}
	if len(r.good.Doses) == 0 {
		r.good.Doses = append(r.good.Doses, formula.Dose{Amount: dose.Amount})
	}
	r.becomes(r.out[lo].from, r.out[hi-1].to, AsUse, nil)
	r.note(r.out[lo].from, r.out[hi-1].to)
	return true
}

// speaksOf reports whether a word stands between two marks.
func (r *reader) speaksOf(lo, hi int, word string) bool {
	return slices.ContainsFunc(r.toks[r.out[lo].from:r.out[hi-1].to], func(t token) bool { return t.word == word })
}

// waterSorts are waters by what is in them.
var waterSorts = wordSet("waterSorts")

// nearWords is how far away a dose for the other water stands, in words.
const nearWords = 16

// sortsWater reports whether “hard water” or “soft water” at a token says which water a dose is for, and is none that goes
// in.
func (r *reader) sortsWater(i int) bool {
	switch r.toks[i-1].word {
	case "in", "for", "with":
		near := r.toks[max(0, i-nearWords):min(len(r.toks), i+nearWords)]
		return r.toks[i].word != "soft" || r.toks[i-1].word == "in" && slices.ContainsFunc(near, func(t token) bool { return t.word == "hard" })
	}
	return false
}

// purposeAt is the token at which what something is added for ends, “so it doesn't dry out”; 0 where none begins at
// a token.
func (r *reader) purposeAt(i int) int {
	for n := 3; n <= 4 && i+n <= len(r.toks); n++ {
		if !purposeStarts[strings.ToLower(r.said(i, i+n))] {
			continue
		}
		to := i + n
		for to < len(r.toks) && to < i+mostPurpose && r.toks[to].kind == isWord && r.toks[to].word != "and" && r.toks[to].word != "then" {
			to++
		}
		return to
	}
	return 0
}

// mostPurpose is how many words say at the most what something is added for.
const mostPurpose = 10

// purposeStarts begin what something is added for.
var purposeStarts = wordSet("purposeStarts")
