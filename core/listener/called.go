package listener

// A good that is called by its name in what is said of it: “to make black soap we …”, “my floor soap is one
// part …”, “for the surface spray it's …”.

import "strings"

// toMake reads “to make black soap we burn …” at the head of all: the name of the good. It
// is the mark that the rest begins with.
func (r *reader) toMake(lo, hi int) int {
	if !r.good.empty() || r.good.Name != "" || len(r.waiting) > 0 || r.toks[r.now.from].word != "to" || r.now.from+1 >= len(r.toks) || r.toks[r.now.from+1].word != "make" {
		return lo
	}
	for k := lo; k < hi && r.out[k].to-r.now.from < longestHead+4; k++ {
		m := &r.out[k]
		if m.kind == anAmount && !m.article || m.kind == aColon {
			return lo
		}
		w := r.toks[m.from].word
		if over := m.kind == aComma || w == "we" || w == "i" || w == "you" || strings.HasPrefix(w, "we'") || strings.HasPrefix(w, "i'") || strings.HasPrefix(w, "you'"); !over {
			continue
		}
		from := r.now.from + 2
		for from < m.from && articles[r.toks[from].word] {
			from++
		}
		if from >= m.from || m.from-from > longestHead {
			return lo
		}
		r.good.Name = sentenceCase(r.said(from, m.from))
		if said, _, ok := r.kindIn(lo, k); ok {
			r.good.Kind = said
		}
		r.becomes(r.now.from, m.from, AsName, nil)
		return k
	}
	return lo
}

// forSoMuch reads “for two litres of laundry liquid I use …” at the head of all: the name of the good, and how much
// comes out. It is the mark that the rest begins with.
func (r *reader) forSoMuch(lo, hi int) int {
	k := lo
	for k < hi && r.out[k].is(small) && r.out[k].to == r.out[k].from+1 && openings[r.toks[r.out[k].from].word] {
		k++
	}
	if !r.good.empty() || r.good.Name != "" || len(r.waiting) > 0 || k+2 >= hi || r.toks[r.out[k].from].word != "for" {
		return lo
	}
	m := &r.out[k+1]
	if m.is(per) { // “for a kilo of laundry powder” is of no kilo of laundry
		whole := r.amountAt(m.from, mark{kind: aWord, from: m.from, to: m.from + 1})
		m = &whole
	}
	if m.kind != anAmount || m.article || !isWhole(m.amount.Amount) || r.toks[m.to-1].word != "of" {
		return lo
	}
	to, end := m.to, r.out[hi-1].to
	for to < min(end, m.to+longestHead) && r.toks[to].kind == isWord && !callsFor[r.toks[to].word] {
		to++
	}
	if to == m.to || to >= end || !callsFor[r.toks[to].word] && r.toks[to].word != ":" && r.toks[to].word != "," {
		return lo
	}
	next := k + 1
	for next < hi && r.out[next].from < to {
		next++
	}
	said, _, isKind := r.kindIn(k+1, next)
	if !isKind && !goodWords[r.toks[to-1].word] {
		return lo
	}
	r.good.Name = sentenceCase(r.said(m.to, to))
	if isKind {
		r.good.Kind = said
	}
	r.becomes(r.out[lo].from, m.from, AsSmallTalk, nil)
	r.yields(r.amountSaid(m))
	r.becomes(m.from, m.to, AsYield, nil)
	r.becomes(m.to, to, AsName, nil)
	for next < hi && r.out[next].kind != anAmount && r.out[next].kind != aName && r.out[next].kind != aRatio && r.out[next].from < to+3 && (callsFor[r.toks[r.out[next].from].word] || r.out[next].kind == aColon || r.out[next].kind == aComma) { // “you need”, “it's”
		r.becomes(r.out[next].from, r.out[next].to, AsSmallTalk, nil)
		next++
	}
	return next
}

// callsFor are the words that stand between how much is made and what it is made of.
var callsFor = wordSet("callsFor")

