package listener

// The heads of a page that are said in passing: several times a name, a word like “is” or “has” behind
// it, and a list of what goes in. One alone is no head: it takes two to show the shape.

import (
	"strings"

	"keencrock/core/quantity"
)

// clauseShapes are the ways in which goods are named one after the other, the surer ones first: those that
// what is said has the signs of.
func (r *reader) clauseShapes() (shapes []func(k int) (pageHead, bool)) {
	brackets, makes, numbers, links, sizes, days := 0, 0, 0, 0, 0, 0
	for k := range r.out {
		m := &r.out[k]
		switch word := r.toks[m.from].word; {
		case m.kind == anOpening:
			brackets++
		case word == "to" || word == "for":
			makes++
		case word == "number" || word == "no" || word == "recipe":
			numbers++
		case weekdays[word]:
			days++
		case m.kind == anAmount && !m.article && (isWhole(m.amount.Amount) || m.amount.Amount.Unit() == quantity.Tab):
			sizes++
		}
		if last := r.toks[m.to-1].word; hasIt[last] || last == "it's" || last == "that's" || last == "with" || last == "of" || strings.HasSuffix(last, "'s") {
			links++
		}
	}
	for _, shape := range []struct {
		signs int
		at    func(k int) (pageHead, bool)
	}{{brackets, r.bracketedList}, {brackets, r.yieldInBrackets}, {numbers, r.numberIs}, {days, r.onDayList}, {sizes, r.sizedList}, {makes, r.toMakeList}, {links, r.hasList}, {2, r.wordAndList}} {
		if shape.signs > 1 {
			shapes = append(shapes, shape.at)
		}
	}
	return shapes
}

// shapedHeads finds goods of one shape, where no surer heads were found, and parts the sentences before
// each.
func (r *reader) shapedHeads() {
	for _, shape := range r.clauseShapes() {
		if len(r.heads) > 0 {
			return
		}
		var found []pageHead
		for k := 0; k < len(r.out); k++ {
			if !r.mayBegin(k) {
				continue
			}
			if h, ok := shape(k); ok {
				found = append(found, h)
				k = h.after
			}
		}
		for i := range found {
			if i+1 < len(found) && !r.listsOne(found[i].after, found[i+1].lo) {
				found = nil
				break
			}
		}
		if len(found) < 2 || !r.listsOne(found[len(found)-1].after, r.clauseEnd(found[len(found)-1].after)) {
			continue
		}
		for _, h := range found {
			r.partBefore(h)
		}
	}
}

// mayBegin reports whether a clause may begin at a mark: after a stop, a comma, a colon or “and”.
func (r *reader) mayBegin(k int) bool {
	if k == 0 {
		return true
	}
	switch before := &r.out[k-1]; before.kind {
	case aStop, aComma, aColon, aBullet:
		return true
	default:
		return before.is(joiner) || areSo[r.toks[before.to-1].word] // “my three staples are powder (…), spray (…)”
	}
}

// partBefore keeps a head, and ends the sentence before it.
func (r *reader) partBefore(h pageHead) {
	for h.lo > 0 && r.out[h.lo-1].is(joiner) {
		h.lo--
	}
	if before := h.lo - 1; before >= 0 && r.out[before].kind != aStop && r.out[before].kind != aBullet {
		begins := true
		start := before
		for ; start >= 0 && r.out[start].kind != aStop; start-- {
			m := &r.out[start]
			begins = begins && m.kind != aName && (m.kind != anAmount || m.article || m.amount.Amount.Unit() == quantity.Bare && !r.nameNextAt(start))
		}
		if begins { // “On the go this week: 4 kg of powder (…)”
			h.lo = start + 1
		} else if r.out[before].kind == aComma || r.out[before].kind == aColon {
			r.out[before].kind = aStop
		} else if h.lo < h.name && r.out[h.lo].is(joiner) {
			r.out[h.lo].kind = aStop
			h.lo++
		} else {
			return
		}
	}
	if h.bracket > 0 {
		r.out[h.after-1].kind, r.out[h.bracket].kind = aBullet, aStop
	}
	if last := &r.toks[r.out[h.end-1].to-1]; h.short {
		last.word = strings.TrimSuffix(last.word, "'s")
	}
	r.keepHead(h)
}

// listsOne reports whether so much of something is listed between two marks, or shares of two.
func (r *reader) listsOne(lo, hi int) bool {
	amounts, names := r.amountsAndNames(lo, hi)
	return amounts > 0 && names > 0
}

