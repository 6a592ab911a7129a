package listener

// The readings of an amount, in their order.

import (
	"strings"

	"keencrock/core/quantity"
)

// ofPart takes an amount for a part of what is there, or for what it is in: “half the borax”, “in a spray bottle”.
func (w *walkedAmount) ofPart() int {
	r, a, m, said, k := w.r, w.a, w.m, w.said, w.k
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
	return 0
}

// ofWhole takes an amount for all of the good: “we do 5 kg batches”, “to make 5 litres of rinse aid”.
func (w *walkedAmount) ofWhole() int {
	r, a, m, said, k := w.r, w.a, w.m, w.said, w.k
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
	return 0
}

// perSomething takes an amount that is said per so much, or under a condition: “for every cup of bicarb”, “if the water's hard”.
func (w *walkedAmount) perSomething() int {
	r, a, m, said, k := w.r, w.a, w.m, w.said, w.k
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
	return 0
}

// ofUse takes an amount for what is used, or for what something is stood in: “2 spoons of this powder”, “dose 80 ml front”.
func (w *walkedAmount) ofUse() int {
	r, a, m, said, k := w.r, w.a, w.m, w.said, w.k
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
	return 0
}

// withOthers settles what an amount has to do with those before it: a strength, a total, one that no name took.
func (w *walkedAmount) withOthers() int {
	r, a, m, said, k := w.r, w.a, w.m, w.said, w.k
	switch {
	case said.Amount.Unit() == quantity.Percent && a.made != nil && len(a.names) == 0 && !r.nameNext(a, k): // “2 cups of vinegar 5 %”
		r.rename(a.made, a.made.name+" "+said.Amount.String())
		r.becomes(m.from, m.to, AsMaterial, a.made)
		return k + 1
	case a.made != nil && len(a.names) == 0 && a.amount == nil && (said.Amount.Open() == quantity.ToCover || said.Amount.Open() == quantity.ToFill) && !r.nameNext(a, k) && r.last == a.made && r.percentLine(said): // “6 % vinegar to cover”
		return k + 1
	case said.total && a.amount != nil && len(a.names) == 0 && len(r.waiting) == 2 && !r.nameNext(a, k) && !r.now.doing && a.amount.Amount.Open() == quantity.NotOpen: // “citric and water, 3 tablespoons to half a litre”
		first, second := r.waiting[0], r.waiting[1]
		r.waiting = nil
		said.Amount, said.total = said.Amount.Plain(), false
		said.written = said.Amount.String()
		r.lineMade(a, a.amount, first)
		r.lineMade(a, said, second)
		a.amount = nil
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
	return 0
}

// anyScent are how a scent is left open.
var anyScent = wordSet("anyScent")

// ofName gives an amount to the name it is of: a thing that is counted, what was named before it, or what comes.
func (w *walkedAmount) ofName() int {
	r, a, m, said, k := w.r, w.a, w.m, w.said, w.k
	if said.Amount.Unit() == quantity.Drop && !r.nameNext(a, k) && said.to < len(r.toks) && anyScent[r.toks[said.to].word] && r.out[a.hi-1].to > said.to && !r.hasAny(k+1, a.hi, per) && !r.hasAmount(k+1, a.hi) { // “30 drops of whatever you fancy”
		r.lineMade(a, said, &naming{from: said.to, to: said.to + 1, text: "essential oil", in: r.now})
		r.becomesWhereUnread(said.to+1, r.out[a.hi-1].to, AsRemark, a.made)
		a.made.Note = r.said(said.to, r.out[a.hi-1].to)
		return a.hi
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
	return 0
}
