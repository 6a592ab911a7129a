package listener

// What a sentence, and a good, are closed with.

import (
	"slices"
	"strconv"
	"strings"

	"keencrock/core/material"
	"keencrock/core/quantity"
)

// endSentence closes what a sentence leaves open, and keeps it where it says how the good
// is made.
func (r *reader) endSentence() {
	s := r.now
	if r.shared.all && !r.shared.taken && r.shared.said != nil && r.fates[r.origin[r.shared.said.from]].became == Unread && len(r.good.lines) > 0 && r.last.from < s.from { // “20 g each.”, of what was pressed
		r.noteSentence(s)
	}
	r.shared, r.touched = sharing{}, nil
	if n := len(r.waiting); n > 0 && r.alone != nil && r.waiting[n-1].in == s && r.waiting[n-1].from > r.alone.to && !r.waiting[n-1].prose {
		r.settle() // “about half a cup, maybe three quarters, of baking soda”
	}
	r.askAlone()
	if s.using && !s.doing {
		r.settle()
	}
	if s.noted || r.cautions(s) {
		r.noteSentence(s)
		r.mentioned = slices.DeleteFunc(r.mentioned, func(n *naming) bool { return n.from >= s.from && n.to <= s.to })
		for i := s.from; i < s.to; i++ {
			if f := &r.fates[r.origin[i]]; f.became == AsQuestion {
				*f = fate{AsRemark, r.good, nil}
			}
		}
	} else if r.tellsUse(s) {
		for i := s.from; i < s.to; i++ {
			if f := &r.fates[r.origin[i]]; f.became == Unread || f.became == AsLeftOut {
				*f = fate{AsRemark, r.good, nil}
			}
		}
		r.note(s.from, s.to)
	} else if from := r.useTail(s); from >= 0 {
		r.note(from, s.to)
	}
	r.noneNext = false
	r.optional = r.optional && r.onlyOffers(s)
	if s.doing || s.using {
		r.settle()
	}
	r.good.sentences = append(r.good.sentences, s)
	s.text = r.asSaid(r.doneFrom(s), s.to)
}

// doneFrom is where a sentence says what is done, after a list of what goes in; its beginning where
// the two are told together.
func (r *reader) doneFrom(s *sentence) int {
	if !s.doing || s.begins {
		return s.from
	}
	from, lines := s.to, 0
	for ; from > s.from; from-- {
		if f := r.fates[r.origin[from-1]]; f.became == AsMaterial || f.became == AsAmount {
			break
		}
	}
	for _, l := range r.good.lines {
		if l.from >= s.from && l.from < from {
			if lines++; l.Amount.Open() != quantity.NotOpen {
				return s.from // “…, vinegar to cover, two weeks”
			}
		}
	}
	for from < s.to && r.toks[from].kind == isSign {
		from++
	}
	if lines < 2 || from == s.to {
		return s.from
	}
	for i := s.from; i < from; i++ {
		if m, _ := r.lex.at(r.toks, i); m.is(step|cover|fill|using) || doings[r.toks[i].word] || r.toks[i].word == "it" {
			return s.from
		}
	}
	k, _ := slices.BinarySearchFunc(r.out, from, func(m mark, at int) int { return m.from - at })
	for ; k < len(r.out); k++ {
		switch m := &r.out[k]; {
		case m.kind == aWait: // “…, let stand 2 days”: first they come together
			return s.from
		case m.from == from && !m.is(step) && !doings[r.toks[from].word]:
			return s.from
		case m.kind == aComma || m.from >= s.to:
			return from
		}
	}
	return from
}

// onlyOffers reports whether a sentence says no more than that what follows may be left
// out: “If you like:”
func (r *reader) onlyOffers(s *sentence) bool {
	for i := s.from; i < s.to; i++ {
		if became := r.fates[r.origin[i]].became; became != AsSmallTalk && became != AsRemark {
			return false
		}
	}
	return true
}

// note keeps words with the good, as a sentence.
func (r *reader) note(from, to int) {
	r.good.Notes = append(r.good.Notes, sentenceCase(strings.TrimRight(r.asSaid(from, to), " .!,;"))+".")
}

// noteSentence keeps a sentence with the good as it was said.
func (r *reader) noteSentence(s *sentence) {
	for i := s.from; i < s.to; i++ {
		if f := &r.fates[r.origin[i]]; f.became == Unread || f.became == AsLeftOut || f.became == AsSmallTalk {
			*f = fate{AsRemark, r.good, nil}
		}
	}
	r.note(s.from, s.to)
}

