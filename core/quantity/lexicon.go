package quantity

import "strings"

// role is what a word does in an amount.
type role uint8

const (
	noRole    role = iota
	isNumber       // two, half, a few
	isUnit         // cup, handful, bucket
	isFill         // heaped, scant, large
	isAbout        // about, roughly
	isSet          // imperial, metric
	isPack         // box, bag: holds what is written beside it
	isFruit        // lemon, after “juice of” or “peel of”
	isFiller       // firmly, good: says nothing that is reckoned with
	isPartOf       // quarters, thirds: the lower part of a fraction
	isArticle      // a, an, the
)

// entry is what is known of a word.
type entry struct {
	role      role
	low, high Number
	unit      Unit
	fill      Fill
	set       Measures
}

// The lexicon, part by part. A new word is a word in one of these tables; a
// test holds that none stands in two of them.

// numberWords are counts, and counts as people leave them open. Few, couple
// and several are common practice.
var numberWords = []struct {
	words     string
	low, high Number
}{
	{"one single", Number{1, 1}, Number{1, 1}}, {"two pair", Number{2, 1}, Number{2, 1}}, {"three", Number{3, 1}, Number{3, 1}},
	{"four", Number{4, 1}, Number{4, 1}}, {"five", Number{5, 1}, Number{5, 1}}, {"six", Number{6, 1}, Number{6, 1}},
	{"seven", Number{7, 1}, Number{7, 1}}, {"eight", Number{8, 1}, Number{8, 1}}, {"nine", Number{9, 1}, Number{9, 1}},
	{"ten", Number{10, 1}, Number{10, 1}}, {"eleven", Number{11, 1}, Number{11, 1}}, {"twelve dozen doz", Number{12, 1}, Number{12, 1}},
	{"thirteen", Number{13, 1}, Number{13, 1}}, {"fourteen", Number{14, 1}, Number{14, 1}}, {"fifteen", Number{15, 1}, Number{15, 1}},
	{"sixteen", Number{16, 1}, Number{16, 1}}, {"seventeen", Number{17, 1}, Number{17, 1}}, {"eighteen", Number{18, 1}, Number{18, 1}},
	{"nineteen", Number{19, 1}, Number{19, 1}}, {"twenty", Number{20, 1}, Number{20, 1}}, {"thirty", Number{30, 1}, Number{30, 1}},
	{"forty", Number{40, 1}, Number{40, 1}}, {"fifty", Number{50, 1}, Number{50, 1}}, {"sixty", Number{60, 1}, Number{60, 1}},
	{"seventy", Number{70, 1}, Number{70, 1}}, {"eighty", Number{80, 1}, Number{80, 1}}, {"ninety", Number{90, 1}, Number{90, 1}},
	{"hundred", Number{100, 1}, Number{100, 1}}, {"thousand", Number{1000, 1}, Number{1000, 1}},
	{"half", Number{1, 2}, Number{1, 2}}, {"third", Number{1, 3}, Number{1, 3}}, {"quarter fourth", Number{1, 4}, Number{1, 4}},
	{"fifth", Number{1, 5}, Number{1, 5}}, {"sixth", Number{1, 6}, Number{1, 6}}, {"eighth", Number{1, 8}, Number{1, 8}},
	{"tenth", Number{1, 10}, Number{1, 10}}, {"twelfth", Number{1, 12}, Number{1, 12}},
	{"couple", Number{2, 1}, Number{2, 1}}, {"few", Number{3, 1}, Number{5, 1}}, {"several", Number{4, 1}, Number{7, 1}},
}

// partWords are the lower parts of fractions in words: three quarters.
var partWords = []struct {
	words string
	of    int64
}{{"halves", 2}, {"thirds", 3}, {"quarters fourths", 4}, {"fifths", 5}, {"sixths", 6}, {"eighths", 8}, {"tenths", 10}}

