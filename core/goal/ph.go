package goal

import (
	"errors"
	"math"

	"keencrock/core/bath"
	"keencrock/core/chem"
)

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
