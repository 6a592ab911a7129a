// Package swap finds what replaces a material, by what it does and not by the
// cup: alkali for alkali, acid for acid, dry soap for dry soap.
package swap

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"github.com/shopspring/decimal"

	"keencrock/core/chem"
	"keencrock/core/costing"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/core/solution"
)

// Candidate is one way to replace grams of a line.
type Candidate struct {
	Material *material.Material
	Grams    float64 // of it, in place of what was asked for
	By       Basis
	Why      string   // what is kept alike, in a sentence
	Changes  []string // what will be different, the most important first
	Bake     *Bake    // set when it has to be baked first

	InStockG    float64
	Enough      bool
	Cost        decimal.Decimal
	PriceKnown  bool
	PHBefore    float64 // at the strength of use, closed; zero when not worked out
	PHAfter     float64
	BufferRatio float64 // buffer strength after, over before
}

// Basis is what a swap keeps alike.
type Basis string

// The bases of swaps.
const (
	SameCompound Basis = "same-compound"
	ByAlkali     Basis = "alkali"
	ByAcid       Basis = "acid"
	BySoap       Basis = "soap"
	ByChelant    Basis = "chelant"
	ByMass       Basis = "mass"
)

// Bake turns baking soda into soda ash in an oven.
type Bake struct {
	BakingSodaG float64 // put in
	StopAtG     float64 // the weight at which it is done
}

// Options is what a swap takes into account.
type Options struct {
	Library *material.Library
	// StockG is what the shelf holds, in grams by material id; nil looks at the
	// whole library and counts everything as there.
	StockG map[string]float64
	Prices costing.Prices
	Use    solution.Use
}

// strength is what a gram of a material brings.
type strength struct{ alkali, acid, soap, chelant, hardness float64 }

func strengthOf(m *material.Material) strength {
	var s strength
	parts, _, _ := solution.Contents(m)
	for _, p := range parts {
		n := p.MolPerG.Value
		s.alkali += n * p.Compound.AlkaliEq
		s.acid += n * p.Compound.AcidEq
		switch p.Compound.ID {
		case "soap", "potassium-soap":
			s.soap += n
		case "citric-acid", "trisodium-citrate", "edta", "disodium-edta":
			s.chelant += n
		case "magnesium-sulfate", "magnesium-chloride", "calcium-chloride":
			s.hardness += n
		}
	}
	return s
}

// maxCandidates bounds the list.
const maxCandidates = 8

// Candidates returns what could replace grams of a line of a resolved formula,
// the best first: the same compound in another form, then what does the same,
// by how much of it there is, how little it moves the pH, and what it costs.
func Candidates(r *formula.Resolved, line int, grams float64, o Options) ([]Candidate, error) {
	if line < 0 || line >= len(r.Lines) || r.Lines[line].Material == nil {
		return nil, fmt.Errorf("the formula has no line %d to replace", line+1)
	}
	have := r.Lines[line].MassG.Value
	if !(grams > 0 && grams <= have*(1+1e-9)) {
		return nil, fmt.Errorf("replace more than nothing and at most the %s g of the line, not %s g", quantity.FormatFigures(have, 4), quantity.FormatFigures(grams, 6))
	}
	from := r.Lines[line].Material
	before, err := solution.Run(r, o.Use)
	if err != nil {
		return nil, err
	}
	var found []Candidate
	for _, m := range o.Library.All() {
		c, ok := match(from, m, grams)
		if !ok || len(m.MadeOf) > 0 { // what was made here is no material to reach for
			continue
		}
		found = append(found, c)
		if m.ID == "sodium-bicarbonate" && c.By == ByAlkali && carbonate(from) {
			found = append(found, baked(from, m, grams))
		}
	}
	for i := range found {
		c := &found[i]
		c.stock(o)
		c.chemistry(r, line, grams, before, o.Use)
		c.say(from)
	}
	slices.SortStableFunc(found, func(a, b Candidate) int { return cmp.Compare(a.rank(), b.rank()) })
	return found[:min(len(found), maxCandidates)], nil
}

