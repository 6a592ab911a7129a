package workshop

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"net/http"
	"slices"
	"strings"

	"keencrock/api"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/internal/store"
)

// AddMaterial adds a material of the workshop's own.
func (s *Service) AddMaterial(ctx context.Context, in api.OwnMaterial) (*api.Material, error) {
	if _, err := may(ctx, Maker); err != nil {
		return nil, err
	}
	var out *api.Material
	err := s.store.Tx(ctx, func(tx *store.Tx) error {
		in.Version = 1
		id := material.OwnID(in.Name)
		if err := s.sound(tx, id, &in); err != nil {
			return err
		}
		text, err := json.Marshal(in)
		if err != nil {
			return err
		}
		if err := tx.AddOwnMaterial(&store.OwnMaterial{ID: id, Said: text, Version: 1}); err != nil {
			return said(err, "material")
		}
		out, err = s.materialAfter(tx, id)
		return err
	})
	return out, err
}

// EditMaterial changes one. Its former name stays one of its names, so that
// formulas that use it still find it.
func (s *Service) EditMaterial(ctx context.Context, id string, in api.OwnMaterial) (*api.Material, error) {
	if _, err := may(ctx, Maker); err != nil {
		return nil, err
	}
	var out *api.Material
	err := s.store.Tx(ctx, func(tx *store.Tx) error {
		set, err := s.settings(tx)
		if err != nil {
			return err
		}
		before, ok := set.made[id]
		if !ok {
			return api.NewProblem(http.StatusNotFound, "not-found", "There is no such material of this workshop's own.")
		}
		named := func(name string) bool { return strings.EqualFold(name, before.Name) }
		if !named(in.Name) && !slices.ContainsFunc(in.Also, named) {
			in.Also = append(in.Also, before.Name)
		}
		in.Version++
		if err := s.sound(tx, id, &in); err != nil {
			return err
		}
		text, err := json.Marshal(in)
		if err != nil {
			return err
		}
		if err := tx.EditOwnMaterial(&store.OwnMaterial{ID: id, Said: text, Version: in.Version}); err != nil {
			return said(err, "material")
		}
		out, err = s.materialAfter(tx, id)
		return err
	})
	return out, err
}

// materialAfter is a material as it is after a change, which is made known.
func (s *Service) materialAfter(tx *store.Tx, id string) (*api.Material, error) {
	set, err := s.settings(tx)
	if err != nil {
		return nil, err
	}
	m, err := set.lib.Find(id)
	if err != nil {
		return nil, err
	}
	out := materialOf(m, set)
	return &out, tx.Announce("shelf", nil)
}

// sound refuses what the library would not take, in the field that is wrong.
func (s *Service) sound(tx *store.Tx, id string, in *api.OwnMaterial) error {
	others, err := ownMaterials(tx)
	if err != nil {
		return err
	}
	delete(others, id) // as it was
	m, err := ownOf(id, in)
	if err == nil {
		var lib *material.Library
		if lib, err = libraryOf(nil, others); err == nil {
			_, err = lib.With(*m)
		}
	}
	var wrong *material.OwnError
	var taken *material.TakenError
	refuse := func(field, detail string, args ...any) error {
		return api.NewProblem(http.StatusUnprocessableEntity, "bad-value", detail, args...).At(field)
	}
	switch {
	case errors.As(err, &wrong):
		return refuse(wrong.Field, "%s", wrong.Detail)
	case errors.As(err, &taken):
		return refuse("name", "The name “%s” means %s already.", taken.Name, material.InSentence(taken.Other))
	case err != nil:
		return refuse("name", "%v", err)
	}
	return nil
}

// ownOf makes a material of what was said.
func ownOf(id string, in *api.OwnMaterial) (*material.Material, error) {
	o := material.Own{ID: id, Name: in.Name, Label: in.Label, Also: in.Also, Like: in.Like, Form: in.Form, Function: in.Function,
		Strength: in.Strength, PieceG: in.PieceG, SealedDays: in.KeepsSealedDays, OpenDays: in.KeepsOpenDays, Note: in.Note}
	if in.Density > 0 {
		o.Density = quantity.Exactly(in.Density)
	}
	return o.Material(material.Shipped())
}

// ownMaterials are what the workshop said of its own materials, by id.
func ownMaterials(tx *store.Tx) (map[string]api.OwnMaterial, error) {
	rows, err := tx.OwnMaterials()
	if err != nil {
		return nil, err
	}
	made := make(map[string]api.OwnMaterial, len(rows))
	for _, row := range rows {
		var in api.OwnMaterial
		if err := json.Unmarshal(row.Said, &in); err != nil {
			return nil, fmt.Errorf("own material %s: %w", row.ID, err)
		}
		in.Version = row.Version
		made[row.ID] = in
	}
	return made, nil
}

// libraryOf is the shipped library with a workshop's own materials and
// densities.
func libraryOf(rows []store.MaterialSetting, made map[string]api.OwnMaterial) (*material.Library, error) {
	lib := material.Shipped()
	for _, id := range slices.Sorted(maps.Keys(made)) {
		in := made[id]
		m, err := ownOf(id, &in)
		if err != nil {
			return nil, fmt.Errorf("own material %s: %w", id, err)
		}
		if lib, err = giveWay(lib, m); err != nil {
			return nil, err
		}
	}
	return withOwnDensities(lib, rows)
}

// giveWay adds a material to a library. A name that means another by now, since
// the shipped library has grown, is given up, so that the workshop still opens.
func giveWay(lib *material.Library, m *material.Material) (*material.Library, error) {
	for {
		with, err := lib.With(*m)
		var taken *material.TakenError
		switch {
		case !errors.As(err, &taken):
			return with, err
		case slices.Contains(m.Also, taken.Name):
			m.Also = slices.DeleteFunc(slices.Clone(m.Also), func(name string) bool { return name == taken.Name })
		case taken.Name == m.Name:
			m.Name += ", our own"
		default:
			return nil, err
		}
	}
}

func withOwnDensities(lib *material.Library, rows []store.MaterialSetting) (*material.Library, error) {
	var own []material.Material
	for _, row := range rows {
		m, err := lib.Find(row.Material)
		if row.DensityValue <= 0 || err != nil { // err: a material that is no longer shipped
			continue
		}
		changed := *m
		changed.Density = material.Figure{Range: quantity.Exactly(row.DensityValue), Source: material.OwnSource}
		own = append(own, changed)
	}
	return lib.With(own...)
}
