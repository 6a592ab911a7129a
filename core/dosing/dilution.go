package dosing

import (
	"errors"
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"

	"keencrock/core/quantity"
)

// Dilution is how much of what is used is the good, by volume, 0 to 1.
type Dilution struct {
	Share float64
	// Turned says that what stood first was taken as the water: 10:1 is ten of water,
	// since nobody thins ten parts of a good with one.
	Turned bool
}

// DilutionError is what is no dilution.
type DilutionError struct{ Text, Detail string }

func (e *DilutionError) Error() string {
	return fmt.Sprintf("“%s” is no dilution: %s; expected 1:5, 1 in 6, one part to four, 1/4 cup to a quart, 5 %% or 20 drops in 500 ml", e.Text, e.Detail)
}

// numberWords are the numbers people say.
var numberWords = map[string]string{"a": "1", "an": "1", "one": "1", "two": "2", "three": "3", "four": "4", "five": "5", "six": "6", "seven": "7", "eight": "8", "nine": "9", "ten": "10", "twelve": "12", "twenty": "20", "half": "0.5", "equal": "1"}

var (
	percentForm = regexp.MustCompile(`^([\d.,]+)\s*(?:%|per\s?cent|percent)(?:\s*(?:v/v|by volume|in water))?$`)
	ratioForm   = regexp.MustCompile(`^([\d.,/]+)\s*:\s*([\d.,/]+)$`)
	partsForm   = regexp.MustCompile(`^(\S+)(?:\s+parts?)?\s+(to|in|with|and)\s+(\S+)(?:\s+parts?)?(?:\s+(?:of\s+)?water)?$`)
	perForm     = regexp.MustCompile(`^(.+?)\s+(?:to|in|into|per|for|with|on)\s+(.+)$`)
	ofWater     = regexp.MustCompile(`\s+(?:of\s+)?(?:hot |warm |cold |the )?water$`)
)

// ParseDilution reads a dilution any way people say it. "1 in 6" is one of six in all,
// "1:5" and "one part to five" one beside five. Of an amount "to", "in" or "per" an
// amount the second is the water. The error is a [*DilutionError].
func ParseDilution(text string, h quantity.Handling) (Dilution, error) {
	s := strings.ToLower(strings.TrimSpace(text))
	s = strings.NewReplacer("½", "1/2", "¼", "1/4", "⅓", "1/3", "¾", "3/4", "⅔", "2/3", " : ", ":").Replace(s)
	for _, form := range []func(string, quantity.Handling) (Dilution, bool, error){asWords, asShare, asRatio, asParts, asAmounts, asPerLitre} {
		d, said, err := form(s, h)
		if err != nil {
			return Dilution{}, &DilutionError{text, err.Error()}
		}
		if said {
			return d, nil
		}
	}
	return Dilution{}, &DilutionError{text, "nothing says how much to how much"}
}

// The ways to say a dilution. Each reports whether it is said that way; the error says what is
// wrong with what is.

func asWords(s string, _ quantity.Handling) (Dilution, bool, error) {
	switch s {
	case "neat", "undiluted", "as it is":
		return Dilution{Share: 1}, true, nil
	case "half and half", "equal parts", "half", "1 to 1":
		return Dilution{Share: 0.5}, true, nil
	}
	return Dilution{}, false, nil
}

// asShare reads “5 %”.
func asShare(s string, _ quantity.Handling) (Dilution, bool, error) {
	m := percentForm.FindStringSubmatch(s)
	if m == nil {
		return Dilution{}, false, nil
	}
	p, ok := number(m[1])
	if !ok || p <= 0 || p > 100 {
		return Dilution{}, true, errors.New("a share is above 0 and at most 100 %")
	}
	return Dilution{Share: p / 100}, true, nil
}

// asRatio reads “1:5”.
func asRatio(s string, _ quantity.Handling) (Dilution, bool, error) {
	m := ratioForm.FindStringSubmatch(s)
	if m == nil {
		return Dilution{}, false, nil
	}
	d, err := parts(m[1], m[2], beside)
	return d, true, err
}

