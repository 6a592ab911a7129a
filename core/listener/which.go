package listener

// Which material came.

import (
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"keencrock/core/material"
	"keencrock/core/quantity"
)

// nameFollows reports whether a material's name, or a strange word that may be one,
// follows an amount directly.
func (d *deliveryReader) nameFollows(k int) bool {
	for i := k + 1; i < len(d.out) && i < k+4; i++ {
		m := &d.out[i]
		switch {
		case m.kind == aName:
			return true
		case m.is(kind | machine):
			return d.read1(m) != nil
		case m.kind == aWord && d.toks[m.from].kind == isWord && !d.isCue(m.from), m.kind == anAmount && m.amount.Amount.Unit() == quantity.Percent, m.is(small) && !m.is(joiner) && !d.isCue(m.from):
		default:
			return false
		}
	}
	return false
}

func (d *deliveryReader) read1(m *mark) *material.Material {
	return d.reader.read(d.said(m.from, m.to))
}

// walkName reads which material came.
func (d *deliveryReader) walkName(k int) int {
	m := &d.out[k]
	from, to := m.from, m.to
	for i := k - 1; i >= 0 && d.out[i].kind == aWord && d.toks[d.out[i].from].kind == isWord && d.fates[d.origin[d.out[i].from]].became == Unread; i-- {
		from = d.out[i].from // “organic black soap”
	}
	next := k + 1
	for next < len(d.out) && d.out[next].kind == aWord && d.toks[d.out[next].from].kind == isWord && !d.isCue(d.out[next].from) {
		to = d.out[next].to
		next++
	}
	if next < len(d.out) && d.out[next].kind == aName && d.out[next].from == to && d.now != nil && d.now.amount != nil && !d.now.named() && !d.amountAfterName(next+1) { // “500 g percarbonate TAED blend” is neither
		for to = d.out[next].to; next+1 < len(d.out) && (d.out[next+1].kind == aWord || d.out[next+1].is(small)) && d.toks[d.out[next+1].from].kind == isWord && !d.isCue(d.out[next+1].from); next++ {
			to = d.out[next+1].to
		}
		next++
	}
	text := d.said(from, to)
	if with := "fresh " + text; d.isPicked(from, next) && d.reader.read(with) != nil { // “a bunch of rosemary”
		text = with
	}
	if next < len(d.out) && d.out[next].kind == anOpening {
		end := d.closing(next, len(d.out))
		if inner := d.said(d.out[next].from+1, d.out[end].from); end > next+1 && !d.hasFact(next, end) && !(d.out[next+1].kind == anAmount && d.out[next+1].amount.Amount.Unit() != quantity.Percent) {
			if inner != strings.ToLower(inner) && d.reader.read(text) != nil && d.reader.read(text+" ("+inner+")") == d.reader.read(text) && d.reader.read(inner) == nil && unicode.IsUpper(firstLetter(d.asSaid(d.out[next].from+1, d.out[end].from))) { // “washing soda (Quayside)”
				l := d.lot(func(l *lotSaid) bool { return l.named() })
				l.Supplier = d.asSaid(d.out[next].from+1, d.out[end].from)
				d.becomes(d.out[next].from, d.out[end].to, AsSupplier, l.line)
				next = end + 1
				d.name(l, text)
				d.becomes(from, to, AsMaterial, l.line)
				return next
			}
			text += " (" + inner + ")"
			to, next = d.out[end].to, end+1
		}
	}
	for next+1 < len(d.out) && (d.toks[d.out[next].from].word == "order" || d.toks[d.out[next].from].word == "delivery") && d.out[next+1].kind == aColon { // “essential oils order: …”
		next++
	}
	if next+1 < len(d.out) && d.out[next].kind == aColon && d.out[next+1].kind == aName && (d.now == nil || d.now.amount == nil || d.now.named()) { // “essential oils: lavender 10 ml, …”
		d.becomes(from, to, AsLeftOut, nil)
		return next
	}
	if at := next; at < len(d.out) && d.out[at].kind == aFact && d.now == nil && d.ahead.Supplier == "" { // “essential oils from Hollin Mill – lemon 30 ml, …”
		for at < len(d.out) && d.out[at].kind == aFact && (d.nextFact(at, aSupplier) || d.nextFact(at, received)) {
			at++
		}
		if at > next && at+1 < len(d.out) && (d.out[at].kind == aDash || d.out[at].kind == aColon) && d.out[at+1].kind == aName {
			d.becomes(from, to, AsLeftOut, nil)
			return next
		}
	}
	if l := d.now; l != nil && l.named() && l.amount != nil && l.price != nil && l.Supplier == "" && !l.closed && !d.amountAfterName(next) && d.namesParty(from, to) { // “5 kg borax, 12.50, Borax House”
		l.Supplier = d.asSaid(from, to)
		d.becomes(from, to, AsSupplier, l.line)
		return next
	}
	if end := d.notCome(next); end > 0 { // “The percarbonate didn't.”
		d.becomes(from, d.out[end-1].to, AsQuestion, nil)
		d.unsure = append(d.unsure, Unsure{Line: -1, Code: "did-not-come", Text: sentenceCase(text) + " did not come: it is left out."})
		return end
	}
	l := d.lot(func(l *lotSaid) bool { return l.named() })
	if d.eachIs != nil && l.amount == nil {
		l.amount = d.eachIs
	}
	d.name(l, text)
	d.becomes(from, to, AsMaterial, l.line)
	return next
}

