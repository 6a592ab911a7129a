package listener

import (
	"strings"

	"keencrock/core/quantity"
)

// nameAtHead names a good that nothing else named by how its first sentence begins: “oven
// cleaner, mix 100 g …”, “for cream cleanser half a cup …”, “I make hand soap from 60 g …”.
func (r *reader) nameAtHead() {
	r.materialAtHead()
	if r.good.Name != "" || r.good.before > 0 || len(r.goods) > 1 || len(r.good.lines) == 0 {
		return
	}
	if r.easyAtHead() {
		return
	}
	from := 0
	for from < len(r.toks) && (openings[r.toks[from].word] || r.toks[from].kind == isSign) {
		from++
	}
	word := func(i int) string {
		if i < len(r.toks) && r.toks[i].kind == isWord {
			return r.toks[i].word
		}
		return ""
	}
	led := true
	first := word(from)
	switch {
	case first == "for":
		from++
	case first == "my" || first == "our": // “my soap powder, a pound of …”
	case (first == "i" || first == "we") && makes[word(from+1)]:
		from += 2
	default:
		led = false
	}
	for articles[word(from)] {
		from++
	}
	to := from
	for to < len(r.toks) && to-from < longestHead && word(to) != "" && !ends[word(to)] {
		if m, _ := r.lex.at(r.toks, to); to > from && m.is(step) && !m.is(kind) {
			break
		}
		to++
	}
	over := to < len(r.toks) && (r.toks[to].kind == isSign || r.toks[to].kind == isBreak || r.toks[to].kind == isNumber && to-from > 1 && goodWords[word(to-1)]) // “salt scrub 200 g salt”
	// “soda and borax in a bowl”, “ferment 3 kg of peel” and “bath bombs? no, …” begin no name
	if number := to > from && quantity.IsNumber(r.toks[from].word); number || to == from || !led && !over || to < len(r.toks) && r.toks[to].word == "?" {
		return
	}
	text := r.said(from, to)
	if line := r.good.lines[0]; !led && (r.read(text) != nil || strings.EqualFold(line.name, text) && !line.Amount.IsZero()) {
		return
	}
	k, n := r.lex.at(r.toks, from)
	switch {
	case k.is(kind) && n == to-from:
		r.good.Kind = k.kind
	case to-from > 2 && word(from+1) == "for" && (goodWords[word(from)] || k.is(kind) && n == 1): // “spray for counters”
		if k.is(kind) {
			r.good.Kind = k.kind
		}
	case r.madeForIt(from, to, first), to-from > 1 && goodWords[word(to-1)], led && to-from > 1 && word(to-1) == "soap":
	case to-from > 2 && len(r.good.lines) > 2 && r.good.lines[0].Err != nil && r.good.lines[0].Amount.IsZero() && r.good.lines[0].from == from && r.toks[to].word == ",": // “Basic liquid soap base, 500 g …”
	default:
		return
	}
	r.good.Name = sentenceCase(text)
	for len(r.good.lines) > 1 { // “furniture wax, 1 part beeswax …”, “ivy detergent, 50 leaves …” are no lines too
		first := r.good.lines[0]
		if !first.Amount.IsZero() || first.from < from-1 || first.from >= to || !led && first.Err == nil && strings.EqualFold(first.name, text) {
			break
		}
		r.takeAway(first)
	}
	for i := from; i < to; i++ {
		r.fates[r.origin[i]] = fate{AsName, r.good, nil}
	}
}

