package quantity

import "math"

// scoops are the fractions a set of cups and spoons comes in.
var (
	cupScoops   = []Number{{0, 1}, {1, 4}, {1, 3}, {1, 2}, {2, 3}, {3, 4}}
	spoonScoops = []Number{{0, 1}, {1, 2}, {1, 1}, {3, 2}, {2, 1}, {3, 1}}
	teaScoops   = []Number{{0, 1}, {1, 8}, {1, 4}, {1, 2}, {3, 4}, {1, 1}, {3, 2}, {2, 1}}
)

// termCost is the error, as a share, a person accepts to be spared one more
// measure to level off.
const termCost = 0.02

// NearestScoop returns the cups and spoons that come nearest to a volume in
// millilitres, at most two terms, and their error as a share of the volume:
// −0.014 when they hold 1.4 % less. The volume must be positive; one below an
// eighth of a teaspoon gives that measure and its error.
func NearestScoop(ml float64, m Measures) (Amount, float64) {
	best := scooping{cost: math.Inf(1)}
	cup, tbsp := Cup.SizeML(m), Tablespoon.SizeML(m)
	best.try(ml, m, Cup, cupScoops, Tablespoon, spoonScoops)
	if ml < cup {
		best.try(ml, m, Cup, cupScoops, Teaspoon, teaScoops)
	}
	if ml < cup/4 {
		best.try(ml, m, Tablespoon, spoonScoops[:2], Teaspoon, teaScoops)
	}
	if ml < 2*tbsp {
		best.try(ml, m, Teaspoon, teaScoops[:5], Teaspoon, teaScoops[:1])
	}
	return best.amount(), best.err
}

// scooping is so many of a big measure and so many of a small one, and how
// well that does.
type scooping struct {
	big, small   Unit
	bigs, smalls Number
	err, cost    float64
}

// try looks for a better scooping among all of two measures.
func (best *scooping) try(ml float64, m Measures, big Unit, bigs []Number, small Unit, smalls []Number) {
	bigML, smallML := big.SizeML(m), small.SizeML(m)
	for _, whole := range [...]int64{int64(ml / bigML), int64(ml/bigML) + 1} {
		for _, part := range bigs {
			n := (Number{whole, 1}).add(part)
			for _, s := range smalls {
				if n.isZero() && s.isZero() {
					continue
				}
				err := (n.Float()*bigML+s.Float()*smallML)/ml - 1
				cost := math.Abs(err)
				if !n.isZero() && !s.isZero() {
					cost += termCost
				}
				if cost < best.cost {
					*best = scooping{big, small, n, s, err, cost}
				}
			}
		}
	}
}

func (best *scooping) amount() (a Amount) {
	if !best.bigs.isZero() {
		a = a.Plus(Of(best.bigs.num, best.bigs.den, best.big))
	}
	if !best.smalls.isZero() {
		a = a.Plus(Of(best.smalls.num, best.smalls.den, best.small))
	}
	return a
}

// NearestMeasure returns the one measure that comes nearest to a volume in millilitres, up
// to two teaspoons, three tablespoons or any number of cups, and its error as a share of
// the volume. The volume must be positive.
func NearestMeasure(ml float64, m Measures) (Amount, float64) {
	best := scooping{cost: math.Inf(1)}
	none := []Number{{0, 1}}
	best.try(ml, m, Cup, cupScoops, Teaspoon, none)
	if ml < 3.5*Tablespoon.SizeML(m) {
		best.try(ml, m, Tablespoon, spoonScoops, Teaspoon, none)
	}
	if ml < 2.5*Teaspoon.SizeML(m) {
		best.try(ml, m, Cup, none, Teaspoon, teaScoops)
	}
	return best.amount(), best.err
}
