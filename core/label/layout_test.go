package label_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"keencrock/core/label"
	"keencrock/core/wording"
)

// typewriter is a face whose letters are all as wide as half their size.
type typewriter struct{}

func (typewriter) Width(_ label.Style, text string, sizeMM float64) float64 {
	return 0.5 * sizeMM * float64(len([]rune(text)))
}
func (typewriter) XHeight(label.Style) float64               { return 0.5 }
func (typewriter) CapHeight(label.Style) float64             { return 0.7 }
func (typewriter) CodeModules(string) int                    { return 29 }
func (typewriter) Missing(_ label.Style, text string) []rune { return nil }
func languagesOf(t require.TestingT, codes ...string) (out []*wording.Language) {
	for _, code := range codes {
		l, err := wording.Find(code)
		require.NoError(t, err)
		out = append(out, l)
	}
	return out
}

func formOf(t require.TestingT, id string) label.Form {
	f, err := label.FindForm(id)
	require.NoError(t, err)
	return f
}

func words(d *label.Drawing) string {
	var all []string
	for _, text := range d.Texts {
		all = append(all, text.Text)
	}
	return strings.Join(all, " ")
}

// Whatever a label says and however large it is: either it is told that it does not fit,
// or everything stands on it, in letters that can be read, clear of the code; and what
// the rules ask for is always there.
func TestALabelFitsOrSaysSo(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		some := func(list []string, name string) []string {
			return list[:rapid.IntRange(0, len(list)).Draw(t, name)]
		}
		c := &label.Content{
			Name: strings.Join(rapid.SliceOfN(rapid.StringMatching(`[A-Z][a-z]{1,12}`), 1, 4).Draw(t, "name"), " "),
			Kind: "laundry-powder", NetG: rapid.Float64Range(5, 5000).Draw(t, "net"),
			Pictograms:  some([]string{"GHS05", "GHS07", "GHS08", "GHS09"}, "pictograms"),
			Precautions: some([]string{"P102", "P280", "P305+P351+P338", "P310", "P405"}, "precautions"),
			Use:         strings.Join(rapid.SliceOfN(rapid.StringMatching(`[a-z]{1,14}`), 0, 60).Draw(t, "use"), " "),
			NotOn:       some([]string{"aluminium", "wool", "silk", "marble"}, "not on"),
			Lot:         "TOW-261101-A", BestBefore: time.Date(2027, 5, 1, 0, 0, 0, 0, time.UTC), Maker: "Lockside Works", URL: "http://127.0.0.1/j/x",
		}
		if len(c.Pictograms) > 0 {
			c.Signal, c.Statements = "danger", []label.Statement{{Code: "H318"}}
		}
		f := formOf(t, rapid.SampledFrom([]string{"whole", "pouch", "back", "front", "tag"}).Draw(t, "form"))
		f.WidthMM = rapid.Float64Range(label.LeastMM, 200).Draw(t, "width")
		f.HeightMM = rapid.Float64Range(label.LeastMM, 300).Draw(t, "height")
		codes := rapid.SampledFrom([][]string{{"en"}, {"de"}, {"en", "de"}}).Draw(t, "languages")
		d, misfits := label.Lay(c, f, languagesOf(t, codes...), typewriter{})
		for _, m := range misfits {
			require.NotEmpty(t, m.Says)
			require.NotEmpty(t, m.Advice)
			if m.Grave {
				return
			}
		}
		require.GreaterOrEqual(t, d.XHeightMM, label.LeastXHeightMM-1e-9)
		for _, text := range d.Texts {
			width := typewriter{}.Width(text.Style, text.Text, text.SizeMM)
			require.LessOrEqual(t, text.X+width, d.WidthMM, "“%s”", text.Text)
			require.LessOrEqual(t, text.Y, d.HeightMM, "“%s”", text.Text)
			if c := d.Code; c != nil && text.Y > c.Y && text.Y-text.SizeMM < c.Y+c.SideMM {
				require.LessOrEqual(t, text.X+width, c.X, "“%s” runs into the code", text.Text)
			}
		}
		for _, p := range d.Polygons {
			for _, at := range p.Points {
				require.True(t, at.X >= 0 && at.X <= d.WidthMM && at.Y >= 0 && at.Y <= d.HeightMM, "a symbol stands off the label")
			}
		}
		if c.Signal != "" && f.ID != "tag" && f.ID != "front" {
			require.Contains(t, words(d), languagesOf(t, codes[0])[0].Statement("H318")[:10])
		}
	})
}

