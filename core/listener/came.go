package listener

// How much came.

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"github.com/shopspring/decimal"

	"keencrock/core/quantity"
)

// walkAmount reads how much came.
func (d *deliveryReader) walkAmount(k int) int {
	m := &d.out[k]
	said := d.amountSaid(m)
	name := d.nameFollows(k)
	if said.Amount.Unit() == quantity.Percent && (name || d.now != nil && d.now.named()) {
		return d.strength(k)
	}
	if m.to == m.from+1 && quantity.IsFill(d.toks[m.from].word) { // “50 cotton bags, small”
		if l := d.now; l != nil && l.Package && l.price == nil && !l.closed {
			l.Name = strings.TrimSpace(l.Name + " " + d.toks[m.from].word)
			d.becomes(m.from, m.to, AsMaterial, l.line)
		} else {
			d.becomes(m.from, m.to, AsSmallTalk, nil)
		}
		return k + 1
	}
	next := k + 1
	if next+1 < len(d.out) && d.toks[d.out[next].from].word == "in" && d.out[next+1].is(each) && d.now != nil && d.now.amount != nil { // “a kilo in each”
		d.becomesWhereUnread(d.out[next].from, d.out[next].to, AsPacks, d.now.line)
		next++
	}
	eachNext := next < len(d.out) && d.out[next].is(each)
	if after := d.wholeSaid(k, said); after > 0 {
		return after
	}
	if packs := d.packsInBrackets(k, said); packs > 0 { // “3 l of vinegar (1 litre bottles)”
		d.now.inPacks = packs
		d.becomes(m.from, d.out[d.closing(k-1, len(d.out))].from, AsPacks, d.now.line)
		return d.closing(k-1, len(d.out))
	}
	w := &cameAmount{d, m, said, k, name, next, eachNext}
	for _, read := range [...]func() int{w.aside, w.ofPackaging, w.ofEach, w.ofPacks, w.ofSize} {
		if after := read(); after > 0 {
			return after
		}
	}
	if d.pounds(k, said, name) {
		return next
	}
	if thing := thingOf(said.Amount.Unit()); thing != "" && !name { // “12 lemons”
		l := d.lot(func(l *lotSaid) bool { return l.amount != nil || l.named() })
		l.amount = said
		d.name(l, thing)
		d.becomes(m.from, m.to, AsMaterial, l.line)
		return next
	}
	if l := d.wrong; l != nil {
		d.wrong = nil
		if !name {
			d.strike(l.line, func(b Became) bool { return b == AsAmount })
			l.amount = said
			d.becomes(m.from, m.to, AsAmount, l.line)
			return next
		}
		d.strike(l.line, func(Became) bool { return true })
		d.now = nil
		d.lots = slices.DeleteFunc(d.lots, func(other *lotSaid) bool { return other == l })
	}
	l := d.lot(func(l *lotSaid) bool { return l.amount != nil || l.Package })
	l.amount, l.joined = said, d.joined
	l.again = l.again || m.from > 0 && (d.toks[m.from-1].word == "again" || d.toks[m.from-1].word == "another")
	if l.named() && !l.Package { // what it is may hang on how much
		d.name(l, l.Name)
	}
	d.joined = false
	if l.line.from == 0 {
		l.line.from = m.from
	}
	d.becomes(m.from, m.to, AsAmount, l.line)
	return next
}

// manyPacks reports whether what came is in several packs whose size was said.
func (l *lotSaid) manyPacks() bool {
	packs, _ := packsOf(l.amount)
	return packs > 1 || l.factor > 1
}

// filledInto reports whether a size behind “in” is of the bottles that what came is in.
func (d *deliveryReader) filledInto(k int, said *amountSaid) bool {
	l := d.now
	if l == nil || !l.named() || l.Package || l.amount == nil || l.closed || l.inPacks > 0 || l.price != nil || k == 0 || d.toks[d.out[k].from-1].word != "in" {
		return false
	}
	one := sizeOf(said.Amount)
	return isVolume(l.amount.Amount) && !isPack(l.amount.Amount.Unit()) && one > 0 && sizeOf(l.amount.Amount) >= 2*one
}

// sizeNext is the mark of what one holds, right after so many bottles or after a comma; 0
// without one.
func (d *deliveryReader) sizeNext(k int) int {
	if k+1 < len(d.out) && (d.out[k].kind == aComma || d.skipTimes(k) > 0) { // “12 bottles x 1 litre”
		k++
	}
	if k >= len(d.out) || d.out[k].kind != anAmount || d.nameFollows(k) {
		return 0
	}
	of := d.out[k].amount.Amount
	if isPack(of.Unit()) || !isVolume(of) && of.Kind() != quantity.Mass {
		return 0
	}
	return k
}