// isCalled reports whether the words up to “is” name a good, and how much of something
// follows: “my floor soap is one part …”.
func (r *reader) isCalled(lo, k, hi int) bool {
	m := &r.out[k]
	if k == lo || k > lo+4 || k+1 >= hi {
		return false
	}
	if w := r.toks[m.to-1].word; isTaken[w] && m.to == m.from+1 && r.out[k+1].kind == anAmount && !r.out[k+1].article && r.good.empty() && lo == r.firstMark() && r.toks[m.from-1].kind == isWord && goodWords[r.toks[m.from-1].word] && m.from-r.out[lo].from > 1 && !r.hasAmount(lo, k) && !r.out[lo].is(step|using) && !doings[r.toks[r.out[lo].from].word] { // “beeswax wraps need 100 g of …”, “clay scrub of 4 tbsp …”
		return true
	}
	is := areSo[r.toks[m.to-1].word]
	if is && r.isOwned(lo, k) && (r.out[k+1].kind == anAmount && r.nameNextAt(k+1) || r.out[k+1].kind == aRatio) { // “my bleach is a quarter cup of …”, “grandma's polish was …”
		return true
	}
	if w := r.toks[m.to-1].word; w != "is" && w != "are" {
		return false
	}
	if last := r.toks[m.from-1].word; r.good.empty() && k+2 < hi && m.to == m.from+1 && r.out[k+1].is(small) && r.out[k+2].kind == aName && m.from-r.out[lo].from > 1 && goodWords[last] && !r.hasAmount(lo, k) { // “orange cleaner is just orange peels in vinegar”
		return true
	}
	if next := &r.out[k+1]; next.kind != anAmount && !(next.kind == aName && k+2 < hi && r.out[k+2].kind == anAmount) || next.article || !r.isDeterminer(lo) && !strings.HasSuffix(r.toks[r.out[lo].from].word, "'s") && !(r.good.empty() && r.beginsGood(lo)) || m.to != m.from+1 {
		return false
	}
	last := r.toks[m.from-1].word
	_, _, kindSaid := r.kindIn(lo, k)
	if !r.isDeterminer(lo) && m.from-r.out[lo].from >= 2 {
		return true
	}
	return (kindSaid || goodWords[last] || last == "soap" || last == "cleaner") && m.from-r.out[lo].from >= 3
}

// isTaken stand between a good and what goes into it.
var isTaken = wordSet("isTaken")

// firstMark is the first mark of all that says something.
func (r *reader) firstMark() int {
	k := 0
	for k < len(r.out) && (r.out[k].kind == aStop || r.out[k].is(small) && openings[r.toks[r.out[k].from].word] && r.out[k].to == r.out[k].from+1) {
		k++
	}
	return k
}

// isOwned reports whether somebody's good is named up to a mark: “my bleach”, “grandma's floor soap”, “my mum's drain
// stuff”.
func (r *reader) isOwned(lo, k int) bool {
	own, last := r.toks[r.out[lo].from].word, r.toks[r.out[k].from-1].word
	if own != "my" && own != "our" && !strings.HasSuffix(own, "'s") || own == "it's" || own == "that's" || own == "there's" || own == "here's" {
		return false
	}
	return goodWords[last] || r.out[k].from-r.out[lo].from > 2 && (last == "soap" || last == "stuff")
}

// isCalledShort reads “my laundry powder's a bag of …”: the name of the good, up to mark k.
func (r *reader) isCalledShort(lo, k, hi int) bool {
	m := &r.out[k]
	w := r.toks[m.to-1].word
	if !r.good.empty() || !strings.HasSuffix(w, "'s") || k > lo+4 || k+1 >= hi || r.out[k+1].kind != anAmount || !r.nameNextAt(k+1) {
		return false
	}
	from := r.out[lo].from
	for from < m.to-1 && (openings[r.toks[from].word] || articles[r.toks[from].word]) {
		from++
	}
	if w == "it's" || w == "that's" { // “for the surface spray it's …”
		return r.isForCalled(lo, from, k)
	}
	r.toks[m.to-1].word = strings.TrimSuffix(w, "'s")
	said, _, isKind := r.kindIn(lo, k+1)
	if from == r.out[lo].from || !isKind && !goodWords[strings.TrimSuffix(w, "'s")] {
		return false
	}
	r.good.Name = sentenceCase(strings.TrimSuffix(strings.TrimSuffix(r.asSaid(from, m.to), "'s"), "’s"))
	if isKind {
		r.good.Kind = said
	}
	r.becomes(r.out[lo].from, m.to, AsName, nil)
	return true
}