// unitSpellings are the spellings of units, in lower case, parted by commas. Capital
// T and small t are told apart by the parser.
var unitSpellings = map[Unit]string{
	Milligram: "mg, milligram, milligrams, milligramme, milligrammes",
	Gram:      "g, gr, gm, gms, gram, grams, gramme, grammes",
	Kilogram:  "kg, kgs, kilo, kilos, kilogram, kilograms, kilogramme, kilogrammes",
	Grain:     "grain, grains",
	Ounce:     "oz, ozs, ounce, ounces",
	WeighedOunce: "oz by weight, ounce by weight, ounces by weight, oz weight, ounces weight, oz wt, oz (weight), oz (by weight), ounces (by weight), " +
		"ounces (weight), weight oz, weight ounce, weight ounces, oz av, dry oz, dry ounce, dry ounces",
	Pound:      "lb, lbs, pound, pounds",
	Millilitre: "ml, mls, mil, mils, cc, ccs, millilitre, millilitres, milliliter, milliliters",
	Centilitre: "cl, centilitre, centilitres, centiliter, centiliters",
	Decilitre:  "dl, decilitre, decilitres, deciliter, deciliters",
	Litre:      "l, lt, ltr, ltrs, litre, litres, liter, liters",
	Teaspoon:   "tsp, tsps, teasp, teaspoon, teaspoons, teaspoonful, teaspoonfuls, teaspoonsful, tea spoon, tea spoons",
	Tablespoon: "tbsp, tbsps, tbs, tbl, tb, tblsp, tablesp, tablespoon, tablespoons, tablespoonful, tablespoonfuls, tablespoonsful, " +
		"table spoon, table spoons, soup spoon, soup spoons, soupspoon, soupspoons",
	Dessertspoon: "dsp, dstsp, dessertspoon, dessertspoons, dessertspoonful, dessertspoonfuls, dessert spoon, dessert spoons",
	FluidOunce: "floz, fl oz, fl ounce, fl ounces, fluid oz, fluid ounce, fluid ounces, liquid oz, liquid ounce, liquid ounces, oz fluid, " +
		"ounces fluid, oz by volume, ounces by volume, oz (fluid), ounces (fluid), oz liquid",
	Cup:    "cup, cups, c, cupful, cupfuls, cupsful, cup full, cups full, measuring cup, measuring cups",
	Pint:   "pint, pints, pt, pts",
	Quart:  "quart, quarts, qt, qts",
	Gallon: "gallon, gallons, gal, gals",

	Drop:     "drop, drops, gtt, gtts, dr, drp, drps",
	Pinch:    "pinch, pinches",
	Dash:     "dash, dashes",
	Squeeze:  "squeeze, squeezes, squirt, squirts, drizzle, drizzles, dribble, dribbles",
	Splash:   "splash, splashes, swig, swigs",
	Glug:     "glug, glugs, slosh, sloshes, slug, slugs",
	Dollop:   "dollop, dollops, blob, blobs, glob, globs, gob, gobs, knob, knobs",
	Pump:     "pump, pumps, pumpful, pumpfuls",
	Spritz:   "spritz, spritzes, spray, sprays, mist",
	Dropper:  "dropper, droppers, dropperful, dropperfuls, pipette, pipettes, pipetteful",
	Shake:    "shake, shakes",
	Sprinkle: "sprinkle, sprinkles, sprinkling, dusting",
	Handful:  "handful, handfuls, handsful, hand full, fistful, fistfuls",
	Scoop:    "scoop, scoops, scoopful, scoopfuls, scoop full",
	Spoon:    "spoon, spoons, spoonful, spoonfuls, spoonsful, spoon full",
	Capful:   "cap, caps, capful, capfuls, capsful, cap full, caps full",

	Shot:   "shot, shots, shot glass, shot glasses",
	EggCup: "egg cup, egg cups, eggcup, eggcups, eggcupful",
	Ladle:  "ladle, ladles, ladleful, ladlefuls",
	Teacup: "teacup, teacups, tea cup, tea cups, teacupful, teacupfuls, coffee cup, coffee cups",
	Glass:  "glass, glasses, glassful, glassfuls, tumbler, tumblers",
	Mug:    "mug, mugs, mugful, mugfuls",
	Jug:    "jug, jugs, jugful, jugfuls, pitcher, pitchers",
	Bowl:   "bowl, bowls, bowlful, bowlfuls",
	Kettle: "kettle, kettles, kettleful, kettlefuls",
	Basin:  "basin, basins, washing-up bowl, dishpan",
	Bucket: "bucket, buckets, bucketful, bucketfuls, pail, pails",
	Sink:   "sink, sinks, sinkful, sinkfuls",
	Jar:    "jar, jars, jarful, jarfuls, jam jar, jam jars, glass jar, glass jars, preserving jar, preserving jars, screw top jar",
	Bottle: "bottle, bottles, bottleful, bottlefuls, spray bottle, spray bottles, pump bottle, pump bottles, squeeze bottle, squeeze bottles, squirt bottle, squirt bottles, glass bottle, glass bottles, wine bottle, wine bottles, trigger bottle, trigger bottles, mister, misters, atomiser, atomisers, atomizer, atomizers, sprayer, sprayers",
	Pot:    "pot, pots, potful, pan, pans, panful, saucepan, saucepans",
	Box: "box, boxes, bag, bags, pack, packs, packet, packets, package, packages, tin, tins, can, cans, carton, cartons, tub, tubs, " +
		"container, containers, drum, drums, canister, canisters, jerrycan, jerrycans, jerry can, jerry cans, keg, kegs, crate, crates, sachet, sachets, pouch, pouches, sack, sacks, case, cases, " +
		"milk tin, milk tins, milk cup, milk cups, tomato tin, tomato tins, bean tin, bean tins, jam tin, jam tins, paint bucket, paint buckets, derica, dericas, derica tin, derica tins, mudu, mudus",
	Inch:       "inch, inches",
	Centimetre: "cm, centimetre, centimetres, centimeter, centimeters",

	Piece: "piece, pieces, pc, pcs, stick, sticks, slice, slices, sprig, sprigs, chunk, chunks, cube, cubes",
	Bar:   "bar, bars, block, blocks, cake, cakes",
	Nut:   "nut, nuts, shell, shells",
	Lemon: "lemon, lemons",
	Tab:   "tab, tabs, tablet, tablets",

	Part:    "part, parts, measures",
	Percent: "%, percent, per cent",
}

