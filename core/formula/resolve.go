package formula

import (
	"errors"
	"fmt"

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
	Problems []Problem
}

// ResolvedLine is a line with its material found and its grams known.
type ResolvedLine struct {
	Line     Line
	Material *material.Material // nil when it is not known
	MassG    quantity.Range
	VolumeML quantity.Range
	Share    quantity.Range // of the whole by mass, 0 to 1
}

// Problem is one thing that keeps a formula from being worked out.
type Problem struct {
	Line    int // counted from 0; −1 for the formula as a whole
	Code    string
	Text    string
	Nearest []string // names that may have been meant
}

// Codes of problems.
const (
	UnknownMaterial = "unknown-material"
	UnknownFigure   = "unknown-figure"
	NothingLeft     = "nothing-left"
	TwoTotals       = "two-totals"
	NoAmount        = "no-amount"
	BadLoss         = "bad-loss"
	TooManyLines    = "too-many-lines"
)

// Workshop is what a workshop measured of its own tools; zero ranges mean
// common practice.
type Workshop struct {
	DropML, ScoopML quantity.Range
}

// When a formula is in parts alone and gives no total, one part is taken to
// be this much.
const defaultPartG = 100.0

// dissolvedMLPerG is the room a gram of powder takes up once it is dissolved
// or wetted, for making up to a volume. From memory: most salts here displace
// 0.3 to 0.6 ml a gram.
var dissolvedMLPerG = quantity.Range{Value: 0.45, Low: 0.3, High: 0.6}

// Resolve works out every line of f in grams against the library.
func Resolve(f *Formula, lib *material.Library, w Workshop) *Resolved {
	r := &resolver{f: f, w: w, out: &Resolved{Formula: f, Lines: make([]ResolvedLine, len(f.Lines))}}
	if len(f.Lines) > MaxLines {
		r.problem(-1, TooManyLines, fmt.Sprintf("a formula has at most %d lines; this one has %d", MaxLines, len(f.Lines)))
		r.out.Lines = nil
		return r.out
	}
	if f.LossShare < 0 || f.LossShare > MaxLossShare {
		r.problem(-1, BadLoss, fmt.Sprintf("the loss is a share between 0 and %g of the whole, not %g", MaxLossShare, f.LossShare))
	}
	r.findMaterials(lib)
	r.resolveParts(r.resolveFixed())
	r.resolveMakeUp()
	r.total()
	return r.out
}

type resolver struct {
	f      *Formula
	w      Workshop
	out    *Resolved
	makeUp int // index of the make-up-to line, −1 without one
}

func (r *resolver) problem(line int, code, text string) {
	r.out.Problems = append(r.out.Problems, Problem{Line: line, Code: code, Text: text})
}

func (r *resolver) findMaterials(lib *material.Library) {
	for i, line := range r.f.Lines {
		r.out.Lines[i].Line = line
		m, err := lib.Find(line.Material)
		if err != nil {
			r.problem(i, UnknownMaterial, err.Error())
			var unknown *material.UnknownError
			if errors.As(err, &unknown) {
				r.out.Problems[len(r.out.Problems)-1].Nearest = unknown.Nearest
			}
			continue
		}
		r.out.Lines[i].Material = m
	}
}

func (r *resolver) handling(m *material.Material) quantity.Handling {
	h := m.Handling(r.f.Measures)
	h.DropML, h.ScoopML = r.w.DropML, r.w.ScoopML
	return h
}

// resolveFixed sets the mass of lines that need no other line, and returns
// the indices of those in parts.
func (r *resolver) resolveFixed() (inParts []int) {
	r.makeUp = -1
	for i := range r.out.Lines {
		l := &r.out.Lines[i]
		if l.Material == nil {
			continue
		}
		g, err := l.Line.Amount.Grams(r.handling(l.Material))
		switch {
		case l.Line.Amount.IsZero():
			r.problem(i, NoAmount, fmt.Sprintf("how much %s? Write an amount such as 1 cup or 200 g", l.Material.Name))
		case err == nil:
			r.setMass(l, g)
		case errors.Is(err, quantity.ErrNeedsPartSize):
			inParts = append(inParts, i)
		case errors.Is(err, quantity.ErrMakeUp):
			if r.makeUp >= 0 {
				r.problem(i, TwoTotals, "only one line can make up to a total")
				continue
			}
			r.makeUp = i
		default:
			r.problem(i, UnknownFigure, fmt.Sprintf("%s: %v", l.Material.Name, err))
		}
	}
	return inParts
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
			r.problem(i, UnknownFigure, fmt.Sprintf("%s: %v", l.Material.Name, quantity.ErrNeedsDensity))
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

// resolveMakeUp gives the make-up-to line what the others leave.
func (r *resolver) resolveMakeUp() {
	if r.makeUp < 0 {
		return
	}
	l := &r.out.Lines[r.makeUp]
	if wantG, isMass := l.Line.Amount.MassOnly(); isMass {
		var others quantity.Range
		for i := range r.out.Lines {
			if i != r.makeUp {
				others = others.Add(r.out.Lines[i].MassG)
			}
		}
		r.fillUp(l, wantG, others, quantity.Exactly(1))
		return
	}
	wantML, _ := l.Line.Amount.Millilitres(r.handling(l.Material))
	var others quantity.Range
	for i := range r.out.Lines {
		if i == r.makeUp || r.out.Lines[i].Material == nil {
			continue
		}
		o := &r.out.Lines[i]
		if o.Material.Liquid() {
			others = others.Add(o.MassG.Div(o.Material.Density.Range))
		} else {
			others = others.Add(o.MassG.Mul(dissolvedMLPerG))
		}
	}
	if !l.Material.Density.Known() {
		r.problem(r.makeUp, UnknownFigure, fmt.Sprintf("%s: %v", l.Material.Name, quantity.ErrNeedsDensity))
		return
	}
	r.fillUp(l, wantML, others, l.Material.Density.Range)
}

func (r *resolver) fillUp(l *ResolvedLine, want, others, density quantity.Range) {
	left := quantity.Range{Value: want.Value - others.Value, Low: want.Low - others.High, High: want.High - others.Low}
	if left.Value <= 0 {
		r.problem(r.makeUp, NothingLeft, fmt.Sprintf("the other lines already come to more than %s: nothing is left for %s",
			l.Line.Amount.String()[len("to "):], l.Material.Name))
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
		out.VolumeML = out.VolumeML.Add(out.Lines[i].VolumeML)
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
}

func shareOf(g, rest float64) float64 {
	if g+rest <= 0 {
		return 0
	}
	return g / (g + rest)
}

// NetG returns the grams left after losses.
func (r *Resolved) NetG() quantity.Range { return r.TotalG.Scale(1 - r.Formula.LossShare) }

// Density returns the grams per millilitre of the finished good as it lies in
// the jar. It is zero when nothing has a volume.
func (r *Resolved) Density() float64 {
	if r.VolumeML.Value == 0 {
		return 0
	}
	return r.TotalG.Value / r.VolumeML.Value
}

// Uses returns how many uses the formula gives; ok is false when one use is
// not said, or cannot be worked out.
func (r *Resolved) Uses() (uses quantity.Range, ok bool) {
	use, f := r.Formula.Use, r.Formula
	if use.IsZero() || use.UpTo() || r.TotalG.Value == 0 {
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
		return r.NetG().Div(each), true
	}
	if each, isVolume := use.Millilitres(quantity.Handling{Measures: f.Measures}); isVolume && r.VolumeML.Value > 0 {
		return r.VolumeML.Scale(1 - f.LossShare).Div(each), true
	}
	return uses, false
}
