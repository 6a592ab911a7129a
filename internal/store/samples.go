package store

import (
	"time"

	"github.com/google/uuid"

	"keencrock/core/stock"
)

// Sample is a jar that is kept to be looked at while it ages.
type Sample struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	ID         uuid.UUID `gorm:"primaryKey"`
	PieceID    uuid.UUID
	MakingID   uuid.UUID
	Stands     string
	PersonID   uuid.UUID
	KeptOn     time.Time
	EndedOn    *time.Time

	// of the jar and the batch, to be read
	Number     int       `gorm:"->;-:migration"`
	Lot        string    `gorm:"->;-:migration"` // its code
	Name       string    `gorm:"->;-:migration"`
	FormulaID  uuid.UUID `gorm:"->;-:migration"`
	Made       time.Time `gorm:"->;-:migration"`
	BestBefore time.Time `gorm:"->;-:migration"`
}

// SampleLook is one look at a sample.
type SampleLook struct {
	WorkshopID  uuid.UUID `gorm:"primaryKey"`
	ID          uuid.UUID `gorm:"primaryKey"`
	SampleID    uuid.UUID
	LookedOn    time.Time
	Signs       []byte `gorm:"type:jsonb"`
	Good        bool
	PH          *float64 `gorm:"column:ph"`
	Note        string
	PersonID    uuid.UUID
	NotedAt     time.Time
	TakenBackAt *time.Time
}

// mostSamples are listed, the newest first.
const mostSamples = 500

// Samples lists the jars that are kept to be looked at, the newest first; also those that
// ended.
func (t *Tx) Samples() ([]Sample, error) {
	var rows []Sample
	return rows, t.db.Model(&Sample{}).Select("samples.*, p.number, l.code as lot, k.name, k.formula_id, l.received as made, coalesce(l.best_before, l.received) as best_before").
		Joins("join pieces p on p.workshop_id = samples.workshop_id and p.id = samples.piece_id").
		Joins("join lots l on l.workshop_id = p.workshop_id and l.id = p.lot_id").
		Joins("join makings k on k.workshop_id = samples.workshop_id and k.id = samples.making_id").
		Order("samples.kept_on desc, samples.id desc").Limit(mostSamples).Find(&rows).Error
}

// SampleLooks lists the looks at all samples, by the day, also those taken back.
func (t *Tx) SampleLooks() ([]SampleLook, error) {
	var rows []SampleLook
	return rows, t.db.Order("sample_id, looked_on, noted_at, id").Find(&rows).Error
}

// AddSample keeps a new one; ErrTaken where its jar is one already.
func (t *Tx) AddSample(row *Sample) error {
	return orTaken(t.db.Select("workshop_id", "id", "piece_id", "making_id", "stands", "person_id", "kept_on").Create(row).Error)
}

// EndSample says that one is looked at no more; ErrNotFound where there is none that is.
func (t *Tx) EndSample(id uuid.UUID, on time.Time) error {
	return orNone(t.db.Model(&Sample{}).Where("id = ? and ended_on is null", id).Update("ended_on", on))
}

// AddSampleLook keeps a look.
func (t *Tx) AddSampleLook(row *SampleLook) error { return t.db.Create(row).Error }

// SampleLook returns one; ErrNotFound where there is none.
func (t *Tx) SampleLook(id uuid.UUID) (*SampleLook, error) {
	var row SampleLook
	return &row, orNotFound(t.db.Where("id = ?", id).Take(&row).Error)
}

// CountSampleLook takes a look back at a time, or counts it again with nil.
func (t *Tx) CountSampleLook(id uuid.UUID, takenBack *time.Time) error {
	return orNone(t.db.Model(&SampleLook{}).Where("id = ?", id).Update("taken_back_at", takenBack))
}

// Brother is a batch of a formula of which jars are about.
type Brother struct {
	MakingID   uuid.UUID
	Code       string
	Made       time.Time
	BestBefore time.Time
	Here, Out  int
}

// Brothers lists the batches of a formula of which jars are here or with somebody, the newest
// first.
func (t *Tx) Brothers(formula uuid.UUID) ([]Brother, error) {
	var rows []Brother
	return rows, t.sql(`select k.id as making_id, k.code, l.received as made, coalesce(l.best_before, l.received) as best_before,
			count(*) filter (where p.gone_on is null) as here, count(*) filter (where p.gone_on is not null) as out
		from makings k join lots l on l.workshop_id = k.workshop_id and l.making_id = k.id
		join pieces p on p.workshop_id = l.workshop_id and p.lot_id = l.id and not (p.gone_on is not null and p.gone_to in @kept)
		where k.workshop_id = @workshop and k.formula_id = @formula group by 1, 2, 3, 4 order by l.received desc, k.id`,
		map[string]any{"formula": formula, "kept": []string{stock.UsedUpHere, stock.KeptAsSample}}).Scan(&rows).Error
}
