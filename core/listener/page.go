package listener

// The heads of a page. What one line alone does not tell, several of the same shape do: where two
// or more sentences begin with words before a colon, a dash or “is”, and a list of what goes in
// behind it, each of them begins a good.

import (
	"slices"
	"strings"

	"keencrock/core/quantity"
)

// pageHead is a head that is certain: the marks from its beginning up to what ends it.
type pageHead struct {
	lo, end int  // the name
	after   int  // the mark after it, or after the line it stands on
	size    int  // the mark of how much it is, in brackets; −1 without one
	title   bool // it names the page, and no good
	name    int  // where the name itself begins
	sure    bool // one alone begins another good: “for the wood balm take 200 ml of it”
	few     bool // no more than one thing is listed behind it
	short   bool // “is” is left off behind it: “my window cleaner's …”
	bracket int  // the mark that closes the bracket its list stands in; 0 without one
}

// longestPageHead is how many words a head has at the most.
const longestPageHead = 6

// headsFound are the heads of a page by their shape: what one alone does not tell, two do.
type headsFound struct {
	lists, materials, are, fors, lines, lettered, alone, few, fewAre, bare []pageHead
	counted                                                                bool // one of the lists is of a good that is counted
}

// findHeads finds the heads of a page.
func (r *reader) findHeads() {
	r.partNumbered()
	r.partAtSlashes()
	r.partAtSemicolons()
	var found headsFound
	r.eachSentence(func(lo, hi int) { r.headOf(&found, lo, hi) })
	r.keepHeads(&found)
	r.clauseHeads()
	r.shapedHeads()
	r.leaveOutOpening()
}

// headOf finds the head of a sentence, of whatever shape.
func (r *reader) headOf(found *headsFound, lo, hi int) {
	if h, ok := r.headLine(lo, hi); ok {
		r.keepHead(h)
		return
	}
	if h, ok := r.countedHead(lo, hi); ok {
		found.lists, found.counted = append(found.lists, h), true
		return
	}
	if h, ok := r.tellingHead(lo, hi); ok {
		found.fors = append(found.fors, h)
		return
	}
	from := r.afterCount(lo, hi)
	if h, ok := r.listHead(from, hi); ok {
		h.lo = lo
		found.lists = append(found.lists, h)
		return
	}
	r.weak = true
	h, ok := r.listHead(from, hi)
	if r.weak = false; ok && !r.listsItself(h, hi) {
		h.lo = lo
		found.materials = append(found.materials, h)
		return
	}
	for _, shape := range []struct {
		at   func(lo, hi int) (pageHead, bool)
		into *[]pageHead
	}{{r.ordinalHead, &found.fors}, {r.forHead, &found.fors}, {r.lineHead, &found.lines}, {r.letteredHead, &found.lettered}} {
		if h, ok := shape.at(lo, hi); ok && h.few {
			found.few = append(found.few, h)
			return
		} else if ok {
			*shape.into = append(*shape.into, h)
			return
		}
	}
	if h, ok := r.isHead(from, hi); ok && h.few && !r.variantAhead(h.after) {
		h.lo = lo
		found.fewAre = append(found.fewAre, h)
	} else if ok {
		h.lo = lo
		found.are = append(found.are, h)
	} else if h, ok := r.commaHead(from, hi); ok { // “Glass cleaner, a cup of water, …”, beside “Oven cleaner is …”
		found.are = append(found.are, h)
	} else if h, ok := r.aloneHead(lo, hi); ok {
		found.alone = append(found.alone, h)
	} else if h.few {
		found.bare = append(found.bare, h)
	}
}

// keepHeads keeps those that there are two of, and one alone where what was said before it tells.
func (r *reader) keepHeads(found *headsFound) {
	lists, are, fors := found.lists, found.are, found.fors
	if len(lists) == 1 && found.counted && r.hasName(0, lists[0].lo) && r.hasAmount(0, lists[0].lo) { // “then make the spray: …”, after what was listed
		r.keepHead(lists[0])
	}
	if len(lists) > 1 || len(lists) == 1 && slices.ContainsFunc(found.alone, func(h pageHead) bool { return r.variantAhead(h.after) || r.ofTheGood(h.after) }) { // “Kettle: 2 tbsp citric acid.”, below two that list more
		lists = append(append(lists, found.alone...), found.bare...)
	}
	if len(lists) > 0 { // “Starch: 20 g cornflour in 1 l water”, beside “Softener: …”
		lists = append(lists, found.materials...)
	}
	if len(fors) > 0 { // “for the floors I use a splash of vinegar.”, beside “for the laundry it's 500 g of …”
		fors = append(fors, found.few...)
	}
	if len(are) > 1 { // “the whitener is just percarbonate”, between two that list more
		are = append(are, found.fewAre...)
	}
	if len(fors) == 1 && (r.listsTwo(0, fors[0].lo) || fors[0].sure && r.hasName(0, fors[0].lo) && r.hasAmount(0, fors[0].lo)) { // “and for the bathroom I use …”, after what was listed for something else
		r.keepHead(fors[0])
	}
	for _, h := range found.lines {
		if h.size >= 0 && len(lists)+len(r.heads) > 0 || r.variantBelow(h.after) { // “Castile liquid soap (makes 2 litres)”, above what is made of it
			r.keepHead(h)
		}
	}
	for _, several := range [][]pageHead{lists, are, fors, found.lines, found.lettered} {
		for _, h := range several {
			if len(several) > 1 {
				r.keepHead(h)
			}
		}
	}
	if len(lists) == 1 && len(r.heads) > 0 { // “Lip balm for gifts: 30 g beeswax, …”, below others that are told
		r.keepHead(lists[0])
	}
	if len(are) == 1 && len(r.heads) > 0 && !r.another(are[0].lo, are[0].end) { // “and the rinse aid is just …”, after others
		r.keepHead(are[0])
	}
}

