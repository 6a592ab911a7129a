package colour_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"keencrock/core/colour"
)

// The 34 pairs of Sharma, Wu and Dalal, “The CIEDE2000 color-difference formula: implementation
// notes, supplementary test data, and mathematical observations” (2005), table 1. Typed from
// memory: each holds to four decimals, which a wrong digit would not.
var sharma = []struct {
	a, b colour.Lab
	de   float64
}{
	{colour.Lab{50, 2.6772, -79.7751}, colour.Lab{50, 0, -82.7485}, 2.0425},
	{colour.Lab{50, 3.1571, -77.2803}, colour.Lab{50, 0, -82.7485}, 2.8615},
	{colour.Lab{50, 2.8361, -74.0200}, colour.Lab{50, 0, -82.7485}, 3.4412},
	{colour.Lab{50, -1.3802, -84.2814}, colour.Lab{50, 0, -82.7485}, 1.0000},
	{colour.Lab{50, -1.1848, -84.8006}, colour.Lab{50, 0, -82.7485}, 1.0000},
	{colour.Lab{50, -0.9009, -85.5211}, colour.Lab{50, 0, -82.7485}, 1.0000},
	{colour.Lab{50, 0, 0}, colour.Lab{50, -1, 2}, 2.3669},
	{colour.Lab{50, -1, 2}, colour.Lab{50, 0, 0}, 2.3669},
	{colour.Lab{50, 2.4900, -0.0010}, colour.Lab{50, -2.4900, 0.0009}, 7.1792},
	{colour.Lab{50, 2.4900, -0.0010}, colour.Lab{50, -2.4900, 0.0010}, 7.1792},
	{colour.Lab{50, 2.4900, -0.0010}, colour.Lab{50, -2.4900, 0.0011}, 7.2195},
	{colour.Lab{50, 2.4900, -0.0010}, colour.Lab{50, -2.4900, 0.0012}, 7.2195},
	{colour.Lab{50, -0.0010, 2.4900}, colour.Lab{50, 0.0009, -2.4900}, 4.8045},
	{colour.Lab{50, -0.0010, 2.4900}, colour.Lab{50, 0.0010, -2.4900}, 4.8045},
	{colour.Lab{50, -0.0010, 2.4900}, colour.Lab{50, 0.0011, -2.4900}, 4.7461},
	{colour.Lab{50, 2.5, 0}, colour.Lab{50, 0, -2.5}, 4.3065},
	{colour.Lab{50, 2.5, 0}, colour.Lab{73, 25, -18}, 27.1492},
	{colour.Lab{50, 2.5, 0}, colour.Lab{61, -5, 29}, 22.8977},
	{colour.Lab{50, 2.5, 0}, colour.Lab{56, -27, -3}, 31.9030},
	{colour.Lab{50, 2.5, 0}, colour.Lab{58, 24, 15}, 19.4535},
	{colour.Lab{50, 2.5, 0}, colour.Lab{50, 3.1736, 0.5854}, 1.0000},
	{colour.Lab{50, 2.5, 0}, colour.Lab{50, 3.2972, 0}, 1.0000},
	{colour.Lab{50, 2.5, 0}, colour.Lab{50, 1.8634, 0.5757}, 1.0000},
	{colour.Lab{50, 2.5, 0}, colour.Lab{50, 3.2592, 0.3350}, 1.0000},
	{colour.Lab{60.2574, -34.0099, 36.2677}, colour.Lab{60.4626, -34.1751, 39.4387}, 1.2644},
	{colour.Lab{63.0109, -31.0961, -5.8663}, colour.Lab{62.8187, -29.7946, -4.0864}, 1.2630},
	{colour.Lab{61.2901, 3.7196, -5.3901}, colour.Lab{61.4292, 2.2480, -4.9620}, 1.8731},
	{colour.Lab{35.0831, -44.1164, 3.7933}, colour.Lab{35.0232, -40.0716, 1.5901}, 1.8645},
	{colour.Lab{22.7233, 20.0904, -46.6940}, colour.Lab{23.0331, 14.9730, -42.5619}, 2.0373},
	{colour.Lab{36.4612, 47.8580, 18.3852}, colour.Lab{36.2715, 50.5065, 21.2231}, 1.4146},
	{colour.Lab{90.8027, -2.0831, 1.4410}, colour.Lab{91.1528, -1.6435, 0.0447}, 1.4441},
	{colour.Lab{90.9257, -0.5406, -0.9208}, colour.Lab{88.6381, -0.8985, -0.7239}, 1.5381},
	{colour.Lab{6.7747, -0.2908, -2.4247}, colour.Lab{5.8714, -0.0985, -2.2286}, 0.6377},
	{colour.Lab{2.0776, 0.0795, -1.1350}, colour.Lab{0.9033, -0.0636, -0.5514}, 0.9082},
}

