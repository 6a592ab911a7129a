package chem

import (
	"fmt"
	"slices"
	"strings"
)

// Ions are the ones that carry charge and nothing else.
type Ions struct{ Sodium, Potassium, Chloride, Sulfonate float64 }

// Compound is what a pure substance gives in water. Amounts are mol per mol.
type Compound struct {
	ID      string
	Formula string // without water of crystallisation
	Also    []string

	acids              []portion
	ions               Ions
	calcium, magnesium float64

	// AcidEq is how many equivalents of acid it brings against bicarbonate,
	// AlkaliEq how many of alkali, of which CarbonateMol are carbonate and
	// BicarbonateMol bicarbonate, and so can leave as gas.
	AcidEq, AlkaliEq             float64
	CarbonateMol, BicarbonateMol float64

	molarMass  float64
	solubility *[2]float64 // see [Compound.Solubility]; nil when there is no figure
}

type portion struct {
	acid Acid
	mol  float64
}

// compounds is what is known of pure substances by their formulas. The
// equivalents count acids stronger than carbonic, and anions that take up an
// acid stronger than it: so boric acid is no acid here, citrate no alkali.
var compounds = []Compound{
	{ID: "sodium-carbonate", Formula: "Na2CO3", acids: []portion{{Carbonic, 1}}, ions: Ions{Sodium: 2}, AlkaliEq: 2, CarbonateMol: 1},
	{ID: "sodium-bicarbonate", Formula: "NaHCO3", acids: []portion{{Carbonic, 1}}, ions: Ions{Sodium: 1}, AlkaliEq: 1, BicarbonateMol: 1},
	{ID: "potassium-carbonate", Formula: "K2CO3", acids: []portion{{Carbonic, 1}}, ions: Ions{Potassium: 2}, AlkaliEq: 2, CarbonateMol: 1},
	{ID: "potassium-bicarbonate", Formula: "KHCO3", acids: []portion{{Carbonic, 1}}, ions: Ions{Potassium: 1}, AlkaliEq: 1, BicarbonateMol: 1},
	{ID: "calcium-carbonate", Formula: "CaCO3", acids: []portion{{Carbonic, 1}}, calcium: 1, AlkaliEq: 2, CarbonateMol: 1},
	{ID: "carbon-dioxide", Formula: "CO2", acids: []portion{{Carbonic, 1}}},
	{ID: "sodium-percarbonate", Formula: "Na2CO3·1.5H2O2", acids: []portion{{Carbonic, 1}, {Peroxide, 1.5}}, ions: Ions{Sodium: 2}, AlkaliEq: 2, CarbonateMol: 1},
	{ID: "citric-acid", Formula: "C6H8O7", acids: []portion{{Citric, 1}}, AcidEq: 3},
	{ID: "trisodium-citrate", Formula: "Na3C6H5O7", Also: []string{"sodium-citrate"}, acids: []portion{{Citric, 1}}, ions: Ions{Sodium: 3}},
	{ID: "potassium-dihydrogen-citrate", Formula: "KC6H7O7", Also: []string{"KH2C6H5O7", "kh2citrate"}, acids: []portion{{Citric, 1}}, ions: Ions{Potassium: 1}, AcidEq: 2},
	{ID: "borax", Formula: "Na2B4O7", Also: []string{"sodium-tetraborate"}, acids: []portion{{Boric, 4}}, ions: Ions{Sodium: 2}, AlkaliEq: 2},
	{ID: "boric-acid", Formula: "H3BO3", Also: []string{"B(OH)3"}, acids: []portion{{Boric, 1}}},
	{ID: "acetic-acid", Formula: "C2H4O2", Also: []string{"CH3COOH"}, acids: []portion{{Acetic, 1}}, AcidEq: 1},
	{ID: "sodium-acetate", Formula: "NaC2H3O2", Also: []string{"CH3COONa"}, acids: []portion{{Acetic, 1}}, ions: Ions{Sodium: 1}},
	{ID: "phosphoric-acid", Formula: "H3PO4", acids: []portion{{Phosphoric, 1}}, AcidEq: 1},
	{ID: "potassium-dihydrogen-phosphate", Formula: "KH2PO4", acids: []portion{{Phosphoric, 1}}, ions: Ions{Potassium: 1}},
	{ID: "sodium-dihydrogen-phosphate", Formula: "NaH2PO4", acids: []portion{{Phosphoric, 1}}, ions: Ions{Sodium: 1}},
	{ID: "disodium-hydrogen-phosphate", Formula: "Na2HPO4", acids: []portion{{Phosphoric, 1}}, ions: Ions{Sodium: 2}},
	{ID: "trisodium-phosphate", Formula: "Na3PO4", acids: []portion{{Phosphoric, 1}}, ions: Ions{Sodium: 3}, AlkaliEq: 1},
	{ID: "ammonia", Formula: "NH3", acids: []portion{{Ammonium, 1}}, AlkaliEq: 1},
	{ID: "ammonium-chloride", Formula: "NH4Cl", acids: []portion{{Ammonium, 1}}, ions: Ions{Chloride: 1}},
	{ID: "sodium-metasilicate", Formula: "Na2SiO3", acids: []portion{{Silicic, 1}}, ions: Ions{Sodium: 2}, AlkaliEq: 2},
	{ID: "hydrogen-peroxide", Formula: "H2O2", acids: []portion{{Peroxide, 1}}},
	{ID: "sodium-hydroxide", Formula: "NaOH", ions: Ions{Sodium: 1}, AlkaliEq: 1},
	{ID: "potassium-hydroxide", Formula: "KOH", ions: Ions{Potassium: 1}, AlkaliEq: 1},
	{ID: "hydrochloric-acid", Formula: "HCl", ions: Ions{Chloride: 1}, AcidEq: 1},
	{ID: "sodium-chloride", Formula: "NaCl", ions: Ions{Sodium: 1, Chloride: 1}},
	{ID: "potassium-chloride", Formula: "KCl", ions: Ions{Potassium: 1, Chloride: 1}},
	{ID: "magnesium-sulfate", Formula: "MgSO4", acids: []portion{{Bisulfate, 1}}, magnesium: 1},
	{ID: "magnesium-chloride", Formula: "MgCl2", ions: Ions{Chloride: 2}, magnesium: 1},
	{ID: "calcium-chloride", Formula: "CaCl2", ions: Ions{Chloride: 2}, calcium: 1},
	{ID: "calcium-bicarbonate", Formula: "Ca(HCO3)2", acids: []portion{{Carbonic, 2}}, calcium: 1, AlkaliEq: 2, BicarbonateMol: 2},
	{ID: "sodium-sulfate", Formula: "Na2SO4", acids: []portion{{Bisulfate, 1}}, ions: Ions{Sodium: 2}},
	{ID: "edta", Formula: "Na4C10H12N2O8", Also: []string{"tetrasodium-edta"}, acids: []portion{{EDTA, 1}}, ions: Ions{Sodium: 4}, AlkaliEq: 1},
	{ID: "disodium-edta", Formula: "Na2C10H14N2O8", acids: []portion{{EDTA, 1}}, ions: Ions{Sodium: 2}, AcidEq: 1},
	{ID: "soap", Formula: "", Also: []string{"sodium-soap"}, acids: []portion{{Soap, 1}}, ions: Ions{Sodium: 1}},
	{ID: "potassium-soap", Formula: "", acids: []portion{{Soap, 1}}, ions: Ions{Potassium: 1}},
	{ID: "sulfonic-acid", Formula: "", ions: Ions{Sulfonate: 1}, AcidEq: 1},
	{ID: "sodium-hypochlorite", Formula: "NaClO", Also: []string{"NaOCl"}, acids: []portion{{Hypochlorous, 1}}, ions: Ions{Sodium: 1}},
	{ID: "sodium-benzoate", Formula: "NaC7H5O2", acids: []portion{{Benzoic, 1}}, ions: Ions{Sodium: 1}},
	{ID: "potassium-sorbate", Formula: "KC6H7O2", acids: []portion{{Sorbic, 1}}, ions: Ions{Potassium: 1}},
	{ID: "potassium-hydrogen-phthalate", Formula: "KC8H5O4", Also: []string{"khp", "KHC8H4O4"}, acids: []portion{{Phthalic, 1}}, ions: Ions{Potassium: 1}, AcidEq: 1},
	{ID: "tartaric-acid", Formula: "C4H6O6", acids: []portion{{Tartaric, 1}}, AcidEq: 2},
	{ID: "lactic-acid", Formula: "C3H6O3", acids: []portion{{Lactic, 1}}, AcidEq: 1},
	{ID: "oxalic-acid", Formula: "C2H2O4", acids: []portion{{Oxalic, 1}}, AcidEq: 2},
	{ID: "malic-acid", Formula: "C4H6O5", acids: []portion{{Malic, 1}}, AcidEq: 2},
	{ID: "sodium-gluconate", Formula: "NaC6H11O7", acids: []portion{{Gluconic, 1}}, ions: Ions{Sodium: 1}},
	{ID: "sulfamic-acid", Formula: "H3NSO3", ions: Ions{Sulfonate: 1}, AcidEq: 1},
	{ID: "sodium-bisulfate", Formula: "NaHSO4", acids: []portion{{Bisulfate, 1}}, ions: Ions{Sodium: 1}, AcidEq: 1},
	{ID: "calcium-hydroxide", Formula: "Ca(OH)2", calcium: 1, AlkaliEq: 2},
	{ID: "calcium-hypochlorite", Formula: "Ca(ClO)2", acids: []portion{{Hypochlorous, 2}}, calcium: 1},
	{ID: "sodium-silicate", Formula: "Na2Si3O7", acids: []portion{{Silicic, 3}}, ions: Ions{Sodium: 2}, AlkaliEq: 2},
	{ID: "potassium-hydrogen-tartrate", Formula: "KC4H5O6", Also: []string{"cream-of-tartar", "KHC4H4O6"}, acids: []portion{{Tartaric, 1}}, ions: Ions{Potassium: 1}, AcidEq: 1},
}

