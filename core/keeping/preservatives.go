package keeping

import (
	"fmt"
	"math"

	"keencrock/core/material"
	"keencrock/core/quantity"
)

// Preservative is one that is in a good, and whether it works there.
type Preservative struct {
	ID, Name      string
	Share         float64 // of the whole by mass
	Undissociated float64 // share of it that is undissociated acid; 1 for one that is no acid
	IsAcid        bool
	Works         bool
	Why           string
	need          float64
}

func (p *Preservative) figure() *Figure {
	f := &Figure{Name: p.Name, Value: p.Share * 100, Limit: p.need * 100, Unit: "%"}
	if p.IsAcid {
		f.Name, f.Value = "undissociated "+material.InSentence(p.Name), p.Share*p.Undissociated*100
	}
	return f
}

// preservative is what is known of one: as an acid, of which only what is
// undissociated passes into a mould (pKa), or by the pH it works between; and
// how much of it takes. Shares by mass.
type preservative struct {
	pKa           float64 // 0 for one that is no acid
	acidShare     float64 // undissociated acid a gram of it can give, in grams
	phLow, phHigh float64
	need          float64
}

// What is known of preservatives, by material. The pKa of sorbic and benzoic
// acid are those of package chem; how much of each takes, and the pH a maker may
// count on, are common practice, from memory.
var preservatives = map[string]preservative{
	"potassium-sorbate":   {pKa: 4.76, acidShare: 0.746, need: 0.0003},
	"sodium-benzoate":     {pKa: 4.20, acidShare: 0.847, need: 0.0003},
	"dehydroacetic-blend": {phLow: 2, phHigh: 6.5, need: 0.004},
	"benzyl-alcohol":      {phLow: 3, phHigh: 8.5, need: 0.005},
	"paraben-blend":       {phLow: 4, phHigh: 8, need: 0.002},
	"methylparaben":       {phLow: 4, phHigh: 8, need: 0.001},
	"propylparaben":       {phLow: 4, phHigh: 8, need: 0.0005},
	"phenoxyethanol":      {phLow: 3, phHigh: 10, need: 0.005},
	"isothiazolinone":     {phLow: 4, phHigh: 9, need: 0.0005},
	"preservative":        {phLow: 4, phHigh: 7.5, need: 0.003},
}

// Preserves says how a material does as a preservative in a good of a pH, at a
// share of the whole; ok is false for a material that is none. Where the pH is a
// range, the worse end counts.
func Preserves(m *material.Material, share float64, ph quantity.Range, phKnown bool) (p Preservative, ok bool) {
	known, ok := preservatives[m.Nature()]
	if !ok {
		if !m.Is(material.Preservative) {
			return p, false
		}
		known = preservatives["preservative"]
	}
	p = Preservative{ID: m.ID, Name: m.Name, Share: share, Undissociated: 1, need: known.need}
	percent := func(x float64) string { return quantity.FormatFigures(100*x, 2) + " %" }
	switch {
	case !phKnown:
		p.Why = "at what pH is not known, so it is not counted on: measure it"
	case known.pKa > 0:
		p.IsAcid = true
		p.Undissociated = known.acidShare / (1 + math.Pow(10, ph.High-known.pKa))
		free := share * p.Undissociated
		p.Works = free >= known.need
		p.Why = fmt.Sprintf("at pH %.1f, %s of it is undissociated acid, which is what works: %s of the whole, of the %s it takes",
			ph.High, percent(p.Undissociated), percent(free), percent(known.need))
	case ph.High < known.phLow || ph.Low > known.phHigh:
		p.Why = fmt.Sprintf("it works between pH %g and %g, and not at %.1f", known.phLow, known.phHigh, ph.Value)
	case ph.Low < known.phLow || ph.High > known.phHigh:
		p.Why = fmt.Sprintf("it works between pH %g and %g, and this may be anything from %.1f to %.1f: measure it", known.phLow, known.phHigh, ph.Low, ph.High)
	case share < known.need:
		p.Why = fmt.Sprintf("there is %s of it, and it takes about %s", percent(share), percent(known.need))
	default:
		p.Works = true
		p.Why = fmt.Sprintf("%s of it, at pH %.1f", percent(share), ph.Value)
	}
	return p, true
}
