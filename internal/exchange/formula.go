package exchange

import (
	"bytes"
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"io"

	"keencrock/api"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/internal/problem"
)

// Name and version of the formula format.
const (
	FormulaFormat  = api.Keencrockformula
	FormulaVersion = 3 // versions without what later ones added are still read
)

// maxFormulaBytes is the largest formula file read.
const maxFormulaBytes = 1 << 20

// ReadFormula reads a formula file. The error is an [*api.Problem].
func ReadFormula(r io.Reader) (*api.FormulaFile, error) {
	data, err := io.ReadAll(io.LimitReader(r, maxFormulaBytes+1))
	if err != nil {
		return nil, problem.Malformed("unreadable", "The file could not be read: %v", err)
	}
	if len(data) > maxFormulaBytes {
		return nil, problem.TooLarge("too-large", "A formula file is at most 1 MB.")
	}
	data = bytes.TrimPrefix(data, []byte("\xef\xbb\xbf"))
	d := json.NewDecoder(bytes.NewReader(data))
	d.DisallowUnknownFields()
	var f api.FormulaFile
	if err := d.Decode(&f); err != nil {
		return nil, badJSON(data, err)
	}
	if d.More() {
		return nil, problem.Malformed("bad-json", "There is something after the end of the formula.")
	}
	if f.Format != FormulaFormat || f.Version < 1 || f.Version > FormulaVersion {
		return nil, problem.Unfit("wrong-format",
			"This is “%s” version %d; expected “%s” version 1 to %d.", f.Format, f.Version, FormulaFormat, FormulaVersion).At("format")
	}
	return &f, nil
}

func badJSON(data []byte, err error) *api.Problem {
	p := problem.Malformed("bad-json", "This is no formula file: %v.", err)
	var syntax *json.SyntaxError
	var kind *json.UnmarshalTypeError
	switch {
	case errors.As(err, &syntax):
		p.Row = lineOf(data, syntax.Offset)
	case errors.As(err, &kind):
		p.Row, p.Field, p.Expected = lineOf(data, kind.Offset), kind.Field, kind.Type.String()
	}
	return p
}

func lineOf(data []byte, offset int64) int {
	return 1 + bytes.Count(data[:min(int(offset), len(data))], []byte("\n"))
}

// ToFormula understands a formula file. Whatever could not be read is left
// out and stands in problems, so that the rest can still be worked with.
func ToFormula(file *api.FormulaFile) (f *formula.Formula, problems []api.Problem) {
	f = &formula.Formula{Name: file.Name, LossShare: file.Loss, Method: file.Method, Notes: file.Notes}
	report := func(field string, err error) {
		if err != nil {
			problems = append(problems, FieldProblem(field, err))
		}
	}
	var err error
	f.Kind, err = formula.ParseKind(file.Kind)
	report("kind", err)
	f.Measures, err = quantity.ParseMeasures(string(file.Measures))
	report("measures", err)
	f.Parts, err = formula.ParsePartsBy(string(file.Parts))
	report("parts", err)
	f.Yield, err = optionalAmount(file.Yield.Amount)
	report("yield", err)
	f.Use, err = optionalAmount(file.Uses.Amount)
	report("uses", err)
	f.UseWater, err = optionalAmount(file.Uses.Water)
	report("uses.water", err)
	if _, ok := f.UseWater.Millilitres(quantity.Handling{}); err == nil && !f.UseWater.IsZero() && !ok {
		report("uses.water", errors.New("the water of one use is a volume, such as 20 l"))
	}
	for i, d := range file.Doses {
		field := fmt.Sprintf("doses[%d]", i)
		amount, err := optionalAmount(d.Amount)
		report(field+".amount", err)
		water, err := optionalAmount(d.Water)
		report(field+".water", err)
		f.Doses = append(f.Doses, formula.Dose{For: d.For, Amount: amount, Water: water})
	}
	if file.Name == "" {
		report("name", errors.New("a formula needs a name"))
	}
	f.Lines = make([]formula.Line, len(file.Lines))
	for i, l := range file.Lines {
		f.Lines[i] = lineIn(l)
	}
	f.Steps = stepsIn(file, report)
	if m := file.MeasuredPh; m.With != "" {
		f.MeasuredPH = &formula.MeasuredPH{PH: m.Ph, With: formula.Meter(m.With)}
	}
	return f, problems
}

