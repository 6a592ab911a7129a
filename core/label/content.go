package label

import (
	"cmp"
	"fmt"
	"strings"
	"time"

	"keencrock/core/wording"
)

// Statement is a statement of a screen, with the names that go into it.
type Statement struct {
	Code  string
	Names []string
}

// Dose is a line of a dose table as it stands on a label: in which machine, by its id of
// package dosing, called what, and how much.
type Dose struct{ Machine, Name, Much string }

// Content is what a label says, in no language yet but for what the maker wrote.
type Content struct {
	Name string
	Kind string // of package formula
	// NetG, NetML or NetPieces is the net quantity: what is poured by volume, what is
	// counted by pieces with its mass, the rest by mass.
	NetG, NetML float64
	NetPieces   int

	Signal      string // danger, warning or empty
	Pictograms  []string
	Statements  []Statement
	Precautions []string
	// Named are the substances that bring the classes, as far as they have to be named; less
	// what a statement names already.
	Named []string
	// UnknownShare is how much of it no hazard is known of, 0 to 1.
	UnknownShare float64
	Ingredients  Declaration

	Use   string // how it is used, in the maker's own words
	NotOn []string
	Doses []Dose
	Extra []string // words of package wording: shake, vented, dry-lid

	Lot              string
	Made, BestBefore time.Time // zero when not given
	Maker            string    // name and address
	Phone            string
	UFI              string // the code of the formula, where the law asks for one
	URL              string // of the jar's page, as its code holds it; empty for none
}

// block is one piece of a label in one or two languages.
type block struct {
	id   string
	text []string // a paragraph for each language; one where both say the same
	bold bool
	// optional says that it may be left to the leaflet, the higher the sooner; 0 must
	// stand on the label.
	optional int
}

// NetWords is the net quantity as it is written (Directive 76/211/EEC): one figure, in
// g or kg, ml or l.
func (c *Content) NetWords(l *wording.Language) string {
	write := func(v float64, small, large string) string {
		if v >= 1000 {
			return l.Number(trim(fmt.Sprintf("%.2f", v/1000))) + " " + large
		}
		if v < 10 {
			return l.Number(trim(fmt.Sprintf("%.1f", v))) + " " + small
		}
		return fmt.Sprintf("%.0f %s", v, small)
	}
	switch {
	case c.NetML > 0:
		return write(c.NetML, "ml", "l")
	case c.NetPieces > 0 && c.NetG > 0:
		return fmt.Sprintf("%d %s, %s", c.NetPieces, pieces(l, c.NetPieces), write(c.NetG, "g", "kg"))
	case c.NetG > 0:
		return write(c.NetG, "g", "kg")
	}
	return ""
}

func pieces(l *wording.Language, n int) string {
	if n == 1 {
		return l.Words["piece"]
	}
	return l.Words["pieces"]
}

func trim(s string) string { return strings.TrimRight(strings.TrimRight(s, "0"), ".") }

// nominal is the figure that sets the height of the letters.
func (c *Content) nominal() float64 { return max(c.NetML, c.NetG) }

// dateWords is a day as figures, which every language reads.
func dateWords(t time.Time) string { return t.Format("2006-01-02") }

// IngredientWords is the list of ingredients.
func (c *Content) IngredientWords(l *wording.Language) string {
	var parts []string
	for i := 0; i < len(c.Ingredients.Classes); {
		band := c.Ingredients.Classes[i].Band
		var names []string
		for ; i < len(c.Ingredients.Classes) && c.Ingredients.Classes[i].Band == band; i++ {
			names = append(names, l.Classes[c.Ingredients.Classes[i].Class])
		}
		parts = append(parts, l.Bands[band]+" "+strings.Join(names, ", "))
	}
	for _, class := range c.Ingredients.Named {
		word := l.Classes[class]
		if class == "preservation-agents" && len(c.Ingredients.Preservatives) > 0 {
			word += " (" + strings.Join(c.Ingredients.Preservatives, ", ") + ")"
		}
		if class == "perfumes" && len(c.Ingredients.Allergens) > 0 {
			var names []string
			for _, a := range c.Ingredients.Allergens {
				names = append(names, l.Allergens[a])
			}
			word += " (" + strings.Join(names, ", ") + ")"
		}
		parts = append(parts, word)
	}
	if len(parts) == 0 {
		return ""
	}
	return l.Words["ingredients"] + ": " + strings.Join(parts, "; ") + "."
}

