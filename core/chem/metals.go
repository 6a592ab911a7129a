package chem

import (
	"math"
	"sync/atomic"
)

// complex is a metal holding an anion: its stability at infinite dilution and
// 25 °C, as log K, and the charge of the whole.
type complexDef struct {
	logK   float64
	anion  int
	charge int
}

// Stability of complexes. Carbonates of calcium: Plummer & Busenberg 1982.
// Citrate and its protonated complexes: NIST Standard Reference Database 46, from
// memory. The others are from memory.
var (
	calciumCitrate       = complexDef{4.7, -3, -1}
	magnesiumCitrate     = complexDef{4.8, -3, -1}
	calciumHCitrate      = complexDef{2.86, -2, 0}
	magnesiumHCitrate    = complexDef{2.51, -2, 0}
	calciumH2Citrate     = complexDef{1.10, -1, 1}
	magnesiumH2Citrate   = complexDef{1.04, -1, 1}
	calciumEDTA          = complexDef{12.44, -4, -2}
	magnesiumEDTA        = complexDef{10.6, -4, -2}
	calciumCarbonate     = complexDef{3.224, -2, 0}
	magnesiumCarbonate   = complexDef{2.98, -2, 0}
	calciumBicarbonate   = complexDef{1.106, -1, 1}
	magnesiumBicarbonate = complexDef{1.07, -1, 1}
)

// shift is the power of g that carries the constant to an ionic strength.
func (c complexDef) shift() int { return c.charge*c.charge - 4 - c.anion*c.anion }

// constants are all constants at one temperature, at infinite dilution.
type constants struct {
	celsius float64
	a       float64 // of the Davies equation
	kw      float64
	steps   [acidCount][maxSteps]float64
	ksp     float64
	airCO2  float64 // dissolved where air holds it, mol/kg
}

var at25 = makeConstants(25)

// lastConstants are those last asked for: one good is worked out many times at
// one temperature.
var lastConstants atomic.Pointer[constants]

func constantsAt(celsius float64) constants {
	if celsius == 25 {
		return at25
	}
	if last := lastConstants.Load(); last != nil && last.celsius == celsius {
		return *last
	}
	k := makeConstants(celsius)
	lastConstants.Store(&k)
	return k
}

func makeConstants(celsius float64) constants {
	t := celsius + zeroCelsius
	c := constants{celsius: celsius, a: debyeHueckel(celsius), kw: water.at(t)}
	for i := range acids {
		for j, s := range acids[i].steps {
			c.steps[i][j] = s.at(t)
			if acids[i].held {
				c.steps[i][j] = s.at(reference)
			}
		}
	}
	co2 := carbonateAt(t)
	c.steps[Carbonic] = [maxSteps]float64{co2.k1, co2.k2}
	c.ksp, c.airCO2 = co2.ksp, co2.henry*airCO2
	return c
}

// mixed are the constants at one ionic strength: of concentrations, but for
// H⁺, which is an activity.
type mixed struct {
	kw, ksp float64
	steps   [acidCount][maxSteps]float64
	bonds   [2][bondCount]float64 // by metal
	poly    [2]float64            // of the polyborates
}

// The ways a metal can be held.
const (
	byCitrate = iota
	byHCitrate
	byH2Citrate
	byEDTA
	byCarbonate
	byBicarbonate
	bondCount
)

// bonds are the complexes of calcium and of magnesium.
var bonds = [2][bondCount]complexDef{
	{calciumCitrate, calciumHCitrate, calciumH2Citrate, calciumEDTA, calciumCarbonate, calciumBicarbonate},
	{magnesiumCitrate, magnesiumHCitrate, magnesiumH2Citrate, magnesiumEDTA, magnesiumCarbonate, magnesiumBicarbonate},
}

var bondConstants = func() (k [2][bondCount]float64) {
	for metal := range bonds {
		for i, b := range bonds[metal] {
			k[metal][i] = math.Pow(10, b.logK)
		}
	}
	return k
}()

// apply carries the constants to an ionic strength. Only acids that are there
// are looked at.
func (k *constants) apply(s *Solution, act *activity, m *mixed) {
	m.kw = k.kw
	for i := range acids {
		if s.Acids[i] == 0 && Acid(i) != Carbonic {
			continue
		}
		z := acids[i].charge
		for j := range acids[i].steps {
			// log K' = log K + A·G·(z_base² − z_acid²)
			m.steps[i][j] = k.steps[i][j] * act.pow((z-1)*(z-1)-z*z)
			z--
		}
	}
	if s.Acids[Boric] > boronAlone {
		m.poly = [2]float64{triborate * act.pow(1), tetraborate * act.pow(4)}
	}
	if s.Calcium == 0 && s.Magnesium == 0 {
		return
	}
	m.ksp = k.ksp * act.pow(8) // Ca²⁺ and CO₃²⁻
	for metal := range bonds {
		for i, b := range bonds[metal] {
			m.bonds[metal][i] = bondConstants[metal][i] * act.pow(b.shift())
		}
	}
}

