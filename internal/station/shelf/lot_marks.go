package shelf

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/stock"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// MarkLot marks a lot clumped or set aside, or corrects what is really there.
func (s *Service) MarkLot(ctx context.Context, id uuid.UUID, in api.LotMark) (*api.Lot, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	var out api.Lot
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		if err := tx.LockLots([]stock.ID{stock.ID(id)}); err != nil {
			return err
		}
		l, err := tx.Lot(stock.ID(id))
		if err != nil {
			return tenant.Explain(err, "lot")
		}
		if err := s.mark(tx, a, l, in); err != nil {
			return err
		}
		if err := s.correctLot(tx, a, l, in); err != nil {
			return err
		}
		if err := s.count(tx, a, l, in); err != nil {
			return err
		}
		out = exchange.Lot(l, set.NameOf(l.Item), set.Today)
		return tx.Announce("shelf", id)
	})
	return &out, err
}

// mark keeps the marks of a lot that are asked for, and that they were made.
func (s *Service) mark(tx *store.Tx, a tenant.Actor, l *stock.Lot, in api.LotMark) error {
	var events [][2]string
	set := func(mark *bool, to *bool, is, isNot string) {
		if to == nil || *to == *mark {
			return
		}
		*mark = *to
		kind := isNot
		if *to {
			kind = is
		}
		events = append(events, [2]string{kind, in.Reason})
	}
	set(&l.Clumped, in.Clumped, "clumped", "loosened")
	set(&l.SetAside, in.SetAside, "set-aside", "taken-up")
	if in.Opened != nil && !in.Opened.Equal(l.Opened) {
		l.Opened = in.Opened.Time
		events = append(events, [2]string{"opened", l.Opened.Format(time.DateOnly)})
	}
	for _, e := range events {
		if err := tx.AddLotEvent(l.ID, e[0], e[1], a.Person, s.Now()); err != nil {
			return err
		}
	}
	if len(events) > 0 {
		if err := tx.SaveLotMarks(l); err != nil {
			return err
		}
	}
	switch {
	case in.MeasuredPh.With != "":
		l.PH = &stock.Measured{PH: in.MeasuredPh.Ph, With: string(in.MeasuredPh.With)}
	case in.ForgetPh:
		l.PH = nil
	default:
		return nil
	}
	return tx.MeasureLot(l.ID, l.PH, a.Person, s.Now())
}

// count puts right what is really there of a lot.
func (s *Service) count(tx *store.Tx, a tenant.Actor, l *stock.Lot, in api.LotMark) error {
	if in.CountedG == nil {
		return nil
	}
	counted := stock.Round(*in.CountedG)
	if counted < l.Held {
		return problem.Unfit("bad-value", "Open batches hold %g g of it: there cannot be less.", l.Held).At("counted_g")
	}
	if !l.Making.IsZero() {
		return problem.Unfit("made-here", "This is a good in jars: say which jars are gone.").At("counted_g")
	}
	change := stock.Round(counted - l.Remaining)
	l.Remaining = counted
	return tx.Move(&stock.Movement{Lot: l.ID, Kind: stock.Corrected, Quantity: change, Reason: in.Reason, At: s.Now()}, a.Person)
}

// correctLot puts right what was noted wrongly when a lot came, and says in its
// movements what it was before.
func (s *Service) correctLot(tx *store.Tx, a tenant.Actor, l *stock.Lot, in api.LotMark) error {
	before, c := *l, in.Correct
	if c.Landed != "" {
		price, err := exchange.ParseMoney(c.Landed)
		if err != nil {
			return problem.Unfit("bad-value", "%s", exchange.Sentence(err)).At("correct.landed")
		}
		l.Landed = price.Round(2)
		l.Free = l.Landed.IsZero() // said, and so known
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
		l.BestBefore = c.BestBefore.Time
	}
	day := func(t time.Time) string {
		if t.IsZero() {
			return "none"
		}
		return t.Format("2 Jan 2006")
	}
	var changes []string
	for _, f := range []struct{ what, was, is string }{
		{"code", before.Code, l.Code},
		{"price", noted(&before), noted(l)},
		{"supplier", cmp.Or(before.Supplier, "none"), cmp.Or(l.Supplier, "none")},
		{"received", day(before.Received), day(l.Received)},
		{"best before", day(before.BestBefore), day(l.BestBefore)},
	} {
		if f.was != f.is {
			changes = append(changes, fmt.Sprintf("%s was %s, is %s", f.what, f.was, f.is))
		}
	}
	if len(changes) == 0 {
		return nil
	}
	if !l.Making.IsZero() {
		return problem.Unfit("made-here", "This is what batch %s made: its code, cost and dates are the batch's.", before.Code).At("correct")
	}
	if l.Code == "" {
		return problem.Unfit("bad-value", "A lot needs a code.").At("correct.code")
	}
	if l.Code != before.Code {
		same, err := tx.LotsByCode(l.Code)
		if err != nil {
			return err
		}
		if slices.ContainsFunc(same, func(o stock.Lot) bool { return o.Item == l.Item && o.ID != l.ID }) {
			return problem.Clash("taken", "There is a lot %s of it already: give this one another code.", l.Code).At("correct.code")
		}
	}
	if !l.Landed.Equal(before.Landed) || l.Free != before.Free {
		text := fmt.Sprintf("%s was %s, is %s", l.Currency, noted(&before), noted(l))
		if err := tx.AddLotEvent(l.ID, stock.Repriced, text, a.Person, s.Now()); err != nil {
			return err
		}
	}
	if in.Reason != "" {
		changes = append(changes, in.Reason)
	}
	return tx.CorrectLot(l, strings.Join(changes, "; "), a.Person, s.Now())
}

// noted is a price as it was noted, in a sentence.
func noted(l *stock.Lot) string {
	if !l.PriceKnown() {
		return "not noted"
	}
	return l.Landed.StringFixed(2)
}
