package formula

import (
	"regexp"
	"strings"
	"unicode"

	"keencrock/core/material"
	"keencrock/core/quantity"
)

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
func (r *textReader) waitFor(pieces []Piece, list []listed) {
	for _, l := range list {
		r.waiting = append(r.waiting, name{text: l.text, pieces: l.pieces(pieces, AsMaterial)})
		pieces = nil
	}
	for _, p := range pieces { // of a list with no name
		r.aside(p.Text, p.Became)
	}
}

// names gives a shared amount to each name of a list, which “to” may join too.
func (r *textReader) names(pieces []Piece, text string, to bool) (after string) {
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
func (r *textReader) cutJoined(text string, a quantity.Amount) (head, after string) {
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
func (r *textReader) another(word, text string, a quantity.Amount) (beside string, ok bool) {
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
func (r *textReader) otherLine(text string) (first, second string, ok bool) {
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
