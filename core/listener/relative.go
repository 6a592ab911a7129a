package listener

// Amounts that are said of another: half that, the rest, two to one.

import (
	"strconv"
	"strings"

	"keencrock/core/quantity"
)

// relativeAmount reads “same again of”, “half that”.
func (r *reader) relativeAmount(a *atom, k int) int {
	m := &r.out[k]
	amount, ok := r.relative(m)
	past := k + 1
	if base, next := r.asMuchAsLine(a, k); base != nil { // “half as much as the soda ash”
		if of, fits := base.Amount.Times(max(1, m.meaning.num), max(1, m.meaning.den)); fits {
			amount, ok, past = of, true, next
			r.becomesWhereUnread(r.out[k+1].from, r.out[next-1].to, AsAmount, nil)
		}
	}
	if r.toks[m.to-1].word == "the" {
		if next := r.timesLine(a, k); next > k {
			return next
		}
		if name := r.nextCore(a, k+1); r.now.doing || name >= a.hi || r.out[name].kind != aName || len(a.names) > 0 || len(r.waiting) > 0 || !ok { // and not “lye and double the water”
			r.looseEnds(a, k)
			r.becomes(m.from, m.to, AsRemark, nil)
			return k + 1
		}
	}
	if at := r.asNeeded(a, k); at > 0 { // “as much vinegar as it takes”
		r.looseEnds(a, k)
		n := r.out[r.nextCore(a, k+1)]
		open := quantity.OpenAmount(quantity.AsNeeded)
		r.lineMade(a, &amountSaid{Reading: quantity.Reading{Amount: open}, written: open.String(), from: m.from, to: m.to}, &naming{from: n.from, to: n.to, text: r.said(n.from, n.to), in: r.now})
		r.becomesWhereUnread(n.to, r.out[at-1].to, AsAmount, a.made)
		return at
	}
	if !ok || k+2 == a.hi && alikeIn[r.toks[r.out[k+1].from].word] { // “…, same size”
		if a.loose < 0 {
			a.loose = k
		}
		return k + 1
	}
	r.looseEnds(a, k)
	said := &amountSaid{Reading: quantity.Reading{Amount: amount}, written: amount.String(), from: m.from, to: m.to}
	r.shared = sharing{said: said, all: true} // “half as much citric acid and salt”
	if len(a.names) > 0 && !r.nameNext(a, k) {
		r.shared = sharing{}
		n := a.names[len(a.names)-1]
		a.names = a.names[:len(a.names)-1]
		r.keepWaiting(a)
		r.lineMade(a, said, n)
		return past
	}
	if len(r.waiting) > 0 && (past > k+1 || !r.nameAfter(a, k)) && a.made == nil {
		r.shared = sharing{}
		r.giveWaiting(a, said, false)
		return past
	}
	a.amount = said
	return past
}

// timesLine reads “water twice the lye”: so many times what another line has, which is asked about where that has no
// amount. It is the mark after it; k where nothing waits for an amount, or none has the name.
func (r *reader) timesLine(a *atom, k int) int {
	m, name := &r.out[k], r.nextCore(a, k+1)
	if name < a.hi && r.out[name].kind == aName && (len(a.names) > 0 || len(r.waiting) > 0) {
		text := r.said(r.out[name].from, r.out[name].to)
		if l := r.lineOf(r.read(text), text); l != nil {
			r.looseEnds(a, k)
			of, fits := l.Amount.Times(max(1, m.meaning.num), max(1, m.meaning.den))
			if !fits {
				r.becomes(m.from, r.out[name].to, AsRemark, nil)
				return name + 1
			}
			r.becomes(m.from, r.out[name].to, AsAmount, nil)
			said := &amountSaid{Reading: quantity.Reading{Amount: of}, written: of.String(), from: m.from, to: r.out[name].to}
			if n := len(a.names); n > 0 {
				named := a.names[n-1]
				a.names = a.names[:n-1]
				r.keepWaiting(a)
				r.lineMade(a, said, named)
			} else {
				r.giveWaiting(a, said, false)
			}
			return name + 1
		}
	}
	return k
}

// alikeIn are what something is the same in that is no amount.
var alikeIn = wordSet("alikeIn")

