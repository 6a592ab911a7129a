package core_test

import (
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"os"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/making"
	"keencrock/core/quantity"
)

// constants are the names of the constants of a type in a file, in order, with their
// values where they are texts.
func constants(t *testing.T, path, of string) (names []string, values map[string]string) {
	t.Helper()
	file, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.SkipObjectResolution)
	require.NoError(t, err)
	values = map[string]string{}
	for _, decl := range file.Decls {
		d, ok := decl.(*ast.GenDecl)
		if !ok || d.Tok != token.CONST {
			continue
		}
		kind := ""
		for _, spec := range d.Specs {
			s := spec.(*ast.ValueSpec)
			if id, ok := s.Type.(*ast.Ident); ok {
				kind = id.Name
			} else if s.Values != nil {
				kind = ""
			}
			if kind != of {
				continue
			}
			for i, name := range s.Names {
				names = append(names, name.Name)
				if i < len(s.Values) {
					if lit, ok := s.Values[i].(*ast.BasicLit); ok {
						values[name.Name], _ = strconv.Unquote(lit.Value)
					}
				}
			}
		}
	}
	return names, values
}

// A unit is a constant, a row with its words and what it measures, and is read back by each
// of its words.
func TestAUnitIsWhole(t *testing.T) {
	names, _ := constants(t, "quantity/measures.go", "Unit")
	require.Greater(t, len(names), 50)
	for i, name := range names {
		if name == "noUnit" || name == "unitCount" {
			continue
		}
		u := quantity.Unit(i)
		assert.NotZero(t, u.Kind(), "unit %s does not say what it measures, nor its size: give it a row in units (core/quantity/measures.go)", name)
		if !assert.True(t, u == quantity.Bare || u.String() != "" && u.Plural() != "", "unit %s has no words: give it some in its row (core/quantity/measures.go)", name) {
			continue
		}
		written := quantity.Of(2, 1, u).String()
		read, err := quantity.Parse(written)
		assert.True(t, err == nil && read.Unit() == u, "unit %s is printed as “%s” and not read back: add its words to the lexicon (core/quantity/lexicon.go)", name, written)
	}
}

// An event is known wherever it has to be: to the rules, to the contract, to the log of the
// page. One half added says where it is missing.
func TestAnEventIsWhole(t *testing.T) {
	names, values := constants(t, "making/event.go", "EventKind")
	require.Greater(t, len(names), 20)
	text := func(path string) string {
		text, err := os.ReadFile(path)
		require.NoError(t, err)
		return string(text)
	}
	contract, log := text("../api/stations/bench.yaml"), text("../ui/src/stations/bench/BatchLog.vue")
	_, events, found := strings.Cut(contract, "\n  BatchEvent:\n")
	require.True(t, found)
	_, events, _ = strings.Cut(events, "kind: { type: string, enum: [")
	events, _, _ = strings.Cut(events, "]")
	b := &making.Batch{Code: "T-1"}
	for _, name := range names {
		kind := values[name]
		e := making.Happening(making.EventKind(kind))
		err := b.Check(e)
		unknown := err != nil && strings.Contains(err.Error(), "Nothing of the kind")
		assert.False(t, unknown && kind != "started", "event %s (%s) is half added: the rules do not say when it may happen (Batch.Check in core/making/check.go)", name, kind)
		assert.True(t, strings.Contains(", "+events+",", fmt.Sprintf(", %s,", kind)), "event %s is half added: the contract does not know it (BatchEvent in api/stations/bench.yaml)", name)
		assert.True(t, strings.Contains(log, fmt.Sprintf("case '%s':", kind)), "event %s is half added: the log of the bench does not say it (say in ui/src/stations/bench/BatchLog.vue)", name)
	}
}
