package hazard

import (
	"slices"

	"keencrock/core/material"
)

// Limit is a limit of a screen as searches need it: a powder in which the shares of its
// materials, each times its weight, add up to less than one does not meet the class.
// Stricter than the screen by what that leaves out for being little.
type Limit struct {
	Code, Name string
	weigh      func(*part) float64
	// single says that each material counts by itself.
	Single bool
}

// Weight is how much of the limit a gram of a bought material in a gram of mixture takes
// up, as it is poured.
func (l *Limit) Weight(m *material.Material, lib *material.Library) (weight float64) {
	for _, p := range lib.HazardParts(m) {
		weight += p.Share * l.weigh(&part{Substance: p.Substance, material: m})
	}
	return weight
}

// LimitsOf are the limits of classes by their codes.
func LimitsOf(codes ...string) (out []Limit) {
	for i := range summations {
		if c := &summations[i]; slices.Contains(codes, c.code) && c.only == nil {
			out = append(out, Limit{Code: c.code, Name: classOf(c.code).name, weigh: func(p *part) float64 {
				w, _ := c.weight(p)
				return w
			}})
		}
	}
	for _, code := range []string{"H317", "H334"} {
		if slices.Contains(codes, code) {
			out = append(out, Limit{Code: code, Name: classOf(code).name, Single: true, weigh: func(p *part) float64 {
				if !slices.Contains(p.Statements, code) {
					return 0
				}
				if own, ok := p.Limits[code]; ok {
					return 1 / own
				}
				return 1 / 0.01
			}})
		}
	}
	for i := range routes {
		r := &routes[i]
		if last := r.codes[2]; slices.Contains(codes, last) && r.name != "vapour" {
			out = append(out, Limit{Code: last, Name: classOf(last).name, weigh: func(p *part) float64 {
				if ate := r.estimate(p); ate > 0 {
					return r.most[2] / ate
				}
				return 0
			}})
		}
	}
	if slices.Contains(codes, "H272") {
		out = append(out, Limit{Code: "H272", Name: classOf("H272").name, weigh: func(p *part) float64 { return p.AvailableOxygen / oxygenOxidises }})
	}
	return out
}

// WithSignal are the codes of all classes that bring a signal word.
func WithSignal() (codes []string) {
	for _, c := range classes {
		if c.signal > NoSignal {
			codes = append(codes, c.code)
		}
	}
	return codes
}
