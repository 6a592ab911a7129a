package listener

// The name of a good at the head of what is said of it.

import (
	"regexp"
	"strings"

	"keencrock/core/formula"
	"keencrock/core/quantity"
)

// forgetStrange makes talk of strange names that were said before the first good is named: “White
// board.”
func (r *reader) forgetStrange() {
	if len(r.good.lines) > 0 || len(r.waiting) == 0 {
		return
	}
	for _, n := range r.waiting {
		if r.read(n.text) != nil {
			return
		}
	}
	for _, n := range r.waiting {
		r.becomes(n.from, n.to, AsRemark, nil)
	}
	r.waiting = nil
}

// longestTitle is how many words a name of a good has at the most.
const longestTitle = 9

// title reads the name of a good at the head of a sentence, and returns where the rest
// begins: “Laundry powder: 2 kg soap flakes …”, or a line by itself before others.
func (r *reader) title(lo, hi int) int {
	for _, reads := range []func(lo, hi int) int{r.headOfPage, r.titleWithSize, r.titleCommaSize, r.announced, r.ratioHead, r.storyHead, r.talkHead} {
		if next := reads(lo, hi); next > lo {
			return next
		}
	}
	end, colon, read := r.titleEnd(lo, hi)
	if read > 0 {
		return read
	}
	if !colon && !r.mayBeTitle(lo, hi) || end == lo || r.out[end-1].to-r.out[lo].from > longestTitle {
		return lo
	}
	if colon {
		if next := r.partHead(lo, end, hi); next > lo {
			return next
		}
	}
	whole := end
	if colon {
		end = r.easyTail(lo, end)
	}
	_, _, hasKind := r.kindIn(lo, end)
	head := lo
	for head < end-1 && r.out[head].is(small|joiner) {
		head++
	}
	if first := r.toks[r.out[lo].from].word; head == lo && !hasKind && talksFirst[first] {
		return lo
	}
	if head == end-1 && head > lo && isState(r.toks[r.out[head].from].word, nil) { // “I use it neat:”
		return lo
	}
	if colon && !r.titleBefore(lo, whole, hi, hasKind) || !colon && !r.titleAlone(lo, end, hi, hasKind) {
		return lo
	}
	if next := r.titleOfNone(lo, end, hi, colon, hasKind); next > lo {
		return next
	}
	r.beginTitled(lo, end, whole, hi, colon, hasKind)
	r.nameTitled(lo, head, end, whole, colon)
	if colon {
		r.becomesWhereUnread(r.out[end].from, r.out[whole].to, AsSmallTalk, nil)
		return whole + 1
	}
	return hi
}

// headOfPage reads a head that the page showed to be one.
func (r *reader) headOfPage(lo, _ int) int { return r.headAt(lo) }

// talkHead reads a head that says how the lye was reckoned, or that what goes in follows, and names nothing.
func (r *reader) talkHead(lo, hi int) int {
	for k := lo + 1; k < min(hi, lo+longestTitle); k++ {
		if r.out[k].kind != aColon {
			continue
		}
		if r.superfatHead(lo, k) { // “lye calculated at 5 % superfat: …”
			return k + 1
		}
		if first := r.toks[r.out[lo].from].word; (first == "ingredients" || first == "ingredient") && !r.hasName(lo, k) { // “Ingredients for 1 batch:”
			r.becomes(r.out[lo].from, r.out[k].to, AsSmallTalk, nil)
			return k + 1
		}
	}
	return lo
}

// partHead reads what stands before a colon and is of a part of the good, or of no good: a field of a card, small talk, a
// measure, a phase, how much comes out. It is the mark after the colon, and lo for any other.
func (r *reader) partHead(lo, end, hi int) int {
	if next := r.fieldOf(lo, end, hi); next > lo {
		return next
	}
	if r.onlyTalk(lo, end) && !(r.good.headed && r.headsAnother(lo, end, end, hi)) { // “you'll need:”
		r.becomes(r.out[lo].from, r.out[end].to, AsSmallTalk, nil)
		return end + 1
	}
	if end+1 < hi && r.unitHead(lo, end) { // “the drops: 6 lemon, 4 lavender”
		return end + 1
	}
	if name := r.phaseNamed(lo, end); name != "" { // “dry: …, wet: …”
		r.becomes(r.out[lo].from, r.out[end].to, AsRemark, nil)
		r.good.phases = append(r.good.phases, phaseSaid{r.out[end].to, name})
		return end + 1
	}
	if r.yieldHead(lo, end) { // “for one kilo of powder:”
		return end + 1
	}
	return lo
}

