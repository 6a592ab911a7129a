package store

import (
	"time"

	"github.com/google/uuid"
)

// Swatch is a photo of a trial: of a good in a pair, before or after.
type Swatch struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	ID         uuid.UUID `gorm:"primaryKey"` // of the picture
	TrialID    uuid.UUID
	Pair       int    // from 1
	Good       int    // from 0
	Side       string // before or after
	Found      []byte `gorm:"type:jsonb"`
	Cloth      int    // which of the areas is the clean cloth; −1 for none
	Stain      int
	Note       string
	PersonID   uuid.UUID
	TakenAt    time.Time
}

// Swatches lists the photos of trials.
func (t *Tx) Swatches(trials ...uuid.UUID) ([]Swatch, error) {
	if len(trials) == 0 {
		return nil, nil
	}
	var rows []Swatch
	return rows, t.db.Where("trial_id in ?", trials).Order("trial_id, pair, good, side").Find(&rows).Error
}

// SwatchByID returns one; ErrNotFound where there is none.
func (t *Tx) SwatchByID(id uuid.UUID) (*Swatch, error) {
	var row Swatch
	return &row, orNotFound(t.db.Where("id = ?", id).Take(&row).Error)
}

// AddSwatch keeps a photo with its picture, in place of one that stands there.
func (t *Tx) AddSwatch(row *Swatch, width, height int) (dropped *uuid.UUID, err error) {
	var old []Swatch
	if err := t.db.Where("trial_id = ? and pair = ? and good = ? and side = ?", row.TrialID, row.Pair, row.Good, row.Side).Find(&old).Error; err != nil {
		return nil, err
	}
	for i := range old {
		dropped = &old[i].ID
		if err := t.db.Where("id = ?", old[i].ID).Delete(&Picture{}).Error; err != nil { // and the swatch with it
			return nil, err
		}
	}
	if err := t.db.Create(&Picture{ID: row.ID, Width: width, Height: height}).Error; err != nil {
		return nil, err
	}
	return dropped, t.db.Create(row).Error
}

// ChooseAreas says which areas of a photo are the cloth and the stain.
func (t *Tx) ChooseAreas(id uuid.UUID, cloth, stain int) error {
	return orNone(t.db.Model(&Swatch{}).Where("id = ?", id).Updates(map[string]any{"cloth": cloth, "stain": stain}))
}
