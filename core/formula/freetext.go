package formula

import (
	"strings"
	"unicode"

	"keencrock/core/material"
	"keencrock/core/quantity"
)

// Became says what a word of a text was read as.
type Became uint8

// A word is part of an amount or of a material, says something of its state,
// holds a sentence together, or was not understood.
const (
	Unread Became = iota
	AsAmount
	AsMaterial
	AsNote
	AsGlue
)

var becameNames = [...]string{"unread", "amount", "material", "note", "glue"}

// String returns unread, amount, material, note or glue.
func (b Became) String() string { return becameNames[b] }

// Piece is a stretch of a text and what it became. The pieces of a text, one
// after the other, are the text.
type Piece struct {
	Text   string
	Became Became
}

// TextLine is one line of a formula as it was said, read or not.
type TextLine struct {
	Text   string
	Line   Line
	Err    error // *quantity.ParseError, *material.UnknownError or *material.StrengthError; nil when all was read
	Pieces []Piece
	// Method is set for a sentence that says what is done rather than what goes
	// in; it has no line.
	Method bool
}

// MaxText is the longest text read at once, in bytes.
const MaxText = 20_000

// ReadText reads a formula the way a maker says it, in lists or in whole
// sentences:
//
//	2 cups soap flakes, 1 cup washing soda, 1 cup borax
//	borax: 1 cup
//	two cups of soap flakes and a cup each of washing soda, borax and baking
//	soda, plus 20 to 30 drops of lavender
//	equal parts of vinegar and water; 1:4 vinegar to water
//	1 cup borax or washing soda (optional)
//
// What stands between new lines, semicolons, full stops and commas is a clause;
// “and”, “plus” and their kin part clauses too where an amount follows. A clause
// without an amount belongs to a shared one before it (“a cup each of …”), takes
// one that follows (“borax, 1 cup”), or is a line that asks for its amount. Each
// is read on its own, so that one mistake spoils no other. It takes time in
// proportion to the text.
func ReadText(text string, lib *material.Library) []TextLine {
	if len(text) > MaxText {
		return []TextLine{{Text: text[:40] + "…", Err: &quantity.ParseError{Input: text, Position: 1, Expected: "a text of at most 20,000 letters", Found: "more"}}}
	}
	r := textReader{lib: lib}
	for _, c := range clauses(text) {
		r.clause(c)
	}
	r.settle()
	r.closeShared()
	return r.out
}

// talk reads one clause after the other.
type textReader struct {
	lib     *material.Library
	out     []TextLine
	waiting []name // named, with no amount yet
	shared  sharing
	glue    string // a joiner that was read before what is left of a clause
}

// name is a material as it was said, and the pieces of its clause.
type name struct {
	text   string
	pieces []Piece
}

// sharing is an amount, or a row of them, for the names that follow.
type sharing struct {
	amounts []quantity.Amount // one for all, or one each in turn
	written string
	next    int
	all     bool    // one for all
	pieces  []Piece // shown with the first name
}

func (s *sharing) open() bool { return s.all && len(s.amounts) > 0 || s.next < len(s.amounts) }

// take is the amount for the next name.
func (s *sharing) take() quantity.Amount {
	if s.all {
		return s.amounts[0]
	}
	a := s.amounts[s.next]
	s.next++
	return a
}

// clause reads what stands between two stops: one line or more.
func (r *textReader) clause(text string) {
	for range MaxLines {
		if text = strings.TrimSpace(text); text == "" {
			return
		}
		glue, rest := r.opening(text)
		glue = strings.TrimSpace(r.glue + " " + glue)
		r.glue = ""
		if rest == "" {
			r.aside(glue, AsGlue)
			return
		}
		text = r.line(glue, rest)
	}
	r.aside(text, Unread)
}

// aside keeps what belongs to no line with the line before it, so that nothing
// is dropped without being shown.
func (r *textReader) aside(text string, as Became) {
	if text == "" {
		return
	}
	if as == Unread || len(r.out) == 0 && len(r.waiting) == 0 {
		r.out = append(r.out, TextLine{Text: text, Err: &material.UnknownError{Name: text}, Pieces: []Piece{{text, Unread}}})
		return
	}
	if n := len(r.waiting); n > 0 {
		r.waiting[n-1].pieces = append(r.waiting[n-1].pieces, Piece{text, as})
		return
	}
	last := &r.out[len(r.out)-1]
	last.Pieces = append(last.Pieces, Piece{text, as})
}

