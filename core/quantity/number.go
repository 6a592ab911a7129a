package quantity

import (
	"strconv"
)

// Number is a positive fraction in lowest terms. The zero value stands for
// "no number".
type Number struct {
	num, den int64
}

// Limits keep every number exact in 64 bits, sums of terms included.
const (
	maxNumerator   = 1_000_000_000
	maxDenominator = 1_000_000
)

func newNumber(num, den int64) Number {
	g := gcd(num, den)
	return Number{num / g, den / g}
}

func gcd(a, b int64) int64 {
	for b != 0 {
		a, b = b, a%b
	}
	if a == 0 {
		return 1
	}
	return a
}

// Float returns the number as a float64.
func (n Number) Float() float64 {
	if n.den == 0 {
		return 0
	}
	return float64(n.num) / float64(n.den)
}

func (n Number) isZero() bool { return n.num == 0 }

func (n Number) less(m Number) bool { return n.num*m.den < m.num*n.den }

func (n Number) times(m Number) Number { return newNumber(n.num*m.num, n.den*m.den) }

func (n Number) add(m Number) Number {
	return newNumber(n.num*m.den+m.num*n.den, n.den*m.den)
}

// appendTo prints kitchen fractions for measures people scoop ("1 1/2") and
// decimals otherwise ("1.5"); a number with no finite decimal is a fraction.
func (n Number) appendTo(b []byte, fractions bool) []byte {
	if n.den == 1 {
		return strconv.AppendInt(b, n.num, 10)
	}
	kitchen := n.den == 2 || n.den == 3 || n.den == 4 || n.den == 8
	if places, ok := n.decimalPlaces(); ok && (!fractions || !kitchen) {
		return strconv.AppendFloat(b, n.Float(), 'f', places, 64)
	}
	whole, rest := n.num/n.den, n.num%n.den
	if whole > 0 {
		b = strconv.AppendInt(b, whole, 10)
		b = append(b, ' ')
	}
	b = strconv.AppendInt(b, rest, 10)
	b = append(b, '/')
	return strconv.AppendInt(b, n.den, 10)
}

// decimalPlaces tells how many places write n exactly; ok is false when it
// has no finite decimal.
func (n Number) decimalPlaces() (places int, ok bool) {
	scale := int64(1)
	for places = 0; places <= 6; places++ {
		if scale%n.den == 0 {
			return places, true
		}
		scale *= 10
	}
	return 0, false
}

var vulgarFractions = map[rune]Number{
	'½': {1, 2}, '⅓': {1, 3}, '⅔': {2, 3}, '¼': {1, 4}, '¾': {3, 4},
	'⅕': {1, 5}, '⅖': {2, 5}, '⅗': {3, 5}, '⅘': {4, 5}, '⅙': {1, 6},
	'⅚': {5, 6}, '⅛': {1, 8}, '⅜': {3, 8}, '⅝': {5, 8}, '⅞': {7, 8},
}
