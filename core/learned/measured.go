package learned

import (
	"fmt"

	"keencrock/core/material"
	"keencrock/core/quantity"
)

// Kind is what a figure is of.
type Kind string

// The kinds of figures that are measured on the scale.
const (
	Density Kind = "density" // of a material, in g/ml
	Piece   Kind = "piece"   // of a material, in g
	Size    Kind = "size"    // of a measure or a vessel, in ml or g by what it measures
	Drying  Kind = "drying"  // of a good, in hours
	Keeping Kind = "keeping" // of a good, in days; only ever shortened, see core/keeping
	AtStep  Kind = "step"    // of a kind of step, in minutes of hands
)

// Key names a figure: its kind, and the material, the measure or the good it is of.
type Key struct {
	Kind Kind
	Of   string
}

// Repeat is how far one measurement of a figure usually falls from the next.
func (k Key) Repeat() Repeat {
	switch k.Kind {
	case Density:
		return OfACup
	case Piece:
		return OfAPiece
	case Drying:
		return OfDrying
	case AtStep:
		return OfAStep
	}
	switch unit, ok := quantity.ParseUnit(k.Of); {
	case ok && unit == quantity.Drop:
		return OfADrop
	case ok && (unit == quantity.Scoop || unit.Role() == quantity.Vessel):
		return OfAVessel
	}
	return OfAHandful
}

// Measurement is one measuring, as the figure it is of and what it says of it.
type Measurement struct {
	Key
	Value float64 // in the unit of its kind
}

// NotMeasuredError says why what was said is no measurement, in words for who said it.
type NotMeasuredError struct{ Detail string }

func (e *NotMeasuredError) Error() string { return e.Detail }

func notMeasured(format string, args ...any) error {
	return &NotMeasuredError{fmt.Sprintf(format, args...)}
}

// Bounds that keep slips of the pen out: of a density, and of a measure or a piece.
const (
	lightest, heaviest   = 0.02, 3.0 // g/ml: down to puffed flakes, up beyond any salt here
	smallest, largest    = 0.005, 500_000.0
	leastPiece, mostEach = 0.001, 100_000.0
)

// Measure is the figure that a measuring is of: so much of a measure, of a material or of
// nothing in particular, is so much by weight or by volume. A cup that is weighed is a
// density, bars that are weighed are a piece, drops, scoops and vessels are a size. The
// handling is that of the material. The error is a *NotMeasuredError.
func Measure(measure quantity.Amount, of *material.Material, is quantity.Amount, h quantity.Handling) (Measurement, error) {
	if measure.UpTo() || measure.IsZero() || len(measure.Terms()) != 1 {
		return Measurement{}, notMeasured("Say one measure, such as 1 cup, 100 drops or 3 bars.")
	}
	grams, weighed := is.MassOnly()
	ml, poured := is.Millilitres(quantity.Handling{Measures: h.Measures, Liquid: true})
	if is.UpTo() || weighed == poured {
		return Measurement{}, notMeasured("Say what it came to in grams or in millilitres.")
	}
	unit := measure.Unit()
	switch pieces, counted := measure.Pieces(); {
	case counted:
		return ofPieces(pieces, of, grams, weighed)
	case unit.Role() != quantity.Standard:
		return ofSize(measure, of, grams, ml, weighed, h)
	}
	return ofVolume(measure, of, grams, weighed, h)
}

func ofPieces(pieces quantity.Range, of *material.Material, grams quantity.Range, weighed bool) (Measurement, error) {
	switch {
	case of == nil:
		return Measurement{}, notMeasured("Say of which material the pieces are.")
	case !weighed || !pieces.IsExact() || pieces.Value <= 0:
		return Measurement{}, notMeasured("Count the pieces and weigh them: 3 bars weigh 285 g.")
	}
	return within(Measurement{Key{Piece, of.ID}, grams.Value / pieces.Value}, leastPiece, mostEach, "g a piece")
}

// ofSize is a measure of the workshop's own: weighed with something of which the density is
// known, or poured out.
func ofSize(measure quantity.Amount, of *material.Material, grams, ml quantity.Range, weighed bool, h quantity.Handling) (Measurement, error) {
	unit := measure.Unit()
	count, certain := exactCount(measure)
	if !certain {
		return Measurement{}, notMeasured("Say how many, exactly: 100 drops, 2 scoops.")
	}
	is := ml
	switch {
	case unit.Kind() == quantity.Mass && !weighed:
		return Measurement{}, notMeasured("A %s goes by weight: put it on the scale.", unit)
	case unit.Kind() == quantity.Mass:
		is = grams
	case weighed && h.DensityGPerML.Value > 0:
		is = grams.Scale(1 / h.DensityGPerML.Value)
	case weighed && of == nil:
		return Measurement{}, notMeasured("Say what was in it, or fill it with water: then a gram is a millilitre.")
	case weighed:
		return Measurement{}, notMeasured("What a millilitre of %s weighs is not known: weigh a cup of it first, or measure with water.", material.InSentence(of.Name))
	}
	name := "ml a " + unit.String()
	if unit.Kind() == quantity.Mass {
		name = "g a " + unit.String()
	}
	return within(Measurement{Key{Size, unit.String()}, is.Value / count}, smallest, largest, name)
}

// exactCount is how many a measure says, where it says that exactly.
func exactCount(measure quantity.Amount) (float64, bool) {
	t := measure.Terms()[0]
	return t.Low.Float(), t.Low == t.High && !t.About && t.Fill == quantity.Plain && t.Low.Float() > 0
}

func ofVolume(measure quantity.Amount, of *material.Material, grams quantity.Range, weighed bool, h quantity.Handling) (Measurement, error) {
	ml, isVolume := measure.Millilitres(quantity.Handling{Measures: h.Measures, Liquid: h.Liquid})
	switch {
	case of == nil:
		return Measurement{}, notMeasured("Say of which material.")
	case !isVolume || !ml.IsExact():
		return Measurement{}, notMeasured("Weigh a level measure, such as 1 cup or 100 ml; “%s” is none.", measure)
	case !weighed:
		return Measurement{}, notMeasured("Say what it weighs in grams.")
	}
	return within(Measurement{Key{Density, of.ID}, grams.Value / ml.Value}, lightest, heaviest, "g a millilitre")
}

func within(m Measurement, low, high float64, unit string) (Measurement, error) {
	if m.Value < low || m.Value > high {
		return Measurement{}, notMeasured("That is %s %s, which cannot be: check the number.", quantity.FormatFigures(m.Value, 3), unit)
	}
	return m, nil
}
