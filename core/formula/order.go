package formula

import "keencrock/core/material"

// Finding is something about the order of addition worth saying.
type Finding struct {
	Code   string
	Line   int // the line to move, counted from 0
	Text   string
	Advice string
}

// orderRule says that lines that match first must not follow lines that
// match then. All are common practice of the trade.
type orderRule struct {
	code         string
	wetOnly      bool // only where water makes the bulk
	wettedOnly   bool // only where a little liquid binds a powder
	first, then  func(*material.Material) bool
	text, advice string
}

func tagged(t material.Tags) func(*material.Material) bool {
	return func(m *material.Material) bool { return m.Tags&t != 0 }
}

func does(function string) func(*material.Material) bool {
	return func(m *material.Material) bool { return m.Does(function) }
}

func isPowder(m *material.Material) bool {
	return m.Is(material.Dry) && m.Tags&(material.Soap|material.Thickener|material.Botanical|material.Sugar) == 0
}

func isPouredSoap(m *material.Material) bool {
	return m.Tags&(material.Soap|material.Surfactant) != 0 && m.Is(material.Wet)
}

func isScent(m *material.Material) bool { return m.Is(material.ScentOil) }

var orderRules = []orderRule{
	{code: "soap-after-water", wetOnly: true, first: tagged(material.Water), then: isPouredSoap,
		text: "Soap goes in after the water, or it foams over.", advice: "Move the water above the soap."},
	{code: "powder-before-soap", wetOnly: true, first: isPowder, then: isPouredSoap,
		text: "Powder is dissolved before the soap goes in, or it lumps.", advice: "Dissolve the powder in the water first, then pour in the soap."},
	{code: "thickener-before-acid", wetOnly: true, first: does("thickener"), then: tagged(material.Acid),
		text: "Thickener needs 5 to 10 minutes in plain water; acid stops it from swelling.", advice: "Mix the thickener first, wait, then add the acid."},
	{code: "binder-last", wettedOnly: true, first: tagged(material.Dry), then: func(m *material.Material) bool { return m.Is(material.Wet) && !m.Is(material.Soap) },
		text: "The liquid goes in last, drop by drop, or the fizz is spent in the bowl.", advice: "Mix all powders first, then add the liquid slowly."},
	{code: "scent-last", first: func(m *material.Material) bool { return !isScent(m) && !m.Is(material.Wet) || m.Is(material.Water) }, then: isScent,
		text: "Scent goes in last: heat and stirring drive it off.", advice: "Move the scent to the end."},
}

// wettedShare is the most liquid that still binds a powder; above it the
// mixture is wet. Common practice: 2 to 6 % holds, above that it slumps.
const wettedShare = 0.12

// State is how wet a mixture is.
type State string

// Dry in a jar; damp where a little liquid binds a powder; wet in a pot.
const (
	DryState  State = "dry"
	DampState State = "damp"
	WetState  State = "wet"
)

// State tells how wet the mixture is as it is made.
func (r *Resolved) State() State {
	wet := 0.0
	for i := range r.Lines {
		if m := r.Lines[i].Material; m != nil && (m.Is(material.Wet) || m.Liquid() && !m.Is(material.ScentOil)) {
			wet += r.Lines[i].Share.Value
		}
	}
	switch {
	case wet > wettedShare:
		return WetState
	case wet > 0.0005:
		return DampState
	}
	return DryState
}

// OrderFindings checks the order of addition of the lines as written.
func OrderFindings(r *Resolved) []Finding {
	state := r.State()
	var found []Finding
	for _, rule := range orderRules {
		if rule.wetOnly && state != WetState || rule.wettedOnly && state != DampState {
			continue
		}
		if line := rule.violatedAt(r.Lines); line >= 0 {
			found = append(found, Finding{Code: rule.code, Line: line, Text: rule.text, Advice: rule.advice})
		}
	}
	return found
}

// violatedAt returns the first line that should have waited for a later one,
// or −1.
func (rule *orderRule) violatedAt(lines []ResolvedLine) int {
	last := -1 // the last line that has to come first
	for i := range lines {
		if m := lines[i].Material; m != nil && rule.first(m) && !rule.then(m) {
			last = i
		}
	}
	for i := range lines {
		if m := lines[i].Material; m != nil && i < last && rule.then(m) {
			return i
		}
	}
	return -1
}
