package demo

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"time"

	"github.com/google/uuid"

	"keencrock/api"
)

// inTime is what is told of a batch after its weighing, where it is not only the
// usual.
type inTime struct {
	HoursAgo  float64   `json:"hours_ago"` // it was begun, in place of its day
	StopAt    string    `json:"stop_at"`   // the kind of step it is still at
	WeighIns  []float64 `json:"weigh_ins"` // hours after it came to dry
	TimerMin  float64   `json:"timer_min"` // runs at the step it is at
	StirsAgo  []float64 `json:"stirs_ago"` // days before today
	Broke     int       `json:"broke"`     // pieces, while it dried
	Why       string    `json:"why"`
	KeepG     float64   `json:"keep_g"` // of the first line, strained out
	Bulk      bool      `json:"bulk"`   // onto the shelf, to go into others
	PacksPart int       `json:"packs_part"`
}

// steps gives a formula the steps of its school.
func (p *player) steps(ctx context.Context, file *api.FormulaFile) error {
	ways, err := p.crock.ProposeSteps(ctx, file)
	if err != nil {
		return err
	}
	school, named := p.sc.Schools[file.Name]
	for _, w := range ways {
		if w.School == school || !named && !w.Written {
			file.Version, file.Steps = 3, w.Steps
			return nil
		}
	}
	return fmt.Errorf("formula %s: there is no school %q", file.Name, school)
}

// make makes a batch as far as it has come.
func (p *player) make(ctx context.Context, e batchEntry) (uuid.UUID, error) {
	p.at(e.DaysAgo, 9, 0)
	if h := e.InTime.HoursAgo; h > 0 {
		p.clock = p.today.Add(-time.Duration(h * float64(time.Hour)))
	}
	begun := p.clock
	b, err := p.bench.StartBatch(ctx, api.NewBatch{Formula: p.formulas[e.Formula], Target: api.Target{Containers: e.Containers}})
	if err != nil {
		return uuid.Nil, fmt.Errorf("batch of %s %d days ago: %w", e.Formula, e.DaysAgo, err)
	}
	for weighed := 0; b.NextLine != nil && b.State == api.BatchStateWeighing; weighed++ {
		if e.StopAfterLines > 0 && weighed == e.StopAfterLines {
			return b.Id, nil
		}
		p.pass(4 * time.Minute)
		if b, err = p.weighLine(ctx, b, *b.NextLine); err != nil {
			return b.Id, err
		}
	}
	for _, note := range e.Notes {
		if b, err = p.bench.Note(ctx, b.Id, api.BatchNote{Text: note}); err != nil {
			return b.Id, err
		}
	}
	if e.State == "abandoned" {
		p.pass(time.Hour)
		_, err := p.bench.Abandon(ctx, b.Id, api.Abandon{Discarded: e.Discarded, Reason: e.Reason})
		return b.Id, err
	}
	for b.Step != nil && b.Steps[*b.Step].Kind != "fill" {
		here := b.Steps[*b.Step]
		if b, err = p.through(ctx, b, here, e); err != nil {
			return b.Id, fmt.Errorf("batch %s, step %d: %w", b.Code, here.Step+1, err)
		}
		if here.Kind == e.InTime.StopAt {
			return b.Id, nil
		}
	}
	p.clock = later(p.clock, begun.Add(2*time.Hour))
	p.pass(0)
	return b.Id, p.pack(ctx, b, e)
}

func later(a, b time.Time) time.Time {
	if a.After(b) {
		return a
	}
	return b
}