// bound is where the metals are at one pH, and what they hold of each acid.
type bound struct {
	ca, mg, co3 float64
	taken       [acidCount]float64 // mol of the acid that holds a metal
	charge      [acidCount]float64 // its own charge, without the metal's
	ionic       float64            // Σ z² c of the complexes
	chelated    float64
}

// ligand is an acid that can hold a metal: its total, its proton forms over
// its bare one, and how strongly the bare one holds each metal.
type ligand struct {
	acid  Acid
	total float64
	forms float64
	k     [2]float64
}

// bind shares the metals out among what holds them, at a pH.
func (v *solver) bind(a float64) bound {
	var b bound
	m := &v.m
	var ligands [3]ligand
	n := 0
	add := func(acid Acid, total float64, kCa, kMg float64) {
		steps := len(acids[acid].steps)
		forms, w := 1.0, 1.0
		for j := steps - 1; j >= 0; j-- {
			w *= a / m.steps[acid][j]
			forms += w
		}
		ligands[n] = ligand{acid, total, forms, [2]float64{kCa, kMg}}
		n++
	}
	perCit := a / m.steps[Citric][2] // HCit²⁻ for each Cit³⁻, and H₂Cit⁻
	perCit2 := perCit * a / m.steps[Citric][1]
	if c := v.s.Acids[Citric]; c > 0 {
		add(Citric, c, m.bonds[0][byCitrate]+perCit*m.bonds[0][byHCitrate]+perCit2*m.bonds[0][byH2Citrate],
			m.bonds[1][byCitrate]+perCit*m.bonds[1][byHCitrate]+perCit2*m.bonds[1][byH2Citrate])
	}
	if c := v.s.Acids[EDTA]; c > 0 {
		add(EDTA, c, m.bonds[0][byEDTA], m.bonds[1][byEDTA])
	}
	perCO3 := a / m.steps[Carbonic][1] // HCO₃⁻ for each CO₃²⁻
	carbonate := -1
	fixed := 1.0 // what holds calcium and magnesium whatever they are: open carbonate
	fixedMg := 1.0
	kCa := m.bonds[0][byCarbonate] + m.bonds[0][byBicarbonate]*perCO3
	kMg := m.bonds[1][byCarbonate] + m.bonds[1][byBicarbonate]*perCO3
	switch {
	case v.open:
		b.co3 = v.k.airCO2 * m.steps[Carbonic][0] / a * m.steps[Carbonic][1] / a
		fixed += kCa * b.co3
		fixedMg += kMg * b.co3
	case v.s.Acids[Carbonic] > 0:
		carbonate = n
		add(Carbonic, v.s.Acids[Carbonic], kCa, kMg)
	}
	b.ca, b.mg = v.share(ligands[:n], fixed, fixedMg)
	for i := range ligands[:n] {
		l := &ligands[i]
		bare := l.total / (l.forms + l.k[0]*b.ca + l.k[1]*b.mg)
		if i == carbonate {
			b.co3 = bare
			continue
		}
		held := bare * (l.k[0]*b.ca + l.k[1]*b.mg)
		b.chelated += held
		if l.acid == Citric {
			half := bare * perCit * (m.bonds[0][byHCitrate]*b.ca + m.bonds[1][byHCitrate]*b.mg)
			one := bare * perCit2 * (m.bonds[0][byH2Citrate]*b.ca + m.bonds[1][byH2Citrate]*b.mg)
			b.taken[Citric], b.charge[Citric] = held, -3*held+half+2*one
			b.ionic += held - half // (−1)² of the bare complex, none of the half, 1 of the last
			continue
		}
		z := float64(acids[l.acid].charge - len(acids[l.acid].steps))
		b.taken[l.acid], b.charge[l.acid] = held, z*held
		b.ionic += (z + 2) * (z + 2) * held
	}
	if b.co3 > 0 {
		full := b.co3 * (m.bonds[0][byCarbonate]*b.ca + m.bonds[1][byCarbonate]*b.mg)
		half := b.co3 * perCO3 * (m.bonds[0][byBicarbonate]*b.ca + m.bonds[1][byBicarbonate]*b.mg)
		b.taken[Carbonic], b.charge[Carbonic] = full+half, -2*full-half
		b.ionic += half
	}
	return b
}

// toleranceMetal is how well the free metals are known, as a share of all, and
// roughMetal how well where the pH is asked for roughly.
const (
	toleranceMetal = 1e-12
	roughMetal     = 1e-7
)

// share returns the free calcium and magnesium: each is found in turn until
// neither changes. It begins where the last pH left them. Where the ligands are just
// full the turns creep, so after a few of them both are moved at once.
func (v *solver) share(ligands []ligand, fixedCa, fixedMg float64) (ca, mg float64) {
	const most, turns = 60, 3
	ca, mg = min(v.sp.ca, v.s.Calcium), min(v.sp.mg, v.s.Magnesium)
	tolerance := toleranceMetal
	if v.precision > tolerancePH {
		tolerance = roughMetal
	}
	for i := range most {
		before, beforeMg := ca, mg
		ca = freeMetal(ligands, 0, v.s.Calcium, fixedCa, mg, ca, tolerance)
		mg = freeMetal(ligands, 1, v.s.Magnesium, fixedMg, ca, mg, tolerance)
		if i >= turns && ca > 0 && mg > 0 {
			ca, mg = v.bothMetals(ligands, fixedCa, fixedMg, ca, mg)
		}
		if math.Abs(ca-before) <= tolerance*v.s.Calcium && math.Abs(mg-beforeMg) <= tolerance*v.s.Magnesium {
			break
		}
	}
	return ca, mg
}

