package tenant

import (
	"encoding/json"
	"fmt"
	"strconv"

	"keencrock/core/assess"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/internal/exchange"
	"keencrock/internal/store"
)

// AsMade is a good as a batch made it: what it was made by, and its formula with what
// really is in it by weight.
type AsMade struct {
	By       MadeBy
	Snapshot *Snapshot
	// Formula has a line for each bought material that is in it; Library those materials.
	Formula *formula.Formula
	Library *material.Library
	// Written is the formula as it was written, resolved: for what is said of its use.
	Written *formula.Resolved
}

// ReadAsMade reads what a batch made.
func ReadAsMade(set *Settings, row *store.Making) (*AsMade, error) {
	m := &AsMade{Library: set.Materials}
	if err := json.Unmarshal(row.MadeBy, &m.By); err != nil {
		return nil, fmt.Errorf("what batch %s is made by: %w", row.Code, err)
	}
	var err error
	if m.Snapshot, err = ReadSnapshot(row.Assessed); err != nil {
		return nil, err
	}
	written, _ := exchange.ToFormula(set.InMeasures(&m.By.File))
	m.Written = formula.Resolve(written, set.Materials, set.Tools())
	f := *written
	f.Name = row.Name
	m.Formula = &f
	if ph := m.Snapshot.PH; ph.Value > 0 {
		f.MeasuredPH = &formula.MeasuredPH{PH: ph.Value, With: formula.WithMeter}
	}
	if len(m.Snapshot.MadeOf) == 0 { // not finished: as it is planned
		return m, nil
	}
	f.Lines, f.Yield, f.LossShare, f.Steps = nil, quantity.Amount{}, 0, nil
	var gone []material.Material
	for _, p := range m.Snapshot.MadeOf {
		if _, err := set.Materials.Find(p.Of); err != nil {
			gone = append(gone, *material.Unknown(p.Of))
		}
		written := strconv.FormatFloat(1000*p.Share, 'f', 6, 64) + " g"
		amount, err := quantity.Parse(written)
		if err != nil {
			return nil, fmt.Errorf("batch %s: %w", row.Code, err)
		}
		f.Lines = append(f.Lines, formula.Line{Material: p.Of, Written: written, Amount: amount})
	}
	if len(gone) > 0 {
		if m.Library, err = set.Materials.With(gone...); err != nil {
			return nil, err
		}
	}
	return m, nil
}

// Assess assesses it; without a water only as it stands.
func (m *AsMade) Assess(set *Settings, water *assess.Water) *assess.Assessment {
	return assess.Formula(m.Formula, m.Library, assess.Options{Workshop: set.Tools(), Water: water})
}

// DensityGPerML is that of what is poured, as it was found; 0 where it is not poured or
// not known.
func (m *AsMade) DensityGPerML() float64 {
	if !m.Snapshot.Poured {
		return 0
	}
	return m.Snapshot.Density.Value
}
