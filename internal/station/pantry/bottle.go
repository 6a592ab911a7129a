package pantry

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/stock"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// bottle is what a bottle took of which jar.
type bottle struct {
	Batch uuid.UUID    `json:"batch"`
	Jars  []bottleTook `json:"jars"`
}

type bottleTook struct {
	Jar   uuid.UUID       `json:"jar"`
	Grams float64         `json:"grams"`
	Cost  decimal.Decimal `json:"cost"`
}

// FillBottle notes that a bottle was filled with a dilution of a good: what it took leaves
// the jars, the lowest numbers first, and when to empty it comes round.
func (s *Service) FillBottle(ctx context.Context, batch uuid.UUID, in api.DilutionWish) (*api.FilledBottle, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	var out *api.FilledBottle
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		m, err := s.made(tx, batch)
		if err != nil {
			return err
		}
		d, err := m.dilute(&in)
		if err != nil {
			return err
		}
		grams := stock.Round(d.GoodG)
		if grams <= 0 {
			return problem.Unfit("bad-value", "Nothing of %s goes into it: there is nothing to note.", m.row.Name).At("said")
		}
		reason := fmt.Sprintf("a bottle of %.0f ml, %s", d.BottleMl, d.Parts)
		b, err := s.takeFromJars(tx, a, m, grams, reason)
		if err != nil {
			return err
		}
		out = &api.FilledBottle{Id: store.NewID(), Dilution: *d, TakenG: grams, Jars: []string{}, EmptyBy: exchange.Date(m.set.Today.AddDate(0, 0, d.KeepsDays))}
		cost := decimal.Zero
		for _, took := range b.Jars {
			i := slices.IndexFunc(m.pieces, func(p stock.Piece) bool { return uuid.UUID(p.ID) == took.Jar })
			out.Jars = append(out.Jars, exchange.JarCode(m.lot.Code, m.pieces[i].Number))
			cost = cost.Add(took.Cost)
		}
		out.Cost = exchange.Money(cost)
		row := &store.Chore{ID: out.Id, NextOn: out.EmptyBy.Time,
			Title: shortenedTo(120, fmt.Sprintf("Empty the bottle of %s, %s, filled on %s", m.row.Name, d.Parts, m.set.Today.Format("2 January")))}
		if row.Bottle, err = json.Marshal(b); err != nil {
			return err
		}
		return errors.Join(tx.AddChore(row), tx.Announce("rack", nil), tx.Announce("pantry", batch))
	})
	return out, err
}

func shortenedTo(letters int, s string) string {
	if r := []rune(s); len(r) > letters {
		return string(r[:letters-1]) + "…"
	}
	return s
}

// takeFromJars takes grams of a good out of its jars, which are locked.
func (s *Service) takeFromJars(tx *store.Tx, a tenant.Actor, m *made, grams float64, reason string) (*bottle, error) {
	if err := tx.LockLots([]stock.ID{m.lot.ID}); err != nil {
		return nil, err
	}
	lot, err := tx.Lot(m.lot.ID)
	if err != nil {
		return nil, err
	}
	of, err := tx.Pieces(lot.ID)
	if err != nil {
		return nil, err
	}
	m.lot, m.pieces = lot, of[lot.ID]
	if grams > lot.Available()+stock.Tolerance {
		return nil, problem.Unfit("short-lot", "That takes %.0f g of %s, and %.0f g are here and not held by an open batch.", grams, m.row.Name, lot.Available()).At("bottle")
	}
	before := slices.Clone(m.pieces)
	taken, err := stock.TakeFromPieces(m.pieces, grams, m.set.Today)
	if err != nil {
		return nil, problem.Unfit("short-lot", "%v.", err).At("bottle")
	}
	b := &bottle{Batch: m.row.ID}
	for i := range before {
		part, ok := taken[before[i].ID]
		if !ok {
			continue
		}
		cost := before[i].CostTaken(part)
		b.Jars = append(b.Jars, bottleTook{uuid.UUID(before[i].ID), part, cost})
		mv := stock.Movement{Lot: lot.ID, Piece: before[i].ID, Kind: stock.Diluted, Quantity: -part, Cost: cost, Reason: reason, At: s.Now()}
		if err := errors.Join(tx.Move(&mv, a.Person), tx.SavePiece(&m.pieces[i])); err != nil {
			return nil, err
		}
	}
	return b, nil
}

// TakeBottleBack says that a bottle was not filled after all: what it took goes back into
// the jars it came out of, and it comes round no more.
func (s *Service) TakeBottleBack(ctx context.Context, id uuid.UUID) error {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return err
	}
	return s.Store.Tx(ctx, func(tx *store.Tx) error {
		c, err := tx.Chore(id)
		if err != nil {
			return tenant.Explain(err, "bottle")
		}
		var b bottle
		if len(c.Bottle) == 0 {
			return problem.Missing("not-found", "There is no such bottle.")
		}
		if err := json.Unmarshal(c.Bottle, &b); err != nil {
			return fmt.Errorf("a bottle: %w", err)
		}
		ids := make([]uuid.UUID, len(b.Jars))
		for i, took := range b.Jars {
			ids[i] = took.Jar
		}
		jars, err := tenant.LockJars(tx, ids)
		if err != nil {
			return err
		}
		for i := range jars.Pieces {
			p := &jars.Pieces[i]
			took := b.Jars[slices.IndexFunc(b.Jars, func(t bottleTook) bool { return t.Jar == uuid.UUID(p.ID) })]
			if !p.IsHere() && p.GoneTo != stock.UsedUpHere {
				return problem.Clash("moved-already", "Jar %s is gone to %s: nothing goes back into it.", jars.Code(p), p.GoneTo)
			}
			p.Left, p.GoneTo = stock.Round(p.Left+took.Grams), ""
			p.GoneOn = zeroDay
			mv := stock.Movement{Lot: p.Lot, Piece: p.ID, Kind: stock.Diluted, Quantity: took.Grams, Cost: took.Cost.Neg(), Reason: "taken back", At: s.Now()}
			if err := errors.Join(tx.Move(&mv, a.Person), tx.SavePiece(p)); err != nil {
				return err
			}
		}
		now := s.Now()
		c.RemovedAt = &now
		return errors.Join(tx.SaveChore(c), tx.Announce("rack", nil), tx.Announce("pantry", b.Batch))
	})
}
