package listener

import (
	"slices"
	"strings"
	"time"

	"github.com/shopspring/decimal"
)

// jarReader reads jars word by word.
type jarReader struct {
	*reader
	o              JarOptions
	goods, parties []spokenName
	acts           []*actSaid
	act            int      // that is being read; −1 for none
	count          int      // that was said and waits for its good
	countAt        int      // the token it begins at
	weight         byWeight // likewise said, and waiting
	uncounted      bool     // nothing said how many of the good that was named last
	fresh          bool     // a sentence began
	unsure         []Unsure
	kind           MovedKind // said before any good of the sentence
	to             string    // likewise
	toKnown        bool
	on             time.Time
	lastGood       int
	hasGood        bool
	wanted         bool
	back           bool       // “back” or “empties” was said before its number
	empty          bool       // likewise
	ahead          *priceSaid // “12 euros for two Coracle”
	due            due        // said before any good of the sentence
}

// walk reads what begins at a token, and returns where the next does.
func (j *jarReader) walk(i int) int {
	t := &j.toks[i]
	at := func() *Line {
		if j.act < 0 || j.fresh {
			return nil
		}
		return j.acts[j.act].line
	}
	if t.kind == isBreak || t.kind == isSign && (t.word == ";" || t.word == "." && endsSentence(j.clean, j.toks, i)) {
		j.becomes(i, i+1, AsSmallTalk, at())
		j.endSentence()
		return i + 1
	}
	if n, good := j.nameAt(j.goods, i); n > 0 {
		return j.goodSaid(i, n, good)
	}
	if n, party := j.nameAt(j.parties, i); n > 0 {
		j.partySaid(j.o.Parties[party], true)
		j.becomes(i, i+n, AsSupplier, at())
		return i + n
	}
	if next := j.dueSaid(i); next > i {
		return next
	}
	if next := j.moneyAt(i); next > i {
		return next
	}
	if next := j.dayAt(i); next > i {
		return next
	}
	if next := j.weightAt(i); next > i {
		return next
	}
	if t.kind == isNumber || t.kind == isWord && t.word != "half" {
		if n, to := j.countAtToken(i); n > 0 {
			return j.countSaid(i, to, n)
		}
	}
	if t.kind == isWord {
		return j.wordAt(i)
	}
	j.becomes(i, i+1, AsSmallTalk, at())
	return i + 1
}

// nameAt is the longest name that begins at a token, and how many it takes. The last word
// may be of several: “six Towpaths”.
func (j *jarReader) nameAt(names []spokenName, i int) (n, of int) {
	if i >= len(j.toks) {
		return 0, 0
	}
	if j.toks[i].kind == isWord && j.toks[i].word == "the" && i+1 < len(j.toks) { // “the Saturday stall”
		if n, of := j.nameAt(names, i+1); n > 0 {
			return n + 1, of
		}
		return 0, 0
	}
	for _, name := range names {
		k, w := i, 0
		for ; w < len(name.words) && k < len(j.toks); k++ {
			if j.toks[k].kind == isSign { // an apostrophe, a dash
				if w == 0 || j.toks[k].word == "," || j.toks[k].word == ";" || j.toks[k].word == "." {
					break
				}
				continue
			}
			word := j.toks[k].word
			if word != name.words[w] && (w+1 < len(name.words) || word != name.words[w]+"s" && word != name.words[w]+"'s") {
				break
			}
			w++
		}
		if w == len(name.words) {
			return k - i, name.of
		}
	}
	return 0, 0
}

// partySaid says who.
func (j *jarReader) partySaid(name string, known bool) {
	if j.act >= 0 && !j.fresh {
		a := j.acts[j.act]
		if a.To == "" {
			a.To, a.Known = name, known
			return
		}
		if a.To == name {
			return
		}
		j.endSentence() // somebody else
	}
	j.to, j.toKnown = name, known
}

// goodSaid is a good, with the number before it, or one.
func (j *jarReader) goodSaid(i, n, good int) int {
	kind := j.kind
	if j.back {
		kind = MovedBack
	}
	a := j.now(kind)
	count, from := j.count, i
	j.uncounted = count == 0 && j.weight.isZero()
	if !j.uncounted {
		from = j.countAt
	} else {
		count = 1
	}
	to := i + n
	if to+1 < len(j.toks) && (j.toks[to].word == "x" || j.toks[to].word == "×") { // “Towpath x 3”
		if times, end := j.countAtToken(to + 1); times > 0 {
			count, to, j.uncounted = times, end, false
		}
	}
	a.Lines = append(a.Lines, MovedLine{Good: good, Count: count, byWeight: j.weight, Empty: j.empty})
	j.becomes(from, to, AsAmount, a.line)
	j.becomes(i, i+n, AsMaterial, a.line)
	if j.ahead != nil {
		j.priced(j.ahead)
	}
	j.count, j.weight, j.lastGood, j.hasGood, j.back, j.empty, j.ahead = 0, byWeight{}, good, true, false, false, nil
	return to
}