// headWords is the stretch of marks from k that names a good, articles and small talk left out before
// it; ok is false where none begins there. It ends before what is not part of a name.
func (r *reader) headWords(k int) (name, end int, ok bool) {
	name = k
	for name < min(len(r.out), k+5) && r.leadsIn(name) {
		name++
	}
	end = name
	for end < min(len(r.out), name+4) && r.inHead(name, end) {
		end++
	}
	if end == name || end >= len(r.out) || r.out[end-1].to-r.out[name].from > longestPageHead || !r.mayHead(name, end) {
		return name, end, false
	}
	return name, end, true
}

// leadsIn reports whether a mark stands before the name of a good and is no part of it.
func (r *reader) leadsIn(k int) bool {
	m := &r.out[k]
	word := r.toks[m.to-1].word
	return m.is(joiner) || articles[word] || openings[r.toks[m.from].word] && m.to == m.from+1 || m.is(small) && !m.is(kind|thing|pieces|step|using|place)
}

// inHead reports whether a mark may stand in the name of a good that begins at another.
func (r *reader) inHead(name, k int) bool {
	m := &r.out[k]
	word := r.lower(m)
	switch {
	case listIs[word] || hasIt[word]:
		return false
	case m.kind == aWord:
		return r.toks[m.from].kind == isWord && word != "x"
	case m.kind == anAmount: // “the kitchen one”, “a spray”
		return k > name && word == "one" || m.amount.Amount.Unit() == quantity.Spritz && r.lexIs(m.to-1, kind) || k > name && isVessel(m.amount.Amount.Unit()) && m.to == m.from+1
	case m.kind == aName:
		return true
	}
	return m.kind == aPhrase && (m.is(kind|thing|using|pieces|step|place|machine) || goodWords[r.toks[m.to-1].word])
}

// lower is what a mark says, in lower case.
func (r *reader) lower(m *mark) string {
	if m.to == m.from+1 {
		return r.toks[m.from].word
	}
	return strings.ToLower(r.said(m.from, m.to))
}

// goodly reports whether a stretch of marks is of something that is made, or of what it is kept in.
func (r *reader) goodly(name, end int) bool {
	_, _, hasKind := r.kindIn(name, end)
	last := &r.out[end-1]
	word := strings.TrimSuffix(r.toks[last.to-1].word, "'s")
	return hasKind || goodWords[word] || last.is(pieces) || keepsGood[word] && end > name+1 || ownersGood[word] && end == name+1
}

// keepsGood are what goods are called by that have no name: “the blue bottle”, “the kitchen one”.
var keepsGood = wordSet("keepsGood")

// ownersGood stand for a good that is told apart by who makes it: “mine is …”.
var ownersGood = wordSet("ownersGood")

// hasIt are words between a good and what goes into it, and mere words that may stand behind those.
var (
	hasIt = wordSet("hasIt")
	mere  = wordSet("mere")
)

// hasList reads “the kitchen one has 400 ml water, …”, “the blue bottle, that's …”.
func (r *reader) hasList(k int) (h pageHead, ok bool) {
	name, end, ok := r.headWords(k)
	if !ok || !r.goodly(name, end) {
		return h, false
	}
	after := r.pastUse(end)
	if last := r.out[end-1].to - 1; strings.HasSuffix(r.toks[last].word, "'s") { // “my window cleaner's just vinegar and water”
		for after < min(len(r.out), end+2) && mere[r.lower(&r.out[after])] {
			after++
		}
		if after+1 >= len(r.out) || r.out[after].kind != anAmount && r.out[after].kind != aName || !r.listsOne(after, r.clauseEnd(after)) {
			return h, false
		}
		return pageHead{lo: k, name: name, end: end, after: after, size: -1, short: true}, true
	}
	if r.out[after].kind == aComma {
		after++
	}
	from := after
	for after < min(len(r.out), from+3) {
		word := r.lower(&r.out[after])
		if !hasIt[word] && !listIs[word] && !(after > from && mere[word]) && !((word == "with" || word == "of") && after == from && name > k && (k == 0 || r.out[k-1].kind == aStop)) { // “A scouring powder with 400 g …”
			break
		}
		after++
	}
	if after == from || after+1 >= len(r.out) || r.out[after].kind != anAmount && r.out[after].kind != aName && r.out[after].kind != aRatio || r.out[after].kind == anAmount && !r.nameNext(&atom{hi: len(r.out)}, after) {
		return h, false
	}
	return pageHead{lo: k, name: name, end: end, after: after, size: -1}, true
}

