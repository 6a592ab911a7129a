package material

import (
	"strings"

	"keencrock/core/quantity"
)

// Named is a material as a maker names it: which one, and what else was said.
type Named struct {
	Material *Material
	Celsius  float64  // as it is poured; 0 when it is not said
	Notes    []string // words about its state that change nothing: "grated", "fresh"
	Also     quantity.Amount
	Optional bool
	// Others are what may take its place: "borax or washing soda".
	Others []Named
	// Aside is what stood in brackets and is no other name, kept as it is.
	Aside []string
}

// maxName is the longest text taken for a name, in bytes.
const maxName = 200

// Read reads the name of a material the way it is said: with words about its
// state, a strength, brackets, and others that may take its place. The error is
// an [*UnknownError] or a [*StrengthError].
func (l *Library) Read(text string) (Named, error) {
	text = strings.TrimSpace(strings.Trim(strings.TrimSpace(text), ".,;:–—-•*·"))
	if m, ok := l.byName[text]; ok {
		return Named{Material: m, Notes: m.kinIn(text)}, nil
	}
	if len(text) > maxName {
		return Named{}, &UnknownError{Name: text[:60] + "…"}
	}
	var n Named
	name, brackets := cutBrackets(text)
	name = n.optional(name)
	first, others := splitOr(name)
	found, err := l.readOne(first)
	if err != nil && len(others) > 0 {
		// “white or apple cider vinegar”: the end belongs to both
		if i := strings.LastIndexByte(others[0], ' '); i >= 0 {
			if f, e := l.readOne(first + others[0][i:]); e == nil {
				found, err = f, nil
			}
		}
	}
	if err != nil {
		// “bicarb (baking soda)”: what is in brackets may be the name
		for _, b := range brackets {
			if f, e := l.readOne(b); e == nil {
				found, err = f, nil
				break
			}
		}
	}
	if err != nil {
		return Named{}, err
	}
	n.Material, n.Celsius, n.Notes = found.Material, found.Celsius, found.Notes
	for _, o := range others {
		other, err := l.readOne(o)
		if err != nil {
			n.Aside = append(n.Aside, "or "+o)
		} else if other.Material != n.Material {
			n.Others = append(n.Others, other)
		}
	}
	for _, b := range brackets {
		l.bracket(&n, b)
	}
	return n, nil
}

// ReadFor reads a name as it is meant with its amount: a bar of castile soap is
// no liquid, a cup of lavender no oil, the juice of a lemon no lemon. The error
// is of [Library.Read].
func (l *Library) ReadFor(text string, a quantity.Amount) (Named, error) {
	if m := l.byName[text]; m != nil && m.ID == text {
		return Named{Material: m}, nil
	}
	return l.ReadSaid(text, a)
}

// ReadSaid is [Library.ReadFor] for a name that is spoken and never an id: drops of lemon
// are of its oil.
func (l *Library) ReadSaid(text string, a quantity.Amount) (Named, error) {
	unit := a.Unit()
	if unit == quantity.Bar {
		if n, err := l.Read(text + " bar"); err == nil {
			return n, nil
		}
	}
	if unit == quantity.Drop && strings.TrimSuffix(fold(text), "s") == "oil" { // drops of oil are of scent
		text = "essential oil"
	}
	n, err := l.Read(text)
	if err != nil && unit.Kind() == quantity.Volume {
		if m := l.poured(text); m != nil {
			n, err = Named{Material: m}, nil
		}
	}
	if unit.JuiceOf() || unit.PeelOf() {
		if j, e := l.Read(fruitPart(unit)); e == nil {
			if err == nil && n.Material.Is(Botanical) {
				n.Material, err = j.Material, nil
			}
		}
	}
	if err != nil {
		return n, err
	}
	if unit == quantity.Drop || unit == quantity.Dropper {
		if oil := l.oilOf(n.Material); oil != nil {
			n.Material = oil
		} else if n.Material.Is(Botanical) && !n.Material.Liquid() { // “5 drops of basil”, whose oil is known by no more than its name
			if oil, err := l.Read(text + " oil"); err == nil && oil.Material.Is(ScentOil) {
				n = oil
			}
		}
	}
	if scooped(unit) || filledWith(a) {
		if plant := l.Plant(n.Material, text); plant != nil {
			n.Material = plant
		}
	}
	return n, nil
}

