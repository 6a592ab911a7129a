package quantity

import (
	"fmt"
	"strings"
	"unicode"
)

func (p *parser) term() (Term, error) {
	var t Term
	p.qualifiers(&t)
	if done, err := p.fruit(&t); done || err != nil {
		return t, err
	}
	start := p.pos
	between := !isDigit(rune(p.peek())) && (p.phrase("between") || p.phrase("from"))
	n, found, err := p.number()
	if err != nil {
		return t, err
	}
	if !found {
		// "heaped tbsp" is one heaped tablespoon
		if t.Fill == Plain && t.Low.isZero() && !p.unitOf() {
			return t, p.fail(expectNumber)
		}
		n = exactly(one)
	}
	t.Low, t.High = n.low, n.high
	if n.low == n.high && found && p.words("and", "a", "bit") { // “one and a bit cups”: not yet one and a half
		t.High = n.high.add(Number{1, 2})
	}
	ranged, err := p.rangeEnd(&t, between)
	if err != nil {
		return t, err
	}
	if factor, ok := p.times(t); ok {
		return p.multiplied(factor, start)
	}
	p.qualifiers(&t)
	if t.Unit, err = p.unit(); err != nil {
		return t, err
	}
	p.afterUnit(&t, ranged)
	return t, p.check(&t, start)
}

// unitOf reports whether a unit and "of" stand next: “pinch of salt” is one.
func (p *parser) unitOf() bool {
	q := *p
	if _, err := q.unit(); !p.prefix || err != nil {
		return false
	}
	return q.word() == "of"
}

// check refuses what cannot be.
func (p *parser) check(t *Term, start int) error {
	switch {
	case t.Low.isZero() || t.High.isZero():
		return p.failAt(start, "an amount above zero")
	case t.High.less(t.Low):
		return p.failAt(start, "a range from the smaller to the larger")
	case t.Fill != Plain && t.Unit.Kind() != Volume && (t.Fill < Large || t.Unit.Kind() != Count):
		return p.failAt(start, fmt.Sprintf("a cup or spoon after “%s”", fillNames[t.Fill]))
	case t.Set != AsWritten && units[t.Unit].sizes[US] == 0:
		return p.failAt(start, fmt.Sprintf("a cup, spoon, pint or gallon after “%s”", setPrint[t.Set]))
	case t.High.num > maxNumerator || t.High.den > maxDenominator || t.Low.den > maxDenominator:
		return p.failAt(start, "a number below a thousand million")
	}
	return nil
}

// fruit reads "juice of half a lemon", "the peel of 2 oranges", "lemon peels from 5
// lemons", "six oranges' worth of peel".
func (p *parser) fruit(t *Term) (bool, error) {
	mark := p.pos
	p.skipSpace()
	if isDigit(rune(p.peek())) {
		return p.fruitWorth(t, mark)
	}
	w := p.word()
	if w == "the" {
		w = p.word()
	}
	if _, _, ok := fruitOf(w); ok { // “lemon peels from …”
		w = p.word()
	}
	juice := w == "juice"
	if !juice && !peelWords[w] {
		p.pos = mark
		return p.fruitWorth(t, mark)
	}
	if w = p.word(); w != "of" && w != "from" && w != "off" {
		p.pos = mark
		return false, nil
	}
	p.qualifiers(t) // “the peels of about 8 oranges”
	start := p.pos
	n, found, err := p.number()
	if err != nil {
		return false, err
	}
	if !found {
		n = exactly(one)
	}
	t.Low, t.High = n.low, n.high
	if _, err := p.rangeEnd(t, false); err != nil {
		return false, err
	}
	p.qualifiers(t)
	if t.Fill != Plain { // a large lemon is one of them
		t.Fill = Plain
	}
	p.skipWord("fresh")
	j, peel, ok := fruitOf(p.word())
	if !ok {
		p.pos = mark
		return false, nil
	}
	if t.Unit = j; !juice {
		t.Unit = peel
	}
	return true, p.check(t, start)
}

// peelWords are what the outside of a fruit is called.
var peelWords = map[string]bool{"peel": true, "peels": true, "rind": true, "rinds": true, "skin": true, "skins": true, "peelings": true}

