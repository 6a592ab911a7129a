package listener

// What a note on a delivery says of money.

import (
	"regexp"
	"slices"
	"strings"

	"github.com/shopspring/decimal"

	"keencrock/core/quantity"
)

// priceAt finds a price at a byte, and what it is of.
func priceAt(text string, i int, o DeliveryOptions) (fact, bool) {
	at := text[i:]
	start, cue := 0, ""
	if m := priceCue.FindString(at); m != "" {
		start, cue = len(m), strings.ToLower(strings.TrimSpace(m))
	}
	money := at[start:]
	p := priceSaid{currency: o.Currency, at: cue == "at" || cue == "@" || cue == "à"}
	var n int
	p.amount, p.currency, n = sumAt(money, cue, start > 0, o)
	if n == 0 {
		return fact{}, false
	}
	end := i + start + n
	if m := freight.FindString(text[end:]); m != "" && !moneyFollows(text[end+len(m):], o) { // “borax 6.00, delivery 4.50” says it before its price
		return fact{from: i, to: end + len(m), kind: aFreight, price: p}, true
	}
	if m := deposit.FindString(text[end:]); m != "" {
		return fact{from: i, to: end + len(m), kind: aDeposit, price: p}, true
	}
	if m := afterMoney.FindStringSubmatch(text[end:]); m != nil && !inEach.MatchString(text[end+len(m[0]):]) && !(m[3] != "" && strings.Contains(m[0][:len(m[0])-len(m[3])], ",") && moneyFollows(text[end+len(m[0]):], o)) {
		end += len(m[0])
		switch {
		case m[1] != "" && boxedOnce(text, m[1]): // “a box of 24 bars, 22.80 the box”
		case m[1] != "":
			p.of, p.each = ofEach, lastWord(strings.TrimRight(m[1], " "))
		case m[2] != "":
			p.of, p.per = ofUnit, perOf(m[2])
		default:
			p.unit = "together"
		}
	}
	p.unsaid = !currencySaid.MatchString(text[i:end])
	return fact{from: i, to: end, kind: aPrice, price: p}, true
}

// sumAt is the sum of money that a text begins with, behind a word for it or without, its currency, and how many bytes
// it has; 0 where none stands there.
func sumAt(money, cue string, led bool, o DeliveryOptions) (sum decimal.Decimal, currency string, n int) {
	grand := moneyGrand.FindStringSubmatchIndex(money)
	switch {
	case grand != nil && (grand[2] >= 0 || grand[4] >= 0 || grand[10] >= 0):
		sum, currency = grandNumber(money, grand, o.Currency)
		for n = grand[7]; n < grand[1] && (n < grand[9] || n < grand[11]); {
			n = max(n+1, grand[9], grand[11])
		}
		return sum, currency, n
	case nairaSign.MatchString(money) && (cue != "" || o.Currency == "NGN"):
		m := nairaSign.FindString(money)
		return numberIn(m), "NGN", len(m)
	case moneyMany.MatchString(money):
		m := moneyMany.FindString(money)
		return thousands(m), currencyOf(m, o.Currency), len(m)
	case moneySign.MatchString(money):
		m := moneySign.FindString(money)
		return numberIn(m), currencyOf(m, o.Currency), len(m)
	case poundsPence.MatchString(money) && !unitAfter(poundsPence.FindStringSubmatch(money)[2]+money[len(poundsPence.FindString(money)):]):
		m := poundsPence.FindStringSubmatch(money)
		return numberIn(m[1]).Add(numberIn(m[2]).Div(decimal.NewFromInt(100))), "GBP", len(m[0])
	case moneyNumber.MatchString(money):
		return sumWithWord(money, cue, led, o)
	case moneyDash.MatchString(money):
		m := moneyDash.FindStringSubmatch(money)
		return numberIn(m[1]), o.Currency, len(m[0])
	case moneyDecimal.MatchString(money):
		m := strings.TrimRight(moneyDecimal.FindString(money), " ,;)\n\t/abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ-–€$£%(:=+|.")
		if r, ok := quantity.ReadSaid(money); ok && r.Amount.Unit() != quantity.Bare && !codeDashed.MatchString(strings.TrimLeft(money[len(m):], " ")) {
			return sum, o.Currency, 0 // “2.50 kg”, and not “19.50 C-882”
		}
		return numberIn(m), o.Currency, len(m)
	case noteNamed.MatchString(money):
		m := noteNamed.FindStringSubmatch(money)
		if strings.EqualFold(m[1], "tenner") {
			return decimal.NewFromInt(10), o.Currency, len(m[0])
		}
		return decimal.NewFromInt(5), o.Currency, len(m[0])
	}
	sum, n, currency = moneyInWords(money, o.Currency)
	if n == 0 && led && cue != "was" {
		sum, n = numberAfterCue(money)
		currency = o.Currency
	}
	if n == 0 && !led { // “one forty a box”
		if some, length := numberAfterCue(money); length > 0 && !some.IsInteger() && eachAfter.MatchString(money[length:]) {
			return some, o.Currency, length
		}
	}
	return sum, currency, n
}

