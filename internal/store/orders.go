package store

import (
	"time"

	"github.com/google/uuid"
)

// Order is so many jars of a good for a day, once or every so many weeks.
type Order struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	ID         uuid.UUID `gorm:"primaryKey"`
	FormulaID  uuid.UUID
	PartyID    *uuid.UUID
	Jars       int
	Day        time.Time  `gorm:"type:date"`
	EveryWeeks int        // 0 for once
	Until      *time.Time `gorm:"type:date"` // of a standing one
	Note       string
	PersonID   uuid.UUID
	NotedAt    time.Time
	EndedAt    *time.Time
}

// TableName is read by GORM.
func (Order) TableName() string { return "orders" }

// mostOrders is how many orders are open at the most.
const mostOrders = 1000

// OpenOrders lists what is ordered, the nearest day first.
func (t *Tx) OpenOrders() ([]Order, error) {
	var rows []Order
	return rows, t.db.Where("ended_at is null").Order("day, noted_at, id").Limit(mostOrders).Find(&rows).Error
}

// AddOrder keeps an order.
func (t *Tx) AddOrder(o *Order) error { return t.db.Create(o).Error }

// EndOrder says that an order was given, or is taken back; ErrNotFound where none is open.
func (t *Tx) EndOrder(id uuid.UUID, at time.Time) error {
	return orNone(t.db.Model(&Order{}).Where("id = ? and ended_at is null", id).Update("ended_at", at))
}
