package listener

import (
	"keencrock/core/quantity"
	"slices"
	"strings"

	"keencrock/core/material"
)

// endShared is the last word of the name that “and” joins to the one at mark k, where that one
// is a name with it too and an amount stands before both: “peel”, of “orange and lemon peel”;
// empty otherwise.
func (r *reader) endShared(a *atom, k, next int) string {
	if next+1 >= len(r.out) || !r.out[next].is(joiner) || r.toks[r.out[next].from].word != "and" && r.toks[r.out[next].from].word != "&" || r.out[next+1].kind != aName {
		return ""
	}
	second := r.said(r.out[next+1].from, r.out[next+1].to)
	last := lastWord(second)
	first := r.said(r.out[k].from, r.out[k].to)
	if strings.EqualFold(last, second) || strings.HasSuffix(first, last) {
		return ""
	}
	if one, both := r.read(first+" "+last), r.read(second); one == nil || one != both || one == r.read(first) {
		return ""
	}
	return last
}

// compound takes a name right behind another, nothing between and one amount for both, for
// one thing: “sugar soap” is no sugar. What smells before a soap or a vinegar is a remark.
func (r *reader) compound(a *atom, k int, n *naming) bool {
	m := &r.out[k]
	if m.kind != aName || m.from != n.to || r.out[k-1].kind != aName || a.nameFirst || r.amountNext(a, k+1) || r.nextCore(a, k+1) < a.hi {
		return false
	}
	text := r.said(m.from, m.to)
	first, second := r.read(r.said(n.from, n.to)), r.read(text)
	if first == nil || second == nil && len(r.lib.Meant(text)) == 0 || first == second || r.lineOf(second, text) != nil {
		return false
	}
	if first.Is(material.Botanical) || first.Is(material.ScentOil) {
		n.remarks = append(n.remarks, r.said(n.from, n.to))
	}
	n.to = m.to
	return true
}

// usesPerLoad reports whether an amount is what is used: of each load, or said by “use”.
func (r *reader) usesPerLoad(a *atom, said *amountSaid, k int) bool {
	if said.from > 0 && dissolved[r.toks[said.from-1].word] && r.allDry() && !r.makesMore(k+1, a.hi) { // “dissolve 2 tbsp in warm water to soak whites”, of a powder
		return true
	}
	if r.last != nil && r.last.from >= r.now.from {
		return false
	}
	if r.hasAny(k+1, a.hi, per) {
		return true
	}
	return said.from > 0 && said.from-1 == r.now.from && r.toks[said.from-1].word == "use"
}

// dissolved are what is done with so much of a powder before it is used.
var dissolved = wordSet("dissolved")

// isWaterFor reports whether a name is of the water that an amount is put into: “in warm
// water”.
func (r *reader) isWaterFor(m *mark, said *amountSaid) bool {
	w := r.read(r.said(m.from, m.to))
	if w == nil || w.ID != "water" || said.to >= len(r.toks) {
		return false
	}
	into := r.toks[said.to].word
	return into == "in" || into == "into"
}

// hardness reports whether a name is of water, hard or soft.
func (r *reader) hardness(m *mark) bool {
	switch r.toks[m.from].word {
	case "soft", "hard", "medium", "very":
		w := r.read(r.said(m.from, m.to))
		return w != nil && w.ID == "water"
	}
	return false
}

// speaksOfLine reports whether a name that can mean several things is that of a line that is
// there: “the soap”, of grated soap.
func (r *reader) speaksOfLine(m *mark) bool {
	text := r.said(m.from, m.to)
	if r.read(text) != nil || len(r.lib.Meant(text)) == 0 {
		return false
	}
	l := r.lineOf(nil, text)
	return l != nil && !l.Amount.IsZero()
}

// whereWaterIs is the token that a clause about somebody's water begins with, behind a line and with
// no amount of anything else in it; −1 without one.
func (r *reader) whereWaterIs(a *atom, m *mark) int {
	if r.last == nil || r.last.from < r.now.from || a.amount != nil || !hardOrSoft[r.toks[m.from].word] || r.toks[m.to-1].word != "water" {
		return -1
	}
	for k := a.lo; k < a.hi; k++ {
		if o := &r.out[k]; o.from > m.from && (o.kind == aName || o.kind == anAmount && r.nameNext(a, k)) {
			return -1
		}
	}
	for i := m.from - 1; i >= max(r.out[a.lo].from, m.from-5); i-- {
		if conditions[r.toks[i].word] {
			return i
		}
	}
	return -1
}

var hardOrSoft = wordSet("hardOrSoft")

// forHardness is the token of “for hard water”, where a name is of that water; −1 otherwise.
func (r *reader) forHardness(m *mark) int {
	at := m.from
	for ; at < m.to && r.toks[at].word != "water"; at++ {
	}
	if at == m.to || at < 2 || r.toks[at-2].word != "for" && r.toks[at-2].word != "with" && r.toks[at-2].word != "in" {
		return -1
	}
	if hardOrSoft[r.toks[at-1].word] {
		return at - 2
	}
	return -1
}

