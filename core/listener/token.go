package listener

import (
	"regexp"
	"strings"
	"unicode"
	"unicode/utf8"

	"keencrock/core/quantity"
)

// tokenKind is what a token is made of.
type tokenKind uint8

const (
	isWord   tokenKind = iota // letters, and an apostrophe within
	isNumber                  // digits with points and commas between, or a fraction sign
	isSign                    // one sign
	isBreak                   // the end of a line of a list, or of a paragraph
)

// token is a stretch of a text that is read as one, from byte from to byte to.
type token struct {
	from, to int
	kind     tokenKind
	word     string // in small letters, with plain apostrophes
	tight    bool   // nothing stands between it and the one before
	blank    bool   // a break with an empty line after it
}

// sound is what a text becomes before it is read: broken bytes and marks of direction
// are spaces, so that every byte of it can be told a place.
func sound(text string) string {
	if utf8.ValidString(text) && !strings.ContainsFunc(text, isInvisible) {
		return text
	}
	var b strings.Builder
	for i, r := range text {
		switch {
		case r == utf8.RuneError && !strings.HasPrefix(text[i:], "\uFFFD"), isInvisible(r):
			b.WriteByte(' ')
		default:
			b.WriteRune(r)
		}
	}
	return b.String()
}

// isInvisible reports whether a letter steers others and is not seen itself.
func isInvisible(r rune) bool {
	return unicode.Is(unicode.Cf, r) || r == '\uFEFF' || r < ' ' && r != '\n' && r != '\t' && r != '\r'
}

// tokens parts a sound text.
func tokens(text string) []token {
	out := make([]token, 0, len(text)/4)
	end := 0 // of the token before
	lineStart := 0
	for i := 0; i < len(text); {
		r, size := utf8.DecodeRuneInString(text[i:])
		t := token{from: i, to: i + size, tight: i == end && i > 0}
		switch {
		case r == '\n' || r == '\r':
			t.to = i + len(text[i:]) - len(strings.TrimLeft(text[i:], " \t\r\n"))
			t.kind, t.blank = isBreak, strings.Count(text[i:t.to], "\n") > 1
			if !t.blank && wraps(text[lineStart:i], text[t.to:]) {
				i, lineStart = t.to, t.to
				continue
			}
			lineStart = t.to
		case unicode.IsSpace(r):
			i += size
			continue
		case unicode.IsLetter(r) || unicode.Is(unicode.M, r):
			t.to = i + wordLength(text[i:])
			t.kind, t.word = isWord, lowered(text[i:t.to])
			if t.word == "w" && strings.HasPrefix(text[t.to:], "/") { // “w/ alcohol”
				t.to, t.word = t.to+1, "with"
			}
		case unicode.IsDigit(r):
			t.to = i + numberLength(text[i:])
			t.kind, t.word = isNumber, text[i:t.to]
		case r == '.' && !t.tight && i+1 < len(text) && isDigit(text[i+1]): // “.5 oz”
			t.to = i + 1 + numberLength(text[i+1:])
			t.kind, t.word = isNumber, text[i:t.to]
		case unicode.Is(unicode.No, r):
			t.kind, t.word = isNumber, text[i:t.to]
		default:
			t.kind, t.word = isSign, text[i:t.to]
		}
		out = append(out, t)
		i, end = t.to, t.to
	}
	return out
}

// longLine is from how many letters on a line is one of a page, which ends where the
// page does and not where the sentence does.
const longLine = 60

// labelled is what begins a line of its own whatever stands before: “method: …”, “makes 20”.
var labelled = regexp.MustCompile(`^(?:[a-z]+(?: [a-z]+)?\s?:|(?:makes|yields|gives|keeps)\b)`)

// wraps reports whether a line goes on in the next.
func wraps(line, next string) bool {
	line = strings.TrimSpace(line)
	if len(line) < longLine || strings.HasSuffix(line, ".") || strings.HasSuffix(line, ":") || strings.HasSuffix(line, ";") || next == "" {
		return false
	}
	r, _ := utf8.DecodeRuneInString(next)
	return unicode.IsLower(r) && !labelled.MatchString(next)
}

func wordLength(s string) int {
	for i, r := range s {
		switch {
		case unicode.IsLetter(r), unicode.Is(unicode.M, r):
		case i == 1 && s[0] == 'x' && unicode.IsDigit(r): // “x2 cups”
			return i
		case i > 0 && unicode.IsDigit(r):
		case (r == '\'' || r == '’') && i+utf8.RuneLen(r) < len(s) && startsWithLetter(s[i+utf8.RuneLen(r):]):
		default:
			return i
		}
	}
	return len(s)
}

func startsWithLetter(s string) bool {
	r, _ := utf8.DecodeRuneInString(s)
	return unicode.IsLetter(r)
}

// numberLength is that of digits, with points and commas between them.
func numberLength(s string) int {
	for i := 0; i < len(s); i++ {
		c := s[i]
		if (c == '.' || c == ',') && i+1 < len(s) && isDigit(s[i+1]) || isDigit(c) {
			continue
		}
		if c < utf8.RuneSelf {
			return i
		}
		if r, _ := utf8.DecodeRuneInString(s[i:]); !unicode.IsDigit(r) {
			return i
		}
	}
	return len(s)
}

func isDigit(b byte) bool { return '0' <= b && b <= '9' }

func lowered(s string) string {
	for i := 0; i < len(s); i++ {
		if c := s[i]; c < 'a' || c > 'z' {
			return strings.ReplaceAll(strings.ToLower(s), "’", "'")
		}
	}
	return s
}

// endsSentence tells a full stop from that of an abbreviation: what follows it is the
// end, a break, or a space and a capital or a number, and what stands before it is no
// abbreviation.
func endsSentence(text string, toks []token, i int) bool {
	if i+1 == len(toks) || toks[i+1].kind == isBreak {
		return true
	}
	next := toks[i+1]
	if next.tight {
		return false
	}
	r, _ := utf8.DecodeRuneInString(text[next.from:])
	if unicode.IsUpper(r) {
		return true
	}
	if i > 0 && toks[i-1].word == "no" { // “no. 3” is a number, “no.” is no
		return next.kind != isNumber
	}
	if i > 1 && (next.kind == isNumber || quantity.IsNumber(next.word)) && toks[i-2].kind == isNumber && endUnits[toks[i-1].word] { // “250 g. 3 parts …”, where “1 lb. 4 oz” is one amount
		return true
	}
	return i == 0 || !abbreviations[toks[i-1].word]
}

// endUnits are short units that no smaller one follows in one amount.
var endUnits = wordSet("endUnits")

// abbreviations end in a point that ends no sentence.
var abbreviations = wordSet("abbreviations")
