package paper_test

import (
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/label"
	"keencrock/core/wording"
	"keencrock/internal/exchange/paper"
)

func languages(t testing.TB, codes ...string) (out []*wording.Language) {
	t.Helper()
	for _, code := range codes {
		l, err := wording.Find(code)
		require.NoError(t, err)
		out = append(out, l)
	}
	return out
}

func content() *label.Content {
	return &label.Content{Name: "Towpath", Kind: "laundry-powder", NetG: 700, Signal: "danger", Pictograms: []string{"GHS05", "GHS08"},
		Statements:  []label.Statement{{Code: "H318"}, {Code: "H360FD"}},
		Precautions: []string{"P102", "P280", "P305+P351+P338", "P308+P313"},
		Ingredients: label.Declaration{Classes: []label.Declared{{Class: "oxygen-based-bleach", Band: "15-30"}, {Class: "soap", Band: "5-15"}}, Named: []string{"perfumes"}, Allergens: []string{"linalool"}},
		Use:         "Into the drum, under the washing.", NotOn: []string{"wool", "silk"}, Doses: []label.Dose{{Machine: "front-loader", Much: "2 tbsp"}, {Machine: "top-loader", Much: "1/4 cup"}},
		Extra: []string{"dry-lid"}, Lot: "TOW-261101", Made: time.Date(2026, 11, 1, 0, 0, 0, 0, time.UTC), BestBefore: time.Date(2027, 5, 1, 0, 0, 0, 0, time.UTC),
		Maker: "Lockside Works, The Old Toll House, Marrow Canal", URL: "http://127.0.0.1:8420/j/4q7x2m9k3p5r8t6v1w0y2z4a6c"}
}

func form(t testing.TB, id string) label.Form {
	t.Helper()
	f, err := label.FindForm(id)
	require.NoError(t, err)
	return f
}

func lay(t testing.TB, c *label.Content, f label.Form, codes ...string) (*label.Drawing, []label.Misfit) {
	t.Helper()
	return label.Lay(c, f, languages(t, codes...), paper.Shipped())
}

func grave(misfits []label.Misfit) (out []string) {
	for _, m := range misfits {
		if m.Grave {
			out = append(out, m.Block+": "+m.Says)
		}
	}
	return out
}

// Whatever is on a label stands within it, no smaller than can be read, and clear of the
// code's quiet zone.
func TestEverythingStandsOnTheLabel(t *testing.T) {
	for _, f := range label.Forms() {
		for _, codes := range [][]string{{"en"}, {"de"}, {"en", "de"}} {
			t.Run(f.ID+" "+strings.Join(codes, "+"), func(t *testing.T) {
				d, misfits := lay(t, content(), f, codes...)
				if len(grave(misfits)) > 0 {
					require.NotEqual(t, "pouch", f.ID, "the largest takes both: %v", misfits)
					return
				}
				assert.GreaterOrEqual(t, d.XHeightMM, label.LeastXHeightMM-1e-6)
				for _, text := range d.Texts {
					w := paper.Shipped().Width(text.Style, text.Text, text.SizeMM)
					assert.LessOrEqual(t, text.X+w, d.WidthMM-1, text.Text)
					assert.LessOrEqual(t, text.Y, d.HeightMM-1.5, text.Text)
					if c := d.Code; c != nil && text.Y > c.Y-1 && text.Y-text.SizeMM < c.Y+c.SideMM {
						assert.LessOrEqual(t, text.X+w, c.X-1, text.Text)
					}
				}
				for _, p := range d.Polygons {
					for _, at := range p.Points {
						require.True(t, at.X >= 0 && at.X <= d.WidthMM && at.Y >= 0 && at.Y <= d.HeightMM)
					}
				}
			})
		}
	}
}

func run(t *testing.T, name string, args ...string) string {
	t.Helper()
	if _, err := exec.LookPath(name); err != nil {
		if os.Getenv("KEEN_CROCK_REQUIRE_ALL") != "" {
			t.Fatalf("%s is missing: install poppler-utils and zbar-tools", name)
		}
		t.Skipf("%s is not installed", name)
	}
	out, err := exec.Command(name, args...).Output() // zbar talks of a bus that is not there
	require.NoError(t, err, "%s", name)
	return string(out)
}

