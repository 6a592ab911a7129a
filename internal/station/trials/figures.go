package trials

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/assess"
	"keencrock/core/formula"
	"keencrock/core/learned"
	"keencrock/core/making"
	"keencrock/core/quantity"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// Figures lists the figures of the workshop's own.
func (s *Service) Figures(ctx context.Context) ([]api.OwnFigure, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	var out []api.OwnFigure
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) (err error) {
		out, err = s.figures(tx)
		return err
	})
	return out, err
}

func (s *Service) figures(tx *store.Tx) ([]api.OwnFigure, error) {
	set, err := s.Settings(tx)
	if err != nil {
		return nil, err
	}
	people, err := tx.PeopleNames()
	if err != nil {
		return nil, err
	}
	out := []api.OwnFigure{}
	for key, f := range set.Learned {
		out = append(out, figureOut(set, key, &f, people))
	}
	dried, err := tx.FormulasDried()
	if err != nil {
		return nil, err
	}
	names, err := tx.FormulaNames()
	if err != nil {
		return nil, err
	}
	drying, err := set.Drying(tx, dried...)
	if err != nil {
		return nil, err
	}
	for id, f := range drying {
		one := figureOut(set, learned.Key{Kind: learned.Drying, Of: id.String()}, &f, nil)
		one.Name = names[id]
		out = append(out, one)
	}
	if out, err = keepings(tx, out, names); err != nil {
		return nil, err
	}
	steps, err := set.StepTimes(tx)
	if err != nil {
		return nil, err
	}
	for kind, f := range steps {
		out = append(out, figureOut(set, learned.Key{Kind: learned.AtStep, Of: string(kind)}, &f, nil))
	}
	counted, err := counted(tx, slices.Collect(maps.Keys(names)), names)
	if err != nil {
		return nil, err
	}
	out = append(out, counted...)
	rank := []api.OwnFigureKind{api.FigureDensity, api.FigurePiece, api.FigureSize, api.FigureDrying, api.FigureKeeping, api.FigureLoads, api.FigureHands, api.FigureStep}
	slices.SortFunc(out, func(a, b api.OwnFigure) int {
		return cmp.Or(cmp.Compare(slices.Index(rank, a.Kind), slices.Index(rank, b.Kind)), strings.Compare(strings.ToLower(a.Name), strings.ToLower(b.Name)), strings.Compare(a.Of, b.Of))
	})
	return out, nil
}

// keepings adds how long goods were really seen to keep, where a jar went before its date.
func keepings(tx *store.Tx, out []api.OwnFigure, names map[uuid.UUID]string) ([]api.OwnFigure, error) {
	seen, err := tenant.SeenKeepings(tx)
	for id, k := range seen {
		one := api.OwnFigure{Kind: api.FigureKeeping, Of: id.String(), Name: names[id], What: "keeps at most", Unit: "days", Value: float64(k.Days), Low: float64(k.Days), High: float64(k.Days), Count: k.Went, Share: 1, AsUsual: k.AsUsual, Measured: []api.OwnMeasuring{},
			Says: fmt.Sprintf("%s went before its date: new batches of it are dated %d days at most. Keeping is only ever shortened, and by the worst that was seen: mould does not average.", jarsOf(k.Went, k.Code), k.Days)}
		if k.AsUsual {
			one.Says = fmt.Sprintf("%s went before its date, and that shortens nothing: new batches are dated by what they are made of.", jarsOf(k.Went, k.Code))
		}
		out = append(out, one)
	}
	return out, err
}

func jarsOf(n int, code string) string {
	if n == 1 {
		return "A jar of " + code + " that was kept to be looked at"
	}
	return fmt.Sprintf("Of %d jars that were kept to be looked at, the first of %s,", n, code)
}

