package listener

import (
	"regexp"
	"strconv"
	"strings"

	"keencrock/core/material"
	"keencrock/core/quantity"
)

// Happening is what something that is said at the bench means for the batch.
type Happening struct {
	Kind HappeningKind
	Line int // of the batch, from 0; −1 for none
	// Material and Amount are of what was added, or taken for what; Amount of a correction
	// is what it was really.
	Material *material.Material
	Amount   quantity.Amount
	Instead  quantity.Amount // what had been said or weighed; zero where it is not said
	Count    int             // of pieces
	PH       float64
	Meter    bool // the pH was read by a meter, not by a strip
	For      quantity.Wait
	Text     string // as it was said
}

// HappeningKind is what happened.
type HappeningKind string

// What may be said to have happened. What is nothing else is a note, and never lost.
const (
	Corrected HappeningKind = "corrected"
	Added     HappeningKind = "added"
	LeftOut   HappeningKind = "left-out"
	Done      HappeningKind = "done"
	Passed    HappeningKind = "passed"
	Stirred   HappeningKind = "stirred"
	Counted   HappeningKind = "counted"
	Broke     HappeningKind = "broke"
	Measured  HappeningKind = "measured"
	Noted     HappeningKind = "noted"
)

// Bench is what was heard at the bench, one happening a sentence.
type Bench struct {
	Text       string
	Words      []Word // Line is the happening, from 0
	Happenings []Happening
}

// ReadBench reads what is said at the bench while a batch is made of lines: “that was
// three, not two”, “another splash of vinegar”, “left out the scent”, “took it off at 90
// minutes”. What means none of these is a note. A text that is too long is a
// [*TooLongError].
func ReadBench(text string, lines []*material.Material, lib *material.Library) (*Bench, error) {
	if len(text) > MaxText {
		return nil, &TooLongError{Bytes: len(text)}
	}
	r := newReader(text, lib)
	r.marks()
	b := &benchReader{reader: r, of: lines}
	for lo := 0; lo < len(r.out); {
		hi := lo
		for hi < len(r.out) && r.out[hi].kind != aStop {
			hi++
		}
		if hi > lo {
			b.sentence(lo, hi)
		}
		if hi < len(r.out) {
			r.becomesWhereUnread(r.out[hi].from, r.out[hi].to, AsSmallTalk, nil)
		}
		lo = hi + 1
	}
	return &Bench{Text: r.text, Words: r.allWords(), Happenings: b.heard}, nil
}

type benchReader struct {
	*reader
	of    []*material.Material
	heard []Happening
}

// benchMarks is what of a sentence tells what it means.
type benchMarks struct {
	amounts []*mark
	names   []*mark
	wait    *mark
	after   quantity.Wait
	not     int // how many amounts stand before a “not”; −1 without one
	roles   roles
}

var phSaid = regexp.MustCompile(`(?i)\bp\s?h\b\D{0,14}?(\d{1,2}(?:[.,]\d{1,2})?)`)

// sentence finds what one sentence means.
func (b *benchReader) sentence(lo, hi int) {
	line := &Line{}
	b.good.lines = append(b.good.lines, line)
	from, to := b.out[lo].from, b.out[hi-1].to
	h := Happening{Kind: Noted, Line: -1, Text: b.asSaid(from, to)}
	marks := b.gather(lo, hi)
	said := b.clean[b.toks[from].from:b.toks[to-1].to]
	switch m := phSaid.FindStringSubmatch(said); {
	case m != nil:
		if v, err := strconv.ParseFloat(strings.Replace(m[1], ",", ".", 1), 64); err == nil && v <= 14 {
			h.Kind, h.PH = Measured, v
			h.Meter = strings.Contains(strings.ToLower(said), "meter") || strings.Contains(strings.ToLower(said), "metre")
		}
	case marks.not >= 0 && len(marks.amounts) >= 2:
		b.correction(&h, marks)
	case b.hasAny(lo, hi, correct|set) && len(marks.amounts) > 0, b.startsWith(lo, correctWell) && len(marks.amounts) > 0:
		b.correction(&h, marks)
	case len(marks.amounts) == 2 && b.insteadBetween(marks): // “used 480 g of soda instead of 500”
		b.correction(&h, marks)
		h.Instead = marks.amounts[1].amount.Amount
	case b.tooMuch(marks): // “10 g too much borax”
		b.add(&h, marks)
	case b.toldAnew(marks, to): // “the borax was 198 g”, “198 g borax actually”, “ran out of borax, only 180 g”
		b.correction(&h, marks)
	case marks.roles&benchWas != 0 && len(marks.amounts) == 1 && marks.amounts[0].amount.Amount.Open() == quantity.NotOpen: // “that was 310 g”
		b.correction(&h, marks)
	case marks.roles&benchLeft != 0 && len(marks.names) > 0 && len(marks.amounts) == 0:
		b.leaveOut(&h, marks)
	case marks.roles&benchBroke != 0 && len(marks.amounts) > 0:
		b.count(&h, marks, Broke)
	case len(marks.names) > 0 && (marks.roles&benchMore != 0 || b.vague(marks)):
		b.add(&h, marks)
	case (marks.roles&benchCounted != 0 || onlyPieces(marks)) && len(marks.amounts) > 0 && len(marks.names) == 0 && isCount(marks.amounts[0].amount.Amount):
		b.count(&h, marks, Counted)
	case marks.roles&benchSkipped != 0 && len(marks.names) == 0:
		h.Kind = Passed
	case marks.roles&benchDone != 0 && (marks.wait != nil || to-from <= 4):
		h.Kind, h.For = Done, marks.after
	case marks.roles&benchStirred != 0:
		h.Kind = Stirred
	case marks.wait != nil && len(marks.names) == 0 && len(marks.amounts) == 0 && b.leftSo(from, marks.wait): // “left it twenty minutes”
		h.Kind, h.For = Done, marks.after
	}
	as := AsRemark
	if h.Kind != Noted {
		as = AsStep
	}
	b.becomesWhereUnread(from, to, as, line)
	b.heard = append(b.heard, h)
}

