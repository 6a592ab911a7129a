package quantity

import (
	"strings"
	"unicode/utf8"
)

// span is a number, or the lowest and the highest it may be.
type span struct{ low, high Number }

func exactly(n Number) span { return span{n, n} }

var one = Number{1, 1}

// number reads an integer, decimal, fraction, mixed number or number words.
func (p *parser) number() (n span, found bool, err error) {
	p.skipSpace()
	start := p.pos
	if whole, ok := p.digits(); ok {
		v, err := p.afterDigits(start, whole)
		if err != nil {
			return span{}, true, err
		}
		n = exactly(v)
		if v.den == 1 {
			n = exactly(p.andAFraction(v))
		}
		return p.timesMore(n), true, nil
	}
	if p.peek() == '.' && p.peekDecimal() && (start == 0 || !isDigit(rune(p.in[start-1]))) { // “.5 oz”
		v, err := p.afterDigits(start, 0)
		return exactly(v), true, err
	}
	if v, ok := p.vulgar(); ok {
		p.ofA()
		return exactly(v), true, nil
	}
	if n, ok := p.numberWords(); ok {
		return n, true, nil
	}
	if r, _ := utf8.DecodeRuneInString(p.in[p.pos:]); r == '-' || r == '−' {
		return span{}, false, p.fail("an amount above zero")
	}
	return span{}, false, nil
}

// timesMore reads what multiplies a number: 2 dozen, 3 hundred.
func (p *parser) timesMore(n span) span {
	mark := p.pos
	if p.skipSpace(); !strings.ContainsRune("dht", rune(p.peek()|0x20)) {
		p.pos = mark
		return n
	}
	if e := p.entry(); e.role == isNumber && (e.low == Number{12, 1} || e.low.num >= 100) {
		return span{n.low.times(e.low), n.high.times(e.high)}
	}
	p.pos = mark
	return n
}

// afterDigits finishes a number whose whole part has been read.
func (p *parser) afterDigits(start int, whole int64) (Number, error) {
	if whole > maxNumerator {
		return Number{}, p.failAt(start, "a number below a thousand million")
	}
	n := Number{whole, 1}
	switch {
	case p.peekDecimal():
		sign := p.in[p.pos]
		p.pos++
		fracStart := p.pos
		frac, _ := p.digits()
		places := p.pos - fracStart
		if places > 6 {
			return n, p.failAt(fracStart, "at most six decimal places")
		}
		if sign == ',' && places == 3 && whole > 0 {
			return n, p.failAt(start, "a number that cannot be read two ways: write 1000 or 1.0, not 1,000")
		}
		scale := int64(1)
		for range places {
			scale *= 10
		}
		if whole > maxNumerator/scale*1000 {
			return n, p.failAt(start, "fewer decimal places on so large a number")
		}
		return newNumber(whole*scale+frac, scale), nil
	case p.peek() == '/' || p.peekRune() == '⁄':
		return p.fraction(start, whole)
	}
	return p.mixed(n)
}

// fraction reads the rest of "1/2".
func (p *parser) fraction(start int, num int64) (Number, error) {
	_, size := utf8.DecodeRuneInString(p.in[p.pos:])
	p.pos += size
	den, ok := p.digits()
	if !ok || den == 0 || den > maxDenominator {
		return Number{}, p.failAt(start, "a fraction such as 1/2")
	}
	p.ofA()
	return newNumber(num, den), nil
}

// mixed reads the fraction of "1 1/2", "1½" or "1-1/2", if there is one.
func (p *parser) mixed(whole Number) (Number, error) {
	mark := p.pos
	p.skipSpace()
	if v, ok := p.vulgar(); ok {
		return whole.add(v), nil
	}
	if p.pos == mark {
		p.accept('-') // "1-1/2", common in hand-written formulas
	}
	fracStart := p.pos
	if num, ok := p.digits(); ok && (p.peek() == '/' || p.peekRune() == '⁄') {
		f, err := p.fraction(fracStart, num)
		if err != nil {
			return f, err
		}
		if f.num < f.den {
			return whole.add(f), nil
		}
	}
	p.pos = mark
	return whole, nil
}

func (p *parser) vulgar() (Number, bool) {
	r, size := utf8.DecodeRuneInString(p.in[p.pos:])
	if r < utf8.RuneSelf {
		return Number{}, false
	}
	n, ok := vulgarFractions[r]
	if ok {
		p.pos += size
	}
	return n, ok
}

// numberWords reads "two", "half a", "a couple of", "three quarters of a",
// "one and a half", "twenty-five", "half a dozen".
func (p *parser) numberWords() (span, bool) {
	mark := p.pos
	e := p.entry()
	var n span
	switch e.role {
	case isNumber:
		n = span{e.low, e.high}
	case isArticle:
		after := p.pos
		next := p.entry()
		// “a few”, “a half”, “a hundred”; “a” alone is one
		if next.role != isNumber || next.low == one {
			if p.pos = mark; p.word() == "the" {
				p.pos = mark
				return span{}, false
			}
			p.pos = after
			return exactly(one), true
		}
		n = span{next.low, next.high}
	default:
		p.pos = mark
		return span{}, false
	}
	return p.moreWords(n), true
}

// unitOfNext reports whether a unit follows, and “of” behind it.
func (p *parser) unitOfNext() bool {
	mark := p.pos
	defer func() { p.pos = mark }()
	return p.entry().role == isUnit && p.word() == "of"
}

