package listener

// What is taken where something that was said is not there.

import (
	"regexp"
	"strings"
)

// lacking is how somebody says that something is not there, up to its name.
var lacking = regexp.MustCompile(`^(?:and |but |or |so )*(?:if |when |in case |where )?(?:(?:you|i|we|one|they|people)(?:'re|'ve|'s| are| have| is| has)? ?)?(?:(?:run|ran|all|clean|just) )?(?:out of|no|without|short of|lack|don'?t (?:have|own|keep|like|fancy|trust)|do not have|haven'?t(?: got)?|have not(?: got)?|has no|hasn'?t(?: got)?|got no|can'?t (?:get|find|buy|use)|cannot (?:get|find|buy|use)|couldn'?t (?:get|find))(?: hold of)?(?: (?:the|any|some|your|my))?$`)

// missing reads “or if you're out of borax use sodium citrate”: what follows may take the
// place of the line that is named, or of the last one. It is the mark that the rest begins
// with; the first of the atom where nothing is said to be missing, or nobody said it before.
func (r *reader) missing(a *atom) int {
	object, l := r.lacked(a.lo, a.hi)
	if object < 0 {
		return a.lo
	}
	from, end := r.out[a.lo].from, r.out[object].to
	core := r.nextCore(a, object+1)
	if core == a.hi && r.out[object].kind == aName && a.hi < len(r.out) && r.toks[r.out[a.hi].from].word == "?" { // “no borax? use citrate”
		r.altFor = l
	} else if core == a.hi && !r.instead(object+1, a.hi) {
		return a.lo
	}
	said := strings.TrimPrefix(r.asSaid(from, end), "or ")
	l.remark(said)
	r.becomes(from, end, AsRemark, l)
	if core < a.hi || r.altFor == nil {
		r.becomesWhereUnread(end, r.out[max(object, core-1)].to, AsSmallTalk, l)
	}
	r.last, a.alt = l, r.altFor == nil
	return core
}

// noneLeft reads “… no borax? use citrate” behind its line: what the next sentence names may
// take its place.
func (r *reader) noneLeft(a *atom, n *naming) bool {
	l := r.lineOf(r.read(n.text), n.text)
	if l == nil || a.hi >= len(r.out) || r.toks[r.out[a.hi].from].word != "?" || n.to != r.out[a.hi].from {
		return false
	}
	l.remark("no " + n.text)
	r.becomes(n.from, n.to, AsRemark, l)
	r.altFor = l
	return true
}

// notAnyMore reads “…, this time no borax” behind a line of it: the later word wins.
func (r *reader) notAnyMore(a *atom, k int, n *naming) bool {
	l := r.lineOf(r.read(n.text), n.text)
	if l == nil || l.from < 0 || l.Amount.IsZero() || n.to != r.out[a.hi-1].to || r.read(n.text) == nil || r.read(n.text).ID != l.Material {
		return false
	}
	this := false
	for i := a.lo; i < k; i++ {
		word := r.toks[r.out[i].from].word
		if conditions[word] || word == "for" || word == "or" {
			return false
		}
		this = this || word == "this" || word == "now" || word == "today" || word == "nowadays" || word == "these"
	}
	if !this {
		return false
	}
	r.becomes(n.from, n.to, AsStruck, l)
	r.strike(l, func(Became) bool { return true })
	r.takeAway(l)
	r.noneOf(n)
	return true
}

// instead reports whether what takes the place is to follow: nothing but “use” or its kin
// stands between two marks.
func (r *reader) instead(lo, hi int) bool {
	for k := lo; k < hi; k++ {
		switch r.toks[r.out[k].from].word {
		case "use", "try", "take", "then", "go", "put", "add":
		default:
			return false
		}
	}
	return true
}

// lacked is the mark of what is said to be missing between two marks, and the line of it; −1
// where nothing is, or no line is of it.
func (r *reader) lacked(lo, hi int) (int, *Line) {
	if len(r.good.lines) == 0 || !r.lacks(lo, hi) {
		return -1, nil
	}
	for k := lo; k < hi && k < lo+longestLack; k++ {
		m := &r.out[k]
		last := m.from
		if m.kind != aName {
			last = m.to - 1
		}
		if r.toks[last].from <= r.toks[r.out[lo].from].from {
			continue
		}
		before := r.clean[r.toks[r.out[lo].from].from:r.toks[last].from]
		if !lacking.MatchString(strings.ToLower(strings.Join(strings.Fields(before), " "))) {
			continue
		}
		switch text := r.said(m.from, m.to); {
		case m.kind == aName:
			l := r.lineOf(r.read(text), text)
			if l == nil {
				return -1, nil
			}
			return k, l
		case r.last != nil && isPronoun(r.toks[last].word) && !(k+1 < hi && r.out[k+1].kind == aName):
			return k, r.last
		}
	}
	return -1, nil
}

// lacks reports whether a word is there that something may be missing by: without one nothing
// more is looked at.
func (r *reader) lacks(lo, hi int) bool {
	for k := lo; k < hi && k < lo+longestLack; k++ {
		for i := r.out[k].from; i < r.out[k].to; i++ {
			if lacksWords[r.toks[i].word] {
				return true
			}
		}
	}
	return false
}

// longestLack is how many marks stand before what is missing at the most.
const longestLack = 8

func isPronoun(word string) bool {
	return pronouns[word]
}

// lacksWords say what is there, or is not.
var lacksWords = wordSet("lacksWords")

// pronouns stand for what was named.
var pronouns = wordSet("pronouns")
