package listener

import (
	"strings"

	"keencrock/core/quantity"
)

// atom is what stands between two commas, or an “and”: an amount and a name in either
// order, or a part of them.
type atom struct {
	lo, hi int // marks
	amount *amountSaid
	names  []*naming // with no amount yet
	made   *Line     // the last line made of it
	loose  int       // where words that are nothing certain begin; −1 without any

	nameFirst bool // “borax 1 kg washing soda 2 kg”
	none      bool // names are not in it
	alt       bool // what comes may take the place of what was
	optional  bool

	perLoad, doses, yields, fills bool
	machine                       string
	remarks                       []span
	prose, using                  bool
	perWater                      bool   // the amount is of the water a dose goes into
	per                           string // what the amount that follows is said per
	clause                        bool   // “if”, “when” and their kin begin a clause of their own
}

// span is a stretch of tokens.
type span struct{ from, to int }

// atom reads the marks from lo to hi.
func (r *reader) atom(lo, hi int) {
	for lo < hi && (r.out[lo].kind == aBullet || r.out[lo].kind == aDash) {
		lo++
	}
	for hi > lo && r.out[hi-1].kind == aBullet {
		hi--
	}
	if lo >= hi {
		return
	}
	if hi = r.partSize(lo, hi); lo >= hi {
		return
	}
	if r.out[lo].kind == aRatio && r.fates[r.origin[r.out[lo].from]].became == AsUse { // told with the atom before: “dilute 1:10 for floors, 1:20 for plants”
		r.becomesWhereUnread(r.out[lo].from, r.out[hi-1].to, AsUse, nil)
		return
	}
	if from, to := r.out[lo].from, r.out[hi-1].to; r.sizeIn(from, to) { // “…, my scoop is 30 ml”
		r.becomes(from, to, AsAmount, nil)
		return
	}
	if r.ofOther(lo, hi) {
		return
	}
	a := &atom{lo: lo, hi: hi, loose: -1, none: r.noneNext, alt: r.altNext, optional: r.optional}
	r.altNext, r.optional = false, false
	a.nameFirst = r.namesFirst(lo, hi)
	if m := &r.out[lo]; m.is(joiner) && r.toks[m.from].word == "then" {
		r.shared = sharing{} // what comes then has an amount of its own
	}
	if r.correctNext != 0 {
		weak := r.correctNext == correctWell
		r.correctNext = 0
		if r.correction(a, lo, weak) {
			r.joined = false
			return
		}
	}
	if r.covered(a) {
		r.endAtom(a)
		r.joined, r.proseBefore = false, true
		return
	}
	if r.doseForSort(a) || r.counted(a) || r.diluted(lo, hi) || r.swapped(a) || r.stateOfWaiting(a) {
		return
	}
	if r.shakenBefore(a) || r.superfatted(a) || r.filledSo(a) || r.lyeWater(a) {
		return
	}
	a.lo = r.missing(a)
	a.lo = r.leftOutIf(a)
	for k := r.conditionOf(a); k < hi; {
		k = r.walk(a, k)
	}
	r.endAtom(a)
	r.joined, r.proseBefore = false, a.prose
}

// stateOfWaiting takes words that say no more than a state for that of the name before them, which
// waits for its amount: “bar of soap, grated; …”.
func (r *reader) stateOfWaiting(a *atom) bool {
	n := len(r.waiting)
	if n == 0 || r.waiting[n-1].in != r.now || r.now.doing {
		return false
	}
	for k := a.lo; k < a.hi; k++ {
		if m := &r.out[k]; m.kind != aWord && !m.is(step) || m.to != m.from+1 || !isState(r.toks[m.from].word, nil) {
			return false
		}
	}
	from, to := r.out[a.lo].from, r.out[a.hi-1].to
	if with := r.said(from, to) + " " + r.waiting[n-1].text; r.read(with) != nil {
		r.waiting[n-1].text = with
	} else {
		r.waiting[n-1].remarks = append(r.waiting[n-1].remarks, r.asSaid(from, to))
	}
	r.becomes(from, to, AsRemark, nil)
	return true
}

// conditionAt is the mark that a condition begins with at the head of an atom; −1 without one.
func (r *reader) conditionAt(a *atom) int {
	for k := a.lo; k < a.hi; k++ {
		if conditions[r.toks[r.out[k].from].word] || r.headsWash(a, k) {
			return k
		}
		if !r.out[k].is(joiner | small) {
			break
		}
	}
	return -1
}

