package crock

import (
	"context"

	"keencrock/api"
	"keencrock/core/assess"
	"keencrock/core/formula"
	"keencrock/core/why"
	"keencrock/internal/exchange"
	"keencrock/internal/tenant"
)

// Seen lists what may be seen to go wrong.
func (s *Service) Seen(ctx context.Context) ([]api.WhySeen, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	var out []api.WhySeen
	for _, one := range why.Shipped().Seen {
		out = append(out, api.WhySeen{Seen: one.ID, Name: one.Name, On: one.On})
	}
	return out, nil
}

// Why says why something went wrong, by what is known of the good, its water and dose, and by
// what was answered. Nothing is kept.
func (s *Service) Why(ctx context.Context, in *api.WhyAsked) (*api.WhyFound, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	tx := s.Store.Read(ctx)
	set, err := s.Settings(tx)
	if err != nil {
		return nil, err
	}
	asked := tenant.AskedWhy{Hardness: in.Hardness, Dose: in.Dose}
	var on []string
	if len(in.File.Lines) > 0 {
		asked.Formula, _ = exchange.ToFormula(set.InMeasures(&in.File))
		on = why.SeenOn(asked.Formula.Kind)
	}
	u, err := s.WhyUsed(tx, set, asked)
	if err != nil {
		return nil, err
	}
	q, err := exchange.WhyQuestion(in.Seen, in.Answers, on...)
	if err != nil {
		return nil, err
	}
	q.Facts = u.Facts()
	if q.Found, err = tx.CountFoundCauses(q.Seen); err != nil {
		return nil, err
	}
	found, err := why.Shipped().Find(*q)
	if err != nil {
		return nil, err
	}
	out := exchange.WhyFound(found)
	if u.Formula == nil {
		return out, nil
	}
	var costs assess.Options
	if priced, err := tenant.SeesPrices(ctx, tx); err != nil {
		return nil, err
	} else if priced {
		if costs.Prices, err = prices(tx, set, set.ItemsOf(&in.File)); err != nil {
			return nil, err
		}
	}
	var before *assess.Assessment // once, where anything can be changed
	for i, change := range u.Changes(found) {
		if change == nil {
			continue
		}
		if before == nil {
			before = assessedInUse(u, u.Formula, costs)
		}
		out.Causes[i].Change = changed(u, before, &in.File, change, found.Seen.Name, costs)
	}
	return out, nil
}

// mostDifferences of a change are told.
const mostDifferences = 5

// assessedInUse is a formula in its water, at the dose that is taken.
func assessedInUse(u *why.Used, f *formula.Formula, o assess.Options) *assess.Assessment {
	used := *u
	used.Formula = f
	var around why.Around
	water := used.InUse(formula.Resolve(f, u.Library, u.Tools), &around)
	o.Workshop, o.Water = u.Tools, &water
	return assess.Formula(f, u.Library, o)
}

// changed is what a change makes of a formula, with what it does to its readings.
func changed(u *why.Used, before *assess.Assessment, file *api.FormulaFile, change *why.Change, seen string, o assess.Options) api.WhyChange {
	out := api.WhyChange{Says: change.Says, File: *exchange.ChangedFile(file, u.Formula, change, seen), Differences: []api.Difference{}, Cautions: []api.Caution{}}
	after := assessedInUse(u, change.Apply(u.Formula), o)
	for _, d := range exchange.Differences(assess.Compare(before, after)) {
		if d.Matters > 0.05 && len(out.Differences) < mostDifferences {
			out.Differences = append(out.Differences, d)
		}
	}
	was := map[string]bool{}
	for _, c := range before.Cautions {
		was[c.Code] = true
	}
	for _, c := range exchange.Cautions(after.Cautions) {
		if !was[c.Code] {
			out.Cautions = append(out.Cautions, c)
		}
	}
	return out
}
