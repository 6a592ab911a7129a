package store

import (
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"
	"gorm.io/gorm/clause"

	"keencrock/core/stock"
)

// onConflictUpdate replaces columns of a row that is there already.
func onConflictUpdate(key []string, columns ...string) clause.OnConflict {
	on := make([]clause.Column, len(key))
	for i, name := range key {
		on[i] = clause.Column{Name: name}
	}
	return clause.OnConflict{Columns: on, DoUpdates: clause.AssignmentColumns(columns)}
}

// movementRow is a movement as it is kept.
type movementRow struct {
	ID         int64 `gorm:"primaryKey"`
	WorkshopID uuid.UUID
	LotID      uuid.UUID
	PieceID    *uuid.UUID
	Kind       string
	Quantity   float64
	Cost       decimal.Decimal
	Currency   string
	MakingID   *uuid.UUID
	Line       *int
	VesselID   *uuid.UUID
	EventID    *int64
	PartyID    *uuid.UUID
	Reason     string
	PersonID   uuid.UUID
	HappenedAt time.Time
	RecordedAt time.Time

	ActID         *uuid.UUID
	Undoes        *int64
	Price         *decimal.Decimal
	PriceCurrency *string
	Deposit       decimal.Decimal

	MakingCode string `gorm:"->;-:migration"`
	Vessel     string `gorm:"->;-:migration"`
	Party      string `gorm:"->;-:migration"`
	Person     string `gorm:"->;-:migration"`
}

// TableName is read by GORM.
func (movementRow) TableName() string { return "movements" }

var movementsElsewhere = []string{"MakingCode", "Vessel", "Party", "Person"}

// Move records a movement and changes what is left of the lot, and of its piece,
// by it. The cost is in the currency of the lot.
func (t *Tx) Move(m *stock.Movement, by uuid.UUID) error {
	parties, err := t.parties(m.Party)
	if err != nil {
		return err
	}
	workshop, _ := workshopOf(t.db.Statement.Context)
	args := map[string]any{"workshop": workshop, "lot": uuid.UUID(m.Lot), "piece": idOrNull(m.Piece), "kind": string(m.Kind),
		"quantity": stock.Round(m.Quantity), "cost": m.Cost, "making": idOrNull(m.Making), "line": m.Line, "vessel": idOrNull(m.Vessel), "event": orNull(m.Event), "party": orNull(parties[m.Party]),
		"reason": m.Reason, "person": by, "at": m.At, "act": idOrNull(m.Act), "undoes": orNull(m.Undoes), "price": nil, "priced": nil, "deposit": m.Deposit}
	if m.Price != nil {
		args["price"], args["priced"] = m.Price.Amount, m.Price.Currency
	}
	if err := t.db.Exec(`insert into movements (workshop_id, lot_id, piece_id, kind, quantity, cost, currency, making_id, line, vessel_id, event_id, party_id, reason, person_id, happened_at, recorded_at,
			act_id, undoes, price, price_currency, deposit)
		select workshop_id, id, @piece, @kind, @quantity, @cost, currency, @making, @line, @vessel, @event, @party, @reason, @person, @at, @at, @act, @undoes, @price, @priced, @deposit
		from lots where workshop_id = @workshop and id = @lot`, args).Error; err != nil {
		return err
	}
	if m.Quantity == 0 {
		return nil
	}
	return t.db.Exec(`update lots set remaining = remaining + @quantity where workshop_id = @workshop and id = @lot`, args).Error
}

// Movements lists what came and went of a lot, oldest first.
func (t *Tx) Movements(lot stock.ID) ([]stock.Movement, error) {
	var rows []movementRow
	err := t.db.Model(&movementRow{}).
		Select("movements.*, coalesce(k.code, '') as making_code, coalesce(v.name, '') as vessel, coalesce(p.name, '') as party, w.name as person").
		Joins("left join makings k on k.workshop_id = movements.workshop_id and k.id = movements.making_id").
		Joins("left join vessels v on v.workshop_id = movements.workshop_id and v.id = movements.vessel_id").
		Joins("left join parties p on p.workshop_id = movements.workshop_id and p.id = movements.party_id").
		Joins("join people w on w.workshop_id = movements.workshop_id and w.id = movements.person_id").
		Where("movements.lot_id = ?", uuid.UUID(lot)).Order("movements.id").Find(&rows).Error
	out := make([]stock.Movement, len(rows))
	for i, r := range rows {
		out[i] = stock.Movement{Lot: lot, Kind: stock.MovementKind(r.Kind), Quantity: r.Quantity, Cost: r.Cost, MakingCode: r.MakingCode,
			Line: r.Line, VesselName: r.Vessel, Party: r.Party, Reason: r.Reason, By: r.Person, At: r.HappenedAt}
		out[i].ID = r.ID
		if r.PieceID != nil {
			out[i].Piece = stock.ID(*r.PieceID)
		}
		if r.MakingID != nil {
			out[i].Making = stock.ID(*r.MakingID)
		}
	}
	return out, err
}

// Drawn is what a making took of a lot.
type Drawn struct {
	Making   stock.ID
	Lot      stock.ID
	Quantity float64
	Cost     decimal.Decimal
}

// DrawnByMakings sums what makings took from each lot.
func (t *Tx) DrawnByMakings(makings ...stock.ID) ([]Drawn, error) {
	return t.drawn("making_id in @ids", uuids(makings))
}

// DrawnFromLots sums what each making took from lots.
func (t *Tx) DrawnFromLots(lots ...stock.ID) ([]Drawn, error) {
	return t.drawn("lot_id in @ids", uuids(lots))
}

