package formula

import (
	"errors"
	"fmt"
	"math"
	"strings"

	"keencrock/core/quantity"
)

// Target says how big a batch should be. Exactly one field is set.
type Target struct {
	Factor     float64
	MassG      float64 // finished good, after losses
	VolumeML   float64 // finished good as it lies in the jar
	Pieces     int     // of the yield's pieces
	Uses       float64
	Containers Containers
	Scarcest   map[string]float64 // grams in stock by material id
}

// Containers are jars, bottles or bags to fill. Give the grams of each, or
// its millilitres and how full it is filled (1 for to the brim).
type Containers struct {
	Count     int
	EachG     float64
	EachML    float64
	FillShare float64
}

// Plan is a formula sized for a batch.
type Plan struct {
	Factor    float64
	LimitedBy string // material id, when stock set the size
	Lines     []PlanLine
	TotalG    float64 // to weigh out
	NetG      float64 // after losses
	Uses      float64 // zero when not known
	Pieces    float64 // zero unless the yield is in pieces
}

// PlanLine is what to weigh of one line.
type PlanLine struct {
	Line     int // index in the formula
	Material string
	MassG    float64
	Open     quantity.Open   // no figure is said: it is weighed by difference at the bench
	Hand     quantity.Amount // drops, spoons or pieces, where the scale is too coarse; zero when it is weighed
}

// Largest factor a plan may have; beyond it a number was mistyped.
const maxFactor = 100_000

// ErrTarget is wrapped by every error about a target that makes no sense.
var ErrTarget = errors.New("cannot scale")

// Scale sizes the formula. The error wraps [ErrTarget] and says what to do.
func (r *Resolved) Scale(t Target) (*Plan, error) {
	if q := r.Held(); q != nil {
		if q.Line < 0 {
			return nil, fmt.Errorf("%w: %s", ErrTarget, q.Text)
		}
		return nil, fmt.Errorf("%w: line %d asks first: %s", ErrTarget, q.Line+1, q.Text)
	}
	if r.TotalG.Value <= 0 {
		return nil, fmt.Errorf("%w: the formula weighs nothing yet", ErrTarget)
	}
	factor, limitedBy, err := r.factor(t)
	if err != nil {
		return nil, err
	}
	if math.IsNaN(factor) || factor <= 0 || factor > maxFactor {
		return nil, fmt.Errorf("%w: that is %g times the formula; check the number", ErrTarget, factor)
	}
	p := &Plan{Factor: factor, LimitedBy: limitedBy}
	for i, l := range r.Lines {
		if l.Material == nil || l.MassG.Value == 0 && l.Line.Amount.Open() == quantity.NotOpen {
			continue // an optional line that asks something: left out
		}
		p.Lines = append(p.Lines, PlanLine{Line: i, Material: l.Material.ID, MassG: l.MassG.Value * factor, Open: l.Line.Amount.Open()})
	}
	if uses, ok := r.Uses(); ok {
		p.Uses = uses.Value * factor
	}
	if pieces, ok := r.Formula.Yield.Pieces(); ok {
		p.Pieces = pieces.Value * factor
	}
	p.sum(r.LostShare())
	return p, nil
}

func (p *Plan) sum(loss float64) {
	p.TotalG = 0
	for _, l := range p.Lines {
		p.TotalG += l.MassG
	}
	p.NetG = p.TotalG * (1 - loss)
}

func (r *Resolved) factor(t Target) (factor float64, limitedBy string, err error) {
	netG := r.NetG().Value
	netML := r.NetML().Value
	byVolume := func(ml float64) (float64, string, error) {
		if netML == 0 {
			return 0, "", fmt.Errorf("%w: the volume of the finished good is not known; give a mass", ErrTarget)
		}
		return ml / netML, "", nil
	}
	set := 0
	for _, isSet := range []bool{t.Factor != 0, t.MassG != 0, t.VolumeML != 0, t.Pieces != 0, t.Uses != 0, t.Containers != Containers{}, t.Scarcest != nil} {
		if isSet {
			set++
		}
	}
	if set != 1 {
		return 0, "", fmt.Errorf("%w: say one thing to scale to: a factor, a mass, a volume, pieces, containers, uses or the stock", ErrTarget)
	}
	switch {
	case t.Factor != 0:
		return t.Factor, "", nil
	case t.MassG != 0:
		return t.MassG / netG, "", nil
	case t.VolumeML != 0:
		return byVolume(t.VolumeML)
	case t.Pieces != 0:
		pieces, ok := r.Formula.Yield.Pieces()
		if !ok {
			return 0, "", fmt.Errorf("%w: the formula does not say how many pieces it gives; write its yield, such as 24 tabs", ErrTarget)
		}
		return float64(t.Pieces) / pieces.Value, "", nil
	case t.Uses != 0:
		uses, ok := r.Uses()
		if !ok {
			return 0, "", fmt.Errorf("%w: the formula does not say how much one use is; write it, such as 1 tbsp", ErrTarget)
		}
		return t.Uses / uses.Value, "", nil
	case t.Scarcest != nil:
		return r.factorOfStock(t.Scarcest)
	}
	c := t.Containers
	if c.Count <= 0 || c.EachG <= 0 && c.EachML <= 0 {
		return 0, "", fmt.Errorf("%w: say how many containers and what each holds", ErrTarget)
	}
	if c.EachG > 0 {
		return float64(c.Count) * c.EachG / netG, "", nil
	}
	if c.FillShare <= 0 || c.FillShare > 1 {
		return 0, "", fmt.Errorf("%w: a container is filled between 1 and 100 %%", ErrTarget)
	}
	return byVolume(float64(c.Count) * c.EachML * c.FillShare)
}