// What is left to the leaflet goes in its order: the day it was made, doses, how it is
// used, and on what never as the last.
func TestTheLeafletTakesTheLeastNeededFirst(t *testing.T) {
	c := &label.Content{Name: "Heron", Kind: "dish-powder", NetG: 500, Signal: "warning", Pictograms: []string{"GHS07"}, Statements: []label.Statement{{Code: "H319"}}, Precautions: []string{"P102", "P305+P351+P338"},
		Use: strings.Repeat("into the compartment ", 5), NotOn: []string{"aluminium"}, Doses: []label.Dose{{Machine: "dishwasher", Much: "1 tbsp"}}, Lot: "HER-1", Made: time.Date(2026, 11, 1, 0, 0, 0, 0, time.UTC)}
	order := []string{"made", "dose", "use", "not-on"}
	most := 0
	for height := 160.0; height > 40; height -= 4 {
		f := formOf(t, "whole")
		f.WidthMM, f.HeightMM = 70, height
		_, misfits := label.Lay(c, f, languagesOf(t, "en"), typewriter{})
		var left []string
		for _, m := range misfits {
			if !m.Grave && m.Block != "signal" && m.Block != "pictograms" {
				left = append(left, m.Block)
			}
		}
		require.LessOrEqual(t, len(left), len(order))
		assert.Equal(t, order[:len(left)], append([]string{}, left...))
		assert.GreaterOrEqual(t, len(left), most, "a smaller label leaves no less")
		most = len(left)
	}
	assert.Equal(t, len(order), most)
}

// Places of a sheet stand on its page, none on another, from the first that is free.
func TestPlacesOfASheet(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		sheet := rapid.SampledFrom(label.Sheets()).Draw(t, "sheet")
		f := label.Form{WidthMM: rapid.Float64Range(15, 220).Draw(t, "width"), HeightMM: rapid.Float64Range(15, 300).Draw(t, "height")}
		n, start := rapid.IntRange(1, 60).Draw(t, "n"), rapid.IntRange(0, 30).Draw(t, "start")
		places, w, h, err := sheet.Places(f, n, start)
		if err != nil {
			return
		}
		require.Len(t, places, n)
		for i, p := range places {
			require.True(t, p.X >= 0 && p.Y >= 0 && p.X+f.WidthMM <= w+0.1 && p.Y+f.HeightMM <= h+0.1, "%v is off the page", p)
			for _, q := range places[:i] {
				apart := p.Page != q.Page || p.X+f.WidthMM <= q.X+0.1 || q.X+f.WidthMM <= p.X+0.1 || p.Y+f.HeightMM <= q.Y+0.1 || q.Y+f.HeightMM <= p.Y+0.1
				require.True(t, apart, "%v lies on %v", p, q)
			}
		}
	})
	for _, bad := range []string{"", "60", "60x", "0x90", "60x900", "axb", "60x90x3", "NaNx60"} {
		_, _, err := label.ParseSize(bad)
		require.Error(t, err, bad)
	}
	w, h, err := label.ParseSize("63,5 × 38.1 mm")
	require.NoError(t, err)
	assert.InDelta(t, 63.5, w, 1e-9)
	assert.InDelta(t, 38.1, h, 1e-9)
}