// fillWords are ways to fill a cup or spoon, and sizes of a handful or a lemon.
var fillWords = map[Fill]string{
	Level:   "level levelled leveled flat",
	Heaped:  "heaped heaping piled overflowing",
	Rounded: "rounded generous",
	Scant:   "scant scanty bare shy",
	Packed:  "packed",
	Large:   "large big huge",
	Small:   "small little tiny",
	Medium:  "medium medium-sized",
}

const aboutWords = "about roughly approx approximately around circa ca nearly almost"

var setWords = map[Measures]string{
	US:         "us american",
	Imperial:   "imperial imp uk british",
	Metric:     "metric",
	Australian: "australian aus",
}

// fillerWords say nothing that is reckoned with.
const fillerWords = "firmly lightly loosely tightly well good whole full"

// fruitWords are what can be squeezed and peeled.
var fruitWords = []struct {
	words       string
	juice, peel Unit
}{
	{"lemon lemons", JuiceOfLemon, PeelOfLemon},
	{"lime limes", JuiceOfLime, PeelOfLime},
	{"orange oranges", JuiceOfOrange, PeelOfOrange},
	{"grapefruit grapefruits", JuiceOfGrapefruit, PeelOfGrapefruit},
}

// openPhrases are amounts without a figure, the longer before the shorter.
var openPhrases = []struct {
	phrase string
	open   Open
}{
	{"to a thick paste", AsNeeded}, {"to a smooth paste", AsNeeded}, {"to a stiff paste", AsNeeded}, {"to a paste", AsNeeded}, {"to paste", AsNeeded}, {"to a thick cream", AsNeeded}, {"to a dough", AsNeeded}, {"to a slurry", AsNeeded}, {"enough to cover", ToCover}, {"to cover", ToCover}, {"just to cover", ToCover},
	{"enough to fill", ToFill}, {"to fill", ToFill}, {"fill up", ToFill}, {"to top up", ToFill}, {"top up", ToFill}, {"to the top", ToFill}, {"to the brim", ToFill}, {"to the line", ToFill}, {"up to the line", ToFill}, {"to the mark", ToFill}, {"up to the mark", ToFill}, {"to the rim", ToFill}, {"to the neck", ToFill}, {"to the shoulder", ToFill}, {"to the shoulders", ToFill},
	{"to taste", ToTaste}, {"as you like", ToTaste}, {"as liked", ToTaste}, {"as desired", ToTaste}, {"to your liking", ToTaste}, {"optional amount", ToTaste},
	{"as needed", AsNeeded}, {"as required", AsNeeded}, {"as much as needed", AsNeeded}, {"as much as it takes", AsNeeded}, {"if needed", AsNeeded}, {"enough to bind", AsNeeded}, {"to bind", AsNeeded}, {"enough to fizz", AsNeeded}, {"to fizz", AsNeeded}, {"until it fizzes", AsNeeded}, {"till it fizzes", AsNeeded}, {"to moisten", AsNeeded}, {"enough to moisten", AsNeeded}, {"to dampen", AsNeeded}, {"to hold it together", AsNeeded}, {"to bring it together", AsNeeded},
	{"enough to dissolve", AsNeeded}, {"enough to wet", AsNeeded}, {"enough to make a paste", AsNeeded}, {"enough for a paste", AsNeeded}, {"to make a paste", AsNeeded}, {"to loosen", AsNeeded}, {"to loosen it", AsNeeded}, {"to slacken", AsNeeded}, {"to thin", AsNeeded}, {"to thin it", AsNeeded}, {"to dampen", AsNeeded}, {"to dampen it", AsNeeded}, {"to moisten", AsNeeded}, {"to wet", AsNeeded}, {"to make it a paste", AsNeeded}, {"enough to make it a paste", AsNeeded}, {"to make it into a paste", AsNeeded}, {"to form a paste", AsNeeded}, {"enough to form a paste", AsNeeded}, {"to get a paste", AsNeeded},
	{"until it thickens", AsNeeded}, {"till it thickens", AsNeeded}, {"until thick", AsNeeded}, {"until it's thick", AsNeeded}, {"till thick", AsNeeded}, {"till it clumps", AsNeeded},
	{"till it holds", AsNeeded}, {"until it smells right", ToTaste}, {"until it foams", AsNeeded}, {"until it holds together", AsNeeded},
	{"until it holds", AsNeeded}, {"until it clumps", AsNeeded}, {"enough", AsNeeded}, {"q.s.", AsNeeded}, {"qs", AsNeeded},
	{"a small amount", Some}, {"small amount", Some}, {"a little bit", Some}, {"a little", Some}, {"a bit", Some}, {"bit of", Some}, {"touch of", Some}, {"little bit of", Some}, {"some more", Some}, {"some", Some}, {"a touch", Some},
	{"a hint", Some}, {"a tiny bit", Some}, {"a wee bit", Some}, {"a wee", Some}, {"a tad", Some}, {"a small bit", Some}, {"just a bit", Some}, {"a wee drop", Some}, {"a lot", Some}, {"plenty", Some}, {"lots", Some}, {"a smidge", Some}, {"a smidgen", Some}, {"any amount", Some},
}

