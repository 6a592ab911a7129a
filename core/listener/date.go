package listener

import (
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"
)

// datePlace is where a day may begin in a text.
type datePlace struct {
	text   string
	today  time.Time
	future bool // it is to come
}

// dateForms are the ways in which a day is said, the surer ones first. Each returns the day, how many bytes it takes, 0
// where it is said otherwise, and whether there is such a day.
var dateForms = []func(p *datePlace) (day time.Time, n int, there bool){
	(*datePlace).iso, (*datePlace).inNumbers, (*datePlace).monthInNumbers, (*datePlace).inWords, (*datePlace).nextOne,
	(*datePlace).ofYear, (*datePlace).shortYear, (*datePlace).withinTheWeek, (*datePlace).after,
}

// dateAt reads a day at the beginning of a text; a month alone is its last day. n is how
// many bytes it takes, 0 where there is none; err says what is wrong with one.
func dateAt(s string, today time.Time, future bool) (day time.Time, n int, err string) {
	p := &datePlace{text: s, today: today, future: future}
	for _, form := range dateForms {
		day, n, there := form(p)
		switch said := strings.TrimSpace(s[:n]); {
		case n == 0:
			continue
		case !there:
			return time.Time{}, n, "The date “" + said + "” cannot be: check day and month."
		case day.Year() < today.Year()-20 || day.Year() > today.Year()+30:
			return day, n, "The date " + said + " is far from today: check the year."
		}
		return day, n, ""
	}
	return time.Time{}, 0, ""
}

// exact is a day where the workshop is.
func (p *datePlace) exact(y, m, d int) time.Time {
	return time.Date(y, time.Month(m), d, 0, 0, 0, 0, p.today.Location())
}

// last is the last day of a month.
func (p *datePlace) last(y, m int) time.Time { return p.exact(y, m+1, 0) }

// valid reports whether there is such a day.
func (p *datePlace) valid(y, m, d int) bool {
	return m >= 1 && m <= 12 && d >= 1 && d <= p.last(y, m).Day()
}

func wholeIn(s string) int {
	v, _ := strconv.Atoi(strings.TrimPrefix(s, "'"))
	return v
}

// yearIn is a year in four digits or two.
func yearIn(s string) int {
	if y := wholeIn(s); y >= 100 {
		return y
	}
	return 2000 + wholeIn(s)
}

// iso reads “2027-06-30” and “2027-06”.
func (p *datePlace) iso() (time.Time, int, bool) {
	m := dateISO.FindStringSubmatch(p.text)
	if m == nil {
		return time.Time{}, 0, false
	}
	y, mo := wholeIn(m[1]), wholeIn(m[2])
	if m[3] == "" {
		return p.last(y, mo), len(m[0]), p.valid(y, mo, 1)
	}
	return p.exact(y, mo, wholeIn(m[3])), len(m[0]), p.valid(y, mo, wholeIn(m[3]))
}

// inNumbers reads “30.6.2027”, the day first where both could be.
func (p *datePlace) inNumbers() (time.Time, int, bool) {
	m := dateDay.FindStringSubmatch(p.text)
	if m == nil {
		return time.Time{}, 0, false
	}
	d, mo, y := wholeIn(m[1]), wholeIn(m[2]), yearIn(m[3])
	if mo > 12 && d <= 12 {
		d, mo = mo, d
	}
	return p.exact(y, mo, d), len(m[0]), p.valid(y, mo, d)
}

// monthInNumbers reads “06/2027”.
func (p *datePlace) monthInNumbers() (time.Time, int, bool) {
	m := dateMonth.FindStringSubmatch(p.text)
	if m == nil {
		return time.Time{}, 0, false
	}
	y, mo := yearIn(m[2]+m[3]), wholeIn(m[1])
	if m[3] != "" && (mo < 1 || mo > 12) { // “06 2028”, and not “25 2028”
		return time.Time{}, 0, false
	}
	return p.last(y, mo), len(m[0]), p.valid(y, mo, 1)
}

// monthNumber is which month a name means, from 1.
func monthNumber(name string) int {
	return 1 + slices.Index(monthNumbers, strings.ToLower(name)[:3])
}

// inWords reads “14 March 2027”, “March 14th”, “end of June”, “Jun 27”.
func (p *datePlace) inWords() (time.Time, int, bool) {
	if !dateWords.MatchString(p.text) {
		return time.Time{}, 0, false
	}
	m := monthIn(p.text)
	mo, d, yearSaid := monthNumber(m[3]), wholeIn(m[2]), m[5]
	if d == 0 && m[4] != "" {
		if after := wholeIn(m[4]); yearSaid == "" && (after > 31 || len(m[4]) == 2 && after > p.today.Year()%100 && !ordinal.MatchString(m[0]) && after >= 25) {
			yearSaid = m[4] // “Jun 27”
		} else {
			d = after
		}
	}
	y, n := p.yearOf(yearSaid, strings.ToLower(m[6]), mo, d), len(strings.TrimRight(m[0], " ,"))
	switch lead := strings.ToLower(strings.TrimSpace(m[1])); {
	case d > 0:
		return p.exact(y, mo, d), n, p.valid(y, mo, d)
	case startOf(lead):
		return p.exact(y, mo, 1), n, true
	case strings.HasPrefix(lead, "mid"):
		return p.exact(y, mo, 15), n, true
	}
	return p.last(y, mo), n, true
}

