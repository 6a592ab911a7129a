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

// Reading is what an amount was read as.
type Reading struct {
	Amount Amount
	// Also is the same amount said another way, as in “1 cup or 20–25 nuts”;
	// zero when it is said once.
	Also Amount
	// Rest is what follows the amount, and At where it begins in the text, in
	// bytes.
	Rest string
	At   int
}

// Parse reads a written amount, said once. The error is a [*ParseError].
func Parse(s string) (Amount, error) {
	r, err := Read(s)
	if err != nil {
		return Amount{}, err
	}
	if !r.Also.IsZero() {
		return Amount{}, &ParseError{Input: s, Position: 1, Expected: "one amount", Found: "two ways of saying it"}
	}
	return r.Amount, nil
}

// Read reads a written amount that may be said two ways. The error is a
// [*ParseError].
func Read(s string) (Reading, error) {
	p := parser{in: s}
	r, err := p.reading()
	if err != nil {
		return Reading{}, err
	}
	p.skipWord("of") // “a glug of”
	if p.skipSpace(); p.pos < len(p.in) {
		return Reading{}, p.fail("the end of the amount, or “+” and another term")
	}
	return r, nil
}

// MustParse is Parse for amounts known to be good; it panics on others.
func MustParse(s string) Amount {
	a, err := Parse(s)
	if err != nil {
		panic(fmt.Sprintf("quantity: %q: %v", s, err))
	}
	return a
}

// ReadPrefix reads an amount at the start of a spoken line and what follows, a
// leading "of" removed: "2 cups of borax" gives 2 cups and "borax". A number
// with no unit counts: "20 soap nuts". Where the unit is itself the thing ("3
// lemons", "juice of a lemon"), Rest is the thing's name.
func ReadPrefix(s string) (Reading, error) {
	p := parser{in: s, prefix: true}
	r, err := p.reading()
	if err != nil {
		return Reading{}, err
	}
	p.skipSpace()
	r.At = p.pos
	r.Rest = strings.TrimSpace(p.in[p.pos:])
	for _, of := range [...]string{"of the ", "of "} {
		if len(r.Rest) >= len(of) && strings.EqualFold(r.Rest[:len(of)], of) {
			r.At += len(of)
			r.Rest = strings.TrimSpace(r.Rest[len(of):])
			break
		}
	}
	if r.Rest == "" && r.Amount.n > 0 {
		switch u := r.Amount.terms[r.Amount.n-1].Unit; {
		case u.JuiceOf():
			r.Rest = u.Fruit() + " juice"
		case u.PeelOf():
			r.Rest = u.Fruit() + " peel"
		case u.Kind() == Count:
			r.Rest = units[u].one
		}
	}
	return r, nil
}

