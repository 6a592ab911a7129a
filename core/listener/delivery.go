package listener

import (
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode"

	"github.com/shopspring/decimal"

	"keencrock/core/material"
	"keencrock/core/quantity"
)

// Delivery is what was read of a note on what came: one lot or many.
type Delivery struct {
	Text   string
	Lots   []*Lot
	Words  []Word
	Unsure []Unsure // Line is the lot, from 0
}

// Lot is one lot that came.
type Lot struct {
	Material *material.Material // nil for packaging, and where the name is not known
	Err      error              // why the material is not known: *material.UnknownError or *material.StrengthError
	Name     string             // as it was said
	Package  bool               // jars, lids and the like, which are counted
	HoldsML  float64            // what one jar holds; 0 when it was not said
	Written  string             // the amount of one pack, as it was understood
	Packs    int                // of the same; pieces of packaging
	MassG    float64            // of all packs together; 0 for packaging, and where it is not known
	VolumeML float64            // of all packs together where it was said as one; 0 otherwise
	// Price is of the whole line, in Currency; meaningful where HasPrice is set. A gift
	// has a price, of nothing.
	Price      decimal.Decimal
	HasPrice   bool
	Currency   string // ISO 4217; the workshop's where none was said
	Supplier   string
	LotCode    string
	BestBefore time.Time // zero when not given
	Received   time.Time // zero when not said
}

// DeliveryOptions are what a note is read by.
type DeliveryOptions struct {
	Measures quantity.Measures
	Today    time.Time // dates are taken in its location
	Currency string    // the workshop's, ISO 4217
	// Suppliers are those that are known, so that their names are found whole.
	Suppliers []string
}

// Deposit is the code of what is told and not asked: what comes back is no price.
const Deposit = "deposit"

// maxPacks and maxMassG refuse slips of the pen.
const (
	maxPacks = 100_000
	maxMassG = 10_000_000
)

// ReadDelivery reads what came, one lot or many in any order, the way a maker notes it:
//
//	5 kg washing soda 11.40 from Quayside, lot 22B, best 2027-06
//	3 x 1 kg oxygen bleach at 5.20 each; two boxes of borax, 2 kg each, twelve euros together
//	from Marrow Stores: 25kg bag of baking soda, 31 euros, and 1 kg borax 6.50
//	24 jars 1 l, 21.60
//
// What could not be read stands in Unsure. A text that is too long is a [*TooLongError].
func ReadDelivery(text string, lib *material.Library, o DeliveryOptions) (*Delivery, error) {
	if len(text) > MaxText {
		return nil, &TooLongError{Bytes: len(text)}
	}
	r := newReader(text, lib)
	r.facts = factsIn(r.clean, o)
	r.marks()
	d := &deliveryReader{reader: r, o: o}
	d.read()
	return &Delivery{Text: r.text, Lots: d.kept(), Words: d.words(), Unsure: d.unsure}, nil
}

// deliveryReader walks the marks of a note once. What is said before the first lot is of
// all of them; what is said after one is of that one.
type deliveryReader struct {
	*reader
	o      DeliveryOptions
	lots   []*lotSaid
	now    *lotSaid
	ahead  lotSaid // said before any lot
	unsure []Unsure
	last   *priceSaid
	joined bool        // “and” stands before
	bareAt int         // the token after a price that was a mere number
	each   bool        // “each” was said before the price
	wrong  *lotSaid    // taken back: the next amount takes its place
	ofAll  bool        // “both” was said in this sentence
	ofNext *priceSaid  // “5.10 for soda crystals”: of the lot that comes
	eachIs *amountSaid // “a kilo of each”: of the names that come
}

// lotSaid is a lot as far as it has been read.
type lotSaid struct {
	Lot
	amount   *amountSaid
	eachOf   *amountSaid // “2 kg each”
	pieces   quantity.Amount
	factor   int // packs that were said apart
	price    *priceSaid
	line     *Line // for the fates of words
	joined   bool  // by “and” to the one before
	unpriced bool  // “no price yet”
	inPacks  int   // packs that were said in brackets
	closed   bool  // a stop stands after it
	again    bool  // of what came before it
}

