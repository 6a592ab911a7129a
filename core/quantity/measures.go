package quantity

import "fmt"

// Measures is the family of kitchen measures a formula was written in. The
// zero value, AsWritten, means "whatever the formula says".
type Measures uint8

// The four families. Cups, spoons, ounces and gallons differ between them.
const (
	AsWritten Measures = iota
	US
	Metric
	Imperial
	Australian
)

var measuresNames = [...]string{"", "us", "metric", "imperial", "australian"}

// String returns the name used in formula files: us, metric, imperial or
// australian.
func (m Measures) String() string { return measuresNames[m] }

// ParseMeasures reads one of us, metric, imperial, australian. The empty
// string means US customary measures, the commonest in written formulas.
func ParseMeasures(s string) (Measures, error) {
	if s == "" {
		return US, nil
	}
	for i, name := range measuresNames {
		if i > 0 && name == s {
			return Measures(i), nil
		}
	}
	return 0, fmt.Errorf("measures %q is not known: expected us, metric, imperial or australian", s)
}

// Unit is one thing an amount may be counted in.
type Unit uint8

// Units of mass, of volume, and of things counted.
const (
	noUnit Unit = iota
	Milligram
	Gram
	Kilogram
	Grain
	Ounce
	Pound

	Millilitre
	Centilitre
	Decilitre
	Litre
	Teaspoon
	Tablespoon
	FluidOunce
	Cup
	Pint
	Quart
	Gallon

	Drop
	Pinch
	Dash
	Handful
	Scoop

	Piece
	Bar
	Nut
	Lemon
	Tab

	Part
	unitCount
)

// Kind says what a unit measures, and so what is needed to make grams of it.
type Kind uint8

// Mass needs nothing; Volume needs a bulk density; Count needs the mass of one
// piece; Share (parts) needs the size of one part.
const (
	Mass Kind = iota + 1
	Volume
	Count
	Share
)

type unitDef struct {
	one, many string
	kind      Kind
	fractions bool // printed as kitchen fractions
	// size in grams or millilitres; by family when it differs
	size  Range
	sizes [5]float64
}

// Sizes in millilitres and grams. US customary and avoirdupois values follow
// NIST Handbook 44, Appendix C; Imperial ones follow from the gallon of
// 4.54609 l (UK Weights and Measures Act 1985), with the British spoons of 5 and 15 ml
// now in use (GNU units 2.22, brtablespoon). Metric and Australian cups
// (250 ml) and spoons (15 or 20 ml) are the kitchen standards of those
// countries, from memory. Metric and Australian families have no fluid ounce
// or pint of their own: the Imperial ones stand in.
const (
	usGallonML       = 3785.411784
	imperialGallonML = 4546.09
)

var units = [unitCount]unitDef{
	Milligram: {one: "mg", many: "mg", kind: Mass, size: Exactly(0.001)},
	Gram:      {one: "g", many: "g", kind: Mass, size: Exactly(1)},
	Kilogram:  {one: "kg", many: "kg", kind: Mass, size: Exactly(1000)},
	Grain:     {one: "grain", many: "grains", kind: Mass, size: Exactly(0.06479891)},
	Ounce:     {one: "oz", many: "oz", kind: Mass, size: Exactly(28.349523125), fractions: true},
	Pound:     {one: "lb", many: "lb", kind: Mass, size: Exactly(453.59237), fractions: true},

	Millilitre: {one: "ml", many: "ml", kind: Volume, size: Exactly(1)},
	Centilitre: {one: "cl", many: "cl", kind: Volume, size: Exactly(10)},
	Decilitre:  {one: "dl", many: "dl", kind: Volume, size: Exactly(100)},
	Litre:      {one: "l", many: "l", kind: Volume, size: Exactly(1000)},
	Teaspoon: {one: "tsp", many: "tsp", kind: Volume, fractions: true,
		sizes: [5]float64{US: usGallonML / 768, Metric: 5, Imperial: 5, Australian: 5}},
	Tablespoon: {one: "tbsp", many: "tbsp", kind: Volume, fractions: true,
		sizes: [5]float64{US: usGallonML / 256, Metric: 15, Imperial: 15, Australian: 20}},
	FluidOunce: {one: "fl oz", many: "fl oz", kind: Volume, fractions: true,
		sizes: [5]float64{US: usGallonML / 128, Metric: imperialGallonML / 160, Imperial: imperialGallonML / 160, Australian: imperialGallonML / 160}},
	Cup: {one: "cup", many: "cups", kind: Volume, fractions: true,
		sizes: [5]float64{US: usGallonML / 16, Metric: 250, Imperial: imperialGallonML / 16, Australian: 250}},
	Pint: {one: "pint", many: "pints", kind: Volume, fractions: true,
		sizes: [5]float64{US: usGallonML / 8, Metric: imperialGallonML / 8, Imperial: imperialGallonML / 8, Australian: imperialGallonML / 8}},
	Quart: {one: "quart", many: "quarts", kind: Volume, fractions: true,
		sizes: [5]float64{US: usGallonML / 4, Metric: imperialGallonML / 4, Imperial: imperialGallonML / 4, Australian: imperialGallonML / 4}},
	Gallon: {one: "gallon", many: "gallons", kind: Volume, fractions: true,
		sizes: [5]float64{US: usGallonML, Metric: imperialGallonML, Imperial: imperialGallonML, Australian: imperialGallonML}},

	// Common practice: 20 drops a millilitre, give or take a quarter.
	Drop: {one: "drop", many: "drops", kind: Volume, size: Range{0.05, 0.0375, 0.0625}},
	// Common practice, from memory: what fingers and hands pick up.
	Pinch:   {one: "pinch", many: "pinches", kind: Volume, fractions: true, size: Range{0.31, 0.15, 0.6}},
	Dash:    {one: "dash", many: "dashes", kind: Volume, fractions: true, size: Range{0.62, 0.3, 1.0}},
	Handful: {one: "handful", many: "handfuls", kind: Volume, fractions: true, size: Range{60, 40, 120}},
	// The workshop's own scoop; until it is measured, a coffee scoop of two tablespoons.
	Scoop: {one: "scoop", many: "scoops", kind: Volume, fractions: true, size: Range{30, 25, 35}},

	Piece: {one: "piece", many: "pieces", kind: Count, fractions: true},
	Bar:   {one: "bar", many: "bars", kind: Count, fractions: true},
	Nut:   {one: "nut", many: "nuts", kind: Count, fractions: true},
	Lemon: {one: "lemon", many: "lemons", kind: Count, fractions: true},
	Tab:   {one: "tab", many: "tabs", kind: Count, fractions: true},

	Part: {one: "part", many: "parts", kind: Share, fractions: true},
}

