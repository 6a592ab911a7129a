package label

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"keencrock/core/wording"
)

// Style is a cut of the letters.
type Style uint8

// The cuts a label uses.
const (
	Plain Style = iota
	Bold
	Title
)

// Face measures letters, and the code of an address.
type Face interface {
	// Width is how wide a text is at a size, in mm.
	Width(s Style, text string, sizeMM float64) float64
	// XHeight is how high a small letter is, CapHeight a figure, as a share of the size.
	XHeight(s Style) float64
	CapHeight(s Style) float64
	// Missing are letters it does not have.
	Missing(s Style, text string) []rune
	// CodeModules is how many modules the code of an address is wide, without its quiet
	// zone.
	CodeModules(url string) int
}

// Text is a line of text that begins at X on a baseline.
type Text struct {
	X, Y   float64
	SizeMM float64
	Style  Style
	Text   string
	ofCode bool // it says what the code holds
}

// Code is where the code of an address stands, without its quiet zone.
type Code struct {
	X, Y, SideMM float64
	URL          string
	addressUnder bool // its address stands under it
}

// Drawing is a label as it is drawn.
type Drawing struct {
	WidthMM, HeightMM float64
	Round             bool
	Texts             []Text
	Polygons          []Polygon
	Code              *Code
	// TextMM is the size of its running text, XHeightMM that of its small letters.
	TextMM, XHeightMM float64
}

// Misfit is what does not fit a label, and what to do about it. A grave one keeps it
// from being printed.
type Misfit struct {
	Block        string
	Says, Advice string
	Grave        bool
}

// What letters, symbols and codes have at least.
const (
	// LeastXHeightMM is the height of small letters (guidance on labels under
	// Regulation (EC) 1272/2008; from memory).
	LeastXHeightMM = 1.2
	mostTextMM     = 5.5
	stepTextMM     = 0.1
	marginMM       = 2.5
	lineHeight     = 1.14

	// Of Regulation (EC) 1272/2008, Annex I, 1.2.1: a symbol covers a fifteenth of the
	// label's least surface, which is 52 × 74 mm for packs up to three litres; where that
	// cannot be, no less than a square centimetre.
	leastSurfaceMM2 = 52.0 * 74.0
	leastSymbolMM   = 10.0
	symbolShare     = 1.0 / 15

	// moduleMM is the side of one module of a code: three dots of a printer of 203 dpi.
	moduleMM    = 3 * 25.4 / 203
	quietZone   = 4 // modules
	mostTitleMM = 14.0

	// Gaps between blocks, in sizes of the text: as they are where all is needed, and as
	// wide as they get where there is room.
	leastGap = 0.35
	mostGap  = 2.5
)

// SymbolMM is the side of the square of a pictogram on a form.
func SymbolMM(f Form) float64 {
	return max(leastSymbolMM, math.Sqrt(min(f.WidthMM*f.HeightMM, leastSurfaceMM2)*symbolShare))
}

// Lay lays a content out on a form: running text as large as fits, what may go to the
// leaflet left to it before anything is smaller than can be read.
func Lay(c *Content, f Form, languages []*wording.Language, face Face) (*Drawing, []Misfit) {
	blocks := c.blocks(f, languages)
	misfits := c.missing(f, languages, face)
	if c.Signal != "" && f.WidthMM*f.HeightMM < leastSurfaceMM2-1 && slices.Contains(f.Blocks, "statements") {
		misfits = append(misfits, Misfit{Block: "signal", Says: fmt.Sprintf("%g × %g mm is less than the 52 × 74 mm that a label with a hazard has where it can.", f.WidthMM, f.HeightMM), Advice: "Take a larger one where the jar has room for it."})
	}
	least := LeastXHeightMM / face.XHeight(Plain)
	modules := 0
	if c.URL != "" && slices.Contains(f.Blocks, "qr") {
		modules = face.CodeModules(c.URL)
	}
	at := page{content: c, form: f, languages: languages, face: face, modules: modules, symbolMM: SymbolMM(f)}
	d, left, over := at.fit(blocks, least)
	if (over > 0 || len(left) > 0) && modules > 0 && !f.Round { // what is used says more than a line that is easy to type
		under := at
		under.addressUnder = true
		if d2, left2, over2 := under.fit(blocks, least); over > 0 || len(left2) < len(left) {
			at, d, left, over = under, d2, left2, over2
		}
	}
	if over > 0 && len(c.Pictograms) > 0 && at.symbolMM > leastSymbolMM {
		smaller := at
		smaller.symbolMM = leastSymbolMM
		if d2, left2, over2 := smaller.fit(blocks, least); over2 <= 0 {
			d, left, over = d2, left2, 0
			misfits = append(misfits, Misfit{Block: "pictograms", Says: fmt.Sprintf("The symbols are %g mm, as small as they may be: 16 mm where there is room.", leastSymbolMM), Advice: "Take a larger label where the jar has room for it."})
		}
	}
	misfits = append(misfits, leftOut(left)...)
	if over > 0 {
		misfits = append(misfits, tooSmall(blocks, over))
	}
	return d, misfits
}