// titleAlone reports whether a sentence without a colon is the name of a good: a line by itself, or short and first of all,
// with what goes in behind it.
func (r *reader) titleAlone(lo, end, hi int, hasKind bool) bool {
	if hi < len(r.out) && r.toks[r.out[hi].from].word == "?" || !r.amountsFollow(hi) {
		return false
	}
	names := r.namesGood(lo, hi) || r.titleFor(lo, hi)
	first := (lo == 0 || r.good.empty() && len(r.waiting) == 0) && hi < len(r.out) && r.out[hi].to-r.out[lo].from <= 5 && (hasKind && r.onlyKind(lo, hi) || names)
	if !r.lineAlone(lo, hi) && !r.sentenceNames(lo, hi) && !first {
		return false
	}
	return hasKind || names || r.headsParagraph(lo, hi) || !r.hasName(lo, end) && (len(r.good.lines) == 0 || r.paragraph)
}

// titleOfNone reads a title that names no good: that of a page, a heading of a list, what the goods below are all for.
func (r *reader) titleOfNone(lo, end, hi int, colon, hasKind bool) int {
	if (!colon || end+1 == hi) && !hasKind && r.good.empty() && r.headsPage(hi) { // “Saturday's list”
		r.becomes(r.out[lo].from, r.out[hi-1].to, AsSmallTalk, nil)
		return hi
	}
	if r.isHeading(lo, end) {
		r.becomes(r.out[lo].from, r.out[end-1].to, AsSmallTalk, nil)
		if colon { // “Steps: grate …”
			r.becomesWhereUnread(r.out[end].from, r.out[end].to, AsSmallTalk, nil)
			return end + 1
		}
		return hi
	}
	if colon && end+1 < hi && r.good.empty() && r.dashHead(end+1, hi) { // “all for the guest house: powder - 5 kg …”
		r.becomes(r.out[lo].from, r.out[end].to, AsSmallTalk, nil)
		return r.title(end+1, hi)
	}
	return lo
}

// beginTitled begins another good where a title names one and there is one already.
func (r *reader) beginTitled(lo, end, whole, hi int, colon, hasKind bool) {
	r.forgetStrange()
	if !r.good.empty() && (r.paragraph || colon && r.forThis(lo, end, hi) || hasKind || !colon || r.another(lo, end) || colon && r.good.headed && r.headsAnother(lo, end, whole, hi)) {
		r.newGood()
	}
}

// nameTitled gives the good the name that its title says, and its kind.
func (r *reader) nameTitled(lo, head, end, whole int, colon bool) {
	kindSaid, _, hasKind := r.kindIn(lo, end)
	said := strings.TrimSpace(r.asSaid(r.out[head].from, r.out[end-1].to))
	if end < whole {
		said = strings.TrimSuffix(strings.TrimSuffix(said, "'s"), "’s")
	}
	if r.toks[r.out[lo].from].word == "for" && hasKind { // “for the drain”, “for my kitchen spray”
		if of := forWhose.ReplaceAllString(said, ""); goodWords[lastWord(of)] && strings.Contains(of, " ") {
			said = of
		} else {
			said = kindSaid.Info().Name
		}
	}
	if r.good.Name == "" {
		r.good.Name = sentenceCase(within(titleLetters, trimOpening(said)))
		r.good.headed = colon
		r.good.forUse = colon && r.toks[r.out[lo].from].word == "for"
	}
	if hasKind {
		r.good.Kind = kindSaid
	}
	r.becomes(r.out[lo].from, r.out[end-1].to, AsName, nil)
}

