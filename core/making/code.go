package making

import (
	"strings"
	"time"
)

// Code names the nth batch of a good begun on a day, n from 0: the first
// letters of its name, the day, and a letter: TOW-261124-B.
func Code(name string, day time.Time, n int) string {
	return CodePrefix(name, day) + codeLetters(n)
}

// CodePrefix is what the codes of all batches of a good of one day begin
// with.
func CodePrefix(name string, day time.Time) string {
	letters := strings.Map(func(r rune) rune {
		if r >= 'a' && r <= 'z' {
			return r - 'a' + 'A'
		}
		if r >= 'A' && r <= 'Z' {
			return r
		}
		return -1
	}, name)
	if len(letters) > 3 {
		letters = letters[:3]
	}
	if letters == "" {
		letters = "KC"
	}
	return letters + "-" + day.Format("060102") + "-"
}

// codeLetters counts A, B … Z, AA, AB and so on.
func codeLetters(n int) string {
	s := ""
	for n++; n > 0; n = (n - 1) / 26 {
		s = string(rune('A'+(n-1)%26)) + s
	}
	return s
}
