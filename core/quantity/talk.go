package quantity

import (
	"strings"
	"unicode/utf8"
)

// What a reader of running text needs to know of amounts: where one may begin, and what
// is made of one that was said before.

// MayBegin reports whether an amount, or a time, may begin with a word in small letters,
// as a cheap question before it is read.
func MayBegin(word string) bool {
	if beginWords[word] {
		return true
	}
	e := lexicon[strings.TrimSuffix(word, ".")]
	switch e.role {
	case isNumber, isFill, isAbout, isSet:
		return true
	case isUnit:
		return len(word) > 2
	case isArticle:
		return word != "the"
	}
	return false
}

// IsAbout reports whether a word says that an amount is not exact.
func IsAbout(word string) bool { return lexicon[word].role == isAbout }

// IsFill reports whether a word says how a spoon is filled, or how big it is.
func IsFill(word string) bool { return lexicon[word].role == isFill }

// IsNumber reports whether a word is a number in words.
func IsNumber(word string) bool { return lexicon[word].role == isNumber }

// beginWords begin what is no number: an open amount, a total, a fruit's juice.
var beginWords = func() map[string]bool {
	words := map[string]bool{}
	for _, w := range strings.Fields("to up top fill qs enough between from juice peel peels rind rinds skin skins overnight over") {
		words[w] = true
	}
	for _, f := range fruitWords {
		for _, w := range strings.Fields(f.words) { // “orange peel from a dozen oranges”
			words[w] = true
		}
	}
	for _, p := range openPhrases {
		head, _, _ := strings.Cut(p.phrase, " ")
		words[head] = true
	}
	return words
}()

// UnitNamed is the unit of a word that stands alone, such as “teaspoons”; ok is false
// where it is none.
func UnitNamed(word string) (u Unit, ok bool) {
	e := lexicon[strings.TrimSuffix(strings.ToLower(word), ".")]
	return e.unit, e.role == isUnit
}

// ReadWaitPrefix reads a time at the beginning of a text, and says where it ends, in
// bytes; ok is false where there is none.
func ReadWaitPrefix(s string) (w Wait, end int, ok bool) {
	w, end, err := readWait(s)
	return w, end, err == nil
}

// Times is the amount so many times over, num/den being more than zero; ok is false for
// one without a figure, or one too big to be written.
func (a Amount) Times(num, den int64) (Amount, bool) {
	if a.n == 0 || a.open != NotOpen || num <= 0 || den <= 0 {
		return Amount{}, false
	}
	factor := newNumber(num, den)
	for i := range a.terms[:a.n] {
		t := &a.terms[i]
		t.Low, t.High = t.Low.times(factor), t.High.times(factor)
		if t.High.num > maxNumerator || t.High.den > maxDenominator || t.Low.den > maxDenominator {
			return Amount{}, false
		}
	}
	return a, true
}

// InUnitOf is as many as the amount says of the unit, the fill and the set of measures of
// another: “no, two” after three cups is two cups. Both have one term; ok is false
// otherwise.
func (a Amount) InUnitOf(other Amount) (Amount, bool) {
	if a.n != 1 || other.n != 1 {
		return Amount{}, false
	}
	t := &a.terms[0]
	t.Unit, t.Set = other.terms[0].Unit, other.terms[0].Set
	if t.Fill == Plain {
		t.Fill = other.terms[0].Fill
	}
	if t.Fill != Plain && t.Unit.Kind() != Volume && (t.Fill < Large || t.Unit.Kind() != Count) {
		t.Fill = Plain
	}
	a.upTo = other.upTo
	return a, true
}

// Total is the amount as what is made up to: “16 fl oz” becomes “to 16 fl oz”.
func (a Amount) Total() Amount {
	a.upTo = a.n > 0
	return a
}

// Plain is a total as an amount that goes in: “to 1 l” becomes “1 l”.
func (a Amount) Plain() Amount {
	a.upTo = false
	return a
}

// Remainder is what is left of a hundred per cent, as an amount; ok is false where
// nothing is.
func Remainder(percent float64) (Amount, bool) {
	hundredths := int64((100-percent)*100 + 0.5)
	if hundredths <= 0 || hundredths > 100_00 {
		return Amount{}, false
	}
	return Of(hundredths, 100, Percent), true
}

// clipped is at most so many bytes of a text, cut between letters.
func clipped(s string, most int) string {
	if len(s) <= most {
		return s
	}
	for most > 0 && !utf8.RuneStart(s[most]) {
		most--
	}
	return s[:most]
}

// longestSaid is how many bytes of a running text an amount may be said in.
const longestSaid = 160

// ReadSaid reads an amount at a place of a running text and says where it ends, in bytes
// from there, a following “of” included; ok is false where none stands.
func ReadSaid(s string) (r Reading, ok bool) {
	r, err := ReadPrefix(clipped(s, longestSaid))
	return r, err == nil
}