// forWhose is what stands before a name of what is made.
var forWhose = regexp.MustCompile(`(?i)^for (?:the |my |our |a |an |your )?`)

// talksFirst are words that no name of a good begins with.
var talksFirst = wordSet("talksFirst")

// titleEnd is the mark that ends a name at the head of a sentence, and whether it says that a list follows: a colon, a dash,
// “is”. Of a name that is read already it is the mark that the rest begins with.
func (r *reader) titleEnd(lo, hi int) (end int, colon bool, read int) {
	for k := lo; k < hi; k++ {
		m := &r.out[k]
		if r.isCalledShort(lo, k, hi) {
			return k, true, k + 1
		}
		if r.isCalled(lo, k, hi) { // “my floor soap is one part …”
			return k, true, 0
		}
		if m.kind == aColon && (r.toks[m.from].word == ":" || r.equalsList(lo, k, hi)) || m.kind == aDash && k > lo && (k == lo+1 && k+1 < hi && r.isHeading(lo, k) || r.namesGood(lo, k) && r.hasName(k, hi) || !r.hasName(lo, k) && (k == lo+1 && goodWords[r.toks[r.out[lo].from].word] && !r.out[lo].is(step|using)) && r.hasName(k, hi) || r.isMadeOf(lo, k, hi) || r.listsAfter(lo, k, hi) || r.dashLists(lo, k, hi)) {
			return k, true, 0
		}
		if m.kind == aComma && k > lo && k+2 < hi && r.out[k+1].kind == aWord && r.out[k+2].kind == aColon && r.namesGoodOrKind(lo, k) { // “Laundry liquid, wool: …”
			k++
			continue
		}
		if r.wordOfHead(lo, k, hi) {
			continue
		}
		if m.kind == aComma && k > lo && r.out[k-1].is(pieces) && r.hasName(lo, k) && k+1 < hi && r.out[k+1].kind == anAmount && r.nameNextAt(k+1) { // “shampoo bar, sixty percent …”
			return k, true, 0
		}
		if m.kind == aComma && k > lo && r.good.empty() && r.yieldBeforeColon(k+1, hi) && r.hasName(k, hi) { // “Sachets for drawers, makes 10: …”
			return k, true, 0
		}
		if m.kind == aComma && k > lo && r.good.empty() && r.asideBefore(lo, k, hi) { // “Simple soap, my first: olive oil 1 kg, …”
			return k, true, 0
		}
		if m.kind == aComma && k+2 < hi && r.out[k+1].kind == anAmount && r.out[k+2].kind == aColon { // “Laundry powder, 3 kg: …”
			k++
			continue
		}
		if m.kind == aComma || m.kind == anAmount && !m.article && !(k == lo && m.amount.Amount.Open() == quantity.Some) && !r.startsWith(lo, yield) && !r.isHeadNumber(lo, k) || m.kind == aRatio || m.is(correct|none|scrap) {
			return hi, false, 0
		}
	}
	return hi, false, 0
}

// wordOfHead reports whether an amount at a mark is a word of a head and measures nothing: “jar two: …”, “the blue one: …”.
func (r *reader) wordOfHead(lo, k, hi int) bool {
	m := &r.out[k]
	if m.kind != anAmount {
		return false
	}
	switch {
	case k == lo && m.to < len(r.toks) && (r.toks[m.to].word == "batch" || r.toks[m.to].word == "recipe") && r.headGoesOn(k+1, hi): // “Half batch of the tabs: …”
	case m.to == m.from+1 && k > lo && k+1 < hi && r.out[k+1].kind == aColon && r.another(lo, k+1): // “jar two: …”
	case k > lo && k+1 < hi && r.out[k+1].kind == aColon && r.out[k-1].is(top): // “I make up a litre: …”
	case k > lo && m.amount.Amount.Unit() == quantity.Spritz && r.lexIs(m.to-1, kind) && r.headGoesOn(k+1, hi): // “the second is a spray for the bath: …”
	case m.to == m.from+1 && k > lo && k+1 < hi && r.out[k+1].kind == aColon && phaseWhich[r.toks[m.from].word] && phases[r.toks[m.from-1].word]: // “bowl two: …”
	case m.to == m.from+1 && r.toks[m.from].word == "one" && k > lo && k+1 < hi && r.out[k+1].kind == aColon: // “the blue one: …”
	case m.to == m.from+1 && m.from > 0 && r.toks[m.from].word == "one" && r.toks[m.from-1].word == "-": // “All-in-one sheets: …”
	case m.to == m.from+1 && k > lo && r.toks[m.from].kind == isWord && m.amount.Amount.Unit() == quantity.Bare && r.toks[m.from].word != "one" && r.toks[m.from-1].word == "the" && r.headGoesOn(k+1, hi): // “Vinegar of the four thieves: …”
	default:
		return false
	}
	return true
}

