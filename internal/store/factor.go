package store

import (
	"github.com/google/uuid"
)

// SaveFactor keeps a person's second factor as it is.
func (t *Tx) SaveFactor(p *Person) error {
	return t.db.Model(&Person{}).Where("id = ?", p.ID).
		Updates(map[string]any{"totp_secret": p.TOTPSecret, "totp_on": p.TOTPOn, "totp_step": p.TOTPStep}).Error
}

// UseStep keeps that a time step of a person's second factor has served; false when it
// has before, or a later one.
func (t *Tx) UseStep(person uuid.UUID, step int64) (bool, error) {
	result := t.db.Model(&Person{}).Where("id = ? and totp_step < ?", person, step).Update("totp_step", step)
	return result.RowsAffected > 0, result.Error
}

// recoveryCode is a code for who lost their second factor.
type recoveryCode struct {
	WorkshopID uuid.UUID
	PersonID   uuid.UUID
	Hash       []byte
}

// TableName is read by GORM.
func (recoveryCode) TableName() string { return "recovery_codes" }

// SaveRecoveryCodes keeps the hashes of a person's codes in place of those before.
func (t *Tx) SaveRecoveryCodes(person uuid.UUID, hashes [][]byte) error {
	if err := t.db.Where("person_id = ?", person).Delete(&recoveryCode{}).Error; err != nil || len(hashes) == 0 {
		return err
	}
	rows := make([]recoveryCode, len(hashes))
	for i, h := range hashes {
		rows[i] = recoveryCode{PersonID: person, Hash: h}
	}
	return t.db.Create(&rows).Error
}

// UseRecoveryCode takes a code away and reports whether it was there.
func (t *Tx) UseRecoveryCode(person uuid.UUID, hash []byte) (bool, error) {
	result := t.db.Where("person_id = ? and hash = ?", person, hash).Delete(&recoveryCode{})
	return result.RowsAffected > 0, result.Error
}
