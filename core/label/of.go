package label

import (
	"slices"

	"keencrock/core/assess"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/safety"
)

// Of is what a label says of a good as it is assessed: its hazards, what is in it
// and how it is kept. Quantity, dates, maker and use are left to the caller.
func Of(a *assess.Assessment) *Content {
	r := a.Resolved
	c := &Content{Name: r.Formula.Name, Kind: string(r.Formula.Kind)}
	var in []Ingredient
	for i := range r.Lines {
		l := &r.Lines[i]
		if l.Material == nil || r.StrainsOut(l.Material) {
			continue
		}
		for base, share := range l.Material.Bases() {
			in = append(in, Ingredient{Material: base, Share: share * l.Share.Value})
		}
	}
	c.Ingredients = Declare(in)
	if h := a.Hazard; h != nil {
		c.Signal, c.Pictograms, c.Precautions, c.UnknownShare = h.Signal.String(), h.Pictograms, h.Precautions, h.UnknownShare
		for _, f := range h.Statements {
			s := Statement{Code: f.Code}
			if f.Code == "EUH208" {
				s.Names = h.Sensitisers
			}
			c.Statements = append(c.Statements, s)
		}
		for _, name := range h.Named {
			if !slices.Contains(h.Sensitisers, name) || !h.Has("EUH208") {
				c.Named = append(c.Named, name)
			}
		}
	}
	c.Extra = extras(a)
	c.NotOn = notOn(a)
	return c
}

// extras are the words that what a good is asks for.
func extras(a *assess.Assessment) (out []string) {
	vented, undissolved := false, a.Bottle != nil && a.Pot != nil && len(a.Pot.Undissolved) > 0
	for _, c := range a.Cautions {
		switch c.Code {
		case "oxygen-in-closed-jar", "peroxide-closed", "ferment-gas", "yeast-gas":
			vented = true
		}
	}
	oils := false
	for i := range a.Resolved.Lines {
		if m := a.Resolved.Lines[i].Material; m != nil && m.Is(material.ScentOil) && a.State == formula.WetState {
			oils = true
		}
	}
	if undissolved || oils {
		out = append(out, "shake")
	}
	switch {
	case vented:
		out = append(out, "vented")
	case a.State != formula.WetState:
		out = append(out, "dry-lid")
	}
	return out
}

// notOnOf are the surfaces that a caution of use keeps a good from.
var notOnOf = map[string][]string{
	"alkali-and-aluminium": {"aluminium"},
	"acid-and-stone":       {"marble", "limestone"},
	"alkali-on-wool":       {"wool", "silk"},
}

func notOn(a *assess.Assessment) (out []string) {
	for _, c := range a.Cautions {
		if c.Of == safety.OfUse {
			out = append(out, notOnOf[c.Code]...)
		}
	}
	return out
}
