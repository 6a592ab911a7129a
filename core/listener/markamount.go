package listener

// Amounts as marks: how far one goes, and numbers that say their unit or their hundreds by where they stand.

import (
	"regexp"
	"strconv"
	"strings"

	"keencrock/core/quantity"
)

// toppedUp takes a mere number behind “up to” for millilitres, where those were said before: “300 ml of water, top up to 500”.
func (r *reader) toppedUp(i int, m *mark) {
	if !r.ofGood || m.kind != anAmount || m.amount.Amount.Unit() != quantity.Bare || i < 2 || r.toks[i-1].word != "to" || r.toks[i-2].word != "up" || !mlSaid.MatchString(r.clean[:r.toks[i].from]) {
		return
	}
	if n, ok := m.amount.Amount.Pieces(); !ok || n.Value < mostCounted {
		return
	}
	if with, ok := m.amount.Amount.InUnitOf(quantity.Of(1, 1, quantity.Millilitre)); ok {
		m.amount.Amount, m.written = with.Total(), with.Total().String()
	}
}

// mlSaid finds millilitres.
var mlSaid = regexp.MustCompile(`(?i)\d\s?ml\b`)

// hundredsAt reads “one fifty salt” and “one twenty five citric”, where no price can be meant: hundreds that are said
// without their name.
func (r *reader) hundredsAt(i int) (mark, bool) {
	if !r.ofGood || i+2 >= len(r.toks) || r.toks[i].kind != isWord || r.toks[i+1].kind != isWord {
		return mark{}, false
	}
	n, tens := wholeWord(r.toks[i].word), wholeWord(r.toks[i+1].word)
	if n < 1 || n > 9 || tens < 20 || tens > 90 || tens%10 != 0 {
		return mark{}, false
	}
	to, all := i+2, 100*n+tens
	if r.toks[to].word == "-" && to+1 < len(r.toks) {
		to++
	}
	if ones := wholeWord(r.toks[to].word); ones > 0 && ones < 10 {
		to, all = to+1, all+ones
	} else {
		to = i + 2
	}
	if !r.startsNameAt(to) {
		return mark{}, false
	}
	return mark{kind: anAmount, from: i, to: to, end: to, amount: quantity.Reading{Amount: quantity.Of(all, 1, quantity.Bare)}, written: strconv.FormatInt(all, 10)}, true
}

// wholeWord is a whole number that is one word; 0 for any other.
func wholeWord(word string) int64 {
	if !quantity.IsNumber(word) {
		return 0
	}
	value, n := wordNumber(word)
	if n != len(word) || !value.IsInteger() {
		return 0
	}
	return value.IntPart()
}

// pinchAt reports whether a vague measure stands alone behind a name, where what is said of it ends.
func (r *reader) pinchAt(i int) bool {
	n := len(r.out)
	if n == 0 || r.out[n-1].kind != aName || r.out[n-1].to != i || i+1 < len(r.toks) && r.toks[i+1].kind != isSign && r.toks[i+1].kind != isBreak {
		return false
	}
	u, ok := quantity.UnitNamed(r.toks[i].word)
	return ok && isVague(quantity.Of(1, 1, u)) && (n == 1 || r.out[n-2].kind != anAmount)
}

