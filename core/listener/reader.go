package listener

import (
	"fmt"
	"slices"
	"strings"

	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

// MaxText is the longest text read at once, in bytes.
const MaxText = 20_000

// TooLongError is a text that is longer than is read at once.
type TooLongError struct{ Bytes int }

func (e *TooLongError) Error() string {
	return fmt.Sprintf("this is %d letters long: %d are read at once, so say it in parts", e.Bytes, MaxText)
}

// Read reads what is said of one good, or of several one after the other. It takes time
// in proportion to the text. A text that is too long is a [*TooLongError]; nothing else
// is refused.
func Read(text string, lib *material.Library) (*Talk, error) { return ReadAfter(nil, text, lib) }

// ReadAfter reads what is said of a good that has lines already: “no, two” corrects the
// last of them, “same again of salt” is of it. They stand before the new ones in what is
// read, changed or taken away as was said. The error is of [Read].
func ReadAfter(lines []formula.Line, text string, lib *material.Library) (*Talk, error) {
	if len(text) > MaxText {
		return nil, &TooLongError{Bytes: len(text)}
	}
	r := newReader(text, lib)
	for _, l := range lines {
		r.last = &Line{Line: l, name: l.Material, from: -1}
		r.good.lines = append(r.good.lines, r.last)
		if !l.Amount.IsZero() {
			r.amount = l.Amount
		}
	}
	r.good.before, r.ofGood = len(lines), true
	r.leaveOutDays()
	r.slashesToPer()
	r.marks()
	r.findHeads()
	r.sentences()
	return r.talk(), nil
}

// Lines are the lines of the first good of a text, for callers that want no more of it;
// none of a text that is too long.
func Lines(text string, lib *material.Library) []*Line {
	talk, err := Read(text, lib)
	if err != nil {
		return nil
	}
	return talk.Goods[0].lines
}

// reader reads one text from its beginning to its end.
type reader struct {
	lib     *material.Library
	spotter *material.Spotter
	lex     *lexicon

	text    string  // as it is said
	clean   string  // the same, hesitations blotted out; every place is the same
	all     []token // of the text
	fates   []fate  // of each of them
	toks    []token // without the hesitations
	origin  []int   // where each of toks stands in all
	out     []mark
	heads   map[int]pageHead // of the page, by the mark that each begins at
	ofGood  bool             // it is of what goes in: no number is a price
	storage bool             // the line before says that how it is stored follows
	weak    bool             // a head may be a material's name, too

	goods []*Good
	good  *Good

	facts    []fact // of a delivery, in their order
	nextFact int

	memory
	words []string // to look for names in
	ends  []int
}

func newReader(text string, lib *material.Library) *reader {
	r := &reader{lib: lib, spotter: lib.Spotter(), lex: spoken(), text: sound(text)}
	r.all = tokens(r.text)
	r.fates = make([]fate, len(r.all))
	r.good = &Good{Kind: "other"}
	r.goods = []*Good{r.good}
	r.leaveOutHesitations()
	r.leaveOutTable()
	r.leaveOutRules()
	r.leaveOutHashes()
	r.leaveOutCounts()
	return r
}

// talk is what was read.
func (r *reader) talk() *Talk {
	r.settle()
	r.findLost()
	r.nameAtHead()
	r.nameAtTail()
	r.askMentioned()
	for _, g := range r.goods {
		r.shareOfJuice(g)
		r.countPieces(g)
		r.sameMillilitres(g)
		r.sharesByRatio(g)
		r.scentsSoap(g)
		g.finish()
	}
	kept := r.goods[:0]
	for i, g := range r.goods {
		if !g.empty() || i == 0 && len(r.goods) == 1 {
			kept = append(kept, g)
		}
	}
	if len(kept) == 0 {
		kept = r.goods[:1]
	}
	r.goods = kept
	if first := kept[0]; first.empty() && len(first.Unsure) == 0 && strings.TrimSpace(r.clean) != "" {
		first.Unsure = append(first.Unsure, Unsure{Line: -1, Code: "nothing-heard", Text: "Nothing of this says what goes in. Say it as “two cups of washing soda and a cup of borax”."})
	}
	return &Talk{Text: r.text, Goods: r.goods, Words: r.allWords()}
}

// findLost asks about the materials that nothing became of: none that was named is lost.
func (r *reader) findLost() {
	for k := range r.out {
		m := &r.out[k]
		if m.kind != aName || r.fates[r.origin[m.from]].became != Unread {
			continue
		}
		n := &naming{from: m.from, to: m.to, text: r.said(m.from, m.to)}
		r.mentioned = append(r.mentioned, n)
		r.becomes(n.from, n.to, AsQuestion, nil)
	}
	for k := range r.out {
		m := &r.out[k]
		if f := r.fates[r.origin[m.from]]; f.became != Unread && f.became != AsLeftOut || f.good != nil && f.good != r.good {
			continue
		}
		if amount := m.kind == anAmount && !m.article && m.amount.Amount.Unit() != quantity.Bare && m.amount.Amount.Open() == quantity.NotOpen; amount || m.is(factored|same) && m.to > m.from+1 && !r.evens(k) {
			r.becomes(m.from, m.to, AsQuestion, nil)
			r.good.Unsure = append(r.good.Unsure, Unsure{Line: -1, Code: "amount-of-what", Text: "“" + strings.TrimSuffix(r.said(m.from, m.to), " of") + "” of what?"})
		}
	}
	r.askTwice()
}

// evens reports whether “as much … as …” says of two that are lines with the same amount
// what that is.
func (r *reader) evens(k int) bool {
	var lines []*Line
	for i := k + 1; i < len(r.out) && i < k+5 && r.out[i].kind != aStop; i++ {
		if r.out[i].kind == aName && r.isLine(i) {
			text := r.said(r.out[i].from, r.out[i].to)
			lines = append(lines, r.lineOf(r.read(text), text))
		}
	}
	if len(lines) < 2 || lines[0].Amount != lines[1].Amount {
		return false
	}
	r.becomes(r.out[k].from, r.out[k].to, AsSmallTalk, nil)
	return true
}

// saidAgain joins a line that only says once more what one right before it was put right to:
// “no wait, half a cup, half a cup of washing soda”.
func (r *reader) saidAgain() {
	g := r.good
	for i := 1; i < len(g.lines); i++ {
		l, before := g.lines[i], g.lines[i-1]
		if !before.corrected || l.Err != nil || before.Material != l.Material || before.Amount != l.Amount {
			continue
		}
		for k := range r.fates {
			if r.fates[k].line == l {
				r.fates[k].line = before
			}
		}
		g.lines = slices.Delete(g.lines, i, i+1)
		i--
	}
}

// askTwice asks about a material that two lines measure: it may be more of it, or have been
// said again. Water is poured again and again.
func (r *reader) askTwice() {
	r.saidAgain()
	for i, l := range r.good.lines {
		if u := l.Amount.Unit(); l.Err != nil || l.from < 0 || l.Material == "water" || l.Amount.IsZero() || u.PeelOf() || u.JuiceOf() {
			continue
		}
		for _, before := range r.good.lines[:i] {
			if before.Material == l.Material && before.from >= 0 && !before.Amount.IsZero() && !r.saysMoreOf(l) && !r.otherKin(before, l) {
				r.good.Unsure = append(r.good.Unsure, Unsure{Line: i, Code: "said-twice", Text: sentenceCase(before.name) + " stands here twice, " + before.Written + " and " + l.Written + ": is it both, or was it said again?"})
				break
			}
		}
	}
}

// otherKin reports whether two lines of one material are said of two sorts that it stands
// for: oregano and vetiver are both a scent that nothing is known of.
func (r *reader) otherKin(before, l *Line) bool {
	m := r.read(l.Material)
	return m != nil && len(m.Kin) > 0 && before.Note != l.Note
}

// saysMoreOf reports whether “another” or its kin stand before the amount of a line.
func (r *reader) saysMoreOf(l *Line) bool {
	for i := l.from; i >= 0 && i >= l.from-3; i-- {
		if moreWords[r.toks[i].word] {
			return true
		}
	}
	return false
}

// said is the text of tokens, single spaces between.
func (r *reader) said(from, to int) string {
	if from >= to {
		return ""
	}
	if to == from+1 {
		return r.clean[r.toks[from].from:r.toks[from].to]
	}
	return strings.Join(strings.Fields(r.clean[r.toks[from].from:r.toks[to-1].to]), " ")
}

// words as they were said, hesitations too.
func (r *reader) asSaid(from, to int) string {
	if from >= to {
		return ""
	}
	if to == from+1 {
		return r.text[r.toks[from].from:r.toks[from].to]
	}
	return strings.Join(strings.Fields(r.text[r.toks[from].from:r.toks[to-1].to]), " ")
}

// moreWords say that there is more of something.
var moreWords = wordSet("moreWords")
