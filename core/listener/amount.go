package listener

import (
	"cmp"
	"slices"
	"strings"

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

// cooledSo stand before “a bit” that is no amount.
var cooledSo = map[string]bool{"down": true, "cooled": true, "cool": true, "warm": true, "warmed": true, "thickened": true, "settled": true, "dried": true, "set": true, "wait": true}

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
	switch {
	case before.Amount.UpTo():
		r.yields(before)
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

// amountLeft gives an amount without a name to the names that wait for one, or to what it
// says: a dose, a yield; or keeps it for the next name.
func (r *reader) amountLeft(a *atom) {
	said := a.amount
	a.amount = nil
	r.keepWaiting(a)
	n := len(r.waiting)
	switch {
	case n == 0 && a.made == nil && len(r.good.lines) > 0 && r.ofEachPiece(said): // “30 gram pucks”
	case n == 0 && a.made == nil && len(r.good.lines) > 1 && r.isPartSize(a, said): // “3 parts soda, 1 part salt, I use a teacup”
	case n == 0 && a.made == nil && len(r.good.lines) > 1 && said.Amount.Unit() == quantity.Pump: // “…, two pumps”
		r.now.using = true
		r.dosed(a, said, a.hi)
	case n == 0 && a.made == nil && len(r.good.lines) > 1 && isWhole(said.Amount) && !isVessel(said.Amount.Unit()) && !r.now.doing && r.allInParts() && r.nothingBefore(a, said): // “vinegar and water half and half, about a litre”
		r.yields(said)
	case n == 0 && a.made == nil && len(r.good.lines) > 1 && !r.now.doing && r.holder(said): // “…; pump bottle 500 ml”
		r.yields(said)
	case n == 0 && r.lineAt(a) != nil && (r.lineAt(a).from >= r.now.from || said.from == r.now.from) && r.actually(a, said): // “100 g beeswax... 120 actually”
		r.correctAmount(r.lineAt(a), said)
	case n == 0 && a.made == nil && r.otherwise(a, said):
	case len(r.good.lines) > 1 && n == 0 && isWhole(said.Amount) && r.afterTotal(said): // “…, total 450 g”
		r.yields(said)
	case n == 0 && a.made == nil && isVolume(said.Amount) && !isVessel(said.Amount.Unit()) && said.to+2 < len(r.toks) && (r.toks[said.to].word == "from" || r.toks[said.to].word == "out") && slices.ContainsFunc(r.toks[said.to:min(said.to+4, len(r.toks))], func(t token) bool { return t.word == "kettle" }): // “half a litre from the kettle over it”
		r.lineMade(a, said, &naming{from: said.to, to: said.to, text: "boiling water", in: r.now})
	case n == 0 && a.made == nil && r.pouredPlain(said): // “then add 2 l cold”
		r.lineMade(a, said, &naming{from: said.to, to: said.to + 1, text: r.toks[said.to].word + " water", in: r.now})
		r.good.Unsure = append(r.good.Unsure, Unsure{Line: len(r.good.lines) - 1, Code: "topped-up-with", Text: said.Amount.String() + " of what? Water is taken.", Answers: []string{"Water"}})
	case r.now.doing && said.from > 1 && (r.toks[said.from-1].word == "other" || r.toks[said.from-1].word == "remaining"): // “add the other two litres cold”
		r.becomes(said.from, said.to, AsStep, nil)
	case r.last != nil && n == 0 && r.last.Amount == said.Amount && a.made == nil && said.Amount.Unit() != quantity.Bare: // “double that, four cups”
		r.becomes(said.from, said.to, AsAmount, r.last)
	case r.shared.all && !r.shared.taken && r.shared.said != nil && r.shared.said.Amount.Unit() == quantity.Part && n == 0 && holds(said.Amount): // “equal weights, say 250 g, of …”
		r.shared.said = said
		r.becomes(said.from, said.to, AsAmount, nil)
	case r.weighsTogether(a, said): // “30 ivy leaves, about 60 grams”
	case r.renamed != nil && r.renamed == r.last && n == 0: // “no, make it citric acid, 40 grams”
		r.correctAmount(r.renamed, said)
		r.renamed = nil
	case len(r.good.lines) > 0 && (n == 0 && isWhole(said.Amount) || said.Amount.Unit() == quantity.Bare && !r.now.doing && r.toks[r.out[a.hi-1].to-1].word == "them") && r.ofIt(said): // “today I want 1.5 kg of it”
		r.yields(said)
	case len(r.good.lines) == 0 && n == 0 && said.from > 0 && (r.toks[said.from-1].word == "use" && said.from-1 == r.now.from || r.toks[said.from-1].word == "put" && isSpooned(said.Amount)) && r.isDose(said) && r.intoUse(said): // “use 50 ml in a bucket, it's …”
		r.dosed(a, said, a.hi)
	case n == 0 && (r.now.doing && r.wets(a, said) || a.made != nil && r.wetsAhead(a)) && holds(said.Amount) && isVolume(said.Amount) && !isVessel(said.Amount.Unit()) && r.isInside(said): // “boiled in two litres for half an hour”, “15 shells in a litre, boil …”
		r.lineMade(a, said, &naming{from: said.to, to: said.to, text: "water", in: r.now})
		r.good.Unsure = append(r.good.Unsure, Unsure{Line: len(r.good.lines) - 1, Code: "topped-up-with", Text: "In " + said.Amount.String() + " of what? Water is taken.", Answers: []string{"Water"}})
	case len(r.good.lines) > 0 && n == 0 && said.from > 0 && r.toks[said.from-1].word == "use" && (r.isDose(said) || said.article && isVolume(said.Amount)): // “Use 1/4 cup in the rinse.”
		said.article = false
		r.now.using = true
		r.dosed(a, said, a.hi)
	case len(r.good.lines) > 0 && n == 0 && a.made == nil && !r.now.doing && (said.Amount.Unit() == quantity.Bare || isSpooned(said.Amount)) && said.from == r.now.from && r.intoUse(said) && r.isDose(said): // “One in the bowl, …”
		r.now.using = true
		r.dosed(a, said, a.hi)
	case len(r.good.lines) > 0 && n == 0 && a.made == nil && r.popped(said): // “…, drop one in, leave ten minutes”
		r.now.using, r.now.doing = true, false
		r.dosed(a, said, a.hi)
	case len(r.good.lines) > 0 && n == 0 && a.made == nil && !r.now.doing && r.goesDown(said) && r.isDose(said): // “two spoons go down at night”
		r.now.using = true
		r.dosed(a, said, a.hi)
	case a.perWater && len(r.good.Doses) > 0:
		r.good.Doses[len(r.good.Doses)-1].Water = said.Amount.Plain()
		r.becomes(said.from, said.to, AsUse, nil)
	case a.made != nil && n == 0 && isVolume(said.Amount) && said.from > 0 && r.isPer(said.from-1, said.from) && (r.pouredBefore(a.made) || r.inParts()): // “…, 10 drops of lemon per 250 ml”
		per := strings.TrimPrefix(said.Amount.String(), "1 ")
		a.made.remark("per " + per)
		r.becomes(said.from-1, said.to, AsRemark, a.made)
		r.askPer(a.made, per)
	case a.made != nil && n == 0 && isVolume(said.Amount) && said.from > 0 && r.isPer(said.from-1, said.from): // “a teaspoon of bicarb per litre”
		r.lineMade(a, said, &naming{from: said.to, to: said.to, text: "water", in: r.now})
		r.perWater = a.made
		r.good.Unsure = append(r.good.Unsure, Unsure{Line: len(r.good.lines) - 1, Code: "per-what", Text: "Per " + strings.TrimPrefix(said.Amount.String(), "1 ") + " of what? Water is taken.", Answers: []string{"Water"}})
	case n == 0 && a.made == nil && len(r.good.lines) > 0 && said.Amount.Unit() == quantity.Bare && said.to < len(r.toks) && r.toks[said.to].word == "times": // “use it four times”
		r.noteEnd(a, r.out[a.lo].from)
	case n == 0 && a.made == nil && r.ofBefore(said): // “200 ml of it and 300 ml of water”, of the good before
		before := r.goods[len(r.goods)-2]
		r.good.of = cmp.Or(before.of, before.Name) // two of the same base follow each other
		r.lineMade(a, said, &naming{from: said.to, to: said.to + 1, text: strings.ToLower(r.good.of), in: r.now})
	case n == 0 && a.made == nil && len(r.good.lines) > 1 && r.doseAlone(said): // “One level tablespoon.”
		r.now.using = true
		r.dosed(a, said, a.hi)
	case n == 0 && a.made == nil && r.ofGoodItself(said) && r.isDose(said): // “one scoop of the powder”
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
	case said.Amount.UpTo() && n == 0 && !a.yields && isVolume(said.Amount) && !isVessel(said.Amount.Unit()) && len(r.good.lines) > 0 && (r.nothingPoured() || r.toks[said.from].word == "top"): // “20 g of soapwort to half a litre”
		r.topWithout(a, said)
	case said.Amount.UpTo() && n == 0 && !a.yields && a.made != nil && a.made.Amount.Open() != quantity.NotOpen && r.poured(a.made.name): // “enough water to fill a 750 ml bottle”
		r.makeUp(said, a.made)
	case a.yields, said.Amount.UpTo() && n == 0:
		r.yields(said)
	case n > 0 && r.cookedIn(said): // “boil the nuts again in 1 litre”
	case n > 0:
		r.giveWaiting(a, said, r.forAll || r.joinedAll(said))
	case a.hi < len(r.out) && r.out[a.hi].kind == aColon && n == 0 && isWhole(said.Amount): // “I need 10 litres: …”
		r.yields(said)
	case said.Amount.Open() != quantity.NotOpen && r.last != nil && r.last.from >= r.now.from: // “… to make a paste”
		if cooledSo[r.toks[max(0, said.from-1)].word] { // “once it has cooled down a bit”
			r.becomes(said.from, said.to, AsStep, nil)
			break
		}
		if o := r.last.Amount.Open(); r.last.Amount.IsZero() || o != quantity.NotOpen && !(o == quantity.Some && strings.Contains(said.written, "til")) {
			r.last.Amount, r.last.Written = said.Amount, said.written
		} else {
			r.last.remark(said.written)
		}
		r.becomes(said.from, said.to, AsAmount, r.last)
	case said.Amount.Unit() == quantity.Bare && !r.dose.IsZero() && r.doseIn == r.now && r.isDose(said): // “one scoop a wash, two if …”
		r.becomes(said.from, said.to, AsUse, nil)
	case r.now.using && r.isDose(said):
		r.dosed(a, said, a.hi)
	case n == 0 && len(r.good.lines) > 1 && said.from > 0 && r.toks[said.from-1].word == "=" && isWhole(said.Amount), // “… = 28 oz”
		n == 0 && a.made == nil && isWhole(said.Amount) && len(r.good.lines) > 1 && r.onlyPercents() && r.nothingBefore(a, said): // “15 percent in water. 2 litres.”
		r.yields(said)
	case n == 0 && a.made == nil && r.last != nil && r.inSeason(a): // “…, in summer 30 ml”
		r.last.remark(r.asSaid(r.out[a.lo].from, r.out[a.hi-1].to))
		end := r.out[a.hi-1].to
		for i := r.out[a.lo].from; i < end; i++ {
			r.fates[r.origin[i]] = fate{AsRemark, nil, r.last}
		}
	case n == 0 && a.made == nil && r.scales(said): // “10 g of citric acid per 100 ml, I need 2 litres”
	case n == 0 && a.made == nil && len(r.good.lines) > 1 && r.wanted(said): // “…, make me five kilos”
		r.yields(said)
	case n == 0 && a.made == nil && r.last != nil && r.isBetter(said): // “I had two in it but three is better”
		r.correctAmount(r.last, said)
	case said.Amount.Unit() == quantity.Bare && n == 0 && len(r.good.lines) > 0 && said.to+1 < len(r.toks) && r.toks[said.to].word == "out" && r.toks[said.to+1].word == "of": // “get about 40 out of it”
		r.yields(said)
	case said.Amount.Unit() == quantity.Bare && n == 0 && a.made == nil && r.doseIn == r.now && !r.dose.IsZero() && said.Amount.Open() == quantity.NotOpen && r.forMore(said.to): // “one spoon a wash, two for towels”
		r.dosed(a, said, a.hi)
	case r.strengthAlone(a, said):
	case r.percentLine(said):
	case a.fills:
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
	case n == 0 && a.made == nil && r.alone != nil && r.alone.to < said.from && r.widens(said): // “about half a cup, maybe three quarters, of …”
	case len(r.good.lines) > 0 && a.made == nil && r.isDose(said) && r.usedAhead(a): // “one scoop, 20 grams, in with the whites”
		r.dosed(a, said, a.hi)
	default:
		r.askAlone()
		r.alone = said
		r.becomes(said.from, said.to, AsQuestion, nil)
	}
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
