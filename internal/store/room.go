package store

import (
	"context"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm/clause"
)

// RoomReading is how warm and how damp the room was.
type RoomReading struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	At         time.Time `gorm:"primaryKey"`
	Celsius    float64
	Humidity   float64
	ByHand     bool
}

// AddRoomReading keeps a reading; one of that moment that is there already stays.
func (t *Tx) AddRoomReading(r *RoomReading) error {
	return t.db.Clauses(clause.OnConflict{DoNothing: true}).Create(r).Error
}

// RoomReadings lists the readings since a time, the oldest first.
func (t *Tx) RoomReadings(since time.Time) ([]RoomReading, error) {
	var readings []RoomReading
	return readings, t.db.Where("at >= ?", since).Order("at").Find(&readings).Error
}

// WorkshopsWithHygrometer lists the workshops whose hygrometer is read.
func (s *Store) WorkshopsWithHygrometer(ctx context.Context) ([]uuid.UUID, error) {
	var ids []uuid.UUID
	return ids, s.at(acrossWorkshops(ctx)).Model(&Workshop{}).Where("hygrometer").Order("id").Pluck("id", &ids).Error
}
