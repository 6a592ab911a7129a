package formula

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"keencrock/core/material"
	"keencrock/core/quantity"
)

// Resolved is a formula in grams. Lines stand in the order written; a line
// with a problem has no mass.
type Resolved struct {
	Formula  *Formula
	Lines    []ResolvedLine
	TotalG   quantity.Range // before losses
	VolumeML quantity.Range // as it lies in the jar, before losses
	PartNote string         // how big a part was taken to be; empty without parts
	// Questions are what keeps lines from being worked out, in their order.
	Questions []Question

	strainedG, strainedML float64
	workshop              Workshop
}

// ResolvedLine is a line with its material found and its grams known.
type ResolvedLine struct {
	Line     Line
	Material *material.Material // nil when it is not known
	Taken    string             // how an ambiguous amount was taken, such as an ounce; empty when it was not
	MassG    quantity.Range
	VolumeML quantity.Range
	Share    quantity.Range // of the whole by mass, 0 to 1
}

// Workshop is what a workshop measured of its own tools; zero ranges mean
// common practice.
type Workshop struct {
	DropML, ScoopML quantity.Range
	Own             *quantity.Sizes // of vague measures and vessels; nil without any
	// PH is what was measured of the workshop's materials, by id.
	PH map[string]quantity.Range
}

// UsualPH is the pH of a material whose make-up is not known: as it was measured
// in the workshop, else as it usually is; known is false when it is neither.
func (r *Resolved) UsualPH(m *material.Material) (ph quantity.Range, measured, known bool) {
	if ph, measured := r.workshop.PH[m.ID]; measured {
		return ph, true, true
	}
	return m.PH.Range, false, m.PH.Known()
}

// When a formula is in parts alone and gives no total, one part is taken to
// be this much.
const defaultPartG = 100.0

// Resolve works out every line of f in grams against the library.
func Resolve(f *Formula, lib *material.Library, w Workshop) *Resolved {
	r := &resolver{f: f, w: w, out: &Resolved{Formula: f, Lines: make([]ResolvedLine, len(f.Lines)), workshop: w}}
	if len(f.Lines) > MaxLines {
		r.ask(Question{Line: -1, Code: TooManyLines, Text: fmt.Sprintf("a formula has at most %d lines; this one has %d", MaxLines, len(f.Lines))})
		r.out.Lines = nil
		return r.out
	}
	if f.LossShare < 0 || f.LossShare > MaxLossShare {
		r.ask(Question{Line: -1, Code: BadLoss, Text: fmt.Sprintf("the loss is a share between 0 and %g of the whole, not %g", MaxLossShare, f.LossShare)})
	}
	r.findMaterials(lib)
	r.resolveParts(r.resolveFixed())
	r.resolvePercent()
	r.resolveMakeUp()
	r.total()
	slices.SortStableFunc(r.out.Questions, func(a, b Question) int { return a.Line - b.Line })
	return r.out
}

type resolver struct {
	f      *Formula
	w      Workshop
	out    *Resolved
	makeUp int // index of the make-up-to line, −1 without one

	percent []int // lines in per cent of the whole
}

func (r *resolver) findMaterials(lib *material.Library) {
	for i, line := range r.f.Lines {
		l := &r.out.Lines[i]
		l.Line = line
		named, err := lib.ReadFor(line.Material, line.Amount)
		if err != nil {
			r.askName(i, err)
			continue
		}
		l.Material = named.Material
		if l.Line.Celsius == 0 {
			l.Line.Celsius = named.Celsius
		}
		l.Line.Optional = l.Line.Optional || named.Optional
		if l.Line.Also.IsZero() {
			l.Line.Also = named.Also
		}
		if notes := append(named.Notes, named.Aside...); len(notes) > 0 && l.Line.Note == "" {
			l.Line.Note = strings.Join(notes, ", ")
		}
		for _, o := range named.Others {
			l.Line.Alternatives = append(l.Line.Alternatives, Line{Material: o.Material.ID, Amount: line.Amount, Written: line.Written})
		}
	}
}

func (r *resolver) handling(m *material.Material) quantity.Handling {
	h := m.Handling(r.f.Measures)
	h.DropML, h.ScoopML, h.Own = r.w.DropML, r.w.ScoopML, r.w.Own
	return h
}

