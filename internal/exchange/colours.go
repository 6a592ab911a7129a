package exchange

import (
	"math"
	"strconv"
	"strings"

	"keencrock/core/colour"
	"keencrock/internal/problem"
)

// ReadLab reads a colour in CIELAB, such as 62.5,14,30; field is named where it is none.
func ReadLab(text, field string) (colour.Lab, error) {
	parts := strings.Split(text, ",")
	var v [3]float64
	for i := range parts {
		x, err := strconv.ParseFloat(strings.TrimSpace(parts[i]), 64)
		if len(parts) != len(v) || err != nil || math.IsNaN(x) || math.Abs(x) > 1000 {
			return colour.Lab{}, problem.Unfit("bad-colour", "%q is no colour: L,a,b is wanted, such as 62.5,14,30.", text).At(field)
		}
		v[i] = x
	}
	if v[0] < 0 || v[0] > 100 {
		return colour.Lab{}, problem.Unfit("bad-colour", "L is from 0, black, to 100, white, not %g.", v[0]).At(field)
	}
	return colour.Lab{L: v[0], A: v[1], B: v[2]}, nil
}

// lab is a colour as it is printed.
type lab struct {
	L float64 `json:"L"`
	A float64 `json:"a"`
	B float64 `json:"b"`
}

func labOf(c colour.Lab) lab { return lab{hundredths(c.L), hundredths(c.A), hundredths(c.B)} }

func hundredths(x float64) float64 { return math.Round(x*100) / 100 }

// Washed is how a stain came out, as it is printed.
func Washed(clean, stained, washed colour.Lab) any {
	out := struct {
		DE76    float64  `json:"de76"`
		DE2000  float64  `json:"de2000"`
		Removed *float64 `json:"removed"` // none where there was no stain
	}{DE76: colour.DE76(washed, clean), DE2000: colour.DE2000(washed, clean)}
	if share, ok := colour.Removed(clean, stained, washed); ok {
		out.Removed = &share
	}
	return out
}

// Swatch is what was found on a photo, as it is printed.
func Swatch(s *colour.Swatch) any {
	type area struct {
		lab
		X      int     `json:"x"`
		Y      int     `json:"y"`
		Width  int     `json:"width"`
		Height int     `json:"height"`
		Share  float64 `json:"share"`
		Spread float64 `json:"spread"`
	}
	of := func(a *colour.Area) *area {
		if a == nil {
			return nil
		}
		return &area{labOf(a.Lab), a.X, a.Y, a.Width, a.Height, math.Round(a.Share*1e4) / 1e4, hundredths(a.Spread)}
	}
	out := struct {
		White *area   `json:"white"`
		Grey  *area   `json:"grey"`
		Areas []*area `json:"areas"`
		Sure  bool    `json:"sure"`
		Says  string  `json:"says,omitempty"`
	}{of(s.White), of(s.Grey), []*area{}, s.Sure, s.Says}
	for i := range s.Areas {
		out.Areas = append(out.Areas, of(&s.Areas[i]))
	}
	return out
}