// insteadBetween reports whether “instead of” or its kin stand between two amounts.
func (b *benchReader) insteadBetween(marks benchMarks) bool {
	for i := marks.amounts[0].to; i < marks.amounts[1].from; i++ {
		if w := b.toks[i].word; w == "instead" || w == "rather" {
			return true
		}
	}
	return false
}

// tooMuch reports whether so much of a line is said to be more than was wanted.
func (b *benchReader) tooMuch(marks benchMarks) bool {
	if len(marks.amounts) != 1 || len(marks.names) != 1 || !inMeasures(marks.amounts[0].amount.Amount) {
		return false
	}
	at := marks.amounts[0].to
	return at+1 < len(b.toks) && b.toks[at].word == "too" && b.toks[at+1].word == "much"
}

// toldAnew reports whether one amount is said anew of one line of the batch, and nothing was added.
func (b *benchReader) toldAnew(marks benchMarks, to int) bool {
	if len(marks.amounts) != 1 || len(marks.names) != 1 || marks.roles&(benchMore|benchBroke) != 0 || marks.roles&benchLeft != 0 && b.toks[max(0, marks.amounts[0].from-1)].word != "only" || marks.amounts[0].amount.Amount.Open() != quantity.NotOpen {
		return false
	}
	if line, _ := b.lineOfName(marks.names[0]); line < 0 {
		return false
	}
	amount, name := marks.amounts[0], marks.names[0]
	for i := name.to; i < amount.from; i++ {
		if wasSo[b.toks[i].word] {
			return true
		}
	}
	return reallySo[b.toks[to-1].word]
}

// leftSo reports whether a sentence begins with what is left to itself, and ends in for how long.
func (b *benchReader) leftSo(from int, wait *mark) bool {
	if leftWords[b.toks[from].word] {
		return wait.from <= from+4
	}
	return false
}

func (b *benchReader) gather(lo, hi int) benchMarks {
	out := benchMarks{not: -1}
	for k := lo; k < hi; k++ {
		m := &b.out[k]
		switch m.kind {
		case anAmount:
			if !m.article && !m.amount.Amount.IsZero() {
				out.amounts = append(out.amounts, m)
			}
		case aName:
			out.names = append(out.names, m)
		case aWait:
			out.wait = m
			out.after, _, _ = quantity.ReadWaitPrefix(b.clean[b.toks[m.from].from:])
		case aPhrase:
			out.roles |= m.meaning.roles
			if m.is(none|instead) && b.toks[m.from].word == "not" {
				out.not = len(out.amounts)
			}
		}
	}
	return out
}

// lineOfName is the line of the batch that a name speaks of; −1 for none.
func (b *benchReader) lineOfName(m *mark) (int, *material.Material) {
	text := b.said(m.from, m.to)
	found := b.read(text)
	for i, of := range b.of {
		if of == nil {
			continue
		}
		if found != nil && of.ID == found.ID {
			return i, of
		}
	}
	for i, of := range b.of { // “the scent”, “the oil”, “the soap”
		if of == nil {
			continue
		}
		switch {
		case found != nil && found.ID == "essential-oil" && of.Is(material.ScentOil):
			return i, of
		case found == nil && lastWord(of.Name) == lastWord(text):
			return i, of
		}
		for _, id := range b.lib.Meant(text) {
			if id == of.ID {
				return i, of
			}
		}
	}
	return -1, found
}

