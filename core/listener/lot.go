package listener

// What a lot comes to, once all was read that was said of it.

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"keencrock/core/material"
	"keencrock/core/quantity"
)

// finish works out each lot from what was said of it.
func (d *deliveryReader) finish() {
	n := 0
	for i, l := range d.lots {
		if l.amount != nil && !l.named() && isPack(l.amount.Amount.Unit()) && i+1 < len(d.lots) && !l.closed { // “a carton with 12 bottles of …”
			d.becomes(l.amount.from, l.amount.to, AsPacks, d.lots[i+1].line)
			continue
		}
		if l.amount != nil || l.named() || l.Package {
			d.lots[n] = l
			n++
		}
	}
	d.lots = d.lots[:n]
	d.saidOfEarlier()
	d.sentInstead()
	d.inTheirOrder()
	d.oneSupplier()
	d.good.lines = d.good.lines[:0]
	d.askShared()
	for i, l := range d.lots {
		d.good.lines = append(d.good.lines, l.line)
		d.settleAhead(l)
		d.workOut(i, l)
		d.checkTold(i, l)
	}
	wentBack := slices.ContainsFunc(d.unsure, func(u Unsure) bool { return u.Code == "went-back" || u.Code == "did-not-come" })
	if len(d.lots) == 0 && !wentBack && strings.TrimSpace(d.clean) != "" {
		d.unsure = append(d.unsure, Unsure{Line: -1, Code: "what-came", Text: "What came, and how much of it? Say it as “5 kg washing soda 11.40 from Quayside”."})
	}
	d.together()
	d.checkSum()
}

// saidOfEarlier gives what is said of a lot once more, by its name alone, to that lot: “…; the citric is lot CA-12”,
// “batch on the vinegar is V77”. Where two lots have the name it stays apart, and how much of it came is asked.
func (d *deliveryReader) saidOfEarlier() {
	for i := len(d.lots) - 1; i > 0; i-- {
		l := d.lots[i]
		if l.amount != nil || l.eachOf != nil || l.Package || l.Material == nil || l.LotCode == "" && l.BestBefore.IsZero() && l.price == nil {
			continue
		}
		var of *lotSaid
		several := false
		for _, earlier := range d.lots[:i] {
			if earlier.Material == l.Material && earlier.amount != nil {
				several, of = of != nil, earlier
			}
		}
		if of == nil || several || l.LotCode != "" && of.LotCode != "" || l.price != nil && of.price != nil || !l.BestBefore.IsZero() && !of.BestBefore.IsZero() {
			continue
		}
		if l.LotCode != "" {
			of.LotCode = l.LotCode
		}
		if !l.BestBefore.IsZero() {
			of.BestBefore = l.BestBefore
		}
		if l.price != nil {
			of.price = l.price
		}
		for at := range d.fates {
			if d.fates[at].line == l.line {
				d.fates[at].line = of.line
			}
		}
		d.lots = slices.Delete(d.lots, i, i+1)
	}
}

// sentInstead strikes what was ordered where something else came: “ordered 5 kg soda ash but they sent …”.
func (d *deliveryReader) sentInstead() {
	for i := len(d.lots) - 1; i > 0; i-- {
		before, l := d.lots[i-1], d.lots[i]
		at := l.line.from
		if before.price != nil || !before.named() || !l.named() && l.amount == nil || at == 0 || !d.orderedBefore(before.line.from+1) {
			continue
		}
		for tok := at - 1; tok > before.line.from; tok-- {
			if sentFor[d.toks[tok].word] {
				if !l.named() { // “ordered 10 kg of percarbonate but they sent 2 x 5 kg”
					l.Material, l.Err, l.Name, l.joined = before.Material, before.Err, before.Name, false
				}
				d.strike(before.line, func(Became) bool { return true })
				d.lots = slices.Delete(d.lots, i-1, i)
				break
			}
		}
	}
}

// sentFor says that something else came than what was ordered.
var sentFor = wordSet("sentFor")

// askShared asks about one price at the end of lots that “and” joins: it may be of the
// last, or of all of them.
func (d *deliveryReader) askShared() {
	n := len(d.lots)
	if n < 2 || !d.lots[n-1].joined || d.lots[n-1].price == nil || d.lots[n-1].price.of != ofAll || d.lots[n-1].price.unit != "" {
		return
	}
	for _, l := range d.lots[:n-1] {
		if l.price != nil || l.unpriced {
			return
		}
	}
	d.unsure = append(d.unsure, Unsure{Line: n - 1, Code: "price-of-which", Text: d.lots[n-1].price.amount.StringFixed(2) + ": for " + d.lots[n-1].Name + " alone, or for all? Say what each cost, or “no price”."})
}

// oneSupplier is for a note in one sentence that names one supplier, or one day: it is of
// all that came.
func (d *deliveryReader) oneSupplier() {
	var from *lotSaid
	for _, l := range d.lots {
		switch {
		case l.Supplier == "":
		case from != nil && from.Supplier != l.Supplier, l.closed && l != d.lots[len(d.lots)-1]:
			return
		default:
			from = l
		}
	}
	for i, l := range d.lots {
		if l.closed && i < len(d.lots)-1 {
			return
		}
	}
	if from != nil && d.ahead.Supplier == "" && !d.alone {
		d.ahead.Supplier = from.Supplier
	}
	if n := len(d.lots); n > 0 && d.ahead.Received.IsZero() {
		d.ahead.Received = d.lots[n-1].Received
	}
}

// settleAhead gives a lot what was said before all of them.
func (d *deliveryReader) settleAhead(l *lotSaid) {
	if l.Supplier == "" {
		l.Supplier = d.ahead.Supplier
	}
	if l.Received.IsZero() {
		l.Received = d.ahead.Received
	}
	if l.BestBefore.IsZero() {
		l.BestBefore = d.ahead.BestBefore
	}
	if l.LotCode == "" {
		l.LotCode = d.ahead.LotCode
	}
}

