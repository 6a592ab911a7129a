package vessel

import (
	"fmt"
	"slices"
	"time"
)

// Plan is how a vessel is kept.
type Plan struct {
	CapacityML float64
	StirEvery  time.Duration // 0 for never
	FirstDraw  time.Duration // how long what is in it has to stand before the first draw
}

// Usual is how a peel ferment in a vat is kept; common practice: stirred every third day,
// drawn first after two months, and left to rest for one.
var Usual = struct{ StirEveryDays, FirstDrawDays, RestDays float64 }{3, 60, 30}

// Due is something that waits to be done to a vessel.
type Due struct {
	What string
	At   time.Time
}

// Due says what is to be done next, by what was done: stirring since it was last
// stirred or fed, and the first draw until there was one.
func (p *Plan) Due(events []Event) []Due {
	var begun, stirred, drawn time.Time
	for _, e := range events {
		if begun.IsZero() || e.At.Before(begun) {
			begun = e.At
		}
		if e.At.After(stirred) && e.Kind != Drawn {
			stirred = e.At
		}
		if e.Kind == Drawn && e.At.After(drawn) {
			drawn = e.At
		}
	}
	var due []Due
	if p.StirEvery > 0 && !stirred.IsZero() {
		due = append(due, Due{"stir", stirred.Add(p.StirEvery)})
	}
	if p.FirstDraw > 0 && drawn.IsZero() && !begun.IsZero() {
		due = append(due, Due{"first draw", begun.Add(p.FirstDraw)})
	}
	return due
}

// Overflow says that more was fed than the vessel holds.
type Overflow struct{ CapacityML, WouldML float64 }

func (o *Overflow) Error() string {
	return fmt.Sprintf("it holds %.0f ml, and would have %.0f ml in it: draw first, or take a larger one", o.CapacityML, o.WouldML)
}

// Check refuses events that cannot be: more drawn than there was ([*Short]), or
// more in it than it holds ([*Overflow]) at any time.
func (p *Plan) Check(events []Event) error {
	inOrder := slices.Clone(events)
	slices.SortStableFunc(inOrder, func(a, b Event) int { return a.At.Compare(b.At) })
	level := 0.0
	for _, e := range inOrder {
		switch e.Kind {
		case Fed:
			level += e.ML
		case Drawn:
			if e.ML > level+tolerance {
				return &Short{e, level, e.ML}
			}
			level = max(0, level-e.ML)
		}
		if p.CapacityML > 0 && level > p.CapacityML+tolerance {
			return &Overflow{p.CapacityML, level}
		}
	}
	return nil
}

// Gas of a ferment. A gram of sucrose gives at most 0.514 g of carbon dioxide: four
// of it to one of C12H22O11 (stoichiometry, 4 × 44.010 / 342.30). A gram of it is
// 0.556 l at 25 °C (24.465 l a mole).
const (
	CO2PerSugar   = 4 * 44.010 / 342.297
	litresPerGram = 24.465 / 44.010
)

// GasAtMostL is the most gas that the sugar that was fed can give, in litres at
// 25 °C.
func GasAtMostL(events []Event) float64 {
	sugar := 0.0
	for _, e := range events {
		sugar += e.SugarG
	}
	return sugar * CO2PerSugar * litresPerGram
}
