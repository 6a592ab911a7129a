package exchange

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"math"
	"slices"
	"strings"

	"keencrock/api"
	"keencrock/core/dosing"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/core/why"
	"keencrock/internal/problem"
)

// whyFile is what is asked, as a file.
type whyFile struct {
	Good  json.RawMessage `json:"good"`
	Seen  string          `json:"seen"`
	Water struct {
		Hardness string  `json:"hardness"`
		Celsius  float64 `json:"celsius"`
	} `json:"water"`
	Dose         string          `json:"dose"`
	RoomHumidity float64         `json:"room_humidity"`
	Answers      []api.WhyAnswer `json:"answers"`
}

// ReadWhy reads what is asked from a file, and works the good out with the library that ships.
func ReadWhy(in io.Reader) (*why.Question, error) {
	text, err := io.ReadAll(io.LimitReader(in, 1<<20))
	if err != nil {
		return nil, err
	}
	var f whyFile
	if err := json.Unmarshal(text, &f); err != nil {
		return nil, problem.Unfit("bad-json", "That is no such file: %v.", err)
	}
	u := why.Used{Library: material.Shipped(), Doses: DoseOptions, Machines: dosing.Machines(), RoomHumidity: f.RoomHumidity}
	if len(f.Good) > 0 {
		file, err := ReadFormula(bytes.NewReader(f.Good))
		if err != nil {
			return nil, err
		}
		u.Formula, _ = ToFormula(file)
	}
	if u.RoomHumidity < 0 || u.RoomHumidity > 100 {
		return nil, problem.Unfit("bad-value", "Humidity is from 0 to 100 per cent, not %g.", u.RoomHumidity).At("room_humidity")
	}
	u.Water.Celsius = f.Water.Celsius
	if f.Water.Hardness != "" {
		if u.Water.Hardness, err = quantity.ParseHardness(f.Water.Hardness); err != nil {
			p := FieldProblem("water.hardness", err)
			return nil, &p
		}
		u.WaterKnown = true
	}
	if f.Dose != "" {
		if u.Dose, err = quantity.Parse(f.Dose); err != nil {
			p := FieldProblem("dose", err)
			return nil, &p
		}
	}
	var on []string
	if u.Formula != nil {
		on = why.SeenOn(u.Formula.Kind)
	}
	q, err := WhyQuestion(f.Seen, f.Answers, on...)
	if err != nil {
		return nil, err
	}
	q.Facts = u.Facts()
	return q, nil
}

// WhyQuestion is a question of what is seen, said in any words, and of what was answered.
func WhyQuestion(seen string, answers []api.WhyAnswer, on ...string) (*why.Question, error) {
	heard := why.Shipped().Hear(seen, on...)
	if len(heard) == 0 {
		p := problem.Unfit("not-seen", "What is seen is not understood: say it otherwise, such as “film on the glasses”.").At("seen")
		for _, s := range why.Shipped().Seen {
			if len(on) == 0 || slices.Contains(on, s.On) {
				p.Nearest = append(p.Nearest, s.Name)
			}
		}
		return nil, p
	}
	q := &why.Question{Seen: heard[0].ID}
	given := map[string]bool{}
	for i, a := range answers {
		field := fmt.Sprintf("answers[%d]", i)
		x := whyTest(a.Test)
		switch {
		case x == nil:
			return nil, problem.Unfit("no-such-test", "There is no test %q.", a.Test).At(field + ".test")
		case given[x.ID]:
			return nil, problem.Unfit("twice", "Test %q is answered twice: take one answer back first.", a.Test).At(field)
		}
		given[x.ID] = true
		yes, ok := shown(x, a.Shown)
		if !ok {
			return nil, problem.Unfit("bad-answer", "%s It is answered by “%s” or “%s”, not %q.", x.Ask, x.Yes, x.No, a.Shown).At(field + ".shown")
		}
		q.Answers = append(q.Answers, why.Answer{Test: x.ID, Yes: yes})
	}
	return q, nil
}

// whyTest is a test by its id, or by what is asked.
func whyTest(name string) *why.Test {
	for i := range why.Shipped().Tests {
		if x := &why.Shipped().Tests[i]; x.ID == name || strings.EqualFold(x.Ask, strings.TrimSpace(name)) {
			return x
		}
	}
	return nil
}

// shown reads an answer: yes, no, or what the test calls them.
func shown(x *why.Test, said string) (yes, ok bool) {
	switch said = strings.ToLower(strings.TrimSuffix(strings.TrimSpace(said), ".")); said {
	case "yes", "true", "y", strings.ToLower(x.Yes):
		return true, true
	case "no", "false", "n", strings.ToLower(x.No):
		return false, true
	}
	return false, false
}

// ChangedFile is a formula file with a change made against what is seen; its notes say so.
func ChangedFile(file *api.FormulaFile, f *formula.Formula, c *why.Change, seen string) *api.FormulaFile {
	changed := c.Apply(f)
	out := *file
	out.Lines, out.Steps = nil, StepFiles(changed.Steps)
	for i := range changed.Lines {
		out.Lines = append(out.Lines, LineFile(&changed.Lines[i]))
	}
	if !c.Use.IsZero() {
		out.Uses.Amount, out.Doses = c.Use.String(), nil
	}
	out.Questions, out.MeasuredPh = nil, api.MeasuredPh{}
	if note := fmt.Sprintf("Against “%s”: %s", seen, c.Says); len([]rune(out.Notes))+len([]rune(note)) < mostNotes {
		out.Notes = strings.TrimSpace(out.Notes + "\n" + note)
	}
	return &out
}

// mostNotes is how long the notes of a formula may be.
const mostNotes = 8000

// WhyFound puts what was found into the words of the contract.
func WhyFound(f *why.Finding) *api.WhyFound {
	out := &api.WhyFound{Seen: f.Seen.ID, Name: f.Seen.Name, Causes: []api.WhyCause{}, Caution: f.Caution, Says: f.Says}
	for i := range f.Causes {
		c := &f.Causes[i]
		one := api.WhyCause{Cause: c.ID, Name: c.Name, Odds: math.Round(c.Odds*1e6) / 1e6, Because: c.Because, But: c.But, Kind: api.WhyCauseKind(c.Kind), Remedy: c.Remedy, Here: c.Here}
		out.FoundHere += c.Here
		if one.Because == nil {
			one.Because = []string{}
		}
		out.Causes = append(out.Causes, one)
	}
	if f.Ask != nil {
		out.Ask = api.WhyTest{Test: f.Ask.ID, Ask: f.Ask.Ask, Trouble: f.Ask.Trouble, Minutes: f.Ask.Minutes, Yes: f.Ask.Yes, No: f.Ask.No}
	}
	return out
}