// mayBeTitle reports whether a sentence without a colon is no more than a name may be: it measures and does nothing.
func (r *reader) mayBeTitle(lo, hi int) bool {
	for k := lo; k < hi; k++ { // a line by itself
		if k == hi-1 && (k > lo || hi+1 < len(r.out) && r.out[hi+1].kind == anAmount || hi+1 < len(r.out) && r.out[hi+1].kind == aName && r.lineAlone(lo, hi)) && goodWords[r.toks[r.out[k].from].word] && r.paragraph { // “Body scrub”
			continue
		}
		if k == hi-1 && k > lo && r.good.empty() && len(r.goods) == 1 && lo == r.firstMark() && goodWords[r.toks[r.out[k].from].word] && r.out[k].to == r.out[k].from+1 && r.amountsFollow(hi) { // “Wax polish. Beeswax 100 g, …”
			continue
		}
		if r.titleFor(lo, hi) {
			return true
		}
		if m := &r.out[k]; m.kind == aComma || m.kind == anAmount && !m.article || m.kind == aRatio || m.kind == aWait || m.is(step) && !m.is(kind) && !(k == lo && r.doneNamesGood(lo, hi)) || m.is(none|correct|scrap|using|top|cover|rest|yield&^function) {
			return false
		}
	}
	return true
}

// amountsIn is how many amounts stand between two marks.
func (r *reader) amountsIn(lo, hi int) (n int) {
	for k := lo; k < hi; k++ {
		if r.out[k].kind == anAmount && !r.out[k].article {
			n++
		}
	}
	return n
}

// headGoesOn reports whether no more than words stand between a mark and a colon.
func (r *reader) headGoesOn(k, hi int) bool {
	for ; k < hi; k++ {
		switch m := &r.out[k]; {
		case m.kind == aColon:
			return true
		case m.kind == anAmount && !m.article, m.kind == aComma, m.kind == aName:
			return false
		}
	}
	return false
}

// titleLetters is how long a name of a good may be; the formula format's.
const titleLetters = 120

