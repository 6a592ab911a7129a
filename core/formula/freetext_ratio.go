package formula

import (
	"regexp"
	"strings"
	"unicode"

	"keencrock/core/quantity"
)

// ratios are shares said of things that follow, or stand before.
var (
	ratioNumbers = regexp.MustCompile(`(?i)^(\d{1,3}(?:\s*[:/]\s*\d{1,3}){1,11})(?:\s+(?:ratio|mix|mixture|blend|solution))?(?:\s+of)?(?:\s|$)`)
	equalShares  = regexp.MustCompile(`(?i)^(?:in\s+)?(?:equal|even|the same)\s+(?:parts?|amounts?|quantities|measures|shares)(?:\s+of|\s+by (?:weight|volume))?(?:\s+the)?(?:\s|$)`)
	halfAndHalf  = regexp.MustCompile(`(?i)^(?:half\s+and\s+half|half\s*&\s*half|50\s*[/:-]\s*50)(?:\s+mix)?(?:\s+of)?(?:\s|$)`)
	partsInWords = regexp.MustCompile(`(?i)^(?:in\s+)?(?:(one|1|two|2|three|3)\s+parts?\s+(?:to|in)\s+(\d{1,3}|one|two|three|four|five|six|seven|eight|nine|ten|twelve|twenty)(?:\s+parts?)?)\s*$`)
	ratioAtEnd   = regexp.MustCompile(`(?i)\s+(?:in\s+a\s+|at\s+|in\s+)?((?:\d{1,3}(?:\s*:\s*\d{1,3}){1,11})|50\s*/\s*50|half and half|(?:in )?equal parts|equal amounts)(?:\s+ratio)?$`)
)

// ratio reads shares: "equal parts of a, b and c", "1:4 vinegar to water",
// "vinegar and water, half and half".
func (r *textReader) ratio(text string, pieces []Piece) (after string, ok bool) {
	var shares []quantity.Amount
	written, all := "", false
	switch {
	case equalShares.MatchString(text):
		written = equalShares.FindString(text)
		shares, all = []quantity.Amount{partsOf(1)}, true
	case halfAndHalf.MatchString(text):
		written = halfAndHalf.FindString(text)
		shares = []quantity.Amount{partsOf(1), partsOf(1)}
	case ratioNumbers.MatchString(text):
		m := ratioNumbers.FindStringSubmatch(text)
		if strings.Contains(m[1], "/") { // a fraction, unless it is 50/50
			return "", false
		}
		written = ratioNumbers.FindString(text)
		if shares = shareNumbers(m[1]); len(shares) == 0 { // “0:0”
			return "", false
		}
	case partsInWords.MatchString(text):
		m := partsInWords.FindStringSubmatch(text)
		written = text
		for _, w := range m[1:] {
			reading, err := quantity.Read(w + " parts")
			if err != nil {
				return "", false
			}
			shares = append(shares, reading.Amount)
		}
	default:
		m := ratioAtEnd.FindStringSubmatchIndex(text)
		if m == nil {
			return "", false
		}
		if said := text[m[2]:m[3]]; isDigit(said[0]) && len(shareNumbers(said)) == 0 { // “salt 0:0”
			return "", false
		}
		r.settle()
		r.waitFor(pieces, splitNames(text[:m[0]], true))
		return r.ratio(text[m[2]:m[3]], nil)
	}
	written = strings.TrimSpace(written)
	rest := strings.TrimSpace(text[len(written):])
	pieces = append(pieces, Piece{written, AsAmount})
	if rest == "" && len(r.waiting) > 0 { // “vinegar and water, 1:4”
		r.shared = sharing{amounts: shares, written: written, all: all}
		waiting := r.waiting
		r.waiting = nil
		for i, n := range waiting {
			if !r.shared.open() {
				r.waiting = append(r.waiting, n)
				continue
			}
			a := r.shared.take()
			p := n.pieces
			if i == 0 {
				p = append(p, pieces...)
			}
			r.add(n.text, quantity.Reading{Amount: a}, a.String(), n.text, p)
		}
		r.shared = sharing{}
		return "", true
	}
	r.settle()
	r.closeShared()
	r.shared = sharing{amounts: shares, written: "1 part", all: all}
	return r.names(pieces, rest, true), true
}

func partsOf(n int64) quantity.Amount { return quantity.Of(n, 1, quantity.Part) }

func shareNumbers(text string) (shares []quantity.Amount) {
	for _, f := range strings.FieldsFunc(text, func(r rune) bool { return !unicode.IsDigit(r) }) {
		if a, err := quantity.Parse(f + " parts"); err == nil {
			shares = append(shares, a)
		}
	}
	return shares
}
