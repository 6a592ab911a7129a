package listener

import (
	"regexp"
	"slices"
	"strings"
	"unicode"

	"keencrock/core/quantity"
)

// looseEnds finds a place for the words before a mark that are nothing certain.
func (r *reader) looseEnds(a *atom, k int) { r.looseUntil(a, k) }

func (r *reader) looseUntil(a *atom, k int) {
	if a.loose < 0 || a.loose >= k {
		a.loose = -1
		return
	}
	first := a.loose
	k, into := r.looseInto(a, first, k)
	from, to := r.out[a.loose].from, r.out[k-1].to
	a.loose = -1
	a.clause = a.clause || clauseWords[r.toks[from].word]
	l := a.made
	near := l
	if near == nil && r.last != nil && len(r.waiting) == 0 && len(a.names) == 0 {
		near = r.last
	}
	if n := len(a.names); n > 0 && a.amount == nil && (r.toks[from].word == "till" || r.toks[from].word == "until" || from+1 < to && r.toks[from+1].word == "ph") && r.lineOf(r.read(a.names[n-1].text), a.names[n-1].text) == nil { // “water till it's a syrup”, “citric to pH 5.5”
		name := a.names[n-1]
		a.names = a.names[:n-1]
		r.keepWaiting(a)
		open := quantity.OpenAmount(quantity.AsNeeded)
		r.lineMade(a, &amountSaid{Reading: quantity.Reading{Amount: open}, written: open.String(), from: from, to: from}, name)
		l = a.made
	}
	switch {
	case (first > a.lo && r.isLike(first) || r.toks[from].word == "like") && (a.amount == nil || a.amount.Amount.Open() != quantity.NotOpen): // “till it holds like damp sand”
		if a.amount != nil {
			from, a.amount = min(from, a.amount.from), nil
		}
		r.becomes(from, to, AsRemark, near)
	case r.inUnits(from, to):
	case strings.IndexFunc(r.said(from, to), func(c rune) bool { return unicode.IsLetter(c) || unicode.IsDigit(c) }) < 0:
		r.becomesWhereUnread(from, to, AsSmallTalk, l)
	case r.onlyFunction(first, k):
		r.becomesWhereUnread(from, to, AsSmallTalk, l)
		a.prose = a.prose || l == nil && a.amount == nil
	case k == a.hi && r.clearsUpLast(r.said(from, to)):
		r.becomes(from, to, AsMaterial, r.last)
	case near != nil && a.amount == nil && !(r.now.doing && a.prose && l == nil) && r.onlyState(first, k): // “1 bar of soap, grated”
		r.becomesWhereUnread(from, to, AsRemark, near)
		near.remark(r.asSaid(from, to))
	case r.now.doing && l == nil && r.measuredStranger(a, first, k, into):
	case r.now.doing:
		r.becomesWhereUnread(from, to, AsStep, l)
		a.prose = true
	case r.now.using:
		r.becomesWhereUnread(from, to, AsUse, nil)
		a.prose = true
	case l != nil && a.amount != nil && a.amount.to <= from && k == a.hi && r.overWhat(a) && r.strange(first, k): // “pour a litre of boiling water over 2 handfuls of horsetail”
		r.looseMeasured(a, from, to)
	case l != nil:
		r.becomesWhereUnread(from, to, AsRemark, l)
		if r.asMuchAs(l, first, k) {
			r.becomes(from, to, AsAmount, l)
			return
		}
		l.say(r.toks[r.out[first].from].word, r.asSaid(from, to))
	case a.amount != nil && r.shortMachine(a, from, to):
	case a.amount != nil && r.last != nil && r.isBetter(a.amount):
		r.becomesWhereUnread(from, to, AsSmallTalk, nil)
	case a.amount != nil && !ofSeveral[r.toks[to-1].word] && (a.amount.Amount.Open() == quantity.NotOpen || k == a.hi && r.listed(a)) && (into || !r.hasName(k, a.hi)) && !a.perLoad && !a.doses && !a.yields && a.machine == "" && !a.clause && r.strange(first, k):
		r.looseMeasured(a, from, to)
	case a.amount != nil:
		r.becomesWhereUnread(from, to, AsRemark, nil)
	case r.bareName(a, first, k):
		a.names = append(a.names, &naming{from: from, to: to, text: r.said(from, to), in: r.now, joined: r.joined})
	default:
		a.prose = true
		if r.kindNamed(first, k, r.onlyJoins(a.lo, first) && k == a.hi) {
			return
		}
		as := AsLeftOut
		if r.hasName(first, k) { // “for scent …”: what it is for
			as = AsRemark
		}
		r.becomesWhereUnread(from, to, as, nil)
	}
}

