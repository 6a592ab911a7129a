package safety

import (
	"fmt"
	"slices"

	"keencrock/core/material"
	"keencrock/core/quantity"
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
	"damp-or-acid":  (*Mixture).gasesInJar,
	"no-acid":       func(m *Mixture) bool { return !m.has(material.Acid) },
	"airtight":      func(m *Mixture) bool { return !m.gasesInJar() },
	"two-acids":     (*Mixture).hasSourAcid,
	"lye-heats":     func(m *Mixture) bool { return m.LyeHeatsK >= HotLyeK },
	"lye":           func(m *Mixture) bool { return m.LyeHeatsK > 0 },

	"strong-acid-poured": func(m *Mixture) bool {
		return slices.ContainsFunc(m.Ingredients, func(in Ingredient) bool { return in.Material.Is(material.StrongAcid) && in.Material.Is(material.Wet) })
	},
}

// gasesInJar reports whether oxygen bleach in it gives off gas in its jar, so that it has
// to be let out: a tight lid is wrong then, whatever else speaks for one.
func (m *Mixture) gasesInJar() bool {
	return m.has(material.Peroxide) && (m.Damp || m.has(material.Acid))
}

// hasSourAcid reports whether there is an acid that is there to be one: sulfonic acid is
// there to be neutralised by the soda beside it.
func (m *Mixture) hasSourAcid() bool {
	for _, in := range m.Ingredients {
		if in.Material.Is(material.Acid) && !in.Material.Is(material.Surfactant) {
			return true
		}
	}
	return false
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

// PH is the pH of a bottle or a use between its ends; the zero value is one that is not
// known.
type PH struct {
	quantity.Range
	Known bool
}

// IsExtreme reports whether it may reach an end of the scale that burns.
func (ph PH) IsExtreme() bool { return ph.Known && IsExtreme(ph.Range) }

// sour reports whether the good is sour where it stands or where it is used;
// what is not known counts as sour, by its acid.
func (m *Mixture) sour() bool {
	if !m.Bottle.Known && !m.InUse.Known {
		return true
	}
	return m.Bottle.Known && m.Bottle.Low < SourBelow || m.InUse.Known && m.InUse.Low < SourBelow
}

func (m *Mixture) alkaline() bool {
	if !m.Bottle.Known && !m.InUse.Known {
		return true
	}
	return m.Bottle.Known && m.Bottle.High > AlkalineAbove || m.InUse.Known && m.InUse.High > AlkalineAbove
}

// causticSpent reports whether what burns in it has been taken or thinned so far that the
// whole burns no more: as the screen of the whole says, else, where none was made, a wet
// good whose pH is known to burn no more. A pH that was measured and cannot be of what
// went in lifts nothing.
func (m *Mixture) causticSpent() bool {
	switch {
	case m.MeasuredOtherwise != nil:
		return false
	case m.Screened != nil:
		return !m.burns()
	}
	return m.Wet && m.Bottle.Known && !m.Bottle.IsExtreme()
}

// burns reports whether the whole burns skin by its screen.
func (m *Mixture) burns() bool {
	return slices.ContainsFunc(m.Screened, func(s Screened) bool { return s.Code == "H314" })
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

// String says a pH as it can be told: as one, or between its ends.
func (ph PH) String() string {
	if ph.High-ph.Low > 1 {
		return fmt.Sprintf("%.1f to %.1f", ph.Low, ph.High)
	}
	return fmt.Sprintf("%.1f", ph.Value)
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
	"lye-heats": func(m *Mixture) (float64, string, bool) {
		return m.LyeHeatsK, fmt.Sprintf("%.0f °C", m.LyeHeatsK), m.LyeHeatsK > 0
	},
}

// limitWords is a limit of a measure in words; nothing for none.
func limitWords(measure string, limit float64) string {
	switch {
	case limit == 0:
		return ""
	case measure == "gas":
		return litres(limit) + " a kilogram"
	case measure == "lye-heats":
		return fmt.Sprintf("%.0f °C", limit)
	}
	return percent(limit)
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
