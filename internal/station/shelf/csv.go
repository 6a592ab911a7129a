package shelf

import (
	"bytes"
	"cmp"
	"context"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"

	"keencrock/api"
	"keencrock/core/stock"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// ExportShelf writes every lot there ever was as CSV, the used-up ones too.
func (s *Service) ExportShelf(ctx context.Context) (io.Reader, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	tx := s.Store.Read(ctx)
	set, err := s.Settings(tx)
	if err != nil {
		return nil, err
	}
	rows, err := tx.BoughtLots()
	if err != nil {
		return nil, err
	}
	lots := make([]api.Lot, len(rows))
	for i := range rows {
		lots[i] = exchange.Lot(&rows[i], set.NameOf(rows[i].Item), set.Today)
	}
	priced, err := tenant.SeesPrices(ctx, tx)
	if err != nil {
		return nil, err
	}
	for i := range lots {
		if !priced {
			lots[i].Landed = ""
		}
	}
	var buf bytes.Buffer
	err = exchange.WriteShelf(&buf, lots)
	return &buf, err
}

// ImportShelf takes in lots from CSV. When a row is bad nothing is taken,
// unless takeGood asks for the others.
func (s *Service) ImportShelf(ctx context.Context, r io.Reader, takeGood bool) (*api.ImportResult, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	data, err := io.ReadAll(r)
	if err != nil {
		return nil, err
	}
	result := &api.ImportResult{Refused: []api.Problem{}}
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		good, bad, err := exchange.ReadShelf(ctx, data, set.Materials, set.Measures, set.Workshop.Currency)
		if err != nil {
			return err
		}
		lots, taken, err := newLots(tx, good, set)
		if err != nil {
			return err
		}
		bad = append(bad, taken...)
		slices.SortStableFunc(bad, func(a, b api.Problem) int { return cmp.Compare(a.Row, b.Row) })
		if len(bad) > 0 && !takeGood {
			return problem.UnfitAll("bad-rows", refusal(bad), bad)
		}
		result.Taken, result.Refused = len(lots), append(result.Refused, bad...)
		if len(lots) == 0 {
			return nil
		}
		if err := s.addLots(tx, a, lots); err != nil {
			return err
		}
		return tx.Announce("shelf", nil)
	})
	return result, err
}

// newLots are the lots of rows, and what is against a row: a code that the shelf,
// or a row above, has already.
func newLots(tx *store.Tx, rows []exchange.ShelfRow, set *tenant.Settings) (lots []stock.Lot, bad []api.Problem, err error) {
	codes, err := tx.LotCodes()
	if err != nil {
		return nil, nil, err
	}
	had := make(map[store.LotCode]bool, len(codes)+len(rows))
	for _, c := range codes {
		had[c], had[store.LotCode{Code: c.Code}] = true, true
	}
	taken := func(item, code string) (bool, error) {
		return had[store.LotCode{Item: item, Code: strings.ToLower(code)}], nil
	}
	lots = make([]stock.Lot, 0, len(rows))
	for _, row := range rows {
		l, err := newLot(row, set, taken)
		var p *api.Problem
		switch {
		case errors.As(err, &p):
			p.Row = row.Row
			bad = append(bad, *p)
		case err != nil:
			return nil, nil, err
		default:
			code := strings.ToLower(l.Code)
			had[store.LotCode{Item: l.Item, Code: code}], had[store.LotCode{Code: code}] = true, true
			lots = append(lots, *l)
		}
	}
	return lots, bad, nil
}

func refusal(bad []api.Problem) string {
	text := fmt.Sprintf("Line %d: %s", bad[0].Row, bad[0].Detail)
	if bad[0].Field != "" {
		text = fmt.Sprintf("Line %d, column %s: %s", bad[0].Row, bad[0].Field, bad[0].Detail)
	}
	if len(bad) > 1 {
		text += fmt.Sprintf(" And %d more.", len(bad)-1)
	}
	return text + " Nothing was taken in."
}
