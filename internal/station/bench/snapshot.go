package bench

import (
	"encoding/json"
	"fmt"
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

// madeBy is what a batch is made by, as it stood when it began.
type madeBy struct {
	File       api.FormulaFile `json:"file"`
	Target     api.Target      `json:"target"`
	Containers api.Containers  `json:"containers"`
	Lines      []madeLine      `json:"lines"`
}

// madeLine is what has to be weighed for one line.
type madeLine struct {
	Item      string  `json:"item"`
	Name      string  `json:"name"`
	Phase     string  `json:"phase,omitempty"`
	Amount    string  `json:"amount,omitempty"`
	Hand      string  `json:"hand,omitempty"`
	TargetG   float64 `json:"target_g"`
	Optional  bool    `json:"optional,omitempty"`
	Unstocked bool    `json:"unstocked,omitempty"`
}

func (m *madeBy) lines() []making.Line {
	out := make([]making.Line, len(m.Lines))
	for i, l := range m.Lines {
		out[i] = making.Line(l)
	}
	return out
}

// batch is a batch as it stands: its row, what it is made by, how it was assessed
// and what happened to it.
type batch struct {
	set      *tenant.Settings
	row      *store.Making
	by       madeBy
	assessed *tenant.Snapshot
	*making.Batch
}

// load replays a batch.
func load(tx *store.Tx, set *tenant.Settings, row *store.Making) (*batch, error) {
	b := &batch{set: set, row: row}
	if err := json.Unmarshal(row.MadeBy, &b.by); err != nil {
		return nil, fmt.Errorf("what batch %s is made by: %w", row.Code, err)
	}
	var err error
	if b.assessed, err = tenant.ReadSnapshot(row.Assessed); err != nil {
		return nil, err
	}
	events, err := tx.Events(row.ID)
	if err != nil {
		return nil, err
	}
	b.Batch, err = making.Replay(row.Code, b.by.lines(), events)
	return b, err
}

// stepG is what the scale shows.
func (b *batch) stepG() float64 { return b.set.Workshop.ScaleStepG }

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
func madeOf(b *batch) []tenant.Part {
	var in []material.Input
	for _, share := range b.InBowl() {
		item := b.Lines[share.Line].Item
		m, err := b.set.Materials.Find(item)
		if err != nil {
			m = material.Unknown(item)
		}
		in = append(in, material.Input{Material: m, MassG: share.Grams, StrainedOut: slices.Contains(b.assessed.StrainsOut, item)})
	}
	driedG := 0.0
	if b.assessed.Dried {
		driedG = b.row.Loss * b.WeighedG()
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
	return []store.Upgrade{{Version: assessOldVersion, Workshop: assessOld(h)}}
}

// assessOldVersion is the place of assessOld among the migrations.
const assessOldVersion = 10

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
			b, err := load(tx, set, &rows[i])
			if err != nil {
				return err
			}
			k := key{formula: rows[i].FormulaID.String(), version: rows[i].FormulaVersion}
			if b.PH != nil {
				k.ph = *b.PH
			}
			if _, done := seen[k]; !done {
				seen[k] = *assessFile(&b.by.File, set, b.PH)
			}
			s := seen[k]
			b.assessed = &s
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
