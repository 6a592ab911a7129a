package making

import (
	"math"
	"slices"

	"keencrock/core/formula"
	"keencrock/core/stock"
)

// Outcome is what came of a batch against what went in and what was expected.
type Outcome struct {
	WeighedG  float64 // went in
	ExpectedG float64 // was to come out
	PackedG   float64 // came out
	Jars      int
	Pieces    int
	Losses    []Loss // in the order they came about; what is left over is the last
}

// Loss is what went on the way; below zero where more came out than there was.
type Loss struct {
	Name  string
	Step  int // NoStep for one that no step explains
	Grams float64
}

// lossNames are what is lost at a step of a kind.
var lossNames = map[formula.StepKind]string{formula.Strain: "stayed in the sieve", formula.Heat: "boiled off", formula.Dry: "dried off", formula.Press: "stuck to bowl and mould",
	formula.Cool: "steamed off", formula.Stand: "steamed off", formula.Ferment: "went off as gas and steam", formula.Infuse: "was soaked up", formula.Steep: "was soaked up"}

func lossName(kind formula.StepKind) string {
	if name, ok := lossNames[kind]; ok {
		return name
	}
	return "stuck to the bowl"
}

// sameG is a difference below which two weights are the same.
const sameG = 0.05

// Outcome tells what came out, and where the rest went, by what was weighed on the
// way: a pot before and after, a yield, what dried, what broke. expectedG is what was
// to come out.
func (b *Batch) Outcome(expectedG float64) Outcome {
	out := Outcome{WeighedG: b.WeighedG(), ExpectedG: expectedG, PackedG: b.packedG, Jars: b.jars, Pieces: b.Pieces()}
	running := out.WeighedG
	lose := func(name string, step int, g float64) {
		if math.Abs(g) < sameG {
			return
		}
		out.Losses = append(out.Losses, Loss{name, step, stock.Round(g)})
		running -= g
	}
	for step := range b.Steps {
		kind := b.Steps[step].Kind
		if g, weighed := b.PotLostG(step); weighed {
			lose(lossName(kind), step, g)
		}
		if counted := b.happened(Counted, step); len(counted) > 0 && counted[len(counted)-1].Grams > 0 {
			lose(lossName(kind), step, running-counted[len(counted)-1].Grams)
		}
		if in := b.weighIns(step); len(in) > 0 {
			lose("stuck on the way", step, running-in[0].Grams)
			weighings, _ := b.DryingAt(step)
			lose(lossName(kind), step, weighings[0].MassG-weighings[len(weighings)-1].MassG)
		}
		for _, e := range b.happened(Broke, step) {
			g := e.Grams
			if have := float64(b.Pieces()) + e.Count; g == 0 && have > 0 {
				g = running * e.Count / have
			}
			lose("broke", step, g)
		}
		if yields := b.happened(Yielded, step); len(yields) > 0 {
			lose(lossName(kind), step, running-yields[len(yields)-1].Grams)
		}
	}
	for _, e := range b.happened(Broke, NoStep) {
		if e.Step == NoStep && e.Grams > 0 {
			lose("broke", NoStep, e.Grams)
		}
	}
	if out.PackedG > 0 {
		if left := running - out.PackedG; left >= 0 {
			lose("left over or stuck", NoStep, left)
		} else {
			lose("more came out than was left by the scale", NoStep, left)
		}
	}
	return out
}

// LikelyG is what there is to pack by what was weighed on the way, less what is
// packed already; usualLoss is the share that usually goes where nothing was weighed.
func (b *Batch) LikelyG(usualLoss float64) float64 {
	out := b.Outcome(0)
	g := out.WeighedG
	weighed := false
	for _, l := range out.Losses {
		if l.Step != NoStep || l.Name == "broke" {
			g -= l.Grams
			weighed = true
		}
	}
	if !weighed {
		g *= 1 - usualLoss
	}
	return max(0, stock.Round(g-b.packedG))
}

// PackedG is what is in jars by now, and Jars how many those are.
func (b *Batch) PackedG() float64 { return b.packedG }

// Jars is how many jars are filled by now.
func (b *Batch) Jars() int { return b.jars }

// waterLost are the steps at which it is water that goes.
var waterLost = []formula.StepKind{formula.Heat, formula.Dry, formula.Cool, formula.Stand}

// WaterLostG is what was weighed to have dried, boiled or steamed off, in grams; ok is
// false where nothing was weighed of it.
func (b *Batch) WaterLostG() (grams float64, ok bool) {
	for _, l := range b.Outcome(0).Losses {
		if l.Step != NoStep && l.Name == lossName(b.Steps[l.Step].Kind) && slices.Contains(waterLost, b.Steps[l.Step].Kind) {
			grams, ok = grams+l.Grams, true
		}
	}
	return max(0, grams), ok
}

// bakingCelsius is from where on baking soda gives off its gas. From memory; an oven
// is set to 200 °C.
const bakingCelsius = 100

// IsBakedAt reports whether a step bakes: hot, and with nothing wet in it.
func (b *Batch) IsBakedAt(step int) bool {
	s := &b.Steps[step]
	return s.Kind == formula.Heat && s.Celsius > bakingCelsius && b.VolatileShare() < 0.01
}

// IsBaked reports whether a batch was baked.
func (b *Batch) IsBaked() bool {
	for i := range b.Steps {
		if closed, done := b.closed[i]; b.IsBakedAt(i) && done && closed.Kind != StepPassed {
			return true
		}
	}
	return false
}

// PotLostG is what went at a step between the first and the last time the pot was
// weighed, in grams; ok is false where it was not weighed twice.
func (b *Batch) PotLostG(step int) (grams float64, ok bool) {
	pot := b.happened(PotWeighed, step)
	if len(pot) < 2 {
		return 0, false
	}
	return pot[0].Grams - pot[len(pot)-1].Grams, true
}
