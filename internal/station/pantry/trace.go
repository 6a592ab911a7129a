package pantry

import (
	"context"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/stock"
	"keencrock/internal/exchange"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// traceDepth is how many goods within goods a trace follows. Rings are refused
// when formulas are kept; this holds should one have come about all the same.
const traceDepth = 20

// TraceBatch takes the jars of a batch back to each bag, through the goods that
// went into it.
func (s *Service) TraceBatch(ctx context.Context, id uuid.UUID) (*api.BatchTrace, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	out := &api.BatchTrace{Bags: []api.TraceBag{}, Jars: []api.Jar{}}
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		m, err := tx.Making(id)
		if err != nil {
			return tenant.Explain(err, "batch")
		}
		out.Code, out.Name, out.Made = m.Code, m.Name, exchange.Date(tenant.DayOf(m.StartedAt, set.Workshop))
		of, err := bagsOf(tx, set, []stock.ID{stock.ID(id)}, traceDepth)
		if err != nil {
			return err
		}
		out.Bags = append(out.Bags, of[stock.ID(id)]...)
		lots, err := tx.LotsOfMakings(stock.ID(id))
		if err != nil {
			return err
		}
		if lot := lots[stock.ID(id)]; lot != nil {
			pieces, err := tx.Pieces(lot.ID)
			out.Jars = exchange.Jars(lot.Code, pieces[lot.ID])
			return err
		}
		return nil
	})
	return out, err
}

// bagsOf are the lots that went into makings, by making, each with what went into
// what made it: one round of questions for each level.
func bagsOf(tx *store.Tx, set *tenant.Settings, makings []stock.ID, depth int) (map[stock.ID][]api.TraceBag, error) {
	of := map[stock.ID][]api.TraceBag{}
	if len(makings) == 0 || depth == 0 {
		return of, nil
	}
	drawn, err := tx.DrawnByMakings(makings...)
	if err != nil {
		return nil, err
	}
	ids := make([]stock.ID, len(drawn))
	for i, d := range drawn {
		ids[i] = d.Lot
	}
	lots, err := tx.LotsByID(ids)
	if err != nil {
		return nil, err
	}
	var made []stock.ID
	for _, l := range lots {
		if !l.Making.IsZero() {
			made = append(made, l.Making)
		}
	}
	within, err := bagsOf(tx, set, made, depth-1)
	if err != nil {
		return nil, err
	}
	for _, d := range drawn {
		l := exchange.Lot(lots[d.Lot], set.NameOf(lots[d.Lot].Item), set.Today)
		cost := exchange.Money(d.Cost)
		if l.Landed == "" { // not known: not nothing
			cost = ""
		}
		of[d.Making] = append(of[d.Making], api.TraceBag{Lot: l.Id, Code: l.Code, Material: l.Material, Name: l.Name, Supplier: l.Supplier,
			Received: l.Received, BestBefore: l.BestBefore, Grams: d.Quantity, Cost: cost, Unpriced: set.NamesOf(stock.Unpriced([]stock.Lot{*lots[d.Lot]})), MadeBy: l.MadeBy, Bags: within[lots[d.Lot].Making]})
	}
	for id := range of {
		sortBags(of[id])
	}
	return of, nil
}

// TraceLot follows a bag to every jar, through the goods it went into.
func (s *Service) TraceLot(ctx context.Context, id uuid.UUID) (*api.LotTrace, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	out := &api.LotTrace{Batches: []api.TraceBatch{}}
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		l, err := tx.Lot(stock.ID(id))
		if err != nil {
			return tenant.Explain(err, "lot")
		}
		out.Lot = exchange.Lot(l, set.NameOf(l.Item), set.Today)
		of, err := batchesOf(tx, []stock.ID{l.ID}, traceDepth)
		out.Batches = append(out.Batches, of[l.ID]...)
		return err
	})
	return out, err
}

// batchesOf are the makings that lots went into, by lot, each with what its own
// lot went into: one round of questions for each level.
func batchesOf(tx *store.Tx, from []stock.ID, depth int) (map[stock.ID][]api.TraceBatch, error) {
	of := map[stock.ID][]api.TraceBatch{}
	if len(from) == 0 || depth == 0 {
		return of, nil
	}
	drawn, err := tx.DrawnFromLots(from...)
	if err != nil {
		return nil, err
	}
	ids := make([]stock.ID, len(drawn))
	for i, d := range drawn {
		ids[i] = d.Making
	}
	makings, err := tx.MakingsByID(ids...)
	if err != nil {
		return nil, err
	}
	made, err := tx.LotsOfMakings(ids...)
	if err != nil {
		return nil, err
	}
	next := idsOf(made)
	pieces, err := tx.Pieces(next...)
	if err != nil {
		return nil, err
	}
	into, err := batchesOf(tx, next, depth-1)
	if err != nil {
		return nil, err
	}
	for _, d := range drawn {
		m := makings[d.Making]
		b := api.TraceBatch{Batch: m.ID, Code: m.Code, Name: m.Name, State: api.BatchState(m.StateName), Grams: d.Quantity, Jars: []api.Jar{}}
		if lot := made[d.Making]; lot != nil {
			b.Jars, b.Into = exchange.Jars(lot.Code, pieces[lot.ID]), into[lot.ID]
		}
		of[d.Lot] = append(of[d.Lot], b)
	}
	return of, nil
}
