package listener

// The forms in which things are told at the bench: a pH, what took another's place, what was weighed really, what went in.

import (
	"regexp"
	"slices"
	"strconv"
	"strings"

	"keencrock/core/quantity"
)

// measures reads a pH: “pH 9.2 by strip”, “the pH is nine”, “meter says 9.8”.
func (b *benchReader) measures(h *Happening, from, to int) bool {
	said := b.clean[b.toks[from].from:b.toks[to-1].to]
	figure := ""
	if len(phTwice.FindAllString(said, 2)) > 1 { // “pH was 7 before and 8.5 after” is two
		return true
	}
	if m := phSaid.FindStringSubmatch(said); m != nil {
		figure = m[1]
	} else if m := phShown.FindStringSubmatch(said); m != nil {
		figure = m[2]
	}
	v, err := strconv.ParseFloat(strings.Replace(figure, ",", ".", 1), 64)
	if at := phInWords.FindStringIndex(said); figure == "" && at != nil {
		if r, ok := quantity.ReadSaid(said[at[1]:]); ok && r.Amount.Unit() == quantity.Bare && r.Amount.Open() == quantity.NotOpen {
			if n, bare := r.Amount.Pieces(); bare && n.Low == n.High {
				v, err = n.Value, nil
			}
		}
	}
	if err != nil || v > 14 {
		return figure != ""
	}
	low := strings.ToLower(said)
	h.Kind, h.PH = Measured, v
	h.Meter = strings.Contains(low, "meter") || strings.Contains(low, "metre") || strings.Contains(low, "probe")
	return true
}

// swapped reads what took the place of what: “used cider vinegar instead of the vinegar”, “swapped the borax for citrate”, “no
// vinegar left so I used …”. What was left out comes first.
func (b *benchReader) swapped(marks benchMarks, from, to int, h *Happening) (added Happening, ok bool) {
	if len(marks.names) != 2 || len(marks.amounts) > 1 || marks.not >= 0 {
		return added, false
	}
	first, second := marks.names[0], marks.names[1]
	out, in := first, second
	switch {
	case b.between(first.to, second.from, insteadSo):
		out, in = second, first
	case b.between(from, first.from, swapWords) && b.between(first.to, second.from, forWords):
	case marks.roles&benchLeft != 0 && b.between(first.to, second.from, tookInstead):
	default:
		return added, false
	}
	line, _ := b.lineOfName(out)
	_, taken := b.lineOfName(in)
	if line < 0 || taken == nil {
		return added, false
	}
	h.Kind, h.Line, h.Material = LeftOut, line, b.of[line]
	added = Happening{Kind: Added, Material: taken, Amount: quantity.OpenAmount(quantity.Some), Text: h.Text}
	if added.Line, _ = b.lineOfName(in); len(marks.amounts) == 1 {
		added.Amount = marks.amounts[0].amount.Amount
	}
	return added, true
}

// between reports whether one of some words stands between two tokens.
func (b *benchReader) between(from, to int, words map[string]bool) bool {
	return slices.ContainsFunc(b.toks[min(from, to):to], func(t token) bool { return words[t.word] })
}

// nextTime reports whether the next batch is spoken of.
func (b *benchReader) nextTime(from, to int) bool {
	for i := from; i+1 < to; i++ {
		if b.toks[i].word == "next" && (b.toks[i+1].word == "time" || b.toks[i+1].word == "batch" || b.toks[i+1].word == "one") {
			return true
		}
	}
	return false
}

// goesInToo reports whether so much of something is said to have gone in beside the rest.
func (b *benchReader) goesInToo(marks benchMarks, to int) bool {
	if len(marks.amounts) != 1 || len(marks.names) != 1 {
		return false
	}
	for i := marks.names[0].to; i+1 < to; i++ {
		if b.toks[i].word == "went" && b.toks[i+1].word == "in" {
			return true
		}
	}
	last := b.toks[to-1].word
	return last == "too" || last == "well" && b.toks[to-2].word == "as"
}

// goesInBeside reports whether so much of something that is no line of the batch is said to go in, “put 250 ml of water in”,
// “10 ml of vodka so it keeps”, or so much more of one, “had to add 30 ml vinegar”.
func (b *benchReader) goesInBeside(marks benchMarks, from int) bool {
	if len(marks.amounts) != 1 || len(marks.names) != 1 || marks.roles&(benchLeft|benchBroke) != 0 || !inMeasures(marks.amounts[0].amount.Amount) && !isVague(marks.amounts[0].amount.Amount) {
		return false
	}
	amount := marks.amounts[0]
	line, found := b.lineOfName(marks.names[0])
	if found == nil || marks.names[0].from < amount.from {
		return false
	}
	if line >= 0 {
		return b.between(from, amount.from, addsSo)
	}
	return amount.from == from || b.between(from, amount.from, addsSo) || b.between(from, amount.from, putsSo)
}

