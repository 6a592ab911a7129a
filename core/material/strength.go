package material

// Strengths said with a name: “vinegar 10 %”, “70 % alcohol”.

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"

	"keencrock/core/quantity"
)

var percentage = regexp.MustCompile(`(\d{1,3}(?:[.,]\d{1,2})?)\s*(?:%|percent|per cent|vol\.?%?|proof)(?:\s+(?:strength|acidity|acid|solution|abv|alcohol))?`)

// percentSign is a strength without a word for what it is of.
var percentSign = regexp.MustCompile(`\d{1,3}(?:[.,]\d{1,2})?\s*(?:%|percent|per cent|vol\.?%?|proof)`)

// strengthIn reads a strength in per cent, or in proof, which is half of it.
func strengthIn(key string) (share float64, said bool) {
	m := percentage.FindStringSubmatch(key)
	if m == nil {
		return 0, false
	}
	v, err := strconv.ParseFloat(strings.Replace(m[1], ",", ".", 1), 64)
	if err != nil || v <= 0 || v > 200 {
		return 0, false
	}
	if strings.Contains(m[0], "proof") {
		v /= 2
	}
	return v / 100, v <= 100
}

// StrengthError is a strength that no known material has.
type StrengthError struct {
	Material *Material
	Share    float64
}

func (e *StrengthError) Error() string {
	return fmt.Sprintf("%s of %s %% is not known here: make it a material of your own, like %s",
		InSentence(e.Material.Name), quantity.FormatFigures(100*e.Share, 3), InSentence(e.Material.Name))
}

// strengthSlack is how far a strength on a label may lie outside the range that
// is known. From memory: labels round.
const strengthSlack = 0.08

// stronger is the material of the same active part that has a strength; nil
// when none does.
func (l *Library) stronger(m *Material, share float64) *Material {
	active := m.Active()
	if active.Of == "" {
		return nil
	}
	if active.Of == "ethanol" {
		share = alcoholByMass(share)
	}
	if holds(active, share) {
		return m // a strength that the name itself has
	}
	var best *Material
	off := math.Inf(1)
	for _, other := range append([]*Material{m}, l.materials...) {
		a := other.Active()
		if a.Of != active.Of || other.Form != m.Form || !kin(m, other) || !holds(a, share) {
			continue
		}
		if d := math.Abs(a.Share.Value-share) / share; d < off-1e-9 {
			best, off = other, d
		}
	}
	return best
}

// holds reports whether a component may be that share of a material.
func holds(c Component, share float64) bool {
	return c.Share.Low*(1-strengthSlack) <= share && share <= c.Share.High*(1+strengthSlack)
}

// kin reports whether one material can be another strength of another: they do
// the same and are tagged the same, wood vinegar apart.
func kin(a, b *Material) bool { return a.Functions[0] == b.Functions[0] }

// ofStrength is the material of a strength said beside a name.
func (l *Library) ofStrength(m *Material, text string) *Material {
	if share, ok := strengthIn(strings.ToLower(text)); ok {
		return l.stronger(m, share)
	}
	return nil
}

// Active is the component that works: the first that is not water.
func (m *Material) Active() Component {
	for _, c := range m.MakeUp {
		if c.Of != "water" {
			return c
		}
	}
	return Component{}
}

// alcoholDensity are the densities of ethanol in water at 20 °C in g/ml, for each tenth of
// it by volume (OIML R 22, international alcoholometric tables; from memory).
var alcoholDensity = [...]float64{0.9982, 0.9847, 0.9736, 0.9622, 0.9481, 0.9301, 0.9091, 0.8855, 0.8593, 0.8292, 0.7892}

// alcoholByMass is the share by mass of what a label calls so much alcohol: labels say it
// by volume.
func alcoholByMass(byVolume float64) float64 {
	tenths := min(max(byVolume, 0), 1) * 10
	at := min(int(tenths), len(alcoholDensity)-2)
	low, high := alcoholDensity[at], alcoholDensity[at+1]
	return byVolume * alcoholDensity[10] / (low + (high-low)*(tenths-float64(at)))
}
