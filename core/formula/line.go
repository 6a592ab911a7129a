package formula

import (
	"strings"

	"keencrock/core/quantity"
)

// LineOf reads a line whose amount and material are written apart. An amount
// that cannot be read stands in Unread. Words about the state of the material
// may follow the amount, as in “1 cup, grated”, and become its note.
func LineOf(materialName, amount string) Line {
	l := Line{Material: materialName, Written: amount}
	if strings.TrimSpace(amount) == "" {
		return l
	}
	text := amount
	for _, phrase := range [...]string{"(optional)", ", optional", " optional", ", if you like", " if you like", ", if desired", " if desired"} {
		if before, found := strings.CutSuffix(strings.TrimSpace(text), phrase); found {
			text, l.Optional = before, true
		}
	}
	reading, err := quantity.Read(text)
	if err != nil {
		prefix, e := quantity.ReadPrefix(text)
		note := strings.Trim(prefix.Rest, " ,()")
		if e != nil || note == "" || !isStateText(note) {
			l.Unread = err
			return l
		}
		reading, l.Note = prefix, note
	}
	l.Amount, l.Also = reading.Amount, reading.Also
	return l
}

// isStateText reports whether a text says nothing but the state of something,
// or what it is for.
func isStateText(text string) bool {
	words := strings.Fields(strings.ToLower(strings.NewReplacer(",", " ", "(", " ", ")", " ").Replace(text)))
	for i, w := range words {
		if i > 0 && (w == "for" || w == "as" || w == "to") {
			return true
		}
		if _, ok := quantity.StateOf(w, ""); !ok && w != "and" && w != "or" && w != "very" {
			return w == "for" || w == "as"
		}
	}
	return len(words) > 0
}
