package listener

import (
	"strconv"
	"strings"

	"keencrock/core/material"
	"keencrock/core/quantity"
)

// memory is what is remembered from one atom to the next.
type memory struct {
	now     *sentence
	waiting []*naming // named, with no amount yet
	shared  sharing
	alone   *amountSaid // said, with no name yet
	last    *Line       // the last line
	amount  quantity.Amount
	dose    quantity.Amount
	doseIn  *sentence // where a dose was said last

	correctNext roles   // a correction was announced: “no, …”
	noneNext    bool    // names that follow are not in it
	altNext     bool    // what follows may take the place of the last line
	altFor      *Line   // what the next sentence names may take the place of it
	leftOut     *naming // the last that was said to be left out
	optional    bool    // the next line may be left out
	joined      bool    // an atom is joined to the one before by “and”
	forAll      bool    // “both”: the amount that comes is of all that wait
	renamed     *Line   // a line that was given another name just now
	proseBefore bool    // the atom before says more than what goes in
	paragraph   bool    // an empty line stands before
	mentioned   []*naming
	exchanges   []exchange
	perWater    *Line   // the water that something was said per
	touched     []*Line // named again in this sentence, with no amount yet
}

// amountSaid is an amount and where it was said.
type amountSaid struct {
	quantity.Reading
	written  string
	from, to int
	article  bool
	total    bool
}

// naming is a material as it was said, and where.
type naming struct {
	from, to int
	text     string
	optional bool
	joined   bool // by “and” to the one before
	prose    bool // named in passing
	use      bool // in what is done with the good
	others   []other
	remarks  []string
	in       *sentence
}

// other is what may take the place of a material, with an amount of its own or without.
type other struct {
	naming
	amount *amountSaid
}

// sharing is an amount, or a row of them, for the names that follow.
type sharing struct {
	said   *amountSaid
	shares []quantity.Amount
	next   int
	all    bool // one for all
	taken  bool
	of     string // what all of them are: “of each oil”
}

func (s *sharing) open() bool { return s.all && s.said != nil || s.next < len(s.shares) }

// take is the amount for the next name.
func (s *sharing) take() *amountSaid {
	s.taken = true
	if s.all {
		return s.said
	}
	a := s.shares[s.next]
	s.next++
	return &amountSaid{Reading: quantity.Reading{Amount: a}, written: a.String(), from: s.said.from, to: s.said.to}
}

// relative works out an amount that is said of another: “same again”, “half that”. ok is
// false where nothing was said that it can be of.
func (r *reader) relative(m *mark) (a quantity.Amount, ok bool) {
	if r.amount.IsZero() {
		return a, false
	}
	switch {
	case m.is(same):
		return r.amount, true
	case m.is(factored):
		return r.amount.Times(m.meaning.num, m.meaning.den)
	}
	return a, false
}

// theRest is the amount of what makes up the rest.
func (r *reader) theRest() quantity.Amount {
	sum, percents := 0.0, 0
	for _, l := range r.good.lines {
		if l.Amount.Unit() == quantity.Percent {
			share, _ := l.Amount.Parts()
			sum += share.Value
			percents++
		}
	}
	if percents > 0 && percents == len(r.good.lines) {
		if a, ok := quantity.Remainder(sum); ok {
			return a
		}
	}
	return r.topUp()
}

// topUp is the amount of what something is filled up with.
func (r *reader) topUp() quantity.Amount {
	if !r.good.total.IsZero() {
		return r.good.total.Total()
	}
	return quantity.OpenAmount(quantity.ToFill)
}

// measured gives a bare number the unit that was said before: “three cups of soda, one of
// borax”. What is counted by the piece stays a number.
func (r *reader) measured(a quantity.Reading, m *material.Material) (quantity.Reading, bool) {
	if a.Amount.Unit() != quantity.Bare || r.amount.IsZero() {
		return a, false
	}
	if n, ok := a.Amount.Pieces(); m != nil && m.Piece.Known() && !(ok && n.Value >= mostOfBig && r.amount.Kind() == quantity.Mass) { // “900 g soda, 450 grated soap”
		return a, false
	}
	if u := r.amount.Unit(); u == quantity.Bare || thingOf(u) != "" { // “6 lemon, 4 lavender” are no lemons
		return a, false
	}
	if terms := r.amount.Terms(); len(terms) == 1 && (terms[0].Unit == quantity.Gram || terms[0].Unit == quantity.Millilitre) && terms[0].Low.Float() >= 100 { // “500 g of borax and two of soda” are no two grams
		if n, ok := a.Amount.Pieces(); ok && n.High < 5 {
			return a, false
		}
	}
	if n, ok := a.Amount.Pieces(); ok && n.Value >= mostOfSpoons && r.amount.Kind() == quantity.Volume && r.amount.Unit() != quantity.Millilitre && r.amount.Unit() != quantity.Litre { // “up to the 500 mark”
		return a, false
	}
	of := r.amount
	if n, ok := a.Amount.Pieces(); ok && n.Value >= mostOfBig { // “a kilo of soda, 250 of borax”
		switch of.Unit() {
		case quantity.Kilogram:
			of = quantity.Of(1, 1, quantity.Gram)
		case quantity.Litre:
			of = quantity.Of(1, 1, quantity.Millilitre)
		}
	}
	if with, ok := a.Amount.InUnitOf(of); ok {
		a.Amount = with.Plain()
		return a, true
	}
	return a, false
}

