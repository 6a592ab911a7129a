package safety

import "fmt"

// conditions are what a rule may ask of a mixture beyond the tags of its
// materials. The name is used in rules.json.
var conditions = map[string]func(*Mixture) bool{
	"ferments":    func(m *Mixture) bool { return m.Kind == "ferment" },
	"surfaces":    func(m *Mixture) bool { return m.UsedOn == "surfaces" },
	"toilet":      func(m *Mixture) bool { return m.UsedOn == "toilet" },
	"laundry":     func(m *Mixture) bool { return m.UsedOn == "laundry" },
	"dishes":      func(m *Mixture) bool { return m.UsedOn == "dishes" },
	"spray":       func(m *Mixture) bool { return m.Kind == "spray" },
	"unpreserved": func(m *Mixture) bool { return !m.Keeps },
}

// Amounts is how much reacts in a mixture, from package bath. Shares are 0 to
// 1.
type Amounts struct {
	PH         float64 // closed, at its use strength
	Curdled    float64 // share of the soap that the good turns back to fat
	SodaSpent  float64 // share of the soda that acid spends
	GasMLPerKg float64
	SoapLost   float64 // share of the soap lost to scum
}

// measure reads one amount, and says it.
type measure func(*Amounts) (value float64, said string)

// measures are what a rule may ask the amount of. The name is used in
// rules.json.
var measures = map[string]measure{
	"curdled":    func(a *Amounts) (float64, string) { return a.Curdled, percent(a.Curdled) },
	"soda-spent": func(a *Amounts) (float64, string) { return a.SodaSpent, percent(a.SodaSpent) },
	"gas":        func(a *Amounts) (float64, string) { return a.GasMLPerKg, litres(a.GasMLPerKg) },
	"soap-lost":  func(a *Amounts) (float64, string) { return a.SoapLost, percent(a.SoapLost) },
	"ph":         func(a *Amounts) (float64, string) { return a.PH, fmt.Sprintf("%.1f", a.PH) },
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
	if ml < 1000 {
		return fmt.Sprintf("%.0f ml", ml)
	}
	return fmt.Sprintf("%.0f litres", ml/1000)
}
