package api_test

import (
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
)

// What is generated from the contract is what the contract says now.
func TestGeneratedCodeIsCurrent(t *testing.T) {
	for _, g := range []struct{ folder, config, file string }{
		{".", "models.yaml", "models.gen.go"},
		{"../internal/web/contract", "server.yaml", "server.gen.go"},
	} {
		spec, err := filepath.Abs("openapi.yaml")
		require.NoError(t, err)
		fresh := filepath.Join(t.TempDir(), g.file)
		config, err := os.ReadFile(filepath.Join(g.folder, g.config))
		require.NoError(t, err)
		elsewhere := filepath.Join(t.TempDir(), g.config)
		require.NoError(t, os.WriteFile(elsewhere, []byte(strings.Replace(string(config), "output: "+g.file, "output: "+fresh, 1)), 0o600))
		out, err := exec.Command("go", "tool", "oapi-codegen", "-config", elsewhere, spec).CombinedOutput()
		require.NoError(t, err, "%s", out)
		same(t, fresh, filepath.Join(g.folder, g.file), "run go generate ./api ./internal/web/contract")
	}
}

func TestTheContractIsBundledAsItIsWritten(t *testing.T) {
	fresh := filepath.Join(t.TempDir(), "openapi.yaml")
	out, err := exec.Command("go", "run", "./bundle", fresh).CombinedOutput()
	require.NoError(t, err, "%s", out)
	same(t, fresh, "openapi.yaml", "run go generate ./api")
}

// The contract is sound, and says of every call what it is for, which station it
// is of and how it fails; of every body, how long a text and how large a number
// may be.
func TestTheContractIsSound(t *testing.T) {
	spec, err := openapi3.NewLoader().LoadFromData(api.Spec)
	require.NoError(t, err)
	require.NoError(t, spec.Validate(t.Context()))
	for path, item := range spec.Paths.Map() {
		for method, op := range item.Operations() {
			what := method + " " + path
			assert.NotEmpty(t, op.OperationID, what)
			assert.NotEmpty(t, op.Summary, "%s says what it is for", what)
			if !strings.HasPrefix(path, "/api/health") && !strings.HasPrefix(path, "/api/openapi") && !strings.HasPrefix(path, "/api/events") {
				assert.Len(t, op.Tags, 1, "%s is of a station", what)
			}
			assert.NotNil(t, op.Responses.Default(), "%s says how it fails", what)
			for status := range op.Responses.Map() {
				assert.NotEqual(t, "500", status, what)
			}
			if op.RequestBody != nil {
				for _, content := range op.RequestBody.Value.Content {
					bounded(t, what, content.Schema, map[*openapi3.Schema]bool{})
				}
			}
		}
	}
}

// bounded holds that what is taken in has an end.
func bounded(t *testing.T, what string, ref *openapi3.SchemaRef, seen map[*openapi3.Schema]bool) {
	s := ref.Value
	if s == nil || seen[s] || s.ReadOnly || strings.HasSuffix(what, ".questions") { // what is asked comes back unread
		return
	}
	seen[s] = true
	switch {
	case s.Type.Is("string"):
		assert.True(t, s.MaxLength != nil || len(s.Enum) > 0 || s.Format != "" || s.Pattern != "", "%s: a text without an end", what)
	case s.Type.Is("array"):
		assert.NotNil(t, s.MaxItems, "%s: a list without an end", what)
		bounded(t, what+"[]", s.Items, seen)
	}
	for name, p := range s.Properties {
		bounded(t, what+"."+name, p, seen)
	}
}

func TestThePagesTypesAreCurrent(t *testing.T) {
	program := "../ui/node_modules/.bin/openapi-typescript"
	if _, err := os.Stat(program); err != nil {
		if os.Getenv("KEEN_CROCK_REQUIRE_ALL") != "" {
			t.Fatal("the page's packages are not installed")
		}
		t.Skip("the page's packages are not installed")
	}
	fresh := filepath.Join(t.TempDir(), "schema.d.ts")
	out, err := exec.Command(program, "openapi.yaml", "-o", fresh).CombinedOutput()
	require.NoError(t, err, "%s", out)
	same(t, fresh, "../ui/src/api/schema.d.ts", "run npm run types in ui/")
}

func TestThePublishedSchemasAreCurrent(t *testing.T) {
	for format := range api.Formats {
		text, err := api.FormatSchema(format)
		require.NoError(t, err)
		kept, err := os.ReadFile("../docs/formats/" + format + ".schema.json")
		require.NoError(t, err)
		assert.True(t, string(text) == string(kept), "docs/formats/%s.schema.json is stale: run go generate ./cmd/keencrock", format)
	}
	_, err := api.FormatSchema("label")
	assert.ErrorContains(t, err, "expected formula or assessment")
}

func same(t *testing.T, fresh, kept, mend string) {
	t.Helper()
	a, err := os.ReadFile(fresh)
	require.NoError(t, err)
	b, err := os.ReadFile(kept)
	require.NoError(t, err)
	assert.True(t, string(a) == string(b), "%s is stale: %s", kept, mend)
}