// fit lays blocks out in letters as large as fit, down to a least size, leaving those
// that may go to the leaflet out one by one; over is by how many mm it does not fit.
func (at page) fit(blocks []block, least float64) (d *Drawing, left []string, over float64) {
	newPage := func(size float64) *page {
		p := at
		p.Drawing, p.size, p.y = &Drawing{WidthMM: at.form.WidthMM, HeightMM: at.form.HeightMM, Round: at.form.Round}, size, marginMM
		p.gap = leastGap
		return &p
	}
	// spread draws what fits once more, its blocks as far apart as there is room for
	spread := func(size float64, p *page) *Drawing {
		low, high := leastGap, mostGap
		for range 6 {
			wider := newPage(size)
			wider.gap = (low + high) / 2
			if wider.draw(blocks, len(left) > 0) <= 0 {
				low, p = wider.gap, wider
			} else {
				high = wider.gap
			}
		}
		return p.done(size)
	}
	for {
		for size := mostTextMM; ; size = max(size-stepTextMM, least) {
			p := newPage(size)
			if over = p.draw(blocks, len(left) > 0); over <= 0 {
				return spread(size, p), left, 0
			}
			if size == least {
				d = p.done(size)
				break
			}
		}
		next := -1
		for i, b := range blocks {
			if b.optional > 0 && (next < 0 || b.optional > blocks[next].optional) {
				next = i
			}
		}
		if next < 0 {
			return d, left, over
		}
		left = append(left, blocks[next].id)
		blocks = slices.Delete(slices.Clone(blocks), next, next+1)
	}
}

// tooSmall says what to shorten where what must stand on a label does not fit.
func tooSmall(blocks []block, overMM float64) Misfit {
	longest, length := "", 0
	for _, b := range blocks {
		if n := len(strings.Join(b.text, " ")); n > length && b.id != "statements" && b.id != "precautions" {
			longest, length = b.id, n
		}
	}
	m := Misfit{Block: "size", Grave: true, Says: fmt.Sprintf("What has to stand on it is %.0f mm too large, in letters as small as can be read.", math.Ceil(overMM))}
	m.Advice = "Take a larger label, or two: front and back."
	if longest != "" && length > 60 {
		m.Advice = fmt.Sprintf("Take a larger label or one language less, or shorten the %s.", blockName(longest))
	}
	return m
}

func blockName(id string) string {
	return strings.NewReplacer("-", " ", "for", "kind").Replace(id)
}

func leftOut(left []string) (out []Misfit) {
	for _, id := range left {
		out = append(out, Misfit{Block: id, Says: fmt.Sprintf("No room for “%s”.", blockName(id)), Advice: "Put it on a leaflet; the label says so."})
	}
	return out
}

// missing names letters that cannot be drawn: never printed as boxes.
func (c *Content) missing(f Form, languages []*wording.Language, face Face) []Misfit {
	var letters []rune
	look := func(s Style, text string) {
		for _, r := range face.Missing(s, text) {
			if !slices.Contains(letters, r) {
				letters = append(letters, r)
			}
		}
	}
	look(Title, c.Name)
	for _, b := range c.blocks(f, languages) {
		for _, t := range b.text {
			look(Plain, t)
		}
	}
	if len(letters) == 0 {
		return nil
	}
	return []Misfit{{Block: "letters", Grave: true, Says: fmt.Sprintf("The letters of the labels have no “%s”.", string(letters)), Advice: "Write it in Latin letters."}}
}

