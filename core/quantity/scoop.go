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
	best, bestErr, bestCost := Amount{}, 0.0, math.Inf(1)
	try := func(a Amount, terms int) {
		got, _ := a.Millilitres(Handling{Measures: m})
		err := got.Value/ml - 1
		cost := math.Abs(err) + termCost*float64(terms-1)
		if terms > 0 && cost < bestCost {
			best, bestErr, bestCost = a, err, cost
		}
	}
	pair := func(big Unit, bigs []Number, small Unit, smalls []Number) {
		whole := int64(ml / big.SizeML(m))
		for _, w := range []int64{whole, whole + 1} {
			for _, f := range bigs {
				var a Amount
				terms := 0
				if n := (Number{w, 1}).add(f); !n.isZero() {
					a, terms = Of(n.num, n.den, big), 1
				}
				try(a, terms)
				for _, s := range smalls {
					if !s.isZero() {
						try(a.Plus(Of(s.num, s.den, small)), terms+1)
					}
				}
			}
		}
	}
	pair(Cup, cupScoops, Tablespoon, spoonScoops)
	if ml < Cup.SizeML(m) {
		pair(Cup, cupScoops, Teaspoon, teaScoops)
	}
	if ml < Cup.SizeML(m)/4 {
		pair(Tablespoon, []Number{{0, 1}, {1, 2}}, Teaspoon, teaScoops)
	}
	if ml < 2*Tablespoon.SizeML(m) {
		pair(Teaspoon, teaScoops[:5], Teaspoon, nil)
	}
	return best, bestErr
}
