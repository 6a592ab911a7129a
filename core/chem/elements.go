package chem

// atomicMass holds standard atomic weights in g/mol. Source: IUPAC Commission
// on Isotopic Abundances and Atomic Weights, abridged standard atomic weights
// (conventional values where an interval is given). Only the elements a maker
// of cleaning goods meets.
var atomicMass = map[string]float64{
	"H": 1.008, "Li": 6.94, "B": 10.81, "C": 12.011, "N": 14.007, "O": 15.999,
	"F": 18.998, "Na": 22.990, "Mg": 24.305, "Al": 26.982, "Si": 28.085,
	"P": 30.974, "S": 32.06, "Cl": 35.45, "K": 39.098, "Ca": 40.078,
	"Ti": 47.867, "Mn": 54.938, "Fe": 55.845, "Cu": 63.546, "Zn": 65.38,
	"Br": 79.904, "Ag": 107.87, "I": 126.90,
}
