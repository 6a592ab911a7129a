package bench

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/making"
	"keencrock/core/quantity"
	"keencrock/core/stock"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// Weigh records one weighing. It is saved when this returns.
func (s *Service) Weigh(ctx context.Context, id uuid.UUID, in api.Weighing) (*api.Batch, error) {
	return s.change(ctx, id, func(tx *store.Tx, b *tenant.Batch, a tenant.Actor) error {
		if in.Key != uuid.Nil {
			seen, err := tx.HasEvent(id, in.Key)
			if err != nil || seen { // sent twice: the answer to the first may have been lost
				return err
			}
		}
		if err := s.checkTime(b, in.At); err != nil {
			return err
		}
		e := making.Event{Kind: making.Weighed, Line: in.Line, Step: making.NoStep, Grams: stock.Round(in.Grams), At: in.At}
		if e.Grams < 0 {
			e.Kind = making.TookOut
		}
		if err := b.Check(making.Event{Kind: making.Weighed, Line: in.Line, Step: making.NoStep, Grams: max(e.Grams, -e.Grams)}); err != nil {
			return err // no such line, or nothing weighed: before a lot is looked for
		}
		l := &b.Lines[in.Line]
		if l.Unstocked {
			return s.record(tx, b, a, e, in.Key)
		}
		lot, err := findLot(tx, b, l, in)
		if err != nil {
			return err
		}
		e.Lot, e.LotCode = lot.ID, lot.Code
		if available := lot.Available(); e.Grams > available+stock.Tolerance {
			return tooLittle(tx, b, l, lot)
		}
		if err := s.record(tx, b, a, e, in.Key); err != nil {
			return err
		}
		if err := tx.Hold(id, in.Line, lot.ID, b.OfLot(in.Line, lot.ID)); err != nil {
			return err
		}
		if lot.Opened.IsZero() && e.Grams > 0 {
			lot.Opened = b.Set.Today
			return tx.SaveLotMarks(lot)
		}
		return nil
	})
}

// findLot finds the lot a weighing is from, locked, and refuses a wrong one,
// saying what to do.
func findLot(tx *store.Tx, b *tenant.Batch, l *making.Line, in api.Weighing) (*stock.Lot, error) {
	refuse := func(code, detail string, args ...any) error {
		return problem.Unfit(code, detail, args...).At("lot")
	}
	written := strings.TrimSpace(in.Lot)
	if written == "" {
		return nil, refuse("lot-missing", "Which lot of %s is it from? Give the code on the bag.", l.Name)
	}
	found, err := tenant.LotsNamed(tx, written)
	if err != nil {
		return nil, err
	}
	if len(found) == 0 {
		return nil, refuse("unknown-lot", "There is no lot %s. %s", written, rightLots(tx, b, l))
	}
	i := slices.IndexFunc(found, func(lot stock.Lot) bool { return lot.Item == l.Item })
	if i < 0 {
		other := b.Set.NameOf(found[0].Item)
		return nil, refuse("wrong-lot", "Lot %s is %s, not %s. Put it back. %s", found[0].Code, strings.ToLower(other), strings.ToLower(l.Name), rightLots(tx, b, l))
	}
	if err := tx.LockLots([]stock.ID{found[i].ID}); err != nil {
		return nil, err
	}
	lot, err := tx.Lot(found[i].ID) // as it stands now that it is locked
	if err != nil {
		return nil, err
	}
	if lot.SetAside {
		return nil, refuse("lot-set-aside", "Lot %s was set aside. %s", lot.Code, rightLots(tx, b, l))
	}
	if lot.PastOn(b.Set.Today) && !in.AcceptPast && in.Grams > 0 {
		return nil, refuse("lot-past", "Lot %s was good until %s. Use a fresher one, or look and smell, and accept it all the same.", lot.Code, lot.BestBefore.Format("2 January 2006"))
	}
	return lot, nil
}

// goodLots are the lots of a line's item that may be drawn on, the one to open
// first in front.
func goodLots(tx *store.Tx, b *tenant.Batch, l *making.Line) ([]stock.Lot, error) {
	lots, err := tx.Stock(l.Item)
	slices.SortFunc(lots, func(x, y stock.Lot) int { return stock.FirstExpiredFirst(&x, &y) })
	return slices.DeleteFunc(lots, func(lot stock.Lot) bool {
		return !lot.UsableOn(b.Set.Today) || lot.Available() <= stock.Tolerance
	}), err
}

// rightLots says where a line's item is to be had.
func rightLots(tx *store.Tx, b *tenant.Batch, l *making.Line) string {
	lots, err := goodLots(tx, b, l)
	if err != nil {
		return ""
	}
	if len(lots) == 0 {
		return fmt.Sprintf("There is no good lot of %s on the shelf.", strings.ToLower(l.Name))
	}
	codes := make([]string, len(lots))
	for i := range lots {
		codes[i] = lots[i].Code
	}
	name := strings.ToUpper(l.Name[:1]) + l.Name[1:]
	return fmt.Sprintf("%s is in lot %s.", name, strings.Join(codes, " or "))
}

