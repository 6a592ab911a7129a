// Package assess runs a formula through every rule of the job and returns one
// answer: what it weighs, costs, keeps and what to mind.
//
// It is pure: the same formula, library and options give the same
// assessment, and nothing is read from anywhere else.
package assess

import (
	"errors"
	"strings"

	"github.com/shopspring/decimal"

	"keencrock/core/costing"
	"keencrock/core/formula"
	"keencrock/core/hazard"
	"keencrock/core/keeping"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/core/safety"
	"keencrock/core/solution"
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
	Waters   solution.Waters
	Hardness quantity.Hardness
	Celsius  float64 // 0 for 25
	Strength string  // as written, in place of what follows from the formula
	// GramsPerLitre is the strength where it is not written, but reckoned; 0 for none.
	GramsPerLitre float64
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
	Hazard   *hazard.Result // of the good as it stands; nil when there is nothing in it
	// Bottle is the good as it stands; nil unless it is wet.
	Bottle        *solution.Standing
	Preservatives []keeping.Preservative // and whether they work in the bottle
	// Saponified is what becomes of oil and lye in it; nil without both.
	Saponified *solution.Saponification
	Solution   *solution.Result // in use; nil when none is asked for, there is nothing, or SolutionErr
	Pot        *solution.Result // in its bottle, where it is wet and not used as it stands
	// DilutedDays is how long it keeps once it is at its use strength; 0 where
	// that is not another.
	DilutedDays int
	// Neutralise is what the sulfonic acid in it takes, by each base; empty
	// without any.
	Neutralise  []swap.Neutralised
	SolutionErr error // why there is no chemistry: a strength or water that cannot be

	standsPH safety.PH // that the screen went by
}

// Verdicts judges the readings in use, by the facts the cautions go by: a sign and a
// caution are as grave as each other.
func (a *Assessment) Verdicts() solution.Verdicts {
	v := a.Solution.Verdicts(a.Pot)
	if a.Burns() {
		v.PH = solution.Watch
	}
	return v
}

// Burns reports whether the good as it stands burns by its screen, or stands at a pH that
// would but for how little is behind it.
func (a *Assessment) Burns() bool {
	return a.standsPH.IsExtreme() || a.Hazard != nil && a.Hazard.Has("H314")
}

// LineCost is what a line costs; Known is false when its price is not.
type LineCost struct {
	Cost  decimal.Decimal
	Known bool
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
	if o.Water != nil {
		if a.Solution, a.SolutionErr = a.solution(o.Water); errors.Is(a.SolutionErr, solution.ErrNothing) {
			a.SolutionErr = nil
		}
	}
	a.Saponified = solution.Saponify(r)
	a.stand(o.Water != nil)
	bottle, ingredients := a.bottle()
	a.Class = keeping.Classify(bottle)
	a.Keeping = keeping.FromNew(a.Class, ingredients)
	a.dilute(bottle)
	a.screen(lib)
	a.Cautions = safety.Evaluate(a.mixture(bottle))
	a.neutralise()
	return a
}

