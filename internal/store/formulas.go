package store

import (
	"time"

	"github.com/google/uuid"
)

// Formula is the head of a formula; its versions hold what is in it.
type Formula struct {
	ID         uuid.UUID
	WorkshopID uuid.UUID
	Name       string
	Kind       string
	School     string
	Lines      int
	Version    int
	Questions  int // still asked by the newest version
	ChangedAt  time.Time
	HiddenAt   *time.Time
	LastMade   *time.Time `gorm:"->;-:migration"`
}

// FormulaVersion is one state of a formula. It is never changed.
type FormulaVersion struct {
	WorkshopID uuid.UUID
	FormulaID  uuid.UUID `gorm:"primaryKey"`
	Version    int       `gorm:"primaryKey"`
	File       []byte    `gorm:"type:jsonb"`
	PersonID   uuid.UUID
	At         time.Time
	Person     string `gorm:"->;-:migration"`
	Name       string `gorm:"->;-:migration"` // of the formula then; in lists only
}

// Formulas lists what is not hidden, or what is, by name.
func (t *Tx) Formulas(hidden bool) ([]Formula, error) {
	var formulas []Formula
	which := "hidden_at is null"
	if hidden {
		which = "hidden_at is not null"
	}
	return formulas, t.db.Model(&Formula{}).
		Select("formulas.*, (select max(m.ended_at) from makings m where m.workshop_id = formulas.workshop_id and m.formula_id = formulas.id and m.state = 'finished') as last_made").
		Where(which).Order("name").Find(&formulas).Error
}

// FormulaVersions lists the versions of a formula, newest first, without what is
// in them.
func (t *Tx) FormulaVersions(id uuid.UUID) ([]FormulaVersion, error) {
	var versions []FormulaVersion
	return versions, t.db.Model(&FormulaVersion{}).
		Select("formula_versions.version, formula_versions.at, formula_versions.file ->> 'name' as name, p.name as person").
		Joins("join people p on p.workshop_id = formula_versions.workshop_id and p.id = formula_versions.person_id").
		Where("formula_id = ?", id).Order("version desc").Find(&versions).Error
}

// NewestFiles lists the newest versions of the formulas of a kind, or of all where it is
// empty, by name, with nothing but what is in them.
func (t *Tx) NewestFiles(kind string) ([]FormulaVersion, error) {
	var versions []FormulaVersion
	q := t.db.Model(&FormulaVersion{}).Select("formula_versions.formula_id, formula_versions.file").
		Joins("join formulas f on f.workshop_id = formula_versions.workshop_id and f.id = formula_versions.formula_id and f.version = formula_versions.version").
		Where("f.hidden_at is null").Order("f.name")
	if kind != "" {
		q = q.Where("f.kind = ?", kind)
	}
	return versions, q.Find(&versions).Error
}

// Formula returns the head of a formula, hidden or not.
func (t *Tx) Formula(id uuid.UUID) (*Formula, error) {
	var f Formula
	return &f, orNotFound(t.db.Where("id = ?", id).Take(&f).Error)
}

// FormulaVersion returns one version.
func (t *Tx) FormulaVersion(id uuid.UUID, version int) (*FormulaVersion, error) {
	var v FormulaVersion
	err := t.db.Model(&FormulaVersion{}).Select("formula_versions.*, p.name as person").
		Joins("join people p on p.workshop_id = formula_versions.workshop_id and p.id = formula_versions.person_id").
		Where("formula_id = ? and version = ?", id, version).Take(&v).Error
	return &v, orNotFound(err)
}

// AddFormula adds a formula with its first version.
func (t *Tx) AddFormula(f *Formula, v *FormulaVersion) error {
	if err := t.db.Omit("LastMade").Create(f).Error; err != nil {
		return err
	}
	return t.db.Omit("Person", "Name").Create(v).Error
}

// AddFormulaVersion makes v the newest version; ErrStale unless the formula
// stands at v.Version − 1.
func (t *Tx) AddFormulaVersion(f *Formula, v *FormulaVersion) error {
	result := t.db.Model(&Formula{}).Where("id = ? and version = ? and hidden_at is null", f.ID, v.Version-1).
		Updates(map[string]any{"version": v.Version, "name": f.Name, "kind": f.Kind, "school": f.School, "lines": f.Lines, "questions": f.Questions, "changed_at": f.ChangedAt})
	if result.Error != nil {
		return result.Error
	}
	if result.RowsAffected == 0 {
		return ErrStale
	}
	return t.db.Omit("Person", "Name").Create(v).Error
}

// HideFormula takes a formula out of lists, or puts it back where hidden is nil;
// its batches keep it. ErrNotFound when it is so already.
func (t *Tx) HideFormula(id uuid.UUID, hidden *time.Time) error {
	return orNone(t.db.Model(&Formula{}).Where("id = ? and (hidden_at is null) = ?", id, hidden != nil).Update("hidden_at", hidden))
}