// resolveFixed sets the mass of lines that need no other line, and returns
// the indices of those in parts.
func (r *resolver) resolveFixed() (inParts []int) {
	r.makeUp = -1
	for i := range r.out.Lines {
		l := &r.out.Lines[i]
		if l.Line.Unread != nil {
			r.askWritten(i, l.Line.Unread)
			continue
		}
		if l.Material == nil {
			continue
		}
		h := r.handling(l.Material)
		g, err := l.Line.Amount.Grams(h)
		switch {
		case l.Line.Amount.IsZero():
			r.ask(Question{Line: i, Part: OfAmount, Code: NoAmount, Answers: []Answer{ByFigure, ByLeavingOut},
				Text: fmt.Sprintf("how much %s? Write an amount such as 1 cup or 200 g", material.InSentence(l.Material.Name))})
		case err == nil:
			r.setMass(l, g)
			l.Taken = takenAs(l.Line.Amount, h)
			r.compareWays(i, h)
		case l.Line.Amount.Unit() == quantity.Percent:
			r.percent = append(r.percent, i)
		case errors.Is(err, quantity.ErrNeedsPartSize):
			inParts = append(inParts, i)
		case errors.Is(err, quantity.ErrMakeUp):
			if r.makeUp >= 0 {
				r.ask(Question{Line: i, Part: OfAmount, Code: TwoTotals, Text: "only one line can make up to a total", Answers: []Answer{ByFigure}})
				continue
			}
			r.makeUp = i
		default:
			// said two ways: the other may do
			if other, e := l.Line.Also.Grams(h); e == nil && !l.Line.Also.IsZero() {
				r.setMass(l, other)
				continue
			}
			r.askAmount(i, err)
		}
	}
	return inParts
}

// takenAs says how an ounce was taken.
func takenAs(a quantity.Amount, h quantity.Handling) string {
	if a.Unit() != quantity.Ounce {
		return ""
	}
	if h.Liquid {
		return "fluid ounces, since it is poured"
	}
	return "ounces by weight"
}

func (r *resolver) setMass(l *ResolvedLine, g quantity.Range) {
	l.MassG = g
	if ml, ok := l.Line.Amount.Millilitres(r.handling(l.Material)); ok && !l.Line.Amount.UpTo() {
		l.VolumeML = ml // measured by volume: the volume is what is exact
	} else if l.Material.Density.Known() {
		l.VolumeML = g.Div(l.Material.Density.Range)
	}
}

// resolveParts sizes a part: from the yield when it is a mass or volume and
// all is in parts, else one part is 100 g or one cup.
func (r *resolver) resolveParts(inParts []int) {
	if len(inParts) == 0 {
		return
	}
	unitG, unitML := defaultPartG, quantity.Cup.SizeML(r.f.Measures)
	note := fmt.Sprintf("one part is taken as %g g", unitG)
	if r.f.Parts == ByVolume {
		note = "one part is taken as one cup"
	}
	if all := len(inParts) == len(r.f.Lines); all && !r.f.Yield.IsZero() {
		if g, ml, ok := r.partFromYield(inParts); ok {
			unitG, unitML = g, ml
			note = "parts are sized to give " + r.f.Yield.String()
		}
	}
	r.out.PartNote = note
	for _, i := range inParts {
		l := &r.out.Lines[i]
		parts, _ := l.Line.Amount.Parts()
		if r.f.Parts == ByMass {
			r.setMass(l, parts.Scale(unitG))
			continue
		}
		if !l.Material.Density.Known() {
			r.askAmount(i, quantity.ErrNeedsDensity)
			continue
		}
		l.VolumeML = parts.Scale(unitML)
		l.MassG = l.VolumeML.Mul(l.Material.Density.Range)
	}
}

// partFromYield returns grams and millilitres of one part such that the parts
// give the yield before losses are taken off.
func (r *resolver) partFromYield(inParts []int) (g, ml float64, ok bool) {
	keep := 1 - r.f.LossShare
	var count, bulkML, massG float64 // for a part of 1 g or 1 ml
	for _, i := range inParts {
		parts, _ := r.out.Lines[i].Line.Amount.Parts()
		d := r.out.Lines[i].Material.Density.Value
		if d == 0 {
			return 0, 0, false
		}
		count += parts.Value
		bulkML += parts.Value / d
		massG += parts.Value * d
	}
	if wantG, isMass := r.f.Yield.MassOnly(); isMass {
		return wantG.Value / keep / count, wantG.Value / keep / massG, true
	}
	if wantML, isVolume := r.f.Yield.Millilitres(quantity.Handling{Measures: r.f.Measures}); isVolume {
		return wantML.Value / keep / bulkML, wantML.Value / keep / count, true
	}
	return 0, 0, false
}

