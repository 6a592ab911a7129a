package chem

// MLPerGWater is the volume of a gram of water at 20 °C, in ml (CRC Handbook of
// Chemistry and Physics: 0.9982 g/ml).
const MLPerGWater = 1 / 0.9982

// apparentMLPerG is the room a gram of a compound, without crystal water, takes
// up in water, in ml: its apparent volume at 5 to 20 % by mass, worked out of
// the densities of its solutions at 20 °C (CRC Handbook, concentrative
// properties of aqueous solutions; the densities from memory). A test holds the
// densities that follow against the tables.
var apparentMLPerG = map[string]float64{
	"sodium-chloride":             0.348, // 20 %: 1.148 g/ml
	"sodium-carbonate":            0.05,  // 10 %: 1.103
	"sodium-bicarbonate":          0.27,
	"potassium-carbonate":         0.19, // 20 %: 1.190
	"potassium-chloride":          0.38,
	"citric-acid":                 0.60, // 20 %: 1.083
	"trisodium-citrate":           0.37,
	"tartaric-acid":               0.56,
	"lactic-acid":                 0.77,
	"malic-acid":                  0.60,
	"oxalic-acid":                 0.50,
	"acetic-acid":                 0.86, // 5 %: 1.0055
	"phosphoric-acid":             0.45,
	"hydrochloric-acid":           0.52,
	"borax":                       0.10,
	"boric-acid":                  0.64,
	"sodium-hydroxide":            0.02, // 10 %: 1.109
	"potassium-hydroxide":         0.12,
	"sodium-sulfate":              0.145, // 10 %: 1.091
	"magnesium-sulfate":           0.05,  // 10 %: 1.103
	"magnesium-chloride":          0.20,
	"calcium-chloride":            0.20,
	"sodium-percarbonate":         0.30,
	"hydrogen-peroxide":           0.65,
	"sodium-metasilicate":         0.10,
	"sodium-silicate":             0.25,
	"trisodium-phosphate":         0.05,
	"edta":                        0.45,
	"sodium-gluconate":            0.53,
	"ammonia":                     1.4,
	"soap":                        0.98,
	"potassium-soap":              0.98,
	"sodium-benzoate":             0.68,
	"potassium-sorbate":           0.70,
	"sodium-hypochlorite":         0.35,
	"calcium-carbonate":           0.37, // solid: 2.71 g/ml
	"potassium-hydrogen-tartrate": 0.51,
}

// MLPerG returns the room a gram of the compound takes up in water, in ml; known
// is false when there is no figure.
func (c *Compound) MLPerG() (ml float64, known bool) {
	ml, known = apparentMLPerG[c.ID]
	return ml, known
}
