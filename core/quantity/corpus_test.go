package quantity_test

import (
	_ "embed"
	"errors"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/quantity"
)

//go:embed testdata/amounts.tsv
var writtenAmounts string

// Each amount of the file is read as the grams that stand beside it.
func TestAmountsAsMakersWriteThem(t *testing.T) {
	water := quantity.Handling{Measures: quantity.US, DensityGPerML: quantity.Exactly(1), PieceG: quantity.Exactly(100), Liquid: true}
	seen := map[string]bool{}
	for line := range strings.Lines(writtenAmounts) {
		if strings.HasPrefix(line, "#") {
			continue
		}
		field := strings.Split(strings.TrimSuffix(line, "\n"), "\t")
		written := field[0]
		require.False(t, seen[written], "%q stands twice", written)
		seen[written] = true
		a, err := quantity.Parse(written)
		if len(field) == 2 {
			if err == nil {
				_, err = a.Grams(water)
			}
			assert.Equal(t, field[1], asks(err), "%q: %v", written, err)
			continue
		}
		require.Len(t, field, 4, written)
		if !assert.NoError(t, err, written) {
			continue
		}
		g, err := a.Grams(water)
		if !assert.NoError(t, err, written) {
			continue
		}
		for i, got := range []float64{g.Low, g.Value, g.High} {
			want, err := strconv.ParseFloat(field[1+i], 64)
			require.NoError(t, err)
			assert.InEpsilon(t, want, got, 1e-4, "%q: %v", written, g)
		}
	}
	assert.GreaterOrEqual(t, len(seen), 200)
}

// asks is the word for what is asked, as the file has it.
func asks(err error) string {
	var unread *quantity.ParseError
	switch {
	case err == nil:
		return "nothing"
	case errors.As(err, &unread):
		return "error"
	case errors.Is(err, quantity.ErrOpen):
		return "open"
	case errors.Is(err, quantity.ErrNeedsPartSize):
		return "parts"
	case errors.Is(err, quantity.ErrMakeUp):
		return "make-up"
	case errors.Is(err, quantity.ErrNeedsSize):
		return "size"
	}
	return err.Error()
}
