package listener

// What may take the place of what was said.

import (
	"keencrock/core/formula"
	"keencrock/core/material"
)

// alternative keeps a name as what may take the place of the line, or the name, before
// it.
func (r *reader) alternative(a *atom, n *naming) {
	o := other{naming: *n, amount: a.amount}
	a.amount = nil
	if l := r.last; l != nil && o.amount != nil && o.amount.from > 0 && r.toks[o.amount.from-1].word == "otherwise" && r.lineOf(r.read(n.text), n.text) == l { // “three spoons if you want it strong, otherwise two spoons of soda”
		if l.Optional {
			l.remark(l.Written)
			l.Optional = false
		}
		r.becomes(n.from, n.to, AsMaterial, l)
		r.correctAmount(l, o.amount)
		return
	}
	switch {
	case a.made == nil && len(a.names) > 0:
		before := a.names[len(a.names)-1]
		before.others = append(before.others, o)
		r.becomes(n.from, n.to, AsChoice, nil)
	case a.made == nil && len(r.waiting) > 0:
		before := r.waiting[len(r.waiting)-1]
		before.others = append(before.others, o)
		r.becomes(n.from, n.to, AsChoice, nil)
	case a.made != nil:
		r.addOther(a.made, &o)
	case r.last != nil:
		r.addOther(r.last, &o)
	default:
		a.names = append(a.names, n)
	}
}

// chooses takes one of several that were named for a choice for the one that is measured
// after them: “you could use lemon juice or citric acid, I'd go for two spoons of citric
// acid”.
func (r *reader) chooses(said *amountSaid, n *naming) {
	if said == nil || len(r.waiting) == 0 {
		return
	}
	w := r.waiting[len(r.waiting)-1]
	this := r.read(n.text)
	if this == nil || len(w.others) == 0 || w.in != n.in {
		return
	}
	left := []naming{*w}
	found := r.read(w.text) == this
	if found {
		left = nil
	}
	for _, o := range w.others {
		if r.read(o.text) == this {
			found = true
			continue
		}
		left = append(left, o.naming)
	}
	if !found {
		return
	}
	r.waiting = r.waiting[:len(r.waiting)-1]
	r.becomes(w.from, w.to, AsRemark, nil)
	for _, o := range left {
		r.becomes(o.from, o.to, AsRemark, nil)
		n.remarks = append(n.remarks, "or "+o.text)
	}
}

// addOther keeps what may take the place of a line.
func (r *reader) addOther(l *Line, o *other) {
	alt := formula.Line{Amount: l.Amount, Written: l.Written}
	if o.amount != nil {
		if reading, ok := r.measured(o.amount.Reading, r.read(o.text)); ok {
			o.amount.Amount, o.amount.written = reading.Amount, reading.Amount.String()
		}
		alt.Amount, alt.Written, alt.Also = o.amount.Amount, o.amount.written, o.amount.Also
		r.becomes(o.amount.from, o.amount.to, AsChoice, l)
	}
	r.becomes(o.from, o.to, AsChoice, l)
	if m := r.read(l.Material); m != nil && m.Is(material.ScentOil) && r.scentOf(o.text) != "" { // “lavender or lemon”
		o.text = r.scentOf(o.text)
	}
	n, err := r.lib.ReadSaid(o.text, alt.Amount)
	if err != nil {
		l.remark("or " + o.text)
		return
	}
	if l.Err != nil { // “white or apple cider vinegar”: the end belongs to both
		if both := l.name + " " + lastWord(o.text); r.read(both) != nil {
			r.rename(l, both)
		}
	}
	if n.Material.ID != l.Material {
		alt.Material = n.Material.ID
		l.Alternatives = append(l.Alternatives, alt)
	}
	for _, more := range n.Others {
		l.Alternatives = append(l.Alternatives, formula.Line{Material: more.Material.ID, Amount: alt.Amount, Written: alt.Written})
	}
}

// exchange is a material that another may take the place of, said before the line of it.
type exchange struct {
	of    string // a material
	with  other
	leave string // said of when it may be left out, instead of what it is exchanged for
}

// swapped reads “swap the borax for citrate” and “substitute salt for the borax”: what else
// the line of the one may be, now or when it comes.
func (r *reader) swapped(a *atom) bool {
	from := -1
	for k := a.lo; k < a.hi && from < 0; k++ {
		switch m := &r.out[k]; {
		case exchanges[r.toks[m.to-1].word]:
			from = k
		case m.kind == anAmount && !m.article, m.kind == aName, m.is(none):
			return false
		}
	}
	if from < 0 {
		return false
	}
	old := r.nextCore(a, from+1)
	by := min(old+1, a.hi)
	with := r.nextCore(a, by)
	if with >= a.hi || r.out[old].kind != aName || r.out[with].kind != aName || !r.nothingBetween(from+1, old) || with > by+2 {
		return false
	}
	switch r.toks[r.out[by].from].word {
	case "for", "with", "by":
	default:
		return false
	}
	if r.toks[r.out[from].to-1].word == "substitute" && r.toks[r.out[by].from].word == "for" { // “substitute salt for the borax”
		old, with = with, old
	}
	name := func(k int) naming {
		m := &r.out[k]
		return naming{from: m.from, to: m.to, text: r.said(m.from, m.to), in: r.now}
	}
	this, other := name(old), other{naming: name(with)}
	m := r.read(this.text)
	l := r.lineOf(m, this.text)
	if l == nil && m == nil {
		return false
	}
	end := r.out[a.hi-1].to
	r.becomesWhereUnread(r.out[a.lo].from, end, AsChoice, l)
	if l == nil {
		r.exchanges = append(r.exchanges, exchange{of: m.ID, with: other})
		return true
	}
	r.addOther(l, &other)
	if last := max(old, with) + 1; last < a.hi { // “… if your water is soft”
		l.remark(r.asSaid(r.out[with].from, end))
	}
	return true
}

// exchanges are the words for giving one thing for another.
var exchanges = wordSet("exchanges")

// exchangeFor gives a line what was said, before it came, that it may be instead.
func (r *reader) exchangeFor(l *Line) {
	for i := range r.exchanges {
		e := &r.exchanges[i]
		if e.of != l.Material {
			continue
		}
		if e.of = ""; e.leave != "" {
			l.Optional = true
			l.remark(e.leave)
			continue
		}
		r.addOther(l, &e.with)
	}
}
