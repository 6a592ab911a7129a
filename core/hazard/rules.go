package hazard

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"keencrock/core/safety"
)

// The extreme pH of CLP, Annex I, 3.2.3.1.2 and 3.3.3.1.2.
const (
	acidBurnsPH   = safety.AcidBurnsPH
	alkaliBurnsPH = safety.AlkaliBurnsPH
)

// summation is a class a mixture meets when what counts for it, added up, reaches a
// limit.
type summation struct {
	code, rule string
	// counts are the statements that count, and how many times.
	counts map[string]float64
	limit  float64 // share of the mixture
	// relevant is the share from which a substance counts at all (CLP, Annex I, table
	// 1.1), unless a limit of its own is lower.
	relevant float64
	// byM says that M-factors multiply.
	byM func(*part) float64
	// asIn names the statement whose own limit counts for this one too, where a
	// substance has none for it: what burns only from a quarter on harms no eye at a
	// thirtieth.
	asIn string
	only func(*Mixture) bool // nil for every mixture
}

func acuteM(p *part) float64   { return max(1, p.M.Acute) }
func chronicM(p *part) float64 { return max(1, p.M.Chronic) }

// summations are in CLP, Annex I. Tables 3.2.3 and 3.3.3 also make 1 to 5 % of what
// is corrosive, and 1 to 3 % of what damages eyes, an irritant: ten times their sum
// reaches 10 % there.
var summations = []summation{
	{code: "H314", rule: "CLP, Annex I, table 3.2.3", counts: map[string]float64{"H314": 1}, limit: 0.05, relevant: 0.01},
	{code: "H315", rule: "CLP, Annex I, table 3.2.3", counts: map[string]float64{"H314": 10, "H315": 1}, limit: 0.10, relevant: 0.01},
	{code: "H318", rule: "CLP, Annex I, table 3.3.3", counts: map[string]float64{"H314": 1, "H318": 1}, limit: 0.03, relevant: 0.01, asIn: "H314"},
	{code: "H319", rule: "CLP, Annex I, table 3.3.3", counts: map[string]float64{"H314": 10, "H318": 10, "H319": 1}, limit: 0.10, relevant: 0.01},
	{code: "H335", rule: "CLP, Annex I, 3.8.3.4.5", counts: map[string]float64{"H335": 1}, limit: 0.20, relevant: 0.01},
	{code: "H336", rule: "CLP, Annex I, 3.8.3.4.5", counts: map[string]float64{"H336": 1}, limit: 0.20, relevant: 0.01},
	{code: "H360FD", rule: "CLP, Annex I, table 3.7.2; boron compounds added up (Annex VI, note 11)", counts: map[string]float64{"H360": 1, "H360FD": 1}, limit: 0.003},
	{code: "H361", rule: "CLP, Annex I, table 3.7.2", counts: map[string]float64{"H361": 1}, limit: 0.03},
	{code: "H371", rule: "CLP, Annex I, table 3.8.3", counts: map[string]float64{"H371": 1}, limit: 0.10},
	{code: "H372", rule: "CLP, Annex I, table 3.9.4", counts: map[string]float64{"H372": 1}, limit: 0.10},
	{code: "H373", rule: "CLP, Annex I, table 3.9.4", counts: map[string]float64{"H372": 10, "H373": 1}, limit: 0.10},
	{code: "H304", rule: "CLP, Annex I, 3.10.3.3", counts: map[string]float64{"H304": 1}, limit: 0.10, relevant: 0.01,
		only: func(m *Mixture) bool { return m.Wet && !m.Thick }},
	{code: "H400", rule: "CLP, Annex I, table 4.1.1", counts: map[string]float64{"H400": 1}, limit: 0.25, relevant: 0.001, byM: acuteM},
	{code: "H410", rule: "CLP, Annex I, table 4.1.2", counts: map[string]float64{"H410": 1}, limit: 0.25, relevant: 0.001, byM: chronicM},
	{code: "H411", rule: "CLP, Annex I, table 4.1.2", counts: map[string]float64{"H410": 10, "H411": 1}, limit: 0.25, relevant: 0.001, byM: chronicM},
	{code: "H412", rule: "CLP, Annex I, table 4.1.2", counts: map[string]float64{"H410": 100, "H411": 10, "H412": 1}, limit: 0.25, relevant: 0.001, byM: chronicM},
}

// nearShare is from how much of a limit a class is told as near.
const nearShare = 0.5

