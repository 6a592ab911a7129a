package listener

import (
	"strings"

	"github.com/shopspring/decimal"
)

// notePlace is where in a note a fact may begin.
type notePlace struct {
	text string
	i    int
	at   string // the rest of the text, from there
	o    DeliveryOptions
}

// is a fact of a kind that takes so many bytes.
func (p *notePlace) is(kind factKind, n int) (fact, bool) {
	return fact{from: p.i, to: p.i + n, kind: kind}, true
}

// factReaders are the readings of a place, the surest first.
var factReaders = [...]func(p *notePlace) (fact, bool){(*notePlace).ofGiving, (*notePlace).ofSeveral, (*notePlace).ofNothing, (*notePlace).ofCode, (*notePlace).ofDay, (*notePlace).ofPaper, (*notePlace).ofSum, (*notePlace).ofParty, (*notePlace).ofBareDate}

// factAt finds the fact that begins at a byte.
func factAt(text string, i int, o DeliveryOptions) (fact, bool) {
	p := notePlace{text, i, text[i:], o}
	switch p.at[0] {
	case ' ', '\n', ',', ';':
		return fact{}, false
	}
	for _, read := range factReaders {
		if f, ok := read(&p); ok {
			return f, true
		}
	}
	return priceAt(text, i, o)
}

// ofGiving reads what came for nothing, for something else, or at the price of another.
func (p *notePlace) ofGiving() (fact, bool) {
	text, i, at := p.text, p.i, p.at
	if m := priceBefore.FindString(at); m != "" && (i > 0 && text[i-1] == '(' || !strings.EqualFold(m[:3], "was")) {
		return p.is(aHeading, len(m))
	}
	if m := bartering.FindStringIndex(at); m != nil && (i == 0 || !isWordByte(text[i-1])) && !bartered.MatchString(at) {
		return fact{from: i, to: i + strings.IndexByte(at, ' '), kind: swapFor}, true
	}
	if m := broughtFree.FindString(at); m != "" { // “delivered free” gives nothing away
		return p.is(aHeading, len(m))
	}
	if m := freeOnes.FindString(at); m != "" {
		return fact{from: i, to: i + len(m), kind: someFree, text: m}, true
	}
	if m := bartered.FindString(at); m != "" {
		return p.is(noPrice, len(strings.TrimRight(m, " ")))
	}
	if m := manyForFewer.FindString(at); m != "" {
		return p.is(aHeading, len(m))
	}
	if m := fewerPaid.FindString(at); m != "" {
		return fact{from: i, to: i + len(m), kind: someFree, text: m}, true
	}
	if m := sameAs.FindStringSubmatch(at); m != nil && discount.FindString(at) == "" { // “same price as last time” is known to nobody
		return fact{from: i, to: i + len(m[0]), kind: sameSaid, text: strings.ToLower(m[1])}, true
	}
	return fact{}, false
}

// ofSeveral reads a price of several: “all for 14.60”, “3 for 4.50”.
func (p *notePlace) ofSeveral() (fact, bool) {
	text, i, at, o := p.text, p.i, p.at, p.o
	if m := allFor.FindString(at); m != "" { // “…, all for 14.60”
		if f, ok := priceAt(text, i+len(m), o); ok && f.kind == aPrice && f.price.of == ofAll {
			f.from, f.price.unit = i, "together"
			return f, true
		}
	}
	if m := manyFor.FindStringSubmatch(at); m != nil { // “3 for 4.50”
		if f, ok := priceAt(text, i+len(m[0]), o); ok && f.kind == aPrice && f.price.of == ofAll {
			if n, length := wordNumber(m[1]); length > 0 && n.GreaterThan(decimal.NewFromInt(1)) {
				f.from, f.price.packs = i, int(n.IntPart())
				return f, true
			}
		}
	}
	return fact{}, false
}

// ofNothing reads what is not there: the thing itself, or a price.
func (p *notePlace) ofNothing() (fact, bool) {
	text, i, at := p.text, p.i, p.at
	if m := notYetHere.FindString(at); m != "" {
		return p.is(notHere, len(m))
	}
	if m := noPriceWords.FindString(at); m != "" {
		return p.is(noPrice, len(m))
	}
	if m := giftWords.FindString(at); m != "" && !strings.EqualFold(m, "given") && !(strings.EqualFold(m, "free") && (withoutIt(text[:i], at[len(m):]) || strings.HasSuffix(strings.ToLower(text[:i]), "duty "))) {
		return p.is(aGift, len(m))
	}
	return fact{}, false
}