// asNeeded is the mark after “as it takes”, where “as much” and a name stand before it; 0
// where it is said otherwise.
func (r *reader) asNeeded(a *atom, k int) int {
	core := r.nextCore(a, k+1)
	if r.toks[r.out[k].to-1].word != "much" || core >= a.hi || r.out[core].kind != aName || core > k+2 {
		return 0
	}
	to := r.out[core].to
	words := ""
	for at := core + 1; at < a.hi && at < core+5; at++ {
		words = strings.TrimSpace(words + " " + r.said(to, r.out[at].to))
		to = r.out[at].to
		if asItTakes[words] {
			return at + 1
		}
	}
	return 0
}

// asMuchAsLine is the line that “as the soda ash” after mark k names, and the mark behind
// it; nil without.
func (r *reader) asMuchAsLine(a *atom, k int) (l *Line, next int) {
	if k+1 >= a.hi || r.toks[r.out[k+1].from].word != "as" {
		return nil, 0
	}
	for i := k + 1; i < a.hi && i < k+4; i++ {
		if m := &r.out[i]; m.kind == aName {
			text := r.said(m.from, m.to)
			return r.lineOf(r.read(text), text), i + 1
		}
	}
	return nil, 0
}

// multiply makes the last line so many times what it is.
func (r *reader) multiply(a *atom, m *mark, num, den int64) {
	l := r.last
	amount, ok := l.Amount.Times(num, den)
	if !ok {
		r.becomes(m.from, m.to, Unread, nil)
		return
	}
	r.becomes(m.from, m.to, AsAmount, l)
	l.Amount, l.Written = amount, amount.String()
	r.amount = amount
	a.made = l
}

// fillUp reads “the rest is water”, “top it up with water”, “cover with vinegar”.
func (r *reader) fillUp(a *atom, k, core int, with quantity.Amount) int {
	m := &r.out[k]
	r.looseEnds(a, k)
	if u, ok := r.unitIn(m.to, core); ok && m.is(rest) { // “the rest of the litre is water”
		with = quantity.Of(1, 1, u).Total()
	}
	said := &amountSaid{Reading: quantity.Reading{Amount: with}, written: with.String(), from: m.from, to: m.to}
	if core < a.hi && r.out[core].kind == aName {
		a.amount = said
		return k + 1
	}
	switch {
	case len(a.names) > 0:
		n := a.names[len(a.names)-1]
		a.names = a.names[:len(a.names)-1]
		r.lineMade(a, said, n)
	case len(r.waiting) > 0 && m.is(top|rest):
		r.giveWaiting(a, said, false)
	case m.is(top):
		r.topWithout(a, said)
	default:
		r.verb(a, m, k)
	}
	return k + 1
}

// strengthOfNext reports whether an amount says how strong it is what is named right behind it: “top it with 6 %
// vinegar”.
func (r *reader) strengthOfNext(a *atom, k int) bool {
	if k+1 >= a.hi || r.out[k].kind != anAmount || r.out[k].amount.Amount.Unit() != quantity.Percent || r.out[k+1].kind != aName {
		return false
	}
	return r.read(r.out[k].amount.Amount.String()+" "+r.said(r.out[k+1].from, r.out[k+1].to)) != nil
}

// heldWith reports whether an amount is of a vessel that is filled up with what is named
// next: “the half litre bottle with water”.
func (r *reader) heldWith(a *atom, k int) bool {
	m, name := &r.out[k], r.nextCore(a, k+1)
	if name >= a.hi || r.out[name].kind != aName || m.amount.Amount.UpTo() || !holds(m.amount.Amount) || m.from == 0 || r.toks[m.from-1].word == "with" {
		return false
	}
	return r.toks[r.out[name].from-1].word == "with" && r.out[name].from > m.to
}

