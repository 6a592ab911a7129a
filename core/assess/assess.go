// Package assess runs a formula through every rule of the job and returns one
// answer: what it weighs, costs, keeps and what to mind.
//
// It is pure: the same formula, library and options give the same
// assessment, and nothing is read from anywhere else.
package assess

import (
	"errors"

	"github.com/shopspring/decimal"

	"keencrock/core/bath"
	"keencrock/core/costing"
	"keencrock/core/formula"
	"keencrock/core/keeping"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/core/safety"
	"keencrock/core/swap"
)

// Options is what an assessment takes into account beside the formula.
type Options struct {
	Workshop formula.Workshop
	Prices   costing.Prices // zero when prices are not known
	Water    *Water         // nil for no chemistry, which takes longer than all the rest
}

// Water is what the good is used in.
type Water struct {
	Waters   bath.Waters
	Hardness quantity.Hardness
	Celsius  float64 // 0 for 25
	Strength string  // as written, in place of what follows from the formula
}

// Assessment is everything known of a formula before it is mixed.
type Assessment struct {
	Resolved *formula.Resolved
	Lines    []LineCost // beside Resolved.Lines
	State    formula.State
	Uses     *quantity.Range // nil when one use is not said
	UseG     float64         // grams in one use, zero when not known
	Cost     *Cost           // nil when no price is known
	Class    keeping.Class
	Keeping  keeping.Life
	Cautions []safety.Caution
	Order    []formula.Finding
	Bath     *bath.Result // nil when none is asked for, there is nothing, or BathErr
	Pot      *bath.Result // the good as it stands, where it is wet and not used as it stands
	// Neutralise is what the sulfonic acid in it takes, by each base; empty
	// without any.
	Neutralise []swap.Neutralised
	BathErr    error // why there is no chemistry: a strength or water that cannot be
}

// LineCost is what a line costs; Known is false when its price is not.
type LineCost struct {
	Cost  decimal.Decimal
	Known bool
}

// Cost is the money in a formula, unrounded. Unpriced names the materials
// that are left out of it.
type Cost struct {
	Currency string
	Batch    decimal.Decimal
	PerKg    decimal.Decimal // of finished good
	PerUse   decimal.Decimal // zero when uses are not known
	Unpriced []string
}

// Formula assesses f. Lines with problems are left out of every sum, and the
// problems stand in Resolved.Problems.
func Formula(f *formula.Formula, lib *material.Library, o Options) *Assessment {
	r := formula.Resolve(f, lib, o.Workshop)
	a := &Assessment{Resolved: r, State: r.State(), Order: formula.OrderFindings(r)}
	if uses, ok := r.Uses(); ok {
		a.Uses = &uses
		a.UseG = r.NetG().Value / uses.Value
	}
	a.cost(o.Prices)
	makeup, ingredients := a.makeup()
	a.Class = keeping.Classify(makeup)
	a.Keeping = keeping.FromNew(a.Class, ingredients)
	if o.Water != nil {
		if a.Bath, a.BathErr = a.bath(o.Water); errors.Is(a.BathErr, bath.ErrNothing) {
			a.BathErr = nil
		}
		if a.Bath != nil && a.State == formula.WetState && !a.Bath.Use.Neat {
			// what meets in the bottle meets there first
			if pot, err := bath.Run(a.Resolved, bath.Use{Neat: true, Basis: bath.AsItIs, Celsius: 25}); err == nil {
				a.Pot = pot
			}
		}
	}
	a.Cautions = safety.Evaluate(a.mixture(makeup))
	a.neutralise()
	return a
}

// neutralise works out what turns the sulfonic acid into its salt.
func (a *Assessment) neutralise() {
	acidG := 0.0
	for i := range a.Resolved.Lines {
		if m := a.Resolved.Lines[i].Material; m != nil && m.ShareOf("sulfonic-acid") > 0 {
			acidG += a.Resolved.Lines[i].MassG.Value
		}
	}
	if acidG == 0 {
		return
	}
	for _, base := range []swap.Base{swap.WithSodaAsh, swap.WithLye} {
		if n, err := swap.Neutralise(acidG, base); err == nil {
			a.Neutralise = append(a.Neutralise, n)
		}
	}
}

// bath works out the chemistry in its water.
func (a *Assessment) bath(o *Water) (*bath.Result, error) {
	use := bath.UseOf(a.Resolved, o.Waters)
	if o.Strength != "" {
		var err error
		if use.GramsPerLitre, use.Neat, err = bath.ParseStrength(o.Strength, a.Resolved.Density(), a.Resolved.Formula.Measures); err != nil {
			return nil, err
		}
		use.Basis = bath.Given
	}
	use.Hardness = o.Hardness
	if o.Celsius != 0 {
		use.Celsius = o.Celsius
	}
	return bath.Run(a.Resolved, use)
}

