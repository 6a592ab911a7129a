package tenant

import (
	"cmp"

	"github.com/google/uuid"

	"keencrock/core/stock"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
)

// Jars are some that are moved at once, locked, with the lots they are of and how each left
// last.
type Jars struct {
	Pieces []stock.Piece
	Lots   map[stock.ID]*stock.Lot
	left   map[stock.ID]store.LeftBy
}

// LockJars locks jars, after the lots they are of and others.
func LockJars(tx *store.Tx, ids []uuid.UUID, others ...stock.ID) (*Jars, error) {
	wanted := make([]stock.ID, len(ids))
	for i, id := range ids {
		wanted[i] = stock.ID(id)
	}
	of, err := tx.LotsOfPieces(wanted)
	if err != nil {
		return nil, err
	}
	of = append(of, others...)
	if err := tx.LockLots(of); err != nil {
		return nil, err
	}
	j := &Jars{}
	if j.Lots, err = tx.LotsByID(of); err != nil {
		return nil, err
	}
	if j.Pieces, err = tx.LockPieces(wanted); err != nil {
		return nil, Explain(err, "jar")
	}
	j.left, err = tx.LeftByOf(wanted...)
	return j, err
}

// JarsWanted are jars that are named, or so many of a batch that are here: those that were filled
// first, which have the lowest numbers.
func JarsWanted(tx *store.Tx, named []uuid.UUID, batch uuid.UUID, count int) ([]uuid.UUID, error) {
	switch {
	case len(named) > 0 && batch != uuid.Nil:
		return nil, problem.Unfit("bad-value", "Name the jars, or a batch and how many: not both.").At("jars")
	case len(named) > 0:
		return named, nil
	case batch == uuid.Nil || count < 1:
		return nil, problem.Unfit("bad-value", "Name the jars, or a batch and how many.").At("jars")
	}
	lots, err := tx.LotsOfMakings(stock.ID(batch))
	if err != nil {
		return nil, err
	}
	lot := lots[stock.ID(batch)]
	if lot == nil {
		return nil, problem.Missing("not-found", "There is no such batch.")
	}
	pieces, err := tx.Pieces(lot.ID)
	if err != nil {
		return nil, err
	}
	for _, p := range pieces[lot.ID] {
		if p.IsHere() && len(named) < count {
			named = append(named, uuid.UUID(p.ID))
		}
	}
	if len(named) < count {
		return nil, problem.Clash("too-few", "Of %s are %d jars here.", lot.Code, len(named)).At("count")
	}
	return named, nil
}

// Code names a jar.
func (j *Jars) Code(p *stock.Piece) string { return exchange.JarCode(j.Lots[p.Lot].Code, p.Number) }

// Left is how a jar left the house last; ok is false for one that never did.
func (j *Jars) Left(p *stock.Piece) (l store.LeftBy, ok bool) {
	l, ok = j.left[p.ID]
	return l, ok
}

// Clash says that a jar is not where it would have to be.
func (j *Jars) Clash(p *stock.Piece) error {
	if p.IsSample() {
		return problem.Clash("sample", "Jar %s is kept here to be looked at: end that first, among the samples. Nothing was moved.", j.Code(p)).At("jars")
	}
	where := "here already"
	if !p.IsHere() {
		where = "gone already, to " + cmp.Or(p.GoneTo, "nobody said where")
	}
	if p.IsUsedUp() {
		return problem.Clash("used-up", "Jar %s was used up here, in another batch, in a bottle or by weight. Nothing was moved.", j.Code(p)).At("jars")
	}
	return problem.Clash("moved-already", "Jar %s is %s. Nothing was moved.", j.Code(p), where).At("jars")
}

// Leave is the movement of a jar that goes, of a kind, to somebody. The lot is drawn down.
func (j *Jars) Leave(p *stock.Piece, kind stock.MovementKind, to string) (*stock.Movement, error) {
	lot := j.Lots[p.Lot]
	if !p.IsHere() {
		return nil, j.Clash(p)
	}
	if p.Left > lot.Available()+stock.Tolerance {
		return nil, problem.Clash("held", "Open batches hold so much of %s that jar %s cannot go. Nothing was moved.", lot.Code, j.Code(p)).At("jars")
	}
	lot.Remaining = stock.Round(lot.Remaining - p.Left)
	return &stock.Movement{Lot: lot.ID, Piece: p.ID, Kind: kind, Quantity: -p.Left, Cost: p.CostLeft(), Party: to}, nil
}

// ComeBack is the movement of a jar that comes back: it takes back how it left, with what
// was paid for it.
func (j *Jars) ComeBack(p *stock.Piece) (*stock.Movement, error) {
	if p.IsSample() {
		return nil, j.Clash(p)
	}
	return j.EndSample(p)
}

// EndSample is the movement of a jar that comes back, also of one that was kept as a sample.
func (j *Jars) EndSample(p *stock.Piece) (*stock.Movement, error) {
	if p.IsHere() || p.IsUsedUp() {
		return nil, j.Clash(p)
	}
	lot := j.Lots[p.Lot]
	m := &stock.Movement{Lot: lot.ID, Piece: p.ID, Kind: stock.Returned, Quantity: p.Left, Cost: p.CostLeft().Neg(), Party: p.GoneTo}
	if left, known := j.left[p.ID]; known {
		m.Undoes, m.Deposit = left.ID, left.Deposit.Neg()
		if left.Price != nil {
			m.Price = &stock.Price{Amount: left.Price.Neg(), Currency: left.Priced}
		}
	}
	lot.Remaining = stock.Round(lot.Remaining + p.Left)
	return m, nil
}

// Announce says that the goods of the jars are not as they were.
func (j *Jars) Announce(tx *store.Tx) error {
	for _, lot := range j.Lots {
		if err := tx.Announce("pantry", uuid.UUID(lot.Making)); err != nil {
			return err
		}
	}
	return nil
}
