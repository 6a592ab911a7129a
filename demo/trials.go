package demo

import (
	"context"
	"fmt"
	"slices"

	"keencrock/api"
	"keencrock/core/trial"
)

// tried is a trial: two goods, and the marks of each over the pairs.
type tried struct {
	Question string      `json:"question"`
	Measure  string      `json:"measure"`
	Low      string      `json:"low"`
	High     string      `json:"high"`
	Better   string      `json:"better"`
	Same     string      `json:"same"`
	Goods    []string    `json:"goods"`
	Marks    [][]float64 `json:"marks"`
	Pairs    int         `json:"pairs"`
	DaysAgo  int         `json:"days_ago"`
	Open     bool        `json:"open"`   // not ended yet
	Photos   bool        `json:"photos"` // of the first pair
}

// try holds goods against each other as the scenario has it.
func (p *player) try(ctx context.Context, in *tried) error {
	p.at(in.DaysAgo, 10, 0)
	plan := api.NewTrial{Question: in.Question, Measure: in.Measure, LowWord: in.Low, HighWord: in.High, Better: "lower", Same: in.Same, Pairs: max(in.Pairs, len(in.Marks[0]))}
	if in.Better != "" {
		plan.Better = api.NewTrialBetter(in.Better)
	}
	for _, name := range in.Goods {
		plan.Goods = append(plan.Goods, api.TrialGood{Name: name, Formula: p.formulas[name]})
	}
	begun, err := p.trials.Begin(ctx, &plan)
	if err != nil {
		return fmt.Errorf("trial %q: %w", in.Question, err)
	}
	key, err := p.trials.Trial(ctx, begun.Id, true)
	if err != nil {
		return err
	}
	for _, pair := range key.Sheet[:len(in.Marks[0])] {
		for c, code := range pair.Codes {
			for g, name := range in.Goods {
				if code.Good != name {
					continue
				}
				if _, err := p.trials.Mark(ctx, begun.Id, &api.NewMark{Pair: pair.Pair, Code: trial.Code(c), Mark: in.Marks[g][pair.Pair-1]}); err != nil {
					return err
				}
			}
		}
	}
	if in.Photos {
		err := p.photographs(ctx, begun.Id, &key.Sheet[0], func(good string) float64 { return in.Marks[slices.Index(in.Goods, good)][0] / 10 })
		if err != nil {
			return fmt.Errorf("photos of trial %q: %w", in.Question, err)
		}
	}
	if in.Open {
		return nil
	}
	_, err = p.trials.End(ctx, begun.Id)
	return err
}

// causeFound is what was found to be the cause of what went wrong.
type causeFound struct {
	Seen    string `json:"seen"`
	Cause   string `json:"cause"`
	Formula string `json:"formula"`
	Note    string `json:"note"`
	DaysAgo int    `json:"days_ago"`
}

// finds keeps it as the scenario has it.
func (p *player) finds(ctx context.Context, in *causeFound) error {
	p.at(in.DaysAgo, 17, 0)
	_, err := p.trials.KeepFoundCause(ctx, &api.NewFoundCause{Seen: in.Seen, Cause: in.Cause, Formula: p.formulas[in.Formula], Note: in.Note})
	return err
}