// bothMetals moves the free calcium and magnesium by one step of Newton's method for both
// at once, where that brings what is free and bound nearer to what there is.
func (v *solver) bothMetals(ligands []ligand, fixedCa, fixedMg, ca, mg float64) (float64, float64) {
	off := func(ca, mg float64) (f, g, fCa, fMg, gMg float64) {
		f, g, fCa, gMg = fixedCa*ca-v.s.Calcium, fixedMg*mg-v.s.Magnesium, fixedCa, fixedMg
		for i := range ligands {
			l := &ligands[i]
			d := 1 / (l.forms + l.k[0]*ca + l.k[1]*mg)
			bare := l.total * d
			f += bare * l.k[0] * ca
			g += bare * l.k[1] * mg
			fCa += bare * l.k[0] * (l.forms + l.k[1]*mg) * d
			gMg += bare * l.k[1] * (l.forms + l.k[0]*ca) * d
			fMg -= bare * l.k[0] * l.k[1] * d
		}
		return f, g, fCa, fMg, gMg
	}
	f, g, fCa, cross, gMg := off(ca, mg)
	fMg, gCa := cross*ca, cross*mg
	det := fCa*gMg - fMg*gCa
	if !(det > 0) {
		return ca, mg
	}
	nextCa, nextMg := ca-(f*gMg-g*fMg)/det, mg-(g*fCa-f*gCa)/det
	if !(nextCa > 0 && nextMg > 0) {
		return ca, mg
	}
	nf, ng, _, _, _ := off(nextCa, nextMg)
	if math.Abs(nf)+math.Abs(ng) >= math.Abs(f)+math.Abs(g) {
		return ca, mg
	}
	return nextCa, nextMg
}

// freeMetal finds how much of one metal is free beside so much of the other.
// What is bound bends down as the free metal rises, so Newton's method comes
// to the root from below and cannot pass it; from above its first step may
// fall below nothing, and is begun again from there.
func freeMetal(ligands []ligand, metal int, total, fixed, other, x, tolerance float64) float64 {
	if total == 0 {
		return 0
	}
	const most = 100
	for range most {
		f, slope := fixed*x-total, fixed
		for i := range ligands {
			l := &ligands[i]
			rest := l.forms + l.k[1-metal]*other
			k := l.k[metal]
			d := 1 / (rest + k*x)
			part := k * l.total * d
			f += part * x
			slope += part * rest * d
		}
		step := -f / slope
		x = max(0, x+step)
		if math.Abs(step) <= tolerance*total {
			break
		}
	}
	return x
}

// fallOut lets calcite fall out until the solution is no more than saturated.
// The calcium left is looked for on a logarithmic scale, on which the
// saturation is nearly straight.
func (v *solver) fallOut() error {
	calcium, carbon := v.s.Calcium, v.s.Acids[Carbonic]
	least := calcium * 1e-9
	if !v.open {
		least = max(least, calcium-carbon*(1-1e-9))
	}
	try := func(u float64) (float64, error) {
		v.s.Calcium = math.Exp(u)
		if !v.open {
			v.s.Acids[Carbonic] = carbon - (calcium - v.s.Calcium)
		}
		err := v.balance()
		return math.Log(v.sp.satur), err
	}
	hi, fHi := math.Log(calcium), math.Log(v.sp.satur)
	// as much less calcium as there is too much of it is nearly right: a
	// little more than that is on the other side
	lo := max(math.Log(least), hi-fHi-0.5)
	fLo, err := try(lo)
	if err != nil {
		return err
	}
	const most = 80
	side := 0 // which end moved last
	for range most {
		if fLo > 0 {
			if lo <= math.Log(least) { // all that can fall out does
				break
			}
			hi, fHi = lo, fLo
			lo = max(math.Log(least), hi-2*fHi-0.5)
			if fLo, err = try(lo); err != nil {
				return err
			}
			continue
		}
		u := hi - fHi*(hi-lo)/(fHi-fLo)
		if !(u > lo && u < hi) {
			u = (lo + hi) / 2
		}
		f, err := try(u)
		if err != nil {
			return err
		}
		if math.Abs(f) < max(1e-8, v.precision) || hi-lo < 1e-12 {
			break
		}
		// the Illinois rule: an end that stays twice loses weight
		switch {
		case f > 0:
			if side > 0 {
				fLo /= 2
			}
			hi, fHi, side = u, f, 1
		default:
			if side < 0 {
				fHi /= 2
			}
			lo, fLo, side = u, f, -1
		}
	}
	v.calcite = calcium - v.s.Calcium
	return nil
}