// factorOfStock is the most the stock allows, and the material that allows
// no more. Lines of one material share its stock; water is not stocked.
func (r *Resolved) factorOfStock(stock map[string]float64) (float64, string, error) {
	need := map[string]float64{}
	for _, l := range r.Lines {
		if l.Material.ID != "water" && !l.Line.Optional {
			need[l.Material.ID] += l.MassG.Value
		}
	}
	best, limitedBy := math.Inf(1), ""
	var missing []string
	for _, l := range r.Lines { // in formula order, so that ties are steady
		id := l.Material.ID
		g, needed := need[id]
		if !needed || g == 0 {
			continue
		}
		if stock[id] <= 0 {
			missing = append(missing, l.Material.Name)
			delete(need, id)
			continue
		}
		if f := stock[id] / g; f < best {
			best, limitedBy = f, id
		}
	}
	if len(missing) > 0 {
		return 0, "", fmt.Errorf("%w: there is no %s on the shelf", ErrTarget, strings.Join(missing, " and no "))
	}
	if limitedBy == "" {
		return 0, "", fmt.Errorf("%w: no line draws on the stock", ErrTarget)
	}
	return best, limitedBy, nil
}

// balanceShift is the change in a ratio, as a share, from which rounding is
// worth mentioning.
const balanceShift = 0.02

// handSteps is how many steps of the scale a line has to weigh to be weighed at
// all. Common practice: below three the scale is guessing.
const handSteps = 3

// RoundTo rounds every line to the scale's step in grams, and returns sentences
// for each balance that this shifts by more than 2 %: acid against base, and
// thickener in the whole. What is below three steps is not rounded but told in
// drops, spoons or pieces.
func (p *Plan) RoundTo(stepG float64, r *Resolved) []string {
	if stepG <= 0 {
		return nil
	}
	acidBase, thickener := p.balance(r)
	for i := range p.Lines {
		l := &p.Lines[i]
		if l.MassG > 0 && l.MassG < handSteps*stepG {
			if l.Hand = r.byHand(l, p.Factor); !l.Hand.IsZero() {
				continue
			}
		}
		if l.MassG > 0 {
			l.MassG = max(1, math.Round(l.MassG/stepG)) * stepG
		}
	}
	p.sum(r.LostShare())
	acidBaseAfter, thickenerAfter := p.balance(r)
	var said []string
	for _, b := range []struct {
		what          string
		before, after float64
	}{{"acid against base", acidBase, acidBaseAfter}, {"thickener in the whole", thickener, thickenerAfter}} {
		if b.before > 0 && math.Abs(b.after/b.before-1) > balanceShift {
			said = append(said, fmt.Sprintf("Rounding to %g g moves %s by %+.1f %%. Make a larger batch or use a finer scale.",
				stepG, b.what, 100*(b.after/b.before-1)))
		}
	}
	return said
}

// byHand says a small mass in drops, spoons or pieces: in what the line was
// written in where that is one of them, else in the nearest spoon; zero where
// neither is known.
func (r *Resolved) byHand(l *PlanLine, factor float64) quantity.Amount {
	line := &r.Lines[l.Line]
	if a, ok := line.Line.Amount.Counted(factor); ok {
		return a
	}
	if !line.Material.Density.Known() {
		return quantity.Amount{}
	}
	ml := l.MassG / line.Material.Density.Value
	if line.Material.Liquid() && ml < quantity.Teaspoon.SizeML(r.Formula.Measures)/2 {
		drop := quantity.Drop.Usual()
		if r.workshop.DropML.Value > 0 {
			drop = r.workshop.DropML
		}
		return quantity.Of(max(1, int64(math.Round(ml/drop.Value))), 1, quantity.Drop)
	}
	a, _ := quantity.NearestScoop(ml, r.Formula.Measures)
	return a
}

func (p *Plan) balance(r *Resolved) (acidBase, thickener float64) {
	var acid, base, thick, total float64
	for _, l := range p.Lines {
		m := r.Lines[l.Line].Material
		total += l.MassG
		switch {
		case m.Does("thickener") && !m.Does("filler"):
			thick += l.MassG
		case m.Does("acid"):
			acid += l.MassG
		case m.Does("alkali"):
			base += l.MassG
		}
	}
	if base > 0 {
		acidBase = acid / base
	}
	if total > 0 {
		thickener = thick / total
	}
	return acidBase, thickener
}

// ScoopFor returns the nearest measures to scoop for a mass of a line's
// material, with the error as a share; ok is false without a density.
func (l *ResolvedLine) ScoopFor(massG float64, m quantity.Measures) (a quantity.Amount, relErr float64, ok bool) {
	if l.Material == nil || !l.Material.Density.Known() || massG <= 0 {
		return a, 0, false
	}
	a, relErr = quantity.NearestScoop(massG/l.Material.Density.Value, m)
	return a, relErr, true
}
