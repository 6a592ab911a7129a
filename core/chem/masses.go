package chem

// Masses of a mole in grams, of what the rules of the job weigh most often. A
// test holds them against [MolarMass].
const (
	GramsCO2    = 44.009
	GramsNa2O   = 61.979
	GramsNaOH   = 39.997
	GramsKOH    = 56.106
	GramsNaHCO3 = 84.006
	GramsNa2CO3 = 105.988
)

// GasMLPerMol is the volume of a mole of gas at 25 °C and one atmosphere, in
// ml: R T / p, with R of CODATA 2018.
const GasMLPerMol = 24465
