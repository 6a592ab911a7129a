package exchange

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"

	"keencrock/api"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

// Name and version of the formula format.
const (
	FormulaFormat  = api.Keencrockformula
	FormulaVersion = 1
)

// maxFormulaBytes is the largest formula file read.
const maxFormulaBytes = 1 << 20

// ReadFormula reads a formula file. The error is an [*api.Problem].
func ReadFormula(r io.Reader) (*api.FormulaFile, error) {
	data, err := io.ReadAll(io.LimitReader(r, maxFormulaBytes+1))
	if err != nil {
		return nil, api.NewProblem(http.StatusBadRequest, "unreadable", "The file could not be read: %v", err)
	}
	if len(data) > maxFormulaBytes {
		return nil, api.NewProblem(http.StatusRequestEntityTooLarge, "too-large", "A formula file is at most 1 MB.")
	}
	data = bytes.TrimPrefix(data, []byte("\xef\xbb\xbf"))
	d := json.NewDecoder(bytes.NewReader(data))
	d.DisallowUnknownFields()
	var f api.FormulaFile
	if err := d.Decode(&f); err != nil {
		return nil, badJSON(data, err)
	}
	if d.More() {
		return nil, api.NewProblem(http.StatusBadRequest, "bad-json", "There is something after the end of the formula.")
	}
	if f.Format != FormulaFormat || f.Version != FormulaVersion {
		return nil, api.NewProblem(http.StatusUnprocessableEntity, "wrong-format",
			"This is “%s” version %d; expected “%s” version %d.", f.Format, f.Version, FormulaFormat, FormulaVersion).At("format")
	}
	return &f, nil
}

func badJSON(data []byte, err error) *api.Problem {
	p := api.NewProblem(http.StatusBadRequest, "bad-json", "This is no formula file: %v.", err)
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
	if file.Name == "" {
		report("name", errors.New("a formula needs a name"))
	}
	f.Lines = make([]formula.Line, len(file.Lines))
	for i, l := range file.Lines {
		f.Lines[i] = formula.Line{Material: l.Material, Written: l.Amount, Phase: l.Phase, Purpose: l.Purpose, Optional: l.Optional}
		f.Lines[i].Amount, err = quantity.Parse(l.Amount)
		report(lineField(i, "amount"), err)
	}
	return f, problems
}

func lineField(i int, part string) string { return fmt.Sprintf("lines[%d].%s", i, part) }

func optionalAmount(written string) (quantity.Amount, error) {
	if written == "" {
		return quantity.Amount{}, nil
	}
	return quantity.Parse(written)
}

// FieldProblem says what was wrong with a written field.
func FieldProblem(field string, err error) api.Problem {
	p := api.NewProblem(http.StatusUnprocessableEntity, "bad-value", "%s", Sentence(err)).At(field)
	var parse *quantity.ParseError
	var unknown *material.UnknownError
	switch {
	case errors.As(err, &parse):
		p.Code, p.Position, p.Expected = "bad-amount", parse.Position, parse.Expected
	case errors.As(err, &unknown):
		p.Code, p.Nearest = formula.UnknownMaterial, unknown.Nearest
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

// SpokenLines turns what was said into lines of a formula file.
func SpokenLines(spoken []formula.Spoken) []api.SpokenLine {
	lines := make([]api.SpokenLine, len(spoken))
	for i, s := range spoken {
		lines[i].Text = s.Text
		if s.Err != nil {
			lines[i].Problem = FieldProblem("text", s.Err)
			continue
		}
		lines[i].Line = api.FormulaLine{Material: s.Line.Material, Amount: s.Line.Written, Optional: s.Line.Optional}
	}
	return lines
}