// priceSaid is a price and what it is of.
type priceSaid struct {
	amount   decimal.Decimal
	currency string
	of       priceOf
	unit     string
	at       bool // “at 5.20”
	per      quantity.Amount
}

// priceOf says what a price is of.
type priceOf uint8

const (
	ofAll  priceOf = iota
	ofEach         // a pack, or a piece
	ofUnit         // a kilogram, a litre, 100 g
)

func (d *deliveryReader) read() {
	for k := 0; k < len(d.out); {
		k = d.walk(k)
	}
	d.finish()
}

// lot is the one that is being read; another begins where that one has what is said now.
func (d *deliveryReader) lot(has func(*lotSaid) bool) *lotSaid {
	if d.now == nil || has(d.now) {
		d.now = &lotSaid{line: &Line{}, price: d.ofNext}
		d.ofNext = nil
		d.lots = append(d.lots, d.now)
		d.good.lines = append(d.good.lines, d.now.line)
	}
	return d.now
}

// walk reads one mark, and returns the next.
func (d *deliveryReader) walk(k int) int {
	m := &d.out[k]
	line := func() *Line {
		if d.now == nil {
			return nil
		}
		return d.now.line
	}
	switch m.kind {
	case aFact:
		return d.fact(k)
	case anAmount:
		return d.walkAmount(k)
	case aName:
		return d.walkName(k)
	case aStop:
		d.ofAll, d.eachIs = false, nil
		d.becomesWhereUnread(m.from, m.to, AsSmallTalk, line())
		if d.now != nil && d.now.named() {
			d.now.closed = true
		}
	case anOpening, aClosing, aComma, aColon, aDash, aBullet, aSlash:
		d.joined = false
		d.becomesWhereUnread(m.from, m.to, AsSmallTalk, line())
	case aPhrase:
		if m.is(each) && d.now != nil {
			d.eachSaid()
		}
		if m.is(kind|thing|machine) && d.read1(m) != nil {
			m.kind = aName
			return d.walkName(k)
		}
		if d.packagingAt(k) || d.packagesFirst(k) {
			return k + 1
		}
		if m.is(joiner) {
			d.joined = true
		}
		if m.is(none) && d.nextFact(k+1, noPrice) {
			break
		}
		if m.is(correct|correctWell|none) && d.now != nil && d.now.amount != nil && d.now.price == nil && d.amountFollows(k+1) { // “a litre of lemon oil, no, 100 ml lemon oil”
			d.wrong = d.now
		}
		d.becomesWhereUnread(m.from, m.to, AsSmallTalk, line())
	case aWord:
		return d.walkWord(k)
	default: // a time, a warmth, a ratio
		d.becomes(m.from, m.to, AsLeftOut, nil)
	}
	return k + 1
}

func (l *lotSaid) named() bool { return l.Material != nil || l.Err != nil || l.Package }

