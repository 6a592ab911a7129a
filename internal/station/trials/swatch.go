package trials

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"math"
	"strings"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/colour"
	"keencrock/internal/exchange/picture"
	"keencrock/internal/problem"
	"keencrock/internal/store"
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
	return found(upright.Pix, upright.Bounds().Dx(), upright.Bounds().Dy()), nil
}

// found is what is found on a photo of so many pixels.
func found(pix []uint8, width, height int) *api.SwatchFound {
	found := colour.FindSwatch(&colour.Photo{Width: width, Height: height, Pix: pix})
	out := &api.SwatchFound{Areas: []api.SwatchArea{}, Sure: found.Sure, Says: found.Says, Width: width, Height: height}
	out.Cloth, out.Stain = found.Cloth()
	if found.White != nil {
		out.White, out.Grey = area(found.White), area(found.Grey)
	}
	for i := range found.Areas {
		out.Areas = append(out.Areas, area(&found.Areas[i]))
	}
	return out
}

func area(a *colour.Area) api.SwatchArea {
	return api.SwatchArea{Lab: api.LabColour{L: a.Lab.L, A: a.Lab.A, B: a.Lab.B}, X: a.X, Y: a.Y, Width: a.Width, Height: a.Height, Share: a.Share, Spread: a.Spread}
}

// Stain says how much of a stain is gone.
func (s *Service) Stain(ctx context.Context, in *api.StainAsked) (*api.StainLeft, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	return stainLeft(in.Clean, in.Stained, in.Washed), nil
}

func stainLeft(cleanLab, stainedLab, washedLab api.LabColour) *api.StainLeft {
	lab := func(c api.LabColour) colour.Lab { return colour.Lab{L: c.L, A: c.A, B: c.B} }
	clean, stained, washed := lab(cleanLab), lab(stainedLab), lab(washedLab)
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
	return out
}

// KeepSwatch keeps a photo of what goes by a code in a pair, before or after.
func (s *Service) KeepSwatch(ctx context.Context, id uuid.UUID, in *api.NewSwatch) (*api.Trial, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	upright, err := picture.Upright(in.Jpeg, picture.MostBytes)
	if err != nil {
		return nil, err
	}
	photo, err := picture.Written(upright)
	if err != nil {
		return nil, err
	}
	seen := found(upright.Pix, photo.Width, photo.Height)
	content, err := json.Marshal(seen)
	if err != nil {
		return nil, err
	}
	return s.changeTrial(ctx, id, func(tx *store.Tx, t *kept) error {
		good, err := t.behind(in.Pair, in.Code)
		if err != nil {
			return err
		}
		row := &store.Swatch{ID: store.NewID(), TrialID: id, Pair: in.Pair, Good: good, Side: string(in.Side), Found: content, Cloth: seen.Cloth, Stain: seen.Stain, Note: strings.TrimSpace(in.Note), PersonID: a.Person, TakenAt: s.Now()}
		dropped, err := tx.AddSwatch(row, photo.Width, photo.Height)
		if err != nil {
			return err
		}
		if dropped != nil {
			if err := s.Pictures.Drop(tx, *dropped); err != nil {
				return err
			}
		}
		return s.Pictures.Put(tx, row.ID, photo.JPEG)
	})
}

// ChooseAreas says which areas of a photo are the clean cloth and the stain.
func (s *Service) ChooseAreas(ctx context.Context, id uuid.UUID, in api.SwatchAreas) (*api.Trial, error) {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return nil, err
	}
	row, err := s.Store.Read(ctx).SwatchByID(id)
	if err != nil {
		return nil, tenant.Explain(err, "photo")
	}
	var seen api.SwatchFound
	if err := json.Unmarshal(row.Found, &seen); err != nil {
		return nil, fmt.Errorf("what was found on photo %s: %w", id, err)
	}
	if most := len(seen.Areas); in.Cloth >= most || in.Stain >= most {
		return nil, problem.Unfit("bad-value", "There are %d areas on it.", most).At("stain")
	}
	return s.changeTrial(ctx, row.TrialID, func(tx *store.Tx, _ *kept) error { return tx.ChooseAreas(id, in.Cloth, in.Stain) })
}

// SwatchFile is a photo as it is kept, and how many bytes it has.
func (s *Service) SwatchFile(ctx context.Context, id uuid.UUID) (io.Reader, int64, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, 0, err
	}
	var jpeg []byte
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		if _, err := tx.SwatchByID(id); err != nil {
			return tenant.Explain(err, "photo")
		}
		var err error
		jpeg, err = s.Pictures.Get(tx, id)
		return tenant.Explain(err, "photo")
	})
	return bytes.NewReader(jpeg), int64(len(jpeg)), err
}

// changeTrial changes something of a trial that is not over, and answers how it stands then.
func (s *Service) changeTrial(ctx context.Context, id uuid.UUID, change func(*store.Tx, *kept) error) (*api.Trial, error) {
	var out *api.Trial
	err := s.Store.Tx(ctx, func(tx *store.Tx) error {
		row, err := tx.LockTrial(id)
		if err != nil {
			return tenant.Explain(err, "trial")
		}
		if row.EndedAt != nil {
			return problem.Clash("ended", "This trial is over: its marks and photos stay as they are.")
		}
		t, err := read(tx, row, nil)
		if err != nil {
			return err
		}
		if err := change(tx, t); err != nil {
			return err
		}
		if out, err = whole(tx, id, false); err != nil {
			return err
		}
		return tx.Announce("trials", id)
	})
	return out, err
}

// onScale is the scale of the marks by hand.
const onScale = 10

// swatch is what the photos of a good in a pair show.
func (k *kept) swatch(pair, good int) (out api.CodeSwatch) {
	sides := map[string]*api.KeptSwatch{}
	for i := range k.swatches {
		row := &k.swatches[i]
		if row.Pair != pair || row.Good != good {
			continue
		}
		one := api.KeptSwatch{Id: row.ID, Cloth: row.Cloth, Stain: row.Stain, Note: row.Note}
		if json.Unmarshal(row.Found, &one.Found) != nil {
			continue
		}
		sides[row.Side] = &one
		if row.Side == string(api.SwatchBefore) {
			out.Before = one
		} else {
			out.After = one
		}
	}
	before, after := sides[string(api.SwatchBefore)], sides[string(api.SwatchAfter)]
	if before == nil || after == nil {
		return out
	}
	clean, stained := at(before, before.Cloth), at(before, before.Stain)
	washed := at(after, after.Stain)
	if washed == nil { // it is gone: what is there now is the cloth
		washed = at(after, after.Cloth)
	}
	if clean == nil || stained == nil || washed == nil {
		return out
	}
	out.Left = *stainLeft(clean.Lab, stained.Lab, washed.Lab)
	if out.Left.Stain {
		removed := min(1, max(0, out.Left.Removed))
		mark := math.Round(10*onScale*removed) / 10
		if k.row.Lower {
			mark = math.Round(10*onScale*(1-removed)) / 10
		}
		out.Mark = &mark
	}
	return out
}

// at is an area of a photo; nil for none.
func at(s *api.KeptSwatch, i int) *api.SwatchArea {
	if i < 0 || i >= len(s.Found.Areas) {
		return nil
	}
	return &s.Found.Areas[i]
}
