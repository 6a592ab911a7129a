package listener

// What stands around an amount and says what it is of: a use, a season, a part of a vessel, another amount.

import (
	"slices"
	"strings"

	"keencrock/core/quantity"
)

// peelOf reports whether a name is of what is peeled off a fruit.
func (r *reader) peelOf(name string) bool {
	m := r.read(name)
	return m != nil && m.ID == "citrus-peel"
}

// peeled takes fruits that were counted for their peel, where “them” is what is peeled.
func (r *reader) peeled(them string) bool {
	l := r.last
	if them != "them" && them != "it" && them != "these" || l == nil || l.Amount.Unit() != quantity.Bare || l.Amount.Open() != quantity.NotOpen {
		return false
	}
	a, err := quantity.Parse("peel of " + l.Written + " " + l.name)
	if err != nil || !a.Unit().PeelOf() {
		return false
	}
	l.Amount, l.Written = a, a.String()
	r.rename(l, thingOf(a.Unit()))
	return true
}

// ofThatLine is the line, or the name, that an amount is of by “that”, and that has none yet: “I've got
// oxygen bleach here, so a cup of that”.
func (r *reader) ofThatLine(a *atom, m *mark, said *amountSaid) *Line {
	if m.to >= len(r.toks) || r.toks[m.to-1].word != "of" || r.toks[m.to].word != "that" && r.toks[m.to].word != "it" || said.article || said.Amount.Unit() == quantity.Bare || said.Amount.Open() != quantity.NotOpen || a.made != nil || a.amount != nil {
		return nil
	}
	if n := len(r.waiting); n > 0 && r.waiting[n-1].in == r.now {
		w := r.waiting[n-1]
		r.waiting = r.waiting[:n-1]
		r.lineMade(a, said, w)
		return a.made
	}
	if l := r.last; l != nil && l.from >= r.now.from && (l.Amount.IsZero() || l.Amount.Open() == quantity.Some) {
		return l
	}
	return nil
}

// dropsOfFruit takes a number of a fruit for drops of its oil, where the line right before is in drops and
// the fruit is said as one: “fifteen drops of lavender and ten lemon”.
func (r *reader) dropsOfFruit(m *mark, said *amountSaid) bool {
	terms := said.Amount.Terms()
	if len(terms) != 1 || said.Amount.Unit() != quantity.Lemon || !(r.last != nil && r.last.from >= r.now.from && r.last.Amount.Unit() == quantity.Drop || r.last == nil && r.amount.Unit() == quantity.Drop) || terms[0].Low.Float() < 2 || r.toks[m.to-1].word != "lemon" {
		return false
	}
	drops, ok := said.Amount.InUnitOf(quantity.Of(1, 1, quantity.Drop))
	if !ok {
		return false
	}
	said.Amount, said.written = drops, drops.String()
	return true
}

// ofThis reports whether an amount is of nothing that is said: “a drop of this and a drop
// of that”.
func (r *reader) ofThis(m *mark) bool {
	at := m.to
	if at < len(r.toks) && r.toks[at].word == "of" {
		at++
	}
	if at == 0 || at >= len(r.toks) || r.toks[at-1].word != "of" || r.toks[m.from].word != "a" {
		return false
	}
	return r.toks[at].word == "this" || r.toks[at].word == "that"
}

// perLine is the mark of the name, where an amount is one that another line is said per:
// “for every cup of bicarb”; 0 otherwise.
func (r *reader) perLine(a *atom, m *mark, k int) int {
	if m.from == 0 || a.made == nil || !r.nameNext(a, k) {
		return 0
	}
	switch r.toks[m.from-1].word {
	case "every", "each", "per":
	default:
		return 0
	}
	if at := r.nameIndex(a, k); r.isLine(at) {
		return at
	}
	return 0
}

// intoUse reports whether an amount goes into what is washed in, or with.
func (r *reader) intoUse(said *amountSaid) bool {
	for i := said.to; i < len(r.toks) && i < said.to+4; i++ {
		switch word := r.toks[i].word; {
		case usePlaces[word]:
			return true
		case !useWays[word]:
			return false
		}
	}
	return false
}

// usePlaces are where a good is put to be used, and useWays the words before them.
var (
	usePlaces = wordSet("usePlaces")
	useWays   = wordSet("useWays")
)

// atWash reports whether an amount goes in when something is washed: “at the start of the wash”.
func (r *reader) atWash(said *amountSaid) bool {
	for i := said.to; i < min(r.now.to, said.to+7); i++ {
		switch r.toks[i].word {
		case "wash", "load", "cycle", "rinse", "machine", "drum", "drawer":
			return true
		case "at", "in", "the", "start", "beginning", "end", "of", "with", "each", "every", "final", "main", "a", "into", "on", "during":
		default:
			return false
		}
	}
	return false
}

