package material

import (
	"slices"
	"strings"
	"unicode"

	"keencrock/core/quantity"
)

// Figure is a measured range with the key of its source (see
// [Library.Source]). The zero value means "not known".
type Figure struct {
	quantity.Range
	Source string
}

// Known reports whether the figure holds anything.
func (f Figure) Known() bool { return !f.IsZero() }

// CustomSource is the source key of a figure a workshop measured itself.
const CustomSource = "own"

// Material is one thing on the shelf. Densities are in g/ml, loose to tapped
// for powders; pieces in grams; humidity in % RH; shares are by mass.
type Material struct {
	ID        string
	Name      string
	Label     string   // as it stands in an ingredient list
	Also      []string // other names in use
	Form      string
	Functions []string
	Tags      Tags
	Formula   string  // empty when it is no single compound
	MolarMass float64 // g/mol, zero without a formula
	MakeUp    []Component
	Density   Figure
	Piece     Figure
	PieceUnit string // bar, nut, lemon, tab
	DrinksAt  Figure // deliquescence humidity, % RH
	// DrinksNone says that it drinks no water from the air of a room, as far as
	// is known.
	DrinksNone bool
	// PH is what it makes of water, where its make-up is not known: ash, a
	// ferment; unknown where its make-up tells.
	PH Figure
	// Saponifies is how much potassium hydroxide turns it into soap, in mg to a gram; of
	// what is no fat or oil unknown.
	Saponifies Figure
	Keeps      Life
	Hazards    Hazards
	// Declares is the class it is declared by in a list of ingredients.
	Declares Declared
	// Allergens are the fragrance allergens in it, by their names in such a list, as
	// shares of it by mass.
	Allergens map[string]Figure
	Note      string
	Own       bool     // of the workshop, not shipped
	MadeOf    []Base   // the bought materials in what was made here; empty for what was bought
	Kin       []string // which of several it can be, where one row stands for all: what was said is kept with the line
	Like      string   // id of the shipped material it is like, for one of the workshop\'s own; empty when it is like none
}

// Component is one part of a mixture by mass fraction.
type Component struct {
	Of    string
	Share Figure
}

// Life is how long a material keeps, in days.
type Life struct {
	SealedDays, OpenDays int
	Source               string
}

// Is reports whether the material has every given tag.
func (m *Material) Is(t Tags) bool { return m.Tags&t == t }

// Does reports whether the material serves a function, such as "acid".
func (m *Material) Does(function string) bool { return slices.Contains(m.Functions, function) }

// Nature is the id of the shipped material whose nature it has: its own, or of
// the one it is like.
func (m *Material) Nature() string {
	if m.Like != "" {
		return m.Like
	}
	return m.ID
}

// Liquid reports whether the material is poured.
func (m *Material) Liquid() bool { return m.Form == "liquid" || m.Form == "oil" }

// ShareOf returns the mass fraction of a component, such as "water"; 1 for
// the material itself, 0 when it holds none or its make-up is not known.
func (m *Material) ShareOf(component string) float64 {
	if m.ID == component {
		return 1
	}
	if len(m.MadeOf) > 0 {
		share := 0.0
		for _, b := range m.MadeOf {
			share += b.Share * b.Material.ShareOf(component)
		}
		return share
	}
	for _, c := range m.MakeUp {
		if c.Of == component {
			return c.Share.Value
		}
	}
	return 0
}

// Handling returns what is needed to make grams of a written amount of this
// material under the given measures.
func (m *Material) Handling(measures quantity.Measures) quantity.Handling {
	return quantity.Handling{Measures: measures, DensityGPerML: m.Density.Range, PieceG: m.Piece.Range, Liquid: m.Liquid()}
}

// OnlySmells reports whether all it does in a good is to smell or to colour it.
func (m *Material) OnlySmells() bool {
	return m.Is(ScentOil) || m.Functions[0] == "scent" || m.Functions[0] == "colour"
}

// InSentence is a name as it stands inside a sentence: with a small first
// letter, unless it begins with a word in capitals.
func InSentence(name string) string {
	r := []rune(name)
	if len(r) == 0 || len(r) > 1 && unicode.IsUpper(r[1]) {
		return name
	}
	return strings.ToLower(string(r[:1])) + string(r[1:])
}