// afterCount is the mark after “I have three sprays:”, which stands before the first of them.
func (r *reader) afterCount(lo, hi int) int {
	for k := lo + 1; k < min(hi, lo+longestTitle); k++ {
		if r.out[k].kind == aColon {
			if last := r.toks[r.out[k].from-1].word; (manyGoods[last] || manyKinds[last]) && k > lo+1 && k+1 < hi && !r.hasName(lo, k) {
				return k + 1
			}
			return lo
		}
	}
	return lo
}

func (r *reader) keepHead(h pageHead) {
	if r.heads == nil {
		r.heads = map[int]pageHead{}
	}
	r.heads[h.lo] = h
}

// eachSentence calls f with the marks of each sentence, without the bullets and numbers before it.
func (r *reader) eachSentence(f func(lo, hi int)) {
	for lo := 0; lo < len(r.out); {
		hi := lo
		for hi < len(r.out) && r.out[hi].kind != aStop {
			hi++
		}
		first := lo
		for first < hi && (r.out[first].kind == aBullet && r.toks[r.out[first].from].word != "#" || r.out[first].kind == aDash || r.out[first].kind == aClosing) {
			first++
		}
		if first < hi {
			f(first, hi)
		}
		lo = hi + 1
	}
}

// headLine reads “## Starch”: what is marked as a heading is one. One with another right below it
// names the page.
func (r *reader) headLine(lo, hi int) (h pageHead, ok bool) {
	if r.toks[r.out[lo].from].word != "#" {
		return h, false
	}
	from := lo
	for from < hi && r.toks[r.out[from].from].word == "#" {
		from++
	}
	if from == hi || r.out[hi-1].to-r.out[from].from > longestPageHead || r.hasAmount(from, hi) || r.isHeading(from, hi) || hi < len(r.out) && r.toks[r.out[hi].from].kind != isBreak {
		return h, false
	}
	next := hi
	for next < len(r.out) && r.out[next].kind == aStop {
		next++
	}
	if next == len(r.out) {
		return h, false
	}
	return pageHead{lo: from, name: from, end: hi, after: hi, size: -1, title: r.toks[r.out[next].from].word == "#"}, true
}

// partNumbered parts a line at its numbers, “1) powder - 2 kg soda … 2) liquid - …”, “(1) … (2) …”,
// which count up from one, or at its letters, “a) … b) …”.
func (r *reader) partNumbered() {
	var numbers, letters []int
	for k := 0; k+1 < len(r.out); k++ {
		m := &r.out[k]
		if m.to != m.from+1 || r.out[k+1].kind != aClosing || k > 0 && r.out[k-1].kind != anOpening && r.out[k-1].to != m.from {
			continue
		}
		if r.toks[m.from].word == string(rune('a'+len(letters))) {
			letters = append(letters, k)
			continue
		}
		if m.kind != anAmount || r.toks[m.from].kind != isNumber {
			continue
		}
		if n, ok := m.amount.Amount.Pieces(); ok && m.amount.Amount.Unit() == quantity.Bare && int(n.Value) == len(numbers)+1 {
			numbers = append(numbers, k)
		}
	}
	at := numbers
	if len(at) < 2 {
		at = letters
	}
	if len(at) < 2 {
		return
	}
	for _, k := range at {
		if k > 0 && r.out[k-1].kind == anOpening {
			r.out[k-1].kind = aBullet
		}
		r.out[k].kind, r.out[k+1].kind = aStop, aBullet
	}
}

