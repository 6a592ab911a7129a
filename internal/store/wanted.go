package store

import (
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm/clause"
)

// Wanted is something that is to be bought, and what for.
type Wanted struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	Item       string    `gorm:"primaryKey"`
	Reason     string    `gorm:"primaryKey"` // the good it is for; empty where nothing was said
	Quantity   float64   // grams
	PersonID   uuid.UUID
	NotedAt    time.Time
}

// TableName is read by GORM.
func (Wanted) TableName() string { return "wanted" }

// mostWanted is how many lines a list to buy by has at the most.
const mostWanted = 500

// Wanted lists what is to be bought, what was noted first before the rest.
func (t *Tx) Wanted() ([]Wanted, error) {
	var rows []Wanted
	return rows, t.db.Order("noted_at, item, reason").Limit(mostWanted).Find(&rows).Error
}

// Want puts something on the list; of the same for the same good it says how much anew.
func (t *Tx) Want(rows []Wanted) error {
	if len(rows) == 0 {
		return nil
	}
	return t.db.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "workshop_id"}, {Name: "item"}, {Name: "reason"}},
		DoUpdates: clause.AssignmentColumns([]string{"quantity", "person_id", "noted_at"})}).Create(&rows).Error
}

// Unwant takes items off the list.
func (t *Tx) Unwant(items ...string) error {
	return t.db.Where("item in ?", items).Delete(&Wanted{}).Error
}
