package hazard

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strconv"

	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/core/safety"
)

// Ingredient is a bought material of a mixture and its share by mass; High is the
// most it may be, for what is scooped.
type Ingredient struct {
	Material    *material.Material
	Share, High float64
}

// Mixture is what is screened: a good as it stands in its jar or bottle.
type Mixture struct {
	Ingredients []Ingredient
	Unread      []string // what is in it by a name nobody knows, and no one can say how much
	Wet         bool     // it is poured
	Thick       bool     // too thick to run into the airways

	// PH is that of the bottle, of a powder that of 10 % in water, between its ends; PHKnown
	// is false where it cannot be told as one: then nothing is held to be neutralised, and
	// its ends alone say whether it may be extreme.
	PH      quantity.Range
	PHKnown bool
	// Reserve is the alkali, or below zero the acid, behind an extreme pH: in g of
	// sodium hydroxide to 100 g, titrated down to pH 10 or up to pH 4.
	Reserve float64
	// AcidPoured and AlkaliPoured are equivalents to a kg that went in of either; for wet
	// goods. What another ingredient takes of a strong acid or base is no more than that.
	AcidPoured, AlkaliPoured float64
	// Alcohol is the share of alcohol in alcohol and water, by mass.
	Alcohol, Isopropanol float64
}

// Contribution is one substance in a sum.
type Contribution struct {
	ID, Name string
	Material *material.Material // it came with
	Poured   float64            // share of the mixture that is this material
	Share    float64            // of the mixture, as it stands
	Part     float64            // of the limit
}

// Finding is a class the mixture meets or comes near.
type Finding struct {
	Code, Name string // H318, serious eye damage
	Rule       string // where it is written
	// Sum met or missed Limit; both in Unit, such as "%" or "pH".
	Sum, Limit float64
	Unit       string
	// Below says that the class is met at or below the limit.
	Below bool
	From  []Contribution // the greatest first; empty where nothing is summed
	// Because says it in a sentence.
	Because string
	// Less would bring it under; nil where that is not a matter of less.
	Less *Less
}

// Less is what would have to be left out so that a class is met no more, as shares of
// the whole; the rest fills what becomes free.
type Less struct {
	Material *material.Material
	Share    float64
	// UnderG of TotalG grams of a formula is how much of it may be in there at most: 0 for
	// none. Set by who tried it on the formula.
	UnderG, TotalG float64
}

// Result is what a screen tells.
type Result struct {
	Signal     Signal
	Pictograms []string
	// Statements are the codes on the label in their order, each with what it is
	// because of.
	Statements  []Finding
	Precautions []string
	// Near are classes missed by less than half of their limit; Possible those met
	// only where every scoop is at its fullest.
	Near, Possible []Finding
	// Cleared are classes that would be met but for what is known of the mixture,
	// such as the reserve behind an extreme pH.
	Cleared []Finding
	// Sensitisers are the substances named with EUH208 or H317.
	Sensitisers []string
	// Named are the substances that bring the classes whose substances are named on the
	// label, at most four (CLP, Article 18(3)(b)).
	Named   []string
	Unknown []*material.Material
	// UnknownShare is how much of the mixture nothing is known of, 0 to 1.
	UnknownShare float64
	// Notes are what a sum cannot tell.
	Notes           []string
	ChildProof      bool // it needs a closure that children cannot open
	TactileWarning  bool
	AvailableOxygen float64 // by mass
}

// Codes are the codes of the statements, in their order.
func (r *Result) Codes() []string {
	codes := make([]string, len(r.Statements))
	for i := range r.Statements {
		codes[i] = r.Statements[i].Code
	}
	return codes
}

// Has reports whether a statement is met.
func (r *Result) Has(code string) bool { return slices.Contains(r.Codes(), code) }

// Alone are the statements of a material by itself, as its own sheet would have them.
func Alone(m *material.Material, lib *material.Library) []string {
	return Screen(&Mixture{Wet: m.Liquid() || m.Is(material.Wet), Ingredients: []Ingredient{{Material: m, Share: 1}}}, lib).Codes()
}

