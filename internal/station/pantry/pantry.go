// Package pantry is the pantry station: finished goods, where their jars are, and
// what went into them.
package pantry

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/dosing"
	"keencrock/core/formula"
	"keencrock/core/stock"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// Service is what can be done in the pantry.
type Service struct{ *tenant.House }

// New returns the pantry of a house.
func New(h *tenant.House) *Service { return &Service{h} }

// Query says which goods are wanted.
type Query struct {
	All   bool // those of which nothing is left too
	After string
	Limit int
}

// Pantry lists one page of finished lots, newest first, and what marks the next.
func (s *Service) Pantry(ctx context.Context, q Query) (goods []api.PantryLot, next string, err error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, "", err
	}
	page := store.Page{Limit: exchange.PageLimit(q.Limit)}
	if page.AfterTime, page.AfterID, err = exchange.ParsePage(q.After); err != nil {
		return nil, "", err
	}
	err = s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		of := left
		if q.All {
			of = everMade
		}
		makings, lots, err := of(tx, page)
		if err != nil {
			return err
		}
		pieces, err := tx.Pieces(idsOf(lots)...)
		if err != nil {
			return err
		}
		formulas := make([]uuid.UUID, 0, len(makings))
		for _, m := range makings {
			formulas = append(formulas, m.FormulaID)
		}
		loads, err := tx.LoadsCountedOf(formulas...)
		if err != nil {
			return err
		}
		goods = make([]api.PantryLot, 0, len(makings))
		for _, m := range makings {
			if lot := lots[stock.ID(m.ID)]; lot != nil {
				goods = append(goods, pantryLot(m, lot, pieces[lot.ID], useG(m, loads, set), set))
			}
		}
		if len(makings) < page.Limit {
			return nil
		}
		last := makings[len(makings)-1]
		if q.All {
			next = exchange.PageAfter(*last.EndedAt, last.ID)
			return nil
		}
		lot := lots[stock.ID(last.ID)]
		next = exchange.PageAfter(lot.Received, uuid.UUID(lot.ID))
		return nil
	})
	return goods, next, err
}

// everMade is a page of all finished batches with what they made.
func everMade(tx *store.Tx, page store.Page) ([]*store.Making, map[stock.ID]*stock.Lot, error) {
	rows, err := tx.FinishedMakings(page)
	if err != nil {
		return nil, nil, err
	}
	makings, ids := make([]*store.Making, len(rows)), make([]stock.ID, len(rows))
	for i := range rows {
		makings[i], ids[i] = &rows[i], stock.ID(rows[i].ID)
	}
	lots, err := tx.LotsOfMakings(ids...)
	return makings, lots, err
}

// left is a page of the finished batches that have something left.
func left(tx *store.Tx, page store.Page) ([]*store.Making, map[stock.ID]*stock.Lot, error) {
	rows, err := tx.GoodsLeft(page)
	if err != nil {
		return nil, nil, err
	}
	ids, lots := make([]stock.ID, len(rows)), map[stock.ID]*stock.Lot{}
	for i := range rows {
		ids[i] = rows[i].Making
		lots[ids[i]] = &rows[i]
	}
	byID, err := tx.MakingsByID(ids...)
	makings := make([]*store.Making, len(ids))
	for i, id := range ids {
		makings[i] = byID[id]
	}
	return makings, lots, err
}

// Good returns what one batch made.
func (s *Service) Good(ctx context.Context, batch uuid.UUID) (*api.PantryLot, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	var out api.PantryLot
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		m, err := tx.Making(batch)
		if err != nil {
			return tenant.Explain(err, "batch")
		}
		lots, err := tx.LotsOfMakings(stock.ID(batch))
		if err != nil {
			return err
		}
		lot := lots[stock.ID(batch)]
		if lot == nil {
			return problem.Missing("not-finished", "Batch %s has made nothing yet.", m.Code)
		}
		pieces, err := tx.Pieces(lot.ID)
		if err != nil {
			return err
		}
		loads, err := tx.LoadsCountedOf(m.FormulaID)
		out = pantryLot(m, lot, pieces[lot.ID], useG(m, loads, set), set)
		return err
	})
	return &out, err
}

