package web

import (
	"testing"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/stretchr/testify/assert"
)

// What does not fit is said so that who typed it can mend it, not who wrote the schema.
func TestABreachIsSaidInWordsOfPeople(t *testing.T) {
	text := func() *openapi3.Schema { return openapi3.NewStringSchema() }
	schema := openapi3.NewObjectSchema().WithProperty("name", text().WithMinLength(1)).WithProperty("note", text().WithMaxLength(3)).
		WithProperty("of", text().WithEnum("a", "b")).WithProperty("each_g", openapi3.NewFloat64Schema().WithMin(1).WithMax(9)).
		WithProperty("lines", openapi3.NewArraySchema().WithMaxItems(2).WithItems(openapi3.NewObjectSchema().WithProperty("amount", text()))).
		WithProperty("photo", openapi3.NewBytesSchema()).WithoutAdditionalProperties()
	schema.Required = []string{"name"}
	for _, c := range []struct {
		body map[string]any
		want string
	}{
		{map[string]any{}, "Name: it is missing."},
		{map[string]any{"name": ""}, "Name: it is empty."},
		{map[string]any{"name": "x", "note": "long"}, "Note: at most 3 letters."},
		{map[string]any{"name": "x", "of": "c"}, "Of: one of a, b."},
		{map[string]any{"name": "x", "each_g": 0.5}, "Each g: at least 1."},
		{map[string]any{"name": "x", "each_g": 10.0}, "Each g: at most 9."},
		{map[string]any{"name": "x", "each_g": "much"}, "Each g: a number is wanted."},
		{map[string]any{"name": "x", "lines": []any{map[string]any{"amount": 3.0}}}, "Lines 1, amount: a text is wanted."},
		{map[string]any{"name": "x", "lines": []any{map[string]any{}, map[string]any{}, map[string]any{}}}, "Lines: at most 2."},
		{map[string]any{"name": "x", "photo": "no!"}, "Photo: base64 is wanted."},
		{map[string]any{"name": "x", "other": 1.0}, "The request does not fit the contract: “other” is not known."},
	} {
		all := flatten(schema.VisitJSON(c.body, openapi3.MultiErrors()))
		if assert.Len(t, all, 1, c.want) {
			assert.Equal(t, c.want, all[0].Detail)
		}
	}
}
