package colour

import (
	"cmp"
	"math"
	"slices"
)

// Photo is a picture: red, green, blue and one byte more for each pixel, row by row.
type Photo struct {
	Width, Height int
	Pix           []uint8
}

// Area is a part of a photo that is of one colour.
type Area struct {
	X, Y, Width, Height int // of the smallest upright frame round it, in pixels of the photo
	Share               float64
	Lab                 Lab     // after the light was balanced
	Spread              float64 // how far its parts are from that, in the middle (ΔE*ab)
}

// Swatch is what was found on a photo: a white and a grey patch, by which its light is balanced,
// and the areas beside them, the largest first.
type Swatch struct {
	White, Grey *Area
	Areas       []Area
	Sure        bool
	Says        string // why it is not
}

// Bounds of finding. Our own, tried on drawn pictures.
const (
	longSide   = 320   // cells that a photo is looked at in, along its longer side
	leastShare = 0.004 // of the picture, that an area has at the least
	nextTo     = 3.2   // ΔE*ab from one cell to the next of the same area
	drift      = 7.0   // and from the middle of the area: light falls off over it
	neutral    = 0.045 // by how much the chromaticities of white and grey may differ
	leastRatio = 2.6   // of the light that white and grey send back
	mostRatio  = 8.0
	leastWhite = 0.35 // of the light of a full channel: under it the photo is too dark
)

type cell struct{ r, g, b float64 } // light, from 0 to 1

func (c cell) sum() float64 { return c.r + c.g + c.b }

// region is an area while it is looked for.
type region struct {
	cells      []int
	mean       cell
	x0, y0     int
	x1, y1     int
	nearBorder int
}

// FindSwatch finds patches and areas on a photo. Nothing is taken for sure that cannot be told:
// then Sure is false and Says tells why.
func FindSwatch(p *Photo) *Swatch {
	if p.Width < 8 || p.Height < 8 || len(p.Pix) < 4*p.Width*p.Height {
		return &Swatch{Areas: []Area{}, Says: "The picture is too small to find anything on it."}
	}
	size := max(1, (max(p.Width, p.Height)+longSide-1)/longSide)
	w, h := p.Width/size, p.Height/size
	cells := looked(p, size, w, h)
	regions := grow(cells, w, h)
	s := &Swatch{Areas: []Area{}}
	white, grey := patches(regions, cells, w*h)
	gain := cell{1, 1, 1}
	if white != nil {
		top := max(white.mean.r, white.mean.g, white.mean.b)
		gain = cell{top / white.mean.r, top / white.mean.g, top / white.mean.b}
	}
	for _, r := range regions {
		a := r.area(cells, gain, size, w, h)
		switch r {
		case white:
			s.White = &a
		case grey:
			s.Grey = &a
		default:
			s.Areas = append(s.Areas, a)
		}
	}
	slices.SortStableFunc(s.Areas, func(a, b Area) int { return cmp.Compare(b.Share, a.Share) })
	s.Says = doubt(s, white, grey)
	s.Sure = s.Says == ""
	return s
}

// Cloth guesses which of the areas is the clean cloth, and which the stain: the lightest area
// of any size, and the largest that lies within it. A stain that is gone is of the colour of the
// cloth, and no area of its own: then stain is −1. Both are −1 where nothing was found.
func (s *Swatch) Cloth() (cloth, stain int) {
	cloth, stain = -1, -1
	for i := range s.Areas {
		if cloth < 0 || s.Areas[i].Lab.L > s.Areas[cloth].Lab.L {
			cloth = i
		}
	}
	for i := range s.Areas {
		if i != cloth && s.Areas[i].within(&s.Areas[cloth]) && (stain < 0 || s.Areas[i].Share > s.Areas[stain].Share) {
			stain = i
		}
	}
	return cloth, stain
}

func (a *Area) within(of *Area) bool {
	return a.X >= of.X && a.Y >= of.Y && a.X+a.Width <= of.X+of.Width && a.Y+a.Height <= of.Y+of.Height
}

