package listener

// The heads of a page that are lines of their own, or that a letter or a number tells apart.

import (
	"strings"

	"keencrock/core/quantity"
)

// lineHead reads a line by itself that names what the lines below it go into: “Floor soap (1 l)”,
// “Recipe 2”.
func (r *reader) lineHead(lo, hi int) (h pageHead, ok bool) {
	if !r.wholeLine(lo, hi) {
		return h, false
	}
	after, first := hi, lo
	for lo+1 < hi && r.out[lo].kind == aColon { // “== Dish powder ==”
		lo++
	}
	for hi > lo+1 && (r.out[hi-1].kind == aBullet || r.out[hi-1].kind == aColon) { // “*Laundry powder*”, “Batch A:”
		hi--
	}
	end, size := hi, -1
	if r.out[hi-1].kind == aClosing && hi-lo > 3 {
		for end = hi - 1; end > lo && r.out[end].kind != anOpening; end-- {
		}
		for at := end + 1; at < hi-1; at++ {
			if r.out[at].kind == anAmount && !r.out[at].article {
				size = at
			}
		}
	}
	if last := hi - 1; size < 0 && hi-lo > 2 && r.out[last].kind == anAmount && r.out[last].amount.Amount.Unit() == quantity.Bare && timesWord[r.toks[r.out[last-1].from].word] { // “Toilet bombs x 20”
		end, size = last-1, last
	}
	nameEnd := end
	if size < 0 { // “Batch A (whites)”
		nameEnd = hi
	}
	if end == lo || r.out[end-1].to-r.out[lo].from > longestPageHead || !r.listsBelow(after) {
		return h, false
	}
	for k := lo; k < end; k++ {
		m := &r.out[k]
		numbered := k > lo && k == end-1 && m.kind == anAmount && m.amount.Amount.Unit() == quantity.Bare && m.to == m.from+1 && !r.hasName(lo, k)
		if m.kind != aWord && m.kind != aPhrase && m.kind != aName && !numbered && !(m.kind == anAmount && (m.article || m.amount.Amount.Unit() == quantity.Spritz)) || m.is(correct|none|rest|top|per|dosing) || m.is(scrap) && k == lo {
			return h, false
		}
		if numbered {
			return pageHead{lo: first, name: lo, end: nameEnd, after: after, size: size}, !r.phaseLike(lo, k)
		}
	}
	if r.toks[r.out[lo].from].word == "for" && r.out[lo].to == r.out[lo].from+1 && lo+1 < end { // “For dishes:”
		lo++
	}
	if !r.mayHead(lo, end) {
		return h, false
	}
	return pageHead{lo: first, name: lo, end: nameEnd, after: after, size: size}, true
}

// timesWord are those that stand before how many there are of something.
var timesWord = wordSet("timesWord")

// partAtSemicolons reads the semicolons of lines that list one thing behind each, “Drain opener — soda crystals 200 g; boiling
// water 2 l”, as commas, where two lines are written so.
func (r *reader) partAtSemicolons() {
	var found [][]int
	for lo := 0; lo < len(r.out); {
		hi := lo
		for hi < len(r.out) && r.toks[r.out[hi].from].kind != isBreak {
			hi++
		}
		if parts := r.semicolons(lo, hi); len(parts) > 0 {
			found = append(found, parts)
		}
		lo = hi + 1
	}
	if len(found) < 2 {
		return
	}
	for _, parts := range found {
		for _, k := range parts {
			r.out[k].kind = aComma
		}
	}
}

// semicolons are those of a line that begins with a few words and a dash or a colon, and has so much of one thing between
// them; none of any other line.
func (r *reader) semicolons(lo, hi int) (parts []int) {
	head := lo
	for head < hi && head-lo < longestPageHead && r.out[head].kind != aDash && r.out[head].kind != aColon {
		head++
	}
	if head >= hi || head-lo >= longestPageHead || head == lo || r.hasAmount(lo, head) {
		return nil
	}
	start := head + 1
	for k := start; k <= hi; k++ {
		if k < hi && r.out[k].kind != aStop {
			continue
		}
		if k < hi && r.toks[r.out[k].from].word == "." && k+1 == hi {
			break
		}
		if k < hi && r.toks[r.out[k].from].word != ";" || k-start > 3 || !r.hasAmount(start, k) {
			return nil
		}
		if k < hi {
			parts = append(parts, k)
		}
		start = k + 1
	}
	return parts
}

