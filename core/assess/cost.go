package assess

import (
	"github.com/shopspring/decimal"

	"keencrock/core/costing"
	"keencrock/core/quantity"
	"keencrock/core/solution"
)

// Cost is the money in a formula, unrounded. Unpriced names the materials
// that are left out of it, or hold something that is: it costs at least this then.
type Cost struct {
	Currency string
	Batch    costing.Price
	PerKg    costing.Price // of finished good
	PerUse   costing.Price // zero when uses are not known
	Unpriced []string
}

func (a *Assessment) cost(p costing.Prices) {
	r := a.Resolved
	a.Lines = make([]LineCost, len(r.Lines))
	if len(p.PerGram) == 0 {
		return
	}
	c := Cost{Currency: p.Currency}
	priced := false
	var perG quantity.Ratio // of what goes in
	for i := range r.Lines {
		m, g := r.Lines[i].Material, r.Lines[i].MassG
		if m == nil || g.Value == 0 {
			continue
		}
		cost, known := p.For(m.ID, g)
		perG = append(perG, costs(p.PerGram[m.ID], g))
		switch {
		case known:
			priced = true
			a.Lines[i] = LineCost{cost.Value, true}
			if cost.AtLeast {
				c.Unpriced = append(c.Unpriced, m.ID)
			}
			c.Batch = costing.Price{Value: c.Batch.Value.Add(cost.Value), Low: c.Batch.Low.Add(cost.Low), High: c.Batch.High.Add(cost.High)}
		case m.ID != "water": // from the tap: not counted
			c.Unpriced = append(c.Unpriced, m.ID)
		}
	}
	if !priced {
		return
	}
	// a gram costs what its mixture does, however much of it there is
	over := func(parts float64, spread quantity.Range) costing.Price {
		out := costing.OnePrice(c.Batch.Value.DivRound(decimal.NewFromFloat(parts), 6))
		each := r.TotalG.Value / parts
		out.Low = decimal.Min(out.Low, decimal.NewFromFloat(perG.Least()*each*spread.Low).Round(6))
		out.High = decimal.Max(out.High, decimal.NewFromFloat(perG.Most()*each*spread.High).Round(6))
		return out
	}
	if kg := r.NetG().Value / 1000; kg > 0 {
		c.PerKg = over(kg, quantity.Exactly(1))
	}
	if a.Uses != nil && a.Uses.Value > 0 {
		c.PerUse = over(a.Uses.Value, solution.DoseRange(r))
	}
	a.Cost = &c
}

// costs is what a line adds to the cost, and to the mass, at its ends.
func costs(perGram costing.Price, massG quantity.Range) []quantity.Pair {
	low, high := perGram.Low.InexactFloat64(), perGram.High.InexactFloat64()
	return []quantity.Pair{{Of: low * massG.Low, To: massG.Low}, {Of: high * massG.Low, To: massG.Low},
		{Of: low * massG.High, To: massG.High}, {Of: high * massG.High, To: massG.High}}
}

// LineCosts are what the lines cost, rounded so that they add up to the whole as it is
// told, to the last cent; nil where nothing is priced. Of a line without a known price it
// is nothing.
func (a *Assessment) LineCosts() []decimal.Decimal {
	if a.Cost == nil {
		return nil
	}
	weights := make([]float64, len(a.Lines))
	for i, l := range a.Lines {
		if l.Known {
			weights[i] = l.Cost.InexactFloat64()
		}
	}
	shares, err := costing.Split(a.Cost.Batch.Value, weights)
	if err != nil { // all of it is for nothing
		return make([]decimal.Decimal, len(a.Lines))
	}
	return shares
}
