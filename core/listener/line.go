package listener

import (
	"errors"
	"regexp"
	"slices"
	"strings"

	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

// noteLetters is how long a remark of a line may be; the formula format's.
const noteLetters = 200

// lineMade makes a line of an amount and a name within an atom.
func (r *reader) lineMade(a *atom, said *amountSaid, n *naming) {
	n.optional = n.optional || a.optional
	a.optional = false
	if before := a.made; before != nil && before.lead { // “to a litre of water I add …”
		before.Amount = before.Amount.Plain()
		before.Written = before.Amount.String()
		before.lead = false
	}
	first := a.made == nil && (r.last == nil || r.last.from < r.now.from)
	l := r.make(said, n)
	l.lead = said.total && first
	l.shared = l.shared || r.shared.said == said
	if r.shared.all && r.shared.taken && r.shared.said != said && said != nil { // “half a cup each of soda and borax with a quarter cup of salt and …”
		r.shared = sharing{}
	}
	a.made = l
	for _, s := range a.remarks {
		l.remark(r.asSaid(s.from, s.to))
		r.becomesOwned(s, l)
	}
	a.remarks = nil
}

// fills reports whether a vessel is filled with a line so far: “fill it half with lemon peels”.
func (r *reader) fills(l *Line) bool {
	for i := min(l.from+1, len(r.toks)-1); i >= max(r.now.from, l.from-8); i-- { // “stuff it half full of …”
		if fillsSo[r.toks[i].word] {
			return true
		}
	}
	return false
}

// vesselFilled is the vessel that was named last in a sentence, before a line that alone is a part of it.
func (r *reader) vesselFilled(l *Line) (u quantity.Unit, found bool) {
	for k := range r.out { // “half with alcohol and half with water” are shares
		if m := &r.out[k]; m.kind == anAmount && m.from != l.from && m.from >= r.now.from && m.from < r.now.to && m.amount.Amount.Unit() == quantity.Bare && m.amount.Amount.Open() == quantity.NotOpen {
			return 0, false
		}
	}
	for i := l.from - 1; i >= r.now.from && !found; i-- {
		if of, ok := quantity.UnitNamed(r.toks[i].word); ok && isVessel(of) {
			u, found = of, true
		}
	}
	return u, found
}

// fillsSo say that a vessel is filled.
var fillsSo = wordSet("fillsSo")

// toldAgain is the line that was measured before, where no more than how it goes in is said of it among what is
// done: “mix in the soap a few drops at a time”, “heat the oil to 45 degrees, lye about the same”; nil for any other.
func (r *reader) toldAgain(said *amountSaid, n *naming) *Line {
	if said == nil || n.in == nil || !n.in.doing && !r.lexIs(n.in.from, step) || n.from == n.to {
		return nil
	}
	l := r.lineOf(r.read(n.text), n.text)
	if l == nil || l.Amount.IsZero() || l.from < 0 || l.from >= n.in.from {
		return nil
	}
	if o := said.Amount.Open(); o == quantity.AsNeeded || o == quantity.Some { // “spray a little water”
		return l
	}
	if !n.in.doing || l.Amount.Open() != quantity.NotOpen {
		return nil
	}
	if at := said.to; at+1 < len(r.toks) && r.toks[at].word == "at" && r.toks[at+1].word == "a" {
		return l
	}
	if r.lexIs(said.from, same) && r.amount == said.Amount {
		return l
	}
	if listed := slices.IndexFunc(r.good.sentences, func(s *sentence) bool { return s.from <= l.from && l.from < s.to }); said.Amount == l.Amount && listed >= 0 && !r.good.sentences[listed].doing { // “dissolve the potash in 450 g water”, which was listed
		return l
	}
	return nil
}

// barWord finds what is cut and not poured, where it was weighed.
var barWord = regexp.MustCompile(`(?i)\b(?:bars?|blocks?)\b`)

// make makes a line of a name, and of an amount where one was said.
func (r *reader) make(said *amountSaid, n *naming) *Line {
	r.chooses(said, n)
	r.settle()
	if l := r.toldAgain(said, n); l != nil {
		r.becomes(said.from, said.to, AsStep, l)
		r.becomes(n.from, n.to, AsStep, l)
		r.touched = append(r.touched, l)
		return l
	}
	r.sameOfFruit(said, n)
	if said != nil && n.text != "" && said.Amount.Kind() == quantity.Mass && barWord.MatchString(said.written) && r.read(n.text+" bar") != nil { // “a 4 ounce bar of castile” is not poured
		n.text += " bar"
	}
	if first := r.last; r.shared.all && first != nil && first.from >= r.now.from && strings.HasPrefix(strings.ToLower(first.name), "dried ") && r.read("dried "+n.text) != nil { // “a spoon each of dried rosemary, thyme and mint”
		n.text = "dried " + n.text
	}
	if said != nil && n.text != "" && leafy(said.written) && r.read("fresh "+n.text) != nil { // “a bunch of rosemary”
		n.text = "fresh " + n.text
	}
	if l := r.renamed; said != nil && l != nil && r.read(n.text) != nil && r.read(n.text).ID == l.Material { // “no, sugar, two spoons of sugar”
		r.renamed = nil
		r.becomes(n.from, n.to, AsMaterial, l)
		r.correctAmount(l, said)
		return l
	}
	r.renamed = nil
	if l := r.unmeasured(n.text); said != nil && l != nil { // “it's vinegar and water: a cup of vinegar, two of water”
		r.becomes(n.from, n.to, AsMaterial, l)
		l.from = min(max(l.from, 0), said.from)
		r.correctAmount(l, said)
		r.takeUnit(l)
		r.amount, r.last = l.Amount, l
		return l
	}
	if l := r.saidInParts(said, n); l != nil {
		r.becomes(n.from, n.to, AsMaterial, l)
		r.correctAmount(l, said)
		r.last = l
		return l
	}
	if said == nil && r.alone != nil && n.in == r.now {
		said, r.alone = r.alone, nil
	}
	l := &Line{from: n.from}
	l.Optional = n.optional
	if said != nil {
		l.from = min(l.from, said.from)
		l.Written, l.Amount, l.Also, l.said = written(said), said.Amount, said.Also, said.written
	}
	r.rename(l, n.text)
	if l.Err != nil {
		r.spellRight(l)
	}
	if said != nil {
		r.takeUnit(l)
		r.becomes(said.from, said.to, AsAmount, l)
		r.amount = l.Amount
	}
	r.becomes(n.from, n.to, AsMaterial, l)
	for _, o := range n.others {
		r.addOther(l, &o)
	}
	for _, remark := range n.remarks {
		l.remark(remark)
	}
	r.good.lines = append(r.good.lines, l)
	r.last = l
	r.exchangeFor(l)
	r.askOilOrPlant(l)
	return l
}

// materialName is the name of what a line was read as.
func (r *reader) materialName(l *Line) string {
	if m := r.read(l.Material); m != nil {
		return m.Name
	}
	return l.name
}

// leafy reports whether an amount is said in what herbs are picked in.
func leafy(written string) bool {
	return leafyMeasures[strings.TrimSuffix(strings.TrimSuffix(lastWord(strings.TrimSuffix(written, " of")), "s"), "e")]
}

// saidInParts is the line of a material that was said in parts and is now weighed: “sugar 1
// part, peel 3 parts. So 100 g sugar, …”; nil without.
func (r *reader) saidInParts(said *amountSaid, n *naming) *Line {
	if said == nil || !holds(said.Amount) || said.Amount.Unit() == quantity.Part {
		return nil
	}
	if last := r.last; last != nil && last.shared && last.from >= r.now.from && n.from > 0 && r.toks[n.from-1].word == "the" && strings.EqualFold(last.name, n.text) { // “a kilo of each … and half a kilo of the soap”
		return last
	}
	if !r.inParts() {
		return nil
	}
	m := r.read(n.text)
	for _, l := range r.good.lines {
		if m != nil && l.Material == m.ID && l.from >= 0 && l.from < r.now.from && l.Amount.Unit() == quantity.Part {
			return l
		}
	}
	return nil
}

// sameOfFruit gives a number of fruits what was said of those before: “the peel of four
// lemons and two oranges”.
func (r *reader) sameOfFruit(said *amountSaid, n *naming) {
	u := r.amount.Unit()
	if said == nil || said.Amount.Unit() != quantity.Bare || !n.joined || !u.JuiceOf() && !u.PeelOf() {
		return
	}
	of := "peel of "
	if u.JuiceOf() {
		of = "juice of "
	}
	a, err := quantity.Parse(of + said.written + " " + n.text)
	if err != nil || thingOf(a.Unit()) == "" {
		return
	}
	said.Amount, said.written, n.text = a, a.String(), thingOf(a.Unit())
}

// unmeasured is the line of a material that has been named in this text without how much;
// nil without one.
func (r *reader) unmeasured(name string) *Line {
	m := r.read(name)
	meant := r.lib.Meant(name)
	if m == nil && len(meant) == 0 {
		return nil
	}
	for _, l := range r.good.lines {
		if (m != nil && l.Material == m.ID || m == nil && (l.name == name || slices.Contains(meant, l.Material))) && l.from >= 0 && (l.Amount.IsZero() || l.Amount.Open() == quantity.Some || l.Amount.Open() == quantity.AsNeeded && l.from >= r.now.from && !r.now.doing) {
			return l
		}
	}
	return nil
}

// shortWritten is how many letters of an amount are kept as they were said; of a longer one
// in words its figures are easier to read, and the talk itself is kept with the formula.
const shortWritten = 12

// written is how an amount stands in a line.
func written(said *amountSaid) string {
	if bare := strings.TrimSuffix(said.written, "."); bare != said.written && len(bare) > 0 { // the stop of the sentence
		if again, err := quantity.Parse(bare); err == nil && again == said.Amount {
			return bare
		}
	}
	if len(said.written) <= shortWritten || said.Amount.Open() != quantity.NotOpen || said.Amount.Unit().JuiceOf() || said.Amount.Unit().PeelOf() || isDigit(said.written[0]) {
		return said.written
	}
	return said.Amount.String()
}

// takeUnit gives a bare number the unit that was said before.
func (r *reader) takeUnit(l *Line) {
	m, err := r.lib.Find(l.Material)
	if err != nil {
		if len(r.lib.Meant(l.name)) > 0 { // “half of soap”, after cups
			if reading, ok := r.measured(quantity.Reading{Amount: l.Amount}, nil); ok {
				l.Amount, l.Written = reading.Amount, reading.Amount.String()
				r.rename(l, l.name)
			}
		}
		return
	}
	if l.Amount.Unit() == quantity.Bare && r.amount.Unit() == quantity.Drop { // “ten drops of lemon and five of clove”
		if scent := r.scentOf(l.name); scent != "" {
			r.rename(l, scent)
			m = r.read(scent)
		}
	}
	if n, ok := l.Amount.Pieces(); ok && (r.amount.IsZero() || r.good.inTotal) && !r.good.total.IsZero() && l.Amount.Unit() == quantity.Bare && n.High < 1 && (!m.Piece.Known() || r.fills(l)) { // “a third castile soap”, of the bottle
		if share, fits := r.good.total.Times(int64(n.Low*5040+0.5), 5040); fits {
			l.Amount, l.Written = share, share.String()
			r.good.inTotal = true
			r.rename(l, l.name)
			return
		}
	}
	if n, ok := l.Amount.Pieces(); ok && l.Amount.Unit() == quantity.Bare && n.High < 1 && r.good.total.IsZero() && r.fills(l) { // “take the big jam jar, fill it two thirds with peel”
		if u, found := r.vesselFilled(l); found {
			if with, fits := l.Amount.InUnitOf(quantity.Of(1, 1, u)); fits {
				l.Amount, l.Written = with, with.String()
				return
			}
		}
	}
	if l.Amount.Unit() == quantity.Bare && l.Amount.Open() == quantity.NotOpen && r.amount.Kind() != quantity.Count && slices.ContainsFunc(strings.Fields(strings.ToLower(l.name)), func(w string) bool { return countedOne[w] }) { // “bicarb, a cup, and bay leaves, five”
		return
	}
	if l.Amount.Unit() == quantity.Bare && l.Amount.Open() == quantity.NotOpen && m.Is(material.ScentOil) && r.amount.Kind() == quantity.Volume && isSpooned(r.amount) && r.amount.Unit() != quantity.Drop { // “…, vinegar 1 tbsp, tea tree 10”: scents are counted in drops
		if drops, ok := l.Amount.InUnitOf(quantity.Of(1, 1, quantity.Drop)); ok && moreThanSpoons(l.Amount) {
			l.Amount, l.Written = drops, drops.String()
			return
		}
	}
	if reading, ok := r.measured(quantity.Reading{Amount: l.Amount}, m); ok {
		l.Amount = reading.Amount
		if at := l.from - 1; at >= 0 && at+1 < len(r.toks) && r.toks[at+1].word == "one" && quantity.IsFill(r.toks[at].word) { // “two heaped spoons of borax, a level one of salt”
			unit := strings.TrimPrefix(quantity.Of(1, 1, l.Amount.Unit()).String(), "1 ")
			if filled, err := quantity.Parse("1 " + r.toks[at].word + " " + unit); err == nil {
				l.Amount = filled
				r.becomes(at, at+1, AsAmount, l)
			}
		}
		l.Written = l.Amount.String()
		r.rename(l, l.name)
	}
}

// countedOne are the last words of names of what is counted one by one.
var countedOne = wordSet("countedOne")

// moreThanSpoons reports whether a number is of more than anybody takes spoons of a scent.
func moreThanSpoons(a quantity.Amount) bool {
	n, ok := a.Pieces()
	return ok && n.Value > mostSpoons
}

// mostSpoons is how many spoons of a scent go in at the most. From memory.
const mostSpoons = 4

// rename reads a line's name anew: which material it is, by what is said and by what it
// is measured in.
func (r *reader) rename(l *Line, said string) {
	l.name = said
	name, purpose := cutPurpose(said)
	if purpose != "" {
		l.Purpose = purpose
	}
	if o := l.Amount.Open(); o == quantity.AsNeeded && strings.HasPrefix(purpose, "to cover") {
		l.Amount = quantity.OpenAmount(quantity.ToCover)
	}
	l.Material = strings.TrimSpace(name)
	l.Alternatives = nil
	n, err := r.lib.ReadSaid(name, l.Amount)
	if err != nil && len(r.lib.Meant(name)) > 0 && strings.Contains(" "+strings.ToLower(l.said)+" ", " bar") { // “a 100 g bar of soap”
		n, err = r.lib.ReadSaid(name+" bar", l.Amount)
	}
	if first, last := strings.TrimSpace(strings.TrimSuffix(name, lastWord(name))), lastWord(name); l.Amount.Unit() == quantity.Bar && first != "" && isState(last, nil) { // “one bar of castile soap grated”
		if bar, is := r.lib.ReadSaid(first, l.Amount); is == nil {
			n, err = bar, nil
			n.Notes = append(slices.Clone(n.Notes), last)
		}
	}
	for rest := name; err != nil && len(r.lib.Meant(name)) == 0; { // “soap shaved fine”
		word := lastWord(rest)
		if !isState(word, nil) && word != "fine" || len(strings.Fields(rest)) < 2 {
			break
		}
		rest = strings.TrimSpace(rest[:len(rest)-len(word)])
		if _, bar := r.lib.ReadSaid(rest+" bar", l.Amount); strings.Contains(" "+strings.ToLower(l.said)+" ", " bar") && bar == nil {
			rest += " bar"
		}
		if again, turned := r.lib.ReadSaid(word+" "+rest, l.Amount); turned == nil && len(strings.Fields(rest)) == 1 { // “soap grated”
			n, err = again, nil
			break
		}
		if again, shorter := r.lib.ReadSaid(rest, l.Amount); shorter == nil {
			n, err = again, nil
			n.Notes = append(slices.Clone(n.Notes), strings.TrimSpace(strings.TrimPrefix(name, strings.TrimSuffix(rest, " bar"))))
		}
	}
	if err != nil && len(r.lib.Meant(name)) == 0 {
		if again, singular := r.lib.ReadSaid(singulars(name), l.Amount); singular == nil { // “soap nuts powder”
			n, err = again, nil
		}
	}
	if l.Err = err; err != nil {
		return
	}
	l.Material = n.Material.ID
	l.Celsius, l.Optional = n.Celsius, l.Optional || n.Optional
	l.Note = strings.Join(append(slices.Clone(n.Notes), n.Aside...), ", ")
	if l.Also.IsZero() {
		l.Also = n.Also
	}
	for _, o := range n.Others {
		l.Alternatives = append(l.Alternatives, formula.Line{Material: o.Material.ID, Amount: l.Amount, Written: l.Written})
	}
}

// singulars is a name with no word of it but the last in the plural.
func singulars(name string) string {
	words := strings.Fields(name)
	for i := range words[:max(0, len(words)-1)] {
		if len(words[i]) > 3 {
			words[i] = strings.TrimSuffix(words[i], "s")
		}
	}
	return strings.Join(words, " ")
}

// spellRight reads a name with a letter wrong in one of its words.
func (r *reader) spellRight(l *Line) {
	var unknown *material.UnknownError
	if !errors.As(l.Err, &unknown) || l.Amount.IsZero() || len(r.lib.Meant(l.name)) > 0 {
		return
	}
	words := strings.Fields(l.name)
	for i, w := range words {
		right, ok := r.spotter.Corrected(strings.ToLower(w))
		if !ok {
			continue
		}
		fixed := slices.Clone(words)
		fixed[i] = right
		if _, err := r.lib.Read(strings.Join(fixed, " ")); err == nil {
			r.rename(l, strings.Join(fixed, " "))
			return
		}
	}
}

// remark keeps what was said of a line beside it.
func (l *Line) remark(text string) {
	text = strings.Trim(text, " ,.;:–—-()")
	if text == "" || strings.Contains(l.Note, text) {
		return
	}
	l.Note = within(noteLetters, strings.TrimPrefix(l.Note+", "+text, ", "))
}

// say keeps what follows a line: what it is for, or a remark. first is its first word.
func (l *Line) say(first, text string) {
	if (first == "for" || first == "as" || first == "so") && l.Purpose == "" {
		l.Purpose = within(noteLetters, strings.Trim(text, " ,.;:"))
		return
	}
	l.remark(text)
}

// noneOf keeps a name as what the good does not hold.
func (r *reader) noneOf(n *naming) {
	r.becomes(n.from, n.to, AsNot, nil)
	r.leftOut = n
	ids := r.lib.Meant(n.text)
	if m := r.read(n.text); m != nil {
		ids = []string{m.ID}
	}
	for _, id := range ids {
		if m, err := r.lib.Find(id); err == nil && !slices.Contains(r.good.Not, m) {
			r.good.Not = append(r.good.Not, m)
		}
	}
}

// purposes begin what a line is for.
var purposes = []string{" to cover", " to fill", " to make", " to wet", " to bind", " to dissolve", " to thicken", " for ", " as a ", " as an ", " to help ", " so that ", " until ", " because "}

// cutPurpose parts what a line is for from its name: “lavender for scent”.
func cutPurpose(text string) (name, purpose string) {
	lower := strings.ToLower(text)
	if len(lower) != len(text) {
		return text, ""
	}
	at := len(text)
	for _, p := range purposes {
		if i := strings.Index(lower, p); i > 0 {
			at = min(at, i)
		}
	}
	return text[:at], strings.TrimSpace(text[at:])
}

// leafyMeasures are measures of leaves and twigs.
var leafyMeasures = wordSet("leafyMeasures")