// looseInto is where words that nothing is known of end, which stand from a mark up to another, and whether what was
// measured of them goes into what is measured next.
func (r *reader) looseInto(a *atom, first, k int) (end int, into bool) {
	if j := k - 2; a.amount != nil && k < a.hi && r.out[k].kind == aName && j > first && r.toks[r.out[k-1].from].word == "the" && intoWords[r.toks[r.out[j].from].word] && r.out[j].to == r.out[k-1].from && r.strange(first, j) { // “2 tbsp moon dust with the oil”
		r.becomesWhereUnread(r.out[j].from, r.out[k-1].to, AsSmallTalk, nil)
		return j, true
	}
	if a.amount == nil || k >= a.hi || r.out[k].kind != anAmount {
		return k, false
	}
	last := k - 1
	if last > first && intoWords[r.toks[r.out[last].from].word] && !r.out[k].article && r.strange(first, last) && !goodItself(r.said(r.out[first].from, r.out[last-1].to)) { // “100 g of flaxseed in a litre of water”
		r.becomesWhereUnread(r.out[last].from, r.out[last].to, AsSmallTalk, nil)
		return last, true
	}
	return k, r.toks[r.out[k].from].word == "to" && r.strange(first, k) && !goodItself(r.said(r.out[first].from, r.out[k-1].to)) // “… to a litre of water”
}

// overWhat reports whether what was measured last is what something is poured over.
func (r *reader) overWhat(a *atom) bool {
	return a.amount.from > 0 && r.toks[a.amount.from-1].word == "over" && a.amount.Amount.Open() == quantity.NotOpen
}

// countedStrange reports whether something strange is counted that goes in, up to a mark: “crush 10 eggshells”.
func (r *reader) countedStrange(said *amountSaid, k int) bool {
	last := r.toks[r.out[k-1].to-1].word
	return said.Amount.Unit() == quantity.Bare && said.Amount.Open() == quantity.NotOpen && !said.article && strings.HasSuffix(last, "s") && !noThings[last] && said.from > 0 && breaksUp[r.toks[said.from-1].word]
}

// breaksUp are what is done with whole things before they go in, and noThings words that count none.
var breaksUp, noThings = wordSet("breaksUp"), wordSet("noThings")

// timeWords stand before when something is done.
var timeWords = wordSet("timeWords")

// strangeGoesIn reports whether what stands behind something strange that was measured says how it goes in, or into what:
// “… stirred in”, “… with the oil”, “… in a bowl”.
func (r *reader) strangeGoesIn(k, hi int) bool {
	m := &r.out[k]
	if u, unit := quantity.UnitNamed(r.toks[m.from].word); m.kind != aPhrase || m.is(per|dosing|machine|yield|each|correct|none|thing) || unit && isVessel(u) {
		return false
	}
	return !r.hasName(k, hi) || intoWords[r.toks[m.from].word]
}

// goodItself reports whether words are of the good that is made, “the powder”: “mustard powder” goes in.
func goodItself(text string) bool {
	words := strings.Fields(strings.ToLower(text))
	for len(words) > 1 && (articles[words[0]] || ownWords[words[0]]) {
		words = words[1:]
	}
	return len(words) == 1 && goodsThemselves[words[0]]
}

// looseMeasured makes a line of what was measured of words that nothing is known of.
func (r *reader) looseMeasured(a *atom, from, to int) {
	n := &naming{from: from, to: to, text: r.said(from, to), in: r.now}
	said := a.amount
	a.amount = nil
	if r.onesOf(n, said) {
		return
	}
	if drawnAs[n.text] && isVolume(said.Amount) { // “then a litre of cold”
		n.text += " water"
	}
	if goodsThemselves[strings.ToLower(n.text)] && r.ofWhatWasMade(a, said) { // “40 jars of powder”, “wash with 45 g powder”
		r.becomesWhereUnread(from, to, AsYield, nil)
		return
	}
	r.lineMade(a, said, n)
}

// intoWords stand before what something goes into.
var intoWords = wordSet("intoWords")

