package store

import (
	"encoding/json"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"keencrock/core/stock"
)

// AddMadeLot adds what a making made, in numbered pieces, with the movement that
// brought it in.
func (t *Tx) AddMadeLot(l *stock.Lot, pieces []stock.Piece, by uuid.UUID, at time.Time) error {
	row := newLotRow(l, nil)
	if err := orTaken(t.db.Create(&row).Error); err != nil {
		return err
	}
	if err := t.addPieces(row.ID, pieces); err != nil {
		return err
	}
	return t.db.Omit(movementsElsewhere...).Create(&movementRow{LotID: row.ID, Kind: string(stock.Made), Quantity: l.Original, Cost: l.Landed, Currency: l.Currency,
		MakingID: row.MakingID, PersonID: by, HappenedAt: at, RecordedAt: at}).Error
}

// WentInto are the lots that a making drew from, and what it was filled into.
func (t *Tx) WentInto(making stock.ID) ([]stock.Lot, error) {
	return found(t.lots().Where(`lots.id in (select m.lot_id from movements m where m.workshop_id = lots.workshop_id and m.making_id = ? and m.kind <> 'made')
		or lots.id in (select s.lot_id from vat_shares s where s.workshop_id = lots.workshop_id and s.making_id = ?)`, uuid.UUID(making), uuid.UUID(making)))
}

// NoteUnpriced keeps what has no known price in a lot that was made here.
func (t *Tx) NoteUnpriced(lot stock.ID, items []string) error {
	names, err := json.Marshal(append([]string{}, items...))
	if err != nil {
		return err
	}
	return t.db.Model(&lotRow{}).Where("id = ?", uuid.UUID(lot)).Update("unpriced", names).Error
}

// AddToMadeLot adds what was packed of a making since, with the movement that brought
// it in.
func (t *Tx) AddToMadeLot(l *stock.Lot, quantity float64, cost decimal.Decimal, pieces []stock.Piece, by uuid.UUID, at time.Time) error {
	id := uuid.UUID(l.ID)
	if err := t.addPieces(id, pieces); err != nil {
		return err
	}
	err := t.db.Model(&lotRow{}).Where("id = ?", id).Updates(map[string]any{"original": gorm.Expr("original + ?", quantity), "landed": gorm.Expr("landed + ?", cost)}).Error
	if err != nil {
		return err
	}
	return t.Move(&stock.Movement{Lot: l.ID, Kind: stock.Made, Quantity: quantity, Cost: cost, Making: l.Making, At: at}, by)
}

// RecostMadeLot keeps what a lot that was made here cost after all, and each of its
// pieces, and says why as a movement of nothing.
func (t *Tx) RecostMadeLot(l *stock.Lot, cost decimal.Decimal, pieces []stock.Piece, costs []decimal.Decimal, why string, by uuid.UUID, at time.Time) error {
	if err := t.db.Model(&lotRow{}).Where("id = ?", uuid.UUID(l.ID)).Update("landed", cost).Error; err != nil {
		return err
	}
	for i, p := range pieces {
		if p.Cost.Equal(costs[i]) {
			continue
		}
		if err := t.db.Model(&pieceRow{}).Where("id = ?", uuid.UUID(p.ID)).Update("cost", costs[i]).Error; err != nil {
			return err
		}
	}
	return t.Move(&stock.Movement{Lot: l.ID, Kind: stock.Corrected, Cost: cost.Sub(l.Landed), Making: l.Making, Reason: why, At: at}, by)
}

func (t *Tx) addPieces(lot uuid.UUID, pieces []stock.Piece) error {
	if len(pieces) == 0 {
		return nil
	}
	rows := make([]pieceRow, len(pieces))
	for i, p := range pieces {
		rows[i] = pieceRow{ID: uuid.UUID(p.ID), LotID: lot, Number: p.Number, Original: p.Original, Remaining: p.Left, Cost: p.Cost}
	}
	return t.db.CreateInBatches(&rows, rowsAtOnce).Error
}