// correction is “that was three, not two”, “no, 30 g”.
func (b *benchReader) correction(h *Happening, marks benchMarks) {
	h.Kind, h.Amount = Corrected, marks.amounts[0].amount.Amount
	switch {
	case marks.not == 0 && len(marks.amounts) > 1: // “not two, three”
		h.Amount, h.Instead = marks.amounts[1].amount.Amount, marks.amounts[0].amount.Amount
	case marks.not > 0 && marks.not < len(marks.amounts):
		h.Instead = marks.amounts[marks.not].amount.Amount
	}
	if len(marks.names) > 0 {
		h.Line, h.Material = b.lineOfName(marks.names[0])
	}
	for _, m := range marks.amounts {
		b.becomes(m.from, m.to, AsAmount, b.good.lines[len(b.good.lines)-1])
	}
}

// leaveOut is “left out the scent”.
func (b *benchReader) leaveOut(h *Happening, marks benchMarks) {
	h.Kind = LeftOut
	if h.Line, h.Material = b.lineOfName(marks.names[0]); h.Line >= 0 {
		b.becomes(marks.names[0].from, marks.names[0].to, AsNot, b.good.lines[len(b.good.lines)-1])
	}
}

// add is “another splash of vinegar”.
func (b *benchReader) add(h *Happening, marks benchMarks) {
	line := b.good.lines[len(b.good.lines)-1]
	h.Line, h.Material = b.lineOfName(marks.names[0])
	if h.Material == nil {
		return
	}
	h.Kind, h.Amount = Added, quantity.OpenAmount(quantity.Some)
	if len(marks.amounts) > 0 {
		h.Amount = marks.amounts[0].amount.Amount
		if u, ok := b.unitBefore(marks.names[0]); ok && h.Amount.Unit() == quantity.Bare { // “two more teaspoons of borax”
			if with, fits := h.Amount.InUnitOf(u); fits {
				h.Amount = with
			}
		}
		b.becomes(marks.amounts[0].from, marks.amounts[0].to, AsAmount, line)
	} else if u, ok := b.unitBefore(marks.names[0]); ok {
		h.Amount = u
	}
	b.becomes(marks.names[0].from, marks.names[0].to, AsMaterial, line)
}

// unitBefore is the amount of a unit alone: “another splash of vinegar”.
func (b *benchReader) unitBefore(name *mark) (quantity.Amount, bool) {
	for i := name.from - 1; i >= 0 && i >= name.from-3; i-- {
		if _, ok := quantity.UnitNamed(b.toks[i].word); ok {
			a, err := quantity.Parse("1 " + b.toks[i].word)
			return a, err == nil
		}
	}
	return quantity.Amount{}, false
}

// vague reports whether a material is named with an amount that hands guess, as one that
// is added is.
func (b *benchReader) vague(marks benchMarks) bool {
	return len(marks.amounts) == 1 && isVague(marks.amounts[0].amount.Amount) && (marks.amounts[0].amount.Amount.Open() == quantity.NotOpen || marks.amounts[0].amount.Amount.Open() == quantity.Some)
}

// count is “24 pieces”, “two broke”.
func (b *benchReader) count(h *Happening, marks benchMarks, kind HappeningKind) {
	n, ok := marks.amounts[0].amount.Amount.Pieces()
	if !ok || n.Low != n.High || n.Value != float64(int(n.Value)) {
		return
	}
	h.Kind, h.Count = kind, int(n.Value)
	b.becomes(marks.amounts[0].from, marks.amounts[0].to, AsAmount, b.good.lines[len(b.good.lines)-1])
}

// onlyPieces reports whether nothing but a number of pieces is said.
func onlyPieces(marks benchMarks) bool {
	if len(marks.amounts) != 1 {
		return false
	}
	u := marks.amounts[0].amount.Amount.Unit()
	return u == quantity.Piece || u == quantity.Tab
}

func isCount(a quantity.Amount) bool {
	_, ok := a.Pieces()
	return ok
}

// wasSo stand before what something came to.
var wasSo = wordSet("wasSo")

// reallySo say that it was so.
var reallySo = wordSet("reallySo")

// leftWords say that something was left standing.
var leftWords = wordSet("leftWords")