// Screen screens a mixture, with what lib knows of substances.
func Screen(m *Mixture, lib *material.Library) *Result {
	out := &Result{}
	s := newScreen(m, lib, func(in Ingredient) float64 { return in.Share })
	out.Unknown, out.UnknownShare = s.unknown, s.unknownShare
	for _, name := range m.Unread {
		out.Unknown = append(out.Unknown, material.Unknown(name))
	}
	s.run()
	out.Near, out.Notes = s.near, s.notes
	if !s.says("H314") { // a sum says it anyway
		out.Cleared = s.cleared
	}
	out.AvailableOxygen = s.oxygen()
	out.Statements = kept(s.met)
	out.Named = substancesNamed(out.Statements)
	for _, f := range out.Statements {
		if f.Code == "H317" || f.Code == "EUH208" {
			for _, c := range f.From {
				name := c.Name
				if c.ID == c.Material.ID && c.Material.Label != "" { // as it stands on labels of any language
					name = c.Material.Label
				}
				out.Sensitisers = append(out.Sensitisers, name)
			}
		}
		c := classOf(f.Code)
		out.Signal = max(out.Signal, c.signal)
		out.ChildProof = out.ChildProof || c.locked
		out.TactileWarning = out.TactileWarning || c.tactile
	}
	codes := out.Codes()
	out.Pictograms, out.Precautions = pictograms(codes), precautions(codes)
	if slices.ContainsFunc(m.Ingredients, func(in Ingredient) bool { return in.High > in.Share }) {
		most := newScreen(m, lib, func(in Ingredient) float64 { return max(in.Share, in.High) })
		most.run()
		for _, f := range kept(most.met) {
			if !slices.Contains(codes, f.Code) && !s.says(f.Code) {
				out.Possible = append(out.Possible, f)
			}
		}
	}
	out.Near = slices.DeleteFunc(out.Near, func(f Finding) bool {
		return slices.Contains(codes, f.Code) || s.says(f.Code) || slices.ContainsFunc(out.Possible, func(p Finding) bool { return p.Code == f.Code })
	})
	return out
}

// kept leaves out what says no more beside another statement, and puts the rest in
// the order of a label.
func kept(met []Finding) []Finding {
	var out []Finding
	for _, c := range classes {
		for _, f := range met {
			if f.Code == c.code && !slices.ContainsFunc(met, func(other Finding) bool { return slices.Contains(drops[other.Code], f.Code) }) {
				out = append(out, f)
				break
			}
		}
	}
	return out
}

// part is a substance of the mixture as it stands.
type part struct {
	*material.Substance
	material      *material.Material
	poured, share float64
}

type screen struct {
	*Mixture
	lib          *material.Library
	parts        []part
	unknown      []*material.Material
	unknownShare float64
	met, near    []Finding
	cleared      []Finding
	notes        []string
}

func newScreen(m *Mixture, lib *material.Library, share func(Ingredient) float64) *screen {
	s := &screen{Mixture: m, lib: lib, parts: make([]part, 0, len(m.Ingredients)+4)}
	for i, in := range m.Ingredients {
		of := 0.0 // of all its lines together
		for j, same := range m.Ingredients {
			if same.Material == in.Material && j >= i {
				of += share(same)
			} else if same.Material == in.Material {
				of = math.Inf(-1) // counted before
			}
		}
		if of <= 0 {
			continue
		}
		for _, p := range lib.HazardParts(in.Material) {
			if p.Unknown {
				s.unknown = append(s.unknown, in.Material)
				s.unknownShare += of * p.Share
				continue
			}
			s.add(part{p.Substance, in.Material, of, of * p.Share})
		}
	}
	return s
}

// add puts a substance into the mixture as far as it is there still.
func (s *screen) add(p part) {
	if !s.Wet || !s.PHKnown {
		s.parts = append(s.parts, p)
		return
	}
	stays := s.staysShare(&p)
	if stays > 0 {
		still := p
		still.share *= stays
		s.parts = append(s.parts, still)
	}
	if p.Salt != "" && stays < 1 {
		if salt := s.lib.Substance(p.Salt); salt != nil {
			s.parts = append(s.parts, part{salt, p.material, p.poured, p.share * (1 - stays)})
		}
	}
}

// staysShare is how much of a substance is still in the form it is classed in, at the
// pH of the bottle, 0 to 1. That an acid gives off its protons to the water is no
// neutralising: only what another ingredient has taken is taken off, and that is by how
// much less it holds than it would alone, as thin as it is here.
func (s *screen) staysShare(p *part) float64 {
	ph := s.PH.Value
	switch {
	case len(p.Acid) > 0:
		alone := protons(p.Acid, acidAlone(p.Acid, p.molality()))
		return min(1, protons(p.Acid, ph)/alone)
	case p.Base > 0:
		alone := 1 - protons([]float64{p.Base}, baseAlone(p.Base, p.molality()))
		return min(1, (1-protons([]float64{p.Base}, ph))/alone)
	case p.Strong == "base" && p.MolarMass > 0:
		_, extreme := safety.Extreme(s.PH)
		return leftShare(p, math.Pow(10, ph-14), s.AlkaliPoured, s.AcidPoured, extreme)
	case p.Strong == "acid" && p.MolarMass > 0:
		extreme, _ := safety.Extreme(s.PH)
		return leftShare(p, math.Pow(10, -ph), s.AcidPoured, s.AlkaliPoured, extreme)
	}
	return 1
}

