// Package colour holds colours against each other as eyes do: from the numbers of a photo to
// CIELAB, how far apart two are, and how much of a stain is gone.
package colour

import "math"

// Lab is a colour in CIELAB, under the light of day (D65), for the observer of 2°.
type Lab struct{ L, A, B float64 }

// RGB is a colour in sRGB, each channel from 0 to 1.
type RGB struct{ R, G, B float64 }

// White of the light of day, D65, as IEC 61966-2-1 has it: X and Z where Y is 1.
const (
	whiteX = 0.9505
	whiteZ = 1.0890
)

// Linear is how much light a channel of sRGB stands for (IEC 61966-2-1).
func Linear(c float64) float64 {
	if c <= 0.04045 {
		return c / 12.92
	}
	return math.Pow((c+0.055)/1.055, 2.4)
}

// Encoded is the channel of sRGB that stands for so much light (IEC 61966-2-1).
func Encoded(l float64) float64 {
	if l <= 0.0031308 {
		return 12.92 * l
	}
	return 1.055*math.Pow(l, 1/2.4) - 0.055
}

// The bounds of the cube root in CIELAB (CIE 15).
const (
	epsilon = 216.0 / 24389
	kappa   = 24389.0 / 27
)

// LabOf is a colour in CIELAB of how much light its channels stand for.
func LabOf(r, g, b float64) Lab {
	x := (0.4124*r + 0.3576*g + 0.1805*b) / whiteX
	y := 0.2126*r + 0.7152*g + 0.0722*b
	z := (0.0193*r + 0.1192*g + 0.9505*b) / whiteZ
	f := func(t float64) float64 {
		if t > epsilon {
			return math.Cbrt(t)
		}
		return (kappa*t + 16) / 116
	}
	return Lab{116*f(y) - 16, 500 * (f(x) - f(y)), 200 * (f(y) - f(z))}
}

// Lab is a colour in CIELAB.
func (c RGB) Lab() Lab { return LabOf(Linear(c.R), Linear(c.G), Linear(c.B)) }

// RGB is a colour in sRGB; channels beyond 0 to 1 are of a colour that no screen shows.
func (c Lab) RGB() RGB {
	fy := (c.L + 16) / 116
	back := func(f float64) float64 {
		if t := f * f * f; t > epsilon {
			return t
		}
		return (116*f - 16) / kappa
	}
	x, y, z := whiteX*back(fy+c.A/500), back(fy), whiteZ*back(fy-c.B/200)
	return RGB{
		Encoded(3.2406*x - 1.5372*y - 0.4986*z),
		Encoded(-0.9689*x + 1.8758*y + 0.0415*z),
		Encoded(0.0557*x - 0.2040*y + 1.0570*z),
	}
}

// Chroma is how far a colour is from grey.
func (c Lab) Chroma() float64 { return math.Hypot(c.A, c.B) }

// DE76 is how far apart two colours are: ΔE*ab of 1976.
func DE76(a, b Lab) float64 {
	return math.Sqrt((a.L-b.L)*(a.L-b.L) + (a.A-b.A)*(a.A-b.A) + (a.B-b.B)*(a.B-b.B))
}

// DE2000 is how far apart two colours are as eyes see it: ΔE00, after Sharma, Wu and Dalal (2005).
func DE2000(one, two Lab) float64 {
	mean := (one.Chroma() + two.Chroma()) / 2
	seventh := math.Pow(mean, 7)
	g := 0.5 * (1 - math.Sqrt(seventh/(seventh+math.Pow(25, 7))))
	a1, a2 := (1+g)*one.A, (1+g)*two.A
	c1, c2 := math.Hypot(a1, one.B), math.Hypot(a2, two.B)
	h1, h2 := hue(a1, one.B), hue(a2, two.B)
	dl, dc := two.L-one.L, c2-c1
	dh := 0.0
	if c1*c2 != 0 {
		switch dh = h2 - h1; {
		case dh > 180:
			dh -= 360
		case dh < -180:
			dh += 360
		}
	}
	dH := 2 * math.Sqrt(c1*c2) * math.Sin(radians(dh/2))
	l, c := (one.L+two.L)/2, (c1+c2)/2
	h := h1 + h2
	if c1*c2 != 0 {
		switch {
		case math.Abs(h1-h2) <= 180:
			h /= 2
		case h < 360:
			h = (h + 360) / 2
		default:
			h = (h - 360) / 2
		}
	}
	t := 1 - 0.17*math.Cos(radians(h-30)) + 0.24*math.Cos(radians(2*h)) + 0.32*math.Cos(radians(3*h+6)) - 0.20*math.Cos(radians(4*h-63))
	turn := 30 * math.Exp(-((h-275)/25)*((h-275)/25))
	c7 := math.Pow(c, 7)
	rc := 2 * math.Sqrt(c7/(c7+math.Pow(25, 7)))
	sl := 1 + 0.015*(l-50)*(l-50)/math.Sqrt(20+(l-50)*(l-50))
	sc, sh := 1+0.045*c, 1+0.015*c*t
	rt := -math.Sin(radians(2*turn)) * rc
	return math.Sqrt(dl/sl*dl/sl + dc/sc*dc/sc + dH/sh*dH/sh + rt*dc/sc*dH/sh)
}

func hue(a, b float64) float64 {
	if a == 0 && b == 0 {
		return 0
	}
	h := math.Atan2(b, a) * 180 / math.Pi
	if h < 0 {
		h += 360
	}
	return h
}

func radians(degrees float64) float64 { return degrees * math.Pi / 180 }

// Removed is the share of a stain that is gone: 1 less how far the washed cloth is from the
// clean one, over how far the stained one was. It is under 0 where it got worse; ok is false
// where there was no stain to begin with.
func Removed(clean, stained, washed Lab) (share float64, ok bool) {
	was := DE76(stained, clean)
	if was < noticed {
		return 0, false
	}
	return 1 - DE76(washed, clean)/was, true
}

// noticed is how far apart two colours are before a stain is one: less is no more than the grain
// of a photo. Common practice calls one unit just noticeable; half of that.
const noticed = 0.5
