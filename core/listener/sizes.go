package listener

// How much a part is, and what a maker's own cup or scoop holds: “where one part is 100 g”, “a
// cup being one part”, “my scoop is 30 ml”.

import (
	"regexp"
	"slices"
	"strings"

	"keencrock/core/quantity"
)

var (
	partIs = regexp.MustCompile(`(?i)(?:^|[ ,(])((?:(?:where|with|when|if|so|and|say|or) )*(?:each|one|1|a|the|my|your|every) part(?: here| for me| for us| in mine| in my case)? (?:is|=|being|equals|equal to|means|as|of|can be|could be|holds)(?: (?:equal to|about|roughly|around|say|worth))* )(\S.*)$`)
	isPart = regexp.MustCompile(`(?i)(?:^|[ ,(])((?:(?:where|with|when|if|so|and|say|or|using|use|i use|i take|taking|take|having|i have) )*)((?:a|an|one|1|my|half a|\d+)\b.*\S) (?:being|is|=|equals|as|for|per|makes|counts as)(?: equal to)? (?:one|1|a|each|every|my|the|your) part$`)
)

// partSize keeps how much a part is, where an atom from lo to hi ends so, and returns the mark
// that it begins with; hi where it says no such thing.
func (r *reader) partSize(lo, hi int) int {
	from, to := r.out[lo].from, r.out[hi-1].to
	start, end := r.toks[from].from, r.toks[to-1].to
	text := r.clean[start:end]
	if !strings.Contains(strings.ToLower(text), " part") && !strings.HasPrefix(strings.ToLower(text), "part") {
		return hi
	}
	at, size := -1, ""
	if m := partIs.FindStringSubmatchIndex(text); m != nil {
		at, size = m[2], text[m[4]:m[5]]
	} else if m := isPart.FindStringSubmatchIndex(text); m != nil {
		at, size = m[2], text[m[4]:m[5]]
	}
	if at < 0 {
		return hi
	}
	size = strings.TrimRight(strings.TrimSpace(size), " .)")
	reading, ok := quantity.ReadSaid(size)
	if !ok || reading.At < len(size) || reading.Amount.Open() != quantity.NotOpen || !holds(reading.Amount) {
		return hi
	}
	tok := r.tokenAt(from, start+at)
	for k := lo; k < hi; k++ {
		if r.out[k].from < tok {
			continue
		}
		if r.out[k].from > tok {
			return hi
		}
		r.sized(quantity.Part, reading.Amount)
		r.becomes(tok, to, AsAmount, nil)
		return k
	}
	return hi
}

// sized keeps how much one of a unit is.
func (r *reader) sized(u quantity.Unit, a quantity.Amount) {
	if r.good.sizes == nil {
		r.good.sizes = map[quantity.Unit]quantity.Amount{}
	}
	r.good.sizes[u] = a
}

// sizeIn keeps how much a scoop or a mug of the maker's own holds, where tokens say that and
// nothing else: what is said in them is worked out in the end.
func (r *reader) sizeIn(from, to int) bool {
	at := from
	own := false
	for at < to && (sizeLeads[r.toks[at].word] || r.toks[at].kind == isSign) {
		own = own || articles[r.toks[at].word] || r.toks[at].word == "one" || r.toks[at].word == "each" || r.toks[at].word == "1"
		at++
	}
	if at+1 >= to {
		return false
	}
	word := r.toks[at].word
	u, ok := quantity.UnitNamed(strings.TrimSuffix(word, "'s"))
	if !ok || u.Kind() != quantity.Volume {
		return false
	}
	at++
	switch verb := r.toks[at].word; {
	case strings.HasSuffix(word, "'s"): // “scoop's 25 grams”
		own = true
	case verb == "=" || verb == "holds" || verb == "takes" || own && (verb == "is" || verb == "means" || verb == "being" || verb == "equals"):
		at++
	default:
		return false
	}
	if at >= to || !own && !r.measuredIn(u) { // “scoop = 2 tablespoons”, of nothing that goes in, is a dose
		return false
	}
	text := strings.TrimRight(r.clean[r.toks[at].from:r.toks[to-1].to], " .,:;)")
	reading, ok := quantity.ReadSaid(text)
	if !ok || reading.At < len(text) || !holds(reading.Amount) || isVessel(reading.Amount.Unit()) || reading.Amount.Unit() == u {
		return false
	}
	r.sized(u, reading.Amount)
	return true
}

