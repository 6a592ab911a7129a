package listener

// What goods are filled into, and how many packs there are of what came.

import (
	"regexp"
	"slices"
	"strings"

	"keencrock/core/quantity"
)

// packageWords are what goods are filled into, by the word that names them.
var packageWords = wordSet("packageWords")

// madeOf are words for what packaging is made of, or looks like.
var madeOf = wordSet("madeOf")

// packagingNext reports whether what follows is a word for what goods are filled into and
// no material comes after it.
func (d *deliveryReader) packagingNext(k int) bool {
	for ; k < len(d.out); k++ {
		m := &d.out[k]
		if m.kind == anAmount && k > 0 && d.toks[m.from-1].word == "empty" && sizedPackaging(d.amountSaid(m)) { // “25 empty 5 l canisters”
			return !d.ofMaterial(k + 1)
		}
		if m.kind == anAmount && m.to == m.from+1 && k > 0 && madeOf[d.toks[m.from-1].word] && packageWords[d.toks[m.from].word] { // “paper bags” are no measure
			return !d.ofMaterial(k + 1)
		}
		if (m.kind == aWord || m.is(small|thing)) && m.to == m.from+1 && madeOf[d.toks[m.from].word] && k+1 < len(d.out) { // “paper bags”
			continue
		}
		if m.kind == aWord && k+1 < len(d.out) && (d.toks[m.from].word == "-" || d.out[k+1].kind == aWord && d.toks[d.out[k+1].from].word == "-" && d.toks[d.out[k+1].from].tight) { // “swing-top bottles”
			continue
		}
		if m.kind == aWord && k+2 < len(d.out) && d.toks[m.from].kind == isWord && !d.isCue(m.from) && !packageWords[d.toks[m.from].word] && (packageWords[d.toks[d.out[k+1].from].word] || d.out[k+1].kind == aWord && packageWords[d.toks[d.out[k+2].from].word]) { // “swing top bottles”
			continue
		}
		if m.kind == aWord || m.is(thing|step|small) && !m.is(joiner) {
			for i := m.from; i < m.to; i++ {
				if packageWords[d.toks[i].word] {
					return !d.ofMaterial(k + 1)
				}
			}
			if m.kind == aWord && isState(d.toks[m.from].word, nil) || d.toks[m.from].word == "glass" || d.toks[m.from].word == "empty" || d.toks[m.from].word == "clear" || d.toks[m.from].word == "amber" {
				continue
			}
		}
		return false
	}
	return false
}

func (d *deliveryReader) ofMaterial(k int) bool {
	return k < len(d.out) && (d.out[k].kind == aName || k+1 < len(d.out) && d.toks[d.out[k].from].word == "of" && d.out[k+1].kind == aName)
}

// sizedPackaging reports whether an amount is of jars and says what one holds: “two dozen
// 250 ml jars”.
func sizedPackaging(said *amountSaid) bool {
	if !isVolume(said.Amount) || isPack(said.Amount.Unit()) {
		return false
	}
	before, _, _ := strings.Cut(said.written, " (")
	return packageWords[lastWord(before)]
}

// withLids reports whether jars of a size are said with what belongs to them and nothing
// that is in them: “60 jars of 720 ml with lids”.
func (d *deliveryReader) withLids(said *amountSaid, k int) bool {
	return isVolume(said.Amount) && packageWords[packageWord(said)] && k+1 < len(d.out) && d.toks[d.out[k].from].word == "with" && packageWords[d.toks[d.out[k+1].from].word]
}

// packageWord is the word for a jar that an amount ends in, before what stands in brackets:
// “24 jars (370 ml)”, “60 jars of 720 ml”.
func packageWord(said *amountSaid) string {
	before, _, _ := strings.Cut(said.written, " (")
	if jars, _, sized := strings.Cut(before, " of "); sized && !packageWords[lastWord(before)] {
		return lastWord(jars)
	}
	return lastWord(before)
}

// thingsOfPackaging reports whether a unit is itself what goods are filled into.
func thingsOfPackaging(u quantity.Unit) bool { return u == quantity.Jar || u == quantity.Bottle }

