package listener

import (
	"slices"
	"time"

	"github.com/shopspring/decimal"

	"keencrock/core/material"
	"keencrock/core/quantity"
)

// Moved is what is said to have become of jars: one act, of several goods.
type Moved struct {
	Kind  MovedKind
	To    string // as it is known, or as it was said; empty for nobody
	Known bool   // To is somebody known
	On    time.Time
	Lines []MovedLine
}

// Ordered is what is said to be wanted: of several goods, for a day, once or every so many
// weeks. A line whose Good is −1 is of what they usually have.
type Ordered struct {
	To         string
	Known      bool
	Lines      []MovedLine
	Day        time.Time
	EveryWeeks int // 0 for once
	Until      time.Time
}

// MovedKind is how jars go or come.
type MovedKind string

// Jars are sold, given, sent out without a word of a price, or come back.
const (
	MovedSold  MovedKind = "sold"
	MovedGiven MovedKind = "given"
	MovedGone  MovedKind = "gone"
	MovedBack  MovedKind = "returned"
)

// MovedLine is so many jars of one good, or so much of it by weight.
type MovedLine struct {
	Good  int // of those that are known, from 0
	Count int // 0 of what goes by weight
	byWeight
	Price    decimal.Decimal // of each; of what goes by weight of all of it
	HasPrice bool
	Currency string
	Empty    bool // the jars alone, for their deposit
}

// Grams is how much goes by weight; 0 of jars, and of what is measured.
func (l *MovedLine) Grams() float64 { return l.grams }

// Millilitres is how much is measured out; 0 of jars, and of what goes by weight.
func (l *MovedLine) Millilitres() float64 { return l.ml }

// Jars is what was heard of jars that move.
type Jars struct {
	Text   string
	Words  []Word // Line is the act, from 0
	Moved  []Moved
	Orders []Ordered
	Unsure []Unsure // Line is the act, from 0; −1 for none
}

// JarOptions are what is read by: the goods and the parties that are known, by name, the
// day, and the currency of the workshop.
type JarOptions struct {
	Goods    []string
	Parties  []string
	Today    time.Time
	Currency string
	Measures quantity.Measures // whose pints and ounces are said
	Wanted   bool              // it is all of orders, whether it says so or not
}

// ReadJars reads what is said of jars that are sold, given, sent out or brought back:
//
//	six Towpath at the stall, 4 each, two back
//	the neighbour had one Lockgate, a gift
//	sold 3 Heron and 2 Sluice to the café on the Long Reach for 21
//	500 g of Towpath to the neighbour for 3.20
//	the guest house wants 40 more by Friday week
//
// What could not be read stands in Unsure. A text that is too long is a [*TooLongError].
func ReadJars(text string, lib *material.Library, o JarOptions) (*Jars, error) {
	if len(text) > MaxText {
		return nil, &TooLongError{Bytes: len(text)}
	}
	r := newReader(text, lib)
	j := &jarReader{reader: r, o: o, goods: namesIn(o.Goods), parties: namesIn(o.Parties), act: -1, wanted: o.Wanted}
	for i := 0; i < len(r.toks); {
		i = j.walk(i)
	}
	j.finish()
	return &Jars{Text: r.text, Words: r.allWords(), Moved: j.moved(), Orders: j.orders(), Unsure: j.unsure}, nil
}

// jarWords are what is said of jars, by what it means; in the file of the language.
var (
	soldWords   = wordSet("jarsSold")
	givenWords  = wordSet("jarsGiven")
	backWords   = wordSet("jarsBack")
	goneWords   = wordSet("jarsGone")
	tookWords   = wordSet("jarsTook")   // they had one: who stands before it is the party
	wantsWords  = wordSet("jarsWanted") // an order, which moves nothing
	emptyWords  = wordSet("jarsEmpty")
	holderWords = wordSet("jarsHold") // jars, tubs: say nothing beside a good
	toWords     = wordSet("jarsTo")
	smallWords  = wordSet("jarsSmall")
)

// spoken is a name as it is looked for: its words in small letters.
type spokenName struct {
	words []string
	of    int
}

// namesIn are names by their words, the longest first.
func namesIn(names []string) []spokenName {
	var out []spokenName
	for i, n := range names {
		var words []string
		for _, t := range tokens(sound(n)) {
			if t.kind == isWord || t.kind == isNumber {
				words = append(words, t.word)
			}
		}
		if len(words) > 0 {
			out = append(out, spokenName{words, i})
		}
	}
	slices.SortStableFunc(out, func(a, b spokenName) int { return len(b.words) - len(a.words) })
	return out
}
