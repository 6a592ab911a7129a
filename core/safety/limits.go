package safety

import "keencrock/core/quantity"

// Extreme says which end of the scale a pH may reach, by the bounds of Regulation (EC)
// 1272/2008 (CLP), Annex I, 3.2.3.1.2 and 3.3.3.1.2: at most 2, or at least 11.5. The ends
// of its range count, not the likely value. Whoever asks whether something stands at an
// extreme pH asks here: screen, cautions, signs, map and page.
func Extreme(ph quantity.Range) (acid, alkali bool) {
	return ph.Low <= AcidBurnsPH, ph.High >= AlkaliBurnsPH
}

// IsExtreme reports whether a pH may reach either end.
func IsExtreme(ph quantity.Range) bool {
	acid, alkali := Extreme(ph)
	return acid || alkali
}

// Limits at which a reading turns from one thing into another. rules.json
// takes them by the names below, and package solution judges its readings by
// them, so that a caution, a sign and a map never disagree. Shares are 0 to 1.
const (
	// AcidBurnsPH and AlkaliBurnsPH are the extreme pH of Regulation (EC)
	// 1272/2008 (CLP), Annex I, parts 3.2 and 3.3: at most 2, at least 11.5.
	AcidBurnsPH   = 2.0
	AlkaliBurnsPH = 11.5

	// HotLyeK is from how many degrees on lye that warms its water scalds and spatters; from
	// memory.
	HotLyeK = 20.0

	// SourBelow and AlkalineAbove are the pH from which a good is sour enough to
	// free chlorine from bleach and to etch stone, and alkaline enough to dull
	// aluminium and felt wool; from memory.
	SourBelow     = 6.0
	AlkalineAbove = 9.5

	// BurnsShare is the alcohol by mass from which a good gives off vapour that
	// burns: 5 % of ethanol by volume flashes at 62 °C, above the 60 °C of CLP,
	// part 2.6. FermentsShare is the sugar that yeast makes enough gas of to
	// burst a bottle. Both from memory.
	BurnsShare    = 0.04
	FermentsShare = 0.01

	// ProtonatedWarn and ProtonatedStop are shares of the soap turned back to fat:
	// common practice.
	ProtonatedWarn = 0.1
	ProtonatedStop = 0.5

	// SoapLostNote and SoapLostWarn are shares of the soap lost to scum, from
	// memory: one hardly shows, the other greys the cloth.
	SoapLostNote = 0.05
	SoapLostWarn = 0.3

	// HardnessLeft, in mmol/l, is less than any test strip shows; from memory.
	HardnessLeft = 0.1

	// LumpsRH, in per cent, is what the air of a wash-house reaches; from
	// memory. What drinks below it needs a tight lid.
	LumpsRH = 65.0

	// SpentInBowlWarn is the share of the fizz a wet binder may spend: common
	// practice, for two cups of soda against half a cup of vinegar spend 2 %.
	SpentInBowlWarn = 0.05

	// SodaSpentWarn is the share of the soda that acid may take before the
	// good is another one; GasShows and GasBursts are ml of gas to a kilogram
	// that foam, and that a closed bottle does not bear. From memory.
	SodaSpentWarn = 0.1
	GasShows      = 1.0
	GasBursts     = 50.0
)

// limits are their names in rules.json; "none" speaks of any amount at all.
var limits = map[string]float64{
	"none":            0,
	"curdled-warn":    ProtonatedWarn,
	"curdled-stop":    ProtonatedStop,
	"soap-lost-note":  SoapLostNote,
	"soap-lost-warn":  SoapLostWarn,
	"spent-warn":      SpentInBowlWarn,
	"soda-spent-warn": SodaSpentWarn,
	"gas-shows":       GasShows,
	"gas-bursts":      GasBursts,
}
