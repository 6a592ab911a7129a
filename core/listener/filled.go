package listener

import (
	"regexp"
	"strings"

	"keencrock/core/material"
	"keencrock/core/quantity"
)

// filledSo reads “…, heaped ones” behind what was said in spoons: how they are filled.
func (r *reader) filledSo(a *atom) bool {
	l := r.last
	from, to := r.out[a.lo].from, r.out[a.hi-1].to
	if to-from != 2 || l == nil || l.from < r.now.from || l.Amount.Kind() != quantity.Volume || !quantity.IsFill(r.toks[from].word) {
		return false
	}
	switch r.toks[from+1].word {
	case "one", "ones", "spoons", "spoonfuls", "cups", "scoops", "tablespoons", "teaspoons":
	default:
		return false
	}
	terms := l.Amount.Terms()
	if len(terms) != 1 || terms[0].Fill != quantity.Plain {
		return false
	}
	number, unit, ok := strings.Cut(l.Amount.String(), " ")
	if !ok {
		return false
	}
	filled, err := quantity.Parse(number + " " + r.toks[from].word + " " + unit)
	if err != nil || filled.Unit() != l.Amount.Unit() {
		return false
	}
	l.Amount, l.Written = filled, filled.String()
	r.amount = filled
	r.becomes(from, to, AsAmount, l)
	return true
}

var lyeRatio = regexp.MustCompile(`(?i)^(?:with |and |use )?(?:a )?(?:(?:lye[ -]water|water[ -]lye|water to lye|water:lye)(?: ratio)?(?: (?:at|of|is|is at))? (\d(?:\.\d+)?)\s*:\s*1|(\d(?:\.\d+)?)\s*:\s*1 (?:water to lye|water:lye|lye[ -]water|water[ -]lye)(?: ratio)?)$`)

// lyeWater reads “lye water at 2:1”: so many times as much water as there is lye, by weight.
// Common practice of soap makers, who say the water first.
func (r *reader) lyeWater(a *atom) bool {
	from, to := r.out[a.lo].from, r.out[a.hi-1].to
	m := lyeRatio.FindStringSubmatch(r.said(from, to))
	if m == nil {
		return false
	}
	var lye *Line
	for _, l := range r.good.lines {
		if of := r.read(l.Material); of != nil && of.Is(material.StrongAlkali) && l.Amount.Kind() == quantity.Mass {
			lye = l
		}
	}
	times, err := quantity.Parse(m[1] + m[2] + " parts")
	if lye == nil || err != nil || r.lineOf(r.read("water"), "water") != nil {
		return false
	}
	share, _ := times.Parts()
	amount, ok := lye.Amount.Times(int64(share.Value*100+0.5), 100)
	if !ok {
		return false
	}
	r.lineMade(a, &amountSaid{Reading: quantity.Reading{Amount: amount}, written: amount.String(), from: from, to: from}, &naming{from: from, to: from, text: "water", in: r.now})
	a.made.remark(r.asSaid(from, to))
	r.becomes(from, to, AsAmount, a.made)
	r.endAtom(a)
	return true
}