func carbonate(m *material.Material) bool {
	parts, _, _ := solution.Contents(m)
	return len(parts) == 1 && parts[0].Compound.ID == "sodium-carbonate"
}

// match says how much of m replaces grams of from, if it can.
func match(from, m *material.Material, grams float64) (Candidate, bool) {
	if m.ID == from.ID || m.ID == "water" {
		return Candidate{}, false
	}
	c := Candidate{Material: m}
	a, b := strengthOf(from), strengthOf(m)
	if ratio, same := sameCompound(from, m); same {
		c.By, c.Grams = SameCompound, grams*ratio
		return c, true
	}
	ratio := 0.0
	switch {
	case a.soap > 0:
		c.By, ratio = BySoap, a.soap/b.soap
	case a.acid > 0 && from.Does("acid"):
		c.By, ratio = ByAcid, a.acid/b.acid
	case a.chelant > 0 && from.Functions[0] == "chelant":
		c.By, ratio = ByChelant, a.chelant/b.chelant
	case a.alkali > 0:
		c.By, ratio = ByAlkali, a.alkali/b.alkali
	case m.Functions[0] == from.Functions[0]:
		c.By, ratio = ByMass, 1
	}
	c.Grams = grams * ratio
	ok := ratio > 0 && !math.IsInf(ratio, 0) && !math.IsNaN(ratio) && sound(from, m, c.By)
	return c, ok
}

// sound leaves out what nobody would put in its place: what burns skin for
// what does not, bleach for soda, a liquid for a powder but soap and acid.
func sound(from, m *material.Material, by Basis) bool {
	const dangers = material.Caustic | material.Chlorine | material.Ammonia | material.Peroxide | material.StrongAcid
	if m.Tags&dangers&^from.Tags != 0 {
		return false
	}
	if by == ByAlkali && m.Is(material.Calcium) {
		return false
	}
	if by == ByMass && m.Liquid() != from.Liquid() {
		return false
	}
	return true
}

// sameCompound is the ratio of masses of two forms of one compound.
func sameCompound(from, m *material.Material) (ratio float64, same bool) {
	a, _, _ := solution.Contents(from)
	b, _, _ := solution.Contents(m)
	if from.Formula == "" || m.Formula == "" || len(a) != 1 || len(b) != 1 || a[0].Compound != b[0].Compound {
		return 0, false
	}
	return a[0].MolPerG.Value / b[0].MolPerG.Value, true
}

func baked(from, bakingSoda *material.Material, grams float64) Candidate {
	mol := grams * strengthOf(from).alkali / 2 // of soda
	soda := 2 * mol * bakingSoda.MolarMass
	return Candidate{Material: bakingSoda, Grams: soda * (1 - material.BakingLoss), By: ByAlkali,
		Bake: &Bake{BakingSodaG: soda, StopAtG: soda * (1 - material.BakingLoss)}}
}

// need is what has to be on the shelf.
func (c *Candidate) need() float64 {
	if c.Bake != nil {
		return c.Bake.BakingSodaG
	}
	return c.Grams
}

func (c *Candidate) stock(o Options) {
	c.InStockG, c.Enough = math.Inf(1), true
	if o.StockG != nil {
		c.InStockG = o.StockG[c.Material.ID]
		c.Enough = c.InStockG >= c.need()
	}
	cost, known := o.Prices.For(c.Material.ID, quantity.Exactly(c.need()))
	c.Cost, c.PriceKnown = cost.Value, known
}

// chemistry works the formula out with the swap made.
func (c *Candidate) chemistry(r *formula.Resolved, line int, grams float64, before *solution.Result, use solution.Use) {
	after := Apply(r, line, grams, *c)
	out, err := solution.Run(after, use)
	if err != nil {
		return
	}
	c.PHBefore, c.PHAfter = before.ClosedPH.Value, out.ClosedPH.Value
	if before.BufferMMol > 0 {
		c.BufferRatio = out.BufferMMol / before.BufferMMol
	}
}

