package workshop

import (
	"context"
	"math"
	"net/http"
	"slices"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/assess"
	"keencrock/core/costing"
	"keencrock/core/formula"
	"keencrock/internal/exchange"
	"keencrock/internal/store"
)

// Finish draws the lots down and fills the jars.
func (s *Service) Finish(ctx context.Context, id uuid.UUID, in api.Finish) (*api.Batch, error) {
	a, err := may(ctx, Maker)
	if err != nil {
		return nil, err
	}
	if in.Jars < 1 {
		return nil, api.NewProblem(http.StatusUnprocessableEntity, "bad-value", "A finished batch fills at least one jar.").At("jars")
	}
	return s.end(ctx, id, func(tx *store.Tx, b *store.Batch) error {
		batch, err := s.batchOf(tx, id)
		if err != nil {
			return err
		}
		if err := s.leaveOutTheRest(tx, a, b, batch); err != nil {
			return err
		}
		if next := batch.NextLine; next != nil {
			return api.NewProblem(http.StatusUnprocessableEntity, "not-weighed", "%s is not weighed out yet: %s of %s.",
				batch.Lines[*next].Name, formula.Grams(batch.Lines[*next].WeighedG, 1), formula.Grams(batch.Lines[*next].TargetG, 1))
		}
		if batch.WeighedG <= costing.MassTolerance {
			return api.NewProblem(http.StatusUnprocessableEntity, "not-weighed", "Nothing is weighed out yet: weigh something, or abandon the batch.")
		}
		cost, used, err := s.drawDown(tx, a, b, "drawn", "")
		if err != nil {
			return err
		}
		if err := s.fillJars(tx, b, batch, in.Jars, cost); err != nil {
			return err
		}
		if err := s.setBestBefore(tx, b, used); err != nil {
			return err
		}
		b.State = "finished"
		return tx.AddBatchEvent(&store.BatchEvent{BatchID: id, Kind: "finished", Text: in.Note, PersonID: a.Person, At: *b.FinishedAt})
	})
}

// leaveOutTheRest leaves out the optional lines of which nothing was weighed.
func (s *Service) leaveOutTheRest(tx *store.Tx, a Actor, b *store.Batch, batch *api.Batch) error {
	for i := range batch.Lines {
		l := &batch.Lines[i]
		if !l.Optional || formula.WeighStatus(l.Status) != formula.Waiting {
			continue
		}
		l.Status = api.BatchLineStatus(formula.LeftOut)
		if err := tx.AddBatchEvent(&store.BatchEvent{BatchID: b.ID, Kind: "left-out", Line: &l.Line, PersonID: a.Person, At: *b.FinishedAt}); err != nil {
			return err
		}
	}
	batch.NextLine = nextLine(batch.Lines)
	return nil
}

// Abandon stops a batch. What was weighed goes back to the bags, or is drawn
// from stock when it was thrown away.
func (s *Service) Abandon(ctx context.Context, id uuid.UUID, in api.Abandon) (*api.Batch, error) {
	a, err := may(ctx, Maker)
	if err != nil {
		return nil, err
	}
	return s.end(ctx, id, func(tx *store.Tx, b *store.Batch) error {
		if in.Discarded {
			cost, _, err := s.drawDown(tx, a, b, "discarded", in.Reason)
			if err != nil {
				return err
			}
			b.Cost = cost
		}
		b.State = "abandoned"
		return tx.AddBatchEvent(&store.BatchEvent{BatchID: id, Kind: "abandoned", Text: in.Reason, PersonID: a.Person, At: *b.FinishedAt})
	})
}

