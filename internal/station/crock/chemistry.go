package crock

import (
	"context"
	"encoding/json"
	"errors"
	"slices"
	"strings"

	"keencrock/api"
	"keencrock/core/assess"
	"keencrock/core/formula"
	"keencrock/core/quantity"
	"keencrock/core/solution"
	"keencrock/core/stock"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// InWater is the water a formula is asked about, in place of the workshop's.
type InWater struct {
	Strength string
	Hardness string
	Celsius  float64
}

// waterOf is the workshop's water with what was asked for in its place.
func waterOf(set *tenant.Settings, in InWater) (*assess.Water, error) {
	w := set.Water()
	w.Strength, w.Celsius = in.Strength, in.Celsius
	if in.Hardness == "" {
		return w, nil
	}
	var err error
	if w.Hardness, err = quantity.ParseHardness(in.Hardness); err != nil {
		p := exchange.FieldProblem("hardness", err)
		return nil, &p
	}
	return w, nil
}

// worked is a formula worked out in its water, with the prices of some
// materials.
type worked struct {
	set      *tenant.Settings
	tx       *store.Tx
	assessed *assess.Assessment
}

// work works a whole formula out; one with problems is refused.
func (s *Service) work(ctx context.Context, file *api.FormulaFile, in InWater) (*worked, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	w := &worked{tx: s.Store.Read(ctx)}
	var err error
	if w.set, err = s.Settings(w.tx); err != nil {
		return nil, err
	}
	water, err := waterOf(w.set, in)
	if err != nil {
		return nil, err
	}
	f, unread := exchange.ToFormula(w.set.InMeasures(file))
	if len(unread) > 0 {
		return nil, problem.UnfitAll("bad-formula", unread[0].Detail, unread)
	}
	w.assessed = assess.Formula(f, w.set.Materials, assess.Options{Workshop: w.set.Tools(), Water: water})
	r := w.assessed.Resolved
	for i := range r.Questions {
		if q := &r.Questions[i]; q.Holds() {
			return nil, problem.Unfit("bad-formula", "The formula asks something first: %s.", strings.TrimSuffix(q.Text, "."))
		}
	}
	if w.assessed.SolutionErr != nil {
		p := exchange.FieldProblem("use", w.assessed.SolutionErr)
		return nil, &p
	}
	if w.assessed.Solution == nil {
		return nil, problem.Unfit("no-lines", "There is nothing in the formula yet.")
	}
	return w, nil
}

// Compare sets two formulas side by side in the same water.
func (s *Service) Compare(ctx context.Context, a, b *api.FormulaFile, in InWater) (*api.Comparison, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	tx := s.Store.Read(ctx)
	set, err := s.Settings(tx)
	if err != nil {
		return nil, err
	}
	water, err := waterOf(set, in)
	if err != nil {
		return nil, err
	}
	prices, err := prices(tx, set, append(set.ItemsOf(a), set.ItemsOf(b)...))
	if err != nil {
		return nil, err
	}
	out := &api.Comparison{Currency: set.Workshop.Currency}
	var assessed [2]*assess.Assessment
	for i, side := range []struct {
		file *api.FormulaFile
		into *api.Assessment
	}{{a, &out.A}, {b, &out.B}} {
		f, unread := exchange.ToFormula(set.InMeasures(side.file))
		assessed[i] = assess.Formula(f, set.Materials, assess.Options{Workshop: set.Tools(), Prices: prices, Water: water})
		*side.into = *exchange.Assessment(side.file.Name, assessed[i], unread, set.Materials)
	}
	out.Differences = exchange.Differences(assess.Compare(assessed[0], assessed[1]))
	priced, err := tenant.SeesPrices(ctx, tx)
	if !priced {
		out.Differences = slices.DeleteFunc(out.Differences, func(d api.Difference) bool { return strings.HasPrefix(d.Code, "cost-") })
	}
	return out, err
}

// Map works a reading out over two amounts.
func (s *Service) Map(ctx context.Context, q api.WhatIf, in InWater) (*api.ReadingMap, error) {
	w, err := s.work(ctx, &q.File, in)
	if err != nil {
		return nil, err
	}
	r := w.assessed.Resolved
	axis := func(a api.SweptAmount) solution.Axis {
		return solution.Axis{Line: a.Line, FromG: a.FromG, ToG: a.ToG, Steps: a.Steps}
	}
	values, err := solution.Sweep(ctx, r, w.assessed.Solution.Use, solution.Reading(q.Reading), axis(q.X), axis(q.Y))
	switch {
	case ctx.Err() != nil || errors.Is(err, solution.ErrFailed):
		return nil, err
	case err != nil:
		return nil, problem.Unfit("bad-value", "%s", exchange.Sentence(err))
	}
	out := exchange.MapOf(solution.Reading(q.Reading), values)
	out.Here = api.MapPoint{Name: q.File.Name, XG: r.Lines[q.X.Line].MassG.Value, YG: r.Lines[q.Y.Line].MassG.Value}
	out.Schools, err = schools(w, q)
	return out, err
}

// schools places the workshop's other formulas of the same kind on a map, sized
// to the same whole.
func schools(w *worked, q api.WhatIf) ([]api.MapPoint, error) {
	points := []api.MapPoint{}
	r := w.assessed.Resolved
	rows, err := w.tx.NewestFiles(string(r.Formula.Kind))
	if err != nil {
		return nil, err
	}
	x, y := r.Lines[q.X.Line].Material.ID, r.Lines[q.Y.Line].Material.ID
	for _, row := range rows {
		var file api.FormulaFile
		if err := json.Unmarshal(row.File, &file); err != nil {
			return nil, err
		}
		if file.Name == q.File.Name {
			continue
		}
		f, unread := exchange.ToFormula(&file)
		other := formula.Resolve(f, w.set.Materials, w.set.Tools())
		if len(unread) > 0 || other.Held() != nil || other.TotalG.Value == 0 {
			continue
		}
		p := api.MapPoint{Name: file.Name}
		for _, l := range other.Lines {
			if l.Material == nil {
				continue
			}
			g := l.MassG.Value * r.TotalG.Value / other.TotalG.Value
			switch l.Material.ID {
			case x:
				p.XG += g
			case y:
				p.YG += g
			}
		}
		if p.XG+p.YG > 0 {
			points = append(points, p)
		}
	}
	return points, nil
}

// stockG is what can be drawn on, in grams by material.
func stockG(w *worked) (map[string]float64, error) {
	lots, err := w.tx.Stock()
	return stock.UsableByItem(lots, w.set.Today), err
}