// makesUp reads “hot water to make up 2 gallons” and “enough water to fill a 750 ml bottle”:
// the liquid that was named makes up the total that follows.
func (r *reader) makesUp(a *atom, k, core int) bool {
	m := &r.out[k]
	if r.toks[m.from].word != "to" || core >= a.hi || r.out[core].kind != anAmount || a.amount != nil || r.nameNext(a, core) || r.now.doing && a.made == nil && len(a.names) == 0 {
		return false
	}
	total := r.out[core].amount.Amount
	if !isVolume(total) && !isVessel(total.Unit()) || total.Open() != quantity.NotOpen {
		return false
	}
	said := &amountSaid{Reading: quantity.Reading{Amount: total.Plain().Total()}, written: total.Plain().Total().String(), from: m.from, to: r.out[core].to}
	switch n := len(a.names); {
	case n > 0 && r.poured(a.names[n-1].text):
		r.looseEnds(a, k)
		name := a.names[n-1]
		a.names = a.names[:n-1]
		r.keepWaiting(a)
		r.lineMade(a, said, name)
	case n == 0 && a.made != nil && a.made.Amount.Open() != quantity.NotOpen && r.poured(a.made.name):
		r.looseEnds(a, k)
	default:
		return false
	}
	r.makeUp(said, a.made)
	return true
}

// makeUp makes a line what the good is made up with, to a total.
func (r *reader) makeUp(said *amountSaid, l *Line) {
	l.Amount, l.Written = said.Amount.Total(), said.written
	r.becomes(said.from, said.to, AsAmount, l)
	if total := said.Amount.Plain(); holds(total) {
		r.good.total = total
		if r.good.Yield.IsZero() {
			r.good.Yield = total
		}
	}
}

// poured reports whether a name is of a liquid.
func (r *reader) poured(name string) bool {
	m := r.read(name)
	return m != nil && m.Liquid()
}

// halfFull reads “fill my spray bottle about half way with white vinegar”: half a vessel of
// what is named. It is the mark of the name; 0 where it says no such thing.
func (r *reader) halfFull(a *atom, k int) int {
	name := k + 1
	for name < a.hi && r.out[name].kind != aName {
		name++
	}
	if name >= a.hi || r.toks[r.out[name].from-1].word != "with" {
		return 0
	}
	vessel, half, about, way := "", "", "", false
	var sized *mark
	for at := k + 1; at < name; at++ {
		if m := &r.out[at]; m.kind == anAmount && holds(m.amount.Amount) && isSizeOf(r.amountSaid(m)) {
			sized = m
		}
	}
	for i := r.out[k].from; i < r.out[name].from; i++ {
		if quantity.IsAbout(r.toks[i].word) {
			about = "about "
		}
		switch w := r.toks[i].word; w {
		case "half", "halfway", "third", "quarter", "thirds", "quarters":
			half = strings.TrimSuffix(strings.TrimSuffix(w, "way"), "s")
			way = way || w != "half"
			if n := r.toks[max(0, i-1)].word; half != "half" && (n == "two" || n == "three" || n == "2" || n == "3") {
				half = n + " " + half + "s"
			}
		case "way", "full":
			way = true
		default:
			if u, ok := quantity.UnitNamed(w); ok && isVessel(u) {
				vessel = w
			}
		}
	}
	if vessel == "" || half == "" || !way {
		return 0
	}
	amount, err := quantity.Parse(about + half + " of a " + vessel)
	if !strings.Contains(half, " ") && half != "half" {
		amount, err = quantity.Parse(about + "a " + half + " of a " + vessel)
	}
	if sized != nil { // “a 1 litre bottle”
		num, den := int64(1), int64(2)
		switch {
		case strings.HasSuffix(half, "third"), strings.HasSuffix(half, "thirds"):
			den = 3
		case strings.HasSuffix(half, "quarter"), strings.HasSuffix(half, "quarters"):
			den = 4
		}
		if n := half[0]; n == 't' && strings.HasPrefix(half, "two") || n == '2' {
			num = 2
		} else if strings.HasPrefix(half, "three ") || n == '3' {
			num = 3
		}
		part, ok := sized.amount.Amount.Plain().Times(num, den)
		if !ok {
			return 0
		}
		amount, err = part, nil
		r.yields(r.amountSaid(sized))
	}
	if err != nil {
		return 0
	}
	r.looseEnds(a, k)
	a.amount = &amountSaid{Reading: quantity.Reading{Amount: amount}, written: amount.String(), from: r.out[k].from, to: r.out[name].from}
	return name
}

// unitIn is the measure that is named between a token and a mark.
func (r *reader) unitIn(from, mark int) (quantity.Unit, bool) {
	if mark >= len(r.out) {
		return 0, false
	}
	for i := from; i < r.out[mark].from; i++ {
		if u, ok := quantity.UnitNamed(r.toks[i].word); ok && (u.Kind() == quantity.Volume || u.Kind() == quantity.Mass) && !isVessel(u) {
			return u, true
		}
	}
	return 0, false
}