// end closes an open batch by what f does to it.
func (s *Service) end(ctx context.Context, id uuid.UUID, f func(*store.Tx, *store.Batch) error) (*api.Batch, error) {
	var out *api.Batch
	err := s.store.Tx(ctx, func(tx *store.Tx) error {
		b, err := tx.LockBatch(id)
		if err != nil {
			return said(err, "batch")
		}
		if b.State != "weighing" {
			return closed(b)
		}
		now := s.now()
		b.FinishedAt = &now
		if err := f(tx, b); err != nil {
			return err
		}
		if err := tx.SaveBatchEnd(b); err != nil {
			return err
		}
		if out, err = s.batchOf(tx, id); err != nil {
			return err
		}
		for _, topic := range []string{"batches", "shelf", "pantry"} {
			if err := tx.Announce(topic, id); err != nil {
				return err
			}
		}
		return nil
	})
	return out, err
}

// drawDown takes what was weighed out of the lots, at what it cost.
func (s *Service) drawDown(tx *store.Tx, a Actor, b *store.Batch, kind, reason string) (decimal.Decimal, []*store.Lot, error) {
	total := decimal.Zero
	events, err := tx.BatchEvents(b.ID)
	if err != nil {
		return total, nil, err
	}
	w := sumWeighings(events)
	var ids []uuid.UUID
	for _, o := range w.order {
		ids = append(ids, o.lot)
	}
	if err := tx.LockLots(ids); err != nil {
		return total, nil, err
	}
	lots, err := tx.LotsByID(ids)
	if err != nil {
		return total, nil, err
	}
	var used []*store.Lot
	for _, o := range w.order {
		grams, lot := w.ofLot[o.line][o.lot], lots[o.lot]
		if grams <= costing.MassTolerance {
			continue
		}
		if grams > lot.RemainingG+costing.MassTolerance {
			return total, nil, api.NewProblem(http.StatusConflict, "short-lot",
				"Lot %s has %g g left on paper, but %g g were weighed from it. Count the lot on the shelf, then finish.", lot.Code, lot.RemainingG, grams)
		}
		c := costingLot(lot)
		c.RemainingG = lot.RemainingG
		cost := c.Cost(grams)
		line := o.line
		if err := tx.Move(&store.Movement{LotID: lot.ID, Kind: kind, Grams: -grams, Cost: cost, BatchID: &b.ID, Line: &line, Reason: reason, PersonID: a.Person, At: *b.FinishedAt}); err != nil {
			return total, nil, err
		}
		lot.RemainingG -= grams
		total = total.Add(cost)
		if !slices.Contains(used, lot) {
			used = append(used, lot)
		}
	}
	return total, used, nil
}

func (s *Service) fillJars(tx *store.Tx, b *store.Batch, batch *api.Batch, count int, cost decimal.Decimal) error {
	netG := batch.WeighedG * (1 - b.Loss)
	b.Jars, b.Cost = count, cost
	b.ContainerEachG = math.Round(1000*netG/float64(count)) / 1000
	weights := make([]float64, count)
	for i := range weights {
		weights[i] = 1
	}
	costs, err := costing.Split(cost, weights)
	if err != nil {
		return err
	}
	jars := make([]store.Jar, count)
	for i := range jars {
		jars[i] = store.Jar{ID: store.NewID(), BatchID: b.ID, Number: i + 1, Grams: b.ContainerEachG, Cost: costs[i]}
	}
	return tx.AddJars(jars)
}

func (s *Service) setBestBefore(tx *store.Tx, b *store.Batch, used []*store.Lot) error {
	set, err := s.settings(tx)
	if err != nil {
		return err
	}
	stored, err := storedFormula(tx, b.FormulaID, b.FormulaVersion)
	if err != nil {
		return err
	}
	events, err := tx.BatchEvents(b.ID)
	if err != nil {
		return err
	}
	f, _ := exchange.ToFormula(&stored.File)
	f.MeasuredPH = measuredOf(events)
	limit := bestBefore(dayOf(*b.FinishedAt), assess.Formula(f, set.lib, assess.Options{Workshop: set.tools()}), used, set)
	b.BestBefore, b.BestBeforeReason = &limit.Date, limit.Reason
	return nil
}
