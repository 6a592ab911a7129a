package formula

import "strings"

// cookedWords say in prose that something was cooked.
var cookedWords = []string{"boil", "cook", "simmer", "stew"}

// IsCooked reports whether it is heated while it is made: by a step, a line that goes in
// boiling, or a word of how it is made.
func (r *Resolved) IsCooked() bool {
	f := r.Formula
	said := strings.ToLower(f.Method)
	for _, s := range f.Steps {
		if s.Kind == Heat {
			return true
		}
		said += " " + strings.ToLower(s.Text)
	}
	for i := range r.Lines {
		if r.Lines[i].Line.Celsius >= boilingC {
			return true
		}
		said += " " + strings.ToLower(r.Lines[i].Line.Note)
	}
	for _, w := range cookedWords {
		if strings.Contains(said, w) {
			return true
		}
	}
	return false
}

// boilingC is from how warm something is poured in that it cooks what it meets; from
// memory.
const boilingC = 90