// topWithout is for “top it up” with nothing said: with the liquid that is poured most
// often, which is asked about where it is not called cold or hot: “top up with cold”.
func (r *reader) topWithout(a *atom, said *amountSaid) {
	n := &naming{from: said.to, to: said.to, text: "water", in: r.now}
	r.lineMade(a, said, n)
	for i := said.to; i < r.out[a.hi-1].to; i++ {
		if drawnAs[r.toks[i].word] && r.toks[i-1].word == "with" && (i+1 == len(r.toks) || r.toks[i+1].kind != isWord || r.toks[i+1].word == "to") {
			r.becomes(i-1, i+1, AsMaterial, a.made)
			return
		}
	}
	r.good.Unsure = append(r.good.Unsure, Unsure{Line: len(r.good.lines) - 1, Code: "topped-up-with", Text: "Topped up with what? Water is taken.", Answers: []string{"Water"}})
}

// drawnAs is how water comes from the tap or the kettle, said without its name.
var drawnAs = wordSet("drawnAs")

// totalAfter is the total that is named after “top up”: “to 2 litres”.
func (r *reader) totalAfter(a *atom, k int) quantity.Amount {
	for ; k < a.hi; k++ {
		if m := &r.out[k]; m.kind == anAmount && m.amount.Amount.UpTo() {
			r.becomes(m.from, m.to, AsAmount, nil)
			m.kind = aComma // it has been read
			return m.amount.Amount.Plain()
		}
	}
	return quantity.Amount{}
}

// ratio reads shares of what stands before, or of what follows.
func (r *reader) ratio(a *atom, m *mark) {
	if m.from > 0 && thinnedBy[r.toks[m.from-1].word] && m.to < len(r.toks) && r.toks[m.to].word == "with" { // “…, strain it and go half and half with water”
		r.noteEnd(a, m.from)
		for k := a.lo; k < a.hi; k++ {
			if r.out[k].from > m.from {
				r.out[k].kind = aComma // it has been read
			}
		}
		return
	}
	if r.now.using && len(r.good.lines) > 0 { // “dilute 1:1 with water to use”
		r.becomes(m.from, m.to, AsUse, nil)
		return
	}
	if a.amount != nil && (a.amount.Amount.Kind() == quantity.Mass || a.amount.Amount.Kind() == quantity.Volume) { // “500 g of a 2:1 mix of …”
		r.yields(a.amount)
		a.amount = nil
	}
	said := &amountSaid{Reading: quantity.Reading{Amount: m.shares[0]}, written: "1 part", from: m.from, to: m.to}
	r.becomes(m.from, m.to, AsAmount, nil)
	all := len(m.shares) == 1
	r.keepWaiting(a)
	if len(m.shares) == 2 && strings.Contains(r.said(m.from, m.to), " in ") && !m.shares[1].IsZero() {
		r.good.Unsure = append(r.good.Unsure, Unsure{Line: -1, Code: "one-in", Text: "“" + r.said(m.from, m.to) + "”: is that one part in all of it, or one part beside so many? Both are reckoned with.",
			Answers: []string{"in all of it", "beside"}})
	}
	if l := r.last; len(m.shares) == 2 && len(r.waiting) == 0 && l != nil && l.from >= r.now.from && !l.shared && r.thins(a, m, l) { // “a cup of vinegar, 1 in 10”
		return
	}
	if n := len(r.waiting); n > 0 && (all || n >= len(m.shares)) {
		waiting := r.waiting
		if !all {
			waiting = waiting[n-len(m.shares):]
			r.waiting = r.waiting[:n-len(m.shares)]
			r.settle()
		}
		r.waiting = nil
		for i, name := range waiting {
			share := m.shares[0]
			if !all {
				share = m.shares[i]
			}
			r.lineMade(a, &amountSaid{Reading: quantity.Reading{Amount: share}, written: share.String(), from: m.from, to: m.to}, name)
			a.made.shared = true
		}
		return
	}
	if all {
		r.settle()
		r.shared = sharing{said: said, all: true}
		return
	}
	r.shared = sharing{said: said, shares: m.shares}
	for len(r.waiting) > 0 { // “bleach 1 in 10 with water”
		n := r.waiting[0]
		r.waiting = r.waiting[1:]
		rest := r.waiting
		r.waiting = nil
		r.lineMade(a, r.shared.take(), n)
		r.waiting = rest
	}
}

