package almanac

import (
	"context"
	"strings"

	"github.com/google/uuid"
	"github.com/oapi-codegen/runtime/types"

	"keencrock/api"
	"keencrock/internal/exchange/sheet"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// BringOrders brings in orders of somebody's sheet, a row each.
func (s *Service) BringOrders(ctx context.Context, in *api.OrderRows) (*api.RowsTaken, error) {
	var names map[uuid.UUID]string
	return s.BringIn(ctx, "almanac", in.Take, len(in.Rows), func(tx *store.Tx, a tenant.Actor, i int) (int, error) {
		r := &in.Rows[i]
		if i == 0 {
			var err error
			if names, err = tx.FormulaNames(); err != nil {
				return r.Row, err
			}
		}
		order, err := orderOfRow(r, names)
		if err != nil {
			return r.Row, err
		}
		_, err = s.note(tx, a, order)
		return r.Row, err
	})
}

func orderOfRow(r *api.OrderRow, names map[uuid.UUID]string) (*api.NewOrder, error) {
	order := &api.NewOrder{To: strings.TrimSpace(r.To), Note: strings.TrimSpace(r.Note)}
	if len([]rune(order.To)) > 120 {
		return nil, problem.Unfit("bad-value", "That name is too long.").At("to")
	}
	good := strings.TrimSpace(r.Good)
	var known bool
	if order.Formula, known = tenant.FormulaNamed(names, good); !known {
		return nil, problem.Unfit("unknown-good", "There is no good called “%s”.", good).At("good")
	}
	var err error
	if order.Jars, err = tenant.WholeNumber(r.Jars, "jars", 1, 100_000); err != nil {
		return nil, err
	}
	if order.EveryWeeks, err = tenant.WholeNumber(r.EveryWeeks, "every_weeks", 0, 52); err != nil {
		return nil, err
	}
	if strings.TrimSpace(r.Day) == "" {
		return nil, problem.Unfit("bad-value", "By which day are they wanted?").At("day")
	}
	for _, d := range []struct {
		text, field string
		to          *types.Date
	}{{r.Day, "day", &order.Day}, {r.Until, "until", &order.Until}} {
		text := strings.TrimSpace(d.text)
		if text == "" {
			continue
		}
		day, err := sheet.Day(text, false)
		if err != nil {
			return nil, problem.Unfit("bad-value", "%v.", err).At(d.field)
		}
		d.to.Time = day
	}
	return order, nil
}
