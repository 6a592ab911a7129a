package store

import (
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"
	"gorm.io/gorm/clause"
)

// Batch is one making of a formula version.
type Batch struct {
	ID               uuid.UUID
	WorkshopID       uuid.UUID
	Code             string
	Name             string
	Kind             string
	FormulaID        uuid.UUID
	FormulaVersion   int
	State            string
	PersonID         uuid.UUID
	Loss             float64
	PlannedG         float64
	ContainerCount   int
	ContainerEach    string
	ContainerFill    float64
	ContainerEachG   float64
	Jars             int
	Cost             decimal.Decimal
	UseG             float64
	BestBefore       *time.Time
	BestBeforeReason string
	StartedAt        time.Time
	FinishedAt       *time.Time
	Person           string `gorm:"->;-:migration"`
}

// BatchLine is what has to be weighed for one line.
type BatchLine struct {
	WorkshopID uuid.UUID
	BatchID    uuid.UUID `gorm:"primaryKey"`
	Line       int       `gorm:"primaryKey"`
	Material   string
	Name       string
	Phase      string
	Amount     string
	TargetG    float64
	Optional   bool
	Hand       string // in drops or spoons, where the scale is too coarse
}

// BatchEvent is one step of a batch. It is never changed.
type BatchEvent struct {
	ID         int64 `gorm:"primaryKey"`
	WorkshopID uuid.UUID
	BatchID    uuid.UUID
	Kind       string
	Line       *int
	LotID      *uuid.UUID
	Grams      float64
	Text       string
	PH         *float64 `gorm:"column:ph"` // of one that was measured
	PHWith     string   `gorm:"column:ph_with"`
	Key        *uuid.UUID
	PersonID   uuid.UUID
	At         time.Time
	Person     string `gorm:"->;-:migration"`
	LotCode    string `gorm:"->;-:migration"`
}

// Jar is one filled container of a batch.
type Jar struct {
	ID         uuid.UUID
	WorkshopID uuid.UUID
	BatchID    uuid.UUID
	Number     int
	Grams      float64
	Cost       decimal.Decimal
	GoneOn     *time.Time
	GoneTo     string
}

// BatchQuery says which batches are wanted, newest first.
type BatchQuery struct {
	State        string
	AfterStarted time.Time
	AfterID      uuid.UUID
	Limit        int
}

// Batches lists one page of batches.
func (t *Tx) Batches(q BatchQuery) ([]Batch, error) {
	db := t.db.Model(&Batch{})
	if q.State != "" {
		db = db.Where("state = ?", q.State)
	}
	if q.AfterID != uuid.Nil {
		db = db.Where("(started_at, id) < (?, ?)", q.AfterStarted, q.AfterID)
	}
	var batches []Batch
	return batches, db.Omit("Person").Order("started_at desc, id desc").Limit(q.Limit).Find(&batches).Error
}

// Batch returns one batch.
func (t *Tx) Batch(id uuid.UUID) (*Batch, error) {
	var b Batch
	err := t.db.Model(&Batch{}).Select("batches.*, p.name as person").
		Joins("join people p on p.id = batches.person_id").Where("batches.id = ?", id).Take(&b).Error
	return &b, one(err)
}

// LockBatch locks a batch against other writers until the transaction ends
// and returns it as it then stands.
func (t *Tx) LockBatch(id uuid.UUID) (*Batch, error) {
	var locked []uuid.UUID
	err := t.sql(`select id from batches where workshop_id = @workshop and id = @id for update`, map[string]any{"id": id}).Scan(&locked).Error
	if err != nil {
		return nil, err
	}
	return t.Batch(id)
}

// BatchesStartedOn counts the batches of a day whose code begins so. Until the
// transaction ends no other one of the workshop gets an answer for that prefix,
// so that two that start at once do not take one code.
func (t *Tx) BatchesStartedOn(codePrefix string) (int, error) {
	if err := t.lock("batch code " + codePrefix); err != nil {
		return 0, err
	}
	var n int64
	err := t.db.Model(&Batch{}).Where("code like ?", codePrefix+"%").Count(&n).Error
	return int(n), err
}

// AddBatch adds a batch with its lines; ErrTaken when the code is.
func (t *Tx) AddBatch(b *Batch, lines []BatchLine) error {
	if err := made(t.db.Omit("Person").Create(b).Error); err != nil {
		return err
	}
	return t.db.Create(&lines).Error
}

