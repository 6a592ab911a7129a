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
	Ounce // of a solid; of a liquid it is a fluid ounce
	WeighedOunce
	Pound

	Millilitre
	Centilitre
	Decilitre
	Litre
	Teaspoon
	Tablespoon
	Dessertspoon
	FluidOunce
	Cup
	Pint
	Quart
	Gallon

	// Vague sizes, of what fingers and hands do.
	Drop
	Pinch
	Dash
	Squeeze
	Splash
	Glug
	Dollop
	Pump
	Spritz
	Dropper
	Shake
	Sprinkle
	Handful
	Scoop
	Spoon
	Capful

	// Vessels. Jar and what follows have no usual size.
	Shot
	EggCup
	Ladle
	Teacup
	Glass
	Mug
	Jug
	Bowl
	Kettle
	Basin
	Bucket
	Sink
	Jar
	Bottle
	Pot
	Box
	Inch
	Centimetre

	// What fruit gives.
	JuiceOfLemon
	JuiceOfLime
	JuiceOfOrange
	JuiceOfGrapefruit
	PeelOfLemon
	PeelOfLime
	PeelOfOrange
	PeelOfGrapefruit

	Bare // a number alone: so many of what is counted
	Piece
	Bar
	Nut
	Lemon
	Tab

	Part
	Percent // of the whole by mass
	unitCount
)

// Kind says what a unit measures, and so what is needed to make grams of it.
type Kind uint8

// Mass needs nothing; Volume needs a bulk density; Count needs the mass of one
// piece; Share (parts, per cent) needs the size of the whole.
const (
	Mass Kind = iota + 1
	Volume
	Count
	Share
)

// Role says what sort of measure a unit is, where a workshop may have its own.
type Role uint8

// Standard sizes are fixed; vague ones and vessels can be measured once and are
// the workshop's own from then on.
const (
	Standard Role = iota
	Vague
	Vessel
)

