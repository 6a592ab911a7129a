package bench

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/costing"
	"keencrock/core/making"
	"keencrock/core/quantity"
	"keencrock/core/stock"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// Pack fills some jars of a batch, which stays open for more.
func (s *Service) Pack(ctx context.Context, id uuid.UUID, in api.Pack) (*api.Batch, error) {
	return s.change(ctx, id, func(tx *store.Tx, b *tenant.Batch, a tenant.Actor) error {
		if err := s.pack(tx, a, b, in); err != nil {
			return err
		}
		if err := tx.SavePacked(b.Row); err != nil {
			return err
		}
		return announceGoods(tx, id)
	})
}

// pack fills jars of a batch: of containers that stand on the shelf where it says of
// which. The first draws the lots of the batch down. Each part costs by what it
// holds of all there is to pack.
func (s *Service) pack(tx *store.Tx, a tenant.Actor, b *tenant.Batch, in api.Pack) error {
	e := making.Happening(making.Packed)
	e.Count, e.Grams, e.Text, e.Pieces = float64(in.Jars), stock.Round(in.EachG), in.Note, in.Pieces
	if e.Pieces == 0 {
		e.Pieces = b.PiecesEach(in.Jars, e.Grams)
	}
	if e.Grams <= 0 {
		return problem.Unfit("bad-value", "%d jars are more than there is to fill.", in.Jars).At("jars")
	}
	if err := b.Check(e); err != nil {
		return err
	}
	partG := stock.Round(e.Count * e.Grams)
	whole := max(b.PackedG()+b.LikelyG(b.Row.Loss), b.PackedG()+partG)
	first := b.Jars() == 0
	if first {
		if err := s.open(tx, a, b); err != nil {
			return err
		}
	}
	container, containers, err := s.takeContainers(tx, a, b, in)
	if err != nil {
		return err
	}
	learnDensity(b, container, &e)
	b.Assessed.PiecesEach = e.Pieces
	if b.Row.Assessed, err = json.Marshal(b.Assessed); err != nil {
		return err
	}
	cost := b.Row.Cost.Mul(decimal.NewFromFloat(partG)).DivRound(decimal.NewFromFloat(whole), 2).Add(containers)
	b.Row.Cost = b.Row.Cost.Add(containers)
	numbered := b.Jars()
	if err := s.record(tx, b, a, e, uuid.Nil); err != nil {
		return err
	}
	pieces, err := filled(numbered, in.Jars, e.Grams, cost)
	if err != nil {
		return err
	}
	b.Row.Jars, b.Row.EachG = b.Jars(), e.Grams
	if !first {
		lots, err := tx.LotsOfMakings(stock.ID(b.Row.ID))
		if err != nil {
			return err
		}
		lot := lots[stock.ID(b.Row.ID)]
		return tx.AddToMadeLot(lot, partG, cost, pieces, a.Person, s.Now())
	}
	lot, err := madeLot(tx, b, stock.Good, partG, cost, s)
	if err != nil {
		return err
	}
	return tx.AddMadeLot(lot, pieces, a.Person, s.Now())
}

// filled are so many jars, numbered from after the last.
func filled(after, jars int, eachG float64, cost decimal.Decimal) ([]stock.Piece, error) {
	equal := make([]float64, jars)
	for i := range equal {
		equal[i] = 1
	}
	costs, err := costing.Split(cost, equal)
	if err != nil {
		return nil, err
	}
	pieces := make([]stock.Piece, jars)
	for i := range pieces {
		pieces[i] = stock.Piece{ID: stock.ID(store.NewID()), Number: after + i + 1, Original: eachG, Left: eachG, Cost: costs[i]}
	}
	return pieces, nil
}

// madeLot is the lot that a batch becomes.
func madeLot(tx *store.Tx, b *tenant.Batch, kind stock.Kind, grams float64, cost decimal.Decimal, s *Service) (*stock.Lot, error) {
	item := stock.Item{ID: stock.GoodID(b.Row.FormulaID.String()), Kind: kind, Unit: stock.InGrams, Name: b.Row.Name}
	if err := tx.PutItems(item); err != nil {
		return nil, err
	}
	return &stock.Lot{ID: stock.ID(store.NewID()), Item: item.ID, Code: b.Row.Code, Original: grams, Remaining: grams, Landed: cost,
		Currency: b.Row.Currency, Making: stock.ID(b.Row.ID), Received: b.Set.Today, BestBefore: *b.Row.BestBefore}, nil
}

// learnDensity takes from a filled container how dense a good lies, where that is denser
// than was reckoned, and says so in the note of what was packed.
func learnDensity(b *tenant.Batch, container *stock.Container, e *making.Event) {
	if container == nil || container.Filled(e.Grams, densityOf(b), b.Assessed.Poured) != stock.Denser {
		return
	}
	lies := e.Grams / container.HoldsML
	said := fmt.Sprintf("%s holds %.0f g of it, where %.0f g were reckoned: it lies at %.2f g/ml", container.Name, e.Grams, container.HoldsG(densityOf(b).Value), lies)
	if e.Text != "" {
		said = e.Text + ". " + said
	}
	e.Text = said
	b.Assessed.Density = tenant.Figure{Value: lies, Low: lies, High: max(lies, b.Assessed.Density.High)}
}