// yearOf is the year of a month and a day: the one that was said, “next year”, or the nearest one.
func (p *datePlace) yearOf(said, which string, mo, d int) int {
	y := p.today.Year()
	switch {
	case said != "":
		return yearIn(said)
	case which == "next year":
		return y + 1
	case which == "this year":
	case p.future && p.last(y, mo).Before(p.today):
		return y + 1
	case !p.future && p.exact(y, mo, max(d, 1)).After(p.today.AddDate(0, 0, daysAhead)):
		return y - 1
	}
	return y
}

// startOf reports whether a word before a month or a year is of its first day.
func startOf(lead string) bool {
	return strings.HasPrefix(lead, "early") || strings.HasPrefix(lead, "beg") || strings.HasPrefix(lead, "start")
}

// nextOne reads “next June”, “the end of next year”.
func (p *datePlace) nextOne() (time.Time, int, bool) {
	m := dateNext.FindStringSubmatch(p.text)
	if m == nil {
		return time.Time{}, 0, false
	}
	if strings.EqualFold(m[1], "year") {
		return p.last(p.today.Year()+1, 12), len(m[0]), true
	}
	y, mo := p.today.Year(), monthNumber(m[1])
	if mo <= int(p.today.Month()) {
		y++
	}
	return p.last(y, mo), len(m[0]), true
}

// ofYear reads “2027”, “end of 2027”.
func (p *datePlace) ofYear() (time.Time, int, bool) {
	m := dateYear.FindStringSubmatch(p.text)
	if m == nil {
		return time.Time{}, 0, false
	}
	return p.inYear(strings.ToLower(m[1]), wholeIn(m[2])), len(m[0]), true
}

// shortYear reads “end of 27”, “the start of '28”.
func (p *datePlace) shortYear() (time.Time, int, bool) {
	m := dateShortYear.FindStringSubmatch(p.text)
	if m == nil || yearIn(m[2]) < p.today.Year() || unitAfter(clip(p.text[len(m[0])-len(m[2]):])) || centsAfter.MatchString(p.text[len(m[0]):]) {
		return time.Time{}, 0, false
	}
	return p.inYear(strings.ToLower(m[1]), yearIn(m[2])), len(m[0]), true
}

// inYear is the day in a year that a word means, the last one without any.
func (p *datePlace) inYear(lead string, y int) time.Time {
	switch {
	case startOf(lead):
		return p.exact(y, 1, 1)
	case strings.HasPrefix(lead, "mid"):
		return p.last(y, 6)
	}
	return p.last(y, 12)
}

// withinTheWeek reads “the week”, after “use within”.
func (p *datePlace) withinTheWeek() (time.Time, int, bool) {
	n := len(withinWeek.FindString(p.text))
	return p.midnight(p.today.AddDate(0, 0, 7)), n, n > 0
}

// midnight is the beginning of the day of a time.
func (p *datePlace) midnight(at time.Time) time.Time {
	return p.exact(at.Year(), int(at.Month()), at.Day())
}

// after reads “in six months”, “two years from now”.
func (p *datePlace) after() (time.Time, int, bool) {
	m := dateIn.FindStringSubmatch(p.text)
	if m == nil {
		return time.Time{}, 0, false
	}
	count := wholeIn(m[1])
	if count == 0 {
		count = countWords[strings.ToLower(m[1])]
	}
	day := p.today
	switch strings.ToLower(m[2]) {
	case "day":
		day = day.AddDate(0, 0, count)
	case "week":
		day = day.AddDate(0, 0, 7*count)
	case "month":
		day = day.AddDate(0, count, 0)
	default:
		day = day.AddDate(count, 0, 0)
		if strings.Contains(strings.ToLower(m[0]), "and a half") {
			day = day.AddDate(0, 6, 0)
		}
	}
	return p.midnight(day), len(m[0]), true
}

// countWords are the numbers of days, weeks, months and years in words.
var countWords = map[string]int{"a": 1, "an": 1, "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "nine": 9, "ten": 10, "twelve": 12, "eighteen": 18, "twenty-four": 24, "twenty four": 24}

// monthIn finds a day in words. A number behind it that is of what came is no part of it: “14
// November. 10 kg baking soda”.
func monthIn(s string) []string {
	at := dateWords.FindStringSubmatchIndex(s)
	for _, g := range [...]int{8, 10} {
		if at[g] >= 0 && (unitAfter(clip(s[at[g]:])) || centsAfter.MatchString(s[at[g+1]:])) { // “best by March, 21.40”
			s = s[:at[7]]
			break
		}
	}
	return dateWords.FindStringSubmatch(s)
}

// centsAfter are those of a price that a number begins.
var centsAfter = regexp.MustCompile(`^[.,]\d{2}(?:\D|$)`)

// ordinal finds what makes a number that of a day.
var ordinal = regexp.MustCompile(`(?i)\d(?:st|nd|rd|th)\b|,`)

// withinWeek is how long something keeps that has to be used soon: “use within the week”.
var withinWeek = regexp.MustCompile(`(?i)^the week\b`)

// dayNamed is the day that a word means, the last one of a weekday.
func dayNamed(word string, today time.Time) (time.Time, bool) {
	midnight := time.Date(today.Year(), today.Month(), today.Day(), 0, 0, 0, 0, today.Location())
	switch word {
	case "today", "this morning":
		return midnight, true
	case "yesterday":
		return midnight.AddDate(0, 0, -1), true
	case "the day before yesterday":
		return midnight.AddDate(0, 0, -2), true
	}
	word = strings.TrimPrefix(strings.TrimPrefix(word, "last "), "on ")
	for back := 1; back <= 7; back++ {
		if day := midnight.AddDate(0, 0, -back); strings.EqualFold(day.Weekday().String(), word) {
			return day, true
		}
	}
	return time.Time{}, false
}