// easyAtHead names a good by a head that says how easy it is: “the surface spray's easy, one cup vodka, …”.
func (r *reader) easyAtHead() bool {
	from := 0
	for from < len(r.toks) && (openings[r.toks[from].word] || articles[r.toks[from].word] || r.toks[from].kind == isSign) {
		from++
	}
	to, at := 0, 0
	for i := from; i < len(r.toks) && i <= from+longestHead && r.toks[i].kind == isWord && to == 0; i++ {
		if w := r.toks[i].word; i > from && areSo[w] {
			to, at = i, i+1
		} else if strings.HasSuffix(w, "'s") && i+1 < len(r.toks) && (howEasy[r.toks[i+1].word] || easy[r.toks[i+1].word]) {
			to, at = i+1, i+1
		}
	}
	for to > 0 && at < len(r.toks) && howEasy[r.toks[at].word] {
		at++
	}
	if to == 0 || at+1 >= len(r.toks) || !easy[r.toks[at].word] || r.toks[at+1].kind == isWord || r.good.lines[0].from < at {
		return false
	}
	said := strings.TrimSuffix(strings.TrimSuffix(r.toks[to-1].word, "'s"), "’s")
	k, _ := r.lex.at([]token{{word: said, kind: isWord}}, 0)
	if !goodWords[said] && !k.is(kind) && !(said == "stuff" && to > from+1) {
		return false
	}
	r.good.Name = sentenceCase(strings.TrimSuffix(strings.TrimSuffix(r.said(from, to), "'s"), "’s"))
	if r.good.Kind == "other" && k.is(kind) {
		r.good.Kind = k.kind
	}
	for i := from; i < to; i++ {
		r.fates[r.origin[i]] = fate{AsName, r.good, nil}
	}
	return true
}

// easy are words for what is easily made, and howEasy those for how easily.
var easy, howEasy = wordSet("easy"), wordSet("howEasy")

// madeForIt reports whether a good is named by what it is for, or whose it is, between two tokens: “for the dishwasher I
// do …”, “my window stuff is …”.
func (r *reader) madeForIt(from, to int, first string) bool {
	if to+2 >= len(r.toks) || len(r.good.lines) < 2 || r.good.lines[0].from < to || r.read(r.said(from, to)) != nil {
		return false
	}
	next := r.toks[to].word
	if first == "for" {
		return (next == "," && r.good.lines[0].from == to+1 || whoMakes[next] && listsSo[r.toks[to+1].word] || justSo[next]) && !hardOrSoft[r.toks[from].word] && !pointsAt[r.toks[from].word] && r.fates[r.origin[from]].became != AsUse
	}
	return (first == "my" || first == "our") && areSo[next] && to-from > 1
}

// nameAtTail names a good that nothing named before by how what is said of it ends: “…, and
// that's my linen spray”.
func (r *reader) nameAtTail() {
	g := r.good
	if g.Name != "" || g.before > 0 || len(r.goods) > 1 || len(g.lines) == 0 {
		return
	}
	for i := 1; i+1 < len(r.toks); i++ {
		if r.soapAtTail(i) {
			return
		}
		if w := r.toks[i-1].word; w != "that's" && w != "thats" && (w != "is" || i < 2 || r.toks[i-2].word != "that") && !((w == "makes" || w == "make") && (r.toks[i].word == "my" || r.toks[i].word == "our" || r.makesKind(i))) || !articles[r.toks[i].word] && r.toks[i].word != "my" && r.toks[i].word != "your" && r.toks[i].word != "our" {
			continue
		}
		from := i + 1
		if praised[r.toks[from].word] {
			from++
		}
		to := from
		for to < len(r.toks) && to-from < longestHead && r.toks[to].kind == isWord && !ends[r.toks[to].word] && r.toks[to].word != "for" {
			to++
		}
		if to == from || g.lines[0].from > i || to < len(r.toks) && r.toks[to].kind == isNumber || to < from+2 && (r.toks[i].word == "a" || r.toks[i].word == "an" || r.toks[i].word == "the") {
			continue
		}
		if !r.nameBy(from, to) {
			continue
		}
		r.forgetNamed(i-1, to)
		r.forgetLine(i, to)
		return
	}
	r.nameOfMade()
	r.nameLast()
	r.nameAtEnd()
	r.nameItIsFor()
	r.nameOfYield()
	r.nameBeforeUse()
}

