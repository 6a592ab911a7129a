package listener

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

// MaxText is the longest text read at once, in bytes.
const MaxText = 20_000

// TooLongError is a text that is longer than is read at once.
type TooLongError struct{ Bytes int }

func (e *TooLongError) Error() string {
	return fmt.Sprintf("this is %d letters long: %d are read at once, so say it in parts", e.Bytes, MaxText)
}

// Read reads what is said of one good, or of several one after the other. It takes time
// in proportion to the text. A text that is too long is a [*TooLongError]; nothing else
// is refused.
func Read(text string, lib *material.Library) (*Talk, error) { return ReadAfter(nil, text, lib) }

// ReadAfter reads what is said of a good that has lines already: “no, two” corrects the
// last of them, “same again of salt” is of it. They stand before the new ones in what is
// read, changed or taken away as was said. The error is of [Read].
func ReadAfter(lines []formula.Line, text string, lib *material.Library) (*Talk, error) {
	if len(text) > MaxText {
		return nil, &TooLongError{Bytes: len(text)}
	}
	r := newReader(text, lib)
	for _, l := range lines {
		r.last = &Line{Line: l, name: l.Material, from: -1}
		r.good.lines = append(r.good.lines, r.last)
		if !l.Amount.IsZero() {
			r.amount = l.Amount
		}
	}
	r.good.before, r.ofGood = len(lines), true
	r.leaveOutDays()
	r.slashesToPer()
	r.marks()
	r.findHeads()
	r.sentences()
	return r.talk(), nil
}

// Lines are the lines of the first good of a text, for callers that want no more of it;
// none of a text that is too long.
func Lines(text string, lib *material.Library) []*Line {
	talk, err := Read(text, lib)
	if err != nil {
		return nil
	}
	return talk.Goods[0].lines
}

// reader reads one text from its beginning to its end.
type reader struct {
	lib     *material.Library
	spotter *material.Spotter
	lex     *lexicon

	text    string  // as it is said
	clean   string  // the same, hesitations blotted out; every place is the same
	all     []token // of the text
	fates   []fate  // of each of them
	toks    []token // without the hesitations
	origin  []int   // where each of toks stands in all
	out     []mark
	heads   map[int]pageHead // of the page, by the mark that each begins at
	ofGood  bool             // it is of what goes in: no number is a price
	storage bool             // the line before says that how it is stored follows
	weak    bool             // a head may be a material's name, too

	goods []*Good
	good  *Good

	facts    []fact // of a delivery, in their order
	nextFact int

	memory
	words []string // to look for names in
	ends  []int
}

func newReader(text string, lib *material.Library) *reader {
	r := &reader{lib: lib, spotter: lib.Spotter(), lex: spoken(), text: sound(text)}
	r.all = tokens(r.text)
	r.fates = make([]fate, len(r.all))
	r.good = &Good{Kind: "other"}
	r.goods = []*Good{r.good}
	r.leaveOutHesitations()
	r.leaveOutTable()
	r.leaveOutRules()
	r.leaveOutHashes()
	r.leaveOutCounts()
	return r
}

// leaveOutTable drops the commas of lines that are rows of a table, “washing soda,500,g”: what
// they part is one thing.
func (r *reader) leaveOutTable() {
	n := 0
	for i := 0; i < len(r.toks); i++ {
		t := &r.toks[i]
		if t.word == "," && i+1 < len(r.toks) && i > 0 && r.toks[i+1].tight && t.tight && r.inRow(i) {
			clean := []byte(r.clean)
			clean[t.from] = ' '
			r.clean = string(clean)
			r.fates[r.origin[i]].became = AsSmallTalk
			continue
		}
		r.toks[n], r.origin[n] = r.toks[i], r.origin[i]
		n++
	}
	r.toks, r.origin = r.toks[:n], r.origin[:n]
}

// leaveOutRules drops the lines that are drawn below a heading, “---” or “=====”, with the break before them.
func (r *reader) leaveOutRules() {
	n := 0
	for i := 0; i < len(r.toks); i++ {
		if end := r.ruleAt(i); end > 0 {
			for k := i; k < end; k++ {
				r.fates[r.origin[k]].became = AsSmallTalk
			}
			i = end - 1
			continue
		}
		r.toks[n], r.origin[n] = r.toks[i], r.origin[i]
		n++
	}
	r.toks, r.origin = r.toks[:n], r.origin[:n]
}