// mostOfSpoons is from how many on a mere number is of no spoons or cups.
const mostOfSpoons = 50

// mostOfBig is from how many on a mere number after kilograms or litres is of grams or
// millilitres: nobody in a kitchen means 250 kg.
const mostOfBig = 20

// settle makes lines of the names that got no amount: they ask for it. What is in it
// already was spoken of again, as something to do.
func (r *reader) settle() {
	waiting := r.waiting
	r.waiting = nil
	for _, n := range waiting {
		switch m := r.read(n.text); {
		case r.lineOf(m, n.text) != nil && !(m == nil && n.from > 0 && r.toks[n.from-1].word == "," && r.listGoesOn(n.to)): // but “bicarb, soda and salt”
			r.touched = append(r.touched, r.lineOf(m, n.text))
			r.becomes(n.from, n.to, AsStep, r.lineOf(m, n.text))
			if n.in != nil {
				n.in.doing = true
			}
		case m != nil && m.ID != "water" && n.in != nil && len(r.good.lines) == 1 && r.last.from >= n.in.from && (n.use || n.in.using): // “take a lemon, dip it in salt”
			r.mentioned = append(r.mentioned, n)
			r.becomes(n.from, n.to, AsQuestion, nil)
		case n.use, n.in != nil && n.in.using:
			r.becomes(n.from, n.to, AsUse, nil)
		case n.prose:
			r.mentioned = append(r.mentioned, n)
			r.becomes(n.from, n.to, AsQuestion, nil)
		default:
			r.make(nil, n)
		}
	}
}

// read is the material of a name, nil where it is not known.
func (r *reader) read(name string) *material.Material {
	n, err := r.lib.Read(name)
	if err != nil {
		return nil
	}
	return n.Material
}

// lineOf is the line of a material, or of what a word such as “soap” means; nil without
// one.
func (r *reader) lineOf(m *material.Material, said string) *Line {
	for _, l := range r.good.lines {
		if m != nil && l.Material == m.ID {
			return l
		}
	}
	if m != nil { // “the vinegar”, of what is written as cider vinegar
		for _, l := range r.good.lines {
			if lm, err := r.lib.Find(l.Material); err == nil && lm.Active().Of != "" && lm.Active().Of == m.Active().Of && lm.Form == m.Form && lm.Functions[0] == m.Functions[0] {
				return l
			}
		}
		return r.lineEndingIn(said)
	}
	for _, id := range r.lib.Meant(said) {
		for _, l := range r.good.lines {
			if l.Material == id {
				return l
			}
		}
	}
	return r.lineEndingIn(said)
}

// lineEndingIn is the only line whose material's name ends in the word that a name ends in:
// “the salts”, of Epsom salt.
func (r *reader) lineEndingIn(said string) (found *Line) {
	word := strings.TrimSuffix(lastWord(said), "s")
	if word == "" || word == "oil" && strings.Contains(said, " ") { // “orange oil” is no line of lemon oil
		return nil
	}
	for _, l := range r.good.lines {
		name := l.name // of “yellow soap”, which is not known
		if m, err := r.lib.Find(l.Material); err == nil {
			name = m.Name
		}
		if strings.TrimSuffix(lastWord(name), "s") == word {
			switch fat := word == "oil" && !r.isScent(l); {
			case found == nil, fat && r.isScent(found): // “pour the oil over” is rather of no scent
				found = l
			case word != "oil" || fat == !r.isScent(found):
				return nil
			}
		}
	}
	return found
}

func rangeOf(low, high float64) string {
	return strconv.FormatFloat(low, 'g', 6, 64) + "–" + strconv.FormatFloat(high, 'g', 6, 64)
}