// parser walks the input once; pos is a byte offset.
type parser struct {
	in     string
	pos    int
	prefix bool // text may follow, and a bare number counts
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

// firstWord is the first word of a text, cut short when it is long.
func firstWord(s string) string {
	const longest = 24
	s = strings.TrimLeftFunc(s, unicode.IsSpace)
	end := strings.IndexFunc(s[:min(len(s), longest+1)], unicode.IsSpace)
	switch {
	case end >= 0:
		return s[:end]
	case len(s) <= longest:
		return s
	}
	for end = longest; end > 0 && !utf8.RuneStart(s[end]); end-- {
	}
	return s[:end] + "…"
}

// reading reads an amount and, where there is one, another way of saying it.
func (p *parser) reading() (r Reading, err error) {
	limit := maxInput
	if p.prefix {
		limit = 10 * maxInput
	}
	if len(p.in) > limit {
		return r, p.failAt(0, fmt.Sprintf("an amount of at most %d letters", limit))
	}
	if r.Amount, err = p.amount(); err != nil {
		return r, err
	}
	mark := p.pos
	if also, ok := p.also(r.Amount); ok {
		r.Also = also
	} else {
		p.pos = mark
	}
	return r, nil
}

// also reads "(240 ml)", "or 20–25 nuts", "= 240 ml".
func (p *parser) also(of Amount) (Amount, bool) {
	if p.skipSpace(); p.pos == len(p.in) {
		return Amount{}, false
	}
	closed := false
	switch {
	case p.accept('('):
		closed = true
		p.accept('=')
	case p.accept('='), p.accept('/'):
	default:
		if p.word() != "or" || of.Unit().JuiceOf() || of.Unit().PeelOf() { // “juice of a lemon or two spoons of vinegar” is two things
			return Amount{}, false
		}
	}
	start := p.pos
	a, err := p.amount()
	if err != nil || a.open != NotOpen || a.upTo || p.pos == start {
		return Amount{}, false
	}
	if closed {
		if p.phrase("each") {
			a = a.times(of)
		}
		if p.skipSpace(); !p.accept(')') {
			return Amount{}, false
		}
	}
	return a, true
}

func (p *parser) amount() (Amount, error) {
	var a Amount
	if a.open = p.openPhrase(); a.open != NotOpen {
		return a, nil
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
		if fruit := t.Unit.JuiceOf() || t.Unit.PeelOf(); fruit || a.upTo && p.prefix || !p.plus(t) && !(a.n < maxTerms && p.smallerFollows(t)) {
			return a, nil
		}
	}
}

func addable(a, b Kind) bool {
	physical := func(k Kind) bool { return k == Mass || k == Volume }
	return a == b || physical(a) && physical(b)
}

// openPhrase reads an amount without a figure, such as "to taste". The more
// that is said of it ("enough to cover the soap nuts") is left as the rest.
func (p *parser) openPhrase() Open {
	p.skipSpace()
	c := p.peek()
	if isDigit(rune(c)) {
		return NotOpen
	}
	rest := p.in[p.pos:]
	for i := range openPhrases {
		phrase := openPhrases[i].phrase
		if len(rest) < len(phrase) || c|0x20 != phrase[0] || !strings.EqualFold(rest[:len(phrase)], phrase) {
			continue
		}
		if after, _ := utf8.DecodeRuneInString(rest[len(phrase):]); unicode.IsLetter(after) {
			continue
		}
		end := p.pos + len(phrase)
		// “a little vinegar” is open, “to fill 2 jars” and “enough to make 2 l” are totals
		q := parser{in: p.in, pos: end}
		if openPhrases[i].open == ToFill || phrase == "enough" {
			if q.skipWordsThenNumber() {
				continue
			}
		}
		if !p.prefix {
			if q = (parser{in: p.in, pos: end}); !q.onlyWords() {
				continue
			}
			end = len(p.in)
		}
		p.pos = end
		return openPhrases[i].open
	}
	return NotOpen
}

// skipWordsThenNumber reports whether a number comes within the next words.
func (p *parser) skipWordsThenNumber() bool {
	for range 4 {
		p.skipSpace()
		if isDigit(rune(p.peek())) || vulgarFractions[p.peekRune()] != (Number{}) {
			return true
		}
		if e := p.entry(); e.role == isNumber {
			return true
		} else if e.role == noRole && p.pos >= len(p.in) {
			return false
		}
	}
	return false
}

// onlyWords reports whether nothing but words follows.
func (p *parser) onlyWords() bool {
	for _, r := range p.in[p.pos:] {
		if !unicode.IsLetter(r) && !unicode.IsSpace(r) && r != '-' && r != '\'' && r != '.' {
			return false
		}
	}
	return true
}

// makeUp reads "to", "up to", "make up to", "top up to", "qs to", "enough to
// make".
func (p *parser) makeUp() bool {
	mark := p.pos
	if p.skipSpace(); isDigit(rune(p.peek())) || !strings.ContainsRune("tmuqfe", rune(p.peek()|0x20)) {
		return false
	}
	for {
		switch p.word() {
		case "to", "makes":
			at := p.pos
			switch p.word() {
			case "make", "fill", "total":
				if p.skipSpace(); p.startsNumber() {
					return true
				}
			}
			p.pos = at
			return true
		case "make", "made", "top", "topped", "fill", "filled", "up", "qs", "q.s.", "q.s", "enough":
		default:
			p.pos = mark
			return false
		}
	}
}

// plus reads a joiner between terms, if a term follows it that adds up with the one before:
// of another unit, where it is said in a sentence, since “200 g and 100 g” are two.
func (p *parser) plus(before Term) bool {
	mark := p.pos
	p.skipSpace()
	joined := p.accept('+')
	if joined && !p.prefix {
		return true
	}
	joined = joined || p.accept('&')
	if !joined {
		w := p.word()
		joined = w == "and" || w == "plus"
	}
	if joined {
		after := p.pos
		if p.skipSpace(); p.startsNumber() {
			if !p.prefix {
				p.pos = after
				return true
			}
			// “2 cups soap and a cup of soda”: what follows has to be a measure
			// of the same thing, so the unit must be there
			q := *p
			if t, err := q.term(); err == nil && t.Unit.Kind() != Count && t.Unit != before.Unit && addable(before.Unit.Kind(), t.Unit.Kind()) {
				p.pos = after
				return true
			}
		}
	}
	p.pos = mark
	return false
}

// smallerFollows reports whether a term of a smaller unit follows with nothing
// between, as in "1 lb 4 oz".
func (p *parser) smallerFollows(before Term) bool {
	mark := p.pos
	defer func() { p.pos = mark }()
	p.skipSpace()
	if !isDigit(rune(p.peek())) && vulgarFractions[p.peekRune()] == (Number{}) {
		return false
	}
	t, err := p.term()
	if err != nil || t.Unit.Kind() != before.Unit.Kind() || t.Unit.Kind() != Mass && t.Unit.Kind() != Volume {
		return false
	}
	small, big := t.size(Handling{Measures: US}).Value, before.size(Handling{Measures: US}).Value
	return small > 0 && small < big
}

func (p *parser) startsNumber() bool {
	r, _ := utf8.DecodeRuneInString(p.in[p.pos:])
	if isDigit(r) || vulgarFractions[r] != (Number{}) {
		return true
	}
	mark := p.pos
	defer func() { p.pos = mark }()
	e := p.entry()
	return e.role == isNumber || e.role == isArticle || e.role == isFill && (e.fill == Heaped || e.fill == Level)
}
