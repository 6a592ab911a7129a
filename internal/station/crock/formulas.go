// Package crock is the crock station: formulas, what is known of one before it is
// mixed, and what else it could be.
package crock

import (
	"context"
	"encoding/json"
	"errors"
	"time"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/assess"
	"keencrock/core/formula"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// Service is what can be done at the crock.
type Service struct{ *tenant.House }

// New returns the crock of a house.
func New(h *tenant.House) *Service { return &Service{h} }

// ExportFormula is the newest version of a formula as a file, with what is still
// asked of it.
func (s *Service) ExportFormula(ctx context.Context, id uuid.UUID) (*api.FormulaFile, error) {
	stored, err := s.Formula(ctx, id, 0)
	if err != nil {
		return nil, err
	}
	set, err := s.Settings(s.Store.Read(ctx))
	if err != nil {
		return nil, err
	}
	file := stored.File
	file.Format, file.Version = exchange.FormulaFormat, exchange.FormulaVersion
	file.Questions = exchange.Assess(&file, set.Materials, assess.Options{Workshop: set.Tools()}).Questions
	return &file, nil
}

// Formulas lists the formulas by name, or those that were put away.
func (s *Service) Formulas(ctx context.Context, putAway bool) ([]api.FormulaSummary, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	rows, err := s.Store.Read(ctx).Formulas(putAway)
	out := make([]api.FormulaSummary, len(rows))
	for i, f := range rows {
		out[i] = api.FormulaSummary{Id: f.ID, Name: f.Name, Kind: f.Kind, KindName: formula.Kind(f.Kind).Info().Name, School: f.School,
			Version: f.Version, Lines: f.Lines, Questions: f.Questions, Changed: f.ChangedAt, LastMade: exchange.Time(f.LastMade)}
	}
	return out, err
}

// Formula returns a version of a formula, the newest for 0.
func (s *Service) Formula(ctx context.Context, id uuid.UUID, version int) (*api.StoredFormula, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	return tenant.StoredFormula(s.Store.Read(ctx), id, version)
}

// AddFormula keeps a new formula.
func (s *Service) AddFormula(ctx context.Context, file *api.FormulaFile) (*api.StoredFormula, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	f, v, err := s.newVersion(ctx, a, file)
	if err != nil {
		return nil, err
	}
	var out *api.StoredFormula
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		if err := keepNew(tx, f, v); err != nil {
			return err
		}
		var err error
		if out, err = tenant.StoredFormula(tx, f.ID, 1); err != nil {
			return err
		}
		return tx.Announce("formulas", f.ID)
	})
	return out, err
}

// keepNew keeps the first version of a formula.
func keepNew(tx *store.Tx, f *store.Formula, v *store.FormulaVersion) error {
	f.ID = store.NewID()
	f.Version, v.Version, v.FormulaID = 1, 1, f.ID
	return tx.AddFormula(f, v)
}

// SaveFormula keeps a new version. When someone else kept one since the base
// version, the problem carries both.
func (s *Service) SaveFormula(ctx context.Context, id uuid.UUID, base int, file *api.FormulaFile) (*api.StoredFormula, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	f, v, err := s.newVersion(ctx, a, file)
	if err != nil {
		return nil, err
	}
	var out *api.StoredFormula
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		if err := refuseRing(tx, id, file); err != nil {
			return err
		}
		f.ID, v.FormulaID, v.Version = id, id, base+1
		if err := tx.AddFormulaVersion(f, v); err != nil {
			return err
		}
		var err error
		if out, err = tenant.StoredFormula(tx, id, v.Version); err != nil {
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
	p := problem.Clash("stale", "%s kept version %d while you were changing version %d. Look at both, then keep yours or theirs.",
		current.By, current.Version, base)
	p.Current, p.Yours = *current, *file
	return nil, p
}

// newVersion makes a version of a formula, before anything is locked. What cannot
// be read or worked out in it yet is kept as it is written, as questions; only what
// is no formula is refused.
func (s *Service) newVersion(ctx context.Context, a tenant.Actor, file *api.FormulaFile) (*store.Formula, *store.FormulaVersion, error) {
	set, err := s.Settings(s.Store.Read(ctx))
	if err != nil {
		return nil, nil, err
	}
	return s.versionOf(set, a, file)
}

// versionOf is [Service.newVersion] by settings that were read.
func (s *Service) versionOf(set *tenant.Settings, a tenant.Actor, file *api.FormulaFile) (*store.Formula, *store.FormulaVersion, error) {
	file = set.InMeasures(file)
	file.Format, file.Version = exchange.FormulaFormat, exchange.FormulaVersion
	assessed := exchange.Assess(file, set.Materials, assess.Options{Workshop: set.Tools()})
	if len(file.Lines) == 0 {
		return nil, nil, problem.Unfit("no-lines", "A formula needs at least one line.").At("lines")
	}
	for i := range file.Lines { // any name is taken; the id is kept where there is one
		file.Lines[i].Material = assessed.Lines[i].Material
	}
	file.Questions = nil // asked anew whenever it is read
	content, err := json.Marshal(file)
	if err != nil {
		return nil, nil, err
	}
	now := s.Now()
	return &store.Formula{Name: file.Name, Kind: assessed.Kind, School: file.School, Lines: len(file.Lines), Questions: len(assessed.Questions), ChangedAt: now},
		&store.FormulaVersion{File: content, PersonID: a.Person, At: now}, nil
}

// Versions lists the versions of a formula, newest first.
func (s *Service) Versions(ctx context.Context, id uuid.UUID) ([]api.FormulaVersion, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	tx := s.Store.Read(ctx)
	if _, err := tx.Formula(id); err != nil {
		return nil, tenant.Explain(err, "formula")
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
	now := s.Now()
	return s.hide(ctx, id, &now)
}

// BringFormulaBack puts a formula that was hidden into the lists again.
func (s *Service) BringFormulaBack(ctx context.Context, id uuid.UUID) error {
	return s.hide(ctx, id, nil)
}

func (s *Service) hide(ctx context.Context, id uuid.UUID, at *time.Time) error {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return err
	}
	return s.Store.Tx(ctx, func(tx *store.Tx) error {
		if err := tx.HideFormula(id, at); err != nil {
			return tenant.Explain(err, "formula")
		}
		return tx.Announce("formulas", id)
	})
}