// SoapMolarMass is the mean mass of a mole of sodium soap, in grams. From
// memory: 290 for the usual mixture of fats.
const SoapMolarMass = 290.0

// SulfonicMolarMass is the mean mass of a mole of sulfonic acid, in grams: of
// an acid value of 180 mg KOH/g.
const SulfonicMolarMass = GramsKOH / 180 * 1000

var compoundsByName = func() map[string]*Compound {
	byName := map[string]*Compound{}
	for i := range compounds {
		c := &compounds[i]
		c.molarMass = c.weigh()
		if s, known := solubility[c.ID]; known {
			c.solubility = &s
		}
		for _, name := range append([]string{c.ID, c.Formula}, c.Also...) {
			if name != "" {
				byName[strings.ToLower(name)] = c
			}
		}
	}
	return byName
}()

// FindCompound returns the compound of an id, such as "citric-acid", or of a
// formula, with or without its water of crystallisation.
func FindCompound(name string) (*Compound, bool) {
	name = strings.ToLower(strings.TrimSpace(name))
	if c, ok := compoundsByName[name]; ok {
		return c, true
	}
	for _, dot := range []string{"·", "•", "*"} {
		if before, _, found := strings.Cut(name, dot); found {
			c, ok := compoundsByName[before]
			return c, ok
		}
	}
	return nil, false
}