// pastUse is the mark after “is for whites and” behind the name of a good; the same mark where it says no
// such thing.
func (r *reader) pastUse(k int) int {
	if k+3 >= len(r.out) || r.toks[r.out[k].from].word != "is" {
		return k
	}
	for at := k; at < min(len(r.out), k+6); at++ {
		switch m := &r.out[at]; {
		case m.kind == anAmount, m.kind == aStop, m.kind == aColon:
			return k
		case m.is(joiner) && at > k+1 && at+1 < len(r.out) && hasIt[r.lower(&r.out[at+1])]:
			for i := r.out[k].from; i < m.from; i++ {
				if r.toks[i].word == "for" {
					return at + 1
				}
			}
			return k
		}
	}
	return k
}

// numberIs reads “number two is a dusting spray, 300 ml water, …”.
func (r *reader) numberIs(k int) (h pageHead, ok bool) {
	at := r.out[k].from
	if w := r.toks[at].word; w != "number" && w != "no" && w != "recipe" || at+2 >= len(r.toks) || r.toks[at+1].kind != isNumber && !quantity.IsNumber(r.toks[at+1].word) {
		return h, false
	}
	for at += 2; at < len(r.toks) && (hasIt[r.toks[at].word] || r.toks[at].word == "," || articles[r.toks[at].word]); at++ {
	}
	from := k
	for from < len(r.out) && r.out[from].to <= at {
		from++
	}
	if from >= len(r.out) || from > k+6 {
		return h, false
	}
	name, end, ok := r.headWords(from)
	if !ok || r.out[end].kind != aComma && r.out[end].kind != aColon || !r.goodly(name, end) || !r.listsTwo(end+1, r.clauseEnd(end+1)) {
		return h, false
	}
	return pageHead{lo: k, name: name, end: end, after: end + 1, size: -1}, true
}

// toMakeList reads “To make the rinse aid, mix 250 ml vinegar with …”.
func (r *reader) toMakeList(k int) (h pageHead, ok bool) {
	at := r.out[k].from
	if k > 0 && r.out[k-1].kind != aStop || at+2 >= len(r.toks) || r.toks[at].word != "to" && r.toks[at].word != "for" || r.toks[at+1].word != "make" && r.toks[at+1].word != "making" {
		return h, false
	}
	from := k
	for from < len(r.out) && r.out[from].from < at+2 {
		from++
	}
	if from >= len(r.out) {
		return h, false
	}
	name, end, ok := r.headWords(from)
	if !ok || r.out[end].kind != aComma && r.out[end].kind != aColon || !r.listsTwo(r.afterVerb(end+1), r.clauseEnd(end+1)) {
		return h, false
	}
	return pageHead{lo: k, name: name, end: end, after: end + 1, size: -1}, true
}

// afterVerb is the mark after what says that things are put together: “mix”, “you take”.
func (r *reader) afterVerb(k int) int {
	for from := k; k < min(len(r.out), from+3) && (r.out[k].is(step|small) || doings[r.toks[r.out[k].from].word]); k++ {
	}
	return k
}

// bracketedList reads “20 toilet bombs (600 g bicarb, 300 g citric acid)”: how many there are, a name,
// and its list in brackets.
func (r *reader) bracketedList(k int) (h pageHead, ok bool) {
	from, size := k, -1
	for from < min(len(r.out), k+5) && r.leadsIn(from) {
		from++
	}
	if from < len(r.out) && r.out[from].kind == anAmount && !r.out[from].article && r.out[from].amount.Amount.Unit() != quantity.Spritz {
		size = from
		from++
	}
	if from+1 < len(r.out) && r.out[from].kind == aWord && strings.HasPrefix(r.toks[r.out[from].from].word, "batch") && r.toks[r.out[from].from+1].word == "of" { // “a batch of rinse aid”
		from++
		if r.out[from].from < len(r.toks) && r.toks[r.out[from].to-1].word == "of" {
			from++
		}
	}
	if from >= len(r.out) {
		return h, false
	}
	name, end, ok := r.headWords(from)
	open := end
	if ok && size < 0 && open+2 < len(r.out) && (r.toks[r.out[open].from].word == "x" || r.toks[r.out[open].from].word == "×") && r.out[open+1].kind == anAmount { // “powder x 3 kg (…)”
		size = open + 1
		open += 2
	}
	if !ok || r.out[open].kind != anOpening || !r.goodly(name, end) && size < 0 {
		return h, false
	}
	closing := r.closing(open, len(r.out))
	if closing >= len(r.out) || r.out[closing].kind != aClosing || !r.listsTwo(open+1, closing) {
		return h, false
	}
	return pageHead{lo: k, name: name, end: end, after: open + 1, size: size, bracket: closing}, true
}