// amounts puts the chemistry into the words of the cautions. Where a material
// cannot be vouched for, no amount is told.
func (a *Assessment) amounts() *safety.Amounts {
	b := a.Bath
	if b == nil || len(b.Unknown) > 0 {
		return nil
	}
	curdled := b.CurdledByGood()
	if a.Pot != nil {
		curdled = max(curdled, a.Pot.CurdledByGood())
	}
	return &safety.Amounts{PH: b.ClosedPH.Value, Curdled: curdled, SodaSpent: b.Gas.SodaSpent,
		GasMLPerKg: b.Gas.MLPerKg().Value, SoapLost: b.Hardness.SoapLost()}
}

func (a *Assessment) cost(p costing.Prices) {
	r := a.Resolved
	a.Lines = make([]LineCost, len(r.Lines))
	if len(p.PerGram) == 0 {
		return
	}
	c := Cost{Currency: p.Currency}
	priced := false
	for i := range r.Lines {
		m := r.Lines[i].Material
		if m == nil || r.Lines[i].MassG.Value == 0 {
			continue
		}
		cost, known := p.For(m.ID, r.Lines[i].MassG.Value)
		if !known && m.ID == "water" {
			continue // water from the tap is not counted
		}
		if !known {
			c.Unpriced = append(c.Unpriced, m.ID)
			continue
		}
		priced = true
		a.Lines[i] = LineCost{cost, true}
		c.Batch = c.Batch.Add(cost)
	}
	if !priced {
		return
	}
	if kg := r.NetG().Value / 1000; kg > 0 {
		c.PerKg = c.Batch.DivRound(decimal.NewFromFloat(kg), 6)
	}
	if a.Uses != nil && a.Uses.Value > 0 {
		c.PerUse = c.Batch.DivRound(decimal.NewFromFloat(a.Uses.Value), 6)
	}
	a.Cost = &c
}

// makeup gathers what decides the keeping class.
func (a *Assessment) makeup() (keeping.Makeup, []keeping.Ingredient) {
	r := a.Resolved
	info := r.Formula.Kind.Info()
	m := keeping.Makeup{Wet: a.State == formula.WetState, Kind: string(info.Kind)}
	var ingredients []keeping.Ingredient
	acid, carbonate := false, false
	for i := range r.Lines {
		x, share := r.Lines[i].Material, r.Lines[i].Share.Value
		if x == nil || share == 0 {
			continue
		}
		m.Water += share * x.ShareOf("water")
		if x.Is(material.Alcohol) {
			m.Alcohol += share * max(x.ShareOf("ethanol"), x.ShareOf("isopropanol"))
		}
		if x.Is(material.Soap) {
			m.Soap += share * x.ShareOf("soap")
		}
		m.StrongAcid += share * acidStrength(x)
		if x.Is(material.StrongAlkali) {
			m.StrongAlkali += share
		}
		if x.Is(material.Salt) {
			m.Salt += share
		}
		m.Preserved = m.Preserved || x.Is(material.Preservative)
		m.Peroxide = m.Peroxide || x.Is(material.Peroxide)
		acid = acid || x.Is(material.Acid) && x.Is(material.Dry)
		carbonate = carbonate || x.Is(material.Carbonate)
		strained := a.StrainedOut(x)
		m.PerishableLeft = m.PerishableLeft || x.Is(material.Perishable) && !strained
		if !strained && x.ID != "water" {
			ingredients = append(ingredients, keeping.Ingredient{Name: x.Name, SealedDays: x.Keeps.SealedDays})
		}
	}
	m.AcidAndSoda = acid && carbonate
	return m, ingredients
}

func acidStrength(m *material.Material) float64 {
	switch {
	case m.Is(material.StrongAcid), m.Is(material.Acid) && m.Is(material.Dry) && !m.Is(material.WeakAcid):
		return 1
	case m.Is(material.Acid):
		return m.ShareOf("acetic-acid") + m.ShareOf("citric-acid")
	}
	return 0
}

func (a *Assessment) mixture(makeup keeping.Makeup) *safety.Mixture {
	info := a.Resolved.Formula.Kind.Info()
	m := &safety.Mixture{
		Wet: makeup.Wet, UsedOn: info.UsedOn, Kind: string(info.Kind),
		Keeps:       !makeup.Wet || a.Class.Code != keeping.WetMild.Code,
		Ingredients: make([]safety.Ingredient, 0, len(a.Resolved.Lines)),
		Amounts:     a.amounts(),
	}
	for i := range a.Resolved.Lines {
		if x := a.Resolved.Lines[i].Material; x != nil {
			m.Ingredients = append(m.Ingredients, safety.Ingredient{Material: x, Share: a.Resolved.Lines[i].Share.Value})
		}
	}
	return m
}

// StrainedOut reports whether a material is taken out of the finished good
// again: peel and nuts of what steeps or ferments. It sets no date.
func (a *Assessment) StrainedOut(m *material.Material) bool {
	return a.Resolved.Formula.Kind.Info().Slow && m.Is(material.Botanical)
}