// sumWithWord is a sum that is a number with a word for money behind it: “11.40 euros”, “60p”, “6 euros fifty”.
func sumWithWord(money, cue string, led bool, o DeliveryOptions) (sum decimal.Decimal, currency string, n int) {
	hundred := decimal.NewFromInt(100)
	m := moneyNumber.FindStringSubmatch(money)
	unit := strings.ToLower(strings.TrimSpace(m[2]))
	if unit == "p" && (cue == "" && strings.Contains(m[1], ".")) || unit == "pounds" && cue == "" && !led {
		return sum, o.Currency, 0 // “2 pounds” of something is a weight
	}
	sum, n = numberIn(m[1]), len(m[0])
	inCents := unit == "p" || unit == "pence" || strings.HasPrefix(unit, "cent")
	if inCents {
		sum = sum.Div(hundred)
	}
	if m[3] != "" {
		sum = sum.Add(numberIn(m[3]).Div(hundred))
	} else if !inCents && !strings.Contains(unit, "cent") && !strings.ContainsAny(m[1], ".,") { // “6 euros fifty”
		rest := strings.TrimPrefix(strings.TrimLeft(money[n:], " "), "and ")
		if cents, k := wordNumber(rest); k > 0 && !isDigit(rest[0]) && strings.HasPrefix(money[n:], " ") && cents.GreaterThanOrEqual(decimal.NewFromInt(5)) && cents.LessThan(hundred) && !unitAfter(rest) {
			sum, n = sum.Add(cents.Div(hundred)), len(money)-len(rest)+k
		}
	}
	return sum, currencyOf(unit, o.Currency), n
}

// currencySaid finds a sign or a word for a currency.
var currencySaid = regexp.MustCompile(`(?i)[€$£₹₦¥]|\b(?:` + currencyWord + `)\b|\d(?:p|eur|gbp|usd)\b`)

// boxedOnce reports whether what a price is said per was said once, with several in it.
func boxedOnce(text, per string) bool {
	word := lastWord(per)
	at := strings.Index(strings.ToLower(text), "a "+word+" of ")
	if at < 0 {
		at = strings.Index(strings.ToLower(text), "one "+word+" of ")
	}
	if at < 0 {
		return false
	}
	_, rest, _ := strings.Cut(text[at:], " of ")
	n, length := wordNumber(rest)
	return length > 0 && n.GreaterThan(decimal.NewFromInt(1)) && !holdsOne(rest)
}

// holdsOne reports whether a text begins with a weight or a volume, which is what one pack holds.
func holdsOne(text string) bool {
	r, ok := quantity.ReadSaid(text)
	return ok && (r.Amount.Kind() == quantity.Mass || r.Amount.Kind() == quantity.Volume)
}

// moneyFollows reports whether a price begins a text: “…, total 12.10”.
func moneyFollows(text string, o DeliveryOptions) bool {
	at := len(text) - len(strings.TrimLeft(text, " :="))
	if at == len(text) {
		return false
	}
	f, ok := priceAt(text, at, o)
	return ok && f.kind == aPrice
}