func (c *Content) statementWords(l *wording.Language) string {
	var texts []string
	for _, s := range c.Statements {
		texts = append(texts, l.Statement(s.Code, s.Names...))
	}
	if len(c.Named) > 0 {
		texts = append(texts, strings.ReplaceAll(l.Words["holds"], "{names}", strings.Join(c.Named, ", ")))
	}
	return strings.Join(texts, " ")
}

func (c *Content) precautionWords(l *wording.Language) string {
	var texts []string
	for _, code := range c.Precautions {
		texts = append(texts, l.Statement(code))
	}
	return strings.Join(texts, " ")
}

func (c *Content) doseWords(l *wording.Language) string {
	if len(c.Doses) == 0 {
		return ""
	}
	var rows []string
	for _, d := range c.Doses {
		where := cmp.Or(l.Machines[d.Machine], d.Name)
		rows = append(rows, where+": "+strings.ReplaceAll(l.Measure(d.Much), " ", noBreak))
	}
	return l.Words["dose"] + ": " + strings.Join(rows, "; ") + "."
}

func (c *Content) notOnWords(l *wording.Language) string {
	names := make([]string, len(c.NotOn))
	for i, name := range c.NotOn {
		names[i] = l.Surface(name)
	}
	return strings.Join(names, ", ")
}

func (c *Content) extraWords(l *wording.Language) string {
	var texts []string
	for _, e := range c.Extra {
		texts = append(texts, l.Words[e])
	}
	return strings.Join(texts, " ")
}

// blocks are what stands on a form, in its order; what there is nothing of is left out.
func (c *Content) blocks(form Form, languages []*wording.Language) (out []block) {
	each := func(say func(*wording.Language) string) (texts []string) {
		for _, l := range languages {
			if t := say(l); t != "" && (len(texts) == 0 || texts[0] != t) {
				texts = append(texts, t)
			}
		}
		return texts
	}
	labelled := func(word, value string) func(*wording.Language) string {
		return func(l *wording.Language) string {
			if value == "" {
				return ""
			}
			return l.Words[word] + " " + value
		}
	}
	date := func(t time.Time) string {
		if t.IsZero() {
			return ""
		}
		return dateWords(t)
	}
	for _, id := range form.Blocks {
		b := block{id: id}
		switch id {
		case "for":
			b.text = each(func(l *wording.Language) string { return l.Kinds[c.Kind] })
		case "signal":
			b.bold = true
			b.text = each(func(l *wording.Language) string { return l.Words[c.Signal] })
		case "statements":
			b.text = each(c.statementWords)
		case "precautions":
			b.text = each(c.precautionWords)
		case "ingredients":
			b.text = each(c.IngredientWords)
		case "use":
			b.optional = 2
			b.text = each(func(l *wording.Language) string { return prefixed(l.Words["use"], c.Use) })
		case "not-on":
			b.optional = 1
			b.text = each(func(l *wording.Language) string { return prefixed(l.Words["not-on"], c.notOnWords(l)) })
		case "dose":
			b.optional = 3
			b.text = each(c.doseWords)
		case "extra":
			b.text = each(c.extraWords)
		case "made":
			b.text = each(labelled("made", date(c.Made)))
			b.optional = 4
		case "best-before":
			b.text = each(labelled("best-before", date(c.BestBefore)))
		case "lot":
			b.text = each(labelled("lot", c.Lot))
		case "maker":
			b.text = c.makerWords(languages)
		default: // name, net, pictograms and qr are drawn by themselves
			continue
		}
		if len(b.text) > 0 {
			out = append(out, b)
		}
	}
	return out
}

// makerWords are who made it, and how they are reached, with the code of the formula.
func (c *Content) makerWords(languages []*wording.Language) []string {
	parts := []string{}
	if c.Maker != "" {
		parts = append(parts, c.Maker)
	}
	if c.Phone != "" {
		parts = append(parts, languages[0].Words["telephone"]+noBreak+strings.ReplaceAll(c.Phone, " ", noBreak))
	}
	if c.UFI != "" {
		parts = append(parts, languages[0].Words["formula-code"]+":"+noBreak+c.UFI)
	}
	if len(parts) == 0 {
		return nil
	}
	return []string{strings.Join(parts, ", ")}
}

func prefixed(word, value string) string {
	if value == "" {
		return ""
	}
	return word + ": " + strings.TrimRight(value, ".") + "."
}
