package listener

// The heads of a page that are told and not written: goods that are counted, or named for what they
// are for, and those that follow each other in one sentence.

import (
	"regexp"
	"strings"

	"keencrock/core/quantity"
)

// ordinalHead reads “for the second one you'll need …”, “the third is only …”.
func (r *reader) ordinalHead(lo, hi int) (h pageHead, ok bool) {
	said := strings.ToLower(r.said(r.out[lo].from, r.out[hi-1].to))
	m := ordinalList.FindStringSubmatchIndex(said)
	if m == nil || r.hasKind(lo, hi, aColon) {
		return h, false
	}
	from := r.toks[r.out[lo].from].from
	name, end, after := -1, -1, lo
	for k := lo; k < hi; k++ {
		at := r.toks[r.out[k].from].from - from
		if name < 0 && r.toks[r.out[k].to-1].to-from > m[2] {
			name = k
		}
		if at < m[3] {
			end = k + 1
		}
		if at < m[1] {
			after = k + 1
		}
	}
	if name < 0 || after >= hi || end > after || r.amountsIn(after, hi) == 0 && !r.hasKind(after, hi, aRatio) || !r.hasName(after, hi) {
		return h, false
	}
	return pageHead{lo: lo, name: name, end: end, after: after, size: -1}, true
}

// ordinalList is how goods begin that are counted and not named.
var ordinalList = regexp.MustCompile(`^(?:(?:and|so|then|now|ok|okay|well)[ ,]+)*(?:for |in )?the ((?:first|second|third|fourth|fifth|last|other|final|next)(?: (?:one|recipe|mix|thing|version|formula))?)(?: you'll need| you need| put| you put| i put| i use| we use| i take| calls for| is| has| takes| needs| wants| contains| uses|,? it's|,? that's)(?: just| only| simply)? `)

// whoMakes make a good.
var whoMakes = wordSet("whoMakes")

// forHead reads “and for the bathroom I use half a cup of …” after what was listed for something
// else.
func (r *reader) forHead(lo, hi int) (h pageHead, ok bool) {
	at := lo
	for at < hi && (r.out[at].is(joiner) || openings[r.toks[r.out[at].from].word]) {
		at++
	}
	if at >= hi || r.toks[r.out[at].from].word != "for" {
		return h, false
	}
	i := r.out[at].from + 1
	for i < len(r.toks) && articles[r.toks[i].word] {
		i++
	}
	to := i
	for to < len(r.toks) && to < i+4 && r.toks[to].kind == isWord && !whoMakes[r.toks[to].word] && !(to > i && (r.toks[to].word == "take" || r.toks[to].word == "mix" || r.toks[to].word == "melt" || r.toks[to].word == "combine")) {
		to++
	}
	if to > i && to < len(r.toks) && (r.toks[to].word == "take" || r.toks[to].word == "mix" || r.toks[to].word == "melt" || r.toks[to].word == "combine") { // “for the wood balm take 200 ml of it, …”
		return r.forTaken(lo, hi, i, to)
	}
	listed := to > i && to+1 < len(r.toks) && r.toks[to].word == "," // “for glass, vinegar and water half and half”
	if to == i || to+1 >= len(r.toks) || !whoMakes[r.toks[to].word] && !listed {
		return h, false
	}
	for n := 0; n < 2 && to+2 < len(r.toks) && !listed && lightly[r.toks[to+1].word]; n++ { // “for the loo I just use …”
		to++
	}
	just := listed || justSo[r.toks[to].word]
	if !listsSo[r.toks[to+1].word] && !just {
		return h, false
	}
	if hardOrSoft[r.toks[i].word] {
		return h, false
	}
	name, end := -1, -1
	for k := at; k < hi; k++ {
		if name < 0 && r.out[k].to > i {
			name = k
		}
		if r.out[k].to <= to {
			end = k + 1
		}
	}
	after := end
	for after >= 0 && after < hi && (r.out[after].from < to+1 || !just && r.out[after].from < to+2) {
		after++
	}
	if with := r.withAfterKind(after, hi); with > 0 { // “for the kitchen I make a spray with …”
		after = with
	}
	if name < 0 || end <= name || after >= hi {
		return h, false
	}
	few := !r.listsTwo(after, hi) && !(just && r.hasKind(after, hi, aRatio))
	if few && (r.out[after].kind != anAmount || !r.hasName(after, hi)) {
		return h, false
	}
	if _, names := r.amountsAndNames(after, hi); listed && (names < 2 || r.out[after].kind != anAmount && r.out[after].kind != aName) {
		return h, false
	}
	return pageHead{lo: lo, name: name, end: end, after: after, size: -1, few: few}, true
}