// poured is what a word that can mean several things means where it is measured by volume:
// no bar goes into a cup. It is nil where more than one can.
func (l *Library) poured(name string) (found *Material) {
	for _, id := range l.Meant(name) {
		m, err := l.Find(id)
		switch {
		case err != nil || m.Form == "bar":
		case found != nil:
			return nil
		default:
			found = m
		}
	}
	return found
}

func fruitPart(u quantity.Unit) string {
	if u.JuiceOf() {
		return u.Fruit() + " juice"
	}
	return u.Fruit() + " peel"
}

// scooped reports whether a unit is one for leaves and flowers rather than
// drops of oil.
func scooped(u quantity.Unit) bool {
	switch u {
	case quantity.Cup, quantity.Handful, quantity.Pinch, quantity.Piece, quantity.Bare, quantity.Mug, quantity.Glass, quantity.Bowl, quantity.Jar, quantity.Gram, quantity.Kilogram, quantity.Pound,
		quantity.Ounce, quantity.Pint, quantity.Quart, quantity.Scoop, quantity.Sprinkle,
		quantity.Tablespoon, quantity.Dessertspoon: // an oil is dropped, or poured from a teaspoon
		return true
	}
	return false
}

// filledWith reports whether so much is filled in that it is no oil: “fill a 700 ml jar with lavender”.
func filledWith(a quantity.Amount) bool {
	if o := a.Open(); o == quantity.ToFill || o == quantity.ToCover {
		return true
	}
	ml, ok := a.Millilitres(quantity.Handling{Measures: quantity.Metric})
	return ok && a.Open() == quantity.NotOpen && ml.Value >= mostOil
}

// mostOil is from how many millilitres on a plant's name is the plant: a bottle of its oil holds less. From memory.
const mostOil = 150

// bracket reads what stands in brackets beside a name.
func (l *Library) bracket(n *Named, text string) {
	lower := strings.ToLower(text)
	if rest := n.optional(lower); rest == "" {
		return
	}
	if after, ok := strings.CutPrefix(lower, "or "); ok {
		if o, err := l.readOne(after); err == nil {
			if o.Material != n.Material {
				n.Others = append(n.Others, o)
			}
			return
		}
	}
	if a, err := quantity.Parse(text); err == nil && n.Also.IsZero() && a.Unit() != quantity.Bare && a.Unit() != quantity.Percent && a.Open() == quantity.NotOpen {
		n.Also = a
		return
	}
	if o, err := l.readOne(text); err == nil {
		if o.Material == n.Material || o.Material.Label == n.Material.Label {
			return // another name of the same
		}
		if m := l.ofStrength(n.Material, text); m != nil {
			n.Material = m
			return
		}
		n.Others = append(n.Others, o)
		return
	}
	if share, ok := strengthIn(lower); ok {
		if m := l.stronger(n.Material, share); m != nil {
			n.Material = m
			return
		}
	}
	n.Aside = append(n.Aside, text)
}

// cutBrackets takes what stands in brackets out of a text.
func cutBrackets(text string) (rest string, brackets []string) {
	for {
		open := strings.IndexAny(text, "([")
		if open < 0 {
			return strings.Join(strings.Fields(text), " "), brackets
		}
		end := strings.IndexAny(text[open:], ")]")
		if end < 0 {
			return strings.Join(strings.Fields(text[:open]+" "+text[open+1:]), " "), brackets
		}
		if inner := strings.TrimSpace(text[open+1 : open+end]); inner != "" {
			brackets = append(brackets, inner)
		}
		text = text[:open] + " " + text[open+end+1:]
	}
}

