package listener

// An amount that no name took: what it may be of, the surest reading first.

import (
	"cmp"
	"slices"
	"strings"

	"keencrock/core/quantity"
)

// leftAmount is an amount that is left at the end of an atom.
type leftAmount struct {
	r    *reader
	a    *atom
	said *amountSaid
	n    int  // names that wait for an amount
	free bool // none waits, and the atom has made no line
}

// amountLeft gives an amount without a name to the names that wait for one, or to what it
// says: a dose, a yield; or keeps it for the next name.
func (r *reader) amountLeft(a *atom) {
	said := a.amount
	a.amount = nil
	r.keepWaiting(a)
	n := len(r.waiting)
	if n > 0 && r.now.doing && said.Amount.Open() == quantity.Some && r.waiting[n-1].to < r.out[a.lo].from { // “spray water in, it'll fizz a bit”
		if last := r.waiting[n-1]; r.lineOf(r.read(last.text), last.text) != nil {
			r.becomes(said.from, said.to, AsStep, nil)
			return
		}
	}
	if said.from > 0 && r.workedOut(said) || n > 0 && said.Amount.Unit() == quantity.Bare && said.from > 0 && r.now.doing && r.toks[said.from-1].word == "at" { // “…, so 125 g”, “mix at about 40”
		r.becomes(said.from, said.to, AsRemark, nil)
		return
	}
	left := &leftAmount{r: r, a: a, said: said, n: n, free: n == 0 && a.made == nil}
	for _, taken := range []func() bool{left.ofAll, left.standsFor, left.usedAtOnce, left.perSomething, left.madeUpTo, left.goesOn} {
		if taken() {
			return
		}
	}
	left.lastOf()
}

// workedOut reports whether an amount says again in grams what was said in per cent of how much comes out: “2.5 % of
// citric acid in water, five litres of it, so 125 g”.
func (r *reader) workedOut(said *amountSaid) bool {
	if r.toks[said.from-1].word != "so" || said.Amount.Unit() == quantity.Bare || r.good.Yield.IsZero() || len(r.good.lines) == 0 {
		return false
	}
	return !slices.ContainsFunc(r.good.lines, func(l *Line) bool { return l.Amount.Unit() != quantity.Percent })
}

// ofAll takes an amount for what is said of all of it: how big its parts and pieces are, how much comes
// out, or that what was said before was otherwise.
func (left *leftAmount) ofAll() bool {
	r, a, said, n, free := left.r, left.a, left.said, left.n, left.free
	switch {
	case len(r.good.lines)+n > 0 && said.to+1 < len(r.toks) && comesOut[r.toks[said.to].word+" "+r.toks[said.to+1].word]: // “…, strain, half a litre comes out”
		r.yields(said)
	case free && r.last != nil && r.last.Amount.Open() == quantity.ToFill && r.last.from >= r.now.from && isVolume(said.Amount) && said.Amount.Open() == quantity.NotOpen && r.nothingBefore(a, said): // “fill the bottle with water, 750 ml”
		r.makeUp(said, r.last)
	case free && len(r.good.lines) > 0 && r.ofEachPiece(said): // “30 gram pucks”
	case free && len(r.good.lines) > 1 && r.isPartSize(a, said): // “3 parts soda, 1 part salt, I use a teacup”
	case free && len(r.good.lines) > 1 && said.Amount.Unit() == quantity.Pump: // “…, two pumps”
		r.now.using = true
		r.dosed(a, said, a.hi)
	case free && len(r.good.lines) > 1 && isWhole(said.Amount) && !isVessel(said.Amount.Unit()) && !r.now.doing && r.allInParts() && r.nothingBefore(a, said): // “vinegar and water half and half, about a litre”
		r.yields(said)
	case free && len(r.good.lines) > 1 && !r.now.doing && r.holder(said): // “…; pump bottle 500 ml”
		r.yields(said)
	case n == 0 && r.lineAt(a) != nil && (r.lineAt(a).from >= r.now.from || said.from == r.now.from) && r.actually(a, said): // “100 g beeswax... 120 actually”
		r.correctAmount(r.lineAt(a), said)
	case free && r.otherwise(a, said):
	case len(r.good.lines) > 1 && n == 0 && isWhole(said.Amount) && r.afterTotal(said): // “…, total 450 g”
		r.yields(said)
	default:
		return false
	}
	return true
}

