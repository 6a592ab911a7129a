package store

import (
	"context"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm/clause"
)

// PlanLimits are within what is made.
type PlanLimits struct {
	WorkshopID  uuid.UUID `gorm:"primaryKey"`
	WorkDays    []byte    `gorm:"type:jsonb"`
	BenchMinDay float64   `gorm:"column:bench_min_a_day"`
	Vessels     []byte    `gorm:"type:jsonb"`
	DaysOff     []byte    `gorm:"type:jsonb"`
	Suppliers   []byte    `gorm:"type:jsonb"`
	Version     int
}

// TableName is read by GORM.
func (PlanLimits) TableName() string { return "plan_limits" }

// PlanLimits are those of the workshop; the usual, of version 0, where nobody said any.
func (t *Tx) PlanLimits() (*PlanLimits, error) {
	var rows []PlanLimits
	err := t.db.Limit(1).Find(&rows).Error
	if len(rows) == 0 {
		return &PlanLimits{WorkDays: []byte("[1,2,3,4,5]"), BenchMinDay: 240, Vessels: []byte("[]"), DaysOff: []byte("[]"), Suppliers: []byte("[]")}, err
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
	done := t.db.Model(&PlanLimits{}).Where("version = ?", read).Select("work_days", "bench_min_a_day", "vessels", "days_off", "suppliers", "version").Updates(l)
	if done.Error == nil && done.RowsAffected == 0 {
		return ErrStale
	}
	return done.Error
}

// PlanPin is a making whose day at the bench was set by hand.
type PlanPin struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	ID         uuid.UUID `gorm:"primaryKey"`
	FormulaID  uuid.UUID
	Bench      time.Time `gorm:"type:date"`
	PersonID   uuid.UUID
	SetAt      time.Time
}

// TableName is read by GORM.
func (PlanPin) TableName() string { return "plan_pins" }

// PlanPins lists what is set by hand from a day on, the first first.
func (t *Tx) PlanPins(from time.Time) ([]PlanPin, error) {
	var rows []PlanPin
	return rows, t.db.Where("bench >= ?", from).Order("bench, set_at, id").Limit(mostOrders).Find(&rows).Error
}

// SetPlanPin keeps one, in place of what stood there by its id; those of days before today are
// let go.
func (t *Tx) SetPlanPin(p *PlanPin, today time.Time) error {
	if err := t.db.Where("bench < ?", today).Delete(&PlanPin{}).Error; err != nil {
		return err
	}
	return t.db.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "workshop_id"}, {Name: "id"}}, DoUpdates: clause.AssignmentColumns([]string{"formula_id", "bench", "person_id", "set_at"})}).Create(p).Error
}

// RemovePlanPin lets one go; ErrNotFound where there is none.
func (t *Tx) RemovePlanPin(id uuid.UUID) error {
	done := t.db.Where("id = ?", id).Delete(&PlanPin{})
	if done.Error == nil && done.RowsAffected == 0 {
		return ErrNotFound
	}
	return done.Error
}

// PlanNeed says whether a good is made for what usually goes, and how much that is where
// somebody said.
type PlanNeed struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	FormulaID  uuid.UUID `gorm:"primaryKey"`
	Follow     bool
	PerWeek    *float64
}

// TableName is read by GORM.
func (PlanNeed) TableName() string { return "plan_needs" }

// PlanNeeds are those of which somebody said something.
func (t *Tx) PlanNeeds() ([]PlanNeed, error) {
	var rows []PlanNeed
	return rows, t.db.Order("formula_id").Find(&rows).Error
}

// SavePlanNeed keeps one.
func (t *Tx) SavePlanNeed(n *PlanNeed) error {
	return t.db.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "workshop_id"}, {Name: "formula_id"}}, DoUpdates: clause.AssignmentColumns([]string{"follow", "per_week"})}).Create(n).Error
}

// WentWeek is how many jars of a good went to somebody in a week.
type WentWeek struct {
	Item    string
	PartyID *uuid.UUID
	Week    int // before today: 0 for the seven days up to yesterday
	Jars    float64
}