// leaveOutDays drops the lines of a page that are no more than the day it was written on, “Saturday 4 May”.
func (r *reader) leaveOutDays() {
	n := 0
	for i := 0; i < len(r.toks); {
		end := i
		for end < len(r.toks) && r.toks[end].kind != isBreak {
			end++
		}
		drop := end < len(r.toks) && end > i && end-i <= longestDay && dayAlone.MatchString(r.clean[r.toks[i].from:r.toks[end-1].to])
		for ; i < min(end+1, len(r.toks)); i++ {
			if drop && i < end {
				r.fates[r.origin[i]].became = AsSmallTalk
				continue
			}
			r.toks[n], r.origin[n] = r.toks[i], r.origin[i]
			n++
		}
	}
	r.toks, r.origin = r.toks[:n], r.origin[:n]
}

// longestDay is how many tokens a day has at the most, and dayAlone one by itself, that no amount is.
const longestDay = 9

var dayAlone = regexp.MustCompile(`(?i)^(?:(?:mon|tues?|wed(?:nes)?|thu(?:rs?)?|fri|sat(?:ur)?|sun)(?:day)?\b[,.]?\s*(?:the )?)?(?:\d{1,2}(?:st|nd|rd|th)?\.?(?:\s+of)?\s+(?:` + monthWord + `)\b\.?(?:,?\s*\d{2,4})?|(?:` + monthWord + `)\b\.?\s+(?:\d{1,2}(?:st|nd|rd|th)?(?:,?\s+\d{4})?|\d{4})|\d{1,2}[./-]\d{1,2}[./-]\d{2,4}|\d{4}-\d{2}-\d{2})\s*[:.]?$`)

// slashesToPer reads the slash of “50 g/l” as “per”.
func (r *reader) slashesToPer() {
	for i := 1; i+1 < len(r.toks); i++ {
		if t := &r.toks[i]; t.word == "/" && t.tight && r.toks[i+1].tight && i > 1 && r.toks[i-2].kind == isNumber && (i+2 == len(r.toks) || r.toks[i+2].kind != isWord) {
			of, measured := quantity.UnitNamed(r.toks[i-1].word)
			per, litres := quantity.UnitNamed(r.toks[i+1].word)
			if measured && litres && of.Kind() != quantity.Count && per == quantity.Litre {
				t.word, t.kind, r.toks[i+1].word = "per", isWord, "litre"
			}
		}
	}
}

// leaveOutHashes drops the sign before a number that counts: “Soap #2: …”.
func (r *reader) leaveOutHashes() {
	n := 0
	for i := 0; i < len(r.toks); i++ {
		if t := &r.toks[i]; t.word == "#" && i > 0 && r.toks[i-1].kind == isWord && i+2 < len(r.toks) && r.toks[i+1].kind == isNumber && r.toks[i+1].tight && r.toks[i+2].word == ":" {
			r.fates[r.origin[i]].became = AsSmallTalk
			continue
		}
		r.toks[n], r.origin[n] = r.toks[i], r.origin[i]
		n++
	}
	r.toks, r.origin = r.toks[:n], r.origin[:n]
}

// leaveOutCounts drops what counts the goods of a page before their names, “Recipe 1 - glass cleaner: …”.
func (r *reader) leaveOutCounts() {
	n := 0
	for i := 0; i < len(r.toks); i++ {
		if end := r.countAt(i); end > 0 {
			for k := i; k < end; k++ {
				r.fates[r.origin[k]].became = AsSmallTalk
			}
			i = end - 1
			for end < len(r.toks) && r.toks[end].kind == isWord {
				end++
			}
			if end+1 < len(r.toks) && r.toks[end].word == "." && r.toks[end+1].kind == isNumber { // “Recipe 2: Bathroom. 250 ml vinegar”
				r.toks[end].word = ":"
			}
			continue
		}
		r.toks[n], r.origin[n] = r.toks[i], r.origin[i]
		n++
	}
	r.toks, r.origin = r.toks[:n], r.origin[:n]
}

