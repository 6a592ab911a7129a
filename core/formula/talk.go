package formula

import (
	"regexp"
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

// Said is one line of a formula as it was said, read or not.
type Said struct {
	Text   string
	Line   Line
	Err    error // *quantity.ParseError, *material.UnknownError or *material.StrengthError; nil when all was read
	Pieces []Piece
	// Method is set for a sentence that says what is done rather than what goes
	// in; it has no line.
	Method bool
}

// MaxTalk is the longest text read at once, in bytes.
const MaxTalk = 20_000

// ReadTalk reads a formula the way a maker says it, in lists or in whole
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
func ReadTalk(text string, lib *material.Library) []Said {
	if len(text) > MaxTalk {
		return []Said{{Text: text[:40] + "…", Err: &quantity.ParseError{Input: text, Position: 1, Expected: "a text of at most 20,000 letters", Found: "more"}}}
	}
	r := talk{lib: lib}
	for _, c := range clauses(text) {
		r.clause(c)
	}
	r.settle()
	r.closeShared()
	return r.out
}

// talk reads one clause after the other.
type talk struct {
	lib     *material.Library
	out     []Said
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

// clauses splits at new lines, semicolons, stops and commas, but not at a
// decimal comma or point, nor inside brackets.
func clauses(text string) []string {
	var out []string
	start, depth := 0, 0
	cut := func(end int) {
		if s := strings.TrimSpace(text[start:end]); strings.Trim(s, "•*·-–— ") != "" {
			out = append(out, s)
		}
		start = end + 1
	}
	for i, r := range text {
		switch {
		case r == '(' || r == '[':
			depth++
		case (r == ')' || r == ']') && depth > 0:
			depth--
		case r == '\n' || r == ';':
			cut(i)
			depth = 0
		case depth > 0:
		case r == ',' && !between(text, i, isDigit):
			cut(i)
		case r == '.' && endsSentence(text, i):
			cut(i)
		}
	}
	cut(len(text))
	return out
}

func isDigit(b byte) bool { return '0' <= b && b <= '9' }

// between reports whether both neighbours of a byte are of a kind.
func between(s string, i int, is func(byte) bool) bool {
	return i > 0 && i+1 < len(s) && is(s[i-1]) && is(s[i+1])
}

// endsSentence tells a full stop from that of an abbreviation or a decimal: a
// space and a capital or a number follow it, and a word of more than four
// letters stands before it.
func endsSentence(s string, i int) bool {
	if i+1 == len(s) {
		return true
	}
	rest := strings.TrimLeft(s[i+1:], " ")
	if len(rest) == len(s)-i-1 || rest == "" {
		return false
	}
	c := rune(rest[0])
	word := s[strings.LastIndexAny(s[:i], " \n,")+1 : i]
	return (unicode.IsUpper(c) || unicode.IsDigit(c)) && len(word) > 4
}

// opening are words at the head of a clause that say nothing of what goes in.
var opening = wordSet(`and plus then also add adding mix mixing stir stirring in combine use using take put pour with finally next first now you need needs will i we
	together well into it to the recipe is makes our my have of ingredients lastly last afterwards after that shake throw toss dissolve let lets followed by include including`)

// joiners part two lines within a clause where an amount follows.
var joiners = wordSet("and plus & + with then add also")

func wordSet(list string) map[string]bool {
	set := map[string]bool{}
	for _, w := range strings.Fields(list) {
		set[w] = true
	}
	return set
}

// clause reads what stands between two stops: one line or more.
func (r *talk) clause(text string) {
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

// opening parts the words at the head of a clause that say nothing.
func (r *talk) opening(text string) (glue, rest string) {
	rest = strings.TrimLeft(text, "•*·-–—+& \t")
	if ordinal := listNumber.FindString(rest); ordinal != "" {
		rest = rest[len(ordinal):]
	}
	for rest != "" {
		word, after, _ := strings.Cut(rest, " ")
		if !opening[strings.ToLower(strings.Trim(word, ":"))] {
			break
		}
		if _, err := quantity.ReadPrefix(rest); err == nil {
			break // “to 10 l water” begins with an amount
		}
		rest = strings.TrimLeft(after, " ")
	}
	return strings.TrimSpace(text[:len(text)-len(rest)]), rest
}

// listNumber is the number of a line in a numbered list.
var listNumber = regexp.MustCompile(`^\d{1,2}[.)]\s+`)

// aside keeps what belongs to no line with the line before it, so that nothing
// is dropped without being shown.
func (r *talk) aside(text string, as Became) {
	if text == "" {
		return
	}
	if as == Unread || len(r.out) == 0 && len(r.waiting) == 0 {
		r.out = append(r.out, Said{Text: text, Err: &material.UnknownError{Name: text}, Pieces: []Piece{{text, Unread}}})
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
func (r *talk) line(glue, text string) (left string) {
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
			r.out = append(r.out, Said{Text: amount, Method: true, Pieces: append(pieces, Piece{glue, AsGlue})})
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

func fruitName(u quantity.Unit) string {
	if u.JuiceOf() {
		return u.Fruit() + " juice"
	}
	if u.PeelOf() {
		return u.Fruit() + " peel"
	}
	return ""
}

// leadIn is the length of the words between a total, or an open amount, and
// what it is of, that say nothing: “you need”, “with”; 0 without any.
func leadIn(a quantity.Amount, rest string) int {
	if !a.UpTo() && a.Open() == quantity.NotOpen {
		return 0
	}
	at := 0
	for {
		word, _, found := strings.Cut(strings.TrimLeft(rest[at:], " "), " ")
		if !found || !opening[strings.ToLower(word)] || a.UpTo() && looksLikeAmount(word) {
			break
		}
		at = strings.Index(rest[at:], word) + at + len(word)
	}
	if a.UpTo() && at > 0 && !beginsLine(strings.TrimSpace(rest[at:])) {
		return 0
	}
	return at
}

func noName(rest string) bool {
	return strings.IndexFunc(rest, unicode.IsLetter) < 0
}

// cutEach reads "each of" and "each" at the head of a text.
func cutEach(rest string) (each, after string, ok bool) {
	trimmed := strings.TrimSpace(rest)
	if after, ok := strings.CutPrefix(trimmed, "each:"); ok {
		return "each:", strings.TrimSpace(after), true
	}
	for _, lead := range [...]string{"each of the ", "each of ", "each "} {
		if len(trimmed) > len(lead) && strings.EqualFold(trimmed[:len(lead)], lead) {
			return strings.TrimSpace(trimmed[:len(lead)]), trimmed[len(lead):], true
		}
	}
	return "", rest, false
}

// amountAlone gives an amount to the names that wait for one, or keeps it for
// the next.
func (r *talk) amountAlone(pieces []Piece, written string, reading quantity.Reading, each bool) string {
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
func (r *talk) nameFirst(pieces []Piece, text string, why error) string {
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
			r.out = append(r.out, Said{Text: text, Method: true, Pieces: append(pieces, Piece{text, AsNote})})
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

// doing are words that begin a sentence about what is done.
var doing = wordSet(`let leave wait stir strain press dry store keep cover close shake pour spray spread fill label cool heat boil simmer soak rub wipe rinse wash apply
	bring turn put place remove transfer set allow blend whisk grate chop scrub sprinkle use mix mash crush pack seal open that this it they then when if once after before while until
	do don't dont never always be make great good works leave-in`)

// methodWords is how many words make a sentence rather than a name.
const methodWords = 6

// isMethod reports whether a text that names nothing known says what is done.
func isMethod(text string) bool {
	words := strings.Fields(strings.ToLower(text))
	return len(words) >= methodWords || len(words) > 1 && doing[words[0]]
}

// listed is a name of a list, and the word that joins it to the one before.
type listed struct{ glue, text string }

// pieces are what is shown of it, after what was shown before.
func (l listed) pieces(before []Piece, as Became) []Piece {
	if l.glue != "" {
		before = append(before, Piece{l.glue, AsGlue})
	}
	return append(before, Piece{l.text, as})
}

// waitFor keeps names that have no amount yet.
func (r *talk) waitFor(pieces []Piece, list []listed) {
	for _, l := range list {
		r.waiting = append(r.waiting, name{text: l.text, pieces: l.pieces(pieces, AsMaterial)})
		pieces = nil
	}
	for _, p := range pieces { // of a list with no name
		r.aside(p.Text, p.Became)
	}
}

// names gives a shared amount to each name of a list, which “to” may join too.
func (r *talk) names(pieces []Piece, text string, to bool) (after string) {
	list, after := r.cutJoined(text, r.shared.amounts[0])
	pieces, r.shared.pieces = append(r.shared.pieces, pieces...), nil
	defer func() { r.shared.pieces = pieces }() // of a list with no name
	for _, l := range splitNames(list, to) {
		if !r.shared.open() {
			r.waitFor(pieces, []listed{l})
			pieces = nil
			continue
		}
		a := r.shared.take()
		written := r.shared.written
		if !r.shared.all {
			written = a.String()
		}
		r.add(l.text, quantity.Reading{Amount: a}, written, l.text, l.pieces(pieces, AsMaterial))
		pieces = nil
	}
	return after
}

// splitNames parts a list of names at "and", "&", "plus" and "with", and at "to"
// where that joins too.
func splitNames(text string, to bool) (parts []listed) {
	glue := ""
	for {
		at, end := nextJoiner(text, to)
		name := text
		if at >= 0 {
			name = text[:at]
		}
		if s := strings.Trim(name, " ,.;"); s != "" {
			parts = append(parts, listed{glue, s})
			glue = ""
		}
		if at < 0 {
			if glue != "" && len(parts) > 0 { // a joiner at the end
				parts[len(parts)-1].text += " " + glue
			}
			return parts
		}
		glue = strings.TrimSpace(glue + " " + strings.TrimSpace(text[at:end]))
		text = text[end:]
	}
}

// nextJoiner finds the next word that joins names; −1 without one.
func nextJoiner(text string, to bool) (at, end int) {
	for at = 0; at < len(text); {
		next := strings.IndexByte(text[at:], ' ')
		if next < 0 {
			return -1, -1
		}
		at += next
		word := text[at+1:]
		if i := strings.IndexByte(word, ' '); i >= 0 {
			word = word[:i]
		}
		if w := strings.ToLower(word); w == "and" || w == "&" || w == "with" || w == "plus" || to && w == "to" {
			return at, at + 1 + len(word)
		}
		at++
	}
	return -1, -1
}

// cutJoined cuts a name off where a joiner and another amount follow: “soap
// flakes and a cup of borax”, “citric acid in 1 l of water”.
func (r *talk) cutJoined(text string, a quantity.Amount) (head, after string) {
	depth := 0
	for at := 0; at < len(text); at++ {
		switch text[at] {
		case '(':
			depth++
		case ')':
			depth--
		}
		if text[at] != ' ' || depth > 0 {
			continue
		}
		rest := text[at+1:]
		word, next, found := strings.Cut(rest, " ")
		w := strings.ToLower(word)
		switch {
		case !found:
			continue
		case joiners[w] && beginsLine(next), w == "then" && doing[firstOf(next)]:
		default:
			beside, ok := r.another(w, next, a)
			if !ok {
				continue
			}
			r.glue, rest = rest[:len(rest)-len(beside)], beside
		}
		return strings.Trim(text[:at], " ,"), strings.TrimSpace(rest)
	}
	return strings.Trim(text, " ,.;:"), ""
}

// nextLine is where a name ends at the latest that stands before more.
var nextLine = regexp.MustCompile(`(?i)\s(?:and|plus|then|with|in|into|to|per|for)\s`)

func firstOf(text string) string {
	word, _, _ := strings.Cut(text, " ")
	return strings.ToLower(word)
}

// another finds what a word sets beside an amount: “in 1 l of water”, “to 4 parts
// water”, “for every litre of water”.
func (r *talk) another(word, text string, a quantity.Amount) (beside string, ok bool) {
	switch word {
	case "in", "into", "to", "per", "for":
	default:
		return "", false
	}
	text = strings.TrimSpace(strings.TrimPrefix(strings.TrimPrefix(text, "each "), "every "))
	other, err := quantity.ReadPrefix(text)
	if err != nil {
		return "", false
	}
	if a.Unit() == quantity.Part {
		return text, other.Amount.Unit() == quantity.Part || other.Amount.Unit() == quantity.Bare
	}
	if k := other.Amount.Kind(); k != quantity.Mass && k != quantity.Volume || other.Rest == "" {
		return "", false
	}
	name := other.Rest
	if cut := nextLine.FindStringIndex(name); cut != nil {
		name = name[:cut[0]]
	}
	_, err = r.lib.Read(name)
	return text, err == nil
}

// beginsLine reports whether a text begins with an amount, perhaps after
// another joiner: “and then 2 cups”.
func beginsLine(text string) bool {
	for range 3 {
		r, err := quantity.ReadPrefix(text)
		if err == nil {
			return r.Amount.Unit() != quantity.Bare || r.Rest != "" && looksLikeAmount(text)
		}
		word, next, found := strings.Cut(text, " ")
		if !found || !opening[strings.ToLower(word)] {
			return false
		}
		text = next
	}
	return false
}

// otherLine parts "juice or 15 drops of oil": another line that may take the
// place of this one.
func (r *talk) otherLine(text string) (first, second string, ok bool) {
	i := strings.Index(strings.ToLower(text), " or ")
	if i < 0 || len(strings.ToLower(text)) != len(text) {
		return "", "", false
	}
	first, second = text[:i], strings.TrimSpace(text[i+len(" or "):])
	if reading, err := quantity.ReadPrefix(second); err == nil && reading.Rest != "" && (reading.Amount.Unit() != quantity.Bare || looksLikeAmount(second)) {
		return first, second, true
	}
	return "", "", false
}

// ratios are shares said of things that follow, or stand before.
var (
	ratioNumbers = regexp.MustCompile(`(?i)^(\d{1,3}(?:\s*[:/]\s*\d{1,3}){1,11})(?:\s+(?:ratio|mix|mixture|blend|solution))?(?:\s+of)?(?:\s|$)`)
	equalShares  = regexp.MustCompile(`(?i)^(?:in\s+)?(?:equal|even|the same)\s+(?:parts?|amounts?|quantities|measures|shares)(?:\s+of|\s+by (?:weight|volume))?(?:\s+the)?(?:\s|$)`)
	halfAndHalf  = regexp.MustCompile(`(?i)^(?:half\s+and\s+half|half\s*&\s*half|50\s*[/:-]\s*50)(?:\s+mix)?(?:\s+of)?(?:\s|$)`)
	partsInWords = regexp.MustCompile(`(?i)^(?:in\s+)?(?:(one|1|two|2|three|3)\s+parts?\s+(?:to|in)\s+(\d{1,3}|one|two|three|four|five|six|seven|eight|nine|ten|twelve|twenty)(?:\s+parts?)?)\s*$`)
	ratioAtEnd   = regexp.MustCompile(`(?i)\s+(?:in\s+a\s+|at\s+|in\s+)?((?:\d{1,3}(?:\s*:\s*\d{1,3}){1,11})|50\s*/\s*50|half and half|(?:in )?equal parts|equal amounts)(?:\s+ratio)?$`)
)

// ratio reads shares: "equal parts of a, b and c", "1:4 vinegar to water",
// "vinegar and water, half and half".
func (r *talk) ratio(text string, pieces []Piece) (after string, ok bool) {
	var shares []quantity.Amount
	written, all := "", false
	switch {
	case equalShares.MatchString(text):
		written = equalShares.FindString(text)
		shares, all = []quantity.Amount{partsOf(1)}, true
	case halfAndHalf.MatchString(text):
		written = halfAndHalf.FindString(text)
		shares = []quantity.Amount{partsOf(1), partsOf(1)}
	case ratioNumbers.MatchString(text):
		m := ratioNumbers.FindStringSubmatch(text)
		if strings.Contains(m[1], "/") { // a fraction, unless it is 50/50
			return "", false
		}
		written = ratioNumbers.FindString(text)
		if shares = shareNumbers(m[1]); len(shares) == 0 { // “0:0”
			return "", false
		}
	case partsInWords.MatchString(text):
		m := partsInWords.FindStringSubmatch(text)
		written = text
		for _, w := range m[1:] {
			reading, err := quantity.Read(w + " parts")
			if err != nil {
				return "", false
			}
			shares = append(shares, reading.Amount)
		}
	default:
		m := ratioAtEnd.FindStringSubmatchIndex(text)
		if m == nil {
			return "", false
		}
		if said := text[m[2]:m[3]]; isDigit(said[0]) && len(shareNumbers(said)) == 0 { // “salt 0:0”
			return "", false
		}
		r.settle()
		r.waitFor(pieces, splitNames(text[:m[0]], true))
		return r.ratio(text[m[2]:m[3]], nil)
	}
	written = strings.TrimSpace(written)
	rest := strings.TrimSpace(text[len(written):])
	pieces = append(pieces, Piece{written, AsAmount})
	if rest == "" && len(r.waiting) > 0 { // “vinegar and water, 1:4”
		r.shared = sharing{amounts: shares, written: written, all: all}
		waiting := r.waiting
		r.waiting = nil
		for i, n := range waiting {
			if !r.shared.open() {
				r.waiting = append(r.waiting, n)
				continue
			}
			a := r.shared.take()
			p := n.pieces
			if i == 0 {
				p = append(p, pieces...)
			}
			r.add(n.text, quantity.Reading{Amount: a}, a.String(), n.text, p)
		}
		r.shared = sharing{}
		return "", true
	}
	r.settle()
	r.closeShared()
	r.shared = sharing{amounts: shares, written: "1 part", all: all}
	return r.names(pieces, rest, true), true
}

func partsOf(n int64) quantity.Amount { return quantity.Of(n, 1, quantity.Part) }

func shareNumbers(text string) (shares []quantity.Amount) {
	for _, f := range strings.FieldsFunc(text, func(r rune) bool { return !unicode.IsDigit(r) }) {
		if a, err := quantity.Parse(f + " parts"); err == nil {
			shares = append(shares, a)
		}
	}
	return shares
}

// settle makes lines of the names that got no amount: they ask for it.
func (r *talk) settle() {
	waiting := r.waiting
	r.waiting = nil
	for _, n := range waiting {
		r.add(n.text, quantity.Reading{}, "", n.text, n.pieces)
	}
}

// closeShared ends a list of names that share an amount. One that nothing took
// asks what it is of.
func (r *talk) closeShared() {
	if pieces := r.shared.pieces; len(pieces) > 0 {
		said := pieces[len(pieces)-1].Text
		r.fail(said, &quantity.ParseError{Input: said, Position: len([]rune(said)) + 1, Expected: "the name of a material"}, pieces)
	}
	r.shared = sharing{}
}

func (r *talk) fail(text string, err error, pieces []Piece) {
	r.out = append(r.out, Said{Text: text, Err: err, Pieces: pieces})
}

// add reads a name and adds a line; it returns where the line stands.
func (r *talk) add(text string, reading quantity.Reading, written, nameText string, pieces []Piece) int {
	nameText, purpose := cutPurpose(nameText)
	if o := reading.Amount.Open(); o == quantity.AsNeeded && strings.HasPrefix(purpose, "to cover") {
		reading.Amount = quantity.OpenAmount(quantity.ToCover)
	} else if o == quantity.AsNeeded && strings.HasPrefix(purpose, "to fill") {
		reading.Amount = quantity.OpenAmount(quantity.ToFill)
	}
	line := Line{Written: written, Amount: reading.Amount, Also: reading.Also, Purpose: purpose}
	err := line.name(nameText, r.lib)
	s := Said{Text: strings.TrimSpace(text), Line: line, Err: err, Pieces: pieces}
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
func (r *talk) addOther(at int, text string) {
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

// purposes begin what a line is for.
var purposes = []string{" to cover", " to fill", " to make", " to wet", " to bind", " to dissolve", " to thicken", " for ", " as a ", " as an ", " to help ", " to make it ", " so that ", " until ", " because "}

// cutPurpose parts what a line is for from its name: “lavender for scent”.
func cutPurpose(text string) (name, purpose string) {
	lower := strings.ToLower(text)
	if len(lower) != len(text) {
		return text, ""
	}
	at := len(text)
	for _, p := range purposes {
		if i := strings.Index(lower, p); i > 0 {
			at = min(at, i)
		}
	}
	return text[:at], strings.TrimSpace(text[at:])
}

// name finds the material a line speaks of, by what is said and by what it is
// measured in: a bar of castile soap is no liquid, a cup of lavender no oil.
func (l *Line) name(text string, lib *material.Library) error {
	l.Material = strings.TrimSpace(text)
	n, err := lib.ReadFor(text, l.Amount)
	if err != nil {
		return err
	}
	l.Material = n.Material.ID
	l.Celsius, l.Optional = n.Celsius, l.Optional || n.Optional
	l.Note = strings.Join(append(append([]string{}, n.Notes...), n.Aside...), ", ")
	if l.Also.IsZero() {
		l.Also = n.Also
	}
	for _, o := range n.Others {
		l.Alternatives = append(l.Alternatives, Line{Material: o.Material.ID, Amount: l.Amount, Written: l.Written})
	}
	return nil
}