// isBetter reports whether an amount is said to be the better one.
func (r *reader) isBetter(said *amountSaid) bool {
	for i := said.to; i < len(r.toks) && i < said.to+4; i++ {
		switch r.toks[i].word {
		case "better", "best", "plenty":
			return true
		case "is", "was", "works", "be", "would", "even", "are":
		default:
			return false
		}
	}
	return false
}

// askPer asks how much of a line there is in all, where it is said per litre.
func (r *reader) askPer(l *Line, per string) {
	r.good.Unsure = append(r.good.Unsure, Unsure{Line: slices.Index(r.good.lines, l), Code: "per-what", Text: l.Written + " of " + strings.ToLower(l.name) + " per " + per + ": how much is it in all? It is taken once."})
}

// fromKettle reports whether a sentence speaks of the kettle before a token.
func (r *reader) fromKettle(tok int) bool {
	for i := r.now.from; i < tok; i++ {
		if r.toks[i].word == "kettle" {
			return true
		}
	}
	return false
}

// inSeason reports whether an atom says of when, or of what weather, it speaks.
func (r *reader) inSeason(a *atom) bool {
	i := r.out[a.lo].from
	if r.toks[i].word == "in" || r.toks[i].word == "when" {
		i++
	}
	if r.toks[i].word == "the" || r.toks[i].word == "it's" {
		i++
	}
	if seasons[r.toks[i].word] {
		return i > r.out[a.lo].from
	}
	return false
}

// upToPart reports whether “up to the neck of” or its kin stand before a token.
func (r *reader) upToPart(tok int) bool {
	if tok < 4 || r.toks[tok-1].word != "of" {
		return false
	}
	if partsOfVessel[r.toks[tok-2].word] {
		return r.toks[tok-3].word == "the" && r.toks[tok-4].word == "to"
	}
	return false
}

// onlyPercents reports whether all lines are shares of a hundred.
func (r *reader) onlyPercents() bool {
	return !slices.ContainsFunc(r.good.lines, func(l *Line) bool { return l.Amount.Unit() != quantity.Percent })
}

// nothingBefore reports whether an amount is the first of an atom, and the last.
func (r *reader) nothingBefore(a *atom, said *amountSaid) bool {
	return r.out[a.lo].from == said.from && r.out[a.hi-1].to == said.to
}

// soMuch is the line of this sentence that an amount after “so”, or “in” right after one,
// says anew: what was said per litre is worked out for all. nil without.
func (r *reader) soMuch(a *atom, m *mark, said *amountSaid, k int) *Line {
	if m.from == 0 || r.nameNext(a, k) || a.amount != nil || said.Amount.Open() != quantity.NotOpen || said.Amount.Unit() == quantity.Bare {
		return nil
	}
	switch r.toks[m.from-1].word {
	case "so":
	case "in", "for":
		if a.made == nil || r.toks[r.out[a.lo].from].word != "so" {
			return nil
		}
	default:
		return nil
	}
	for i := len(r.good.lines) - 1; i >= 0; i-- {
		l := r.good.lines[i]
		if l.from < r.now.from || l == a.made {
			continue
		}
		if l.Amount.Unit() == said.Amount.Unit() && l.Amount != said.Amount {
			return l
		}
	}
	return nil
}

// scales makes all that was said per so much water as much as a total needs: false where
// nothing was said so, or the total is of another sort.
func (r *reader) scales(said *amountSaid) bool {
	per := r.perWater
	if per == nil || !isVolume(said.Amount) || isVessel(said.Amount.Unit()) || said.Amount.Open() != quantity.NotOpen || said.from == 0 {
		return false
	}
	switch r.toks[said.from-1].word {
	case "need", "make", "want", "for", "do", "mix":
	default:
		return false
	}
	one, total := millilitres(per.Amount), millilitres(said.Amount)
	if one <= 0 || total <= one {
		return false
	}
	for _, l := range r.good.lines {
		if more, ok := l.Amount.Times(int64(total/one*120+0.5), 120); ok && l.from >= 0 {
			l.Amount, l.Written = more, more.String()
		}
	}
	per.Amount, per.Written = said.Amount.Plain(), said.Amount.Plain().String()
	r.perWater = nil
	r.yields(said)
	return true
}

// goesDown reports whether an amount is said to go in, or down.
func (r *reader) goesDown(said *amountSaid) bool {
	if said.to+1 >= len(r.toks) || said.Amount.Unit() == quantity.Bare {
		return false
	}
	if w := r.toks[said.to].word; w != "go" && w != "goes" {
		return false
	}
	at := said.to + 1
	if w := r.toks[at].word; (w == "straight" || w == "right" || w == "directly") && at+1 < len(r.toks) { // “goes straight in the drum”
		at++
	}
	w := r.toks[at].word
	return w == "down" || w == "in" || w == "into"
}

// wets are the verbs that something is done with in a liquid.
var wets = wordSet("wets")

// usedAhead reports whether what follows in the sentence says what a dose is for, and names
// nothing.
func (r *reader) usedAhead(a *atom) bool {
	for k := a.hi; k < len(r.out) && r.out[k].from < r.now.to; k++ {
		switch m := &r.out[k]; {
		case m.kind == aName:
			return false
		case m.is(per):
			return true
		}
	}
	return false
}

