package chem

import (
	"errors"
	"fmt"
	"math"
)

// Conditions are what a solution stands under. The zero value is not sound:
// give a temperature.
type Conditions struct {
	Celsius float64
	// Vented is how much of the gas that would leave for the air has left: 0
	// in a closed vessel, 1 when all has. None is ever taken up.
	Vented float64
	// Supersaturated keeps calcite dissolved, as it stays for hours without
	// something to grow on.
	Supersaturated bool
	// Within is how exact the pH has to be, and the ionic strength as a share of
	// itself; 0 for far below what a meter shows, so that differences of two
	// answers are smooth. Less exact is quicker.
	Within float64
	// NoRange leaves the range at the pH where the model is left, which is
	// quicker; Beyond is set all the same.
	NoRange bool
	// SoapPKa is the apparent pKa of the fatty acids, 0 for the usual one; it
	// differs between soaps (see [SoapPKaLow] and [SoapPKaHigh]).
	SoapPKa float64
	// NearPH is where to begin, for solving many solutions that are alike; 0
	// begins anywhere.
	NearPH float64
}

// Closed and Open are the two ends at 25 °C.
var (
	Closed = Conditions{Celsius: 25}
	Open   = Conditions{Celsius: 25, Vented: 1}
)

// Equilibrium is where a solution ends. Amounts are mol per kg of water.
type Equilibrium struct {
	PH            float64
	Low, High     float64 // what the pH may be: wide only beyond the model
	Beyond        bool    // the ionic strength is more than the model bears
	IonicStrength float64
	Buffer        float64 // mol of strong acid or alkali per unit of pH

	CO2        float64 // dissolved, as gas
	Carbon     float64 // all carbonate still dissolved
	Gone       float64 // left as gas
	Calcite    float64 // fallen out as CaCO3
	Protonated float64 // share of the soap that is fatty acid again, 0 to 1
	Metals     Metals
	HeldAt25   []Acid // acids present whose constants were not carried to the temperature
}

// Metals says where calcium and magnesium are, in mol per kg of water.
type Metals struct {
	FreeCalcium, FreeMagnesium float64
	Chelated                   float64 // held by citrate and EDTA
}

// What Solve may report.
var (
	ErrNotConverged = errors.New("the solution could not be worked out: no pH balances its charges")
	ErrConditions   = errors.New("constants are known from 15 to 60 °C")
	ErrAmounts      = errors.New("amounts are finite and not below zero")
)

const (
	// daviesLimit is the ionic strength in mol/kg up to which the Davies
	// equation is used as it is (Davies 1962; common practice).
	daviesLimit = 0.5
	// airCO2 is the partial pressure of carbon dioxide in air, in atm: 420
	// parts per million, from memory.
	airCO2 = 4.2e-4

	minPH, maxPH   = -2.0, 16.0
	tolerancePH    = 1e-10
	toleranceIonic = 1e-9
	roughIonic     = 1e-5 // of a titration
	// noiseIonic is what the arithmetic leaves of the ionic strength, as a share, where
	// hardly anything holds the pH and its last digits are noise.
	noiseIonic = 1e-7
)

// Solve finds the equilibrium of a solution. The error is ErrConditions,
// ErrAmounts or ErrNotConverged, wrapped.
func Solve(s *Solution, c Conditions) (Equilibrium, error) {
	if !(c.Celsius >= MinCelsius && c.Celsius <= MaxCelsius) {
		return Equilibrium{}, fmt.Errorf("%w, not at %g °C", ErrConditions, c.Celsius)
	}
	if !s.isComplete() {
		return Equilibrium{}, ErrAmounts
	}
	v := solver{s: *s, k: constantsAt(c.Celsius), ph: c.NearPH, keeps: c.Supersaturated, precision: tolerancePH, ionicPrecision: toleranceIonic}
	if c.SoapPKa != 0 {
		v.k.steps[Soap][0] = math.Pow(10, -c.SoapPKa)
	}
	if c.Within > 0 {
		v.precision, v.ionicPrecision = c.Within, c.Within
	}
	if v.ph == 0 {
		v.ph = 7
	}
	err := v.vent(c.Vented)
	if err == nil {
		err = v.settle()
	}
	if err != nil && c.Within > 0 { // on the edge of two answers it takes more exactness
		c.Within = 0
		return Solve(s, c)
	}
	if err != nil {
		return Equilibrium{}, err
	}
	return v.result(s, !c.NoRange), nil
}

