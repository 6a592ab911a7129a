package label

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/stat"
	"gonum.org/v1/gonum/stat/distuv"
)

// TolerableError is how much less than its nominal quantity, in g or ml, a pack may
// hold and be no faulty one (Directive 76/211/EEC, Annex I, 2.4). Of a nominal quantity
// below 5 or above 10 000 the directive says nothing; ok is false then.
func TolerableError(nominal float64) (t1 float64, ok bool) {
	tenth := func(v float64) float64 { return math.Ceil(v*10-1e-9) / 10 } // rounded up to the next tenth
	switch {
	case nominal < 5 || nominal > 10000:
		return 0, false
	case nominal <= 50:
		return tenth(0.09 * nominal), true
	case nominal <= 100:
		return 4.5, true
	case nominal <= 200:
		return tenth(0.045 * nominal), true
	case nominal <= 300:
		return 9, true
	case nominal <= 500:
		return tenth(0.03 * nominal), true
	case nominal <= 1000:
		return 15, true
	}
	return tenth(0.015 * nominal), true
}

// Nominal is the figure a label states for what a pack holds, in g or ml: rounded down,
// as figures on labels are; common practice.
func Nominal(holds float64) float64 {
	const rounding = 1e-9
	step := 0.1
	switch {
	case holds >= 500:
		step = 10
	case holds >= 100:
		step = 5
	case holds >= 20:
		step = 1
	}
	return math.Floor(holds/step+rounding) * step
}

// LettersMM is how high the figures of a nominal quantity are at least (Directive
// 76/211/EEC, Annex I, 3.1), in mm.
func LettersMM(nominal float64) float64 {
	switch {
	case nominal <= 50:
		return 2
	case nominal <= 200:
		return 3
	case nominal <= 1000:
		return 4
	}
	return 6
}

// FillCheck is what weighed packs say of a filling.
type FillCheck struct {
	Nominal, T1       float64
	N                 int
	Mean, Spread      float64 // the standard deviation of one
	UnderT1, UnderT2  int     // packs under nominal − T1, and under nominal − 2 T1
	Passes            bool
	FillTo            float64 // what to aim for with this spread, in g
	Short             float64 // how much the mean falls short of the nominal; 0 for none
	Why               string
	MeanLow, MeanHigh float64 // within which the true mean lies, nineteen times in twenty
}

// FewestPacks is how many have to be weighed for a spread to mean anything, MostPacks
// how many at most at once.
const (
	FewestPacks = 3
	MostPacks   = 500
)

// mayBeFaulty is the share of packs under nominal − T1 that a lot may hold: 2.5 % are
// what the sampling plans of Annex II let pass.
const mayBeFaulty = 0.025

// CheckFill judges net contents by the three rules of the directive: on average no less
// than the nominal, few under it by more than T1, none by more than twice that. Amounts
// are in the unit, g or ml. The error says what cannot be judged.
func CheckFill(nominal float64, unit string, contents []float64, step float64) (FillCheck, error) {
	c := FillCheck{Nominal: nominal, N: len(contents)}
	const rounding = 1e-9
	t1, ok := TolerableError(nominal)
	switch {
	case !ok:
		return c, fmt.Errorf("the rules are for 5 g to 10 kg, or 5 ml to 10 l, and %g is neither", nominal)
	case len(contents) < FewestPacks:
		return c, fmt.Errorf("weigh at least %d packs: fewer tell nothing of their spread", FewestPacks)
	case len(contents) > MostPacks:
		return c, fmt.Errorf("at most %d packs at once", MostPacks)
	}
	for _, v := range contents {
		if !(v > 0 && v < 10*nominal) {
			return c, fmt.Errorf("a pack of %g cannot be one of %g: was the empty jar taken off?", v, nominal)
		}
		if v < nominal-t1-rounding*nominal {
			c.UnderT1++
		}
		if v < nominal-2*t1-rounding*nominal {
			c.UnderT2++
		}
	}
	c.T1 = t1
	c.Mean, c.Spread = stat.MeanStdDev(contents, nil)
	n := float64(c.N)
	t := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: n - 1}
	half := t.Quantile(0.975) * c.Spread / math.Sqrt(n)
	c.MeanLow, c.MeanHigh = c.Mean-half, c.Mean+half
	c.Short = max(0, nominal-c.Mean)
	c.FillTo = ceilTo(fillTo(nominal, t1, c.Spread, n, &t), step)
	switch may := int(mayBeFaulty * n); {
	case c.UnderT2 > 0:
		c.Why = fmt.Sprintf("%s %s less than %g %s: none may. It must not be sold.", packs(c.UnderT2), holds(c.UnderT2), nominal-2*t1, unit)
	case c.UnderT1 > may:
		c.Why = fmt.Sprintf("%s %s less than %g %s, and of %d packs %s may.", packs(c.UnderT1), holds(c.UnderT1), nominal-t1, unit, c.N, orNone(may))
	case c.Mean < nominal*(1-rounding):
		c.Why = fmt.Sprintf("On average they hold %.1f %s less than the %g %s on the label.", c.Short, unit, nominal, unit)
	default:
		c.Passes = true
		c.Why = "On average no less than the label says, and none under it by more than law lets pass."
	}
	return c, nil
}

// fillTo is the mean that meets all three rules with a spread: the mean itself with what
// is not sure of it, one in forty under T1, and one in ten thousand under twice that.
func fillTo(nominal, t1, spread, n float64, t *distuv.StudentsT) float64 {
	normal := distuv.UnitNormal
	return max(nominal+t.Quantile(0.95)*spread/math.Sqrt(n),
		nominal-t1+normal.Quantile(1-mayBeFaulty)*spread,
		nominal-2*t1+normal.Quantile(0.9999)*spread)
}

func ceilTo(v, step float64) float64 {
	if step <= 0 {
		step = 0.1
	}
	return math.Round(math.Ceil(v/step-1e-9)*step*1e6) / 1e6
}

func packs(n int) string {
	if n == 1 {
		return "One pack"
	}
	return fmt.Sprintf("%d packs", n)
}

func holds(n int) string {
	if n == 1 {
		return "holds"
	}
	return "hold"
}

func orNone(n int) string {
	if n == 0 {
		return "none"
	}
	return fmt.Sprint(n)
}
