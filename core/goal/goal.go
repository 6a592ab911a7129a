// Package goal proposes a formula for wanted readings.
//
// Parts that are linear in the masses (alkalinity, chelant, gas, cost, bounds)
// make a linear programme, solved by gonum's simplex; among formulas that
// satisfy them, the one nearest to the present formula is taken, cheaper ones
// first. The pH is not linear: the programme is solved at many balances of
// alkali against acid, and the balance whose pH lies in the band is looked for.
package goal

import (
	"errors"
	"fmt"
	"math"

	"gonum.org/v1/gonum/optimize/convex/lp"

	"keencrock/core/formula"
	"keencrock/core/keeping"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/core/solution"
)

// Wishes are what is wanted. Zero values wish nothing.
type Wishes struct {
	PHLow, PHHigh    float64           // closed, as it is used, in its water; both zero for any
	AlkalinityGPerL  float64           // at least, as Na2O, not spent by acid
	ChelatesMMolPerL quantity.Hardness // a chelant for each calcium of this hardness
	GasMLPerKg       float64           // at least
	CostPerKg        float64           // at most
	BoraxFree        bool
	NoEyeDamage      bool              // no statement of serious eye damage by the screen of package hazard
	NoSignalWord     bool              // none of a class that brings one
	KeepsDays        int               // at least, as a powder
	Library          *material.Library // for the hazard wishes; nil for the shipped one
	TotalG           float64           // how much is made
	Bounds           []Bound
	StockG           map[string]float64 // only from this shelf, in grams by material; nil for any
}

// Bound keeps a material between so many grams of the total.
type Bound struct {
	Material   string
	MinG, MaxG float64 // MaxG 0 for no upper bound
}

// Ingredient is a material that may be used.
type Ingredient struct {
	Material  *material.Material
	NowG      float64 // in the present formula
	CostPerKg float64 // 0 when not known
}

// Proposal is a formula that fulfils the wishes.
type Proposal struct {
	Lines     []Line
	Result    *solution.Result
	CostPerKg float64  // of the materials whose price is known
	Binding   []string // wishes that hold the formula where it is
	Costs     []WishCost
}

// WishCost is what a wish costs: how much less a kilogram would be without it, of the
// materials whose price is known.
type WishCost struct {
	Wish  string
	PerKg float64
}

// Line is one material of a proposal.
type Line struct {
	Material *material.Material
	Grams    float64
}

// ErrUnsettled is wrapped by errors that say nothing of the wishes: the search
// broke down on the way.
var ErrUnsettled = errors.New("no answer was found, and it is not the wishes: the reckoning did not settle; change an amount a little and ask again")

// ErrWishes is wrapped by errors about a wish that makes no sense by itself.
var ErrWishes = errors.New("that wish cannot be")

// maxIngredients bounds the programme.
const maxIngredients = 30

// Propose finds a formula of the ingredients for the wishes. The error is a
// [*Contradiction], or wraps ErrWishes or ErrUnsettled.
func Propose(ingredients []Ingredient, w Wishes, use solution.Use) (*Proposal, error) {
	if err := w.check(ingredients); err != nil {
		return nil, err
	}
	if err := use.Check(); err != nil {
		return nil, fmt.Errorf("%w: %w", ErrWishes, err)
	}
	if use.Neat {
		return nil, fmt.Errorf("%w: say a strength of use, such as 5 g/l", ErrWishes)
	}
	drop, err := shortLived(ingredients, w)
	if err != nil {
		return nil, err
	}
	var first error
	for _, out := range drop {
		proposal, err := propose(ingredients, w, use, out)
		if err == nil {
			return proposal, nil
		}
		if first == nil {
			first = err
		}
	}
	return nil, first
}

// shortLived says which materials have to be left out for a good to keep as long as is
// wished: several ways, the one that takes the least away first.
func shortLived(ingredients []Ingredient, w Wishes) ([]func(*material.Material) bool, error) {
	none := func(*material.Material) bool { return false }
	if w.KeepsDays == 0 {
		return []func(*material.Material) bool{none}, nil
	}
	if w.KeepsDays > keeping.Dry.Days {
		return nil, &Contradiction{[]string{keepsName(w.KeepsDays), fmt.Sprintf("a powder, which keeps about %d days airtight", keeping.Dry.Days)}}
	}
	short := func(m *material.Material) bool {
		return m.Keeps.SealedDays < w.KeepsDays || m.Is(material.Peroxide) && keeping.DryBleach.Days < w.KeepsDays
	}
	var acidG, sodaG float64
	acid, soda := false, false
	for _, in := range ingredients {
		if in.Material.ID == "water" {
			return nil, fmt.Errorf("%w: how long it keeps can be wished of a powder", ErrWishes)
		}
		if in.Material.Is(material.Acid) && in.Material.Is(material.Dry) {
			acid, acidG = true, acidG+in.NowG
		}
		if in.Material.Is(material.Carbonate) {
			soda, sodaG = true, sodaG+in.NowG
		}
	}
	if !acid || !soda || keeping.Effervescent.Days >= w.KeepsDays {
		return []func(*material.Material) bool{short}, nil
	}
	noAcid := func(m *material.Material) bool { return short(m) || m.Is(material.Acid) && m.Is(material.Dry) }
	noSoda := func(m *material.Material) bool { return short(m) || m.Is(material.Carbonate) }
	if acidG > sodaG {
		return []func(*material.Material) bool{noSoda, noAcid}, nil
	}
	return []func(*material.Material) bool{noAcid, noSoda}, nil
}