// A net quantity is one figure in the unit that reads best (Directive 76/211/EEC).
func TestNetQuantities(t *testing.T) {
	en, de := languagesOf(t, "en")[0], languagesOf(t, "de")[0]
	for _, c := range []struct {
		content     label.Content
		english, de string
	}{
		{label.Content{NetG: 700}, "700 g", "700 g"},
		{label.Content{NetG: 1250}, "1.25 kg", "1,25 kg"},
		{label.Content{NetG: 2000}, "2 kg", "2 kg"},
		{label.Content{NetG: 7.5}, "7.5 g", "7,5 g"},
		{label.Content{NetML: 500}, "500 ml", "500 ml"},
		{label.Content{NetML: 1500}, "1.5 l", "1,5 l"},
		{label.Content{NetG: 400, NetPieces: 20}, "20 pieces, 400 g", "20 Stück, 400 g"},
		{label.Content{NetG: 20, NetPieces: 1}, "1 piece, 20 g", "1 Stück, 20 g"},
		{label.Content{}, "", ""},
	} {
		assert.Equal(t, c.english, c.content.NetWords(en))
		assert.Equal(t, c.de, c.content.NetWords(de))
	}
	// Annex I, 3.1: the height of the figures
	for nominal, mm := range map[float64]float64{50: 2, 51: 3, 200: 3, 201: 4, 1000: 4, 1001: 6} {
		assert.InDelta(t, mm, label.LettersMM(nominal), 1e-9, "%g", nominal)
	}
}

// Symbols shrink to a square centimetre before a label is refused, and that is said
// (Regulation (EC) 1272/2008, Annex I, 1.2.1.4).
func TestSymbolsShrinkBeforeALabelIsRefused(t *testing.T) {
	c := &label.Content{Name: "Towpath", Kind: "laundry-powder", NetG: 700, Signal: "danger", Pictograms: []string{"GHS05", "GHS08"},
		Statements: []label.Statement{{Code: "H318"}, {Code: "H360FD"}}, Precautions: []string{"P102", "P280", "P305+P351+P338", "P310"}}
	f := formOf(t, "whole")
	shrunk, refused := 0.0, 0.0
	for height := 120.0; height > 30; height-- {
		f.WidthMM, f.HeightMM = 60, height
		_, misfits := label.Lay(c, f, languagesOf(t, "en"), typewriter{})
		for _, m := range misfits {
			if m.Block == "pictograms" && shrunk == 0 {
				shrunk = height
			}
			if m.Grave && refused == 0 {
				refused = height
			}
		}
	}
	require.Positive(t, refused)
	assert.Greater(t, shrunk, refused)
}

// The address under a code is a line at the foot where there is room, and is broken up under
// the code before the dose is left out; of another jar it takes as many lines.
func TestTheAddressGivesWayToTheDose(t *testing.T) {
	c := &label.Content{Name: "Heron", Kind: "dish-powder", NetG: 500, Doses: []label.Dose{{Machine: "dishwasher", Much: "1 tbsp"}}, Maker: "Lockside Works, The Old Toll House, Marrow Canal",
		Ingredients: label.Declaration{Classes: []label.Declared{{Class: "oxygen-based-bleach", Band: "15-30"}}}, Lot: "HER-261101-A", URL: "https://a.example/j/11111111111111111111111111111111"}
	f := formOf(t, "whole")
	f.WidthMM = 70
	lines := func(d *label.Drawing) (n int, at float64) {
		for _, text := range d.Texts {
			if strings.ContainsAny(text.Text, "/1d") && strings.Trim(text.Text, "a.exmplj/1d") == "" {
				n, at = n+1, text.X
			}
		}
		return n, at
	}
	few, many := 0, 0
	for height := 120.0; height > 40; height-- {
		f.HeightMM = height
		d, misfits := label.Lay(c, f, languagesOf(t, "en"), typewriter{})
		if len(misfits) > 0 {
			break
		}
		n, _ := lines(d)
		if other, _ := lines(d.WithURL("https://a.example/j/dddddddddddddddddddddddddddddddd", typewriter{})); true {
			require.Equal(t, n, other)
		}
		if n <= 2 {
			few++
			require.Zero(t, many, "once it is broken up a smaller label has no room for a line")
		} else {
			many++
		}
	}
	assert.Positive(t, few)
	assert.Positive(t, many)
}