// doubt is why what was found is not sure; empty where it is.
func doubt(s *Swatch, white, grey *region) string {
	switch {
	case white == nil:
		return "No white and no grey patch are found side by side in the same light: lay them beside the cloth, flat, out of the shadow."
	case max(white.mean.r, white.mean.g, white.mean.b) < leastWhite:
		return "The photo is too dark: the white patch is grey on it."
	case white.mean.sum()/grey.mean.sum() < 3.2 && min(white.mean.r, white.mean.g, white.mean.b) > 0.985:
		return "The photo is overexposed: white is beyond what it holds. Take it darker."
	case len(s.Areas) == 0:
		return "Nothing but the patches is found."
	case s.White.Spread > 4 || s.Grey.Spread > 4:
		return "A shadow lies on a patch, or the picture is too grainy."
	}
	return ""
}

// looked is a photo as cells of light.
func looked(p *Photo, size, w, h int) []cell {
	var light [256]float64
	for i := range light {
		light[i] = Linear(float64(i) / 255)
	}
	out := make([]cell, w*h)
	n := float64(size * size)
	for y := range h {
		for x := range w {
			var c cell
			for dy := range size {
				at := 4 * ((y*size+dy)*p.Width + x*size)
				for dx := range size {
					i := at + 4*dx
					c.r, c.g, c.b = c.r+light[p.Pix[i]], c.g+light[p.Pix[i+1]], c.b+light[p.Pix[i+2]]
				}
			}
			out[y*w+x] = cell{c.r / n, c.g / n, c.b / n}
		}
	}
	if size < 3 { // few pixels a cell: what is grainy is smoothed over its neighbours
		out = smoothed(smoothed(out, w, h), w, h)
	}
	return out
}

// smoothed takes of each cell and its neighbours the middle one of each channel: grain goes,
// edges stay.
func smoothed(in []cell, w, h int) []cell {
	out := make([]cell, len(in))
	var r, g, b [9]float64
	for y := range h {
		for x := range w {
			n := 0
			for dy := -1; dy <= 1; dy++ {
				for dx := -1; dx <= 1; dx++ {
					if yy, xx := y+dy, x+dx; yy >= 0 && yy < h && xx >= 0 && xx < w {
						c := in[yy*w+xx]
						r[n], g[n], b[n] = c.r, c.g, c.b
						n++
					}
				}
			}
			out[y*w+x] = cell{middle(r[:n]), middle(g[:n]), middle(b[:n])}
		}
	}
	return out
}

func middle(of []float64) float64 {
	slices.Sort(of)
	return of[len(of)/2]
}

// grow parts cells into regions of one colour, with what is too small left out.
func grow(cells []cell, w, h int) (out []*region) {
	labs := make([]Lab, len(cells))
	for i, c := range cells {
		labs[i] = LabOf(c.r, c.g, c.b)
	}
	taken := make([]bool, len(cells))
	queue := make([]int, 0, len(cells))
	for start := range cells {
		if taken[start] {
			continue
		}
		r := &region{x0: w, y0: h}
		var sum Lab
		queue = append(queue[:0], start)
		taken[start] = true
		for len(queue) > 0 {
			at := queue[len(queue)-1]
			queue = queue[:len(queue)-1]
			x, y := at%w, at/w
			r.cells = append(r.cells, at)
			r.x0, r.y0, r.x1, r.y1 = min(r.x0, x), min(r.y0, y), max(r.x1, x), max(r.y1, y)
			if x == 0 || y == 0 || x == w-1 || y == h-1 {
				r.nearBorder++
			}
			sum.L, sum.A, sum.B = sum.L+labs[at].L, sum.A+labs[at].A, sum.B+labs[at].B
			n := float64(len(r.cells))
			mean := Lab{sum.L / n, sum.A / n, sum.B / n}
			for _, next := range [4]int{at - 1, at + 1, at - w, at + w} {
				if next < 0 || next >= len(cells) || taken[next] || (next == at-1 && x == 0) || (next == at+1 && x == w-1) {
					continue
				}
				if DE76(labs[at], labs[next]) <= nextTo && DE76(mean, labs[next]) <= drift {
					taken[next] = true
					queue = append(queue, next)
				}
			}
		}
		if float64(len(r.cells)) >= leastShare*float64(len(cells)) {
			r.mean = inside(r.cells, cells, w, h)
			out = append(out, r)
		}
	}
	return out
}