// stand works out what a wet good is in its bottle, with ranges where chemistry
// is asked for.
func (a *Assessment) stand(full bool) {
	if a.State != formula.WetState {
		return
	}
	if !full {
		a.Bottle, _ = solution.Stand(a.Resolved) // nothing in it: nothing stands
		return
	}
	pot := a.Solution
	if pot == nil || !pot.Use.Neat || pot.Use.Hardness != 0 || pot.Use.Celsius != 25 {
		var err error
		if pot, err = solution.Run(a.Resolved, solution.Use{Neat: true, Basis: solution.AsItIs, Celsius: 25}); err != nil {
			return
		}
		a.Pot = pot
	}
	a.Bottle, _ = solution.StandingOf(a.Resolved, pot)
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

// solution works out the chemistry in its water.
func (a *Assessment) solution(o *Water) (*solution.Result, error) {
	waters := o.Waters
	waters.Hardness = o.Hardness
	use := solution.UseOf(a.Resolved, waters)
	if o.Strength != "" {
		var err error
		if use.GramsPerLitre, use.Neat, err = solution.ParseStrength(o.Strength, a.Resolved.Density(), a.Resolved.Formula.Measures); err != nil {
			return nil, err
		}
		use.Basis = solution.Given
	}
	if o.GramsPerLitre > 0 {
		use.GramsPerLitre, use.Neat, use.Basis = min(o.GramsPerLitre, solution.MostGramsPerLitre), false, solution.Given
	}
	use.Hardness = o.Hardness
	if o.Celsius != 0 {
		use.Celsius = o.Celsius
	}
	return solution.Run(a.Resolved, use)
}

// amounts puts the chemistry into the words of the cautions. Where a material
// cannot be vouched for, no amount is told.
func (a *Assessment) amounts() *safety.Amounts {
	b := a.Solution
	if b == nil || len(b.Unknown) > 0 {
		return nil
	}
	protonated, spent := b.ProtonatedByGood(), b.Gas.SodaSpent
	if a.Pot != nil {
		protonated = max(protonated, a.Pot.ProtonatedByGood())
	}
	return &safety.Amounts{Protonated: protonated, SodaSpent: spent, SpentInBowl: b.Gas.SpentInBowl, Wetting: a.wetting(),
		GasMLPerKg: b.Gas.MLPerKg().Value, SoapLost: b.Hardness.SoapLost()}
}

// wetting is the share of a liquid that binds a powder.
func (a *Assessment) wetting() float64 {
	if a.State != formula.DampState {
		return 0
	}
	wet := 0.0
	for i := range a.Resolved.Lines {
		if m := a.Resolved.Lines[i].Material; m != nil && (m.Is(material.Wet) || m.Liquid() && !m.Is(material.ScentOil)) {
			wet += a.Resolved.Lines[i].Share.Value
		}
	}
	return wet
}

// UsePH is the pH where it is used, as far as it is known.
func (a *Assessment) UsePH() safety.PH {
	if a.Solution == nil || !a.Solution.PHKnown() {
		return safety.PH{}
	}
	return safety.PH{Range: a.Solution.ClosedPH, Known: true}
}

// BottlePH is the pH of the bottle, as far as it is known.
func (a *Assessment) BottlePH() safety.PH {
	if a.Bottle == nil || !a.Bottle.Known() {
		return safety.PH{}
	}
	return safety.PH{Range: a.Bottle.PH, Known: true}
}

// bottle gathers what decides the keeping class: what is in the bottle, and the
// lives of what went in.
func (a *Assessment) bottle() (*keeping.Bottle, []keeping.Ingredient) {
	r := a.Resolved
	info := r.Formula.Kind.Info()
	b := &keeping.Bottle{Wet: a.State == formula.WetState, Ferments: info.Is(formula.Ferments), Infused: info.Is(formula.Infused), SoapNut: info.Is(formula.OfSoapNuts),
		Cooked: r.IsCooked(), Saponified: a.Saponified != nil && a.Saponified.Sets()}
	protonated := 0.0
	if a.Bottle != nil {
		b.PH, b.Fresh, b.Aired, b.PHKnown = a.Bottle.PH, a.Bottle.Fresh, a.Bottle.Aired, a.Bottle.Known()
		b.PHMeasured = a.Bottle.PHFrom == solution.Measured
		b.Alcohol, b.WaterActivity = a.Bottle.Alcohol, a.Bottle.WaterActivity.Value
		protonated = a.Bottle.Protonated
	}
	var ingredients []keeping.Ingredient
	acid, carbonate := false, false
	b.Waterless = b.Wet
	for i := range r.Lines {
		of, share := r.Lines[i].Material, r.Lines[i].Share.Value
		if of == nil {
			b.Waterless = false
		}
		if of == nil || share == 0 {
			continue
		}
		b.Waterless = b.Waterless && (of.Tags&(material.Oil|material.ScentOil) != 0 || of.ShareOf("water") == 0 && of.Is(material.Dry))
		if strained := r.StrainsOut(of); !strained && of.ID != "water" {
			ingredients = append(ingredients, keeping.Ingredient{Name: of.Name, SealedDays: of.Keeps.SealedDays, Share: share, OnlySmells: of.OnlySmells()})
		}
		for x, part := range of.Bases() {
			a.intoBottle(b, x, share*part, protonated)
			acid = acid || x.Is(material.Acid) && x.Is(material.Dry)
			carbonate = carbonate || x.Is(material.Carbonate)
		}
	}
	b.Preservatives = a.Preservatives
	b.AcidAndSoda = acid && carbonate
	return b, ingredients
}

// intoBottle adds a share of a bought material to what decides the class.
func (a *Assessment) intoBottle(b *keeping.Bottle, x *material.Material, share, protonated float64) {
	if p, ok := keeping.Preserves(x, share, b.Stands(), b.PHKnown); ok && b.Wet {
		a.Preservatives = append(a.Preservatives, p)
	}
	if x.Formula == "NaCl" {
		b.Salt += share
	}
	if x.Is(material.Chlorine) && b.Wet {
		b.Chlorine += share
	}
	b.Soap += share * (x.ShareOf("soap") + x.ShareOf("potassium-soap")) * (1 - protonated)
	if x.Is(material.Preserved) {
		b.PreservedBase += share
	}
	if x.Is(material.Fermented) {
		b.Ferment += share
	}
	b.Peroxide = b.Peroxide || x.Is(material.Peroxide)
	b.SoapNut = b.SoapNut || strings.HasPrefix(x.Nature(), "soap-nut")
	b.Perishable = b.Perishable || x.Is(material.Perishable) && !a.Resolved.StrainsOut(x)
}

// dilute says how long a wet good keeps at its use strength, where that is
// thinner than the bottle: what kept the bottle is thinned too.
func (a *Assessment) dilute(bottle *keeping.Bottle) {
	if a.Solution == nil || a.Solution.Use.Neat || a.State != formula.WetState {
		return
	}
	share := a.Solution.Use.GramsPerLitre / 1000
	share /= 1 + share
	thin := *bottle
	thin.PH, thin.PHKnown = a.Solution.ClosedPH, a.Solution.PHKnown()
	thin.Fresh, thin.Aired = thin.PH, quantity.Range{}
	thin.Alcohol *= share
	thin.Soap *= share
	thin.Salt *= share
	thin.Chlorine *= share
	thin.WaterActivity = 1 - (1-thin.WaterActivity)*share
	thin.PreservedBase *= share
	thin.Ferment *= share
	thin.Ferments, thin.Infused = false, false
	thin.Preservatives = nil
	for _, l := range a.Resolved.Lines {
		if l.Material == nil {
			continue
		}
		for base, of := range l.Material.Bases() {
			if p, ok := keeping.Preserves(base, of*l.Share.Value*share, thin.Stands(), thin.PHKnown); ok {
				thin.Preservatives = append(thin.Preservatives, p)
			}
		}
	}
	a.DilutedDays = min(keeping.Classify(&thin).Days, a.Keeping.Days)
}

// boilingC is from how warm water scalds and softens pipes, as it is said.
const boilingC = 90

// drainWords are words in the name or the notes of a good for pipes.
var drainWords = []string{"drain", "unblock", "clogged", "plughole", "pipe"}

func (a *Assessment) mixture(bottle *keeping.Bottle) *safety.Mixture {
	f := a.Resolved.Formula
	info := f.Kind.Info()
	m := &safety.Mixture{
		Wet: bottle.Wet, Damp: a.State == formula.DampState, UsedOn: info.UsedOn, Sprayed: info.Is(formula.Sprayed), Ferments: info.Is(formula.Ferments),
		Keeps:             !bottle.Wet || a.Class.Days > keeping.WetMild.Days,
		Bottle:            a.BottlePH(),
		InUse:             a.UsePH(),
		Stands:            a.standsPH,
		Neat:              a.Solution != nil && a.Solution.Use.Neat,
		LyeHeatsK:         solution.LyeHeats(a.Resolved),
		MeasuredOtherwise: a.otherwise(),
		Screened:          a.screened(),
		Ingredients:       make([]safety.Ingredient, 0, len(a.Resolved.Lines)),
		Amounts:           a.amounts(),
	}
	m.Drain = info.Is(formula.OpensDrains)
	about := strings.ToLower(f.Name)
	for _, w := range drainWords {
		m.Drain = m.Drain || strings.Contains(about, w)
	}
	for _, p := range a.Preservatives {
		if !p.Works && bottle.Wet {
			m.Idle = append(m.Idle, safety.Idle{ID: p.ID, Name: p.Name, Why: p.Why})
		}
	}
	for i := range a.Resolved.Lines {
		l := &a.Resolved.Lines[i]
		if l.Material == nil {
			continue
		}
		m.Boiling = m.Boiling || l.Line.Celsius >= boilingC
		for base, share := range l.Material.Bases() {
			m.Ingredients = append(m.Ingredients, safety.Ingredient{Material: base, Share: share * l.Share.Value})
		}
	}
	return m
}