// page is a label while it is drawn.
type page struct {
	*Drawing
	content   *Content
	form      Form
	languages []*wording.Language
	face      Face
	size      float64
	y         float64 // of the next line's top
	symbolMM  float64 // side of a pictogram
	// symbolsX and symbolsY are how far pictograms reach from the upper left; text goes
	// beside them where there is room, then under them.
	symbolsX, symbolsY float64
	modules            int     // that its code is wide; 0 for none
	typedMM            float64 // that the address of its code takes at the lower edge
	addressUnder       bool    // the address stands under its code, broken up, not along the lower edge
	wide               float64 // by how many mm something is too wide for it
	gap                float64 // between blocks, in sizes of the text
}

func (p *page) done(size float64) *Drawing {
	p.TextMM, p.XHeightMM = size, size*p.face.XHeight(Plain)
	return p.Drawing
}

// draw puts everything on the page, and returns by how many mm it is too long.
func (p *page) draw(blocks []block, leaflet bool) (over float64) {
	if p.form.Round { // where the circle is wide enough to begin
		p.y = p.HeightMM * 0.14
	}
	p.placeCode()
	if p.content.Name != "" {
		p.name()
	}
	for _, id := range p.form.Blocks {
		switch id {
		case "net":
			p.net()
		case "pictograms":
			p.pictograms()
		}
		i := slices.IndexFunc(blocks, func(b block) bool { return b.id == id })
		if i < 0 {
			continue
		}
		p.block(&blocks[i])
	}
	if leaflet {
		b := block{}
		for _, l := range p.languages {
			b.text = append(b.text, l.Words["leaflet"])
		}
		p.block(&b)
	}
	p.y = max(p.y, p.symbolsY)
	bottom := p.HeightMM - marginMM - p.typedMM
	if p.form.Round {
		bottom = p.HeightMM * 0.9
	}
	if p.wide > 1e-6 { // no shorter text mends that
		return max(p.y-bottom, p.wide)
	}
	return p.y - bottom
}

// span is from where to where a line may go at a height.
func (p *page) span(top, height float64) (x0, x1 float64) {
	x0, x1 = marginMM, p.WidthMM-marginMM
	if p.form.Round {
		r := p.WidthMM/2 - marginMM*0.7
		off := max(math.Abs(top-p.HeightMM/2), math.Abs(top+height-p.HeightMM/2))
		half := math.Sqrt(max(0, r*r-off*off))
		x0, x1 = p.WidthMM/2-half, p.WidthMM/2+half
	}
	if top < p.symbolsY {
		x0 = max(x0, p.symbolsX)
	}
	if c := p.Code; c != nil {
		quiet := quietZone * moduleMM
		switch {
		case top+height <= c.Y-quiet:
		case !p.form.Round:
			x1 = min(x1, c.X-quiet)
		case top < c.Y+c.SideMM+quiet:
			return x0, x0 // nothing stands beside it
		}
	}
	return x0, x1
}

// line writes words from the y on, and returns what did not fit on it.
func (p *page) line(style Style, size float64, words []string, x0, x1 float64) (rest []string) {
	n, width, space := 0, 0.0, p.face.Width(style, " ", size)
	for n < len(words) {
		next := width + p.face.Width(style, words[n], size)
		if n > 0 {
			next += space
		}
		if next > x1-x0 && n > 0 {
			break
		}
		width = next
		n++
	}
	text := strings.Join(words[:n], " ")
	x := x0
	if p.form.Round {
		x = (x0 + x1 - width) / 2
	}
	p.Texts = append(p.Texts, Text{X: x, Y: p.y + size*0.95, SizeMM: size, Style: style, Text: strings.ReplaceAll(text, noBreak, " ")})
	p.y += size * lineHeight
	return words[n:]
}

// noBreak keeps a number with its unit.
const noBreak = "\u00a0"

var tied = strings.NewReplacer(" %", noBreak+"%", " ml", noBreak+"ml", " g ", noBreak+"g ", " kg", noBreak+"kg")

// split are the words of a text that may stand on lines of their own.
func split(text string) []string {
	return strings.FieldsFunc(tied.Replace(text), func(r rune) bool { return r == ' ' || r == '\n' || r == '\t' || r == '\r' })
}

