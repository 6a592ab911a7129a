package listener

import (
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"
)

// dateAt reads a day at the beginning of a text; a month alone is its last day. n is how
// many bytes it takes, 0 where there is none; err says what is wrong with one.
func dateAt(s string, today time.Time, future bool) (day time.Time, n int, err string) {
	num := func(s string) int { v, _ := strconv.Atoi(strings.TrimPrefix(s, "'")); return v }
	year := func(s string) int {
		if y := num(s); y < 100 {
			return 2000 + y
		} else {
			return y
		}
	}
	last := func(y, m int) time.Time { return time.Date(y, time.Month(m)+1, 0, 0, 0, 0, 0, today.Location()) }
	exact := func(y, m, d int) time.Time { return time.Date(y, time.Month(m), d, 0, 0, 0, 0, today.Location()) }
	valid := func(y, m, d int) bool { return m >= 1 && m <= 12 && d >= 1 && d <= last(y, m).Day() }
	wrong := func(n int) (time.Time, int, string) {
		return time.Time{}, n, "The date “" + strings.TrimSpace(s[:n]) + "” cannot be: check day and month."
	}
	switch {
	case dateISO.MatchString(s):
		m := dateISO.FindStringSubmatch(s)
		y, mo := num(m[1]), num(m[2])
		if m[3] == "" {
			if !valid(y, mo, 1) {
				return wrong(len(m[0]))
			}
			day, n = last(y, mo), len(m[0])
		} else {
			if !valid(y, mo, num(m[3])) {
				return wrong(len(m[0]))
			}
			day, n = exact(y, mo, num(m[3])), len(m[0])
		}
	case dateDay.MatchString(s):
		m := dateDay.FindStringSubmatch(s)
		d, mo, y := num(m[1]), num(m[2]), year(m[3])
		if mo > 12 && d <= 12 {
			d, mo = mo, d
		}
		if !valid(y, mo, d) {
			return wrong(len(m[0]))
		}
		day, n = exact(y, mo, d), len(m[0])
	case dateMonth.MatchString(s):
		m := dateMonth.FindStringSubmatch(s)
		if !valid(year(m[2]), num(m[1]), 1) {
			return wrong(len(m[0]))
		}
		day, n = last(year(m[2]), num(m[1])), len(m[0])
	case dateWords.MatchString(s):
		m := monthIn(s)
		mo := 1 + slices.Index(monthNumbers, strings.ToLower(m[3])[:3])
		y, d := 0, num(m[2])
		yearSaid := m[5]
		if d == 0 && m[4] != "" {
			if yearSaid == "" && num(m[4]) > 31 || yearSaid == "" && len(m[4]) == 2 && num(m[4]) > today.Year()%100 && !ordinal.MatchString(m[0]) && num(m[4]) >= 25 {
				yearSaid = m[4] // “Jun 27”
			} else {
				d = num(m[4])
			}
		}
		switch {
		case yearSaid != "":
			y = year(yearSaid)
		case m[6] == "next year":
			y = today.Year() + 1
		case m[6] == "this year":
			y = today.Year()
		default:
			y = today.Year()
			if probe := last(y, mo); future && probe.Before(today) {
				y++
			} else if !future && exact(y, mo, max(d, 1)).After(today.AddDate(0, 0, daysAhead)) {
				y--
			}
		}
		n = len(strings.TrimRight(m[0], " ,"))
		switch lead := strings.ToLower(strings.TrimSpace(m[1])); {
		case d > 0:
			if !valid(y, mo, d) {
				return wrong(n)
			}
			day = exact(y, mo, d)
		case strings.HasPrefix(lead, "early"), strings.HasPrefix(lead, "beg"), strings.HasPrefix(lead, "start"):
			day = exact(y, mo, 1)
		case strings.HasPrefix(lead, "mid"):
			day = exact(y, mo, 15)
		default:
			day = last(y, mo)
		}
	case dateNext.MatchString(s):
		m := dateNext.FindStringSubmatch(s)
		if n = len(m[0]); strings.EqualFold(m[1], "year") {
			day = last(today.Year()+1, 12)
			break
		}
		mo := 1 + slices.Index(monthNumbers, strings.ToLower(m[1])[:3])
		y := today.Year()
		if mo <= int(today.Month()) {
			y++
		}
		day = last(y, mo)
	case dateYear.MatchString(s):
		m := dateYear.FindStringSubmatch(s)
		n, day = len(m[0]), last(num(m[2]), 12)
		if lead := strings.ToLower(m[1]); lead == "start" || lead == "beginning" {
			day = exact(num(m[2]), 1, 1)
		}
	case withinWeek.MatchString(s):
		day, n = today.AddDate(0, 0, 7), len(withinWeek.FindString(s))
		day = exact(day.Year(), int(day.Month()), day.Day())
	case dateIn.MatchString(s):
		m := dateIn.FindStringSubmatch(s)
		count := num(m[1])
		if count == 0 {
			words := map[string]int{"a": 1, "an": 1, "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "nine": 9, "ten": 10, "twelve": 12, "eighteen": 18, "twenty-four": 24, "twenty four": 24}
			count = words[strings.ToLower(m[1])]
		}
		n = len(m[0])
		switch strings.ToLower(m[2]) {
		case "day":
			day = today.AddDate(0, 0, count)
		case "week":
			day = today.AddDate(0, 0, 7*count)
		case "month":
			day = today.AddDate(0, count, 0)
		default:
			day = today.AddDate(count, 0, 0)
			if strings.Contains(strings.ToLower(m[0]), "and a half") {
				day = day.AddDate(0, 6, 0)
			}
		}
		day = exact(day.Year(), int(day.Month()), day.Day())
	}
	if n > 0 && (day.Year() < today.Year()-20 || day.Year() > today.Year()+30) {
		err = "The date " + strings.TrimSpace(s[:n]) + " is far from today: check the year."
	}
	return day, n, err
}

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
