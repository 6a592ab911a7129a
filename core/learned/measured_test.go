package learned_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/learned"
	"keencrock/core/listener"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

// read reads a measuring in US measures.
func read(t *testing.T, said string) (learned.Measurement, error) {
	t.Helper()
	m, err := listener.ReadMeasuring(said, material.Shipped())
	require.NoError(t, err, said)
	h := quantity.Handling{Measures: quantity.US}
	if m.Of != nil {
		h.DensityGPerML = m.Of.Density.Range
	}
	return learned.Measure(m.Measure, m.Of, m.Is, h)
}

// The US cup is 236.588 ml (NIST Handbook 44, appendix C: 8 fl oz of 29.5735 ml).
func TestWhatAMeasuringSays(t *testing.T) {
	for said, want := range map[string]learned.Measurement{
		"a cup of washing soda weighs 243 g":   {learned.Key{Kind: learned.Density, Of: "washing-soda"}, 243 / 236.588},
		"½ cup borax = 100 g":                  {learned.Key{Kind: learned.Density, Of: "borax"}, 200 / 236.588},
		"100 ml of white vinegar weighs 101 g": {learned.Key{Kind: learned.Density, Of: "white-vinegar"}, 1.01},
		"3 bars of castile soap weigh 285 g":   {learned.Key{Kind: learned.Piece, Of: "soap-bar"}, 95},
		"20 soap nuts: 48 g":                   {learned.Key{Kind: learned.Piece, Of: "soap-nut"}, 2.4},
		"100 drops = 4.6 ml":                   {learned.Key{Kind: learned.Size, Of: "drop"}, 0.046},
		"my mug holds 320 ml":                  {learned.Key{Kind: learned.Size, Of: "mug"}, 320},
		"our scoop is 28 ml":                   {learned.Key{Kind: learned.Size, Of: "scoop"}, 28},
		"2 scoops of water weigh 57 g":         {learned.Key{Kind: learned.Size, Of: "scoop"}, 28.5 / 0.998},
		"A handful is 80 ml.":                  {learned.Key{Kind: learned.Size, Of: "handful"}, 80},
		"one shake is 25 g":                    {learned.Key{Kind: learned.Size, Of: "shake"}, 25},
	} {
		got, err := read(t, said)
		require.NoError(t, err, said)
		assert.Equal(t, want.Key, got.Key, said)
		assert.InEpsilon(t, want.Value, got.Value, 0.003, said)
	}
}

func TestWhatIsNoMeasuring(t *testing.T) {
	for said, because := range map[string]string{
		"a cup of washing soda weighs 243 kg": "check the number",
		"a cup of washing soda weighs 2 cups": "in grams",
		"100 drops weigh 4.6 g":               "what was in it",
		"a heaped cup of borax weighs 260 g":  "level measure",
		"about 100 drops make 5 ml":           "exactly",
		"3 bars of castile soap are 2 cups":   "weigh them",
		"a shake is 20 ml":                    "goes by weight",
		"a cup and 2 tbsp of borax = 260 g":   "one measure",
		"1 cup = 243 g":                       "of which material",
	} {
		_, err := read(t, said)
		require.Error(t, err, said)
		assert.Contains(t, err.Error(), because, said)
	}
	for _, said := range []string{"", "hello", "a cup of washing soda", "weighs 243 g", "a cup of moonstone weighs 20 g", "a cup of washing soda weighs a lot"} {
		_, err := listener.ReadMeasuring(said, material.Shipped())
		assert.Error(t, err, said)
	}
}

// Each kind of figure has the repeat of what it is measured by.
func TestTheRepeatOfAFigure(t *testing.T) {
	for key, want := range map[learned.Key]learned.Repeat{
		{Kind: learned.Density, Of: "borax"}: learned.OfACup, {Kind: learned.Piece, Of: "soap-bar"}: learned.OfAPiece,
		{Kind: learned.Size, Of: "drop"}: learned.OfADrop, {Kind: learned.Size, Of: "scoop"}: learned.OfAVessel,
		{Kind: learned.Size, Of: "mug"}: learned.OfAVessel, {Kind: learned.Size, Of: "handful"}: learned.OfAHandful,
		{Kind: learned.Drying, Of: "x"}: learned.OfDrying,
	} {
		assert.Equal(t, want, key.Repeat(), "%v", key)
	}
}
