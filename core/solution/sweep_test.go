package solution_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/formula"
	"keencrock/core/solution"
)

// A map says at every point what the assessment says there.
func TestAMapAgreesWithTheAssessment(t *testing.T) {
	const spoken = "100 g washing soda, 40 g citric acid, 60 g soap flakes"
	r := resolved(t, "laundry-powder", spoken)
	use := solution.Use{GramsPerLitre: 5, Celsius: 25, Hardness: hard}
	x, y := solution.Axis{Line: 0, FromG: 0, ToG: 200, Steps: 5}, solution.Axis{Line: 1, FromG: 0, ToG: 80, Steps: 3}
	for what, read := range map[solution.Reading]func(*solution.Result) float64{
		solution.GasMLPerKg: func(b *solution.Result) float64 { return b.Gas.MLPerKg().Value },
		solution.Alkalinity: func(b *solution.Result) float64 { return b.FreeAlkalinity.Value },
		solution.SoapLost:   func(b *solution.Result) float64 { return b.Hardness.SoapLost() },
	} {
		values, err := solution.Sweep(t.Context(), r, use, what, x, y)
		require.NoError(t, err)
		here, err := solution.Run(r, use)
		require.NoError(t, err)
		assert.InDelta(t, read(here), values[1][2]+0, 1e-6*(1+math.Abs(read(here))), "%s at 100 g and 40 g", what)
	}
	ph, err := solution.Sweep(t.Context(), r, use, solution.ClosedPH, x, y)
	require.NoError(t, err)
	for j := range ph {
		for i := 1; i < len(ph[j]); i++ {
			assert.Greater(t, ph[j][i], ph[j][i-1], "more soda, higher pH")
		}
	}
}

func TestMapsThatCannotBeAreRefused(t *testing.T) {
	r := resolved(t, "laundry-powder", "100 g washing soda, 40 g citric acid")
	use := solution.Use{GramsPerLitre: 5, Celsius: 25}
	good := solution.Axis{Line: 0, FromG: 0, ToG: 100, Steps: 3}
	for _, bad := range []solution.Axis{{Line: 9, ToG: 1, Steps: 3}, {Line: 1, FromG: 5, ToG: 5, Steps: 3}, {Line: 1, FromG: -5, ToG: 5, Steps: 3}, {Line: 1, ToG: 5, Steps: 1}, {Line: 1, ToG: 5, Steps: 10_000}, {Line: 0, ToG: 5, Steps: 3}} {
		_, err := solution.Sweep(t.Context(), r, use, solution.ClosedPH, good, bad)
		assert.Error(t, err, "%+v", bad)
	}
	_, err := solution.Sweep(t.Context(), r, use, "flavour", good, solution.Axis{Line: 1, ToG: 5, Steps: 3})
	assert.ErrorContains(t, err, "no reading")
}

func sweep(t testing.TB, r *formula.Resolved, what solution.Reading) {
	_, err := solution.Sweep(t.Context(), r, solution.Use{GramsPerLitre: 5, Hardness: hard, Celsius: 25}, what,
		solution.Axis{Line: 1, FromG: 10, ToG: 500, Steps: 200}, solution.Axis{Line: 4, FromG: 0, ToG: 300, Steps: 200})
	require.NoError(t, err)
}

// A map of 200 by 200 is to take less than two seconds on two cores, whatever it
// shows, in hard water.
func BenchmarkMap200By200(b *testing.B) {
	r := resolved(b, "laundry-powder", twelve)
	for _, what := range []solution.Reading{solution.ClosedPH, solution.VentedPH, solution.SoapLost} {
		b.Run(string(what), func(b *testing.B) {
			for b.Loop() {
				sweep(b, r, what)
			}
		})
	}
}
