package quantity

import (
	"fmt"
	"strings"
	"time"
)

// Wait is how long something is done or stands: the shortest and the longest it may
// be. The zero value is as long as it takes.
type Wait struct {
	Low, High time.Duration
}

// IsZero reports whether nothing is said.
func (w Wait) IsZero() bool { return w == Wait{} }

// longestWait is the longest that is taken: ten years.
const longestWait = 10 * 365 * 24 * time.Hour

// waitUnits are what a time is counted in, by the words in use. A month is 30 days.
var waitUnits = map[string]time.Duration{}

// waitNames are the units a wait is printed in, the longest first.
var waitNames = []struct {
	one, many string
	length    time.Duration
	also      []string
}{
	{"month", "months", 30 * 24 * time.Hour, []string{"mo", "mth", "mths"}},
	{"week", "weeks", 7 * 24 * time.Hour, []string{"wk", "wks", "w"}},
	{"day", "days", 24 * time.Hour, []string{"d"}},
	{"h", "h", time.Hour, []string{"hour", "hours", "hr", "hrs"}},
	{"min", "min", time.Minute, []string{"mins", "minute", "minutes", "m"}},
	{"s", "s", time.Second, []string{"sec", "secs", "second", "seconds"}},
}

func init() {
	waitUnits["fortnight"], waitUnits["fortnights"] = 14*24*time.Hour, 14*24*time.Hour
	for _, u := range waitNames {
		waitUnits[u.one], waitUnits[u.many] = u.length, u.length
		for _, name := range u.also {
			waitUnits[name] = u.length
		}
	}
}

const expectWait = "a time, such as 10 min, 24 h, 2 weeks or overnight"

// ParseWait reads a time as people write it: “10 min”, “5–10 min”, “1 h 30 min”,
// “half an hour”, “two days”, “a day or two”, “overnight”. Empty is the zero value.
// The error is a [*ParseError].
func ParseWait(s string) (Wait, error) {
	if strings.TrimSpace(s) == "" {
		return Wait{}, nil
	}
	if len(s) > maxInput {
		return Wait{}, &ParseError{Input: s[:maxInput], Position: 1, Expected: expectWait, Found: "a long text"}
	}
	w, rest, err := readWait(s)
	if err != nil {
		return Wait{}, err
	}
	if strings.TrimSpace(s[rest:]) != "" {
		p := parser{in: s, pos: rest}
		p.skipSpace()
		return Wait{}, p.fail("the end of the time")
	}
	return w, nil
}

// FindWait finds the first time in a sentence; ok is false where there is none.
func FindWait(text string) (w Wait, ok bool) {
	if len(text) > 4000 {
		text = text[:4000]
	}
	for i := range text {
		if i > 0 && !strings.ContainsRune(" (,;-–~", rune(text[i-1])) {
			continue
		}
		if w, _, err := readWait(text[i:]); err == nil {
			return w, true
		}
	}
	return Wait{}, false
}

// readWait reads a time at the beginning of a text, and says where it ends.
func readWait(s string) (w Wait, end int, err error) {
	p := &parser{in: s}
	if p.night() {
		return night, p.pos, nil
	}
	for p.phrase("for") || p.phrase("about") || p.phrase("at") && p.phrase("least") || p.phrase("up") && p.phrase("to") {
	}
	if p.night() {
		return night, p.pos, nil
	}
	low, err := p.waitNumber()
	if err != nil {
		return Wait{}, 0, err
	}
	mark := p.pos
	if unit, ok := p.waitUnit(); ok {
		w = p.waitFrom(low, unit)
	} else {
		p.pos = mark
		if w, err = p.waitBetween(low); err != nil {
			return Wait{}, 0, err
		}
	}
	if w.High <= 0 || w.High > longestWait || w.Low < 0 {
		return Wait{}, 0, p.failAt(0, "a time of at most ten years")
	}
	return w, p.pos, nil
}

// night is how long a night is: common practice.
var night = Wait{8 * time.Hour, 12 * time.Hour}

// night reads “overnight”, “over night”, “a night”.
func (p *parser) night() bool {
	mark := p.pos
	word := func() string { return strings.TrimRight(p.word(), ".") }
	switch word() {
	case "overnight":
		return true
	case "over", "a", "one", "the":
		if w := word(); w == "night" {
			return true
		}
	}
	p.pos = mark
	return false
}

