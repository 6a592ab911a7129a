package store

import (
	"context"
	"time"

	"github.com/google/uuid"

	"keencrock/core/stock"
)

// LabelPrint is labels as they were printed.
type LabelPrint struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	ID         uuid.UUID `gorm:"primaryKey"`
	MakingID   uuid.UUID
	Form       string
	WidthMM    float64 `gorm:"column:width_mm"`
	HeightMM   float64 `gorm:"column:height_mm"`
	Languages  string
	Sheet      string
	Start      int
	Content    []byte `gorm:"type:jsonb"`
	Labels     []byte `gorm:"type:jsonb"`
	PersonID   uuid.UUID
	At         time.Time
	Person     string `gorm:"->;-:migration"`
}

// AddLabelPrint keeps what was printed.
func (t *Tx) AddLabelPrint(p *LabelPrint) error { return t.db.Create(p).Error }

// LabelPrint returns what was printed; ErrNotFound when it is not there.
func (t *Tx) LabelPrint(id uuid.UUID) (*LabelPrint, error) {
	var p LabelPrint
	return &p, orNotFound(t.db.Where("id = ?", id).Take(&p).Error)
}

// mostKept bounds lists of what was done with one batch.
const mostKept = 200

// LabelPrints lists what was printed for a batch, the newest first.
func (t *Tx) LabelPrints(making uuid.UUID) ([]LabelPrint, error) {
	var all []LabelPrint
	return all, t.db.Select("label_prints.*, (select name from people p where p.workshop_id = label_prints.workshop_id and p.id = label_prints.person_id) as person").
		Where("making_id = ?", making).Order("at desc, id").Limit(mostKept).Find(&all).Error
}

// FillCheck is what weighed packs said of a filling.
type FillCheck struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	ID         uuid.UUID `gorm:"primaryKey"`
	MakingID   uuid.UUID
	Nominal    float64
	Unit       string
	Weighings  []byte `gorm:"type:jsonb"`
	Result     []byte `gorm:"type:jsonb"`
	Passes     bool
	PersonID   uuid.UUID
	At         time.Time
}

// AddFillCheck keeps a check.
func (t *Tx) AddFillCheck(c *FillCheck) error { return t.db.Create(c).Error }

// FillChecks lists the checks of a batch, the newest first.
func (t *Tx) FillChecks(making uuid.UUID) ([]FillCheck, error) {
	var all []FillCheck
	return all, t.db.Where("making_id = ?", making).Order("at desc, id").Limit(mostKept).Find(&all).Error
}

// CountedLoads are loads that were counted out of a good.
type CountedLoads struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	ID         uuid.UUID `gorm:"primaryKey"`
	MakingID   uuid.UUID
	FormulaID  uuid.UUID
	Loads      float64
	Grams      float64
	PersonID   uuid.UUID
	At         time.Time
}

// AddCountedLoads keeps a count.
func (t *Tx) AddCountedLoads(c *CountedLoads) error { return t.db.Create(c).Error }

// LoadsCounted sums what was counted of all that a formula made.
func (t *Tx) LoadsCounted(formula uuid.UUID) (loads, grams float64, err error) {
	var sum struct{ Loads, Grams float64 }
	err = t.db.Model(&CountedLoads{}).Select("coalesce(sum(loads), 0) as loads, coalesce(sum(grams), 0) as grams").Where("formula_id = ?", formula).Take(&sum).Error
	return sum.Loads, sum.Grams, err
}

// LoadsCountedOf sums what loads took that were counted, by formula.
func (t *Tx) LoadsCountedOf(formulas ...uuid.UUID) (gramsPerLoad map[uuid.UUID]float64, err error) {
	gramsPerLoad = map[uuid.UUID]float64{}
	if len(formulas) == 0 {
		return gramsPerLoad, nil
	}
	var rows []struct {
		FormulaID    uuid.UUID
		Loads, Grams float64
	}
	err = t.db.Model(&CountedLoads{}).Select("formula_id, sum(loads) as loads, sum(grams) as grams").Where("formula_id in ?", formulas).Group("formula_id").Find(&rows).Error
	for _, r := range rows {
		if r.Loads > 0 {
			gramsPerLoad[r.FormulaID] = r.Grams / r.Loads
		}
	}
	return gramsPerLoad, err
}

// PieceTokens are the tokens of the codes on the pieces of a lot, by piece.
func (t *Tx) PieceTokens(lot stock.ID) (map[stock.ID]string, error) {
	var rows []struct {
		ID    uuid.UUID
		Token string
	}
	err := t.db.Model(&pieceRow{}).Select("id, token").Where("lot_id = ?", uuid.UUID(lot)).Find(&rows).Error
	of := make(map[stock.ID]string, len(rows))
	for _, r := range rows {
		of[stock.ID(r.ID)] = r.Token
	}
	return of, err
}

// JarRead is a jar that a code is on.
type JarRead struct {
	WorkshopID uuid.UUID
	PieceID    uuid.UUID
	LotID      uuid.UUID
	MakingID   uuid.UUID
	Number     int
}

// JarByToken finds the jar of a code, in whichever workshop shows its jars to everyone;
// ErrNotFound when there is none.
func (s *Store) JarByToken(ctx context.Context, token string) (*JarRead, error) {
	var jar JarRead
	result := s.at(acrossWorkshops(ctx)).Raw(`
		select p.workshop_id, p.id as piece_id, p.lot_id, l.making_id, p.number
		from pieces p
		join lots l on l.workshop_id = p.workshop_id and l.id = p.lot_id
		join workshops w on w.id = p.workshop_id and w.public_jars
		where p.token = ? and l.making_id is not null`, token).Find(&jar)
	if result.Error == nil && result.RowsAffected == 0 {
		return nil, ErrNotFound
	}
	return &jar, result.Error
}
