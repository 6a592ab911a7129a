package hazard

import "slices"

// namedFor are the classes whose substances are named on a label: acute toxicity, skin
// corrosion and serious eye damage, sensitising, harm to genes, cancer, reproduction, single
// organs, and aspiration (CLP, Article 18(3)(b)).
var namedFor = []string{"H300", "H310", "H330", "H301", "H311", "H331", "H302", "H312", "H332", "H314", "H318", "H334", "H317", "H360FD", "H361", "H371", "H372", "H373", "H304"}

// mostNamed is how many substances are named at most, unless more are needed.
const mostNamed = 4

// substancesNamed are the names that a label gives for its statements: of each class first
// the substance that counts most for it, then the others.
func substancesNamed(statements []Finding) (names []string) {
	for depth := 0; ; depth++ {
		more := false
		for _, f := range statements {
			if depth >= len(f.From) || !slices.Contains(namedFor, f.Code) {
				continue
			}
			more = true
			if name := f.From[depth].Name; !slices.Contains(names, name) && len(names) < mostNamed {
				names = append(names, name)
			}
		}
		if !more || len(names) >= mostNamed {
			return names
		}
	}
}
