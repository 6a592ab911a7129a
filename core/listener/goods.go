package listener

// Where one good ends and the next begins.

import (
	"strings"

	"keencrock/core/quantity"
)

// titleWithSize reads a name with how much it is in brackets behind it, a line by itself or before a
// colon: “Glass cleaner (500 ml bottle)”, “Rinse aid (500 ml): …”. Where goods are listed by their
// heads it needs no brackets: “Glass 500 ml: …”.
func (r *reader) titleWithSize(lo, hi int) int {
	open := lo + 1
	for open < min(hi, lo+longestTitle) && r.out[open].kind != anOpening && r.out[open].kind != anAmount {
		open++
	}
	if open+1 >= hi || r.hasKind(lo, open, aComma) || r.hasKind(lo, open, aColon) {
		return lo
	}
	if r.out[open].kind == anAmount {
		return r.titleThenSize(lo, open, hi)
	}
	closing := r.closing(open, hi)
	ends := closing == hi-1 && r.lineAlone(lo, hi) && r.amountsFollow(hi)
	colon := closing+1 < hi && r.out[closing+1].kind == aColon
	if !ends && !colon {
		return lo
	}
	_, _, hasKind := r.kindIn(lo, open)
	if share := r.sharedIn(open+1, closing); colon && share.open() && (r.namesGood(lo, open) || hasKind) {
		r.named(lo, open)
		r.becomes(r.out[open].from, r.out[closing+1].to, AsAmount, nil)
		r.good.headed, r.shared = true, share
		return closing + 2
	}
	size := open + 1
	for size < closing && r.out[size].is(small|fill|yield) { // “(fills a 1 l jar)”
		size++
	}
	if size >= closing || r.out[size].kind != anAmount || r.out[size].article {
		return lo
	}
	said := r.amountSaid(&r.out[size])
	if said.Amount.Open() != quantity.NotOpen || !hasKind && !r.namesGood(lo, open) && !r.isSoapAhead(lo, hi) && !(ends && r.paragraph && !r.hasName(lo, open)) && !(colon && r.good.headed && r.headsAnother(lo, open, closing+1, hi)) || colon && !r.hasAmount(closing+1, hi) {
		return lo
	}
	r.named(lo, open)
	if size+1 == closing && (holds(said.Amount) || isWhole(said.Amount) || said.Amount.Unit() == quantity.Bare && r.out[open-1].is(pieces|kind) && strings.HasSuffix(r.toks[r.out[open-1].to-1].word, "s")) { // and not “(500 g oils)”
		r.yields(said)
	}
	if !colon {
		r.becomesWhereUnread(r.out[open].from, r.out[hi-1].to, AsYield, nil)
		return hi
	}
	r.good.headed = true
	r.becomesWhereUnread(r.out[open].from, r.out[closing].to, AsYield, nil)
	r.becomes(r.out[closing+1].from, r.out[closing+1].to, AsSmallTalk, nil)
	return closing + 2
}

// titleCommaSize reads the line “Dish soap block, 2 blocks” before a list.
func (r *reader) titleCommaSize(lo, hi int) int {
	comma := lo + 1
	for comma < min(hi, lo+longestTitle) && r.out[comma].kind != aComma && r.out[comma].kind != anAmount {
		comma++
	}
	if comma+1 >= hi || comma+3 < hi || r.out[comma].kind != aComma || r.out[comma+1].kind != anAmount || r.out[comma+1].article || !r.good.empty() || !r.lineAlone(lo, hi) || !r.listBegins(hi+1) {
		return lo
	}
	said := r.amountSaid(&r.out[comma+1])
	if comma+3 == hi && !r.out[comma+2].is(pieces|uses) || said.Amount.Open() != quantity.NotOpen || !r.namesGoodOrKind(lo, comma) && !r.saysMore(lo, comma) || r.isMaterial(lo, comma) {
		return lo
	}
	r.named(lo, comma)
	r.good.headed = true
	if !(comma+3 == hi && r.out[comma+2].isUses()) {
		r.yields(said)
	}
	r.becomesWhereUnread(r.out[comma].from, r.out[hi-1].to, AsYield, nil)
	return hi
}