// usualMolarMass stands for that of a weak acid or base where none is known, in g/mol: how
// thin it is moves its own pH by no more than half a unit then. From memory.
const usualMolarMass = 100.0

// molality is how much of it there is, in mol to a kg.
func (p *part) molality() float64 {
	m := p.MolarMass
	if m == 0 {
		m = usualMolarMass
	}
	return p.share * 1000 / m
}

// acidAlone is the pH that a weak acid of these pKa makes of water by itself, baseAlone that
// of the base of an acid of a pKa, each so many mol to a kg: where the protons that it gives
// off, or takes up, are those the water has.
func acidAlone(pKa []float64, molality float64) float64 {
	given := func(ph float64) float64 { return molality * float64(len(pKa)) * (1 - protons(pKa, ph)) }
	return balance(func(ph float64) float64 { return given(ph) + math.Pow(10, ph-14) - math.Pow(10, -ph) })
}

func baseAlone(pKa, molality float64) float64 {
	taken := func(ph float64) float64 { return molality * protons([]float64{pKa}, ph) }
	return balance(func(ph float64) float64 { return math.Pow(10, ph-14) - math.Pow(10, -ph) - taken(ph) })
}

// balance is the pH at which something that grows with it is zero.
func balance(of func(ph float64) float64) float64 {
	low, high := -2.0, 16.0
	for range 40 {
		if mid := (low + high) / 2; of(mid) > 0 {
			high = mid
		} else {
			low = mid
		}
	}
	return (low + high) / 2
}

// leftShare is how much of a strong acid or base is left: by its molality where the pH is
// mild, and where it is extreme what others cannot have taken of it; its like and the other
// side are what went in of both, in equivalents to a kg.
func leftShare(p *part, molality, like, other float64, extreme bool) float64 {
	poured := p.share * 1000 / p.MolarMass // mol to a kg
	if extreme {
		taken := other
		if like > poured { // they share what takes them
			taken *= poured / like
		}
		molality = max(molality, poured-taken)
	}
	return min(1, molality/poured)
}

// protons is the share of its protons that a weak acid of these pKa still has at a
// pH, 0 to 1.
func protons(pKa []float64, ph float64) float64 {
	// β is the product of what each step weighs, from the bare anion up
	sum, on, beta := 1.0, 0.0, 1.0
	for i := range pKa {
		beta *= math.Pow(10, pKa[len(pKa)-1-i]-ph)
		sum += beta
		on += float64(i+1) * beta
	}
	return on / sum / float64(len(pKa))
}

func (s *screen) has(p *part, codes ...string) bool {
	return slices.ContainsFunc(p.Statements, func(c string) bool { return slices.Contains(codes, c) })
}

func (s *screen) says(code string) bool {
	return slices.ContainsFunc(s.met, func(f Finding) bool { return f.Code == code })
}

// run goes through the rules: extreme pH before the sums, as the regulation does.
func (s *screen) run() {
	s.extremePH()
	for i := range summations {
		s.sum(&summations[i])
	}
	s.singly("H334", "CLP, Annex I, table 3.4.5", 0.01)
	s.singly("H317", "CLP, Annex I, table 3.4.5", 0.01)
	s.named()
	s.acute()
	s.burning()
	s.oxidising()
	s.chlorine()
	s.notSummed()
}

// notSummed names statements of materials that no rule here adds up.
func (s *screen) notSummed() {
	for i := range s.parts {
		p := &s.parts[i]
		for _, code := range p.Statements {
			if classOf(code) == nil {
				s.notes = append(s.notes, fmt.Sprintf("%s of %s is not added up here: ask an assessor what it means for the whole.", code, p.Name))
			}
		}
	}
}

// percent is a share as it is told.
func percent(share float64) string {
	places := 3
	switch p := 100 * share; {
	case p >= 9.95:
		places = 0
	case p >= 0.995:
		places = 1
	case p >= 0.0995:
		places = 2
	}
	return strconv.FormatFloat(100*share, 'f', places, 64) + " %"
}

func byPart(a, b Contribution) int {
	return cmp.Or(cmp.Compare(b.Part, a.Part), cmp.Compare(a.ID, b.ID))
}
