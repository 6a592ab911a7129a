package chem

import "math"

// Acid is a weak acid, in all its forms from fully protonated to bare anion.
type Acid uint8

// The acids of the job, and those of the standard buffers.
const (
	Carbonic Acid = iota
	Citric
	Boric
	Acetic
	Phosphoric
	Ammonium // the acid of ammonia
	Silicic
	Peroxide
	Bisulfate // the acid of sulfate
	EDTA
	Soap // a fatty acid, as an apparent weak acid: see pKaSoap
	Hypochlorous
	Benzoic
	Sorbic
	Phthalic
	Tartaric
	Lactic
	Oxalic
	Malic
	Gluconic
	acidCount
)

// String returns the name of the acid.
func (a Acid) String() string { return acids[a].name }

// maxSteps is how many protons an acid gives off at the most.
const maxSteps = 4

// step is one proton given off: pKa at 25 °C and infinite dilution, with the
// enthalpy in kJ/mol and the heat capacity change in J/(mol K) that carry it
// to other temperatures.
type step struct{ pKa, enthalpy, heatCapacity float64 }

type acidDef struct {
	name   string
	charge int // of the fully protonated form
	steps  []step
	held   bool // no temperature dependence is known: 25 °C stands
}

// SoapPKaUsual is the apparent pKa of fatty acids of bar and liquid soap in water,
// where they gather in micelles and crystals. From memory: 7.5 for the short
// ones of coconut to 8.8 for the long ones of tallow.
const (
	SoapPKaLow, SoapPKaHigh = 7.5, 8.8

	SoapPKaUsual = 8.0
)

// Sources. Carbonic: Plummer & Busenberg, Geochim. Cosmochim. Acta 46 (1982)
// 1011, whose temperature functions stand in [carbonateAt]. Citric, boric,
// acetic, phosphoric, ammonia, sulfate, phthalic, tartaric: Goldberg, Kishore
// & Lennen, J. Phys. Chem. Ref. Data 31 (2002) 231, values from memory, which
// agree with the CRC Handbook. Lactic, oxalic, malic: CRC Handbook, from memory.
// Silicic, peroxide, EDTA, hypochlorous, benzoic, sorbic, gluconic: from memory.
var acids = [acidCount]acidDef{
	Carbonic:     {name: "carbonic acid", steps: []step{{6.351, 9.15, -371}, {10.329, 14.70, -249}}},
	Citric:       {name: "citric acid", steps: []step{{3.128, 4.07, -131}, {4.761, 2.23, -178}, {6.396, -3.38, -254}}},
	Boric:        {name: "boric acid", steps: []step{{9.237, 13.8, -240}}},
	Acetic:       {name: "acetic acid", steps: []step{{4.756, -0.41, -142}}},
	Phosphoric:   {name: "phosphoric acid", steps: []step{{2.148, -8.0, -141}, {7.198, 3.6, -230}, {12.35, 16.0, -242}}},
	Ammonium:     {name: "ammonium", charge: 1, steps: []step{{9.245, 51.95, 8}}},
	Silicic:      {name: "silicic acid", steps: []step{{9.84, 25.6, 0}, {13.2, 37, 0}}},
	Peroxide:     {name: "hydrogen peroxide", steps: []step{{11.65, 34, 0}}},
	Bisulfate:    {name: "bisulfate", charge: -1, steps: []step{{1.987, -22.4, -258}}},
	EDTA:         {name: "EDTA", steps: []step{{2.16, 0, 0}, {3.12, 0, 0}, {6.27, 0, 0}, {10.95, 0, 0}}, held: true},
	Soap:         {name: "soap", steps: []step{{SoapPKaUsual, 0, 0}}, held: true},
	Hypochlorous: {name: "hypochlorous acid", steps: []step{{7.53, 13.8, 0}}},
	Benzoic:      {name: "benzoic acid", steps: []step{{4.20, 0, 0}}, held: true},
	Sorbic:       {name: "sorbic acid", steps: []step{{4.76, 0, 0}}, held: true},
	Phthalic:     {name: "phthalic acid", steps: []step{{2.950, -2.70, -91}, {5.408, -2.17, -295}}},
	Tartaric:     {name: "tartaric acid", steps: []step{{3.036, 3.19, -147}, {4.366, 0.93, -218}}},
	Lactic:       {name: "lactic acid", steps: []step{{3.86, 0, 0}}, held: true},
	Oxalic:       {name: "oxalic acid", steps: []step{{1.27, 0, 0}, {4.27, 0, 0}}, held: true},
	Malic:        {name: "malic acid", steps: []step{{3.459, 0, 0}, {5.097, 0, 0}}, held: true},
	Gluconic:     {name: "gluconic acid", steps: []step{{3.7, 0, 0}}, held: true},
}

// water is its own ion product: 13.995 at 25 °C (CRC Handbook, from memory).
var water = step{13.995, 55.815, -224}

const (
	zeroCelsius = 273.15
	reference   = 25 + zeroCelsius // K, for which constants are given
	gasConstant = 8.314462618      // J/(mol K), CODATA 2018
	// MinCelsius and MaxCelsius bound the temperatures for which constants
	// can be carried.
	MinCelsius, MaxCelsius = 15.0, 60.0
)

// at returns the constant itself, not its logarithm, at a temperature in K,
// by van 't Hoff with a constant heat capacity.
func (s step) at(kelvin float64) float64 {
	x := s.enthalpy*1000/gasConstant*(1/reference-1/kelvin) +
		s.heatCapacity/gasConstant*(reference/kelvin-1+math.Log(kelvin/reference))
	return math.Pow(10, -s.pKa+x/math.Ln10)
}

// carbonates are the constants of dissolved carbon dioxide and calcite.
type carbonates struct {
	k1, k2 float64 // of carbonic acid
	henry  float64 // mol/(kg atm)
	ksp    float64 // calcite
}

// carbonateAt gives them at a temperature in K: Plummer & Busenberg 1982.
func carbonateAt(t float64) carbonates {
	f := func(a, b, c, d, e float64) float64 {
		return math.Pow(10, a+b*t+c/t+d*math.Log10(t)+e/(t*t))
	}
	return carbonates{
		k1:    f(-356.3094, -0.06091964, 21834.37, 126.8339, -1684915),
		k2:    f(-107.8871, -0.03252849, 5151.79, 38.92561, -563713.9),
		henry: f(108.3865, 0.01985076, -6919.53, -40.45154, 669365),
		ksp:   f(-171.9065, -0.077993, 2839.319, 71.595, 0),
	}
}

// debyeHueckel returns A of the Davies equation: 0.509 at 25 °C, carried by
// the dielectric constant of water (Malmberg & Maryott, J. Res. NBS 56, 1956).
func debyeHueckel(celsius float64) float64 {
	dielectric := func(t float64) float64 { return 87.740 - 0.40008*t + 9.398e-4*t*t - 1.410e-6*t*t*t }
	x := dielectric(25) * reference / (dielectric(celsius) * (celsius + zeroCelsius))
	return 0.509 * x * math.Sqrt(x)
}
