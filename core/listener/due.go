package listener

import (
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"
)

// due is when something is wanted: a day, once or every so many weeks, until a day; what
// was not said is zero.
type due struct {
	day     time.Time
	every   int // weeks
	monthly bool
	until   time.Time
	ahead   bool // it can only mean a day to come
}

const (
	weekdayWord = `(monday|tuesday|wednesday|thursday|friday|saturday|sunday)`
	weeksWord   = `(two|three|four|six|eight|\d{1,2})`
)

var (
	dueLead    = regexp.MustCompile(`(?i)^(by|before|for|on|due|due on|due by|from|starting|starting on|until|till|up to|not later than|no later than|at the latest)\s+`)
	dueEvery   = regexp.MustCompile(`(?i)^(?:every|each)\s+(?:(other|second|two|three|four|six|eight|\d{1,2})\s+)?(week|fortnight|month|` + weekdayWord[1:] + `s?\b`)
	duePer     = regexp.MustCompile(`(?i)^(?:(?:once\s+)?(?:a|per)\s+(week|fortnight|month)|(weekly|fortnightly|monthly))\b`)
	dueSoon    = regexp.MustCompile(`(?i)^(today|tonight|tomorrow|the day after tomorrow)\b`)
	dueWeekday = regexp.MustCompile(`(?i)^(this coming |the coming |coming |this |next )?` + weekdayWord + `\b(?:\s+(week|fortnight)\b)?`)
	dueWeeksOn = regexp.MustCompile(`(?i)^(a|one|` + weeksWord[1:] + `\s+weeks?\s+(?:on|from|after|this|next)?\s*(?:` + weekdayWord + `|(today|now|tomorrow))\b`)
	dueNight   = regexp.MustCompile(`(?i)^(?:in |within )?a fortnight(?:'s time)?\b(?:\s+(?:on|from)\s+(?:` + weekdayWord + `|today|now))?`)
	dueNightOn = regexp.MustCompile(`(?i)^a fortnight\s+(?:on|from)\b`)
	dueNext    = regexp.MustCompile(`(?i)^(next week|the week after next|next month|(?:the )?end of (?:the|this|next) (?:week|month))\b`)
	dueFeast   = regexp.MustCompile(`(?i)^(christmas eve|christmas|xmas|new year's eve|new year|easter)\b`)
	dueOrdinal = regexp.MustCompile(`(?i)^the\s+(\d{1,2})(?:st|nd|rd|th)\b`)
	dueIn      = regexp.MustCompile(`(?i)^(?:in|within)\s`)
)

// dueAt reads when something is wanted at the beginning of a text, and how many bytes that
// takes; 0 where nothing of it stands there.
func dueAt(s string, today time.Time) (d due, n int) {
	today = time.Date(today.Year(), today.Month(), today.Day(), 0, 0, 0, 0, today.Location())
	if m := dueEvery.FindStringSubmatch(s); m != nil {
		unit := strings.ToLower(m[2])
		d.every, d.ahead = max(1, weeksSaid(m[1])), true
		switch unit {
		case "week":
		case "fortnight":
			d.every *= 2
		case "month":
			d.every, d.monthly = 4*d.every, true
		default:
			d.day = onWeekday(unit, today, false)
		}
		return d, len(m[0])
	}
	if m := duePer.FindStringSubmatch(s); m != nil && !dueWeeksOn.MatchString(s) && !dueNightOn.MatchString(s) {
		switch unit := strings.ToLower(m[1] + m[2]); unit[0] {
		case 'w':
			d.every = 1
		case 'f':
			d.every = 2
		default:
			d.every, d.monthly = 4, true
		}
		d.ahead = true
		return d, len(m[0])
	}
	lead := dueLead.FindString(s)
	how := strings.ToLower(strings.TrimSpace(lead))
	day, length, ahead := dayToCome(s[len(lead):], today)
	if length == 0 {
		return due{}, 0
	}
	switch how {
	case "until", "till", "up to":
		return due{until: day, ahead: true}, len(lead) + length
	case "before":
		day = day.AddDate(0, 0, -1)
	}
	return due{day: day, ahead: ahead || how != "" && how != "for" && how != "on" && how != "from"}, len(lead) + length
}

// weeksSaid is a number of weeks: “other” is every second; 0 for none.
func weeksSaid(word string) int {
	switch word = strings.ToLower(word); word {
	case "other", "second":
		return 2
	}
	if n := slices.Index([]string{"", "one", "two", "three", "four", "five", "six", "seven", "eight"}, word); n > 0 {
		return n
	}
	n, _ := strconv.Atoi(word)
	return n
}

// onWeekday is the next such day after today: of the week after this one where it is the
// next (weeks begin on Monday).
func onWeekday(name string, today time.Time, next bool) time.Time {
	day := today.AddDate(0, 0, 1)
	if next {
		day = mondayAfter(today)
	}
	for !strings.EqualFold(day.Weekday().String(), name) {
		day = day.AddDate(0, 0, 1)
	}
	return day
}

