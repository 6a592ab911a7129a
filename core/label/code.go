package label

import (
	"slices"
	"strings"
)

// placeCode puts the code into the lower right corner, or the middle of a lid.
func (p *page) placeCode() {
	if p.modules == 0 {
		return
	}
	side := float64(p.modules) * moduleMM
	quiet := quietZone * moduleMM
	c := &Code{URL: p.content.URL, SideMM: side, X: p.WidthMM - max(marginMM, quiet) - side, Y: p.HeightMM - max(marginMM, quiet) - side}
	if !p.form.Round {
		p.typed(c)
	}
	if p.form.Round {
		c.X, c.Y = (p.WidthMM-side)/2, p.HeightMM*0.93-side
	}
	p.wide = max(p.wide, quiet-c.X, quiet-c.Y)
	p.Code = c
}

// typed writes the address of a code along the lower edge, or under the code where the page is
// short of room, for who has no camera at hand, and moves the code above it. Every address of a print takes as many lines, whatever its letters.
func (p *page) typed(c *Code) {
	size := LeastXHeightMM / p.face.XHeight(Plain)
	const digits = "0123456789abcdef"
	widest := 0.0
	for _, r := range digits {
		widest = max(widest, p.face.Width(Plain, string(r), size))
	}
	if p.addressUnder { // a line of wide ones reaches a little into the margin
		widest = p.face.Width(Plain, digits, size) / float64(len(digits))
	}
	// a line ends after a stroke where the next stretch does not fit beside it
	var lines []string
	line, wide := "", 0.0
	text := strings.TrimPrefix(strings.TrimPrefix(c.URL, "https://"), "http://")
	most := p.WidthMM - 2*marginMM
	if p.addressUnder {
		most = c.SideMM
	}
	takes := func(r rune) float64 {
		if strings.ContainsRune(digits, r) {
			return widest
		}
		return p.face.Width(Plain, string(r), size)
	}
	for _, stretch := range strings.SplitAfter(text, "/") {
		length := 0.0
		for _, r := range stretch {
			length += takes(r)
		}
		if !p.addressUnder && line != "" && wide+length > most && length <= most {
			lines, line, wide = append(lines, line), "", 0
		}
		for _, r := range stretch {
			if wide+takes(r) > most {
				lines, line, wide = append(lines, line), "", 0
			}
			line, wide = line+string(r), wide+takes(r)
		}
	}
	lines = append(lines, line)
	high := float64(len(lines)) * size * lineHeight
	if !p.addressUnder {
		p.typedMM = high
	}
	c.addressUnder = p.addressUnder
	c.Y = p.HeightMM - marginMM - high - quietZone*moduleMM - c.SideMM
	for i, line := range lines {
		x := p.WidthMM - marginMM - p.face.Width(Plain, line, size)
		if p.addressUnder {
			x = c.X
		}
		y := p.HeightMM - marginMM - high + float64(i)*size*lineHeight + size*0.95
		p.Texts = append(p.Texts, Text{X: x, Y: y, SizeMM: size, Style: Plain, Text: line, ofCode: true})
	}
}

// WithURL is a drawing with another address, as long as its own: in its code, and under it
// where it stands there to be typed.
func (d *Drawing) WithURL(url string, face Face) *Drawing {
	if d.Code == nil || url == "" {
		return d
	}
	out, code := *d, *d.Code
	code.URL = url
	out.Code = &code
	out.Texts = slices.DeleteFunc(slices.Clone(d.Texts), func(t Text) bool { return t.ofCode })
	if len(out.Texts) < len(d.Texts) {
		p := page{Drawing: &out, face: face, addressUnder: code.addressUnder}
		p.typed(&code)
	}
	return &out
}
