package chem

// solubility is how much of a compound, without its crystal water, 100 g of
// water hold, in g, at 20 and at 40 °C. CRC Handbook of Chemistry and Physics,
// values from memory.
var solubility = map[string][2]float64{
	"sodium-carbonate":            {21.5, 49.0},
	"sodium-bicarbonate":          {9.6, 12.7},
	"borax":                       {2.5, 6.4},
	"boric-acid":                  {5.0, 8.9},
	"citric-acid":                 {146, 215},
	"trisodium-citrate":           {62, 80},
	"sodium-percarbonate":         {14, 18},
	"sodium-chloride":             {35.9, 36.4},
	"magnesium-sulfate":           {33.7, 44.5},
	"sodium-sulfate":              {19.5, 48.8},
	"sodium-metasilicate":         {21, 40},
	"sodium-hydroxide":            {109, 129},
	"potassium-hydroxide":         {112, 134},
	"potassium-hydrogen-tartrate": {0.57, 1.3},
	"tartaric-acid":               {139, 176},
	"calcium-carbonate":           {0.0013, 0.001},
	"calcium-hydroxide":           {0.173, 0.141},
	"potassium-carbonate":         {111, 117},
	"potassium-chloride":          {34.2, 40.1},
	"trisodium-phosphate":         {12.1, 31},
	"oxalic-acid":                 {9.5, 21.5},
	"sulfamic-acid":               {21.3, 29.5},
	"sodium-bisulfate":            {28.6, 50},
	"malic-acid":                  {126, 177},
	"sodium-gluconate":            {59, 70},
	"magnesium-chloride":          {54.6, 57.5},
	"calcium-chloride":            {74.5, 115},
	"sodium-benzoate":             {62.8, 66},
	"potassium-sorbate":           {139, 160},
	"edta":                        {103, 120},
}

// Solubility returns the grams of the compound, without crystal water, that
// 100 g of water hold at a temperature, on a straight line through 20 and
// 40 °C; known is false when there is no figure.
func (c *Compound) Solubility(celsius float64) (gPer100G float64, known bool) {
	s := c.solubility
	if s == nil {
		return 0, false
	}
	return max(0, s[0]+(s[1]-s[0])*(celsius-20)/20), true
}