// haveHard reports whether a name is of the water that a house has: “we have very hard water”.
func (r *reader) haveHard(m *mark) bool {
	at := m.to - 1
	if at == 0 || r.toks[at].word != "water" || !hardOrSoft[r.toks[at-1].word] {
		return false
	}
	for i := at - 2; i >= max(0, at-5); i-- {
		if haveWords[r.toks[i].word] {
			return true
		}
	}
	return false
}

// isLike reports whether “like” stands before a mark, perhaps with a word about its state
// between: “like damp sand”.
func (r *reader) isLike(k int) bool {
	at := r.out[k].from - 1
	return at >= 0 && (r.toks[at].word == "like" || at > 0 && r.toks[at-1].word == "like" && r.toks[at].kind == isWord)
}

// forWhat reports whether words begin to say what a line is for.
func (r *reader) forWhat(k int) bool {
	w := r.toks[r.out[k].from].word
	return w == "for" || w == "as"
}

// clearsUp takes a name for what an unclear one before it meant: “soda: washing soda”.
func (r *reader) clearsUp(a *atom, n *naming) bool {
	var before *naming
	if k := len(a.names); k > 0 {
		before = a.names[k-1]
	} else if k := len(r.waiting); k > 0 && a.amount == nil && !a.alt {
		before = r.waiting[k-1]
	}
	if before == nil || n.joined || r.addsTo(n) { // “soda and bicarb” are two
		return false
	}
	m := r.read(n.text)
	if m == nil || !slices.Contains(r.lib.Meant(before.text), m.ID) {
		return false
	}
	if r.listGoesOn(n.to) { // “soda, bicarb and salt” are three
		return false
	}
	r.becomes(before.from, before.to, AsSmallTalk, nil)
	before.from, before.to, before.text = n.from, n.to, n.text
	return true
}

// waitedFor reports whether something goes in behind a token until it is enough: “add vinegar till it's a paste”.
func (r *reader) waitedFor(from, hi int) bool {
	for i := from; i < r.out[hi-1].to; i++ {
		if r.toks[i].word == "till" || r.toks[i].word == "until" || r.toks[i].word == "til" {
			return true
		}
	}
	return false
}

// listGoesOn reports whether a comma or “and” stands at a token, and another name behind it.
func (r *reader) listGoesOn(at int) bool {
	for at < len(r.toks) && (r.toks[at].word == "," || r.toks[at].word == "and" || r.toks[at].word == "&") {
		if at++; r.startsNameAt(at) {
			return true
		}
	}
	return false
}

// addsTo reports whether “and” or its kin stand right before a name.
func (r *reader) addsTo(n *naming) bool {
	if n.from == 0 {
		return false
	}
	return addsWords[r.toks[n.from-1].word]
}

// clearsUpLine takes a name for what the unclear name of the last line meant: “a cup of
// soda, washing soda that is”, “5 ml of scent, lavender”.
func (r *reader) clearsUpLine(a *atom, n *naming) bool {
	l := a.made
	if l == nil {
		l = r.last
	}
	if l == nil || a.amount != nil || a.alt || a.none || n.joined || r.addsTo(n) || len(a.names) > 0 || l.from < r.now.from && !(r.out[a.lo].from == r.now.from && r.out[a.hi-1].to == r.now.to && n.to == r.now.to) {
		return false
	}
	for k := a.lo; k < a.hi && !l.Amount.IsZero(); k++ { // “soda 1 cup, bicarb 1 cup” are two
		if o := &r.out[k]; o.from >= n.to && o.kind == anAmount && !o.article && !r.nameNext(a, k) {
			return false
		}
	}
	m := r.read(n.text)
	switch {
	case m == nil:
		return false
	case slices.Contains(r.lib.Meant(l.name), m.ID):
	case (l.Material == "essential-oil" && l.Err == nil || l.Err != nil && slices.Contains(r.lib.Meant(l.name), "essential-oil")) && r.scentOf(n.text) != "":
		n.text = r.scentOf(n.text)
	default:
		return false
	}
	r.rename(l, n.text)
	r.becomes(n.from, n.to, AsMaterial, l)
	a.made = l
	return true
}

// scentOf is a name as that of a scent: “lemon” is lemon oil; empty where there is none.
func (r *reader) scentOf(name string) string {
	for _, try := range [...]string{name, name + " oil"} {
		if m := r.read(try); m != nil && m.Is(material.ScentOil) && m.ID != "essential-oil" {
			return try
		}
	}
	return ""
}