// line reads one line at the head of a text and returns what is left of it.
func (r *textReader) line(glue, text string) (left string) {
	var pieces []Piece
	if glue != "" {
		pieces = append(pieces, Piece{glue, AsGlue})
	}
	if after, ok := r.ratio(text, pieces); ok {
		return after
	}
	reading, err := quantity.ReadPrefix(text)
	if err == nil && reading.Amount.Unit() == quantity.Percent && endsInAmount(reading.Rest) {
		err = &quantity.ParseError{Input: text, Position: 1, Expected: "an amount"} // “70 % alcohol, 1 cup”: a strength
	}
	if err != nil {
		return r.nameFirst(pieces, text, err)
	}
	amount := strings.TrimSpace(text[:reading.At])
	pieces = append(pieces, Piece{amount, AsAmount})
	rest := text[reading.At:]
	if rest == "" && reading.Rest == "" || strings.TrimSpace(rest) == "each" {
		return r.amountAlone(pieces, amount, reading, rest != "")
	}
	if fruit := fruitName(reading.Amount.Unit()); fruit != "" && rest != "" { // “juice of a lemon and its peel”
		r.settle()
		r.add(amount, reading, amount, fruit, pieces)
		return rest
	}
	if lead := leadIn(reading.Amount, rest); lead > 0 { // “to make 2 l you need …”, “top up with …”
		glue, after := strings.TrimSpace(rest[:lead]), rest[lead:]
		if reading.Amount.UpTo() {
			r.settle()
			pieces[len(pieces)-1].Became = AsNote
			r.out = append(r.out, TextLine{Text: amount, Method: true, Pieces: append(pieces, Piece{glue, AsGlue})})
			return after
		}
		pieces = append(pieces, Piece{glue, AsGlue})
		if rest = after; endsInAmount(after) {
			return r.nameFirst(pieces, after, nil)
		}
	}
	if each, after, ok := cutEach(rest); ok { // “a cup each of a, b and c”
		r.settle()
		r.closeShared()
		pieces = append(pieces, Piece{each, AsGlue})
		r.shared = sharing{amounts: []quantity.Amount{reading.Amount}, written: amount, all: true}
		return r.names(pieces, after, false)
	}
	if rest == "" { // “3 lemons”: the unit is the thing
		r.closeShared()
		pieces[len(pieces)-1].Became = AsMaterial
		r.add(amount, reading, amount, reading.Rest, pieces)
		return ""
	}
	if reading.Amount.Unit() == quantity.Bare && reading.Also.IsZero() && len(r.waiting) == 0 && noName(rest) {
		r.settle()
		r.fail(text, &quantity.ParseError{Input: text, Position: len([]rune(text[:reading.At])) + 1, Expected: "the name of a material"}, append(pieces, Piece{strings.TrimSpace(rest), Unread}))
		return ""
	}
	r.settle()
	r.closeShared()
	if word, next, _ := strings.Cut(strings.TrimSpace(rest), " "); reading.Amount.Unit() == quantity.Lemon && joiners[strings.ToLower(word)] && beginsLine(next) {
		pieces[len(pieces)-1].Became = AsMaterial // “3 lemons and a cup of salt”
		r.add(amount, reading, amount, quantity.Lemon.String(), pieces)
		return rest
	}
	nameText, after := r.cutJoined(rest, reading.Amount)
	if a, b, ok := r.otherLine(nameText); ok { // “1 tbsp juice or 15 drops of oil”
		line := r.add(text[:len(text)-len(rest)+len(nameText)], reading, amount, a, append(pieces, Piece{a, AsMaterial}))
		r.addOther(line, b)
		return after
	}
	r.add(text[:len(text)-len(after)], reading, amount, nameText, append(pieces, Piece{nameText, AsMaterial}))
	return after
}

// amountAlone gives an amount to the names that wait for one, or keeps it for
// the next.
func (r *textReader) amountAlone(pieces []Piece, written string, reading quantity.Reading, each bool) string {
	if each {
		pieces = append(pieces, Piece{"each", AsGlue})
	}
	if len(r.waiting) == 0 {
		r.fail(written, &quantity.ParseError{Input: written, Position: len([]rune(written)) + 1, Expected: "the name of a material"}, pieces)
		return ""
	}
	waiting := r.waiting
	if !each { // only the last one's; the others ask
		r.waiting = waiting[:len(waiting)-1]
		r.settle()
		waiting = waiting[len(waiting)-1:]
	}
	r.waiting = nil
	for i, n := range waiting {
		p := n.pieces
		if i == len(waiting)-1 {
			p = append(p, pieces...)
		}
		r.add(n.text+", "+written, reading, written, n.text, p)
	}
	return ""
}