// packsInBrackets is how many packs of the size in brackets what came is in; 0 where something
// else stands there.
func (d *deliveryReader) packsInBrackets(k int, said *amountSaid) int {
	l := d.now
	if k == 0 || d.out[k-1].kind != anOpening || l == nil || !l.named() || l.Package || l.amount == nil || l.eachOf != nil || l.factor > 0 || l.inPacks > 0 || isPack(l.amount.Amount.Unit()) || said.Amount.Kind() != l.amount.Amount.Kind() {
		return 0
	}
	word := ""
	for i := said.from; i < d.out[d.closing(k-1, len(d.out))].from; i++ {
		word = d.toks[i].word
	}
	if u, ok := quantity.UnitNamed(word); !ok || !isPack(u) || singular(word) == word {
		return 0
	}
	whole, one := sizeOf(l.amount.Amount), sizeOf(said.Amount)
	if one <= 0 || whole < one {
		return 0
	}
	return int(whole/one + 0.5)
}

// sizeOf is a weight in grams, or a volume in millilitres.
func sizeOf(a quantity.Amount) float64 {
	if g, ok := a.MassOnly(); ok {
		return g.Value
	}
	return millilitres(a)
}

// amountFollows reports whether an amount with a unit comes next, a comma or a stop before
// it.
func (d *deliveryReader) amountFollows(k int) bool {
	for k < len(d.out) && (d.out[k].kind == aComma || d.out[k].kind == aDash || d.out[k].is(correct|correctWell)) {
		k++
	}
	return k < len(d.out) && d.out[k].kind == anAmount && d.out[k].amount.Amount.Unit() != quantity.Bare
}

// isSize are what jars and lids are measured across in.
var isSize = wordSet("isSize")

// timesBefore reports whether “x” or “times” stands right before a mark.
func (d *deliveryReader) timesBefore(k int) bool {
	if k == 0 {
		return false
	}
	return timesWords[d.toks[d.out[k-1].to-1].word]
}

// ofThem reports whether a number is of what was said before: “six of them”.
func (d *deliveryReader) ofThem(k int) bool {
	at := d.out[k].to
	if at < len(d.toks) && d.toks[at].word == "of" {
		at++
	}
	return at < len(d.toks) && d.toks[at-1].word == "of" && (d.toks[at].word == "them" || d.toks[at].word == "those" || d.toks[at].word == "these")
}

// amountAfterName reports whether an amount comes before the next stop, price or comma.
func (d *deliveryReader) amountAfterName(k int) bool {
	for ; k < len(d.out); k++ {
		switch m := &d.out[k]; m.kind {
		case anAmount:
			return m.amount.Amount.Unit() != quantity.Bare
		case aStop, aFact, aComma:
			return false
		}
	}
	return false
}

// factorAt reads the “3” of “3 x 1 kg”, or of “three times 500 g”.
func (d *deliveryReader) factorAt(k int, said *amountSaid) bool {
	m := &d.out[k]
	if next := k + 1; next < len(d.out) && d.out[next].kind == anAmount && d.out[next].from == m.to && m.to+2 < len(d.toks) && d.toks[m.to+1].word == "-" && d.toks[m.to+1].tight && d.nameFollows(next) { // “six one-litre bottles of glycerine”
		n, _ := said.Amount.Pieces()
		l := d.lot(func(l *lotSaid) bool { return l.named() && l.amount != nil || l.factor > 0 })
		l.factor = int(n.Value + 0.5)
		d.becomes(m.from, m.to, AsPacks, l.line)
		return true
	}
	if next := k + 1; next < len(d.out) && d.out[next].kind == anAmount && d.out[next].from == m.to && d.toks[m.from].kind == isWord && inMeasures(d.out[next].amount.Amount) && d.nameFollows(next) { // “two 500 g of borax”
		if n, whole := said.Amount.Pieces(); whole && n.Value > 1 && said.Amount.Unit() == quantity.Bare && said.Amount.Open() == quantity.NotOpen {
			l := d.lot(func(l *lotSaid) bool { return l.named() && l.amount != nil || l.factor > 0 })
			l.factor = int(n.Value + 0.5)
			d.becomes(m.from, m.to, AsPacks, l.line)
			return true
		}
	}
	if d.skipTimes(k+1) == 0 {
		return false
	}
	n, _ := said.Amount.Pieces()
	l := d.lot(func(l *lotSaid) bool { return l.named() && l.amount != nil || l.factor > 0 })
	l.factor = int(n.Value + 0.5)
	d.becomes(d.out[k].from, d.out[k+1].to, AsPacks, l.line)
	return true
}