// resolvePercent gives lines in per cent their share of the whole: beside lines
// of a mass, of what these are the rest of; alone, of a hundred parts.
func (r *resolver) resolvePercent() {
	if len(r.percent) == 0 {
		return
	}
	percents := 0.0
	for _, i := range r.percent {
		p, _ := r.out.Lines[i].Line.Amount.Parts()
		percents += p.Value
	}
	fixed := 0.0
	for i := range r.out.Lines {
		fixed += r.out.Lines[i].MassG.Value
	}
	unitG := defaultPartG / 100 * 10 // a kilogram in all
	switch {
	case percents > 100+1e-9 && fixed+percents > 101:
		r.ask(Question{Line: r.percent[0], Part: OfAmount, Code: PercentTooMuch, Answers: []Answer{ByFigure},
			Text: fmt.Sprintf("the lines in per cent come to %s %%: more than the whole", quantity.FormatFigures(percents, 4))})
	case fixed > 0 && percents < 100:
		unitG = fixed / (100 - percents)
	default:
		r.out.PartNote = fmt.Sprintf("one per cent is taken as %g g", unitG)
		if g, isMass := r.f.Yield.MassOnly(); isMass && !r.f.Yield.IsZero() {
			unitG = g.Value / (1 - r.f.LossShare) / max(percents, 1)
			r.out.PartNote = "per cents are sized to give " + r.f.Yield.String()
		}
	}
	for _, i := range r.percent {
		p, _ := r.out.Lines[i].Line.Amount.Parts()
		r.setMass(&r.out.Lines[i], p.Scale(unitG))
	}
}

// resolveMakeUp gives the make-up-to line what the others leave.
func (r *resolver) resolveMakeUp() {
	if r.makeUp < 0 {
		return
	}
	l := &r.out.Lines[r.makeUp]
	if wantG, isMass := l.Line.Amount.MassOnly(); isMass && !(l.Material.Liquid() && l.Line.Amount.Unit() == quantity.Ounce) {
		var others quantity.Range
		for i := range r.out.Lines {
			if i != r.makeUp {
				others = others.Add(r.out.Lines[i].MassG)
			}
		}
		r.fillUp(l, wantG, others, quantity.Exactly(1))
		return
	}
	wantML, known := l.Line.Amount.Millilitres(r.handling(l.Material))
	if !known {
		r.askAmount(r.makeUp, quantity.ErrNeedsSize)
		return
	}
	var others quantity.Range
	for i := range r.out.Lines {
		if o := &r.out.Lines[i]; i != r.makeUp && o.Material != nil {
			others = others.Add(o.MassG.Mul(o.Material.MLPerGInWater()))
		}
	}
	if !l.Material.Density.Known() {
		r.askAmount(r.makeUp, quantity.ErrNeedsDensity)
		return
	}
	r.fillUp(l, wantML, others, l.Material.Density.Range)
}

func (r *resolver) fillUp(l *ResolvedLine, want, others, density quantity.Range) {
	left := quantity.Range{Value: want.Value - others.Value, Low: want.Low - others.High, High: want.High - others.Low}
	if left.Value <= 0 {
		r.ask(Question{Line: r.makeUp, Part: OfAmount, Code: NothingLeft, Answers: []Answer{ByFigure},
			Text: fmt.Sprintf("the other lines already come to more than %s: nothing is left for %s", l.Line.Amount.String()[len("to "):], l.Material.Name)})
		return
	}
	left.Low = max(left.Low, 0)
	l.MassG = left.Mul(density)
	if l.Material.Density.Known() {
		l.VolumeML = l.MassG.Div(l.Material.Density.Range)
	}
}

