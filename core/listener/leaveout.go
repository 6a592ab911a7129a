package listener

// What of a text is no part of what it tells, and is left out before anything is read: hesitations, the rules and commas of a
// page's layout, what counts its goods, the day it was written on.

import (
	"regexp"
	"strings"

	"keencrock/core/quantity"
)

// drop leaves out each run of tokens that begins where end tells the token after it; it tells 0 where none does.
func (r *reader) drop(end func(i int) int) {
	n := 0
	for i := 0; i < len(r.toks); {
		to := end(i)
		for ; i < to; i++ {
			r.fates[r.origin[i]].became = AsSmallTalk
		}
		if to > 0 {
			continue
		}
		r.toks[n], r.origin[n] = r.toks[i], r.origin[i]
		n++
		i++
	}
	r.toks, r.origin = r.toks[:n], r.origin[:n]
}

// leaveOutTable drops the commas of lines that are rows of a table, “washing soda,500,g”: what
// they part is one thing.
func (r *reader) leaveOutTable() {
	r.drop(func(i int) int {
		t := &r.toks[i]
		if t.word != "," || i+1 >= len(r.toks) || i == 0 || !r.toks[i+1].tight || !t.tight || !r.inRow(i) {
			return 0
		}
		clean := []byte(r.clean)
		clean[t.from] = ' '
		r.clean = string(clean)
		return i + 1
	})
}

// leaveOutRules drops the lines that are drawn below a heading, “---” or “=====”, with the break before them.
func (r *reader) leaveOutRules() { r.drop(r.ruleAt) }

// leaveOutDays drops the lines of a page that are no more than the day it was written on, “Saturday 4 May”.
func (r *reader) leaveOutDays() {
	r.drop(func(i int) int {
		if i > 0 && r.toks[i-1].kind != isBreak || r.toks[i].kind == isBreak {
			return 0
		}
		end := i
		for end < len(r.toks) && r.toks[end].kind != isBreak {
			end++
		}
		if end == len(r.toks) || end-i > longestDay || !dayAlone.MatchString(r.clean[r.toks[i].from:r.toks[end-1].to]) {
			return 0
		}
		return end
	})
}

// longestDay is how many tokens a day has at the most, and dayAlone one by itself, that no amount is.
const longestDay = 9

var dayAlone = regexp.MustCompile(`(?i)^(?:(?:mon|tues?|wed(?:nes)?|thu(?:rs?)?|fri|sat(?:ur)?|sun)(?:day)?\b[,.]?\s*(?:the )?)?(?:\d{1,2}(?:st|nd|rd|th)?\.?(?:\s+of)?\s+(?:` + monthWord + `)\b\.?(?:,?\s*\d{2,4})?|(?:` + monthWord + `)\b\.?\s+(?:\d{1,2}(?:st|nd|rd|th)?(?:,?\s+\d{4})?|\d{4})|\d{1,2}[./-]\d{1,2}[./-]\d{2,4}|\d{4}-\d{2}-\d{2})\s*[:.]?$`)

// leaveOutHashes drops the sign before a number that counts: “Soap #2: …”.
func (r *reader) leaveOutHashes() {
	r.drop(func(i int) int {
		if t := &r.toks[i]; t.word == "#" && i > 0 && r.toks[i-1].kind == isWord && i+2 < len(r.toks) && r.toks[i+1].kind == isNumber && r.toks[i+1].tight && r.toks[i+2].word == ":" {
			return i + 1
		}
		return 0
	})
}

// leaveOutCounts drops what counts the goods of a page before their names, “Recipe 1 - glass cleaner: …”. A stop behind the
// name is a colon then: “Recipe 2: Bathroom. 250 ml vinegar”.
func (r *reader) leaveOutCounts() {
	r.drop(func(i int) int {
		next := r.countAt(i)
		end := next
		for next > 0 && end < len(r.toks) && r.toks[end].kind == isWord {
			end++
		}
		if next > 0 && end+1 < len(r.toks) && r.toks[end].word == "." && r.toks[end+1].kind == isNumber {
			r.toks[end].word = ":"
		}
		return next
	})
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

// goesOnAfter end a line that goes on in the next.
var goesOnAfter = wordSet("goesOnAfter")

// goesOnWith begin a line that goes on from the one before.
var goesOnWith = wordSet("goesOnWith")
