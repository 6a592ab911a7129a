// Package rack is the rack station: what stands, is fed, drawn and waited for.
package rack

import (
	"context"
	"errors"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/curing"
	"keencrock/core/making"
	"keencrock/core/vessel"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// Service is what can be done at the rack.
type Service struct{ *tenant.House }

// New returns the rack of a house.
func New(h *tenant.House) *Service { return &Service{h} }

// Vessels lists the vats that are in use.
func (s *Service) Vessels(ctx context.Context) ([]api.Vessel, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	out := []api.Vessel{}
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		rows, err := tx.Vessels()
		if err != nil {
			return err
		}
		ids := make([]uuid.UUID, len(rows))
		for i := range rows {
			ids[i] = rows[i].ID
		}
		events, err := tx.VesselEvents(ids...)
		if err != nil {
			return err
		}
		air, err := s.air(tx)
		if err != nil {
			return err
		}
		for i := range rows {
			v, err := show(&rows[i], events[rows[i].ID], air, s.Now())
			if err != nil {
				return err
			}
			if err := s.nameFed(tx, v, events[rows[i].ID]); err != nil {
				return err
			}
			out = append(out, *v)
		}
		return nil
	})
	return out, err
}

// Vessel returns one vat with all that was done to it.
func (s *Service) Vessel(ctx context.Context, id uuid.UUID) (*api.Vessel, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	return s.read(s.Store.Read(ctx), id)
}

func (s *Service) read(tx *store.Tx, id uuid.UUID) (*api.Vessel, error) {
	row, err := tx.Vessel(id)
	if err != nil {
		return nil, tenant.Explain(err, "vat")
	}
	events, err := tx.VesselEvents(id)
	if err != nil {
		return nil, err
	}
	air, err := s.air(tx)
	if err != nil {
		return nil, err
	}
	out, err := show(row, events[id], air, s.Now())
	if err != nil {
		return nil, err
	}
	return out, s.nameFed(tx, out, events[id])
}

// Add sets a vat up.
func (s *Service) Add(ctx context.Context, in api.VesselPlan) (*api.Vessel, error) {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return nil, err
	}
	row := &store.Vessel{ID: store.NewID()}
	if err := take(row, in, s.Now()); err != nil {
		return nil, err
	}
	var out *api.Vessel
	err := s.Store.Tx(ctx, func(tx *store.Tx) (err error) {
		if err := hasFormula(tx, row); err != nil {
			return err
		}
		if err := tx.AddVessel(row); err != nil {
			return err
		}
		if out, err = s.read(tx, row.ID); err != nil {
			return err
		}
		return tx.Announce("rack", row.ID)
	})
	return out, err
}

// take takes over how a vat is kept.
func take(row *store.Vessel, in api.VesselPlan, now time.Time) error {
	row.Name, row.CapacityML, row.Note = strings.TrimSpace(in.Name), in.CapacityMl, strings.TrimSpace(in.Note)
	row.StirEveryDays, row.FirstDrawDays, row.RestDays = in.StirEveryDays, in.FirstDrawDays, in.RestDays
	row.FormulaID = nil
	if in.Formula != uuid.Nil {
		row.FormulaID = &in.Formula
	}
	if row.Name == "" {
		return problem.Unfit("bad-value", "Give the vat a name.").At("name")
	}
	if in.PutAway != (row.PutAwayAt != nil) {
		row.PutAwayAt = nil
		if in.PutAway {
			row.PutAwayAt = &now
		}
	}
	return nil
}

// Keep changes how a vat is kept, puts it away, or brings it back.
func (s *Service) Keep(ctx context.Context, id uuid.UUID, in api.VesselPlan) (*api.Vessel, error) {
	return s.change(ctx, id, func(tx *store.Tx, row *store.Vessel, events []store.VesselEvent, _ tenant.Actor) error {
		if err := take(row, in, s.Now()); err != nil {
			return err
		}
		if err := hasFormula(tx, row); err != nil {
			return err
		}
		plan := row.Plan()
		if err := plan.Check(store.Happened(events)); err != nil {
			return refused(err, "capacity_ml")
		}
		return tx.SaveVessel(row)
	})
}

// Do feeds, draws or stirs a vat. What was done earlier and is written down late
// is put where it belongs.
func (s *Service) Do(ctx context.Context, id uuid.UUID, in api.VesselAct) (*api.Vessel, error) {
	var drawn *drawnBatch
	if in.Rests {
		var err error
		if drawn, err = s.readyToRest(ctx, id, in); err != nil {
			return nil, err
		}
	}
	return s.change(ctx, id, func(tx *store.Tx, row *store.Vessel, events []store.VesselEvent, a tenant.Actor) error {
		now := s.Now()
		e := store.VesselEvent{Text: strings.TrimSpace(in.Text), Event: vessel.Event{At: now, ML: in.Ml, SugarG: in.SugarG, PeelG: in.PeelG}}
		var err error
		if e.Kind, err = vessel.ParseKind(string(in.Kind)); err != nil {
			return problem.Unfit("bad-value", "%v", err).At("kind")
		}
		if !in.At.IsZero() {
			e.At = in.At
		}
		switch {
		case row.PutAwayAt != nil:
			return problem.Clash("put-away", "%s was put away: bring it back first.", row.Name)
		case e.At.After(now.Add(time.Minute)):
			return problem.Unfit("bad-value", "That is still to come: say when it was done.").At("at")
		case e.Kind == vessel.Drawn && e.ML <= 0, e.Kind == vessel.Fed && e.ML <= 0 && e.SugarG <= 0 && e.PeelG <= 0 && len(in.From) == 0:
			return problem.Unfit("bad-value", "Say how much.").At("ml")
		}
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		fed, err := feed(tx, set, in, &e)
		if err != nil {
			return err
		}
		plan := row.Plan()
		if err := plan.Check(store.Happened(append(slices.Clone(events), e))); err != nil {
			return refused(err, "ml")
		}
		if drawn != nil {
			if err := drawn.takeFrom(tx, events, e); err != nil {
				return err
			}
			if err := drawn.begin(tx, a, e.At); err != nil {
				return err
			}
			e.Batch = &drawn.row.ID
		}
		event, err := tx.AddVesselEvent(id, e, a.Person, now)
		if err != nil {
			return err
		}
		return outOfLots(tx, row, fed, event, e.At, a.Person)
	})
}

