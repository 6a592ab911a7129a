package ledger

import (
	"context"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/ledger"
	"keencrock/core/making"
	"keencrock/core/stock"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// Batch says what a batch cost, against its plan.
func (s *Service) Batch(ctx context.Context, id uuid.UUID) (*api.BatchCost, error) {
	if _, err := tenant.Require(ctx, tenant.Owner); err != nil {
		return nil, err
	}
	var out *api.BatchCost
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) (err error) {
		out, err = s.batch(tx, id)
		return err
	})
	return out, err
}

// TellHands keeps how long hands were at a batch, as somebody says.
func (s *Service) TellHands(ctx context.Context, id uuid.UUID, minutes float64) (*api.BatchCost, error) {
	a, err := tenant.Require(ctx, tenant.Owner)
	if err != nil {
		return nil, err
	}
	var out *api.BatchCost
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		row, err := tx.LockMaking(id)
		if err != nil {
			return tenant.Explain(err, "batch")
		}
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		b, err := tenant.LoadBatch(tx, set, row)
		if err != nil {
			return err
		}
		e := making.Happening(making.HandsTold)
		e.Seconds, e.At = 60*minutes, s.Now()
		if err := b.Check(e); err != nil {
			return tenant.Refused(err)
		}
		if e, err = tx.AddEvent(id, e, nil, a.Person, s.Now()); err != nil {
			return err
		}
		if err := b.Apply(e); err != nil {
			return tenant.Refused(err)
		}
		if !b.State.IsOpen() {
			b.CountWork()
			if err := tx.SaveWork(b.Row); err != nil {
				return err
			}
		}
		if err := tx.Announce("ledger", id); err != nil {
			return err
		}
		if err := tx.Announce("batches", id); err != nil {
			return err
		}
		out, err = s.batch(tx, id)
		return err
	})
	return out, err
}

func (s *Service) batch(tx *store.Tx, id uuid.UUID) (*api.BatchCost, error) {
	set, err := s.Settings(tx)
	if err != nil {
		return nil, err
	}
	row, err := tx.Making(id)
	if err != nil {
		return nil, tenant.Explain(err, "batch")
	}
	lots, err := tx.LotsOfMakings(stock.ID(id))
	if err != nil {
		return nil, err
	}
	lot := lots[stock.ID(id)]
	if lot == nil {
		return nil, problem.Clash("not-finished", "Batch %s has made nothing yet: what it cost is known when it is packed.", row.Code)
	}
	b, err := tenant.LoadBatch(tx, set, row)
	if err != nil {
		return nil, err
	}
	kept, err := tx.Rates()
	if err != nil {
		return nil, err
	}
	b.CountWork()
	m := store.GoodMaking{ID: id, FormulaID: row.FormulaID, Cost: row.Cost, Currency: row.Currency, Jars: row.Jars, EachG: row.EachG, MadeG: lot.Original, HandsMin: row.HandsMin, HeatMin: row.HeatMin}
	k := &costs{set: set, rates: rates(kept), drawn: map[uuid.UUID][]store.Drawing{}, failed: map[uuid.UUID]store.Failed{}}
	if k.drawn[id], err = tx.Drawings(id); err != nil {
		return nil, err
	}
	strata, grams, _ := k.layers([]store.GoodMaking{m})
	total, atLeast := ledger.Total(strata)
	out := &api.BatchCost{Batch: id, Code: row.Code, Name: row.Name, Currency: row.Currency, Jars: row.Jars, Cost: exchange.Money(total), AtLeast: atLeast,
		Strata: k.show(strata, grams, 1), MadeG: lot.Original, ExpectedG: row.PlannedG * (1 - row.Loss), HandsMin: row.HandsMin, HandsSaid: b.HandsAreTold(), HeatMin: b.HeatMinutes()}
	k.open(out.Strata, id)
	if row.Jars > 0 {
		out.CostPerJar = exchange.Money(total.DivRound(decimal.NewFromInt(int64(row.Jars)), 2))
	}
	return out, k.compare(tx, out, b)
}

// open adds to each stratum the lots it came from.
func (k *costs) open(strata []api.Stratum, batch uuid.UUID) {
	for i := range strata {
		one := &strata[i]
		for _, d := range k.drawn[batch] {
			if d.Item == one.Item && (d.Kind == "filled") == (one.Part == api.StratumPart(ledger.Packaging)) {
				one.Lots = append(one.Lots, api.StratumLot{Lot: d.Lot, Code: d.Code, Quantity: d.Quantity, Cost: exchange.Money(d.Cost), At: d.At})
			}
		}
	}
}

// compare tells apart why a batch cost other than planned.
func (k *costs) compare(tx *store.Tx, out *api.BatchCost, b *tenant.Batch) error {
	used := map[string]*ledger.Used{}
	var items []string
	of := func(item string) *ledger.Used {
		if used[item] == nil {
			used[item] = &ledger.Used{Item: item}
			items = append(items, item)
		}
		return used[item]
	}
	for i := range b.By.Lines {
		l := &b.By.Lines[i]
		if l.Item != stock.Tap && !l.Optional {
			of(l.Item).Planned += l.TargetG
		}
	}
	var lots []stock.ID
	for _, d := range k.drawn[out.Batch] {
		if d.Kind == "drawn" {
			u := of(d.Item)
			u.Used, u.Paid = u.Used+d.Quantity, u.Paid.Add(d.Cost)
			lots = append(lots, stock.ID(d.Lot))
		}
	}
	for i := range b.By.Lines { // what was taken though it was optional was planned so
		if l := &b.By.Lines[i]; l.Optional && used[l.Item] != nil && used[l.Item].Used > 0 {
			used[l.Item].Planned += l.TargetG
		}
	}
	prices, err := tx.PlannedPrices(b.Row.Currency, tenant.DayOf(b.Row.StartedAt, k.set.Workshop), lots, items...)
	if err != nil {
		return err
	}
	all := make([]ledger.Used, len(items))
	for i, item := range items {
		used[item].PerUnit = prices[item]
		all[i] = *used[item]
	}
	v := ledger.Compare(all, out.ExpectedG, out.MadeG)
	usual, earlier, err := tx.UsualHands(b.Row.FormulaID, b.Row.StartedAt)
	if err != nil {
		return err
	}
	if earlier > 0 && b.Row.HandsMin != nil && !k.rates.Hour.IsZero() {
		v.Took(*b.Row.HandsMin, usual, k.rates.Hour)
		out.Time = exchange.Money(v.Time)
	}
	out.Planned, out.Paid = exchange.Money(v.Planned), exchange.Money(v.Paid)
	out.Price, out.Amount, out.Yield = exchange.Money(v.Price), exchange.Money(v.Amount), exchange.Money(v.Yield)
	return nil
}
