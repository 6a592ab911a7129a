// Package almanac is the almanac station: what is ordered, what to make when, and what to
// buy for it.
package almanac

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/oapi-codegen/runtime/types"

	"keencrock/api"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// Service is what can be done in the almanac.
type Service struct{ *tenant.House }

// New returns the almanac of a house.
func New(h *tenant.House) *Service { return &Service{h} }

// Orders lists what is ordered, the nearest day first.
func (s *Service) Orders(ctx context.Context) ([]api.GoodOrder, error) {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return nil, err
	}
	out := []api.GoodOrder{}
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		rows, err := tx.OpenOrders()
		if err != nil {
			return err
		}
		names, parties, err := namesOf(tx)
		if err != nil {
			return err
		}
		for i := range rows {
			out = append(out, orderOut(&rows[i], names, parties))
		}
		return nil
	})
	return out, err
}

func namesOf(tx *store.Tx) (goods, parties map[uuid.UUID]string, err error) {
	if goods, err = tx.FormulaNames(); err != nil {
		return nil, nil, err
	}
	parties, err = tx.PartyNames()
	return goods, parties, err
}

func orderOut(o *store.Order, names, parties map[uuid.UUID]string) api.GoodOrder {
	out := api.GoodOrder{Id: o.ID, Formula: o.FormulaID, Name: names[o.FormulaID], Jars: o.Jars, Day: exchange.Date(o.Day), EveryWeeks: o.EveryWeeks, Note: o.Note}
	if o.PartyID != nil {
		out.To = parties[*o.PartyID]
	}
	if o.Until != nil {
		out.Until = exchange.Date(*o.Until)
	}
	return out
}

// Add notes an order.
func (s *Service) Add(ctx context.Context, in *api.NewOrder) (*api.GoodOrder, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	var out api.GoodOrder
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		var err error
		if out, err = s.note(tx, a, in); err != nil {
			return err
		}
		return tx.Announce("almanac", a.Workshop)
	})
	return &out, err
}

// note notes an order.
func (s *Service) note(tx *store.Tx, a tenant.Actor, in *api.NewOrder) (out api.GoodOrder, err error) {
	row := &store.Order{ID: store.NewID(), FormulaID: in.Formula, Jars: in.Jars, Day: in.Day.Time, EveryWeeks: in.EveryWeeks, Note: strings.TrimSpace(in.Note), PersonID: a.Person, NotedAt: s.Now()}
	w, err := tx.Workshop()
	if err != nil {
		return out, err
	}
	today := s.Day(w)
	switch {
	case row.Day.Before(today) && row.EveryWeeks == 0:
		return out, problem.Unfit("bad-value", "%s is past: an order is for today or a day to come.", row.Day.Format(time.DateOnly)).At("day")
	case row.Day.After(today.AddDate(mostYears, 0, 0)):
		return out, problem.Unfit("bad-value", "%s is more than %d years off.", row.Day.Format(time.DateOnly), mostYears).At("day")
	case !in.Until.IsZero() && (row.EveryWeeks == 0 || in.Until.Before(row.Day)):
		return out, problem.Unfit("bad-value", "Until is of a standing order, and not before its first day.").At("until")
	}
	if !in.Until.IsZero() {
		row.Until = &in.Until.Time
	}
	open, err := tx.OpenOrders()
	if err != nil {
		return out, err
	}
	if len(open) >= mostOrders {
		return out, problem.Clash("too-many", "%d orders are open: end some first.", len(open))
	}
	names, parties, err := namesOf(tx)
	if err != nil {
		return out, err
	}
	if names[row.FormulaID] == "" {
		return out, problem.Missing("not-found", "There is no such formula in this workshop.").At("formula")
	}
	if to := strings.TrimSpace(in.To); to != "" {
		if known, err := tx.PartyNamed(to); err != nil {
			return out, err
		} else if known != nil {
			to = known.Name
		}
		id, err := tx.PartyID(to)
		if err != nil {
			return out, err
		}
		row.PartyID, parties[id] = &id, to
	}
	if err := tx.AddOrder(row); err != nil {
		return out, err
	}
	return orderOut(row, names, parties), nil
}

