package listener

// What an amount in a delivery is of, the surest reading first.

import (
	"strings"

	"github.com/shopspring/decimal"

	"keencrock/core/quantity"
)

// cameAmount is an amount at a mark, as its readings see it: each returns the mark that is read next, 0 where it says
// something else.
type cameAmount struct {
	*deliveryReader
	m        *mark
	said     *amountSaid
	k        int
	name     bool // what it is of follows it
	next     int
	eachNext bool // “each” or its kin follow
}

// aside reads what is of no lot, or of the one that is read already: a heading, some of it weighed behind where it came from.
func (w *cameAmount) aside() int {
	d, m, said, name, next := w.deliveryReader, w.m, w.said, w.name, w.next
	switch {
	case isPack(said.Amount.Unit()) && !name && next+1 < len(d.out) && d.out[next].kind == aColon && (d.now == nil || d.now.amount != nil && d.now.named()) && (d.out[next+1].kind == anAmount || d.out[next+1].kind == aName): // “3 boxes: soap flakes 2.5 kg, …”
		d.becomes(m.from, d.out[next].to, AsSmallTalk, nil)
		return next + 1
	case !name && inMeasures(said.Amount) && d.now != nil && d.now.named() && !d.now.closed && !d.now.Package && d.now.price == nil && d.now.amount != nil && (d.now.amount.Amount.Open() == quantity.Some || isRange(d.now.amount.Amount)): // “some rosemary from the garden, about 400 g”
		d.now.amount = said
		d.name(d.now, d.now.Name)
		d.becomes(m.from, m.to, AsAmount, d.now.line)
		return next
	case said.Amount.Unit() == quantity.Part: // “came in two parts”
		d.becomes(m.from, m.to, AsSmallTalk, nil)
		return next
	case said.Amount.Open() != quantity.NotOpen && !name, m.article && !name && !d.packagingNext(next):
		d.becomes(m.from, m.to, AsSmallTalk, nil)
		return next
	}
	return 0
}

// ofPackaging reads what is packaging, or what came in it.
func (w *cameAmount) ofPackaging() int {
	d, m, said, k, name, next := w.deliveryReader, w.m, w.said, w.k, w.name, w.next
	switch {
	case d.now != nil && d.now.named() && !d.now.Package && d.now.amount == nil && !d.now.closed && thingsOfPackaging(said.Amount.Unit()) && !name && d.sizeNext(next) > 0: // “cider vinegar 2 bottles 750 ml each”, “3 bottles, 70 cl”
		next = d.sizeNext(next)
		d.now.amount = said
		d.now.eachOf = d.amountSaid(&d.out[next])
		d.becomes(m.from, m.to, AsPacks, d.now.line)
		d.becomes(d.out[next].from, d.out[next].to, AsAmount, d.now.line)
		if next+1 < len(d.out) && d.out[next+1].is(each) {
			d.becomes(d.out[next+1].from, d.out[next+1].to, AsPacks, d.now.line)
			next++
		}
		return next + 1
	case sizedPackaging(said) && !name && d.now != nil && d.now.named() && !d.now.Package && d.now.amount == nil && d.now.price == nil && !d.now.closed: // “coconut oil, 1 l jar, 8.20”
		d.now.amount = said
		d.name(d.now, d.now.Name)
		d.becomes(m.from, m.to, AsAmount, d.now.line)
		return next
	case !name && d.now != nil && k > 0 && d.out[k-1].kind == anAmount && d.now.packedSo(d.toks[m.to-1].word, said): // “citric 5 kg 3 pack”
		d.now.factor = int(said.Amount.Terms()[0].Low.Float())
		d.becomes(m.from, m.to, AsPacks, d.now.line)
		return next
	case bought[d.toks[m.to-1].word] && said.Amount.Unit() != quantity.Bare && said.Amount.Open() == quantity.NotOpen && !name: // “12 pumps 0.35 each” are what sits on a bottle
		return d.pumps(k, said)
	case !name && d.inPacksOf(k, said) > 0: // “20 kg in two 10 kg bags”
		d.now.inPacks = d.inPacksOf(k, said)
		d.becomes(m.from, m.to, AsPacks, d.now.line)
		return next
	case sizedPackaging(said) && !name && d.filledInto(k, said): // “12 l of vinegar in 1 l bottles”
		d.now.inPacks = int(sizeOf(d.now.amount.Amount)/sizeOf(said.Amount) + 0.5)
		d.becomes(m.from, m.to, AsPacks, d.now.line)
		return next
	case d.packagingNext(next), sizedPackaging(said) && !name, d.withLids(said, next), thingsOfPackaging(said.Amount.Unit()) && !name:
		return d.packages(k, said)
	case d.now != nil && d.now.Package && isVolume(said.Amount) && !isPack(said.Amount.Unit()) && !name: // “24 jars 1 l”
		d.holds(said)
		return next
	case d.now != nil && d.now.Package && said.Amount.Kind() == quantity.Mass && !name && d.now.price == nil && !d.now.closed: // “200 paper bags, 0.5 kg”
		d.now.Name = strings.TrimSpace(d.now.Name + " " + said.Amount.String())
		d.becomes(m.from, m.to, AsMaterial, d.now.line)
		return next
	}
	return 0
}

