package goal

import (
	"errors"
	"fmt"
	"math"

	"gonum.org/v1/gonum/optimize/convex/lp"
)

func (p *problem) inBand(ph float64) bool { return ph >= p.wishes.PHLow && ph <= p.wishes.PHHigh }

// outOfReach is the error when no balance gives the pH: those seen go from Low
// to High.
type outOfReach struct{ Low, High float64 }

func (e *outOfReach) Error() string {
	return fmt.Sprintf("the pH goes from %.1f to %.1f only", e.Low, e.High)
}

// toPH moves the balance of alkali and acid until the pH lies in the band,
// beginning with the formula that needs no move. It looks at balances on both
// sides, the nearest first, and halves between two that lie on either side of
// the band.
func (p *problem) toPH(x []float64, rows []row) ([]float64, error) {
	n := len(p.in)
	here, err := p.mixing.ClosedPH(x)
	switch {
	case err != nil:
		return nil, err
	case p.inBand(here):
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
		ph, err := p.mixing.ClosedPH(x)
		return x, ph, err
	}
	const samples = 18
	unmoved := dot(p.balance, x)
	var best []float64
	nearest := math.Inf(1)
	keep := func(x []float64, balance, ph float64) {
		if d := math.Abs(balance - unmoved); p.inBand(ph) && d < nearest {
			best, nearest = x, d
		}
	}
	reach := &outOfReach{here, here}
	var broken error // what kept a balance from being looked at, other than that there is none
	var lastBalance, lastPH float64
	for i := 0; i <= samples; i++ {
		// just inside the edges, where rounding cannot make it infeasible
		balance := low + (high-low)*(1e-6+(1-2e-6)*float64(i)/samples)
		x, ph, err := at(balance)
		if err != nil {
			if !errors.Is(err, lp.ErrInfeasible) {
				broken = err
			}
			continue
		}
		keep(x, balance, ph)
		reach.Low, reach.High = min(reach.Low, ph), max(reach.High, ph)
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
	switch {
	case best != nil:
		return best, nil
	case broken != nil:
		return nil, broken
	}
	return nil, reach
}

func dot(a, b []float64) float64 {
	sum := 0.0
	for i := range a {
		sum += a[i] * b[i]
	}
	return sum
}
