package listener

import "strings"

// Became says what a word of a text was read as.
type Became uint8

// A word ends in exactly one place: it is part of an amount, a material or another
// choice of one; it is a remark of a line, a step, a use, what it yields, a place, what
// it does not hold, a good's name; it was taken back; it is small talk, or was left out
// of a longer story; or it was not understood.
const (
	Unread Became = iota
	AsAmount
	AsMaterial
	AsChoice
	AsRemark
	AsStep
	AsUse
	AsYield
	AsPlace
	AsNot
	AsName
	AsStruck
	AsSmallTalk
	AsLeftOut
	AsQuestion
	AsPrice
	AsPacks
	AsSupplier
	AsLotCode
	AsDate
)

var becameNames = [...]string{"unread", "amount", "material", "choice", "remark", "step", "use", "yield", "place", "not", "name", "struck", "small-talk", "left-out", "question", "price", "packs", "supplier", "lot-code", "date"}

// String returns unread, amount, material and so on.
func (b Became) String() string { return becameNames[b] }

// Word is a stretch of a text, and what it became. Those of a text follow each other in
// it, and hold each of its letters once.
type Word struct {
	From, To int // bytes of the text
	Became   Became
	Good     int // which good it belongs to, from 0
	Line     int // which line of it; −1 for none
}

// fate is what became of a token.
type fate struct {
	became Became
	good   *Good
	line   *Line
}

// mark the fate of tokens from to to of those that are read.
func (r *reader) becomes(from, to int, as Became, of *Line) {
	for i := from; i < to; i++ {
		r.fates[r.origin[i]] = fate{as, r.good, of}
	}
}

// becomeLoose is for tokens that nothing has been said of yet.
func (r *reader) becomesWhereUnread(from, to int, as Became, of *Line) {
	for i := from; i < to; i++ {
		if f := &r.fates[r.origin[i]]; f.became == Unread {
			*f = fate{as, r.good, of}
		}
	}
}

// strike takes back what a line was read from, in this text.
func (r *reader) strike(of *Line, which func(Became) bool) {
	for i := range r.fates {
		if f := &r.fates[i]; f.line == of && which(f.became) {
			f.became = AsStruck
		}
	}
}

// words are the fates of all tokens, neighbours of one fate as one.
func (r *reader) allWords() []Word {
	goods, lines := map[*Good]int{}, map[*Line]int{}
	for g, good := range r.goods {
		goods[good] = g
		for i, l := range good.lines {
			lines[l] = i
		}
	}
	var out []Word
	for i := range r.all {
		t := &r.all[i]
		if t.kind == isBreak {
			continue
		}
		f := r.fates[i]
		if f.became == Unread && joinsAlone[t.word] && r.readAround(i) {
			f.became = AsSmallTalk
		}
		w := Word{From: t.from, To: t.to, Became: f.became, Good: goods[f.good], Line: -1}
		if at, ok := lines[f.line]; ok && f.line != nil {
			w.Line = at
		}
		if t.kind == isSign && (f.became == Unread || f.became == AsLeftOut || t.tight && strings.Contains(".,;:!?)", t.word)) { // a comma belongs to what stands before it
			if n := len(out); n > 0 {
				out[n-1].To = t.to
				continue
			}
			w.Became = AsSmallTalk
		}
		if n := len(out); n > 0 && out[n-1].Became == w.Became && out[n-1].Line == w.Line && out[n-1].Good == w.Good && (i == 0 || r.all[i-1].kind != isBreak) {
			out[n-1].To = w.To
			continue
		}
		out = append(out, w)
	}
	return out
}

// readAround reports whether the words before and behind one were read.
func (r *reader) readAround(i int) bool {
	before := i - 1
	for before >= 0 && r.all[before].kind == isSign {
		before--
	}
	return before >= 0 && i+1 < len(r.all) && r.fates[before].became != Unread && r.fates[i+1].became != Unread
}

// joinsAlone are words that say nothing but that more comes, where what is before and behind them was read.
var joinsAlone = wordSet("joinsAlone")
