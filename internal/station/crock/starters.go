package crock

import (
	"context"

	"keencrock/api"
	"keencrock/core/starter"
	"keencrock/core/stock"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// Starters lists the formulas to begin with, and how far the shelf goes for each.
func (s *Service) Starters(ctx context.Context) ([]api.Starter, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	var set *tenant.Settings
	var lots []stock.Lot
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) (err error) {
		if set, err = s.Settings(tx); err != nil {
			return err
		}
		lots, err = tx.ShelfStock()
		return err
	})
	if err != nil {
		return nil, err
	}
	usable := stock.UsableByItem(lots, set.Today)
	all := starter.All()
	out := make([]api.Starter, len(all))
	for i := range all {
		out[i] = exchange.Starter(&all[i], set.Measures, set.Materials, set.Tools(), usable)
	}
	return out, nil
}

// TakeStarter makes a starter a formula of the workshop.
func (s *Service) TakeStarter(ctx context.Context, id string, by api.TakeStarterBy) (*api.StoredFormula, error) {
	found, ok := starter.Find(id)
	if !ok {
		return nil, problem.Missing("no-starter", "There is no starter of that name.")
	}
	set, err := s.Settings(s.Store.Read(ctx))
	if err != nil {
		return nil, err
	}
	how := starter.Weight
	if by == api.TakeStarterByScoop {
		how = starter.Scoop
	}
	return s.AddFormula(ctx, exchange.StarterFile(found, set.Measures, how, set.Materials, set.Tools()))
}
