package picture_test

import (
	"bytes"
	"encoding/binary"
	"image"
	"image/color"
	"image/draw"
	"image/gif"
	"image/jpeg"
	"image/png"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
	"keencrock/internal/exchange/picture"
)

var corners = []color.RGBA{{200, 30, 30, 255}, {30, 200, 30, 255}, {30, 30, 200, 255}, {220, 220, 40, 255}}

// quarters is a picture whose corners are red, green, blue and yellow: from the upper left
// on, clockwise.
func quarters(w, h int) *image.RGBA {
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	for i, at := range []image.Rectangle{image.Rect(0, 0, w/2, h/2), image.Rect(w/2, 0, w, h/2), image.Rect(w/2, h/2, w, h), image.Rect(0, h/2, w/2, h)} {
		draw.Draw(img, at, image.NewUniform(corners[i]), image.Point{}, draw.Src)
	}
	return img
}

func jpegOf(t *testing.T, img image.Image) []byte {
	var b bytes.Buffer
	require.NoError(t, jpeg.Encode(&b, img, nil))
	return b.Bytes()
}

// held is a JPEG that says how the phone was held, and where: an EXIF block written by
// hand after the TIFF 6.0 and Exif 2.3 layouts (APP1, “Exif\0\0”, big-endian TIFF, an IFD
// with the orientation and the name of a maker).
func held(t *testing.T, img image.Image, orientation uint16) []byte {
	const maker = "PLACE-OF-THE-MAKER\x00"
	var tiff bytes.Buffer
	tiff.WriteString("MM\x00*\x00\x00\x00\x08")
	be := func(v any) { require.NoError(t, binary.Write(&tiff, binary.BigEndian, v)) }
	be(uint16(2))
	be([]uint16{0x010F, 2}) // Make, ASCII
	be([]uint32{uint32(len(maker)), 8 + 2 + 2*12 + 4})
	be([]uint16{0x0112, 3}) // Orientation, SHORT
	be(uint32(1))
	be([]uint16{orientation, 0})
	be(uint32(0))
	tiff.WriteString(maker)
	block := append([]byte("Exif\x00\x00"), tiff.Bytes()...)
	plain := jpegOf(t, img)
	out := append([]byte{}, plain[:2]...)
	out = append(out, 0xFF, 0xE1)
	out = binary.BigEndian.AppendUint16(out, uint16(len(block)+2))
	return append(append(out, block...), plain[2:]...)
}

// seen are the corners of a picture, as which of [corners] each is.
func seen(t *testing.T, kept []byte) (at [4]int, size image.Point) {
	img, err := jpeg.Decode(bytes.NewReader(kept))
	require.NoError(t, err)
	size = img.Bounds().Size()
	x, y := size.X/4, size.Y/4
	for i, p := range []image.Point{{x, y}, {3 * x, y}, {3 * x, 3 * y}, {x, 3 * y}} {
		r, g, b, _ := img.At(p.X, p.Y).RGBA()
		best := 1 << 30
		for j, c := range corners {
			far := square(int(r>>8)-int(c.R)) + square(int(g>>8)-int(c.G)) + square(int(b>>8)-int(c.B))
			if far < best {
				best, at[i] = far, j
			}
		}
	}
	return at, size
}

func square(v int) int { return v * v }

// What stands where once a picture is turned, after the table of Exif 2.3 (4.6.4, tag
// Orientation): which corner of what is stored is seen at the upper left, and so on.
func TestAPhotoIsTurnedUprightAndToldNothingOf(t *testing.T) {
	want := map[uint16][4]int{
		1: {0, 1, 2, 3}, 2: {1, 0, 3, 2}, 3: {2, 3, 0, 1}, 4: {3, 2, 1, 0},
		5: {0, 3, 2, 1}, 6: {3, 0, 1, 2}, 7: {2, 1, 0, 3}, 8: {1, 2, 3, 0},
	}
	for orientation, corners := range want {
		raw := held(t, quarters(400, 240), orientation)
		require.Contains(t, string(raw), "PLACE-OF-THE-MAKER")
		p, err := picture.Take(raw)
		require.NoError(t, err)
		at, size := seen(t, p.JPEG)
		assert.Equal(t, corners, at, "orientation %d", orientation)
		wide := image.Pt(400, 240)
		if orientation >= 5 {
			wide = image.Pt(240, 400)
		}
		assert.Equal(t, wide, size, "orientation %d", orientation)
		assert.Equal(t, size, image.Pt(p.Width, p.Height))
		assert.NotContains(t, string(p.JPEG), "PLACE-OF-THE-MAKER")
		assert.NotContains(t, string(p.JPEG), "Exif")
	}
}

