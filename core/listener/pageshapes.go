package listener

// The shapes of a head of a page: words before a colon, a dash or “is”, and a list behind them.

import (
	"regexp"
	"strings"

	"keencrock/core/quantity"
)

// listHead reads “Whites - 500 g soda, 500 g percarbonate”: words that name nothing that goes in,
// and at least two amounts of something behind them.
func (r *reader) listHead(lo, hi int) (h pageHead, ok bool) {
	sep, size, end, whole := -1, -1, -1, lo
	// the number of “infusion 2: …”, and the bracket of “Recipe two (laundry): …”
	numbered, inside := -1, -1
	if m := &r.out[lo]; m.kind == anAmount && !m.article && isWhole(m.amount.Amount) && m.amount.Amount.Open() == quantity.NotOpen && lo+2 < hi { // “5 litres floor cleaner - …”
		size = lo
		lo++
	}
	for k := lo + 1; k < min(hi, lo+longestTitle) && sep < 0; k++ {
		switch m := &r.out[k]; {
		case m.kind == anOpening && end < 0: // “Dishwasher tabs (24): …”
			closing := r.closing(k, hi)
			if closing >= hi || closing-k > 4 {
				return h, false
			}
			end = k
			if numbered == k-1 && !r.hasAmount(k+1, closing) {
				inside = k
			}
			for at := k + 1; at < closing; at++ {
				if r.out[at].kind == anAmount && !r.out[at].article {
					size = at
				}
			}
			k = closing
		case m.kind == aColon && (r.toks[m.from].word != "=" || r.equalsTwice()), m.kind == aDash, m.kind == aBullet && r.toks[m.from].word == "|":
			sep = k
		case k > lo && m.kind == anAmount && m.to == m.from+1 && m.amount.Amount.Unit() == quantity.Bare && numbered < 0 && end < 0 && k+1 < hi && (r.out[k+1].kind == aColon || r.out[k+1].kind == anOpening) && !r.phaseLike(lo, k):
			numbered = k
		case m.kind == aWord || m.kind == aPhrase || m.kind == aName || m.kind == anAmount && m.to == m.from+1 && (m.article || r.toks[m.from].word == "one" || m.amount.Amount.Unit() == quantity.Spritz && r.lexIs(m.to-1, kind)): // “the spray”, “the bathroom one”
			if end >= 0 || m.is(correct|scrap|none|rest|top|per|dosing) {
				return h, false
			}
		default:
			return h, false
		}
	}
	if sep < 0 {
		return h, false
	}
	if end < 0 {
		end = sep
	}
	if r.out[end-1].to-r.out[lo].from > longestPageHead+2 {
		return h, false
	}
	if size == whole && end == lo+1 && wholeWords[r.toks[r.out[lo].from].word] { // “5 litre batch: …” has no name
		return h, false
	}
	name, made := r.headName(lo, end)
	if inside > 0 {
		name, end = inside+1, sep-1
	}
	_, _, hasKind := r.kindIn(name, end)
	last := end
	if numbered == end-1 && numbered > name {
		last = numbered
	}
	if size == whole && !hasKind && !goodWords[r.toks[r.out[end-1].to-1].word] || name == end || !r.mayHead(name, last) || !r.listsTwo(sep+1, hi) && !((made || size >= 0 && hasKind) && r.hasName(sep+1, hi)) {
		return h, false
	}
	return pageHead{lo: whole, name: name, end: end, after: sep + 1, size: size}, true
}

// equalsTwice reports whether two goods may be told with a sign for “is”: “Whites powder = …; Colours powder = …”.
func (r *reader) equalsTwice() bool {
	n := 0
	for i := range r.toks {
		if r.toks[i].word == "=" {
			n++
		}
	}
	return n > 1
}

