package main

import (
	"bytes"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
)

// milder are values that say less than others.
var milder = map[string]string{
	"H314": "H315", "H318": "H319", "H360FD": "H361", "H271": "H272", "H225": "H226", "H300": "H301", "H301": "H302", "H310": "H311", "H311": "H312",
	"H330": "H331", "H331": "H332", "H410": "H411", "H411": "H412", "H372": "H373", "stop": "note", "warn": "note", "note": "warn",
	"laundry": "dishes", "dishes": "laundry", "surfaces": "toilet", "toilet": "surfaces",
}

var (
	scalar = regexp.MustCompile(`^-?[0-9.]+(?:[eE]-?[0-9]+)?`)
	quoted = regexp.MustCompile(`^"[^"]*"`)
)

// rows are the changes to values of some keys of a JSON file, wherever they stand under them.
func rows(text []byte, keys []string) (found []mutant) {
	for _, key := range keys {
		mark := []byte(strconv.Quote(key) + ":")
		for from := 0; ; {
			at := bytes.Index(text[from:], mark)
			if at < 0 {
				break
			}
			begin := from + at + len(mark)
			for text[begin] == ' ' {
				begin++
			}
			end := valueEnd(text, begin)
			for _, c := range changes(text[begin:end]) {
				changed := slices.Concat(text[:begin], c.text, text[end:])
				found = append(found, mutant{kind: "row", what: fmt.Sprintf("line %d, %s: %s", 1+bytes.Count(text[:begin], []byte("\n")), key, c.what), text: changed})
			}
			from = end
		}
	}
	return found
}

// valueEnd is where a JSON value ends.
func valueEnd(text []byte, begin int) int {
	depth, inText := 0, false
	for i := begin; i < len(text); i++ {
		switch c := text[i]; {
		case inText:
			inText = c != '"'
		case c == '"':
			inText = true
		case c == '{' || c == '[':
			depth++
		case c == '}' || c == ']':
			if depth--; depth < 0 {
				return i
			}
			if depth == 0 {
				return i + 1
			}
		case c == ',' && depth == 0:
			return i
		}
	}
	return len(text)
}

type change struct {
	text []byte
	what string
}

// changes are the changes to a value: each number in it doubled, each word made milder or, in
// a list, left out.
func changes(value []byte) (found []change) {
	for i := 0; i < len(value); i++ {
		rest := value[i:]
		if m := quoted.Find(rest); m != nil {
			after := bytes.TrimLeft(rest[len(m):], " ")
			if len(after) > 0 && after[0] == ':' { // a key
				i += len(m)
				continue
			}
			word := strings.Trim(string(m), `"`)
			if to, ok := milder[word]; ok {
				found = append(found, change{slices.Concat(value[:i], []byte(strconv.Quote(to)), rest[len(m):]), word + " becomes " + to})
			} else if value[0] == '[' {
				out := bytes.TrimSuffix(bytes.TrimRight(value[:i], " "), []byte(","))
				tail := rest[len(m):]
				if len(out) == 1 { // the first: with the comma after it
					tail = bytes.TrimPrefix(tail, []byte(","))
				}
				found = append(found, change{slices.Concat(out, tail), word + " is left out"})
			} else if amount := scalar.FindString(word); amount != "" {
				found = append(found, change{slices.Concat(value[:i], []byte(strconv.Quote(doubled(amount)+word[len(amount):])), rest[len(m):]), word + " is doubled"})
			} else if len(word) > 0 { // a name that is asked for
				found = append(found, change{slices.Concat(value[:i], []byte(`""`), rest[len(m):]), word + " is left out"})
			}
			i += len(m) - 1
			continue
		}
		if m := scalar.Find(rest); m != nil {
			found = append(found, change{slices.Concat(value[:i], []byte(doubled(string(m))), rest[len(m):]), string(m) + " is doubled"})
			i += len(m) - 1
		}
	}
	return found
}

// doubled is twice a number; half of it where twice a share is more than the whole.
func doubled(s string) string {
	v, err := strconv.ParseFloat(s, 64)
	if err != nil {
		return s
	}
	times := 2.0
	if v > 0.5 && v < 1 {
		times = 0.5
	}
	out := strconv.FormatFloat(v*times, 'g', -1, 64)
	if strings.Contains(s, ".") && !strings.ContainsAny(out, ".e") {
		out += ".0" // stays a float where its type is taken from it
	}
	return out
}