// ofAllEqual gives all lines, of which equal parts were said, how much each is.
func (r *reader) ofAllEqual(said *amountSaid) bool {
	if !r.eachAfter(said.to) || !inMeasures(said.Amount) || said.Amount.Open() != quantity.NotOpen {
		return false
	}
	for _, l := range r.good.lines {
		if l.Amount != r.good.lines[0].Amount || l.Amount.Unit() != quantity.Part {
			return false
		}
	}
	for _, l := range r.good.lines {
		l.Amount, l.Written = said.Amount, written(said)
	}
	r.becomes(said.from, said.to, AsAmount, r.last)
	return true
}

// comesOut stands behind how much there is in the end.
var comesOut = wordSet("comesOut")

// standsFor takes an amount for one of water that is not named, or for what was said already: the same once
// more, its weight, how much of it is wanted.
func (left *leftAmount) standsFor() bool {
	r, a, said, n, free := left.r, left.a, left.said, left.n, left.free
	switch {
	case free && isVolume(said.Amount) && !isVessel(said.Amount.Unit()) && said.to+2 < len(r.toks) && (r.toks[said.to].word == "from" || r.toks[said.to].word == "out") && slices.ContainsFunc(r.toks[said.to:min(said.to+4, len(r.toks))], func(t token) bool { return t.word == "kettle" }): // “half a litre from the kettle over it”
		r.lineMade(a, said, &naming{from: said.to, to: said.to, text: "boiling water", in: r.now})
	case free && !a.perWater && r.pouredPlain(said): // “then add 2 l cold”
		r.lineMade(a, said, &naming{from: said.to, to: said.to + 1, text: r.toks[said.to].word + " water", in: r.now})
		r.good.Unsure = append(r.good.Unsure, Unsure{Line: len(r.good.lines) - 1, Code: "topped-up-with", Text: said.Amount.String() + " of what? Water is taken.", Answers: []string{"Water"}})
	case r.now.doing && said.from > 1 && (r.toks[said.from-1].word == "other" || r.toks[said.from-1].word == "remaining"): // “add the other two litres cold”
		r.becomes(said.from, said.to, AsStep, nil)
	case r.last != nil && n == 0 && !a.perWater && r.last.Amount == said.Amount && a.made == nil && said.Amount.Unit() != quantity.Bare: // “double that, four cups”
		r.becomes(said.from, said.to, AsAmount, r.last)
	case r.shared.all && !r.shared.taken && r.shared.said != nil && r.shared.said.Amount.Unit() == quantity.Part && n == 0 && holds(said.Amount): // “equal weights, say 250 g, of …”
		r.shared.said = said
		r.becomes(said.from, said.to, AsAmount, nil)
	case n == 0 && said.from > 0 && inMeasures(said.Amount) && likely[r.toks[said.from-1].word] && r.overShares(said): // “equal amounts of borax and sugar, like half a cup”
	case r.weighsTogether(a, said): // “30 ivy leaves, about 60 grams”
	case r.renamed != nil && r.renamed == r.last && n == 0: // “no, make it citric acid, 40 grams”
		r.correctAmount(r.renamed, said)
		r.renamed = nil
	case r.now.doing && len(r.good.lines) > 0 && said.from > 0 && r.toks[said.from-1].word == "in" && isVolume(said.Amount) && r.ofIt(said): // “dissolve the soap in 1 litre of it”
		r.becomes(said.from, said.to, AsStep, nil)
	case len(r.good.lines) > 0 && (n == 0 && isWhole(said.Amount) || said.Amount.Unit() == quantity.Bare && (!r.now.doing || r.afterShape(said.from)) && r.toks[r.out[a.hi-1].to-1].word == "them") && r.ofIt(said): // “today I want 1.5 kg of it”
		r.yields(said)
	default:
		return false
	}
	return true
}

// likely stand before an amount that is one way to take it.
var likely = wordSet("likely")

// afterShape reports whether what gives its shape to a good stands before a comma and a token: “press into moulds, 12 of
// them”.
func (r *reader) afterShape(tok int) bool {
	return tok > 1 && r.toks[tok-1].word == "," && shapesGood[r.toks[tok-2].word]
}

// shapesGood are what gives a good its shape, and what it is then.
var shapesGood = wordSet("shapesGood")