// tooFar is where a page is given up.
const tooFar = 2000.0

// paragraph writes a text within the span of the page, or part of it: column of so many.
func (p *page) paragraph(style Style, size float64, text string, column, columns int) {
	words := split(text)
	for len(words) > 0 && p.y < tooFar {
		x0, x1 := p.span(p.y, size*lineHeight)
		const gutter = 3.0
		each := (x1 - x0 - gutter*float64(columns-1)) / float64(columns)
		x0 += float64(column) * (each + gutter)
		if each < p.face.Width(style, words[0], size) && each < p.WidthMM*0.3 {
			p.y += size * lineHeight // no room beside the code: under it
			continue
		}
		if w := p.face.Width(style, words[0], size); w > each {
			p.wide = max(p.wide, w-each)
		}
		words = p.line(style, size, words, x0, x0+each)
	}
}

// sideBySideMM is from which width on two languages stand side by side.
const sideBySideMM = 70.0

func (p *page) block(b *block) {
	style, size := Plain, p.size
	if b.bold {
		style, size = Bold, p.size*1.35
	}
	x0, x1 := p.span(p.y, size)
	switch {
	case len(b.text) == 2 && len(b.text[0])+len(b.text[1]) < 40:
		p.paragraph(style, size, b.text[0]+" / "+b.text[1], 0, 1)
	case len(b.text) == 2 && x1-x0 >= sideBySideMM:
		top, lowest := p.y, p.y
		for i, text := range b.text {
			p.y = top
			p.paragraph(style, size, text, i, 2)
			lowest = max(lowest, p.y)
		}
		p.y = lowest
	default:
		for _, text := range b.text {
			p.paragraph(style, size, text, 0, 1)
		}
	}
	p.y += p.size * p.gap
}

func (p *page) name() {
	words := split(p.content.Name)
	most := min(mostTitleMM, p.HeightMM*0.14, 2.6*p.size) // it gives way with the rest
	const least = 3.2
	for size := most; ; size -= 0.25 {
		x0, x1 := p.span(p.y, size*lineHeight)
		fits := true
		for _, w := range words {
			fits = fits && p.face.Width(Title, w, size) <= x1-x0
		}
		if lines := p.face.Width(Title, p.content.Name, size) / (x1 - x0); (fits && lines <= 1) || size <= least || fits && lines <= 1.8 && size < most*0.7 {
			p.paragraph(Title, size, p.content.Name, 0, 1)
			p.y += 0.6 + p.size*(p.gap-leastGap)
			return
		}
	}
}

func (p *page) net() {
	var texts []string
	for _, l := range p.languages {
		if t := p.content.NetWords(l); t != "" && !slices.Contains(texts, t) {
			texts = append(texts, t)
		}
	}
	if len(texts) == 0 {
		return
	}
	size := max(p.size, LettersMM(p.content.nominal())/p.face.CapHeight(Bold))
	p.paragraph(Bold, size, strings.Join(texts, " / "), 0, 1)
	p.y += p.size * (0.3 + p.gap - leastGap)
}

func (p *page) pictograms() {
	codes := p.content.Pictograms
	if len(codes) == 0 {
		return
	}
	side := p.symbolMM * math.Sqrt2 // of the square around the one on its point
	const gap = 1.5
	x0, x1 := p.span(p.y, side)
	x := x0
	if row := float64(len(codes)) * (side + gap); x1-x0-row < besideMM && x1-x0-side-gap >= besideMM && len(codes) <= 3 { // one under the other
		for i, code := range codes {
			p.Polygons = append(p.Polygons, Pictogram(code, x, p.y+float64(i)*(side+gap), side)...)
		}
		p.symbolsX, p.symbolsY = x+side+gap, p.y+row
		return
	}
	for _, code := range codes {
		if x+side > x1+0.01 && x > x0 {
			x = x0
			p.y += side + gap
		}
		p.wide = max(p.wide, x+side-x1)
		p.Polygons = append(p.Polygons, Pictogram(code, x, p.y, side)...)
		x += side + gap
	}
	if x1-x >= besideMM { // the row that is last
		p.symbolsX, p.symbolsY = x, p.y+side+gap
		return
	}
	p.y += side + gap
}

// besideMM is how much room text needs beside the pictograms.
const besideMM = 24.0