// nameOfMade names a good that nothing else named by the kind of it that is made: “makes fizzy bombs”.
func (r *reader) nameOfMade() {
	for i := 1; i < len(r.toks) && r.good.Name == ""; i++ {
		if w := r.toks[i-1].word; w != "makes" && w != "make" {
			continue
		}
		m, n := r.lex.at(r.toks, i)
		if n > 0 && m.is(kind) && (i+n == len(r.toks) || r.toks[i+n].kind != isWord) && r.nameBy(i, i+n) {
			r.forgetNamed(i-1, i+n)
			r.forgetLine(i, i+n)
		}
	}
}

// makesKind reports whether a kind of good is named behind “makes” and an article: “makes a strong drain cleaner”.
func (r *reader) makesKind(i int) bool {
	at := i + 1
	for at < len(r.toks) && praised[r.toks[at].word] {
		at++
	}
	m, n := r.lex.at(r.toks, at)
	return articles[r.toks[i].word] && n > 1 && m.is(kind)
}

// goodOf reports whether a good may be named from a token on: no material is, and nobody's usual one is spoken of.
func (r *reader) goodOf(i int) bool {
	w := r.toks[i].word
	return r.fates[r.origin[i]].became != AsMaterial && !articles[w] && !ownWords[w]
}

// ownWords say whose something is, or point at it.
var ownWords = wordSet("ownWords")

// nameBeforeUse names a good that nothing else named by how its last sentence begins: “…. Shower spray - use daily”.
func (r *reader) nameBeforeUse() {
	from := 0
	for i := range r.toks {
		if w := r.toks[i].word; (w == "." || r.toks[i].kind == isBreak) && i+1 < len(r.toks) {
			from = i + 1
		}
	}
	to := from
	for to < len(r.toks) && to-from <= longestHead && r.toks[to].kind == isWord {
		to++
	}
	if r.good.Name != "" || from == 0 || to == from || to >= len(r.toks) || r.good.lines[len(r.good.lines)-1].from >= from {
		return
	}
	if w := r.toks[to].word; w != "-" && w != "–" && w != "—" && w != ":" {
		return
	}
	if !r.nameBy(from, to) {
		return
	}
	for _, s := range r.good.sentences {
		if s.from == from {
			s.text = sentenceCase(strings.TrimSpace(r.asSaid(to+1, s.to)))
		}
	}
}

// nameOfYield names a good that nothing else named by what so much of comes out: “makes a litre of hand wash”.
func (r *reader) nameOfYield() {
	for i := 1; i < len(r.toks) && r.good.Name == ""; i++ {
		if r.toks[i-1].word != "of" || r.fates[r.origin[i-1]].became != AsYield {
			continue
		}
		to := i
		for to < len(r.toks) && to-i < longestHead && r.toks[to].kind == isWord && !ends[r.toks[to].word] {
			to++
		}
		if m, n := r.lex.at(r.toks, i); to == i || to == i+1 && !(n == 1 && m.is(kind)) || !r.goodOf(i) { // “40 jars of powder”, “of my usual powder” name none
			continue
		}
		r.nameBy(i, to)
	}
}

// nameItIsFor names a good that nothing else named by what all of the list before it is for: “…, ten drops of lavender
// for the hand soap”.
func (r *reader) nameItIsFor() {
	g := r.good
	for i := 1; i+1 < len(r.toks) && g.Name == ""; i++ {
		if r.toks[i-1].word != "for" || !articles[r.toks[i].word] && r.toks[i].word != "my" && r.toks[i].word != "our" || r.toks[i].word == "a" || r.toks[i].word == "an" || len(g.lines) < 2 || g.lines[1].from > i {
			continue
		}
		to := i + 1
		for to < len(r.toks) && to-i <= longestHead && r.toks[to].kind == isWord {
			to++
		}
		if to == i+1 || to < len(r.toks) && r.toks[to].kind == isNumber || r.fates[r.origin[i+1]].became == AsUse {
			continue
		}
		r.nameBy(i+1, to)
	}
}