// skipTimes is how many marks “x” or “times” takes before an amount; 0 without it.
func (d *deliveryReader) skipTimes(k int) int {
	if k+1 < len(d.out) && d.out[k].kind == aWord && (d.out[k+1].kind == anAmount || d.out[k+1].kind == aName) { // “2 x 10 ml lavender oil”, “2x lavender oil 10 ml”
		if timesWords[d.toks[d.out[k].from].word] {
			return 1
		}
	}
	return 0
}

// bareNumber reads a number by itself: a price after what came, or a count of pieces
// before it.
func (d *deliveryReader) bareNumber(k int, said *amountSaid) int {
	m := &d.out[k]
	l := d.now
	n, _ := said.Amount.Pieces()
	switch {
	case l != nil && l.named() && l.amount != nil && l.price == nil && k > 0 && d.toks[m.from-1].word == "only" && m.to < len(d.toks) && cameWords[d.toks[m.to].word]: // “ordered 10 kg but only 8 came”
		if with, ok := said.Amount.InUnitOf(l.amount.Amount); ok {
			d.strike(l.line, func(b Became) bool { return b == AsAmount })
			l.amount = &amountSaid{Reading: quantity.Reading{Amount: with}, written: with.String(), from: m.from, to: m.to}
			d.becomes(m.from, m.to, AsAmount, l.line)
		}
	case l != nil && l.named() && l.amount != nil && l.price == nil && k > 0 && (gets[d.toks[m.from-1].word] || d.toks[m.from-1].word == "came") && d.orderedBefore(m.from): // “ordered 10 kg, got 8”
		if with, ok := said.Amount.InUnitOf(l.amount.Amount); ok {
			d.strike(l.line, func(b Became) bool { return b == AsAmount })
			l.amount = &amountSaid{Reading: quantity.Reading{Amount: with}, written: with.String(), from: m.from, to: m.to}
			d.becomes(m.from, m.to, AsAmount, l.line)
		}
	case l != nil && l.amount != nil && k > 0 && d.toks[m.from-1].word == "for" && m.from > 1 && chargedFor[d.toks[m.from-2].word]: // “charged for 8 at 3.60 a kilo”
		d.becomes(m.from, m.to, AsSmallTalk, l.line)
	case d.countsPacks(k, said): // “5 paper bags of borax”
		d.becomes(m.from, m.to, AsPacks, nil)
	case l != nil && l.named() && l.amount == nil && l.Material != nil && l.Material.Piece.Known():
		l.amount = said
		d.becomes(m.from, m.to, AsAmount, l.line)
	case l != nil && l.price != nil && l.price == d.last && d.bareAt == m.from && n.Value >= 10 && n.Value < 100: // “four twenty”
		l.price.amount = l.price.amount.Add(decimal.NewFromFloat(n.Value).Div(decimal.NewFromInt(100)))
		d.becomes(m.from, m.to, AsPrice, l.line)
	case l != nil && l.named() && l.amount != nil && l.price != nil && d.bareFor(k): // “48 euros for 20 kg of soda and 12 for the bag of salt”
		d.becomes(m.from, m.to, AsPrice, nil)
		d.ofNext, d.now = &priceSaid{amount: decimal.NewFromFloat(n.Value).Round(2), currency: d.o.Currency, unsaid: true}, nil
	case k+1 < len(d.out) && d.countsWord(k+1), n.Value < 1 && d.toks[m.from].kind == isWord: // “two different lots”, “my half” is no price
		d.becomes(m.from, m.to, AsLeftOut, nil)
	case l != nil && l.named() && l.price == nil && said.Amount.Open() == quantity.NotOpen && !m.article:
		d.priced(&priceSaid{amount: decimal.NewFromFloat(n.Value).Round(2), currency: d.o.Currency, unsaid: true}, m.from, m.to)
		d.bareAt = m.to
	case l != nil && l.named() && l.amount != nil && l.factor == 0 && l.price != nil && l.price.of == ofAll && k > 0 && gets[d.toks[m.from-1].word] && n.Value >= 2: // “1.25 for a kilo bag, got eight”
		l.factor, l.price.of = int(n.Value+0.5), ofEach
		d.becomes(m.from, m.to, AsPacks, l.line)
	default:
		d.becomes(m.from, m.to, Unread, nil)
	}
	return k + 1
}