// Kind returns what u measures.
func (u Unit) Kind() Kind { return units[u].kind }

// String returns the singular name, as [Parse] reads it.
func (u Unit) String() string { return units[u].one }

// SizeML returns the millilitres of one u under the given measures, or zero
// when u is no volume.
func (u Unit) SizeML(m Measures) float64 {
	if units[u].kind != Volume {
		return 0
	}
	return units[u].in(m).Value
}

func (d *unitDef) in(m Measures) Range {
	if s := d.sizes[m]; s > 0 {
		return Exactly(s)
	}
	if d.sizes[US] > 0 {
		return Exactly(d.sizes[US])
	}
	return d.size
}

// unitWords maps every spelling, in lower case, to its unit. Capital T and
// small t are told apart by the parser.
var unitWords = buildUnitWords()

func buildUnitWords() map[string]Unit {
	spellings := map[Unit][]string{
		Milligram:  {"mg", "milligram", "milligrams"},
		Gram:       {"g", "gr", "gm", "gms", "gram", "grams", "gramme", "grammes"},
		Kilogram:   {"kg", "kgs", "kilo", "kilos", "kilogram", "kilograms"},
		Grain:      {"grain", "grains"},
		Ounce:      {"oz", "ozs", "ounce", "ounces"},
		Pound:      {"lb", "lbs", "pound", "pounds"},
		Millilitre: {"ml", "mls", "cc", "millilitre", "millilitres", "milliliter", "milliliters"},
		Centilitre: {"cl", "centilitre", "centilitres", "centiliter", "centiliters"},
		Decilitre:  {"dl", "decilitre", "decilitres", "deciliter", "deciliters"},
		Litre:      {"l", "ltr", "litre", "litres", "liter", "liters"},
		Teaspoon:   {"tsp", "tsps", "teaspoon", "teaspoons", "teaspoonful", "teaspoonfuls"},
		Tablespoon: {"tbsp", "tbsps", "tbs", "tblsp", "tablespoon", "tablespoons", "tablespoonful", "tablespoonfuls"},
		FluidOunce: {"floz"},
		Cup:        {"cup", "cups", "c", "cupful", "cupfuls"},
		Pint:       {"pint", "pints", "pt", "pts"},
		Quart:      {"quart", "quarts", "qt", "qts"},
		Gallon:     {"gallon", "gallons", "gal", "gals"},
		Drop:       {"drop", "drops"},
		Pinch:      {"pinch", "pinches"},
		Dash:       {"dash", "dashes"},
		Handful:    {"handful", "handfuls"},
		Scoop:      {"scoop", "scoops", "scoopful", "scoopfuls"},
		Piece:      {"piece", "pieces", "pc", "pcs"},
		Bar:        {"bar", "bars"},
		Nut:        {"nut", "nuts", "shell", "shells"},
		Lemon:      {"lemon", "lemons"},
		Tab:        {"tab", "tabs", "tablet", "tablets"},
		Part:       {"part", "parts"},
	}
	words := map[string]Unit{}
	for u, names := range spellings {
		for _, name := range names {
			words[name] = u
		}
	}
	return words
}
