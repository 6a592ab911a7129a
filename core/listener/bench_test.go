package listener_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/listener"
	"keencrock/core/material"
)

// What is said at the bench, of a batch of soda, borax, vinegar and lavender, and what it
// means. Common practice of how makers talk at work.
func TestWhatIsSaidAtTheBench(t *testing.T) {
	lib := material.Shipped()
	var lines []*material.Material
	for _, id := range []string{"washing-soda", "borax", "white-vinegar", "lavender-oil"} {
		m, err := lib.Find(id)
		require.NoError(t, err)
		lines = append(lines, m)
	}
	for said, want := range map[string]string{
		"that was three, not two":                 "corrected -1 3 2",
		"not 200 g, 300":                          "corrected -1 300 200 g",
		"no, 30 g":                                "corrected -1 30 g ",
		"sorry, that was 310 g of borax":          "corrected 1 310 g ",
		"the borax should be 250 g":               "corrected 1 250 g ",
		"another splash of vinegar":               "added 2 1 splash",
		"a bit more washing soda":                 "added 0 some",
		"added two more teaspoons of borax":       "added 1 2 tsp",
		"one more tablespoon of vinegar":          "added 2 1 tbsp",
		"put in another 20 g of citric acid":      "added -1 20 g",
		"left out the scent":                      "left-out 3",
		"forgot the borax":                        "left-out 1",
		"no lavender in this one":                 "left-out 3",
		"took it off at 90 minutes":               "done 90 min",
		"took it off the heat after half an hour": "done 30 min",
		"done":                        "done ",
		"mixed for ten minutes":       "done 10 min",
		"stirred it":                  "stirred",
		"skipped this step":           "passed",
		"counted 24":                  "counted 24",
		"24 pieces":                   "counted 24",
		"two broke":                   "broke 2",
		"pH 9.2 by strip":             "measured 9.2 false",
		"ph is 4,5 on the meter":      "measured 4.5 true",
		"smells a bit odd":            "noted",
		"the bowl was still wet":      "noted",
		"used the old scale":          "noted",
		"vinegar looked cloudy today": "noted",
		"that was three":              "corrected -1 3 ",
		"some more borax":             "added 1 some",

		"used 480 g of soda instead of 500": "corrected 0 480 g 500",
		"I put 10 g too much borax in":      "added 1 10 g",
		"ran out of borax, only 180 g":      "corrected 1 180 g ",
		"borax was 198":                     "corrected 1 198 ",
		"198 g borax actually":              "corrected 1 198 g ",
		"left it twenty minutes":            "done 20 min",
		"one stuck in the mould":            "broke 1",
		"it was 65 degrees when I poured":   "noted",
		"threw away half":                   "noted",
	} {
		b, err := listener.ReadBench(said, lines, lib)
		require.NoError(t, err)
		require.Len(t, b.Happenings, 1, said)
		h := b.Happenings[0]
		got := string(h.Kind)
		switch h.Kind {
		case listener.Corrected:
			got += fmt.Sprintf(" %d %s %s", h.Line, h.Amount, h.Instead)
		case listener.Added:
			got += fmt.Sprintf(" %d %s", h.Line, h.Amount)
		case listener.LeftOut:
			got += fmt.Sprintf(" %d", h.Line)
		case listener.Done:
			got += " " + h.For.String()
		case listener.Counted, listener.Broke:
			got += fmt.Sprintf(" %d", h.Count)
		case listener.Measured:
			got += fmt.Sprintf(" %g %v", h.PH, h.Meter)
		}
		assert.Equal(t, want, got, said)
		assert.Equal(t, said, h.Text)
	}
	b, err := listener.ReadBench("left out the scent. another splash of vinegar; counted 12", lines, lib)
	require.NoError(t, err)
	assert.Len(t, b.Happenings, 3)
}

func FuzzReadBench(f *testing.F) {
	lib := material.Shipped()
	var lines []*material.Material
	for _, id := range []string{"washing-soda", "lavender-oil"} {
		m, err := lib.Find(id)
		require.NoError(f, err)
		lines = append(lines, m, nil)
	}
	for _, said := range []string{"that was three, not two", "another splash of vinegar", "left out the scent", "took it off at 90 minutes", "pH 9.2", "24 pieces; two broke"} {
		f.Add(said)
	}
	f.Fuzz(func(t *testing.T, said string) {
		if len(said) > 400 {
			return
		}
		b, err := listener.ReadBench(said, lines, lib)
		require.NoError(t, err)
		for _, h := range b.Happenings {
			if h.Line >= len(lines) || h.Count < 0 || h.PH < 0 || h.PH > 14 || h.Kind == listener.Added && h.Material == nil {
				t.Errorf("%q: %+v", said, h)
			}
		}
	})
}