// sharedIn is what all that is listed behind a head has the same of, “(equal parts, 250 g each)”, “(100 g
// each)”; nothing where the marks say anything else.
func (r *reader) sharedIn(lo, hi int) (s sharing) {
	for k := lo; k < hi; k++ {
		switch m := &r.out[k]; {
		case m.kind == aRatio && len(m.shares) == 1 && s.said == nil: // “equal parts”
			s = sharing{said: &amountSaid{Reading: quantity.Reading{Amount: m.shares[0]}, written: m.shares[0].String(), from: m.from, to: m.to}, all: true}
		case m.kind == aComma, m.is(small | joiner):
		case m.kind == anAmount && m.amount.Amount.Open() == quantity.NotOpen && k+1 < hi && r.out[k+1].is(each):
			s = sharing{said: r.amountSaid(m), all: true}
		case m.is(each) && s.said != nil:
		default:
			return sharing{}
		}
	}
	return s
}

// titleThenSize reads “Glass 500 ml: …” in a list of goods that have such heads.
func (r *reader) titleThenSize(lo, size, hi int) int {
	m := &r.out[size]
	_, _, hasKind := r.kindIn(lo, size)
	names := (hasKind || r.namesGood(lo, size)) && !r.hasName(lo, size) && !variantEnds[r.toks[m.from-1].word] && r.toks[m.from-1].word != "per" && r.toks[m.from-1].word != "for" && !r.hasAny(lo, size, step|using|dosing|per|yield|none|correct) && (r.hasAmount(size+2, hi) || r.hasKind(size+2, hi, aRatio))
	if !r.good.headed && !names || size+1 >= hi || r.out[size+1].kind != aColon || m.article || m.amount.Amount.Open() != quantity.NotOpen || !holds(m.amount.Amount) && !isWhole(m.amount.Amount) || !names && !r.headsAnother(lo, size, size+1, hi) {
		return lo
	}
	r.named(lo, size)
	r.good.headed = true
	r.yields(r.amountSaid(m))
	r.becomesWhereUnread(m.from, r.out[size+1].to, AsYield, nil)
	return size + 2
}

// headsAnother reports whether a head in a list of goods, each with its name before a colon, names
// the next: no part of the one before, and what goes into it follows, more than one thing, or how it
// differs from one before. The name ends at a mark, and the list begins after the colon.
func (r *reader) headsAnother(lo, end, colon, hi int) bool {
	if r.out[end-1].to-r.out[lo].from > 3 || r.hasAmount(lo, end) {
		return false
	}
	if _, to := r.variantOf(colon+1, hi); to > 0 && (!r.hasName(lo, end) || !r.isMaterial(lo, end)) {
		return true
	}
	if r.hasName(lo, end) {
		return false
	}
	for i := r.out[lo].from; i < r.out[end-1].to; i++ {
		if partsOfGood[r.toks[i].word] {
			return false
		}
	}
	amounts, names := 0, 0
	for k := colon + 1; k < hi; k++ {
		switch m := &r.out[k]; {
		case m.kind == anAmount && !m.article:
			amounts++
			if u := m.amount.Amount.Unit(); u.PeelOf() || thingOf(u) != "" {
				names++
			}
		case m.kind == aRatio:
			amounts += 2
		case m.kind == aName:
			names++
		}
	}
	return amounts > 1 && names > 1 || end < colon && amounts > 0 && names > 0
}

// partsOfGood are words for a part of one good, which head what goes into that.
var partsOfGood = wordSet("partsOfGood")

// isSoapAhead reports whether a head is “soap” and the lye that one is made with follows.
func (r *reader) isSoapAhead(lo, hi int) bool {
	if r.toks[r.out[lo].from].word != "soap" || r.out[lo].to != r.out[lo].from+1 {
		return false
	}
	for k := hi; k < len(r.out); k++ {
		if r.out[k].kind != aName {
			continue
		}
		if m := r.read(r.said(r.out[k].from, r.out[k].to)); m != nil && (m.ID == "sodium-hydroxide" || m.ID == "potassium-hydroxide") {
			return true
		}
	}
	return false
}