// ofCode reads the code of a lot, or of several.
func (p *notePlace) ofCode() (fact, bool) {
	text, i, at := p.text, p.i, p.at
	if m := codeDashed.FindString(at); m != "" && afterPriceEnd.MatchString(text[max(0, i-longestMoney):i]) { // “… 19.50 CA-882”
		return fact{from: i, to: i + len(m), kind: aLotCode, text: m}, true
	}
	if m := codeNumber.FindStringSubmatchIndex(at); m != nil { // “a new lot of bicarb, number B-2210”
		return fact{from: i, to: i + m[3], kind: aLotCode, text: at[m[2]:m[3]]}, true
	}
	if m := codeCue.FindStringSubmatchIndex(at); m != nil {
		if code := strings.TrimRight(at[m[2]:m[3]], ".,/-"); looksLikeCode(code) {
			end := m[2] + len(code)
			if more := codeEnd.FindString(at[end:]); more != "" && !strings.ContainsAny(code, "0123456789") && !unitAfter(more[1:]+at[end+len(more):]) {
				code, end = code+more, end+len(more) // “KS 7”
			}
			f := fact{from: i, kind: aLotCode, text: code}
			end = f.moreCodes(at, at[:m[2]], end)
			f.to = i + end
			return f, true
		}
	}
	return fact{}, false
}

// moreCodes reads the codes behind the first one, “lots P1, P2 and P3”, “lot SA-3 and SA-4”, after the cue for them, and
// returns where they end.
func (f *fact) moreCodes(at, cue string, end int) int {
	first := f.text
	cue = strings.ToLower(cue)
	for strings.HasPrefix(cue, "lots") || strings.HasPrefix(cue, "batches") || strings.Contains(cue, "numbers") || strings.Contains(cue, "codes") {
		m := codeMore.FindStringSubmatch(at[end:])
		if m == nil {
			m = codeNext.FindStringSubmatch(at[end:])
		}
		if m == nil || unitAfter(m[1]+at[end+len(m[0]):]) {
			break
		}
		more := strings.TrimRight(m[1], ".,/-")
		end += len(m[0]) - len(m[1]) + len(more)
		f.several = true
		if between := strings.TrimSpace(m[0][:len(m[0])-len(m[1])]); between == "to" || between == "–" { // “lots CA1 to CA4”
			f.text += " to " + more
			continue
		}
		f.text += ", " + more
	}
	for f.text == first { // “lot SA-3 and SA-4”
		m := codeMore.FindStringSubmatch(at[end:])
		if m == nil || letters(m[1]) == "" || letters(m[1]) != letters(first) {
			break
		}
		more := strings.TrimRight(m[1], ".,/-")
		end += len(m[0]) - len(m[1]) + len(more)
		f.text, f.several = f.text+", "+more, true
	}
	return end
}

// ofDay reads until when something is best, and the day it came, where that is said.
func (p *notePlace) ofDay() (fact, bool) {
	i, at, o := p.i, p.at, p.o
	if m := noDate.FindString(at); m != "" {
		return p.is(aHeading, len(m))
	}
	if m := dateCue.FindString(at); m != "" {
		if day, n, err := dateAt(at[len(m):], o.Today, true); n > 0 {
			return fact{from: i, to: i + len(m) + n, kind: aDate, date: day, err: err}, true
		}
		const end = "end of " // which the cue has: “best before end of 27”
		if day, n, err := dateAt(end+at[len(m):], o.Today, true); n > len(end) && strings.Contains(strings.ToLower(m), " end") {
			return fact{from: i, to: i + len(m) + n - len(end), kind: aDate, date: day, err: err}, true
		}
		if word := nextWord(at[len(m):]); word != "" && strings.HasPrefix(strings.ToLower(m), "best ") || strings.HasPrefix(strings.ToLower(m), "bb") || strings.HasPrefix(strings.ToLower(m), "use by") {
			return fact{from: i, to: i + len(m) + len(word), kind: aDate, err: "The date “" + word + "” cannot be read: expected 2027-06 or 2027-06-30."}, true
		}
	}
	if m := dayCame.FindStringSubmatch(at); m != nil && !ofThatDay.MatchString(at[len(m[0]):]) {
		if day, ok := dayNamed(strings.ToLower(m[1]), o.Today); ok {
			return fact{from: i, to: i + len(m[0]), kind: received, date: day}, true
		}
	}
	if m := dateWords.FindStringSubmatch(at); m != nil && m[2] != "" { // “3 June”, of the day it came
		if day, n, err := dateAt(at, o.Today, false); n > 0 && err == "" {
			kind := received
			if m[5] != "" && day.After(o.Today.AddDate(0, 0, daysAhead)) { // “30 June 2028”
				kind = aDate
			}
			return fact{from: i, to: i + n, kind: kind, date: day}, true
		}
	}
	return fact{}, false
}