// countAt is the token after “B.”, or after “Recipe 1 -”, at the beginning of a line, where a name without a number follows up to a colon,
// a stop or the end of the line, that is of no material; 0 where it does not.
func (r *reader) countAt(i int) int {
	if w := r.toks[i].word; (i == 0 || r.toks[i-1].kind == isBreak) && i+2 < len(r.toks) && len(w) == 1 && 'a' <= w[0] && w[0] <= 'h' && (r.toks[i+1].word == "." || r.toks[i+1].word == ")") && r.toks[i+2].kind == isWord { // “B. Descaler - …”
		return i + 2
	}
	if i > 0 && r.toks[i-1].kind != isBreak || i+3 >= len(r.toks) || !countedSo[r.toks[i].word] || r.toks[i+1].kind != isNumber && !quantity.IsNumber(r.toks[i+1].word) {
		return 0
	}
	switch r.toks[i+2].word {
	case ":", "-", "–", "—", ".", ")":
	default:
		return 0
	}
	to := i + 3
	for to < len(r.toks) && to-i-3 <= longestPageHead && r.toks[to].kind == isWord && !quantity.IsNumber(r.toks[to].word) {
		to++
	}
	if to == i+3 || to == len(r.toks) || r.toks[to].kind != isBreak && r.toks[to].word != ":" && r.toks[to].word != "." && r.toks[to].word != "-" && r.toks[to].word != "(" {
		return 0
	}
	if r.read(r.said(i+3, to)) != nil {
		return 0
	}
	return i + 3
}

// countedSo are words that goods of a page are counted with.
var countedSo = wordSet("countedSo")

// ruleAt is the token after a drawn line whose break before it stands at a token; 0 where none is.
func (r *reader) ruleAt(i int) int {
	if r.toks[i].kind != isBreak {
		return 0
	}
	k := i + 1
	for k < len(r.toks) && r.toks[k].kind == isSign && strings.Contains("-=_*~—–", r.toks[k].word) {
		k++
	}
	if k < i+3 && !(k == i+2 && r.toks[i+1].to-r.toks[i+1].from > 2) || k == len(r.toks) || r.toks[k].kind != isBreak {
		return 0
	}
	return k
}

// inRow reports whether a comma stands before the number of a row of a table, or before its
// unit.
func (r *reader) inRow(i int) bool {
	before, after := &r.toks[i-1], &r.toks[i+1]
	_, unit := quantity.UnitNamed(after.word)
	ends := i+2 >= len(r.toks) || r.toks[i+2].kind == isBreak
	switch {
	case before.kind == isNumber && unit && ends:
		return true
	case before.kind == isWord && after.kind == isNumber && !strings.ContainsAny(before.word, "0123456789"):
		return ends || r.toks[i+2].word == "," && i+3 < len(r.toks) && r.unitToken(i+3)
	}
	return false
}

func (r *reader) unitToken(i int) bool {
	_, unit := quantity.UnitNamed(r.toks[i].word)
	return unit && (i+1 == len(r.toks) || r.toks[i+1].kind == isBreak)
}

