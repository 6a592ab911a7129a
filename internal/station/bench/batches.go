package bench

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/making"
	"keencrock/core/method"
	"keencrock/core/quantity"
	"keencrock/core/stock"
	"keencrock/internal/exchange"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// BatchQuery says which batches are wanted.
type BatchQuery struct {
	State string
	After string
	Limit int
}

// Batches lists one page of batches, newest first.
func (s *Service) Batches(ctx context.Context, q BatchQuery) (*api.BatchPage, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	query := store.MakingQuery{State: q.State, Limit: exchange.PageLimit(q.Limit)}
	var err error
	if query.AfterStarted, query.AfterID, err = exchange.ParsePage(q.After); err != nil {
		return nil, err
	}
	page := &api.BatchPage{}
	err = s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		page, err = batchPage(tx, set, query)
		return err
	})
	return page, err
}

func batchPage(tx *store.Tx, set *tenant.Settings, query store.MakingQuery) (*api.BatchPage, error) {
	rows, err := tx.Makings(query)
	if err != nil {
		return nil, err
	}
	ids := make([]stock.ID, len(rows))
	for i := range rows {
		ids[i] = stock.ID(rows[i].ID)
	}
	made, err := tx.LotsOfMakings(ids...)
	page := &api.BatchPage{Batches: make([]api.BatchSummary, len(rows))}
	for i, b := range rows {
		page.Batches[i] = api.BatchSummary{Id: b.ID, Code: b.Code, Name: b.Name, Kind: b.Kind, State: api.BatchState(b.StateName),
			Started: b.StartedAt, Finished: exchange.Time(b.EndedAt), Jars: b.Jars, Cost: exchange.Money(b.Cost)}
		if lot := made[ids[i]]; lot != nil {
			page.Batches[i].Unpriced = set.NamesOf(lot.Unpriced)
		}
	}
	if len(rows) == query.Limit {
		last := rows[len(rows)-1]
		page.Next = exchange.PageAfter(last.StartedAt, last.ID)
	}
	return page, err
}

// Batch returns a batch as it stands on the bench.
func (s *Service) Batch(ctx context.Context, id uuid.UUID) (*api.Batch, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	var out *api.Batch
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		out, err = s.read(tx, set, id)
		return err
	})
	return out, err
}

// read reads a batch and shows it.
func (s *Service) read(tx *store.Tx, set *tenant.Settings, id uuid.UUID) (*api.Batch, error) {
	row, err := tx.Making(id)
	if err != nil {
		return nil, tenant.Explain(err, "batch")
	}
	b, err := tenant.LoadBatch(tx, set, row)
	if err != nil {
		return nil, err
	}
	return s.show(tx, b)
}

// change lets one thing happen to a batch: f says what, seeing the batch locked.
// It is nothing when f says so by no event.
func (s *Service) change(ctx context.Context, id uuid.UUID, f func(tx *store.Tx, b *tenant.Batch, a tenant.Actor) error) (*api.Batch, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	var out *api.Batch
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		row, err := tx.LockMaking(id)
		if err != nil {
			return tenant.Explain(err, "batch")
		}
		b, err := tenant.LoadBatch(tx, set, row)
		if err != nil {
			return err
		}
		if err := f(tx, b, a); err != nil {
			return tenant.Refused(err)
		}
		if state := b.State.String(); state != b.Row.StateName {
			b.Row.StateName = state
			if err := tx.SaveState(b.Row); err != nil {
				return err
			}
		}
		if out, err = s.show(tx, b); err != nil {
			return err
		}
		return announce(tx, id)
	})
	return out, err
}

// record lets an event happen to a batch, now unless it says when, and keeps it,
// under a key where it has one.
func (s *Service) record(tx *store.Tx, b *tenant.Batch, a tenant.Actor, e making.Event, key uuid.UUID) error {
	now := s.Now()
	if e.At.IsZero() {
		e.At = now
	}
	e.By = a.Name
	if err := b.Check(e); err != nil {
		return err
	}
	var under *uuid.UUID
	if key != uuid.Nil {
		under = &key
	}
	kept, err := tx.AddEvent(b.Row.ID, e, under, a.Person, now)
	if err != nil {
		return err
	}
	return b.Apply(kept)
}

