package store

import (
	"encoding/json"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"keencrock/core/stock"
)

// itemRow is one sort of thing that can be counted.
type itemRow struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	ID         string    `gorm:"primaryKey"`
	Kind       string
	Unit       string
	Name       string
	HoldsML    float64 `gorm:"column:holds_ml"` // of a container
	TareG      float64 `gorm:"column:tare_g"`   // of a container
}

// TableName is read by GORM.
func (itemRow) TableName() string { return "items" }

// PutItems adds items, and gives those that are there another name.
func (t *Tx) PutItems(items ...stock.Item) error {
	if len(items) == 0 {
		return nil
	}
	rows := make([]itemRow, len(items))
	for i, it := range items {
		rows[i] = itemRow{ID: it.ID, Kind: string(it.Kind), Unit: string(it.Unit), Name: it.Name}
	}
	return t.db.Clauses(onConflictUpdate([]string{"workshop_id", "id"}, "name")).Create(&rows).Error
}

// lotRow is a lot as it is kept, with what is known of it elsewhere.
type lotRow struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	ID         uuid.UUID `gorm:"primaryKey"`
	Item       string
	Code       string
	Original   float64
	Remaining  float64
	Landed     decimal.Decimal
	Free       bool
	Unpriced   []byte `gorm:"default:'[]'"` // JSON
	Currency   string
	SupplierID *uuid.UUID
	MakingID   *uuid.UUID
	KeptFrom   *uuid.UUID
	Received   time.Time
	BestBefore *time.Time
	Opened     *time.Time
	SetAside   bool
	Clumped    bool
	Note       string
	Rounds     int
	PH         *int64 `gorm:"column:ph"` // the measurement that holds
}

// TableName is read by GORM.
func (lotRow) TableName() string { return "lots" }

func timeOf(t *time.Time) time.Time {
	if t == nil {
		return time.Time{}
	}
	return *t
}

// orNull is nil for what is zero.
func orNull[T comparable](v T) *T {
	var zero T
	if v == zero {
		return nil
	}
	return &v
}

func idOrNull(id stock.ID) *uuid.UUID { return orNull(uuid.UUID(id)) }

// lots begins a query of lots, with all that is known of them.
func (t *Tx) lots() *gorm.DB {
	workshop, _ := workshopOf(t.db.Statement.Context)
	return t.db.Model(&lotRow{}).
		Select(`lots.id, lots.item, lots.code, lots.original::float8, lots.remaining::float8, lots.landed, lots.unpriced, lots.currency, lots.making_id, lots.received,
			lots.best_before, lots.opened, lots.set_aside, lots.clumped, lots.note, lots.rounds, coalesce(p.name, ''), coalesce(h.held, 0)::float8, m.value::float8, coalesce(m.instrument, ''),
			lots.free, lots.kept_from, coalesce((select k.code from makings k where k.workshop_id = lots.workshop_id and k.id = lots.kept_from), '')`).
		Joins("left join parties p on p.workshop_id = lots.workshop_id and p.id = lots.supplier_id").
		Joins("left join measurements m on m.workshop_id = lots.workshop_id and m.id = lots.ph").
		Joins("left join (select lot_id, sum(quantity) as held from allocations where workshop_id = ? group by lot_id) h on h.lot_id = lots.id", workshop)
}

// found reads what [Tx.lots] asks for: by hand, since there may be thousands.
func found(db *gorm.DB) ([]stock.Lot, error) {
	rows, err := db.Rows()
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	lots := []stock.Lot{}
	for rows.Next() {
		var l stock.Lot
		var id uuid.UUID
		var making, keptFrom uuid.NullUUID
		var bestBefore, opened *time.Time
		var ph *float64
		var instrument string
		var unpriced []byte
		if err := rows.Scan(&id, &l.Item, &l.Code, &l.Original, &l.Remaining, &l.Landed, &unpriced, &l.Currency, &making, &l.Received,
			&bestBefore, &opened, &l.SetAside, &l.Clumped, &l.Note, &l.Rounds, &l.Supplier, &l.Held, &ph, &instrument, &l.Free, &keptFrom, &l.KeptOf); err != nil {
			return nil, err
		}
		l.ID, l.BestBefore, l.Opened = stock.ID(id), timeOf(bestBefore), timeOf(opened)
		if err := readNames(unpriced, &l.Unpriced); err != nil {
			return nil, fmt.Errorf("what has no price in lot %s: %w", l.Code, err)
		}
		if making.Valid {
			l.Making, l.MakingCode = stock.ID(making.UUID), l.Code // a batch and what it made have one code
		}
		l.KeptFrom = stock.ID(keptFrom.UUID)
		if ph != nil {
			l.PH = &stock.Measured{PH: *ph, With: instrument}
		}
		lots = append(lots, l)
	}
	return lots, rows.Err()
}