// asParts reads “1 in 6”, “one part to five of water”.
func asParts(s string, _ quantity.Handling) (Dilution, bool, error) {
	m := partsForm.FindStringSubmatch(s)
	if m == nil {
		return Dilution{}, false, nil
	}
	_, first := number(m[1])
	_, second := number(m[3])
	if !first || !second {
		return Dilution{}, false, nil
	}
	how := beside
	switch {
	case m[2] == "in":
		how = within
	case strings.HasSuffix(s, "water"):
		how = besideWater
	}
	d, err := parts(m[1], m[3], how)
	return d, true, err
}

// asAmounts reads “1/4 cup to a quart”, “20 drops in 500 ml”.
func asAmounts(s string, h quantity.Handling) (Dilution, bool, error) {
	m := perForm.FindStringSubmatch(s)
	if m == nil {
		return Dilution{}, false, nil
	}
	good, err := volume(m[1], h)
	if err != nil {
		return Dilution{}, true, err
	}
	water, err := volume(ofWater.ReplaceAllString(m[2], ""), h)
	if err != nil {
		return Dilution{}, true, fmt.Errorf("the water: %w", err)
	}
	return Dilution{Share: good / (good + water)}, true, nil
}

// asPerLitre reads “20 ml/l”.
func asPerLitre(s string, h quantity.Handling) (Dilution, bool, error) {
	a, b, found := strings.Cut(s, "/")
	if b = strings.TrimLeft(b, " "); !found || !strings.Contains(a, " ") || b != "l" && !strings.HasPrefix(b, "litre") && !strings.HasPrefix(b, "liter") {
		return Dilution{}, false, nil
	}
	good, err := volume(a, h)
	return Dilution{Share: good / (good + 1000)}, true, err
}

func number(s string) (float64, bool) {
	if word, ok := numberWords[s]; ok {
		s = word
	}
	if a, b, found := strings.Cut(s, "/"); found {
		x, okX := number(a)
		y, okY := number(b)
		return x / y, okX && okY && y != 0
	}
	v, err := strconv.ParseFloat(strings.Replace(s, ",", ".", 1), 64)
	return v, err == nil && v >= 0 && !math.IsInf(v, 0)
}

// counting is what the second number of a pair counts.
type counting uint8

const (
	beside      counting = iota // parts beside the good: water, most likely
	besideWater                 // and it is said that it is water
	within                      // all parts together
)

// parts is so many parts of a good and so many of water, or in so many in all.
func parts(first, second string, how counting) (Dilution, error) {
	good, okA := number(first)
	water, okB := number(second)
	if !okA || !okB || good <= 0 || water < 0 || good+water == 0 {
		return Dilution{}, errors.New("parts are numbers above zero")
	}
	if how == within {
		if water < good {
			return Dilution{}, fmt.Errorf("%g cannot be in %g", good, water)
		}
		return Dilution{Share: good / water}, nil
	}
	if how == beside && good > water && water > 0 {
		return Dilution{Share: water / (good + water), Turned: true}, nil
	}
	return Dilution{Share: good / (good + water)}, nil
}

// volume is an amount in ml; a mass by its density.
func volume(s string, h quantity.Handling) (float64, error) {
	s = strings.TrimSpace(s)
	for _, article := range []string{"a ", "an "} {
		if rest, found := strings.CutPrefix(s, article); found {
			s = "1 " + rest
		}
	}
	a, err := quantity.Parse(s)
	if err != nil { // per litre
		a, err = quantity.Parse("1 " + s)
	}
	if err != nil {
		return 0, err
	}
	if ml, ok := a.Millilitres(h); ok && ml.Value > 0 {
		return ml.Value, nil
	}
	if g, ok := a.MassOnly(); ok && g.Value > 0 {
		if h.DensityGPerML.Value > 0 {
			return g.Value / h.DensityGPerML.Value, nil
		}
		return g.Value, nil
	}
	return 0, fmt.Errorf("“%s” is no volume", s)
}