// show puts a batch into the words of the contract.
func (s *Service) show(tx *store.Tx, b *tenant.Batch) (*api.Batch, error) {
	row := b.Row
	out := &api.Batch{Id: row.ID, Code: row.Code, Name: row.Name, Kind: row.Kind, Formula: row.FormulaID, FormulaVersion: row.FormulaVersion,
		State: api.BatchState(b.State.String()), Started: row.StartedAt, Finished: exchange.Time(row.EndedAt), By: row.Person,
		PlannedG: row.PlannedG, WeighedG: b.WeighedG(), Loss: row.Loss, Jars: row.Jars, EachG: row.EachG, Currency: row.Currency,
		MeasuredPh: exchange.Measured(b.PH), BestBefore: exchange.Date(exchange.Time(row.BestBefore)), BestBeforeReason: row.BestBeforeReason,
		Method: b.By.File.Method, Cautions: b.Assessed.Cautions, Lines: make([]api.BatchLine, len(b.Lines)), Events: events(b)}
	if b.By.Containers.Count > 0 {
		out.Containers = b.By.Containers
	}
	if b.State == making.Finished {
		out.Cost = exchange.Money(row.Cost)
		made, err := tx.LotsOfMakings(stock.ID(row.ID))
		if err != nil {
			return nil, err
		}
		if lot := made[stock.ID(row.ID)]; lot != nil {
			out.Unpriced = b.Set.NamesOf(lot.Unpriced)
		}
		repriced, err := tx.LotEvents(stock.Repriced, *row.EndedAt, b.Lots()...)
		if err != nil {
			return nil, err
		}
		for _, e := range repriced {
			out.CostCorrected = append(out.CostCorrected, fmt.Sprintf("lot %s: %s", e.LotCode, e.Text))
		}
	}
	lots, err := lotsFor(tx, b)
	if err != nil {
		return nil, err
	}
	for i := range b.Lines {
		out.Lines[i] = line(b, i, lots[b.Lines[i].Item])
	}
	if next, open := b.Next(); open {
		out.NextLine = &next
	}
	if err := showPictures(tx, out, b); err != nil {
		return nil, err
	}
	s.showSteps(out, b)
	return out, nil
}

// events is the log of a batch in the words of the contract. What puts something
// right says what that was before.
func events(b *tenant.Batch) []api.BatchEvent {
	all := b.Events()
	out := make([]api.BatchEvent, len(all))
	at := map[int64]int{}           // where an event stands
	now := map[int64]making.Event{} // as it is by then
	for i, e := range all {
		at[e.ID], now[e.ID] = i, e
		out[i] = api.BatchEvent{Seq: i + 1, At: e.At, By: e.By, Kind: api.BatchEventKind(e.Kind), LotCode: e.LotCode, Grams: e.Grams, Text: e.Text, MeasuredPh: exchange.Measured(e.PH),
			Name: e.Name, Count: e.Count, Seconds: e.Seconds, Answer: answered(b, &e), Undone: e.Kind != making.TimerSet && b.IsUndone(e.ID), CanUndo: canUndo(b, e)}
		if e.Line != making.NoLine {
			out[i].Line = &e.Line
		}
		if e.Step != making.NoStep {
			out[i].Step = &e.Step
		}
		if was, known := at[e.Corrects]; known {
			out[i].Corrects = was + 1
		}
		if e.Kind != making.Amended {
			continue
		}
		was := now[e.Corrects]
		out[i].WasGrams, out[i].WasText, out[i].LotCode = was.Grams, was.Text, was.LotCode
		if was.Line != making.NoLine {
			out[i].Line = &was.Line
		}
		was.Grams, was.Text = e.Grams, e.Text
		now[e.Corrects] = was
	}
	return out
}

