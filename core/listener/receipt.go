package listener

import (
	"errors"
	"slices"
	"strings"

	"github.com/shopspring/decimal"

	"keencrock/core/material"
	"keencrock/core/quantity"
)

// namedLots is how many lots have been named so far.
func (d *deliveryReader) namedLots() (n int) {
	for _, l := range d.lots {
		if l.named() {
			n++
		}
	}
	return n
}

// sentBack passes over what went back, to the end of its sentence: it is no delivery.
func (d *deliveryReader) sentBack(k int) int {
	end := k
	for end < len(d.out) && d.out[end].kind != aStop && !(end > k && (d.out[end-1].kind == aComma || d.out[end-1].is(joiner)) && gets[d.toks[d.out[end].from].word]) {
		end++
	}
	if d.nowOpen() || end == k+1 { // “5 kg borax, returned”, or nothing after it
		d.becomes(d.out[k].from, d.out[k].to, AsQuestion, nil)
		end = k + 1
	} else {
		d.becomes(d.out[k].from, d.out[end-1].to, AsQuestion, nil)
	}
	d.unsure = append(d.unsure, Unsure{Line: -1, Code: "went-back", Text: "What went back is taken out of its lot on the shelf, with the reason."})
	return end
}

// gets begin what came after all: “returned 1 kg of borax, bought 2 kg of bicarb”.
var gets = wordSet("gets")

// nowOpen reports whether a lot of this sentence has been named.
func (d *deliveryReader) nowOpen() bool { return d.now != nil && d.now.named() && !d.now.closed }

// moreMoney reports whether another price follows.
func (d *deliveryReader) moreMoney(k int) bool {
	if len(d.lots) > 0 {
		return true
	}
	for ; k < len(d.out); k++ {
		if d.nextFact(k, aPrice) || d.bareFor(k) {
			return true
		}
	}
	return false
}

// bareFor reports whether a mere number is a price, and what was bought follows: “… and 12 for the bag of salt”.
func (d *deliveryReader) bareFor(k int) bool {
	m := &d.out[k]
	return m.kind == anAmount && !m.article && m.amount.Amount.Unit() == quantity.Bare && d.forNext(k+1)
}

// forNext reports whether “for” and what came follow a price.
func (d *deliveryReader) forNext(k int) bool {
	if k+1 >= len(d.out) || d.toks[d.out[k].from].word != "for" {
		return false
	}
	for i := k + 1; i < len(d.out) && i < k+3; i++ {
		if m := &d.out[i]; m.kind == aName || m.kind == anAmount && m.amount.Amount.Unit() != quantity.Bare {
			return true
		}
	}
	return false
}

// allFrom reports whether a supplier is said of all that came: before or after all of it
// in so many words, or in a sentence of its own.
func (d *deliveryReader) allFrom(k int) bool {
	if d.saidOfAll(k) {
		return true
	}
	alone := (k == 0 || d.out[k-1].kind == aStop) && (k+1 == len(d.out) || d.out[k+1].kind == aStop)
	return alone || d.now == nil
}

// saidOfAll reports whether “both” or “all” stands right before a mark.
func (d *deliveryReader) saidOfAll(k int) bool {
	return k > 0 && ofAllWords[d.toks[d.out[k-1].from].word]
}

// ofAllWords say that what follows is of all that came.
var ofAllWords = wordSet("ofAllWords")