// packagingAt takes a word for the packaging that is being read.
func (d *deliveryReader) packagingAt(k int) bool {
	m := &d.out[k]
	if d.now == nil || !d.now.Package || d.now.closed || d.now.price != nil || m.kind != aWord && !m.is(thing|step|small) {
		return false
	}
	word := d.toks[m.from].word
	if m.kind == aWord && d.toks[m.from].kind == isWord && !d.isCue(m.from) || packageWords[word] {
		d.now.Name = strings.TrimSpace(d.now.Name + " " + d.said(m.from, m.to))
		d.becomes(m.from, m.to, AsMaterial, d.now.line)
		return true
	}
	return false
}

// packagesFirst begins packaging that is named before it is counted: “jars 250 ml x 48”.
func (d *deliveryReader) packagesFirst(k int) bool {
	m := &d.out[k]
	if m.kind != aWord && !m.is(thing|step|small|benchCounted) || !packageWords[d.toks[m.from].word] || d.ofMaterial(k+1) {
		return false
	}
	if before := d.now; before != nil && before.Package && before.Packs > 0 && before.price != nil && !before.closed && d.nextFact(k+1, aPrice) && strings.HasSuffix(d.toks[m.from].word, "s") { // “24 jars 0.80 each, lids 0.15 each”: as many
		l := d.lot(func(*lotSaid) bool { return true })
		l.Package, l.Name, l.Packs = true, singular(d.said(m.from, m.to)), before.Packs
		d.becomes(m.from, m.to, AsMaterial, l.line)
		return true
	}
	if l := d.now; l != nil && !(l.price != nil || l.closed || l.named() && l.amount != nil || l.Package && l.Packs > 0) {
		return false
	}
	next := k + 1
	for next < len(d.out) && next < k+5 && (d.out[next].is(small) || d.toks[d.out[next].from].word == "with" || d.out[next].kind == aComma || d.out[next].kind == aSlash || packageWords[d.toks[d.out[next].from].word] || d.out[next].kind == aWord && d.isCue(d.out[next].from)) && d.toks[d.out[next].from].word != "x" { // “lids for them, 12”
		next++
	}
	if next >= len(d.out) || d.out[next].kind != anAmount && d.out[next].kind != aColon && d.toks[d.out[next].from].word != "x" {
		return false
	}
	l := d.lot(func(*lotSaid) bool { return true })
	l.Package, l.Name = true, singular(d.said(m.from, m.to))
	d.becomes(m.from, m.to, AsMaterial, l.line)
	return true
}

// emptyPacks takes packs that have a price, and nothing that is in them, for what goods are
// filled into: “500 pouches, 0.18 each”. What follows stands at mark k.
func (d *deliveryReader) emptyPacks(k int) {
	l := d.now
	if l == nil || l.named() || l.amount == nil || l.price == nil || l.eachOf != nil && !isVolume(l.eachOf.Amount) {
		return
	}
	n, vessel := vesselCount(l.amount.Amount)
	packs, _ := packsOf(l.amount)
	sized := packs > 1 && isVolume(l.amount.Amount) && !isPack(l.amount.Amount.Unit()) && packWordIn(l.amount.written) != "" // “20 tins of 250 ml”
	if !vessel && !sized {
		return
	}
	for ; k < len(d.out) && d.out[k].kind != aComma && d.out[k].kind != aStop && !d.out[k].is(joiner); k++ {
		if d.out[k].kind == aName || d.out[k].kind == anAmount || d.out[k].kind == aWord && !d.isCue(d.out[k].from) {
			return
		}
	}
	d.becomes(l.amount.from, l.amount.to, AsPacks, l.line)
	if l.Package = true; sized {
		one, _ := l.amount.Amount.Times(1, int64(packs))
		l.Packs, l.HoldsML, l.Name = packs, millilitres(one), singular(packWordIn(l.amount.written))+" "+one.String()
		return
	}
	l.Packs, l.Name = int(n+0.5), packWord(l.amount.written, l.amount.Amount.Unit())
	if l.eachOf != nil { // “20 tins, 250 ml”
		d.holds(l.eachOf)
	}
}

