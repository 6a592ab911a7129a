package listener

// What an amount by itself says of a line that stands: what it weighs together, what it is
// said again or nearer, how strong it is, what it is of.

import (
	"slices"
	"strings"

	"keencrock/core/material"
	"keencrock/core/quantity"
)

// afterTotal reports whether a word for all of it stands right before an amount.
func (r *reader) afterTotal(said *amountSaid) bool {
	for k := range r.out {
		if m := &r.out[k]; m.to == said.from {
			return m.is(total)
		}
	}
	return false
}

// ofIt reports whether an amount is of the good itself: “1.5 kg of it”.
func (r *reader) ofIt(said *amountSaid) bool {
	at := said.to
	if at < len(r.toks) && r.toks[at].word == "of" {
		at++
	}
	if at >= len(r.toks) || r.toks[at-1].word != "of" {
		return false
	}
	return itWords[r.toks[at].word]
}

// nothingPoured reports whether no line is a liquid, and none is named to come.
func (r *reader) nothingPoured() bool {
	if !r.allDry() {
		return false
	}
	for k := range r.out { // “… to a litre. Water, that is.”
		if m := &r.out[k]; m.from >= r.now.from && m.kind == aName {
			if named := r.read(r.said(m.from, m.to)); named != nil && named.Liquid() {
				return false
			}
		}
	}
	return !slices.ContainsFunc(r.good.Not, func(m *material.Material) bool { return m.ID == "water" })
}

// allDry reports whether every line is of something known that is no liquid.
func (r *reader) allDry() bool {
	return !slices.ContainsFunc(r.good.lines, func(l *Line) bool {
		m := r.read(l.Material)
		return m == nil || m.Liquid()
	})
}

// pouredBefore reports whether a line before another is poured, and how much of it is said:
// what is per litre is of it.
func (r *reader) pouredBefore(l *Line) bool {
	for _, before := range r.good.lines {
		if m := r.read(before.Material); before != l && m != nil && m.Liquid() && !before.Amount.IsZero() && isWhole(before.Amount) {
			return true
		}
	}
	return false
}

// inParts reports whether lines are said in parts: what is per cup is of all of it.
func (r *reader) inParts() bool {
	return slices.ContainsFunc(r.good.lines, func(l *Line) bool { return l.Amount.Unit() == quantity.Part })
}

// allInParts reports whether all lines that have an amount are said in parts, but for drops and
// what has no figure.
func (r *reader) allInParts() bool {
	parts := 0
	for _, l := range r.good.lines {
		switch u := l.Amount.Unit(); {
		case u == quantity.Part:
			parts++
		case u == quantity.Drop, l.Amount.Open() != quantity.NotOpen:
		default:
			return false
		}
	}
	return parts > 1
}

// weighsTogether takes a weight alone after what was counted for what it weighs together.
func (r *reader) weighsTogether(a *atom, said *amountSaid) bool {
	l := r.last
	if l == nil || a.made != nil || l.from < r.now.from || l.Amount.Unit() != quantity.Bare && !l.Amount.Unit().PeelOf() || !l.Also.IsZero() || said.Amount.Kind() != quantity.Mass || said.Amount.Open() != quantity.NotOpen {
		return false
	}
	if n := len(r.waiting); n > 0 && r.waiting[n-1].from > l.from {
		return false
	}
	if m := r.read(l.Material); m == nil || !m.Piece.Known() && !l.Amount.Unit().PeelOf() {
		return false
	}
	l.Also = said.Amount
	r.becomes(said.from, said.to, AsAmount, l)
	return true
}

