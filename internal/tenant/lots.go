package tenant

import (
	"errors"
	"strings"

	"github.com/google/uuid"

	"keencrock/core/stock"
	"keencrock/internal/store"
)

// LotsNamed are the lots that somebody means by an id or by the code on a bag; several
// materials may have a lot of one code. None is no error.
func LotsNamed(tx *store.Tx, written string) ([]stock.Lot, error) {
	id, err := uuid.Parse(strings.TrimSpace(written))
	if err != nil {
		return tx.LotsByCode(strings.TrimSpace(written))
	}
	lot, err := tx.Lot(stock.ID(id))
	switch {
	case errors.Is(err, store.ErrNotFound):
		return nil, nil
	case err != nil:
		return nil, err
	}
	return []stock.Lot{*lot}, nil
}