// optionalPhrases say that a line may be left out.
var optionalPhrases = []string{"optional", "optionally", "if you like", "if you want", "if you wish", "if liked", "if wanted", "if desired", "if using", "if you have it", "if needed", "if necessary"}

// optional takes away what says that a line may be left out.
func (n *Named) optional(text string) string {
	for _, phrase := range optionalPhrases {
		if i := indexWord(text, phrase); i >= 0 {
			n.Optional = true
			text = strings.Trim(text[:i]+text[i+len(phrase):], " ,;–—-:")
		}
	}
	return text
}

// indexWord finds a phrase that stands by itself; -1 when it does not.
func indexWord(text, phrase string) int {
	lower := strings.ToLower(text)
	if len(lower) != len(text) {
		return -1 // letters that change their length
	}
	for from := 0; ; {
		i := strings.Index(lower[from:], phrase)
		if i < 0 {
			return -1
		}
		i += from
		end := i + len(phrase)
		if (i == 0 || lower[i-1] == ' ' || lower[i-1] == ',') && (end == len(lower) || lower[end] == ' ' || lower[end] == ',' || lower[end] == ';') {
			return i
		}
		from = end
	}
}

// splitOr parts what may take each other's place.
func splitOr(text string) (first string, others []string) {
	for {
		i := indexWord(text, "or")
		if i <= 0 {
			break
		}
		others = append(others, strings.Trim(text[:i], " ,"))
		text = strings.Trim(text[i+len("or"):], " ,")
	}
	if slash := strings.Split(text, "/"); len(slash) > 1 && len(others) == 0 {
		for _, s := range slash {
			others = append(others, strings.TrimSpace(s))
		}
		return others[0], others[1:]
	}
	others = append(others, text)
	return others[0], others[1:]
}

// readOne reads one name with words about its state and a strength.
func (l *Library) readOne(text string) (Named, error) {
	key := fold(strings.Trim(text, " ,.;:"))
	if m := l.lookUp(key); m != nil {
		return Named{Material: m, Notes: m.kinIn(key)}, nil
	}
	var n Named
	share, said := strengthIn(key)
	bare := key
	if said {
		bare = strings.Join(strings.Fields(percentage.ReplaceAllString(key, " ")), " ")
		if bare == "" { // “96 % alcohol”, where the word is the name
			bare = strings.TrimSpace(percentSign.ReplaceAllString(key, " "))
		}
	}
	m := l.strip(bare, &n)
	if head, plant, of := strings.Cut(bare, "oil of "); m == nil && of && head == "" { // “oil of lavender”
		m = l.strip(plant+" oil", &n)
	}
	if at := strings.LastIndexByte(bare, ' '); m == nil && at > 0 { // “lye flakes”: the form it comes in
		if head, form := bare[:at], bare[at+1:]; forms[form] {
			if of := l.strip(head, &n); of != nil && (of.Is(Dry) || of.Form == "solid") && of.Tags&(Soap|Botanical|Sugar|Surfactant) == 0 {
				m = of
				n.Notes = append(n.Notes, form)
			}
		}
	}
	if m == nil {
		return Named{}, &UnknownError{Name: text, lib: l}
	}
	if said {
		if m2 := l.stronger(m, share); m2 != nil {
			m = m2
		} else if len(m.MakeUp) > 0 {
			return Named{}, &StrengthError{Material: m, Share: share}
		}
	}
	n.Material = m
	n.Notes = append(n.Notes, m.kinIn(key)...)
	return n, nil
}

// kinIn is which of the sorts that a row stands for a folded name says: “oregano” of
// “oregano oil”, which is no more than a scent that nothing is known of; none otherwise.
func (m *Material) kinIn(key string) []string {
	longest := ""
	for _, name := range m.Kin {
		if len(name) > len(longest) && indexWord(key, name) >= 0 {
			longest = name
		}
	}
	if longest == "" && m.ID == unnamedScent { // “vanilla fragrance oil”
		for _, end := range fragranceEnds {
			if smell, is := strings.CutSuffix(key, end); is {
				longest = smell
			}
		}
	}
	if longest == "" {
		return nil
	}
	return []string{longest}
}

