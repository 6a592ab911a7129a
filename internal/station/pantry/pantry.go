// Package pantry is the pantry station: finished goods, where their jars are, and
// what went into them.
package pantry

import (
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
		pieces, err := tenant.PiecesSeen(ctx, tx, idsOf(lots)...)
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
		seen, err := tenant.SeenKeepings(tx)
		if err != nil {
			return err
		}
		goods = make([]api.PantryLot, 0, len(makings))
		for _, m := range makings {
			if lot := lots[stock.ID(m.ID)]; lot != nil {
				one := pantryLot(m, lot, pieces[lot.ID], useG(m, loads, set), set)
				one.Warns = warns(lot, seen[m.FormulaID])
				goods = append(goods, one)
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
		pieces, err := tenant.PiecesSeen(ctx, tx, lot.ID)
		if err != nil {
			return err
		}
		loads, err := tx.LoadsCountedOf(m.FormulaID)
		if err != nil {
			return err
		}
		out = pantryLot(m, lot, pieces[lot.ID], useG(m, loads, set), set)
		seen, err := tenant.SeenKeepings(tx)
		out.Warns = warns(lot, seen[m.FormulaID])
		return err
	})
	return &out, err
}

// warns says that a jar of the same formula went early, of what is dated longer than that.
func warns(lot *stock.Lot, seen tenant.SeenKeeping) string {
	if seen.Went == 0 || seen.AsUsual || lot.BestBefore.IsZero() || !lot.BestBefore.After(lot.Received.AddDate(0, 0, seen.Days)) {
		return ""
	}
	return fmt.Sprintf("A jar of %s was good for %d days and gone after that, and this is dated longer: look at it before it goes out.", seen.Code, seen.Days)
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
	out := api.PantryLot{Batch: m.ID, Lot: uuid.UUID(lot.ID), Formula: m.FormulaID, Code: m.Code, Name: m.Name, Kind: m.Kind, KindName: formula.Kind(m.Kind).Info().Name,
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
	jars, err := s.moveJars(ctx, api.JarsMove{Jars: []uuid.UUID{id}}, in, true)
	if err != nil {
		return nil, err
	}
	return &jars[0], nil
}

// MoveJars moves several jars in one act: all of them, or none where one is not
// where it would have to be.
func (s *Service) MoveJars(ctx context.Context, in api.JarsMove) ([]api.Jar, error) {
	if !in.Gone && len(in.Jars) == 0 {
		return nil, problem.Unfit("bad-value", "Say which jars came back.").At("jars")
	}
	return s.moveJars(ctx, in, api.JarMove{Gone: in.Gone, GoneTo: in.GoneTo}, false)
}

func (s *Service) moveJars(ctx context.Context, of api.JarsMove, in api.JarMove, again bool) ([]api.Jar, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	out := []api.Jar{}
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		w, err := tx.Workshop()
		if err != nil {
			return err
		}
		ids, err := tenant.JarsWanted(tx, of.Jars, of.Batch, of.Count)
		if err != nil {
			return err
		}
		jars, err := tenant.LockJars(tx, ids)
		if err != nil {
			return err
		}
		for i := range jars.Pieces {
			p := &jars.Pieces[i]
			m, err := move(jars, p, in, again)
			if err != nil {
				return err
			}
			if m == nil { // it is so already
				out = append(out, exchange.Jar(jars.Lots[p.Lot].Code, p))
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
			out = append(out, exchange.Jar(jars.Lots[p.Lot].Code, p))
		}
		return jars.Announce(tx)
	})
	return out, err
}

// move is the movement of a jar that goes or comes back. One that is there
// already is refused, unless it is told again: then who took it is put right, and it
// is nil where nothing is.
func move(jars *tenant.Jars, p *stock.Piece, in api.JarMove, again bool) (*stock.Movement, error) {
	usedUp := p.IsUsedUp()
	switch {
	case p.IsSample():
		return nil, jars.Clash(p)
	case in.Gone == p.IsHere() || !again || usedUp:
		if in.Gone {
			return jars.Leave(p, stock.Gone, strings.TrimSpace(in.GoneTo))
		}
		return jars.ComeBack(p)
	case in.Gone: // who took it is put right
		return &stock.Movement{Lot: p.Lot, Piece: p.ID, Kind: stock.Corrected, Party: strings.TrimSpace(in.GoneTo),
			Reason: fmt.Sprintf("jar %s was said to be gone elsewhere", jars.Code(p))}, nil // where, the movement before says by its party, which can be forgotten
	}
	return nil, nil // here, and said to be here
}

// sortBags orders bags by name and code.
func sortBags(bags []api.TraceBag) {
	slices.SortFunc(bags, func(a, b api.TraceBag) int { return strings.Compare(a.Name+a.Code, b.Name+b.Code) })
}