// isForCalled reads “for the surface spray” for the name of the good, between a token and mark k.
func (r *reader) isForCalled(lo, from, k int) bool {
	to := r.out[k].from
	for from < to && r.toks[from].word != "for" {
		if m, n := r.lex.at(r.toks, from); !m.is(small|joiner) || n == 0 {
			return false
		}
		from++
	}
	for from++; from < to && (articles[r.toks[from].word] || r.toks[from].word == "my"); from++ {
	}
	if to > from && r.toks[to-1].word == "," {
		to--
	}
	said, _, isKind := r.kindIn(lo, k)
	if from >= to || !isKind && !goodWords[r.toks[to-1].word] {
		return false
	}
	r.good.Name = sentenceCase(r.asSaid(from, to))
	if isKind {
		r.good.Kind = said
	}
	r.becomes(from, to, AsName, nil)
	r.becomesWhereUnread(r.out[lo].from, r.out[k].to, AsSmallTalk, nil)
	return true
}

// beginsGood reports whether a sentence begins with a word for a good and what it is for:
// “powder for delicates is 500 g of …”.
func (r *reader) beginsGood(lo int) bool {
	i := r.out[lo].from
	for at := i + 1; at < i+4 && at+1 < len(r.toks); at++ { // “mould spray is two teaspoons of …”
		if w := r.toks[at+1].word; (w == "is" || w == "are") && goodWords[r.toks[at].word] && r.read(r.said(i, at+1)) == nil {
			return true
		}
	}
	return i+2 < len(r.toks) && (goodWords[r.toks[i].word] || r.lexIs(i, kind)) && r.toks[i+1].word == "for"
}

// isMadeOf reports whether a head is a soap and what follows holds the lye that one is
// made with.
func (r *reader) isMadeOf(lo, colon, hi int) bool {
	name := r.said(r.out[lo].from, r.out[colon-1].to)
	if !strings.Contains(strings.ToLower(name), "soap") || !r.good.empty() {
		return false
	}
	for k := colon + 1; k < hi; k++ {
		if r.out[k].kind != aName {
			continue
		}
		if m := r.read(r.said(r.out[k].from, r.out[k].to)); m != nil && (m.ID == "sodium-hydroxide" || m.ID == "potassium-hydroxide") {
			return true
		}
	}
	return false
}

// dashLists reports whether a dash stands between the name of a good, “Lavender linen water — 400 ml …”, and
// what goes into it: no known material is called so.
func (r *reader) dashLists(lo, k, hi int) bool {
	if k+2 >= hi || r.out[k-1].to-r.out[lo].from > 4 || r.out[k-1].to-r.out[lo].from < 2 || r.hasAmount(lo, k) || r.out[k+1].kind != anAmount || !r.nameNextAt(k+1) || !r.listsTwo(k+1, hi) {
		return false
	}
	text := r.said(r.out[lo].from, r.out[k-1].to)
	return r.read(text) == nil && len(r.lib.Meant(text)) == 0 && !r.out[lo].is(step|using) && !doings[r.toks[r.out[lo].from].word] && r.good.empty()
}

// equalsList reports whether a sign at mark k says what a good is made of: “floor wax = beeswax
// 100 g + oil 200 ml”.
func (r *reader) equalsList(lo, k, hi int) bool {
	return k > lo && r.out[k].kind == aColon && !r.hasAmount(lo, k) && (r.namesGood(lo, k) || !r.hasName(lo, k)) && // “soda = 200 g” is a line
		r.amountsIn(k+1, hi) > 1
}

// easyTail is the mark at which a head ends that goes on to say how easy it is: “my spray's super
// simple: …”; its end for any other.
func (r *reader) easyTail(lo, end int) int {
	for k := lo; k < end; k++ {
		word := r.toks[r.out[k].to-1].word
		tail := k + 1
		for tail < end && easyWords[r.toks[r.out[tail].to-1].word] {
			tail++
		}
		first := r.toks[r.out[k].from].word
		if tail == end && k > lo && (word == "is" && tail > k+1 || first == "is" && easyWords[word]) {
			return k
		}
		if tail < end || tail == k+1 {
			continue
		}
		if strings.HasSuffix(word, "'s") && word != "it's" && word != "that's" && word != "here's" {
			r.toks[r.out[k].to-1].word = strings.TrimSuffix(word, "'s")
			return k + 1
		}
	}
	return end
}

// easyWords say of a recipe that it is easy.
var easyWords = wordSet("easyWords")