// Apply returns the formula with the swap made, by mass. Baked soda stands as
// baking soda turned to soda ash.
func Apply(r *formula.Resolved, line int, grams float64, c Candidate) *formula.Resolved {
	out := *r
	out.Lines = slices.Clone(r.Lines)
	out.Lines[line].MassG = quantity.Exactly(max(0, r.Lines[line].MassG.Value-grams))
	m := c.Material
	if c.Bake != nil {
		ash := *m
		ash.Formula, ash.MolarMass = "Na2CO3", chem.GramsNa2CO3
		m = &ash
	}
	out.Lines = append(out.Lines, formula.ResolvedLine{Material: m, MassG: quantity.Exactly(c.Grams)})
	out.TotalG = quantity.Range{}
	for i := range out.Lines {
		out.TotalG = out.TotalG.Add(out.Lines[i].MassG)
	}
	for i := range out.Lines {
		out.Lines[i].Share = quantity.Exactly(out.Lines[i].MassG.Value / out.TotalG.Value)
	}
	return &out
}

// say puts it into words.
func (c *Candidate) say(from *material.Material) {
	name := material.InSentence(from.Name)
	switch c.By {
	case SameCompound:
		c.Why = fmt.Sprintf("The same compound as %s, with other water in it.", name)
	case ByAlkali:
		c.Why = fmt.Sprintf("The same alkali as %s.", name)
	case ByAcid:
		c.Why = fmt.Sprintf("The same acid strength as %s.", name)
	case BySoap:
		c.Why = "The same dry soap."
	case ByChelant:
		c.Why = "It holds as much hardness dissolved."
	case ByMass:
		c.Why = fmt.Sprintf("It serves as %s too, gram for gram.", from.Functions[0])
	}
	add := func(text string, args ...any) { c.Changes = append(c.Changes, fmt.Sprintf(text, args...)) }
	if c.Bake != nil {
		add("Bake %.0f g of baking soda in a hot oven, spread thin, until it weighs %.0f g: it loses 36.9 %% to steam and gas.", c.Bake.BakingSodaG, c.Bake.StopAtG)
	}
	if h := strengthOf(c.Material).hardness; h > 0 && strengthOf(from).hardness == 0 {
		add("It brings hardness: %.1f mmol with %.0f g. A salt in shape, a fault beside soap or on glasses.", 1000*h*c.Grams, c.Grams)
	}
	if c.PHAfter != 0 && math.Abs(c.PHAfter-c.PHBefore) >= 0.1 {
		add("The pH goes from %.1f to %.1f.", c.PHBefore, c.PHAfter)
	}
	switch {
	case from.Is(material.Borate) && !c.Material.Is(material.Borate):
		add("Nothing then holds the pH at 9.2 as borax does; the hold is %s times as strong.", quantity.FormatFigures(c.BufferRatio, 2))
	case c.BufferRatio > 0 && (c.BufferRatio < 0.5 || c.BufferRatio > 2):
		add("It holds its pH %s times as well.", quantity.FormatFigures(c.BufferRatio, 2))
	}
	if c.Material.Is(material.Borate) && !from.Is(material.Borate) {
		add("Borax is classed as toxic to reproduction in some regions; there its sale to the public can be barred.")
	}
	if c.Material.Liquid() && !from.Liquid() {
		add("It is wet: a powder turns into a paste.")
	}
	if !c.Enough {
		add("The shelf holds %s of the %s it takes.", quantity.FormatGrams(c.InStockG, 1), quantity.FormatGrams(c.need(), 1))
	}
}

// rank is smaller for what serves better.
func (c *Candidate) rank() float64 {
	rank := math.Abs(c.PHAfter - c.PHBefore)
	switch {
	case c.Bake != nil:
		rank++
	case c.By == SameCompound:
		rank -= 5
	}
	if !c.Enough {
		rank += 20
	}
	if strengthOf(c.Material).hardness > 0 {
		rank += 3
	}
	if c.Material.Liquid() {
		rank += 2
	}
	if c.PriceKnown {
		cost, _ := c.Cost.Float64()
		rank += min(1, cost/100)
	}
	return rank
}
