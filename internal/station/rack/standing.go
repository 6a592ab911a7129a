package rack

import (
	"context"
	"slices"
	"strings"
	"time"

	"keencrock/api"
	"keencrock/core/curing"
	"keencrock/core/formula"
	"keencrock/core/making"
	"keencrock/core/vessel"
	"keencrock/internal/exchange"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// Standing lists what stands and waits to be packed, by what is due next, and the
// timers of every batch.
func (s *Service) Standing(ctx context.Context) (*api.Rack, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	now := s.Now()
	out := &api.Rack{Now: now, Standing: []api.Standing{}, Timers: []api.RackTimer{},
		UsualVat: api.UsualVat{StirEveryDays: vessel.Usual.StirEveryDays, FirstDrawDays: vessel.Usual.FirstDrawDays, RestDays: vessel.Usual.RestDays}}
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		open, err := s.OpenBatches(tx, set)
		if err != nil {
			return err
		}
		air, err := s.air(tx)
		if err != nil {
			return err
		}
		for _, b := range open {
			for _, t := range b.Timers() {
				out.Timers = append(out.Timers, api.RackTimer{Batch: b.Row.ID, Code: b.Code, BatchName: b.Row.Name, Event: seqOf(b, t.ID), Step: t.Step,
					Name: b.Steps[t.Step].Kind.Info().Name, Set: t.Set, Ends: t.Ends})
			}
			if b.State == making.Standing || b.State == making.Packing {
				out.Standing = append(out.Standing, standing(b, air, now))
			}
		}
		return nil
	})
	slices.SortStableFunc(out.Timers, func(a, b api.RackTimer) int { return a.Ends.Compare(b.Ends) })
	slices.SortStableFunc(out.Standing, func(a, b api.Standing) int { return soonest(&a).Compare(soonest(&b)) })
	return out, err
}

// seqOf is the number of an event in the log of its batch.
func seqOf(b *tenant.Batch, id int64) int {
	return 1 + slices.IndexFunc(b.Events(), func(e making.Event) bool { return e.ID == id })
}

// soonest is when something that stands is due next; a weighing that is only asked
// for does not press.
func soonest(s *api.Standing) time.Time {
	for _, d := range s.Due {
		if d.Kind != api.WeighIn {
			return d.At
		}
	}
	return s.Since.AddDate(100, 0, 0)
}

// standing is a batch that stands, in the words of the contract.
func standing(b *tenant.Batch, air curing.Air, now time.Time) api.Standing {
	step, at := b.Step()
	if !at {
		step = len(b.Steps) - 1
	}
	of := &b.Steps[step]
	out := api.Standing{Batch: b.Row.ID, Code: b.Code, Name: b.Row.Name, State: api.StandingState(b.State.String()), Shape: shapeOf(b, step), Step: step, StepName: of.Kind.Info().Name,
		What: of.Text, Looks: making.Looks(of.Kind), Since: b.Since(step), ByWeight: of.ByWeight, Pieces: b.Pieces(), WeighedG: b.WeighedG(), Due: exchange.Due(b.Due(now), now)}
	if from, to := b.ReadyAt(step); !from.IsZero() {
		out.ReadyFrom, out.ReadyTo = from, to
		if whole := from.Sub(out.Since); whole > 0 {
			out.Share = min(1, max(0, float64(now.Sub(out.Since))/float64(whole)))
		}
	}
	if weighings, f := b.DryingAt(step); len(weighings) > 0 {
		out.Says = f.State.Advice()
	}
	switch {
	case out.Says == "" && of.Kind == formula.Dry:
		out.Says = air.Hinders(b.DrinksAbove())
	case of.Kind == formula.Ferment && air.Celsius != 0:
		out.Says = vessel.PaceAdvice(air.Celsius)
	}
	return out
}

// shapes are what a step's things stand in, where its vessel does not say.
var shapes = map[formula.StepKind]api.StandingShape{formula.Dry: api.StandingShapeTray, formula.Infuse: api.StandingShapeJar, formula.Steep: api.StandingShapeJar, formula.Ferment: api.StandingShapeBin, formula.Rest: api.StandingShapeBottle,
	formula.Cool: api.StandingShapePot, formula.Stand: api.StandingShapePot, formula.Fill: api.StandingShapeBench}

// vesselShapes are what vessels look like, by a word of their name.
var vesselShapes = []struct {
	word  string
	shape api.StandingShape
}{{"jar", api.StandingShapeJar}, {"bottle", api.StandingShapeBottle}, {"bin", api.StandingShapeBin}, {"bucket", api.StandingShapeBin}, {"crock", api.StandingShapeBin}, {"pot", api.StandingShapePot}, {"pan", api.StandingShapePot}, {"bowl", api.StandingShapePot}, {"tray", api.StandingShapeTray}}

func shapeOf(b *tenant.Batch, step int) api.StandingShape {
	of := &b.Steps[step]
	for _, v := range vesselShapes {
		if strings.Contains(strings.ToLower(of.Vessel), v.word) {
			return v.shape
		}
	}
	if shape, ok := shapes[of.Kind]; ok {
		return shape
	}
	return api.StandingShapeJar
}