// MeasuredPH is a measured pH as the contract has it; nothing for nil.
func MeasuredPH(m *formula.MeasuredPH) api.MeasuredPh {
	if m == nil {
		return api.MeasuredPh{}
	}
	return api.MeasuredPh{Ph: m.PH, With: api.MeasuredPhWith(m.With)}
}

// FormulaLines understands lines of a formula file.
func FormulaLines(lines []api.FormulaLine) []formula.Line {
	out := make([]formula.Line, len(lines))
	for i, l := range lines {
		out[i] = lineIn(l)
	}
	return out
}

func lineIn(l api.FormulaLine) formula.Line {
	line := formula.LineOf(l.Material, l.Amount)
	line.Phase, line.Purpose, line.Optional = l.Phase, l.Purpose, line.Optional || l.Optional
	if l.Note != "" {
		line.Note = l.Note
	}
	if l.Celsius != 0 {
		line.Celsius = l.Celsius
	}
	for _, a := range l.Alternatives {
		line.Alternatives = append(line.Alternatives, formula.LineOf(a.Material, a.Amount))
	}
	return line
}

// LineFile is a line as a formula file has it.
func LineFile(l *formula.Line) api.FormulaLine {
	return api.FormulaLine{Material: l.Material, Amount: l.Written, Phase: l.Phase, Purpose: l.Purpose, Optional: l.Optional, Note: l.Note,
		Celsius: l.Celsius, Alternatives: alternatives(l)}
}

func alternatives(l *formula.Line) []api.LineAlternative {
	var out []api.LineAlternative
	for _, a := range l.Alternatives {
		out = append(out, api.LineAlternative{Material: a.Material, Amount: cmp.Or(a.Written, a.Amount.String())})
	}
	return out
}

func lineField(i int, part string) string { return fmt.Sprintf("lines[%d].%s", i, part) }

func optionalAmount(written string) (quantity.Amount, error) {
	if written == "" {
		return quantity.Amount{}, nil
	}
	a, err := quantity.Parse(written)
	if err == nil && a.Open() != quantity.NotOpen {
		return quantity.Amount{}, &quantity.ParseError{Input: written, Position: 1, Expected: "a figure, such as 1 tbsp or 20 tabs", Found: written}
	}
	return a, err
}

// FieldProblem says what was wrong with a written field.
func FieldProblem(field string, err error) api.Problem {
	p := problem.Unfit("bad-value", "%s", Sentence(err)).At(field)
	var parse *quantity.ParseError
	var unknown *material.UnknownError
	switch {
	case errors.As(err, &parse):
		p.Code, p.Position, p.Expected = "bad-amount", parse.Position, parse.Expected
	case errors.As(err, &unknown):
		p.Code, p.Nearest = formula.UnknownMaterial, unknown.Nearest()
	}
	return *p
}

// Sentence is an error as a sentence: with a capital, and a stop at its end.
func Sentence(err error) string {
	s := err.Error()
	if s == "" {
		return s
	}
	if c := s[0]; 'a' <= c && c <= 'z' {
		s = string(c-'a'+'A') + s[1:]
	}
	if last := s[len(s)-1]; last != '.' && last != '?' && last != '!' {
		s += "."
	}
	return s
}

// within is a text of so many letters at most.
func within(most int, text string) string {
	if r := []rune(text); len(r) > most {
		return string(r[:most-1]) + "…"
	}
	return text
}

// Questions puts what is asked into the words of the contract: what of the
// formula as a whole could not be read, then what is asked of each line.
func Questions(unread []api.Problem, asked []formula.Question) []api.Question {
	out := make([]api.Question, 0, len(unread)+len(asked))
	for _, p := range unread {
		out = append(out, api.Question{Field: p.Field, Code: p.Code, Detail: p.Detail, Position: p.Position, Expected: p.Expected, Nearest: p.Nearest,
			Answers: []api.QuestionAnswers{api.QuestionAnswersFigure}})
	}
	for i := range asked {
		q := &asked[i]
		a := api.Question{Field: "lines", Code: q.Code, Detail: Sentence(textError(q.Text)), Position: q.Position, Expected: q.Expected, Nearest: q.Nearest,
			Answers: make([]api.QuestionAnswers, len(q.Answers))}
		if q.Line >= 0 {
			a.Line, a.Field = &q.Line, lineField(q.Line, string(q.Part))
		} else if q.Code == formula.BadLoss {
			a.Field = "loss"
		}
		if q.Unit != 0 {
			a.Unit = q.Unit.String()
		}
		for j, answer := range q.Answers {
			a.Answers[j] = api.QuestionAnswers(answer)
		}
		out = append(out, a)
	}
	return out
}
