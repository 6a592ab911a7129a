package listener

// What a note says of a lot beside what came and how much: prices, days, codes, who it is from. Each reading returns the mark
// that is read next, 0 where the fact is of another sort.

import (
	"slices"
	"strings"
)

// toldFact is a fact at a mark, with the lot it is told of.
type toldFact struct {
	*deliveryReader
	m    *mark
	f    *fact
	l    *lotSaid // the one that is read; nil before the first
	to   *lotSaid // where it is kept: that one, or what is ahead of all
	line *Line    // for the fates of words
	k    int
}

// fact keeps what a note says of a lot.
func (d *deliveryReader) fact(k int) int {
	m := &d.out[k]
	w := &toldFact{deliveryReader: d, m: m, f: &d.facts[m.fact], l: d.now, to: &d.ahead, k: k}
	if w.l != nil {
		w.to, w.line = w.l, w.l.line
	}
	for _, reads := range []func() int{w.ofPrice, w.ofMoney, w.ofPapers, w.ofDay, w.ofComing} {
		if next := reads(); next > 0 {
			return next
		}
	}
	return k + 1
}

// ofPrice keeps what a lot cost.
func (w *toldFact) ofPrice() int {
	d, m, f, l, line, k := w.deliveryReader, w.m, w.f, w.l, w.line, w.k
	switch f.kind {
	case aPrice:
		p := f.price
		if (l == nil || l.named() && l.amount != nil && l.price != nil) && p.of == ofAll && p.unit == "" && d.forNext(k+1) && d.moreMoney(k+1) { // “12.40 for borax 3 kg and 5.10 for soda crystals 2 kg”
			d.becomes(m.from, m.to, AsPrice, nil)
			d.ofNext, d.now = &p, nil
			return k + 1
		}
		if p.packs > 1 && l != nil && l.named() && l.factor == 0 && l.price == nil && !l.Package {
			l.factor = p.packs
		}
		d.priced(&p, m.from, m.to)
		d.emptyPacks(k + 1)
	case paidLess:
		d.taxed = true
		if l == nil || l.price == nil {
			p := f.price
			d.priced(&p, m.from, m.to)
			break
		}
		d.becomes(m.from, m.to, AsPrice, line)
		l.price.amount, l.price.of, l.price.at, l.price.unit = f.price.amount, ofAll, false, ""
	default:
		return 0
	}
	return k + 1
}

// ofMoney keeps what else was paid, or was not: for bringing it, as a deposit, for nothing.
func (w *toldFact) ofMoney() int {
	d, m, f, l, line, k := w.deliveryReader, w.m, w.f, w.l, w.line, w.k
	switch f.kind {
	case aFreight:
		d.becomes(m.from, m.to, AsQuestion, line)
		d.freight = d.freight.Add(f.price.amount)
		d.unsure = append(d.unsure, Unsure{Line: -1, Code: "freight", Text: "Bringing it cost " + f.price.amount.StringFixed(2) + ": add it to the price of what came, where it should count."})
	case taxApart:
		d.taxed = true
		d.becomes(m.from, m.to, AsQuestion, line)
		d.unsure = append(d.unsure, Unsure{Line: max(-1, len(d.lots)-1), Code: "tax", Text: "The tax comes on top: say the price that was paid, if it counts as a cost."})
	case aDiscount:
		d.taxed = true
		d.becomes(m.from, m.to, AsQuestion, line)
		d.unsure = append(d.unsure, Unsure{Line: max(-1, len(d.lots)-1), Code: "discount", Text: sentenceCase(f.text) + ": say the price that was paid."})
	case aDeposit:
		d.becomes(m.from, m.to, AsQuestion, line)
		d.unsure = append(d.unsure, Unsure{Line: -1, Code: Deposit, Text: "A deposit of " + f.price.amount.StringFixed(2) + " comes back: it is left out of the price."})
	case aGift:
		gift := &priceSaid{currency: d.o.Currency}
		if l != nil && l.named() && d.giftComes(k) {
			d.becomes(m.from, m.to, AsPrice, nil)
			d.ofNext, d.now = gift, nil
			break
		}
		d.becomes(m.from, m.to, AsPrice, line)
		if l != nil {
			l.price = gift
		} else {
			d.ahead.price = gift
		}
	case swapFor:
		d.becomes(m.from, m.to, AsSmallTalk, line)
	case someFree:
		d.becomes(m.from, m.to, AsQuestion, line)
		d.unsure = append(d.unsure, Unsure{Line: max(-1, len(d.lots)-1), Code: "some-free", Text: "“" + f.text + "”: say how many came in all, and what was paid for them together."})
	case noPrice:
		d.becomes(m.from, m.to, AsPrice, line)
		if l != nil {
			l.unpriced = true
		}
	default:
		return 0
	}
	return k + 1
}

