package solution

import (
	"math"

	"keencrock/core/chem"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

// Standing is what a wet good is as it stands in its bottle: the facts that every judge of
// it reads.
type Standing struct {
	// PH is after the gas has left, with its range where it was worked out; Fresh with
	// the gas still in it, as in a bottle that was closed at once; Aired after a year of
	// being opened: what air's carbon dioxide leaves of it.
	PH, Fresh, Aired quantity.Range
	PHFrom           Source
	// WorkedOut is what its make-up gives where another pH was measured and all of it is
	// known; zero otherwise.
	WorkedOut quantity.Range
	// Protonated is the share of its soap that is fatty acid, 0 to 1.
	Protonated    float64
	Alcohol       float64        // of alcohol and water together, by mass
	WaterActivity quantity.Range // 1 for water
	DensityGPerML quantity.Range
	// AcidPoured and AlkaliPoured are what went in of either, AcidLeft and AlkaliLeft
	// what is left after both have met, in equivalents to a kg.
	AcidPoured, AlkaliPoured, AcidLeft, AlkaliLeft float64
}

// Known reports whether anything of its pH can be told: between which ends it is.
func (s *Standing) Known() bool { return s.PHFrom != NotKnown }

// IsPoint reports whether its pH can be told as one: a mean of two that are far apart is
// no reading.
func (s *Standing) IsPoint() bool { return s.Known() && IsPoint(s.PH) }

// pointPH is how far the ends of a pH may lie apart for a value between them to be one.
const pointPH = 1.0

// IsPoint reports whether a pH between such ends can be told as one.
func IsPoint(ph quantity.Range) bool { return ph.High-ph.Low <= pointPH }

// AirsPerKg is the carbon dioxide, in mol to a kg of water, that a bottle takes up in a
// year of use. From memory: half a litre of fresh air a day over a litre brings 3 mmol in
// a year at 420 ppm; three times that, since bottles are shaken, and stand half empty.
const AirsPerKg = 0.01

// airsFrom is from which pH on air's carbon dioxide makes a difference worth a solve.
const airsFrom = 9.0

// aired is how far the pH of what is closed falls once air's carbon dioxide is taken up.
func (b *runner) aired(s chem.Solution, closedPH float64) (falls float64, err error) {
	if closedPH < airsFrom {
		return 0, nil
	}
	s.Acids[chem.Carbonic] += AirsPerKg * b.thinningWater()
	e, err := b.roughly(s, forLooking, 0)
	return max(0, closedPH-e.PH), err
}

// thinningWater is the share of its water that did not come with soap: what soap brings with
// it is as full of soap as it is sold, and takes no more air than that.
func (b *runner) thinningWater() float64 {
	all, soapy := 0.0, 0.0
	for i := range b.lines {
		g := b.lines[i].massG.Value * b.lines[i].water
		if all += g; b.lines[i].material.Is(material.Soap) {
			soapy += g
		}
	}
	if all == 0 {
		return 1
	}
	return 1 - soapy/all
}

// keepAired sets what air leaves of the pH, with its range moved along.
func (s *Standing) keepAired(falls float64) {
	s.Aired = quantity.Range{Value: s.PH.Value - falls, Low: s.PH.Low - falls, High: s.PH.High - falls}
}

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
	standing := b.standing(out)
	if out.PHFrom == Measured && len(out.Unknown) == 0 {
		standing.WorkedOut = quantity.Exactly(closed.PH).Including(vented.PH)
	}
	falls, err := b.aired(s, closed.PH)
	standing.keepAired(falls)
	return standing, err
}

// StandingOf is what a good is as it stands, of the full result in its bottle.
func StandingOf(r *formula.Resolved, pot *Result) (*Standing, error) {
	b, _, err := newRunner(r, pot.Use)
	if err != nil {
		return nil, err
	}
	standing := b.standing(pot)
	b.near = pot.ClosedPH.Value
	s, closedPH := b.solution(likely), pot.ClosedPH.Value
	if pot.PHFrom != Computed && pot.PHFrom != NotKnown { // what is worked out may be another
		e, err := b.roughly(s, forLooking, 0)
		if err != nil {
			return nil, err
		}
		closedPH = e.PH
		if vented, err := b.roughly(s, forLooking, 1); err == nil && pot.PHFrom == Measured && len(pot.Unknown) == 0 {
			standing.WorkedOut = quantity.Exactly(e.PH).Including(vented.PH)
		}
	}
	falls, err := b.aired(s, closedPH)
	standing.keepAired(falls)
	return standing, err
}

func (b *runner) standing(out *Result) *Standing {
	s := &Standing{PH: out.VentedPH, Fresh: out.ClosedPH, PHFrom: out.PHFrom, Protonated: out.ProtonatedByGood()}
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
		s.AcidPoured, s.AlkaliPoured = acid/kg, alkali/kg
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