// forgetLine takes away a line without an amount that the words of a name were taken for.
func (r *reader) forgetLine(from, to int) {
	for _, l := range r.good.lines {
		if l.Amount.IsZero() && l.from >= from && l.from < to && len(r.good.lines) > 1 {
			r.takeAway(l)
			for at := from; at < to; at++ {
				r.fates[r.origin[at]].line = nil
			}
			return
		}
	}
}

// nameLast names a good by the last thing of all that was said, which nothing is known of and nothing measures: “…, 200 g
// bicarb, sock deodoriser”.
func (r *reader) nameLast() {
	last := r.good.lines[len(r.good.lines)-1]
	to := len(r.toks)
	for to > 0 && r.toks[to-1].kind != isWord && r.toks[to-1].kind != isNumber {
		to--
	}
	if last.Err == nil || !last.Amount.IsZero() || len(r.good.lines) < 3 || last.from < 1 || to-last.from > longestHead || to <= last.from+1 && r.toks[last.from-1].word != ";" || r.toks[last.from-1].word != "," && r.toks[last.from-1].word != ";" {
		return
	}
	from := last.from
	if r.nameBy(from, to) {
		r.forgetLine(from, to)
	}
}

// soapAtTail names a soap by “that's kitchen soap”, behind what it is made of, at a token.
func (r *reader) soapAtTail(i int) bool {
	if w := r.toks[i-1].word; w != "that's" && w != "thats" || r.good.lines[0].from > i || r.toks[i].kind != isWord || articles[r.toks[i].word] || ownWords[r.toks[i].word] {
		return false
	}
	if last := r.toks[i+1].word; last != "soap" && (i+2 < len(r.toks) && r.toks[i+2].kind == isWord || openings[r.toks[i].word] || last != "water" && last != "vinegar" && !goodWords[last]) { // “that's linen water”
		return false
	}
	r.good.Name = sentenceCase(r.said(i, i+2))
	for _, l := range r.good.lines {
		if l.Amount.IsZero() && l.from >= i-1 && l.from <= i+1 {
			r.takeAway(l)
			break
		}
	}
	for at := i; at < i+2; at++ {
		r.fates[r.origin[at]] = fate{AsName, r.good, nil}
	}
	return true
}

// nameBy names the good by some words, where they name one.
func (r *reader) nameBy(from, to int) bool {
	g := r.good
	k, n := r.lex.at(r.toks, from)
	last, _ := r.lex.at(r.toks, to-1)
	switch {
	case k.is(kind) && n == to-from:
		g.Kind = k.kind
	case to-from > 2 && r.toks[from+1].word == "for" && (goodWords[r.toks[from].word] || k.is(kind) && n == 1): // “= paste for the hob”
		if k.is(kind) {
			g.Kind = k.kind
		}
	case goodWords[r.toks[to-1].word]:
		if last.is(kind) && g.Kind == "other" {
			g.Kind = last.kind
		}
	default:
		return false
	}
	g.Name = sentenceCase(r.said(from, to))
	for at := from; at < to; at++ {
		r.fates[r.origin[at]] = fate{AsName, g, nil}
	}
	return true
}

// nameAtEnd names a good by the last words of all, behind a colon or a dash: “15 drops of lavender: linen spray”.
func (r *reader) nameAtEnd() {
	to := len(r.toks)
	for to > 0 && (r.toks[to-1].kind == isBreak || r.toks[to-1].word == "." || r.toks[to-1].word == "!") {
		to--
	}
	from := to
	for from > 0 && to-from < longestHead && r.toks[from-1].kind == isWord {
		from--
	}
	if from > 1 && r.toks[from-1].word == "," && r.lexIs(from, yield) || from > 2 && r.toks[from-1].kind == isNumber && r.toks[from-3].word == "," && r.lexIs(from-2, yield) { // “… - furniture polish, makes 2 tins”
		for to = from - 1; to > 0 && r.toks[to].word != ","; to-- {
		}
		for from = to; from > 0 && to-from < longestHead && r.toks[from-1].kind == isWord; from-- {
		}
	}
	if dash := r.dashBeforeUse(); dash > 0 { // “… - furniture reviver, apply with a soft cloth”
		for from, to = dash+1, dash+1; r.toks[to].kind == isWord; to++ {
		}
		if doings[r.toks[from].word] {
			return
		}
	}
	if from < 2 || from == to || r.good.lines[0].from >= from {
		return
	}
	switch r.toks[from-1].word {
	case ":", "-", "–", "—", "=":
	default:
		return
	}
	for from < to-1 && (articles[r.toks[from].word] || openings[r.toks[from].word] || endsSo[r.toks[from].word]) { // “: that's your starch”
		from++
	}
	if r.read(r.said(from, to)) != nil {
		return
	}
	for at := from; at < to; at++ {
		if m, _ := r.lex.at(r.toks, at); m.is(step|using) && !m.is(kind) && !goodWords[r.toks[at].word] {
			return
		}
	}
	if r.nameBy(from, to) {
		r.forgetNamed(from-1, to)
	}
}

