package listener

import (
	"keencrock/core/quantity"
	"slices"
	"strings"

	"keencrock/core/material"
)

// walkName reads a material.
func (r *reader) walkName(a *atom, k int) int {
	m := &r.out[k]
	if a.clause && a.alt && a.amount != nil && a.made == nil {
		r.becomes(m.from, m.to, AsRemark, r.last)
		return k + 1
	}
	if at := m.to; at+1 < len(r.toks) && a.amount != nil && r.toks[at-1].word == "cloves" && r.toks[at].word == "of" && r.toks[at+1].word == "garlic" { // no spice
		said := a.amount
		a.amount = nil
		r.lineMade(a, said, &naming{from: m.from, to: at + 2, text: "garlic", in: r.now})
		for k < a.hi && r.out[k].from < at+2 {
			k++
		}
		return k
	}
	if next := k + 1; r.toks[m.from].word == "peel" && m.to == m.from+1 && next < a.hi && a.amount == nil && r.peeled(r.toks[r.out[next].from].word) { // “4 oranges, peel them”
		r.becomes(m.from, r.out[next].to, AsStep, r.last)
		r.now.doing = true
		return next + 1
	}
	if (a.amount == nil || a.amount.Amount.Open() != quantity.NotOpen) && k > a.lo && r.isLike(k) { // “like damp sand”, “until it clumps like damp sand”
		if a.amount != nil {
			r.becomes(a.amount.from, a.amount.to, AsRemark, a.made)
			a.amount = nil
		}
		r.becomes(m.from, m.to, AsRemark, a.made)
		return k + 1
	}
	if said := a.amount; said != nil && m.from > 1 && r.toks[m.from-1].word == "the" && r.toks[m.from-2].word == "of" && r.now.doing && r.lineOf(r.read(r.said(m.from, m.to)), r.said(m.from, m.to)) != nil { // “melt the soap in 1 litre of the water”
		l := r.lineOf(r.read(r.said(m.from, m.to)), r.said(m.from, m.to))
		a.amount = nil
		r.becomes(said.from, m.to, AsStep, l)
		r.touched = append(r.touched, l)
		return k + 1
	}
	if from := r.whereWaterIs(a, m); from >= 0 { // “but if you have soft water only half”
		end := r.out[a.hi-1].to
		a.loose = -1
		r.last.remark(r.asSaid(from, end))
		for i := from; i < end; i++ {
			r.fates[r.origin[i]] = fate{AsRemark, nil, r.last}
		}
		return a.hi
	}
	if a.amount == nil && r.haveHard(m) { // “…, that's because we have hard water”
		a.loose = -1
		r.noteEnd(a, r.out[a.lo].from)
		return a.hi
	}
	if from := r.forHardness(m); from >= 0 && a.amount == nil && len(r.good.Doses) > 0 && k+1 < a.hi && r.nextCore(a, k+1) < a.hi && !r.nameNext(a, r.nextCore(a, k+1)) && r.out[r.nextCore(a, k+1)].kind == anAmount { // “…; with soft water use 30 ml”
		a.loose = -1
		r.noteEnd(a, from)
		return a.hi
	}
	if from := r.forHardness(m); from >= 0 && r.toks[from].word == "for" && a.amount == nil && r.nextCore(a, k+1) < a.hi { // “for hard water I add …”
		a.loose = -1
		r.becomes(from, m.to, AsRemark, nil)
		a.remarks = append(a.remarks, span{from, m.to})
		return k + 1
	}
	if a.amount == nil && (r.now.doing || a.clause || a.loose >= 0 && clauseWords[r.toks[r.out[a.loose].from].word]) && len(r.good.lines) > 0 && !(k+1 < len(r.out) && r.out[k+1].kind == anAmount) && r.speaksOfLine(m) { // “dissolve the soap in 2 litres of it”
		text := r.said(m.from, m.to)
		l := r.lineOf(nil, text)
		r.becomes(m.from, m.to, AsStep, l)
		r.touched = append(r.touched, l)
		return k + 1
	}
	if a.loose >= 0 && a.made != nil && a.amount == nil && r.forWhat(a.loose) { // “ten drops of lavender for scent”
		return k + 1
	}
	if a.loose >= 0 && a.made == nil && a.amount == nil && r.forWhat(a.loose) && k+1 < a.hi && r.out[k+1].kind == anAmount && r.nameNext(a, k+1) { // “for scent ten drops of lavender”
		return k + 1
	}
	if said := a.amount; said != nil && len(r.good.lines) > 0 && !r.now.doing && said.from == r.now.from && isSpooned(said.Amount) && r.isWaterFor(m, said) && r.nothingAfter(a, k) { // “One spoon in warm water, don't rinse”
		a.amount, a.loose = nil, -1
		r.now.using = true
		if r.dosed(a, said, a.hi) {
			r.becomes(said.to, m.to, AsUse, nil)
			return k + 1
		}
		a.amount = said
	}
	if said := a.amount; said != nil && len(r.good.lines) > 1 && isSpooned(said.Amount) && r.isWaterFor(m, said) && r.usesPerLoad(a, said, k) { // “Dissolve 2 tbsp in hot water per wash”
		a.amount, a.loose = nil, -1
		r.now.using, r.now.doing = true, false
		if r.dosed(a, said, a.hi) {
			r.becomes(said.to, m.to, AsUse, nil)
			return k + 1
		}
		a.amount = said
	}
	if said := a.amount; a.perWater && said != nil { // “one capful in a bucket of water”
		r.amountLeft(a)
		r.becomes(said.to, m.to, AsUse, nil)
		return k + 1
	}
	if r.doseIn == r.now && len(r.good.Doses) > 0 && a.amount == nil && r.hardness(m) { // “25 g a load for soft water, 40 g for hard”
		r.becomesWhereUnread(r.out[a.lo].from, m.to, AsUse, nil)
		r.now.noted = true
		return k + 1
	}
	n := &naming{from: m.from, to: m.to, optional: a.optional, in: r.now, joined: r.joined}
	if before := r.modifiers(a, k); before >= 0 {
		n.from = before
	} else {
		r.looseEnds(a, k)
	}
	next := k + 1
	if m.kind == anAmount { // “5 % vinegar”
		if next < a.hi && r.out[next].kind == aName {
			n.to = r.out[next].to
			next++
		}
	}
	if !a.prose && a.loose < 0 {
		a.prose = r.now.doing || r.joined && r.proseBefore
	}
	if next < a.hi && a.amount == nil && r.toks[r.out[next].from].word == "none" && r.nothingAfter(a, next) { // “vinegar none”
		r.becomes(r.out[next].from, r.out[next].to, AsNot, nil)
		n.text = r.said(n.from, n.to)
		r.noneOf(n)
		return next + 1
	}
	for next < a.hi && r.isTail(a, next, n) {
		n.to = r.out[next].to
		next++
	}
	if next < a.hi && a.amount != nil && r.compound(a, next, n) {
		next++
	}
	n.text = r.said(n.from, n.to)
	if ends := r.endShared(a, k, next); ends != "" { // “orange and lemon peel”
		n.text += " " + ends
	}
	if len(n.remarks) > 0 { // “lemon vinegar” is vinegar
		n.text = strings.TrimSpace(strings.TrimPrefix(n.text, n.remarks[0]))
	}
	if m.kind == anAmount && r.toks[m.from].kind == isWord { // “seventy percent alcohol”
		n.text = strings.TrimSpace(m.amount.Amount.String() + " " + r.said(m.to, n.to))
	}
	if l := a.made; l != nil && a.amount == nil && l.Amount.Unit() == quantity.Percent && n.from > 0 && r.toks[n.from-1].word == "in" && len(r.good.lines) == 1 && r.read(n.text) != nil && r.read(n.text).ID == "water" { // “citric acid 15 percent in water”
		if share, ok := l.Amount.Parts(); ok {
			if rest, fits := quantity.Remainder(share.Value); fits {
				r.lineMade(a, &amountSaid{Reading: quantity.Reading{Amount: rest}, written: rest.String(), from: n.from, to: n.from}, n)
				return next
			}
		}
	}
	r.joined = false
	if r.shareOf(a, n) {
		return next
	}
	if r.clearsUp(a, n) || r.clearsUpLine(a, n) {
		return next
	}
	switch {
	case a.none && r.noneLeft(a, n):
	case a.none && r.notAnyMore(a, k, n):
	case a.none:
		r.noneOf(n)
		r.noneNext = true
	case a.alt:
		a.alt = false
		r.alternative(a, n)
	case a.amount != nil:
		said := a.amount
		a.amount = nil
		r.lineMade(a, said, n)
	case r.shared.open() && a.optional && r.lineOf(r.read(n.text), n.text) != nil && r.lineOf(r.read(n.text), n.text).from >= r.now.from: // “equal parts soda and water, maybe a bit less water”
		l := r.lineOf(r.read(n.text), n.text)
		l.remark(r.asSaid(r.out[a.lo].from, n.to))
		r.becomesWhereUnread(r.out[a.lo].from, n.to, AsRemark, l)
		r.becomes(n.from, n.to, AsRemark, l)
		a.optional = false
	case r.shared.open() && !r.amountNext(a, next) && !r.hasAny(next, a.hi, factored|same) && !r.waitedFor(n.to, a.hi):
		r.lineMade(a, r.shared.take(), n)
	default:
		a.names = append(a.names, n)
	}
	return next
}

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
	if r.last != nil && r.last.from >= r.now.from {
		return false
	}
	if r.hasAny(k+1, a.hi, per) {
		return true
	}
	return said.from > 0 && said.from-1 == r.now.from && r.toks[said.from-1].word == "use"
}

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
	switch r.toks[at-1].word {
	case "hard", "soft", "harder", "softer":
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
		switch r.toks[i].word {
		case "have", "has", "got", "live", "our":
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
	switch r.toks[n.from-1].word {
	case "and", "plus", "&", "+", "with":
		return true
	}
	return false
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