// measuredStranger reads something that is not known and is weighed or measured amid what
// is done, “add 50 g moon dust”, “moon dust 50 g, melt it”: it goes in, so it is asked about.
func (r *reader) measuredStranger(a *atom, first, k int, into bool) bool {
	end := k
	for a.amount != nil && k > first+1 && r.out[k-1].kind == aPhrase && r.out[k-1].to == r.out[k-1].from+1 && (articles[r.toks[r.out[k-1].from].word] || intoWords[r.toks[r.out[k-1].from].word]) { // “stir 2 tbsp poppy seeds in”, “mix 2 tbsp moon dust with the oil”
		k--
	}
	into = into || k < end && intoWords[r.toks[r.out[k].from].word]
	for i := first + 1; i < k && a.amount != nil; i++ { // “2 tbsp moon dust before pouring”
		if timeWords[r.toks[r.out[i].from].word] && r.out[i].to == r.out[i].from+1 {
			k, into = i, true
		}
	}
	if !r.strange(first, k) {
		return false
	}
	for i := first; i < k; i++ {
		if m := &r.out[i]; m.kind != aWord || r.toks[m.from].kind != isWord || doings[r.toks[m.from].word] || isState(r.toks[m.from].word, nil) && (a.amount == nil || i == k-1) {
			return false
		}
	}
	from, to := r.out[first].from, r.out[k-1].to
	n := &naming{from: from, to: to, text: r.said(from, to), in: r.now}
	if said := a.amount; said != nil {
		if end < a.hi && !into && !r.strangeGoesIn(end, a.hi) || !inMeasures(said.Amount) && !r.countedStrange(said, k) || a.perLoad || a.doses || a.machine != "" {
			return false
		}
		a.amount = nil
		if r.onesOf(n, said) {
			return true
		}
		if goodsThemselves[strings.ToLower(n.text)] && r.ofWhatWasMade(a, said) { // “then wash with 45 g powder”
			r.becomesWhereUnread(from, to, AsUse, nil)
			return true
		}
		r.becomesWhereUnread(to, r.out[end-1].to, AsStep, nil)
		r.lineMade(a, said, n)
		return true
	}
	if k >= a.hi || k-first > mostTail || r.out[k].kind != anAmount || !inMeasures(r.out[k].amount.Amount) || r.nameNext(a, k) || !r.onlyJoins(a.lo, first) {
		return false
	}
	a.names = append(a.names, n)
	return true
}

// onesOf reads “pour into tins, two 125 ml ones”: how much comes out, by what it is filled into.
func (r *reader) onesOf(n *naming, said *amountSaid) bool {
	if n.text != "ones" && n.text != "one" || !holds(said.Amount) || !r.inVesselsBefore(said.from) {
		return false
	}
	r.yields(said)
	r.becomes(n.from, n.to, AsYield, nil)
	return true
}

// inVesselsBefore reports whether what a good is filled into stands in the words right before a token.
func (r *reader) inVesselsBefore(tok int) bool {
	for i := max(0, tok-4); i < tok; i++ {
		if u, ok := quantity.UnitNamed(r.toks[i].word); ok && isVessel(u) || shapesGood[r.toks[i].word] {
			return true
		}
	}
	return false
}

// ofWhatWasMade takes so much of “powder” or its kin for how much comes out, where nothing was said that
// goes in, and for a dose behind it; false where it is neither.
func (r *reader) ofWhatWasMade(a *atom, said *amountSaid) bool {
	switch terms := said.Amount.Terms(); {
	case len(r.good.lines) == 0 && isVessel(said.Amount.Unit()) && len(terms) == 1 && terms[0].Low.Float() > 1:
		r.yields(said)
	case len(r.good.lines) > 1 && inMeasures(said.Amount) && !r.measuresOn(a) && r.dosed(a, said, a.hi):
	default:
		return false
	}
	return true
}

// handles are words for what is done with what was made, which name nothing.
var handles = wordSet("handles")

// ofSeveral are words for several of the lines at once: “oils and lye both at 45 C”.
var ofSeveral = wordSet("ofSeveral")

// inMeasures reports whether an amount is weighed or measured, and not a number of things.
func inMeasures(a quantity.Amount) bool {
	k := a.Kind()
	return a.Open() == quantity.NotOpen && (k == quantity.Mass || k == quantity.Volume && !isVessel(a.Unit()))
}

// shortMachine reads “…, 1 tbsp front” after what a top loader takes.
func (r *reader) shortMachine(a *atom, from, to int) bool {
	n := len(r.good.Doses)
	if n == 0 || r.good.Doses[n-1].For == "" || r.doseIn != r.now || to != from+1 || !r.isDose(a.amount) {
		return false
	}
	switch word := r.toks[from].word; word {
	case "front", "top":
		a.machine = word + "-loader"
	default:
		return false
	}
	r.becomes(from, to, AsUse, nil)
	return r.dosed(a, a.amount, a.hi)
}

