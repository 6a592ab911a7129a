package colour_test

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/colour"
)

// drawn is a picture of a table with a cloth, a stain on it, and two patches, as it would be seen:
// tilted by an angle, in light of a colour, with grain and a shadow that falls off across it.
type drawn struct {
	w, h          int
	tilt          float64 // radians
	light         [3]float64
	grain, shadow float64
	table, cloth  colour.Lab
	stain         colour.Lab
	noWhite       bool
	exposure      float64
}

var cloth, stain, table = colour.Lab{L: 88, A: 1, B: 6}, colour.Lab{L: 62, A: 14, B: 30}, colour.Lab{L: 35, A: 8, B: 14}

func usual() drawn {
	return drawn{w: 640, h: 480, light: [3]float64{1, 1, 1}, table: table, cloth: cloth, stain: stain, exposure: 1}
}

func (d drawn) photo(r *rand.Rand) *colour.Photo {
	p := &colour.Photo{Width: d.w, Height: d.h, Pix: make([]uint8, 4*d.w*d.h)}
	light := func(c colour.Lab) [3]float64 {
		rgb := c.RGB()
		return [3]float64{colour.Linear(max(0, rgb.R)), colour.Linear(max(0, rgb.G)), colour.Linear(max(0, rgb.B))}
	}
	white, grey, table, cloth, stain := light(colour.Lab{L: 96}), light(colour.Lab{L: 50}), light(d.table), light(d.cloth), light(d.stain)
	sin, cos := math.Sincos(d.tilt)
	for y := range d.h {
		for x := range d.w {
			var sum [3]float64
			for part := range 4 { // edges run into each other within a pixel, as they do in a camera
				px, py := float64(x)+0.5*float64(part%2)-0.25, float64(y)+0.5*float64(part/2)-0.25
				u, v := px/float64(d.w)-0.5, (py-float64(d.h)/2)/float64(d.w)
				u, v = u*cos-v*sin, u*sin+v*cos
				c := table
				switch {
				case math.Hypot(u-0.12, v) < 0.1:
					c = stain
				case math.Abs(u-0.12) < 0.26 && math.Abs(v) < 0.24:
					c = cloth
				case math.Abs(u+0.3) < 0.07 && math.Abs(v+0.12) < 0.07 && !d.noWhite:
					c = white
				case math.Abs(u+0.3) < 0.07 && math.Abs(v-0.12) < 0.07:
					c = grey
				}
				for i, channel := range c {
					sum[i] += channel / 4
				}
			}
			fall := d.exposure * (1 - d.shadow*float64(y)/float64(d.h))
			for i, channel := range sum {
				light := channel * d.light[i] * fall
				value := 255*colour.Encoded(min(1, light)) + d.grain*r.NormFloat64()
				p.Pix[4*(y*d.w+x)+i] = uint8(math.Round(min(255, max(0, value))))
			}
		}
	}
	return p
}

// nearest is the area whose colour is nearest to one.
func nearest(s *colour.Swatch, c colour.Lab) float64 {
	best := math.Inf(1)
	for _, a := range s.Areas {
		best = min(best, colour.DE76(a.Lab, c))
	}
	return best
}

// Cloth and stain are found within 1.5 of the colour they were drawn in, whatever the light,
// tilt and grain.
func TestAStainIsFoundInAnyLight(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 1))
	for name, change := range map[string]func(*drawn){
		"daylight":          func(*drawn) {},
		"lamplight":         func(d *drawn) { d.light = [3]float64{1, 0.82, 0.58} },
		"under a blue sky":  func(d *drawn) { d.light = [3]float64{0.8, 0.9, 1} },
		"tilted":            func(d *drawn) { d.tilt = 0.15 },
		"grainy":            func(d *drawn) { d.grain = 5 },
		"light falling off": func(d *drawn) { d.shadow = 0.03 },
		"a large photo":     func(d *drawn) { d.w, d.h = 1200, 900; d.grain = 8 },
		"sideways":          func(d *drawn) { d.w, d.h = 480, 640; d.tilt = math.Pi / 2 },
		"a dark stain":      func(d *drawn) { d.stain = colour.Lab{L: 30, A: 20, B: 10} },
		"a faint stain":     func(d *drawn) { d.stain = colour.Lab{L: 82, A: 2, B: 16} },
		"all of it at once": func(d *drawn) { d.tilt, d.grain, d.light = -0.1, 4, [3]float64{1, 0.9, 0.75} },
	} {
		d := usual()
		change(&d)
		s := colour.FindSwatch(d.photo(r))
		require.True(t, s.Sure, "%s: %s", name, s.Says)
		assert.Less(t, nearest(s, d.cloth), 1.5, "%s: the cloth", name)
		assert.Less(t, nearest(s, d.stain), 1.5, "%s: the stain", name)
		assert.Less(t, s.White.Lab.Chroma(), 1.0, name)
		assert.Less(t, s.Grey.Lab.Chroma(), 2.5, name)
	}
}

// What cannot be told is not told for sure.
func TestAPhotoThatDoesNotTellIsNotSure(t *testing.T) {
	r := rand.New(rand.NewPCG(2, 1))
	for name, change := range map[string]func(*drawn){
		"no white patch": func(d *drawn) { d.noWhite = true },
		"overexposed":    func(d *drawn) { d.exposure = 2.6 },
		"too dark":       func(d *drawn) { d.exposure = 0.12 },
		"very grainy":    func(d *drawn) { d.grain = 90 },
	} {
		d := usual()
		change(&d)
		s := colour.FindSwatch(d.photo(r))
		assert.False(t, s.Sure, name)
		assert.NotEmpty(t, s.Says, name)
	}
	s := colour.FindSwatch(&colour.Photo{Width: 3, Height: 3, Pix: make([]uint8, 36)})
	assert.False(t, s.Sure)
	one := &colour.Photo{Width: 100, Height: 100, Pix: slices.Repeat([]uint8{200, 30, 90, 255}, 10_000)}
	assert.False(t, colour.FindSwatch(one).Sure, "nothing but one colour")
}

func BenchmarkSwatchOf12Megapixels(b *testing.B) {
	d := usual()
	d.w, d.h = 4000, 3000
	p := d.photo(rand.New(rand.NewPCG(1, 1)))
	b.ReportAllocs()
	for b.Loop() {
		colour.FindSwatch(p)
	}
}

// The cloth is the lightest area, and the stain lies on it; one that is gone is none.
func TestTheClothIsTold(t *testing.T) {
	r := rand.New(rand.NewPCG(9, 9))
	d := usual()
	s := colour.FindSwatch(d.photo(r))
	cloths, stains := s.Cloth()
	require.GreaterOrEqual(t, cloths, 0)
	require.GreaterOrEqual(t, stains, 0)
	assert.Less(t, colour.DE76(s.Areas[cloths].Lab, cloth), 1.5)
	assert.Less(t, colour.DE76(s.Areas[stains].Lab, stain), 1.5)
	d.stain = d.cloth
	s = colour.FindSwatch(d.photo(r))
	cloths, stains = s.Cloth()
	assert.GreaterOrEqual(t, cloths, 0)
	assert.Equal(t, -1, stains)
	cloths, stains = (&colour.Swatch{}).Cloth()
	assert.Equal(t, []int{-1, -1}, []int{cloths, stains})
}
