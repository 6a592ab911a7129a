package listener

// How much a part is, where a maker says it: “where one part is 100 g”, “a cup being one part”.

import (
	"regexp"
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
		if r.good.sizes == nil {
			r.good.sizes = map[quantity.Unit]quantity.Amount{}
		}
		r.good.sizes[quantity.Part] = reading.Amount
		r.becomes(tok, to, AsAmount, nil)
		return k
	}
	return hi
}
