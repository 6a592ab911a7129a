package workshop

import (
	"context"
	"net/http"

	"keencrock/api"
	"keencrock/core/quantity"
	"keencrock/internal/store"
)

// Workshop returns the workshop's settings.
func (s *Service) Workshop(ctx context.Context) (*api.Workshop, error) {
	if _, err := may(ctx, Viewer); err != nil {
		return nil, err
	}
	w, err := s.store.Read(ctx).Workshop()
	if err != nil {
		return nil, err
	}
	return workshopOf(w), nil
}

func workshopOf(w *store.Workshop) *api.Workshop {
	out := &api.Workshop{Name: w.Name, Measures: api.Measures(w.Measures), Currency: w.Currency, Hardness: w.Hardness,
		ScaleStepG: w.ScaleStepG, ScaleCapacityG: w.ScaleCapacityG,
		DropsPerMl: w.DropsPerML, ScoopMl: w.ScoopML, LaundryWaterL: w.LaundryWaterL, DishesWaterL: w.DishesWaterL, Version: w.Version}
	if h, err := quantity.ParseHardness(w.Hardness); err == nil {
		out.HardnessClass = h.Class()
	}
	return out
}

// SaveWorkshop changes the workshop's settings.
func (s *Service) SaveWorkshop(ctx context.Context, in api.Workshop) (*api.Workshop, error) {
	if _, err := may(ctx, Owner); err != nil {
		return nil, err
	}
	if err := checkHardness(in.Hardness); err != nil {
		return nil, err
	}
	if _, err := quantity.ParseMeasures(string(in.Measures)); err != nil {
		return nil, api.NewProblem(http.StatusUnprocessableEntity, "bad-value", "%v", err).At("measures")
	}
	var saved *store.Workshop
	err := s.store.Tx(ctx, func(tx *store.Tx) error {
		w, err := tx.Workshop()
		if err != nil {
			return err
		}
		w.Name, w.Measures, w.Currency, w.Hardness = in.Name, string(in.Measures), in.Currency, in.Hardness
		w.ScaleStepG, w.ScaleCapacityG = in.ScaleStepG, in.ScaleCapacityG
		w.DropsPerML, w.ScoopML, w.Version = in.DropsPerMl, in.ScoopMl, in.Version
		w.LaundryWaterL, w.DishesWaterL = in.LaundryWaterL, in.DishesWaterL
		if err := tx.SaveWorkshop(w); err != nil {
			return said(err, "workshop")
		}
		saved = w
		return tx.Announce("workshop", nil)
	})
	if err != nil {
		return nil, err
	}
	return workshopOf(saved), nil
}

// checkHardness refuses what is no hardness; none said is one.
func checkHardness(written string) error {
	if written == "" {
		return nil
	}
	if _, err := quantity.ParseHardness(written); err != nil {
		return api.NewProblem(http.StatusUnprocessableEntity, "bad-value", "The hardness: %v.", err).At("hardness")
	}
	return nil
}