// packWordIn is the word for what things are sold in among others; empty without one.
func packWordIn(written string) string {
	for _, w := range strings.Fields(strings.ToLower(written)) {
		if u, ok := quantity.UnitNamed(w); ok && isPack(u) {
			return w
		}
	}
	return ""
}

// bought are what a measure is by another name, and sits on a bottle where it is bought.
var bought = wordSet("bought")

// pumps reads the pumps that came: they are no measure where they are bought.
func (d *deliveryReader) pumps(k int, said *amountSaid) int {
	m := &d.out[k]
	terms := said.Amount.Terms()
	if len(terms) != 1 {
		d.becomes(m.from, m.to, Unread, nil)
		return k + 1
	}
	l := d.lot(func(l *lotSaid) bool { return l.named() || l.amount != nil })
	l.Package, l.Name, l.Packs = true, singular(d.toks[m.to-1].word), max(1, int(terms[0].Low.Float()+0.5))
	d.becomes(m.from, m.to, AsPacks, l.line)
	return k + 1
}

// packages reads “24 jars 1 l”, “two dozen lids”.
func (d *deliveryReader) packages(k int, said *amountSaid) int {
	m := &d.out[k]
	l := d.lot(func(l *lotSaid) bool { return l.named() || l.amount != nil })
	l.Package = true
	n, ok := said.Amount.Pieces()
	if terms := said.Amount.Terms(); ok && len(terms) == 1 { // 50 small ones are 50
		n.Value = terms[0].Low.Float()
	}
	if !ok {
		n.Value, _ = vesselCount(said.Amount)
		l.Name = packWord(said.written, said.Amount.Unit())
	}
	if sizedPackaging(said) || isVolume(said.Amount) && !isPack(said.Amount.Unit()) {
		packs, _ := packsOf(said)
		l.HoldsML, n.Value = millilitres(said.Amount)/float64(packs), float64(packs)
		l.Name = ""
		if word := packageWord(said); packageWords[word] {
			l.Name = singular(word)
		}
		if one, ok := said.Amount.Times(1, int64(packs)); ok {
			l.Name = strings.TrimSpace(l.Name + " " + one.String())
		}
	}
	l.Packs = max(1, int(n.Value+0.5))
	d.becomes(m.from, m.to, AsPacks, l.line)
	if boxes := d.boxesBefore(k); boxes > 1 { // “4 boxes of 12 jars, 8.40 per box”
		l.boxes = boxes
		l.Packs *= boxes
		d.becomes(d.out[k-1].from, m.from, AsPacks, l.line)
	}
	if before := k - 1; before >= 0 && d.out[before].kind == anAmount && d.out[before].to == m.from && d.fates[d.origin[d.out[before].from]].became == Unread { // “3 dozen 500 ml swing top bottles”
		if many, ok := d.out[before].amount.Amount.Pieces(); ok {
			l.Packs = int(many.Value + 0.5)
			d.becomes(d.out[before].from, m.from, AsPacks, l.line)
		}
	}
	next := k + 1
	for next < len(d.out) && (d.out[next].kind == aWord || d.out[next].is(thing|step) || d.out[next].is(small) && (madeOf[d.toks[d.out[next].from].word] || packageWords[d.toks[d.out[next].to-1].word]) || d.out[next].kind == anAmount && d.out[next].to == d.out[next].from+1 && madeOf[d.toks[d.out[next].from-1].word] && packageWords[d.toks[d.out[next].from].word]) && !d.isCue(d.out[next].from) {
		next++
	}
	if next > k+1 {
		l.Name = strings.TrimSpace(l.Name + " " + d.said(d.out[k+1].from, d.out[next-1].to))
		d.becomes(d.out[k+1].from, d.out[next-1].to, AsMaterial, l.line)
	}
	if next < len(d.out) && d.out[next].kind == anAmount && l.HoldsML == 0 && d.toks[d.out[next].from-1].word == "empty" && sizedPackaging(d.amountSaid(&d.out[next])) {
		size := d.amountSaid(&d.out[next])
		l.HoldsML, l.Name = millilitres(size.Amount), singular(packageWord(size))+" "+size.Amount.String()
		d.becomes(size.from, size.to, AsMaterial, l.line)
		next++
	}
	return next
}