// countAtToken reads a whole number, and where it ends.
func (j *jarReader) countAtToken(i int) (n, to int) {
	t := &j.toks[i]
	if t.word == "a" || t.word == "an" {
		return 0, 0
	}
	value, length := wordNumber(j.clean[t.from:])
	if length == 0 || !value.IsInteger() || !value.IsPositive() || value.GreaterThan(decimal.NewFromInt(maxJars)) {
		return 0, 0
	}
	end := t.from + length
	for to = i; to < len(j.toks) && j.toks[to].from < end; to++ {
		if j.toks[to].kind == isWord && to > i && !isNumberWord(j.toks[to].word) { // “two Towpath”: the number alone
			break
		}
	}
	return int(value.IntPart()), max(to, i+1)
}

// maxJars refuses slips of the pen.
const maxJars = 1000

func isNumberWord(w string) bool {
	v, n := wordNumber(w)
	return n > 0 && v.IsPositive() || w == "dozen" || w == "hundred"
}

// countSaid keeps a number for the good that follows; one without a good is of the last.
func (j *jarReader) countSaid(i, to, n int) int {
	j.count, j.countAt = n, i
	j.becomes(i, to, AsAmount, nil)
	k := to
	for k < len(j.toks) && j.toks[k].kind == isWord && (holderWords[j.toks[k].word] || smallWords[j.toks[k].word]) {
		k++
	}
	if k < len(j.toks) && j.toks[k].kind == isWord {
		word := j.toks[k].word
		switch {
		case emptyWords[word] && j.goodFollows(k+1): // “3 empty Towpath”
			j.back, j.empty = true, true
			j.becomes(to, k+1, AsStep, j.lineIfRead())
			return k + 1
		case emptyWords[word]:
			j.alone(MovedBack, true)
			j.becomes(to, k+1, AsStep, j.acts[max(j.act, 0)].line)
			return k + 1
		case backWords[word] && j.hasGood:
			j.alone(MovedBack, false)
			j.becomes(to, k+1, AsStep, j.acts[j.act].line)
			return k + 1
		case (soldWords[word] || tookWords[word]) && j.hasGood && !j.goodFollows(k+1):
			j.alone(MovedSold, false)
			j.becomes(to, k+1, AsStep, j.acts[j.act].line)
			return k + 1
		case givenWords[word] && j.hasGood && !j.goodFollows(k+1):
			j.alone(MovedGiven, false)
			j.becomes(to, k+1, AsStep, j.acts[j.act].line)
			return k + 1
		}
	}
	return to
}

// goodFollows reports whether a good stands before the clause ends.
func (j *jarReader) goodFollows(i int) bool {
	for ; i < len(j.toks) && (j.toks[i].kind == isWord || j.toks[i].kind == isNumber); i++ {
		if n, _ := j.nameAt(j.goods, i); n > 0 {
			return true
		}
	}
	return false
}

// alone is a number of the good that was named last: “two back”.
func (j *jarReader) alone(kind MovedKind, empty bool) {
	if !j.hasGood && !empty {
		return
	}
	if j.act >= 0 && !j.fresh && len(j.acts[j.act].Lines) > 0 && !j.acts[j.act].said { // what stands before it moved otherwise
		j.acts[j.act].Kind, j.acts[j.act].said = j.guess(j.acts[j.act]), true
	}
	a := j.now(kind)
	good := -1
	if j.hasGood {
		good = j.lastGood
	}
	a.Lines = append(a.Lines, MovedLine{Good: good, Count: j.count, byWeight: j.weight, Empty: empty})
	j.becomes(j.countAt, j.countAt+1, AsAmount, a.line)
	j.count, j.weight = 0, byWeight{}
}

