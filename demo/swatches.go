package demo

import (
	"bytes"
	"context"
	"image"
	"image/color"
	"image/draw"
	"image/png"

	"github.com/google/uuid"

	"keencrock/api"
)

// drawnNote says of a demo photo that it is none.
const drawnNote = "Drawn by the program, and no photo."

// photographs keeps a drawn pair of photos of what goes by each code of the first pair: tea on
// cotton, with so much of it left as was marked.
func (p *player) photographs(ctx context.Context, trial uuid.UUID, first *api.TrialPair, left func(good string) float64) error {
	for _, code := range first.Codes {
		for _, side := range []struct {
			as   api.SwatchSide
			left float64
		}{{api.SwatchBefore, 1}, {api.SwatchAfter, left(code.Good)}} {
			photo, err := DrawSwatch(side.left)
			if err != nil {
				return err
			}
			if _, err := p.trials.KeepSwatch(ctx, trial, &api.NewSwatch{Pair: first.Pair, Code: code.Code, Side: side.as, Jpeg: photo, Note: drawnNote}); err != nil {
				return err
			}
		}
	}
	return nil
}

// DrawSwatch draws a cloth with so much of a stain left on it, from 0 to 1, on a table, beside
// a white and a grey patch.
func DrawSwatch(left float64) ([]byte, error) {
	const width, height = 640, 480
	img := image.NewRGBA(image.Rect(0, 0, width, height))
	fill := func(c color.RGBA, x, y, w, h int) {
		draw.Draw(img, image.Rect(x, y, x+w, y+h), image.NewUniform(c), image.Point{}, draw.Src)
	}
	cloth, tea := color.RGBA{228, 223, 208, 255}, color.RGBA{165, 113, 63, 255}
	fill(color.RGBA{91, 68, 56, 255}, 0, 0, width, height)
	fill(color.RGBA{244, 244, 244, 255}, 30, 60, 110, 110)
	fill(color.RGBA{119, 119, 119, 255}, 30, 270, 110, 110)
	fill(cloth, 190, 40, 420, 400)
	mix := func(a, b uint8) uint8 { return uint8(float64(a) + (float64(b)-float64(a))*left) }
	stain := color.RGBA{mix(cloth.R, tea.R), mix(cloth.G, tea.G), mix(cloth.B, tea.B), 255}
	const cx, cy, r = 400, 240, 90
	for y := cy - r; y <= cy+r; y++ {
		for x := cx - r; x <= cx+r; x++ {
			if (x-cx)*(x-cx)+(y-cy)*(y-cy) <= r*r {
				img.SetRGBA(x, y, stain)
			}
		}
	}
	var out bytes.Buffer
	err := png.Encode(&out, img)
	return out.Bytes(), err
}