// titleBefore reports whether what stands before a colon names a good and not a material:
// more than its own amount follows.
func (r *reader) titleBefore(lo, colon, hi int, hasKind bool) bool {
	if r.out[colon].kind == aDash && r.good.headed && r.listsAfter(lo, colon, hi) || r.repeatsName(lo) && r.headsAnother(lo, colon, colon, hi) {
		return true
	}
	if r.toks[r.out[colon].from].word == "is" && r.isOwned(lo, colon) { // “my bleach is a quarter cup of …”
		return true
	}
	if r.good.empty() && r.toks[r.out[colon].from].word == ":" && colon > lo+1 && goodWords[r.toks[r.out[colon-1].to-1].word] && colon+1 < hi && r.out[colon+1].kind == anAmount && r.amountsIn(colon, hi) > 1 && !r.isMaterial(lo, colon) { // “Ivy detergent: 50 leaves …”
		return true
	}
	for k := lo; k < colon && !hasKind && !r.forThis(lo, colon, hi); k++ {
		if m := &r.out[k]; m.is(using) && k > lo && k+1 == colon && r.toks[r.out[lo].from].word != "to" && r.toks[r.out[lo].from].word != "for" && r.good.empty() && r.hasName(colon, hi) { // “silver dip: …”
			continue
		} else if m.is(machine) && (k+1 == colon || goodWords[r.toks[r.out[colon-1].to-1].word] && !r.hasAmount(lo, colon)) && r.good.empty() && r.hasName(colon, hi) { // “dishwasher: 2 spoons of soda …”, “Lemon dishwasher paste: …”
			continue
		} else if m.is(yield) && k <= lo+1 && k+1 < colon && r.good.empty() && r.toks[m.to-1].word == "make" { // “I make ash lye: …”
			continue
		} else if m.is(dosing|per|machine|rest|caution|using|set) || m.is(yield) && (k == lo || !m.is(function)) {
			return false
		}
	}
	if r.startsWith(lo, dosing) {
		return false
	}
	if _, to := r.variantOf(colon+1, hi); to > 0 && r.good.headed && !r.out[lo].is(step) && r.headsAnother(lo, colon, colon, hi) {
		return true
	}
	if r.forThis(lo, colon, hi) {
		return true
	}
	amounts, names, first := 0, 0, markKind(0)
	for k := colon + 1; k < hi; k++ {
		switch m := &r.out[k]; m.kind {
		case anAmount, aRatio:
			amounts++
			if u := m.amount.Amount.Unit(); m.kind == anAmount && (u.PeelOf() || u.JuiceOf() || thingOf(u) != "") {
				names++
			}
			if first == 0 {
				first = anAmount
			}
		case aName:
			names++
			if first == 0 {
				first = aName
			}
		case aComma:
			if names == 0 && amounts == 1 && first == anAmount && !(r.out[colon+1].kind == aWord && r.out[k-1].kind == anAmount && inMeasures(r.out[k-1].amount.Amount)) { // and not “hand scrub: sawdust 200 g, …”
				return false // “borax: 1 cup, …”
			}
		}
	}
	if colon+1 == hi {
		return (hasKind || !r.hasName(lo, colon)) && r.amountsFollow(hi)
	}
	if names > 1 && amounts > 1 && r.good.empty() && r.hasName(lo, colon) && colon == lo+1 && r.out[colon+1].kind == anAmount && r.nameNextAt(colon+1) { // “enzyme: 300 g peel, …”
		return true
	}
	if names > 1 && amounts > 1 && r.hasName(lo, colon) && (r.saysMore(lo, colon) || r.isMadeOf(lo, colon, hi)) { // “shampoo bar: …”, “liquid soap: 500 g olive oil, 95 g potash …”
		return true
	}
	if names > 0 && r.good.empty() && r.doesAfter(colon, hi) && !r.hasAmount(lo, colon) { // “Rosemary vinegar: stuff a jar with rosemary …”
		return true
	}
	return names > 0 && (hasKind || r.good.empty() && r.namesGood(lo, colon) || !r.hasName(lo, colon) && (amounts > 0 || len(r.good.lines) == 0))
}

// doesAfter reports whether what is done begins right after a mark.
func (r *reader) doesAfter(k, hi int) bool {
	if k+1 >= hi {
		return false
	}
	m := &r.out[k+1]
	return m.is(step|fill|cover) || doings[r.toks[m.from].word]
}

// nounsToo are words for what is done that also name what it is for.
var nounsToo = wordSet("nounsToo")

// saysMore reports whether a head has a word beside the name of a material.
func (r *reader) saysMore(lo, hi int) bool {
	for k := lo; k < hi; k++ {
		m := &r.out[k]
		if changesMuch[r.toks[m.from].word] {
			return false
		}
		if m.kind == aWord && r.toks[m.from].kind == isWord || m.is(pieces|thing|kind) {
			return true
		}
		if k == lo && nounsToo[r.toks[m.from].word] && k+1 < hi && r.out[k+1].kind == aName { // “drain soda: …”
			return true
		}
	}
	return false
}

