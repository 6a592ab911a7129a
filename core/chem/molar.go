package chem

import (
	"fmt"
	"strconv"
	"unicode/utf8"
)

// MolarMass returns the mass of one mole in grams of a formula such as
// Na2CO3·10H2O, Ca(OH)2 or Na2CO3·1.5H2O2. Parts of a hydrate are joined by a
// middle dot, a full stop that is no decimal point, or an asterisk.
func MolarMass(formula string) (float64, error) {
	p := formulaParser{in: formula}
	mass, err := p.sum()
	if err == nil && p.pos < len(p.in) {
		err = p.fail("an element, a bracket or a dot")
	}
	if err != nil {
		return 0, err
	}
	return mass, nil
}

type formulaParser struct {
	in  string
	pos int
}

func (p *formulaParser) fail(expected string) error {
	return fmt.Errorf("formula %q: at character %d: expected %s",
		p.in, utf8.RuneCountInString(p.in[:p.pos])+1, expected)
}

// sum reads parts of a hydrate: a factor and a group each.
func (p *formulaParser) sum() (float64, error) {
	total := 0.0
	for {
		factor := p.factor()
		mass, err := p.group()
		if err != nil {
			return 0, err
		}
		total += factor * mass
		if !p.dot() {
			return total, nil
		}
	}
}

// group reads a run of elements and brackets, each with its count.
func (p *formulaParser) group() (float64, error) {
	total, any := 0.0, false
	for p.pos < len(p.in) {
		var unit float64
		switch c := p.in[p.pos]; {
		case c == '(' || c == '[':
			p.pos++
			inner, err := p.sum()
			if err != nil {
				return 0, err
			}
			if p.pos == len(p.in) || (p.in[p.pos] != ')' && p.in[p.pos] != ']') {
				return 0, p.fail("a closing bracket")
			}
			p.pos++
			unit = inner
		case 'A' <= c && c <= 'Z':
			mass, err := p.element()
			if err != nil {
				return 0, err
			}
			unit = mass
		default:
			if !any {
				return 0, p.fail("an element such as Na")
			}
			return total, nil
		}
		total += unit * p.factor()
		any = true
	}
	if !any {
		return 0, p.fail("an element such as Na")
	}
	return total, nil
}

func (p *formulaParser) element() (float64, error) {
	if p.pos+1 < len(p.in) && 'a' <= p.in[p.pos+1] && p.in[p.pos+1] <= 'z' {
		if mass, ok := atomicMass[p.in[p.pos:p.pos+2]]; ok {
			p.pos += 2
			return mass, nil
		}
		return 0, p.fail("a known element")
	}
	mass, ok := atomicMass[p.in[p.pos:p.pos+1]]
	if !ok {
		return 0, p.fail("a known element")
	}
	p.pos++
	return mass, nil
}

// factor reads a count, 1 when there is none. A full stop belongs to it only
// between digits.
func (p *formulaParser) factor() float64 {
	start := p.pos
	for p.pos < len(p.in) && isDigit(p.in[p.pos]) {
		p.pos++
	}
	if p.pos > start && p.pos+1 < len(p.in) && p.in[p.pos] == '.' && isDigit(p.in[p.pos+1]) && !p.hydrateFollows() {
		p.pos++
		for p.pos < len(p.in) && isDigit(p.in[p.pos]) {
			p.pos++
		}
	}
	n, err := strconv.ParseFloat(p.in[start:p.pos], 64)
	if err != nil {
		return 1
	}
	return n
}

// hydrateFollows tells "CuSO4.5H2O" from "Na2CO3·1.5H2O2": a count after an
// element is whole, so the stop there is a dot; a leading count may be decimal.
func (p *formulaParser) hydrateFollows() bool {
	i := p.pos - 1
	for i >= 0 && isDigit(p.in[i]) {
		i--
	}
	return i >= 0 && ('A' <= p.in[i] && p.in[i] <= 'z' || p.in[i] == ')')
}

func (p *formulaParser) dot() bool {
	r, size := utf8.DecodeRuneInString(p.in[p.pos:])
	if r == '·' || r == '•' || r == '.' || r == '*' {
		p.pos += size
		return true
	}
	return false
}

func isDigit(c byte) bool { return '0' <= c && c <= '9' }