func idsOf(lots map[stock.ID]*stock.Lot) []stock.ID {
	ids := make([]stock.ID, 0, len(lots))
	for _, l := range lots {
		ids = append(ids, l.ID)
	}
	return ids
}

var stateOf = map[stock.Nearness]api.PantryLotState{stock.Far: api.PantryLotStateGood, stock.Soon: api.PantryLotStateSoon, stock.Past: api.PantryLotStatePast}

// useG is what one use of a good takes, by whose dose its labels carry: what was counted of
// its formula's goods, else what the formula says. Of a reckoned one nothing is said here: it
// differs with the machine and the water.
func useG(m *store.Making, gramsPerLoad map[uuid.UUID]float64, set *tenant.Settings) float64 {
	counted := gramsPerLoad[m.FormulaID]
	switch voice := dosing.Voice(set.Workshop.LabelDose); {
	case voice == dosing.ByReckon:
		return 0
	case counted > 0 && voice != dosing.ByFormula:
		return counted
	}
	return m.UseG
}

func pantryLot(m *store.Making, lot *stock.Lot, pieces []stock.Piece, useG float64, set *tenant.Settings) api.PantryLot {
	out := api.PantryLot{Batch: m.ID, Lot: uuid.UUID(lot.ID), Code: m.Code, Name: m.Name, Kind: m.Kind, KindName: formula.Kind(m.Kind).Info().Name,
		Made: exchange.Date(lot.Received), BestBefore: exchange.Date(lot.BestBefore), BestBeforeReason: m.BestBeforeReason,
		Jars: m.Jars, EachG: m.EachG, Cost: exchange.Money(m.Cost), Unpriced: set.NamesOf(lot.Unpriced), Currency: m.Currency, JarList: exchange.Jars(lot.Code, pieces),
		State: stateOf[stock.NearnessOn(lot.BestBefore, set.Today)]}
	for i := range pieces {
		if pieces[i].IsHere() {
			out.Left++
		}
	}
	if m.Jars > 0 {
		out.CostPerJar = exchange.Money(lot.Landed.DivRound(decimal.NewFromInt(int64(m.Jars)), 4))
	} else {
		out.EachG, out.BulkG = 0, lot.Remaining
	}
	if useG > 0 {
		out.UsesLeft = lot.Remaining / useG
		if made := lot.Original; made > 0 {
			out.CostPerUse = lot.Landed.Mul(decimal.NewFromFloat(useG)).DivRound(decimal.NewFromFloat(made), 4).StringFixed(4)
		}
	}
	return out
}

// MoveJar says where a jar went, or that it came back; again puts right who took
// it.
func (s *Service) MoveJar(ctx context.Context, id uuid.UUID, in api.JarMove) (*api.Jar, error) {
	jars, err := s.moveJars(ctx, []uuid.UUID{id}, in, true)
	if err != nil {
		return nil, err
	}
	return &jars[0], nil
}

// MoveJars moves several jars in one act: all of them, or none where one is not
// where it would have to be.
func (s *Service) MoveJars(ctx context.Context, in api.JarsMove) ([]api.Jar, error) {
	return s.moveJars(ctx, in.Jars, api.JarMove{Gone: in.Gone, GoneTo: in.GoneTo}, false)
}

