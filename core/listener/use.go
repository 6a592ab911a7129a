package listener

import (
	"slices"
	"strings"

	"keencrock/core/formula"
	"keencrock/core/quantity"
)

// isDose reports whether an amount is one that is used at once.
func (r *reader) isDose(said *amountSaid) bool {
	k := said.Amount.Kind()
	return said.Amount.Open() == quantity.NotOpen && (k == quantity.Volume || k == quantity.Mass || k == quantity.Count) && !said.article
}

// coolestWash is from which number on “wash at 30” is of degrees. Common practice.
const coolestWash = 15

// cooksIn are vessels that a good is cooked in, and comes out of by its amount.
var cooksIn = wordSet("cooksIn")

// dosed keeps an amount as a dose; false where it is none.
func (r *reader) dosed(a *atom, said *amountSaid, k int) bool {
	if said.Amount.Unit() == quantity.Bare && said.to < len(r.toks) && r.toks[said.to].word == "times" { // “use it four times”
		return false
	}
	if n, bare := said.Amount.Pieces(); bare && said.Amount.Unit() == quantity.Bare && n.Value >= coolestWash && said.from > 0 && r.toks[said.from-1].word == "at" { // “wash at 40”
		r.becomes(said.from, said.to, AsUse, nil)
		return true
	}
	if len(r.good.lines) > 1 && r.ofAllEqual(said) { // “equal quantities of …, I use a third of a cup of each”
		a.amount = nil
		return true
	}
	if !r.isDose(said) || k < a.hi && r.nameNext(a, k) && !r.isWater(a, k) && !r.isGood(a, k) {
		return false
	}
	if terms := said.Amount.Terms(); said.Amount.Unit() == quantity.Scoop && holds(said.Also) && len(terms) == 1 { // “1 scoop (30 ml) a load”
		said.Amount = said.Also
		if n := int64(terms[0].High.Float()); strings.Contains(strings.ToLower(r.said(said.from, said.to)), " each") && n > 1 { // “2 scoops (30 ml each)”
			if all, ok := said.Also.Times(n, 1); ok {
				said.Amount = all
			}
		}
	}
	if said.Amount.Unit() == quantity.Bare && !r.dose.IsZero() {
		if with, ok := said.Amount.InUnitOf(r.dose); ok {
			said.Amount, said.written = with, with.String()
		}
	}
	if k < a.hi && r.nameNext(a, k) && r.isWater(a, k) && len(r.good.Doses) > 0 { // “in a bucket of water”
		d := &r.good.Doses[len(r.good.Doses)-1]
		if d.Water.IsZero() {
			d.Water = said.Amount
			at := r.nameIndex(a, k)
			r.becomes(said.from, r.out[at].to, AsUse, nil)
			r.out[at].kind = aComma
			return true
		}
	}
	for i := range r.good.Doses {
		if r.good.Doses[i].For == "" && a.machine == "" && r.doseIn == r.now { // “one scoop, two scoops when it's heavily soiled”
			end := r.out[a.hi-1].to
			if end > said.to && !strings.HasPrefix(r.toks[said.to].word, "degree") {
				r.good.Notes = append(r.good.Notes, sentenceCase(r.asSaid(said.from, end))+".")
				r.becomesWhereUnread(said.to, end, AsUse, nil)
			} else if from := r.out[a.lo].from; end == said.to && from < said.from && r.fates[r.origin[said.from-1]].became != AsUse { // “with the quick programme half a scoop”
				r.good.Notes = append(r.good.Notes, sentenceCase(r.asSaid(from, end))+".")
				r.becomes(from, said.from, AsUse, nil)
			}
			r.becomes(said.from, said.to, AsUse, nil)
			a.amount = nil
			return true
		}
		if r.good.Doses[i].For == a.machine && a.machine != "" {
			r.good.Doses[i].Amount = said.Amount
			r.becomes(said.from, said.to, AsUse, nil)
			return true
		}
	}
	r.good.Doses = append(r.good.Doses, formula.Dose{For: a.machine, Amount: said.Amount})
	r.becomes(said.from, said.to, AsUse, nil)
	r.dose, r.doseIn = said.Amount, r.now
	a.amount = nil
	if a.machine != "" {
		a.machine = ""
		a.perLoad = true
	}
	return true
}