// through goes through a step as hands do, or into it where the batch is still at it.
func (p *player) through(ctx context.Context, b *api.Batch, s api.BatchStep, e batchEntry) (*api.Batch, error) {
	act := func(a api.BatchAct) (err error) {
		a.Step = &s.Step
		after, err := p.bench.Act(ctx, b.Id, a)
		if err == nil {
			b = after
		}
		return err
	}
	p.weighing++
	miss := math.Sin(float64(p.weighing)) // −1 to 1
	stays := s.Kind == e.InTime.StopAt
	switch s.Stage {
	case api.BatchStepStageRack:
		if err := p.stand(b.WeighedG, s, e, act); err != nil || stays {
			return b, err
		}
	default:
		p.pass(time.Duration(max(120, s.Seconds)) * time.Second)
		for b.NextLine != nil { // what goes in slowly
			var err error
			if b, err = p.weighLine(ctx, b, *b.NextLine); err != nil {
				return b, err
			}
		}
		if s.Kind == "press" {
			pieces := max(1, s.Pieces+int(math.Round(miss)))
			if err := act(api.BatchAct{Kind: "pieces-counted", Count: pieces, Grams: math.Round(b.WeighedG * (0.988 + 0.004*miss))}); err != nil {
				return b, err
			}
		}
		if s.Kind == "strain" {
			if err := p.strain(ctx, b, e, act); err != nil {
				return b, err
			}
		}
	}
	if stays {
		if e.InTime.TimerMin > 0 {
			return b, act(api.BatchAct{Kind: "timer-set", Seconds: 60 * e.InTime.TimerMin})
		}
		return b, nil
	}
	if s.Kind == "check" {
		for _, a := range s.Check.Answers {
			if a.Good {
				return b, act(api.BatchAct{Kind: "checked", Answer: a.Id})
			}
		}
	}
	return b, act(api.BatchAct{Kind: "step-done"})
}

// stand lets a batch stand: weighed in while it dries, stirred, until it is ready or
// today.
func (p *player) stand(inBowlG float64, s api.BatchStep, e batchEntry, act func(api.BatchAct) error) error {
	since := p.clock
	stays := s.Kind == e.InTime.StopAt
	whole := time.Duration(s.Seconds * float64(time.Second))
	weighIns := e.InTime.WeighIns
	if weighIns == nil && s.ByWeight && !stays {
		hours := whole.Hours()
		weighIns = []float64{0, hours / 4, hours / 2, hours}
	}
	massG := 0.0
	for _, h := range weighIns {
		if massG == 0 {
			p.weighing++
			massG = inBowlG * (0.986 + 0.004*math.Sin(float64(p.weighing))) // some sticks to the mould
		}
		// what it loses, and how fast: from memory
		p.clock = since.Add(time.Duration(h * float64(time.Hour)))
		if p.clock.After(p.today) {
			break
		}
		g := math.Round(massG * (0.965 + 0.035*math.Exp(-0.06*h)))
		if err := act(api.BatchAct{Kind: "weighed-in", Grams: g}); err != nil {
			return err
		}
	}
	if e.InTime.Broke > 0 {
		p.clock = since.Add(whole)
		p.pass(0)
		if err := act(api.BatchAct{Kind: "pieces-broke", Count: e.InTime.Broke, Text: e.InTime.Why}); err != nil {
			return err
		}
	}
	for _, ago := range e.InTime.StirsAgo {
		p.clock = p.today.Add(-time.Duration(ago * 24 * float64(time.Hour)))
		if err := act(api.BatchAct{Kind: "stirred"}); err != nil {
			return err
		}
	}
	if !stays {
		p.clock = since.Add(whole + time.Hour)
		p.pass(0)
	}
	return nil
}

// strain weighs what came through a sieve, and keeps what goes round again.
func (p *player) strain(ctx context.Context, b *api.Batch, e batchEntry, act func(api.BatchAct) error) error {
	if e.InTime.KeepG > 0 {
		if _, err := p.bench.KeepBack(ctx, b.Id, api.KeptBack{Line: 0, Grams: e.InTime.KeepG, Where: "freezer"}); err != nil {
			return err
		}
	}
	p.weighing++
	return act(api.BatchAct{Kind: "yield-weighed", Grams: math.Round(b.LikelyG * (0.97 + 0.02*math.Sin(float64(p.weighing))))})
}

// pack fills the jars of a batch, or puts it onto the shelf.
func (p *player) pack(ctx context.Context, b *api.Batch, e batchEntry) error {
	if part := e.InTime.PacksPart; part > 0 {
		jars := cmp.Or(e.Jars, e.Containers.Count)
		_, err := p.bench.Pack(ctx, b.Id, api.Pack{Jars: part, EachG: math.Floor(b.LikelyG / float64(jars))})
		return err
	}
	in := api.Finish{Jars: cmp.Or(e.Jars, e.Containers.Count), Bulk: e.InTime.Bulk}
	if in.Bulk {
		in.Jars = 0
	} else if b.LikelyG > 0 {
		p.weighing++
		in.EachG = math.Floor(b.LikelyG / float64(in.Jars) * (0.994 + 0.005*math.Sin(float64(p.weighing))))
	}
	if _, err := p.bench.Finish(ctx, b.Id, in); err != nil {
		return fmt.Errorf("finish %s: %w", b.Code, err)
	}
	return nil
}
