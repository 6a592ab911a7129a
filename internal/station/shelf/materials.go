package shelf

import (
	"context"

	"keencrock/api"
	"keencrock/core/hazard"
	"keencrock/core/learned"
	"keencrock/core/material"
	"keencrock/core/solution"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// Materials lists the library with this workshop's own figures.
func (s *Service) Materials(ctx context.Context) ([]api.Material, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	set, err := s.Settings(s.Store.Read(ctx))
	if err != nil {
		return nil, err
	}
	all := set.Materials.All()
	out := make([]api.Material, len(all))
	for i, m := range all {
		out[i] = materialOf(m, set)
	}
	return out, nil
}

func materialOf(m *material.Material, set *tenant.Settings) api.Material {
	as := "" // whose figures an own material has
	if like, err := set.Materials.Find(set.CustomMaterials[m.ID].Like); err == nil && m.Own {
		as = "as of " + material.InSentence(like.Name) + ", "
	}
	figure := func(f material.Figure) api.Figure {
		switch {
		case !f.Known():
			return api.Figure{}
		case f.Source == material.CustomSource:
			return api.Figure{Value: f.Value, Low: f.Low, High: f.High, Source: set.Materials.Source(f.Source), Own: true}
		}
		return api.Figure{Value: f.Value, Low: f.Low, High: f.High, Source: as + set.Materials.Source(f.Source)}
	}
	statements := m.Hazards.Statements
	if !m.Own && !tenant.IsMade(m.ID) { // of what is a mixture they follow from its parts
		statements = hazard.Alone(m, set.Materials)
	}
	out := api.Material{
		Id: m.ID, Name: m.Name, Label: m.Label, Also: append([]string{}, m.Also...), Form: m.Form, Functions: m.Functions,
		Formula: m.Formula, MolarMass: m.MolarMass, Density: figure(m.Density), PieceG: figure(m.Piece), DrinksAtRh: figure(m.DrinksAt),
		KeepsSealedDays: m.Keeps.SealedDays, KeepsOpenDays: m.Keeps.OpenDays, Hazards: statements, Note: m.Note,
		ReorderG: set.Figures[m.ID].ReorderG, MadeHere: tenant.IsMade(m.ID),
	}
	if _, _, known := solution.Contents(m); !known || tenant.IsMade(m.ID) { // else it is worked out
		out.Ph = figure(m.PH)
	}
	if own, ok := set.Learned[learned.Key{Kind: learned.Density, Of: m.ID}]; ok && own.Counts() {
		out.Density.Source += ": " + own.From()
	}
	if said, ok := set.CustomMaterials[m.ID]; ok {
		out.Own = said
	}
	return out
}

// SetFigures keeps what a workshop measured of a material: a weighing of "my cup of
// this" pulls the library's figure.
func (s *Service) SetFigures(ctx context.Context, id string, in api.OwnFigures) (*api.Material, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	var out api.Material
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		m, err := set.Materials.Find(id)
		if err != nil {
			return problem.Missing("unknown-material", "%v", err)
		}
		row := set.Figures[m.ID]
		row.Material = m.ID
		if in.ForgetDensity {
			row.DensityValue, row.Weighed, row.PieceG = 0, "", 0
			if err := tenant.ForgetMeasured(tx, m.ID, s.Now()); err != nil {
				return err
			}
		}
		if w := in.Weighed; w != (api.WeighedMeasure{}) {
			if err := set.TakeWeighed(tx, a, m, w.Measure, w.MassG, s.Now()); err != nil {
				return err
			}
		}
		if in.ReorderG != nil {
			row.ReorderG = *in.ReorderG
		}
		if err := tx.SaveMaterialSetting(&row); err != nil {
			return err
		}
		if set, err = s.Settings(tx); err != nil {
			return err
		}
		if m, err = set.Materials.Find(m.ID); err != nil {
			return err
		}
		out = materialOf(m, set)
		return tx.Announce("shelf", nil)
	})
	return &out, err
}
