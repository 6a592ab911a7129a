package store

import (
	"time"

	"github.com/google/uuid"
)

// Audit is something that was done that an owner should know: who came in, who may,
// what was taken out.
type Audit struct {
	WorkshopID uuid.UUID
	ID         int64 `gorm:"->"`
	Kind       string
	PersonID   *uuid.UUID // who did it
	About      string     // whom or what it was about
	Address    string     // where it came from
	Request    string     // its id in the log
	At         time.Time
	Person     string `gorm:"->;-:migration"` // by name
}

// TableName is read by GORM.
func (Audit) TableName() string { return "audit" }

// AddAudit keeps what was done.
func (t *Tx) AddAudit(a *Audit) error { return t.db.Omit("ID", "Person").Create(a).Error }

// Audits lists what was done, the newest in front, before an id; 0 for the newest.
func (t *Tx) Audits(before int64, limit int) ([]Audit, error) {
	var found []Audit
	q := t.db.Model(&Audit{}).Select("audit.*, coalesce(p.name, '') as person").
		Joins("left join people p on p.workshop_id = audit.workshop_id and p.id = audit.person_id").Order("audit.id desc").Limit(limit)
	if before > 0 {
		q = q.Where("audit.id < ?", before)
	}
	return found, q.Find(&found).Error
}