// isWater reports whether the name an amount is of is water.
func (r *reader) isWater(a *atom, k int) bool {
	m := &r.out[r.nameIndex(a, k)]
	w := r.read(r.said(m.from, m.to))
	return w != nil && w.ID == "water"
}

// isGood reports whether the name an amount is of is what is being made.
func (r *reader) isGood(a *atom, k int) bool {
	m := &r.out[r.nameIndex(a, k)]
	_, n := r.lex.at(r.toks, m.from)
	return n > 0 && r.toks[m.from].word != "" && r.lexIs(m.from, kind) && len(r.good.lines) > 0
}

func (r *reader) lexIs(tok int, role roles) bool {
	m, _ := r.lex.at(r.toks, tok)
	return m.is(role)
}

// doseOfLine takes an amount that was said just before “a load” for the dose it is.
func (r *reader) doseOfLine(a *atom) {
	if a.amount == nil {
		if l := a.made; l != nil && l.Err != nil && goodsThemselves[strings.ToLower(l.name)] { // “two scoops of powder in the drum”
			r.takeAway(l)
			a.made = nil
			r.good.Doses = append(r.good.Doses, formula.Dose{Amount: l.Amount})
			for i := range r.fates {
				if r.fates[i].line == l {
					r.fates[i].became, r.fates[i].line = AsUse, nil
				}
			}
			return
		}
		if a.made != nil && len(r.good.lines) == 1 && len(r.good.Doses) == 0 && a.made.Amount.Open() == quantity.NotOpen { // “percarbonate 50 g per wash”
			r.good.Doses = append(r.good.Doses, formula.Dose{Amount: a.made.Amount})
		}
		return
	}
	said := a.amount
	if r.dosed(a, said, a.hi) {
		a.amount = nil
	}
}

// goodsThemselves are words for what was made, which nothing is made of.
var goodsThemselves = wordSet("goodsThemselves")

// measuresOn reports whether so much of something else follows in the sentence, “take a cup of the mixture and
// stir in 10 drops of …”: then what was made is worked on, and not used.
func (r *reader) measuresOn(a *atom) bool {
	for k := a.hi; k < len(r.out) && r.out[k].from < r.now.to; k++ {
		if m := &r.out[k]; m.kind == anAmount && !m.article && r.nameNextAt(k) {
			return true
		}
	}
	return false
}

// ofGoodItself reports whether an amount is of what was made: “a tablespoon of the concentrate”,
// “one scoop of my powder”.
func (r *reader) ofGoodItself(said *amountSaid) bool {
	at := said.to
	if at < len(r.toks) && (articles[r.toks[at].word] || r.toks[at].word == "my" || r.toks[at].word == "your" || r.toks[at].word == "this") {
		at++
	}
	if at >= len(r.toks) || at < 2 || r.toks[at-1].kind != isWord || r.toks[at-1].word == "of" || !goodsThemselves[r.toks[at].word] {
		return false
	}
	return r.toks[at-2].word == "of" && (at+1 == len(r.toks) || !r.startsNameAt(at+1))
}

// waterOf takes “per bucket” for the water that a dose goes into.
func (r *reader) waterOf(m *mark) {
	n := len(r.good.Doses)
	if n == 0 || r.doseIn != r.now || !r.good.Doses[n-1].Water.IsZero() {
		return
	}
	if u, ok := quantity.UnitNamed(r.toks[m.to-1].word); ok && (u == quantity.Bucket || u == quantity.Bowl || u == quantity.Sink || u == quantity.Basin) {
		r.good.Doses[n-1].Water = quantity.Of(1, 1, u)
	}
}