// inUnits reads “all in cups”: the unit of the lines that have a mere number.
func (r *reader) inUnits(from, to int) bool {
	if text := strings.ToLower(r.said(from, to)); text == "by volume" || text == "by weight" || text == "in parts" { // “borax 3, soda 3, soap 2, by volume”
		return r.numbersInParts(from, to)
	}
	if u, ok := quantity.UnitNamed(r.toks[to-1].word); ok && isVessel(u) && to == from+1 { // “Heat. Tin.”
		return false
	}
	if to-from > 4 || r.toks[to-1].kind != isWord || to-from > 1 && r.toks[to-2].word != "in" && r.toks[to-2].word != "all" && r.toks[to-2].word != "by" {
		return false
	}
	one, err := quantity.Parse("1 " + r.toks[to-1].word)
	if err != nil {
		return false
	}
	given := false
	for _, l := range r.good.lines {
		u := l.Amount.Unit()
		spoons := u == quantity.Spoon && (one.Unit() == quantity.Tablespoon || one.Unit() == quantity.Teaspoon || one.Unit() == quantity.Dessertspoon)
		if m := r.read(l.Material); u != quantity.Bare && !spoons || l.Amount.Open() != quantity.NotOpen || m != nil && m.Piece.Known() && !spoons {
			continue
		}
		if with, ok := l.Amount.InUnitOf(one); ok {
			l.Amount, l.Written, given = with, with.String(), true
			r.amount = with
		}
	}
	if given {
		r.becomes(from, to, AsAmount, nil)
	}
	return given
}

// numbersInParts makes parts of lines that are all mere numbers.
func (r *reader) numbersInParts(from, to int) bool {
	if len(r.good.lines) < 2 || slices.ContainsFunc(r.good.lines, func(l *Line) bool {
		return l.Amount.Unit() != quantity.Bare || l.Amount.Open() != quantity.NotOpen || l.Amount.IsZero()
	}) {
		return false
	}
	for _, l := range r.good.lines {
		if with, ok := l.Amount.InUnitOf(quantity.Of(1, 1, quantity.Part)); ok {
			l.Amount, l.Written = with, with.String()
		}
	}
	r.becomes(from, to, AsAmount, nil)
	return true
}

// asMuchAs reads the end of “as much vodka as vinegar”: the amount is that of the other.
func (r *reader) asMuchAs(l *Line, from, to int) bool {
	if to-from != 2 || r.toks[r.out[from].from].word != "as" || r.out[from+1].kind != aName {
		return false
	}
	text := r.said(r.out[from+1].from, r.out[from+1].to)
	other := r.lineOf(r.read(text), text)
	if other == nil || other == l {
		return false
	}
	amount := other.Amount
	for k := from - 1; k >= 0 && k > from-4 && r.out[k].kind != aComma; k-- {
		if m := &r.out[k]; m.is(factored) { // “twice as much water as lye”
			of, fits := amount.Times(m.meaning.num, m.meaning.den)
			if !fits {
				return false
			}
			amount = of
		}
	}
	l.Amount, l.Written = amount, amount.String()
	return true
}

// kindNamed takes “for my dishwasher tabs I use …” for the name of the good, and “…, kitchen
// spray” where it stands alone.
func (r *reader) kindNamed(lo, hi int, alone bool) bool {
	k, name, ok := r.kindIn(lo, hi)
	if !ok || len(r.good.lines) > 0 && !(alone && r.out[hi-1].to-r.out[lo].from <= 3) || r.good.Name != "" {
		return false
	}
	if alone { // “…. Mould spray.”
		name = r.wholeName(lo, hi, name)
	}
	r.good.Kind, r.good.Name = k, sentenceCase(strings.TrimPrefix(strings.TrimPrefix(name, "for "), "the "))
	r.becomesWhereUnread(r.out[lo].from, r.out[hi-1].to, AsName, nil)
	return true
}

