package material

import (
	"fmt"
	"sync"
)

// ambiguous are names that mean several materials, and which: they are asked about and
// never guessed. Common practice.
var ambiguous = sync.OnceValue(func() map[string][]string {
	var names map[string][]string
	if err := readFile("ambiguous", &names); err != nil {
		panic(fmt.Sprintf("material: %v", err))
	}
	return names
})

// meant are the names of the materials that an ambiguous name may mean.
func (l *Library) meant(key string) []string {
	var out []string
	for _, id := range ambiguous()[key] {
		if m, err := l.Find(id); err == nil {
			out = append(out, m.Name)
		}
	}
	return out
}

// Meant are the ids of the materials that an ambiguous name may mean; none for any other.
func (l *Library) Meant(name string) []string { return ambiguous()[fold(name)] }
