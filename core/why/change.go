package why

import (
	"fmt"
	"math"
	"slices"

	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

// Act is one way to change a formula or its dose against a cause: more, less or none of a
// group of materials, or the dose that is reckoned.
type Act struct {
	Do    string  // "more", "less" or "out"; "dose-up" and "dose-down" to the one that is reckoned; "balance"
	Of    string  // a group, see groups
	Times float64 // in quarters
	// Else is what is added, as a share of the whole, where more is wanted of what is not
	// there.
	Else  string
	Share float64
}

const (
	doseUp, doseDown = "dose-up", "dose-down"
	balance          = "balance" // acid and soda that spend each other
)

// groups are the materials that a change is about.
var groups = map[string]func(*material.Material) bool{
	"acid": func(m *material.Material) bool {
		return m.Is(material.Acid) || m.Is(material.StrongAcid) || m.Is(material.WeakAcid) || m.Is(material.Vinegar)
	},
	"bleach": func(m *material.Material) bool { return m.Is(material.Peroxide) || m.Is(material.Oxidiser) },
	"carbonate": func(m *material.Material) bool {
		return m.Is(material.Carbonate) && !m.Is(material.Peroxide) && !m.Is(material.Bicarbonate)
	},
	// what holds lime and is no acid: more acid would do more than hold lime
	"chelant": func(m *material.Material) bool {
		return (m.Is(material.Chelant) || m.Is(material.Citrate) || m.Does("chelant")) && !m.Is(material.Acid)
	},
	"oil":    func(m *material.Material) bool { return m.Is(material.Oil) },
	"plant":  func(m *material.Material) bool { return m.Is(material.Botanical) },
	"salt":   func(m *material.Material) bool { return m.Is(material.Salt) },
	"scent":  func(m *material.Material) bool { return m.Is(material.ScentOil) || m.Is(material.CitrusOil) },
	"soap":   func(m *material.Material) bool { return m.Is(material.Soap) },
	"starch": func(m *material.Material) bool { return m.Is(material.Starch) },
	"water":  func(m *material.Material) bool { return m.Is(material.Water) },
}

func (a *Act) sound() error {
	switch {
	case (a.Do == doseUp || a.Do == doseDown || a.Do == balance) && a.Of == "" && a.Times == 0:
		return nil
	case groups[a.Of] == nil:
		return fmt.Errorf("a change is of no group %q", a.Of)
	case a.Do == "out" && a.Times == 0, a.Do == "less" && a.Times > 0 && a.Times < 1, a.Do == "more" && a.Times > 1 && a.Times <= 2:
		if a.Times*4 != math.Trunc(a.Times*4) {
			return fmt.Errorf("a change goes by quarters, not by %g", a.Times)
		}
		if (a.Else != "") != (a.Share > 0) {
			return fmt.Errorf("what is added in its place needs a share")
		}
		return nil
	}
	return fmt.Errorf("there is no such change: %+v", *a)
}

// Edit is what becomes of a line: another amount, or none; or a new one at the end.
type Edit struct {
	Line     int // −1 for a new one
	Out      bool
	Amount   quantity.Amount
	Material *material.Material // of a new one
}

// Change is what may be done to a formula against a cause: other lines, or another dose.
type Change struct {
	Says  string
	Edits []Edit
	Use   quantity.Amount // one use; zero where it stays
}

// Change is the first way against a cause that can be gone with a formula. wantedG is the dose
// that is reckoned for its water, takenG the one that is taken; 0 for what cannot be told. nil
// where there is none.
func (c *Cause) Change(r *formula.Resolved, takenG, wantedG float64, lib *material.Library) *Change {
	for i := range c.Acts {
		if change := c.Acts[i].on(r, takenG, wantedG, lib); change != nil {
			return change
		}
	}
	return nil
}

// asGood is how near a dose may be to the one that is reckoned to be left as it is.
const asGood = 0.05

func (a *Act) on(r *formula.Resolved, takenG, wantedG float64, lib *material.Library) *Change {
	if a.Do == doseUp || a.Do == doseDown {
		up := wantedG > takenG
		if _, pieces := r.Formula.Use.Pieces(); pieces || takenG <= 0 || wantedG <= 0 || up != (a.Do == doseUp) || math.Abs(wantedG/takenG-1) < asGood {
			return nil
		}
		use, err := quantity.Parse(fmt.Sprintf("%.0f g", wantedG))
		if err != nil {
			return nil
		}
		return &Change{Says: fmt.Sprintf("One use: %.0f g in place of %.0f g, as it is reckoned for this water.", wantedG, takenG), Use: use}
	}
	if a.Do == balance {
		g := goodOf(r)
		if g.acid <= 0 || g.base <= 0 {
			return nil
		}
		by := Act{Do: "more", Of: "acid", Times: 1.25}
		if g.acid/g.base > acidToSoda {
			by = Act{Do: "less", Of: "acid", Times: 0.75}
		}
		return by.on(r, takenG, wantedG, lib)
	}
	var out Change
	for i := range r.Lines {
		l := &r.Lines[i]
		if l.Material == nil || !groups[a.Of](l.Material) || a.Do == "more" && a.Of != "water" && l.Material.Is(material.Water) {
			continue
		}
		if a.Do == "out" {
			out.Edits = append(out.Edits, Edit{Line: i, Out: true})
			out.say("no %s", material.InSentence(l.Material.Name))
			continue
		}
		amount, ok := r.Formula.Lines[i].Amount.Times(int64(a.Times*4), 4)
		if !ok {
			return nil
		}
		out.Edits = append(out.Edits, Edit{Line: i, Amount: amount})
		out.say("%s of %s in place of %s", amount, material.InSentence(l.Material.Name), r.Formula.Lines[i].Amount)
	}
	if len(out.Edits) == len(r.Lines) { // nothing would be left of it, or it would be the same
		return nil
	}
	if len(out.Edits) == 0 {
		return a.added(r, lib)
	}
	out.Says += "."
	return &out
}

// added adds what is not there.
func (a *Act) added(r *formula.Resolved, lib *material.Library) *Change {
	if a.Else == "" || r.TotalG.Value <= 0 || r.State() == formula.WetState {
		return nil
	}
	m, err := lib.Find(a.Else)
	if err != nil || slices.ContainsFunc(r.Lines, func(l formula.ResolvedLine) bool { return l.Material == m }) {
		return nil
	}
	amount, err := quantity.Parse(fmt.Sprintf("%g g", round(a.Share*r.TotalG.Value)))
	if err != nil {
		return nil
	}
	return &Change{Says: fmt.Sprintf("%s of %s beside the rest.", amount, material.InSentence(m.Name)), Edits: []Edit{{Line: -1, Amount: amount, Material: m}}}
}

// round rounds grams as a scale in a kitchen shows them, and to fives from a hundred on.
func round(g float64) float64 {
	if g >= 100 {
		return 5 * math.Round(g/5)
	}
	return max(1, math.Round(g))
}

func (c *Change) say(format string, args ...any) {
	text := fmt.Sprintf(format, args...)
	if c.Says != "" {
		text = "; " + text
	}
	c.Says += text
}

// stepsOf are steps with their lines where they stand now; one of which nothing is left falls
// out, and what is new goes in where it is weighed and mixed first.
func stepsOf(steps []formula.Step, now []int, before int) []formula.Step {
	var out []formula.Step
	joined := map[formula.StepKind]bool{}
	for _, s := range steps {
		var lines []int
		for _, l := range s.Lines {
			if now[l] >= 0 {
				lines = append(lines, now[l])
			}
		}
		if len(s.Lines) > 0 && len(lines) == 0 {
			continue
		}
		if (s.Kind == formula.Weigh || s.Kind == formula.Mix) && len(lines) > 0 && !joined[s.Kind] {
			joined[s.Kind] = true
			lines = append(lines, now[before:]...)
		}
		s.Lines = lines
		out = append(out, s)
	}
	return out
}

// Apply is the formula with a change made; the steps keep to their lines.
func (c *Change) Apply(f *formula.Formula) *formula.Formula {
	out := *f
	out.Lines = slices.Clone(f.Lines)
	for _, e := range c.Edits {
		switch {
		case e.Line < 0:
			out.Lines = append(out.Lines, formula.Line{Material: e.Material.ID, Amount: e.Amount, Written: e.Amount.String()})
		case !e.Out:
			out.Lines[e.Line].Amount, out.Lines[e.Line].Written, out.Lines[e.Line].Also = e.Amount, e.Amount.String(), quantity.Amount{}
		}
	}
	now := make([]int, len(out.Lines)) // where each line stands then
	kept := out.Lines[:0:0]
	for i, l := range out.Lines {
		now[i] = -1
		if !slices.ContainsFunc(c.Edits, func(e Edit) bool { return e.Out && e.Line == i }) {
			now[i] = len(kept)
			kept = append(kept, l)
		}
	}
	out.Lines = kept
	out.Steps = stepsOf(f.Steps, now, len(f.Lines))
	if !c.Use.IsZero() {
		out.Use = c.Use
		out.Doses = nil
	}
	return &out
}