// takenBack reports whether the first of two amounts is taken back by a word for that between them.
func (b *benchReader) takenBack(lo, hi int, marks benchMarks) bool {
	for k := lo; k < hi; k++ {
		if m := &b.out[k]; m.from >= marks.amounts[0].to && m.to <= marks.amounts[1].from && m.is(correct|correctWell) {
			return true
		}
	}
	return false
}

// weighed reports whether no more is said than how much of one line of the batch was weighed: “soda 505”, “I weighed 498 of
// soda”, “only had 150 g of borax”.
func (b *benchReader) weighed(marks benchMarks, from, to int) bool {
	if len(marks.amounts) != 1 || len(marks.names) != 1 || marks.roles&(benchMore|benchBroke|top) != 0 || marks.amounts[0].amount.Amount.Open() != quantity.NotOpen || isVague(marks.amounts[0].amount.Amount) {
		return false
	}
	if line, _ := b.lineOfName(marks.names[0]); line < 0 {
		return false
	}
	amount, name := marks.amounts[0], marks.names[0]
	if name.from == from && amount.from <= name.to+1 && amount.to == to {
		return true
	}
	return b.between(from, amount.from, weighedSo) && b.toks[max(0, amount.from-1)].word != "about"
}

// leavesOutLine reports whether one line is said to be left out, with the word for that parted: “leave the lavender out”.
func (b *benchReader) leavesOutLine(marks benchMarks, from, to int) bool {
	if len(marks.names) != 1 || len(marks.amounts) > 0 {
		return false
	}
	name := marks.names[0]
	return b.between(from, name.from, leavesSo) && name.to < to && b.toks[name.to].word == "out"
}

// tooMuch reports whether so much of a line is said to be more than was wanted.
func (b *benchReader) tooMuch(marks benchMarks) bool {
	if len(marks.amounts) != 1 || len(marks.names) != 1 || !inMeasures(marks.amounts[0].amount.Amount) {
		return false
	}
	at := marks.amounts[0].to
	return at+1 < len(b.toks) && b.toks[at].word == "too" && (b.toks[at+1].word == "much" || b.toks[at+1].word == "many")
}

// toldAnew reports whether one amount is said anew of one line of the batch, and nothing was added.
func (b *benchReader) toldAnew(marks benchMarks, to int) bool {
	if len(marks.amounts) != 1 || len(marks.names) != 1 || marks.roles&(benchMore|benchBroke) != 0 || marks.roles&benchLeft != 0 && b.toks[max(0, marks.amounts[0].from-1)].word != "only" || marks.amounts[0].amount.Amount.Open() != quantity.NotOpen {
		return false
	}
	if line, _ := b.lineOfName(marks.names[0]); line < 0 {
		return false
	}
	amount, name := marks.amounts[0], marks.names[0]
	for i := name.to; i < amount.from; i++ {
		if wasSo[b.toks[i].word] {
			return true
		}
	}
	return reallySo[b.toks[to-1].word]
}

// leftSo reports whether a sentence begins with what is left to itself, and ends in for how long.
func (b *benchReader) leftSo(from int, wait *mark) bool {
	if leftWords[b.toks[from].word] {
		return wait.from <= from+4
	}
	return false
}

// wasSo stand before what something came to.
var wasSo = wordSet("wasSo")

// reallySo say that it was so.
var reallySo = wordSet("reallySo")

// leftWords say that something was left standing.
var leftWords = wordSet("leftWords")

// How a pH is told.
var (
	phSaid = regexp.MustCompile(`(?i)\bp\s?h\b\D{0,14}?(\d{1,2}(?:[.,]\d{1,2})?)`)
	// phShown is what a device for it shows, and phInWords what stands before a pH that is said in words.
	phShown   = regexp.MustCompile(`(?i)\b(meter|metre|probe|strip|strips|paper|test paper) (?:says|shows|showed|reads|read|said|gave|gives|is at|was at|at)(?: about| around)? (\d{1,2}(?:[.,]\d{1,2})?)\b`)
	phTwice   = regexp.MustCompile(`(?i)\b\d{1,2}(?:[.,]\d{1,2})? (?:before|after|first|then|now|at first|at the start|at the end)\b`)
	phInWords = regexp.MustCompile(`(?i)\bp\s?h\b(?: is| was| of| at| came| now| about| around|'s)*\s+`)
)

// Words that tell how two things that are said belong together: what is to be said of one, what took another's place, how
// often, what was weighed.
var (
	tellsOfBefore = wordSet("tellsOfBefore")
	partsTold     = wordSet("partsTold")
	wantedSo      = wordSet("wantedSo")
	insteadSo     = wordSet("insteadSo")
	swapWords     = wordSet("swapWords")
	forWords      = wordSet("forWords")
	tookInstead   = wordSet("tookInstead")
	manyTimes     = wordSet("manyTimes")
	weighedSo     = wordSet("weighedSo")
	leavesSo      = wordSet("leavesSo")
	addsSo        = wordSet("addsSo")
	putsSo        = wordSet("putsSo")
	wished        = wordSet("wished")
)