func (s *Service) moveJars(ctx context.Context, ids []uuid.UUID, in api.JarMove, again bool) ([]api.Jar, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	out := make([]api.Jar, 0, len(ids))
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		w, err := tx.Workshop()
		if err != nil {
			return err
		}
		pieces, lots, err := lockPieces(tx, ids)
		if err != nil {
			return tenant.Explain(err, "jar")
		}
		for i := range pieces {
			p, lot := &pieces[i], lots[pieces[i].Lot]
			m, err := move(p, lot, in, again)
			if err != nil {
				return err
			}
			if m == nil { // it is so already
				out = append(out, exchange.Jar(lot.Code, p))
				continue
			}
			if in.Gone {
				p.GoneOn, p.GoneTo = s.Day(w), m.Party
			} else {
				p.GoneOn, p.GoneTo = time.Time{}, ""
			}
			m.At = s.Now()
			if err := tx.Move(m, a.Person); err != nil {
				return err
			}
			if err := tx.SavePiece(p); err != nil {
				return err
			}
			out = append(out, exchange.Jar(lot.Code, p))
		}
		for _, lot := range lots {
			if err := tx.Announce("pantry", uuid.UUID(lot.Making)); err != nil {
				return err
			}
		}
		return nil
	})
	return out, err
}

// lockPieces locks jars, after the lots they are of.
func lockPieces(tx *store.Tx, ids []uuid.UUID) ([]stock.Piece, map[stock.ID]*stock.Lot, error) {
	wanted := make([]stock.ID, len(ids))
	for i, id := range ids {
		wanted[i] = stock.ID(id)
	}
	of, err := tx.LotsOfPieces(wanted)
	if err != nil {
		return nil, nil, err
	}
	if err := tx.LockLots(of); err != nil {
		return nil, nil, err
	}
	lots, err := tx.LotsByID(of)
	if err != nil {
		return nil, nil, err
	}
	pieces, err := tx.LockPieces(wanted)
	return pieces, lots, err
}

// move is the movement of a jar that goes or comes back. One that is there
// already is refused, unless it is told again: then who took it is put right, and it
// is nil where nothing is.
func move(p *stock.Piece, lot *stock.Lot, in api.JarMove, again bool) (*stock.Movement, error) {
	m := &stock.Movement{Lot: lot.ID, Piece: p.ID, Kind: stock.Returned, Quantity: p.Left, Cost: p.CostLeft().Neg(), Party: p.GoneTo}
	if in.Gone {
		m.Kind, m.Quantity, m.Cost, m.Party = stock.Gone, -p.Left, p.CostLeft(), strings.TrimSpace(in.GoneTo)
	}
	where := "here already"
	if !p.IsHere() {
		where = "gone already, to " + cmp.Or(p.GoneTo, "nobody said where")
	}
	clash := problem.Clash("moved-already", "Jar %s is %s. Nothing was moved.", exchange.JarCode(lot.Code, p.Number), where).At("jars")
	switch {
	case p.GoneTo == stock.UsedUpHere && p.Left == 0:
		return nil, problem.Clash("used-up", "Jar %s was used up here, in another batch or a bottle. Nothing was moved.", exchange.JarCode(lot.Code, p.Number)).At("jars")
	case p.IsHere() && in.Gone:
		if available := lot.Available(); -m.Quantity > available+stock.Tolerance {
			return nil, problem.Clash("held", "Open batches hold so much of %s that jar %s cannot go. Nothing was moved.", lot.Code, exchange.JarCode(lot.Code, p.Number)).At("jars")
		}
		lot.Remaining = stock.Round(lot.Remaining + m.Quantity)
	case !p.IsHere() && !in.Gone:
		lot.Remaining = stock.Round(lot.Remaining + m.Quantity)
	case !again:
		return nil, clash
	case in.Gone: // who took it is put right
		m.Kind, m.Quantity, m.Cost = stock.Corrected, 0, decimal.Zero
		m.Reason = fmt.Sprintf("jar %s was said to be gone to %s", exchange.JarCode(lot.Code, p.Number), cmp.Or(p.GoneTo, "nobody said where"))
	default: // here, and said to be here
		return nil, nil
	}
	return m, nil
}

// sortBags orders bags by name and code.
func sortBags(bags []api.TraceBag) {
	slices.SortFunc(bags, func(a, b api.TraceBag) int { return strings.Compare(a.Name+a.Code, b.Name+b.Code) })
}