// fruitWorth reads "six oranges' worth of peel".
func (p *parser) fruitWorth(t *Term, mark int) (bool, error) {
	start := p.pos
	back := func() (bool, error) {
		p.pos = mark
		return false, nil
	}
	if !strings.Contains(p.in[p.pos:min(len(p.in), p.pos+worthWithin)], "worth of") {
		return back()
	}
	n, found, err := p.number()
	if err != nil || !found {
		return back()
	}
	juice, peel, ok := fruitOf(p.word())
	if !ok {
		return back()
	}
	p.accept('\'')
	p.accept('’')
	p.skipWord("s")
	if p.word() != "worth" || p.word() != "of" {
		return back()
	}
	p.skipWord("the")
	w := p.word()
	if _, _, ok := fruitOf(w); ok {
		w = p.word()
	}
	switch {
	case w == "juice":
		t.Unit = juice
	case peelWords[w]:
		t.Unit = peel
	default:
		return back()
	}
	t.Low, t.High = n.low, n.high
	return true, p.check(t, start)
}

// worthWithin is how near “worth of” stands to the number of the fruit, in bytes.
const worthWithin = 40

// times reads what makes several of one amount: "2 x 500 g", "a 500 g box".
// It looks ahead; factor is how many.
func (p *parser) times(t Term) (factor Term, ok bool) {
	mark := p.pos
	p.skipSpace()
	if c := p.peek() | 0x20; 'a' <= c && c <= 'z' && c != 'x' {
		p.pos = mark
		return t, false
	}
	if (p.accept('x') || p.accept('×') || p.accept('X')) && !unicode.IsLetter(p.peekRune()) {
		if p.skipSpace(); isDigit(rune(p.peek())) || vulgarFractions[p.peekRune()] != (Number{}) {
			return t, true
		}
	}
	p.pos = mark
	// “a 500 g box”, “two 1 kg bags”: only with a pack after it
	p.skipSpace()
	bracket := p.accept('(')
	if isDigit(rune(p.peek())) {
		q := *p
		inner, err := q.plainTerm()
		physical := inner.Unit.Kind() == Mass || inner.Unit.Kind() == Volume
		if bracket && !q.accept(')') {
			physical = false
		}
		if err == nil && physical && q.pack() {
			return t, true
		}
	}
	p.pos = mark
	return t, false
}

// plainTerm reads a number and a unit and nothing else.
func (p *parser) plainTerm() (t Term, err error) {
	n, found, err := p.number()
	if err != nil || !found {
		return t, p.fail(expectNumber)
	}
	t.Low, t.High = n.low, n.high
	if _, err = p.rangeEnd(&t, false); err != nil {
		return t, err
	}
	t.Unit, err = p.unit()
	return t, err
}

// pack reads a word for what things are sold in, or a bar or block "of".
func (p *parser) pack() bool {
	mark := p.pos
	p.accept('-')
	if e := p.entry(); e.role == isUnit {
		switch e.unit {
		case Box, Jar, Bottle, Bucket, Jug, Kettle, Bowl, Basin, Pot:
			return true
		}
		if at := p.pos; e.unit == Bar {
			w := p.word()
			if p.pos = at; w == "of" || w == "" {
				return true
			}
		}
	}
	p.pos = mark
	return false
}

// multiplied reads the amount of one and makes so many of it.
func (p *parser) multiplied(factor Term, start int) (Term, error) {
	t, err := p.plainTerm()
	if err != nil {
		return t, err
	}
	p.accept(')')
	p.pack()
	t.Low, t.High = t.Low.times(factor.Low), t.High.times(factor.High)
	t.About = factor.About
	return t, p.check(&t, start)
}

// qualifiers reads "about", "heaped", "imperial" and their kin, in any order.
func (p *parser) qualifiers(t *Term) {
	for {
		mark := p.pos
		p.skipSpace()
		if isDigit(rune(p.peek())) {
			return
		}
		if p.accept('~') || p.accept('≈') {
			t.About = true
			continue
		}
		switch e := p.entry(); e.role {
		case isAbout:
			t.About = true
		case isFill:
			t.Fill = e.fill
		case isSet:
			t.Set = e.set
		case isFiller:
		case isArticle: // “a heaped cup”, “a good handful”
			at := p.pos
			next := p.entry()
			p.pos = at
			if next.role != isFill && next.role != isFiller && next.role != isSet && next.role != isAbout || !t.Low.isZero() {
				p.pos = mark
				return
			}
			t.Low = one // since the article is used up
		default:
			p.pos = mark
			return
		}
	}
}

