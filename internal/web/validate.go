package web

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"mime"
	"net/http"
	"strings"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/gofiber/fiber/v3"

	"keencrock/api"
	"keencrock/internal/web/contract"
)

// validator holds request bodies against the contract before a handler sees
// them.
type validator struct {
	routes []bodyRoute
}

type bodyRoute struct {
	method   string
	segments []string
	media    string
	schema   *openapi3.Schema
}

func newValidator() (*validator, error) {
	spec, err := contract.GetSpec()
	if err != nil {
		return nil, fmt.Errorf("read the contract: %w", err)
	}
	v := &validator{}
	for path, item := range spec.Paths.Map() {
		for method, op := range item.Operations() {
			if op.RequestBody == nil {
				continue
			}
			for media, content := range op.RequestBody.Value.Content {
				v.routes = append(v.routes, bodyRoute{method, strings.Split(path, "/"), media, content.Schema.Value})
			}
		}
	}
	return v, nil
}

func (r *bodyRoute) matches(method string, segments []string) bool {
	if r.method != method || len(r.segments) != len(segments) {
		return false
	}
	for i, s := range r.segments {
		if !strings.HasPrefix(s, "{") && s != segments[i] {
			return false
		}
	}
	return true
}

func (v *validator) validate(c fiber.Ctx) error {
	if safeMethod(c.Method()) {
		return c.Next()
	}
	segments := strings.Split(c.Path(), "/")
	for i := range v.routes {
		r := &v.routes[i]
		if !r.matches(c.Method(), segments) {
			continue
		}
		media, _, err := mime.ParseMediaType(c.Get("Content-Type"))
		if err != nil || media != r.media {
			return api.NewProblem(http.StatusUnsupportedMediaType, "wrong-media", "This call takes %s.", r.media)
		}
		if media == "application/json" {
			if err := validateJSON(c.Body(), r.schema); err != nil {
				return err
			}
		}
		break
	}
	return c.Next()
}

func validateJSON(body []byte, schema *openapi3.Schema) error {
	var value any
	d := json.NewDecoder(bytes.NewReader(body))
	if err := d.Decode(&value); err != nil {
		return api.NewProblem(http.StatusBadRequest, "bad-json", "The request is no JSON: %v.", err)
	}
	if d.More() {
		return api.NewProblem(http.StatusBadRequest, "bad-json", "There is something after the end of the JSON.")
	}
	err := schema.VisitJSON(value, openapi3.MultiErrors())
	if err == nil {
		return nil
	}
	problems := flatten(err)
	if len(problems) == 1 {
		return &problems[0]
	}
	return api.Refused("bad-fields", problems[0].Detail, problems)
}

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
		p.Expected = s.Reason
		if p.Field == "" {
			p.Detail = fmt.Sprintf("The request does not fit the contract: %s.", s.Reason)
		} else {
			p.Detail = fmt.Sprintf("%s: %s.", p.Field, s.Reason)
		}
	}
	return []api.Problem{*p}
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
