package bench

import (
	"context"
	"encoding/json"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/keeping"
	"keencrock/core/making"
	"keencrock/core/stock"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// Finish fills what is left to fill, or puts it onto the shelf as it is, and closes
// the batch.
func (s *Service) Finish(ctx context.Context, id uuid.UUID, in api.Finish) (*api.Batch, error) {
	return s.end(ctx, id, func(tx *store.Tx, b *tenant.Batch, a tenant.Actor) error {
		if !b.State.IsOpen() { // said before what is wrong with the jars
			return b.ReadyToPack()
		}
		if in.Jars < 1 && !in.Bulk && b.Jars() == 0 {
			return problem.Unfit("bad-value", "A finished batch fills at least one jar.").At("jars")
		}
		for _, line := range b.Optionals() { // what was not wanted is left out
			if err := s.record(tx, b, a, making.Event{Kind: making.Skipped, Line: line, Step: making.NoStep}, uuid.Nil); err != nil {
				return err
			}
		}
		if err := b.ReadyToPack(); err != nil {
			return err
		}
		switch {
		case in.Bulk:
			if err := s.shelve(tx, a, b, in); err != nil {
				return err
			}
		case in.Jars > 0:
			each := in.EachG
			if each == 0 {
				each = making.Fill(b.LikelyG(b.Row.Loss), 0, in.Jars)
			}
			if err := s.pack(tx, a, b, api.Pack{Jars: in.Jars, EachG: each, Pieces: in.Pieces, Container: in.Container}); err != nil {
				return err
			}
		}
		if err := s.settle(tx, a, b); err != nil {
			return err
		}
		if err := tx.StampLibrary(); err != nil { // it can go into others now
			return err
		}
		done := making.Happening(making.Completed)
		done.Text = in.Note
		return s.record(tx, b, a, done, uuid.Nil)
	})
}

// Abandon stops a batch. What was weighed goes back to the bags, or is drawn
// from stock when it was thrown away.
func (s *Service) Abandon(ctx context.Context, id uuid.UUID, in api.Abandon) (*api.Batch, error) {
	return s.end(ctx, id, func(tx *store.Tx, b *tenant.Batch, a tenant.Actor) error {
		e := making.Happening(making.GivenUp)
		e.Text = in.Reason
		if err := b.Check(e); err != nil {
			return err
		}
		switch {
		case b.Jars() > 0: // its lots are drawn down: what is packed stays a good
			if err := s.settle(tx, a, b); err != nil {
				return err
			}
		case in.Discarded:
			cost, _, err := s.drawDown(tx, a, b, stock.Discarded, in.Reason)
			if err != nil {
				return err
			}
			ofVat, err := tx.VatCost(b.Row.ID)
			if err != nil {
				return err
			}
			b.Row.Cost = cost.Add(ofVat)
		}
		return s.record(tx, b, a, e, uuid.Nil)
	})
}

// end closes an open batch by what f does to it.
func (s *Service) end(ctx context.Context, id uuid.UUID, f func(*store.Tx, *tenant.Batch, tenant.Actor) error) (*api.Batch, error) {
	return s.change(ctx, id, func(tx *store.Tx, b *tenant.Batch, a tenant.Actor) error {
		now := s.Now()
		wasOpen := b.State.IsOpen()
		if err := f(tx, b, a); err != nil {
			return err
		}
		if wasOpen {
			b.Row.EndedAt = &now
		}
		b.Row.StateName = b.State.String()
		b.CountWork()
		if err := tx.SaveMakingEnd(b.Row); err != nil {
			return err
		}
		return announceGoods(tx, id)
	})
}

// announceGoods says that bags and goods are not as they were.
func announceGoods(tx *store.Tx, batch uuid.UUID) error {
	if err := tx.Announce("shelf", batch); err != nil {
		return err
	}
	return tx.Announce("pantry", batch)
}

// drawDown takes what was weighed out of the lots, at what it cost.
func (s *Service) drawDown(tx *store.Tx, a tenant.Actor, b *tenant.Batch, kind stock.MovementKind, reason string) (decimal.Decimal, []wentIn, error) {
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
	var used []wentIn
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
		m := stock.Movement{Lot: lot.ID, Kind: kind, Quantity: -share.Grams, Cost: cost, Making: stock.ID(b.Row.ID), Line: &share.Line, Reason: reason, At: s.Now()}
		if err := tx.Move(&m, a.Person); err != nil {
			return total, nil, err
		}
		if err := emptyJars(tx, pieces[lot.ID], share.Grams, b); err != nil {
			return total, nil, err
		}
		lot.Remaining = stock.Round(lot.Remaining - share.Grams)
		total = total.Add(cost)
		used = append(used, wentIn{lot, share.Grams})
	}
	return total, used, tx.ReleaseHeld(b.Row.ID)
}

// emptyJars takes what was drawn of a good out of its jars.
func emptyJars(tx *store.Tx, pieces []stock.Piece, grams float64, b *tenant.Batch) error {
	if len(pieces) == 0 {
		return nil
	}
	taken, err := stock.TakeFromPieces(pieces, grams, b.Set.Today)
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

// open draws the lots of a batch down before its first jar is filled, and dates what
// becomes of it.
func (s *Service) open(tx *store.Tx, a tenant.Actor, b *tenant.Batch) error {
	cost, used, err := s.drawDown(tx, a, b, stock.Drawn, "")
	if err != nil {
		return err
	}
	ofVat, err := tx.VatCost(b.Row.ID)
	if err != nil {
		return err
	}
	b.Row.Cost = cost.Add(ofVat)
	// from today: what has to ripen or cure has done so by now
	limit := bestBefore(b.Set, b.Assessed.Class.Keeping(), b.Assessed, used, b.WeighedG())
	seen, err := tenant.SeenKeepings(tx)
	if err != nil {
		return err
	}
	if k, ok := seen[b.Row.FormulaID]; ok && !k.AsUsual {
		if shorter := keeping.BySample(b.Set.Today, k.Code, k.Days); shorter.Date.Before(limit.Date) {
			limit = shorter
		}
	}
	b.Row.BestBefore, b.Row.BestBeforeReason = &limit.Date, limit.Reason
	if b.By.FromVessel == "" { // what was drawn is made of what its formula is
		b.Assessed.MadeOf = madeOf(b)
	}
	b.Row.Assessed, err = json.Marshal(b.Assessed)
	return err
}
