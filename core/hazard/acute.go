package hazard

import (
	"fmt"
	"slices"

	"keencrock/core/quantity"
)

// route is a way into the body: the statements of its categories with the estimate
// of acute toxicity that stands for each (CLP, Annex I, table 3.1.2), and the upper
// end of each category (table 3.1.1).
type route struct {
	name  string
	codes [4]string // of categories 2 (with 1), 3, 4 and none
	most  [3]float64
	usual map[string]float64
	unit  string
}

var routes = []route{
	{"oral", [4]string{"H300", "H301", "H302"}, [3]float64{50, 300, 2000}, map[string]float64{"H300": 5, "H301": 100, "H302": 500}, "mg/kg"},
	{"dermal", [4]string{"H310", "H311", "H312"}, [3]float64{200, 1000, 2000}, map[string]float64{"H310": 50, "H311": 300, "H312": 1100}, "mg/kg"},
	{"dust", [4]string{"H330", "H331", "H332"}, [3]float64{0.5, 1, 5}, map[string]float64{"H330": 0.05, "H331": 0.5, "H332": 1.5}, "mg/l"},
	{"vapour", [4]string{"H330", "H331", "H332"}, [3]float64{2, 10, 20}, nil, "mg/l"},
}

// acute adds up acute toxicity by each route: 100 / ATEmix = Σ ci / ATEi (CLP, Annex
// I, 3.1.3.6.1), of what is unknown more than a tenth taken off the hundred
// (3.1.3.6.2.3).
func (s *screen) acute() {
	for i := range routes {
		r := &routes[i]
		sum := 0.0
		var from, aside []Contribution
		for j := range s.parts {
			p := &s.parts[j]
			ate := r.estimate(p)
			switch c := (Contribution{p.ID, p.Name, p.material, p.poured, p.share, 100 * p.share / ate}); {
			case ate == 0:
			case p.share < 0.01:
				aside = append(aside, c)
			default:
				sum += c.Part
				from = append(from, c)
			}
		}
		if sum == 0 {
			continue
		}
		of := 100.0
		if s.unknownShare > 0.1 {
			of -= 100 * s.unknownShare
		}
		mix := of / sum
		last := r.most[len(r.most)-1]
		for k := range from {
			from[k].Part *= last / of
		}
		at, limit := 2, last
		for k, most := range r.most {
			if mix <= most {
				at, limit = k, most
				break
			}
		}
		f := Finding{Code: r.codes[at], Name: classOf(r.codes[at]).name, Rule: "CLP, Annex I, 3.1.3.6", Sum: mix, Limit: limit, Unit: r.unit, Below: true, From: from}
		slices.SortFunc(f.From, byPart)
		f.Because = fmt.Sprintf("%s %s: the mixture’s estimate of acute toxicity is %s %s of a limit of %s (%s)", percent(f.From[0].Share), f.From[0].Name, quantity.FormatFigures(mix, 3), r.unit, quantity.FormatFigures(limit, 3), f.Rule)
		switch {
		case s.says(f.Code):
		case mix <= last:
			if s.unknownShare == 0 { // less of the one is more of the other
				f.Less = less(limit/mix, scaled(from, limit/last), scaled(aside, limit/of))
			}
			s.met = append(s.met, f)
		case mix <= last/nearShare:
			s.near = append(s.near, f)
		}
	}
}

// scaled are contributions with their parts of another limit.
func scaled(from []Contribution, by float64) []Contribution {
	out := slices.Clone(from)
	for i := range out {
		out[i].Part *= by
	}
	return out
}

// estimate is the acute toxicity of a substance by a route; 0 where it has none.
func (r *route) estimate(p *part) float64 {
	for _, code := range r.codes[:3] {
		if !slices.Contains(p.Statements, code) {
			continue
		}
		if ate, known := p.ATE[r.name]; known {
			return ate
		}
		if _, other := p.ATE[r.sibling()]; other { // breathed as dust or as vapour: one of them
			return 0
		}
		if r.name == "vapour" { // as dust, unless it is said
			return 0
		}
		return r.usual[code]
	}
	return 0
}

func (r *route) sibling() string {
	return map[string]string{"dust": "vapour", "vapour": "dust"}[r.name]
}
