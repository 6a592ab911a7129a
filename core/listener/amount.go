package listener

import (
	"slices"
	"strings"

	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

// walkAmount reads how much.
func (r *reader) walkAmount(a *atom, k int) int {
	m := &r.out[k]
	if part := quantity.Of(1, 1, quantity.Part); m.amount.Amount.Unit() == quantity.Bare && m.to < len(r.toks) && r.toks[m.to].word == "measure" { // “one measure soap”
		if with, ok := m.amount.Amount.InUnitOf(part); ok {
			m.amount.Amount, m.written = with, with.String()
		}
	}
	said := r.amountSaid(m)
	if said.total && m.from > 0 && pouresTo[r.toks[m.from-1].word] && r.nameNext(a, k) { // “then add to 2 litres of lukewarm water”
		said.Amount, said.total = said.Amount.Plain(), false
		said.written = said.Amount.String()
	}
	if at := r.nextCore(a, k+1); a.amount == nil && len(a.names) == 0 && len(r.waiting) == 0 && isFraction(said.Amount) && said.Amount.Unit() == quantity.Bare && at < a.hi && r.out[at].kind == aName && r.toks[r.out[at].from-1].word == "the" && r.isLine(at) && (r.now.doing || a.prose || len(r.good.lines) > 1 && r.last.from < r.now.from) { // “blitz the soap with half the borax”
		r.looseEnds(a, k)
		text := r.said(r.out[at].from, r.out[at].to)
		l := r.lineOf(r.read(text), text)
		r.becomes(m.from, r.out[at].to, AsStep, l)
		r.touched, r.now.doing = append(r.touched, l), true
		return at + 1
	}
	if said.Amount.UpTo() && thingOf(said.Amount.Unit()) != "" { // “200 g of salt to one lemon”
		said.Amount, said.total = said.Amount.Plain(), false
		said.written = said.Amount.String()
	}
	if n := len(a.names); n == 1 && a.made == nil && a.amount == nil && k+1 == a.hi && len(r.waiting) == 0 && isVessel(said.Amount.Unit()) && m.to > m.from+2 && strings.HasPrefix(r.toks[m.from+1].word, "spray") && r.toks[m.from-1].word == "in" { // “witch hazel in a spray bottle”
		name := a.names[0]
		a.names, a.loose = nil, -1
		said.Amount = quantity.OpenAmount(quantity.AsNeeded)
		r.lineMade(a, said, name)
		return k + 1
	}
	if isVessel(said.Amount.Unit()) && m.to > m.from+2 && strings.HasPrefix(r.toks[m.from+1].word, "spray") && r.nameNext(a, k) { // “damp it with a spray bottle of water”
		said.Amount = quantity.OpenAmount(quantity.AsNeeded)
	}
	if m.article && a.amount != nil && m.from > 0 && a.amount.to == m.from && r.toks[m.from-1].word == "of" { // “150 g of a coconut soap bar”
		r.becomes(m.from, m.to, AsSmallTalk, nil)
		return k + 1
	}
	if next := r.strangeMeasure(a, k); next > 0 { // “a lump of beeswax”
		r.looseEnds(a, k)
		end := r.out[next-1].to
		said.Amount, said.written, said.to = quantity.OpenAmount(quantity.Some), strings.TrimSuffix(r.asSaid(m.from, end), " of"), end
		a.amount = said
		return next
	}
	if m.to == m.from+1 && r.toks[m.from].word == "small" && len(a.names) > 0 && k+1 == a.hi { // “and colour small”
		said.Amount, said.written = quantity.OpenAmount(quantity.Some), "a little"
	}
	if next := k + 1; next < a.hi && isWhole(said.Amount) && !isVessel(said.Amount.Unit()) && len(r.good.lines) == 0 && a.amount == nil && strings.HasPrefix(r.toks[r.out[next].from].word, "batch") { // “we do 5 kg batches”
		r.looseEnds(a, k)
		r.yields(said)
		r.becomes(r.out[next].from, r.out[next].to, AsYield, nil)
		return next + 1
	}
	r.numbersAsParts(a, m, said, k)
	if r.toNumber(a, m, said) {
		return k + 1
	}
	if word := r.said(m.from, m.to); m.article && !r.nameNext(a, k) && len(r.good.lines) == 0 && said.Amount.Unit() == quantity.Spritz && (k+1 == a.hi || r.toks[m.to-1].word != "of") { // “I make a spray with …”
		r.becomes(m.from, m.to, AsName, nil)
		if r.good.Kind == "other" && lastWord(word) == "spray" {
			r.good.Kind, r.good.Name = "spray", "Spray"
		}
		return k + 1
	}
	if next := k + 1; next < a.hi && len(r.good.lines) == 0 && a.made == nil && holds(said.Amount) && r.out[next].is(kind) && r.read(r.said(r.out[next].from, r.out[next].to)) == nil && r.toks[m.to-1].word == "of" { // “to make 5 litres of rinse aid”
		r.looseEnds(a, k)
		if r.good.Kind == "other" {
			r.good.Kind = r.out[next].meaning.kind
		}
		if r.good.Name == "" {
			r.good.Name = sentenceCase(r.said(r.out[next].from, r.out[next].to))
		}
		r.yields(said)
		r.becomes(r.out[next].from, r.out[next].to, AsName, nil)
		return next + 1
	}
	if at := r.nextCore(a, k+1); said.Amount.Open() == quantity.ToFill && r.makesUp(a, k, at) { // “enough water to fill a 750 ml bottle”
		return at + 1
	}
	if at := r.perLine(a, m, k); at > 0 { // “a teaspoon of oil for every cup of bicarb”
		r.looseEnds(a, k)
		a.made.remark(r.asSaid(m.from-1, r.out[at].to))
		r.becomes(m.from-1, r.out[at].to, AsRemark, a.made)
		return at + 1
	}
	if at := r.nextCore(a, k+1); m.from > 0 && a.amount == nil && isVolume(said.Amount) && r.isPer(m.from-1, m.from) && at < a.hi && r.out[at].kind == anAmount && r.nothingBetween(k+1, at) && r.nameNext(a, at) { // “to each litre five drops of tea tree”
		r.looseEnds(a, k)
		r.becomes(m.from-1, m.to, AsRemark, nil)
		a.remarks, a.per = append(a.remarks, span{m.from - 1, m.to}), strings.TrimPrefix(said.Amount.String(), "1 ")
		return k + 1
	}
	if next := k + 1; next < a.hi && r.doseIn == r.now && !r.dose.IsZero() && (conditions[r.toks[r.out[next].from].word] || r.ofHardness(m.to)) && a.amount == nil { // “a level spoon, heaped if the water's hard”
		r.looseEnds(a, k)
		end := r.out[a.hi-1].to
		for i := m.from; i < end; i++ {
			r.fates[r.origin[i]] = fate{AsUse, nil, nil}
		}
		r.good.Notes = append(r.good.Notes, sentenceCase(r.asSaid(m.from, end))+".")
		return a.hi
	}
	if next := k + 1; next < a.hi && a.alt && conditions[r.toks[r.out[next].from].word] && r.lineAt(a) != nil { // “or 500 g if the water is hard”
		l, end := r.lineAt(a), r.out[a.hi-1].to
		a.alt, a.loose = false, -1
		l.remark("or " + r.asSaid(m.from, end))
		r.becomesWhereUnread(m.from, end, AsRemark, l)
		r.fates[r.origin[m.from]] = fate{AsRemark, nil, l}
		return a.hi
	}
	if l := r.ofThatLine(a, m, said); l != nil {
		r.correctAmount(l, said)
		r.becomes(m.to, m.to+1, AsAmount, l)
		a.made = l
		return k + 1
	}
	if r.ofThis(m) {
		r.becomes(m.from, m.to, AsSmallTalk, nil)
		return k + 1
	}
	if at := m.to; (a.amount == nil || isVessel(a.amount.Amount.Unit())) && at+1 < len(r.toks) && (r.toks[at].word == "this" || r.toks[at].word == "my") && r.ofGoodItself(said) && r.isDose(said) { // “2 spoons of this powder”
		r.looseEnds(a, k)
		if next := k + 1; next < a.hi && r.out[next].from <= at+1 {
			into := a.amount
			r.dosed(a, said, a.hi)
			if into != nil { // “for 1 bucket take 2 spoons of …”
				r.good.Doses[len(r.good.Doses)-1].Water = into.Amount.Plain()
				r.becomes(into.from, into.to, AsUse, nil)
			}
			for next < a.hi && r.out[next].from <= at+1 {
				r.becomes(r.out[next].from, r.out[next].to, AsUse, nil)
				next++
			}
			return next
		}
	}
	if m.article && m.from > 0 && r.toks[m.from-1].word == "as" && (a.made != nil || len(r.good.lines) > 0) && a.amount == nil && r.nothingMeasured(k+1, a.hi) { // “… as an oxi soak”
		r.looseEnds(a, k)
		if l := r.lineAt(a); l != nil {
			l.remark(r.asSaid(m.from-1, r.out[a.hi-1].to))
			r.becomes(m.from-1, r.out[a.hi-1].to, AsRemark, l)
			return a.hi
		}
	}
	if at := r.bathAt(a, k); at > 0 { // “stand the jar in a pan of simmering water”
		r.looseEnds(a, k)
		a.amount = nil
		r.becomesWhereUnread(r.out[a.lo].from, m.from-1, AsStep, nil)
		r.becomes(m.from-1, r.out[at].to, AsStep, nil)
		return at + 1
	}
	if m.article && !r.nameNext(a, k) { // “a”, of nothing that is counted
		if a.loose < 0 {
			a.loose = k
		}
		return k + 1
	}
	if machine := r.frontOrTop(a, m); machine != "" { // “dose 80 ml front, 120 ml top”
		r.looseEnds(a, k)
		a.machine = machine
		if r.dosed(a, said, k) {
			r.becomes(m.to, m.to+1, AsUse, nil)
			r.out[k+1].kind = aBullet // it has been read
			return k + 2
		}
	}
	r.looseEnds(a, k)
	if a.perLoad || a.doses || a.machine != "" {
		if r.dosed(a, said, k) {
			return k + 1
		}
	}
	switch {
	case said.Amount.Unit() == quantity.Percent && a.made != nil && len(a.names) == 0 && !r.nameNext(a, k): // “2 cups of vinegar 5 %”
		r.rename(a.made, a.made.name+" "+said.Amount.String())
		r.becomes(m.from, m.to, AsMaterial, a.made)
		return k + 1
	case said.Amount.Unit() == quantity.Percent && a.amount != nil: // “1 cup of 5 % vinegar”
		return r.walkName(a, k)
	case a.made != nil && said.total && r.nameNext(a, k), a.amount != nil && a.amount.Amount.Kind() == said.Amount.Kind() && said.total && r.nameNext(a, k), len(a.names) > 0 && said.total && r.nameNext(a, k):
		said.Amount, said.total = said.Amount.Plain(), false
		said.written = said.Amount.String()
	}
	if a.amount != nil && said.Amount.Open() == quantity.AsNeeded && k+1 == a.hi && a.amount.Amount.Open() == quantity.NotOpen { // “4 tablespoons till it thickens”
		r.becomes(m.from, m.to, AsRemark, nil)
		a.remarks = append(a.remarks, span{m.from, m.to})
		return k + 1
	}
	if a.amount != nil {
		r.amountBefore(a, said)
		a.amount = nil
		if r.fates[r.origin[said.from]].became == AsRemark { // “… to every cup”
			return k + 1
		}
	}
	if r.alone != nil && r.alone.Amount == said.Amount && r.nameNext(a, k) { // “one teaspoon, one teaspoon of salt”
		r.becomes(r.alone.from, r.alone.to, AsSmallTalk, nil)
		r.alone = nil
	}
	a.none = false
	if r.dropsOfFruit(m, said) { // “fifteen lavender and ten lemon”, after drops
		r.lineMade(a, said, &naming{from: m.from, to: m.from, text: m.amount.Amount.Unit().String() + " oil", in: r.now})
		return k + 1
	}
	if thing := r.thingSaid(a, said.Amount.Unit()); thing != "" && !r.nameNext(a, k) {
		if n := len(a.names); n > 0 && m.from > 0 && r.toks[m.from-1].word == "of" && a.names[n-1].to == m.from-1 { // “the zest of two lemons”: how much that is, is asked
			zest := a.names[n-1]
			if peel, err := quantity.Parse("peel of " + said.written); err == nil && peel.Unit().PeelOf() && r.peelOf(zest.text) {
				a.names = a.names[:n-1]
				said.Amount, said.written = peel, "peel of "+said.written
				r.lineMade(a, said, zest)
				return k + 1
			}
			zest.remarks = append(zest.remarks, "of "+said.written)
			r.becomes(m.from-1, m.to, AsRemark, nil)
			return k + 1
		}
		if next := k + 1; next < a.hi { // “half a lemon's juice”
			part := r.toks[r.out[next].from].word
			if of, err := quantity.Parse(part + " of " + strings.ReplaceAll(strings.ReplaceAll(said.written, "'s", ""), "’s", "")); err == nil && (of.Unit().JuiceOf() || of.Unit().PeelOf()) {
				said.Amount, said.written, said.to = of, of.String(), r.out[next].from+1
				r.lineMade(a, said, &naming{from: m.from, to: m.from, text: thingOf(of.Unit()), in: r.now})
				return next + 1
			}
		}
		r.namedBefore(a, thing)
		n := &naming{from: m.from, to: m.from, text: thing, in: r.now}
		if a.alt {
			a.alt, a.amount = false, said
			r.alternative(a, n)
			return k + 1
		}
		r.lineMade(a, said, n)
		return k + 1
	}
	if n := len(a.names); n > 0 && (isVessel(said.Amount.Unit()) || isSizeOf(said)) && r.isInside(said) && r.lineOf(r.read(a.names[n-1].text), a.names[n-1].text) != nil { // “put the peel in a litre jar”
		r.becomes(m.from, m.to, AsPlace, nil)
		return k + 1
	}
	if l := r.soMuch(a, m, said, k); l != nil { // “10 g of root per litre, so 30 g in 3 litres”
		r.correctAmount(l, said)
		a.made = l
		return k + 1
	}
	if n := len(a.names); n > 0 && a.amount == nil && holds(said.Amount) && r.upToPart(m.from) && r.poured(a.names[n-1].text) { // “water up to the shoulder of a 300 ml bottle”
		name := a.names[n-1]
		a.names, a.loose = a.names[:n-1], -1
		r.becomesWhereUnread(name.to, m.from, AsAmount, nil)
		said.Amount, said.written = said.Amount.Total(), said.Amount.Total().String()
		r.lineMade(a, said, name)
		r.makeUp(said, a.made)
		return k + 1
	}
	if len(a.names) > 0 && !a.clause && (a.nameFirst || !r.nameNext(a, k)) {
		n := a.names[len(a.names)-1]
		a.names = a.names[:len(a.names)-1]
		r.keepWaiting(a)
		r.lineMade(a, said, n)
		return k + 1
	}
	a.amount = said
	return k + 1
}

// nothingMeasured reports whether no amount stands between two marks.
func (r *reader) nothingMeasured(lo, hi int) bool {
	for k := lo; k < hi; k++ {
		if r.out[k].kind == anAmount && !r.out[k].article || r.out[k].kind == aRatio {
			return false
		}
	}
	return true
}

// bathAt is the mark of the water that something is stood in or over while it is made, “in a pan of simmering
// water”; 0 for any other amount.
func (r *reader) bathAt(a *atom, k int) int {
	m, at := &r.out[k], k+1
	if at+1 < a.hi && r.out[at].kind != aName && r.out[at].to == r.out[at].from+1 {
		at++
	}
	if !r.now.doing || a.amount != nil && !isVessel(a.amount.Amount.Unit()) || len(r.good.lines) == 0 || !isVessel(m.amount.Amount.Unit()) || m.from == 0 || r.toks[m.from-1].word != "in" && r.toks[m.from-1].word != "over" && r.toks[m.from-1].word != "into" || at >= a.hi || r.out[at].kind != aName {
		return 0
	}
	name := &r.out[at]
	if r.toks[name.to-1].word != "water" || name.to-m.to < 2 || len(a.names) > 0 {
		return 0
	}
	for tok := r.out[a.lo].from; tok < m.from; tok++ {
		if stoodIn[r.toks[tok].word] {
			return at
		}
	}
	return 0
}

// stoodIn are words for putting a vessel into warm water.
var stoodIn = wordSet("stoodIn")

// namedBefore takes a name that waits for an amount away where what was counted is of it:
// “soap nuts - 15 shells”.
func (r *reader) namedBefore(a *atom, thing string) {
	m := r.read(thing)
	if k := len(a.names); m != nil && k > 0 && r.read(a.names[k-1].text) == m {
		n := a.names[k-1]
		r.becomes(n.from, n.to, AsMaterial, nil)
		a.names = a.names[:k-1]
	}
}

// wetsAhead reports whether what comes right after an atom is boiled or soaked.
func (r *reader) wetsAhead(a *atom) bool {
	for k := a.hi; k < len(r.out) && k < a.hi+3; k++ {
		if wets[r.toks[r.out[k].from].word] {
			return true
		}
	}
	return false
}

// strangeMeasure is the mark after a measure that is on no list, between a number and the “of”
// of what is measured: “two lumps of soap”; 0 where none stands there.
func (r *reader) strangeMeasure(a *atom, k int) int {
	m := &r.out[k]
	if a.amount != nil || m.amount.Amount.Unit() != quantity.Bare || m.amount.Amount.Open() != quantity.NotOpen || m.to != m.from+1 {
		return 0
	}
	for i := k + 1; i+2 < len(r.out) && i <= k+mostTail && r.out[i].kind == aWord && r.toks[r.out[i].from].kind == isWord; i++ {
		word := r.toks[r.out[i].from].word
		if noMeasures[word] || i+2 >= a.hi {
			return 0
		}
		if of := &r.out[i+1]; r.toks[of.from].word == "of" && of.to == of.from+1 && r.out[i+2].kind == aName {
			return i + 2
		}
	}
	return 0
}

// pouresTo stand before “to 2 litres of water” where something is poured into those.
var pouresTo = wordSet("pouresTo")

// cooledSo stand before “a bit” that is no amount.
var cooledSo = wordSet("cooledSo")

// noMeasures are nouns before an “of” that measure nothing: “a mixture of …”.
var noMeasures = wordSet("noMeasures")

// wets reports whether one of them stands before an amount.
func (r *reader) wets(a *atom, said *amountSaid) bool {
	for i := r.out[a.lo].from; i < said.from; i++ {
		if wets[r.toks[i].word] {
			return true
		}
	}
	return false
}

// amountBefore is for an amount that another one follows.
func (r *reader) amountBefore(a *atom, next *amountSaid) {
	before := a.amount
	if n := len(r.waiting); n > 0 && r.waiting[n-1].in != r.now && isSpooned(before.Amount) && isVessel(next.Amount.Unit()) && len(r.good.lines) > 1 { // “…; 2 capfuls to a bucket” is of nothing that was named before
		r.settle()
	}
	switch {
	case before.Amount.UpTo():
		r.yields(before)
	case len(r.good.lines) > 1 && len(r.waiting) == 0 && a.made == nil && before.from == r.now.from+1 && r.toks[r.now.from].word == "use" && r.isDose(before) && isVessel(next.Amount.Unit()) && r.toks[next.from-1].word == "in": // “Use 2 in a full kettle.”
		a.amount = nil
		r.now.using, r.now.used = true, true
		r.dosed(a, before, a.hi)
		a.perWater = true
	case len(r.waiting) == 0 && a.made == nil && r.doseIn == r.now && isSpooned(before.Amount) && isVolume(next.Amount) && before.to+1 == next.from && r.toks[before.to].word == "in": // “top loader 3 tsp, bucket wash 1 tsp in 10 litres”
		a.amount = nil
		r.good.Doses = append(r.good.Doses, formula.Dose{Amount: before.Amount})
		r.becomes(before.from, before.to, AsUse, nil)
		a.perWater = true
	case len(r.waiting) == 0 && a.made == nil && isVolume(next.Amount) && r.ofGoodItself(before) && r.isDose(before): // “a tablespoon of the concentrate in a litre of water”
		a.amount = nil
		r.dosed(a, before, a.hi)
		a.perWater = true
	case before.Amount.Unit() == quantity.Spritz && before.from > 0 && r.toks[before.from-1].word == "for" && len(r.good.lines) == 0: // “for a spray I put …”
		r.becomes(before.from, before.to, AsName, nil)
	case len(r.waiting) == 0 && a.made == nil && r.isPer(before.to, next.from) && r.perScoop(before, next): // “some starch, say a tablespoon to every cup”
		a.amount = nil
	case len(r.waiting) == 0 && a.made == nil && isVolume(next.Amount) && r.isPer(before.to, next.from) && r.isDose(before), // “a capful per litre”
		len(r.waiting) == 0 && a.made == nil && r.isDose(before) && before.Amount.Unit() != quantity.Bare && r.intoWater(before, next): // “one capful in a bucket of water”
		a.amount = nil
		r.now.using = r.now.using || before.from == r.now.from
		r.dosed(a, before, a.hi)
		a.perWater = true
	case len(r.waiting) > 0 && a.made == nil && len(a.names) == 0 && (before.to < next.from || r.toks[next.from].word == "to" && isVolume(next.Amount)) && !before.article: // “washing soda, 50 grams in 5 litres of water”
		r.giveWaiting(a, before, false)
	case len(r.good.lines) > 0 && len(r.waiting) == 0 && a.made == nil && next.Amount.UpTo() && isVolume(next.Amount) && r.isDose(before) && before.Amount.Unit() != quantity.Bare && !(isVolume(before.Amount) && millilitres(before.Amount) > millilitres(next.Amount)): // “one tablespoon to a bucket”
		a.amount = nil
		r.dosed(a, before, a.hi)
		a.perWater = true
	case before.Amount.Unit() == quantity.Bare && r.doseIn == r.now && !r.dose.IsZero(): // “…, two for a big one”
		r.becomes(before.from, before.to, AsUse, nil)
		r.good.Notes = append(r.good.Notes, sentenceCase(r.asSaid(before.from, r.out[a.hi-1].to))+".")
	case before.article, before.Amount.Open() != quantity.NotOpen: // “when it has cooled a bit 10 drops of …”
		r.becomes(before.from, before.to, AsSmallTalk, nil)
	case before.Amount.Unit() == quantity.Bare && before.Amount.Open() == quantity.NotOpen && next.unitOnly(): // “four of those big spoons”
		if with, ok := before.Amount.InUnitOf(next.Amount); ok {
			next.Amount, next.written = with, with.String()
		}
		r.becomes(before.from, before.to, AsAmount, nil)
		next.from = before.from
	case (r.isInside(before) || isSizeOf(before)) && holds(before.Amount) && !isVessel(before.Amount.Unit()): // “in a 16 oz bottle put …”
		r.yields(before)
	case isVessel(before.Amount.Unit()): // “into a spray bottle put one part …”
		r.becomes(before.from, before.to, AsPlace, nil)
	case before.to == next.from && next.Also.IsZero() && before.Amount.Open() == quantity.NotOpen && before.Amount.Unit() != quantity.Bare:
		next.Also = before.Amount
		r.becomes(before.from, before.to, AsAmount, nil)
	case before.Amount.Unit() == quantity.Bare:
		r.becomes(before.from, before.to, Unread, nil)
	case isVolume(before.Amount) && before.Amount.Open() == quantity.NotOpen && r.fromKettle(before.from): // “put the kettle on, pour a litre over …”
		r.lineMade(a, before, &naming{from: before.to, to: before.to, text: "boiling water", in: r.now})
		a.made = nil
	default: // “pour half a litre over two cups of …”
		r.askAlone()
		r.alone = before
		r.becomes(before.from, before.to, AsQuestion, nil)
		r.askAlone()
	}
}

// amountSaid is the amount of a mark.
func (r *reader) amountSaid(m *mark) *amountSaid {
	written := m.written
	if written == "" {
		written = r.said(m.from, m.end)
	}
	return &amountSaid{Reading: m.amount, written: written, from: m.from, to: m.to, article: m.article, total: m.total}
}

// nameNext reports whether the name that an amount is of follows it: nothing stands
// between but what is said of it.
func (r *reader) nameNext(a *atom, k int) bool {
	for i := k + 1; i < a.hi && i < k+5; i++ {
		m := &r.out[i]
		switch {
		case m.kind == aName:
			return true
		case m.kind == anAmount && m.amount.Amount.Unit() == quantity.Percent:
		case m.kind == anOpening:
			i = r.closing(i, a.hi)
		case m.kind == aWord, m.is(each | both | manner | optional), m.is(small) && !m.is(joiner), m.is(kind | pieces | thing):
		default:
			return false
		}
	}
	return false
}

// pouredPlain reports whether an amount is of a liquid of which only its warmth is said: “2 l cold”.
func (r *reader) pouredPlain(said *amountSaid) bool {
	if said.to >= len(r.toks) || !isVolume(said.Amount) || isVessel(said.Amount.Unit()) || said.Amount.Open() != quantity.NotOpen || said.from > 0 && (r.toks[said.from-1].word == "other" || r.toks[said.from-1].word == "remaining" || r.toks[said.from-1].word == "the") {
		return false
	}
	switch r.toks[said.to].word {
	case "cold", "hot", "boiling", "warm", "cool", "lukewarm":
	default:
		return false
	}
	at := said.to + 1
	return at >= len(r.toks) || r.toks[at].kind != isWord || r.lexIs(at, joiner)
}

// frontOrTop is the machine that one word behind a dose says; empty without one.
func (r *reader) frontOrTop(a *atom, m *mark) string {
	if m.to >= len(r.toks) || !a.doses && r.doseIn != r.now || m.to+1 < len(r.toks) && r.toks[m.to+1].kind == isWord && !r.lexIs(m.to+1, joiner) {
		return ""
	}
	switch r.toks[m.to].word {
	case "front", "fl":
		return "front-loader"
	case "top", "tl":
		return "top-loader"
	}
	return ""
}

// forMore reports whether what a dose is for stands at a token: “two for towels”.
func (r *reader) forMore(at int) bool {
	if at+1 >= len(r.toks) {
		return false
	}
	switch r.toks[at].word {
	case "for", "when", "if", "with":
		return true
	}
	return false
}

// actually reports whether a word of correction ends an atom right behind an amount.
func (r *reader) actually(a *atom, said *amountSaid) bool {
	if said.Amount.Open() != quantity.NotOpen || said.to >= len(r.toks) || r.out[a.hi-1].from != said.to {
		return false
	}
	switch strings.ToLower(r.said(said.to, r.out[a.hi-1].to)) {
	case "actually", "rather", "sorry", "i mean", "i meant", "in fact", "even", "i should say", "to be exact":
		return true
	}
	return false
}

// otherwise reads “leave the borax out if you've kids, otherwise one cup”: so much of what was
// left out a moment ago, which may be left out.
func (r *reader) otherwise(a *atom, said *amountSaid) bool {
	out := r.leftOut
	if out == nil || out.in != r.now || said.from == 0 || said.Amount.Open() != quantity.NotOpen {
		return false
	}
	but := said.from - 1
	for but > out.to && (hasIt[r.toks[but].word] || r.toks[but].word == "it's" || r.toks[but].word == "it" || r.toks[but].word == "use" || r.toks[but].word == "i") {
		but--
	}
	if w := r.toks[but].word; w != "otherwise" && w != "else" {
		return false
	}
	m := r.read(out.text)
	if m == nil {
		return false
	}
	r.leftOut = nil
	r.good.Not = slices.DeleteFunc(r.good.Not, func(not *material.Material) bool { return not == m })
	from := out.from
	for from > r.now.from && r.toks[from-1].word != "," && r.toks[from-1].word != ";" {
		from--
	}
	why := strings.TrimSuffix(r.asSaid(from, but), " but")
	r.lineMade(a, said, &naming{from: out.from, to: out.to, text: out.text, in: r.now})
	a.made.Optional = true
	a.made.remark(strings.Trim(why, " ,"))
	r.becomes(from, said.from, AsRemark, a.made)
	r.becomes(out.from, out.to, AsMaterial, a.made)
	return true
}

// askAlone asks what an amount is of that no name took.
func (r *reader) askAlone() {
	said := r.alone
	r.alone = nil
	switch {
	case said == nil:
	case said.Amount.Unit() == quantity.Bare && said.Amount.Open() == quantity.NotOpen: // “this one”, “one, two, three”
		r.becomes(said.from, said.to, AsLeftOut, nil)
	default:
		r.good.Unsure = append(r.good.Unsure, Unsure{Line: -1, Code: "amount-of-what", Text: "“" + strings.TrimSuffix(r.said(said.from, said.to), " of") + "” of what?"})
	}
}

// giveWaiting gives an amount to the last name that waits for one, or to all of them.
func (r *reader) giveWaiting(a *atom, said *amountSaid, all bool) {
	r.forAll = false
	waiting := r.waiting
	if n := len(waiting); !all && n > 1 && n == 1+r.amountsAhead(a) { // “soda, borax, salt: a cup, a cup, half a cup”
		r.waiting = nil
		r.lineMade(a, said, waiting[0])
		r.waiting = waiting[1:]
		return
	}
	if !all {
		r.waiting = waiting[:len(waiting)-1]
		r.settle()
		waiting = waiting[len(waiting)-1:]
	}
	r.waiting = nil
	for _, n := range waiting {
		r.lineMade(a, said, n)
		a.made.shared = len(waiting) > 1
	}
}

// amountsAhead is how many atoms follow, one after the other, that are an amount and nothing
// else.
func (r *reader) amountsAhead(a *atom) (n int) {
	for k := a.hi; k+1 < len(r.out) && (r.out[k].kind == aComma || r.out[k].is(joiner)) && r.out[k+1].kind == anAmount; k += 2 {
		if k+2 < len(r.out) && r.out[k+2].kind != aComma && r.out[k+2].kind != aStop && !r.out[k+2].is(joiner) {
			break
		}
		n++
	}
	return n
}

// lineAt is the line that an atom speaks of: the one it made, or the last.
func (r *reader) lineAt(a *atom) *Line {
	if a.made != nil {
		return a.made
	}
	return r.last
}

// ofHardness reports whether a water is said behind a dose: “2 in soft water”.
func (r *reader) ofHardness(at int) bool {
	for ; at+1 < len(r.toks); at++ {
		switch r.toks[at].word {
		case "in", "for", "with", "very", "really", "your", "our":
			continue
		case "soft", "softer", "hard", "harder":
			return r.toks[at+1].word == "water" || r.toks[at+1].word == "areas"
		}
		return false
	}
	return false
}
