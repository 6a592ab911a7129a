// Package core_test guards the walls of the house: arrows point down only.
package core_test

import (
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const module = "keencrock/"

// mayImport says, for each room, which rooms of this project it may know.
// The longest matching prefix counts.
var mayImport = map[string][]string{
	"core/":              {"core/"},
	"internal/store/":    {"internal/store/"},
	"internal/workshop/": {"core/", "internal/store/", "internal/exchange/", "api/"},
	"internal/exchange/": {"core/", "api/"},
	"internal/device/":   {},
	"internal/localpg/":  {},
	"internal/web/":      {"internal/web/", "internal/workshop/", "internal/device/", "internal/exchange/", "core/", "api/", "ui/"},
	"internal/testdb/":   {"internal/localpg/"},
	"internal/gnuunits/": {},
	"api/":               {},
	"ui/":                {},
	"demo/":              {"core/", "internal/workshop/", "internal/store/", "api/"},
	"cmd/":               {""},
	"e2e/":               {""},
}

// coreMayUse lists what core may use beside the standard library: well-known
// packages for arithmetic and words.
var coreMayUse = []string{"github.com/shopspring/decimal", "github.com/agnivade/levenshtein", "gonum.org/v1/gonum"}

// coreMustNotUse are parts of the standard library that would let the world
// into the rules of the job.
var coreMustNotUse = []string{"net", "net/http", "os", "os/exec", "database/sql", "math/rand", "math/rand/v2", "crypto/rand", "log", "io/fs"}

func TestArrowsPointDownOnly(t *testing.T) {
	root := ".."
	seen := 0
	err := filepath.WalkDir(root, func(path string, d fs.DirEntry, err error) error {
		require.NoError(t, err)
		if d.IsDir() {
			if name := d.Name(); name == "node_modules" || name != ".." && strings.HasPrefix(name, ".") {
				return filepath.SkipDir
			}
			return nil
		}
		if !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return nil
		}
		seen++
		checkFile(t, root, path)
		return nil
	})
	require.NoError(t, err)
	assert.Greater(t, seen, 30, "the walls were walked")
}

func checkFile(t *testing.T, root, path string) {
	file, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.ImportsOnly)
	require.NoError(t, err)
	rel, err := filepath.Rel(root, path)
	require.NoError(t, err)
	room, allowed := "", []string(nil)
	for prefix, rooms := range mayImport {
		if strings.HasPrefix(filepath.ToSlash(rel), prefix) && len(prefix) > len(room) {
			room, allowed = prefix, rooms
		}
	}
	if !assert.NotEmpty(t, room, "%s stands in no known room; give it one in mayImport", rel) {
		return
	}
	for _, imp := range file.Imports {
		name, err := strconv.Unquote(imp.Path.Value)
		require.NoError(t, err)
		if ours, isOurs := strings.CutPrefix(name, module); isOurs {
			ok := slices.ContainsFunc(allowed, func(p string) bool { return strings.HasPrefix(ours+"/", p) })
			assert.True(t, ok, "%s may not import %s", rel, name)
			continue
		}
		if room != "core/" {
			continue
		}
		assert.NotContains(t, coreMustNotUse, name, "%s: the core does no I/O and draws no lots", rel)
		if strings.Contains(strings.Split(name, "/")[0], ".") {
			ok := slices.ContainsFunc(coreMayUse, func(p string) bool { return name == p || strings.HasPrefix(name, p+"/") })
			assert.True(t, ok, "%s may not use %s", rel, name)
		}
	}
}

// The core takes time as an argument: no file of it asks for the clock.
func TestCoreHasNoClockAndNoWireTags(t *testing.T) {
	err := filepath.WalkDir(".", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return err
		}
		source, err := os.ReadFile(path)
		require.NoError(t, err)
		for _, banned := range []string{"time.Now(", "time.Since(", "`json:", "`gorm:"} {
			assert.NotContains(t, string(source), banned, path)
		}
		return nil
	})
	require.NoError(t, err)
}