// waitFrom reads what may follow a number and its unit: “10 min to 1 h”, “a day or two”,
// “1 h 30 min”.
func (p *parser) waitFrom(low span, unit time.Duration) Wait {
	w := Wait{times(low.low, unit), times(low.high, unit)}
	mark := p.pos
	if p.rangeSign() {
		if high, found, err := p.number(); err == nil && found {
			after := p.pos
			other, named := p.waitUnit()
			if !named {
				other, p.pos = unit, after
			}
			if longer := times(high.high, other); longer > w.High {
				w.High, mark = longer, p.pos
			}
		}
	} else {
		and := p.phrase("and")
		part := p.pos
		if more, found, err := p.number(); err == nil && found {
			end := p.pos
			if smaller, named := p.waitUnit(); named && smaller < unit {
				w.Low, w.High, mark = w.Low+times(more.low, smaller), w.High+times(more.high, smaller), p.pos
			} else if p.pos = end; and && p.partSaid(part, more) { // “an hour and a half”
				w.Low, w.High, mark = w.Low+times(more.low, unit), w.High+times(more.high, unit), end
			}
		}
	}
	p.pos = mark
	return w
}

// partSaid reports whether a number is a part of the unit before it, “and a half”, and of nothing that follows.
func (p *parser) partSaid(from int, n span) bool {
	if n.low != n.high || n.low.den == 1 || !n.low.less(one) {
		return false
	}
	mark := p.pos
	defer func() { p.pos = mark }()
	p.pos = from
	if first := p.word(); first != "a" && first != "three" && first != "one" {
		return false
	}
	p.pos = mark
	next := p.entry()
	p.pos = mark
	return next.role != isUnit && next.role != isFruit && p.word() != "of"
}

// waitBetween reads the rest of “5–10 min”.
func (p *parser) waitBetween(low span) (Wait, error) {
	mark := p.pos
	if !p.rangeSign() {
		return Wait{}, p.fail(expectWait)
	}
	high, found, err := p.number()
	if err != nil || !found {
		return Wait{}, p.fail(expectWait)
	}
	unit, named := p.waitUnit()
	if !named || high.high.less(low.low) {
		return Wait{}, p.failAt(mark, expectWait)
	}
	return Wait{times(low.low, unit), times(high.high, unit)}, nil
}

// waitNumber reads how many, in figures or words; “a day” is one.
func (p *parser) waitNumber() (span, error) {
	n, found, err := p.number()
	if err != nil {
		return span{}, err
	}
	if !found {
		if p.phrase("a") || p.phrase("an") || p.phrase("one") {
			return exactly(one), nil
		}
		return span{}, p.fail(expectWait)
	}
	p.phrase("an")
	return n, nil
}

func (p *parser) waitUnit() (time.Duration, bool) {
	p.skipSpace()
	if p.accept('-') {
		p.skipSpace()
	}
	word := strings.TrimSuffix(p.word(), ".")
	if word == "second" && p.countsOn() {
		return 0, false
	}
	unit, ok := waitUnits[word]
	return unit, ok
}

// countsOn reports whether a noun follows, so that the “second” before it counts and is no
// time: “a second bowl”.
func (p *parser) countsOn() bool {
	mark := p.pos
	defer func() { p.pos = mark }()
	switch p.word() {
	case "", "or", "and", "then", "before", "after", "until", "till", "to", "at", "in", "on", "with", "longer", "more":
		return false
	}
	return true
}

func times(n Number, unit time.Duration) time.Duration {
	if f := n.Float() * float64(unit); f < float64(2*longestWait) {
		return time.Duration(f + 0.5)
	}
	return 2 * longestWait
}

// String writes a wait so that it is read as the same: “5–10 min”, “2 days”.
func (w Wait) String() string {
	if w.IsZero() {
		return ""
	}
	if w.Low == w.High {
		n, name := inUnit(w.Low, unitOf(w.Low))
		return n + " " + name
	}
	unit := unitOf(w.Low)
	if w.Low == 0 {
		unit = unitOf(w.High)
	}
	for i, u := range waitNames { // both ends in whole ones
		if i >= unit && w.Low%u.length == 0 && w.High%u.length == 0 {
			unit = i
			break
		}
	}
	low, _ := inUnit(w.Low, unit)
	high, name := inUnit(w.High, unit)
	return low + "–" + high + " " + name
}

// unitOf is the longest unit that a length is a whole number of.
func unitOf(d time.Duration) int {
	for i, u := range waitNames {
		if d >= u.length && d%u.length == 0 {
			return i
		}
	}
	return len(waitNames) - 1
}

func inUnit(d time.Duration, unit int) (number, name string) {
	u := waitNames[unit]
	n := float64(d) / float64(u.length)
	number = strings.TrimRight(strings.TrimRight(fmt.Sprintf("%.6f", n), "0"), ".")
	if n == 1 {
		return number, u.one
	}
	return number, u.many
}
