package workshop

import (
	"cmp"
	"context"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/internal/exchange"
	"keencrock/internal/store"
)

// MarkLot marks a lot clumped or set aside, or corrects what is really there.
func (s *Service) MarkLot(ctx context.Context, id uuid.UUID, in api.LotMark) (*api.Lot, error) {
	a, err := may(ctx, Maker)
	if err != nil {
		return nil, err
	}
	var out api.Lot
	err = s.store.Tx(ctx, func(tx *store.Tx) error {
		set, err := s.settings(tx)
		if err != nil {
			return err
		}
		if err := tx.LockLots([]uuid.UUID{id}); err != nil {
			return err
		}
		l, err := tx.Lot(id)
		if err != nil {
			return said(err, "lot")
		}
		if in.Clumped != nil {
			l.Clumped = *in.Clumped
		}
		if in.SetAside != nil {
			l.SetAside = *in.SetAside
		}
		if in.Opened != nil {
			l.Opened = &in.Opened.Time
		}
		if in.ForgetPh {
			l.PH, l.PHWith = nil, ""
		}
		if in.MeasuredPh.With != "" {
			l.PH, l.PHWith = &in.MeasuredPh.Ph, string(in.MeasuredPh.With)
		}
		if err := tx.SaveLotMarks(l); err != nil {
			return err
		}
		if err := s.correctLot(tx, a, l, in); err != nil {
			return err
		}
		if in.CountedG != nil {
			if *in.CountedG < l.WeighedG {
				return api.NewProblem(http.StatusUnprocessableEntity, "bad-value", "Open batches hold %g g of it: there cannot be less.", l.WeighedG).At("counted_g")
			}
			change := *in.CountedG - l.RemainingG
			if err := tx.Move(&store.Movement{LotID: id, Kind: "corrected", Grams: change, Reason: in.Reason, PersonID: a.Person, At: s.now()}); err != nil {
				return err
			}
			l.RemainingG = *in.CountedG
		}
		out = lotOf(l, set, s.today())
		return tx.Announce("shelf", id)
	})
	return &out, err
}

// correctLot puts right what was noted wrongly when a lot came, and says in its
// movements what it was before.
func (s *Service) correctLot(tx *store.Tx, a Actor, l *store.Lot, in api.LotMark) error {
	before, c := *l, in.Correct
	if c.Landed != "" {
		price, err := exchange.ParseMoney(c.Landed)
		if err != nil {
			return api.NewProblem(http.StatusUnprocessableEntity, "bad-value", "%s", exchange.Sentence(err)).At("correct.landed")
		}
		l.Landed = price.Round(2)
	}
	if c.Code != "" {
		l.Code = strings.TrimSpace(c.Code)
	}
	if c.Supplier != nil {
		l.Supplier = strings.TrimSpace(*c.Supplier)
	}
	if !c.Received.IsZero() {
		l.Received = c.Received.Time
	}
	if !c.BestBefore.IsZero() {
		l.BestBefore = &c.BestBefore.Time
	}
	day := func(t *time.Time) string {
		if t == nil {
			return "none"
		}
		return t.Format("2 Jan 2006")
	}
	var said []string
	for _, f := range []struct{ what, was, is string }{
		{"code", before.Code, l.Code},
		{"price", before.Landed.StringFixed(2), l.Landed.StringFixed(2)},
		{"supplier", cmp.Or(before.Supplier, "none"), cmp.Or(l.Supplier, "none")},
		{"received", day(&before.Received), day(&l.Received)},
		{"best before", day(before.BestBefore), day(l.BestBefore)},
	} {
		if f.was != f.is {
			said = append(said, fmt.Sprintf("%s was %s, is %s", f.what, f.was, f.is))
		}
	}
	if len(said) == 0 {
		return nil
	}
	if l.Code == "" {
		return api.NewProblem(http.StatusUnprocessableEntity, "bad-value", "A lot needs a code.").At("correct.code")
	}
	if l.Code != before.Code {
		same, err := tx.LotsByCode(l.Code)
		if err != nil {
			return err
		}
		if slices.ContainsFunc(same, func(o store.Lot) bool { return o.Material == l.Material && o.ID != l.ID }) {
			return api.NewProblem(http.StatusConflict, "taken", "There is a lot %s of it already: give this one another code.", l.Code).At("correct.code")
		}
	}
	if in.Reason != "" {
		said = append(said, in.Reason)
	}
	return tx.CorrectLot(l, strings.Join(said, "; "), a.Person, s.now())
}