// isInside reports whether an amount is said to hold what is made: “in a 16 oz bottle”.
func (r *reader) isInside(said *amountSaid) bool {
	if said.from == 0 || said.Amount.Unit() == quantity.Spritz { // “for a spray I put …”
		return false
	}
	before := said.from - 1
	if before > 1 && !articles[r.toks[before].word] && articles[r.toks[before-1].word] && r.lexIs(before, thing) { // “in a foamer bottle of 250 ml”
		before--
	}
	if before > 0 && articles[r.toks[before].word] { // “in a 500 ml foaming bottle”
		before--
	}
	return insideWords[r.toks[before].word]
}

// isPer reports whether “per”, “each” or their kin stand between two tokens.
func (r *reader) isPer(from, to int) bool {
	for i := from; i < to; i++ {
		if perWords[r.toks[i].word] {
			return true
		}
	}
	return false
}

// perScoop keeps “say a tablespoon to every cup”, said of a line that has no figure, with that
// line, and asks how much it is in all.
func (r *reader) perScoop(before, next *amountSaid) bool {
	l := r.last
	if l == nil || l.from < r.now.from || l.Amount.Open() == quantity.NotOpen || isWhole(next.Amount) || next.Amount.Unit() == quantity.Litre || !isVolume(before.Amount) {
		return false
	}
	l.Amount, l.Written = before.Amount, before.written
	r.becomes(before.from, before.to, AsAmount, l)
	per := strings.TrimPrefix(next.Amount.String(), "1 ")
	l.remark("per " + per)
	r.becomes(before.to, next.to, AsRemark, l)
	r.askPer(l, per)
	return true
}

// cookedIn takes so much that what is there is cooked in, “boil the nuts again with 1 litre”, for
// water, and asks: what is there has its amount.
func (r *reader) cookedIn(said *amountSaid) bool {
	w := r.waiting[len(r.waiting)-1]
	m := r.read(w.text)
	if !r.now.doing || m == nil || w.in != r.now || w.from == 0 || r.toks[w.from-1].word != "the" || !isVolume(said.Amount) || isVessel(said.Amount.Unit()) || isSpooned(said.Amount) {
		return false
	}
	l := r.lineOf(m, w.text)
	if before := r.toks[said.from-1].word; l == nil || l.Amount.Kind() != quantity.Mass && l.Amount.Kind() != quantity.Count || before != "in" && before != "with" && before != "into" {
		return false
	}
	r.waiting = r.waiting[:len(r.waiting)-1]
	r.becomes(w.from, w.to, AsStep, l)
	r.touched = append(r.touched, l)
	r.lineMade(&atom{}, said, &naming{from: said.to, to: said.to, text: "water", in: r.now})
	r.good.Unsure = append(r.good.Unsure, Unsure{Line: len(r.good.lines) - 1, Code: "topped-up-with", Text: "In " + said.Amount.String() + " of what? Water is taken.", Answers: []string{"Water"}})
	return true
}

// doseAlone reports whether a sentence says no more than a spoon or a scoop, after what goes in was
// measured otherwise: so much is used.
func (r *reader) doseAlone(said *amountSaid) bool {
	if said.from != r.now.from || said.to != r.now.to && !r.moreWhere(said.to) || !r.isDose(said) || !isSpooned(said.Amount) || len(r.good.Doses) > 0 {
		return false
	}
	for _, l := range r.good.lines {
		if isSpooned(l.Amount) {
			return false
		}
	}
	return true
}

// moreWhere reports whether another number is said behind a comma for some case: “a heaped spoon, two if muddy”.
func (r *reader) moreWhere(at int) bool {
	return at+2 < len(r.toks) && r.toks[at].word == "," && (r.toks[at+1].kind == isNumber || quantity.IsNumber(r.toks[at+1].word)) && (conditions[r.toks[at+2].word] || r.toks[at+2].word == "for")
}

// ofBefore reports whether an amount is of the good that was told before: it goes into this one,
// whose first line it is.
func (r *reader) ofBefore(said *amountSaid) bool {
	if len(r.goods) < 2 || len(r.good.lines) > 0 || r.goods[len(r.goods)-2].empty() || said.to >= len(r.toks) || r.toks[said.to-1].word != "of" {
		return false
	}
	return isPronoun(r.toks[said.to].word) && (isVolume(said.Amount) || said.Amount.Kind() == quantity.Mass || said.Amount.Unit() == quantity.Part)
}

// seasons say when in the year, or in which weather.
var seasons = wordSet("seasons")

// partsOfVessel are parts of a vessel that something comes up to.
var partsOfVessel = wordSet("partsOfVessel")

// insideWords stand before what something is in.
var insideWords = wordSet("insideWords")

// perWords stand before what an amount is of.
var perWords = wordSet("perWords")