// Titrate returns the strong acid, in mol to a kg of water, that brings a
// closed solution to a pH, nothing falling out; 0 when it is below it already.
// The error is of [Solve].
func Titrate(s *Solution, celsius, toPH float64) (float64, error) {
	acid, err := Neutralise(s, celsius, toPH)
	return max(0, acid), err
}

// Neutralise returns the strong acid, in mol to a kg of water, that brings a closed
// solution to a pH, nothing falling out; below zero it is strong alkali that does. The
// error is of [Solve].
func Neutralise(s *Solution, celsius, toPH float64) (float64, error) {
	if !(celsius >= MinCelsius && celsius <= MaxCelsius) {
		return 0, fmt.Errorf("%w, not at %g °C", ErrConditions, celsius)
	}
	if !s.isComplete() {
		return 0, ErrAmounts
	}
	v := solver{s: *s, k: constantsAt(celsius), keeps: true}
	v.ionic = v.firstIonic()
	const most = 100
	for range most {
		v.setActivity()
		v.at(toPH)
		// what charge there is at that pH, the acid has to balance
		added := v.sp.charge
		next := v.sp.ionic + added/2
		v.s.Ions.Chloride += added
		if math.Abs(next-v.ionic) <= roughIonic*next && math.Abs(added) <= roughIonic*next {
			return v.s.Ions.Chloride - s.Ions.Chloride, nil
		}
		v.ionic = max(next, v.ionic/10)
	}
	return 0, ErrNotConverged
}

func (s *Solution) isComplete() bool {
	sum := s.Ions.Sodium + s.Ions.Potassium + s.Ions.Chloride + s.Ions.Sulfonate + s.Calcium + s.Magnesium
	least := min(s.Ions.Sodium, s.Ions.Potassium, s.Ions.Chloride, s.Ions.Sulfonate, s.Calcium, s.Magnesium)
	for _, mol := range s.Acids {
		sum += mol
		least = min(least, mol)
	}
	return least >= 0 && !math.IsNaN(sum) && !math.IsInf(sum, 0)
}

// solver holds one solution while it is worked out. It lives on the stack.
type solver struct {
	s     Solution // what is dissolved: less what has left or fallen out
	k     constants
	m     mixed
	open  bool // carbon dioxide is held at what air holds
	keeps bool // calcite stays dissolved

	ph      float64
	ionic   float64
	stretch *stretch // nil is the model itself

	precision, ionicPrecision float64 // to which the pH and the ionic strength are found

	// at the present pH and ionic strength
	act     activity
	sp      species
	calcite float64
	gone    float64
}

// stretch is a way to guess at activities beyond the model.
type stretch struct {
	ionicAtMost float64
	linear      float64
}

// activity is what the ionic strength does to constants of charged species.
type activity struct {
	g  float64               // 10^(A·G): one over the activity coefficient of a single charge
	up [maxPower + 1]float64 // powers of g
}

const maxPower = 20

func (a *activity) set(A, ionic, linear float64) {
	root := math.Sqrt(ionic)
	a.g = math.Exp(math.Ln10 * A * (root/(1+root) - linear*ionic))
	p := 1.0
	for i := range a.up {
		a.up[i] = p
		p *= a.g
	}
}

// pow is g to an integer power between −maxPower and maxPower.
func (a *activity) pow(n int) float64 {
	if n < 0 {
		return 1 / a.up[-n]
	}
	return a.up[n]
}

// species is the make-up of the solution at one pH.
type species struct {
	charge     float64 // of everything: zero at equilibrium
	slope      float64 // −d charge / d ln(aH⁺): the buffer strength over ln 10
	ionic      float64
	co2        float64
	carbon     float64
	protonated float64
	ca, mg     float64
	chelated   float64
	satur      float64 // ion product of calcite over its solubility product
}

