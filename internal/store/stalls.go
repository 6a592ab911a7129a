package store

import (
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"
	"gorm.io/gorm/clause"
)

// StallDay is a day at a stall.
type StallDay struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	ID         uuid.UUID `gorm:"primaryKey"`
	PartyID    uuid.UUID
	Day        time.Time `gorm:"type:date"`
	Fee        decimal.Decimal
	Fuel       decimal.Decimal
	Currency   string
	Takings    *decimal.Decimal
	Note       string
	PersonID   uuid.UUID
	OpenedAt   time.Time
	ClosedAt   *time.Time

	Party string `gorm:"->;-:migration"`
}

// AddStallDay keeps one; ErrTaken when one is open at that stall.
func (t *Tx) AddStallDay(d *StallDay) error { return orTaken(t.db.Omit("Party").Create(d).Error) }

// StallDays lists the last days at stalls, the newest first.
func (t *Tx) StallDays(limit int) ([]StallDay, error) {
	var days []StallDay
	return days, t.db.Model(&StallDay{}).Select("stall_days.*, p.name as party").Joins("join parties p on p.workshop_id = stall_days.workshop_id and p.id = stall_days.party_id").
		Order("stall_days.opened_at desc, stall_days.id desc").Limit(limit).Find(&days).Error
}

// StallDay returns one day, locked against other writers until the transaction ends.
func (t *Tx) StallDay(id uuid.UUID, lock bool) (*StallDay, error) {
	db := t.db.Model(&StallDay{}).Select("stall_days.*, p.name as party").Joins("join parties p on p.workshop_id = stall_days.workshop_id and p.id = stall_days.party_id").Where("stall_days.id = ?", id)
	if lock {
		db = db.Clauses(clause.Locking{Strength: "UPDATE", Table: clause.Table{Name: "stall_days"}})
	}
	var d StallDay
	return &d, orNotFound(db.Take(&d).Error)
}

// SaveStallDay keeps what a day came to.
func (t *Tx) SaveStallDay(d *StallDay) error {
	return t.db.Model(&StallDay{}).Where("id = ?", d.ID).Select("fee", "fuel", "takings", "note", "closed_at").Updates(d).Error
}

// OnStall is a jar that went out to a stall day, and what became of it there.
type OnStall struct {
	ID       int64 // of that movement
	Piece    uuid.UUID
	Lot      uuid.UUID
	Item     string
	Name     string
	Code     string
	Number   int
	Kind     string // of the last movement: gone, sold, given, returned
	Price    *decimal.Decimal
	Currency string
	Cost     decimal.Decimal
}

// OnStall lists the jars of a stall day.
func (t *Tx) OnStall(day uuid.UUID) ([]OnStall, error) {
	var rows []OnStall
	return rows, t.sql(`select * from (select distinct on (m.piece_id) m.id, m.piece_id as piece, m.lot_id as lot, l.item, i.name, l.code, p.number, m.kind, m.price, coalesce(m.price_currency, '') as currency, abs(m.cost) as cost
		from movements m join acts a on a.workshop_id = m.workshop_id and a.id = m.act_id
		join lots l on l.workshop_id = m.workshop_id and l.id = m.lot_id join items i on i.workshop_id = l.workshop_id and i.id = l.item
		join pieces p on p.workshop_id = m.workshop_id and p.id = m.piece_id
		where m.workshop_id = @workshop and a.stall_day_id = @day order by m.piece_id, m.id desc) q order by q.code, q.number`, map[string]any{"day": day}).Find(&rows).Error
}
