package workshop

import (
	"context"
	"errors"
	"fmt"
	"math"
	"net/http"
	"slices"
	"strings"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/costing"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/internal/store"
)

// Weigh records one weighing. It is saved when this returns.
func (s *Service) Weigh(ctx context.Context, id uuid.UUID, in api.Weighing) (*api.Batch, error) {
	a, err := may(ctx, Maker)
	if err != nil {
		return nil, err
	}
	var out *api.Batch
	err = s.store.Tx(ctx, func(tx *store.Tx) error {
		b, err := tx.LockBatch(id)
		if err != nil {
			return said(err, "batch")
		}
		if in.Key != uuid.Nil {
			seen, err := tx.HasBatchEvent(id, in.Key)
			if err != nil {
				return err
			}
			if seen { // sent twice: the answer to the first may have been lost
				out, err = s.batchOf(tx, id)
				return err
			}
		}
		if b.State != "weighing" {
			return closed(b)
		}
		event, err := s.weighing(tx, b, in)
		if err != nil {
			return err
		}
		event.PersonID, event.At = a.Person, s.now()
		if err := tx.AddBatchEvent(event); err != nil {
			return err
		}
		if out, err = s.batchOf(tx, id); err != nil {
			return err
		}
		return tx.Announce("batches", id)
	})
	return out, err
}

// weighing checks a weighing and makes the event of it.
func (s *Service) weighing(tx *store.Tx, b *store.Batch, in api.Weighing) (*store.BatchEvent, error) {
	refuse := func(code, detail string, args ...any) error {
		return api.NewProblem(http.StatusUnprocessableEntity, code, detail, args...)
	}
	lines, err := tx.BatchLines(b.ID)
	if err != nil {
		return nil, err
	}
	if in.Line < 0 || in.Line >= len(lines) {
		return nil, refuse("no-such-line", "Batch %s has %d lines; there is no line %d.", b.Code, len(lines), in.Line+1)
	}
	line := lines[in.Line]
	grams := math.Round(in.Grams*1000) / 1000
	if grams == 0 || math.Abs(grams) > 1e7 || math.IsNaN(grams) {
		return nil, refuse("bad-value", "A weighing is a mass in grams other than nothing.")
	}
	events, err := tx.BatchEvents(b.ID)
	if err != nil {
		return nil, err
	}
	w := sumWeighings(events)
	event := &store.BatchEvent{BatchID: b.ID, Kind: "weighed", Line: &line.Line, Grams: grams}
	if in.Key != uuid.Nil {
		event.Key = &in.Key
	}
	if grams < 0 {
		event.Kind = "took-out"
	}
	if line.Material == unstocked {
		if w.line[line.Line]+grams < -costing.MassTolerance {
			return nil, refuse("too-much-out", "Only %g g were weighed in: no more can be taken out.", w.line[line.Line])
		}
		return event, nil
	}
	lot, err := s.lotForLine(tx, line, in)
	if err != nil {
		return nil, err
	}
	event.LotID = &lot.ID
	if grams < 0 {
		if have := w.ofLot[line.Line][lot.ID]; have+grams < -costing.MassTolerance {
			return nil, refuse("too-much-out", "Only %g g of lot %s are in the bowl: no more can be taken out.", have, lot.Code)
		}
		return event, nil
	}
	if available := lot.AvailableG(); grams > available+costing.MassTolerance {
		return nil, s.shortLot(tx, line, lot, available)
	}
	if lot.Opened == nil {
		today := s.today()
		lot.Opened = &today
		return event, tx.SaveLotMarks(lot)
	}
	return event, nil
}

// lotForLine finds the lot a weighing is from and refuses a wrong one, saying
// what to do.
func (s *Service) lotForLine(tx *store.Tx, line store.BatchLine, in api.Weighing) (*store.Lot, error) {
	refuse := func(code, detail string, args ...any) error {
		return api.NewProblem(http.StatusUnprocessableEntity, code, detail, args...).At("lot")
	}
	written := strings.TrimSpace(in.Lot)
	if written == "" {
		return nil, refuse("lot-missing", "Which lot of %s is it from? Give the code on the bag.", line.Name)
	}
	var found []store.Lot
	if id, err := uuid.Parse(written); err == nil {
		if err := tx.LockLots([]uuid.UUID{id}); err != nil {
			return nil, err
		}
		l, err := tx.Lot(id)
		if err != nil && !errors.Is(err, store.ErrNotFound) {
			return nil, err
		}
		if err == nil {
			found = append(found, *l)
		}
	} else if found, err = tx.LotsByCode(written); err != nil {
		return nil, err
	}
	if len(found) == 0 {
		return nil, refuse("unknown-lot", "There is no lot %s. %s", written, s.rightLots(tx, line))
	}
	i := slices.IndexFunc(found, func(l store.Lot) bool { return l.Material == line.Material })
	if i < 0 {
		set, err := s.settings(tx)
		if err != nil {
			return nil, err
		}
		other := lotOf(&found[0], set, s.today())
		return nil, refuse("wrong-lot", "Lot %s is %s, not %s. Put it back. %s", other.Code, strings.ToLower(other.Name), strings.ToLower(line.Name), s.rightLots(tx, line))
	}
	lot := &found[i]
	if err := tx.LockLots([]uuid.UUID{lot.ID}); err != nil {
		return nil, err
	}
	lot, err := tx.Lot(lot.ID) // as it stands now that it is locked
	if err != nil {
		return nil, err
	}
	if lot.SetAside {
		return nil, refuse("lot-set-aside", "Lot %s was set aside. %s", lot.Code, s.rightLots(tx, line))
	}
	if c := costingLot(lot); c.PastOn(s.today()) && !in.AcceptPast && in.Grams > 0 {
		return nil, refuse("lot-past", "Lot %s was good until %s. Use a fresher one, or look and smell, and accept it all the same.", lot.Code, lot.BestBefore.Format("2 January 2006"))
	}
	return lot, nil
}