// settle finds the pH and the ionic strength that go together, and lets
// calcite fall out.
func (v *solver) settle() error {
	if err := v.balance(); err != nil {
		return err
	}
	if v.sp.satur > 1 && !v.keeps {
		return v.fallOut()
	}
	return nil
}

// balance iterates the ionic strength and the pH together.
func (v *solver) balance() error {
	if v.ionic == 0 {
		v.ionic = v.firstIonic()
	}
	const most, patience = 200, 30
	before, change := v.ionic, 0.0
	tolerance := 1e-3 // of the pH, while the ionic strength is far off
	for i := range most {
		v.setActivity()
		if err := v.findPH(tolerance); err != nil {
			return err
		}
		delta := v.sp.ionic - v.ionic
		off := math.Abs(delta) / (1e-6 + v.sp.ionic)
		if tolerance <= v.precision && (off <= v.ionicPrecision || i > patience && off <= noiseIonic) {
			v.ionic = v.sp.ionic
			return nil
		}
		least := v.precision
		if tolerance <= least { // so steep that a pH as exact as asked for is not enough
			least = tolerancePH
		}
		tolerance = min(tolerance, max(least, 1e-2*off))
		// a secant step on I(next) − I, kept within what is plausible
		step := delta
		if change != 0 && math.Abs(change-delta) > 1e-3*math.Abs(delta) {
			if secant := delta * (v.ionic - before) / (change - delta); secant*delta > 0 && math.Abs(secant) < 4*math.Abs(delta) {
				step = secant
			}
		}
		before, change = v.ionic, delta
		v.ionic = max(v.ionic+step, v.ionic/10)
	}
	return ErrNotConverged
}

func (v *solver) setActivity() {
	ionic, linear := v.ionic, 0.3
	if v.stretch != nil {
		ionic, linear = min(ionic, v.stretch.ionicAtMost), v.stretch.linear
	} else {
		ionic = min(ionic, daviesLimit)
	}
	v.act.set(v.k.a, ionic, linear)
	v.k.apply(&v.s, &v.act, &v.m)
}

func (v *solver) firstIonic() float64 {
	i := v.s.Ions.Sodium + v.s.Ions.Potassium + v.s.Ions.Chloride + v.s.Ions.Sulfonate + 4*(v.s.Calcium+v.s.Magnesium)
	return i/2 + 1e-7
}

// findPH finds the root of the charge in the pH, to a tolerance, by Newton's
// method within a bracket, falling back on halving it, so that it cannot run
// away.
func (v *solver) findPH(tolerance float64) error {
	lo, hi := minPH, maxPH
	ph := min(max(v.ph, lo), hi)
	previous := math.Inf(1)
	const most = 120
	for range most {
		v.at(ph)
		f := v.sp.charge
		if f == 0 {
			v.ph = ph
			return nil
		}
		if f > 0 { // too many positive charges: the pH is higher
			lo = ph
		} else {
			hi = ph
		}
		next := (lo + hi) / 2
		if v.sp.slope > 0 && math.Abs(f) < previous {
			if newton := ph + f/(v.sp.slope*math.Ln10); newton > lo && newton < hi {
				next = newton
			}
		}
		previous = math.Abs(f) * 0.7
		if math.Abs(next-ph) < tolerance || hi-lo < tolerance {
			v.ph = next
			return nil
		}
		ph = next
	}
	return ErrNotConverged
}

// at works out the species at a pH with the present activities.
func (v *solver) at(ph float64) {
	a := math.Exp(-math.Ln10 * ph)
	m := &v.m
	h := a * v.act.g
	oh := m.kw / a * v.act.g
	sp := species{charge: v.s.charge() + h - oh, slope: h + oh,
		ionic: h + oh + v.s.Ions.Sodium + v.s.Ions.Potassium + v.s.Ions.Chloride + v.s.Ions.Sulfonate}
	hard := v.s.Calcium > 0 || v.s.Magnesium > 0
	var b bound
	if hard {
		b = v.bind(a)
	}
	for i := range v.s.Acids {
		total := v.s.Acids[i]
		if total == 0 && !(v.open && Acid(i) == Carbonic) {
			continue
		}
		if Acid(i) == Boric && total > boronAlone {
			v.borates(&sp, total, a)
			continue
		}
		free := total - b.taken[i]
		v.acid(&sp, Acid(i), free, a)
		sp.charge += b.charge[i] // the part that holds a metal, in its own charge
	}
	if hard {
		sp.ca, sp.mg, sp.chelated = b.ca, b.mg, b.chelated
		sp.carbon += b.taken[Carbonic]
		sp.ionic += 4*(b.ca+b.mg) + b.ionic
		sp.satur = b.ca * b.co3 / m.ksp
	}
	sp.ionic /= 2
	v.sp = sp
}

