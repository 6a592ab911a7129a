package ledger

import (
	"context"
	"slices"

	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/costing"
	"keencrock/core/ledger"
	"keencrock/internal/exchange"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

var gramsPerKg = decimal.NewFromInt(1000)

// PriceLines says what each material cost over time, by supplier.
func (s *Service) PriceLines(ctx context.Context) ([]api.PriceLine, error) {
	if _, err := tenant.Require(ctx, tenant.Owner); err != nil {
		return nil, err
	}
	lines := []api.PriceLine{}
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		bought, err := tx.Bought()
		if err != nil {
			return err
		}
		type key struct{ item, supplier, currency string }
		at := map[key]int{}
		for _, b := range bought {
			k := key{b.Item, b.Supplier, b.Currency}
			if _, there := at[k]; !there {
				at[k] = len(lines)
				line := api.PriceLine{Material: b.Item, Name: set.NameOf(b.Item), Supplier: b.Supplier, Currency: b.Currency}
				if m, err := set.Materials.Find(b.Item); err == nil {
					if name, share, ok := set.Materials.AtWork(m); ok {
						line.Active, line.ActiveShare = name, share
					}
				}
				lines = append(lines, line)
			}
			addPoint(&lines[at[k]], b)
		}
		for i := range lines {
			finish(&lines[i])
		}
		slices.SortStableFunc(lines, func(a, b api.PriceLine) int { return compareNames(a.Name+"\x00"+a.Supplier, b.Name+"\x00"+b.Supplier) })
		return nil
	})
	return lines, err
}

func addPoint(l *api.PriceLine, b store.Bought) {
	perKg := costing.PerGram(b.Landed, b.Original).Mul(gramsPerKg)
	p := api.PricePoint{Day: exchange.Date(b.Received), Lot: b.Code, PackG: b.Original, Paid: exchange.Money(b.Landed), PerKg: exchange.Money(perKg)}
	if l.ActiveShare > 0 {
		p.PerKgActive = exchange.Money(perKg.DivRound(decimal.NewFromFloat(l.ActiveShare), 6))
	}
	l.Points = append(l.Points, p)
}

// finish marks jumps, and says how a price drifts.
func finish(l *api.PriceLine) {
	prices := make([]ledger.Paid, len(l.Points))
	for i, p := range l.Points {
		perKg, _ := decimal.NewFromString(p.PerKg)
		prices[i] = ledger.Paid{Day: p.Day.Time, PerKg: perKg.InexactFloat64()}
	}
	for i := 1; i < len(prices); i++ {
		if rise, jumped := ledger.Jump(prices[i-1].PerKg, prices[i].PerKg); jumped {
			l.Points[i].Jump = rise
		}
	}
	if drift, ok := ledger.DriftAYear(prices); ok {
		l.DriftAYear = &drift
	}
	l.LastPerKg = l.Points[len(l.Points)-1].PerKg
	for i, p := range prices {
		if i == 0 || p.PerKg < cheapest(l) {
			l.CheapestPerKg, l.CheapestPackG = l.Points[i].PerKg, l.Points[i].PackG
		}
	}
}

func cheapest(l *api.PriceLine) float64 {
	d, _ := decimal.NewFromString(l.CheapestPerKg)
	return d.InexactFloat64()
}