// counted are the figures that the batches and the loads give by themselves: nothing is usual
// of them, and they are as they were counted.
func counted(tx *store.Tx, formulas []uuid.UUID, names map[uuid.UUID]string) ([]api.OwnFigure, error) {
	var out []api.OwnFigure
	add := func(kind api.OwnFigureKind, what, unit, says string, of map[uuid.UUID]float64) {
		for id, value := range of {
			if value > 0 && names[id] != "" {
				out = append(out, api.OwnFigure{Kind: kind, Of: id.String(), Name: names[id], What: what, Unit: unit, Value: value, Low: value, High: value, Share: 1, Measured: []api.OwnMeasuring{}, Says: fmt.Sprintf(says, value)})
			}
		}
	}
	hands, err := tx.UsualHandsOf(formulas...)
	if err != nil {
		return nil, err
	}
	loads, err := tx.LoadsCountedOf(formulas...)
	if err != nil {
		return nil, err
	}
	add(api.FigureHands, "hands at a batch", "min", "%.0f minutes of hands a batch: the middle of what the logs of its batches say, or who made them. The plan and the costs go by it.", hands)
	add(api.FigureLoads, "a load takes", "g", "A load took %.1f g, by the loads that were counted. Doses and costs a wash go by it.", loads)
	return out, nil
}

// figureOut puts a figure into the words of the contract.
func figureOut(set *tenant.Settings, key learned.Key, f *tenant.LearnedFigure, people map[uuid.UUID]string) api.OwnFigure {
	out := api.OwnFigure{Kind: api.OwnFigureKind(key.Kind), Of: key.Of, Count: f.Count, Share: f.Share, Apart: f.Apart && f.Counts(), AsUsual: f.AsUsual, CanMeasure: key.Kind != learned.Drying && key.Kind != learned.AtStep, Measured: []api.OwnMeasuring{}}
	out.Name, out.What, out.Unit = named(set, key)
	used := f.Range
	if !f.Counts() {
		used = f.Usual
	}
	out.Value, out.Low, out.High = used.Value, used.Low, used.High
	if !f.Usual.IsZero() {
		out.Usual = api.FigureBand{Value: f.Usual.Value, Low: f.Usual.Low, High: f.Usual.High}
	}
	if f.Said > 0 {
		out.Measured = append(out.Measured, api.OwnMeasuring{Said: f.SaidAs, Value: f.Said, Counts: true})
	}
	for _, m := range f.Measured {
		out.Measured = append(out.Measured, api.OwnMeasuring{Id: m.ID, Said: m.Said, Value: m.Value, At: m.MeasuredAt, By: people[m.PersonID], Counts: m.TakenBackAt == nil})
	}
	out.Says = says(key, f, out.Unit)
	return out
}

// named is what a figure is of: its name, what is measured of it and in which unit.
func named(set *tenant.Settings, key learned.Key) (name, what, unit string) {
	switch key.Kind {
	case learned.Density:
		return set.NameOf(key.Of), "a millilitre weighs", "g/ml"
	case learned.Piece:
		return set.NameOf(key.Of), "one piece weighs", "g"
	case learned.Drying:
		return key.Of, "dries in", "h"
	case learned.AtStep:
		return formula.StepKind(key.Of).Info().Name, "takes hands", "min"
	}
	if u, ok := quantity.ParseUnit(key.Of); ok && u.Kind() == quantity.Mass {
		return key.Of, "one weighs", "g"
	}
	return key.Of, "one holds", "ml"
}

// says says what a figure was made of.
func says(key learned.Key, f *tenant.LearnedFigure, unit string) string {
	one, many := "One measuring", "measurings"
	switch key.Kind {
	case learned.Drying:
		one, many = "One batch that was weighed until it was dry", "batches that were weighed until they were dry"
	case learned.AtStep:
		one, many = "One such step in the logs", "such steps in the logs of batches"
	}
	n := one
	if f.Count != 1 {
		n = fmt.Sprintf("%d %s", f.Count, many)
	}
	usual := "nothing is usual of it"
	if !f.Usual.IsZero() {
		usual = fmt.Sprintf("%s %s is usual", band(f.Usual), unit)
	}
	switch {
	case f.Count == 0:
		return fmt.Sprintf("All measurings were taken back: %s.", usual)
	case f.AsUsual:
		return fmt.Sprintf("%s, not used: %s, and that stands.", n, usual)
	case f.IsExact():
		return fmt.Sprintf("As it was said; %s. Measure it, and it gets a band.", usual)
	case f.Usual.IsZero():
		return fmt.Sprintf("%s; %s, so that it stands by itself.", n, usual)
	case f.Apart:
		return fmt.Sprintf("%s, far from what is usual (%s): is it the same thing, and level? It counts for %.0f %% of the figure.", n, usual, 100*f.Share)
	}
	return fmt.Sprintf("%s; %s. What was measured here counts for %.0f %% of the figure.", n, usual, 100*f.Share)
}