func TestDE2000AgainstThePublishedPairs(t *testing.T) {
	for i, c := range sharma {
		assert.InDelta(t, c.de, colour.DE2000(c.a, c.b), 0.00005, "pair %d", i+1)
		assert.InDelta(t, c.de, colour.DE2000(c.b, c.a), 0.00005, "pair %d turned round", i+1)
	}
}

// Colours of sRGB in CIELAB as handbooks give them (D65, 2°; from memory, to a tenth).
func TestLabOfKnownColours(t *testing.T) {
	for _, c := range []struct {
		rgb colour.RGB
		lab colour.Lab
	}{
		{colour.RGB{1, 1, 1}, colour.Lab{100, 0, 0}},
		{colour.RGB{0, 0, 0}, colour.Lab{0, 0, 0}},
		{colour.RGB{1, 0, 0}, colour.Lab{53.24, 80.09, 67.20}},
		{colour.RGB{0, 1, 0}, colour.Lab{87.73, -86.18, 83.18}},
		{colour.RGB{0, 0, 1}, colour.Lab{32.30, 79.19, -107.86}},
		{colour.RGB{119.0 / 255, 119.0 / 255, 119.0 / 255}, colour.Lab{50.03, 0, 0}},
	} {
		got := c.rgb.Lab()
		assert.InDelta(t, c.lab.L, got.L, 0.1, "%v", c.rgb)
		assert.InDelta(t, c.lab.A, got.A, 0.1, "%v", c.rgb)
		assert.InDelta(t, c.lab.B, got.B, 0.1, "%v", c.rgb)
	}
	assert.InDelta(t, 0.21404, colour.Linear(0.5), 1e-5, "IEC 61966-2-1")
}

func TestColoursGoThereAndBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		part := rapid.Float64Range(0, 1)
		c := colour.RGB{part.Draw(t, "r"), part.Draw(t, "g"), part.Draw(t, "b")}
		back := c.Lab().RGB()
		assert.InDelta(t, c.R, back.R, 0.002)
		assert.InDelta(t, c.G, back.G, 0.002)
		assert.InDelta(t, c.B, back.B, 0.002)
		other := colour.RGB{part.Draw(t, "r2"), part.Draw(t, "g2"), part.Draw(t, "b2")}
		assert.InDelta(t, colour.DE2000(c.Lab(), other.Lab()), colour.DE2000(other.Lab(), c.Lab()), 1e-9)
		assert.Zero(t, colour.DE2000(c.Lab(), c.Lab()))
	})
}

// By hand: half of the way back is half of the stain; beyond the stained one it got worse.
func TestHowMuchOfAStainIsGone(t *testing.T) {
	clean, stained := colour.Lab{90, 0, 0}, colour.Lab{70, 10, 20}
	share, ok := colour.Removed(clean, stained, colour.Lab{80, 5, 10})
	assert.True(t, ok)
	assert.InDelta(t, 0.5, share, 1e-12)
	share, _ = colour.Removed(clean, stained, clean)
	assert.InDelta(t, 1, share, 1e-12)
	share, _ = colour.Removed(clean, stained, colour.Lab{50, 20, 40})
	assert.InDelta(t, -1, share, 1e-12)
	_, ok = colour.Removed(clean, colour.Lab{90.2, 0, 0}, clean)
	assert.False(t, ok, "there was no stain")
}
