package formula

import (
	"slices"

	"keencrock/core/material"
	"keencrock/core/quantity"
)

// With is the formula with a share of what it has of a material, 0 for none, and all else as
// it is.
func (r *Resolved) With(of *material.Material, share float64) *Resolved {
	out := *r
	out.Lines = slices.Clone(r.Lines)
	out.TotalG, out.VolumeML, out.Questions = quantity.Range{}, quantity.Range{}, nil
	out.strainedG, out.strainedML = 0, 0
	for i := range out.Lines {
		if m := out.Lines[i].Material; m != nil && m.ID == of.ID {
			out.Lines[i].MassG, out.Lines[i].VolumeML = out.Lines[i].MassG.Scale(share), out.Lines[i].VolumeML.Scale(share)
		}
	}
	(&resolver{f: r.Formula, w: r.workshop, out: &out}).total()
	out.Questions = nil
	return &out
}
