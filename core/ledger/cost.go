package ledger

import (
	"github.com/shopspring/decimal"

	"keencrock/core/costing"
)

// Part is what a stratum of a cost is.
type Part string

// What a good costs: what it is made of, what it is filled into, hands, the stove, and its
// share of what went wrong.
const (
	Materials Part = "materials"
	Packaging Part = "packaging"
	Hands     Part = "hands"
	Energy    Part = "energy"
	Failures  Part = "failures"
)

// Parts lists the parts in the order they lie in the crock, from the ground up.
var Parts = []Part{Materials, Packaging, Hands, Energy, Failures}

// Stratum is one layer of what something costs.
type Stratum struct {
	Part Part
	Item string // the material or container; empty for the others
	Cost decimal.Decimal
	// Unknown says that it costs something that nobody knows: it is no number, and the
	// whole costs at least what the rest comes to.
	Unknown bool
}

// Rates are what an hour of work and a kilowatt hour cost, and how much the stove draws;
// zero for what nobody said.
type Rates struct {
	Hour   decimal.Decimal // of hands
	KWh    decimal.Decimal
	StoveW float64 // watts, while it heats
}

// Work is the stratum of so many minutes of hands; known is false where nobody counted
// them.
func (r *Rates) Work(minutes float64, known bool) Stratum {
	s := Stratum{Part: Hands, Unknown: !known || r.Hour.IsZero()}
	if !s.Unknown {
		s.Cost = r.Hour.Mul(decimal.NewFromFloat(minutes)).DivRound(decimal.NewFromInt(60), cents)
	}
	return s
}

// Heat is the stratum of so many minutes on the stove: power × time × price. Nothing
// heated costs nothing, whatever the price.
func (r *Rates) Heat(minutes float64) Stratum {
	s := Stratum{Part: Energy}
	if minutes <= 0 {
		return s
	}
	if s.Unknown = r.KWh.IsZero() || r.StoveW <= 0; !s.Unknown {
		kWh := decimal.NewFromFloat(r.StoveW * minutes / 60 / 1000)
		s.Cost = r.KWh.Mul(kWh).Round(cents)
	}
	return s
}

// FailureShare is what of the cost of makings that came to nothing falls on so many grams,
// of all that were made well: shared by weight. Where nothing was made well it has nothing
// to fall on.
func FailureShare(failed decimal.Decimal, ofG, allG float64) Stratum {
	s := Stratum{Part: Failures}
	if allG > 0 && ofG > 0 {
		s.Cost = failed.Mul(decimal.NewFromFloat(ofG)).DivRound(decimal.NewFromFloat(allG), cents)
	}
	return s
}

// Total is what strata come to; atLeast says that one of them is not known.
func Total(strata []Stratum) (total decimal.Decimal, atLeast bool) {
	for i := range strata {
		total = total.Add(strata[i].Cost)
		atLeast = atLeast || strata[i].Unknown
	}
	return total, atLeast
}

// Share is what of each stratum falls on a share of the whole, from 0 to 1, so that the
// parts add up to that share of the total, to the last cent.
func Share(strata []Stratum, share float64) []Stratum {
	total, _ := Total(strata)
	weights := make([]float64, len(strata))
	for i := range strata {
		weights[i] = strata[i].Cost.InexactFloat64()
	}
	out := make([]Stratum, len(strata))
	copy(out, strata)
	costs, err := costing.Split(total.Mul(decimal.NewFromFloat(share)), weights)
	for i := range out {
		out[i].Cost = decimal.Zero
		if err == nil { // all of it costs nothing
			out[i].Cost = costs[i]
		}
	}
	return out
}

// WithoutPackaging is what strata come to for a refill: without what it is filled into.
func WithoutPackaging(strata []Stratum) decimal.Decimal {
	sum := decimal.Zero
	for i := range strata {
		if strata[i].Part != Packaging {
			sum = sum.Add(strata[i].Cost)
		}
	}
	return sum
}

// Dearer is what a rise of one item by a share does to a whole of strata: a tenth on what
// costs 3.00 is 0.30.
func Dearer(strata []Stratum, item string, rise float64) decimal.Decimal {
	more := decimal.Zero
	for i := range strata {
		if strata[i].Item == item && item != "" {
			more = more.Add(strata[i].Cost.Mul(decimal.NewFromFloat(rise)))
		}
	}
	return more.Round(cents)
}
