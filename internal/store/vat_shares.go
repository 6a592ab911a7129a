package store

import (
	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"keencrock/core/stock"
)

// VatShare is what of a lot that was fed to a vat is in a batch that was drawn of it.
type VatShare struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	MakingID   uuid.UUID `gorm:"primaryKey"`
	EventID    int64     `gorm:"primaryKey"` // of the feed
	LotID      uuid.UUID `gorm:"primaryKey"`
	Quantity   float64
	Cost       decimal.Decimal
}

// TableName is read by GORM.
func (VatShare) TableName() string { return "vat_shares" }

// AddVatShares keeps what a batch holds of what was fed to a vat.
func (t *Tx) AddVatShares(shares []VatShare) error {
	if len(shares) == 0 {
		return nil
	}
	return t.db.CreateInBatches(&shares, rowsAtOnce).Error
}

// VatSharesOf are the shares that batches hold of feeds.
func (t *Tx) VatSharesOf(feeds []int64) (shares []VatShare, err error) {
	if len(feeds) == 0 {
		return nil, nil
	}
	return shares, t.db.Where("event_id in ?", feeds).Find(&shares).Error
}

// ForgetVatShares lets go of what a batch held of a vat: its draw is taken back.
func (t *Tx) ForgetVatShares(batch uuid.UUID) error {
	return t.db.Where("making_id = ?", batch).Delete(&VatShare{}).Error
}

// VatCost is what a batch holds of a vat for, in money.
func (t *Tx) VatCost(batch uuid.UUID) (decimal.Decimal, error) {
	var sum decimal.Decimal
	return sum, t.db.Model(&VatShare{}).Where("making_id = ?", batch).Select("coalesce(sum(cost), 0)").Scan(&sum).Error
}

// FedMovements are what left lots by feeds, by event.
func (t *Tx) FedMovements(feeds ...int64) (map[int64][]stock.Movement, error) {
	of := map[int64][]stock.Movement{}
	if len(feeds) == 0 {
		return of, nil
	}
	var rows []movementRow
	err := t.db.Where("event_id in ?", feeds).Order("id").Find(&rows).Error
	for _, r := range rows {
		of[*r.EventID] = append(of[*r.EventID], stock.Movement{Lot: stock.ID(r.LotID), Kind: stock.MovementKind(r.Kind), Quantity: r.Quantity, Cost: r.Cost, At: r.HappenedAt, Event: *r.EventID})
	}
	return of, err
}