// variantBelow reports whether the line below is said by a good before: “As above, plus …”.
func (r *reader) variantBelow(hi int) bool {
	for hi < len(r.out) && (r.out[hi].kind == aStop || r.out[hi].kind == aBullet || r.out[hi].kind == aDash) {
		hi++
	}
	return r.variantAhead(hi)
}

// phaseLike reports whether a word before a number counts steps and no goods: “step 2”.
func (r *reader) phaseLike(lo, k int) bool {
	for i := r.out[lo].from; i < r.out[k].from; i++ {
		if w := r.toks[i].word; partsOfGood[w] && w != "mix" {
			return true
		}
	}
	return false
}

// wholeLine reports whether marks are a line from its beginning to its end.
func (r *reader) wholeLine(lo, hi int) bool {
	return (lo == 0 || r.out[lo-1].kind == aStop && r.toks[r.out[lo-1].from].kind == isBreak || r.out[lo-1].kind == aBullet || r.numbersLine(lo)) &&
		hi < len(r.out) && r.toks[r.out[hi].from].kind == isBreak
}

// numbersLine reports whether the number of a line stands right before a mark: “2. Softener”.
func (r *reader) numbersLine(lo int) bool {
	if lo < 2 || r.toks[r.out[lo-1].from].word != "." {
		return false
	}
	m := &r.out[lo-2]
	return m.kind == anAmount && m.to == m.from+1 && r.toks[m.from].kind == isNumber && (lo == 2 || r.out[lo-3].kind == aStop && r.toks[r.out[lo-3].from].kind == isBreak)
}

// listsBelow reports whether the line below begins with so much of something, or with something and
// so much.
func (r *reader) listsBelow(hi int) bool {
	for hi < len(r.out) && (r.out[hi].kind == aStop || r.out[hi].kind == aBullet || r.out[hi].kind == aDash) {
		hi++
	}
	if r.variantAhead(hi) { // “As above, plus 2 tbsp …”
		return true
	}
	for n := 0; n < 2 && hi+2 < len(r.out) && r.out[hi].is(small) && !r.out[hi].is(kind|thing|step) && r.out[hi].kind == aPhrase && r.out[hi+1].kind == anAmount; n++ { // “You need 500 g olive oil”
		hi++
	}
	if hi+1 >= len(r.out) {
		return false
	}
	if w := r.toks[r.out[hi].from].word; (r.out[hi+1].kind == aColon || r.out[hi+1].kind == aStop) && r.isHeading(hi, hi+1) && !howHeadings[w] { // “Ingredients: olive oil 1000 g, …”
		return r.listsBelow(hi + 2)
	}
	first, second := &r.out[hi], &r.out[hi+1]
	if (second.kind == aDash || second.kind == aColon) && hi+2 < len(r.out) { // “Borax - 1 cup”
		second = &r.out[hi+2]
	}
	if first.kind == aName && second.kind == aComma { // “Lavender, rosemary, cloves, equal parts”
		end := r.clauseEnd(hi)
		_, names := r.amountsAndNames(hi, end)
		return names > 1 && r.hasKind(hi, end, aRatio)
	}
	return first.kind == anAmount && !first.article && second.kind != aStop || (first.kind == aName || first.kind == aWord) && second.kind == anAmount && !second.article
}

// howHeadings are headings of how something is made.
var howHeadings = wordSet("howHeadings")

// letteredHead reads “Powder B 1 kg soda …”: a letter or a number behind a word says which one.
func (r *reader) letteredHead(lo, hi int) (h pageHead, ok bool) {
	if lo+3 >= hi {
		return h, false
	}
	for k := lo + 1; k < min(hi-1, lo+4); k++ {
		m := &r.out[k]
		word := r.said(m.from, m.to)
		letter := m.to == m.from+1 && len(word) == 1 && word[0]|0x20 >= 'a' && word[0]|0x20 <= 'z' && r.asSaid(m.from, m.to) == strings.ToUpper(word)
		if letter && r.out[k+1].kind == anAmount && r.mayHead(lo, k) && r.listsTwo(k+1, hi) {
			return pageHead{lo: lo, name: lo, end: k + 1, after: k + 1, size: -1}, true
		}
		if m.kind != aWord && m.kind != aPhrase {
			return h, false
		}
	}
	return h, false
}
