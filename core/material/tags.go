package material

import (
	"fmt"
	"math/bits"
)

// Tags is a set of things that are true of a material and that rules ask
// about. Sets are one machine word, so that a formula of many lines can be
// tested against many rules quickly.
type Tags uint64

// The tags. A new one is a line here and a word in library.json.
const (
	Acid Tags = 1 << iota
	AcidPreservative
	Alcohol
	Alkali
	Ammonia
	Bicarbonate
	Borate
	Botanical
	Cakes
	Calcium
	Carbonate
	Caustic
	Chelant
	Chlorine
	Citrate
	CitrusOil
	Dry
	DustyAcid
	DustyAlkali
	Enzyme
	Fades
	Fermented
	FineDust
	Flammable
	Humectant
	Magnesium
	Oil
	Organic
	Oxidiser
	Perishable
	Peroxide
	Poison
	Preservative
	Preserved
	Salt
	ScentOil
	Soap
	Starch
	Stranger // a workshop's own, and not enough like anything here to know its dangers
	StrongAcid
	StrongAlkali
	Sugar
	Surfactant
	Thickener
	Vinegar
	Water
	WeakAcid
	Wet
	Yeast
)

var tagNames = []string{
	"acid", "acid-preservative", "alcohol", "alkali", "ammonia", "bicarbonate",
	"borate", "botanical", "cakes", "calcium", "carbonate", "caustic",
	"chelant", "chlorine", "citrate", "citrus-oil", "dry", "dusty-acid",
	"dusty-alkali", "enzyme", "fades", "ferment", "fine-dust", "flammable", "humectant",
	"magnesium", "oil", "organic", "oxidiser", "perishable", "peroxide",
	"poison", "preservative", "preserved", "salt", "scent-oil", "soap", "starch",
	"stranger", "strong-acid", "strong-alkali", "sugar", "surfactant", "thickener",
	"vinegar", "water", "weak-acid", "wet",
	"yeast",
}

// ParseTag returns the tag of a name.
func ParseTag(name string) (Tags, error) {
	for i, n := range tagNames {
		if n == name {
			return 1 << i, nil
		}
	}
	return 0, fmt.Errorf("tag %q is not known", name)
}

// Names lists the tags of the set in alphabetical order.
func (t Tags) Names() []string {
	names := make([]string, 0, bits.OnesCount64(uint64(t)))
	for i, n := range tagNames {
		if t&(1<<i) != 0 {
			names = append(names, n)
		}
	}
	return names
}