// diluted keeps how a good is thinned before it is used, which is said in shares: “dilute
// one to one with water”; false where an atom says no such thing.
func (r *reader) diluted(lo, hi int) bool {
	from := -1
	for k := lo; k < hi && from < 0; k++ {
		if thins[r.toks[r.out[k].from].word] {
			from = k
			break
		}
		switch r.toks[r.out[k].from].word {
		case "goes", "go":
			if k > lo && k+1 < hi && r.toks[r.out[k].from-1].word == "it" && r.saysShares(&r.out[k+1]) && r.measuredInAll() { // “then it goes half and half with water”
				from = k
			}
		case "mix", "mixed", "cut", "use", "used":
			if r.speaksOfIt(k) || r.toUse(k, hi) || k+1 < hi && r.saysShares(&r.out[k+1]) && r.strained(k) || k+1 < hi && r.saysShares(&r.out[k+1]) && r.measuredInAll() {
				from = k
			}
		}
	}
	if first := r.afterTalk(lo, hi); from < 0 && first < hi && r.out[first].kind == aRatio && r.hasName(first, hi) && len(r.good.lines) > 0 && r.measuredInAll() { // “…, then half and half with water”
		from = first
	}
	if from < 0 || len(r.good.lines) == 0 && len(r.waiting) == 0 && !thins[r.toks[r.out[from].from].word] {
		return false
	}
	shares := false
	for k := from; k < hi; k++ {
		switch m := &r.out[k]; {
		case m.is(same), r.saysShares(m):
			shares = true
		case m.kind == anAmount && !m.article && !isVessel(m.amount.Amount.Unit()) && !(shares && isVolume(m.amount.Amount) && m.from > 1 && (r.toks[m.from-1].word == "in" || articles[r.toks[m.from-1].word] && r.toks[m.from-2].word == "in")): // “1:1 with water in a 500 ml sprayer”
			return false
		case m.kind == aName:
			if w := r.read(r.said(m.from, m.to)); w == nil || w.ID != "water" {
				return false
			}
		}
	}
	if !shares {
		return false
	}
	for next := hi + 1; next+2 < len(r.out) && r.out[next-1].kind == aComma && r.saysShares(&r.out[next]) && r.toks[r.out[next+1].from].word == "for"; next++ { // “dilute 1:10 for floors, 1:20 for plants”
		for next < len(r.out) && r.out[next].kind != aComma && r.out[next].kind != aStop && r.out[next].kind != aName {
			next++
		}
		hi = next
		if next == len(r.out) || r.out[next].kind != aComma {
			break
		}
	}
	first, end := r.out[from].from, r.out[hi-1].to
	r.now.begins = false
	r.now.using = r.now.using || len(r.good.lines) == 0 && len(r.waiting) == 0
	r.becomes(first, end, AsUse, nil)
	r.becomesWhereUnread(r.out[lo].from, end, AsSmallTalk, nil)
	r.note(first, end)
	return true
}

// thins are words for making what is there thinner.
var thins = wordSet("thins")

// strained reports whether what was covered and stood was strained before a mark: what is mixed then
// is used.
func (r *reader) strained(k int) bool {
	covered := slices.ContainsFunc(r.good.lines, func(l *Line) bool { return l.Amount.Open() == quantity.ToCover || l.Amount.Open() == quantity.ToFill })
	if !covered {
		return false
	}
	for i := r.now.from; i < r.out[k].from; i++ {
		if w := r.toks[i].word; w == "strain" || w == "strained" || w == "filter" || w == "sieve" {
			return true
		}
	}
	return false
}

// toUse reports whether what is mixed is mixed each time it is used: “mix with the same amount of water
// when you use it”.
func (r *reader) toUse(k, hi int) bool {
	said := strings.ToLower(r.said(r.out[k].from, r.out[hi-1].to))
	for _, when := range [...]string{" when you use", " when using", " to use", " before use", " before using", " each time", " every time"} {
		if strings.Contains(said, when) {
			return true
		}
	}
	return false
}

// afterTalk is the first mark between two that is no small talk and joins nothing.
func (r *reader) afterTalk(lo, hi int) int {
	for lo < hi && r.out[lo].is(small|joiner) {
		lo++
	}
	return lo
}

// saysShares reports whether a mark says shares: “1:4”, “half and half”, “one to four”.
func (r *reader) saysShares(m *mark) bool {
	if m.kind != anAmount {
		return m.kind == aRatio
	}
	u := m.amount.Amount.Unit()
	return u == quantity.Part || u == quantity.Bare && strings.Contains(r.said(m.from, m.to), " to ")
}

// speaksOfIt reports whether “it” or its kin stands right after a word for what is done.
func (r *reader) speaksOfIt(k int) bool {
	for i := r.out[k].from; i < min(r.out[k].from+3, len(r.toks)); i++ {
		if w := r.toks[i].word; w == "it" || w == "this" || w == "that" {
			return true
		}
	}
	return false
}

