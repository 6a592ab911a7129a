package exchange

import (
	"errors"
	"fmt"
	"time"

	"keencrock/api"
	"keencrock/core/formula"
	"keencrock/core/making"
	"keencrock/core/method"
	"keencrock/core/quantity"
)

// StepIn understands a step of a formula that has so many lines. Whatever could not
// be read is reported by its field, and left out.
func StepIn(s api.FormulaStep, lines int, report func(field string, err error)) (formula.Step, bool) {
	kind, err := formula.ParseStepKind(s.Kind)
	if err != nil {
		report("kind", err)
		return formula.Step{}, false
	}
	out := formula.Step{Kind: kind, Text: s.Text, Celsius: s.Celsius, Vessel: s.Vessel, Mould: s.Mould, Pieces: s.Pieces, By: formula.By(s.By), Keep: s.Keep, ByWeight: s.ByWeight}
	out.For, err = quantity.ParseWait(s.For)
	report("for", err)
	out.Stir, err = quantity.ParseWait(s.Stir)
	report("stir", err)
	out.To, err = optionalAmount(s.To)
	report("to", err)
	if _, known := method.FindCheck(s.Check); known || s.Check == "" {
		out.Check = s.Check
	} else {
		report("check", fmt.Errorf("there is no check called %q", s.Check))
	}
	for _, l := range s.Lines {
		if l < lines {
			out.Lines = append(out.Lines, l)
		} else {
			report("lines", fmt.Errorf("there is no line %d", l+1))
		}
	}
	return out, true
}

// stepsIn understands the steps of a formula file.
func stepsIn(file *api.FormulaFile, report func(field string, err error)) []formula.Step {
	if len(file.Steps) > formula.MaxSteps {
		report("steps", errors.New("a formula has at most 60 steps"))
		return nil
	}
	var steps []formula.Step
	for i, s := range file.Steps {
		step, ok := StepIn(s, len(file.Lines), func(field string, err error) { report(fmt.Sprintf("steps[%d].%s", i, field), err) })
		if ok {
			steps = append(steps, step)
		}
	}
	return steps
}

// StepFile is a step as a formula file has it.
func StepFile(s *formula.Step) api.FormulaStep {
	return api.FormulaStep{Kind: string(s.Kind), Text: s.Text, Lines: s.Lines, For: s.For.String(), Celsius: s.Celsius, Vessel: s.Vessel, Stir: s.Stir.String(), Check: s.Check,
		Mould: s.Mould, Pieces: s.Pieces, By: api.FormulaStepBy(s.By), To: s.To.String(), Keep: s.Keep, ByWeight: s.ByWeight}
}

// StepFiles are steps as a formula file has them.
func StepFiles(steps []formula.Step) []api.FormulaStep {
	out := make([]api.FormulaStep, len(steps))
	for i := range steps {
		out[i] = StepFile(&steps[i])
	}
	return out
}

// Check is a check in the words of the contract; nothing for one that is not known.
func Check(id string) api.StepCheck {
	c, known := method.FindCheck(id)
	if !known {
		return api.StepCheck{}
	}
	out := api.StepCheck{Id: c.ID, Question: c.Question, Good: c.Good, Answers: make([]api.CheckAnswer, len(c.Answers))}
	for i, a := range c.Answers {
		out.Answers[i] = api.CheckAnswer{Id: a.ID, Text: a.Text, Good: a.Good, Advice: a.Advice, Label: a.Label}
	}
	return out
}

// Stage is where a step is done, in the words of the contract.
func Stage(s formula.Stage) api.StepKindStage {
	return [...]api.StepKindStage{api.StepKindStageScale, api.StepKindStageBench, api.StepKindStageRack, api.StepKindStageFilling}[s]
}

// Due is what waits to be done to a batch, in the words of the contract.
func Due(due []making.Due, now time.Time) []api.BatchDue {
	out := make([]api.BatchDue, len(due))
	for i, d := range due {
		out[i] = api.BatchDue{Kind: api.BatchDueKind(d.Kind), What: d.What, Step: d.Step, At: d.At, Late: d.At.Before(now) && d.Kind.IsPressing()}
	}
	return out
}