// walkAmount reads how much came.
func (d *deliveryReader) walkAmount(k int) int {
	m := &d.out[k]
	said := d.amountSaid(m)
	name := d.nameFollows(k)
	if said.Amount.Unit() == quantity.Percent && (name || d.now != nil && d.now.named()) {
		return d.strength(k)
	}
	next := k + 1
	eachNext := next < len(d.out) && d.out[next].is(each)
	switch {
	case said.Amount.Open() != quantity.NotOpen && !name, m.article && !name && !d.packagingNext(next):
		d.becomes(m.from, m.to, AsSmallTalk, nil)
		return next
	case d.now != nil && d.now.named() && !d.now.Package && d.now.amount == nil && !d.now.closed && thingsOfPackaging(said.Amount.Unit()) && !name && next < len(d.out) && d.out[next].kind == anAmount && (isVolume(d.out[next].amount.Amount) || d.out[next].amount.Amount.Kind() == quantity.Mass): // “cider vinegar 2 bottles 750 ml each”
		d.now.amount = said
		d.now.eachOf = d.amountSaid(&d.out[next])
		d.becomes(m.from, m.to, AsPacks, d.now.line)
		d.becomes(d.out[next].from, d.out[next].to, AsAmount, d.now.line)
		if next+1 < len(d.out) && d.out[next+1].is(each) {
			d.becomes(d.out[next+1].from, d.out[next+1].to, AsPacks, d.now.line)
			next++
		}
		return next + 1
	case d.packagingNext(next), sizedPackaging(said) && !name, thingsOfPackaging(said.Amount.Unit()) && !name:
		return d.packages(k, said)
	case d.now != nil && d.now.Package && isVolume(said.Amount) && !name: // “24 jars 1 l”
		d.holds(said)
		return next
	case eachNext && next+1 < len(d.out) && (d.now == nil || d.now.amount != nil && d.now.named()) && d.eachNames(next+1): // “a kilo of each soda and borax”
		d.eachIs, d.now = said, nil
		d.becomes(m.from, d.out[next].to, AsAmount, nil)
		return next + 1
	case eachNext && !name && d.now != nil && d.now.amount != nil: // “three boxes of borax, 2 kg each”
		d.now.eachOf = said
		d.becomes(m.from, m.to, AsPacks, d.now.line)
		d.becomes(d.out[next].from, d.out[next].to, AsPacks, d.now.line)
		return next + 1
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
	case d.now != nil && d.now.amount != nil && !d.now.named() && isPack(d.now.amount.Amount.Unit()) && name && !isPack(said.Amount.Unit()) && (isVolume(said.Amount) || said.Amount.Kind() == quantity.Mass): // “4 bags at 500 g borax”
		d.now.eachOf = said
		d.becomes(m.from, m.to, AsPacks, d.now.line)
		return next
	case d.now != nil && d.now.amount != nil && !d.now.named() && !name: // two amounts for a name that is to come
		if isPack(d.now.amount.Amount.Unit()) || d.now.amount.Amount.Unit() == quantity.Bare {
			d.now.eachOf = said
			d.becomes(m.from, m.to, AsPacks, d.now.line)
			return next
		}
	case d.now != nil && d.now.named() && d.now.amount != nil && isPack(d.now.amount.Amount.Unit()) && !name: // “2 bags of borax (5 kg)”
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
	if n, vessel := vesselCount(said.Amount); vessel && !name && d.now != nil && d.now.named() && !d.now.Package && d.now.amount != nil && d.now.inPacks == 0 && !d.now.closed && k > 0 && d.toks[m.from-1].word == "in" { // “twenty kilos in four sacks”
		d.now.inPacks = int(n + 0.5)
		d.becomes(m.from, m.to, AsPacks, d.now.line)
		return next
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
var isSize = map[string]bool{"mm": true, "cm": true}

// timesBefore reports whether “x” or “times” stands right before a mark.
func (d *deliveryReader) timesBefore(k int) bool {
	if k == 0 {
		return false
	}
	switch d.toks[d.out[k-1].to-1].word {
	case "x", "×", "times":
		return true
	}
	return false
}

// ofThem reports whether a number is of what was said before: “six of them”.
func (d *deliveryReader) ofThem(k int) bool {
	at := d.out[k].to
	if at < len(d.toks) && d.toks[at].word == "of" {
		at++
	}
	return at < len(d.toks) && d.toks[at-1].word == "of" && (d.toks[at].word == "them" || d.toks[at].word == "those" || d.toks[at].word == "these")
}

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
	if next < len(d.out) && d.out[next].kind == anOpening {
		end := d.closing(next, len(d.out))
		if inner := d.said(d.out[next].from+1, d.out[end].from); end > next+1 && !d.hasFact(next, end) && !(d.out[next+1].kind == anAmount && d.out[next+1].amount.Amount.Unit() != quantity.Percent) {
			text += " (" + inner + ")"
			to, next = d.out[end].to, end+1
		}
	}
	if next+1 < len(d.out) && d.out[next].kind == aColon && d.out[next+1].kind == aName && (d.now == nil || d.now.amount == nil || d.now.named()) { // “essential oils: lavender 10 ml, …”
		d.becomes(from, to, AsLeftOut, nil)
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

// eachNames reports whether two names follow with nothing but “and” between them.
func (d *deliveryReader) eachNames(k int) bool {
	names := 0
	for ; k < len(d.out) && names < 2; k++ {
		switch m := &d.out[k]; {
		case m.kind == aName:
			names++
		case m.is(joiner | small), m.kind == aComma, m.kind == aColon:
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

// factorAt reads the “3” of “3 x 1 kg”, or of “three times 500 g”.
func (d *deliveryReader) factorAt(k int, said *amountSaid) bool {
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
		switch d.toks[d.out[k].from].word {
		case "x", "×", "times", "*":
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
	case l != nil && l.named() && l.amount == nil && l.Material != nil && l.Material.Piece.Known():
		l.amount = said
		d.becomes(m.from, m.to, AsAmount, l.line)
	case l != nil && l.price != nil && l.price == d.last && d.bareAt == m.from && n.Value >= 10 && n.Value < 100: // “four twenty”
		l.price.amount = l.price.amount.Add(decimal.NewFromFloat(n.Value).Div(decimal.NewFromInt(100)))
		d.becomes(m.from, m.to, AsPrice, l.line)
	case l != nil && l.named() && l.price == nil && said.Amount.Open() == quantity.NotOpen && !m.article:
		d.priced(&priceSaid{amount: decimal.NewFromFloat(n.Value).Round(2), currency: d.o.Currency}, m.from, m.to)
		d.bareAt = m.to
	case l != nil && l.named() && l.amount != nil && l.factor == 0 && l.price != nil && l.price.of == ofAll && k > 0 && gets[d.toks[m.from-1].word] && n.Value >= 2: // “1.25 for a kilo bag, got eight”
		l.factor, l.price.of = int(n.Value+0.5), ofEach
		d.becomes(m.from, m.to, AsPacks, l.line)
	default:
		d.becomes(m.from, m.to, Unread, nil)
	}
	return k + 1
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
	if l == nil && end < len(d.out) && unicode.IsUpper(firstLetter(d.asSaid(m.from, d.out[end-1].to))) && (brings[d.toks[d.out[end].from].word] || d.out[end].kind == aColon || d.out[end].kind == aComma || d.out[end].kind == aBullet) { // “Quayside delivered …”
		d.ahead.Supplier = d.asSaid(m.from, d.out[end-1].to)
		d.becomes(m.from, d.out[end-1].to, AsSupplier, nil)
		return end
	}
	if l != nil && l.named() && l.amount != nil && l.Supplier == "" && end-k <= longestSupplier && unicode.IsUpper(firstLetter(d.asSaid(m.from, d.out[end-1].to))) {
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
	if end-k <= 3 && end < len(d.out) && d.out[end].kind == anAmount && (l == nil || l.named() && l.amount != nil && l.closed) {
		l = d.lot(func(*lotSaid) bool { return true })
		d.name(l, text)
		d.becomes(m.from, d.out[end-1].to, AsMaterial, l.line)
		return end
	}
	d.becomesWhereUnread(m.from, d.out[end-1].to, AsLeftOut, nil)
	return end
}

var timesCode = regexp.MustCompile(`^[x×](\d{1,3})$`)

// bareCode is a code that nothing announces.
var bareCode = regexp.MustCompile(`^[A-Z]{1,4}-?\d{2,6}[A-Z]?$`)

// isMonth reports whether a text is the name of a month.
func isMonth(text string) bool {
	return len(text) >= 3 && slices.Contains(monthNumbers, strings.ToLower(text)[:3]) && dateWords.FindString(text) == text
}

// brings are what a supplier does.
var brings = map[string]bool{"delivered": true, "brought": true, "sent": true, "dropped": true, "delivery": true, "has": true}

func firstLetter(s string) rune {
	for _, r := range s {
		return r
	}
	return 0
}

// kept are the lots as they are told.
func (d *deliveryReader) kept() []*Lot {
	out := make([]*Lot, len(d.lots))
	for i, l := range d.lots {
		out[i] = &l.Lot
	}
	return out
}

// words are the fates, with the lot each belongs to.
func (d *deliveryReader) words() []Word {
	words := d.allWords()
	for i := range words {
		if words[i].Line >= 0 {
			words[i].Good = words[i].Line
		}
	}
	return words
}

func capital(s string) string { return sentenceCase(s) }

func stopFor(s string) string {
	if strings.HasSuffix(s, "?") || strings.HasSuffix(s, ".") {
		return ""
	}
	return "."
}
