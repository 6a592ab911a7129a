package safety_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"keencrock/core/quantity"
	"keencrock/core/safety"
)

// What each limit says and where it is from; cautions, signs and maps take them from here.
func TestEveryLimitIsWhatItsSourceSays(t *testing.T) {
	for says, l := range map[string]struct{ is, want float64 }{
		"Regulation (EC) 1272/2008, Annex I, 3.2.3.1.2: pH 2 or less burns":     {safety.AcidBurnsPH, 2},
		"the same: pH 11.5 or more burns":                                       {safety.AlkaliBurnsPH, 11.5},
		"from memory: water that lye warms by twenty degrees spatters":          {safety.HotLyeK, 20},
		"from memory: hypochlorous acid begins to free chlorine at pH 6":        {safety.SourBelow, 6},
		"from memory: aluminium dulls and wool felts from pH 9.5 on":            {safety.AlkalineAbove, 9.5},
		"handbook, from memory: 5 % ethanol by volume, 4 % by mass, flashes":    {safety.BurnsShare, 0.04},
		"from memory: ten grams of sugar to a kilogram make five litres of gas": {safety.FermentsShare, 0.01},
		"common practice: a tenth of the soap turned to fat shows":              {safety.ProtonatedWarn, 0.1},
		"common practice: half of it is no soap any more":                       {safety.ProtonatedStop, 0.5},
		"from memory: a twentieth of the soap lost to scum hardly shows":        {safety.SoapLostNote, 0.05},
		"from memory: a third of it greys the cloth":                            {safety.SoapLostWarn, 0.3},
		"from memory: a strip shows no 10 mg/l of chalk":                        {safety.HardnessLeft, 0.1},
		"from memory: the air of a wash-house is at 65 %":                       {safety.LumpsRH, 65},
		"common practice: a binder may spend a twentieth of the fizz":           {safety.SpentInBowlWarn, 0.05},
		"from memory: a tenth of the soda spent makes another good of it":       {safety.SodaSpentWarn, 0.1},
		"from memory: a millilitre of gas to a kilogram foams":                  {safety.GasShows, 1},
		"from memory: fifty of them no closed bottle bears":                     {safety.GasBursts, 50},
	} {
		assert.Equal(t, l.want, l.is, says)
	}
}

// Both ends of the range count, and the bound itself.
func TestAnExtremePHIsThatOfItsRange(t *testing.T) {
	for _, c := range []struct {
		ph           quantity.Range
		acid, alkali bool
	}{
		{quantity.Range{Low: 2, Value: 2.5, High: 3}, true, false},
		{quantity.Range{Low: 2.01, Value: 2.5, High: 3}, false, false},
		{quantity.Range{Low: 10, Value: 11, High: 11.5}, false, true},
		{quantity.Range{Low: 10, Value: 11, High: 11.49}, false, false},
	} {
		acid, alkali := safety.Extreme(c.ph)
		assert.Equal(t, c.acid, acid, "%v", c.ph)
		assert.Equal(t, c.alkali, alkali, "%v", c.ph)
		assert.Equal(t, acid || alkali, safety.IsExtreme(c.ph))
	}
}