// yieldInBrackets reads “Toilet bombs (makes 20) 500 g bicarb, …”.
func (r *reader) yieldInBrackets(k int) (h pageHead, ok bool) {
	name, end, ok := r.headWords(k)
	if !ok || k > 0 && r.out[k-1].kind != aStop || r.out[end].kind != anOpening {
		return h, false
	}
	closing := r.closing(end, len(r.out))
	if closing >= len(r.out) || r.out[closing].kind != aClosing || closing-end > 4 || r.hasName(end, closing) || !r.listsTwo(closing+1, r.clauseEnd(closing+1)) {
		return h, false
	}
	size := -1
	for at := end + 1; at < closing; at++ {
		if r.out[at].kind == anAmount && !r.out[at].article {
			size = at
		}
	}
	return pageHead{lo: k, name: name, end: end, after: closing + 1, size: size}, size >= 0
}

// wordAndList reads “POWDER 2 kg soda 1 kg bicarb. RINSE 1 l vinegar …”: a word for a good at the head
// of a sentence, in capitals where it may mean something else, and its list right behind it.
func (r *reader) wordAndList(k int) (h pageHead, ok bool) {
	if k > 0 && r.out[k-1].kind != aStop {
		return h, false
	}
	name, end, ok := r.headWords(k)
	if !ok || r.out[end].kind != anAmount || r.out[end].article || !r.listsTwo(end, r.clauseEnd(end)) {
		return h, false
	}
	said := r.asSaid(r.out[name].from, r.out[end-1].to)
	loud := len(said) > 2 && said == strings.ToUpper(said) && said != strings.ToLower(said)
	return pageHead{lo: k, name: name, end: end, after: end, size: -1}, loud || r.goodly(name, end)
}

// onDayList reads “on Tuesday a vinegar infusion, 300 g peel in …”: what is made on a day.
func (r *reader) onDayList(k int) (h pageHead, ok bool) {
	from := k
	for from < min(len(r.out), k+3) && !weekdays[r.toks[r.out[from].from].word] {
		if w := r.toks[r.out[from].to-1].word; w != "on" && w != "and" && w != "then" {
			return h, false
		}
		from++
	}
	if from >= len(r.out) || !weekdays[r.toks[r.out[from].from].word] {
		return h, false
	}
	for from++; from < min(len(r.out), k+8) && (dayTalk[r.toks[r.out[from].to-1].word] || r.out[from].kind == aColon || r.out[from].kind == aDash); from++ {
	}
	name, end, ok := r.headWords(from)
	if !ok {
		return h, false
	}
	if after := r.listAt(end); after > 0 {
		return pageHead{lo: k, name: name, end: end, after: after, size: -1}, true
	}
	return h, false
}

// sizedList reads “a kilo of scrub, so 700 g bicarb, …”, “twenty tabs from 300 g soda …”: how much of a good, and what goes
// in.
func (r *reader) sizedList(k int) (h pageHead, ok bool) {
	size := k
	for size < min(len(r.out), k+3) && r.out[size].kind != anAmount && r.leadsIn(size) {
		size++
	}
	if size+1 >= len(r.out) {
		return h, false
	}
	m := &r.out[size]
	if m.kind != anAmount || m.article || m.amount.Amount.Open() != quantity.NotOpen {
		return h, false
	}
	name, end := size, size+1 // “twenty tabs”
	if m.amount.Amount.Unit() != quantity.Tab {
		if !isWhole(m.amount.Amount) {
			return h, false
		}
		if name, end, ok = r.headWords(size + 1); !ok || !r.goodly(name, end) || name != size+1 {
			return h, false
		}
	}
	if after := r.listAt(end); after > 0 {
		return pageHead{lo: k, name: name, end: end, after: after, size: size}, true
	}
	return h, false
}

// listAt is the mark at which a list begins behind the name of a good that ends at a mark, with a comma, a colon or a word
// for that between; 0 where none does.
func (r *reader) listAt(end int) int {
	at := end
	if at < len(r.out) && (r.out[at].kind == aComma || r.out[at].kind == aColon) {
		at++
	}
	for to := at; to < min(len(r.out), at+4); to++ {
		if w := r.lower(&r.out[to]); to == at && listLeads[w] || listIs[strings.ToLower(r.said(r.out[at].from, r.out[to].to))] {
			at = to + 1
			break
		}
	}
	led := at < len(r.out) && listLeads[r.toks[r.out[at].from].word] // “from 300 g” is one mark
	if at == end && !led || at+1 >= len(r.out) || r.out[at].kind != anAmount || r.out[at].article || !r.nameNextAt(at) {
		return 0
	}
	return at
}

// listLeads stand before a list of what goes in, weekdays are the days, and dayTalk is said of what is made on one.
var listLeads, weekdays, dayTalk = wordSet("listLeads"), wordSet("weekdays"), wordSet("dayTalk")