func (r *resolver) total() {
	out := r.out
	for i := range out.Lines {
		out.TotalG = out.TotalG.Add(out.Lines[i].MassG)
	}
	if out.TotalG.Value == 0 {
		return
	}
	for i := range out.Lines {
		g := out.Lines[i].MassG
		rest := quantity.Range{Low: out.TotalG.Low - g.Low, High: out.TotalG.High - g.High}
		out.Lines[i].Share = quantity.Range{
			Value: g.Value / out.TotalG.Value,
			Low:   shareOf(g.Low, rest.High),
			High:  shareOf(g.High, rest.Low),
		}
	}
	wet := out.State() == WetState
	for i := range out.Lines {
		l := &out.Lines[i]
		if l.Material == nil {
			continue
		}
		ml := l.VolumeML
		if wet { // what dissolves does not add its bulk
			ml = l.MassG.Mul(l.Material.MLPerGInWater())
		}
		if out.StrainsOut(l.Material) {
			out.strainedG += l.MassG.Value
			out.strainedML += ml.Value
		}
		out.VolumeML = out.VolumeML.Add(ml)
	}
	if out.strainedG >= out.TotalG.Value && !out.openLiquid() {
		r.ask(Question{Line: -1, Code: NothingLeft, Text: "all that is in it is strained out again: what does it steep in, and how much of it?", Answers: []Answer{ByFigure}})
	}
}

// openLiquid reports whether something that stays in it, and that no sieve holds, is still to be
// said how much of: there it steeps.
func (r *Resolved) openLiquid() bool {
	return slices.ContainsFunc(r.Lines, func(l ResolvedLine) bool {
		return l.Line.Amount.Open() != quantity.NotOpen && l.Material != nil && l.Material.Liquid()
	})
}

// StrainsOut reports whether a material is taken out of the finished good again:
// peel and nuts of what steeps or ferments.
func (r *Resolved) StrainsOut(m *material.Material) bool {
	return r.Formula.Kind.Info().Slow && m.Is(material.Botanical) && !m.Liquid()
}

// LostShare is the share of the mass that is not in the finished good: what is
// strained out, and of the rest what sticks, dries off or boils away.
func (r *Resolved) LostShare() float64 {
	if r.TotalG.Value == 0 {
		return r.Formula.LossShare
	}
	return 1 - (1-r.strainedG/r.TotalG.Value)*(1-r.Formula.LossShare)
}

// NetML is the volume of the finished good, what is strained out and lost taken
// off, in ml.
func (r *Resolved) NetML() quantity.Range {
	if r.VolumeML.Value == 0 {
		return r.VolumeML
	}
	return r.VolumeML.Scale((1 - r.strainedML/r.VolumeML.Value) * (1 - r.Formula.LossShare))
}

// Held returns the first question that a batch cannot be sized without; nil
// when there is none. Lines that are optional hold nothing up.
func (r *Resolved) Held() *Question {
	for i := range r.Questions {
		q := &r.Questions[i]
		if q.Holds() && (q.Line < 0 || !r.Lines[q.Line].Line.Optional) {
			return q
		}
	}
	return nil
}

func shareOf(g, rest float64) float64 {
	if g+rest <= 0 {
		return 0
	}
	return g / (g + rest)
}

// NetG returns the grams left after losses and straining.
func (r *Resolved) NetG() quantity.Range { return r.TotalG.Scale(1 - r.LostShare()) }

// measuring is how the good itself is measured out: an ounce of a liquid is a
// fluid ounce.
func (r *Resolved) measuring() quantity.Handling {
	return quantity.Handling{Measures: r.Formula.Measures, Liquid: r.State() == WetState, DropML: r.workshop.DropML, ScoopML: r.workshop.ScoopML, Own: r.workshop.Own}
}

// Density returns the grams per millilitre of the finished good as it lies in
// the jar. It is zero when nothing has a volume.
func (r *Resolved) Density() float64 {
	if r.VolumeML.Value == 0 {
		return 0
	}
	return r.TotalG.Value / r.VolumeML.Value
}

// Uses returns how many uses the formula gives, more than none; ok is false when
// one use is not said, cannot be worked out, or nothing is left to use.
func (r *Resolved) Uses() (uses quantity.Range, ok bool) {
	use, f := r.Formula.Use, r.Formula
	if use.IsZero() || use.UpTo() || r.NetG().Value <= 0 {
		return uses, false
	}
	if each, isCount := use.Pieces(); isCount {
		pieces, said := f.Yield.Pieces()
		if !said {
			return uses, false
		}
		return pieces.Div(each), true
	}
	if each, isMass := use.MassOnly(); isMass {
		if r.State() != WetState || use.Unit() != quantity.Ounce {
			return r.NetG().Div(each), true
		}
	}
	if each, isVolume := use.Millilitres(r.measuring()); isVolume && r.VolumeML.Value > 0 {
		return r.NetML().Div(each), true
	}
	return uses, false
}