// workOut turns what was said of a lot into grams and money.
func (d *deliveryReader) workOut(i int, l *lotSaid) {
	ask := func(code, format string, args ...any) {
		d.unsure = append(d.unsure, Unsure{Line: i, Code: code, Text: fmt.Sprintf(format, args...), Answers: nearest(l.Err)})
	}
	l.Currency = d.o.Currency
	if l.Package {
		d.priceOut(l, float64(cmp.Or(l.boxes, l.Packs)))
		return
	}
	if !l.named() && i > 0 && d.lots[i-1].Material != nil && (l.again || l.joined && l.price != nil && l.amount != nil && l.amount.Amount.Kind() == quantity.Mass && d.lots[i-1].amount != nil && d.lots[i-1].amount.Amount.Kind() == quantity.Mass) { // “borax half a kilo 3.45; again half a kilo 3.25”
		d.name(l, d.lots[i-1].Name)
		if was := d.lots[i-1].price; was != nil && was.of == ofUnit && l.price != nil && l.price.at && l.price.of == ofAll { // “a kilo at 5.60 a kilo, and 2 kilos at 5.20”
			l.price.of, l.price.per = ofUnit, was.per
		}
	}
	switch {
	case !l.named():
		ask("what-came", "%s of what?", strings.TrimSpace(l.amount.written))
		return
	case l.Err != nil:
		ask("unknown-material", "%s", capital(l.Err.Error())+stopFor(l.Err.Error()))
	case l.amount == nil:
		ask("how-much", "How much %s came? A weight, such as 5 kg.", material.InSentence(l.Material.Name))
	}
	d.massOut(l, ask)
	d.priceOut(l, l.eachCount())
}

// eachCount is what a price of one is taken so many times.
func (l *lotSaid) eachCount() float64 {
	if l.Packs > 1 {
		return float64(l.Packs)
	}
	if n, ok := l.pieces.Pieces(); ok && n.Value > 1 {
		return n.Value
	}
	if terms := l.pieces.Terms(); len(terms) == 1 && terms[0].Unit.Kind() == quantity.Count && terms[0].Low == terms[0].High && terms[0].Low.Float() > 1 { // “2 bunches of lavender at 2 each”
		return terms[0].Low.Float()
	}
	return 1
}

// massOut works out how much came.
func (d *deliveryReader) massOut(l *lotSaid, ask func(code, format string, args ...any)) {
	l.Packs = 1
	if l.amount == nil {
		return
	}
	of := l.amount.Amount
	l.pieces = of
	packs, one := packsOf(l.amount)
	factor := 1.0
	switch {
	case l.whole:
		of = l.eachOf.Amount
		packs, one = l.packsOfWhole()
	case l.eachOf != nil:
		n, ok := of.Pieces()
		if !ok || n.Value < 1 {
			n.Value = float64(packs)
			if v, vessel := vesselCount(of); vessel {
				n.Value = v
			}
		}
		packs, of, one, factor = int(n.Value+0.5), l.eachOf.Amount, l.eachOf.Amount.String(), n.Value
		if inner, each := packsOf(l.eachOf); inner > 1 { // “2 cartons, 6 x 1 l each”
			l.inCarton, packs, one = inner, packs*inner, each
		}
	case l.factor > 0:
		packs, factor, one = l.factor, float64(l.factor), of.String()
	}
	if l.inPacks > 1 && packs == 1 {
		packs = l.inPacks
	}
	l.Packs = max(1, packs)
	l.Written = one
	if l.factor == 0 && l.amount.Amount.Unit() == quantity.Bare && l.eachOf == nil && l.Material != nil && !l.Material.Piece.Known() {
		ask("how-much", "%s %s: of what size?", l.amount.written, material.InSentence(l.Material.Name))
		return
	}
	if l.Packs > maxPacks {
		ask("too-many", "%d packs are more than a small workshop takes in.", l.Packs)
		return
	}
	if l.Material == nil {
		if g, ok := of.MassOnly(); ok {
			l.MassG = g.Value * factor
			l.withinReason(ask)
		}
		return
	}
	h := l.Material.Handling(d.o.Measures)
	grams, err := of.Grams(h)
	if err != nil {
		if isPack(of.Unit()) {
			ask("how-much", "How much is in the %s?", packWord(l.amount.written, of.Unit()))
			return
		}
		if of.Open() != quantity.NotOpen {
			ask("how-much", "How much %s came? A weight, such as 5 kg.", material.InSentence(l.Material.Name))
			return
		}
		ask("how-much", "%s", capital(fmt.Sprintf("%s: %v.", l.Material.Name, err)))
		return
	}
	l.MassG = grams.Value * factor
	if ml, ok := of.Millilitres(h); ok {
		l.VolumeML = ml.Value * factor
	}
	l.withinReason(ask)
}

// withinReason asks about a mass that no small workshop takes in, and keeps none.
func (l *lotSaid) withinReason(ask func(code, format string, args ...any)) {
	if l.MassG > maxMassG {
		ask("too-much", "%s kg is more than a small workshop takes in: check the unit.", quantity.FormatFigures(l.MassG/1000, 6))
		l.MassG = 0
	}
}

// packWord is the word that a pack was called by.
func packWord(written string, u quantity.Unit) string {
	for _, w := range strings.Fields(strings.ToLower(written)) {
		if named, ok := quantity.UnitNamed(w); ok && named == u {
			return singular(w)
		}
	}
	return strings.TrimPrefix(quantity.Of(1, 1, u).String(), "1 ")
}