// usedAtOnce takes an amount for a dose by the words around it: “use 50 ml in a bucket”, “drop one in”.
func (left *leftAmount) usedAtOnce() bool {
	r, a, said, n, free := left.r, left.a, left.said, left.n, left.free
	switch {
	case len(r.good.lines) == 0 && n == 0 && said.from > 0 && (r.toks[said.from-1].word == "use" && said.from-1 == r.now.from || r.toks[said.from-1].word == "put" && isSpooned(said.Amount)) && r.isDose(said) && r.intoUse(said): // “use 50 ml in a bucket, it's …”
		r.dosed(a, said, a.hi)
	case n == 0 && (r.now.doing && r.wets(a, said) || a.made != nil && (r.wetsAhead(a) || r.dissolves(a, said))) && holds(said.Amount) && isVolume(said.Amount) && !isVessel(said.Amount.Unit()) && r.isInside(said): // “boiled in two litres for half an hour”, “15 shells in a litre, boil …”
		r.lineMade(a, said, &naming{from: said.to, to: said.to, text: "water", in: r.now})
		r.good.Unsure = append(r.good.Unsure, Unsure{Line: len(r.good.lines) - 1, Code: "topped-up-with", Text: "In " + said.Amount.String() + " of what? Water is taken.", Answers: []string{"Water"}})
	case len(r.good.lines) > 0 && n == 0 && said.from > 0 && r.toks[said.from-1].word == "use" && (r.isDose(said) || said.article && isVolume(said.Amount)): // “Use 1/4 cup in the rinse.”
		said.article = false
		r.now.using = true
		r.dosed(a, said, a.hi)
	case len(r.good.lines) > 0 && free && !r.now.doing && (said.Amount.Unit() == quantity.Bare && said.from == r.now.from || isSpooned(said.Amount) && said.from == r.out[a.lo].from) && r.intoUse(said) && r.isDose(said): // “One in the bowl, …”
		r.now.using, r.now.used = true, true
		r.dosed(a, said, a.hi)
	case len(r.good.lines) > 0 && free && r.popped(said): // “…, drop one in, leave ten minutes”
		r.now.using, r.now.doing = true, false
		r.dosed(a, said, a.hi)
	case len(r.good.lines) > 0 && free && !r.now.doing && r.goesDown(said) && r.isDose(said): // “two spoons go down at night”
		r.now.using = true
		r.dosed(a, said, a.hi)
	case free && len(r.good.lines) > 1 && !r.now.doing && isSpooned(said.Amount) && said.from == r.now.from && r.atWash(said): // “Quarter cup at the start of the wash.”
		r.now.using = true
		r.dosed(a, said, a.hi)
	case free && len(r.good.lines) > 1 && isSpooned(said.Amount) && r.forMachine(said.to) && r.isDose(said): // “…, a tablespoon for the machine”
		r.now.using = true
		r.dosed(a, said, a.hi)
	case a.perWater && len(r.good.Doses) > 0:
		r.good.Doses[len(r.good.Doses)-1].Water = said.Amount.Plain()
		r.becomes(said.from, said.to, AsUse, nil)
	default:
		return false
	}
	return true
}

// forMachine reports whether “for the machine”, or for another place of use, stands at a token.
func (r *reader) forMachine(at int) bool {
	if at >= len(r.toks) || r.toks[at].word != "for" {
		return false
	}
	for at++; at < len(r.toks) && articles[r.toks[at].word]; at++ {
	}
	return at < len(r.toks) && (usePlaces[r.toks[at].word] || r.lexIs(at, machine))
}

// dissolves reports whether so much of no name is what something dry goes into: “20 g of citric acid in a litre”.
func (r *reader) dissolves(a *atom, said *amountSaid) bool {
	return said.from > 0 && r.toks[said.from-1].word == "in" && inMeasures(a.made.Amount) && a.made.from >= r.now.from && millilitres(said.Amount) >= leastDissolved && r.nothingPoured()
}

// leastDissolved is from how many millilitres on something dry goes into them. From memory.
const leastDissolved = 100