var perLead = regexp.MustCompile(`(?i)^(?:a|per|the|each|/)\s?`)

// perOf is the amount that a price is per: a kilogram, 100 g.
func perOf(s string) quantity.Amount {
	s = perLead.ReplaceAllString(strings.TrimSpace(s), "")
	s = strings.NewReplacer("hundred grams", "100 g", "half kilo", "500 g").Replace(strings.ToLower(s))
	if s != "" && !isDigit(s[0]) {
		s = "1 " + s
	}
	a, err := quantity.Parse(s)
	if err != nil {
		return quantity.Amount{}
	}
	return a
}

var digitsIn = regexp.MustCompile(`\d+(?:[.,]\d{1,2})?`)

func numberIn(s string) decimal.Decimal {
	d, err := decimal.NewFromString(strings.Replace(digitsIn.FindString(s), ",", ".", 1))
	if err != nil {
		return decimal.Decimal{}
	}
	return d
}

// thousands reads a number with signs between its thousands: “1,140.00”.
func thousands(s string) decimal.Decimal {
	s = strings.Trim(s, "€$£ ")
	cents := s[len(s)-2:]
	whole := strings.NewReplacer(",", "", ".", "").Replace(s[:len(s)-3])
	d, err := decimal.NewFromString(whole + "." + cents)
	if err != nil {
		return decimal.Decimal{}
	}
	return d
}

// grandNumber is an amount of money with a sign between its thousands, by what a pattern found
// in it, and its currency.
func grandNumber(s string, at []int, own string) (decimal.Decimal, string) {
	group := func(i int) string {
		if at[2*i] < 0 {
			return ""
		}
		return s[at[2*i]:at[2*i+1]]
	}
	number := strings.NewReplacer(",", "", ".", "").Replace(group(3))
	if cents := group(4); cents != "" {
		number += "." + cents
	}
	d, err := decimal.NewFromString(number)
	switch {
	case err != nil:
		return decimal.Decimal{}, own
	case group(2) != "":
		return d, "NGN"
	case group(1) != "":
		return d, currencyOf(group(1), own)
	}
	return d, currencyOf(group(5), own)
}

// moneyInWords reads “twelve euros forty”, “five quid”.
func moneyInWords(s, own string) (value decimal.Decimal, n int, currency string) {
	whole, at := wordNumber(s)
	if at == 0 {
		return value, 0, own
	}
	m := wordCurrency.FindStringSubmatch(s[at:])
	if m == nil {
		return poundAndPence(s, whole, at, own)
	}
	n = at + len(m[0])
	value, currency = whole, currencyOf(m[1], own)
	if unit := strings.ToLower(m[1]); unit == "pence" || unit == "p" || strings.HasPrefix(unit, "cent") {
		return value.Div(decimal.NewFromInt(100)), n, currency
	}
	rest := s[n:]
	lead := len(rest) - len(strings.TrimLeft(rest, " "))
	rest = rest[lead:]
	if after, ok := strings.CutPrefix(strings.ToLower(rest), "and "); ok {
		lead, rest = lead+4, after
	}
	if cents, k := wordNumber(rest); k > 0 && !strings.HasPrefix(strings.ToLower(rest), "the ") && cents.LessThan(decimal.NewFromInt(100)) && !unitAfter(rest) {
		n += lead + k
		if m := centsWord.FindString(s[n:]); m != "" {
			n += len(m)
		}
		value = value.Add(cents.Div(decimal.NewFromInt(100)))
	}
	return value, n, currency
}

// poundAndPence is “one pound twenty”: a pound by itself is a weight.
func poundAndPence(s string, pounds decimal.Decimal, at int, own string) (value decimal.Decimal, n int, currency string) {
	lead := aPound.FindString(s[at:])
	rest := s[at+len(lead):]
	pence, k := wordNumber(rest)
	if lead == "" || k == 0 || isDigit(rest[0]) || pence.LessThan(decimal.NewFromInt(5)) || pence.GreaterThanOrEqual(decimal.NewFromInt(100)) || unitAfter(rest) {
		return value, 0, own
	}
	return pounds.Add(pence.Div(decimal.NewFromInt(100))), at + len(lead) + k, "GBP"
}

