package store

import (
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm/clause"
)

// UseCard is a workshop's own card for what a formula makes.
type UseCard struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	ID         uuid.UUID `gorm:"primaryKey"`
	FormulaID  uuid.UUID
	Card       []byte `gorm:"type:jsonb"`
	Version    int
	RemovedAt  *time.Time
}

// UseCards lists the workshop's own cards, of one formula where it is given.
func (t *Tx) UseCards(formula uuid.UUID) ([]UseCard, error) {
	q := t.db.Where("removed_at is null")
	if formula != uuid.Nil {
		q = q.Where("formula_id = ?", formula)
	}
	var cards []UseCard
	return cards, q.Order("card->>'task', id").Limit(1000).Find(&cards).Error
}

// UseCard returns a card; ErrNotFound when it is not there.
func (t *Tx) UseCard(id uuid.UUID) (*UseCard, error) {
	var c UseCard
	return &c, orNotFound(t.db.Where("id = ? and removed_at is null", id).Take(&c).Error)
}

// AddUseCard keeps a new card.
func (t *Tx) AddUseCard(c *UseCard) error { return t.db.Create(c).Error }

// SaveUseCard keeps a card that was read at c.Version, or puts it away; ErrStale when it
// changed since.
func (t *Tx) SaveUseCard(c *UseCard) error {
	read := c.Version
	c.Version++
	result := t.db.Model(c).Where("version = ? and removed_at is null", read).Select("card", "version", "removed_at").Updates(c)
	if result.Error == nil && result.RowsAffected == 0 {
		return ErrStale
	}
	return result.Error
}

// Chore is what comes round.
type Chore struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	ID         uuid.UUID `gorm:"primaryKey"`
	Title      string
	Card       string // the id of the card it follows; empty without one
	EveryDays  int    // 0 where it is due once
	NextOn     time.Time
	RemovedAt  *time.Time
	Bottle     []byte // JSON: of a bottle that is to be emptied, what it took of which jar
}

// Chores lists what comes round, the next first, up to a day; all of it where that is
// zero.
func (t *Tx) Chores(until time.Time) ([]Chore, error) {
	q := t.db.Where("removed_at is null")
	if !until.IsZero() {
		q = q.Where("next_on <= ?", until)
	}
	var chores []Chore
	return chores, q.Order("next_on, title, id").Limit(500).Find(&chores).Error
}

// Chore returns one, locked until the transaction ends; ErrNotFound when it is not
// there.
func (t *Tx) Chore(id uuid.UUID) (*Chore, error) {
	var c Chore
	return &c, orNotFound(t.db.Clauses(clause.Locking{Strength: "UPDATE"}).Where("id = ? and removed_at is null", id).Take(&c).Error)
}

// AddChore keeps a new one.
func (t *Tx) AddChore(c *Chore) error { return t.db.Create(c).Error }

// SaveChore keeps when it is next, or that it is no more.
func (t *Tx) SaveChore(c *Chore) error {
	return t.db.Model(c).Select("next_on", "removed_at").Updates(c).Error
}