func sheetOf(t testing.TB, d *label.Drawing, f label.Form, sheet string, n, start int) []byte {
	t.Helper()
	s, err := label.FindSheet(sheet)
	require.NoError(t, err)
	places, w, h, err := s.Places(f, n, start)
	require.NoError(t, err)
	var placed []paper.Placed
	for _, p := range places {
		placed = append(placed, paper.Placed{Drawing: d, Place: p})
	}
	doc, err := paper.PDF("Labels", w, h, placed)
	require.NoError(t, err)
	return doc
}

var pageSize = regexp.MustCompile(`Page size:\s+([\d.]+) x ([\d.]+) pts`)

// A PDF read back by poppler: true size to a tenth of a millimetre, its fonts in it, its
// words in it. Its code read by zbar off pages drawn as printers of 203 and 300 dpi do.
func TestAPrintedLabelReadsBack(t *testing.T) {
	f := form(t, "pouch")
	d, misfits := lay(t, content(), f, "en", "de")
	require.Empty(t, grave(misfits))
	path := filepath.Join(t.TempDir(), "label.pdf")
	require.NoError(t, os.WriteFile(path, sheetOf(t, d, f, "single", 1, 0), 0o600))

	size := pageSize.FindStringSubmatch(run(t, "pdfinfo", path))
	require.NotNil(t, size)
	for i, mm := range []float64{f.WidthMM, f.HeightMM} {
		points, err := strconv.ParseFloat(size[i+1], 64)
		require.NoError(t, err)
		assert.InDelta(t, mm, points*25.4/72, 0.1)
	}
	for _, line := range strings.Split(strings.TrimSpace(run(t, "pdffonts", path)), "\n")[2:] {
		assert.Regexp(t, `\s+yes\s+\S+\s+\S+\s+\d+\s+\d+$`, line, "embedded")
	}
	words := strings.Join(strings.Fields(run(t, "pdftotext", "-layout", path, "-")), " ")
	for _, want := range []string{"Towpath", "700 g", "Danger", "Gefahr", "TOW-261101", "2027-05-01", "linalool", "Lockside"} {
		assert.Contains(t, words, want)
	}
	raw := strings.Join(strings.Fields(run(t, "pdftotext", "-raw", path, "-")), " ")
	assert.Contains(t, raw, "eye damage")
	assert.Contains(t, raw, "Augenschäden")

	for _, dpi := range []string{"203", "300"} {
		picture := filepath.Join(t.TempDir(), "label")
		run(t, "pdftoppm", "-png", "-mono", "-r", dpi, "-singlefile", path, picture)
		assert.Equal(t, content().URL, strings.TrimSpace(run(t, "zbarimg", "--quiet", "--raw", picture+".png")), "%s dpi", dpi)
	}
}

// A sheet: twelve labels from the third place on, over two pages.
func TestASheetBeginsWhereTheLastEnded(t *testing.T) {
	f := form(t, "front")
	d, _ := lay(t, content(), f, "en")
	path := filepath.Join(t.TempDir(), "sheet.pdf")
	require.NoError(t, os.WriteFile(path, sheetOf(t, d, f, "a4", 12, 2), 0o600))
	info := run(t, "pdfinfo", path)
	assert.Contains(t, info, "A4")
	assert.Regexp(t, `Pages:\s+2\b`, info, "3 × 3 of 60 × 90 mm a page")
	assert.Equal(t, 12, strings.Count(run(t, "pdftotext", path, "-"), "Towpath"))
	assert.Equal(t, 7, strings.Count(run(t, "pdftotext", "-l", "1", path, "-"), "Towpath"), "two places of the first are used up")

	s, err := label.FindSheet("a4")
	require.NoError(t, err)
	for _, start := range []int{-1, 9} {
		_, _, _, err = s.Places(f, 1, start)
		require.ErrorContains(t, err, "a sheet has 9 places")
	}
	small, err := label.FindSheet("a4-3x7")
	require.NoError(t, err)
	_, _, _, err = small.Places(f, 1, 0)
	require.ErrorContains(t, err, "does not go on a place")
}

// An SVG read by a parser: its size, its words, its title.
func TestAPictureReadsBack(t *testing.T) {
	d, _ := lay(t, content(), form(t, "back"), "de")
	decoder := xml.NewDecoder(bytes.NewReader(paper.SVG("Towpath <&> back", d)))
	var words []string
	var title, width string
	inside := ""
	for {
		token, err := decoder.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		require.NoError(t, err)
		switch e := token.(type) {
		case xml.StartElement:
			inside = e.Name.Local
			for _, a := range e.Attr {
				if inside == "svg" && a.Name.Local == "width" {
					width = a.Value
				}
			}
		case xml.CharData:
			switch inside {
			case "desc":
				words = append(words, string(e))
			case "title":
				title += string(e)
			}
		}
	}
	assert.Equal(t, "60mm", width)
	assert.Equal(t, "Towpath <&> back", title)
	assert.Contains(t, strings.Join(words, " "), "Verursacht schwere Augenschäden.")
}

