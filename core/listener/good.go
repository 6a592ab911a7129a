package listener

import (
	"strings"

	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/method"
	"keencrock/core/quantity"
)

// Talk is what was read of a text.
type Talk struct {
	Text  string // as it was read: sound, in UTF-8
	Goods []*Good
	Words []Word
}

// Good is a good that was said: the first one of a text has no name where none is said.
type Good struct {
	Name   string
	Kind   formula.Kind // "other" where it is not said
	Not    []*material.Material
	Yield  quantity.Amount
	Doses  []formula.Dose
	Method string // what is done, as it was said
	Notes  []string
	Unsure []Unsure // questions of the reading itself

	lines     []*Line
	before    int // how many lines stood before anything was said
	sentences []*sentence
	phases    []phaseSaid
	total     quantity.Amount                   // what it is made up to, or what holds it
	inTotal   bool                              // lines are shares of that
	headed    bool                              // its name stood before a colon
	forUse    bool                              // its name says what it is for, and no more
	variant   bool                              // its first lines are those of another good
	of        string                            // the good that “it” was in its list
	shares    []quantity.Amount                 // of the ratio that stands at its head
	sizes     map[quantity.Unit]quantity.Amount // what the maker's own scoops hold
}

// Line is a line of a good, as it was said.
type Line struct {
	formula.Line
	Err error // *material.UnknownError or *material.StrengthError; nil when all was read

	said   string // the amount as it was said
	name   string // as it was said, brackets included
	from   int    // where in the text it begins, in tokens
	lead   bool   // “to a litre of …”, said before all else
	shared bool   // its amount is shared with others

	corrected bool // its amount was put right
	counted   bool // a number of what is counted one by one: 20 soap nuts
}

// Unsure is a question of the reading: what was said can mean more than one thing.
type Unsure struct {
	Line    int // −1 for none
	Code    string
	Text    string
	Answers []string
}

// Lines are the lines of the good, in the order they were said.
func (g *Good) Lines() []*Line { return g.lines }

// Formula is the good as a formula, with the steps that were said. How it is measured is
// the measures given.
func (g *Good) Formula(lib *material.Library, measures quantity.Measures, w formula.Workshop) *formula.Formula {
	f := &formula.Formula{Name: g.Name, Kind: g.Kind, Measures: measures, Yield: g.Yield, Method: g.Method, Notes: strings.Join(g.Notes, " ")}
	g.intoPhases()
	for _, l := range g.lines {
		f.Lines = append(f.Lines, l.Line)
	}
	if len(g.Doses) > 0 {
		f.Use, f.UseWater = g.Doses[0].Amount, g.Doses[0].Water
		if len(g.Doses) > 1 || g.Doses[0].For != "" {
			f.Doses = g.Doses
		}
	}
	if g.Method != "" && len(f.Lines) <= formula.MaxLines {
		f.Steps = method.Read(g.Method, formula.Resolve(f, lib, w))
	}
	return f
}

// empty reports whether nothing has been said of it.
func (g *Good) empty() bool {
	return len(g.lines) == 0 && len(g.Doses) == 0 && len(g.Not) == 0 && g.Yield.IsZero() && g.Method == ""
}