// boxesBefore is how many boxes the jars at a mark came in, “4 boxes of”; 0 where that is not said.
func (d *deliveryReader) boxesBefore(k int) int {
	if k == 0 || d.out[k-1].kind != anAmount || d.out[k-1].to != d.out[k].from || d.toks[d.out[k-1].to-1].word != "of" || !isPack(d.out[k-1].amount.Amount.Unit()) {
		return 0
	}
	terms := d.out[k-1].amount.Amount.Terms()
	if len(terms) != 1 {
		return 0
	}
	return int(terms[0].Low.Float() + 0.5)
}

// singular is a word for one of them.
func singular(word string) string {
	for _, end := range [...]string{"es", "s"} {
		if one, ok := strings.CutSuffix(word, end); ok && (end == "s" || strings.HasSuffix(one, "x") || strings.HasSuffix(one, "ch")) {
			return one
		}
	}
	return word
}

// holds keeps what one jar holds.
func (d *deliveryReader) holds(said *amountSaid) {
	d.now.HoldsML = millilitres(said.Amount)
	d.now.Name = strings.TrimSpace(d.now.Name + " " + said.Amount.String())
	d.becomes(said.from, said.to, AsMaterial, d.now.line)
}

// lotsAreTimes takes “four lots of 500 g” for “four x 500 g”.
func (r *reader) lotsAreTimes() {
	for i := 1; i+2 < len(r.toks); i++ {
		before, t := &r.toks[i-1], &r.toks[i]
		if t.word != "lots" || r.toks[i+1].word != "of" || r.toks[i+2].kind != isNumber || before.kind != isNumber && !quantity.IsNumber(before.word) {
			continue
		}
		clean := []byte(r.clean)
		for k := t.from; k < r.toks[i+2].from; k++ {
			clean[k] = ' '
		}
		clean[t.from] = 'x'
		r.clean = string(clean)
		t.word, t.to = "x", t.from+1
		r.fates[r.origin[i+1]].became = AsSmallTalk
		r.toks, r.origin = slices.Delete(r.toks, i+1, i+2), slices.Delete(r.origin, i+1, i+2)
	}
}

// swappedFor leaves out what was given for what came: “swapped two jars of balm for a kilo of beeswax”.
func (r *reader) swappedFor() {
	m := swapped.FindStringSubmatchIndex(r.clean)
	if m == nil {
		return
	}
	r.leaveOut(m[2], m[3])
}

// swapped finds what is given away for something.
var swapped = regexp.MustCompile(`(?i)\b((?:swapped|traded|exchanged|bartered) [^,;.\n]{2,60}? for )(?:a|an|the|some|half|two|three|four|five|six|ten|\d)`)

// countsPlain takes “qty 3 - …” for “3 x …”, and “…, qty 3” for “x 3”.
func (r *reader) countsPlain() {
	r.orderedOut()
	r.swappedFor()
	r.lotsAreTimes()
	for i := 0; i+1 < len(r.toks); i++ {
		t := &r.toks[i]
		if t.word != "qty" && t.word != "quantity" {
			continue
		}
		at := i + 1
		if r.toks[at].word == ":" && at+1 < len(r.toks) {
			at++
		}
		if r.toks[at].kind != isNumber {
			continue
		}
		clean := []byte(r.clean)
		for k := t.from; k < r.toks[at].from; k++ {
			clean[k] = ' '
		}
		if dash := at + 1; (i == 0 || r.toks[i-1].kind == isBreak) && dash < len(r.toks) && (r.toks[dash].word == "-" || r.toks[dash].word == "–" || r.toks[dash].word == ":" || r.toks[dash].word == ",") {
			copy(clean[r.toks[dash].from:], "x")
			r.toks[dash].word, r.toks[dash].kind = "x", isWord
			r.fates[r.origin[i]].became = AsSmallTalk
			r.toks, r.origin = slices.Delete(r.toks, i, at), slices.Delete(r.origin, i, at)
		} else {
			copy(clean[t.from:], "x")
			t.word, t.to = "x", t.from+1
		}
		r.clean = string(clean)
	}
}

