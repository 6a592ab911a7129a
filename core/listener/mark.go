package listener

import (
	"regexp"
	"strconv"
	"strings"

	"keencrock/core/quantity"
)

// markKind is what is certain of a stretch of a text.
type markKind uint8

const (
	aWord    markKind = iota // nothing certain
	anAmount                 // how much
	aName                    // a material
	aPhrase                  // a phrase of the lexicon
	aRatio                   // 1:4, equal parts
	aWait                    // two weeks
	aWarmth                  // 60 °C
	aStop                    // . ; ! ? and the end of a line
	aComma
	aColon
	aDash
	anOpening // (
	aClosing  // )
	aSlash
	aBullet
	aFact // a price, a day, a code or a supplier of a delivery
)

// mark is what a stretch of tokens is.
type mark struct {
	kind     markKind
	from, to int // tokens
	amount   quantity.Reading
	article  bool              // an amount that is no more than “a”
	total    bool              // an amount after a mere “to”, which may be a total or join two things
	written  string            // where it is not what stands there
	end      int               // of an amount without the “of” after it
	spot     spot              // of a name
	meaning  *meaning          // of a phrase
	fact     int               // which one
	shares   []quantity.Amount // of a ratio; one stands for all
}

func (m *mark) is(r roles) bool { return m.kind == aPhrase && m.meaning.is(r) }

// marks finds what is certain, wherever it stands.
func (r *reader) marks() {
	r.out = make([]mark, 0, len(r.toks))
	for i := 0; i < len(r.toks); {
		m := r.markAt(i)
		r.out = append(r.out, m)
		i = m.to
	}
}

