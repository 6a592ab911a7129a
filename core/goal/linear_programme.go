package goal

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/optimize/convex/lp"

	"keencrock/core/chem"
	"keencrock/core/hazard"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/core/solution"
)

// row is a linear wish: Σ coef·x compared with rhs, x being shares of a kg.
type row struct {
	name  string
	coef  []float64
	sense int // −1 at most, 0 equal, +1 at least
	rhs   float64
}

type problem struct {
	wishes   Wishes
	use      solution.Use
	in       []Ingredient
	mixing   *solution.Mixing // of in
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
		parts, _, ok := solution.Contents(in.Material)
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
		add(fmt.Sprintf("alkalinity of at least %g g/l", w.AlkalinityGPerL), p.balance, 1, w.AlkalinityGPerL/(chem.GramsNa2O/2)/kgPerL)
	}
	if w.ChelatesMMolPerL > 0 {
		add(fmt.Sprintf("a chelant for %s mmol/l of hardness", quantity.FormatFigures(float64(w.ChelatesMMolPerL), 3)), p.chelant, 1, float64(w.ChelatesMMolPerL)/1000/kgPerL)
	}
	if w.GasMLPerKg > 0 {
		mol := w.GasMLPerKg / chem.GasMLPerMol
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
			add(fmt.Sprintf("only %s of %s on the shelf", quantity.FormatGrams(stock, 1), name), unit, -1, stock/w.TotalG)
		}
	}
	p.limitHazards(add)
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

// underLimit is how far under a limit a wished mixture stays.
const underLimit = 1 - 1e-4

// limitHazards keeps the mixture under the limits of the classes that are not wished.
func (p *problem) limitHazards(add func(name string, coef []float64, sense int, rhs float64)) {
	lib := p.wishes.Library
	if lib == nil {
		lib = material.Shipped()
	}
	limit := func(name string, codes ...string) {
		for _, l := range hazard.LimitsOf(codes...) {
			all := make([]float64, len(p.in))
			any := false
			for i, in := range p.in {
				w := l.Weight(in.Material, lib)
				any = any || w > 0
				if l.Single && w > 0 {
					one := make([]float64, len(p.in))
					one[i] = w
					add(name, one, -1, underLimit)
				}
				all[i] = w
			}
			if any && !l.Single {
				add(name, all, -1, underLimit)
			}
		}
	}
	if p.wishes.NoSignalWord {
		limit("no signal word", hazard.WithSignal()...)
	} else if p.wishes.NoEyeDamage {
		limit("no eye damage", "H314", "H318")
	}
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
	if p.wishes.KeepsDays > 0 {
		said = append(said, keepsName(p.wishes.KeepsDays))
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

// settled leaves out the equations that nothing stands in, which gonum refuses:
// they hold, or nothing can make them hold.
func settled(rows []row) ([]row, error) {
	var out []row
	for _, r := range rows {
		empty := r.sense == 0
		for _, v := range r.coef {
			empty = empty && v == 0
		}
		switch {
		case !empty:
			out = append(out, r)
		case math.Abs(r.rhs) > 1e-9:
			return nil, lp.ErrInfeasible
		}
	}
	return out, nil
}

// minimise is the simplex method; a test lets it fail.
var minimise = lp.Simplex

// simplex minimises c·x over rows, x not below zero. Rows may be shorter than
// c: what they lack is zero.
func simplex(c []float64, rows []row) ([]float64, error) {
	rows, err := settled(rows)
	if err != nil {
		return nil, err
	}
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
	_, x, err := minimise(cost, a, b, 1e-10, nil)
	if err != nil {
		return nil, err
	}
	out := make([]float64, len(c))
	for k, i := range columns {
		out[i] = x[k]
	}
	return out, nil
}
