package api

import (
	"encoding/json"
	"fmt"
	"strings"

	"github.com/getkin/kin-openapi/openapi3"
)

// Formats names the open formats and the schema of the contract each one is.
var Formats = map[string]string{"formula": "FormulaFile", "assessment": "Assessment"}

// FormatSchema derives the JSON Schema (2020-12) of an open format from the
// contract, so that the two cannot drift apart. The error is for a name that
// is not in [Formats].
func FormatSchema(format string) ([]byte, error) {
	name, known := Formats[format]
	if !known {
		return nil, fmt.Errorf("there is no format %q: expected formula or assessment", format)
	}
	spec, err := openapi3.NewLoader().LoadFromData(Spec)
	if err != nil {
		return nil, fmt.Errorf("read the contract: %w", err)
	}
	defs := map[string]any{}
	if err := define(spec.Components.Schemas, name, defs); err != nil {
		return nil, err
	}
	root := defs[name].(map[string]any)
	delete(defs, name)
	root["$schema"] = "https://json-schema.org/draft/2020-12/schema"
	root["title"] = "Keen Crock " + format
	root["$defs"] = defs
	text, err := json.MarshalIndent(root, "", "  ")
	return append(text, '\n'), err
}

const componentPrefix = "#/components/schemas/"

// define adds a schema, and every one it refers to, to defs.
func define(all openapi3.Schemas, name string, defs map[string]any) error {
	if _, done := defs[name]; done {
		return nil
	}
	ref, ok := all[name]
	if !ok {
		return fmt.Errorf("the contract has no schema %q", name)
	}
	text, err := json.Marshal(ref)
	if err != nil {
		return err
	}
	var schema map[string]any
	if err := json.Unmarshal(text, &schema); err != nil {
		return err
	}
	defs[name] = schema
	return tidy(all, schema, defs)
}

// tidy turns references into ones within the document, drops what only the
// code generator reads, and defines what is referred to.
func tidy(all openapi3.Schemas, node any, defs map[string]any) error {
	switch n := node.(type) {
	case map[string]any:
		for key, value := range n {
			target, isRef := value.(string)
			switch {
			case strings.HasPrefix(key, "x-"):
				delete(n, key)
			case key == "$ref" && isRef:
				name := strings.TrimPrefix(target, componentPrefix)
				n[key] = "#/$defs/" + name
				if err := define(all, name, defs); err != nil {
					return err
				}
			default:
				if err := tidy(all, value, defs); err != nil {
					return err
				}
			}
		}
	case []any:
		for _, value := range n {
			if err := tidy(all, value, defs); err != nil {
				return err
			}
		}
	}
	return nil
}