// markAt is the mark that begins at a token: the longest of a phrase, an amount and a
// name.
func (r *reader) markAt(i int) mark {
	t := &r.toks[i]
	if t.kind == isBreak {
		return mark{kind: aStop, from: i, to: i + 1}
	}
	if f, ok := r.factFrom(i); ok {
		return f
	}
	if t.kind == isSign {
		if m, ok := r.signAt(i); ok {
			return m
		}
	}
	if t.word == "no" && i+2 < len(r.toks) && r.toks[i+1].word == "." && r.toks[i+2].kind == isNumber { // “powder no. 2: …”
		return mark{kind: aPhrase, from: i, to: i + 3, meaning: &meaning{roles: small}}
	}
	if t.word == "no" && i+2 < len(r.toks) && r.toks[i+1].word == "-" && r.toks[i+1].tight && r.toks[i+2].tight && r.toks[i+2].kind == isWord { // “no-grate laundry liquid: …”
		return mark{kind: aWord, from: i, to: i + 3}
	}
	if t.word == "ph" && i+1 < len(r.toks) {
		if to := r.sourness(i); to > i+1 {
			return mark{kind: aWord, from: i, to: to}
		}
	}
	best := mark{kind: aWord, from: i, to: i + 1}
	if t.kind == isSign {
		return best
	}
	if i+2 < len(r.toks) && (t.word == "week" || t.word == "day" || t.word == "month" || t.word == "step") && r.toks[i+1].kind == isNumber && (r.toks[i+2].word == "-" || r.toks[i+2].word == "–" || r.toks[i+2].word == ":" || r.toks[i+2].word == ")") { // “Week 3 - strain”
		return mark{kind: aPhrase, from: i, to: i + 2, meaning: &meaning{roles: small}}
	}
	if to := r.bareWait(i); to > 0 {
		return mark{kind: aWait, from: i, to: to}
	}
	most := len(r.toks)
	if r.nextFact < len(r.facts) && r.facts[r.nextFact].from < t.from+longestLook { // a fact that begins within a phrase goes before it
		most = max(i+1, r.tokenAt(i, r.facts[r.nextFact].from))
	}
	for {
		m, n := r.lex.at(r.toks[:min(most, len(r.toks))], i)
		if n > 1 && i+n < len(r.toks) && r.toks[i+n].word == "of" && m.is(small|place|per) && r.toks[i+n-1].word != "of" {
			most = i + n - 1 // “in a bucket of water” is no place
			continue
		}
		if n > 0 {
			best = mark{kind: aPhrase, from: i, to: i + n, meaning: m}
		}
		break
	}
	if quantity.IsAbout(t.word) && i+1 < len(r.toks) {
		if m, n := r.lex.at(r.toks, i+1); m.is(same|factored) && n > 1 {
			return mark{kind: aPhrase, from: i, to: i + 1, meaning: &meaning{roles: small}} // “about half of that”
		}
	}
	if m, ok := r.ratioAt(i); ok && (m.to > best.to || m.to == best.to && best.kind == aWord) {
		return m
	}
	if m, ok := r.hundredsAt(i); ok {
		return m
	}
	if t.kind == isNumber || quantity.MayBegin(t.word) {
		best = r.amountAt(i, best)
		r.toppedUp(i, &best)
	}
	if i+3 < len(r.toks) && t.kind == isWord && r.toks[i+1].word == "-" && r.toks[i+1].tight && r.toks[i+2].word == "free" && r.toks[i+3].kind == isWord { // “SLS-free soap flakes”
		return mark{kind: aPhrase, from: i, to: i + 3, meaning: &meaning{roles: manner}}
	}
	if s, ok := r.nameAt(i); ok && !r.isMyGood(i, s) {
		if to := r.madeFrom(s); to > 0 {
			return mark{kind: aWord, from: i, to: to}
		}
		longer := s.to > best.to || s.to == best.to && (best.kind == aWord || best.kind == aPhrase && !best.is(kind|pieces|none|correct|scrap))
		if best.kind == anAmount {
			// “70 % alcohol” is a name; “3 lemons” is an amount of a thing
			u := best.amount.Amount.Unit()
			longer = s.to > best.to && s.name == i || s.to > best.to && best.article || s.to >= best.to && u == quantity.Percent && s.name == i
		}
		if longer {
			return mark{kind: aName, from: i, to: s.to, spot: s}
		}
	}
	if best.kind == aWord && r.pinchAt(i) { // “citric acid pinch”
		u, _ := quantity.UnitNamed(t.word)
		return mark{kind: anAmount, from: i, to: i + 1, end: i + 1, amount: quantity.Reading{Amount: quantity.Of(1, 1, u)}, written: "1 " + t.word}
	}
	return best
}

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

// usedPer are what a dose is of.
var usedPer = wordSet("usedPer")

// bareWait is the token after “wait fifteen”, “leave it 20”: minutes, whose name goes without
// saying, and no correction; 0 where nothing of that stands there.
func (r *reader) bareWait(i int) int {
	if !bareWaits[r.toks[i].word] {
		return 0
	}
	at := i + 1
	for at < len(r.toks) && at < i+3 && (r.toks[at].word == "it" || r.toks[at].word == "for" || r.toks[at].word == "about") {
		at++
	}
	if at >= len(r.toks) || r.toks[at].kind == isSign || r.toks[at].kind == isBreak {
		return 0
	}
	from := r.toks[at].from
	said, ok := quantity.ReadSaid(clip(r.clean[from:]))
	n, bare := said.Amount.Pieces()
	if !ok || !bare || said.Amount.Unit() != quantity.Bare || n.Value < fewMinutes {
		return 0
	}
	to := r.sentenceEnd(at, r.tokenAt(at, from+said.At))
	if to < len(r.toks) && r.toks[to].kind == isWord && !afterWait[r.toks[to].word] {
		return 0
	}
	return to
}

