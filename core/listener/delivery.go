package listener

import (
	"strings"
	"time"

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
	r.leaveOutColumns()
	r.countsPlain()
	r.facts = factsIn(r.clean, o)
	r.marks()
	r.oneOf()
	d := &deliveryReader{reader: r, o: o}
	d.read()
	return &Delivery{Text: r.text, Lots: d.kept(), Words: d.words(), Unsure: d.unsure}, nil
}

// oneOf takes a measure by itself behind a name for one of it: “coconut oil kilo 6.50”.
func (r *reader) oneOf() {
	for k := 1; k < len(r.out); k++ {
		m := &r.out[k]
		if m.kind != aWord || m.to != m.from+1 || r.out[k-1].kind != aName || r.out[k-1].to != m.from || k+1 < len(r.out) && r.out[k+1].kind != aFact && r.out[k+1].kind != anAmount && r.out[k+1].kind != aComma {
			continue
		}
		u, ok := quantity.UnitNamed(r.toks[m.from].word)
		if !ok || isVessel(u) || u.Kind() != quantity.Mass && u.Kind() != quantity.Volume || k > 1 && r.out[k-2].kind == anAmount && !r.out[k-2].article {
			continue
		}
		*m = mark{kind: anAmount, from: m.from, to: m.to, end: m.to, amount: quantity.Reading{Amount: quantity.Of(1, 1, u)}}
	}
}

// leaveOutColumns drops a first line that says no more than what stands in the columns below it: “Item,Qty,Price”.
func (r *reader) leaveOutColumns() {
	end, words := 0, 0
	for ; end < len(r.toks) && r.toks[end].kind != isBreak; end++ {
		switch t := &r.toks[end]; {
		case t.kind == isWord && columnWords[t.word]:
			words++
		case t.kind == isSign:
		default:
			return
		}
	}
	if words < 2 || end == len(r.toks) {
		return
	}
	clean := []byte(r.clean)
	for i := range end {
		r.fates[r.origin[i]].became = AsSmallTalk
		for at := r.toks[i].from; at < r.toks[i].to; at++ {
			clean[at] = ' '
		}
	}
	r.clean = string(clean)
	r.toks, r.origin = r.toks[end:], r.origin[end:]
}

// columnWords are what the columns of a table of goods are called.
var columnWords = wordSet("columnWords")

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
	alone  bool        // the supplier that was said last is of one lot, whatever it is
	ofNext *priceSaid  // “5.10 for soda crystals”: of the lot that comes
	eachIs *amountSaid // “a kilo of each”: of the names that come

	sum     *priceSaid      // what all of it came to, said after the prices of each
	freight decimal.Decimal // what bringing it cost
	taxed   bool            // the tax, or something that is taken off, stands apart
	spoken  string          // the currency that was said last
}

// lotSaid is a lot as far as it has been read.
type lotSaid struct {
	Lot
	amount   *amountSaid
	eachOf   *amountSaid // “2 kg each”
	whole    bool        // eachOf is of all packs together
	told     *amountSaid // what the packs come to, said once more
	pieces   quantity.Amount
	boxes    int // that jars came in: a price is of one of them
	factor   int // packs that were said apart
	price    *priceSaid
	line     *Line      // for the fates of words
	joined   bool       // by “and” to the one before
	unpriced bool       // “no price yet”
	inPacks  int        // packs that were said in brackets
	inCarton int        // packs in one of what they came in
	closed   bool       // a stop stands after it
	again    bool       // of what came before it
	more     []moreSaid // prices right behind its own
}

// priceSaid is a price and what it is of.
type priceSaid struct {
	amount   decimal.Decimal
	currency string
	of       priceOf
	unit     string
	at       bool // “at 5.20”
	per      quantity.Amount
	unsaid   bool   // in which currency
	each     string // what it is each of: bottle
	packs    int    // that it is of together: “3 for 4.50”
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
	case anOpening:
		if next := d.supplierIn(k); next > 0 {
			return next
		}
		if next := d.clearedIn(k); next > 0 {
			return next
		}
		d.joined = false
		d.becomesWhereUnread(m.from, m.to, AsSmallTalk, line())
	case aClosing, aComma, aColon, aDash, aBullet, aSlash:
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
		if end := d.strangeName(k, k); m.is(kind) && end > k+1 {
			l := d.lot(func(l *lotSaid) bool { return l.named() })
			d.name(l, d.said(m.from, d.out[end-1].to))
			d.becomes(m.from, d.out[end-1].to, AsMaterial, l.line)
			return end
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
		if m.is(correct|correctWell) && d.renamedAfter(k) { // “castor sugar, no, castor oil”
			l := d.now
			d.strike(l.line, func(b Became) bool { return b == AsMaterial })
			l.Material, l.Err, l.Name, l.closed = nil, nil, "", false
		}
		d.becomesWhereUnread(m.from, m.to, AsSmallTalk, line())
	case aWord:
		return d.walkWord(k)
	default: // a time, a warmth, a ratio
		d.becomes(m.from, m.to, AsLeftOut, nil)
	}
	return k + 1
}

// renamedAfter reports whether another name takes the place of that of the lot, right behind a word of correction.
func (d *deliveryReader) renamedAfter(k int) bool {
	if d.now == nil || !d.now.named() || d.now.Package || d.now.amount == nil || d.now.price != nil {
		return false
	}
	for k++; k < len(d.out) && (d.out[k].kind == aComma || d.out[k].is(small)); k++ {
	}
	return k < len(d.out) && d.out[k].kind == aName && !d.amountAfterName(k+1)
}

func (l *lotSaid) named() bool { return l.Material != nil || l.Err != nil || l.Package }

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
