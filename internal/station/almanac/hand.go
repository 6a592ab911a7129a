package almanac

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/formula"
	"keencrock/core/making"
	"keencrock/core/planning"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// SetPin sets the day of a making by hand.
func (s *Service) SetPin(ctx context.Context, in *api.PlanPin) (*api.PlanPin, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	row := &store.PlanPin{ID: in.Id, FormulaID: in.Formula, Bench: in.Bench.Time, PersonID: a.Person, SetAt: s.Now()}
	if row.ID == uuid.Nil {
		row.ID = store.NewID()
	}
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		w, err := tx.Workshop()
		if err != nil {
			return err
		}
		today := s.Day(w)
		if row.Bench.Before(today) || !row.Bench.Before(today.AddDate(0, 0, horizonDays)) {
			return problem.Unfit("bad-value", "%s is not within the plan, which is from today on over %d days.", row.Bench.Format(time.DateOnly), horizonDays).At("bench")
		}
		if err := hasFormula(tx, row.FormulaID); err != nil {
			return err
		}
		if err := tx.SetPlanPin(row, today); err != nil {
			return err
		}
		return tx.Announce("almanac", a.Workshop)
	})
	return &api.PlanPin{Id: row.ID, Formula: row.FormulaID, Bench: in.Bench}, err
}

func hasFormula(tx *store.Tx, id uuid.UUID) error {
	names, err := tx.FormulaNames()
	if err == nil && names[id] == "" {
		return problem.Missing("not-found", "There is no such formula in this workshop.").At("formula")
	}
	return err
}

// RemovePin leaves the day of a making to the plan again.
func (s *Service) RemovePin(ctx context.Context, id uuid.UUID) error {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return err
	}
	return s.Store.Tx(ctx, func(tx *store.Tx) error {
		if err := tx.RemovePlanPin(id); err != nil {
			return tenant.Explain(err, "day set by hand")
		}
		return tx.Announce("almanac", a.Workshop)
	})
}

// wouldPin are the pins with those that would be set, in place of one by its id.
func (p *planner) wouldPin(pins []store.PlanPin) []store.PlanPin {
	for _, w := range p.would.Pins {
		one := store.PlanPin{ID: w.Id, FormulaID: w.Formula, Bench: w.Bench.Time}
		if i := slices.IndexFunc(pins, func(x store.PlanPin) bool { return x.ID == w.Id }); i >= 0 && w.Id != uuid.Nil {
			pins[i] = one
			continue
		}
		pins = append(pins, one)
	}
	return pins
}

// pin puts what is set by hand into the task; what is to be made today and was begun is done.
func (p *planner) pin(tx *store.Tx, pins []store.PlanPin) error {
	begun, err := tx.BegunSince(p.set.Today, tenant.ZoneOf(p.set.Workshop))
	if err != nil {
		return err
	}
	for _, one := range pins {
		if one.Bench.Equal(p.set.Today) && begun[one.FormulaID] > 0 {
			begun[one.FormulaID]--
			continue
		}
		if p.goods[one.FormulaID] == nil {
			continue
		}
		p.pins = append(p.pins, one)
		p.task.Pins = append(p.task.Pins, planning.Pin{Good: one.FormulaID.String(), Bench: one.Bench})
	}
	return nil
}

// unkeptSays says what is in the way of what was set by hand.
func (p *planner) unkeptSays(limit string, bench time.Time) string {
	switch limit {
	case planning.BenchLimit:
		return fmt.Sprintf("There are only %g minutes at the bench on %s.", p.task.BenchMinDay, bench.Format("Monday"))
	case planning.DayLimit:
		return bench.Format("Monday 2 January") + " is no day of work."
	case planning.SupplyLimit:
		return "Its materials are not here by then."
	case planning.SpanLimit:
		return "It would not be done within the plan."
	}
	return fmt.Sprintf("Nothing of “%s” is free then.", limit)
}