// wholeName is a name with the words before it that belong to it: “mould spray”, which is no spray alone.
func (r *reader) wholeName(lo, hi int, name string) string {
	if !strings.HasSuffix(strings.ToLower(r.said(r.out[lo].from, r.out[hi-1].to)), strings.ToLower(name)) {
		return name
	}
	from := hi - 1
	for from > 0 && hi-from < 3 && r.out[from-1].to == r.out[from].from && (r.out[from-1].kind == aWord && r.toks[r.out[from-1].from].kind == isWord || r.out[from-1].is(thing|place)) && !r.out[from-1].is(small|joiner) && r.out[from-1].to == r.out[from-1].from+1 {
		from--
	}
	if from >= lo {
		return r.said(r.out[from].from, r.out[hi-1].to)
	}
	r.becomes(r.out[from].from, r.out[lo].from, AsName, nil)
	return r.said(r.out[from].from, r.out[hi-1].to)
}

// onlyFunction reports whether words hold others together and say nothing themselves.
func (r *reader) onlyFunction(from, to int) bool {
	for k := from; k < to; k++ {
		if m := &r.out[k]; !m.is(function|small) && !(m.kind == anAmount && m.article) {
			return false
		}
	}
	return to-from <= 2
}

// onlyState reports whether words say no more than the state of something.
func (r *reader) onlyState(from, to int) bool {
	states := 0
	for k := from; k < to; k++ {
		m := &r.out[k]
		switch {
		case m.kind == aWord && (isState(r.toks[m.from].word, nil) || strings.HasSuffix(r.toks[m.from].word, "ed")), m.is(step) && m.to == m.from+1 && isState(r.toks[m.from].word, nil):
			states++
		case m.is(joiner | small):
		default:
			return false
		}
	}
	return states > 0
}

// clauseWords begin a clause of their own.
var clauseWords = wordSet("clauseWords")

// strange reports whether words may be the name of a material that is not known: they
// begin as no remark does.
func (r *reader) strange(from, to int) bool {
	if r.hasAny(from, to, thing|place|machine) { // “a little cotton bag”
		return false
	}
	return to-from <= 4 && r.out[from].kind == aWord && r.toks[r.out[from].from].kind == isWord
}

// bareName reports whether strange words by themselves stand in a list of what goes in:
// “vinegar, moon dust, 2 cups of water”.
func (r *reader) bareName(a *atom, from, to int) bool {
	if w := r.toks[r.out[from].from].word; w == "any" || strings.HasSuffix(w, "'ll") || len(r.good.lines) > 1 && (ofSeveral[w] || washes[w] || treated[w]) && to == from+1 || !r.onlyJoins(a.lo, from) || to != a.hi && r.out[to].kind != aColon && r.out[to].kind != aDash && r.out[to].kind != anAmount || to-from > 3 {
		return false
	}
	for k := from; k < to; k++ {
		if r.out[k].kind != aWord || r.toks[r.out[k].from].kind != isWord || doings[r.toks[r.out[k].from].word] || handles[r.toks[r.out[k].from].word] {
			return false
		}
	}
	if to-from == 2 && strings.HasSuffix(r.toks[r.out[from].from].word, "ly") && closedSo.MatchString(r.toks[r.out[from+1].from].word) { // “loosely capped”
		return false
	}
	if to < a.hi && r.out[to].kind == anAmount && r.out[to].amount.Amount.Open() != quantity.NotOpen { // “curdles a bit”
		return false
	}
	if to < a.hi { // “moon dust: 1 cup”, “moon dust 1 cup”
		return r.out[to].kind != anAmount || !r.nameNext(a, to)
	}
	return (len(r.good.lines) > 0 || len(r.waiting) > 0 || r.hasAmount(a.hi, min(a.hi+4, len(r.out)))) && r.listed(a)
}

// closedSo is what was done to something, behind a word for how.
var closedSo = regexp.MustCompile(`(?:ed|en|shut|cut|split|set|on|off)$`)

// onlyJoins reports whether marks do no more than join an atom to the one before.
func (r *reader) onlyJoins(lo, hi int) bool {
	for k := lo; k < hi; k++ {
		if m := &r.out[k]; !m.is(joiner|optional) && m.kind != aDash && m.kind != aBullet {
			return false
		}
	}
	return true
}

// listed reports whether an atom stands in a list: another comma, or an end of a line, on
// both sides of it.
func (r *reader) listed(a *atom) bool {
	before := a.lo == 0 || r.out[a.lo-1].kind == aComma || r.out[a.lo-1].kind == aColon || r.out[a.lo-1].kind == aStop || r.out[a.lo-1].kind == aBullet || r.out[a.lo-1].is(joiner)
	after := a.hi == len(r.out) || r.out[a.hi].kind == aComma || r.out[a.hi].kind == aStop || r.out[a.hi].is(joiner)
	return before && after && !r.now.doing && !r.now.using
}
