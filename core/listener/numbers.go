package listener

// Mere numbers: what unit each of them has, seen beside the others of its good.

import (
	"slices"

	"keencrock/core/material"
	"keencrock/core/quantity"
)

// fractions takes “three quarters vinegar, one quarter water” for shares: mere fractions
// that are one together.
func (g *Good) fractions() {
	sum := 0.0
	shares := 0
	for _, l := range g.lines {
		if l.Amount.Open() != quantity.NotOpen || l.Amount.Unit() != quantity.Bare { // a dash of scent beside them
			continue
		}
		shares++
		n, ok := l.Amount.Pieces()
		if !ok || n.Low != n.High || n.Value >= 1 {
			return
		}
		sum += n.Value
	}
	if shares < 2 || sum < 0.99 || sum > 1.01 {
		return
	}
	for _, l := range g.lines {
		if l.Amount.Unit() != quantity.Bare || l.Amount.Open() != quantity.NotOpen {
			continue
		}
		hundred, _ := l.Amount.Times(100, 1)
		if with, ok := hundred.InUnitOf(quantity.Of(1, 1, quantity.Percent)); ok {
			l.Amount, l.Written = with, with.String()
		}
	}
}

// hundredths takes mere numbers that are a hundred together for shares: “water 90, vinegar 10, a drop of soap”.
func (g *Good) hundredths() {
	sum, bare := 0.0, []*Line{}
	for _, l := range g.lines {
		switch {
		case l.Amount.Open() != quantity.NotOpen || l.Amount.Unit() == quantity.Drop:
		case l.Amount.Unit() != quantity.Bare || l.counted || l.Amount.IsZero():
			return
		default:
			n, _ := l.Amount.Pieces()
			sum += n.Value
			bare = append(bare, l)
		}
	}
	if len(bare) < 2 || sum != 100 || !g.Yield.IsZero() {
		return
	}
	for _, l := range bare {
		if with, ok := l.Amount.InUnitOf(quantity.Of(1, 1, quantity.Percent)); ok {
			l.Amount, l.Written = with, with.String()
		}
	}
}

// shareOfJuice takes “one third lemon juice” for a share beside mere fractions, and for no third of a lemon.
func (r *reader) shareOfJuice(g *Good) {
	for _, l := range g.lines {
		terms := l.Amount.Terms()
		if !l.Amount.Unit().JuiceOf() || len(terms) != 1 || terms[0].High.Float() >= 1 || l.from < 0 {
			continue
		}
		counted := slices.ContainsFunc(r.toks[l.from:min(l.from+4, len(r.toks))], func(t token) bool { return t.word == "of" || articles[t.word] })
		beside := slices.ContainsFunc(g.lines, func(other *Line) bool { return other.Amount.Unit() == quantity.Bare && isFraction(other.Amount) })
		if with, ok := l.Amount.InUnitOf(quantity.Of(1, 1, quantity.Bare)); ok && !counted && beside {
			l.Amount, l.Written = with, with.String()
		}
	}
}

// countPieces marks the lines whose mere number is of pieces, “20 soap nuts”: no grams beside them make it
// grams.
func (r *reader) countPieces(g *Good) {
	for _, l := range g.lines {
		if l.Amount.Unit() != quantity.Bare {
			continue
		}
		m := r.read(l.Material)
		n, bare := l.Amount.Pieces()
		l.counted = m != nil && m.Piece.Known() && bare && n.Value < mostCounted
	}
}

// sameMillilitres gives mere numbers of liquids the unit that a liquid beside them has, where nothing is in grams:
// “vodka, 200 ml, tea tree a teaspoon, water 300”.
func (r *reader) sameMillilitres(g *Good) {
	var unit quantity.Amount
	for _, l := range g.lines {
		switch l.Amount.Unit() {
		case quantity.Gram:
			return
		case quantity.Millilitre:
			unit = l.Amount
		}
	}
	for _, l := range g.lines {
		n, bare := l.Amount.Pieces()
		if m := r.read(l.Material); unit.IsZero() || !bare || l.Amount.Unit() != quantity.Bare || n.Value < mostOfBig || m == nil || !m.Liquid() || m.Is(material.ScentOil) {
			continue
		}
		if with, ok := l.Amount.InUnitOf(unit); ok {
			l.Amount, l.Written = with, with.String()
		}
	}
}