// moneyAt reads a price: “4 each”, “for 21”, “at 3.50”.
func (j *jarReader) moneyAt(i int) int {
	from := j.toks[i].from
	p, ok := priceAt(j.clean, from, DeliveryOptions{Currency: j.o.Currency, Today: j.o.Today})
	if !ok || p.kind != aPrice && p.kind != aDeposit {
		if n, to := j.countAtToken(i); n > 0 && to < len(j.toks) && isEach(j.toks[to].word) { // “4 each”
			j.priced(&priceSaid{amount: decimal.NewFromInt(int64(n)), currency: j.o.Currency, of: ofEach})
			j.becomes(i, to+1, AsPrice, j.lineNow())
			return to + 1
		}
		return i
	}
	to := i
	for to < len(j.toks) && j.toks[to].from < p.to {
		to++
	}
	if to == i {
		return i
	}
	if n, _ := j.nameAt(j.goods, to); n > 0 && p.price.of == ofAll && !strings.ContainsAny(j.clean[from:p.to], "€$£₹₦¥.,") && p.price.unit == "" && j.bareAfterFor(i, to) { // “for 3 Heron”
		return i
	}
	if p.kind == aDeposit {
		j.becomes(i, to, AsRemark, j.lineNow())
		j.doubt("deposit", "The deposit is taken from the price list.")
		return to
	}
	if p.price.at && p.price.of == ofAll && p.price.unit == "" { // “at 3.50” is of each
		p.price.of = ofEach
	}
	if j.act < 0 || j.fresh {
		j.ahead = &p.price
	} else {
		j.priced(&p.price)
	}
	j.becomes(i, to, AsPrice, j.lineNow())
	return to
}

func (j *jarReader) bareAfterFor(i, to int) bool { return j.toks[i].word == "for" && to == i+2 }

func isEach(w string) bool { return w == "each" || w == "apiece" || w == "ea" }

func (j *jarReader) lineNow() *Line {
	if j.act < 0 {
		return nil
	}
	return j.acts[j.act].line
}

// priced gives the lines without a price theirs; a price of all of them is shared when the
// act is done.
func (j *jarReader) priced(p *priceSaid) {
	if j.act < 0 || len(j.acts[j.act].Lines) == 0 {
		return
	}
	a := j.acts[j.act]
	if p.of == ofAll {
		a.total = p
		return
	}
	for k := range a.Lines {
		l := &a.Lines[k]
		if l.HasPrice {
			continue
		}
		amount := p.amount
		if !l.byWeight.isZero() {
			var ok bool
			if amount, ok = l.priceOfAll(p, j.o.Measures); !ok {
				j.doubt("price-of", "“"+p.amount.String()+"” is not of what was weighed: say what all of it was.")
				continue
			}
		}
		l.Price, l.HasPrice, l.Currency = amount, true, p.currency
	}
}

// dayAt reads when it was.
func (j *jarReader) dayAt(i int) int {
	rest := j.clean[j.toks[i].from:]
	m := dayCame.FindStringSubmatch(rest)
	if m == nil {
		return i
	}
	day, ok := dayNamed(strings.ToLower(m[1]), j.o.Today)
	if !ok {
		return i
	}
	end := j.toks[i].from + len(m[0])
	to := i
	for to < len(j.toks) && j.toks[to].from < end {
		to++
	}
	if j.act >= 0 && !j.fresh {
		j.acts[j.act].On = day
	} else {
		j.on = day
	}
	j.becomes(i, to, AsDate, j.lineNow())
	return to
}

// wordAt reads a word that is no name and no number.
func (j *jarReader) wordAt(i int) int {
	word := j.toks[i].word
	say := func(kind MovedKind) int {
		j.kindSaid(kind)
		j.becomes(i, i+1, AsStep, j.lineIfRead())
		return i + 1
	}
	switch {
	case wantsWords[word]:
		j.wanted = true
		if j.act >= 0 && !j.fresh {
			j.acts[j.act].ordered = true
		}
		j.becomes(i, i+1, AsStep, j.lineIfRead())
		return i + 1
	case emptyWords[word], backWords[word]:
		if j.act >= 0 && !j.fresh && j.count == 0 && !j.goodFollows(i+1) && len(j.acts[j.act].Lines) > 0 && j.acts[j.act].Kind == "" {
			j.acts[j.act].Kind, j.acts[j.act].said = MovedBack, true
		} else {
			j.back = true
		}
		j.becomes(i, i+1, AsStep, j.lineIfRead())
		return i + 1
	case soldWords[word]:
		return say(MovedSold)
	case givenWords[word]:
		return say(MovedGiven)
	case tookWords[word]:
		j.becomes(i, i+1, AsStep, j.lineIfRead())
		return i + 1
	case goneWords[word]:
		return say(MovedGone)
	case toWords[word]:
		if n := j.strangerAt(i + 1); n > 0 {
			j.becomes(i, i+1, AsSmallTalk, j.lineIfRead())
			return i + 1 + n
		}
	}
	if smallWords[word] || toWords[word] || holderWords[word] {
		j.becomes(i, i+1, AsSmallTalk, j.lineIfRead())
		return i + 1
	}
	if n := j.whoTook(i); n > 0 {
		return i + n
	}
	if j.isOfParty(word) {
		j.stranger(i, 1)
		return i + 1
	}
	j.becomes(i, i+1, Unread, nil)
	return i + 1
}

