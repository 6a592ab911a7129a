package listener

import (
	"regexp"
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
	if m, ok := r.certainAt(i); ok {
		return m
	}
	best := mark{kind: aWord, from: i, to: i + 1}
	if t.kind == isSign {
		return best
	}
	if m, ok := r.timeAt(i); ok {
		return m
	}
	if m, n := r.phraseAt(i); n > 0 {
		best = mark{kind: aPhrase, from: i, to: i + n, meaning: m}
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
		if best.kind == anAmount && best.to == i+2 && articles[t.word] && kindsToo[r.toks[i+1].word] && best.to < len(r.toks) && r.lexIs(best.to, kind) { // “a glass spray” is no glass of anything
			return mark{kind: aPhrase, from: i, to: i + 1, meaning: &meaning{roles: small}}
		}
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

// certainAt is the mark of words that are read before any phrase is looked for: “no. 2”, “pH 9”, “batch of 2 kilos”.
func (r *reader) certainAt(i int) (mark, bool) {
	t := &r.toks[i]
	if t.word == "no" && i+2 < len(r.toks) && r.toks[i+1].word == "." && r.toks[i+2].kind == isNumber { // “powder no. 2: …”
		return mark{kind: aPhrase, from: i, to: i + 3, meaning: &meaning{roles: small}}, true
	}
	if t.word == "no" && i+2 < len(r.toks) && r.toks[i+1].word == "-" && r.toks[i+1].tight && r.toks[i+2].tight && r.toks[i+2].kind == isWord { // “no-grate laundry liquid: …”
		return mark{kind: aWord, from: i, to: i + 3}, true
	}
	if t.word == "ph" && i+1 < len(r.toks) {
		if to := r.sourness(i); to > i+1 {
			return mark{kind: aWord, from: i, to: to}, true
		}
	}
	if t.word == "batch" && r.ofGood && i+1 < len(r.toks) && r.toks[i+1].kind == isNumber { // “Batch 5 kg”
		if m := r.amountAt(i+1, mark{kind: aWord, from: i + 1, to: i + 2}); m.kind == anAmount && isWhole(m.amount.Amount) {
			return mark{kind: aPhrase, from: i, to: i + 1, meaning: &meaning{roles: yield}}, true
		}
	}
	if t.word == "batch" && i+2 < len(r.toks) && r.toks[i+1].word == "of" && (r.toks[i+2].kind == isNumber || quantity.IsNumber(r.toks[i+2].word)) { // “…, batch of 2 kilos”
		return mark{kind: aPhrase, from: i, to: i + 2, meaning: &meaning{roles: yield}}, true
	}
	if t.word == "so" {
		if to := r.purposeAt(i); to > 0 {
			return mark{kind: aPhrase, from: i, to: to, meaning: &meaning{roles: manner}}, true
		}
	}
	if waterSorts[t.word] && i > 0 && i+1 < len(r.toks) && r.toks[i+1].word == "water" && r.sortsWater(i) { // “40 g in hard water, 25 in soft”
		return mark{kind: aWord, from: i, to: i + 2}, true
	}
	if i > 0 && i+1 < len(r.toks) && r.toks[i+1].word == "times" && (t.kind == isNumber || quantity.IsNumber(t.word)) && (stirsSo[r.toks[i-1].word] || i > 1 && stirsSo[r.toks[i-2].word]) { // “stir 20 times”
		return mark{kind: aPhrase, from: i, to: i + 2, meaning: &meaning{roles: manner}}, true
	}
	if t.word == "spray" && i+1 < len(r.toks) && partsOfSpray[r.toks[i+1].word] { // “50 spray tops”
		return mark{kind: aWord, from: i, to: i + 2}, true
	}
	return mark{}, false
}

// stirsSo are what is done a number of times.
var stirsSo = wordSet("stirsSo")

// timeAt is the mark of a time: one that heads a line, “Week 3 - strain”, or a wait that is said by a number alone.
func (r *reader) timeAt(i int) (mark, bool) {
	t := &r.toks[i]
	if i+2 < len(r.toks) && (t.word == "week" || t.word == "day" || t.word == "month" || t.word == "step") && (r.toks[i+1].kind == isNumber || quantity.IsNumber(r.toks[i+1].word)) && (r.toks[i+2].word == "-" || r.toks[i+2].word == "–" || r.toks[i+2].word == ":" || r.toks[i+2].word == ")") { // “Week 3 - strain”
		return mark{kind: aPhrase, from: i, to: i + 2, meaning: &meaning{roles: small}}, true
	}
	if to := r.bareWait(i); to > 0 {
		return mark{kind: aWait, from: i, to: to}, true
	}
	return mark{}, false
}

// phraseAt is the longest phrase of the lexicon that begins at a token, and how many tokens it has; 0 where none does.
func (r *reader) phraseAt(i int) (m *meaning, n int) {
	most := len(r.toks)
	if r.nextFact < len(r.facts) && r.facts[r.nextFact].from < r.toks[i].from+longestLook { // a fact that begins within a phrase goes before it
		most = max(i+1, r.tokenAt(i, r.facts[r.nextFact].from))
	}
	for {
		m, n = r.lex.at(r.toks[:min(most, len(r.toks))], i)
		if n > 1 && i+n < len(r.toks) && r.toks[i+n].word == "of" && m.is(small|place|per) && r.toks[i+n-1].word != "of" {
			most = i + n - 1 // “in a bucket of water” is no place
			continue
		}
		return m, n
	}
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

// kindsToo are measures that also say of which kind a good is: “a glass spray”.
var kindsToo = wordSet("kindsToo")

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
