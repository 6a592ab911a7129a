package ledger

import (
	"cmp"
	"context"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/oapi-codegen/runtime/types"
	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/ledger"
	"keencrock/core/stock"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// Year says what was made, sold, given and spoiled in a year, month by month; of this one
// for 0.
func (s *Service) Year(ctx context.Context, year int) (*api.YearSums, error) {
	if _, err := tenant.Require(ctx, tenant.Owner); err != nil {
		return nil, err
	}
	var out *api.YearSums
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		year := cmp.Or(year, set.Today.Year())
		zone := tenant.ZoneOf(set.Workshop)
		moved, err := store.Remember(tx, yearKey{year, zone}, func() ([]store.MovedGood, error) { return tx.MovedGoods(year, zone) })
		if err != nil {
			return err
		}
		first, err := tx.FirstMovement()
		if err != nil {
			return err
		}
		names, err := tx.FormulaNames()
		if err != nil {
			return err
		}
		parties, err := tx.PartyNames()
		if err != nil {
			return err
		}
		out = yearOf(movedOf(moved, year, parties), names, set.Workshop.Currency)
		out.Year, out.FirstYear = year, year
		if !first.IsZero() {
			out.FirstYear = first.Year()
		}
		return nil
	})
	return out, err
}

// yearKey is a year as it is remembered: by the clocks of a zone.
type yearKey struct {
	year int
	zone string
}

func movedOf(rows []store.MovedGood, year int, parties map[uuid.UUID]string) []ledger.Moved {
	out := make([]ledger.Moved, len(rows))
	for i, r := range rows {
		party := ""
		if r.PartyID != nil {
			party = parties[*r.PartyID]
		}
		out[i] = ledger.Moved{Month: time.Date(year, time.Month(r.Month), 1, 0, 0, 0, 0, time.UTC), Item: r.Item, Party: party, Kind: stock.MovementKind(r.Kind), Undoes: stock.MovementKind(r.Undoes),
			Pieces: r.Pieces, Quantity: r.Quantity, Weighed: r.Weighed, Cost: r.Cost, Price: r.Price, Unpriced: r.Unpriced, Currency: strings.TrimSpace(r.Currency)}
	}
	return out
}

// yearOf puts the sums of a year into the words of the contract.
func yearOf(moved []ledger.Moved, names map[uuid.UUID]string, currency string) *api.YearSums {
	rows := func(of func(*ledger.Moved) ledger.Key) []api.SumRow {
		keys, sums := ledger.By(moved, of)
		out := make([]api.SumRow, 0, len(keys))
		for _, k := range keys {
			out = append(out, sumRow(k, sums[k], names))
		}
		return out
	}
	out := &api.YearSums{Currency: currency, Outlets: []api.SumRow{},
		Rows: rows(func(m *ledger.Moved) ledger.Key {
			return ledger.Key{Month: m.Month, Item: m.Item, Party: m.Party}
		}),
		Months: rows(func(m *ledger.Moved) ledger.Key { return ledger.Key{Month: m.Month} }),
		Goods:  rows(func(m *ledger.Moved) ledger.Key { return ledger.Key{Item: m.Item} }),
	}
	for _, r := range rows(func(m *ledger.Moved) ledger.Key { return ledger.Key{Party: m.Party} }) {
		if r.Outlet != "" || r.Sold != 0 || r.Given != 0 || r.Out != 0 {
			out.Outlets = append(out.Outlets, r)
		}
	}
	slices.SortStableFunc(out.Goods, func(a, b api.SumRow) int { return compareNames(a.Name, b.Name) })
	return out
}

func sumRow(k ledger.Key, s *ledger.Sums, names map[uuid.UUID]string) api.SumRow {
	out := api.SumRow{Outlet: k.Party, Currency: s.Currency,
		Made: s.Made.Pieces, MadeG: s.Made.Grams, MadeCost: exchange.Money(s.Made.Cost), Sold: s.Sold.Pieces, SoldByWeightG: s.Sold.Weighed, SoldCost: exchange.Money(s.Sold.Cost),
		Given: s.Given.Pieces, GivenCost: exchange.Money(s.Given.Cost), Out: s.Out.Pieces, Spoiled: s.Spoiled.Pieces, SpoiledCost: exchange.Money(s.Spoiled.Cost), Sampled: s.Sampled.Pieces,
		Brought: exchange.Money(s.Brought), Left: exchange.Money(s.Left()), Unpriced: s.Unpriced}
	if !k.Month.IsZero() {
		out.Month = types.Date{Time: k.Month}
	}
	if f, ok := stock.FormulaOf(k.Item); ok {
		if id, err := uuid.Parse(f); err == nil {
			out.Formula, out.Name = id, names[id]
		}
	}
	return out
}

// StockValue says what was in stock at the end of a day, at cost; today for none.
func (s *Service) StockValue(ctx context.Context, day time.Time) (*api.StockValue, error) {
	if _, err := tenant.Require(ctx, tenant.Owner); err != nil {
		return nil, err
	}
	out := &api.StockValue{Values: []api.StockOfKind{}}
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		w, err := tx.Workshop()
		if err != nil {
			return err
		}
		today := s.Day(w)
		if day.IsZero() {
			day = today
		}
		if day.After(today) {
			return problem.Unfit("bad-value", "That day is still to come.").At("day")
		}
		out.Day = exchange.Date(day)
		rows, err := tx.StockThen(tenant.EndOfDay(day, w))
		if err != nil {
			return err
		}
		out.Values = stockValues(rows)
		return nil
	})
	return out, err
}

func stockValues(rows []store.StockThen) []api.StockOfKind {
	type key struct{ kind, currency string }
	at, values, out := map[key]int{}, []decimal.Decimal{}, []api.StockOfKind{}
	for _, r := range rows {
		k := key{r.Kind, strings.TrimSpace(r.Currency)}
		if _, there := at[k]; !there {
			at[k] = len(out)
			out, values = append(out, api.StockOfKind{Kind: api.StockOfKindKind(k.kind), Currency: k.currency}), append(values, decimal.Zero)
		}
		i := at[k]
		lot := stock.Lot{Original: r.Original, Remaining: r.Remaining, Landed: r.Landed}
		values[i] = values[i].Add(lot.Worth())
		out[i].Lots++
		if r.Unpriced {
			out[i].Unpriced++
		}
	}
	for i := range out {
		out[i].Value = exchange.Money(values[i])
	}
	slices.SortFunc(out, func(a, b api.StockOfKind) int {
		return cmp.Or(cmp.Compare(a.Kind, b.Kind), cmp.Compare(a.Currency, b.Currency))
	})
	return out
}