// bareWarmth is the token after a temperature said without its unit, “when both are around 38 pour …”; 0 for any
// other number.
func (r *reader) bareWarmth(i int) int {
	at := i
	if quantity.IsAbout(r.toks[at].word) {
		at++
	}
	if at >= len(r.toks) || r.toks[at].kind != isNumber || i == 0 {
		return 0
	}
	before := i - 1
	for before > 0 && before > i-3 && (r.toks[before].word == "at" || quantity.IsAbout(r.toks[before].word)) {
		before--
	}
	said, ok := quantity.ReadSaid(clip(r.clean[r.toks[at].from:]))
	n, bare := said.Amount.Pieces()
	if !ok || !bare || said.Amount.Unit() != quantity.Bare || n.Value < coolestLye || n.Value > hottestLye || !reaches[r.toks[before].word] || r.startsNameAt(at+1) {
		return 0
	}
	for tok := before; tok >= max(0, before-8) && r.toks[tok].kind != isBreak && r.toks[tok].word != "."; tok-- {
		if untils[r.toks[tok].word] {
			return at + 1
		}
	}
	return 0
}

// coolestLye and hottestLye are between which a number after “when both are at” is of degrees, Celsius or
// Fahrenheit. Common practice.
const (
	coolestLye = 20
	hottestLye = 150
)

// reaches stand before how warm something gets, and untils before what is waited for.
var reaches, untils = wordSet("reaches"), wordSet("untils")

// fewMinutes is the least that is said without “minutes”: “wait, two” corrects.
const fewMinutes = 5

var (
	bareWaits = wordSet("bareWaits")
	afterWait = wordSet("afterWait")
)

// sourness is the token after “pH 5.5” or “pH of 5 to 6”, which is no amount of anything.
func (r *reader) sourness(i int) int {
	at := i + 1
	for at < len(r.toks) && souring[r.toks[at].word] {
		at++
	}
	if at == len(r.toks) || r.toks[at].kind != isNumber {
		return 0
	}
	if at+2 < len(r.toks) && (r.toks[at+1].word == "-" || r.toks[at+1].word == "–" || r.toks[at+1].word == "to") && r.toks[at+2].kind == isNumber {
		return at + 3
	}
	return at + 1
}

// souring are words between “pH” and its figure.
var souring = wordSet("souring")

// madeFrom is the token after “sugar-based” or “vinegar-free”, which is not what it is made from;
// 0 for a name by itself.
func (r *reader) madeFrom(s spot) int {
	at := s.to
	if at < len(r.toks) && r.toks[at].word == "-" && r.toks[at].tight {
		at++
	} else if at < len(r.toks) && r.toks[at].word != "based" {
		return 0
	}
	if at < len(r.toks) && madeFroms[r.toks[at].word] && at+1 < len(r.toks) && r.toks[at+1].kind == isWord {
		return at + 1
	}
	return 0
}

// madeFroms end a word for what something is made from.
var madeFroms = wordSet("madeFroms")

// isMyGood reports whether a name is of what somebody makes: “my laundry liquid” is no
// bought one.
func (r *reader) isMyGood(i int, s spot) bool {
	if w := r.toks[i].word; s.name == i || w != "my" && w != "our" && w != "your" {
		return false
	}
	m, n := r.lex.at(r.toks, s.name)
	return m.is(kind) && s.name+n == s.to
}

// factFrom is the fact that begins at a token.
func (r *reader) factFrom(i int) (mark, bool) {
	for r.nextFact < len(r.facts) && r.facts[r.nextFact].from < r.toks[i].from {
		r.nextFact++
	}
	if r.nextFact == len(r.facts) || r.facts[r.nextFact].from != r.toks[i].from {
		return mark{}, false
	}
	return mark{kind: aFact, from: i, to: max(i+1, r.tokenAt(i, r.facts[r.nextFact].to)), fact: r.nextFact}, true
}

