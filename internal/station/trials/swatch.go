package trials

import (
	"context"
	"fmt"

	"keencrock/api"
	"keencrock/core/colour"
	"keencrock/internal/exchange/picture"
	"keencrock/internal/tenant"
)

// Swatch finds patches and areas on a photo. Nothing is kept.
func (s *Service) Swatch(ctx context.Context, photo []byte) (*api.SwatchFound, error) {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return nil, err
	}
	upright, err := picture.Upright(photo, picture.MostBytes)
	if err != nil {
		return nil, err
	}
	size := upright.Bounds()
	found := colour.FindSwatch(&colour.Photo{Width: size.Dx(), Height: size.Dy(), Pix: upright.Pix})
	out := &api.SwatchFound{Areas: []api.SwatchArea{}, Sure: found.Sure, Says: found.Says, Width: size.Dx(), Height: size.Dy()}
	if found.White != nil {
		out.White, out.Grey = area(found.White), area(found.Grey)
	}
	for i := range found.Areas {
		out.Areas = append(out.Areas, area(&found.Areas[i]))
	}
	return out, nil
}

func area(a *colour.Area) api.SwatchArea {
	return api.SwatchArea{Lab: api.LabColour{L: a.Lab.L, A: a.Lab.A, B: a.Lab.B}, X: a.X, Y: a.Y, Width: a.Width, Height: a.Height, Share: a.Share, Spread: a.Spread}
}

// Stain says how much of a stain is gone.
func (s *Service) Stain(ctx context.Context, in *api.StainAsked) (*api.StainLeft, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	lab := func(c api.LabColour) colour.Lab { return colour.Lab{L: c.L, A: c.A, B: c.B} }
	clean, stained, washed := lab(in.Clean), lab(in.Stained), lab(in.Washed)
	out := &api.StainLeft{De76: colour.DE76(washed, clean), De2000: colour.DE2000(washed, clean)}
	out.Removed, out.Stain = colour.Removed(clean, stained, washed)
	switch {
	case !out.Stain:
		out.Says = "There was no stain to begin with: both areas are of one colour."
	case out.Removed < 0:
		out.Says = "It is further from the clean cloth than before."
	default:
		out.Says = fmt.Sprintf("%.0f %% of the stain is gone; what is left is %.1f from the clean cloth, where about 1 can just be seen.", 100*out.Removed, out.De2000)
	}
	return out, nil
}
