package workshop

import (
	"context"
	"encoding/json"
	"errors"
	"net/http"
	"slices"
	"time"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/assess"
	"keencrock/core/costing"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/internal/exchange"
	"keencrock/internal/store"
)

// ExportFormula is the newest version of a formula as a file, with what is still
// asked of it.
func (s *Service) ExportFormula(ctx context.Context, id uuid.UUID) (*api.FormulaFile, error) {
	stored, err := s.Formula(ctx, id, 0)
	if err != nil {
		return nil, err
	}
	set, err := s.settings(s.store.Read(ctx))
	if err != nil {
		return nil, err
	}
	file := stored.File
	file.Format, file.Version = exchange.FormulaFormat, exchange.FormulaVersion
	file.Questions = exchange.Assess(&file, set.lib, assess.Options{Workshop: set.tools()}).Questions
	return &file, nil
}

// Kinds lists the kinds of good.
func (s *Service) Kinds() []api.KindInfo {
	out := make([]api.KindInfo, len(formula.Kinds))
	for i, k := range formula.Kinds {
		out[i] = api.KindInfo{Kind: string(k.Kind), Name: k.Name}
	}
	return out
}

// ReadSpoken reads a formula the way a maker says it.
func (s *Service) ReadSpoken(ctx context.Context, text string) ([]api.SpokenLine, error) {
	if _, err := may(ctx, Viewer); err != nil {
		return nil, err
	}
	set, err := s.settings(s.store.Read(ctx))
	if err != nil {
		return nil, err
	}
	return exchange.SpokenLines(formula.ReadTalk(text, set.lib), set.lib), nil
}

// Assess works out a formula against the workshop's own figures and prices.
func (s *Service) Assess(ctx context.Context, file *api.FormulaFile, in InWater) (*api.Assessment, error) {
	if _, err := may(ctx, Viewer); err != nil {
		return nil, err
	}
	tx := s.store.Read(ctx)
	set, err := s.settings(tx)
	if err != nil {
		return nil, err
	}
	prices, err := s.prices(tx, set, materialsOf(file, set.lib))
	if err != nil {
		return nil, err
	}
	water, err := set.asked(in)
	if err != nil {
		return nil, err
	}
	return exchange.Assess(s.inMeasures(file, set), set.lib, assess.Options{Workshop: set.tools(), Prices: prices, Water: water}), nil
}

// prices says what a gram of each material costs: what lies on the shelf at
// what it cost, or the newest delivery where nothing is left.
func (s *Service) prices(tx *store.Tx, set *settings, materials []string) (costing.Prices, error) {
	p := costing.Prices{Currency: set.workshop.Currency, PerGram: map[string]costing.Price{}}
	if len(materials) == 0 {
		return p, nil
	}
	rows, err := tx.StockCosts(materials...)
	if err != nil {
		return p, err
	}
	stock := map[string][]costing.Lot{}
	for _, r := range rows {
		stock[r.Material] = append(stock[r.Material], costing.Lot{OriginalG: r.OriginalG, RemainingG: r.RemainingG, Landed: r.Landed})
	}
	var none []string
	for _, id := range materials {
		if perGram, ok := costing.StockPrice(stock[id]); ok {
			p.PerGram[id] = perGram
		} else if id != unstocked {
			none = append(none, id)
		}
	}
	if len(none) == 0 {
		return p, nil
	}
	last, err := tx.LastPrices(none...)
	for _, l := range last {
		p.PerGram[l.Material] = costing.OnePrice(costing.PerGram(l.Landed, l.OriginalG))
	}
	return p, err
}

// inMeasures gives a file that says no measures the workshop's own.
func (s *Service) inMeasures(file *api.FormulaFile, set *settings) *api.FormulaFile {
	if file.Measures != "" {
		return file
	}
	own := *file
	own.Measures = api.Measures(set.measures.String())
	return &own
}

// materialsOf lists the ids of a file's materials, once each.
func materialsOf(file *api.FormulaFile, lib *material.Library) []string {
	ids := make([]string, 0, len(file.Lines))
	for _, l := range file.Lines {
		if m, err := lib.Find(l.Material); err == nil && !slices.Contains(ids, m.ID) {
			ids = append(ids, m.ID)
		}
	}
	return ids
}

// Formulas lists the formulas by name, or those that were put away.
func (s *Service) Formulas(ctx context.Context, putAway bool) ([]api.FormulaSummary, error) {
	if _, err := may(ctx, Viewer); err != nil {
		return nil, err
	}
	rows, err := s.store.Read(ctx).Formulas(putAway)
	out := make([]api.FormulaSummary, len(rows))
	for i, f := range rows {
		out[i] = api.FormulaSummary{Id: f.ID, Name: f.Name, Kind: f.Kind, KindName: formula.Kind(f.Kind).Info().Name, School: f.School,
			Version: f.Version, Lines: f.Lines, Questions: f.Questions, Changed: f.ChangedAt, LastMade: timeOf(f.LastMade)}
	}
	return out, err
}

// Formula returns a version of a formula, the newest for 0.
func (s *Service) Formula(ctx context.Context, id uuid.UUID, version int) (*api.StoredFormula, error) {
	if _, err := may(ctx, Viewer); err != nil {
		return nil, err
	}
	return storedFormula(s.store.Read(ctx), id, version)
}

