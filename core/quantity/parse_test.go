package quantity_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"keencrock/core/quantity"
)

// What a person writes, and how it is printed back.
func TestParseReadsWhatPeopleWrite(t *testing.T) {
	for written, printed := range map[string]string{
		"1/2 cup":               "1/2 cup",
		"1½ tbsp":               "1 1/2 tbsp",
		"1 ½ tbsp":              "1 1/2 tbsp",
		"1-1/2 cups":            "1 1/2 cups",
		"2 c + 2 tbsp":          "2 cups + 2 tbsp",
		"2 cups and 1 T":        "2 cups + 1 tbsp",
		"1 t":                   "1 tsp",
		"10–15 drops":           "10–15 drops",
		"10 - 15 drops":         "10–15 drops",
		"10 g to 15 g":          "10–15 g",
		"1 or 2 cups":           "1–2 cups",
		"heaped tbsp":           "1 heaped tbsp",
		"2 heaping tablespoons": "2 heaped tbsp",
		"3 parts":               "3 parts",
		"1 bar":                 "1 bar",
		"20 to 25 nuts":         "20–25 nuts",
		"to 10 l":               "to 10 l",
		"make up to 10 litres":  "to 10 l",
		"q.s. to 500 ml":        "to 500 ml",
		"1,5 kg":                "1.5 kg",
		"0.25 l":                "0.25 l",
		"2½ lb":                 "2 1/2 lb",
		"half a cup":            "1/2 cup",
		"a quarter of a cup":    "1/4 cup",
		"a dozen nuts":          "12 nuts",
		"a pinch":               "1 pinch",
		"about 250 ml":          "about 250 ml",
		"~3 cups":               "about 3 cups",
		"2 imperial pints":      "2 imperial pints",
		"1 packed cup":          "1 packed cup",
		"4 fl. oz.":             "4 fl oz",
		"8 fluid ounces":        "8 fl oz",
		"0,125 l":               "0.125 l",
		"1/3 kg":                "1/3 kg",
	} {
		a, err := quantity.Parse(written)
		if assert.NoError(t, err, written) {
			assert.Equal(t, printed, a.String(), written)
		}
	}
}

func TestParseSaysWhereAndWhatWasExpected(t *testing.T) {
	for _, c := range []struct {
		in       string
		position int
		expected string
	}{
		{"", 1, "a number"},
		{"cup", 1, "a number"},
		{"2 blorps", 3, "a unit"},
		{"2 cups +", 9, "a number"},
		{"2 cups borax", 8, "the end of the amount"},
		{"15–10 drops", 1, "from the smaller to the larger"},
		{"1,000 g", 1, "1000 or 1.0"},
		{"0 g", 1, "above zero"},
		{"-3 g", 1, "above zero"},
		{"1/0 cup", 1, "a fraction"},
		{"3 parts + 1 cup", 10, "terms that add up"},
		{"heaped 3 g", 8, "a cup or spoon"},
		{"2 imperial kg", 1, "a cup, spoon"},
		{"½ cüp", 3, "a unit"},
		{"99999999999999 g", 1, "below a thousand million"},
		{"1.1234567 g", 3, "six decimal places"},
		{"1 g + 1 g + 1 g + 1 g + 1 g", 24, "at most 4 terms"},
		{strings.Repeat("1", 500), 1, "at most 200 letters"},
	} {
		_, err := quantity.Parse(c.in)
		var pe *quantity.ParseError
		if assert.ErrorAs(t, err, &pe, c.in) {
			assert.Equal(t, c.position, pe.Position, "%s: %v", c.in, err)
			assert.Contains(t, pe.Expected, c.expected, c.in)
		}
	}
}

