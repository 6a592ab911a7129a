package tenant

import (
	"github.com/google/uuid"

	"keencrock/internal/store"
)

// Pictures keeps what pictures are made of. That there is one stands in the database; its
// bytes may stand wherever this puts them. One that is let go of before it is kept for good
// (the transaction failed) may stay behind, but is never shown.
type Pictures interface {
	Put(tx *store.Tx, picture uuid.UUID, jpeg []byte) error
	// Get returns store.ErrNotFound for one that is not there.
	Get(tx *store.Tx, picture uuid.UUID) ([]byte, error)
	Drop(tx *store.Tx, picture uuid.UUID) error
}

// inDatabase keeps pictures beside all else: in the same backup, and gone with their row.
type inDatabase struct{}

func (inDatabase) Put(tx *store.Tx, picture uuid.UUID, jpeg []byte) error {
	return tx.AddPictureFile(picture, jpeg)
}

func (inDatabase) Get(tx *store.Tx, picture uuid.UUID) ([]byte, error) {
	return tx.PictureFile(picture)
}

func (inDatabase) Drop(*store.Tx, uuid.UUID) error { return nil }