// rangeEnd reads "–15" or "to 25" after the first number, "and 25" after
// "between".
func (p *parser) rangeEnd(t *Term, between bool) (bool, error) {
	mark := p.pos
	if !p.rangeSign() && !(between && p.phrase("and")) {
		return false, nil
	}
	high, found, err := p.number()
	if err != nil {
		return false, err
	}
	if !found {
		p.pos = mark
		return false, nil
	}
	t.High = high.high
	return true, nil
}

// afterUnit reads what may follow a unit: the rest of "10 g to 15 g", "a cup
// and a half", "a spoon or two", "a cup or so", "1 cup heaped", "a box of 500 g".
func (p *parser) afterUnit(t *Term, ranged bool) {
	mark := p.pos
	switch p.skipSpace(); p.peek() {
	case 0, '+', ')': // the commonest ends
		p.pos = mark
		return
	}
	p.pos = mark
	if !ranged {
		p.repeatedUnitRange(t)
	}
	if t.Low == t.High && t.Low.den == 1 {
		mark := p.pos
		if f, ok := p.fractionAfterAnd(); ok && !p.unitFollows() {
			t.Low = t.Low.add(f)
			t.High = t.Low
		} else {
			p.pos = mark
		}
	}
	if t.Low == one && t.High == one {
		mark := p.pos
		if p.word() == "or" {
			if n, found, err := p.number(); err == nil && found && t.High.less(n.high) && n.high.less(Number{6, 1}) && !p.unitFollows() && p.peek() != '-' && p.peekRune() != '–' && p.endsHere() {
				t.High = n.high
			} else {
				p.pos = mark
			}
		} else {
			p.pos = mark
		}
	}
	mark = p.pos
	if p.word() != "or" || p.word() != "so" {
		p.pos = mark
	} else {
		t.About = true
	}
	p.fillAfter(t)
	p.ofSize(t)
}

// fillAfter reads "1 cup heaped", "2 cups, packed", "1 cup approx.".
func (p *parser) fillAfter(t *Term) {
	for {
		mark := p.pos
		p.skipSpace()
		p.accept(',')
		open := p.accept('(')
		for {
			at := p.pos
			if e := p.entry(); e.role != isFiller {
				p.pos = at
				break
			}
		}
		filled := p.pos
		e := p.entry()
		if e.role == isSet && t.Set == AsWritten && units[t.Unit].sizes[US] > 0 && (!open || p.accept(')')) {
			t.Set = e.set
			continue
		}
		if e.role == noRole && filled > mark+1 && strings.TrimSpace(p.in[mark:filled]) == "full" {
			p.pos = filled // “a dropper full”
			return
		}
		isFill := e.role == isFill && (t.Unit.Kind() == Volume) && e.fill < Large && t.Fill == Plain // “a level spoon, heaped if …” is two
		if !isFill && e.role != isAbout || open && !p.accept(')') || !open && p.prefix && !p.endsHere() && e.role == isAbout {
			p.pos = mark
			return
		}
		if isFill {
			t.Fill = e.fill
		} else {
			t.About = true
		}
	}
}

// ofSize reads how much is in a pack or vessel: "half a box of 500 g", "a box
// (500 g)", and passes over the pack in "500 g box".
func (p *parser) ofSize(t *Term) {
	mark := p.pos
	switch {
	case t.Unit.Kind() == Mass || t.Unit.Kind() == Volume && units[t.Unit].role == Standard:
		if !p.pack() || p.prefix && !p.endsHere() && !p.ofFollows() {
			p.pos = mark
		}
		return
	case t.Unit != Box && t.Unit != Jar && t.Unit != Bottle && t.Unit != Pot && t.Unit != Bar:
		return
	}
	p.skipSpace()
	open := p.accept('(')
	if !open && p.word() != "of" {
		p.pos = mark
		return
	}
	if t.Unit == Bar && open {
		p.pos = mark // the other way of saying it
		return
	}
	if p.skipSpace(); !p.startsNumber() {
		p.pos = mark
		return
	}
	size, err := p.plainTerm()
	if err == nil && (size.Unit.Kind() == Mass || size.Unit.Kind() == Volume && units[size.Unit].role == Standard) {
		if open {
			p.skipWord("each")
			p.skipSpace()
		}
		if !open || p.accept(')') {
			size.Low, size.High = size.Low.times(t.Low), size.High.times(t.High)
			size.About = t.About
			*t = size
			return
		}
	}
	p.pos = mark
}

