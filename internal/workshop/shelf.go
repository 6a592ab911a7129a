package workshop

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/oapi-codegen/runtime/types"
	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/costing"
	"keencrock/core/material"
	"keencrock/internal/exchange"
	"keencrock/internal/store"
)

// Shelf lists the stocked materials, and those with a reorder point.
func (s *Service) Shelf(ctx context.Context) ([]api.ShelfJar, error) {
	if _, err := may(ctx, Viewer); err != nil {
		return nil, err
	}
	var jars []api.ShelfJar
	err := s.store.Snapshot(ctx, func(tx *store.Tx) error {
		set, err := s.settings(tx)
		if err != nil {
			return err
		}
		stock, err := tx.Stock()
		if err != nil {
			return err
		}
		last, err := tx.LastPrices()
		if err != nil {
			return err
		}
		jars = s.shelfJars(set, stock, last)
		return nil
	})
	return jars, err
}

func (s *Service) shelfJars(set *settings, stock []store.Lot, last []store.LastPrice) []api.ShelfJar {
	byMaterial := map[string][]store.Lot{}
	for _, l := range stock {
		byMaterial[l.Material] = append(byMaterial[l.Material], l)
	}
	lastPrice := map[string]decimal.Decimal{}
	for _, p := range last {
		lastPrice[p.Material] = costing.PerGram(p.Landed, p.OriginalG)
	}
	jars := []api.ShelfJar{}
	for _, m := range set.lib.All() {
		lots, own := byMaterial[m.ID], set.own[m.ID]
		if _, everHad := lastPrice[m.ID]; len(lots) == 0 && own.ReorderG == 0 && !everHad && !m.Own {
			continue
		}
		jars = append(jars, s.shelfJar(m, lots, own.ReorderG, lastPrice[m.ID]))
	}
	slices.SortStableFunc(jars, func(a, b api.ShelfJar) int { return cmp.Compare(a.Name, b.Name) })
	return jars
}

// soonDays is how near a date is worth a mark.
const soonDays = 45

func (s *Service) shelfJar(m *material.Material, lots []store.Lot, reorderG float64, lastPerGram decimal.Decimal) api.ShelfJar {
	jar := api.ShelfJar{Material: m.ID, Name: m.Name, Form: m.Form, Functions: m.Functions, Strength: strengthOf(m), ReorderG: reorderG, Lots: len(lots), Marks: []api.ShelfMark{}}
	today := s.today()
	var inStock []costing.Lot
	var next time.Time
	marks := map[api.ShelfMark]bool{}
	for i := range lots {
		l := &lots[i]
		c := costingLot(l)
		inStock = append(inStock, c)
		jar.StockG += l.RemainingG
		past := c.PastOn(today)
		if !past && !l.SetAside {
			jar.UsableG += l.RemainingG
			if l.BestBefore != nil && (next.IsZero() || l.BestBefore.Before(next)) {
				next = *l.BestBefore
			}
		}
		marks[api.ShelfMarkPast] = marks[api.ShelfMarkPast] || past
		marks[api.ShelfMarkClumped] = marks[api.ShelfMarkClumped] || l.Clumped
		marks[api.ShelfMarkSetAside] = marks[api.ShelfMarkSetAside] || l.SetAside
		marks[api.ShelfMarkOpened] = marks[api.ShelfMarkOpened] || l.Opened != nil
	}
	perGram := lastPerGram
	if left, ok := costing.StockPrice(inStock); ok {
		perGram = left.Value
	}
	if perGram.IsPositive() {
		jar.PricePerKg = exchange.Money(perGram.Mul(decimal.NewFromInt(1000)))
	}
	if !next.IsZero() {
		jar.NextDate = types.Date{Time: next}
		marks[api.ShelfMarkSoon] = next.Before(today.AddDate(0, 0, soonDays))
	}
	marks[api.ShelfMarkOut] = jar.UsableG <= 0
	marks[api.ShelfMarkLow] = jar.UsableG > 0 && jar.UsableG < reorderG
	jar.Level = level(jar.UsableG, reorderG)
	for _, mark := range []api.ShelfMark{api.ShelfMarkOut, api.ShelfMarkPast, api.ShelfMarkClumped, api.ShelfMarkSetAside, api.ShelfMarkLow, api.ShelfMarkSoon, api.ShelfMarkOpened} {
		if marks[mark] {
			jar.Marks = append(jar.Marks, mark)
		}
	}
	return jar
}

// level draws stock against the reorder point: half full is the point itself,
// full is twice it. Without one, five kilograms are full.
func level(usableG, reorderG float64) float64 {
	if reorderG <= 0 {
		reorderG = 2500
	}
	return min(1, usableG/(2*reorderG))
}

func strengthOf(m *material.Material) string {
	if m.Formula != "" {
		return m.Formula
	}
	if len(m.MakeUp) > 0 && m.MakeUp[0].Of != "water" {
		return fmt.Sprintf("%.0f %% %s", 100*m.MakeUp[0].Share.Value, strings.ReplaceAll(m.MakeUp[0].Of, "-", " "))
	}
	return m.Form
}
