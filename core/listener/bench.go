package listener

import (
	"slices"

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
	b.partPhrases()
	for lo := 0; lo < len(r.out); {
		hi := lo
		for hi < len(r.out) && r.out[hi].kind != aStop {
			hi++
		}
		if hi > lo {
			b.parts(lo, hi)
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

// parts parts a sentence where it tells of two things, “soda 505, borax 201”, “got 22 out of it and one cracked”.
func (b *benchReader) parts(lo, hi int) {
	start := lo
	for k := lo + 1; k+1 < hi && hi-lo <= longestTold; k++ {
		if k == start || !b.mayPart(k) || !b.tells(start, k) {
			continue
		}
		next := k + 1
		for next < hi && b.mayPart(next) { // “, and”
			next++
		}
		end := next
		for end < hi && !b.mayPart(end) {
			end++
		}
		if next == end || tellsOfBefore[b.toks[b.out[next].from].word] || !b.tells(next, end) {
			continue
		}
		b.sentence(start, k)
		b.becomesWhereUnread(b.out[k].from, b.out[next-1].to, AsSmallTalk, nil)
		start, k = next, next
	}
	b.sentence(start, hi)
}

// partPhrases parts a phrase that begins with what parts two things, “and another”: each of its words is one here.
func (b *benchReader) partPhrases() {
	for k := 0; k < len(b.out); k++ {
		m := b.out[k]
		if m.kind != aPhrase || m.to != m.from+2 || !partsTold[b.toks[m.from].word] {
			continue
		}
		first, n := b.lex.at(b.toks[:m.from+1], m.from)
		second, then := b.lex.at(b.toks[:m.to], m.from+1)
		if n == 1 && then == 1 && first.is(joiner) {
			b.out[k] = mark{kind: aPhrase, from: m.from, to: m.from + 1, meaning: first}
			b.out = slices.Insert(b.out, k+1, mark{kind: aPhrase, from: m.from + 1, to: m.to, meaning: second})
		}
	}
}

// longestTold is how many marks a sentence may have that is parted: nobody says more at once.
const longestTold = 100

// mayPart reports whether a mark stands between two things that are told.
func (b *benchReader) mayPart(k int) bool {
	m := &b.out[k]
	return m.kind == aComma || m.kind == aDash || m.is(joiner) && m.to == m.from+1 && partsTold[b.toks[m.from].word]
}

// tells reports whether what stands between two marks means something by itself. Nothing is kept of it.
func (b *benchReader) tells(lo, hi int) bool {
	heard, lines, fates := len(b.heard), len(b.good.lines), slices.Clone(b.fates)
	b.sentence(lo, hi)
	tells := b.heard[len(b.heard)-1].Kind != Noted
	b.heard, b.good.lines, b.fates = b.heard[:heard], b.good.lines[:lines], fates
	return tells
}

// sentence finds what one sentence means.
func (b *benchReader) sentence(lo, hi int) {
	line := &Line{}
	b.good.lines = append(b.good.lines, line)
	from, to := b.out[lo].from, b.out[hi-1].to
	h := Happening{Kind: Noted, Line: -1, Text: b.asSaid(from, to)}
	marks := b.gather(lo, hi)
	if instead, ok := b.swapped(marks, from, to, &h); ok {
		b.becomesWhereUnread(from, to, AsStep, line)
		b.heard = append(b.heard, h, instead)
		b.good.lines = append(b.good.lines, &Line{})
		return
	}
	if !b.measures(&h, from, to) {
		b.mean(&h, marks, lo, hi)
	}
	as := AsRemark
	if h.Kind != Noted {
		as = AsStep
	}
	b.becomesWhereUnread(from, to, as, line)
	b.heard = append(b.heard, h)
}

// mean finds what a sentence means that tells of one thing.
func (b *benchReader) mean(h *Happening, marks benchMarks, lo, hi int) {
	from, to := b.out[lo].from, b.out[hi-1].to
	switch {
	case marks.not >= 0 && len(marks.amounts) >= 2:
		b.correction(h, marks)
	case (b.between(from, to, wished) || b.nextTime(from, to)) && marks.not < 0: // “could have done with more lavender” tells of nothing that was done
	case len(marks.amounts) == 2 && len(marks.names) <= 1 && b.takenBack(lo, hi, marks): // “200 of borax, no 210”
		h.Instead = marks.amounts[0].amount.Amount
		marks.amounts = marks.amounts[1:]
		b.correction(h, marks)
	case len(marks.amounts) == 2 && len(marks.names) <= 1 && b.between(marks.amounts[0].to, marks.amounts[1].from, wantedSo): // “weighed 200, should have been 250”
		b.correction(h, marks)
	case b.hasAny(lo, hi, correct|set) && len(marks.amounts) > 0, b.startsWith(lo, correctWell) && len(marks.amounts) > 0:
		b.correction(h, marks)
	case len(marks.amounts) == 2 && b.between(marks.amounts[0].to, marks.amounts[1].from, insteadSo): // “used 480 g of soda instead of 500”
		b.correction(h, marks)
		h.Instead = marks.amounts[1].amount.Amount
	case b.tooMuch(marks): // “10 g too much borax”
		b.add(h, marks)
	case b.goesInToo(marks, to), b.goesInBeside(marks, from): // “half a teaspoon of salt went in as well”
		b.add(h, marks)
	case b.toldAnew(marks, to), b.weighed(marks, from, to): // “the borax was 198 g”, “198 g borax actually”, “ran out of borax, only 180 g”, “soda 505”
		b.correction(h, marks)
	case marks.roles&benchWas != 0 && len(marks.amounts) == 1 && marks.amounts[0].amount.Amount.Open() == quantity.NotOpen: // “that was 310 g”
		b.correction(h, marks)
	case marks.roles&benchLeft != 0 && len(marks.names) > 0 && len(marks.amounts) == 0, b.leavesOutLine(marks, from, to): // “I'll leave the lavender out”
		b.leaveOut(h, marks)
	case b.between(from, to, manyTimes) && len(marks.amounts) == 0: // “added the borax twice” says not how much
	case marks.roles&benchBroke != 0 && len(marks.amounts) > 0:
		b.count(h, marks, Broke)
	case len(marks.names) > 0 && (marks.roles&benchMore != 0 || marks.roles&top != 0 && len(marks.amounts) == 1 || b.vague(marks)):
		b.add(h, marks)
	case (marks.roles&benchCounted != 0 || onlyPieces(marks)) && len(marks.amounts) > 0 && len(marks.names) == 0 && isCount(marks.amounts[0].amount.Amount):
		b.count(h, marks, Counted)
	case marks.roles&benchSkipped != 0 && len(marks.names) == 0:
		h.Kind = Passed
	case marks.roles&benchDone != 0 && (marks.wait != nil || to-from <= 4):
		h.Kind, h.For = Done, marks.after
	case marks.roles&benchStirred != 0:
		h.Kind = Stirred
	case marks.wait != nil && len(marks.names) == 0 && len(marks.amounts) == 0 && b.leftSo(from, marks.wait): // “left it twenty minutes”
		h.Kind, h.For = Done, marks.after
	}
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
	if h.Amount.UpTo() { // “the soda came to 512 g”
		h.Amount = h.Amount.Plain()
	}
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
