package quantity

import "math"

// Range is a likely value with the lowest and highest it may be. The zero
// value is exactly zero. Low ≤ Value ≤ High holds for every Range made by
// this package.
type Range struct {
	Value, Low, High float64
}

// Exactly returns the range that holds only v.
func Exactly(v float64) Range { return Range{v, v, v} }

// Between returns the range from low to high with their mean as the likely
// value. The arguments may come in either order.
func Between(low, high float64) Range {
	if low > high {
		low, high = high, low
	}
	return Range{(low + high) / 2, low, high}
}

// Add returns the sum; bounds add, since nothing is known of correlation.
func (r Range) Add(s Range) Range {
	return Range{r.Value + s.Value, r.Low + s.Low, r.High + s.High}
}

// Scale multiplies by a known factor, which must not be negative.
func (r Range) Scale(f float64) Range {
	return Range{r.Value * f, r.Low * f, r.High * f}
}

// Mul multiplies two ranges of non-negative numbers.
func (r Range) Mul(s Range) Range {
	return Range{r.Value * s.Value, r.Low * s.Low, r.High * s.High}
}

// Div divides a non-negative range by a positive one.
func (r Range) Div(s Range) Range {
	return Range{r.Value / s.Value, r.Low / s.High, r.High / s.Low}
}

// Widen opens the range by a share of itself on both sides: 0.1 is ±10 %.
func (r Range) Widen(share float64) Range {
	return Range{r.Value, r.Low * (1 - share), r.High * (1 + share)}
}

// Including is the range widened as far as a value.
func (r Range) Including(v float64) Range {
	return Range{Value: r.Value, Low: min(r.Low, v), High: max(r.High, v)}
}

// IsExact reports whether the range is one number, to a millionth of it.
func (r Range) IsExact() bool {
	return r.High-r.Low <= 1e-6*math.Abs(r.Value)
}

// IsZero reports whether the range is exactly zero.
func (r Range) IsZero() bool { return r == Range{} }

// Spread is half the width as a share of the likely value: 0.1 for ±10 %.
func (r Range) Spread() float64 {
	if r.Value == 0 {
		return 0
	}
	return (r.High - r.Low) / 2 / r.Value
}
