package material

import (
	"strings"

	"github.com/agnivade/levenshtein"
)

// Spotter finds the names of a library's materials in running text, word by word. It is
// made once for a library ([Library.Spotter]) and safe for use by many goroutines.
type Spotter struct {
	root  spotNode
	words map[string]bool // every word of any name
	near  map[byte][]string

	longest int // words of a name
}

type spotNode struct {
	next map[string]*spotNode
	of   *Material // a name ends here
}

// Spotter returns what finds the library's names in running text.
func (l *Library) Spotter() *Spotter {
	l.spotting.Do(func() {
		s := &Spotter{words: map[string]bool{}, near: map[byte][]string{}}
		for name, m := range l.byName {
			s.add(name, m)
		}
		for name := range ambiguous() {
			s.add(name, nil)
		}
		l.spotter = s
	})
	return l.spotter
}

func (s *Spotter) add(name string, m *Material) {
	node := &s.root
	words := strings.Fields(name)
	s.longest = max(s.longest, len(words))
	for _, w := range words {
		if !s.words[w] {
			s.words[w] = true
			if len(w) >= shortestMisspelt {
				s.near[w[0]] = append(s.near[w[0]], w)
			}
		}
		if node.next == nil {
			node.next = map[string]*spotNode{}
		}
		n := node.next[w]
		if n == nil {
			n = &spotNode{}
			node.next[w] = n
		}
		node = n
	}
	if m == nil {
		m = unclear
	}
	if node.of == nil {
		node.of = m
	}
}

// unclear stands where a name means several materials.
var unclear = &Material{}

// MostWords is how many words the longest of all names has.
func (s *Spotter) MostWords() int { return s.longest }

// Longest is how many of the words, which are folded ([Fold]), the longest name at their
// beginning has; 0 without one. A word may stand in the plural.
func (s *Spotter) Longest(words []string) (n int) {
	node := &s.root
	for i, w := range words {
		next := node.next[w]
		if next == nil {
			for _, single := range singulars(w) {
				if next = node.next[single]; next != nil {
					break
				}
			}
		}
		if next == nil {
			break
		}
		if node = next; node.of != nil {
			n = i + 1
		}
	}
	return n
}

// shortestMisspelt is how long a word is at least that may have a letter wrong: of a
// shorter one too many others are one letter away.
const shortestMisspelt = 5

// Corrected is the one word of any name that a word is with a letter wrong, left out,
// too many, or two changed over; ok is false where it is none, or more than one.
func (s *Spotter) Corrected(word string) (right string, ok bool) {
	if len(word) < shortestMisspelt || s.words[word] || strings.ContainsAny(word, "0123456789") { // NaHCO3 is not Na2CO3
		return "", false
	}
	for _, w := range s.near[word[0]] {
		if d := len(w) - len(word); d > 1 || d < -1 {
			continue
		}
		if levenshtein.ComputeDistance(w, word) == 1 || swapped(w, word) {
			if ok {
				return "", false
			}
			right, ok = w, true
		}
	}
	return right, ok
}

// swapped reports whether two words differ by two letters that changed places.
func swapped(a, b string) bool {
	if len(a) != len(b) {
		return false
	}
	for i := 0; i+1 < len(a); i++ {
		if a[i] != b[i] {
			return a[i] == b[i+1] && a[i+1] == b[i] && a[i+2:] == b[i+2:]
		}
	}
	return false
}

// singulars are the words that a plural may be of.
func singulars(word string) []string {
	var out []string
	for _, suffix := range [...]string{"s", "es"} {
		if single, ok := strings.CutSuffix(word, suffix); ok && len(single) > 2 {
			out = append(out, single)
		}
	}
	if single, ok := strings.CutSuffix(word, "ies"); ok {
		out = append(out, single+"y")
	}
	return out
}

// Fold makes a name comparable: small letters, single spaces, no hyphens or apostrophes.
func Fold(name string) string { return fold(name) }
