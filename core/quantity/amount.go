package quantity

import (
	"errors"
	"fmt"
	"math"
)

// maxTerms is how many terms a sum may have: "2 cups + 2 tbsp + 1 tsp".
const maxTerms = 4

// Amount is a written amount, understood. It is a small comparable value: two
// amounts are equal when they say the same, however they were spelled. The
// zero value is no amount at all.
type Amount struct {
	terms [maxTerms]Term
	n     uint8
	upTo  bool
	open  Open
}

// Open is an amount without a figure, as makers say it.
type Open uint8

// What may be said instead of a figure; NotOpen is the zero value.
const (
	NotOpen Open = iota
	Some
	ToTaste
	AsNeeded
	ToCover
	ToFill
)

var openNames = [...]string{"", "some", "to taste", "as needed", "enough to cover", "to fill"}

// String returns the words for it, as [Parse] reads them.
func (o Open) String() string { return openNames[o] }

// OpenAmount is an amount without a figure.
func OpenAmount(o Open) Amount { return Amount{open: o} }

// Term is one summand of an amount, such as "10–15 drops" or "1 heaped tbsp".
type Term struct {
	Low, High Number // equal unless a range was written
	Unit      Unit
	Fill      Fill
	Set       Measures // AsWritten unless said, as in "2 imperial pints"
	About     bool
}

// Fill is how a spoon or cup was filled.
type Fill uint8

// Plain is the zero value: nothing was said.
const (
	Plain Fill = iota
	Level
	Heaped
	Rounded
	Scant
	Packed
	Large
	Small
	Medium
)

var fillNames = [...]string{"", "level", "heaped", "rounded", "scant", "packed", "large", "small", "medium"}

// How much a fill holds against a level one. Common practice, from memory; a
// workshop that cares weighs its own spoon.
var fillFactors = [...]Range{
	Plain:   {1, 1, 1},
	Level:   {1, 1, 1},
	Heaped:  {1.6, 1.25, 2},
	Rounded: {1.3, 1.15, 1.6},
	Scant:   {0.9, 0.8, 0.97},
	Packed:  {1, 1, 1}, // packing shows in the density, not the volume
	Large:   {1.4, 1.1, 2},
	Small:   {0.6, 0.4, 0.9},
	Medium:  {1, 0.8, 1.2},
}

// aboutShare widens an amount written with "about". Common practice.
const aboutShare = 0.1

// Counted returns the amount so many times over, in whole drops or pieces or in
// half spoons, where it is one term of them; ok is false otherwise.
func (a Amount) Counted(factor float64) (Amount, bool) {
	if a.n != 1 || a.upTo || a.terms[0].Fill != Plain || !(factor > 0 && factor < 1e6) {
		return Amount{}, false
	}
	t := a.terms[0]
	part := 1.0
	switch t.Unit {
	case Drop, Piece, Nut, Lemon, Tab, Bar, Bare:
	case Teaspoon, Tablespoon, Dessertspoon, Scoop, Spoon, Pinch, Dash:
		part = 4
	default:
		return Amount{}, false
	}
	n := math.Round((t.Low.Float() + t.High.Float()) / 2 * factor * part)
	if n < 1 || n > maxNumerator {
		return Amount{}, false
	}
	t.Low = newNumber(int64(n), int64(part))
	t.High, t.About = t.Low, false
	return Amount{terms: [maxTerms]Term{t}, n: 1}, true
}

// Terms returns the summands in the order written.
func (a Amount) Terms() []Term { return append([]Term(nil), a.terms[:a.n]...) }

// IsZero reports whether a is no amount, not even an open one.
func (a Amount) IsZero() bool { return a.n == 0 && a.open == NotOpen }

// Open returns what is said instead of a figure.
func (a Amount) Open() Open { return a.open }

// Unit returns the unit of the first term; noUnit, which is zero, without one.
func (a Amount) Unit() Unit { return a.terms[0].Unit }

// UpTo reports whether a is a total to make up to ("to 10 l", q.s.).
func (a Amount) UpTo() bool { return a.upTo }