// measuredInAll reports whether all lines have measures: shares said after them are of the
// whole.
func (r *reader) measuredInAll() bool {
	for _, l := range r.good.lines {
		switch u := l.Amount.Unit(); {
		case u == quantity.Part, l.Amount.IsZero():
			return false
		case u == quantity.Bare && l.Amount.Open() == quantity.NotOpen: // four oranges are a measure
			if m := r.read(l.Material); m == nil || !m.Piece.Known() {
				return false
			}
		}
	}
	return len(r.good.lines) > 0
}

// machineSaid keeps the machine for the amount that follows, or that stands before.
func (r *reader) machineSaid(a *atom, m *mark) {
	if n := len(r.good.Doses); n > 0 && a.perLoad && r.good.Doses[n-1].For == "" && a.amount == nil {
		r.good.Doses[n-1].For = m.meaning.machine
		return
	}
	a.machine = m.meaning.machine
	if a.amount != nil {
		said := a.amount
		a.amount = nil
		r.dosed(a, said, a.hi)
	}
}

// saysDose reports whether an amount without a name stands beside a machine.
func (r *reader) saysDose(a *atom, k int) bool {
	if a.amount != nil || a.perLoad || a.doses || k+1 < a.hi && r.out[k+1].is(factored) && r.doseIn == r.now && !r.dose.IsZero() {
		return true
	}
	for i := k + 1; i < a.hi; i++ {
		if m := &r.out[i]; m.kind == anAmount && !m.article {
			return !r.nameNext(a, i)
		}
	}
	return false
}

// wanted reports whether an amount is how much of all of it is to be made: “make me five kilos”.
func (r *reader) wanted(said *amountSaid) bool {
	if !isWhole(said.Amount) || said.from < 2 {
		return false
	}
	from := said.from
	for from > 0 && (quantity.IsAbout(r.toks[from-1].word) || r.toks[from-1].word == "make" || r.toks[from-1].word == "to") {
		from--
	}
	return from > 1 && wantsWhole[r.toks[from-2].word+" "+r.toks[from-1].word]
}

// popped reports whether an amount is how many are dropped in at a time: “drop one in”, “pop two
// down the pan”.
func (r *reader) popped(said *amountSaid) bool {
	if said.Amount.Unit() != quantity.Bare || said.Amount.Open() != quantity.NotOpen || said.from == 0 || said.to >= len(r.toks) || !popsIn[r.toks[said.from-1].word] {
		return false
	}
	return intoPlace[r.toks[said.to].word]
}

// popsIn are words for what is done with a piece of what was made; wantsWhole are those before
// how much of all of it is wanted.
var (
	popsIn     = wordSet("popsIn")
	wantsWhole = wordSet("wantsWhole")
)

// keptSo end a phrase that says by itself how a good is kept: “store it airtight”.
var keptSo = wordSet("keptSo")

// saysKeeping reports whether a phrase says how long the good keeps, “keeps two weeks”,
// “lasts for ages”, and no more than that.
func (r *reader) saysKeeping(a *atom, k int) bool {
	if k+1 >= a.hi && !keptSo[r.toks[r.out[k].to-1].word] {
		return false
	}
	if len(r.good.lines) == 0 || r.now.doing || a.amount != nil || r.nextCore(a, k+1) < a.hi || r.hasAny(k+1, a.hi, uses|pieces) {
		return false
	}
	if slices.ContainsFunc(r.out[k:a.hi], func(m mark) bool { return m.kind == aFact }) { // “it keeps till 2030” is the day of a delivery
		return false
	}
	return r.onlyJoins(a.lo, k) || r.toks[r.out[a.lo].from].word == "it"
}

// noteEnd keeps the rest of an atom, from a token on, with the good as it was said.
func (r *reader) noteEnd(a *atom, from int) {
	to := r.out[a.hi-1].to
	for i := from; i < to; i++ {
		r.fates[r.origin[i]] = fate{AsRemark, r.good, nil}
	}
	r.note(from, to)
}

