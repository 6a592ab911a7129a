package web

import (
	"bytes"
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"mime"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"sync"
	"unicode/utf8"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/gofiber/fiber/v3"

	"keencrock/api"
	"keencrock/internal/problem"
)

// validator holds requests against the contract before a handler sees them:
// that there is such an operation, its parameters, its body. What matches no
// operation goes no further.
type validator struct {
	paths []contractPath
	money *openapi3.Schema
}

// contractPath is one path of the contract with its operations by method.
type contractPath struct {
	segments   []string
	operations map[string]*operation
	allow      string // the methods, as the header Allow lists them
}

type operation struct {
	name       string
	parameters openapi3.Parameters // in the query
	media      string              // of the body; empty when it takes none
	body       *openapi3.Schema
	once       bool             // it makes something, once for each key
	prices     *openapi3.Schema // of what is answered, where prices stand in it
}

// newValidator reads the contract, once for all servers of a process: nothing of it changes.
var newValidator = sync.OnceValues(readContract)

func readContract() (*validator, error) {
	spec, err := openapi3.NewLoader().LoadFromData(api.Spec)
	if err != nil {
		return nil, fmt.Errorf("read the contract: %w", err)
	}
	v := &validator{money: spec.Components.Schemas["Money"].Value}
	for path, item := range spec.Paths.Map() {
		p := contractPath{segments: strings.Split(path, "/"), operations: map[string]*operation{}}
		var methods []string
		for method, op := range item.Operations() {
			p.operations[method] = operationOf(op)
			p.operations[method].prices = v.pricesOf(op)
			methods = append(methods, method)
		}
		if get := p.operations[http.MethodGet]; get != nil && !isStream(path) { // a stream has no length to tell
			p.operations[http.MethodHead] = get
			methods = append(methods, http.MethodHead)
		}
		slices.Sort(methods)
		p.allow = strings.Join(methods, ", ")
		v.paths = append(v.paths, p)
	}
	// a word in a path goes before a parameter in its place
	slices.SortFunc(v.paths, func(a, b contractPath) int { return cmp.Compare(a.parameterCount(), b.parameterCount()) })
	return v, nil
}

func operationOf(op *openapi3.Operation) *operation {
	out := &operation{name: op.OperationID}
	for _, p := range op.Parameters {
		if p.Value.In == openapi3.ParameterInQuery {
			out.parameters = append(out.parameters, p)
		}
		out.once = out.once || p.Value.In == openapi3.ParameterInHeader && p.Value.Name == onceHeader
	}
	if op.RequestBody != nil {
		for media, content := range op.RequestBody.Value.Content {
			out.media, out.body = media, content.Schema.Value
		}
	}
	return out
}

func isParameter(segment string) bool { return strings.HasPrefix(segment, "{") }

func (p *contractPath) parameterCount() (n int) {
	for _, s := range p.segments {
		if isParameter(s) {
			n++
		}
	}
	return n
}

func (p *contractPath) matches(segments []string) bool {
	if len(p.segments) != len(segments) {
		return false
	}
	for i, s := range p.segments {
		if isParameter(s) && segments[i] == "" || !isParameter(s) && s != segments[i] {
			return false
		}
	}
	return true
}

// find returns the operation of a request; nil with the allowed methods where
// only the method is wrong, nil with nothing where there is no such path.
func (v *validator) find(method, path string) (op *operation, allow string) {
	segments := strings.Split(path, "/")
	for i := range v.paths {
		if p := &v.paths[i]; p.matches(segments) {
			return p.operations[method], p.allow
		}
	}
	return nil, ""
}

// route refuses what matches no operation of the contract. It is asked before
// anyone is known, since what there is to call is no secret.
func (v *validator) route(c fiber.Ctx) error {
	path := c.Path()
	op, allow := v.find(c.Method(), path)
	if op != nil {
		fiber.Locals(c, operationKey{}, op.name)
	}
	switch {
	case allow == "":
		return fiber.ErrNotFound
	case op == nil:
		c.Set("Allow", allow)
		return api.NewProblem(http.StatusMethodNotAllowed, "wrong-method", "This address takes %s.", allow)
	}
	if decoded, err := url.PathUnescape(path); err != nil || !keepable(decoded) {
		return api.NewProblem(http.StatusUnprocessableEntity, "bad-value", "The address holds what is no text.")
	}
	return c.Next()
}

// validate holds the parameters and the body of a request against its
// operation.
func (v *validator) validate(c fiber.Ctx) error {
	op, _ := v.find(c.Method(), c.Path())
	if op == nil {
		return fiber.ErrNotFound
	}
	if query := c.Request().URI().QueryString(); len(query) > 0 {
		if err := op.validateQuery(string(query)); err != nil {
			return err
		}
	}
	if op.media == "" {
		return c.Next()
	}
	media, _, err := mime.ParseMediaType(c.Get("Content-Type"))
	if err != nil || media != op.media {
		return api.NewProblem(http.StatusUnsupportedMediaType, "wrong-media", "This call takes %s.", op.media)
	}
	if media == "application/json" {
		if err := validateJSON(c.Body(), op.body); err != nil {
			return err
		}
	} else if media != "application/octet-stream" && bytes.IndexByte(c.Body(), 0) >= 0 {
		return api.NewProblem(http.StatusUnprocessableEntity, "bad-value", "The file holds what is no text.")
	}
	return c.Next()
}

