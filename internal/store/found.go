package store

import (
	"time"

	"github.com/google/uuid"
)

// FoundCause is a cause that was found for what was seen, as core/why names both.
type FoundCause struct {
	WorkshopID  uuid.UUID `gorm:"primaryKey"`
	ID          uuid.UUID `gorm:"primaryKey"`
	Seen, Cause string
	FormulaID   *uuid.UUID
	MakingID    *uuid.UUID
	Note        string
	PersonID    uuid.UUID
	FoundAt     time.Time
	TakenBackAt *time.Time

	Code string `gorm:"->;-:migration"` // of the batch, to be read
}

// mostFoundCauses are listed, the newest first.
const mostFoundCauses = 500

// FoundCauses lists those that were not taken back, the newest first: of a formula, of a batch,
// or of all with neither.
func (t *Tx) FoundCauses(formula, making uuid.UUID) ([]FoundCause, error) {
	q := t.db.Model(&FoundCause{}).Select("found_causes.*, k.code").
		Joins("left join makings k on k.workshop_id = found_causes.workshop_id and k.id = found_causes.making_id").
		Where("found_causes.taken_back_at is null")
	if formula != uuid.Nil {
		q = q.Where("found_causes.formula_id = ?", formula)
	}
	if making != uuid.Nil {
		q = q.Where("found_causes.making_id = ?", making)
	}
	var rows []FoundCause
	return rows, q.Order("found_causes.found_at desc, found_causes.id desc").Limit(mostFoundCauses).Find(&rows).Error
}

// CountFoundCauses counts by cause what was found where something is seen.
func (t *Tx) CountFoundCauses(seen string) (map[string]int, error) {
	var rows []struct {
		Cause string
		N     int
	}
	err := t.db.Model(&FoundCause{}).Select("cause, count(*) as n").Where("seen = ? and taken_back_at is null", seen).Group("cause").Scan(&rows).Error
	of := make(map[string]int, len(rows))
	for _, r := range rows {
		of[r.Cause] = r.N
	}
	return of, err
}

// AddFoundCause keeps one.
func (t *Tx) AddFoundCause(row *FoundCause) error { return t.db.Omit("Code").Create(row).Error }

// TakeBackFoundCause lets one count no more; ErrNotFound where there is none that does.
func (t *Tx) TakeBackFoundCause(id uuid.UUID, at time.Time) error {
	return orNone(t.db.Model(&FoundCause{}).Where("id = ? and taken_back_at is null", id).Update("taken_back_at", at))
}
