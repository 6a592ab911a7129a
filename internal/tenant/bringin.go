package tenant

import (
	"context"
	"errors"
	"fmt"

	"keencrock/api"
	"keencrock/internal/problem"
	"keencrock/internal/store"
)

// BringIn takes the rows of somebody's sheet in one transaction: take says of row i what is
// wrong with it, as a problem, or keeps it, and on which line of the file it stands. What is
// only tried, and what is not good as a whole where all is asked for, is taken back. Those who
// look at the station it is of are told.
func (h *House) BringIn(ctx context.Context, station string, how api.Taking, rows int, take func(tx *store.Tx, a Actor, i int) (line int, err error)) (*api.RowsTaken, error) {
	a, err := Require(ctx, Maker)
	if err != nil {
		return nil, err
	}
	out := &api.RowsTaken{Refused: []api.Problem{}}
	err = h.Store.Tx(ctx, func(tx *store.Tx) error {
		all := func() error {
			for i := range rows {
				var line int
				err := tx.Apart(func() (err error) {
					line, err = take(tx, a, i)
					return err
				})
				var p *api.Problem
				switch {
				case errors.As(err, &p):
					p.Row = line
					out.Refused = append(out.Refused, *p)
				case err != nil:
					return err
				default:
					out.Taken++
				}
			}
			return nil
		}
		if how == api.TakingTry {
			return tx.Trial(all)
		}
		if err := all(); err != nil {
			return err
		}
		if how == api.TakingAll && len(out.Refused) > 0 {
			return problem.UnfitAll("bad-rows", fmt.Sprintf("Line %d: %s Nothing was taken in.", out.Refused[0].Row, out.Refused[0].Detail), out.Refused)
		}
		return tx.Announce(station, a.Workshop)
	})
	return out, err
}