// Bounds of orders: how many are open, and how far off a day may be.
const (
	mostOrders = 500
	mostYears  = 2
)

// End says that an order was given, or is taken back.
func (s *Service) End(ctx context.Context, id uuid.UUID) error {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return err
	}
	return s.Store.Tx(ctx, func(tx *store.Tx) error {
		if err := tx.EndOrder(id, s.Now()); err != nil {
			return tenant.Explain(err, "order")
		}
		return tx.Announce("almanac", a.Workshop)
	})
}

// Limits are within which it is made.
func (s *Service) Limits(ctx context.Context) (*api.PlanLimits, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	var out *api.PlanLimits
	err = s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		row, err := tx.PlanLimits()
		if err != nil {
			return err
		}
		if out, err = limitsOut(row); err == nil && a.Role != tenant.Owner { // who sees money
			for i := range out.Suppliers {
				out.Suppliers[i].Delivery = ""
			}
		}
		return err
	})
	return out, err
}

func limitsOut(row *store.PlanLimits) (*api.PlanLimits, error) {
	out := &api.PlanLimits{BenchMinADay: row.BenchMinDay, Version: row.Version, WorkDays: []int{}, Vessels: []api.VesselCount{}, DaysOff: []api.DaysOff{}, Suppliers: []api.SupplierDays{}}
	return out, cmp.Or(json.Unmarshal(row.WorkDays, &out.WorkDays), json.Unmarshal(row.Vessels, &out.Vessels), json.Unmarshal(row.DaysOff, &out.DaysOff), json.Unmarshal(row.Suppliers, &out.Suppliers))
}

// SaveLimits keeps them.
func (s *Service) SaveLimits(ctx context.Context, in *api.PlanLimits) (*api.PlanLimits, error) {
	a, err := tenant.Require(ctx, tenant.Owner)
	if err != nil {
		return nil, err
	}
	seen := map[string]bool{}
	for i, v := range in.Vessels {
		in.Vessels[i].Name = strings.TrimSpace(v.Name)
		key := strings.ToLower(in.Vessels[i].Name)
		if key == "" || seen[key] {
			return nil, problem.Unfit("twice", "A vessel has a name of its own.").At(fmt.Sprintf("vessels[%d].name", i))
		}
		seen[key] = true
	}
	if err := checkTimes(in); err != nil {
		return nil, err
	}
	slices.Sort(in.WorkDays)
	row := &store.PlanLimits{BenchMinDay: in.BenchMinADay, Version: in.Version}
	for of, into := range map[any]*[]byte{&in.WorkDays: &row.WorkDays, &in.Vessels: &row.Vessels, &in.DaysOff: &row.DaysOff, &in.Suppliers: &row.Suppliers} {
		if *into, err = json.Marshal(of); err != nil {
			return nil, err
		}
		if string(*into) == "null" {
			*into = []byte("[]")
		}
	}
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		if err := tx.SavePlanLimits(row); err != nil {
			return tenant.Explain(err, "limits")
		}
		return tx.Announce("almanac", a.Workshop)
	})
	if err != nil {
		return nil, err
	}
	return limitsOut(row)
}

// checkTimes holds that days off are days, and that a supplier is named once.
func checkTimes(in *api.PlanLimits) error {
	for i, off := range in.DaysOff {
		if err := checkSpan(off, fmt.Sprintf("days_off[%d]", i)); err != nil {
			return err
		}
	}
	seen := map[string]bool{}
	for i := range in.Suppliers {
		one := &in.Suppliers[i]
		one.Name = strings.TrimSpace(one.Name)
		key := strings.ToLower(one.Name)
		if key == "" || seen[key] {
			return problem.Unfit("twice", "A supplier stands there once.").At(fmt.Sprintf("suppliers[%d].name", i))
		}
		seen[key] = true
	}
	return nil
}

func date(t time.Time) types.Date { return exchange.Date(t) }