// readNames reads a list of names; quickly where there are none, as mostly.
func readNames(kept []byte, into *[]string) error {
	if string(kept) == "[]" {
		return nil
	}
	return json.Unmarshal(kept, into)
}

// LotQuery says which lots are wanted, newest first. The page after a lot is
// asked for by its date and id.
type LotQuery struct {
	Item          string // all that was bought, for none
	Code          string // in any case of letters; any for none
	WithEmpty     bool
	AfterReceived time.Time
	AfterID       uuid.UUID
	Limit         int
}

// bought leaves out what was made here, and what is filled.
const bought = "lots.making_id is null and lots.item not like 'pack-%'"

// Lots lists one page of lots.
func (t *Tx) Lots(q LotQuery) ([]stock.Lot, error) {
	db := t.lots()
	if q.Item != "" {
		db = db.Where("lots.item = ?", q.Item)
	} else {
		db = db.Where(bought)
	}
	if q.Code != "" {
		db = db.Where("lots.code_folded = lower(?)", q.Code)
	}
	if !q.WithEmpty {
		db = db.Where("lots.remaining > 0")
	}
	if q.AfterID != uuid.Nil {
		db = db.Where("(lots.received, lots.id) < (?, ?)", q.AfterReceived, q.AfterID)
	}
	return found(db.Order("lots.received desc, lots.id desc").Limit(q.Limit))
}

// BoughtLots lists every lot that was ever bought, by item, oldest first.
func (t *Tx) BoughtLots() ([]stock.Lot, error) {
	return found(t.lots().Where(bought).Order("lots.item, lots.received, lots.id"))
}

// Stock lists every lot with something left, of the given items or of all, the
// oldest first.
func (t *Tx) Stock(items ...string) ([]stock.Lot, error) {
	db := t.lots().Where("lots.remaining > 0")
	if len(items) > 0 {
		db = db.Where("lots.item in ?", items)
	}
	return found(db.Order("lots.received, lots.id"))
}

// ShelfStock lists every bought lot with something left, in no order, with no more
// than says how it stands and what it cost: there may be thousands.
func (t *Tx) ShelfStock() ([]stock.Lot, error) {
	held := map[uuid.UUID]float64{}
	var allocated []struct {
		LotID uuid.UUID
		Held  float64
	}
	if err := t.db.Model(&allocationRow{}).Select("lot_id, sum(quantity) as held").Group("lot_id").Find(&allocated).Error; err != nil {
		return nil, err
	}
	for _, a := range allocated {
		held[a.LotID] = a.Held
	}
	rows, err := t.db.Model(&lotRow{}).Select("id, item, original::float8, remaining::float8, landed, free, currency, best_before, opened, set_aside, clumped").
		Where("remaining > 0 and " + bought).Rows()
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	var lots []stock.Lot
	for rows.Next() {
		var l stock.Lot
		var id uuid.UUID
		var bestBefore, opened *time.Time
		if err := rows.Scan(&id, &l.Item, &l.Original, &l.Remaining, &l.Landed, &l.Free, &l.Currency, &bestBefore, &opened, &l.SetAside, &l.Clumped); err != nil {
			return nil, err
		}
		l.ID, l.Held, l.BestBefore, l.Opened = stock.ID(id), held[id], timeOf(bestBefore), timeOf(opened)
		lots = append(lots, l)
	}
	return lots, rows.Err()
}

// PricedStock lists the lots of items that have something left, with no more than
// what they cost and hold.
func (t *Tx) PricedStock(items ...string) ([]stock.Lot, error) {
	var rows []lotRow
	err := t.db.Model(&lotRow{}).Select("item, original, remaining, landed, unpriced, making_id, currency").Where("remaining > 0 and landed > 0 and item in ?", items).Find(&rows).Error
	lots := make([]stock.Lot, len(rows))
	for i, r := range rows {
		lots[i] = stock.Lot{Item: r.Item, Original: r.Original, Remaining: r.Remaining, Landed: r.Landed, Currency: r.Currency}
		if r.MakingID != nil {
			lots[i].Making = stock.ID(*r.MakingID)
		}
		if err := readNames(r.Unpriced, &lots[i].Unpriced); err != nil {
			return nil, err
		}
	}
	return lots, err
}