// forms are what a dry material may come as, and stays what it is.
var forms = map[string]bool{"powder": true, "flakes": true, "granules": true, "crystals": true, "beads": true, "pearls": true, "pellets": true, "prills": true, "pastilles": true, "chips": true, "drops": true}

// strip takes words about the state off both ends of a name, as few as it
// takes to find a material.
func (l *Library) strip(key string, n *Named) *Material {
	words := strings.Fields(strings.ReplaceAll(key, ",", " "))
	var leading, trailing []string
	for {
		name := strings.Join(words, " ")
		if m := l.lookUp(name); m != nil {
			if plant := l.plantFor(m, name, append(leading, trailing...)); plant != nil {
				m = plant
			}
			for _, w := range append(leading, trailing...) {
				s, _ := quantity.StateOf(w, name)
				if s.Celsius != 0 {
					n.Celsius = s.Celsius
				}
				n.Notes = append(n.Notes, w)
			}
			return m
		}
		if len(words) < 2 {
			return nil
		}
		last := words[len(words)-1]
		head := strings.Join(words[:len(words)-1], " ")
		tail := strings.Join(words[1:], " ")
		_, first := quantity.StateOf(words[0], tail)
		_, end := quantity.StateOf(last, head)
		switch {
		case first:
			leading = append(leading, words[0])
			words = words[1:]
		case end || last == "only" || last == "of" || last == "and":
			trailing = append(trailing, last)
			words = words[:len(words)-1]
		case words[0] == "of" || words[0] == "the" || words[0] == "some" || words[0] == "a" || words[0] == "an" || words[0] == "and":
			words = words[1:]
		default:
			return nil
		}
	}
}

// plantStates are words that are said of a plant and not of its oil.
var plantStates = map[string]bool{"fresh": true, "dried": true, "dry": true, "chopped": true, "ground": true, "crushed": true, "powdered": true, "whole": true}

// plantFor is the plant where a scent's short name was said of one: "dried
// thyme".
func (l *Library) plantFor(m *Material, name string, said []string) *Material {
	if !m.Is(ScentOil) || strings.Contains(name, "oil") {
		return nil
	}
	for _, w := range said {
		if plantStates[w] {
			return l.lookUp("dried " + name)
		}
	}
	return nil
}

// Plant is the plant that shares its short name with a scent, as dried lavender
// does with lavender; nil without one.
func (l *Library) Plant(m *Material, said string) *Material {
	key := fold(said)
	if !m.Is(ScentOil) || strings.Contains(key, "oil") || strings.Contains(key, "scent") || strings.Contains(key, "fragrance") || strings.Contains(key, "essence") {
		return nil
	}
	return l.lookUp("dried " + key)
}

// oilOf is the scent that has the name of a plant or a fruit, as lemon oil has of a lemon;
// nil without one.
func (l *Library) oilOf(m *Material) *Material {
	if m.Liquid() || m.Is(ScentOil) {
		return nil
	}
	name := strings.TrimPrefix(fold(m.Name), "dried ")
	for _, end := range [...]string{"", "s"} {
		if oil := l.byName[strings.TrimSuffix(name, end)+" oil"]; oil != nil && oil.Is(ScentOil) {
			return oil
		}
	}
	return nil
}

// lookUp finds a folded name, in the singular or the plural.
func (l *Library) lookUp(key string) *Material {
	if m := l.byName[key]; m != nil || key == "" {
		return m
	}
	for _, suffix := range [...]string{"s", "es"} {
		if single, ok := strings.CutSuffix(key, suffix); ok {
			if m := l.byName[single]; m != nil {
				return m
			}
		}
	}
	if single, ok := strings.CutSuffix(key, "ies"); ok {
		if m := l.byName[single+"y"]; m != nil {
			return m
		}
	}
	return l.byName[key+"s"]
}
