package paper

import (
	"strconv"
	"strings"

	"keencrock/core/label"
)

// Document is a paper to be read: a delivery note, a price list, the record of a batch.
type Document struct {
	Title string
	Under string // beside the title: whose it is, of which day
	Parts []Part
	Foot  string // on each page
}

// Part is one of a document, under a heading: sentences, then pairs, then a table, then
// lines to sign on.
type Part struct {
	Heading string
	Text    []string
	Pairs   [][2]string // what, and what it is
	Table   Table
	Sign    []string // under each line for a name
}

// Table is rows under heads. Wide are the shares of the width that its columns take.
type Table struct {
	Heads []string
	Wide  []float64
	Right []bool // set to the right, as figures are
	Rows  [][]string
}

// Sizes of a document, in mm: of an A4 page, its margins and its letters.
const (
	pageWide, pageHigh = 210, 297
	marginX, marginY   = 18, 18
	lettersMM          = 3.5
	headingMM          = 4.6
	titleMM            = 7.2
	smallMM            = 2.8
	leading            = 1.42
	cellGapMM          = 3
	ruleMM             = 0.2
)

// A4 lays a document out on pages of A4 and writes them as PDF.
func (d *Document) A4() ([]byte, error) {
	w := &writer{face: Shipped(), foot: d.Foot}
	w.newPage()
	w.line(label.Title, titleMM, marginX, d.Title)
	w.y += titleMM * 0.3
	if d.Under != "" {
		w.paragraph(label.Plain, lettersMM, d.Under)
	}
	for i := range d.Parts {
		w.part(&d.Parts[i])
	}
	placed := make([]Placed, len(w.pages))
	for i, page := range w.pages {
		n := strconv.Itoa(i+1) + " / " + strconv.Itoa(len(w.pages))
		page.Texts = append(page.Texts, label.Text{X: pageWide - marginX - w.face.Width(label.Plain, n, smallMM), Y: pageHigh - marginY/2, SizeMM: smallMM, Text: n, Style: label.Plain})
		placed[i] = Placed{Drawing: page, Place: label.Place{Page: i}}
	}
	return PDF(d.Title, pageWide, pageHigh, placed)
}

// writer lays text out from the top of a page down.
type writer struct {
	face  *Face
	pages []*label.Drawing
	page  *label.Drawing
	y     float64 // the line that was written last
	foot  string
}

func (w *writer) newPage() {
	w.page = &label.Drawing{WidthMM: pageWide, HeightMM: pageHigh}
	w.pages = append(w.pages, w.page)
	w.y = marginY
	if w.foot != "" {
		w.page.Texts = append(w.page.Texts, label.Text{X: marginX, Y: pageHigh - marginY/2, SizeMM: smallMM, Text: w.fit(label.Plain, smallMM, w.foot, pageWide-3*marginX)[0], Style: label.Plain})
	}
}

// room begins a new page where so much does not fit on this one.
func (w *writer) room(mm float64) (fresh bool) {
	if w.y+mm <= pageHigh-marginY {
		return false
	}
	w.newPage()
	return true
}

func (w *writer) line(s label.Style, mm, x float64, text string) {
	w.room(mm * leading)
	w.y += mm * leading
	w.page.Texts = append(w.page.Texts, label.Text{X: x, Y: w.y, SizeMM: mm, Text: text, Style: s})
}

func (w *writer) paragraph(s label.Style, mm float64, text string) {
	for _, l := range w.fit(s, mm, text, pageWide-2*marginX) {
		w.line(s, mm, marginX, l)
	}
}

// fit breaks a text into lines no wider than so much.
func (w *writer) fit(s label.Style, mm float64, text string, wide float64) (lines []string) {
	for _, given := range strings.Split(text, "\n") {
		now := ""
		for _, word := range strings.Fields(given) {
			for w.face.Width(s, word, mm) > wide && len([]rune(word)) > 1 { // longer than a line
				letters := []rune(word)
				n := len(letters)
				for n > 1 && w.face.Width(s, string(letters[:n]), mm) > wide {
					n--
				}
				if now != "" {
					lines, now = append(lines, now), ""
				}
				lines, word = append(lines, string(letters[:n])), string(letters[n:])
			}
			if with := strings.TrimSpace(now + " " + word); now == "" || w.face.Width(s, with, mm) <= wide {
				now = with
				continue
			}
			lines, now = append(lines, now), word
		}
		lines = append(lines, now)
	}
	return lines
}

func (w *writer) rule() {
	y := w.y + lettersMM*0.45
	w.page.Polygons = append(w.page.Polygons, label.Polygon{Colour: label.Black, Points: []label.Point{
		{X: marginX, Y: y}, {X: pageWide - marginX, Y: y}, {X: pageWide - marginX, Y: y + ruleMM}, {X: marginX, Y: y + ruleMM}}})
}

func (w *writer) part(p *Part) {
	w.y += lettersMM
	if p.Heading != "" {
		w.room(headingMM*leading + 3*lettersMM*leading)
		w.line(label.Bold, headingMM, marginX, p.Heading)
	}
	for _, t := range p.Text {
		w.paragraph(label.Plain, lettersMM, t)
	}
	const pairX = marginX + 42
	for _, pair := range p.Pairs {
		lines := w.fit(label.Plain, lettersMM, pair[1], pageWide-marginX-pairX)
		w.line(label.Bold, lettersMM, marginX, pair[0])
		w.page.Texts = append(w.page.Texts, label.Text{X: pairX, Y: w.y, SizeMM: lettersMM, Text: lines[0], Style: label.Plain})
		for _, l := range lines[1:] {
			w.line(label.Plain, lettersMM, pairX, l)
		}
	}
	if len(p.Table.Heads) > 0 {
		w.table(&p.Table)
	}
	for _, under := range p.Sign {
		w.room(4 * lettersMM * leading)
		w.y += 2 * lettersMM * leading
		w.rule()
		w.line(label.Plain, smallMM, marginX, under)
	}
}

func (w *writer) table(t *Table) {
	w.row(t, t.Heads, label.Bold)
	w.rule()
	for _, row := range t.Rows {
		high := w.high(t, row, label.Plain)
		if w.room(high) {
			w.row(t, t.Heads, label.Bold)
			w.rule()
		}
		w.row(t, row, label.Plain)
	}
}

// cells are the lines of each cell of a row.
func (w *writer) cells(t *Table, row []string, s label.Style) (cells [][]string, most int) {
	for i, text := range row {
		lines := w.fit(s, lettersMM, text, t.Wide[i]*(pageWide-2*marginX)-cellGapMM)
		cells = append(cells, lines)
		most = max(most, len(lines))
	}
	return cells, most
}

func (w *writer) high(t *Table, row []string, s label.Style) float64 {
	_, most := w.cells(t, row, s)
	return (float64(most)*leading + 0.35) * lettersMM
}

func (w *writer) row(t *Table, row []string, s label.Style) {
	cells, most := w.cells(t, row, s)
	w.y += 0.35 * lettersMM
	top, x := w.y, float64(marginX)
	for i, lines := range cells {
		wide := t.Wide[i] * (pageWide - 2*marginX)
		for k, l := range lines {
			at := x
			if i < len(t.Right) && t.Right[i] {
				at = x + wide - cellGapMM - w.face.Width(s, l, lettersMM)
			}
			w.page.Texts = append(w.page.Texts, label.Text{X: at, Y: top + float64(k+1)*lettersMM*leading, SizeMM: lettersMM, Text: l, Style: s})
		}
		x += wide
	}
	w.y = top + float64(most)*lettersMM*leading
}
