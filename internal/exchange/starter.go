package exchange

import (
	"fmt"

	"keencrock/api"
	"keencrock/core/assess"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/core/safety"
	"keencrock/core/starter"
	"keencrock/core/stock"
)

// StarterFile is a starter as a formula file in a set of measures. It says where it came
// from.
func StarterFile(s *starter.Starter, measures quantity.Measures, by starter.By, lib *material.Library, w formula.Workshop) *api.FormulaFile {
	file := formulaFile(s.Formula(measures, by, lib, w))
	file.School = s.School
	file.Notes = fmt.Sprintf("From the starters, version %d. %s", starter.Version(), s.Differs)
	return &file
}

// Starter is a starter with its lines by weight and by the scoop, and what is to be minded
// of it. shelf is what a shelf may give, in grams by material.
func Starter(s *starter.Starter, measures quantity.Measures, lib *material.Library, w formula.Workshop, shelf map[string]float64) api.Starter {
	a := assess.Formula(s.Formula(measures, starter.Weight, lib, w), lib, assess.Options{Workshop: w})
	scooped := s.Formula(measures, starter.Scoop, lib, w)
	out := api.Starter{Id: s.ID, Version: starter.Version(), Kind: string(s.Kind), KindName: s.Kind.Info().Name, Name: s.Name, School: s.School, Differs: s.Differs,
		MakesG: a.Resolved.NetG().Value, KeepsDays: a.Keeping.Days, Lines: make([]api.StarterLine, len(scooped.Lines))}
	if a.Uses != nil {
		out.Uses = a.Uses.Value
	}
	if pieces, ok := a.Resolved.Formula.Yield.Pieces(); ok {
		out.Pieces = int(pieces.Value)
	}
	for i := range scooped.Lines {
		l := &a.Resolved.Lines[i]
		line := api.StarterLine{Material: l.Material.ID, Name: l.Material.Name, MassG: l.MassG.Value,
			Weighed: l.Line.Amount.String(), Scooped: scooped.Lines[i].Amount.String(), Unstocked: l.Material.ID == stock.Tap}
		if l.MassG.Value > 0 {
			line.EnoughFor = shelf[l.Material.ID] / l.MassG.Value
		}
		out.Lines[i] = line
	}
	var grave []safety.Caution
	for _, c := range a.Cautions {
		if c.Severity > safety.Note {
			grave = append(grave, c)
		}
	}
	out.Cautions = Cautions(grave)
	return out
}
