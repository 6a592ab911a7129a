package quantity

import (
	"fmt"
	"strings"
	"unicode"
	"unicode/utf8"
)

// ParseError says where an amount stopped making sense and what was expected
// there.
type ParseError struct {
	Input    string
	Position int // in characters, counted from 1
	Expected string
	Found    string // empty at the end of the input
}

func (e *ParseError) Error() string {
	found := "the amount ends"
	if e.Found != "" {
		found = fmt.Sprintf("found “%s”", e.Found)
	}
	return fmt.Sprintf("at character %d: expected %s, but %s", e.Position, e.Expected, found)
}

const (
	expectNumber = "a number, such as 2, 1/2 or 0.5"
	expectUnit   = "a unit, such as g, ml, cup, tbsp, drop or part"
)

// maxInput is the longest text taken for an amount, in bytes.
const maxInput = 200

// Parse reads a written amount. The error is a [*ParseError].
func Parse(s string) (Amount, error) {
	p := parser{in: s}
	a, err := p.amount()
	if err != nil {
		return Amount{}, err
	}
	if p.skipSpace(); p.pos < len(p.in) {
		return Amount{}, p.fail("the end of the amount, or “+” and another term")
	}
	return a, nil
}

// MustParse is Parse for amounts known to be good; it panics on others.
func MustParse(s string) Amount {
	a, err := Parse(s)
	if err != nil {
		panic(fmt.Sprintf("quantity: %q: %v", s, err))
	}
	return a
}

// ParsePrefix reads an amount at the start of a spoken line and returns what
// follows, a leading "of" removed: "2 cups of borax" gives 2 cups and "borax".
// A number with no unit counts pieces: "20 soap nuts". Where the unit is
// itself the thing ("3 lemons"), rest is the unit's word.
func ParsePrefix(s string) (a Amount, rest string, err error) {
	p := parser{in: s, prefix: true}
	if a, err = p.amount(); err != nil {
		return Amount{}, "", err
	}
	rest = strings.TrimSpace(p.in[p.pos:])
	if after, found := strings.CutPrefix(rest, "of "); found {
		rest = strings.TrimSpace(after)
	}
	if rest == "" && a.Kind() == Count {
		rest = units[a.terms[a.n-1].Unit].one
	}
	return a, rest, nil
}

// parser walks the input once; pos is a byte offset.
type parser struct {
	in     string
	pos    int
	prefix bool // text may follow, and a bare number counts pieces
}

func (p *parser) fail(expected string) *ParseError { return p.failAt(p.pos, expected) }

func (p *parser) failAt(pos int, expected string) *ParseError {
	return &ParseError{
		Input:    p.in,
		Position: utf8.RuneCountInString(p.in[:pos]) + 1,
		Expected: expected,
		Found:    firstWord(p.in[pos:]),
	}
}

func firstWord(s string) string {
	s = strings.TrimSpace(s)
	end := strings.IndexFunc(s, unicode.IsSpace)
	if end < 0 {
		end = len(s)
	}
	const longest = 24
	if end > longest {
		end = longest
		for end > 0 && !utf8.RuneStart(s[end]) {
			end--
		}
		return s[:end] + "…"
	}
	return s[:end]
}

func (p *parser) amount() (Amount, error) {
	var a Amount
	if len(p.in) > maxInput {
		return a, p.failAt(0, fmt.Sprintf("an amount of at most %d letters", maxInput))
	}
	a.upTo = p.makeUp()
	for {
		start := p.pos
		t, err := p.term()
		if err != nil {
			return a, err
		}
		if a.n == maxTerms {
			return a, p.failAt(start, fmt.Sprintf("at most %d terms in a sum", maxTerms))
		}
		if a.n > 0 && !addable(a.terms[0].Unit.Kind(), t.Unit.Kind()) {
			return a, p.failAt(start, "terms that add up: mass and volume may be mixed, parts and pieces may not")
		}
		a.terms[a.n] = t
		a.n++
		if !p.plus() {
			return a, nil
		}
	}
}

func addable(a, b Kind) bool {
	physical := func(k Kind) bool { return k == Mass || k == Volume }
	return a == b || physical(a) && physical(b)
}

// makeUp reads "to", "up to", "make up to", "top up to", "qs to".
func (p *parser) makeUp() bool {
	mark := p.pos
	if isDigit(rune(p.peek())) {
		return false
	}
	for {
		switch p.word() {
		case "to":
			return true
		case "make", "made", "top", "up", "qs", "q.s.", "q.s":
		default:
			p.pos = mark
			return false
		}
	}
}

