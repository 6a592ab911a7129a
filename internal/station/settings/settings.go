// Package settings is where a workshop says what it counts in: measures, money,
// water, scale, time, and how much its own cups hold.
package settings

import (
	"context"
	"strings"
	"time"

	"keencrock/api"
	"keencrock/core/quantity"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// Service is what can be set.
type Service struct{ *tenant.House }

// New returns the settings of a house.
func New(h *tenant.House) *Service { return &Service{h} }

// Workshop returns the workshop's settings.
func (s *Service) Workshop(ctx context.Context) (*api.Workshop, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	w, err := s.Store.Read(ctx).Workshop()
	if err != nil {
		return nil, err
	}
	return tenant.WorkshopOf(w), nil
}

// SaveWorkshop changes the workshop's settings.
func (s *Service) SaveWorkshop(ctx context.Context, in api.Workshop) (*api.Workshop, error) {
	a, err := tenant.Require(ctx, tenant.Owner)
	if err != nil {
		return nil, err
	}
	if err := tenant.CheckWorkshop(in.Hardness, in.TimeZone); err != nil {
		return nil, err
	}
	if _, err := quantity.ParseMeasures(string(in.Measures)); err != nil {
		return nil, problem.Unfit("bad-value", "%v", err).At("measures")
	}
	origin, err := tenant.OriginOf(in.JarOrigin)
	if err != nil {
		return nil, problem.Unfit("bad-value", "%v", err).At("jar_origin")
	}
	var saved *store.Workshop
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		w, err := tx.Workshop()
		if err != nil {
			return err
		}
		if err := rename(ctx, tx, a, w, in.Name, s.Now()); err != nil {
			return err
		}
		w.Name, w.Measures, w.Currency, w.Hardness = in.Name, string(in.Measures), in.Currency, in.Hardness
		w.ScaleStepG, w.ScaleCapacityG = in.ScaleStepG, in.ScaleCapacityG
		w.DropsPerML, w.ScoopML, w.Version = in.DropsPerMl, in.ScoopMl, in.Version
		w.LaundryWaterL, w.DishesWaterL = in.LaundryWaterL, in.DishesWaterL
		w.TimeZone, w.Hygrometer, w.Scale = in.TimeZone, in.Hygrometer, in.Scale
		w.Address, w.Contact, w.PublicJars = in.Address, in.Contact, !in.PrivateJars
		w.ViewersSeePrices = in.ViewersSeePrices
		w.Phone, w.Region, w.LabelDose, w.JarOrigin = strings.TrimSpace(in.Phone), string(in.Region), string(in.LabelDose), origin
		if err := tx.SaveWorkshop(w); err != nil {
			return tenant.Explain(err, "workshop")
		}
		saved = w
		return tx.Announce("workshop", nil)
	})
	if err != nil {
		return nil, err
	}
	return tenant.WorkshopOf(saved), nil
}

// rename keeps for the record that a workshop goes by another name. A demo is none any
// more then, and its password has to be changed first, since everybody knows it.
func rename(ctx context.Context, tx *store.Tx, a tenant.Actor, w *store.Workshop, name string, at time.Time) error {
	if name == w.Name {
		return nil
	}
	if w.Demo {
		if a.KnownPassword {
			return problem.Clash("public-password", "A demo that gets a name of its own is none any more, and its password is public: change that first.").At("name")
		}
		if err := tx.KeepDemo(); err != nil {
			return err
		}
	}
	return tenant.Note(ctx, tx, "renamed", w.Name+" is "+name, at)
}
