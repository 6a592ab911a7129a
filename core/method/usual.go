package method

import (
	_ "embed"
	"encoding/json"
	"slices"

	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

// Usual is how a kind of good is usually made by one school.
type Usual struct {
	School string
	Kinds  []formula.Kind
	steps  []usualStep
}

// usualStep is a step with the materials it takes, told by what they are.
type usualStep struct {
	formula.Step
	takes []string
}

//go:embed usual.json
var usualData []byte

var usual = readUsual(usualData)

// UsualOf lists the usual ways of making a kind, the most common in front.
func UsualOf(kind formula.Kind) []Usual {
	var of []Usual
	for _, u := range usual {
		if slices.Contains(u.Kinds, kind) {
			of = append(of, u)
		}
	}
	if len(of) == 0 {
		return UsualOf("other")
	}
	return of
}

// takers tell which materials go in where, by their names in the data.
var takers = map[string]func(*material.Material) bool{
	"water":     func(m *material.Material) bool { return m.Is(material.Water) },
	"bar-soap":  func(m *material.Material) bool { return m.Is(material.Soap) && m.Form == "bar" },
	"soap":      func(m *material.Material) bool { return m.Tags&(material.Soap|material.Surfactant) != 0 },
	"thickener": func(m *material.Material) bool { return m.Does("thickener") },
	"acid":      func(m *material.Material) bool { return m.Is(material.Acid) },
	"thickening-salt": func(m *material.Material) bool {
		return m.Is(material.Salt) && m.Tags&(material.Alkali|material.Magnesium) == 0
	},
	"scent":     func(m *material.Material) bool { return m.Is(material.ScentOil) },
	"botanical": func(m *material.Material) bool { return m.Is(material.Botanical) },
	"sugar":     func(m *material.Material) bool { return m.Is(material.Sugar) },
	"salts": func(m *material.Material) bool {
		return m.Is(material.Dry) && m.Tags&(material.Soap|material.Thickener|material.Botanical|material.Acid|material.Sugar) == 0 && !m.Does("thickener")
	},
	"dry":  func(m *material.Material) bool { return m.Is(material.Dry) },
	"wet":  func(m *material.Material) bool { return m.Is(material.Wet) || m.Liquid() && !m.Is(material.ScentOil) },
	"rest": func(*material.Material) bool { return true },
}

// closeness is how closely each says what it takes, the closest first: a line goes
// where it is meant most closely.
var closeness = []string{"bar-soap", "scent", "thickener", "thickening-salt", "sugar", "botanical", "water", "soap", "acid", "salts", "wet", "dry", "rest"}

// For gives the steps for a formula: each line in the step that takes it, steps that
// take nothing of it left out. Weighing out comes first.
func (u *Usual) For(r *formula.Resolved) []formula.Step {
	takes := make([][]int, len(u.steps))
	for i := range r.Lines {
		if m := r.Lines[i].Material; m != nil {
			if at := u.stepFor(m); at >= 0 {
				takes[at] = append(takes[at], i)
			}
		}
	}
	steps := []formula.Step{{Kind: formula.Weigh}}
	for i, s := range u.steps {
		if len(s.takes) > 0 && len(takes[i]) == 0 && s.Kind.Info().Stage == formula.AtBench && (s.Kind != formula.Press) {
			continue
		}
		step := s.Step
		step.Lines = takes[i]
		steps = append(steps, step)
	}
	return steps
}

// stepFor is the step that takes a material most closely, −1 for none.
func (u *Usual) stepFor(m *material.Material) int {
	for _, name := range closeness {
		if !takers[name](m) {
			continue
		}
		if at := slices.IndexFunc(u.steps, func(s usualStep) bool { return slices.Contains(s.takes, name) }); at >= 0 {
			return at
		}
	}
	return -1
}

func readUsual(data []byte) []Usual {
	var rows []struct {
		Kinds  []formula.Kind
		School string
		Steps  []map[string]any
	}
	must(json.Unmarshal(data, &rows))
	all := make([]Usual, len(rows))
	for i, row := range rows {
		all[i] = Usual{School: row.School, Kinds: row.Kinds}
		for _, s := range row.Steps {
			all[i].steps = append(all[i].steps, readStep(s))
		}
	}
	return all
}

func readStep(row map[string]any) usualStep {
	kind, err := formula.ParseStepKind(text(row, "kind"))
	must(err)
	wait := func(name string) quantity.Wait {
		w, err := quantity.ParseWait(text(row, name))
		must(err)
		return w
	}
	celsius, _ := row["celsius"].(float64)
	s := usualStep{Step: formula.Step{Kind: kind, Text: text(row, "text"), For: wait("for"), Stir: wait("stir"), Celsius: celsius, Vessel: text(row, "vessel"),
		Check: text(row, "check"), Mould: text(row, "mould"), By: formula.By(text(row, "by")), Keep: text(row, "keep"), ByWeight: row["by_weight"] == true}}
	takes, _ := row["takes"].([]any)
	for _, t := range takes {
		s.takes = append(s.takes, t.(string))
	}
	return s
}
