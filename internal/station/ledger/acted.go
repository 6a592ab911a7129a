package ledger

import (
	"context"
	"slices"
	"strings"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/stock"
	"keencrock/internal/exchange"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// show puts an act into the words of the contract.
func (p *planned) show() *api.Act {
	out := &api.Act{Kind: api.ActKind(p.kind), To: p.to.Name, At: p.at, Note: p.note, Jars: len(p.jars.Pieces), Against: p.against, Currency: p.currency, Lines: []api.ActLine{}}
	brought, deposits, cost, priced := decimal.Zero, decimal.Zero, decimal.Zero, false
	for i := range p.jars.Pieces {
		j := &p.jars.Pieces[i]
		lot := p.jars.Lots[j.Lot]
		cost, deposits = cost.Add(j.CostLeft()), deposits.Add(p.deposits[j.ID])
		line := api.ActLine{Name: p.names[p.formulaOf(j)], Formula: p.formulaOf(j), BatchCode: lot.Code, EachG: j.Original, Past: lot.PastOn(p.day), PriceFrom: p.from[j.ID]}
		if price := p.prices[j.ID]; price != nil {
			line.Price, priced = exchange.Money(price.Amount), true
			brought = brought.Add(price.Amount)
		}
		at := slices.IndexFunc(out.Lines, func(l api.ActLine) bool { l.Jars = 0; return l == line })
		if at < 0 {
			at = len(out.Lines)
			out.Lines = append(out.Lines, line)
		}
		out.Lines[at].Jars++
	}
	for i := range out.Lines {
		l := &out.Lines[i]
		if each, err := decimal.NewFromString(l.Price); err == nil {
			l.Together = exchange.Money(each.Mul(decimal.NewFromInt(int64(l.Jars))))
		}
	}
	for _, w := range p.weighed {
		line := api.ActLine{Name: p.names[formulaOfItem(w.lot.Item)], Formula: formulaOfItem(w.lot.Item), BatchCode: w.lot.Code, Grams: w.grams, Past: w.lot.PastOn(p.day)}
		cost = cost.Add(w.cost)
		if w.price != nil && p.kind == stock.Sold {
			line.Price, line.PriceFrom, priced = exchange.Money(w.price.Amount), api.PriceSaid, true
			line.Together, brought = line.Price, brought.Add(w.price.Amount)
		}
		out.Lines = append(out.Lines, line)
	}
	if priced {
		out.Brought = exchange.Money(brought)
	}
	out.Deposits, out.Cost = known(deposits), exchange.Money(cost)
	return out
}

// Acts lists one page of acts, the newest first; of one outlet where it is given.
func (s *Service) Acts(ctx context.Context, outlet uuid.UUID, after string, limit int) (acts []api.Act, next string, err error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, "", err
	}
	page := store.Page{Limit: exchange.PageLimit(limit)}
	if page.AfterTime, page.AfterID, err = exchange.ParsePage(after); err != nil {
		return nil, "", err
	}
	acts = []api.Act{}
	err = s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		rows, err := tx.Acts(outlet, page)
		if err != nil {
			return err
		}
		ids := make([]uuid.UUID, len(rows))
		for i := range rows {
			ids[i] = rows[i].ID
		}
		lines, err := tx.ActLines(ids...)
		if err != nil {
			return err
		}
		for i := range rows {
			acts = append(acts, *forRole(actOf(&rows[i], lines), a))
		}
		if len(rows) == page.Limit {
			last := rows[len(rows)-1]
			next = exchange.PageAfter(last.HappenedAt, last.ID)
		}
		return nil
	})
	return acts, next, err
}

// actOf is an act that was done, with its lines among those of several.
func actOf(row *store.Act, lines []store.ActLine) *api.Act {
	out := &api.Act{Id: row.ID, Number: row.Number, Kind: api.ActKind(row.Kind), To: row.Party, At: row.HappenedAt, By: row.Person, Note: row.Note, Lines: []api.ActLine{}}
	brought, deposits, cost, priced := decimal.Zero, decimal.Zero, decimal.Zero, false
	for _, l := range lines {
		if l.ActID != row.ID {
			continue
		}
		out.Currency = strings.TrimSpace(l.Currency)
		line := api.ActLine{Name: l.Name, Formula: formulaOfItem(l.Item), BatchCode: l.Code, Jars: l.Pieces, EachG: l.EachG}
		of := l.Pieces
		if of == 0 {
			line.Grams, line.EachG, of = l.Grams, 0, 1
		}
		if l.Price != nil {
			line.Price, priced = exchange.Money(l.Price.DivRound(decimal.NewFromInt(int64(of)), 2)), true
			line.Together, brought = exchange.Money(*l.Price), brought.Add(*l.Price)
		}
		out.Jars += l.Pieces
		deposits, cost = deposits.Add(l.Deposit), cost.Add(l.Cost)
		out.Lines = append(out.Lines, line)
	}
	if priced {
		out.Brought = exchange.Money(brought)
	}
	out.Deposits, out.Cost = known(deposits), exchange.Money(cost)
	return out
}