// announced reads what says that a good begins, with its name behind it: “Recipe 2: Scent booster.”,
// “Second, oven cleaner, half a cup of …”.
func (r *reader) announced(lo, hi int) int {
	if next := r.callIt(lo, hi); next > lo {
		return next
	}
	if r.countsGoods(lo, hi) {
		r.becomes(r.out[lo].from, r.out[hi-1].to, AsSmallTalk, nil)
		return hi
	}
	word := r.toks[r.out[lo].from].word
	if recipeWords[word] {
		for k := lo + 1; k < min(hi, lo+4); k++ {
			if r.out[k].kind != aColon || k+1 >= hi || r.hasAmount(k+1, hi) || !r.amountsFollow(hi) {
				continue
			}
			if _, _, hasKind := r.kindIn(k+1, hi); !hasKind && !r.namesGood(k+1, hi) {
				return lo
			}
			r.becomes(r.out[lo].from, r.out[k].to, AsSmallTalk, nil)
			r.named(k+1, hi)
			return hi
		}
	}
	if next := r.piecesAhead(lo, hi); next > lo {
		return next
	}
	if (ordinals[word] || word == "first") && lo+2 < hi && r.out[lo+1].kind == aColon && (word == "first" || r.good.headed) && r.hasName(lo+2, hi) && r.hasAmount(lo+2, hi) && !r.out[lo+2].is(step) { // “First: 1 kg …”
		if word != "first" {
			r.newGood()
		}
		r.good.headed = true
		r.becomes(r.out[lo].from, r.out[lo+1].to, AsSmallTalk, nil)
		if lo+4 < hi && r.out[lo+3].kind == aComma && r.out[lo+2].is(kind|pieces) { // “Second: tabs, 400 g …”
			r.named(lo+2, lo+3)
			return lo + 4
		}
		return lo + 2
	}
	if ordinals[word] && lo+2 < hi && r.out[lo+1].kind == aComma && !r.good.empty() {
		for k := lo + 3; k < min(hi, lo+8); k++ {
			if r.out[k].kind != aComma {
				continue
			}
			_, _, hasKind := r.kindIn(lo+2, k)
			if !hasKind && !r.namesGood(lo+2, k) || r.hasAmount(lo+2, k) || k+1 >= hi || r.out[k+1].kind != anAmount {
				return lo
			}
			r.becomes(r.out[lo].from, r.out[lo+1].to, AsSmallTalk, nil)
			r.named(lo+2, k)
			return k + 1
		}
	}
	return lo
}

// named begins a good where another was read, and gives it the name between two marks.
func (r *reader) named(lo, hi int) {
	if !r.good.empty() || len(r.waiting) > 0 {
		r.newGood()
	}
	if k, _, ok := r.kindIn(lo, hi); ok {
		r.good.Kind = k
	}
	r.good.Name = sentenceCase(within(titleLetters, trimOpening(strings.TrimSpace(r.asSaid(r.out[lo].from, r.out[hi-1].to)))))
	r.becomes(r.out[lo].from, r.out[hi-1].to, AsName, nil)
}

var (
	recipeWords = wordSet("recipeWords")
	ordinals    = wordSet("ordinals")
)

// forThis reports whether a head says what a good is for, “For lime: …”, and more than one
// thing goes into it.
func (r *reader) forThis(lo, colon, hi int) bool {
	if r.toks[r.out[lo].from].word != "for" || r.out[colon-1].to-r.out[lo].from > 4 || r.hasAmount(lo, colon) {
		return false
	}
	if (r.good.forUse || r.good.empty() && len(r.goods) == 1 && len(r.waiting) == 0) && r.forAgain(colon) {
		return r.hasName(colon, hi) && r.hasAmount(colon, hi)
	}
	amounts, names := 0, 0
	for k := colon; k < hi; k++ {
		switch r.out[k].kind {
		case anAmount:
			amounts++
		case aName:
			names++
		}
	}
	if names > 0 && r.good.empty() && len(r.goods) == 1 && lo == r.firstMark() && r.toks[r.out[colon].from].word == ":" { // “For mould: neat vinegar, …”
		return true
	}
	return amounts > 1 && names > 1
}