// answered is what a check was answered, in words.
func answered(b *tenant.Batch, e *making.Event) string {
	if e.Kind != making.Checked {
		return ""
	}
	if c, known := method.FindCheck(b.Steps[e.Step].Check); known {
		if a, known := c.Find(e.Answer); known {
			return a.Text
		}
	}
	return e.Answer
}

// canUndo reports whether an event can be taken back.
func canUndo(b *tenant.Batch, e making.Event) bool {
	back := making.Happening(making.Undone)
	back.Corrects = e.ID
	return b.Check(back) == nil
}

// lotsFor are the lots a batch may take from or took from, by item, the one to
// open first in front.
func lotsFor(tx *store.Tx, b *tenant.Batch) (map[string][]stock.Lot, error) {
	by := map[string][]stock.Lot{}
	seen := map[stock.ID]bool{}
	add := func(l stock.Lot) {
		by[l.Item] = append(by[l.Item], l)
		seen[l.ID] = true
	}
	if b.State.IsOpen() {
		items := make([]string, len(b.Lines))
		for i, l := range b.Lines {
			items[i] = l.Item
		}
		lots, err := tx.Stock(items...)
		if err != nil {
			return nil, err
		}
		for _, l := range lots {
			if l.Making != stock.ID(b.Row.ID) {
				add(l)
			}
		}
	}
	used := slices.DeleteFunc(b.Lots(), func(id stock.ID) bool { return seen[id] })
	more, err := tx.LotsByID(used)
	if err != nil {
		return nil, err
	}
	for _, id := range used {
		add(*more[id])
	}
	for _, lots := range by {
		slices.SortStableFunc(lots, func(x, y stock.Lot) int { return stock.BestFirst(b.Set.Today)(&x, &y) })
	}
	return by, nil
}

// line is a line of a batch with the lots it may come from.
func line(b *tenant.Batch, i int, lots []stock.Lot) api.BatchLine {
	l := &b.Lines[i]
	status, advice := b.Status(i)
	out := api.BatchLine{Line: i, Material: l.Item, Name: l.Name, Phase: l.Phase, Amount: l.Amount, Hand: l.Hand, TargetG: l.TargetG,
		WeighedG: b.WeighedOf(i), ToleranceG: making.Tolerance(l.TargetG, b.Set.Workshop.ScaleStepG), Status: api.BatchLineStatus(status), Advice: advice, Optional: l.Optional,
		Unstocked: l.Unstocked, Added: l.Added, Lots: []api.BatchLot{}}
	out.LeftG = max(0, l.TargetG-out.WeighedG)
	if m, err := b.Set.Materials.Find(l.Item); err == nil && m.Density.Known() && out.LeftG > 0 {
		scoop, _ := quantity.NearestScoop(out.LeftG/m.Density.Value, b.Set.Measures)
		out.Scoop = scoop.String()
	}
	suggested, missing := making.Suggest(l.Item, out.LeftG, lots, b.Set.Today)
	for j := range lots {
		lot := &lots[j]
		taken := b.OfLot(i, lot.ID)
		if taken == 0 && (lot.SetAside || lot.Available() <= stock.Tolerance) {
			continue
		}
		out.Lots = append(out.Lots, api.BatchLot{Lot: uuid.UUID(lot.ID), Code: lot.Code, Supplier: lot.Supplier, AvailableG: lot.Available(),
			WeighedG: taken, SuggestedG: suggested[lot.ID], BestBefore: exchange.Date(lot.BestBefore), Past: lot.PastOn(b.Set.Today), Clumped: lot.Clumped, Rounds: lot.Rounds})
	}
	if missing > out.ToleranceG && !out.Unstocked && status.IsOpen() {
		out.Advice = strings.TrimSpace(fmt.Sprintf("%s The lots here hold %s too little. Take in a delivery, use another formula, or abandon and make a smaller batch.",
			advice, quantity.FormatGrams(missing, b.Set.Workshop.ScaleStepG)))
	}
	return out
}