// listsSo are what who makes a good does before its list.
var listsSo = wordSet("listsSo")

// justSo stand for no more than what follows: “for the loo it's …”.
var justSo = wordSet("justSo")

// lightly are words between who makes a good and how.
var lightly = wordSet("lightly")

// withAfterKind is the mark behind “a spray with”, where that stands at a mark; 0 where it does not.
func (r *reader) withAfterKind(k, hi int) int {
	if k < 0 {
		return 0
	}
	for at := k; at < min(hi, k+4); at++ {
		m := &r.out[at]
		if w := r.toks[m.to-1].word; w == "with" || w == "from" || w == "of" && at > k {
			if _, _, hasKind := r.kindIn(k, at); at > k && (hasKind || goodWords[r.toks[r.out[at-1].to-1].word]) {
				return at + 1
			}
			return 0
		}
		if m.kind == aName || m.kind == anAmount && !m.article && m.amount.Amount.Unit() != quantity.Spritz {
			return 0
		}
	}
	return 0
}

// forTaken is the head “for the wood balm”, between two tokens, with a word for what is done behind it.
func (r *reader) forTaken(lo, hi, from, to int) (h pageHead, ok bool) {
	name, end, after := -1, -1, hi
	for k := lo; k < hi; k++ {
		if name < 0 && r.out[k].to > from {
			name = k
		}
		if r.out[k].to <= to {
			end = k + 1
		}
		if r.out[k].from >= to && after == hi {
			after = k
		}
	}
	if name < 0 || end <= name || after >= hi || !r.mayHead(name, end) || !r.listsTwo(r.afterVerb(after), hi) {
		return h, false
	}
	return pageHead{lo: lo, name: name, end: end, after: after, size: -1, sure: true}, true
}

// clauseHeads finds goods that are told one after the other in a sentence, “a degreaser, which is
// 50 g …, and a descaler, which is 100 g …”, and parts it before each.
func (r *reader) clauseHeads() {
	var found []pageHead
	for k := 0; k < len(r.out); k++ {
		if h, ok := r.clauseHead(k); ok && !r.afterNumber(k) {
			found = append(found, h)
			k = h.after
		}
	}
	if len(found) < 2 {
		return
	}
	for i, h := range found {
		start := h.lo
		for start > 0 && r.out[start-1].kind != aStop {
			start--
		}
		begins := true
		for k := start; k < h.lo; k++ {
			m := &r.out[k]
			begins = begins && m.kind != aName && (m.kind != anAmount || m.article || m.amount.Amount.Unit() == quantity.Bare && !r.nameNext(&atom{hi: h.lo}, k))
		}
		switch before := h.lo - 1; {
		case begins: // “I've got a degreaser, which is …”
			h.lo = start
		case i > 0 && (r.out[before].is(joiner) || r.out[before].kind == aComma):
			r.out[before].kind = aStop
		default:
			continue
		}
		if h.bracket > 0 {
			r.out[h.after-1].kind, r.out[h.bracket].kind = aBullet, aStop
		}
		r.keepHead(h)
	}
}

