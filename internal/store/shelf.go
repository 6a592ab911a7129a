package store

import (
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"
)

// Lot is one delivery of one material. WeighedG is what open batches hold of
// it and is only read.
type Lot struct {
	ID         uuid.UUID
	WorkshopID uuid.UUID
	Code       string
	Material   string
	Supplier   string
	OriginalG  float64
	RemainingG float64
	Landed     decimal.Decimal
	Received   time.Time
	BestBefore *time.Time
	Opened     *time.Time
	SetAside   bool
	Clumped    bool
	Note       string
	PH         *float64 `gorm:"column:ph"` // as measured; nil when it was not
	PHWith     string   `gorm:"column:ph_with"`
	WeighedG   float64  `gorm:"->;-:migration"`
}

// AvailableG is what can still be weighed from the lot.
func (l *Lot) AvailableG() float64 { return max(0, l.RemainingG-l.WeighedG) }

// Movement is stock coming or going. It is never changed.
type Movement struct {
	ID         int64 `gorm:"primaryKey"`
	WorkshopID uuid.UUID
	LotID      uuid.UUID
	Kind       string
	Grams      float64
	Cost       decimal.Decimal
	BatchID    *uuid.UUID
	Line       *int
	Reason     string
	PersonID   uuid.UUID
	At         time.Time
	BatchCode  string `gorm:"->;-:migration"`
	Person     string `gorm:"->;-:migration"`
}

// TableName is read by GORM.
func (Movement) TableName() string { return "stock_movements" }

// weighedG sums what open batches hold of a lot.
const weighedG = `coalesce((select sum(e.grams) from batch_events e join batches b on b.id = e.batch_id
	where e.lot_id = lots.id and b.state = 'weighing'), 0) as weighed_g`

// LotQuery says which lots are wanted, newest delivery first. The page after
// a lot is asked for by its date and id.
type LotQuery struct {
	Material      string
	WithEmpty     bool
	AfterReceived time.Time
	AfterID       uuid.UUID
	Limit         int
}

// Lots lists one page of lots.
func (t *Tx) Lots(q LotQuery) ([]Lot, error) {
	db := t.db.Model(&Lot{}).Select("lots.*, " + weighedG)
	if q.Material != "" {
		db = db.Where("material = ?", q.Material)
	}
	if !q.WithEmpty {
		db = db.Where("remaining_g > 0")
	}
	if q.AfterID != uuid.Nil {
		db = db.Where("(received, id) < (?, ?)", q.AfterReceived, q.AfterID)
	}
	var lots []Lot
	return lots, db.Order("received desc, id desc").Limit(q.Limit).Find(&lots).Error
}

// AllLots lists every lot there ever was, by material, oldest first.
func (t *Tx) AllLots() ([]Lot, error) {
	var lots []Lot
	return lots, t.db.Omit("WeighedG").Order("material, received, id").Find(&lots).Error
}

// Stock lists every lot with something left, of the given materials or of
// all. What open batches hold is asked for once, not lot by lot: there are
// thousands of lots and a handful of open batches.
func (t *Tx) Stock(materials ...string) ([]Lot, error) {
	db := t.db.Model(&Lot{}).Omit("WeighedG").Where("remaining_g > 0")
	if len(materials) > 0 {
		db = db.Where("material in ?", materials)
	}
	var lots []Lot
	if err := db.Order("material, received, id").Find(&lots).Error; err != nil {
		return nil, err
	}
	var held []struct {
		LotID uuid.UUID
		Grams float64
	}
	err := t.sql(`select e.lot_id, sum(e.grams) as grams from batches b join batch_events e on e.batch_id = b.id
		where b.workshop_id = @workshop and b.state = 'weighing' and e.lot_id is not null group by e.lot_id`, nil).Find(&held).Error
	if err != nil {
		return nil, err
	}
	of := make(map[uuid.UUID]float64, len(held))
	for _, h := range held {
		of[h.LotID] = h.Grams
	}
	for i := range lots {
		lots[i].WeighedG = of[lots[i].ID]
	}
	return lots, nil
}

// LastPrice is what the newest priced lot of a material cost.
type LastPrice struct {
	Material  string
	Landed    decimal.Decimal
	OriginalG float64
}

// LastPrices returns the newest price of each material ever taken in, of the
// given materials or of all.
func (t *Tx) LastPrices(materials ...string) ([]LastPrice, error) {
	of := ""
	if len(materials) > 0 {
		of = "and material in @materials"
	}
	var prices []LastPrice
	return prices, t.sql(`select distinct on (material) material, landed, original_g from lots
		where workshop_id = @workshop and landed > 0 `+of+` order by material, received desc, id desc`,
		map[string]any{"materials": materials}).Find(&prices).Error
}

// Lot returns one lot.
func (t *Tx) Lot(id uuid.UUID) (*Lot, error) {
	var l Lot
	err := t.db.Model(&Lot{}).Select("lots.*, "+weighedG).Where("lots.id = ?", id).Take(&l).Error
	return &l, one(err)
}

// LotsByID returns the given lots by id.
func (t *Tx) LotsByID(ids []uuid.UUID) (map[uuid.UUID]*Lot, error) {
	var lots []Lot
	byID := map[uuid.UUID]*Lot{}
	if len(ids) == 0 {
		return byID, nil
	}
	err := t.db.Model(&Lot{}).Select("lots.*, "+weighedG).Where("lots.id in ?", ids).Find(&lots).Error
	for i := range lots {
		byID[lots[i].ID] = &lots[i]
	}
	return byID, err
}