// tooLittle is the problem of a lot that does not hold what was weighed.
func tooLittle(tx *store.Tx, b *tenant.Batch, l *making.Line, lot *stock.Lot) error {
	lots, err := goodLots(tx, b, l)
	if err != nil {
		return err
	}
	rest := "another bag"
	if i := slices.IndexFunc(lots, func(other stock.Lot) bool { return other.ID != lot.ID }); i >= 0 {
		rest = "lot " + lots[i].Code
	}
	return problem.Unfit("short-lot", "Lot %s has only %s left. Weigh that from it, then the rest from %s.",
		lot.Code, quantity.FormatGrams(lot.Available(), 0.1), rest).At("grams")
}

// LeaveOut leaves an optional line of a batch out, or takes it in again.
func (s *Service) LeaveOut(ctx context.Context, id uuid.UUID, in api.LeaveOut) (*api.Batch, error) {
	return s.change(ctx, id, func(tx *store.Tx, b *tenant.Batch, a tenant.Actor) error {
		e := making.Event{Kind: making.TakenIn, Line: in.Line, Step: making.NoStep}
		if in.Out {
			e.Kind = making.Skipped
		}
		if err := b.Check(making.Event{Kind: making.TakenIn, Line: in.Line, Step: making.NoStep}); err != nil {
			return err
		}
		if status, _ := b.Status(in.Line); (status == making.LeftOut) == in.Out {
			return nil // it is so already
		}
		return s.record(tx, b, a, e, uuid.Nil)
	})
}

// Note logs a remark.
func (s *Service) Note(ctx context.Context, id uuid.UUID, in api.BatchNote) (*api.Batch, error) {
	return s.change(ctx, id, func(tx *store.Tx, b *tenant.Batch, a tenant.Actor) error {
		if err := s.checkTime(b, in.At); err != nil {
			return err
		}
		return s.record(tx, b, a, making.Event{Kind: making.Noted, Line: making.NoLine, Step: making.NoStep, Text: in.Text, At: in.At}, uuid.Nil)
	})
}

// Correct puts a weighing or a note right; what it was stays in the log.
func (s *Service) Correct(ctx context.Context, id uuid.UUID, in api.BatchCorrection) (*api.Batch, error) {
	return s.change(ctx, id, func(tx *store.Tx, b *tenant.Batch, a tenant.Actor) error {
		e := making.Event{Kind: making.Amended, Line: making.NoLine, Step: making.NoStep, Grams: stock.Round(in.Grams), Text: in.Text}
		var was *making.Event
		if all := b.Events(); in.Event <= len(all) {
			e.Corrects = all[in.Event-1].ID
			was = b.Event(e.Corrects)
		}
		if was == nil || was.Lot.IsZero() {
			return s.record(tx, b, a, e, uuid.Nil)
		}
		if err := tx.LockLots([]stock.ID{was.Lot}); err != nil {
			return err
		}
		lot, err := tx.Lot(was.Lot)
		if err != nil {
			return err
		}
		if more := e.Grams - was.Grams; b.State.IsOpen() && more > lot.Available()+stock.Tolerance {
			return tooLittle(tx, b, &b.Lines[was.Line], lot)
		}
		if err := s.record(tx, b, a, e, uuid.Nil); err != nil {
			return err
		}
		return tx.Hold(id, was.Line, was.Lot, b.OfLot(was.Line, was.Lot))
	})
}

// Measure logs a pH that was measured of the batch. It stands in place of what is
// worked out from now on, until another is measured. What follows from it is
// worked out before the batch is locked.
func (s *Service) Measure(ctx context.Context, id uuid.UUID, in api.MeasuredPh) (*api.Batch, error) {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return nil, err
	}
	ph := &stock.Measured{PH: in.Ph, With: string(in.With)}
	var assessed *tenant.Snapshot
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		row, err := tx.Making(id)
		if err != nil {
			return tenant.Explain(err, "batch")
		}
		b, err := tenant.LoadBatch(tx, set, row)
		if err != nil {
			return err
		}
		assessed = tenant.AssessFile(&b.By.File, set, ph)
		return nil
	})
	if err != nil {
		return nil, err
	}
	return s.change(ctx, id, func(tx *store.Tx, b *tenant.Batch, a tenant.Actor) error {
		if err := s.record(tx, b, a, making.Event{Kind: making.Measured, Line: making.NoLine, Step: making.NoStep, PH: ph}, uuid.Nil); err != nil {
			return err
		}
		assessed.MadeOf = b.Assessed.MadeOf // what went in stays what it was
		b.Assessed = assessed
		content, err := json.Marshal(assessed)
		if err != nil {
			return err
		}
		if err := tx.SaveAssessed(id, content); err != nil || b.State != making.Finished {
			return err
		}
		return tx.StampLibrary() // it goes into others
	})
}