// ofPaper reads what stands on papers beside what came.
func (p *notePlace) ofPaper() (fact, bool) {
	i, at := p.i, p.at
	if m := heading.FindString(at); m != "" && !dayHead.MatchString(at[strings.LastIndexByte(strings.TrimRight(m, " \n"), ' ')+1:]) { // “invoice 30/10: …” tells a day
		for _, verb := range [...]string{"arrived", "came", "delivered", "received"} { // “Order 4471 arrived 12 Nov”
			m = strings.TrimSuffix(strings.TrimSuffix(m, verb), " ")
		}
		if n := len(m); m[n-1] >= 'A' && m[n-1] <= 'Z' && m[n-2] == ' ' { // “Invoice 2291 Quayside”
			m = m[:n-1]
		}
		return fact{from: i, to: i + len(strings.TrimRight(m, ":,;\n ")), kind: aHeading}, true
	}
	if m := offers.FindString(at); m != "" {
		return p.is(aHeading, len(m))
	}
	if m := back.FindString(at); m != "" {
		return p.is(wentBack, len(m))
	}
	if m := withoutTax.FindString(at); m != "" {
		return p.is(taxApart, len(m))
	}
	return fact{}, false
}

// ofSum reads money that is no price of a lot: deposits, discounts, freight, the sum.
func (p *notePlace) ofSum() (fact, bool) {
	text, i, at, o := p.text, p.i, p.at, p.o
	if m := deposits.FindString(at); m != "" {
		if f, ok := priceAt(text, i+len(m), o); ok && f.kind == aPrice {
			return fact{from: i, to: f.to, kind: aDeposit, price: f.price}, true
		}
	}
	if m := discounted.FindString(at); m != "" { // “5.95 each, minus 10% = 21.42”
		if f, ok := priceAt(text, i+len(m), o); ok && f.kind == aPrice && f.price.of == ofAll {
			return fact{from: i, to: f.to, kind: paidLess, price: f.price}, true
		}
	}
	if m := discount.FindString(at); m != "" {
		return fact{from: i, to: i + len(m), kind: aDiscount, text: m}, true
	}
	if m := brought.FindString(at); m != "" {
		if f, ok := priceAt(text, i+len(m), o); ok && f.kind == aPrice && f.price.of == ofAll {
			return fact{from: i, to: f.to, kind: aFreight, price: f.price}, true
		}
		if value, n := numberAfterCue(at[len(m):]); n > 0 && !unitAfter(at[len(m)+n:]) && !startsMonth(strings.TrimLeft(at[len(m)+n:], " ")) { // “delivery four fifty”, and not “delivery 28 Nov”
			return fact{from: i, to: i + len(m) + n, kind: aFreight, price: priceSaid{amount: value, currency: o.Currency}}, true
		}
	}
	if m := totalCue.FindString(at); m != "" {
		if f, ok := priceAt(text, i+len(m), o); ok && f.kind == aPrice && f.price.of == ofAll {
			f.from, f.price.unit = i, "sum"
			return f, true
		}
	}
	return fact{}, false
}

