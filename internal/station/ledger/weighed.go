package ledger

import (
	"cmp"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/costing"
	"keencrock/core/stock"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// weighWish is a line of an act that asks for so much by weight, in no jar.
type weighWish struct {
	*api.ActWish
	field string
	name  string
	query store.JarQuery
}

// weighed is what of one lot goes by weight, or comes back.
type weighed struct {
	lot    *stock.Lot
	pieces []stock.Piece // that it comes out of or goes back into, as they are then
	grams  float64
	cost   decimal.Decimal
	price  *stock.Price // of all of it
	undoes *store.WeighedOut
}

// isByWeight reports whether a line is of so much, not of so many jars.
func isByWeight(wish *api.ActWish) bool { return wish.Grams != 0 || wish.Ml != 0 }

// weighWish reads one.
func (s *Service) weighWish(tx *store.Tx, p *planned, wish *api.ActWish, line int) (*weighWish, error) {
	w := &weighWish{ActWish: wish, field: fmt.Sprintf("lines[%d]", line)}
	if len(wish.Jars) > 0 || wish.Count != 0 || wish.Empty || wish.Deposit != "" || wish.Grams != 0 && wish.Ml != 0 {
		return nil, problem.Unfit("bad-value", "What goes by weight is so many grams, or so many millilitres, of a good or of a batch: no jars, and no deposit.").At(w.field)
	}
	var err error
	w.query, w.name, err = s.wanted(tx, p, wish, w.field)
	return w, err
}

// lots are those that a wish by weight may be of.
func (w *weighWish) lots(tx *store.Tx) ([]stock.ID, error) {
	if w.query.Leaving {
		return tx.FindWeighable(w.query)
	}
	out, err := tx.FindWeighedOut(w.query)
	var lots []stock.ID
	for _, o := range out {
		if id := stock.ID(o.Lot); !slices.Contains(lots, id) {
			lots = append(lots, id)
		}
	}
	return lots, err
}

// weigh finds what the wishes by weight come to, of lots that are locked, in the order in which
// each may be used.
func (s *Service) weigh(tx *store.Tx, set *tenant.Settings, p *planned, wishes []*weighWish, lots [][]stock.ID) error {
	if len(wishes) == 0 {
		return nil
	}
	of, err := tx.Pieces(slices.Concat(lots...)...)
	if err != nil {
		return err
	}
	for id := range of { // a jar of the act is not opened by it
		of[id] = slices.DeleteFunc(of[id], func(j stock.Piece) bool { return p.asked[j.ID] != nil })
	}
	sc := &weighing{Service: s, tx: tx, set: set, planned: p, pieces: of}
	for i, w := range wishes {
		if p.kind.Leaves() {
			err = sc.takeOut(w, lots[i])
		} else {
			err = sc.bringBack(w)
		}
		if err != nil {
			return err
		}
	}
	return nil
}

// weighing is the state in which the wishes of one act are weighed out, one after the other.
type weighing struct {
	*Service
	*planned
	tx     *store.Tx
	set    *tenant.Settings
	pieces map[stock.ID][]stock.Piece // of the lots, as they are by then
}

// takeOut takes what a wish asks for out of lots, the first as far as it goes.
func (w *weighing) takeOut(wish *weighWish, lots []stock.ID) error {
	var taken []*weighed
	here := 0.0
	left := wish.Grams + wish.Ml
	for _, id := range lots {
		lot := w.jars.Lots[id]
		unit, err := w.gramsPerUnit(wish, lot)
		if err != nil {
			return err
		}
		free := w.free(lot)
		here += free / unit
		grams := stock.Round(min(free, left*unit))
		if grams <= stock.Tolerance {
			continue
		}
		t := &weighed{lot: lot, grams: grams}
		if t.pieces, t.cost, err = w.open(lot, grams); err != nil {
			return err
		}
		lot.Remaining = stock.Round(lot.Remaining - grams)
		taken, left = append(taken, t), left-grams/unit
		if left*unit <= stock.Tolerance {
			left = 0
			break
		}
	}
	if left > 0 {
		return problem.Clash("short-lot", "Of %s %s are here and free, not %s. Nothing was moved.", wish.name, said(wish, here), said(wish, wish.Grams+wish.Ml)).At(wish.field)
	}
	w.weighed = append(w.weighed, taken...)
	return w.priceOut(wish, taken)
}

// said is an amount in the unit that a wish was said in.
func said(wish *weighWish, amount float64) string {
	if wish.Ml > 0 {
		return fmt.Sprintf("%.0f ml", amount)
	}
	return fmt.Sprintf("%.0f g", amount)
}

// gramsPerUnit is 1 for what was asked for in grams, the density for what was in millilitres.
func (w *weighing) gramsPerUnit(wish *weighWish, lot *stock.Lot) (float64, error) {
	if wish.Ml == 0 {
		return 1, nil
	}
	row, err := w.tx.Making(uuid.UUID(lot.Making))
	if err != nil {
		return 0, err
	}
	made, err := tenant.ReadAsMade(w.set, row)
	if err != nil {
		return 0, err
	}
	if d := made.DensityGPerML(); d > 0 {
		return d, nil
	}
	return 0, problem.Unfit("no-density", "What a millilitre of %s weighs is not known: say how many grams. Nothing was moved.", wish.name).At(wish.field)
}

// free is how much of a lot is in jars that are here, and neither held by an open batch nor
// going as jars in the same act.
func (w *weighing) free(lot *stock.Lot) float64 {
	here, going := 0.0, 0.0
	for _, j := range w.pieces[lot.ID] {
		if j.IsHere() {
			here += j.Left
		}
	}
	for i := range w.jars.Pieces {
		if j := &w.jars.Pieces[i]; j.Lot == lot.ID {
			going += j.Left
		}
	}
	return max(0, min(here, lot.Available()-going))
}

// open takes grams out of the jars of a lot: those that it changes, and what that cost.
func (w *weighing) open(lot *stock.Lot, grams float64) (changed []stock.Piece, cost decimal.Decimal, err error) {
	before := slices.Clone(w.pieces[lot.ID])
	taken, err := stock.TakeFromPieces(w.pieces[lot.ID], grams, w.day)
	if err != nil {
		return nil, cost, fmt.Errorf("what is free of lot %s: %w", lot.Code, err)
	}
	for i := range before {
		if part, ok := taken[before[i].ID]; ok {
			cost = cost.Add(before[i].CostTaken(part))
			changed = append(changed, w.pieces[lot.ID][i])
		}
	}
	return changed, cost, nil
}

// priceOut shares what was said for all of a wish over what it was taken out of.
func (w *weighing) priceOut(wish *weighWish, taken []*weighed) error {
	price, priced, err := money(wish.Price, 2, wish.field+".price")
	if err != nil || !priced || w.kind != stock.Sold {
		return err
	}
	grams := make([]float64, len(taken))
	for i, t := range taken {
		grams[i] = t.grams
	}
	shares, err := costing.Split(price, grams)
	if err != nil {
		return err
	}
	for i, t := range taken {
		t.price = &stock.Price{Amount: shares[i], Currency: w.currency}
	}
	return nil
}

// bringBack takes back so much of what went out by weight, the last first, with what was paid
// for it: it goes into jars that are opened here.
func (w *weighing) bringBack(wish *weighWish) error {
	out, err := w.tx.FindWeighedOut(wish.query)
	if err != nil {
		return err
	}
	whom := cmp.Or(w.to.Name, "anybody")
	left, there := wish.Grams+wish.Ml, 0.0
	for i := range out {
		o := &out[i]
		lot := w.jars.Lots[stock.ID(o.Lot)]
		if lot == nil { // it went since the lots were locked
			continue
		}
		unit, err := w.gramsPerUnit(wish, lot)
		if err != nil {
			return err
		}
		there += o.Grams / unit
		grams := stock.Round(min(o.Grams, left*unit))
		if grams <= stock.Tolerance {
			continue
		}
		if w.at.Before(o.At) {
			return problem.Unfit("too-early", "It went out on %s only: it cannot have come back before.", tenant.DayOf(o.At, w.set.Workshop).Format(time.DateOnly)).At("at")
		}
		b, err := w.undone(o, lot, grams)
		if err != nil {
			return err
		}
		w.weighed, left = append(w.weighed, b), left-grams/unit
		if left*unit <= stock.Tolerance {
			return nil
		}
	}
	return problem.Clash("more-back", "Of %s %s went out by weight to %s and are not back, not %s. Nothing was moved.", wish.name, said(wish, there), whom, said(wish, wish.Grams+wish.Ml)).At(wish.field)
}

// undone is so much of what went out that comes back.
func (w *weighing) undone(o *store.WeighedOut, lot *stock.Lot, grams float64) (*weighed, error) {
	put, err := stock.PutBackIntoPieces(w.pieces[lot.ID], grams)
	if err != nil {
		return nil, problem.Clash("no-room", "No opened jar of %s is here that it could go back into. Nothing was moved.", lot.Code).At("lines")
	}
	b := &weighed{lot: lot, grams: grams, cost: partOf(o.Cost, grams, o.Grams), undoes: o}
	if o.Price != nil {
		b.price = &stock.Price{Amount: partOf(*o.Price, grams, o.Grams), Currency: o.Currency}
	}
	for _, j := range w.pieces[lot.ID] {
		if _, ok := put[j.ID]; ok {
			b.pieces = append(b.pieces, j)
		}
	}
	lot.Remaining = stock.Round(lot.Remaining + grams)
	return b, nil
}

// partOf is what falls on a part of some grams; with the last of them all that is left.
func partOf(amount decimal.Decimal, grams, of float64) decimal.Decimal {
	if grams >= of-stock.Tolerance {
		return amount
	}
	return amount.Mul(decimal.NewFromFloat(grams)).DivRound(decimal.NewFromFloat(of), 2)
}

// movement is how what goes by weight moves.
func (w *weighed) movement(p *planned) *stock.Movement {
	m := &stock.Movement{Lot: w.lot.ID, Kind: p.kind, Quantity: -w.grams, Cost: w.cost, Party: p.to.Name, Price: w.price}
	if p.kind == stock.Discarded {
		m.Party, m.Reason = "", p.note
	}
	if w.undoes != nil {
		m.Quantity, m.Cost, m.Undoes, m.Party = w.grams, w.cost.Neg(), w.undoes.ID, w.undoes.Party
		if w.price != nil {
			m.Price = &stock.Price{Amount: w.price.Amount.Neg(), Currency: w.price.Currency}
		}
	}
	return m
}

// moveWeighed moves what goes by weight in an act.
func (s *Service) moveWeighed(tx *store.Tx, a tenant.Actor, p *planned, act uuid.UUID) error {
	for _, w := range p.weighed {
		m := w.movement(p)
		m.Act, m.At = stock.ID(act), p.at
		if err := tx.Move(m, a.Person); err != nil {
			return err
		}
		for i := range w.pieces {
			if err := tx.SavePiece(&w.pieces[i]); err != nil {
				return err
			}
		}
	}
	return nil
}