// Page is where a list goes on, after a row of a time and an id, and how far.
type Page struct {
	AfterTime time.Time
	AfterID   uuid.UUID
	Limit     int
}

// GoodsLeft lists one page of the lots that were made here and have something
// left, the newest first: after one of a day it was made and an id.
func (t *Tx) GoodsLeft(p Page) ([]stock.Lot, error) {
	db := t.lots().Where("lots.making_id is not null and lots.remaining > 0")
	if p.AfterID != uuid.Nil {
		db = db.Where("(lots.received, lots.id) < (?, ?)", p.AfterTime, p.AfterID)
	}
	return found(db.Order("lots.received desc, lots.id desc").Limit(p.Limit))
}

// LastPrice is what the newest priced lot of an item cost.
type LastPrice struct {
	Item     string
	Landed   decimal.Decimal
	Original float64
	AtLeast  bool // something without a known price went into it
}

// LastPrices returns the newest price of each item in a currency, of the given
// items or of all.
func (t *Tx) LastPrices(currency string, items ...string) ([]LastPrice, error) {
	of := ""
	if len(items) > 0 {
		of = "and i.id in @items"
	}
	var prices []LastPrice
	return prices, t.sql(`select i.id as item, l.landed, l.original, l.unpriced <> '[]' as at_least from items i
		join lateral (select landed, original, unpriced from lots
			where lots.workshop_id = i.workshop_id and lots.item = i.id and landed > 0 and currency = @currency
			order by received desc, id desc limit 1) l on true
		where i.workshop_id = @workshop `+of+` order by i.id`,
		map[string]any{"items": items, "currency": currency}).Find(&prices).Error
}

// Lot returns one lot.
func (t *Tx) Lot(id stock.ID) (*stock.Lot, error) {
	lots, err := found(t.lots().Where("lots.id = ?", uuid.UUID(id)))
	if err == nil && len(lots) == 0 {
		err = ErrNotFound
	}
	if err != nil {
		return nil, err
	}
	return &lots[0], nil
}

// LotsByID returns the given lots by id.
func (t *Tx) LotsByID(ids []stock.ID) (map[stock.ID]*stock.Lot, error) {
	byID := map[stock.ID]*stock.Lot{}
	if len(ids) == 0 {
		return byID, nil
	}
	lots, err := found(t.lots().Where("lots.id in ?", uuids(ids)))
	for i := range lots {
		byID[lots[i].ID] = &lots[i]
	}
	return byID, err
}

// LotsKeptFrom lists what was taken back out of makings.
func (t *Tx) LotsKeptFrom(makings ...stock.ID) ([]stock.Lot, error) {
	if len(makings) == 0 {
		return nil, nil
	}
	return found(t.lots().Where("lots.kept_from in ?", uuids(makings)).Order("lots.id"))
}

// LotsOfMakings returns the lots that makings made, by making.
func (t *Tx) LotsOfMakings(makings ...stock.ID) (map[stock.ID]*stock.Lot, error) {
	of := map[stock.ID]*stock.Lot{}
	if len(makings) == 0 {
		return of, nil
	}
	lots, err := found(t.lots().Where("lots.making_id in ?", uuids(makings)))
	for i := range lots {
		of[lots[i].Making] = &lots[i]
	}
	return of, err
}

func uuids(ids []stock.ID) []uuid.UUID {
	out := make([]uuid.UUID, len(ids))
	for i, id := range ids {
		out[i] = uuid.UUID(id)
	}
	return out
}

// LotsByCode returns every lot of a code, whatever the item.
func (t *Tx) LotsByCode(code string) ([]stock.Lot, error) {
	return found(t.lots().Where("lots.code_folded = lower(?)", code))
}

// LockLots locks lots against other writers until the transaction ends, in an
// order that cannot deadlock.
func (t *Tx) LockLots(ids []stock.ID) error {
	if len(ids) == 0 {
		return nil
	}
	return t.sql(`select id from lots where workshop_id = @workshop and id in @ids order by id for update`,
		map[string]any{"ids": uuids(ids)}).Scan(&[]uuid.UUID{}).Error
}