// priced keeps a price with the lot it was said of.
func (d *deliveryReader) priced(p *priceSaid, from, to int) {
	if d.each {
		p.of, d.each = ofEach, false
	}
	l := d.now
	if from > 0 && d.toks[from-1].word == "=" && len(d.lots) > 1 { // “1 kg citrate + 1 kg citric acid = 11.80”
		p.unit = "sum"
	}
	if l == nil { // “11.40 for 5 kg washing soda”
		d.ahead.price = p
		d.becomes(from, to, AsPrice, nil)
		return
	}
	d.becomes(from, to, AsPrice, l.line)
	if p.of == ofEach && d.eachIs != nil && l.amount == d.eachIs { // “100 ml each of lavender, lemon and tea tree, 12 euros apiece”
		for _, other := range d.lots {
			if other.amount == d.eachIs && other.price == nil && other != l {
				other.price = p
			}
		}
	}
	if p.unit == "sum" { // “total 11.40”, after the prices of each
		p.unit = ""
		for _, other := range d.lots {
			if other.price == nil && other != l || other == l && l.price == nil && len(d.lots) > 1 {
				p.unit = "together"
			}
		}
		if p.unit == "" && l.price != nil {
			d.sum = p
			return
		}
	}
	if p.unit == "together" && l.price != nil && len(d.lots) > 1 && !slices.ContainsFunc(d.lots, func(o *lotSaid) bool { return o.price == nil && !o.unpriced }) { // “4.60; …; 6.10, 19.50 together”
		d.sum = p
		return
	}
	if l.price != nil && p.unit != "together" && l.price.of == ofEach { // “5.20 each, 15.60”
		return
	}
	if l.price != nil && d.takesBack(from) { // “at 4.20, no wait 4.60”
		l.price.amount = p.amount
		return
	}
	if l.price != nil && l.price.of == ofAll && p.of == ofAll && p.unit == "" && (!l.price.amount.Equal(p.amount) || d.afterPrice(from)) {
		if d.afterPrice(from) {
			l.more = append(l.more, moreSaid{p, from, to})
			return
		}
		d.askTwoPrices(len(d.lots)-1, p, from, to)
		return
	}
	l.price = p
	d.last = p
}

// askTwoPrices asks what a second price of one lot is of.
func (d *deliveryReader) askTwoPrices(line int, p *priceSaid, from, to int) {
	l := d.lots[line]
	d.becomes(from, to, AsQuestion, l.line)
	d.unsure = append(d.unsure, Unsure{Line: line, Code: "two-prices", Text: "Two prices stand here: " + l.price.amount.StringFixed(2) + " and " + p.amount.StringFixed(2) + ". The first is taken: what is the other one of?"})
}

// moreSaid is a price that stands right behind another one.
type moreSaid struct {
	*priceSaid
	from, to int
}

// afterPrice reports whether a token stands right behind a price, a comma or “and” between.
func (d *deliveryReader) afterPrice(tok int) bool {
	i := tok - 1
	for i >= 0 && (d.toks[i].word == "," || d.toks[i].word == "and" || d.toks[i].word == "&" || d.toks[i].word == "/") {
		i--
	}
	return i >= 0 && i < tok-1 && d.fates[d.origin[i]].became == AsPrice
}

// inTheirOrder gives prices that stand together at the end to the lots before them, in their order,
// where there is one for each: “3 lemons and a box of borax, 1.20 and 4.50”. Any other are asked about.
func (d *deliveryReader) inTheirOrder() {
	for i, l := range d.lots {
		if len(l.more) == 0 {
			continue
		}
		first := i - len(l.more)
		fits := first >= 0 && (first == 0 || d.lots[first-1].price != nil || d.lots[first-1].unpriced)
		for k := max(first, 0); k < i; k++ {
			fits = fits && d.lots[k].price == nil && !d.lots[k].unpriced
		}
		if !fits {
			for _, p := range l.more {
				d.askTwoPrices(i, p.priceSaid, p.from, p.to)
			}
			continue
		}
		d.lots[first].price = l.price
		for k, p := range l.more {
			d.lots[first+1+k].price = p.priceSaid
			d.becomes(p.from, p.to, AsPrice, d.lots[first+1+k].line)
		}
	}
}

// takesBack reports whether a word of correction stands right before a token.
func (d *deliveryReader) takesBack(tok int) bool {
	for k := range d.out {
		if m := &d.out[k]; m.to == tok || m.to == tok-1 && (d.toks[tok-1].word == "," || d.toks[tok-1].word == "it's" || d.toks[tok-1].word == "its") {
			return m.is(correct | correctWell)
		}
	}
	return false
}

// eachSaid makes the last price one of each.
func (d *deliveryReader) eachSaid() {
	if d.now.price != nil && d.now.price.of == ofAll {
		d.now.price.of = ofEach
		return
	}
	d.each = true
}