// perSomething takes an amount for one that is said per so much, of the good itself, or under a condition.
func (left *leftAmount) perSomething() bool {
	r, a, said, n, free := left.r, left.a, left.said, left.n, left.free
	switch {
	case a.made != nil && n == 0 && isVolume(said.Amount) && said.from > 0 && r.isPer(said.from-1, said.from) && (r.pouredBefore(a.made) || r.inParts()): // “…, 10 drops of lemon per 250 ml”
		per := strings.TrimPrefix(said.Amount.String(), "1 ")
		a.made.remark("per " + per)
		r.becomes(said.from-1, said.to, AsRemark, a.made)
		r.askPer(a.made, per)
	case a.made != nil && n == 0 && isVolume(said.Amount) && said.from > 0 && r.isPer(said.from-1, said.from): // “a teaspoon of bicarb per litre”
		r.lineMade(a, said, &naming{from: said.to, to: said.to, text: "water", in: r.now})
		r.perWater = a.made
		r.good.Unsure = append(r.good.Unsure, Unsure{Line: len(r.good.lines) - 1, Code: "per-what", Text: "Per " + strings.TrimPrefix(said.Amount.String(), "1 ") + " of what? Water is taken.", Answers: []string{"Water"}})
	case free && len(r.good.lines) > 0 && said.Amount.Unit() == quantity.Bare && said.to < len(r.toks) && r.toks[said.to].word == "times": // “use it four times”
		r.noteEnd(a, r.out[a.lo].from)
	case free && r.ofBefore(said): // “200 ml of it and 300 ml of water”, of the good before
		before := r.goods[len(r.goods)-2]
		r.good.of = cmp.Or(before.of, before.Name, "the one before") // two of the same base follow each other
		r.lineMade(a, said, &naming{from: said.to, to: said.to + 1, text: strings.ToLower(r.good.of), in: r.now})
	case free && len(r.good.lines) > 1 && r.doseAlone(said): // “One level tablespoon.”
		r.now.using = true
		r.dosed(a, said, a.hi)
	case free && r.ofGoodItself(said) && r.isDose(said) && !r.now.doing && !r.measuresOn(a): // “one scoop of the powder”
		r.dosed(a, said, a.hi)
	case n == 0 && (a.made == nil || a.made == r.last) && r.saysOtherWay(said): // “2 tbsp citric acid, about 30 g”
	case a.alt && r.last != nil && len(r.waiting) == 0: // “or two if you have soft water”
		a.alt = false
		r.last.remark("or " + r.asSaid(said.from, r.out[a.hi-1].to))
		r.becomesWhereUnread(said.from, r.out[a.hi-1].to, AsRemark, r.last)
	case a.clause && said.Amount.Unit() == quantity.Bare && !r.dose.IsZero(): // “if your water is hard use two”
		r.becomes(said.from, said.to, AsUse, nil)
		for _, w := range r.waiting {
			if w.in == r.now {
				r.becomes(w.from, w.to, AsUse, nil)
			}
		}
		r.waiting = slices.DeleteFunc(r.waiting, func(w *naming) bool { return w.in == r.now })
	case r.now.noted && r.doseIn == r.now && r.isDose(said): // “…, 40 g for hard”
		r.becomesWhereUnread(said.from, r.out[a.hi-1].to, AsUse, nil)
	case a.perLoad, a.doses, a.machine != "":
		r.dosed(a, said, a.hi)
	default:
		return false
	}
	return true
}

// madeUpTo takes an amount for what it is made up to, or gives it to the names that wait for one.
func (left *leftAmount) madeUpTo() bool {
	r, a, said, n := left.r, left.a, left.said, left.n
	switch {
	case said.Amount.UpTo() && n == 0 && !a.yields && isVolume(said.Amount) && !isVessel(said.Amount.Unit()) && len(r.good.lines) > 0 && (r.nothingPoured() || r.toks[said.from].word == "top"): // “20 g of soapwort to half a litre”
		r.topWithout(a, said)
	case said.Amount.UpTo() && n == 0 && !a.yields && a.made != nil && a.made.Amount.Open() != quantity.NotOpen && r.poured(a.made.name): // “enough water to fill a 750 ml bottle”
		r.makeUp(said, a.made)
	case a.yields, said.Amount.UpTo() && n == 0:
		r.yields(said)
	case n > 0 && isVessel(said.Amount.Unit()) && r.isInside(said) && r.lineOf(r.read(r.waiting[n-1].text), r.waiting[n-1].text) != nil: // “cut the lemons up, …, put in a pan”
		r.becomes(said.from, said.to, AsPlace, nil)
	case n > 0 && r.waiting[n-1].in != r.now && len(r.good.lines) > 1 && isSpooned(said.Amount) && r.intoUse(said): // “…; 2 capfuls to a bucket”
		r.settle()
		r.now.using = true
		r.dosed(a, said, a.hi)
	case n > 0 && r.cookedIn(said): // “boil the nuts again in 1 litre”
	case n > 0:
		r.giveWaiting(a, said, r.forAll || r.joinedAll(said))
	case a.hi < len(r.out) && r.out[a.hi].kind == aColon && n == 0 && isWhole(said.Amount): // “I need 10 litres: …”
		r.yields(said)
	default:
		return false
	}
	return true
}