func TestParsePrefixLeavesTheMaterial(t *testing.T) {
	for in, want := range map[string][2]string{
		"2 cups of borax":            {"2 cups", "borax"},
		"1 cup washing soda":         {"1 cup", "washing soda"},
		"10–15 drops lavender oil":   {"10–15 drops", "lavender oil"},
		"20 soap nuts":               {"20", "soap nuts"},
		"3 lemons":                   {"3 lemons", "lemon"},
		"1 bar of soap":              {"1 bar", "soap"},
		"1 whole bar soap":           {"1 bar", "soap"},
		"2 cups and 1 tbsp vinegar":  {"2 cups + 1 tbsp", "vinegar"},
		"1 cup salt and pepper":      {"1 cup", "salt and pepper"},
		"water to 10 l":              {"", ""},
		"to 10 l water":              {"to 10 l", "water"},
		"1 cup baking soda to start": {"1 cup", "baking soda to start"},
		"1 T. water":                 {"1 tbsp", "water"},
		"peel of six oranges.":       {"peel of 6 oranges", "orange peel"},
	} {
		r, err := quantity.ReadPrefix(in)
		if want[0] == "" {
			assert.Error(t, err, in)
			continue
		}
		if assert.NoError(t, err, in) {
			assert.Equal(t, want, [2]string{r.Amount.String(), r.Rest}, in)
		}
	}
}

func TestParsePrintParseIsTheSameAmount(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		written := drawAmount(t)
		a, err := quantity.Parse(written)
		require.NoError(t, err, written)
		b, err := quantity.Parse(a.String())
		require.NoError(t, err, "%s printed as %s", written, a)
		require.Equal(t, a, b)
	})
}

// drawAmount draws an amount as a person might write it.
func drawAmount(t *rapid.T) string {
	number := rapid.OneOf(
		rapid.Map(rapid.IntRange(1, 5000), func(n int) string { return fmt.Sprint(n) }),
		rapid.Map(rapid.IntRange(1, 99999), func(n int) string { return fmt.Sprintf("%d.%02d", n/100, n%100+1) }),
		rapid.Map(rapid.IntRange(1, 11), func(n int) string { return fmt.Sprintf("%d/12", n) }),
		rapid.SampledFrom([]string{"½", "1½", "2 2/3", "half a", "a", "three"}),
	)
	unit := rapid.SampledFrom([]string{"g", "kg", "ml", "l", "cups", "tbsp", "T", "tsp", "fl oz", "imperial pints", "drops", "Australian tbsp"})
	term := func() string {
		n := number.Draw(t, "number")
		prefix := rapid.SampledFrom([]string{"", "", "about "}).Draw(t, "prefix")
		return prefix + n + " " + unit.Draw(t, "unit")
	}
	terms := make([]string, rapid.IntRange(1, 4).Draw(t, "terms"))
	for i := range terms {
		terms[i] = term()
	}
	lead := rapid.SampledFrom([]string{"", "", "to "}).Draw(t, "lead")
	return lead + strings.Join(terms, " + ")
}

func FuzzParse(f *testing.F) {
	for _, s := range []string{"1/2 cup", "1½ tbsp", "2 c + 2 tbsp", "10–15 drops", "to 10 l", "1,5 kg", "half a cup", "1-1/2 fl. oz.", "\xff1 g", "~ 3 heaped US cups", "1 cup or 20–25 nuts", "half a box of 500 g", "a good glug", "juice of 2 lemons", "top up to the shoulder", strings.Repeat("\x9d", 27)} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		if r, err := quantity.ReadPrefix(s); err == nil && (r.At < 0 || r.At > len(s)) {
			t.Fatalf("%q: its rest begins at %d", s, r.At)
		}
		quantity.Read(s)
		a, err := quantity.Parse(s)
		if err != nil {
			return
		}
		again, err := quantity.Parse(a.String())
		if err != nil || again != a {
			t.Fatalf("%q printed as %q, read back as %q: %v", s, a, again, err)
		}
	})
}

func BenchmarkParse(b *testing.B) {
	for name, written := range map[string]string{"plain": "2 cups", "sum": "2 cups + 1 1/2 heaped tbsp"} {
		b.Run(name, func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				if _, err := quantity.Parse(written); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}

func ExampleParse() {
	a, _ := quantity.Parse("2 c + 2 heaping tablespoons")
	fmt.Println(a)
	_, err := quantity.Parse("2 cusp")
	fmt.Println(err)
	// Output:
	// 2 cups + 2 heaped tbsp
	// at character 3: expected a unit, such as g, ml, cup, tbsp, drop or part, but found “cusp”
}
