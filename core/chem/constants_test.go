package chem

import (
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// Plummer & Busenberg 1982 at 25 °C: pK1 6.352, pK2 10.329, pKH 1.468, calcite
// 8.480; at 50 °C: 6.287, 10.172, 1.710, 8.658 (their tables, from memory to
// 0.02).
func TestCarbonateConstants(t *testing.T) {
	for celsius, want := range map[float64][4]float64{25: {6.352, 10.329, 1.468, 8.480}, 50: {6.287, 10.172, 1.710, 8.658}} {
		c := carbonateAt(celsius + zeroCelsius)
		for i, k := range []float64{c.k1, c.k2, c.henry, c.ksp} {
			assert.InDelta(t, want[i], -math.Log10(k), 0.02, "%g °C, constant %d", celsius, i)
		}
	}
}

// The ion product of water: 14.346 at 15, 13.995 at 25, 13.535 at 40, 13.015 at
// 60 °C (CRC Handbook; IAPWS; from memory): within 0.03, for one heat capacity
// serves all of 15 to 60 °C.
func TestTheIonProductOfWater(t *testing.T) {
	for celsius, want := range map[float64]float64{15: 14.346, 25: 13.995, 40: 13.535, 60: 13.015} {
		assert.InDelta(t, want, -math.Log10(water.at(celsius+zeroCelsius)), 0.03, "%g °C", celsius)
	}
}

// A of Debye and Hückel: 0.502 at 15, 0.509 at 25, 0.524 at 40, 0.545 at 60 °C
// (Robinson & Stokes, Electrolyte Solutions; from memory to 0.004).
func TestTheSlopeOfDebyeAndHueckel(t *testing.T) {
	for celsius, want := range map[float64]float64{15: 0.5020, 25: 0.5092, 40: 0.5241, 60: 0.5450} {
		assert.InDelta(t, want, debyeHueckel(celsius), 0.004, "%g °C", celsius)
	}
}

// Mean activity coefficients of salts at 25 °C: 0.902 for sodium chloride at
// 0.01 and 0.778 at 0.1 mol/kg (Robinson & Stokes).
func TestActivityCoefficients(t *testing.T) {
	for molality, want := range map[float64]float64{0.01: 0.902, 0.1: 0.778} {
		var a activity
		a.set(debyeHueckel(25), molality, 0.3)
		assert.InDelta(t, want, 1/a.g, 0.01)
		assert.InDelta(t, math.Pow(a.g, -12), a.pow(-12), 1e-12)
		assert.InDelta(t, math.Pow(a.g, 8), a.pow(8), 1e-9)
	}
}

// Every compound is neutral: the charge of its ions is made up by its acids at
// some pH, so that the anions it can have suffice for its cations.
func TestCompoundsAreNeutral(t *testing.T) {
	for i := range compounds {
		c := &compounds[i]
		cations := c.ions.Sodium + c.ions.Potassium - c.ions.Chloride - c.ions.Sulfonate + 2*(c.calcium+c.magnesium)
		var most, least float64 // negative charge its acids can carry
		for _, p := range c.acids {
			def := acids[p.acid]
			most += p.mol * float64(len(def.steps)-def.charge)
			least -= p.mol * float64(def.charge)
		}
		hydroxide := strings.HasSuffix(c.ID, "-hydroxide")
		assert.True(t, hydroxide || cations <= most+1e-9, "%s has more cations than its anions can hold", c.ID)
		acid := c.AcidEq > 0
		assert.True(t, acid || cations >= least-1e-9, "%s", c.ID)
	}
}

// Every acid gives its protons off one weaker than the one before.
func TestStepsGrowWeaker(t *testing.T) {
	for _, a := range acids {
		assert.NotEmpty(t, a.name)
		for j := 1; j < len(a.steps); j++ {
			assert.Greater(t, a.steps[j].pKa, a.steps[j-1].pKa, a.name)
		}
		for _, s := range a.steps {
			assert.True(t, a.held == (s.enthalpy == 0 && s.heatCapacity == 0), "%s: what is not carried is held, and said so", a.name)
		}
	}
}

func TestSolubilityRisesWithWarmth(t *testing.T) {
	for id := range solubility {
		c, ok := FindCompound(id)
		assert.True(t, ok, id)
		cold, known := c.Solubility(20)
		warm, _ := c.Solubility(40)
		assert.True(t, known)
		if id != "calcium-carbonate" && id != "calcium-hydroxide" { // which warmth drives out
			assert.Greater(t, warm, cold, id)
		}
	}
}

// At equilibrium charges balance, and every metal is somewhere: free, held by a
// chelant, paired with carbonate or fallen out.
func TestIonsBalance(t *testing.T) {
	for _, mol := range []map[string]float64{
		{"sodium-carbonate": 0.02, "citric-acid": 0.005, "calcium-chloride": 0.002, "magnesium-sulfate": 0.001},
		{"borax": 0.01, "edta": 0.001, "calcium-chloride": 0.003}, {"borax": 0.12}, {"citric-acid": 0.02, "calcium-chloride": 0.01}, {"soap": 0.002, "acetic-acid": 0.01, "sodium-bicarbonate": 0.01},
		{"calcium-carbonate": 0.01, "carbon-dioxide": 0.02}, {"sodium-hydroxide": 0.1}, {"hydrochloric-acid": 0.1}, {},
	} {
		var s Solution
		for name, n := range mol {
			c, ok := FindCompound(name)
			assert.True(t, ok, name)
			s.Add(c, n)
		}
		v := solver{s: s, k: at25, ph: 7, precision: tolerancePH, ionicPrecision: toleranceIonic}
		assert.NoError(t, v.settle())
		assert.InDelta(t, 0, v.sp.charge, 1e-8*(v.ionic+1e-7), "%v", mol)
		a := math.Pow(10, -v.ph)
		if v.s.Calcium > 0 {
			b := v.bind(a)
			paired := b.co3 * (v.m.bonds[0][byCarbonate]*b.ca + v.m.bonds[0][byBicarbonate]*b.ca*a/v.m.steps[Carbonic][1])
			held := 0.0
			for _, l := range []Acid{Citric, EDTA} {
				if n := v.s.Acids[l]; n > 0 {
					forms, w := 1.0, 1.0
					for j := len(acids[l].steps) - 1; j >= 0; j-- {
						w *= a / v.m.steps[l][j]
						forms += w
					}
					kCa, kMg := v.m.bonds[0][byEDTA], v.m.bonds[1][byEDTA]
					if l == Citric {
						one, two := a/v.m.steps[Citric][2], a*a/v.m.steps[Citric][2]/v.m.steps[Citric][1]
						at := func(metal int) float64 {
							k := v.m.bonds[metal]
							return k[byCitrate] + k[byHCitrate]*one + k[byH2Citrate]*two
						}
						kCa, kMg = at(0), at(1)
					}
					held += n * kCa * b.ca / (forms + kCa*b.ca + kMg*b.mg)
				}
			}
			assert.InEpsilon(t, s.Calcium, b.ca+held+paired+v.calcite, 1e-6, "calcium of %v", mol)
		}
	}
}