// counted reads an atom that says no more than how many come out of it, or how many times
// it is used: “12 bombs”, “about 25 washes at 2 tablespoons each”.
func (r *reader) counted(a *atom) bool {
	k := a.lo
	for k < a.hi && r.out[k].is(small|joiner) {
		k++
	}
	if k >= a.hi || r.out[k].kind != anAmount || r.out[k].article || len(r.good.lines) == 0 || len(r.waiting) > 0 || r.nextCore(a, k+1) < a.hi && r.out[k+1].kind == aName {
		return false
	}
	said := r.out[k].amount.Amount
	what := min(k+1, a.hi-1)
	inPieces := (said.Unit() == quantity.Tab || said.Unit() == quantity.Piece && len(r.good.lines) > 1 && a.lo == k && r.out[k].from == r.now.from) && k+1 == a.hi
	if said.Open() != quantity.NotOpen || !inPieces && (said.Unit() != quantity.Bare || what == k || !r.out[what].is(pieces|uses)) {
		return false
	}
	dose := -1
	for i := what + 1; i < a.hi; i++ {
		switch m := &r.out[i]; {
		case m.kind == anAmount && !m.article && dose < 0:
			dose = i
		case m.is(small | each | total), r.toks[m.from].word == "at", r.toks[m.from].word == "of", r.toks[m.from].word == "with":
		default:
			return false
		}
	}
	if dose >= 0 && !r.out[what].isUses() {
		return false
	}
	end := r.yieldAt(&atom{lo: a.lo, hi: what + 1}, k)
	r.becomesWhereUnread(r.out[a.lo].from, r.out[end-1].to, AsYield, nil)
	if dose < 0 {
		return true
	}
	if d := r.amountSaid(&r.out[dose]); r.isDose(d) {
		r.dosed(a, d, a.hi)
	}
	r.becomesWhereUnread(r.out[what].to, r.out[a.hi-1].to, AsUse, nil)
	return true
}

// saysYield reports whether what follows is how much comes out: a number of pieces or of
// loads, a vessel, or an amount of no material.
func (r *reader) saysYield(a *atom, k int) bool {
	for ; k < a.hi && (r.out[k].is(small|choice) || r.out[k].kind == anAmount && r.out[k].article); k++ {
	}
	if k >= a.hi || r.out[k].kind != anAmount && r.out[k].kind != aWait {
		return false
	}
	m := &r.out[k]
	if m.amount.Amount.Unit() == quantity.Spritz || r.toks[m.from].word == "one" && m.from > 0 && r.out[k-1].kind == aWord { // “this makes a strong one: …”
		return false
	}
	first := r.toks[r.out[k-1].from].word
	if m.kind == aWait {
		return r.out[k-1].is(yield) && slices.ContainsFunc(r.toks[r.out[k-1].from:r.out[k-1].to], func(t token) bool { return lastsFor[t.word] })
	}
	if first == "for" && k+1 < len(r.out) && r.out[k+1].kind == aColon && len(r.good.lines) == 0 { // “for 5 litres: …”
		return true
	}
	if (first == "that's" || first == "thats") && isWhole(m.amount.Amount) && len(r.good.lines) > 1 && r.toks[m.to-1].word == "of" && k+1 < len(r.out) && (r.out[k+1].is(kind) || goodWords[r.toks[r.out[k+1].to-1].word]) { // “that's a litre of rinse aid”
		return true
	}
	if first == "for" || first == "does" || first == "to" || first == "that's" || first == "thats" { // only of what can come out of it
		if first != "for" && first != "does" && first != "to" && k+1 == a.hi && m.amount.Amount.Unit() == quantity.Bare && len(r.good.lines) > 1 && r.good.Kind.Info().Wetted { // “and that's about 18”
			return true
		}
		return k+1 < a.hi && (r.out[k+1].is(pieces|uses) || r.out[k+1].is(machine) && k+2 < a.hi && r.out[k+2].is(uses)) || m.amount.Amount.Unit() == quantity.Tab
	}
	return !r.nameNext(a, k) || k+1 < a.hi && r.out[k+1].is(pieces|uses|kind)
}

// lastsFor stand before how long a good is enough for.
var lastsFor = wordSet("lastsFor")