// ofEachPiece keeps what one piece of what is made weighs: “30 gram pucks”, which is no yield.
func (r *reader) ofEachPiece(said *amountSaid) bool {
	if said.Amount.Open() != quantity.NotOpen || said.Amount.Kind() != quantity.Mass {
		return false
	}
	if said.from > 1 && r.toks[said.from-1].word == "of" && (r.lexIs(said.from-2, pieces) || r.lexIs(said.from-2, kind)) && !r.good.Yield.IsZero() { // “makes 14 bath bombs of 100 g”
		r.becomes(said.from-1, said.to, AsYield, nil)
		return true
	}
	if to := r.inEachVessel(said.to); to > 0 { // “350 g in each jar”
		r.good.Notes = append(r.good.Notes, sentenceCase(r.asSaid(said.from, to))+".")
		r.becomes(said.from, to, AsRemark, nil)
		return true
	}
	if !r.lexIs(said.to, pieces) {
		return false
	}
	r.good.Notes = append(r.good.Notes, sentenceCase(r.asSaid(said.from, said.to+1))+".")
	r.becomes(said.from, said.to+1, AsRemark, nil)
	return true
}

// inEachVessel is the token after “in each jar” at another; 0 where no such thing stands there.
func (r *reader) inEachVessel(at int) int {
	if at < len(r.toks) && r.toks[at].word == "in" {
		at++
	}
	if at+1 >= len(r.toks) || r.toks[at].word != "each" && r.toks[at].word != "per" && r.toks[at].word != "every" {
		return 0
	}
	if u, ok := quantity.UnitNamed(r.toks[at+1].word); ok && (u == quantity.Jar || u == quantity.Bottle || u == quantity.Box) {
		return at + 2
	}
	return 0
}

// isPartSize takes what is used at the end of what was said in parts, and not at a time, for the
// size of a part: “3 parts soda, 1 part salt, I use a teacup”, “my measure is a mug”.
func (r *reader) isPartSize(a *atom, said *amountSaid) bool {
	if a.perLoad || a.doses || a.machine != "" || said.from < 2 || said.to != r.out[a.hi-1].to || said.Amount.Unit().Kind() != quantity.Volume && !isVessel(said.Amount.Unit()) || said.Amount.Open() != quantity.NotOpen || !r.good.empty() && !r.inParts() {
		return false
	}
	switch r.toks[said.from-2].word + " " + r.toks[said.from-1].word {
	case "i use", "we use", "i take", "measure is", "part is", "using", "measure being":
	default:
		return false
	}
	r.sized(quantity.Part, said.Amount)
	r.becomes(r.out[a.lo].from, said.to, AsAmount, nil)
	return true
}

// holder reports whether an amount is what the bottle holds that stands before it.
func (r *reader) holder(said *amountSaid) bool {
	if said.from == 0 || !isVolume(said.Amount) || isVessel(said.Amount.Unit()) || said.Amount.Open() != quantity.NotOpen {
		return false
	}
	return holders[r.toks[said.from-1].word]
}

// measuredIn reports whether a line is said in a unit.
func (r *reader) measuredIn(u quantity.Unit) bool {
	return slices.ContainsFunc(r.good.lines, func(l *Line) bool { return l.Amount.Unit() == u })
}

// sizeLeads are words before the cup or the scoop whose size is said.
var sizeLeads = wordSet("sizeLeads")

// sizesAtHead reads “my cup holds 200 ml: …” at the head of a sentence, and returns the mark
// that the rest begins with.
func (r *reader) sizesAtHead(lo, hi int) int {
	for k := lo + 1; k <= hi; k++ {
		if k < hi && r.out[k].kind != aComma && !(r.out[k].kind == aColon && r.toks[r.out[k].from].word != "=") && r.out[k].kind != aDash {
			continue
		}
		from, to := r.out[lo].from, r.out[k-1].to
		if !r.sizeIn(from, to) {
			return lo
		}
		r.becomes(from, to, AsAmount, nil)
		if k < hi {
			r.becomesWhereUnread(r.out[k].from, r.out[k].to, AsSmallTalk, nil)
			k++
		}
		return min(k, hi)
	}
	return lo
}

// holders hold what is used.
var holders = wordSet("holders")