// validateQuery holds each parameter of a query against its schema; one that
// the operation does not know, or given twice, is refused.
func (op *operation) validateQuery(raw string) error {
	query, err := url.ParseQuery(raw)
	if err != nil {
		return api.NewProblem(http.StatusBadRequest, "bad-query", "What follows the “?” of the address cannot be read.")
	}
	for name, values := range query {
		p := op.parameters.GetByInAndName(openapi3.ParameterInQuery, name)
		if p == nil {
			return api.NewProblem(http.StatusUnprocessableEntity, "unknown-parameter", "This call has no parameter “%s”.", name).At(name)
		}
		if len(values) > 1 || !keepable(values[0]) {
			return api.NewProblem(http.StatusUnprocessableEntity, "bad-value", "%s: give it once, as text.", name).At(name)
		}
	}
	in := &openapi3filter.RequestValidationInput{Request: &http.Request{URL: &url.URL{RawQuery: raw}}, QueryParams: query}
	for _, p := range op.parameters {
		if err := openapi3filter.ValidateParameter(context.Background(), in, p.Value); err != nil {
			return parameterProblem(p.Value, err)
		}
	}
	return nil
}

func parameterProblem(p *openapi3.Parameter, err error) *api.Problem {
	out := api.NewProblem(http.StatusUnprocessableEntity, "bad-field", "%s does not fit the contract.", p.Name).At(p.Name)
	var s *openapi3.SchemaError
	if errors.As(err, &s) {
		out.Expected = s.Reason
		out.Detail = fmt.Sprintf("%s: %s.", p.Name, s.Reason)
	}
	return out
}

// keepable reports whether a text can be kept: PostgreSQL takes any but the
// NUL character and broken UTF-8.
func keepable(s string) bool { return strings.IndexByte(s, 0) < 0 && utf8.ValidString(s) }

func validateJSON(body []byte, schema *openapi3.Schema) error {
	var value any
	d := json.NewDecoder(bytes.NewReader(body))
	if err := d.Decode(&value); err != nil {
		return api.NewProblem(http.StatusBadRequest, "bad-json", "The request is no JSON: %v.", err)
	}
	if d.More() {
		return api.NewProblem(http.StatusBadRequest, "bad-json", "There is something after the end of the JSON.")
	}
	if written(body) != held(value) {
		return api.NewProblem(http.StatusBadRequest, "bad-json", "The JSON names a member of an object twice: which one is meant, nobody can tell.")
	}
	err := schema.VisitJSON(value)
	if err == nil {
		if utf8.Valid(body) && !bytes.Contains(body, escapedNUL) {
			return nil
		}
		if field, bad := notKeepable(value, ""); bad {
			return api.NewProblem(http.StatusUnprocessableEntity, "bad-value", "%s holds a character that cannot be kept.", field).At(field)
		}
		return nil
	}
	problems := flatten(schema.VisitJSON(value, openapi3.MultiErrors())) // all that is wrong, told at once
	if len(problems) == 1 {
		return &problems[0]
	}
	return problem.UnfitAll("bad-fields", problems[0].Detail, problems)
}

// written is how many members the objects of a JSON text name: each has a colon, and no
// other colon stands outside of a text.
func written(text []byte) (n int) {
	inText, escaped := false, false
	for _, b := range text {
		switch {
		case escaped:
			escaped = false
		case inText && b == '\\':
			escaped = true
		case b == '"':
			inText = !inText
		case b == ':' && !inText:
			n++
		}
	}
	return n
}

// held is how many members the objects of a value have: fewer than were written when one
// was named twice.
func held(value any) (n int) {
	switch v := value.(type) {
	case []any:
		for i := range v {
			n += held(v[i])
		}
	case map[string]any:
		n = len(v)
		for _, inner := range v {
			n += held(inner)
		}
	}
	return n
}

// escapedNUL is how JSON writes the one character that cannot be kept.
var escapedNUL = []byte(`\u0000`)

// notKeepable finds a text that cannot be kept, by its place.
func notKeepable(value any, at string) (field string, bad bool) {
	switch v := value.(type) {
	case string:
		return at, !keepable(v)
	case []any:
		for i := range v {
			if field, bad := notKeepable(v[i], fmt.Sprintf("%s[%d]", at, i)); bad {
				return field, true
			}
		}
	case map[string]any:
		for name := range v {
			inner := name
			if at != "" {
				inner = at + "." + name
			}
			if !keepable(name) {
				return at, true
			}
			if field, bad := notKeepable(v[name], inner); bad {
				return field, true
			}
		}
	}
	return "", false
}
