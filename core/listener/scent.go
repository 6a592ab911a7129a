package listener

// What a good is scented with: oils that have the names of plants, and words for any of them.

import (
	"slices"
	"strings"

	"keencrock/core/material"
	"keencrock/core/quantity"
)

// askOilOrPlant asks about spoons of a plant: “a tablespoon of thyme” may be of its oil, or dried.
func (r *reader) askOilOrPlant(l *Line) {
	switch l.Amount.Unit() {
	case quantity.Tablespoon, quantity.Dessertspoon:
	default:
		return
	}
	oil, err := r.lib.Find(l.name)
	if l.Err != nil || err != nil || r.lib.Plant(oil, l.name) == nil || slices.ContainsFunc(r.good.phases, func(p phaseSaid) bool { return strings.Contains(strings.ToLower(p.name), "wet") }) {
		return
	}
	r.asksWhich(r.good, len(r.good.lines)-1, oil)
}

// asksWhich asks of the line of that number whether it is an oil, or the plant it is of.
func (r *reader) asksWhich(g *Good, line int, oil *material.Material) {
	l := g.lines[line]
	g.Unsure = append(g.Unsure, Unsure{Line: line, Code: "oil-or-plant", Text: sentenceCase(l.name) + ": the oil, or the plant, dried? " + r.materialName(l) + " is taken.", Answers: []string{oil.Name, r.lib.Plant(oil, l.name).Name}})
}

// isScent reports whether a line is of an oil that scents.
func (r *reader) isScent(l *Line) bool {
	m := r.read(l.Material)
	return m != nil && m.Is(material.ScentOil)
}

// scentLine is the first line of a scent that has a name and an amount; nil without one.
func (r *reader) scentLine() *Line {
	for _, l := range r.good.lines {
		if m := r.read(l.Material); m != nil && m.Is(material.ScentOil) && m.ID != "essential-oil" && !l.Amount.IsZero() {
			return l
		}
	}
	return nil
}

// scentsSoap takes “lavender 20 g” for the oil in what is made of fat and lye, as common practice has it, and
// asks; and “add the scent” for what was listed.
func (r *reader) scentsSoap(g *Good) {
	lye, fat := false, false
	for _, l := range g.lines {
		if m := r.read(l.Material); m != nil {
			lye = lye || m.ID == "sodium-hydroxide" || m.ID == "potassium-hydroxide"
			fat = fat || m.Saponifies.Known()
		}
	}
	for i, l := range g.lines {
		if !lye || !fat || l.Amount.Kind() != quantity.Mass || l.Amount.Open() != quantity.NotOpen || l.Err != nil {
			continue
		}
		oil, err := r.lib.Find(l.name)
		if err != nil || !oil.Is(material.ScentOil) || l.Material == oil.ID || r.lib.Plant(oil, l.name) == nil {
			continue
		}
		l.Material = oil.ID
		r.asksWhich(g, i, oil)
	}
	unnamed := slices.IndexFunc(g.lines, func(l *Line) bool { return l.Material == "essential-oil" && l.Amount.IsZero() && l.from >= 0 })
	if unnamed < 0 {
		return
	}
	scent := g.lines[unnamed]
	for i := range unnamed {
		l := g.lines[i]
		if m := r.read(l.Material); m == nil || !m.Is(material.ScentOil) || l.Amount.IsZero() {
			continue
		}
		for at := range r.fates {
			if f := &r.fates[at]; f.line == scent {
				*f = fate{AsStep, g, l}
			}
		}
		g.lines = slices.Delete(g.lines, unnamed, unnamed+1)
		for u := range g.Unsure {
			if g.Unsure[u].Line > unnamed {
				g.Unsure[u].Line--
			}
		}
		return
	}
}

// namedScents takes drops of oil that were said unnamed away where the named ones after
// them are as many: “thirty drops of oil, I'm doing fifteen tea tree and fifteen lavender”.
func (g *Good) namedScents() {
	for i, l := range g.lines {
		if l.Material != "essential-oil" || l.Amount.Unit() != quantity.Drop || l.from < 0 {
			continue
		}
		all, sum, named := dropsOf(l.Amount), 0.0, 0
		for _, other := range g.lines[i+1:] {
			if other.Amount.Unit() == quantity.Drop && other.Material != l.Material {
				sum += dropsOf(other.Amount).Value
				named++
			}
		}
		if named > 1 && sum == all.Value {
			g.lines = slices.Delete(g.lines, i, i+1)
			return
		}
	}
}

// dropsOf is how many drops an amount is of.
func dropsOf(a quantity.Amount) quantity.Range {
	terms := a.Terms()
	if len(terms) != 1 {
		return quantity.Range{}
	}
	low, high := terms[0].Low.Float(), terms[0].High.Float()
	return quantity.Range{Low: low, Value: (low + high) / 2, High: high}
}
