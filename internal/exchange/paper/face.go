// Package paper draws what package label has laid out: as PDF with its fonts in it, and
// as SVG.
package paper

import (
	"embed"
	"fmt"
	"strings"
	"sync"

	"github.com/boombuler/barcode/qr"
	"golang.org/x/image/font"
	"golang.org/x/image/font/sfnt"
	"golang.org/x/image/math/fixed"

	"keencrock/core/label"
)

// The fonts of the page, cut to Latin letters, under the SIL Open Font License (see
// fonts/LICENSE-*). Of each cut a file holds the letters of western Europe, another
// those of the rest of Europe.
//
//go:embed fonts/*.ttf
var fontFiles embed.FS

var cuts = [...]struct{ name, file string }{
	label.Plain: {"plain", "atkinson-hyperlegible-next-%s-400"},
	label.Bold:  {"bold", "atkinson-hyperlegible-next-%s-700"},
	label.Title: {"title", "zilla-slab-%s-700"},
}

// halves are the two files of a cut.
var halves = [...]string{"latin", "latin-ext"}

// Face measures letters of the shipped fonts. It is safe for use by many goroutines.
type Face struct {
	cuts [len(cuts)][len(halves)]*half
}

// half is one file of a cut.
type half struct {
	data []byte
	font *sfnt.Font
	em   float64
	xMM  float64 // height of small letters, and of capitals, to a size of 1
	capH float64

	// advance is how wide each letter is, to a size of 1; index is its number in the font.
	advance map[rune]float64
	index   map[rune]sfnt.GlyphIndex
}

// glyph is a letter of a cut.
type glyph struct {
	style label.Style
	of    rune
}

// id names a letter in a picture.
func (g glyph) id() string { return fmt.Sprintf("%s-%x", cuts[g.style].name, g.of) }

// outline is how a letter is drawn, as the path of an SVG to a size of 1; empty for what
// has none, as a space.
func (f *Face) outline(g glyph) string {
	i, ok := f.half(g.style, g.of)
	if !ok {
		return ""
	}
	h := f.cuts[g.style][i]
	var buffer sfnt.Buffer
	segments, err := h.font.LoadGlyph(&buffer, h.index[g.of], fixed.I(int(h.em)), nil)
	if err != nil {
		return ""
	}
	var b strings.Builder
	at := func(p fixed.Point26_6) string {
		return fmt.Sprintf("%.4g %.4g", float64(p.X)/64/h.em, float64(p.Y)/64/h.em)
	}
	for n, s := range segments {
		switch s.Op {
		case sfnt.SegmentOpMoveTo:
			if n > 0 {
				b.WriteByte('Z')
			}
			b.WriteString("M" + at(s.Args[0]))
		case sfnt.SegmentOpLineTo:
			b.WriteString("L" + at(s.Args[0]))
		case sfnt.SegmentOpQuadTo:
			b.WriteString("Q" + at(s.Args[0]) + " " + at(s.Args[1]))
		case sfnt.SegmentOpCubeTo:
			b.WriteString("C" + at(s.Args[0]) + " " + at(s.Args[1]) + " " + at(s.Args[2]))
		}
	}
	if b.Len() > 0 {
		b.WriteByte('Z')
	}
	return b.String()
}

// lastLetter is the last of the letters that are looked for: the Latin ones, and the
// marks and signs after them.
const lastLetter = 0x2300

// Shipped are the fonts that ship. It panics when they cannot be read, which a test
// rules out.
var Shipped = sync.OnceValue(func() *Face {
	f := &Face{}
	for style := range cuts {
		for i, name := range halves {
			h, err := readHalf("fonts/" + fmt.Sprintf(cuts[style].file, name) + ".ttf")
			if err != nil {
				panic(fmt.Sprintf("paper: %v", err))
			}
			f.cuts[style][i] = h
		}
	}
	return f
})