// saysAgain takes an amount for another way of saying the one before: “which is about 240
// ml”; or for what each of so many is: “each one is about 30 grams”.
func (r *reader) saysAgain(a *atom, said *amountSaid) bool {
	word := ""
	for i := said.from - 1; i >= 0 && i >= said.from-3 && word == ""; i-- {
		switch w := r.toks[i].word; w {
		case "is", "that's", "it's", "equals", "which", "are", "weighs", "weigh", "weighing", "weighed", "i.e", "means":
			word = w
		case "at", "of":
			if r.eachAfter(said.to) { // “two bars at about 5 ounces each”
				word = w
			}
		}
	}
	if word == "" && r.eachAfter(said.to) && said.from > 0 && r.toks[said.from-1].word == "(" {
		word = "each"
	}
	if word == "" || said.Amount.Open() != quantity.NotOpen || said.Amount.Unit() == quantity.Bare && word != "each" && !r.eachAfter(said.to) { // “that's the other one”
		return false
	}
	if r.alone != nil && r.alone.Also.IsZero() {
		r.alone.Also = said.Amount
		r.becomes(said.from, said.to, AsAmount, nil)
		return true
	}
	l := r.last
	if l == nil || l.from < r.now.from || l.Amount.IsZero() || l.Amount.Open() != quantity.NotOpen {
		return false
	}
	if r.eachAfter(said.to) || r.hasAny(a.lo, a.hi, each) || r.toks[r.out[a.lo].from].word == "each" {
		terms := l.Amount.Terms()
		if len(terms) != 1 || terms[0].Low != terms[0].High {
			return false
		}
		n := terms[0].Low.Float()
		all, ok := said.Amount.Times(int64(n*120+0.5), 120)
		if !ok {
			return false
		}
		l.Also, l.Amount, l.Written = l.Amount, all, all.String()
	} else if u := l.Amount.Unit(); said.Amount.Kind() == quantity.Mass && (u == quantity.Bar || isVessel(u)) { // “a block of soap, that's 250 g”: what was weighed is known better
		l.Amount, l.Written = said.Amount, written(said)
		if bar := l.name + " bar"; u == quantity.Bar && r.read(bar) != nil {
			r.rename(l, bar)
		} else {
			r.rename(l, l.name)
		}
	} else if l.Also.IsZero() {
		l.Also = said.Amount
	}
	r.becomes(said.from, said.to, AsAmount, l)
	return true
}

// otherWay is within what factor two amounts may lie to be of the same: scoops are heaped or
// struck. Common practice.
const otherWay = 1.6

// saysOtherWay reports whether an amount by itself says that of the line before another way, as
// what it weighs, “2 tbsp citric acid, about 30 g”, and keeps it with that line.
func (r *reader) saysOtherWay(said *amountSaid) bool {
	l := r.last
	if l == nil || l.from < r.now.from || l.Err != nil || !l.Also.IsZero() || l.Amount.IsZero() ||
		said.Amount.Open() != quantity.NotOpen || said.Amount.UpTo() || said.Amount.Kind() == l.Amount.Kind() {
		return false
	}
	if said.Amount.Kind() != quantity.Mass && !(isVolume(said.Amount) && l.Amount.Kind() == quantity.Mass) {
		return false
	}
	for i := said.from - 1; i >= 0 && i >= said.from-3; i-- { // nothing but a comma, a dash or “or” between
		f := r.fates[r.origin[i]]
		if f.line == l && (f.became == AsMaterial || f.became == AsAmount) {
			break
		}
		if w := r.toks[i].word; r.toks[i].kind != isSign && w != "or" && w != "about" && w != "roughly" && w != "around" && w != "so" {
			return false
		}
	}
	m, err := r.lib.Find(l.Material)
	if err != nil {
		return false
	}
	h := m.Handling(quantity.US)
	one, err := l.Amount.Grams(h)
	if err != nil || one.Value <= 0 {
		return false
	}
	other, err := said.Amount.Grams(h)
	if err != nil || other.Value > one.High*otherWay || other.Value*otherWay < one.Low {
		return false
	}
	l.Also = said.Amount
	r.becomes(said.from, said.to, AsAmount, l)
	return true
}

// eachAfter reports whether “each” or its kin stand at a token.
func (r *reader) eachAfter(at int) bool {
	if at >= len(r.toks) {
		return false
	}
	return eachWords[r.toks[at].word]
}

// refines takes an amount for what a vague one before it meant: “a splash of vinegar,
// maybe 10 ml”.
func (r *reader) refines(said *amountSaid) bool {
	l := r.last
	if l == nil || l.from < r.now.from || said.Amount.Open() != quantity.NotOpen {
		return false
	}
	if said.Amount.Unit() == quantity.Bare && isRange(l.Amount) { // “a few drops of eucalyptus, say ten”
		if with, ok := said.Amount.InUnitOf(l.Amount); ok {
			l.Amount, l.Written = with, with.String()
			r.becomes(said.from, said.to, AsAmount, l)
			r.amount = with
			return true
		}
	}
	if !isVague(l.Amount) || said.Amount.Unit() == quantity.Bare && l.Amount.Open() != quantity.NotOpen { // “a bit of water, … 8 of them”
		return false
	}
	l.Also = quantity.Amount{}
	if l.Amount.Open() == quantity.NotOpen {
		l.Also = l.Amount
	}
	l.Amount, l.Written = said.Amount, written(said)
	r.becomes(said.from, said.to, AsAmount, l)
	r.amount = said.Amount
	return true
}