// rightLots says where a line's material is to be had.
func (s *Service) rightLots(tx *store.Tx, line store.BatchLine) string {
	stock, err := tx.Stock(line.Material)
	if err != nil {
		return ""
	}
	var codes []string
	for i := range stock {
		c := costingLot(&stock[i])
		if !c.Unusable && !c.PastOn(s.today()) && c.RemainingG > costing.MassTolerance {
			codes = append(codes, stock[i].Code)
		}
	}
	name := strings.ToUpper(line.Name[:1]) + line.Name[1:]
	if len(codes) == 0 {
		return fmt.Sprintf("There is no good lot of %s on the shelf.", strings.ToLower(line.Name))
	}
	return fmt.Sprintf("%s is in lot %s.", name, strings.Join(codes, " or "))
}

func (s *Service) shortLot(tx *store.Tx, line store.BatchLine, lot *store.Lot, available float64) error {
	detail := fmt.Sprintf("Lot %s has only %s left. Weigh that from it, then the rest from another bag.", lot.Code, formula.Grams(available, 0.1))
	stock, err := tx.Stock(line.Material)
	if err != nil {
		return err
	}
	for i := range stock {
		if c := costingLot(&stock[i]); stock[i].ID != lot.ID && !c.Unusable && !c.PastOn(s.today()) && c.RemainingG > 0 {
			detail = fmt.Sprintf("Lot %s has only %s left. Weigh that from it, then the rest from lot %s.", lot.Code, formula.Grams(available, 0.1), stock[i].Code)
			break
		}
	}
	return api.NewProblem(http.StatusUnprocessableEntity, "short-lot", "%s", detail).At("grams")
}

// LeaveOut leaves an optional line of a batch out, or takes it in again.
func (s *Service) LeaveOut(ctx context.Context, id uuid.UUID, in api.LeaveOut) (*api.Batch, error) {
	a, err := may(ctx, Maker)
	if err != nil {
		return nil, err
	}
	var out *api.Batch
	err = s.store.Tx(ctx, func(tx *store.Tx) error {
		b, err := tx.LockBatch(id)
		if err != nil {
			return said(err, "batch")
		}
		if b.State != "weighing" {
			return closed(b)
		}
		batch, err := s.batchOf(tx, id)
		if err != nil {
			return err
		}
		event, err := leavingOut(batch, in)
		if err != nil {
			return err
		}
		if event != nil {
			event.PersonID, event.At = a.Person, s.now()
			if err := tx.AddBatchEvent(event); err != nil {
				return err
			}
		}
		if out, err = s.batchOf(tx, id); err != nil {
			return err
		}
		return tx.Announce("batches", id)
	})
	return out, err
}

// leavingOut is the event of leaving a line out or taking it in; nil when it
// is so already.
func leavingOut(b *api.Batch, in api.LeaveOut) (*store.BatchEvent, error) {
	refuse := func(code, detail string, args ...any) error {
		return api.NewProblem(http.StatusUnprocessableEntity, code, detail, args...).At("line")
	}
	if in.Line >= len(b.Lines) {
		return nil, refuse("no-such-line", "Batch %s has %d lines; there is no line %d.", b.Code, len(b.Lines), in.Line+1)
	}
	l := &b.Lines[in.Line]
	isOut := formula.WeighStatus(l.Status) == formula.LeftOut
	switch {
	case isOut == in.Out:
		return nil, nil
	case in.Out && !l.Optional:
		return nil, refuse("not-optional", "%s is no optional line: weigh it, or abandon the batch.", l.Name)
	case in.Out && l.WeighedG != 0:
		return nil, refuse("weighed-already", "%g g of %s are in the bowl: take them out first.", l.WeighedG, material.InSentence(l.Name))
	}
	kind := "taken-in"
	if in.Out {
		kind = "left-out"
	}
	return &store.BatchEvent{BatchID: b.Id, Kind: kind, Line: &in.Line}, nil
}

// Note logs a correction or remark.
func (s *Service) Note(ctx context.Context, id uuid.UUID, text string) (*api.Batch, error) {
	return s.log(ctx, &store.BatchEvent{BatchID: id, Kind: "noted", Text: text})
}

// Measure logs a pH that was measured of the batch. It stands in place of what is
// worked out from now on, until another is measured.
func (s *Service) Measure(ctx context.Context, id uuid.UUID, in api.MeasuredPh) (*api.Batch, error) {
	return s.log(ctx, &store.BatchEvent{BatchID: id, Kind: "measured", PH: &in.Ph, PHWith: string(in.With)})
}

// log adds what changes nothing of a batch to what happened to it.
func (s *Service) log(ctx context.Context, e *store.BatchEvent) (*api.Batch, error) {
	a, err := may(ctx, Maker)
	if err != nil {
		return nil, err
	}
	e.PersonID, e.At = a.Person, s.now()
	var out *api.Batch
	err = s.store.Tx(ctx, func(tx *store.Tx) error {
		if _, err := tx.LockBatch(e.BatchID); err != nil {
			return said(err, "batch")
		}
		if err := tx.AddBatchEvent(e); err != nil {
			return err
		}
		if out, err = s.batchOf(tx, e.BatchID); err != nil {
			return err
		}
		return tx.Announce("batches", e.BatchID)
	})
	return out, err
}