// What does not fit is said, with what to do; what must not be left out never is.
func TestWhatDoesNotFitIsSaid(t *testing.T) {
	small := label.Form{ID: "whole", WidthMM: 45, HeightMM: 60, Blocks: form(t, "whole").Blocks}
	_, misfits := lay(t, content(), small, "en", "de")
	require.NotEmpty(t, grave(misfits))
	assert.Contains(t, misfits[len(misfits)-1].Advice, "larger label")

	c := content()
	c.Use = strings.Repeat("Put it into the drum under the washing and wash as ever. ", 20)
	d, misfits := lay(t, c, label.Form{WidthMM: 100, HeightMM: 150, Blocks: form(t, "pouch").Blocks}, "en", "de")
	require.Empty(t, grave(misfits))
	var left []string
	for _, m := range misfits {
		left = append(left, m.Block)
	}
	assert.Contains(t, left, "use")
	var said []string
	for _, text := range d.Texts {
		said = append(said, text.Text)
	}
	assert.Contains(t, strings.Join(said, " "), "See the leaflet.")
	assert.Contains(t, strings.Join(said, " "), "Causes serious eye damage.")

	c = content()
	c.Name = "Мыло"
	_, misfits = lay(t, c, form(t, "front"), "en")
	require.Len(t, grave(misfits), 1)
	assert.Contains(t, grave(misfits)[0], "Мыло")
	c.Name = "Mydło Łódź"
	_, misfits = lay(t, c, form(t, "front"), "en")
	assert.Empty(t, grave(misfits), "the rest of Europe is in the second file")
}

// Regulation (EC) 1272/2008, Annex I, 1.2.1: a symbol covers a fifteenth of 52 × 74 mm,
// at least a square centimetre; and Directive 76/211/EEC, 3.1: figures of 4 mm for 700 g.
func TestSymbolsAndFiguresAreLargeEnough(t *testing.T) {
	assert.InDelta(t, 16.0, label.SymbolMM(form(t, "whole")), 0.1)
	assert.InDelta(t, 10.0, label.SymbolMM(label.Form{WidthMM: 30, HeightMM: 40}), 0.1)
	for nominal, mm := range map[float64]float64{40: 2, 200: 3, 700: 4, 1500: 6} {
		c := content()
		c.NetG = nominal
		d, _ := lay(t, c, form(t, "whole"), "en")
		for _, text := range d.Texts {
			if strings.HasSuffix(text.Text, " g") || strings.HasSuffix(text.Text, " kg") {
				assert.GreaterOrEqual(t, text.SizeMM*paper.Shipped().CapHeight(text.Style), mm-1e-6, text.Text)
			}
		}
	}
}

func TestEveryPictogramCanBeDrawn(t *testing.T) {
	for _, code := range label.Pictograms() {
		c := content()
		c.Pictograms = []string{code}
		d, _ := lay(t, c, form(t, "whole"), "en")
		assert.Greater(t, len(d.Polygons), 3, code)
	}
}

func BenchmarkSheetOf40(b *testing.B) {
	f := form(b, "tag")
	s, err := label.FindSheet("a4")
	require.NoError(b, err)
	places, w, h, err := s.Places(f, 40, 0)
	require.NoError(b, err)
	for b.Loop() {
		d, _ := lay(b, content(), f, "en")
		placed := make([]paper.Placed, len(places))
		for i, p := range places { // each jar with a code of its own
			one, code := *d, *d.Code
			code.URL = strings.Replace(code.URL, "4q7x", fmt.Sprintf("%04d", i), 1)
			one.Code = &code
			placed[i] = paper.Placed{Drawing: &one, Place: p}
		}
		if _, err := paper.PDF("Labels", w, h, placed); err != nil {
			b.Fatal(err)
		}
	}
}

func ExampleSVG() {
	d, _ := label.Lay(&label.Content{Name: "Heron"}, label.Form{WidthMM: 40, HeightMM: 30, Blocks: []string{"name"}}, nil, paper.Shipped())
	svg := string(paper.SVG("Heron", d))
	fmt.Println(svg[:59])
	// Output: <svg xmlns="http://www.w3.org/2000/svg" width="40mm" height
}