// intoWater reports whether an amount without a name goes into so much water.
func (r *reader) intoWater(before, next *amountSaid) bool {
	if next.to >= len(r.toks) || before.to != next.from && before.to+1 != next.from {
		return false
	}
	switch r.toks[before.to].word {
	case "in", "into", "to": // of “to a bucket of” the amount holds the “to”
	case "with":
		if !isPronoun(r.toks[before.to-1].word) {
			return false
		}
	default:
		return false
	}
	for i := next.to; i < len(r.toks) && i < next.to+4; i++ {
		switch r.toks[i].word {
		case "water":
			return true
		case "of", "hot", "warm", "cold", "tap", "boiling", "cool", "lukewarm", "tepid", "soft", "clean", "fresh", "very", "hand":
		default:
			return false
		}
	}
	return false
}

// isVague reports whether an amount is one that hands guess.
func isVague(a quantity.Amount) bool {
	switch a.Unit() {
	case quantity.Splash, quantity.Glug, quantity.Handful, quantity.Pinch, quantity.Dash, quantity.Squeeze, quantity.Dollop, quantity.Shake, quantity.Sprinkle, quantity.Spritz:
		return true
	}
	return a.Open() != quantity.NotOpen || isVessel(a.Unit())
}

// joinedAll reports whether an amount after names that “and” joins is of all of them:
// drops of oils are, “lemon and tea tree, ten drops”.
func (r *reader) joinedAll(said *amountSaid) bool {
	if said.Amount.Unit() != quantity.Drop && said.Amount.Open() != quantity.AsNeeded || len(r.waiting) < 2 {
		return false
	}
	for _, n := range r.waiting[1:] {
		if !n.joined {
			return false
		}
	}
	return true
}

// widens takes a second, bigger number for the other end of an amount that waits for its
// name.
func (r *reader) widens(said *amountSaid) bool {
	one, two := r.alone.Amount.Terms(), said.Amount.Terms()
	if len(one) != 1 || len(two) != 1 || said.Amount.Unit() != quantity.Bare && said.Amount.Unit() != r.alone.Amount.Unit() || one[0].High.Float() >= two[0].High.Float() {
		return false
	}
	unit := strings.TrimLeft(quantity.Of(2, 1, one[0].Unit).String(), "2 ")
	a, err := quantity.Parse(rangeOf(one[0].Low.Float(), two[0].High.Float()) + " " + unit)
	if err != nil {
		return false
	}
	r.alone.Amount, r.alone.written = a, a.String()
	r.becomes(said.from, said.to, AsAmount, nil)
	return true
}

// strengthAlone takes a mere number after a name for how strong it is: “isopropyl 70”.
func (r *reader) strengthAlone(a *atom, said *amountSaid) bool {
	l := a.made
	if l == nil || l.Err != nil || said.Amount.Unit() != quantity.Bare || said.Amount.Open() != quantity.NotOpen || strings.TrimSuffix(r.toks[said.from-1].word, "'s") != lastWord(l.name) {
		return false
	}
	text := l.name + " " + said.Amount.String() + " %"
	found := r.read(text)
	if found == nil || found.ID == l.Material {
		return false
	}
	r.rename(l, text)
	r.becomes(said.from, said.to, AsMaterial, l)
	return true
}

// percentLine takes a strength for what it is where the amount comes after: “70 %
// alcohol, 1 cup”.
func (r *reader) percentLine(said *amountSaid) bool {
	l := r.last
	if l != nil && said.Amount.Unit() == quantity.Percent && l.from >= r.now.from && l.Err == nil && r.read(said.Amount.String()+" "+l.name) != nil { // “100 ml of alcohol, 96 percent”
		r.rename(l, said.Amount.String()+" "+l.name)
		r.becomes(said.from, said.to, AsMaterial, l)
		return true
	}
	if l == nil || l.Amount.Unit() != quantity.Percent || said.Amount.Unit() == quantity.Percent || l.shared || r.isInside(said) {
		return false
	}
	name := l.Amount.String() + " " + l.name
	l.Amount, l.Written, l.Also = said.Amount, written(said), said.Also
	r.rename(l, name)
	r.becomes(said.from, said.to, AsAmount, l)
	r.amount = said.Amount
	return true
}

// itWords stand for what was made.
var itWords = wordSet("itWords")

// eachWords say that an amount is of each.
var eachWords = wordSet("eachWords")
