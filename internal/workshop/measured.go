package workshop

import (
	"keencrock/api"
	"keencrock/core/formula"
	"keencrock/core/quantity"
	"keencrock/internal/store"
)

// measuredPH is a measured pH as the contract has it; nothing when none was.
func measuredPH(ph *float64, with string) api.MeasuredPh {
	if ph == nil {
		return api.MeasuredPh{}
	}
	return api.MeasuredPh{Ph: *ph, With: api.MeasuredPhWith(with)}
}

// measuredOf is the pH that was measured last of a batch; nil when none was.
func measuredOf(events []store.BatchEvent) *formula.MeasuredPH {
	var last *formula.MeasuredPH
	for _, e := range events {
		if e.PH != nil {
			last = &formula.MeasuredPH{PH: *e.PH, With: formula.Meter(e.PHWith)}
		}
	}
	return last
}

// measuredMaterials is what was measured of the lots in stock, by material: of
// several lots, all that they may be.
func measuredMaterials(tx *store.Tx) (map[string]quantity.Range, error) {
	lots, err := tx.MeasuredLots()
	if err != nil || len(lots) == 0 {
		return nil, err
	}
	out := map[string]quantity.Range{}
	for _, l := range lots {
		m := formula.MeasuredPH{PH: *l.PH, With: formula.Meter(l.PHWith)}
		ph, more := out[l.Material]
		if !more {
			out[l.Material] = m.Range()
			continue
		}
		ph = ph.Including(m.Range().Low).Including(m.Range().High)
		ph.Value = (ph.Low + ph.High) / 2
		out[l.Material] = ph
	}
	return out, nil
}