// drawn sums movements that a making has of a lot that it did not make, and what it
// holds of one through a vat.
func (t *Tx) drawn(where string, ids []uuid.UUID) ([]Drawn, error) {
	if len(ids) == 0 {
		return nil, nil
	}
	var rows []struct {
		MakingID uuid.UUID
		LotID    uuid.UUID
		Quantity float64
		Cost     decimal.Decimal
	}
	err := t.sql(`select making_id, lot_id, sum(quantity) as quantity, sum(cost) as cost from (
			select workshop_id, making_id, lot_id, -quantity as quantity, cost from movements where making_id is not null and kind not in ('made', 'filled', 'kept')
			union all
			select workshop_id, making_id, lot_id, quantity, cost from vat_shares) of
		where workshop_id = @workshop and `+where+`
		group by making_id, lot_id having sum(quantity) <> 0 order by making_id, lot_id`, map[string]any{"ids": ids}).Scan(&rows).Error
	out := make([]Drawn, len(rows))
	for i, r := range rows {
		out[i] = Drawn{stock.ID(r.MakingID), stock.ID(r.LotID), r.Quantity, r.Cost}
	}
	return out, err
}

// pieceRow is a numbered part of a lot as it is kept.
type pieceRow struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	ID         uuid.UUID `gorm:"primaryKey"`
	LotID      uuid.UUID
	Number     int
	Original   float64
	Remaining  float64
	Cost       decimal.Decimal
	GoneOn     *time.Time
	GoneTo     string
}

// TableName is read by GORM.
func (pieceRow) TableName() string { return "pieces" }

func (r *pieceRow) piece() stock.Piece {
	return stock.Piece{ID: stock.ID(r.ID), Lot: stock.ID(r.LotID), Number: r.Number, Original: r.Original, Left: r.Remaining, Cost: r.Cost,
		GoneOn: timeOf(r.GoneOn), GoneTo: r.GoneTo}
}

// Pieces lists the pieces of lots, by lot, in order.
func (t *Tx) Pieces(lots ...stock.ID) (map[stock.ID][]stock.Piece, error) {
	of := map[stock.ID][]stock.Piece{}
	if len(lots) == 0 {
		return of, nil
	}
	// by hand, since there may be thousands
	rows, err := t.db.Model(&pieceRow{}).Select("id, lot_id, number, original::float8, remaining::float8, cost, gone_on, gone_to").
		Where("lot_id in ?", uuids(lots)).Order("lot_id, number").Rows()
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	for rows.Next() {
		var r pieceRow
		if err := rows.Scan(&r.ID, &r.LotID, &r.Number, &r.Original, &r.Remaining, &r.Cost, &r.GoneOn, &r.GoneTo); err != nil {
			return nil, err
		}
		lot := stock.ID(r.LotID)
		of[lot] = append(of[lot], r.piece())
	}
	return of, rows.Err()
}

// LockPieces returns pieces, by lot and in the order of their numbers, locked
// against other writers until the transaction ends; ErrNotFound when one of them
// is not there. Lock their lots first.
func (t *Tx) LockPieces(ids []stock.ID) ([]stock.Piece, error) {
	var rows []pieceRow
	err := t.db.Clauses(clause.Locking{Strength: "UPDATE"}).Where("id in ?", uuids(ids)).Order("lot_id, number").Find(&rows).Error
	if err == nil && len(rows) != len(ids) {
		err = ErrNotFound
	}
	out := make([]stock.Piece, len(rows))
	for i := range rows {
		out[i] = rows[i].piece()
	}
	return out, err
}

// LotsOfPieces lists the lots that pieces are of.
func (t *Tx) LotsOfPieces(ids []stock.ID) ([]stock.ID, error) {
	var lots []uuid.UUID
	err := t.db.Model(&pieceRow{}).Distinct("lot_id").Where("id in ?", uuids(ids)).Pluck("lot_id", &lots).Error
	out := make([]stock.ID, len(lots))
	for i, id := range lots {
		out[i] = stock.ID(id)
	}
	return out, err
}

// SavePiece keeps where a piece is and what is left in it.
func (t *Tx) SavePiece(p *stock.Piece) error {
	return t.db.Model(&pieceRow{}).Where("id = ?", uuid.UUID(p.ID)).
		Updates(map[string]any{"remaining": p.Left, "gone_on": orNull(p.GoneOn), "gone_to": p.GoneTo}).Error
}

// Measurement is a pH that was measured of a lot or a making.
type measurementRow struct {
	ID         int64 `gorm:"primaryKey"`
	WorkshopID uuid.UUID
	MakingID   *uuid.UUID
	LotID      *uuid.UUID
	Kind       string
	Value      float64
	Instrument string
	PersonID   uuid.UUID
	HappenedAt time.Time
	RecordedAt time.Time
}

// TableName is read by GORM.
func (measurementRow) TableName() string { return "measurements" }

// measurePH keeps a pH that was measured of a lot or a making.
func (t *Tx) measurePH(row measurementRow, m *stock.Measured, by uuid.UUID, at time.Time) (id int64, err error) {
	row.Kind, row.Value, row.Instrument, row.PersonID, row.HappenedAt, row.RecordedAt = "ph", m.PH, m.With, by, at, at
	err = t.db.Create(&row).Error
	return row.ID, err
}

// MeasureLot keeps a pH that was measured of a lot, which holds from now on; nil
// forgets that one was.
func (t *Tx) MeasureLot(lot stock.ID, m *stock.Measured, by uuid.UUID, at time.Time) error {
	var holds *int64
	if m != nil {
		id, err := t.measurePH(measurementRow{LotID: idOrNull(lot)}, m, by, at)
		if err != nil {
			return err
		}
		holds = &id
	}
	return t.db.Model(&lotRow{}).Where("id = ?", uuid.UUID(lot)).Update("ph", holds).Error
}