// headsWash reports whether what is washed stands at a mark, and after it what it goes without:
// “colours: leave out the percarbonate”, “for darks skip the bleach”.
func (r *reader) headsWash(a *atom, k int) bool {
	at := r.out[k].from
	if r.toks[at].word == "for" {
		at++
	}
	if at+2 >= r.out[a.hi-1].to || !washes[r.toks[at].word] {
		return false
	}
	at++
	if s := &r.toks[at]; s.word == ":" || s.word == "," || s.word == "-" || s.word == "–" {
		at++
	}
	return goesWithout[r.toks[at].word]
}

// goesWithout are the words that leave something out.
var goesWithout = wordSet("goesWithout")

// conditionOf passes over what a line hangs on where it is said before it and names a
// material, “if you've got hard water chuck in half a kilo of citrate”: the line may be left
// out. It is the mark that the rest begins with.
func (r *reader) conditionOf(a *atom) int {
	k := r.conditionAt(a)
	if k < 0 {
		return a.lo
	}
	named := false
	for at := k; at < a.hi; at++ {
		switch m := &r.out[at]; {
		case m.kind == aName:
			if w := r.read(r.said(m.from, m.to)); w != nil && w.ID != "water" {
				return a.lo
			}
			named = true
		case m.kind == anAmount && !m.article:
			if !named || !r.nameNext(a, at) {
				return a.lo
			}
			from, to := r.out[k].from, m.from
			r.becomesWhereUnread(r.out[a.lo].from, from, AsSmallTalk, nil)
			for to > from+1 && r.verbBefore(to) { // “chuck in”
				to--
			}
			r.becomesWhereUnread(to, m.from, AsSmallTalk, nil)
			r.becomes(from, to, AsRemark, nil)
			a.remarks, a.optional, a.alt = append(a.remarks, span{from, to}), true, false
			return at
		}
	}
	return a.lo
}

// leftOutIf reads “if it's for colours leave out the percarbonate”, now or before its line:
// the line may be left out. It is the mark that the rest begins with.
func (r *reader) leftOutIf(a *atom) int {
	k := r.conditionAt(a)
	if k < 0 {
		return a.lo
	}
	var name *mark
	out, end := false, a.hi
	for at := k; at < end; at++ {
		m := &r.out[at]
		if m.kind == aColon && out {
			end = at
			break
		}
		for i := m.from; i < m.to; i++ {
			out = out || goesWithout[r.toks[i].word]
		}
		switch {
		case m.kind == anAmount && !m.article:
			return a.lo
		case m.kind == aName && out:
			if name != nil {
				return a.lo
			}
			name = m
		}
	}
	if name == nil {
		return a.lo
	}
	text := r.said(name.from, name.to)
	material := r.read(text)
	remark := r.asSaid(r.out[k].from, r.out[end-1].to)
	if l := r.lineOf(material, text); l != nil {
		l.Optional = true
		l.remark(remark)
	} else if material != nil {
		r.exchanges = append(r.exchanges, exchange{of: material.ID, leave: remark})
	} else {
		return a.lo
	}
	r.becomes(r.out[a.lo].from, r.out[end-1].to, AsRemark, nil)
	return min(end+1, a.hi)
}

// verbBefore reports whether a token is one of the words that put something in.
func (r *reader) verbBefore(to int) bool {
	switch w := r.toks[to-1].word; w {
	case "in", "then", "also", "chuck", "throw", "bung", "pop", "tip", "use", "put", "take", ",":
		return true
	default:
		return doings[w]
	}
}

// shakenBefore reads “shake before using”: it is done with what is made, each time.
func (r *reader) shakenBefore(a *atom) bool {
	k := a.lo
	for k < a.hi && r.out[k].is(joiner|small) {
		k++
	}
	if k >= a.hi || len(r.good.lines) == 0 || r.hasName(k, a.hi) {
		return false
	}
	switch r.toks[r.out[k].from].word {
	case "shake", "swirl", "stir":
	case "reuse", "reused", "reusable": // “reuse 4 times”
		r.noteEnd(a, r.out[k].from)
		return true
	default:
		return false
	}
	if r.nextCore(a, k) < a.hi {
		return false
	}
	said := " " + strings.ToLower(r.said(r.out[k].from, r.out[a.hi-1].to))
	for _, when := range [...]string{" before us", " before each", " before every", " before spraying", " before you", " each time", " every time", " each use", " every use"} {
		if strings.Contains(said, when) {
			r.now.begins = false
			r.noteEnd(a, r.out[k].from)
			return true
		}
	}
	return false
}

