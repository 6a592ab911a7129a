package paper

import (
	"encoding/xml"
	"fmt"
	"strconv"
	"strings"

	"keencrock/core/label"
)

var hex = map[label.Colour]string{label.Black: "#000", label.Red: "#c81020", label.White: "#fff"}

// SVG writes a drawing as a picture at true size. Its letters are drawn as outlines, from
// the same fonts and at the same places as on paper: no browser, and no reader's own least
// size of type, can set them otherwise. title is what a reader of the screen is told, and
// after it what stands on the label.
func SVG(title string, d *label.Drawing) []byte {
	var b strings.Builder
	n := func(v float64) string { return strconv.FormatFloat(v, 'f', -1, 32) }
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" width="%smm" height="%smm" viewBox="0 0 %s %s" role="img">`, n(d.WidthMM), n(d.HeightMM), n(d.WidthMM), n(d.HeightMM))
	fmt.Fprintf(&b, "<title>%s</title><desc>%s</desc>", escape(title), escape(words(d)))
	if d.Round {
		fmt.Fprintf(&b, `<circle cx="%s" cy="%s" r="%s" fill="#fff"/>`, n(d.WidthMM/2), n(d.HeightMM/2), n(d.WidthMM/2))
	} else {
		fmt.Fprintf(&b, `<rect width="%s" height="%s" fill="#fff"/>`, n(d.WidthMM), n(d.HeightMM))
	}
	polygons(&b, d.Polygons)
	if c := d.Code; c != nil {
		rows := code(c.URL)
		module := c.SideMM / float64(len(rows))
		b.WriteString(`<path shape-rendering="crispEdges" d="`)
		stripes(rows, func(x, y, wide int) {
			fmt.Fprintf(&b, "M%.3f %.3fh%.3fv%.3fh-%.3fz", c.X+float64(x)*module, c.Y+float64(y)*module, module*float64(wide), module, module*float64(wide))
		})
		b.WriteString(`"/>`)
	}
	letters(&b, d.Texts)
	b.WriteString("</svg>")
	return []byte(b.String())
}

// words are what stands on a drawing, as it is read.
func words(d *label.Drawing) string {
	lines := make([]string, len(d.Texts))
	for i, t := range d.Texts {
		lines[i] = t.Text
	}
	return strings.Join(lines, " ")
}

// letters draws texts as outlines. Each letter stands once, to a size of 1, and is put
// wherever it is used.
func letters(b *strings.Builder, texts []label.Text) {
	face := Shipped()
	drawn := map[glyph]bool{}
	b.WriteString("<defs>")
	for _, t := range texts {
		for _, r := range t.Text {
			g := glyph{t.Style, r}
			if outline := face.outline(g); outline != "" && !drawn[g] {
				drawn[g] = true
				fmt.Fprintf(b, `<path id="%s" d="%s"/>`, g.id(), outline)
			}
		}
	}
	b.WriteString("</defs>")
	for _, t := range texts {
		fmt.Fprintf(b, `<g transform="translate(%.3f %.3f) scale(%.4f)">`, t.X, t.Y, t.SizeMM)
		x := 0.0
		for _, r := range t.Text {
			if g := (glyph{t.Style, r}); drawn[g] {
				fmt.Fprintf(b, `<use href="#%s" x="%.4f"/>`, g.id(), x)
			}
			x += face.Width(t.Style, string(r), 1)
		}
		b.WriteString("</g>")
	}
}

// CodeSVG is the code of an address alone, with its quiet zone; empty where it is too
// long for one.
func CodeSVG(title, url string) []byte {
	rows := code(url)
	if len(rows) == 0 {
		return nil
	}
	const quiet = 4
	side := len(rows) + 2*quiet
	var b strings.Builder
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %d %d" role="img"><title>%s</title><rect width="%d" height="%d" fill="#fff"/><path shape-rendering="crispEdges" d="`, side, side, escape(title), side, side)
	stripes(rows, func(x, y, n int) { fmt.Fprintf(&b, "M%d %dh%dv1h-%dz", x+quiet, y+quiet, n, n) })
	b.WriteString(`"/></svg>`)
	return []byte(b.String())
}

func escape(s string) string {
	var b strings.Builder
	_ = xml.EscapeText(&b, []byte(s)) // of a builder
	return b.String()
}

// PictogramSVG is a hazard pictogram alone.
func PictogramSVG(code string) []byte {
	const side = 100
	d := &label.Drawing{WidthMM: side, HeightMM: side, Polygons: label.Pictogram(code, 0, 0, side)}
	var b strings.Builder
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %d %d" role="img"><title>%s</title>`, side, side, escape(code))
	polygons(&b, d.Polygons)
	b.WriteString("</svg>")
	return []byte(b.String())
}

func polygons(b *strings.Builder, all []label.Polygon) {
	for _, p := range all {
		points := make([]string, len(p.Points))
		for i, q := range p.Points {
			points[i] = fmt.Sprintf("%.3f,%.3f", q.X, q.Y)
		}
		paint := fmt.Sprintf(`fill="%s"`, hex[p.Colour])
		if p.LineMM > 0 {
			paint = fmt.Sprintf(`fill="none" stroke="%s" stroke-width="%.3f"`, hex[p.Colour], p.LineMM)
		}
		fmt.Fprintf(b, `<polygon points="%s" %s/>`, strings.Join(points, " "), paint)
	}
}
