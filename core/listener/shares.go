package listener

// A ratio that is said first, and its numbers after it.

import (
	"regexp"
	"slices"

	"keencrock/core/quantity"
)

// shareHead is a head that says no more than a ratio: “so the recipe is six to one”.
var shareHead = regexp.MustCompile(`(?i)^(?:(?:so|ok|okay|the|my|our|this|it|it's|its|is|at|of|in|a|by|weight|volume|ratio|recipe|proportions?|mix|formula|all|goes) )*(\w+)(?: ?: ?| to )(\w+)(?:(?: ?: ?| to )(\w+))?(?: (?:ratio|mix|by weight|by volume))?$`)

// sharesHead is a head that says that parts follow, and not how many.
var sharesHead = regexp.MustCompile(`(?i)^(?:the |in |my )*(?:ratios?|proportions?|parts)(?: (?:by|in) (?:weight|mass|volume|parts))?(?: (?:is|are))?$`)

// ratioHead reads a head that is a ratio, “six to one: six soda, one percarbonate”: the bare
// numbers behind it are parts. It is the mark after the head; lo where there is none.
func (r *reader) ratioHead(lo, hi int) int {
	for k := lo + 1; k < min(hi, lo+longestTitle); k++ {
		m := &r.out[k]
		if m.kind != aColon && m.kind != aDash {
			continue
		}
		text := r.said(r.out[lo].from, r.out[k-1].to)
		if sharesHead.MatchString(text) && r.hasName(k+1, hi) { // “ratio by weight: soda 5, soap 2”
			r.becomes(r.out[lo].from, m.to, AsRemark, nil)
			r.good.shares = []quantity.Amount{quantity.Of(1, 1, quantity.Part)}
			return k + 1
		}
		said := shareHead.FindStringSubmatch(text)
		if said == nil {
			continue
		}
		shares := shareNumbers(slices.DeleteFunc(said[1:], func(s string) bool { return s == "" }))
		if len(shares) < 2 || !r.numbersFollow(k+1, hi, shares) {
			continue
		}
		r.becomes(r.out[lo].from, m.to, AsRemark, nil)
		r.good.shares = shares
		return k + 1
	}
	return lo
}

// numbersFollow reports whether the bare numbers after a head are its shares, in their order.
func (r *reader) numbersFollow(k, hi int, shares []quantity.Amount) bool {
	n := 0
	for ; k < hi && n < len(shares); k++ {
		if m := &r.out[k]; m.kind == anAmount {
			count, bare := m.amount.Amount.Pieces()
			share, _ := shares[n].Parts()
			if !bare || m.amount.Amount.Unit() != quantity.Bare || count.Value != share.Value {
				return false
			}
			n++
		}
	}
	return n == len(shares)
}

// inShares gives the bare numbers behind a ratio their unit: parts.
func (g *Good) inShares() {
	if len(g.shares) == 0 {
		return
	}
	for _, l := range g.lines {
		if l.Amount.Unit() != quantity.Bare {
			continue
		}
		if with, ok := l.Amount.InUnitOf(g.shares[0]); ok {
			l.Amount, l.Written = with, with.String()
		}
	}
}