// mostCounted is up to how many a mere number is of pieces and not of grams. From memory.
const mostCounted = 100

// isFraction reports whether an amount is less than one of what it counts.
func isFraction(a quantity.Amount) bool {
	terms := a.Terms()
	return a.Open() == quantity.NotOpen && len(terms) == 1 && terms[0].High.Float() < 1
}

// sameGrams gives mere numbers as big as grams are the unit that one of the lines has:
// “bicarb 300, citric 100, cornflour 50 grams”.
func (g *Good) sameGrams() {
	var grams quantity.Amount
	least := float64(mostOfBig)
	if all := g.Yield.Terms(); len(all) == 1 && (all[0].Unit == quantity.Gram || all[0].Unit == quantity.Millilitre) { // “500 g of base: 300 soda, 150 salt, 50 soap”
		sum := 0.0
		for _, l := range g.lines {
			if n, bare := l.Amount.Pieces(); bare && l.Amount.Unit() == quantity.Bare {
				sum += n.Value
			}
		}
		if sum > 0 && sum == all[0].Low.Float() {
			grams, least = g.Yield, 0
		}
	} else if len(all) == 1 && (all[0].Unit == quantity.Kilogram || all[0].Unit == quantity.Litre) && all[0].Low == all[0].High { // “a kilo at a time so 500 soda, 300 bicarb, 200 salt”
		if sum, bare := g.bareSum(); bare && sum == 1000*all[0].Low.Float() {
			grams = quantity.Of(1, 1, quantity.Gram)
		}
	}
	for _, l := range g.lines {
		if l.Amount.Unit() == quantity.Gram {
			grams = l.Amount
		}
	}
	for _, l := range g.lines {
		if n, ok := l.Amount.Pieces(); ok && l.Amount.Unit() == quantity.Bare && !l.counted && n.Value >= least && !grams.IsZero() {
			if with, fits := l.Amount.InUnitOf(grams); fits {
				l.Amount, l.Written = with, with.String()
			}
		}
	}
}

// bareSum is the sum of the mere numbers of lines; all reports whether every line is one.
func (g *Good) bareSum() (sum float64, all bool) {
	for _, l := range g.lines {
		n, bare := l.Amount.Pieces()
		if !bare || l.Amount.Unit() != quantity.Bare {
			return 0, false
		}
		sum += n.Value
	}
	return sum, len(g.lines) > 1
}

// sharesMeasured leaves out the shares that were said first of what was measured after them: “1:3:10 sugar, peel,
// water, so 100 g brown sugar, 300 g peel, 1 litre water”.
func (g *Good) sharesMeasured() {
	var shares, measured []*Line
	for _, l := range g.lines {
		switch {
		case l.Amount.Unit() == quantity.Part:
			shares = append(shares, l)
		case l.Amount.Open() == quantity.NotOpen && (l.Amount.Kind() == quantity.Mass || l.Amount.Kind() == quantity.Volume):
			measured = append(measured, l)
		}
	}
	if len(shares) == 0 || len(measured) < 2 {
		return
	}
	for _, share := range shares {
		if !slices.ContainsFunc(measured, func(l *Line) bool { return l.Material == share.Material || lastWord(l.name) == lastWord(share.name) }) {
			return
		}
	}
	before := slices.Clone(g.lines)
	g.lines = slices.DeleteFunc(g.lines, func(l *Line) bool { return slices.Contains(shares, l) })
	g.Unsure = slices.DeleteFunc(g.Unsure, func(u Unsure) bool {
		return u.Line >= 0 && u.Line < len(before) && (slices.Contains(shares, before[u.Line]) || u.Code == "said-twice")
	})
	for i := range g.Unsure {
		if u := &g.Unsure[i]; u.Line >= 0 && u.Line < len(before) {
			u.Line = slices.Index(g.lines, before[u.Line])
		}
	}
}
