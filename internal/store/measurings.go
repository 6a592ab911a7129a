package store

import (
	"time"

	"github.com/google/uuid"
)

// Measuring is one measuring of a figure of the workshop's own.
type Measuring struct {
	WorkshopID  uuid.UUID `gorm:"primaryKey"`
	ID          uuid.UUID `gorm:"primaryKey"`
	Kind        string    // as in core/learned
	Subject     string    // the material or the measure
	Said        string
	Value       float64 // in the unit of its kind
	PersonID    uuid.UUID
	MeasuredAt  time.Time
	TakenBackAt *time.Time
}

// Measurings lists all, also those taken back, by figure and time.
func (t *Tx) Measurings() ([]Measuring, error) {
	var rows []Measuring
	return rows, t.db.Order("kind, subject, measured_at, id").Find(&rows).Error
}

// Measuring returns one; ErrNotFound where there is none.
func (t *Tx) Measuring(id uuid.UUID) (*Measuring, error) {
	var row Measuring
	return &row, orNotFound(t.db.Where("id = ?", id).Take(&row).Error)
}

// CountMeasurings counts those of a figure, also those taken back.
func (t *Tx) CountMeasurings(kind, subject string) (int64, error) {
	var n int64
	return n, t.db.Model(&Measuring{}).Where("kind = ? and subject = ?", kind, subject).Count(&n).Error
}

// AddMeasuring keeps a new one.
func (t *Tx) AddMeasuring(m *Measuring) error {
	if err := t.db.Create(m).Error; err != nil {
		return err
	}
	return t.StampLibrary()
}

// CountMeasuring takes a measuring back at a time, or counts it again with nil; ErrNotFound
// where there is none.
func (t *Tx) CountMeasuring(id uuid.UUID, takenBack *time.Time) error {
	if err := orNone(t.db.Model(&Measuring{}).Where("id = ?", id).Update("taken_back_at", takenBack)); err != nil {
		return err
	}
	return t.StampLibrary()
}

// TakeMeasuringsBack takes all of a figure back.
func (t *Tx) TakeMeasuringsBack(kind, subject string, at time.Time) error {
	if err := t.db.Model(&Measuring{}).Where("kind = ? and subject = ? and taken_back_at is null", kind, subject).Update("taken_back_at", at).Error; err != nil {
		return err
	}
	return t.StampLibrary()
}

// FigureAsUsual is a figure that is not to be learned.
type FigureAsUsual struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	Kind       string    `gorm:"primaryKey"`
	Subject    string    `gorm:"primaryKey"`
	PersonID   uuid.UUID
	Since      time.Time
}

// TableName is that of more than one of them.
func (FigureAsUsual) TableName() string { return "figures_as_usual" }

// FiguresAsUsual lists what is not to be learned.
func (t *Tx) FiguresAsUsual() ([]FigureAsUsual, error) {
	var rows []FigureAsUsual
	return rows, t.db.Order("kind, subject").Find(&rows).Error
}

// LeaveAsUsual says that a figure is not to be learned.
func (t *Tx) LeaveAsUsual(row *FigureAsUsual) error {
	if err := t.db.Clauses(onConflictUpdate([]string{"workshop_id", "kind", "subject"}, "person_id", "since")).Create(row).Error; err != nil {
		return err
	}
	return t.StampLibrary()
}

// LearnAgain says that a figure is learned from what was measured.
func (t *Tx) LearnAgain(kind, subject string) error {
	if err := t.db.Where("kind = ? and subject = ?", kind, subject).Delete(&FigureAsUsual{}).Error; err != nil {
		return err
	}
	return t.StampLibrary()
}
