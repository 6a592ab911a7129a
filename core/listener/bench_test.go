package listener_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"keencrock/core/listener"
	"keencrock/core/material"
)

// What is said at the bench, of a batch of soda, borax, vinegar and lavender, and what it
// means. Common practice of how makers talk at work.
func TestWhatIsSaidAtTheBench(t *testing.T) {
	lib, lines := atTheBench(t)
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

		"the soda came to 512 g":                    "corrected 0 512 g ",
		"I actually weighed 498 of soda":            "corrected 0 498 ",
		"only had 150 g of borax":                   "corrected 1 150 g ",
		"200 of borax, no 210":                      "corrected 1 210 200",
		"weighed 200, should have been 250":         "corrected -1 200 ",
		"put in 30 drops of lavender instead of 20": "corrected 3 30 drops 20",
		"didn't bother with the lavender":           "left-out 3",
		"I'll leave the lavender out":               "left-out 3",
		"made it without borax":                     "left-out 1",
		"half a teaspoon of salt went in as well":   "added -1 1/2 tsp",
		"10 ml of vodka so it keeps":                "added -1 10 ml",
		"topped it up with 50 ml of water":          "added -1 50 ml",
		"had to add 30 ml vinegar":                  "added 2 30 ml",
		"put 250 ml of water in":                    "added -1 250 ml",
		"3 drops too many of lavender":              "added 3 3 drops",
		"the pH is nine":                            "measured 9 false",
		"meter says 9.8":                            "measured 9.8 true",
		"strip shows 10":                            "measured 10 false",
		"pH was 7 before and 8.5 after":             "noted",
		"it took 40 minutes to melt":                "done 40 min",
		"left to dry overnight":                     "done 8–12 h",
		"cut it into 14":                            "counted 14",
		"turned out 26 bars":                        "counted 26",
		"skip":                                      "passed",
		"added the borax twice by mistake":          "noted",
		"use less lavender next time":               "noted",
		"added maybe 5 more drops of lavender":      "added 3 5 drops",
		"could have done with more lavender":        "noted",
		"spilled about 20 g of soda":                "noted",
		"the soda was damp":                         "noted",
	} {
		b, err := listener.ReadBench(said, lines, lib)
		require.NoError(t, err)
		require.Len(t, b.Happenings, 1, said)
		assert.Equal(t, want, happened(&b.Happenings[0]), said)
		assert.Equal(t, said, b.Happenings[0].Text)
	}
	b, err := listener.ReadBench("left out the scent. another splash of vinegar; counted 12", lines, lib)
	require.NoError(t, err)
	assert.Len(t, b.Happenings, 3)
	for said, want := range map[string][]string{
		"soda 505, borax 201":                                {"corrected 0 505 ", "corrected 1 201 "},
		"borax 202, vinegar 48 and lavender 21 drops":        {"corrected 1 202 ", "corrected 2 48 ", "corrected 3 21 drops "},
		"got 22 out of it and one cracked":                   {"counted 22", "broke 1"},
		"two stuck and one broke":                            {"broke 2", "broke 1"},
		"left the borax out and put in 20 g of citrate":      {"left-out 1", "added -1 20 g"},
		"swapped the borax for citrate":                      {"left-out 1", "added -1 some"},
		"no vinegar left so I used cider vinegar":            {"left-out 2", "added -1 some"},
		"used 50 ml of cider vinegar instead of the vinegar": {"left-out 2", "added -1 50 ml"},
		"let it stand for an hour then strained it":          {"done 1 h", "done "},
		"that was three, not two":                            {"corrected -1 3 2"},
		"the bowl was wet and the soda damp":                 {"noted"},
	} {
		b, err := listener.ReadBench(said, lines, lib)
		require.NoError(t, err)
		var got []string
		for i := range b.Happenings {
			got = append(got, happened(&b.Happenings[i]))
		}
		assert.Equal(t, want, got, said)
	}
}

// happened is a happening in a line.
func happened(h *listener.Happening) string {
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
	return got
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

// What two things mean that are said in one breath is what each of them means by itself.
func TestTwoThingsAtTheBenchAreTwo(t *testing.T) {
	lib, lines := atTheBench(t)
	alone := func(t require.TestingT, said string) []string {
		b, err := listener.ReadBench(said, lines, lib)
		require.NoError(t, err)
		var out []string
		for i := range b.Happenings {
			out = append(out, happened(&b.Happenings[i]))
		}
		return out
	}
	told := []string{"soda 505", "borax weighed 201 g", "left out the scent", "put in 20 g of citric acid", "one cracked", "counted 24", "pH 9.2 by strip",
		"another splash of vinegar", "took it off at 90 minutes", "stirred it", "topped it up with 50 ml of water", "forgot the borax", "got 22", "the pH is nine", "meter says 9.8", "swapped the borax for citrate", "cut it into 14"}
	rapid.Check(t, func(t *rapid.T) {
		first, second := rapid.SampledFrom(told).Draw(t, "first"), rapid.SampledFrom(told).Draw(t, "second")
		between := rapid.SampledFrom([]string{", ", " and ", ", and ", "; ", "\n", " then "}).Draw(t, "between")
		assert.Equal(t, append(alone(t, first), alone(t, second)...), alone(t, first+between+second), first+between+second)
	})
}

// atTheBench is the library, and what a batch of soda, borax, vinegar and lavender is made of.
func atTheBench(t *testing.T) (*material.Library, []*material.Material) {
	t.Helper()
	lib := material.Shipped()
	var lines []*material.Material
	for _, id := range []string{"washing-soda", "borax", "white-vinegar", "lavender-oil"} {
		m, err := lib.Find(id)
		require.NoError(t, err)
		lines = append(lines, m)
	}
	return lib, lines
}