// band is a range in words.
func band(r quantity.Range) string {
	if r.IsExact() {
		return short(r.Value)
	}
	return short(r.Low) + "–" + short(r.High)
}

// short is a number to three figures.
func short(v float64) string {
	if v >= 100 {
		return fmt.Sprintf("%.0f", v)
	}
	return quantity.FormatFigures(v, 3)
}

// Measure keeps a measuring as it was said.
func (s *Service) Measure(ctx context.Context, said string) (*api.OwnFigure, error) {
	return s.changeFigure(ctx, func(tx *store.Tx, a tenant.Actor) (learned.Key, error) {
		set, err := s.Settings(tx)
		if err != nil {
			return learned.Key{}, err
		}
		return set.TakeMeasuring(tx, a, strings.TrimSpace(said), "said", s.Now())
	})
}

// CountMeasuring takes a measuring back, or counts it again.
func (s *Service) CountMeasuring(ctx context.Context, id uuid.UUID, counts bool) (*api.OwnFigure, error) {
	return s.changeFigure(ctx, func(tx *store.Tx, _ tenant.Actor) (learned.Key, error) {
		row, err := tx.Measuring(id)
		if err != nil {
			return learned.Key{}, tenant.Explain(err, "measuring")
		}
		at := s.Now()
		takenBack := &at
		if counts {
			takenBack = nil
		}
		return learned.Key{Kind: learned.Kind(row.Kind), Of: row.Subject}, tx.CountMeasuring(id, takenBack)
	})
}

// UseFigure goes back to what is usual, or learns from what was measured again.
func (s *Service) UseFigure(ctx context.Context, in *api.FigureUse) (*api.OwnFigure, error) {
	return s.changeFigure(ctx, func(tx *store.Tx, a tenant.Actor) (learned.Key, error) {
		key := learned.Key{Kind: learned.Kind(in.Kind), Of: in.Of}
		all, err := s.figures(tx)
		if err != nil {
			return key, err
		}
		switch {
		case !slices.ContainsFunc(all, func(f api.OwnFigure) bool { return f.Kind == in.Kind && f.Of == in.Of }):
			return key, problem.Missing("not-found", "Nothing was measured of that here.")
		case in.Kind == api.FigureHands || in.Kind == api.FigureLoads:
			return key, problem.Unfit("bad-value", "Nothing is usual of that: it is as it was counted.").At("kind")
		case in.AsUsual:
			return key, tx.LeaveAsUsual(&store.FigureAsUsual{Kind: string(in.Kind), Subject: in.Of, PersonID: a.Person, Since: s.Now()})
		}
		return key, tx.LearnAgain(string(key.Kind), key.Of)
	})
}

// changeFigure changes something of a figure and answers how it stands then.
func (s *Service) changeFigure(ctx context.Context, change func(*store.Tx, tenant.Actor) (learned.Key, error)) (*api.OwnFigure, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	var out *api.OwnFigure
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		key, err := change(tx, a)
		if err != nil {
			return err
		}
		all, err := s.figures(tx)
		if err != nil {
			return err
		}
		at := slices.IndexFunc(all, func(f api.OwnFigure) bool { return f.Kind == api.OwnFigureKind(key.Kind) && f.Of == key.Of })
		if at < 0 {
			return problem.Missing("not-found", "Nothing was measured of that here.")
		}
		out = &all[at]
		return tx.Announce("shelf", a.Workshop)
	})
	return out, err
}

// mostChanges formulas are looked through whole; the others only weigh differently.
const mostChanges = 8