type unitDef struct {
	one, many string
	of        string // before the number: “juice of ”
	kind      Kind
	role      Role
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
	Milligram:    {one: "mg", many: "mg", kind: Mass, size: Exactly(0.001)},
	Gram:         {one: "g", many: "g", kind: Mass, size: Exactly(1)},
	Kilogram:     {one: "kg", many: "kg", kind: Mass, size: Exactly(1000)},
	Grain:        {one: "grain", many: "grains", kind: Mass, size: Exactly(0.06479891)},
	Ounce:        {one: "oz", many: "oz", kind: Mass, size: Exactly(28.349523125), fractions: true},
	WeighedOunce: {one: "oz by weight", many: "oz by weight", kind: Mass, size: Exactly(28.349523125), fractions: true},
	Pound:        {one: "lb", many: "lb", kind: Mass, size: Exactly(453.59237), fractions: true},

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

	Dessertspoon: {one: "dessertspoon", many: "dessertspoons", kind: Volume, fractions: true, size: Range{10, 9, 12}}, // from memory

	// Vague sizes and vessels: common practice, of what fingers, hands and
	// kitchens hold; wide on purpose. A drop is a twentieth of a millilitre,
	// give or take a quarter.
	Drop:     {one: "drop", many: "drops", kind: Volume, role: Vague, size: Range{0.05, 0.0375, 0.0625}},
	Pinch:    {one: "pinch", many: "pinches", kind: Volume, role: Vague, fractions: true, size: Range{0.31, 0.15, 0.6}},
	Dash:     {one: "dash", many: "dashes", kind: Volume, role: Vague, fractions: true, size: Range{0.6, 0.3, 1.0}},
	Squeeze:  {one: "squeeze", many: "squeezes", kind: Volume, role: Vague, fractions: true, size: Range{5, 3, 10}},
	Splash:   {one: "splash", many: "splashes", kind: Volume, role: Vague, fractions: true, size: Range{15, 5, 30}},
	Glug:     {one: "glug", many: "glugs", kind: Volume, role: Vague, fractions: true, size: Range{60, 30, 120}},
	Dollop:   {one: "dollop", many: "dollops", kind: Volume, role: Vague, fractions: true, size: Range{20, 10, 40}},
	Pump:     {one: "pump", many: "pumps", kind: Volume, role: Vague, fractions: true, size: Range{2, 1, 4}},
	Spritz:   {one: "spritz", many: "spritzes", kind: Volume, role: Vague, fractions: true, size: Range{1, 0.5, 1.5}}, // from memory
	Dropper:  {one: "dropper", many: "droppers", kind: Volume, role: Vague, fractions: true, size: Range{1, 0.7, 1.2}},
	Shake:    {one: "shake", many: "shakes", kind: Mass, role: Vague, fractions: true, size: Range{30, 15, 60}},
	Sprinkle: {one: "sprinkle", many: "sprinkles", kind: Mass, role: Vague, fractions: true, size: Range{10, 5, 20}},
	Handful:  {one: "handful", many: "handfuls", kind: Volume, role: Vague, fractions: true, size: Range{90, 60, 120}},
	// The workshop's own scoop; until it is measured, a coffee scoop of two tablespoons.
	Scoop:  {one: "scoop", many: "scoops", kind: Volume, role: Vague, fractions: true, size: Range{30, 25, 35}},
	Spoon:  {one: "spoon", many: "spoons", kind: Volume, role: Vague, fractions: true, size: Range{15, 10, 20}},
	Capful: {one: "capful", many: "capfuls", kind: Volume, role: Vague, fractions: true, size: Range{25, 10, 40}},

	Shot:   {one: "shot", many: "shots", kind: Volume, role: Vessel, fractions: true, size: Range{40, 25, 45}},
	EggCup: {one: "egg cup", many: "egg cups", kind: Volume, role: Vessel, fractions: true, size: Range{50, 40, 60}},
	Ladle:  {one: "ladle", many: "ladles", kind: Volume, role: Vessel, fractions: true, size: Range{120, 80, 180}},
	Teacup: {one: "teacup", many: "teacups", kind: Volume, role: Vessel, fractions: true, size: Range{200, 150, 240}},
	Glass:  {one: "glass", many: "glasses", kind: Volume, role: Vessel, fractions: true, size: Range{240, 180, 300}},
	Mug:    {one: "mug", many: "mugs", kind: Volume, role: Vessel, fractions: true, size: Range{300, 250, 350}},
	Jug:    {one: "jug", many: "jugs", kind: Volume, role: Vessel, fractions: true, size: Range{1000, 500, 1500}},
	Bowl:   {one: "bowl", many: "bowls", kind: Volume, role: Vessel, fractions: true, size: Range{3000, 1500, 4000}},
	Kettle: {one: "kettle", many: "kettles", kind: Volume, role: Vessel, fractions: true, size: Range{1700, 1500, 1800}},
	Basin:  {one: "basin", many: "basins", kind: Volume, role: Vessel, fractions: true, size: Range{6000, 4000, 8000}},
	Bucket: {one: "bucket", many: "buckets", kind: Volume, role: Vessel, fractions: true, size: Range{8000, 5000, 10000}},
	Sink:   {one: "sink", many: "sinks", kind: Volume, role: Vessel, fractions: true, size: Range{10000, 8000, 15000}},

	Jar:        {one: "jar", many: "jars", kind: Volume, role: Vessel, fractions: true},
	Bottle:     {one: "bottle", many: "bottles", kind: Volume, role: Vessel, fractions: true},
	Pot:        {one: "pot", many: "pots", kind: Volume, role: Vessel, fractions: true},
	Box:        {one: "box", many: "boxes", kind: Volume, role: Vessel, fractions: true},
	Inch:       {one: "inch", many: "inches", kind: Volume, role: Vessel, fractions: true},
	Centimetre: {one: "cm", many: "cm", kind: Volume, role: Vessel, fractions: true},

	// Common practice: a lemon gives 45 ml of juice, 30 to 60. The others and
	// the peels are from memory.
	JuiceOfLemon:      {one: "lemon", many: "lemons", of: "juice of ", kind: Volume, role: Vague, fractions: true, size: Range{45, 30, 60}},
	JuiceOfLime:       {one: "lime", many: "limes", of: "juice of ", kind: Volume, role: Vague, fractions: true, size: Range{30, 20, 40}},
	JuiceOfOrange:     {one: "orange", many: "oranges", of: "juice of ", kind: Volume, role: Vague, fractions: true, size: Range{80, 60, 110}},
	JuiceOfGrapefruit: {one: "grapefruit", many: "grapefruits", of: "juice of ", kind: Volume, role: Vague, fractions: true, size: Range{150, 100, 200}},
	PeelOfLemon:       {one: "lemon", many: "lemons", of: "peel of ", kind: Mass, role: Vague, fractions: true, size: Range{30, 20, 45}},
	PeelOfLime:        {one: "lime", many: "limes", of: "peel of ", kind: Mass, role: Vague, fractions: true, size: Range{15, 10, 25}},
	PeelOfOrange:      {one: "orange", many: "oranges", of: "peel of ", kind: Mass, role: Vague, fractions: true, size: Range{45, 30, 65}},
	PeelOfGrapefruit:  {one: "grapefruit", many: "grapefruits", of: "peel of ", kind: Mass, role: Vague, fractions: true, size: Range{90, 60, 130}},

	Bare:  {kind: Count, fractions: true},
	Piece: {one: "piece", many: "pieces", kind: Count, fractions: true},
	Bar:   {one: "bar", many: "bars", kind: Count, fractions: true},
	Nut:   {one: "nut", many: "nuts", kind: Count, fractions: true},
	Lemon: {one: "lemon", many: "lemons", kind: Count, fractions: true},
	Tab:   {one: "tab", many: "tabs", kind: Count, fractions: true},

	Part:    {one: "part", many: "parts", kind: Share, fractions: true},
	Percent: {one: "%", many: "%", kind: Share},
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

// Plural returns the plural name.
func (u Unit) Plural() string { return units[u].many }

// Role returns whether a workshop may have a size of its own for u.
func (u Unit) Role() Role { return units[u].role }

// Usual returns the usual size of u, in grams or millilitres; zero when it has
// none, as a jar, or when the measures decide.
func (u Unit) Usual() Range { return units[u].size }

// Measurable lists the units of which a workshop may have a size of its own:
// vague sizes and vessels, in their order.
func Measurable() []Unit {
	var list []Unit
	for u := range units {
		if units[u].role != Standard && units[u].of == "" {
			list = append(list, Unit(u))
		}
	}
	return list
}

// ParseUnit reads the singular name of a unit.
func ParseUnit(name string) (Unit, bool) {
	e, ok := lexicon[name]
	return e.unit, ok && e.role == isUnit
}

// JuiceOf and PeelOf report whether u is the juice or the peel of fruit.
func (u Unit) JuiceOf() bool { return u >= JuiceOfLemon && u <= JuiceOfGrapefruit }

// PeelOf reports whether u is the peel of fruit.
func (u Unit) PeelOf() bool { return u >= PeelOfLemon && u <= PeelOfGrapefruit }

// Fruit is the fruit of which u is the juice or the peel.
func (u Unit) Fruit() string {
	if !u.JuiceOf() && !u.PeelOf() {
		return ""
	}
	return units[u].one
}