// superfatted keeps how much of the fat of a soap is left over, which nothing is added for:
// “superfat's 20 percent”, “5 % superfat”.
func (r *reader) superfatted(a *atom) bool {
	fat, ofLye := false, false
	for i := r.out[a.lo].from; i < r.out[a.hi-1].to; i++ {
		w := r.toks[i].word
		fat = fat || strings.HasPrefix(w, "superfat") || w == "discount"
		ofLye = ofLye || w == "discount" && i > 0 && r.toks[i-1].word == "lye"
	}
	if !fat || r.hasName(a.lo, a.hi) && !ofLye && r.toks[r.out[a.lo].from].word != "lye" {
		return false
	}
	for k := a.lo; k < a.hi; k++ {
		if m := &r.out[k]; m.kind == anAmount && !m.article && m.amount.Amount.Unit() != quantity.Percent && m.amount.Amount.Unit() != quantity.Bare { // “superfat 5”
			return false
		}
	}
	lye := &r.out[a.lo]
	if n := (&naming{from: lye.from, to: lye.to, text: r.said(lye.from, lye.to), in: r.now}); lye.kind == aName && len(r.good.lines) > 0 && r.lineOf(r.read(n.text), n.text) == nil {
		made := r.make(nil, n) // “lye at 5 % superfat”: so much of it is asked about
		r.noteEnd(a, r.out[a.lo].from)
		r.becomes(n.from, n.to, AsMaterial, made)
		return true
	}
	r.noteEnd(a, r.out[a.lo].from)
	return true
}

// covered reads “cover peel with vinegar” and “pour vinegar over it”, nothing of it
// measured.
func (r *reader) covered(a *atom) bool {
	k := a.lo
	for k < a.hi && r.out[k].is(small|joiner) && r.toks[r.out[k].from].word != "pour" {
		k++
	}
	var names []*mark
	with := false
	if k < a.hi && r.toks[r.out[k].from].word == "pour" && r.pouredOver(a, k) {
		return true
	}
	for i := k; i < a.hi; i++ {
		switch m := &r.out[i]; {
		case m.kind == anAmount && !m.article:
			return false
		case m.kind == aName:
			if names = append(names, m); len(names) == 2 && !with {
				return false
			}
		case r.toks[m.to-1].word == "with" && len(names) == 1:
			with = true
		}
	}
	if k >= a.hi || r.toks[r.out[k].from].word != "cover" || len(names) != 2 || !with {
		return false
	}
	r.now.doing = true
	for i, m := range names {
		n := &naming{from: m.from, to: m.to, text: r.said(m.from, m.to), in: r.now}
		if i == 0 {
			if l := r.lineOf(r.read(n.text), n.text); l != nil {
				r.becomes(n.from, n.to, AsStep, l)
				continue
			}
			a.made = r.make(nil, n)
			continue
		}
		open := quantity.OpenAmount(quantity.ToCover)
		r.lineMade(a, &amountSaid{Reading: quantity.Reading{Amount: open}, written: open.String(), from: n.from, to: n.from}, n)
	}
	r.becomesWhereUnread(r.out[a.lo].from, r.out[a.hi-1].to, AsStep, nil)
	return true
}

// pouredOver reads “pour white vinegar over it”.
func (r *reader) pouredOver(a *atom, k int) bool {
	core := r.nextCore(a, k+1)
	if core >= a.hi || r.out[core].kind != aName || core > k+2 || r.nextCore(a, core+1) < a.hi || core+1 >= a.hi || r.toks[r.out[core+1].from].word != "over" || len(r.good.lines) == 0 && len(r.waiting) == 0 {
		return false
	}
	m := &r.out[core]
	n := &naming{from: m.from, to: m.to, text: r.said(m.from, m.to), in: r.now}
	if r.lineOf(r.read(n.text), n.text) != nil {
		return false
	}
	r.now.doing = true
	open := quantity.OpenAmount(quantity.ToCover)
	r.lineMade(a, &amountSaid{Reading: quantity.Reading{Amount: open}, written: open.String(), from: n.from, to: n.from}, n)
	r.becomesWhereUnread(r.out[a.lo].from, r.out[a.hi-1].to, AsStep, nil)
	return true
}

