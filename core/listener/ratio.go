package listener

// Ratios as marks: “1:4”, “equal parts”, “one in ten”, “60/40”.

import (
	"regexp"
	"slices"
	"strings"

	"keencrock/core/quantity"
)

var (
	ratioNumbers = regexp.MustCompile(`(?i)^(\d{1,3}(?:\.\d)?(?:\s*:\s*\d{1,3}(?:\.\d)?){1,11}|\d{1,2}(?:-\d{1,2}){2,11})(?:\s+(?:ratio|mix|mixture|blend|solution))?(?:\s+of)?(?:\W|$)`)
	equalShares  = regexp.MustCompile(`(?i)^(?:in\s+)?(?:equal|even|the same)\s+(?:parts?|amounts?|quantities|measures|shares|volumes|weights)(?:\s+(?:of|by (?:weight|volume)))?(?:\s+the)?(?:\W|$)`)
	halfAndHalf  = regexp.MustCompile(`(?i)^(?:half\s+and\s+half|half\s*&\s*half|half-and-half|(?:cup|spoon|measure|weight|gram|part|drop|litre|pint|scoop|ml) for (?:cup|spoon|measure|weight|gram|part|drop|litre|pint|scoop|ml)|50\s*[/:-]\s*50|fifty[ -]fifty)(?:\s+mix)?(?:\s+of)?(?:\W|$)`)
	partToParts  = regexp.MustCompile(`(?i)^(one|1|two|2|three|3)\s+parts?\s+(?:to|in)\s+(\d{1,3}|one|two|three|four|five|six|seven|eight|nine|ten|twelve|twenty)(?:\s+parts?)?(?:\W|$)`)
	oneIn        = regexp.MustCompile(`(?i)^(one|1)\s+in\s+(\d{1,3}|two|three|four|five|six|seven|eight|nine|ten|twelve|twenty|fifty|a hundred)(?:\s+(?:dilution|mix|solution|strength))?(?:\s+of)?(?:\W|$)`)
	manyTo       = regexp.MustCompile(`(?i)^((?:\d{1,2}|one|two|three|four|five|six|eight|ten)(?:\s+to\s+(?:\d{1,2}|one|two|three|four|five|six|eight|ten)){2,5})(?:\s+of)?(?:\W|$)`)
	toWord       = regexp.MustCompile(`(?i)\s+to\s+`)
	numbersTo    = regexp.MustCompile(`(?i)^(\d{1,2}|one|two|three|four)\s+to\s+(\d{1,3}|one|two|three|four|five|six|seven|eight|nine|ten|twelve|twenty)(?:\s+(?:ratio|mix|mixture|blend|solution)\b)?(?:\s+of\b)?(?:\W|$)`)
	equalNames   = regexp.MustCompile(`(?i)^(?:(?:roughly|about|more or less|nearly)\s+)?equal(?:ly)?(?:\s+of)?\s`)
	hundred      = regexp.MustCompile(`^(\d{2})\s*/\s*(\d{2})(?:\s+(?:ratio|mix|mixture|blend|solution))?(?:\s+of)?(?:\W|$)`)
)

// ratioWords begin a ratio in words.
var ratioWords = wordSet("ratioWords")

// ratioAt reads shares said of what follows, or of what stands before.
func (r *reader) ratioAt(i int) (mark, bool) {
	t := &r.toks[i]
	if t.kind != isNumber && !ratioWords[t.word] {
		return mark{}, false
	}
	text := clip(r.clean[t.from:])
	for _, try := range [...]struct {
		of    *regexp.Regexp
		share func(m []string) []quantity.Amount
	}{
		{equalShares, func([]string) []quantity.Amount { return []quantity.Amount{parts("1")} }},
		{equalNames, func([]string) []quantity.Amount { return []quantity.Amount{parts("1")} }},
		{halfAndHalf, func([]string) []quantity.Amount { return []quantity.Amount{parts("1"), parts("1")} }},
		{hundred, hundredShares},
		{ratioNumbers, func(m []string) []quantity.Amount {
			return shareNumbers(strings.FieldsFunc(m[1], func(c rune) bool { return c == ':' || c == '-' }))
		}},
		{partToParts, func(m []string) []quantity.Amount { return shareNumbers(m[1:3]) }},
		{oneIn, oneInShares},
		{manyTo, func(m []string) []quantity.Amount { return shareNumbers(toWord.Split(m[1], -1)) }},
		{numbersTo, func(m []string) []quantity.Amount { return shareNumbers(m[1:3]) }},
	} {
		m := try.of.FindStringSubmatch(text)
		if m == nil {
			continue
		}
		shares := try.share(m)
		if len(shares) == 0 {
			continue
		}
		said := strings.TrimRight(m[0], " \t\n,.;:)!?(-–—=/&+")
		to := r.tokenAt(i, t.from+len(said))
		if try.of == equalNames && !r.startsNameAt(to) {
			continue
		}
		if try.of == ratioNumbers && to < len(r.toks) && !r.toks[to-1].tight { // “Batch 12: 900 g …”
			if _, unit := quantity.UnitNamed(r.toks[to].word); unit {
				continue
			}
		}
		if try.of == numbersTo && (ratioNoun.MatchString(m[0]) || r.saysRatio(i) || falls(shares) && r.startsNameAt(to)) {
			return mark{kind: aRatio, from: i, to: to, shares: shares}, true
		}
		if try.of == partToParts && r.startsNameAt(to) || try.of == numbersTo && !r.waitsForShares(i, to) {
			continue
		}
		if strings.HasSuffix(strings.ToLower(said), " with") {
			to--
		}
		return mark{kind: aRatio, from: i, to: to, shares: shares}, true
	}
	return mark{}, false
}

