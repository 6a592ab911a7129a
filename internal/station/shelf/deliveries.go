package shelf

import (
	"context"
	"fmt"
	"slices"

	"github.com/google/uuid"
	"github.com/oapi-codegen/runtime/types"
	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/costing"
	"keencrock/core/listener"
	"keencrock/core/stock"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// ReadDeliveries says what a note on what came means, one lot or many, and what became of
// each word; nothing is stored.
func (s *Service) ReadDeliveries(ctx context.Context, text string) (*api.SaidDelivery, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	tx := s.Store.Read(ctx)
	set, err := s.Settings(tx)
	if err != nil {
		return nil, err
	}
	d, err := readNote(tx, text, set)
	if err != nil {
		return nil, err
	}
	return exchange.Deliveries(d), nil
}

// readNote reads a note on what came, with the suppliers that are known.
func readNote(tx *store.Tx, text string, set *tenant.Settings) (*listener.Delivery, error) {
	suppliers, err := tx.Suppliers()
	if err != nil {
		return nil, err
	}
	d, err := listener.ReadDelivery(text, set.Materials, listener.DeliveryOptions{Measures: set.Measures, Today: set.Today, Currency: set.Workshop.Currency, Suppliers: suppliers})
	if err != nil {
		return nil, problem.TooLarge("too-long", "%s", exchange.Sentence(err))
	}
	return d, nil
}

// ReadDelivery says what a line on one lot means; nothing is stored.
func (s *Service) ReadDelivery(ctx context.Context, line string) (*api.Delivery, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	tx := s.Store.Read(ctx)
	set, err := s.Settings(tx)
	if err != nil {
		return nil, err
	}
	l, err := readOne(tx, line, set)
	if err != nil {
		return nil, err
	}
	out := &api.Delivery{Material: l.Material.ID, Name: l.Material.Name, Amount: l.Written, Packs: l.Packs, MassG: l.MassG,
		Supplier: l.Supplier, LotCode: l.LotCode, BestBefore: types.Date{Time: l.BestBefore}}
	if l.HasPrice {
		out.Price = exchange.Money(l.Price)
		out.PricePerKg = exchange.Money(costing.PerGram(l.Price, l.MassG).Mul(decimal.NewFromInt(1000)))
	}
	return out, nil
}

// readOne reads a line that is of one lot of a material.
func readOne(tx *store.Tx, line string, set *tenant.Settings) (*listener.Lot, error) {
	d, err := readNote(tx, line, set)
	if err != nil {
		return nil, err
	}
	if err := answered(d, "line"); err != nil {
		return nil, err
	}
	if len(d.Lots) != 1 || d.Lots[0].Package {
		return nil, problem.Unfit("several-lots", "This says %d lots: take them in together.", len(d.Lots)).At("line")
	}
	return d.Lots[0], nil
}

// answered refuses a note of which something is still asked.
func answered(d *listener.Delivery, field string) error {
	at := slices.IndexFunc(d.Unsure, func(u listener.Unsure) bool { return u.Code != listener.Deposit })
	if at < 0 {
		return nil
	}
	u := &d.Unsure[at]
	if u.Line >= 0 && u.Line < len(d.Lots) && d.Lots[u.Line].Err != nil {
		p := exchange.FieldProblem(field, d.Lots[u.Line].Err)
		return &p
	}
	return problem.Unfit(u.Code, "%s", u.Text).At(field)
}

// TakeDelivery takes in a lot noted in one line.
func (s *Service) TakeDelivery(ctx context.Context, in api.DeliveryLine) (*api.Lot, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	var out api.Lot
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		said, err := readOne(tx, in.Line, set)
		if err != nil {
			return err
		}
		l, err := s.addLot(tx, a, lotRow(said, in.Received, set), set)
		if err != nil {
			return err
		}
		out = exchange.Lot(l, set.NameOf(l.Item), set.Today)
		return tx.Announce("shelf", uuid.UUID(l.ID))
	})
	return &out, err
}

// lotRow is a lot that was said as a row of the shelf.
func lotRow(l *listener.Lot, came types.Date, set *tenant.Settings) exchange.ShelfRow {
	row := exchange.ShelfRow{LotCode: l.LotCode, Material: l.Material, Supplier: l.Supplier, OriginalG: l.MassG, RemainingG: l.MassG,
		Price: l.Price, Currency: l.Currency, Received: set.Today, BestBefore: l.BestBefore}
	if !l.Received.IsZero() {
		row.Received = l.Received
	}
	if !came.IsZero() {
		row.Received = came.Time
	}
	if l.HasPrice && l.Price.IsZero() {
		row.Free, row.Note = true, exchange.AGift
	}
	return row
}

// TakeDeliveries takes in all that a note says, or none of it.
func (s *Service) TakeDeliveries(ctx context.Context, in api.SaidNote) (*api.TakenDelivery, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	out := &api.TakenDelivery{Lots: []api.Lot{}, Packaging: []api.Packaging{}}
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		d, err := readNote(tx, in.Text, set)
		if err != nil {
			return err
		}
		if err := answered(d, "text"); err != nil {
			return err
		}
		for i, l := range d.Lots {
			if l.Package {
				p, err := s.putPackaging(tx, a, api.PackagingDelivery{Name: l.Name, HoldsMl: l.HoldsML, Pieces: l.Packs, Price: priceIn(l), Supplier: l.Supplier, Lot: l.LotCode}, set)
				if err != nil {
					return err
				}
				out.Packaging = append(out.Packaging, *p)
				continue
			}
			lot, err := s.addLot(tx, a, lotRow(l, in.Received, set), set)
			if err != nil {
				return inLot(err, i)
			}
			out.Lots = append(out.Lots, exchange.Lot(lot, set.NameOf(lot.Item), set.Today))
			if err := tx.Announce("shelf", uuid.UUID(lot.ID)); err != nil {
				return err
			}
		}
		return nil
	})
	return out, err
}

func priceIn(l *listener.Lot) api.Money {
	if !l.HasPrice {
		return ""
	}
	return exchange.Money(l.Price)
}

// inLot says of which lot of a note a refusal speaks.
func inLot(err error, i int) error {
	if p, ok := err.(*api.Problem); ok {
		p.Field = fmt.Sprintf("lots[%d].%s", i, p.Field)
	}
	return err
}

// known reports whether a material has a lot of a code; any where none is named.
func known(tx *store.Tx, item, code string) (bool, error) {
	same, err := tx.LotsByCode(code)
	return slices.ContainsFunc(same, func(o stock.Lot) bool { return item == "" || o.Item == item }), err
}