// MolarMass returns grams per mole, without water of crystallisation.
func (c *Compound) MolarMass() float64 { return c.molarMass }

func (c *Compound) weigh() float64 {
	switch c.ID {
	case "soap":
		return SoapMolarMass
	case "potassium-soap":
		return SoapMolarMass + 16.108 // potassium in place of sodium
	case "sulfonic-acid":
		return SulfonicMolarMass
	}
	m, err := MolarMass(c.Formula)
	if err != nil {
		panic(fmt.Sprintf("chem: %s: %v", c.ID, err)) // a test rules it out
	}
	return m
}

// IsAcidic reports whether the compound brings a weak acid or its anion, and so
// can move the pH even where it is counted as neither acid nor alkali.
func (c *Compound) IsAcidic() bool { return len(c.acids) > 0 }

// CompoundNames lists the ids, in order.
func CompoundNames() []string {
	names := make([]string, len(compounds))
	for i := range compounds {
		names[i] = compounds[i].ID
	}
	slices.Sort(names)
	return names
}

// Solution holds totals in mol per kg of water. The zero value is pure water.
type Solution struct {
	Acids              [acidCount]float64
	Ions               Ions
	Calcium, Magnesium float64
}

// Add puts mol of a compound, per kg of water, into the solution.
func (s *Solution) Add(c *Compound, mol float64) {
	for _, p := range c.acids {
		s.Acids[p.acid] += p.mol * mol
	}
	s.Ions.Sodium += c.ions.Sodium * mol
	s.Ions.Potassium += c.ions.Potassium * mol
	s.Ions.Chloride += c.ions.Chloride * mol
	s.Ions.Sulfonate += c.ions.Sulfonate * mol
	s.Calcium += c.calcium * mol
	s.Magnesium += c.magnesium * mol
}

// charge is that of the ions that take no part, and of the metals, in mol of
// charge per kg.
func (s *Solution) charge() float64 {
	return s.Ions.Sodium + s.Ions.Potassium - s.Ions.Chloride - s.Ions.Sulfonate + 2*(s.Calcium+s.Magnesium)
}
