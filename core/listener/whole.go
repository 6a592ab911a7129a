package listener

// What a note says of all of it together: how much several packs hold in all, and what the
// prices come to.

import (
	"math"
	"slices"
	"strings"

	"github.com/shopspring/decimal"

	"keencrock/core/quantity"
)

// wholeSaid reads “three sacks of soda, twenty kilos all told”, “four bags, making 10 kg”: the
// amount at mark k is of all packs that were said, or says once more what they come to. It is
// the mark after it; 0 where the amount is said otherwise.
func (d *deliveryReader) wholeSaid(k int, said *amountSaid) int {
	l := d.now
	after := d.wholeAt(k)
	if after == 0 || l == nil || l.amount == nil || l.Package || l.closed || !isVolume(said.Amount) && said.Amount.Kind() != quantity.Mass || isPack(said.Amount.Unit()) {
		return 0
	}
	m := &d.out[k]
	if l.eachOf != nil || l.factor > 0 || !isPack(l.amount.Amount.Unit()) && l.amount.Amount.Kind() != quantity.Count { // “2 x 5 kg borax, 10 kg in all”
		l.told = said
		d.becomes(m.from, d.out[after-1].to, AsSmallTalk, l.line)
		return after
	}
	l.eachOf, l.whole = said, true
	d.becomes(m.from, d.out[after-1].to, AsAmount, l.line)
	return after
}

// wholeAt is the mark after an amount and the words beside it that say it is of all; 0 without
// such words.
func (d *deliveryReader) wholeAt(k int) int {
	m := &d.out[k]
	next := k + 1
	if next < len(d.out) && (d.out[next].is(total) || d.toks[d.out[next].from].word == "together" || d.toks[d.out[next].from].word == "overall") {
		return next + 1
	}
	if next+1 < len(d.out) && d.toks[m.to].word == "between" {
		return next + 2
	}
	if k > 0 && d.out[k-1].is(total) {
		return next
	}
	if m.from > 0 {
		if makesInAll[d.toks[m.from-1].word] {
			return next
		}
	}
	return 0
}

// packsOfWhole parts what several packs hold together: how many there are, and what one holds.
func (l *lotSaid) packsOfWhole() (packs int, one string) {
	n, ok := l.amount.Amount.Pieces()
	if v, vessel := vesselCount(l.amount.Amount); vessel {
		n.Value, ok = v, true
	}
	packs = int(n.Value + 0.5)
	if !ok || packs < 1 {
		packs = 1
	}
	if part, ok := l.eachOf.Amount.Times(1, int64(packs)); ok {
		return packs, part.String()
	}
	return packs, l.eachOf.Amount.String()
}

// checkTold asks where what was said to be the whole is not what the packs come to.
func (d *deliveryReader) checkTold(i int, l *lotSaid) {
	if l.told == nil || l.Material == nil || l.MassG == 0 {
		return
	}
	whole, err := l.told.Amount.Grams(l.Material.Handling(d.o.Measures))
	if err != nil || math.Abs(whole.Value-l.MassG) <= nearlyAll*l.MassG {
		return
	}
	d.unsure = append(d.unsure, Unsure{Line: i, Code: "two-amounts", Text: capital(strings.TrimSpace(l.told.written)) + " is said in all, and the packs come to " + kilograms(l.MassG) + ": which is it?"})
}

// nearlyAll is by how much of it a whole may differ from what its parts come to: packs are
// rounded when they are spoken of. Common practice.
const nearlyAll = 0.02

func kilograms(g float64) string {
	return strings.TrimRight(strings.TrimRight(decimal.NewFromFloat(g/1000).StringFixed(3), "0"), ".") + " kg"
}

// checkSum asks where the prices do not come to the total that was said.
func (d *deliveryReader) checkSum() {
	if d.sum == nil {
		return
	}
	sum := d.freight
	for _, l := range d.lots {
		if !l.HasPrice || l.Currency != d.sum.currency {
			return
		}
		sum = sum.Add(l.Price)
	}
	without := sum.Sub(d.freight)
	if sum.Equal(d.sum.amount) || without.Equal(d.sum.amount) || d.taxed || slices.ContainsFunc(d.unsure, func(u Unsure) bool { return u.Code == "two-prices" }) {
		return
	}
	d.unsure = append(d.unsure, Unsure{Line: -1, Code: "sum-differs", Text: "The prices here come to " + sum.StringFixed(2) + ", and " + d.sum.amount.StringFixed(2) + " is said in all: look at both."})
}

// makesInAll stand before what all of it comes to.
var makesInAll = wordSet("makesInAll")
