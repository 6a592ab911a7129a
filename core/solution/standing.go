package solution

import (
	"math"

	"keencrock/core/chem"
	"keencrock/core/formula"
	"keencrock/core/quantity"
)

// Standing is what a wet good is as it stands in its bottle.
type Standing struct {
	// PH is after the gas has left, with its range where it was worked out.
	PH     quantity.Range
	PHFrom Source
	// Protonated is the share of its soap that is fatty acid, 0 to 1.
	Protonated    float64
	Alcohol       float64        // of alcohol and water together, by mass
	WaterActivity quantity.Range // 1 for water
	DensityGPerML quantity.Range
	// AcidLeft and AlkaliLeft are what is left of either after both have met, in
	// equivalents to a kg.
	AcidLeft, AlkaliLeft float64
}

// Known reports whether its pH can be told.
func (s *Standing) Known() bool { return s.PHFrom != NotKnown }

// Stand works out what a wet good is as it stands, without ranges: quick enough
// for every formula. The error is of [Run].
func Stand(r *formula.Resolved) (*Standing, error) {
	b, out, err := newRunner(r, Use{Neat: true, Basis: AsItIs, Celsius: 25, Dose: quantity.Exactly(1)})
	if err != nil {
		return nil, err
	}
	s := b.solution(likely)
	closed, err := b.solve(s, 0)
	if err != nil {
		return nil, err
	}
	b.near = closed.PH
	vented, err := b.solve(s, 1)
	if err != nil {
		return nil, err
	}
	out.HasSoap = s.Acids[chem.Soap] > 0
	out.ClosedPH, out.VentedPH, out.Protonated = phOf(closed), phOf(vented), quantity.Exactly(closed.Protonated)
	b.unknownPH(out)
	return b.standing(out), nil
}

// StandingOf is what a good is as it stands, of the full result in its bottle.
func StandingOf(r *formula.Resolved, pot *Result) (*Standing, error) {
	b, _, err := newRunner(r, pot.Use)
	if err != nil {
		return nil, err
	}
	return b.standing(pot), nil
}

func (b *runner) standing(out *Result) *Standing {
	s := &Standing{PH: out.VentedPH, PHFrom: out.PHFrom, Protonated: out.ProtonatedByGood()}
	if out.HasSoap {
		s.Protonated = out.Protonated.Value
	}
	s.Alcohol, s.WaterActivity = b.binding()
	if ml := b.r.VolumeML; ml.Value > 0 {
		g := b.r.TotalG.Value
		s.DensityGPerML = quantity.Range{Value: g / ml.Value, Low: g / ml.High, High: g / ml.Low}
		if b.r.TotalG.Low > 0 { // of the same scoops: the spread is that of the room they take
			s.DensityGPerML = quantity.Range{Value: g / ml.Value, Low: b.r.TotalG.Low / ml.Low, High: b.r.TotalG.High / ml.High}.Including(g / ml.Value)
		}
	}
	acid, alkali, kg := 0.0, 0.0, b.r.TotalG.Value/1000
	for i := range b.lines {
		for _, p := range b.lines[i].parts {
			n := b.lines[i].massG.Value * p.MolPerG.Value
			acid += n * p.Compound.AcidEq
			alkali += n * p.Compound.AlkaliEq
		}
	}
	if kg > 0 {
		s.AcidLeft, s.AlkaliLeft = max(0, acid-alkali)/kg, max(0, alkali-acid)/kg
	}
	return s
}

// binding is the alcohol, and how much of its water salt, sugar and glycerine
// leave free: the product of what each leaves by itself (Ross 1975). Salts by
// the ions they give, with 0.93 for how they fall short of it; sucrose and
// glycerine by Norrish (J. Food Technol. 1, 1966) with −6.47 and −1.16, from
// memory. A test holds saturated salt against Greenspan.
func (b *runner) binding() (alcohol float64, activity quantity.Range) {
	const molarWater = 18.015
	var water, spirits, glycerine, sugar, ions float64
	for i := range b.lines {
		l := &b.lines[i]
		g := l.massG.Value
		water += g * l.water
		switch {
		case l.material.Nature() == "glycerine":
			glycerine += g / 92.09
		case l.material.Formula == "C12H22O11":
			sugar += g / 342.3
		}
		for _, c := range l.material.MakeUp {
			switch c.Of {
			case "ethanol", "isopropanol":
				spirits += g * c.Share.Value
			case "sucrose":
				sugar += g * c.Share.Value / 342.3
			}
		}
	}
	if water+spirits > 0 {
		alcohol = spirits / (water + spirits)
	}
	if water == 0 {
		return alcohol, quantity.Range{}
	}
	kg := water / 1000
	s := b.solution(likely)
	ions = s.Ions.Sodium + s.Ions.Potassium + s.Ions.Chloride + s.Ions.Sulfonate + s.Calcium + s.Magnesium
	for i, mol := range s.Acids {
		if chem.Acid(i) != chem.Soap {
			ions += mol
		}
	}
	n := 1000 / molarWater
	xs, xg := sugar/kg/(n+sugar/kg), glycerine/kg/(n+glycerine/kg)
	aw := saltActivity(ions) * (1 - xs) * math.Exp(-6.47*xs*xs) * (1 - xg) * math.Exp(-1.16*xg*xg)
	activity = quantity.Exactly(aw).Widen(0.02)
	activity.High = min(activity.High, 1)
	return alcohol, activity
}

// saltActivity is the water activity beside so many mol of ions to a kg of
// water. A curve through those of sodium chloride: 0.9669 at 1 mol of salt,
// 0.893 at 3, 0.753 saturated at 6.15 (Robinson & Stokes, from memory; the last
// Greenspan 1977).
func saltActivity(ions float64) float64 {
	m := ions / 2
	return max(0.05, 1-0.0318*m-0.00136*m*m)
}