// signAt reads a sign that parts what is said.
func (r *reader) signAt(i int) (m mark, ok bool) {
	m = mark{from: i, to: i + 1}
	lone := !r.toks[i].tight || i+1 == len(r.toks) || !r.toks[i+1].tight
	switch r.toks[i].word {
	case ".", "!", "?", "…", ";":
		m.kind = aStop
		if r.toks[i].word == "." && !endsSentence(r.text, r.toks, i) {
			m.kind = aBullet
		}
	case ",", "،", "、":
		m.kind = aComma
	case ":", "=", "→":
		m.kind = aColon
	case "&", "+":
		m.kind, m.meaning = aPhrase, &meaning{roles: joiner}
	case "(", "[", "{":
		m.kind = anOpening
	case ")", "]", "}":
		m.kind = aClosing
	case "/":
		m.kind = aSlash
		if i+1 < len(r.toks) && usedPer[r.toks[i+1].word] { // “1/4 cup/load”
			m.kind, m.to, m.meaning = aPhrase, i+2, &meaning{roles: per}
		}
	case "–", "—":
		m.kind = aDash
	case "-":
		if !lone {
			return m, false
		}
		m.kind = aDash
	case "•", "*", "·", "▪", "◦", "●", "|", "_", "#", "✓", "☐", "✔":
		m.kind = aBullet
	case "€", "£", "$", "₹", "₦": // what it cost says nothing of what goes in
		if i+1 == len(r.toks) || r.toks[i+1].kind != isNumber {
			return m, false
		}
		m.kind, m.to, m.meaning = aPhrase, i+2, &meaning{roles: small}
	default:
		return m, false
	}
	return m, true
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
	if m := warmth.FindStringIndex(clip(r.clean[at:])); m != nil {
		return mark{kind: aWarmth, from: i, to: r.tokenAt(i, at+m[1])}
	}
	if i+1 < len(r.toks) && quantity.IsAbout(r.toks[i].word) && warmth.MatchString(clip(r.clean[r.toks[i+1].from:])) { // “at about 40 °C”
		return mark{kind: aWarmth, from: i, to: r.tokenAt(i, r.toks[i+1].from+len(warmth.FindString(clip(r.clean[r.toks[i+1].from:]))))}
	}
	if to := r.bareWarmth(i); to > 0 {
		return mark{kind: aWarmth, from: i, to: to}
	}
	if i+1 < len(r.toks) && (r.toks[i].word == "to" || r.toks[i].word == "at") && warmth.MatchString(clip(r.clean[r.toks[i+1].from:])) {
		return best // “heat to 70 C”
	}
	reading, ok := quantity.ReadSaid(r.clean[at:r.stopAfter(i)])
	if u, unit := quantity.UnitNamed(r.toks[i].word); !ok && unit && (u == quantity.Kilogram || u == quantity.Litre) && i+1 < len(r.toks) && (i == 0 || r.toks[i-1].kind != isNumber) { // “kilo bag of epsom salts”
		if pack, is := quantity.UnitNamed(r.toks[i+1].word); is && isPack(pack) {
			if with, fits := quantity.ReadSaid("a " + r.clean[at:r.stopAfter(i)]); fits && with.At > 2 {
				reading, ok = with, true
				reading.At -= 2
			}
		}
	}
	if u, unit := quantity.UnitNamed(r.toks[i].word); !ok && unit && u.Kind() == quantity.Volume && i+3 < len(r.toks) && r.toks[i+1].word == "and" && (i == 0 || r.toks[i-1].kind != isNumber && !articles[r.toks[i-1].word]) { // “cup and a half of bicarb”
		if with, fits := quantity.ReadSaid("a " + r.clean[at:r.stopAfter(i)]); fits && strings.Contains(r.clean[at:at+with.At-2], " and ") {
			reading, ok = with, true
			reading.At -= 2
		}
	}
	last := i
	if i+1 < len(r.toks) && r.toks[i+1].word == "full" { // “cap full”
		last++
	}
	if u, unit := quantity.UnitNamed(r.toks[i].word); !ok && unit && u == quantity.Bar && i+1 < len(r.toks) && r.toks[i+1].word == "of" && r.startsNameAt(i+2) && (i == 0 || r.toks[i-1].kind == isSign || r.toks[i-1].kind == isBreak) { // “…; bar of soap, grated; …”
		reading, ok = quantity.Reading{Amount: quantity.Of(1, 1, u), At: r.toks[i+1].to - at}, true
	}
	if u, unit := quantity.UnitNamed(r.toks[i].word); !ok && unit && (u.Kind() == quantity.Volume || u.Kind() == quantity.Mass) && !isVessel(u) && (r.startsNameAt(last+1) || i > 0 && r.isPer(i-1, i) || r.lexIs(last+1, per) || last+1 < len(r.toks) && r.toks[last+1].word == "per" || r.beginsSentence(i) && i+1 < len(r.toks) && r.toks[i+1].word == "in") { // “tablespoon salt”, “per litre”, “tablespoon a load”
		if a, err := quantity.Parse("1 " + r.toks[i].word); err == nil {
			reading, ok = quantity.Reading{Amount: a, At: r.toks[last].to - at}, true
		}
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
	switch r.toks[i].word {
	case "sprinkle", "shake", "squeeze", "spray", "drop", "dash":
		return u != quantity.Bare && len(r.out) > 0
	}
	return false
}

// ofItTo stand behind “of it” where so much of what was made goes with something else.
var ofItTo = wordSet("ofItTo")

// beginsSentence reports whether a token is the first after a stop.
func (r *reader) beginsSentence(i int) bool {
	n := len(r.out)
	return n > 0 && r.out[n-1].kind == aStop && r.out[n-1].to == i
}

// stopAfter is where the sentence of a token ends, in bytes: no amount goes on behind it.
func (r *reader) stopAfter(i int) int {
	for k := i + 1; k < len(r.toks) && k < i+longestAmount; k++ {
		switch t := &r.toks[k]; {
		case t.kind == isBreak, t.word == ";":
			return t.from
		case t.word == "." && endsSentence(r.text, r.toks, k):
			return t.to
		case r.nextFact < len(r.facts) && r.facts[r.nextFact].from == t.from && (r.toks[k-1].word == "=" || r.toks[k-1].word == "(" || quantity.IsFill(r.toks[i].word)): // “1 kg = 11.80”, “1 kg (4.20)”, “50 bags small 22.00” end before the price
			return r.toks[k-1].from
		}
	}
	return len(r.clean)
}

// longestAmount is how many tokens an amount has at the most.
const longestAmount = 40

// sentenceEnd leaves out the stop that what was read took with it: it ends the sentence,
// and is not of “tbsp.”.
func (r *reader) sentenceEnd(i, to int) int {
	if to > i+1 && r.toks[to-1].word == "." && endsSentence(r.text, r.toks, to-1) {
		return to - 1
	}
	return to
}

// unitIsMeasure reports whether what was read as a time ends in one letter that is a
// measure, or stands apart: “2 m”, “3 d”.
func (r *reader) unitIsMeasure(i, to int) bool {
	last := r.toks[to-1].word
	return len(last) == 1 && last != "h" && r.toks[to-1].kind == isWord
}

var warmth = regexp.MustCompile(`^\d{2,3}\s*(?:°\s*[CF]?\b|℃|degrees?(?:\s+(?:c|celsius|centigrade|f|fahrenheit))?\b|C\b|F\b)`)

// tokenAt is the first token, from i on, that begins at or after a byte.
func (r *reader) tokenAt(i, at int) int {
	for i < len(r.toks) && r.toks[i].from < at {
		i++
	}
	return i
}

// longestLook is how far a pattern looks, in bytes.
const longestLook = 120

func clip(s string) string {
	if len(s) <= longestLook {
		return s
	}
	return strings.ToValidUTF8(s[:longestLook], "")
}

// isState reports whether a word says of a material no more than its state.
func isState(word string, rest []string) bool {
	name := ""
	if len(rest) > 1 {
		name = rest[len(rest)-1]
		for _, w := range rest[1:] {
			if w == "water" || w == "waters" {
				name = "water"
			}
		}
	}
	_, ok := quantity.StateOf(word, name)
	return ok
}
