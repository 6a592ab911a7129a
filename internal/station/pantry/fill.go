package pantry

import (
	"context"
	"encoding/json"
	"fmt"
	"math"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/label"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// weighings are the packs of a check, as they were written down.
type weighings struct {
	GrossG  []float64 `json:"gross_g"`
	TareG   float64   `json:"tare_g"`
	GPerML  float64   `json:"g_per_ml,omitempty"` // of what is poured
	StepG   float64   `json:"step_g"`             // of the scale
	Nominal float64   `json:"nominal"`
}

// CheckFill judges packed jars by their weights, and keeps the check.
func (s *Service) CheckFill(ctx context.Context, batch uuid.UUID, in api.FillWeighings) (*api.FillCheck, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	var out api.FillCheck
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		m, err := s.made(tx, batch)
		if err != nil {
			return err
		}
		unit, err := unitOf(m, in.Unit)
		if err != nil {
			return err
		}
		w := weighings{GrossG: in.GrossG, TareG: in.TareG, StepG: m.set.Workshop.ScaleStepG, Nominal: in.Nominal}
		if unit == "ml" {
			w.GPerML = m.DensityGPerML()
		}
		if w.Nominal == 0 {
			w.Nominal = m.net()
		}
		check, err := w.check()
		if err != nil {
			return problem.Unfit("bad-value", "%v.", err).At("gross_g")
		}
		row := &store.FillCheck{ID: store.NewID(), MakingID: m.row.ID, Nominal: w.Nominal, Unit: unit, Passes: check.Passes, PersonID: a.Person, At: s.Now()}
		if row.Weighings, err = json.Marshal(w); err != nil {
			return err
		}
		if row.Result, err = json.Marshal(check); err != nil {
			return err
		}
		if err := tx.AddFillCheck(row); err != nil {
			return err
		}
		if out, err = fillCheckOf(row); err != nil {
			return err
		}
		return tx.Announce("pantry", m.row.ID)
	})
	return &out, err
}

func unitOf(m *made, asked api.FillWeighingsUnit) (string, error) {
	density := m.DensityGPerML()
	switch {
	case asked == "ml" && density == 0:
		return "", problem.Unfit("bad-value", "%s is sold by weight: what it holds in ml cannot be told from a scale.", m.row.Name).At("unit")
	case asked != "":
		return string(asked), nil
	case density > 0:
		return "ml", nil
	}
	return "g", nil
}

// check takes off the jars, and judges what is in them.
func (w *weighings) check() (label.FillCheck, error) {
	contents := make([]float64, len(w.GrossG))
	step, unit := w.StepG, "g"
	for i, g := range w.GrossG {
		contents[i] = g - w.TareG
		if contents[i] <= 0 {
			return label.FillCheck{}, fmt.Errorf("pack %d weighs %g g, no more than its empty jar of %g g", i+1, g, w.TareG)
		}
		if w.GPerML > 0 {
			contents[i] /= w.GPerML
		}
	}
	if w.GPerML > 0 {
		step, unit = 1, "ml"
	}
	return label.CheckFill(w.Nominal, unit, contents, step)
}

func fillCheckOf(row *store.FillCheck) (api.FillCheck, error) {
	var c label.FillCheck
	var w weighings
	if err := json.Unmarshal(row.Result, &c); err != nil {
		return api.FillCheck{}, fmt.Errorf("a fill check: %w", err)
	}
	if err := json.Unmarshal(row.Weighings, &w); err != nil {
		return api.FillCheck{}, fmt.Errorf("a fill check: %w", err)
	}
	out := api.FillCheck{Id: row.ID, Nominal: row.Nominal, Unit: api.FillCheckUnit(row.Unit), N: c.N, Mean: c.Mean, Spread: c.Spread, T1: c.T1, UnderT1: c.UnderT1, UnderT2: c.UnderT2,
		Passes: c.Passes, FillTo: c.FillTo, FillToG: c.FillTo, Why: c.Why, At: row.At}
	if w.GPerML > 0 {
		out.FillToG = c.FillTo * w.GPerML
		if w.StepG > 0 {
			out.FillToG = math.Ceil(out.FillToG/w.StepG-1e-9) * w.StepG
		}
	}
	return out, nil
}

// FillChecks lists the checks of a batch.
func (s *Service) FillChecks(ctx context.Context, batch uuid.UUID) ([]api.FillCheck, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	out := []api.FillCheck{}
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		if _, err := tx.Making(batch); err != nil {
			return tenant.Explain(err, "batch")
		}
		rows, err := tx.FillChecks(batch)
		if err != nil {
			return err
		}
		for i := range rows {
			c, err := fillCheckOf(&rows[i])
			if err != nil {
				return err
			}
			out = append(out, c)
		}
		return nil
	})
	return out, err
}
