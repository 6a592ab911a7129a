package store

import (
	"github.com/google/uuid"
)

// MaterialSetting is what a workshop measured or decided of a material.
type MaterialSetting struct {
	WorkshopID   uuid.UUID `gorm:"primaryKey"`
	Material     string    `gorm:"primaryKey"`
	ReorderG     float64
	DensityValue float64 // g/ml; zero for the library's
	Weighed      string  // how it was measured: "1 cup = 230 g"
	PieceG       float64 // one bar, nut or tab; zero for the library's
}

// MaterialSettings lists what the workshop set, by material.
func (t *Tx) MaterialSettings() ([]MaterialSetting, error) {
	var settings []MaterialSetting
	return settings, t.db.Order("material").Find(&settings).Error
}

// SaveMaterialSetting adds or replaces the setting of a material.
func (t *Tx) SaveMaterialSetting(m *MaterialSetting) error {
	if err := t.db.Clauses(onConflictUpdate([]string{"workshop_id", "material"}, "reorder_g", "density_value", "weighed", "piece_g")).Create(m).Error; err != nil {
		return err
	}
	return t.StampLibrary()
}

// StampLibrary says that what was worked out from the workshop's figures and
// own materials no longer holds.
func (t *Tx) StampLibrary() error {
	return t.db.Model(&Workshop{}).Where("true").Update("library_stamp", NewID()).Error
}

// OwnMaterial is a material of the workshop's own, as JSON.
type OwnMaterial struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	ID         string    `gorm:"primaryKey"`
	Said       []byte    `gorm:"type:jsonb"`
	Version    int
}

// CustomMaterials lists the workshop's own, by id.
func (t *Tx) CustomMaterials() ([]OwnMaterial, error) {
	var own []OwnMaterial
	return own, t.db.Order("id").Find(&own).Error
}

// AddCustomMaterial adds one; ErrTaken when there is one of that id.
func (t *Tx) AddCustomMaterial(m *OwnMaterial) error {
	if err := orTaken(t.db.Create(m).Error); err != nil {
		return err
	}
	return t.StampLibrary()
}

// EditCustomMaterial makes m the newest version; ErrStale unless it stands at
// m.Version − 1.
func (t *Tx) EditCustomMaterial(m *OwnMaterial) error {
	result := t.db.Model(&OwnMaterial{}).Where("id = ? and version = ?", m.ID, m.Version-1).
		Updates(map[string]any{"said": m.Said, "version": m.Version})
	if result.Error != nil {
		return result.Error
	}
	if result.RowsAffected == 0 {
		return ErrStale
	}
	return t.StampLibrary()
}