// isPicked reports whether a name is of herbs that came as they are picked: a bunch is said right
// before it, or behind it.
func (d *deliveryReader) isPicked(from, next int) bool {
	for i := from - 1; i >= max(0, from-2); i-- {
		if leafy(d.toks[i].word) {
			return true
		}
	}
	for k := next; k < len(d.out) && k < next+4 && d.out[k].kind != aStop && d.out[k].kind != aFact && d.out[k].kind != aName; k++ {
		if leafy(d.toks[d.out[k].to-1].word) {
			return true
		}
	}
	return false
}

// eachNames reports whether two names follow with nothing but “and” between them.
func (d *deliveryReader) eachNames(k int) bool {
	names := 0
	for ; k < len(d.out) && names < 2; k++ {
		switch m := &d.out[k]; {
		case m.kind == aName:
			names++
		case m.is(joiner | small), m.kind == aComma, m.kind == aColon, m.kind == aFact:
		default:
			return false
		}
	}
	return names == 2
}

// notCome is the mark after words, from mark k on, that say that what was named did not
// come; 0 where they say no such thing.
func (d *deliveryReader) notCome(k int) int {
	if d.now != nil && d.now.amount != nil && !d.now.named() || k >= len(d.out) {
		return 0
	}
	switch d.toks[d.out[k].from].word {
	case "didn't", "didnt", "hasn't", "hasnt", "wasn't", "wasnt", "isn't", "missing":
	default:
		return 0
	}
	for k < len(d.out) && d.out[k].kind != aStop && d.out[k].kind != aComma {
		k++
	}
	return k
}

// supplierIn takes what stands in brackets behind a lot for who it came from, “14.00 (Fernhill
// Herbs)”, and returns the mark after them; 0 where something else stands there.
func (d *deliveryReader) supplierIn(k int) int {
	l, end := d.now, d.closing(k, len(d.out))
	if l == nil || !l.named() || l.amount == nil || l.Supplier != "" || end <= k+1 || end >= len(d.out) || d.out[end].kind != aClosing {
		return 0
	}
	from, to := d.out[k+1].from, d.out[end].from
	for i := from + 1; i < to; i++ { // “(Withy Herbs, 12/11)”
		if d.toks[i].word != "," || !d.namesParty(from, i) {
			continue
		}
		text := strings.TrimSpace(d.clean[d.toks[i].to:d.toks[to].from])
		day, n, err := dateAt(text, d.o.Today, false)
		if short := dayShort.FindStringSubmatch(text); short != nil {
			if on, ok := dayOfThisYear(short, d.o.Today); ok {
				day, n, err = on, len(text), ""
			}
		}
		if n == len(text) && err == "" {
			l.Supplier, l.Received = d.asSaid(from, i), day
			d.becomes(d.out[k].from, i+1, AsSupplier, l.line)
			d.becomes(i+1, d.out[end].to, AsDate, l.line)
			return end + 1
		}
	}
	if d.hasFact(k, end) || d.hasAmount(k, end) || !d.namesParty(from, to) {
		return 0
	}
	l.Supplier = d.asSaid(from, to)
	d.becomes(d.out[k].from, d.out[end].to, AsSupplier, l.line)
	return end + 1
}