// lexicon finds a word, or two or three that belong together.
var lexicon, firstWords = buildLexicon()

func buildLexicon() (words map[string]entry, first map[string]bool) {
	words, first = map[string]entry{}, map[string]bool{}
	add := func(list, sep string, e entry) {
		for _, word := range strings.Split(list, sep) {
			word = strings.TrimSpace(word)
			words[word] = e
			if head, _, more := strings.Cut(word, " "); more {
				first[head] = true
			}
		}
	}
	for _, n := range numberWords {
		add(n.words, " ", entry{role: isNumber, low: n.low, high: n.high})
	}
	for _, p := range partWords {
		add(p.words, " ", entry{role: isPartOf, low: Number{1, p.of}, high: Number{1, p.of}})
	}
	for u, list := range unitSpellings {
		add(list, ",", entry{role: isUnit, unit: u})
	}
	for f, list := range fillWords {
		add(list, " ", entry{role: isFill, fill: f})
	}
	for m, list := range setWords {
		add(list, " ", entry{role: isSet, set: m})
	}
	add(aboutWords, " ", entry{role: isAbout})
	add(fillerWords, " ", entry{role: isFiller})
	add("a an the", " ", entry{role: isArticle})
	return words, first
}

// fruitOf finds a fruit's juice and peel.
func fruitOf(word string) (juice, peel Unit, ok bool) {
	word = strings.TrimSuffix(word, ".") // at the end of a sentence
	for _, f := range fruitWords {
		if one, many, _ := strings.Cut(f.words, " "); word == one || word == many {
			return f.juice, f.peel, true
		}
	}
	return 0, 0, false
}