func (j *jarReader) lineIfRead() *Line {
	if j.act < 0 || j.fresh {
		return nil
	}
	return j.acts[j.act].line
}

// kindSaid says how jars moved: those of the clause, or those that come.
func (j *jarReader) kindSaid(kind MovedKind) {
	if j.act >= 0 && !j.fresh && len(j.acts[j.act].Lines) > 0 && (!j.acts[j.act].said || kind == MovedGiven) {
		j.acts[j.act].Kind, j.acts[j.act].said = kind, true
		return
	}
	j.kind = kind
}

// longestWho is how many words somebody's name has at the most.
const longestWho = 5

// strangerAt reads a name after “to”, and how many tokens it takes.
func (j *jarReader) strangerAt(i int) int {
	n := 0
	for n < longestWho && i+n < len(j.toks) && j.toks[i+n].kind == isWord && !j.isOther(i+n) {
		n++
	}
	for n > 0 && (smallWords[j.toks[i+n-1].word] || toWords[j.toks[i+n-1].word]) && n > 1 {
		n--
	}
	if n == 0 || n == 1 && smallWords[j.toks[i].word] {
		return 0
	}
	j.stranger(i, n)
	return n
}

// isOther reports whether a word is none of a name.
func (j *jarReader) isOther(i int) bool {
	word := j.toks[i].word
	if n, _ := j.nameAt(j.goods, i); n > 0 {
		return true
	}
	if n, _ := j.nameAt(j.parties, i); n > 0 {
		return true
	}
	if v, n := wordNumber(word); n > 0 && v.IsPositive() {
		return true
	}
	return soldWords[word] || givenWords[word] || backWords[word] || goneWords[word] || tookWords[word] || wantsWords[word] || emptyWords[word] || toWords[word] && word != "of" ||
		dayCame.MatchString(j.clean[j.toks[i].from:]) || j.isDue(i) || word == "each" || word == "apiece" || word == "and" || word == "yesterday"
}

// whoTook reads “the neighbour had”: a name before what they did.
func (j *jarReader) whoTook(i int) int {
	n := 0
	for n < longestWho && i+n < len(j.toks) && j.toks[i+n].kind == isWord && !j.isOther(i+n) {
		n++
	}
	if n == 0 || i+n >= len(j.toks) || !tookWords[j.toks[i+n].word] && !wantsWords[j.toks[i+n].word] {
		return 0
	}
	j.stranger(i, n)
	return n
}

// isOfParty reports whether a word is one of somebody's name.
func (j *jarReader) isOfParty(word string) bool {
	return slices.ContainsFunc(j.parties, func(p spokenName) bool { return slices.Contains(p.words, word) })
}

// stranger is somebody who is not known yet, or is known by a part of the name: “the
// stall” where there is one.
func (j *jarReader) stranger(i, n int) {
	said := strings.TrimSpace(j.clean[j.toks[i].from:j.toks[i+n-1].to])
	bare := strings.TrimPrefix(strings.TrimPrefix(strings.ToLower(said), "the "), "our ")
	var like []string
	for _, p := range j.o.Parties {
		for _, w := range strings.Fields(strings.ToLower(p)) {
			if w == bare {
				like = append(like, p)
				break
			}
		}
	}
	switch {
	case len(like) == 1:
		j.partySaid(like[0], true)
	case len(like) > 1:
		j.partySaid("", false)
		j.doubt("which-party", "“"+said+"” may be "+strings.Join(like, " or ")+".", like...)
	default:
		j.partySaid(strings.TrimPrefix(said, "the "), false)
	}
	j.becomes(i, i+n, AsSupplier, j.lineIfRead())
}

func (j *jarReader) doubt(code, text string, answers ...string) {
	j.unsure = append(j.unsure, Unsure{Code: code, Text: text, Answers: answers, Line: max(j.act, 0)})
}
