// Package wording is what stands on a label, by language: hazard and precautionary
// statements, classes of ingredients, and the few words around them.
//
// A language is a file in languages/. Another one is added by adding its file: every
// text of English has to be in it, or it is refused when the program starts.
package wording

import (
	"cmp"
	"embed"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"sync"
)

// Language is everything a label says in one language. Source says where the
// statements are from.
type Language struct {
	Code, Name string
	Decimal    string // the mark between a whole and its part
	Source     string
	Statements map[string]string // by code: H318, P102, EUH208
	Classes    map[string]string // of ingredients, by package material's names
	Bands      map[string]string // of their shares
	Allergens  map[string]string
	Kinds      map[string]string // of goods, by package formula's names
	Surfaces   map[string]string // a good must not be used on, by their English names
	Machines   map[string]string // by package dosing's names
	Units      map[string]string // of doses, by their English names
	Words      map[string]string
}

//go:embed languages/*.json
var files embed.FS

// English is the language every text is written in first.
const English = "en"

// languages reads all of them. It panics when one is not whole, which a test rules
// out.
var languages = sync.OnceValue(func() map[string]*Language {
	entries, err := files.ReadDir("languages")
	if err != nil {
		panic(fmt.Sprintf("wording: %v", err))
	}
	texts := map[string][]byte{}
	for _, e := range entries {
		if texts[e.Name()], err = files.ReadFile("languages/" + e.Name()); err != nil {
			panic(fmt.Sprintf("wording: %v", err))
		}
	}
	all, err := load(texts)
	if err != nil {
		panic(fmt.Sprintf("wording: %v", err))
	}
	return all
})

// load reads languages from the texts of their files.
func load(texts map[string][]byte) (map[string]*Language, error) {
	all := map[string]*Language{}
	for name, text := range texts {
		var l Language
		if err := json.Unmarshal(text, &l); err != nil {
			return nil, fmt.Errorf("%s: %w", name, err)
		}
		all[l.Code] = &l
	}
	first := all[English]
	if first == nil {
		return nil, fmt.Errorf("%s is missing", English)
	}
	for code, l := range all {
		if missing := l.missing(first); len(missing) > 0 {
			return nil, fmt.Errorf("language %s lacks %s", code, strings.Join(missing, ", "))
		}
	}
	return all, nil
}

// missing names the texts of another language that this one lacks.
func (l *Language) missing(other *Language) (missing []string) {
	mine := l.tables()
	for i, table := range other.tables() {
		for key := range table {
			if mine[i][key] == "" {
				missing = append(missing, key)
			}
		}
	}
	if l.Code == "" || l.Name == "" || l.Decimal == "" || l.Source == "" {
		missing = append(missing, "a code, a name, a decimal mark or a source")
	}
	slices.Sort(missing)
	return missing
}

func (l *Language) tables() []map[string]string {
	return []map[string]string{l.Statements, l.Classes, l.Bands, l.Allergens, l.Kinds, l.Surfaces, l.Machines, l.Units, l.Words}
}

// Find returns a language by its code.
func Find(code string) (*Language, error) {
	if l := languages()[code]; l != nil {
		return l, nil
	}
	var known []string
	for _, l := range All() {
		known = append(known, l.Code)
	}
	return nil, fmt.Errorf("no statements are known in %q: there are %s", code, strings.Join(known, ", "))
}

// All returns every language, English first.
func All() []*Language {
	var all []*Language
	for _, l := range languages() {
		all = append(all, l)
	}
	slices.SortFunc(all, func(a, b *Language) int {
		return cmp.Or(boolean(b.Code == English)-boolean(a.Code == English), cmp.Compare(a.Name, b.Name))
	})
	return all
}

func boolean(b bool) int {
	if b {
		return 1
	}
	return 0
}

// Statement is the text of a statement. Of EUH208 the names take their place.
func (l *Language) Statement(code string, names ...string) string {
	return strings.ReplaceAll(l.Statements[code], "{names}", strings.Join(names, ", "))
}

// Surface is the name of a surface; as it is given where it is not known.
func (l *Language) Surface(name string) string { return cmp.Or(l.Surfaces[name], name) }

// Measure is an amount such as "1 1/2 tbsp" in the units of the language.
func (l *Language) Measure(amount string) string {
	words := strings.Fields(amount)
	for i, w := range words {
		words[i] = cmp.Or(l.Units[w], w)
	}
	return strings.Join(words, " ")
}

// Number writes a number with the decimal mark of the language.
func (l *Language) Number(s string) string { return strings.ReplaceAll(s, ".", l.Decimal) }
