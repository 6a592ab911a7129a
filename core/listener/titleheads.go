package listener

// Heads that name no good: of a story, a measure, a field of a card, a table, what comes out.

import (
	"strings"

	"keencrock/core/quantity"
)

// storyHead leaves out a long head that tells and names no good, “hi all, after a lot of trial and error this
// is what works in our hard water: …”. It is the mark after the colon; lo where there is none.
func (r *reader) storyHead(lo, hi int) int {
	for k := lo + 1; k < hi; k++ {
		switch m := &r.out[k]; {
		case m.kind == anAmount && !m.article && m.amount.Amount.Open() == quantity.NotOpen, m.kind == anOpening:
			return lo
		case m.kind == aColon:
			if r.out[k-1].to-r.out[lo].from <= longestTitle || r.hasAny(lo, k, none|out|scrap|correct|instead|optional) || !r.good.empty() || len(r.waiting) > 0 || !r.listsTwo(k+1, hi) {
				return lo
			}
			if _, _, hasKind := r.kindIn(lo, k); hasKind {
				return lo
			}
			r.becomes(r.out[lo].from, m.from, AsLeftOut, nil)
			r.becomes(m.from, m.to, AsSmallTalk, nil)
			return k + 1
		}
	}
	return lo
}

// yieldBeforeColon reports whether no more than what comes out stands between a mark and a colon.
func (r *reader) yieldBeforeColon(k, hi int) bool {
	if !r.startsWith(k, yield) {
		return false
	}
	amounts := 0
	for k++; k < hi; k++ {
		switch m := &r.out[k]; m.kind {
		case aColon:
			return amounts == 1
		case aComma, aName, aRatio, anOpening:
			return false
		case anAmount:
			if !m.article {
				amounts++
			}
		}
	}
	return false
}

// doneNamesGood reports whether a sentence begins with what was done to a good, and names no more than it:
// “Infused cleaning oil.”
func (r *reader) doneNamesGood(lo, hi int) bool {
	return strings.HasSuffix(r.toks[r.out[lo].to-1].word, "ed") && hi-lo > 1 && r.good.empty() && r.namesGoodOrKind(lo, hi)
}

// unitHead takes a head that is no more than a measure for that of the mere numbers behind it.
func (r *reader) unitHead(lo, end int) bool {
	word := r.toks[r.out[end-1].to-1].word
	if r.out[end-1].to-r.out[lo].from > 2 || r.out[end-1].to-r.out[lo].from == 2 && !articles[r.toks[r.out[lo].from].word] && r.toks[r.out[lo].from].word != "in" || !strings.HasSuffix(word, "s") {
		return false
	}
	u, ok := quantity.UnitNamed(word)
	if !ok || word == "glass" || isVessel(u) || u == quantity.Tab || u == quantity.Bar || u == quantity.Spritz || u == quantity.Piece {
		return false
	}
	r.becomes(r.out[lo].from, r.out[end].to, AsAmount, nil)
	r.amount = quantity.Of(1, 1, u)
	return true
}

// fieldOf reads a field of a card, “Name: Willow wash”, “Makes: 1 litre”, and returns the mark after
// it; lo where it is none.
func (r *reader) fieldOf(lo, colon, hi int) int {
	if m := &r.out[min(colon+1, hi-1)]; comesOutHead[strings.ToLower(r.said(r.out[lo].from, r.out[colon-1].to))] && m.kind == anAmount && !m.article && !r.hasName(colon+1, hi) { // “What you get: about 12.”
		r.becomes(r.out[lo].from, r.out[hi-1].to, AsYield, nil)
		r.yields(r.amountSaid(m))
		return hi
	}
	if r.out[colon-1].to-r.out[lo].from != 1 || colon+1 >= hi {
		return lo
	}
	switch r.toks[r.out[lo].from].word {
	case "name", "title", "called":
		if r.hasAmount(colon+1, hi) || !r.amountsFollow(hi) {
			return lo
		}
		r.becomes(r.out[lo].from, r.out[colon].to, AsSmallTalk, nil)
		r.named(colon+1, hi)
		return hi
	case "makes", "yield", "yields", "gives", "size":
		if m := &r.out[colon+1]; m.kind == anAmount && !m.article && m.amount.Amount.Open() == quantity.NotOpen && !r.hasName(colon+1, hi) {
			r.becomes(r.out[lo].from, r.out[hi-1].to, AsYield, nil)
			r.yields(r.amountSaid(m))
			return hi
		}
	case "for", "use", "uses":
		if !r.hasAmount(colon+1, hi) && !r.hasName(colon+1, hi) {
			r.good.Notes = append(r.good.Notes, sentenceCase(r.asSaid(r.out[lo].from, r.out[hi-1].to))+".")
			r.becomes(r.out[lo].from, r.out[hi-1].to, AsRemark, nil)
			return hi
		}
	}
	return lo
}

