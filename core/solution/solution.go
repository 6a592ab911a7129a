package solution

import (
	"errors"
	"fmt"

	"keencrock/core/chem"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

// Result is what a formula does in its water.
type Result struct {
	Use     Use
	Unknown []Unknown // materials it cannot vouch for

	// ClosedPH is with the gas still in it, VentedPH after it has left. PHFrom
	// says where they are from; what is not known stands as the known part of the
	// mixture gives it.
	ClosedPH, VentedPH quantity.Range
	PHFrom             Source
	Beyond             bool // the ionic strength is beyond the model: the pH is a range at best
	IonicStrength      float64
	BufferMMol         float64 // strong acid, mmol/l, for a unit of pH
	HeldAt25           []chem.Acid

	// FreeAlkalinity is alkali not spent by acid, in g of Na2O to a litre;
	// below zero it is acid that is left over.
	FreeAlkalinity quantity.Range
	// Titration83 and Titration45 are mmol/l of strong acid that bring the
	// closed solution to pH 8.3 and 4.5; 0 when it is below already.
	Titration83, Titration45 float64

	Gas     Gas
	HasSoap bool
	// Protonated is the share of the soap that is fatty acid again, 0 to 1, and
	// ProtonatedByWater what the water alone would turn of it: its bicarbonate
	// and free carbon dioxide are enough for a thin soap.
	Protonated        quantity.Range
	ProtonatedByWater float64
	Hardness          Hardness
	Undissolved       []Undissolved
	Caking            *Caking // nil for what is wet, or when no figure is known
}

// Source says where a pH is from.
type Source string

// A pH is worked out, was measured by the maker, is what is usual for a material
// whose make-up is not known, or is not known at all.
const (
	Computed     Source = "computed"
	Measured     Source = "measured"
	FromMaterial Source = "material"
	NotKnown     Source = "unknown"
)

// PHKnown reports whether anything of the pH can be told: between which ends it is.
func (r *Result) PHKnown() bool { return r.PHFrom != NotKnown }

// ProtonatedByGood is the share that the rest of the good turns of the soap the
// water leaves, 0 to 1.
func (r *Result) ProtonatedByGood() float64 {
	return ofTheRest(r.Protonated.Value, r.ProtonatedByWater)
}

// ofTheRest is what a share of the whole is of what another leaves.
func ofTheRest(share, taken float64) float64 {
	if taken >= 1 {
		return 0
	}
	return min(1, max(0, (share-taken)/(1-taken)))
}

// Unknown is a material whose make-up is not known, and what is needed.
type Unknown struct {
	Material *material.Material
	Needs    string
}

// Water as it comes: the share of its hardness that is calcium, and the share
// that comes with bicarbonate; with a little free carbon dioxide, which keeps
// it from scaling by itself. From memory: most hard tap water is so.
const (
	calciumShare   = 0.8
	temporaryShare = 0.8
	freeCO2        = 0.10
)

// line is a material and how much of it, in grams, and how strong it may be, as
// a share of the likely strength.
type line struct {
	material *material.Material
	massG    quantity.Range
	strength quantity.Range
	parts    []Part
	water    float64
}

func newLine(m *material.Material, massG quantity.Range) (l line, known bool) {
	l = line{material: m, massG: massG, strength: quantity.Exactly(1)}
	l.parts, l.water, known = Contents(m)
	for i := range l.parts {
		if p := l.parts[i].MolPerG; p.Value > 0 {
			l.strength = l.strength.Including(p.Low / p.Value).Including(p.High / p.Value)
		}
	}
	return l, known
}

func (l *line) low() amount  { return amount{l.massG.Low, l.strength.Low} }
func (l *line) high() amount { return amount{l.massG.High, l.strength.High} }

// amount is a mass in grams, and its strength as a share of the likely one.
type amount struct{ g, strength float64 }

// runner works one formula out.
type runner struct {
	r     *formula.Resolved
	use   Use
	lines []line
	near  float64 // pH to begin at

	// keepsChalk says that calcium stays dissolved beyond saturation, as that of
	// the water does; chalk that was put in does not.
	keepsChalk bool
}

// ErrNothing is returned for a formula without mass.
var ErrNothing = errors.New("there is nothing in it yet")

// Run works a resolved formula out. The error is of [Use.Check], of
// chem.Solve, or ErrNothing.
func Run(r *formula.Resolved, use Use) (*Result, error) {
	b, out, err := newRunner(r, use)
	if err != nil {
		return nil, err
	}
	if err := b.equilibrium(out); err != nil {
		return nil, err
	}
	b.unknownPH(out)
	b.alkalinity(out)
	out.Gas = b.gas()
	if r.State() == formula.WetState {
		out.Undissolved = b.undissolved()
	} else {
		out.Caking = b.caking()
	}
	return out, nil
}

// newRunner gathers the lines of a formula, and names what it cannot vouch for.
func newRunner(r *formula.Resolved, use Use) (*runner, *Result, error) {
	if err := use.Check(); err != nil {
		return nil, nil, err
	}
	if r.TotalG.Value <= 0 {
		return nil, nil, ErrNothing
	}
	if use.Dose.IsZero() {
		use.Dose = quantity.Exactly(1)
	}
	b := &runner{r: r, use: use, lines: make([]line, 0, len(r.Lines)), keepsChalk: true}
	out := &Result{Use: use, PHFrom: Computed}
	for i := range r.Lines {
		l := &r.Lines[i]
		if l.Material == nil || l.MassG.Value <= 0 {
			continue
		}
		for base, share := range l.Material.Bases() {
			line, known := newLine(base, l.MassG.Scale(share))
			if !known {
				out.Unknown = append(out.Unknown, Unknown{base, needsOf(r, base)})
			}
			if base.Is(material.Calcium) && !base.Is(material.Chlorine) {
				b.keepsChalk = false
			}
			b.lines = append(b.lines, line)
		}
	}
	b.saponify()
	return b, out, nil
}

// needsOf says what is needed to work a material out.
func needsOf(r *formula.Resolved, m *material.Material) string {
	ph, measured, known := r.UsualPH(m)
	switch {
	case measured:
		return fmt.Sprintf("how strong it is: its pH was measured, %.1f to %.1f", ph.Low, ph.High)
	case known:
		return fmt.Sprintf("its pH, which is usually %g to %g: measure it", ph.Low, ph.High)
	}
	return "its make-up by mass"
}

// end gives the amount of each line, at one of its ends or between.
type end func(i int, l *line) amount

func likely(_ int, l *line) amount { return amount{l.massG.Value, 1} }

// pick is the end that takes listed amounts.
func pick(amounts []amount) end { return func(i int, _ *line) amount { return amounts[i] } }

// weighing is the end that takes listed masses, each of its likely strength.
func weighing(massG []float64) end {
	return func(i int, _ *line) amount { return amount{massG[i], 1} }
}

// solution dissolves the lines at the use strength, in mol per kg of water.
func (b *runner) solution(of end) chem.Solution { return b.dosed(of, 1) }

// strongGramsPerLitre is from which strength on something may stay solid in a
// use. From memory: below it even borax dissolves.
const strongGramsPerLitre = 15

// dosed dissolves the lines at a share of the use strength.
func (b *runner) dosed(of end, dose float64) chem.Solution {
	var s chem.Solution
	total, water := 0.0, 0.0
	for i := range b.lines {
		g := of(i, &b.lines[i]).g
		total += g
		water += g * b.lines[i].water
	}
	addedKg := 0.0
	if !b.use.Neat {
		addedKg = total / (b.use.GramsPerLitre * dose) // a litre of water is a kg
	}
	kg := addedKg + water/1000
	if kg <= 0 {
		kg = total / assumedGramsPerLitre // a dry good “as it is”: there is no water to stand in
	}
	if b.use.Neat || b.use.GramsPerLitre*dose >= strongGramsPerLitre {
		return b.saturated(of, kg)
	}
	for i := range b.lines {
		a := of(i, &b.lines[i])
		for _, p := range b.lines[i].parts {
			s.Add(p.Compound, a.g*a.strength*p.MolPerG.Value/kg)
		}
	}
	return s
}

// hardWater is what the added water brings, in mol per kg.
func (b *runner) hardWater() chem.Solution {
	var s chem.Solution
	if b.use.Neat {
		return s
	}
	h := float64(b.use.Hardness) / 1000
	s.Calcium, s.Magnesium = h*calciumShare, h*(1-calciumShare)
	s.Acids[chem.Carbonic] = 2 * h * temporaryShare * (1 + freeCO2)
	s.Ions.Chloride = 2 * h * (1 - temporaryShare)
	return s
}

// soapAlone is so much soap, in mol per kg, with nothing else of the good in
// the water.
func (b *runner) soapAlone(mol float64) chem.Solution {
	s := b.hardWater()
	s.Acids[chem.Soap] += mol
	s.Ions.Sodium += mol
	return s
}

func plus(a, b chem.Solution) chem.Solution {
	for i := range a.Acids {
		a.Acids[i] += b.Acids[i]
	}
	a.Ions.Sodium += b.Ions.Sodium
	a.Ions.Potassium += b.Ions.Potassium
	a.Ions.Chloride += b.Ions.Chloride
	a.Ions.Sulfonate += b.Ions.Sulfonate
	a.Calcium += b.Calcium
	a.Magnesium += b.Magnesium
	return a
}

// soft is the solution with its hardness exchanged for sodium.
func soft(s chem.Solution) chem.Solution {
	s.Ions.Sodium += 2 * (s.Calcium + s.Magnesium)
	s.Calcium, s.Magnesium = 0, 0
	return s
}

// How exact a pH has to be, and with it the ionic strength as a share of itself.
const (
	forRanges  = 1e-5 // and for maps, whose lines are smooth
	forLooking = 1e-3 // for where the ends are
)

// rough are the conditions of [runner.solve], for what has to be quick.
func (b *runner) rough(within, vented float64) chem.Conditions {
	return chem.Conditions{Celsius: b.use.Celsius, Vented: vented, NearPH: b.near, Supersaturated: b.keepsChalk, Within: within}
}

// roughly is solve, quicker and without a range.
func (b *runner) roughly(s chem.Solution, within, vented float64) (chem.Equilibrium, error) {
	c := b.rough(within, vented)
	c.NoRange = true
	return chem.Solve(&s, c)
}

// solve works a solution out as it is while it is used: chalk is slower than
// that, but where it is asked for.
func (b *runner) solve(s chem.Solution, vented float64) (chem.Equilibrium, error) {
	return chem.Solve(&s, chem.Conditions{Celsius: b.use.Celsius, Vented: vented, NearPH: b.near, Supersaturated: b.keepsChalk})
}

func (b *runner) equilibrium(out *Result) error {
	product := b.solution(likely)
	s := plus(product, b.hardWater())
	closed, err := b.solve(s, 0)
	if err != nil {
		return err
	}
	b.near = closed.PH
	vented, err := b.solve(s, 1)
	if err != nil {
		return err
	}
	out.IonicStrength, out.Beyond, out.HeldAt25 = closed.IonicStrength, closed.Beyond, closed.HeldAt25
	out.BufferMMol = closed.Buffer * 1000
	out.HasSoap = s.Acids[chem.Soap] > 0
	out.ClosedPH, out.VentedPH = phOf(closed), phOf(vented)
	out.Protonated = quantity.Exactly(closed.Protonated)
	if out.HasSoap {
		alone, err := b.solve(b.soapAlone(s.Acids[chem.Soap]), 0)
		if err != nil {
			return err
		}
		out.ProtonatedByWater = alone.Protonated
	}
	if out.Hardness, err = b.hardness(&s, &product); err != nil {
		return err
	}
	h := &out.Hardness
	h.MetRange, h.SoapLostRange = quantity.Exactly(h.Met()), quantity.Exactly(h.SoapLost())
	if err := b.ranges(out); err != nil {
		return err
	}
	for _, t := range []struct {
		to   float64
		into *float64
	}{{8.3, &out.Titration83}, {4.5, &out.Titration45}} {
		mol, err := chem.Titrate(&s, b.use.Celsius, t.to)
		if err != nil {
			return err
		}
		*t.into = 1000 * mol
	}
	return nil
}

func phOf(e chem.Equilibrium) quantity.Range {
	return quantity.Range{Value: e.PH, Low: e.Low, High: e.High}
}

// gramsNa2O is the mass of an equivalent of Na2O.
const gramsNa2O = chem.GramsNa2O / 2

// alkalinity is the alkali left over, with its range: of the lines between their
// ends, and of the dose.
func (b *runner) alkalinity(out *Result) {
	at := b.ratio(b.alkali)
	low, high := at.Least(), at.Most()
	r := quantity.Exactly(b.alkalinityAt(likely)).Including(low).Including(high)
	for _, dose := range b.doses() {
		r = r.Including(low * dose).Including(high * dose)
	}
	// what is not sour has no acid left over, whatever took it, such as soap; where it may
	// be sour or not, both may be
	if ph := out.ClosedPH; out.PHFrom == Computed && ph.High >= neutralPH {
		r.High = max(0, r.High)
		if ph.Value >= neutralPH {
			r.Value = max(0, r.Value)
		}
		if ph.Low >= neutralPH {
			r.Low = max(0, r.Low)
		}
	}
	out.FreeAlkalinity = r
}

// neutralPH parts what has acid left over from what has none.
const neutralPH = 7.0

// alkali is the alkali less the acid of an amount of a line, in g of Na2O, and
// the litres it makes: of the good as it stands, or of the water it is put into.
func (b *runner) alkali(l *line, a amount) quantity.Pair {
	eq := 0.0
	for _, p := range l.parts {
		eq += a.g * a.strength * p.MolPerG.Value * (p.Compound.AlkaliEq - p.Compound.AcidEq)
	}
	litres := a.g * l.material.MLPerGInWater().Value / 1000 // of the good as it stands
	if !b.use.Neat {
		litres = a.g / b.use.GramsPerLitre
	}
	return quantity.Pair{Of: eq * gramsNa2O, To: litres}
}

// alkalinityAt is the free alkalinity at some masses, in g of Na2O to a litre;
// what is dry, and not in water, stands in a gram of it.
func (b *runner) alkalinityAt(mass end) float64 {
	var sum quantity.Pair
	for i := range b.lines {
		l := &b.lines[i]
		s := b.alkali(l, mass(i, l))
		sum.Of += s.Of
		sum.To += s.To
	}
	if b.use.Neat {
		sum.To = max(sum.To, 1e-3)
	}
	return sum.Of / sum.To
}