// AddLots adds bought lots of items that are there, each with the movement that
// brought it in, and with one more where less is left than came; ErrTaken when an
// item has a lot of a code.
func (t *Tx) AddLots(lots []stock.Lot, by uuid.UUID, at time.Time) error {
	names := make([]string, len(lots))
	for i := range lots {
		names[i] = lots[i].Supplier
	}
	parties, err := t.parties(names...)
	if err != nil {
		return err
	}
	rows := make([]lotRow, len(lots))
	movements := make([]movementRow, 0, len(lots))
	for i := range lots {
		l := &lots[i]
		rows[i] = newLotRow(l, parties)
		came := stock.Received
		if !l.KeptFrom.IsZero() {
			came = stock.Kept
		}
		movements = append(movements, movementRow{LotID: rows[i].ID, Kind: string(came), Quantity: l.Original, Cost: l.Landed, Currency: l.Currency,
			MakingID: rows[i].KeptFrom, PartyID: rows[i].SupplierID, PersonID: by, HappenedAt: at, RecordedAt: at})
		if l.Remaining < l.Original {
			movements = append(movements, movementRow{LotID: rows[i].ID, Kind: string(stock.Corrected), Quantity: stock.Round(l.Remaining - l.Original), Currency: l.Currency,
				Reason: "used before it was taken in", PersonID: by, HappenedAt: at, RecordedAt: at})
		}
	}
	if err := orTaken(t.db.CreateInBatches(&rows, rowsAtOnce).Error); err != nil {
		return err
	}
	return t.db.Omit(movementsElsewhere...).CreateInBatches(&movements, rowsAtOnce).Error
}

// rowsAtOnce is how many rows one statement adds.
const rowsAtOnce = 500

func newLotRow(l *stock.Lot, parties map[string]uuid.UUID) lotRow {
	row := lotRow{ID: uuid.UUID(l.ID), Item: l.Item, Code: l.Code, Original: l.Original, Remaining: l.Remaining, Landed: l.Landed, Free: l.Free, Currency: l.Currency,
		MakingID: idOrNull(l.Making), KeptFrom: idOrNull(l.KeptFrom), Received: l.Received, BestBefore: orNull(l.BestBefore), Opened: orNull(l.Opened),
		SetAside: l.SetAside, Clumped: l.Clumped, Note: l.Note, Rounds: l.Rounds}
	if id, ok := parties[l.Supplier]; ok {
		row.SupplierID = &id
	}
	return row
}

// LotCode is the code of a lot, in small letters.
type LotCode struct{ Item, Code string }

// LotCodes lists the codes of all lots that were ever bought.
func (t *Tx) LotCodes() ([]LotCode, error) {
	var codes []LotCode
	return codes, t.db.Model(&lotRow{}).Select("item, code_folded as code").Where(bought).Find(&codes).Error
}

// SaveLotMarks keeps the marks of a lot: clumped, set aside, opened.
func (t *Tx) SaveLotMarks(l *stock.Lot) error {
	return t.db.Model(&lotRow{}).Where("id = ?", uuid.UUID(l.ID)).
		Updates(map[string]any{"clumped": l.Clumped, "set_aside": l.SetAside, "opened": orNull(l.Opened)}).Error
}

// CorrectLot keeps what was noted wrongly of a lot, and what is said of it as a
// movement of nothing; ErrTaken when the item has a lot of that code.
func (t *Tx) CorrectLot(l *stock.Lot, reason string, by uuid.UUID, at time.Time) error {
	parties, err := t.parties(l.Supplier)
	if err != nil {
		return err
	}
	row := newLotRow(l, parties)
	err = t.db.Model(&lotRow{}).Where("id = ?", row.ID).
		Updates(map[string]any{"code": row.Code, "supplier_id": row.SupplierID, "landed": row.Landed, "free": row.Free, "received": row.Received, "best_before": row.BestBefore}).Error
	if err != nil {
		return orTaken(err)
	}
	return t.Move(&stock.Movement{Lot: l.ID, Kind: stock.Corrected, Reason: reason, At: at}, by)
}

// LotEvent is something that was marked of a lot.
type LotEvent struct {
	LotCode string
	Text    string
}

// LotEvents lists what of a kind was marked of lots since a time, oldest first.
func (t *Tx) LotEvents(kind string, since time.Time, lots ...stock.ID) ([]LotEvent, error) {
	if len(lots) == 0 {
		return nil, nil
	}
	var events []LotEvent
	return events, t.db.Model(&eventRow{}).Select("l.code as lot_code, events.body ->> 'text' as text").
		Joins("join lots l on l.workshop_id = events.workshop_id and l.id = events.lot_id").
		Where("events.lot_id in ? and events.kind = ? and events.happened_at > ?", uuids(lots), kind, since).Order("events.id").Find(&events).Error
}

// MeasuredLots lists the lots with something left whose pH was measured.
func (t *Tx) MeasuredLots() ([]stock.Lot, error) {
	return found(t.lots().Where("lots.ph is not null and lots.remaining > 0").Order("lots.item, lots.id"))
}