// tellsUse reports whether a sentence says how a good is used, beside how much of it: “spray
// on, leave for five minutes, rinse”.
func (r *reader) tellsUse(s *sentence) bool {
	if !s.using || s.doing || r.doseIn == s || len(r.good.lines) == 0 || r.last != nil && r.last.from >= s.from {
		return false
	}
	said, left := 0, 0
	for i := s.from; i < s.to; i++ {
		switch r.fates[r.origin[i]].became {
		case AsUse:
			said++
		case AsSmallTalk, AsRemark, AsPlace:
		case AsLeftOut, Unread: // “mix into a paste, apply, …” is kept with the rest of it
			left++
		default:
			if r.toks[i].kind == isWord {
				return false
			}
		}
	}
	return said > 2 && said > left
}

// useTail is the token from which a sentence that lists what goes in ends in how it is used:
// “…, sprinkle, leave 15 minutes, hoover”; −1 without such an end.
func (r *reader) useTail(s *sentence) int {
	if !s.using || s.doing || r.doseIn == s || len(r.good.lines) == 0 || r.last == nil || r.last.from < s.from {
		return -1
	}
	from, said := -1, 0
	for i := s.to - 1; i >= s.from; i-- {
		switch became := r.fates[r.origin[i]].became; {
		case became == AsUse:
			from = i
			if r.toks[i].kind == isWord {
				said++
			}
		case became == AsSmallTalk || r.toks[i].kind == isSign:
		default:
			if said < 3 {
				return -1
			}
			return from
		}
	}
	return -1
}

// cautions reports whether a sentence says no more than what not to do with the good, or
// what to mind: “Never on marble!”
func (r *reader) cautions(s *sentence) bool {
	m, _ := r.lex.at(r.toks, s.from)
	warns := m.is(caution) && !m.is(step) || r.warnsIn(s)
	if (s.doing || s.using) && !warns || len(r.good.lines) == 0 || s.to-s.from < 2 {
		return false
	}
	for i := s.from; i < s.to; i++ {
		switch f := r.fates[r.origin[i]]; f.became {
		case Unread, AsLeftOut, AsSmallTalk, AsPlace, AsRemark:
		case AsUse, AsStep, AsNot: // “Don't use on silk”, “Wear gloves”
			if !warns || f.line != nil {
				return false
			}
		default:
			return false
		}
	}
	if warns {
		s.doing, s.using = false, false
	}
	return warns || m.is(none|caution)
}

// warnsIn reports whether a short sentence names what to wear: “Very caustic: gloves, goggles.”
func (r *reader) warnsIn(s *sentence) bool {
	if s.to-s.from > longestTitle {
		return false
	}
	for i := s.from; i < s.to; i++ {
		if wornForCare[r.toks[i].word] {
			return true
		}
	}
	return false
}

// steepedIn makes lines, each without an amount, of two materials one of which stands in the other, where a good has none:
// “orange peels in vinegar for two weeks”.
func (r *reader) steepedIn() {
	if len(r.good.lines) > 0 {
		return
	}
	for i := 0; i+1 < len(r.mentioned); i++ {
		what, in := r.mentioned[i], r.mentioned[i+1]
		if what.to+1 != in.from || r.toks[what.to].word != "in" || !r.poured(in.text) {
			continue
		}
		if m, herb := r.read(what.text), "dried "+what.text; m != nil && m.Is(material.ScentOil) && !strings.Contains(what.text, "oil") && r.read(herb) != nil { // “lavender in olive oil” is no oil of it
			what.text = herb
		}
		for _, n := range []*naming{what, in} {
			l := r.make(nil, n)
			r.becomes(n.from, n.to, AsMaterial, l)
		}
		r.mentioned = slices.Delete(r.mentioned, i, i+2)
		return
	}
}

// askMentioned asks about the materials that were spoken of in passing and are in no line.
func (r *reader) askMentioned() {
	r.steepedIn()
	for _, n := range r.mentioned {
		if r.fates[r.origin[n.to-1]].became == AsName {
			continue
		}
		m := r.read(n.text)
		if m != nil && m.ID == "water" && ofHard[r.toks[n.from].word] { // “… because we have hard water”
			r.becomes(n.from, n.to, AsRemark, nil)
			continue
		}
		if l := r.lineOf(m, n.text); l != nil {
			r.becomes(n.from, n.to, AsRemark, l)
			continue
		}
		if r.meansLine(n) || r.calledSo(n) {
			continue
		}
		if l := r.scentLine(); m != nil && m.ID == "essential-oil" && l != nil { // “add the scent last”
			r.becomes(n.from, n.to, AsRemark, l)
			continue
		}
		name := n.text
		if m != nil {
			name = m.Name
			if slices.Contains(r.good.Not, m) {
				r.becomes(n.from, n.to, AsNot, nil)
				continue
			}
		}
		r.good.Unsure = append(r.good.Unsure, Unsure{Line: -1, Code: "spoken-of", Text: "Is “" + n.text + "” part of it? Then say how much.", Answers: []string{name}})
	}
	r.mentioned = nil
}

// ofHard say how hard water is.
var ofHard = wordSet("ofHard")