// giftComes reports whether the gift that is said at a mark is what comes next: “…, and a free sample of soapwort”.
func (d *deliveryReader) giftComes(k int) bool {
	before := k - 1
	for before > 0 && d.out[before].to == d.out[before].from+1 && articles[d.toks[d.out[before].from].word] {
		before--
	}
	if m := &d.out[max(0, before)]; k == 0 || m.kind != aComma && m.kind != aDash && m.kind != aStop && !m.is(joiner) {
		return false
	}
	for at := k + 1; at < len(d.out); at++ {
		switch m := &d.out[at]; {
		case m.kind == aName:
			return true
		case m.kind == anAmount && at == k+1, m.is(joiner) && at == k+1, m.kind == aWord && d.toks[m.from].kind == isWord, m.is(small | thing | pieces | place):
		default:
			return false
		}
	}
	return false
}

// ofPapers keeps what stands on the papers of a lot: its code, who it is from.
func (w *toldFact) ofPapers() int {
	d, m, f, l, to, line, k := w.deliveryReader, w.m, w.f, w.l, w.to, w.line, w.k
	switch f.kind {
	case sameSaid: // “…, same date”
		d.becomes(m.from, m.to, AsDate, line)
		if n := len(d.lots); l != nil && n > 1 && d.lots[n-1] == l {
			before := d.lots[n-2]
			switch f.text {
			case "price":
				if before.price != nil && l.price == nil {
					same := *before.price
					l.price = &same
				}
			case "lot", "batch", "code":
				l.LotCode = before.LotCode
			case "supplier", "shop", "place":
				l.Supplier = before.Supplier
			default:
				l.BestBefore = before.BestBefore
			}
		}
	case aLotCode:
		d.becomes(m.from, m.to, AsLotCode, line)
		if codes := strings.Split(f.text, ", "); f.several && len(codes) > 1 && len(codes) == d.namedLots() { // “Lot numbers SC44, PC12, CA9.”, one each
			i := 0
			for _, l := range d.lots {
				if l.named() {
					l.LotCode = codes[i]
					i++
				}
			}
			break
		}
		to.LotCode = f.text
		if f.several && l != nil {
			d.unsure = append(d.unsure, Unsure{Line: len(d.lots) - 1, Code: "several-lots", Text: "These are several lots: " + f.text + ". Note each by itself, so that each can be traced."})
		}
		if d.saidOfAll(k) { // “both lot 0426”
			for _, l := range d.lots {
				l.LotCode = f.text
			}
		}
	case aSupplier:
		d.becomes(m.from, m.to, AsSupplier, line)
		to.Supplier = f.text
		d.ofAll = d.ofAll || d.saidOfAll(k)       // “both from Quayside, Thursday”
		d.alone = k > 0 && d.nextFact(k-1, aGift) // “2 kg peel free from the juice stall” is of that alone
		if d.allFrom(k) {
			d.ahead.Supplier = f.text
		}
		if f.price.amount.IsPositive() && d.now == nil { // “paid the beekeeper 24 for …”
			price := f.price
			d.ahead.price = &price
		}
	default:
		return 0
	}
	return k + 1
}

// ofComing keeps what did not come, or went back; a heading is of no lot.
func (w *toldFact) ofComing() int {
	d, m, f, l, k := w.deliveryReader, w.m, w.f, w.l, w.k
	switch f.kind {
	case wentBack:
		return d.sentBack(k)
	case notHere: // “zeolite - out of stock”
		d.becomes(m.from, m.to, AsQuestion, nil)
		if l != nil && l.named() && !l.closed {
			d.strike(l.line, func(Became) bool { return true })
			d.unsure = append(d.unsure, Unsure{Line: -1, Code: "did-not-come", Text: sentenceCase(l.Name) + " did not come: it is left out."})
			d.lots = slices.DeleteFunc(d.lots, func(o *lotSaid) bool { return o == l })
			d.now = nil
		}
	case aHeading:
		d.becomes(m.from, m.to, AsLeftOut, nil)
	default:
		return 0
	}
	return k + 1
}

// ofDay keeps until when a lot is best, or the day it came.
func (w *toldFact) ofDay() int {
	d, f := w.deliveryReader, w.f
	if f.kind != aDate && f.kind != received {
		return 0
	}
	of := []*lotSaid{w.to}
	if all := d.saidOfAll(w.k); all || d.ofAll && f.kind == received { // “both exp 06/2027”
		of = append(of, d.lots...)
	}
	d.becomes(w.m.from, w.m.to, AsDate, w.line)
	switch {
	case f.err != "":
		d.unsure = append(d.unsure, Unsure{Line: max(-1, len(d.lots)-1), Code: "bad-date", Text: f.err})
	case f.kind == aDate:
		for _, l := range of {
			l.BestBefore = f.date
		}
	default:
		for _, l := range of {
			l.Received = f.date
		}
	}
	return w.k + 1
}
