package listener

import (
	"cmp"
	"errors"
	"regexp"
	"strings"

	"keencrock/core/material"
	"keencrock/core/quantity"
)

// Measuring is one as it was said: 100 drops of rosemary oil weigh 4.1 g.
type Measuring struct {
	Measure quantity.Amount
	Of      *material.Material // nil where none was said
	Is      quantity.Amount
}

// ErrNoMeasuring is of what says no measuring.
var ErrNoMeasuring = errors.New("say what was measured and what it came to: a cup of washing soda weighs 243 g; 100 drops make 4.6 ml; my mug holds 320 ml")

// isVerb parts what was measured from what it came to.
var isVerb = regexp.MustCompile(`(?i)\s*(?:=|:|→|\b(?:weighs?|weighed|holds?|held|is|are|was|were|makes?|made|gives?|gave|came? to|comes to|measures?|measured)\b)\s*`)

// whose are words before a measure that say nothing of it.
var whose = regexp.MustCompile(`(?i)^(?:(?:my|our|the|that|this|these|those|of|exactly)\s+)+`)

// ReadMeasuring reads a measuring: “a cup of washing soda weighs 243 g”, “my mug holds
// 320 ml”, “100 drops = 4.6 ml”. The error is a *quantity.ParseError, an error of
// [material.Library.Read], or [ErrNoMeasuring].
func ReadMeasuring(text string, lib *material.Library) (*Measuring, error) {
	text = strings.TrimSpace(text)
	if len(text) > MaxText {
		return nil, ErrNoMeasuring
	}
	var wrong error
	for _, at := range isVerb.FindAllStringIndex(text, 8) {
		left, right := whose.ReplaceAllString(strings.TrimSpace(text[:at[0]]), ""), whose.ReplaceAllString(strings.Trim(text[at[1]:], " .!"), "")
		if left == "" || right == "" {
			continue
		}
		is, err := quantity.Parse(right)
		if err != nil || is.Open() != quantity.NotOpen {
			wrong = cmp.Or(err, ErrNoMeasuring)
			continue
		}
		out, err := measureOf(left, lib)
		if err != nil {
			wrong = err
			continue
		}
		out.Is = is
		return out, nil
	}
	if wrong == nil {
		wrong = ErrNoMeasuring
	}
	return nil, wrong
}

// measureOf reads “100 drops of rosemary oil”, or a measure alone; one without a number is
// one of it.
func measureOf(said string, lib *material.Library) (*Measuring, error) {
	for _, text := range []string{said, "1 " + said} {
		if a, err := quantity.Parse(text); err == nil && a.Open() == quantity.NotOpen {
			if _, bare := a.Pieces(); !bare {
				return &Measuring{Measure: a}, nil
			}
		}
	}
	for _, text := range []string{said, "1 " + said} {
		lines := Lines(text, lib)
		if len(lines) != 1 || lines[0].Line.Amount.IsZero() {
			continue
		}
		if lines[0].Err != nil {
			return nil, lines[0].Err
		}
		m, err := lib.Find(lines[0].Material)
		if err != nil {
			return nil, err
		}
		return &Measuring{Measure: lines[0].Line.Amount, Of: m}, nil
	}
	return nil, ErrNoMeasuring
}
