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
	"slices"
	"strings"

	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/optimize/convex/lp"

	"keencrock/core/bath"
	"keencrock/core/chem"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

// Wishes are what is wanted. Zero values wish nothing.
type Wishes struct {
	PHLow, PHHigh    float64           // closed, at the strength of use; both zero for any
	AlkalinityGPerL  float64           // at least, as Na2O, not spent by acid
	ChelatesMMolPerL quantity.Hardness // a chelant for each calcium of this hardness
	GasMLPerKg       float64           // at least
	CostPerKg        float64           // at most
	BoraxFree        bool
	TotalG           float64 // how much is made
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
	Result    *bath.Result
	CostPerKg float64  // of the materials whose price is known
	Binding   []string // wishes that hold the formula where it is
}

// Line is one material of a proposal.
type Line struct {
	Material *material.Material
	Grams    float64
}

// Contradiction is the error when no formula fulfils all wishes: leaving out
// any one of those named would make one possible.
type Contradiction struct{ Wishes []string }

func (c *Contradiction) Error() string {
	if len(c.Wishes) == 0 {
		return "no mixture of these materials does all of this: allow more materials, or wish for less"
	}
	return "these wishes contradict each other: " + strings.Join(c.Wishes, "; ")
}

// ErrWishes is wrapped by errors about a wish that makes no sense by itself.
var ErrWishes = errors.New("that wish cannot be")

// row is a linear wish: Σ coef·x compared with rhs, x being shares of a kg.
type row struct {
	name  string
	coef  []float64
	sense int // −1 at most, 0 equal, +1 at least
	rhs   float64
}

// maxIngredients bounds the programme.
const maxIngredients = 30