// ofParty reads who it came from, and on which day.
func (p *notePlace) ofParty() (fact, bool) {
	text, i, at, o := p.text, p.i, p.at, p.o
	if m := onDay.FindStringSubmatch(at); m != nil { // “on the 12th”
		if day, ok := dayOfMonth(m[1], o.Today); ok {
			return fact{from: i, to: i + len(strings.TrimRight(m[0], " ,;.:\n")), kind: received, date: day}, true
		}
	}
	if m := paidTo.FindStringSubmatchIndex(at); m != nil { // “paid the beekeeper 24 for …”
		if f, ok := priceAt(text, i+m[3]+1, o); ok && f.kind == aPrice {
			return fact{from: i, to: f.to, kind: aSupplier, text: at[m[2]:m[3]], price: f.price}, true
		}
		if value, n := numberAfterCue(at[m[3]+1:]); n > 0 {
			return fact{from: i, to: i + m[3] + 1 + n, kind: aSupplier, text: at[m[2]:m[3]], price: priceSaid{amount: value, currency: o.Currency}}, true
		}
	}
	if m := cameOn.FindString(at); m != "" {
		if day, n, err := dateAt(at[len(m):], o.Today, false); n > 0 && err == "" {
			return fact{from: i, to: i + len(m) + n, kind: received, date: day}, true
		}
		if short := dayShort.FindStringSubmatch(at[len(m):]); short != nil { // “on 24/11”
			if day, ok := dayOfThisYear(short, o.Today); ok {
				return fact{from: i, to: i + len(m) + len(short[1]) + 1 + len(short[2]), kind: received, date: day}, true
			}
		}
	}
	if m := fromCue.FindString(at); m != "" && !strings.HasSuffix(strings.ToLower(text[:i]), "away ") { // “keep away from heat”
		if name, n := supplierAt(at[len(m):], o); name != "" {
			return fact{from: i, to: i + len(m) + n, kind: aSupplier, text: name}, true
		}
	}
	for _, s := range o.Suppliers {
		if len(s) > 2 && len(at) >= len(s) && strings.EqualFold(at[:len(s)], s) && (len(at) == len(s) || !isWordByte(at[len(s)])) {
			return fact{from: i, to: i + len(s), kind: aSupplier, text: s}, true
		}
	}
	return fact{}, false
}

// ofBareDate reads a date by its figures alone.
func (p *notePlace) ofBareDate() (fact, bool) {
	text, i, at, o := p.text, p.i, p.at, p.o
	if m := dateISO.FindStringSubmatch(at); m != nil && isDigit(at[0]) {
		if day, n, err := dateAt(at, o.Today, true); n > 0 {
			kind := aDate
			if m[3] != "" && err == "" && !day.After(o.Today.AddDate(0, 0, daysAhead)) { // of the note itself
				kind = received
			}
			return fact{from: i, to: i + n, kind: kind, date: day, err: err}, true
		}
	}
	if m := dateMonth.FindStringSubmatch(at); m != nil && len(m[2]) == 4 && !dateDay.MatchString(at) {
		if day, n, err := dateAt(at, o.Today, true); n > 0 && err == "" {
			return fact{from: i, to: i + n, kind: aDate, date: day}, true
		}
	}
	if m := dateDay.FindString(at); m != "" {
		if day, n, err := dateAt(at, o.Today, true); n > 0 && err == "" {
			kind := aDate
			if !day.After(o.Today.AddDate(0, 0, daysAhead)) { // of the note itself
				kind = received
			}
			return fact{from: i, to: i + n, kind: kind, date: day}, true
		}
	}
	if m := dayHead.FindStringSubmatch(at); m != nil && (i == 0 || strings.TrimRight(text[:i], " ") == "" || strings.HasSuffix(strings.TrimRight(text[:i], " "), ",") || text[i-1] == '\n' || ofInvoice.MatchString(text[:i]) || namesAlone.MatchString(text[:i])) { // “Quayside, 28/11: …”, “Quayside invoice 28/11: …”
		if day, ok := dayOfThisYear(m, o.Today); ok {
			return fact{from: i, to: i + len(m[1]) + 1 + len(m[2]), kind: received, date: day}, true
		}
	}
	if m := dayLine.FindStringSubmatch(at); m != nil && (i == 0 || text[i-1] == '\n') && !unitAfter(at[len(m[1])+1:]) { // “12/11 soda ash 10 kg”
		if day, ok := dayOfThisYear(m, o.Today); ok {
			return fact{from: i, to: i + len(m[1]) + 1 + len(m[2]), kind: received, date: day}, true
		}
	}
	if m := dayDots.FindStringSubmatch(at); m != nil && headName.MatchString(text[:i]) { // “Quayside 28.11. citric acid …”
		if day, ok := dayOfThisYear(m, o.Today); ok {
			return fact{from: i, to: i + len(m[1]) + 1 + len(m[2]), kind: received, date: day}, true
		}
	}
	return fact{}, false
}
