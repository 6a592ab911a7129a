package workshop

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
	"keencrock/internal/exchange"
	"keencrock/internal/store"
)

// ExportShelf writes every lot there ever was as CSV, the used-up ones too.
func (s *Service) ExportShelf(ctx context.Context) (io.Reader, error) {
	if _, err := may(ctx, Viewer); err != nil {
		return nil, err
	}
	tx := s.store.Read(ctx)
	set, err := s.settings(tx)
	if err != nil {
		return nil, err
	}
	rows, err := tx.AllLots()
	if err != nil {
		return nil, err
	}
	lots := make([]api.Lot, len(rows))
	for i := range rows {
		lots[i] = lotOf(&rows[i], set, s.today())
	}
	var buf bytes.Buffer
	err = exchange.WriteShelf(&buf, lots)
	return &buf, err
}

// ImportShelf takes in lots from CSV. When a row is bad nothing is taken,
// unless takeGood asks for the others.
func (s *Service) ImportShelf(ctx context.Context, r io.Reader, takeGood bool) (*api.ImportResult, error) {
	a, err := may(ctx, Maker)
	if err != nil {
		return nil, err
	}
	data, err := io.ReadAll(r)
	if err != nil {
		return nil, err
	}
	result := &api.ImportResult{Refused: []api.Problem{}}
	err = s.store.Tx(ctx, func(tx *store.Tx) error {
		set, err := s.settings(tx)
		if err != nil {
			return err
		}
		good, bad, err := exchange.ReadShelf(ctx, data, set.lib, set.measures, set.workshop.Currency)
		if err != nil {
			return err
		}
		lots, taken, err := s.newLots(tx, good)
		if err != nil {
			return err
		}
		bad = append(bad, taken...)
		slices.SortStableFunc(bad, func(a, b api.Problem) int { return cmp.Compare(a.Row, b.Row) })
		if len(bad) > 0 && !takeGood {
			return api.Refused("bad-rows", refusal(bad), bad)
		}
		result.Taken, result.Refused = len(lots), append(result.Refused, bad...)
		if len(lots) == 0 {
			return nil
		}
		if err := tx.AddLots(lots, a.Person, s.now()); err != nil {
			return said(err, "lot")
		}
		return tx.Announce("shelf", nil)
	})
	return result, err
}

// newLots are the lots of rows, and what is against a row: a code that the shelf,
// or a row above, has already.
func (s *Service) newLots(tx *store.Tx, rows []exchange.ShelfRow) (lots []store.Lot, bad []api.Problem, err error) {
	codes, err := tx.LotCodes()
	if err != nil {
		return nil, nil, err
	}
	had := make(map[store.LotCode]bool, len(codes)+len(rows))
	for _, c := range codes {
		had[c] = true
	}
	taken := func(material, code string) (bool, error) {
		return had[store.LotCode{Material: material, Code: strings.ToLower(code)}], nil
	}
	lots = make([]store.Lot, 0, len(rows))
	for _, row := range rows {
		l, err := s.newLot(row, taken)
		var p *api.Problem
		switch {
		case errors.As(err, &p):
			p.Row = row.Row
			bad = append(bad, *p)
		case err != nil:
			return nil, nil, err
		default:
			had[store.LotCode{Material: l.Material, Code: strings.ToLower(l.Code)}] = true
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