// thinnedBy stand before how much a good is thinned to be used.
var thinnedBy = wordSet("thinnedBy")

// numbersAsParts takes mere numbers that “to” joins for parts: “6 of baking soda to 3 of
// citric to 1 of cornstarch”.
func (r *reader) numbersAsParts(a *atom, m *mark, said *amountSaid, k int) {
	l := a.made
	if l == nil || m.from == 0 || r.toks[m.from-1].word != "to" || said.Amount.Unit() != quantity.Bare || said.Amount.Open() != quantity.NotOpen || !r.nameNext(a, k) {
		return
	}
	part := quantity.Of(1, 1, quantity.Part)
	if l.Amount.Unit() == quantity.Bare && l.Amount.Open() == quantity.NotOpen {
		if with, ok := l.Amount.InUnitOf(part); ok {
			l.Amount, l.Written, r.amount = with, with.String(), with
			r.rename(l, l.name)
		}
	}
	if l.Amount.Unit() != quantity.Part {
		return
	}
	if with, ok := said.Amount.InUnitOf(part); ok {
		said.Amount, said.written = with, with.String()
	}
}

// toNumber takes “water to 500” for a total: in the millilitres, or whatever the good was
// measured in.
func (r *reader) toNumber(a *atom, m *mark, said *amountSaid) bool {
	n := len(a.names)
	if n == 0 || m.from == 0 || r.toks[m.from-1].word != "to" || a.names[n-1].to != m.from-1 || said.Amount.Unit() != quantity.Bare || said.Amount.Open() != quantity.NotOpen || !r.poured(a.names[n-1].text) {
		return false
	}
	unit := quantity.Of(1, 1, quantity.Millilitre)
	if p, ok := said.Amount.Pieces(); !ok || p.Value < mostOfBig {
		if unit = r.amount; !isVolume(unit) {
			return false
		}
	}
	with, ok := said.Amount.InUnitOf(unit)
	if !ok {
		return false
	}
	said.Amount, said.written = with.Total(), with.Total().String()
	name := a.names[n-1]
	a.names, a.loose = a.names[:n-1], -1
	r.keepWaiting(a)
	r.becomes(m.from-1, m.from, AsAmount, nil)
	r.lineMade(a, said, name)
	r.makeUp(said, a.made)
	return true
}

// thins reads a ratio after a line that has its amount and before nothing else: it is
// thinned with water, which is asked about.
func (r *reader) thins(a *atom, m *mark, l *Line) bool {
	terms := l.Amount.Terms()
	if r.nextCore(a, a.hi) < a.hi || a.hi > 0 && r.out[a.hi-1].to != m.to || len(terms) != 1 || l.Amount.UpTo() {
		return false
	}
	one, _ := m.shares[0].Parts()
	more, _ := m.shares[1].Parts()
	if one.Value <= 0 {
		return false
	}
	unit := strings.TrimLeft(quantity.Of(2, 1, terms[0].Unit).String(), "2 ")
	amount, err := quantity.Parse(rangeOf(terms[0].Low.Float()*more.Low/one.Value, terms[0].High.Float()*more.High/one.Value) + " " + unit)
	if err != nil {
		if amount, err = quantity.Parse(strconv.FormatFloat(terms[0].Low.Float()*more.Low/one.Value, 'g', 6, 64) + " " + unit); err != nil {
			return false
		}
	}
	r.lineMade(a, &amountSaid{Reading: quantity.Reading{Amount: amount}, written: amount.String(), from: m.from, to: m.to}, &naming{from: m.to, to: m.to, text: "water", in: r.now})
	r.good.Unsure = append(r.good.Unsure, Unsure{Line: len(r.good.lines) - 1, Code: "thinned-with", Text: "Thinned with what? Water is taken.", Answers: []string{"Water"}})
	return true
}

// asItTakes stand behind “as much of it”.
var asItTakes = wordSet("asItTakes")