// inside is the middle colour of a region, channel by channel: what lies at its edge, where two
// colours run into each other, does not count where enough lies within.
func inside(of []int, cells []cell, w, h int) cell {
	of = core(of, w, h)
	var r, g, b []float64
	for _, i := range of {
		r, g, b = append(r, cells[i].r), append(g, cells[i].g), append(b, cells[i].b)
	}
	return cell{middle(r), middle(g), middle(b)}
}

// core are the cells of a region all of whose neighbours are of it too; all where these are few.
func core(of []int, w, h int) []int {
	there := make(map[int]bool, len(of))
	for _, i := range of {
		there[i] = true
	}
	var out []int
	for _, i := range of {
		if x, y := i%w, i/w; x > 0 && y > 0 && x < w-1 && y < h-1 && there[i-1] && there[i+1] && there[i-w] && there[i+w] {
			out = append(out, i)
		}
	}
	if len(out) < len(of)/4 {
		return of
	}
	return out
}

// patches are the white and the grey one: of all pairs of regions of like size whose colours
// differ by the light alone, the pair that is most alike and brightest; nil where there is none.
func patches(regions []*region, cells []cell, all int) (white, grey *region) {
	best := math.Inf(1)
	for _, a := range regions {
		for _, b := range regions {
			ratio := a.mean.sum() / max(b.mean.sum(), 1e-9)
			if a == b || ratio < leastRatio || ratio > mostRatio || b.mean.sum() < 0.02 {
				continue
			}
			off := math.Hypot(a.mean.r/a.mean.sum()-b.mean.r/b.mean.sum(), a.mean.b/a.mean.sum()-b.mean.b/b.mean.sum())
			if off > neutral {
				continue
			}
			alike := math.Abs(math.Log(float64(len(a.cells)) / float64(len(b.cells))))
			ragged := 2 - a.filled() - b.filled()
			border := 0.0
			if a.nearBorder > len(a.cells)/20 {
				border += 0.5
			}
			if b.nearBorder > len(b.cells)/20 {
				border += 0.5
			}
			score := 12*off + alike + ragged + border + max(0, 0.8-max(a.mean.r, a.mean.g, a.mean.b)) + 0.3*math.Abs(math.Log(ratio/4.6))
			if score < best {
				best, white, grey = score, a, b
			}
		}
	}
	if best > mostScore {
		return nil, nil
	}
	return white, grey
}

// mostScore is how unlikely a pair of patches may be and still be taken for one.
const mostScore = 1.9

// filled is how much of its upright frame a region fills: 1 for an upright rectangle.
func (r *region) filled() float64 {
	return float64(len(r.cells)) / float64((r.x1-r.x0+1)*(r.y1-r.y0+1))
}

// area is a region as it is handed out, in balanced light.
func (r *region) area(cells []cell, gain cell, size, w, h int) Area {
	lab := LabOf(r.mean.r*gain.r, r.mean.g*gain.g, r.mean.b*gain.b)
	var off []float64
	for _, i := range core(r.cells, w, h) {
		c := cells[i]
		off = append(off, DE76(lab, LabOf(c.r*gain.r, c.g*gain.g, c.b*gain.b)))
	}
	return Area{X: r.x0 * size, Y: r.y0 * size, Width: (r.x1 - r.x0 + 1) * size, Height: (r.y1 - r.y0 + 1) * size,
		Share: float64(len(r.cells)) / float64(len(cells)), Lab: lab, Spread: middle(off)}
}
