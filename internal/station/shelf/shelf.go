// Package shelf is the shelf station: materials and what is known of them,
// deliveries, lots and how they stand.
package shelf

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"

	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/costing"
	"keencrock/core/material"
	"keencrock/core/stock"
	"keencrock/internal/exchange"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// Service is what can be done at the shelf.
type Service struct{ *tenant.House }

// New returns the shelf of a house.
func New(h *tenant.House) *Service { return &Service{h} }

// Shelf lists the stocked materials, and those with a reorder point.
func (s *Service) Shelf(ctx context.Context) ([]api.ShelfJar, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	var jars []api.ShelfJar
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		lots, err := tx.ShelfStock()
		if err != nil {
			return err
		}
		last, err := tx.LastPrices(set.Workshop.Currency)
		if err != nil {
			return err
		}
		jars = shelfJars(set, lots, last)
		return nil
	})
	return jars, err
}

func shelfJars(set *tenant.Settings, lots []stock.Lot, last []store.LastPrice) []api.ShelfJar {
	byItem := map[string][]stock.Lot{}
	for _, l := range lots {
		byItem[l.Item] = append(byItem[l.Item], l)
	}
	lastPrice := map[string]decimal.Decimal{}
	for _, p := range last {
		lastPrice[p.Item] = costing.PerGram(p.Landed, p.Original)
	}
	jars := []api.ShelfJar{}
	for _, m := range set.Materials.All() {
		if tenant.IsMade(m.ID) { // stands in the pantry
			continue
		}
		reorderG := set.Figures[m.ID].ReorderG
		if _, everHad := lastPrice[m.ID]; len(byItem[m.ID]) == 0 && reorderG == 0 && !everHad && !m.Own {
			continue
		}
		jars = append(jars, shelfJar(m, byItem[m.ID], reorderG, lastPrice[m.ID], set))
	}
	slices.SortStableFunc(jars, func(a, b api.ShelfJar) int { return cmp.Compare(a.Name, b.Name) })
	return jars
}

func shelfJar(m *material.Material, lots []stock.Lot, reorderG float64, lastPerGram decimal.Decimal, set *tenant.Settings) api.ShelfJar {
	level := stock.LevelOn(lots, reorderG, set.Today)
	jar := api.ShelfJar{Material: m.ID, Name: m.Name, Form: m.Form, Functions: m.Functions, Strength: strengthOf(m), ReorderG: reorderG,
		Lots: level.Lots, StockG: level.Stock, UsableG: level.Usable, Level: level.Full, NextDate: exchange.Date(level.NextDate), Marks: make([]api.ShelfMark, len(level.Marks))}
	for i, mark := range level.Marks {
		jar.Marks[i] = api.ShelfMark(mark)
	}
	perGram := lastPerGram
	if left, ok := costing.StockPrice(lots, set.Workshop.Currency); ok {
		perGram = left.Value
	}
	if perGram.IsPositive() {
		jar.PricePerKg = exchange.Money(perGram.Mul(decimal.NewFromInt(1000)))
	}
	return jar
}

func strengthOf(m *material.Material) string {
	if m.Formula != "" {
		return m.Formula
	}
	if len(m.MakeUp) > 0 && m.MakeUp[0].Of != "water" && m.MakeUp[0].Of != "saponin" { // which nobody buys it by
		return fmt.Sprintf("%.0f %% %s", 100*m.MakeUp[0].Share.Value, strings.ReplaceAll(m.MakeUp[0].Of, "-", " "))
	}
	return m.Form
}