// aPound stands between pounds and pence.
var aPound = regexp.MustCompile(`(?i)^ pound (?:and )?`)

var (
	wordCurrency = regexp.MustCompile(`(?i)^\s*(` + currencyWord + `)\b`)
	centsWord    = regexp.MustCompile(`(?i)^\s*(?:cents?|pence|p)\b`)
)

// unitAfter reports whether a number is of a measure rather than of cents.
func unitAfter(s string) bool {
	r, ok := quantity.ReadSaid(s)
	return ok && r.Amount.Unit() != quantity.Bare
}

// wordNumber reads a number in words or figures, as long as it goes on: “two dozen”; n is
// how many bytes it takes.
func wordNumber(s string) (value decimal.Decimal, n int) {
	end := 0
	for words := 0; words < 5; words++ {
		for end < len(s) && s[end] == ' ' {
			end++
		}
		next := end
		for next < len(s) && s[next] != ' ' && !strings.ContainsRune(",;:()€$£\n", rune(s[next])) && !(s[next] == '/' && next+1 < len(s) && !isDigit(s[next+1])) {
			next++
		}
		if next == end {
			break
		}
		if word := strings.ToLower(s[end:next]); word == "x" || word == "×" || word == "times" {
			break
		}
		end = next
		a, err := quantity.Parse(s[:end])
		if err != nil || a.Unit() != quantity.Bare || len(a.Terms()) != 1 { // “for 16 and 10 kg of …” is two
			continue
		}
		if p, ok := a.Pieces(); ok && p.Low == p.High {
			value, n = decimal.NewFromFloat(p.Value).Round(2), end
		}
		if end < len(s) && s[end] != ' ' { // a sign ends it
			break
		}
	}
	return value, n
}

// numberAfterCue reads a whole number without a unit: “for 12”, “paid eleven fifty”.
func numberAfterCue(s string) (value decimal.Decimal, n int) {
	value, n = wordNumber(s)
	if n == 0 || unitAfter(s) {
		return value, 0
	}
	if rest := strings.TrimLeft(s[n:], " "); len(rest) < len(s[n:]) { // “eleven fifty”
		if cents, k := wordNumber(rest); k > 0 && cents.GreaterThanOrEqual(decimal.NewFromInt(10)) && cents.LessThan(decimal.NewFromInt(100)) && !unitAfter(rest) {
			return value.Add(cents.Div(decimal.NewFromInt(100))), n + len(s[n:]) - len(rest) + k
		}
	}
	return value, n
}

// currencyOf is the code of a sign or a word, the workshop's own for cents and for a word
// that several countries have.
func currencyOf(said, own string) string {
	low := strings.ToLower(said)
	for _, c := range []struct {
		code  string
		words []string
	}{
		{"AUD", []string{"a$", "aud"}}, {"CAD", []string{"ca$", "cad"}}, {"NZD", []string{"nz$"}},
		{"EUR", []string{"€", "eur"}}, {"GBP", []string{"£", "gbp", "quid", "sterling", "pound", "pence"}},
		{"INR", []string{"₹", "inr", "rupee"}}, {"NGN", []string{"₦", "ngn", "naira"}}, {"CHF", []string{"chf", "franc"}},
		{"SEK", []string{"sek", "kronor"}}, {"NOK", []string{"nok"}}, {"DKK", []string{"dkk", "kroner"}}, {"PLN", []string{"pln"}}, {"JPY", []string{"¥"}},
	} {
		for _, w := range c.words {
			if strings.Contains(low, w) {
				return c.code
			}
		}
	}
	if strings.HasPrefix(low, "rs") { // and no doll-rs
		return "INR"
	}
	if strings.Contains(low, "$") || strings.Contains(low, "dollar") || strings.Contains(low, "usd") || strings.Contains(low, "buck") {
		if slices.Contains([]string{"AUD", "CAD", "NZD"}, own) && !strings.Contains(low, "us") {
			return own
		}
		return "USD"
	}
	if low == "p" && own == "EUR" {
		return "GBP"
	}
	return own
}