// falls reports whether the first of two shares is the larger: no range is said so, “3 to 1
// soda and soap”.
func falls(shares []quantity.Amount) bool {
	first, _ := shares[0].Parts()
	second, _ := shares[1].Parts()
	return first.Value > second.Value
}

var ratioNoun = regexp.MustCompile(`(?i)\b(?:ratio|mix|mixture|blend)\b`)

// saysRatio reports whether “ratio” stands shortly before a token.
func (r *reader) saysRatio(i int) bool {
	for k := max(0, i-4); k < i; k++ {
		if r.toks[k].word == "ratio" || r.toks[k].word == "proportion" || r.toks[k].word == "proportions" {
			return true
		}
	}
	return false
}

// sharesByRatio takes mere numbers for shares where it is said that they are a ratio: “ratio's simple, 5 bicarb 3 citric
// 1 starch”.
func (r *reader) sharesByRatio(g *Good) {
	said := slices.ContainsFunc(r.toks, func(t token) bool {
		return strings.HasPrefix(t.word, "ratio") || strings.HasPrefix(t.word, "proportion")
	})
	if !said || len(g.lines) < 2 || slices.ContainsFunc(g.lines, func(l *Line) bool { return l.Amount.Unit() != quantity.Bare || l.Amount.IsZero() || l.counted }) {
		return
	}
	for _, l := range g.lines {
		if with, ok := l.Amount.InUnitOf(quantity.Of(1, 1, quantity.Part)); ok {
			l.Amount, l.Written = with, with.String()
		}
	}
}

// startsNameAt reports whether a name begins at a token.
func (r *reader) startsNameAt(i int) bool {
	if i >= len(r.toks) || r.toks[i].kind != isWord {
		return false
	}
	_, ok := r.nameAt(i)
	return ok
}

// waitsForShares reports whether “1 to 4” says shares and no range: it has no unit, and
// stands after two names, or before two that “to” or “with” joins.
func (r *reader) waitsForShares(i, to int) bool {
	if reading, ok := quantity.ReadSaid(r.clean[r.toks[i].from:]); ok && reading.Amount.Unit() != quantity.Bare {
		return false
	}
	names := 0
	for k := len(r.out) - 1; k >= 0; k-- {
		m := &r.out[k]
		if m.kind == aName {
			names++
		}
		if m.kind == anAmount || m.kind == aStop || m.kind == aRatio {
			break
		}
	}
	if names >= 2 {
		return true
	}
	s, ok := r.nameAt(min(to, len(r.toks)-1))
	return ok && s.to < len(r.toks) && (r.toks[s.to].word == "to" || r.toks[s.to].word == "with")
}

func parts(number string) quantity.Amount {
	a, err := quantity.Parse(number + " parts")
	if err != nil {
		return quantity.Amount{}
	}
	return a
}

func shareNumbers(numbers []string) (shares []quantity.Amount) {
	for _, n := range numbers {
		a := parts(strings.TrimSpace(n))
		if a.IsZero() {
			return nil
		}
		shares = append(shares, a)
	}
	return shares
}

// hundredShares are the shares of “60/40”, which are a hundred together.
func hundredShares(m []string) []quantity.Amount {
	a, b := parts(m[1]), parts(m[2])
	x, _ := a.Parts()
	y, _ := b.Parts()
	if x.Value+y.Value != 100 {
		return nil
	}
	return []quantity.Amount{a, b}
}

// oneInShares are the shares of “one in ten”. Some count nine parts beside the one and
// some ten: it is a range, and is asked about.
func oneInShares(m []string) []quantity.Amount {
	whole := parts(strings.TrimPrefix(m[2], "a "))
	if n, ok := whole.Parts(); ok && n.Value >= 2 {
		if a, err := quantity.Parse(rangeOf(n.Value-1, n.Value) + " parts"); err == nil {
			return []quantity.Amount{parts("1"), a}
		}
	}
	return nil
}