// afterNumber reports whether “number two is” stands right before a mark, which is part of the head.
func (r *reader) afterNumber(k int) bool {
	i := r.out[k].from
	return i > 2 && hasIt[r.toks[i-1].word] && r.toks[i-3].word == "number"
}

// clauseHead reads “a descaler, which is 100 g …” at a mark.
func (r *reader) clauseHead(k int) (h pageHead, ok bool) {
	name := k
	for name < len(r.out) && (r.out[name].kind != anAmount || r.out[name].article && r.out[name].to == r.out[name].from+1) && articles[r.toks[r.out[name].to-1].word] {
		name++
	}
	spray := name < len(r.out) && r.out[name].kind == anAmount && (name > k || articles[r.toks[r.out[name].from].word]) && r.lexIs(r.out[name].to-1, kind) // “a spray”
	if k > 0 && r.out[k-1].kind == anAmount {
		return h, false
	}
	bare := name == k && !spray
	if bare && !(k == 0 || r.out[k-1].kind == aColon || r.out[k-1].kind == aComma || r.out[k-1].is(joiner) || makesGoods[r.toks[r.out[k-1].to-1].word] || r.out[k-1].to == r.out[k-1].from+1 && areSo[r.toks[r.out[k-1].from].word]) {
		return h, false
	}
	end := name
	if spray {
		end++
	}
	for end < len(r.out) && end < name+4 && !listIs[strings.ToLower(r.said(r.out[end].from, r.out[end].to))] && (r.out[end].kind == aWord && r.toks[r.out[end].from].kind == isWord || r.out[end].kind == aName || r.out[end].kind == aPhrase && (r.out[end].is(kind|thing|using|pieces|step|place) || goodWords[r.toks[r.out[end].to-1].word])) {
		end++
	}
	if end == name || end >= len(r.out) {
		return h, false
	}
	at := end
	_, _, hasKind := r.kindIn(name, end)
	goodly := hasKind || goodWords[r.toks[r.out[end-1].to-1].word] || r.out[end-1].is(pieces)
	first := k > 0 && (r.out[k-1].kind == aStop || r.out[k-1].kind == aColon) && r.out[at].kind == aComma // “…; the window stuff, 500 ml alcohol …”
	if !goodly && !first && (r.out[at].kind != anOpening || r.out[end-1].to-r.out[name].from < 2) {
		return h, false
	}
	if closing := r.closing(at, len(r.out)); r.out[at].kind == anOpening && closing < len(r.out) && closing-at > 3 && r.listsTwo(at+1, closing) { // “a kitchen spray (alcohol 200 ml, …)”
		return pageHead{lo: k, name: name, end: end, after: at + 1, size: -1, bracket: closing}, true
	}
	if r.out[at].kind == aComma {
		at++
	}
	if at >= len(r.out) {
		return h, false
	}
	after := at
	for after < len(r.out) && after < at+4 && !listIs[strings.ToLower(r.said(r.out[at].from, r.out[after].to))] {
		after++
	}
	if r.out[at-1].kind == aComma && !bare && r.out[at].kind == anAmount && !r.out[at].article && r.listsTwo(at, r.clauseEnd(at)) { // “the window stuff, 500 ml alcohol, 500 ml water”
		return pageHead{lo: k, name: name, end: end, after: at, size: -1}, true
	}
	if bare && !(after < at+4 && after < len(r.out) && outOf[strings.ToLower(r.said(r.out[at].from, r.out[after].to))]) {
		return h, false
	}
	if after+1 >= len(r.out) || after == at+4 || r.out[after+1].kind != anAmount || r.out[after+1].article && !r.nameNext(&atom{hi: len(r.out)}, after+1) {
		return h, false
	}
	return pageHead{lo: k, name: name, end: end, after: after + 1, size: -1}, true
}

// clauseEnd is the next stop from a mark.
func (r *reader) clauseEnd(k int) int {
	for k < len(r.out) && r.out[k].kind != aStop {
		k++
	}
	return k
}