// another reports whether a head says that another good begins: “Second batch”.
func (r *reader) another(lo, hi int) bool {
	for i := r.out[lo].from; i < r.out[hi-1].to; i++ {
		switch r.toks[i].word {
		case "batch", "version", "option", "variant", "jar", "mix", "recipe", "powder", "spray", "bar", "tub": // “Batch B”, “Jar two”
			if i == r.out[lo].from && i+2 == r.out[hi-1].to && (len(r.toks[i+1].word) == 1 || r.toks[i+1].kind == isNumber || quantity.IsNumber(r.toks[i+1].word)) {
				return true
			}
		case "one":
			if i+1 == r.out[hi-1].to && i > r.out[lo].from {
				return true
			}
		case "second", "third", "fourth", "next", "another", "other", "2nd", "3rd":
			return true
		}
	}
	return false
}

// newGood begins another good.
func (r *reader) newGood() {
	r.settle()
	r.askMentioned()
	r.good = &Good{Kind: "other"}
	r.goods = append(r.goods, r.good)
	r.memory = memory{}
}

// listsAfter reports whether a dash ends a short name that is none of a material, and how much of
// something follows at once: “Wipes - 500 ml water, …”.
func (r *reader) listsAfter(lo, dash, hi int) bool {
	for i := r.out[lo].from; i < r.out[dash].from; i++ {
		if partsOfGood[r.toks[i].word] {
			return false
		}
	}
	if k := dash + 1; k+1 < hi && r.out[k].kind == aName && r.out[k+1].kind == anAmount && r.hasKind(k+2, hi, anAmount) && r.out[dash].from-r.out[lo].from < 3 && !r.hasName(lo, dash) && !r.hasAmount(lo, dash) && (r.good.headed || !r.hasAny(lo, dash, step|dosing)) { // “toilet - citric 100 g, bicarb 200 g”
		return true
	}
	if r.out[dash].from-r.out[lo].from > 3 || r.hasName(lo, dash) || r.hasAmount(lo, dash) || !r.good.headed && r.hasAny(lo, dash, step|using|dosing) {
		return false
	}
	return dash+1 < hi && r.out[dash+1].kind == anAmount && !r.out[dash+1].article && r.nameNextAt(dash+1) && (r.good.headed || r.hasKind(dash+2, hi, anAmount))
}

// forAgain reports whether goods are listed by what they are for, “For the kettle: …”: another line
// has such a head, or the good before had one.
func (r *reader) forAgain(from int) bool {
	if r.good.forUse {
		return true
	}
	for i := r.out[from].from; i+2 < len(r.toks); i++ {
		if r.toks[i].kind != isBreak || r.toks[i+1].word != "for" {
			continue
		}
		for k := i + 2; k < min(len(r.toks), i+6) && r.toks[k].kind == isWord; k++ {
			if k+1 < len(r.toks) && r.toks[k+1].word == ":" {
				return true
			}
		}
	}
	return false
}

// callIt reads “OK, a new one, call it Scullery paste: …”.
func (r *reader) callIt(lo, hi int) int {
	for k := lo; k < min(hi, lo+longestTitle); k++ {
		if m := &r.out[k]; m.kind == aName || m.kind == anAmount && !m.article && r.toks[m.from].word != "one" || m.kind == aColon {
			return lo
		}
		i := r.out[k].from
		if r.toks[i].word != "call" || i+1 >= len(r.toks) || r.toks[i+1].word != "it" && r.toks[i+1].word != "this" {
			continue
		}
		from := k
		for from < hi && r.out[from].from < i+2 {
			from++
		}
		colon := from
		for colon < hi && r.out[colon].kind != aColon && r.out[colon].kind != aComma {
			colon++
		}
		if colon == from || colon == hi || r.out[colon-1].to-r.out[from].from > 5 || !r.hasAmount(colon, hi) {
			return lo
		}
		r.becomes(r.out[lo].from, i+2, AsSmallTalk, nil)
		r.named(from, colon)
		r.good.headed = true
		r.becomes(r.out[colon].from, r.out[colon].to, AsSmallTalk, nil)
		return colon + 1
	}
	return lo
}