func storedFormula(tx *store.Tx, id uuid.UUID, version int) (*api.StoredFormula, error) {
	f, err := tx.Formula(id)
	if err != nil {
		return nil, said(err, "formula")
	}
	if version == 0 {
		version = f.Version
	}
	v, err := tx.FormulaVersion(id, version)
	if err != nil {
		return nil, said(err, "version of the formula")
	}
	out := &api.StoredFormula{Id: id, Version: version, Versions: f.Version, Changed: v.At, By: v.Person, Questions: f.Questions, PutAway: f.HiddenAt != nil}
	return out, json.Unmarshal(v.File, &out.File)
}

// AddFormula keeps a new formula.
func (s *Service) AddFormula(ctx context.Context, file *api.FormulaFile) (*api.StoredFormula, error) {
	a, err := may(ctx, Maker)
	if err != nil {
		return nil, err
	}
	var out *api.StoredFormula
	err = s.store.Tx(ctx, func(tx *store.Tx) error {
		f, v, err := s.soundVersion(tx, a, file)
		if err != nil {
			return err
		}
		f.ID = store.NewID()
		f.Version, v.Version, v.FormulaID = 1, 1, f.ID
		if err := tx.AddFormula(f, v); err != nil {
			return err
		}
		if out, err = storedFormula(tx, f.ID, 1); err != nil {
			return err
		}
		return tx.Announce("formulas", f.ID)
	})
	return out, err
}

// SaveFormula keeps a new version. When someone else kept one since the base
// version, the problem carries both.
func (s *Service) SaveFormula(ctx context.Context, id uuid.UUID, base int, file *api.FormulaFile) (*api.StoredFormula, error) {
	a, err := may(ctx, Maker)
	if err != nil {
		return nil, err
	}
	var out *api.StoredFormula
	err = s.store.Tx(ctx, func(tx *store.Tx) error {
		f, v, err := s.soundVersion(tx, a, file)
		if err != nil {
			return err
		}
		f.ID, v.FormulaID, v.Version = id, id, base+1
		if err := tx.AddFormulaVersion(f, v); err != nil {
			return err
		}
		if out, err = storedFormula(tx, id, v.Version); err != nil {
			return err
		}
		return tx.Announce("formulas", id)
	})
	if !errors.Is(err, store.ErrStale) {
		return out, err
	}
	current, err := s.Formula(ctx, id, 0)
	if err != nil {
		return nil, err
	}
	p := api.NewProblem(http.StatusConflict, "stale", "%s kept version %d while you were changing version %d. Look at both, then keep yours or theirs.",
		current.By, current.Version, base)
	p.Current, p.Yours = *current, *file
	return nil, p
}

// soundVersion makes a version of a formula. What cannot be read or worked out
// in it yet is kept as it is written, as questions; only what is no formula is
// refused.
func (s *Service) soundVersion(tx *store.Tx, a Actor, file *api.FormulaFile) (*store.Formula, *store.FormulaVersion, error) {
	set, err := s.settings(tx)
	if err != nil {
		return nil, nil, err
	}
	file = s.inMeasures(file, set)
	file.Format, file.Version = exchange.FormulaFormat, exchange.FormulaVersion
	assessed := exchange.Assess(file, set.lib, assess.Options{Workshop: set.tools()})
	if len(file.Lines) == 0 {
		return nil, nil, api.NewProblem(http.StatusUnprocessableEntity, "no-lines", "A formula needs at least one line.").At("lines")
	}
	for i := range file.Lines { // any name is taken; the id is kept where there is one
		file.Lines[i].Material = assessed.Lines[i].Material
	}
	file.Questions = nil // asked anew whenever it is read
	content, err := json.Marshal(file)
	if err != nil {
		return nil, nil, err
	}
	now := s.now()
	return &store.Formula{Name: file.Name, Kind: assessed.Kind, School: file.School, Lines: len(file.Lines), Questions: len(assessed.Questions), ChangedAt: now},
		&store.FormulaVersion{File: content, PersonID: a.Person, At: now}, nil
}

// Versions lists the versions of a formula, newest first.
func (s *Service) Versions(ctx context.Context, id uuid.UUID) ([]api.FormulaVersion, error) {
	if _, err := may(ctx, Viewer); err != nil {
		return nil, err
	}
	tx := s.store.Read(ctx)
	if _, err := tx.Formula(id); err != nil {
		return nil, said(err, "formula")
	}
	rows, err := tx.FormulaVersions(id)
	out := make([]api.FormulaVersion, len(rows))
	for i, v := range rows {
		out[i] = api.FormulaVersion{Version: v.Version, Name: v.Name, By: v.Person, Kept: v.At}
	}
	return out, err
}

// HideFormula takes a formula out of the lists; its batches keep it.
func (s *Service) HideFormula(ctx context.Context, id uuid.UUID) error {
	now := s.now()
	return s.hide(ctx, id, &now)
}

// BringFormulaBack puts a formula that was hidden into the lists again.
func (s *Service) BringFormulaBack(ctx context.Context, id uuid.UUID) error {
	return s.hide(ctx, id, nil)
}

func (s *Service) hide(ctx context.Context, id uuid.UUID, at *time.Time) error {
	if _, err := may(ctx, Maker); err != nil {
		return err
	}
	return s.store.Tx(ctx, func(tx *store.Tx) error {
		if err := tx.HideFormula(id, at); err != nil {
			return said(err, "formula")
		}
		return tx.Announce("formulas", id)
	})
}
