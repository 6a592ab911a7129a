package safety

import (
	"fmt"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"keencrock/core/material"
	"keencrock/core/quantity"
)

// Severity orders cautions by weight.
type Severity uint8

// A note is worth knowing, a warning worth heeding, a stop must not be made.
const (
	Note Severity = iota + 1
	Warn
	Stop
)

var severityNames = [...]string{"", "note", "warn", "stop"}

// String returns note, warn or stop.
func (s Severity) String() string { return severityNames[s] }

// Context is where the materials meet.
type Context string

// The contexts rules speak of.
const (
	SamePotWet    Context = "same-pot-wet"
	SameJarDry    Context = "same-jar-dry"
	OneAfterOther Context = "one-after-other"
)

// Defer stands under every list of cautions.
const Defer = "These are the usual cautions. Local codes and a licensed professional decide."

// Caution is a rule that a mixture meets.
type Caution struct {
	Code      string
	Severity  Severity
	Context   Context
	Of        Of
	Materials []string // ids, one for each group of the rule, in its order
	Text      string
	Advice    string
	Basis     string // why it is said, and by which source, in sentences
}

// Ingredient is one material of a mixture and its share by mass.
type Ingredient struct {
	Material *material.Material
	Share    float64
}

// Mixture is what is judged.
type Mixture struct {
	Ingredients []Ingredient
	Wet         bool   // a pot of liquid; otherwise a jar of powder or tabs
	UsedOn      string // laundry, dishes, surfaces, toilet, skin
	Sprayed     bool
	Ferments    bool
	Keeps       bool // something in it stops mould
	Damp        bool // a powder wetted with a little liquid
	Boiling     bool // something is poured in boiling
	Drain       bool // it is for drains and pipes
	// Bottle and InUse are the pH where it stands, when it is wet, and where it
	// is used; Stands is what the screen of what is wet goes by. Neat
	// says that it is used as it stands.
	Bottle, InUse, Stands PH
	Neat                  bool
	Screened              []Screened // the hazards of the whole; nil where it was not screened
	// MeasuredOtherwise is a pH that was measured and that what went in cannot have.
	MeasuredOtherwise *Otherwise
	LyeHeatsK         float64  // by how much lye warms its water
	Idle              []Idle   // preservatives that do nothing in it
	Amounts           *Amounts // how much reacts; nil when it is not known
}

// Otherwise is a measured pH beside the one that is worked out.
type Otherwise struct{ Measured, WorkedOut quantity.Range }

// Idle is a preservative that does not work where it is, and why.
type Idle struct{ ID, Name, Why string }

// Of says what a caution speaks of.
type Of string

// A caution is about making a good, about it as it stands, or about using it.
const (
	OfMaking Of = "making"
	OfBottle Of = "bottle"
	OfUse    Of = "use"
)

// Rule is one line of rules.json, ready to be applied.
type Rule struct {
	Code      string
	together  []material.Tags       // one of each group has to be there
	condition []func(*Mixture) bool // all have to hold
	in        []outcome
	Witness   Witness
}

// Grades are how grave the rule is in each context, once each, as "same-jar-dry: warn".
func (r *Rule) Grades() (all []string) {
	for _, o := range r.in {
		if g := Grade(o.context, o.severity); !slices.Contains(all, g) {
			all = append(all, g)
		}
	}
	return all
}

// Said is what a rule says in a context.
type Said struct {
	Context      Context
	Severity     Severity
	Text, Advice string
}

// Says is all that the rule may say.
func (r *Rule) Says() []Said {
	out := make([]Said, len(r.in))
	for i, o := range r.in {
		out[i] = Said{o.context, o.severity, o.text, o.advice}
	}
	return out
}

// Conditional reports whether more has to hold than that its materials meet.
func (r *Rule) Conditional() bool { return len(r.condition) > 0 }

// Together reports whether its materials meet among these.
func (r *Rule) Together(all []*material.Material) bool {
	return !slices.ContainsFunc(r.together, func(any material.Tags) bool {
		return !slices.ContainsFunc(all, func(m *material.Material) bool { return m.Tags&any != 0 })
	})
}

// Grade is how grave something is in a context, in words.
func Grade(c Context, s Severity) string { return string(c) + ": " + s.String() }

// Witness is what holds a rule: goods it must be found in, as "severity | kind | what is in
// it", goods it must not be found in, as "kind | what is in it", and the source of both. A
// rule without one does not load.
type Witness struct {
	Found, Not []string
	Source     string
}

// outcome is what a rule says in a context. One with a measure speaks only
// where amounts are known and the measure is beyond its limit, and the first
// that does speaks for its context; one without stands in where they are not.
type outcome struct {
	context      Context
	of           Of
	severity     Severity
	text, advice string
	measure      measure // nil without one
	limit        float64
	from         string // the limit in words; empty where any amount is spoken of
	below        bool   // the limit is a least, not a most
}

func (o *outcome) beyond(value float64) bool {
	if o.below {
		return value < o.limit
	}
	return value > o.limit
}

