package bench

import (
	"context"
	"fmt"
	"math"
	"strings"
	"time"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/curing"
	"keencrock/core/formula"
	"keencrock/core/making"
	"keencrock/core/material"
	"keencrock/core/method"
	"keencrock/core/quantity"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// Act lets something of its steps happen to a batch, now or earlier.
func (s *Service) Act(ctx context.Context, id uuid.UUID, in api.BatchAct) (*api.Batch, error) {
	return s.change(ctx, id, func(tx *store.Tx, b *tenant.Batch, a tenant.Actor) error {
		e := making.Happening(making.EventKind(in.Kind))
		e.Grams, e.Count, e.Seconds, e.Text, e.Answer, e.At = in.Grams, float64(in.Count), in.Seconds, strings.TrimSpace(in.Text), in.Answer, in.At
		if in.Step != nil {
			e.Step = *in.Step
		} else if step, at := b.Step(); at {
			e.Step = step
		}
		if in.Event > 0 {
			if all := b.Events(); in.Event <= len(all) {
				e.Corrects = all[in.Event-1].ID
			}
		}
		if err := s.checkTime(b, e.At); err != nil {
			return err
		}
		if e.Kind == making.Broke && e.Text == "" {
			return problem.Unfit("bad-value", "Say what happened to them.").At("text")
		}
		if err := s.record(tx, b, a, e, uuid.Nil); err != nil {
			return err
		}
		if was := b.Event(e.Corrects); e.Kind == making.Undone && was != nil && was.Kind == making.Pictured {
			return s.dropPicture(tx, was)
		}
		return nil
	})
}

// checkTime refuses a time that is still to come, or before the batch began.
func (s *Service) checkTime(b *tenant.Batch, at time.Time) error {
	switch {
	case at.IsZero():
		return nil
	case at.After(s.Now().Add(time.Minute)):
		return problem.Unfit("bad-value", "That is still to come: say when it was.").At("at")
	case at.Before(b.Row.StartedAt):
		return problem.Unfit("bad-value", "Batch %s was begun only after that.", b.Code).At("at")
	}
	return nil
}

// showSteps puts the steps of a batch into the words of the contract, and what is
// due of it.
func (s *Service) showSteps(out *api.Batch, b *tenant.Batch) {
	out.Now = s.Now()
	seq := map[int64]int{}
	for i, e := range b.Events() {
		seq[e.ID] = i + 1
	}
	here, open := b.Step()
	out.Steps = make([]api.BatchStep, len(b.Steps))
	for i := range b.Steps {
		out.Steps[i] = showStep(b, i, open && i == here && b.State.IsOpen(), seq)
	}
	if open && b.State.IsOpen() {
		out.Step = &here
	}
	out.Timers = []api.BatchTimer{}
	for _, t := range b.Timers() {
		out.Timers = append(out.Timers, api.BatchTimer{Event: seq[t.ID], Step: t.Step, Name: stepName(b, t.Step), Set: t.Set, Ends: t.Ends})
	}
	out.Due = exchange.Due(b.Due(out.Now), out.Now)
	out.Pieces, out.PackedG = b.Pieces(), b.PackedG()
	if b.State.IsOpen() {
		out.LikelyG = b.LikelyG(b.Row.Loss)
	}
	out.Labels, out.With = b.Labels(), b.With()
	if b.PackedG() > 0 || b.State == making.Finished {
		out.Outcome = outcome(b)
	}
}

// stepName is a step as a maker says it.
func stepName(b *tenant.Batch, step int) string { return b.Steps[step].Kind.Info().Name }

func showStep(b *tenant.Batch, i int, here bool, seq map[int64]int) api.BatchStep {
	step := &b.Steps[i]
	file := exchange.StepFile(step)
	out := api.BatchStep{Step: i, Kind: file.Kind, Name: stepName(b, i), Stage: api.BatchStepStage(exchange.Stage(step.Kind.Info().Stage)), Status: api.BatchStepStatusWaiting,
		Text: file.Text, Lines: append([]int{}, step.Lines...), For: file.For, Seconds: step.For.Low.Seconds(), Celsius: file.Celsius, Vessel: file.Vessel, Stir: file.Stir,
		Check: remedies(b, exchange.Check(step.Check)), Mould: file.Mould, Pieces: file.Pieces, By: string(file.By), To: file.To, Keep: file.Keep, ByWeight: file.ByWeight,
		Since: b.Since(i), Looks: making.Looks(step.Kind), Stirred: step.IsStirred(), WeighedIn: step.IsWeighedIn()}
	if step.Kind == formula.Press && out.Pieces == 0 {
		out.Pieces = int(b.By.Pieces)
	}
	if step.For.Low > 0 {
		out.Waits = append(out.Waits, waitOf(step.For.Low))
	}
	if step.For.High > step.For.Low {
		out.Waits = append(out.Waits, waitOf(step.For.High))
	}
	closed, by := b.Closed(i)
	switch {
	case here:
		out.Status = api.BatchStepStatusHere
		out.ReadyFrom, out.ReadyTo = b.ReadyAt(i)
	case by && closed.Kind == making.StepPassed:
		out.Status = api.BatchStepStatusPassed
	case b.IsStepClosed(i):
		out.Status = api.BatchStepStatusDone
	}
	if by {
		out.Closed, out.ClosedBy, out.Event = closed.At, closed.By, seq[closed.ID]
	}
	for _, line := range b.SlowlyAt(i) {
		out.Budgets = append(out.Budgets, budget(b, line, step.By))
	}
	if lost, weighed := b.PotLostG(i); weighed && b.IsBakedAt(i) {
		soda := 0.0
		for _, s := range b.InBowl() {
			if m, err := b.Set.Materials.Find(b.Lines[s.Line].Item); err == nil && m.Is(material.Bicarbonate) {
				soda += s.Grams
			}
		}
		out.BakedShare = material.BakedShare(soda, lost)
		out.Baked = out.BakedShare > material.BakedEnough
	}
	if weighings, f := b.DryingAt(i); len(weighings) > 0 {
		out.Drying = drying(weighings, f)
	}
	return out
}

// waitOf is a time that a timer can be set to.
func waitOf(d time.Duration) api.StepWait {
	return api.StepWait{Says: quantity.Wait{Low: d, High: d}.String(), Seconds: d.Seconds()}
}

// budget is how far a line that is added slowly has come.
func budget(b *tenant.Batch, line int, by formula.By) api.Budget {
	have := b.BudgetOf(line)
	l := &b.Lines[line]
	out := api.Budget{Line: line, Name: l.Name, UsedG: have.UsedG, TargetG: have.TargetG, ShareOfDry: have.ShareOfDry}
	m, err := b.Set.Materials.Find(l.Item)
	out.Each, out.EachG = method.Dose(by, m, b.Set.Tools().DropML.Value)
	if err == nil && m.Does("acid") && have.TargetG > 0 {
		out.GasSpent = b.Assessed.SpentInBowl * min(have.UsedG/have.TargetG, 5)
	}
	return out
}

// remedies are the answers to a check with what is added then, by what is in the
// batch: its binder, or the powder there is most of.
func remedies(b *tenant.Batch, check api.StepCheck) api.StepCheck {
	c, known := method.FindCheck(check.Id)
	if !known {
		return check
	}
	in, massG := make([]*material.Material, len(b.By.Lines)), make([]float64, len(b.By.Lines))
	for i, l := range b.By.Lines {
		massG[i] = l.TargetG
		if m, err := b.Set.Materials.Find(l.Item); err == nil {
			in[i] = m
		}
	}
	for i, a := range c.Answers {
		if a.Remedy.IsNothing() {
			continue
		}
		if line := a.Remedy.Of(in, massG); line >= 0 {
			l := &b.Lines[line]
			check.Answers[i].Remedy = api.Remedy{Material: l.Item, Name: l.Name, Amount: a.Remedy.Amount.String()}
		} else if m, err := b.Set.Materials.Find(a.Remedy.Material); err == nil {
			check.Answers[i].Remedy = api.Remedy{Material: m.ID, Name: m.Name, Amount: a.Remedy.Amount.String()}
		}
	}
	return check
}

// curvePoints is how many points a drying curve is drawn by.
const curvePoints = 40

// drying is how what dries goes on, in the words of the contract.
func drying(weighings []curing.Weighing, f curing.Forecast) api.Drying {
	out := api.Drying{Verdict: api.DryingVerdict(f.State.Verdict()), Says: f.State.Advice(), Weighings: make([]api.MassAt, len(weighings)), Curve: []api.MassAt{}}
	for i, w := range weighings {
		out.Weighings[i] = api.MassAt{At: w.At, Grams: w.MassG}
	}
	switch f.State {
	case curing.TooFew:
		out.Says = "Weigh it again later: two weighings say when it is dry where the water in it is known, three where it is not."
	case curing.Dry:
		out.Says = "It is dry: within half a per cent of its end."
	}
	if f.EndG.IsZero() || f.Ready.IsZero() {
		return out
	}
	out.EndG = exchange.Range(f.EndG)
	if f.State == curing.Stuck {
		return out
	}
	out.Ready, out.ReadyEarly, out.ReadyLate = f.Ready, f.ReadyEarly, f.ReadyLate
	first, last := weighings[0].At, f.ReadyLate
	if end := weighings[len(weighings)-1].At; end.After(last) {
		last = end
	}
	if most := first.Add(3 * f.Ready.Sub(first)); last.After(most) && f.Ready.After(first) {
		last = most
	}
	for i := range curvePoints + 1 {
		at := first.Add(time.Duration(float64(last.Sub(first)) * float64(i) / curvePoints))
		out.Curve = append(out.Curve, api.MassAt{At: at, Grams: f.Curve(at)})
	}
	return out
}

// outcome is what came of a batch, with what is to be said of it.
func outcome(b *tenant.Batch) api.Outcome {
	o := b.Outcome(b.Row.PlannedG * (1 - b.Row.Loss))
	out := api.Outcome{WeighedG: o.WeighedG, ExpectedG: o.ExpectedG, PackedG: o.PackedG, Jars: o.Jars, Pieces: o.Pieces, Losses: make([]api.Loss, len(o.Losses))}
	var why []string
	for i, l := range o.Losses {
		out.Losses[i] = api.Loss{Name: l.Name, Grams: l.Grams}
		if l.Step != making.NoStep {
			out.Losses[i].Step = &l.Step
		}
		if l.Grams > 0 {
			why = append(why, fmt.Sprintf("%s %s", quantity.FormatGrams(l.Grams, 1), l.Name))
		}
	}
	if o.PackedG <= 0 || o.ExpectedG <= 0 {
		return out
	}
	off := 100 * (o.PackedG/o.ExpectedG - 1)
	against := "as was expected"
	if math.Abs(off) >= 0.5 {
		against = fmt.Sprintf("%+.0f %% against what was expected", off)
	}
	out.Says = fmt.Sprintf("%s came out of %s that went in, %s.", quantity.FormatGrams(o.PackedG, 1), quantity.FormatGrams(o.WeighedG, 1), against)
	if len(why) > 0 {
		out.Says += " " + strings.Join(why, ", ") + "."
	}
	return out
}