// Undo takes back what was done to a vat; it stays in the log.
func (s *Service) Undo(ctx context.Context, id uuid.UUID, event int64) (*api.Vessel, error) {
	return s.change(ctx, id, func(tx *store.Tx, row *store.Vessel, events []store.VesselEvent, a tenant.Actor) error {
		i := slices.IndexFunc(events, func(e store.VesselEvent) bool { return e.ID == event })
		if i < 0 {
			return problem.Missing("not-found", "There is no such event of this vat.")
		}
		if events[i].Undone {
			return nil // it is so already
		}
		if of := events[i].Batch; of != nil {
			batch, err := tx.Making(*of)
			if err != nil {
				return err
			}
			if batch.State() != making.Abandoned {
				return problem.Clash("needed", "What was drawn became batch %s: abandon that first.", batch.Code).At("event")
			}
		}
		if err := backIntoLots(tx, row, &events[i], s.Now(), a.Person); err != nil {
			return err
		}
		events[i].Undone = true
		plan := row.Plan()
		if err := plan.Check(store.Happened(events)); err != nil {
			return refused(err, "event")
		}
		return tx.UndoVesselEvent(id, event, a.Person, s.Now())
	})
}

// change does something to a vat that is locked, and shows it then.
func (s *Service) change(ctx context.Context, id uuid.UUID, f func(*store.Tx, *store.Vessel, []store.VesselEvent, tenant.Actor) error) (*api.Vessel, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	var out *api.Vessel
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		row, err := tx.LockVessel(id)
		if err != nil {
			return tenant.Explain(err, "vat")
		}
		events, err := tx.VesselEvents(id)
		if err != nil {
			return err
		}
		if err := f(tx, row, events[id], a); err != nil {
			return err
		}
		if out, err = s.read(tx, id); err != nil {
			return err
		}
		return tx.Announce("rack", id)
	})
	return out, err
}

// refused is what cannot be done to a vat, as a problem of a field.
func refused(err error, field string) error {
	var short *vessel.Short
	var over *vessel.Overflow
	if errors.As(err, &short) || errors.As(err, &over) {
		text := err.Error()
		return problem.Unfit("bad-value", "%s.", strings.ToUpper(text[:1])+text[1:]).At(field)
	}
	return err
}

// show puts a vat into the words of the contract.
func show(row *store.Vessel, events []store.VesselEvent, air curing.Air, now time.Time) (*api.Vessel, error) {
	happened := store.Happened(events)
	left, draws, err := vessel.Follow(happened)
	if err != nil {
		return nil, err
	}
	days := func(d time.Duration) float64 { return d.Hours() / 24 }
	plan := row.Plan()
	out := &api.Vessel{Id: row.ID, Name: row.Name, CapacityMl: row.CapacityML, StirEveryDays: row.StirEveryDays, FirstDrawDays: row.FirstDrawDays, RestDays: row.RestDays, Note: row.Note,
		PutAway: row.PutAwayAt != nil, LevelMl: left.ML(), MeanAgeDays: days(left.MeanAge(now)), YoungestTenthDays: days(left.Youngest(0.1, now)),
		YoungShare: left.ShareYounger(vessel.Ripe, now), GasAtMostL: vessel.GasAtMostL(happened), Advice: left.Advice(now), Due: []api.VesselDue{}, Events: make([]api.VesselEvent, len(events))}
	if air.Celsius != 0 {
		out.GasPerDayL, out.Warmth = vessel.GasPerDayL(happened, now, air.Celsius), vessel.PaceAdvice(air.Celsius)
	}
	if row.FormulaID != nil {
		out.Formula = *row.FormulaID
	}
	if row.PutAwayAt == nil {
		for _, d := range plan.Due(happened) {
			out.Due = append(out.Due, api.VesselDue{What: d.What, At: d.At, Late: d.At.Before(now)})
		}
	}
	for _, b := range left.Bands(now) {
		out.Ages = append(out.Ages, api.AgeBand{Name: b.Name, Share: b.Share, Ml: b.Share * out.LevelMl})
	}
	drawn := 0
	of := map[int]vessel.Content{} // what a draw took, by the place of its event in time
	for i, e := range happened {
		if e.Kind == vessel.Drawn {
			of[i] = draws[drawn]
			drawn++
		}
	}
	for i, e := range events {
		out.Events[i] = api.VesselEvent{Id: e.ID, Kind: api.VesselEventKind(e.Kind.String()), At: e.At, By: e.By, Ml: e.ML, SugarG: e.SugarG, PeelG: e.PeelG, Text: e.Text, Undone: e.Undone, Given: e.Given, Unknown: e.Kind == vessel.Fed && !e.IsKnown()}
		if e.Batch != nil {
			out.Events[i].Batch = *e.Batch
		}
		if at := slices.Index(happened, e.Event); e.Kind == vessel.Drawn && !e.Undone && at >= 0 {
			out.Events[i].MeanAgeDays, out.Events[i].YoungShare = days(of[at].MeanAge(e.At)), of[at].ShareYounger(vessel.Ripe, e.At)
		}
	}
	return out, nil
}
