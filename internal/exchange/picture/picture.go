// Package picture takes in photos as they come from a phone, and gives back what is kept
// of them: a JPEG of bounded size that holds the picture alone, and nothing of where, when
// or with what it was taken.
package picture

import (
	"bytes"
	"fmt"
	"image"
	_ "image/gif" // read too
	"image/jpeg"
	_ "image/png"

	"github.com/bep/imagemeta"
	"golang.org/x/image/draw"
	"golang.org/x/image/math/f64"
	_ "golang.org/x/image/webp"

	"keencrock/internal/problem"
)

// Bounds of what is taken in and of what is kept. A photo of 12 megapixels fits.
const (
	MostBytes  = 2_900_000  // what a request can carry
	mostPixels = 20_000_000 // decoded, at most 80 MB
	LongSide   = 1600       // pixels, of what is kept
	quality    = 85
)

// Picture is a photo as it is kept.
type Picture struct {
	JPEG          []byte
	Width, Height int // pixels
}

// atWork bounds how many are decoded at once, and so how much memory that takes.
var atWork = make(chan struct{}, 2)

// Take reads a photo (JPEG, PNG, GIF or WebP), turns it upright, makes it no larger than
// [LongSide] and writes it anew. What is no picture, or one too large, is refused with the
// field “jpeg”.
func Take(raw []byte) (*Picture, error) {
	upright, err := Upright(raw, MostBytes)
	if err != nil {
		return nil, err
	}
	return Written(upright)
}

// Written is a picture written anew, as it is kept.
func Written(upright *image.RGBA) (*Picture, error) {
	var out bytes.Buffer
	if err := jpeg.Encode(&out, upright, &jpeg.Options{Quality: quality}); err != nil {
		return nil, err
	}
	return &Picture{out.Bytes(), upright.Bounds().Dx(), upright.Bounds().Dy()}, nil
}

// Upright reads a photo of at most so many bytes, turns it upright and makes it no larger than
// [LongSide].
func Upright(raw []byte, mostBytes int) (*image.RGBA, error) {
	if len(raw) > mostBytes {
		return nil, tooLarge("The photo has %.1f MB. At most %.1f can be kept: make it smaller first.", float64(len(raw))/1e6, float64(mostBytes)/1e6)
	}
	atWork <- struct{}{}
	defer func() { <-atWork }()
	size, format, err := image.DecodeConfig(bytes.NewReader(raw))
	if err != nil {
		return nil, noPicture()
	}
	if size.Width < 1 || size.Height < 1 || size.Width > mostPixels/size.Height {
		return nil, tooLarge("The photo has %d by %d pixels, more than are taken: make it smaller first.", size.Width, size.Height)
	}
	from, _, err := image.Decode(bytes.NewReader(raw))
	if err != nil {
		return nil, noPicture()
	}
	return turned(shrunk(from), orientation(raw, format)), nil
}

func noPicture() error {
	return problem.Unfit("no-picture", "That is no picture that can be read: a JPEG, PNG, GIF or WebP is.").At("jpeg")
}

func tooLarge(detail string, args ...any) error {
	return problem.Unfit("picture-too-large", "%s", fmt.Sprintf(detail, args...)).At("jpeg")
}

// shrunk is a picture on white, its longer side no longer than [LongSide].
func shrunk(from image.Image) *image.RGBA {
	w, h := from.Bounds().Dx(), from.Bounds().Dy()
	if long := max(w, h); long > LongSide {
		w, h = max(1, w*LongSide/long), max(1, h*LongSide/long)
	}
	to := image.NewRGBA(image.Rect(0, 0, w, h))
	draw.Draw(to, to.Bounds(), image.White, image.Point{}, draw.Src)
	draw.BiLinear.Scale(to, to.Bounds(), from, from.Bounds(), draw.Over, nil)
	return to
}

// Orientations of EXIF: how what is stored has to be turned or mirrored (Exif 2.3, tag
// 0x0112). From memory.
const (
	asItIs = 1 + iota
	mirrored
	upsideDown
	mirroredUpsideDown
	transposed
	quarterRight // what is stored has to be turned a quarter to the right
	transversed
	quarterLeft
)

// orientation is what a photo says of how it was held.
func orientation(raw []byte, format string) int {
	formats := map[string]imagemeta.ImageFormat{"jpeg": imagemeta.JPEG, "png": imagemeta.PNG, "webp": imagemeta.WebP}
	f, has := formats[format]
	if !has {
		return asItIs
	}
	at := asItIs
	// what cannot be read says nothing of how it was held
	_, _ = imagemeta.Decode(imagemeta.Options{R: bytes.NewReader(raw), ImageFormat: f, Sources: imagemeta.EXIF,
		ShouldHandleTag: func(t imagemeta.TagInfo) bool { return t.Tag == "Orientation" && t.Namespace == "IFD0" },
		HandleTag: func(t imagemeta.TagInfo) error {
			if v, ok := t.Value.(uint16); ok && v >= asItIs && v <= quarterLeft {
				at = int(v)
			}
			return imagemeta.ErrStopWalking
		}})
	return at
}

// turned is a picture as it was seen.
func turned(from *image.RGBA, orientation int) *image.RGBA {
	w, h := float64(from.Bounds().Dx()), float64(from.Bounds().Dy())
	way := map[int]f64.Aff3{
		mirrored:           {-1, 0, w, 0, 1, 0},
		upsideDown:         {-1, 0, w, 0, -1, h},
		mirroredUpsideDown: {1, 0, 0, 0, -1, h},
		transposed:         {0, 1, 0, 1, 0, 0},
		quarterRight:       {0, -1, h, 1, 0, 0},
		transversed:        {0, -1, h, -1, 0, w},
		quarterLeft:        {0, 1, 0, -1, 0, w},
	}
	at, turns := way[orientation]
	if !turns {
		return from
	}
	size := from.Bounds().Size()
	if orientation >= transposed {
		size.X, size.Y = size.Y, size.X
	}
	to := image.NewRGBA(image.Rectangle{Max: size})
	draw.NearestNeighbor.Transform(to, at, from, from.Bounds(), draw.Src, nil)
	return to
}
