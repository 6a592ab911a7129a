package workshop

import (
	"bytes"
	"cmp"
	"context"
	"errors"
	"fmt"
	"io"
	"slices"

	"keencrock/api"
	"keencrock/internal/exchange"
	"keencrock/internal/store"
)

// ExportShelf writes every lot with something left as CSV.
func (s *Service) ExportShelf(ctx context.Context) (io.Reader, error) {
	if _, err := may(ctx, Viewer); err != nil {
		return nil, err
	}
	tx := s.store.Read(ctx)
	set, err := s.settings(tx)
	if err != nil {
		return nil, err
	}
	rows, err := tx.Stock()
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
		good, bad, err := exchange.ReadShelf(data, set.lib, set.measures, set.workshop.Currency)
		if err != nil {
			return err
		}
		for _, row := range good {
			if _, err := s.addLot(tx, a, row); err != nil {
				var p *api.Problem
				if !errors.As(err, &p) {
					return err
				}
				p.Row = row.Row
				bad = append(bad, *p)
				continue
			}
			result.Taken++
		}
		slices.SortStableFunc(bad, func(a, b api.Problem) int { return cmp.Compare(a.Row, b.Row) })
		if len(bad) > 0 && !takeGood {
			return api.Refused("bad-rows", refusal(bad), bad)
		}
		result.Refused = append(result.Refused, bad...)
		return tx.Announce("shelf", nil)
	})
	return result, err
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