// leaveOutHesitations drops what says nothing wherever it stands, and the commas around
// it that would part what belongs together: “two, um, cups”.
func (r *reader) leaveOutHesitations() {
	clean := []byte(r.text)
	blot := func(t *token) {
		for i := t.from; i < t.to; i++ {
			clean[i] = ' '
		}
	}
	for i := 0; i < len(r.all); {
		m, n := r.lex.at(r.all, i)
		if !m.is(hesitation) || i > 0 && r.all[i-1].kind == isNumber && r.all[i].word == "mm" { // “63 mm” is a width
			r.toks, r.origin = append(r.toks, r.all[i]), append(r.origin, i)
			i++
			continue
		}
		for n := len(r.toks); n > 0 && (r.toks[n-1].word == "…" || r.isPause(r.origin[n-1])); n = len(r.toks) { // a pause before it
			blot(&r.toks[n-1])
			r.fates[r.origin[n-1]].became = AsSmallTalk
			r.toks, r.origin = r.toks[:n-1], r.origin[:n-1]
		}
		last := len(r.toks) - 1
		comma := last >= 0 && r.toks[last].word == ","
		for k := i; k < i+n; k++ {
			blot(&r.all[k])
			r.fates[k].became = AsSmallTalk
		}
		i += n
		for i < len(r.all) && (r.all[i].word == "," || r.all[i].word == "…" || r.isPause(i)) {
			blot(&r.all[i])
			r.fates[i].became = AsSmallTalk
			if i++; comma && i < len(r.all) && last > 0 && r.goesOn(&r.toks[last-1], &r.all[i]) {
				blot(&r.toks[last])
				r.fates[r.origin[last]].became = AsSmallTalk
				r.toks, r.origin = r.toks[:last], r.origin[:last]
				break
			}
		}
	}
	r.clean = string(clean)
	for i := 1; i < len(r.toks); i++ { // what a hesitation stood between is not tight
		if r.toks[i-1].to != r.toks[i].from {
			r.toks[i].tight = false
		}
	}
}

// isPause reports whether a dot is one of several.
func (r *reader) isPause(i int) bool {
	dot := func(k int) bool { return k >= 0 && k < len(r.all) && r.all[k].word == "." }
	return dot(i) && (dot(i+1) || dot(i-1))
}

// goesOn reports whether what follows a hesitation belongs to what stands before it: a
// unit to its number, a name to its “of”, the rest of a name to its beginning.
func (r *reader) goesOn(before, after *token) bool {
	if before.kind == isWord && after.kind == isWord && r.spotter.Longest([]string{before.word, after.word}) == 2 {
		return true
	}
	if goesOnAfter[before.word] {
		return true
	}
	if number := before.kind == isNumber || quantity.IsNumber(before.word); number {
		if goesOnWith[after.word] {
			return true
		}
		if after.kind == isNumber || quantity.IsFill(after.word) { // “1, um, 1/2”, “two, um, heaped spoons”
			return true
		}
	}
	if quantity.IsFill(before.word) && quantity.MayBegin(after.word) {
		return true
	}
	_, unit := quantity.UnitNamed(after.word)
	return unit && (before.kind == isNumber || quantity.MayBegin(before.word)) || after.word == "of"
}

// talk is what was read.
func (r *reader) talk() *Talk {
	r.settle()
	r.findLost()
	r.nameAtHead()
	r.nameAtTail()
	r.askMentioned()
	for _, g := range r.goods {
		r.shareOfJuice(g)
		r.countPieces(g)
		r.sameMillilitres(g)
		r.sharesByRatio(g)
		r.scentsSoap(g)
		g.finish()
	}
	kept := r.goods[:0]
	for i, g := range r.goods {
		if !g.empty() || i == 0 && len(r.goods) == 1 {
			kept = append(kept, g)
		}
	}
	if len(kept) == 0 {
		kept = r.goods[:1]
	}
	r.goods = kept
	if first := kept[0]; first.empty() && len(first.Unsure) == 0 && strings.TrimSpace(r.clean) != "" {
		first.Unsure = append(first.Unsure, Unsure{Line: -1, Code: "nothing-heard", Text: "Nothing of this says what goes in. Say it as “two cups of washing soda and a cup of borax”."})
	}
	return &Talk{Text: r.text, Goods: r.goods, Words: r.allWords()}
}

// findLost asks about the materials that nothing became of: none that was named is lost.
func (r *reader) findLost() {
	for k := range r.out {
		m := &r.out[k]
		if m.kind != aName || r.fates[r.origin[m.from]].became != Unread {
			continue
		}
		n := &naming{from: m.from, to: m.to, text: r.said(m.from, m.to)}
		r.mentioned = append(r.mentioned, n)
		r.becomes(n.from, n.to, AsQuestion, nil)
	}
	for k := range r.out {
		m := &r.out[k]
		if f := r.fates[r.origin[m.from]]; f.became != Unread && f.became != AsLeftOut || f.good != nil && f.good != r.good {
			continue
		}
		if amount := m.kind == anAmount && !m.article && m.amount.Amount.Unit() != quantity.Bare && m.amount.Amount.Open() == quantity.NotOpen; amount || m.is(factored|same) && m.to > m.from+1 && !r.evens(k) {
			r.becomes(m.from, m.to, AsQuestion, nil)
			r.good.Unsure = append(r.good.Unsure, Unsure{Line: -1, Code: "amount-of-what", Text: "“" + strings.TrimSuffix(r.said(m.from, m.to), " of") + "” of what?"})
		}
	}
	r.askTwice()
}