// Kind returns what the amount measures; a sum of mixed kinds reports the
// first.
func (a Amount) Kind() Kind {
	if a.n == 0 {
		return 0
	}
	return a.terms[0].Unit.Kind()
}

// Of builds a one-term amount: Of(3, 4, Cup) is ¾ cup. The fraction must be
// positive and inside the limits [Parse] keeps.
func Of(num, den int64, u Unit) Amount {
	n := newNumber(num, den)
	return Amount{terms: [maxTerms]Term{{Low: n, High: n, Unit: u}}, n: 1}
}

// Plus appends the terms of b. It panics when the sum has more than four.
func (a Amount) Plus(b Amount) Amount {
	for _, t := range b.terms[:b.n] {
		a.terms[a.n] = t
		a.n++
	}
	return a
}

// times is a as often as b counts; a when b counts nothing.
func (a Amount) times(b Amount) Amount {
	if b.n != 1 || b.terms[0].Unit.Kind() != Count {
		return a
	}
	for i := range a.terms[:a.n] {
		a.terms[i].Low, a.terms[i].High = a.terms[i].Low.times(b.terms[0].Low), a.terms[i].High.times(b.terms[0].High)
	}
	return a
}

// String prints the amount in the form [Parse] reads back to the same amount.
func (a Amount) String() string { return string(a.AppendTo(nil)) }

// AppendTo appends the printed amount to b.
func (a Amount) AppendTo(b []byte) []byte {
	if a.open != NotOpen {
		return append(b, openNames[a.open]...)
	}
	if a.upTo {
		b = append(b, "to "...)
	}
	for i, t := range a.terms[:a.n] {
		if i > 0 {
			b = append(b, " + "...)
		}
		b = t.appendTo(b)
	}
	return b
}

func (t Term) appendTo(b []byte) []byte {
	u := &units[t.Unit]
	if t.About {
		b = append(b, "about "...)
	}
	b = append(b, u.of...)
	b = t.Low.appendTo(b, u.fractions)
	if t.High != t.Low {
		b = append(b, "–"...)
		b = t.High.appendTo(b, u.fractions)
	}
	if t.Unit == Bare {
		return b
	}
	b = append(b, ' ')
	if t.Fill != Plain {
		b = append(append(b, fillNames[t.Fill]...), ' ')
	}
	if t.Set != AsWritten {
		b = append(append(b, setPrint[t.Set]...), ' ')
	}
	if t.High.num > t.High.den {
		return append(b, u.many...)
	}
	return append(b, u.one...)
}

var setPrint = [...]string{"", "US", "metric", "imperial", "Australian"}

// Handling is what is known of a material and a workshop that turns volumes,
// drops and pieces into grams. Zero ranges mean "not known".
type Handling struct {
	Measures      Measures
	DensityGPerML Range // loose to tapped for a powder
	PieceG        Range // one bar, nut, lemon, tab
	DropML        Range // a calibrated dropper; zero for common practice
	ScoopML       Range // the workshop's scoop; zero for common practice
	Liquid        bool  // an ounce of it is a fluid ounce
	Own           *Sizes
}

// Sizes are a workshop's own sizes of vague measures and vessels, in grams or
// millilitres by what the unit measures; zero for the usual one.
type Sizes [unitCount]Range

// What may be missing to make grams of an amount; test with errors.Is.
var (
	ErrNeedsDensity  = errors.New("its bulk density is not known: weigh a cup of it once")
	ErrNeedsPieceG   = errors.New("the mass of one piece is not known: weigh one")
	ErrNeedsPartSize = errors.New("parts have no size until a total is given")
	ErrNeedsSize     = errors.New("how much it holds is not known: measure yours once, or say how much is in it")
	ErrNeedsUnit     = errors.New("a number alone: say of what, such as g, ml, cups or drops")
	ErrOpen          = errors.New("no figure is said")
	ErrMakeUp        = errors.New("a make-up-to amount depends on the other lines")
)