// ofEach reads what each of several is, or how much there is of each.
func (w *cameAmount) ofEach() int {
	d, m, said, name, next, eachNext := w.deliveryReader, w.m, w.said, w.name, w.next, w.eachNext
	switch {
	case eachNext && next+1 < len(d.out) && (d.now == nil || d.now.amount != nil && d.now.named()) && d.eachNames(next+1): // “a kilo of each soda and borax”
		d.eachIs, d.now = said, nil
		d.becomes(m.from, d.out[next].to, AsAmount, nil)
		return next + 1
	case eachNext && !name && d.now != nil && d.now.named() && d.now.amount == nil && !d.now.Package && d.namesWaiting() > 1: // “soda, citric acid and borax, 1 kg of each”
		for _, l := range d.lots[len(d.lots)-d.namesWaiting():] {
			l.amount = said
		}
		d.becomes(m.from, d.out[next].to, AsAmount, d.now.line)
		return next + 1
	case eachNext && !name && d.now != nil && d.now.amount != nil && d.now.price == nil && d.now.named() && said.Amount.Unit() == quantity.Bare && inMeasures(d.now.amount.Amount) && d.now.manyPacks(): // “5 bags of 10 kg washing soda, 12 each” cost so much
		d.priced(&priceSaid{amount: decimal.NewFromFloat(said.Amount.Terms()[0].Low.Float()), currency: d.o.Currency, of: ofEach}, m.from, d.out[next].to)
		return next + 1
	case !name && d.now != nil && d.now.named() && !d.now.closed && d.now.price == nil && d.now.eachOf == nil && d.now.amount != nil && d.now.amount.Amount.Unit() == quantity.Bare && d.now.Material != nil && d.now.Material.Liquid() && isVolume(said.Amount) && !isPack(said.Amount.Unit()): // “12 vodka, 70 cl”
		d.now.eachOf = said
		d.becomes(m.from, m.to, AsPacks, d.now.line)
		return next
	case eachNext && !name && d.now != nil && d.now.amount != nil: // “three boxes of borax, 2 kg each”
		d.now.eachOf = said
		d.becomes(m.from, m.to, AsPacks, d.now.line)
		d.becomes(d.out[next].from, d.out[next].to, AsPacks, d.now.line)
		return next + 1
	}
	return 0
}

// ofPacks reads how many came, said behind what it is.
func (w *cameAmount) ofPacks() int {
	d, m, said, k, name, next := w.deliveryReader, w.m, w.said, w.k, w.name, w.next
	switch {
	case d.now != nil && d.now.Package && d.now.Packs == 0 && !name && (said.Amount.Unit() == quantity.Bare || said.Amount.Unit() == quantity.Piece): // “jars 250 ml x 48”, “labels 200 pcs”
		n, _ := said.Amount.Pieces()
		d.now.Packs = int(n.Value + 0.5)
		d.becomes(m.from, m.to, AsPacks, d.now.line)
		return next
	case k > 0 && d.out[k-1].kind == anOpening && d.now != nil && d.now.named() && d.now.amount != nil && !isPack(d.now.amount.Amount.Unit()) && !name && !m.article: // “20 l vinegar (2 x 10 l)”
		if packs, _ := packsOf(said); packs > 1 {
			d.now.inPacks = packs
		}
		d.becomes(m.from, m.to, AsPacks, d.now.line)
		return next
	case said.Amount.Unit() == quantity.Bare && d.timesBefore(k) && d.now != nil && d.now.named() && d.now.amount != nil && d.now.factor == 0, said.Amount.Unit() == quantity.Bare && d.ofThem(k) && d.now != nil && d.now.named() && d.now.amount != nil && d.now.factor == 0: // “5 kg bag x 3”, “six of them”
		n, _ := said.Amount.Pieces()
		d.now.factor = int(n.Value + 0.5)
		if p := d.now.price; p != nil && p.of == ofAll && k > 1 && d.out[k-2].kind == aFact { // “1.19 x 6”
			p.of = ofEach
		}
		d.becomes(m.from, m.to, AsPacks, d.now.line)
		return next
	case said.Amount.Unit() == quantity.Bare && d.now != nil && d.now.Package && m.to < len(d.toks) && isSize[d.toks[m.to].word]: // “40 lids 63 mm”
		d.now.Name = strings.TrimSpace(d.now.Name + " " + d.said(m.from, m.to+1))
		d.becomes(m.from, m.to+1, AsMaterial, d.now.line)
		for next < len(d.out) && d.out[next].from < m.to+1 {
			next++
		}
		return next
	case said.Amount.Unit() == quantity.Bare && !name: // “25 kg table salt 14”, or “3 x” before the rest
		if d.factorAt(k, said) {
			return next + d.skipTimes(next)
		}
		return d.bareNumber(k, said)
	}
	return 0
}