// countsGoods reports whether a sentence says no more than how many goods follow: “2 batches today.”
func (r *reader) countsGoods(lo, hi int) bool {
	if last := r.toks[r.out[hi-1].to-1].word; manyGoods[last] && r.good.empty() && len(r.waiting) == 0 && r.out[hi-1].to-r.out[lo].from <= 4 && !r.hasAmount(lo, hi) && r.lineAlone(lo, hi) { // “Soap recipes”
		return true
	}
	if hi-lo < 2 || hi-lo > 5 || hi == len(r.out) || r.out[lo].kind != anAmount || r.hasName(lo, hi) || r.hasKind(lo, hi, aComma) || !r.good.empty() {
		return false
	}
	for i := r.out[lo].from; i < r.out[hi-1].to; i++ {
		if manyGoods[r.toks[i].word] {
			return true
		}
	}
	return false
}

// manyGoods are words for goods, several of which are told of.
var manyGoods = wordSet("manyGoods")

// headsPage reports whether what stands before a mark is the head of a page and names no good: the
// next line is the head of one itself.
func (r *reader) headsPage(hi int) bool {
	lo := hi
	for lo < len(r.out) && (r.out[lo].kind == aStop || r.out[lo].kind == aBullet) {
		lo++
	}
	blank := lo > hi && r.toks[r.out[lo-1].from].blank
	for k := lo; k < min(len(r.out), lo+5); k++ {
		m := &r.out[k]
		switch {
		case m.kind == aColon || m.kind == aDash:
			end := k
			for end < len(r.out) && r.out[end].kind != aStop {
				end++
			}
			_, _, hasKind := r.kindIn(lo, k)
			return k > lo && !r.hasName(lo, k) && r.phaseNamed(lo, k) == "" && r.hasAmount(k, end) && (hasKind || r.namesGood(lo, k) || m.kind == aDash && r.listsAfter(lo, k, end))
		case m.kind == aStop:
			if r.toks[m.from].kind != isBreak || k == lo {
				return false
			}
			_, _, hasKind := r.kindIn(lo, k)
			hasKind = hasKind || r.hasName(lo, k) && r.saysMore(lo, k) && !r.isMaterial(lo, k)
			return blank && k+1 < len(r.out) && r.out[k+1].kind == anAmount && (hasKind || r.namesGood(lo, k)) && !r.isHeading(lo, k) && r.phaseNamed(lo, k) == ""
		case m.kind == anAmount, m.kind == aComma, m.is(dosing | per):
			return false
		}
	}
	return false
}

// titleFor reads the first sentence of all as a name where that says what the good is for, and no
// more: “Lavender water for ironing.”
func (r *reader) titleFor(lo, hi int) bool {
	if lo != 0 || hi-lo < 3 || r.out[hi-1].to-r.out[lo].from > 6 || r.hasAny(lo, hi, none|correct|scrap|step|dosing) {
		return false
	}
	for i := r.out[lo].from + 2; i+1 < r.out[hi-1].to; i++ {
		if r.toks[i].word == "for" {
			return r.read(r.said(r.out[lo].from, i)) == nil || r.lineAlone(lo, hi) && r.listBegins(hi+1)
		}
	}
	return false
}

// headsParagraph reports whether a line by itself after a blank one is the name of a good, though the
// name of a material is part of it: “Floor soap”, and an amount begins the next line.
func (r *reader) headsParagraph(lo, hi int) bool {
	return (r.paragraph || lo == 0) && r.listBegins(hi+1) && r.lineAlone(lo, hi) && (r.saysMore(lo, hi) || r.namesTwo(lo, hi)) && !r.isMaterial(lo, hi)
}