// aloneHead reads “Kettle: 2 tbsp citric acid.” at the beginning of a line: words that name nothing that goes in, and no
// more than one thing behind them.
func (r *reader) aloneHead(lo, hi int) (h pageHead, ok bool) {
	if lo > 0 && r.out[lo-1].kind != aBullet && r.out[lo-1].kind != aDash && r.toks[r.out[lo-1].from].kind != isBreak && !r.numbersLine(lo) {
		return h, false
	}
	for k := lo; k < min(hi, lo+longestPageHead); k++ {
		switch m := &r.out[k]; {
		case m.kind == aColon && r.toks[m.from].word == ":" && k > lo:
			amounts, names := r.amountsAndNames(k+1, hi)
			text := r.said(r.out[lo].from, r.out[k-1].to)
			known := (r.read(text) != nil || len(r.lib.Meant(text)) > 0) && !r.ofTheGood(k+1)
			if r.variantAhead(k + 1) {
				return pageHead{lo: lo, name: lo, end: k, after: k + 1, size: -1}, !known && r.mayHead(lo, k)
			}
			may := !known && names > 0 && r.mayHead(lo, k) && !partsOfList[r.toks[m.from-1].word] && !r.hasAny(lo, k, optional|dosing|using|step|per|yield)
			bullet := lo > 0 && (r.out[lo-1].kind == aBullet || r.out[lo-1].kind == aDash) // “- oven: paste of bicarb”, among others
			return pageHead{lo: lo, name: lo, end: k, after: k + 1, size: -1, few: may && bullet && amounts == 0}, may && amounts > 0
		case m.kind != aWord && m.kind != aPhrase && m.kind != aName && !m.article:
			return h, false
		}
	}
	return h, false
}

// ofTheGood reports whether so much of a good that was told before stands at a mark: “500 ml of the soap”.
func (r *reader) ofTheGood(k int) bool {
	if k >= len(r.out) || r.out[k].kind != anAmount || r.out[k].to >= len(r.toks) {
		return false
	}
	of, what := r.toks[r.out[k].to-1].word, r.toks[r.out[k].to].word
	return of == "of" && (what == "the" || isPronoun(what)) || of == "the"
}

// manyKinds are several goods of one kind.
var manyKinds = wordSet("manyKinds")

// whichGood stands before a name where goods are counted.
var whichGood = regexp.MustCompile(`^(?:and )?(?:the )?(?:first|second|third|fourth|fifth|next|last|other|final)(?: (?:one|thing|recipe))?(?: is| was|'s|,)? `)

// listsItself reports whether the material that a head is called by stands in its own list: then it is
// a line, “soda: 200 g of soda …”.
func (r *reader) listsItself(h pageHead, hi int) bool {
	head := r.said(r.out[h.name].from, r.out[h.end-1].to)
	for k := h.after; k < hi; k++ {
		if m := &r.out[k]; m.kind == aName && strings.EqualFold(r.said(m.from, m.to), head) {
			return true
		}
	}
	return false
}

// headName is where the name itself begins, “the spray” of “to make the spray”, and whether such
// words stand before it.
func (r *reader) headName(lo, end int) (name int, made bool) {
	name = lo
	if m := whichGood.FindString(strings.ToLower(r.said(r.out[lo].from, r.out[end-1].to))); m != "" { // “the second is a spray for the bath”
		for words := len(strings.Fields(m)); name < end && r.out[name].to-r.out[lo].from <= words; {
			name++
		}
	}
	for name < end && (openings[r.toks[r.out[name].from].word] || r.toks[r.out[name].from].word == "to" || name+1 < end && recipeWords[r.toks[r.out[name].from].word] && r.toks[r.out[name].to-1].word == "for") { // “recipe for rinse”
		name++
	}
	if name+2 < end && recipeWords[r.toks[r.out[name].to-1].word] && r.toks[r.out[name+1].from].word == "for" { // “Ingredients for the scrub:”
		name += 2
	}
	if word := r.toks[r.out[min(name, end-1)].from].word; word == "make" || word == "making" || word == "made" || strings.HasPrefix(strings.ToLower(r.said(r.out[lo].from, r.out[end-1].to)), "to make ") {
		made = true
		for name < end && r.toks[r.out[name].to-1].word == "make" || name < end && r.toks[r.out[name].from].word == "making" {
			name++
		}
	}
	for name < end && articles[r.toks[r.out[name].from].word] && r.out[name].to == r.out[name].from+1 {
		name++
	}
	return name, made
}