// capital reports whether a mark begins with a capital letter.
func (d *deliveryReader) capital(k int) bool {
	t := &d.toks[d.out[k].from]
	return unicode.IsUpper(firstLetter(d.text[t.from:t.to]))
}

// namesParty reports whether tokens are the name of somebody: two to five words, each with a
// capital, that are no material together.
func (d *deliveryReader) namesParty(from, to int) bool {
	if last := d.toks[to-1].word; to-from <= longestSupplier && sellers[last] && d.reader.read(d.said(from, to)) == nil { // “local beekeeper”
		return true
	}
	if to-from < 2 || to-from > longestSupplier || d.reader.read(d.said(from, to)) != nil {
		return false
	}
	for i := from; i < to; i++ {
		t := &d.toks[i]
		switch {
		case t.word == "&" || t.word == "and" || t.word == "the" || t.word == "of":
		case t.kind != isWord || !unicode.IsUpper(firstLetter(d.text[t.from:t.to])):
			return false
		}
	}
	return true
}

// strangeName is the end of a name that nothing is known of and that words of the lexicon stand in, at the head of a note or
// behind a comma and before so much: “Wool wash base 5 l”.
func (d *deliveryReader) strangeName(k, end int) int {
	if k > 0 && d.out[k-1].kind != aComma && d.out[k-1].kind != aStop && d.out[k-1].kind != aSlash && d.out[k-1].kind != aBullet && d.out[k-1].kind != aDash || d.now != nil && (!d.now.named() || d.now.amount == nil) {
		return end
	}
	for at := end; at < len(d.out) && at < k+4; at++ {
		switch m := &d.out[at]; {
		case (m.kind == anAmount && inMeasures(m.amount.Amount) || m.kind == aComma && at+1 < len(d.out) && d.out[at+1].kind == anAmount && inMeasures(d.out[at+1].amount.Amount)) && at > end && d.reader.read(d.said(d.out[k].from, m.from)) == nil:
			return at
		case m.kind != aWord && m.kind != aPhrase || d.toks[m.from].kind != isWord || d.isCue(m.from) || m.is(joiner|per|each):
			return end
		}
	}
	return end
}

// sellers are those that things are bought from, by what they do.
var sellers = wordSet("sellers")

// mostOfScent is up to how many millilitres “lemon” is its oil: fruit is not sold so.
const mostOfScent = 100

// name finds the material of a lot.
func (d *deliveryReader) name(l *lotSaid, text string) {
	l.Name = text
	amount := quantity.Amount{}
	if l.amount != nil {
		amount = l.amount.Amount
	}
	if scent := d.scentOf(text); scent != "" && amount.Kind() == quantity.Volume && millilitres(amount) <= mostOfScent { // “lemon 10 ml”
		text = scent
	}
	n, err := d.lib.ReadSaid(text, amount)
	if last := lastWord(text); err != nil && last != text { // “25 kg washing soda sack”
		if u, ok := quantity.UnitNamed(last); ok && isPack(u) {
			if with, e := d.lib.ReadSaid(strings.TrimSpace(strings.TrimSuffix(text, last)), amount); e == nil {
				n, err = with, nil
				l.Name = strings.TrimSpace(strings.TrimSuffix(text, last))
			}
		}
	}
	if err != nil {
		probe := &Line{name: text, Err: err}
		probe.Amount = quantity.Of(1, 1, quantity.Kilogram)
		d.spellRight(probe)
		if probe.Err == nil {
			if found, e := d.lib.Find(probe.Material); e == nil {
				l.Material, l.Err = found, nil
				return
			}
		}
	}
	l.Material, l.Err = n.Material, err
}

