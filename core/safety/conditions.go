package safety

import (
	"fmt"

	"keencrock/core/material"
)

// conditions are what a rule may ask of a mixture beyond the tags of its
// materials: of what is there, not of what was poured in. The names are used in
// rules.json, several parted by spaces.
var conditions = map[string]func(*Mixture) bool{
	"ferments":      (*Mixture).ferments,
	"spirit":        func(m *Mixture) bool { return m.shareOf("ethanol")+m.shareOf("isopropanol") >= BurnsShare },
	"surfaces":      func(m *Mixture) bool { return m.UsedOn == "surfaces" },
	"toilet":        func(m *Mixture) bool { return m.UsedOn == "toilet" },
	"laundry":       func(m *Mixture) bool { return m.UsedOn == "laundry" },
	"dishes":        func(m *Mixture) bool { return m.UsedOn == "dishes" },
	"spray":         func(m *Mixture) bool { return m.Sprayed },
	"unpreserved":   func(m *Mixture) bool { return !m.Keeps },
	"damp":          func(m *Mixture) bool { return m.Damp },
	"drain":         func(m *Mixture) bool { return m.Drain },
	"boiling":       func(m *Mixture) bool { return m.Boiling },
	"sour":          (*Mixture).sour,
	"alkaline":      (*Mixture).alkaline,
	"caustic-left":  func(m *Mixture) bool { return !m.causticSpent() },
	"caustic-spent": (*Mixture).causticSpent,
	"damp-or-acid": func(m *Mixture) bool {
		return m.Damp || m.has(material.Acid)
	},
}

func (m *Mixture) has(t material.Tags) bool {
	for _, in := range m.Ingredients {
		if in.Material.Tags&t != 0 {
			return true
		}
	}
	return false
}

// shareOf is how much of the whole is a component.
func (m *Mixture) shareOf(component string) (share float64) {
	for _, in := range m.Ingredients {
		share += in.Share * in.Material.ShareOf(component)
	}
	return share
}

// ferments reports whether sugar can work in it: in a ferment, and in whatever
// else is sweet enough and nothing keeps.
func (m *Mixture) ferments() bool {
	return m.Ferments || !m.Keeps && m.shareOf("sucrose")+m.shareOf("white-sugar") >= FermentsShare
}

// PH is the pH of a bottle or a use; the zero value is one that is not known.
type PH struct {
	Value float64
	Known bool
}

// sour reports whether the good is sour where it stands or where it is used;
// what is not known counts as sour, by its acid.
func (m *Mixture) sour() bool {
	if !m.Bottle.Known && !m.InUse.Known {
		return true
	}
	return m.Bottle.Known && m.Bottle.Value < SourBelow || m.InUse.Known && m.InUse.Value < SourBelow
}

func (m *Mixture) alkaline() bool {
	if !m.Bottle.Known && !m.InUse.Known {
		return true
	}
	return m.Bottle.Known && m.Bottle.Value > AlkalineAbove || m.InUse.Known && m.InUse.Value > AlkalineAbove
}

// causticSpent reports whether what burns in it has been neutralised: a wet good
// whose pH is known to burn no more.
func (m *Mixture) causticSpent() bool {
	return m.Wet && m.Bottle.Known && m.Bottle.Value >= AcidBurnsPH && m.Bottle.Value <= AlkaliBurnsPH
}

// Amounts is how much reacts in a mixture, from package solution. Shares are 0 to
// 1.
type Amounts struct {
	Protonated  float64 // share of the soap that the good turns back to fat
	SodaSpent   float64 // share of the soda that acid spends
	SpentInBowl float64 // share of the soda that a wet binder spends
	Wetting     float64 // share of the whole that is a wet binder
	GasMLPerKg  float64
	SoapLost    float64 // share of the soap lost to scum
}

// measure reads one amount, and says it; known is false where it is not known.
type measure func(*Mixture) (value float64, said string, known bool)

func ofAmounts(read func(*Amounts) (float64, string)) measure {
	return func(m *Mixture) (float64, string, bool) {
		if m.Amounts == nil {
			return 0, "", false
		}
		v, said := read(m.Amounts)
		return v, said, true
	}
}

func ofPH(read func(*Mixture) PH) measure {
	return func(m *Mixture) (float64, string, bool) {
		ph := read(m)
		return ph.Value, fmt.Sprintf("%.1f", ph.Value), ph.Known
	}
}

// measures are what a rule may ask the amount of. The name is used in
// rules.json.
var measures = map[string]measure{
	"curdled":       ofAmounts(func(a *Amounts) (float64, string) { return a.Protonated, percent(a.Protonated) }),
	"soda-spent":    ofAmounts(func(a *Amounts) (float64, string) { return a.SodaSpent, percent(a.SodaSpent) }),
	"spent-in-bowl": ofAmounts(func(a *Amounts) (float64, string) { return a.SpentInBowl, percent(a.SpentInBowl) }),
	"wetting":       ofAmounts(func(a *Amounts) (float64, string) { return a.Wetting, percent(a.Wetting) }),
	"gas":           ofAmounts(func(a *Amounts) (float64, string) { return a.GasMLPerKg, litres(a.GasMLPerKg) }),
	"soap-lost":     ofAmounts(func(a *Amounts) (float64, string) { return a.SoapLost, percent(a.SoapLost) }),
	"bottle-ph":     ofPH(func(m *Mixture) PH { return m.Bottle }),
	"use-ph":        ofPH(func(m *Mixture) PH { return m.InUse }),
}

func percent(share float64) string {
	switch {
	case share < 0.01:
		return "less than 1 %"
	case share > 0.99:
		return "nearly all"
	}
	return fmt.Sprintf("%.0f %%", 100*share)
}

func litres(ml float64) string {
	switch l := fmt.Sprintf("%.0f", ml/1000); {
	case ml < 1000:
		return fmt.Sprintf("%.0f ml", ml)
	case l == "1":
		return "1 litre"
	default:
		return l + " litres"
	}
}