// makesGoods stand before goods that are made, and outOf between those and what they are made of:
// “we made tabs out of …, and bombs out of …”.
var (
	makesGoods = wordSet("makesGoods")
	outOf      = wordSet("outOf")
)

// listIs stand between a good and what goes into it.
var listIs = wordSet("listIs")

// countedHead reads “Second: tile paste, 3/4 cup bicarb …”, “Third one is a wood oil, two parts …”, “Then the carpet
// powder, which is a cup of …” and “The first is a laundry powder. I take …”: a good that is counted, or comes next, and
// is named, up to what ends that before its list.
func (r *reader) countedHead(lo, hi int) (h pageHead, ok bool) {
	from := r.toks[r.out[lo].from].from
	said := strings.ToLower(r.said(r.out[lo].from, r.out[hi-1].to))
	m := countedName.FindStringIndex(said)
	next := m == nil
	if next {
		m = nextName.FindStringIndex(said)
	}
	if m == nil {
		m, next = dayName.FindStringIndex(said), false
	}
	if m == nil {
		return h, false
	}
	name := lo
	for name < hi && r.toks[r.out[name].from].from-from < m[1] {
		name++
	}
	size := -1
	if name+1 < hi && r.out[name].kind == anAmount && !r.out[name].article { // “I made 20 tabs with …”, “2 litres of rinse aid, …”
		size = name
		if name++; r.out[size].amount.Amount.Unit() == quantity.Tab || r.out[size].amount.Amount.Unit() == quantity.Bar {
			name = size
		}
	}
	end := name
	for end < hi && r.out[end].kind != aComma && r.out[end].kind != aColon && !(end > name && r.toks[r.out[end].to-1].word == "with") {
		if m := &r.out[end]; m.kind == anAmount && !m.article && end != size {
			return h, false
		}
		end++
	}
	if end == name || r.out[end-1].to-r.out[name].from > longestPageHead {
		return h, false
	}
	after, told := r.toldAfter(end, hi)
	if after == 0 || next && !told && r.out[end].kind != aColon || name != size && !r.toldGood(name, end) && (next || size >= 0 || !r.countedLists(name, end, after, hi)) {
		return h, false
	}
	return pageHead{lo: lo, name: name, end: end, after: after, size: size, sure: told}, true
}

// countedLists reports whether words behind “first the …” head a list of their own, even where they are a material's name.
func (r *reader) countedLists(name, end, after, hi int) bool {
	r.weak = true
	may := r.mayHead(name, end)
	r.weak = false
	return may && r.listsTwo(after, hi)
}

// toldAfter is the mark that the list of a good begins at whose name ends at a mark, and whether a word for that stands
// between, “…, which is 50 g of”; 0 where none follows.
func (r *reader) toldAfter(end, hi int) (after int, told bool) {
	if end == hi { // “The first is a laundry powder. I take …”
		if !r.listAfterStop(hi) {
			return 0, false
		}
		return hi, true
	}
	after = end + 1
	for at := end + 1; at < min(hi, end+4); at++ {
		if listIs[strings.ToLower(r.said(r.out[end+1].from, r.out[at].to))] {
			after, told = at+1, true
		}
	}
	if after >= hi {
		return 0, false
	}
	switch r.out[after].kind {
	case anAmount, aRatio:
		return after, told
	case aName:
		if r.out[end].kind == aColon || r.listsTwo(after, hi) {
			return after, told
		}
	}
	if r.variantAhead(after) {
		return after, told
	}
	return 0, false
}

// toldGood reports whether words are of a good that is made: “a wood oil” is one, which is no oil that is known.
func (r *reader) toldGood(name, end int) bool {
	last := r.toks[r.out[end-1].to-1].word
	if last == "oil" && r.out[end-1].to-r.out[name].from > 1 && r.read(r.said(r.out[name].from, r.out[end-1].to)) == nil {
		return true
	}
	_, _, hasKind := r.kindIn(name, end)
	return (hasKind || goodWords[last]) && r.mayHead(name, end)
}