// amountAt reads an amount, a time or a temperature at a token, where one is longer than
// what was found there.
func (r *reader) amountAt(i int, best mark) mark {
	at := r.toks[i].from
	if w, end, ok := quantity.ReadWaitPrefix(clip(r.clean[at:])); ok && !w.IsZero() {
		if to := r.sentenceEnd(i, r.tokenAt(i, at+end)); (to > best.to || to == best.to && best.kind == aWord) && !r.unitIsMeasure(i, to) {
			best = mark{kind: aWait, from: i, to: to}
		}
	}
	if to := r.warmthAt(i); to > 0 {
		return mark{kind: aWarmth, from: i, to: to}
	}
	if i+1 < len(r.toks) && (r.toks[i].word == "to" || r.toks[i].word == "at") && warmth.MatchString(clip(r.clean[r.toks[i+1].from:])) {
		return best // “heat to 70 C”
	}
	reading, ok := quantity.ReadSaid(r.clean[at:r.stopAfter(i)])
	if !ok {
		reading, ok = r.oneOfUnit(i)
	}
	if end := r.tokenAt(i, at+reading.At); ok && reading.Amount.Unit() == quantity.Spritz && end > i+1 && end < len(r.toks) && partsOfSpray[r.toks[end].word] { // “50 spray tops”
		reading, ok = quantity.ReadSaid(r.clean[at:r.toks[end-2].to])
	}
	if sum := sumIn(r.clean[at:], reading.At); ok && sum != nil && r.startsNameAt(r.tokenAt(i, at+reading.At)) {
		n := len(r.out)
		before, fits := quantity.ReadSaid(r.clean[at : at+sum[0]])
		named := n > 0 && r.out[n-1].kind == aName                                                        // “water 180 ml + 3 drops oil”: the sum is of two things
		held := fits && isSizeOf(&amountSaid{Reading: before, written: r.clean[at : at+sum[0]], from: i}) // “in a 250 ml bottle and 20 drops of lavender”
		if fits && (named || held) {
			reading = before
		}
	}
	if ok && r.toks[i].word == "single" && i+1 < len(r.toks) && !r.startsNameAt(i+1) && reading.Amount.Unit() == quantity.Bare { // “into single moulds”
		return best
	}
	if ok && r.verbAtHead(i, reading.Amount.Unit()) { // “Sprinkle xanthan into the soap”
		return mark{kind: aPhrase, from: i, to: i + 1, meaning: &meaning{roles: step}}
	}
	if end := r.tokenAt(i, at+reading.At); ok && end > i && end < len(r.toks) && r.toks[end-1].word == "stick" && strings.HasPrefix(r.toks[end].word, "blend") { // “with a stick blender”
		return best
	}
	if !ok || reading.Amount.IsZero() || reading.Amount.UpTo() && reading.Amount.Unit() == quantity.Bare {
		return best
	}
	to := r.tokenAt(i, at+reading.At)
	to = r.sentenceEnd(i, to)
	if to > i+1 && r.toks[to-1].word == ")" && !strings.Contains(r.clean[at:r.toks[to-1].from], "(") { // “(2 x 250 ml)” closes what opened before
		to--
	}
	if to < best.to || to == best.to && best.kind != aWord && !(best.kind == aPhrase && !best.is(manner|per|factored|same|rest|top|cover|fill|machine|yield|thing|step|none|scrap|correct)) {
		return best
	}
	m := mark{kind: anAmount, from: i, to: to, amount: reading}
	m.end = to
	if to > i+1 && r.toks[to-1].word == "of" {
		m.end = to - 1
	} else if to > i+2 && r.toks[to-1].word == "the" && r.toks[to-2].word == "of" {
		m.end = to - 2
	}
	if m.end == to-1 && to+1 < len(r.toks) && (r.toks[to].word == "it" || r.toks[to].word == "this" || r.toks[to].word == "that") && ofItTo[r.toks[to+1].word] { // “100 ml of it in a litre of water”
		m.to++
	}
	first := r.toks[i].word
	m.article = reading.Amount.Unit() == quantity.Bare && to == i+1 && (first == "a" || first == "an")
	m.total = reading.Amount.UpTo() && first == "to"
	if reading.Amount.Unit() == quantity.Bare && best.kind == aWait {
		return best
	}
	return m
}

// partsOfSpray are what a bottle is sprayed with.
var partsOfSpray = wordSet("partsOfSpray")

// warmthAt is the token after a warmth that begins at a token: “60 °C”, “about 40 degrees”; 0 where none does.
func (r *reader) warmthAt(i int) int {
	at := r.toks[i].from
	if m := warmth.FindStringIndex(clip(r.clean[at:])); m != nil {
		return r.tokenAt(i, at+m[1])
	}
	if i+1 < len(r.toks) && quantity.IsAbout(r.toks[i].word) && warmth.MatchString(clip(r.clean[r.toks[i+1].from:])) { // “at about 40 °C”
		return r.tokenAt(i, r.toks[i+1].from+len(warmth.FindString(clip(r.clean[r.toks[i+1].from:]))))
	}
	if to := r.bareWarmth(i); to > 0 {
		return to
	}
	return 0
}