// partAtSlashes parts a line at the slashes before names that a colon ends: “laundry: … / dishes: …”.
func (r *reader) partAtSlashes() {
	start := 0
	for k := 0; k+2 < len(r.out); k++ {
		if r.out[k].kind == aStop {
			start = k + 1
		}
		if r.out[k].kind != aSlash || r.toks[r.out[k].from].tight || !r.hasAmount(start, k) {
			continue
		}
		for at := k + 2; at < min(len(r.out), k+5) && !(r.out[at-1].kind == anAmount && !r.out[at-1].article); at++ {
			if r.out[at].kind == aColon {
				r.out[k].kind = aStop
			}
		}
	}
}

// leaveOutOpening leaves out what stands before the first head and names nothing that goes in:
// “From the blog, two cleaners.”
func (r *reader) leaveOutOpening() {
	first := len(r.out)
	for lo, h := range r.heads {
		if !h.title {
			first = min(first, lo)
		}
	}
	if first == len(r.out) || len(r.heads) < 2 {
		return
	}
	r.eachSentence(func(lo, hi int) {
		if hi > first || r.hasName(lo, hi) && !r.countsSorts(lo, hi) {
			return
		}
		for k := lo; k < hi; k++ {
			if m := &r.out[k]; m.kind == anAmount && !m.article && m.amount.Amount.Unit() != quantity.Bare && m.amount.Amount.Unit() != quantity.Spritz && !(m.amount.Amount.Unit() == quantity.Bar && articles[r.toks[m.from].word]) { // “two sprays”, “a bar and a liquid”
				return
			}
		}
		r.keepHead(pageHead{lo: lo, name: lo, end: hi, after: hi, size: -1, title: true})
	})
}

// countsSorts reports whether a sentence says how many sorts of something come: “Three kinds of soap this week.”
func (r *reader) countsSorts(lo, hi int) bool {
	for i := r.out[lo].from + 1; i < r.out[hi-1].to-1; i++ {
		if sortsOf[r.toks[i].word] && r.toks[i+1].word == "of" && (quantity.IsNumber(r.toks[i-1].word) || r.toks[i-1].kind == isNumber || r.toks[i-1].word == "different") {
			return true
		}
	}
	return false
}

// sortsOf are words for sorts.
var sortsOf = wordSet("sortsOf")

// mayHead reports whether words may be the name of a good: they are no part of one, no field, and
// no step.
func (r *reader) mayHead(lo, end int) bool {
	_, _, hasKind := r.kindIn(lo, end)
	optional := r.optional
	talk := r.onlyTalk(lo, end)
	r.optional = optional
	if talk || r.out[lo].is(step) && !r.out[lo].is(kind) || r.phaseNamed(lo, end) != "" || r.isHeading(lo, end) {
		return false
	}
	if m := r.read(r.said(r.out[lo].from, r.out[end-1].to)); m != nil && !hasKind && !r.weak && r.out[end-1].to == r.out[lo].from+1 && len(r.lib.Meant(m.Name)) == 0 && !r.colours(lo) {
		return false
	}
	to := r.out[end-1].to
	if to-r.out[lo].from > 2 && r.toks[to-1].word == "it" { // “powder with it”
		to -= 2
	}
	for i := r.out[lo].from; i < to; i++ {
		if w := r.toks[i].word; partsOfGood[w] && !hasKind || r.toks[i].kind == isNumber || notHeads[w] {
			return false
		}
	}
	return true
}

// colours reports whether a mark says which wash a good is for: “Colours: …”.
func (r *reader) colours(k int) bool {
	return washColours[r.toks[r.out[k].from].word]
}

// notHeads stand in no name of a good.
var notHeads = wordSet("notHeads")

// headAt reads a head of the page at mark lo; lo where none stands there.
func (r *reader) headAt(lo int) int {
	h, ok := r.heads[lo]
	if !ok {
		return lo
	}
	if h.title {
		r.becomes(r.out[lo].from, r.out[h.after-1].to, AsSmallTalk, nil)
		return h.after
	}
	r.forgetStrange()
	r.named(h.name, h.end)
	if lo < h.name {
		r.becomesWhereUnread(r.out[lo].from, r.out[h.name-1].to, AsSmallTalk, nil)
	}
	r.good.Name = strings.TrimSuffix(strings.TrimSuffix(r.good.Name, " with it"), " from it")
	if last := r.toks[r.out[h.end-1].to-1].word; !strings.HasSuffix(last, "'s") {
		r.good.Name = strings.TrimSuffix(strings.TrimSuffix(r.good.Name, "'s"), "’s")
	}
	r.good.headed = true
	if h.end < h.after {
		r.becomesWhereUnread(r.out[h.end].from, r.out[h.after-1].to, AsSmallTalk, nil)
	}
	if h.size >= 0 {
		if said := r.amountSaid(&r.out[h.size]); isWhole(said.Amount) || holds(said.Amount) || said.Amount.Unit() == quantity.Bare {
			r.yields(said)
		}
	}
	return h.after
}

// washColours are washes by what is in them.
var washColours = wordSet("washColours")
