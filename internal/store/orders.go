package store

import (
	"time"

	"github.com/google/uuid"
)

// Order is so many jars of a good for a day, once or every so many weeks.
type Order struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	ID         uuid.UUID `gorm:"primaryKey"`
	FormulaID  uuid.UUID
	PartyID    *uuid.UUID
	Jars       int
	Day        time.Time  `gorm:"type:date"`
	EveryWeeks int        // 0 for once
	Until      *time.Time `gorm:"type:date"` // of a standing one
	Note       string
	PersonID   uuid.UUID
	NotedAt    time.Time
	EndedAt    *time.Time
}

// TableName is read by GORM.
func (Order) TableName() string { return "orders" }

// mostOrders is how many orders are open at the most.
const mostOrders = 1000

// OpenOrders lists what is ordered, the nearest day first.
func (t *Tx) OpenOrders() ([]Order, error) {
	var rows []Order
	return rows, t.db.Where("ended_at is null").Order("day, noted_at, id").Limit(mostOrders).Find(&rows).Error
}

// AddOrder keeps an order.
func (t *Tx) AddOrder(o *Order) error { return t.db.Create(o).Error }

// EndOrder says that an order was given, or is taken back; ErrNotFound where none is open.
func (t *Tx) EndOrder(id uuid.UUID, at time.Time) error {
	done := t.db.Model(&Order{}).Where("id = ? and ended_at is null", id).Update("ended_at", at)
	if done.Error == nil && done.RowsAffected == 0 {
		return ErrNotFound
	}
	return done.Error
}

// PlanLimits are within what is made.
type PlanLimits struct {
	WorkshopID  uuid.UUID `gorm:"primaryKey"`
	WorkDays    []byte    `gorm:"type:jsonb"`
	BenchMinDay float64   `gorm:"column:bench_min_a_day"`
	Vessels     []byte    `gorm:"type:jsonb"`
	Version     int
}

// TableName is read by GORM.
func (PlanLimits) TableName() string { return "plan_limits" }

// PlanLimits are those of the workshop; the usual, of version 0, where nobody said any.
func (t *Tx) PlanLimits() (*PlanLimits, error) {
	var rows []PlanLimits
	err := t.db.Limit(1).Find(&rows).Error
	if len(rows) == 0 {
		return &PlanLimits{WorkDays: []byte("[1,2,3,4,5]"), BenchMinDay: 240, Vessels: []byte("[]")}, err
	}
	return &rows[0], err
}

// SavePlanLimits keeps limits that were read at l.Version; ErrStale when they changed since.
func (t *Tx) SavePlanLimits(l *PlanLimits) error {
	read := l.Version
	l.Version++
	if read == 0 {
		return orStale(t.db.Create(l).Error)
	}
	done := t.db.Model(&PlanLimits{}).Where("version = ?", read).Select("work_days", "bench_min_a_day", "vessels", "version").Updates(l)
	if done.Error == nil && done.RowsAffected == 0 {
		return ErrStale
	}
	return done.Error
}

// HereJars is how many jars of a good are here, by what they are best before.
type HereJars struct {
	Item       string
	Jars       int
	BestBefore *time.Time
}

// JarsHere counts the jars that are here, by good and date; what is set aside is left out.
func (t *Tx) JarsHere() ([]HereJars, error) {
	var rows []HereJars
	return rows, t.sql(`select l.item, l.best_before, count(*) as jars from pieces p join lots l on l.workshop_id = p.workshop_id and l.id = p.lot_id
		where p.workshop_id = @workshop and p.gone_on is null and not l.set_aside group by l.item, l.best_before order by l.item, l.best_before`, nil).Find(&rows).Error
}

// UsualHandsOf are the medians of the minutes that hands were at the batches of formulas;
// of those of which nobody counted any there is none.
func (t *Tx) UsualHandsOf(formulas ...uuid.UUID) (map[uuid.UUID]float64, error) {
	of := map[uuid.UUID]float64{}
	if len(formulas) == 0 {
		return of, nil
	}
	var rows []struct {
		FormulaID uuid.UUID
		Minutes   float64
	}
	err := t.sql(`select formula_id, percentile_cont(0.5) within group (order by hands_min) as minutes from makings
		where workshop_id = @workshop and formula_id in @ids and state = 'finished' and hands_min is not null group by formula_id`, map[string]any{"ids": formulas}).Scan(&rows).Error
	for _, r := range rows {
		of[r.FormulaID] = r.Minutes
	}
	return of, err
}