// Evaluate returns every caution a mixture meets, the gravest first, rules
// in their order within a severity.
func Evaluate(m *Mixture) []Caution {
	var all material.Tags
	for _, in := range m.Ingredients {
		all |= in.Material.Tags
	}
	var byWeight [Stop + 1][]Caution
	said := map[string]bool{}
	keep := func(c Caution) {
		byWeight[c.Severity] = append(byWeight[c.Severity], c)
		said[c.Code] = true
	}
	for i := range Rules() {
		if r := &Rules()[i]; r.meets(all) && r.holds(m) {
			r.speak(m, keep)
		}
	}
	for _, c := range hazardCautions(m, said) {
		keep(c)
	}
	if o := m.MeasuredOtherwise; o != nil {
		keep(Caution{Code: "measured-otherwise", Severity: Warn, Context: SamePotWet, Of: OfBottle,
			Text:   fmt.Sprintf("It was measured at pH %.1f, and what went in makes about pH %.1f: one of the two is not so.", o.Measured.Value, o.WorkedOut.Value),
			Basis:  "What was measured, held against what the chemistry makes of what went in.",
			Advice: "Measure again with a fresh strip, and look at what was weighed. Until then the warier of the two counts."})
	}
	for _, idle := range m.Idle {
		keep(Caution{Code: "preservative-idle", Severity: Warn, Context: SamePotWet, Of: OfBottle, Materials: []string{idle.ID},
			Text: fmt.Sprintf("%s does nothing here: %s.", idle.Name, idle.Why), Advice: "Bring the pH to where it works, use another, or keep little of it, cold.",
			Basis: "The pH each preservative works at, as its makers give it."})
	}
	found := make([]Caution, 0, len(byWeight[Stop])+len(byWeight[Warn])+len(byWeight[Note]))
	for s := Stop; s >= Note; s-- {
		found = append(found, byWeight[s]...)
	}
	return found
}

func (r *Rule) holds(m *Mixture) bool {
	for _, holds := range r.condition {
		if !holds(m) {
			return false
		}
	}
	return true
}

// speak gives what a rule says of a mixture that meets it. Where a measure is
// known, what it says stands in for what is said without one.
func (r *Rule) speak(m *Mixture, keep func(Caution)) {
	ids, names, ok := r.materials(m)
	if !ok {
		return
	}
	measured := r.measured() && m.Amounts != nil
	var spoken Context
	for i := range r.in {
		o := &r.in[i]
		if o.context == SamePotWet && !m.Wet || o.context == SameJarDry && m.Wet {
			continue
		}
		amount := ""
		if o.measure == nil && measured {
			continue
		}
		if o.measure != nil {
			value, text, known := o.measure(m)
			if !known || o.context == spoken || !o.beyond(value) {
				continue
			}
			amount, spoken = text, o.context
		}
		keep(Caution{Code: r.Code, Severity: o.severity, Context: o.context, Of: o.of, Materials: ids,
			Text: strings.ReplaceAll(fill(o.text, names), "{n}", amount), Advice: o.advice, Basis: r.basis(o)})
	}
}

// basis is why an outcome of the rule is said.
func (r *Rule) basis(o *outcome) string {
	first, size := utf8.DecodeRuneInString(r.Witness.Source)
	says := string(unicode.ToUpper(first)) + r.Witness.Source[size:] + "."
	switch {
	case o.from == "":
		return says
	case o.below:
		return says + " It is said below " + o.from + "."
	}
	return says + " It is said from " + o.from + " on."
}

// measured reports whether a rule says how much.
func (r *Rule) measured() bool {
	for i := range r.in {
		if r.in[i].measure != nil {
			return true
		}
	}
	return false
}

func (r *Rule) meets(all material.Tags) bool {
	for _, any := range r.together {
		if all&any == 0 {
			return false
		}
	}
	return true
}

// materials picks one material for each group: the one with the largest
// share, and no material for two groups.
func (r *Rule) materials(m *Mixture) (ids, names []string, ok bool) {
	ids, names = make([]string, 0, len(r.together)), make([]string, 0, len(r.together))
	for _, any := range r.together {
		var best *Ingredient
		for i := range m.Ingredients {
			in := &m.Ingredients[i]
			if in.Material.Tags&any == 0 || contains(ids, in.Material.ID) {
				continue
			}
			if best == nil || in.Share > best.Share {
				best = in
			}
		}
		if best == nil {
			return nil, nil, false
		}
		ids, names = append(ids, best.Material.ID), append(names, best.Material.Name)
	}
	return ids, names, true
}

func contains(list []string, s string) bool {
	for _, x := range list {
		if x == s {
			return true
		}
	}
	return false
}

// fill puts names into {0} and {1}: as they stand at the head of a sentence,
// in small letters inside it, so that it reads as one.
func fill(text string, names []string) string {
	for i, name := range names {
		slot := string([]byte{'{', byte('0' + i), '}'})
		at := strings.Index(text, slot)
		if at < 0 {
			continue
		}
		if at > 0 {
			name = material.InSentence(name)
		}
		text = text[:at] + name + text[at+len(slot):]
	}
	return text
}