// nameFirst reads "borax: 1 cup", "water to 10 l", "salt to taste", or a name
// alone.
func (r *textReader) nameFirst(pieces []Piece, text string, why error) string {
	if r.shared.open() {
		return r.names(pieces, text, false)
	}
	// an amount that runs to the end, after a colon, a dash or a space
	for i := 1; i < len(text); i++ {
		if c := text[i]; c != ' ' && c != ':' && c != '=' {
			continue
		}
		tail := strings.TrimLeft(text[i:], ": =–—-")
		if tail == "" {
			continue
		}
		trimmed := strings.TrimSuffix(strings.TrimSuffix(tail, " each"), " of each")
		reading, err := quantity.Read(trimmed)
		if err != nil {
			continue
		}
		head := strings.TrimSpace(strings.TrimRight(text[:i], ":=–—- "))
		if reading.Amount.Unit() == quantity.Bare && !strings.ContainsAny(text[i:min(i+2, len(text))], ":=") {
			if m, err := r.lib.Read(head); err != nil || !m.Material.Piece.Known() {
				continue // “soap nuts 15” counts, “borax 5” does not
			}
		}
		if trimmed != tail { // “washing soda and borax 1 cup each”
			r.waitFor(pieces, splitNames(head, false))
			return r.amountAlone([]Piece{{trimmed, AsAmount}}, trimmed, reading, true)
		}
		r.settle()
		r.add(text, reading, trimmed, head, append(pieces, Piece{head, AsMaterial}, Piece{trimmed, AsAmount}))
		return ""
	}
	if isStateText(text) && len(r.out) > 0 && len(r.waiting) == 0 {
		last := &r.out[len(r.out)-1] // “1 bar of soap, grated”
		last.Line.Note = strings.TrimPrefix(last.Line.Note+", "+text, ", ")
		last.Pieces = append(last.Pieces, append(pieces, Piece{text, AsNote})...)
		return ""
	}
	if _, err := r.lib.Read(text); err == nil || !looksLikeAmount(text) {
		if err != nil && isMethod(text) {
			r.settle()
			r.out = append(r.out, TextLine{Text: text, Method: true, Pieces: append(pieces, Piece{text, AsNote})})
			return ""
		}
		r.waitFor(pieces, splitNames(text, false))
		return ""
	}
	r.settle()
	r.fail(text, why, append(pieces, Piece{text, Unread}))
	return ""
}

// endsInAmount reports whether a text ends in an amount of a unit.
func endsInAmount(text string) bool {
	for i := range len(text) {
		if text[i] == ' ' {
			if r, err := quantity.Read(text[i+1:]); err == nil && r.Amount.Unit() != quantity.Bare && r.Amount.Open() == quantity.NotOpen {
				return true
			}
		}
	}
	return false
}

// looksLikeAmount reports whether a text begins as an amount does.
func looksLikeAmount(text string) bool {
	return text != "" && (unicode.IsDigit(rune(text[0])) || strings.ContainsRune("-−½¼¾⅓⅔", []rune(text)[0]))
}

// settle makes lines of the names that got no amount: they ask for it.
func (r *textReader) settle() {
	waiting := r.waiting
	r.waiting = nil
	for _, n := range waiting {
		r.add(n.text, quantity.Reading{}, "", n.text, n.pieces)
	}
}

// closeShared ends a list of names that share an amount. One that nothing took
// asks what it is of.
func (r *textReader) closeShared() {
	if pieces := r.shared.pieces; len(pieces) > 0 {
		said := pieces[len(pieces)-1].Text
		r.fail(said, &quantity.ParseError{Input: said, Position: len([]rune(said)) + 1, Expected: "the name of a material"}, pieces)
	}
	r.shared = sharing{}
}

func (r *textReader) fail(text string, err error, pieces []Piece) {
	r.out = append(r.out, TextLine{Text: text, Err: err, Pieces: pieces})
}

// add reads a name and adds a line; it returns where the line stands.
func (r *textReader) add(text string, reading quantity.Reading, written, nameText string, pieces []Piece) int {
	nameText, purpose := cutPurpose(nameText)
	if o := reading.Amount.Open(); o == quantity.AsNeeded && strings.HasPrefix(purpose, "to cover") {
		reading.Amount = quantity.OpenAmount(quantity.ToCover)
	} else if o == quantity.AsNeeded && strings.HasPrefix(purpose, "to fill") {
		reading.Amount = quantity.OpenAmount(quantity.ToFill)
	}
	line := Line{Written: written, Amount: reading.Amount, Also: reading.Also, Purpose: purpose}
	err := line.name(nameText, r.lib)
	s := TextLine{Text: strings.TrimSpace(text), Line: line, Err: err, Pieces: pieces}
	if _, unknown := err.(*material.UnknownError); unknown {
		for i := range s.Pieces {
			if s.Pieces[i].Became == AsMaterial {
				s.Pieces[i].Became = Unread
			}
		}
	}
	r.out = append(r.out, s)
	return len(r.out) - 1
}

// addOther reads a line that may take the place of one already read.
func (r *textReader) addOther(at int, text string) {
	reading, err := quantity.ReadPrefix(text)
	if err != nil {
		return
	}
	other := Line{Written: strings.TrimSpace(text[:reading.At]), Amount: reading.Amount, Also: reading.Also}
	err = other.name(reading.Rest, r.lib)
	s := &r.out[at]
	s.Pieces = append(s.Pieces, Piece{"or", AsGlue}, Piece{other.Written, AsAmount}, Piece{reading.Rest, AsMaterial})
	if err != nil {
		if s.Err == nil {
			s.Err = err
		}
		return
	}
	s.Line.Alternatives = append(s.Line.Alternatives, other)
}