// SaveBatchEnd keeps how a batch ended.
func (t *Tx) SaveBatchEnd(b *Batch) error {
	return t.db.Model(&Batch{}).Where("id = ?", b.ID).Updates(map[string]any{
		"state": b.State, "jars": b.Jars, "cost": b.Cost, "container_each_g": b.ContainerEachG,
		"best_before": b.BestBefore, "best_before_reason": b.BestBeforeReason, "finished_at": b.FinishedAt,
	}).Error
}

// BatchLines lists the lines of a batch in order.
func (t *Tx) BatchLines(batch uuid.UUID) ([]BatchLine, error) {
	var lines []BatchLine
	return lines, t.db.Where("batch_id = ?", batch).Order("line").Find(&lines).Error
}

// AddBatchEvent records a step; ErrTaken when its key was recorded before.
func (t *Tx) AddBatchEvent(e *BatchEvent) error {
	return made(t.db.Omit("Person", "LotCode").Create(e).Error)
}

// HasBatchEvent reports whether a key was recorded.
func (t *Tx) HasBatchEvent(batch, key uuid.UUID) (bool, error) {
	var n int64
	err := t.db.Model(&BatchEvent{}).Where("batch_id = ? and key = ?", batch, key).Count(&n).Error
	return n > 0, err
}

// BatchEvents lists the steps of a batch in order.
func (t *Tx) BatchEvents(batch uuid.UUID) ([]BatchEvent, error) {
	var events []BatchEvent
	return events, t.db.Model(&BatchEvent{}).Select("batch_events.*, p.name as person, l.code as lot_code").
		Joins("join people p on p.id = batch_events.person_id").
		Joins("left join lots l on l.id = batch_events.lot_id").
		Where("batch_id = ?", batch).Order("batch_events.id").Find(&events).Error
}

// AddJars adds the jars of a batch.
func (t *Tx) AddJars(jars []Jar) error { return t.db.CreateInBatches(&jars, 500).Error }

// Jars lists the jars of batches, by batch, in order.
func (t *Tx) Jars(batches ...uuid.UUID) (map[uuid.UUID][]Jar, error) {
	of := map[uuid.UUID][]Jar{}
	if len(batches) == 0 {
		return of, nil
	}
	var jars []Jar
	err := t.db.Where("batch_id in ?", batches).Order("batch_id, number").Find(&jars).Error
	for _, j := range jars {
		of[j.BatchID] = append(of[j.BatchID], j)
	}
	return of, err
}

// LockJars returns jars, in the order of their numbers, locked against other
// writers until the transaction ends; ErrNotFound when one of them is not there.
func (t *Tx) LockJars(ids []uuid.UUID) ([]Jar, error) {
	var jars []Jar
	err := t.db.Clauses(clause.Locking{Strength: "UPDATE"}).Where("id in ?", ids).Order("batch_id, number").Find(&jars).Error
	if err == nil && len(jars) != len(ids) {
		err = ErrNotFound
	}
	return jars, err
}

// SaveJarPlace keeps where a jar is.
func (t *Tx) SaveJarPlace(j *Jar) error {
	return t.db.Model(&Jar{}).Where("id = ?", j.ID).Updates(map[string]any{"gone_on": j.GoneOn, "gone_to": j.GoneTo}).Error
}

// PantryBatches lists finished batches, newest first, those with jars left or
// all; at most limit.
func (t *Tx) PantryBatches(all bool, limit int) ([]Batch, error) {
	db := t.db.Model(&Batch{}).Where("state = 'finished'")
	if !all {
		db = db.Where("exists (select 1 from jars j where j.batch_id = batches.id and j.gone_on is null)")
	}
	var batches []Batch
	return batches, db.Omit("Person").Order("finished_at desc, id desc").Limit(limit).Find(&batches).Error
}

// Drawn is what a batch took of a lot.
type Drawn struct {
	BatchID uuid.UUID
	LotID   uuid.UUID
	Grams   float64
	Cost    decimal.Decimal
}

// DrawnByBatch sums what a batch took from each lot.
func (t *Tx) DrawnByBatch(batch uuid.UUID) ([]Drawn, error) {
	return t.drawn("batch_id = @id", batch)
}

// DrawnFromLot sums what each batch took from a lot.
func (t *Tx) DrawnFromLot(lot uuid.UUID) ([]Drawn, error) { return t.drawn("lot_id = @id", lot) }

func (t *Tx) drawn(where string, id uuid.UUID) ([]Drawn, error) {
	var drawn []Drawn
	return drawn, t.sql(`select batch_id, lot_id, -sum(grams) as grams, sum(cost) as cost from stock_movements
		where workshop_id = @workshop and batch_id is not null and `+where+`
		group by batch_id, lot_id having sum(grams) <> 0 order by batch_id, lot_id`, map[string]any{"id": id}).Scan(&drawn).Error
}
