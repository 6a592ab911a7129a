package crock

import (
	"context"
	"strings"

	"keencrock/api"
	"keencrock/core/assess"
	"keencrock/core/costing"
	"keencrock/core/formula"
	"keencrock/core/listener"
	"keencrock/core/stock"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// Kinds lists the kinds of good.
func (s *Service) Kinds() []api.KindInfo {
	out := make([]api.KindInfo, len(formula.Kinds))
	for i, k := range formula.Kinds {
		out[i] = api.KindInfo{Kind: string(k.Kind), Name: k.Name}
	}
	return out
}

// ReadText reads a formula the way a maker says it, line by line.
func (s *Service) ReadText(ctx context.Context, text string) ([]api.SpokenLine, error) {
	talk, set, err := s.listen(ctx, &api.SpokenText{Text: text})
	if err != nil {
		return nil, err
	}
	return exchange.SpokenLines(talk, set.Materials), nil
}

// ReadSaid reads a good, or several, the way a maker says it, and tells what became of
// each word. Lines that stand already are corrected, or gone on from.
func (s *Service) ReadSaid(ctx context.Context, said *api.SpokenText) (*api.Said, error) {
	talk, set, err := s.listen(ctx, said)
	if err != nil {
		return nil, err
	}
	return exchange.Said(talk, set.Materials, set.Measures, set.Tools()), nil
}

func (s *Service) listen(ctx context.Context, said *api.SpokenText) (*listener.Talk, *tenant.Settings, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, nil, err
	}
	set, err := s.Settings(s.Store.Read(ctx))
	if err != nil {
		return nil, nil, err
	}
	talk, err := listener.ReadAfter(exchange.FormulaLines(said.Lines), said.Text, set.Materials)
	if err != nil {
		return nil, nil, problem.TooLarge("too-long", "%s", exchange.Sentence(err))
	}
	return talk, set, nil
}

// Assess works out a formula against the workshop's own figures and prices.
func (s *Service) Assess(ctx context.Context, file *api.FormulaFile, in InWater) (*api.Assessment, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	tx := s.Store.Read(ctx)
	set, err := s.Settings(tx)
	if err != nil {
		return nil, err
	}
	prices, err := prices(tx, set, set.ItemsOf(file))
	if err != nil {
		return nil, err
	}
	water, err := waterOf(set, in)
	if err != nil {
		return nil, err
	}
	return exchange.Assess(set.InMeasures(file), set.Materials, assess.Options{Workshop: set.Tools(), Prices: prices, Water: water}), nil
}

// prices says what a gram of each item costs: what lies on the shelf at what it
// cost, or the newest delivery where nothing is left.
func prices(tx *store.Tx, set *tenant.Settings, items []string) (costing.Prices, error) {
	return store.Remember(tx, pricesKey(strings.Join(items, " ")), func() (costing.Prices, error) { return readPrices(tx, set, items) })
}

// pricesKey are the items of which prices are asked.
type pricesKey string

func readPrices(tx *store.Tx, set *tenant.Settings, items []string) (costing.Prices, error) {
	currency := set.Workshop.Currency
	p := costing.Prices{Currency: currency, PerGram: map[string]costing.Price{}}
	if len(items) == 0 {
		return p, nil
	}
	rows, err := tx.PricedStock(items...)
	if err != nil {
		return p, err
	}
	lots := map[string][]stock.Lot{}
	for _, l := range rows {
		lots[l.Item] = append(lots[l.Item], l)
	}
	var none []string
	for _, id := range items {
		if perGram, ok := costing.StockPrice(lots[id], currency); ok {
			p.PerGram[id] = perGram
		} else if id != stock.Tap {
			none = append(none, id)
		}
	}
	if len(none) == 0 {
		return p, nil
	}
	last, err := tx.LastPrices(currency, none...)
	for _, l := range last {
		price := costing.OnePrice(costing.PerGram(l.Landed, l.Original))
		price.AtLeast = l.AtLeast
		p.PerGram[l.Item] = price
	}
	return p, err
}
