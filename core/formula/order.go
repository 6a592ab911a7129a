package formula

import (
	"fmt"
	"slices"
	"time"

	"keencrock/core/material"
)

// Finding is something about the order of addition worth saying.
type Finding struct {
	Code   string
	Line   int // the line to move, counted from 0
	Step   int // the step it goes in at, counted from 0; −1 where steps say nothing of it
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

// isBinder reports whether a material is a little liquid that binds a powder.
func isBinder(m *material.Material) bool { return m.Is(material.Wet) && !m.Is(material.Soap) }

func isScent(m *material.Material) bool { return m.Is(material.ScentOil) }

// isThickeningSalt reports whether a material is salt as it thickens a surfactant.
func isThickeningSalt(m *material.Material) bool {
	return m.Is(material.Salt) && m.Tags&(material.Alkali|material.Acid|material.Citrate|material.Magnesium) == 0
}

var orderRules = []orderRule{
	{code: "soap-after-water", wetOnly: true, first: tagged(material.Water), then: isPouredSoap,
		text: "Soap goes in after the water, or it foams over.", advice: "Move the water above the soap."},
	{code: "powder-before-soap", wetOnly: true, first: func(m *material.Material) bool { return isPowder(m) && !isThickeningSalt(m) }, then: isPouredSoap,
		text: "Powder is dissolved before the soap goes in, or it lumps.", advice: "Dissolve the powder in the water first, then pour in the soap."},
	{code: "thickener-before-acid", wetOnly: true, first: does("thickener"), then: tagged(material.Acid),
		text: "Thickener needs 5 to 10 minutes in plain water; acid stops it from swelling.", advice: "Mix the thickener first, wait, then add the acid."},
	{code: "salt-after-surfactant", wetOnly: true, first: func(m *material.Material) bool { return m.Is(material.Surfactant) && m.Is(material.Wet) }, then: isThickeningSalt,
		text: "Salt thickens what is already there: before the surfactant it does not.", advice: "Add the salt last, a little at a time, until it is thick enough."},
	{code: "binder-last", wettedOnly: true, first: tagged(material.Dry), then: isBinder,
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

// OrderFindings checks the order of addition: that of the steps where there are
// any, else of the lines as written.
func OrderFindings(r *Resolved) []Finding {
	state := r.State()
	order, left := r.order()
	var found []Finding
	for _, rule := range orderRules {
		if rule.wetOnly && state != WetState || rule.wettedOnly && state != DampState {
			continue
		}
		if a, broken := rule.violatedAt(order); broken {
			found = append(found, Finding{Code: rule.code, Line: a.line, Step: a.step, Text: rule.text, Advice: a.advice(rule.advice)})
		}
	}
	for _, line := range left {
		found = append(found, Finding{"no-step", line, -1, fmt.Sprintf("No step says when %s goes in.", material.InSentence(r.Lines[line].Material.Name)),
			"Choose the step that takes it."})
	}
	return append(found, r.stepFindings(order, state)...)
}

// addition is a line as it goes in.
type addition struct {
	line, step int // step is −1 where no step says
	of         *material.Material
}

// advice is what to do about an addition, in terms of its step.
func (a *addition) advice(of string) string {
	if a.step < 0 {
		return of
	}
	return fmt.Sprintf("%s It goes in at step %d.", of, a.step+1)
}

// order is the lines as they go in, and those that steps leave out where they name
// any.
func (r *Resolved) order() (order []addition, left []int) {
	steps := slices.ContainsFunc(r.Formula.Steps, func(s Step) bool { return s.Kind != Weigh && len(s.Lines) > 0 })
	for i := range r.Lines {
		m := r.Lines[i].Material
		if m == nil {
			continue
		}
		step, named := r.Formula.StepOf(i)
		switch {
		case !steps:
			order = append(order, addition{i, -1, m})
		case named:
			order = append(order, addition{i, step, m})
		default:
			left = append(left, i)
		}
	}
	slices.SortStableFunc(order, func(a, b addition) int { return a.step - b.step })
	return order, left
}

// violatedAt returns the first addition that should have waited for a later one.
// Lines of one step go in together and break nothing between them, unless the step
// adds them slowly.
func (rule *orderRule) violatedAt(order []addition) (addition, bool) {
	last := -1 // the last line that has to come first
	for i, a := range order {
		if rule.first(a.of) && !rule.then(a.of) {
			last = i
		}
	}
	for i, a := range order {
		if i < last && rule.then(a.of) && (a.step < 0 || a.step != order[last].step) {
			return a, true
		}
	}
	return addition{}, false
}

// hydration is how long a thickener swells before acid meets it. Common practice.
const hydration = 5 * time.Minute

// stepFindings are what only steps can say: that a thickener is given its time, that
// the binder goes in slowly, and that scent is not heated.
func (r *Resolved) stepFindings(order []addition, state State) []Finding {
	steps := r.Formula.Steps
	if len(steps) == 0 {
		return nil
	}
	var found []Finding
	thickens, thickened := -1, time.Duration(0) // the step, and how long until now
	for i, s := range steps {
		has := func(is func(*material.Material) bool) int {
			for _, a := range order {
				if a.step == i && is(a.of) {
					return a.line
				}
			}
			return -1
		}
		acid := has(tagged(material.Acid))
		if state == WetState && acid >= 0 && thickens >= 0 && thickens != i && thickened < hydration {
			found = append(found, Finding{"thickener-hydrated", acid, i, "The thickener has not had 5 to 10 minutes in plain water before the acid.",
				fmt.Sprintf("Give step %d its minutes, or let it stand after it.", thickens+1)})
			thickens = -1
		}
		if has(does("thickener")) >= 0 {
			thickens, thickened = i, 0
		}
		if thickens >= 0 {
			thickened += s.For.High
		}
		if binder := has(isBinder); state == DampState && binder >= 0 && s.Kind != Add {
			found = append(found, Finding{"binder-slowly", binder, i, "The liquid is added slowly, or the fizz is spent in the bowl and the mass turns to paste.",
				fmt.Sprintf("Make step %d one that adds it by drops, by spoons or as a mist.", i+1)})
		}
		if s.Kind == Heat {
			for _, a := range order {
				if a.step >= 0 && a.step <= i && isScent(a.of) {
					found = append(found, Finding{"scent-heated", a.line, i, "Heat drives the scent off.", fmt.Sprintf("Add it after step %d, when it is cool.", i+1)})
					break
				}
			}
		}
	}
	return found
}
