package shelf

import (
	"context"
	"encoding/json"
	"errors"
	"slices"
	"strings"

	"keencrock/api"
	"keencrock/core/material"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// AddMaterial adds a material of the workshop's own.
func (s *Service) AddMaterial(ctx context.Context, in api.OwnMaterial) (*api.Material, error) {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return nil, err
	}
	var out *api.Material
	err := s.Store.Tx(ctx, func(tx *store.Tx) error {
		if err := s.putMaterial(tx, &in); err != nil {
			return err
		}
		var err error
		out, err = s.materialAfter(tx, material.CustomID(in.Name))
		return err
	})
	return out, err
}

// putMaterial keeps a new material of the workshop's own.
func (s *Service) putMaterial(tx *store.Tx, in *api.OwnMaterial) error {
	in.Version = 1
	id := material.CustomID(in.Name)
	there, err := tenant.CustomMaterials(tx)
	if err != nil {
		return err
	}
	if _, taken := there[id]; taken {
		return problem.Clash("taken", "There is a material of that name already.").At("name")
	}
	if err := s.sound(tx, id, in); err != nil {
		return err
	}
	text, err := json.Marshal(in)
	if err != nil {
		return err
	}
	return tenant.Explain(tx.AddCustomMaterial(&store.OwnMaterial{ID: id, Said: text, Version: 1}), "material")
}

// EditMaterial changes one. Its former name stays one of its names, so that
// formulas that use it still find it.
func (s *Service) EditMaterial(ctx context.Context, id string, in api.OwnMaterial) (*api.Material, error) {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return nil, err
	}
	var out *api.Material
	err := s.Store.Tx(ctx, func(tx *store.Tx) error {
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		before, ok := set.CustomMaterials[id]
		if !ok {
			return problem.Missing("not-found", "There is no such material of this workshop's own.")
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
		if err := tx.EditCustomMaterial(&store.OwnMaterial{ID: id, Said: text, Version: in.Version}); err != nil {
			return tenant.Explain(err, "material")
		}
		out, err = s.materialAfter(tx, id)
		return err
	})
	return out, err
}

// materialAfter is a material as it is after a change, which is made known.
func (s *Service) materialAfter(tx *store.Tx, id string) (*api.Material, error) {
	set, err := s.Settings(tx)
	if err != nil {
		return nil, err
	}
	m, err := set.Materials.Find(id)
	if err != nil {
		return nil, err
	}
	out := materialOf(m, set)
	return &out, tx.Announce("shelf", nil)
}

// sound refuses what the library would not take, in the field that is wrong.
func (s *Service) sound(tx *store.Tx, id string, in *api.OwnMaterial) error {
	others, err := tenant.CustomMaterials(tx)
	if err != nil {
		return err
	}
	delete(others, id) // as it was
	m, err := tenant.OwnMaterial(id, in)
	if err == nil {
		var lib *material.Library
		if lib, err = tenant.LibraryOf(others); err == nil {
			_, err = lib.With(*m)
		}
	}
	var wrong *material.CustomError
	var taken *material.TakenError
	refuse := func(field, detail string, args ...any) error {
		return problem.Unfit("bad-value", detail, args...).At(field)
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
