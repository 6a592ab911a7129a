package web

import (
	"bytes"
	"encoding/json"
	"strings"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/gofiber/fiber/v3"

	"keencrock/internal/tenant"
)

// unpriced takes prices and costs out of what is answered to a viewer, unless the owner lets
// viewers see them: whatever the contract calls money is left empty. It stands at the one
// place that every answer passes, so that no use case can forget it.
func (v *validator) unpriced(house *tenant.House) fiber.Handler {
	return func(c fiber.Ctx) error {
		op, _ := v.find(c.Method(), c.Path())
		actor, err := tenant.Require(c.Context(), tenant.Viewer)
		if op == nil || op.prices == nil || err != nil || actor.Role != tenant.Viewer {
			return c.Next()
		}
		sees, err := tenant.SeesPrices(c.Context(), house.Store.Read(c.Context()))
		if err != nil {
			return err
		}
		if err := c.Next(); err != nil || sees || c.Response().StatusCode() >= fiber.StatusMultipleChoices || !strings.HasPrefix(string(c.Response().Header.ContentType()), "application/json") {
			return err
		}
		read := json.NewDecoder(bytes.NewReader(c.Response().Body()))
		read.UseNumber()
		var answer any
		if err := read.Decode(&answer); err != nil {
			return err
		}
		v.empty(answer, op.prices)
		body, err := json.Marshal(answer)
		if err != nil {
			return err
		}
		c.Response().SetBodyRaw(body)
		return nil
	}
}

// pricesOf is the schema of what an operation answers, where money stands in it; nil where
// none does.
func (v *validator) pricesOf(op *openapi3.Operation) *openapi3.Schema {
	for status, res := range op.Responses.Map() {
		if !strings.HasPrefix(status, "2") || res.Value == nil {
			continue
		}
		if content := res.Value.Content.Get("application/json"); content != nil && content.Schema != nil && v.holdsMoney(content.Schema.Value, map[*openapi3.Schema]bool{}) {
			return content.Schema.Value
		}
	}
	return nil
}

// within are the schemas of what stands within a value of a schema, but for properties.
func within(s *openapi3.Schema) (out []*openapi3.Schema) {
	for _, of := range [][]*openapi3.SchemaRef{s.AllOf, s.AnyOf, s.OneOf} {
		for _, ref := range of {
			out = append(out, ref.Value)
		}
	}
	return out
}

func (v *validator) holdsMoney(s *openapi3.Schema, seen map[*openapi3.Schema]bool) bool {
	if s == nil || seen[s] {
		return false
	}
	seen[s] = true
	if s == v.money {
		return true
	}
	inner := within(s)
	for _, p := range s.Properties {
		inner = append(inner, p.Value)
	}
	if s.Items != nil {
		inner = append(inner, s.Items.Value)
	}
	if s.AdditionalProperties.Schema != nil {
		inner = append(inner, s.AdditionalProperties.Schema.Value)
	}
	for _, one := range inner {
		if v.holdsMoney(one, seen) {
			return true
		}
	}
	return false
}

// isMoney reports whether a value of a schema is money.
func (v *validator) isMoney(s *openapi3.Schema) bool {
	if s == v.money {
		return true
	}
	for _, one := range within(s) {
		if v.isMoney(one) {
			return true
		}
	}
	return false
}

// empty leaves money empty in a value of a schema.
func (v *validator) empty(value any, s *openapi3.Schema) {
	for _, one := range within(s) {
		v.empty(value, one)
	}
	switch value := value.(type) {
	case []any:
		if s.Items == nil {
			return
		}
		for i := range value {
			if v.isMoney(s.Items.Value) {
				value[i] = ""
				continue
			}
			v.empty(value[i], s.Items.Value)
		}
	case map[string]any:
		for name, of := range value {
			schema := s.Properties[name]
			if schema == nil {
				schema = s.AdditionalProperties.Schema
			}
			switch {
			case schema == nil:
			case v.isMoney(schema.Value):
				value[name] = ""
			default:
				v.empty(of, schema.Value)
			}
		}
	}
}