// evens reports whether “as much … as …” says of two that are lines with the same amount
// what that is.
func (r *reader) evens(k int) bool {
	var lines []*Line
	for i := k + 1; i < len(r.out) && i < k+5 && r.out[i].kind != aStop; i++ {
		if r.out[i].kind == aName && r.isLine(i) {
			text := r.said(r.out[i].from, r.out[i].to)
			lines = append(lines, r.lineOf(r.read(text), text))
		}
	}
	if len(lines) < 2 || lines[0].Amount != lines[1].Amount {
		return false
	}
	r.becomes(r.out[k].from, r.out[k].to, AsSmallTalk, nil)
	return true
}

// saidAgain joins a line that only says once more what one right before it was put right to:
// “no wait, half a cup, half a cup of washing soda”.
func (r *reader) saidAgain() {
	g := r.good
	for i := 1; i < len(g.lines); i++ {
		l, before := g.lines[i], g.lines[i-1]
		if !before.corrected || l.Err != nil || before.Material != l.Material || before.Amount != l.Amount {
			continue
		}
		for k := range r.fates {
			if r.fates[k].line == l {
				r.fates[k].line = before
			}
		}
		g.lines = slices.Delete(g.lines, i, i+1)
		i--
	}
}

// askTwice asks about a material that two lines measure: it may be more of it, or have been
// said again. Water is poured again and again.
func (r *reader) askTwice() {
	r.saidAgain()
	for i, l := range r.good.lines {
		if u := l.Amount.Unit(); l.Err != nil || l.from < 0 || l.Material == "water" || l.Amount.IsZero() || u.PeelOf() || u.JuiceOf() {
			continue
		}
		for _, before := range r.good.lines[:i] {
			if before.Material == l.Material && before.from >= 0 && !before.Amount.IsZero() && !r.saysMoreOf(l) && !r.otherKin(before, l) {
				r.good.Unsure = append(r.good.Unsure, Unsure{Line: i, Code: "said-twice", Text: sentenceCase(before.name) + " stands here twice, " + before.Written + " and " + l.Written + ": is it both, or was it said again?"})
				break
			}
		}
	}
}

// otherKin reports whether two lines of one material are said of two sorts that it stands
// for: oregano and vetiver are both a scent that nothing is known of.
func (r *reader) otherKin(before, l *Line) bool {
	m := r.read(l.Material)
	return m != nil && len(m.Kin) > 0 && before.Note != l.Note
}

// saysMoreOf reports whether “another” or its kin stand before the amount of a line.
func (r *reader) saysMoreOf(l *Line) bool {
	for i := l.from; i >= 0 && i >= l.from-3; i-- {
		if moreWords[r.toks[i].word] {
			return true
		}
	}
	return false
}

// said is the text of tokens, single spaces between.
func (r *reader) said(from, to int) string {
	if from >= to {
		return ""
	}
	if to == from+1 {
		return r.clean[r.toks[from].from:r.toks[from].to]
	}
	return strings.Join(strings.Fields(r.clean[r.toks[from].from:r.toks[to-1].to]), " ")
}

// words as they were said, hesitations too.
func (r *reader) asSaid(from, to int) string {
	if from >= to {
		return ""
	}
	if to == from+1 {
		return r.text[r.toks[from].from:r.toks[from].to]
	}
	return strings.Join(strings.Fields(r.text[r.toks[from].from:r.toks[to-1].to]), " ")
}

// goesOnAfter end a line that goes on in the next.
var goesOnAfter = wordSet("goesOnAfter")

// goesOnWith begin a line that goes on from the one before.
var goesOnWith = wordSet("goesOnWith")

// moreWords say that there is more of something.
var moreWords = wordSet("moreWords")