// readUnderWay reads the batches that are at the bench or stand: they hold their vessels, and
// give jars when they are done.
func (p *planner) readUnderWay(s *Service, tx *store.Tx) error {
	open, err := s.OpenBatches(tx, p.set)
	if err != nil {
		return err
	}
	now := s.Now()
	for _, b := range open {
		if b.Row.FormulaID == uuid.Nil || p.goods[b.Row.FormulaID] == nil {
			continue
		}
		g := p.goodOf(b.Row.FormulaID)
		one := api.UnderWay{Batch: b.Row.ID, Code: b.Code, Name: p.names[b.Row.FormulaID], Jars: g.Pieces}
		if p.goods[b.Row.FormulaID].isHalfMade {
			one.Jars, one.Grams = 0, float64(g.Pieces)
		}
		ready, vessel := p.readyOf(b, now)
		if ready.IsZero() {
			p.say("When %s is done is not known: what it will give is not counted.", b.Code)
			p.out.UnderWay = append(p.out.UnderWay, one)
			continue
		}
		day := tenant.DayOf(ready, p.set.Workshop)
		one.Ready = date(day)
		stock := planning.Stock{Good: g.ID, Pieces: g.Pieces, From: day}
		if g.KeepsDays > 0 {
			stock.BestBefore = day.AddDate(0, 0, g.KeepsDays)
		}
		p.task.Stock = append(p.task.Stock, stock)
		if vessel != "" {
			until := p.clock(ready)
			p.task.Busy = append(p.task.Busy, planning.Standing{Vessel: vessel, From: p.task.Today.AddDate(0, 0, -1), To: until})
			one.Vessel, one.From, one.To = vessel, p.task.Today, until
			if !slices.Contains(p.out.Vessels, vessel) {
				p.out.Vessels = append(p.out.Vessels, vessel)
			}
		}
		p.out.UnderWay = append(p.out.UnderWay, one)
	}
	return nil
}

// clock is a moment as the clocks of the workshop show it, on the days of the plan.
func (p *planner) clock(t time.Time) time.Time {
	day := tenant.DayOf(t, p.set.Workshop)
	local := tenant.At(t, p.set.Workshop)
	return day.Add(time.Duration(local.Hour())*time.Hour + time.Duration(local.Minute())*time.Minute)
}

func (p *planner) goodOf(id uuid.UUID) *planning.Good {
	i := slices.IndexFunc(p.task.Goods, func(g planning.Good) bool { return g.ID == id.String() })
	return &p.task.Goods[i]
}

// readyOf is when a batch is done with all that it stands for, by how it really dries or
// steeps where that is known, and the vessel of the plan that it stands in now. Zero where
// that is not known.
func (p *planner) readyOf(b *tenant.Batch, now time.Time) (ready time.Time, vessel string) {
	ready = now
	at, ok := b.Step()
	if !ok || b.State == making.Packing {
		return ready, ""
	}
	mould := ""
	for i := range b.Steps {
		step := &b.Steps[i]
		if step.Mould != "" {
			mould = step.Mould
		}
		if i < at || step.Kind.Info().Stage != formula.OnRack || b.IsStepClosed(i) {
			continue
		}
		if i == at && b.State == making.Standing {
			from, to := b.ReadyAt(i)
			if to.IsZero() {
				to = from
			}
			if to.IsZero() {
				return time.Time{}, ""
			}
			if to.After(ready) {
				ready = to
			}
			for _, name := range []string{step.Vessel, mould} {
				if known := p.vesselKnown(name); known != "" && vessel == "" {
					vessel = known
				}
			}
			continue
		}
		if step.For.IsZero() {
			return time.Time{}, ""
		}
		ready = ready.Add(step.For.High)
	}
	return ready, vessel
}

// vesselKnown is a vessel of the plan by its name; empty where it has none.
func (p *planner) vesselKnown(name string) string {
	for _, v := range p.task.Vessels {
		if name != "" && strings.EqualFold(v.ID, name) {
			return v.ID
		}
	}
	return ""
}
