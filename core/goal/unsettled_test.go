package goal

import (
	"errors"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/optimize/convex/lp"

	"keencrock/core/material"
	"keencrock/core/solution"
)

// Wishes contradict each other only where no mixture can fulfil them; a search
// that breaks down otherwise says so.
func TestABreakdownIsNoContradiction(t *testing.T) {
	var in []Ingredient
	for _, name := range []string{"washing soda", "borax"} {
		m, err := material.Shipped().Find(name)
		require.NoError(t, err)
		in = append(in, Ingredient{Material: m, NowG: 100})
	}
	wishes := Wishes{PHLow: 9, PHHigh: 10, TotalG: 200}
	use := solution.Use{GramsPerLitre: 5, Celsius: 25}
	defer func() { minimise = lp.Simplex }()
	for err, contradict := range map[error]bool{lp.ErrInfeasible: true, lp.ErrSingular: false, lp.ErrBland: false, lp.ErrUnbounded: false} {
		minimise = func([]float64, mat.Matrix, []float64, float64, []int) (float64, []float64, error) { return 0, nil, err }
		_, got := Propose(in, wishes, use)
		var c *Contradiction
		assert.Equal(t, contradict, errors.As(got, &c), "%v", err)
		assert.Equal(t, !contradict, errors.Is(got, ErrUnsettled), "%v", err)
	}
}
