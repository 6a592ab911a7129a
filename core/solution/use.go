package solution

import (
	"fmt"
	"strings"

	"keencrock/core/chem"
	"keencrock/core/formula"
	"keencrock/core/quantity"
)

// Use is how a good meets water.
type Use struct {
	GramsPerLitre float64 // of good per litre of water added to it; 0 when it is used as it is
	Neat          bool    // used as it is
	Basis         Basis
	Dose          quantity.Range // what a use may hold of it, as a share of the likely; exact when it is weighed
	Hardness      quantity.Hardness
	Celsius       float64
}

// Basis says where the strength is from.
type Basis string

// A strength was given, follows from one use and its water, or from the one that is usual
// for its kind, or is assumed.
const (
	Given   Basis = "given"
	OfUse   Basis = "of-use"
	Usual   Basis = "usual"
	AsItIs  Basis = "neat"
	Assumed Basis = "assumed"
)

// assumedGramsPerLitre is the strength of a powder when nothing is said of its
// use. Common practice: a heaped tablespoon in a bucket's first litres.
const assumedGramsPerLitre = 10

// Waters is how much water one use goes into, in litres, by what a good is
// used on, and how hard it is. Zero is common practice, and soft.
type Waters struct {
	LaundryL, DishesL float64
	Hardness          quantity.Hardness
}

// Common practice, from memory: the water of a front loader's wash, of a
// dishwasher's, and of a toilet bowl.
const (
	laundryWaterL = 20
	dishWaterL    = 4
	toiletWaterL  = 2
)

// litres returns the water for one use of a kind, 0 for what is used as it is.
func (w Waters) litres(k formula.KindInfo) float64 {
	or := func(said, usual float64) float64 {
		if said > 0 {
			return said
		}
		return usual
	}
	switch k.UsedOn {
	case "laundry":
		return or(w.LaundryL, laundryWaterL)
	case "dishes":
		return or(w.DishesL, dishWaterL)
	case "toilet":
		return toiletWaterL
	}
	return 0
}

// UseOf returns how a formula is used: one use in its water when that is said
// or usual for its kind, as it is when it is wet, else at an assumed strength.
func UseOf(r *formula.Resolved, w Waters) Use {
	u := Use{Celsius: 25, Dose: quantity.Exactly(1)}
	litres := w.litres(r.Formula.Kind.Info())
	if ml, ok := r.Formula.UseWater.Millilitres(quantity.Handling{Measures: r.Formula.Measures}); ok {
		litres = ml.Value / 1000
	}
	uses, said := r.Uses()
	switch {
	case said && uses.Value > 0 && litres > 0:
		u.GramsPerLitre, u.Basis = r.NetG().Value/uses.Value/litres, OfUse
		u.Dose = DoseRange(r)
	case w.usual(r, litres) > 0:
		u.GramsPerLitre, u.Basis = w.usual(r, litres), Usual
	case r.State() == formula.WetState:
		u.Neat, u.Basis = true, AsItIs
	default:
		u.GramsPerLitre, u.Basis = assumedGramsPerLitre, Assumed
	}
	return u
}

// usual is the strength of what is usual for its kind, in g to a litre; 0 where nothing is,
// or what it weighs is not known.
func (w Waters) usual(r *formula.Resolved, litres float64) float64 {
	f := r.Formula
	machine := formula.UsualMachine(f.Kind)
	a, ok := formula.UsualUse(f.Kind, machine, w.Hardness)
	if !ok || litres <= 0 || !f.Use.IsZero() {
		return 0
	}
	if n, counted := a.Pieces(); counted {
		made, said := f.Yield.Pieces()
		if !said || made.Value <= 0 {
			return 0
		}
		return n.Value * r.NetG().Value / made.Value / litres
	}
	if ml, isVolume := a.Millilitres(quantity.Handling{Measures: f.Measures}); isVolume {
		return min(ml.Value*r.Density()/litres, MostGramsPerLitre)
	}
	return 0
}

// scoopSpread is how far one level spoon of a powder is from the next, as a share.
// From memory: 15 %, settled or stirred up; of a liquid 5 %.
const (
	scoopSpread = 0.15
	pourSpread  = 0.05
)

// DoseRange is how much of the good one use may hold, as a share of the likely:
// a spoon is not a scale, and a heaped one less so.
func DoseRange(r *formula.Resolved) quantity.Range {
	dose := quantity.Exactly(1)
	ml, ok := r.Formula.Use.Millilitres(quantity.Handling{Measures: r.Formula.Measures})
	if !ok {
		return dose
	}
	if ml.Value > 0 {
		dose = quantity.Range{Value: 1, Low: ml.Low / ml.Value, High: ml.High / ml.Value}
	}
	if r.State() == formula.WetState {
		return dose.Widen(pourSpread)
	}
	return dose.Widen(scoopSpread)
}

// MostGramsPerLitre is the strongest that is read as thinned: half and half. What is written
// stronger is a slip of the pen.
const MostGramsPerLitre = 1000

// ParseStrength reads so much good to so much water: "10 g/l", "1 tbsp in 5 l"
// with a density in g/ml, or "neat".
func ParseStrength(s string, densityGPerML float64, m quantity.Measures) (gramsPerLitre float64, neat bool, err error) {
	s = strings.TrimSpace(s)
	if strings.EqualFold(s, "neat") {
		return 0, true, nil
	}
	good, water, found := strings.Cut(s, " in ")
	if !found {
		good, water, found = strings.Cut(s, "/")
		if water = strings.TrimSpace(water); found && water != "" && (water[0] < '0' || water[0] > '9') {
			water = "1 " + water
		}
	}
	if !found {
		return 0, false, fmt.Errorf("“%s” is no strength: expected so much to so much water, such as 10 g/l or 1 tbsp in 20 l, or neat", s)
	}
	h := quantity.Handling{Measures: m}
	if densityGPerML > 0 {
		h.DensityGPerML = quantity.Exactly(densityGPerML)
	}
	a, err := quantity.Parse(good)
	if err != nil {
		return 0, false, fmt.Errorf("strength “%s”: %w", s, err)
	}
	g, err := a.Grams(h)
	if err != nil {
		return 0, false, fmt.Errorf("strength “%s”: %w", s, err)
	}
	w, err := quantity.Parse(water)
	if err != nil {
		return 0, false, fmt.Errorf("strength “%s”: the water: %w", s, err)
	}
	ml, ok := w.Millilitres(h)
	if !ok {
		return 0, false, fmt.Errorf("strength “%s”: the water is a volume, such as 20 l", s)
	}
	gramsPerLitre = g.Value / ml.Value * 1000
	if gramsPerLitre > MostGramsPerLitre {
		return 0, false, fmt.Errorf("a strength of %.0f g/l is more good than water: give less, or say neat", gramsPerLitre)
	}
	return gramsPerLitre, false, nil
}

// Check refuses a use that cannot be. The error says what would be right.
func (u Use) Check() error {
	switch {
	case !u.Neat && !(u.GramsPerLitre > 0 && u.GramsPerLitre <= MostGramsPerLitre):
		return fmt.Errorf("a strength is above zero and at most %d g/l, not %g", MostGramsPerLitre, u.GramsPerLitre)
	case !(u.Celsius >= chem.MinCelsius && u.Celsius <= chem.MaxCelsius):
		return fmt.Errorf("constants are known from %g to %g °C, not at %g °C", chem.MinCelsius, chem.MaxCelsius, u.Celsius)
	case !(u.Hardness >= 0 && u.Hardness <= 100):
		return fmt.Errorf("a hardness is between none and sea water's, not %g mmol/l", float64(u.Hardness))
	}
	return nil
}