func (p *parser) ofFollows() bool {
	mark := p.pos
	defer func() { p.pos = mark }()
	return p.word() == "of"
}

// unitFollows reports whether a unit comes next, so that what was read is a
// number of its own.
func (p *parser) unitFollows() bool {
	mark := p.pos
	defer func() { p.pos = mark }()
	if p.word() == "of" { // “two cups and three quarters of a cup of …”
		if e := p.entry(); e.role == isArticle || e.role == isNumber && e.low == one {
			return p.unitEntry().role == isUnit
		}
	}
	p.pos = mark
	return p.unitEntry().role == isUnit
}

// endsHere reports whether the amount can end here: at the end, at a stop or a
// word that is not part of a name.
func (p *parser) endsHere() bool {
	mark := p.pos
	defer func() { p.pos = mark }()
	p.skipSpace()
	if p.pos == len(p.in) {
		return true
	}
	switch p.peek() {
	case ',', ';', ')', '.', '\n':
		return true
	}
	switch p.word() {
	case "of", "and", "plus", "or", "each":
		return true
	}
	return p.prefix
}

// repeatedUnitRange reads the rest of "10 g to 15 g".
func (p *parser) repeatedUnitRange(t *Term) {
	mark := p.pos
	if p.rangeSign() {
		if high, found, err := p.number(); err == nil && found {
			if u, err := p.unit(); err == nil && u == t.Unit && t.Low.less(high.high) {
				t.High = high.high
				return
			}
		}
	}
	p.pos = mark
}

func (p *parser) rangeSign() bool {
	mark := p.pos
	p.skipSpace()
	if c := p.peek() | 0x20; 'a' <= c && c <= 'z' && c != 't' && c != 'o' {
		p.pos = mark
		return false
	}
	spaced := p.pos > mark
	if p.accept('-') || p.accept('–') || p.accept('—') {
		after := p.pos
		p.skipSpace()
		if spaced && p.pos > after && p.prefix && p.articleFollows() { // “a third - a teaspoon of …” is two
			p.pos = mark
			return false
		}
		return true
	}
	if w := p.word(); w == "to" || w == "or" {
		p.skipSpace()
		return true
	}
	p.pos = mark
	return false
}

// articleFollows reports whether “a” or “an” comes next.
func (p *parser) articleFollows() bool {
	q := *p
	return q.entry().role == isArticle
}

// phrase reads a word if it is there.
func (p *parser) phrase(w string) bool {
	mark := p.pos
	if p.word() == w {
		return true
	}
	p.pos = mark
	return false
}

// words skips words that stand next one after the other, all or none.
func (p *parser) words(all ...string) bool {
	mark := p.pos
	for _, w := range all {
		if !p.phrase(w) {
			p.pos = mark
			return false
		}
	}
	return true
}

// unit reads a unit's word. A number alone counts.
func (p *parser) unit() (Unit, error) {
	p.skipSpace()
	start := p.pos
	if p.accept('%') {
		return Percent, nil
	}
	if e := p.unitEntry(); e.role == isUnit {
		return e.unit, nil
	}
	p.pos = start
	if p.prefix || p.endsHere() {
		return Bare, nil
	}
	return noUnit, p.fail(expectUnit)
}

// unitEntry reads a unit of one word or more.
func (p *parser) unitEntry() entry {
	p.skipSpace()
	mark := p.pos
	if p.accept('-') && !unicode.IsLetter(p.peekRune()) { // “1-cup”
		p.pos = mark
		return entry{}
	}
	at := p.pos
	switch strings.TrimSuffix(p.rawWord(), ".") {
	case "T":
		return entry{role: isUnit, unit: Tablespoon}
	case "t":
		return entry{role: isUnit, unit: Teaspoon}
	}
	p.pos = at
	return p.entry()
}
