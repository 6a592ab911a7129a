package quantity

import (
	"unicode/utf8"
)

// number reads an integer, decimal, fraction, mixed number or number word.
func (p *parser) number() (n Number, found bool, err error) {
	p.skipSpace()
	start := p.pos
	if whole, ok := p.digits(); ok {
		if n, err = p.afterDigits(start, whole); err == nil {
			p.skipWord("whole")
		}
		return n, true, err
	}
	if v, ok := p.vulgar(); ok {
		return v, true, nil
	}
	if n, ok := p.numberWord(); ok {
		return n, true, nil
	}
	if r, _ := utf8.DecodeRuneInString(p.in[p.pos:]); r == '-' || r == '−' {
		return n, false, p.fail("an amount above zero")
	}
	return n, false, nil
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

// numberWord reads "two", "half", "half a", "a quarter of a", "a dozen".
func (p *parser) numberWord() (Number, bool) {
	mark := p.pos
	n, ok := numberWords[p.word()]
	if !ok {
		p.pos = mark
		return n, false
	}
	for {
		mark = p.pos
		w := p.word()
		next, isNumber := numberWords[w]
		switch {
		case w == "of":
		case isNumber && next == Number{1, 1} && w != "one":
		case isNumber && n == Number{1, 1}:
			n = next
		default:
			p.pos = mark
			return n, true
		}
	}
}