func readHalf(path string) (*half, error) {
	data, err := fontFiles.ReadFile(path)
	if err != nil {
		return nil, err
	}
	h := &half{data: data, advance: map[rune]float64{}, index: map[rune]sfnt.GlyphIndex{}}
	if h.font, err = sfnt.Parse(data); err != nil {
		return nil, fmt.Errorf("%s: %w", path, err)
	}
	em := h.font.UnitsPerEm()
	h.em = float64(em)
	var buffer sfnt.Buffer
	m, err := h.font.Metrics(&buffer, fixed.I(int(em)), font.HintingNone)
	if err != nil {
		return nil, fmt.Errorf("%s: %w", path, err)
	}
	h.xMM, h.capH = float64(m.XHeight)/64/h.em, float64(m.CapHeight)/64/h.em
	for r := rune(' '); r < lastLetter; r++ {
		i, err := h.font.GlyphIndex(&buffer, r)
		if err != nil || i == 0 {
			continue
		}
		a, err := h.font.GlyphAdvance(&buffer, i, fixed.I(int(em)), font.HintingNone)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", path, err)
		}
		h.advance[r], h.index[r] = float64(a)/64/h.em, i
	}
	return h, nil
}

// width of a letter at a size of 1; ok is false for one it does not have.
func (h *half) width(r rune) (w float64, ok bool) {
	w, ok = h.advance[r]
	return w, ok
}

// noBreak is a space that keeps words together, as wide as any.
const noBreak = '\u00a0'

// Width is how wide a text is at a size, in mm.
func (f *Face) Width(s label.Style, text string, sizeMM float64) (w float64) {
	for _, r := range text {
		if r == noBreak {
			r = ' '
		}
		for _, h := range f.cuts[s] {
			if a, ok := h.width(r); ok {
				w += a
				break
			}
		}
	}
	return w * sizeMM
}

// XHeight is how high a small letter is, to a size of 1.
func (f *Face) XHeight(s label.Style) float64 { return f.cuts[s][0].xMM }

// CapHeight is how high a capital or a figure is, to a size of 1.
func (f *Face) CapHeight(s label.Style) float64 { return f.cuts[s][0].capH }

// Missing are letters no cut of the style has.
func (f *Face) Missing(s label.Style, text string) (missing []rune) {
	for _, r := range text {
		if _, ok := f.half(s, r); !ok {
			missing = append(missing, r)
		}
	}
	return missing
}

func (f *Face) half(s label.Style, r rune) (i int, ok bool) {
	for i, h := range f.cuts[s] {
		if _, ok := h.width(r); ok {
			return i, true
		}
	}
	return 0, false
}

// run is a piece of text whose letters are in one file.
type run struct {
	half int
	text string
}

func (f *Face) runs(s label.Style, text string) (out []run) {
	for _, r := range text {
		i, _ := f.half(s, r)
		if n := len(out); n > 0 && out[n-1].half == i {
			out[n-1].text += string(r)
		} else {
			out = append(out, run{i, string(r)})
		}
	}
	return out
}

// CodeModules is how many modules the code of an address is wide; 0 where there can be
// none.
func (f *Face) CodeModules(url string) int {
	return len(code(url))
}

// code are the modules of the code of an address, row by row; nil where it is too long
// for one.
func code(url string) (rows [][]bool) {
	c, err := qr.Encode(url, qr.M, qr.Auto)
	if err != nil {
		return nil
	}
	b := c.Bounds()
	for y := b.Min.Y; y < b.Max.Y; y++ {
		row := make([]bool, b.Dx())
		for x := range row {
			red, _, _, _ := c.At(b.Min.X+x, y).RGBA()
			row[x] = red == 0
		}
		rows = append(rows, row)
	}
	return rows
}

// stripes are the dark modules of a code, joined along their rows: where each begins
// and how many it takes.
func stripes(rows [][]bool, each func(x, y, n int)) {
	for y, row := range rows {
		for x := 0; x < len(row); x++ {
			n := 0
			for x+n < len(row) && row[x+n] {
				n++
			}
			if n > 0 {
				each(x, y, n)
				x += n
			}
		}
	}
}
