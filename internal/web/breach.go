package web

import (
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"github.com/getkin/kin-openapi/openapi3"

	"keencrock/api"
)

// flatten makes one problem of each breach of the schema.
func flatten(err error) []api.Problem {
	var many openapi3.MultiError
	if errors.As(err, &many) {
		var out []api.Problem
		for _, e := range many {
			out = append(out, flatten(e)...)
		}
		return out
	}
	p := api.NewProblem(http.StatusUnprocessableEntity, "bad-field", "The request does not fit the contract.")
	var s *openapi3.SchemaError
	if errors.As(err, &s) {
		p.Field = fieldOf(s.JSONPointer())
		p.Expected = wanted(s)
		if p.Field == "" {
			p.Detail = fmt.Sprintf("The request does not fit the contract: %s.", p.Expected)
		} else {
			p.Detail = fmt.Sprintf("%s: %s.", fieldWords(p.Field), p.Expected)
		}
	}
	return []api.Problem{*p}
}

// wanted is what a schema asks for where something breaks it, in words of people.
func wanted(s *openapi3.SchemaError) string {
	is := s.Schema
	switch s.SchemaField {
	case "required":
		return "it is missing"
	case "minLength":
		if is.MinLength == 1 {
			return "it is empty"
		}
		return fmt.Sprintf("at least %d letters", is.MinLength)
	case "maxLength":
		return fmt.Sprintf("at most %d letters", *is.MaxLength)
	case "minItems":
		return fmt.Sprintf("at least %s", counted(is.MinItems))
	case "maxItems":
		return fmt.Sprintf("at most %s", counted(*is.MaxItems))
	case "minimum":
		return "at least " + number(*is.Min)
	case "maximum":
		return "at most " + number(*is.Max)
	case "enum":
		all := make([]string, len(is.Enum))
		for i, v := range is.Enum {
			all[i] = fmt.Sprint(v)
		}
		return "one of " + strings.Join(all, ", ")
	case "type":
		if is.Type != nil {
			return typeWords(is.Type.Slice()) + " is wanted"
		}
	case "format":
		if words, known := formatWords[is.Format]; known {
			return words + " is wanted"
		}
	case "properties":
		_, name, _ := strings.Cut(s.Reason, `"`)
		name, _, _ = strings.Cut(name, `"`)
		return fmt.Sprintf("“%s” is not known", name)
	}
	return s.Reason
}

var formatWords = map[string]string{"date-time": "a day with its time", "date": "a day", "uuid": "an id", "byte": "base64"}

func typeWords(types []string) string {
	words := map[string]string{"string": "a text", "number": "a number", "integer": "a whole number", "boolean": "yes or no", "array": "a list", "object": "an object", "null": "nothing"}
	all := make([]string, len(types))
	for i, t := range types {
		if all[i] = t; words[t] != "" {
			all[i] = words[t]
		}
	}
	return strings.Join(all, " or ")
}

func counted(n uint64) string {
	if n == 1 {
		return "one"
	}
	return strconv.FormatUint(n, 10)
}

func number(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }

// fieldWords is the place of a field as people read it: “Lines 3, amount”.
func fieldWords(field string) string {
	words := strings.NewReplacer("_", " ", ".", ", ").Replace(field)
	for n := strings.IndexByte(words, '['); n >= 0; n = strings.IndexByte(words, '[') {
		end := n + strings.IndexByte(words[n:], ']')
		at, err := strconv.Atoi(words[n+1 : end])
		if err != nil {
			break
		}
		words = fmt.Sprintf("%s %d%s", words[:n], at+1, words[end+1:])
	}
	return strings.ToUpper(words[:1]) + words[1:]
}

// fieldOf writes a JSON pointer as lines[2].amount.
func fieldOf(pointer []string) string {
	var b strings.Builder
	for _, part := range pointer {
		switch {
		case part != "" && strings.Trim(part, "0123456789") == "":
			fmt.Fprintf(&b, "[%s]", part)
		case b.Len() > 0:
			b.WriteString("." + part)
		default:
			b.WriteString(part)
		}
	}
	return b.String()
}
