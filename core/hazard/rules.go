package hazard

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"keencrock/core/quantity"
	"keencrock/core/safety"
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
	// asIn names the statement whose own limit counts for this one too, where a substance
	// has none for it, and one for the milder statement of the same organ: what burns only
	// from a quarter on, and irritates eyes from a tenth, harms none at a thirtieth. A row
	// that says nothing of eyes says nothing else of them than the general limit.
	asIn, milder string
	only         func(*Mixture) bool // nil for every mixture
}

func acuteM(p *part) float64   { return max(1, p.M.Acute) }
func chronicM(p *part) float64 { return max(1, p.M.Chronic) }

// summations are in CLP, Annex I. Tables 3.2.3 and 3.3.3 also make 1 to 5 % of what
// is corrosive, and 1 to 3 % of what damages eyes, an irritant: ten times their sum
// reaches 10 % there.
var summations = []summation{
	{code: "H314", rule: "CLP, Annex I, table 3.2.3", counts: map[string]float64{"H314": 1}, limit: 0.05, relevant: 0.01},
	{code: "H315", rule: "CLP, Annex I, table 3.2.3", counts: map[string]float64{"H314": 10, "H315": 1}, limit: 0.10, relevant: 0.01},
	{code: "H318", rule: "CLP, Annex I, table 3.3.3", counts: map[string]float64{"H314": 1, "H318": 1}, limit: 0.03, relevant: 0.01, asIn: "H314", milder: "H319"},
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
		if _, speaks := p.Limits[c.milder]; speaks {
			own, has = p.Limits[c.asIn]
		}
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

// reserveBurns are from where an extreme pH with what is behind it burns skin: pH and
// a twelfth of the reserve (Young, How, Walker & Worth, Toxicology in Vitro 2, 1988).
const (
	alkaliReserveBurns = 14.5
	acidReserveBurns   = -0.5
)

// extremePH is the rule that goes before the sums for skin and eyes: what stands at a
// pH of 2 or less, or 11.5 or more, burns, unless the reserve behind it is too small.
func (s *screen) extremePH() {
	acid, alkali := safety.Extreme(s.PH)
	if s.PH.IsZero() || !acid && !alkali {
		return
	}
	const rule = "CLP, Annex I, 3.2.3.1.2"
	f := Finding{Code: "H314", Name: classOf("H314").name, Rule: rule, Sum: s.PH.High, Limit: safety.AlkaliBurnsPH, Unit: "pH"}
	reckoned, burns := s.PH.High+s.Reserve/12, false
	if acid && s.Reserve <= 0 {
		f.Sum, f.Limit, f.Below = s.PH.Low, safety.AcidBurnsPH, true
		reckoned = s.PH.Low + s.Reserve/12
		burns = reckoned <= acidReserveBurns
		f.Because = fmt.Sprintf("pH %.1f, and pH − reserve/12 = %.1f where it burns at %.1f (%s; Young and others 1988)", f.Sum, reckoned, acidReserveBurns, rule)
	} else {
		burns = reckoned >= alkaliReserveBurns
		f.Because = fmt.Sprintf("pH %.1f, and pH + reserve/12 = %.1f where it burns at %.1f (%s; Young and others 1988)", f.Sum, reckoned, alkaliReserveBurns, rule)
	}
	if burns {
		s.met = append(s.met, f)
		return
	}
	f.Because += fmt.Sprintf(". The reserve, %s g of sodium hydroxide to 100 g, is too small to hold that it burns; the rule asks for a test to confirm it", quantity.FormatFigures(math.Abs(s.Reserve), 2))
	s.cleared = append(s.cleared, f)
}