// strength reads “white vinegar 6 %”: it belongs to the name before or after.
func (d *deliveryReader) strength(k int) int {
	m := &d.out[k]
	if d.now != nil && d.now.named() && d.now.Material != nil && !d.nameFollows(k) {
		d.name(d.now, d.now.Name+" "+d.said(m.from, m.to))
		d.becomes(m.from, m.to, AsMaterial, d.now.line)
		return k + 1
	}
	for i := k + 1; i < len(d.out) && i < k+3; i++ {
		if d.out[i].kind == aName {
			text := d.said(m.from, d.out[i].to)
			l := d.lot(func(l *lotSaid) bool { return l.named() })
			d.name(l, text)
			d.becomes(m.from, d.out[i].to, AsMaterial, l.line)
			return i + 1
		}
	}
	d.becomes(m.from, m.to, Unread, nil)
	return k + 1
}

// walkWord reads a word that is nothing certain: a cue for what follows, or a part of a
// name that is not known.
func (d *deliveryReader) walkWord(k int) int {
	m := &d.out[k]
	t := &d.toks[m.from]
	if d.packagingAt(k) || d.packagesFirst(k) {
		return k + 1
	}
	if t.kind != isWord || d.isCue(m.from) {
		as := AsSmallTalk
		if t.kind == isNumber {
			as = Unread
		}
		d.becomesWhereUnread(m.from, m.to, as, nil)
		return k + 1
	}
	end := k
	for end < len(d.out) && d.out[end].kind == aWord && d.toks[d.out[end].from].kind == isWord && !d.isCue(d.out[end].from) {
		end++
	}
	if end < len(d.out) && d.out[end].kind == aName && end-k <= mostTail && d.now != nil && !d.now.named() {
		return end // belongs to that name
	}
	if l := d.now; (l != nil && l.named() && l.amount != nil || l == nil && len(d.lots) == 0) && end < len(d.out) && d.out[end].kind == aPhrase && d.capital(k) && (d.capital(end) || ofThatDay.MatchString(" "+d.toks[d.out[end].from].word)) && d.out[end].to == d.out[end].from+1 { // “Hollin Mill”, “Saturday market”, where a mill is a word of its own
		end++
	}
	end = d.strangeName(k, end)
	text := d.said(m.from, d.out[end-1].to)
	l := d.now
	if n := timesCode.FindStringSubmatch(text); n != nil && l != nil && l.named() && l.amount != nil && l.factor == 0 { // “1.5 kg bag 1.49 x4”
		l.factor, _ = strconv.Atoi(n[1])
		if l.price != nil && l.price.of == ofAll {
			l.price.of = ofEach
		}
		d.becomes(m.from, d.out[end-1].to, AsPacks, l.line)
		return end
	}
	if l != nil && l.named() && l.LotCode == "" && bareCode.MatchString(text) { // “Quayside, W51”
		l.LotCode = text
		d.becomes(m.from, d.out[end-1].to, AsLotCode, l.line)
		return end
	}
	if l != nil && l.amount != nil && !l.named() {
		d.name(l, text)
		d.becomes(m.from, d.out[end-1].to, AsMaterial, l.line)
		return end
	}
	if l == nil && isMonth(text) {
		d.becomesWhereUnread(m.from, d.out[end-1].to, AsLeftOut, nil)
		return end
	}
	if l == nil && end < len(d.out) && unicode.IsUpper(firstLetter(d.asSaid(m.from, d.out[end-1].to))) && (brings[d.toks[d.out[end].from].word] || d.nextFact(end, aHeading) && k == 0 || d.nextFact(end, received) && (k == 0 || d.out[k-1].kind == aFact || d.toks[d.out[k-1].from].word == "so" || d.toks[d.out[k-1].from].word == "and") || d.nextFact(end, received) && k == 0 && end+1 < len(d.out) && d.out[end+1].kind == aStop || d.out[end].kind == aColon || d.out[end].kind == aComma || d.out[end].kind == aBullet || d.out[end].kind == aDash && end+1 < len(d.out) && d.out[end+1].kind == anAmount) { // “Quayside delivered …”, “Quayside – 5 kg …”
		d.ahead.Supplier = d.asSaid(m.from, d.out[end-1].to)
		d.becomes(m.from, d.out[end-1].to, AsSupplier, nil)
		return end
	}
	if l != nil && l.named() && l.amount != nil && l.Supplier == "" && end-k <= longestSupplier && !d.isNamed(end) && !isMonth(text) && (unicode.IsUpper(firstLetter(d.asSaid(m.from, d.out[end-1].to))) || sellers[lastWord(text)]) {
		l.Supplier = strings.TrimSuffix(strings.TrimSuffix(d.asSaid(m.from, d.out[end-1].to), "'s"), "’s")
		if k > 0 && ofAllWords[d.toks[d.out[k-1].from].word] { // “…; both Quayside, yesterday”
			d.ofAll = true
			for _, other := range d.lots {
				other.Supplier = l.Supplier
			}
		}
		d.becomes(m.from, d.out[end-1].to, AsSupplier, l.line)
		return end
	}
	if end-k <= 3 && end < len(d.out) && d.out[end].kind == anAmount && (l == nil || l.named() && l.amount != nil && (l.closed || l.price != nil && d.isNamed(end))) {
		l = d.lot(func(*lotSaid) bool { return true })
		d.name(l, text)
		d.becomes(m.from, d.out[end-1].to, AsMaterial, l.line)
		return end
	}
	d.becomesWhereUnread(m.from, d.out[end-1].to, AsLeftOut, nil)
	return end
}