// weight is how much of the limit a substance takes up, to a share of one; and from
// which share it counts.
func (c *summation) weight(p *part) (perShare, relevant float64) {
	own, has := p.Limits[c.code]
	if !has && c.asIn != "" && slices.Contains(p.Statements, c.asIn) && !slices.Contains(p.Statements, c.code) {
		own, has = p.Limits[c.asIn]
	}
	for _, statement := range p.Statements {
		times, counts := c.counts[statement]
		if !counts {
			continue
		}
		if has {
			return 1 / own, own / 10
		}
		m := 1.0
		if c.byM != nil && (statement == "H400" || statement == "H410") {
			m = c.byM(p)
		}
		perShare = max(perShare, times*m/c.limit)
		relevant = c.relevant / m
	}
	if perShare == 0 && has { // a limit for a milder statement than it is classed as
		return 1 / own, own / 10
	}
	return perShare, relevant
}

func (s *screen) sum(c *summation) {
	if c.only != nil && !c.only(s.Mixture) {
		return
	}
	total := 0.0
	var from, aside []Contribution
	for i := range s.parts {
		p := &s.parts[i]
		w, relevant := c.weight(p)
		if w == 0 {
			continue
		}
		if p.share < relevant {
			aside = append(aside, Contribution{p.ID, p.Name, p.material, p.poured, p.share, p.share * w})
			continue
		}
		total += p.share * w
		from = append(from, Contribution{p.ID, p.Name, p.material, p.poured, p.share, p.share * w})
	}
	if len(from) == 0 {
		return
	}
	f := Finding{Code: c.code, Rule: c.rule, Sum: 100 * total * c.limit, Limit: 100 * c.limit, Unit: "%"}
	if limit, sum, one := oneLimit(from); one { // told by the limit it has, not by the general one
		f.Sum, f.Limit = 100*sum, 100*limit
	}
	s.weigh(f, total, from, aside...)
}

// oneLimit is the limit that all in a sum share, and the sum of their shares.
func oneLimit(from []Contribution) (limit, sum float64, one bool) {
	limit = from[0].Share / from[0].Part
	for _, c := range from {
		if math.Abs(c.Share/c.Part-limit) > 1e-9 {
			return 0, 0, false
		}
		sum += c.Share
	}
	return limit, sum, true
}

// weigh puts a sum where it belongs: met, near, or nowhere. total is the sum as a
// share of its limit; aside is what is too little to count, as it is.
func (s *screen) weigh(f Finding, total float64, from []Contribution, aside ...Contribution) {
	const rounding = 1e-9
	if total < nearShare || s.says(f.Code) {
		return
	}
	f.Name = classOf(f.Code).name
	slices.SortFunc(from, byPart)
	f.From = from
	f.Because = because(&f)
	if total < 1-rounding {
		s.near = append(s.near, f)
		return
	}
	f.Less = less(total, from, aside)
	s.met = append(s.met, f)
}

// because says a sum in a sentence, by its greatest parts.
func because(f *Finding) string {
	var named []string
	for _, c := range f.From[:min(3, len(f.From))] {
		named = append(named, fmt.Sprintf("%s %s", percent(c.Share), c.Name))
	}
	if more := len(f.From) - 3; more > 0 {
		named = append(named, fmt.Sprintf("and %d more", more))
	}
	switch _, _, one := oneLimit(f.From); {
	case len(f.From) == 1:
		return fmt.Sprintf("%s, of a limit of %s (%s)", named[0], percent(f.Limit/100), f.Rule)
	case one:
		return fmt.Sprintf("%s: together %s of a limit of %s (%s)", strings.Join(named, ", "), percent(f.Sum/100), percent(f.Limit/100), f.Rule)
	}
	return fmt.Sprintf("%s: each weighed by its own limit they come to %s of a limit of %s (%s)", strings.Join(named, ", "), percent(f.Sum/100), percent(f.Limit/100), f.Rule)
}

// less is how much of the material that counts most has to go so that a sum falls
// under its limit, the rest filling the whole again: (S − w x) / (1 − x) < 1 for a sum
// S and w to a share of one. What is too little to count is counted here: it may
// count then. nil where even all of it is not enough.
func less(total float64, from, aside []Contribution) *Less {
	const under = 1e-4 // of the limit
	of, poured, counts := from[0].Material, from[0].Poured, 0.0
	for _, c := range from {
		if c.Material == of {
			counts += c.Part
		}
	}
	w := counts / poured
	if w <= 1 {
		return nil
	}
	for _, c := range aside {
		total += c.Part
	}
	x := (total - 1 + under) / (w - 1)
	if x >= poured || poured > 1-1e-6 {
		return nil
	}
	return &Less{Material: of, Share: x}
}

