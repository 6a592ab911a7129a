package material

import (
	"errors"
	"fmt"
	"slices"
)

// Hazards is what a material is classed as by itself after Regulation (EC) 1272/2008
// (CLP), which follows the globally harmonised system of the United Nations.
// Figures are from memory where Source does not say better: a screen, not a
// classification.
type Hazards struct {
	// Unknown says that nothing can be told of it: neither what it is classed as nor
	// that it is not.
	Unknown bool
	// None is the source that says that it is not classed, for what has no statement; what
	// says neither is not known, and never harmless.
	None       string
	Statements []string // by code, such as H318; empty for what is not classed
	// Of is the component that carries them, where a material is sold in several
	// strengths; empty for the whole.
	Of string
	// Limits are the shares of it in a mixture from which a statement holds, where
	// they differ from the general ones; also those of a milder statement.
	Limits map[string]float64
	// ATE are estimates of acute toxicity by route: oral and dermal in mg/kg, dust
	// and vapour in mg/l over four hours. Of a statement without one the value of
	// its category counts.
	ATE map[string]float64
	M   Multipliers
	// Acid are the pKa of a weak acid, Base that of the acid of a weak base: what is
	// neutralised is classed no more. Strong is "acid" or "base" for what is
	// neutralised at any mild pH, and Salt the substance it becomes then, where that
	// is classed too.
	Acid   []float64
	Base   float64
	Strong string
	Salt   string
	// MolarMass in g/mol is needed of what is strong or a gas in water; of a material
	// with a formula it follows from that.
	MolarMass float64
	// AvailableOxygen and ActiveChlorine are shares of its mass.
	AvailableOxygen, ActiveChlorine float64
	Source                          string
}

// Multipliers are the M-factors of what is very toxic to water life; zero is 1.
type Multipliers struct{ Acute, Chronic float64 }

// Declared is the class of Regulation (EC) 648/2004, Annex VII A, that a material is
// declared by in a list of ingredients, and the component that counts; the whole
// where Of is empty. The zero value is declared by no class.
type Declared struct{ Class, Of string }

// Substance is what a mixture is made of: a component, or a material that is classed
// as a whole.
type Substance struct {
	ID, Name string
	Hazards
}

// Part is a substance in a material, and its share by mass.
type Part struct {
	*Substance
	Share float64
}

// HazardParts are the substances of a material that is a base itself (see
// [Material.Bases]), with their shares by mass: its components where the library
// knows them all, else the material as it is sold.
func (l *Library) HazardParts(m *Material) []Part {
	if parts, known := l.components(m); known {
		return parts
	}
	s := &Substance{ID: m.ID, Name: m.Name, Hazards: m.Hazards}
	s.Unknown = s.Unknown || m.Is(Stranger) && m.Hazards.Source != CustomSource // as its sheet says
	if s.MolarMass == 0 {
		s.MolarMass = m.MolarMass
	}
	share := 1.0
	if s.Of != "" {
		share = m.ShareOf(s.Of)
	}
	return []Part{{s, share}}
}

// components are the known substances of a mixture; known is false where one is not.
func (l *Library) components(m *Material) (parts []Part, known bool) {
	if m.Is(Stranger) || m.Hazards.Of != "" || m.Hazards.Source == CustomSource {
		return nil, false
	}
	for _, c := range m.MakeUp {
		if c.Of == "water" {
			continue
		}
		s := l.substance(c.Of)
		if s == nil {
			return nil, false
		}
		parts = append(parts, Part{s, c.Share.Value})
	}
	return parts, len(parts) > 0
}

// substance is what a component is classed as: of the table of substances, or of the
// material that it is; nil when neither is known.
func (l *Library) substance(id string) *Substance {
	if s := l.pure[id]; s != nil {
		return s
	}
	m := l.lookUp(fold(id))
	if m == nil || m.Own || len(m.MakeUp) > 0 {
		return nil
	}
	s := &Substance{ID: m.ID, Name: m.Name, Hazards: m.Hazards}
	if s.MolarMass == 0 {
		s.MolarMass = m.MolarMass
	}
	return s
}

// Substance returns what a substance is classed as; nil when it is not known.
func (l *Library) Substance(id string) *Substance { return l.substance(id) }

// DeclaredClasses are the classes a material may be declared by.
var DeclaredClasses = []string{"phosphates", "phosphonates", "anionic-surfactants", "cationic-surfactants", "amphoteric-surfactants",
	"nonionic-surfactants", "oxygen-based-bleach", "chlorine-based-bleach", "edta", "nta", "phenols", "aromatic-hydrocarbons",
	"aliphatic-hydrocarbons", "halogenated-hydrocarbons", "soap", "zeolites", "polycarboxylates",
	"enzymes", "disinfectants", "optical-brighteners", "perfumes", "preservation-agents"}

func (h *Hazards) validate() error {
	for statement, limit := range h.Limits {
		if limit <= 0 || limit > 1 {
			return fmt.Errorf("a limit of %g for %s is no share", limit, statement)
		}
	}
	for route, ate := range h.ATE {
		if !slices.Contains([]string{"oral", "dermal", "dust", "vapour"}, route) || ate <= 0 {
			return fmt.Errorf("an estimate of %g by %q makes no sense", ate, route)
		}
	}
	switch {
	case h.Unknown && len(h.Statements) > 0 || h.None != "" && (h.Unknown || len(h.Statements) > 0):
		return errors.New("is either classed, or not, or not known")
	case h.Strong != "" && h.Strong != "acid" && h.Strong != "base":
		return fmt.Errorf("is a strong acid or a strong base, not %q", h.Strong)
	case len(h.Statements) > 0 && h.Source == "":
		return errors.New("its hazards have no source")
	}
	return nil
}

func (d Declared) validate() error {
	if d.Class != "" && !slices.Contains(DeclaredClasses, d.Class) {
		return fmt.Errorf("no ingredient is declared as %q", d.Class)
	}
	return nil
}
