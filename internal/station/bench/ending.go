package bench

import (
	"context"
	"encoding/json"
	"slices"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/costing"
	"keencrock/core/making"
	"keencrock/core/stock"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// Finish draws the lots down and fills the jars.
func (s *Service) Finish(ctx context.Context, id uuid.UUID, in api.Finish) (*api.Batch, error) {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return nil, err
	}
	if in.Jars < 1 {
		return nil, problem.Unfit("bad-value", "A finished batch fills at least one jar.").At("jars")
	}
	return s.end(ctx, id, func(tx *store.Tx, b *batch, a tenant.Actor) error {
		for _, line := range b.Optionals(b.stepG()) { // what was not wanted is left out
			if err := s.record(tx, b, a, making.Event{Kind: making.Skipped, Line: line}, uuid.Nil); err != nil {
				return err
			}
		}
		if err := b.ReadyToFinish(b.stepG()); err != nil {
			return err
		}
		cost, used, err := s.drawDown(tx, a, b, stock.Drawn, "")
		if err != nil {
			return err
		}
		b.row.Cost = cost
		limit := bestBefore(b.set, b.assessed, used)
		b.row.BestBefore, b.row.BestBeforeReason = &limit.Date, limit.Reason
		if err := s.fill(tx, a, b, in.Jars); err != nil {
			return err
		}
		b.assessed.MadeOf = madeOf(b)
		if b.row.Assessed, err = json.Marshal(b.assessed); err != nil {
			return err
		}
		if err := tx.StampLibrary(); err != nil { // it can go into others now
			return err
		}
		return s.record(tx, b, a, making.Event{Kind: making.Completed, Line: making.NoLine, Text: in.Note}, uuid.Nil)
	})
}

// Abandon stops a batch. What was weighed goes back to the bags, or is drawn
// from stock when it was thrown away.
func (s *Service) Abandon(ctx context.Context, id uuid.UUID, in api.Abandon) (*api.Batch, error) {
	return s.end(ctx, id, func(tx *store.Tx, b *batch, a tenant.Actor) error {
		e := making.Event{Kind: making.GivenUp, Line: making.NoLine, Text: in.Reason}
		if err := b.Check(e); err != nil {
			return err
		}
		if in.Discarded {
			cost, _, err := s.drawDown(tx, a, b, stock.Discarded, in.Reason)
			if err != nil {
				return err
			}
			b.row.Cost = cost
		}
		return s.record(tx, b, a, e, uuid.Nil)
	})
}

// end closes an open batch by what f does to it.
func (s *Service) end(ctx context.Context, id uuid.UUID, f func(*store.Tx, *batch, tenant.Actor) error) (*api.Batch, error) {
	return s.change(ctx, id, func(tx *store.Tx, b *batch, a tenant.Actor) error {
		now := s.Now()
		wasOpen := b.State.IsOpen()
		if err := f(tx, b, a); err != nil {
			return err
		}
		if wasOpen {
			b.row.EndedAt = &now
		}
		b.row.StateName = b.State.String()
		if err := tx.SaveMakingEnd(b.row); err != nil {
			return err
		}
		for _, topic := range []string{"shelf", "pantry"} {
			if err := tx.Announce(topic, id); err != nil {
				return err
			}
		}
		return nil
	})
}

// drawDown takes what was weighed out of the lots, at what it cost.
func (s *Service) drawDown(tx *store.Tx, a tenant.Actor, b *batch, kind stock.MovementKind, reason string) (decimal.Decimal, []*stock.Lot, error) {
	total := decimal.Zero
	ids := b.Lots()
	if err := tx.LockLots(ids); err != nil {
		return total, nil, err
	}
	lots, err := tx.LotsByID(ids)
	if err != nil {
		return total, nil, err
	}
	pieces, err := tx.Pieces(ids...)
	if err != nil {
		return total, nil, err
	}
	var used []*stock.Lot
	for _, share := range b.InBowl() {
		if share.Lot.IsZero() || share.Grams <= stock.Tolerance {
			continue
		}
		lot := lots[share.Lot]
		if share.Grams > lot.Remaining+stock.Tolerance {
			return total, nil, problem.Clash("short-lot",
				"Lot %s has %g g left on paper, but %g g were weighed from it. Count the lot on the shelf, then finish.", lot.Code, lot.Remaining, share.Grams)
		}
		cost := lot.Cost(share.Grams)
		m := stock.Movement{Lot: lot.ID, Kind: kind, Quantity: -share.Grams, Cost: cost, Making: stock.ID(b.row.ID), Line: &share.Line, Reason: reason, At: s.Now()}
		if err := tx.Move(&m, a.Person); err != nil {
			return total, nil, err
		}
		if err := emptyJars(tx, pieces[lot.ID], share.Grams, b); err != nil {
			return total, nil, err
		}
		lot.Remaining = stock.Round(lot.Remaining - share.Grams)
		total = total.Add(cost)
		if !slices.Contains(used, lot) {
			used = append(used, lot)
		}
	}
	return total, used, nil
}

// emptyJars takes what was drawn of a good out of its jars.
func emptyJars(tx *store.Tx, pieces []stock.Piece, grams float64, b *batch) error {
	if len(pieces) == 0 {
		return nil
	}
	taken, err := stock.TakeFromPieces(pieces, grams, b.set.Today)
	if err != nil {
		return problem.Clash("short-lot", "%v: look in the pantry, then finish.", err)
	}
	for i := range pieces {
		if _, changed := taken[pieces[i].ID]; !changed {
			continue
		}
		if err := tx.SavePiece(&pieces[i]); err != nil {
			return err
		}
	}
	return nil
}

// fill puts what was made onto the shelf, as a lot in numbered jars.
func (s *Service) fill(tx *store.Tx, a tenant.Actor, b *batch, jars int) error {
	b.row.Jars, b.row.EachG = jars, making.Fill(b.WeighedG(), b.row.Loss, jars)
	if b.row.EachG <= 0 {
		return problem.Unfit("bad-value", "%d jars are more than there is to fill.", jars).At("jars")
	}
	equal := make([]float64, jars)
	for i := range equal {
		equal[i] = 1
	}
	costs, err := costing.Split(b.row.Cost, equal)
	if err != nil {
		return err
	}
	item := stock.Item{ID: stock.GoodID(b.row.FormulaID.String()), Kind: stock.Good, Unit: stock.InGrams, Name: b.row.Name}
	if err := tx.PutItems(item); err != nil {
		return err
	}
	lot := &stock.Lot{ID: stock.ID(store.NewID()), Item: item.ID, Code: b.row.Code, Original: stock.Round(b.row.EachG * float64(jars)), Landed: b.row.Cost,
		Currency: b.row.Currency, Making: stock.ID(b.row.ID), Received: b.set.Today, BestBefore: *b.row.BestBefore}
	lot.Remaining = lot.Original
	pieces := make([]stock.Piece, jars)
	for i := range pieces {
		pieces[i] = stock.Piece{ID: stock.ID(store.NewID()), Number: i + 1, Original: b.row.EachG, Left: b.row.EachG, Cost: costs[i]}
	}
	return tx.AddMadeLot(lot, pieces, a.Person, s.Now())
}
