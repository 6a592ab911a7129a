package e2e

import (
	"bytes"
	"encoding/base64"
	"fmt"
	"image"
	"image/png"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/label"
	"keencrock/core/wording"
	"keencrock/internal/exchange/paper"
)

// labelsToCompare are labels with much on them and with little, in one language and two.
func labelsToCompare() map[string]*label.Content {
	made := time.Date(2026, 11, 1, 0, 0, 0, 0, time.UTC)
	much := &label.Content{Name: "Towpath", Kind: "laundry-powder", NetG: 700, Signal: "danger", Pictograms: []string{"GHS05", "GHS08"},
		Statements:  []label.Statement{{Code: "H318"}, {Code: "H360FD"}},
		Precautions: []string{"P102", "P201", "P280", "P305+P351+P338", "P308+P313", "P405"},
		Ingredients: label.Declaration{Classes: []label.Declared{{Class: "soap", Band: "15-30"}}, Named: []string{"perfumes"}},
		Use:         "Into the drum, under the washing.", NotOn: []string{"wool", "silk"}, Doses: []label.Dose{{Machine: "front-loader", Much: "2 tbsp"}, {Machine: "top-loader", Much: "1/4 cup"}},
		Extra: []string{"dry-lid"}, Lot: "TOW-261101-A", Made: made, BestBefore: made.AddDate(2, 0, 0), Maker: "Lockside Works, The Old Toll House, Marrow Canal", URL: "https://lockside.example/j/4q7x2m9k3p5r8t6v1w0y2z4a6c"}
	little := &label.Content{Name: "Willow", Kind: "infused-vinegar", NetML: 500, Lot: "WIL-261101-A", Made: made, BestBefore: made.AddDate(1, 0, 0), Maker: "Lockside Works"}
	return map[string]*label.Content{"much": much, "little": little}
}

// pixelsPerMM is how finely labels are compared.
const pixelsPerMM = 6

// A label on the screen is the label that is printed: the picture, opened in a browser
// with a least size of type as people set it, against the page of the PDF, drawn by
// another program.
func TestALabelLooksAsItPrints(t *testing.T) {
	t.Parallel()
	needs(t)
	programs(t, "pdftoppm")
	b := (&app{t: t, url: "about:blank"}).open()
	compared := 0
	for what, content := range labelsToCompare() {
		for _, form := range label.Forms() {
			for _, codes := range [][]string{{"en"}, {"en", "de"}} {
				var languages []*wording.Language
				for _, code := range codes {
					l, err := wording.Find(code)
					require.NoError(t, err)
					languages = append(languages, l)
				}
				d, misfits := label.Lay(content, form, languages, paper.Shipped())
				if len(misfits) > 0 && misfits[len(misfits)-1].Grave {
					continue // it is not printed either
				}
				name := fmt.Sprintf("%s, %s, %v", what, form.ID, codes)
				shown, printed := b.shown(d), onPaper(t, d)
				same, off := compare(t, shown, printed)
				assert.Less(t, off, 0.02, "%s: share of the ink that is elsewhere", name)
				assert.Greater(t, same, 0.97, "%s: how alike they are", name)
				compared++
			}
		}
	}
	assert.GreaterOrEqual(t, compared, 10)
}

// shown is a drawing as a browser shows it.
func (b *browser) shown(d *label.Drawing) image.Image {
	b.t.Helper()
	w, h := d.WidthMM*pixelsPerMM, d.HeightMM*pixelsPerMM
	page := fmt.Sprintf(`<!doctype html><body style="margin:0;background:#fff"><img style="display:block;width:%.0fpx;height:%.0fpx" src="data:image/svg+xml;base64,%s">`,
		w, h, base64.StdEncoding.EncodeToString(paper.SVG("A label", d)))
	b.do("open a label", chromedp.EmulateViewport(int64(w), int64(h)), chromedp.Navigate("data:text/html;base64,"+base64.StdEncoding.EncodeToString([]byte(page))))
	shot, err := chromedp.Run(b.ctx, chromedp.CaptureScreenshot())
	require.NoError(b.t, err)
	img, err := png.Decode(bytes.NewReader(shot))
	require.NoError(b.t, err)
	return img
}

// onPaper is a drawing as its PDF prints it, by poppler.
func onPaper(t *testing.T, d *label.Drawing) image.Image {
	t.Helper()
	doc, err := paper.PDF("A label", d.WidthMM, d.HeightMM, []paper.Placed{{Drawing: d}})
	require.NoError(t, err)
	folder := t.TempDir()
	file := filepath.Join(folder, "label.pdf")
	require.NoError(t, os.WriteFile(file, doc, 0o600))
	out, err := exec.Command("pdftoppm", "-png", "-singlefile", "-r", fmt.Sprint(25.4*pixelsPerMM), file, filepath.Join(folder, "label")).CombinedOutput()
	require.NoError(t, err, "%s", out)
	f, err := os.Open(filepath.Join(folder, "label.png"))
	require.NoError(t, err)
	defer f.Close()
	img, err := png.Decode(f)
	require.NoError(t, err)
	return img
}

// dark are the pixels of a picture as shares of black, evened out over a pixel on each
// side: two programs smooth edges in ways of their own.
func dark(img image.Image, w, h int) []float64 {
	raw := make([]float64, w*h)
	at := img.Bounds().Min
	for y := range h {
		for x := range w {
			r, g, b, _ := img.At(at.X+x, at.Y+y).RGBA()
			raw[y*w+x] = 1 - float64(r+g+b)/(3*0xffff)
		}
	}
	out := make([]float64, w*h)
	for y := 1; y < h-1; y++ {
		for x := 1; x < w-1; x++ {
			sum := 0.0
			for _, dy := range []int{-1, 0, 1} {
				for _, dx := range []int{-1, 0, 1} {
					sum += raw[(y+dy)*w+x+dx]
				}
			}
			out[y*w+x] = sum / 9
		}
	}
	return out
}

// compare says how alike two pictures are (their correlation), and which share of the
// ink stands where the other has none.
func compare(t *testing.T, a, b image.Image) (alike, elsewhere float64) {
	t.Helper()
	w, h := min(a.Bounds().Dx(), b.Bounds().Dx()), min(a.Bounds().Dy(), b.Bounds().Dy())
	assert.InDelta(t, a.Bounds().Dx(), b.Bounds().Dx(), 1)
	assert.InDelta(t, a.Bounds().Dy(), b.Bounds().Dy(), 1)
	one, other := dark(a, w, h), dark(b, w, h)
	var ab, aa, bb, ink, off float64
	for i := range one {
		ab += one[i] * other[i]
		aa += one[i] * one[i]
		bb += other[i] * other[i]
		ink += one[i] + other[i]
		if d := math.Abs(one[i] - other[i]); d > 0.35 {
			off += d
		}
	}
	require.Positive(t, aa*bb)
	return ab / math.Sqrt(aa*bb), off / ink
}