// namesTwo reports whether no more than the names of two materials stand side by side: “SOAP NUT SHAMPOO”.
func (r *reader) namesTwo(lo, hi int) bool {
	return hi == lo+2 && r.out[lo].kind == aName && r.out[lo+1].kind == aName
}

// listBegins reports whether the first line of a list begins at a mark: an amount, or what a line is for.
func (r *reader) listBegins(k int) bool {
	for k < len(r.out) && (r.out[k].kind == aStop || r.out[k].kind == aBullet || r.out[k].kind == aDash) {
		k++
	}
	for at := k + 1; at < min(len(r.out), k+5); at++ { // “What you need: …”
		if r.out[at].kind == aColon && r.isHeading(k, at) {
			k = at + 1
			break
		}
	}
	return k < len(r.out) && (r.out[k].kind == anAmount || r.headsPart(k, len(r.out)))
}

// namesGoodOrKind reports whether a stretch is the name of a good, or a kind of one.
func (r *reader) namesGoodOrKind(lo, hi int) bool {
	_, _, hasKind := r.kindIn(lo, hi)
	return hasKind && !r.hasName(lo, hi) || r.namesGood(lo, hi)
}

// sentenceNames reports whether a short sentence at the beginning of a line is the name of a good, and
// what goes into it follows at once: “Furniture spray. Olive oil 50 ml, …”.
func (r *reader) sentenceNames(lo, hi int) bool {
	first := r.out[lo].from
	if hi+2 >= len(r.out) || r.toks[r.out[hi].from].word != "." || first > 0 && r.toks[first-1].kind != isBreak || r.out[hi-1].to-first > 4 || !r.namesGoodOrKind(lo, hi) {
		return false
	}
	next, after := &r.out[hi+1], &r.out[hi+2]
	return next.kind == anAmount && !next.article && r.nameNextAt(hi+1) || next.kind == aName && after.kind == anAmount
}

// dashHead reports whether a stretch begins with a head that a dash ends.
func (r *reader) dashHead(lo, hi int) bool {
	for k := lo + 1; k < min(hi, lo+4); k++ {
		if r.out[k].kind == aDash {
			_, _, hasKind := r.kindIn(lo, k)
			return !r.hasName(lo, k) && !r.hasAmount(lo, k) && r.hasAmount(k, hi) && (hasKind || r.namesGood(lo, k) || goodWords[r.toks[r.out[lo].from].word] || r.listsAfter(lo, k, hi))
		}
	}
	return false
}

// piecesAhead reads “Also 20 tabs: …” after another good: how many there are of the next.
func (r *reader) piecesAhead(lo, hi int) int {
	k := lo
	for k < hi && r.out[k].is(small|joiner) && !r.out[k].is(step|dosing|per) {
		k++
	}
	if k+2 >= hi || r.out[k].kind != anAmount || r.out[k].article || r.out[k+1].kind != aColon || len(r.good.lines) == 0 || !r.hasName(k+2, hi) || !r.hasAmount(k+2, hi) {
		return lo
	}
	said := r.amountSaid(&r.out[k])
	if n, pieces := said.Amount.Pieces(); !pieces || n.Value < 2 || said.Amount.Unit() == quantity.Bare {
		return lo
	}
	r.newGood()
	r.good.headed = true
	r.yields(said)
	r.becomes(r.out[lo].from, r.out[k+1].to, AsYield, nil)
	return k + 2
}

// repeatsName reports whether a head begins with the word that the name of the good before begins
// with: “Laundry, whites: …”, “Laundry, colours: …”.
func (r *reader) repeatsName(lo int) bool {
	first, _, _ := strings.Cut(r.good.Name, " ")
	return r.good.headed && first != "" && strings.EqualFold(strings.Trim(first, ",:-"), r.toks[r.out[lo].from].word)
}

// isMaterial reports whether a stretch as a whole is the name of a material.
func (r *reader) isMaterial(lo, hi int) bool {
	return r.read(r.said(r.out[lo].from, r.out[hi-1].to)) != nil
}