// dashBeforeUse is the dash behind all that goes in, before a few words, a comma, and what is only kept as it was said;
// 0 where none stands so.
func (r *reader) dashBeforeUse() int {
	for i := len(r.toks) - 1; i > 1; i-- {
		if w := r.toks[i].word; w != "-" && w != "–" && w != "—" || r.toks[i].tight {
			continue
		}
		to := i + 1
		for to < len(r.toks) && to-i <= longestHead && r.toks[to].kind == isWord {
			to++
		}
		if to == i+1 || to >= len(r.toks) || r.toks[to].word != "," {
			return 0
		}
		for k := to + 1; k < len(r.toks); k++ {
			if b := r.fates[r.origin[k]].became; b != AsRemark && b != AsUse && b != AsSmallTalk {
				return 0
			}
		}
		return i
	}
	return 0
}

// endsSo are words that lead up to a name at the end.
var endsSo = wordSet("endsSo")

// pointsAt are words that point at something, or at a time, and name nothing.
var pointsAt = wordSet("pointsAt")

// praised are words that say of a good how it is, and are none of its name.
var praised = wordSet("praised")

// forgetNamed takes the words that named the good out of what was kept of them with a line, and
// out of the text of a step.
func (r *reader) forgetNamed(from, to int) {
	said := r.asSaid(from+1, to)
	for _, l := range r.good.lines {
		if l.Note == said || strings.HasSuffix(l.Note, ", "+said) {
			l.Note = strings.TrimSuffix(strings.TrimSuffix(l.Note, said), ", ")
		}
	}
	for _, s := range r.good.sentences {
		if s.from < from && to == s.to {
			s.text = strings.TrimRight(strings.TrimSuffix(strings.TrimRight(s.text, " .!"), r.asSaid(from, to)), " ,:;-–—")
			s.text = strings.TrimSuffix(s.text, " and")
		}
	}
}

// materialAtHead takes a material by itself before all else, measured nowhere, for the name
// of what is made: “Ash lye. 2 kg of ash, 5 litres of water”.
func (r *reader) materialAtHead() {
	g := r.good
	if g.Name != "" || g.before > 0 || len(r.goods) > 1 || len(g.lines) < 3 || len(g.sentences) < 2 {
		return
	}
	first, alone := g.lines[0], g.sentences[0]
	if !first.Amount.IsZero() || first.from < alone.from || first.from >= alone.to || len(first.Alternatives) > 0 || first.Optional {
		return
	}
	for _, l := range g.lines[1:] {
		if l.Amount.IsZero() || l.from < alone.to || l.Material == first.Material {
			return
		}
	}
	for i := range r.fates {
		if f := &r.fates[i]; f.line == first {
			*f = fate{AsName, g, nil}
		}
	}
	g.Name = sentenceCase(first.name)
	r.takeAway(first)
}

// longestHead is how many words such a name has at the most.
const longestHead = 4

var (
	// openings are words that begin to speak.
	openings = wordSet("openings")
	makes    = wordSet("makes")
	articles = wordSet("articles")
	// ends are words at which a name is over.
	ends = wordSet("ends")
)