// Propose finds a formula of the ingredients for the wishes. The error is a
// [*Contradiction], or wraps ErrWishes.
func Propose(ingredients []Ingredient, w Wishes, use bath.Use) (*Proposal, error) {
	if err := w.check(ingredients); err != nil {
		return nil, err
	}
	if err := use.Check(); err != nil {
		return nil, fmt.Errorf("%w: %w", ErrWishes, err)
	}
	if use.Neat {
		return nil, fmt.Errorf("%w: say a strength of use, such as 5 g/l", ErrWishes)
	}
	p := &problem{wishes: w, use: use}
	for _, in := range ingredients {
		p.presentG += in.NowG
		if w.BoraxFree && in.Material.Is(material.Borate) || w.StockG != nil && w.StockG[in.Material.ID] <= 0 && in.Material.ID != "water" {
			continue
		}
		p.in = append(p.in, in)
	}
	if len(p.in) == 0 {
		return nil, &Contradiction{[]string{p.exclusions()}}
	}
	if err := p.build(); err != nil {
		return nil, err
	}
	x, err := p.solve(p.rows)
	if err != nil {
		return nil, p.explain()
	}
	if w.PHHigh > 0 {
		if x, err = p.toPH(x, p.rows); err != nil {
			return nil, p.explainPH()
		}
	}
	return p.proposal(x)
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

type problem struct {
	wishes   Wishes
	use      bath.Use
	in       []Ingredient
	rows     []row
	presentG float64 // of the present formula, what must not be used too
	// what a kg of each ingredient brings
	balance, chelant, acid, first, gas []float64
}

// build writes the linear wishes down.
func (p *problem) build() error {
	n := len(p.in)
	w := p.wishes
	p.balance, p.chelant, p.acid, p.first, p.gas = make([]float64, n), make([]float64, n), make([]float64, n), make([]float64, n), make([]float64, n)
	cost, ones := make([]float64, n), make([]float64, n)
	for i, in := range p.in {
		parts, _, ok := bath.Contents(in.Material)
		if !ok {
			return fmt.Errorf("%w: what %s is made of is not known, so nothing can be worked out with it", ErrWishes, in.Material.Name)
		}
		for _, part := range parts {
			mol := part.MolPerG.Value * 1000
			c := part.Compound
			p.balance[i] += mol * (c.AlkaliEq - c.AcidEq)
			p.acid[i] += mol * c.AcidEq
			p.gas[i] += mol * (c.CarbonateMol + c.BicarbonateMol)
			p.first[i] += mol * (c.AlkaliEq - c.CarbonateMol - c.BicarbonateMol)
			switch c.ID {
			case "citric-acid", "trisodium-citrate", "edta", "disodium-edta":
				p.chelant[i] += mol
			}
		}
		cost[i], ones[i] = in.CostPerKg, 1
	}
	p.rows = []row{{"", ones, 0, 1}}
	add := func(name string, coef []float64, sense int, rhs float64) {
		p.rows = append(p.rows, row{name, coef, sense, rhs})
	}
	kgPerL := p.use.GramsPerLitre / 1000
	if w.AlkalinityGPerL > 0 {
		const gramsNa2O = 61.979 / 2
		add(fmt.Sprintf("alkalinity of at least %g g/l", w.AlkalinityGPerL), p.balance, 1, w.AlkalinityGPerL/gramsNa2O/kgPerL)
	}
	if w.ChelatesMMolPerL > 0 {
		add(fmt.Sprintf("a chelant for %.3g mmol/l of hardness", float64(w.ChelatesMMolPerL)), p.chelant, 1, float64(w.ChelatesMMolPerL)/1000/kgPerL)
	}
	if w.GasMLPerKg > 0 {
		mol := w.GasMLPerKg / 24465
		name := fmt.Sprintf("gas of at least %g ml a kg", w.GasMLPerKg)
		left := make([]float64, n) // acid beyond what stronger alkali takes
		for i := range left {
			left[i] = p.acid[i] - p.first[i]
		}
		add(name, left, 1, mol)
		add(name, p.gas, 1, mol)
	}
	if w.CostPerKg > 0 {
		add(fmt.Sprintf("a cost of at most %g a kg", w.CostPerKg), cost, -1, w.CostPerKg)
	}
	for i, in := range p.in {
		unit := make([]float64, n)
		unit[i] = 1
		name := material.InSentence(in.Material.Name)
		for _, b := range w.Bounds {
			if b.Material != in.Material.ID {
				continue
			}
			if b.MinG > 0 {
				add(fmt.Sprintf("at least %g g of %s", b.MinG, name), unit, 1, b.MinG/w.TotalG)
			}
			if b.MaxG > 0 {
				add(fmt.Sprintf("at most %g g of %s", b.MaxG, name), unit, -1, b.MaxG/w.TotalG)
			}
		}
		if stock, limited := w.StockG[in.Material.ID]; limited && stock < w.TotalG {
			add(fmt.Sprintf("only %s of %s on the shelf", formula.Grams(stock, 1), name), unit, -1, stock/w.TotalG)
		}
	}
	p.keepActives(add)
	for _, b := range w.Bounds {
		there := b.MinG == 0
		for _, in := range p.in {
			there = there || in.Material.ID == b.Material
		}
		if !there {
			return &Contradiction{[]string{fmt.Sprintf("at least %g g of %s", b.MinG, b.Material), p.exclusions()}}
		}
	}
	return nil
}

// actives are what a formula is made for: a goal of alkali or pH must not be
// reached by leaving them out.
var actives = []string{"soap", "surfactant", "bleach", "thickener", "preservative", "scent", "abrasive"}

// keepActives keeps at least half of each active there is now, unless a bound
// says otherwise.
func (p *problem) keepActives(add func(name string, coef []float64, sense int, rhs float64)) {
	bound := map[string]bool{}
	for _, b := range p.wishes.Bounds {
		bound[b.Material] = true
	}
	for i, in := range p.in {
		if in.NowG == 0 || bound[in.Material.ID] || !slices.Contains(actives, in.Material.Functions[0]) {
			continue
		}
		unit := make([]float64, len(p.in))
		unit[i] = 1
		add("at least half of the "+material.InSentence(in.Material.Name)+" there is now", unit, 1, in.NowG/p.presentG/2)
	}
}

func (p *problem) exclusions() string {
	var said []string
	if p.wishes.BoraxFree {
		said = append(said, "no borax")
	}
	if p.wishes.StockG != nil {
		said = append(said, "only what is on the shelf")
	}
	return strings.Join(said, " and ")
}

// costWeight makes the cheaper of two formulas equally near the better.
const costWeight = 1e-3

// newShare is what a material that is not there yet counts as.
const newShare = 0.1

// solve returns the shares nearest to the present formula that fulfil the
// rows.
func (p *problem) solve(rows []row) ([]float64, error) {
	n := len(p.in)
	present := 0.0
	for _, in := range p.in {
		present += in.NowG
	}
	objective := make([]float64, 3*n) // shares, then how far above and below the present ones
	var more []row
	for i, in := range p.in {
		objective[i] = costWeight * in.CostPerKg
		if present == 0 {
			continue
		}
		// a change counts as a share of what is there: a small line is not the
		// first to go
		weight := 1 / max(in.NowG/present, newShare)
		objective[n+i], objective[2*n+i] = weight, weight
		coef := make([]float64, 3*n)
		coef[i], coef[n+i], coef[2*n+i] = 1, -1, 1
		more = append(more, row{"", coef, 0, in.NowG / present})
	}
	x, err := simplex(objective, append(more, rows...))
	if err != nil {
		return nil, err
	}
	return x[:n], nil
}

// simplex minimises c·x over rows, x not below zero. Rows may be shorter than
// c: what they lack is zero.
func simplex(c []float64, rows []row) ([]float64, error) {
	used := make([]bool, len(c))
	for _, r := range rows {
		for i, v := range r.coef {
			used[i] = used[i] || v != 0
		}
	}
	var columns []int // gonum refuses variables that stand in no row
	for i := range c {
		if used[i] {
			columns = append(columns, i)
		}
	}
	slacks := 0
	for _, r := range rows {
		if r.sense != 0 {
			slacks++
		}
	}
	a := mat.NewDense(len(rows), len(columns)+slacks, nil)
	b := make([]float64, len(rows))
	cost := make([]float64, len(columns)+slacks)
	for k, i := range columns {
		cost[k] = c[i]
	}
	slack := len(columns)
	for j, r := range rows {
		// each row to a size near one, so that one tolerance serves all
		size := 1e-12
		for _, v := range r.coef {
			size = max(size, math.Abs(v))
		}
		for k, i := range columns {
			if i < len(r.coef) {
				a.Set(j, k, r.coef[i]/size)
			}
		}
		b[j] = r.rhs / size
		if r.sense != 0 {
			a.Set(j, slack, -float64(r.sense))
			slack++
		}
	}
	_, x, err := lp.Simplex(cost, a, b, 1e-10, nil)
	if err != nil {
		return nil, err
	}
	out := make([]float64, len(c))
	for k, i := range columns {
		out[i] = x[k]
	}
	return out, nil
}

// ph is that of shares at the strength of use.
func (p *problem) ph(x []float64) (float64, error) {
	var s chem.Solution
	for i, in := range p.in {
		parts, _, _ := bath.Contents(in.Material)
		for _, part := range parts {
			s.Add(part.Compound, x[i]*p.use.GramsPerLitre*part.MolPerG.Value)
		}
	}
	e, err := chem.Solve(&s, chem.Conditions{Celsius: p.use.Celsius})
	return e.PH, err
}

func (p *problem) inBand(ph float64) bool { return ph >= p.wishes.PHLow && ph <= p.wishes.PHHigh }

var errNoPH = errors.New("no balance gives that pH")

// toPH moves the balance of alkali and acid until the pH lies in the band,
// beginning with the formula that needs no move. It looks at balances on both
// sides, the nearest first, and halves between two that lie on either side of
// the band.
func (p *problem) toPH(x []float64, rows []row) ([]float64, error) {
	n := len(p.in)
	if ph, err := p.ph(x); err == nil && p.inBand(ph) {
		return x, nil
	}
	edge := func(sign float64) (float64, error) {
		c := make([]float64, n)
		for i := range c {
			c[i] = sign * p.balance[i]
		}
		x, err := simplex(c, rows)
		if err != nil {
			return 0, err
		}
		return dot(p.balance, x), nil
	}
	low, err := edge(1)
	if err != nil {
		return nil, err
	}
	high, err := edge(-1)
	if err != nil {
		return nil, err
	}
	at := func(balance float64) ([]float64, float64, error) {
		x, err := p.solve(append(append([]row(nil), rows...), row{"", p.balance, 0, balance}))
		if err != nil {
			return nil, 0, err
		}
		ph, err := p.ph(x)
		return x, ph, err
	}
	const samples = 18
	here := dot(p.balance, x)
	var best []float64
	nearest := math.Inf(1)
	keep := func(x []float64, balance, ph float64) {
		if d := math.Abs(balance - here); p.inBand(ph) && d < nearest {
			best, nearest = x, d
		}
	}
	var lastBalance, lastPH float64
	for i := 0; i <= samples; i++ {
		// just inside the edges, where rounding cannot make it infeasible
		balance := low + (high-low)*(1e-6+(1-2e-6)*float64(i)/samples)
		x, ph, err := at(balance)
		if err != nil {
			continue
		}
		keep(x, balance, ph)
		if i > 0 && (lastPH < p.wishes.PHLow) != (ph < p.wishes.PHLow) || i > 0 && (lastPH > p.wishes.PHHigh) != (ph > p.wishes.PHHigh) {
			a, b := lastBalance, balance
			rising := ph > lastPH
			for range 14 {
				m := (a + b) / 2
				x, between, err := at(m)
				if err != nil {
					break
				}
				keep(x, m, between)
				target := (p.wishes.PHLow + p.wishes.PHHigh) / 2
				if (between < target) == rising {
					a = m
				} else {
					b = m
				}
			}
		}
		lastBalance, lastPH = balance, ph
	}
	if best == nil {
		return nil, errNoPH
	}
	return best, nil
}

func dot(a, b []float64) float64 {
	sum := 0.0
	for i := range a {
		sum += a[i] * b[i]
	}
	return sum
}

// explain names the wishes of which any one has to go.
func (p *problem) explain() error {
	c := &Contradiction{}
	for _, name := range p.names() {
		if _, err := p.solve(p.without(name)); err == nil {
			c.Wishes = append(c.Wishes, name)
		}
	}
	return c
}

// explainPH names the band, and the wishes without which it could be reached.
func (p *problem) explainPH() error {
	c := &Contradiction{Wishes: []string{fmt.Sprintf("a pH of %g to %g", p.wishes.PHLow, p.wishes.PHHigh)}}
	for _, name := range p.names() {
		rows := p.without(name)
		if x, err := p.solve(rows); err == nil {
			if _, err := p.toPH(x, rows); err == nil {
				c.Wishes = append(c.Wishes, name)
			}
		}
	}
	if len(c.Wishes) == 1 {
		c.Wishes = append(c.Wishes, "these materials alone, which cannot reach it")
	}
	return c
}

func (p *problem) names() (names []string) {
	seen := map[string]bool{"": true}
	for _, r := range p.rows {
		if !seen[r.name] {
			seen[r.name] = true
			names = append(names, r.name)
		}
	}
	return names
}

func (p *problem) without(name string) (rows []row) {
	for _, r := range p.rows {
		if r.name != name {
			rows = append(rows, r)
		}
	}
	return rows
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
	if out.Result, err = bath.Run(r, p.use); err != nil {
		return nil, err
	}
	if ph := out.Result.ClosedPH.Value; p.wishes.PHHigh > 0 && p.use.Hardness == 0 && (ph-p.wishes.PHLow < 0.02 || p.wishes.PHHigh-ph < 0.02) {
		out.Binding = append(out.Binding, fmt.Sprintf("a pH of %g to %g", p.wishes.PHLow, p.wishes.PHHigh))
	}
	return out, nil
}
