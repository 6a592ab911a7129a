package crock

import (
	"strings"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/stock"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// refuseRing refuses a formula that goes, through others, into itself.
func refuseRing(tx *store.Tx, id uuid.UUID, file *api.FormulaFile) error {
	ring, err := ringThrough(tx, id, file, map[uuid.UUID]bool{})
	if err != nil || ring == nil {
		return err
	}
	if len(ring) == 1 {
		return problem.Unfit("ring", "%s cannot go into itself.", ring[0]).At("lines")
	}
	return problem.Unfit("ring", "%s would go into itself: it is made of %s.", ring[0], strings.Join(ring[1:], ", which is made of ")).At("lines")
}

// ringThrough is the way from a formula through its goods back to one, by their
// names; nil when there is none.
func ringThrough(tx *store.Tx, back uuid.UUID, file *api.FormulaFile, seen map[uuid.UUID]bool) ([]string, error) {
	for _, l := range file.Lines {
		of, made := stock.FormulaOf(l.Material)
		if !made {
			continue
		}
		next, err := uuid.Parse(of)
		if err != nil || seen[next] {
			continue
		}
		if next == back {
			return []string{file.Name}, nil
		}
		seen[next] = true
		stored, err := tenant.StoredFormula(tx, next, 0)
		if problem.Is(err, "not-found") { // of another workshop, or of none
			continue
		}
		if err != nil {
			return nil, err
		}
		ring, err := ringThrough(tx, back, &stored.File, seen)
		if ring != nil || err != nil {
			return append([]string{file.Name}, ring...), err
		}
	}
	return nil, nil
}
