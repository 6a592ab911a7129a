package hazard

import (
	"fmt"
	"math"
	"slices"
)

// What a mixture does near a flame, and what gas it frees (CLP, Annex I, part 2, and
// Annex II).

// Flash points of spirits in water, by share of the volume, in °C: handbook tables,
// from memory. Of ethanol 96 % 17, 70 % 21, 40 % 26, 20 % 36, 10 % 49, 5 % 62.
var (
	ethanolFlash     = []point{{0.05, 62}, {0.10, 49}, {0.20, 36}, {0.30, 29}, {0.40, 26}, {0.50, 24}, {0.60, 22}, {0.70, 21}, {0.80, 20}, {0.96, 17}, {1, 13}}
	isopropanolFlash = []point{{0.03, 62}, {0.05, 57}, {0.10, 43}, {0.20, 34}, {0.30, 28}, {0.40, 25}, {0.50, 23.5}, {0.60, 22}, {0.70, 20}, {0.80, 18}, {0.91, 17}, {1, 12}}
)

type point struct{ x, y float64 }

// FlashPoint is where the vapour over a spirit in water catches fire, in °C, of its
// share by mass in both; +Inf below what any table holds. The volumes are taken to
// add up, which is within 4 % for both.
func FlashPoint(alcoholByMass float64, isopropanol bool) float64 {
	table, density := ethanolFlash, 0.789
	if isopropanol {
		table, density = isopropanolFlash, 0.785
	}
	v := alcoholByMass / density
	v /= v + (1-alcoholByMass)/0.998
	if v < table[0].x {
		return math.Inf(1)
	}
	for i := 1; i < len(table); i++ {
		if a, b := table[i-1], table[i]; v <= b.x {
			return a.y + (b.y-a.y)*(v-a.x)/(b.x-a.x)
		}
	}
	return table[len(table)-1].y
}

// Limits of flammable liquids in °C (CLP, Annex I, table 2.6.1).
const (
	flashesHighly = 23.0
	flashes       = 60.0
)

// burning looks at what a spirit in water, and oil on it, do near a flame.
func (s *screen) burning() {
	if !s.Wet {
		return
	}
	const rule = "CLP, Annex I, table 2.6.1"
	oils := 0.0
	for i := range s.parts {
		if p := &s.parts[i]; s.has(p, "H225", "H226") && p.ID != "ethanol" && p.ID != "isopropanol" && p.ID != "acetic-acid" {
			oils += p.share
		}
	}
	flash := FlashPoint(s.Alcohol, s.Isopropanol > s.Alcohol/2)
	f := Finding{Rule: rule, Sum: flash, Unit: "°C", Below: true}
	switch {
	case s.Alcohol > 0 && flash < flashesHighly:
		f.Code, f.Limit = "H225", flashesHighly
	case s.Alcohol > 0 && flash <= flashes:
		f.Code, f.Limit = "H226", flashes
	case oils >= 0.5:
		f.Code, f.Limit, f.Sum = "H226", flashes, 50
	}
	if f.Code != "" {
		f.Name = classOf(f.Code).name
		f.Because = fmt.Sprintf("%s of its spirit and water is spirit, which flashes at about %.0f °C (%s)", percent(s.Alcohol), flash, rule)
		if oils >= 0.5 {
			f.Because = fmt.Sprintf("%s oils that flash near 50 °C (%s)", percent(oils), rule)
		} else if flash > 35 {
			s.notes = append(s.notes, "It flashes above 35 °C: a test that it does not go on burning takes the statement off (CLP, Annex I, 2.6.4.5).")
		}
		s.met = append(s.met, f)
		return
	}
	if oils >= 0.05 {
		s.notes = append(s.notes, fmt.Sprintf("It holds %s of oils that burn and may float: no table tells its flash point, measure it.", percent(oils)))
	}
}

// oxygenOxidises is from how much available oxygen a powder is held to feed a fire.
// From memory: percarbonate thinned below about half is no oxidiser by test; a test
// decides (UN Manual of Tests and Criteria, O.1 and O.3).
const oxygenOxidises = 0.075

// oxygen is the available oxygen of what is dry, by mass.
func (s *screen) oxygen() (share float64) {
	for i := range s.parts {
		share += s.parts[i].share * s.parts[i].AvailableOxygen
	}
	return share
}

func (s *screen) oxidising() {
	const rule = "CLP, Annex I, 2.14, by available oxygen"
	if o := s.oxygen(); !s.Wet && o >= oxygenOxidises*nearShare {
		var from []Contribution
		for i := range s.parts {
			if p := &s.parts[i]; p.AvailableOxygen > 0 {
				from = append(from, Contribution{p.ID, p.Name, p.material, p.poured, p.share, p.share * p.AvailableOxygen / oxygenOxidises})
			}
		}
		s.weigh(Finding{Code: "H272", Rule: rule, Sum: 100 * o, Limit: 100 * oxygenOxidises, Unit: "%"}, o/oxygenOxidises, from)
	}
	for i := range s.parts {
		p := &s.parts[i]
		if p.ID == "calcium-hypochlorite" && p.share >= 0.39 || s.Wet && p.Limits["H271"] > 0 && p.share >= p.Limits["H271"] {
			code := "H272"
			if s.has(p, "H271") {
				code = "H271"
			}
			s.weigh(Finding{Code: code, Rule: "CLP, Annex VI", Sum: 100 * p.share, Limit: 100 * p.share, Unit: "%"}, 1, []Contribution{{p.ID, p.Name, p.material, p.poured, p.share, 1}})
		}
	}
}

// chlorine is what a bleach says whatever else it is (CLP, Annex II, 1.2.1 and 2.7).
func (s *screen) chlorine() {
	active := 0.0
	var from []Contribution
	frees := 0.0
	for i := range s.parts {
		p := &s.parts[i]
		if p.ActiveChlorine == 0 {
			continue
		}
		active += p.share * p.ActiveChlorine
		from = append(from, Contribution{p.ID, p.Name, p.material, p.poured, p.share, p.share * p.ActiveChlorine / 0.01})
		if limit := p.Limits["EUH031"]; limit > 0 {
			frees += p.share / limit
		}
	}
	if active > 0.01 {
		s.weigh(Finding{Code: "EUH206", Rule: "CLP, Annex II, 2.7", Sum: 100 * active, Limit: 1, Unit: "%"}, active/0.01, from)
	}
	if frees >= 1 {
		s.weigh(Finding{Code: "EUH031", Rule: "CLP, Annex VI", Sum: 100 * active, Limit: 100 * active / frees, Unit: "%"}, frees, slices.Clone(from))
	}
}
