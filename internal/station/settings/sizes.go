package settings

import (
	"context"
	"strings"

	"keencrock/api"
	"keencrock/core/quantity"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// Sizes lists the vague measures and vessels with the workshop's own sizes.
func (s *Service) Sizes(ctx context.Context) ([]api.Size, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	set, err := s.Settings(s.Store.Read(ctx))
	if err != nil {
		return nil, err
	}
	return sizesOf(set), nil
}

func sizesOf(set *tenant.Settings) []api.Size {
	tools := set.Tools()
	var out []api.Size
	for _, u := range quantity.Measurable() {
		size := api.Size{Unit: u.String(), Many: u.Plural(), Weighs: u.Kind() == quantity.Mass, Vessel: u.Role() == quantity.Vessel}
		if usual := u.Usual(); !usual.IsZero() {
			size.Usual = exchange.Range(usual)
		}
		var own quantity.Range
		if tools.Own != nil {
			own = tools.Own[u]
		}
		switch {
		case !own.IsZero():
			size.Own = own.Value
		case u == quantity.Drop:
			size.Own = tools.DropML.Value
		case u == quantity.Scoop:
			size.Own = tools.ScoopML.Value
		}
		out = append(out, size)
	}
	return out
}

// SetSize keeps how much one of the workshop's own measures or vessels holds.
func (s *Service) SetSize(ctx context.Context, in api.OwnSize) ([]api.Size, error) {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return nil, err
	}
	unit, ok := quantity.ParseUnit(strings.ToLower(strings.TrimSpace(in.Unit)))
	if !ok || unit.Role() == quantity.Standard {
		return nil, problem.Unfit("bad-value", "“%s” is no measure a workshop has a size of its own for.", in.Unit).At("unit")
	}
	var out []api.Size
	err := s.Store.Tx(ctx, func(tx *store.Tx) error {
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		size, err := customSize(unit, in.Amount, set)
		if err != nil {
			return err
		}
		if err := tx.SaveCustomSize(unit.String(), size); err != nil {
			return err
		}
		if set, err = s.Settings(tx); err != nil {
			return err
		}
		out = sizesOf(set)
		return tx.Announce("shelf", nil)
	})
	return out, err
}

// ownSize reads how much a unit holds, in what it measures; 0 for nothing said.
func customSize(unit quantity.Unit, written string, set *tenant.Settings) (float64, error) {
	if strings.TrimSpace(written) == "" {
		return 0, nil
	}
	bad := func(detail string, args ...any) error {
		return problem.Unfit("bad-amount", detail, args...).At("amount")
	}
	a, err := quantity.Parse(written)
	if err != nil {
		p := exchange.FieldProblem("amount", err)
		return 0, &p
	}
	var size quantity.Range
	var is bool
	if unit.Kind() == quantity.Mass {
		size, is = a.MassOnly()
	} else {
		size, is = a.Millilitres(quantity.Handling{Measures: set.Measures, Liquid: true})
	}
	switch {
	case !is || a.UpTo() || a.Unit() == unit:
		return 0, bad("Say how much one %s holds, such as %s.", unit, map[bool]string{true: "30 g", false: "320 ml"}[unit.Kind() == quantity.Mass])
	case size.Value < 0.005 || size.Value > 500_000:
		return 0, bad("%s for one %s: check the number.", written, unit)
	}
	return size.Value, nil
}
