package solution

import (
	"context"
	"errors"
	"fmt"
	"math"
	"runtime"
	"runtime/debug"
	"sync"

	"keencrock/core/chem"
	"keencrock/core/formula"
	"keencrock/core/quantity"
)

// Reading is one number of a result, for a map of it.
type Reading string

// The readings a map can show.
const (
	ClosedPH        Reading = "closed-ph"
	VentedPH        Reading = "vented-ph"
	ProtonatedShare Reading = "curdled" // by the good, of the soap the water leaves
	GasMLPerKg      Reading = "gas"
	Alkalinity      Reading = "alkalinity"
	HardnessLeft    Reading = "hardness-left"
	SoapLost        Reading = "soap-lost"
)

// Readings lists them, in the order they are offered.
var Readings = []Reading{ClosedPH, VentedPH, ProtonatedShare, GasMLPerKg, Alkalinity, HardnessLeft, SoapLost}

// Axis is one amount that is swept: a line of the formula, from so many grams
// to so many, in so many steps, both ends included.
type Axis struct {
	Line       int
	FromG, ToG float64
	Steps      int
}

func (a Axis) at(i int) float64 {
	return a.FromG + (a.ToG-a.FromG)*float64(i)/float64(a.Steps-1)
}

// MaxSteps is the finest map made.
const MaxSteps = 400

func (a Axis) check(r *formula.Resolved) error {
	switch {
	case a.Line < 0 || a.Line >= len(r.Lines) || r.Lines[a.Line].Material == nil:
		return fmt.Errorf("the formula has no line %d to sweep", a.Line+1)
	case !(a.FromG >= 0 && a.ToG > a.FromG && a.ToG <= 1e7):
		return fmt.Errorf("sweep from some grams to more, not from %g to %g", a.FromG, a.ToG)
	case a.Steps < 2 || a.Steps > MaxSteps:
		return fmt.Errorf("sweep in 2 to %d steps, not %d", MaxSteps, a.Steps)
	}
	return nil
}

// Sweep returns a reading over two amounts: values[j][i] at the i-th of x and
// the j-th of y, everything else as likely. The strength of use stays; what is
// used more of one is used less of the rest. Cells that cannot be worked out
// are NaN. Rows are worked out side by side on all cores, until the context ends:
// the error is then the context's. A panic in a row is an error too.
func Sweep(ctx context.Context, r *formula.Resolved, use Use, what Reading, x, y Axis) (values [][]float64, err error) {
	if err := use.Check(); err != nil {
		return nil, err
	}
	if err := x.check(r); err != nil {
		return nil, err
	}
	if err := y.check(r); err != nil {
		return nil, err
	}
	if x.Line == y.Line {
		return nil, fmt.Errorf("sweep two lines, not one twice")
	}
	known := false
	for _, k := range Readings {
		known = known || k == what
	}
	if !known {
		return nil, fmt.Errorf("there is no reading %q", what)
	}
	values = make([][]float64, y.Steps)
	err = sideBySide(ctx, y.Steps, func(ctx context.Context) func(int) {
		b := sweeper(r, use)
		return func(j int) { values[j] = b.row(ctx, what, x, y, j) }
	})
	if err != nil {
		return nil, err
	}
	return values, nil
}

// ErrFailed is a working-out that broke down; it is wrapped.
var ErrFailed = errors.New("the working-out broke down")

// sideBySide does n things on all cores, each with a worker's own work, until
// the context ends. The error is the context's, or ErrFailed after a panic.
func sideBySide(ctx context.Context, n int, worker func(context.Context) func(i int)) error {
	ctx, fail := context.WithCancelCause(ctx)
	defer fail(nil)
	next := make(chan int)
	var all sync.WaitGroup
	for range runtime.GOMAXPROCS(0) {
		all.Go(func() {
			defer func() {
				if p := recover(); p != nil {
					fail(fmt.Errorf("%w: %v\n%s", ErrFailed, p, debug.Stack()))
				}
			}()
			work := worker(ctx)
			for i := range next {
				work(i)
			}
		})
	}
	for i := 0; i < n && ctx.Err() == nil; i++ {
		select {
		case next <- i:
		case <-ctx.Done():
		}
	}
	close(next)
	all.Wait()
	return context.Cause(ctx)
}

// row works out a row of a map, as far as the context lets it.
func (b *runner) row(ctx context.Context, what Reading, x, y Axis, j int) []float64 {
	masses := make([]float64, len(b.lines))
	for i := range b.lines {
		masses[i] = b.lines[i].massG.Value
	}
	masses[y.Line] = y.at(j)
	row := make([]float64, x.Steps)
	for i := range row {
		if ctx.Err() != nil {
			break
		}
		masses[x.Line] = x.at(i)
		row[i] = b.reading(what, masses)
	}
	return row
}

// sweeper is a runner with a line for every line of the formula, those without
// mass too, so that they can be swept.
func sweeper(r *formula.Resolved, use Use) *runner {
	b := &runner{r: r, use: use, lines: make([]line, len(r.Lines)), keepsChalk: true}
	for i := range r.Lines {
		if m := r.Lines[i].Material; m != nil {
			b.lines[i], _ = newLine(m, quantity.Exactly(r.Lines[i].MassG.Value))
		}
	}
	return b
}

// reading works out one number at some masses; NaN when it cannot.
func (b *runner) reading(what Reading, masses []float64) float64 {
	total := 0.0
	for _, g := range masses {
		total += g
	}
	if total <= 0 {
		return math.NaN()
	}
	mass := weighing(masses)
	switch what {
	case GasMLPerKg:
		return b.sidesAt(mass).made() * chem.GasMLPerMol / (total / 1000)
	case Alkalinity:
		return b.alkalinityAt(mass)
	}
	product := b.solution(mass)
	s := plus(product, b.hardWater())
	if what == HardnessLeft || what == SoapLost {
		h, err := b.hardness(&s, &product)
		switch {
		case err != nil:
			return math.NaN()
		case what == HardnessLeft:
			return h.Left
		}
		return h.SoapLost()
	}
	vented := 0.0
	if what == VentedPH {
		vented = 1
	}
	e, err := b.roughly(soft(s), forRanges, vented)
	if err != nil {
		return math.NaN()
	}
	b.near = e.PH
	if what == ProtonatedShare {
		return b.byGood(e.Protonated, s.Acids[chem.Soap])
	}
	return e.PH
}

// byGood is the share of the soap that the good turns, of what the water
// leaves; NaN when it cannot be worked out, 0 without soap.
func (b *runner) byGood(protonated, soap float64) float64 {
	if soap == 0 {
		return 0
	}
	alone, err := b.roughly(soft(b.soapAlone(soap)), forRanges, 0)
	if err != nil {
		return math.NaN()
	}
	return ofTheRest(protonated, alone.Protonated)
}