// WentWeekly counts the jars of each good that were sold, given or taken in each of so many
// weeks up to yesterday, by the clocks of a zone, less those that came back. What went by
// weight counts as the part of a jar that it would fill.
func (t *Tx) WentWeekly(today time.Time, weeks int, zone string) ([]WentWeek, error) {
	var rows []WentWeek
	from, to := today.AddDate(0, 0, -7*weeks), today
	return rows, t.sql(`select item, party_id, (cast(@day as date) - 1 - cast(moved at time zone @zone as date)) / 7 as week, sum(jars)::float8 as jars from (
			select l.item, m.party_id, m.happened_at as moved, case when m.piece_id is null then -m.quantity / (select nullif(k.each_g, 0) from makings k where k.workshop_id = @workshop and k.id = l.making_id)
					when m.kind = 'returned' or m.kind = 'corrected' then -1 else 1 end as jars
			from movements m join lots l on l.workshop_id = m.workshop_id and l.id = m.lot_id and l.making_id is not null
			where m.workshop_id = @workshop and (m.piece_id is not null or m.act_id is not null) and m.happened_at >= (cast(@from as timestamp) at time zone @zone) and m.happened_at < (cast(@day as timestamp) at time zone @zone)
				and (m.kind in ('sold', 'given', 'gone', 'returned') or m.kind = 'corrected' and exists (select 1 from movements u where u.workshop_id = @workshop and u.id = m.undoes and u.kind in ('sold', 'given', 'gone')))) q
		group by 1, 2, 3`, map[string]any{"day": to.Format(time.DateOnly), "from": from.Format(time.DateOnly), "zone": zone}).Find(&rows).Error
}

// BegunSince says which formulas were begun to be made on which day, from a day on.
func (t *Tx) BegunSince(today time.Time, zone string) (map[uuid.UUID]int, error) {
	var rows []struct {
		FormulaID uuid.UUID
		N         int
	}
	err := t.sql(`select formula_id, count(*) as n from makings where workshop_id = @workshop and state <> 'abandoned' and started_at >= (cast(@day as timestamp) at time zone @zone) group by formula_id`,
		map[string]any{"day": today.Format(time.DateOnly), "zone": zone}).Scan(&rows).Error
	of := map[uuid.UUID]int{}
	for _, r := range rows {
		of[r.FormulaID] = r.N
	}
	return of, err
}

// HereJars is how many jars of a good are here, by what they are best before.
type HereJars struct {
	Item       string
	Jars       int
	BestBefore *time.Time
}

// JarsHere counts the full jars that are here, by good and date; what is set aside is left out.
func (t *Tx) JarsHere() ([]HereJars, error) {
	var rows []HereJars
	return rows, t.sql(`select l.item, l.best_before, count(*) as jars from pieces p join lots l on l.workshop_id = p.workshop_id and l.id = p.lot_id
		where p.workshop_id = @workshop and p.gone_on is null and p.remaining >= p.original and not l.set_aside group by l.item, l.best_before order by l.item, l.best_before`, nil).Find(&rows).Error
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

// UsualOf lists the goods that somebody had or ordered, the last first.
func (t *Tx) UsualOf(party string) ([]uuid.UUID, error) {
	var ids []uuid.UUID
	return ids, t.sql(`select formula_id from (
			select k.formula_id, m.happened_at as last from movements m join lots l on l.workshop_id = m.workshop_id and l.id = m.lot_id
				join makings k on k.workshop_id = l.workshop_id and k.id = l.making_id join parties p on p.workshop_id = m.workshop_id and p.id = m.party_id
				where m.workshop_id = @workshop and p.name = @party and m.kind in ('sold', 'given', 'gone')
			union all select o.formula_id, o.noted_at from orders o join parties p on p.workshop_id = o.workshop_id and p.id = o.party_id where o.workshop_id = @workshop and p.name = @party) q
		group by formula_id order by max(last) desc, formula_id limit 10`, map[string]any{"party": party}).Scan(&ids).Error
}

// Calendar is the secret address of a plan for somebody's own calendar; only the hash of what
// stands in it is kept.
type Calendar struct {
	WorkshopID  uuid.UUID `gorm:"primaryKey"`
	ID          uuid.UUID `gorm:"primaryKey"`
	TokenHash   []byte
	PersonID    uuid.UUID
	MadeAt      time.Time
	WithdrawnAt *time.Time
}

// OpenCalendar is the address that holds; nil where there is none.
func (t *Tx) OpenCalendar() (*Calendar, error) {
	var rows []Calendar
	err := t.db.Where("withdrawn_at is null").Order("made_at desc").Limit(1).Find(&rows).Error
	if err != nil || len(rows) == 0 {
		return nil, err
	}
	return &rows[0], nil
}

// MakeCalendar keeps an address; those of before hold no more.
func (t *Tx) MakeCalendar(c *Calendar) error {
	if err := t.WithdrawCalendar(c.MadeAt); err != nil {
		return err
	}
	return t.db.Create(c).Error
}

// WithdrawCalendar lets no address hold.
func (t *Tx) WithdrawCalendar(at time.Time) error {
	return t.db.Model(&Calendar{}).Where("withdrawn_at is null").Update("withdrawn_at", at).Error
}

// CalendarByToken says of which workshop an address is that holds, by the hash of what
// stands in it; ErrNotFound where it is of none.
func (s *Store) CalendarByToken(ctx context.Context, hash []byte) (*Calendar, error) {
	var c Calendar
	return &c, orNotFound(s.at(acrossWorkshops(ctx)).Where("token_hash = ? and withdrawn_at is null", hash).Take(&c).Error)
}