// calledSo reports whether a line was said by the same word, and read by its amount: “20 drops of lemon”, and
// then “add the lemon”.
func (r *reader) calledSo(n *naming) bool {
	for _, l := range r.good.lines {
		if l.from >= 0 && strings.EqualFold(l.name, n.text) {
			r.becomes(n.from, n.to, AsRemark, l)
			return true
		}
	}
	return false
}

// meansLine reports whether “the oil” is a line that was said by a longer name.
func (r *reader) meansLine(n *naming) bool {
	word := strings.ToLower(strings.TrimSuffix(strings.TrimSuffix(n.text, "'s"), "’s")) // “till the soap's gone”
	if n.from == 0 || r.toks[n.from-1].word != "the" || strings.Contains(word, " ") {
		return false
	}
	for _, l := range r.good.lines {
		if name := strings.ToLower(l.name); strings.HasSuffix(name, " "+strings.TrimSuffix(word, "s")) || strings.HasSuffix(name, " "+word) || word == "soap" && strings.HasPrefix(name, "soap ") {
			r.becomes(n.from, n.to, AsRemark, l)
			return true
		}
	}
	return false
}

// finish puts together what was said of a good.
func (g *Good) finish() {
	var how []string
	doing := false
	for _, s := range g.sentences {
		if doing = doing || s.doing; s.doing || doing && s.begins {
			how = append(how, sentenceCase(strings.TrimRight(strings.Trim(s.text, " ,;:-–—•*"), "."))+".")
		}
	}
	g.Method = within(methodLetters, strings.Join(how, " "))
	g.bothWays()
	g.halfWay()
	g.toTheBrim()
	g.fractions()
	g.hundredths()
	g.namedScents()
	g.inOwnSizes()
	g.sameGrams()
	g.sharesMeasured()
	g.inShares()
	g.takeInstead()
	g.lines = slices.DeleteFunc(g.lines, func(l *Line) bool { // “as B, but … no salt”
		return g.variant && l.from < 0 && slices.ContainsFunc(g.Not, func(m *material.Material) bool { return l.Material == m.ID })
	})
	g.Not = slices.DeleteFunc(g.Not, func(m *material.Material) bool { // “no sugar … well, two spoons of sugar”
		return slices.ContainsFunc(g.lines, func(l *Line) bool { return l.Material == m.ID })
	})
}

// bothWays keeps an amount that was said another way behind the name with the first:
// “1 cup washing soda (240 g)” is 1 cup (240 g) of it.
func (g *Good) bothWays() {
	for _, l := range g.lines {
		if l.Also.IsZero() || l.Err != nil || strings.Contains(l.Written, "(") {
			continue
		}
		both := l.Written + " (" + l.Also.String() + ")"
		if said, ok := quantity.ReadSaid(both); ok && said.At == len(both) && said.Amount == l.Amount && said.Also == l.Also {
			l.Written = both
		}
	}
}

// halfWay halves what a vessel holds where it is filled no further: “vinegar in a spray bottle
// halfway”.
func (g *Good) halfWay() {
	for _, l := range g.lines {
		if !isVessel(l.Amount.Unit()) || l.Note != "halfway" && l.Note != "half way" && l.Note != "half full" && l.Note != "up to halfway" {
			continue
		}
		if half, ok := l.Amount.Times(1, 2); ok {
			l.Amount, l.Written, l.Note = half, half.String(), ""
		}
	}
}

// toTheBrim says of the water that fills a bottle up to which volume, where that was said before.
func (g *Good) toTheBrim() {
	for _, l := range g.lines {
		if l.Amount.Open() == quantity.ToFill && l.Material == "water" && isVolume(g.total) && !isVessel(g.total.Unit()) {
			l.Amount = g.total.Total()
			l.Written = l.Amount.String()
		}
	}
}

// inOwnSizes works out what is said in scoops of which the maker said what they hold. How
// many scoops that were stays as a remark.
func (g *Good) inOwnSizes() {
	for _, l := range g.lines {
		size, ok := g.sizes[l.Amount.Unit()]
		terms := l.Amount.Terms()
		if !ok || len(terms) != 1 || !l.Also.IsZero() {
			continue
		}
		one := size.Terms()
		if len(one) != 1 {
			continue
		}
		low, high := terms[0].Low.Float()*one[0].Low.Float(), terms[0].High.Float()*one[0].High.Float()
		text := rangeOf(low, high)
		if low == high {
			text = strconv.FormatFloat(low, 'g', 6, 64)
		}
		unit := strings.TrimLeft(quantity.Of(2, 1, one[0].Unit).String(), "2 ")
		if a, err := quantity.Parse(text + " " + unit); err == nil {
			if l.Amount.Unit() != quantity.Part {
				l.remark(l.Amount.String())
			}
			l.Amount, l.Written = a, a.String()
		}
	}
}

// methodLetters is how long the prose of how a good is made may be; the formula format's.
const methodLetters = 8000

// wornForCare are worn by whoever takes care.
var wornForCare = wordSet("wornForCare")
