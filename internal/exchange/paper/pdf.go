package paper

import (
	"fmt"
	"runtime"
	"sync"

	"github.com/signintech/gopdf"

	"keencrock/core/label"
)

// Placed is a drawing on a page of a PDF.
type Placed struct {
	*label.Drawing
	label.Place
	Cut bool // with marks where it is cut out
}

// Marks for the knife, in mm: how far from the corner they begin, how long and how thick
// they are.
const (
	markGapMM  = 0.4
	markMM     = 2.4
	markLineMM = 0.1
)

// cutMarks draws two short lines at each corner, outside the label.
func cutMarks(doc *gopdf.GoPdf, l Placed) {
	doc.SetStrokeColor(0, 0, 0)
	doc.SetLineWidth(pt(markLineMM))
	for _, x := range []float64{l.X, l.X + l.WidthMM} {
		for _, y := range []float64{l.Y, l.Y + l.HeightMM} {
			out := func(at, begin float64) float64 { // away from the label
				if at == begin {
					return -1
				}
				return 1
			}
			dx, dy := out(x, l.X), out(y, l.Y)
			doc.Line(pt(x+dx*markGapMM), pt(y), pt(x+dx*markMM), pt(y))
			doc.Line(pt(x), pt(y+dy*markGapMM), pt(x), pt(y+dy*markMM))
		}
	}
}

// pt makes points of mm.
func pt(mm float64) float64 { return mm * 72 / 25.4 }

var rgb = map[label.Colour][3]uint8{label.Black: {0, 0, 0}, label.Red: {200, 16, 32}, label.White: {255, 255, 255}}

// PDF writes drawings onto pages of a size in mm, at true size, with the letters that
// are used in it. title is what the document is called.
func PDF(title string, pageWidthMM, pageHeightMM float64, labels []Placed) ([]byte, error) {
	face := Shipped()
	doc := gopdf.GoPdf{}
	doc.Start(gopdf.Config{Unit: gopdf.UnitPT, PageSize: gopdf.Rect{W: pt(pageWidthMM), H: pt(pageHeightMM)}})
	doc.SetInfo(gopdf.PdfInfo{Title: title})
	for style := range cuts {
		for i := range halves {
			if err := doc.AddTTFFontData(family(label.Style(style), i), face.cuts[style][i].data); err != nil {
				return nil, fmt.Errorf("the letters of a label: %w", err)
			}
		}
	}
	page, codes := -1, codesOf(labels)
	for _, l := range labels {
		for ; page < l.Page; page++ {
			doc.AddPage()
		}
		if err := drawPDF(&doc, face, l, codes); err != nil {
			return nil, err
		}
	}
	return doc.GetBytesPdfReturnErr()
}

func family(s label.Style, half int) string { return cuts[s].name + halves[half] }

// codesOf works out the codes of labels, each once, on all cores: they are most of the
// work of a sheet.
func codesOf(labels []Placed) map[string][][]bool {
	codes := map[string][][]bool{}
	var urls []string
	for _, l := range labels {
		if l.Code == nil {
			continue
		}
		if _, seen := codes[l.Code.URL]; !seen {
			codes[l.Code.URL] = nil
			urls = append(urls, l.Code.URL)
		}
	}
	var all sync.WaitGroup
	rows := make([][][]bool, len(urls))
	workers := runtime.GOMAXPROCS(0)
	for w := range workers {
		all.Go(func() {
			for i := w; i < len(urls); i += workers {
				rows[i] = code(urls[i])
			}
		})
	}
	all.Wait()
	for i, url := range urls {
		codes[url] = rows[i]
	}
	return codes
}

func drawPDF(doc *gopdf.GoPdf, face *Face, l Placed, codes map[string][][]bool) error {
	if l.Cut {
		cutMarks(doc, l)
	}
	at := func(x, y float64) (float64, float64) { return pt(l.X + x), pt(l.Y + y) }
	for _, p := range l.Polygons {
		points := make([]gopdf.Point, len(p.Points))
		for i, q := range p.Points {
			points[i].X, points[i].Y = at(q.X, q.Y)
		}
		c := rgb[p.Colour]
		if p.LineMM > 0 {
			doc.SetStrokeColor(c[0], c[1], c[2])
			doc.SetLineWidth(pt(p.LineMM))
			doc.Polygon(points, "D")
			continue
		}
		doc.SetFillColor(c[0], c[1], c[2])
		doc.Polygon(points, "F")
	}
	if c := l.Code; c != nil {
		doc.SetFillColor(0, 0, 0)
		rows := codes[c.URL]
		module := c.SideMM / float64(len(rows))
		stripes(rows, func(x, y, n int) {
			left, top := at(c.X+float64(x)*module, c.Y+float64(y)*module)
			doc.RectFromUpperLeftWithStyle(left, top, pt(module*float64(n)), pt(module), "F")
		})
	}
	doc.SetTextColor(0, 0, 0)
	for _, t := range l.Texts {
		x := t.X
		for _, r := range face.runs(t.Style, t.Text) {
			if err := doc.SetFont(family(t.Style, r.half), "", pt(t.SizeMM)); err != nil {
				return err
			}
			doc.SetXY(at(x, t.Y))
			if err := doc.Text(r.text); err != nil {
				return fmt.Errorf("“%s”: %w", r.text, err)
			}
			x += face.Width(t.Style, r.text, t.SizeMM)
		}
	}
	return nil
}