// oneOfUnit reads an amount that begins with its unit, one of it: “kilo bag of epsom salts”, “cup and a half of bicarb”,
// “tablespoon salt”.
func (r *reader) oneOfUnit(i int) (reading quantity.Reading, ok bool) {
	u, unit := quantity.UnitNamed(r.toks[i].word)
	if !unit {
		return reading, false
	}
	at := r.toks[i].from
	if (u == quantity.Kilogram || u == quantity.Litre) && i+1 < len(r.toks) && (i == 0 || r.toks[i-1].kind != isNumber) { // “kilo bag of epsom salts”
		if pack, is := quantity.UnitNamed(r.toks[i+1].word); is && isPack(pack) {
			if with, fits := quantity.ReadSaid("a " + r.clean[at:r.stopAfter(i)]); fits && with.At > 2 {
				with.At -= 2
				return with, true
			}
		}
	}
	if u.Kind() == quantity.Volume && i+3 < len(r.toks) && r.toks[i+1].word == "and" && (i == 0 || r.toks[i-1].kind != isNumber && !articles[r.toks[i-1].word]) { // “cup and a half of bicarb”
		if with, fits := quantity.ReadSaid("a " + r.clean[at:r.stopAfter(i)]); fits && strings.Contains(r.clean[at:at+with.At-2], " and ") {
			with.At -= 2
			return with, true
		}
	}
	last := i
	if i+1 < len(r.toks) && r.toks[i+1].word == "full" { // “cap full”
		last++
	}
	if u == quantity.Bar && i+1 < len(r.toks) && r.toks[i+1].word == "of" && r.startsNameAt(i+2) && (i == 0 || r.toks[i-1].kind == isSign || r.toks[i-1].kind == isBreak) { // “…; bar of soap, grated; …”
		return quantity.Reading{Amount: quantity.Of(1, 1, u), At: r.toks[i+1].to - at}, true
	}
	if (u.Kind() == quantity.Volume || u.Kind() == quantity.Mass) && !isVessel(u) && (r.startsNameAt(last+1) || i > 0 && r.isPer(i-1, i) || r.lexIs(last+1, per) || last+1 < len(r.toks) && r.toks[last+1].word == "per" || r.beginsSentence(i) && i+1 < len(r.toks) && r.toks[i+1].word == "in") { // “tablespoon salt”, “per litre”, “tablespoon a load”
		if a, err := quantity.Parse("1 " + r.toks[i].word); err == nil {
			return quantity.Reading{Amount: a, At: r.toks[last].to - at}, true
		}
	}
	return reading, false
}

// sumIn is where the first part of an amount that is written with so many letters ends, and what joins the two; nil
// where it is one.
func sumIn(text string, to int) []int {
	if to <= 0 || !strings.ContainsAny(text[:to], "+&") && !strings.Contains(text[:to], "and") && !strings.Contains(text[:to], "plus") {
		return nil
	}
	return sumWord.FindStringIndex(text[:to])
}

// sumWord joins two amounts that may be of one thing, or of two.
var sumWord = regexp.MustCompile(`(?i)\s*(?:\+|&|\band\b|\bplus\b)`)

// verbAtHead reports whether a word at the head of a sentence is what is done, and no measure.
func (r *reader) verbAtHead(i int, u quantity.Unit) bool {
	if i > 0 && !r.beginsSentence(i) || i+1 >= len(r.toks) || !r.startsNameAt(i+1) {
		return false
	}
	if measuresDone[r.toks[i].word] {
		return u != quantity.Bare && len(r.out) > 0
	}
	return false
}

// ofItTo stand behind “of it” where so much of what was made goes with something else.
var ofItTo = wordSet("ofItTo")

// longestAmount is how many tokens an amount has at the most.
const longestAmount = 40

// measuresDone are small measures that are also done.
var measuresDone = wordSet("measuresDone")