// chargedFor stand before how much of what came was paid.
var chargedFor = wordSet("chargedFor")

// orderedBefore reports whether “ordered” stands before a token in its sentence.
func (d *deliveryReader) orderedBefore(tok int) bool {
	for i := tok - 1; i >= 0 && d.toks[i].kind != isBreak && d.toks[i].word != "."; i-- {
		if d.toks[i].word == "ordered" {
			return true
		}
	}
	return false
}

// cameWords end what really came.
var cameWords = wordSet("cameWords")

// namesWaiting is how many lots at the end have a name and no amount.
func (d *deliveryReader) namesWaiting() (n int) {
	for _, l := range slices.Backward(d.lots) {
		if !l.named() || l.amount != nil || l.price != nil || l.Package || l.closed {
			break
		}
		n++
	}
	return n
}

// inPacksOf is how many packs what came is in, said behind it with their size: they come to as much. 0 where
// it says anything else.
func (d *deliveryReader) inPacksOf(k int, said *amountSaid) int {
	l := d.now
	if l == nil || !l.named() || l.Package || l.amount == nil || l.inPacks > 0 || l.closed || k == 0 || d.toks[d.out[k].from-1].word != "in" {
		return 0
	}
	packs, _ := packsOf(said)
	if whole := sizeOf(l.amount.Amount); packs < 2 || math.Abs(sizeOf(said.Amount)-whole) > whole/100 {
		return 0
	}
	return packs
}

// countsPacks gives a number to the packs that follow it behind a word for what they are made of.
func (d *deliveryReader) countsPacks(k int, said *amountSaid) bool {
	next := k + 1
	if one := next; one < len(d.out) && d.out[one].kind == anAmount && d.out[one].from == d.out[k].to && said.Amount.Unit() == quantity.Bare { // “two one-kilo tubs”
		each := d.amountSaid(&d.out[one])
		n, ok := said.Amount.Pieces()
		if many := int64(n.Value + 0.5); ok && many > 1 && each.Amount.Open() == quantity.NotOpen && (each.Amount.Kind() == quantity.Mass || isVolume(each.Amount)) && !isPack(each.Amount.Unit()) && packWordIn(strings.ReplaceAll(each.written, "-", " ")) != "" {
			if all, fits := each.Amount.Times(many, 1); fits {
				d.out[one].amount.Amount, d.out[one].written = all, fmt.Sprintf("%d x %s %s", many, each.Amount, packWordIn(strings.ReplaceAll(each.written, "-", " ")))
				return true
			}
		}
	}
	for next < len(d.out) && madeOf[d.toks[d.out[next].from].word] {
		next++
	}
	if next == k+1 || next >= len(d.out) || d.out[next].kind != anAmount || !isPack(d.out[next].amount.Amount.Unit()) || d.amountSaid(&d.out[next]).Amount.Open() != quantity.NotOpen {
		return false
	}
	with, ok := said.Amount.InUnitOf(d.out[next].amount.Amount)
	if ok {
		d.out[next].amount.Amount, d.out[next].written = with, with.String()
	}
	return ok
}

// countsWord reports whether a word that may be counted stands at a mark: no cue, and no
// name of somebody.
func (d *deliveryReader) countsWord(k int) bool {
	m := &d.out[k]
	word := d.toks[m.from].word
	if word == "lots" || word == "batches" {
		return true
	}
	said := d.asSaid(m.from, m.to)
	return m.kind == aWord && d.toks[m.from].kind == isWord && !d.isCue(m.from) && said == strings.ToLower(said)
}

// pounds takes “two pounds fifty” for money where the goods have their weight.
func (d *deliveryReader) pounds(k int, said *amountSaid, name bool) bool {
	m := &d.out[k]
	if name || said.Amount.Unit() != quantity.Pound || d.now == nil || !d.now.named() || d.now.amount == nil || d.now.price != nil {
		return false
	}
	n, _ := said.Amount.MassOnly()
	perPound, _ := quantity.Of(1, 1, quantity.Pound).MassOnly()
	d.priced(&priceSaid{amount: decimal.NewFromFloat(n.Value / perPound.Value).Round(2), currency: "GBP"}, m.from, m.to)
	return true
}

// timesWords stand between how many and how much.
var timesWords = wordSet("timesWords")
