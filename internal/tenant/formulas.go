package tenant

import (
	"encoding/json"
	"slices"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/internal/store"
)

// StoredFormula returns a version of a formula, the newest for 0.
func StoredFormula(tx *store.Tx, id uuid.UUID, version int) (*api.StoredFormula, error) {
	f, err := tx.Formula(id)
	if err != nil {
		return nil, Explain(err, "formula")
	}
	if version == 0 {
		version = f.Version
	}
	v, err := tx.FormulaVersion(id, version)
	if err != nil {
		return nil, Explain(err, "version of the formula")
	}
	out := &api.StoredFormula{Id: id, Version: version, Versions: f.Version, Changed: v.At, By: v.Person, Questions: f.Questions, PutAway: f.HiddenAt != nil}
	return out, json.Unmarshal(v.File, &out.File)
}

// ItemsOf lists the items of a file's lines, once each.
func (s *Settings) ItemsOf(file *api.FormulaFile) []string {
	ids := make([]string, 0, len(file.Lines))
	for _, l := range file.Lines {
		if m, err := s.Materials.Find(l.Material); err == nil && !slices.Contains(ids, m.ID) {
			ids = append(ids, m.ID)
		}
	}
	return ids
}
