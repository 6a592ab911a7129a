package quantity_test

import (
	"fmt"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"keencrock/core/quantity"
)

func ExampleFormatFigures() {
	fmt.Println(quantity.FormatFigures(10_327, 3), quantity.FormatFigures(0.0000123, 2), quantity.FormatFigures(2.5, 4))
	// Output: 10300 0.000012 2.5
}

// A number of grams, rounded to three figures, is read by people: it is never a power of ten, and half a figure off at most.
func TestFiguresAreNoPowerOfTen(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		v := rapid.Float64Range(1e-6, 1e9).Draw(t, "v")
		said := quantity.FormatFigures(v, 3)
		assert.NotContains(t, said, "e")
		got, err := strconv.ParseFloat(said, 64)
		require.NoError(t, err)
		assert.InEpsilon(t, v, got, 0.00501)
	})
	assert.Equal(t, "0", quantity.FormatFigures(0, 3))
	assert.Equal(t, "-250", quantity.FormatFigures(-249.6, 3))
}