// yieldAt reads how much comes out, from mark k on.
func (r *reader) yieldAt(a *atom, k int) int {
	for ; k < a.hi && (r.out[k].kind != anAmount || r.out[k].article && k+1 < a.hi && r.out[k+1].kind == anAmount) && r.out[k].kind != aWait; k++ { // “a 500 g shaker”
		r.becomes(r.out[k].from, r.out[k].to, AsYield, nil)
	}
	if k >= a.hi {
		return k
	}
	m := &r.out[k]
	said := r.amountSaid(m)
	r.becomes(m.from, m.to, AsYield, nil)
	next := k + 1
	var unit *mark
	for next < a.hi && (r.out[next].is(pieces|uses|kind|small|thing) || r.out[next].is(machine) && next+1 < a.hi && r.out[next+1].is(uses) || r.out[next].kind == aWord || r.out[next].kind == aName && r.nothingAfter(a, next)) {
		if r.out[next].is(pieces | uses) {
			unit = &r.out[next]
		}
		if r.out[next].is(joiner) {
			break
		}
		r.becomes(r.out[next].from, r.out[next].to, AsYield, nil)
		next++
	}
	for m.kind == aWait && next < a.hi && r.out[next].is(place) { // “it lasts about a week in the fridge”
		r.becomes(r.out[next].from, r.out[next].to, AsYield, nil)
		next++
	}
	if unit.isUses() || m.kind == aWait {
		r.good.Notes = append(r.good.Notes, sentenceCase(r.asSaid(r.out[max(k-1, a.lo)].from, r.out[next-1].to))+".")
		if next+1 < a.hi && r.toks[r.out[next].from].word == "at" && r.out[next+1].kind == anAmount && !r.nameNext(a, next+1) { // “lasts us three months at a quarter cup”
			if d := r.amountSaid(&r.out[next+1]); r.dosed(a, d, a.hi) {
				r.becomes(r.out[next].from, r.out[next+1].to, AsUse, nil)
				return next + 2
			}
		}
		return next
	}
	r.yields(said)
	if next < a.hi && r.out[next].kind == anAmount && isWhole(r.out[next].amount.Amount) && r.nothingAfter(a, next) && (outOfAll[r.toks[r.out[next].from-1].word] || outOfAll[r.toks[r.out[next].from-2].word+" "+r.toks[r.out[next].from-1].word]) { // “about fifteen out of 300 g”
		r.becomes(r.out[next].from, r.out[next].to, AsYield, nil)
		return next + 1
	}
	if next < a.hi && r.toks[said.to-1].word == "of" && r.out[next].kind == anAmount && r.nothingAfter(a, next) { // “makes 30 tablets of about 35 g”
		r.becomes(r.out[next].from, r.out[next].to, AsYield, nil)
		return next + 1
	}
	return next
}

// outOfAll stand before what so many come out of.
var outOfAll = wordSet("outOfAll")

func (m *mark) isUses() bool { return m != nil && m.is(uses) && !m.is(pieces) }

func (r *reader) nothingAfter(a *atom, k int) bool { return r.nextCore(a, k+1) == a.hi }

// yields keeps an amount as what comes out, or what holds it.
func (r *reader) yields(said *amountSaid) {
	amount := said.Amount.Plain()
	if word := r.toks[said.to-1].word; isVessel(amount.Unit()) && cooksIn[word] && !holds(said.Also) { // “in a big pot: …” says where
		r.becomes(said.from, said.to, AsPlace, nil)
		return
	}
	if said.from > 0 && amount.Unit() == quantity.Bare && pointed[r.toks[said.from-1].word] { // “I make these two together”
		r.becomes(said.from, said.to, AsLeftOut, nil)
		return
	}
	if amount.Unit() == quantity.Bare {
		if pieces, err := quantity.Parse("1 piece"); err == nil {
			if with, ok := amount.InUnitOf(pieces); ok {
				amount = with
			}
		}
	}
	r.becomes(said.from, said.to, AsYield, nil)
	if r.good.Yield.IsZero() {
		r.good.Yield = amount
	}
	if holds(amount) {
		r.good.total = amount
		for _, l := range r.good.lines { // “top up with water”, said before the bottle
			if l.Amount.Open() == quantity.ToFill && l.Material == "water" {
				l.Amount = amount.Total()
				l.Written = l.Amount.String()
			}
		}
	}
}

// intoPlace stand behind what is put where it is used.
var intoPlace = wordSet("intoPlace")

// pointed stand before how many of what is there.
var pointed = wordSet("pointed")
