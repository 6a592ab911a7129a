package listener

import (
	"slices"
	"strings"
	"time"

	"github.com/shopspring/decimal"
)

// actSaid is an act as far as it has been read.
type actSaid struct {
	Moved
	line    *Line
	said    bool // how it moved was said
	total   *priceSaid
	ordered bool
	due     due
}

// now is the act that is being read, of a kind; another begins where that one is of
// another, or has lines and the sentence is new.
func (j *jarReader) now(kind MovedKind) *actSaid {
	if j.act >= 0 && !j.fresh && (kind == "" || j.acts[j.act].Kind == kind || !j.acts[j.act].said) {
		a := j.acts[j.act]
		if kind != "" {
			a.Kind, a.said = kind, true
		}
		return a
	}
	a := &actSaid{Moved: Moved{Kind: kind, To: j.to, Known: j.toKnown, On: j.on}, line: &Line{}, said: kind != "", ordered: j.wanted, due: j.due}
	if j.act >= 0 && !j.fresh { // of the same sentence: to the same
		a.To, a.Known, a.On, a.due = j.acts[j.act].To, j.acts[j.act].Known, j.acts[j.act].On, j.acts[j.act].due
	}
	j.acts = append(j.acts, a)
	j.good.lines = append(j.good.lines, a.line)
	j.act, j.fresh = len(j.acts)-1, false
	return a
}

// endSentence forgets what was said of the sentence.
func (j *jarReader) endSentence() {
	j.usual()
	if j.act >= 0 && !j.fresh && len(j.acts[j.act].Lines) == 0 {
		return // “At the stall: …”
	}
	if j.act < 0 {
		return
	}
	j.fresh, j.kind, j.to, j.toKnown, j.on, j.wanted, j.due = true, "", "", false, time.Time{}, j.o.Wanted, due{}
	j.back, j.empty, j.count, j.weight, j.uncounted, j.ahead = false, false, 0, byWeight{}, false, nil
}

// finish gives each act what follows of the rest of what was said.
func (j *jarReader) finish() {
	j.usual()
	for i, a := range j.acts {
		if a.Kind == "" {
			a.Kind = j.guess(a)
		}
		j.act = i
		if a.ordered {
			j.wholeOrder(a)
			continue
		}
		if a.total != nil {
			j.shareTotal(a)
		}
		if a.Kind == MovedSold {
			continue
		}
		for k := range a.Lines {
			if l := &a.Lines[k]; l.HasPrice && a.Kind == MovedGiven {
				l.HasPrice = false
			}
		}
	}
}

// guess is how jars moved of which nobody said so: what has a price was sold, and what was
// at a stall.
func (j *jarReader) guess(a *actSaid) MovedKind {
	priced := a.total != nil || slices.ContainsFunc(a.Lines, func(l MovedLine) bool { return l.HasPrice })
	if priced || strings.Contains(strings.ToLower(a.To), "stall") {
		return MovedSold
	}
	return MovedGone
}

// shareTotal parts a price of all over the jars, where that comes out even.
func (j *jarReader) shareTotal(a *actSaid) {
	n, weighed := 0, 0
	for _, l := range a.Lines {
		switch {
		case l.HasPrice:
		case l.byWeight.isZero():
			n += l.Count
		default:
			weighed++
		}
	}
	switch {
	case n+weighed == 0:
		return
	case n == 0 && weighed == 1:
		n = 1
	case weighed > 0:
		j.doubt("uneven", "“"+a.total.amount.String()+"” is of several things: say what each was.")
		return
	}
	each := a.total.amount.DivRound(decimal.NewFromInt(int64(n)), 2)
	if !each.Mul(decimal.NewFromInt(int64(n))).Equal(a.total.amount) {
		j.doubt("uneven", "“"+a.total.amount.String()+"” does not come out even over "+decimal.NewFromInt(int64(n)).String()+" jars: say what each was.")
		return
	}
	for k := range a.Lines {
		if l := &a.Lines[k]; !l.HasPrice {
			l.Price, l.HasPrice, l.Currency = each, true, a.total.currency
		}
	}
}

func (j *jarReader) moved() []Moved {
	out := []Moved{}
	for _, a := range j.acts {
		if len(a.Lines) > 0 && !a.ordered {
			out = append(out, a.Moved)
		}
	}
	return out
}
