package formula

import (
	"regexp"
	"strings"
	"unicode"

	"keencrock/core/quantity"
)

// clauses splits at new lines, semicolons, stops and commas, but not at a
// decimal comma or point, nor inside brackets.
func clauses(text string) []string {
	var out []string
	start, depth := 0, 0
	cut := func(end int) {
		if s := strings.TrimSpace(text[start:end]); strings.Trim(s, "•*·-–— ") != "" {
			out = append(out, s)
		}
		start = end + 1
	}
	for i, r := range text {
		switch {
		case r == '(' || r == '[':
			depth++
		case (r == ')' || r == ']') && depth > 0:
			depth--
		case r == '\n' || r == ';':
			cut(i)
			depth = 0
		case depth > 0:
		case r == ',' && !between(text, i, isDigit):
			cut(i)
		case r == '.' && endsSentence(text, i):
			cut(i)
		}
	}
	cut(len(text))
	return out
}

func isDigit(b byte) bool { return '0' <= b && b <= '9' }

// between reports whether both neighbours of a byte are of a kind.
func between(s string, i int, is func(byte) bool) bool {
	return i > 0 && i+1 < len(s) && is(s[i-1]) && is(s[i+1])
}

// endsSentence tells a full stop from that of an abbreviation or a decimal: a
// space and a capital or a number follow it, and a word of more than four
// letters stands before it.
func endsSentence(s string, i int) bool {
	if i+1 == len(s) {
		return true
	}
	rest := strings.TrimLeft(s[i+1:], " ")
	if len(rest) == len(s)-i-1 || rest == "" {
		return false
	}
	c := rune(rest[0])
	word := s[strings.LastIndexAny(s[:i], " \n,")+1 : i]
	return (unicode.IsUpper(c) || unicode.IsDigit(c)) && len(word) > 4
}

// opening are words at the head of a clause that say nothing of what goes in.
var opening = wordSet(`and plus then also add adding mix mixing stir stirring in combine use using take put pour with finally next first now you need needs will i we
	together well into it to the recipe is makes our my have of ingredients lastly last afterwards after that shake throw toss dissolve let lets followed by include including`)

// joiners part two lines within a clause where an amount follows.
var joiners = wordSet("and plus & + with then add also")

func wordSet(list string) map[string]bool {
	set := map[string]bool{}
	for _, w := range strings.Fields(list) {
		set[w] = true
	}
	return set
}

// opening parts the words at the head of a clause that say nothing.
func (r *textReader) opening(text string) (glue, rest string) {
	rest = strings.TrimLeft(text, "•*·-–—+& \t")
	if ordinal := listNumber.FindString(rest); ordinal != "" {
		rest = rest[len(ordinal):]
	}
	for rest != "" {
		word, after, _ := strings.Cut(rest, " ")
		if !opening[strings.ToLower(strings.Trim(word, ":"))] {
			break
		}
		if _, err := quantity.ReadPrefix(rest); err == nil {
			break // “to 10 l water” begins with an amount
		}
		rest = strings.TrimLeft(after, " ")
	}
	return strings.TrimSpace(text[:len(text)-len(rest)]), rest
}

// listNumber is the number of a line in a numbered list.
var listNumber = regexp.MustCompile(`^\d{1,2}[.)]\s+`)

// doing are words that begin a sentence about what is done.
var doing = wordSet(`let leave wait stir strain press dry store keep cover close shake pour spray spread fill label cool heat boil simmer soak rub wipe rinse wash apply
	bring turn put place remove transfer set allow blend whisk grate chop scrub sprinkle use mix mash crush pack seal open that this it they then when if once after before while until
	do don't dont never always be make great good works leave-in`)

// methodWords is how many words make a sentence rather than a name.
const methodWords = 6

// isMethod reports whether a text that names nothing known says what is done.
func isMethod(text string) bool {
	words := strings.Fields(strings.ToLower(text))
	return len(words) >= methodWords || len(words) > 1 && doing[words[0]]
}