// namesFirst reports whether the names of an atom stand before their amounts.
func (r *reader) namesFirst(lo, hi int) bool {
	amounts, names, pairs := 0, 0, 0
	var first, last markKind
	for k := lo; k < hi; k++ {
		m := &r.out[k]
		if m.kind == anOpening {
			k = r.closing(k, hi)
			continue
		}
		if m.kind != anAmount && m.kind != aName || m.article {
			continue
		}
		if first == 0 {
			first = m.kind
		}
		if last == aName && m.kind == anAmount {
			pairs++
		}
		last = m.kind
		if m.kind == anAmount {
			amounts++
		} else {
			names++
		}
	}
	if pairs > 2 && first == aName && pairs == names && amounts == names+1 { // “… salt 50 grams use one tablespoon”
		return true
	}
	return first == aName && last == anAmount && amounts == names
}

// walk reads the mark k and returns the next.
func (r *reader) walk(a *atom, k int) int {
	m := &r.out[k]
	switch m.kind {
	case anAmount:
		return r.walkAmount(a, k)
	case aName:
		return r.walkName(a, k)
	case aRatio:
		r.looseEnds(a, k)
		r.ratio(a, m)
	case aWait, aWarmth:
		r.looseEnds(a, k)
		if said := a.amount; said != nil && !r.now.doing && len(r.good.lines) > 1 && isSpooned(said.Amount) && r.isDose(said) && r.intoUse(said) { // “2 scoops in a bucket overnight”
			r.now.using = true
			r.dosed(a, said, a.hi)
		}
		r.now.doing = r.now.doing || !r.now.using
		as := AsStep
		if !r.now.doing {
			as = AsUse
		}
		r.becomes(m.from, m.to, as, a.made)
	case anOpening:
		return r.brackets(a, k)
	case aSlash:
		if a.made != nil || len(a.names) > 0 {
			a.alt = true
		}
		r.becomes(m.from, m.to, AsSmallTalk, nil)
	case aPhrase:
		return r.walkPhrase(a, k)
	case aWord:
		if costs[r.toks[m.from].word] && (a.made != nil || len(a.names) > 0) { // “… costs me 2.40”
			r.looseEnds(a, k)
			r.becomes(m.from, r.out[a.hi-1].to, AsRemark, a.made)
			a.remarks = append(a.remarks, span{m.from, r.out[a.hi-1].to})
			return a.hi
		}
		if a.loose < 0 {
			a.loose = k
		}
	default:
		if m.kind == aComma { // what was read before
			r.looseEnds(a, k)
		}
		r.becomesWhereUnread(m.from, m.to, AsSmallTalk, nil)
	}
	return k + 1
}

// endAtom finds a place for what is left over.
func (r *reader) endAtom(a *atom) {
	r.looseEnds(a, a.hi)
	if n := len(a.names); n == 1 && a.perLoad && r.doseIn == r.now && a.made == nil && a.amount == nil && r.toks[max(0, a.names[0].from-1)].word == "with" { // “one per wash with vinegar as the rinse aid”
		from := a.names[0].from - 1
		a.names = nil
		r.noteEnd(a, from)
	}
	if a.amount != nil && !(r.shared.open() && r.shared.said == a.amount) {
		r.amountLeft(a)
	}
	r.keepWaiting(a)
	l := a.made
	if l == nil && len(a.names) == 0 && len(r.waiting) == 0 && !r.now.doing && !r.now.using {
		l = r.last
	}
	for _, s := range a.remarks {
		if l != nil {
			l.remark(r.asSaid(s.from, s.to))
			r.becomesOwned(s, l)
		} else if n := len(r.waiting); n > 0 {
			r.waiting[n-1].remarks = append(r.waiting[n-1].remarks, r.asSaid(s.from, s.to))
		} else if r.last != nil && r.last.from >= r.out[a.lo].from {
			r.last.remark(r.asSaid(s.from, s.to))
			r.becomesOwned(s, r.last)
		}
	}
	if a.per != "" && a.made != nil {
		r.askPer(a.made, a.per)
	}
	if a.optional && a.made == nil && len(a.names) == 0 && !r.hasAmount(a.lo, a.hi) { // not “maybe three spoons” of what was named before
		r.optional = true
	}
	if a.alt {
		r.altNext = true
	}
}

func (r *reader) becomesOwned(s span, l *Line) {
	for i := s.from; i < s.to; i++ {
		r.fates[r.origin[i]].line = l
	}
}
