package api_test

import (
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

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
