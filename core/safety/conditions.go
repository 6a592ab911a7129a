package safety

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
