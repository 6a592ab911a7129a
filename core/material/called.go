package material

// What materials are called beside the names of their rows: fragrances by their smell, salts by their formula.

import (
	"slices"
	"strings"
)

// unnamedScent is the row for scents of which no more is known than what they smell of.
const unnamedScent = "essential-oil"

// fragranceEnds are what stands behind a smell that comes out of a bottle, and not out of a plant.
var fragranceEnds = [...]string{" fragrance oil", " fragrance", " perfume oil", " scented oil"}

// nameFragrances lets a fragrance be named by what it smells of: “lavender fragrance oil” is no
// lavender oil, and what is in it is not known.
//
// library/smells.json has what fragrances are made to smell of beside the plants that are in the library. Common
// practice.
func (l *Library) nameFragrances() error {
	var smells []string
	if err := readFile("smells", &smells); err != nil {
		return err
	}
	of := l.byName[fold(unnamedScent)]
	at := slices.Index(l.materials, of)
	plants := smells
	for _, m := range l.materials {
		if !m.Is(ScentOil) {
			continue
		}
		for _, name := range append([]string{m.Name}, m.Also...) {
			if plant, oil := strings.CutSuffix(fold(name), " oil"); oil && !strings.Contains(plant, "fragrance") && !strings.Contains(plant, "essential") && !strings.Contains(plant, "scent") && m != of {
				plants = append(plants, plant)
			}
		}
		plants = append(plants, m.Kin...)
	}
	for _, plant := range plants {
		for _, end := range fragranceEnds {
			if key := fold(plant) + end; l.byName[key] == nil {
				l.byName[key] = of
				l.folded[at] = append(l.folded[at], key)
			}
		}
	}
	return nil
}

// fewLetters is how short a formula may be to be a name of its own: “C” is a letter.
const fewLetters = 2

// nameFormulas lets a salt be named by its chemical formula, “MgSO4”, with the water it is sold with or without;
// the first row has it where several are the same but for that water.
func (l *Library) nameFormulas() {
	for _, wet := range []bool{true, false} {
		for at, m := range l.materials {
			name := m.Formula
			if dry, _, hydrate := strings.Cut(name, "·"); hydrate && !wet {
				name = dry
			}
			if key := fold(name); len(key) > fewLetters && l.byName[key] == nil {
				l.byName[key] = m
				l.folded[at] = append(l.folded[at], key)
			}
		}
	}
}
