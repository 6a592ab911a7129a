package bench

import (
	"encoding/json"
	"slices"

	"keencrock/api"
	"keencrock/core/assess"
	"keencrock/core/formula"
	"keencrock/core/making"
	"keencrock/core/material"
	"keencrock/core/stock"
	"keencrock/internal/exchange"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// assessFile assesses what a batch is made by, of a pH that was measured of it;
// nil for none. It is the full chemistry: never call it while holding locks.
func assessFile(file *api.FormulaFile, set *tenant.Settings, ph *stock.Measured) *tenant.Snapshot {
	f, _ := exchange.ToFormula(file)
	f.MeasuredPH = nil // of what was made before
	if ph != nil {
		f.MeasuredPH = &formula.MeasuredPH{PH: ph.PH, With: formula.Meter(ph.With)}
	}
	water := set.Water()
	water.Hardness = 0 // of the making, not of the use
	return snapshotOf(assess.Formula(f, set.Materials, assess.Options{Workshop: set.Tools(), Water: water}), ph)
}

func snapshotOf(a *assess.Assessment, ph *stock.Measured) *tenant.Snapshot {
	s := &tenant.Snapshot{Cautions: exchange.Cautions(a.Cautions), Poured: a.State == formula.WetState, Dried: a.State == formula.DampState,
		Class: tenant.Class{Code: a.Class.Code, Name: a.Class.Name, Days: a.Class.Days, Why: a.Class.Why}}
	r := a.Resolved
	if g, ml := r.TotalG.Value, r.VolumeML; g > 0 && ml.Low > 0 {
		s.Density = tenant.Figure{Value: g / ml.Value, Low: g / ml.High, High: g / ml.Low}
	}
	if a.Bottle != nil && a.Bottle.DensityGPerML.Value > 0 {
		s.Density = tenant.Figure(a.Bottle.DensityGPerML)
	}
	if a.Solution != nil {
		s.SpentInBowl = a.Solution.Gas.SpentInBowl
	}
	if ph != nil {
		s.PH = tenant.Figure(tenant.MeasuredRange(ph))
	}
	for i := range r.Lines {
		if m := r.Lines[i].Material; m != nil && r.StrainsOut(m) {
			s.StrainsOut = append(s.StrainsOut, m.ID)
		}
	}
	return s
}

// madeOf is what a batch is made of, of what was weighed out.
func madeOf(b *tenant.Batch) []tenant.Part {
	var in []material.Input
	for _, share := range b.InBowl() {
		item := b.Lines[share.Line].Item
		m, err := b.Set.Materials.Find(item)
		if err != nil {
			m = material.Unknown(item)
		}
		in = append(in, material.Input{Material: m, MassG: share.Grams, StrainedOut: slices.Contains(b.Assessed.StrainsOut, item)})
	}
	driedG := 0.0
	if b.Assessed.Dried {
		driedG = b.Row.Loss * b.WeighedG()
	}
	bases := material.MakeUp(in, driedG)
	out := make([]tenant.Part, len(bases))
	for i, base := range bases {
		out[i] = tenant.Part{Of: base.Material.ID, Share: base.Share}
	}
	return out
}

// Upgrades are the steps that bring the batches of an older database up to date.
func Upgrades(h *tenant.House) []store.Upgrade {
	return []store.Upgrade{{Where: "assessed is null", Workshop: assessOld(h)}}
}

// assessOld takes snapshots of the batches that were made before there were any.
func assessOld(h *tenant.House) func(*store.Tx) error {
	return func(tx *store.Tx) error {
		rows, err := tx.MakingsWithoutSnapshot()
		if err != nil || len(rows) == 0 {
			return err
		}
		set, err := h.Settings(tx)
		if err != nil {
			return err
		}
		type key struct {
			formula string
			version int
			ph      stock.Measured
		}
		seen := map[key]tenant.Snapshot{}
		for i := range rows {
			b, err := tenant.LoadBatch(tx, set, &rows[i])
			if err != nil {
				return err
			}
			k := key{formula: rows[i].FormulaID.String(), version: rows[i].FormulaVersion}
			if b.PH != nil {
				k.ph = *b.PH
			}
			if _, done := seen[k]; !done {
				seen[k] = *assessFile(&b.By.File, set, b.PH)
			}
			s := seen[k]
			b.Assessed = &s
			if b.State == making.Finished {
				s.MadeOf = madeOf(b)
			}
			content, err := json.Marshal(&s)
			if err != nil {
				return err
			}
			if err := tx.SaveAssessed(rows[i].ID, content); err != nil {
				return err
			}
		}
		return tx.StampLibrary()
	}
}