// clearedIn takes a name in brackets behind a lot for what its own name means, “wax 1 kg (beeswax)”: the
// mark after them; 0 where something else stands there.
func (d *deliveryReader) clearedIn(k int) int {
	l, end := d.now, d.closing(k, len(d.out))
	if l == nil || !l.named() || l.Package || l.amount == nil || end != k+2 || d.out[end].kind != aClosing || d.out[k+1].kind != aName {
		return 0
	}
	m := &d.out[k+1]
	inner := d.said(m.from, m.to)
	found := d.reader.read(inner)
	if found == nil || l.Material != nil && l.Material != found && d.reader.read(l.Name+" ("+inner+")") != found {
		return 0
	}
	d.name(l, inner)
	d.becomes(d.out[k].from, d.out[end].to, AsMaterial, l.line)
	return end + 1
}

// packedSo reports whether a word behind a number says how many packs of a lot came.
func (l *lotSaid) packedSo(word string, n *amountSaid) bool {
	terms := n.Amount.Terms()
	return (word == "pack" || word == "packs" || word == "pk" || word == "pks") && len(terms) == 1 && terms[0].Low.Float() > 1 && terms[0].Low == terms[0].High && l.named() && l.amount != nil && l.factor == 0 && l.price == nil && !l.closed
}

// isNamed reports whether what stands before a mark is what so much came of: a weight or a volume
// follows, and no name of its own.
func (d *deliveryReader) isNamed(k int) bool {
	if k >= len(d.out) || d.out[k].kind != anAmount {
		return false
	}
	u := d.out[k].amount.Amount.Unit()
	return (u.Kind() == quantity.Mass || u.Kind() == quantity.Volume) && !d.nameFollows(k)
}

var timesCode = regexp.MustCompile(`^[x×](\d{1,3})$`)

// bareCode is a code that nothing announces.
var bareCode = regexp.MustCompile(`^[A-Z]{1,4}-?\d{1,6}[A-Z]?$`)

// isMonth reports whether a text is the name of a month.
func isMonth(text string) bool {
	return len(text) >= 3 && slices.Contains(monthNumbers, strings.ToLower(text)[:3]) && dateWords.FindString(text) == text
}

// brings are what a supplier does.
var brings = wordSet("brings")

func firstLetter(s string) rune {
	for _, r := range s {
		return r
	}
	return 0
}
