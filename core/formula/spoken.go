package formula

import (
	"strings"
	"unicode"

	"keencrock/core/material"
	"keencrock/core/quantity"
)

// Spoken is one line of a formula as it was said, read or not.
type Spoken struct {
	Text    string
	Line    Line  // set when Err is nil
	Err     error // *quantity.ParseError or *material.UnknownError
	Nearest []string
}

// ParseSpoken reads a formula the way a maker says it, lines or clauses parted
// by commas, semicolons or new lines:
//
//	2 cups soap flakes, 1 cup washing soda, 1 cup borax
//	borax: 1 cup
//
// Each clause is read on its own, so that one mistake spoils no other.
func ParseSpoken(text string, lib *material.Library) []Spoken {
	var lines []Spoken
	for _, clause := range clauses(text) {
		line, err := parseClause(clause, lib)
		s := Spoken{Text: clause, Line: line, Err: err}
		if unknown, ok := err.(*material.UnknownError); ok {
			s.Nearest = unknown.Nearest
		}
		lines = append(lines, s)
	}
	return lines
}

// clauses splits at new lines, semicolons and commas, but not at a decimal
// comma.
func clauses(text string) []string {
	runes := []rune(text)
	var out []string
	start := 0
	cut := func(end int) {
		if s := strings.Trim(strings.TrimSpace(string(runes[start:end])), "•*·"); strings.TrimSpace(s) != "" {
			out = append(out, strings.TrimSpace(s))
		}
	}
	for i, r := range runes {
		decimal := r == ',' && i+1 < len(runes) && unicode.IsDigit(runes[i+1]) && i > 0 && unicode.IsDigit(runes[i-1])
		if r == '\n' || r == ';' || r == ',' && !decimal {
			cut(i)
			start = i + 1
		}
	}
	cut(len(runes))
	return out
}

func parseClause(s string, lib *material.Library) (Line, error) {
	optional := false
	if before, found := strings.CutSuffix(s, "(optional)"); found {
		s, optional = strings.TrimSpace(before), true
	}
	a, rest, err := quantity.ParsePrefix(s)
	if err != nil {
		if line, ok := parseNameFirst(s, lib); ok {
			line.Optional = optional
			return line, nil
		}
		return Line{}, err
	}
	m, err := findPart(rest, lib)
	if err != nil {
		return Line{}, err
	}
	if _, counted := a.Pieces(); counted && !m.Piece.Known() {
		// "2 cusp salt": what was taken for a count is a unit misspelt
		if _, err := quantity.Parse(s); err != nil {
			return Line{}, err
		}
	}
	return Line{Material: m.ID, Amount: a, Written: a.String(), Optional: optional}, nil
}

// parseNameFirst reads "borax: 1 cup" and "water to 10 l".
func parseNameFirst(s string, lib *material.Library) (Line, bool) {
	for i := range s {
		if s[i] != ' ' && s[i] != ':' {
			continue
		}
		a, err := quantity.Parse(strings.TrimLeft(s[i:], ": "))
		if err != nil {
			continue
		}
		if m, err := findPart(strings.TrimSpace(s[:i]), lib); err == nil {
			return Line{Material: m.ID, Amount: a, Written: a.String()}, true
		}
	}
	return Line{}, false
}

// findPart finds a material, leaving off words a maker adds about its state:
// "grated castile soap", "fresh lemon", "white vinegar (5 %)".
func findPart(name string, lib *material.Library) (*material.Material, error) {
	m, err := lib.Find(name)
	if err == nil {
		return m, nil
	}
	if i := strings.IndexAny(name, "(["); i > 0 {
		if m, e := lib.Find(name[:i]); e == nil {
			return m, nil
		}
	}
	if _, after, found := strings.Cut(name, " "); found {
		if m, e := lib.Find(after); e == nil {
			return m, nil
		}
	}
	return nil, err
}