// isHead reads “kitchen is vinegar and water one to one”: one or two words, and what that is.
func (r *reader) isHead(lo, hi int) (h pageHead, ok bool) {
	for k := lo + 1; k < min(hi, lo+5); k++ {
		m := &r.out[k]
		if word := strings.ToLower(r.said(m.from, m.to)); areSo[word] {
			name, _ := r.headName(lo, k)
			end := k
			for k+2 < hi && r.out[k+1].is(small) && !r.out[k+1].is(kind|thing) { // “is just citric and water, …”
				k++
			}
			if name == k || m.from-r.out[name].from > 3 || k+1 >= hi || !r.another(lo, k) && !r.mayHead(name, k) || r.out[k+1].kind != anAmount && r.out[k+1].kind != aName && !r.variantAhead(k+1) {
				return h, false
			}
			amounts, names := r.amountsAndNames(k+1, hi)
			few := amounts == 0 || names < 2
			return pageHead{lo: lo, name: name, end: end, after: k + 1, size: -1, few: few}, !few || names == 1 || r.another(lo, k) && r.variantAhead(k+1)
		}
		if m.kind == anAmount && m.to == m.from+1 && k > lo && (r.toks[m.from].word == "one" || k == lo+1 && m.amount.Amount.Unit() == quantity.Bare && r.another(lo, k+1)) { // “the strong one is …”, “batch two was …”
			continue
		}
		if m.kind != aWord && m.kind != aPhrase && m.kind != aName || m.is(correct|scrap|none|rest|top|per|dosing) || m.is(step) && !m.is(using|kind) && !goodWords[r.toks[m.to-1].word] {
			return h, false
		}
	}
	return h, false
}

// commaHead reads “Glass cleaner, a cup of water, a cup of alcohol” at the beginning of a sentence: a kind of good, and a
// list behind a comma.
func (r *reader) commaHead(lo, hi int) (h pageHead, ok bool) {
	for k := lo + 1; k < min(hi, lo+4); k++ {
		m := &r.out[k]
		if m.kind != aComma {
			if m.kind == anAmount || m.kind == aColon {
				return h, false
			}
			continue
		}
		_, _, hasKind := r.kindIn(lo, k)
		return pageHead{lo: lo, name: lo, end: k, after: k + 1, size: -1}, hasKind && k+1 < hi && r.out[k+1].kind == anAmount && r.nameNextAt(k+1) && r.mayHead(lo, k) && r.listsTwo(k+1, hi)
	}
	return h, false
}

// areSo stand between a good and what it is.
var areSo = wordSet("areSo")

// variantAhead reports whether a good is said by another: “the same but with …”.
func (r *reader) variantAhead(k int) bool {
	if k >= len(r.out) {
		return false
	}
	at := r.out[k].from
	for at < len(r.toks) && variantLeads[r.toks[at].word] {
		at++
	}
	if at+2 < len(r.toks) && (r.toks[at].word == "as" || r.toks[at].word == "like") && (variantEnds[r.toks[at+2].word] || at+3 < len(r.toks) && variantEnds[r.toks[at+3].word]) { // “B: as A but …”
		return true
	}
	return at < len(r.toks) && r.toks[at].word == "same"
}

// listsTwo reports whether at least two amounts of something are listed between two marks, before
// anything else.
func (r *reader) listsTwo(lo, hi int) bool {
	if lo >= hi || r.out[lo].is(step|none|correct|optional) || r.toks[r.out[lo].from].word == "+" {
		return false
	}
	if _, to := r.variantOf(lo, hi); to > 0 {
		return false
	}
	amounts, names := r.amountsAndNames(lo, hi)
	return amounts > 1 && names > 1
}

// amountsAndNames is how many amounts, and how many things they may be of, are listed between two marks; a
// ratio is two amounts.
func (r *reader) amountsAndNames(lo, hi int) (amounts, names int) {
	for k := lo; k < hi; k++ {
		switch m := &r.out[k]; {
		case m.kind == anAmount && !m.article && !r.out[k].is(per):
			amounts++
			if u := m.amount.Amount.Unit(); u.PeelOf() || thingOf(u) != "" {
				names++
			}
		case m.kind == aRatio:
			amounts += 2
		case m.kind == aName, m.is(machine), (m.kind == aWord || m.is(kind|thing)) && k > lo && r.out[k-1].kind == anAmount && r.out[k-1].to == m.from && r.toks[m.from].kind == isWord,
			k > lo && r.out[k-1].kind == anAmount && isPronoun(r.toks[m.from].word): // “500 ml of it”
			names++
		case m.is(per | dosing | using):
			k = hi
		}
	}
	return amounts, names
}