func keepsName(days int) string { return fmt.Sprintf("keeps at least %d days", days) }

func propose(ingredients []Ingredient, w Wishes, use solution.Use, out func(*material.Material) bool) (*Proposal, error) {
	p := &problem{wishes: w, use: use}
	for _, in := range ingredients {
		p.presentG += in.NowG
		if out(in.Material) || w.BoraxFree && in.Material.Is(material.Borate) || w.StockG != nil && w.StockG[in.Material.ID] <= 0 && in.Material.ID != "water" {
			continue
		}
		p.in = append(p.in, in)
	}
	if len(p.in) == 0 {
		return nil, &Contradiction{[]string{p.exclusions()}}
	}
	materials := make([]*material.Material, len(p.in))
	for i := range p.in {
		materials[i] = p.in[i].Material
	}
	p.mixing = solution.NewMixing(materials, use)
	if err := p.build(); err != nil {
		return nil, err
	}
	x, err := p.solve(p.rows)
	switch {
	case errors.Is(err, lp.ErrInfeasible):
		return nil, p.explain()
	case err != nil:
		return nil, fmt.Errorf("%w: %w", ErrUnsettled, err)
	}
	if w.PHHigh > 0 {
		x, err = p.toPH(x, p.rows)
		reach, short := errors.AsType[*outOfReach](err)
		switch {
		case short:
			return nil, p.explainPH(reach)
		case err != nil:
			return nil, fmt.Errorf("%w: %w", ErrUnsettled, err)
		}
	}
	proposal, err := p.proposal(x)
	if err == nil {
		proposal.Costs = p.costs(proposal)
	}
	return proposal, err
}

// costs are what the wishes that hold a proposal where it is cost.
func (p *problem) costs(with *Proposal) (out []WishCost) {
	const worthTelling = 0.005 // of a unit of money
	if with.CostPerKg == 0 {
		return nil
	}
	for _, name := range with.Binding {
		rows := p.without(name)
		x, err := p.solve(rows)
		if err == nil && p.wishes.PHHigh > 0 && name != p.phName() {
			x, err = p.toPH(x, rows)
		}
		if err != nil {
			continue
		}
		cost := 0.0
		for i, in := range p.in {
			cost += x[i] * in.CostPerKg
		}
		if more := with.CostPerKg - cost; more > worthTelling {
			out = append(out, WishCost{name, more})
		}
	}
	return out
}

func (p *problem) phName() string {
	return fmt.Sprintf("a pH of %g to %g", p.wishes.PHLow, p.wishes.PHHigh)
}

func (w *Wishes) check(ingredients []Ingredient) error {
	bad := func(text string, args ...any) error {
		return fmt.Errorf("%w: "+text, append([]any{ErrWishes}, args...)...)
	}
	numbers := []float64{w.PHLow, w.PHHigh, w.AlkalinityGPerL, float64(w.ChelatesMMolPerL), w.GasMLPerKg, w.CostPerKg, w.TotalG}
	for _, b := range w.Bounds {
		numbers = append(numbers, b.MinG, b.MaxG)
		if b.MaxG > 0 && b.MaxG < b.MinG {
			return bad("%s is bound to at least %g g and at most %g g", b.Material, b.MinG, b.MaxG)
		}
	}
	for _, n := range numbers {
		if n < 0 || math.IsNaN(n) || math.IsInf(n, 0) {
			return bad("amounts are finite and not below zero")
		}
	}
	switch {
	case w.PHHigh > 0 && w.PHLow > w.PHHigh, w.PHHigh > 14, w.PHLow > 0 && w.PHHigh == 0:
		return bad("a pH band goes from the lower to the higher, up to 14, not from %g to %g", w.PHLow, w.PHHigh)
	case w.TotalG == 0:
		return bad("say how much is to be made")
	case len(ingredients) == 0:
		return bad("name at least one material")
	case len(ingredients) > maxIngredients:
		return bad("at most %d materials are weighed against each other", maxIngredients)
	}
	return nil
}

// bindShare is how near a wish has to be to its limit to bind.
const bindShare = 1e-4

// least is the share below which a line is left out.
const least = 1e-6

func (p *problem) proposal(x []float64) (*Proposal, error) {
	out := &Proposal{}
	r := &formula.Resolved{Formula: &formula.Formula{}}
	for i, in := range p.in {
		if x[i] < least {
			continue
		}
		g := x[i] * p.wishes.TotalG
		out.Lines = append(out.Lines, Line{in.Material, g})
		out.CostPerKg += x[i] * in.CostPerKg
		r.Lines = append(r.Lines, formula.ResolvedLine{Material: in.Material, MassG: quantity.Exactly(g), Share: quantity.Exactly(x[i])})
		r.TotalG = r.TotalG.Add(quantity.Exactly(g))
	}
	seen := map[string]bool{"": true}
	for _, row := range p.rows {
		if is := dot(row.coef, x); !seen[row.name] && math.Abs(is-row.rhs) <= bindShare*math.Max(math.Abs(row.rhs), 1e-9) {
			out.Binding = append(out.Binding, row.name)
			seen[row.name] = true
		}
	}
	var err error
	if out.Result, err = solution.Run(r, p.use); err != nil {
		return nil, err
	}
	if ph := out.Result.ClosedPH.Value; p.wishes.PHHigh > 0 && (ph-p.wishes.PHLow < 0.02 || p.wishes.PHHigh-ph < 0.02) {
		out.Binding = append(out.Binding, p.phName())
	}
	return out, nil
}