// takeContainers takes what is filled off the shelf, and says which it is, nil for none,
// and what it cost.
func (s *Service) takeContainers(tx *store.Tx, a tenant.Actor, b *tenant.Batch, in api.Pack) (container *stock.Container, total decimal.Decimal, err error) {
	if in.Container == "" {
		return nil, total, nil
	}
	container, err = tenant.ContainerOf(tx, in.Container)
	switch {
	case err != nil:
		return nil, total, err
	case container == nil:
		return nil, total, problem.Unfit("unknown-container", "There is no such packaging on the shelf.").At("container")
	case container.Filled(in.EachG, densityOf(b), b.Assessed.Poured) == stock.CannotBe:
		return nil, total, problem.Unfit("overfull", "%s holds about %.0f g of this: %g g do not go in. Fill less into each, and name what is left over.",
			container.Name, container.HoldsG(densityOf(b).Value), in.EachG).At("each_g")
	}
	lots, err := tx.Stock(in.Container)
	if err != nil {
		return nil, total, err
	}
	draws, shorts := stock.Allocate([]stock.Need{{Item: in.Container, Quantity: float64(in.Jars)}}, lots, b.Set.Today)
	if len(shorts) > 0 {
		return nil, total, problem.Unfit("short-lot", "Only %g of them are on the shelf: fill those first, or take another.", float64(in.Jars)-shorts[0].Missing).At("container")
	}
	ids := make([]stock.ID, len(draws))
	for i, d := range draws {
		ids[i] = d.Lot
	}
	if err := tx.LockLots(ids); err != nil {
		return nil, total, err
	}
	locked, err := tx.LotsByID(ids)
	if err != nil {
		return nil, total, err
	}
	for _, d := range draws {
		lot := locked[d.Lot]
		if lot.Available()+stock.Tolerance < d.Quantity {
			return nil, total, problem.Clash("short-lot", "Some of them were taken meanwhile: look at the shelf, and pack again.").At("container")
		}
		cost := lot.Cost(d.Quantity)
		total = total.Add(cost)
		m := stock.Movement{Lot: lot.ID, Kind: stock.Filled, Quantity: -d.Quantity, Cost: cost, Making: stock.ID(b.Row.ID), At: s.Now()}
		if err := tx.Move(&m, a.Person); err != nil {
			return nil, total, err
		}
	}
	return container, total, nil
}

// shelve puts what was made onto the shelf as one lot, to be used in other goods.
func (s *Service) shelve(tx *store.Tx, a tenant.Actor, b *tenant.Batch, in api.Finish) error {
	grams := stock.Round(in.BulkG)
	switch {
	case b.Jars() > 0 || in.Jars > 0:
		return problem.Unfit("bad-value", "Some of it is in jars: fill the rest as well.").At("bulk")
	case grams == 0:
		grams = b.LikelyG(b.Row.Loss)
	}
	if err := b.CheckYield(grams, "bulk_g"); err != nil {
		return err
	}
	if err := s.open(tx, a, b); err != nil {
		return err
	}
	e := making.Happening(making.Yielded)
	e.Grams = grams
	if step, at := b.Step(); at {
		e.Step = step
	}
	if err := s.record(tx, b, a, e, uuid.Nil); err != nil {
		return err
	}
	lot, err := madeLot(tx, b, stock.HalfMade, grams, b.Row.Cost, s)
	if err != nil {
		return err
	}
	return tx.AddMadeLot(lot, nil, a.Person, s.Now())
}

// settle gives what a batch cost and no part has had yet to what it made, now that no
// more will be packed.
func (s *Service) settle(tx *store.Tx, a tenant.Actor, b *tenant.Batch) error {
	lots, err := tx.LotsOfMakings(stock.ID(b.Row.ID))
	if err != nil {
		return err
	}
	lot := lots[stock.ID(b.Row.ID)]
	if lot == nil {
		return nil
	}
	if err := noteUnpriced(tx, b, lot); err != nil {
		return err
	}
	if b.Row.Cost.Equal(lot.Landed) {
		return nil
	}
	pieces, err := tx.Pieces(lot.ID)
	if err != nil {
		return err
	}
	weights := make([]float64, len(pieces[lot.ID]))
	for i, p := range pieces[lot.ID] {
		weights[i] = p.Original
	}
	costs := []decimal.Decimal{}
	if len(weights) > 0 {
		if costs, err = costing.Split(b.Row.Cost, weights); err != nil {
			return err
		}
	}
	why := fmt.Sprintf("what batch %s cost, shared over all of it", b.Row.Code)
	return tx.RecostMadeLot(lot, b.Row.Cost, pieces[lot.ID], costs, why, a.Person, s.Now())
}

// noteUnpriced keeps what went into a batch without a known price: of a vat's draw what
// was fed to it before feeding said from where.
func noteUnpriced(tx *store.Tx, b *tenant.Batch, lot *stock.Lot) error {
	went, err := tx.WentInto(stock.ID(b.Row.ID))
	if err != nil {
		return err
	}
	items := stock.Unpriced(went)
	if b.By.FromVessel != "" && !b.By.FromKnown {
		for i := range b.Lines {
			if item := b.Lines[i].Item; item != stock.Tap && !slices.Contains(items, item) {
				items = append(items, item)
			}
		}
	}
	if len(items) == 0 {
		return nil
	}
	return tx.NoteUnpriced(lot.ID, items)
}

// densityOf is what a millilitre of a batch weighs, in grams; 1 where that is not
// known.
func densityOf(b *tenant.Batch) quantity.Range {
	if d := b.Assessed.Density; d.Value > 0 {
		return quantity.Range(d)
	}
	return quantity.Exactly(1)
}

// Containers lists what a batch can be filled into, with how much of it each holds.
func (s *Service) Containers(ctx context.Context, id uuid.UUID) ([]api.Packaging, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	var out []api.Packaging
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		row, err := tx.Making(id)
		if err != nil {
			return tenant.Explain(err, "batch")
		}
		b, err := tenant.LoadBatch(tx, set, row)
		if err != nil {
			return err
		}
		out, err = tenant.Packaging(tx, b.LikelyG(row.Loss), densityOf(b).Value)
		return err
	})
	return out, err
}
