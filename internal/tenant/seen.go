package tenant

import (
	"context"

	"keencrock/core/stock"
	"keencrock/internal/store"
)

// seesPeople reports whether who asks may see where goods went: a viewer may not.
func seesPeople(ctx context.Context) bool {
	_, err := Require(ctx, Maker)
	return err == nil
}

// SeesPrices reports whether who asks may see what things cost: a viewer only where an owner
// said so.
func SeesPrices(ctx context.Context, tx *store.Tx) (bool, error) {
	if _, err := Require(ctx, Maker); err == nil {
		return true, nil
	}
	w, err := tx.Workshop()
	return err == nil && w.ViewersSeePrices, err
}

// PiecesSeen are the pieces of lots as who asks may see them: a viewer sees that a jar is
// gone, not to whom.
func PiecesSeen(ctx context.Context, tx *store.Tx, lots ...stock.ID) (map[stock.ID][]stock.Piece, error) {
	of, err := tx.Pieces(lots...)
	if seesPeople(ctx) {
		return of, err
	}
	for _, pieces := range of {
		for i := range pieces {
			if pieces[i].GoneTo != stock.UsedUpHere && pieces[i].GoneTo != stock.KeptAsSample {
				pieces[i].GoneTo = ""
			}
		}
	}
	return of, err
}

// MovementsSeen are the movements of a lot as who asks may see them: a viewer sees who it came
// from, not to whom its jars went, nor what was noted of that.
func MovementsSeen(ctx context.Context, tx *store.Tx, lot stock.ID) ([]stock.Movement, error) {
	moves, err := tx.Movements(lot)
	if seesPeople(ctx) {
		return moves, err
	}
	for i := range moves {
		if m := &moves[i]; m.Piece != (stock.ID{}) {
			m.Party, m.Reason = "", ""
		}
	}
	return moves, err
}
