package tenant

import (
	"keencrock/api"
	"keencrock/core/assess"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/stock"
	"keencrock/internal/exchange"
)

// AssessFile assesses what a batch is made by, of a pH that was measured of it;
// nil for none. It is the full chemistry: never call it while holding locks.
func AssessFile(file *api.FormulaFile, set *Settings, ph *stock.Measured) *Snapshot {
	f, _ := exchange.ToFormula(file)
	f.MeasuredPH = nil // of what was made before
	if ph != nil {
		f.MeasuredPH = &formula.MeasuredPH{PH: ph.PH, With: formula.Meter(ph.With)}
	}
	water := set.Water()
	water.Hardness = 0 // of the making, not of the use
	return SnapshotOf(assess.Formula(f, set.Materials, assess.Options{Workshop: set.Tools(), Water: water}), ph)
}

// SnapshotOf is how a batch is assessed, of a pH that was measured of it; nil for none.
func SnapshotOf(a *assess.Assessment, ph *stock.Measured) *Snapshot {
	s := &Snapshot{Cautions: exchange.Cautions(a.Cautions), Poured: a.State == formula.WetState, Dried: a.State == formula.DampState,
		Class: Class{Code: a.Class.Code, Name: a.Class.Name, Days: a.Class.Days, Why: a.Class.Why}}
	r := a.Resolved
	if g, ml := r.TotalG.Value, r.VolumeML; g > 0 && ml.Low > 0 {
		s.Density = Figure{Value: g / ml.Value, Low: g / ml.High, High: g / ml.Low}
	}
	if a.Bottle != nil && a.Bottle.DensityGPerML.Value > 0 {
		s.Density = Figure(a.Bottle.DensityGPerML)
	}
	if a.Solution != nil {
		s.SpentInBowl = a.Solution.Gas.SpentInBowl
		if a.Solution.Caking != nil {
			s.DrinksAbove = a.Solution.Caking.AboveRH
		}
	}
	if ph != nil {
		s.PH = Figure(MeasuredRange(ph))
	}
	for i := range r.Lines {
		if m := r.Lines[i].Material; m != nil && r.StrainsOut(m) {
			s.StrainsOut = append(s.StrainsOut, m.ID)
		}
	}
	return s
}

// PlannedMakeUp is what a formula is made of as it is planned: what goes in by weight,
// less what is strained out.
func PlannedMakeUp(file *api.FormulaFile, set *Settings) []Part {
	f, _ := exchange.ToFormula(file)
	r := formula.Resolve(f, set.Materials, set.Tools())
	var in []material.Input
	for i := range r.Lines {
		if m := r.Lines[i].Material; m != nil {
			in = append(in, material.Input{Material: m, MassG: r.Lines[i].MassG.Value, StrainedOut: r.StrainsOut(m)})
		}
	}
	return PartsOf(material.MakeUp(in, 0))
}

// PartsOf are bought materials with their shares, as a snapshot keeps them.
func PartsOf(bases []material.Base) []Part {
	out := make([]Part, len(bases))
	for i, base := range bases {
		out[i] = Part{Of: base.Material.ID, Share: base.Share}
	}
	return out
}