// comesOutHead head what comes out of a good.
var comesOutHead = wordSet("comesOutHead")

// superfatHead keeps a head that says no more than how much of the fat is left over.
func (r *reader) superfatHead(lo, end int) bool {
	said := strings.ToLower(r.said(r.out[lo].from, r.out[end-1].to))
	if !strings.Contains(said, "superfat") && !strings.Contains(said, "lye discount") {
		return false
	}
	r.noteEnd(&atom{lo: lo, hi: end}, r.out[lo].from)
	r.becomes(r.out[end].from, r.out[end].to, AsSmallTalk, nil)
	return true
}

// isHeading reports whether a line is the head of a table.
func (r *reader) isHeading(lo, hi int) bool {
	for i := r.out[lo].from; i < r.out[hi-1].to; i++ {
		switch r.toks[i].word {
		case "method", "methods", "directions", "instructions", "procedure", "preparation", "process", "steps", "notes", "tips", "equipment", "you", "will", "need", "you'll", "to", "make", "it", "making",
			"my", "our", "recipes", "recipe", "formulas",
			"material", "materials", "ingredient", "ingredients", "amount", "amounts", "quantity", "name", "weight", "mass", "grams", "unit", "units", "qty", "item", "how", "much", "what", "of", "/", "|", ",", ";", "%", "g":
		default:
			return false
		}
	}
	return true
}

// yieldHead reads “for one kilo of powder” at the head of what is listed.
func (r *reader) yieldHead(lo, end int) bool {
	head := lo
	for head < end-1 && r.out[head].is(small) && !r.out[head].is(yield) {
		head++
	}
	kindSaid, called, hasKind := r.kindIn(lo, end)
	batch := lo == end-2 && r.out[lo].kind == anAmount && wholeWords[r.toks[r.out[lo+1].from].word] // “5 litre batch: …”
	if !r.startsWith(head, yield) && !(head > lo && r.out[head-1].is(top)) && !hasKind && !batch || r.hasName(lo, end) && !hasKind {
		return false
	}
	var said *amountSaid
	for k := lo; k < end; k++ {
		if m := &r.out[k]; m.kind == anAmount && !m.article && m.amount.Amount.Unit() != quantity.Spritz {
			if said != nil {
				return false
			}
			said = r.amountSaid(m)
		}
	}
	if said == nil || said.Amount.Open() != quantity.NotOpen || said.from > r.out[lo].from && r.toks[said.from].word == "one" && r.toks[said.from+1].kind == isSign { // “this makes a strong one: …”
		return false
	}
	if hasKind {
		r.good.Kind, r.good.Name, r.good.headed = kindSaid, sentenceCase(called), true
	}
	r.becomes(r.out[lo].from, r.out[end].to, AsYield, nil)
	r.yields(said)
	return true
}

// wholeWords stand for all of a good where so much of it is made.
var wholeWords = wordSet("wholeWords")

// onlyTalk reports whether marks say nothing.
func (r *reader) onlyTalk(lo, hi int) bool {
	for k := lo; k < hi; k++ {
		if m := &r.out[k]; !m.is(small|joiner|optional) || m.is(kind) {
			return false
		}
		r.optional = r.optional || r.out[k].is(optional)
	}
	return true
}

// asideBefore reports whether the name of a good ends at a comma, and a word on it stands between that and the colon
// before the list.
func (r *reader) asideBefore(lo, comma, hi int) bool {
	if last := r.toks[r.out[comma-1].to-1].word; !goodWords[last] && last != "soap" || r.read(r.said(r.out[lo].from, r.out[comma-1].to)) != nil || r.hasAmount(lo, comma) {
		return false
	}
	if comma+1 >= hi || !articles[r.toks[r.out[comma+1].from].word] {
		return false
	}
	for k := comma + 1; k < min(hi, comma+5); k++ {
		switch m := &r.out[k]; {
		case m.kind == aColon:
			return k > comma+1 && r.listsTwo(k+1, hi)
		case m.kind != aWord && !m.is(small) && !(m.kind == anAmount && m.to == m.from+1):
			return false
		}
	}
	return false
}