// isPack reports whether a unit is of what things are sold in, whose content has to be
// said.
// orderedOut leaves out what was ordered where less came: “came short: 8 of 10 kg salt”.
func (r *reader) orderedOut() {
	m := cameShort.FindStringSubmatchIndex(r.clean)
	if m == nil {
		return
	}
	r.leaveOut(m[3], m[1])
}

// leaveOut takes what stands between two places for small talk.
func (r *reader) leaveOut(from, to int) {
	clean := []byte(r.clean)
	for k := from; k < to; k++ {
		clean[k] = ' '
	}
	r.clean = string(clean)
	for i := len(r.toks) - 1; i >= 0; i-- {
		if t := &r.toks[i]; t.from >= from && t.to <= to {
			r.fates[r.origin[i]].became = AsSmallTalk
			r.toks, r.origin = slices.Delete(r.toks, i, i+1), slices.Delete(r.origin, i, i+1)
		}
	}
}

func isPack(u quantity.Unit) bool {
	return u == quantity.Box || u == quantity.Jar || u == quantity.Bottle || u == quantity.Bucket || u == quantity.Pot || u == quantity.Jug
}

// vesselCount is how many of a pack an amount says.
func vesselCount(a quantity.Amount) (float64, bool) {
	terms := a.Terms()
	if len(terms) != 1 || !isPack(terms[0].Unit) {
		return 1, false
	}
	return terms[0].Low.Float(), true
}

// packsOf is how many packs an amount was said as, and what is in one: “2 x 1 kg”, “two
// 500 g bags”, “a 25 kg bag”.
func packsOf(said *amountSaid) (packs int, one string) {
	text := strings.ToLower(said.written)
	one = said.Amount.String()
	inPacks := strings.ContainsAny(text, "x×") && timesSign(text)
	if !inPacks {
		for _, w := range strings.FieldsFunc(text, func(r rune) bool { return r == ' ' || r == '-' || r == '(' || r == ')' }) {
			if u, ok := quantity.UnitNamed(w); ok && (isPack(u) || u == quantity.Bar) {
				inPacks = true
			}
		}
	}
	if !inPacks { // “six 1 kg packs”
		_, n := wordNumber(text)
		rest := strings.TrimLeft(text[n:], " ")
		inPacks = n > 0 && rest != "" && isDigit(rest[0])
	}
	if !inPacks {
		return 1, one
	}
	text = timesTight.ReplaceAllString(text, "$1 x ")
	n, length := wordNumber(text)
	if length == 0 {
		return 1, one
	}
	count := int(n.IntPart())
	if count < 1 || unitTight(text, length) {
		return 1, one
	}
	if part, ok := said.Amount.Times(1, int64(count)); ok && count > 1 {
		one = part.String()
	}
	return count, one
}

var timesTight = regexp.MustCompile(`(\d)\s*[x×]\s*`)

// timesSign reports whether an x stands between two numbers.
func timesSign(text string) bool {
	for i, r := range text {
		if r != 'x' && r != '×' {
			continue
		}
		before := strings.TrimRight(text[:i], " ")
		after := strings.TrimLeft(strings.TrimLeft(text[i:], "x×"), " ")
		if before != "" && after != "" && isDigit(after[0]) {
			return true
		}
	}
	return false
}

// unitTight reports whether the number at the head of a text is of a measure: “25 kg bag”.
func unitTight(text string, n int) bool {
	rest := strings.TrimLeft(text[n:], " -")
	word := rest
	if end := strings.IndexAny(rest, " -()"); end >= 0 {
		word = rest[:end]
	}
	u, ok := quantity.UnitNamed(word)
	return ok && !isPack(u) && u != quantity.Bar
}