func TestAPhotoIsMadeSmaller(t *testing.T) {
	p, err := picture.Take(jpegOf(t, quarters(4000, 3000))) // twelve megapixels, as phones take them
	require.NoError(t, err)
	assert.Equal(t, [2]int{picture.LongSide, 1200}, [2]int{p.Width, p.Height})
	at, _ := seen(t, p.JPEG)
	assert.Equal(t, [4]int{0, 1, 2, 3}, at)
	narrow, err := picture.Take(jpegOf(t, quarters(9000, 4)))
	require.NoError(t, err)
	assert.Equal(t, [2]int{picture.LongSide, 1}, [2]int{narrow.Width, narrow.Height}, "never nothing")
}

func TestPicturesOfOtherSortsAreRead(t *testing.T) {
	var p, g bytes.Buffer
	require.NoError(t, png.Encode(&p, quarters(60, 40)))
	pal := image.NewPaletted(image.Rect(0, 0, 60, 40), color.Palette{corners[0], corners[1], corners[2], corners[3]})
	draw.Draw(pal, pal.Bounds(), quarters(60, 40), image.Point{}, draw.Src)
	require.NoError(t, gif.Encode(&g, pal, nil))
	for _, raw := range [][]byte{p.Bytes(), g.Bytes()} {
		kept, err := picture.Take(raw)
		require.NoError(t, err)
		at, _ := seen(t, kept.JPEG)
		assert.Equal(t, [4]int{0, 1, 2, 3}, at)
	}
	seeThrough := image.NewNRGBA(image.Rect(0, 0, 10, 10))
	p.Reset()
	require.NoError(t, png.Encode(&p, seeThrough))
	kept, err := picture.Take(p.Bytes())
	require.NoError(t, err)
	img, err := jpeg.Decode(bytes.NewReader(kept.JPEG))
	require.NoError(t, err)
	r, _, _, _ := img.At(5, 5).RGBA()
	assert.Greater(t, r>>8, uint32(250), "on white")
}

func TestWhatIsNoPictureIsRefused(t *testing.T) {
	var bomb bytes.Buffer
	require.NoError(t, png.Encode(&bomb, image.NewGray(image.Rect(0, 0, 30_000, 30_000)))) // 900 megapixels in a few hundred kilobytes
	whole := jpegOf(t, quarters(200, 200))
	for name, c := range map[string]struct {
		raw  []byte
		code string
	}{
		"nothing": {nil, "no-picture"}, "text": {[]byte("a photo"), "no-picture"}, "cut off": {whole[:len(whole)/3], "no-picture"},
		"a bomb": {bomb.Bytes(), "picture-too-large"}, "too many bytes": {make([]byte, picture.MostBytes+1), "picture-too-large"},
	} {
		_, err := picture.Take(c.raw)
		var p *api.Problem
		require.ErrorAs(t, err, &p, name)
		assert.Equal(t, c.code, p.Code, name)
		assert.Equal(t, "jpeg", p.Field, name)
	}
}

func FuzzPicture(f *testing.F) {
	img := quarters(20, 12)
	var p bytes.Buffer
	if err := jpeg.Encode(&p, img, nil); err != nil {
		f.Fatal(err)
	}
	f.Add(p.Bytes())
	f.Fuzz(func(t *testing.T, raw []byte) {
		kept, err := picture.Take(raw)
		if err == nil {
			assert.LessOrEqual(t, max(kept.Width, kept.Height), picture.LongSide)
		}
	})
}

func BenchmarkTwelveMegapixels(b *testing.B) {
	var p bytes.Buffer
	if err := jpeg.Encode(&p, quarters(4000, 3000), nil); err != nil {
		b.Fatal(err)
	}
	b.ReportAllocs()
	for b.Loop() {
		if _, err := picture.Take(p.Bytes()); err != nil {
			b.Fatal(err)
		}
	}
}