// ofSize reads a second amount of a lot: what each of its packs holds, or what it came in.
func (w *cameAmount) ofSize() int {
	d, m, said, k, name, next := w.deliveryReader, w.m, w.said, w.k, w.name, w.next
	switch {
	case d.now != nil && d.now.amount != nil && !d.now.named() && isPack(d.now.amount.Amount.Unit()) && name && !isPack(said.Amount.Unit()) && (isVolume(said.Amount) || said.Amount.Kind() == quantity.Mass): // “4 bags at 500 g borax”
		d.now.eachOf = said
		d.becomes(m.from, m.to, AsPacks, d.now.line)
		return next
	case d.now != nil && d.now.named() && !d.now.Package && d.now.amount != nil && d.now.eachOf == nil && d.now.amount.Amount.Unit() == quantity.Bar && said.Amount.Kind() == quantity.Mass && d.now.price == nil && !name && !d.now.closed: // “4 bars of soap, 150 g”
		d.now.eachOf = said
		d.becomes(m.from, m.to, AsPacks, d.now.line)
		return next
	case d.now != nil && d.now.amount != nil && !d.now.named() && !name: // two amounts for a name that is to come
		if isPack(d.now.amount.Amount.Unit()) || d.now.amount.Amount.Unit() == quantity.Bare {
			d.now.eachOf = said
			d.becomes(m.from, m.to, AsPacks, d.now.line)
			return next
		}
	case d.now != nil && d.now.named() && !d.now.Package && d.now.amount != nil && isPack(d.now.amount.Amount.Unit()) && !name: // “2 bags of borax (5 kg)”
		d.now.eachOf = said
		d.becomes(m.from, m.to, AsPacks, d.now.line)
		return next
	}
	if l := d.now; !name && l != nil && l.named() && !l.Package && l.amount != nil && l.inPacks == 0 && !l.closed && k > 0 && d.toks[m.from-1].word == "in" && said.Amount.Kind() == l.amount.Amount.Kind() && l.eachOf == nil { // “ten kilos in 2 kg bags”
		if whole, one := sizeOf(l.amount.Amount), sizeOf(said.Amount); one > 0 && whole > one {
			l.inPacks = int(whole/one + 0.5)
			d.becomes(m.from, m.to, AsPacks, l.line)
			return next
		}
	}
	if n, vessel := vesselCount(said.Amount); vessel && !name && d.now != nil && d.now.named() && d.now.amount != nil && d.now.price != nil && !d.now.Package && inMeasures(d.now.amount.Amount) && k > 0 && gets[d.toks[m.from-1].word] && d.now.factor == 0 && d.sizeNext(next) == 0 { // “bicarb 25 kg is 36 now, got one bag”
		if n > 1 && d.now.price.of == ofAll {
			d.now.factor, d.now.price.of = int(n+0.5), ofEach
		}
		d.becomes(m.from, m.to, AsPacks, d.now.line)
		return next
	}
	if n, vessel := vesselCount(said.Amount); vessel && !name && d.now != nil && d.now.named() && !d.now.Package && d.now.amount != nil && d.now.inPacks == 0 && !d.now.closed && k > 0 && (d.toks[m.from-1].word == "in" || d.toks[m.from-1].word == "," && d.now.price == nil && d.now.factor == 0 && !isPack(d.now.amount.Amount.Unit()) && !(next < len(d.out) && d.out[next].kind == anAmount)) { // “twenty kilos in four sacks”
		d.now.inPacks = int(n + 0.5)
		d.becomes(m.from, m.to, AsPacks, d.now.line)
		return next
	}
	return 0
}