// goesOn takes an amount by what was said before it in the sentence: a line that was open, a dose, a total.
func (left *leftAmount) goesOn() bool {
	r, a, said, n, free := left.r, left.a, left.said, left.n, left.free
	switch {
	case said.Amount.Open() != quantity.NotOpen && r.last != nil && r.last.from >= r.now.from: // “… to make a paste”
		if cooledSo[r.toks[max(0, said.from-1)].word] { // “once it has cooled down a bit”
			r.becomes(said.from, said.to, AsStep, nil)
			break
		}
		if o := r.last.Amount.Open(); r.last.Amount.IsZero() || o != quantity.NotOpen && !(o == quantity.Some && strings.Contains(said.written, "til")) {
			r.last.Amount, r.last.Written = said.Amount, written(said)
		} else {
			r.last.remark(said.written)
		}
		r.becomes(said.from, said.to, AsAmount, r.last)
	case said.Amount.Unit() == quantity.Bare && !r.dose.IsZero() && r.doseIn == r.now && r.isDose(said): // “one scoop a wash, two if …”
		r.becomes(said.from, said.to, AsUse, nil)
	case r.now.using && r.isDose(said):
		r.dosed(a, said, a.hi)
	case n == 0 && len(r.good.lines) > 1 && said.from > 0 && r.toks[said.from-1].word == "=" && isWhole(said.Amount), // “… = 28 oz”
		free && isWhole(said.Amount) && len(r.good.lines) > 1 && r.onlyPercents() && r.nothingBefore(a, said): // “15 percent in water. 2 litres.”
		r.yields(said)
	case free && r.last != nil && r.inSeason(a): // “…, in summer 30 ml”
		r.last.remark(r.asSaid(r.out[a.lo].from, r.out[a.hi-1].to))
		end := r.out[a.hi-1].to
		for i := r.out[a.lo].from; i < end; i++ {
			r.fates[r.origin[i]] = fate{AsRemark, nil, r.last}
		}
	case free && r.scales(said): // “10 g of citric acid per 100 ml, I need 2 litres”
	case free && len(r.good.lines) > 1 && r.wanted(said): // “…, make me five kilos”
		r.yields(said)
	case free && r.last != nil && r.isBetter(said): // “I had two in it but three is better”
		r.correctAmount(r.last, said)
	case said.Amount.Unit() == quantity.Bare && n == 0 && len(r.good.lines) > 0 && said.to+1 < len(r.toks) && r.toks[said.to].word == "out" && r.toks[said.to+1].word == "of": // “get about 40 out of it”
		r.yields(said)
	case (said.Amount.Unit() == quantity.Bare || isSpooned(said.Amount)) && free && r.doseIn == r.now && !r.dose.IsZero() && said.Amount.Open() == quantity.NotOpen && r.forMore(said.to): // “one spoon a wash, two for towels”
		r.dosed(a, said, a.hi)
	default:
		return false
	}
	return true
}

// lastOf takes an amount for a strength, for what holds it, or for a step, and asks about any other.
func (left *leftAmount) lastOf() {
	r, a, said, free := left.r, left.a, left.said, left.free
	switch {
	case free && isSpooned(said.Amount) && said.from == r.now.from && len(r.good.Doses) > 0 && r.forMore(said.to) && !r.now.doing: // “…; a quarter cup for small loads”
		r.noteEnd(a, said.from)
	case r.strengthAlone(a, said):
	case r.percentLine(said):
	case a.fills:
		r.yields(said)
	case holds(said.Amount) && len(r.good.lines) != 1 && said.from > 1 && r.toks[said.from-1].word == "," && shapesGood[r.toks[said.from-2].word+"s"]: // “Pump bottle, 500 ml”
		r.yields(said)
	case isVessel(said.Amount.Unit()) && !said.article && a.hi == a.lo+1 && len(r.good.lines) > 0 && !r.now.doing && said.from > 1 && r.toks[said.from-1].word == "," && !articles[r.toks[said.from].word]: // “20 g citric acid each, 10 sachets”
		r.yields(said)
	case isVessel(said.Amount.Unit()):
		r.becomes(said.from, said.to, AsPlace, nil)
	case holds(said.Amount) && (r.isInside(said) || isSizeOf(said)):
		r.yields(said)
	case r.saysAgain(a, said):
	case r.refines(said):
	case r.now.doing, said.article:
		r.becomes(said.from, said.to, AsStep, nil)
		r.now.doing = r.now.doing || !said.article
	case free && r.alone != nil && r.alone.to < said.from && r.widens(said): // “about half a cup, maybe three quarters, of …”
	case len(r.good.lines) > 0 && a.made == nil && r.isDose(said) && r.usedAhead(a): // “one scoop, 20 grams, in with the whites”
		r.dosed(a, said, a.hi)
	default:
		r.askAlone()
		r.alone = said
		r.becomes(said.from, said.to, AsQuestion, nil)
	}
}