// Words are ways to say a dilution: as parts, as one in so many, in per cent and in ml
// to a litre of water.
func (d Dilution) Words() (parts, inAll, percent, perLitre string) {
	if d.Share <= 0 || d.Share > 1 {
		return "", "", "", ""
	}
	if d.Share == 1 {
		return "neat", "1 in 1", "100 %", "neat"
	}
	parts = "1:" + short(1/d.Share-1)
	if d.Share > 0.5 { // 3:1 would be read as three of water
		parts = short(d.Share/(1-d.Share)) + " parts to 1 of water"
	}
	return parts, "1 in " + short(1/d.Share), short(100*d.Share) + " %", short(1000*d.Share/(1-d.Share)) + " ml/l"
}

func short(v float64) string {
	places := 2
	switch {
	case v >= 100:
		places = 0
	case v >= 10:
		places = 1
	}
	s := strconv.FormatFloat(v, 'f', places, 64)
	if strings.Contains(s, ".") {
		s = strings.TrimRight(strings.TrimRight(s, "0"), ".")
	}
	return s
}

// Filling is how to fill a bottle with a dilution.
type Filling struct {
	GoodML, WaterML float64
	// PourOutML is how much of what is in it has to go first.
	PourOutML float64
	Measure   quantity.Amount // of the good, as a hand measures it
	MeasureBy float64         // its error as a share
	Drops     float64         // of the good, where that is little
	Share     float64         // of the good, in the full bottle
}

// dropsBelowML is below how much drops are counted.
const dropsBelowML = 3.0

// Fill says what to put into a bottle of so many ml that already holds some of another
// strength of the same good. What is too strong in it already is thinned as far as the
// bottle lets it; what has to go before is said.
func (d Dilution) Fill(bottleML, insideML, insideShare float64, h quantity.Handling) (Filling, error) {
	switch {
	case !(bottleML > 0 && bottleML <= 100000):
		return Filling{}, fmt.Errorf("a bottle holds up to 100 l, not %g ml", bottleML)
	case !(insideML >= 0 && insideML <= bottleML):
		return Filling{}, fmt.Errorf("in a bottle of %g ml there cannot be %g ml already", bottleML, insideML)
	case !(insideShare >= 0 && insideShare <= 1):
		return Filling{}, fmt.Errorf("a strength is 0 to 100 %%")
	}
	f := Filling{}
	want := d.Share * bottleML
	if has := insideML * insideShare; has > want { // too strong: some has to go
		f.PourOutML = (has - want) / insideShare
		insideML -= f.PourOutML
	}
	// weaker than wanted and so full that there is no room for what is missing
	if room := bottleML - insideML; want-insideML*insideShare > room && insideShare < d.Share {
		f.PourOutML = (want - insideML*insideShare - room) / (1 - insideShare)
		insideML -= f.PourOutML
	}
	f.GoodML = max(0, want-insideML*insideShare)
	f.WaterML = max(0, bottleML-insideML-f.GoodML)
	f.Share = (insideML*insideShare + f.GoodML) / bottleML
	if f.GoodML > 0 {
		f.Measure, f.MeasureBy = quantity.NearestScoop(f.GoodML, h.Measures)
		if f.GoodML < dropsBelowML {
			drop := 0.05
			if h.DropML.Value > 0 {
				drop = h.DropML.Value
			}
			f.Drops = math.Round(f.GoodML / drop)
		}
	}
	return f, nil
}

// GramsPerLitre is the strength in grams of good to a litre of water, of a good of so many
// g/ml; 0 for what is not thinned.
func (d *Dilution) GramsPerLitre(gPerML float64) float64 {
	if d.Share >= 1 {
		return 0
	}
	return max(d.Share*gPerML/(1-d.Share)*1000, 1e-6)
}