// LotsByCode returns every lot of a code, whatever the material.
func (t *Tx) LotsByCode(code string) ([]Lot, error) {
	var lots []Lot
	return lots, t.db.Model(&Lot{}).Select("lots.*, "+weighedG).Where("lower(code) = lower(?)", code).Find(&lots).Error
}

// LockLots locks lots against other writers until the transaction ends, in an
// order that cannot deadlock.
func (t *Tx) LockLots(ids []uuid.UUID) error {
	if len(ids) == 0 {
		return nil
	}
	return t.sql(`select id from lots where workshop_id = @workshop and id in @ids order by id for update`,
		map[string]any{"ids": ids}).Scan(&[]uuid.UUID{}).Error
}

// AddLots adds lots, each with the movement that brought it in, and with one more
// where less is left than came; ErrTaken when a material has a lot of a code.
func (t *Tx) AddLots(lots []Lot, by uuid.UUID, at time.Time) error {
	const atOnce = 500
	movements := make([]Movement, 0, len(lots))
	for i := range lots {
		l := &lots[i]
		movements = append(movements, Movement{LotID: l.ID, Kind: "received", Grams: l.OriginalG, Cost: l.Landed, PersonID: by, At: at})
		if l.RemainingG < l.OriginalG {
			movements = append(movements, Movement{LotID: l.ID, Kind: "corrected", Grams: l.RemainingG - l.OriginalG, Reason: "used before it was taken in", PersonID: by, At: at})
		}
	}
	if err := made(t.db.Omit("WeighedG").CreateInBatches(&lots, atOnce).Error); err != nil {
		return err
	}
	return t.db.Omit("BatchCode", "Person").CreateInBatches(&movements, atOnce).Error
}

// LotCode is the code of a lot, in small letters.
type LotCode struct{ Material, Code string }

// LotCodes lists the codes of all lots there ever were.
func (t *Tx) LotCodes() ([]LotCode, error) {
	var codes []LotCode
	return codes, t.db.Model(&Lot{}).Select("material, lower(code) as code").Find(&codes).Error
}

func (t *Tx) addMovement(m *Movement) error {
	return t.db.Omit("BatchCode", "Person").Create(m).Error
}

// Move records a movement and changes what is left of the lot by it.
func (t *Tx) Move(m *Movement) error {
	if err := t.addMovement(m); err != nil {
		return err
	}
	id, _ := workshopOf(t.db.Statement.Context)
	return t.db.Exec(`update lots set remaining_g = remaining_g + @grams where workshop_id = @workshop and id = @lot`,
		map[string]any{"grams": m.Grams, "lot": m.LotID, "workshop": id}).Error
}

// SaveLotMarks keeps the marks of a lot: clumped, set aside, opened.
func (t *Tx) SaveLotMarks(l *Lot) error {
	return t.db.Model(&Lot{}).Where("id = ?", l.ID).
		Updates(map[string]any{"clumped": l.Clumped, "set_aside": l.SetAside, "opened": l.Opened, "note": l.Note, "ph": l.PH, "ph_with": l.PHWith}).Error
}

// CorrectLot keeps what was noted wrongly of a lot, and what is said of it as a
// movement of nothing; ErrTaken when the material has a lot of that code.
func (t *Tx) CorrectLot(l *Lot, said string, by uuid.UUID, at time.Time) error {
	err := t.db.Model(&Lot{}).Where("id = ?", l.ID).
		Updates(map[string]any{"code": l.Code, "supplier": l.Supplier, "landed": l.Landed, "received": l.Received, "best_before": l.BestBefore}).Error
	if err != nil {
		return made(err)
	}
	return t.addMovement(&Movement{LotID: l.ID, Kind: "corrected", Reason: said, PersonID: by, At: at})
}

// MeasuredLots lists the lots with something left whose pH was measured.
func (t *Tx) MeasuredLots() ([]Lot, error) {
	var lots []Lot
	return lots, t.db.Where("ph is not null and remaining_g > 0").Order("material, id").Find(&lots).Error
}

// Movements lists what came and went of a lot, oldest first.
func (t *Tx) Movements(lot uuid.UUID) ([]Movement, error) {
	var movements []Movement
	return movements, t.db.Model(&Movement{}).
		Select("stock_movements.*, b.code as batch_code, p.name as person").
		Joins("left join batches b on b.id = stock_movements.batch_id").
		Joins("join people p on p.id = stock_movements.person_id").
		Where("lot_id = ?", lot).Order("stock_movements.id").Find(&movements).Error
}

// StockCost is what a lot with something left cost, and what is left of it.
type StockCost struct {
	Material   string
	OriginalG  float64
	RemainingG float64
	Landed     decimal.Decimal
}

// StockCosts lists the lots of materials that have something left.
func (t *Tx) StockCosts(materials ...string) ([]StockCost, error) {
	var costs []StockCost
	return costs, t.sql(`select material, original_g, remaining_g, landed from lots
		where workshop_id = @workshop and remaining_g > 0 and material in @materials`, map[string]any{"materials": materials}).Find(&costs).Error
}