// singly looks at each substance by itself, as what sensitises does.
func (s *screen) singly(code, rule string, limit float64) {
	var from []Contribution
	most := 0.0
	for i := range s.parts {
		p := &s.parts[i]
		if !s.has(p, code) {
			continue
		}
		at := limit
		if own, ok := p.Limits[code]; ok {
			at = own
		}
		from = append(from, Contribution{p.ID, p.Name, p.material, p.poured, p.share, p.share / at})
		most = max(most, p.share/at)
	}
	if most < nearShare {
		return
	}
	slices.SortFunc(from, byPart)
	if most >= 1 {
		from = slices.DeleteFunc(from, func(c Contribution) bool { return c.Part < 0.1 }) // named from a tenth on
	}
	f := Finding{Code: code, Rule: rule, Sum: 100 * from[0].Share, Limit: 100 * from[0].Share / from[0].Part, Unit: "%", Name: classOf(code).name, From: from}
	f.Because = fmt.Sprintf("%s %s, of a limit of %s for each by itself (%s)", percent(from[0].Share), from[0].Name, percent(f.Limit/100), rule)
	if most < 1 {
		s.near = append(s.near, f)
		return
	}
	f.Less = lessOfOne(from)
	s.met = append(s.met, f)
}

// lessOfOne is less where each counts by itself: nil where another meets the limit
// too, once the rest fills the whole.
func lessOfOne(from []Contribution) *Less {
	const under = 0.9999 // of the limit
	if from[0].Poured > 1-1e-6 {
		return nil // there is nothing else in it
	}
	most := from[0].Poured / from[0].Part * under
	x := (from[0].Poured - most) / (1 - most)
	for _, c := range from[1:] {
		if c.Part/(1-x) >= 1 {
			return nil
		}
	}
	return &Less{Material: from[0].Material, Share: x}
}

// named are sensitisers that are too few for their class and enough for those who are
// allergic already: from a tenth of the limit on (CLP, Annex II, 2.8).
func (s *screen) named() {
	if s.says("H317") {
		return
	}
	var from []Contribution
	for i := range s.parts {
		p := &s.parts[i]
		for _, code := range []string{"H317", "H334"} {
			at := 0.01
			if own, ok := p.Limits[code]; ok {
				at = own
			}
			if s.has(p, code) && p.share >= at/10 && p.share < at {
				from = append(from, Contribution{p.ID, p.Name, p.material, p.poured, p.share, p.share / (at / 10)})
			}
		}
	}
	if len(from) == 0 {
		return
	}
	slices.SortFunc(from, byPart)
	s.met = append(s.met, Finding{Code: "EUH208", Name: classOf("EUH208").name, Rule: "CLP, Annex II, 2.8", Sum: 100 * from[0].Share, Limit: 100 * from[0].Share / from[0].Part, Unit: "%", From: from,
		Because: fmt.Sprintf("%s %s: named from a tenth of its limit on (CLP, Annex II, 2.8)", percent(from[0].Share), from[0].Name)})
}

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
	{"vapour", [4]string{"H330", "H331", "H332"}, [3]float64{2, 10, 20}, map[string]float64{"H330": 0.5, "H331": 3, "H332": 11}, "mg/l"},
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
		f.Because = fmt.Sprintf("%s %s: the mixture’s estimate of acute toxicity is %.3g %s of a limit of %.3g (%s)", percent(f.From[0].Share), f.From[0].Name, mix, r.unit, limit, f.Rule)
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

// reserveBurns are from where an extreme pH with what is behind it burns skin: pH and
// a twelfth of the reserve (Young, How, Walker & Worth, Toxicology in Vitro 2, 1988).
const (
	alkaliReserveBurns = 14.5
	acidReserveBurns   = -0.5
)

// extremePH is the rule that goes before the sums for skin and eyes: what stands at a
// pH of 2 or less, or 11.5 or more, burns, unless the reserve behind it is too small.
func (s *screen) extremePH() {
	if !s.PHKnown || s.PH > acidBurnsPH && s.PH < alkaliBurnsPH {
		return
	}
	const rule = "CLP, Annex I, 3.2.3.1.2"
	f := Finding{Code: "H314", Name: classOf("H314").name, Rule: rule, Sum: s.PH, Limit: alkaliBurnsPH, Unit: "pH"}
	reckoned, burns := s.PH+s.Reserve/12, false
	if s.PH <= acidBurnsPH {
		f.Limit, f.Below = acidBurnsPH, true
		burns = reckoned <= acidReserveBurns
		f.Because = fmt.Sprintf("pH %.1f, and pH − reserve/12 = %.1f where it burns at %.1f (%s; Young and others 1988)", s.PH, reckoned, acidReserveBurns, rule)
	} else {
		burns = reckoned >= alkaliReserveBurns
		f.Because = fmt.Sprintf("pH %.1f, and pH + reserve/12 = %.1f where it burns at %.1f (%s; Young and others 1988)", s.PH, reckoned, alkaliReserveBurns, rule)
	}
	if burns {
		s.met = append(s.met, f)
		return
	}
	f.Because += fmt.Sprintf(". The reserve, %.2g g of sodium hydroxide to 100 g, is too small to hold that it burns; the rule asks for a test to confirm it", math.Abs(s.Reserve))
	s.cleared = append(s.cleared, f)
}

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