// clearsUpLast takes a word for what the unclear name of the last line meant: “100 g of
// soap, that's flakes”.
func (r *reader) clearsUpLast(word string) bool {
	l := r.last
	return l != nil && l.from >= r.now.from && r.clearsUpName(l, word)
}

// clearsUpName takes a word for what the unclear name of a line meant.
func (r *reader) clearsUpName(l *Line, word string) bool {
	if l.Err == nil || len(r.lib.Meant(l.name)) == 0 {
		return false
	}
	for _, name := range [...]string{l.name + " " + word, word + " " + l.name} {
		if r.read(name) != nil {
			r.rename(l, name)
			return true
		}
	}
	return false
}

// amountNext reports whether an amount of its own follows a name that ends an atom.
func (r *reader) amountNext(a *atom, k int) bool {
	if k < a.hi || a.hi+1 >= len(r.out) || r.out[a.hi].kind != aComma && r.out[a.hi].kind != aColon {
		return false
	}
	m := &r.out[a.hi+1]
	if a.hi+2 < len(r.out) && r.out[a.hi+2].is(each|total) { // of all of them
		return false
	}
	return m.is(same|factored) && !r.nameNextAt(a.hi+1) || m.kind == anAmount && !m.article && !r.nameNextAt(a.hi+1)
}

// shareOf reads “soap flakes: half the borax”: so much of what another line has.
func (r *reader) shareOf(a *atom, n *naming) bool {
	said := a.amount
	if said == nil || said.Amount.Unit() != quantity.Bare || n.from == 0 || r.toks[n.from-1].word != "the" || len(a.names) == 0 && len(r.waiting) == 0 {
		return false
	}
	p, ok := said.Amount.Pieces()
	l := r.lineOf(r.read(n.text), n.text)
	if !ok || l == nil || p.Low != p.High {
		return false
	}
	of, ok := l.Amount.Times(int64(p.Value*120+0.5), 120)
	if !ok {
		return false
	}
	r.becomes(n.from-1, n.to, AsAmount, nil)
	said.Amount, said.written = of, of.String()
	a.amount = nil
	if k := len(a.names); k > 0 {
		name := a.names[k-1]
		a.names = a.names[:k-1]
		r.keepWaiting(a)
		r.lineMade(a, said, name)
		return true
	}
	r.giveWaiting(a, said, false)
	return true
}

// isTail reports whether a word after a name belongs to it and is on no list: “salt
// shaker” is no salt that is known. A remark begins with another sort of word.
func (r *reader) isTail(a *atom, k int, n *naming) bool {
	if r.now.doing || r.now.using {
		return false
	}
	m := &r.out[k]
	if m.kind == aWord && r.toks[m.from].kind == isWord {
		word := r.toks[m.from].word
		if isState(word, nil) {
			return true
		}
		if costs[word] || verbs[word] {
			return false
		}
		if u, unit := quantity.UnitNamed(word); unit && k+1 == a.hi && (u.Kind() == quantity.Mass || u.Kind() == quantity.Volume) && !isVessel(u) { // “300 bicarb 150 citric grams”
			return false
		}
		if strings.HasSuffix(word, "ed") || strings.HasSuffix(word, "ing") { // what was done to it
			return false
		}
		run := 0
		for i := k; i < a.hi && r.out[i].kind == aWord; i++ {
			run++
		}
		return run <= mostTail
	}
	return false
}

// costs begin what something costs, or what is taken off it.
var costs = wordSet("costs")

// verbs go with what was named and are no part of its name.
var verbs = wordSet("verbs")

// mostTail is how many strange words after a name are taken for a part of it; more are
// an aside.
const mostTail = 2

// modifiers is where the strange words begin that stand right before a name and change
// what it is: “black soap” is no soap that is known; −1 without any.
func (r *reader) modifiers(a *atom, k int) int {
	if a.loose < 0 {
		return -1
	}
	from := k
	for i := k - 1; i >= a.loose && r.out[i].kind == aWord && r.toks[r.out[i].from].kind == isWord; i-- {
		from = i
	}
	if from == k || k-from > mostTail || r.now.doing && a.amount == nil {
		return -1
	}
	if a.amount == nil && from > a.loose { // told before it, with other words between
		return -1
	}
	r.looseUntil(a, from)
	a.loose = -1
	return r.out[from].from
}

// keepWaiting keeps the names that got no amount for one that follows.
func (r *reader) keepWaiting(a *atom) {
	for _, n := range a.names {
		n.prose, n.use = n.prose || a.prose, n.use || a.using
	}
	r.waiting = append(r.waiting, a.names...)
	a.names = nil
}

func lastWord(s string) string {
	s = strings.TrimSpace(s)
	return strings.ToLower(s[strings.LastIndexAny(s, " \t\n")+1:])
}

// haveWords say what there is where one lives.
var haveWords = wordSet("haveWords")

// addsWords stand before what comes to something.
var addsWords = wordSet("addsWords")