// priceOut works out what the whole line cost.
func (d *deliveryReader) priceOut(l *lotSaid, count float64) {
	p := l.price
	if p == nil && d.ahead.price != nil && (len(d.lots) == 1 || d.ahead.price.amount.IsZero()) { // a gift is of all that came
		p = d.ahead.price
	}
	if p == nil {
		return
	}
	l.Currency = p.currency
	if p.unsaid && d.spoken != "" { // “kilo of citric, 6 quid; kilo of salt, 2”
		l.Currency = d.spoken
	}
	if !p.unsaid {
		d.spoken = p.currency
	}
	l.HasPrice = true
	switch {
	case p.of == ofEach && count == 0: // of how many, is not known
		l.HasPrice = false
		return
	case p.of == ofEach && l.inCarton > 1 && isOuter(l.amount, p.each): // “2 cartons of 6 bottles, 9.80 a carton”
		l.Price = p.amount.Mul(decimal.NewFromFloat(count / float64(l.inCarton)))
	case p.of == ofEach, p.at && count > 1 && p.unit == "" && p.of == ofAll:
		l.Price = p.amount.Mul(decimal.NewFromFloat(count))
	case p.of == ofUnit:
		times, ok := l.timesOf(p)
		if !ok {
			l.HasPrice = false
			return
		}
		l.Price = p.amount.Mul(decimal.NewFromFloat(times))
	default:
		l.Price = p.amount
	}
	l.Price = l.Price.Round(2)
}

// isOuter reports whether a word is that of what the packs came in.
func isOuter(amount *amountSaid, each string) bool {
	return each != "" && strings.Contains(strings.ToLower(amount.written), strings.TrimSuffix(each, "s"))
}

// timesOf is how many of what a price is per are in a lot: kilograms, litres.
func (l *lotSaid) timesOf(p *priceSaid) (float64, bool) {
	if g, ok := p.per.MassOnly(); ok && g.Value > 0 {
		return l.MassG / g.Value, l.MassG > 0
	}
	if ml, ok := p.per.Millilitres(quantity.Handling{Measures: quantity.US}); ok && ml.Value > 0 {
		volume := l.VolumeML
		if volume == 0 && l.Material != nil && l.Material.Density.Known() {
			volume = l.MassG / l.Material.Density.Value
		}
		return volume / ml.Value, volume > 0
	}
	return 0, false
}

// together asks how a price of several lots is shared among them.
func (d *deliveryReader) together() {
	if p := d.ahead.price; p != nil && len(d.lots) > 1 && !p.amount.IsZero() && !slices.ContainsFunc(d.lots, func(l *lotSaid) bool { return l.price != nil }) { // “paid 33.40 for …”
		d.last = p
		p.unit = "together"
	}
	if len(d.lots) < 2 || d.last == nil || d.last.unit != "together" {
		return
	}
	for i, l := range d.lots {
		if l.price != nil && l.price != d.last {
			return // each has its own
		}
		if l.price == d.last && l.Packs > 1 && !l.Package {
			return // of that line's packs
		}
		_ = i
	}
	for _, l := range d.lots {
		l.HasPrice, l.Price = false, decimal.Decimal{}
	}
	d.unsure = append(d.unsure, Unsure{Line: -1, Code: "price-together", Text: "What did each of them cost? " + d.last.amount.StringFixed(2) + " was for all."})
}

// cues are words that begin something other than a name.
var cues = wordSet("cues")

func (d *deliveryReader) isCue(tok int) bool { return cues[d.toks[tok].word] }

func (d *deliveryReader) hasFact(lo, hi int) bool {
	for k := lo; k < hi && k < len(d.out); k++ {
		if d.out[k].kind == aFact {
			return true
		}
	}
	return false
}

func (d *deliveryReader) nextFact(k int, kind factKind) bool {
	return k < len(d.out) && d.out[k].kind == aFact && d.facts[d.out[k].fact].kind == kind
}

// nearest are the names that may have been meant.
func nearest(err error) []string {
	var unknown *material.UnknownError
	var strength *material.StrengthError
	switch {
	case errors.As(err, &unknown):
		return unknown.Nearest()
	case errors.As(err, &strength):
		return []string{strength.Material.Name}
	}
	return nil
}