// FigureChanges says what a figure changes in the readings of the formulas: each that weighs
// otherwise with it, and its pH where that moves.
func (s *Service) FigureChanges(ctx context.Context, kind api.OwnFigureKind, of string) ([]api.FigureChange, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	if kind == api.FigureStep {
		return s.stepChanges(ctx, formula.StepKind(of))
	}
	out := []api.FigureChange{}
	key := learned.Key{Kind: learned.Kind(kind), Of: of}
	var set *tenant.Settings
	var files []store.FormulaVersion
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) (err error) {
		if set, err = s.Settings(tx); err != nil {
			return err
		}
		files, err = tx.NewestFiles("")
		return err
	})
	if err != nil {
		return nil, err
	}
	without := set.WithoutFigure(key)
	if without == set {
		return out, nil
	}
	found := 0
	for i := range files {
		var file api.FormulaFile
		if err := json.Unmarshal(files[i].File, &file); err != nil {
			return nil, fmt.Errorf("formula %s: %w", files[i].FormulaID, err)
		}
		f, _ := exchange.ToFormula(&file)
		before, after := formula.Resolve(f, without.Materials, without.Tools()), formula.Resolve(f, set.Materials, set.Tools())
		if before.TotalG == after.TotalG {
			continue
		}
		out = append(out, api.FigureChange{Formula: files[i].FormulaID, Name: file.Name, What: "weighs", Before: grams(before.TotalG), After: grams(after.TotalG)})
		if found++; found > mostChanges {
			continue
		}
		if b, a := inUse(f, without), inUse(f, set); b != a {
			out = append(out, api.FigureChange{Formula: files[i].FormulaID, Name: file.Name, What: "pH in use", Before: b, After: a})
		}
	}
	return out, nil
}

// stepChanges says what the minutes of a kind of step change: the hands at the goods whose minutes
// nobody counted whole, which the plan goes by.
func (s *Service) stepChanges(ctx context.Context, kind formula.StepKind) ([]api.FigureChange, error) {
	out := []api.FigureChange{}
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		counted, err := set.StepTimes(tx)
		if err != nil {
			return err
		}
		if f, ok := counted[kind]; !ok || !f.Counts() {
			return nil
		}
		without := maps.Clone(counted)
		delete(without, kind)
		files, err := tx.NewestFiles("")
		if err != nil {
			return err
		}
		ids := make([]uuid.UUID, len(files))
		for i := range files {
			ids[i] = files[i].FormulaID
		}
		whole, err := tx.UsualHandsOf(ids...)
		if err != nil {
			return err
		}
		for i := range files {
			var file api.FormulaFile
			if err := json.Unmarshal(files[i].File, &file); err != nil {
				return fmt.Errorf("formula %s: %w", files[i].FormulaID, err)
			}
			f, _ := exchange.ToFormula(&file)
			if _, known := whole[files[i].FormulaID]; known {
				continue
			}
			before, after := making.HandsBySteps(f.Steps, tenant.MinutesAt(without)), making.HandsBySteps(f.Steps, tenant.MinutesAt(counted))
			if before != after {
				out = append(out, api.FigureChange{Formula: files[i].FormulaID, Name: file.Name, What: "hands at a batch", Before: minutes(before), After: minutes(after)})
			}
		}
		return nil
	})
	return out, err
}

// minutes are minutes with their band, in words.
func minutes(r quantity.Range) string {
	return fmt.Sprintf("%.0f min (%.0f–%.0f)", r.Value, r.Low, r.High)
}

// inUse is the pH of a formula in use, in words; empty where there is none.
func inUse(f *formula.Formula, set *tenant.Settings) string {
	a := assess.Formula(f, set.Materials, assess.Options{Workshop: set.Tools(), Water: set.Water()})
	if a.Solution == nil {
		return ""
	}
	low, high := fmt.Sprintf("%.1f", a.Solution.VentedPH.Low), fmt.Sprintf("%.1f", a.Solution.VentedPH.High)
	if low == high {
		return low
	}
	return low + "–" + high
}

// grams is a mass with its band, in words.
func grams(r quantity.Range) string {
	if r.IsExact() {
		return short(r.Value) + " g"
	}
	return fmt.Sprintf("%s g (%s)", short(r.Value), band(r))
}