// Grams returns the mass of the amount in grams. The error is one of the
// ErrNeeds…, ErrOpen or ErrMakeUp, wrapped.
func (a Amount) Grams(h Handling) (Range, error) {
	if a.open != NotOpen {
		return Range{}, ErrOpen
	}
	if a.upTo {
		return Range{}, ErrMakeUp
	}
	var sum Range
	for _, t := range a.terms[:a.n] {
		g, err := t.grams(h)
		if err != nil {
			return Range{}, err
		}
		sum = sum.Add(g)
	}
	return sum, nil
}

// in is the term as it is meant of a material: an ounce of a liquid is a fluid
// ounce.
func (t Term) in(h Handling) Term {
	if t.Unit == Ounce && h.Liquid {
		t.Unit = FluidOunce
	}
	return t
}

func (t Term) grams(h Handling) (Range, error) {
	t = t.in(h)
	u := &units[t.Unit]
	switch u.kind {
	case Mass:
		return t.count().Mul(t.size(h)), nil
	case Volume:
		if t.size(h).IsZero() {
			return Range{}, fmt.Errorf("%s: %w", t.Unit, ErrNeedsSize)
		}
		if h.DensityGPerML.IsZero() {
			return Range{}, fmt.Errorf("%s: %w", t.Unit, ErrNeedsDensity)
		}
		density := h.DensityGPerML
		if t.Fill == Packed {
			density = Range{density.High, density.Value, density.High}
		}
		return t.millilitres(h).Mul(density), nil
	case Count:
		if h.PieceG.IsZero() {
			if t.Unit == Bare {
				return Range{}, ErrNeedsUnit
			}
			return Range{}, fmt.Errorf("%s: %w", t.Unit, ErrNeedsPieceG)
		}
		return t.count().Mul(h.PieceG), nil
	default:
		return Range{}, ErrNeedsPartSize
	}
}

// Millilitres returns the volume when every term is one; ok is false
// otherwise. It works for make-up-to amounts too.
func (a Amount) Millilitres(h Handling) (ml Range, ok bool) {
	for _, t := range a.terms[:a.n] {
		if t = t.in(h); t.Unit.Kind() != Volume || t.size(h).IsZero() {
			return Range{}, false
		}
		ml = ml.Add(t.millilitres(h))
	}
	return ml, a.n > 0
}

// MassOnly returns the grams when every term is a mass; ok is false
// otherwise. It works for make-up-to amounts too.
func (a Amount) MassOnly() (g Range, ok bool) {
	for _, t := range a.terms[:a.n] {
		if t.Unit.Kind() != Mass {
			return Range{}, false
		}
		g = g.Add(t.count().Mul(t.size(Handling{})))
	}
	return g, a.n > 0
}

// Parts returns the number of parts, or per cent, when the amount is in them.
func (a Amount) Parts() (parts Range, ok bool) { return a.counted(Share) }

// Pieces returns the number of pieces when the amount is counted.
func (a Amount) Pieces() (pieces Range, ok bool) { return a.counted(Count) }

func (a Amount) counted(k Kind) (sum Range, ok bool) {
	for _, t := range a.terms[:a.n] {
		if t.Unit.Kind() != k {
			return Range{}, false
		}
		sum = sum.Add(t.count())
	}
	return sum, a.n > 0
}

// count is how many units the term says, fill and "about" included.
func (t Term) count() Range {
	r := Between(t.Low.Float(), t.High.Float())
	if t.Fill != Plain {
		r = r.Mul(fillFactors[t.Fill])
	}
	if t.About {
		r = r.Widen(aboutShare)
	}
	return r
}

func (t Term) millilitres(h Handling) Range { return t.count().Mul(t.size(h)) }

// size is one unit in grams or millilitres; zero when it is not known.
func (t Term) size(h Handling) Range {
	if h.Own != nil && !h.Own[t.Unit].IsZero() {
		return h.Own[t.Unit]
	}
	switch {
	case t.Unit == Drop && !h.DropML.IsZero():
		return h.DropML
	case t.Unit == Scoop && !h.ScoopML.IsZero():
		return h.ScoopML
	}
	m := t.Set
	if m == AsWritten {
		m = h.Measures
	}
	return units[t.Unit].in(m)
}