// isHeadNumber reports whether an amount is of the good in a head: “24 dishwasher tablets”.
func (r *reader) isHeadNumber(lo, k int) bool {
	for i := lo; i < k; i++ {
		if !r.out[i].is(small | yield | joiner) {
			return false
		}
	}
	return k+1 < len(r.out) && r.out[k+1].is(kind)
}

// kindIn is the kind of good that a stretch speaks of.
func (r *reader) kindIn(lo, hi int) (k formula.Kind, name string, ok bool) {
	for i := lo; i < hi; i++ {
		if i >= len(r.out) {
			break
		}
		for at := r.out[i].from; at < r.out[i].to; at++ {
			if at > 0 && notKinds[r.toks[at-1].word+" "+r.toks[at].word] {
				continue
			}
			if m, n := r.lex.at(r.toks, at); m.is(kind) && at+n <= r.out[hi-1].to && n > best(ok, name) {
				k, name, ok = m.kind, r.said(at, at+n), true
			}
		}
	}
	return k, name, ok
}

// notKinds are two words that are not of the kind that the second is: “water softener”.
var notKinds = wordSet("notKinds")

func best(ok bool, name string) int {
	if !ok {
		return 0
	}
	return len(strings.Fields(name))
}

// lineAlone reports whether a sentence is a line by itself: a break ends it, and it
// stands at the beginning of a text or after a break.
func (r *reader) lineAlone(lo, hi int) bool {
	ends := hi < len(r.out) && r.toks[r.out[hi].from].kind == isBreak
	first := r.out[lo].from
	for first > 0 && r.toks[first-1].kind == isSign {
		first--
	}
	return ends && (first == 0 || r.toks[first-1].kind == isBreak)
}

// onlyKind reports whether a sentence is no more than a name: “Liquid detergent.”
func (r *reader) onlyKind(lo, hi int) bool {
	_, name, ok := r.kindIn(lo, hi)
	return ok && len(strings.Fields(name)) >= r.out[hi-1].to-r.out[lo].from-1
}

// goodWords end the name of a good that no list has.
var goodWords = wordSet("goodWords")

// namesGood reports whether a sentence is the name of a good and of no material.
func (r *reader) namesGood(lo, hi int) bool {
	text := r.said(r.out[lo].from, r.out[hi-1].to)
	return r.out[hi-1].to-r.out[lo].from > 1 && goodWords[lastWord(text)] && r.read(text) == nil
}

// amountsFollow reports whether the next sentences say how much of something.
func (r *reader) amountsFollow(hi int) bool {
	for k, breaks := hi, 0; k < len(r.out) && breaks < 4; k++ {
		switch m := &r.out[k]; m.kind {
		case aStop:
			breaks++
		case anAmount:
			if !m.article {
				return true
			}
		case aRatio:
			return true
		}
	}
	return false
}

// trimOpening takes the words off a title that introduce it.
func trimOpening(title string) string {
	for _, lead := range titleLeads {
		if len(title) > len(lead)+1 && title[len(lead)] == ' ' && strings.EqualFold(title[:len(lead)], lead) {
			return trimOpening(strings.TrimSpace(title[len(lead):]))
		}
	}
	title = strings.Trim(title, " #*_-–—:.")
	for _, end := range titleEnds {
		title = strings.TrimSuffix(title, " "+end)
	}
	return title
}

// titleEnds are words behind a name that say when it is made, and titleLeads those before one that introduce it, the
// longest first.
var titleEnds, titleLeads = wordList("titleEnds"), wordList("titleLeads")

func sentenceCase(s string) string {
	if strings.HasPrefix(s, "pH") {
		return s
	}
	if s == "" {
		return s
	}
	if c := s[0]; 'a' <= c && c <= 'z' {
		return string(c-'a'+'A') + s[1:]
	}
	return s
}

// within is a text of so many letters at most.
func within(most int, text string) string {
	if letters := []rune(text); len(letters) > most {
		return string(letters[:most-1]) + "…"
	}
	return text
}

// changesMuch change how much of something there is.
var changesMuch = wordSet("changesMuch")
