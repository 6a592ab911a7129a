package store

import "github.com/google/uuid"

// OwnSize is how much one of the workshop's own measures or vessels holds, in
// millilitres or grams by what the unit measures.
type OwnSize struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	Unit       string    `gorm:"primaryKey"`
	Size       float64
}

// CustomSizes lists the workshop's own sizes.
func (t *Tx) CustomSizes() ([]OwnSize, error) {
	var sizes []OwnSize
	return sizes, t.db.Order("unit").Find(&sizes).Error
}

// SaveCustomSize keeps the size of a unit; 0 forgets it.
func (t *Tx) SaveCustomSize(unit string, size float64) error {
	var err error
	if size == 0 {
		err = t.db.Where("unit = ?", unit).Delete(&OwnSize{}).Error
	} else {
		err = t.db.Clauses(onConflictUpdate([]string{"workshop_id", "unit"}, "size")).Create(&OwnSize{Unit: unit, Size: size}).Error
	}
	if err != nil {
		return err
	}
	return t.StampLibrary()
}