// tellingHead reads “The dishwasher tabs are a bit more work. You take …”: a sentence that tells of a kind of good and
// measures nothing, before one that lists what goes in.
func (r *reader) tellingHead(lo, hi int) (h pageHead, ok bool) {
	first := lo
	for first < hi && (r.out[first].is(joiner) || openings[r.toks[r.out[first].from].word] && r.out[first].to == r.out[first].from+1) && r.toks[r.out[first].from].word != "the" {
		first++
	}
	if first >= hi || !articles[r.toks[r.out[first].from].word] && !ownWords[r.toks[r.out[first].from].word] || r.hasName(lo, hi) || !r.listAfterStop(hi) {
		return h, false
	}
	for k := lo; k < hi; k++ {
		if m := &r.out[k]; m.kind == anAmount && !m.article && m.amount.Amount.Open() == quantity.NotOpen && m.amount.Amount.Unit() != quantity.Spritz {
			return h, false
		}
	}
	name := first
	if r.out[first].to == r.out[first].from+1 { // and not “the dishwasher”, which is one
		name++
	}
	for end := name; end < min(hi, name+4); end++ {
		if m := &r.out[end]; m.to == m.from+1 && areSo[r.toks[m.from].word] {
			_, _, hasKind := r.kindIn(name, end)
			return pageHead{lo: lo, name: name, end: end, after: hi, size: -1, sure: true}, end > name && hasKind && r.mayHead(name, end)
		}
	}
	return h, false
}

// listAfterStop reports whether what is said after the stop of a sentence lists two things.
func (r *reader) listAfterStop(hi int) bool {
	next := hi + 1
	for next < len(r.out) && r.out[next].kind == aStop {
		next++
	}
	if next >= len(r.out) {
		return false
	}
	hi = r.clauseEnd(next)
	for skipped := 0; skipped < 4 && next < hi && r.out[next].kind != anAmount && r.out[next].kind != aName; skipped++ { // “You take …”
		next++
	}
	amounts, names := r.amountsAndNames(next, hi)
	return amounts > 1 && names > 1
}

// nextName is what stands before the name of a good that comes after another.
var nextName = regexp.MustCompile(`^(?:(?:and|so|ok|okay|well|right)[ ,]+)*(?:then|finally|lastly|next(?: up)?|now|after that|last(?: of all| up)?|also|first(?: of all| off| up)?|to start|to begin with|to finish)(?:,? (?:i |we |you )?(?:make|mix|mix up|do|made|did|get on with|go on to))?(?:(?:,? there's|,? there is|,? comes|,? it's|,? we have|,? i have|,? is|,)? (?:a|an|the|my|our) |, )`)

// dayName is what stands before the name of a good that was made on a day: “Wednesday: made bombs, 500 g …”.
var dayName = regexp.MustCompile(`^(?:(?:and|so|then|on|ok|okay|well|right)[ ,]+)*(?:monday|tuesday|wednesday|thursday|friday|saturday|sunday|today|yesterday|this morning|this week|last week)(?: (?:morning|afternoon|evening|night))?\s*[:,–-]?\s+(?:i |we )?(?:also )?(?:made|did|mixed|mixed up|made up|boiled up|boiled)(?: a batch of| up)? (?:(?:a|an|the|my|our|some|more) )?`)

// countedName is what stands before the name of a good that is counted.
var countedName = regexp.MustCompile(`^(?:(?:and|so|then|now|ok|okay|well)[ ,]+)*(?:the )?(?:first|second|third|fourth|fifth|next|last|final|other|number (?:one|two|three|four))(?: (?:one|thing|recipe|up|good|product|mix))?(?:(?: is| was|'s|,? it's| we have|\s?:|,)\s+(?:(?:a|an|the|my|our) )?| (?:a|an|the|my|our) )`)
