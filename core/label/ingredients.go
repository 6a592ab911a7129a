package label

import (
	"cmp"
	"slices"

	"keencrock/core/material"
)

// Ingredient is a bought material in a good and its share by mass.
type Ingredient struct {
	Material *material.Material
	Share    float64
}

// Declared is one class in a list of ingredients.
type Declared struct {
	Class string // of package wording
	Band  string // of its share; empty for what is named whatever its share
	Share float64
}

// Declaration is the list of ingredients after Regulation (EC) 648/2004, Annex VII A.
type Declaration struct {
	Classes       []Declared // the greatest band first
	Named         []string   // classes named whatever their share
	Allergens     []string   // fragrance allergens, by name
	Preservatives []string   // by their label names, which the annex asks for
}

// Of Annex VII A: what is under a fifth of a per cent is not listed; bands end at 5, 15
// and 30 %; allergens are named from a hundredth of a per cent on.
const (
	listedFrom   = 0.002
	allergenFrom = 0.0001
)

var bands = []struct {
	from float64
	name string
}{{0.30, "30-up"}, {0.15, "15-30"}, {0.05, "5-15"}, {0, "under-5"}}

// always are the classes named whatever their share.
var always = []string{"enzymes", "disinfectants", "optical-brighteners", "perfumes", "preservation-agents"}

// Band is the band of a share, 0 to 1.
func Band(share float64) string {
	const rounding = 1e-9
	for _, b := range bands {
		if share >= b.from-rounding {
			return b.name
		}
	}
	return ""
}

// Declare lists the ingredients of a good.
func Declare(in []Ingredient) Declaration {
	shares, allergens := map[string]float64{}, map[string]float64{}
	var d Declaration
	for _, i := range in {
		m := i.Material
		if class := m.Declares.Class; class != "" {
			share := i.Share
			if m.Declares.Of != "" {
				share *= m.ShareOf(m.Declares.Of)
			}
			shares[class] += share
			if class == "preservation-agents" && !slices.Contains(d.Preservatives, m.Label) {
				d.Preservatives = append(d.Preservatives, m.Label)
			}
		}
		for name, share := range m.Allergens {
			allergens[name] += i.Share * share.Value
		}
	}
	for class, share := range shares {
		switch {
		case slices.Contains(always, class):
			d.Named = append(d.Named, class)
		case share > listedFrom:
			d.Classes = append(d.Classes, Declared{class, Band(share), share})
		}
	}
	slices.SortFunc(d.Classes, func(a, b Declared) int {
		return cmp.Or(cmp.Compare(b.Share, a.Share), cmp.Compare(a.Class, b.Class))
	})
	slices.Sort(d.Named)
	for name, share := range allergens {
		if share >= allergenFrom {
			d.Allergens = append(d.Allergens, name)
		}
	}
	slices.Sort(d.Allergens)
	slices.Sort(d.Preservatives)
	return d
}
