package formula

import (
	"errors"
	"fmt"
	"math"

	"keencrock/core/material"
	"keencrock/core/quantity"
)

// Question is something that keeps a line, or the whole, from being worked out
// until it is answered. The rest is worked out all the same.
type Question struct {
	Line     int  // counted from 0; −1 for the formula as a whole
	Part     Part // of the line
	Code     string
	Text     string
	Position int      // character in what was written, from 1; 0 when it is all of it
	Expected string   // what would be read there
	Nearest  []string // names that may have been meant
	Answers  []Answer // what would answer it
	Unit     quantity.Unit
}

// Part is what of a line is asked about.
type Part string

// The parts of a line.
const (
	OfMaterial Part = "material"
	OfAmount   Part = "amount"
)

// Answer is a way to answer a question.
type Answer string

// Ways to answer: write a figure; choose one of the nearest names, make the
// name another of one that is known, or a new material; weigh a measure or a
// piece of it, or measure a vessel, which is then the workshop's own; say how
// full a vessel is; leave it open until the bench.
const (
	ByFigure     Answer = "figure"
	ByChoice     Answer = "choose"
	ByOtherName  Answer = "another-name"
	ByOwn        Answer = "own-material"
	ByWeighing   Answer = "weigh-mine"
	ByPiece      Answer = "weigh-one"
	ByMeasuring  Answer = "measure-mine"
	ByFillLevel  Answer = "fill-level"
	ByLeavingOut Answer = "leave-open"
)

// Codes of questions.
const (
	UnknownMaterial = "unknown-material"
	UnknownStrength = "unknown-strength"
	UnknownFigure   = "unknown-figure"
	UnknownSize     = "unknown-size"
	BadAmount       = "bad-amount"
	NoAmount        = "no-amount"
	OpenAmount      = "open-amount"
	TwoWays         = "two-ways"
	NothingLeft     = "nothing-left"
	TwoTotals       = "two-totals"
	PercentTooMuch  = "percent-too-much"
	BadLoss         = "bad-loss"
	TooManyLines    = "too-many-lines"
	NoLines         = "no-lines"
)

// Holds reports whether a batch cannot be sized before the question is
// answered. Open amounts are left to the bench, and two ways of saying an amount
// that disagree are only told.
func (q *Question) Holds() bool { return q.Code != OpenAmount && q.Code != TwoWays }

func (r *resolver) ask(q Question) { r.out.Questions = append(r.out.Questions, q) }

// askName asks which material was meant.
func (r *resolver) askName(line int, err error) {
	q := Question{Line: line, Part: OfMaterial, Code: UnknownMaterial, Text: err.Error(), Answers: []Answer{ByOtherName, ByOwn}}
	var unknown *material.UnknownError
	var strength *material.StrengthError
	switch {
	case errors.As(err, &unknown):
		if q.Nearest = unknown.Nearest(); len(q.Nearest) > 0 {
			q.Answers = append([]Answer{ByChoice}, q.Answers...)
		}
	case errors.As(err, &strength):
		q.Code, q.Nearest, q.Answers = UnknownStrength, []string{strength.Material.Name}, []Answer{ByChoice, ByOwn}
	}
	r.ask(q)
}

// askAmount asks how much, by what keeps the amount from becoming grams.
func (r *resolver) askAmount(line int, err error) {
	l := &r.out.Lines[line]
	name := material.InSentence(l.Material.Name)
	q := Question{Line: line, Part: OfAmount, Code: UnknownFigure, Unit: l.Line.Amount.Unit(), Answers: []Answer{ByFigure}}
	switch {
	case errors.Is(err, quantity.ErrOpen):
		q.Code, q.Text = OpenAmount, fmt.Sprintf("“%s” %s has no figure: it is left out of the sums", l.Line.Amount.Open(), name)
		q.Answers = []Answer{ByFigure, ByLeavingOut}
		if o := l.Line.Amount.Open(); o == quantity.ToCover || o == quantity.ToFill {
			q.Answers = []Answer{ByFigure, ByFillLevel, ByLeavingOut}
		}
	case errors.Is(err, quantity.ErrNeedsDensity):
		q.Text, q.Answers = fmt.Sprintf("how heavy a %s of %s is, is not known: weigh one, or write grams", q.Unit, name), []Answer{ByWeighing, ByFigure}
	case errors.Is(err, quantity.ErrNeedsPieceG):
		q.Text, q.Answers = fmt.Sprintf("how heavy one %s of %s is, is not known: weigh one, or write grams", q.Unit, name), []Answer{ByPiece, ByFigure}
	case errors.Is(err, quantity.ErrNeedsUnit):
		q.Code, q.Text = BadAmount, fmt.Sprintf("%s of what %s? Write a unit, such as g, ml, cups or drops", l.Line.Amount, name)
		q.Position, q.Expected = 1+len([]rune(l.Line.Amount.String())), "a unit, such as g, ml, cup, tbsp, drop or part"
	case errors.Is(err, quantity.ErrNeedsSize):
		q.Code, q.Text = UnknownSize, fmt.Sprintf("how much one %s holds is not known: measure yours once, or write an amount", q.Unit)
		q.Answers = []Answer{ByMeasuring, ByFigure, ByLeavingOut}
	default:
		q.Text = fmt.Sprintf("%s: %v", l.Material.Name, err)
	}
	r.ask(q)
}

// askWritten asks for an amount that could not be read.
func (r *resolver) askWritten(line int, err error) {
	q := Question{Line: line, Part: OfAmount, Code: BadAmount, Text: err.Error(), Answers: []Answer{ByFigure}}
	var parse *quantity.ParseError
	if errors.As(err, &parse) {
		q.Position, q.Expected = parse.Position, parse.Expected
	}
	r.ask(q)
}

// disagree is how far two ways of saying one amount may lie apart, as a share,
// before it is told. Common practice: a rounded conversion is within a tenth.
const disagree = 0.12

// compareWays tells when the two ways an amount was said do not agree.
func (r *resolver) compareWays(line int, h quantity.Handling) {
	l := &r.out.Lines[line]
	if l.Line.Also.IsZero() || l.MassG.Value == 0 {
		return
	}
	other, err := l.Line.Also.Grams(h)
	if err != nil {
		return
	}
	if other.Low <= l.MassG.High && l.MassG.Low <= other.High || math.Abs(other.Value/l.MassG.Value-1) <= disagree {
		return
	}
	r.ask(Question{Line: line, Part: OfAmount, Code: TwoWays, Answers: []Answer{ByFigure},
		Text: fmt.Sprintf("“%s” is %s g and “%s” is %s g: the first is taken", l.Line.Amount, quantity.FormatFigures(l.MassG.Value, 3), l.Line.Also, quantity.FormatFigures(other.Value, 3))})
}