// plus reads a joiner between terms, if a term follows it.
func (p *parser) plus() bool {
	mark := p.pos
	p.skipSpace()
	if p.accept('+') || p.accept('&') {
		return true
	}
	switch p.word() {
	case "and", "plus":
		p.skipSpace()
		if p.startsNumber() {
			return true
		}
	}
	p.pos = mark
	return false
}

func (p *parser) startsNumber() bool {
	r, _ := utf8.DecodeRuneInString(p.in[p.pos:])
	if isDigit(r) || vulgarFractions[r] != (Number{}) {
		return true
	}
	mark := p.pos
	defer func() { p.pos = mark }()
	w := p.word()
	_, isNumber := numberWords[w]
	return isNumber || w == "heaped" || w == "level"
}

func (p *parser) term() (Term, error) {
	var t Term
	p.qualifiers(&t)
	start := p.pos
	low, found, err := p.number()
	if err != nil {
		return t, err
	}
	if !found {
		// "heaped tbsp" is one heaped tablespoon
		if t.Fill == Plain {
			return t, p.fail(expectNumber)
		}
		low = Number{1, 1}
	}
	t.Low, t.High = low, low
	ranged, err := p.rangeEnd(&t)
	if err != nil {
		return t, err
	}
	p.qualifiers(&t)
	if t.Unit, err = p.unit(); err != nil {
		return t, err
	}
	if !ranged {
		if err := p.repeatedUnitRange(&t); err != nil {
			return t, err
		}
	}
	if t.Low.isZero() || t.High.isZero() {
		return t, p.failAt(start, "an amount above zero")
	}
	if t.High.less(t.Low) {
		return t, p.failAt(start, "a range from the smaller to the larger")
	}
	if t.Fill != Plain && t.Unit.Kind() != Volume {
		return t, p.failAt(start, fmt.Sprintf("a cup or spoon after “%s”", fillNames[t.Fill]))
	}
	if t.Set != AsWritten && units[t.Unit].sizes[US] == 0 {
		return t, p.failAt(start, fmt.Sprintf("a cup, spoon, pint or gallon after “%s”", setPrint[t.Set]))
	}
	return t, nil
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
		switch p.word() {
		case "about", "roughly", "approx", "approx.", "approximately", "around", "ca", "ca.":
			t.About = true
		case "level", "levelled":
			t.Fill = Level
		case "heaped", "heaping":
			t.Fill = Heaped
		case "rounded":
			t.Fill = Rounded
		case "scant":
			t.Fill = Scant
		case "packed":
			t.Fill = Packed
		case "us", "u.s.", "american":
			t.Set = US
		case "imperial", "imp", "imp.", "uk", "british":
			t.Set = Imperial
		case "metric":
			t.Set = Metric
		case "australian", "aus":
			t.Set = Australian
		default:
			p.pos = mark
			return
		}
	}
}

// rangeEnd reads "–15" or "to 25" after the first number.
func (p *parser) rangeEnd(t *Term) (bool, error) {
	mark := p.pos
	if !p.rangeSign() {
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
	t.High = high
	return true, nil
}

// repeatedUnitRange reads the rest of "10 g to 15 g".
func (p *parser) repeatedUnitRange(t *Term) error {
	mark := p.pos
	if !p.rangeSign() {
		return nil
	}
	high, found, err := p.number()
	if err == nil && found {
		var u Unit
		if u, err = p.unit(); err == nil && u == t.Unit {
			t.High = high
			return nil
		}
	}
	p.pos = mark
	if p.prefix {
		return nil
	}
	p.skipSpace()
	return p.fail("the same unit at both ends of a range")
}

func (p *parser) rangeSign() bool {
	mark := p.pos
	p.skipSpace()
	if p.accept('-') || p.accept('–') || p.accept('—') {
		p.skipSpace()
		return true
	}
	if w := p.word(); w == "to" || w == "or" {
		p.skipSpace()
		return true
	}
	p.pos = mark
	return false
}

// unit reads a unit's word. In prefix mode a missing unit counts pieces.
func (p *parser) unit() (Unit, error) {
	p.skipSpace()
	start := p.pos
	word := p.rawWord()
	switch word {
	case "T":
		return Tablespoon, nil
	case "t":
		return Teaspoon, nil
	}
	lower := strings.TrimSuffix(strings.ToLower(word), ".")
	if u, ok := unitWords[lower]; ok {
		return u, nil
	}
	if lower == "fl" || lower == "fluid" {
		if u := unitWords[strings.TrimSuffix(p.word(), ".")]; u == Ounce {
			return FluidOunce, nil
		}
	}
	p.pos = start
	if p.prefix && word != "" {
		return Piece, nil
	}
	return noUnit, p.fail(expectUnit)
}
