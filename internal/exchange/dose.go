package exchange

import (
	"fmt"

	"keencrock/api"
	"keencrock/core/dosing"
	"keencrock/core/formula"
	"keencrock/core/quantity"
)

// DoseOptions are what a table of doses is made for, of a formula as it is written.
func DoseOptions(r *formula.Resolved) dosing.Options {
	o := dosing.Options{Said: r.Formula.Use, TotalG: r.NetG().Value}
	for _, d := range r.Formula.Doses {
		if o.SaidFor == nil {
			o.SaidFor = map[string]quantity.Amount{}
		}
		if d.For != "" && !d.Amount.IsZero() {
			o.SaidFor[d.For] = d.Amount
		}
	}
	if uses, ok := r.Uses(); ok && uses.Value > 0 {
		o.SaidG = o.TotalG / uses.Value
	}
	if n, ok := r.Formula.Yield.Pieces(); ok && n.Value > 0 && r.Formula.Kind.Info().Wetted {
		o.PieceG = o.TotalG / n.Value
	} else if each, counted := r.Formula.Use.Pieces(); counted && each.Value > 0 && o.SaidG > 0 {
		o.PieceG = o.SaidG / each.Value
	}
	return o
}

// DoseRows puts a table of doses into the words of the contract.
func DoseRows(rows []dosing.Row, measures quantity.Measures) []api.DoseRow {
	out := make([]api.DoseRow, len(rows))
	for i := range rows {
		r := &rows[i]
		out[i] = api.DoseRow{Machine: r.Machine.ID, Name: r.Machine.Name, WaterL: r.Machine.WaterL, HardnessMgPerL: r.Hardness.MGPerL(), HardnessClass: r.Hardness.Class(),
			Soil: api.DoseRowSoil(r.Soil), Said: r.Said.String(), SaidG: r.SaidG, SaidBy: api.DoseRowSaidBy(r.SaidBy), Chosen: api.DoseRowChosen(r.Chosen), ChosenG: r.ChosenG, ChosenAs: r.ChosenAs, Differs: r.Differs, Computed: r.Computed, Reaches: r.Reaches, Grams: r.Grams, Measure: doseWords(r), Uses: r.Uses, SodaFirstG: r.SodaFirstG, Says: r.Says}
		if r.Computed && r.Dosed.PH > 0 {
			out[i].Ph = r.Dosed.PH
		}
	}
	return out
}

func doseWords(r *dosing.Row) string {
	switch {
	case r.Pieces == 1:
		return "1 piece"
	case r.Pieces > 1:
		return fmt.Sprintf("%d pieces", r.Pieces)
	}
	return r.Measure.String()
}
