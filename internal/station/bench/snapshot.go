package bench

import (
	"encoding/json"
	"slices"
	"time"

	"keencrock/core/making"
	"keencrock/core/material"
	"keencrock/core/stock"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// madeOf is what a batch is made of: what was weighed out, less what was strained out
// and the water that dried or boiled off; baked soda is soda ash.
func madeOf(b *tenant.Batch) []tenant.Part {
	var ash *material.Material
	if b.IsBaked() {
		ash, _ = b.Set.Materials.Find("sodium-carbonate")
	}
	var in []material.Input
	for _, share := range b.InBowl() {
		item := b.Lines[share.Line].Item
		m, err := b.Set.Materials.Find(item)
		if err != nil {
			m = material.Unknown(item)
		}
		in = append(in, material.Input{Material: m, MassG: share.Grams, StrainedOut: slices.Contains(b.Assessed.StrainsOut, item), BakedTo: ash})
	}
	driedG, weighed := b.WaterLostG()
	switch {
	case ash != nil:
		driedG = 0
	case !weighed && b.Assessed.Dried:
		driedG = b.Row.Loss * b.WeighedG()
	}
	return tenant.PartsOf(material.MakeUp(in, driedG))
}

// Migration brings a database of an older version up to date with its batches, at the
// time that now says.
func Migration(now func() time.Time) store.Migration {
	return store.Migration{Upgrades: func(s *store.Store) []store.Upgrade {
		h := tenant.New(s, now)
		return []store.Upgrade{{Where: "assessed is null", Workshop: assessOld(h)}, {Where: "ended_at is not null and heat_min is null", Workshop: timeOld(h)}}
	}}
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
				seen[k] = *tenant.AssessFile(&b.By.File, set, b.PH)
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

// timeOld counts how long hands and stove were at the batches of before that was kept.
func timeOld(h *tenant.House) func(*store.Tx) error {
	return func(tx *store.Tx) error {
		rows, err := tx.MakingsWithoutWork()
		if err != nil || len(rows) == 0 {
			return err
		}
		set, err := h.Settings(tx)
		if err != nil {
			return err
		}
		for i := range rows {
			b, err := tenant.LoadBatch(tx, set, &rows[i])
			if err != nil {
				return err
			}
			b.CountWork()
			if err := tx.SaveWork(b.Row); err != nil {
				return err
			}
		}
		return nil
	}
}
