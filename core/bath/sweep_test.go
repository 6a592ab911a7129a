package bath_test

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/bath"
	"keencrock/core/formula"
)

// A map says at every point what the assessment says there.
func TestAMapAgreesWithTheAssessment(t *testing.T) {
	const spoken = "100 g washing soda, 40 g citric acid, 60 g soap flakes"
	r := resolved(t, "laundry-powder", spoken)
	use := bath.Use{GramsPerLitre: 5, Celsius: 25, Hardness: hard}
	x, y := bath.Axis{Line: 0, FromG: 0, ToG: 200, Steps: 5}, bath.Axis{Line: 1, FromG: 0, ToG: 80, Steps: 3}
	for what, read := range map[bath.Reading]func(*bath.Result) float64{
		bath.GasMLPerKg: func(b *bath.Result) float64 { return b.Gas.MLPerKg().Value },
		bath.Alkalinity: func(b *bath.Result) float64 { return b.FreeAlkalinity.Value },
		bath.SoapLost:   func(b *bath.Result) float64 { return b.Hardness.SoapLost() },
	} {
		values, err := bath.Sweep(t.Context(), r, use, what, x, y)
		require.NoError(t, err)
		here, err := bath.Run(r, use)
		require.NoError(t, err)
		assert.InDelta(t, read(here), values[1][2]+0, 1e-6*(1+math.Abs(read(here))), "%s at 100 g and 40 g", what)
	}
	ph, err := bath.Sweep(t.Context(), r, use, bath.ClosedPH, x, y)
	require.NoError(t, err)
	for j := range ph {
		for i := 1; i < len(ph[j]); i++ {
			assert.Greater(t, ph[j][i], ph[j][i-1], "more soda, higher pH")
		}
	}
}

func TestMapsThatCannotBeAreRefused(t *testing.T) {
	r := resolved(t, "laundry-powder", "100 g washing soda, 40 g citric acid")
	use := bath.Use{GramsPerLitre: 5, Celsius: 25}
	good := bath.Axis{Line: 0, FromG: 0, ToG: 100, Steps: 3}
	for _, bad := range []bath.Axis{{Line: 9, ToG: 1, Steps: 3}, {Line: 1, FromG: 5, ToG: 5, Steps: 3}, {Line: 1, FromG: -5, ToG: 5, Steps: 3}, {Line: 1, ToG: 5, Steps: 1}, {Line: 1, ToG: 5, Steps: 10_000}, {Line: 0, ToG: 5, Steps: 3}} {
		_, err := bath.Sweep(t.Context(), r, use, bath.ClosedPH, good, bad)
		assert.Error(t, err, "%+v", bad)
	}
	_, err := bath.Sweep(t.Context(), r, use, "flavour", good, bath.Axis{Line: 1, ToG: 5, Steps: 3})
	assert.ErrorContains(t, err, "no reading")
}

// A map of 200 by 200 takes less than two seconds on two cores, whatever it
// shows, in hard water.
func TestALargeMapIsQuick(t *testing.T) {
	if testing.Short() {
		t.Skip("measures")
	}
	r := resolved(t, "laundry-powder", twelve)
	for _, what := range []bath.Reading{bath.VentedPH, bath.SoapLost} {
		took := sweep(t, r, what)
		assert.Less(t, took, 8*time.Second, "%s: four times the limit, for a busy machine", what)
	}
}

func sweep(t testing.TB, r *formula.Resolved, what bath.Reading) time.Duration {
	begun := time.Now()
	_, err := bath.Sweep(t.Context(), r, bath.Use{GramsPerLitre: 5, Hardness: hard, Celsius: 25}, what,
		bath.Axis{Line: 1, FromG: 10, ToG: 500, Steps: 200}, bath.Axis{Line: 4, FromG: 0, ToG: 300, Steps: 200})
	require.NoError(t, err)
	return time.Since(begun)
}

func BenchmarkMap200By200(b *testing.B) {
	r := resolved(b, "laundry-powder", twelve)
	for _, what := range []bath.Reading{bath.ClosedPH, bath.VentedPH, bath.SoapLost} {
		b.Run(string(what), func(b *testing.B) {
			for b.Loop() {
				sweep(b, r, what)
			}
		})
	}
}
