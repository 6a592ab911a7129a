package material

import (
	"cmp"
	"iter"
	"slices"
	"strings"

	"keencrock/core/chem"
	"keencrock/core/quantity"
)

// Base is a bought material in what was made here, and its share by mass.
type Base struct {
	Material *Material
	Share    float64
}

// Bases gives what a material is made of and the share of each by mass: of what
// was made here the bought materials that went into it, through however many
// goods; of what was bought itself.
func (m *Material) Bases() iter.Seq2[*Material, float64] {
	return func(yield func(*Material, float64) bool) {
		if len(m.MadeOf) == 0 {
			yield(m, 1)
			return
		}
		for _, b := range m.MadeOf {
			if !yield(b.Material, b.Share) {
				return
			}
		}
	}
}

// Input is a material that went into a good, in grams.
type Input struct {
	Material    *Material
	MassG       float64
	StrainedOut bool
	// BakedTo is what baking soda becomes in a hot oven: soda ash; nil for what was
	// not baked.
	BakedTo *Material
}

// BakingLoss is the share of its mass that baking soda loses when all of it has become
// soda ash: 2 NaHCO3 → Na2CO3 + H2O + CO2, from the molar masses.
const BakingLoss = 1 - chem.GramsNa2CO3/(2*chem.GramsNaHCO3)

// BakedEnough is the share from which baking is done. From memory: the last few per cent take
// as long as all before them, and are lost in what a kitchen scale can tell.
const BakedEnough = 0.97

// BakedShare is the share of baking soda, 0 to 1, that has become soda ash by what it
// lost; both in grams.
func BakedShare(sodaG, lostG float64) float64 {
	if sodaG <= 0 {
		return 0
	}
	return min(1, max(0, lostG/(BakingLoss*sodaG)))
}

// MakeUp returns the bought materials in a good and their shares by mass, the
// most first: what went in by weight, less what was strained out and less so
// many grams of water that dried or boiled off.
func MakeUp(in []Input, driedG float64) []Base {
	massG := map[*Material]float64{}
	total := 0.0
	for _, i := range in {
		if i.StrainedOut || i.MassG <= 0 {
			continue
		}
		for base, share := range i.Material.Bases() {
			g := i.MassG * share
			if i.BakedTo != nil && base.Is(Bicarbonate) {
				base, g = i.BakedTo, g*(1-BakingLoss)
			}
			massG[base] += g
			total += g
		}
	}
	for base, g := range massG {
		if base.ID == "water" {
			dried := min(driedG, g)
			massG[base] -= dried
			total -= dried
		}
	}
	var out []Base
	for base, g := range massG {
		if g > 0 {
			out = append(out, Base{base, g / total})
		}
	}
	slices.SortFunc(out, func(a, b Base) int {
		return cmp.Or(cmp.Compare(b.Share, a.Share), cmp.Compare(a.Material.ID, b.Material.ID))
	})
	return out
}

// Unknown stands for a bought material in a good that is no longer in the library:
// that its dangers are not known is not lost with its name.
func Unknown(id string) *Material {
	return &Material{ID: id, Name: id, Label: id, Form: "powder", Functions: []string{"filler"}, Tags: Stranger, Own: true,
		Keeps: Life{SealedDays: strangerSealedDays, OpenDays: strangerOpenDays, Source: CustomSource}}
}

// Made is a good that was made here, as a material for others.
type Made struct {
	ID, Name string
	Of       []Base
	Poured   bool
	Density  quantity.Range // g/ml; zero when it is not known
	PH       quantity.Range // as it was measured; zero when it was not
	Days     int            // how long it keeps
}

// minorShare is the share below which a part says nothing of what the whole is
// for. From memory.
const minorShare = 0.05

// Material makes a material of it, to be given to [Library.With]. What it must
// not meet, what it does in water and how it keeps follow from its bases.
func (g *Made) Material() Material {
	m := Material{ID: g.ID, Name: g.Name, Form: "powder", Tags: Dry, Own: true, MadeOf: g.Of,
		Keeps: Life{SealedDays: max(1, g.Days), OpenDays: max(1, g.Days), Source: CustomSource}}
	if g.Poured {
		m.Form, m.Tags = "liquid", Wet
	}
	var labels []string
	for _, b := range g.Of {
		labels = append(labels, b.Material.Label)
		if b.Share < minorShare || b.Material.ID == "water" {
			continue
		}
		for _, f := range b.Material.Functions {
			if !slices.Contains(m.Functions, f) {
				m.Functions = append(m.Functions, f)
			}
		}
	}
	if len(m.Functions) == 0 {
		m.Functions = []string{"filler"}
	}
	m.Label = cmp.Or(strings.Join(labels, ", "), g.Name)
	if !g.Density.IsZero() {
		m.Density = Figure{g.Density, CustomSource}
	}
	if !g.PH.IsZero() {
		m.PH = Figure{g.PH, CustomSource}
	}
	return m
}
