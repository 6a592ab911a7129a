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
			pieces, err := tenant.PiecesSeen(ctx, tx, lot.ID)
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
		if !l.KeptFrom.IsZero() {
			made = append(made, l.KeptFrom)
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
			Received: l.Received, BestBefore: l.BestBefore, Grams: d.Quantity, Cost: cost, Unpriced: set.NamesOf(stock.Unpriced([]stock.Lot{*lots[d.Lot]})), MadeBy: l.MadeBy, KeptFrom: l.KeptFrom, Bags: insideOf(lots[d.Lot], within)})
	}
	for id := range of {
		sortBags(of[id])
	}
	return of, nil
}

// insideOf is what went into a lot: into what made it, or, of what was kept back of a
// batch, what that had of it.
func insideOf(l *stock.Lot, within map[stock.ID][]api.TraceBag) []api.TraceBag {
	if l.KeptFrom.IsZero() {
		return within[l.Making]
	}
	var same []api.TraceBag
	for _, b := range within[l.KeptFrom] {
		if b.Material == l.Item {
			same = append(same, b)
		}
	}
	return same
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
		of, err := batchesOf(ctx, tx, []stock.ID{l.ID}, traceDepth)
		out.Batches = append(out.Batches, of[l.ID]...)
		return err
	})
	return out, err
}

// batchesOf are the makings that lots went into, by lot, each with what its own
// lot went into: one round of questions for each level.
func batchesOf(ctx context.Context, tx *store.Tx, from []stock.ID, depth int) (map[stock.ID][]api.TraceBatch, error) {
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
	kept, err := keptOf(tx, ids, from)
	if err != nil {
		return nil, err
	}
	next := idsOf(made)
	for _, of := range kept {
		next = append(next, of...)
	}
	pieces, err := tenant.PiecesSeen(ctx, tx, next...)
	if err != nil {
		return nil, err
	}
	into, err := batchesOf(ctx, tx, next, depth-1)
	if err != nil {
		return nil, err
	}
	for _, d := range drawn {
		m := makings[d.Making]
		b := api.TraceBatch{Batch: m.ID, Code: m.Code, Name: m.Name, State: api.BatchState(m.StateName), Grams: d.Quantity, Jars: []api.Jar{}}
		if lot := made[d.Making]; lot != nil {
			b.Jars, b.Into = exchange.Jars(lot.Code, pieces[lot.ID]), into[lot.ID]
		}
		for _, back := range kept[keptKey{d.Making, d.Lot}] {
			b.Into = append(b.Into, into[back]...)
		}
		of[d.Lot] = append(of[d.Lot], b)
	}
	return of, nil
}

// keptKey is a batch and a lot that it drew on.
type keptKey struct{ making, lot stock.ID }

// keptOf are the lots that were taken back out of batches, by the batch and the lot they
// were of.
func keptOf(tx *store.Tx, makings, from []stock.ID) (map[keptKey][]stock.ID, error) {
	back, err := tx.LotsKeptFrom(makings...)
	if err != nil || len(back) == 0 {
		return nil, err
	}
	lots, err := tx.LotsByID(from)
	of := map[keptKey][]stock.ID{}
	for i := range back {
		for id, l := range lots {
			if l.Item == back[i].Item {
				key := keptKey{back[i].KeptFrom, id}
				of[key] = append(of[key], back[i].ID)
			}
		}
	}
	return of, err
}