// moreWords reads what follows a first number word.
func (p *parser) moreWords(n span) span {
	switch isWhole := n.low.den == 1; {
	case !isWhole: // half, a third
		if d, ok := p.dozenAfter(); ok {
			return span{n.low.times(d), n.high.times(d)}
		}
		p.ofA()
		return n
	case n.low != n.high: // a few, several
		p.skipWord("of")
		return n
	}
	mark := p.pos
	p.accept('-')
	switch e := p.entry(); {
	case e.role == isPartOf, e.role == isNumber && e.low.den > 1 && e.low != Number{1, 2}:
		// three quarters, one third
		part := e.low
		p.ofA()
		return exactly(n.low.times(part))
	case e.role == isNumber && e.low == Number{1, 2} && n.low == one:
		p.ofA() // one half
		return exactly(e.low)
	case e.role == isNumber && n.low.num >= 20 && n.low.num < 100 && n.low.num%10 == 0 && e.low.den == 1 && e.low.num < 10 && e.low == e.high:
		n = exactly(n.low.add(e.low)) // twenty-five
		mark = p.pos
	case e.role == isNumber && n.low.num < 10 && e.low == e.high && e.low.den == 1 && e.low.num >= 20 && e.low.num < 100 && e.low.num%10 == 0:
		hundreds := exactly(n.low.times(Number{100, 1}).add(e.low))
		at := p.pos
		p.accept('-')
		if ones := p.entry(); ones.role == isNumber && ones.low.den == 1 && ones.low.num < 10 && ones.low == ones.high {
			hundreds, at = exactly(hundreds.low.add(ones.low)), p.pos
		}
		if p.pos = at; p.unitOfNext() {
			n, mark = hundreds, at // “two fifty grams of soda”, and not “two fifty gram bars”
		}
	case e.role == isNumber && e.low.num >= 100:
		n = exactly(n.low.times(e.low)) // two hundred
		n = exactly(n.low.add(p.andRest(n.low)))
		mark = p.pos
	case e.role == isNumber && e.low == Number{12, 1} && n.low.num < 12:
		n = exactly(n.low.times(e.low)) // two dozen
		mark = p.pos
	}
	p.pos = mark
	if n.low.num >= 100 && n.low.num%100 == 0 {
		n = exactly(n.low.add(p.andRest(n.low)))
	}
	mark = p.pos
	if p.word() != "of" {
		p.pos = mark
	}
	return exactly(p.andAFraction(n.low))
}

// andRest reads the rest of "two hundred and fifty".
func (p *parser) andRest(hundreds Number) Number {
	mark := p.pos
	p.skipWord("and")
	e := p.entry()
	if e.role != isNumber || e.low.den != 1 || e.low != e.high || e.low.num >= 100 || hundreds.num < 100 {
		p.pos = mark
		return Number{0, 1}
	}
	sum := e.low
	mark = p.pos
	p.accept('-')
	if e := p.entry(); e.role == isNumber && sum.num >= 20 && sum.num%10 == 0 && e.low.den == 1 && e.low.num < 10 && e.low == e.high {
		return sum.add(e.low)
	}
	p.pos = mark
	return sum
}

// dozenAfter reads the rest of "half a dozen".
func (p *parser) dozenAfter() (Number, bool) {
	mark := p.pos
	e := p.entry()
	if e.role == isArticle {
		e = p.entry()
	}
	if e.role == isNumber && (e.low == Number{12, 1} || e.low.num >= 100) {
		return e.low, true
	}
	p.pos = mark
	return Number{}, false
}

// ofA reads the rest of "half of a cup", "half a cup".
func (p *parser) ofA() {
	mark := p.pos
	if p.word() != "of" {
		p.pos = mark
	}
	mark = p.pos
	if e := p.entry(); e.role == isArticle || e.role == isNumber && e.low == one {
		return
	}
	p.pos = mark
}

// andAFraction adds the rest of "one and a half".
func (p *parser) andAFraction(n Number) Number {
	mark := p.pos
	if p.skipSpace(); p.peek() != '&' && p.peek()|0x20 != 'a' {
		p.pos = mark
		return n
	}
	if f, ok := p.fractionAfterAnd(); ok {
		return n.add(f)
	}
	p.pos = mark
	return n
}

// fractionAfterAnd reads "and a half", "and three quarters", "& 1/2", "and 1/3".
func (p *parser) fractionAfterAnd() (Number, bool) {
	p.skipSpace()
	if !p.accept('&') && p.word() != "and" {
		return Number{}, false
	}
	p.skipSpace()
	if v, ok := p.vulgar(); ok {
		return v, true
	}
	start := p.pos
	if num, ok := p.digits(); ok && (p.peek() == '/' || p.peekRune() == '⁄') {
		f, err := p.fraction(start, num)
		return f, err == nil && f.num < f.den
	}
	p.pos = start
	e := p.entry()
	if e.role == isArticle || e.role == isNumber && e.low == one {
		e = p.entry()
	} else if e.role == isNumber && e.low.den == 1 {
		p.accept('-')
		part := p.entry()
		return e.low.times(part.low), part.role == isPartOf || part.role == isNumber && part.low.den > 2 // “one and three quarter cups”
	}
	return e.low, e.role == isNumber && e.low.den > 1
}