// acid adds the forms of an acid. free is what of it holds no metal.
func (v *solver) acid(sp *species, i Acid, free, a float64) {
	def := &acids[i]
	ks := &v.m.steps[i]
	n := len(def.steps)
	w := [maxSteps + 1]float64{1}
	sum := 1.0
	for j := range n {
		w[j+1] = w[j] * ks[j] / a
		sum += w[j+1]
	}
	scale := free / sum
	if i == Carbonic && v.open {
		scale = v.k.airCO2
		free = scale * sum
	}
	z := float64(def.charge)
	var q, zz float64
	for j := 0; j <= n; j++ {
		c := w[j] * scale
		q += z * c
		zz += z * z * c
		z--
	}
	sp.charge += q
	sp.ionic += zz
	if free > 0 {
		sp.slope += zz - q*q/free
	}
	switch i {
	case Carbonic:
		if v.open {
			sp.slope += q * q / free // the total is not kept: more dissolves
		}
		sp.co2, sp.carbon = scale, free
	case Soap:
		if free > 0 {
			sp.protonated = scale / free
		}
	}
}

// vent lets a share of the gas leave that air does not hold.
func (v *solver) vent(share float64) error {
	if share <= 0 {
		return nil
	}
	total := v.s.Acids[Carbonic]
	v.open = true
	err := v.settle()
	v.open = false
	if err != nil {
		return err
	}
	left := v.sp.carbon + v.calcite
	v.s.Acids[Carbonic] = total // and calcite is dissolved again
	v.s.Calcium += v.calcite
	v.calcite = 0
	if left >= total {
		return nil // it holds less than air would give it
	}
	v.gone = min(share, 1) * (total - left)
	v.s.Acids[Carbonic] -= v.gone
	return nil
}

// result reads the answer off, and gives a range beyond the model where one is
// asked for.
func (v *solver) result(given *Solution, ranged bool) Equilibrium {
	e := Equilibrium{PH: v.ph, Low: v.ph, High: v.ph, IonicStrength: v.ionic, Buffer: v.sp.slope * math.Ln10,
		CO2: v.sp.co2, Carbon: v.sp.carbon, Gone: v.gone, Calcite: v.calcite, Protonated: v.sp.protonated,
		Metals: Metals{FreeCalcium: v.sp.ca, FreeMagnesium: v.sp.mg, Chelated: v.sp.chelated}}
	if v.k.celsius != 25 {
		for i, mol := range given.Acids {
			if mol > 0 && acids[i].held {
				e.HeldAt25 = append(e.HeldAt25, Acid(i))
			}
		}
	}
	if v.ionic > daviesLimit {
		e.Beyond = true
		if ranged {
			e.Low, e.High = v.guess(e.PH)
		}
	}
	return e
}

// guesses are what the activities may be beyond the model: none at all to the
// Debye–Hückel law without its linear term.
var guesses = []stretch{{ionicAtMost: 0.1, linear: 0.3}, {ionicAtMost: math.Inf(1), linear: 0}}

// guessMargin widens the guesses, in units of pH. From memory: how far strong
// brines read from such models.
const guessMargin = 0.15

// guess solves with each way to stretch the model and returns the ends.
func (v *solver) guess(ph float64) (low, high float64) {
	low, high = ph, ph
	for i := range guesses {
		w := *v
		w.stretch = &guesses[i]
		if w.balance() == nil {
			low, high = min(low, w.ph), max(high, w.ph)
		}
	}
	// it is not wrong at once where the model is left
	far := min(1, (v.ionic-daviesLimit)/daviesLimit)
	return ph - far*(ph-low+guessMargin), ph + far*(high-ph+guessMargin)
}