func mondayAfter(today time.Time) time.Time {
	return today.AddDate(0, 0, 7-(int(today.Weekday())+6)%7)
}

// dayToCome reads a day from today on; ahead reports that it can only be one to come.
func dayToCome(s string, today time.Time) (day time.Time, n int, ahead bool) {
	in := func(days int) time.Time { return today.AddDate(0, 0, days) }
	if m := dueSoon.FindStringSubmatch(s); m != nil {
		word := strings.ToLower(m[1])
		days := map[string]int{"tomorrow": 1, "the day after tomorrow": 2}[word]
		return in(days), len(m[0]), days > 0
	}
	if m := dueWeeksOn.FindStringSubmatch(s); m != nil {
		from := today
		if m[2] != "" {
			from = onWeekday(m[2], today, false)
		} else if strings.EqualFold(m[3], "tomorrow") {
			from = in(1)
		}
		return from.AddDate(0, 0, 7*max(1, weeksSaid(m[1]))), len(m[0]), true
	}
	if m := dueNight.FindStringSubmatch(s); m != nil {
		from := today
		if m[1] != "" {
			from = onWeekday(m[1], today, false)
		}
		return from.AddDate(0, 0, 14), len(m[0]), true
	}
	if m := dueWeekday.FindStringSubmatch(s); m != nil {
		lead, more := strings.ToLower(m[1]), strings.ToLower(m[3])
		day = onWeekday(m[2], today, lead == "next ")
		switch more {
		case "week":
			day = day.AddDate(0, 0, 7)
		case "fortnight":
			day = day.AddDate(0, 0, 14)
		}
		return day, len(m[0]), lead != "" || more != ""
	}
	if m := dueNext.FindStringSubmatch(s); m != nil {
		monday := mondayAfter(today)
		month := time.Date(today.Year(), today.Month(), 1, 0, 0, 0, 0, today.Location())
		switch what := strings.TrimPrefix(strings.ToLower(m[1]), "the "); {
		case what == "next week", what == "end of next week":
			day = monday.AddDate(0, 0, 4)
		case what == "week after next":
			day = monday.AddDate(0, 0, 11)
		case strings.HasSuffix(what, "week"):
			day = monday.AddDate(0, 0, -3)
			if day.Before(today) {
				day = monday.AddDate(0, 0, -1)
			}
		case strings.Contains(what, "next"):
			day = month.AddDate(0, 2, -1)
		default:
			day = month.AddDate(0, 1, -1)
		}
		return day, len(m[0]), true
	}
	if m := dueFeast.FindStringSubmatch(s); m != nil {
		return feast(strings.ToLower(m[1]), today), len(m[0]), true
	}
	if m := dueOrdinal.FindStringSubmatch(s); m != nil && !dateWords.MatchString(s) {
		of, _ := strconv.Atoi(m[1])
		for k := range 3 { // a month may be too short
			day = time.Date(today.Year(), today.Month()+time.Month(k), of, 0, 0, 0, 0, today.Location())
			if day.Day() == of && !day.Before(today) {
				return day, len(m[0]), true
			}
		}
	}
	day, n, wrong := dateAt(s, today, true)
	if n == 0 || wrong != "" || s[0] >= '0' && s[0] <= '9' && dateIn.MatchString(s) || dateIn.MatchString(s) && !dueIn.MatchString(s) && !strings.Contains(strings.ToLower(s[:n]), " from ") {
		return time.Time{}, 0, false
	}
	return day, n, dateIn.MatchString(s)
}

// feast is the next day by which things for a feast are wanted: the one before it, and the
// last of the year.
func feast(name string, today time.Time) time.Time {
	of := func(year int) time.Time {
		switch {
		case strings.HasPrefix(name, "new"):
			return time.Date(year, 12, 31, 0, 0, 0, 0, today.Location())
		case name == "easter":
			return easter(year, today.Location()).AddDate(0, 0, -1)
		}
		return time.Date(year, 12, 24, 0, 0, 0, 0, today.Location())
	}
	if day := of(today.Year()); !day.Before(today) {
		return day
	}
	return of(today.Year() + 1)
}

// easter is Easter Sunday of the Gregorian calendar (Meeus, Astronomical Algorithms, after
// Butcher's rule of 1876).
func easter(year int, where *time.Location) time.Time {
	a, b, c := year%19, year/100, year%100
	d, e := b/4, b%4
	f := (b + 8) / 25
	g := (b - f + 1) / 3
	h := (19*a + b - d - g + 15) % 30
	i, k := c/4, c%4
	l := (32 + 2*e + 2*i - h - k) % 7
	m := (a + 11*h + 22*l) / 451
	month, day := (h+l-7*m+114)/31, (h+l-7*m+114)%31+1
	return time.Date(year, time.Month(month), day, 0, 0, 0, 0, where)
}
