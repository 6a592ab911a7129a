package store

import (
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm/clause"
)

// Trial is what is held against what, and the lots that were drawn for it.
type Trial struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	ID         uuid.UUID `gorm:"primaryKey"`
	Question   string
	Measure    string // what is marked
	LowWord    string
	HighWord   string
	Lower      bool   // a lower mark is the better one
	Ranked     bool   // marks are places in an order, 1 for the best
	Goods      []byte `gorm:"type:jsonb"`
	Control    int
	Pairs      int
	Seed       int64
	Same       string // what was kept the same
	PersonID   uuid.UUID
	BegunAt    time.Time
	EndedAt    *time.Time
}

// TrialMark is what a judge gave a good in a pair.
type TrialMark struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	TrialID    uuid.UUID `gorm:"primaryKey"`
	Pair       int       `gorm:"primaryKey"` // from 1
	Good       int       `gorm:"primaryKey"` // from 0
	Judge      string    `gorm:"primaryKey"`
	Mark       float64
	PersonID   uuid.UUID
	NotedAt    time.Time
}

// mostTrials is how many are listed.
const mostTrials = 200

// Trials lists them, the newest first.
func (t *Tx) Trials() ([]Trial, error) {
	var rows []Trial
	return rows, t.db.Order("begun_at desc, id").Limit(mostTrials).Find(&rows).Error
}

// TrialByID returns one; ErrNotFound where there is none.
func (t *Tx) TrialByID(id uuid.UUID) (*Trial, error) {
	var row Trial
	return &row, orNotFound(t.db.Where("id = ?", id).Take(&row).Error)
}

// LockTrial returns one, locked until the transaction ends.
func (t *Tx) LockTrial(id uuid.UUID) (*Trial, error) {
	var row Trial
	return &row, orNotFound(t.db.Clauses(clause.Locking{Strength: "UPDATE"}).Where("id = ?", id).Take(&row).Error)
}

// AddTrial keeps a new one.
func (t *Tx) AddTrial(row *Trial) error { return t.db.Create(row).Error }

// EndTrial keeps that one is over.
func (t *Tx) EndTrial(id uuid.UUID, at time.Time) error {
	return t.db.Model(&Trial{}).Where("id = ? and ended_at is null", id).Update("ended_at", at).Error
}

// TrialMarks lists what was given in trials, in the order of their pairs.
func (t *Tx) TrialMarks(trials ...uuid.UUID) ([]TrialMark, error) {
	if len(trials) == 0 {
		return nil, nil
	}
	var rows []TrialMark
	return rows, t.db.Where("trial_id in ?", trials).Order("trial_id, pair, good, judge").Find(&rows).Error
}

// Mark keeps a mark, in place of an earlier one of the same judge.
func (t *Tx) Mark(m *TrialMark) error {
	return t.db.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "workshop_id"}, {Name: "trial_id"}, {Name: "pair"}, {Name: "good"}, {Name: "judge"}},
		DoUpdates: clause.AssignmentColumns([]string{"mark", "person_id", "noted_at"})}).Create(m).Error
}
